package show

import (
	"context"
	"slices"
	"time"

	"github.com/google/uuid"

	"clearjar/core/cutplan"
	"clearjar/core/life"
	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/propagation"
	"clearjar/propagation/bench"
	"clearjar/propagation/conclude"
	"clearjar/store/sqlgen"
)

// StemNow is a stem with its newest map and the nodes taken.
func StemNow(ctx context.Context, g *propagation.Garden, id uuid.UUID) (bench.MappedStem, error) {
	stem, err := g.Store.StemByID(ctx, id)
	if err != nil {
		return bench.MappedStem{}, propagation.Missing(err, "This stem")
	}
	mother, err := motherByID(ctx, g, stem.MotherID)
	if err != nil {
		return bench.MappedStem{}, err
	}
	for _, s := range mother.Stems {
		if s.ID == id {
			return s, nil
		}
	}
	return bench.MappedStem{}, propagation.MissingError{What: "The map of this stem"}
}

// Mother is a mother plant with its stems and what was taken from it.
type Mother struct {
	ID         uuid.UUID   `json:"id"`
	Code       string      `json:"code"`
	Name       string      `json:"name"`
	Group      plant.Group `json:"group"`
	Provenance string      `json:"provenance"`
	Pattern    string      `json:"pattern" enum:"plain,stable,unstable"`
	Since      time.Time   `json:"since"`
	// Known is false for the mother of a piece that was brought in, until someone says more about her.
	Known bool               `json:"known"`
	Stems []bench.MappedStem `json:"stems"`
	// Cuttings are those that stand, and all of her newest cuts.
	Cuttings []conclude.ShelfCutting `json:"cuttings"`
	// FromCutting is the cutting she was raised from, when she was raised here.
	FromCutting *uuid.UUID `json:"from_cutting,omitempty"`
	// WateredOn is when she was last watered, as far as it was noted.
	WateredOn *time.Time `json:"watered_on,omitempty"`
	LastCutOn *time.Time `json:"last_cut_on,omitempty"`
	// Fit tells whether she is fit to be cut today.
	Fit cutplan.Fitness `json:"fit"`
	// Cuts are what was taken when; Tally what became of it; Daughters the mothers raised from her cuttings.
	Cuts      []CutOn    `json:"cuts"`
	Tally     Tally      `json:"tally"`
	Daughters []Daughter `json:"daughters"`
	// Corrections are what was said of her before.
	Corrections []Corrected `json:"corrections"`
	// Pots are those she came into, oldest first; Next what she is potted on into, nil while nobody said what she stands in.
	Pots []MotherPot `json:"pots"`
	Next *MotherNext `json:"next_pot,omitempty"`
}

// CutOn is one cut of one stem.
type CutOn struct {
	ID     uuid.UUID `json:"id"`
	StemID uuid.UUID `json:"stem_id"`
	On     time.Time `json:"on"`
	// Cuttings are those that came of it; Spans where they were on the stem.
	Cuttings []uuid.UUID `json:"cuttings"`
	Spans    []StemSpan  `json:"spans"`
	// PartedFrom is the code of the piece it was parted from; empty for a cut of her own stem.
	PartedFrom string `json:"parted_from,omitempty"`
}

// StemSpan is a length of a stem, in mm above its base.
type StemSpan struct {
	FromMM float64 `json:"from_mm"`
	ToMM   float64 `json:"to_mm"`
}

// newestCuts is how many cuts of a mother are shown with their cuttings at once; those of an older one are asked
// for by [CuttingsOfCut]. What stands is always shown.
const newestCuts = 40

// Daughter is a mother that grew from a cutting.
type Daughter struct {
	ID        uuid.UUID `json:"id"`
	Code      string    `json:"code"`
	Name      string    `json:"name"`
	CuttingID uuid.UUID `json:"cutting_id"`
}

// Tally counts what became of the cuttings of a mother. Each counts once, in the furthest it came to.
type Tally struct {
	Taken       int `json:"taken"`
	Standing    int `json:"standing"`
	Potted      int `json:"potted"`
	Established int `json:"established"`
	Given       int `json:"given"`
	Lost        int `json:"lost"`
	// Expected is how many the plans expected of those that are decided; Came how many came.
	Decided  int     `json:"decided"`
	Came     int     `json:"came"`
	Expected float64 `json:"expected"`
	// Parted went into young plants, which count by themselves.
	Parted int `json:"parted"`
}

