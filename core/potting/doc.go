// Package potting answers which pot a rooted cutting goes into, how much mix
// that takes, and what the weeks after ask for.
//
// In: the length of the longest root in mm and the growth group. Out: a pot's
// width and depth in mm, the volume of mix in ml, the parts of the mix, and dated
// steps of aftercare. Method: the handbook's rules for a first pot (small, at most
// 100 mm; one a good deal larger than the roots stays wet), and the volume of a
// frustum for round pots. Each number carries its basis.
package potting
