package cutplan

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/core/stats"
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

var (
	testBuds    = []plant.Bud{plant.BudDormant, plant.BudSwelling, plant.BudShooting}
	testStripes = []plant.Stripe{"", plant.StripeNone, plant.StripeSome, plant.StripeStrong}
	testSchools = []KnifeSchool{MidInternode, BelowNode, TrimShort, LeaveLong}
	testLeaves  = []LeafSchool{KeepLeaf, HalveLeaf, StripNodes}
	allAims     = []AimKind{MostPlants, AtLeastK, MostWorth, Reshape}
)

func randomBench(t testing.TB, r *rand.Rand, nodes int) Bench {
	groups := plant.Groups()
	b := bench(t, groups[r.IntN(len(groups))].Key)
	b.Stem.Organ = plant.StemOrgan
	for range nodes {
		b.Stem.Nodes = append(b.Stem.Nodes, plant.Node{
			BelowMM: 0.6 + 90*r.Float64(), Leaf: r.IntN(3) > 0, Aerial: r.IntN(2) > 0, Bud: testBuds[r.IntN(3)], Stripe: testStripes[r.IntN(4)],
		})
	}
	b.Stem.TipIntact, b.Dark = r.IntN(2) > 0, r.IntN(2) > 0
	b.Stem.ThicknessMM = 3 + 25*r.Float64()
	b.Knife, b.Leaves, b.Hormone = testSchools[r.IntN(4)], testLeaves[r.IntN(3)], r.IntN(2) > 0
	if nodes > 3 && r.IntN(3) == 0 {
		b.Taken[nodes] = true
	}
	if r.IntN(4) == 0 {
		b.Skip = map[int]bool{1 + r.IntN(nodes): true}
	}
	return b
}

func randomLimits(r *rand.Rand) Limits {
	l := Limits{
		LeastNodes: 1 + r.IntN(2), KeepLeaves: r.IntN(3), KeepNodes: 1 + r.IntN(2), MostPieces: r.IntN(5),
		TipBare: r.IntN(3), NoStrip: r.IntN(4) == 0,
	}
	l.MostNodes, l.TipMost = l.LeastNodes+r.IntN(3), max(l.TipBare, l.LeastNodes+r.IntN(4))
	if r.IntN(4) == 0 {
		l.MostLengthMM = 60 + 200*r.Float64()
	}
	return l
}

// tried is the best of one number of pieces found by trying every way to cut.
type tried map[int]float64

// tryEveryWay walks through every way to cut every bench, one after the other, and scores each
// whole plan from its pieces alone.
func tryEveryWay(benches []Bench, l Limits, aim Aim) tried {
	best := tried{}
	leaves := 0
	var pieces []Piece
	missedBy := 0.0
	score := func() float64 {
		switch aim.Kind {
		case AtLeastK:
			chances := []float64{}
			for _, p := range pieces {
				chances = append(chances, p.Chance)
			}
			return stats.AtLeast(stats.PoissonBinomial(chances), aim.AtLeast)
		case MostWorth:
			return outlook(pieces).Worth
		}
		return outlook(pieces).Expected - missedBy
	}
	var stem func(i int)
	var walk func(i, n int)
	walk = func(i, n int) {
		b := benches[i]
		top := b.Standing()
		if n == top || n >= l.keeps(b) {
			had, kept := missedBy, b.leavesUpTo(n)
			if aim.Kind == Reshape {
				missedBy += missed * math.Abs(float64(n-b.target(l, aim).Node))
			}
			leaves += kept
			stem(i + 1)
			leaves -= kept
			missedBy = had
		}
		for first := n; first >= 1; first-- {
			if !l.allows(b, first, n, b.starts(first), b.stops(n)) {
				continue
			}
			pieces = append(pieces, b.piece(first, n, b.starts(first), b.stops(n), l))
			walk(i, first-1)
			pieces = pieces[:len(pieces)-1]
		}
		for first := n; first >= 1 && b.Skip[first]; first-- {
			if b.nodeAt(b.starts(first)) == 0 {
				walk(i, first-1)
			}
		}
	}
	stem = func(i int) {
		if i < len(benches) {
			walk(i, benches[i].Standing())
			return
		}
		if leaves < l.KeepLeaves || len(pieces) == 0 || (l.MostPieces > 0 && len(pieces) > l.MostPieces) {
			return
		}
		if had, ok := best[len(pieces)]; !ok || score() > had {
			best[len(pieces)] = score()
		}
	}
	stem(0)
	return best
}

func (t tried) most() float64 {
	best := 0.0
	for _, v := range t {
		best = math.Max(best, v)
	}
	return best
}

