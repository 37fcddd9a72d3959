package potting

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/number"
	"clearjar/core/plant"
)

// published: densest packings of equal circles in a circle (Graham et al. 1998, from memory). n circles of radius r in one of radius 1
// have middles in a circle of 1 - r, 2 r apart: nearest / radius = 2 r / (1 - r).
func TestPlantsStandAsFarApartAsTheyCan(t *testing.T) {
	for n, r := range map[int]float64{2: 0.5, 3: 0.46410, 4: 0.41421, 6: 0.33333, 7: 0.33333, 8: 0.30259, 9: 0.27677, 10: 0.26226} {
		want := 2 * r / (1 - r)
		require.InEpsilon(t, want, nearest(places(n, 1)), 0.06, "%d plants", n)
		require.LessOrEqual(t, nearest(places(n, 1)), want*1.001, "%d plants: no nearer than can be", n)
	}
	for n := 1; n <= 30; n++ {
		for _, p := range places(n, 40) {
			require.LessOrEqual(t, math.Hypot(p[0], p[1]), 40+1e-9)
		}
		require.Equal(t, places(n, 40), places(n, 40))
	}
	// common practice, no source: five in a basket stand three outside, two inside.
	out := 0
	for _, p := range places(5, 1) {
		if math.Hypot(p[0], p[1]) > 0.9 {
			out++
		}
	}
	require.Equal(t, 3, out)
}

func piece(t *testing.T, name, group string, mm float64) Piece {
	t.Helper()
	g, ok := plant.GroupNamed(group)
	require.True(t, ok)
	return Piece{Name: name, Group: g, Kind: plant.StemCutting, LongestMM: mm}
}

// common practice, no source: 3 in a 100 mm pot, 5 in a 150 mm basket; like with like.
func TestLikeGoesWithLike(t *testing.T) {
	all := []Piece{}
	for i, mm := range []float64{15, 12, 16, 14, 16} {
		all = append(all, piece(t, fmt.Sprintf("CIS-%d", i), "cissus_kin", mm))
	}
	all = append(all, piece(t, "PIN-1", "soft_climber", 85), piece(t, "PIN-2", "soft_climber", 71))
	got, err := Together(number.Table{}, all)
	require.NoError(t, err)
	require.Len(t, got.Pots, 2)
	require.Len(t, got.Pots[0].Places, 5)
	require.InDelta(t, 150, got.Pots[0].Pot.TopMM, 0)
	require.Len(t, got.Pots[1].Places, 2)
	require.InDelta(t, 100, got.Pots[1].Pot.TopMM, 0)
	require.Contains(t, got.Says, "7 plants, 2 pots")
	// Loose mix settles: 12 % more is filled in than the pots hold.
	held, loose := 0.0, 0.0
	for _, p := range got.Pots {
		held += p.MixML
	}
	for _, m := range got.Mixes {
		loose += m.ML
		sum := 0.0
		for _, p := range m.Parts {
			sum += p.ML
		}
		require.InDelta(t, m.ML, sum, 1e-6)
	}
	require.InEpsilon(t, held/0.88, loose, 1e-9)
	// A long one stays apart from short ones.
	apart, err := Together(number.Table{}, []Piece{piece(t, "a", "cissus_kin", 10), piece(t, "b", "cissus_kin", 40)})
	require.NoError(t, err)
	require.Len(t, apart.Pots, 2)
	_, err = Together(number.Table{}, []Piece{piece(t, "a", "cissus_kin", 10), piece(t, "a", "cissus_kin", 12)})
	require.Len(t, plant.Refusals(err), 1)
	_, err = Together(number.Table{}, nil)
	require.Error(t, err)
}

