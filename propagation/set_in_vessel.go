package propagation

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"

	"clearjar/core/life"
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
	// FloorMM, Taper and Round are those of its kind; Clear says that one sees through to the roots.
	FloorMM float64 `json:"floor_mm"`
	Taper   float64 `json:"taper"`
	Round   bool    `json:"round"`
	Clear   bool    `json:"clear"`
	plant.Vessel
}

func vesselView(v sqlgen.Vessel) VesselView {
	kind := plant.VesselKind(v.Kind)
	sort, _ := kind.Sort()
	return VesselView{
		ID: v.ID, PlaceID: v.PlaceID, Name: v.Name, Tag: v.Tag, Medium: sort.Medium, FloorMM: sort.FloorMM, Taper: sort.Taper, Round: sort.Round, Clear: !sort.Medium.Row().Hidden,
		Vessel: plant.Vessel{Kind: kind, WidthMM: v.WidthMm, DepthMM: v.DepthMm, HeightMM: v.HeightMm, WallMM: v.WallMm, FillMM: v.FillMm, Holds: int(v.Holds)},
	}
}

// mostPlaces and mostVessels bound what a shelf may hold, so that it can always be shown whole.
const (
	mostPlaces  = 200
	mostVessels = 2000
)

// placeNamed finds a shelf by name, or adds it at the end.
func (g *Garden) placeNamed(ctx context.Context, name string) (sqlgen.Place, error) {
	name, err := plant.CleanName("place", name, 80)
	if err != nil {
		return sqlgen.Place{}, err
	}
	if had, err := g.store.PlaceByName(ctx, name); err == nil || !store.IsMissing(err) {
		return had, err
	}
	places, err := g.store.Places(ctx)
	if err != nil {
		return sqlgen.Place{}, err
	}
	if len(places) >= mostPlaces {
		return sqlgen.Place{}, plant.Refuse("place", "at most %d shelves", mostPlaces)
	}
	id, err := uuid.NewV7()
	if err != nil {
		return sqlgen.Place{}, err
	}
	mark(&g.touched.Places, id)
	if _, err := g.store.AddPlace(ctx, sqlgen.AddPlaceParams{ID: id, Name: name, Position: int32(len(places))}); err != nil {
		return sqlgen.Place{}, err
	}
	return g.store.PlaceByName(ctx, name)
}

func (v NewVessel) named() named { return named{v.ID, "vessel", v.ID} }

func (v NewVessel) write(ctx context.Context, g *Garden) error {
	if err := v.Check(); err != nil {
		return err
	}
	name, err := plant.CleanName("name", v.Name, 80)
	if err != nil {
		return err
	}
	n, err := g.store.CountVessels(ctx)
	if err != nil {
		return err
	}
	if n >= mostVessels {
		return plant.Refuse("name", "at most %d vessels", mostVessels)
	}
	place, err := g.placeNamed(ctx, v.Place)
	if err != nil {
		return err
	}
	tag, err := g.freeTag(ctx, v.ID)
	if err != nil {
		return err
	}
	mark(&g.touched.Vessels, v.ID)
	_, err = g.store.AddVessel(ctx, sqlgen.AddVesselParams{
		ID: v.ID, PlaceID: place.ID, Name: name, Tag: tag, Kind: string(v.Kind), WidthMm: v.WidthMM,
		DepthMm: v.DepthMM, HeightMm: v.HeightMM, WallMm: v.WallMM, FillMm: v.FillMM, Holds: int32(v.Holds),
	})
	return err
}

// Setting is the fact that a cutting was put into a vessel, first or anew. A full vessel, or a cutting already
// potted, given away or ended, is refused.
type Setting struct {
	ID        uuid.UUID `json:"id"`
	CuttingID uuid.UUID `json:"cutting_id"`
	VesselID  uuid.UUID `json:"vessel_id"`
	SetOn     time.Time `json:"set_on"`
	// SetNodes is how many nodes, from the base up, are in the medium.
	SetNodes int `json:"set_nodes" minimum:"1" maximum:"60"`
}

