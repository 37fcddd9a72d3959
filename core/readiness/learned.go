package readiness

import (
	"math"

	"clearjar/core/learn"
	"clearjar/core/number"
	"clearjar/core/plant"
	"clearjar/core/scenario"
)

// Learned is what a grower's own records of one group in one medium say.
type Learned struct {
	// Times are how much later than usual first roots come, Rates how much faster roots grow.
	Times learn.Times `json:"times"`
	Rates learn.Rates `json:"rates"`
	// Won of Tried set nodes grew on.
	Won   int `json:"won"`
	Tried int `json:"tried"`
}

// Record is what one piece says of its group in its medium, its own effects taken out.
type Record struct {
	Came learn.Came
	// Grew is how fast its longest root grew; nil where fewer than two lengths tell.
	Grew *learn.Grew
	// Params are those of a piece like it.
	Params scenario.Params
}

// leastGrowth is how much longer a root has grown, mm, before its rate is told from its lengths.
const leastGrowth = 5.0

// RecordOf is what a piece says of its group in its medium; false for what did not root from nothing, or was never looked at.
func RecordOf(e Evidence) (Record, bool) {
	e = e.moved()
	e.Potted, e.Outcome = nil, nil
	e.Looks = sorted(e.Looks)
	p, clock, st, ok := e.params()
	if !ok || e.MediumOn.After(st.from) || len(e.CutBacks) > 0 {
		return Record{}, false
	}
	r := Record{Params: p}
	r.Params.Slower = 1
	var first, last scenario.Look
	for _, l := range seenBy(st) {
		if !l.Counted {
			continue
		}
		t := clock.Effective(l.Day) / p.Slower
		switch {
		case l.LongestMM <= 0:
			if r.Came.Seen == 0 {
				r.Came.Not = t
			}
			continue
		case r.Came.Seen == 0:
			r.Came.Seen = t
			first = l
		}
		if l.LongestMM > last.LongestMM {
			last = l
		}
	}
	if r.Came.Seen == 0 && r.Came.Not == 0 {
		return Record{}, false
	}
	if grown, took := p.M().Straight(last.LongestMM)-p.M().Straight(first.LongestMM), clock.Effective(last.Day)-clock.Effective(first.Day); grown >= leastGrowth && took > 0 {
		off := func(l scenario.Look) float64 {
			s := p.M().Sees(l.How)
			return math.Hypot(s.Share*l.LongestMM, s.ConstantMM)
		}
		noise := math.Hypot(off(first), off(last)) / grown
		r.Grew = &learn.Grew{LogRate: math.Log(grown / took), Variance: noise*noise + p.M().Wander()/took}
	}
	return r, true
}

// Learn is what records of one group in one medium come to.
func Learn(records []Record) (l Learned) {
	came, grew := []learn.Came{}, []learn.Grew{}
	for _, r := range records {
		came = append(came, r.Came)
		if r.Grew != nil {
			grew = append(grew, *r.Grew)
		}
	}
	if len(records) > 0 {
		p := records[0].Params
		l.Times, l.Rates = learn.At(p, came), learn.Rate(p, grew)
	}
	return l
}

// recordsWeigh is how many records the starting chance of a node weighs.
const recordsWeigh = 10.0

// wake is the chance, 0 to 1, that one set node roots: the household's number, shifted by its records where it left the number as it
// was; start is it before that.
func (e Evidence) wake() (start, used float64) {
	start = e.Group.WakeIn(e.Medium)
	key := plant.WakeKey(e.Group.Key, e.Medium)
	if number.Known(key) {
		n, given := e.Numbers.At(key), number.Table{}.At(key)
		start = n.Value
		if n.Value != given.Value {
			return start, start
		}
	}
	if e.Learned == nil || e.Learned.Tried == 0 {
		return start, start
	}
	return start, (start*recordsWeigh + float64(e.Learned.Won)) / (recordsWeigh + float64(e.Learned.Tried))
}

// shifted lays what was learned over the starting values.
func (e Evidence) shifted(p scenario.Params) scenario.Params {
	p.Grower = e.sisters
	if e.Learned == nil {
		return p
	}
	if l := e.Learned.Times; l.Pieces > 0 {
		p.Grower, p.GrowerSigma = l.Mean+e.sisters, l.Spread
	}
	p.Faster = e.Learned.Rates.Mean
	return p
}

// Rest is one number a forecast rests on: the starting value, what the grower's records say, and what is used of both.
type Rest struct {
	What  string       `json:"what"`
	Start string       `json:"start"`
	Own   string       `json:"own"`
	Used  string       `json:"used"`
	Basis *plant.Basis `json:"basis,omitempty"`
	// OwnCounts: the records count for more than the starting value.
	OwnCounts bool `json:"own_counts"`
}
