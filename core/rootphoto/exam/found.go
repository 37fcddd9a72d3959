package exam

import (
	"math"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/measure"
	"clearjar/core/rootphoto/trace"
	"clearjar/core/rootphoto/truth"
)

// When a proposal is right: its tip and half of it lie near a root's. Pixels of the photo.
const (
	tipNear  = 15.0
	pathNear = 8.0
)

// drawn is a root as it is seen: its seen stretches in pixels, and their length in px and mm.
type drawn struct {
	root   truth.Root
	seen   []plant.Point
	lines  [][]plant.Point
	tip    plant.Point
	hasTip bool
	seenPX float64
	seenMM float64
}

func drawnRoots(p *truth.Photo) []drawn {
	out := []drawn{}
	for _, r := range p.Roots {
		d := drawn{root: r, lines: r.Seen()}
		for _, l := range d.lines {
			d.seen = append(d.seen, l...)
			d.seenPX += unbroken(l)
		}
		shown := 0
		for _, v := range r.VisibleAt {
			if v != 0 {
				shown++
			}
		}
		d.seenMM = r.LengthMM * float64(shown) / float64(max(1, len(r.VisibleAt)))
		// The tip that can be found is where it is last seen.
		if n := len(d.seen); n > 0 {
			d.tip, d.hasTip = d.seen[n-1], true
		}
		out = append(out, d)
	}
	return out
}

// near is the share of a line's points that lie near any of some lines.
func near(line []plant.Point, of [][]plant.Point, within float64) float64 {
	n := 0
	for _, p := range line {
		for _, l := range of {
			if toLine(p, l) <= within {
				n++
				break
			}
		}
	}
	if len(line) == 0 {
		return 0
	}
	return float64(n) / float64(len(line))
}

// right tells whether a line is a root: its tip, and half of both near the other.
func (d drawn) right(line []plant.Point) bool {
	if !d.hasTip || len(line) < 2 || distance(line[len(line)-1], d.tip) > tipNear {
		return false
	}
	return near(d.seen, [][]plant.Point{line}, pathNear) >= 0.5
}

// thin is every fourth point of a line, and its last.
func thin(line []plant.Point) []plant.Point {
	out := []plant.Point{}
	for i := 0; i < len(line); i += 4 {
		out = append(out, line[i])
	}
	return append(out, line[len(line)-1])
}

// inPhoto is a line of a scene in pixels of the photo.
func inPhoto(g *trace.Guide, line []plant.Point) []plant.Point {
	out := make([]plant.Point, len(line))
	for i, p := range line {
		out[i] = g.Map.Out(p)
	}
	return out
}

// leastRight is how much is to be seen of a root, mm, for it to be one of those that are to be found.
const leastRight = 10

// judge compares what is proposed with what is there: coverage at the confidence from which roots are proposed, the strict
// count at the one from which they are sure.
func (p *Photo) judge(t *measure.Tables) {
	f := &p.Found
	f.HasNoRoots = len(p.drawn) == 0
	lines := [][]plant.Point{}
	truths := p.lines()
	longest := 0.0
	for _, r := range t.Find.Propose(p.candidates, measure.Proposed(measure.ProposeFrom)) {
		l := inPhoto(p.seen.Guide, r.Line)
		lines = append(lines, l)
		on, length := near(thin(l), truths, pathNear), trace.Length(l)
		if on < 0.5 {
			f.OffRoot++
		}
		f.OnRootPX, f.ProposedPX = f.OnRootPX+on*length, f.ProposedPX+length
		longest = math.Max(longest, length)
	}
	f.Proposals = len(lines)
	seenLongest := 0.0
	for _, d := range p.drawn {
		for _, l := range d.lines {
			f.SeenPX += trace.Length(l)
			f.CoveredPX += near(l, lines, pathNear) * trace.Length(l)
		}
		seenLongest = math.Max(seenLongest, d.seenPX)
	}
	if seenLongest > 0 {
		f.LongestOff = math.Abs(longest/seenLongest - 1)
	}
	if n := float64(len(mainRoots(p.drawn))); n > 0 {
		f.CountError = math.Abs(t.Small.Count.Of(measure.NearStem(t.Find, p.candidates))-n) / n
	}
	sure := t.Find.Propose(p.candidates, measure.Proposed(measure.SureFrom))
	matched := make([]bool, len(sure))
	for _, d := range p.drawn {
		ok := false
		for i, r := range sure {
			if d.right(inPhoto(p.seen.Guide, r.Line)) {
				ok, matched[i] = true, true
			}
		}
		if d.seenMM >= leastRight {
			f.Roots++
			if ok {
				f.Right++
			}
		}
	}
	for _, ok := range matched {
		if !ok {
			f.Unmatched++
		}
	}
}
