package plant

// Organ is what lies on the bench to be cut up.
type Organ string

// The organs that pieces are cut from.
const (
	StemOrgan Organ = "stem"
	Rhizome   Organ = "rhizome"
	RunnerRun Organ = "runner"
	Clump     Organ = "clump"
	TuberBody Organ = "tuber"
	LeafOrgan Organ = "leaf"
)

// LeafForm is how a leaf is divided.
type LeafForm string

// The ways to divide a leaf.
const (
	WholeLeaf   LeafForm = "whole"
	HalfLeaf    LeafForm = "half"
	LeafWedge   LeafForm = "wedge"
	LeafSection LeafForm = "section"
	PulledLeaf  LeafForm = "pulled"
)

// Wood is how far a stem has hardened.
type Wood string

// Stages of a stem. Younger green growth roots more readily than woody.
const (
	Green    Wood = "green"
	HalfRipe Wood = "half_ripe"
	Woody    Wood = "woody"
)

// Stripe is how much of its pattern a stem shows at a node. The bud there grows the same.
type Stripe string

// Amounts of pattern at a node.
const (
	StripeNone   Stripe = "none"
	StripeSome   Stripe = "some"
	StripeStrong Stripe = "strong"
)

// OrganRule is what holds for the pieces of one organ.
type OrganRule struct {
	Organ Organ     `json:"organ"`
	Label string    `json:"label"`
	Kind  PieceKind `json:"kind"`
	// GrowingPoint says what a node of the map stands for here.
	GrowingPoint string `json:"growing_point"`
	// HowMany says how many pieces it gives.
	HowMany string `json:"how_many"`
	// Up says how a piece lies or stands.
	Up string `json:"up"`
	// CallusHours is how long a cut face dries before it is set.
	CallusHours Span `json:"callus_hours"`
	// LeastPieceMM and MostPieceMM bound a piece's length; 0 for no bound.
	LeastPieceMM float64 `json:"least_piece_mm"`
	MostPieceMM  float64 `json:"most_piece_mm"`
	// KeepOne says that something must stay on the mother.
	KeepOne bool `json:"keep_one"`
	// Leafy says that its nodes bear the leaves that feed the mother: counted before a cut, kept after.
	Leafy bool `json:"leafy"`
	// Detached: it is off the mother already, so that nothing is left to keep.
	Detached bool `json:"detached"`
	// Take says how it is taken whole, where nothing is cut across it.
	Take string `json:"take,omitempty"`
	// Warn holds for every piece of this organ.
	Warn  string `json:"warn,omitempty"`
	Basis Basis  `json:"basis"`
}

// OrganRules is the table of organs.
func OrganRules() []OrganRule {
	return []OrganRule{
		{StemOrgan, "stem", StemCutting, "a node: the notch where a leaf sits", "one or two nodes set in each piece", "tip end up", Span{}, 0, 0, true, true, false, "", "", Practice},
		{Rhizome, "creeping rhizome", RhizomePiece, "a node of the rhizome with its bud", "one node with its bud is enough, two are safer", "lying, bud up, half exposed", Span{}, 0, 0, true, true, false, "", "Old bare rhizome pieces may take 1 to 2 years to shoot.", Practice},
		{RunnerRun, "runner", Runner, "a node on the runner", "pieces of 40 to 50 mm, each with a node", "laid flat, shallow, 10 mm of cover", Span{}, 40, 50, false, false, false, "", "", Practice},
		{Clump, "clump or pups", Division, "a shoot with its own growing point (a division or an offset)", "each piece has a growing point and roots of its own", "as it grew, at the same depth", Span{Mid: 4, Low: 3, High: 5}, 0, 0, true, false, false, "", "Lose no more than a fifth of the roots.", Practice},
		{TuberBody, "tuber", Tuber, "an eye on the tuber", "whole, or one piece for each eye", "eye up, half buried, dry mix", Span{Mid: 24, Low: 24, High: 48}, 0, 0, false, false, true, "Pick the tuber out whole, with its roots.", "", Practice},
		{LeafOrgan, "leaf", LeafPiece, "the base of the leaf, or each cut main vein", "by the way it is divided", "base end down, blade clear of the medium", Span{}, 0, 0, false, false, true, "", "A leaf piece of a patterned plant usually comes back plain green; division keeps the pattern.", Practice},
	}
}

// Rule finds the table row of an organ.
func (o Organ) Rule() (OrganRule, bool) {
	for _, r := range OrganRules() {
		if r.Organ == o {
			return r, true
		}
	}
	return OrganRule{}, false
}

// LeafRule is one way to divide a leaf.
type LeafRule struct {
	Form  LeafForm `json:"form"`
	Label string   `json:"label"`
	// Pieces says what each growing point of the map is.
	Pieces string `json:"pieces"`
	Up     string `json:"up"`
	// CallusHours is how long the face dries; for succulent leaves only.
	CallusHours Span `json:"callus_hours"`
	// Pose is how its pieces stand in the vessel.
	Pose Pose `json:"pose" enum:"upright,stalk,on_top,lying,flat,half_buried,crown"`
	// Whole: one growing point, at the very base, and nothing is cut across the leaf.
	Whole bool `json:"whole"`
	// Take says how the leaf comes off the mother.
	Take  string `json:"take"`
	Basis Basis  `json:"basis"`
}

// LeafRules is the table of ways to divide a leaf.
func LeafRules() []LeafRule {
	return []LeafRule{
		{WholeLeaf, "whole leaf with its stalk", "one: the cut end of a stalk of about 25 mm", "stalk down, shallow; blade above the mix", Span{Mid: 1, Low: 0, High: 3}, Stalk, true, "Take a mature, firm leaf, not the oldest; cut its stalk to 25 mm, at 45 degrees.", Practice},
		{HalfLeaf, "half leaf", "two: each half of the blade along the midrib; every cut vein may shoot", "cut edge down", Span{Mid: 1, Low: 0, High: 3}, Upright, false, "Take a mature, firm leaf off at its base.", Practice},
		{LeafWedge, "wedge", "one for each main vein, cut as a wedge to the leaf's base", "point down", Span{Mid: 1, Low: 0, High: 3}, Stalk, false, "Take a mature leaf off; a wedge is cut beside a main vein, 45 degrees at its end.", Practice},
		{LeafSection, "section", "one for each section across the leaf", "the end that was nearer the base down; mark it", Span{Mid: 4, Low: 3, High: 5}, Upright, false, "Take a mature, firm leaf off at its base, its pale part with it; mark its lower end.", Practice},
		{PulledLeaf, "pulled leaf with its base", "one: the white base pulled off whole, not cut", "laid on top, never covered", Span{}, OnTop, true, "Tease the leaf off whole, white base and all: it is pulled, not cut.", Practice},
	}
}

// Rule finds the table row of a leaf form.
func (f LeafForm) Rule() (LeafRule, bool) {
	for _, r := range LeafRules() {
		if r.Form == f {
			return r, true
		}
	}
	return LeafRule{}, false
}
