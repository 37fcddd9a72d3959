package propagation

import (
	"context"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/store"
	"clearjar/store/sqlgen"
)

// Handover is the fact that a cutting was given away, traded or sold.
type Handover struct {
	ID        uuid.UUID `json:"id"`
	CuttingID uuid.UUID `json:"cutting_id"`
	GivenOn   time.Time `json:"given_on"`
	Note      string    `json:"note,omitempty" maxLength:"2000"`
}

// GiveAway notes that a cutting left the collection. It can happen once, and not to a lost one.
func (g *Garden) GiveAway(ctx context.Context, h Handover) (CuttingPage, error) {
	if err := checkID("id", h.ID); err != nil {
		return CuttingPage{}, err
	}
	if len([]rune(h.Note)) > 500 {
		return CuttingPage{}, plant.Refuse("note", "at most 500 characters")
	}
	c, err := g.cuttingView(ctx, h.CuttingID)
	if err != nil {
		return CuttingPage{}, err
	}
	if c.evidence.Outcome != nil && c.evidence.Outcome.Kind == "lost" {
		return CuttingPage{}, plant.Refuse("cutting_id", "it is lost; a lost cutting is not given away")
	}
	if err := g.checkDay("given_on", h.GivenOn, c.CutOn, "the cut"); err != nil {
		return CuttingPage{}, err
	}
	_, err = g.store.AddHandover(ctx, sqlgen.AddHandoverParams{ID: h.ID, CuttingID: h.CuttingID, GivenOn: h.GivenOn, Note: h.Note})
	if store.BrokenRule(err) == "handover_once" {
		return CuttingPage{}, ConflictError{Reason: "It was given away already."}
	}
	if err != nil {
		return CuttingPage{}, err
	}
	return g.CuttingPage(ctx, h.CuttingID)
}
