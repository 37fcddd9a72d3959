package readiness

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
)

var setOn = time.Date(2026, 5, 1, 10, 0, 0, 0, time.UTC)

func day(n int) time.Time { return setOn.AddDate(0, 0, n) }

func root(node, order int, mm float64, colour plant.RootColour) plant.Root {
	return plant.Root{Node: node, Order: order, LengthMM: mm, LowMM: mm - 1, HighMM: mm + 1, Colour: colour, How: "typed"}
}

func rooted(colour plant.RootColour, lengths ...float64) plant.Look {
	l := plant.Look{RootsCounted: true, Stem: "firm"}
	for i, mm := range lengths {
		l.Roots = append(l.Roots, root(i%2+1, 1, mm, colour))
	}
	return l
}

func evidence(t *testing.T, group string, medium plant.Medium, today int, looks ...LookOn) Evidence {
	t.Helper()
	g, ok := plant.GroupNamed(group)
	require.True(t, ok)
	return Evidence{Today: day(today), Group: g, Medium: medium, SetOn: setOn, SetNodes: 2, Looks: looks}
}

func judge(t *testing.T, e Evidence, school plant.SchoolKey) Judgement {
	t.Helper()
	j, err := Judge(e, school)
	require.NoError(t, err)
	require.NotEmpty(t, j.Sentence)
	require.NotEmpty(t, j.Changes)
	return j
}

func standing(j Judgement, key Criterion) Standing {
	for _, r := range j.Reasons {
		if r.Key == key {
			return r.Standing
		}
	}
	return "absent"
}

// common practice, no source: early roots = at least 2 roots and the longest 10 mm.
func TestEarlyRootsNeedTwoRootsAndTenMM(t *testing.T) {
	for _, c := range []struct {
		lengths []float64
		want    plant.Verdict
	}{
		{[]float64{10, 5}, plant.Ready}, {[]float64{9.9, 5}, plant.Wait}, {[]float64{40}, plant.Wait}, {[]float64{12, 4.9}, plant.Wait}, {nil, plant.Wait},
	} {
		j := judge(t, evidence(t, "cissus_kin", plant.Water, 10, LookOn{On: day(9), Look: rooted(plant.White, c.lengths...)}), plant.EarlyRoots)
		require.Equal(t, c.want, j.Verdict, "%v: %s", c.lengths, j.Sentence)
	}
}

// common practice, no source: full roots = several, longest 50 mm or more, side roots showing, both set nodes rooted.
func TestFullRootsAskForEverything(t *testing.T) {
	full := rooted(plant.White, 54, 40, 33)
	full.Roots = append(full.Roots, root(1, 2, 6, plant.White))
	require.Equal(t, plant.Ready, judge(t, evidence(t, "thick_climber", plant.Water, 30, LookOn{On: day(29), Look: full}), plant.FullRoots).Verdict)
	for name, change := range map[string]func(l *plant.Look){
		"longest short of 50": func(l *plant.Look) { l.Roots[0].LengthMM = 49 },
		"no side roots":       func(l *plant.Look) { l.Roots = l.Roots[:3] },
		"one node rooted":     func(l *plant.Look) { l.Roots[1].Node = 1 },
	} {
		l := full
		l.Roots = append([]plant.Root{}, full.Roots...)
		change(&l)
		require.Equal(t, plant.Wait, judge(t, evidence(t, "thick_climber", plant.Water, 30, LookOn{On: day(29), Look: l}), plant.FullRoots).Verdict, name)
	}
}

// common practice, no source: first leaf = roots hold a tug and the first leaf is open; a node may root and never shoot.
func TestFirstLeafWantsTugAndLeaf(t *testing.T) {
	l := rooted(plant.Cream, 30, 25)
	l.Tug = "holds"
	e := evidence(t, "velvet_climber", plant.Moss, 40, LookOn{On: day(39), Look: l})
	j := judge(t, e, plant.FirstLeaf)
	require.Equal(t, plant.LookAt, j.Verdict, "the bud was never noted")
	require.Equal(t, LeafOpen, j.Question.Key)
	e.Looks[0].Look.Buds = []plant.BudAt{{Node: 2, Bud: plant.BudSwelling}}
	require.Equal(t, plant.Wait, judge(t, e, plant.FirstLeaf).Verdict)
	e.Looks[0].Look.Buds[0].Bud = plant.BudLeafOpen
	require.Equal(t, plant.Ready, judge(t, e, plant.FirstLeaf).Verdict)
}

