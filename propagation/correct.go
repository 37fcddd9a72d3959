package propagation

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"sort"
	"strings"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/core/readiness"
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

// Corrected is a correction that was made, in words.
type Corrected struct {
	On   time.Time `json:"on"`
	Kind string    `json:"kind"`
	Says string    `json:"says"`
}

// target is what a correction is about: how it is read and written.
type target[T any] struct {
	kind string
	id   uuid.UUID
	load func(g *Garden) (T, error)
	// save refuses what cannot be.
	save func(g *Garden, becomes T) error
}

// correct puts something right and keeps what it said before.
func correct[T any](ctx context.Context, g *Garden, c Correction[T], t target[T]) error {
	return g.keep(ctx, fact{c.ID, "correction", t.id, c}, func(g *Garden) error {
		now, err := t.load(g)
		if err != nil {
			return err
		}
		if c.Was != nil && !alike(*c.Was, now) {
			return ConflictError{Reason: "This was changed elsewhere meanwhile. Both are shown; nothing was overwritten.", Theirs: now, Yours: c.Becomes}
		}
		if alike(now, c.Becomes) {
			return nil
		}
		if err := t.save(g, c.Becomes); err != nil {
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
		return g.store.AddCorrection(ctx, sqlgen.AddCorrectionParams{ID: c.ID, Kind: t.kind, About: t.id, Was: was, Becomes: becomes})
	})
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

// addCorrections adds what was said before, in words.
func (g *Garden) addCorrections(ctx context.Context, about uuid.UUID, to *[]Corrected) error {
	rows, err := g.store.CorrectionsOf(ctx, []uuid.UUID{about})
	for _, r := range rows {
		*to = append(*to, Corrected{r.RecordedAt, r.Kind, g.differs(r.Was, r.Becomes)})
	}
	return err
}

// differs says what changed from one to the other.
func (g *Garden) differs(was, becomes []byte) string {
	var a, b map[string]any
	if json.Unmarshal(was, &a) != nil || json.Unmarshal(becomes, &b) != nil {
		return ""
	}
	say := func(v any) string {
		switch v := v.(type) {
		case nil:
			return "nothing"
		case string:
			if t, err := time.Parse(time.RFC3339Nano, v); err == nil {
				return t.In(g.zone).Format("2 Jan 2006")
			}
			if v == "" {
				return "nothing"
			}
			return v
		}
		return fmt.Sprint(v)
	}
	keys := []string{}
	for k := range a {
		keys = append(keys, k)
	}
	for k := range b {
		if _, ok := a[k]; !ok {
			keys = append(keys, k)
		}
	}
	sort.Strings(keys)
	parts := []string{}
	for _, k := range keys {
		if was, now := say(a[k]), say(b[k]); was != now {
			parts = append(parts, fmt.Sprintf("%s was %s, now %s", strings.ReplaceAll(strings.TrimSuffix(k, "_mm"), "_", " "), was, now))
		}
	}
	return strings.Join(parts, "; ")
}

// CorrectMother puts right what is said of a mother. Cuttings keep their codes.
func (g *Garden) CorrectMother(ctx context.Context, id uuid.UUID, c Correction[MotherWords]) (Mother, error) {
	words, err := c.Becomes.clean()
	if err != nil {
		return Mother{}, err
	}
	err = correct(ctx, g, c, target[MotherWords]{
		"mother", id,
		func(g *Garden) (MotherWords, error) {
			if _, err := g.store.LockMother(ctx, id); err != nil {
				return MotherWords{}, missing(err, "This mother")
			}
			m, err := g.store.MotherByID(ctx, id)
			return MotherWords{m.Name, m.GroupKey, m.Provenance, m.Pattern}, err
		},
		func(g *Garden, _ MotherWords) error {
			return g.store.CorrectMother(ctx, sqlgen.CorrectMotherParams{ID: id, Name: words.Name, GroupKey: words.GroupKey, Provenance: words.Provenance, Pattern: words.Pattern})
		},
	})
	if err != nil {
		return Mother{}, err
	}
	return g.MotherPage(ctx, id)
}

// VesselWords is what is said of a vessel. Its kind stays: what stood in it stood in that medium.
type VesselWords struct {
	Name string `json:"name" maxLength:"400"`
	// Place is the name of the shelf; a new name makes a new shelf.
	Place string `json:"place" maxLength:"400"`
	plant.Vessel
}

// CorrectVessel puts right what is said of a vessel: name, place, sizes.
func (g *Garden) CorrectVessel(ctx context.Context, id uuid.UUID, c Correction[VesselWords]) (VesselView, error) {
	if err := c.Becomes.Check(); err != nil {
		return VesselView{}, err
	}
	err := correct(ctx, g, c, target[VesselWords]{
		"vessel", id,
		func(g *Garden) (VesselWords, error) {
			v, err := g.store.LockVessel(ctx, id)
			if err != nil {
				return VesselWords{}, missing(err, "This vessel")
			}
			place, err := g.store.PlaceByID(ctx, v.PlaceID)
			return VesselWords{v.Name, place.Name, vesselView(v).Vessel}, err
		},
		func(g *Garden, to VesselWords) error {
			v, err := g.store.VesselByID(ctx, id)
			if err != nil {
				return err
			}
			if v.Kind != string(to.Kind) {
				return plant.Refuse("kind", "a vessel keeps its kind: what stood in it stood in that medium. Add another vessel and move the pieces.")
			}
			standing, err := g.store.CountInVessel(ctx, sqlgen.CountInVesselParams{VesselID: id, ButNot: uuid.Nil})
			if err != nil {
				return err
			}
			if int64(to.Holds) < standing {
				return plant.Refuse("holds", "%d stand in it", standing)
			}
			name, err := plant.CleanName("name", to.Name, 80)
			if err != nil {
				return err
			}
			place, err := g.placeNamed(ctx, to.Place)
			if err != nil {
				return err
			}
			return g.store.CorrectVessel(ctx, sqlgen.CorrectVesselParams{
				ID: id, Name: name, PlaceID: place.ID, WidthMm: to.WidthMM, DepthMm: to.DepthMM, HeightMm: to.HeightMM, WallMm: to.WallMM, FillMm: to.FillMM, Holds: int32(to.Holds),
			})
		},
	})
	if err != nil {
		return VesselView{}, err
	}
	row, err := g.store.VesselByID(ctx, id)
	return vesselView(row), err
}

// PlaceWords is the name of a shelf.
type PlaceWords struct {
	Name string `json:"name" maxLength:"400"`
}

// CorrectPlace renames a shelf.
func (g *Garden) CorrectPlace(ctx context.Context, id uuid.UUID, c Correction[PlaceWords]) (Place, error) {
	name, err := plant.CleanName("name", c.Becomes.Name, 80)
	if err != nil {
		return Place{}, err
	}
	err = correct(ctx, g, c, target[PlaceWords]{
		"place", id,
		func(g *Garden) (PlaceWords, error) {
			p, err := g.store.PlaceByID(ctx, id)
			return PlaceWords{p.Name}, missing(err, "This shelf")
		},
		func(g *Garden, _ PlaceWords) error {
			return g.store.CorrectPlace(ctx, sqlgen.CorrectPlaceParams{ID: id, Name: name})
		},
	})
	if store.BrokenRule(err) == "place_name_unique" {
		return Place{}, plant.Refuse("name", "there is a shelf of that name already")
	}
	return Place{id, name}, err
}

// Dated is when something happened.
type Dated struct {
	On time.Time `json:"on"`
}

// datedKind is a kind of fact whose date can be corrected: how it is read and written, and of which cuttings it is.
type datedKind struct {
	load func(g *Garden, ctx context.Context, id uuid.UUID) (on time.Time, cuttings []uuid.UUID, err error)
	save func(g *Garden, ctx context.Context, id uuid.UUID, on time.Time) error
}

var datedKinds = map[string]datedKind{
	"cut": {
		func(g *Garden, ctx context.Context, id uuid.UUID) (time.Time, []uuid.UUID, error) {
			c, err := g.store.CutByID(ctx, id)
			if err != nil {
				return time.Time{}, nil, err
			}
			rows, err := g.store.CuttingsOfCuts(ctx, []uuid.UUID{id})
			ids := []uuid.UUID{}
			for _, r := range rows {
				ids = append(ids, r.ID)
			}
			return c.CutOn, ids, err
		},
		func(g *Garden, ctx context.Context, id uuid.UUID, on time.Time) error {
			return g.store.CorrectCut(ctx, sqlgen.CorrectCutParams{ID: id, CutOn: on})
		},
	},
	"set": {
		func(g *Garden, ctx context.Context, id uuid.UUID) (time.Time, []uuid.UUID, error) {
			r, err := g.store.SettingByID(ctx, id)
			return r.SetOn, []uuid.UUID{r.CuttingID}, err
		},
		func(g *Garden, ctx context.Context, id uuid.UUID, on time.Time) error {
			return g.store.CorrectSetting(ctx, sqlgen.CorrectSettingParams{ID: id, SetOn: on})
		},
	},
	"potted": {
		func(g *Garden, ctx context.Context, id uuid.UUID) (time.Time, []uuid.UUID, error) {
			r, err := g.store.PottingByID(ctx, id)
			return r.PottedOn, []uuid.UUID{r.CuttingID}, err
		},
		func(g *Garden, ctx context.Context, id uuid.UUID, on time.Time) error {
			return g.store.CorrectPotting(ctx, sqlgen.CorrectPottingParams{ID: id, PottedOn: on})
		},
	},
	"given": {
		func(g *Garden, ctx context.Context, id uuid.UUID) (time.Time, []uuid.UUID, error) {
			r, err := g.store.HandoverByID(ctx, id)
			return r.GivenOn, []uuid.UUID{r.CuttingID}, err
		},
		func(g *Garden, ctx context.Context, id uuid.UUID, on time.Time) error {
			return g.store.CorrectHandover(ctx, sqlgen.CorrectHandoverParams{ID: id, GivenOn: on})
		},
	},
	"cut_back": {
		func(g *Garden, ctx context.Context, id uuid.UUID) (time.Time, []uuid.UUID, error) {
			r, err := g.store.CutBackByID(ctx, id)
			return r.CutOn, []uuid.UUID{r.CuttingID}, err
		},
		func(g *Garden, ctx context.Context, id uuid.UUID, on time.Time) error {
			return g.store.CorrectCutBack(ctx, sqlgen.CorrectCutBackParams{ID: id, CutOn: on})
		},
	},
	"watered": {
		func(g *Garden, ctx context.Context, id uuid.UUID) (time.Time, []uuid.UUID, error) {
			r, err := g.store.WateringByID(ctx, id)
			return r.WateredOn, nil, err
		},
		func(g *Garden, ctx context.Context, id uuid.UUID, on time.Time) error {
			return g.store.CorrectWatering(ctx, sqlgen.CorrectWateringParams{ID: id, WateredOn: on})
		},
	},
}

// CorrectDate puts right when something happened. The order of what happened to a cutting must still make sense.
func (g *Garden) CorrectDate(ctx context.Context, kind string, id uuid.UUID, c Correction[Dated]) (Dated, error) {
	k, ok := datedKinds[kind]
	if !ok {
		return Dated{}, plant.Refuse("kind", "%q has no date to correct", kind)
	}
	err := correct(ctx, g, c, target[Dated]{
		kind, id,
		func(g *Garden) (Dated, error) {
			on, cuttings, err := k.load(g, ctx, id)
			if err != nil {
				return Dated{}, missing(err, "This record")
			}
			for _, c := range cuttings {
				if _, err := g.lockCutting(ctx, c); err != nil {
					return Dated{}, err
				}
			}
			return Dated{on}, nil
		},
		func(g *Garden, to Dated) error {
			if err := g.checkDay("on", to.On, earliestRecord, "any record"); err != nil {
				return err
			}
			if err := k.save(g, ctx, id, to.On); err != nil {
				return err
			}
			_, cuttings, err := k.load(g, ctx, id)
			for _, c := range cuttings {
				if err == nil {
					err = g.checkOrder(ctx, c)
				}
			}
			return err
		},
	})
	return c.Becomes, err
}

// checkOrder refuses a life whose days contradict each other: set before it was cut, potted before it was set.
func (g *Garden) checkOrder(ctx context.Context, id uuid.UUID) error {
	c, err := g.lockCutting(ctx, id)
	if err != nil {
		return err
	}
	settings, err := g.store.SettingsOf(ctx, id)
	if err != nil {
		return err
	}
	last := c.CutOn
	for _, s := range settings {
		if err := g.checkDay("on", s.SetOn, c.CutOn, "the cut"); err != nil {
			return err
		}
		last = s.SetOn
	}
	looks, err := g.store.LooksOfCuttings(ctx, []uuid.UUID{id})
	if err != nil {
		return err
	}
	for _, l := range looks {
		if plant.Days(c.CutOn.In(g.zone), l.LookedAt.In(g.zone)) < 0 {
			return plant.Refuse("on", "there is a look of %s, before the cut", l.LookedAt.In(g.zone).Format("2 Jan 2006"))
		}
	}
	if c.PottedOn != nil {
		if err := g.checkDay("on", *c.PottedOn, last, "it was set"); err != nil {
			return err
		}
	}
	if c.GivenOn != nil {
		if err := g.checkDay("on", *c.GivenOn, c.CutOn, "the cut"); err != nil {
			return err
		}
	}
	if c.OutcomeKind != nil {
		return g.checkOutcome(c, readiness.Outcome{Kind: *c.OutcomeKind, Why: *c.OutcomeWhy, On: *c.EndedOn})
	}
	return nil
}

// OutcomeWords is how a cutting ended.
type OutcomeWords struct {
	readiness.Outcome
	Note string `json:"note,omitempty" maxLength:"2000"`
}

// CorrectOutcome puts right how, when and why a cutting ended.
func (g *Garden) CorrectOutcome(ctx context.Context, id uuid.UUID, c Correction[OutcomeWords]) (CuttingPage, error) {
	note, err := plant.CleanText("note", c.Becomes.Note, 500)
	if err != nil {
		return CuttingPage{}, err
	}
	var cutting uuid.UUID
	err = correct(ctx, g, c, target[OutcomeWords]{
		"outcome", id,
		func(g *Garden) (OutcomeWords, error) {
			o, err := g.store.OutcomeByID(ctx, id)
			if err != nil {
				return OutcomeWords{}, missing(err, "This outcome")
			}
			cutting = o.CuttingID
			return OutcomeWords{readiness.Outcome{On: o.EndedOn, Kind: o.Kind, Why: o.Why}, o.Note}, nil
		},
		func(g *Garden, to OutcomeWords) error {
			row, err := g.lockCutting(ctx, cutting)
			if err != nil {
				return err
			}
			if err := g.checkOutcome(row, to.Outcome); err != nil {
				return err
			}
			return g.store.CorrectOutcome(ctx, sqlgen.CorrectOutcomeParams{ID: id, Kind: to.Kind, EndedOn: to.On, Why: to.Why, Note: note})
		},
	})
	if err != nil {
		return CuttingPage{}, err
	}
	if cutting == uuid.Nil { // the same correction again
		o, err := g.store.OutcomeByID(ctx, id)
		if err != nil {
			return CuttingPage{}, missing(err, "This outcome")
		}
		cutting = o.CuttingID
	}
	return g.CuttingPage(ctx, cutting)
}
