package readiness

import (
	"fmt"
	"math"

	"clearjar/core/learn"
	"clearjar/core/plant"
)

// Rests are the numbers a forecast of this piece rests on, the starting value beside the grower's own records; none for what the model
// does not speak of.
func (o *Outlook) Rests() []Rest {
	if o.s == nil {
		return []Rest{}
	}
	e, p := o.e, o.p
	start := p
	start.Grower, start.GrowerSigma, start.Faster = 0, p.M().Growers(), 0
	learned := Learned{}
	if e.Learned != nil {
		learned = *e.Learned
	}
	out := []Rest{}
	first := Rest{
		What: "first roots, in warm bright days", Start: fmt.Sprintf("day %.0f", start.First.Mid*p.Slower), Own: "no records", Used: fmt.Sprintf("day %.0f", start.First.Mid*p.Slower*math.Exp(p.Grower)),
		Basis: &e.Group.Basis,
	}
	if n := learned.Times.Pieces; n > 0 {
		first.Own = fmt.Sprintf("%s: %s", plant.Counted(n, "piece", "pieces"), times(learned.Times.Factor()))
		first.OwnCounts = float64(n) > learn.StartsAs(start)
	}
	pace, _ := start.Rate()
	used, _ := p.Rate()
	growth := Rest{What: "pace of the longest root", Start: fmt.Sprintf("%.1f mm a day", pace), Own: "no records", Used: fmt.Sprintf("%.1f mm a day", used), Basis: &e.Group.Basis}
	if n := learned.Rates.Pieces; n > 0 {
		growth.Own = fmt.Sprintf("%s: %s", plant.Counted(n, "piece", "pieces"), times(math.Exp(learned.Rates.Mean)))
		growth.OwnCounts = float64(n) > learn.StartsAs(start)
	}
	was, is := e.wake()
	wakes := Rest{What: "a set node roots", Start: fmt.Sprintf("%.0f in 100", 100*was), Own: "no records", Used: fmt.Sprintf("%.0f in 100", 100*is), Basis: &plant.Basis{Kind: "assumption", Source: "the planner's number for this group in this medium"}}
	if learned.Tried > 0 {
		wakes.Own = fmt.Sprintf("%d of %d nodes", learned.Won, learned.Tried)
		wakes.OwnCounts = float64(learned.Tried) > recordsWeigh
	}
	out = append(out, first, growth, wakes)
	if e.sisters != 0 {
		out = append(out, Rest{What: "its sisters of the same cut", Start: "as usual", Own: "by what was seen of them", Used: times(math.Exp(e.sisters)) + " the days", Basis: &plant.Basis{Kind: "assumption", Source: "sisters share three tenths of what differs; never more than a third, and no verdict rests on it"}})
	}
	now := o.s.Clock.Effective(o.s.Today+1) - o.s.Clock.Effective(o.s.Today)
	warm := "not measured: taken as 24 degrees C"
	if e.TemperatureC > 0 {
		warm = fmt.Sprintf("%.0f degrees C", e.TemperatureC)
	}
	season := "bright half of the year"
	if plant.InDarkHalf(e.Today, e.Southern) {
		season = "dark half of the year"
	}
	return append(out, Rest{What: "a day now counts, " + season, Start: "1 day", Own: warm, Used: fmt.Sprintf("%.2f days", now), Basis: &DarkFactor.Basis})
}

// times says a factor of times.
func times(f float64) string { return fmt.Sprintf("%.2f times", f) }
