package cutplan

import "clearjar/core/plant"

// Trial is what one cutting has shown.
type Trial struct {
	Group  string
	Medium plant.Medium
	// Set is how many nodes were in the medium, from the base up.
	Set   int
	Looks []plant.Look
	// Established says that it has grown on after potting: it rooted, whether anyone counted or not.
	Established bool
	// Decided says that its fate is known: potted, given away, established or lost.
	Decided bool
}

// Record is how many set nodes rooted, of how many.
type Record struct {
	Won   int
	Tried int
}

// Records counts trials for each baseline of the sheet. Cuttings that are still standing would
// count only their successes, and are left out.
func Records(trials []Trial) map[string]Record {
	out := map[string]Record{}
	for _, t := range trials {
		if !t.Decided || t.Set < 1 {
			continue
		}
		key := BaselineKey(t.Group, t.Medium)
		r := out[key]
		won, tried := t.rooted()
		out[key] = Record{r.Won + won, r.Tried + tried}
	}
	return out
}

// RootFromMM is the length from which a first-order root counts.
var RootFromMM = number("root_from", "A node has rooted with a root of", 5, "mm", plant.Practice)

// rooted is how many set nodes rooted, of how many. Where roots were counted each set node is a try: one
// with a first-order root of [RootFromMM] has rooted. Where they never were, as in moss or mix, the
// piece is one try: a tug that held, or having grown on, says that it rooted.
func (t Trial) rooted() (won, tried int) {
	nodes, counted, held := map[int]bool{}, false, t.Established
	for _, l := range t.Looks {
		counted = counted || l.RootsCounted
		held = held || l.Tug == "holds"
		for _, r := range l.Roots {
			if r.Node >= 1 && r.Node <= t.Set && r.Order == 1 && r.LengthMM >= RootFromMM.Value {
				nodes[r.Node] = true
			}
		}
	}
	switch {
	case counted && len(nodes) == 0 && held:
		return 1, 1 // it rooted after the last count
	case counted:
		return len(nodes), t.Set
	case held:
		return 1, 1
	}
	return 0, 1
}
