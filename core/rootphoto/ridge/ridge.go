// Package ridge finds what is long and thin in a picture, of whatever brightness.
//
// In: a plane of numbers, one a pixel, and the widths looked for. Out: for each pixel how much of a line it lies on, and
// which way the line runs. Method: the second derivatives of the smoothed picture (its Hessian) at several scales and
// their eigenvalues (Frangi et al. 1998; Sato et al. 1998). Pixels; row by row from the top left.
package ridge

import (
	"image"
	"math"
	"runtime"
	"sync"
)

// Plane is one number a pixel.
type Plane struct {
	W, H int
	Pix  []float32
}

// New is an empty plane.
func New(w, h int) Plane { return Plane{w, h, make([]float32, w*h)} }

// OfGray is a grey picture from 0 to 1.
func OfGray(g *image.Gray) Plane {
	b := g.Bounds()
	p := New(b.Dx(), b.Dy())
	for y := range p.H {
		row := g.PixOffset(b.Min.X, b.Min.Y+y)
		for x := range p.W {
			p.Pix[y*p.W+x] = float32(g.Pix[row+x]) / 255
		}
	}
	return p
}

// At is the number of a pixel.
func (p Plane) At(x, y int) float32 { return p.Pix[y*p.W+x] }

// Row is a row of pixels.
func (p Plane) Row(y int) []float32 { return p.Pix[y*p.W : (y+1)*p.W] }

// Between is the number at a place between pixels, which has pixel centres at halves: from the four around it; beyond the
// edge it is that of the edge.
func (p Plane) Between(x, y float32) float32 {
	x, y = min(max(x-0.5, 0), float32(p.W-1)), min(max(y-0.5, 0), float32(p.H-1))
	ix, iy := min(int(x), max(0, p.W-2)), min(int(y), max(0, p.H-2))
	fx, fy := x-float32(ix), y-float32(iy)
	at := iy*p.W + ix
	right, below := min(1, p.W-1), min(1, p.H-1)*p.W
	top := p.Pix[at] + fx*(p.Pix[at+right]-p.Pix[at])
	low := p.Pix[at+below] + fx*(p.Pix[at+below+right]-p.Pix[at+below])
	return top + fy*(low-top)
}

// Half is the plane at half its width and height: each pixel the mean of four. An odd last row or column is left out.
func (p Plane) Half() Plane {
	out := New(p.W/2, p.H/2)
	Rows(out.H, func(from, to int) {
		for y := from; y < to; y++ {
			a, b, row := p.Row(2*y), p.Row(2*y+1), out.Row(y)
			for x := range row {
				row[x] = (a[2*x] + a[2*x+1] + b[2*x] + b[2*x+1]) / 4
			}
		}
	})
	return out
}

// Rows does the rows of a picture in as many parts as there are processors.
func Rows(n int, do func(from, to int)) {
	parts := min(runtime.GOMAXPROCS(0), max(1, n/16))
	var all sync.WaitGroup
	for i := 1; i < parts; i++ {
		all.Go(func() { do(i*n/parts, (i+1)*n/parts) })
	}
	do(0, n/parts)
	all.Wait()
}

// cut is how many sigma of a Gaussian are kept on each side.
const cut = 4

// Smooth is the plane smoothed by a Gaussian of a sigma in pixels, cut at four sigma; beyond its edges it is mirrored.
func (p Plane) Smooth(sigma float64) Plane { return p.convolved(gauss(sigma, cut)) }

// Softer is about as [Plane.Smooth], cut at three sigma: half the work, and 0.3 % of the weight elsewhere.
func (p Plane) Softer(sigma float64) Plane { return p.convolved(gauss(sigma, 3)) }

func (p Plane) convolved(kernel []float32) Plane {
	out, half := New(p.W, p.H), New(p.W, p.H)
	if p.W == 0 || p.H == 0 {
		return out
	}
	reach := len(kernel) - 1
	Rows(p.H, func(from, to int) {
		wide := make([]float32, p.W+2*reach)
		for y := from; y < to; y++ {
			row := p.Row(y)
			copy(wide[reach:], row)
			for i := range reach {
				wide[i] = row[mirrored(i-reach, p.W)]
				wide[reach+p.W+i] = row[mirrored(p.W+i, p.W)]
			}
			into := half.Row(y)
			weigh(into, wide[reach:], kernel[0])
			k := 1
			for ; k < reach; k += 2 {
				addFour(into, wide[reach-k:], wide[reach+k:], wide[reach-k-1:], wide[reach+k+1:], kernel[k], kernel[k+1])
			}
			if k == reach {
				addBoth(into, wide[0:], wide[2*reach:], kernel[reach])
			}
		}
	})
	Rows(p.H, func(from, to int) {
		for y := from; y < to; y++ {
			into := out.Row(y)
			row := func(k int) []float32 { return half.Row(mirrored(y+k, p.H)) }
			weigh(into, row(0), kernel[0])
			k := 1
			for ; k < reach; k += 2 {
				addFour(into, row(-k), row(k), row(-k-1), row(k+1), kernel[k], kernel[k+1])
			}
			if k == reach {
				addBoth(into, row(-reach), row(reach), kernel[reach])
			}
		}
	})
	return out
}

