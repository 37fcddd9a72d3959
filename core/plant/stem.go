package plant

import (
	"errors"
	"fmt"
	"math"
	"strings"
)

// Limits of a stem map. Outside them a length is a slip of the finger, not a plant.
const (
	MostNodes        = 60
	MostInternodeMM  = 1000.0
	LeastInternodeMM = 0.5
	MostThicknessMM  = 80.0
)

// Node is a notch on a stem where a leaf sits and where buds and roots arise. On the other
// organs it is whatever counts as a growing point there; see [OrganRule].
type Node struct {
	// BelowMM is the internode below this node: for node 1, the bare stem from the base to it.
	BelowMM float64 `json:"below_mm"`
	Leaf    bool    `json:"leaf"`
	Aerial  bool    `json:"aerial_root"`
	Bud     Bud     `json:"bud" enum:"dormant,swelling,shooting,leaf_open"`
	// Stripe is how much of the pattern the stem shows at this node; empty when nobody looked.
	Stripe Stripe `json:"stripe,omitempty" enum:"none,some,strong"`
	// Rooted says that a growing point of a clump has roots of its own.
	Rooted bool `json:"rooted,omitempty"`
}

// Stem is the map of one stem, base to tip. Node n of the trade is Nodes[n-1]. A runner, a
// clump, a tuber and a leaf are mapped the same way: growing points in a row.
type Stem struct {
	// Organ is what lies on the bench; empty for a stem.
	Organ Organ `json:"organ,omitempty" enum:"stem,rhizome,runner,clump,pups,back_rhizome,tuber,leaf"`
	// Form is how a leaf is divided; empty for every other organ.
	Form  LeafForm `json:"form,omitempty" enum:"whole,half,half_across,wedge,section,pulled,heel"`
	Nodes []Node   `json:"nodes" maxItems:"60"`
	// BeyondMM is the stem beyond the last node.
	BeyondMM    float64 `json:"beyond_mm"`
	ThicknessMM float64 `json:"thickness_mm"`
	// TipIntact says that the growing point at the end is still there.
	TipIntact bool `json:"tip_intact"`
	// Wood is how far the stem has hardened; empty for green.
	Wood Wood `json:"wood,omitempty" enum:"green,half_ripe,woody"`
	// Sprang is where this stem grew back from, when it is a shoot of another.
	Sprang *Sprang `json:"sprang,omitempty"`
}

// Sprang is the node of another stem of the same mother that a stem grew from.
type Sprang struct {
	Letter string `json:"letter" maxLength:"3"`
	Node   int    `json:"node" minimum:"1" maximum:"60"`
}

// What is the organ, [StemOrgan] when nothing was said.
func (s Stem) What() Organ {
	if s.Organ == "" {
		return StemOrgan
	}
	return s.Organ
}

// At is the distance of node number n from the base, in mm.
func (s Stem) At(n int) float64 {
	sum := 0.0
	for i := 0; i < n && i < len(s.Nodes); i++ {
		sum += s.Nodes[i].BelowMM
	}
	return sum
}

// LengthMM is the length of the whole stem in mm, with what stands beyond its last node.
func (s Stem) LengthMM() float64 { return s.At(len(s.Nodes)) + s.BeyondMM }

// Check refuses a map that cannot be a stem, naming every field that is wrong.
func (s Stem) Check() error {
	var all []error
	length := func(field string, v, least, most float64) {
		switch {
		case math.IsNaN(v) || math.IsInf(v, 0):
			all = append(all, Refuse(field, "is not a length"))
		case v < least:
			all = append(all, Refuse(field, "%g mm is too short: at least %g mm", v, least))
		case v > most:
			all = append(all, Refuse(field, "%g mm is too long: at most %g mm", v, most))
		}
	}
	if len(s.Nodes) == 0 {
		all = append(all, Refuse("nodes", "nothing is marked: mark at least one node, or one growing point"))
	}
	if len(s.Nodes) > MostNodes {
		all = append(all, Refuse("nodes", "%d nodes: a map holds at most %d", len(s.Nodes), MostNodes))
	}
	for i, n := range s.Nodes {
		length(fmt.Sprintf("nodes[%d].below_mm", i), n.BelowMM, LeastInternodeMM, MostInternodeMM)
		switch n.Bud {
		case BudDormant, BudSwelling, BudShooting, BudLeafOpen:
		default:
			all = append(all, Refuse(fmt.Sprintf("nodes[%d].bud", i), "%q is not a bud state", n.Bud))
		}
	}
	length("beyond_mm", s.BeyondMM, 0, MostInternodeMM)
	length("thickness_mm", s.ThicknessMM, 1, MostThicknessMM)
	return errors.Join(append(all, s.checkWords()...)...)
}

// checkWords refuses words that are not in the tables; a map from a file may hold anything.
func (s Stem) checkWords() (all []error) {
	rule, known := s.What().Rule()
	if !known {
		return append(all, Refuse("organ", "%q is not something that is cut", s.Organ))
	}
	if s.What() == LeafOrgan {
		if _, ok := s.Form.Rule(); !ok {
			all = append(all, Refuse("form", "say how the leaf is divided: whole, half, half_across, wedge, section, pulled or heel"))
		}
	} else if s.Form != "" {
		all = append(all, Refuse("form", "only a leaf has a form, this is a %s", rule.Label))
	}
	switch s.Wood {
	case "", Green, HalfRipe, Woody:
	default:
		all = append(all, Refuse("wood", "%q is not green, half_ripe or woody", s.Wood))
	}
	for i, n := range s.Nodes {
		switch n.Stripe {
		case "", StripeNone, StripeSome, StripeStrong:
		default:
			all = append(all, Refuse(fmt.Sprintf("nodes[%d].stripe", i), "%q is not none, some or strong", n.Stripe))
		}
	}
	if s.Sprang != nil && (s.Sprang.Node < 1 || s.Sprang.Node > MostNodes || s.Sprang.Letter == "") {
		all = append(all, Refuse("sprang", "say from which stem and which node it grew"))
	}
	return all
}

// PieceCode is the code a cutting carries: mother, stem letter and nodes, such as MEL-A3-4 or, for one node, MEL-A3. What is counted
// itself, as leaves are, has letters for its pieces and none when it is one: VIO-L3, VIO-L3a. points is how many it has.
func PieceCode(mother, letter string, first, last, points int) string {
	if n := len(letter); n > 0 && letter[n-1] >= '0' && letter[n-1] <= '9' {
		low := func(i int) string { return strings.ToLower(StemLetter(i - 1)) }
		switch {
		case points == 1:
			return fmt.Sprintf("%s-%s", mother, letter)
		case first == last:
			return fmt.Sprintf("%s-%s%s", mother, letter, low(first))
		}
		return fmt.Sprintf("%s-%s%s-%s", mother, letter, low(first), low(last))
	}
	if first == last {
		return fmt.Sprintf("%s-%s%d", mother, letter, first)
	}
	return fmt.Sprintf("%s-%s%d-%d", mother, letter, first, last)
}

// StemLetter is the letter of the n-th stem of a mother: A, B ... Z, AA, AB ...
func StemLetter(n int) string {
	letters := ""
	for n >= 0 {
		letters = string(rune('A'+n%26)) + letters
		n = n/26 - 1
	}
	return letters
}

// CheckText refuses characters no text has in the few free words of a map.
func (s Stem) CheckText() error {
	if s.Sprang == nil {
		return nil
	}
	_, err := CleanName("sprang.letter", s.Sprang.Letter, 3)
	return err
}
