package cutplan

import "clearjar/core/plant"

// Trial is what one cutting whose fate is known has shown of the nodes that were set: see [clearjar/core/life].
type Trial struct {
	Group  string
	Medium plant.Medium
	Record
}

// Record is how many set nodes grew on, of how many.
type Record struct {
	Won   int
	Tried int
}

// Records counts trials for each baseline of the sheet.
func Records(trials []Trial) map[string]Record {
	out := map[string]Record{}
	for _, t := range trials {
		key := BaselineKey(t.Group, t.Medium)
		r := out[key]
		out[key] = Record{r.Won + t.Won, r.Tried + t.Tried}
	}
	return out
}
