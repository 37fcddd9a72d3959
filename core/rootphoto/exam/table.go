package exam

import (
	"math"

	"clearjar/core/plant"
)

// Row is one figure of the measurement beside what it must be.
type Row struct {
	Mode     string  `json:"mode"`
	Figure   string  `json:"figure"`
	Measured float64 `json:"measured"`
	// Must and Aim are limits; Least tells that the figure must be at least so much, not at most.
	Must  float64 `json:"must"`
	Aim   float64 `json:"aim"`
	Least bool    `json:"at_least"`
	Held  bool    `json:"held"`
	// Of is how many roots or photos it was measured on.
	Of   int    `json:"of"`
	Unit string `json:"unit"`
}

// Table puts the figures of photos together. Errors are in per cent.
func Table(photos []Photo) []Row {
	t := &table{}
	var seen [3][]float64
	var facing, allowed, count, longest, scales, edges, widths, turned []float64
	by := map[string][]float64{}
	held, intervals, tapHeld, taps, totals, totalHeld := 0.0, 0, 0.0, 0, 0, 0.0
	var tags, read float64
	var found Found
	var right, wanted, unmatched, off, none, saidNone float64
	var near, all, rot, rotFound, sound, falseRot float64
	var cloudy, cloudyFound, clear, falseCloudy float64
	for _, p := range photos {
		for _, f := range p.Followed {
			for i := range seen {
				seen[i] = append(seen[i], f.SeenError[i])
			}
			facing, allowed = add(facing, f.FacingError), add(allowed, f.AllowedError)
			widths, turned = add(widths, f.WidthError), add(turned, f.TurnedError)
			if f.TrueError != nil {
				by[p.vessel()] = append(by[p.vessel()], *f.TrueError)
			}
			if f.Held != nil {
				intervals++
				held += flag(*f.Held)
			}
			if f.TapHeld != nil {
				taps++
				tapHeld += flag(*f.TapHeld)
			}
		}
		if p.Tag != nil {
			tags++
			read += flag(*p.Tag)
		}
		scales, edges = add(scales, p.ScaleError), add(edges, p.EdgesError)
		if p.TotalHeld != nil {
			totals++
			totalHeld += flag(*p.TotalHeld)
		}
		f := p.Found
		if f.HasNoRoots {
			none++
			saidNone += flag(f.Proposals == 0)
		} else {
			found.SeenPX, found.CoveredPX = found.SeenPX+f.SeenPX, found.CoveredPX+f.CoveredPX
			found.ProposedPX, found.OnRootPX = found.ProposedPX+f.ProposedPX, found.OnRootPX+f.OnRootPX
			off, right, wanted, unmatched = off+float64(f.OffRoot), right+float64(f.Right), wanted+float64(f.Roots), unmatched+float64(f.Unmatched)
			count, longest = append(count, f.CountError), append(longest, f.LongestOff)
		}
		for _, c := range p.colours {
			all++
			near += flag(nextTo(c.class, c.as))
			if c.class == plant.Brown {
				rot++
				rotFound += flag(c.as == plant.Brown)
			} else {
				sound++
				falseRot += flag(c.as == plant.Brown)
			}
		}
		if p.IsCloudy != nil {
			if *p.IsCloudy {
				cloudy++
				cloudyFound += flag(*p.Cloudy)
			} else {
				clear++
				falseCloudy += flag(*p.Cloudy)
			}
		}
	}
	withRoots := float64(len(photos)) - none
	t.pair("assisted", "length as seen, one tap", seen[0], 2.5, 25, 2, 6)
	t.pair("assisted", "length as seen, with one passing point where it is off", seen[1], 2.5, 25, 2, 6)
	t.pair("assisted", "length as seen, with up to three passing points", seen[2], 2, 9, 1, 4)
	t.pair("assisted", "jar: facing plane", facing, 2, 5, 1, 3)
	t.pair("assisted", "jar: true length of the longest root, with the allowance", allowed, 12, 34, 10, 25)
	t.pair("assisted", "jar: true length from two photos a quarter turn apart, the second worked out", turned, 4, 10, 2, 5)
	t.pair("assisted", "true length on a board", by["bare"], 2, 5, 1, 3)
	t.pair("assisted", "true length at the front wall of a box", by["moss_box"], 2, 6, 1, 3)
	t.pair("assisted", "true length at the wall of a cup", by["perlite_cup"], 4, 9, 1, 3)
	t.most("assisted", "mean width of a root, median", 100*quantile(widths, 0.5), 20, 10, len(widths), "%")
	t.within("assisted", "the interval of a mended line holds the true length (85 to 97)", held, intervals)
	t.within("assisted", "the interval of one tap holds the true length (85 to 97)", tapHeld, taps)
	t.least("automatic", "length of seen roots covered by proposals", 100*found.CoveredPX/found.SeenPX, 75, 90, int(withRoots), "%")
	t.least("automatic", "proposed length that lies on a root", 100*found.OnRootPX/found.ProposedPX, 95, 98, int(withRoots), "%")
	t.most("automatic", "proposals off any root, a photo", off/withRoots, 0.2, 0.1, int(withRoots), "")
	t.least("automatic", "roots of 10 mm or more right, where lines are sure", 100*right/wanted, 50, 80, int(wanted), "%")
	t.most("automatic", "sure lines that are no root or end wrong, a photo", unmatched/withRoots, 1.2, 1.2, int(withRoots), "")
	if none > 0 {
		t.least("automatic", "photos without roots reported as such", 100*saidNone/none, 100, 100, int(none), "%")
	}
	t.most("automatic", "count of roots, median error", 100*quantile(count, 0.5), 15, 8, len(count), "%")
	t.most("automatic", "longest root as seen, median error", 100*quantile(longest, 0.5), 15, 8, len(longest), "%")
	t.within("automatic", "the interval of the length of all roots seen holds it (85 to 97)", totalHeld, totals)
	if tags > 0 {
		t.least("tag", "decoded and right", 100*read/tags, 95, 100, int(tags), "%")
		t.most("tag", "scale error, median", 100*quantile(scales, 0.5), 0.3, 0.1, len(scales), "%")
		t.most("tag", "scale error, worst", 100*quantile(scales, 1), 0.3, 0.1, len(scales), "%")
	}
	if len(edges) > 0 {
		ok := 0.0
		for _, e := range edges {
			ok += flag(math.Abs(e) <= edgesLeft)
		}
		t.least("vessel", "edges found alone, width right to 2 %", 100*ok/float64(len(edges)), 50, 90, len(edges), "%")
	}
	t.least("colour", "class or the next one", 100*near/all, 95, 98, int(all), "%")
	if rot > 0 {
		t.least("colour", "rot found", 100*rotFound/rot, 80, 95, int(rot), "%")
	}
	t.most("colour", "false rot", 100*falseRot/math.Max(1, sound), 2, 1, int(sound), "%")
	if cloudy > 0 {
		t.least("water", "cloudy found", 100*cloudyFound/cloudy, 100, 100, int(cloudy), "%")
	}
	t.most("water", "clear taken for cloudy", 100*falseCloudy/math.Max(1, clear), 10, 0, int(clear), "%")
	return t.rows
}

