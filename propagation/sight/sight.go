// Package sight asks a photo what is to be seen in it: its tags, what gives its scale, its roots. The looking is done in
// the background ([clearjar/propagation/work]); what was seen is a conclusion that is kept for a while and can be thrown
// away. A grower accepts what is right; only then is it a fact.
package sight

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/core/rootphoto"
	"clearjar/core/rootphoto/measure"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
	"clearjar/propagation/photo"
	"clearjar/store"
	"clearjar/store/sqlgen"
)

// Asking is what a photo is asked.
type Asking struct {
	ID        uuid.UUID `json:"id"`
	PhotoID   uuid.UUID `json:"photo_id"`
	CuttingID uuid.UUID `json:"cutting_id"`
	// Nodes are where the nodes are, as far as they were marked; without any only the tags are read.
	Nodes []plant.NodeAt `json:"nodes" maxItems:"60"`
	// Colour is that of most of its roots; when nothing is said that of the last look, else the first that the group has.
	Colour plant.RootColour `json:"colour,omitempty" enum:"white,cream,pink,tan,orange,brown,black"`
	// Left and Right are the edges of the vessel where they were dragged.
	Left  *plant.Stroke `json:"left,omitempty"`
	Right *plant.Stroke `json:"right,omitempty"`
	// WaterY is how far down the photo the water's surface meets the left edge of the jar, where it was set.
	WaterY *float64 `json:"water_y,omitempty" minimum:"0" maximum:"60000"`
}

// State is how far the looking is.
type State string

// How far it is.
const (
	Waiting State = "waiting"
	Working State = "working"
	Done    State = "done"
	Failed  State = "failed"
	Stopped State = "stopped"
)

// PhotoSeen is what was seen in a photo.
type PhotoSeen struct {
	// Sight is what lengths are to rest on; nil when there is no scale.
	Sight *plant.Sight `json:"sight,omitempty"`
	Tags  []TagSeen    `json:"tags"`
	// Roots are proposals.
	Roots []RootSeen `json:"roots"`
	// Carried are the nodes as they were marked in an earlier photo with the same tag, carried over: to be looked over. From is
	// when that photo was looked at.
	Carried     []plant.NodeAt `json:"carried"`
	CarriedFrom *time.Time     `json:"carried_from,omitempty"`
	// Colour is the colour of roots that was looked for.
	Colour plant.RootColour `json:"colour" enum:"white,cream,pink,tan,orange,brown,black"`
	// About is about how many roots of the stem there are, those that are hidden with them.
	About float64 `json:"about"`
	// Total is about how long all roots together are that are seen, those that cannot be told apart with them.
	Total *rootphoto.Measured `json:"total,omitempty"`
	Water string              `json:"water,omitempty" enum:"clear,cloudy"`
	// Before is the last photo of it, to be laid over this one; nil when there is none.
	Before *BeforeSeen `json:"before,omitempty"`
	// Others are the other cuttings that are in the photo as well: roots that run to their marked nodes are theirs.
	Others []OtherSeen `json:"others"`
	// Says are words to the grower: what stands in the way, and what to do.
	Says []string `json:"says"`
}

// BeforeSeen is an earlier photo of the same piece. Matrix takes its pixels to those of this photo: x' = m0 x + m2 y + m4,
// y' = m1 x + m3 y + m5. Aligned tells that both have the same tag, which lies on itself then; without it the earlier photo
// is only made as wide as this one.
type BeforeSeen struct {
	PhotoID  uuid.UUID  `json:"photo_id"`
	LookedAt time.Time  `json:"looked_at"`
	WidthPX  int        `json:"width_px"`
	HeightPX int        `json:"height_px"`
	Matrix   [6]float64 `json:"matrix"`
	Aligned  bool       `json:"aligned"`
}

// OtherSeen is another cutting in a photo. Nodes are where its own are: as they were marked in this photo, or carried over
// from its last look by the tag; without any its roots may be proposed for this one.
type OtherSeen struct {
	CuttingID uuid.UUID      `json:"cutting_id"`
	Code      string         `json:"code"`
	Nodes     []plant.NodeAt `json:"nodes"`
	// Looked tells that it was looked at in this photo already.
	Looked bool `json:"looked"`
}

// TagSeen is a tag in a photo.
type TagSeen struct {
	plant.TagAt
	// Mine tells whether it names this cutting or what it stands in; Whose is the code of the cutting it names, where it is
	// known.
	Mine  bool   `json:"mine"`
	Whose string `json:"whose,omitempty"`
}

// RootSeen is a root as it was seen.
type RootSeen struct {
	Node       int                `json:"node"`
	Order      int                `json:"order"`
	Path       []plant.Point      `json:"path"`
	Colour     plant.RootColour   `json:"colour,omitempty" enum:"white,cream,pink,tan,orange,brown,black"`
	Confidence float64            `json:"confidence"`
	Length     rootphoto.Measured `json:"length"`
	// Says are words about it: what to check.
	Says []string `json:"says"`
}

