package cutplan

import (
	"cmp"
	"fmt"
	"slices"

	"clearjar/core/plant"
)

// weigh works out the chance of a piece: at least one set node wakes, and it does not rot first.
func (b Bench) weigh(p *Piece, hasTip bool) {
	if b.Organ() == plant.LeafOrgan && !b.Group.Gives(plant.LeafPiece) {
		p.Refused = fmt.Sprintf("%s do not regrow from a leaf: there is no bud on it.", b.Group.Name)
		return
	}
	if b.rule().Bare && !b.Group.BackShoots {
		p.Refused = fmt.Sprintf("%s do not shoot from bare rhizome: there is no growing point on it.", b.Group.Name)
		return
	}
	b.rot(p, hasTip)
	if _, parted := withoutRoots[b.Organ()]; parted {
		b.weighDivision(p)
		return
	}
	start := b.Sheet.At(BaselineKey(b.Group.Key, b.medium()))
	p.Start, p.Baseline = &start, start.Value
	common := b.commonEffects(p, hasTip)
	asleep := 1.0
	woken := []wokenNode{}
	for n := p.First; n < p.First+p.Set; n++ {
		own := b.nodeEffects(p, n, hasTip)
		chance := 0.0
		if !b.Skip[n] {
			chance = onOdds(onOdds(start.Value, common), own)
		}
		p.NodeChances = append(p.NodeChances, chance)
		p.Effects = append(p.Effects, own...)
		asleep *= 1 - chance
		woken = append(woken, wokenNode{chance, b.worth(n)})
	}
	p.Effects = append(common, p.Effects...)
	p.Chance = (1 - asleep) * (1 - p.Rot)
	p.Worth = expectedWorth(woken) * (1 - p.Rot)
}

// withoutRoots is the chance of what is parted without roots of its own, by the organ, and what is said of it.
var withoutRoots = map[plant.Organ]struct {
	chance plant.Number
	warn   string
}{
	plant.Clump:     {DivisionNoRoots, "No roots of its own yet: a half come through."},
	plant.Pups:      {PupNoRoots, "No roots of its own yet: set it deep and keep it wet."},
	plant.BareOrgan: {BareShoots, ""},
}

// weighDivision: a division roots or it does not, however many growing points it has.
func (b Bench) weighDivision(p *Piece) {
	start := b.Sheet.At(withoutRoots[b.Organ()].chance.Key)
	if b.rooted(p) && b.rule().Crowned {
		start = b.Sheet.At(DivisionRooted.Key)
	}
	best := 0.0
	for n := p.First; n <= p.Last; n++ {
		if !b.Skip[n] {
			best = max(best, b.worth(n))
		}
	}
	p.Start, p.Baseline = &start, start.Value
	p.NodeChances = []float64{start.Value}
	p.Chance = start.Value * (1 - p.Rot)
	if b.rooted(p) && b.rule().Crowned {
		p.Chance = start.Value // it grows on as it stood
		p.Rot, p.RotStart, p.RotEffects = 0, nil, nil
	}
	p.Worth = best * p.Chance
}

// effects collects odds ratios.
type effects struct {
	sheet Sheet
	list  []Effect
}

func (e *effects) add(when bool, n plant.Number, label string, node int) {
	if !when {
		return
	}
	n = e.sheet.At(n.Key)
	if label == "" {
		label = n.Label
	}
	e.list = append(e.list, Effect{n.Key, label, n.Value, n.Basis, node})
}

// commonEffects hold for every set node of the piece.
func (b Bench) commonEffects(p *Piece, hasTip bool) []Effect {
	e := effects{sheet: b.Sheet, list: []Effect{}}
	organ, medium := b.Organ(), b.medium()
	stem := organ == plant.StemOrgan
	e.add((stem || organ == plant.Rhizome) && p.leavesKept() == 0, LeaflessOdds, "", 0)
	e.add(len(p.Halve) > 0, HalvedOdds, "", 0)
	e.add(hasTip && stem, TipOdds, "", 0)
	e.add(stem && b.Stem.Wood == plant.HalfRipe, HalfRipeOdds, "", 0)
	e.add(stem && b.Stem.Wood == plant.Woody, WoodyOdds, "", 0)
	e.add(stem && b.Stem.ThicknessMM >= b.Sheet.value(FatFrom), ThickOdds, fmt.Sprintf("Very thick stem, %.0f mm", b.Stem.ThicknessMM), 0)
	e.add(b.IsDark(), DarkOdds, "", 0)
	e.add(b.Hormone && b.slow(), HormoneSlow, "", 0)
	e.add(b.Hormone && !b.slow(), HormoneEasy, "", 0)
	e.add(b.Cover == Open && !medium.Row().Liquid, OpenOdds, fmt.Sprintf("No cover over the %s", medium), 0)
	e.add(!b.rule().Crowned && !b.rule().Bare && b.Group.OnlyDivides(), DivideOnlyOdds, fmt.Sprintf("%s only divide: this piece has no growing point and roots of its own", b.Group.Name), 0)
	e.add(stem && !b.givesStems() && !b.Group.OnlyDivides(), UnusualOdds, fmt.Sprintf("%s are not usually multiplied from stem pieces", b.Group.Name), 0)
	if organ == plant.LeafOrgan {
		b.leafEffects(&e)
	}
	return e.list
}

