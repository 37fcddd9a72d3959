package propagation

import (
	"bufio"
	"context"
	"encoding/json"
	"io"
	"reflect"
	"sort"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/store/sqlgen"
)

// Shelf is everything that stands: the places, their vessels, and every cutting with its verdict, most urgent first.
type Shelf struct {
	Today    time.Time    `json:"today"`
	Places   []Place      `json:"places"`
	Vessels  []VesselView `json:"vessels"`
	Cuttings []OnShelf    `json:"cuttings"`
}

// WriteJSON writes the shelf with what was kept of each cutting as it is.
func (s Shelf) WriteJSON(w io.Writer) error {
	head := struct {
		Today   time.Time    `json:"today"`
		Places  []Place      `json:"places"`
		Vessels []VesselView `json:"vessels"`
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

// OnShelf is a [ShelfCutting] as it was kept and is sent.
type OnShelf json.RawMessage

// MarshalJSON gives it as it is.
func (o OnShelf) MarshalJSON() ([]byte, error) { return o, nil }

// UnmarshalJSON takes it as it comes.
func (o *OnShelf) UnmarshalJSON(text []byte) error {
	*o = append((*o)[:0], text...)
	return nil
}

// Cutting reads what it says.
func (o OnShelf) Cutting() (c ShelfCutting, err error) {
	err = json.Unmarshal(o, &c)
	return c, err
}

// Schema is that of a [ShelfCutting].
func (OnShelf) Schema(r huma.Registry) *huma.Schema {
	return r.Schema(reflect.TypeOf(ShelfCutting{}), true, "ShelfCutting")
}

// Shelf shows how they all are.
func (g *Garden) Shelf(ctx context.Context) (Shelf, error) {
	out := Shelf{Today: g.Today(), Places: []Place{}, Vessels: []VesselView{}}
	vessels, err := g.store.Vessels(ctx)
	if err != nil {
		return out, err
	}
	places, err := g.store.Places(ctx)
	if err != nil {
		return out, err
	}
	in := standings{map[uuid.UUID]VesselView{}, map[uuid.UUID]sqlgen.Place{}}
	for _, v := range vessels {
		out.Vessels = append(out.Vessels, vesselView(v))
		in.vessels[v.ID] = vesselView(v)
	}
	for _, p := range places {
		out.Places = append(out.Places, Place{p.ID, p.Name})
		in.places[p.ID] = p
	}
	all, err := g.concluded(ctx, only{standing: true})
	if err != nil {
		return out, err
	}
	sort.SliceStable(all, func(i, j int) bool { return all[i].urgency < all[j].urgency })
	out.Cuttings = make([]OnShelf, len(all))
	for i, c := range all {
		out.Cuttings[i] = c.named(in)
	}
	return out, nil
}

// VesselNow is a vessel as it stands.
func (g *Garden) VesselNow(ctx context.Context, id uuid.UUID) (VesselView, error) {
	row, err := g.store.VesselByID(ctx, id)
	return vesselView(row), missing(err, "This vessel")
}

// PlaceNow is a shelf as it is called.
func (g *Garden) PlaceNow(ctx context.Context, id uuid.UUID) (Place, error) {
	p, err := g.store.PlaceByID(ctx, id)
	return Place{p.ID, p.Name}, missing(err, "This shelf")
}

// Cuttings are these cuttings as the lists draw them, by the day they were cut.
func (g *Garden) Cuttings(ctx context.Context, ids []uuid.UUID) ([]ShelfCutting, error) {
	return g.views(ctx, only{ids: ids})
}

// CuttingNow is one cutting as the lists draw it.
func (g *Garden) CuttingNow(ctx context.Context, id uuid.UUID) (ShelfCutting, error) {
	all, err := g.Cuttings(ctx, []uuid.UUID{id})
	if err != nil {
		return ShelfCutting{}, err
	}
	if len(all) == 0 {
		return ShelfCutting{}, MissingError{"This cutting"}
	}
	return all[0], nil
}

// Event is one thing that happened to a cutting.
type Event struct {
	On time.Time `json:"on"`
	// Kind and About name the fact, for putting its date right or taking it back.
	Kind  string    `json:"kind" enum:"cut,set,look,potted,outcome,given,cut_back"`
	About uuid.UUID `json:"about"`
	Text  string    `json:"text"`
	// Was is what it said before it was corrected.
	Was []string `json:"was"`
}

// SchoolVerdict is what each school would say.
type SchoolVerdict struct {
	School  plant.School  `json:"school"`
	Verdict plant.Verdict `json:"verdict" enum:"wait,look,ready,overdue,rescue,growing_on,done,lost"`
}

// CuttingPage is one piece's life.
type CuttingPage struct {
	Cutting PageCutting     `json:"cutting"`
	Vessel  *VesselView     `json:"vessel,omitempty"`
	Group   plant.Group     `json:"group"`
	Schools []SchoolVerdict `json:"schools"`
	Looks   []LookView      `json:"looks"`
	History []Event         `json:"history"`
	Longest []LongestAt     `json:"longest"`
	Care    []AftercareStep `json:"aftercare"`
	Caution []plant.Caution `json:"cautions"`
	Sisters []Sister        `json:"sisters"`
	Wanted  plant.Number    `json:"wanted"`
	// Outcome is how it ended, when it has.
	Outcome *OutcomeView `json:"outcome,omitempty"`
	// Words is how a piece of its kind is spoken of.
	Words plant.KindRow `json:"words"`
}

// LongestAt is the longest root on one day since setting.
type LongestAt struct {
	Day    float64   `json:"day"`
	On     time.Time `json:"on"`
	MM     float64   `json:"mm"`
	LowMM  float64   `json:"low_mm"`
	HighMM float64   `json:"high_mm"`
}

// AftercareStep is one dated step after potting.
type AftercareStep struct {
	Day  int       `json:"day"`
	On   time.Time `json:"on"`
	Text string    `json:"text"`
	Past bool      `json:"past"`
}

// OutcomeView is how a cutting ended.
type OutcomeView struct {
	ID uuid.UUID `json:"id"`
	OutcomeWords
}

// Sister is another cutting of the same cut.
type Sister struct {
	ID      uuid.UUID     `json:"id"`
	Code    string        `json:"code"`
	Verdict plant.Verdict `json:"verdict" enum:"wait,look,ready,overdue,rescue,growing_on,done,lost"`
}
