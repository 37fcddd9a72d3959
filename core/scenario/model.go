package scenario

import "math"

// Span is a number as growers say it: usual, and from low to high nine times in ten.
type Span struct{ Mid, Low, High float64 }

// sigma is the spread of the logarithm of what lies between low and high eight times in ten.
func (s Span) sigma() float64 { return math.Log(s.High/s.Low) / (2 * tenth) }

// tenth is the quantile of the normal distribution at nine in ten.
const tenth = 1.2816

// Numbers of the model: assumed, but for the quarter of a year in water.
const (
	potLength      = 40.0 // mm: the longest root of a piece that is usually potted
	leastRate      = 0.4  // mm a day
	mostRate       = 3.5
	leastRateSigma = 0.3
	mostRateSigma  = 0.6
	furtherIn      = 3.0 // further roots in the time from first roots to potting
	leastFurther   = 0.03
	mostFurther    = 0.5
	furtherShape   = 2.5
	secondNode     = 0.5 // more roots with a second node, times its chance
	growers        = 0.25
	leastPiece     = 0.02
	longestMM      = 250.0 // a root grows slower as it nears this
	wander         = 0.45  // variance of the length, rate squared a day
	visibleMM      = 2.0
	countedMM      = 5.0
	secondLater    = 0.45
	sideMM         = 35.0
	anchorMM       = 15.0
	lengthSigma    = 0.30
	leafLater      = 1.1
	leafWithRoot   = 0.4
	swellsAt       = 0.5
	shootsAt       = 0.7
	rootedRot      = 0.25
	neverRot       = 2.0
	waterMost      = 91.0
	waterRot       = 0.003
	tugRight       = 0.95
)

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
	// Water tells that it stands in water, since an effective time: it tugs at nothing, and must not stay.
	Water     bool
	WaterFrom float64
}

// rate is the usual growth of the longest root, mm an effective day, and its spread as a logarithm.
func (p Params) rate() (mean, sigma float64) {
	gap := p.Pot.Mid - p.First.Mid
	mean = math.Max(leastRate, math.Min(mostRate, potLength/gap)) * math.Exp(p.Faster)
	variance := func(s Span) float64 {
		v := s.sigma() * s.sigma()
		return s.Mid * s.Mid * math.Exp(v) * (math.Exp(v) - 1)
	}
	v := variance(p.Pot) - variance(p.First)
	if v <= 0 || gap <= 0 {
		return mean, leastRateSigma
	}
	sigma = math.Sqrt(math.Log((1 + math.Sqrt(1+4*v/(gap*gap))) / 2))
	return mean, math.Max(leastRateSigma, math.Min(mostRateSigma, sigma))
}

// further is how many further roots come a day.
func (p Params) further() float64 {
	l := math.Max(leastFurther, math.Min(mostFurther, furtherIn/(p.Pot.Mid-p.First.Mid)))
	if len(p.Wake) > 1 {
		l *= 1 + secondNode*p.Wake[1]
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
	return math.Max(leastPiece, sigma*sigma-growers*growers) + p.GrowerSigma*p.GrowerSigma
}

// firstRoot is the logarithm of the time of the first root: its mean and its spread.
func (p Params) firstRoot() (mu, sigma float64) {
	return math.Log(p.First.Mid*p.Slower) + p.Grower, math.Sqrt(p.piece(p.First.sigma()))
}

// straight is the length of a root as if it did not slow down, mm.
func straight(mm float64) float64 { return mm / (1 - math.Min(mm, longestMM*0.98)/longestMM) }

// Piece is the logarithm of the time of the first root of one grower's pieces: its middle for a grower like all others, and its
// spread from piece to piece.
func (p Params) Piece() (mu, sigma float64) {
	s := p.First.sigma()
	return math.Log(p.First.Mid * p.Slower), math.Sqrt(math.Max(leastPiece, s*s-growers*growers))
}

// PieceRate is the logarithm of the rate of the longest root, mm an effective day, for a grower like all others, and its spread
// from piece to piece.
func (p Params) PieceRate() (mu, sigma float64) {
	mean, s := p.rate()
	return math.Log(mean) - p.Faster, math.Sqrt(math.Max(leastPiece, s*s-growers*growers))
}

// Wakes is the chance that any set node roots.
func (p Params) Wakes() float64 { return p.roots() }

// Growers is how much growers differ in their times, a logarithm: assumed.
const Growers = growers

// Rate is the usual growth of the longest root, mm an effective day, and its spread as a logarithm.
func (p Params) Rate() (mean, sigma float64) { return p.rate() }

// Further is how many further roots come an effective day.
func (p Params) Further() float64 { return p.further() }

// Leaf is the logarithm of the time of the first leaf, its spread, and how it goes with the time of the first root.
func (p Params) Leaf() (mu, sigma, withRoot float64) {
	return math.Log(leafLater * p.Pot.Mid), p.Pot.sigma(), leafWithRoot
}

// Straight is the length of a root as if it did not slow down, mm.
func Straight(mm float64) float64 { return straight(mm) }

// Wander is the variance a length gains, rate squared an effective day: assumed.
const Wander = wander
