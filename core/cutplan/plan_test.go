package cutplan

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
)

func bench(t testing.TB, group string, nodes ...plant.Node) Bench {
	t.Helper()
	g, ok := plant.GroupNamed(group)
	require.True(t, ok)
	return Bench{Stem: plant.Stem{Nodes: nodes, BeyondMM: 30, ThicknessMM: 8, TipIntact: true}, Group: g, Taken: map[int]bool{}}
}

func node(leaf, aerial bool) plant.Node {
	return plant.Node{BelowMM: 40, Leaf: leaf, Aerial: aerial, Bud: plant.BudDormant}
}

func randomBench(t testing.TB, r *rand.Rand, nodes int) Bench {
	groups := plant.Groups()
	b := bench(t, groups[r.IntN(len(groups))].Key)
	buds := []plant.Bud{plant.BudDormant, plant.BudSwelling, plant.BudShooting}
	for range nodes {
		b.Stem.Nodes = append(b.Stem.Nodes, plant.Node{BelowMM: 4 + 60*r.Float64(), Leaf: r.IntN(3) > 0, Aerial: r.IntN(2) > 0, Bud: buds[r.IntN(3)]})
	}
	b.Stem.TipIntact, b.Dark = r.IntN(2) > 0, r.IntN(2) > 0
	if nodes > 3 && r.IntN(3) == 0 {
		b.Taken[nodes] = true
	}
	return b
}

// bruteForce tries every way to cut and gives the most expected plants the limits allow.
func bruteForce(b Bench, l Limits) float64 {
	best := 0.0
	for _, v := range bruteForceBy(b, l) {
		best = math.Max(best, v)
	}
	return best
}

// bruteForceBy does so for each number of pieces.
func bruteForceBy(b Bench, l Limits) map[int]float64 {
	top, best := b.standing(), map[int]float64{}
	var walk func(from, pieces int, sum float64)
	walk = func(from, pieces int, sum float64) {
		if from == top {
			if pieces > 0 {
				best[pieces] = math.Max(best[pieces], sum)
			}
			return
		}
		if l.MostPieces > 0 && pieces == l.MostPieces {
			return
		}
		for last := from + 1; last <= top; last++ {
			n, most := last-from, l.MostNodes
			if last == len(b.Stem.Nodes) && b.Stem.TipIntact {
				most = l.TipMost
			}
			if n >= l.LeastNodes && n <= most {
				walk(last, pieces+1, sum+b.piece(from+1, last, b.knifeAbove(from), b.knifeAbove(last)).Chance)
			}
		}
	}
	leaves := 0
	for stays := 0; stays < top; stays++ {
		if stays > 0 && b.Stem.Nodes[stays-1].Leaf {
			leaves++
		}
		if stays >= l.KeepNodes && leaves >= l.KeepLeaves {
			walk(stays, 0, 0)
		}
	}
	return best
}

func TestProposalEqualsTryingEveryWay(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 11))
	for i := range 1500 {
		b := randomBench(t, r, 1+r.IntN(12))
		l := Limits{LeastNodes: 1 + r.IntN(2), KeepLeaves: r.IntN(2), KeepNodes: 1 + r.IntN(2), MostPieces: r.IntN(4)}
		l.MostNodes, l.TipMost = l.LeastNodes+r.IntN(3), l.LeastNodes+r.IntN(4)
		plan, err := Propose(b, l)
		require.NoError(t, err)
		require.InDelta(t, bruteForce(b, l), plan.Expected, 1e-12, "stem %d: %+v %+v", i, b, l)
		require.Empty(t, plan.Refused)
		if len(plan.Pieces) > 0 {
			require.GreaterOrEqual(t, plan.MotherLeaves, l.KeepLeaves)
		}
	}
}

func TestFrontierEqualsTryingEveryWayForEachNumberOfPieces(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 5))
	for i := range 400 {
		b := randomBench(t, r, 1+r.IntN(12))
		l := Limits{LeastNodes: 1, MostNodes: 1 + r.IntN(3), TipMost: 1 + r.IntN(4), KeepLeaves: r.IntN(2), KeepNodes: 1}
		choices, err := Frontier(b, l)
		require.NoError(t, err)
		want := bruteForceBy(b, l)
		require.Len(t, choices, len(want), "stem %d", i)
		for _, c := range choices {
			require.InDelta(t, want[c.Pieces], c.Expected, 1e-12, "stem %d, %d pieces", i, c.Pieces)
			require.True(t, c.LoseAll >= 0 && c.LoseAll < 1)
			require.Len(t, c.KnivesMM, c.Pieces)
		}
	}
}

// common practice, no source: two-node pieces, a tip piece above bare nodes, one leaf stays on the mother.
func TestDefaultCutOfALeafyVine(t *testing.T) {
	b := bench(t, "soft_climber", node(true, false), node(true, false), node(true, true), node(true, false), node(true, true), node(true, false), node(true, false))
	plan, err := Propose(b, DefaultLimits())
	require.NoError(t, err)
	require.Equal(t, 1, plan.MotherNodes)
	require.Len(t, plan.Pieces, 3)
	for _, p := range plan.Pieces {
		require.Equal(t, 2, p.Set)
		// common practice, no source: soft climbers with two nodes root near 100 %.
		require.Greater(t, p.Chance, 0.85)
	}
	require.Equal(t, plant.Tip, plan.Pieces[2].Kind)
}

