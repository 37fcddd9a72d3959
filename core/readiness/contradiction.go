package readiness

import (
	"math"
	"time"

	"clearjar/core/plant"
	"clearjar/core/scenario"
)

// Clash is how facts contradict each other.
type Clash string

// The ways.
const (
	// TugGave: a tug held, and gives later.
	TugGave Clash = "tug_gave"
	// RootsGone: roots were seen, and none later. Shrank: the longest is much shorter later.
	RootsGone Clash = "roots_gone"
	Shrank    Clash = "shrank"
	// LongAndLoose: its roots are long, and a tug gives.
	LongAndLoose Clash = "long_and_loose"
	// LeafGone: a leaf was open, and its bud is asleep later.
	LeafGone Clash = "leaf_gone"
	// FirmAgain: it was soft, and is firm later with nothing cut away.
	FirmAgain Clash = "firm_again"
)

// Contradiction is two facts that cannot both tell of the same sound piece: said, and never averaged away.
type Contradiction struct {
	Clash Clash
	// Was and Now are the days of the two.
	Was, Now time.Time
	// WasMM and NowMM are lengths, where the two are lengths.
	WasMM, NowMM float64
	// Ask is what settles it; empty where another rule asks.
	Ask Criterion
}

// lengthsOf is a length as it was seen on a day, with how far it may be off.
type lengthAt struct {
	on      time.Time
	mm, off float64
}

// contradictions are the facts that contradict each other, the newest first. What was cut away contradicts nothing.
func (s state) contradictions() []Contradiction {
	out := []Contradiction{}
	cut := time.Time{}
	for _, c := range s.CutBacks {
		if c.On.After(cut) {
			cut = c.On
		}
	}
	var longest, last lengthAt
	var held, soft, open time.Time
	for _, l := range s.Looks {
		if !l.On.After(cut) || l.On.Before(s.SetOn) {
			continue
		}
		if l.Look.Tug == "holds" {
			held = l.On
		}
		if l.Look.Stem == "soft" {
			soft = l.On
		}
		for _, b := range l.Look.Buds {
			if b.Bud == plant.BudLeafOpen {
				open = l.On
			}
		}
		if r, ok := sumRoots(s.Numbers, l.Look); ok {
			last = lengthAt{l.On, r.longest.LengthMM, s.off(r.longest)}
			if last.mm > longest.mm {
				longest = last
			}
		}
	}
	if s.gave && !held.IsZero() {
		out = append(out, Contradiction{Clash: TugGave, Was: held, Now: s.tug.on})
	}
	if gap := longest.mm - last.mm; gap > 0 && longest.on.Before(last.on) {
		c := Contradiction{Clash: Shrank, Was: longest.on, Now: last.on, WasMM: longest.mm, NowMM: last.mm}
		switch {
		case last.mm == 0:
			c.Clash = RootsGone
			if !s.stem.known || s.stem.on.Before(last.on) {
				c.Ask = Body
			}
			out = append(out, c)
		case gap > s.of(clashSigmas)*math.Hypot(longest.off, last.off):
			out = append(out, c)
		}
	}
	if s.tug.known && s.tug.value == "gives" && !s.gave && last.mm >= s.of(longAnchors) && !s.tug.on.Before(last.on) && s.medium.Tugs {
		c := Contradiction{Clash: LongAndLoose, Was: last.on, Now: s.tug.on, WasMM: last.mm}
		if !s.squeezedSince(s.tug.on) {
			c.Ask = RootHealth
		}
		out = append(out, c)
	}
	if b := s.bud; !open.IsZero() && b.known && b.value == plant.BudDormant && open.Before(b.on) {
		out = append(out, Contradiction{Clash: LeafGone, Was: open, Now: b.on})
	}
	if !soft.IsZero() && s.stem.known && s.stem.value == "firm" && soft.Before(s.stem.on) {
		out = append(out, Contradiction{Clash: FirmAgain, Was: soft, Now: s.stem.on})
	}
	return out
}

// off is how far a length may be off by the way it was taken, mm.
func (s state) off(r plant.Root) float64 {
	w := scenario.ModelOf(s.Numbers).Sees(howOf(r))
	return math.Max(math.Hypot(w.Share*r.LengthMM, w.ConstantMM), spreadOf(r))
}
