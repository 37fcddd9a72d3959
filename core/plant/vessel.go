package plant

import (
	"errors"
	"math"
	"slices"

	"clearjar/core/number"
)

// VesselKind is what a cutting stands in, whatever medium is in it.
type VesselKind string

// The vessels of the trade.
const (
	Jar         VesselKind = "jar"
	LiddedBox   VesselKind = "lidded_box"
	LiddedCup   VesselKind = "lidded_cup"
	Saucer      VesselKind = "saucer"
	Bag         VesselKind = "bag"
	BottleHouse VesselKind = "bottle_house"
	CoveredPot  VesselKind = "covered_pot"
	OpenPot     VesselKind = "pot"
	Basket      VesselKind = "basket"
)

// CoverState is how what covers a vessel stands.
type CoverState string

// How a cover can stand, from shut to off.
const (
	CoverOn     CoverState = "on"
	CoverVented CoverState = "vented"
	CoverAjar   CoverState = "ajar"
	CoverByDay  CoverState = "by_day"
	CoverOff    CoverState = "off"
)

// CoverStateRow is one way a cover can stand, with what differs between them.
type CoverStateRow struct {
	State CoverState `json:"state"`
	// Tight: no air gets in by itself. Humid: the air under it stays humid.
	Tight bool `json:"tight"`
	Humid bool `json:"humid"`
}

var coverStates = []CoverStateRow{
	{CoverOn, true, true},
	{CoverVented, false, true},
	{CoverAjar, false, true},
	{CoverByDay, false, false},
	{CoverOff, false, false},
}

// CoverStates is the table of how covers stand, from shut to off.
func CoverStates() []CoverStateRow { return append([]CoverStateRow{}, coverStates...) }

// Row finds the table row of a state; one that is not known is off.
func (s CoverState) Row() CoverStateRow {
	for _, r := range coverStates {
		if r.State == s {
			return r
		}
	}
	return coverStates[len(coverStates)-1]
}

// CoverWord is one way the cover of a kind of vessel can stand, in its own words.
type CoverWord struct {
	State CoverState `json:"state"`
	// Label says how it stands, Act what one does to get there.
	Label string `json:"label"`
	Act   string `json:"act"`
}

// HardenStep is one step of getting used to drier air: so the cover stands for so many days, and then the next.
type HardenStep struct {
	State CoverState `json:"state"`
	Days  Number     `json:"days"`
}

// VesselSort is one kind of vessel with all that differs between kinds.
type VesselSort struct {
	Kind VesselKind `json:"kind"`
	// Shape is how it is drawn.
	Shape string `json:"shape" enum:"jar,box,cup,saucer,bag,bottle,pot,basket"`
	Label string `json:"label"`
	// Medium is what usually is in it; Drains: it has holes, and holds no water.
	Medium Medium `json:"medium"`
	Drains bool   `json:"drains"`
	// Covers is how its cover can stand, from shut to off; one word for what has none.
	Covers []CoverWord `json:"covers"`
	// Harden is how what stands in it gets used to drier air when it stays there, step by step.
	Harden []HardenStep `json:"harden"`
	// MistInHeat: the leaves in it are misted morning and evening while it is hot.
	MistInHeat bool  `json:"mist_in_heat"`
	Basis      Basis `json:"basis"`
	// Usual are the measures a new one starts with.
	Usual Vessel `json:"usual"`
	// FloorMM is the thickness of its floor, Taper its bottom width against its top.
	FloorMM float64 `json:"floor_mm"`
	Taper   float64 `json:"taper"`
	// Round: its depth is its width.
	Round bool `json:"round"`
}

// covers are the words of a cover that is called so.
func covers(on, vented, ajar, byDay, off string) []CoverWord {
	out := []CoverWord{}
	for _, w := range []struct {
		state CoverState
		words string
	}{{CoverOn, on}, {CoverVented, vented}, {CoverAjar, ajar}, {CoverByDay, byDay}, {CoverOff, off}} {
		if label, act, ok := cutWords(w.words); ok {
			out = append(out, CoverWord{w.state, label, act})
		}
	}
	return out
}

