package door

import (
	"context"
	"time"

	"github.com/google/uuid"

	"clearjar/core/life"
	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/store/sqlgen"
)

// Potting is the fact that a cutting was potted up. It happens once.
type Potting struct {
	ID        uuid.UUID   `json:"id"`
	CuttingID uuid.UUID   `json:"cutting_id"`
	Place     string      `json:"place" maxLength:"400"`
	PottedOn  time.Time   `json:"potted_on"`
	Pot       potting.Pot `json:"pot"`
	Note      string      `json:"note,omitempty" maxLength:"2000"`
}

func (p Potting) named() named { return named{p.ID, "potting", p.CuttingID} }

func (p Potting) write(ctx context.Context, g *Entry) error {
	if err := p.Pot.Check(); err != nil {
		return err
	}
	note, err := plant.CleanText("note", p.Note, 500)
	if err != nil {
		return err
	}
	c, err := g.standing(ctx, p.CuttingID, life.InVessel)
	if err != nil {
		return err
	}
	set, ok := c.SetNow()
	if !ok {
		return plant.Refuse("cutting_id", "%s was never set into a medium: set it first", c.Row.Code)
	}
	if err := g.CheckDay("potted_on", p.PottedOn, set.On, "it was set"); err != nil {
		return err
	}
	place, err := g.placeNamed(ctx, p.Place)
	if err != nil {
		return err
	}
	mark(&g.touched.Places, place.ID)
	_, err = g.Store.AddPotting(ctx, sqlgen.AddPottingParams{
		ID: p.ID, CuttingID: p.CuttingID, PlaceID: place.ID, PottedOn: p.PottedOn, Pot: p.Pot,
		MixMl: p.Pot.MixML(c.Numbers), Note: note,
	})
	return err
}
