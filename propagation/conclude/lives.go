package conclude

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"time"

	"github.com/google/uuid"

	"clearjar/core/life"
	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/core/readiness"
	"clearjar/propagation"
	"clearjar/store/sqlgen"
)

func cutBackOf(b sqlgen.CutBack, zone *time.Location) life.CutBack {
	out := life.CutBack{On: b.CutOn.In(zone), RemovedMM: b.RemovedMm, GoneNodes: int(b.GoneNodes)}
	for _, n := range b.BareNodes {
		out.BareNodes = append(out.BareNodes, int(n))
	}
	return out
}

// Lived is a cutting as its facts tell it: its life, and beside it what only names and places it.
type Lived struct {
	life.Life
	Row      sqlgen.CuttingsRow
	SetRows  []sqlgen.SettingsOfCuttingsRow
	LookRows []sqlgen.LooksOfCuttingsRow
	BackRows []sqlgen.CutBack
	pot      *potting.Pot
	// stand is where in the pot it stands.
	stand *potting.Stand
	// thicknessMM is that of the stem it was cut from.
	thicknessMM float64
	// cover is how the cover over it was left last, empty when nobody said; care what was done for its vessel of late.
	cover plant.CoverState
	care  []readiness.Care
	// celsius is how warm its place was on the mean of the last two weeks, 0 where nobody measured.
	celsius float64
	// learned is what the grower's records of its group and medium say.
	learned *readiness.Learned
}

// VesselID is the vessel it was put into last, nil when it never was.
func (l Lived) VesselID() uuid.UUID {
	if len(l.SetRows) == 0 {
		return uuid.Nil
	}
	return l.SetRows[len(l.SetRows)-1].VesselID
}

// School is the one it is judged under: the grower's choice, else its group's.
func (l Lived) School() plant.SchoolKey {
	if s := plant.SchoolKey(l.Row.School); s != "" {
		return s
	}
	return l.Group.School
}

// Evidence is what is known of it today.
func (l Lived) Evidence(g *propagation.Garden) readiness.Evidence {
	e := readiness.Of(l.Life, g.Today(), g.Southern)
	e.Learned, e.Care, e.TemperatureC = l.learned, l.care, l.celsius
	if l.cover != "" {
		e.Cover = coverSaid[l.cover]
	}
	return e
}

// livesOf loads cuttings with all their facts. One that was taken back is not among them.
func livesOf(ctx context.Context, g *propagation.Garden, ids []uuid.UUID) ([]Lived, error) {
	if len(ids) == 0 {
		return []Lived{}, nil
	}
	rows, err := g.Store.Cuttings(ctx, ids)
	if err != nil {
		return nil, err
	}
	stems := make([]uuid.UUID, len(rows))
	for i, r := range rows {
		stems[i] = r.StemID
	}
	maps, err := mapsCut(ctx, g, stems)
	if err != nil {
		return nil, err
	}
	looks, err := g.Store.LooksOfCuttings(ctx, ids)
	if err != nil {
		return nil, err
	}
	settings, err := g.Store.SettingsOfCuttings(ctx, ids)
	if err != nil {
		return nil, err
	}
	backs, err := g.Store.CutBacksOfCuttings(ctx, ids)
	if err != nil {
		return nil, err
	}
	partings, err := g.Store.PartingsOf(ctx, ids)
	if err != nil {
		return nil, err
	}
	offspring, young, err := offspringOf(ctx, g, ids, partings)
	if err != nil {
		return nil, err
	}
	numbers, err := g.Numbers(ctx)
	if err != nil {
		return nil, err
	}
	if err := measureLooks(ctx, g, numbers, looks, byCutting(settings, func(s sqlgen.SettingsOfCuttingsRow) uuid.UUID { return s.CuttingID })); err != nil {
		return nil, err
	}
	looksOf := byCutting(looks, func(l sqlgen.LooksOfCuttingsRow) uuid.UUID { return l.CuttingID })
	settingsOf := byCutting(settings, func(s sqlgen.SettingsOfCuttingsRow) uuid.UUID { return s.CuttingID })
	backsOf := byCutting(backs, func(b sqlgen.CutBack) uuid.UUID { return b.CuttingID })
	out := make([]Lived, len(rows))
	for i, r := range rows {
		if out[i], err = lived(g, r, maps[mapKey{r.StemID, r.MapVersion}], settingsOf[r.ID], looksOf[r.ID], backsOf[r.ID]); err != nil {
			return nil, err
		}
		out[i].Numbers = numbers
		out[i].Partings, out[i].Offspring = partingsOf(g, partings, young, r), offspring[r.ID]
	}
	if err := firstPots(ctx, g, out); err != nil {
		return nil, err
	}
	if err := caredFor(ctx, g, out); err != nil {
		return nil, err
	}
	return out, warmed(ctx, g, out)
}

