package growth

import (
	"math"

	"gonum.org/v1/gonum/stat/distuv"

	"clearjar/core/number"
	"clearjar/core/plant"
)

// Numbers of a forecast.
var (
	Confidence  = number.Define(plant.Number{Key: "growth.confidence", Label: "Confidence of a growth forecast", Value: 0.8, Low: 0.05, High: 0.99, Unit: "fraction", Basis: plant.Assumed("four times in five is what a grower can plan with")})
	LevelMM     = number.Define(plant.Number{Key: "growth.level", Label: "Roots slow down as they lengthen: half as fast again for every", Value: 350, Low: 50, High: 5000, Unit: "mm", Basis: plant.Assumed("length = y / (1 + y/350), y growing evenly; between roots that do not slow and roots that level off, tried by simulation")})
	SeenSpread  = number.Define(plant.Number{Key: "growth.seen_spread", Label: "How far a measured length is off", Value: 0.07, Unit: "fraction", Basis: plant.Assumed("about 6 % of a photo in plane, and what it does not see")})
	SeenLeastMM = number.Define(plant.Number{Key: "growth.seen_least", Label: "How far a measured length is off at least", Value: 1.2, Low: 0.1, High: 20, Unit: "mm", Basis: plant.Assumed("where a root begins and ends")})
	RateSpread  = number.Define(plant.Number{Key: "growth.rate_spread", Label: "How much the rate to come may differ from the rate so far", Value: 0.18, Unit: "fraction", Basis: plant.Assumed("roots speed up, level off and rest; tried by simulation")})
	Wander      = number.Define(plant.Number{Key: "growth.wander", Label: "Day to day wander of growth", Value: 0.25, Low: 0, High: 10, Unit: "times rate squared", Basis: plant.Assumed("tried by simulation")})
	Memory      = number.Define(plant.Number{Key: "growth.memory", Label: "A look weighs a third after", Value: 14, Low: 1, High: 365, Unit: "days", Basis: plant.Assumed("what a root did last week says more than what it did last month")})
)

// Numbers lists them for the screen.
func Numbers() []plant.Number {
	return []plant.Number{Confidence, LevelMM, SeenSpread, SeenLeastMM, RateSpread, Wander, Memory}
}

// farthestDays is how far ahead a forecast is worth anything.
const farthestDays = 365

// Forecast is what the looks say about a length that is wanted.
type Forecast struct {
	Looks []LengthAt `json:"looks"`
	// RateMMADay is how fast the longest root grows at the last look.
	RateMMADay  float64 `json:"rate_mm_a_day"`
	ThresholdMM float64 `json:"threshold_mm"`
	// ReachDay is about the day since setting at which the threshold is met; LowDay and HighDay hold it
	// four times in five. None lies before today.
	ReachDay float64 `json:"reach_day"`
	LowDay   float64 `json:"low_day"`
	HighDay  float64 `json:"high_day"`
	Bounded  bool    `json:"bounded"`
	// Band is the course to be expected with its interval, day by day from the last look on.
	Band []BandPoint `json:"band"`
	// Basis says in words what the forecast rests on.
	Basis string `json:"basis"`
}

// BandPoint is the length to be expected on one day, and what holds it four times in five.
type BandPoint struct {
	Day    float64 `json:"day"`
	LowMM  float64 `json:"low_mm"`
	MidMM  float64 `json:"mid_mm"`
	HighMM float64 `json:"high_mm"`
}

// course is a root on its way: y grows evenly from yLast at the last look. Variances in y.
type course struct {
	last, yLast, varLast float64
	rate, varRate        float64
}

// even is the length in mm a root would have had without slowing down: L / (1 - L / level), L held below 98 % of the
// level at which growth ends. assumption: the shape of the slowing down.
func even(t number.Table, mm float64) float64 {
	level := t.Of(LevelMM)
	return mm / (1 - math.Min(mm, 0.98*level)/level)
}

// bent is y / (1 + y / level), the inverse of [even]; in mm, 0 or more, and below the level.
func bent(t number.Table, y float64) float64 { return y / (1 + math.Max(y, 0)/t.Of(LevelMM)) }

