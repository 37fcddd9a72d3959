package care

import (
	"fmt"
	"math"
	"slices"
	"time"

	"clearjar/core/climate"
	"clearjar/core/number"
	"clearjar/core/plant"
)

// Piece is one cutting in a vessel, as far as its care depends on it.
type Piece struct {
	Code  string
	Group plant.Group
	Kind  plant.PieceKind
	Form  plant.LeafForm
	CutOn time.Time
	SetOn time.Time
	// LeftOn is when it was taken out, potted, given away or lost; nil while it stands there.
	LeftOn *time.Time
	// RootedOn and ShootOn are when roots and a shoot were known first; nil while they are not.
	RootedOn *time.Time
	ShootOn  *time.Time
	// DroopsOn is when leaves were last seen drooping or dropped, nil when they were fresh since.
	DroopsOn *time.Time
}

func on(t *time.Time, day time.Time) bool { return t != nil && plant.Days(*t, day) >= 0 }

// Vessel is one vessel and what there is to know of it.
type Vessel struct {
	Kind   plant.VesselKind
	Medium plant.Medium
	// Since is when it was put to use.
	Since time.Time
	// Cover is how it stood when it came; empty for as usual.
	Cover  plant.CoverState
	Record Record
	Pieces []Piece
	// DeficitKPa is the mean deficit of the air where it stands over the last day, nil when nothing measures it.
	DeficitKPa *float64
	// HottestC is the highest temperature where it stands over the last day, nil when nothing measures it.
	HottestC *float64
}

// Where is what a day of care rests on beside the vessel: the schools, the numbers, the half of the earth.
type Where struct {
	Schools  Chosen
	Numbers  number.Table
	Southern bool
}

// CareTask is one thing due.
type CareTask struct {
	Act plant.Act `json:"act"`
	// Cover is how the cover is put, when that is the act.
	Cover plant.CoverState `json:"cover,omitempty"`
	// Label asks for it, Done says it was done.
	Label string `json:"label"`
	Done  string `json:"done"`
	// Since is the first day it was due. Late: longer than the school allows. Urgent: because of what was seen.
	Since  time.Time `json:"since"`
	Late   bool      `json:"late"`
	Urgent bool      `json:"urgent"`
	Why    string    `json:"why"`
}

// Due is what is due for a vessel on a day.
type Due struct {
	Tasks []CareTask `json:"tasks"`
	// Leave is what to leave alone, and until when.
	Leave []Leave `json:"leave"`
	// Harden is the course of hardening off; nil where nothing hardens off in it.
	Harden *Course `json:"harden,omitempty"`
	// Notes are what to know of it besides.
	Notes []string `json:"notes"`
	// PutOff: it was put off today. Next is the first day, after this one, on which something is due when all that is
	// due now is done; nil when nothing stands in it.
	PutOff bool       `json:"put_off"`
	Next   *time.Time `json:"next,omitempty"`
	// Cover is how its cover stands, CoverLabel in its own words.
	Cover      plant.CoverState `json:"cover"`
	CoverLabel string           `json:"cover_label"`
}

// collected collects the tasks of one vessel on one day.
type collected struct {
	day   time.Time
	tasks []CareTask
	next  time.Time
}

// later notes that something is due on a later day.
func (c *collected) later(on time.Time) {
	if plant.Days(c.day, on) >= 1 && (c.next.IsZero() || on.Before(c.next)) {
		c.next = on
	}
}

// ask puts a task on the list; of one act the reason that was there first stays, and the earliest day.
func (c *collected) ask(t CareTask) {
	row, _ := t.Act.Row()
	if t.Label == "" {
		t.Label, t.Done = row.Label, row.Done
	}
	for i := range c.tasks {
		have := &c.tasks[i]
		if have.Act != t.Act {
			continue
		}
		if t.Since.Before(have.Since) {
			have.Since = t.Since
		}
		have.Late, have.Urgent = have.Late || t.Late, have.Urgent || t.Urgent
		return
	}
	c.tasks = append(c.tasks, t)
}

