package plant

import "clearjar/core/number"

// MediumRow is one medium with all that differs between media, and the vessel that usually holds it. A new
// medium is one row here, and one pattern to draw it by.
type MediumRow struct {
	Medium Medium `json:"medium"`
	// Hidden: roots are not seen without opening or digging.
	Hidden bool `json:"hidden"`
	// Tugs: there is something to tug against.
	Tugs bool `json:"tugs"`
	// Liquid: roots hang in it, and drink: nothing over it, no face to dust.
	Liquid bool `json:"liquid"`
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
	// vessel is what usually holds it.
	vessel VesselSort
}

var media = []MediumRow{
	{
		Medium: Water, Liquid: true, Hazards: hazards(),
		LookEvery: lookEvery(Water, 7, Assumed("a weekly measurement; a glance is daily")),
		Rots:      rots(Water, "in water", 0.04, "about one in twenty"),
		ready:     []settingRow{{say: []string{"Clean water, filtered or rested."}}},
		place:     []string{"One or two nodes under water; every blade and petiole above it.", "Base down: a piece set upside down fails."},
		vessel:    VesselSort{Kind: Jar, Shape: "jar", Label: "water jar", Fill: "water level", Usual: Vessel{Jar, 80, 80, 120, 2.5, 80, 2}, FloorMM: 6, Taper: 1, Round: true},
	},
	{
		Medium: Moss, Hidden: true, Tugs: true, Cover: Lidded, Hazards: hazards(MossFungus),
		LookEvery: lookEvery(Moss, 7, Practice),
		Rots:      rots(Moss, "in moss", 0.04, "about one in twenty"),
		ready: []settingRow{
			{keepings: inDry, say: []string{"Moss barely damp: soak it, then wring it as dry as it goes."}},
			{say: []string{"Soak the moss, then wring it until only a few drops fall."}},
		},
		place:  []string{"Press node and aerial root against the moss, bud facing up; do not bury the piece."},
		vessel: VesselSort{Kind: MossBox, Shape: "box", Label: "moss box", Fill: "height of the moss", Usual: Vessel{MossBox, 180, 110, 110, 1.5, 45, 5}, FloorMM: 2, Taper: 1},
	},
	{
		Medium: Perlite, Hidden: true, Tugs: true, Hazards: hazards(PerliteDust),
		LookEvery: lookEvery(Perlite, 14, Assumed("roots are hidden; look by the shoot")),
		Rots:      rots(Perlite, "in perlite", 0.03, "airy, clean, little mould"),
		ready:     []settingRow{{say: []string{"Damp the perlite first and make the hole first: it is abrasive. Damp through, drains freely."}}},
		place:     []string{"Bury the base to just below the next node; blades stay out."},
		vessel:    VesselSort{Kind: PerliteCup, Shape: "cup", Label: "perlite cup", Fill: "height of the perlite", Usual: Vessel{PerliteCup, 95, 95, 110, 1, 75, 3}, FloorMM: 2, Taper: 0.84, Round: true},
	},
	{
		Medium: Mix, Hidden: true, Tugs: true, Cover: Glass, Hazards: hazards(PeatDust),
		LookEvery: lookEvery(Mix, 14, Assumed("roots are hidden; look by the shoot")),
		Rots:      rots(Mix, "in covered mix", 0.05, "rots if wet"),
		ready: []settingRow{
			{keepings: inDry, say: []string{"Gritty mix, dry. The cut face must have dried first.", "No water for two days; then only when about 80 % of the mix is dry."}},
			{poses: []Pose{Crown}, say: []string{"Water well until it drains; then let the top dry before watering again."}},
			{kinds: []PieceKind{LeafPiece}, say: []string{"Mix damp, not wet: stand a soaked pot on newspaper for a quarter of an hour and it draws the surplus."}},
			{say: []string{"Make the hole with a stick. Water until it drains, then let the top dry before watering again."}},
		},
		place:  []string{"Set two or more nodes, firm lightly; blades stay out."},
		vessel: VesselSort{Kind: CoveredPot, Shape: "pot", Label: "covered pot", Fill: "height of the mix", Usual: Vessel{CoveredPot, 95, 95, 90, 2, 78, 3}, FloorMM: 2, Taper: 0.78, Round: true},
	},
}

func lookEvery(m Medium, days float64, b Basis) Number {
	return number.Define(Number{Key: "readiness.look_every." + string(m), Label: "Days between looks in " + string(m), Value: days, Low: 1, High: 365, Unit: "days", Basis: b})
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
