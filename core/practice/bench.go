package practice

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"sync"

	"clearjar/core/learn"
	"clearjar/core/number"
	"clearjar/core/plant"
	"clearjar/core/readiness"
	"clearjar/core/scenario"
)

// Row is one figure of the benchmark: what was measured, what is wanted, and whether it was held.
type Row struct {
	Figure   string  `json:"figure"`
	Measured float64 `json:"measured"`
	Wanted   string  `json:"wanted"`
	Held     bool    `json:"held"`
	// Of is how many cases it was measured on.
	Of int `json:"of"`
}

// School is a school as the benchmark needs it.
type School struct {
	Name  string
	Wants func(water bool, nodes int) scenario.Wants
	Worth scenario.School
	// NoMore and NoMorePays are the regret of weekly looks, and of looks that
	// pay, that it must stay under; Asked the gain of the priced question it must reach, 0 for none.
	NoMore, NoMorePays float64
	Asked              float64
	// Known is the order in which one asks who asks for the first thing that is unknown.
	Known []scenario.Question
}

// Bench is what the benchmark runs on.
type Bench struct {
	Seed uint64
	// Cuttings is how many are drawn for each of the dearer figures, Least how many at least for each interval.
	Cuttings int
	Least    int
	Groups   []plant.Group
	Schools  []School
	Box      plant.Medium
	Open     plant.Medium
	Other    bool
}

const (
	days      = 200 // a piece is potted by then
	lookEvery = 7
	missed    = 0.15
)

// setting is that of the nth cutting: groups in turn, growers drawn.
func (b *Bench) setting(n int, m plant.Medium) Setting {
	return Setting{Group: b.Groups[n%len(b.Groups)], Medium: m, Other: b.Other, Drawn: true}
}

// seed is that of the nth cutting of a figure.
func (b *Bench) seed(figure, n int) uint64 {
	return b.Seed*1_000_003 + uint64(figure)*10_000_019 + uint64(n)
}

// Run runs all figures.
func (b *Bench) Run() []Row {
	out := b.intervals()
	out = append(out, b.chances()...)
	out = append(out, b.regrets()...)
	out = append(out, b.asked()...)
	out = append(out, b.takenBack())
	return append(out, b.learned()...)
}

// Standard is the benchmark on the first groups of the handbook that root from stems in water, and in a sealed box of moss.
func Standard(seed uint64, cuttings int) *Bench {
	b := &Bench{Seed: seed, Cuttings: cuttings, Least: max(150, min(1500, cuttings)), Open: plant.Water, Box: plant.Moss}
	for _, g := range plant.Groups() {
		if len(b.Groups) < groups && !g.FirstRootsDays.IsZero() && slices.Contains(g.Kinds, plant.StemCutting) && slices.Contains(g.Media, b.Open) {
			b.Groups = append(b.Groups, g)
		}
	}
	limits := map[plant.SchoolKey]School{
		plant.EarlyRoots: {NoMore: 0.040, NoMorePays: 0.048},
		plant.FirstLeaf:  {NoMore: 0.042, NoMorePays: 0.048, Asked: 0.004, Known: []scenario.Question{scenario.AskTug, scenario.AskBud}},
		plant.FullRoots:  {NoMore: 0.036, NoMorePays: 0.048, Asked: 0.002, Known: []scenario.Question{scenario.AskMeasure, scenario.AskCount}},
	}
	for _, row := range plant.Schools() {
		s, ok := limits[row.Key]
		if !ok {
			continue
		}
		s.Name = row.Label
		s.Worth, _ = readiness.Transplant(number.Table{}, row.Key)
		s.Wants = func(water bool, nodes int) scenario.Wants {
			m := b.Box
			if water {
				m = b.Open
			}
			return readiness.Wants(number.Table{}, row.Key, m, nodes)
		}
		b.Schools = append(b.Schools, s)
	}
	return b
}

// groups is how many groups are drawn from.
const groups = 5