func cutWords(words string) (label, act string, ok bool) {
	for i, r := range words {
		if r == '|' {
			return words[:i], words[i+1:], true
		}
	}
	return words, words, words != ""
}

var lid = covers("lid on|put the lid on", "lid with holes|make holes in the lid", "lid ajar|set the lid ajar", "lid off some hours a day|take the lid off some hours a day", "lid off|take the lid off")

func hardenFor(kind VesselKind, state CoverState, label string, days float64, b Basis) HardenStep {
	return HardenStep{state, number.Define(Number{Key: "care.harden." + string(kind) + "." + string(state), Label: label, Value: days, Low: 1, High: 120, Unit: "days", Basis: b})}
}

// hardenSlowly is how a cover that can be set ajar comes off.
func hardenSlowly(kind VesselKind, label string) []HardenStep {
	why := Assumed("growers say a few weeks in all, in steps")
	return []HardenStep{
		hardenFor(kind, CoverAjar, "Hardening in a "+label+": ajar for", 7, why),
		hardenFor(kind, CoverByDay, "Hardening in a "+label+": off some hours a day for", 7, why),
		hardenFor(kind, CoverOff, "Hardening in a "+label+": off before potting on", 14, why),
	}
}

var vessels = []VesselSort{
	{
		Kind: Jar, Shape: "jar", Label: "jar", Medium: Water, Covers: covers("lid on|put the lid on", "", "lid ajar|set the lid ajar", "", "open|take the lid off"),
		Harden: []HardenStep{}, Usual: Vessel{Kind: Jar, Medium: Water, WidthMM: 80, DepthMM: 80, HeightMM: 120, WallMM: 2.5, FillMM: 80, Holds: 2}, FloorMM: 6, Taper: 1, Round: true,
	},
	{
		Kind: LiddedBox, Shape: "box", Label: "lidded box", Medium: Moss, Covers: lid, Harden: hardenSlowly(LiddedBox, "lidded box"),
		Usual: Vessel{Kind: LiddedBox, Medium: Moss, WidthMM: 180, DepthMM: 110, HeightMM: 110, WallMM: 1.5, FillMM: 45, Holds: 5}, FloorMM: 2, Taper: 1,
	},
	{
		Kind: LiddedCup, Shape: "cup", Label: "lidded cup", Medium: Perlite, Covers: lid, Harden: hardenSlowly(LiddedCup, "lidded cup"),
		Usual: Vessel{Kind: LiddedCup, Medium: Perlite, WidthMM: 95, DepthMM: 95, HeightMM: 110, WallMM: 1, FillMM: 75, Holds: 3}, FloorMM: 2, Taper: 0.84, Round: true,
	},
	{
		Kind: Saucer, Shape: "saucer", Label: "saucer under film", Medium: Moss,
		Covers: covers("film on|lay the film over it", "film with pinholes|prick the film", "film lifted at one side|lift the film at one side", "film off some hours a day|take the film off some hours a day", "film off|take the film off"),
		Harden: hardenSlowly(Saucer, "saucer under film"),
		Usual:  Vessel{Kind: Saucer, Medium: Moss, WidthMM: 160, DepthMM: 160, HeightMM: 45, WallMM: 2, FillMM: 28, Holds: 6}, FloorMM: 3, Taper: 0.8, Round: true,
	},
	{
		Kind: Bag, Shape: "bag", Label: "bag", Medium: Moss,
		Covers: covers("bag shut|shut the bag", "bag with pinholes|prick the bag", "bag half open|open the bag half", "bag open some hours a day|open the bag some hours a day", "bag open|open the bag"),
		Harden: hardenSlowly(Bag, "bag"),
		Usual:  Vessel{Kind: Bag, Medium: Moss, WidthMM: 170, DepthMM: 60, HeightMM: 200, WallMM: 0.1, FillMM: 50, Holds: 4}, FloorMM: 1, Taper: 0.9,
	},
	{
		Kind: BottleHouse, Shape: "bottle", Label: "bottle house", Medium: Mix,
		Covers: covers("cap on|screw the cap on", "cap off|take the cap off", "top set ajar|set the top ajar", "top off some hours a day|take the top off some hours a day", "top off|take the top off"),
		Harden: []HardenStep{
			hardenFor(BottleHouse, CoverVented, "Hardening in a bottle house: cap off for", 21, practiceRemark("a few weeks")),
			hardenFor(BottleHouse, CoverOff, "Hardening in a bottle house: top off before potting", 24, practiceRemark("three to four weeks")),
		},
		MistInHeat: true,
		Usual:      Vessel{Kind: BottleHouse, Medium: Mix, WidthMM: 215, DepthMM: 215, HeightMM: 330, WallMM: 0.5, FillMM: 90, Holds: 20}, FloorMM: 1, Taper: 1, Round: true,
	},
	{
		Kind: CoveredPot, Shape: "pot", Label: "covered pot", Medium: Mix, Drains: true,
		Covers: covers("cover on|put the cover over it", "cover with holes|make holes in the cover", "cover ajar|set the cover ajar", "cover off some hours a day|take the cover off some hours a day", "cover off|take the cover off"),
		Harden: hardenSlowly(CoveredPot, "covered pot"),
		Usual:  Vessel{Kind: CoveredPot, Medium: Mix, WidthMM: 95, DepthMM: 95, HeightMM: 90, WallMM: 2, FillMM: 78, Holds: 3}, FloorMM: 2, Taper: 0.78, Round: true,
	},
	{
		Kind: OpenPot, Shape: "pot", Label: "pot", Medium: Mix, Drains: true, Covers: covers("", "", "", "", "open"), Harden: []HardenStep{},
		Usual: Vessel{Kind: OpenPot, Medium: Mix, WidthMM: 95, DepthMM: 95, HeightMM: 90, WallMM: 2, FillMM: 78, Holds: 3}, FloorMM: 2, Taper: 0.78, Round: true,
	},
	{
		Kind: Basket, Shape: "basket", Label: "basket", Medium: Mix, Drains: true, Covers: covers("", "", "", "", "open"), Harden: []HardenStep{},
		Usual: Vessel{Kind: Basket, Medium: Mix, WidthMM: 150, DepthMM: 150, HeightMM: 110, WallMM: 2, FillMM: 92, Holds: 5}, FloorMM: 2, Taper: 0.72, Round: true,
	},
}

