package plant

// Pose is how a piece stands or lies in its vessel.
type Pose string

// The poses a drawing knows.
const (
	// Upright: the base in the medium, the rest above.
	Upright Pose = "upright"
	// Stalk: a leaf whose stalk alone is in the medium, its blade clear.
	Stalk Pose = "stalk"
	// OnTop: lying on the medium, never covered.
	OnTop Pose = "on_top"
	// Lying: along the surface, half of it exposed.
	Lying Pose = "lying"
	// Flat: along the surface with a little cover over it.
	Flat Pose = "flat"
	// HalfBuried: sitting half in the medium.
	HalfBuried Pose = "half_buried"
	// Crown: as it grew, roots in the mix and shoots above.
	Crown Pose = "crown"
	// Perched: a head that stands on the rim of an empty pot, its cut end free.
	Perched Pose = "perched"
	// Hanging: over the rim, its bared lower end in the medium.
	Hanging Pose = "hanging"
)

// KindRow is one kind of piece with what differs between kinds.
type KindRow struct {
	Kind PieceKind `json:"kind"`
	// Label names it; Body is the part that is firm or soft; Comes what grows from it.
	Label string `json:"label"`
	Body  string `json:"body"`
	Comes string `json:"comes"`
	// Point is what its growing points are called, one and many.
	Point  string `json:"point"`
	Points string `json:"points"`
	Pose   Pose   `json:"pose" enum:"upright,stalk,on_top,lying,flat,half_buried,crown,perched,hanging"`
	// Sisters: each growing point makes a plant of its own, so that roots are not counted by node.
	Sisters bool `json:"sisters"`
	// Whole: all its growing points go into the medium, or lie on it, when it is set.
	Whole bool `json:"whole"`
	// Limp is how its body is said to be short of water; Leafless: it has no leaf beside its body that could be looked at.
	Limp     string `json:"limp"`
	Leafless bool   `json:"leafless"`
	// Single: it stands in a pot of its own.
	Single bool `json:"single"`
	// Young are what is parted from it once they have grown, one and many; PartKind is what each then is, empty for what its nodes make of
	// it. Keeps: it keeps its growing points when they are parted from it.
	Young     string    `json:"young"`
	YoungMany string    `json:"young_many"`
	PartKind  PieceKind `json:"part_kind,omitempty"`
	Keeps     bool      `json:"keeps"`
	// Gives: it is not potted itself, its young plants are, once they are big enough.
	Gives bool `json:"gives"`
	// FirstRootsDays and PotUpDays stand in where the group has none; OwnTimes: they hold before the group's.
	OwnTimes       bool `json:"own_times"`
	FirstRootsDays Span `json:"first_roots_days"`
	PotUpDays      Span `json:"pot_up_days"`
}