// each does something for n cuttings, on all processors, and hands on what came of them in their order.
func each[T any](n int, do func(i int) T) []T {
	out := make([]T, n)
	var wait sync.WaitGroup
	const at = 4
	for k := range at {
		wait.Add(1)
		go func() {
			defer wait.Done()
			for i := k; i < n; i += at {
				out[i] = do(i)
			}
		}()
	}
	wait.Wait()
	return out
}

var ways = []struct {
	name string
	how  scenario.How
}{{"photo", scenario.ByPhoto}, {"ruler", scenario.ByRuler}, {"eye", scenario.ByEye}}

// looksAt looks until so many lengths were seen, every few days, and tells the day of the newest; false when it takes too long.
func (c *Case) looksAt(r *rand.Rand, how scenario.How, lengths int) (looks []scenario.Look, day float64, ok bool) {
	day = 3 + math.Floor(24*r.Float64())
	if lengths > 0 {
		day = 3 + math.Floor(7*r.Float64())
	}
	for seen := 0; ; day += 3 + float64(r.IntN(5)) {
		if day > days {
			return nil, 0, false
		}
		l, rot := c.Look(day, how)
		if rot {
			return nil, 0, false
		}
		looks = append(looks, l)
		if l.LongestMM > 0 {
			seen++
		}
		if seen >= lengths {
			return looks, day, lengths > 0 || seen == 0
		}
	}
}

// intervals are how often the intervals of the ready day hold it, by school, way of looking and lengths seen.
func (b *Bench) intervals() []Row {
	least, most := b.Least, 25*b.Least
	out := []Row{}
	for si, s := range b.Schools {
		for wi, w := range ways {
			for lengths := range 5 {
				one := func(i int) float64 {
					c := Draw(b.seed(1000+si*100+wi*10+lengths, i), b.setting(i, b.Open))
					r := rand.New(rand.NewPCG(b.seed(2000+si*100+wi*10+lengths, i), 7))
					want := s.Wants(true, c.Nodes)
					on := c.ReadyOn(want)
					if math.IsInf(on, 1) {
						return -1
					}
					looks, day, ok := c.looksAt(r, w.how, lengths)
					if !ok {
						return -1
					}
					seen := scenario.Weigh(c.Params, c.Clock, looks, day)
					f := seen.Ready(want)
					if f.Now > 0.5 {
						return -1
					}
					if on <= day {
						on = 0
					}
					// Where the forecast says "already" with some weight, the place within it is drawn.
					below, upTo := f.Share(seen, on, true), f.Share(seen, on, false)
					if on == 0 {
						below, upTo = 0, f.Share(seen, day, false)
					}
					return below + (upTo-below)*r.Float64()
				}
				us := []float64{}
				for at := 0; len(us) < least && at < most; at += least {
					for _, u := range each(least, func(i int) float64 { return one(at + i) }) {
						if u >= 0 {
							us = append(us, u)
						}
					}
				}
				inside := [3]int{}
				n := 0
				for _, u := range us {
					n++
					for k, q := range []float64{0.5, 0.8, 0.95} {
						if math.Abs(u-0.5) <= q/2 {
							inside[k]++
						}
					}
				}
				for k, level := range []struct {
					name      string
					low, high float64
				}{{"50 %", 0.40, 0.70}, {"80 %", 0.70, 0.93}, {"95 %", 0.88, 0.99}} {
					share := float64(inside[k]) / float64(max(1, n))
					out = append(out, Row{
						fmt.Sprintf("%s interval holds the ready day: %s, %s, %d lengths", level.name, s.Name, w.name, lengths), share,
						fmt.Sprintf("%.2f to %.2f", level.low, level.high), share >= level.low && share <= level.high, n,
					})
				}
			}
		}
	}
	return out
}

type guess struct {
	p     float64
	ready bool
	ok    bool
	rule  float64
}