func TestAnswerToTheQuestionSettlesIt(t *testing.T) {
	l := rooted(plant.Cream, 30, 25)
	l.Tug = "holds"
	e := evidence(t, "velvet_climber", plant.Moss, 40, LookOn{On: day(39), Look: l})
	for _, a := range judge(t, e, plant.FirstLeaf).Question.Answers {
		settled := e
		settled.Looks = append(append([]LookOn{}, e.Looks...), LookOn{On: day(40), Look: a.Look})
		j := judge(t, settled, plant.FirstLeaf)
		require.NotEqual(t, plant.LookAt, j.Verdict, a.Label)
	}
}

// common practice, no source: thin black roots of pitcher vines are healthy; brown and mushy is rot on anything.
func TestRootColourIsJudgedByGroupAndSqueeze(t *testing.T) {
	black := rooted(plant.Black, 20, 14)
	require.Equal(t, plant.Ready, judge(t, evidence(t, "pitcher_vine", plant.Perlite, 70, LookOn{On: day(69), Look: black}), plant.EarlyRoots).Verdict)

	onClimber := judge(t, evidence(t, "soft_climber", plant.Water, 20, LookOn{On: day(19), Look: black}), plant.EarlyRoots)
	require.Equal(t, plant.LookAt, onClimber.Verdict)
	require.Equal(t, Unknown, standing(onClimber, RootHealth))
	require.Equal(t, RootHealth, onClimber.Question.Key)

	black.RootFeel = "firm"
	require.Equal(t, plant.Ready, judge(t, evidence(t, "soft_climber", plant.Water, 20, LookOn{On: day(19), Look: black}), plant.EarlyRoots).Verdict)

	for _, g := range plant.Groups() {
		mushy := rooted(plant.Brown, 60, 40)
		mushy.RootFeel = "mushy"
		j := judge(t, evidence(t, g.Key, plant.Water, 30, LookOn{On: day(29), Look: mushy}), plant.EarlyRoots)
		require.Equal(t, plant.Rescue, j.Verdict, g.Key)
		require.Equal(t, Contrary, standing(j, RootHealth))
	}
	// common practice, no source: roots of sword-leaved succulents turn orange as they mature, healthy.
	require.Equal(t, Met, standing(judge(t, evidence(t, "sword_succulent", plant.Water, 60, LookOn{On: day(59), Look: rooted(plant.Orange, 20, 15)}), plant.EarlyRoots), RootHealth))
}

func TestRescueOverrulesReady(t *testing.T) {
	l := rooted(plant.White, 60, 50)
	l.Stem, l.RotMM = "soft", 26
	for _, s := range plant.Schools() {
		j := judge(t, evidence(t, "thick_climber", plant.Water, 30, LookOn{On: day(29), Look: l}), s.Key)
		require.Equal(t, plant.Rescue, j.Verdict, s.Key)
		require.Contains(t, j.Sentence, "26 mm")
	}
	e := evidence(t, "thick_climber", plant.Water, 30, LookOn{On: day(29), Look: l})
	e.NodeMM = []float64{14, 54}
	require.Contains(t, judge(t, e, plant.FullRoots).Sentence, "node 2 of the piece is sound")
	e.NodeMM = []float64{14, 25}
	require.Contains(t, judge(t, e, plant.FullRoots).Sentence, "No node is left")
	cutBack := LookOn{On: day(30), Look: plant.Look{Stem: "firm", RootsCounted: true}}
	require.Equal(t, plant.Wait, judge(t, evidence(t, "thick_climber", plant.Water, 31, LookOn{On: day(29), Look: l}, cutBack), plant.FullRoots).Verdict)
}

