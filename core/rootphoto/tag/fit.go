package tag

import (
	"image"
	"math"

	"github.com/makiuchi-d/gozxing"
	"gonum.org/v1/gonum/mat"

	"clearjar/core/plant"
)

// How the pattern is sampled, and how long it is fitted.
const (
	samplesASide = 4   // of one square
	quiet        = 1   // squares of the quiet zone that are looked at too
	blur         = 0.2 // of an edge in the picture, as a share of a square
	rounds       = 14
	step         = 0.05 // pixels, for the slope of the residuals
	settled      = 1e-3 // pixels: when corners move less, they stay
	squarePixels = 3.5  // pixels a square has where it is fitted, about
)

// plane maps the unit square to a picture: a homography, its last number 1.
type plane [9]float64

// squareTo is the homography that takes the corners of the unit square, clockwise from (0,0), to four points.
// published: the projective mapping of a square to a quadrilateral, Heckbert 1989 (from memory).
func squareTo(c [4]plant.Point) plane {
	dx1, dx2 := c[1].X-c[2].X, c[3].X-c[2].X
	dy1, dy2 := c[1].Y-c[2].Y, c[3].Y-c[2].Y
	sx, sy := c[0].X-c[1].X+c[2].X-c[3].X, c[0].Y-c[1].Y+c[2].Y-c[3].Y
	det := dx1*dy2 - dx2*dy1
	g, h := (sx*dy2-dx2*sy)/det, (dx1*sy-sx*dy1)/det
	return plane{
		c[1].X - c[0].X + g*c[1].X, c[3].X - c[0].X + h*c[3].X, c[0].X,
		c[1].Y - c[0].Y + g*c[1].Y, c[3].Y - c[0].Y + h*c[3].Y, c[0].Y,
		g, h, 1,
	}
}

func (p plane) at(u, v float64) plant.Point {
	w := p[6]*u + p[7]*v + p[8]
	return plant.Point{X: (p[0]*u + p[1]*v + p[2]) / w, Y: (p[3]*u + p[4]*v + p[5]) / w}
}

// sample is one place of the pattern, in shares of the symbol, and how dark it is there, 0 to 1.
type sample struct{ u, v, dark float64 }

// pattern is a code sampled all over, its edges as unsharp as a photo makes them.
func pattern(s symbol) []sample {
	n := s.bits.GetWidth()
	dark := func(x, y int) float64 {
		if x >= 0 && y >= 0 && x < n && y < n && s.bits.Get(x, y) {
			return 1
		}
		return 0
	}
	// part is how much of a blurred place lies in the squares before, at and after its own.
	part := func(f float64) [3]float64 {
		low, high := cdf(-f/blur), cdf((1-f)/blur)
		return [3]float64{low, high - low, 1 - high}
	}
	out := []sample{}
	for y := -quiet * samplesASide; y < (n+quiet)*samplesASide; y++ {
		for x := -quiet * samplesASide; x < (n+quiet)*samplesASide; x++ {
			u, v := (float64(x)+0.5)/samplesASide, (float64(y)+0.5)/samplesASide
			i, j := int(math.Floor(u)), int(math.Floor(v))
			px, py := part(u-float64(i)), part(v-float64(j))
			sum := 0.0
			for dy := range 3 {
				for dx := range 3 {
					sum += px[dx] * py[dy] * dark(i+dx-1, j+dy-1)
				}
			}
			out = append(out, sample{u / float64(n), v / float64(n), sum})
		}
	}
	return out
}

func cdf(x float64) float64 { return 0.5 * math.Erfc(-x/math.Sqrt2) }

// readings is how often the squares are read anew from where the corners were found: the first reading supposes that the
// tag is seen straight on, and takes some squares for their neighbours.
const readings = 3

// fit moves the corners of a guess until the pattern lies on the picture, and reads the squares anew until they stay.
func fit(g *image.Gray, s symbol, guess [4]plant.Point) Found {
	n := s.bits.GetWidth()
	// Edges sharper than the samples are apart would catch between them: a large tag is fitted in a smaller picture.
	by := max(1, int(math.Round(distance(guess[0], guess[1])/float64(n)/squarePixels)))
	small := shrink(g, by)
	at := scaled(guess, 1/float64(by))
	f := Found{Payload: s.payload, Modules: n}
	for range readings {
		at, f.Residual = settle(small, pattern(s), at)
		again := squares(small, at, n)
		if same(again, s.bits) {
			break
		}
		s.bits = again
	}
	f.Corners = scaled(at, float64(by))
	return f
}

func scaled(c [4]plant.Point, by float64) [4]plant.Point {
	for i := range c {
		c[i].X, c[i].Y = c[i].X*by, c[i].Y*by
	}
	return c
}

