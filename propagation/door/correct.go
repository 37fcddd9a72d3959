package door

import (
	"bytes"
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"clearjar/core/life"
	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
	"clearjar/store"
	"clearjar/store/sqlgen"
)

// Correction is the fact that something was put right. What it said before stays in the record.
type Correction[T any] struct {
	ID uuid.UUID `json:"id"`
	// Was is what stood there when the correction was made; when something else stands by now, both are shown.
	Was     *T `json:"was,omitempty"`
	Becomes T  `json:"becomes"`
}

// target is what a correction is about: how it is read, locked against others, and written.
type target[T any] struct {
	kind string
	id   uuid.UUID
	load func() (T, error)
	// save refuses what cannot be.
	save func(becomes T) error
}

// correct puts something right and keeps what it said before.
func correct[T any](ctx context.Context, g *Entry, c Correction[T], t target[T]) error {
	now, err := t.load()
	if err != nil {
		return err
	}
	if c.Was != nil && !alike(*c.Was, now) {
		return propagation.ConflictError{Reason: "This was changed elsewhere meanwhile. Both are shown; nothing was overwritten.", Theirs: now, Yours: c.Becomes}
	}
	if alike(now, c.Becomes) {
		return nil
	}
	if err := t.save(c.Becomes); err != nil {
		return err
	}
	was, err := json.Marshal(now)
	if err != nil {
		return err
	}
	becomes, err := json.Marshal(c.Becomes)
	if err != nil {
		return err
	}
	return g.Store.AddCorrection(ctx, sqlgen.AddCorrectionParams{ID: c.ID, Kind: t.kind, About: t.id, Was: was, Becomes: becomes})
}

// alike tells whether two values say the same: instants by when they are, not how they are written.
func alike(a, b any) bool {
	plain := func(v any) []byte {
		text, _ := json.Marshal(v)
		var any any
		_ = json.Unmarshal(text, &any)
		text, _ = json.Marshal(utc(any))
		return text
	}
	return bytes.Equal(plain(a), plain(b))
}

func utc(v any) any {
	switch v := v.(type) {
	case map[string]any:
		for k, inner := range v {
			v[k] = utc(inner)
		}
	case string:
		if t, err := time.Parse(time.RFC3339Nano, v); err == nil {
			return t.UTC().Truncate(time.Microsecond).Format(time.RFC3339Nano)
		}
	}
	return v
}

// MotherCorrection puts right what is said of a mother. Cuttings keep their codes.
type MotherCorrection struct {
	About uuid.UUID `json:"about"`
	Correction[MotherWords]
}

func (c MotherCorrection) named() named { return named{c.ID, "mother_correction", c.About} }

func (c MotherCorrection) write(ctx context.Context, g *Entry) error {
	words, err := c.Becomes.Clean()
	if err != nil {
		return err
	}
	return correct(ctx, g, c.Correction, target[MotherWords]{
		"mother", c.About,
		func() (MotherWords, error) {
			if err := g.lockMother(ctx, c.About); err != nil {
				return MotherWords{}, err
			}
			m, err := g.Store.MotherByID(ctx, c.About)
			return MotherWords{m.Name, m.GroupKey, m.Provenance, m.Pattern}, err
		},
		func(MotherWords) error {
			// Her name and group are those of everything cut from her.
			cuttings, err := g.Store.CuttingsOfMother(ctx, c.About)
			if err != nil {
				return err
			}
			mark(&g.touched.Cuttings, cuttings...)
			return g.Store.CorrectMother(ctx, sqlgen.CorrectMotherParams{ID: c.About, Name: words.Name, GroupKey: words.GroupKey, Provenance: words.Provenance, Pattern: words.Pattern})
		},
	})
}

// VesselWords is what is said of a vessel. Its medium stays: what stood in it stood in that medium.
type VesselWords struct {
	Name string `json:"name" maxLength:"400"`
	// Place is the name of the shelf; a new name makes a new shelf.
	Place string `json:"place" maxLength:"400"`
	plant.Vessel
}

