// Package demo loads the invented "attic winter garden": eight mothers, their
// cuttings in eleven vessels at three places, six weeks of looks and the rendered
// photos of three pieces. Dates count back from the day it is loaded. It writes
// through the same use cases as the grower, so nothing in it could not have happened.
package demo

import (
	"context"
	"embed"
	"encoding/json"
	"fmt"
	"time"

	"github.com/google/uuid"

	"clearjar/core/cutplan"
	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/core/readiness"
	"clearjar/propagation"
	"clearjar/propagation/bench"
	"clearjar/propagation/conclude"
	"clearjar/propagation/door"
	"clearjar/propagation/outside"
	"clearjar/propagation/photo"
	"clearjar/propagation/show"
	"clearjar/propagation/sight"
	"clearjar/standin"
)

//go:embed photos
var photos embed.FS

// loader carries what was made so far, by name.
type loader struct {
	ctx     context.Context
	garden  *propagation.Garden
	mothers map[string]show.Mother
	vessels map[string]uuid.UUID
	stems   map[string]bench.MappedStem
}

// Load fills an empty garden. It does nothing, and says so, when there are mothers already.
func Load(ctx context.Context, g *propagation.Garden) (loaded bool, err error) {
	have, err := show.Mothers(ctx, g)
	if err != nil || len(have) > 0 {
		return false, err
	}
	l := &loader{ctx, g, map[string]show.Mother{}, map[string]uuid.UUID{}, map[string]bench.MappedStem{}}
	steps := []func() error{l.addMothers, l.addVessels, l.addStems, l.addPieces, l.addCare, l.addAir, l.addWaterings, l.addPlan}
	for _, step := range steps {
		if err := step(); err != nil {
			return false, fmt.Errorf("demo: %w", err)
		}
	}
	return true, nil
}

func (l *loader) keep(f door.Fact) (door.Touched, error) {
	touched, _, err := door.Keep(l.ctx, l.garden, f)
	return touched, err
}

// addMother, addVessel, mapStem and cut keep a fact and give what came of it.
func (l *loader) addMother(m door.NewMother) (show.Mother, error) {
	m.ID = newID()
	if _, err := l.keep(m); err != nil {
		return show.Mother{}, err
	}
	return show.MotherPage(l.ctx, l.garden, m.ID)
}

func (l *loader) addVessel(v door.NewVessel) (uuid.UUID, error) {
	v.ID = newID()
	_, err := l.keep(v)
	return v.ID, err
}

func (l *loader) mapStem(m door.StemMapping) (bench.MappedStem, error) {
	id := newID()
	m.FactID = newID()
	if _, err := l.keep(door.StemMap{StemID: id, StemMapping: m}); err != nil {
		return bench.MappedStem{}, err
	}
	return show.StemNow(l.ctx, l.garden, id)
}

func (l *loader) cut(on time.Time, stem bench.MappedStem, knives []float64) ([]conclude.ShelfCutting, error) {
	touched, err := l.keep(door.Cut{ID: newID(), CutOn: on, Stems: []bench.StemWish{{StemID: stem.ID, Version: stem.Version, KnivesMM: knives}}})
	if err != nil {
		return nil, err
	}
	return show.Cuttings(l.ctx, l.garden, touched.Cuttings)
}

func newID() uuid.UUID { return uuid.Must(uuid.NewV7()) }

// ago is ten in the morning some days before today, in the grower's zone.
func (l *loader) ago(days int) time.Time {
	t := l.garden.Today()
	return time.Date(t.Year(), t.Month(), t.Day(), 10, 0, 0, 0, t.Location()).AddDate(0, 0, -days)
}

func (l *loader) addMothers() error {
	for _, m := range mothers {
		made, err := l.addMother(door.NewMother{
			Code: m.code, MotherWords: door.MotherWords{Name: m.name, GroupKey: m.group, Provenance: m.from, Pattern: m.pattern},
		})
		if err != nil {
			return err
		}
		l.mothers[m.code] = made
	}
	return nil
}

func (l *loader) addVessels() error {
	for _, v := range vessels {
		since := l.ago(mappedAgo)
		made, err := l.addVessel(door.NewVessel{Name: v.name, Place: v.place, Tag: printed[v.name], Vessel: v.Vessel, Since: &since})
		if err != nil {
			return err
		}
		l.vessels[v.name] = made
	}
	return nil
}

func (l *loader) addStems() error {
	for _, s := range stems {
		on := l.ago(mappedAgo)
		made, err := l.mapStem(door.StemMapping{MotherID: l.mothers[s.mother].ID, Stem: s.stem(), MappedOn: &on})
		if err != nil {
			return err
		}
		l.stems[s.mother+"-"+made.Letter] = made
	}
	return nil
}

