package door

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"clearjar/core/life"
	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/store"
	"clearjar/store/sqlgen"
)

// NewVessel is the fact that a vessel joined a shelf.
type NewVessel struct {
	ID   uuid.UUID `json:"id"`
	Name string    `json:"name" maxLength:"400"`
	// Place is the name of the shelf; a new name makes a new shelf.
	Place string `json:"place" maxLength:"400"`
	// Cover is how its cover stands; left out for as usual. Since is when it was put to use; left out for now.
	Cover plant.CoverState `json:"cover,omitempty"`
	Since *time.Time       `json:"since,omitempty"`
	// Tag is a tag that is on it already; left out, it gets a free one.
	Tag string `json:"tag,omitempty" maxLength:"8"`
	plant.Vessel
}

// mostPlaces and mostVessels bound what a shelf may hold, so that it can always be shown whole.
const (
	mostPlaces  = 200
	mostVessels = 2000
)

// placeNamed finds a shelf by name, or adds it at the end.
func (g *Entry) placeNamed(ctx context.Context, name string) (sqlgen.Place, error) {
	name, err := plant.CleanName("place", name, 80)
	if err != nil {
		return sqlgen.Place{}, err
	}
	if had, err := g.Store.PlaceByName(ctx, name); err == nil || !store.IsMissing(err) {
		return had, err
	}
	places, err := g.Store.Places(ctx)
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
	if _, err := g.Store.AddPlace(ctx, sqlgen.AddPlaceParams{ID: id, Name: name, Position: int32(len(places))}); err != nil {
		return sqlgen.Place{}, err
	}
	return g.Store.PlaceByName(ctx, name)
}

func (v NewVessel) named() named { return named{v.ID, "vessel", v.ID} }

func (v NewVessel) write(ctx context.Context, g *Entry) error {
	filled, err := v.Filled()
	if err != nil {
		return err
	}
	if v.Cover != "" {
		if err := filled.CheckCover("cover", v.Cover); err != nil {
			return err
		}
	}
	since := g.decided
	if v.Since != nil {
		since = *v.Since
	}
	if err := g.CheckDay("since", since, propagation.EarliestRecord, "any record"); err != nil {
		return err
	}
	name, err := plant.CleanName("name", v.Name, 80)
	if err != nil {
		return err
	}
	n, err := g.Store.CountVessels(ctx)
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
	tag, err := g.tagFor(ctx, v)
	if err != nil {
		return err
	}
	mark(&g.touched.Vessels, v.ID)
	_, err = g.Store.AddVessel(ctx, sqlgen.AddVesselParams{
		ID: v.ID, PlaceID: place.ID, Name: name, Tag: tag, Kind: string(v.Kind), Medium: string(filled.Medium), Parts: partsText(filled.Parts),
		Cover: string(v.Cover), Since: since, WidthMm: v.WidthMM, DepthMm: v.DepthMM, HeightMm: v.HeightMM, WallMm: v.WallMM, FillMm: v.FillMM, Holds: int32(v.Holds),
	})
	return err
}

// partsText is parts as they are kept.
func partsText(parts []plant.MediumPart) json.RawMessage {
	if parts == nil {
		parts = []plant.MediumPart{}
	}
	text, _ := json.Marshal(parts)
	return text
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

func (s Setting) write(ctx context.Context, g *Entry) error { return g.set(ctx, s, 0) }

// set writes a setting; gone is how many nodes were cut away from the base.
func (g *Entry) set(ctx context.Context, s Setting, gone int) error {
	c, err := g.standing(ctx, s.CuttingID, life.InVessel)
	if err != nil {
		return err
	}
	if err := g.CheckDay("set_on", s.SetOn, c.CutOn, "the cut"); err != nil {
		return err
	}
	left := slices.DeleteFunc(c.NodesLeft(), func(n int) bool { return n <= gone })
	if nodes := len(left); s.SetNodes > nodes || s.SetNodes < 1 {
		return plant.Refuse("set_nodes", "this piece has %s", plant.Counted(nodes, "node", "nodes"))
	}
	vessel, err := g.lockVessel(ctx, s.VesselID)
	if err != nil {
		return err
	}
	if vessel.EndedOn != nil {
		return endedError(vessel, g)
	}
	standing, err := g.Store.StandingIn(ctx, s.VesselID)
	if err != nil {
		return err
	}
	if len(slices.DeleteFunc(standing, func(r sqlgen.StandingInRow) bool { return r.ID == s.CuttingID })) >= int(vessel.Holds) {
		return propagation.ConflictError{Reason: fmt.Sprintf("%s is full: it holds %d. Choose another vessel, or a new one.", vessel.Name, vessel.Holds)}
	}
	_, err = g.Store.AddSetting(ctx, sqlgen.AddSettingParams{ID: s.ID, CuttingID: s.CuttingID, VesselID: s.VesselID, SetOn: s.SetOn, SetNodes: int32(s.SetNodes), MadeAt: g.decided})
	return err
}
