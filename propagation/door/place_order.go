package door

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/propagation"
)

// PlaceOrder is the fact that the shelves are walked in an order. All of them are named, each once.
type PlaceOrder struct {
	ID     uuid.UUID   `json:"id"`
	Places []uuid.UUID `json:"places" minItems:"1" maxItems:"200"`
}

func (o PlaceOrder) named() named { return named{o.ID, "place_order", uuid.Nil} }

func (o PlaceOrder) write(ctx context.Context, g *Entry) error {
	rows, err := g.Store.Places(ctx)
	if err != nil {
		return err
	}
	here := make([]uuid.UUID, len(rows))
	for i, r := range rows {
		here[i] = r.ID
	}
	seen := map[uuid.UUID]bool{}
	for _, id := range o.Places {
		if !slices.Contains(here, id) {
			return propagation.MissingError{What: "A shelf of this order"}
		}
		if seen[id] {
			return plant.Refuse("places", "a shelf is walked to once")
		}
		seen[id] = true
	}
	if len(seen) < len(here) {
		return propagation.ConflictError{Reason: "A shelf came meanwhile and is not in this order. Nothing was changed: look again, then order them all."}
	}
	mark(&g.touched.Places, o.Places...)
	g.touched.Care = true
	return g.Store.OrderPlaces(ctx, o.Places)
}
