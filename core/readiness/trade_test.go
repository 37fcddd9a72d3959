package readiness

import (
	"fmt"
	"math/rand/v2"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
)

// everyCase calls do for every growth group, every kind of piece, every medium and every school.
func everyCase(t *testing.T, do func(name string, e Evidence, school plant.SchoolKey)) {
	t.Helper()
	for _, g := range plant.Groups() {
		for _, k := range plant.KindRows() {
			for _, m := range plant.Media() {
				for _, s := range plant.Schools() {
					e := Evidence{Group: g, Kind: k.Kind, Medium: m.Medium, SetOn: setOn, SetNodes: 2, Today: setOn}
					do(fmt.Sprintf("%s, %s, %s, %s", g.Key, k.Kind, m.Medium, s.Key), e, s.Key)
				}
			}
		}
	}
}

// common practice, no source: do not dig; roots need their time. Nothing is asked before roots can be there.
func TestFreshPieceIsLeftAlone(t *testing.T) {
	everyCase(t, func(name string, e Evidence, school plant.SchoolKey) {
		first, _ := e.Group.RootTimes(e.Kind)
		for _, age := range []int{0, 1, int(first.Low) - 1} {
			e.Today = day(age)
			j := judge(t, e, school)
			require.Equal(t, plant.Wait, j.Verdict, "%s day %d: %s", name, age, j.Sentence)
			require.Nil(t, j.Question, name)
			require.NotNil(t, j.NextLook, name)
			require.False(t, j.NextLook.Before(day(int(first.Low))), name)
			require.Contains(t, j.Sentence, plant.Date(*j.NextLook, e.Today), name)
		}
	})
}

// common practice, no source: in opaque media first wait for a shoot with a leaf; then loosen.
func TestHiddenRootsAreAskedForByTheShoot(t *testing.T) {
	everyCase(t, func(name string, e Evidence, school plant.SchoolKey) {
		if !e.Medium.Row().Hidden {
			return
		}
		_, pot := e.Group.RootTimes(e.Kind)
		for age := 0; age < int(pot.Mid); age += 3 {
			e.Today = day(age)
			j := judge(t, e, school)
			if j.Question != nil {
				require.Contains(t, []Criterion{LeafOpen, Body}, j.Question.Key, "%s day %d", name, age)
			}
			if j.Verdict == plant.Wait {
				require.NotNil(t, j.LeaveUntil, "%s day %d", name, age)
			}
		}
		e.Today = day(int(pot.Mid) * 3)
		require.Equal(t, plant.LookAt, judge(t, e, school).Verdict, name)
	})
}

var badWords = regexp.MustCompile(`\(s\)|\b1 (nodes|days|roots)\b|%!|  |\ball 2\b|\.\.|to 0\)|\b0 days \(`)

