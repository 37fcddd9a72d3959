package show

import (
	"context"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
	"clearjar/store/sqlgen"
)

// PotStop is one pot on the round: what waits to be seen to in the weeks after potting, and what comes next.
type PotStop struct {
	PotID   uuid.UUID   `json:"pot_id"`
	PlaceID uuid.UUID   `json:"place_id"`
	Pot     potting.Pot `json:"pot"`
	// On is when it was filled; Plants are those in it.
	On     time.Time    `json:"on"`
	Plants []PotPlant   `json:"plants"`
	Due    *PotStep     `json:"due,omitempty"`
	Next   *PotStep     `json:"next,omitempty"`
	Visits []PotVisited `json:"visits"`
	// ShockUntil is the day to which droop counts as shock, NotNormal what is none.
	ShockUntil time.Time `json:"shock_until"`
	NotNormal  string    `json:"not_normal"`
}

// PotPlant is one plant of a pot.
type PotPlant struct {
	ID   uuid.UUID `json:"id"`
	Code string    `json:"code"`
}

// PotStep is one step of the weeks after.
type PotStep struct {
	Day  int       `json:"day"`
	On   time.Time `json:"on"`
	Text string    `json:"text"`
}

// PotVisited is a visit of today.
type PotVisited struct {
	ID uuid.UUID `json:"id"`
	At time.Time `json:"at"`
}

// potVisits are when each of some pots was seen to.
func potVisits(ctx context.Context, g *propagation.Garden, pots []uuid.UUID) (map[uuid.UUID][]time.Time, error) {
	rows, err := g.Store.PotVisits(ctx, pots)
	out := map[uuid.UUID][]time.Time{}
	for _, r := range rows {
		out[r.PotID] = append(out[r.PotID], r.VisitedAt.In(g.Zone))
	}
	return out, err
}

// potAhead is one step of the weeks after potting that is to come.
type potAhead struct {
	at         time.Time
	name, text string
	place      uuid.UUID
}

// potsAhead are the steps of all pots over some days from today on, when each is done on its day.
func potsAhead(ctx context.Context, g *propagation.Garden, days int) ([]potAhead, error) {
	out, today := []potAhead{}, g.Today()
	order, in, rows, err := inPots(ctx, g)
	if err != nil {
		return nil, err
	}
	visits := map[uuid.UUID][]time.Time{}
	for _, r := range rows {
		visits[r.PotID] = append(visits[r.PotID], r.VisitedAt.In(g.Zone))
	}
	for _, id := range order {
		first := in[id][0]
		planted, _ := first.Planted(today, visits[id])
		weeks := potting.Aftercare(first.Numbers, planted)
		codes := []string{}
		for _, l := range in[id] {
			codes = append(codes, l.Row.Code)
		}
		add := func(at time.Time, text string) {
			out = append(out, potAhead{at, plant.Listed(codes), text, *first.Row.PottedPlaceID})
		}
		if d := weeks.Due(today); d != nil {
			add(today, d.Text)
		}
		for _, s := range weeks.Steps {
			if n := plant.Days(today, s.On); n > 0 && n < days {
				add(s.On, s.Text)
			}
		}
	}
	return out, nil
}

// inPots are the pots by the day they were filled, who stands in each, and when they were seen to.
func inPots(ctx context.Context, g *propagation.Garden) (order []uuid.UUID, in map[uuid.UUID][]conclude.Lived, visits []sqlgen.PotVisitsRow, err error) {
	in = map[uuid.UUID][]conclude.Lived{}
	lives, err := conclude.InPots(ctx, g)
	if err != nil || len(lives) == 0 {
		return nil, in, nil, err
	}
	for _, l := range lives {
		id := *l.Row.PotID
		if in[id] == nil {
			order = append(order, id)
		}
		in[id] = append(in[id], l)
	}
	visits, err = g.Store.PotVisits(ctx, order)
	return order, in, visits, err
}

// potsNow are the pots in the weeks after potting, by the day they were filled.
func potsNow(ctx context.Context, g *propagation.Garden) ([]PotStop, error) {
	order, in, rows, err := inPots(ctx, g)
	if err != nil {
		return nil, err
	}
	visits, today, seen := map[uuid.UUID][]time.Time{}, g.Today(), map[uuid.UUID][]PotVisited{}
	for _, r := range rows {
		at := r.VisitedAt.In(g.Zone)
		visits[r.PotID] = append(visits[r.PotID], at)
		if plant.Days(at, today) == 0 {
			seen[r.PotID] = append(seen[r.PotID], PotVisited{r.ID, r.VisitedAt})
		}
	}
	out := make([]PotStop, 0, len(order))
	for _, id := range order {
		out = append(out, potStop(id, in[id], visits[id], seen[id], today))
	}
	return out, nil
}

// potStop is one pot by the plants in it: the weeks after go by the first of them.
func potStop(id uuid.UUID, in []conclude.Lived, visits []time.Time, seen []PotVisited, today time.Time) PotStop {
	first := in[0]
	planted, _ := first.Planted(today, visits)
	weeks := potting.Aftercare(first.Numbers, planted)
	s := PotStop{
		PotID: id, PlaceID: *first.Row.PottedPlaceID, Pot: *first.Facts().Pot, On: planted.On, Plants: []PotPlant{}, Visits: seen, ShockUntil: weeks.ShockUntil, NotNormal: weeks.NotNormal,
	}
	for _, l := range in {
		s.Plants = append(s.Plants, PotPlant{l.Row.ID, l.Row.Code})
	}
	step := func(from *potting.Step) *PotStep {
		if from == nil {
			return nil
		}
		return &PotStep{from.Day, from.On, from.Text}
	}
	s.Due, s.Next = step(weeks.Due(today)), step(weeks.Next(today))
	return s
}
