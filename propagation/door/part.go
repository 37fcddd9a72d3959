package door

import (
	"context"
	"fmt"
	"math"
	"time"

	"github.com/google/uuid"

	"clearjar/core/cutplan"
	"clearjar/core/life"
	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
	"clearjar/store/sqlgen"
)

// Parting is the fact that young plants were parted from a piece, or that a rooted piece was cut in two: each part is a cutting of its
// own with a code after that of its parent, which stays known.
type Parting struct {
	ID        uuid.UUID     `json:"id"`
	CuttingID uuid.UUID     `json:"cutting_id"`
	PartedOn  time.Time     `json:"parted_on"`
	Parts     []PartedPlant `json:"parts" minItems:"1" maxItems:"60"`
	// Ends: nothing is left of it that could grow on.
	Ends bool   `json:"ends,omitempty"`
	Note string `json:"note,omitempty" maxLength:"2000"`
}

// PartedPlant is one young plant as it came off.
type PartedPlant struct {
	// Node is the growing point of the piece it grew at; of nodes that went with it the lowest, and To the uppermost.
	Node int `json:"node" minimum:"1" maximum:"60"`
	To   int `json:"to,omitempty" minimum:"0" maximum:"60"`
	// Leaves are those on it; Roots how long its roots are, mm, those that were measured; Rooted that it has some.
	Leaves int       `json:"leaves" minimum:"0" maximum:"60"`
	Rooted bool      `json:"rooted"`
	Roots  []float64 `json:"roots,omitempty" maxItems:"60"`
	// Pattern says whether it has its mother's pattern; left out when nobody looked.
	Pattern plant.Came `json:"pattern,omitempty" enum:"kept,partly,lost"`
}

func (p PartedPlant) to() int { return max(p.Node, p.To) }

func (p Parting) named() named { return named{p.ID, "parting", p.CuttingID} }

// part is the id of the n-th plant that comes of it, look that of what was seen of it then.
func (p Parting) part(n int) uuid.UUID { return uuid.NewSHA1(p.ID, fmt.Appendf(nil, "part %d", n)) }

func (p Parting) look(n int) uuid.UUID { return uuid.NewSHA1(p.ID, fmt.Appendf(nil, "look %d", n)) }

func (p Parting) write(ctx context.Context, g *Entry) error {
	note, err := plant.CleanText("note", p.Note, 500)
	if err != nil {
		return err
	}
	c, err := g.standing(ctx, p.CuttingID, life.InPot)
	if err != nil {
		return err
	}
	if err := g.checkParting(p, c); err != nil {
		return err
	}
	taken := []int32{}
	if !c.Kind.Row().Keeps {
		for _, part := range p.Parts {
			for n := part.Node; n <= part.to(); n++ {
				taken = append(taken, int32(n))
			}
		}
	}
	if _, err := g.Store.AddCut(ctx, sqlgen.AddCutParams{
		ID: p.ID, StemID: c.Row.StemID, MapVersion: c.Row.MapVersion, CutOn: p.PartedOn, KnownTo: "day", ParentID: &p.CuttingID, Taken: taken, Note: note,
	}); err != nil {
		return err
	}
	last, err := g.Store.LastPart(ctx, p.CuttingID)
	if err != nil {
		return err
	}
	for i, part := range p.Parts {
		if err := g.addPart(ctx, p, c, part, i, int(last)+i+1); err != nil {
			return err
		}
	}
	if !p.Ends {
		return nil
	}
	_, err = g.Store.AddOutcome(ctx, sqlgen.AddOutcomeParams{ID: uuid.NewSHA1(p.ID, []byte("end")), CuttingID: p.CuttingID, Kind: life.EndParted, EndedOn: p.PartedOn})
	return err
}

func (g *Entry) checkParting(p Parting, c conclude.Lived) error {
	if err := g.CheckDay("parted_on", p.PartedOn, c.CutOn, "the cut"); err != nil {
		return err
	}
	spans := make([][2]int, len(p.Parts))
	for i, part := range p.Parts {
		at := fmt.Sprintf("parts[%d]", i)
		spans[i] = [2]int{part.Node, part.to()}
		for k, mm := range part.Roots {
			if !(mm > 0 && mm <= plant.MostRootMM) {
				return plant.Refuse(fmt.Sprintf("%s.roots[%d]", at, k), "a root is longer than 0 and at most %g mm", plant.MostRootMM)
			}
		}
		if len(part.Roots) > 0 && !part.Rooted {
			return plant.Refuse(at+".rooted", "it has roots of a length, so it is rooted")
		}
	}
	return c.MayPart(spans)
}

