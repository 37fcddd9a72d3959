package propagation

import (
	"context"
	"reflect"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/propagation/exchange"
	"clearjar/store"
	"clearjar/store/sqlgen"
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
