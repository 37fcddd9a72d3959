package exam

import (
	"math"
	"slices"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/colour"
	"clearjar/core/rootphoto/find"
	"clearjar/core/rootphoto/likely"
	"clearjar/core/rootphoto/measure"
	"clearjar/core/rootphoto/optics"
	"clearjar/core/rootphoto/place"
	"clearjar/core/rootphoto/tag"
	"clearjar/core/rootphoto/trace"
)

// mostPasses is how many points a grower makes a line pass, each on the spot that is farthest off, and leastOff how far off a
// spot must be for that.
const (
	mostPasses = 3
	leastOff   = 6.0
)

// Followed is one root as it was followed from a tap, after no, one, and up to three points it must pass.
type Followed struct {
	Root int `json:"root"`
	// SeenError is how far its length in pixels is off what is seen, after none, one and up to three points.
	SeenError [3]float64 `json:"as_seen_error"`
	// FacingError is how far its length on the facing plane is off that of the same pixels with the exact pose; jars only.
	FacingError *float64 `json:"facing_error"`
	// TrueError is how far its length in mm is off the true one; not for jars.
	TrueError *float64 `json:"true_error"`
	// AllowedError is how far its length with the usual allowance is off the true one; of the longest root of a jar.
	AllowedError *float64 `json:"allowed_error"`
	// Held tells whether the interval of the mended line holds the true length, TapHeld whether that of one tap does.
	Held    *bool `json:"interval_holds"`
	TapHeld *bool `json:"interval_of_one_tap_holds"`
	// TurnedError is how far its length is off the true one when a second photo, the jar turned a quarter, is put beside this
	// one; nil where the second would not show its tip. The second is worked out from the truth, see [Case.turned].
	TurnedError *float64 `json:"turned_error"`
	// WidthError is how far its mean width is off, relative; nil where its edges are not seen.
	WidthError *float64 `json:"width_error"`
	kind       measure.Allowance
	ratio      float64
	tapKind    measure.Allowance
	tapRatio   float64
	colour     colour.Seen
	class      plant.RootColour
	as         plant.RootColour
}

// Photo is what was measured of one photo.
type Photo struct {
	Name string `json:"name"`
	// Tag tells whether its tag was read as it should; nil without a tag. ScaleError is that of the tag.
	Tag        *bool      `json:"tag_read"`
	ScaleError *float64   `json:"tag_scale_error"`
	Problems   []string   `json:"problems"`
	Followed   []Followed `json:"followed"`
	Found      Found      `json:"found"`
	// EdgesError is how far the width between the edges that were found is off; nil where none were looked for. Where they were
	// off by more than a grower would leave they were set by hand.
	EdgesError *float64 `json:"edges_error"`
	// TotalHeld tells whether the interval of the length of all roots seen holds it; nil without roots or a scale.
	TotalHeld  *bool `json:"total_holds"`
	Cloudy     *bool `json:"said_cloudy"`
	IsCloudy   *bool `json:"is_cloudy"`
	vesselType string
	seen       *measure.Seen
	candidates []find.Candidate
	more       []find.Candidate
	drawn      []drawn
	colours    []Followed
}

// width is how far apart two edges are in the middle of the first.
func width(l, r optics.Edge) float64 {
	y := (l.A.Y + l.B.Y) / 2
	return r.XAt(y) - l.XAt(y)
}

// Found is what was proposed.
type Found struct {
	Roots      int     `json:"roots_of_10_mm"`
	Right      int     `json:"right"`
	Unmatched  int     `json:"unmatched"`
	SeenPX     float64 `json:"seen_px"`
	CoveredPX  float64 `json:"covered_px"`
	ProposedPX float64 `json:"proposed_px"`
	OnRootPX   float64 `json:"on_root_px"`
	OffRoot    int     `json:"off_root"`
	Proposals  int     `json:"proposals"`
	// CountError and LongestOff are relative.
	CountError float64 `json:"count_error"`
	LongestOff float64 `json:"longest_error"`
	HasNoRoots bool    `json:"has_no_roots"`
}

// edgesLeft is how far off the width between found edges a grower leaves them, relative.
const edgesLeft = 0.02

