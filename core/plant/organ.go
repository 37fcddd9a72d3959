package plant

// Organ is what lies on the bench to be cut up.
type Organ string

// The organs that pieces are cut from.
const (
	StemOrgan Organ = "stem"
	Rhizome   Organ = "rhizome"
	RunnerRun Organ = "runner"
	Clump     Organ = "clump"
	Pups      Organ = "pups"
	BareOrgan Organ = "back_rhizome"
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
	// HalfAcross is cut across the blade, HeelLeaf comes with a sliver of stem.
	HalfAcross LeafForm = "half_across"
	HeelLeaf   LeafForm = "heel"
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
	// Letter is what its codes begin with where each is counted by itself, as leaves are; empty for the letters of stems.
	Letter string `json:"letter,omitempty"`
	// Along: it is long, its nodes one after the other, and is cut across. Ends: a cut end can die back into its end node. Single: one node
	// makes a piece.
	Along  bool `json:"along"`
	Ends   bool `json:"ends"`
	Single bool `json:"single"`
	// Divided: it is parted between its points rather than cut up. Crowned: each has a growing point of its own, with or without roots. Bare:
	// none has.
	Divided bool `json:"divided"`
	// Cut says how it is parted between two of its points; empty where it is cut across.
	Cut     string `json:"cut,omitempty"`
	Crowned bool   `json:"crowned"`
	Bare    bool   `json:"bare"`
}

