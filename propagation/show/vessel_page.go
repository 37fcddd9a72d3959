package show

import (
	"context"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/store/sqlgen"
)

// VesselPage is one vessel: as it stands, what is due, and what was done with it, newest first.
type VesselPage struct {
	Vessel propagation.VesselView `json:"vessel"`
	// Stop is what is due; left out once it was emptied.
	Stop    *Stop         `json:"stop,omitempty"`
	History []VesselEvent `json:"history"`
	// Earlier: there is more of it than is shown.
	Earlier bool `json:"earlier"`
}

// VesselEvent is one thing that happened to a vessel.
type VesselEvent struct {
	ID     uuid.UUID        `json:"id"`
	Kind   string           `json:"kind" enum:"care,moved,emptied,broken"`
	At     time.Time        `json:"at"`
	Acts   []plant.Act      `json:"acts"`
	Seen   []plant.Sign     `json:"seen"`
	Cover  plant.CoverState `json:"cover,omitempty"`
	Well   bool             `json:"well"`
	PutOff string           `json:"put_off,omitempty"`
	Note   string           `json:"note,omitempty"`
	Place  string           `json:"place,omitempty"`
	// By is who noted it; left out when it was no member.
	By *Noter `json:"by,omitempty"`
}

// historyShown is how many events a vessel's page shows.
const historyShown = 200

// OneVessel is the page of a vessel.
func OneVessel(ctx context.Context, g *propagation.Garden, id uuid.UUID) (VesselPage, error) {
	v, err := VesselNow(ctx, g, id)
	if err != nil {
		return VesselPage{}, err
	}
	out := VesselPage{Vessel: v, History: []VesselEvent{}}
	if v.EndedOn == nil {
		stop, err := StopNow(ctx, g, id)
		if err != nil {
			return out, err
		}
		out.Stop = &stop
	}
	rows, err := g.Store.VesselHistory(ctx, sqlgen.VesselHistoryParams{VesselID: id, Most: historyShown + 1})
	if out.Earlier = len(rows) > historyShown; out.Earlier {
		rows = rows[:historyShown]
	}
	if err != nil {
		return out, err
	}
	ids := make([]uuid.UUID, len(rows))
	for i, r := range rows {
		ids[i] = r.ID
	}
	by, err := noters(ctx, g, ids)
	for _, r := range rows {
		out.History = append(out.History, VesselEvent{r.ID, r.Kind, r.At, keysOf[plant.Act](r.Acts), keysOf[plant.Sign](r.Seen), plant.CoverState(r.Cover), r.Well, r.PutOff, r.Note, r.Place, by[r.ID]})
	}
	return out, err
}