// warmBack is over how many days, up to last midnight, the warmth of a place is taken.
const warmBack = 14

// warmed tells each life how warm its place was, where a sensor hangs.
func warmed(ctx context.Context, g *propagation.Garden, lives []Lived) error {
	y, m, d := g.Today().Date()
	midnight := time.Date(y, m, d, 0, 0, 0, 0, g.Zone)
	air, err := g.Store.AirOfPlaces(ctx, sqlgen.AirOfPlacesParams{Since: midnight.AddDate(0, 0, -warmBack), Before: midnight})
	if err != nil || len(air) == 0 {
		return err
	}
	warm := map[uuid.UUID]float64{}
	for _, a := range air {
		warm[a.PlaceID] = math.Round(2*float64(a.TempC)) / 2
	}
	vessels, err := g.Store.VesselsEver(ctx)
	if err != nil {
		return err
	}
	in := map[uuid.UUID]float64{}
	for _, v := range vessels {
		in[v.ID] = warm[v.PlaceID]
	}
	for i := range lives {
		if lives[i].Where() == life.InVessel {
			lives[i].celsius = in[lives[i].VesselID()]
		}
	}
	return nil
}

// coverSaid are the states of a cover in the words of the evidence.
var coverSaid = map[plant.CoverState]string{plant.CoverOn: "on", plant.CoverVented: "vented", plant.CoverAjar: "ajar", plant.CoverByDay: "ajar", plant.CoverOff: "none"}

// careBack is how many days back care is looked at: what was seen before asks for no answer any more.
const careBack = 60

// caredFor gives each life how its vessel's cover was left, and what was done for it of late, both since it was put there.
func caredFor(ctx context.Context, g *propagation.Garden, lives []Lived) error {
	vessels := []uuid.UUID{}
	in := map[uuid.UUID][]*Lived{}
	for i := range lives {
		if id := lives[i].VesselID(); id != uuid.Nil && lives[i].Where() == life.InVessel {
			if in[id] == nil {
				vessels = append(vessels, id)
			}
			in[id] = append(in[id], &lives[i])
		}
	}
	if len(vessels) == 0 {
		return nil
	}
	now := g.Now().Add(time.Second) // what was done this very moment counts
	covers, err := g.Store.LastCovers(ctx, sqlgen.LastCoversParams{Before: now, VesselIds: vessels})
	if err != nil {
		return err
	}
	done, err := g.Store.LastDone(ctx, sqlgen.LastDoneParams{Since: now.AddDate(0, 0, -careBack), Before: now, VesselIds: vessels})
	if err != nil {
		return err
	}
	since := func(l *Lived, at time.Time) bool { return !at.Before(l.SetRows[len(l.SetRows)-1].SetOn) }
	for _, c := range covers {
		for _, l := range in[c.VesselID] {
			if since(l, c.DoneAt) {
				l.cover = plant.CoverState(c.Cover)
			}
		}
	}
	for _, d := range done {
		if _, known := plant.Act(d.What).Row(); !known {
			continue
		}
		for _, l := range in[d.VesselID] {
			if since(l, d.Last) {
				l.care = append(l.care, readiness.Care{On: d.Last.In(g.Zone), Act: plant.Act(d.What)})
			}
		}
	}
	return nil
}

func byCutting[T any](rows []T, of func(T) uuid.UUID) map[uuid.UUID][]T {
	out := map[uuid.UUID][]T{}
	for _, r := range rows {
		out[of(r)] = append(out[of(r)], r)
	}
	return out
}

type mapKey struct {
	stem    uuid.UUID
	version int32
}

// mapsCut gives the map each stem was cut on.
func mapsCut(ctx context.Context, g *propagation.Garden, stems []uuid.UUID) (map[mapKey]plant.Stem, error) {
	rows, err := g.Store.StemMapsCut(ctx, stems)
	if err != nil {
		return nil, err
	}
	out := map[mapKey]plant.Stem{}
	for _, r := range rows {
		out[mapKey{r.StemID, r.Version}] = r.Map
	}
	return out, nil
}