// Random histories of every kind: the sentences are whole, the order of the looks decides nothing, and
// nothing the caller passed is changed.
func TestEveryHistoryIsJudgedAlikeInAnyOrder(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	one := func(words ...string) string { return words[r.IntN(len(words))] }
	everyCase(t, func(name string, e Evidence, school plant.SchoolKey) {
		for range 3 {
			e := e
			e.Looks, e.CutBacks, e.Potted = []LookOn{}, nil, nil
			e.Today = day(r.IntN(200))
			for range r.IntN(7) {
				on := day(r.IntN(plant.Days(setOn, e.Today) + 1))
				l := plant.Look{Stem: one("", "firm", "firm", "wrinkled"), Tug: one("", "", "holds", "gives"), Leaf: one("", "fresh", "dropped", "drooping"), Water: one("", "", "clear", "cloudy", "dry", "soaked"), Crowding: one("", "", "free", "coiling")}
				if r.IntN(3) == 0 {
					l.RootsCounted = true
					for range r.IntN(4) {
						l.Roots = append(l.Roots, root(1+r.IntN(2), 1+r.IntN(2), 1+90*r.Float64(), plant.RootColour(one("white", "brown", "", "orange"))))
					}
				}
				if r.IntN(3) == 0 {
					l.Buds = append(l.Buds, plant.BudAt{Node: 1 + r.IntN(2), Bud: plant.Bud(one("dormant", "swelling", "shooting", "leaf_open"))})
				}
				if r.IntN(12) == 0 {
					l.RotMM = float64(r.IntN(30))
				}
				e.Looks = append(e.Looks, LookOn{On: on, Look: l})
			}
			if r.IntN(6) == 0 {
				e.CutBacks = append(e.CutBacks, CutBack{On: day(r.IntN(60)), RemovedMM: 20, GoneNodes: 1})
			}
			if r.IntN(6) == 0 {
				e.Potted = &Potting{On: day(r.IntN(plant.Days(setOn, e.Today) + 1))}
			}
			before := fmt.Sprintf("%+v", e.Looks)
			want := judge(t, e, school)
			text := want.Sentence + want.Changes + strings.Join(want.Warned, " ")
			for _, reason := range want.Reasons {
				text += reason.Wanted + " " + reason.Found
			}
			require.NotRegexp(t, badWords, text, name)
			if want.NextLook != nil && want.Verdict == plant.Wait {
				require.GreaterOrEqual(t, plant.Days(e.Today, *want.NextLook), 0, "%s: a look in the past", name)
			}
			if want.Forecast != nil {
				require.GreaterOrEqual(t, plant.Days(e.Today, *want.ReadyOn), 0, name)
			}
			mixed := e
			mixed.Looks = append([]LookOn{}, e.Looks...)
			r.Shuffle(len(mixed.Looks), func(i, j int) { mixed.Looks[i], mixed.Looks[j] = mixed.Looks[j], mixed.Looks[i] })
			require.Equal(t, want, judge(t, mixed, school), name)
			require.Equal(t, before, fmt.Sprintf("%+v", e.Looks), "the caller's looks were touched")
		}
	})
}

// common practice, no source: cut back to clean tissue and reset. It is judged from what is left.
func TestCuttingBackIsRemembered(t *testing.T) {
	l := rooted(plant.White, 30, 25)
	l.Stem, l.RotMM, l.RootFeel = "soft", 26, "mushy"
	e := evidence(t, "velvet_climber", plant.Water, 31, LookOn{On: day(29), Look: l})
	e.NodeMM = []float64{14, 54}
	require.Equal(t, []int{2}, judge(t, e, plant.FullRoots).SoundNodes)
	// A firm stem alone does not take the rot away from the record of what was cut: only the act does.
	e.CutBacks = []CutBack{{On: day(30), RemovedMM: 34, GoneNodes: 1, BareNodes: []int{2}}}
	e.SetNodes = 1
	j := judge(t, e, plant.FullRoots)
	require.Equal(t, plant.Wait, j.Verdict, j.Sentence)
	require.Contains(t, j.Sentence, "Too early for roots", "with no root left it begins anew")
	// Where roots of the upper node stayed, they still count.
	e.CutBacks[0].BareNodes = nil
	j = judge(t, e, plant.EarlyRoots)
	for _, r := range j.Reasons {
		if r.Key == Roots {
			require.Equal(t, "1", r.Found)
		}
	}
}

// common practice, no source: rot dries or rots back 5 to 15 mm, so a node right above it is not safe.
func TestNodeRightAboveRotIsNotSound(t *testing.T) {
	l := plant.Look{Stem: "soft", RotMM: 8}
	e := evidence(t, "thick_climber", plant.Water, 30, LookOn{On: day(29), Look: l})
	e.NodeMM = []float64{9, 40}
	require.Equal(t, []int{2}, judge(t, e, plant.FullRoots).SoundNodes)
	e.NodeMM = []float64{9}
	require.Contains(t, judge(t, e, plant.FullRoots).Sentence, "No node is left")
}

