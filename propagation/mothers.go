package propagation

import (
	"context"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/store/sqlgen"
)

// Mother is a mother plant with its stems and what was taken from it.
type Mother struct {
	ID         uuid.UUID     `json:"id"`
	Code       string        `json:"code"`
	Name       string        `json:"name"`
	Group      plant.Group   `json:"group"`
	Provenance string        `json:"provenance"`
	Pattern    string        `json:"pattern" enum:"plain,stable,unstable"`
	Since      time.Time     `json:"since"`
	Stems      []MappedStem  `json:"stems"`
	Cuttings   []CuttingView `json:"cuttings"`
}

// MappedStem is one stem with the newest version of its map.
type MappedStem struct {
	ID       uuid.UUID  `json:"id"`
	MotherID uuid.UUID  `json:"mother_id"`
	Letter   string     `json:"letter"`
	Version  int        `json:"version"`
	Stem     plant.Stem `json:"map"`
	MappedAt time.Time  `json:"mapped_at"`
	Taken    []Taken    `json:"taken"`
}

// Taken is a node that is no longer on the stem, and the cutting that has it.
type Taken struct {
	Node int    `json:"node"`
	Code string `json:"code"`
}

// Mothers lists the collection.
func (g *Garden) Mothers(ctx context.Context) ([]Mother, error) {
	rows, err := g.store.Mothers(ctx)
	if err != nil {
		return nil, err
	}
	return g.mothers(ctx, rows, false)
}

// MotherPage is one mother with everything taken from it.
func (g *Garden) MotherPage(ctx context.Context, id uuid.UUID) (Mother, error) {
	row, err := g.store.MotherByID(ctx, id)
	if err != nil {
		return Mother{}, missing(err, "This mother")
	}
	all, err := g.mothers(ctx, []sqlgen.Mother{row}, true)
	if err != nil {
		return Mother{}, err
	}
	return all[0], nil
}

func (g *Garden) mothers(ctx context.Context, rows []sqlgen.Mother, withCuttings bool) ([]Mother, error) {
	ids := make([]uuid.UUID, len(rows))
	out := make([]Mother, len(rows))
	at := map[uuid.UUID]*Mother{}
	for i, r := range rows {
		group, _ := plant.GroupNamed(r.GroupKey)
		ids[i] = r.ID
		out[i] = Mother{
			ID: r.ID, Code: r.Code, Name: r.Name, Group: group, Provenance: r.Provenance, Pattern: r.Pattern,
			Since: r.RecordedAt, Stems: []MappedStem{}, Cuttings: []CuttingView{},
		}
		at[r.ID] = &out[i]
	}
	stems, err := g.store.StemsOfMothers(ctx, ids)
	if err != nil {
		return nil, err
	}
	taken, err := g.store.TakenNodesOfMothers(ctx, ids)
	if err != nil {
		return nil, err
	}
	byStem := map[uuid.UUID][]Taken{}
	for _, t := range taken {
		byStem[t.StemID] = append(byStem[t.StemID], Taken{int(t.Node), t.Code})
	}
	for _, s := range stems {
		m := at[s.MotherID]
		m.Stems = append(m.Stems, mapped(s.ID, s.MotherID, s.Letter, int(s.Version), s.Map, s.RecordedAt, byStem[s.ID]))
	}
	if withCuttings && len(ids) > 0 {
		cuttings, err := g.cuttings(ctx, nil, ids)
		if err != nil {
			return nil, err
		}
		for _, c := range cuttings {
			m := at[c.MotherID]
			m.Cuttings = append(m.Cuttings, c.brief())
		}
	}
	return out, nil
}

func mapped(id, mother uuid.UUID, letter string, version int, stem plant.Stem, on time.Time, taken []Taken) MappedStem {
	if taken == nil {
		taken = []Taken{}
	}
	if stem.Nodes == nil {
		stem.Nodes = []plant.Node{}
	}
	return MappedStem{ID: id, MotherID: mother, Letter: letter, Version: version, Stem: stem, MappedAt: on, Taken: taken}
}
