package care

import (
	"maps"
	"time"

	"clearjar/core/number"
	"clearjar/core/plant"
)

var roundHour = number.Define(plant.Number{Key: "care.round_hour", Label: "In the calendar the round begins at", Value: 9, Low: 0, High: 22, Unit: "o'clock", Basis: plant.Assumed("chosen by the grower")})

var vesselTakes = number.Define(plant.Number{Key: "care.vessel_takes", Label: "In the calendar a vessel takes", Value: 15, Low: 1, High: 600, Unit: "seconds", Basis: plant.Assumed("40 vessels in well under a quarter of an hour")})

// quarter is what a round in the calendar is rounded up to.
const quarter = 15 * time.Minute

// RoundLasts is how long a round of so many vessels is reckoned to take, in whole quarters of an hour.
func RoundLasts(t number.Table, vessels int) time.Duration {
	takes := time.Duration(t.Of(vesselTakes) * float64(vessels) * float64(time.Second))
	return max(quarter, (takes+quarter-1)/quarter*quarter)
}

// DayDue is what is due on a day to come.
type DayDue struct {
	At    time.Time
	Tasks []CareTask
}

// RoundAt is when the round of a day begins, in the zone of the day.
func RoundAt(t number.Table, day time.Time) time.Time {
	hour := t.Of(roundHour)
	return time.Date(day.Year(), day.Month(), day.Day(), int(hour), int(60*(hour-float64(int(hour)))), 0, 0, day.Location())
}

// Ahead says what is due for a vessel on each of some days, from a day on, when all of it is done on the day it is due
// and nothing is seen meanwhile: what is due already is on the first day. Days without anything are left out.
func Ahead(v Vessel, from time.Time, days int, w Where) []DayDue {
	out := []DayDue{}
	v.Record.Done = maps.Clone(v.Record.Done)
	if v.Record.Done == nil {
		v.Record.Done = map[plant.Act]time.Time{}
	}
	for d := range days {
		day := time.Date(from.Year(), from.Month(), from.Day()+d, 12, 0, 0, 0, from.Location())
		at := RoundAt(w.Numbers, day)
		if d == 0 && at.Before(from) {
			at = from
		}
		due := On(v, at, w)
		if len(due.Tasks) > 0 && !due.PutOff {
			out = append(out, DayDue{at, due.Tasks})
		}
		if len(due.Tasks) == 0 || due.PutOff {
			continue
		}
		v.Record.Visit(at)
		for _, task := range due.Tasks {
			v.Record.Did(task.Act, at)
			if task.Cover != "" {
				v.Record.Covered(task.Cover, at)
			}
		}
	}
	return out
}
