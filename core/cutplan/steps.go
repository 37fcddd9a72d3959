package cutplan

import (
	"fmt"
	"strings"

	"clearjar/core/plant"
)

// Step is one line of the bench checklist.
type Step struct {
	// Key names the step within its plan.
	Key string `json:"key"`
	// Phase is before, tools, cut, wounds or after.
	Phase string `json:"phase" enum:"before,tools,cut,wounds,after"`
	Text  string `json:"text"`
	// WaitHours is how long to wait from the moment it is ticked; TimerFrom the step whose tick starts it.
	WaitHours float64           `json:"wait_hours,omitempty"`
	MostHours float64           `json:"most_hours,omitempty"`
	TimerFrom string            `json:"timer_from,omitempty"`
	Hazards   []plant.HazardKey `json:"hazards"`
	Basis     plant.Basis       `json:"basis"`
}

// Laid is a bench with the plan laid on it, and how its pieces are called.
type Laid struct {
	Bench Bench
	Plan  Plan
	// Name of the stem, such as MEL-A.
	Name string
}

// Steps is the bench checklist of a plan, in the order the work is done: ready the mother, the
// tools, the cuts from the tip down, the wounds, the tags.
func Steps(laid []Laid) []Step {
	s := &steps{}
	if len(laid) == 0 {
		return s.list
	}
	s.before(laid[0].Bench)
	s.tools(laid)
	for i, l := range laid {
		s.cuts(i, l)
	}
	for i, l := range laid {
		s.wounds(i, l)
	}
	s.after(laid[0].Bench)
	return s.list
}

type steps struct{ list []Step }

func (s *steps) add(phase, key, text string, basis plant.Basis, h ...plant.HazardKey) *Step {
	if h == nil {
		h = []plant.HazardKey{}
	}
	s.list = append(s.list, Step{Key: key, Phase: phase, Text: text, Hazards: h, Basis: basis})
	return &s.list[len(s.list)-1]
}

func (s *steps) before(b Bench) {
	s.add("before", "water", "Water the mother generously, one to two days before.", b.Sheet.At(WateredWithin.Key).Basis)
	s.add("before", "turgid", "Cut on a day when she is turgid: leaves stiff, nothing hanging.", plant.Practice)
}

func (s *steps) tools(laid []Laid) {
	b := laid[0].Bench
	blade := "A razor for soft stems; scissors crush."
	for _, l := range laid {
		if l.Bench.Stem.ThicknessMM >= l.Bench.Sheet.value(ThickFrom) || l.Bench.Stem.Wood == plant.Woody || l.Bench.rule().Crowned {
			blade = "Very sharp pruners or a knife for thick stems and clumps."
		}
	}
	s.add("tools", "blade", blade, plant.Practice, plant.BladeWork)
	s.add("tools", "alcohol", "Wipe the blade with 70 % isopropyl alcohol: before the first cut, between plants, and after any rot.", plant.Practice, plant.Alcohol)
	s.add("tools", "water-ready", "Have water or damp paper ready: pieces never wilt.", plant.Practice)
	s.add("tools", "gloves", "Gloves on; the sap is washed off afterwards.", plant.Practice, b.Group.Hazards...)
}

// cuts go from the tip down, so that what is left stays fed and measured from its base.
func (s *steps) cuts(i int, l Laid) {
	knives := l.Plan.KnivesMM
	for at := len(knives) - 1; at >= 0; at-- {
		mm := knives[at]
		face := "straight across"
		for _, p := range l.Plan.Pieces {
			if p.FromMM == mm && p.Slant {
				face = "at 45 degrees"
			}
		}
		text := fmt.Sprintf("%s: cut at %.0f mm from the base, %s (%s).", l.Name, mm, face, l.Bench.beside(mm))
		if take := l.Bench.take(); mm <= sameCutMM && take != "" {
			text = fmt.Sprintf("%s: %s", l.Name, plant.Lower(take))
		} else if cut := l.Bench.rule().Cut; cut != "" {
			text = fmt.Sprintf("%s: "+cut+".", l.Name, l.Bench.beside(mm))
		}
		s.add("cut", fmt.Sprintf("cut-%d-%d", i, at), text, plant.Practice)
	}
	if len(l.Plan.Pieces) > 0 && l.Bench.rule().Along {
		for k, text := range l.Bench.Group.Bench {
			s.add("cut", fmt.Sprintf("group-%d-%d", i, k), fmt.Sprintf("%s: %s", l.Name, text), plant.Practice)
		}
	}
	for j, p := range l.Plan.Pieces {
		name := l.Name + span(p.First, p.Last)
		said := fmt.Sprintf("%s: mark which end is up (%s).", name, p.Up)
		if len(p.Strip) > 0 {
			said += fmt.Sprintf(" Strip the leaf of node %s: it would sit in the medium.", join(p.Strip))
		}
		if len(p.Halve) > 0 {
			said += fmt.Sprintf(" Cut the blade of node %s by a third to a half.", join(p.Halve))
		}
		s.add("cut", fmt.Sprintf("mark-%d-%d", i, j), said, plant.Practice)
	}
}

// take says how what is detached comes off whole.
func (b Bench) take() string {
	if form, ok := b.Stem.Form.Rule(); ok && b.Organ() == plant.LeafOrgan {
		return form.Take
	}
	return b.rule().Take
}

// beside says how far a cut is from the nodes on both sides.
func (b Bench) beside(mm float64) string {
	below, above := 0, 0
	for n := 1; n <= b.Standing(); n++ {
		if b.Stem.At(n) <= mm {
			below = n
		} else if above == 0 {
			above = n
		}
	}
	if !b.along() {
		return fmt.Sprintf("%d and %d", below, above)
	}
	parts := []string{}
	if below > 0 {
		parts = append(parts, fmt.Sprintf("%.0f mm above node %d", mm-b.Stem.At(below), below))
	}
	if above > 0 {
		parts = append(parts, fmt.Sprintf("%.0f mm below node %d", b.Stem.At(above)-mm, above))
	}
	return strings.Join(parts, ", ")
}

func (s *steps) wounds(i int, l Laid) {
	for j, p := range l.Plan.Pieces {
		w := l.Bench.WoundsOf(p)
		hazards := []plant.HazardKey{}
		if w.Dust || (l.Bench.Hormone && w.Hormone != "no") {
			hazards = append(hazards, plant.Chemicals)
		}
		step := s.add("wounds", fmt.Sprintf("wound-%d-%d", i, j), fmt.Sprintf("%s: %s", l.Name+span(p.First, p.Last), w.Text(l.Bench.Hormone)), w.Basis, hazards...)
		if w.CallusHours.Mid > 0 {
			step.WaitHours, step.MostHours = w.CallusHours.Low, w.CallusHours.High
			step.TimerFrom = fmt.Sprintf("mark-%d-%d", i, j)
		}
	}
}

func (s *steps) after(b Bench) {
	if b.rule().Crowned {
		n := b.Sheet.At(RootsLost.Key)
		s.add("after", "roots", fmt.Sprintf("Trim only broken roots: never more than a fifth (%.0f %%) of them.", 100*n.Value), n.Basis)
	}
	s.add("after", "tags", "Tag every piece at once: name, mother, date, which nodes, medium, and which end is up.", plant.Practice)
	s.add("after", "mother", "Put the mother back into bright, indirect light; less water until she shoots.", plant.Practice)
	s.add("after", "clean", "Wipe the blade, wash off sap, gather every scrap and used dust out of reach of children and pets.", plant.Practice)
}

func join(list []int) string { return plant.Numbered(list) }
