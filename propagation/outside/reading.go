package outside

import (
	"context"
	"slices"
	"time"

	"github.com/google/uuid"

	"clearjar/core/climate"
	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/store/sqlgen"
)

// MostReadings is how many readings may come at once.
const MostReadings = 10_000

// ahead is how far the clock of a sensor may run ahead.
const ahead = 10 * time.Minute

// mostRefused is how many refused readings an answer lists; the others are counted.
const mostRefused = 100

// ReadingsTaken is what became of readings that came in.
type ReadingsTaken struct {
	Kept int `json:"kept"`
	// Repeated are those of a minute of which there is one already: the first stays.
	Repeated int `json:"repeated"`
	// Refused lists the first of those that cannot be; RefusedCount is how many there are in all.
	Refused      []RefusedReading `json:"refused"`
	RefusedCount int              `json:"refused_count"`
}

// RefusedReading is a reading that cannot be, and why.
type RefusedReading struct {
	Index int       `json:"index"`
	At    time.Time `json:"at"`
	Field string    `json:"field"`
	Why   string    `json:"why"`
}

func (t *ReadingsTaken) refuse(i int, at time.Time, err error) {
	t.RefusedCount++
	if len(t.Refused) >= mostRefused {
		return
	}
	for _, f := range plant.Refusals(err) {
		t.Refused = append(t.Refused, RefusedReading{i, at, f.Field, f.Reason})
	}
}

// CheckReading refuses a reading that cannot be: air no box has, a time in the future, or one before there was a sensor.
func CheckReading(g *propagation.Garden, r climate.Reading, earliest time.Time) error {
	switch {
	case r.At.After(g.Now().Add(ahead)):
		return plant.Refuse("at", "lies in the future: the clock of the sensor is wrong")
	case r.At.Before(earliest):
		return plant.Refuse("at", "lies before this sensor was here: its clock is wrong, or it is a file, to be brought in as one")
	}
	return r.Check()
}

// TakeIn takes in what a sensor said, in whatever order: one reading a minute, the first that came. What cannot be is
// refused one by one, and keeps no other out. Readings older than they are kept one by one are counted into their hour.
func TakeIn(ctx context.Context, g *propagation.Garden, sensor uuid.UUID, all []climate.Reading, earliest time.Time) (ReadingsTaken, error) {
	taken := ReadingsTaken{Refused: []RefusedReading{}}
	numbers, err := g.Numbers(ctx)
	if err != nil {
		return taken, err
	}
	since := climate.KeptSince(numbers, g.Now())
	recent, old := map[time.Time]climate.Reading{}, []climate.Reading{}
	good := 0
	for i, r := range all {
		if err := CheckReading(g, r, earliest); err != nil {
			taken.refuse(i, r.At, err)
			continue
		}
		good++
		r.At = r.At.UTC().Truncate(time.Minute)
		if r.At.Before(since) {
			old = append(old, r)
		} else if _, there := recent[r.At]; !there {
			recent[r.At] = r
		}
	}
	err = g.In(ctx, func(g *propagation.Garden) error {
		row := sqlgen.AddReadingsParams{SensorID: sensor}
		for at, r := range recent {
			row.Ats, row.Temps, row.Humidities = append(row.Ats, at), append(row.Temps, float32(r.TempC)), append(row.Humidities, float32(r.HumidityPct))
		}
		n, err := g.Store.AddReadings(ctx, row)
		if err != nil {
			return err
		}
		// What is as old and not gathered yet goes first, so that none of it counts again.
		for more := len(old) > 0; more; {
			if more, err = gatherOf(ctx, g, sensor, since); err != nil {
				return err
			}
		}
		fresh, err := intoHours(ctx, g, sensor, old)
		taken.Kept = int(n) + fresh
		return err
	})
	if err != nil {
		return ReadingsTaken{}, err
	}
	taken.Repeated = good - taken.Kept
	return taken, nil
}

// intoHours counts readings into the hours they belong to; it gives how many were not counted there before.
func intoHours(ctx context.Context, g *propagation.Garden, sensor uuid.UUID, readings []climate.Reading) (int, error) {
	if len(readings) == 0 {
		return 0, nil
	}
	if _, err := g.Store.LockSensor(ctx, sensor); err != nil {
		return 0, err
	}
	hours := map[time.Time]*climate.Hour{}
	for _, r := range readings {
		hours[r.At.UTC().Truncate(time.Hour)] = &climate.Hour{}
	}
	asked := make([]time.Time, 0, len(hours))
	for h := range hours {
		asked = append(asked, h)
	}
	rows, err := g.Store.HoursOf(ctx, sqlgen.HoursOfParams{SensorID: sensor, Hours: asked})
	if err != nil {
		return 0, err
	}
	for _, r := range rows {
		*hours[r.Hour.UTC()] = hourOf(r)
	}
	n := 0
	for _, r := range readings {
		if hours[r.At.UTC().Truncate(time.Hour)].Take(r) {
			n++
		}
	}
	return n, g.Store.PutHours(ctx, paramsOf(sensor, hours))
}

func extentOf(least, mean, most float32) climate.Extent {
	return climate.Extent{Min: float64(least), Mean: float64(mean), Max: float64(most)}
}

