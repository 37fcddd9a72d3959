// Package bench lays stems on the bench as they are mapped and stand, tries plans on them, and shows the plans
// that were kept. It only reads.
package bench

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"

	"clearjar/core/cutplan"
	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/store/sqlgen"
	"clearjar/store/wish"
)

// PlanWish asks for a cut plan over stems of one mother. When any stem has knives, the knives
// are worked out as they lie; otherwise the planner proposes.
type PlanWish struct {
	Stems []StemWish `json:"stems" minItems:"1" maxItems:"12"`
	wish.Wish
}

// StemWish is one stem of a plan.
type StemWish struct {
	StemID uuid.UUID `json:"stem_id"`
	// Version of the map that was looked at; 0 for whatever stands now.
	Version int `json:"version,omitempty" minimum:"0" maximum:"1000000"`
	// KnivesMM, when given, are checked as they lie.
	KnivesMM []float64 `json:"knives_mm,omitempty" maxItems:"121"`
	// Skip lists nodes that are not to be used.
	Skip []int `json:"skip,omitempty" maxItems:"60"`
}

// PlanAnswer is a plan over one or more stems.
type PlanAnswer struct {
	Stems []StemPlan `json:"stems"`
	cutplan.Outlook
	Reached float64          `json:"reached"`
	Targets []cutplan.Target `json:"targets"`
	// Dark tells which half of the year was reckoned with.
	Dark bool `json:"dark"`
}

// StemPlan is the part of a plan on one stem.
type StemPlan struct {
	StemID  uuid.UUID    `json:"stem_id"`
	Letter  string       `json:"letter"`
	Version int          `json:"version"`
	Plan    cutplan.Plan `json:"plan"`
	// Wounds says what to do with the faces of each piece, in the order of the pieces.
	Wounds []string `json:"wounds"`
}

// LaidStem is a stem on the bench with what it is called.
type LaidStem struct {
	Bench   cutplan.Bench
	Stem    sqlgen.Stem
	Version int
	// taken is every piece that was taken from it.
	taken []sqlgen.PiecesOfStemRow
}

// PlanCut proposes where to cut, or works out what the given knives make of the stems.
func PlanCut(ctx context.Context, g *propagation.Garden, w PlanWish) (PlanAnswer, error) {
	laid, _, err := Lay(ctx, g, w)
	if err != nil {
		return PlanAnswer{}, err
	}
	return PlanOn(laid, w)
}

// PlanOn plans on stems that lie on the bench.
func PlanOn(laid []LaidStem, w PlanWish) (PlanAnswer, error) {
	given := false
	for _, s := range w.Stems {
		given = given || s.KnivesMM != nil
	}
	if !given {
		together, err := cutplan.ProposeTogether(benches(laid), w.Limits, w.Aim)
		if err != nil {
			return PlanAnswer{}, err
		}
		return answerOf(laid, together), nil
	}
	together := cutplan.Together{}
	for i, s := range w.Stems {
		plan, err := cutplan.Check(laid[i].Bench, w.Limits, s.KnivesMM)
		if err != nil {
			return PlanAnswer{}, err
		}
		together.Plans = append(together.Plans, plan)
	}
	together.Outlook = cutplan.OutlookOf(together.Plans)
	together.Reached = w.Aim.Reached(together.Outlook)
	return answerOf(laid, together), nil
}

func benches(laid []LaidStem) []cutplan.Bench {
	out := make([]cutplan.Bench, len(laid))
	for i, l := range laid {
		out[i] = l.Bench
	}
	return out
}

func answerOf(laid []LaidStem, t cutplan.Together) PlanAnswer {
	a := PlanAnswer{Outlook: t.Outlook, Reached: t.Reached, Targets: t.Targets, Dark: laid[0].Bench.IsDark(), Stems: []StemPlan{}}
	if a.Targets == nil {
		a.Targets = []cutplan.Target{}
	}
	for i, l := range laid {
		s := StemPlan{StemID: l.Stem.ID, Letter: l.Stem.Letter, Version: l.Version, Plan: t.Plans[i], Wounds: []string{}}
		for _, p := range s.Plan.Pieces {
			s.Wounds = append(s.Wounds, l.Bench.WoundsOf(p).Text(l.Bench.Hormone))
		}
		a.Stems = append(a.Stems, s)
	}
	return a
}

