package propagation

import (
	"slices"

	"clearjar/core/cutplan"
	"clearjar/core/growth"
	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/core/readiness"
	"clearjar/core/rootphoto"
	"clearjar/propagation/tagsheet"
)

// Handbook is every table and number of the job, with its basis.
type Handbook struct {
	Groups []plant.Group `json:"groups"`
	// Organs and LeafForms are what can be cut up, and how.
	Organs       []plant.OrganRule   `json:"organs"`
	LeafForms    []plant.LeafRule    `json:"leaf_forms"`
	Aims         []cutplan.AimChoice `json:"aims"`
	KnifeSchools []cutplan.CutSchool `json:"knife_schools"`
	LeafSchools  []cutplan.CutSchool `json:"leaf_schools"`
	TagSizes     []tagsheet.Size     `json:"tag_sizes"`
	// OrganLimits are the limits to start from, by organ.
	OrganLimits map[plant.Organ]cutplan.Limits `json:"organ_limits"`
	Schools     []plant.School                 `json:"schools"`
	Vessels     []plant.VesselSort             `json:"vessels"`
	Cautions    []plant.Caution                `json:"cautions"`
	Numbers     []plant.Number                 `json:"numbers"`
	Limits      cutplan.Limits                 `json:"default_limits"`
	// Kinds, Media and Covers are what differs between kinds of pieces, media and covers; Mixes what is potted into.
	Kinds  []plant.KindRow   `json:"kinds"`
	Media  []plant.MediumRow `json:"media"`
	Covers []plant.CoverRow  `json:"covers"`
	Mixes  []potting.MixRow  `json:"mixes"`
	// PottedIn is the medium a pot is filled with.
	PottedIn plant.Medium `json:"potted_in"`
}

// Book gathers the handbook from the core.
func Book() Handbook {
	h := Handbook{
		Groups: plant.Groups(), Organs: plant.OrganRules(), LeafForms: plant.LeafRules(), Aims: cutplan.Aims(),
		KnifeSchools: cutplan.KnifeSchools(), LeafSchools: cutplan.LeafSchools(), TagSizes: tagsheet.Sizes(), OrganLimits: map[plant.Organ]cutplan.Limits{}, Schools: plant.Schools(), Vessels: plant.VesselSorts(),
		Cautions: plant.Cautions(), Limits: cutplan.DefaultLimits(), Kinds: plant.KindRows(), Media: plant.Media(), Covers: plant.Covers(), Mixes: potting.Mixes(), PottedIn: plant.Mix,
	}
	for _, r := range h.Organs {
		h.OrganLimits[r.Organ] = cutplan.LimitsFor(r.Organ)
	}
	h.Numbers = Numbers()
	return h
}

// Numbers lists the starting value of every number of the job, the planner's first.
func Numbers() []plant.Number {
	return slices.Concat(cutplan.Numbers(), readiness.Numbers(), growth.Numbers(), potting.Numbers(), rootphoto.Numbers())
}
