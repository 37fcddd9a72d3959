package propagation

import (
	"context"
	"fmt"
	"reflect"

	"github.com/google/uuid"

	"clearjar/core/cutplan"
	"clearjar/core/plant"
	"clearjar/propagation/exchange"
	"clearjar/store"
	"clearjar/store/sqlgen"
)

// Export writes all stem maps, or all kept plans, as JSON or CSV.
func (g *Garden) Export(ctx context.Context, what, format string) ([]byte, error) {
	if format != exchange.CSV && format != exchange.JSON {
		return nil, plant.Refuse("format", "json or csv")
	}
	switch what {
	case exchange.StemMaps:
		records, err := g.stemRecords(ctx)
		if err != nil {
			return nil, err
		}
		if format == exchange.CSV {
			return exchange.StemsCSV(records)
		}
		return exchange.WriteJSON(what, records)
	case exchange.CutPlans:
		records, err := g.planRecords(ctx)
		if err != nil {
			return nil, err
		}
		if format == exchange.CSV {
			return exchange.PlansCSV(records)
		}
		return exchange.WriteJSON(what, records)
	}
	return nil, plant.Refuse("what", "stems or plans")
}

func (g *Garden) stemRecords(ctx context.Context) ([]exchange.StemRecord, error) {
	mothers, err := g.Mothers(ctx)
	out := []exchange.StemRecord{}
	for _, m := range mothers {
		for _, s := range m.Stems {
			out = append(out, exchange.StemRecord{Mother: m.Code, MotherName: m.Name, Group: m.Group.Key, Pattern: m.Pattern, Stem: s.Letter, Map: s.Stem})
		}
	}
	return out, err
}

func (g *Garden) planRecords(ctx context.Context) ([]exchange.PlanRecord, error) {
	plans, err := g.Plans(ctx)
	if err != nil {
		return nil, err
	}
	out := []exchange.PlanRecord{}
	for _, brief := range plans {
		p, err := g.PlanPage(ctx, brief.ID)
		if err != nil {
			return nil, err
		}
		r := exchange.PlanRecord{Mother: p.MotherCode, Wish: p.Wish}
		for i, s := range p.Stems {
			stem := exchange.PlanStem{Stem: s.Letter, Version: s.Version, KnivesMM: s.Plan.KnivesMM, Skip: p.Skips[i]}
			for _, piece := range s.Plan.Pieces {
				stem.Pieces = append(stem.Pieces, exchange.PlanPiece{
					First: piece.First, Last: piece.Last, Kind: piece.Kind, FromMM: piece.FromMM, ToMM: piece.ToMM, Set: piece.Set, Chance: piece.Chance,
				})
			}
			r.Stems = append(r.Stems, stem)
		}
		out = append(out, r)
	}
	return out, nil
}

// ImportReport is what became of a file.
type ImportReport struct {
	// Read counts the records of the file that make sense; Kept those written, Same those that
	// were here already as they are.
	Read int `json:"read"`
	Kept int `json:"kept"`
	Same int `json:"same"`
	// Names of what was written.
	Names []string          `json:"names"`
	Bad   []exchange.BadRow `json:"bad"`
	// Says is the whole in a sentence.
	Says string `json:"says"`
}

// errBad undoes an import that has bad rows.
var errBad = fmt.Errorf("there are bad rows")