// chances are how far the chance of being ready is off, and its Brier score, for photos, by eye, and in a closed box.
func (b *Bench) chances() []Row {
	out := []Row{}
	for wi, w := range []struct {
		name       string
		how        scenario.How
		box        bool
		gap, brier float64
	}{{"photo", scenario.ByPhoto, false, 0.02, 0.04}, {"eye", scenario.ByEye, false, 0.02, 0.05}, {"closed box", 0, true, 0.04, 0.065}} {
		medium := b.Open
		if w.box {
			medium = b.Box
		}
		all := each(max(6000, 4*b.Cuttings), func(i int) guess {
			s := b.Schools[i%len(b.Schools)]
			c := Draw(b.seed(3000+wi, i), b.setting(i/len(b.Schools), medium))
			r := rand.New(rand.NewPCG(b.seed(4000+wi, i), 5))
			today := 5 + float64(r.IntN(110))
			looks := []scenario.Look{}
			for day := 7.0; day <= today; day += lookEvery {
				if r.Float64() < missed {
					continue
				}
				var l scenario.Look
				var rot bool
				if w.box {
					l, rot = c.Glance(day)
					l.Tug = c.Tug(day)
				} else {
					l, rot = c.Look(day, w.how)
				}
				if rot {
					return guess{}
				}
				looks = append(looks, l)
			}
			want := s.Wants(c.Params.Water, c.Nodes)
			f := scenario.Weigh(c.Params, c.Clock, looks, today).Ready(want)
			g := guess{p: f.Now, ready: c.at(c.truth.Effective(today)).ready(want), ok: true}
			if len(looks) > 0 && met(looks, want) {
				g.rule = 1
			}
			return g
		})
		bins := [10]struct{ p, y, n float64 }{}
		brier, n := 0.0, 0.0
		for _, g := range all {
			if !g.ok {
				continue
			}
			y := 0.0
			if g.ready {
				y = 1
			}
			k := min(9, int(g.p*10))
			bins[k].p, bins[k].y, bins[k].n = bins[k].p+g.p, bins[k].y+y, bins[k].n+1
			brier += (g.p - y) * (g.p - y)
			n++
		}
		gap := 0.0
		for _, x := range bins {
			gap += math.Abs(x.p-x.y) / n
		}
		out = append(out,
			Row{"weighted gap of the chance to be ready: " + w.name, gap, fmt.Sprintf("at most %.2f", w.gap), gap <= w.gap, int(n)},
			Row{"Brier score of the chance to be ready: " + w.name, brier / n, fmt.Sprintf("at most %.3f", w.brier), brier/n <= w.brier, int(n)},
		)
	}
	return out
}

// met tells whether all that is wanted was seen: of each thing what the newest look that noted it says.
func met(looks []scenario.Look, w scenario.Wants) bool {
	var last scenario.Look
	tug, bud := scenario.NoTug, scenario.BudNotSeen
	for _, l := range looks {
		if l.Counted {
			last = l
		}
		if l.Tug != scenario.NoTug {
			tug = l.Tug
		}
		if l.Bud != scenario.BudNotSeen {
			bud = l.Bud
		}
	}
	return last.LongestMM >= w.LongestMM && last.Roots >= w.Roots && (last.Side || !w.Side) && (last.Nodes > 1 || !w.Nodes) &&
		(tug == scenario.Holds || !w.Anchor) && (bud == scenario.LeafOpen || !w.Leaf)
}

// pots is what a way of deciding comes to on one cutting, and how many looks it took.
type pots struct {
	worth float64
	looks int
}

// weekly looks every week, now and then misses one, and pots when pot says so: in that many days, before the next look; below 0
// for not yet.
func (c *Case) weekly(k *scenario.School, how scenario.How, r *rand.Rand, pot func(looks []scenario.Look, day float64) int) pots {
	out, looks := pots{}, []scenario.Look{}
	for day := float64(lookEvery); day < days; day += lookEvery {
		if r.Float64() < missed {
			continue
		}
		l, rot := c.Look(day, how)
		out.looks++
		if rot {
			out.worth = rescued - dayCosts*day
			return out
		}
		looks = append(looks, l)
		if d := pot(looks, day); d >= 0 {
			out.worth = c.Reveal(k, day+float64(d)).Worth
			return out
		}
	}
	out.worth = c.Reveal(k, days).Worth
	return out
}

