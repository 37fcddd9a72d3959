package files

import (
	"bytes"
	"context"
	"encoding/csv"
	"fmt"
	"slices"

	"github.com/google/uuid"

	"clearjar/core/rootphoto/rsml"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
	"clearjar/store/sqlgen"
	"clearjar/store/trace"
)

// roots are those of one look, with their lines and lengths.
func roots(ctx context.Context, g *propagation.Garden, look uuid.UUID) (f rsml.File, err error) {
	row, err := g.Store.LookByID(ctx, look)
	if err != nil {
		return f, propagation.Missing(err, "This look")
	}
	l, err := conclude.OneLife(ctx, g, row.CuttingID)
	if err != nil {
		return f, err
	}
	at := slices.IndexFunc(l.LookRows, func(r sqlgen.LooksOfCuttingsRow) bool { return r.ID == look })
	if at < 0 {
		return f, propagation.MissingError{What: "This look"}
	}
	lines, err := g.Store.TracesOfLooks(ctx, []uuid.UUID{look})
	if err != nil {
		return f, err
	}
	seen := l.LookRows[at].Seen
	if len(lines) > 0 {
		seen = trace.Join(seen, lines[0].Traces)
	}
	f = rsml.File{Software: "Clear Jar", Key: look.String(), Label: l.Row.Code, At: l.LookRows[at].LookedAt, Roots: seen.Roots}
	if p := l.LookRows[at].PhotoID; p != nil {
		f.Image = p.String()
	}
	measured, err := conclude.MeasureSeen(l.Numbers, seen, nil, conclude.StoodAt(l.SetRows, f.At))
	f.MMPerPixel = measured.MMPerPixel
	return f, err
}

// RootsRSML are the traced roots of a look as an RSML file.
func RootsRSML(ctx context.Context, g *propagation.Garden, look uuid.UUID) ([]byte, error) {
	f, err := roots(ctx, g, look)
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	_, err = rsml.Write(&b, f)
	return b.Bytes(), err
}

// RootsCSV are all roots of a look, one a row; lengths in mm.
func RootsCSV(ctx context.Context, g *propagation.Garden, look uuid.UUID) ([]byte, error) {
	f, err := roots(ctx, g, look)
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	w := csv.NewWriter(&b)
	rows := [][]string{{"cutting", "looked_at", "root", "node", "order", "length_mm", "low_mm", "high_mm", "colour", "how", "points"}}
	for i, r := range f.Roots {
		mm := func(v float64) string { return fmt.Sprintf("%.1f", v) }
		rows = append(rows, []string{
			f.Label, f.At.UTC().Format("2006-01-02T15:04:05Z"), fmt.Sprint(i + 1), fmt.Sprint(r.Node), fmt.Sprint(r.Order),
			mm(r.LengthMM), mm(r.LowMM), mm(r.HighMM), string(r.Colour), r.How, fmt.Sprint(len(r.Path)),
		})
	}
	err = w.WriteAll(rows)
	return b.Bytes(), err
}
