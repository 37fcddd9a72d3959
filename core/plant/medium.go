package plant

import "clearjar/core/number"

// MediumRow is one medium with all that differs between media. A new medium is one row here, and one pattern to
// draw it by.
type MediumRow struct {
	Medium Medium `json:"medium"`
	// Hidden: roots are not seen without opening or digging.
	Hidden bool `json:"hidden"`
	// Tugs: there is something to tug against.
	Tugs bool `json:"tugs"`
	// Liquid: roots hang in it, and drink: nothing over it, no face to dust.
	Liquid bool `json:"liquid"`
	// Grains: what stands around the roots is single grains.
	Grains bool `json:"grains"`
	// LookEvery is how many days pass between looks; Rots the chance that a piece rots before it roots.
	LookEvery Number `json:"look_every"`
	Rots      Number `json:"rots"`
	// Cover is what usually stands over it.
	Cover   CoverKey    `json:"cover,omitempty"`
	Hazards []HazardKey `json:"hazards"`

	// like is the medium whose chances stand in where a group has none of its own for this one.
	like Medium
	// ready says how it is made ready and kept, the first rule that holds; place how a stem piece goes in.
	ready []settingRow
	place []string
	// GlanceEvery is how many days pass at most between two glances through the wall, where the grower goes by the medium.
	GlanceEvery Number `json:"glance_every"`
	// FeelCovered and FeelOpen are how many days pass before one sees whether it is dry, under a cover and without one;
	// 0 where nobody does.
	FeelCovered Number `json:"feel_covered"`
	FeelOpen    Number `json:"feel_open"`
	// Moisten is what is done when it is dry.
	Moisten Act `json:"moisten"`
	// Stays: what has rooted in it stays, and is got used to drier air in its vessel.
	Stays bool `json:"stays"`
	// UntilShoot: nobody opens or digs before a shoot shows. Otherwise one leaves it alone until first roots may be there.
	UntilShoot bool `json:"until_shoot"`
	// Fill names how high it stands in a vessel.
	Fill string `json:"fill"`
}

var media = []MediumRow{
	{
		Medium: Water, Liquid: true, Hazards: hazards(),
		LookEvery:   lookEvery(Water, 7, Assumed("a weekly measurement; a glance is daily")),
		Rots:        rots(Water, "in water", 0.04, "about one in twenty"),
		ready:       []settingRow{{say: []string{"Clean water, filtered or rested."}}},
		place:       []string{"One or two nodes under water; every blade and petiole above it.", "Base down: a piece set upside down fails."},
		GlanceEvery: glanceEvery(Water, 3, Assumed("a glance in passing is daily; this is when it is asked for")),
		FeelCovered: feel("covered", Water, 0), FeelOpen: feel("open", Water, 0), Moisten: TopUp,
		Fill: "water level",
	},
	{
		Medium: Moss, Hidden: true, Tugs: true, Cover: Lidded, Hazards: hazards(MossFungus),
		LookEvery: lookEvery(Moss, 7, Practice),
		Rots:      rots(Moss, "in moss", 0.04, "about one in twenty"),
		ready: []settingRow{
			{keepings: inDry, say: []string{"Moss barely damp: soak it, then wring it as dry as it goes."}},
			{say: []string{"Soak the moss, then wring it until only a few drops fall."}},
		},
		place:       []string{"Press node and aerial root against the moss, bud facing up; do not bury the piece."},
		GlanceEvery: glanceEvery(Moss, 7, Practice),
		FeelCovered: feel("covered", Moss, 0), FeelOpen: feel("open", Moss, 2), Moisten: MistLeaves,
		Fill: "height of the moss",
	},
	{
		Medium: Perlite, Grains: true, Hidden: true, Tugs: true, Hazards: hazards(PerliteDust),
		LookEvery:   lookEvery(Perlite, 14, Assumed("roots are hidden; look by the shoot")),
		Rots:        rots(Perlite, "in perlite", 0.03, "airy, clean, little mould"),
		ready:       []settingRow{{say: []string{"Damp the perlite first and make the hole first: it is abrasive. Damp through, drains freely."}}},
		place:       []string{"Bury the base to just below the next node; blades stay out."},
		GlanceEvery: glanceEvery(Perlite, 7, Assumed("as moss")), UntilShoot: true,
		FeelCovered: feel("covered", Perlite, 10), FeelOpen: feel("open", Perlite, 4), Moisten: GiveWater,
		Fill: "height of the perlite",
	},
	{
		Medium: Mix, Grains: true, Hidden: true, Tugs: true, Cover: Glass, Hazards: hazards(PeatDust),
		LookEvery: lookEvery(Mix, 14, Assumed("roots are hidden; look by the shoot")),
		Rots:      rots(Mix, "in covered mix", 0.05, "rots if wet"),
		ready: []settingRow{
			{keepings: inDry, say: []string{"Gritty mix, dry. The cut face must have dried first.", "No water for two days; then only when about 80 % of the mix is dry."}},
			{poses: []Pose{Crown}, say: []string{"Water well until it drains; then let the top dry before watering again."}},
			{kinds: []PieceKind{LeafPiece}, say: []string{"Mix damp, not wet: stand a soaked pot on newspaper for a quarter of an hour and it draws the surplus."}},
			{say: []string{"Make the hole with a stick. Water until it drains, then let the top dry before watering again."}},
		},
		place:       []string{"Set two or more nodes, firm lightly; blades stay out."},
		GlanceEvery: glanceEvery(Mix, 7, Assumed("as moss")), UntilShoot: true, Stays: true,
		FeelCovered: feel("covered", Mix, 7), FeelOpen: feel("open", Mix, 3), Moisten: GiveWater,
		Fill: "height of the mix",
	},
}

