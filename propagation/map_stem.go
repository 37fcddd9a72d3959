package propagation

import (
	"context"
	"fmt"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/store"
	"clearjar/store/sqlgen"
)

// StemMapping is the fact that a stem was mapped as it stands.
type StemMapping struct {
	// FactID names this very edit.
	FactID   uuid.UUID `json:"fact_id"`
	MotherID uuid.UUID `json:"mother_id"`
	// Version is the version the edit was made on: 0 for a new stem.
	Version int        `json:"version" minimum:"0"`
	Stem    plant.Stem `json:"map"`
}

// MapStem saves a map of a stem, new or known. An edit made on a version that is no
// longer the newest is refused with what stands now; nothing is overwritten.
func (g *Garden) MapStem(ctx context.Context, stemID uuid.UUID, m StemMapping) (MappedStem, error) {
	if err := checkID("fact_id", m.FactID); err != nil {
		return MappedStem{}, err
	}
	if err := m.Stem.Check(); err != nil {
		return MappedStem{}, err
	}
	err := g.store.InTx(ctx, func(q *sqlgen.Queries) error {
		if _, err := q.StemMapByFact(ctx, m.FactID); err == nil {
			return nil // the same edit again
		} else if !store.IsMissing(err) {
			return err
		}
		if _, err := q.LockMother(ctx, m.MotherID); err != nil {
			return missing(err, "This mother")
		}
		if m.Version == 0 {
			n, err := q.CountStems(ctx, m.MotherID)
			if err != nil {
				return err
			}
			if err := checkID("stem_id", stemID); err != nil {
				return err
			}
			if _, err := q.AddStem(ctx, sqlgen.AddStemParams{ID: stemID, MotherID: m.MotherID, Letter: plant.StemLetter(int(n))}); err != nil {
				return err
			}
		}
		return g.addMap(ctx, q, stemID, m)
	})
	if err != nil {
		return MappedStem{}, err
	}
	return g.StemNow(ctx, stemID)
}

func (g *Garden) addMap(ctx context.Context, q *sqlgen.Queries, stemID uuid.UUID, m StemMapping) error {
	stem, err := q.StemByID(ctx, stemID)
	if err != nil {
		return missing(err, "This stem")
	}
	if stem.MotherID != m.MotherID {
		return plant.Refuse("mother_id", "this stem grows on another mother")
	}
	if err := g.checkTaken(ctx, q, stemID, m.Stem); err != nil {
		return err
	}
	added, err := q.AddStemMap(ctx, sqlgen.AddStemMapParams{StemID: stemID, Version: int32(m.Version) + 1, FactID: m.FactID, Map: m.Stem})
	if err != nil {
		return err
	}
	now, err := q.NewestStemMap(ctx, stemID)
	if err != nil {
		return err
	}
	if added == 0 || int(now.Version) != m.Version+1 {
		return ConflictError{
			Reason: fmt.Sprintf("This stem was changed elsewhere: you edited version %d, version %d stands now. Yours is still on the screen.", m.Version, now.Version),
			Theirs: mapped(stemID, m.MotherID, stem.Letter, int(now.Version), now.Map, now.RecordedAt, nil, plant.Group{}),
		}
	}
	return nil
}

// checkTaken: nodes that were cut stay in the map, so that codes keep their meaning.
func (g *Garden) checkTaken(ctx context.Context, q *sqlgen.Queries, stemID uuid.UUID, stem plant.Stem) error {
	taken, err := q.TakenNodes(ctx, stemID)
	if err != nil {
		return err
	}
	for _, n := range taken {
		if int(n) > len(stem.Nodes) {
			return plant.Refuse("nodes", "node %d was cut from this stem and stays in its map: a map without it would rename the cutting", n)
		}
	}
	return nil
}

// StemNow is a stem with its newest map and the nodes taken.
func (g *Garden) StemNow(ctx context.Context, id uuid.UUID) (MappedStem, error) {
	stem, err := g.store.StemByID(ctx, id)
	if err != nil {
		return MappedStem{}, missing(err, "This stem")
	}
	mother, err := g.MotherPage(ctx, stem.MotherID)
	if err != nil {
		return MappedStem{}, err
	}
	for _, s := range mother.Stems {
		if s.ID == id {
			return s, nil
		}
	}
	return MappedStem{}, MissingError{"The map of this stem"}
}
