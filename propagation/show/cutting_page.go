package show

import (
	"context"
	"fmt"
	"sort"
	"strings"
	"time"

	"github.com/google/uuid"

	"clearjar/core/number"
	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/core/readiness"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
	"clearjar/propagation/photo"
	"clearjar/store/sqlgen"
	"clearjar/store/trace"
)

// OneCutting shows everything about one cutting.
func OneCutting(ctx context.Context, g *propagation.Garden, id uuid.UUID) (CuttingPage, error) {
	l, err := conclude.OneLife(ctx, g, id)
	if err != nil {
		return CuttingPage{}, err
	}
	c := conclude.PageCutting{CuttingFacts: l.Facts()}
	in, err := conclude.StandingsNow(ctx, g)
	if err != nil {
		return CuttingPage{}, err
	}
	c.Today = in.Of(c.VesselID, l.Row.PottedPlaceID)
	page := CuttingPage{
		Group: l.Group, Schools: []SchoolVerdict{}, History: []Event{}, Longest: []LongestAt{}, Care: []AftercareStep{},
		Caution: plant.CautionsFor(l.Group.Hazards...), Sisters: []Sister{}, Parts: []PartView{}, NodesLeft: l.NodesLeft(), Wanted: readiness.ThresholdMM(l.Numbers, l.School()), Words: c.Kind.Row(),
	}
	before, err := conclude.Concluded(ctx, g, conclude.Only{IDs: []uuid.UUID{id}})
	if err != nil {
		return CuttingPage{}, err
	}
	evidence := l.Evidence(g)
	outlook := readiness.Expect(evidence)
	own := outlook
	for _, b := range before {
		own = outlook.After(b.Verdict)
	}
	for _, s := range plant.Schools() {
		if !s.Fits(evidence.Medium) && s.Key != l.School() {
			continue
		}
		by := outlook
		if s.Key == l.School() {
			by = own
		}
		d, err := by.Decide(s.Key)
		if err != nil {
			return CuttingPage{}, err
		}
		page.Schools = append(page.Schools, SchoolVerdict{s, d.Verdict})
		if s.Key == l.School() {
			c.Judgement = readiness.Say(d)
		}
	}
	sisters, err := conclude.SistersOf(ctx, g, l)
	if err != nil {
		return CuttingPage{}, err
	}
	page.Foreseen = foreseen(outlook.WithSisters(sisters), evidence, l.School())
	page.Cutting = c
	if err := addSisters(ctx, g, &page, l); err != nil {
		return CuttingPage{}, err
	}
	if err := addFamily(ctx, g, &page, l); err != nil {
		return CuttingPage{}, err
	}
	if c.VesselID != nil {
		v := in.Vessels[*c.VesselID]
		page.Vessel = &v
		page.Caution = append(page.Caution, plant.CautionsFor(plant.MediumHazards(v.Medium)...)...)
	}
	if err := addLooks(ctx, g, &page, l); err != nil {
		return CuttingPage{}, err
	}
	if l.Row.PotID != nil {
		visits, err := potVisits(ctx, g, []uuid.UUID{*l.Row.PotID})
		if err != nil {
			return CuttingPage{}, err
		}
		planted, _ := l.Planted(g.Today(), visits[*l.Row.PotID])
		weeks := potting.Aftercare(l.Numbers, planted)
		page.NotNormal, page.ShockUntil = weeks.NotNormal, &weeks.ShockUntil
		for _, s := range weeks.Steps {
			page.Care = append(page.Care, AftercareStep(s))
		}
	}
	return page, addHistory(ctx, g, &page, l)
}

// Foreseen is what is to be expected of a cutting that roots: in a simulated world.
type Foreseen struct {
	readiness.Chance
	// Words says the chance that it is ready.
	Words string `json:"words"`
	// First, Middle and Last are the days by which it is ready in 1, 5 and 9 of 10 cases; nil beyond 400 days after setting.
	First  *time.Time `json:"first,omitempty"`
	Middle *time.Time `json:"middle,omitempty"`
	Last   *time.Time `json:"last,omitempty"`
	// Today is the day it is said on; Dark are the weeks of the coming two months that lie in the dark half of the year.
	Today time.Time `json:"today"`
	Dark  []Weeks   `json:"dark"`
	// Rests are the numbers it rests on, the starting values beside the grower's records.
	Rests []readiness.Rest `json:"rests"`
}