// gaps are how many days may lie between looks that pay; gapCost is what a look costs beside its time, a day between looks.
var gaps = []int{3, 5, 7, 10, 14, 21, 28}

const gapCost = 0.028

// paying looks when a look pays, and pots on the best day when that comes before the next look.
func (c *Case) paying(k *scenario.School) pots {
	out, looks := pots{}, []scenario.Look{}
	for day := 0.0; day < days; {
		s := scenario.Weigh(c.Params, c.Clock, looks, day)
		gap, worth := 0, math.Inf(-1)
		for _, g := range gaps {
			then := *s
			then.Today = day + float64(g)
			priced, value := then.AskOf(*k, false, func(q scenario.Question) bool { return q == scenario.AskPhoto })
			if v := value + priced[0].Net - dayCosts*float64(g) - gapCost/float64(g); v > worth {
				gap, worth = g, v
			}
		}
		if best := s.BestDay(*k); len(looks) > 0 && best.Best < gap {
			out.worth = c.Reveal(k, day+float64(best.Best)).Worth
			return out
		}
		day += float64(gap)
		l, rot := c.Look(day, scenario.ByPhoto)
		out.looks++
		if rot {
			out.worth = rescued - dayCosts*day
			return out
		}
		looks = append(looks, l)
	}
	out.worth = c.Reveal(k, days).Worth
	return out
}

// regrets are what potting by the best day loses against one who knows all, with weekly looks and with looks that pay.
func (b *Bench) regrets() []Row {
	out := []Row{}
	for si := range b.Schools {
		s := b.Schools[si]
		type lost struct {
			best, rule, mid, pays float64
			looks                 int
		}
		all := each(b.Cuttings, func(i int) lost {
			k := s.Worth.Tabled(scenario.Usual)
			draw := func() (*Case, *rand.Rand) {
				return Draw(b.seed(5000+si, i), b.setting(i, b.Open)), rand.New(rand.NewPCG(b.seed(6000+si, i), 3))
			}
			c, r := draw()
			top := c.Best(&k, days)
			best := c.weekly(&k, scenario.ByPhoto, r, func(looks []scenario.Look, day float64) int {
				if d := scenario.Weigh(c.Params, c.Clock, looks, day).BestDay(k).Best; d < lookEvery {
					return d
				}
				return -1
			})
			c, r = draw()
			want := s.Wants(true, c.Nodes)
			rule := c.weekly(&k, scenario.ByPhoto, r, func(looks []scenario.Look, _ float64) int {
				if met(looks, want) {
					return 0
				}
				return -1
			})
			c, _ = draw()
			mid := c.Reveal(&k, math.Round(c.Params.Pot.Mid)).Worth
			c, _ = draw()
			pays := c.paying(&k)
			return lost{top - best.worth, top - rule.worth, top - mid, top - pays.worth, pays.looks}
		})
		var sum lost
		looks := 0.0
		for _, l := range all {
			sum.best, sum.rule, sum.mid, sum.pays, looks = sum.best+l.best, sum.rule+l.rule, sum.mid+l.mid, sum.pays+l.pays, looks+float64(l.looks)
		}
		n := float64(len(all))
		row := func(figure string, v float64, wanted string, held bool) {
			out = append(out, Row{figure + ": " + s.Name, v, wanted, held, len(all)})
		}
		best, rule := sum.best/n, sum.rule/n
		row("regret of the best day, weekly photos", best, fmt.Sprintf("at most %.3f", s.NoMore), best <= s.NoMore)
		row("part of the regret of the criteria rule that is saved", 1-best/rule, "at least 0.20", best <= 0.8*rule)
		row("regret of the criteria rule", rule, "for comparison", true)
		row("regret of the usual middle day", sum.mid/n, "for comparison", true)
		row("regret, looks only when they pay", sum.pays/n, fmt.Sprintf("at most %.3f", s.NoMorePays), sum.pays/n <= s.NoMorePays)
		row("looks, only when they pay", looks/n, "at most 4.5", looks/n <= 4.5)
	}
	return out
}

