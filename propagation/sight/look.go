package sight

import (
	"context"
	"encoding/json"
	"errors"
	"image"
	"math"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/google/uuid"

	"clearjar/core/number"
	"clearjar/core/plant"
	"clearjar/core/rootphoto"
	"clearjar/core/rootphoto/likely"
	"clearjar/core/rootphoto/measure"
	"clearjar/core/rootphoto/optics"
	"clearjar/core/rootphoto/tag"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
	"clearjar/propagation/photo/intake"
	"clearjar/store/sqlgen"
)

// ErrStopped says that the looking was stopped meanwhile.
var ErrStopped = errors.New("the looking was stopped")

// opened is a photo that was looked at, for further taps on it.
type opened struct {
	id     uuid.UUID
	seen   *measure.Seen
	asked  Asking
	looks  []sqlgen.LooksOfCuttingsRow
	others []OtherSeen
	// width and height are of the upright photo, pixels.
	width, height int
}

// recent are the photos that were looked at last in this process, so that a tap on one need not look anew. It can be lost:
// then one looks anew.
var recent struct {
	sync.Mutex
	last []opened
}

// mostOpen is how many photos are remembered: each takes some tens of MB.
const mostOpen = 2

// Look looks at a photo and keeps what is seen. It goes on only while nobody stops it.
func Look(ctx context.Context, g *propagation.Garden, id uuid.UUID) error {
	end := func(state State, seen *PhotoSeen, remark string) error {
		result, err := json.Marshal(seen)
		if err != nil {
			return err
		}
		_, err = g.Store.EndSighting(ctx, sqlgen.EndSightingParams{ID: id, State: string(state), Result: result, Remark: remark, Version: Version, DoneAt: ptr(g.Now())})
		return err
	}
	o, tags, problem, err := open(ctx, g, id)
	switch {
	case errors.Is(err, ErrStopped):
		return nil
	case problem != "":
		return end(Failed, nil, problem)
	case err != nil:
		return err
	}
	seen := &PhotoSeen{Colour: o.seen.Asked.Colour, Tags: tags, Carried: []plant.NodeAt{}, Roots: []RootSeen{}, Others: o.others, Says: []string{}}
	for _, p := range o.seen.Problems {
		if len(o.asked.Nodes) > 0 {
			seen.Says = append(seen.Says, sentence(p.Error()))
		}
	}
	if o.seen.Guide != nil {
		if err := step(ctx, g, id, "finding roots"); errors.Is(err, ErrStopped) {
			return nil
		} else if err != nil {
			return err
		}
		for _, r := range o.seen.Proposals(measure.ProposeFrom) {
			seen.Roots = append(seen.Roots, rootOf(r, o.asked.Nodes))
		}
		seen.About, seen.Water = o.seen.Count(), o.seen.Water()
		if total, ok := o.seen.Total(); ok {
			seen.Total = &total
		}
	}
	if len(o.asked.Nodes) == 0 {
		seen.Carried, seen.CarriedFrom = carried(o.looks, o.seen.Tags, o.width, o.height)
	}
	if seen.Before, err = before(ctx, g, o); err != nil {
		return err
	}
	seen.Says = append(seen.Says, o.seen.Warnings()...)
	seen.Sight = o.sight(tags)
	remember(o)
	return end(Done, seen, "")
}

func sentence(text string) string {
	if text == "" {
		return text
	}
	return strings.ToUpper(text[:1]) + text[1:] + "."
}

func step(ctx context.Context, g *propagation.Garden, id uuid.UUID, what string) error {
	n, err := g.Store.StepSighting(ctx, sqlgen.StepSightingParams{ID: id, Step: what})
	if err == nil && n == 0 {
		err = ErrStopped
	}
	return err
}

