package cutplan

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
)

func group(t *testing.T, key string) plant.Group {
	t.Helper()
	g, ok := plant.GroupNamed(key)
	require.True(t, ok)
	return g
}

func organ(t *testing.T, key string, o plant.Organ, form plant.LeafForm, nodes ...plant.Node) Bench {
	t.Helper()
	return Bench{Group: group(t, key), Stem: plant.Stem{Organ: o, Form: form, Nodes: nodes, BeyondMM: 20, ThicknessMM: 10}}
}

func point(mm float64) plant.Node { return plant.Node{BelowMM: mm, Bud: plant.BudDormant} }

// Check values. common practice, no source: soft climbers with two nodes near 1; pitcher vines in
// perlite 0.8-0.9; leafless single nodes of slow thick climbers mostly fail; an unrooted division
// about a half; a rooted one near 1.
func TestSuccessRatesGrowersQuote(t *testing.T) {
	soft := bench(t, "soft_climber", node(true, false), node(true, false), node(true, false), node(true, false))
	plan, err := Check(soft, Limits{}, []float64{60})
	require.NoError(t, err)
	require.Greater(t, plan.Pieces[0].Chance, 0.93)

	pitcher := bench(t, "pitcher_vine", node(true, false), node(true, false), node(true, false))
	pitcher.Stem.TipIntact = false
	plan, err = Check(pitcher, Limits{}, []float64{60})
	require.NoError(t, err)
	require.Equal(t, plant.Perlite, pitcher.medium())
	require.InDelta(t, 0.85, plan.Pieces[0].Chance, 0.05)

	stick := bench(t, "thick_climber", node(true, false), node(false, false), node(false, false))
	stick.Medium, stick.Stem.TipIntact = plant.Mix, false
	plan, err = Check(stick, Limits{}, []float64{60, 100})
	require.NoError(t, err)
	require.Equal(t, plant.WetStick, plan.Pieces[0].Kind)
	require.Less(t, plan.Pieces[0].Chance, 0.25)

	clump := organ(t, "clump_former", plant.Clump, "", point(20), point(30), plant.Node{BelowMM: 30, Bud: plant.BudDormant, Rooted: true})
	plan, err = Check(clump, Limits{}, []float64{35, 65})
	require.NoError(t, err)
	require.Equal(t, plant.Division, plan.Pieces[0].Kind)
	require.InDelta(t, 0.5, plan.Pieces[0].Chance, 0.03)
	require.Contains(t, plan.Pieces[0].Warning, "a half")
	require.Greater(t, plan.Pieces[1].Chance, 0.95)
}

func TestADivisionRootsAsOneHoweverManyGrowingPoints(t *testing.T) {
	clump := organ(t, "clump_former", plant.Clump, "", point(20), point(30), point(30))
	one, err := Check(clump, Limits{}, []float64{65})
	require.NoError(t, err)
	two, err := Check(clump, Limits{}, []float64{35})
	require.NoError(t, err)
	require.Equal(t, one.Pieces[0].Chance, two.Pieces[0].Chance)
}

// common practice, no source: runners in pieces of 40-50 mm, laid flat.
func TestRunnerIsCutIntoPiecesOf40To50(t *testing.T) {
	run := organ(t, "runner_former", plant.RunnerRun, "", point(30), point(60), point(60), point(60))
	plan, err := Propose(run, LimitsFor(plant.RunnerRun), Aim{})
	require.NoError(t, err)
	require.Len(t, plan.Pieces, 4)
	for _, p := range plan.Pieces {
		require.InDelta(t, 45, p.ToMM-p.FromMM, 5)
		require.Contains(t, p.Up, "flat")
		require.Empty(t, p.Warning)
	}
	require.NotEmpty(t, plan.Offcuts, "what is between the pieces is thrown away")
	require.Zero(t, plan.MotherNodes)
}