// opening are the questions for which a closed box is opened.
var opening = map[scenario.Question]bool{scenario.AskTug: true, scenario.AskCount: true, scenario.AskMeasure: true, scenario.AskPhoto: true}

// answer is what a question comes to, as a look.
func (c *Case) answer(q scenario.Question, day float64) (scenario.Look, bool) {
	switch q {
	case scenario.AskBud:
		l, _ := c.Glance(day)
		l.Firm = false
		return l, false
	case scenario.AskSqueeze:
		l, rot := c.Glance(day)
		l.Bud = scenario.BudNotSeen
		return l, rot
	case scenario.AskTug:
		return scenario.Look{Day: day, Tug: c.Tug(day)}, false
	}
	how := map[scenario.Question]scenario.How{scenario.AskCount: scenario.ByEye, scenario.AskMeasure: scenario.ByRuler, scenario.AskPhoto: scenario.ByPhoto}[q]
	l, rot := c.Look(day, how)
	if q != scenario.AskPhoto {
		l.Bud, l.Side = scenario.BudNotSeen, false
	}
	return l, rot
}

// box is a sealed vessel: each week one question may be asked, and what it costs is taken off.
func (c *Case) box(k *scenario.School, ask func(s *scenario.Scenarios, looks []scenario.Look, day float64) (scenario.Question, float64)) float64 {
	looks := []scenario.Look{}
	cost := 0.0
	for day := float64(lookEvery); day < days; day += lookEvery {
		s := scenario.Weigh(c.Params, c.Clock, looks, day)
		if q, price := ask(s, looks, day); q != "" {
			l, rot := c.answer(q, day)
			cost += price
			if rot {
				return rescued - dayCosts*day - cost
			}
			looks = append(looks, l)
			s = scenario.Weigh(c.Params, c.Clock, looks, day)
		}
		if d := s.BestDay(*k).Best; d < lookEvery {
			return c.Reveal(k, day+float64(d)).Worth - cost
		}
	}
	return c.Reveal(k, days).Worth - cost
}

// asked is what questions earn in a sealed box beyond their cost: the priced one, and the first thing that is unknown.
func (b *Bench) asked() []Row {
	out := []Row{}
	for si := range b.Schools {
		s := b.Schools[si]
		if s.Asked == 0 {
			continue
		}
		type gain struct{ priced, first float64 }
		all := each(b.Cuttings, func(i int) gain {
			k := s.Worth.Tabled(scenario.Usual)
			draw := func() *Case { return Draw(b.seed(7000+si, i), b.setting(i, b.Box)) }
			price := func(x *scenario.Scenarios, q scenario.Question) (float64, float64) {
				priced, _ := x.AskOf(k, true, func(o scenario.Question) bool { return o == q })
				p := priced[0]
				return p.Net, 0.002*p.Seconds/60 + p.Disturbs
			}
			c := draw()
			may := func(looks []scenario.Look, day float64) bool {
				for _, l := range looks {
					if l.Bud == scenario.LeafOpen {
						return true
					}
				}
				return c.Clock.Effective(day) >= c.Params.Pot.Mid
			}
			none := c.box(&k, func(*scenario.Scenarios, []scenario.Look, float64) (scenario.Question, float64) { return "", 0 })
			c = draw()
			priced := c.box(&k, func(x *scenario.Scenarios, looks []scenario.Look, day float64) (scenario.Question, float64) {
				all, _ := x.AskOf(k, true, func(q scenario.Question) bool { return !opening[q] || may(looks, day) })
				best := scenario.Priced{Net: 0.001}
				for _, p := range all {
					if p.Net >= best.Net {
						best = p
					}
				}
				return best.Question, 0.002*best.Seconds/60 + best.Disturbs
			})
			c = draw()
			first := c.box(&k, func(x *scenario.Scenarios, looks []scenario.Look, day float64) (scenario.Question, float64) {
				if len(looks) >= len(s.Known) || c.Clock.Effective(day) < c.Params.Pot.Mid {
					return "", 0
				}
				q := s.Known[len(looks)]
				_, cost := price(x, q)
				return q, cost
			})
			return gain{priced - none, first - none}
		})
		var sum gain
		for _, g := range all {
			sum.priced, sum.first = sum.priced+g.priced, sum.first+g.first
		}
		n := float64(len(all))
		out = append(out,
			Row{"net gain of the priced question, sealed box: " + s.Name, sum.priced / n, fmt.Sprintf("at least %.3f", s.Asked), sum.priced/n >= s.Asked, len(all)},
			Row{"net gain of the first unknown, sealed box: " + s.Name, sum.first / n, "for comparison", true, len(all)},
		)
	}
	return out
}