// Import reads a file of stem maps or plans. Every row is checked. With a bad row nothing is
// kept, unless keepGood asks for the good ones.
func (g *Garden) Import(ctx context.Context, what, format string, data []byte, keepGood bool) (ImportReport, error) {
	report := ImportReport{Names: []string{}}
	var write func(g *Garden) error
	switch what {
	case exchange.StemMaps:
		records, wrong, err := exchange.ReadStems(format, data)
		if err != nil {
			return report, err
		}
		report.Bad, report.Read = wrong, len(records)
		write = func(g *Garden) error { return each(ctx, records, &report, g.importStem) }
	case exchange.CutPlans:
		records, wrong, err := exchange.ReadPlans(format, data)
		if err != nil {
			return report, err
		}
		report.Bad, report.Read = wrong, len(records)
		write = func(g *Garden) error { return each(ctx, records, &report, g.importPlan) }
	default:
		return report, plant.Refuse("what", "stems or plans")
	}
	err := g.store.InTx(ctx, func(q *sqlgen.Queries) error {
		if err := write(&Garden{g.store.In(q), g.now, g.zone}); err != nil {
			return err
		}
		if len(report.Bad) > 0 && !keepGood {
			return errBad
		}
		return nil
	})
	if err == errBad { //nolint:errorlint // our own, unwrapped
		report.Kept, report.Names = 0, []string{}
		report.Says = fmt.Sprintf("Nothing was kept: %d of the rows are bad. Mend them, or keep the good ones.", len(report.Bad))
		return report, nil
	}
	report.Says = fmt.Sprintf("%d kept, %d already here as they are, %d bad.", report.Kept, report.Same, len(report.Bad))
	return report, err
}

// each writes records one by one; what a use case refuses becomes a bad row.
func each[T any](ctx context.Context, records []T, report *ImportReport, write func(context.Context, T) (line int, name string, same bool, err error)) error {
	for _, r := range records {
		line, name, same, err := write(ctx, r)
		switch refused := reasons(err); {
		case len(refused) > 0:
			for _, f := range refused {
				report.Bad = append(report.Bad, exchange.BadRow{Line: line, Field: f.Field, Reason: f.Reason})
			}
		case err != nil:
			return err
		case same:
			report.Same++
		default:
			report.Kept++
			report.Names = append(report.Names, name)
		}
	}
	return nil
}

// reasons reads a refusal of a use case as bad fields.
func reasons(err error) []plant.FieldError {
	switch e := err.(type) { //nolint:errorlint // use cases return these as they are
	case ConflictError:
		return []plant.FieldError{{Field: "record", Reason: e.Reason}}
	case MissingError:
		return []plant.FieldError{{Field: "record", Reason: e.Error()}}
	}
	return plant.Refusals(err)
}

func (g *Garden) importStem(ctx context.Context, r exchange.StemRecord) (line int, name string, same bool, err error) {
	line, name = r.Line, r.Mother+"-"+r.Stem
	mother, err := g.motherOf(ctx, r)
	if err != nil {
		return line, name, false, err
	}
	wish, id := StemMapping{FactID: uuid.Must(uuid.NewV7()), MotherID: mother.ID, Stem: r.Map}, uuid.Must(uuid.NewV7())
	known := false
	for _, s := range mother.Stems {
		if s.Letter == r.Stem {
			if reflect.DeepEqual(spelledOut(s.Stem), spelledOut(r.Map)) {
				return line, name, true, nil
			}
			known, id, wish.Version = true, s.ID, s.Version
		}
	}
	if next := plant.StemLetter(len(mother.Stems)); !known && next != r.Stem {
		return line, name, false, plant.Refuse("stem", "%s has %d stems; the next is %s, not %s", mother.Code, len(mother.Stems), next, r.Stem)
	}
	_, err = g.MapStem(ctx, id, wish)
	return line, name, false, err
}

// spelledOut says what an empty word means, so that two maps compare by what they say.
func spelledOut(s plant.Stem) plant.Stem {
	s.Organ = s.What()
	if s.Wood == "" {
		s.Wood = plant.Green
	}
	return s
}

// motherByCode finds a mother with her stems, without what was taken from her.
func (g *Garden) motherByCode(ctx context.Context, code string) (Mother, error) {
	row, err := g.store.MotherByCode(ctx, code)
	if err != nil {
		return Mother{}, err
	}
	all, err := g.mothers(ctx, []sqlgen.Mother{row}, false)
	if err != nil {
		return Mother{}, err
	}
	return all[0], nil
}

