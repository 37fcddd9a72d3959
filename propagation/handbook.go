package propagation

import (
	"clearjar/core/cutplan"
	"clearjar/core/growth"
	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/core/readiness"
	"clearjar/core/rootphoto"
)

// Handbook is every table and number of the job, with its basis.
type Handbook struct {
	Groups    []plant.Group      `json:"groups"`
	WakeBasis plant.Basis        `json:"wake_basis"`
	Schools   []plant.School     `json:"schools"`
	Vessels   []plant.VesselSort `json:"vessels"`
	Cautions  []plant.Caution    `json:"cautions"`
	Numbers   []plant.Number     `json:"numbers"`
	Limits    cutplan.Limits     `json:"default_limits"`
}

// Book gathers the handbook from the core.
func Book() Handbook {
	h := Handbook{
		Groups: plant.Groups(), WakeBasis: plant.WakeBasis(), Schools: plant.Schools(), Vessels: plant.VesselSorts(),
		Cautions: plant.Cautions(), Limits: cutplan.DefaultLimits(),
	}
	h.Numbers = append(h.Numbers, readiness.Numbers()...)
	h.Numbers = append(h.Numbers, cutplan.Numbers()...)
	h.Numbers = append(h.Numbers, rootphoto.Numbers()...)
	h.Numbers = append(h.Numbers, potting.Numbers()...)
	h.Numbers = append(h.Numbers, growth.Confidence)
	return h
}
