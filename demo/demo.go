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
	"math"
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
		made, err := l.addVessel(door.NewVessel{Name: v.name, Place: v.place, Vessel: v.Vessel, Since: &since})
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

func (l *loader) look(c conclude.ShelfCutting, look plant.Look, daysAgo int, photo *uuid.UUID) error {
	_, err := l.keep(door.NewLook{ID: newID(), CuttingID: c.ID, LookedAt: l.ago(daysAgo), PhotoID: photo, Seen: look})
	return err
}

// truth is what the renderer knows of a photo.
type truth struct {
	Taken string `json:"taken"`
	Roots []struct {
		ID       int       `json:"id"`
		Parent   *int      `json:"parent_root"`
		Node     *int      `json:"node"`
		Order    int       `json:"order"`
		Colour   string    `json:"colour"`
		LengthMM float64   `json:"length_mm"`
		Apparent []seenAt  `json:"apparent_px"`
		Visible  []float64 `json:"visible"`
	} `json:"roots"`
}

// seenAt is a place in a photo; null, or two nulls, where no ray reaches the point.
type seenAt []*float64

func (s seenAt) point() (plant.Point, bool) {
	if len(s) != 2 || s[0] == nil || s[1] == nil {
		return plant.Point{}, false
	}
	return plant.Point{X: math.Round(*s[0]), Y: math.Round(*s[1])}, true
}

// photographed keeps a rendered photo, dated as if it had been taken on that day, and a look with its true root lengths.
func (l *loader) photographed(c conclude.ShelfCutting, p life, day, cutAgo int, last bool) error {
	name := fmt.Sprintf("photos/%s_day%02d", p.photo, day)
	picture, err := photos.ReadFile(name + ".jpg")
	if err != nil {
		return err
	}
	raw, err := photos.ReadFile(name + ".json")
	if err != nil {
		return err
	}
	var t truth
	if err := json.Unmarshal(raw, &t); err != nil {
		return err
	}
	kept, err := photo.Keep(l.ctx, l.garden, newID(), redate(picture, t.Taken, l.ago(cutAgo-day)))
	if err != nil {
		return err
	}
	look := plant.Look{RootsCounted: true, Roots: t.roots(), Stem: "firm"}
	if last {
		p.last(&look)
	}
	return l.look(c, look, cutAgo-day, &kept.ID)
}

// roots are the true lengths with the lines as the camera sees them.
func (t truth) roots() []plant.Root {
	nodeOf := map[int]int{}
	for _, r := range t.Roots {
		if r.Node != nil {
			nodeOf[r.ID] = *r.Node + 1
		}
	}
	var out []plant.Root
	for _, r := range t.Roots {
		node := nodeOf[r.ID]
		if r.Parent != nil && node == 0 {
			node = nodeOf[*r.Parent]
		}
		path := []plant.Point{}
		for i, at := range r.Apparent {
			if p, ok := at.point(); ok && (i%3 == 0 || i == len(r.Apparent)-1) {
				path = append(path, p)
			}
		}
		if len(path) < 2 {
			path = nil
		}
		colour := plant.RootColour(r.Colour)
		if r.Colour == "brown_rotten" {
			colour = plant.Brown
		}
		out = append(out, plant.Root{Node: max(1, node), Order: r.Order, LengthMM: r.LengthMM, LowMM: r.LengthMM, HighMM: r.LengthMM, Colour: colour, Path: path, How: "truth"})
	}
	return out
}
