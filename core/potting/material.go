package potting

import (
	"fmt"

	"clearjar/core/number"
	"clearjar/core/plant"
)

// Material is what a pot is made of.
type Material string

// The materials of pots; empty is plastic.
const (
	Plastic Material = "plastic"
	Clay    Material = "clay"
	Net     Material = "net"
)

// ClayDries and NetDries say how much sooner than in plastic the mix is dry.
var (
	ClayDries = number.Define(plant.Number{Key: "potting.clay_dries", Label: "Clay dries out sooner than plastic by", Value: 1.6, Low: 1, High: 5, Unit: "times", Basis: plant.Assumed("growers say sooner; how much is ours")})
	NetDries  = number.Define(plant.Number{Key: "potting.net_dries", Label: "A net pot or basket dries out sooner than plastic by", Value: 2.2, Low: 1, High: 8, Unit: "times", Basis: plant.Assumed("air on all sides; how much is ours")})
)

// MaterialRow is one material with what differs between them.
type MaterialRow struct {
	Key   Material `json:"key" enum:"plastic,clay,net"`
	Label string   `json:"label"`
	// Dries is how many times as fast as in plastic the mix dries out.
	Dries float64 `json:"dries"`
	Says  string  `json:"says"`
}

// Materials is the table of materials by the numbers in use.
func Materials(t number.Table) []MaterialRow {
	sooner := func(n plant.Number) string {
		return fmt.Sprintf("It dries out about %.1f times as fast as plastic: look that much sooner.", t.Of(n))
	}
	return []MaterialRow{
		{Plastic, "plastic", 1, "Plastic holds moisture longest, which suits roots grown in water."},
		{Clay, "clay", t.Of(ClayDries), sooner(ClayDries)},
		{Net, "net or basket", t.Of(NetDries), sooner(NetDries)},
	}
}

// Row finds the table row of a material; empty is plastic.
func (m Material) Row(t number.Table) (MaterialRow, bool) {
	all := Materials(t)
	if m == "" {
		return all[0], true
	}
	for _, r := range all {
		if r.Key == m {
			return r, true
		}
	}
	return all[0], false
}

// cautions say what speaks against a pot of such a make for plants that are kept so, by the medium they rooted in.
func (p Pot) cautions(t number.Table, keeping plant.Keeping, from plant.Medium) []string {
	out := []string{}
	row, _ := p.Material.Row(t)
	if row.Dries > 1 && keeping == plant.Damp && from.Row().Liquid {
		out = append(out, "Roots grown in water dry out in a day. "+row.Says)
	}
	if row.Dries <= 1 && keeping == plant.Dry {
		out = append(out, "Plastic stays wet longer, and these are kept dry: water even less.")
	}
	if p.Closed {
		out = append(out, "No hole in the bottom: water sparingly, and tip out what stands. Watering too often kills, not watering well. A hole melted with a hot iron: outdoors, and do not breathe the fumes.")
	}
	return out
}