// squares reads each square of a code in its middle, against the middle of all there is of light and dark.
func squares(g *image.Gray, corners [4]plant.Point, n int) *gozxing.BitMatrix {
	h := squareTo(corners)
	grey := make([]float64, n*n)
	low, high := math.Inf(1), math.Inf(-1)
	for y := range n {
		for x := range n {
			sum := 0.0
			for _, d := range [5][2]float64{{0.5, 0.5}, {0.35, 0.5}, {0.65, 0.5}, {0.5, 0.35}, {0.5, 0.65}} {
				p := h.at((float64(x)+d[0])/float64(n), (float64(y)+d[1])/float64(n))
				sum += bilinear(g, p.X, p.Y)
			}
			grey[y*n+x] = sum / 5
			low, high = math.Min(low, grey[y*n+x]), math.Max(high, grey[y*n+x])
		}
	}
	out, err := gozxing.NewBitMatrix(n, n)
	if err != nil {
		return nil
	}
	for y := range n {
		for x := range n {
			if grey[y*n+x] < (low+high)/2 {
				out.Set(x, y)
			}
		}
	}
	return out
}

func same(a, b *gozxing.BitMatrix) bool {
	if a == nil {
		return true
	}
	for y := range b.GetHeight() {
		for x := range b.GetWidth() {
			if a.Get(x, y) != b.Get(x, y) {
				return false
			}
		}
	}
	return true
}

// settle moves corners until a pattern lies on the picture; it gives what is left of the contrast.
func settle(g *image.Gray, all []sample, corners [4]plant.Point) (best [4]plant.Point, left float64) {
	best = corners
	res, contrast := residuals(g, all, best)
	least := square(res)
	damp := 1e-3
	for range rounds {
		jac := mat.NewDense(len(all), 8, nil)
		for k := range 8 {
			with, _ := residuals(g, all, shifted(best, k, step))
			for i := range all {
				jac.Set(i, k, (with[i]-res[i])/step)
			}
		}
		next, moves, ok := solve(jac, res, damp, best)
		if !ok {
			break
		}
		with, c := residuals(g, all, next)
		if sum := square(with); sum < least {
			best, res, least, contrast, damp = next, with, sum, c, damp/4
			if moves < settled {
				break
			}
		} else if damp *= 8; damp > 1e6 {
			break
		}
	}
	if !(contrast > 0) {
		return best, 1
	}
	return best, math.Min(1, math.Sqrt(least/float64(len(all)))/contrast)
}

func shifted(c [4]plant.Point, k int, by float64) [4]plant.Point {
	if k%2 == 0 {
		c[k/2].X += by
	} else {
		c[k/2].Y += by
	}
	return c
}

// solve is one damped step: (J'J + damp diag) d = -J'r.
func solve(jac *mat.Dense, res []float64, damp float64, from [4]plant.Point) (to [4]plant.Point, moves float64, ok bool) {
	var normal mat.Dense
	normal.Mul(jac.T(), jac)
	for k := range 8 {
		normal.Set(k, k, normal.At(k, k)*(1+damp)+1e-9)
	}
	var right, d mat.VecDense
	right.MulVec(jac.T(), mat.NewVecDense(len(res), res))
	if err := d.SolveVec(&normal, &right); err != nil {
		return from, 0, false
	}
	to = from
	for k := range 8 {
		by := -d.AtVec(k)
		if math.IsNaN(by) || math.Abs(by) > 1e3 {
			return from, 0, false
		}
		moves = math.Max(moves, math.Abs(by))
		to = shifted(to, k, by)
	}
	return to, moves, true
}

func square(r []float64) (sum float64) {
	for _, v := range r {
		sum += v * v
	}
	return sum
}

// residuals are the picture less the pattern, gain and offset of the whole taken out; contrast is the gain.
func residuals(g *image.Gray, all []sample, corners [4]plant.Point) (res []float64, contrast float64) {
	h := squareTo(corners)
	res = make([]float64, len(all))
	var sx, sy, sxx, sxy float64
	for i, s := range all {
		p := h.at(s.u, s.v)
		v := bilinear(g, p.X, p.Y)
		res[i] = v
		sx, sy, sxx, sxy = sx+s.dark, sy+v, sxx+s.dark*s.dark, sxy+s.dark*v
	}
	n := float64(len(all))
	gain := (sxy - sx*sy/n) / (sxx - sx*sx/n)
	offset := (sy - gain*sx) / n
	for i, s := range all {
		res[i] -= gain*s.dark + offset
	}
	return res, math.Abs(gain)
}

// bilinear is the grey of a picture between its pixels; their centres lie at halves. Outside it is that of the edge.
func bilinear(g *image.Gray, x, y float64) float64 {
	b := g.Bounds()
	x, y = x-0.5, y-0.5
	x = math.Max(0, math.Min(x, float64(b.Dx()-1)))
	y = math.Max(0, math.Min(y, float64(b.Dy()-1)))
	i, j := int(x), int(y)
	i2, j2 := min(i+1, b.Dx()-1), min(j+1, b.Dy()-1)
	fx, fy := x-float64(i), y-float64(j)
	at := func(i, j int) float64 { return float64(g.Pix[j*g.Stride+i]) }
	return (at(i, j)*(1-fx)+at(i2, j)*fx)*(1-fy) + (at(i, j2)*(1-fx)+at(i2, j2)*fx)*fy
}