// Weeks are days from one to another.
type Weeks struct {
	From time.Time `json:"from"`
	To   time.Time `json:"to"`
}

// darkWeeks are the days of the coming ones that lie in the dark half of the year.
func darkWeeks(today time.Time, southern bool, ahead int) []Weeks {
	out := []Weeks{}
	for d := range ahead + 1 {
		on := today.AddDate(0, 0, d)
		switch n := len(out); {
		case !plant.InDarkHalf(on, southern):
		case n > 0 && plant.Days(out[n-1].To, on) == 1:
			out[n-1].To = on
		default:
			out = append(out, Weeks{on, on})
		}
	}
	return out
}

func foreseen(o *readiness.Outlook, e readiness.Evidence, school plant.SchoolKey) *Foreseen {
	c, ok := o.Foresee(school)
	if !ok {
		return nil
	}
	on := func(days *float64) *time.Time {
		if days == nil {
			return nil
		}
		t := e.SetOn.Add(time.Duration(*days * float64(24*time.Hour)))
		return &t
	}
	f := &Foreseen{Chance: c, Words: c.Words(), First: on(c.Days.P10), Middle: on(c.Days.P50), Last: on(c.Days.P90)}
	f.Rests = o.Rests()
	f.Today, f.Dark = e.Today, darkWeeks(e.Today, e.Southern, 60)
	return f
}

// addSisters adds the others of the same cut.
func addSisters(ctx context.Context, g *propagation.Garden, page *CuttingPage, l conclude.Lived) error {
	rows, err := g.Store.CuttingsOfCuts(ctx, []uuid.UUID{l.Row.CutID})
	if err != nil {
		return err
	}
	ids, codes := []uuid.UUID{}, map[uuid.UUID]string{}
	for _, r := range rows {
		if r.ID != l.Row.ID {
			ids, codes[r.ID] = append(ids, r.ID), r.Code
		}
	}
	if len(ids) == 0 {
		return nil
	}
	all, err := conclude.Concluded(ctx, g, conclude.Only{IDs: ids})
	for _, c := range all {
		page.Sisters = append(page.Sisters, Sister{c.ID, codes[c.ID], c.Verdict})
	}
	return err
}

func addLooks(ctx context.Context, g *propagation.Garden, page *CuttingPage, life conclude.Lived) error {
	looks := life.LookRows
	page.Looks = []LookView{}
	traces := map[uuid.UUID]trace.Lines{}
	traced, err := g.Store.TracesOf(ctx, page.Cutting.ID)
	if err != nil {
		return err
	}
	for _, t := range traced {
		traces[t.ID] = t.Traces
	}
	var ids []uuid.UUID
	for _, l := range looks {
		if l.PhotoID != nil {
			ids = append(ids, *l.PhotoID)
		}
	}
	photos := map[uuid.UUID]photo.Photo{}
	rows, err := g.Store.PhotosByID(ctx, ids)
	if err != nil {
		return err
	}
	for _, r := range rows {
		photos[r.ID] = photo.Of(sqlgen.PhotoByIDRow(r))
	}
	for _, l := range looks {
		v := LookView{ID: l.ID, LookedAt: l.LookedAt, Replaces: l.Replaces, Seen: trace.Join(l.Seen, traces[l.ID])}
		if l.PhotoID != nil {
			p := photos[*l.PhotoID]
			v.Photo = &p
		}
		if root, ok := l.Seen.Longest(); ok {
			v.LongestMM = root.LengthMM
			if page.Cutting.SetOn != nil {
				day := l.LookedAt.Sub(life.FirstSetOn()).Hours() / 24
				page.Longest = append(page.Longest, LongestAt{max(0, day), l.LookedAt, root.LengthMM, root.LowMM, root.HighMM})
			}
		}
		page.Looks = append(page.Looks, v)
	}
	return nil
}

