package propagation

import (
	"context"
	"fmt"
	"math"
	"time"

	"github.com/google/uuid"

	"clearjar/core/cutplan"
	"clearjar/core/number"
	"clearjar/core/plant"
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

// laidStem is a stem on the bench with what it is called.
type laidStem struct {
	bench   cutplan.Bench
	stem    sqlgen.Stem
	version int
	// taken is every piece that was taken from it.
	taken []sqlgen.PiecesOfStemRow
}

// PlanCut proposes where to cut, or works out what the given knives make of the stems.
func (g *Garden) PlanCut(ctx context.Context, w PlanWish) (PlanAnswer, error) {
	laid, _, err := g.lay(ctx, w)
	if err != nil {
		return PlanAnswer{}, err
	}
	return planOn(laid, w)
}

// planOn plans on stems that lie on the bench.
func planOn(laid []laidStem, w PlanWish) (PlanAnswer, error) {
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
		plan, err := cutplan.Check(laid[i].bench, w.Limits, s.KnivesMM)
		if err != nil {
			return PlanAnswer{}, err
		}
		together.Plans = append(together.Plans, plan)
	}
	together.Outlook = cutplan.OutlookOf(together.Plans)
	together.Reached = w.Aim.Reached(together.Outlook)
	return answerOf(laid, together), nil
}

func benches(laid []laidStem) []cutplan.Bench {
	out := make([]cutplan.Bench, len(laid))
	for i, l := range laid {
		out[i] = l.bench
	}
	return out
}

func answerOf(laid []laidStem, t cutplan.Together) PlanAnswer {
	a := PlanAnswer{Outlook: t.Outlook, Reached: t.Reached, Targets: t.Targets, Dark: laid[0].bench.IsDark(), Stems: []StemPlan{}}
	if a.Targets == nil {
		a.Targets = []cutplan.Target{}
	}
	for i, l := range laid {
		s := StemPlan{StemID: l.stem.ID, Letter: l.stem.Letter, Version: l.version, Plan: t.Plans[i], Wounds: []string{}}
		for _, p := range s.Plan.Pieces {
			s.Wounds = append(s.Wounds, l.bench.WoundsOf(p).Text(l.bench.Hormone))
		}
		a.Stems = append(a.Stems, s)
	}
	return a
}

// CutChoices gives the best plan for each number of pieces, from fewer and safer to more and riskier.
func (g *Garden) CutChoices(ctx context.Context, w PlanWish) ([]cutplan.Choice, error) {
	laid, _, err := g.lay(ctx, w)
	if err != nil {
		return nil, err
	}
	// Single nodes are the risky end of the line, whatever pieces are preferred.
	l := w.Limits
	l.LeastNodes = 1
	return cutplan.Frontier(benches(laid), l, w.Aim)
}

// lay puts the stems of a wish on the bench. They must grow on one mother, each on the map that
// was looked at.
func (g *Garden) lay(ctx context.Context, w PlanWish) ([]laidStem, sqlgen.Mother, error) {
	var mother sqlgen.Mother
	if err := checkStems(w.Stems); err != nil {
		return nil, mother, err
	}
	sheet, err := g.sheet(ctx)
	if err != nil {
		return nil, mother, err
	}
	out := []laidStem{}
	for i, s := range w.Stems {
		l, m, err := g.layStem(ctx, s, w.Conditions, sheet)
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

func (g *Garden) layStem(ctx context.Context, s StemWish, c cutplan.Conditions, sheet cutplan.Sheet) (laidStem, sqlgen.Mother, error) {
	l := laidStem{}
	var err error
	if l.stem, err = g.store.StemByID(ctx, s.StemID); err != nil {
		return l, sqlgen.Mother{}, missing(err, "This stem")
	}
	mother, err := g.store.MotherByID(ctx, l.stem.MotherID)
	if err != nil {
		return l, mother, err
	}
	now, err := g.store.NewestStemMap(ctx, s.StemID)
	if err != nil {
		return l, mother, missing(err, "The map of this stem")
	}
	l.version = int(now.Version)
	if s.Version != 0 && s.Version != l.version {
		return l, mother, ConflictError{
			Reason: fmt.Sprintf("The map of stem %s has changed since the plan was made (version %d, now %d). Nothing was cut; plan again.", l.stem.Letter, s.Version, l.version),
			Theirs: mapped(l.stem.ID, mother.ID, l.stem.Letter, l.version, now.Map, now.MappedOn, nil, plant.Group{}),
		}
	}
	pieces, err := g.store.PiecesOfStem(ctx, s.StemID)
	if err != nil {
		return l, mother, err
	}
	group, _ := plant.GroupNamed(mother.GroupKey)
	l.bench = cutplan.Bench{
		Stem: now.Map, Group: group, Skip: map[int]bool{}, Conditions: c, Sheet: sheet, Dark: plant.InDarkHalf(g.Today(), g.southern),
	}
	l.taken = pieces
	l.takenBy(nil)
	for i, n := range s.Skip {
		if n < 1 || n > len(now.Map.Nodes) {
			return l, mother, plant.Refuse(fmt.Sprintf("stems[].skip[%d]", i), "there is no node %d on stem %s", n, l.stem.Letter)
		}
		l.bench.Skip[n] = true
	}
	return l, mother, nil
}

// takenBy puts the stem on the bench as it stood at an instant, or with nil as it stands; later
// tells whether something was taken after it.
func (l *laidStem) takenBy(at *time.Time) (later bool) {
	l.bench.Taken, l.bench.EndMM = map[int]bool{}, math.Inf(1)
	for _, t := range l.taken {
		if at != nil && t.RecordedAt.After(*at) {
			later = true
			continue
		}
		for n := t.Piece.First; n <= t.Piece.Last; n++ {
			l.bench.Taken[n] = true
		}
		l.bench.EndMM = math.Min(l.bench.EndMM, t.Piece.FromMM)
	}
	return later
}

// numbers are those of the job with the grower's decisions laid over them.
func (g *Garden) numbers(ctx context.Context) (number.Table, error) {
	rows, err := g.store.PlannerNumbers(ctx)
	if err != nil {
		return number.Table{}, err
	}
	return tableOf(rows)
}

// sheet is the numbers as the planner takes them.
func (g *Garden) sheet(ctx context.Context) (cutplan.Sheet, error) {
	t, err := g.numbers(ctx)
	return cutplan.Sheet{Table: t}, err
}

func tableOf(rows []sqlgen.PlannerNumber) (number.Table, error) {
	changes := []number.Change{}
	for _, r := range rows {
		if r.Kind != "start" && number.Known(r.Key) {
			changes = append(changes, number.Change{Key: r.Key, Value: r.Value, Won: int(r.Won), Tried: int(r.Tried)})
		}
	}
	return number.Table{}.With(changes...)
}