func lookEvery(m Medium, days float64, b Basis) Number {
	return number.Define(Number{Key: "readiness.look_every." + string(m), Label: "Days between looks in " + string(m), Value: days, Low: 1, High: 365, Unit: "days", Basis: b})
}

func glanceEvery(m Medium, days float64, b Basis) Number {
	return number.Define(Number{Key: "care.glance." + string(m), Label: "A glance at " + string(m) + " at least every", Value: days, Low: 1, High: 60, Unit: "days", Basis: b})
}

// feel is how long one waits before seeing whether a medium is dry. Nobody published it: a cover keeps mix moist for a
// week and more, without one it dries in days.
func feel(how string, m Medium, days float64) Number {
	return number.Define(Number{Key: "care.feel_" + how + "." + string(m), Label: "See whether " + string(m) + " is dry, " + how + ", every", Value: days, Low: 0, High: 60, Unit: "days", Basis: Assumed("0: not asked for")})
}

func rots(m Medium, where string, chance float64, why string) Number {
	return number.Define(Number{Key: "cutplan.rot_" + string(m), Label: "Rots before it roots, " + where, Value: chance, Unit: "fraction", Basis: Assumed(why)})
}

// Media is the table of media.
func Media() []MediumRow { return append([]MediumRow{}, media...) }

// Row finds the table row of a medium; an unknown one hides nothing.
func (m Medium) Row() MediumRow {
	for _, r := range media {
		if r.Medium == m {
			return r
		}
	}
	return MediumRow{Medium: m, Hazards: hazards()}
}

// Known tells whether a medium is on the table.
func (m Medium) Known() bool { return m.Row().LookEvery.Key != "" }

// MediumHazards are the hazards of handling a medium.
func MediumHazards(m Medium) []HazardKey { return m.Row().Hazards }

// WakeKey is the key of the number of how many nodes of a group wake in a medium.
func WakeKey(group string, m Medium) string { return "wake." + group + "." + string(m) }

// WakeIn is the chance, 0 to 1, that one set node with a leaf roots and shoots in a medium in the bright half of
// the year: the group's own, else that of the medium it is like. 0 where neither is known.
func (g Group) WakeIn(m Medium) float64 {
	for range media { // a medium may be like one that is like another
		if own, ok := g.Wake[m]; ok {
			return own
		}
		m = m.Row().like
	}
	return 0
}
