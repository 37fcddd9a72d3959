package propagation

import (
	"context"
	"errors"

	"github.com/google/uuid"

	"clearjar/core/cutplan"
	"clearjar/core/plant"
	"clearjar/propagation/exchange"
	"clearjar/store/sqlgen"
)

// planTaker takes in cut plans.
type planTaker struct{ records []exchange.PlanRecord }

func (in *planTaker) read(format string, data []byte) (bad exchange.Bad, n int, err error) {
	in.records, bad, err = exchange.ReadPlans(format, data)
	return bad, len(in.records), err
}

func (in *planTaker) prepare(ctx context.Context, g *Garden, bad *exchange.Bad) (jobs []job, same int, err error) {
	mothers, err := g.Mothers(ctx)
	if err != nil {
		return nil, 0, err
	}
	byCode := map[string]Mother{}
	for _, m := range mothers {
		byCode[m.Code] = m
	}
	kept, err := g.keptKnives(ctx)
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
			err = g.checkPlan(ctx, p)
		}
		if err != nil {
			if err := refused(bad, r.Line, err); err != nil {
				return nil, 0, err
			}
			continue
		}
		jobs = append(jobs, job{r.Line, "plan for " + r.Mother, func(g *Garden) error {
			_, _, err := g.Keep(ctx, p)
			return err
		}})
	}
	return jobs, same, nil
}

// checkPlan refuses a plan that could not be kept.
func (g *Garden) checkPlan(ctx context.Context, p NewPlan) error {
	if err := errors.Join(p.Limits.Check(), p.Aim.Check(p.Limits), checkStems(p.Stems)); err != nil {
		return err
	}
	laid, _, err := g.lay(ctx, p.PlanWish)
	if err != nil {
		return err
	}
	answer, err := planOn(laid, p.PlanWish)
	if err != nil {
		return err
	}
	for _, s := range answer.Stems {
		if len(s.Plan.Refused) > 0 {
			return plant.Refuse("stems", "%s", s.Plan.Refused[0])
		}
	}
	if p.MadeAt != nil {
		return g.checkDay("made_at", *p.MadeAt, earliestRecord, "any record")
	}
	return nil
}

func planOfRecord(mothers map[string]Mother, r exchange.PlanRecord) (NewPlan, error) {
	p := NewPlan{ID: uuid.Must(uuid.NewV7()), MadeAt: r.MadeAt, PlanWish: PlanWish{Wish: r.Wish}}
	mother, ok := mothers[r.Mother]
	if !ok {
		return p, plant.Refuse("mother", "%q is not here", r.Mother)
	}
	for _, s := range r.Stems {
		stem, ok := mother.stem(s.Stem)
		if !ok {
			return p, plant.Refuse("stem", "%s has no stem %s", mother.Code, s.Stem)
		}
		if s.Version < 1 {
			return p, plant.Refuse("map_version", "say which version of the map the plan was made on")
		}
		if len(s.KnivesMM) == 0 {
			return p, plant.Refuse("knives_mm", "there is no knife on stem %s", s.Stem)
		}
		p.Stems = append(p.Stems, StemWish{StemID: stem.ID, Version: s.Version, KnivesMM: s.KnivesMM, Skip: s.Skip})
	}
	return p, nil
}

func (m Mother) stem(letter string) (MappedStem, bool) {
	for _, s := range m.Stems {
		if s.Letter == letter {
			return s, true
		}
	}
	return MappedStem{}, false
}

// keptKnives are the stems of every kept plan, by mother.
func (g *Garden) keptKnives(ctx context.Context) (map[uuid.UUID][][]sqlgen.CutPlanStem, error) {
	plans, err := g.Plans(ctx)
	if err != nil {
		return nil, err
	}
	ids, mother := []uuid.UUID{}, map[uuid.UUID]uuid.UUID{}
	for _, p := range plans {
		ids = append(ids, p.ID)
		mother[p.ID] = p.MotherID
	}
	rows, err := g.store.CutPlanStems(ctx, ids)
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
func sameAsKept(kept [][]sqlgen.CutPlanStem, stems []StemWish) bool {
	for _, had := range kept {
		if sameKnives(had, stems) {
			return true
		}
	}
	return false
}

func sameKnives(a []sqlgen.CutPlanStem, b []StemWish) bool {
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