// VesselCorrection puts right what is said of a vessel: name, place, kind, sizes, parts.
type VesselCorrection struct {
	About uuid.UUID `json:"about"`
	Correction[VesselWords]
}

func (c VesselCorrection) named() named { return named{c.ID, "vessel_correction", c.About} }

func (c VesselCorrection) write(ctx context.Context, g *Entry) error {
	filled, err := c.Becomes.Filled()
	if err != nil {
		return err
	}
	c.Becomes.Vessel = filled
	var v sqlgen.VesselNow
	return correct(ctx, g, c.Correction, target[VesselWords]{
		"vessel", c.About,
		func() (VesselWords, error) {
			var err error
			if v, err = g.lockVessel(ctx, c.About); err != nil {
				return VesselWords{}, err
			}
			place, err := g.Store.PlaceByID(ctx, v.PlaceID)
			mark(&g.touched.Places, v.PlaceID)
			return VesselWords{v.Name, place.Name, propagation.VesselOf(v).Vessel}, err
		},
		func(to VesselWords) error { return g.saveVessel(ctx, v, to) },
	})
}

func (g *Entry) saveVessel(ctx context.Context, v sqlgen.VesselNow, to VesselWords) error {
	if v.Medium != string(to.Medium) {
		return plant.Refuse("medium", "a vessel keeps its medium: what stood in it stood in that. Add another vessel and move the pieces.")
	}
	standing, err := g.Store.StandingIn(ctx, v.ID)
	if err != nil {
		return err
	}
	if int(to.Holds) < len(standing) {
		return plant.Refuse("holds", "%d stand in it", len(standing))
	}
	name, err := plant.CleanName("name", to.Name, 80)
	if err != nil {
		return err
	}
	place, err := g.placeNamed(ctx, to.Place)
	if err != nil {
		return err
	}
	first := place.ID // where it stood before any move
	moved, err := g.Store.CorrectLastMove(ctx, sqlgen.CorrectLastMoveParams{VesselID: v.ID, PlaceID: place.ID})
	if err != nil {
		return err
	}
	if moved > 0 {
		if first, err = g.Store.FirstPlaceOf(ctx, v.ID); err != nil {
			return err
		}
	}
	if v.Kind != string(to.Kind) { // lengths in photos rest on the kind
		cuttings, err := g.Store.CuttingsEverIn(ctx, v.ID)
		if err != nil {
			return err
		}
		mark(&g.touched.Cuttings, cuttings...)
	}
	return g.Store.CorrectVessel(ctx, sqlgen.CorrectVesselParams{
		ID: v.ID, Name: name, PlaceID: first, WidthMm: to.WidthMM, DepthMm: to.DepthMM, HeightMm: to.HeightMM, WallMm: to.WallMM, FillMm: to.FillMM, Holds: int32(to.Holds),
		Kind: string(to.Kind), Parts: partsText(to.Parts),
	})
}

// PlaceWords is the name of a shelf.
type PlaceWords struct {
	Name string `json:"name" maxLength:"400"`
}

// PlaceCorrection renames a shelf.
type PlaceCorrection struct {
	About uuid.UUID `json:"about"`
	Correction[PlaceWords]
}

func (c PlaceCorrection) named() named { return named{c.ID, "place_correction", c.About} }

func (c PlaceCorrection) write(ctx context.Context, g *Entry) error {
	name, err := plant.CleanName("name", c.Becomes.Name, 80)
	if err != nil {
		return err
	}
	err = correct(ctx, g, c.Correction, target[PlaceWords]{
		"place", c.About,
		func() (PlaceWords, error) {
			p, err := g.Store.PlaceByID(ctx, c.About)
			mark(&g.touched.Places, p.ID)
			return PlaceWords{p.Name}, propagation.Missing(err, "This shelf")
		},
		func(PlaceWords) error {
			return g.Store.CorrectPlace(ctx, sqlgen.CorrectPlaceParams{ID: c.About, Name: name})
		},
	})
	if store.BrokenRule(err) == "place_name_unique" {
		return plant.Refuse("name", "there is a shelf of that name already")
	}
	return err
}

