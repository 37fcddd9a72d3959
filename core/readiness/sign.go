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

// waterSigns are the states of water, moss or mix that ask for an act, with how a plant is kept for which they do: a dry medium is no
// sign where it is kept dry; and the acts that answer them.
var waterSigns = map[string]struct {
	keepings []plant.Keeping
	answers  []plant.Act
}{
	"smells": {[]plant.Keeping{plant.Damp, plant.Dry}, []plant.Act{plant.ChangeWater, plant.ClearOut}},
	"cloudy": {[]plant.Keeping{plant.Damp, plant.Dry}, []plant.Act{plant.ChangeWater}},
	"dry":    {[]plant.Keeping{plant.Damp}, []plant.Act{plant.GiveWater, plant.MistLeaves, plant.TopUp}},
	"soaked": {[]plant.Keeping{plant.Damp, plant.Dry}, []plant.Act{plant.AirIt, plant.ClearOut}},
}

// answered: what a sign asks for was done since.
func (s state) answered(by []plant.Act, since time.Time) bool {
	return slices.ContainsFunc(s.Care, func(c Care) bool { return slices.Contains(by, c.Act) && !c.On.Before(since) && !c.On.After(s.Today) })
}

// sign finds what was seen last and has not been answered: foul water, a dry or soaked medium, a leaf that dropped.
func (s state) sign() *Sign {
	recent := func(on time.Time) bool { return plant.Days(on, s.Today) <= int(s.of(SignalDays)) }
	if w := waterSigns[s.water.value]; s.water.known && recent(s.water.on) && slices.Contains(w.keepings, s.Group.Keeping) && !s.answered(w.answers, s.water.on) {
		return &Sign{s.water.value, s.water.on, MediumState}
	}
	if s.leaf.known && s.leaf.value == "dropped" && recent(s.leaf.on) && (!s.stem.known || s.stem.on.Before(s.leaf.on)) {
		return &Sign{leafDropped, s.leaf.on, Body}
	}
	return nil
}