// common practice, no source: patterned leaf pieces come back plain; not every plant regrows from a leaf.
func TestLeafPieces(t *testing.T) {
	leaf := organ(t, "sword_succulent", plant.LeafOrgan, plant.LeafSection, point(30), point(60), point(60))
	leaf.Stem.Nodes[0].Stripe = plant.StripeStrong
	plan, err := Propose(leaf, LimitsFor(plant.LeafOrgan), Aim{})
	require.NoError(t, err)
	require.Len(t, plan.Pieces, 3)
	require.Contains(t, plan.Pieces[0].Warning, "plain green")
	require.Contains(t, plan.Pieces[0].Up, "nearer the base down")

	aroid := organ(t, "velvet_climber", plant.LeafOrgan, plant.WholeLeaf, point(25))
	plan, err = Check(aroid, Limits{}, []float64{0})
	require.NoError(t, err)
	require.Zero(t, plan.Expected)
	require.Contains(t, plan.Refused[0], "do not regrow from a leaf")

	half := organ(t, "peperomia", plant.LeafOrgan, plant.HalfLeaf, point(20), point(20))
	whole := organ(t, "peperomia", plant.LeafOrgan, plant.WholeLeaf, point(20))
	halves, err := Check(half, Limits{}, []float64{0, 30})
	require.NoError(t, err)
	one, err := Check(whole, Limits{}, []float64{0})
	require.NoError(t, err)
	// common practice, no source: blade halves beat petioles.
	require.Greater(t, halves.Pieces[0].Chance, one.Pieces[0].Chance)

	pulled := organ(t, "butterwort", plant.LeafOrgan, plant.PulledLeaf, point(5))
	cut := organ(t, "butterwort", plant.LeafOrgan, plant.WholeLeaf, point(5))
	a, err := Check(pulled, Limits{}, []float64{0})
	require.NoError(t, err)
	b, err := Check(cut, Limits{}, []float64{0})
	require.NoError(t, err)
	require.Greater(t, a.Expected, 2*b.Expected, "a butterwort leaf must come with its white base")
}

func TestTuberGivesOnePieceForEachEye(t *testing.T) {
	tuber := organ(t, "heart_vine", plant.TuberBody, "", point(10), point(15))
	l := LimitsFor(plant.TuberBody)
	plan, err := Propose(tuber, l, Aim{})
	require.NoError(t, err)
	require.Len(t, plan.Pieces, 2)
	// common practice, no source: heart vines callus a day.
	require.GreaterOrEqual(t, tuber.WoundsOf(plan.Pieces[0]).CallusHours.Low, 24.0)
	require.Equal(t, "no", tuber.WoundsOf(plan.Pieces[0]).Hormone)
}

func TestNeverMoreThanAFifthOfTheRoots(t *testing.T) {
	clump := organ(t, "clump_former", plant.Clump, "", point(20), point(30))
	clump.RootsLost = 0.3
	_, err := Check(clump, Limits{}, []float64{35})
	require.ErrorContains(t, err, "never more than 20 %")
	clump.RootsLost = 0.2
	_, err = Check(clump, Limits{}, []float64{35})
	require.NoError(t, err)
}

