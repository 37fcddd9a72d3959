package server

import (
	"reflect"

	"github.com/danielgtaylor/huma/v2"

	"clearjar/core/plant"
)

// keyed is a type whose values are the keys of a table: the contract lists the rows that there are, so that a new
// row is in it by itself.
type keyed[T ~string, K interface{ keys() []T }] struct{}

// Schema lists the keys.
func (keyed[T, K]) Schema(huma.Registry) *huma.Schema {
	s := &huma.Schema{Type: huma.TypeString}
	var k K
	for _, key := range k.keys() {
		s.Enum = append(s.Enum, string(key))
	}
	return s
}

type (
	mediumKeys  struct{}
	vesselKeys  struct{}
	schoolKeys  struct{}
	kindKeys    struct{}
	coverKeys   struct{}
	verdictKeys struct{}
	actKeys     struct{}
	signKeys    struct{}
	stateKeys   struct{}
)

// each collects what is asked of every row.
func each[R any, T ~string](rows []R, key func(R) T) []T {
	out := make([]T, len(rows))
	for i, r := range rows {
		out[i] = key(r)
	}
	return out
}

func (mediumKeys) keys() []plant.Medium {
	return each(plant.Media(), func(r plant.MediumRow) plant.Medium { return r.Medium })
}

func (vesselKeys) keys() []plant.VesselKind {
	return each(plant.VesselSorts(), func(r plant.VesselSort) plant.VesselKind { return r.Kind })
}

func (schoolKeys) keys() []plant.SchoolKey {
	return each(plant.Schools(), func(r plant.School) plant.SchoolKey { return r.Key })
}

func (kindKeys) keys() []plant.PieceKind {
	return each(plant.KindRows(), func(r plant.KindRow) plant.PieceKind { return r.Kind })
}

func (coverKeys) keys() []plant.CoverKey {
	return each(plant.Covers(), func(r plant.CoverRow) plant.CoverKey { return r.Key })
}

func (actKeys) keys() []plant.Act {
	return each(plant.Acts(), func(r plant.ActRow) plant.Act { return r.Act })
}

func (signKeys) keys() []plant.Sign {
	return each(plant.Signs(), func(r plant.SignRow) plant.Sign { return r.Sign })
}

func (stateKeys) keys() []plant.CoverState {
	return each(plant.CoverStates(), func(r plant.CoverStateRow) plant.CoverState { return r.State })
}

func (verdictKeys) keys() []plant.Verdict {
	return []plant.Verdict{plant.Wait, plant.LookAt, plant.Ready, plant.Overdue, plant.Rescue, plant.GrowingOn, plant.Done, plant.Lost}
}

// listKeys tells the contract which types are keys of tables.
func listKeys(r huma.Registry) {
	alias := func(t, as any) { r.RegisterTypeAlias(reflect.TypeOf(t), reflect.TypeOf(as)) }
	alias(plant.Medium(""), keyed[plant.Medium, mediumKeys]{})
	alias(plant.VesselKind(""), keyed[plant.VesselKind, vesselKeys]{})
	alias(plant.SchoolKey(""), keyed[plant.SchoolKey, schoolKeys]{})
	alias(plant.PieceKind(""), keyed[plant.PieceKind, kindKeys]{})
	alias(plant.CoverKey(""), keyed[plant.CoverKey, coverKeys]{})
	alias(plant.Act(""), keyed[plant.Act, actKeys]{})
	alias(plant.Sign(""), keyed[plant.Sign, signKeys]{})
	alias(plant.CoverState(""), keyed[plant.CoverState, stateKeys]{})
	alias(plant.Verdict(""), keyed[plant.Verdict, verdictKeys]{})
}
