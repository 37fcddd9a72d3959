package propagation

import (
	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/store/sqlgen"
)

// Place is one shelf.
type Place struct {
	ID   uuid.UUID `json:"id"`
	Name string    `json:"name"`
}

// VesselView is a vessel as it stands.
type VesselView struct {
	ID      uuid.UUID    `json:"id"`
	PlaceID uuid.UUID    `json:"place_id"`
	Name    string       `json:"name"`
	Tag     string       `json:"tag"`
	Medium  plant.Medium `json:"medium"`
	// Shape, FloorMM, Taper and Round are those of its kind; Clear says that one sees through to the roots.
	Shape   string  `json:"shape" enum:"jar,box,cup,pot"`
	FloorMM float64 `json:"floor_mm"`
	Taper   float64 `json:"taper"`
	Round   bool    `json:"round"`
	Clear   bool    `json:"clear"`
	plant.Vessel
}

// VesselOf is the view of a kept vessel.
func VesselOf(v sqlgen.Vessel) VesselView {
	kind := plant.VesselKind(v.Kind)
	sort, _ := kind.Sort()
	return VesselView{
		ID: v.ID, PlaceID: v.PlaceID, Name: v.Name, Tag: v.Tag, Medium: sort.Medium, Shape: sort.Shape, FloorMM: sort.FloorMM, Taper: sort.Taper, Round: sort.Round, Clear: !sort.Medium.Row().Hidden,
		Vessel: plant.Vessel{Kind: kind, WidthMM: v.WidthMm, DepthMM: v.DepthMm, HeightMM: v.HeightMm, WallMM: v.WallMm, FillMM: v.FillMm, Holds: int(v.Holds)},
	}
}
