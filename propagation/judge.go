package propagation

import (
	"context"
	"encoding/json"
	"fmt"
	"time"

	"github.com/google/uuid"

	"clearjar/core/cutplan"
	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/core/readiness"
	"clearjar/store/sqlgen"
)

// CuttingView is one cutting as it stands, with its verdict: what the shelf and the lists draw.
type CuttingView struct {
	ID         uuid.UUID       `json:"id"`
	Code       string          `json:"code"`
	Tag        string          `json:"tag"`
	MotherID   uuid.UUID       `json:"mother_id"`
	MotherName string          `json:"mother_name"`
	GroupKey   string          `json:"group_key"`
	GroupName  string          `json:"group_name"`
	Pattern    string          `json:"pattern"`
	Kind       plant.PieceKind `json:"kind"`
	Piece      cutplan.Piece   `json:"piece"`
	// Nodes are the piece's own, base to tip; node 1 of a look is Nodes[0].
	Nodes       []plant.Node `json:"nodes"`
	ThicknessMM float64      `json:"thickness_mm"`
	SetNodes    int          `json:"set_nodes"`
	// Pose is how it stands or lies in its vessel.
	Pose plant.Pose `json:"pose" enum:"upright,stalk,on_top,lying,flat,half_buried,crown"`
	// GoneNodes and GoneMM are what was cut back from its base; BareNodes stayed and lost their roots.
	GoneNodes int       `json:"gone_nodes"`
	GoneMM    float64   `json:"gone_mm"`
	CutOn     time.Time `json:"cut_on"`
	// CutKnownTo is how exactly that day is known.
	CutKnownTo string `json:"cut_known_to" enum:"day,week,month"`
	// MotherKnown is false while nothing but a name is known of the plant it came from.
	MotherKnown bool         `json:"mother_known"`
	SetOn       *time.Time   `json:"set_on,omitempty"`
	VesselID    *uuid.UUID   `json:"vessel_id,omitempty"`
	VesselName  string       `json:"vessel_name"`
	PlaceID     *uuid.UUID   `json:"place_id,omitempty"`
	PlaceName   string       `json:"place_name"`
	Medium      plant.Medium `json:"medium,omitempty"`
	// Uncovered: kept with nothing over it, whatever the vessel came with.
	Uncovered bool         `json:"uncovered"`
	PottedOn  *time.Time   `json:"potted_on,omitempty"`
	Pot       *potting.Pot `json:"pot,omitempty"`
	GivenOn   *time.Time   `json:"given_on,omitempty"`
	// Seen is the newest state of each thing noted, for the drawing: roots without their traced lines.
	Seen      plant.Look          `json:"seen"`
	LongestMM float64             `json:"longest_mm"`
	LookedAt  *time.Time          `json:"looked_at,omitempty"`
	Judgement readiness.Judgement `json:"judgement"`

	cutID    uuid.UUID
	form     plant.LeafForm
	evidence readiness.Evidence
	looks    []sqlgen.LooksOfCuttingsRow
}

// brief drops what only the cutting's own page shows.
func (c CuttingView) brief() CuttingView {
	c.Judgement.Reasons = []readiness.Reason{}
	c.Judgement.Forecast, c.Judgement.Steps = nil, nil
	c.Piece = c.Piece.Brief()
	return c
}

// only says which cuttings are asked for: those with the ids, of the mothers, or all; and of these only those that stand.
type only struct {
	ids, mothers []uuid.UUID
	standing     bool
}

// cuttings loads and judges cuttings.
func (g *Garden) cuttings(ctx context.Context, which only) ([]CuttingView, error) {
	if which.ids == nil {
		which.ids = []uuid.UUID{}
	}
	if which.mothers == nil {
		which.mothers = []uuid.UUID{}
	}
	rows, err := g.store.Cuttings(ctx, sqlgen.CuttingsParams{Ids: which.ids, MotherIds: which.mothers, Standing: which.standing})
	if err != nil {
		return nil, err
	}
	all, stems := make([]uuid.UUID, len(rows)), make([]uuid.UUID, len(rows))
	for i, r := range rows {
		all[i], stems[i] = r.ID, r.StemID
	}
	maps, err := g.mapsCut(ctx, stems)
	if err != nil {
		return nil, err
	}
	looks, err := g.store.LooksOfCuttings(ctx, all)
	if err != nil {
		return nil, err
	}
	byCutting := map[uuid.UUID][]sqlgen.LooksOfCuttingsRow{}
	for _, l := range looks {
		byCutting[l.CuttingID] = append(byCutting[l.CuttingID], l)
	}
	backs, err := g.store.CutBacksOfCuttings(ctx, all)
	if err != nil {
		return nil, err
	}
	cutBacks := map[uuid.UUID][]readiness.CutBack{}
	for _, b := range backs {
		cutBacks[b.CuttingID] = append(cutBacks[b.CuttingID], cutBackOf(b, g.zone))
	}
	vessels, places, err := g.standings(ctx)
	if err != nil {
		return nil, err
	}
	out := make([]CuttingView, len(rows))
	for i, r := range rows {
		if out[i], err = g.view(r, maps[mapKey{r.StemID, r.MapVersion}], byCutting[r.ID], cutBacks[r.ID], vessels, places); err != nil {
			return nil, err
		}
	}
	return out, nil
}

