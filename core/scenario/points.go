package scenario

import (
	"math"

	"gonum.org/v1/gonum/stat/distuv"
)

// M is how many scenarios there are, and dims how many numbers each is made of.
const (
	M    = 127
	dims = 9
)

var normal = distuv.UnitNormal

// point is one scenario's numbers, each evenly spread over 0 to 1, and the same as numbers of a normal distribution: u(1) to
// u(9) and z(1) to z(9) of the model.
type point struct {
	even, bell [dims]float64
	// after are quantiles of Gamma distributions: of the time until the next further root and the one after it.
	after [3]float64
}

func (p *point) u(k int) float64 { return p.even[k-1] }

func (p *point) z(k int) float64 { return p.bell[k-1] }

// points are a lattice of rank 1 (Korobov 1959) with the generator 116, shifted by multiples of the root of two so that no
// number stays at an edge. published: lattice rules, Sloan & Joe 1994 (from memory); the generator is ours.
var points = func() (out [M]point) {
	for m := range out {
		power := 1
		for j := range dims {
			_, f := math.Modf(float64((m*power)%M)/M + 0.5/M + math.Sqrt2*float64(j)/math.Pi)
			out[m].even[j], out[m].bell[j] = f, normal.Quantile(f)
			power = power * 116 % M
		}
		p := &out[m]
		for k := range p.after {
			p.after[k] = gammaQuantile(float64(k), p.z(9))
		}
	}
	return out
}()

// gammaQuantile is about the quantile of a Gamma distribution of a shape and scale 1, by a normal number.
// published: Wilson & Hilferty 1931.
func gammaQuantile(shape, z float64) float64 {
	if shape <= 0 {
		return 0
	}
	c := 1 - 1/(9*shape) + z/(3*math.Sqrt(shape))
	return shape * math.Pow(math.Max(c, 0.02), 3)
}

// poissonQuantile is the least count whose chance of that many or fewer reaches u.
func poissonQuantile(mean, u float64) int {
	p := math.Exp(-mean)
	sum := p
	for n := 0; ; n++ {
		if sum >= u || n >= 60 {
			return n
		}
		p *= mean / float64(n+1)
		sum += p
	}
}