// CutChoices gives the best plan for each number of pieces, from fewer and safer to more and riskier.
func CutChoices(ctx context.Context, g *propagation.Garden, w PlanWish) ([]cutplan.Choice, error) {
	laid, _, err := Lay(ctx, g, w)
	if err != nil {
		return nil, err
	}
	// Single nodes are the risky end of the line, whatever pieces are preferred.
	l := w.Limits
	l.LeastNodes = 1
	return cutplan.Frontier(benches(laid), l, w.Aim)
}

// Lay puts the stems of a wish on the bench. They must grow on one mother, each on the map that
// was looked at.
func Lay(ctx context.Context, g *propagation.Garden, w PlanWish) ([]LaidStem, sqlgen.Mother, error) {
	var mother sqlgen.Mother
	if err := CheckStems(w.Stems); err != nil {
		return nil, mother, err
	}
	sheet, err := g.Sheet(ctx)
	if err != nil {
		return nil, mother, err
	}
	out := []LaidStem{}
	for i, s := range w.Stems {
		l, m, err := LayStem(ctx, g, s, w.Conditions, sheet)
		if err != nil {
			return nil, mother, err
		}
		if i > 0 && m.ID != mother.ID {
			return nil, mother, plant.Refuse("stems", "stems of one mother are planned together; these grow on %s and %s", mother.Code, m.Code)
		}
		mother = m
		out = append(out, l)
	}
	return out, mother, nil
}

// LayStem puts one stem on the bench as it stands, and gives her whose it is.
func LayStem(ctx context.Context, g *propagation.Garden, s StemWish, c cutplan.Conditions, sheet cutplan.Sheet) (LaidStem, sqlgen.Mother, error) {
	l := LaidStem{}
	var err error
	if l.Stem, err = g.Store.StemByID(ctx, s.StemID); err != nil {
		return l, sqlgen.Mother{}, propagation.Missing(err, "This stem")
	}
	mother, err := g.Store.MotherByID(ctx, l.Stem.MotherID)
	if err != nil {
		return l, mother, err
	}
	now, err := g.Store.NewestStemMap(ctx, s.StemID)
	if err != nil {
		return l, mother, propagation.Missing(err, "The map of this stem")
	}
	l.Version = int(now.Version)
	if s.Version != 0 && s.Version != l.Version {
		return l, mother, propagation.ConflictError{
			Reason: fmt.Sprintf("The map of stem %s has changed since the plan was made (version %d, now %d). Nothing was cut; plan again.", l.Stem.Letter, s.Version, l.Version),
			Theirs: Mapped(l.Stem.ID, mother.ID, l.Stem.Letter, l.Version, now.Map, now.MappedOn, nil, plant.Group{}),
		}
	}
	pieces, err := g.Store.PiecesOfStem(ctx, s.StemID)
	if err != nil {
		return l, mother, err
	}
	group, _ := plant.GroupNamed(mother.GroupKey)
	l.Bench = cutplan.NewBench(now.Map, group)
	l.Bench.Conditions, l.Bench.Sheet, l.Bench.Dark = c, sheet, plant.InDarkHalf(g.Today(), g.Southern)
	l.taken = pieces
	l.takenBy(nil)
	for i, n := range s.Skip {
		if n < 1 || n > len(now.Map.Nodes) {
			return l, mother, plant.Refuse(fmt.Sprintf("stems[].skip[%d]", i), "there is no node %d on stem %s", n, l.Stem.Letter)
		}
		l.Bench.Skip[n] = true
	}
	return l, mother, nil
}

// takenBy puts the stem on the bench as it stood at an instant, or with nil as it stands; later
// tells whether something was taken after it.
func (l *LaidStem) takenBy(at *time.Time) (later bool) {
	l.Bench.Taken, l.Bench.EndMM = map[int]bool{}, 0
	for _, t := range l.taken {
		if at != nil && t.RecordedAt.After(*at) {
			later = true
			continue
		}
		l.Bench.Take(t.Piece.First, t.Piece.Last, t.Piece.FromMM)
	}
	return later
}

// CheckStems refuses the same stem twice.
func CheckStems(stems []StemWish) error {
	seen := map[uuid.UUID]bool{}
	for i, s := range stems {
		if seen[s.StemID] {
			return plant.Refuse(fmt.Sprintf("stems[%d].stem_id", i), "the same stem twice")
		}
		seen[s.StemID] = true
	}
	return nil
}