func (g *Garden) standings(ctx context.Context) (map[uuid.UUID]VesselView, map[uuid.UUID]sqlgen.Place, error) {
	vessels, err := g.store.Vessels(ctx)
	if err != nil {
		return nil, nil, err
	}
	places, err := g.store.Places(ctx)
	if err != nil {
		return nil, nil, err
	}
	byVessel, byPlace := map[uuid.UUID]VesselView{}, map[uuid.UUID]sqlgen.Place{}
	for _, v := range vessels {
		byVessel[v.ID] = vesselView(v)
	}
	for _, p := range places {
		byPlace[p.ID] = p
	}
	return byVessel, byPlace, nil
}

type mapKey struct {
	stem    uuid.UUID
	version int32
}

// mapsCut gives the map each stem was cut on.
func (g *Garden) mapsCut(ctx context.Context, stems []uuid.UUID) (map[mapKey]plant.Stem, error) {
	rows, err := g.store.StemMapsCut(ctx, stems)
	if err != nil {
		return nil, err
	}
	out := map[mapKey]plant.Stem{}
	for _, r := range rows {
		out[mapKey{r.StemID, r.Version}] = r.Map
	}
	return out, nil
}

func (g *Garden) view(r sqlgen.CuttingsRow, stem plant.Stem, looks []sqlgen.LooksOfCuttingsRow, backs []readiness.CutBack, vessels map[uuid.UUID]VesselView, places map[uuid.UUID]sqlgen.Place) (CuttingView, error) {
	group, _ := plant.GroupNamed(r.GroupKey)
	v := CuttingView{
		ID: r.ID, Code: r.Code, Tag: r.Tag, MotherID: r.MotherID, MotherName: r.MotherName, GroupKey: r.GroupKey, GroupName: group.Name,
		Pattern: r.Pattern, Kind: r.Piece.Kind, Piece: r.Piece, Nodes: stem.Nodes[r.FirstNode-1 : r.LastNode], ThicknessMM: stem.ThicknessMM,
		SetNodes: int(r.SetNodes), CutOn: r.CutOn, PottedOn: r.PottedOn, GivenOn: r.GivenOn, cutID: r.CutID, form: stem.Form, looks: looks,
	}
	v.Pose, v.CutKnownTo, v.MotherKnown = plant.PoseOf(group, r.Piece.Kind, stem.Form), r.KnownTo, r.MotherKnown
	e := readiness.Evidence{Today: g.Today(), Group: group, Kind: r.Piece.Kind, Medium: plant.Water, SetNodes: int(r.SetNodes), CutBacks: backs}
	kept := r.Piece.Leaves > len(r.Piece.Strip)
	e.LeafKept = &kept
	for _, n := range v.Nodes {
		e.OwnRoots = e.OwnRoots || n.Rooted
	}
	for _, b := range backs {
		v.GoneNodes, v.GoneMM = max(v.GoneNodes, b.GoneNodes), v.GoneMM+b.RemovedMM
	}
	for at, i := r.Piece.BelowMM, 0; i < len(v.Nodes); i++ {
		if i > 0 {
			at += v.Nodes[i].BelowMM
		}
		e.NodeMM = append(e.NodeMM, at)
	}
	if vessel, ok := vessels[r.VesselID]; ok {
		setOn := r.SetOn
		v.SetOn, v.VesselID, v.VesselName, v.Medium = &setOn, &vessel.ID, vessel.Name, vessel.Medium
		v.Uncovered = group.CoverOver(v.Medium, v.Pose).Open()
		v.PlaceID, v.PlaceName = &vessel.PlaceID, places[vessel.PlaceID].Name
		e.Medium, e.SetOn, e.MediumOn = vessel.Medium, r.FirstSetOn.In(g.zone), r.MediumOn.In(g.zone)
	}
	if r.PottedOn != nil {
		var pot potting.Pot
		if err := json.Unmarshal(r.Pot, &pot); err != nil {
			return v, fmt.Errorf("pot of %s: %w", r.Code, err)
		}
		v.Pot, v.PlaceID, v.PlaceName = &pot, r.PottedPlaceID, places[*r.PottedPlaceID].Name
		e.Potted = &readiness.Potting{On: r.PottedOn.In(g.zone)}
	}
	if r.OutcomeKind != nil {
		e.Outcome = &readiness.Outcome{On: r.EndedOn.In(g.zone), Kind: *r.OutcomeKind, Why: *r.OutcomeWhy}
	}
	seen := make([]plant.Look, len(looks))
	for i, l := range looks {
		at := l.LookedAt
		v.LookedAt, seen[i] = &at, l.Seen
		for _, b := range backs {
			if !l.LookedAt.After(b.On) {
				seen[i] = seen[i].After(b.GoneNodes, b.BareNodes)
			}
		}
		e.Looks = append(e.Looks, readiness.LookOn{On: l.LookedAt.In(g.zone), Look: l.Seen})
	}
	v.Seen = plant.Overlay(seen)
	if longest, ok := v.Seen.Longest(); ok {
		v.LongestMM = longest.LengthMM
	}
	v.evidence = e
	school := plant.SchoolKey(r.School)
	if school == "" {
		school = group.School
	}
	var err error
	v.Judgement, err = readiness.Judge(e, school)
	return v, err
}

func (g *Garden) cuttingView(ctx context.Context, id uuid.UUID) (CuttingView, error) {
	all, err := g.cuttings(ctx, only{ids: []uuid.UUID{id}})
	if err != nil {
		return CuttingView{}, err
	}
	if len(all) == 0 {
		return CuttingView{}, MissingError{"This cutting"}
	}
	return all[0], nil
}
