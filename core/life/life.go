// Package life holds all facts of one cutting as one value, and what follows from them in one place:
// where it stands, what became of it, whether it rooted and how that is known, how old it is.
package life

import (
	"fmt"
	"sort"
	"time"

	"clearjar/core/number"
	"clearjar/core/plant"
)

// Life is everything that happened to one cutting. Times are in the grower's own zone: days begin and end in it.
type Life struct {
	Group plant.Group
	Kind  plant.PieceKind
	Form  plant.LeafForm
	// Nodes are the piece's own, base to tip; BaseMM is how far its base lies below the first.
	Nodes  []plant.Node
	BaseMM float64
	// LeafKept says whether a leaf feeds it; nil when nobody said.
	LeafKept *bool
	CutOn    time.Time
	// Settings are in the order they hold: the last is where it was put last.
	Settings []Setting
	// Looks are those that hold, oldest first.
	Looks    []LookOn
	CutBacks []CutBack
	// Potted is its first pot; Moved the pot it stands in, when it was moved on since.
	Potted  *Potting
	Moved   *Potting
	GivenOn *time.Time
	Outcome *Outcome
	// Partings are when young plants were parted from it; Offspring what became of those.
	Partings  []Parting
	Offspring Offspring
	// Numbers are those of the household.
	Numbers number.Table
}

// Setting is the fact of having been put into a vessel.
type Setting struct {
	On     time.Time
	Medium plant.Medium
	// Nodes is how many, from the base up, are in the medium.
	Nodes int
}

// LookOn is one look and the day it was made.
type LookOn struct {
	On   time.Time  `json:"on"`
	Look plant.Look `json:"look"`
}

// Potting is the fact of having been potted up.
type Potting struct {
	On time.Time `json:"on"`
}

// Outcome is how a cutting ended: established or lost, and for a lost one why.
type Outcome struct {
	On   time.Time `json:"on"`
	Kind string    `json:"kind" enum:"established,lost,parted"`
	Why  string    `json:"why,omitempty" enum:"rotted,dried,never_woke,broken,other"`
}

// How a cutting can end.
const (
	EndEstablished = "established"
	EndLost        = "lost"
	// EndParted: it went into the plants that were parted from it.
	EndParted = "parted"
)

// CutBack is the fact that a piece was cut back to sound tissue.
type CutBack struct {
	On time.Time `json:"on"`
	// RemovedMM is how much came off its base.
	RemovedMM float64 `json:"removed_mm"`
	// GoneNodes is how many nodes, from the base up, went with it.
	GoneNodes int `json:"gone_nodes"`
	// BareNodes are nodes that stayed and whose roots were taken off.
	BareNodes []int `json:"bare_nodes,omitempty"`
}

// Where is where a cutting is.
type Where string

// Places a cutting can be.
const (
	Unset    Where = "unset"
	InVessel Where = "vessel"
	InPot    Where = "pot"
	Given    Where = "given"
	Ended    Where = "ended"
)

// Where tells where it is. What has ended or was given away stands nowhere, whatever it stood in.
func (l Life) Where() Where {
	switch {
	case l.Outcome != nil:
		return Ended
	case l.GivenOn != nil:
		return Given
	case l.Potted != nil:
		return InPot
	case len(l.Settings) > 0:
		return InVessel
	}
	return Unset
}

// Stands tells whether it is still here and alive, set or not.
func (l Life) Stands() bool { return l.Where().Stands() }

// Stands tells whether what is there is still here and alive.
func (w Where) Stands() bool { return w == Unset || w == InVessel || w == InPot }

// Fate is what became of a cutting.
type Fate string

// Fates. A potted one is open: it counts when it has grown on. A given one is never known.
const (
	Open        Fate = "open"
	Established Fate = "established"
	Lost        Fate = "lost"
	GivenAway   Fate = "given"
	// Parted went into young plants: it succeeded once one of them has grown on.
	Parted Fate = "parted"
)

// Fate tells what became of it. One that was lost before it was given away is lost; one that had grown
// on counts as such wherever it went.
func (l Life) Fate() Fate {
	switch {
	case l.Outcome != nil && l.Outcome.Kind == EndLost:
		return Lost
	case l.Outcome != nil && l.Outcome.Kind == EndParted:
		return Parted
	case l.Outcome != nil:
		return Established
	case l.GivenOn != nil:
		return GivenAway
	}
	return Open
}

// Succeeded is the one meaning of success: it has grown on after potting. decided is false while its
// fate is open, or can never be known.
func (l Life) Succeeded() (succeeded, decided bool) {
	switch f := l.Fate(); {
	case l.Offspring.Established > 0:
		return true, true
	case f == Parted:
		return false, l.Offspring.Open+l.Offspring.Given == 0
	default:
		return f == Established, f == Established || f == Lost
	}
}

// SetNow is the setting that holds, false while it was never set.
func (l Life) SetNow() (Setting, bool) {
	if len(l.Settings) == 0 {
		return Setting{}, false
	}
	return l.Settings[len(l.Settings)-1], true
}