// addHistory tells what happened, from the facts that hold; what they said before stands beside them.
func addHistory(ctx context.Context, g *propagation.Garden, page *CuttingPage, l conclude.Lived) error {
	c := page.Cutting
	add := func(on time.Time, kind string, about uuid.UUID, format string, args ...any) {
		page.History = append(page.History, Event{On: on, Kind: kind, About: about, Text: fmt.Sprintf(format, args...), Was: []string{}})
	}
	point := c.Kind.Row()
	names := point.Point + " " + plant.SpanText(c.Piece.First, c.Piece.Last)
	if c.Piece.First != c.Piece.Last {
		names = point.Points + " " + plant.SpanText(c.Piece.First, c.Piece.Last)
	}
	known := map[string]string{"week": " (known to the week)", "month": " (known to the month)"}[c.CutKnownTo]
	switch {
	case page.Parent != nil:
		came := map[plant.Came]string{plant.CameKept: ", with her pattern", plant.CamePartly: ", with some of her pattern", plant.CameLost: ", her pattern lost"}[c.Came]
		add(c.CutOn, "parted", l.Row.CutID, "Parted from %s, at %s%s.", page.Parent.Code, names, came)
	case c.MotherKnown:
		add(c.CutOn, "cut", l.Row.CutID, "Cut from %s, %s%s.", c.MotherName, names, known)
	default:
		add(c.CutOn, "cut", l.Row.CutID, "Came as %s, %s%s.", c.MotherName, plant.Counted(len(c.Nodes), point.Point, point.Points), known)
	}
	for _, s := range l.SetRows {
		kind, _ := plant.VesselKind(s.VesselKind).Sort()
		add(s.SetOn, "set", s.ID, "Set in %s (%s), %s in the %s.", s.VesselName, kind.Label, plant.Counted(int(s.SetNodes), point.Point, point.Points), s.Medium)
	}
	for _, b := range l.BackRows {
		add(b.CutOn, "cut_back", b.ID, "%s", cutBackText(b, point))
	}
	if err := addPartings(ctx, g, page, add); err != nil {
		return err
	}
	for _, l := range page.Looks {
		add(l.LookedAt, "look", l.ID, "%s", lookText(l))
	}
	if err := addEnds(ctx, g, page, l, add); err != nil {
		return err
	}
	sort.SliceStable(page.History, func(i, j int) bool { return page.History[i].On.Before(page.History[j].On) })
	return addWas(ctx, g, page)
}

func cutBackText(b sqlgen.CutBack, point plant.KindRow) string {
	text := fmt.Sprintf("Cut back by %.0f mm", b.RemovedMm)
	if b.RemovedMm == 0 {
		text = "Cut back, how far was not measured"
	}
	if b.GoneNodes > 0 {
		text += fmt.Sprintf(", %s gone", plant.Counted(int(b.GoneNodes), point.Point, point.Points))
	}
	if len(b.BareNodes) > 0 {
		bare := []int{}
		for _, n := range b.BareNodes {
			bare = append(bare, int(n))
		}
		text += fmt.Sprintf(", roots taken off %s %s", point.Point, plant.Numbered(bare))
	}
	if b.DriedHours > 0 {
		text += fmt.Sprintf(", dried %.0f h", b.DriedHours)
	}
	if b.Note != "" {
		text += ". " + b.Note
	}
	return text + "."
}

// addEnds adds potting, giving away and how it ended.
func addEnds(ctx context.Context, g *propagation.Garden, page *CuttingPage, l conclude.Lived, add func(time.Time, string, uuid.UUID, string, ...any)) error {
	c := page.Cutting
	if c.PottedOn != nil {
		pots, err := g.Store.PottingsOf(ctx, c.ID)
		if err != nil {
			return err
		}
		for _, p := range pots {
			add(p.PottedOn, "potted", p.ID, "%s", potText(l.Numbers, p))
		}
	}
	if c.GivenOn != nil {
		h, err := g.Store.HandoverOf(ctx, c.ID)
		if err != nil {
			return err
		}
		text := "Given away."
		if h.Note != "" {
			text += " " + h.Note
		}
		add(h.GivenOn, "given", h.ID, "%s", text)
	}
	if l.Outcome == nil {
		return nil
	}
	o, err := g.Store.OutcomeOf(ctx, c.ID)
	if err != nil {
		return err
	}
	page.Outcome = &OutcomeView{o.ID, propagation.OutcomeWords{Outcome: readiness.Outcome{On: o.EndedOn, Kind: o.Kind, Why: o.Why}, Note: o.Note}}
	text := c.Judgement.Sentence
	if o.Note != "" {
		text += " " + o.Note
	}
	add(o.EndedOn, "outcome", o.ID, "%s", text)
	return nil
}