// Sighting is what was asked of a photo and what came of it.
type Sighting struct {
	ID        uuid.UUID `json:"id"`
	PhotoID   uuid.UUID `json:"photo_id"`
	CuttingID uuid.UUID `json:"cutting_id"`
	State     State     `json:"state" enum:"waiting,working,done,failed,stopped"`
	// Step is what is being done.
	Step   string     `json:"step"`
	Seen   *PhotoSeen `json:"seen,omitempty"`
	Remark string     `json:"remark"`
	// Version is that of the measuring.
	Version string    `json:"version"`
	AskedAt time.Time `json:"asked_at"`
}

// Version names how photos are looked at: when it changes they are looked at anew.
const Version = "1"

// mostNodes bounds the nodes of a question.
const mostNodes = 60

// Ask keeps a question. The same question twice is one.
func Ask(ctx context.Context, g *propagation.Garden, a Asking) error {
	if err := propagation.CheckID("id", a.ID); err != nil {
		return err
	}
	if len(a.Nodes) > mostNodes {
		return plant.Refuse("nodes", "at most %d nodes", mostNodes)
	}
	if (a.Left == nil) != (a.Right == nil) {
		return plant.Refuse("edges", "a vessel has two edges")
	}
	l, err := conclude.OneLife(ctx, g, a.CuttingID)
	if err != nil {
		return err
	}
	for _, n := range a.Nodes {
		if n.Node < 1 || n.Node > len(l.Nodes) {
			return plant.Refuse("nodes", "node %d is not on this piece: it has %s", n.Node, plant.Counted(len(l.Nodes), "node", "nodes"))
		}
	}
	named, err := photo.Named(ctx, g, &a.PhotoID)
	if err != nil {
		return err
	}
	a.PhotoID = *named
	asked, err := json.Marshal(a)
	if err != nil {
		return err
	}
	_, err = g.Store.AskSighting(ctx, sqlgen.AskSightingParams{ID: a.ID, PhotoID: a.PhotoID, CuttingID: a.CuttingID, Asked: asked, AskedAt: g.Now()})
	if store.BrokenRule(err) == "sighting_photo_id_household_id_fkey" {
		return propagation.MissingError{What: "This photo"}
	}
	return err
}

// Of is what came of a question so far.
func Of(ctx context.Context, g *propagation.Garden, id uuid.UUID) (Sighting, error) {
	row, err := g.Store.SightingByID(ctx, id)
	if err != nil {
		return Sighting{}, propagation.Missing(err, "This question")
	}
	out := Sighting{ID: row.ID, PhotoID: row.PhotoID, CuttingID: row.CuttingID, State: State(row.State), Step: row.Step, Remark: row.Remark, Version: row.Version, AskedAt: row.AskedAt}
	if string(row.Result) != "null" {
		out.Seen = &PhotoSeen{}
		if err := json.Unmarshal(row.Result, out.Seen); err != nil {
			return out, err
		}
	}
	return out, nil
}

// Stop stops the looking, when it has not ended.
func Stop(ctx context.Context, g *propagation.Garden, id uuid.UUID) (Sighting, error) {
	if _, err := g.Store.StopSighting(ctx, sqlgen.StopSightingParams{ID: id, DoneAt: ptr(g.Now())}); err != nil {
		return Sighting{}, err
	}
	return Of(ctx, g, id)
}

// keptFor is how long what was seen is kept: it can be seen again.
const keptFor = 30 * 24 * time.Hour

// Clear throws away what was seen long ago.
func Clear(ctx context.Context, g *propagation.Garden) error {
	_, err := g.Store.OldSightings(ctx, g.Now().Add(-keptFor))
	return err
}

// GiveUp says that a photo could not be looked at.
func GiveUp(ctx context.Context, g *propagation.Garden, id uuid.UUID) error {
	_, err := g.Store.EndSighting(ctx, sqlgen.EndSightingParams{
		ID: id, State: string(Failed), Remark: "The photo could not be looked at. It is kept; trace the roots by hand, or ask again later.", Version: Version, DoneAt: ptr(g.Now()),
	})
	return err
}

func ptr[T any](v T) *T { return &v }

// remarks in words.
var remarks = map[measure.Remark]string{
	measure.CheckPath: "Part of this line is hard to see: check it.",
	measure.CheckTip:  "Where it ends is unsure: look whether its tip is right.",
	measure.AtLeast:   "Its tip is not seen: it is at least so long.",
	measure.SeenTwice: "The line jumps across the glass: the same root may be seen twice.",
	measure.MaybeRot:  "Brown is not a healthy colour here: squeeze it. Firm is sound, mushy is rot.",
}

// rootOf is a measured root in the words of the screen; nodes are those that were marked, in their order.
func rootOf(r measure.Root, nodes []plant.NodeAt) RootSeen {
	out := RootSeen{Node: nodes[min(r.Node, len(nodes)-1)].Node, Order: r.Order, Path: shorter(r.Path), Colour: r.Colour, Confidence: r.Confidence, Says: []string{}}
	if r.LengthMM != nil {
		out.Length = rootphoto.Measured{LengthMM: *r.LengthMM, LowMM: *r.LowMM, HighMM: *r.HighMM}
	}
	for _, remark := range r.Remarks {
		out.Says = append(out.Says, remarks[remark])
	}
	return out
}
