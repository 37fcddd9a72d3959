// Package growth answers how fast the longest root of a cutting grows and when
// it will reach a length.
//
// In: lengths in mm at days since the piece was set, one for each look. Method:
// ordinary least squares; the interval of a forecast is the prediction interval
// of one new observation, and the interval of the day is found by inverting it
// (Fieller 1954; Draper & Smith 1998, section 3.2). With fewer than three looks
// there is no interval, and the package says so instead of inventing one. The
// looks go on only as long as the root does: a root is never forecast to shrink.
package growth