// open decodes the photo and looks at it. A problem is one of the photo's, in words.
func open(ctx context.Context, g *propagation.Garden, id uuid.UUID) (o opened, tags []TagSeen, problem string, err error) {
	row, err := g.Store.SightingByID(ctx, id)
	if err != nil {
		return o, nil, "", err
	}
	o.id = id
	if err := json.Unmarshal(row.Asked, &o.asked); err != nil {
		return o, nil, "", err
	}
	if row.State == string(Waiting) || row.State == string(Working) {
		if err := step(ctx, g, id, "opening the photo"); err != nil {
			return o, nil, "", err
		}
	}
	original, err := g.Store.PhotoOriginal(ctx, row.PhotoID)
	if err != nil {
		return o, nil, "", err
	}
	kept, err := g.Store.PhotoByID(ctx, row.PhotoID)
	if err != nil {
		return o, nil, "", err
	}
	life, err := conclude.OneLife(ctx, g, row.CuttingID)
	if err != nil {
		return o, nil, "", err
	}
	p, img, done, err := intake.OpenAs(ctx, original.Original, int(original.Orientation))
	defer done()
	if err != nil {
		return o, nil, sentence(err.Error()), nil
	}
	if row.State == string(Waiting) || row.State == string(Working) {
		if err := step(ctx, g, id, "reading tags"); err != nil {
			return o, nil, "", err
		}
	}
	found := measure.Tags(img)
	numbers, err := g.Numbers(ctx)
	if err != nil {
		return o, nil, "", err
	}
	if tags, err = whose(ctx, g, found, life, numbers.Of(rootphoto.TagWidth)); err != nil {
		return o, nil, "", err
	}
	if row.State == string(Waiting) || row.State == string(Working) {
		if err := step(ctx, g, id, "looking for roots"); err != nil {
			return o, nil, "", err
		}
	}
	o.looks, o.width, o.height = life.LookRows, p.Width, p.Height
	if o.others, err = others(ctx, g, o, found, life); err != nil {
		return o, nil, "", err
	}
	o.seen, err = see(img, p, found, tags, life, o, numbers, kept.TakenAt)
	return o, tags, "", err
}

// vesselMark stands before the short name on tags of vessels.
const vesselMark = "V:"

// whose tells of each tag whether it is this cutting's.
func whose(ctx context.Context, g *propagation.Garden, found []tag.Found, life conclude.Lived, mm float64) ([]TagSeen, error) {
	out := []TagSeen{}
	for _, f := range found {
		t := TagSeen{TagAt: plant.TagAt{Payload: f.Payload, Corners: f.Corners[:], SymbolMM: mm}}
		named, err := g.Store.TagNames(ctx, short(f.Payload))
		if err != nil {
			return nil, err
		}
		for _, n := range named {
			t.Whose = n.Code
			t.Mine = t.Mine || n.ID == life.Row.ID || n.ID == life.VesselID()
		}
		out = append(out, t)
	}
	return out, nil
}

// see looks for what gives a scale and for roots.
func see(img image.Image, p intake.Picture, found []tag.Found, tags []TagSeen, life conclude.Lived, o opened, n number.Table, taken time.Time) (*measure.Seen, error) {
	a := o.asked
	tables, err := measure.Shipped()
	if err != nil {
		return nil, err
	}
	stood := conclude.StoodAt(life.SetRows, taken)
	asked := measure.Asked{
		Vessel: stood.Vessel(), Behind: BehindOf(stood.Medium, stood.Kind), Healthy: life.Group.RootColours,
		Focal35: p.Focal35, TagMM: n.Of(rootphoto.TagWidth), Numbers: n,
	}
	asked.Colour = colourOf(life, a)
	// The tag of this cutting or its vessel, else the one the photo has.
	for i, t := range tags {
		if t.Mine {
			asked.Of = found[i].Payload
		}
	}
	slices.SortFunc(a.Nodes, func(x, y plant.NodeAt) int { return x.Node - y.Node })
	for _, n := range a.Nodes {
		asked.Nodes = append(asked.Nodes, n.At)
	}
	for _, other := range o.others {
		piece := []plant.Point{}
		for _, n := range other.Nodes {
			piece = append(piece, n.At)
		}
		asked.Others = append(asked.Others, piece)
	}
	edge := func(s *plant.Stroke) *optics.Edge {
		if s == nil {
			return nil
		}
		return &optics.Edge{A: s.A, B: s.B}
	}
	asked.Left, asked.Right, asked.Water = edge(a.Left), edge(a.Right), a.WaterY
	return tables.Look(img, found, asked), nil
}

// colourOf is the colour of roots that is looked for: that which was said, else that of most roots of the newest look, else
// the first that the group has.
func colourOf(life conclude.Lived, a Asking) plant.RootColour {
	if a.Colour != "" {
		return a.Colour
	}
	for _, l := range slices.Backward(life.LookRows) {
		count := map[plant.RootColour]int{}
		var most plant.RootColour
		for _, r := range l.Seen.Roots {
			if r.Colour == "" {
				continue
			}
			if count[r.Colour]++; count[r.Colour] > count[most] {
				most = r.Colour
			}
		}
		if most != "" {
			return most
		}
	}
	if len(life.Group.RootColours) > 0 {
		return life.Group.RootColours[0]
	}
	return plant.White
}

// BehindOf is what roots in a medium are seen against; a piece that stands in nothing lies on a board.
func BehindOf(m plant.Medium, kind plant.VesselKind) likely.Background {
	if kind == "" {
		return likely.Background{}
	}
	row := m.Row()
	return likely.Background{Water: row.Liquid, Moss: !row.Liquid && !row.Grains, Grains: row.Grains}
}

