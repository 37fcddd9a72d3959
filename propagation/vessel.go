package propagation

import (
	"encoding/json"
	"time"

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
	ID      uuid.UUID `json:"id"`
	PlaceID uuid.UUID `json:"place_id"`
	Name    string    `json:"name"`
	Tag     string    `json:"tag"`
	// Shape, FloorMM, Taper and Round are those of its kind; Clear says that one sees through to the roots.
	Shape   string  `json:"shape" enum:"jar,box,cup,saucer,bag,bottle,pot,basket"`
	FloorMM float64 `json:"floor_mm"`
	Taper   float64 `json:"taper"`
	Round   bool    `json:"round"`
	Clear   bool    `json:"clear"`
	// Cover is how its cover was left; empty when nobody said: then it stands as usual.
	Cover plant.CoverState `json:"cover,omitempty"`
	// CoverUsual is how it stands as usual, over its medium.
	CoverUsual plant.CoverState `json:"cover_usual"`
	// EndedOn is when it was emptied or broke.
	EndedOn *time.Time `json:"ended_on,omitempty"`
	plant.Vessel
}

// VesselOf is the view of a kept vessel.
func VesselOf(v sqlgen.VesselNow) VesselView {
	kind, medium := plant.VesselKind(v.Kind), plant.Medium(v.Medium)
	sort, _ := kind.Sort()
	out := VesselView{
		ID: v.ID, PlaceID: v.PlaceID, Name: v.Name, Tag: v.Tag, Shape: sort.Shape, FloorMM: sort.FloorMM, Taper: sort.Taper, Round: sort.Round, Clear: !medium.Row().Hidden,
		Cover: plant.CoverState(v.Cover), CoverUsual: sort.CoverUsually(medium), EndedOn: v.EndedOn,
		Vessel: plant.Vessel{Kind: kind, Medium: medium, WidthMM: v.WidthMm, DepthMM: v.DepthMm, HeightMM: v.HeightMm, WallMM: v.WallMm, FillMM: v.FillMm, Holds: int(v.Holds)},
	}
	_ = json.Unmarshal(v.Parts, &out.Parts) // written here, from what was checked
	return out
}
