package propagation

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/store"
	"clearjar/store/sqlgen"
)

// NewVessel is the fact that a vessel joined a shelf.
type NewVessel struct {
	ID   uuid.UUID `json:"id"`
	Name string    `json:"name" maxLength:"400"`
	// Place is the name of the shelf; a new name makes a new shelf.
	Place string `json:"place" maxLength:"400"`
	plant.Vessel
}

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
	plant.Vessel
}

func vesselView(v sqlgen.Vessel) VesselView {
	kind := plant.VesselKind(v.Kind)
	sort, _ := kind.Sort()
	return VesselView{
		ID: v.ID, PlaceID: v.PlaceID, Name: v.Name, Tag: v.Tag, Medium: sort.Medium,
		Vessel: plant.Vessel{Kind: kind, WidthMM: v.WidthMm, DepthMM: v.DepthMm, HeightMM: v.HeightMm, WallMM: v.WallMm, FillMM: v.FillMm, Holds: int(v.Holds)},
	}
}

// placeNamed finds a shelf by name, or adds it at the end.
func (g *Garden) placeNamed(ctx context.Context, q *sqlgen.Queries, name string) (sqlgen.Place, error) {
	name, err := plant.CleanName("place", name, 80)
	if err != nil {
		return sqlgen.Place{}, err
	}
	places, err := q.Places(ctx)
	if err != nil {
		return sqlgen.Place{}, err
	}
	if len(places) >= 200 {
		return sqlgen.Place{}, plant.Refuse("place", "at most 200 shelves")
	}
	id, err := uuid.NewV7()
	if err != nil {
		return sqlgen.Place{}, err
	}
	if _, err := q.AddPlace(ctx, sqlgen.AddPlaceParams{ID: id, Name: name, Position: int32(len(places))}); err != nil {
		return sqlgen.Place{}, err
	}
	return q.PlaceByName(ctx, name)
}

// AddVessel puts a vessel on a shelf.
func (g *Garden) AddVessel(ctx context.Context, v NewVessel) (VesselView, error) {
	if err := checkID("id", v.ID); err != nil {
		return VesselView{}, err
	}
	name, err := plant.CleanName("name", v.Name, 80)
	if err != nil {
		return VesselView{}, err
	}
	if err := v.Check(); err != nil {
		return VesselView{}, err
	}
	err = g.store.InTx(ctx, func(q *sqlgen.Queries) error {
		place, err := g.placeNamed(ctx, q, v.Place)
		if err != nil {
			return err
		}
		_, err = q.AddVessel(ctx, sqlgen.AddVesselParams{
			ID: v.ID, PlaceID: place.ID, Name: name, Tag: shortTag(v.ID, 0), Kind: string(v.Kind), WidthMm: v.WidthMM,
			DepthMm: v.DepthMM, HeightMm: v.HeightMM, WallMm: v.WallMM, FillMm: v.FillMM, Holds: int32(v.Holds),
		})
		return err
	})
	if err != nil {
		return VesselView{}, err
	}
	row, err := g.store.VesselByID(ctx, v.ID)
	return vesselView(row), err
}

// Setting is the fact that a cutting was put into a vessel.
type Setting struct {
	ID        uuid.UUID `json:"id"`
	CuttingID uuid.UUID `json:"cutting_id"`
	VesselID  uuid.UUID `json:"vessel_id"`
	SetOn     time.Time `json:"set_on"`
	// SetNodes is how many nodes, from the base up, are in the medium.
	SetNodes int `json:"set_nodes" minimum:"1" maximum:"60"`
}

// SetInVessel puts a cutting into a vessel, first or anew. A full vessel, or a cutting already potted or ended, is refused.
func (g *Garden) SetInVessel(ctx context.Context, s Setting) (CuttingView, error) {
	if err := checkID("id", s.ID); err != nil {
		return CuttingView{}, err
	}
	err := g.store.InTx(ctx, func(q *sqlgen.Queries) error {
		c, err := g.standing(ctx, q, s.CuttingID)
		if err != nil {
			return err
		}
		if err := g.checkDay("set_on", s.SetOn, c.CutOn, "the cut"); err != nil {
			return err
		}
		if nodes := int(c.LastNode - c.FirstNode + 1); s.SetNodes > nodes {
			return plant.Refuse("set_nodes", "this piece has %d node(s)", nodes)
		}
		vessel, err := q.LockVessel(ctx, s.VesselID)
		if err != nil {
			return missing(err, "This vessel")
		}
		n, err := q.CountInVessel(ctx, sqlgen.CountInVesselParams{VesselID: s.VesselID, ButNot: s.CuttingID})
		if err != nil {
			return err
		}
		if n >= int64(vessel.Holds) {
			return ConflictError{Reason: fmt.Sprintf("%s is full: it holds %d. Choose another vessel, or a new one.", vessel.Name, vessel.Holds)}
		}
		_, err = q.AddSetting(ctx, sqlgen.AddSettingParams{ID: s.ID, CuttingID: s.CuttingID, VesselID: s.VesselID, SetOn: s.SetOn, SetNodes: int32(s.SetNodes)})
		return err
	})
	if err != nil {
		return CuttingView{}, err
	}
	return g.cuttingView(ctx, s.CuttingID)
}

// standing locks a cutting and refuses one that is potted or has ended.
func (g *Garden) standing(ctx context.Context, q *sqlgen.Queries, id uuid.UUID) (sqlgen.CuttingsRow, error) {
	if _, err := q.LockCutting(ctx, id); err != nil {
		return sqlgen.CuttingsRow{}, missing(err, "This cutting")
	}
	rows, err := q.Cuttings(ctx, sqlgen.CuttingsParams{Ids: []uuid.UUID{id}, MotherIds: []uuid.UUID{}})
	if err != nil || len(rows) == 0 {
		return sqlgen.CuttingsRow{}, missing(errOr(err, store.ErrMissing), "This cutting")
	}
	switch c := rows[0]; {
	case c.OutcomeKind != nil:
		return c, ConflictError{Reason: fmt.Sprintf("%s has ended (%s) on %s.", c.Code, *c.OutcomeKind, c.EndedOn.In(g.zone).Format("2 Jan 2006"))}
	case c.PottedOn != nil:
		return c, ConflictError{Reason: fmt.Sprintf("%s was already potted on %s. Nothing was changed.", c.Code, c.PottedOn.In(g.zone).Format("2 Jan 2006"))}
	default:
		return c, nil
	}
}

func errOr(err, other error) error {
	if err != nil {
		return err
	}
	return other
}