// weigh fills a row with a multiple of another.
func weigh(into, a []float32, k float32) {
	a = a[:len(into)]
	for i := range into {
		into[i] = k * a[i]
	}
}

// addFour adds multiples of two pairs of rows to a row: half as many ways to memory as one pair after the other.
func addFour(into, a, b, c, d []float32, k, l float32) {
	n := len(into)
	a, b, c, d = a[:n], b[:n], c[:n], d[:n]
	for i := range into {
		into[i] += k*(a[i]+b[i]) + l*(c[i]+d[i])
	}
}

// addBoth adds a multiple of two rows to a row.
func addBoth(into, a, b []float32, k float32) {
	a, b = a[:len(into)], b[:len(into)]
	for i := range into {
		into[i] += k * (a[i] + b[i])
	}
}

// gauss is a kernel from its middle outward, so many sigma far, its whole summing to 1.
func gauss(sigma, sigmas float64) []float32 {
	n := int(sigmas*sigma + 0.5)
	k := make([]float64, n+1)
	sum := 0.0
	for i := range k {
		k[i] = math.Exp(-float64(i*i) / (2 * sigma * sigma))
		sum += k[i]
		if i > 0 {
			sum += k[i]
		}
	}
	out := make([]float32, n+1)
	for i := range k {
		out[i] = float32(k[i] / sum)
	}
	return out
}

// mirrored is an index on a line of a length, mirrored at its ends so that the end itself comes twice.
func mirrored(i, n int) int {
	if i >= 0 && i < n {
		return i
	}
	period := 2 * n
	i %= period
	if i < 0 {
		i += period
	}
	if i >= n {
		i = period - 1 - i
	}
	return i
}

// Hessian are the second derivatives of a plane at a scale, times sigma squared so that scales compare.
type Hessian struct{ XX, XY, YY Plane }

// HessianAt is the Hessian of a plane at a sigma in pixels: differences of differences of the smoothed plane.
func (p Plane) HessianAt(sigma float64) Hessian {
	s := p.Smooth(sigma)
	dx, dy := s.across(), s.down()
	h := Hessian{dx.across(), dx.down(), dy.down()}
	for _, q := range []Plane{h.XX, h.XY, h.YY} {
		for i := range q.Pix {
			q.Pix[i] *= float32(sigma * sigma)
		}
	}
	return h
}

// across is the difference to both neighbours in a row, halved; at the ends that to the one.
func (p Plane) across() Plane {
	out := New(p.W, p.H)
	for y := range p.H {
		for x := range p.W {
			a, b := max(0, x-1), min(p.W-1, x+1)
			if b > a {
				out.Pix[y*p.W+x] = (p.At(b, y) - p.At(a, y)) / float32(b-a)
			}
		}
	}
	return out
}

func (p Plane) down() Plane {
	out := New(p.W, p.H)
	for y := range p.H {
		a, b := max(0, y-1), min(p.H-1, y+1)
		for x := range p.W {
			if b > a {
				out.Pix[y*p.W+x] = (p.At(x, b) - p.At(x, a)) / float32(b-a)
			}
		}
	}
	return out
}

// Eigen are the eigenvalues of a Hessian at a pixel, the one of the larger size first, and the direction in which the
// picture bends most: across a line.
func (h Hessian) Eigen(i int) (first, second, alongX, alongY float64) {
	xx, xy, yy := float64(h.XX.Pix[i]), float64(h.XY.Pix[i]), float64(h.YY.Pix[i])
	mean, half := (xx+yy)/2, math.Hypot((xx-yy)/2, xy)
	first, second = mean+half, mean-half
	angle := math.Atan2(2*xy, xx-yy) / 2
	if math.Abs(second) > math.Abs(first) {
		first, second = second, first
		angle += math.Pi / 2
	}
	alongY, alongX = math.Sincos(angle)
	return first, second, alongX, alongY
}

// Sato is how bright a line lies at each pixel: the steepest bend downward, over all scales.
// published: Sato et al., Medical Image Analysis 2, 1998.
func Sato(p Plane, sigmas []float64) Plane {
	out := New(p.W, p.H)
	for _, sigma := range sigmas {
		s, k := p.Smooth(sigma), float32(sigma*sigma)
		Rows(p.H, func(from, to int) {
			for y := from; y < to; y++ {
				s.steepest(y, k, out.Row(y))
			}
		})
	}
	return out
}

