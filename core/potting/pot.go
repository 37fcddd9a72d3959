package potting

import (
	"math"

	"clearjar/core/plant"
)

// Numbers of this package.
var (
	WidestFirstPot = plant.Number{Key: "potting.widest_first_pot", Label: "Widest first pot", Value: 100, Unit: "mm", Basis: plant.Practice}
	NarrowestPot   = plant.Number{Key: "potting.narrowest_pot", Label: "Narrowest pot worth using", Value: 60, Unit: "mm", Basis: plant.Assumed("below this a pot dries within a day")}
	PotStep        = plant.Number{Key: "potting.step", Label: "Step between pot widths", Value: 10, Unit: "mm", Basis: plant.Assumed("pots come in steps of about 10 mm")}
	BottomRatio    = plant.Number{Key: "potting.bottom_ratio", Label: "Bottom of a pot against its top width", Value: 0.75, Unit: "fraction", Basis: plant.Assumed("a common taper; measure yours")}
	BottomLayer    = plant.Number{Key: "potting.bottom_layer", Label: "Mix below the roots", Value: 12, Unit: "mm", Basis: plant.Practice}
	RimGap         = plant.Number{Key: "potting.rim_gap", Label: "Free rim for watering", Value: 10, Unit: "mm", Basis: plant.Assumed("room for water to stand before it soaks in")}
	DampDays       = plant.Number{Key: "potting.damp_days", Label: "Evenly damp after potting from water", Value: 14, Unit: "days", Basis: plant.Practice}
	GrownOnAfter   = plant.Number{Key: "potting.grown_on_after", Label: "A new leaf counts as grown on from this long after potting", Value: 7, Unit: "days", Basis: plant.Assumed("a leaf already unfolding when it was potted proves nothing")}
	QuarterFeed    = plant.Number{Key: "potting.feed_strength", Label: "First feed against the label", Value: 0.25, Unit: "fraction", Basis: plant.Practice}
)

// Numbers lists them for the screen.
func Numbers() []plant.Number {
	return []plant.Number{WidestFirstPot, NarrowestPot, PotStep, BottomRatio, BottomLayer, RimGap, DampDays, GrownOnAfter, QuarterFeed}
}

// Pot is a round pot, inner measures in mm.
type Pot struct {
	TopMM    float64 `json:"top_mm" minimum:"20" maximum:"500"`
	BottomMM float64 `json:"bottom_mm" minimum:"10" maximum:"500"`
	DepthMM  float64 `json:"depth_mm" minimum:"20" maximum:"500"`
}

// Check refuses measures that are no pot.
func (p Pot) Check() error {
	for _, m := range []struct {
		field string
		v     float64
	}{{"top_mm", p.TopMM}, {"bottom_mm", p.BottomMM}, {"depth_mm", p.DepthMM}} {
		if !(m.v >= 10 && m.v <= 500) {
			return plant.Refuse(m.field, "a pot measures between 10 and 500 mm")
		}
	}
	return nil
}

// FrustumML is the volume in ml of a round pot filled to heightMM above its inner bottom.
// V = pi h / 12 (D^2 + D d + d^2), D being the width at the fill height.
func (p Pot) FrustumML(heightMM float64) float64 {
	h := math.Max(0, math.Min(heightMM, p.DepthMM))
	d := p.BottomMM + (p.TopMM-p.BottomMM)*h/p.DepthMM
	return math.Pi * h / 12 * (d*d + d*p.BottomMM + p.BottomMM*p.BottomMM) / 1000
}

// Part is one ingredient of a mix and its share of the volume.
type Part struct {
	Name  string  `json:"name"`
	Parts float64 `json:"parts"`
	ML    float64 `json:"ml"`
}

// Advice is the pot for one cutting and the reasons for it.
type Advice struct {
	Pot     Pot            `json:"pot"`
	MixML   float64        `json:"mix_ml"`
	Mix     []Part         `json:"mix"`
	MixWhy  string         `json:"mix_why"`
	Reasons []string       `json:"reasons"`
	Warning string         `json:"warning,omitempty"`
	Rests   []plant.Number `json:"rests_on"`
}

// mixes gives the parts of a potting mix by the kind of roots, common practice without a source.
var mixes = map[string]struct {
	why   string
	parts []Part
}{
	"climber": {"light and chunky for climbers", []Part{{Name: "bark", Parts: 2}, {Name: "perlite", Parts: 1}, {Name: "coir or peat", Parts: 1}}},
	"fine":    {"fine and airy for fine roots", []Part{{Name: "coir or peat", Parts: 2}, {Name: "perlite", Parts: 1}}},
	"gritty":  {"gritty for succulents", []Part{{Name: "coarse grit", Parts: 2}, {Name: "coir or peat", Parts: 1}, {Name: "perlite", Parts: 1}}},
	"pitcher": {"airy, poor and lime-free for pitcher vines", []Part{{Name: "long-fibre moss", Parts: 2}, {Name: "perlite", Parts: 1}}},
}

func mixFor(group string) string {
	switch group {
	case "sword_succulent", "rosette_succulent", "heart_vine":
		return "gritty"
	case "peperomia", "gesneriad", "begonia", "prayer_plant", "butterwort", "ivy", "soft_shrub", "runner_former":
		return "fine"
	case "pitcher_vine":
		return "pitcher"
	}
	return "climber"
}

// Suggest gives the first pot for a cutting whose longest root is longestMM (0 when unknown).
//
// The pot is as wide as the longest root is long, so that a root laid outward and
// down just reaches the wall; never above the widest first pot.
func Suggest(group plant.Group, longestMM float64) (Advice, error) {
	if math.IsNaN(longestMM) || longestMM < 0 || longestMM > plant.MostRootMM {
		return Advice{}, plant.Refuse("longest_mm", "between 0 and %g mm", plant.MostRootMM)
	}
	step := PotStep.Value
	width := math.Ceil(longestMM/step) * step
	width = math.Min(math.Max(width, NarrowestPot.Value), WidestFirstPot.Value)
	pot := Pot{TopMM: width, BottomMM: width * BottomRatio.Value, DepthMM: width}
	a := Advice{Pot: pot, MixML: pot.FrustumML(pot.DepthMM - RimGap.Value), Rests: Numbers()}
	switch {
	case longestMM == 0:
		a.Reasons = append(a.Reasons, "No root length is known, so the smallest pot.")
	case longestMM > WidestFirstPot.Value:
		a.Warning = "The longest root is longer than the widest first pot: lay it in a curve, do not cut it. Never take off more than a fifth of the roots."
		fallthrough
	default:
		a.Reasons = append(a.Reasons, "As wide as the longest root is long, at most 100 mm: a pot far larger than the roots stays wet and rots them.")
	}
	a.Reasons = append(a.Reasons, "Drainage holes always. Plastic holds moisture longer than clay, which suits roots grown in water.")
	kind := mixes[mixFor(group.Key)]
	a.MixWhy = kind.why
	total := 0.0
	for _, p := range kind.parts {
		total += p.Parts
	}
	for _, p := range kind.parts {
		p.ML = a.MixML * p.Parts / total
		a.Mix = append(a.Mix, p)
	}
	return a, nil
}
