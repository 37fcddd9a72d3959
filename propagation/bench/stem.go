package bench

import (
	"time"

	"github.com/google/uuid"

	"clearjar/core/cutplan"
	"clearjar/core/plant"
)

// MappedStem is one stem with the newest version of its map.
type MappedStem struct {
	ID       uuid.UUID  `json:"id"`
	MotherID uuid.UUID  `json:"mother_id"`
	Letter   string     `json:"letter"`
	Version  int        `json:"version"`
	Stem     plant.Stem `json:"map"`
	MappedAt time.Time  `json:"mapped_at"`
	Taken    []Taken    `json:"taken"`
	// Organ is what it is, also where the map does not say; Standing how many nodes, from the
	// base up, are still on the mother, and EndMM where they end.
	Organ    plant.Organ `json:"organ" enum:"stem,rhizome,runner,clump,pups,back_rhizome,tuber,leaf"`
	Standing int         `json:"standing"`
	EndMM    float64     `json:"end_mm"`
}

// Taken is a node that is no longer on the stem, and the cutting that has it.
type Taken struct {
	Node int    `json:"node"`
	Code string `json:"code"`

	fromMM float64
}

// TakenAt is a node that a cutting has, whose piece begins at fromMM above the base of the stem.
func TakenAt(node int, code string, fromMM float64) Taken { return Taken{node, code, fromMM} }

// on works out what it is on a mother of the group, and what of it stands.
func (s MappedStem) on(group plant.Group) MappedStem {
	b := cutplan.NewBench(s.Stem, group)
	for _, t := range s.Taken {
		b.Take(t.Node, t.Node, t.fromMM)
	}
	s.Organ, s.Standing, s.EndMM = b.Organ(), b.Standing(), b.End()
	return s
}

// Leaves counts those that stand.
func (s MappedStem) Leaves() int {
	n := 0
	for _, node := range s.Stem.Nodes[:s.Standing] {
		if node.Leaf {
			n++
		}
	}
	return n
}

// Mapped is a stem as it is mapped, with what was taken from it, on a mother of the group.
func Mapped(id, mother uuid.UUID, letter string, version int, stem plant.Stem, on time.Time, taken []Taken, group plant.Group) MappedStem {
	if taken == nil {
		taken = []Taken{}
	}
	if stem.Nodes == nil {
		stem.Nodes = []plant.Node{}
	}
	return MappedStem{ID: id, MotherID: mother, Letter: letter, Version: version, Stem: stem, MappedAt: on, Taken: taken}.on(group)
}
