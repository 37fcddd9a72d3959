package propagation

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"

	"clearjar/core/cutplan"
	"clearjar/core/plant"
	"clearjar/store"
	"clearjar/store/sqlgen"
	"clearjar/store/wish"
)

// Cut is the fact that stems of one mother were cut at these places.
type Cut struct {
	ID uuid.UUID `json:"id"`
	// PlanID is the prepared plan that was carried out, if there was one.
	PlanID *uuid.UUID `json:"plan_id,omitempty"`
	CutOn  time.Time  `json:"cut_on"`
	// Stems carry the version of the map the plan was made on, and the knives.
	Stems []StemWish `json:"stems" minItems:"1" maxItems:"12"`
	wish.Wish
}

// earliestRecord is before any record.
var earliestRecord = time.Date(1990, 1, 1, 0, 0, 0, 0, time.UTC)

// TakeCuttings makes the cuttings of a plan: each gets its code, and its nodes count as taken.
// A plan with a refused piece, on a map that has changed, or with nodes already taken makes nothing.
func (g *Garden) TakeCuttings(ctx context.Context, c Cut) ([]CuttingView, error) {
	if err := checkID("id", c.ID); err != nil {
		return nil, err
	}
	if err := g.checkDay("cut_on", c.CutOn, earliestRecord, "any record"); err != nil {
		return nil, err
	}
	sheet, err := g.sheet(ctx)
	if err != nil {
		return nil, err
	}
	var mother uuid.UUID
	err = g.store.InTx(ctx, func(q *sqlgen.Queries) error {
		if err := carriedOut(ctx, q, c); err != nil {
			return err
		}
		for _, s := range c.Stems {
			stem, err := q.StemByID(ctx, s.StemID)
			if err != nil {
				return missing(err, "This stem")
			}
			if mother != uuid.Nil && mother != stem.MotherID {
				return plant.Refuse("stems", "stems of one mother are cut together")
			}
			mother = stem.MotherID
			if _, err := q.LockMother(ctx, mother); err != nil {
				return err
			}
			if err := g.cutStem(ctx, q, c, s, sheet); err != nil {
				return err
			}
		}
		return nil
	})
	if rule := store.BrokenRule(err); rule == "cutting_node_pkey" || rule == "cutting_code_unique" {
		return nil, ConflictError{Reason: "One of these nodes was already taken, perhaps in another tab. Nothing was cut."}
	}
	if err != nil {
		return nil, err
	}
	return g.cuttingsOfCut(ctx, c, mother)
}

// stemCutID is the id of the cut of one stem: always the same for the same cut.
func stemCutID(cut, stem uuid.UUID) uuid.UUID { return uuid.NewSHA1(cut, stem[:]) }

func (g *Garden) cutStem(ctx context.Context, q *sqlgen.Queries, c Cut, s StemWish, sheet cutplan.Sheet) error {
	if len(s.KnivesMM) == 0 {
		return nil // this stem stays as it is
	}
	now, err := q.NewestStemMap(ctx, s.StemID)
	if err != nil {
		return missing(err, "The map of this stem")
	}
	id := stemCutID(c.ID, s.StemID)
	added, err := q.AddCut(ctx, sqlgen.AddCutParams{ID: id, StemID: s.StemID, MapVersion: now.Version, CutOn: c.CutOn, PlanID: c.PlanID})
	if err != nil || added == 0 {
		return err // the same cut again is the same cut
	}
	if s.Version == 0 {
		return plant.Refuse("stems[].version", "say which version of the map the plan was made on")
	}
	l, mother, err := (&Garden{g.store.In(q), g.now, g.zone}).layStem(ctx, s, c.Conditions, sheet)
	if err != nil {
		return err
	}
	plan, err := cutplan.Check(l.bench, c.Limits, s.KnivesMM)
	if len(plant.Refusals(err)) > 0 && len(l.bench.Taken) > 0 {
		return ConflictError{Reason: fmt.Sprintf("Nodes of stem %s were already taken, perhaps in another tab. Nothing was cut; plan again on what stands.", l.stem.Letter)}
	}
	if err != nil {
		return err
	}
	if len(plan.Refused) > 0 {
		return plant.Refuse("knives_mm", "%s", plan.Refused[0])
	}
	for i, p := range plan.Pieces {
		if err := take(ctx, q, id, l.stem, mother, p, i); err != nil {
			return err
		}
	}
	return nil
}

func take(ctx context.Context, q *sqlgen.Queries, cut uuid.UUID, stem sqlgen.Stem, mother sqlgen.Mother, p cutplan.Piece, i int) error {
	// Derived from the cut's own id, so that the same cut always makes the same cuttings.
	id := uuid.NewSHA1(cut, fmt.Appendf(nil, "piece %d", i))
	err := q.AddCutting(ctx, sqlgen.AddCuttingParams{
		ID: id, CutID: cut, StemID: stem.ID, Code: plant.PieceCode(mother.Code, stem.Letter, p.First, p.Last), Tag: shortTag(id, 0),
		FirstNode: int32(p.First), LastNode: int32(p.Last), Piece: p,
	})
	for n := p.First; n <= p.Last && err == nil; n++ {
		err = q.TakeNode(ctx, sqlgen.TakeNodeParams{StemID: stem.ID, Node: int32(n), CuttingID: id})
	}
	return err
}

func (g *Garden) cuttingsOfCut(ctx context.Context, c Cut, mother uuid.UUID) ([]CuttingView, error) {
	all, err := g.cuttings(ctx, nil, []uuid.UUID{mother})
	if err != nil {
		return nil, err
	}
	made := map[uuid.UUID]bool{}
	for _, s := range c.Stems {
		made[stemCutID(c.ID, s.StemID)] = true
	}
	out := []CuttingView{}
	for _, v := range all {
		if made[v.cutID] {
			out = append(out, v.brief())
		}
	}
	return out, nil
}
