package scenario

import (
	"bufio"
	"encoding/json"
	"math"
	"os"
	"slices"
	"sort"
	"strconv"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
)

type answered struct {
	PReady  float64            `json:"p_ready"`
	Never   float64            `json:"never_roots"`
	Lacks   float64            `json:"never_though_rooted"`
	Days    [3]*float64        `json:"ready_day_given_it_comes"`
	Rot     float64            `json:"p_rot"`
	Utility map[string]float64 `json:"utility_after_days"`
	Best    float64            `json:"best_day"`
	From    float64            `json:"as_good_from"`
	To      float64            `json:"as_good_to"`
	Net     map[string]float64 `json:"question_net"`
	Value   float64            `json:"value_now"`
}

type worked struct {
	Group  string  `json:"group"`
	Wake   float64 `json:"wake_per_node"`
	Rot    float64 `json:"rot_chance"`
	School string  `json:"school"`
	Medium string  `json:"medium"`
	Nodes  int     `json:"set_nodes"`
	Doy    int     `json:"set_day_of_year"`
	T      float64 `json:"temperature_c"`
	Today  float64 `json:"today"`
	Looks  []struct {
		Day     float64 `json:"day"`
		How     string  `json:"how"`
		Longest float64 `json:"longest_mm"`
		Roots   int     `json:"roots_of_5_mm"`
		Nodes   int     `json:"nodes_rooted"`
		Side    bool    `json:"side_root"`
		Bud     string  `json:"bud"`
		Tug     string  `json:"tug"`
		Stem    string  `json:"stem"`
	} `json:"looks"`
	With127  answered `json:"with_127"`
	With8192 answered `json:"with_8192"`
}

func cases(t testing.TB) []worked {
	t.Helper()
	file, err := os.Open("testdata/cases.jsonl")
	require.NoError(t, err)
	defer func() { _ = file.Close() }()
	out := []worked{}
	in := bufio.NewScanner(file)
	in.Buffer(nil, 1<<20)
	for in.Scan() {
		var c worked
		require.NoError(t, json.Unmarshal(in.Bytes(), &c))
		out = append(out, c)
	}
	require.Len(t, out, 240)
	return out
}

func (c worked) weigh(t testing.TB) (*Scenarios, Wants) {
	t.Helper()
	g, ok := plant.GroupNamed(c.Group)
	require.True(t, ok)
	span := func(s plant.Span) Span { return Span{s.Mid, s.Low, s.High} }
	p := Params{First: span(g.FirstRootsDays), Pot: span(g.PotUpDays), Rot: c.Rot, Slower: 1, GrowerSigma: Usual.growers, Water: c.Medium == "water"}
	for range c.Nodes {
		p.Wake = append(p.Wake, c.Wake)
	}
	looks := []Look{}
	for _, l := range c.Looks {
		looks = append(looks, Look{
			Day: l.Day, How: map[string]How{"photo": ByPhoto, "ruler": ByRuler, "eye": ByEye}[l.How], Counted: true, LongestMM: l.Longest, Roots: l.Roots, Nodes: l.Nodes,
			Side: l.Side, Bud: map[string]Bud{"asleep": Asleep, "swelling": Swelling, "shooting": Shooting, "leaf_open": LeafOpen}[l.Bud],
			Tug: map[string]Tug{"gives": Gives, "holds": Holds}[l.Tug], Firm: l.Stem == "firm",
		})
	}
	w := map[string]Wants{
		"early_roots": {LongestMM: 10, Roots: 2},
		"first_leaf":  {Anchor: true, Leaf: true},
		"full_roots":  {LongestMM: 50, Roots: 3, Side: true, Nodes: c.Nodes > 1},
	}[c.School]
	if w.Anchor && p.Water {
		w.Anchor, w.LongestMM = false, 10
	}
	return Weigh(p, Usual.Clock(c.Doy, c.T, false), looks, c.Today), w
}

// schools are the numbers of the transplant of the model.
var schools = map[string]School{
	"early_roots": {Base: 0.35, Gain: 0.60, Scale: 5, Over: 22, Loss: 0.003, NoLeaf: 1},
	"first_leaf":  {Base: 0.30, Gain: 0.65, Scale: 12, Over: 70, Loss: 0.0025, NoLeaf: 0.8},
	"full_roots":  {Base: 0.25, Gain: 0.70, Scale: 15, Over: 70, Loss: 0.002, NoLeaf: 1},
}

