package files

import (
	"context"
	"reflect"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/bench"
	"clearjar/propagation/door"
	"clearjar/propagation/files/exchange"
	"clearjar/propagation/show"
)

// stemTaker takes in stem maps.
type stemTaker struct{ records []exchange.StemRecord }

func (in *stemTaker) read(format string, data []byte) (bad exchange.Bad, n int, err error) {
	in.records, bad, err = exchange.ReadStems(format, data)
	return bad, len(in.records), err
}

// known is a mother as the intake knows her: from here, or from an earlier record of the file.
type known struct {
	id    uuid.UUID
	stems map[string]bench.MappedStem
	isNew bool
	words door.MotherWords
	codes exchange.StemRecord
}

func (in *stemTaker) prepare(ctx context.Context, g *propagation.Garden, bad *exchange.Bad) (jobs []job, same int, err error) {
	mothers, err := show.Mothers(ctx, g)
	if err != nil {
		return nil, 0, err
	}
	here := map[string]*known{}
	for _, m := range mothers {
		k := &known{id: m.ID, stems: map[string]bench.MappedStem{}}
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
			if err := g.CheckDay("mapped_on", *r.MappedOn, propagation.EarliestRecord, "any record"); err != nil {
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
		k.stems[r.Stem] = bench.MappedStem{Stem: r.Map, Letter: r.Stem}
		jobs = append(jobs, job{r.Line, r.Mother + "-" + r.Stem, func(g *propagation.Garden) error { return takeStem(ctx, g, k, r, had, ok, !seen && k.isNew) }})
	}
	return jobs, same, nil
}

// taken: nodes that were cut stay in the map.
func taken(had bench.MappedStem, r exchange.StemRecord) error {
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
	if door.ExactCode(r.Mother) != r.Mother {
		return nil, plant.Refuse("mother", "a mother's code is three capital letters, with a number when there are several, not %q", r.Mother)
	}
	words := door.MotherWords{Name: r.MotherName, GroupKey: r.Group, Pattern: r.Pattern, Provenance: r.Provenance}
	if words.Pattern == "" {
		words.Pattern = "plain"
	}
	words, err := words.Clean()
	if err != nil {
		return nil, err
	}
	if len([]rune(r.RaisedFrom)) > 40 {
		return nil, plant.Refuse("raised_from", "at most 40 characters")
	}
	if _, err := plant.CleanText("raised_from", r.RaisedFrom, 40); err != nil {
		return nil, err
	}
	return &known{id: uuid.Must(uuid.NewV7()), stems: map[string]bench.MappedStem{}, isNew: true, words: words, codes: r}, nil
}

// takeStem writes one map of a file, with its mother when she is new.
func takeStem(ctx context.Context, g *propagation.Garden, k *known, r exchange.StemRecord, had bench.MappedStem, isHere, withMother bool) error {
	if withMother {
		if err := takeMother(ctx, g, k); err != nil {
			return err
		}
	}
	m := door.TakenStem{StemMap: door.StemMap{StemID: had.ID, StemMapping: door.StemMapping{FactID: uuid.Must(uuid.NewV7()), MotherID: k.id, Version: had.Version, Stem: r.Map, MappedOn: r.MappedOn}}}
	if !isHere || had.ID == uuid.Nil {
		m.StemID, m.NewLetter, m.Version = uuid.Must(uuid.NewV7()), r.Stem, max(0, r.Version-1)
	}
	_, _, err := door.Keep(ctx, g, m)
	return err
}

func takeMother(ctx context.Context, g *propagation.Garden, k *known) error {
	_, _, err := door.Keep(ctx, g, door.TakenMother{
		NewMother: door.NewMother{ID: k.id, MotherWords: k.words, Code: k.codes.Mother}, RaisedFrom: k.codes.RaisedFrom, Known: !k.codes.ByNameOnly,
	})
	return err
}

// spelledOut says what an empty word means, so that two maps compare by what they say.
func spelledOut(s plant.Stem) plant.Stem {
	s.Organ = s.What()
	if s.Wood == "" {
		s.Wood = plant.Green
	}
	return s
}
