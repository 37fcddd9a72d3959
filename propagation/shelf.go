package propagation

import (
	"context"
	"sort"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/core/readiness"
)

// Shelf is everything that stands: the places, their vessels, and every cutting with its verdict, most urgent first.
type Shelf struct {
	Today    time.Time     `json:"today"`
	Places   []Place       `json:"places"`
	Vessels  []VesselView  `json:"vessels"`
	Cuttings []CuttingView `json:"cuttings"`
}

// Shelf shows how they all are.
func (g *Garden) Shelf(ctx context.Context) (Shelf, error) {
	all, err := g.cuttings(ctx, only{standing: true})
	if err != nil {
		return Shelf{}, err
	}
	out := Shelf{Today: g.Today(), Places: []Place{}, Vessels: []VesselView{}, Cuttings: make([]CuttingView, 0, len(all))}
	for _, c := range all {
		out.Cuttings = append(out.Cuttings, c.brief())
	}
	sort.SliceStable(out.Cuttings, func(i, j int) bool {
		return readiness.Urgency(out.Cuttings[i].Judgement.Verdict) < readiness.Urgency(out.Cuttings[j].Judgement.Verdict)
	})
	places, err := g.store.Places(ctx)
	if err != nil {
		return Shelf{}, err
	}
	for _, p := range places {
		out.Places = append(out.Places, Place{p.ID, p.Name})
	}
	vessels, err := g.store.Vessels(ctx)
	if err != nil {
		return Shelf{}, err
	}
	for _, v := range vessels {
		out.Vessels = append(out.Vessels, vesselView(v))
	}
	return out, nil
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
	Cutting CuttingView     `json:"cutting"`
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
