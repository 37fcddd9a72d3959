package climate

import (
	"cmp"
	"math"
	"math/bits"
	"slices"
	"time"

	"clearjar/core/number"
	"clearjar/core/plant"
)

// Reading is what a hygrometer said at a minute.
type Reading struct {
	At time.Time `json:"at"`
	Air
}

// Extent is the least, the mean and the most of what was read.
type Extent struct {
	Min  float64 `json:"min"`
	Mean float64 `json:"mean"`
	Max  float64 `json:"max"`
}

// with is the range of this and another, of n and m readings.
func (r Extent) with(n int, o Extent, m int) Extent {
	return Extent{math.Min(r.Min, o.Min), (r.Mean*float64(n) + o.Mean*float64(m)) / float64(n+m), math.Max(r.Max, o.Max)}
}

// Stretch is what the readings of a stretch of time come to: degrees C, percent, kPa.
type Stretch struct {
	From time.Time `json:"from"`
	// N is how many readings it rests on.
	N        int    `json:"n"`
	Temp     Extent `json:"temp"`
	Humidity Extent `json:"humidity"`
	Deficit  Extent `json:"deficit"`
}

// StretchOf is the stretch of one reading.
func StretchOf(r Reading) Stretch {
	one := func(v float64) Extent { return Extent{v, v, v} }
	return Stretch{r.At, 1, one(r.TempC), one(r.HumidityPct), one(r.DeficitKPa())}
}

// With is the stretch of this one and another; it begins where the earlier one does.
func (s Stretch) With(o Stretch) Stretch {
	switch {
	case s.N == 0:
		return o
	case o.N == 0:
		return s
	}
	out := Stretch{s.From, s.N + o.N, s.Temp.with(s.N, o.Temp, o.N), s.Humidity.with(s.N, o.Humidity, o.N), s.Deficit.with(s.N, o.Deficit, o.N)}
	if o.From.Before(s.From) {
		out.From = o.From
	}
	return out
}

// Stretches gathers stretches into stretches of a length, oldest first; a stretch without readings is left out. The stretches
// are counted from a start.
func Stretches(all []Stretch, start time.Time, length time.Duration) []Stretch {
	out := []Stretch{}
	at := map[int64]int{}
	for _, s := range all {
		k := int64(math.Floor(float64(s.From.Sub(start)) / float64(length)))
		i, known := at[k]
		if !known {
			i = len(out)
			at[k] = i
			out = append(out, Stretch{})
		}
		out[i] = out[i].With(s)
		out[i].From = start.Add(time.Duration(k) * length)
	}
	slices.SortFunc(out, func(a, b Stretch) int { return a.From.Compare(b.From) })
	return out
}

// Hour is what is kept of an hour whose readings are older than they are kept one by one: its stretch, and which of its
// minutes are counted in it, so that a reading that comes again is not counted again.
type Hour struct {
	Stretch
	Minutes uint64
}

// Count is how many readings are counted in it.
func (h Hour) Count() int { return bits.OnesCount64(h.Minutes) }

// Take counts a reading of this hour in; false when its minute was counted before.
func (h *Hour) Take(r Reading) bool {
	bit := uint64(1) << uint(r.At.UTC().Minute())
	if h.Minutes&bit != 0 {
		return false
	}
	h.Minutes |= bit
	h.Stretch = h.With(StretchOf(r))
	h.From = r.At.UTC().Truncate(time.Hour)
	h.N = h.Count()
	return true
}

// Weighed is the air of a stretch of time held against what a stage wants.
type Weighed struct {
	// Hours is how much of the stretch was read, Outside for how long one of its faults was there.
	Hours   float64 `json:"hours"`
	Outside float64 `json:"outside"`
	// Faults are the faults, the longest first.
	Faults []Lasting `json:"faults"`
}

// Lasting is one fault, for how long, and what to do.
type Lasting struct {
	Finding
	Hours float64 `json:"hours"`
}

// Weigh holds the stretches of a stretch against what a stage wants: each stretch counts as long as length, by its means.
func Weigh(t number.Table, stretches []Stretch, length time.Duration, stage Stage) Weighed {
	w := Weighed{Faults: []Lasting{}}
	for _, s := range stretches {
		w.Hours += length.Hours()
		found := stage.faults(t, s.Temp.Mean, s.Deficit.Mean)
		if len(found) > 0 {
			w.Outside += length.Hours()
		}
		for _, f := range found {
			w.last(f, length.Hours())
		}
	}
	slices.SortStableFunc(w.Faults, func(a, b Lasting) int { return cmp.Compare(b.Hours, a.Hours) })
	return w
}

func (w *Weighed) last(f Fault, hours float64) {
	for i := range w.Faults {
		if w.Faults[i].Fault == f {
			w.Faults[i].Hours += hours
			return
		}
	}
	w.Faults = append(w.Faults, Lasting{Finding{f, advice[f]}, hours})
}

// Read is how long readings are kept one by one, and from when a sensor counts as silent.
var (
	keptDays    = number.Define(plant.Number{Key: "climate.kept_days", Label: "Readings are kept one by one for", Value: 30, Low: 2, High: 400, Unit: "days", Basis: plant.Assumed("older ones are kept by the hour")})
	silentAfter = number.Define(plant.Number{Key: "climate.silent_after", Label: "A sensor counts as silent after", Value: 3, Low: 0.5, High: 72, Unit: "hours", Basis: plant.Assumed("most post every few minutes")})
)

// KeptSince is the hour before which readings are kept by the hour only.
func KeptSince(t number.Table, now time.Time) time.Time {
	return now.Add(-time.Duration(t.Of(keptDays) * 24 * float64(time.Hour))).UTC().Truncate(time.Hour)
}

// Silent tells whether a sensor has said nothing for too long.
func Silent(t number.Table, last, now time.Time) bool {
	return now.Sub(last).Hours() > t.Of(silentAfter)
}
