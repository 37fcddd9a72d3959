package ridge

import "math"

// Picture is a colour picture, or a part of one: lightness and the two colour axes of CIELAB, and how large a mm is in it.
type Picture struct {
	L, A, B Plane
	PxMM    float64
}

// weights of L, a and b where their bends are put together.
var weights = [3]float32{1, 1.3, 1}

// Sigmas are the scales at which lines are looked for, mm: for lines of about 0.3 to 2 mm. leastSigma is in pixels.
var Sigmas = []float64{0.13, 0.20, 0.31, 0.46, 0.70}

const (
	leastSigma = 0.8
	// halved is from which sigma in pixels a scale is worked out on the picture at half its size.
	halved = 2.4
	// blob is how much of the second bend is taken off: a blob bends both ways.
	blob = 0.7
	// LeastStrength is how strong a line must be to be one, in units of lightness.
	LeastStrength = 2
)

// Scaled is a picture smoothed at one scale.
type Scaled struct {
	// Sigma is in pixels of the whole picture; Step is how many of them go into one of these.
	Sigma   float64
	Step    int
	Channel [3]Plane
}

// Scales smooths a picture at every scale.
func (p Picture) Scales() []Scaled {
	out := []Scaled{}
	half := [3]Plane{}
	for _, mm := range Sigmas {
		s := Scaled{Sigma: math.Max(leastSigma, mm*p.PxMM), Step: 1}
		from := [3]Plane{p.L, p.A, p.B}
		if s.Sigma >= halved && p.L.W > 8 && p.L.H > 8 {
			if half[0].Pix == nil {
				half = [3]Plane{p.L.Half(), p.A.Half(), p.B.Half()}
			}
			from, s.Step = half, 2
		}
		// Halving smooths as well: by the mean of two pixels, of variance 1/4.
		sigma := s.Sigma / float64(s.Step)
		if s.Step == 2 {
			sigma = math.Sqrt(sigma*sigma - 0.25*0.25)
		}
		for c := range from {
			s.Channel[c] = from[c].Softer(sigma)
		}
		out = append(out, s)
	}
	return out
}

// Bend is how a channel bends at a pixel of the scale: across, mixed and down, times sigma squared.
func (s Scaled) bend(c, x, y int) (xx, xy, yy float32) {
	p := s.Channel[c]
	at := y*p.W + x
	up, down := p.Pix[at-p.W-1:at-p.W+2:at-p.W+2], p.Pix[at+p.W-1:at+p.W+2:at+p.W+2]
	mid := p.Pix[at-1 : at+2 : at+2]
	k := float32(s.Sigma * s.Sigma / float64(s.Step*s.Step))
	return k * (mid[0] - 2*mid[1] + mid[2]), k / 4 * (up[0] - up[2] - down[0] + down[2]), k * (up[1] - 2*mid[1] + down[1])
}

// Bend is how a channel bends at a pixel of the whole picture, to the nearest pixel of the scale.
func (s Scaled) Bend(c, x, y int) (xx, xy, yy float32) {
	p := s.Channel[c]
	return s.bend(c, min(max(x/s.Step, 1), p.W-2), min(max(y/s.Step, 1), p.H-2))
}

// Field is how strong a line lies at each pixel, whichever way its brightness or colour differs, and how it runs.
type Field struct {
	Strength Plane
	// Second is the strength of the bend along the line.
	Second Plane
	// Scale is at which of the scales it is strongest.
	Scale []uint8
	// AcrossX and AcrossY are the direction across it, of length 1.
	AcrossX, AcrossY Plane
}

// Field works out, at each pixel, the strongest line over all scales: the bends of all channels put together.
func (p Picture) Field(scales []Scaled) Field {
	w, h := p.L.W, p.L.H
	f := Field{New(w, h), New(w, h), make([]uint8, w*h), New(w, h), New(w, h)}
	for i, s := range scales {
		if s.Channel[0].W < 3 || s.Channel[0].H < 3 {
			continue
		}
		f.add(uint8(i), s) //nolint:gosec // few
	}
	return f
}

