package door

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"

	"clearjar/core/cutplan"
	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/bench"
	"clearjar/store"
	"clearjar/store/sqlgen"
	"clearjar/store/wish"
)

// Cut is the fact that stems of one mother were cut at these places: each piece gets its code, and its nodes
// count as taken. With a refused piece, on a map that has changed, or with nodes already taken nothing is cut.
type Cut struct {
	ID uuid.UUID `json:"id"`
	// PlanID is the prepared plan that was carried out, if there was one.
	PlanID *uuid.UUID `json:"plan_id,omitempty"`
	CutOn  time.Time  `json:"cut_on"`
	// Stems carry the version of the map the plan was made on, and the knives.
	Stems []bench.StemWish `json:"stems" minItems:"1" maxItems:"12"`
	wish.Wish
}

func (c Cut) named() named { return named{id: c.ID, kind: "cut"} }

func (c Cut) check(g *Entry) error {
	if err := g.CheckDay("cut_on", c.CutOn, propagation.EarliestRecord, "any record"); err != nil {
		return err
	}
	knives := 0
	for _, s := range c.Stems {
		knives += len(s.KnivesMM)
	}
	if knives == 0 {
		return plant.Refuse("stems", "there is no knife: nothing is cut")
	}
	return bench.CheckStems(c.Stems)
}

func (c Cut) write(ctx context.Context, g *Entry) error {
	if err := c.check(g); err != nil {
		return err
	}
	sheet, err := g.Sheet(ctx)
	if err != nil {
		return err
	}
	var mother uuid.UUID
	for _, s := range c.Stems {
		stem, err := g.Store.StemByID(ctx, s.StemID)
		if err != nil {
			return propagation.Missing(err, "This stem")
		}
		if mother != uuid.Nil && mother != stem.MotherID {
			return plant.Refuse("stems", "stems of one mother are cut together")
		}
		if err := g.lockMother(ctx, stem.MotherID); err != nil {
			return err
		}
		if mother == uuid.Nil {
			if err := g.carriedOut(ctx, c, stem.MotherID); err != nil {
				return err
			}
		}
		mother = stem.MotherID
		mark(&g.touched.Stems, s.StemID)
		if err := g.cutStem(ctx, c, s, sheet); err != nil {
			return err
		}
	}
	return nil
}

func (g *Entry) cutStem(ctx context.Context, c Cut, s bench.StemWish, sheet cutplan.Sheet) error {
	if len(s.KnivesMM) == 0 {
		return nil // this stem stays as it is
	}
	if s.Version == 0 {
		return plant.Refuse("stems[].version", "say which version of the map the plan was made on")
	}
	l, mother, err := bench.LayStem(ctx, g.Garden, s, c.Conditions, sheet)
	if err != nil {
		return err
	}
	id := bench.StemCutID(c.ID, s.StemID)
	if _, err := g.Store.AddCut(ctx, sqlgen.AddCutParams{ID: id, StemID: s.StemID, MapVersion: int32(l.Version), CutOn: c.CutOn, PlanID: c.PlanID, KnownTo: "day", Taken: []int32{}}); err != nil {
		return err
	}
	plan, err := cutplan.Check(l.Bench, c.Limits, s.KnivesMM)
	if len(plant.Refusals(err)) > 0 && len(l.Bench.Taken) > 0 {
		return propagation.ConflictError{Reason: fmt.Sprintf("Nodes of stem %s were already taken, perhaps in another tab. Nothing was cut; plan again on what stands.", l.Stem.Letter)}
	}
	if err != nil {
		return err
	}
	if len(plan.Refused) > 0 {
		return plant.Refuse("knives_mm", "%s", plan.Refused[0])
	}
	for i, p := range plan.Pieces {
		if _, err := g.take(ctx, id, l.Stem, mother, p, i, len(l.Bench.Stem.Nodes)); err != nil {
			return err
		}
	}
	return nil
}

// take writes one piece of a cut and takes its nodes; points is how many the stem has.
func (g *Entry) take(ctx context.Context, cut uuid.UUID, stem sqlgen.Stem, mother sqlgen.Mother, p cutplan.Piece, i, points int) (uuid.UUID, error) {
	// Derived from the cut's own id, so that the same cut always makes the same cuttings.
	id := uuid.NewSHA1(cut, fmt.Appendf(nil, "piece %d", i))
	tag, err := g.freeTag(ctx, id)
	if err != nil {
		return id, err
	}
	err = g.Store.AddCutting(ctx, sqlgen.AddCuttingParams{
		ID: id, CutID: cut, StemID: stem.ID, Code: plant.PieceCode(mother.Code, stem.Letter, p.First, p.Last, points), Tag: tag,
		FirstNode: int32(p.First), LastNode: int32(p.Last), Piece: p, Nodes: plant.Nodes{},
	})
	for n := p.First; n <= p.Last && err == nil; n++ {
		err = g.Store.TakeNode(ctx, sqlgen.TakeNodeParams{StemID: stem.ID, Node: int32(n), CuttingID: id})
	}
	if rule := store.BrokenRule(err); rule == "cutting_node_pkey" || rule == "cutting_code_unique" {
		return id, propagation.ConflictError{Reason: "One of these nodes was already taken, perhaps in another tab. Nothing was cut."}
	}
	mark(&g.touched.Cuttings, id)
	return id, err
}
