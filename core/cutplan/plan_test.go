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
	b.Medium = plant.Moss
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
	plain.Medium = plant.Moss
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

// common practice, no source: every blade and petiole stays above the water. The node of the leaf that is
// kept is not set there: two nodes under water need a third, or a bare one.
func TestKeptLeafStandsAboveTheWater(t *testing.T) {
	b := bench(t, "soft_climber", node(true, false), node(true, false), node(true, false), node(true, false))
	require.Equal(t, 1, b.piece(2, 3, 60, 140, Limits{}).Set)
	require.Equal(t, []int{2}, b.piece(2, 3, 60, 140, Limits{}).Strip)
	require.Equal(t, 2, b.piece(2, 4, 60, 230, Limits{}).Set)
	require.Equal(t, 1, b.piece(3, 3, 100, 140, Limits{}).Set, "a single node with its leaf: node in, blade out")
	b.Stem.Nodes[1].Leaf, b.Stem.Nodes[2].Leaf = false, false
	require.Equal(t, 2, b.piece(2, 3, 60, 140, Limits{}).Set, "no leaf, no petiole to keep dry")
	b.Medium = plant.Moss
	b.Stem.Nodes[1].Leaf, b.Stem.Nodes[2].Leaf = true, true
	require.Equal(t, 2, b.piece(2, 3, 60, 140, Limits{}).Set)
}

// A node at the very end of a stem is as good as any other.
func TestNodeAtTheVeryEndIsThere(t *testing.T) {
	b := bench(t, "soft_climber", node(true, false), node(true, false), node(true, false))
	b.Medium, b.Stem.BeyondMM = plant.Moss, 0
	plan, err := Check(b, Limits{}, []float64{60})
	require.NoError(t, err)
	require.Len(t, plan.Pieces, 1)
	require.Empty(t, plan.Offcuts)
	require.Equal(t, []int{2, 3}, []int{plan.Pieces[0].First, plan.Pieces[0].Last})
	require.Equal(t, plant.Tip, plan.Pieces[0].Kind)
	plan, err = Check(b, Limits{}, []float64{60, 100})
	require.NoError(t, err)
	require.Len(t, plan.Pieces, 2)
	best, err := Propose(b, DefaultLimits(), Aim{})
	require.NoError(t, err)
	choices, err := Frontier([]Bench{b}, DefaultLimits(), Aim{})
	require.NoError(t, err)
	require.InDelta(t, best.Expected, choices[len(choices)-1].Expected, 1e-9, "the line promises what the plan gives")
}

// common practice, no source: 5 to 10 mm below the node is where the knife goes on thin stems. Who cuts so is not told off for it.
func TestKnifeJustBelowANodeIsNotPunished(t *testing.T) {
	b := bench(t, "soft_climber", node(true, false), node(true, false), node(true, false))
	b.Knife, b.Medium = BelowNode, plant.Moss
	p := b.piece(2, 3, b.starts(2), b.stops(3), Limits{})
	require.InDelta(t, 7, p.BelowMM, 1e-9)
	for _, e := range p.Effects {
		require.NotEqual(t, ShortOdds.Key, e.Key)
	}
	require.NotContains(t, p.Warning, "die back")
}

// A stem of a group that only divides has next to no chance, and the piece says why.
func TestWhatOnlyDividesIsNotCutAsAStem(t *testing.T) {
	b := bench(t, "clump_former", node(true, false), node(true, false), node(true, false))
	p := b.piece(2, 3, 60, 140, Limits{})
	require.Less(t, p.Chance, 0.05)
	require.Contains(t, p.Effects[len(p.Effects)-1].Label+p.Effects[0].Label, "only divide")
}

// Halving blades does not hide that there is none.
func TestTipWithoutALeafIsLeafless(t *testing.T) {
	b := bench(t, "soft_climber", node(true, false), node(false, false), node(false, false))
	b.Medium = plant.Moss
	keep := b.piece(2, 3, 60, b.Stem.LengthMM(), Limits{}).Chance
	b.Leaves = HalveLeaf
	require.InDelta(t, keep, b.piece(2, 3, 60, b.Stem.LengthMM(), Limits{}).Chance, 1e-12)
	b.Stem.Nodes[2].Leaf = true
	require.Greater(t, b.piece(2, 3, 60, b.Stem.LengthMM(), Limits{}).Chance, keep)
}

// common practice, no source: a leaf piece of a patterned plant comes plain, so its pattern is not paid for.
func TestPatternALeafLosesIsNotPaidFor(t *testing.T) {
	striped := organ(t, "sword_succulent", plant.LeafOrgan, plant.LeafSection, plant.Node{BelowMM: 30, Bud: plant.BudDormant, Stripe: plant.StripeStrong})
	p := striped.piece(1, 1, 0, 50, Limits{})
	require.InDelta(t, p.Chance*WorthNone.Value, p.Worth, 1e-9)
}