// potText says into which pot it came.
func potText(t number.Table, p sqlgen.PottingsOfRow) string {
	text := "Potted up"
	if p.MovesOn {
		text = "Moved on"
	}
	text += fmt.Sprintf(": %.0f mm pot", p.Pot.TopMM)
	if row, _ := p.Pot.Material.Row(t); p.Pot.Material != "" {
		text = strings.Replace(text, " pot", " "+row.Label+" pot", 1)
	}
	text += fmt.Sprintf(", %.0f ml of mix", p.MixMl)
	if mix, known := potting.MixNamed(t, p.Mix); known {
		text += ", " + mix.Label
	}
	if p.Together > 1 {
		text += fmt.Sprintf(", with %s", plant.Counted(int(p.Together)-1, "other", "others"))
	}
	if p.Note != "" {
		text += ". " + p.Note
	}
	return text + "."
}

// addWas adds what the facts said before they were corrected.
func addWas(ctx context.Context, g *propagation.Garden, page *CuttingPage) error {
	at, ids := map[uuid.UUID]*Event{}, []uuid.UUID{}
	for i := range page.History {
		at[page.History[i].About] = &page.History[i]
		ids = append(ids, page.History[i].About)
	}
	by, err := noters(ctx, g, ids)
	if err != nil {
		return err
	}
	for id, e := range at {
		e.By = by[id]
	}
	rows, err := g.Store.CorrectionsOf(ctx, ids)
	if err != nil {
		return err
	}
	for _, r := range rows {
		e := at[r.About]
		e.Was = append(e.Was, fmt.Sprintf("Corrected %s: %s", r.RecordedAt.In(g.Zone).Format("2 Jan 2006"), differs(g, r.Was, r.Becomes)))
	}
	earlier, err := g.Store.EarlierLooks(ctx, page.Cutting.ID)
	if err != nil {
		return err
	}
	// A look may be corrected more than once: each earlier one stands beside the one that holds now.
	next := map[uuid.UUID]uuid.UUID{}
	for _, l := range earlier {
		next[l.ID] = l.ReplacedBy
	}
	for _, l := range earlier {
		id := l.ReplacedBy
		for next[id] != uuid.Nil {
			id = next[id]
		}
		if e := at[id]; e != nil {
			if err := conclude.WithLengths(&l.Seen, l.Lengths); err != nil {
				return err
			}
			view := LookView{LookedAt: l.LookedAt, Seen: l.Seen}
			if root, ok := l.Seen.Longest(); ok {
				view.LongestMM = root.LengthMM
			}
			e.Was = append(e.Was, fmt.Sprintf("Said before, of %s: %s", l.LookedAt.In(g.Zone).Format("2 Jan 2006"), lookText(view)))
		}
	}
	return nil
}

func lookText(l LookView) string {
	text := "Look"
	if l.Photo != nil {
		text = "Look with photo"
	}
	switch {
	case l.LongestMM > 0:
		text += fmt.Sprintf(": %s, longest %.0f mm", plant.Counted(len(l.Seen.Roots), "root", "roots"), l.LongestMM)
	case l.Seen.RootsCounted:
		text += ": no roots"
	}
	if l.Seen.RotMM > 0 {
		text += fmt.Sprintf(", rot for %.0f mm", l.Seen.RotMM)
	}
	for _, s := range []struct{ what, said string }{{"", l.Seen.Stem}, {"roots ", l.Seen.RootFeel}, {"tug ", l.Seen.Tug}, {"leaf ", l.Seen.Leaf}, {"", l.Seen.Water}, {"roots ", l.Seen.Crowding}} {
		if s.said != "" {
			text += ", " + s.what + s.said
		}
	}
	if n, counted := l.Seen.Young(); counted {
		text += ", " + plant.Counted(n, "plantlet", "plantlets")
	}
	for _, b := range l.Seen.Buds {
		text += fmt.Sprintf(", bud %d %s", b.Node, strings.ReplaceAll(string(b.Bud), "_", " "))
	}
	if l.Seen.Note != "" {
		text += ". " + l.Seen.Note
	}
	return text + "."
}

