package scenario

import "math"

// grown is for a piece whose roots were measured: when the first came and how fast it grows are found where they are
// likeliest (damped Newton), and scenarios are drawn around that, each with its weight (importance sampling).
func (s *Scenarios) grown() {
	f := newTrack(s)
	mode := f.climb()
	chol := f.spread(mode)
	centre, scale := mode, 1.25
	for try := 0; ; try++ {
		logs := [M]float64{}
		best := math.Inf(-1)
		for i := range s.List {
			at := &points[i]
			z1, z2 := at.z(1), at.z(2)
			a := centre[0] + scale*chol[0]*z1
			b := centre[1] + scale*(chol[1]*z1+chol[2]*z2)
			ll, length, variance := f.look(a, b)
			x := &s.List[i]
			// Where the first root would have come before the piece was set the weight is none.
			x.First, x.From = math.Max(soonest, f.last-math.Exp(a)), f.last
			x.Length = math.Max(0.1, length+math.Sqrt(variance)*at.z(3))
			x.Rate = s.m.forward(math.Exp(b), x.Length, at.z(4))
			logs[i] = ll + (z1*z1+z2*z2)/2
			best = math.Max(best, logs[i])
		}
		sum, square := 0.0, 0.0
		for i := range s.List {
			w := math.Exp(logs[i] - best)
			s.List[i].Weight = w
			sum, square = sum+w, square+w*w
		}
		if try == 2 || sum*sum/square >= M/2 {
			return
		}
		// Propose anew from where the weight lies.
		var mean, c [3]float64
		at := func(i int) (a, b float64) {
			z1, z2 := points[i].z(1), points[i].z(2)
			return centre[0] + scale*chol[0]*z1, centre[1] + scale*(chol[1]*z1+chol[2]*z2)
		}
		for i := range s.List {
			a, b := at(i)
			mean[0], mean[1] = mean[0]+s.List[i].Weight/sum*a, mean[1]+s.List[i].Weight/sum*b
		}
		for i := range s.List {
			a, b := at(i)
			da, db, w := a-mean[0], b-mean[1], s.List[i].Weight/sum
			c[0], c[1], c[2] = c[0]+w*da*da, c[1]+w*da*db, c[2]+w*db*db
		}
		centre, chol, scale = [2]float64{mean[0], mean[1]}, cholesky(c[0]+1e-6, c[1], c[2]+1e-6), 1.3
	}
}

// track are the lengths of the longest root over effective time.
type track struct {
	s             *Scenarios
	mu, sigma     float64
	rate, rateSig float64
	last          float64 // effective time of the newest length
	none          []float64
	times, mm     []float64
	// share and noise are how far a length may be off: as a share of it, and a variance.
	share, noise []float64
}

func newTrack(s *Scenarios) *track {
	m := s.m
	f := &track{s: s}
	f.mu, f.sigma = s.params.firstRoot()
	f.rate, f.rateSig = s.params.rate()
	f.rate = math.Log(f.rate)
	for _, l := range s.looks {
		if !l.Counted {
			continue
		}
		t := s.Clock.Effective(l.Day)
		if l.LongestMM <= 0 {
			if len(f.times) == 0 {
				f.none = append(f.none, t)
			}
			continue
		}
		w := m.ways[l.How]
		f.times, f.mm = append(f.times, t), append(f.mm, l.LongestMM)
		share, noise := math.Hypot(w.share, m.modelError), w.constant*w.constant
		if l.OffMM > math.Hypot(w.share*l.LongestMM, w.constant) {
			share, noise = m.modelError, l.OffMM*l.OffMM
		}
		f.share, f.noise = append(f.share, share), append(f.noise, noise)
		f.last = t
	}
	return f
}

// soonest is when a first root comes at the earliest, effective days.
const soonest = 0.01

// outlier is from which squared innovation over its variance on a length is a gross error.
const outlier = 12.0