func practiceRemark(text string) Basis {
	return Basis{Kind: CommonPractice, Source: "no source; " + text}
}

// VesselSorts is the table of vessels. How a piece is set in one depends on its medium and on the piece: see [HowToSet].
func VesselSorts() []VesselSort {
	out := append([]VesselSort{}, vessels...)
	for i := range out {
		out[i].Basis = Practice
	}
	return out
}

// Sort finds the table row of a vessel kind.
func (k VesselKind) Sort() (VesselSort, bool) {
	for _, s := range vessels {
		if s.Kind == k {
			s.Basis = Practice
			return s, true
		}
	}
	return VesselSort{}, false
}

// Takes tells whether a medium stays in a vessel of the kind.
func (s VesselSort) Takes(m Medium) bool { return m.Known() && !(s.Drains && m.Row().Liquid) }

// Word finds how the cover of the kind can stand; false for a state its cover cannot have.
func (s VesselSort) Word(state CoverState) (CoverWord, bool) {
	for _, w := range s.Covers {
		if w.State == state {
			return w, true
		}
	}
	return CoverWord{}, false
}

// CoverUsually is how its cover stands over a medium while nobody said otherwise: shut where the medium is usually
// covered, open where it is not.
func (s VesselSort) CoverUsually(m Medium) CoverState {
	if m.Row().Cover == "" {
		return s.Covers[len(s.Covers)-1].State
	}
	return s.Covers[0].State
}