// common practice, no source: a squeeze decides on brown roots; an old look, a wrinkled stem or crowding
// without a root do not make a piece ready.
func TestNothingIsPottedAgainstTheEvidence(t *testing.T) {
	brown := rooted(plant.Brown, 60, 50, 40)
	brown.Roots = append(brown.Roots, root(1, 2, 6, plant.Brown))
	brown.Crowding = "coiling"
	j := judge(t, evidence(t, "thick_climber", plant.Water, 100, LookOn{On: day(99), Look: brown}), plant.FullRoots)
	require.Equal(t, plant.LookAt, j.Verdict)
	require.Equal(t, RootHealth, j.Question.Key)

	white := rooted(plant.White, 60, 50, 40)
	white.Roots = append(white.Roots, root(1, 2, 6, plant.White))
	j = judge(t, evidence(t, "thick_climber", plant.Water, 230, LookOn{On: day(30), Look: white}), plant.FullRoots)
	require.Equal(t, plant.LookAt, j.Verdict, j.Sentence)

	wrinkled := white
	wrinkled.Stem, wrinkled.Crowding = "wrinkled", "coiling"
	j = judge(t, evidence(t, "thick_climber", plant.Water, 30, LookOn{On: day(29), Look: wrinkled}), plant.FullRoots)
	require.Equal(t, plant.LookAt, j.Verdict)
	require.Equal(t, Body, j.Question.Key)

	none := plant.Look{RootsCounted: true, Crowding: "filling", Stem: "firm"}
	j = judge(t, evidence(t, "thick_climber", plant.Water, 30, LookOn{On: day(29), Look: none}), plant.FullRoots)
	require.NotEqual(t, plant.Overdue, j.Verdict)

	rot := plant.Look{Stem: "soft"}
	require.Contains(t, judge(t, evidence(t, "thick_climber", plant.Water, 30, LookOn{On: day(29), Look: rot}), plant.FullRoots).Caution, "cut back")
}

// common practice, no source: after potting, droop in two weeks is shock; soft or mushy is rot; a dry mix
// makes the roots start again; success is a new leaf.
func TestWhatIsSeenAfterPottingCounts(t *testing.T) {
	after := func(today int, l plant.Look, on int) Judgement {
		e := evidence(t, "soft_climber", plant.Water, today, LookOn{On: day(20), Look: rooted(plant.White, 30, 20)}, LookOn{On: day(on), Look: l})
		e.Potted = &Potting{On: day(21)}
		return judge(t, e, plant.EarlyRoots)
	}
	require.Equal(t, plant.Rescue, after(30, plant.Look{Stem: "soft"}, 29).Verdict)
	require.Equal(t, plant.Rescue, after(30, plant.Look{RootFeel: "mushy"}, 29).Verdict)
	require.Equal(t, plant.Rescue, after(30, plant.Look{RotMM: 4}, 29).Verdict)
	dry := after(30, plant.Look{Water: "dry"}, 29)
	require.Equal(t, plant.LookAt, dry.Verdict)
	require.Equal(t, MediumState, dry.Question.Key)
	droop := after(30, plant.Look{Leaf: "drooping"}, 29)
	require.Equal(t, plant.GrowingOn, droop.Verdict)
	require.Contains(t, droop.Sentence, "shock")
	require.Equal(t, plant.LookAt, after(60, plant.Look{Leaf: "drooping"}, 59).Verdict)
	require.Equal(t, plant.LookAt, after(321, plant.Look{Stem: "firm"}, 40).Verdict, "300 days and no leaf")
	grown := after(50, plant.Look{Buds: []plant.BudAt{{Node: 1, Bud: plant.BudLeafOpen}}}, 49)
	require.Equal(t, plant.GrowingOn, grown.Verdict)
	require.Contains(t, grown.Sentence, "established")
}

