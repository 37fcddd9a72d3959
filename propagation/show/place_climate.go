package show

import (
	"context"
	"time"

	"github.com/google/uuid"

	"clearjar/core/care"
	"clearjar/core/climate"
	"clearjar/propagation"
	"clearjar/propagation/outside"
)

// PlaceClimate is the air of a place over some days, held against what the pieces there want.
type PlaceClimate struct {
	Place   propagation.Place `json:"place"`
	Sensors []SensorNow       `json:"sensors"`
	// Stage is the one it is held against: that of the most delicate pieces here, or the one asked for.
	Stage climate.StageKey `json:"stage" enum:"unrooted,rooting,hardening"`
	Bands []Band           `json:"bands"`
	Since time.Time        `json:"since"`
	Until time.Time        `json:"until"`
	// StepMinutes is how long one stretch is.
	StepMinutes int               `json:"step_minutes"`
	Stretches   []climate.Stretch `json:"stretches"`
	// Last is what was read last, Judged what it means for this stage; left out when nothing was read.
	Last   *climate.Reading `json:"last,omitempty"`
	Judged *climate.Judged  `json:"judged,omitempty"`
	Says   []string         `json:"says"`
}

// SensorNow is a sensor with what it said last.
type SensorNow struct {
	outside.OutsideKey
	Last   *climate.Reading `json:"last,omitempty"`
	Silent bool             `json:"silent"`
}

// Band is what a stage wants, with the household's own numbers: kPa and degrees C.
type Band struct {
	Stage       climate.StageKey `json:"stage" enum:"unrooted,rooting,hardening"`
	Label       string           `json:"label"`
	DeficitLow  float64          `json:"deficit_low"`
	DeficitHigh float64          `json:"deficit_high"`
	TempLow     float64          `json:"temp_low"`
	TempHigh    float64          `json:"temp_high"`
}

// steps are how long a stretch is, by how many days are shown at most: never more than a few hundred on a chart.
var steps = []struct {
	days int
	step time.Duration
}{{2, 15 * time.Minute}, {8, time.Hour}, {40, 3 * time.Hour}, {400, 24 * time.Hour}}

// ClimateOf is the air of a place over some days, 1 to 400.
func ClimateOf(ctx context.Context, g *propagation.Garden, place uuid.UUID, days int, stage climate.StageKey) (PlaceClimate, error) {
	p, err := PlaceNow(ctx, g, place)
	if err != nil {
		return PlaceClimate{}, err
	}
	numbers, err := g.Numbers(ctx)
	if err != nil {
		return PlaceClimate{}, err
	}
	out := PlaceClimate{Place: p, Stage: stage, Says: []string{}, Until: g.Today()}
	if out.Stage == "" {
		if out.Stage, err = stageAt(ctx, g, place); err != nil {
			return out, err
		}
	}
	if out.Sensors, err = sensorsAt(ctx, g, place); err != nil {
		return out, err
	}
	row, _ := climate.StageNamed(out.Stage)
	for _, s := range climate.Stages() {
		out.Bands = append(out.Bands, Band{s.Key, s.Label, numbers.Of(s.DeficitLow), numbers.Of(s.DeficitHigh), numbers.Of(s.TempLow), numbers.Of(s.TempHigh)})
	}
	step := steps[len(steps)-1].step
	for i := len(steps) - 1; i >= 0; i-- {
		if days <= steps[i].days {
			step = steps[i].step
		}
	}
	// From midnight on, so that the steps stand under their hours.
	t := out.Until
	out.Since = time.Date(t.Year(), t.Month(), t.Day()-days+1, 0, 0, 0, 0, t.Location())
	if day := out.Until.Add(-24 * time.Hour); out.Since.After(day) {
		out.Since = time.Date(day.Year(), day.Month(), day.Day(), day.Hour(), 0, 0, 0, day.Location())
	}
	stretches, err := outside.StretchesAt(ctx, g, place, out.Since, out.Until.Add(time.Hour))
	if err != nil {
		return out, err
	}
	out.StepMinutes, out.Stretches = int(step.Minutes()), climate.Stretches(stretches, out.Since, step)
	var last time.Time
	for _, s := range out.Sensors {
		if s.Last != nil && s.Last.At.After(last) {
			last, out.Last = s.Last.At, s.Last
		}
	}
	if n := len(stretches); last.IsZero() && n > 0 {
		last = stretches[n-1].From
	}
	if out.Last != nil {
		judged, err := climate.Judge(numbers, out.Last.Air, nil, out.Stage)
		if err != nil {
			return out, err
		}
		out.Judged = &judged
	}
	out.Says = climate.Tell(numbers, stretches, last, out.Until, row)
	return out, nil
}

func sensorsAt(ctx context.Context, g *propagation.Garden, place uuid.UUID) ([]SensorNow, error) {
	keys, err := outside.Keys(ctx, g, outside.Sensor)
	if err != nil {
		return nil, err
	}
	last, err := outside.Last(ctx, g)
	if err != nil {
		return nil, err
	}
	numbers, err := g.Numbers(ctx)
	if err != nil {
		return nil, err
	}
	out := []SensorNow{}
	for _, k := range keys {
		if k.PlaceID == nil || *k.PlaceID != place {
			continue
		}
		s := SensorNow{OutsideKey: k}
		if r, ok := last[k.ID]; ok {
			r.At = r.At.In(g.Zone)
			s.Last = &r
			s.Silent = climate.Silent(numbers, r.At, g.Now())
		}
		out = append(out, s)
	}
	return out, nil
}

// stageAt is that of the most delicate pieces at a place.
func stageAt(ctx context.Context, g *propagation.Garden, place uuid.UUID) (climate.StageKey, error) {
	all, schools, err := vesselsInCare(ctx, g, g.Today(), nil)
	if err != nil {
		return "", err
	}
	numbers, err := g.Numbers(ctx)
	if err != nil {
		return "", err
	}
	here := []care.Vessel{}
	for _, v := range all {
		if v.row.PlaceID == place {
			here = append(here, v.vessel)
		}
	}
	return care.Stage(here, g.Today(), care.Where{Schools: schools, Numbers: numbers, Southern: g.Southern}), nil
}