// steepest puts the steepest bend downward of a row, times k, where it is more than what is there.
func (p Plane) steepest(y int, k float32, into []float32) {
	one := func(x int) {
		xx, xy, yy := p.bends(x, y)
		if v := k * downward(xx, xy, yy); v > into[x] {
			into[x] = v
		}
	}
	if y < 2 || y >= p.H-2 || p.W < 5 {
		for x := range into {
			one(x)
		}
		return
	}
	// Away from the edges the same, without a look at them.
	n := p.W - 4
	mid, up, down, top, low := p.Row(y), p.Row(y - 1)[1:], p.Row(y + 1)[1:], p.Row(y - 2)[2:], p.Row(y + 2)[2:]
	left, here, right := mid[:n], mid[2:][:n], mid[4:][:n]
	ul, ur, dl, dr := up[:n], up[2:][:n], down[:n], down[2:][:n]
	top, low = top[:n], low[:n]
	row := into[2:][:n]
	for x := range row {
		c := 2 * here[x]
		v := k * downward((left[x]-c+right[x])/4, (ul[x]-ur[x]-dl[x]+dr[x])/4, (top[x]-c+low[x])/4)
		if v > row[x] {
			row[x] = v
		}
	}
	for _, x := range []int{0, 1, p.W - 2, p.W - 1} {
		one(x)
	}
}

// downward is the least eigenvalue of a symmetric matrix, its sign turned.
func downward(xx, xy, yy float32) float32 {
	diff := (xx - yy) / 2
	return root(diff*diff+xy*xy) - (xx+yy)/2
}

// Frangi is how much of a bright line lies at each pixel, 0 to 1, over all scales: beta 0.5, and gamma as given.
// published: Frangi et al., MICCAI 1998, equation 15.
func Frangi(p Plane, sigmas []float64, gamma float64) Plane {
	const beta = 0.5
	return over(p, sigmas, func(first, second float64) float64 {
		if first >= 0 {
			return 0
		}
		blob := second / first
		strength := first*first + second*second
		return math.Exp(-blob*blob/(2*beta*beta)) * (1 - math.Exp(-strength/(2*gamma*gamma)))
	})
}

// over is the most of a measure over all scales.
func over(p Plane, sigmas []float64, measure func(first, second float64) float64) Plane {
	out := New(p.W, p.H)
	for _, sigma := range sigmas {
		s, k := p.Smooth(sigma), float32(sigma*sigma)
		Rows(p.H, func(from, to int) {
			for y := from; y < to; y++ {
				into := out.Row(y)
				for x := range into {
					xx, xy, yy := s.bends(x, y)
					first, second := eigen(k*xx, k*xy, k*yy)
					into[x] = max(into[x], float32(measure(first, second)))
				}
			}
		})
	}
	return out
}

// eigen are the eigenvalues of a symmetric matrix, the one of the larger size first.
func eigen(xx, xy, yy float32) (first, second float64) {
	mean, diff := (xx+yy)/2, (xx-yy)/2
	half := root(diff*diff + xy*xy)
	if mean < 0 {
		return float64(mean - half), float64(mean + half)
	}
	return float64(mean + half), float64(mean - half)
}

// bends are the second derivatives at a pixel: differences of differences, as [Plane.HessianAt] takes them.
func (p Plane) bends(x, y int) (xx, xy, yy float32) {
	if x >= 2 && y >= 2 && x < p.W-2 && y < p.H-2 {
		at := y*p.W + x
		mid, up, down := p.Pix[at-2:at+3:at+3], p.Pix[at-p.W-1:at-p.W+2:at-p.W+2], p.Pix[at+p.W-1:at+p.W+2:at+p.W+2]
		xx = (mid[0] - 2*mid[2] + mid[4]) / 4
		xy = (up[0] - up[2] - down[0] + down[2]) / 4
		yy = (p.Pix[at-2*p.W] - 2*mid[2] + p.Pix[at+2*p.W]) / 4
		return xx, xy, yy
	}
	// At the edge there is a neighbour on one side only.
	across := func(x, y int) float32 { return step(x, p.W, func(i int) float32 { return p.At(i, y) }) }
	down := func(x, y int) float32 { return step(y, p.H, func(i int) float32 { return p.At(x, i) }) }
	xx = step(x, p.W, func(i int) float32 { return across(i, y) })
	xy = step(y, p.H, func(i int) float32 { return across(x, i) })
	yy = step(y, p.H, func(i int) float32 { return down(x, i) })
	return xx, xy, yy
}

// step is the difference to both neighbours in a line of n, halved; at the ends that to the one.
func step(i, n int, at func(int) float32) float32 {
	a, b := max(0, i-1), min(n-1, i+1)
	if b == a {
		return 0
	}
	return (at(b) - at(a)) / float32(b-a)
}
