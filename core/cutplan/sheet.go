package cutplan

import (
	"fmt"
	"math"
	"sort"

	"clearjar/core/plant"
	"clearjar/core/stats"
)

// Sheet is the numbers a plan is worked out with: the starting values, with what the grower
// put in their place. The zero Sheet holds the starting values.
type Sheet struct{ changed map[string]plant.Number }

// Change puts a value in place of a starting value.
type Change struct {
	Key   string  `json:"key"`
	Value float64 `json:"value"`
	// Won and Tried are the records the value rests on; Tried 0 when the grower chose it.
	Won   int `json:"won,omitempty"`
	Tried int `json:"tried,omitempty"`
}

// With gives the sheet with the changes applied. A key that is not on the sheet, or a value
// that cannot be what it stands for, is refused.
func (s Sheet) With(changes ...Change) (Sheet, error) {
	out := Sheet{changed: map[string]plant.Number{}}
	for k, n := range s.changed {
		out.changed[k] = n
	}
	for i, c := range changes {
		start, ok := starting[c.Key]
		if !ok {
			return Sheet{}, plant.Refuse(fmt.Sprintf("changes[%d].key", i), "%q is not a number of the planner", c.Key)
		}
		if err := inRange(start, c.Value); err != nil {
			return Sheet{}, plant.Refuse(fmt.Sprintf("changes[%d].value", i), "%s", err)
		}
		n := start
		n.Value = c.Value
		n.Basis = plant.Basis{Kind: plant.YourChoice, Source: fmt.Sprintf("in place of %.3g", start.Value)}
		if c.Tried > 0 {
			n.Basis = plant.Basis{Kind: plant.YourRecords, Source: fmt.Sprintf("n = %d, %d woke; the starting value %.3g weighs as much as %.0f records", c.Tried, c.Won, start.Value, s.value(PriorWeight))}
		}
		out.changed[c.Key] = n
	}
	return out, nil
}

func inRange(n plant.Number, v float64) error {
	low, high := 0.0, 1.0
	switch n.Unit {
	case "odds ratio":
		low, high = 0.01, 100
	case "mm":
		low, high = 0, 200
	case "worth":
		low, high = 0, 1000
	case "nodes", "days", "records", "hours":
		low, high = 0, 365
	}
	if math.IsNaN(v) || v < low || v > high {
		return fmt.Errorf("%s lies between %g and %g", n.Label, low, high)
	}
	return nil
}

// FromRecords is a starting chance with records in its place: a beta distribution that starts
// out weighing as many records as the sheet says, [PriorWeight].
func (s Sheet) FromRecords(key string, won, tried int) (Change, error) {
	start, ok := starting[key]
	if !ok || start.Unit != "fraction" {
		return Change{}, plant.Refuse("key", "%q is not a chance", key)
	}
	if won < 0 || tried < 1 || won > tried {
		return Change{}, plant.Refuse("tried", "records need at least one try, and not more successes than tries")
	}
	return Change{key, stats.Believe(start.Value, s.value(PriorWeight)).Saw(won, tried).Mean(), won, tried}, nil
}

// Known tells whether a key is a number of the planner.
func Known(key string) bool { _, ok := starting[key]; return ok }

// At is the number in use under a key.
func (s Sheet) At(key string) plant.Number {
	if n, ok := s.changed[key]; ok {
		return n
	}
	return starting[key]
}

func (s Sheet) value(n plant.Number) float64 { return s.At(n.Key).Value }

// Numbers lists every number in use, in the order of the tables.
func (s Sheet) Numbers() []plant.Number {
	out := Numbers()
	for i, n := range out {
		out[i] = s.At(n.Key)
	}
	return out
}

// starting is every number of the package by its key.
var starting = func() map[string]plant.Number {
	m := map[string]plant.Number{}
	for _, n := range Numbers() {
		m[n.Key] = n
	}
	return m
}()

// BaselineKey is the key of the chance that one set node of the group wakes in the medium.
func BaselineKey(group string, m plant.Medium) string { return "wake." + group + "." + string(m) }

// Baselines are the chances that one set node with a leaf roots and shoots, by growth group
// and medium, in the bright half of the year.
func Baselines() []plant.Number {
	out := []plant.Number{}
	for _, g := range plant.Groups() {
		for i, m := range []plant.Medium{plant.Water, plant.Moss, plant.Perlite, plant.Mix} {
			basis := wakeBasis
			if !g.Suits(m) {
				basis = plant.Assumed("not a medium the group is usually rooted in; a guess")
			}
			out = append(out, plant.Number{
				Key: BaselineKey(g.Key, m), Label: fmt.Sprintf("One node of %s in %s", plant.Lower(g.Name), m),
				Value: wake[g.Key][i], Unit: "fraction", Basis: basis,
			})
		}
	}
	return out
}

var wakeBasis = plant.Assumed("set so that two nodes give the success growers quote for the group; your records can replace it")

// wake is the table of [Baselines]: water, moss, perlite, mix.
var wake = map[string][4]float64{
	"soft_climber":      {0.92, 0.90, 0.80, 0.85},
	"thick_climber":     {0.65, 0.65, 0.60, 0.45},
	"velvet_climber":    {0.45, 0.65, 0.60, 0.40},
	"creeping_rhizome":  {0.40, 0.62, 0.60, 0.45},
	"wax_vine":          {0.70, 0.68, 0.65, 0.55},
	"cissus_kin":        {0.90, 0.75, 0.65, 0.85},
	"prayer_plant":      {0.55, 0.50, 0.50, 0.65},
	"pitcher_vine":      {0.35, 0.62, 0.66, 0.40},
	"butterwort":        {0.20, 0.75, 0.50, 0.30},
	"peperomia":         {0.50, 0.70, 0.60, 0.60},
	"gesneriad":         {0.60, 0.55, 0.55, 0.75},
	"sword_succulent":   {0.55, 0.40, 0.50, 0.65},
	"rosette_succulent": {0.20, 0.30, 0.50, 0.65},
	"heart_vine":        {0.60, 0.60, 0.60, 0.70},
	"begonia":           {0.65, 0.68, 0.60, 0.55},
	"ivy":               {0.62, 0.55, 0.50, 0.65},
	"clump_former":      {0.30, 0.40, 0.40, 0.50},
	"runner_former":     {0.40, 0.60, 0.55, 0.65},
	"soft_shrub":        {0.45, 0.40, 0.50, 0.60},
}

// Changed lists the keys whose value is not the starting one, sorted.
func (s Sheet) Changed() []string {
	keys := []string{}
	for k := range s.changed {
		keys = append(keys, k)
	}
	sort.Strings(keys)
	return keys
}
