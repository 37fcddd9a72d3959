package propagation

import (
	"context"
	"math"
	"time"

	"github.com/google/uuid"

	"clearjar/core/cutplan"
	"clearjar/core/life"
	"clearjar/core/plant"
	"clearjar/store/sqlgen"
)

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
	Known    bool           `json:"known"`
	Stems    []MappedStem   `json:"stems"`
	Cuttings []ShelfCutting `json:"cuttings"`
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
}

// CutOn is one cut of one stem.
type CutOn struct {
	ID     uuid.UUID `json:"id"`
	StemID uuid.UUID `json:"stem_id"`
	On     time.Time `json:"on"`
	// Cuttings are those that came of it.
	Cuttings []uuid.UUID `json:"cuttings"`
}

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
}

func (t *Tally) count(c ShelfCutting) {
	t.Taken++
	switch {
	case c.Fate == life.Lost:
		t.Lost++
	case c.Fate == life.Established:
		t.Established++
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

// MappedStem is one stem with the newest version of its map.
type MappedStem struct {
	ID       uuid.UUID  `json:"id"`
	MotherID uuid.UUID  `json:"mother_id"`
	Letter   string     `json:"letter"`
	Version  int        `json:"version"`
	Stem     plant.Stem `json:"map"`
	MappedAt time.Time  `json:"mapped_at"`
	Taken    []Taken    `json:"taken"`
	// Organ is what it is, also where the map does not say; Standing how many nodes, from the
	// base up, are still on the mother, and EndMM where they end.
	Organ    plant.Organ `json:"organ" enum:"stem,rhizome,runner,clump,tuber,leaf"`
	Standing int         `json:"standing"`
	EndMM    float64     `json:"end_mm"`
}

// Taken is a node that is no longer on the stem, and the cutting that has it.
type Taken struct {
	Node int    `json:"node"`
	Code string `json:"code"`

	fromMM float64
}

// Mothers lists the collection.
func (g *Garden) Mothers(ctx context.Context) ([]Mother, error) {
	rows, err := g.store.Mothers(ctx)
	if err != nil {
		return nil, err
	}
	return g.mothers(ctx, rows, false)
}

// MotherPage is one mother with everything taken from it.
func (g *Garden) MotherPage(ctx context.Context, id uuid.UUID) (Mother, error) {
	return g.oneMother(ctx, id, true)
}

// motherByID is one mother with her stems, without what was taken from her.
func (g *Garden) motherByID(ctx context.Context, id uuid.UUID) (Mother, error) {
	return g.oneMother(ctx, id, false)
}

func (g *Garden) oneMother(ctx context.Context, id uuid.UUID, withCuttings bool) (Mother, error) {
	row, err := g.store.MotherByID(ctx, id)
	if err != nil {
		return Mother{}, missing(err, "This mother")
	}
	if row.WithdrawnAt != nil {
		return Mother{}, MissingError{"This mother"}
	}
	all, err := g.mothers(ctx, []sqlgen.Mother{row}, withCuttings)
	if err != nil {
		return Mother{}, err
	}
	return all[0], g.addCorrections(ctx, id, &all[0].Corrections)
}

func (g *Garden) mothers(ctx context.Context, rows []sqlgen.Mother, withCuttings bool) ([]Mother, error) {
	ids := make([]uuid.UUID, len(rows))
	out := make([]Mother, len(rows))
	at := map[uuid.UUID]*Mother{}
	for i, r := range rows {
		group, _ := plant.GroupNamed(r.GroupKey)
		ids[i] = r.ID
		out[i] = Mother{
			ID: r.ID, Code: r.Code, Name: r.Name, Group: group, Provenance: r.Provenance, Pattern: r.Pattern, FromCutting: r.FromCutting,
			Since: r.RecordedAt, Known: r.Known, Stems: []MappedStem{}, Cuttings: []ShelfCutting{}, Cuts: []CutOn{}, Daughters: []Daughter{}, Corrections: []Corrected{},
		}
		at[r.ID] = &out[i]
	}
	stems, err := g.store.StemsOfMothers(ctx, ids)
	if err != nil {
		return nil, err
	}
	taken, err := g.store.TakenNodesOfMothers(ctx, ids)
	if err != nil {
		return nil, err
	}
	byStem := map[uuid.UUID][]Taken{}
	for _, t := range taken {
		byStem[t.StemID] = append(byStem[t.StemID], Taken{int(t.Node), t.Code, t.FromMm})
	}
	for _, s := range stems {
		m := at[s.MotherID]
		m.Stems = append(m.Stems, mapped(s.ID, s.MotherID, s.Letter, int(s.Version), s.Map, s.MappedOn, byStem[s.ID], m.Group))
	}
	if withCuttings && len(ids) > 0 {
		cuttings, err := g.views(ctx, only{mothers: ids})
		if err != nil {
			return nil, err
		}
		for _, c := range cuttings {
			m := at[c.MotherID]
			m.Cuttings = append(m.Cuttings, c)
			m.Tally.count(c)
		}
	}
	if err := g.addCare(ctx, ids, at, withCuttings); err != nil {
		return nil, err
	}
	return out, g.addFitness(ctx, out)
}

// addCare adds what was done to the mothers: waterings, cuts, and the mothers raised from them.
func (g *Garden) addCare(ctx context.Context, ids []uuid.UUID, at map[uuid.UUID]*Mother, withCuts bool) error {
	waterings, err := g.store.LastWaterings(ctx, ids)
	if err != nil {
		return err
	}
	for _, w := range waterings {
		on := w.WateredOn
		at[w.MotherID].WateredOn = &on
	}
	cuts, err := g.store.StemCuts(ctx, ids)
	if err != nil {
		return err
	}
	for _, c := range cuts {
		m, on := at[c.MotherID], c.CutOn
		m.LastCutOn = &on
		if !withCuts {
			continue
		}
		cut := CutOn{ID: c.ID, StemID: c.StemID, On: on, Cuttings: []uuid.UUID{}}
		for _, v := range m.Cuttings {
			if v.CutID == c.ID {
				cut.Cuttings = append(cut.Cuttings, v.ID)
			}
		}
		m.Cuts = append(m.Cuts, cut)
	}
	if !withCuts {
		return nil
	}
	daughters, err := g.store.MothersFrom(ctx, ids)
	for _, d := range daughters {
		m := at[d.ParentID]
		m.Daughters = append(m.Daughters, Daughter{d.ID, d.Code, d.Name, *d.FromCutting})
	}
	return err
}

// addFitness tells of each mother whether she is fit to be cut today.
func (g *Garden) addFitness(ctx context.Context, mothers []Mother) error {
	sheet, err := g.sheet(ctx)
	if err != nil {
		return err
	}
	today := g.Today()
	since := func(t *time.Time) int {
		if t == nil {
			return -1
		}
		return max(0, plant.Days(t.In(g.zone), today))
	}
	for i := range mothers {
		m := &mothers[i]
		s := cutplan.Standing{
			Group: m.Group, Dark: plant.InDarkHalf(today, g.southern), KeepLeaves: cutplan.DefaultLimits().KeepLeaves,
			DaysSinceCut: since(m.LastCutOn), DaysSinceWatered: since(m.WateredOn), Sheet: sheet,
		}
		for _, stem := range m.Stems {
			if rule, _ := stem.Organ.Rule(); rule.Leafy {
				s.LeafyMaps++
				s.Leaves += stem.leaves()
			}
			s.Nodes += stem.Standing
		}
		m.Fit = cutplan.Fit(s)
	}
	return nil
}

// on works out what it is on a mother of the group, and what of it stands.
func (s MappedStem) on(group plant.Group) MappedStem {
	b := cutplan.Bench{Stem: s.Stem, Group: group, Taken: map[int]bool{}, EndMM: math.Inf(1)}
	for _, t := range s.Taken {
		b.Taken[t.Node] = true
		b.EndMM = math.Min(b.EndMM, t.fromMM)
	}
	s.Organ, s.Standing, s.EndMM = b.Organ(), b.Standing(), b.End()
	return s
}

// leaves counts those that stand.
func (s MappedStem) leaves() int {
	n := 0
	for _, node := range s.Stem.Nodes[:s.Standing] {
		if node.Leaf {
			n++
		}
	}
	return n
}

func mapped(id, mother uuid.UUID, letter string, version int, stem plant.Stem, on time.Time, taken []Taken, group plant.Group) MappedStem {
	if taken == nil {
		taken = []Taken{}
	}
	if stem.Nodes == nil {
		stem.Nodes = []plant.Node{}
	}
	return MappedStem{ID: id, MotherID: mother, Letter: letter, Version: version, Stem: stem, MappedAt: on, Taken: taken}.on(group)
}