// Look measures one photo with some tables; number is its place among all.
func (c Case) Look(t *measure.Tables, number int) Photo {
	p := Photo{Name: c.Truth.Name, vesselType: c.Truth.Vessel.Type, Problems: []string{}, Followed: []Followed{}, drawn: drawnRoots(c.Truth)}
	tags := measure.Tags(c.Picture)
	p.tag(c, tags)
	given := c.given(tags, number)
	asked := measure.Asked{
		Vessel: given.Vessel, Behind: c.Behind(), Colour: c.Class(), Healthy: []plant.RootColour{c.Class()}, Focal35: c.Focal35,
		TagMM: given.TagMM, Ruler: given.Ruler, Nodes: c.Nodes(),
	}
	if given.Tag == nil && given.Ruler == nil {
		if asked.Vessel.Shape == place.RoundJar {
			l, r := c.outlines(number)
			asked.Left, asked.Right = &l, &r
		} else {
			asked.Earlier = c.PixelsPerMM() // as an earlier photo of the same view would tell
		}
	}
	p.seen = t.Look(c.Picture, tags, asked)
	if s := p.seen.Surface; s != nil && s.Left != nil && !s.Set {
		l, r := c.outlines(number)
		e := width(*s.Left, *s.Right)/width(l, r) - 1
		p.EdgesError = &e
	}
	missing := p.seen.Guide != nil && p.seen.Surface == nil
	if missing || p.EdgesError != nil && math.Abs(*p.EdgesError) > edgesLeft {
		l, r := c.outlines(number)
		asked.Left, asked.Right = &l, &r
		if missing {
			lost := 1.0 // not found at all
			p.EdgesError = &lost
		}
		p.seen = t.Look(c.Picture, tags, asked)
	}
	for _, err := range p.seen.Problems {
		p.Problems = append(p.Problems, err.Error())
	}
	if p.seen.Guide == nil {
		return p
	}
	for _, s := range withTip(c.Truth) {
		p.Followed = append(p.Followed, c.follow(p.seen, s, number))
	}
	p.longest(c)
	for _, d := range p.drawn {
		if len(d.lines) == 0 || d.seenMM < 5 {
			continue
		}
		line := into(p.seen.Guide.Map.Scene, d.seen)
		f := Followed{Root: d.root.ID, colour: p.seen.Colours(line), class: classOf(d.root.Colour)}
		f.as = p.seen.Class(line)
		p.colours = append(p.colours, f)
	}
	if total, ok := p.seen.Total(); ok && len(p.drawn) > 0 {
		sum := 0.0
		for _, d := range p.drawn {
			sum += d.seenMM
		}
		held := total.LowMM <= sum && sum <= total.HighMM
		p.TotalHeld = &held
	}
	p.candidates = p.seen.Candidates()
	if t.Find != nil {
		p.judge(t)
	}
	cloudy, is := p.seen.Cloudy(), c.Truth.Cloudy > 0
	if c.Truth.Vessel.Type == "jar" {
		p.Cloudy, p.IsCloudy = &cloudy, &is
	}
	return p
}

// Forget lets go of the picture, which the figures do not need.
func (p *Photo) Forget() { p.seen, p.candidates = nil, nil }

func (p *Photo) tag(c Case, tags []tag.Found) {
	ref := c.Truth.Reference
	if ref == nil || len(ref.Symbol) == 0 {
		return
	}
	read := len(tags) == 1 && tags[0].Payload == ref.Payload
	p.Tag = &read
	if !read {
		return
	}
	want := [4]plant.Point{}
	for i, k := range []string{"top_left", "top_right", "bottom_right", "bottom_left"} {
		want[i] = plant.Point{X: ref.Symbol[k][0], Y: ref.Symbol[k][1]}
	}
	e := math.Abs(tags[0].MMPerPixel(ref.SymbolMM)/tag.Found{Corners: want}.MMPerPixel(ref.SymbolMM) - 1)
	p.ScaleError = &e
}

// follow follows a root from a tap, and mends the line as a grower would.
func (c Case) follow(s *measure.Seen, of seenLine, number int) Followed {
	out := Followed{Root: of.root.ID}
	tip := measure.Tip{At: of.tap(number), Node: of.root.Node}
	var line []plant.Point
	var mended measure.Root
	for k := range mostPasses + 1 {
		r, err := s.Follow(tip)
		if err != nil {
			out.SeenError = [3]float64{1, 1, 1}
			return out
		}
		line = r.Path
		e := of.lengthError(trace.Length(line))
		for i := range out.SeenError {
			if i >= min(k, 2) {
				out.SeenError[i] = e
			}
		}
		if k == 0 {
			out.oneTap(s, of, r)
		}
		mended = r
		spot, away := farthest(of.visible, line)
		if away < leastOff {
			break
		}
		tip.Pass = append(tip.Pass, spot)
		slices.SortFunc(tip.Pass, func(a, b plant.Point) int { return alongLine(of.whole, b) - alongLine(of.whole, a) })
	}
	if s.Surface == nil || mended.LengthMM == nil {
		return out
	}
	out.truth(s, of, mended)
	if mended.WidthMM != nil {
		e := math.Abs(*mended.WidthMM/of.root.MeanMM - 1)
		out.WidthError = &e
	}
	got := s.Surface.Length(line)
	if c.Truth.Vessel.Type == "jar" {
		if exact := place.Exact(s.Surface.Start, c.standing()).Length(line); exact.MM > 0 {
			e := math.Abs(got.MM/exact.MM - 1)
			out.FacingError = &e
		}
		out.TurnedError = c.turned(s, of, line, number)
		return out
	}
	e := of.trueError(got.MM)
	out.TrueError = &e
	return out
}

