package door

import (
	"context"
	"encoding/json"
	"fmt"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/bench"
	"clearjar/store"
	"clearjar/store/sqlgen"
)

// Withdrawal is the fact that something noted is taken back: a slip, or a record reopened. It stays in
// the record and counts no longer.
type Withdrawal struct {
	ID uuid.UUID `json:"id"`
	// Kind and About name the fact that is taken back.
	Kind  string    `json:"kind" enum:"look,set,potted,potful,outcome,given,watered,cut_back,cut,brought,mother,stem,vessel,plan,care,moved,emptied,parted,pot_visit,mother_potted"`
	About uuid.UUID `json:"about"`
}

// Withdrawn says what was taken back.
type Withdrawn struct {
	Kind  string    `json:"kind"`
	About uuid.UUID `json:"about"`
}

// withdrawals is how each kind is taken back; what others rest on is refused.
var withdrawals = map[string]func(ctx context.Context, g *Entry, id uuid.UUID) (int64, error){
	"look": func(ctx context.Context, g *Entry, id uuid.UUID) (int64, error) {
		l, err := g.Store.LookByID(ctx, id)
		if err != nil {
			return 0, err
		}
		if _, err := g.lockCutting(ctx, l.CuttingID); err != nil {
			return 0, err
		}
		later, err := g.Store.ReplacedBy(ctx, &id)
		if err != nil {
			return 0, err
		}
		if len(later) > 0 {
			return 0, propagation.ConflictError{Reason: "This look was corrected since: take the correction back first."}
		}
		return g.Store.WithdrawLook(ctx, id)
	},
	"set": func(ctx context.Context, g *Entry, id uuid.UUID) (int64, error) {
		s, err := g.Store.SettingByID(ctx, id)
		if err != nil {
			return 0, err
		}
		c, err := g.lockCutting(ctx, s.CuttingID)
		if err != nil {
			return 0, err
		}
		if c.Potted != nil {
			return 0, propagation.ConflictError{Reason: fmt.Sprintf("%s was potted since: take the potting back first.", c.Row.Code)}
		}
		return g.Store.WithdrawSetting(ctx, id)
	},
	"potted": withdrawPlant,
	"potful": withdrawPotful,
	"outcome": func(ctx context.Context, g *Entry, id uuid.UUID) (int64, error) {
		o, err := g.Store.OutcomeByID(ctx, id)
		if err != nil {
			return 0, err
		}
		if _, err := g.lockCutting(ctx, o.CuttingID); err != nil {
			return 0, err
		}
		return g.Store.WithdrawOutcome(ctx, id)
	},
	"given": func(ctx context.Context, g *Entry, id uuid.UUID) (int64, error) {
		h, err := g.Store.HandoverByID(ctx, id)
		if err != nil {
			return 0, err
		}
		if _, err := g.lockCutting(ctx, h.CuttingID); err != nil {
			return 0, err
		}
		return g.Store.WithdrawHandover(ctx, id)
	},
	"watered": func(ctx context.Context, g *Entry, id uuid.UUID) (int64, error) {
		w, err := g.Store.WateringByID(ctx, id)
		if err != nil {
			return 0, err
		}
		mark(&g.touched.Mothers, w.MotherID)
		return g.Store.WithdrawWatering(ctx, id)
	},
	"cut_back": func(ctx context.Context, g *Entry, id uuid.UUID) (int64, error) {
		b, err := g.Store.CutBackByID(ctx, id)
		if err != nil {
			return 0, err
		}
		c, err := g.lockCutting(ctx, b.CuttingID)
		if err != nil {
			return 0, err
		}
		if c.Potted != nil {
			return 0, propagation.ConflictError{Reason: fmt.Sprintf("%s was potted since: take the potting back first.", c.Row.Code)}
		}
		if _, err := g.Store.WithdrawSetting(ctx, uuid.NewSHA1(id, []byte("reset"))); err != nil {
			return 0, err
		}
		return g.Store.WithdrawCutBack(ctx, id)
	},
	"cut":           withdrawCut,
	"parted":        withdrawParting,
	"pot_visit":     withdrawPotVisit,
	"mother_potted": withdrawMotherPot,
	"brought":       withdrawBrought,
	"mother": func(ctx context.Context, g *Entry, id uuid.UUID) (int64, error) {
		if err := g.lockMother(ctx, id); err != nil {
			return 0, err
		}
		uses, err := g.Store.UsesOfMother(ctx, id)
		if err != nil {
			return 0, err
		}
		if uses > 0 {
			return 0, propagation.ConflictError{Reason: "Pieces were cut or planned from her: her name passes to them, so she stays."}
		}
		return g.Store.WithdrawMother(ctx, id)
	},
	"stem": func(ctx context.Context, g *Entry, id uuid.UUID) (int64, error) {
		stem, err := g.Store.StemByID(ctx, id)
		if err != nil {
			return 0, err
		}
		if err := g.lockMother(ctx, stem.MotherID); err != nil {
			return 0, err
		}
		mark(&g.touched.Stems, id)
		uses, err := g.Store.UsesOfStem(ctx, id)
		if err != nil {
			return 0, err
		}
		if uses > 0 {
			return 0, propagation.ConflictError{Reason: "Pieces were cut or planned from this stem: it stays in the record."}
		}
		return g.Store.WithdrawStem(ctx, id)
	},
	"vessel": func(ctx context.Context, g *Entry, id uuid.UUID) (int64, error) {
		if _, err := g.lockVessel(ctx, id); err != nil {
			return 0, err
		}
		n, err := g.Store.CountInVesselEver(ctx, id)
		if err != nil {
			return 0, err
		}
		if n > 0 {
			return 0, propagation.ConflictError{Reason: "Pieces stand or stood in it: it stays in their record. Say that it was emptied, and it leaves the shelf."}
		}
		return g.Store.WithdrawVessel(ctx, id)
	},
	"care": func(ctx context.Context, g *Entry, id uuid.UUID) (int64, error) {
		c, err := g.Store.CareByID(ctx, id)
		if err != nil {
			return 0, err
		}
		if _, err := g.lockVessel(ctx, c.VesselID); err != nil {
			return 0, err
		}
		return g.Store.WithdrawCare(ctx, id)
	},
	"moved": func(ctx context.Context, g *Entry, id uuid.UUID) (int64, error) {
		m, err := g.Store.VesselMoveByID(ctx, id)
		if err != nil {
			return 0, err
		}
		if _, err := g.lockVessel(ctx, m.VesselID); err != nil {
			return 0, err
		}
		return g.Store.WithdrawVesselMove(ctx, id)
	},
	"emptied": func(ctx context.Context, g *Entry, id uuid.UUID) (int64, error) {
		e, err := g.Store.VesselEndByID(ctx, id)
		if err != nil {
			return 0, err
		}
		if _, err := g.lockVessel(ctx, e.VesselID); err != nil {
			return 0, err
		}
		return g.Store.WithdrawVesselEnd(ctx, id)
	},
	"plan": func(ctx context.Context, g *Entry, id uuid.UUID) (int64, error) {
		mark(&g.touched.Plans, id)
		cuts, err := g.Store.CutsOfPlan(ctx, id)
		if err != nil {
			return 0, err
		}
		if len(cuts) > 0 {
			return 0, propagation.ConflictError{Reason: "This plan was carried out: take the cut back first."}
		}
		return g.Store.WithdrawCutPlan(ctx, id)
	},
}

