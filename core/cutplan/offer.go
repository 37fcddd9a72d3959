package cutplan

import (
	"sort"

	"clearjar/core/plant"
)

// Answered answers a question that may be open.
type Answered string

// Answers.
const (
	Yes    Answered = "yes"
	No     Answered = "no"
	Unsure Answered = ""
)

// Offer is a piece someone offers, or a piece of a mother one thinks of cutting, as far as it is known.
type Offer struct {
	// Node: does it have a node? Without one nothing grows.
	Node Answered `json:"node,omitempty" enum:"yes,no"`
	// Kind is what it is; empty for what the group is usually multiplied from.
	Kind plant.PieceKind `json:"kind,omitempty"`
	// Roots: a division with roots of its own?
	Roots Answered `json:"own_roots,omitempty" enum:"yes,no"`
	// Nodes is how many, when there are any.
	Nodes int `json:"nodes" minimum:"0" maximum:"20"`
	// SoundMM is the sound stem on the shorter side of the end nodes; negative for not known.
	SoundMM float64 `json:"sound_mm" minimum:"-1" maximum:"500"`
	// Ends are fresh (they will dry or rot back) or healed.
	Ends   string   `json:"ends,omitempty" enum:"fresh,healed"`
	Leaf   Answered `json:"leaf,omitempty" enum:"yes,no"`
	Aerial Answered `json:"aerial_root,omitempty" enum:"yes,no"`
	Bud    Answered `json:"live_bud,omitempty" enum:"yes,no"`
	// Firm: firm all along when squeezed.
	Firm Answered `json:"firm,omitempty" enum:"yes,no"`
	// Stripe is the pattern on the stem at the node.
	Stripe plant.Stripe `json:"stripe,omitempty" enum:"none,some,strong"`
	// Patterned: is it sold or wanted for its pattern?
	Patterned bool `json:"patterned,omitempty"`
	Conditions
}

// OfferAnswer is what a piece is worth trying for.
type OfferAnswer struct {
	// Chance of a plant with what is not known taken at its middle; Low and High at its worst and best.
	Chance float64 `json:"chance"`
	Low    float64 `json:"low"`
	High   float64 `json:"high"`
	// Verdict in a sentence.
	Verdict string `json:"verdict"`
	// Raise is what would raise the chance, the most first.
	Raise []Raise `json:"raise"`
	// Ask is what to ask or look at, by how much it would tell.
	Ask      []Raise  `json:"ask"`
	Warnings []string `json:"warnings"`
	// Piece is the middle case, with its effects and their basis.
	Piece Piece `json:"piece"`
}

// Raise is one thing and what the chance would be with it.
type Raise struct {
	Text   string  `json:"text"`
	Chance float64 `json:"chance"`
	By     float64 `json:"by"`
}

// Numbers of an offer: what softness does, and from where its chance is called good or a long shot.
var (
	OfferGood = define("offer_good", "An offered piece is good from", 0.75, "fraction", plant.Assumed("three of four come through"))
	OfferEven = define("offer_even", "An offered piece is better than even from", 0.5, "fraction", plant.Assumed("by the word"))
	OfferLong = define("offer_long_shot", "An offered piece is a long shot below", 0.4, "fraction", plant.Assumed("expect most to fail"))
	OfferOpen = define("offer_open", "Ask first when what is not known moves the chance by more than", 0.35, "fraction", plant.Assumed("a third"))
	// What is taken for the sound stem beside the end nodes while nobody has measured it.
	SideWorst = define("side_worst", "Sound stem taken at worst while it is not known", 3, "mm", plant.Assumed("cut close"))
	SideUsual = define("side_usual", "Sound stem taken as usual while it is not known", 15, "mm", plant.Assumed("the far end of what dries back"))
	SideBest  = define("side_best", "Sound stem taken at best while it is not known", 25, "mm", plant.Assumed("left generously"))
)

// SoftOdds is what softness does to a piece.
var SoftOdds = define("soft", "Soft when squeezed", 0.15, "odds ratio", plant.Assumed("rot is soft; the size is ours"))

