package care

import (
	"time"

	"clearjar/core/climate"
)

// Stage is that of the most delicate pieces in some vessels, whose air is to be held against what they want: without
// roots where any of them has none, hardening off where all that stand are on their way to the room, else rooting.
func Stage(vessels []Vessel, at time.Time, w Where) climate.StageKey {
	standing, hardening := 0, 0
	for _, v := range vessels {
		pieces, _ := v.standing(at)
		if len(pieces) == 0 {
			continue
		}
		if _, all := rooted(pieces, at); !all {
			return climate.Unrooted
		}
		standing++
		if course := On(v, at, w).Harden; course != nil && len(course.Steps) > 0 && course.Steps[0].Done {
			hardening++
		}
	}
	switch {
	case standing == 0:
		return climate.Unrooted
	case hardening == standing:
		return climate.Hardening
	}
	return climate.Rooting
}
