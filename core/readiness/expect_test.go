package readiness

import (
	"math"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"clearjar/core/learn"
	"clearjar/core/plant"
)

// common practice, no source: straight to mix = not potted; uncovered when new growth shows and a tug holds, or a root shows at the
// drain hole.
func TestStraightToMixIsUncovered(t *testing.T) {
	look := plant.Look{Stem: "firm", Tug: "holds", Buds: []plant.BudAt{{Node: 1, Bud: plant.BudShooting}}}
	e := evidence(t, "cissus_kin", plant.Mix, 40, LookOn{On: day(39), Look: look})
	j := judge(t, e, plant.StraightToMix)
	require.Equal(t, plant.Ready, j.Verdict, j.Sentence)
	require.Equal(t, Uncover, j.Act)
	require.False(t, j.ToPot)
	require.Contains(t, j.Sentence, "Uncover")
	e.Cover = "none"
	require.Equal(t, Uncovered, judge(t, e, plant.StraightToMix).Ground)
	e.Cover, e.Looks[0].Look.Tug = "", "gives"
	require.NotEqual(t, plant.Ready, judge(t, e, plant.StraightToMix).Verdict)
	e.Looks[0].Look.Tug, e.Looks[0].Look.RootsCounted, e.Looks[0].Look.Roots = "", true, rooted(plant.White, 30).Roots
	require.Equal(t, plant.Ready, judge(t, e, plant.StraightToMix).Verdict, "a root at the drain hole")
}

// What a sign asks for, once done, answers it; before it was seen it answers nothing.
func TestCareAnswersASign(t *testing.T) {
	l := rooted(plant.White, 6, 5)
	l.Water = "cloudy"
	e := evidence(t, "velvet_climber", plant.Water, 30, LookOn{On: day(28), Look: l})
	require.Equal(t, SignSeen, judge(t, e, plant.FullRoots).Ground)
	e.Care = []Care{{On: day(27), Act: plant.ChangeWater}}
	require.Equal(t, SignSeen, judge(t, e, plant.FullRoots).Ground)
	e.Care = append(e.Care, Care{On: day(29), Act: plant.ChangeWater})
	require.NotEqual(t, SignSeen, judge(t, e, plant.FullRoots).Ground)
}

// A move makes the days in the medium begin anew, whether it is told as a move or as the day it came.
func TestMovesTellTheMedium(t *testing.T) {
	e := evidence(t, "thick_climber", plant.Moss, 92, LookOn{On: day(91), Look: rooted(plant.White, 30, 25)})
	e.Moves = []Move{{On: day(85), Medium: plant.Water}, {On: day(20), Medium: plant.Perlite}}
	moved := judge(t, e, plant.EarlyRoots)
	e.Moves, e.Medium, e.MediumOn = nil, plant.Water, day(85)
	told := judge(t, e, plant.EarlyRoots)
	require.Equal(t, told.Verdict, moved.Verdict)
	require.Equal(t, told.Sentence, moved.Sentence)
	require.Equal(t, *told.Likely, *moved.Likely)
}

// common practice, no source: what contradicts itself is told, and asks for a look at what is at stake.
func TestContradictionsAreSaid(t *testing.T) {
	held, gives := rooted(plant.White, 20, 14), plant.Look{Tug: "gives", Stem: "firm"}
	held.Tug = "holds"
	j := judge(t, evidence(t, "velvet_climber", plant.Moss, 60, LookOn{On: day(50), Look: held}, LookOn{On: day(59), Look: gives}), plant.FirstLeaf)
	require.Len(t, j.Contradictions, 1)
	require.Contains(t, j.Contradictions[0], "look for rot")
	shrunk := judge(t, evidence(t, "velvet_climber", plant.Water, 60, LookOn{On: day(40), Look: rooted(plant.White, 50, 14)}, LookOn{On: day(59), Look: rooted(plant.White, 12, 10)}), plant.FullRoots)
	require.Contains(t, shrunk.Contradictions[0], "50 mm")
	gone := judge(t, evidence(t, "velvet_climber", plant.Water, 60, LookOn{On: day(40), Look: rooted(plant.White, 50, 14)}, LookOn{On: day(59), Look: plant.Look{RootsCounted: true}}), plant.FullRoots)
	require.Equal(t, Contradicted, gone.Ground)
	require.Equal(t, Body, gone.Question.Key)
	// A little less is no contradiction, and what was cut away contradicts nothing.
	require.Empty(t, judge(t, evidence(t, "velvet_climber", plant.Water, 60, LookOn{On: day(40), Look: rooted(plant.White, 50, 14)}, LookOn{On: day(59), Look: rooted(plant.White, 46, 14)}), plant.FullRoots).Contradictions)
	cut := evidence(t, "velvet_climber", plant.Water, 60, LookOn{On: day(40), Look: rooted(plant.White, 50, 14)}, LookOn{On: day(59), Look: plant.Look{RootsCounted: true, Stem: "firm"}})
	cut.CutBacks = []CutBack{{On: day(50), RemovedMM: 20}}
	require.Empty(t, judge(t, cut, plant.FullRoots).Contradictions)
}