// motherOf finds the mother of a record by her code, or takes her in.
func (g *Garden) motherOf(ctx context.Context, r exchange.StemRecord) (Mother, error) {
	mother, err := g.motherByCode(ctx, r.Mother)
	if !store.IsMissing(err) {
		return mother, err
	}
	if first := plant.StemLetter(0); r.Stem != first {
		return Mother{}, plant.Refuse("stem", "the first stem of a new mother is %s, not %s", first, r.Stem)
	}
	if r.MotherName == "" || r.Group == "" {
		return Mother{}, plant.Refuse("mother", "%q is not here; with mother_name and group she would be taken in", r.Mother)
	}
	if motherCode(r.Mother, "") != r.Mother {
		return Mother{}, plant.Refuse("mother", "a new mother's code is three capital letters, not %q", r.Mother)
	}
	pattern := r.Pattern
	if pattern == "" {
		pattern = "plain"
	}
	if pattern != "plain" && pattern != "stable" && pattern != "unstable" {
		return Mother{}, plant.Refuse("pattern", "plain, stable or unstable, not %q", r.Pattern)
	}
	return g.AddMother(ctx, NewMother{ID: uuid.Must(uuid.NewV7()), Code: r.Mother, Name: r.MotherName, GroupKey: r.Group, Pattern: pattern})
}

func (g *Garden) importPlan(ctx context.Context, r exchange.PlanRecord) (line int, name string, same bool, err error) {
	line, name = r.Line, "plan for "+r.Mother
	mother, err := g.motherByCode(ctx, r.Mother)
	if store.IsMissing(err) {
		return line, name, false, plant.Refuse("mother", "%q is not here", r.Mother)
	}
	if err != nil {
		return line, name, false, err
	}
	plan := NewPlan{ID: uuid.Must(uuid.NewV7()), PlanWish: PlanWish{Wish: r.Wish}}
	for _, s := range r.Stems {
		stem, ok := mother.stem(s.Stem)
		if !ok {
			return line, name, false, plant.Refuse("stem", "%s has no stem %s", mother.Code, s.Stem)
		}
		if s.Version < 1 {
			return line, name, false, plant.Refuse("map_version", "say which version of the map the plan was made on")
		}
		plan.Stems = append(plan.Stems, StemWish{StemID: stem.ID, Version: s.Version, KnivesMM: s.KnivesMM, Skip: s.Skip})
	}
	same, err = g.hasPlan(ctx, mother.ID, plan)
	if err != nil || same {
		return line, name, same, err
	}
	_, err = g.KeepPlan(ctx, plan)
	return line, name, false, err
}

func (m Mother) stem(letter string) (MappedStem, bool) {
	for _, s := range m.Stems {
		if s.Letter == letter {
			return s, true
		}
	}
	return MappedStem{}, false
}

// hasPlan tells whether a plan with the same knives on the same maps is kept already.
func (g *Garden) hasPlan(ctx context.Context, mother uuid.UUID, p NewPlan) (bool, error) {
	plans, err := g.Plans(ctx)
	if err != nil {
		return false, err
	}
	ids := []uuid.UUID{}
	for _, had := range plans {
		if had.MotherID == mother {
			ids = append(ids, had.ID)
		}
	}
	rows, err := g.store.CutPlanStems(ctx, ids)
	if err != nil {
		return false, err
	}
	by := map[uuid.UUID][]sqlgen.CutPlanStem{}
	for _, r := range rows {
		by[r.PlanID] = append(by[r.PlanID], r)
	}
	for _, stems := range by {
		if sameKnives(stems, p.Stems) {
			return true, nil
		}
	}
	return false, nil
}

func sameKnives(a []sqlgen.CutPlanStem, b []StemWish) bool {
	if len(a) != len(b) {
		return false
	}
	for i := range a {
		if a[i].StemID != b[i].StemID || int(a[i].MapVersion) != b[i].Version || !cutplan.SameKnives(a[i].KnivesMm, b[i].KnivesMM) {
			return false
		}
	}
	return true
}