// brute is the fewest pots and the least spread over all ways of parting plants, neighbours or not.
func brute(limit float64, most int, all []Piece) (pots int, sum float64) {
	pots, sum = len(all)+1, math.Inf(1)
	var part func(i int, groups [][]Piece)
	part = func(i int, groups [][]Piece) {
		if i == len(all) {
			total := 0.0
			for _, g := range groups {
				s := spread(g)
				if s > limit || len(g) > most {
					return
				}
				total += math.Log(s)
			}
			if len(groups) < pots || len(groups) == pots && total < sum {
				pots, sum = len(groups), total
			}
			return
		}
		for k := range groups {
			with := slices.Clone(groups)
			with[k] = append(slices.Clone(groups[k]), all[i])
			part(i+1, with)
		}
		part(i+1, append(slices.Clone(groups), []Piece{all[i]}))
	}
	part(0, nil)
	return pots, sum
}

// No other way of parting them needs fewer pots, or has less spread in as many.
func TestGroupingIsTheBestThereIs(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 4))
	for range 60 {
		all := []Piece{}
		for i := range 1 + r.IntN(7) {
			all = append(all, piece(t, fmt.Sprint(i), "cissus_kin", 8+40*r.Float64()))
		}
		groups := grouped(number.Table{}, all)
		sum, n := 0.0, 0
		for _, g := range groups {
			sum += math.Log(spread(g))
			n += len(g)
		}
		require.Len(t, all, n)
		pots, least := brute(LikeWithLike.Value, int(MostInPot.Value), all)
		require.Len(t, groups, pots)
		require.InDelta(t, least, sum, 1e-9)
	}
}

// Of every group and kind, in any number: each stands in one pot, within it, and no pot is refused.
func TestEveryKindIsPottedTogether(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 9))
	for _, g := range plant.Groups() {
		for _, k := range g.Kinds {
			all := []Piece{}
			for i := range 1 + r.IntN(12) {
				all = append(all, Piece{Name: fmt.Sprint(i), Group: g, Kind: k, LongestMM: float64(r.IntN(3)) * 90 * r.Float64()})
			}
			got, err := Together(number.Table{}, all)
			require.NoError(t, err)
			seen := map[string]bool{}
			for _, p := range got.Pots {
				require.NoError(t, p.Pot.Check())
				require.Positive(t, p.MixML)
				for _, at := range p.Places {
					require.False(t, seen[at.Name])
					seen[at.Name] = true
					require.Less(t, math.Hypot(at.XMM, at.YMM), p.Pot.TopMM/2)
				}
			}
			require.Len(t, seen, len(all))
		}
	}
}

// common practice, no source: moved on 25 mm wider, never 50 or more, deeper where the roots run down; bare stem buried to the next node.
func TestMovedOnALittleWiderAndBuriedToTheNextNode(t *testing.T) {
	now := Pot{TopMM: 100, BottomMM: 75, DepthMM: 90, Material: Clay}
	p := piece(t, "PIN-1", "soft_climber", 60)
	p.Now, p.NodeMM, p.SetNodes, p.LengthMM = &now, []float64{12, 50}, 1, 260
	got, err := Together(number.Table{}, []Piece{p})
	require.NoError(t, err)
	require.InDelta(t, 125, got.Pots[0].Pot.TopMM, 0)
	require.InDelta(t, 90, got.Pots[0].Pot.DepthMM, 0)
	require.Equal(t, Clay, got.Pots[0].Pot.Material)
	require.True(t, got.Pots[0].MovesOn)
	require.InDelta(t, 47, got.Pots[0].Places[0].BuryMM, 1e-9)
	require.True(t, got.Pots[0].Places[0].Stake)
	p.LongestMM = 140
	got, err = Together(number.Table{}, []Piece{p})
	require.NoError(t, err)
	require.InDelta(t, 155, got.Pots[0].Pot.DepthMM, 0, "deeper")
	far := Pot{TopMM: 150, BottomMM: 110, DepthMM: 120}
	got, err = Arranged(number.Table{}, []Set{{Pieces: []Piece{p}, Pot: &far}})
	require.NoError(t, err)
	require.Contains(t, got.Pots[0].Cautions[0], "50 mm wider than before")
	near := Pot{TopMM: 149, BottomMM: 110, DepthMM: 120}
	got, err = Arranged(number.Table{}, []Set{{Pieces: []Piece{p}, Pot: &near}})
	require.NoError(t, err)
	require.Empty(t, got.Pots[0].Cautions)
}