var questions = map[Question]string{
	AskBud: "bud", AskCount: "count", AskMeasure: "measure longest", AskPhoto: "photo", AskSqueeze: "squeeze stem", AskTug: "tug",
}

// share is the value that so large a share of them does not exceed.
func share(v []float64, q float64) float64 {
	sort.Float64s(v)
	return v[int(q*float64(len(v)-1))]
}

// 240 cases of the model, answered by a program that shares no code with this one, with 127 points and with 8192. It checks the
// arithmetic, not nature: the world is simulated.
func TestAnswersAreThoseOfAnotherProgram(t *testing.T) {
	var ready, never, rot, worth, best, net, value []float64
	for i, c := range cases(t) {
		s, w := c.weigh(t)
		f := s.Ready(w)
		finer := c.With8192
		ready = append(ready, math.Abs(f.Now-finer.PReady))
		never = append(never, math.Abs(f.Never-finer.Never))
		rot = append(rot, math.Abs(s.Rot(c.Today)-finer.Rot))
		k := schools[c.School]
		curve := s.BestDay(k)
		for d, u := range finer.Utility {
			n, err := strconv.Atoi(d)
			require.NoError(t, err)
			worth = append(worth, math.Abs(curve.Worth[n]-u))
		}
		// What its best day is worth, against that of the other program.
		best = append(best, curve.Worth[curve.Best]-curve.Worth[int(finer.Best)])
		priced, v := s.Ask(k, c.Medium != "water")
		value = append(value, math.Abs(v-c.With127.Value))
		for _, p := range priced {
			want, asked := finer.Net[questions[p.Question]]
			require.True(t, asked, "case %d, %s", i, p.Question)
			net = append(net, math.Abs(p.Net-want))
		}
		require.True(t, s.List == Weigh(s.params, s.Clock, s.looks, s.Today).List, "the same facts, the same scenarios: case %d", i)
	}
	require.Less(t, share(ready, 0.95), 0.03, "p_ready")
	require.Less(t, share(ready, 0.99), 0.2)
	require.Less(t, share(never, 1), 0.01)
	require.Less(t, share(rot, 0.95), 0.003)
	require.Less(t, share(worth, 0.95), 0.01, "utility")
	require.Less(t, share(worth, 1), 0.025)
	require.Less(t, share(best, 0.95), 0.005, "what the best day is worth")
	require.Less(t, share(net, 0.95), 0.006, "questions")
	require.Less(t, share(value, 0.95), 0.006)
}

func soft(nodes int) Params {
	p := Params{First: Span{14, 7, 28}, Pot: Span{30, 18, 60}, Rot: 0.04, Slower: 1, GrowerSigma: Usual.growers, Water: true}
	for range nodes {
		p.Wake = append(p.Wake, 0.92)
	}
	return p
}

