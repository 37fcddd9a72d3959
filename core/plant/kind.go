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
	Pose   Pose   `json:"pose" enum:"upright,stalk,on_top,lying,flat,half_buried,crown"`
	// Sisters: each growing point makes a plant of its own, so that roots are not counted by node.
	Sisters bool `json:"sisters"`
	// Whole: all its growing points go into the medium, or lie on it, when it is set.
	Whole bool `json:"whole"`
	// FirstRootsDays and PotUpDays stand in where the group has none.
	FirstRootsDays Span `json:"first_roots_days"`
	PotUpDays      Span `json:"pot_up_days"`
}

var kindRows = []KindRow{
	{Kind: Tip, Label: "tip cutting", Body: "stem", Comes: "shoot", Point: "node", Points: "nodes", Pose: Upright},
	{Kind: StemCutting, Label: "stem cutting", Body: "stem", Comes: "shoot", Point: "node", Points: "nodes", Pose: Upright},
	{Kind: LeafBud, Label: "single node with leaf", Body: "stem", Comes: "shoot", Point: "node", Points: "nodes", Pose: Upright},
	{Kind: WetStick, Label: "single node, no leaf", Body: "stem", Comes: "shoot", Point: "node", Points: "nodes", Pose: Upright},
	{Kind: LeafPiece, Label: "leaf piece", Body: "leaf", Comes: "plantlet", Point: "base", Points: "bases", Pose: Stalk, Whole: true, Sisters: true},
	{Kind: Division, Label: "division", Body: "base", Comes: "shoot", Point: "growing point", Points: "growing points", Pose: Crown, Whole: true, Sisters: true, FirstRootsDays: Span{45, 21, 90}, PotUpDays: Span{90, 45, 180}},
	{Kind: RhizomePiece, Label: "rhizome piece", Body: "rhizome", Comes: "shoot", Point: "node", Points: "nodes", Pose: Lying},
	{Kind: Tuber, Label: "tuber piece", Body: "tuber", Comes: "shoot", Point: "eye", Points: "eyes", Pose: HalfBuried, Whole: true, Sisters: true},
	{Kind: Runner, Label: "runner piece", Body: "runner", Comes: "shoot", Point: "node", Points: "nodes", Pose: Flat, Whole: true},
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
	first, pot = g.FirstRootsDays, g.PotUpDays
	row := k.Row()
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
