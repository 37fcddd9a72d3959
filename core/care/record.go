package care

import (
	"errors"
	"time"

	"clearjar/core/plant"
)

// Visit is one visit to one vessel: what was done, what was seen, how the cover was left.
type Visit struct {
	At    time.Time        `json:"at"`
	Acts  []plant.Act      `json:"acts"`
	Seen  []plant.Sign     `json:"seen"`
	Cover plant.CoverState `json:"cover,omitempty"`
	// PutOff is why it was left for another day; empty when it was not.
	PutOff string `json:"put_off,omitempty"`
}

// Check refuses a visit that cannot have been: acts and signs that are unknown or belong to another medium, a state
// its cover cannot have, and a visit on which nothing was done, seen or put off.
func (v Visit) Check(in plant.Vessel, well bool) error {
	var all []error
	sort, ok := in.Kind.Sort()
	if !ok {
		return plant.Refuse("kind", "%q is not a vessel", in.Kind)
	}
	medium := in.Medium.Row()
	for _, a := range v.Acts {
		switch row, ok := a.Row(); {
		case !ok:
			all = append(all, plant.Refuse("acts", "%q is nothing one does on a round", a))
		case !row.In(medium, len(sort.Covers) > 1):
			all = append(all, plant.Refuse("acts", "%s: not in %s in a %s", row.Label, in.Medium, sort.Label))
		}
	}
	for _, s := range v.Seen {
		switch row, ok := s.Row(); {
		case !ok:
			all = append(all, plant.Refuse("seen", "%q is nothing one sees on a round", s))
		case !row.In(medium):
			all = append(all, plant.Refuse("seen", "%s: not in %s", row.Label, in.Medium))
		}
	}
	if v.Cover != "" {
		all = append(all, in.CheckCover("cover", v.Cover))
	}
	if len(v.Acts)+len(v.Seen) == 0 && v.Cover == "" && v.PutOff == "" && !well {
		all = append(all, plant.Refuse("acts", "say what was done, seen, or why it is put off"))
	}
	return errors.Join(all...)
}

// Record is what visits come to on a day: when each thing was done and seen last. It does not matter in which order
// the visits of a day were noted.
type Record struct {
	Done map[plant.Act]time.Time
	Seen map[plant.Sign]time.Time
	// Cover is how it was left last, empty when nobody said; CoverSince since when.
	Cover      plant.CoverState
	CoverSince time.Time
	// Visited is the last visit, PutOff the last time it was put off.
	Visited time.Time
	PutOff  time.Time
}

// Sum is the record of visits as it stands at the end of a day in its zone; later ones are left out.
func Sum(visits []Visit, day time.Time) Record {
	r := Record{Done: map[plant.Act]time.Time{}, Seen: map[plant.Sign]time.Time{}}
	for _, v := range visits {
		at := v.At.In(day.Location())
		if plant.Days(at, day) < 0 {
			continue
		}
		for _, a := range v.Acts {
			r.Did(a, at)
		}
		for _, s := range v.Seen {
			r.Saw(s, at)
		}
		if v.Cover != "" {
			r.Covered(v.Cover, at)
		}
		if v.PutOff == "" {
			r.Visit(at)
		} else if at.After(r.PutOff) {
			r.PutOff = at
		}
	}
	return r
}

// Visit notes a visit that was not put off: it was looked at.
func (r *Record) Visit(at time.Time) {
	r.Did(plant.Glance, at)
	if at.After(r.Visited) {
		r.Visited = at
	}
}

// Saw notes a sign.
func (r *Record) Saw(s plant.Sign, at time.Time) { latest(r.Seen, s, at) }

func latest[K comparable](of map[K]time.Time, k K, at time.Time) {
	if at.After(of[k]) {
		of[k] = at
	}
}

// Did notes an act, and what is done with it.
func (r *Record) Did(a plant.Act, at time.Time) {
	latest(r.Done, a, at)
	row, _ := a.Row()
	for _, also := range row.Also {
		latest(r.Done, also, at)
	}
}

// Covered notes how the cover was left; of two of one instant the more open one.
func (r *Record) Covered(s plant.CoverState, at time.Time) {
	r.Did(plant.SetCover, at)
	if at.After(r.CoverSince) || at.Equal(r.CoverSince) && openness(s) > openness(r.Cover) {
		r.Cover, r.CoverSince = s, at
	}
}
