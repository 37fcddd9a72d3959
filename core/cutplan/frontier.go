package cutplan

// Choice is the best plan for a number of pieces.
type Choice struct {
	Pieces int `json:"pieces"`
	// KnivesMM are the knives of each stem, in the order the benches were given.
	KnivesMM [][]float64 `json:"knives_mm"`
	Outlook
	// Reached is what the aim came to.
	Reached float64 `json:"reached"`
}

// Frontier gives, for 1, 2, 3 ... pieces, the plan that serves the aim best under the limits:
// the line from fewer and safer to more and riskier. Numbers of pieces that the limits do not
// allow are left out.
func Frontier(benches []Bench, l Limits, aim Aim) ([]Choice, error) {
	r, err := newSearch(benches, l, aim)
	if err != nil {
		return nil, err
	}
	out := []Choice{}
	for _, w := range r.ways() {
		c := Choice{Pieces: w.pieces, Reached: w.reached}
		all := []Piece{}
		for i, b := range benches {
			knives := w.knives(r, i)
			plan, err := Check(b, l, knives)
			if err != nil {
				return nil, err
			}
			c.KnivesMM = append(c.KnivesMM, knives)
			all = append(all, plan.Pieces...)
		}
		c.Outlook = outlook(all)
		out = append(out, c)
	}
	return out, nil
}