// follow fits the course: a weighted straight line through y, whose errors are never smaller than
// the measuring is good for. Looks long past weigh less. ok is false when it does not grow.
func follow(t number.Table, looks []LengthAt) (c course, ok bool) {
	last := looks[len(looks)-1]
	var sw, sx, sy float64
	w, y := make([]float64, len(looks)), make([]float64, len(looks))
	for i, l := range looks {
		y[i] = even(t, l.LengthMM)
		slope := math.Pow(1+y[i]/t.Of(LevelMM), 2) // dy/dL
		sd := math.Max(t.Of(SeenLeastMM), t.Of(SeenSpread)*l.LengthMM) * slope
		w[i] = math.Exp(-(last.Day-l.Day)/t.Of(Memory)) / (sd * sd)
		sw += w[i]
		sx += w[i] * l.Day
		sy += w[i] * y[i]
	}
	mx, my := sx/sw, sy/sw
	var sxx, sxy, rss float64
	for i, l := range looks {
		sxx += w[i] * (l.Day - mx) * (l.Day - mx)
		sxy += w[i] * (l.Day - mx) * (y[i] - my)
	}
	if sxx == 0 {
		return c, false
	}
	c.rate, c.last = sxy/sxx, last.Day
	for i, l := range looks {
		r := y[i] - my - c.rate*(l.Day-mx)
		rss += w[i] * r * r
	}
	// Where the looks scatter more than measuring explains, the scatter counts; never less.
	scatter := 1.0
	if n := len(looks); n > 2 {
		scatter = math.Max(1, rss/float64(n-2))
	}
	c.varRate = scatter / sxx
	c.yLast = my + c.rate*(last.Day-mx)
	c.varLast = scatter * (1/sw + (last.Day-mx)*(last.Day-mx)/sxx)
	return c, c.rate > 0
}

// spread is the standard deviation of y, in mm, after days more: that of the last look, of the rate and of its own
// change, which grow with the days, and of its wander, which grows with their root.
func (c course) spread(t number.Table, days float64) float64 {
	d := math.Max(days, 0)
	rate := t.Of(RateSpread) * c.rate
	return math.Sqrt(c.varLast + d*d*(c.varRate+rate*rate) + t.Of(Wander)*c.rate*c.rate*d)
}

// Ahead forecasts when the longest root reaches thresholdMM. today is in days since setting. ok is
// false when the looks do not show growth, or the day lies more than a year off.
//
// Method: y = L/(1 - L/350) grows evenly; a weighted line through y with errors of the measuring;
// the days left are log-normal, with a spread from the line, the rate's own change and its wander.
// The interval is never narrower than the measuring, and never begins before today or the last look.
func Ahead(t number.Table, looks []LengthAt, thresholdMM, today float64) (f Forecast, ok bool) {
	if _, err := Fit(looks); err != nil {
		return Forecast{}, false
	}
	c, grows := follow(t, looks)
	last := looks[len(looks)-1]
	left := (even(t, thresholdMM) - c.yLast) / c.rate
	if !grows || left > farthestDays {
		return Forecast{}, false
	}
	f = Forecast{
		Looks: looks, RateMMADay: c.rate * math.Pow(1-bent(t, c.yLast)/t.Of(LevelMM), 2), ThresholdMM: thresholdMM, Bounded: true, Band: make([]BandPoint, 0, 33),
		Basis: "roots slow down as they lengthen; older looks weigh less; the band holds it about four times in five",
	}
	now := math.Max(today, last.Day)
	z := distuv.UnitNormal.Quantile(0.5 + t.Of(Confidence)/2)
	half := math.Max(left, 1)
	// In days: what is not known of y, over the rate.
	sd := math.Min(c.spread(t, half)/c.rate/half, 0.9)
	f.ReachDay = math.Max(now, last.Day+left)
	f.LowDay = math.Max(now, last.Day+left*math.Exp(-z*sd))
	f.HighDay = math.Max(f.ReachDay+1, last.Day+half*math.Exp(z*sd))
	end := math.Min(math.Max(f.HighDay, now)+3, last.Day+farthestDays)
	for day := last.Day; day <= end; day += math.Max(1, (end-last.Day)/30) {
		mid, sd := c.yLast+c.rate*(day-last.Day), c.spread(t, day-last.Day)
		f.Band = append(f.Band, BandPoint{day, math.Max(0, bent(t, mid-z*sd)), bent(t, mid), bent(t, mid+z*sd)})
	}
	return f, true
}