// history is a random one of a piece that roots: roots that grow, buds that open, tugs that begin to hold.
func history(r *rand.Rand, e Evidence, until int) Evidence {
	e.Looks = []LookOn{}
	mm, pace, first := 0.0, 0.5+2*r.Float64(), 8+r.IntN(25)
	for d := 4 + r.IntN(6); d <= until; d += 2 + r.IntN(9) {
		l := plant.Look{Stem: "firm"}
		if d > first {
			mm = pace * float64(d-first)
		}
		if r.IntN(4) > 0 {
			l.RootsCounted = true
			for k := 0; mm > 3 && k < 1+int(mm/12); k++ {
				l.Roots = append(l.Roots, root(1+k%2, 1, mm/(1+0.3*float64(k)), plant.White))
			}
		}
		if r.IntN(3) == 0 {
			l.Buds = []plant.BudAt{{Node: 1, Bud: map[bool]plant.Bud{true: plant.BudSwelling, false: plant.BudDormant}[d > 2*first]}}
		}
		e.Looks = append(e.Looks, LookOn{On: day(d), Look: l})
	}
	return e
}

// Over random histories of every group, kind, medium and school: without a new fact the chance does not fall and no verdict flips back
// within a week; the verdict before, given again, gives the same; half the world away and half a year later all is the same.
func TestNothingFlickers(t *testing.T) {
	r := rand.New(rand.NewPCG(6, 11))
	everyCase(t, func(name string, e Evidence, school plant.SchoolKey) {
		if r.IntN(4) > 0 {
			return
		}
		until := 20 + r.IntN(70)
		e = history(r, e, until)
		seen := []plant.Verdict{}
		last := 0.0
		for d := range 8 {
			e.Today = day(until + d)
			j := judge(t, e, school)
			if j.Likely != nil {
				require.GreaterOrEqual(t, *j.Likely, last-1e-9, "%s: the chance fell", name)
				last = *j.Likely
			}
			again := e
			again.Previous = j.Verdict
			require.Equal(t, j.Verdict, judge(t, again, school).Verdict, "%s: given back, it is another", name)
			e.Previous = j.Verdict
			if n := len(seen); n == 0 || seen[n-1] != j.Verdict {
				require.NotContains(t, seen, j.Verdict, "%s: it flips back within a week: %v, now %s %s %v %v", name, seen, j.Ground, j.By, *j.Likely, j.DayLoss)
				seen = append(seen, j.Verdict)
			}
		}
	})
}

// A look that sees what the newest look saw, on the same day, changes little; more roots, or longer ones, never make it less ready.
func TestMoreRootsAreNoLessReady(t *testing.T) {
	r := rand.New(rand.NewPCG(2, 2))
	tried := 0
	for range 150 {
		e := history(r, evidence(t, "soft_climber", plant.Water, 60), 40)
		e.Today = day(41)
		chance := func(l plant.Look) float64 {
			with := e
			with.Looks = append(append([]LookOn{}, e.Looks...), LookOn{On: day(41), Look: l})
			c, ok := Foresee(with, plant.FullRoots)
			require.True(t, ok)
			return c.Ready
		}
		// What is seen now is no shorter than what was seen: a root that seems to shrink is believed less than one that does not.
		mm, seen := 5.0, 0
		for _, l := range e.Looks {
			if r, ok := sumRoots(e.Numbers, l.Look); ok {
				mm, seen = math.Max(mm, r.longest.LengthMM+1), plant.Days(setOn, l.On)
			}
		}
		if seen < 37 { // so long after, a root that has hardly grown is taken for a slip
			continue
		}
		tried++
		// All with a side root: a longer root without any would tell that side roots come late.
		// What is known already, seen again an hour later, changes little.
		if newest := e.Looks[len(e.Looks)-1]; newest.Look.RootsCounted && seen == plant.Days(setOn, newest.On) {
			again := e
			again.Looks = append(append([]LookOn{}, e.Looks...), LookOn{On: newest.On.Add(time.Hour), Look: newest.Look})
			a, _ := Foresee(e, plant.FullRoots)
			b, _ := Foresee(again, plant.FullRoots)
			require.InDelta(t, a.Ready, b.Ready, 0.2)
		}
		few, more := rooted(plant.White, mm, 4), rooted(plant.White, mm, mm/2, 6, 6)
		longer := rooted(plant.White, mm+9, mm/2, 6, 6)
		for _, l := range []*plant.Look{&few, &more, &longer} {
			l.Roots = append(l.Roots, root(1, 2, 4, plant.White))
		}
		require.GreaterOrEqual(t, chance(more), chance(few)-0.02)
		require.GreaterOrEqual(t, chance(longer), chance(more)-0.02)
	}
	require.Greater(t, tried, 30)
}

