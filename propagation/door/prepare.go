package door

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/bench"
	"clearjar/store/sqlgen"
)

// NewPlan is the fact that the grower settled on a plan and is going to carry it out.
type NewPlan struct {
	ID uuid.UUID `json:"id"`
	// MadeAt is when it was settled; left out for when this was made.
	MadeAt *time.Time `json:"made_at,omitempty"`
	bench.PlanWish
}

func (p NewPlan) named() named { return named{id: p.ID, kind: "cut_plan"} }

// mostPlans bounds the plans that are kept.
const mostPlans = 20000

func (p NewPlan) write(ctx context.Context, g *Entry) error {
	if err := errors.Join(p.Limits.Check(), p.Aim.Check(p.Limits), bench.CheckStems(p.Stems)); err != nil {
		return err
	}
	n, err := g.Store.CountCutPlans(ctx)
	if err != nil {
		return err
	}
	if n >= mostPlans {
		return plant.Refuse("id", "at most %d plans are kept", mostPlans)
	}
	laid, mother, err := bench.Lay(ctx, g.Garden, p.PlanWish)
	if err != nil {
		return err
	}
	answer, err := bench.PlanOn(laid, p.PlanWish)
	if err != nil {
		return err
	}
	pieces := 0
	for _, s := range answer.Stems {
		if len(s.Plan.Refused) > 0 {
			return plant.Refuse("stems", "%s", s.Plan.Refused[0])
		}
		pieces += len(s.Plan.Pieces)
	}
	if pieces == 0 {
		return plant.Refuse("stems", "there is no knife on this plan")
	}
	made := g.decided
	if p.MadeAt != nil {
		made = *p.MadeAt
	}
	if err := g.CheckDay("made_at", made, propagation.EarliestRecord, "any record"); err != nil {
		return err
	}
	mark(&g.touched.Plans, p.ID)
	mark(&g.touched.Mothers, mother.ID)
	if _, err := g.Store.AddCutPlan(ctx, sqlgen.AddCutPlanParams{ID: p.ID, MotherID: mother.ID, Wish: p.Wish, MadeAt: made}); err != nil {
		return err
	}
	for i, s := range answer.Stems {
		skip := []int32{}
		for _, n := range p.Stems[i].Skip {
			skip = append(skip, int32(n))
		}
		if err := g.Store.AddCutPlanStem(ctx, sqlgen.AddCutPlanStemParams{
			PlanID: p.ID, StemID: s.StemID, MapVersion: int32(s.Version), Position: int32(i), KnivesMm: s.Plan.KnivesMM, Skip: skip,
		}); err != nil {
			return err
		}
	}
	return nil
}

// Tick is the fact that a line of the checklist was ticked or unticked.
type Tick struct {
	ID       uuid.UUID `json:"id"`
	Step     string    `json:"step" maxLength:"60"`
	Done     bool      `json:"done"`
	TickedAt time.Time `json:"ticked_at"`
}

// BenchTick is a tick with the plan it is on.
type BenchTick struct {
	PlanID uuid.UUID `json:"plan_id"`
	Tick
}

func (t BenchTick) named() named { return named{t.ID, "bench_tick", t.PlanID} }

func (t BenchTick) write(ctx context.Context, g *Entry) error {
	p, err := bench.PlanPage(ctx, g.Garden, t.PlanID)
	if err != nil {
		return err
	}
	known := false
	for _, s := range p.Steps {
		known = known || s.Key == t.Step
	}
	if !known {
		return plant.Refuse("step", "%q is not a step of this plan", t.Step)
	}
	if err := g.CheckDay("ticked_at", t.TickedAt, propagation.EarliestRecord, "any record"); err != nil {
		return err
	}
	mark(&g.touched.Plans, t.PlanID)
	_, err = g.Store.AddBenchTick(ctx, sqlgen.AddBenchTickParams{ID: t.ID, PlanID: t.PlanID, Step: t.Step, Done: t.Done, TickedAt: t.TickedAt, MadeAt: g.decided})
	return err
}

// carriedOut refuses a cut that names a plan of another mother, or one that was carried out already, unless by this very cut.
func (g *Entry) carriedOut(ctx context.Context, c Cut, mother uuid.UUID) error {
	if c.PlanID == nil {
		return nil
	}
	plan, err := g.Store.CutPlanByID(ctx, *c.PlanID)
	if err != nil {
		return propagation.Missing(err, "This plan")
	}
	if plan.MotherID != mother {
		return plant.Refuse("plan_id", "that is the plan of another mother")
	}
	cuts, err := g.Store.CutsOfPlan(ctx, *c.PlanID)
	if err != nil {
		return err
	}
	for _, had := range cuts {
		if had.ID != bench.StemCutID(c.ID, had.StemID) {
			return propagation.ConflictError{Reason: "This plan was already carried out, perhaps in another tab. Nothing was cut."}
		}
	}
	return nil
}