// Worth tells what chance an offered piece has, what would raise it, and what to ask first.
func Worth(g plant.Group, dark bool, s Sheet, o Offer) (OfferAnswer, error) {
	if o.Node != No && (o.Nodes < 0 || o.Nodes > 20) {
		return OfferAnswer{}, plant.Refuse("nodes", "1 to 20 nodes")
	}
	if o.Kind != "" && o.Kind.Row().Kind != o.Kind {
		return OfferAnswer{}, plant.Refuse("kind", "%q is not a kind of piece", o.Kind)
	}
	o.Kind = o.kind(g)
	if o.SoundMM > 500 {
		return OfferAnswer{}, plant.Refuse("sound_mm", "at most 500 mm")
	}
	middle := o.filled(0, s)
	a := OfferAnswer{Raise: []Raise{}, Ask: []Raise{}, Warnings: []string{}}
	a.Piece = middle.piece(g, dark, s)
	a.Chance, a.Low, a.High = a.Piece.Chance, o.filled(-1, s).chance(g, dark, s), o.filled(1, s).chance(g, dark, s)
	for _, f := range facets {
		better, ok := f.better(o, s)
		if !ok {
			continue
		}
		r := Raise{Text: f.text, Chance: better.filled(0, s).chance(g, dark, s)}
		r.By = r.Chance - a.Chance
		open := f.open(o)
		if open {
			r.Text, r.By = f.ask, r.Chance-f.worse(o, s).filled(0, s).chance(g, dark, s)
		}
		switch {
		case r.By < 0.005: // it would tell, or change, next to nothing
		case open:
			a.Ask = append(a.Ask, r)
		default:
			a.Raise = append(a.Raise, r)
		}
	}
	for _, list := range [][]Raise{a.Raise, a.Ask} {
		sort.SliceStable(list, func(i, j int) bool { return list[i].By > list[j].By })
	}
	a.Verdict = verdict(o, a, s)
	a.warn(o, s)
	return a, nil
}

func verdict(o Offer, a OfferAnswer, s Sheet) string {
	switch {
	case o.Node == No:
		return "No node, no plant: it can never grow, whatever else it has."
	case a.Low >= s.value(OfferGood):
		return "A good piece."
	case a.High < s.value(OfferLong):
		return "A long shot: expect it to fail."
	case a.High-a.Low > s.value(OfferOpen):
		return "It hangs on what is not known yet: ask first."
	case a.Chance >= s.value(OfferEven):
		return "Better than even."
	}
	return "Less than even: take it only if you can spare it, or take several."
}

func (a *OfferAnswer) warn(o Offer, s Sheet) {
	if o.Patterned && o.Stripe == plant.StripeNone {
		a.Warnings = append(a.Warnings, "The stem shows no pattern at the node: the bud there will come plain.")
	}
	if o.Patterned && o.Stripe == "" {
		a.Warnings = append(a.Warnings, "Look at the stem's stripe at the node: the bud that wakes has the same.")
	}
	if o.Firm == No {
		a.Warnings = append(a.Warnings, "Soft is rot: cut back to firm, clean tissue first, and see whether a sound node is left.")
	}
	if o.Ends == "fresh" && o.SoundMM >= 0 && o.SoundMM < s.value(DieBackMost) {
		a.Warnings = append(a.Warnings, "Fresh ends dry or rot back 5 to 15 mm: the node may be reached.")
	}
}

// facet is one thing a piece has or lacks.
type facet struct {
	text, ask string
	open      func(Offer) bool
	better    func(Offer, Sheet) (Offer, bool)
	worse     func(Offer, Sheet) Offer
}

var facets = []facet{
	{
		"", "is there a node", func(o Offer) bool { return o.Node == Unsure },
		func(o Offer, _ Sheet) (Offer, bool) { had := o.Node; o.Node = Yes; return o, had == Unsure },
		func(o Offer, _ Sheet) Offer { o.Node = No; return o },
	},
	{
		"roots of its own", "does it have roots of its own", func(o Offer) bool { return o.Roots == Unsure && o.Kind == plant.Division },
		func(o Offer, _ Sheet) (Offer, bool) {
			had := o.Roots
			o.Roots = Yes
			return o, had != Yes && o.Kind == plant.Division
		},
		func(o Offer, _ Sheet) Offer { o.Roots = No; return o },
	},
	{
		"a leaf on the piece", "does it have a leaf", func(o Offer) bool { return o.Leaf == Unsure },
		func(o Offer, _ Sheet) (Offer, bool) { had := o.Leaf; o.Leaf = Yes; return o, had != Yes },
		func(o Offer, _ Sheet) Offer { o.Leaf = No; return o },
	},
	{
		"an aerial root at the node", "is there an aerial root", func(o Offer) bool { return o.Aerial == Unsure },
		func(o Offer, _ Sheet) (Offer, bool) { had := o.Aerial; o.Aerial = Yes; return o, had != Yes },
		func(o Offer, _ Sheet) Offer { o.Aerial = No; return o },
	},
	{
		"a live, swelling bud", "is the bud alive and swelling", func(o Offer) bool { return o.Bud == Unsure },
		func(o Offer, _ Sheet) (Offer, bool) { had := o.Bud; o.Bud = Yes; return o, had != Yes },
		func(o Offer, _ Sheet) Offer { o.Bud = No; return o },
	},
	{
		"firm all along", "is it firm all along", func(o Offer) bool { return o.Firm == Unsure },
		func(o Offer, _ Sheet) (Offer, bool) { had := o.Firm; o.Firm = Yes; return o, had != Yes },
		func(o Offer, _ Sheet) Offer { o.Firm = No; return o },
	},
	{
		"plenty of sound stem on both sides", "how much sound stem is beside the node", func(o Offer) bool { return o.SoundMM < 0 },
		func(o Offer, s Sheet) (Offer, bool) {
			had := o.SoundMM
			o.SoundMM = s.value(SideBest)
			return o, had < s.value(DieBackMost)
		},
		func(o Offer, s Sheet) Offer { o.SoundMM = s.value(SideWorst); return o },
	},
	{
		"healed ends", "are the ends healed", func(o Offer) bool { return o.Ends == "" },
		func(o Offer, _ Sheet) (Offer, bool) { had := o.Ends; o.Ends = "healed"; return o, had != "healed" },
		func(o Offer, _ Sheet) Offer { o.Ends = "fresh"; return o },
	},
	{
		"a second node", "", func(Offer) bool { return false },
		func(o Offer, _ Sheet) (Offer, bool) { had := o.Nodes; o.Nodes = 2; return o, had == 1 && o.Node != No },
		func(o Offer, _ Sheet) Offer { return o },
	},
	{
		"the bright half of the year", "", func(Offer) bool { return false },
		func(o Offer, _ Sheet) (Offer, bool) { had := o.Season; o.Season = "bright"; return o, had != "bright" },
		func(o Offer, _ Sheet) Offer { return o },
	},
}

