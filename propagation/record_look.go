package propagation

import (
	"context"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/store"
	"clearjar/store/sqlgen"
	"clearjar/store/trace"
)

// NewLook is the fact that someone looked at a cutting.
type NewLook struct {
	ID        uuid.UUID  `json:"id"`
	CuttingID uuid.UUID  `json:"cutting_id"`
	LookedAt  time.Time  `json:"looked_at"`
	PhotoID   *uuid.UUID `json:"photo_id,omitempty"`
	// Replaces names the look this one corrects; the earlier one stays in the record.
	Replaces *uuid.UUID `json:"replaces,omitempty"`
	Seen     plant.Look `json:"seen"`
}

// LookView is one look as it was made.
type LookView struct {
	ID       uuid.UUID  `json:"id"`
	LookedAt time.Time  `json:"looked_at"`
	Replaces *uuid.UUID `json:"replaces,omitempty"`
	Photo    *Photo     `json:"photo,omitempty"`
	Seen     plant.Look `json:"seen"`
	// LongestMM is the longest root of this look, 0 when none was measured.
	LongestMM float64 `json:"longest_mm"`
}

// RecordLook keeps one look. A look dated before the cut, at nodes the piece does not
// have, or replacing a look that was already replaced is refused.
func (g *Garden) RecordLook(ctx context.Context, l NewLook) (CuttingPage, error) {
	if err := checkID("id", l.ID); err != nil {
		return CuttingPage{}, err
	}
	if err := l.Seen.Check(); err != nil {
		return CuttingPage{}, err
	}
	rows, err := g.store.Cuttings(ctx, sqlgen.CuttingsParams{Ids: []uuid.UUID{l.CuttingID}, MotherIds: []uuid.UUID{}})
	if err != nil {
		return CuttingPage{}, err
	}
	if len(rows) == 0 {
		return CuttingPage{}, MissingError{"This cutting"}
	}
	if err := g.checkDay("looked_at", l.LookedAt, rows[0].CutOn, "the cut"); err != nil {
		return CuttingPage{}, err
	}
	if err := checkNodes(l.Seen, int(rows[0].LastNode-rows[0].FirstNode+1)); err != nil {
		return CuttingPage{}, err
	}
	if l.Seen.Roots == nil {
		l.Seen.Roots = []plant.Root{}
	}
	if l.Seen.Buds == nil {
		l.Seen.Buds = []plant.BudAt{}
	}
	seen, lines := trace.Split(l.Seen)
	_, err = g.store.AddLook(ctx, sqlgen.AddLookParams{ID: l.ID, CuttingID: l.CuttingID, LookedAt: l.LookedAt, PhotoID: l.PhotoID, Replaces: l.Replaces, Seen: seen, Traces: lines})
	switch store.BrokenRule(err) {
	case "look_replaces":
		return CuttingPage{}, ConflictError{Reason: "This look was corrected elsewhere already. Yours is still on the screen; open the newest one and compare."}
	case "look_photo_id_fkey":
		return CuttingPage{}, MissingError{"The photo of this look"}
	case "look_replaces_fkey":
		return CuttingPage{}, MissingError{"The look this one corrects"}
	}
	if err != nil {
		return CuttingPage{}, err
	}
	return g.CuttingPage(ctx, l.CuttingID)
}

// checkNodes: nodes of a look are counted on the piece, 1 at its base.
func checkNodes(l plant.Look, nodes int) error {
	for _, r := range l.Roots {
		if r.Node < 1 || r.Node > nodes {
			return plant.Refuse("roots", "node %d is not on this piece: it has %d", r.Node, nodes)
		}
	}
	for _, b := range l.Buds {
		if b.Node < 1 || b.Node > nodes {
			return plant.Refuse("buds", "node %d is not on this piece: it has %d", b.Node, nodes)
		}
	}
	return nil
}