func (b Bench) leafEffects(e *effects) {
	e.add(b.Stem.Form == plant.PulledLeaf, PulledOdds, "", 0)
	e.add(b.Group.PullsLeaf && b.Stem.Form != plant.PulledLeaf, CutNotPulled, "", 0)
	e.add(b.Stem.Form == plant.HalfLeaf || b.Stem.Form == plant.HalfAcross, HalfLeafOdds, "", 0)
	e.add(b.Stem.Form == plant.LeafWedge, WedgeOdds, "", 0)
	e.add(b.Stem.Form == plant.LeafSection, SectionOdds, "", 0)
	e.add(b.Stem.Form == plant.HeelLeaf, HeelOdds, "", 0)
}

// nodeEffects hold for one set node.
func (b Bench) nodeEffects(p *Piece, n int, hasTip bool) []Effect {
	e := effects{sheet: b.Sheet}
	node, dieBack := b.Stem.Nodes[n-1], b.Sheet.value(DieBack)
	e.add(node.Aerial, AerialOdds, fmt.Sprintf("Aerial root on node %d", n), n)
	e.add(node.Bud != plant.BudDormant && node.Bud != "", AwakeOdds, fmt.Sprintf("Bud awake on node %d", n), n)
	if b.endsMatter() {
		e.add(n == p.First && p.BelowMM < b.soundBelow(), ShortOdds, fmt.Sprintf("Sound stem below node %d: %.0f mm, dies back about %.0f mm", n, p.BelowMM, dieBack), n)
		e.add(n == p.Last && p.AboveMM < dieBack && !hasTip, ShortOdds, fmt.Sprintf("Sound stem above node %d: %.0f mm, dies back about %.0f mm", n, p.AboveMM, dieBack), n)
	}
	return e.list
}

// rot works out the chance that a piece rots before it roots.
func (b Bench) rot(p *Piece, hasTip bool) {
	start := b.Sheet.Now(b.medium().Row().Rots)
	e := effects{sheet: b.Sheet, list: []Effect{}}
	stem := b.Organ() == plant.StemOrgan
	e.add(!hasTip && b.along(), RotFace, "", 0)
	e.add(stem && p.leavesKept() == 0 && !hasTip, RotBare, "", 0)
	e.add(stem && b.Stem.ThicknessMM >= b.Sheet.value(FatFrom), RotFat, "", 0)
	e.add(stem && p.BelowMM > b.Sheet.value(LongStub), RotStub, fmt.Sprintf("Long bare stub, %.0f mm", p.BelowMM), 0)
	e.add(b.SetWet && b.mustDry(), RotUncured, "", 0)
	e.add(b.Cover == Covered && b.Group.RotsClosed, RotClosed, "", 0)
	p.RotStart, p.RotEffects, p.Rot = &start, e.list, onOdds(start.Value, e.list)
}

func (b Bench) slow() bool { return b.Group.FirstRootsDays.Mid >= b.Sheet.value(SlowFrom) }

func (b Bench) givesStems() bool {
	for _, k := range []plant.PieceKind{plant.Tip, plant.StemCutting, plant.LeafBud, plant.WetStick, plant.Head, plant.Pair, plant.Strand} {
		if b.Group.Gives(k) {
			return true
		}
	}
	return false
}

// onOdds applies odds ratios to a chance p of 0 to 1: o = p / (1 - p) times each ratio, and back, o / (1 + o). A chance
// of 0 or 1 stays what it is.
func onOdds(chance float64, list []Effect) float64 {
	if chance <= 0 || chance >= 1 || len(list) == 0 {
		return chance
	}
	odds := chance / (1 - chance)
	for _, e := range list {
		odds *= e.Odds
	}
	return odds / (1 + odds)
}

// worth is what a plant from this node is worth.
func (b Bench) worth(n int) float64 {
	stripe := b.Stem.Nodes[n-1].Stripe
	if b.Organ() == plant.LeafOrgan && stripe != "" {
		stripe = plant.StripeNone // a leaf piece of a patterned plant comes plain
	}
	switch stripe {
	case plant.StripeNone:
		return b.Sheet.value(WorthNone)
	case plant.StripeStrong:
		return b.Sheet.value(WorthStrong)
	}
	return b.Sheet.value(WorthSome)
}

type wokenNode struct{ chance, worth float64 }

// expectedWorth is the mean worth of the best node that wakes; nothing wakes, nothing is worth. With the nodes from
// the worthiest down: sum over i of worth_i p_i times the product over j < i of (1 - p_j).
func expectedWorth(nodes []wokenNode) float64 {
	nodes = slices.Clone(nodes)
	slices.SortStableFunc(nodes, func(a, b wokenNode) int { return cmp.Compare(b.worth, a.worth) })
	sum, asleep := 0.0, 1.0
	for _, n := range nodes {
		sum += asleep * n.chance * n.worth
		asleep *= 1 - n.chance
	}
	return sum
}
