package plant

import (
	"errors"
	"math"
)

// VesselKind is what a cutting stands in.
type VesselKind string

// The vessels of the trade, one for each medium.
const (
	Jar        VesselKind = "jar"
	MossBox    VesselKind = "moss_box"
	PerliteCup VesselKind = "perlite_cup"
	CoveredPot VesselKind = "covered_pot"
)

// VesselSort is one kind of vessel: its medium and how a piece is set in it.
type VesselSort struct {
	Kind   VesselKind `json:"kind"`
	Label  string     `json:"label"`
	Medium Medium     `json:"medium"`
	// Fill names what FillMM measures.
	Fill string `json:"fill"`
	// HowTo says how to set a piece, in order.
	HowTo    []string  `json:"how_to"`
	Cautions []Caution `json:"cautions"`
	Basis    Basis     `json:"basis"`
}

// VesselSorts is the table of vessels.
func VesselSorts() []VesselSort {
	return []VesselSort{
		{Jar, "water jar", Water, "water level", []string{
			"One or two nodes under water; every blade and petiole above it.",
			"Clean water, filtered or rested. Base down: a piece set upside down fails.",
			"Thick succulent leaves only in the bottom fifth.",
		}, CautionsFor(MediumHazards(Water)...), Practice},
		{MossBox, "moss box", Moss, "height of the moss", []string{
			"Soak the moss, then wring it until only a few drops fall.",
			"Press node and aerial root against the moss, bud facing up; do not bury the piece.",
			"Lid on, light seal. Look through the lid weekly; do not open.",
		}, CautionsFor(MediumHazards(Moss)...), Practice},
		{PerliteCup, "perlite cup", Perlite, "height of the perlite", []string{
			"Damp the perlite first and make the hole first: it is abrasive.",
			"Bury the base to just below the next node; blades stay out.",
			"Damp through, drains freely. Judge by the shoot, then loosen gently.",
		}, CautionsFor(MediumHazards(Perlite)...), Practice},
		{CoveredPot, "covered pot", Mix, "height of the mix", []string{
			"Make the hole with a stick, set 2 or more nodes, firm lightly.",
			"Water until it drains, then cover with a clear jar, bottle or bag. Let the top dry before watering again.",
			"Check by a light tug and the new leaf; do not dig.",
		}, CautionsFor(MediumHazards(Mix)...), Practice},
	}
}

// Sort finds the table row of a vessel kind.
func (k VesselKind) Sort() (VesselSort, bool) {
	for _, s := range VesselSorts() {
		if s.Kind == k {
			return s, true
		}
	}
	return VesselSort{}, false
}

// Vessel is one vessel, inner measures in mm. A round vessel has DepthMM equal to WidthMM.
type Vessel struct {
	Kind     VesselKind `json:"kind" enum:"jar,moss_box,perlite_cup,covered_pot"`
	WidthMM  float64    `json:"width_mm"`
	DepthMM  float64    `json:"depth_mm"`
	HeightMM float64    `json:"height_mm"`
	WallMM   float64    `json:"wall_mm"`
	// FillMM is how high water, moss, perlite or mix stands.
	FillMM float64 `json:"fill_mm"`
	// Holds is how many cuttings it takes.
	Holds int `json:"holds"`
}

// Check refuses measures that are no vessel, naming every field that is wrong.
func (v Vessel) Check() error {
	var all []error
	if _, ok := v.Kind.Sort(); !ok {
		all = append(all, Refuse("kind", "%q is not a vessel", v.Kind))
	}
	within := func(field string, x, least, most float64) {
		if math.IsNaN(x) || x < least || x > most {
			all = append(all, Refuse(field, "between %g and %g mm", least, most))
		}
	}
	within("width_mm", v.WidthMM, 10, 600)
	within("depth_mm", v.DepthMM, 10, 600)
	within("height_mm", v.HeightMM, 20, 800)
	within("wall_mm", v.WallMM, 0, 20)
	within("fill_mm", v.FillMM, 5, 800)
	if v.FillMM > v.HeightMM {
		all = append(all, Refuse("fill_mm", "higher than the vessel: at most %g mm", v.HeightMM))
	}
	if v.Holds < 1 || v.Holds > 60 {
		all = append(all, Refuse("holds", "between 1 and 60 cuttings"))
	}
	return errors.Join(all...)
}