func aimOf(kind AimKind, r *rand.Rand, l Limits) Aim {
	a := Aim{Kind: kind}
	if kind == AtLeastK {
		a.AtLeast = 1 + r.IntN(4)
		if l.MostPieces > 0 {
			a.AtLeast = min(a.AtLeast, l.MostPieces)
		}
	}
	return a
}

// stemsTried is how many random stems each aim is compared on.
const stemsTried = 1500

func TestProposalEqualsTryingEveryWay(t *testing.T) {
	for _, kind := range allAims {
		t.Run(string(kind), func(t *testing.T) {
			t.Parallel()
			r := rand.New(rand.NewPCG(7, uint64(len(kind))))
			for i := range stemsTried {
				b, l := randomBench(t, r, 1+r.IntN(12)), randomLimits(r)
				aim := aimOf(kind, r, l)
				together, err := ProposeTogether([]Bench{b}, l, aim)
				require.NoError(t, err)
				plan, want := together.Plans[0], tryEveryWay([]Bench{b}, l, aim)
				require.Empty(t, plan.Refused, "stem %d", i)
				if len(want) == 0 {
					require.Empty(t, plan.KnivesMM)
					require.Contains(t, plan.Warnings[0], "Nothing to cut")
					continue
				}
				got := together.Reached
				if kind == Reshape {
					got -= missed * math.Abs(float64(plan.MotherNodes-together.Targets[0].Node))
					best := math.Inf(-1)
					for _, v := range want {
						best = math.Max(best, v)
					}
					require.InDelta(t, best, got, 1e-9, "stem %d", i)
					continue
				}
				require.InDelta(t, want.most(), got, 1e-12, "stem %d: %+v %+v", i, b, l)
				// The knives, checked as if laid by hand, come to the same.
				switch kind {
				case AtLeastK:
					require.InDelta(t, got, stats.AtLeast(plan.Counts, aim.AtLeast), 1e-12)
				case MostWorth:
					require.InDelta(t, got, plan.Worth, 1e-12)
				default:
					require.InDelta(t, got, plan.Expected, 1e-12)
				}
				if len(plan.Pieces) > 0 {
					require.GreaterOrEqual(t, plan.MotherLeaves, l.KeepLeaves)
				}
			}
		})
	}
}

func TestFrontierEqualsTryingEveryWayForEachNumberOfPieces(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 5))
	for i := range 800 {
		b, l := randomBench(t, r, 1+r.IntN(11)), randomLimits(r)
		aim := aimOf([]AimKind{MostPlants, AtLeastK, MostWorth}[i%3], r, l)
		choices, err := Frontier([]Bench{b}, l, aim)
		require.NoError(t, err)
		want := tryEveryWay([]Bench{b}, l, aim)
		require.Equal(t, len(want) == 0, len(choices) == 0, "stem %d", i)
		offered := map[int]bool{}
		for _, c := range choices {
			offered[c.Pieces] = true
			require.NotEmpty(t, c.Best)
			for _, d := range choices {
				beaten := d.Reached > c.Reached+1e-9 && d.Surest > c.Surest+1e-9
				require.True(t, !beaten || slices.Contains(c.Best, "the mother keeps most"), "stem %d: %d pieces are beaten by %d in every way", i, c.Pieces, d.Pieces)
			}
		}
		for pieces, reached := range want {
			if !offered[pieces] {
				require.True(t, slices.ContainsFunc(choices, func(c Choice) bool { return c.Reached >= reached-1e-9 }), "stem %d, %d pieces", i, pieces)
			}
		}
		for _, c := range choices {
			require.InDelta(t, want[c.Pieces], c.Reached, 1e-12, "stem %d, %d pieces", i, c.Pieces)
			require.Len(t, c.Counts, c.Pieces+1)
			require.InDelta(t, c.Counts[0], c.LoseAll, 1e-15)
			mean, all := 0.0, 0.0
			for n, p := range c.Counts {
				mean, all = mean+float64(n)*p, all+p
			}
			require.InDelta(t, c.Expected, mean, 1e-12)
			require.InDelta(t, 1, all, 1e-12)
		}
	}
}

func TestSeveralStemsTogetherEqualTryingEveryWay(t *testing.T) {
	r := rand.New(rand.NewPCG(13, 17))
	for i := range 300 {
		benches := []Bench{}
		for range 2 + r.IntN(2) {
			benches = append(benches, randomBench(t, r, 1+r.IntN(4)))
		}
		l := randomLimits(r)
		aim := aimOf([]AimKind{MostPlants, AtLeastK, MostWorth}[i%3], r, l)
		together, err := ProposeTogether(benches, l, aim)
		require.NoError(t, err)
		require.InDelta(t, tryEveryWay(benches, l, aim).most(), together.Reached, 1e-12, "garden %d", i)
		pieces := 0
		for _, p := range together.Plans {
			pieces += len(p.Pieces)
		}
		if l.MostPieces > 0 {
			require.LessOrEqual(t, pieces, l.MostPieces)
		}
	}
}