// takenBack is how often ready is taken back, a cutting, with weekly photos.
func (b *Bench) takenBack() Row {
	all := each(b.Cuttings, func(i int) int {
		s := b.Schools[i%len(b.Schools)]
		c := Draw(b.seed(8000, i), b.setting(i/len(b.Schools), b.Open))
		r := rand.New(rand.NewPCG(b.seed(9000, i), 1))
		want := s.Wants(true, c.Nodes)
		looks, ready, back := []scenario.Look{}, false, 0
		for day := float64(lookEvery); day < days; day += lookEvery {
			if r.Float64() < missed {
				continue
			}
			l, rot := c.Look(day, scenario.ByPhoto)
			if rot {
				break
			}
			looks = append(looks, l)
			p := scenario.Weigh(c.Params, c.Clock, looks, day).Ready(want).Now
			now := p >= 0.80 || ready && p >= 0.65
			if ready && !now {
				back++
			}
			ready = now
		}
		return back
	})
	sum := 0
	for _, n := range all {
		sum += n
	}
	v := float64(sum) / float64(len(all))
	return Row{"ready taken back, a cutting", v, "at most 0.05", v <= 0.05, len(all)}
}

// learned is what a grower whose pieces root half as late again has learned after some pieces.
func (b *Bench) learned() []Row {
	out := []Row{}
	const growers = 60
	for ni, n := range []int{5, 10, 20, 40} {
		wanted := []float64{1.15, 1.25, 1.35, 1.40}[ni]
		all := each(growers, func(g int) float64 {
			set := b.setting(g, b.Open)
			set.Drawn, set.Later, set.Warmth = false, math.Log(1.5), Known
			records := []learn.Came{}
			var p scenario.Params
			for i := range n {
				c := Draw(b.seed(10000+ni*100+g, i), set)
				p = c.Params
				if len(c.Params.Wake) > 1 {
					p.Wake = c.Params.Wake[:1]
				}
				records = append(records, c.came())
			}
			return learn.At(p, records).Factor()
		})
		sum := 0.0
		for _, f := range all {
			sum += f
		}
		v := sum / float64(len(all))
		out = append(out, Row{fmt.Sprintf("times 1.5 times as long: learned after %d pieces", n), v, fmt.Sprintf("at least %.2f", wanted), v >= wanted, growers})
	}
	return out
}

// came is what weekly photos tell of when its first root came.
func (c *Case) came() learn.Came {
	out := learn.Came{}
	for day := float64(lookEvery); day < days; day += lookEvery {
		l, rot := c.Look(day, scenario.ByPhoto)
		if rot {
			return out
		}
		t := c.Clock.Effective(day)
		if l.LongestMM > 0 {
			out.Seen = t
			return out
		}
		out.Not = t
	}
	return out
}