// What the grower puts together is laid out, and what speaks against it is said.
func TestWhatTheGrowerPutsTogetherIsHeldAgainstTheRules(t *testing.T) {
	wet, dry := piece(t, "a", "cissus_kin", 10), piece(t, "b", "rosette_succulent", 40)
	wet.From = plant.Water
	cautions := func(s Set) string {
		got, err := Arranged(number.Table{}, []Set{s})
		require.NoError(t, err)
		return fmt.Sprint(got.Pots[0].Cautions)
	}
	said := cautions(Set{Pieces: []Piece{wet, dry}})
	require.Contains(t, said, "4.0 times the shortest")
	require.Contains(t, said, "other water needs")
	require.Contains(t, cautions(Set{Pieces: []Piece{wet, piece(t, "c", "pitcher_vine", 10)}}), "another mix")
	require.Contains(t, cautions(Set{Pieces: []Piece{wet}, Pot: &Pot{TopMM: 80, BottomMM: 60, DepthMM: 80, Material: Clay, Closed: true}}), "Roots grown in water dry out")
	require.Contains(t, cautions(Set{Pieces: []Piece{wet}, Pot: &Pot{TopMM: 80, BottomMM: 60, DepthMM: 80, Closed: true}}), "No hole")
	require.Contains(t, cautions(Set{Pieces: []Piece{wet}, Pot: &Pot{TopMM: 160, BottomMM: 60, DepthMM: 80}}), "wider than their roots want")
	deep := wet
	deep.NodeMM, deep.SetNodes = []float64{20, 70}, 2
	require.Contains(t, cautions(Set{Pieces: []Piece{deep}, Pot: &Pot{TopMM: 60, BottomMM: 50, DepthMM: 60}}), "Too shallow")
	crowd := Set{}
	for i := range 12 {
		crowd.Pieces = append(crowd.Pieces, piece(t, fmt.Sprint(i), "cissus_kin", 12))
	}
	require.NotContains(t, cautions(crowd), "apart: take a wider pot", "a bunch of a dozen gets the room it wants")
	crowd.Pot = &Pot{TopMM: 60, BottomMM: 50, DepthMM: 60}
	require.Contains(t, cautions(crowd), "take a wider pot")
	vine, err := Together(number.Table{}, []Piece{piece(t, "v", "pitcher_vine", 30)})
	require.NoError(t, err)
	require.Contains(t, vine.Pots[0].How, "Tip it out, never pull")
	_, err = Arranged(number.Table{}, []Set{{Pieces: []Piece{wet}, Mix: "luck"}})
	require.Len(t, plant.Refusals(err), 1)
	_, err = Arranged(number.Table{}, []Set{{}, {Pieces: []Piece{wet}}})
	require.Len(t, plant.Refusals(err), 1)
}

// The parts of a mix are numbers as any other: what the grower mixes is what is weighed out.
func TestPartsOfAMixAreTheGrowersOwn(t *testing.T) {
	own, err := number.Table{}.With(number.Change{Key: "potting.mix.climber.bark", Value: 5}, number.Change{Key: "potting.mix.climber.coir", Value: 0})
	require.NoError(t, err)
	m, _ := MixNamed(own, "climber")
	got := m.Of(600)
	require.InDelta(t, 500, got[0].ML, 1e-9)
	require.InDelta(t, 100, got[1].ML, 1e-9)
	require.Zero(t, got[2].ML)
}

// Two hundred ready pieces of four groups, as after a good spring.
func BenchmarkTogether(b *testing.B) {
	r := rand.New(rand.NewPCG(8, 8))
	all := []Piece{}
	for i := range 200 {
		g, _ := plant.GroupNamed([]string{"cissus_kin", "soft_climber", "thick_climber", "wax_vine"}[i%4])
		all = append(all, Piece{Name: fmt.Sprint(i), Group: g, Kind: plant.StemCutting, LongestMM: 10 + 80*r.Float64()})
	}
	for b.Loop() {
		if _, err := Together(number.Table{}, all); err != nil {
			b.Fatal(err)
		}
	}
}
