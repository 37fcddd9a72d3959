package files

import (
	"context"
	"errors"

	"github.com/google/uuid"

	"clearjar/core/cutplan"
	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/bench"
	"clearjar/propagation/door"
	"clearjar/propagation/files/exchange"
	"clearjar/propagation/show"
	"clearjar/store/sqlgen"
)

// planTaker takes in cut plans.
type planTaker struct{ records []exchange.PlanRecord }

func (in *planTaker) read(format string, data []byte) (bad exchange.Bad, n int, err error) {
	in.records, bad, err = exchange.ReadPlans(format, data)
	return bad, len(in.records), err
}

func (in *planTaker) prepare(ctx context.Context, g *propagation.Garden, bad *exchange.Bad) (jobs []job, same int, err error) {
	mothers, err := show.Mothers(ctx, g)
	if err != nil {
		return nil, 0, err
	}
	byCode := map[string]show.Mother{}
	for _, m := range mothers {
		byCode[m.Code] = m
	}
	kept, err := keptKnives(ctx, g)
	if err != nil {
		return nil, 0, err
	}
	for _, r := range in.records {
		p, err := planOfRecord(byCode, r)
		if err == nil && sameAsKept(kept[byCode[r.Mother].ID], p.Stems) {
			same++
			continue
		}
		if err == nil {
			err = checkPlan(ctx, g, p)
		}
		if err != nil {
			if err := refused(bad, r.Line, err); err != nil {
				return nil, 0, err
			}
			continue
		}
		jobs = append(jobs, job{r.Line, "plan for " + r.Mother, func(g *propagation.Garden) error {
			_, _, err := door.Keep(ctx, g, p)
			return err
		}})
	}
	return jobs, same, nil
}

// checkPlan refuses a plan that could not be kept.
func checkPlan(ctx context.Context, g *propagation.Garden, p door.NewPlan) error {
	if err := errors.Join(p.Limits.Check(), p.Aim.Check(p.Limits), bench.CheckStems(p.Stems)); err != nil {
		return err
	}
	laid, _, err := bench.Lay(ctx, g, p.PlanWish)
	if err != nil {
		return err
	}
	answer, err := bench.PlanOn(laid, p.PlanWish)
	if err != nil {
		return err
	}
	for _, s := range answer.Stems {
		if len(s.Plan.Refused) > 0 {
			return plant.Refuse("stems", "%s", s.Plan.Refused[0])
		}
	}
	if p.MadeAt != nil {
		return g.CheckDay("made_at", *p.MadeAt, propagation.EarliestRecord, "any record")
	}
	return nil
}

func planOfRecord(mothers map[string]show.Mother, r exchange.PlanRecord) (door.NewPlan, error) {
	p := door.NewPlan{ID: uuid.Must(uuid.NewV7()), MadeAt: r.MadeAt, PlanWish: bench.PlanWish{Wish: r.Wish}}
	mother, ok := mothers[r.Mother]
	if !ok {
		return p, plant.Refuse("mother", "%q is not here", r.Mother)
	}
	for _, s := range r.Stems {
		stem, ok := stemOf(mother, s.Stem)
		if !ok {
			return p, plant.Refuse("stem", "%s has no stem %s", mother.Code, s.Stem)
		}
		if s.Version < 1 {
			return p, plant.Refuse("map_version", "say which version of the map the plan was made on")
		}
		if len(s.KnivesMM) == 0 {
			return p, plant.Refuse("knives_mm", "there is no knife on stem %s", s.Stem)
		}
		p.Stems = append(p.Stems, bench.StemWish{StemID: stem.ID, Version: s.Version, KnivesMM: s.KnivesMM, Skip: s.Skip})
	}
	return p, nil
}

func stemOf(m show.Mother, letter string) (bench.MappedStem, bool) {
	for _, s := range m.Stems {
		if s.Letter == letter {
			return s, true
		}
	}
	return bench.MappedStem{}, false
}

// keptKnives are the stems of every kept plan, by mother.
func keptKnives(ctx context.Context, g *propagation.Garden) (map[uuid.UUID][][]sqlgen.CutPlanStem, error) {
	plans, err := bench.Plans(ctx, g)
	if err != nil {
		return nil, err
	}
	ids, mother := []uuid.UUID{}, map[uuid.UUID]uuid.UUID{}
	for _, p := range plans {
		ids = append(ids, p.ID)
		mother[p.ID] = p.MotherID
	}
	rows, err := g.Store.CutPlanStems(ctx, ids)
	if err != nil {
		return nil, err
	}
	by := map[uuid.UUID][]sqlgen.CutPlanStem{}
	for _, r := range rows {
		by[r.PlanID] = append(by[r.PlanID], r)
	}
	out := map[uuid.UUID][][]sqlgen.CutPlanStem{}
	for id, stems := range by {
		out[mother[id]] = append(out[mother[id]], stems)
	}
	return out, nil
}

// sameAsKept tells whether a plan with the same knives on the same maps is kept already.
func sameAsKept(kept [][]sqlgen.CutPlanStem, stems []bench.StemWish) bool {
	for _, had := range kept {
		if sameKnives(had, stems) {
			return true
		}
	}
	return false
}

func sameKnives(a []sqlgen.CutPlanStem, b []bench.StemWish) bool {
	if len(a) != len(b) {
		return false
	}
	for i := range a {
		if a[i].StemID != b[i].StemID || int(a[i].MapVersion) != b[i].Version || !cutplan.SameKnives(a[i].KnivesMm, b[i].KnivesMM) {
			return false
		}
	}
	return true
}
