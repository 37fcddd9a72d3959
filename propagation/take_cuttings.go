package propagation

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"

	"clearjar/core/cutplan"
	"clearjar/core/plant"
	"clearjar/core/readiness"
	"clearjar/store"
	"clearjar/store/sqlgen"
)

// PlanWish asks for a cut plan: limits to propose under, or knives to check.
type PlanWish struct {
	Limits *cutplan.Limits `json:"limits,omitempty"`
	// KnivesMM, when given, are checked as they lie.
	KnivesMM []float64    `json:"knives_mm,omitempty" maxItems:"61"`
	Medium   plant.Medium `json:"medium,omitempty" enum:"water,moss,perlite,mix"`
}

// PlanCut proposes where to cut a stem, or works out what the given knives make of it.
func (g *Garden) PlanCut(ctx context.Context, stemID uuid.UUID, w PlanWish) (cutplan.Plan, error) {
	bench, _, err := g.bench(ctx, stemID, w.Medium)
	if err != nil {
		return cutplan.Plan{}, err
	}
	if w.KnivesMM != nil {
		return cutplan.Check(bench, w.KnivesMM)
	}
	limits := cutplan.DefaultLimits()
	if w.Limits != nil {
		limits = *w.Limits
	}
	return cutplan.Propose(bench, limits)
}

// CutChoices gives the best plan for each number of pieces, from fewer and safer to more and riskier.
func (g *Garden) CutChoices(ctx context.Context, stemID uuid.UUID, w PlanWish) ([]cutplan.Choice, error) {
	bench, _, err := g.bench(ctx, stemID, w.Medium)
	if err != nil {
		return nil, err
	}
	limits := cutplan.DefaultLimits()
	if w.Limits != nil {
		limits = *w.Limits
	}
	// Single nodes are the risky end of the line, whatever pieces are preferred.
	limits.LeastNodes = 1
	return cutplan.Frontier(bench, limits)
}

func (g *Garden) bench(ctx context.Context, stemID uuid.UUID, medium plant.Medium) (cutplan.Bench, sqlgen.Mother, error) {
	stem, err := g.store.StemByID(ctx, stemID)
	if err != nil {
		return cutplan.Bench{}, sqlgen.Mother{}, missing(err, "This stem")
	}
	mother, err := g.store.MotherByID(ctx, stem.MotherID)
	if err != nil {
		return cutplan.Bench{}, mother, err
	}
	now, err := g.store.NewestStemMap(ctx, stemID)
	if err != nil {
		return cutplan.Bench{}, mother, missing(err, "The map of this stem")
	}
	taken, err := g.store.TakenNodes(ctx, stemID)
	if err != nil {
		return cutplan.Bench{}, mother, err
	}
	group, _ := plant.GroupNamed(mother.GroupKey)
	b := cutplan.Bench{Stem: now.Map, Group: group, Taken: map[int]bool{}, Medium: medium, Dark: readiness.InDarkHalf(g.Today(), false)}
	for _, n := range taken {
		b.Taken[int(n)] = true
	}
	return b, mother, nil
}

// Cut is the fact that a stem was cut at these places.
type Cut struct {
	ID     uuid.UUID `json:"id"`
	StemID uuid.UUID `json:"stem_id"`
	// Version is the version of the map the plan was made on.
	Version  int          `json:"version"`
	KnivesMM []float64    `json:"knives_mm" minItems:"1" maxItems:"61"`
	Medium   plant.Medium `json:"medium,omitempty" enum:"water,moss,perlite,mix"`
	CutOn    time.Time    `json:"cut_on"`
}

// TakeCuttings makes the cuttings of a plan: each gets its code, and its nodes count as taken.
// A plan with a refused piece, on a map that has changed, or with nodes already taken makes nothing.
func (g *Garden) TakeCuttings(ctx context.Context, c Cut) ([]CuttingView, error) {
	if err := checkID("id", c.ID); err != nil {
		return nil, err
	}
	if err := g.checkDay("cut_on", c.CutOn, time.Date(1990, 1, 1, 0, 0, 0, 0, time.UTC), "any record"); err != nil {
		return nil, err
	}
	bench, mother, err := g.bench(ctx, c.StemID, c.Medium)
	if err != nil {
		return nil, err
	}
	err = g.store.InTx(ctx, func(q *sqlgen.Queries) error {
		if _, err := q.LockMother(ctx, mother.ID); err != nil {
			return err
		}
		stem, err := q.StemByID(ctx, c.StemID)
		if err != nil {
			return missing(err, "This stem")
		}
		now, err := q.NewestStemMap(ctx, c.StemID)
		if err != nil {
			return err
		}
		added, err := q.AddCut(ctx, sqlgen.AddCutParams{ID: c.ID, StemID: c.StemID, MapVersion: now.Version, CutOn: c.CutOn})
		if err != nil || added == 0 {
			return err // the same cut again is the same cut
		}
		if int(now.Version) != c.Version {
			return ConflictError{
				Reason: fmt.Sprintf("The map of this stem has changed since the plan was made (version %d, now %d). Nothing was cut; plan again.", c.Version, now.Version),
				Theirs: mapped(stem.ID, mother.ID, stem.Letter, int(now.Version), now.Map, now.RecordedAt, nil),
			}
		}
		plan, err := cutplan.Check(bench, c.KnivesMM)
		if err != nil {
			return err
		}
		if len(plan.Refused) > 0 {
			return plant.Refuse("knives_mm", "%s", plan.Refused[0])
		}
		for i, p := range plan.Pieces {
			if err := g.take(ctx, q, c, stem, mother, p, i); err != nil {
				return err
			}
		}
		return nil
	})
	if store.BrokenRule(err) == "cutting_node_pkey" || store.BrokenRule(err) == "cutting_code_unique" {
		return nil, ConflictError{Reason: "One of these nodes was already taken, perhaps in another tab. Nothing was cut."}
	}
	if err != nil {
		return nil, err
	}
	return g.cuttingsOfCut(ctx, c)
}

func (g *Garden) take(ctx context.Context, q *sqlgen.Queries, c Cut, stem sqlgen.Stem, mother sqlgen.Mother, p cutplan.Piece, i int) error {
	// Derived from the cut's own id, so that the same cut always makes the same cuttings.
	id := uuid.NewSHA1(c.ID, fmt.Appendf(nil, "piece %d", i))
	err := q.AddCutting(ctx, sqlgen.AddCuttingParams{
		ID: id, CutID: c.ID, StemID: c.StemID, Code: plant.PieceCode(mother.Code, stem.Letter, p.First, p.Last), Tag: shortTag(id, 0),
		FirstNode: int32(p.First), LastNode: int32(p.Last), Piece: p,
	})
	for n := p.First; n <= p.Last && err == nil; n++ {
		err = q.TakeNode(ctx, sqlgen.TakeNodeParams{StemID: c.StemID, Node: int32(n), CuttingID: id})
	}
	return err
}

func (g *Garden) cuttingsOfCut(ctx context.Context, c Cut) ([]CuttingView, error) {
	stem, err := g.store.StemByID(ctx, c.StemID)
	if err != nil {
		return nil, err
	}
	all, err := g.cuttings(ctx, nil, []uuid.UUID{stem.MotherID})
	if err != nil {
		return nil, err
	}
	out := []CuttingView{}
	for _, v := range all {
		if v.cutID == c.ID {
			out = append(out, v.brief())
		}
	}
	return out, nil
}
