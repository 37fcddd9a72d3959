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
		if kept[i], err = measureLook(t, r.ID, l.Seen, r.Traces, roundJarAt(settings[l.CuttingID], l.LookedAt)); err != nil {
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
func measureLook(t number.Table, id uuid.UUID, seen plant.Look, lines trace.Lines, roundJar bool) (lookMeasured, error) {
	out := lookMeasured{id, make([]rootphoto.Measured, len(seen.Roots))}
	paths, of := [][]plant.Point{}, []int{}
	for i, r := range seen.Roots {
		out.Lengths[i] = rootphoto.Measured{LengthMM: r.LengthMM, LowMM: r.LowMM, HighMM: r.HighMM}
		if r.How == plant.Traced && i < len(lines) && len(lines[i]) > 1 {
			paths, of = append(paths, lines[i]), append(of, i)
		}
	}
	if seen.Scale == nil {
		return out, nil
	}
	got, err := rootphoto.Measure(t, *seen.Scale, paths, rootphoto.Setting{RoundJar: roundJar})
	if err != nil {
		return out, err
	}
	for i, m := range got.Roots {
		out.Lengths[of[i]] = m
	}
	return out, nil
}

// roundJarAt tells whether it hung in a round jar of water when it was looked at.
func roundJarAt(settings []sqlgen.SettingsOfCuttingsRow, at time.Time) bool {
	round := false
	for _, s := range settings {
		if s.SetOn.After(at) {
			break
		}
		sort, _ := plant.VesselKind(s.VesselKind).Sort()
		round = sort.Round && !plant.Medium(s.Medium).Row().Hidden
	}
	return round
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