// common practice, no source: overdue = roots coil, fill the box, or three months in water.
func TestOverdue(t *testing.T) {
	l := rooted(plant.White, 30, 25)
	require.Equal(t, plant.Ready, judge(t, evidence(t, "thick_climber", plant.Water, 91, LookOn{On: day(90), Look: l}), plant.EarlyRoots).Verdict)
	require.Equal(t, plant.Overdue, judge(t, evidence(t, "thick_climber", plant.Water, 92, LookOn{On: day(91), Look: l}), plant.EarlyRoots).Verdict)
	l.Crowding = "coiling"
	require.Equal(t, plant.Overdue, judge(t, evidence(t, "thick_climber", plant.Water, 40, LookOn{On: day(39), Look: l}), plant.FullRoots).Verdict)
	l.Crowding = ""
	long := evidence(t, "thick_climber", plant.Water, 60, LookOn{On: day(20), Look: l}, LookOn{On: day(59), Look: l})
	j := judge(t, long, plant.EarlyRoots)
	require.Equal(t, plant.Overdue, j.Verdict)
	require.Contains(t, j.Sentence, "Ready since 21 May")
}

// common practice, no source: a piece with no progress but still firm and green is waiting, not dead.
func TestFirmPieceWithoutRootsWaitsAndIsAskedAbout(t *testing.T) {
	e := evidence(t, "thick_climber", plant.Water, 60, LookOn{On: day(58), Look: rooted("")})
	require.Equal(t, plant.Wait, judge(t, e, plant.FullRoots).Verdict)
	e.Today = day(90)
	j := judge(t, e, plant.FullRoots)
	require.Equal(t, plant.LookAt, j.Verdict)
	require.Equal(t, Body, j.Question.Key)
}

func TestForecastGivesTheDayAndTheNextLook(t *testing.T) {
	e := evidence(t, "thick_climber", plant.Water, 22,
		LookOn{On: day(7), Look: rooted(plant.White, 6, 5)}, LookOn{On: day(14), Look: rooted(plant.White, 18, 12)}, LookOn{On: day(21), Look: rooted(plant.White, 31, 20)})
	j := judge(t, e, plant.FullRoots)
	require.Equal(t, plant.Wait, j.Verdict)
	// length 6, 18, 31 mm on days 7, 14, 21: a straight line of 25/14 mm a day reaches 50 mm at day 31.5 (worked by
	// hand, least squares); roots that slow down come a little later.
	require.InDelta(t, 25.0/14, j.Forecast.RateMMADay, 0.25)
	require.WithinDuration(t, day(33), *j.ReadyOn, 24*time.Hour)
	require.True(t, j.ReadyFirst.Before(*j.ReadyOn) && j.ReadyLast.After(*j.ReadyOn))
	require.Contains(t, j.Changes, "about")
	require.Equal(t, day(28), *j.NextLook)
	require.InDelta(t, 31.0/50, j.Progress, 1e-9)
}

func TestAfterPottingAndTheEnd(t *testing.T) {
	e := evidence(t, "thick_climber", plant.Water, 40)
	e.Potted = &Potting{On: day(34)}
	require.Equal(t, plant.GrowingOn, judge(t, e, plant.FullRoots).Verdict)
	e.Outcome = &Outcome{On: day(39), Kind: "established"}
	require.Equal(t, plant.Done, judge(t, e, plant.FullRoots).Verdict)
	e.Outcome.Kind = "lost"
	require.Equal(t, plant.Lost, judge(t, e, plant.FullRoots).Verdict)
	e = evidence(t, "thick_climber", plant.Water, 1)
	e.SetOn = time.Time{}
	require.Equal(t, plant.LookAt, judge(t, e, plant.FullRoots).Verdict)
}

func TestDarkHalfOfTheYear(t *testing.T) {
	// published: equinoxes about 20 March and 22 September.
	for _, c := range []struct {
		month time.Month
		day   int
		dark  bool
	}{{time.January, 5, true}, {time.March, 20, true}, {time.March, 21, false}, {time.June, 21, false}, {time.September, 22, false}, {time.September, 23, true}, {time.December, 1, true}} {
		d := time.Date(2026, c.month, c.day, 12, 0, 0, 0, time.UTC)
		require.Equal(t, c.dark, plant.InDarkHalf(d, false), d)
		require.Equal(t, !c.dark, plant.InDarkHalf(d, true), d)
	}
}

func TestEveryNumberHasItsBasis(t *testing.T) {
	seen := map[string]bool{}
	for _, n := range Numbers() {
		require.NotEmpty(t, n.Basis.Kind, n.Key)
		require.NotEmpty(t, n.Basis.Source, n.Key)
		require.False(t, seen[n.Key], n.Key)
		seen[n.Key] = true
	}
	_, err := Judge(Evidence{}, "none")
	require.Len(t, plant.Refusals(err), 1)
}
