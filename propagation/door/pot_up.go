package door

import (
	"context"
	"encoding/json"
	"fmt"
	"time"

	"github.com/google/uuid"

	"clearjar/core/life"
	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
	"clearjar/store/sqlgen"
)

// Potting is the fact that one cutting was potted up, in a pot of its own. It happens once.
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
	return g.fill(ctx, Potful{ID: p.ID, Place: p.Place, PottedOn: p.PottedOn, Pot: p.Pot, Note: p.Note, Plants: []Planted{{CuttingID: p.CuttingID}}}, func(uuid.UUID) uuid.UUID { return p.ID })
}

// Planted is one plant of a pot, and where in it it stands.
type Planted struct {
	CuttingID uuid.UUID `json:"cutting_id"`
	potting.Stand
}

// Potful is the fact that a pot was filled, and who stands in it. A first pot happens once to each; what stands in one already moves on.
type Potful struct {
	ID       uuid.UUID   `json:"id"`
	Place    string      `json:"place" maxLength:"400"`
	PottedOn time.Time   `json:"potted_on"`
	Pot      potting.Pot `json:"pot"`
	// Mix is the key of the mix; its parts are kept as the grower mixes it at the time.
	Mix    string    `json:"mix,omitempty" maxLength:"40"`
	Plants []Planted `json:"plants" minItems:"1" maxItems:"60"`
	// MovesOn: they stood in pots before, and go into a wider one.
	MovesOn bool   `json:"moves_on,omitempty"`
	Note    string `json:"note,omitempty" maxLength:"2000"`
}

func (p Potful) named() named { return named{id: p.ID, kind: "potful", about: p.ID} }

func (p Potful) write(ctx context.Context, g *Entry) error {
	return g.fill(ctx, p, func(cutting uuid.UUID) uuid.UUID { return uuid.NewSHA1(p.ID, cutting[:]) })
}

// fill writes a pot and who stands in it; row is the id of the row of one plant.
func (g *Entry) fill(ctx context.Context, p Potful, row func(cutting uuid.UUID) uuid.UUID) error {
	if err := p.Pot.Check(); err != nil {
		return err
	}
	note, err := plant.CleanText("note", p.Note, 500)
	if err != nil {
		return err
	}
	numbers, err := g.Numbers(ctx)
	if err != nil {
		return err
	}
	parts := []potting.Part{}
	if mix, known := potting.MixNamed(numbers, p.Mix); known {
		parts = mix.Of(p.Pot.MixML(numbers))
	} else if p.Mix != "" {
		return plant.Refuse("mix", "%q is not a mix", p.Mix)
	}
	text, err := json.Marshal(parts)
	if err != nil {
		return err
	}
	in, follows := map[uuid.UUID]bool{}, map[uuid.UUID]*uuid.UUID{}
	for i, one := range p.Plants {
		if in[one.CuttingID] {
			return plant.Refuse(fmt.Sprintf("plants[%d].cutting_id", i), "it stands in this pot already")
		}
		in[one.CuttingID] = true
		if follows[one.CuttingID], err = g.mayBePotted(ctx, one.CuttingID, p); err != nil {
			return err
		}
	}
	place, err := g.placeNamed(ctx, p.Place)
	if err != nil {
		return err
	}
	mark(&g.touched.Places, place.ID)
	if err := g.Store.AddPot(ctx, sqlgen.AddPotParams{ID: p.ID, PlaceID: place.ID, PottedOn: p.PottedOn, Pot: p.Pot, Mix: p.Mix, Parts: text, MixMl: p.Pot.MixML(numbers), Note: note}); err != nil {
		return err
	}
	for _, one := range p.Plants {
		if _, err := g.Store.AddPotting(ctx, sqlgen.AddPottingParams{ID: row(one.CuttingID), CuttingID: one.CuttingID, PotID: p.ID, At: one.Stand, Follows: follows[one.CuttingID]}); err != nil {
			return err
		}
	}
	return nil
}

