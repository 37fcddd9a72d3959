package cutplan

import "clearjar/core/plant"

// Trial is what one cutting has shown.
type Trial struct {
	Group  string
	Medium plant.Medium
	// Set is how many nodes were in the medium, from the base up.
	Set   int
	Looks []plant.Look
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
		out[key] = Record{r.Won + t.rooted(), r.Tried + t.Set}
	}
	return out
}

// rooted counts the set nodes that have, or had, a root.
func (t Trial) rooted() int {
	nodes := map[int]bool{}
	for _, l := range t.Looks {
		for _, r := range l.Roots {
			if r.Node >= 1 && r.Node <= t.Set {
				nodes[r.Node] = true
			}
		}
	}
	return len(nodes)
}
