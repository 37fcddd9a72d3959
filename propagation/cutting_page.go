package propagation

import (
	"context"
	"fmt"
	"sort"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/core/readiness"
	"clearjar/store/sqlgen"
	"clearjar/store/trace"
)

// CuttingPage shows everything about one cutting.
func (g *Garden) CuttingPage(ctx context.Context, id uuid.UUID) (CuttingPage, error) {
	family, err := g.familyOf(ctx, id)
	if err != nil {
		return CuttingPage{}, err
	}
	c := family[0]
	group, _ := plant.GroupNamed(c.GroupKey)
	page := CuttingPage{
		Cutting: c, Group: group, Schools: []SchoolVerdict{}, History: []Event{}, Longest: []LongestAt{}, Care: []AftercareStep{},
		Caution: plant.CautionsFor(group.Hazards...), Sisters: []Sister{}, Wanted: readiness.ThresholdMM(c.Judgement.School),
	}
	for _, s := range plant.Schools() {
		j, err := readiness.Judge(c.evidence, s.Key)
		if err != nil {
			return CuttingPage{}, err
		}
		page.Schools = append(page.Schools, SchoolVerdict{s, j.Verdict})
	}
	for _, other := range family[1:] {
		if other.cutID == c.cutID {
			page.Sisters = append(page.Sisters, Sister{other.ID, other.Code, other.Judgement.Verdict})
		}
	}
	if c.VesselID != nil {
		row, err := g.store.VesselByID(ctx, *c.VesselID)
		if err != nil {
			return CuttingPage{}, err
		}
		v := vesselView(row)
		page.Vessel = &v
		page.Caution = append(page.Caution, plant.CautionsFor(plant.MediumHazards(v.Medium)...)...)
	}
	if err := g.addLooks(ctx, &page, c.looks); err != nil {
		return CuttingPage{}, err
	}
	if c.PottedOn != nil {
		for _, s := range potting.Aftercare(c.PottedOn.In(g.zone), g.Today(), c.Medium) {
			page.Care = append(page.Care, AftercareStep(s))
		}
	}
	return page, g.addHistory(ctx, &page)
}

// familyOf gives a cutting, and after it every other of the same mother.
func (g *Garden) familyOf(ctx context.Context, id uuid.UUID) ([]CuttingView, error) {
	row, err := g.store.CuttingByID(ctx, id)
	if err != nil {
		return nil, missing(err, "This cutting")
	}
	stem, err := g.store.StemByID(ctx, row.StemID)
	if err != nil {
		return nil, err
	}
	family, err := g.cuttings(ctx, nil, []uuid.UUID{stem.MotherID})
	if err != nil {
		return nil, err
	}
	for i, c := range family {
		if c.ID == id {
			family[0], family[i] = family[i], family[0]
			return family, nil
		}
	}
	return nil, MissingError{"This cutting"}
}

func (g *Garden) addLooks(ctx context.Context, page *CuttingPage, looks []sqlgen.LooksOfCuttingsRow) error {
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
				day := l.LookedAt.Sub(page.Cutting.evidence.SetOn).Hours() / 24
				page.Longest = append(page.Longest, LongestAt{max(0, day), l.LookedAt, root.LengthMM, root.LowMM, root.HighMM})
			}
		}
		page.Looks = append(page.Looks, v)
	}
	return nil
}

func (g *Garden) addHistory(ctx context.Context, page *CuttingPage) error {
	c := page.Cutting
	add := func(e Event) { page.History = append(page.History, e) }
	add(Event{c.CutOn, "cut", fmt.Sprintf("Cut from %s, nodes %d to %d.", c.MotherName, c.Piece.First, c.Piece.Last)})
	settings, err := g.store.SettingsOf(ctx, c.ID)
	if err != nil {
		return err
	}
	for _, s := range settings {
		kind, _ := plant.VesselKind(s.VesselKind).Sort()
		add(Event{s.SetOn, "set", fmt.Sprintf("Set in %s (%s), %d node(s) in the medium.", s.VesselName, kind.Label, s.SetNodes)})
	}
	for _, l := range page.Looks {
		add(Event{l.LookedAt, "look", lookText(l)})
	}
	if c.PottedOn != nil {
		add(Event{*c.PottedOn, "potted", fmt.Sprintf("Potted up: %.0f mm pot, %.0f ml of mix.", c.Pot.TopMM, c.Pot.FrustumML(c.Pot.DepthMM-potting.RimGap.Value))})
	}
	if o := c.evidence.Outcome; o != nil {
		add(Event{o.On, "ended", map[string]string{"established": "Established.", "lost": "Lost."}[o.Kind]})
	}
	if c.GivenOn != nil {
		add(Event{*c.GivenOn, "given", "Given away."})
	}
	sort.SliceStable(page.History, func(i, j int) bool { return page.History[i].On.Before(page.History[j].On) })
	return nil
}

func lookText(l LookView) string {
	text := "Look"
	if l.Photo != nil {
		text = "Look with photo"
	}
	switch {
	case l.LongestMM > 0:
		roots := "roots"
		if len(l.Seen.Roots) == 1 {
			roots = "root"
		}
		text += fmt.Sprintf(": %d %s, longest %.0f mm", len(l.Seen.Roots), roots, l.LongestMM)
	case l.Seen.RootsCounted:
		text += ": no roots"
	}
	for _, said := range []string{l.Seen.Stem, l.Seen.RootFeel, l.Seen.Tug, l.Seen.Leaf, l.Seen.Water, l.Seen.Crowding} {
		if said != "" {
			text += ", " + said
		}
	}
	if l.Seen.Note != "" {
		text += ". " + l.Seen.Note
	}
	return text + "."
}