// lived makes a life of the rows of one cutting, in the grower's zone.
func lived(g *propagation.Garden, r sqlgen.CuttingsRow, stem plant.Stem, settings []sqlgen.SettingsOfCuttingsRow, looks []sqlgen.LooksOfCuttingsRow, backs []sqlgen.CutBack) (Lived, error) {
	group, _ := plant.GroupNamed(r.GroupKey)
	leaf := r.Piece.Leaves > len(r.Piece.Strip)
	l := Lived{Row: r, SetRows: settings, LookRows: looks, BackRows: backs, thicknessMM: stem.ThicknessMM, Life: life.Life{
		Group: group, Kind: r.Piece.Kind, Form: stem.Form, Nodes: nodesOf(r, stem), BaseMM: r.Piece.BelowMM,
		LeafKept: &leaf, CutOn: r.CutOn.In(g.Zone), Looks: make([]life.LookOn, 0, len(looks)),
	}}
	for _, s := range settings {
		l.Settings = append(l.Settings, life.Setting{On: s.SetOn.In(g.Zone), Medium: plant.Medium(s.Medium), Nodes: int(s.SetNodes)})
	}
	for _, look := range looks {
		l.Looks = append(l.Looks, life.LookOn{On: look.LookedAt.In(g.Zone), Look: look.Seen})
	}
	for _, b := range backs {
		l.CutBacks = append(l.CutBacks, cutBackOf(b, g.Zone))
	}
	if r.PottedOn != nil {
		l.Potted, l.pot, l.stand = &life.Potting{On: r.PottedOn.In(g.Zone)}, &potting.Pot{}, &potting.Stand{}
		if err := json.Unmarshal(r.Pot, l.pot); err != nil {
			return l, fmt.Errorf("pot of %s: %w", r.Code, err)
		}
		if err := json.Unmarshal(r.PotAt, l.stand); err != nil {
			return l, fmt.Errorf("where %s stands: %w", r.Code, err)
		}
		if r.Follows != nil { // its first pot is told by [firstPots]
			l.Moved = &life.Potting{On: r.PottedOn.In(g.Zone)}
		}
	}
	if r.OutcomeKind != nil {
		l.Outcome = &life.Outcome{On: r.EndedOn.In(g.Zone), Kind: *r.OutcomeKind, Why: *r.OutcomeWhy}
	}
	if r.GivenOn != nil {
		given := r.GivenOn.In(g.Zone)
		l.GivenOn = &given
	}
	return l, nil
}

// OneLife is the life of one cutting.
func OneLife(ctx context.Context, g *propagation.Garden, id uuid.UUID) (Lived, error) {
	all, err := livesOf(ctx, g, []uuid.UUID{id})
	if err != nil {
		return Lived{}, err
	}
	if len(all) == 0 {
		return Lived{}, propagation.MissingError{What: "This cutting"}
	}
	return all[0], withLearned(ctx, g, all)
}

// Facts are a life as the screen draws it, without names of today.
func (l Lived) Facts() CuttingFacts {
	r := l.Row
	f := CuttingFacts{
		ID: r.ID, Code: r.Code, Tag: r.Tag, MotherID: r.MotherID, MotherName: r.MotherName, GroupKey: r.GroupKey, GroupName: l.Group.Name,
		Pattern: r.Pattern, Kind: r.Piece.Kind, Piece: r.Piece, Nodes: l.Nodes, ThicknessMM: l.thicknessMM, Where: l.Where(), Fate: l.Fate(), CutID: r.CutID,
		Pose: plant.PoseOf(l.Group, r.Piece.Kind, l.Form), CutOn: r.CutOn, CutKnownTo: r.KnownTo, MotherKnown: r.MotherKnown,
		PottedOn: r.PottedOn, Pot: l.pot, PotID: r.PotID, Stand: l.stand, GivenOn: r.GivenOn, Seen: l.Seen(),
	}
	if l.Moved != nil {
		f.MovedOn, f.PottedOn = r.PottedOn, &l.Potted.On
	}
	f.GoneNodes, f.GoneMM = l.Gone()
	f.Taken, f.ParentID, f.Came = l.Taken(), r.ParentID, plant.Came(r.PatternCame)
	if n := len(l.SetRows); n > 0 {
		last := l.SetRows[n-1]
		now, _ := l.SetNow()
		f.SetOn, f.VesselID, f.SetNodes, f.Medium = &last.SetOn, &last.VesselID, now.Nodes, now.Medium
		f.Uncovered = l.Group.CoverOver(f.Medium, f.Pose).Open()
	}
	if n := len(l.LookRows); n > 0 {
		f.LookedAt = &l.LookRows[n-1].LookedAt
	}
	if longest, ok := f.Seen.Longest(); ok {
		f.LongestMM = longest.LengthMM
	}
	return f
}