// carried are the nodes of the newest of some looks whose photo has one of the tags, carried over to the photo these are in.
func carried(looks []sqlgen.LooksOfCuttingsRow, tags []tag.Found, width, height int) ([]plant.NodeAt, *time.Time) {
	out := []plant.NodeAt{}
	for _, l := range slices.Backward(looks) {
		was := l.Seen.Sight
		if was == nil || was.Tag == nil || len(was.Nodes) == 0 {
			continue
		}
		at := slices.IndexFunc(tags, func(f tag.Found) bool { return f.Payload == was.Tag.Payload })
		if at < 0 {
			continue
		}
		places := []plant.Point{}
		for _, n := range was.Nodes {
			places = append(places, n.At)
		}
		over, _ := tag.Carry([4]plant.Point(was.Tag.Corners), tags[at].Corners, places)
		for i, p := range over {
			if p.X < 0 || p.Y < 0 || p.X > float64(width) || p.Y > float64(height) {
				return []plant.NodeAt{}, nil // taken from elsewhere
			}
			out = append(out, plant.NodeAt{Node: was.Nodes[i].Node, At: rounded(p)})
		}
		return out, ptr(l.LookedAt)
	}
	return out, nil
}

// before is the newest earlier photo of the piece: with the same tag when there is one.
func before(ctx context.Context, g *propagation.Garden, o opened) (*BeforeSeen, error) {
	var found *BeforeSeen
	for _, l := range slices.Backward(o.looks) {
		if l.PhotoID == nil || *l.PhotoID == o.asked.PhotoID || found != nil && l.Seen.Sight == nil {
			continue
		}
		b := BeforeSeen{PhotoID: *l.PhotoID, LookedAt: l.LookedAt}
		if was := l.Seen.Sight; was != nil && was.Tag != nil {
			at := slices.IndexFunc(o.seen.Tags, func(f tag.Found) bool { return f.Payload == was.Tag.Payload })
			if at >= 0 {
				// A likeness keeps angles: two places tell it.
				p, _ := tag.Carry([4]plant.Point(was.Tag.Corners), o.seen.Tags[at].Corners, []plant.Point{{}, {X: 1}})
				x, y := p[1].X-p[0].X, p[1].Y-p[0].Y
				b.Matrix, b.Aligned = [6]float64{x, y, -y, x, p[0].X, p[0].Y}, true
			}
		}
		if found == nil || b.Aligned {
			kept, err := g.Store.PhotoByID(ctx, b.PhotoID)
			if err != nil {
				return nil, err
			}
			b.WidthPX, b.HeightPX = int(kept.WidthPx), int(kept.HeightPx)
			if !b.Aligned {
				by := float64(o.width) / float64(b.WidthPX)
				b.Matrix = [6]float64{by, 0, 0, by, 0, 0}
			}
			found = &b
		}
		if b.Aligned {
			break
		}
	}
	return found, nil
}

// short is the short name in the payload of a tag; that of a vessel may say so before it.
func short(payload string) string {
	return strings.TrimPrefix(strings.TrimPrefix(payload, tag.Prefix), vesselMark)
}

func shorts(found []tag.Found) []string {
	out := []string{}
	for _, f := range found {
		out = append(out, short(f.Payload))
	}
	return out
}

// others are the other cuttings in a photo: those its tags name, and those that stand where this one does.
func others(ctx context.Context, g *propagation.Garden, o opened, found []tag.Found, life conclude.Lived) ([]OtherSeen, error) {
	vessels := []uuid.UUID{}
	if id := life.VesselID(); id != uuid.Nil {
		vessels = append(vessels, id)
	}
	in, err := g.Store.InPhoto(ctx, sqlgen.InPhotoParams{Tags: shorts(found), Vessels: vessels})
	if err != nil {
		return nil, err
	}
	out, ids := []OtherSeen{}, []uuid.UUID{}
	for _, c := range in {
		if c.ID != o.asked.CuttingID {
			out, ids = append(out, OtherSeen{CuttingID: c.ID, Code: c.Code, Nodes: []plant.NodeAt{}}), append(ids, c.ID)
		}
	}
	if len(ids) == 0 {
		return out, nil
	}
	looks, err := g.Store.LooksOfCuttings(ctx, ids)
	if err != nil {
		return nil, err
	}
	for i := range out {
		mine := []sqlgen.LooksOfCuttingsRow{}
		for _, l := range looks {
			if l.CuttingID != out[i].CuttingID {
				continue
			}
			mine = append(mine, l)
			if l.PhotoID != nil && *l.PhotoID == o.asked.PhotoID {
				out[i].Looked = true
				if l.Seen.Sight != nil {
					out[i].Nodes = l.Seen.Sight.Nodes
				}
			}
		}
		if len(out[i].Nodes) == 0 {
			out[i].Nodes, _ = carried(mine, found, o.width, o.height)
		}
	}
	return out, nil
}

