package plant

import "fmt"

// Nodes are growing points in a row, the lowest first.
type Nodes []Node

// Came says whether a young plant has its mother's pattern.
type Came string

// How a pattern comes back: stem cuttings and divisions keep it, leaves mostly lose it.
const (
	CameKept   Came = "kept"
	CamePartly Came = "partly"
	CameLost   Came = "lost"
)

// PartOf is the kind of what is parted from a piece: nodes first to last of so many, with leaves.
func PartOf(k PieceKind, first, last, of, leaves int) PieceKind {
	row := k.Row()
	switch {
	case row.PartKind != "":
		return row.PartKind
	case k == Tip && last == of:
		return Tip
	case last > first:
		return StemCutting
	case leaves > 0:
		return LeafBud
	}
	return WetStick
}

// PlantletCode is the code of the n-th plant that was parted from a piece.
func PlantletCode(parent string, n int) string { return fmt.Sprintf("%s.%d", parent, n) }
