package propagation

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"

	"clearjar/core/cutplan"
	"clearjar/core/plant"
	"clearjar/store/sqlgen"
	"clearjar/store/wish"
)

// NewPlan is the fact that the grower settled on a plan and is going to carry it out.
type NewPlan struct {
	ID uuid.UUID `json:"id"`
	// MadeAt is when it was settled; left out for when this was made.
	MadeAt *time.Time `json:"made_at,omitempty"`
	PlanWish
}

// PreparedPlan is a plan with its bench checklist.
type PreparedPlan struct {
	ID         uuid.UUID `json:"id"`
	MotherID   uuid.UUID `json:"mother_id"`
	MotherCode string    `json:"mother_code"`
	MotherName string    `json:"mother_name"`
	MadeAt     time.Time `json:"made_at"`
	wish.Wish
	PlanAnswer
	Steps []BenchStep `json:"steps"`
	// Skips lists the nodes left out, for each stem.
	Skips [][]int `json:"skips"`
	// Stale says why the plan can no longer be carried out; empty while it can.
	Stale string `json:"stale,omitempty"`
	// Cut says when it was carried out; Cuttings what came of it.
	CutOn    *time.Time     `json:"cut_on,omitempty"`
	Cuttings []ShelfCutting `json:"cuttings"`

	recordedAt time.Time
}

// BenchStep is one line of the checklist as it stands.
type BenchStep struct {
	cutplan.Step
	DoneAt *time.Time `json:"done_at,omitempty"`
	// TimerSince is when its wait began; ReadyAt when it may go on, AtLatest when it should.
	TimerSince *time.Time `json:"timer_since,omitempty"`
	ReadyAt    *time.Time `json:"ready_at,omitempty"`
	AtLatest   *time.Time `json:"at_latest,omitempty"`
}

func (p NewPlan) named() named { return named{id: p.ID, kind: "cut_plan"} }

// mostPlans bounds the plans that are kept.
const mostPlans = 20000

func (p NewPlan) write(ctx context.Context, g *Garden) error {
	if err := errors.Join(p.Limits.Check(), p.Aim.Check(p.Limits), checkStems(p.Stems)); err != nil {
		return err
	}
	n, err := g.store.CountCutPlans(ctx)
	if err != nil {
		return err
	}
	if n >= mostPlans {
		return plant.Refuse("id", "at most %d plans are kept", mostPlans)
	}
	laid, mother, err := g.lay(ctx, p.PlanWish)
	if err != nil {
		return err
	}
	answer, err := planOn(laid, p.PlanWish)
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
	if err := g.checkDay("made_at", made, earliestRecord, "any record"); err != nil {
		return err
	}
	mark(&g.touched.Plans, p.ID)
	mark(&g.touched.Mothers, mother.ID)
	if _, err := g.store.AddCutPlan(ctx, sqlgen.AddCutPlanParams{ID: p.ID, MotherID: mother.ID, Wish: p.Wish, MadeAt: made}); err != nil {
		return err
	}
	for i, s := range answer.Stems {
		skip := []int32{}
		for _, n := range p.Stems[i].Skip {
			skip = append(skip, int32(n))
		}
		if err := g.store.AddCutPlanStem(ctx, sqlgen.AddCutPlanStemParams{
			PlanID: p.ID, StemID: s.StemID, MapVersion: int32(s.Version), Position: int32(i), KnivesMm: s.Plan.KnivesMM, Skip: skip,
		}); err != nil {
			return err
		}
	}
	return nil
}

// PlanPage shows a prepared plan with its checklist and what became of it.
func (g *Garden) PlanPage(ctx context.Context, id uuid.UUID) (PreparedPlan, error) {
	row, err := g.store.CutPlanByID(ctx, id)
	if err != nil {
		return PreparedPlan{}, missing(err, "This plan")
	}
	mother, err := g.store.MotherByID(ctx, row.MotherID)
	if err != nil {
		return PreparedPlan{}, err
	}
	stems, err := g.store.CutPlanStems(ctx, []uuid.UUID{id})
	if err != nil {
		return PreparedPlan{}, err
	}
	p := PreparedPlan{
		ID: id, MotherID: mother.ID, MotherCode: mother.Code, MotherName: mother.Name, MadeAt: row.MadeAt, Wish: row.Wish,
		Steps: []BenchStep{}, Skips: [][]int{}, Cuttings: []ShelfCutting{}, recordedAt: row.RecordedAt,
	}
	laid, err := g.layKept(ctx, &p, stems)
	if err != nil {
		return PreparedPlan{}, err
	}
	if err := g.addFate(ctx, &p); err != nil {
		return PreparedPlan{}, err
	}
	return p, g.addSteps(ctx, &p, laid)
}

