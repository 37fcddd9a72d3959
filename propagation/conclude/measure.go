package conclude

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"clearjar/core"
	"clearjar/core/number"
	"clearjar/core/plant"
	"clearjar/core/rootphoto"
	"clearjar/core/rootphoto/measure"
	"clearjar/core/rootphoto/place"
	"clearjar/propagation"
	"clearjar/store/sqlgen"
	"clearjar/store/trace"
)

// lookMeasured is one look with its lengths, as they are kept.
type lookMeasured struct {
	LookID  uuid.UUID            `json:"look_id"`
	Lengths []rootphoto.Measured `json:"lengths"`
}

// measuredBy is the version that lengths are worked out by.
func measuredBy(t number.Table) string { return core.Measuring + "-" + t.Version() }

// measureLooks gives looks their lengths: those that are kept where they were worked out by this version
// of the measuring, and new ones, which are kept, where they were not. A root that was typed has what was typed.
func measureLooks(ctx context.Context, g *propagation.Garden, t number.Table, looks []sqlgen.LooksOfCuttingsRow, settings map[uuid.UUID][]sqlgen.SettingsOfCuttingsRow) error {
	version, anew := measuredBy(t), map[uuid.UUID]int{}
	ids := []uuid.UUID{}
	for i, l := range looks {
		switch {
		case !hasTraced(l.Seen):
		case l.MeasuredBy == version:
			if err := WithLengths(&looks[i].Seen, l.Lengths); err != nil {
				return err
			}
		default:
			anew[l.ID], ids = i, append(ids, l.ID)
		}
	}
	if len(ids) == 0 {
		return nil
	}
	rows, err := g.Store.TracesOfLooks(ctx, ids)
	if err != nil {
		return err
	}
	kept := make([]lookMeasured, len(rows))
	for i, r := range rows {
		l := &looks[anew[r.ID]]
		if kept[i], err = measureLook(t, r.ID, l.Seen, r.Traces, StoodAt(settings[l.CuttingID], l.LookedAt)); err != nil {
			return err
		}
		giveLengths(&l.Seen, kept[i].Lengths)
	}
	text, err := json.Marshal(kept)
	if err != nil {
		return err
	}
	return g.Store.KeepMeasured(ctx, sqlgen.KeepMeasuredParams{Version: version, Measured: text})
}

func hasTraced(l plant.Look) bool {
	for _, r := range l.Roots {
		if r.How == plant.Traced {
			return true
		}
	}
	return false
}

// measureLook works out the lengths of the traced roots of one look. Lines on a photo that gives no scale
// keep the length that was noted with them.
func measureLook(t number.Table, id uuid.UUID, seen plant.Look, lines trace.Lines, in measure.Stood) (lookMeasured, error) {
	out := lookMeasured{id, make([]rootphoto.Measured, len(seen.Roots))}
	paths, of := [][]plant.Point{}, []int{}
	for i, r := range seen.Roots {
		out.Lengths[i] = rootphoto.Measured{LengthMM: r.LengthMM, LowMM: r.LowMM, HighMM: r.HighMM}
		if r.How == plant.Traced && i < len(lines) && len(lines[i]) > 1 {
			paths, of = append(paths, lines[i]), append(of, i)
		}
	}
	got, err := MeasureSeen(t, seen, paths, in)
	if err != nil {
		return out, err
	}
	for i, m := range got.Roots {
		out.Lengths[of[i]] = m
	}
	return out, nil
}

// MeasureSeen are the lengths of lines on the photo of a look: by its tag and its vessel where those were accepted, else by
// two points; none where neither is known.
func MeasureSeen(t number.Table, seen plant.Look, paths [][]plant.Point, in measure.Stood) (rootphoto.Result, error) {
	switch {
	case seen.Sight != nil:
		return measure.Lines(t, *seen.Sight, in, paths)
	case seen.Scale != nil:
		return rootphoto.Measure(t, *seen.Scale, paths, rootphoto.Setting{RoundJar: in.Vessel().Shape == place.RoundJar})
	}
	return rootphoto.Result{}, nil
}

// StoodAt is what it stood in when it was looked at; before it was set, when it has no roots yet, what it was set into first.
// One that was never set lies on a board.
func StoodAt(settings []sqlgen.SettingsOfCuttingsRow, at time.Time) (in measure.Stood) {
	for i, s := range settings {
		if i > 0 && s.SetOn.After(at) {
			break
		}
		in = measure.Stood{Kind: plant.VesselKind(s.VesselKind), Medium: plant.Medium(s.Medium), WidthMM: s.WidthMm, HeightMM: s.HeightMm, WallMM: s.WallMm}
	}
	return in
}

// WithLengths lays the lengths that are kept of a look, as JSON, on its traced roots.
func WithLengths(l *plant.Look, kept []byte) error {
	var lengths []rootphoto.Measured
	if err := json.Unmarshal(kept, &lengths); err != nil {
		return err
	}
	giveLengths(l, lengths)
	return nil
}

func giveLengths(l *plant.Look, lengths []rootphoto.Measured) {
	for i := range l.Roots {
		if l.Roots[i].How == plant.Traced && i < len(lengths) {
			l.Roots[i].LengthMM, l.Roots[i].LowMM, l.Roots[i].HighMM = lengths[i].LengthMM, lengths[i].LowMM, lengths[i].HighMM
		}
	}
}
