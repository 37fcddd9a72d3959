package demo

import (
	"context"
	"fmt"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/door"
	"clearjar/propagation/show"
)

// Crowd adds made-up cuttings, ten to a stem and two to a jar, until there are at least n:
// for measuring how the shelf behaves when it is full.
func Crowd(ctx context.Context, g *propagation.Garden, n int) error {
	shelf, err := show.ShelfNow(ctx, g)
	if err != nil {
		return err
	}
	l := &loader{ctx, g, map[string]show.Mother{}, nil, nil}
	for have := len(shelf.Cuttings); have < n; have += 10 {
		if err := l.addTen(have); err != nil {
			return err
		}
	}
	return nil
}

func (l *loader) addTen(have int) error {
	m, err := l.addMother(door.NewMother{MotherWords: door.MotherWords{Name: fmt.Sprintf("Scindapsus crowd %d", have), GroupKey: "soft_climber", Pattern: "plain"}})
	if err != nil {
		return err
	}
	stem := mapping{internodes: make([]float64, 22), beyond: 20, thick: 6, tip: true}
	var after []int
	for i := range stem.internodes {
		stem.internodes[i] = 30
		stem.leaves = append(stem.leaves, i+1)
		if i >= 2 && i%2 == 0 {
			after = append(after, i)
		}
	}
	mapped, err := l.mapStem(door.StemMapping{MotherID: m.ID, Stem: stem.stem()})
	if err != nil {
		return err
	}
	var knives []float64
	for _, n := range after {
		knives = append(knives, mapped.Stem.At(n)+15)
	}
	made, err := l.cut(l.ago(40), mapped, knives)
	if err != nil {
		return err
	}
	l.vessels = nil
	for i, c := range made {
		if i%2 == 0 {
			jar := plant.Vessel{Kind: plant.Jar, WidthMM: 80, DepthMM: 80, HeightMM: 120, WallMM: 2, FillMM: 85, Holds: 2}
			v, err := l.addVessel(door.NewVessel{Name: fmt.Sprintf("Jar %d-%d", have, i), Place: fmt.Sprintf("Rack %d", have/60), Vessel: jar})
			if err != nil {
				return err
			}
			l.vessels = map[string]uuid.UUID{"jar": v}
		}
		p := life{vessel: "jar", looks: []int{8, 16, 24, 32, 38}, emerges: 6 + float64(i), rate: 1.2, count: 4}
		if err := l.live(c, p, 40); err != nil {
			return err
		}
	}
	return nil
}
