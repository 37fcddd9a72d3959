package door

import (
	"context"
	"time"

	"github.com/google/uuid"

	"clearjar/core/life"
	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/store/sqlgen"
)

// Handover is the fact that a cutting was given away, traded or sold. It happens once, and not to a lost one.
type Handover struct {
	ID        uuid.UUID `json:"id"`
	CuttingID uuid.UUID `json:"cutting_id"`
	GivenOn   time.Time `json:"given_on"`
	Note      string    `json:"note,omitempty" maxLength:"2000"`
}

func (h Handover) named() named { return named{h.ID, "handover", h.CuttingID} }

func (h Handover) write(ctx context.Context, g *Entry) error {
	note, err := plant.CleanText("note", h.Note, 500)
	if err != nil {
		return err
	}
	c, err := g.lockCutting(ctx, h.CuttingID)
	if err != nil {
		return err
	}
	switch {
	case c.Fate() == life.Lost:
		return plant.Refuse("cutting_id", "it is lost; a lost cutting is not given away")
	case c.GivenOn != nil:
		return propagation.ConflictError{Reason: "It was given away already."}
	}
	if err := g.CheckDay("given_on", h.GivenOn, c.CutOn, "the cut"); err != nil {
		return err
	}
	_, err = g.Store.AddHandover(ctx, sqlgen.AddHandoverParams{ID: h.ID, CuttingID: h.CuttingID, GivenOn: h.GivenOn, Note: note})
	return err
}