// look is how likely the lengths are when the newest was taken e^a days after the first root came and it grows by e^b mm a
// day, and how long the root is then: a scalar Kalman filter (Kalman 1960).
func (f *track) look(a, b float64) (ll, length, variance float64) {
	m := f.s.m
	age, r := math.Exp(a), math.Exp(b)
	first := f.last - age
	if !(first > soonest) || age > 2000 || r > 60 || r < 1e-3 {
		return -1e6 - math.Abs(a) - math.Abs(b), 1, 1
	}
	x := (math.Log(first) - f.mu) / f.sigma
	y := (b - f.rate) / f.rateSig
	ll = -x*x/2 + a - math.Log(first) - y*y/2
	for _, t := range f.none {
		d := t - first
		if d <= 0 {
			ll += m.unseenYet
			continue
		}
		ll += math.Log(normal.CDF((m.visibleMM-r*d)/math.Sqrt(1+m.wander*r*r*d+0.04*r*r*d*d)) + 1e-6)
	}
	at := first
	for i, t := range f.times {
		if t > at {
			straightNow := f.s.m.straight(length) + r*(t-at)
			next := straightNow / (1 + straightNow/m.longestMM)
			k := (1 - next/m.longestMM) / (1 - length/m.longestMM)
			slow := 1 - next/m.longestMM
			variance = variance*k*k*k*k + m.wander*r*r*(t-at)*slow*slow*slow*slow
			length, at = next, t
		}
		share := f.share[i] * length
		s := variance + share*share + f.noise[i]
		e := f.mm[i] - length
		if q := e * e / s; q > outlier {
			ll += -outlier/2 - math.Log(s)/2 - 1.5*math.Log(q/outlier)
			continue
		}
		ll += -math.Log(s)/2 - e*e/s/2
		gain := variance / s
		length += gain * e
		variance *= 1 - gain
	}
	return ll, math.Max(0, length), variance
}

const slope = 0.04 // of the numeric derivatives

// climb finds the likeliest a and b.
func (f *track) climb() [2]float64 {
	at := func(v [2]float64) float64 { ll, _, _ := f.look(v[0], v[1]); return ll }
	// Begin where the newest length fits the usual rate best, of some.
	best, now := math.Inf(-1), [2]float64{}
	for _, b := range []float64{f.rate - 1, f.rate - 0.5, f.rate, f.rate + 0.5, f.rate + 1} {
		for _, k := range []float64{0.5, 0.75, 1, 1.4} {
			v := [2]float64{math.Log(math.Max(0.2, math.Min(k*f.s.m.straight(f.mm[len(f.mm)-1])/math.Exp(b), f.last*0.95))), b}
			if ll := at(v); ll > best {
				best, now = ll, v
			}
		}
	}
	damp := 0.5
	for range 60 {
		g, h := f.derivatives(now)
		// Minus the Hessian, made surely positive.
		a, b, c := -h[0]+damp, -h[1], -h[2]+damp
		det := a*c - b*b
		if a <= 0 || det <= 0 {
			damp = damp*4 + 0.5
			if damp > 1e7 {
				break
			}
			continue
		}
		step := [2]float64{(c*g[0] - b*g[1]) / det, (a*g[1] - b*g[0]) / det}
		next := [2]float64{now[0] + step[0], now[1] + step[1]}
		if ll := at(next); ll > best {
			moved := math.Hypot(step[0], step[1])
			best, now, damp = ll, next, damp/4
			if moved < 1e-4 {
				break
			}
		} else if damp = damp*4 + 1e-6; damp > 1e7 {
			break
		}
	}
	return now
}

func (f *track) derivatives(v [2]float64) (g [2]float64, h [3]float64) {
	at := func(da, db float64) float64 { ll, _, _ := f.look(v[0]+da, v[1]+db); return ll }
	const e = slope
	mid := at(0, 0)
	r, l, u, d := at(e, 0), at(-e, 0), at(0, e), at(0, -e)
	g = [2]float64{(r - l) / (2 * e), (u - d) / (2 * e)}
	h = [3]float64{(r - 2*mid + l) / (e * e), (at(e, e) - at(e, -e) - at(-e, e) + at(-e, -e)) / (4 * e * e), (u - 2*mid + d) / (e * e)}
	return g, h
}

// spread is a root of the covariance at the mode: the inverse of minus the Hessian.
func (f *track) spread(mode [2]float64) [3]float64 {
	_, h := f.derivatives(mode)
	a, b, c := -h[0], -h[1], -h[2]
	for add := 0.0; ; add = add*4 + 0.05 {
		if x, y := a+add, c+add; x > 0 && x*y-b*b > 1e-9 {
			det := x*y - b*b
			return cholesky(y/det, -b/det, x/det)
		}
	}
}

// cholesky is the lower root of a symmetric matrix: its first column, then the last entry.
func cholesky(a, b, c float64) [3]float64 {
	l := math.Sqrt(math.Max(1e-12, a))
	return [3]float64{l, b / l, math.Sqrt(math.Max(1e-12, c-b*b/(l*l)))}
}
