package show

import (
	"context"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"clearjar/core/care"
	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
	"clearjar/propagation/outside"
	"clearjar/store/sqlgen"
)

// Round is what is due today, vessel by vessel in the order they stand, with what was done of it already.
type Round struct {
	Now time.Time `json:"now"`
	// Schools are those gone by for all vessels.
	Schools care.Chosen `json:"schools"`
	Stops   []Stop      `json:"stops"`
	// Pots are those in the weeks after potting.
	Pots []PotStop `json:"pots"`
}

// Stop is one vessel on the round.
type Stop struct {
	VesselID uuid.UUID `json:"vessel_id"`
	care.Due
	// Visits are those of today, oldest first.
	Visits []Visited `json:"visits"`
	// Own are the schools chosen for this vessel alone; empty where it goes by those of all.
	Own care.Chosen `json:"own"`
	// Seen are signs noted last and not yet acted on.
	Seen []plant.Sign `json:"seen"`
}

// Visited is one visit as it was noted.
type Visited struct {
	ID     uuid.UUID        `json:"id"`
	At     time.Time        `json:"at"`
	Acts   []plant.Act      `json:"acts"`
	Seen   []plant.Sign     `json:"seen"`
	Cover  plant.CoverState `json:"cover,omitempty"`
	Well   bool             `json:"well"`
	PutOff string           `json:"put_off,omitempty"`
}

// remembered is how far back visits are read: longer than any school allows.
const remembered = 400 * 24 * time.Hour

// RoundNow is the round of today.
func RoundNow(ctx context.Context, g *propagation.Garden) (Round, error) {
	out, err := roundOf(ctx, g, nil)
	if err != nil {
		return out, err
	}
	out.Pots, err = potsNow(ctx, g)
	return out, err
}

// StopNow is one vessel of it.
func StopNow(ctx context.Context, g *propagation.Garden, vessel uuid.UUID) (Stop, error) {
	r, err := roundOf(ctx, g, []uuid.UUID{vessel})
	if err != nil {
		return Stop{}, err
	}
	for _, s := range r.Stops {
		if s.VesselID == vessel {
			return s, nil
		}
	}
	return Stop{}, propagation.MissingError{What: "This vessel"}
}

// inOrder are the vessels in use in the order they stand: place by place, along each shelf.
func inOrder(ctx context.Context, g *propagation.Garden) ([]sqlgen.VesselNow, error) {
	places, err := g.Store.Places(ctx)
	if err != nil {
		return nil, err
	}
	vessels, err := g.Store.Vessels(ctx)
	if err != nil {
		return nil, err
	}
	out := make([]sqlgen.VesselNow, 0, len(vessels))
	at := map[uuid.UUID][]sqlgen.VesselNow{}
	for _, v := range vessels {
		at[v.PlaceID] = append(at[v.PlaceID], v)
	}
	for _, p := range places {
		out = append(out, at[p.ID]...)
	}
	return out, nil
}

// inCare is one vessel with all that its care rests on.
type inCare struct {
	row    sqlgen.VesselNow
	vessel care.Vessel
	// own are the schools chosen for it alone; where has those that hold.
	own   care.Chosen
	where care.Where
}

// vesselsInCare are the vessels in use in the order they stand, and the schools gone by for all.
func vesselsInCare(ctx context.Context, g *propagation.Garden, now time.Time, only []uuid.UUID) (out []inCare, all care.Chosen, err error) {
	all = care.Usual()
	vessels, err := inOrder(ctx, g)
	if err != nil {
		return nil, all, err
	}
	pieces, err := conclude.Standing(ctx, g)
	if err != nil {
		return nil, all, err
	}
	records, err := records(ctx, g, now, only)
	if err != nil {
		return nil, all, err
	}
	numbers, err := g.Numbers(ctx)
	if err != nil {
		return nil, all, err
	}
	airs, err := outside.LastDay(ctx, g)
	if err != nil {
		return nil, all, err
	}
	own, err := schools(ctx, g, &all)
	if err != nil {
		return nil, all, err
	}
	for _, v := range vessels {
		if len(only) > 0 && v.ID != only[0] {
			continue
		}
		c := inCare{v, care.Vessel{
			Kind: plant.VesselKind(v.Kind), Medium: plant.Medium(v.Medium), Since: v.Since.In(g.Zone), Cover: plant.CoverState(v.Cover), Record: records[v.ID], Pieces: pieces[v.ID],
		}, own[v.ID], care.Where{Schools: all, Numbers: numbers, Southern: g.Southern}}
		if air, measured := airs[v.PlaceID]; measured {
			c.vessel.HottestC, c.vessel.DeficitKPa = &air.HottestC, &air.DeficitKPa
		}
		for _, about := range care.Abouts() {
			if key := c.own.Of(about); key != "" {
				c.where.Schools, _ = c.where.Schools.With(about, key)
			}
		}
		out = append(out, c)
	}
	return out, all, nil
}

func roundOf(ctx context.Context, g *propagation.Garden, only []uuid.UUID) (Round, error) {
	out := Round{Now: g.Today(), Stops: []Stop{}, Pots: []PotStop{}}
	vessels, all, err := vesselsInCare(ctx, g, out.Now, only)
	if err != nil {
		return out, err
	}
	out.Schools = all
	visits, err := visitsOn(ctx, g, out.Now)
	if err != nil {
		return out, err
	}
	for _, v := range vessels {
		out.Stops = append(out.Stops, Stop{VesselID: v.row.ID, Due: care.On(v.vessel, out.Now, v.where), Visits: visits[v.row.ID], Own: v.own, Seen: v.vessel.Open(out.Now)})
	}
	return out, nil
}

