package scenario

import (
	"math"
	"sort"
)

// Clock turns days since setting into effective days: as many days of usual warmth in the bright half of the year.
type Clock struct {
	// at is the effective time at the beginning of each day.
	at []float64
	// doy is the day of the year of the first day, from 0, as it is in the north.
	doy int
}

// The halves of the year, days from 0, and how far the clock goes.
const (
	darkFrom, brightOn = 265, 79
	days               = 800
)

// Clock is the clock of a piece that was set on a day of the year, from 0, at a temperature in degrees C; 0 for one that
// is not known. South of the equator the year is turned by half.
func (m *Model) Clock(dayOfYear int, celsius float64, southern bool) Clock {
	if southern {
		dayOfYear += 182
	}
	return m.ClockOf(dayOfYear, celsius, m.darkFactor)
}

// ClockOf is such a clock, north of the equator, where the dark half of the year is slower by a factor.
func (m *Model) ClockOf(dayOfYear int, celsius, slower float64) Clock {
	if celsius == 0 {
		celsius = m.usualC
	}
	c := Clock{make([]float64, days+1), dayOfYear % 365}
	warmth := math.Max(m.slowest, math.Min(m.fastest, (celsius-m.coldest)/m.perDegrees))
	for d := range days {
		f := warmth
		if dark(c.doy + d) {
			f /= slower
		}
		c.at[d+1] = c.at[d] + f
	}
	return c
}

func dark(doy int) bool { doy %= 365; return doy >= darkFrom || doy < brightOn }

// Effective is the effective time of a day since setting.
func (c Clock) Effective(day float64) float64 {
	if day <= 0 {
		return 0
	}
	i := min(int(day), days-1)
	return c.at[i] + (day-float64(i))*(c.at[i+1]-c.at[i])
}

// Day is the day since setting of an effective time.
func (c Clock) Day(effective float64) float64 {
	if math.IsInf(effective, 1) {
		return effective
	}
	i := sort.SearchFloat64s(c.at, effective) - 1
	i = max(0, min(i, days-1))
	return float64(i) + (effective-c.at[i])/(c.at[i+1]-c.at[i])
}
