package scenario

import "math"

// Span is a number as growers say it: usual, and from low to high nine times in ten.
type Span struct{ Mid, Low, High float64 }

// sigma is the spread of the logarithm of what lies between low and high eight times in ten.
func (s Span) sigma() float64 { return math.Log(s.High/s.Low) / (2 * tenth) }

// tenth is the quantile of the normal distribution at nine in ten.
const tenth = 1.2816

// Params are the numbers of a piece as the model needs them. Times are effective days.
type Params struct {
	First, Pot Span
	// Wake is the chance of each set node to root.
	Wake []float64
	// Rot is the chance to rot before the usual time of first roots.
	Rot float64
	// Slower is by how much first roots are later: leafless, woody, not the medium of the first choice.
	Slower float64
	// Grower is how much later than usual this grower's pieces root, a logarithm, and how sure that is.
	Grower, GrowerSigma float64
	// Faster is by how much this grower's roots grow faster, a logarithm.
	Faster float64
	// Model are the numbers of the model; nil for the starting values.
	Model *Model
	// Water tells that it stands in water, since an effective time: it tugs at nothing, and must not stay.
	Water     bool
	WaterFrom float64
}

// m are the numbers of the model.
func (p Params) m() *Model {
	if p.Model == nil {
		return Usual
	}
	return p.Model
}

// rate is the usual growth of the longest root, mm an effective day, and its spread as a logarithm.
func (p Params) rate() (mean, sigma float64) {
	m := p.m()
	gap := p.Pot.Mid - p.First.Mid
	mean = math.Max(m.leastRate, math.Min(m.mostRate, m.potLength/gap)) * math.Exp(p.Faster)
	variance := func(s Span) float64 {
		v := s.sigma() * s.sigma()
		return s.Mid * s.Mid * math.Exp(v) * (math.Exp(v) - 1)
	}
	v := variance(p.Pot) - variance(p.First)
	if v <= 0 || gap <= 0 {
		return mean, m.leastRateSigma
	}
	sigma = math.Sqrt(math.Log((1 + math.Sqrt(1+4*v/(gap*gap))) / 2))
	return mean, math.Max(m.leastRateSigma, math.Min(m.mostRateSigma, sigma))
}

// further is how many further roots come a day.
func (p Params) further() float64 {
	m := p.m()
	l := math.Max(m.leastFurther, math.Min(m.mostFurther, m.furtherIn/(p.Pot.Mid-p.First.Mid)))
	if len(p.Wake) > 1 {
		l *= 1 + m.secondNode*p.Wake[1]
	}
	return l
}

// roots is the chance that any set node roots.
func (p Params) roots() float64 {
	none := 1.0
	for _, w := range p.Wake {
		none *= 1 - w
	}
	return 1 - none
}

// piece is the spread of a spread that is left when what is the grower's own is taken off, squared, and put on again as
// surely as that is known.
func (p Params) piece(sigma float64) float64 {
	m := p.m()
	return math.Max(m.leastPiece, sigma*sigma-m.growers*m.growers) + p.GrowerSigma*p.GrowerSigma
}

// firstRoot is the logarithm of the time of the first root: its mean and its spread.
func (p Params) firstRoot() (mu, sigma float64) {
	return math.Log(p.First.Mid*p.Slower) + p.Grower, math.Sqrt(p.piece(p.First.sigma()))
}

// straight is the length of a root as if it did not slow down, mm.
func (m *Model) straight(mm float64) float64 {
	return mm / (1 - math.Min(mm, m.longestMM*0.98)/m.longestMM)
}

// Piece is the logarithm of the time of the first root of one grower's pieces: its middle for a grower like all others, and its
// spread from piece to piece.
func (p Params) Piece() (mu, sigma float64) {
	m := p.m()
	s := p.First.sigma()
	return math.Log(p.First.Mid * p.Slower), math.Sqrt(math.Max(m.leastPiece, s*s-m.growers*m.growers))
}

// PieceRate is the logarithm of the rate of the longest root, mm an effective day, for a grower like all others, and its spread
// from piece to piece.
func (p Params) PieceRate() (mu, sigma float64) {
	m := p.m()
	mean, s := p.rate()
	return math.Log(mean) - p.Faster, math.Sqrt(math.Max(m.leastPiece, s*s-m.growers*m.growers))
}

// Wakes is the chance that any set node roots.
func (p Params) Wakes() float64 { return p.roots() }

// Rate is the usual growth of the longest root, mm an effective day, and its spread as a logarithm.
func (p Params) Rate() (mean, sigma float64) { return p.rate() }

// Further is how many further roots come an effective day.
func (p Params) Further() float64 { return p.further() }

// Leaf is the logarithm of the time of the first leaf, its spread, and how it goes with the time of the first root.
func (p Params) Leaf() (mu, sigma, withRoot float64) {
	m := p.m()
	return math.Log(m.leafLater * p.Pot.Mid), p.Pot.sigma(), m.leafWithRoot
}

// Straight is the length of a root as if it did not slow down, mm.
func (m *Model) Straight(mm float64) float64 { return m.straight(mm) }

// Growers is how much growers differ in their times, a logarithm.
func (m *Model) Growers() float64 { return m.growers }

// Wander is the variance a length gains, rate squared an effective day.
func (m *Model) Wander() float64 { return m.wander }

// M are the numbers of the model a piece goes by.
func (p Params) M() *Model { return p.m() }

// DayCosts is what a day of waiting costs, in the chance of one plant.
func (m *Model) DayCosts() float64 { return m.dayCosts }