func (w Withdrawal) named() named { return named{w.ID, "withdrawal", w.About} }

func (w Withdrawal) write(ctx context.Context, g *Entry) error {
	take, ok := withdrawals[w.Kind]
	if !ok {
		return plant.Refuse("kind", "%q cannot be taken back", w.Kind)
	}
	if err := g.mayTakeBack(ctx, w.About); err != nil {
		return err
	}
	n, err := take(ctx, g, w.About)
	if store.IsMissing(err) || (err == nil && n == 0) {
		return propagation.MissingError{What: "What was to be taken back"}
	}
	return err
}

type ownOnlyKey struct{}

// OwnOnly is a context in which only what the member noted who acts can be taken back.
func OwnOnly(ctx context.Context) context.Context { return context.WithValue(ctx, ownOnlyKey{}, true) }

// NotYoursError says that somebody else noted what was to be taken back.
type NotYoursError struct{}

func (NotYoursError) Error() string {
	return "Somebody else noted this: a keeper can take it back. Nothing was changed."
}

func (g *Entry) mayTakeBack(ctx context.Context, about uuid.UUID) error {
	if ctx.Value(ownOnlyKey{}) == nil {
		return nil
	}
	by, err := g.Store.NoterOf(ctx, about)
	if err != nil {
		return propagation.Missing(err, "What was to be taken back")
	}
	if me := store.Who(ctx); by == nil || *by != me {
		return NotYoursError{}
	}
	return nil
}

// withdrawCut takes a cut back: the pieces go, and their nodes stand on the mother again.
func withdrawCut(ctx context.Context, g *Entry, id uuid.UUID) (int64, error) {
	f, err := g.Store.FactByID(ctx, id)
	if err != nil {
		return 0, err
	}
	var c Cut
	if err := json.Unmarshal(f.Content, &c); err != nil {
		return 0, err
	}
	done := int64(0)
	for _, s := range c.Stems {
		n, err := g.withdrawOneCut(ctx, bench.StemCutID(id, s.StemID))
		if err != nil {
			return 0, err
		}
		done += n
	}
	return done, nil
}

func (g *Entry) withdrawOneCut(ctx context.Context, cut uuid.UUID) (int64, error) {
	lived, err := g.Store.LivedSince(ctx, sqlgen.LivedSinceParams{CutID: cut, But: []uuid.UUID{}})
	if err != nil {
		return 0, err
	}
	if lived > 0 {
		return 0, propagation.ConflictError{Reason: "Something happened to its pieces since: they were set, looked at or given away. Take that back first."}
	}
	row, err := g.Store.CutByID(ctx, cut)
	if err != nil {
		return 0, err
	}
	stem, err := g.Store.StemByID(ctx, row.StemID)
	if err != nil {
		return 0, err
	}
	if err := g.lockMother(ctx, stem.MotherID); err != nil {
		return 0, err
	}
	mark(&g.touched.Stems, row.StemID)
	pieces, err := g.Store.CuttingsOfCuts(ctx, []uuid.UUID{cut})
	if err != nil {
		return 0, err
	}
	for _, p := range pieces {
		mark(&g.touched.Cuttings, p.ID)
	}
	n, err := g.Store.WithdrawCut(ctx, cut)
	if err != nil || n == 0 {
		return n, err
	}
	if err := g.Store.FreeNodesOf(ctx, cut); err != nil {
		return 0, err
	}
	return n, g.Store.WithdrawCuttingsOf(ctx, cut)
}