// The schools of the knife, on a stem with internodes of 80 mm. common practice, no source.
func TestSchoolsOfTheKnife(t *testing.T) {
	b := bench(t, "thick_climber")
	for range 4 {
		b.Stem.Nodes = append(b.Stem.Nodes, plant.Node{BelowMM: 80, Leaf: true, Bud: plant.BudDormant})
	}
	b.Stem.ThicknessMM = 12
	single := Limits{LeastNodes: 1, MostNodes: 1, TipMost: 1, KeepNodes: 1}
	second := func(school KnifeSchool, thick float64) (Plan, Piece) {
		c := b
		c.Knife, c.Stem.ThicknessMM = school, thick
		plan, err := Propose(c, single, Aim{})
		require.NoError(t, err)
		require.Len(t, plan.Pieces, 3)
		require.Subset(t, plan.PlacesMM, plan.KnivesMM, "every knife lies where the school puts one")
		return plan, plan.Pieces[0]
	}
	_, p := second(MidInternode, 12)
	require.Equal(t, []float64{40, 40}, []float64{p.BelowMM, p.AboveMM})
	_, p = second(BelowNode, 12)
	require.InDelta(t, 19, p.BelowMM, 6) // 13 to 25 mm below the lowest set node of thick stems
	require.True(t, p.Slant)
	_, p = second(BelowNode, 6)
	require.InDelta(t, 7.5, p.BelowMM, 2.5) // 5 to 10 mm of thin ones
	plan, p := second(TrimShort, 12)
	require.InDelta(t, 25, p.BelowMM+p.AboveMM, 0.01)
	require.NotContains(t, p.Warning, "die back", "what is left is longer than the die-back")
	require.Len(t, plan.Offcuts, 2, "the stem between trimmed neighbours is thrown away")
	_, p = second(LeaveLong, 12)
	require.Greater(t, p.BelowMM, 60.0)
	require.InDelta(t, 15, p.AboveMM, 0.01)
}

func TestLeavesToStripHalveAndKeep(t *testing.T) {
	b := bench(t, "soft_climber", node(true, false), node(true, false), node(true, false), node(true, false))
	b.Leaves = HalveLeaf
	p := b.piece(2, 4, 60, 190, Limits{})
	require.Equal(t, []int{2, 3}, p.Strip)
	require.Equal(t, []int{4}, p.Halve)
	p = b.piece(2, 4, 60, 190, Limits{NoStrip: true})
	require.Empty(t, p.Strip)
	require.Equal(t, 1, p.Set, "only the lowest node goes in when no leaf may come off")
	b.Leaves, b.Stem.TipIntact = StripNodes, false
	p = b.piece(3, 3, 100, 140, Limits{})
	require.Equal(t, plant.WetStick, p.Kind)
	require.Equal(t, []int{3}, p.Strip)
}

func TestWounds(t *testing.T) {
	piece := func(b Bench) Wound {
		p := b.piece(1, 2, 20, 100, Limits{})
		return b.WoundsOf(p)
	}
	aroid := bench(t, "velvet_climber", node(true, false), node(true, false))
	// common practice, no source: most aroids go straight in.
	require.Zero(t, piece(aroid).CallusHours.High)
	require.Equal(t, "useful", piece(aroid).Hormone)
	// common practice, no source: wax vines an hour to a day.
	wax := piece(bench(t, "wax_vine", node(true, false), node(true, false)))
	require.Equal(t, []float64{1, 24}, []float64{wax.CallusHours.Low, wax.CallusHours.High})
	require.Contains(t, wax.Text(false), "1 h to a day")
	// from memory: Hartmann & Kester, 500-3000 ppm auxin for soft tropical cuttings.
	require.Equal(t, []float64{500, 3000}, []float64{wax.HormonePPM.Low, wax.HormonePPM.High})
	require.Equal(t, plant.Published, wax.HormoneBy.Kind)
	require.Contains(t, wax.Text(true), "never dip into the pot")
	// common practice, no source: succulent leaves and divisions 3 to 5 h.
	sword := organ(t, "sword_succulent", plant.LeafOrgan, plant.LeafSection, point(30), point(60))
	require.Equal(t, []float64{3, 5}, []float64{piece(sword).CallusHours.Low, piece(sword).CallusHours.High})
	// common practice, no source: a dry dusting on leafless pieces.
	bare := bench(t, "velvet_climber", node(false, false), node(false, false))
	bare.Stem.TipIntact = false
	require.True(t, piece(bare).Dust)
	woody := bench(t, "thick_climber", node(true, false), node(true, false))
	woody.Stem.Wood = plant.Woody
	require.Contains(t, piece(woody).Enlarge, "35-40 mm")
	wet := bench(t, "wax_vine", node(true, false), node(true, false))
	wet.SetWet = true
	dry := bench(t, "wax_vine", node(true, false), node(true, false))
	require.Greater(t, wet.piece(1, 2, 20, 100, Limits{}).Rot, dry.piece(1, 2, 20, 100, Limits{}).Rot)
}

