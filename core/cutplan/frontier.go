package cutplan

// Choice is the best plan for a number of pieces.
type Choice struct {
	Pieces   int       `json:"pieces"`
	KnivesMM []float64 `json:"knives_mm"`
	// Expected plants, and the chance that none comes.
	Expected float64 `json:"expected"`
	LoseAll  float64 `json:"lose_all"`
}

// Frontier gives, for 1, 2, 3 ... pieces, the plan with the most expected plants under the
// limits: the line from fewer and safer to more and riskier. Numbers of pieces that the
// limits do not allow are left out.
func Frontier(b Bench, l Limits) ([]Choice, error) {
	if err := b.Stem.Check(); err != nil {
		return nil, err
	}
	if err := l.Check(); err != nil {
		return nil, err
	}
	top := b.standing()
	most := l.MostPieces
	if most == 0 {
		most = top
	}
	best := b.solve(l, top, most)
	out := []Choice{}
	for k := 1; k <= most; k++ {
		stays := b.bestStart(l, top, k, best)
		if stays < 0 {
			continue
		}
		plan, err := Check(b, b.knives(best, stays, k, top))
		if err != nil {
			return nil, err
		}
		out = append(out, Choice{k, plan.KnivesMM, plan.Expected, plan.LoseAll})
	}
	return out, nil
}