// every asks for what comes round: due from so many days after it was done last, late after most.
func (c *collected) every(act plant.Act, last time.Time, from, most float64, why string) {
	c.round(act, last, from, most, from, why)
}

// round is the same where it comes round after another number of days, again, once it is done today.
func (c *collected) round(act plant.Act, last time.Time, from, most, again float64, why string) {
	if from <= 0 {
		return
	}
	whole := func(days float64) int { return int(math.Max(1, math.Round(days))) }
	first, step := midnight(last).AddDate(0, 0, whole(from)), whole(again)
	if plant.Days(first, c.day) < 0 {
		c.later(first)
		return
	}
	c.later(midnight(c.day).AddDate(0, 0, step))
	c.ask(CareTask{Act: act, Since: first, Late: float64(plant.Days(last, c.day)) > math.Max(most, from), Why: why})
}

// The tables as they are walked through here.
var (
	signTable = plant.Signs()
	actRank   = func() map[plant.Act]int {
		out := map[plant.Act]int{}
		for i, r := range plant.Acts() {
			out[r.Act] = i
		}
		return out
	}()
	coverRank = func() map[plant.CoverState]int {
		out := map[plant.CoverState]int{"": -1}
		for i, r := range plant.CoverStates() {
			out[r.State] = i
		}
		return out
	}()
)

// openness orders how a cover can stand, from shut to off.
func openness(s plant.CoverState) int { return coverRank[s] }

func midnight(t time.Time) time.Time {
	return time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, t.Location())
}

// On says what is due for a vessel at an instant, in the grower's zone.
func On(v Vessel, at time.Time, w Where) Due {
	out := Due{Tasks: []CareTask{}, Leave: []Leave{}, Notes: []string{}}
	sort, _ := v.Kind.Sort()
	medium := v.Medium.Row()
	standing, first := v.standing(at)
	out.Cover = v.coverNow(sort, standing)
	if word, ok := sort.Word(out.Cover); ok {
		out.CoverLabel = word.Label
	}
	if len(standing) == 0 {
		return out
	}
	c := &collected{day: at, tasks: []CareTask{}}
	base := v.Since.In(at.Location())
	if first.After(base) {
		base = first
	}
	r, t := v.Record, w.Numbers
	last := func(a plant.Act) time.Time {
		if done := r.Done[a]; done.After(base) {
			return done
		}
		return base
	}
	row := out.Cover.Row()
	anyRooted, allRooted := rooted(standing, at)

	v.signs(c, medium, len(sort.Covers) > 1, standing, at)
	if medium.Liquid {
		waterDue(c, w, standing, last, at)
	} else {
		feelDue(c, v, w, medium, row, standing, last, at)
		airDue(c, w, row, medium, standing, last, at)
	}
	if sort.MistInHeat && !medium.Liquid && v.HottestC != nil && *v.HottestC >= t.Of(hotFrom) {
		c.mist(r.Done[plant.MistLeaves], t.Of(evening), *v.HottestC)
	}
	if medium.Stays && allRooted && len(sort.Harden) > 0 {
		out.Harden = harden(c, v, sort, out.Cover, standing, base, at, t)
	} else {
		coverDue(c, &out, sort, medium, out.Cover, standing, anyRooted, base)
	}
	school, _ := SchoolNamed(OfLooking, w.Schools.Look)
	every := t.Of(school.From)
	if school.ByPiece {
		every = t.Of(medium.GlanceEvery)
	}
	c.every(plant.Glance, last(plant.Glance), every, every, "")

	if says := dryAir(v, row, standing, at, t); says != "" {
		out.Notes = append(out.Notes, says)
	}
	out.Leave = leave(standing, medium, row, w, at)
	out.Tasks = inOrder(c.tasks)
	out.PutOff = !r.PutOff.IsZero() && plant.Days(r.PutOff, at) == 0
	if !c.next.IsZero() {
		out.Next = &c.next
	}
	return out
}

