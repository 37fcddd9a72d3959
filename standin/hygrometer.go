// Package standin holds simulated devices that ship with the application, so that it can be tried without any: a
// hygrometer in a cabinet.
package standin

import (
	"math"
	"math/rand/v2"
	"time"

	"clearjar/core/climate"
)

// Hygrometer is a simulated hygrometer in a planted glass cabinet. Its air follows the hour of the day in Zone; now and
// then somebody opens the door, it falls silent, or it starts anew with a clock that is wrong.
type Hygrometer struct {
	Zone *time.Location
	Seed uint64
	// MeanC and MeanPct are what the air is on the whole.
	MeanC, MeanPct float64
	// Faultless leaves out the silences and the wrong clock.
	Faultless bool
}

// Cabinet is a hygrometer in a cabinet as it usually is.
func Cabinet(zone *time.Location, seed uint64) Hygrometer {
	return Hygrometer{Zone: zone, Seed: seed, MeanC: 23.4, MeanPct: 88}
}

// What happens, and how often: a door a few times a day, a silence every few days, a wrong clock now and then.
const (
	doorsADay    = 2
	doorOpens    = 12 * time.Minute
	recovers     = 25 * time.Minute
	doorDropsPct = 34
	doorDropsC   = 1.6
	silentOneIn  = 4 // days
	silentFor    = 95 * time.Minute
	wrongOneIn   = 9 // days
	wrongFor     = 20 * time.Minute
)

// chance gives what is drawn for a day, the same every time.
func (h Hygrometer) chance(day int64, what uint64) *rand.Rand {
	return rand.New(rand.NewPCG(h.Seed^what*0x9e3779b97f4a7c15, uint64(day))) //nolint:gosec // a simulation
}

// At is what it says at an instant; ok is false while it is silent.
func (h Hygrometer) At(at time.Time) (r climate.Reading, ok bool) {
	t := at.In(h.Zone)
	midnight := time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, h.Zone)
	day := midnight.Unix() / 86_400
	hour := t.Sub(midnight).Hours()
	wave := math.Sin((hour - 9) / 24 * 2 * math.Pi)
	weather := h.chance(day, 1).NormFloat64()
	noise := h.chance(at.Unix(), 2)
	tempC := h.MeanC + 2.1*wave + 0.6*weather + 0.08*noise.NormFloat64()
	humidity := h.MeanPct - 5*wave - 2*weather + 0.6*noise.NormFloat64()
	doors := h.chance(day, 3)
	for range doorsADay {
		opened := midnight.Add(time.Duration((8 + 13*doors.Float64()) * float64(time.Hour)))
		if since := t.Sub(opened); since >= 0 {
			left := 1.0
			if since > doorOpens {
				left = math.Exp(-float64(since-doorOpens) / float64(recovers))
			}
			tempC, humidity = tempC-doorDropsC*left, humidity-doorDropsPct*left
		}
	}
	r = climate.Reading{At: at, Air: climate.Air{TempC: math.Round(tempC*10) / 10, HumidityPct: math.Round(math.Max(5, math.Min(99.9, humidity))*10) / 10}}
	if h.Faultless {
		return r, true
	}
	during := func(what uint64, oneIn int64, length time.Duration) bool {
		c := h.chance(day, what)
		start := midnight.Add(time.Duration(c.Float64() * 22 * float64(time.Hour)))
		return c.Int64N(oneIn) == 0 && !t.Before(start) && t.Before(start.Add(length))
	}
	if during(5, wrongOneIn, wrongFor) {
		// It started anew, and counts from the first day its clock knows.
		r.At = time.Date(2000, 1, 1, 0, 0, 0, 0, time.UTC).Add(t.Sub(midnight))
	}
	return r, !during(4, silentOneIn, silentFor)
}

// Between is what it says from one instant to another, once every step.
func (h Hygrometer) Between(from, to time.Time, step time.Duration) []climate.Reading {
	out := []climate.Reading{}
	for at := from; at.Before(to); at = at.Add(step) {
		if r, ok := h.At(at); ok {
			out = append(out, r)
		}
	}
	return out
}