func hourOf(r sqlgen.ReadingHour) climate.Hour {
	h := climate.Hour{Minutes: uint64(r.Minutes)} //nolint:gosec // bits, not a count
	h.From = r.Hour
	h.N = h.Count()
	h.Temp, h.Humidity, h.Deficit = extentOf(r.TempMin, r.TempMean, r.TempMax), extentOf(r.HumidityMin, r.HumidityMean, r.HumidityMax), extentOf(r.DeficitMin, r.DeficitMean, r.DeficitMax)
	return h
}

func paramsOf(sensor uuid.UUID, hours map[time.Time]*climate.Hour) sqlgen.PutHoursParams {
	p := sqlgen.PutHoursParams{SensorID: sensor}
	add := func(least, mean, most *[]float32, r climate.Extent) {
		*least, *mean, *most = append(*least, float32(r.Min)), append(*mean, float32(r.Mean)), append(*most, float32(r.Max))
	}
	for at, h := range hours {
		p.Hours, p.Minutes = append(p.Hours, at), append(p.Minutes, int64(h.Minutes)) //nolint:gosec // bits, not a count
		add(&p.TempMin, &p.TempMean, &p.TempMax, h.Temp)
		add(&p.HumidityMin, &p.HumidityMean, &p.HumidityMax, h.Humidity)
		add(&p.DeficitMin, &p.DeficitMean, &p.DeficitMax, h.Deficit)
	}
	return p
}

// atATime is how many old readings are gathered in one transaction.
const atATime = 5000

// Gather puts readings that are older than they are kept one by one into their hours.
func Gather(ctx context.Context, g *propagation.Garden) error {
	numbers, err := g.Numbers(ctx)
	if err != nil {
		return err
	}
	before := climate.KeptSince(numbers, g.Now())
	sensors, err := g.Store.SensorsWithOldReadings(ctx, before)
	if err != nil {
		return err
	}
	for _, sensor := range sensors {
		for more := true; more; {
			err := g.In(ctx, func(g *propagation.Garden) (err error) {
				more, err = gatherOf(ctx, g, sensor, before)
				return err
			})
			if err != nil {
				return err
			}
		}
	}
	return nil
}

// gatherOf puts some old readings of one sensor into their hours; more says that there may be others.
func gatherOf(ctx context.Context, g *propagation.Garden, sensor uuid.UUID, before time.Time) (more bool, err error) {
	if _, err := g.Store.LockSensor(ctx, sensor); err != nil {
		return false, err
	}
	rows, err := g.Store.TakeOldReadings(ctx, sqlgen.TakeOldReadingsParams{SensorID: sensor, Before: before, Most: atATime})
	if err != nil {
		return false, err
	}
	old := make([]climate.Reading, len(rows))
	for i, r := range rows {
		old[i] = readingOf(r.At, r.TempC, r.HumidityPct)
	}
	_, err = intoHours(ctx, g, sensor, old)
	return len(rows) == atATime, err
}

func readingOf(at time.Time, tempC, humidityPct float32) climate.Reading {
	return climate.Reading{At: at, Air: climate.Air{TempC: float64(tempC), HumidityPct: float64(humidityPct)}}
}

// StretchesAt are what the sensors of a place said between two instants, oldest first: one by one, or hour by hour where
// they are older.
func StretchesAt(ctx context.Context, g *propagation.Garden, place uuid.UUID, since, before time.Time) ([]climate.Stretch, error) {
	hours, err := g.Store.HoursAt(ctx, sqlgen.HoursAtParams{PlaceID: place, Since: since, Before: before})
	if err != nil {
		return nil, err
	}
	single, err := g.Store.ReadingsAt(ctx, sqlgen.ReadingsAtParams{PlaceID: place, Since: since, Before: before})
	if err != nil {
		return nil, err
	}
	out := make([]climate.Stretch, 0, len(hours)+len(single))
	for _, h := range hours {
		out = append(out, hourOf(h).Stretch)
	}
	for _, r := range single {
		out = append(out, climate.StretchOf(readingOf(r.At, r.TempC, r.HumidityPct)))
	}
	slices.SortStableFunc(out, func(a, b climate.Stretch) int { return a.From.Compare(b.From) })
	return out, nil
}

// Last is what each sensor said last, as far as it is kept one by one.
func Last(ctx context.Context, g *propagation.Garden) (map[uuid.UUID]climate.Reading, error) {
	rows, err := g.Store.LastReadings(ctx)
	if err != nil {
		return nil, err
	}
	out := map[uuid.UUID]climate.Reading{}
	for _, r := range rows {
		out[r.SensorID] = readingOf(r.At, r.TempC, r.HumidityPct)
	}
	return out, nil
}

// DayAir is what was read at a place over the last day: the warmest in degrees C, and the deficit of its mean air in kPa.
type DayAir struct{ HottestC, DeficitKPa float64 }

// LastDay is the air of the last day by place, where something was read.
func LastDay(ctx context.Context, g *propagation.Garden) (map[uuid.UUID]DayAir, error) {
	rows, err := g.Store.AirOfPlaces(ctx, sqlgen.AirOfPlacesParams{Since: g.Now().Add(-24 * time.Hour), Before: g.Now().Add(ahead)})
	if err != nil {
		return nil, err
	}
	out := map[uuid.UUID]DayAir{}
	for _, r := range rows {
		mean := climate.Air{TempC: float64(r.TempC), HumidityPct: float64(r.HumidityPct)}
		out[r.PlaceID] = DayAir{float64(r.HottestC), mean.DeficitKPa()}
	}
	return out, nil
}
