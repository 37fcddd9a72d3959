package care

import (
	"slices"
	"time"

	"clearjar/core/plant"
)

// Leave is what to leave alone.
type Leave struct {
	// Codes are the pieces it is for.
	Codes []string `json:"codes"`
	// Open: not even to be opened; otherwise not dug up, tugged or lifted.
	Open bool `json:"open"`
	// Until is the last day of it; UnlessShoot ends it earlier, when a shoot shows.
	Until       time.Time `json:"until"`
	UnlessShoot bool      `json:"unless_shoot"`
	Why         string    `json:"why"`
}

// leave says which pieces are let be on a day, those of one reason and day together. A cut face that still dries is
// left dry; hidden roots are not dug for before a shoot shows, or before first roots may be there.
func leave(standing []*Piece, m plant.MediumRow, cover plant.CoverStateRow, w Where, at time.Time) []Leave {
	out := []Leave{}
	add := func(code string, l Leave) {
		if plant.Days(at, l.Until) < 1 {
			return
		}
		for i := range out {
			if out[i].Why == l.Why && out[i].Open == l.Open && out[i].Until.Equal(l.Until) {
				out[i].Codes = append(out[i].Codes, code)
				return
			}
		}
		l.Codes = []string{code}
		out = append(out, l)
	}
	for _, p := range standing {
		if on(p.RootedOn, at) || on(p.ShootOn, at) {
			continue
		}
		if dries := p.CutOn.In(at.Location()).Add(time.Duration(p.Group.CallusHours.High * float64(time.Hour))); p.Group.Succulent && dries.After(at) {
			add(p.Code, Leave{Until: midnight(dries).AddDate(0, 0, 1), Why: "Its cut face is drying: no water, do not move it."})
		}
		if !m.Hidden {
			continue
		}
		first, _ := p.Group.RootTimes(p.Kind)
		// As all times, longer in the dark half; by the day it was set, so that the day does not wander.
		first = first.Times(1 + plant.Darkness(p.SetOn, w.Southern)*(w.Numbers.Of(darkTimes)-1))
		row := p.wants(m.Medium).Row()
		l := Leave{Open: cover.Tight && row.Shut, Until: midnight(p.SetOn.In(at.Location())).AddDate(0, 0, int(first.Low)), Why: "Early roots snap: do not dig or tug before roots may be there."}
		if m.UntilShoot {
			l.Until, l.UnlessShoot, l.Why = midnight(p.SetOn.In(at.Location())).AddDate(0, 0, int(first.High)), true, "Roots are hidden and snap: do not dig before a shoot shows."
		}
		if l.Open {
			l.Why = "Look through the lid; do not open it: it stays humid only while it is shut."
		}
		add(p.Code, l)
	}
	slices.SortStableFunc(out, func(a, b Leave) int { return a.Until.Compare(b.Until) })
	return out
}
