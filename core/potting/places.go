package potting

import "math"

// places are n points in a circle of a radius, as far from each other as they get, the middle at 0: one in the middle, up to four on
// the rim, five as growers set them, three outside and two inside; more are pushed apart until they rest.
func places(n int, radius float64) [][2]float64 {
	switch {
	case n <= 1:
		return make([][2]float64, n)
	case n == 2:
		return [][2]float64{on(radius, 180), on(radius, 0)}
	case n == 5:
		return threeAndTwo(radius)
	}
	return pushed(n, radius)
}

// on is a point on a circle, in degrees from the right.
func on(radius, degrees float64) [2]float64 {
	return [2]float64{radius * math.Cos(degrees*math.Pi/180), radius * math.Sin(degrees*math.Pi/180)}
}

// threeAndTwo sets three on the rim a third of a turn apart, and two inside, between the upper one and the lower ones.
func threeAndTwo(radius float64) [][2]float64 {
	const inner = 0.42
	return [][2]float64{on(radius, 90), on(radius, 210), on(radius, 330), on(inner*radius, 20), on(inner*radius, 160)}
}

// pushed pushes points apart: from several starts in rings, the nearest two are moved from each other by steps that shrink. Nothing is
// drawn, so that the same number gives the same places.
func pushed(n int, radius float64) [][2]float64 {
	var best [][2]float64
	far := -1.0
	for inside := 0; inside <= n/2; inside++ {
		p := make([][2]float64, 0, n)
		for i := range n - inside {
			p = append(p, on(1, 90+360*float64(i)/float64(n-inside)))
		}
		for i := range inside {
			r := 0.45
			if inside == 1 {
				r = 0
			}
			p = append(p, on(r, 270+360*float64(i)/float64(max(1, inside))))
		}
		if d := settle(p); d > far+1e-9 {
			best, far = p, d
		}
	}
	for i := range best {
		best[i][0], best[i][1] = best[i][0]*radius, best[i][1]*radius
	}
	return best
}

// settle moves points in the circle of radius 1 apart, and tells how near the nearest two are in the end.
func settle(p [][2]float64) float64 {
	for step := 0.05; step > 1e-5; step *= 0.985 {
		moves := make([][2]float64, len(p))
		for i := range p {
			near, dx, dy := math.Inf(1), 0.0, 0.0
			for k := range p {
				if d := math.Hypot(p[i][0]-p[k][0], p[i][1]-p[k][1]); k != i && d < near-1e-9 {
					near, dx, dy = d, (p[i][0]-p[k][0])/math.Max(d, 1e-9), (p[i][1]-p[k][1])/math.Max(d, 1e-9)
				}
			}
			moves[i] = [2]float64{dx * step, dy * step}
		}
		for i, m := range moves {
			x, y := p[i][0]+m[0], p[i][1]+m[1]
			if r := math.Hypot(x, y); r > 1 {
				x, y = x/r, y/r
			}
			p[i] = [2]float64{x, y}
		}
	}
	return nearest(p)
}

func nearest(p [][2]float64) float64 {
	near := math.Inf(1)
	for i := range p {
		for k := range i {
			near = math.Min(near, math.Hypot(p[i][0]-p[k][0], p[i][1]-p[k][1]))
		}
	}
	return near
}
