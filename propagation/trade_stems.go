package propagation

import (
	"context"
	"encoding/json"
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
	m := takenStem{id: had.ID, had: had, record: r, sent: StemMapping{FactID: uuid.Must(uuid.NewV7()), MotherID: k.id, Version: had.Version, Stem: r.Map, MappedOn: r.MappedOn}}
	if !isHere || had.ID == uuid.Nil {
		m.id = uuid.Must(uuid.NewV7())
	}
	_, _, err := g.Keep(ctx, m)
	return err
}

// takenStem is a map that a file told: of a stem that is here, or of a new one under the letter and version it had.
type takenStem struct {
	id     uuid.UUID
	had    MappedStem
	record exchange.StemRecord
	sent   StemMapping
}

// MarshalJSON is the fact as it is kept: like any other map.
func (m takenStem) MarshalJSON() ([]byte, error) { return json.Marshal(StemMap{m.id, m.sent}) }

func (m takenStem) named() named { return named{m.sent.FactID, "stem_map", m.sent.MotherID} }

func (m takenStem) write(ctx context.Context, g *Garden) error {
	on := g.decided
	if m.sent.MappedOn != nil {
		on = *m.sent.MappedOn
	}
	if err := g.checkDay("mapped_on", on, earliestRecord, "any record"); err != nil {
		return err
	}
	mark(&g.touched.Mothers, m.sent.MotherID)
	mark(&g.touched.Stems, m.id)
	version := int32(m.had.Version) + 1
	if m.id != m.had.ID {
		if _, err := g.store.AddStem(ctx, sqlgen.AddStemParams{ID: m.id, MotherID: m.sent.MotherID, Letter: m.record.Stem}); err != nil {
			return err
		}
		version = int32(max(1, m.record.Version))
	}
	_, err := g.store.AddStemMap(ctx, sqlgen.AddStemMapParams{StemID: m.id, Version: version, FactID: m.sent.FactID, Map: m.record.Map, MappedOn: on})
	return err
}

func (g *Garden) takeMother(ctx context.Context, k *known) error {
	_, _, err := g.Keep(ctx, takenMother{k})
	return err
}

// takenMother is a mother that a file told, under her own code.
type takenMother struct{ *known }

// MarshalJSON is the fact as it is kept: like any other mother.
func (m takenMother) MarshalJSON() ([]byte, error) {
	return json.Marshal(NewMother{ID: m.id, MotherWords: m.words, Code: m.codes.Mother})
}

func (m takenMother) named() named { return named{m.id, "mother", m.id} }

func (m takenMother) write(ctx context.Context, g *Garden) error {
	var from *uuid.UUID
	if code := m.codes.RaisedFrom; code != "" {
		if id, err := g.store.CuttingByCode(ctx, code); err == nil {
			from = &id
		} else if !store.IsMissing(err) {
			return err
		}
	}
	code, err := g.addMother(ctx, m.id, m.words, m.codes.Mother, from, !m.codes.ByNameOnly)
	if err != nil {
		return err
	}
	if code != m.codes.Mother {
		return ConflictError{Reason: "The code " + m.codes.Mother + " was taken meanwhile."}
	}
	return g.store.SetRaisedFrom(ctx, sqlgen.SetRaisedFromParams{ID: m.id, RaisedFrom: m.codes.RaisedFrom})
}

// spelledOut says what an empty word means, so that two maps compare by what they say.
func spelledOut(s plant.Stem) plant.Stem {
	s.Organ = s.What()
	if s.Wood == "" {
		s.Wood = plant.Green
	}
	return s
}