type table struct{ rows []Row }

func (t *table) pair(mode, figure string, v []float64, m50, m90, a50, a90 float64) {
	if len(v) == 0 {
		return
	}
	t.most(mode, figure+", median", 100*quantile(v, 0.5), m50, a50, len(v), "%")
	t.most(mode, figure+", 90th percentile", 100*quantile(v, 0.9), m90, a90, len(v), "%")
}

// within is a share that must be neither too small nor too large: intervals that always hold say nothing.
func (t *table) within(mode, figure string, n float64, of int) {
	if of > 0 {
		v := 100 * n / float64(of)
		t.rows = append(t.rows, Row{mode, figure, v, 85, 85, true, v >= 85 && v <= 97, of, "%"})
	}
}

func (t *table) most(mode, figure string, v, must, aim float64, of int, unit string) {
	if of > 0 && !math.IsNaN(v) {
		t.rows = append(t.rows, Row{mode, figure, v, must, aim, false, v <= must, of, unit})
	}
}

func (t *table) least(mode, figure string, v, must, aim float64, of int, unit string) {
	if of > 0 && !math.IsNaN(v) {
		t.rows = append(t.rows, Row{mode, figure, v, must, aim, true, v >= must, of, unit})
	}
}

func add(to []float64, v *float64) []float64 {
	if v == nil || math.IsNaN(*v) {
		return to
	}
	return append(to, *v)
}

func flag(v bool) float64 {
	if v {
		return 1
	}
	return 0
}

// order is that of the classes of colour, light to dark: a class is next to its neighbours.
var order = []plant.RootColour{plant.White, plant.Cream, plant.Tan, plant.Orange, plant.Brown, plant.Black}

func nextTo(a, b plant.RootColour) bool {
	at := func(c plant.RootColour) int {
		for i, o := range order {
			if o == c {
				return i
			}
		}
		return -10
	}
	d := at(a) - at(b)
	return d >= -1 && d <= 1
}

func (p Photo) vessel() string { return p.vesselType }