// FirstSetOn is when it was set for the first time, zero while it never was.
func (l Life) FirstSetOn() time.Time {
	first := time.Time{}
	for _, s := range l.Settings {
		if first.IsZero() || s.On.Before(first) {
			first = s.On
		}
	}
	return first
}

// MediumOn is since when it stands in the medium it stands in: moves within one medium do not count anew.
func (l Life) MediumOn() time.Time {
	now, ok := l.SetNow()
	if !ok {
		return time.Time{}
	}
	since := now.On
	for i := len(l.Settings) - 1; i >= 0 && l.Settings[i].Medium == now.Medium; i-- {
		since = l.Settings[i].On
	}
	return since
}

// Ages are whole days since it was first set, and since it came into this medium; 0 while it never was set.
func (l Life) Ages(today time.Time) (sinceSet, inMedium int) {
	if len(l.Settings) == 0 {
		return 0, 0
	}
	return plant.Days(l.FirstSetOn(), today), plant.Days(l.MediumOn(), today)
}

// AsOf is the day it is judged for: today while it stands, else the day on which it ended or was given away, so
// that what is concluded of it stays the same for ever.
func (l Life) AsOf(today time.Time) time.Time {
	switch l.Where() {
	case Ended:
		return l.Outcome.On
	case Given:
		return *l.GivenOn
	}
	return today
}

// OwnRoots tells whether it came with roots, as a division does.
func (l Life) OwnRoots() bool {
	for _, n := range l.Nodes {
		if n.Rooted {
			return true
		}
	}
	return false
}

// NodeMM is where each node sits above the base the piece was cut with, in mm.
func (l Life) NodeMM() []float64 {
	out := make([]float64, 0, len(l.Nodes))
	at := l.BaseMM
	for i, n := range l.Nodes {
		if i > 0 {
			at += n.BelowMM
		}
		out = append(out, at)
	}
	return out
}

// Gone is what was cut back from its base: nodes in all, and mm as far as they were measured.
func (l Life) Gone() (nodes int, mm float64) {
	for _, c := range l.CutBacks {
		nodes, mm = max(nodes, c.GoneNodes), mm+c.RemovedMM
	}
	return nodes, mm
}

// LooksLeft are the looks, oldest first, as far as later cutting back left what they saw. The life's own are not touched.
func (l Life) LooksLeft() []LookOn {
	if len(l.CutBacks)+len(l.Partings) == 0 {
		return append([]LookOn{}, l.Looks...)
	}
	backs := append([]CutBack{}, l.CutBacks...)
	sort.SliceStable(backs, func(i, j int) bool { return backs[i].On.Before(backs[j].On) })
	out := append([]LookOn{}, l.Looks...)
	for _, b := range backs {
		for i, look := range out {
			if !look.On.After(b.On) {
				out[i].Look = look.Look.After(b.GoneNodes, b.BareNodes)
			}
		}
	}
	for _, p := range l.Partings {
		for i, look := range out {
			if !look.On.After(p.On) {
				out[i].Look = out[i].Look.Without(p.Taken).Fewer(p.Young)
			}
		}
	}
	return out
}

// Seen is the newest state of each thing noted.
func (l Life) Seen() plant.Look {
	looks := l.LooksLeft()
	seen := make([]plant.Look, len(looks))
	for i, look := range looks {
		seen[i] = look.Look
	}
	return plant.Overlay(seen)
}

// Check refuses a life whose days contradict each other, naming the day in question: set, looked at,
// potted or given away before it was cut; potted before it was set.
func (l Life) Check() error {
	before := func(on, earliest time.Time, than string) error {
		if plant.Days(earliest, on) < 0 {
			return plant.Refuse("on", "%s is before %s on %s", on.Format("2 Jan 2006"), than, earliest.Format("2 Jan 2006"))
		}
		return nil
	}
	for _, s := range l.Settings {
		if err := before(s.On, l.CutOn, "the cut"); err != nil {
			return err
		}
	}
	for _, look := range l.Looks {
		if plant.Days(l.CutOn, look.On) < 0 {
			return plant.Refuse("on", "there is a look of %s, before the cut", look.On.Format("2 Jan 2006"))
		}
	}
	if now, ok := l.SetNow(); ok && l.Potted != nil {
		if err := before(l.Potted.On, now.On, "it was set"); err != nil {
			return err
		}
	}
	if l.Potted != nil {
		if err := before(l.Potted.On, l.CutOn, "the cut"); err != nil {
			return err
		}
	}
	if l.Moved != nil && l.Potted != nil {
		if err := before(l.Moved.On, l.Potted.On, "its first potting"); err != nil {
			return err
		}
	}
	for _, p := range l.Partings {
		if err := before(p.On, l.CutOn, "the cut"); err != nil {
			return err
		}
	}
	if l.GivenOn != nil {
		if err := before(*l.GivenOn, l.CutOn, "the cut"); err != nil {
			return err
		}
	}
	if l.Outcome != nil {
		return before(l.Outcome.On, l.CutOn, "the cut")
	}
	return nil
}

// String names where it is, for a log.
func (l Life) String() string { return fmt.Sprintf("%s, %s", l.Where(), l.Fate()) }
