package show

import (
	"context"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
)

// TableWish is what lies on the potting table: cuttings to be shared out among pots, or pots as the grower shared them out.
type TableWish struct {
	Cuttings []uuid.UUID `json:"cuttings,omitempty" maxItems:"200"`
	Pots     []PotWish   `json:"pots,omitempty" maxItems:"200"`
	// On is the day they are potted on; left out for today.
	On *time.Time `json:"on,omitempty"`
}

// PotWish is one pot as the grower wants it; without sizes and mix as proposed.
type PotWish struct {
	Cuttings []uuid.UUID  `json:"cuttings" minItems:"1" maxItems:"60"`
	Pot      *potting.Pot `json:"pot,omitempty"`
	Mix      string       `json:"mix,omitempty" maxLength:"40"`
}

// PotOnTable is one pot with who goes into it, in the order of its places, and the weeks after.
type PotOnTable struct {
	potting.Potful
	Plants []uuid.UUID    `json:"plants"`
	After  []potting.Step `json:"after"`
}

// PottingTable is the table laid out.
type PottingTable struct {
	Pots  []PotOnTable      `json:"pots"`
	Mixes []potting.Mixture `json:"mixes"`
	Says  string            `json:"says"`
	// Settling is how much looser the mix is filled in than it comes to lie.
	Settling plant.Number `json:"settling"`
	// Materials are what a pot may be made of, Recipes the mixes with their parts as they are in use.
	Materials []potting.MaterialRow `json:"materials"`
	Recipes   []potting.MixRow      `json:"recipes"`
	Cautions  []plant.Caution       `json:"cautions"`
	Rests     []plant.Number        `json:"rests_on"`
}

// LayTable shares cuttings out among pots, or holds what the grower shared out against the rules. Nothing is kept.
func LayTable(ctx context.Context, g *propagation.Garden, w TableWish) (PottingTable, error) {
	ids := append([]uuid.UUID{}, w.Cuttings...)
	for _, p := range w.Pots {
		ids = append(ids, p.Cuttings...)
	}
	if len(ids) == 0 {
		return PottingTable{}, plant.Refuse("cuttings", "nothing lies on the table")
	}
	lives, err := conclude.ManyLives(ctx, g, ids)
	if err != nil {
		return PottingTable{}, err
	}
	at, pieces := map[uuid.UUID]int{}, make([]potting.Piece, len(lives))
	byName := map[string]conclude.Lived{}
	hazards := []plant.HazardKey{"peat_dust"}
	for i, l := range lives {
		at[ids[i]], pieces[i] = i, l.Plant()
		byName[pieces[i].Name] = l
		hazards = append(hazards, l.Group.Hazards...)
	}
	numbers := lives[0].Numbers
	var laid potting.Potfuls
	if len(w.Pots) == 0 {
		laid, err = potting.Together(numbers, pieces)
	} else {
		sets := make([]potting.Set, len(w.Pots), len(w.Pots)+1)
		for i, p := range w.Pots {
			sets[i] = potting.Set{Pot: p.Pot, Mix: p.Mix}
			for _, id := range p.Cuttings {
				sets[i].Pieces = append(sets[i].Pieces, pieces[at[id]])
			}
		}
		if len(w.Cuttings) > 0 {
			return PottingTable{}, plant.Refuse("cuttings", "either cuttings or pots: %d are in no pot", len(w.Cuttings))
		}
		laid, err = potting.Arranged(numbers, sets)
	}
	if err != nil {
		return PottingTable{}, err
	}
	on := g.Today()
	if w.On != nil {
		on = w.On.In(g.Zone)
	}
	out := PottingTable{
		Pots: []PotOnTable{}, Mixes: laid.Mixes, Says: laid.Says, Settling: numbers.Now(potting.Settling), Materials: potting.Materials(numbers), Recipes: potting.Mixes(numbers),
		Cautions: plant.CautionsFor(hazards...), Rests: laid.Rests,
	}
	for _, p := range laid.Pots {
		pot := PotOnTable{Potful: p, Plants: []uuid.UUID{}}
		for _, place := range p.Places {
			pot.Plants = append(pot.Plants, byName[place.Name].Row.ID)
		}
		l := byName[p.Places[0].Name]
		pot.After = potting.Aftercare(numbers, potting.Planted{Group: l.Group, Kind: l.Kind, From: l.Facts().Medium, Moved: p.MovesOn, On: on, Today: g.Today()}).Steps
		out.Pots = append(out.Pots, pot)
	}
	return out, nil
}