func TestStepsGoFromTheTipDown(t *testing.T) {
	b := bench(t, "wax_vine", node(true, false), node(true, false), node(true, false), node(true, false), node(true, false))
	b.Knife = BelowNode
	plan, err := Check(b, Limits{}, []float64{73, 153})
	require.NoError(t, err)
	steps := Steps([]Laid{{b, plan, "HOY-A"}})
	cuts, phases, keys := []string{}, []string{}, map[string]bool{}
	for _, s := range steps {
		require.False(t, keys[s.Key], "every step has its own key")
		keys[s.Key] = true
		require.NotEmpty(t, s.Basis.Kind)
		if strings.HasPrefix(s.Key, "cut-") {
			cuts = append(cuts, s.Text)
		}
		if len(phases) == 0 || phases[len(phases)-1] != s.Phase {
			phases = append(phases, s.Phase)
		}
	}
	require.Equal(t, []string{"before", "tools", "cut", "wounds", "after"}, phases)
	require.Len(t, cuts, 2)
	require.Contains(t, cuts[0], "153 mm")
	require.Contains(t, cuts[0], "at 45 degrees (33 mm above node 3, 7 mm below node 4)")
	waits := 0
	for _, s := range steps {
		if s.WaitHours > 0 {
			waits++
			require.True(t, keys[s.TimerFrom], "the timer starts with a step that is there")
		}
	}
	require.Equal(t, 2, waits)
	require.Empty(t, Steps(nil))
}

func TestFitToCutToday(t *testing.T) {
	fit := Standing{Group: group(t, "velvet_climber"), Nodes: 9, Leaves: 5, LeafyMaps: 1, DaysSinceCut: 60, DaysSinceWatered: 1, KeepLeaves: 1}
	require.Equal(t, "yes", Fit(fit).Answer)
	answer := func(change func(*Standing)) string {
		s := fit
		change(&s)
		f := Fit(s)
		require.Len(t, f.Reasons, 4)
		return f.Answer
	}
	require.Equal(t, "care", answer(func(s *Standing) { s.Dark = true }))
	require.Equal(t, "care", answer(func(s *Standing) { s.DaysSinceWatered = 3 })) // common practice, no source: one to two days before
	require.Equal(t, "care", answer(func(s *Standing) { s.DaysSinceWatered = -1 }))
	require.Equal(t, "care", answer(func(s *Standing) { s.Leaves = 1 })) // common practice, no source: leave her at least one leaf
	require.Equal(t, "wait", answer(func(s *Standing) { s.Leaves = 0 }))
	require.Equal(t, "care", answer(func(s *Standing) { s.Leaves, s.LeafyMaps = 0, 0 }), "a clump, tuber, runner or leaf shows no leaf of hers")
	require.Equal(t, "wait", answer(func(s *Standing) { s.DaysSinceCut = 4 }))
	require.Equal(t, "care", answer(func(s *Standing) { s.DaysSinceCut = 15 }))
	require.Equal(t, "yes", answer(func(s *Standing) { s.DaysSinceCut = -1 }))
	require.Equal(t, "wait", answer(func(s *Standing) { s.Nodes = 0 }))
}

