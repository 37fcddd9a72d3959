package plant

import "clearjar/core/number"

// Keeping is how moist a group is kept.
type Keeping string

// Ways of keeping.
const (
	Damp Keeping = "damp"
	Dry  Keeping = "dry"
)

// CoverKey names what stands over a vessel.
type CoverKey string

// The covers of the trade.
const (
	Lidded  CoverKey = "lidded"
	Vented  CoverKey = "vented"
	Aired   CoverKey = "aired"
	Ajar    CoverKey = "ajar"
	Glass   CoverKey = "glass"
	NoCover CoverKey = "none"
)

// CoverRow is one cover: what to do with it, and whether opening it harms.
type CoverRow struct {
	Key  CoverKey `json:"key"`
	Text string   `json:"text"`
	// Shut: it stays shut; one looks through it.
	Shut bool `json:"shut"`
}

// Covers is the table of covers.
func Covers() []CoverRow {
	return []CoverRow{
		{Lidded, "Lid on, light seal. Look through the lid weekly; do not open it.", true},
		{Vented, "A lid with a few small holes: it airs itself.", false},
		{Aired, "Lid on, without holes, and opened now and then: too wet rots.", false},
		{Ajar, "Lid ajar: it rots when it stands wet and closed.", false},
		{Glass, "Cover with a clear jar, bottle or bag; let the top dry before watering again.", false},
		{NoCover, "No cover: it rots when it stands wet and closed.", false},
	}
}

// Row finds the table row of a cover.
func (k CoverKey) Row() CoverRow {
	for _, c := range Covers() {
		if c.Key == k {
			return c
		}
	}
	return CoverRow{}
}

// MediumRow is one medium with what differs between media.
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
}

var media = []MediumRow{
	{
		Medium: Water, Liquid: true, Hazards: hazards(),
		LookEvery: lookEvery(Water, 7, Assumed("a weekly measurement; a glance is daily")),
		Rots:      rots(Water, "in water", 0.04, "about one in twenty"),
	},
	{
		Medium: Moss, Hidden: true, Tugs: true, Cover: Lidded, Hazards: hazards(MossFungus),
		LookEvery: lookEvery(Moss, 7, Practice),
		Rots:      rots(Moss, "in moss", 0.04, "about one in twenty"),
	},
	{
		Medium: Perlite, Hidden: true, Tugs: true, Hazards: hazards(PerliteDust),
		LookEvery: lookEvery(Perlite, 14, Assumed("roots are hidden; look by the shoot")),
		Rots:      rots(Perlite, "in perlite", 0.03, "airy, clean, little mould"),
	},
	{
		Medium: Mix, Hidden: true, Tugs: true, Cover: Glass, Hazards: hazards(PeatDust),
		LookEvery: lookEvery(Mix, 14, Assumed("roots are hidden; look by the shoot")),
		Rots:      rots(Mix, "in covered mix", 0.05, "rots if wet"),
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

// Open tells whether nothing stands over it.
func (k CoverKey) Open() bool { return k == "" || k == NoCover }

// CoverOver is what stands over a piece that is set so: one with roots to drink with needs none.
func (g Group) CoverOver(m Medium, pose Pose) CoverKey {
	if pose != Crown {
		return g.CoverIn(m)
	}
	if g.Keeping == Damp {
		return ""
	}
	return NoCover
}

// CoverIn is what stands over pieces of the group in a medium; empty for nothing.
func (g Group) CoverIn(m Medium) CoverKey {
	usual := m.Row().Cover
	if !m.Row().Liquid && g.Cover != "" {
		return g.Cover
	}
	return usual
}