func (l *loader) addPieces() error {
	for _, c := range cuts {
		stem := l.stems[c.stem]
		knives := []float64{}
		for _, n := range c.after {
			if stem.Stem.What() == plant.LeafOrgan { // it comes off whole
				knives = append(knives, 0)
				break
			}
			above := stem.Stem.LengthMM()
			if n < len(stem.Stem.Nodes) {
				above = stem.Stem.At(n + 1)
			}
			knives = append(knives, (stem.Stem.At(n)+above)/2)
		}
		made, err := l.cut(l.ago(c.daysAgo), stem, knives)
		if err != nil {
			return fmt.Errorf("%s: %w", c.stem, err)
		}
		if len(made) != len(c.pieces) {
			return fmt.Errorf("%s: %d pieces came out, %d are told of", c.stem, len(made), len(c.pieces))
		}
		for i, p := range c.pieces {
			if err := l.live(made[i], p, c.daysAgo); err != nil {
				return fmt.Errorf("%s: %w", made[i].Code, err)
			}
		}
	}
	return nil
}

// addCare notes the visits to each vessel, oldest first: what was seen, and how its cover stands, on the last.
func (l *loader) addCare() error {
	for _, v := range vessels {
		for days := v.care.last + (mappedAgo-1-v.care.last)/v.care.every*v.care.every; days >= v.care.last; days -= v.care.every {
			visit := door.Care{ID: newID(), VesselID: l.vessels[v.name], At: l.ago(days), Acts: v.care.acts, Well: true}
			if days == v.care.last {
				visit.Seen, visit.Cover, visit.Well = v.care.seen, v.care.cover, len(v.care.seen) == 0
			}
			if _, err := l.keep(visit); err != nil {
				return fmt.Errorf("%s: %w", v.name, err)
			}
		}
	}
	return nil
}

// addAir hangs two hygrometers and takes in what they read over some days.
func (l *loader) addAir() error {
	places, err := l.garden.Store.Places(l.ctx)
	if err != nil {
		return err
	}
	for i, s := range sensors {
		for _, p := range places {
			if p.Name != s.place {
				continue
			}
			made, err := outside.Make(l.ctx, l.garden, outside.NewKey{ID: newID(), What: outside.Sensor, Name: s.name, PlaceID: &p.ID})
			if err != nil {
				return err
			}
			h := standin.Cabinet(l.garden.Zone, uint64(i))
			h.MeanC, h.MeanPct = s.meanC, s.meanPct
			now := l.garden.Now()
			if _, err := outside.TakeIn(l.ctx, l.garden, made.ID, h.Between(now.AddDate(0, 0, -sensedDays), now, sensedEvery), made.Earliest()); err != nil {
				return err
			}
		}
	}
	return nil
}

func (l *loader) addWaterings() error {
	for code, days := range watered {
		on := l.ago(days)
		if now := l.garden.Today(); on.After(now) {
			on = now
		}
		if _, err := l.keep(door.Watering{ID: newID(), MotherID: l.mothers[code].ID, WateredOn: on}); err != nil {
			return err
		}
	}
	return nil
}

// addPlan keeps one plan that is being prepared: the second wax vine stem, which has to callus.
func (l *loader) addPlan() error {
	stem := l.stems["HOY-B"]
	wish := bench.PlanWish{Stems: []bench.StemWish{{StemID: stem.ID, Version: stem.Version}}}
	wish.Limits = cutplan.DefaultLimits()
	wish.Conditions.Medium = plant.Moss
	_, err := l.keep(door.NewPlan{ID: newID(), PlanWish: wish})
	return err
}

// live writes what happened to one piece after the cut.
func (l *loader) live(c conclude.ShelfCutting, p life, cutAgo int) error {
	set := min(2, c.Piece.Last-c.Piece.First+1)
	if p.setNodes > 0 {
		set = p.setNodes
	}
	if _, err := l.keep(door.Setting{ID: newID(), CuttingID: c.ID, VesselID: l.vessels[p.vessel], SetOn: l.ago(cutAgo), SetNodes: set}); err != nil {
		return err
	}
	if p.school != "" {
		if _, err := l.keep(door.SchoolChoice{ID: newID(), CuttingID: c.ID, School: p.school}); err != nil {
			return err
		}
	}
	for _, day := range p.looks {
		look := p.grown(day, set)
		if day == p.looks[len(p.looks)-1] {
			p.last(&look)
		}
		if err := l.look(c, look, cutAgo-day, nil); err != nil {
			return err
		}
	}
	for i, day := range p.photoDays {
		if err := l.photographed(c, p, day, cutAgo, i == len(p.photoDays)-1); err != nil {
			return err
		}
	}
	if len(p.young) > 0 {
		if err := l.part(c, p); err != nil {
			return err
		}
	}
	if p.pottedAgo > 0 {
		_, err := l.keep(door.Potting{ID: newID(), CuttingID: c.ID, Place: p.potAt, PottedOn: l.ago(p.pottedAgo), Pot: potting.Pot{TopMM: 90, BottomMM: 68, DepthMM: 85}})
		if err != nil {
			return err
		}
	}
	if p.ended != "" {
		_, err := l.keep(door.Ending{ID: newID(), CuttingID: c.ID, Outcome: readiness.Outcome{On: l.ago(p.endedAgo), Kind: p.ended}})
		return err
	}
	return nil
}