// Wanting at least k is another question than wanting the most: on some stems another plan answers it, and better.
func TestAtLeastSoManyCanBeAnotherPlanThanTheMost(t *testing.T) {
	r := rand.New(rand.NewPCG(23, 29))
	better := 0
	for range 200 {
		b := randomBench(t, r, 8)
		l := Limits{LeastNodes: 1, MostNodes: 3, TipMost: 4, KeepNodes: 1}
		most, err := Propose(b, l, Aim{Kind: MostPlants})
		require.NoError(t, err)
		two, err := Propose(b, l, Aim{Kind: AtLeastK, AtLeast: 2})
		require.NoError(t, err)
		require.GreaterOrEqual(t, stats.AtLeast(two.Counts, 2), stats.AtLeast(most.Counts, 2)-1e-12)
		require.LessOrEqual(t, two.Expected, most.Expected+1e-12)
		if stats.AtLeast(two.Counts, 2) > stats.AtLeast(most.Counts, 2)+1e-6 {
			better++
		}
	}
	require.Greater(t, better, 10)
}

// Nodes that stand closer than a blade leaves room for are never parted.
func TestNoKnifeBetweenNodesThatStandTooClose(t *testing.T) {
	b := bench(t, "soft_climber", node(true, false), node(true, false), node(true, false))
	b.Stem.Nodes[2].BelowMM = 3
	l := Limits{LeastNodes: 1, MostNodes: 3, TipMost: 3, KeepNodes: 1}
	plan, err := Propose(b, l, Aim{})
	require.NoError(t, err)
	require.Empty(t, plan.Refused)
	require.Equal(t, []float64{60}, plan.KnivesMM)
	by, err := Check(b, l, []float64{81.5})
	require.NoError(t, err)
	require.Contains(t, by.Refused[0], "on node 2")
}

// common practice, no source: reverted stems are cut back to the last node with good pattern.
func TestRevertedStemIsCutBackToTheLastGoodPattern(t *testing.T) {
	b := bench(t, "soft_climber", node(true, false), node(true, false), node(true, false), node(true, false), node(true, false), node(true, false))
	for i := range b.Stem.Nodes {
		b.Stem.Nodes[i].Stripe = plant.StripeStrong
		if i >= 3 {
			b.Stem.Nodes[i].Stripe = plant.StripeNone
		}
	}
	together, err := ProposeTogether([]Bench{b}, DefaultLimits(), Aim{Kind: Reshape})
	require.NoError(t, err)
	require.Equal(t, 3, together.Plans[0].MotherNodes)
	require.Contains(t, together.Targets[0].Why, "reverted")
	together, err = ProposeTogether([]Bench{b}, DefaultLimits(), Aim{Kind: Reshape, CutBackTo: 2})
	require.NoError(t, err)
	require.Equal(t, 2, together.Plans[0].MotherNodes)
}

func TestPatternedNodesAreWorthMore(t *testing.T) {
	b := bench(t, "soft_climber", node(true, false), node(true, false), node(true, false), node(true, false), node(true, false))
	for i, s := range []plant.Stripe{plant.StripeStrong, plant.StripeNone, plant.StripeStrong, plant.StripeNone, plant.StripeStrong} {
		b.Stem.Nodes[i].Stripe = s
	}
	l := Limits{LeastNodes: 1, MostNodes: 2, TipMost: 2, KeepLeaves: 1, KeepNodes: 1, MostPieces: 2}
	plan, err := Propose(b, l, Aim{Kind: MostWorth})
	require.NoError(t, err)
	for _, p := range plan.Pieces {
		require.Greater(t, p.Worth, p.Chance, "each piece has a patterned node: %+v", p)
	}
	// by hand: two nodes of worth 2 and 0.3, chances 0.5 and 0.4: 0.5*2 + 0.5*0.4*0.3.
	require.InDelta(t, 1.06, expectedWorth([]wokenNode{{0.4, 0.3}, {0.5, 2}}), 1e-15)
}

