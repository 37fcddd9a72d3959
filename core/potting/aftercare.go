package potting

import (
	"fmt"
	"time"

	"clearjar/core/number"
	"clearjar/core/plant"
)

// Step is one thing to do on or from a day after potting.
type Step struct {
	Day  int       `json:"day"`
	On   time.Time `json:"on"`
	Text string    `json:"text"`
	Past bool      `json:"past"`
}

// course is the weeks after potting for the pieces it holds for: empty lists hold for all. The first
// that holds is taken. Common practice, no source.
type course struct {
	keepings []plant.Keeping
	poses    []plant.Pose
	from     []plant.Medium
	steps    []Step
}

const (
	fromWater = "Mix evenly damp? Water-grown roots dry out in a day: do not let it dry once in these %d days."
	fromOther = "Mix evenly damp? Top just dry before watering again."
	shock     = "Some yellowing or droop is shock: remove spent leaves, do not feed, do not repot."
	feed      = "A new leaf since potting? Then it is established: feed at a quarter of the label strength."
	dryCheck  = "Is about 80 % of the mix dry? Only then water, sparingly."
)

// courses are tried in order.
func courses(t number.Table) []course {
	return []course{
		{keepings: []plant.Keeping{plant.Dry}, steps: []Step{
			{Day: 0, Text: "Into dry, gritty mix. Do not water yet, do not cover. Bright, no hot sun at first."},
			{Day: 2, Text: "First water, sparingly."},
			{Day: 9, Text: dryCheck},
			{Day: 16, Text: dryCheck},
			{Day: 30, Text: dryCheck + " Soft or glassy leaves are too much water: unpot and look."},
			{Day: 45, Text: "New growth? Then it is established. Feed at a quarter of the label strength, in growth only."},
		}},
		{poses: []plant.Pose{plant.Crown}, steps: []Step{
			{Day: 0, Text: "Water well until it drains. Bright, no direct sun. Do not feed."},
			{Day: 3, Text: shock},
			{Day: 7, Text: "Top dry? Then water until it drains. Steady it when it rocks."},
			{Day: 14, Text: "Top dry? Then water. Spoilt leaves off."},
			{Day: 35, Text: feed},
		}},
		{from: []plant.Medium{plant.Water}, steps: damp(t, fmt.Sprintf(fromWater, t.Int(DampDays)))},
		{steps: damp(t, fromOther)},
	}
}

// damp is the course of what is kept evenly damp.
func damp(t number.Table, check string) []Step {
	return []Step{
		{Day: 0, Text: "Water until it drains. Humid and bright, no direct sun. Do not feed."},
		{Day: 2, Text: check},
		{Day: 4, Text: check},
		{Day: 7, Text: shock + " Still damp?"},
		{Day: 10, Text: check},
		{Day: t.Int(DampDays), Text: "Ease to normal watering. From here lower the humidity in steps: lid ajar, then off, 3 to 4 weeks."},
		{Day: 35, Text: feed},
	}
}

func holds[T comparable](list []T, v T) bool {
	for _, have := range list {
		if have == v {
			return true
		}
	}
	return len(list) == 0
}

// Aftercare gives the dated steps of the weeks after potting, by how the group is kept, the kind of
// piece and the medium it rooted in. today marks what is past.
func Aftercare(t number.Table, pottedOn, today time.Time, group plant.Group, kind plant.PieceKind, from plant.Medium) []Step {
	for _, c := range courses(t) {
		if !holds(c.keepings, group.Keeping) || !holds(c.poses, kind.Row().Pose) || !holds(c.from, from) {
			continue
		}
		steps := append([]Step{}, c.steps...)
		for i := range steps {
			steps[i].On = pottedOn.AddDate(0, 0, steps[i].Day)
			steps[i].Past = plant.Days(steps[i].On, today) > 0
		}
		return steps
	}
	return []Step{}
}
