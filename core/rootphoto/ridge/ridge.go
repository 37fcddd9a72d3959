// Package ridge finds what is long and thin in a picture, of whatever brightness.
//
// In: a plane of numbers, one a pixel, and the widths looked for. Out: for each pixel how much of a line it lies on, and
// which way the line runs. Method: the second derivatives of the smoothed picture (its Hessian) at several scales and
// their eigenvalues (Frangi et al. 1998; Sato et al. 1998). Pixels; row by row from the top left.
package ridge

import (
	"image"
	"math"
)

// Plane is one number a pixel.
type Plane struct {
	W, H int
	Pix  []float64
}

// New is an empty plane.
func New(w, h int) Plane { return Plane{w, h, make([]float64, w*h)} }

// OfGray is a grey picture from 0 to 1.
func OfGray(g *image.Gray) Plane {
	b := g.Bounds()
	p := New(b.Dx(), b.Dy())
	for y := range p.H {
		row := g.PixOffset(b.Min.X, b.Min.Y+y)
		for x := range p.W {
			p.Pix[y*p.W+x] = float64(g.Pix[row+x]) / 255
		}
	}
	return p
}

// At is the number of a pixel.
func (p Plane) At(x, y int) float64 { return p.Pix[y*p.W+x] }

// cut is how many sigma of a Gaussian are kept on each side.
const cut = 4

// Smooth is the plane smoothed by a Gaussian of a sigma in pixels, cut at four sigma; beyond its edges it is mirrored.
func (p Plane) Smooth(sigma float64) Plane {
	kernel := gauss(sigma)
	out, half := New(p.W, p.H), New(p.W, p.H)
	line(kernel, p.W, p.H, func(y, x int) float64 { return p.Pix[y*p.W+x] }, func(y, x int, v float64) { half.Pix[y*p.W+x] = v })
	line(kernel, p.H, p.W, func(x, y int) float64 { return half.Pix[y*p.W+x] }, func(x, y int, v float64) { out.Pix[y*p.W+x] = v })
	return out
}

// gauss is a kernel from its middle outward, its whole summing to 1.
func gauss(sigma float64) []float64 {
	n := int(cut*sigma + 0.5)
	k := make([]float64, n+1)
	sum := 0.0
	for i := range k {
		k[i] = math.Exp(-float64(i*i) / (2 * sigma * sigma))
		sum += k[i]
		if i > 0 {
			sum += k[i]
		}
	}
	for i := range k {
		k[i] /= sum
	}
	return k
}

// line convolves every one of some lines of a length with a symmetric kernel.
func line(kernel []float64, length, lines int, get func(line, at int) float64, put func(line, at int, v float64)) {
	buffer := make([]float64, length+2*(len(kernel)-1))
	reach := len(kernel) - 1
	for l := range lines {
		for i := range buffer {
			buffer[i] = get(l, mirrored(i-reach, length))
		}
		for i := range length {
			v := kernel[0] * buffer[i+reach]
			for k := 1; k <= reach; k++ {
				v += kernel[k] * (buffer[i+reach-k] + buffer[i+reach+k])
			}
			put(l, i, v)
		}
	}
}

// mirrored is an index on a line of a length, mirrored at its ends so that the end itself comes twice.
func mirrored(i, n int) int {
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
			q.Pix[i] *= sigma * sigma
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
				out.Pix[y*p.W+x] = (p.At(b, y) - p.At(a, y)) / float64(b-a)
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
				out.Pix[y*p.W+x] = (p.At(x, b) - p.At(x, a)) / float64(b-a)
			}
		}
	}
	return out
}

// Eigen are the eigenvalues of a Hessian at a pixel, the one of the larger size first, and the direction in which the
// picture bends most: across a line.
func (h Hessian) Eigen(i int) (first, second, alongX, alongY float64) {
	xx, xy, yy := h.XX.Pix[i], h.XY.Pix[i], h.YY.Pix[i]
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
	return over(p, sigmas, func(first, second float64) float64 { return math.Max(0, -math.Min(first, second)) })
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
		h := p.HessianAt(sigma)
		for i := range out.Pix {
			first, second, _, _ := h.Eigen(i)
			out.Pix[i] = math.Max(out.Pix[i], measure(first, second))
		}
	}
	return out
}
