package propagation

import (
	"context"
	"fmt"
	"sort"
	"strings"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/core/readiness"
	"clearjar/store/sqlgen"
	"clearjar/store/trace"
)

// CuttingPage shows everything about one cutting.
func (g *Garden) CuttingPage(ctx context.Context, id uuid.UUID) (CuttingPage, error) {
	l, err := g.oneLife(ctx, id)
	if err != nil {
		return CuttingPage{}, err
	}
	c := PageCutting{CuttingFacts: l.facts()}
	in, err := g.standings(ctx)
	if err != nil {
		return CuttingPage{}, err
	}
	c.Today = in.of(c.VesselID, l.row.PottedPlaceID)
	page := CuttingPage{
		Group: l.Group, Schools: []SchoolVerdict{}, History: []Event{}, Longest: []LongestAt{}, Care: []AftercareStep{},
		Caution: plant.CautionsFor(l.Group.Hazards...), Sisters: []Sister{}, Wanted: readiness.ThresholdMM(l.Numbers, l.school()), Words: c.Kind.Row(),
	}
	for _, s := range plant.Schools() {
		j, err := readiness.Judge(l.evidence(g), s.Key)
		if err != nil {
			return CuttingPage{}, err
		}
		page.Schools = append(page.Schools, SchoolVerdict{s, j.Verdict})
		if s.Key == l.school() {
			c.Judgement = j
		}
	}
	page.Cutting = c
	if err := g.addSisters(ctx, &page, l); err != nil {
		return CuttingPage{}, err
	}
	if c.VesselID != nil {
		v := in.vessels[*c.VesselID]
		page.Vessel = &v
		page.Caution = append(page.Caution, plant.CautionsFor(plant.MediumHazards(v.Medium)...)...)
	}
	if err := g.addLooks(ctx, &page, l); err != nil {
		return CuttingPage{}, err
	}
	if c.PottedOn != nil {
		for _, s := range potting.Aftercare(l.Numbers, c.PottedOn.In(g.zone), g.Today(), l.Group, c.Kind, c.Medium) {
			page.Care = append(page.Care, AftercareStep(s))
		}
	}
	return page, g.addHistory(ctx, &page, l)
}

// addSisters adds the others of the same cut.
func (g *Garden) addSisters(ctx context.Context, page *CuttingPage, l lived) error {
	rows, err := g.store.CuttingsOfCuts(ctx, []uuid.UUID{l.row.CutID})
	if err != nil {
		return err
	}
	ids, codes := []uuid.UUID{}, map[uuid.UUID]string{}
	for _, r := range rows {
		if r.ID != l.row.ID {
			ids, codes[r.ID] = append(ids, r.ID), r.Code
		}
	}
	if len(ids) == 0 {
		return nil
	}
	all, err := g.concluded(ctx, only{ids: ids})
	for _, c := range all {
		page.Sisters = append(page.Sisters, Sister{c.id, codes[c.id], c.verdict})
	}
	return err
}

func (g *Garden) addLooks(ctx context.Context, page *CuttingPage, life lived) error {
	looks := life.looks
	page.Looks = []LookView{}
	traces := map[uuid.UUID]trace.Lines{}
	traced, err := g.store.TracesOf(ctx, page.Cutting.ID)
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
	photos := map[uuid.UUID]Photo{}
	rows, err := g.store.PhotosByID(ctx, ids)
	if err != nil {
		return err
	}
	for _, r := range rows {
		photos[r.ID] = photo(sqlgen.PhotoByIDRow(r))
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
func (g *Garden) addHistory(ctx context.Context, page *CuttingPage, l lived) error {
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
	if c.MotherKnown {
		add(c.CutOn, "cut", l.row.CutID, "Cut from %s, %s%s.", c.MotherName, names, known)
	} else {
		add(c.CutOn, "cut", l.row.CutID, "Came as %s, %s%s.", c.MotherName, plant.Counted(len(c.Nodes), point.Point, point.Points), known)
	}
	for _, s := range l.settings {
		kind, _ := plant.VesselKind(s.VesselKind).Sort()
		add(s.SetOn, "set", s.ID, "Set in %s (%s), %s in the %s.", s.VesselName, kind.Label, plant.Counted(int(s.SetNodes), point.Point, point.Points), kind.Medium)
	}
	backs, err := g.store.CutBacksOfCuttings(ctx, []uuid.UUID{c.ID})
	if err != nil {
		return err
	}
	for _, b := range backs {
		add(b.CutOn, "cut_back", b.ID, "%s", cutBackText(b, point))
	}
	for _, l := range page.Looks {
		add(l.LookedAt, "look", l.ID, "%s", lookText(l))
	}
	if err := g.addEnds(ctx, page, l, add); err != nil {
		return err
	}
	sort.SliceStable(page.History, func(i, j int) bool { return page.History[i].On.Before(page.History[j].On) })
	return g.addWas(ctx, page)
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
	if b.Note != "" {
		text += ". " + b.Note
	}
	return text + "."
}

// addEnds adds potting, giving away and how it ended.
func (g *Garden) addEnds(ctx context.Context, page *CuttingPage, l lived, add func(time.Time, string, uuid.UUID, string, ...any)) error {
	c := page.Cutting
	if c.PottedOn != nil {
		p, err := g.store.PottingOf(ctx, c.ID)
		if err != nil {
			return err
		}
		add(p.PottedOn, "potted", p.ID, "Potted up: %.0f mm pot, %.0f ml of mix.", c.Pot.TopMM, c.Pot.MixML(l.Numbers))
	}
	if c.GivenOn != nil {
		h, err := g.store.HandoverOf(ctx, c.ID)
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
	o, err := g.store.OutcomeOf(ctx, c.ID)
	if err != nil {
		return err
	}
	page.Outcome = &OutcomeView{o.ID, OutcomeWords{readiness.Outcome{On: o.EndedOn, Kind: o.Kind, Why: o.Why}, o.Note}}
	text := c.Judgement.Sentence
	if o.Note != "" {
		text += " " + o.Note
	}
	add(o.EndedOn, "outcome", o.ID, "%s", text)
	return nil
}

// addWas adds what the facts said before they were corrected.
func (g *Garden) addWas(ctx context.Context, page *CuttingPage) error {
	at, ids := map[uuid.UUID]*Event{}, []uuid.UUID{}
	for i := range page.History {
		at[page.History[i].About] = &page.History[i]
		ids = append(ids, page.History[i].About)
	}
	rows, err := g.store.CorrectionsOf(ctx, ids)
	if err != nil {
		return err
	}
	for _, r := range rows {
		e := at[r.About]
		e.Was = append(e.Was, fmt.Sprintf("Corrected %s: %s", r.RecordedAt.In(g.zone).Format("2 Jan 2006"), g.differs(r.Was, r.Becomes)))
	}
	earlier, err := g.store.EarlierLooks(ctx, page.Cutting.ID)
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
			if err := withLengths(&l.Seen, l.Lengths); err != nil {
				return err
			}
			view := LookView{LookedAt: l.LookedAt, Seen: l.Seen}
			if root, ok := l.Seen.Longest(); ok {
				view.LongestMM = root.LengthMM
			}
			e.Was = append(e.Was, fmt.Sprintf("Said before, of %s: %s", l.LookedAt.In(g.zone).Format("2 Jan 2006"), lookText(view)))
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
	for _, b := range l.Seen.Buds {
		text += fmt.Sprintf(", bud %d %s", b.Node, strings.ReplaceAll(string(b.Bud), "_", " "))
	}
	if l.Seen.Note != "" {
		text += ". " + l.Seen.Note
	}
	return text + "."
}
