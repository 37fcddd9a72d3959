package growth

import (
	"math"

	"clearjar/core/plant"
)

// Confidence of every interval this package hands to the screen.
var Confidence = plant.Number{Key: "growth.confidence", Label: "Confidence of a growth forecast", Value: 0.8, Unit: "fraction", Basis: plant.Assumed("four times in five is what a grower can plan with")}

// farthestDays is how far ahead a forecast is worth anything.
const farthestDays = 365

// Forecast is what the looks say about a length that is wanted.
type Forecast struct {
	Looks       []LengthAt `json:"looks"`
	RateMMADay  float64    `json:"rate_mm_a_day"`
	StartMM     float64    `json:"start_mm"`
	ThresholdMM float64    `json:"threshold_mm"`
	// ReachDay is the day since setting at which the threshold is met; LowDay and HighDay bound it when Bounded.
	ReachDay float64 `json:"reach_day"`
	LowDay   float64 `json:"low_day"`
	HighDay  float64 `json:"high_day"`
	Bounded  bool    `json:"bounded"`
	// Band is the prediction interval day by day from the last look on, when there is one.
	Band []BandPoint `json:"band"`
	// Basis says in words what the forecast rests on.
	Basis string `json:"basis"`
}

// BandPoint is the interval of one new measurement on one day.
type BandPoint struct {
	Day    float64 `json:"day"`
	LowMM  float64 `json:"low_mm"`
	HighMM float64 `json:"high_mm"`
}

// Ahead forecasts when the longest root reaches thresholdMM. ok is false when the
// looks do not show growth, or the day lies more than a year off.
func Ahead(looks []LengthAt, thresholdMM float64) (f Forecast, ok bool) {
	line, err := Fit(looks)
	if err != nil {
		return Forecast{}, false
	}
	reach, grows := line.Reach(thresholdMM, Confidence.Value)
	last := looks[len(looks)-1]
	if !grows || reach.Day > last.Day+farthestDays {
		return Forecast{}, false
	}
	f = Forecast{
		Looks: looks, RateMMADay: line.Rate, StartMM: line.Start, ThresholdMM: thresholdMM,
		ReachDay: reach.Day, Bounded: reach.Bounded, Band: []BandPoint{},
		Basis: "a straight line through two looks, without an interval: a third look gives one",
	}
	if reach.Bounded {
		f.LowDay, f.HighDay = math.Max(reach.Low, 0), reach.High
	}
	if line.N >= 3 {
		f.Basis = "a straight line through the looks; 80 % prediction interval (least squares, Student's t)"
		t := line.t(Confidence.Value)
		end := math.Min(math.Max(reach.Day, last.Day)+10, last.Day+farthestDays)
		for day := last.Day; day <= end; day += math.Max(1, (end-last.Day)/30) {
			low, high := line.band(day, t)
			f.Band = append(f.Band, BandPoint{day, math.Max(low, 0), high})
		}
	}
	return f, true
}
