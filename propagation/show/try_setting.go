package show

import (
	"context"
	"reflect"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/core/setting"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
)

// SettingWish asks how pieces would stand in a vessel that is here, or in one that is not yet.
type SettingWish struct {
	VesselID *uuid.UUID     `json:"vessel_id,omitempty"`
	Vessel   *plant.Vessel  `json:"vessel,omitempty"`
	Pieces   []SettingPiece `json:"pieces" maxItems:"50"`
}

// SettingPiece is one of them. SetNodes is how many of its nodes go in; 0 for as it was planned.
type SettingPiece struct {
	CuttingID uuid.UUID `json:"cutting_id"`
	SetNodes  int       `json:"set_nodes" minimum:"0" maximum:"20"`
}

// SettingAnswer says how they are set, and how they stand together with what is in it already.
type SettingAnswer struct {
	How []HowFor    `json:"how"`
	Fit setting.Fit `json:"fit"`
}

// HowFor is how some of the pieces are set, all in one way.
type HowFor struct {
	Codes []string `json:"codes"`
	plant.HowTo
}

// TrySetting says how pieces would stand in a vessel.
func TrySetting(ctx context.Context, g *propagation.Garden, w SettingWish) (SettingAnswer, error) {
	out := SettingAnswer{How: []HowFor{}}
	v, standing, err := vesselFor(ctx, g, w)
	if err != nil {
		return out, err
	}
	asked := map[uuid.UUID]int{}
	ids := []uuid.UUID{}
	for _, p := range w.Pieces {
		if _, twice := asked[p.CuttingID]; !twice {
			ids = append(ids, p.CuttingID)
		}
		asked[p.CuttingID] = p.SetNodes
	}
	fresh := len(ids)
	for _, id := range standing {
		if _, moves := asked[id]; !moves {
			ids = append(ids, id)
		}
	}
	lives, err := conclude.ManyLives(ctx, g, ids)
	if err != nil {
		return out, err
	}
	numbers, err := g.Numbers(ctx)
	if err != nil {
		return out, err
	}
	pieces := make([]setting.Piece, len(lives))
	for i, l := range lives {
		how, err := plant.HowToSet(l.Group, l.Kind, l.Form, v.Medium)
		if err != nil {
			return out, err
		}
		pieces[i] = settingPiece(l, how, asked[l.Row.ID])
		if i < fresh {
			out.add(l.Row.Code, how)
		}
	}
	out.Fit = setting.In(v, pieces, numbers)
	return out, nil
}

func (a *SettingAnswer) add(code string, how plant.HowTo) {
	for i := range a.How {
		if reflect.DeepEqual(a.How[i].HowTo, how) {
			a.How[i].Codes = append(a.How[i].Codes, code)
			return
		}
	}
	a.How = append(a.How, HowFor{[]string{code}, how})
}

// vesselFor is the vessel asked about, and what stands in it.
func vesselFor(ctx context.Context, g *propagation.Garden, w SettingWish) (v plant.Vessel, standing []uuid.UUID, err error) {
	switch {
	case w.Vessel != nil && w.VesselID != nil || w.Vessel == nil && w.VesselID == nil:
		return v, nil, plant.Refuse("vessel", "a vessel that is here, or a new one")
	case w.Vessel != nil:
		v, err := w.Vessel.Filled()
		if err != nil {
			return v, nil, err
		}
		return v, nil, v.Check()
	}
	row, err := g.Store.VesselByID(ctx, *w.VesselID)
	if err != nil {
		return v, nil, propagation.Missing(err, "This vessel")
	}
	in, err := g.Store.StandingIn(ctx, *w.VesselID)
	for _, c := range in {
		standing = append(standing, c.ID)
	}
	return propagation.VesselOf(row).Vessel, standing, err
}

// settingPiece is a piece as it is left, standing on its base.
func settingPiece(l conclude.Lived, how plant.HowTo, set int) setting.Piece {
	f := l.Facts()
	p := setting.Piece{Code: f.Code, Under: how.Under, Pose: how.Pose, Set: set, NodesMM: []float64{}, ThicknessMM: f.ThicknessMM}
	gone := min(f.GoneNodes, len(f.Nodes)-1)
	stripped := map[int]bool{}
	for _, n := range f.Piece.Strip {
		stripped[n-f.Piece.First] = true
	}
	at := f.Piece.BelowMM - f.GoneMM
	for i, n := range f.Nodes {
		if i > 0 {
			at += n.BelowMM
		}
		if i < gone {
			continue
		}
		p.NodesMM = append(p.NodesMM, max(0, at))
		if n.Leaf && !stripped[i] {
			p.LeavesMM = append(p.LeavesMM, max(0, at))
		}
	}
	if p.Set == 0 {
		if p.Set = f.SetNodes; p.Set == 0 {
			p.Set = max(1, f.Piece.Set-gone)
		}
	}
	p.LengthMM = max(1, at+f.Piece.AboveMM)
	return p
}
