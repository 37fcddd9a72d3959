package climate

import "math"

// Threshold says how a degree-day takes the day's extremes.
type Threshold struct {
	BaseC float64 `json:"base_c"`
	// UpperC is above what warmth counts no more; with HasUpper false there is none.
	UpperC   float64 `json:"upper_c,omitempty"`
	HasUpper bool    `json:"has_upper,omitempty"`
	// Clipped raises extremes below the base to it before the mean is taken; else the mean is taken first.
	Clipped bool `json:"clipped,omitempty"`
}

// DegreeDays is the warmth of one day above the base, in degree-days, 0 or more: (Tmax + Tmin) / 2 - base.
// published: McMaster, Wilhelm: Growing degree-days: one equation, two interpretations, Agricultural and Forest
// Meteorology 87, 1997, methods 1 and 2 (from memory).
func (t Threshold) DegreeDays(minC, maxC float64) float64 {
	if t.HasUpper {
		minC, maxC = math.Min(minC, t.UpperC), math.Min(maxC, t.UpperC)
	}
	if t.Clipped {
		minC, maxC = math.Max(minC, t.BaseC), math.Max(maxC, t.BaseC)
	}
	return math.Max(0, (minC+maxC)/2-t.BaseC)
}

// secondsToMol turns micromol a second over hours into mol: 3600 / 1e6.
const secondsToMol = 0.0036

// Light is an evenly lit part of a day.
type Light struct {
	// PPFD is micromol per m2 and second of light that plants use.
	PPFD  float64 `json:"ppfd"`
	Hours float64 `json:"hours"`
}

// DLI is the light of a day in mol per m2: the sum of PPFD times hours times 0.0036.
func DLI(day ...Light) float64 {
	sum := 0.0
	for _, l := range day {
		sum += l.PPFD * l.Hours * secondsToMol
	}
	return sum
}

// PPFDFor is the light in micromol per m2 and second that makes a daily light in mol per m2 in some hours. ok is false
// without any hours.
func PPFDFor(dli, hours float64) (ppfd float64, ok bool) {
	if !(hours > 0) {
		return 0, false
	}
	return dli / (hours * secondsToMol), true
}
