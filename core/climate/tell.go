package climate

import (
	"fmt"
	"math"
	"strings"
	"time"

	"clearjar/core/number"
	"clearjar/core/plant"
)

// faultWords say a fault in the middle of a sentence.
var faultWords = map[Fault]string{TooDry: "too dry", TooWet: "too wet", TooCold: "too cold", TooWarm: "too warm", Dew: "wet with dew"}

// aDay is what a day's sentence is about.
const aDay = 24 * time.Hour

// enough is how many hours of a day have to be read for the day to be told without a word about the rest.
const enough = 23

// Tell says in sentences how the air of the last 24 hours was for pieces of a stage. stretches are of whole hours or less.
// last is when something was read last, zero for never.
func Tell(t number.Table, stretches []Stretch, last, now time.Time, stage Stage) []string {
	if last.IsZero() {
		return []string{"Nothing was read here yet."}
	}
	var all Stretch
	day := []Stretch{}
	for _, s := range Stretches(stretches, now.Add(-aDay), time.Hour) {
		if !s.From.Before(now.Add(-aDay)) && s.From.Before(now) {
			all, day = all.With(s), append(day, s)
		}
	}
	out := []string{}
	if Silent(t, last, now) {
		out = append(out, fmt.Sprintf("Nothing was read since %s: look at the sensor, its battery, and what stands between.", last.In(now.Location()).Format("Mon 2 Jan 15:04")))
	}
	if all.N == 0 {
		return out
	}
	w := Weigh(t, day, time.Hour, stage)
	out = append(out, fmt.Sprintf("The last 24 hours: %.0f to %.0f °C, %.0f to %.0f %%, a deficit of %.2f to %.2f kPa.",
		all.Temp.Min, all.Temp.Max, all.Humidity.Min, all.Humidity.Max, math.Max(0, all.Deficit.Min), all.Deficit.Max))
	wanted := fmt.Sprintf("pieces that are %s want (%.2f to %.2f kPa, %.0f to %.0f °C)", stage.Label, t.Of(stage.DeficitLow), t.Of(stage.DeficitHigh), t.Of(stage.TempLow), t.Of(stage.TempHigh))
	if len(w.Faults) == 0 {
		out = append(out, fmt.Sprintf("All of it was what %s.", wanted))
	} else {
		parts := make([]string, len(w.Faults))
		for i, f := range w.Faults {
			parts[i] = fmt.Sprintf("%s for %s", faultWords[f.Fault], hours(f.Hours))
		}
		out = append(out, fmt.Sprintf("For %s it was not what %s: %s.", hours(w.Outside), wanted, strings.Join(parts, ", ")), w.Faults[0].Says)
	}
	if w.Hours < enough && !Silent(t, last, now) {
		out = append(out, fmt.Sprintf("Only %s of the 24 were read.", hours(w.Hours)))
	}
	return out
}

func hours(h float64) string { return plant.Counted(int(math.Round(h)), "hour", "hours") }
