package door

import (
	"context"
	"slices"
	"time"

	"github.com/google/uuid"

	"clearjar/core/life"
	"clearjar/core/plant"
	"clearjar/propagation/conclude"
	"clearjar/store/sqlgen"
)

// CutBack is the fact that a piece was cut back to clean, firm tissue, and where it went then. From
// then on it is judged from what is left.
type CutBack struct {
	ID        uuid.UUID `json:"id"`
	CuttingID uuid.UUID `json:"cutting_id"`
	CutOn     time.Time `json:"cut_on"`
	// RemovedMM is how much came off its base; 0 when nobody measured it.
	RemovedMM float64 `json:"removed_mm" minimum:"0" maximum:"2000"`
	// GoneNodes is how many of the piece's nodes, from its base up, are gone after it.
	GoneNodes int `json:"gone_nodes" minimum:"0" maximum:"60"`
	// BareNodes are nodes that stayed and whose roots came off.
	BareNodes []int `json:"bare_nodes,omitempty" maxItems:"60"`
	// VesselID is where it was reset; nil when it stays where it was. SetNodes is how many nodes are in the medium there.
	VesselID *uuid.UUID `json:"vessel_id,omitempty"`
	SetNodes int        `json:"set_nodes,omitempty" minimum:"0" maximum:"60"`
	// DriedHours is how long the cut face dried before it was reset; 0 when nobody said.
	DriedHours float64 `json:"dried_hours,omitempty" minimum:"0" maximum:"1000"`
	Note       string  `json:"note,omitempty" maxLength:"2000"`
}

func (c CutBack) named() named { return named{c.ID, "cut_back", c.CuttingID} }

func (c CutBack) write(ctx context.Context, g *Entry) error {
	note, err := plant.CleanText("note", c.Note, 500)
	if err != nil {
		return err
	}
	row, err := g.standing(ctx, c.CuttingID, life.InPot)
	if err != nil {
		return err
	}
	if err := g.checkCutBack(c, row); err != nil {
		return err
	}
	bare := []int32{}
	for _, n := range c.BareNodes {
		bare = append(bare, int32(n))
	}
	slices.Sort(bare)
	if _, err := g.Store.AddCutBack(ctx, sqlgen.AddCutBackParams{
		ID: c.ID, CuttingID: c.CuttingID, CutOn: c.CutOn, RemovedMm: c.RemovedMM, GoneNodes: int32(c.GoneNodes), BareNodes: bare, Note: note, DriedHours: c.DriedHours,
	}); err != nil || c.VesselID == nil {
		return err
	}
	// Part of the same act: its id follows from it.
	return g.set(ctx, Setting{ID: uuid.NewSHA1(c.ID, []byte("reset")), CuttingID: c.CuttingID, VesselID: *c.VesselID, SetOn: c.CutOn, SetNodes: c.SetNodes}, c.GoneNodes)
}

func (g *Entry) checkCutBack(c CutBack, l conclude.Lived) error {
	if err := g.CheckDay("cut_on", c.CutOn, l.CutOn, "the cut"); err != nil {
		return err
	}
	stay := slices.DeleteFunc(l.NodesLeft(), func(n int) bool { return n <= c.GoneNodes })
	gone, _ := l.Gone()
	switch {
	case len(stay) == 0:
		return plant.Refuse("gone_nodes", "no node would be left of %d: without one it never grows. Close it as lost, or wait while it is firm.", len(l.NodesLeft()))
	case c.GoneNodes < gone:
		return plant.Refuse("gone_nodes", "%s gone already", plant.Counted(gone, "node is", "nodes are"))
	case c.RemovedMM == 0 && c.GoneNodes == gone && len(c.BareNodes) == 0:
		return plant.Refuse("removed_mm", "nothing came off: say how many mm, or which roots")
	}
	for _, n := range c.BareNodes {
		if !slices.Contains(stay, n) {
			return plant.Refuse("bare_nodes", "node %d is not among those that stay", n)
		}
	}
	return nil
}
