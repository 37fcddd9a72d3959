package plant

import (
	"math"
	"time"
)

// Darkness is how far a day lies in the dark half of the year: 0 in the bright months, 1 in the dark
// ones, passing from one to the other over about two months around each equinox. southern is true
// south of the equator. So that nothing jumps from one day to the next: 0.5 + cos of the angle from the winter
// solstice, held within 0 and 1. assumption: the shape; published: the solstice, about 21 December.
func Darkness(day time.Time, southern bool) float64 {
	const solstice, year = 355.0, 365.25
	c := math.Cos(2 * math.Pi * (float64(day.YearDay()) - solstice) / year)
	if southern {
		c = -c
	}
	return math.Min(1, math.Max(0, 0.5+c))
}

// InDarkHalf tells whether a day lies in the dark half of the year, between the autumn and the spring
// equinox (published: about 22 September and 20 March).
func InDarkHalf(day time.Time, southern bool) bool {
	m, d := day.Month(), day.Day()
	dark := m < time.March || m > time.September || (m == time.March && d < 21) || (m == time.September && d >= 23)
	return dark != southern
}
