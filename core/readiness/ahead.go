package readiness

import (
	"slices"
	"time"

	"clearjar/core/number"
)

// Due is one piece as the calendar of the coming weeks sees it.
type Due struct {
	// Name tells it apart; Kept is when it is ready.
	Name string
	Kept Kept
	// Overdue: it was seen to crowd, or stands too long.
	Overdue bool
}

// PottingDay is a day on which several pieces can be potted at once.
type PottingDay struct {
	On    time.Time `json:"on"`
	Names []string  `json:"names"`
}

// window is the days from today between which a piece is as well potted: from the day it is likely ready for so many days, or until
// its roots are too long.
type window struct {
	name     string
	from, to int
}

// PottingDays are the fewest days within so many from today on which all pieces that come ready can be potted, each while it is well
// potted; a piece that comes ready later, or likely never, is in none. What is overdue is potted today.
func PottingDays(t number.Table, all []Due, today time.Time, within int) []PottingDay {
	open := []window{}
	for _, d := range all {
		for day := range within {
			on := today.AddDate(0, 0, day)
			if d.Kept.Ready(on) < t.Of(ReadyFrom) {
				continue
			}
			w := window{d.Name, day, day + t.Int(WellPotted)}
			if d.Overdue {
				w.to = day
			} else if over := d.Kept.Overgrown; over > 0 {
				w.to = max(day, min(w.to, int(float64(over)-days(d.Kept.From, today))))
			}
			open = append(open, w)
			break
		}
	}
	out := []PottingDay{}
	for len(open) > 0 {
		// The window that closes first says the day; every open one that holds it is served.
		first := slices.MinFunc(open, func(a, b window) int { return a.to - b.to })
		on := min(first.to, within-1)
		p := PottingDay{On: today.AddDate(0, 0, on), Names: []string{}}
		open = slices.DeleteFunc(open, func(w window) bool {
			if w.from <= on {
				p.Names = append(p.Names, w.name)
				return true
			}
			return false
		})
		slices.Sort(p.Names)
		out = append(out, p)
	}
	return out
}
