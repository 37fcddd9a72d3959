package potting

import (
	"fmt"
	"math"

	"clearjar/core/number"
	"clearjar/core/plant"
	"clearjar/core/solution"
)

// Numbers of this package.
var (
	WidestFirstPot = number.Define(plant.Number{Key: "potting.widest_first_pot", Label: "Widest first pot", Value: 100, Low: 30, High: 500, Unit: "mm", Basis: plant.Practice})
	NarrowestPot   = number.Define(plant.Number{Key: "potting.narrowest_pot", Label: "Narrowest pot worth using", Value: 60, Low: 20, High: 500, Unit: "mm", Basis: plant.Assumed("below this a pot dries within a day")})
	WidestPot      = number.Define(plant.Number{Key: "potting.widest_pot", Label: "Widest pot for a division", Value: 400, Low: 30, High: 500, Unit: "mm", Basis: plant.Assumed("wider is a tub")})
	DeepestPot     = number.Define(plant.Number{Key: "potting.deepest_pot", Label: "Deepest pot for a division", Value: 300, Low: 20, High: 500, Unit: "mm", Basis: plant.Assumed("roots of a clump run outward as much as down")})
	PotStep        = number.Define(plant.Number{Key: "potting.step", Label: "Step between pot widths", Value: 10, Low: 1, High: 100, Unit: "mm", Basis: plant.Assumed("pots come in steps of about 10 mm")})
	BottomRatio    = number.Define(plant.Number{Key: "potting.bottom_ratio", Label: "Bottom of a pot against its top width", Value: 0.75, Low: 0.3, High: 1, Unit: "fraction", Basis: plant.Assumed("a common taper; measure yours")})
	BottomLayer    = number.Define(plant.Number{Key: "potting.bottom_layer", Label: "Mix below the roots", Value: 12, Unit: "mm", Basis: plant.Practice})
	RimGap         = number.Define(plant.Number{Key: "potting.rim_gap", Label: "Free rim for watering", Value: 10, Low: 0, High: 15, Unit: "mm", Basis: plant.Assumed("room for water to stand before it soaks in")})
	DampDays       = number.Define(plant.Number{Key: "potting.damp_days", Label: "Evenly damp after potting from water", Value: 14, Unit: "days", Basis: plant.Practice})
	QuarterFeed    = number.Define(plant.Number{Key: "potting.feed_strength", Label: "First feed against the label", Value: 0.25, Unit: "fraction", Basis: plant.Practice})
)

// Numbers lists them for the screen.
func Numbers() []plant.Number {
	own := []plant.Number{
		WidestFirstPot, NarrowestPot, WidestPot, DeepestPot, PotStep, BottomRatio, BottomLayer, RimGap, DampDays, QuarterFeed, LikeWithLike, MostInPot, PotOfThree, PotOfFive,
		FromRim, Settling, ClayDries, NetDries, StakeFrom, RootRoom, Wider, NeverWider, StemsApart, RootsOffUsual, RootsOffMost,
	}
	return append(own, mixNumbers()...)
}

// rests are the numbers in use.
func rests(t number.Table) []plant.Number {
	out := Numbers()
	for i, n := range out {
		out[i] = t.Now(n)
	}
	return out
}

// MixML is how much mix a pot takes below its free rim, in ml.
func (p Pot) MixML(t number.Table) float64 { return p.FrustumML(p.DepthMM - t.Of(RimGap)) }

// Pot is a round pot, inner measures in mm.
type Pot struct {
	TopMM    float64 `json:"top_mm" minimum:"20" maximum:"500"`
	BottomMM float64 `json:"bottom_mm" minimum:"10" maximum:"500"`
	DepthMM  float64 `json:"depth_mm" minimum:"20" maximum:"500"`
	// Material is what it is made of, empty for plastic; Closed says that it has no hole in its bottom.
	Material Material `json:"material,omitempty" enum:"plastic,clay,net"`
	Closed   bool     `json:"closed,omitempty"`
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
	if _, known := p.Material.Row(number.Table{}); !known {
		return plant.Refuse("material", "%q is not plastic, clay or net", p.Material)
	}
	return nil
}

