package plant

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
	// State is how it stands; Airs: a shut one is lifted every couple of days.
	State CoverState `json:"state"`
	Airs  bool       `json:"airs"`
}

var coverRows = []CoverRow{
	{Lidded, "Lid on, light seal. Look through the lid weekly; do not open it.", true, CoverOn, false},
	{Vented, "A lid with a few small holes: it airs itself.", false, CoverVented, false},
	{Aired, "Lid on, without holes, and opened now and then: too wet rots.", false, CoverOn, true},
	{Ajar, "Lid ajar: it rots when it stands wet and closed.", false, CoverAjar, false},
	{Glass, "Cover with a clear jar, bottle or bag; let the top dry before watering again.", false, CoverOn, true},
	{NoCover, "No cover: it rots when it stands wet and closed.", false, CoverOff, false},
}

// Covers is the table of covers.
func Covers() []CoverRow { return append([]CoverRow{}, coverRows...) }

// Row finds the table row of a cover.
func (k CoverKey) Row() CoverRow {
	for _, c := range coverRows {
		if c.Key == k {
			return c
		}
	}
	return CoverRow{}
}

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