// filled answers what is open: -1 the worst, 0 the usual, 1 the best.
func (o Offer) filled(way int, s Sheet) Offer {
	fill := func(k *Answered, usual Answered) {
		if *k == Unsure {
			*k = map[int]Answered{-1: No, 0: usual, 1: Yes}[way]
		}
	}
	fill(&o.Roots, No)
	fill(&o.Leaf, Yes)
	fill(&o.Aerial, No)
	fill(&o.Bud, No)
	fill(&o.Firm, Yes)
	if o.SoundMM < 0 {
		o.SoundMM = map[int]float64{-1: s.value(SideWorst), 0: s.value(SideUsual), 1: s.value(SideBest)}[way]
	}
	if o.Ends == "" {
		o.Ends = map[int]string{-1: "fresh", 0: "fresh", 1: "healed"}[way]
	}
	if o.Node == Unsure {
		o.Node = map[int]Answered{-1: No, 0: Yes, 1: Yes}[way]
	}
	if o.Nodes < 1 && o.Node == Yes {
		o.Nodes = 1
	}
	return o
}

// kind is what is offered: what was said, else what the group is usually multiplied from.
func (o Offer) kind(g plant.Group) plant.PieceKind {
	switch {
	case o.Kind != "":
		return o.Kind
	case len(g.Kinds) == 0:
		return plant.StemCutting
	}
	for _, k := range g.Kinds {
		if organOf(k) == plant.StemOrgan {
			return k
		}
	}
	return g.Kinds[0]
}

// organOf is the organ whose pieces are of a kind.
func organOf(k plant.PieceKind) plant.Organ {
	for _, r := range plant.OrganRules() {
		if r.Kind == k {
			return r.Organ
		}
	}
	return plant.StemOrgan
}

func (o Offer) chance(g plant.Group, dark bool, s Sheet) float64 { return o.piece(g, dark, s).Chance }

// piece weighs the offered piece as the planner would. Healed ends dry back no further.
func (o Offer) piece(g plant.Group, dark bool, s Sheet) Piece {
	b := Bench{Group: g, Dark: dark, Conditions: o.Conditions, Sheet: s}
	if o.Node == No {
		return b.piece(1, 0, 0, 0, Limits{})
	}
	side := o.SoundMM
	if o.Ends == "healed" {
		side = max(side, s.value(DieBack))
	}
	b.Stem = plant.Stem{Organ: organOf(o.Kind), ThicknessMM: 8, BeyondMM: side}
	if b.Stem.Organ == plant.LeafOrgan {
		b.Stem.Form = plant.WholeLeaf
		if g.PullsLeaf {
			b.Stem.Form = plant.PulledLeaf
		}
	}
	for i := range o.Nodes {
		n := plant.Node{BelowMM: 40, Bud: plant.BudDormant, Stripe: o.Stripe, Rooted: o.Roots == Yes}
		if i == 0 {
			n.BelowMM = side
			n.Aerial = o.Aerial == Yes
			if o.Bud == Yes {
				n.Bud = plant.BudSwelling
			}
		}
		n.Leaf = o.Leaf == Yes && i == o.Nodes-1
		b.Stem.Nodes = append(b.Stem.Nodes, n)
	}
	p := b.piece(1, o.Nodes, 0, b.Stem.LengthMM(), Limits{})
	if o.Firm == No {
		n := s.At(SoftOdds.Key)
		p.Effects = append(p.Effects, Effect{n.Key, n.Label, n.Value, n.Basis, 0})
		p.Chance = onOdds(p.Chance, p.Effects[len(p.Effects)-1:])
	}
	return p
}
