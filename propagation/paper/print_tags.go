// Package paper prints what goes with the plants.
package paper

import (
	"context"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
	"clearjar/propagation/paper/tagsheet"
)

// PrintTags prints tags for cuttings as PDF, in the order asked.
func PrintTags(ctx context.Context, g *propagation.Garden, ids []uuid.UUID, size string) ([]byte, error) {
	s, err := tagsheet.SizeNamed(size)
	if err != nil {
		return nil, err
	}
	if len(ids) == 0 {
		return nil, plant.Refuse("cuttings", "choose at least one cutting")
	}
	all, err := conclude.Views(ctx, g, conclude.Only{IDs: ids})
	if err != nil {
		return nil, err
	}
	by := map[uuid.UUID]conclude.ShelfCutting{}
	for _, c := range all {
		by[c.ID] = c
	}
	tags := []tagsheet.Tag{}
	for _, id := range ids {
		c, ok := by[id]
		if !ok {
			return nil, propagation.MissingError{What: "One of these cuttings"}
		}
		row := c.Kind.Row()
		nodes := row.Points + " " + plant.SpanText(c.Piece.First, c.Piece.Last)
		if c.Piece.First == c.Piece.Last {
			nodes = row.Point + " " + plant.SpanText(c.Piece.First, c.Piece.Last)
		}
		if c.ParentID != nil {
			nodes = row.Label
		}
		tags = append(tags, tagsheet.Tag{
			Short: c.Tag, Code: c.Code, Name: c.MotherName, Nodes: nodes, Medium: string(c.Medium), Up: c.Piece.Up, CutOn: c.CutOn.In(g.Zone),
		})
	}
	return tagsheet.Print(tags, s, g.Today())
}