// truth compares a mended line with the true length.
func (f *Followed) truth(s *measure.Seen, of seenLine, r measure.Root) {
	f.kind, f.ratio = kindOf(s, of, r)
	held := *r.LowMM <= of.root.LengthMM && of.root.LengthMM <= *r.HighMM
	f.Held = &held
	e := math.Abs(*r.AllowedMM/of.root.LengthMM - 1)
	f.AllowedError = &e
}

// oneTap compares what one tap gives with the true length.
func (f *Followed) oneTap(s *measure.Seen, of seenLine, r measure.Root) {
	if r.LengthMM != nil {
		f.tapKind, f.tapRatio = kindOf(s, of, r)
		held := *r.LowMM <= of.root.LengthMM && of.root.LengthMM <= *r.HighMM
		f.TapHeld = &held
	}
}

func kindOf(s *measure.Seen, of seenLine, r measure.Root) (kind measure.Allowance, ratio float64) {
	_, weak := s.Guide.Sure(into(s.Guide.Map.Scene, r.Path))
	return measure.Kind(s.Asked.Vessel.Shape, s.Surface.Length(r.Path), weak), of.root.LengthMM / math.Max(1, *r.LengthMM)
}

// longest leaves the error with the allowance at the longest root of a jar only.
func (p *Photo) longest(c Case) {
	best, at := 0.0, -1
	for i, f := range p.Followed {
		for _, r := range c.Truth.Roots {
			if r.ID == f.Root && r.LengthMM > best {
				best, at = r.LengthMM, i
			}
		}
	}
	for i := range p.Followed {
		if i != at || c.Truth.Vessel.Type != "jar" {
			p.Followed[i].AllowedError = nil
		}
	}
}

// alongLine is the point of a line nearest to a place.
func alongLine(line []plant.Point, p plant.Point) int {
	best, at := math.Inf(1), 0
	for i, q := range line {
		if d := distance(p, q); d < best {
			best, at = d, i
		}
	}
	return at
}

// trueError is how far a length in mm is off the true one; nothing between that from the first point that is seen and the
// whole.
func (s seenLine) trueError(mm float64) float64 {
	fromFirst := 0.0
	for i := len(s.root.Points) - 1; i > 0; i-- {
		if s.root.VisibleAt[i-1] == 0 && !seenBefore(s.root.VisibleAt, i) {
			break
		}
		a, b := ours(s.root.Points[i-1]), ours(s.root.Points[i])
		fromFirst += a.To(b)
	}
	switch {
	case mm < fromFirst:
		return (fromFirst - mm) / fromFirst
	case mm > s.root.LengthMM:
		return (mm - s.root.LengthMM) / s.root.LengthMM
	}
	return 0
}

func seenBefore(visible []float64, i int) bool {
	for _, v := range visible[:i] {
		if v != 0 {
			return true
		}
	}
	return false
}

// LearnFrom learns everything anew from photos of known truth. With folds it also returns the tables each photo is judged
// by, learned without it and its series. The same photos give the same tables.
func LearnFrom(cases []Case, folds int, progress func(string)) (whole *measure.Tables, judgedBy func(number int) *measure.Tables, err error) {
	examples := []likely.Example{}
	for _, c := range cases {
		e, err := c.Example()
		if err != nil {
			return nil, nil, err
		}
		examples = append(examples, e)
	}
	lw, lp, folded, err := likely.Learn(examples, folds, progress)
	if err != nil {
		return nil, nil, err
	}
	return learnAfter(cases, lw, lp, folded, progress)
}

