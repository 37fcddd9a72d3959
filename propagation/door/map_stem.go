package door

import (
	"context"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/bench"
	"clearjar/store"
	"clearjar/store/sqlgen"
)

// StemMapping is the fact that a stem was mapped as it stands. An edit made on a version that is not the
// newest is refused with what stands now; nothing is overwritten.
type StemMapping struct {
	// FactID names this very edit.
	FactID   uuid.UUID `json:"fact_id"`
	MotherID uuid.UUID `json:"mother_id"`
	// Version is the version the edit was made on: 0 for a new stem.
	Version int        `json:"version" minimum:"0" maximum:"1000000"`
	Stem    plant.Stem `json:"map"`
	// MappedOn is when it was looked at; left out for when this was made.
	MappedOn *time.Time `json:"mapped_on,omitempty"`
}

// mostStems bounds the stems of one mother.
const mostStems = 600

// StemMap is a map with the stem it is of.
type StemMap struct {
	StemID uuid.UUID `json:"stem_id"`
	StemMapping
}

func (m StemMap) named() named { return named{m.FactID, "stem_map", m.MotherID} }

func (m StemMap) write(ctx context.Context, g *Entry) error {
	if err := m.Stem.Check(); err != nil {
		return err
	}
	if err := m.Stem.CheckText(); err != nil {
		return err
	}
	if err := g.lockMother(ctx, m.MotherID); err != nil {
		return err
	}
	mark(&g.touched.Stems, m.StemID)
	if m.Version == 0 {
		if err := g.addStem(ctx, m.StemID, m.MotherID, m.Stem.What()); err != nil {
			return err
		}
	}
	return g.addMap(ctx, m.StemID, m.StemMapping)
}

func (g *Entry) addStem(ctx context.Context, stemID, motherID uuid.UUID, organ plant.Organ) error {
	if err := propagation.CheckID("stem_id", stemID); err != nil {
		return err
	}
	letter, err := g.nextLetter(ctx, motherID, organ)
	if err != nil {
		return err
	}
	_, err = g.Store.AddStem(ctx, sqlgen.AddStemParams{ID: stemID, MotherID: motherID, Letter: letter})
	return err
}

// nextLetter is the letter of a mother's next stem. Letters of stems that were taken back are not given out again.
func (g *Entry) nextLetter(ctx context.Context, motherID uuid.UUID, organ plant.Organ) (string, error) {
	letters, err := g.Store.LettersOfMother(ctx, motherID)
	if err != nil {
		return "", err
	}
	if len(letters) >= mostStems {
		return "", plant.Refuse("mother_id", "a mother has at most %d stems", mostStems)
	}
	if rule, _ := organ.Rule(); rule.Letter != "" {
		for n := 1; ; n++ {
			if letter := fmt.Sprintf("%s%d", rule.Letter, n); !slices.Contains(letters, letter) {
				return letter, nil
			}
		}
	}
	n := 0
	for slices.Contains(letters, plant.StemLetter(n)) {
		n++
	}
	return plant.StemLetter(n), nil
}

func (g *Entry) addMap(ctx context.Context, stemID uuid.UUID, m StemMapping) error {
	stem, err := g.Store.StemByID(ctx, stemID)
	if err != nil {
		return propagation.Missing(err, "This stem")
	}
	if stem.MotherID != m.MotherID {
		return plant.Refuse("mother_id", "this stem grows on another mother")
	}
	if err := g.checkTaken(ctx, stemID, m.Stem); err != nil {
		return err
	}
	now, err := g.Store.NewestStemMap(ctx, stemID)
	if err != nil && !store.IsMissing(err) {
		return err
	}
	if int(now.Version) != m.Version {
		return propagation.ConflictError{
			Reason: fmt.Sprintf("This stem was changed elsewhere: you edited version %d, version %d stands now. Yours is still on the screen.", m.Version, now.Version),
			Theirs: bench.Mapped(stemID, m.MotherID, stem.Letter, int(now.Version), now.Map, now.MappedOn, nil, plant.Group{}),
		}
	}
	on := g.decided
	if m.MappedOn != nil {
		on = *m.MappedOn
	}
	if err := g.CheckDay("mapped_on", on, propagation.EarliestRecord, "any record"); err != nil {
		return err
	}
	_, err = g.Store.AddStemMap(ctx, sqlgen.AddStemMapParams{StemID: stemID, Version: int32(m.Version) + 1, FactID: m.FactID, Map: m.Stem, MappedOn: on})
	return err
}

// checkTaken: nodes that were cut stay in the map, so that codes keep their meaning.
func (g *Entry) checkTaken(ctx context.Context, stemID uuid.UUID, stem plant.Stem) error {
	taken, err := g.Store.TakenNodes(ctx, stemID)
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
