package plant

// Act is one thing done for a vessel and what stands in it.
type Act string

// The acts of a round.
const (
	Glance      Act = "glance"
	TopUp       Act = "top_up"
	ChangeWater Act = "change_water"
	GiveWater   Act = "water"
	MistLeaves  Act = "mist"
	AirIt       Act = "air"
	FeelMedium  Act = "feel"
	ClearOut    Act = "clear"
	// SetCover: the cover is put as the task says.
	SetCover Act = "cover"
)

// ActRow is one act with its words.
type ActRow struct {
	Act Act `json:"act"`
	// Label asks for it, Done says it was done.
	Label string `json:"label"`
	Done  string `json:"done"`
	// Opens: the cover comes off for it.
	Opens bool `json:"opens"`
	// Also are acts that are done with it: fresh water is also full.
	Also []Act `json:"also"`
	// Liquid and Solid say in which media there is something to do it with; Covered that there must be a cover.
	Liquid  bool `json:"liquid"`
	Solid   bool `json:"solid"`
	Covered bool `json:"covered"`
}

var acts = []ActRow{
	{Act: ChangeWater, Label: "change the water", Done: "water changed", Also: []Act{TopUp, Glance}, Liquid: true},
	{Act: TopUp, Label: "top up the water", Done: "topped up", Also: []Act{Glance}, Liquid: true},
	{Act: GiveWater, Label: "water it", Done: "watered", Opens: true, Also: []Act{FeelMedium, Glance}, Solid: true},
	{Act: MistLeaves, Label: "mist it", Done: "misted", Opens: true, Also: []Act{Glance}, Solid: true},
	{Act: AirIt, Label: "lift the cover for five minutes", Done: "aired", Opens: true, Also: []Act{Glance}, Solid: true, Covered: true},
	{Act: FeelMedium, Label: "see whether it is dry", Done: "moist enough", Also: []Act{Glance}, Solid: true},
	{Act: ClearOut, Label: "take out what is spoilt", Done: "cleared", Opens: true, Also: []Act{Glance}, Liquid: true, Solid: true},
	{Act: SetCover, Label: "set the cover", Done: "cover set", Opens: true, Also: []Act{AirIt, Glance}, Solid: true, Covered: true},
	{Act: Glance, Label: "look through the wall", Done: "looked at", Also: []Act{}, Liquid: true, Solid: true},
}

// Acts is the table of acts, what matters most first.
func Acts() []ActRow { return append([]ActRow{}, acts...) }

// Row finds the table row of an act; false for one that is not known.
func (a Act) Row() (ActRow, bool) {
	for _, r := range acts {
		if r.Act == a {
			return r, true
		}
	}
	return ActRow{Act: a, Also: []Act{}}, false
}

// In tells whether there is something to do it with in a medium, in a vessel whose cover can be moved or not.
func (r ActRow) In(m MediumRow, covered bool) bool {
	return (m.Liquid && r.Liquid || !m.Liquid && r.Solid) && (covered || !r.Covered)
}

// Sign is something seen at a vessel that asks for an act.
type Sign string

// The signs of a round.
const (
	Cloudy       Sign = "cloudy"
	Smells       Sign = "smells"
	LowWater     Sign = "low"
	Mould        Sign = "mould"
	Pooled       Sign = "pooled"
	Condensation Sign = "condensation"
	LooksDry     Sign = "dry"
	LeafDropped  Sign = "leaf_dropped"
	Drooping     Sign = "drooping"
)

// SignRow is one sign with what it asks for.
type SignRow struct {
	Sign  Sign   `json:"sign"`
	Label string `json:"label"`
	// Wants is the act it asks for, InLiquid the one where roots hang in the medium, when that is another; empty for
	// what its medium is made moist by.
	Wants    Act `json:"wants,omitempty"`
	InLiquid Act `json:"in_liquid,omitempty"`
	// Why says so in a sentence.
	Why    string `json:"why"`
	Liquid bool   `json:"liquid"`
	Solid  bool   `json:"solid"`
	// Dries: it only asks where the pieces may be given water.
	Dries bool `json:"dries"`
	// Holds: hardening off stops while it was seen last.
	Holds bool `json:"holds"`
}

var signs = []SignRow{
	{Sign: Cloudy, Label: "cloudy", Wants: ChangeWater, Why: "Cloudy water is changed at once.", Liquid: true},
	{Sign: Smells, Label: "smells", Wants: ClearOut, InLiquid: ChangeWater, Why: "What smells is rotting: take it out, and give fresh water or air.", Liquid: true, Solid: true},
	{Sign: LowWater, Label: "water low", Wants: TopUp, Why: "The water has sunk.", Liquid: true},
	{Sign: Mould, Label: "mould", Wants: ClearOut, Why: "Take out what is mouldy, then let air in.", Solid: true},
	{Sign: Pooled, Label: "water pooled", Wants: AirIt, Why: "Tip out what has pooled, and let air in.", Solid: true},
	{Sign: Condensation, Label: "drops running", Wants: AirIt, Why: "Drops run down the wall: open it and let air in.", Solid: true},
	{Sign: LooksDry, Label: "dry", Why: "It was dry.", Solid: true, Dries: true},
	{Sign: LeafDropped, Label: "leaf dropped", Wants: ClearOut, Why: "A dropped leaf rots: take it out.", Liquid: true, Solid: true},
	{Sign: Drooping, Label: "drooping", Why: "Leaves droop: with no rot, raise the humidity or cut large blades down.", Liquid: true, Solid: true, Holds: true},
}

// Signs is the table of signs.
func Signs() []SignRow { return append([]SignRow{}, signs...) }

// Row finds the table row of a sign; false for one that is not known.
func (s Sign) Row() (SignRow, bool) {
	for _, r := range signs {
		if r.Sign == s {
			return r, true
		}
	}
	return SignRow{Sign: s}, false
}

// In tells whether it can be seen in a medium.
func (r SignRow) In(m MediumRow) bool { return m.Liquid && r.Liquid || !m.Liquid && r.Solid }