// sight is what lengths are to rest on, as it was seen.
func (o opened) sight(tags []TagSeen) *plant.Sight {
	s := o.seen
	if s.Surface == nil {
		return nil
	}
	out := &plant.Sight{WidthPX: s.Surface.Width, HeightPX: s.Surface.Height, Focal35: s.Asked.Focal35, Nodes: o.asked.Nodes}
	if t := s.Surface.Tag; t != nil {
		for _, known := range tags {
			if known.Payload == t.Payload {
				out.Tag = ptr(known.TagAt)
				break
			}
		}
	}
	stroke := func(e *optics.Edge) *plant.Stroke {
		if e == nil {
			return nil
		}
		return &plant.Stroke{A: rounded(e.A), B: rounded(e.B)}
	}
	out.Left, out.Right, out.Dragged = stroke(s.Surface.Left), stroke(s.Surface.Right), s.Surface.Set
	out.WaterY = s.Surface.Given.Water
	return out
}

func rounded(p plant.Point) plant.Point {
	return plant.Point{X: math.Round(p.X*100) / 100, Y: math.Round(p.Y*100) / 100}
}

func remember(o opened) {
	recent.Lock()
	defer recent.Unlock()
	recent.last = slices.DeleteFunc(recent.last, func(x opened) bool { return x.id == o.id })
	recent.last = append(recent.last, o)
	if len(recent.last) > mostOpen {
		recent.last = slices.Delete(recent.last, 0, len(recent.last)-mostOpen)
	}
}

// Tap is a tap on the tip of a root in a photo, with points its line must pass.
type Tap struct {
	Tip  plant.Point   `json:"tip"`
	Pass []plant.Point `json:"pass" maxItems:"20"`
	// Node is which node it springs from; 0 for whichever is reached first.
	Node int `json:"node" minimum:"0" maximum:"60"`
}

// Follow follows a root from its tip to its node, in a photo whose nodes were marked.
func Follow(ctx context.Context, g *propagation.Garden, id uuid.UUID, t Tap) (RootSeen, error) {
	o, err := recall(ctx, g, id)
	if err != nil {
		return RootSeen{}, err
	}
	if o.seen.Guide == nil {
		return RootSeen{}, plant.Refuse("tip", "the nodes must be marked first, and the photo must have a scale")
	}
	node := -1
	for i, n := range o.asked.Nodes {
		if n.Node == t.Node {
			node = i
		}
	}
	if t.Node > 0 && node < 0 {
		return RootSeen{}, plant.Refuse("node", "node %d is not marked in this photo", t.Node)
	}
	r, err := o.seen.Follow(measure.Tip{At: t.Tip, Pass: t.Pass, Node: node})
	if err != nil {
		return RootSeen{}, plant.Refuse("tip", "%s", err)
	}
	return rootOf(r, o.asked.Nodes), nil
}

// recall is a photo as it was looked at; it is looked at anew when it was forgotten.
func recall(ctx context.Context, g *propagation.Garden, id uuid.UUID) (opened, error) {
	// Whose it is the database tells, every time.
	if _, err := g.Store.SightingByID(ctx, id); err != nil {
		return opened{}, propagation.Missing(err, "This question")
	}
	recent.Lock()
	at := slices.IndexFunc(recent.last, func(o opened) bool { return o.id == id })
	if at >= 0 {
		o := recent.last[at]
		recent.Unlock()
		return o, nil
	}
	recent.Unlock()
	o, _, problem, err := open(ctx, g, id)
	if err != nil {
		return o, err
	}
	if problem != "" {
		return o, plant.Refuse("photo", "%s", problem)
	}
	remember(o)
	return o, nil
}

// mostPoints is how many points a line is kept with.
const mostPoints = 400

// shorter is a line with fewer points: every second or third, and both ends.
func shorter(line []plant.Point) []plant.Point {
	step := max(2, (len(line)+mostPoints-1)/mostPoints)
	out := []plant.Point{}
	for i := 0; i < len(line); i += step {
		out = append(out, rounded(line[i]))
	}
	if n := len(line); n > 0 && (n-1)%step != 0 {
		out = append(out, rounded(line[n-1]))
	}
	return out
}
