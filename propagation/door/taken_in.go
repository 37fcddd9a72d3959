package door

import (
	"context"
	"encoding/json"

	"github.com/google/uuid"

	"clearjar/propagation"
	"clearjar/store"
	"clearjar/store/sqlgen"
)

// TakenStem is a map that a file told: of a stem that is here, or of a new one, under the letter and the version
// it had there. It is kept as a [StemMap].
type TakenStem struct {
	StemMap
	// NewLetter is that of a stem which comes with the map; empty for one that is here.
	NewLetter string
}

// MarshalJSON is the fact as it is kept: like any other map.
func (m TakenStem) MarshalJSON() ([]byte, error) { return json.Marshal(m.StemMap) }

func (m TakenStem) named() named { return m.StemMap.named() }

func (m TakenStem) write(ctx context.Context, g *Entry) error {
	on := g.decided
	if m.MappedOn != nil {
		on = *m.MappedOn
	}
	if err := g.CheckDay("mapped_on", on, propagation.EarliestRecord, "any record"); err != nil {
		return err
	}
	mark(&g.touched.Mothers, m.MotherID)
	mark(&g.touched.Stems, m.StemID)
	if m.NewLetter != "" {
		if _, err := g.Store.AddStem(ctx, sqlgen.AddStemParams{ID: m.StemID, MotherID: m.MotherID, Letter: m.NewLetter}); err != nil {
			return err
		}
	}
	_, err := g.Store.AddStemMap(ctx, sqlgen.AddStemMapParams{StemID: m.StemID, Version: int32(m.Version) + 1, FactID: m.FactID, Map: m.Stem, MappedOn: on})
	return err
}

// TakenMother is a mother that a file told, under her own code. It is kept as a [NewMother].
type TakenMother struct {
	NewMother
	// RaisedFrom is the code of the cutting she grew from, which may not be here.
	RaisedFrom string
	Known      bool
}

// MarshalJSON is the fact as it is kept: like any other mother.
func (m TakenMother) MarshalJSON() ([]byte, error) { return json.Marshal(m.NewMother) }

func (m TakenMother) named() named { return m.NewMother.named() }

func (m TakenMother) write(ctx context.Context, g *Entry) error {
	var from *uuid.UUID
	if m.RaisedFrom != "" {
		if id, err := g.Store.CuttingByCode(ctx, m.RaisedFrom); err == nil {
			from = &id
		} else if !store.IsMissing(err) {
			return err
		}
	}
	code, err := g.addMother(ctx, m.ID, m.MotherWords, m.Code, from, m.Known)
	if err != nil {
		return err
	}
	if code != m.Code {
		return propagation.ConflictError{Reason: "The code " + m.Code + " was taken meanwhile."}
	}
	return g.Store.SetRaisedFrom(ctx, sqlgen.SetRaisedFromParams{ID: m.ID, RaisedFrom: m.RaisedFrom})
}
