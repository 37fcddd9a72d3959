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

// VesselSort is one kind of vessel and its medium.
type VesselSort struct {
	Kind VesselKind `json:"kind"`
	// Shape is how it is drawn.
	Shape  string `json:"shape" enum:"jar,box,cup,pot"`
	Label  string `json:"label"`
	Medium Medium `json:"medium"`
	// Fill names what FillMM measures.
	Fill     string    `json:"fill"`
	Cautions []Caution `json:"cautions"`
	Basis    Basis     `json:"basis"`
	// Usual are the measures a new one starts with.
	Usual Vessel `json:"usual"`
	// FloorMM is the thickness of its floor, Taper its bottom width against its top.
	FloorMM float64 `json:"floor_mm"`
	Taper   float64 `json:"taper"`
	// Round: its depth is its width.
	Round bool `json:"round"`
}

// VesselSorts is the table of vessels, one for each medium. How a piece is set in one depends on the piece too: see [HowToSet].
func VesselSorts() []VesselSort {
	out := make([]VesselSort, len(media))
	for i, m := range media {
		out[i] = m.vessel
		out[i].Medium, out[i].Cautions, out[i].Basis = m.Medium, CautionsFor(m.Hazards...), Practice
	}
	return out
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
	Kind     VesselKind `json:"kind"`
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
