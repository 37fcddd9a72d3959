package growth

import (
	"errors"
	"math"

	"gonum.org/v1/gonum/stat"
	"gonum.org/v1/gonum/stat/distuv"
)

// LengthAt is the longest root seen at one look: Day since setting, LengthMM.
type LengthAt struct {
	Day      float64 `json:"day"`
	LengthMM float64 `json:"length_mm"`
}

// ErrTooFew says that the looks do not fix a line.
var ErrTooFew = errors.New("growth: at least two looks on different days are needed")

// Line is a fitted straight line, length = Start + Rate * day.
type Line struct {
	N int
	// Start is the length in mm at day 0; Rate is in mm a day.
	Start, Rate float64
	// Spread is the residual standard deviation in mm, sqrt(sum r^2 / (n - 2)); 0 with two looks, which leave none.
	Spread      float64
	meanDay, sx float64
}

// Fit fits a straight line by least squares: it makes the sum of (length - Start - Rate day)^2 least. Days may
// repeat, but not all be the same: [ErrTooFew].
func Fit(looks []LengthAt) (Line, error) {
	if len(looks) < 2 {
		return Line{}, ErrTooFew
	}
	days, lengths := make([]float64, len(looks)), make([]float64, len(looks))
	for i, l := range looks {
		days[i], lengths[i] = l.Day, l.LengthMM
	}
	n := float64(len(looks))
	mean, variance := stat.MeanVariance(days, nil)
	if variance == 0 {
		return Line{}, ErrTooFew
	}
	line := Line{N: len(looks), meanDay: mean, sx: variance * (n - 1)}
	line.Start, line.Rate = stat.LinearRegression(days, lengths, nil, false)
	if len(looks) > 2 {
		var ss float64
		for _, l := range looks {
			r := l.LengthMM - line.At(l.Day)
			ss += r * r
		}
		line.Spread = math.Sqrt(ss / (n - 2))
	}
	return line, nil
}

// At is the fitted length in mm on a day.
func (l Line) At(day float64) float64 { return l.Start + l.Rate*day }

// t is the two-sided Student quantile for a confidence such as 0.8.
func (l Line) t(confidence float64) float64 {
	return distuv.StudentsT{Mu: 0, Sigma: 1, Nu: float64(l.N - 2)}.Quantile(0.5 + confidence/2)
}

// Predict gives the interval in mm that holds one new measurement on a day with
// the given confidence (0-1): y +- t s sqrt(1 + 1/n + (x - xbar)^2 / Sxx), t being Student's quantile with n - 2
// degrees of freedom. published: any textbook of regression, prediction interval of a straight line (from memory).
// ok is false with fewer than three looks.
func (l Line) Predict(day, confidence float64) (low, high float64, ok bool) {
	if l.N < 3 {
		return 0, 0, false
	}
	low, high = l.band(day, l.t(confidence))
	return low, high, true
}

// band is the prediction interval for a Student quantile t.
func (l Line) band(day, t float64) (low, high float64) {
	half := t * l.Spread * math.Sqrt(1+1/float64(l.N)+(day-l.meanDay)*(day-l.meanDay)/l.sx)
	return l.At(day) - half, l.At(day) + half
}

// Reach is when the line reaches a length: the day, and, when Bounded, the days between which one measurement is
// first and last compatible with it. Where the looks do not limit the day on both sides, Low and High are 0 and say
// nothing.
type Reach struct {
	Day, Low, High float64
	Bounded        bool
}

// Reach gives the day on which the fitted root is lengthMM long. ok is false when the root does not grow.
func (l Line) Reach(lengthMM, confidence float64) (r Reach, ok bool) {
	if l.Rate <= 0 {
		return Reach{}, false
	}
	r = Reach{Day: (lengthMM - l.Start) / l.Rate}
	if l.N < 3 {
		return r, true
	}
	// (y0 - a - b x)^2 = t^2 s^2 (1 + 1/n + (x-xbar)^2/Sxx), solved for d = x - xbar.
	t2s2 := l.t(confidence) * l.t(confidence) * l.Spread * l.Spread
	dy := lengthMM - l.At(l.meanDay)
	a := l.Rate*l.Rate - t2s2/l.sx
	b := -2 * l.Rate * dy
	c := dy*dy - t2s2*(1+1/float64(l.N))
	disc := b*b - 4*a*c
	if a <= 0 || disc < 0 {
		return r, true
	}
	root := math.Sqrt(disc)
	r.Low, r.High, r.Bounded = l.meanDay+(-b-root)/(2*a), l.meanDay+(-b+root)/(2*a), true
	return r, true
}