// RoundDay is one day on which something is due, with what.
type RoundDay struct {
	At    time.Time
	Stops []RoundStop
}

// RoundStop is one vessel of it.
type RoundStop struct {
	Vessel, Place string
	Tasks         []care.CareTask
	// Pot: it is a pot in the weeks after potting.
	Pot bool
}

// RoundsAhead are the rounds of some days from today on, when each is done on its day.
func RoundsAhead(ctx context.Context, g *propagation.Garden, days int) ([]RoundDay, error) {
	now := g.Today()
	vessels, _, err := vesselsInCare(ctx, g, now, nil)
	if err != nil {
		return nil, err
	}
	places, err := g.Store.Places(ctx)
	if err != nil {
		return nil, err
	}
	names := map[uuid.UUID]string{}
	for _, p := range places {
		names[p.ID] = p.Name
	}
	out := []RoundDay{}
	byDay := map[int]int{}
	for _, v := range vessels {
		for _, due := range care.Ahead(v.vessel, now, days, v.where) {
			day := plant.Days(now, due.At)
			i, there := byDay[day]
			if !there {
				i = len(out)
				byDay[day] = i
				out = append(out, RoundDay{At: due.At})
			}
			out[i].Stops = append(out[i].Stops, RoundStop{Vessel: v.row.Name, Place: names[v.row.PlaceID], Tasks: due.Tasks})
		}
	}
	pots, err := potsAhead(ctx, g, days)
	if err != nil {
		return nil, err
	}
	for _, p := range pots {
		day := plant.Days(now, p.at)
		i, there := byDay[day]
		if !there {
			i = len(out)
			byDay[day] = i
			out = append(out, RoundDay{At: p.at})
		}
		out[i].Stops = append(out[i].Stops, RoundStop{Vessel: p.name, Place: names[p.place], Tasks: []care.CareTask{{Label: p.text}}, Pot: true})
	}
	slices.SortFunc(out, func(a, b RoundDay) int { return a.At.Compare(b.At) })
	return out, nil
}

// records are what the visits to vessels come to.
func records(ctx context.Context, g *propagation.Garden, now time.Time, only []uuid.UUID) (map[uuid.UUID]care.Record, error) {
	if only == nil {
		only = []uuid.UUID{}
	}
	before := now.Add(propagation.Slack)
	out := map[uuid.UUID]care.Record{}
	of := func(id uuid.UUID) care.Record {
		if r, ok := out[id]; ok {
			return r
		}
		return care.Record{Done: map[plant.Act]time.Time{}, Seen: map[plant.Sign]time.Time{}}
	}
	rows, err := g.Store.LastDone(ctx, sqlgen.LastDoneParams{Since: now.Add(-remembered), Before: before, VesselIds: only})
	if err != nil {
		return nil, err
	}
	for _, r := range rows {
		rec, at := of(r.VesselID), r.Last.In(g.Zone)
		switch sign, seen := strings.CutPrefix(r.What, "seen "); {
		case seen:
			rec.Saw(plant.Sign(sign), at)
		case r.What == "visited":
			rec.Visit(at)
		case r.What == "put_off":
			rec.PutOff = at
		default:
			rec.Did(plant.Act(r.What), at)
		}
		out[r.VesselID] = rec
	}
	covers, err := g.Store.LastCovers(ctx, sqlgen.LastCoversParams{Before: before, VesselIds: only})
	if err != nil {
		return nil, err
	}
	for _, c := range covers {
		rec := of(c.VesselID)
		rec.Covered(plant.CoverState(c.Cover), c.DoneAt.In(g.Zone))
		out[c.VesselID] = rec
	}
	return out, nil
}

// visitsOn are the visits of the day of an instant, by vessel.
func visitsOn(ctx context.Context, g *propagation.Garden, now time.Time) (map[uuid.UUID][]Visited, error) {
	day := time.Date(now.Year(), now.Month(), now.Day(), 0, 0, 0, 0, now.Location())
	rows, err := g.Store.CareOn(ctx, sqlgen.CareOnParams{Since: day, Before: day.AddDate(0, 0, 1)})
	if err != nil {
		return nil, err
	}
	out := map[uuid.UUID][]Visited{}
	for _, r := range rows {
		out[r.VesselID] = append(out[r.VesselID], Visited{
			ID: r.ID, At: r.DoneAt, Acts: keysOf[plant.Act](r.Acts), Seen: keysOf[plant.Sign](r.Seen), Cover: plant.CoverState(r.Cover), Well: r.Well, PutOff: r.PutOff,
		})
	}
	return out, nil
}

func keysOf[T ~string](texts []string) []T {
	out := make([]T, len(texts))
	for i, t := range texts {
		out[i] = T(t)
	}
	return out
}

// schools are those chosen for single vessels; those of all are laid on all.
func schools(ctx context.Context, g *propagation.Garden, all *care.Chosen) (map[uuid.UUID]care.Chosen, error) {
	rows, err := g.Store.CareSchools(ctx)
	if err != nil {
		return nil, err
	}
	out := map[uuid.UUID]care.Chosen{}
	for _, r := range rows {
		about, key := care.About(r.About), care.SchoolKey(r.School)
		if r.VesselID == nil {
			if with, err := all.With(about, key); err == nil {
				*all = with
			}
			continue
		}
		if with, err := out[*r.VesselID].With(about, key); err == nil {
			out[*r.VesselID] = with
		}
	}
	return out, nil
}