func TestWorthOfAnOfferedPiece(t *testing.T) {
	g := group(t, "velvet_climber")
	ask := func(o Offer) OfferAnswer {
		a, err := Worth(g, false, Sheet{}, o)
		require.NoError(t, err)
		require.LessOrEqual(t, a.Low, a.Chance)
		require.GreaterOrEqual(t, a.High, a.Chance)
		return a
	}
	none := ask(Offer{Node: No, SoundMM: -1})
	require.Zero(t, none.High)
	require.Contains(t, none.Verdict, "never grow")

	good := ask(Offer{Node: Yes, Nodes: 2, SoundMM: 20, Ends: "healed", Leaf: Yes, Aerial: Yes, Bud: Yes, Firm: Yes, Stripe: plant.StripeStrong, Conditions: Conditions{Season: "bright"}})
	require.Equal(t, good.Low, good.High, "nothing is open")
	require.Greater(t, good.Chance, 0.8)
	require.Empty(t, good.Ask)
	require.Equal(t, "A good piece.", good.Verdict)

	stick := ask(Offer{Node: Yes, Nodes: 1, SoundMM: 4, Ends: "fresh", Leaf: No, Aerial: No, Bud: No, Firm: Yes})
	require.Less(t, stick.Chance, 0.4)
	raised := []string{}
	for i, r := range stick.Raise {
		raised = append(raised, r.Text)
		require.Greater(t, r.Chance, stick.Chance)
		require.True(t, i == 0 || r.By <= stick.Raise[i-1].By, "the most first")
	}
	require.Subset(t, raised, []string{"a second node", "a leaf on the piece", "an aerial root at the node", "plenty of sound stem on both sides"})
	require.Contains(t, stick.Warnings[0], "dry or rot back")

	unseen := ask(Offer{Node: Yes, Nodes: 1, SoundMM: -1, Patterned: true})
	require.Greater(t, unseen.High-unseen.Low, 0.3)
	asked := []string{}
	for _, r := range unseen.Ask {
		asked = append(asked, r.Text)
	}
	// common practice, no source: what to ask before buying an unrooted piece.
	require.ElementsMatch(t, []string{"does it have a leaf", "is there an aerial root", "is the bud alive and swelling", "is it firm all along", "how much sound stem is beside the node"}, asked)
	require.Equal(t, "is there a node", ask(Offer{SoundMM: -1}).Ask[0].Text, "before anything else")
	require.Contains(t, unseen.Verdict, "ask first")
	require.Contains(t, unseen.Warnings[0], "stripe")

	soft := ask(Offer{Node: Yes, Nodes: 1, SoundMM: 20, Leaf: Yes, Firm: No})
	require.Contains(t, strings.Join(soft.Warnings, " "), "Soft is rot")
	_, err := Worth(g, false, Sheet{}, Offer{Nodes: 99})
	require.Error(t, err)
}

func TestNumbersCanBeChangedAndReplacedByRecords(t *testing.T) {
	key := BaselineKey("velvet_climber", plant.Moss)
	b := bench(t, "velvet_climber", node(true, false), node(true, false), node(true, false))
	before, err := Propose(b, DefaultLimits(), Aim{})
	require.NoError(t, err)
	b.Sheet, err = Sheet{}.With(Change{Key: key, Value: 0.2}, Change{Key: DieBack.Key, Value: 15})
	require.NoError(t, err)
	after, err := Propose(b, DefaultLimits(), Aim{})
	require.NoError(t, err)
	require.Less(t, after.Expected, before.Expected)
	require.Equal(t, plant.YourChoice, after.Pieces[0].Start.Basis.Kind)
	require.Equal(t, []string{DieBack.Key, key}, b.Sheet.Changed())

	c, err := Sheet{}.FromRecords(key, 9, 10)
	require.NoError(t, err)
	// by hand: (0.65*10 + 9) / (10 + 10)
	require.InDelta(t, 0.775, c.Value, 1e-12)
	s, err := Sheet{}.With(c)
	require.NoError(t, err)
	require.Equal(t, plant.YourRecords, s.At(key).Basis.Kind)
	require.Contains(t, s.At(key).Basis.Source, "n = 10")

	for _, bad := range []Change{{Key: "nothing", Value: 1}, {Key: key, Value: 1.5}, {Key: LeaflessOdds.Key, Value: 0}, {Key: DieBack.Key, Value: 500}} {
		_, err := Sheet{}.With(bad)
		require.Len(t, plant.Refusals(err), 1, bad.Key)
	}
	// The weight of the starting value is the grower's to change: (0.65*90 + 9) / 100 by hand.
	heavy, err := Sheet{}.With(Change{Key: PriorWeight.Key, Value: 90})
	require.NoError(t, err)
	c, err = heavy.FromRecords(key, 9, 10)
	require.NoError(t, err)
	require.InDelta(t, 0.675, c.Value, 1e-12)
	_, err = Sheet{}.FromRecords(DieBack.Key, 1, 2)
	require.Error(t, err)
	_, err = Sheet{}.FromRecords(key, 3, 2)
	require.Error(t, err)
}