// Vessel is one vessel, inner measures in mm. A round vessel has DepthMM equal to WidthMM.
type Vessel struct {
	Kind VesselKind `json:"kind"`
	// Medium is what is in it; left out for what is usual in its kind. Parts says what that is mixed of.
	Medium   Medium       `json:"medium,omitempty"`
	Parts    []MediumPart `json:"parts,omitempty" maxItems:"6"`
	WidthMM  float64      `json:"width_mm"`
	DepthMM  float64      `json:"depth_mm"`
	HeightMM float64      `json:"height_mm"`
	WallMM   float64      `json:"wall_mm"`
	// FillMM is how high water, moss, perlite or mix stands.
	FillMM float64 `json:"fill_mm"`
	// Holds is how many cuttings it takes.
	Holds int `json:"holds"`
}

// MediumPart is one part of what a medium is mixed of.
type MediumPart struct {
	Of    string  `json:"of" maxLength:"160"`
	Parts float64 `json:"parts" minimum:"0.1" maximum:"100"`
}

// Filled is the vessel with what is usual in its kind where nothing else was said, and its parts in plain words.
// Parts that are no parts are refused.
func (v Vessel) Filled() (Vessel, error) {
	if v.Medium == "" {
		if sort, ok := v.Kind.Sort(); ok {
			v.Medium = sort.Medium
		}
	}
	parts := make([]MediumPart, len(v.Parts))
	for i, p := range v.Parts {
		of, err := CleanName("parts", p.Of, 40)
		if err != nil {
			return v, err
		}
		if !(p.Parts >= 0.1 && p.Parts <= 100) {
			return v, Refuse("parts", "%s: 0.1 to 100 parts", of)
		}
		parts[i] = MediumPart{of, p.Parts}
	}
	if len(parts) > 6 {
		return v, Refuse("parts", "at most 6 parts")
	}
	v.Parts = parts
	if len(parts) == 0 {
		v.Parts = nil
	}
	return v, v.Check()
}

// Check refuses measures that are no vessel, naming every field that is wrong.
func (v Vessel) Check() error {
	var all []error
	sort, ok := v.Kind.Sort()
	switch {
	case !ok:
		all = append(all, Refuse("kind", "%q is not a vessel", v.Kind))
	case v.Medium == "" || sort.Takes(v.Medium):
	case !v.Medium.Known():
		all = append(all, Refuse("medium", "%q is not a medium", v.Medium))
	default:
		all = append(all, Refuse("medium", "a %s has holes: %s does not stay in it", sort.Label, v.Medium))
	}
	within := func(field string, x, least, most float64) {
		if math.IsNaN(x) || x < least || x > most {
			all = append(all, Refuse(field, "between %g and %g mm", least, most))
		}
	}
	within("width_mm", v.WidthMM, 10, 600)
	within("depth_mm", v.DepthMM, 10, 600)
	within("height_mm", v.HeightMM, 20, 800)
	within("wall_mm", v.WallMM, 0, 20)
	within("fill_mm", v.FillMM, 5, 800)
	if v.FillMM > v.HeightMM {
		all = append(all, Refuse("fill_mm", "higher than the vessel: at most %g mm", v.HeightMM))
	}
	if v.Holds < 1 || v.Holds > 60 {
		all = append(all, Refuse("holds", "between 1 and 60 cuttings"))
	}
	return errors.Join(all...)
}

// CheckCover refuses a state that the cover of the vessel cannot have, naming those it can.
func (v Vessel) CheckCover(field string, state CoverState) error {
	sort, ok := v.Kind.Sort()
	if !ok {
		return Refuse("kind", "%q is not a vessel", v.Kind)
	}
	if _, ok := sort.Word(state); ok {
		return nil
	}
	can := []string{}
	for _, w := range sort.Covers {
		can = append(can, string(w.State))
	}
	slices.Sort(can)
	return Refuse(field, "%q: the cover of a %s can be %s", state, sort.Label, Listed(can))
}