// LookView is one look as it was made.
type LookView struct {
	ID       uuid.UUID    `json:"id"`
	LookedAt time.Time    `json:"looked_at"`
	Replaces *uuid.UUID   `json:"replaces,omitempty"`
	Photo    *photo.Photo `json:"photo,omitempty"`
	Seen     plant.Look   `json:"seen"`
	// LongestMM is the longest root of this look, 0 when none was measured.
	LongestMM float64 `json:"longest_mm"`
}

// Event is one thing that happened to a cutting.
type Event struct {
	On time.Time `json:"on"`
	// Kind and About name the fact, for putting its date right or taking it back.
	Kind  string    `json:"kind" enum:"cut,set,look,potted,outcome,given,cut_back,parted"`
	About uuid.UUID `json:"about"`
	Text  string    `json:"text"`
	// Was is what it said before it was corrected.
	Was []string `json:"was"`
	// By is who noted it; left out when it was no member.
	By *Noter `json:"by,omitempty"`
}

// Noter is a member who noted something.
type Noter struct {
	ID   uuid.UUID `json:"id"`
	Name string    `json:"name"`
}

// noters are who noted facts, by the fact.
func noters(ctx context.Context, g *propagation.Garden, ids []uuid.UUID) (map[uuid.UUID]*Noter, error) {
	rows, err := g.Store.NotedBy(ctx, ids)
	if err != nil {
		return nil, err
	}
	out := map[uuid.UUID]*Noter{}
	for _, r := range rows {
		out[r.ID] = &Noter{r.MemberID, r.Name}
	}
	return out, nil
}

// SchoolVerdict is what each school would say.
type SchoolVerdict struct {
	School  plant.School  `json:"school"`
	Verdict plant.Verdict `json:"verdict"`
}

// CuttingPage is one piece's life.
type CuttingPage struct {
	Cutting conclude.PageCutting    `json:"cutting"`
	Vessel  *propagation.VesselView `json:"vessel,omitempty"`
	Group   plant.Group             `json:"group"`
	Schools []SchoolVerdict         `json:"schools"`
	Looks   []LookView              `json:"looks"`
	History []Event                 `json:"history"`
	Longest []LongestAt             `json:"longest"`
	Care    []AftercareStep         `json:"aftercare"`
	// ShockUntil is the day to which droop counts as shock, NotNormal what is none; left out for what stands in no pot.
	ShockUntil *time.Time      `json:"shock_until,omitempty"`
	NotNormal  string          `json:"not_normal,omitempty"`
	Caution    []plant.Caution `json:"cautions"`
	Sisters    []Sister        `json:"sisters"`
	Wanted     plant.Number    `json:"wanted"`
	// Foreseen is what is to be expected of it; nil for what the model does not speak of.
	Foreseen *Foreseen `json:"foreseen,omitempty"`
	// Outcome is how it ended, when it has.
	Outcome *OutcomeView `json:"outcome,omitempty"`
	// Words is how a piece of its kind is spoken of.
	Words plant.KindRow `json:"words"`
	// Parent is what it was parted from; Parts are the plants that were parted from it.
	Parent *Sister    `json:"parent,omitempty"`
	Parts  []PartView `json:"parts"`
	// NodesLeft are the numbers of the growing points that are still on it.
	NodesLeft []int `json:"nodes_left"`
}

// LongestAt is the longest root on one day since setting.
type LongestAt struct {
	Day    float64   `json:"day"`
	On     time.Time `json:"on"`
	MM     float64   `json:"mm"`
	LowMM  float64   `json:"low_mm"`
	HighMM float64   `json:"high_mm"`
}

// AftercareStep is one dated step after potting.
type AftercareStep struct {
	Day  int       `json:"day"`
	On   time.Time `json:"on"`
	Text string    `json:"text"`
	Past bool      `json:"past"`
	// Done: somebody saw to it.
	Done bool `json:"done"`
}

// OutcomeView is how a cutting ended.
type OutcomeView struct {
	ID uuid.UUID `json:"id"`
	propagation.OutcomeWords
}

// Sister is another cutting of the same cut.
type Sister struct {
	ID      uuid.UUID     `json:"id"`
	Code    string        `json:"code"`
	Verdict plant.Verdict `json:"verdict"`
}
