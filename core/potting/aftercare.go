package potting

import (
	"time"

	"clearjar/core/plant"
)

// Step is one thing to do on or from a day after potting.
type Step struct {
	Day  int       `json:"day"`
	On   time.Time `json:"on"`
	Text string    `json:"text"`
	Past bool      `json:"past"`
}

// Aftercare gives the dated steps of the weeks after potting. today marks what is past.
func Aftercare(pottedOn, today time.Time, from plant.Medium) []Step {
	first := "Water until it drains. Humid and bright, no direct sun. Do not feed."
	damp := "Mix evenly damp? Water-grown roots dry out in a day: do not let it dry once in these 14 days."
	if from != plant.Water {
		damp = "Mix evenly damp? Top just dry before watering again."
	}
	steps := []Step{
		{Day: 0, Text: first},
		{Day: 2, Text: damp},
		{Day: 4, Text: damp},
		{Day: 7, Text: "Some yellowing or droop is shock: remove spent leaves, do not feed, do not repot. Still damp?"},
		{Day: 10, Text: damp},
		{Day: int(DampDays.Value), Text: "Ease to normal watering. From here lower the humidity in steps: lid ajar, then off, 3 to 4 weeks."},
		{Day: 35, Text: "A new leaf since potting? Then it is established: feed at a quarter of the label strength."},
	}
	for i := range steps {
		steps[i].On = pottedOn.AddDate(0, 0, steps[i].Day)
		steps[i].Past = plant.Days(steps[i].On, today) > 0
	}
	return steps
}