func TestContradictionsNameBothSides(t *testing.T) {
	b := bench(t, "soft_climber", node(true, false), node(true, false), node(true, false))
	for want, ask := range map[string]struct {
		l   Limits
		aim Aim
	}{
		"at most 2 nodes contradict pieces of at least 3": {Limits{LeastNodes: 3, MostNodes: 2, TipMost: 3}, Aim{}},
		"a tip of at most 1 nodes contradicts":            {Limits{LeastNodes: 2, MostNodes: 2, TipMost: 1}, Aim{}},
		"3 bare nodes below the tip contradict":           {Limits{LeastNodes: 1, MostNodes: 2, TipMost: 2, TipBare: 3}, Aim{}},
		"at least 4 plants contradict at most 2 pieces":   {Limits{LeastNodes: 1, MostNodes: 2, TipMost: 2, MostPieces: 2}, Aim{Kind: AtLeastK, AtLeast: 4}},
		"cutting back to node 1 contradicts the 2 nodes":  {Limits{LeastNodes: 1, MostNodes: 2, TipMost: 2, KeepNodes: 2}, Aim{Kind: Reshape, CutBackTo: 1}},
		"say how many plants":                             {DefaultLimits(), Aim{Kind: AtLeastK}},
		"not an aim":                                      {DefaultLimits(), Aim{Kind: "luck"}},
	} {
		_, err := Propose(b, ask.l, ask.aim)
		require.ErrorContains(t, err, want)
		require.Len(t, plant.Refusals(err), 1)
	}
	long := b
	long.Stem.Nodes = nil
	for range 60 {
		long.Stem.Nodes = append(long.Stem.Nodes, node(true, false))
	}
	_, err := ProposeTogether([]Bench{long, long, long, long, long}, DefaultLimits(), Aim{})
	require.ErrorContains(t, err, "at most 240")
}

func TestLimitsAreKept(t *testing.T) {
	b := bench(t, "soft_climber", node(true, false), node(true, false), node(true, false), node(true, false), node(true, false), node(true, false))
	l := DefaultLimits()
	l.MostLengthMM = 90
	plan, err := Propose(b, l, Aim{})
	require.NoError(t, err)
	require.NotEmpty(t, plan.Pieces)
	for _, p := range plan.Pieces {
		require.LessOrEqual(t, p.ToMM-p.FromMM, 90.0)
	}
	b.Skip = map[int]bool{4: true}
	plan, err = Propose(b, Limits{LeastNodes: 1, MostNodes: 2, TipMost: 3, KeepLeaves: 1, KeepNodes: 1}, Aim{})
	require.NoError(t, err)
	require.Len(t, plan.Offcuts, 1)
	require.Contains(t, plan.Offcuts[0].Why, "node 4")
	for _, p := range plan.Pieces {
		require.False(t, p.First <= 4 && 4 <= p.Last)
	}
	// common practice, no source: a tip needs bare nodes below its lowest leaf.
	_, err = Propose(b, Limits{LeastNodes: 1, MostNodes: 2, TipMost: 3, TipBare: 2, NoStrip: true, KeepNodes: 1}, Aim{})
	require.NoError(t, err)
	none, err := Propose(bench(t, "soft_climber", node(true, false), node(true, false), node(true, false)), Limits{LeastNodes: 1, MostNodes: 2, TipMost: 3, TipBare: 1, NoStrip: true, KeepNodes: 1}, Aim{})
	require.NoError(t, err)
	require.Empty(t, none.Pieces)
	require.Contains(t, none.Warnings[0], "no leaf may be stripped")
}

func BenchmarkPropose(b *testing.B) {
	for _, nodes := range []int{10, 20, 40, 60} {
		for _, kind := range allAims {
			b.Run(fmt.Sprintf("%s/%d", kind, nodes), func(b *testing.B) {
				r := rand.New(rand.NewPCG(1, 2))
				bench := randomBench(b, r, nodes)
				bench.Taken, bench.Skip = map[int]bool{}, nil
				aim := Aim{Kind: kind, AtLeast: max(1, nodes/4)}
				l := Limits{LeastNodes: 1, MostNodes: 3, TipMost: 4, TipBare: 1, KeepLeaves: 1, KeepNodes: 1}
				for b.Loop() {
					if _, err := Propose(bench, l, aim); err != nil {
						b.Fatal(err)
					}
				}
			})
		}
	}
}

func BenchmarkFrontier60Nodes(b *testing.B) {
	bench := randomBench(b, rand.New(rand.NewPCG(1, 2)), 60)
	bench.Taken = map[int]bool{}
	l := Limits{LeastNodes: 1, MostNodes: 3, TipMost: 4, KeepLeaves: 1, KeepNodes: 1}
	for b.Loop() {
		if _, err := Frontier([]Bench{bench}, l, Aim{}); err != nil {
			b.Fatal(err)
		}
	}
}
