// Package cutplan answers where to cut a mapped stem.
//
// In: a [plant.Stem] in mm, which of its nodes are already taken, the growth group,
// and the [Limits] of the mother and the vessel. Out: knife positions in mm from
// the base, and for each piece between them the chance that it becomes a plant.
//
// Method: a piece becomes a plant if at least one set node wakes and the piece does
// not rot first: P = (1 - prod(1 - p_i)) (1 - r). Each p_i is the growth group's
// starting value with odds ratios for leaf, aerial root, bud, sound stem, medium and
// season; every one is data with its basis, and [Piece.Effects] shows which were
// used. [Propose] finds the expected number of plants exactly, by dynamic
// programming over cut positions from the tip down; the tests compare it with
// trying every way to cut.
package cutplan
