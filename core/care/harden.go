package care

import (
	"slices"
	"time"

	"clearjar/core/number"
	"clearjar/core/plant"
)

// Course is how a vessel's pieces get used to drier air: the steps that are to come, with their days.
type Course struct {
	Steps []CourseStep `json:"steps"`
	// Held says what stops it; empty while it goes on.
	Held string `json:"held,omitempty"`
	// PotFrom is the day after the last step.
	PotFrom time.Time `json:"pot_from"`
}

// CourseStep is one step: how the cover is put, and on which day.
type CourseStep struct {
	Cover plant.CoverState `json:"cover"`
	Label string           `json:"label"`
	On    time.Time        `json:"on"`
	Done  bool             `json:"done"`
}

// harden lays out the steps from where the cover stands and asks for the one that is due. A step is due when the one
// before it has had its days; a droop since the cover was moved last holds it until leaves are seen fresh.
func harden(c *collected, v Vessel, sort plant.VesselSort, now plant.CoverState, standing []*Piece, base, at time.Time, t number.Table) *Course {
	out := &Course{Steps: []CourseStep{}}
	since := v.Record.CoverSince
	if since.IsZero() {
		since = base
	}
	// on is the day the step in hand is due: the first one when the last piece had roots.
	due := base
	for _, p := range standing {
		if p.RootedOn != nil && p.RootedOn.After(due) {
			due = *p.RootedOn
		}
	}
	due = midnight(due.In(at.Location()))
	asked := false
	for _, s := range sort.Harden {
		word, ok := sort.Word(s.State)
		if !ok {
			continue
		}
		step := CourseStep{Cover: s.State, Label: word.Label, On: due, Done: openness(s.State) <= openness(now)}
		if step.Done {
			if s.State == now {
				due = midnight(since.In(at.Location()))
				step.On = due
			}
		} else {
			if due.Before(midnight(at)) && asked {
				due = midnight(at)
			}
			step.On = due
			if !asked {
				asked = true
				out.Held = held(v, standing, since, at, t)
				if out.Held == "" && plant.Days(due, at) >= 0 {
					c.cover(sort, s.State, due, "All have roots: they get used to drier air, step by step.")
					due = midnight(at)
				} else {
					c.later(due)
				}
			}
		}
		out.Steps = append(out.Steps, step)
		due = due.AddDate(0, 0, t.Int(s.Days))
	}
	out.PotFrom = due
	return out
}

// held says what stops hardening off: a droop seen since the cover was moved. One seen on a round holds for some days,
// one noted of a piece until its leaves are seen fresh.
func held(v Vessel, standing []*Piece, since, at time.Time, t number.Table) string {
	droops := []string{}
	for _, p := range standing {
		if on(p.DroopsOn, at) && plant.Days(since, *p.DroopsOn) >= 0 {
			droops = append(droops, p.Code)
		}
	}
	if len(droops) > 0 {
		return plant.Listed(droops) + " droops since: a step back, and on when the leaves are firm again."
	}
	if slices.ContainsFunc(signTable, func(s plant.SignRow) bool {
		seen, ok := v.Record.Seen[s.Sign]
		return s.Holds && ok && plant.Days(since, seen) >= 0 && plant.Days(seen, at) < t.Int(droopHolds)
	}) {
		return "Leaves drooped since: a step back, and on when they are firm again."
	}
	return ""
}
