// Package show is what the screens read: the shelf, a cutting's page, the mothers, the handbook. It only reads.
package show

import (
	"bufio"
	"context"
	"encoding/json"
	"io"
	"sort"
	"time"

	"github.com/google/uuid"

	"clearjar/propagation"
	"clearjar/propagation/conclude"
	"clearjar/store/sqlgen"
)

// Shelf is everything that stands: the places, their vessels, and every cutting with its verdict, most urgent first.
type Shelf struct {
	Today    time.Time                `json:"today"`
	Places   []propagation.Place      `json:"places"`
	Vessels  []propagation.VesselView `json:"vessels"`
	Cuttings []conclude.OnShelf       `json:"cuttings"`
}

// WriteJSON writes the shelf with what was kept of each cutting as it is.
func (s Shelf) WriteJSON(w io.Writer) error {
	head := struct {
		Today   time.Time                `json:"today"`
		Places  []propagation.Place      `json:"places"`
		Vessels []propagation.VesselView `json:"vessels"`
	}{s.Today, s.Places, s.Vessels}
	text, err := json.Marshal(head)
	if err != nil {
		return err
	}
	out := bufio.NewWriterSize(w, 64<<10)
	_, _ = out.Write(text[:len(text)-1])
	_, _ = out.WriteString(`,"cuttings":[`)
	for i, c := range s.Cuttings {
		if i > 0 {
			_ = out.WriteByte(',')
		}
		_, _ = out.Write(c)
	}
	_, _ = out.WriteString("]}\n")
	return out.Flush()
}

// Shelf shows how they all are.
func ShelfNow(ctx context.Context, g *propagation.Garden) (Shelf, error) {
	out := Shelf{Today: g.Today(), Places: []propagation.Place{}, Vessels: []propagation.VesselView{}}
	vessels, err := g.Store.VesselsEver(ctx)
	if err != nil {
		return out, err
	}
	places, err := g.Store.Places(ctx)
	if err != nil {
		return out, err
	}
	in := conclude.Standings{Vessels: map[uuid.UUID]propagation.VesselView{}, Places: map[uuid.UUID]sqlgen.Place{}}
	for _, v := range vessels {
		if v.EndedOn == nil {
			out.Vessels = append(out.Vessels, propagation.VesselOf(v))
		}
		in.Vessels[v.ID] = propagation.VesselOf(v)
	}
	for _, p := range places {
		out.Places = append(out.Places, propagation.Place{ID: p.ID, Name: p.Name})
		in.Places[p.ID] = p
	}
	all, err := conclude.Concluded(ctx, g, conclude.Only{Standing: true})
	if err != nil {
		return out, err
	}
	// What loses most by waiting a day comes first; what loses alike, by its verdict.
	sort.SliceStable(all, func(i, j int) bool {
		if a, b := all[i].DayLoss, all[j].DayLoss; a != b {
			return a > b
		}
		return all[i].Urgency < all[j].Urgency
	})
	out.Cuttings = make([]conclude.OnShelf, len(all))
	for i, c := range all {
		out.Cuttings[i] = c.Named(in)
	}
	return out, nil
}

// VesselNow is a vessel as it stands.
func VesselNow(ctx context.Context, g *propagation.Garden, id uuid.UUID) (propagation.VesselView, error) {
	row, err := g.Store.VesselByID(ctx, id)
	if err != nil {
		return propagation.VesselView{}, propagation.Missing(err, "This vessel")
	}
	return propagation.VesselOf(row), nil
}

// PlaceNow is a shelf as it is called.
func PlaceNow(ctx context.Context, g *propagation.Garden, id uuid.UUID) (propagation.Place, error) {
	p, err := g.Store.PlaceByID(ctx, id)
	return propagation.Place{ID: p.ID, Name: p.Name}, propagation.Missing(err, "This shelf")
}

// Cuttings are these cuttings as the lists draw them, by the day they were cut.
func Cuttings(ctx context.Context, g *propagation.Garden, ids []uuid.UUID) ([]conclude.ShelfCutting, error) {
	return conclude.Views(ctx, g, conclude.Only{IDs: ids})
}

// CuttingNow is one cutting as the lists draw it.
func CuttingNow(ctx context.Context, g *propagation.Garden, id uuid.UUID) (conclude.ShelfCutting, error) {
	all, err := Cuttings(ctx, g, []uuid.UUID{id})
	if err != nil {
		return conclude.ShelfCutting{}, err
	}
	if len(all) == 0 {
		return conclude.ShelfCutting{}, propagation.MissingError{What: "This cutting"}
	}
	return all[0], nil
}
