package conclude

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"clearjar/core/care"
	"clearjar/core/life"
	"clearjar/core/plant"
	"clearjar/propagation"
)

// Tended is what the care of a cutting rests on: it stands in a vessel, is of such a group, has roots or not.
type Tended struct {
	Code     string          `json:"code"`
	Group    string          `json:"group"`
	Kind     plant.PieceKind `json:"kind"`
	Form     plant.LeafForm  `json:"form,omitempty"`
	CutOn    time.Time       `json:"cut_on"`
	SetOn    time.Time       `json:"set_on"`
	InVessel bool            `json:"in_vessel"`
	RootedOn *time.Time      `json:"rooted_on,omitempty"`
	ShootOn  *time.Time      `json:"shoot_on,omitempty"`
	DroopsOn *time.Time      `json:"droops_on,omitempty"`
}

// tended is what a life says of its care.
func tended(l Lived) Tended {
	t := Tended{Code: l.Row.Code, Group: l.Group.Key, Kind: l.Kind, Form: l.Form, CutOn: l.CutOn, InVessel: l.Where() == life.InVessel}
	if now, ok := l.SetNow(); ok {
		t.SetOn = now.On
	}
	since := func(into **time.Time, of func() (time.Time, bool)) {
		if at, ok := of(); ok {
			*into = &at
		}
	}
	since(&t.RootedOn, l.RootsSince)
	since(&t.ShootOn, l.ShootSince)
	since(&t.DroopsOn, l.DroopsSince)
	return t
}

// Standing are the pieces that stand in vessels now, by vessel, as their care sees them.
func Standing(ctx context.Context, g *propagation.Garden) (map[uuid.UUID][]care.Piece, error) {
	all, err := Concluded(ctx, g, Only{Standing: true})
	if err != nil {
		return nil, err
	}
	out := map[uuid.UUID][]care.Piece{}
	for _, c := range all {
		if c.vesselID == nil {
			continue
		}
		var t Tended
		if err := json.Unmarshal([]byte(c.tend), &t); err != nil {
			return nil, err
		}
		if !t.InVessel {
			continue
		}
		group, _ := plant.GroupNamed(t.Group)
		out[*c.vesselID] = append(out[*c.vesselID], care.Piece{
			Code: t.Code, Group: group, Kind: t.Kind, Form: t.Form, CutOn: t.CutOn, SetOn: t.SetOn, RootedOn: t.RootedOn, ShootOn: t.ShootOn, DroopsOn: t.DroopsOn,
		})
	}
	return out, nil
}