// Dated is when something happened.
type Dated struct {
	On time.Time `json:"on"`
}

// datedKind is a kind of fact whose date can be corrected: how it is read and written, and of which cuttings it is.
type datedKind struct {
	load func(ctx context.Context, g *Entry, id uuid.UUID) (on time.Time, cuttings []uuid.UUID, err error)
	save func(ctx context.Context, g *Entry, id uuid.UUID, on time.Time) error
}

// oneDated is a kind of fact that is a row of its own: its queries, when it was and of what, and its date as it is written.
func oneDated[Row, To any](
	load func(*sqlgen.Queries, context.Context, uuid.UUID) (Row, error), when func(*Entry, Row) (time.Time, []uuid.UUID),
	save func(*sqlgen.Queries, context.Context, To) error, to func(uuid.UUID, time.Time) To,
) datedKind {
	return datedKind{
		func(ctx context.Context, g *Entry, id uuid.UUID) (time.Time, []uuid.UUID, error) {
			row, err := load(g.Store.Queries, ctx, id)
			on, cuttings := when(g, row)
			return on, cuttings, err
		},
		func(ctx context.Context, g *Entry, id uuid.UUID, on time.Time) error {
			return save(g.Store.Queries, ctx, to(id, on))
		},
	}
}

var datedKinds = map[string]datedKind{
	"cut": {
		func(ctx context.Context, g *Entry, id uuid.UUID) (time.Time, []uuid.UUID, error) {
			c, err := g.Store.CutByID(ctx, id)
			if err != nil {
				return time.Time{}, nil, err
			}
			rows, err := g.Store.CuttingsOfCuts(ctx, []uuid.UUID{id})
			ids := []uuid.UUID{}
			for _, r := range rows {
				ids = append(ids, r.ID)
			}
			if c.ParentID != nil {
				ids = append(ids, *c.ParentID)
			}
			return c.CutOn, ids, err
		},
		func(ctx context.Context, g *Entry, id uuid.UUID, on time.Time) error {
			return g.Store.CorrectCut(ctx, sqlgen.CorrectCutParams{ID: id, CutOn: on})
		},
	},
	"set": oneDated((*sqlgen.Queries).SettingByID, func(_ *Entry, r sqlgen.Setting) (time.Time, []uuid.UUID) { return r.SetOn, []uuid.UUID{r.CuttingID} },
		(*sqlgen.Queries).CorrectSetting, func(id uuid.UUID, on time.Time) sqlgen.CorrectSettingParams {
			return sqlgen.CorrectSettingParams{ID: id, SetOn: on}
		}),
	"potted": {
		func(ctx context.Context, g *Entry, id uuid.UUID) (time.Time, []uuid.UUID, error) {
			p, err := g.Store.PottingByID(ctx, id)
			if err != nil {
				return time.Time{}, nil, err
			}
			in, err := g.Store.CuttingsOfPot(ctx, p.PotID)
			ids := []uuid.UUID{}
			for _, r := range in {
				ids = append(ids, r.CuttingID)
			}
			return p.PottedOn, ids, err
		},
		func(ctx context.Context, g *Entry, id uuid.UUID, on time.Time) error {
			return g.Store.CorrectPotting(ctx, sqlgen.CorrectPottingParams{ID: id, PottedOn: on})
		},
	},
	"given": oneDated((*sqlgen.Queries).HandoverByID, func(_ *Entry, r sqlgen.Handover) (time.Time, []uuid.UUID) { return r.GivenOn, []uuid.UUID{r.CuttingID} },
		(*sqlgen.Queries).CorrectHandover, func(id uuid.UUID, on time.Time) sqlgen.CorrectHandoverParams {
			return sqlgen.CorrectHandoverParams{ID: id, GivenOn: on}
		}),
	"cut_back": oneDated((*sqlgen.Queries).CutBackByID, func(_ *Entry, r sqlgen.CutBack) (time.Time, []uuid.UUID) { return r.CutOn, []uuid.UUID{r.CuttingID} },
		(*sqlgen.Queries).CorrectCutBack, func(id uuid.UUID, on time.Time) sqlgen.CorrectCutBackParams {
			return sqlgen.CorrectCutBackParams{ID: id, CutOn: on}
		}),
	"watered": oneDated((*sqlgen.Queries).WateringByID, func(g *Entry, r sqlgen.Watering) (time.Time, []uuid.UUID) {
		mark(&g.touched.Mothers, r.MotherID)
		return r.WateredOn, nil
	}, (*sqlgen.Queries).CorrectWatering, func(id uuid.UUID, on time.Time) sqlgen.CorrectWateringParams {
		return sqlgen.CorrectWateringParams{ID: id, WateredOn: on}
	}),
}