// common practice, no source: pitcher vines in perlite 80-90 %.
func TestPitcherVineInPerlite(t *testing.T) {
	b := bench(t, "pitcher_vine", node(true, false), node(true, false), node(true, false), node(true, false))
	b.Stem.TipIntact = false
	plan, err := Propose(b, Limits{LeastNodes: 2, MostNodes: 2, TipMost: 2, KeepLeaves: 1, KeepNodes: 1})
	require.NoError(t, err)
	for _, p := range plan.Pieces {
		require.InDelta(t, 0.85, p.Chance, 0.06)
	}
}

// common practice, no source: leafless single nodes of slow thick climbers mostly fail.
func TestLeaflessNodeOfThickClimberIsALongShot(t *testing.T) {
	b := bench(t, "thick_climber", node(true, false), node(false, false), node(false, false))
	b.Stem.TipIntact = false
	plan, err := Check(b, []float64{60, 100})
	require.NoError(t, err)
	require.Equal(t, plant.WetStick, plan.Pieces[0].Kind)
	require.Less(t, plan.Pieces[0].Chance, 0.4)
}

func TestPieceWithoutANodeNeverGrows(t *testing.T) {
	b := bench(t, "soft_climber", node(true, false), node(true, false), node(true, false))
	plan, err := Check(b, []float64{50, 60})
	require.NoError(t, err)
	require.Zero(t, plan.Pieces[0].Chance)
	require.Len(t, plan.Refused, 1)
	require.Contains(t, plan.Refused[0], "never grow")
}

func TestMotherLeftBare(t *testing.T) {
	b := bench(t, "soft_climber", node(false, false), node(true, false), node(true, false))
	plan, err := Check(b, []float64{60})
	require.NoError(t, err)
	require.Empty(t, plan.Refused)
	require.Contains(t, plan.Warnings[0], "without a leaf")
	plan, err = Check(b, []float64{10})
	require.NoError(t, err)
	require.Contains(t, plan.Refused[0], "leave at least one node")
}

func TestEveryEffectMovesTheChanceItsWay(t *testing.T) {
	plain := bench(t, "thick_climber", node(true, false), node(true, false), node(true, false))
	chance := func(change func(b *Bench), knife float64) float64 {
		b := plain
		b.Stem.Nodes = append([]plant.Node{}, plain.Stem.Nodes...)
		change(&b)
		p, err := Check(b, []float64{knife})
		require.NoError(t, err)
		return p.Pieces[0].Chance
	}
	base := chance(func(*Bench) {}, 60)
	require.Greater(t, chance(func(b *Bench) { b.Stem.Nodes[1].Aerial = true }, 60), base)
	require.Greater(t, chance(func(b *Bench) { b.Stem.Nodes[1].Bud = plant.BudSwelling }, 60), base)
	require.Less(t, chance(func(b *Bench) { b.Dark = true }, 60), base)
	require.Less(t, chance(func(b *Bench) { b.Medium = plant.Mix }, 60), base)
	require.Less(t, chance(func(b *Bench) { b.Stem.TipIntact = false }, 60), base)
	require.Less(t, chance(func(*Bench) {}, 75), base, "less sound stem than the die-back")
	require.Less(t, chance(func(b *Bench) { b.Stem.Nodes[1].Leaf, b.Stem.Nodes[2].Leaf = false, false }, 60), base)
}

// common practice, no source: the top leaf stays to feed the piece; others that would sit in the medium are stripped.
func TestTopLeafIsNeverStripped(t *testing.T) {
	b := bench(t, "soft_climber", node(true, false), node(true, false), node(false, false), node(true, false), node(true, false))
	p := b.piece(2, 3, 60, 140)
	require.Empty(t, p.Strip)
	p = b.piece(4, 5, 140, 230)
	require.Equal(t, []int{4}, p.Strip)
}

func TestBadKnivesAndLimitsAreNamed(t *testing.T) {
	b := bench(t, "soft_climber", node(true, false), node(true, false))
	for name, k := range map[string][]float64{"off the stem": {500}, "below it": {-1}, "not a number": {math.NaN()}} {
		_, err := Check(b, k)
		require.Len(t, plant.Refusals(err), 1, name)
	}
	_, err := Propose(b, Limits{LeastNodes: 3, MostNodes: 2, TipMost: 3})
	require.ErrorContains(t, err, "contradicts")
	b.Stem.Nodes[0].BelowMM, b.Stem.Nodes[1].BelowMM = -4, 1e9
	_, err = Propose(b, DefaultLimits())
	require.Len(t, plant.Refusals(err), 2)
}

func TestTakenNodesAndWhatIsAboveThemAreGone(t *testing.T) {
	b := bench(t, "soft_climber", node(true, false), node(true, false), node(true, false), node(true, false), node(true, false))
	b.Taken = map[int]bool{4: true, 5: true}
	plan, err := Propose(b, DefaultLimits())
	require.NoError(t, err)
	require.Len(t, plan.Pieces, 1)
	require.Equal(t, []int{2, 3}, []int{plan.Pieces[0].First, plan.Pieces[0].Last})
	_, err = Check(b, []float64{170})
	require.ErrorContains(t, err, "not on the stem that stands")
}

func BenchmarkPropose60Nodes(b *testing.B) {
	r := rand.New(rand.NewPCG(1, 2))
	bench := randomBench(b, r, 60)
	bench.Taken = map[int]bool{}
	for b.Loop() {
		if _, err := Propose(bench, DefaultLimits()); err != nil {
			b.Fatal(err)
		}
	}
}
