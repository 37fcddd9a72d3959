package exchange

import (
	"math"
	"strings"
	"time"

	"clearjar/core/climate"
)

// readingColumns are those of a file of readings: when, degrees C, percent.
var readingColumns = []string{"at", "temp_c", "humidity_pct"}

// ReadingRow is one reading with the line it stood in.
type ReadingRow struct {
	Line int
	climate.Reading
}

// clocks are the ways a time may be written: with its zone, or without, in the grower's own.
var clocks = []string{time.RFC3339, "2006-01-02T15:04:05", "2006-01-02 15:04:05", "2006-01-02T15:04", "2006-01-02 15:04"}

// ReadReadings reads a CSV file with the columns at, temp_c and humidity_pct. A time without a zone is of the one given.
func ReadReadings(data []byte, zone *time.Location) ([]ReadingRow, Bad, error) {
	var wrong Bad
	out := []ReadingRow{}
	err := read(data, readingColumns, readingColumns, &wrong, func(c *cell) {
		r := ReadingRow{Line: c.line}
		r.At = c.clock("at", zone)
		r.TempC, r.HumidityPct = c.decimal("temp_c", missing), c.decimal("humidity_pct", missing)
		if c.ok {
			out = append(out, r)
		}
	})
	return out, wrong, err
}

// ReadingsCSV writes the means of stretches in the columns that [ReadReadings] reads.
func ReadingsCSV(all []climate.Stretch) ([]byte, error) {
	rows := [][]string{readingColumns}
	for _, s := range all {
		at := s.From.UTC()
		rows = append(rows, []string{instant(&at), number(tenth(s.Temp.Mean)), number(tenth(s.Humidity.Mean))})
	}
	return write(rows)
}

func tenth(v float64) float64 { return math.Round(v*10) / 10 }

func (c *cell) clock(name string, zone *time.Location) time.Time {
	text := strings.TrimSpace(c.text(name))
	for _, form := range clocks {
		if at, err := time.ParseInLocation(form, text, zone); err == nil {
			return at
		}
	}
	c.refuse(name, "%q is not a time such as 2026-05-01T10:00:00Z or 2026-05-01 10:00", text)
	return time.Time{}
}
