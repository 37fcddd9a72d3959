package colour

import (
	"errors"
	"math"
	"slices"

	"gonum.org/v1/gonum/mat"
)

// seenNumbers is how many numbers a root's colour is told by.
const seenNumbers = 6

// Seen is how a root looks: the lightness of its middle against the white of the photo, its two colours less those of the
// white, the lightness beside it, and how much its own lightness varies; units of CIELAB.
type Seen [seenNumbers]float64

// SeenOf is how a root looks whose middle and surroundings have some colours, in a photo with some white.
func SeenOf(middle, beside []Lab, white Lab) Seen {
	l, a, b, by := []float64{}, []float64{}, []float64{}, []float64{}
	for _, c := range middle {
		l, a, b = append(l, c.L), append(a, c.A), append(b, c.B)
	}
	for _, c := range beside {
		by = append(by, c.L)
	}
	k := 95 / math.Max(30, white.L)
	return Seen{k * part(l, 0.5), part(a, 0.5) - white.A, part(b, 0.5) - white.B, k * part(by, 0.5), k * (part(l, 0.9) - part(l, 0.1)), k * (part(l, 0.5) - part(by, 0.5))}
}

func part(v []float64, q float64) float64 {
	if len(v) == 0 {
		return 0
	}
	s := slices.Clone(v)
	slices.Sort(s)
	return s[int(q*float64(len(s)-1))]
}

// Classes tell the class of a root's colour: the nearest mean under one covariance of all classes, which is the linear
// discriminant (Fisher 1936).
type Classes struct {
	Names []string    `json:"names"`
	Means []Seen      `json:"means"`
	Round [][]float64 `json:"inverse_covariance"`
}

// LearnClasses learns the classes from roots that are known.
func LearnClasses(seen []Seen, class []string) (Classes, error) {
	var c Classes
	by := map[string][]Seen{}
	for i, s := range seen {
		by[class[i]] = append(by[class[i]], s)
	}
	for name, all := range by {
		if len(all) >= 3 {
			c.Names = append(c.Names, name)
		}
	}
	slices.Sort(c.Names)
	if len(c.Names) < 2 {
		return c, errors.New("at least two colours with three roots each are needed")
	}
	cov := mat.NewSymDense(seenNumbers, nil)
	n := 0.0
	for _, name := range c.Names {
		var mean Seen
		for _, s := range by[name] {
			for i := range mean {
				mean[i] += s[i] / float64(len(by[name]))
			}
		}
		c.Means = append(c.Means, mean)
		for _, s := range by[name] {
			for i := range mean {
				for j := i; j < seenNumbers; j++ {
					cov.SetSym(i, j, cov.At(i, j)+(s[i]-mean[i])*(s[j]-mean[j]))
				}
			}
			n++
		}
	}
	for i := range seenNumbers {
		for j := i; j < seenNumbers; j++ {
			cov.SetSym(i, j, cov.At(i, j)/n)
		}
		cov.SetSym(i, i, cov.At(i, i)+1) // a unit of noise
	}
	var chol mat.Cholesky
	if !chol.Factorize(cov) {
		return c, errors.New("the colours do not vary")
	}
	inverse := mat.NewSymDense(seenNumbers, nil)
	if err := chol.InverseTo(inverse); err != nil {
		return c, err
	}
	for i := range seenNumbers {
		row := make([]float64, seenNumbers)
		for j := range row {
			row[j] = inverse.At(i, j)
		}
		c.Round = append(c.Round, row)
	}
	return c, nil
}

// How much farther a class seems that sound roots of the plant do not have: most roots are sound; and how much farther the
// class that rot has.
const (
	foreign = 8.0
	rotten  = 2.0
)

// Of is the class a root's colour is nearest to, and how sure that is: the chance of it among all classes. Expected are those
// that sound roots of the plant have, and rot the one they turn to; others must be seen more clearly. With none expected all
// are alike.
func (c Classes) Of(s Seen, expected []string, rot string) (name string, chance float64) {
	least, sum := math.Inf(1), 0.0
	far := make([]float64, len(c.Names))
	for k, m := range c.Means {
		for i := range s {
			for j := range s {
				far[k] += (s[i] - m[i]) * c.Round[i][j] * (s[j] - m[j])
			}
		}
		switch {
		case len(expected) == 0 || slices.Contains(expected, c.Names[k]):
		case c.Names[k] == rot:
			far[k] += rotten
		default:
			far[k] += foreign
		}
		if far[k] < least {
			least, name = far[k], c.Names[k]
		}
	}
	for _, d := range far {
		sum += math.Exp((least - d) / 2)
	}
	if sum > 0 {
		chance = 1 / sum
	}
	return name, chance
}