// part parts the young plants of a piece, and pots the first of them.
func (l *loader) part(c conclude.ShelfCutting, p life) error {
	parted := door.Parting{ID: newID(), CuttingID: c.ID, PartedOn: l.ago(p.youngAgo), Parts: p.young}
	touched, err := l.keep(parted)
	if err != nil {
		return err
	}
	for _, id := range touched.Cuttings {
		if id == c.ID {
			continue
		}
		_, err := l.keep(door.Potting{ID: newID(), CuttingID: id, Place: lower, PottedOn: l.ago(p.youngPotted), Pot: potting.Pot{TopMM: 60, BottomMM: 45, DepthMM: 60}})
		return err
	}
	return nil
}

func (l *loader) look(c conclude.ShelfCutting, look plant.Look, daysAgo int, photo *uuid.UUID) error {
	_, err := l.keep(door.NewLook{ID: newID(), CuttingID: c.ID, LookedAt: l.ago(daysAgo), PhotoID: photo, Seen: look})
	return err
}

// taps are what a grower taps on the photos: nodes, the tips of roots, points a line must pass; and lines drawn by hand where
// none is followed: side roots, and roots whose tip is not seen.
type taps struct {
	Taken string       `json:"taken"`
	Nodes [][2]float64 `json:"nodes"`
	Taps  []struct {
		Node int          `json:"node"`
		Tip  [2]float64   `json:"tip"`
		Pass [][2]float64 `json:"pass"`
	} `json:"taps"`
	Lines []struct {
		Node   int              `json:"node"`
		Order  int              `json:"order"`
		Colour plant.RootColour `json:"colour"`
		Line   [][2]float64     `json:"line"`
	} `json:"lines"`
}

func places(of [][2]float64) []plant.Point {
	out := make([]plant.Point, len(of))
	for i, p := range of {
		out[i] = plant.Point{X: p[0], Y: p[1]}
	}
	return out
}

// tapsOf are the taps on one photo.
func tapsOf(name string) (taps, error) {
	raw, err := photos.ReadFile("photos/taps.json")
	if err != nil {
		return taps{}, err
	}
	all := map[string]taps{}
	err = json.Unmarshal(raw, &all)
	return all[name], err
}

// photographed keeps a rendered photo, dated as if it had been taken on that day, and a look with its roots as they are
// measured from a grower's taps.
func (l *loader) photographed(c conclude.ShelfCutting, p life, day, cutAgo int, last bool) error {
	name := fmt.Sprintf("%s_day%02d", p.photo, day)
	picture, err := photos.ReadFile("photos/" + name + ".jpg")
	if err != nil {
		return err
	}
	t, err := tapsOf(name)
	if err != nil {
		return err
	}
	kept, err := photo.Keep(l.ctx, l.garden, newID(), redate(picture, t.Taken, l.ago(cutAgo-day)))
	if err != nil {
		return err
	}
	look := plant.Look{RootsCounted: true, Stem: "firm"}
	if look.Sight, look.Roots, err = l.measured(c, kept.ID, t); err != nil {
		return fmt.Errorf("%s: %w", name, err)
	}
	if last {
		p.last(&look)
	}
	return l.look(c, look, cutAgo-day, &kept.ID)
}

// measured looks at a photo as the screen does: the nodes are marked, and each root is followed from a tap on its tip.
func (l *loader) measured(c conclude.ShelfCutting, shown uuid.UUID, t taps) (*plant.Sight, []plant.Root, error) {
	a := sight.Asking{ID: newID(), PhotoID: shown, CuttingID: c.ID}
	for i, p := range places(t.Nodes) {
		a.Nodes = append(a.Nodes, plant.NodeAt{Node: i + 1, At: p})
	}
	if err := sight.Ask(l.ctx, l.garden, a); err != nil {
		return nil, nil, err
	}
	if err := sight.Look(l.ctx, l.garden, a.ID); err != nil {
		return nil, nil, err
	}
	s, err := sight.Of(l.ctx, l.garden, a.ID)
	if err != nil {
		return nil, nil, err
	}
	if s.Seen == nil || s.Seen.Sight == nil {
		return nil, nil, fmt.Errorf("the photo gives no scale: %s %v", s.Remark, s.Seen)
	}
	roots := []plant.Root{}
	for _, tap := range t.Taps {
		r, err := sight.Follow(l.ctx, l.garden, a.ID, sight.Tap{Tip: plant.Point{X: tap.Tip[0], Y: tap.Tip[1]}, Pass: places(tap.Pass), Node: tap.Node})
		if err != nil {
			return nil, nil, err
		}
		roots = append(roots, plant.Root{Node: r.Node, Order: 1, Colour: r.Colour, Path: r.Path, How: plant.Traced})
	}
	for _, line := range t.Lines {
		roots = append(roots, plant.Root{Node: line.Node, Order: line.Order, Colour: line.Colour, Path: places(line.Line), How: plant.Traced})
	}
	return s.Seen.Sight, roots, nil
}