// FrustumML is the volume in ml of a round pot filled to heightMM above its inner bottom, see [solution.Container];
// 0 for a pot without sizes.
func (p Pot) FrustumML(heightMM float64) float64 {
	ml, err := solution.Container{TopMM: p.TopMM, BottomMM: p.BottomMM, HeightMM: p.DepthMM}.VolumeML(math.Max(0, heightMM))
	if err != nil {
		return 0
	}
	return ml
}

// Advice is the pot for one cutting and the reasons for it.
type Advice struct {
	Pot     Pot      `json:"pot"`
	MixML   float64  `json:"mix_ml"`
	Mix     []Part   `json:"mix"`
	MixWhy  string   `json:"mix_why"`
	Reasons []string `json:"reasons"`
	// How says how it is potted.
	How     string         `json:"how"`
	Warning string         `json:"warning,omitempty"`
	Rests   []plant.Number `json:"rests_on"`
}

// Suggest gives the first pot for a cutting whose longest root is longestMM (0 when unknown).
//
// The pot is as wide as the longest root is long, so that a root laid outward and
// down just reaches the wall. A cutting's first pot is never wider than the widest first pot; a division
// goes straight into a pot that fits its roots, whatever its size.
func Suggest(t number.Table, group plant.Group, kind plant.PieceKind, longestMM float64) (Advice, error) {
	if math.IsNaN(longestMM) || longestMM < 0 || longestMM > plant.MostRootMM {
		return Advice{}, plant.Refuse("longest_mm", "between 0 and %g mm", plant.MostRootMM)
	}
	division := kind.Row().Single
	step := t.Of(PotStep)
	width := math.Max(math.Ceil(longestMM/step)*step, t.Of(NarrowestPot))
	depth := width
	switch {
	case division && longestMM == 0:
		width, depth = t.Of(WidestFirstPot), t.Of(WidestFirstPot)
	case division:
		width = math.Min(width, t.Of(WidestPot))
		depth = math.Min(width, t.Of(DeepestPot))
	default:
		width = math.Min(width, t.Of(WidestFirstPot))
		depth = width
	}
	pot := Pot{TopMM: width, BottomMM: width * t.Of(BottomRatio), DepthMM: depth}
	a := Advice{Pot: pot, MixML: pot.MixML(t), Rests: rests(t), Reasons: []string{}, Mix: []Part{}}
	switch {
	case division && longestMM == 0:
		a.Warning = "The roots of this division were never measured: lay them out and choose a pot they fit in without bending, with little room to spare."
	case division:
		a.Reasons = append(a.Reasons, "A division goes straight into a pot that fits its roots. One or two stems a pot, at the depth they grew.")
		if longestMM > width {
			a.Warning = fmt.Sprintf("The longest root is longer than the widest pot here, %.0f mm: lay it in a curve. Never take off more than a fifth of the roots.", width)
		}
	case longestMM == 0:
		a.Reasons = append(a.Reasons, "No root length is known, so the smallest pot.")
	default:
		a.Reasons = append(a.Reasons, fmt.Sprintf("As wide as the longest root is long, at most %.0f mm: a pot far larger than the roots stays wet and rots them.", t.Of(WidestFirstPot)))
		if longestMM > t.Of(WidestFirstPot) {
			a.Warning = "The longest root is longer than the widest first pot: lay it in a curve, do not cut it. Never take off more than a fifth of the roots."
		}
	}
	a.Reasons = append(a.Reasons, wallFor[group.Keeping])
	a.How = fmt.Sprintf(howFor[group.Keeping], t.Of(BottomLayer))
	mix, _ := MixNamed(t, group.Mix)
	a.MixWhy, a.Mix = mix.Why, mix.Of(a.MixML)
	return a, nil
}

// howFor says how a piece is potted, by how its group is kept.
var howFor = map[plant.Keeping]string{
	plant.Damp: "%.0f mm of mix in the bottom, roots spread on it, backfill, firm at the rim, tap to settle, water until it drains. Keep petioles and blades clear.",
	plant.Dry:  "%.0f mm of dry mix in the bottom, roots spread on it, backfill, firm at the rim, tap to settle. Do not water for two days. Keep the leaves clear.",
}

// wallFor says which pot suits how a group is kept.
var wallFor = map[plant.Keeping]string{
	plant.Damp: "Drainage holes always. Plastic holds moisture longer than clay, which suits roots grown in water.",
	plant.Dry:  "Drainage holes always. Clay dries quicker than plastic, which suits what is kept dry.",
}