// common practice, no source: half of the divisions without roots come through; with roots nearly all.
func TestOfferedDivisionIsWeighedAsADivision(t *testing.T) {
	worth := func(o Offer) OfferAnswer {
		a, err := Worth(group(t, "clump_former"), false, Sheet{}, o)
		require.NoError(t, err)
		return a
	}
	a := worth(Offer{Node: Yes, Nodes: 1, SoundMM: -1})
	require.Equal(t, plant.Division, a.Piece.Kind)
	require.InDelta(t, 0.5, a.Chance, 0.03)
	require.Contains(t, a.Ask[0].Text, "roots of its own")
	require.Greater(t, worth(Offer{Node: Yes, Nodes: 1, SoundMM: -1, Roots: Yes}).Chance, 0.95)
	for _, g := range plant.Groups() {
		for _, k := range append(plant.KindRows(), plant.KindRow{}) {
			a, err := Worth(g, false, Sheet{}, Offer{Node: Yes, Nodes: 1, SoundMM: -1, Kind: k.Kind})
			require.NoError(t, err, "%s %s", g.Key, k.Kind)
			require.GreaterOrEqual(t, a.High, a.Low)
		}
	}
}

// Two eyes of a tuber are two pieces, whole; a pulled leaf is pulled, not cut at 0 mm.
func TestTubersAndLeavesAreTakenAsWhatTheyAre(t *testing.T) {
	tuber := organ(t, "heart_vine", plant.TuberBody, "", point(10), point(20))
	plan, err := Propose(tuber, LimitsFor(plant.TuberBody), Aim{})
	require.NoError(t, err)
	require.Len(t, plan.Pieces, 2)
	require.Empty(t, plan.Offcuts)
	pulled := organ(t, "butterwort", plant.LeafOrgan, plant.PulledLeaf, point(1))
	plan, err = Propose(pulled, LimitsFor(plant.LeafOrgan), Aim{})
	require.NoError(t, err)
	require.Len(t, plan.Pieces, 1)
	require.True(t, plan.Detached)
	for _, s := range Steps([]Laid{{Bench: pulled, Plan: plan, Name: "PIN-A"}}) {
		require.NotContains(t, s.Text, "0 mm")
		if s.Phase == "wounds" {
			require.Contains(t, s.Text, "need no drying")
		}
	}
}

// Left-out neighbours need no knife between them, also where they stand too close for one.
func TestLeavingOutCloseNodesFindsTheBestPlan(t *testing.T) {
	b := bench(t, "soft_climber", node(true, false), node(true, false), node(true, false), node(true, false), node(true, false), node(true, false))
	b.Medium = plant.Moss
	b.Stem.Nodes[3].BelowMM = 3
	l := Limits{LeastNodes: 1, MostNodes: 2, TipMost: 2, KeepNodes: 1}
	b.Skip = map[int]bool{3: true, 4: true}
	plan, err := Propose(b, l, Aim{})
	require.NoError(t, err)
	require.Empty(t, plan.Refused)
	require.GreaterOrEqual(t, len(plan.Pieces), 2)
	require.Equal(t, 2, plan.Pieces[0].Last, "what stands below the left-out nodes is used too")
}

// What stands in the way is named: all of it.
func TestWhyNothingIsCutNamesTheCause(t *testing.T) {
	b := bench(t, "soft_climber", node(true, false), node(true, false))
	b.Medium = plant.Moss
	for want, l := range map[string]Limits{
		"a tip needs 2 bare nodes":           {LeastNodes: 1, MostNodes: 2, TipMost: 2, TipBare: 2, KeepNodes: 1},
		"the mother keeps 2 nodes":           {LeastNodes: 1, MostNodes: 2, TipMost: 2, KeepNodes: 2},
		"a piece needs 2 nodes":              {LeastNodes: 2, MostNodes: 2, TipMost: 2, KeepNodes: 1},
		"must not be longer than 10 mm":      {LeastNodes: 1, MostNodes: 2, TipMost: 2, KeepNodes: 1, MostLengthMM: 10},
		"the mother keeps 2 leaves":          {LeastNodes: 1, MostNodes: 2, TipMost: 2, KeepNodes: 1, KeepLeaves: 2},
		"several things together stand in t": {LeastNodes: 2, MostNodes: 2, TipMost: 2, KeepNodes: 1, KeepLeaves: 2, MostLengthMM: 10},
	} {
		plan, err := Propose(b, l, Aim{})
		require.NoError(t, err)
		require.Empty(t, plan.Pieces, want)
		require.Contains(t, plan.Warnings[0], want)
	}
}

// common practice, no source: of a stem one or two nodes are set, a division, tuber, leaf or runner with all of it.
func TestUsuallySet(t *testing.T) {
	t.Parallel()
	for _, row := range plant.KindRows() {
		want := 2
		if row.Whole {
			want = 3
		}
		require.Equal(t, want, SetUsually(Sheet{}, row.Kind, 3), row.Kind)
		require.Equal(t, 1, SetUsually(Sheet{}, row.Kind, 1), row.Kind)
	}
	require.Equal(t, 3, SetUsually(Sheet{}, plant.Division, 3))
	require.Equal(t, 2, SetUsually(Sheet{}, plant.RhizomePiece, 3))
}
