package cutplan

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
)

// common practice, no source: two-node pieces, a tip piece above bare nodes, one leaf stays on the mother.
func TestDefaultCutOfALeafyVine(t *testing.T) {
	b := bench(t, "soft_climber", node(true, false), node(true, false), node(true, true), node(true, false), node(true, true), node(true, false), node(true, false))
	plan, err := Propose(b, DefaultLimits(), Aim{})
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
	plan, err := Propose(b, Limits{LeastNodes: 2, MostNodes: 2, TipMost: 2, KeepLeaves: 1, KeepNodes: 1}, Aim{})
	require.NoError(t, err)
	for _, p := range plan.Pieces {
		require.InDelta(t, 0.85, p.Chance, 0.06)
	}
}

// common practice, no source: leafless single nodes of slow thick climbers mostly fail.
func TestLeaflessNodeOfThickClimberIsALongShot(t *testing.T) {
	b := bench(t, "thick_climber", node(true, false), node(false, false), node(false, false))
	b.Stem.TipIntact = false
	plan, err := Check(b, Limits{}, []float64{60, 100})
	require.NoError(t, err)
	require.Equal(t, plant.WetStick, plan.Pieces[0].Kind)
	require.Less(t, plan.Pieces[0].Chance, 0.4)
}

func TestPieceWithoutANodeNeverGrows(t *testing.T) {
	b := bench(t, "soft_climber", node(true, false), node(true, false), node(true, false))
	plan, err := Check(b, Limits{}, []float64{50, 60})
	require.NoError(t, err)
	require.Contains(t, plan.Offcuts[0].Why, "never grow")
	require.Len(t, plan.Pieces, 1)
	require.Zero(t, b.piece(2, 1, 50, 60, Limits{}).Chance)
	// Nothing but an offcut is no plan.
	b.Stem.Nodes, b.Stem.TipIntact = b.Stem.Nodes[:1], false
	plan, err = Check(b, Limits{}, []float64{55})
	require.NoError(t, err)
	require.Contains(t, plan.Refused[0], "never grow")
	require.Equal(t, 0.0, plan.Expected)
	require.Equal(t, 1.0, plan.LoseAll)
}

func TestMotherLeftBare(t *testing.T) {
	b := bench(t, "soft_climber", node(false, false), node(true, false), node(true, false))
	plan, err := Check(b, Limits{}, []float64{60})
	require.NoError(t, err)
	require.Empty(t, plan.Refused)
	require.Contains(t, plan.Warnings[0], "without a leaf")
	plan, err = Check(b, Limits{}, []float64{10})
	require.NoError(t, err)
	require.Contains(t, plan.Refused[0], "leave at least one node")
}

func TestEveryEffectMovesTheChanceItsWay(t *testing.T) {
	plain := bench(t, "thick_climber", node(true, false), node(true, false), node(true, false))
	chance := func(change func(b *Bench), knife float64) float64 {
		b := plain
		b.Stem.Nodes = append([]plant.Node{}, plain.Stem.Nodes...)
		change(&b)
		p, err := Check(b, Limits{}, []float64{knife})
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
	cut := func(b *Bench) { b.Stem.TipIntact = false }
	require.Less(t, chance(func(b *Bench) { cut(b); b.Stem.Nodes[1].Leaf, b.Stem.Nodes[2].Leaf = false, false }, 60), chance(cut, 60))
	require.Less(t, chance(func(b *Bench) { b.Stem.Wood = plant.Woody }, 60), chance(func(b *Bench) { b.Stem.Wood = plant.HalfRipe }, 60))
	require.Less(t, chance(func(b *Bench) { b.Stem.Wood = plant.HalfRipe }, 60), base)
	require.Less(t, chance(func(b *Bench) { b.Stem.ThicknessMM = 25 }, 60), base)
	require.Greater(t, chance(func(b *Bench) { b.Hormone = true }, 60), base)
	require.Less(t, chance(func(b *Bench) { b.Medium, b.Cover = plant.Moss, Open }, 60), chance(func(b *Bench) { b.Medium = plant.Moss }, 60))
	require.Less(t, chance(func(b *Bench) { b.Leaves = HalveLeaf }, 60), base)
	require.Equal(t, base, chance(func(b *Bench) { b.Dark, b.Season = true, "bright" }, 60), "the grower's own season goes before the date")
}

// common practice, no source: the top leaf stays to feed the piece; others that would sit in the medium are stripped.
func TestTopLeafIsNeverStripped(t *testing.T) {
	b := bench(t, "soft_climber", node(true, false), node(true, false), node(false, false), node(true, false), node(true, false))
	p := b.piece(2, 3, 60, 140, Limits{})
	require.Empty(t, p.Strip)
	p = b.piece(4, 5, 140, 230, Limits{})
	require.Equal(t, []int{4}, p.Strip)
}

func TestBadKnivesAndLimitsAreNamed(t *testing.T) {
	b := bench(t, "soft_climber", node(true, false), node(true, false))
	for name, k := range map[string][]float64{"off the stem": {500}, "below it": {-1}, "not a number": {math.NaN()}} {
		_, err := Check(b, Limits{}, k)
		require.Len(t, plant.Refusals(err), 1, name)
	}
	_, err := Propose(b, Limits{LeastNodes: 3, MostNodes: 2, TipMost: 3}, Aim{})
	require.ErrorContains(t, err, "contradict")
	b.Stem.Nodes[0].BelowMM, b.Stem.Nodes[1].BelowMM = -4, 1e9
	_, err = Propose(b, DefaultLimits(), Aim{})
	require.Len(t, plant.Refusals(err), 2)
}

func TestTakenNodesAndWhatIsAboveThemAreGone(t *testing.T) {
	b := bench(t, "soft_climber", node(true, false), node(true, false), node(true, false), node(true, false), node(true, false))
	b.Taken = map[int]bool{4: true, 5: true}
	plan, err := Propose(b, DefaultLimits(), Aim{})
	require.NoError(t, err)
	require.Len(t, plan.Pieces, 1)
	require.Equal(t, []int{2, 3}, []int{plan.Pieces[0].First, plan.Pieces[0].Last})
	_, err = Check(b, Limits{}, []float64{170})
	require.ErrorContains(t, err, "not on the stem that stands")
}
