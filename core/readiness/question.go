package readiness

import (
	"time"

	"clearjar/core/plant"
	"clearjar/core/scenario"
)

// opens marks the questions that need the roots to be seen or felt. They wait until roots can be
// there, and where opening or digging harms, until a leaf is open or the usual time of potting has come.
var opens = map[Criterion]bool{Tug: true, Longest: true, Roots: true, SideRoots: true, NodesRooted: true, RootHealth: true}

// topNode is the node a note about the bud is taken to speak of: the highest that is set.
func (s state) topNode() int { return s.gone + s.setNodes() }

// firstLook is the first day on which there can be something to see.
func (s state) firstLook() time.Time { return s.from.AddDate(0, 0, int(s.first.Low)) }

// rootsFrom is the first day on which looking at hidden roots is worth the harm.
func (s state) rootsFrom() time.Time {
	if !s.medium.Hidden {
		return s.firstLook()
	}
	return s.from.AddDate(0, 0, int(s.pot.Mid))
}

// mayOpen tells whether roots may be looked at, or felt for, today.
func (s state) mayOpen() bool {
	return plant.Days(s.rootsFrom(), s.Today) >= 0 || (s.bud.known && s.bud.value == plant.BudLeafOpen && !s.early()) || s.seenBefore()
}

// early tells whether roots cannot exist yet.
func (s state) early() bool { return plant.Days(s.firstLook(), s.Today) < 0 }

// seenBefore: roots were seen there already, so that there is something to look at again.
func (s state) seenBefore() bool {
	return (s.roots.known && s.roots.value.count > 0) || (s.tug.known && s.tug.value == "holds")
}

// question picks what to ask of the reasons that are open: the first that may be asked today. Where
// roots are hidden the shoot is asked first. Empty when nothing may be asked yet.
func (s state) question(open []Finding) Criterion {
	if s.early() && !s.seenBefore() {
		return ""
	}
	if s.medium.Hidden && !s.mayOpen() {
		if !s.bud.known || s.stale(s.bud.on) || plant.Days(s.bud.on, s.Today) >= int(s.every().Value) {
			return LeafOpen
		}
		return ""
	}
	for _, f := range open {
		if !opens[f.Criterion] || s.mayOpen() {
			return f.Criterion
		}
	}
	return ""
}

// criterionOf is what a question of the model looks at.
func (s state) criterionOf(q scenario.Question) Criterion {
	return map[scenario.Question]Criterion{
		scenario.AskBud: LeafOpen, scenario.AskSqueeze: Body, scenario.AskTug: Tug, scenario.AskCount: Roots, scenario.AskMeasure: Longest, scenario.AskPhoto: Longest,
	}[q]
}