func TestEveryNumberHasItsOwnKeyAndABasis(t *testing.T) {
	seen := map[string]bool{}
	for _, n := range Numbers() {
		require.False(t, seen[n.Key], n.Key)
		seen[n.Key] = true
		require.NotEmpty(t, n.Basis.Kind, n.Key)
		require.NotEmpty(t, n.Label, n.Key)
	}
	require.Len(t, Baselines(), 4*len(plant.Groups()))
	for _, n := range Baselines() {
		require.Greater(t, n.Value, 0.0, n.Key)
	}
}

// 0 and 500 nodes, and lengths of 0, negative, absurd or missing.
func TestImpossibleStems(t *testing.T) {
	for name, change := range map[string]func(*plant.Stem){
		"500 nodes": func(s *plant.Stem) {
			for range 500 {
				s.Nodes = append(s.Nodes, node(true, false))
			}
		},
		"no length":        func(s *plant.Stem) { s.Nodes[0].BelowMM = 0 },
		"negative":         func(s *plant.Stem) { s.Nodes[0].BelowMM = -3 },
		"absurd":           func(s *plant.Stem) { s.Nodes[0].BelowMM = 1e7 },
		"no thickness":     func(s *plant.Stem) { s.ThicknessMM = 0 },
		"not an organ":     func(s *plant.Stem) { s.Organ = "root" },
		"leaf, no form":    func(s *plant.Stem) { s.Organ = plant.LeafOrgan },
		"form, no leaf":    func(s *plant.Stem) { s.Form = plant.HalfLeaf },
		"not a stripe":     func(s *plant.Stem) { s.Nodes[0].Stripe = "zebra" },
		"not a wood":       func(s *plant.Stem) { s.Wood = "stone" },
		"sprang of no-one": func(s *plant.Stem) { s.Sprang = &plant.Sprang{} },
	} {
		b := bench(t, "soft_climber", node(true, false), node(true, false))
		change(&b.Stem)
		_, err := Propose(b, DefaultLimits(), Aim{})
		require.Len(t, plant.Refusals(err), 1, name)
	}
	_, err := Propose(bench(t, "soft_climber"), DefaultLimits(), Aim{})
	require.Equal(t, "nodes", plant.Refusals(err)[0].Field)
}

func TestConditionsThatAreNoChoiceAreNamed(t *testing.T) {
	b := bench(t, "soft_climber", node(true, false), node(true, false))
	for field, c := range map[string]Conditions{
		"conditions.medium": {Medium: "lava"}, "conditions.season": {Season: "wet"}, "conditions.cover": {Cover: "hat"},
		"conditions.knife": {Knife: "axe"}, "conditions.leaves": {Leaves: "paint"}, "conditions.roots_lost": {RootsLost: -1},
	} {
		b.Conditions = c
		for _, ask := range []func() error{
			func() error { _, err := Check(b, Limits{}, []float64{60}); return err },
			func() error { _, err := Propose(b, DefaultLimits(), Aim{}); return err },
		} {
			refused := plant.Refusals(ask())
			require.Len(t, refused, 1, field)
			require.Equal(t, field, refused[0].Field)
		}
	}
}

func TestRecordsAreCountedForEachBaseline(t *testing.T) {
	got := Records([]Trial{
		{"ivy", plant.Water, Record{1, 2}}, {"ivy", plant.Water, Record{2, 2}}, {"ivy", plant.Mix, Record{0, 1}},
	})
	require.Equal(t, map[string]Record{BaselineKey("ivy", plant.Water): {3, 4}, BaselineKey("ivy", plant.Mix): {0, 1}}, got)
}
