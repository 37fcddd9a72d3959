package conclude

import (
	"encoding/json"
	"reflect"
	"time"

	"github.com/google/uuid"

	"github.com/danielgtaylor/huma/v2"

	"clearjar/core/cutplan"
	"clearjar/core/life"
	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/core/readiness"
)

// OnShelf is a [ShelfCutting] as it was kept and is sent.
type OnShelf json.RawMessage

// MarshalJSON gives it as it is.
func (o OnShelf) MarshalJSON() ([]byte, error) { return o, nil }

// UnmarshalJSON takes it as it comes.
func (o *OnShelf) UnmarshalJSON(text []byte) error {
	*o = append((*o)[:0], text...)
	return nil
}

// Cutting reads what it says.
func (o OnShelf) Cutting() (c ShelfCutting, err error) {
	err = json.Unmarshal(o, &c)
	return c, err
}

// Schema is that of a [ShelfCutting].
func (OnShelf) Schema(r huma.Registry) *huma.Schema {
	return r.Schema(reflect.TypeOf(ShelfCutting{}), true, "ShelfCutting")
}

// CuttingFacts is a cutting as it stands, without what is concluded of it.
type CuttingFacts struct {
	ID         uuid.UUID       `json:"id"`
	Code       string          `json:"code"`
	Tag        string          `json:"tag"`
	MotherID   uuid.UUID       `json:"mother_id"`
	MotherName string          `json:"mother_name"`
	GroupKey   string          `json:"group_key"`
	GroupName  string          `json:"group_name"`
	Pattern    string          `json:"pattern"`
	Kind       plant.PieceKind `json:"kind"`
	Piece      cutplan.Piece   `json:"piece"`
	// Nodes are the piece's own, base to tip; node 1 of a look is Nodes[0].
	Nodes       []plant.Node `json:"nodes"`
	ThicknessMM float64      `json:"thickness_mm"`
	SetNodes    int          `json:"set_nodes"`
	// Where it is: not set yet, in a vessel, in a pot, given away, or ended. The first three stand.
	Where life.Where `json:"where" enum:"unset,vessel,pot,given,ended"`
	// Fate is what became of it; open while it is not known.
	Fate life.Fate `json:"fate" enum:"open,established,lost,given,parted"`
	// CutID is the cut of one stem it came of.
	CutID uuid.UUID `json:"cut_id"`
	// Pose is how it stands or lies in its vessel.
	Pose plant.Pose `json:"pose" enum:"upright,stalk,on_top,lying,flat,half_buried,crown,perched,hanging"`
	// GoneNodes and GoneMM are what was cut back from its base; BareNodes stayed and lost their roots.
	GoneNodes int     `json:"gone_nodes"`
	GoneMM    float64 `json:"gone_mm"`
	// Taken are the numbers of its growing points that went with what was parted from it; ParentID is what it was parted from itself.
	Taken    []int      `json:"taken"`
	ParentID *uuid.UUID `json:"parent_id,omitempty"`
	// Came says whether a plant that was parted has its mother's pattern; left out where nobody said.
	Came  plant.Came `json:"came,omitempty" enum:"kept,partly,lost"`
	CutOn time.Time  `json:"cut_on"`
	// CutKnownTo is how exactly that day is known.
	CutKnownTo string `json:"cut_known_to" enum:"day,week,month"`
	// MotherKnown is false while nothing but a name is known of the plant it came from.
	MotherKnown bool         `json:"mother_known"`
	SetOn       *time.Time   `json:"set_on,omitempty"`
	VesselID    *uuid.UUID   `json:"vessel_id,omitempty"`
	Medium      plant.Medium `json:"medium,omitempty"`
	// Uncovered: kept with nothing over it, whatever the vessel came with.
	Uncovered bool `json:"uncovered"`
	// PottedOn is when it came into its first pot, MovedOn when into the one it stands in, if that is another.
	PottedOn *time.Time   `json:"potted_on,omitempty"`
	MovedOn  *time.Time   `json:"moved_on,omitempty"`
	Pot      *potting.Pot `json:"pot,omitempty"`
	// PotID is the pot it stands in, which others may share; Stand is where in it.
	PotID   *uuid.UUID     `json:"pot_id,omitempty"`
	Stand   *potting.Stand `json:"stand,omitempty"`
	GivenOn *time.Time     `json:"given_on,omitempty"`
	// Seen is the newest state of each thing noted, for the drawing: roots without their traced lines.
	Seen      plant.Look `json:"seen"`
	LongestMM float64    `json:"longest_mm"`
	LookedAt  *time.Time `json:"looked_at,omitempty"`
	Today
}

// Today is where that is which a cutting stands in, as it is called today: no part of what is kept of a conclusion.
type Today struct {
	PlaceID    *uuid.UUID `json:"place_id,omitempty"`
	VesselName string     `json:"vessel_name"`
	PlaceName  string     `json:"place_name"`
}

// ShelfCutting is what the shelf and the lists draw of a cutting.
type ShelfCutting struct {
	CuttingFacts
	Judgement ShelfVerdict `json:"judgement"`
}

// ShelfVerdict is a judgement as far as the shelf shows it: the verdict, its sentence and its next act.
type ShelfVerdict struct {
	Verdict plant.Verdict   `json:"verdict"`
	School  plant.SchoolKey `json:"school"`
	// Asks for an act today; ToPot for potting it.
	Asks  bool `json:"asks"`
	ToPot bool `json:"to_pot"`
	// Act is what is to be done; LeaveUntil the day before which a closed vessel is left closed.
	Act        readiness.Act `json:"act" enum:"pot_up,uncover,part,look,wait,rescue,leave_alone"`
	LeaveUntil *time.Time    `json:"do_not_open_until,omitempty"`
	// Likely is the chance that it is ready, 0 to 1; nil where the model does not speak of it. Comes is when it is ready.
	Likely *float64         `json:"likely,omitempty"`
	Comes  *readiness.Comes `json:"comes,omitempty"`
	// DayLoss is what leaving it a day costs, in the chance of one plant.
	DayLoss float64 `json:"day_loss"`
	// Brief is the sentence in a few words.
	Brief    string              `json:"brief"`
	Sentence string              `json:"sentence"`
	NextLook *time.Time          `json:"next_look,omitempty"`
	Question *readiness.Question `json:"question,omitempty"`
	Caution  string              `json:"caution,omitempty"`
	Progress float64             `json:"progress"`
	AgeDays  int                 `json:"age_days"`
}

func shelfVerdict(j readiness.Judgement) ShelfVerdict {
	return ShelfVerdict{
		j.Verdict, j.School, j.Asks, j.ToPot, j.Act, j.LeaveUntil, j.Likely, j.Comes, j.DayLoss, j.Brief, j.Sentence, j.NextLook, j.Question, j.Caution,
		j.Progress, j.AgeDays,
	}
}

// PageCutting is what a cutting's own page shows: the judgement whole.
type PageCutting struct {
	CuttingFacts
	Judgement readiness.Judgement `json:"judgement"`
}