// OrganRules is the table of organs.
func OrganRules() []OrganRule {
	clump := OrganRule{
		Organ: Clump, Label: "clump", Kind: Division, GrowingPoint: "a shoot with its own growing point (a division or an offset)", HowMany: "each piece has a growing point and roots of its own",
		Cut: "part the clump between %s: lift it, free the roots of mix, and cut lengthwise so that fewest roots are hurt",
		Up:  "as it grew, at the same depth", CallusHours: Span{Mid: 4, Low: 3, High: 5}, KeepOne: true, Warn: "Lose no more than a fifth of the roots.", Basis: Practice, Single: true, Divided: true, Crowned: true,
	}
	pups := clump
	pups.Organ, pups.Label, pups.Kind, pups.KeepOne = Pups, "mother with pups", Pup, true
	pups.Cut = "unpot her, find the thick runner, and cut it in its middle between %s"
	pups.GrowingPoint, pups.HowMany = "a pup on its runner; the mother is the first", "each pup comes off by itself, the runner cut in the middle"
	return []OrganRule{
		{Organ: StemOrgan, Label: "stem", Kind: StemCutting, GrowingPoint: "a node: the notch where a leaf sits", HowMany: "one or two nodes set in each piece", Up: "tip end up", KeepOne: true, Leafy: true, Basis: Practice, Along: true, Ends: true},
		{Organ: Rhizome, Label: "creeping rhizome", Kind: RhizomePiece, GrowingPoint: "a node of the rhizome with its bud", HowMany: "one node with its bud is enough, two are safer", Up: "lying, bud up, half exposed", KeepOne: true, Leafy: true, Warn: "Old bare rhizome pieces may take 1 to 2 years to shoot.", Basis: Practice, Along: true, Ends: true, Single: true},
		{Organ: RunnerRun, Label: "runner", Kind: Runner, GrowingPoint: "a node on the runner", HowMany: "pieces of 40 to 50 mm, each with a node; longer ones give several plants where they have several growing points", Up: "laid flat, shallow, 10 mm of cover", LeastPieceMM: 40, MostPieceMM: 50, Basis: Practice, Along: true, Single: true},
		clump,
		pups,
		{Organ: BareOrgan, Label: "old bare rhizome", Kind: BackRhizome, GrowingPoint: "a length of old rhizome with roots, without a growing point", HowMany: "each length is a piece of its own; live rhizome is white where it snaps", Up: "as it lay, its roots covered", Warn: "It shoots within a year, as small as a seedling, and is near mature in the second.", Basis: Practice, Single: true, Divided: true, Bare: true},
		{Organ: TuberBody, Label: "tuber", Kind: Tuber, GrowingPoint: "an eye on the tuber", HowMany: "whole, or one piece for each eye", Up: "eye up, half buried, dry mix", CallusHours: Span{Mid: 24, Low: 24, High: 48}, Detached: true, Take: "Pick the tuber out whole, with its roots; leave the parent some.", Basis: Practice, Single: true, Divided: true},
		{Organ: LeafOrgan, Label: "leaf", Kind: LeafPiece, GrowingPoint: "the base of the leaf, or each cut main vein", HowMany: "by the way it is divided", Up: "base end down, blade clear of the medium", Detached: true, Warn: "A leaf piece of a patterned plant usually comes back plain green; division keeps the pattern.", Basis: Practice, Letter: "L", Single: true, Divided: true},
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
	Pose Pose `json:"pose" enum:"upright,stalk,on_top,lying,flat,half_buried,crown,perched,hanging"`
	// Whole: one growing point, at the very base, and nothing is cut across the leaf.
	Whole bool `json:"whole"`
	// Parts is into how many pieces it is cut: 0 for as many as the grower likes.
	Parts int `json:"parts"`
	// Take says how the leaf comes off the mother.
	Take  string `json:"take"`
	Basis Basis  `json:"basis"`
}

// LeafRules is the table of ways to divide a leaf.
func LeafRules() []LeafRule {
	const choose = "Take a mature, firm leaf, best the third row counted from the middle (three leaves a row), not the oldest"
	return []LeafRule{
		{Form: WholeLeaf, Label: "whole leaf with its stalk", Pieces: "one: the cut end of a stalk of about 25 mm", Up: "stalk down, shallow; blade above the mix", CallusHours: Span{Mid: 1, Low: 0, High: 3}, Pose: Stalk, Whole: true, Parts: 1, Take: choose + "; cut its stalk to 25 mm, at 45 degrees. A big blade may lose its top third.", Basis: Practice},
		{Form: HalfLeaf, Label: "half leaf, lengthwise", Pieces: "two: each half of the blade along the midrib; every cut vein may shoot", Up: "cut edge down", CallusHours: Span{Mid: 1, Low: 0, High: 3}, Pose: Upright, Parts: 2, Take: "Take a mature, firm leaf off at its base.", Basis: Practice},
		{Form: HalfAcross, Label: "half leaf, cut across", Pieces: "two: the half with the stalk, set by its stalk, and the upper half, set by its cut edge", Up: "stalk or cut edge down, upright", CallusHours: Span{Mid: 1, Low: 0, High: 3}, Pose: Upright, Parts: 2, Take: "Take a mature, firm leaf off with its stalk; cut the blade across its middle.", Basis: Practice},
		{Form: LeafWedge, Label: "wedge", Pieces: "one for each main vein, cut as a wedge to the leaf's base", Up: "point down", CallusHours: Span{Mid: 1, Low: 0, High: 3}, Pose: Stalk, Take: "Take a mature leaf off; a wedge is cut beside a main vein, 45 degrees at its end.", Basis: Practice},
		{Form: LeafSection, Label: "section", Pieces: "one for each section across the leaf", Up: "the end that was nearer the base down; mark it", CallusHours: Span{Mid: 4, Low: 3, High: 5}, Pose: Upright, Take: "Take a mature, firm leaf off at its base, its pale part with it; mark its lower end.", Basis: Practice},
		{Form: PulledLeaf, Label: "pulled leaf with its base", Pieces: "one: the white base pulled off whole, not cut", Up: "laid on top, never covered", Pose: OnTop, Whole: true, Parts: 1, Take: "Tease the leaf off whole, white base and all: it is pulled, not cut. Old and new, big and small do alike.", Basis: Practice},
		{Form: HeelLeaf, Label: "leaf with a bit of stem", Pieces: "one: a sliver of stem at its base", Up: "laid dry on top until healed and rooted", CallusHours: Span{Mid: 24, Low: 24, High: 48}, Pose: OnTop, Whole: true, Parts: 1, Take: "Take the leaf off with a sliver of stem, most of all of patterned hybrids: it comes away best so. Half of them in mix and half in water are a fair comparison: set them over two vessels in turn.", Basis: Practice},
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
