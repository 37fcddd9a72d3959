package cutplan

// Choice is the best plan for a number of pieces.
type Choice struct {
	Pieces int `json:"pieces"`
	// KnivesMM are the knives of each stem, in the order the benches were given.
	KnivesMM [][]float64 `json:"knives_mm"`
	Outlook
	// Reached is what the aim came to.
	Reached float64 `json:"reached"`
	// Surest is the mean chance of its pieces; MotherNodes how many nodes stay on the mother.
	Surest      float64 `json:"surest"`
	MotherNodes int     `json:"mother_nodes"`
	// Best says what it is better at than every other choice.
	Best []string `json:"best"`
}

// Frontier gives, for 1, 2, 3 ... pieces, the plan that serves the aim best under the limits:
// the line from fewer and safer to more and riskier. Numbers of pieces that the limits do not
// allow, and those that another beats in every way, are left out.
func Frontier(benches []Bench, l Limits, aim Aim) ([]Choice, error) {
	r, err := newSearch(benches, l, aim)
	if err != nil {
		return nil, err
	}
	out := []Choice{}
	for _, w := range r.ways() {
		c := Choice{Pieces: w.pieces, Reached: w.reached, Best: []string{}}
		all := []Piece{}
		for i, b := range benches {
			knives := w.knives(r, i)
			plan, err := Check(b, l, knives)
			if err != nil {
				return nil, err
			}
			c.KnivesMM = append(c.KnivesMM, knives)
			all = append(all, plan.Pieces...)
			c.MotherNodes += plan.MotherNodes
		}
		c.Outlook = outlook(all)
		c.Surest = c.Expected / float64(len(all))
		out = append(out, c)
	}
	return bestForSomeone(out), nil
}

// tie: two outlooks nearer than this are as good.
const tie = 1e-9

// bestForSomeone keeps the choices that no other one matches or beats both in what the aim comes to
// and in how sure each piece is, and the one that takes least from the mother; and says what each is for.
func bestForSomeone(all []Choice) []Choice {
	out := []Choice{}
	keeps := -1
	for i, c := range all {
		if keeps < 0 || c.MotherNodes > all[keeps].MotherNodes {
			keeps = i
		}
	}
	for i, c := range all {
		beaten := false
		for j, d := range all {
			better := d.Reached > c.Reached+tie || d.Surest > c.Surest+tie || j < i
			beaten = beaten || (i != j && d.Reached >= c.Reached-tie && d.Surest >= c.Surest-tie && better)
		}
		if !beaten || i == keeps {
			out = append(out, c)
		}
	}
	say := func(what string, than func(a, b Choice) bool) {
		best := 0
		for i := range out {
			if than(out[i], out[best]) {
				best = i
			}
		}
		if len(out) > 0 {
			out[best].Best = append(out[best].Best, what)
		}
	}
	say("reaches the aim best", func(a, b Choice) bool { return a.Reached > b.Reached+tie })
	say("each piece surest", func(a, b Choice) bool { return a.Surest > b.Surest+tie })
	say("least chance to lose all", func(a, b Choice) bool { return a.LoseAll < b.LoseAll-tie })
	say("the mother keeps most", func(a, b Choice) bool { return a.MotherNodes > b.MotherNodes })
	for i := range out {
		if len(out[i].Best) == 0 {
			out[i].Best = append(out[i].Best, "between: more than those with surer pieces, surer than those with more")
		}
	}
	return out
}
