package plant

import (
	"slices"
	"time"
)

// Medium is what a piece roots in.
type Medium string

// The media of the trade.
const (
	Water   Medium = "water"
	Moss    Medium = "moss"
	Perlite Medium = "perlite"
	Mix     Medium = "mix"
)

// PieceKind is the kind of a cutting.
type PieceKind string

// Kinds of pieces. A stem that is cut up gives the first four.
const (
	Tip          PieceKind = "tip"
	StemCutting  PieceKind = "stem"
	LeafBud      PieceKind = "leaf_bud"
	WetStick     PieceKind = "wet_stick"
	LeafPiece    PieceKind = "leaf"
	Division     PieceKind = "division"
	RhizomePiece PieceKind = "rhizome"
	Tuber        PieceKind = "tuber"
	Runner       PieceKind = "runner"
	// Head is the rosette of a succulent, cut off with a bit of stem.
	Head PieceKind = "head"
	// Pair is one pair of leaves of a strand, Strand a long piece of it.
	Pair   PieceKind = "pair"
	Strand PieceKind = "strand"
	// Pup is an offset on a runner of its mother. BackRhizome is old rhizome without a growing point.
	Pup         PieceKind = "pup"
	BackRhizome PieceKind = "back_rhizome"
	// Plantlet is a young plant that was parted from a leaf, a tuber or a runner.
	Plantlet PieceKind = "plantlet"
)

// Bud is the state of the growth point at a node.
type Bud string

// States of a bud, in the order they pass.
const (
	BudDormant  Bud = "dormant"
	BudSwelling Bud = "swelling"
	BudShooting Bud = "shooting"
	BudLeafOpen Bud = "leaf_open"
)

// RootColour is the colour class of a root.
type RootColour string

// Colour classes of roots, light to dark.
const (
	White  RootColour = "white"
	Cream  RootColour = "cream"
	Pink   RootColour = "pink"
	Tan    RootColour = "tan"
	Orange RootColour = "orange"
	Brown  RootColour = "brown"
	Black  RootColour = "black"
)

// Verdict is what the tool advises for one cutting.
type Verdict string

// The verdicts.
const (
	Wait      Verdict = "wait"
	LookAt    Verdict = "look"
	Ready     Verdict = "ready"
	Overdue   Verdict = "overdue"
	Rescue    Verdict = "rescue"
	GrowingOn Verdict = "growing_on"
	Done      Verdict = "done"
	Lost      Verdict = "lost"
)

// SchoolKey names a school of thought about when a cutting is ready.
type SchoolKey string

// The schools in this version.
const (
	EarlyRoots SchoolKey = "early_roots"
	FirstLeaf  SchoolKey = "first_leaf"
	FullRoots  SchoolKey = "full_roots"
	// StraightToMix leaves a piece in the mix it roots in.
	StraightToMix SchoolKey = "straight_to_mix"
)

// School is one school with what it gains and costs.
type School struct {
	Key   SchoolKey `json:"key"`
	Label string    `json:"label"`
	When  string    `json:"when"`
	Why   string    `json:"why"`
	Cost  string    `json:"cost"`
	Basis Basis     `json:"basis"`
	// Stays: a piece is not potted under it, and grows on where it stands.
	Stays bool `json:"stays,omitempty"`
	// In are the media it is for; empty for all.
	In []Medium `json:"in,omitempty"`
}

// Fits tells whether the school is for a medium.
func (s School) Fits(m Medium) bool { return len(s.In) == 0 || slices.Contains(s.In, m) }

// Schools lists the schools a grower can choose from.
func Schools() []School {
	return []School{
		{EarlyRoots, "early roots", "at least 2 roots and the longest 10-20 mm", "short water roots adapt soonest", "little reserve: keep damp and covered", Practice, false, nil},
		{FirstLeaf, "first leaf", "roots hold a tug, a bud is awake and its first leaf is open", "a node may root and never shoot", "longer in moss; roots tangle", Practice, false, nil},
		{FullRoots, "full roots", "several roots, longest 50 mm or more, side roots showing, two nodes rooted where two were set", "best odds for the irreplaceable", "longer water roots to convert", Practice, false, nil},
		{StraightToMix, "straight to mix", "never: it is uncovered when a shoot shows and a tug holds, or a root shows at the drain hole", "no transplant at all", "blind until then", Practice, true, []Medium{Mix}},
	}
}

// SchoolNamed finds a school by its key.
func SchoolNamed(key SchoolKey) (School, bool) {
	for _, s := range Schools() {
		if s.Key == key {
			return s, true
		}
	}
	return School{}, false
}

// Days is a whole number of calendar days from a to b (b later: positive).
// Both are read as dates; the time of day is ignored.
func Days(a, b time.Time) int {
	day := func(t time.Time) time.Time {
		y, m, d := t.Date()
		return time.Date(y, m, d, 0, 0, 0, 0, time.UTC)
	}
	return int(day(b).Sub(day(a)).Hours() / 24)
}