// layKept lays a kept plan on the stems as they stood when it was made, so that its page reads the same for ever.
func (g *Garden) layKept(ctx context.Context, p *PreparedPlan, stems []sqlgen.CutPlanStem) ([]cutplan.Laid, error) {
	sheet, err := g.sheet(ctx)
	if err != nil {
		return nil, err
	}
	out, named, together := []cutplan.Laid{}, []laidStem{}, cutplan.Together{}
	for _, s := range stems {
		skip := []int{}
		for _, n := range s.Skip {
			skip = append(skip, int(n))
		}
		p.Skips = append(p.Skips, skip)
		l, mother, err := g.layStem(ctx, StemWish{StemID: s.StemID, Skip: skip}, p.Conditions, sheet)
		if err != nil {
			return nil, err
		}
		then, err := g.store.StemMapAt(ctx, sqlgen.StemMapAtParams{StemID: s.StemID, Version: s.MapVersion})
		if err != nil {
			return nil, err
		}
		if l.version != int(s.MapVersion) {
			p.Stale = "The map of stem " + l.stem.Letter + " has changed since this plan was made: plan again."
		}
		l.bench.Stem, l.version = then.Map, int(s.MapVersion)
		if l.takenBy(&p.recordedAt) {
			p.Stale = "Nodes of stem " + l.stem.Letter + " were taken since this plan was made: plan again."
		}
		plan, err := cutplan.Check(l.bench, p.Limits, s.KnivesMm)
		if err != nil {
			return nil, err
		}
		together.Plans = append(together.Plans, plan)
		named = append(named, l)
		out = append(out, cutplan.Laid{Bench: l.bench, Plan: plan, Name: mother.Code + "-" + l.stem.Letter})
	}
	together.Outlook = cutplan.OutlookOf(together.Plans)
	together.Reached = p.Aim.Reached(together.Outlook)
	p.PlanAnswer = answerOf(named, together)
	return out, nil
}

// addFate tells what came of a plan that was carried out.
func (g *Garden) addFate(ctx context.Context, p *PreparedPlan) error {
	cuts, err := g.store.CutsOfPlan(ctx, p.ID)
	if err != nil || len(cuts) == 0 {
		return err
	}
	made := map[uuid.UUID]bool{}
	for _, c := range cuts {
		made[c.ID] = true
	}
	on := cuts[0].CutOn
	p.CutOn, p.Stale = &on, ""
	all, err := g.views(ctx, only{mothers: []uuid.UUID{p.MotherID}})
	if err != nil {
		return err
	}
	for _, c := range all {
		if made[c.CutID] {
			p.Cuttings = append(p.Cuttings, c)
		}
	}
	return nil
}

func (g *Garden) addSteps(ctx context.Context, p *PreparedPlan, laid []cutplan.Laid) error {
	ticks, err := g.store.BenchTicks(ctx, p.ID)
	if err != nil {
		return err
	}
	done := map[string]time.Time{}
	for _, t := range ticks {
		if t.Done {
			done[t.Step] = t.TickedAt
		}
	}
	for _, s := range cutplan.Steps(laid) {
		step := BenchStep{Step: s}
		if at, ok := done[s.Key]; ok {
			step.DoneAt = &at
		}
		if since, ok := done[s.TimerFrom]; ok && s.WaitHours > 0 {
			ready, latest := since.Add(hours(s.WaitHours)), since.Add(hours(s.MostHours))
			step.TimerSince, step.ReadyAt, step.AtLatest = &since, &ready, &latest
		}
		p.Steps = append(p.Steps, step)
	}
	return nil
}

func hours(h float64) time.Duration { return time.Duration(h * float64(time.Hour)) }

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

func (t BenchTick) write(ctx context.Context, g *Garden) error {
	p, err := g.PlanPage(ctx, t.PlanID)
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
	if err := g.checkDay("ticked_at", t.TickedAt, earliestRecord, "any record"); err != nil {
		return err
	}
	mark(&g.touched.Plans, t.PlanID)
	_, err = g.store.AddBenchTick(ctx, sqlgen.AddBenchTickParams{ID: t.ID, PlanID: t.PlanID, Step: t.Step, Done: t.Done, TickedAt: t.TickedAt, MadeAt: g.decided})
	return err
}

// PlanBrief is a plan in the list of plans.
type PlanBrief struct {
	ID       uuid.UUID `json:"id"`
	MotherID uuid.UUID `json:"mother_id"`
	MadeAt   time.Time `json:"made_at"`
	Knives   int       `json:"knives"`
	Done     bool      `json:"done"`
}

// Plans lists the plans that were kept, newest first.
func (g *Garden) Plans(ctx context.Context) ([]PlanBrief, error) {
	rows, err := g.store.CutPlans(ctx)
	if err != nil {
		return nil, err
	}
	ids, out := make([]uuid.UUID, len(rows)), make([]PlanBrief, len(rows))
	at := map[uuid.UUID]*PlanBrief{}
	for i, r := range rows {
		ids[i], out[i] = r.ID, PlanBrief{ID: r.ID, MotherID: r.MotherID, MadeAt: r.MadeAt, Done: r.Done}
		at[r.ID] = &out[i]
	}
	stems, err := g.store.CutPlanStems(ctx, ids)
	for _, s := range stems {
		at[s.PlanID].Knives += len(s.KnivesMm)
	}
	return out, err
}

// carriedOut refuses a cut that names a plan of another mother, or one that was carried out already, unless by this very cut.
func (g *Garden) carriedOut(ctx context.Context, c Cut, mother uuid.UUID) error {
	if c.PlanID == nil {
		return nil
	}
	plan, err := g.store.CutPlanByID(ctx, *c.PlanID)
	if err != nil {
		return missing(err, "This plan")
	}
	if plan.MotherID != mother {
		return plant.Refuse("plan_id", "that is the plan of another mother")
	}
	cuts, err := g.store.CutsOfPlan(ctx, *c.PlanID)
	if err != nil {
		return err
	}
	for _, had := range cuts {
		if had.ID != stemCutID(c.ID, had.StemID) {
			return ConflictError{Reason: "This plan was already carried out, perhaps in another tab. Nothing was cut."}
		}
	}
	return nil
}
