// Package cutplan answers where to cut a mapped stem, and what to do with the pieces.
//
// In: one or more [Bench], each a [plant.Stem] in mm with its growth group and the
// conditions of the day, the [Limits] of mother and vessels, and the [Aim]. Out: a [Plan]
// of knife positions in mm from the base, and for each piece the chance that it becomes a
// plant.
//
// Method: a piece becomes a plant if at least one set node wakes and the piece does not rot
// first: P = (1 - prod(1 - p_i)) (1 - r). Each p_i and r is a starting value with odds
// ratios on it; all of them are data in a [Sheet], with their basis, that the grower can
// change; [Piece] shows which were used. [Propose] is exact: dynamic programming over the
// places between nodes for aims that add up, and for "at least k plants" a search over
// partial plans that keeps only those no other one beats for every count, bounded from
// above by the best policy that could still choose while it learns. The tests compare both
// with trying every way to cut. [Frontier] is the same for each number of pieces, with the
// exact distribution of plants ([stats.PoissonBinomial]).
//
// [Wounds] and [Steps] say how to cut, dry, dust and dip; [Fit] whether the mother is fit to
// be cut today; [Worth] whether a piece someone offers is worth taking.
package cutplan