// learnAfter learns what comes after the chances of pixels, which were learned from all and, for each fold, without it.
func learnAfter(cases []Case, lw *likely.Tables, lp []*likely.Tables, folded []int, progress func(string)) (whole *measure.Tables, judgedBy func(number int) *measure.Tables, err error) {
	folds := len(lp)
	tables := make([]*measure.Tables, folds+1)
	for k := range folds {
		tables[k] = &measure.Tables{Likely: lp[k]}
	}
	tables[folds] = &measure.Tables{Likely: lw}
	// What comes after sees what the forests say of photos they were not learned from.
	fold := func(i int) int {
		if folds == 0 {
			return 0
		}
		return folded[i]
	}
	photos := make([]Photo, len(cases))
	for i, c := range cases {
		photos[i] = c.Look(tables[fold(i)], i)
		if s := photos[i].seen; s.Guide != nil {
			photos[i].more = find.More(s.Guide, c.Behind(), s.Guide.Map.Expected)
		}
		photos[i].seen = &measure.Seen{Guide: photos[i].seen.Guide, Asked: photos[i].seen.Asked}
		if g := photos[i].seen.Guide; g != nil { // what is not needed any more is let go
			g.Map.Field.Strength.Pix, g.Map.Field.Second.Pix, g.Map.Field.AcrossX.Pix, g.Map.Field.AcrossY.Pix = nil, nil, nil, nil
		}
	}
	progress("measured every photo")
	for k, t := range tables {
		if err := learnRest(t, without(photos, func(i int) bool { return k < folds && fold(i) == k })); err != nil {
			return nil, nil, err
		}
	}
	// How many roots there are is told from what photos that were not learned from are given.
	sums, counts := make([]float64, len(photos)), make([]float64, len(photos))
	for i, p := range photos {
		sums[i], counts[i] = measure.NearStem(tables[fold(i)].Find, p.candidates), float64(len(mainRoots(p.drawn)))
	}
	for k, t := range tables {
		s, n := []float64{}, []float64{}
		for i := range photos {
			if k == folds || fold(i) != k {
				s, n = append(s, sums[i]), append(n, counts[i])
			}
		}
		t.Small.Count = measure.LearnCount(s, n)
	}
	progress("learned which lines are roots")
	return tables[folds], func(number int) *measure.Tables { return tables[fold(number)] }, nil
}

func without(photos []Photo, out func(i int) bool) []Photo {
	some := []Photo{}
	for i, p := range photos {
		if !out(i) {
			some = append(some, p)
		}
	}
	return some
}

// liesOn is which part of a line must lie on roots for it to lie on one.
const liesOn = 0.85

// lines are the seen stretches of all roots.
func (p *Photo) lines() [][]plant.Point {
	out := [][]plant.Point{}
	for _, d := range p.drawn {
		out = append(out, d.lines...)
	}
	return out
}

// learnRest learns what comes after the chances of pixels: which candidates are roots, their colours, what lengths are
// allowed.
func learnRest(t *measure.Tables, photos []Photo) error {
	candidates, right, on := []find.Candidate{}, []bool{}, []bool{}
	mended, taps := measure.Ratios{}, measure.Ratios{}
	seen, class := []colour.Seen{}, []string{}
	for _, p := range photos {
		truths := p.lines()
		for _, c := range slices.Concat(p.candidates, p.more) {
			line := inPhoto(p.seen.Guide, c.Line)
			ok := slices.ContainsFunc(p.drawn, func(d drawn) bool { return d.right(line) })
			candidates, right = append(candidates, c), append(right, ok)
			on = append(on, near(thin(line), truths, pathNear) >= liesOn)
		}
		for _, f := range p.Followed {
			if f.ratio > 0 {
				mended.Add(f.kind, f.ratio)
			}
			if f.tapRatio > 0 {
				taps.Add(f.tapKind, f.tapRatio)
			}
		}
		for _, f := range p.colours {
			seen, class = append(seen, f.colour), append(class, string(f.class))
		}
	}
	var err error
	if t.Find, err = find.Learn(candidates, right, on); err != nil {
		return err
	}
	if t.Small.Colours, err = colour.LearnClasses(seen, class); err != nil {
		return err
	}
	t.Small.Allowances = measure.LearnAllowances(mended, taps)
	return nil
}

// leastCounted is from which length a root is counted, mm.
const leastCounted = 5

// mainRoots are the roots of the stem that count.
func mainRoots(all []drawn) []drawn {
	out := []drawn{}
	for _, d := range all {
		if d.root.Order == 1 && d.root.LengthMM >= leastCounted {
			out = append(out, d)
		}
	}
	return out
}