// DateCorrection puts right when something happened. The order of what happened to a cutting must still make sense.
type DateCorrection struct {
	Kind  string    `json:"kind" enum:"cut,set,potted,given,cut_back,watered"`
	About uuid.UUID `json:"about"`
	Correction[Dated]
}

func (c DateCorrection) named() named { return named{c.ID, "date_correction", c.About} }

func (c DateCorrection) write(ctx context.Context, g *Entry) error {
	k, ok := datedKinds[c.Kind]
	if !ok {
		return plant.Refuse("kind", "%q has no date to correct", c.Kind)
	}
	var cuttings []uuid.UUID
	return correct(ctx, g, c.Correction, target[Dated]{
		c.Kind, c.About,
		func() (on Dated, err error) {
			if on.On, cuttings, err = k.load(ctx, g, c.About); err != nil {
				return on, propagation.Missing(err, "This record")
			}
			for _, c := range cuttings {
				if _, err := g.lockCutting(ctx, c); err != nil {
					return on, err
				}
			}
			return on, nil
		},
		func(to Dated) error {
			if err := g.CheckDay("on", to.On, propagation.EarliestRecord, "any record"); err != nil {
				return err
			}
			if err := k.save(ctx, g, c.About, to.On); err != nil {
				return err
			}
			for _, c := range cuttings {
				if err := g.checkOrder(ctx, c); err != nil {
					return err
				}
			}
			return nil
		},
	})
}

// checkOrder refuses a life whose days contradict each other: set before it was cut, potted before it was set.
func (g *Entry) checkOrder(ctx context.Context, id uuid.UUID) error {
	l, err := conclude.OneLife(ctx, g.Garden, id)
	if err != nil {
		return err
	}
	if err := l.Check(); err != nil {
		return err
	}
	if l.Outcome != nil {
		return g.checkOutcome(l, *l.Outcome)
	}
	return nil
}

// OutcomeCorrection puts right how, when and why a cutting ended.
type OutcomeCorrection struct {
	About uuid.UUID `json:"about"`
	Correction[propagation.OutcomeWords]
}

func (c OutcomeCorrection) named() named { return named{c.ID, "outcome_correction", c.About} }

func (c OutcomeCorrection) write(ctx context.Context, g *Entry) error {
	note, err := plant.CleanText("note", c.Becomes.Note, 500)
	if err != nil {
		return err
	}
	var row conclude.Lived
	return correct(ctx, g, c.Correction, target[propagation.OutcomeWords]{
		"outcome", c.About,
		func() (propagation.OutcomeWords, error) {
			o, err := g.Store.OutcomeByID(ctx, c.About)
			if err != nil {
				return propagation.OutcomeWords{}, propagation.Missing(err, "This outcome")
			}
			row, err = g.lockCutting(ctx, o.CuttingID)
			return propagation.OutcomeWords{Outcome: life.Outcome{On: o.EndedOn, Kind: o.Kind, Why: o.Why}, Note: o.Note}, err
		},
		func(to propagation.OutcomeWords) error {
			if err := g.checkOutcome(row, to.Outcome); err != nil {
				return err
			}
			return g.Store.CorrectOutcome(ctx, sqlgen.CorrectOutcomeParams{ID: c.About, Kind: to.Kind, EndedOn: to.On, Why: to.Why, Note: note})
		},
	})
}
