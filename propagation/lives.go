package propagation

import (
	"context"
	"encoding/json"
	"fmt"

	"github.com/google/uuid"

	"clearjar/core/life"
	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/core/readiness"
	"clearjar/store/sqlgen"
)

// lived is a cutting as its facts tell it: its life, and beside it what only names and places it.
type lived struct {
	life.Life
	row      sqlgen.CuttingsRow
	settings []sqlgen.SettingsOfCuttingsRow
	looks    []sqlgen.LooksOfCuttingsRow
	pot      *potting.Pot
	// thicknessMM is that of the stem it was cut from.
	thicknessMM float64
}

// vesselID is the vessel it was put into last, nil when it never was.
func (l lived) vesselID() uuid.UUID {
	if len(l.settings) == 0 {
		return uuid.Nil
	}
	return l.settings[len(l.settings)-1].VesselID
}

// school is the one it is judged under: the grower's choice, else its group's.
func (l lived) school() plant.SchoolKey {
	if s := plant.SchoolKey(l.row.School); s != "" {
		return s
	}
	return l.Group.School
}

// evidence is what is known of it today.
func (l lived) evidence(g *Garden) readiness.Evidence {
	return readiness.Of(l.Life, g.Today(), g.southern)
}

// livesOf loads cuttings with all their facts. One that was taken back is not among them.
func (g *Garden) livesOf(ctx context.Context, ids []uuid.UUID) ([]lived, error) {
	if len(ids) == 0 {
		return []lived{}, nil
	}
	rows, err := g.store.Cuttings(ctx, ids)
	if err != nil {
		return nil, err
	}
	stems := make([]uuid.UUID, len(rows))
	for i, r := range rows {
		stems[i] = r.StemID
	}
	maps, err := g.mapsCut(ctx, stems)
	if err != nil {
		return nil, err
	}
	looks, err := g.store.LooksOfCuttings(ctx, ids)
	if err != nil {
		return nil, err
	}
	settings, err := g.store.SettingsOfCuttings(ctx, ids)
	if err != nil {
		return nil, err
	}
	backs, err := g.store.CutBacksOfCuttings(ctx, ids)
	if err != nil {
		return nil, err
	}
	numbers, err := g.numbers(ctx)
	if err != nil {
		return nil, err
	}
	if err := g.measureLooks(ctx, numbers, looks, byCutting(settings, func(s sqlgen.SettingsOfCuttingsRow) uuid.UUID { return s.CuttingID })); err != nil {
		return nil, err
	}
	looksOf := byCutting(looks, func(l sqlgen.LooksOfCuttingsRow) uuid.UUID { return l.CuttingID })
	settingsOf := byCutting(settings, func(s sqlgen.SettingsOfCuttingsRow) uuid.UUID { return s.CuttingID })
	backsOf := byCutting(backs, func(b sqlgen.CutBack) uuid.UUID { return b.CuttingID })
	out := make([]lived, len(rows))
	for i, r := range rows {
		if out[i], err = g.lived(r, maps[mapKey{r.StemID, r.MapVersion}], settingsOf[r.ID], looksOf[r.ID], backsOf[r.ID]); err != nil {
			return nil, err
		}
		out[i].Numbers = numbers
	}
	return out, nil
}

func byCutting[T any](rows []T, of func(T) uuid.UUID) map[uuid.UUID][]T {
	out := map[uuid.UUID][]T{}
	for _, r := range rows {
		out[of(r)] = append(out[of(r)], r)
	}
	return out
}

type mapKey struct {
	stem    uuid.UUID
	version int32
}

// mapsCut gives the map each stem was cut on.
func (g *Garden) mapsCut(ctx context.Context, stems []uuid.UUID) (map[mapKey]plant.Stem, error) {
	rows, err := g.store.StemMapsCut(ctx, stems)
	if err != nil {
		return nil, err
	}
	out := map[mapKey]plant.Stem{}
	for _, r := range rows {
		out[mapKey{r.StemID, r.Version}] = r.Map
	}
	return out, nil
}

// lived makes a life of the rows of one cutting, in the grower's zone.
func (g *Garden) lived(r sqlgen.CuttingsRow, stem plant.Stem, settings []sqlgen.SettingsOfCuttingsRow, looks []sqlgen.LooksOfCuttingsRow, backs []sqlgen.CutBack) (lived, error) {
	group, _ := plant.GroupNamed(r.GroupKey)
	leaf := r.Piece.Leaves > len(r.Piece.Strip)
	l := lived{row: r, settings: settings, looks: looks, thicknessMM: stem.ThicknessMM, Life: life.Life{
		Group: group, Kind: r.Piece.Kind, Form: stem.Form, Nodes: stem.Nodes[r.FirstNode-1 : r.LastNode], BaseMM: r.Piece.BelowMM,
		LeafKept: &leaf, CutOn: r.CutOn.In(g.zone), Looks: make([]life.LookOn, 0, len(looks)),
	}}
	for _, s := range settings {
		kind, _ := plant.VesselKind(s.VesselKind).Sort()
		l.Settings = append(l.Settings, life.Setting{On: s.SetOn.In(g.zone), Medium: kind.Medium, Nodes: int(s.SetNodes)})
	}
	for _, look := range looks {
		l.Looks = append(l.Looks, life.LookOn{On: look.LookedAt.In(g.zone), Look: look.Seen})
	}
	for _, b := range backs {
		l.CutBacks = append(l.CutBacks, cutBackOf(b, g.zone))
	}
	if r.PottedOn != nil {
		l.Potted, l.pot = &life.Potting{On: r.PottedOn.In(g.zone)}, &potting.Pot{}
		if err := json.Unmarshal(r.Pot, l.pot); err != nil {
			return l, fmt.Errorf("pot of %s: %w", r.Code, err)
		}
	}
	if r.OutcomeKind != nil {
		l.Outcome = &life.Outcome{On: r.EndedOn.In(g.zone), Kind: *r.OutcomeKind, Why: *r.OutcomeWhy}
	}
	if r.GivenOn != nil {
		given := r.GivenOn.In(g.zone)
		l.GivenOn = &given
	}
	return l, nil
}

// oneLife is the life of one cutting.
func (g *Garden) oneLife(ctx context.Context, id uuid.UUID) (lived, error) {
	all, err := g.livesOf(ctx, []uuid.UUID{id})
	if err != nil {
		return lived{}, err
	}
	if len(all) == 0 {
		return lived{}, MissingError{"This cutting"}
	}
	return all[0], nil
}
