package bench

import (
	"context"
	"time"

	"github.com/google/uuid"

	"clearjar/core/cutplan"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
	"clearjar/store/sqlgen"
	"clearjar/store/wish"
)

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
	CutOn    *time.Time              `json:"cut_on,omitempty"`
	Cuttings []conclude.ShelfCutting `json:"cuttings"`

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

// PlanPage shows a prepared plan with its checklist and what became of it.
func PlanPage(ctx context.Context, g *propagation.Garden, id uuid.UUID) (PreparedPlan, error) {
	row, err := g.Store.CutPlanByID(ctx, id)
	if err != nil {
		return PreparedPlan{}, propagation.Missing(err, "This plan")
	}
	mother, err := g.Store.MotherByID(ctx, row.MotherID)
	if err != nil {
		return PreparedPlan{}, err
	}
	stems, err := g.Store.CutPlanStems(ctx, []uuid.UUID{id})
	if err != nil {
		return PreparedPlan{}, err
	}
	p := PreparedPlan{
		ID: id, MotherID: mother.ID, MotherCode: mother.Code, MotherName: mother.Name, MadeAt: row.MadeAt, Wish: row.Wish,
		Steps: []BenchStep{}, Skips: [][]int{}, Cuttings: []conclude.ShelfCutting{}, recordedAt: row.RecordedAt,
	}
	laid, err := layKept(ctx, g, &p, stems)
	if err != nil {
		return PreparedPlan{}, err
	}
	if err := addFate(ctx, g, &p); err != nil {
		return PreparedPlan{}, err
	}
	return p, addSteps(ctx, g, &p, laid)
}

// layKept lays a kept plan on the stems as they stood when it was made, so that its page reads the same for ever.
func layKept(ctx context.Context, g *propagation.Garden, p *PreparedPlan, stems []sqlgen.CutPlanStem) ([]cutplan.Laid, error) {
	sheet, err := g.Sheet(ctx)
	if err != nil {
		return nil, err
	}
	out, named, together := []cutplan.Laid{}, []LaidStem{}, cutplan.Together{}
	for _, s := range stems {
		skip := []int{}
		for _, n := range s.Skip {
			skip = append(skip, int(n))
		}
		p.Skips = append(p.Skips, skip)
		l, mother, err := LayStem(ctx, g, StemWish{StemID: s.StemID, Skip: skip}, p.Conditions, sheet)
		if err != nil {
			return nil, err
		}
		then, err := g.Store.StemMapAt(ctx, sqlgen.StemMapAtParams{StemID: s.StemID, Version: s.MapVersion})
		if err != nil {
			return nil, err
		}
		if l.Version != int(s.MapVersion) {
			p.Stale = "The map of stem " + l.Stem.Letter + " has changed since this plan was made: plan again."
		}
		l.Bench.Stem, l.Version = then.Map, int(s.MapVersion)
		if l.takenBy(&p.recordedAt) {
			p.Stale = "Nodes of stem " + l.Stem.Letter + " were taken since this plan was made: plan again."
		}
		plan, err := cutplan.Check(l.Bench, p.Limits, s.KnivesMm)
		if err != nil {
			return nil, err
		}
		together.Plans = append(together.Plans, plan)
		named = append(named, l)
		out = append(out, cutplan.Laid{Bench: l.Bench, Plan: plan, Name: mother.Code + "-" + l.Stem.Letter})
	}
	together.Outlook = cutplan.OutlookOf(together.Plans)
	together.Reached = p.Aim.Reached(together.Outlook)
	p.PlanAnswer = answerOf(named, together)
	return out, nil
}

// addFate tells what came of a plan that was carried out.
func addFate(ctx context.Context, g *propagation.Garden, p *PreparedPlan) error {
	cuts, err := g.Store.CutsOfPlan(ctx, p.ID)
	if err != nil || len(cuts) == 0 {
		return err
	}
	made := map[uuid.UUID]bool{}
	for _, c := range cuts {
		made[c.ID] = true
	}
	on := cuts[0].CutOn
	p.CutOn, p.Stale = &on, ""
	all, err := conclude.Views(ctx, g, conclude.Only{Mothers: []uuid.UUID{p.MotherID}})
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

func addSteps(ctx context.Context, g *propagation.Garden, p *PreparedPlan, laid []cutplan.Laid) error {
	ticks, err := g.Store.BenchTicks(ctx, p.ID)
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

// PlanBrief is a plan in the list of plans.
type PlanBrief struct {
	ID       uuid.UUID `json:"id"`
	MotherID uuid.UUID `json:"mother_id"`
	MadeAt   time.Time `json:"made_at"`
	Knives   int       `json:"knives"`
	Done     bool      `json:"done"`
}

// PlanList is some of the kept plans, newest first.
type PlanList struct {
	Plans []PlanBrief `json:"plans"`
	// More says that there are more before the last of these.
	More bool `json:"more"`
}

// PlansWanted says which plans are listed: of one mother, only those not carried out, those before a plan.
type PlansWanted struct {
	Mother, Before *uuid.UUID
	OnlyOpen       bool
}

// mostListed is how many plans are listed at once.
const mostListed = 100

// PlansOf lists kept plans, newest first, some at a time.
func PlansOf(ctx context.Context, g *propagation.Garden, w PlansWanted) (PlanList, error) {
	rows, err := g.Store.CutPlanPage(ctx, sqlgen.CutPlanPageParams{Mother: w.Mother, OnlyOpen: w.OnlyOpen, Before: w.Before, Most: mostListed + 1})
	if err != nil {
		return PlanList{}, err
	}
	list := PlanList{Plans: []PlanBrief{}, More: len(rows) > mostListed}
	for _, r := range rows[:min(len(rows), mostListed)] {
		list.Plans = append(list.Plans, PlanBrief{ID: r.ID, MotherID: r.MotherID, MadeAt: r.MadeAt, Done: r.Done})
	}
	return list, addKnives(ctx, g, list.Plans)
}

// Plans lists all plans that were kept, newest first.
func Plans(ctx context.Context, g *propagation.Garden) ([]PlanBrief, error) {
	rows, err := g.Store.CutPlans(ctx)
	if err != nil {
		return nil, err
	}
	out := make([]PlanBrief, len(rows))
	for i, r := range rows {
		out[i] = PlanBrief{ID: r.ID, MotherID: r.MotherID, MadeAt: r.MadeAt, Done: r.Done}
	}
	return out, addKnives(ctx, g, out)
}

// addKnives counts the knives of plans.
func addKnives(ctx context.Context, g *propagation.Garden, out []PlanBrief) error {
	ids, at := make([]uuid.UUID, len(out)), map[uuid.UUID]*PlanBrief{}
	for i, p := range out {
		ids[i], at[p.ID] = p.ID, &out[i]
	}
	stems, err := g.Store.CutPlanStems(ctx, ids)
	for _, s := range stems {
		at[s.PlanID].Knives += len(s.KnivesMm)
	}
	return err
}

// StemCutID is the id of the cut of one stem: always the same for the same cut.
func StemCutID(cut, stem uuid.UUID) uuid.UUID { return uuid.NewSHA1(cut, stem[:]) }
