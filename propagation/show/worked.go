package show

import (
	"context"
	"time"

	"clearjar/core/plant"
	"clearjar/core/readiness"
	"clearjar/propagation"
)

// Worked is one cutting worked through: what was seen of it, and what follows, by the numbers of the household.
type Worked struct {
	Group    string     `json:"group"`
	School   string     `json:"school"`
	SetOn    time.Time  `json:"set_on"`
	Looks    []WorkedOn `json:"looks"`
	Foreseen Foreseen   `json:"foreseen"`
}

// WorkedOn is a day of it: what was seen, and what was expected then.
type WorkedOn struct {
	On     time.Time  `json:"on"`
	Seen   string     `json:"seen"`
	Ready  float64    `json:"ready"`
	First  *time.Time `json:"first,omitempty"`
	Middle *time.Time `json:"middle,omitempty"`
	Last   *time.Time `json:"last,omitempty"`
}

// workedSeen is what is seen of the piece that is worked through: days since setting, roots in mm on nodes, the bud, and words.
var workedSeen = []struct {
	day   int
	roots []plant.Root
	bud   plant.Bud
	says  string
}{
	{0, nil, "", "set with two nodes in water, at 24 degrees C"},
	{14, []plant.Root{{Node: 1, Order: 1, LengthMM: 6, LowMM: 5, HighMM: 7, How: plant.Traced}}, plant.BudDormant, "one root of 6 mm, the bud asleep"},
	{21, []plant.Root{{Node: 1, Order: 1, LengthMM: 24, LowMM: 22, HighMM: 26, How: plant.Traced}, {Node: 2, Order: 1, LengthMM: 14, LowMM: 13, HighMM: 15, How: plant.Traced}, {Node: 2, Order: 1, LengthMM: 9, LowMM: 8, HighMM: 10, How: plant.Traced}}, plant.BudSwelling, "three roots, the longest 24 mm, on both nodes; the bud swells"},
}

// WorkedThrough works a soft climber through that was set in the bright half of the year.
func WorkedThrough(ctx context.Context, g *propagation.Garden) (Worked, error) {
	numbers, err := g.Numbers(ctx)
	if err != nil {
		return Worked{}, err
	}
	group := plant.Groups()[0]
	school, _ := plant.SchoolNamed(plant.FullRoots)
	set := time.Date(g.Today().Year(), time.May, 1, 12, 0, 0, 0, g.Zone)
	out := Worked{Group: group.Name, School: school.Label, SetOn: set, Looks: []WorkedOn{}}
	e := readiness.Evidence{Group: group, Kind: plant.StemCutting, Medium: plant.Water, SetOn: set, SetNodes: 2, TemperatureC: 24, Numbers: numbers, Looks: []readiness.LookOn{}}
	for _, w := range workedSeen {
		on := set.AddDate(0, 0, w.day)
		e.Today = on
		if w.day > 0 {
			e.Looks = append(e.Looks, readiness.LookOn{On: on, Look: plant.Look{RootsCounted: true, Roots: w.roots, Stem: "firm", Buds: []plant.BudAt{{Node: 1, Bud: w.bud}}}})
		}
		f := foreseen(readiness.Expect(e), e, school.Key)
		out.Looks = append(out.Looks, WorkedOn{on, w.says, f.Ready, f.First, f.Middle, f.Last})
		out.Foreseen = *f
	}
	return out, nil
}
