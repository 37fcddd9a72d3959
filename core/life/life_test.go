package life

import (
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
)

var cutDay = time.Date(2026, 3, 1, 12, 0, 0, 0, time.UTC)

func on(day int) time.Time { return cutDay.AddDate(0, 0, day) }

func roots(mm ...float64) plant.Look {
	l := plant.Look{RootsCounted: true}
	for i, v := range mm {
		l.Roots = append(l.Roots, plant.Root{Node: i + 1, Order: 1, LengthMM: v, LowMM: v, HighMM: v, How: "typed"})
	}
	return l
}

func inMedium(m plant.Medium, nodes int) Life {
	return Life{
		Group: plant.Groups()[0], Kind: plant.StemCutting, Nodes: []plant.Node{{BelowMM: 40}, {BelowMM: 30}}, BaseMM: 12, CutOn: cutDay,
		Settings: []Setting{{On: on(0), Medium: m, Nodes: nodes}},
	}
}

func TestWhereAndFateAreToldInOnePlace(t *testing.T) {
	given := on(50)
	for _, c := range []struct {
		name  string
		with  func(*Life)
		where Where
		fate  Fate
	}{
		{"never set", func(l *Life) { l.Settings = nil }, Unset, Open},
		{"set", func(*Life) {}, InVessel, Open},
		{"potted is not decided", func(l *Life) { l.Potted = &Potting{on(30)} }, InPot, Open},
		{"given away, never known", func(l *Life) { l.GivenOn = &given }, Given, GivenAway},
		{"lost in its jar", func(l *Life) { l.Outcome = &Outcome{on(40), EndLost, "rotted"} }, Ended, Lost},
		{"grown on", func(l *Life) { l.Potted, l.Outcome = &Potting{on(30)}, &Outcome{on(60), EndEstablished, ""} }, Ended, Established},
		{"grown on, then given away", func(l *Life) {
			l.Potted, l.Outcome, l.GivenOn = &Potting{on(30)}, &Outcome{on(40), EndEstablished, ""}, &given
		}, Ended, Established},
	} {
		l := inMedium(plant.Water, 2)
		c.with(&l)
		require.Equal(t, c.where, l.Where(), c.name)
		require.Equal(t, c.fate, l.Fate(), c.name)
		require.Equal(t, l.Outcome == nil && l.GivenOn == nil, l.Stands(), c.name)
		require.NoError(t, l.Check(), c.name)
	}
}

// common practice, no source: moves between vessels of one medium do not disturb it as another medium does.
func TestAgeCountsInThisMediumAndSinceFirstSet(t *testing.T) {
	l := inMedium(plant.Water, 2)
	l.Settings = append(l.Settings, Setting{on(10), plant.Water, 2}, Setting{on(20), plant.Moss, 2}, Setting{on(25), plant.Moss, 1})
	since, in := l.Ages(on(40))
	require.Equal(t, 40, since)
	require.Equal(t, 20, in)
	l.Settings = append(l.Settings, Setting{on(35), plant.Water, 2})
	_, in = l.Ages(on(40))
	require.Equal(t, 5, in, "back in water it begins anew")
	since, in = Life{}.Ages(on(40))
	require.Zero(t, since+in)
}

