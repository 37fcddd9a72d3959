package propagation

import (
	"context"
	"errors"
	"fmt"
	"reflect"
	"sort"

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
	if err != nil {
		return nil, err
	}
	ids := []uuid.UUID{}
	for _, m := range mothers {
		ids = append(ids, m.ID)
	}
	raised, err := g.store.RaisedFromCodes(ctx, ids)
	if err != nil {
		return nil, err
	}
	from := map[uuid.UUID]string{}
	for _, r := range raised {
		from[r.ID] = r.Code
	}
	out := []exchange.StemRecord{}
	for _, m := range mothers {
		for _, s := range m.Stems {
			on := s.MappedAt.UTC()
			out = append(out, exchange.StemRecord{
				Mother: m.Code, MotherName: m.Name, Group: m.Group.Key, Pattern: m.Pattern, Provenance: m.Provenance, RaisedFrom: from[m.ID], ByNameOnly: !m.Known,
				Stem: s.Letter, Version: s.Version, MappedOn: &on, Map: s.Stem,
			})
		}
	}
	return out, nil
}

// planRecords are the plans that wait to be carried out.
func (g *Garden) planRecords(ctx context.Context) ([]exchange.PlanRecord, error) {
	plans, err := g.Plans(ctx)
	if err != nil {
		return nil, err
	}
	out := []exchange.PlanRecord{}
	for _, brief := range plans {
		if brief.Done {
			continue
		}
		p, err := g.PlanPage(ctx, brief.ID)
		if err != nil {
			return nil, err
		}
		made := p.MadeAt.UTC()
		r := exchange.PlanRecord{Mother: p.MotherCode, MadeAt: &made, Wish: p.Wish}
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
	// Names of what was written, the first of them.
	Names []string `json:"names"`
	// Bad lists the first bad rows; BadCount is how many there are in all.
	Bad      []exchange.BadRow `json:"bad"`
	BadCount int               `json:"bad_count"`
	// Says is the whole in a sentence.
	Says string `json:"says"`
}

// mostNames is how many names of what was written a report lists.
const mostNames = 200

// batch is how many records are written in one transaction.
const batch = 200

// Progress is told how far an import has come.
type Progress func(done, of int)

// job is one record that was checked and is ready to be written; write gives whether it was here already.
type job struct {
	line  int
	name  string
	write func(g *Garden) error
}

// taker checks the records of one file against what is here, and says how to write them.
type taker interface {
	// read parses the file; prepare checks record by record and gives what is to be written.
	read(format string, data []byte) (exchange.Bad, int, error)
	prepare(ctx context.Context, g *Garden, bad *exchange.Bad) (jobs []job, same int, err error)
}

// Import reads a file of stem maps or plans. Every row is checked first. With a bad row nothing is
// kept, unless keepGood asks for the good ones. What is kept is written in batches, each whole; should
// the database go away in between, reading the file again goes on where it stopped.
func (g *Garden) Import(ctx context.Context, what, format string, data []byte, keepGood bool, progress Progress) (ImportReport, error) {
	report := ImportReport{Names: []string{}, Bad: []exchange.BadRow{}}
	var in taker
	switch what {
	case exchange.StemMaps:
		in = &stemTaker{}
	case exchange.CutPlans:
		in = &planTaker{}
	default:
		return report, plant.Refuse("what", "stems or plans")
	}
	bad, read, err := in.read(format, data)
	if err != nil {
		return report, err
	}
	report.Read = read
	jobs, same, err := in.prepare(ctx, g, &bad)
	if err != nil {
		return report, err
	}
	sort.SliceStable(bad.Rows, func(i, j int) bool { return bad.Rows[i].Line < bad.Rows[j].Line })
	report.Same, report.Bad, report.BadCount = same, bad.Rows, bad.Count
	if report.Bad == nil {
		report.Bad = []exchange.BadRow{}
	}
	if bad.Count > 0 && !keepGood {
		report.Says = fmt.Sprintf("Nothing was kept: %s. Mend them, or keep the good ones.", plant.Counted(bad.Count, "row is bad", "rows are bad"))
		return report, nil
	}
	for from := 0; from < len(jobs); from += batch {
		to := min(from+batch, len(jobs))
		err := g.In(ctx, func(g *Garden) error {
			for _, j := range jobs[from:to] {
				if err := j.write(g); err != nil {
					return fmt.Errorf("%s: %w", j.name, err)
				}
			}
			return nil
		})
		if err != nil {
			return report, fmt.Errorf("after %d of %d: %w", report.Kept, len(jobs), err)
		}
		for _, j := range jobs[from:to] {
			report.Kept++
			if len(report.Names) < mostNames {
				report.Names = append(report.Names, j.name)
			}
		}
		if progress != nil {
			progress(to, len(jobs))
		}
	}
	report.Says = fmt.Sprintf("%d kept, %d already here as they are, %d bad.", report.Kept, report.Same, report.BadCount)
	return report, nil
}

// refused notes what a use case refuses about a record; an error that is no refusal is given back.
func refused(bad *exchange.Bad, line int, err error) error {
	fields := reasons(err)
	for _, f := range fields {
		bad.Add(line, f.Field, f.Reason)
	}
	if len(fields) > 0 {
		return nil
	}
	return err
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

// stemTaker takes in stem maps.
type stemTaker struct{ records []exchange.StemRecord }

func (in *stemTaker) read(format string, data []byte) (bad exchange.Bad, n int, err error) {
	in.records, bad, err = exchange.ReadStems(format, data)
	return bad, len(in.records), err
}

// known is a mother as the intake knows her: from here, or from an earlier record of the file.
type known struct {
	id    uuid.UUID
	stems map[string]MappedStem
	isNew bool
	words MotherWords
	codes exchange.StemRecord
}

func (in *stemTaker) prepare(ctx context.Context, g *Garden, bad *exchange.Bad) (jobs []job, same int, err error) {
	mothers, err := g.Mothers(ctx)
	if err != nil {
		return nil, 0, err
	}
	here := map[string]*known{}
	for _, m := range mothers {
		k := &known{id: m.ID, stems: map[string]MappedStem{}}
		for _, s := range m.Stems {
			k.stems[s.Letter] = s
		}
		here[m.Code] = k
	}
	for _, r := range in.records {
		k, err := motherOfRecord(here, r)
		if err == nil {
			err = r.Map.CheckText()
		}
		if err != nil {
			if err := refused(bad, r.Line, err); err != nil {
				return nil, 0, err
			}
			continue
		}
		had, ok := k.stems[r.Stem]
		if ok && reflect.DeepEqual(spelledOut(had.Stem), spelledOut(r.Map)) {
			same++
			continue
		}
		if r.Version > 1_000_000 || r.Version < 0 {
			bad.Add(r.Line, "map_version", "a version lies between 1 and 1000000")
			continue
		}
		if r.MappedOn != nil {
			if err := g.checkDay("mapped_on", *r.MappedOn, earliestRecord, "any record"); err != nil {
				if err := refused(bad, r.Line, err); err != nil {
					return nil, 0, err
				}
				continue
			}
		}
		if err := taken(had, r); err != nil {
			if err := refused(bad, r.Line, err); err != nil {
				return nil, 0, err
			}
			continue
		}
		_, seen := here[r.Mother]
		here[r.Mother] = k
		k.stems[r.Stem] = MappedStem{Stem: r.Map, Letter: r.Stem}
		jobs = append(jobs, job{r.Line, r.Mother + "-" + r.Stem, func(g *Garden) error { return g.takeStem(ctx, k, r, had, ok, !seen && k.isNew) }})
	}
	return jobs, same, nil
}

// taken: nodes that were cut stay in the map.
func taken(had MappedStem, r exchange.StemRecord) error {
	for _, t := range had.Taken {
		if t.Node > len(r.Map.Nodes) {
			return plant.Refuse("nodes", "node %d was cut from this stem and stays in its map: a map without it would rename the cutting", t.Node)
		}
	}
	return nil
}

// motherOfRecord finds the mother of a record by her code; with name and group a new one is taken in.
func motherOfRecord(here map[string]*known, r exchange.StemRecord) (*known, error) {
	if k, ok := here[r.Mother]; ok {
		return k, nil
	}
	if r.MotherName == "" || r.Group == "" {
		return nil, plant.Refuse("mother", "%q is not here; with mother_name and group she would be taken in", r.Mother)
	}
	if exactCode(r.Mother) != r.Mother {
		return nil, plant.Refuse("mother", "a mother's code is three capital letters, with a number when there are several, not %q", r.Mother)
	}
	words := MotherWords{Name: r.MotherName, GroupKey: r.Group, Pattern: r.Pattern, Provenance: r.Provenance}
	if words.Pattern == "" {
		words.Pattern = "plain"
	}
	words, err := words.clean()
	if err != nil {
		return nil, err
	}
	if len([]rune(r.RaisedFrom)) > 40 {
		return nil, plant.Refuse("raised_from", "at most 40 characters")
	}
	if _, err := plant.CleanText("raised_from", r.RaisedFrom, 40); err != nil {
		return nil, err
	}
	return &known{id: uuid.Must(uuid.NewV7()), stems: map[string]MappedStem{}, isNew: true, words: words, codes: r}, nil
}

// takeStem writes one map of a file, with its mother when she is new.
func (g *Garden) takeStem(ctx context.Context, k *known, r exchange.StemRecord, had MappedStem, isHere, withMother bool) error {
	if withMother {
		if err := g.takeMother(ctx, k); err != nil {
			return err
		}
	}
	m := StemMapping{FactID: uuid.Must(uuid.NewV7()), MotherID: k.id, Version: had.Version, Stem: r.Map, MappedOn: r.MappedOn}
	id := had.ID
	if !isHere || had.ID == uuid.Nil {
		id = uuid.Must(uuid.NewV7())
	}
	return g.keep(ctx, fact{m.FactID, "stem_map", k.id, m}, func(g *Garden) error {
		on := g.made(m.FactID)
		if m.MappedOn != nil {
			on = *m.MappedOn
		}
		if err := g.checkDay("mapped_on", on, earliestRecord, "any record"); err != nil {
			return err
		}
		version := int32(had.Version) + 1
		if id != had.ID {
			if _, err := g.store.AddStem(ctx, sqlgen.AddStemParams{ID: id, MotherID: k.id, Letter: r.Stem}); err != nil {
				return err
			}
			version = int32(max(1, r.Version))
		}
		_, err := g.store.AddStemMap(ctx, sqlgen.AddStemMapParams{StemID: id, Version: version, FactID: m.FactID, Map: r.Map, MappedOn: on})
		return err
	})
}

func (g *Garden) takeMother(ctx context.Context, k *known) error {
	f := NewMother{ID: k.id, MotherWords: k.words, Code: k.codes.Mother}
	return g.keep(ctx, fact{k.id, "mother", k.id, f}, func(g *Garden) error {
		var from *uuid.UUID
		if code := k.codes.RaisedFrom; code != "" {
			if id, err := g.store.CuttingByCode(ctx, code); err == nil {
				from = &id
			} else if !store.IsMissing(err) {
				return err
			}
		}
		code, err := g.addMother(ctx, k.id, k.words, k.codes.Mother, from, !k.codes.ByNameOnly)
		if err != nil {
			return err
		}
		if code != k.codes.Mother {
			return ConflictError{Reason: "The code " + k.codes.Mother + " was taken meanwhile."}
		}
		return g.store.SetRaisedFrom(ctx, sqlgen.SetRaisedFromParams{ID: k.id, RaisedFrom: k.codes.RaisedFrom})
	})
}

// spelledOut says what an empty word means, so that two maps compare by what they say.
func spelledOut(s plant.Stem) plant.Stem {
	s.Organ = s.What()
	if s.Wood == "" {
		s.Wood = plant.Green
	}
	return s
}

// planTaker takes in cut plans.
type planTaker struct{ records []exchange.PlanRecord }

func (in *planTaker) read(format string, data []byte) (bad exchange.Bad, n int, err error) {
	in.records, bad, err = exchange.ReadPlans(format, data)
	return bad, len(in.records), err
}

func (in *planTaker) prepare(ctx context.Context, g *Garden, bad *exchange.Bad) (jobs []job, same int, err error) {
	mothers, err := g.Mothers(ctx)
	if err != nil {
		return nil, 0, err
	}
	byCode := map[string]Mother{}
	for _, m := range mothers {
		byCode[m.Code] = m
	}
	kept, err := g.keptKnives(ctx)
	if err != nil {
		return nil, 0, err
	}
	for _, r := range in.records {
		p, err := planOfRecord(byCode, r)
		if err == nil && sameAsKept(kept[byCode[r.Mother].ID], p.Stems) {
			same++
			continue
		}
		if err == nil {
			err = g.checkPlan(ctx, p)
		}
		if err != nil {
			if err := refused(bad, r.Line, err); err != nil {
				return nil, 0, err
			}
			continue
		}
		jobs = append(jobs, job{r.Line, "plan for " + r.Mother, func(g *Garden) error {
			return g.keep(ctx, fact{p.ID, "cut_plan", uuid.Nil, p}, func(g *Garden) error { return g.keepPlan(ctx, p) })
		}})
	}
	return jobs, same, nil
}

// checkPlan refuses a plan that could not be kept.
func (g *Garden) checkPlan(ctx context.Context, p NewPlan) error {
	if err := errors.Join(p.Limits.Check(), p.Aim.Check(p.Limits), checkStems(p.Stems)); err != nil {
		return err
	}
	laid, _, err := g.lay(ctx, p.PlanWish)
	if err != nil {
		return err
	}
	answer, err := planOn(laid, p.PlanWish)
	if err != nil {
		return err
	}
	for _, s := range answer.Stems {
		if len(s.Plan.Refused) > 0 {
			return plant.Refuse("stems", "%s", s.Plan.Refused[0])
		}
	}
	if p.MadeAt != nil {
		return g.checkDay("made_at", *p.MadeAt, earliestRecord, "any record")
	}
	return nil
}

func planOfRecord(mothers map[string]Mother, r exchange.PlanRecord) (NewPlan, error) {
	p := NewPlan{ID: uuid.Must(uuid.NewV7()), MadeAt: r.MadeAt, PlanWish: PlanWish{Wish: r.Wish}}
	mother, ok := mothers[r.Mother]
	if !ok {
		return p, plant.Refuse("mother", "%q is not here", r.Mother)
	}
	for _, s := range r.Stems {
		stem, ok := mother.stem(s.Stem)
		if !ok {
			return p, plant.Refuse("stem", "%s has no stem %s", mother.Code, s.Stem)
		}
		if s.Version < 1 {
			return p, plant.Refuse("map_version", "say which version of the map the plan was made on")
		}
		if len(s.KnivesMM) == 0 {
			return p, plant.Refuse("knives_mm", "there is no knife on stem %s", s.Stem)
		}
		p.Stems = append(p.Stems, StemWish{StemID: stem.ID, Version: s.Version, KnivesMM: s.KnivesMM, Skip: s.Skip})
	}
	return p, nil
}

func (m Mother) stem(letter string) (MappedStem, bool) {
	for _, s := range m.Stems {
		if s.Letter == letter {
			return s, true
		}
	}
	return MappedStem{}, false
}

// keptKnives are the stems of every kept plan, by mother.
func (g *Garden) keptKnives(ctx context.Context) (map[uuid.UUID][][]sqlgen.CutPlanStem, error) {
	plans, err := g.Plans(ctx)
	if err != nil {
		return nil, err
	}
	ids, mother := []uuid.UUID{}, map[uuid.UUID]uuid.UUID{}
	for _, p := range plans {
		ids = append(ids, p.ID)
		mother[p.ID] = p.MotherID
	}
	rows, err := g.store.CutPlanStems(ctx, ids)
	if err != nil {
		return nil, err
	}
	by := map[uuid.UUID][]sqlgen.CutPlanStem{}
	for _, r := range rows {
		by[r.PlanID] = append(by[r.PlanID], r)
	}
	out := map[uuid.UUID][][]sqlgen.CutPlanStem{}
	for id, stems := range by {
		out[mother[id]] = append(out[mother[id]], stems)
	}
	return out, nil
}

// sameAsKept tells whether a plan with the same knives on the same maps is kept already.
func sameAsKept(kept [][]sqlgen.CutPlanStem, stems []StemWish) bool {
	for _, had := range kept {
		if sameKnives(had, stems) {
			return true
		}
	}
	return false
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
