package show

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
	"clearjar/store/sqlgen"
)

// PartView is one plant that was parted from a piece.
type PartView struct {
	ID      uuid.UUID     `json:"id"`
	Code    string        `json:"code"`
	Verdict plant.Verdict `json:"verdict"`
	// Came says whether it has its mother's pattern; left out where nobody looked.
	Came plant.Came `json:"came,omitempty" enum:"kept,partly,lost"`
	// On is when it was parted; CutID the parting.
	On    time.Time `json:"on"`
	CutID uuid.UUID `json:"cut_id"`
}

// addFamily adds what a piece was parted from, and what was parted from it.
func addFamily(ctx context.Context, g *propagation.Garden, page *CuttingPage, l conclude.Lived) error {
	ids := []uuid.UUID{}
	if l.Row.ParentID != nil {
		ids = append(ids, *l.Row.ParentID)
	}
	rows := []sqlgen.PartsOfRow{}
	if len(l.Partings) > 0 {
		var err error
		if rows, err = g.Store.PartsOf(ctx, []uuid.UUID{l.Row.ID}); err != nil {
			return err
		}
		for _, r := range rows {
			ids = append(ids, r.ID)
		}
	}
	if len(ids) == 0 {
		return nil
	}
	all, err := conclude.Concluded(ctx, g, conclude.Only{IDs: ids})
	if err != nil {
		return err
	}
	verdicts := map[uuid.UUID]plant.Verdict{}
	for _, c := range all {
		verdicts[c.ID] = c.Verdict
	}
	if id := l.Row.ParentID; id != nil {
		code, err := g.Store.CodeOf(ctx, *id)
		if err != nil {
			return err
		}
		page.Parent = &Sister{*id, code, verdicts[*id]}
	}
	for _, r := range rows {
		page.Parts = append(page.Parts, PartView{r.ID, r.Code, verdicts[r.ID], plant.Came(r.Pattern), r.CutOn, r.CutID})
	}
	return nil
}

// addPartings tells of each parting which plants came of it.
func addPartings(ctx context.Context, g *propagation.Garden, page *CuttingPage, add func(time.Time, string, uuid.UUID, string, ...any)) error {
	rows, err := g.Store.PartingsOf(ctx, []uuid.UUID{page.Cutting.ID})
	if err != nil {
		return err
	}
	for _, r := range rows {
		codes := []string{}
		for _, p := range page.Parts {
			if p.CutID == r.ID {
				codes = append(codes, p.Code)
			}
		}
		text := fmt.Sprintf("Parted from it: %s", plant.Listed(codes))
		if r.Note != "" {
			text += ". " + r.Note
		}
		add(r.CutOn, "parted", r.ID, "%s.", text)
	}
	return nil
}