// common practice, no source: how a grower knows that a piece has rooted.
func TestRootedIsKnownByOneRule(t *testing.T) {
	leaf := plant.Look{Buds: []plant.BudAt{{Node: 1, Bud: plant.BudLeafOpen}}}
	for _, c := range []struct {
		name   string
		medium plant.Medium
		looks  []plant.Look
		with   func(*Life)
		known  bool
		by     string
	}{
		{"a root of 5 mm", plant.Water, []plant.Look{roots(5)}, nil, true, ByRoots},
		{"bumps of 4 mm", plant.Water, []plant.Look{roots(4, 4)}, nil, true, ""},
		{"a side root is none", plant.Water, []plant.Look{{RootsCounted: true, Roots: []plant.Root{{Node: 1, Order: 2, LengthMM: 9}}}}, nil, true, ""},
		{"a root at a node that is not set", plant.Water, []plant.Look{roots(0, 0, 9)}, nil, true, ""},
		{"a tug holds", plant.Moss, []plant.Look{{Tug: "holds"}}, nil, true, ByTug},
		{"a tug gives", plant.Moss, []plant.Look{{Tug: "gives"}}, nil, false, ""},
		{"a root was squeezed", plant.Perlite, []plant.Look{{RootFeel: "firm"}}, nil, true, ByFeel},
		{"roots fill the vessel", plant.Moss, []plant.Look{{Crowding: "filling"}}, nil, true, ByFeel},
		{"a leaf, where roots are hidden", plant.Moss, []plant.Look{leaf}, nil, true, ByLeaf},
		{"a leaf in water proves nothing", plant.Water, []plant.Look{leaf}, nil, false, ""},
		{"nobody looked", plant.Moss, nil, nil, false, ""},
		{"lost without a sign", plant.Moss, nil, func(l *Life) { l.Outcome = &Outcome{on(50), EndLost, "dried"} }, true, ""},
		{"grown on, whatever was noted", plant.Mix, nil, func(l *Life) {
			l.Potted, l.Outcome = &Potting{on(30)}, &Outcome{on(60), EndEstablished, ""}
		}, true, ByGrowing},
	} {
		l := inMedium(c.medium, 2)
		for i, look := range c.looks {
			l.Looks = append(l.Looks, LookOn{on(20 + i), look})
		}
		if c.with != nil {
			c.with(&l)
		}
		r := l.Rooting()
		require.Equal(t, c.known, r.Known, c.name)
		require.Equal(t, c.by, r.By, c.name)
		require.Equal(t, c.by != "", r.Rooted, c.name)
	}
}

// Ten trials in moss, potted by a tug and a leaf, are no failures: open while they grow on, and won when they have.
func TestHiddenRootsAreNoFailures(t *testing.T) {
	l := inMedium(plant.Moss, 2)
	l.Looks = []LookOn{{on(30), plant.Look{Tug: "holds", Buds: []plant.BudAt{{Node: 1, Bud: plant.BudLeafOpen}}}}}
	l.Potted = &Potting{on(31)}
	_, _, ok := l.Trial()
	require.False(t, ok, "not decided yet")
	l.Outcome = &Outcome{on(60), EndEstablished, ""}
	won, tried, ok := l.Trial()
	require.True(t, ok)
	require.Equal(t, []int{1, 1}, []int{won, tried}, "nodes nobody counted are one piece")
	l.Looks = append(l.Looks, LookOn{on(32), roots(20)})
	won, tried, _ = l.Trial()
	require.Equal(t, []int{1, 2}, []int{won, tried}, "counted, each set node is a try")
	l.Outcome = &Outcome{on(60), EndLost, "rotted"}
	won, tried, _ = l.Trial()
	require.Equal(t, []int{0, 2}, []int{won, tried}, "one meaning of success: grown on after potting")
}

// random makes a life whose days make sense.
func random(r *rand.Rand) Life {
	media := []plant.Medium{plant.Water, plant.Moss, plant.Perlite, plant.Mix}
	l := Life{Group: plant.Groups()[r.IntN(len(plant.Groups()))], Kind: plant.StemCutting, Nodes: []plant.Node{{BelowMM: 40}, {BelowMM: 30}}, CutOn: cutDay}
	day := 0
	for range r.IntN(4) {
		day += r.IntN(15)
		l.Settings = append(l.Settings, Setting{on(day), media[r.IntN(len(media))], 1 + r.IntN(2)})
	}
	tug := []string{"", "", "holds", "gives"}
	for range r.IntN(5) {
		look := plant.Look{Tug: tug[r.IntN(4)]}
		if r.IntN(2) == 0 {
			look = roots(r.Float64()*12, r.Float64()*12)
		}
		l.Looks = append(l.Looks, LookOn{on(r.IntN(40)), look})
	}
	if r.IntN(3) == 0 && len(l.Settings) > 0 {
		day += r.IntN(20)
		l.Potted = &Potting{on(day)}
		if r.IntN(2) == 0 {
			l.Outcome = &Outcome{on(day + 7 + r.IntN(30)), EndEstablished, ""}
		}
	}
	if r.IntN(6) == 0 {
		given := on(day + r.IntN(9))
		l.GivenOn = &given
	} else if r.IntN(4) == 0 && l.Outcome == nil {
		l.Outcome = &Outcome{on(day + r.IntN(30)), EndLost, "rotted"}
	}
	return l
}