// Sisters that rooted early pull a little to earlier days, late ones to later, and no verdict rests on them.
func TestSistersPullALittle(t *testing.T) {
	of := func(first int) learn.Sister {
		e := evidence(t, "soft_climber", plant.Water, 40, LookOn{On: day(first - 1), Look: plant.Look{RootsCounted: true}}, LookOn{On: day(first + 4), Look: rooted(plant.White, 10)}, LookOn{On: day(first + 9), Look: rooted(plant.White, 22)})
		s, ok := Expect(e).Sister()
		require.True(t, ok)
		return s
	}
	e := evidence(t, "soft_climber", plant.Water, 12, LookOn{On: day(6), Look: plant.Look{RootsCounted: true, Stem: "firm"}})
	alone, _ := Expect(e).Foresee(plant.EarlyRoots)
	early, _ := Expect(e).WithSisters([]learn.Sister{of(9), of(9), of(10)}).Foresee(plant.EarlyRoots)
	late, _ := Expect(e).WithSisters([]learn.Sister{of(26), of(27), of(25)}).Foresee(plant.EarlyRoots)
	require.Less(t, *early.Days.P50, *alone.Days.P50)
	require.Greater(t, *late.Days.P50, *alone.Days.P50)
	require.Less(t, *late.Days.P50, 1.4**alone.Days.P50, "a little")
}

// A length with a wide interval of its own tells less: the band of the day is wider than with a narrow one.
func TestWideIntervalsTellLess(t *testing.T) {
	band := func(off float64) float64 {
		look := func(mm float64) plant.Look {
			l := rooted(plant.White, mm, mm/2)
			for i := range l.Roots {
				l.Roots[i].LowMM, l.Roots[i].HighMM = mm-off, mm+off
			}
			return l
		}
		c, ok := Foresee(evidence(t, "thick_climber", plant.Water, 29, LookOn{On: day(21), Look: look(14)}, LookOn{On: day(28), Look: look(24)}), plant.EarlyRoots)
		require.True(t, ok)
		full, _ := Foresee(evidence(t, "thick_climber", plant.Water, 29, LookOn{On: day(21), Look: look(14)}, LookOn{On: day(28), Look: look(24)}), plant.FullRoots)
		require.NotNil(t, c.Days.P50)
		return *full.Days.P90 - *full.Days.P10
	}
	require.Greater(t, band(9), band(1)+1)
	require.InDelta(t, band(0), band(1), 1e-9, "no narrower than lengths usually are")
}

// What speaks against it is looked at before anything is potted on a chance alone: a tug that held and gives, foul water.
func TestNothingIsPottedOnAChanceAgainstASign(t *testing.T) {
	look := func() plant.Look {
		l := rooted(plant.White, 44, 40, 30, 28)
		l.Roots = append(l.Roots, root(1, 2, 6, plant.White))
		l.Tug = "holds"
		return l
	}
	e := evidence(t, "velvet_climber", plant.Moss, 78, LookOn{On: day(66), Look: look()})
	require.Equal(t, Likely, judge(t, e, plant.FullRoots).Ground, "by now they are long enough")
	gives := e
	gives.Looks = append(append([]LookOn{}, e.Looks...), LookOn{On: day(77), Look: plant.Look{Tug: "gives"}})
	require.Equal(t, TugGivesNow, judge(t, gives, plant.FullRoots).Ground)
	foul := e
	foul.Looks = append(append([]LookOn{}, e.Looks...), LookOn{On: day(77), Look: plant.Look{Water: "smells"}})
	require.Equal(t, SignSeen, judge(t, foul, plant.FullRoots).Ground)
}
