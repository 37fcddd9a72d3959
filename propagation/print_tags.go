package propagation

import (
	"context"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/propagation/tagsheet"
)

// PrintTags prints tags for cuttings as PDF, in the order asked.
func (g *Garden) PrintTags(ctx context.Context, ids []uuid.UUID, size string) ([]byte, error) {
	s, err := tagsheet.SizeNamed(size)
	if err != nil {
		return nil, err
	}
	if len(ids) == 0 {
		return nil, plant.Refuse("cuttings", "choose at least one cutting")
	}
	all, err := g.views(ctx, only{ids: ids})
	if err != nil {
		return nil, err
	}
	by := map[uuid.UUID]ShelfCutting{}
	for _, c := range all {
		by[c.ID] = c
	}
	tags := []tagsheet.Tag{}
	for _, id := range ids {
		c, ok := by[id]
		if !ok {
			return nil, MissingError{"One of these cuttings"}
		}
		nodes := "nodes " + plant.SpanText(c.Piece.First, c.Piece.Last)
		if c.Piece.First == c.Piece.Last {
			nodes = "node " + plant.SpanText(c.Piece.First, c.Piece.Last)
		}
		tags = append(tags, tagsheet.Tag{
			Short: c.Tag, Code: c.Code, Name: c.MotherName, Nodes: nodes, Medium: string(c.Medium), Up: c.Piece.Up, CutOn: c.CutOn.In(g.zone),
		})
	}
	return tagsheet.Print(tags, s, g.Today())
}
