// Package files gives and takes files in open formats: every row of one that comes in is checked.
package files

import (
	"context"
	"fmt"
	"sort"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/bench"
	"clearjar/propagation/files/exchange"
	"clearjar/propagation/show"
)

// Export writes all stem maps, or all kept plans, as JSON or CSV.
func Export(ctx context.Context, g *propagation.Garden, what, format string) ([]byte, error) {
	if format != exchange.CSV && format != exchange.JSON {
		return nil, plant.Refuse("format", "json or csv")
	}
	switch what {
	case exchange.StemMaps:
		records, err := stemRecords(ctx, g)
		if err != nil {
			return nil, err
		}
		if format == exchange.CSV {
			return exchange.StemsCSV(records)
		}
		return exchange.WriteJSON(what, records)
	case exchange.CutPlans:
		records, err := planRecords(ctx, g)
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

func stemRecords(ctx context.Context, g *propagation.Garden) ([]exchange.StemRecord, error) {
	mothers, err := show.Mothers(ctx, g)
	if err != nil {
		return nil, err
	}
	ids := []uuid.UUID{}
	for _, m := range mothers {
		ids = append(ids, m.ID)
	}
	raised, err := g.Store.RaisedFromCodes(ctx, ids)
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
func planRecords(ctx context.Context, g *propagation.Garden) ([]exchange.PlanRecord, error) {
	plans, err := bench.Plans(ctx, g)
	if err != nil {
		return nil, err
	}
	out := []exchange.PlanRecord{}
	for _, brief := range plans {
		if brief.Done {
			continue
		}
		p, err := bench.PlanPage(ctx, g, brief.ID)
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
	write func(g *propagation.Garden) error
}

// taker checks the records of one file against what is here, and says how to write them.
type taker interface {
	// read parses the file; prepare checks record by record and gives what is to be written.
	read(format string, data []byte) (exchange.Bad, int, error)
	prepare(ctx context.Context, g *propagation.Garden, bad *exchange.Bad) (jobs []job, same int, err error)
}

// Import reads a file of stem maps or plans. Every row is checked first. With a bad row nothing is
// kept, unless keepGood asks for the good ones. What is kept is written in batches, each whole; should
// the database go away in between, reading the file again goes on where it stopped.
func Import(ctx context.Context, g *propagation.Garden, what, format string, data []byte, keepGood bool, progress Progress) (ImportReport, error) {
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
		report.Says = nothingKept(bad.Count)
		return report, nil
	}
	for from := 0; from < len(jobs); from += batch {
		to := min(from+batch, len(jobs))
		err := g.In(ctx, func(g *propagation.Garden) error {
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

// nothingKept says that bad rows keep the others out.
func nothingKept(bad int) string {
	return fmt.Sprintf("Nothing was kept: %s. Mend them, or keep the good ones.", plant.Counted(bad, "row is bad", "rows are bad"))
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
	case propagation.ConflictError:
		return []plant.FieldError{{Field: "record", Reason: e.Reason}}
	case propagation.MissingError:
		return []plant.FieldError{{Field: "record", Reason: e.Error()}}
	}
	return plant.Refusals(err)
}