func (s Setting) named() named { return named{s.ID, "setting", s.CuttingID} }

func (s Setting) write(ctx context.Context, g *Garden) error { return g.set(ctx, s, 0) }

// set writes a setting; gone is how many nodes were cut away from the base.
func (g *Garden) set(ctx context.Context, s Setting, gone int) error {
	c, err := g.standing(ctx, s.CuttingID, life.InVessel)
	if err != nil {
		return err
	}
	if err := g.checkDay("set_on", s.SetOn, c.CutOn, "the cut"); err != nil {
		return err
	}
	if nodes := len(c.Nodes) - gone; s.SetNodes > nodes || s.SetNodes < 1 {
		return plant.Refuse("set_nodes", "this piece has %s", plant.Counted(nodes, "node", "nodes"))
	}
	vessel, err := g.lockVessel(ctx, s.VesselID)
	if err != nil {
		return err
	}
	if vessel.WithdrawnAt != nil {
		return MissingError{"This vessel"}
	}
	n, err := g.store.CountInVessel(ctx, sqlgen.CountInVesselParams{VesselID: s.VesselID, ButNot: s.CuttingID})
	if err != nil {
		return err
	}
	if n >= int64(vessel.Holds) {
		return ConflictError{Reason: fmt.Sprintf("%s is full: it holds %d. Choose another vessel, or a new one.", vessel.Name, vessel.Holds)}
	}
	_, err = g.store.AddSetting(ctx, sqlgen.AddSettingParams{ID: s.ID, CuttingID: s.CuttingID, VesselID: s.VesselID, SetOn: s.SetOn, SetNodes: int32(s.SetNodes), MadeAt: g.decided})
	return err
}

// lockMother locks a mother: what a fact locks, it touches.
func (g *Garden) lockMother(ctx context.Context, id uuid.UUID) error {
	if _, err := g.store.LockMother(ctx, id); err != nil {
		return missing(err, "This mother")
	}
	mark(&g.touched.Mothers, id)
	return nil
}

// lockVessel locks a vessel and gives it as it is.
func (g *Garden) lockVessel(ctx context.Context, id uuid.UUID) (sqlgen.Vessel, error) {
	v, err := g.store.LockVessel(ctx, id)
	if err != nil {
		return v, missing(err, "This vessel")
	}
	mark(&g.touched.Vessels, id)
	return v, nil
}

// lockCutting locks a cutting and gives its life. It touches where it stands and whom it came from too.
func (g *Garden) lockCutting(ctx context.Context, id uuid.UUID) (lived, error) {
	if _, err := g.store.LockCutting(ctx, id); err != nil {
		return lived{}, missing(err, "This cutting")
	}
	l, err := g.oneLife(ctx, id)
	if err != nil {
		return l, err
	}
	mark(&g.touched.Cuttings, id)
	mark(&g.touched.Vessels, l.vesselID())
	mark(&g.touched.Mothers, l.row.MotherID)
	return l, nil
}

// standing locks a cutting and refuses one that has ended, was given away, or has come further than the
// act allows: in a pot, when it is done in a vessel.
func (g *Garden) standing(ctx context.Context, id uuid.UUID, most life.Where) (lived, error) {
	l, err := g.lockCutting(ctx, id)
	if err != nil {
		return l, err
	}
	day := func(t time.Time) string { return t.Format("2 Jan 2006") }
	switch where := l.Where(); {
	case where == life.Ended:
		return l, ConflictError{Reason: fmt.Sprintf("%s was closed as %s on %s. Reopen it first, if that was a mistake.", l.row.Code, l.Outcome.Kind, day(l.Outcome.On))}
	case where == life.Given:
		return l, ConflictError{Reason: fmt.Sprintf("%s was given away on %s.", l.row.Code, day(*l.GivenOn))}
	case where == life.InPot && most != life.InPot:
		return l, ConflictError{Reason: fmt.Sprintf("%s was already potted on %s. Nothing was changed.", l.row.Code, day(l.Potted.On))}
	}
	return l, nil
}
