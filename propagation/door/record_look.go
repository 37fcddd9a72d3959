package door

import (
	"context"
	"time"

	"github.com/google/uuid"

	"clearjar/core/life"
	"clearjar/core/plant"
	"clearjar/core/rootphoto"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
	"clearjar/propagation/photo"
	"clearjar/store"
	"clearjar/store/sqlgen"
	"clearjar/store/trace"
)

// mostLooks bounds the looks of one cutting, those that were corrected too.
const mostLooks = 3000

// NewLook is the fact that someone looked at a cutting. One dated before the cut, at nodes the piece does not
// have, or replacing a look of another cutting or one that was already replaced is refused.
type NewLook struct {
	ID        uuid.UUID  `json:"id"`
	CuttingID uuid.UUID  `json:"cutting_id"`
	LookedAt  time.Time  `json:"looked_at"`
	PhotoID   *uuid.UUID `json:"photo_id,omitempty"`
	// Replaces names the look this one corrects; the earlier one stays in the record.
	Replaces *uuid.UUID `json:"replaces,omitempty"`
	Seen     plant.Look `json:"seen"`
}

func (l NewLook) named() named { return named{l.ID, "look", l.CuttingID} }

func (l NewLook) write(ctx context.Context, g *Entry) error {
	err := l.Seen.Check()
	if err != nil {
		return err
	}
	if l.Seen.Note, err = plant.CleanText("note", l.Seen.Note, plant.MostNoteLength); err != nil {
		return err
	}
	c, err := g.lockCutting(ctx, l.CuttingID)
	if err != nil {
		return err
	}
	if err := g.CheckDay("looked_at", l.LookedAt, c.CutOn, "the cut"); err != nil {
		return err
	}
	if err := checkNodes(l.Seen, c.Life, l.LookedAt); err != nil {
		return err
	}
	if err := g.checkReplaces(ctx, l); err != nil {
		return err
	}
	if l.PhotoID, err = photo.Named(ctx, g.Garden, l.PhotoID); err != nil {
		return err
	}
	if l.Seen, err = g.asNoted(l.Seen, c, l.LookedAt); err != nil {
		return err
	}
	n, err := g.Store.CountLooks(ctx, l.CuttingID)
	if err != nil {
		return err
	}
	if n >= mostLooks {
		return plant.Refuse("cutting_id", "a cutting holds at most %d looks", mostLooks)
	}
	if l.Seen.Roots == nil {
		l.Seen.Roots = []plant.Root{}
	}
	if l.Seen.Buds == nil {
		l.Seen.Buds = []plant.BudAt{}
	}
	seen, lines := trace.Split(l.Seen)
	_, err = g.Store.AddLook(ctx, sqlgen.AddLookParams{ID: l.ID, CuttingID: l.CuttingID, LookedAt: l.LookedAt, PhotoID: l.PhotoID, Replaces: l.Replaces, Seen: seen, Traces: lines, MadeAt: g.decided})
	switch store.BrokenRule(err) {
	case "look_replaces":
		return propagation.ConflictError{Reason: "This look was corrected elsewhere already. Yours is still on the screen; open the newest one and compare."}
	case "look_photo_id_fkey":
		return propagation.MissingError{What: "The photo of this look"}
	}
	return err
}

// asNoted keeps of a look what was noted: a traced root has its line and no length, a typed one what was
// typed with how far that may be off. Lines that cannot be measured are refused.
func (g *Entry) asNoted(seen plant.Look, of conclude.Lived, at time.Time) (plant.Look, error) {
	paths := [][]plant.Point{}
	roots := make([]plant.Root, len(seen.Roots))
	for i, r := range seen.Roots {
		switch r.How {
		case plant.Traced:
			r.LengthMM, r.LowMM, r.HighMM = 0, 0, 0
			paths = append(paths, r.Path)
		case plant.Typed:
			m := rootphoto.Typed(of.Numbers, r.LengthMM, r.With)
			r.LowMM, r.HighMM = m.LowMM, m.HighMM
		}
		roots[i] = r
	}
	seen.Roots = roots
	if len(paths) == 0 {
		return seen, nil
	}
	_, err := conclude.MeasureSeen(of.Numbers, seen, paths, conclude.StoodAt(of.SetRows, at))
	return seen, err
}

// checkReplaces: a look corrects an earlier look of the same cutting, and not itself.
func (g *Entry) checkReplaces(ctx context.Context, l NewLook) error {
	if l.Replaces == nil {
		return nil
	}
	had, err := g.Store.LookByID(ctx, *l.Replaces)
	switch {
	case store.IsMissing(err):
		return propagation.MissingError{What: "The look this one corrects"}
	case err != nil:
		return err
	case *l.Replaces == l.ID:
		return plant.Refuse("replaces", "a look does not correct itself")
	case had.CuttingID != l.CuttingID:
		return plant.Refuse("replaces", "that is a look at another cutting")
	case had.WithdrawnAt != nil:
		return propagation.ConflictError{Reason: "The look this one corrects was taken back."}
	}
	return nil
}

// checkNodes: nodes of a look are counted on the piece, 1 at its base.
func checkNodes(l plant.Look, c life.Life, at time.Time) error {
	had := func(field string, n int) error {
		switch {
		case c.HadNode(n, at):
			return nil
		case n < 1 || n > len(c.Nodes):
			return plant.Refuse(field, "node %d is not on this piece: it has %s", n, plant.Counted(len(c.Nodes), "node", "nodes"))
		}
		return plant.Refuse(field, "node %d was parted from it before that day", n)
	}
	for _, r := range l.Roots {
		if err := had("roots", r.Node); err != nil {
			return err
		}
	}
	for _, b := range l.Buds {
		if err := had("buds", b.Node); err != nil {
			return err
		}
	}
	return nil
}