// ManyLives are the lives of some cuttings in the order asked for; one that is not here is told.
func ManyLives(ctx context.Context, g *propagation.Garden, ids []uuid.UUID) ([]Lived, error) {
	all, err := livesOf(ctx, g, ids)
	if err != nil {
		return nil, err
	}
	at := map[uuid.UUID]Lived{}
	for _, l := range all {
		at[l.Row.ID] = l
	}
	out := make([]Lived, len(ids))
	for i, id := range ids {
		l, here := at[id]
		if !here {
			return nil, propagation.MissingError{What: "This cutting"}
		}
		out[i] = l
	}
	return out, nil
}

// Plant is a life as what is potted.
func (l Lived) Plant() potting.Piece {
	f := l.Facts()
	p := potting.Piece{Name: f.Code, Group: l.Group, Kind: f.Kind, LongestMM: f.LongestMM, From: f.Medium, SetNodes: max(0, f.SetNodes), Now: l.pot}
	at := l.NodeMM()
	for _, n := range l.NodesLeft() {
		p.NodeMM = append(p.NodeMM, math.Max(0, at[n-1]-f.GoneMM))
	}
	if n := len(p.NodeMM); n > 0 {
		p.LengthMM = p.NodeMM[n-1] + f.Piece.AboveMM
	}
	return p
}

// nodesOf are the growing points of a piece: those of the stem it was cut from, or its own when it was parted from another piece.
func nodesOf(r sqlgen.CuttingsRow, stem plant.Stem) []plant.Node {
	if len(r.Nodes) > 0 {
		return r.Nodes
	}
	return stem.Nodes[r.FirstNode-1 : r.LastNode]
}

// partingsOf are the partings of one piece; young are the nodes of the stem that young plants came off, by parting.
func partingsOf(g *propagation.Garden, rows []sqlgen.PartingsOfRow, young map[uuid.UUID][]int, of sqlgen.CuttingsRow) []life.Parting {
	var out []life.Parting
	for _, r := range rows {
		if r.ParentID != of.ID {
			continue
		}
		p := life.Parting{On: r.CutOn.In(g.Zone)}
		for _, n := range r.Taken {
			p.Taken = append(p.Taken, int(n))
		}
		if of.Piece.Kind.Row().Keeps {
			for _, n := range young[r.ID] {
				p.Young = append(p.Young, n-int(of.FirstNode)+1)
			}
		}
		out = append(out, p)
	}
	return out
}

// offspringOf counts what became of the plants that were parted from each of some cuttings, and lists by parting the nodes they came off.
func offspringOf(ctx context.Context, g *propagation.Garden, ids []uuid.UUID, partings []sqlgen.PartingsOfRow) (map[uuid.UUID]life.Offspring, map[uuid.UUID][]int, error) {
	out, young := map[uuid.UUID]life.Offspring{}, map[uuid.UUID][]int{}
	if len(partings) == 0 {
		return out, young, nil
	}
	parts, err := g.Store.PartsOf(ctx, ids)
	for _, p := range parts {
		l := life.Life{GivenOn: p.GivenOn}
		if p.OutcomeKind != nil {
			l.Outcome = &life.Outcome{Kind: *p.OutcomeKind}
		}
		o := out[p.ParentID]
		o.Count(l.Fate())
		out[p.ParentID] = o
		young[p.CutID] = append(young[p.CutID], p.Piece.First)
	}
	return out, young, err
}

// Planted is a life in its pot, for the weeks after; ok is false while it stands in none.
func (l Lived) Planted(today time.Time, visits []time.Time) (p potting.Planted, ok bool) {
	if l.Potted == nil {
		return p, false
	}
	p = potting.Planted{Group: l.Group, Kind: l.Kind, On: l.Potted.On, Today: today, Visits: visits}
	if now, set := l.SetNow(); set {
		p.From = now.Medium
	}
	if l.Moved != nil {
		p.On, p.Moved = l.Moved.On, true
	}
	return p, true
}

// InPots are the lives of what stands in pots and has not been closed, by the day they came into their pots.
func InPots(ctx context.Context, g *propagation.Garden) ([]Lived, error) {
	ids, err := g.Store.StandingInPots(ctx)
	if err != nil {
		return nil, err
	}
	return ManyLives(ctx, g, ids)
}

// firstPots tells each life that was moved on when it came into its first pot.
func firstPots(ctx context.Context, g *propagation.Garden, lives []Lived) error {
	ids, at := []uuid.UUID{}, map[uuid.UUID]*Lived{}
	for i, l := range lives {
		if l.Moved != nil {
			ids, at[l.Row.ID] = append(ids, l.Row.ID), &lives[i]
		}
	}
	if len(ids) == 0 {
		return nil
	}
	first, err := g.Store.FirstPots(ctx, ids)
	for _, f := range first {
		at[f.CuttingID].Potted = &life.Potting{On: f.PottedOn.In(g.Zone)}
	}
	return err
}