// addPart writes one young plant, with what was seen of it as it came off.
func (g *Entry) addPart(ctx context.Context, p Parting, c conclude.Lived, part PartedPlant, i, n int) error {
	id := p.part(i)
	tag, err := g.freeTag(ctx, id)
	if err != nil {
		return err
	}
	nodes, piece := asPart(c, part)
	base := int(c.Row.FirstNode) - 1
	if err := g.Store.AddCutting(ctx, sqlgen.AddCuttingParams{
		ID: id, CutID: p.ID, StemID: c.Row.StemID, Code: plant.PlantletCode(c.Row.Code, n), Tag: tag, FirstNode: int32(base + part.Node), LastNode: int32(base + part.to()),
		Piece: piece, Part: int32(n), Nodes: nodes, Pattern: string(part.Pattern),
	}); err != nil {
		return err
	}
	mark(&g.touched.Cuttings, id)
	if len(part.Roots) == 0 {
		return nil
	}
	seen := plant.Look{RootsCounted: true, Roots: []plant.Root{}, Buds: []plant.BudAt{}}
	for _, mm := range part.Roots {
		seen.Roots = append(seen.Roots, plant.Root{Node: 1, Order: 1, LengthMM: mm, How: plant.Typed})
	}
	return NewLook{ID: p.look(i), CuttingID: id, LookedAt: p.PartedOn, Seen: seen}.write(ctx, g)
}

// plantletMM is how far below its crown a young plant ends, mm, where it was parted from a leaf or a tuber.
const plantletMM = 8.0

// asPart are the growing points of a young plant, and what piece it makes.
func asPart(c conclude.Lived, part PartedPlant) (plant.Nodes, cutplan.Piece) {
	row := c.Kind.Row()
	kind := plant.PartOf(c.Kind, part.Node, part.to(), len(c.Nodes), part.Leaves)
	base := int(c.Row.FirstNode) - 1
	piece := cutplan.Piece{
		First: base + part.Node, Last: base + part.to(), Kind: kind, Leaves: part.Leaves, Set: 1, BelowMM: plantletMM, AboveMM: plantletMM, Effects: []cutplan.Effect{}, Strip: []int{},
		Up: "as it grew, at the same depth", Chance: cutplan.DivisionNoRoots.Value,
	}
	if part.Rooted {
		piece.Chance = cutplan.DivisionRooted.Value
	}
	if row.Keeps {
		bud := plant.BudShooting
		if part.Leaves > 0 {
			bud = plant.BudLeafOpen
		}
		return plant.Nodes{{BelowMM: plantletMM, Leaf: part.Leaves > 0, Bud: bud, Rooted: part.Rooted}}, piece
	}
	nodes := append(plant.Nodes{}, c.Nodes[part.Node-1:part.to()]...)
	leaves := part.Leaves
	for i := len(nodes) - 1; i >= 0; i-- { // leaves are on the uppermost
		nodes[i].Leaf = leaves > 0
		leaves--
	}
	for i := range nodes {
		nodes[i].Rooted = part.Rooted && i == 0
	}
	if kind.Row().Pose == plant.Upright || kind.Row().Pose.Lies() {
		piece.BelowMM = math.Max(3, nodes[0].BelowMM/2)
		nodes[0].BelowMM = piece.BelowMM
		piece.Up = "tip end up"
	} else {
		piece.Set = len(nodes)
	}
	return nodes, piece
}

// withdrawParting takes a parting back: the young plants go, and what ended with it stands again.
func withdrawParting(ctx context.Context, g *Entry, id uuid.UUID) (int64, error) {
	cut, err := g.Store.CutByID(ctx, id)
	if err != nil {
		return 0, err
	}
	if cut.ParentID == nil {
		return 0, propagation.MissingError{What: "This parting"}
	}
	if _, err := g.lockCutting(ctx, *cut.ParentID); err != nil {
		return 0, err
	}
	parts, err := g.Store.CuttingsOfCuts(ctx, []uuid.UUID{id})
	if err != nil {
		return 0, err
	}
	own := []uuid.UUID{}
	for i, p := range parts {
		mark(&g.touched.Cuttings, p.ID)
		own = append(own, Parting{ID: id}.look(i))
	}
	lived, err := g.Store.LivedSince(ctx, sqlgen.LivedSinceParams{CutID: id, But: own})
	if err != nil {
		return 0, err
	}
	if lived > 0 {
		return 0, propagation.ConflictError{Reason: "Something happened to its young plants since: they were set, potted, looked at or given away. Take that back first."}
	}
	for _, look := range own {
		if _, err := g.Store.WithdrawLook(ctx, look); err != nil {
			return 0, err
		}
	}
	if _, err := g.Store.WithdrawOutcome(ctx, uuid.NewSHA1(id, []byte("end"))); err != nil {
		return 0, err
	}
	n, err := g.Store.WithdrawCut(ctx, id)
	if err != nil || n == 0 {
		return n, err
	}
	return n, g.Store.WithdrawCuttingsOf(ctx, id)
}