func (t *Tally) count(c conclude.ShelfCutting) {
	t.Taken++
	switch {
	case c.Fate == life.Lost:
		t.Lost++
	case c.Fate == life.Established:
		t.Established++
	case c.Fate == life.Parted:
		t.Parted++
	case c.Fate == life.GivenAway:
		t.Given++
	case c.Where == life.InPot:
		t.Potted++
	default:
		t.Standing++
	}
	// Decided is what has grown on or is lost: a potted one may still be either, a given one is never known.
	if c.Fate == life.Lost || c.Fate == life.Established {
		t.Decided++
		t.Expected += c.Piece.Chance
	}
	if c.Fate == life.Established {
		t.Came++
	}
}

// Mothers lists the collection.
func Mothers(ctx context.Context, g *propagation.Garden) ([]Mother, error) {
	rows, err := g.Store.Mothers(ctx)
	if err != nil {
		return nil, err
	}
	return mothers(ctx, g, rows, false)
}

// MotherPage is one mother with everything taken from it.
func MotherPage(ctx context.Context, g *propagation.Garden, id uuid.UUID) (Mother, error) {
	return oneMother(ctx, g, id, true)
}

// motherByID is one mother with her stems, without what was taken from her.
func motherByID(ctx context.Context, g *propagation.Garden, id uuid.UUID) (Mother, error) {
	return oneMother(ctx, g, id, false)
}

func oneMother(ctx context.Context, g *propagation.Garden, id uuid.UUID, withCuttings bool) (Mother, error) {
	row, err := g.Store.MotherByID(ctx, id)
	if err != nil {
		return Mother{}, propagation.Missing(err, "This mother")
	}
	if row.WithdrawnAt != nil {
		return Mother{}, propagation.MissingError{What: "This mother"}
	}
	all, err := mothers(ctx, g, []sqlgen.Mother{row}, withCuttings)
	if err != nil {
		return Mother{}, err
	}
	if err := addPots(ctx, g, &all[0]); err != nil {
		return Mother{}, err
	}
	return all[0], addCorrections(ctx, g, id, &all[0].Corrections)
}

func mothers(ctx context.Context, g *propagation.Garden, rows []sqlgen.Mother, withCuttings bool) ([]Mother, error) {
	ids := make([]uuid.UUID, len(rows))
	out := make([]Mother, len(rows))
	at := map[uuid.UUID]*Mother{}
	for i, r := range rows {
		group, _ := plant.GroupNamed(r.GroupKey)
		ids[i] = r.ID
		out[i] = Mother{
			ID: r.ID, Code: r.Code, Name: r.Name, Group: group, Provenance: r.Provenance, Pattern: r.Pattern, FromCutting: r.FromCutting,
			Since: r.RecordedAt, Known: r.Known, Stems: []bench.MappedStem{}, Cuttings: []conclude.ShelfCutting{}, Cuts: []CutOn{}, Daughters: []Daughter{}, Pots: []MotherPot{}, Corrections: []Corrected{},
		}
		at[r.ID] = &out[i]
	}
	stems, err := g.Store.StemsOfMothers(ctx, ids)
	if err != nil {
		return nil, err
	}
	taken, err := g.Store.TakenNodesOfMothers(ctx, ids)
	if err != nil {
		return nil, err
	}
	byStem := map[uuid.UUID][]bench.Taken{}
	for _, t := range taken {
		byStem[t.StemID] = append(byStem[t.StemID], bench.TakenAt(int(t.Node), t.Code, t.FromMm))
	}
	for _, s := range stems {
		m := at[s.MotherID]
		m.Stems = append(m.Stems, bench.Mapped(s.ID, s.MotherID, s.Letter, int(s.Version), s.Map, s.MappedOn, byStem[s.ID], m.Group))
	}
	if withCuttings && len(ids) > 0 {
		cuttings, err := conclude.Views(ctx, g, conclude.Only{Mothers: ids})
		if err != nil {
			return nil, err
		}
		for _, c := range cuttings {
			m := at[c.MotherID]
			m.Cuttings = append(m.Cuttings, c)
			m.Tally.count(c)
		}
	}
	if err := addCare(ctx, g, ids, at, withCuttings); err != nil {
		return nil, err
	}
	for i := range out {
		out[i].onlyNewest()
	}
	return out, addFitness(ctx, g, out)
}

// onlyNewest leaves of the cuttings those that stand and those of the newest cuts. Cuts are by date.
func (m *Mother) onlyNewest() {
	shown := map[uuid.UUID]bool{}
	for _, c := range m.Cuts[max(0, len(m.Cuts)-newestCuts):] {
		shown[c.ID] = true
	}
	m.Cuttings = slices.DeleteFunc(m.Cuttings, func(c conclude.ShelfCutting) bool {
		stands := c.Where != life.Ended && c.Where != life.Given
		return !stands && !shown[c.CutID]
	})
}