// together are the bends of all channels put together at a pixel: the sum of the squares of their matrices.
func (s Scaled) together(x, y int) (m11, m12, m22 float32) {
	for c := range 3 {
		xx, xy, yy := s.bend(c, x, y)
		w := weights[c] * weights[c]
		m11 += w * (xx*xx + xy*xy)
		m12 += w * xy * (xx + yy)
		m22 += w * (yy*yy + xy*xy)
	}
	return m11, m12, m22
}

func (f Field) add(scale uint8, s Scaled) {
	w, h := f.Strength.W, f.Strength.H
	cw, ch := s.Channel[0].W, s.Channel[0].H
	if s.Step == 1 {
		Rows(h, func(from, to int) {
			for y := max(1, from); y < min(to, h-1); y++ {
				for x := 1; x < w-1; x++ {
					m11, m12, m22 := s.together(x, y)
					f.put(y*w+x, scale, m11, m12, m22)
				}
			}
		})
		return
	}
	var m [3]Plane
	for i := range m {
		m[i] = New(cw, ch)
	}
	Rows(ch, func(from, to int) {
		for y := max(1, from); y < min(to, ch-1); y++ {
			for x := 1; x < cw-1; x++ {
				m[0].Pix[y*cw+x], m[1].Pix[y*cw+x], m[2].Pix[y*cw+x] = s.together(x, y)
			}
		}
	})
	Rows(h, func(from, to int) {
		for y := max(1, from); y < min(to, h-1); y++ {
			fy, iy := between(y, ch)
			for x := 1; x < w-1; x++ {
				fx, ix := between(x, cw)
				at := iy*cw + ix
				var v [3]float32
				for i := range v {
					q := m[i].Pix[at:]
					top := q[0] + fx*(q[1]-q[0])
					low := q[cw] + fx*(q[cw+1]-q[cw])
					v[i] = top + fy*(low-top)
				}
				f.put(y*w+x, scale, v[0], v[1], v[2])
			}
		}
	})
}

// between is where the middle of a pixel lies among those of a line half as long.
func between(x, n int) (part float32, first int) {
	v := min(max((float32(x)+0.5)/2-0.5, 0), float32(n)-1.001)
	return v - float32(int(v)), int(v)
}

// put keeps a line at a pixel when it is stronger there than at the scales before.
func (f Field) put(at int, scale uint8, m11, m12, m22 float32) {
	mean, diff := (m11+m22)/2, (m11-m22)/2
	half := root(diff*diff + m12*m12)
	first, second := root(mean+half), root(max(0, mean-half))
	strength := first - blob*second
	if strength <= f.Strength.Pix[at] {
		return
	}
	f.Strength.Pix[at], f.Second.Pix[at], f.Scale[at] = strength, second, scale
	// The eigenvector of the larger eigenvalue.
	vx, vy := diff+half, m12
	if diff < 0 {
		vx, vy = m12, half-diff
	}
	if n := root(vx*vx + vy*vy); n > 0 {
		f.AcrossX.Pix[at], f.AcrossY.Pix[at] = vx/n, vy/n
	} else {
		f.AcrossX.Pix[at], f.AcrossY.Pix[at] = 1, 0
	}
}

func root(v float32) float32 { return float32(math.Sqrt(float64(v))) }

// Crests are the pixels, row by row, that are stronger than their neighbours across the line, and at least so strong.
func (f Field) Crests(least float32) []int32 {
	w, h := f.Strength.W, f.Strength.H
	rows := make([][]int32, h)
	Rows(h, func(from, to int) {
		for y := max(2, from); y < min(to, h-2); y++ {
			for x := 2; x < w-2; x++ {
				at := y*w + x
				v := f.Strength.Pix[at]
				if v < least {
					continue
				}
				ax, ay := f.AcrossX.Pix[at], f.AcrossY.Pix[at]
				cx, cy := float32(x)+0.5, float32(y)+0.5
				if v >= f.Strength.Between(cx+ax, cy+ay) && v > f.Strength.Between(cx-ax, cy-ay) {
					rows[y] = append(rows[y], int32(at)) //nolint:gosec // pictures have fewer pixels
				}
			}
		}
	})
	out := []int32{}
	for _, r := range rows {
		out = append(out, r...)
	}
	return out
}