// mayBePotted locks a cutting and refuses one that cannot go into this pot. It gives the potting that it is moved on from.
func (g *Entry) mayBePotted(ctx context.Context, id uuid.UUID, p Potful) (*uuid.UUID, error) {
	if p.MovesOn {
		return g.mayMoveOn(ctx, id, p)
	}
	c, err := g.standing(ctx, id, life.InVessel)
	if err != nil {
		return nil, err
	}
	after, than := c.CutOn, "the cut"
	if set, ok := c.SetNow(); ok {
		after, than = set.On, "it was set"
	} else if !c.OwnRoots() {
		return nil, plant.Refuse("cutting_id", "%s was never set into a medium and has no roots of its own: set it first", c.Row.Code)
	}
	return nil, g.CheckDay("potted_on", p.PottedOn, after, than)
}

// mayMoveOn locks a cutting and refuses one that does not stand in a pot. One that has grown on may be moved on too.
func (g *Entry) mayMoveOn(ctx context.Context, id uuid.UUID, p Potful) (*uuid.UUID, error) {
	c, err := g.lockCutting(ctx, id)
	if err != nil {
		return nil, err
	}
	switch {
	case c.Potted == nil:
		return nil, plant.Refuse("cutting_id", "%s stands in no pot yet: pot it up first", c.Row.Code)
	case c.GivenOn != nil:
		return nil, propagation.ConflictError{Reason: fmt.Sprintf("%s was given away on %s.", c.Row.Code, c.GivenOn.Format("2 Jan 2006"))}
	case c.Fate() == life.Lost:
		return nil, propagation.ConflictError{Reason: fmt.Sprintf("%s was closed as lost on %s. Reopen it first, if that was a mistake.", c.Row.Code, c.Outcome.On.Format("2 Jan 2006"))}
	}
	last := c.Potted
	if c.Moved != nil {
		last = c.Moved
	}
	return c.Row.PottingID, g.CheckDay("potted_on", p.PottedOn, last.On, "it was potted last")
}

// movedSince refuses to take a potting back that a later one rests on.
func movedSince(c conclude.Lived, pot uuid.UUID) error {
	if c.Row.PotID != nil && *c.Row.PotID != pot {
		return propagation.ConflictError{Reason: fmt.Sprintf("%s was moved on into another pot since: take that back first.", c.Row.Code)}
	}
	return nil
}

// withdrawPlant takes back that one plant came into a pot; a pot that nobody stands in any more goes with it.
func withdrawPlant(ctx context.Context, g *Entry, id uuid.UUID) (int64, error) {
	p, err := g.Store.PottingByID(ctx, id)
	if err != nil {
		return 0, err
	}
	if err := g.mayLeavePot(ctx, p.CuttingID, p.PotID, p.Follows != nil); err != nil {
		return 0, err
	}
	n, err := g.Store.WithdrawPotting(ctx, id)
	if err != nil {
		return 0, err
	}
	return n, g.Store.WithdrawEmptyPot(ctx, p.PotID)
}

// withdrawPotful takes a pot back with all that came into it.
func withdrawPotful(ctx context.Context, g *Entry, id uuid.UUID) (int64, error) {
	in, err := g.Store.CuttingsOfPot(ctx, id)
	if err != nil {
		return 0, err
	}
	for _, p := range in {
		if err := g.mayLeavePot(ctx, p.CuttingID, id, p.MovesOn); err != nil {
			return 0, err
		}
	}
	n, err := g.Store.WithdrawPotfulOf(ctx, id)
	if err != nil {
		return 0, err
	}
	return n, g.Store.WithdrawEmptyPot(ctx, id)
}

// mayLeavePot locks a cutting and refuses when something later rests on its being in this pot.
func (g *Entry) mayLeavePot(ctx context.Context, id, pot uuid.UUID, movesOn bool) error {
	c, err := g.lockCutting(ctx, id)
	if err != nil {
		return err
	}
	if c.Fate() == life.Established && !movesOn {
		return propagation.ConflictError{Reason: fmt.Sprintf("%s was closed as established since: reopen it first.", c.Row.Code)}
	}
	return movedSince(c, pot)
}