// CuttingsOfCut are the cuttings that came of one cut of one stem, by their code.
func CuttingsOfCut(ctx context.Context, g *propagation.Garden, cut uuid.UUID) ([]conclude.ShelfCutting, error) {
	rows, err := g.Store.CuttingsOfCuts(ctx, []uuid.UUID{cut})
	if err != nil || len(rows) == 0 {
		return []conclude.ShelfCutting{}, err
	}
	ids := make([]uuid.UUID, len(rows))
	for i, r := range rows {
		ids[i] = r.ID
	}
	return Cuttings(ctx, g, ids)
}

// addCare adds what was done to the mothers: waterings, cuts, and the mothers raised from them.
func addCare(ctx context.Context, g *propagation.Garden, ids []uuid.UUID, at map[uuid.UUID]*Mother, withCuts bool) error {
	waterings, err := g.Store.LastWaterings(ctx, ids)
	if err != nil {
		return err
	}
	for _, w := range waterings {
		on := w.WateredOn
		at[w.MotherID].WateredOn = &on
	}
	cuts, err := g.Store.StemCuts(ctx, ids)
	if err != nil {
		return err
	}
	for _, c := range cuts {
		m, on := at[c.MotherID], c.CutOn
		if c.ParentID == nil { // what is parted from a piece takes nothing from her
			m.LastCutOn = &on
		}
		if !withCuts {
			continue
		}
		cut := CutOn{ID: c.ID, StemID: c.StemID, On: on, PartedFrom: c.ParentCode, Cuttings: []uuid.UUID{}, Spans: []StemSpan{}}
		for _, v := range m.Cuttings {
			if v.CutID == c.ID {
				cut.Cuttings = append(cut.Cuttings, v.ID)
				if c.ParentID == nil {
					cut.Spans = append(cut.Spans, StemSpan{v.Piece.FromMM, v.Piece.ToMM})
				}
			}
		}
		m.Cuts = append(m.Cuts, cut)
	}
	if !withCuts {
		return nil
	}
	daughters, err := g.Store.MothersFrom(ctx, ids)
	for _, d := range daughters {
		m := at[d.ParentID]
		m.Daughters = append(m.Daughters, Daughter{d.ID, d.Code, d.Name, *d.FromCutting})
	}
	return err
}

// addFitness tells of each mother whether she is fit to be cut today.
func addFitness(ctx context.Context, g *propagation.Garden, mothers []Mother) error {
	sheet, err := g.Sheet(ctx)
	if err != nil {
		return err
	}
	today := g.Today()
	since := func(t *time.Time) int {
		if t == nil {
			return -1
		}
		return max(0, plant.Days(t.In(g.Zone), today))
	}
	for i := range mothers {
		m := &mothers[i]
		s := cutplan.Standing{
			Group: m.Group, Dark: plant.InDarkHalf(today, g.Southern), KeepLeaves: cutplan.DefaultLimits().KeepLeaves,
			DaysSinceCut: since(m.LastCutOn), DaysSinceWatered: since(m.WateredOn), Sheet: sheet,
		}
		for _, stem := range m.Stems {
			if rule, _ := stem.Organ.Rule(); rule.Leafy {
				s.LeafyMaps++
				s.Leaves += stem.Leaves()
			}
			s.Nodes += stem.Standing
		}
		m.Fit = cutplan.Fit(s)
	}
	return nil
}

// MotherPot is one pot she came into, and what spoke against it.
type MotherPot struct {
	ID       uuid.UUID   `json:"id"`
	On       time.Time   `json:"on"`
	Pot      potting.Pot `json:"pot"`
	RootsOff float64     `json:"roots_off"`
	Note     string      `json:"note,omitempty"`
	Against  []string    `json:"against"`
}

// MotherNext is the pot she is potted on into, and why.
type MotherNext struct {
	Pot potting.Pot `json:"pot"`
	Why string      `json:"why"`
}

// addPots adds the pots of a mother.
func addPots(ctx context.Context, g *propagation.Garden, m *Mother) error {
	rows, err := g.Store.MotherPots(ctx, m.ID)
	if err != nil || len(rows) == 0 {
		return err
	}
	numbers, err := g.Numbers(ctx)
	if err != nil {
		return err
	}
	var before *potting.Pot
	for _, r := range rows {
		m.Pots = append(m.Pots, MotherPot{r.ID, r.PottedOn, r.Pot, r.RootsOff, r.Note, potting.PottingOnAgainst(numbers, before, r.Pot, r.RootsOff)})
		before = &r.Pot
	}
	next, why := potting.NextPot(numbers, *before, 0)
	m.Next = &MotherNext{next, why}
	return nil
}
