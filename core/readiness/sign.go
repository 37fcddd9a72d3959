package readiness

import (
	"slices"
	"time"

	"clearjar/core/plant"
)

// Sign is something that was seen and asks for an act and an answer.
type Sign struct {
	// Seen is what: a state of the water or medium, or a leaf that dropped.
	Seen string
	On   time.Time
	// Ask is what has to be looked at then.
	Ask Criterion
}

// leafDropped is the sign that is none of the water.
const leafDropped = "leaf_dropped"

// waterSigns are the states of water, moss or mix that ask for an act, with how a plant is kept for which they
// do: a dry medium is no sign where it is kept dry.
var waterSigns = map[string][]plant.Keeping{
	"smells": {plant.Damp, plant.Dry},
	"cloudy": {plant.Damp, plant.Dry},
	"dry":    {plant.Damp},
	"soaked": {plant.Damp, plant.Dry},
}

// sign finds what was seen last and has not been answered: foul water, a dry or soaked medium, a leaf that dropped.
func (s state) sign() *Sign {
	recent := func(on time.Time) bool { return plant.Days(on, s.Today) <= int(s.of(SignalDays)) }
	if s.water.known && recent(s.water.on) && slices.Contains(waterSigns[s.water.value], s.Group.Keeping) {
		return &Sign{s.water.value, s.water.on, MediumState}
	}
	if s.leaf.known && s.leaf.value == "dropped" && recent(s.leaf.on) && (!s.stem.known || s.stem.on.Before(s.leaf.on)) {
		return &Sign{leafDropped, s.leaf.on, Body}
	}
	return nil
}