// common practice, no source: cloudy or smelling water is changed at once; dry moss is misted, pooled water aired.
func TestFoulWaterAndDryMossAskForAnAct(t *testing.T) {
	for medium, signs := range map[plant.Medium][]string{plant.Water: {"smells", "cloudy"}, plant.Moss: {"dry", "soaked"}} {
		for _, sign := range signs {
			l := rooted(plant.White, 6, 5)
			l.Water = sign
			e := evidence(t, "velvet_climber", medium, 30, LookOn{On: day(29), Look: l})
			j := judge(t, e, plant.FullRoots)
			require.Equal(t, plant.LookAt, j.Verdict, sign)
			require.Equal(t, MediumState, j.Question.Key, sign)
			e.Looks = append(e.Looks, LookOn{On: day(30), Look: j.Question.Answers[0].Look})
			require.NotEqual(t, MediumState, key(judge(t, e, plant.FullRoots).Question), sign)
		}
	}
	// A succulent is meant to stand dry.
	dry := LookOn{On: day(29), Look: plant.Look{Water: "dry", Stem: "firm"}}
	require.NotEqual(t, MediumState, key(judge(t, evidence(t, "sword_succulent", plant.Mix, 30, dry), plant.FirstLeaf).Question))
	require.Equal(t, MediumState, key(judge(t, evidence(t, "ivy", plant.Mix, 30, dry), plant.FirstLeaf).Question))
	dropped := evidence(t, "thick_climber", plant.Water, 30, LookOn{On: day(29), Look: plant.Look{Leaf: "dropped", RootsCounted: true}})
	require.Equal(t, Body, key(judge(t, dropped, plant.FullRoots).Question))
}

func key(q *Question) Criterion {
	if q == nil {
		return ""
	}
	return q.Key
}

func TestTugThatHeldAndGivesIsAWarning(t *testing.T) {
	held, gives := rooted(plant.White, 20, 14), plant.Look{Tug: "gives", Stem: "firm"}
	held.Tug = "holds"
	j := judge(t, evidence(t, "velvet_climber", plant.Moss, 60, LookOn{On: day(50), Look: held}, LookOn{On: day(59), Look: gives}), plant.FirstLeaf)
	require.NotEmpty(t, j.Warned)
	require.Equal(t, RootHealth, key(j.Question))
	require.Contains(t, j.Sentence, "held once")
}

// A note of one bud leaves what is known of the others.
func TestBudsAreKnownNodeByNode(t *testing.T) {
	at := func(n int, b plant.Bud) plant.Look {
		return plant.Look{Buds: []plant.BudAt{{Node: n, Bud: b}}, Tug: "holds", Stem: "firm"}
	}
	e := evidence(t, "velvet_climber", plant.Moss, 60, LookOn{On: day(50), Look: at(1, plant.BudLeafOpen)}, LookOn{On: day(59), Look: at(2, plant.BudDormant)})
	require.Equal(t, plant.Ready, judge(t, e, plant.FirstLeaf).Verdict)
	require.Len(t, plant.Overlay([]plant.Look{e.Looks[0].Look, e.Looks[1].Look}).Buds, 2)
}

// Time in this medium counts, not time since the cut: 85 days in moss and 7 in water are no three months in water.
func TestMoveFromMossStartsTheDaysInWater(t *testing.T) {
	e := evidence(t, "thick_climber", plant.Water, 92, LookOn{On: day(91), Look: rooted(plant.White, 30, 25)})
	e.MediumOn = day(85)
	j := judge(t, e, plant.EarlyRoots)
	require.Equal(t, plant.Ready, j.Verdict)
	require.NotContains(t, j.Sentence, "in water")
	require.Equal(t, 92, j.AgeDays)
}

