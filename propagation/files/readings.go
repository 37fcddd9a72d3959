package files

import (
	"context"
	"fmt"
	"sort"

	"github.com/google/uuid"

	"clearjar/core/climate"
	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/files/exchange"
	"clearjar/propagation/outside"
)

// ExportReadings writes what the sensors of a place said: one by one, and where it is older the mean of each hour.
func ExportReadings(ctx context.Context, g *propagation.Garden, place uuid.UUID) ([]byte, error) {
	all, err := outside.StretchesAt(ctx, g, place, propagation.EarliestRecord, g.Now().Add(propagation.Slack))
	if err != nil {
		return nil, err
	}
	return exchange.ReadingsCSV(all)
}

// ImportReadings reads a CSV file of what a sensor read. Every row is checked first: with a bad row nothing is kept,
// unless keepGood asks for the good ones. Reading a file twice keeps it once.
func ImportReadings(ctx context.Context, g *propagation.Garden, sensor uuid.UUID, data []byte, keepGood bool) (ImportReport, error) {
	report := ImportReport{Names: []string{}}
	key, err := outside.SensorNamed(ctx, g, sensor)
	if err != nil {
		return report, err
	}
	rows, bad, err := exchange.ReadReadings(data, g.Zone)
	if err != nil {
		return report, err
	}
	good := make([]climate.Reading, 0, len(rows))
	for _, r := range rows {
		if err := outside.CheckReading(g, r.Reading, propagation.EarliestRecord); err != nil {
			for _, f := range plant.Refusals(err) {
				bad.Add(r.Line, f.Field, f.Reason)
			}
			continue
		}
		good = append(good, r.Reading)
	}
	sort.SliceStable(bad.Rows, func(i, j int) bool { return bad.Rows[i].Line < bad.Rows[j].Line })
	report.Read, report.Bad, report.BadCount = len(good), bad.Rows, bad.Count
	if bad.Count > 0 && !keepGood {
		report.Says = nothingKept(bad.Count)
		return report, nil
	}
	for from := 0; from < len(good); from += outside.MostReadings {
		taken, err := outside.TakeIn(ctx, g, sensor, good[from:min(from+outside.MostReadings, len(good))], propagation.EarliestRecord)
		if err != nil {
			return report, fmt.Errorf("after %d of %d: %w", from, len(good), err)
		}
		report.Kept += taken.Kept
		report.Same += taken.Repeated
	}
	if report.Kept > 0 {
		report.Names = append(report.Names, key.Name)
	}
	report.Says = fmt.Sprintf("%d readings kept, %d of a minute that was here already, %d bad.", report.Kept, report.Same, report.BadCount)
	return report, nil
}