// dryAir says that the air is too dry for pieces without roots that stand in the open and want a cover; empty when it
// is not.
func dryAir(v Vessel, cover plant.CoverStateRow, standing []*Piece, at time.Time, t number.Table) string {
	stage, _ := climate.StageNamed(climate.Unrooted)
	most := t.Of(stage.DeficitHigh)
	bare := func(p *Piece) bool { return !on(p.RootedOn, at) && !p.wants(v.Medium).Open() }
	if v.DeficitKPa == nil || *v.DeficitKPa <= most || cover.Humid || !slices.ContainsFunc(standing, bare) {
		return ""
	}
	return fmt.Sprintf("The air here is dry: a deficit of %.1f kPa over the last day, %.1f at most for pieces without roots. Cover them, or cut large blades down.", *v.DeficitKPa, most)
}

// mist asks for the leaves to be misted in the morning, and again from an hour of the day on.
func (c *collected) mist(last time.Time, evening, hot float64) {
	from := midnight(c.day)
	if second := from.Add(time.Duration(evening * float64(time.Hour))); !c.day.Before(second) {
		from = second
	}
	if last.Before(from) {
		c.ask(CareTask{Act: plant.MistLeaves, Since: from, Why: fmt.Sprintf("It is hot, %.0f °C: mist the leaves morning and evening, never the mix.", hot)})
	}
	c.later(midnight(c.day).AddDate(0, 0, 1))
}

// standing are the pieces that stand in it on a day, and when the first of them was set.
func (v Vessel) standing(at time.Time) (pieces []*Piece, first time.Time) {
	pieces = make([]*Piece, 0, len(v.Pieces))
	for i := range v.Pieces {
		p := &v.Pieces[i]
		if plant.Days(p.SetOn, at) < 0 || on(p.LeftOn, at) {
			continue
		}
		pieces = append(pieces, p)
		if set := p.SetOn.In(at.Location()); first.IsZero() || set.Before(first) {
			first = set
		}
	}
	return pieces, first
}

// coverNow is how the cover stands: as it was left last, else as it came, else as usual over such pieces.
func (v Vessel) coverNow(sort plant.VesselSort, standing []*Piece) plant.CoverState {
	switch {
	case v.Record.Cover != "":
		return v.Record.Cover
	case v.Cover != "":
		return v.Cover
	case len(sort.Covers) == 0:
		return plant.CoverOff
	}
	open := len(standing) > 0
	for _, p := range standing {
		open = open && p.wants(v.Medium).Open()
	}
	if open {
		return sort.Covers[len(sort.Covers)-1].State
	}
	return sort.CoverUsually(v.Medium)
}

// wants is the cover that a piece wants over it.
func (p *Piece) wants(m plant.Medium) plant.CoverKey {
	return p.Group.CoverOver(m, plant.PoseOf(p.Group, p.Kind, p.Form))
}

// rooted tells whether any of them has roots, and whether all have.
func rooted(standing []*Piece, at time.Time) (anyOf, all bool) {
	all = true
	for _, p := range standing {
		has := on(p.RootedOn, at)
		anyOf, all = anyOf || has, all && has
	}
	return anyOf, all
}

// wanted is the act a sign asks for in a vessel; empty for none.
func (v Vessel) wanted(s plant.SignRow, medium plant.MediumRow, covered bool, standing []*Piece, at time.Time) plant.Act {
	act := s.Wants
	if medium.Liquid && s.InLiquid != "" {
		act = s.InLiquid
	}
	if act == "" && s.Dries && waterable(standing, at) {
		act = medium.Moisten
	}
	if row, _ := act.Row(); act != "" && !row.In(medium, covered) {
		return plant.ClearOut // no cover to lift: it is tipped or taken out
	}
	return act
}

// signs asks for what was seen and not yet acted on. What was done on the day it was seen counts as done for it.
func (v Vessel) signs(c *collected, medium plant.MediumRow, covered bool, standing []*Piece, at time.Time) {
	for _, s := range signTable {
		seen, ok := v.Record.Seen[s.Sign]
		if !ok || !s.In(medium) {
			continue
		}
		act := v.wanted(s, medium, covered, standing, at)
		if act == "" {
			continue
		}
		if done, did := v.Record.Done[act]; did && plant.Days(seen, done) >= 0 {
			continue
		}
		c.ask(CareTask{Act: act, Since: midnight(seen), Urgent: true, Why: s.Why})
		c.later(midnight(at).AddDate(0, 0, 1))
	}
}