func TestRandomLivesAreOneStory(t *testing.T) {
	for seed := range uint64(4000) {
		r := rand.New(rand.NewPCG(5, seed))
		l := random(r)
		require.NoError(t, l.Check(), seed)
		require.Equal(t, l.Outcome == nil && l.GivenOn == nil, l.Where().Stands(), seed)
		since, in := l.Ages(on(200))
		require.GreaterOrEqual(t, since, in, seed)
		require.GreaterOrEqual(t, in, 0, seed)

		won, tried, ok := l.Trial()
		succeeded, decided := l.Succeeded()
		require.LessOrEqual(t, won, tried, seed)
		require.Equal(t, ok && succeeded, won > 0, seed)
		require.False(t, ok && !decided, "what is open is neither won nor lost: %d", seed)
		rooting := l.Rooting()
		require.False(t, succeeded && !rooting.Rooted, "what grew on has rooted: %d", seed)
		require.False(t, rooting.Rooted && (!rooting.Known || rooting.By == ""), seed)

		// Another look never makes it unrooted, and nothing that follows touches what was there.
		text := l.String()
		more := l
		more.Looks = append(append([]LookOn{}, l.Looks...), LookOn{on(199), roots()})
		require.False(t, rooting.Rooted && rooting.By != ByLeaf && !more.Rooting().Rooted, seed)
		require.Equal(t, text, l.String())

		// What no longer stands is judged as of the same day, whenever that is asked.
		require.Equal(t, !l.Stands(), l.AsOf(on(200)).Equal(l.AsOf(on(300))), seed)

		// A day before the cut is refused, whichever fact it is of.
		early := l
		switch {
		case len(l.Settings) > 0:
			early.Settings = append([]Setting{{on(-3), plant.Water, 1}}, l.Settings...)
		case len(l.Looks) > 0:
			early.Looks = append([]LookOn{{on(-1), plant.Look{}}}, l.Looks...)
		default:
			continue
		}
		require.NotEmpty(t, plant.Refusals(early.Check()), seed)
	}
}

// What was cut away is gone from what was seen before it, in whatever order the cuts are told; the life keeps its looks.
func TestLooksLeftAreThoseOfWhatIsLeft(t *testing.T) {
	l := inMedium(plant.Water, 2)
	l.Looks = []LookOn{{on(10), roots(20, 30)}, {on(30), roots(0, 9)}}
	l.CutBacks = []CutBack{{On: on(20), GoneNodes: 1, RemovedMM: 25}, {On: on(15), RemovedMM: 5, BareNodes: []int{2}}}
	left := l.LooksLeft()
	require.Empty(t, left[0].Look.Roots)
	require.Len(t, left[1].Look.Roots, 2)
	require.Len(t, l.Looks[0].Look.Roots, 2, "what happened stays")
	nodes, mm := l.Gone()
	require.Equal(t, 1, nodes)
	require.InDelta(t, 30, mm, 1e-9)
	require.Equal(t, []float64{12, 42}, l.NodeMM())
	longest, _ := l.Seen().Longest()
	require.InDelta(t, 9, longest.LengthMM, 1e-9)
}

func BenchmarkRooting(b *testing.B) {
	lives := make([]Life, 1000)
	for i := range lives {
		lives[i] = random(rand.New(rand.NewPCG(1, uint64(i))))
	}
	for b.Loop() {
		for _, l := range lives {
			l.Rooting()
		}
	}
}