var kindRows = []KindRow{
	{Kind: Tip, Label: "tip cutting", Body: "stem", Limp: "wrinkled", Comes: "shoot", Point: "node", Points: "nodes", Pose: Upright, Young: "rooted piece", YoungMany: "rooted pieces"},
	{Kind: StemCutting, Label: "stem cutting", Body: "stem", Limp: "wrinkled", Comes: "shoot", Point: "node", Points: "nodes", Pose: Upright, Young: "rooted piece", YoungMany: "rooted pieces"},
	{Kind: LeafBud, Label: "single node with leaf", Body: "stem", Limp: "wrinkled", Comes: "shoot", Point: "node", Points: "nodes", Pose: Upright, Young: "rooted piece", YoungMany: "rooted pieces"},
	{Kind: WetStick, Label: "single node, no leaf", Body: "stem", Limp: "wrinkled", Comes: "shoot", Point: "node", Points: "nodes", Pose: Upright, Young: "rooted piece", YoungMany: "rooted pieces"},
	{Kind: LeafPiece, Label: "leaf piece", Body: "leaf", Limp: "limp", Leafless: true, Comes: "plantlet", Point: "base", Points: "bases", Pose: Stalk, Whole: true, Sisters: true, Young: "plantlet", YoungMany: "plantlets", PartKind: Plantlet, Keeps: true, Gives: true},
	{Kind: Division, Label: "division", Body: "base", Limp: "wrinkled", Comes: "shoot", Point: "growing point", Points: "growing points", Pose: Crown, Whole: true, Sisters: true, Single: true, Young: "division", YoungMany: "divisions", PartKind: Division, FirstRootsDays: Span{45, 21, 90}, PotUpDays: Span{90, 45, 180}},
	{Kind: RhizomePiece, Label: "rhizome piece", Body: "rhizome", Limp: "wrinkled", Comes: "shoot", Point: "node", Points: "nodes", Pose: Lying, Young: "rooted piece", YoungMany: "rooted pieces", PartKind: RhizomePiece},
	{Kind: Tuber, Label: "tuber piece", Body: "tuber", Limp: "wrinkled", Leafless: true, Comes: "shoot", Point: "eye", Points: "eyes", Pose: HalfBuried, Whole: true, Sisters: true, Young: "shoot", YoungMany: "shoots", PartKind: Plantlet, Keeps: true},
	{Kind: Runner, Label: "runner piece", Body: "runner", Limp: "wrinkled", Comes: "shoot", Point: "node", Points: "nodes", Pose: Flat, Whole: true, Young: "young plant", YoungMany: "young plants", PartKind: Plantlet},
	{Kind: Head, Label: "head", Body: "head", Limp: "limp", Comes: "shoot", Point: "node", Points: "nodes", Pose: Perched, Whole: true, Young: "rooted piece", YoungMany: "rooted pieces"},
	{Kind: Pair, Label: "stem pair", Body: "stem", Limp: "wrinkled", Comes: "shoot", Point: "pair", Points: "pairs", Pose: Flat, Whole: true, Young: "rooted piece", YoungMany: "rooted pieces"},
	{Kind: Strand, Label: "strand", Body: "stem", Limp: "wrinkled", Comes: "shoot", Point: "pair", Points: "pairs", Pose: Hanging, Young: "rooted piece", YoungMany: "rooted pieces"},
	{Kind: Pup, Label: "pup", Body: "base", Limp: "wrinkled", Comes: "shoot", Point: "growing point", Points: "growing points", Pose: Crown, Whole: true, Sisters: true, Single: true, Young: "division", YoungMany: "divisions", PartKind: Division, FirstRootsDays: Span{30, 14, 60}, PotUpDays: Span{60, 30, 120}},
	{Kind: BackRhizome, Label: "bare rhizome", Body: "rhizome", Limp: "wrinkled", Leafless: true, Comes: "shoot", Point: "piece", Points: "pieces", Pose: Flat, Whole: true, Young: "shoot", YoungMany: "shoots", PartKind: Division, OwnTimes: true, FirstRootsDays: Span{240, 120, 400}, PotUpDays: Span{540, 365, 730}},
	{Kind: Plantlet, Label: "plantlet", Body: "crown", Limp: "wrinkled", Comes: "leaf", Point: "crown", Points: "crowns", Pose: Crown, Whole: true, Sisters: true, Young: "plantlet", YoungMany: "plantlets", PartKind: Plantlet, FirstRootsDays: Span{21, 10, 45}, PotUpDays: Span{45, 21, 90}},
}

// KindRows is the table of kinds of pieces.
func KindRows() []KindRow { return append([]KindRow{}, kindRows...) }

// Row finds the table row of a kind; what is not known is spoken of as a stem cutting.
func (k PieceKind) Row() KindRow {
	for _, r := range kindRows {
		if r.Kind == k {
			return r
		}
	}
	return kindRows[1]
}

// Lies tells whether a piece of the pose takes its length of the surface.
func (p Pose) Lies() bool { return within([]Pose{Lying, Flat}, p) }

// PoseOf is how a piece of the kind, and of the leaf form when it is a leaf, stands in its vessel.
// A succulent leaf lies dry on the mix until it has rooted.
func PoseOf(g Group, k PieceKind, f LeafForm) Pose {
	if k != LeafPiece {
		return k.Row().Pose
	}
	form, ok := f.Rule()
	if !ok {
		return Stalk
	}
	if f == WholeLeaf && g.Keeping == Dry {
		return OnTop
	}
	return form.Pose
}

// RootTimes are the days to first roots and to potting of a kind of piece of the group.
func (g Group) RootTimes(k PieceKind) (first, pot Span) {
	row := k.Row()
	if row.OwnTimes {
		return row.FirstRootsDays, row.PotUpDays
	}
	first, pot = g.FirstRootsDays, g.PotUpDays
	if row.FirstRootsDays.IsZero() { // a piece the group is not multiplied from: as slow as a division without roots
		row = Division.Row()
	}
	if first.IsZero() {
		first = row.FirstRootsDays
	}
	if pot.IsZero() {
		pot = row.PotUpDays
	}
	return first, pot
}