// Open are the signs seen last that nothing was done about yet, or that ask for nothing and were seen on the last visit.
func (v Vessel) Open(at time.Time) []plant.Sign {
	sort, _ := v.Kind.Sort()
	medium := v.Medium.Row()
	standing, _ := v.standing(at)
	out := []plant.Sign{}
	for _, s := range signTable {
		seen, ok := v.Record.Seen[s.Sign]
		if !ok || !s.In(medium) {
			continue
		}
		act := v.wanted(s, medium, len(sort.Covers) > 1, standing, at)
		done, did := v.Record.Done[act]
		if act == "" && plant.Days(seen, v.Record.Visited) <= 0 || act != "" && !(did && plant.Days(seen, done) >= 0) {
			out = append(out, s.Sign)
		}
	}
	return out
}

// waterable tells whether any piece may be given water: some get none before they have roots.
func waterable(standing []*Piece, at time.Time) bool {
	return slices.ContainsFunc(standing, func(p *Piece) bool { return !p.Group.DryUntilRoots || on(p.RootedOn, at) })
}

func keptDry(p *Piece) bool { return p.Group.Keeping == plant.Dry }

func waterDue(c *collected, w Where, standing []*Piece, last func(plant.Act) time.Time, at time.Time) {
	school, _ := SchoolNamed(OfWater, w.Schools.Water)
	t := w.Numbers
	changed := last(plant.ChangeWater)
	ago := "Changed " + agoText(changed, at) + "; you go by " + school.Label + "."
	from, most := t.Of(school.From), t.Of(school.Most)
	if slices.ContainsFunc(standing, keptDry) {
		if dry := t.Of(dryWater); from == 0 || dry < from {
			from, most, ago = dry, dry, "Changed "+agoText(changed, at)+"; water of succulent pieces is changed every "+plant.DaysLong(int(dry))+"."
		}
	}
	c.every(plant.ChangeWater, changed, from, most, ago)
	c.every(plant.TopUp, last(plant.TopUp), t.Of(school.TopUp), t.Of(school.TopUp), "You only top up.")
}

func agoText(since, at time.Time) string {
	switch n := plant.Days(since, at); n {
	case 0:
		return "today"
	case 1:
		return "yesterday"
	default:
		return plant.Counted(n, "day", "days") + " ago"
	}
}

// feelDue asks to see whether the medium is dry: more seldom under a cover, in the dark half, and for what is kept dry.
func feelDue(c *collected, v Vessel, w Where, m plant.MediumRow, cover plant.CoverStateRow, standing []*Piece, last func(plant.Act) time.Time, at time.Time) {
	if !waterable(standing, at) {
		return
	}
	t := w.Numbers
	every, why := t.Of(m.FeelOpen), "Without a cover: water when the top is dry."
	if cover.Humid {
		every, why = t.Of(m.FeelCovered), "Under a cover: water when the top is dry."
	}
	if !slices.ContainsFunc(standing, func(p *Piece) bool { return !keptDry(p) }) {
		every, why = every*t.Of(dryTimes), "Kept dry: water only when about 80 % of it is dry."
	}
	if v.HottestC != nil && *v.HottestC >= t.Of(hotFrom) {
		every /= t.Of(hotTimes)
	}
	felt := last(plant.FeelMedium)
	if v.Record.CoverSince.After(felt) {
		felt = v.Record.CoverSince // it dries otherwise since the cover was moved
	}
	dark := func(on time.Time) float64 { return every * (1 + plant.Darkness(on, w.Southern)*(t.Of(darkTimes)-1)) }
	c.round(plant.FeelMedium, felt, dark(felt), dark(felt), dark(at), why)
}

