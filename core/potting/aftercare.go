package potting

import (
	"fmt"
	"slices"
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
	// Done: somebody saw to it.
	Done bool `json:"done"`
}

// Weeks are the weeks after potting: what is to be done when, until when droop is shock, and what is not normal.
type Weeks struct {
	Steps []Step `json:"steps"`
	// ShockUntil is the day to which yellowing and droop count as shock.
	ShockUntil time.Time `json:"shock_until"`
	NotNormal  string    `json:"not_normal"`
}

// course is the weeks after potting for the pieces it holds for: empty lists hold for all. The first
// that holds is taken. Common practice, no source.
type course struct {
	keepings []plant.Keeping
	poses    []plant.Pose
	// single: only what stands in a pot of its own; moved: only what stood in a pot before.
	single, moved bool
	from          []plant.Medium
	steps         []Step
}

const (
	fromWater = "Mix evenly damp? Water-grown roots dry out in a day: do not let it dry once in these %d days."
	fromOther = "Mix evenly damp? Top just dry before watering again."
	shock     = "Some yellowing or droop is shock: remove spent leaves, do not feed, do not repot."
	feed      = "A new leaf since potting? Then it is established: feed at a quarter of the label strength."
	dryCheck  = "Is about 80 % of the mix dry? Only then water, sparingly."
	light     = " New leaves pale, or plain on a patterned plant: more light."
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
			{Day: 45, Text: "New growth? Then it is established. Feed at a quarter of the label strength, in growth only." + light},
		}},
		{moved: true, steps: []Step{
			{Day: 0, Text: "Water until it drains. Do not feed for three weeks: there is food in the mix."},
			{Day: 4, Text: "Top dry? Then water. Some droop after moving on is shock."},
			{Day: 10, Text: "Top dry? Then water. The wider pot stays wet longer than the old one."},
			{Day: 21, Text: "Growing on? Feed as before, a quarter of the label strength at first." + light},
		}},
		{single: true, steps: []Step{
			{Day: 0, Text: "Water well until it drains. Bright, no direct sun. Do not feed."},
			{Day: 3, Text: shock},
			{Day: 7, Text: "Top dry? Then water until it drains. Steady it when it rocks."},
			{Day: 14, Text: "Top dry? Then water. Spoilt leaves off."},
			{Day: 35, Text: feed + light},
		}},
		{poses: []plant.Pose{plant.Crown}, steps: []Step{
			{Day: 0, Text: "Water until it drains, then cover it: a young plant wants humid air. Bright, no direct sun. Do not feed."},
			{Day: 3, Text: "Mix evenly damp? Its fine roots dry out in a day."},
			{Day: 7, Text: shock + " Still damp?"},
			{Day: 14, Text: "Does it stand firm? Then the cover ajar by day."},
			{Day: 21, Text: "No leaf droops? Then the cover off for good."},
			{Day: 35, Text: feed + light},
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
		{Day: 35, Text: feed + light},
	}
}

// notNormal is what asks for an act, by how a group is kept.
var notNormal = map[plant.Keeping]string{
	plant.Damp: "Not normal: a soft or brown base, a bad smell, droop that stays after the shock, or all leaves going at once. Unpot it and look.",
	plant.Dry:  "Not normal: soft or glassy leaves, or a soft base. That is too much water: unpot it and look.",
}

func holds[T comparable](list []T, v T) bool {
	for _, have := range list {
		if have == v {
			return true
		}
	}
	return len(list) == 0
}

// Planted is a plant in a pot as its weeks after potting go by it: what it is, the medium it rooted in (empty when it came with roots),
// and whether it stood in a pot before. On is the day of the pot, Today the day it is looked at.
type Planted struct {
	Group     plant.Group
	Kind      plant.PieceKind
	From      plant.Medium
	Moved     bool
	On, Today time.Time
	// Visits are when somebody saw to it since.
	Visits []time.Time
}

// Aftercare gives the weeks after potting, by how the group is kept, the kind of piece and the medium it rooted in.
func Aftercare(t number.Table, p Planted) Weeks {
	w := Weeks{Steps: []Step{}, ShockUntil: p.On.AddDate(0, 0, t.Int(DampDays)), NotNormal: notNormal[p.Group.Keeping]}
	row := p.Kind.Row()
	for _, c := range courses(t) {
		if !holds(c.keepings, p.Group.Keeping) || !holds(c.poses, row.Pose) || !holds(c.from, p.From) || c.single && !row.Single || c.moved && !p.Moved {
			continue
		}
		w.Steps = append(w.Steps, c.steps...)
		break
	}
	slices.SortStableFunc(w.Steps, func(a, b Step) int { return a.Day - b.Day })
	for i := range w.Steps {
		s := &w.Steps[i]
		s.On = p.On.AddDate(0, 0, s.Day)
		s.Past = plant.Days(s.On, p.Today) > 0
		s.Done = s.Day == 0 // it was watered in as it was potted
		for _, v := range p.Visits {
			s.Done = s.Done || plant.Days(s.On, v) >= 0
		}
	}
	return w
}

// Due is the step that waits to be seen to: the latest whose day has come; an earlier one that was missed asks no more. Nil for none.
func (w Weeks) Due(today time.Time) *Step {
	for i := len(w.Steps) - 1; i >= 0; i-- {
		if plant.Days(w.Steps[i].On, today) >= 0 {
			if w.Steps[i].Done {
				return nil
			}
			return &w.Steps[i]
		}
	}
	return nil
}

// Next is the first step whose day is still to come; nil when none is.
func (w Weeks) Next(today time.Time) *Step {
	for i := range w.Steps {
		if plant.Days(today, w.Steps[i].On) > 0 {
			return &w.Steps[i]
		}
	}
	return nil
}