// The worked examples of the model, set on 1 May at 24 degrees.
func TestWorkedExamples(t *testing.T) {
	clock := Usual.Clock(120, 24, false)
	full := Wants{LongestMM: 50, Roots: 3, Side: true, Nodes: true}
	f := Weigh(soft(2), clock, nil, 30).Ready(full)
	for i, d := range []float64{25.8, 44.3, 79.3} {
		require.InEpsilon(t, d, f.Days[i], 0.05)
	}
	require.InDelta(t, 0.16, f.Now, 0.03)
	require.InDelta(t, 0.149, f.Lacks, 0.01)
	require.InDelta(t, 0.741, Weigh(soft(2), clock, nil, 30).Ready(Wants{LongestMM: 10, Roots: 2}).Now, 0.03)

	// Thick, leafless, one node: no root by day 30, by day 60.
	thick := Params{First: Span{21, 12, 45}, Pot: Span{35, 25, 80}, Wake: []float64{0.317}, Rot: 0.04, Slower: 1.5, GrowerSigma: Usual.growers}
	for day, never := range map[float64]float64{30: 0.795, 60: 0.951} {
		s := Weigh(thick, clock, []Look{{Day: day, Counted: true, Firm: true}}, day)
		require.InDelta(t, never, s.Never, 0.004)
	}

	// Looks by photo on days 14 and 21.
	looks := []Look{
		{Day: 14, Counted: true, LongestMM: 6, Roots: 1, Nodes: 1, Bud: Asleep, Firm: true},
		{Day: 21, Counted: true, LongestMM: 24, Roots: 3, Nodes: 2, Bud: Swelling, Firm: true},
	}
	f = Weigh(soft(2), clock, looks[:1], 14).Ready(full)
	for i, d := range []float64{29, 44, 71} {
		require.InEpsilon(t, d, f.Days[i], 0.07)
	}
	require.InDelta(t, 0.19, f.Lacks, 0.02)
	s := Weigh(soft(2), clock, looks, 21)
	f = s.Ready(full)
	for i, d := range []float64{29.8, 34.8, 41.7} {
		require.InEpsilon(t, d, f.Days[i], 0.05)
	}
	require.InDelta(t, 0.11, f.At(s, 30), 0.03)
	require.InDelta(t, 0.52, f.At(s, 35), 0.03)

	curve := s.BestDay(schools["full_roots"])
	for d, u := range map[int]float64{0: 0.805, 7: 0.886, 14: 0.905, 30: 0.885} {
		require.InDelta(t, u, curve.Worth[d], 0.005, "after %d days", d)
	}
	require.InDelta(t, 17, curve.Best, 3)
	late := Weigh(soft(2), Usual.Clock(231, 24, false), looks, 21).BestDay(schools["full_roots"])
	require.InDelta(t, 7, late.Best, 3, "the dark season pulls")
}

// The order in which looks of a day are told changes nothing; a look at what is known already changes little; more evidence
// for roots never makes a piece less ready; south of the equator all is shifted by half a year.
func TestWhatMustHoldOfAnyHistory(t *testing.T) {
	for i, c := range cases(t) {
		s, w := c.weigh(t)
		f := s.Ready(w)
		back := slices.Clone(s.looks)
		slices.Reverse(back)
		require.True(t, s.List == Weigh(s.params, s.Clock, back, c.Today).List, "case %d", i)
		south := Weigh(s.params, Usual.Clock(c.Doy+183, c.T, true), s.looks, c.Today).Ready(w)
		require.Equal(t, f.Days, south.Days)
		require.InDelta(t, f.Now, f.At(s, c.Today), 0)
		require.LessOrEqual(t, f.Now, f.At(s, c.Today+7), "without a new fact it does not fall")
		for _, x := range s.List {
			require.False(t, math.IsNaN(x.Weight) || x.Weight < 0, "case %d", i)
		}
		require.InDelta(t, 1, sum(s), 1e-9)
	}
	for length := 4.0; length < 40; length += 6 {
		clock := Usual.Clock(120, 24, false)
		one := func(roots int, mm float64) float64 {
			return Weigh(soft(1), clock, []Look{{Day: 25, Counted: true, LongestMM: mm, Roots: roots, Nodes: 1}}, 32).Ready(Wants{LongestMM: 50, Roots: 3}).Now
		}
		require.LessOrEqual(t, one(2, length), one(2, length+6)+0.01, "longer, from %.0f mm", length)
		require.LessOrEqual(t, one(1, length+6), one(3, length+6)+0.01, "more roots")
	}
}

func sum(s *Scenarios) (v float64) {
	for _, x := range s.List {
		v += x.Weight
	}
	return v
}

func BenchmarkWeigh(b *testing.B) {
	all := cases(b)
	for i := 0; b.Loop(); i++ {
		s, w := all[i%len(all)].weigh(b)
		s.Ready(w)
	}
}

func BenchmarkAsk(b *testing.B) {
	all := cases(b)
	s, _ := all[5].weigh(b)
	for b.Loop() {
		s.Ask(schools["full_roots"], true)
	}
}

func BenchmarkBestDay(b *testing.B) {
	all := cases(b)
	s, _ := all[5].weigh(b)
	for b.Loop() {
		s.BestDay(schools["full_roots"])
	}
}