// airDue asks to lift a shut cover, as the school or the pieces want it.
func airDue(c *collected, w Where, cover plant.CoverStateRow, m plant.MediumRow, standing []*Piece, last func(plant.Act) time.Time, at time.Time) {
	school, _ := SchoolNamed(OfAir, w.Schools.Air)
	if !cover.Tight {
		return
	}
	why := "Lifted " + agoText(last(plant.AirIt), at) + "; you go by " + school.Label + "."
	if school.ByPiece {
		wants := func(p *Piece) bool { return p.wants(m.Medium).Row().Airs }
		shut := func(p *Piece) bool { return p.wants(m.Medium).Row().Shut }
		if !slices.ContainsFunc(standing, wants) || slices.ContainsFunc(standing, shut) {
			return
		}
	}
	c.every(plant.AirIt, last(plant.AirIt), w.Numbers.Of(school.From), w.Numbers.Of(school.Most), why)
}

// coverDue asks for the cover that the pieces want: more open for what rots closed, shut for what cannot drink yet.
// Pieces that want what cannot be had together are named instead.
func coverDue(c *collected, out *Due, sort plant.VesselSort, m plant.MediumRow, now plant.CoverState, standing []*Piece, anyRooted bool, base time.Time) {
	if m.Liquid || len(sort.Covers) < 2 {
		return
	}
	humid, open, shut := []string{}, []string{}, []string{}
	wanted := plant.CoverOn
	for _, p := range standing {
		row := p.wants(m.Medium).Row()
		if row.Key == "" {
			continue
		}
		switch {
		case !row.State.Row().Humid:
			open = append(open, p.Code)
		case row.Shut:
			shut = append(shut, p.Code)
		default:
			humid = append(humid, p.Code)
		}
		if want := nearest(sort, row.State); openness(want) > openness(wanted) {
			wanted = want
		}
	}
	rots := slices.Concat(open, humid)
	switch opens := openness(wanted) > openness(now); {
	case len(open) > 0 && len(humid)+len(shut) > 0:
		out.Notes = append(out.Notes, plant.Listed(open)+" rots when it stands wet and closed, "+plant.Listed(slices.Concat(humid, shut))+" dries out open: part them.")
	case opens && len(shut) > 0:
		out.Notes = append(out.Notes, plant.Listed(humid)+" wants air, "+plant.Listed(shut)+" wants a shut lid: part them, or air it now and then.")
	case opens:
		c.cover(sort, wanted, base, plant.Listed(rots)+": it rots when it stands wet and closed.")
	case len(humid)+len(shut) > 0 && !now.Row().Humid && !anyRooted:
		c.cover(sort, wanted, base, plant.Listed(slices.Concat(humid, shut))+" cannot drink yet: humid until roots form.")
	}
}

// nearest is the state of a vessel's cover that comes nearest to the one wanted, the more open of two.
func nearest(sort plant.VesselSort, want plant.CoverState) plant.CoverState {
	best := sort.Covers[len(sort.Covers)-1].State
	for i := len(sort.Covers) - 1; i >= 0; i-- {
		if s := sort.Covers[i].State; openness(s) >= openness(want) {
			best = s
		}
	}
	return best
}

func (c *collected) cover(sort plant.VesselSort, to plant.CoverState, since time.Time, why string) {
	word, ok := sort.Word(to)
	if !ok {
		return
	}
	c.ask(CareTask{Act: plant.SetCover, Cover: to, Label: word.Act, Done: word.Label, Since: midnight(since), Why: why})
	c.later(midnight(c.day).AddDate(0, 0, 1))
}

// inOrder lists what was seen first, then the acts as the table has them. A glance is part of any other act.
func inOrder(tasks []CareTask) []CareTask {
	rank := func(t CareTask) int {
		if t.Urgent {
			return actRank[t.Act] - len(actRank)
		}
		return actRank[t.Act]
	}
	slices.SortStableFunc(tasks, func(a, b CareTask) int { return rank(a) - rank(b) })
	if len(tasks) > 1 {
		tasks = slices.DeleteFunc(tasks, func(t CareTask) bool { return t.Act == plant.Glance })
	}
	return tasks
}