// common practice, no source: three months in water with a root is overdue under any school; 10-20 mm is
// when the school of early roots pots.
func TestLongRootsAreMoreThanReady(t *testing.T) {
	one := judge(t, evidence(t, "soft_climber", plant.Water, 120, LookOn{On: day(119), Look: rooted(plant.White, 150)}), plant.EarlyRoots)
	require.Equal(t, plant.Overdue, one.Verdict)
	more := judge(t, evidence(t, "soft_climber", plant.Water, 30, LookOn{On: day(29), Look: rooted(plant.White, 75, 60)}), plant.EarlyRoots)
	require.Equal(t, plant.Ready, more.Verdict)
	require.Contains(t, more.Sentence, "More than ready")
	single := judge(t, evidence(t, "soft_climber", plant.Water, 30, LookOn{On: day(29), Look: rooted(plant.White, 75)}), plant.EarlyRoots)
	require.Equal(t, plant.Ready, single.Verdict, "one root this long has waited long enough")
	leafless := judge(t, evidence(t, "soft_climber", plant.Water, 30, LookOn{On: day(29), Look: rooted(plant.White, 75, 60)}), plant.FirstLeaf)
	require.NotContains(t, []plant.Verdict{plant.Ready, plant.Overdue}, leafless.Verdict, "this school waits for the leaf")
	little := judge(t, evidence(t, "soft_climber", plant.Water, 30, LookOn{On: day(29), Look: rooted(plant.White, 32, 20)}), plant.EarlyRoots)
	require.Equal(t, plant.Ready, little.Verdict)
	require.Contains(t, little.Sentence, "More than ready")
}

func TestPastTheRangeWithNothingSeenIsSaid(t *testing.T) {
	e := evidence(t, "thick_climber", plant.Water, 60, LookOn{On: day(58), Look: rooted("")})
	require.Contains(t, judge(t, e, plant.FullRoots).Sentence, "past the usual")
}

// Times move smoothly over the year: from one day to the next by less than a hundredth.
func TestSeasonMovesSmoothly(t *testing.T) {
	last := plant.Darkness(time.Date(2026, 12, 31, 12, 0, 0, 0, time.UTC), false)
	for d := range 366 {
		on := time.Date(2027, 1, 1+d, 12, 0, 0, 0, time.UTC)
		now := plant.Darkness(on, false)
		require.InDelta(t, last, now, 0.02, on)
		require.InDelta(t, 1, now+plant.Darkness(on, true), 1e-9)
		last = now
	}
	require.Equal(t, 1.0, plant.Darkness(time.Date(2026, 12, 21, 12, 0, 0, 0, time.UTC), false))
	require.Equal(t, 0.0, plant.Darkness(time.Date(2026, 6, 21, 12, 0, 0, 0, time.UTC), false))
}

// common practice, no source: divisions with roots are potted at once; leaf pieces have no stem.
func TestDivisionsAndLeavesAreSpokenOfAsWhatTheyAre(t *testing.T) {
	e := evidence(t, "clump_former", plant.Mix, 0)
	e.Kind, e.OwnRoots = plant.Division, true
	require.Equal(t, plant.Ready, judge(t, e, plant.FirstLeaf).Verdict)
	e.OwnRoots = false
	j := judge(t, e, plant.FirstLeaf)
	require.Equal(t, plant.Wait, j.Verdict)
	require.NotContains(t, j.Changes, "after about 0 days")
	leaf := evidence(t, "gesneriad", plant.Mix, 40, LookOn{On: day(39), Look: plant.Look{Stem: "firm", Tug: "holds"}})
	leaf.Kind = plant.LeafPiece
	j = judge(t, leaf, plant.FirstLeaf)
	for _, r := range j.Reasons {
		require.NotContains(t, r.Wanted, "Stem")
	}
	require.Contains(t, j.Question.Text, "plantlet")
}

func TestEvidenceThatCannotBeIsRefused(t *testing.T) {
	e := evidence(t, "ivy", plant.Mix, 10, LookOn{On: day(11), Look: plant.Look{}})
	require.Equal(t, "looks[0].on", plant.Refusals(e.Check())[0].Field)
	e.Looks, e.Kind, e.Cover, e.Medium = nil, "stick", "tin", "sand"
	require.Len(t, plant.Refusals(e.Check()), 3)
}
