package potting

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"clearjar/core/number"
	"clearjar/core/plant"
)

// Numbers of several plants in a pot.
var (
	LikeWithLike = number.Define(plant.Number{Key: "potting.like_with_like", Label: "Longest root in a pot, against the shortest, at most", Value: 1.4, Low: 1, High: 10, Unit: "times", Basis: plant.Assumed("growers say like with like; the size is ours")})
	MostInPot    = number.Define(plant.Number{Key: "potting.most_in_pot", Label: "Plants in one pot at most", Value: 5, Low: 1, High: 30, Unit: "plants", Basis: plant.Assumed("five in a 150 mm basket; bunches of ten and more are a wish of their own")})
	PotOfThree   = number.Define(plant.Number{Key: "potting.pot_of_three", Label: "Pot for two or three plants", Value: 100, Low: 40, High: 500, Unit: "mm", Basis: plant.Practice})
	PotOfFive    = number.Define(plant.Number{Key: "potting.pot_of_five", Label: "Pot or basket for four or five plants", Value: 150, Low: 50, High: 500, Unit: "mm", Basis: plant.Practice})
	FromRim      = number.Define(plant.Number{Key: "potting.from_rim", Label: "A stem stands from the rim at least", Value: 14, Low: 2, High: 60, Unit: "mm", Basis: plant.Assumed("room to firm the mix with a finger")})
	Settling     = number.Define(plant.Number{Key: "potting.settling", Label: "Loose mix settles by", Value: 0.12, Low: 0, High: 0.5, Unit: "fraction", Basis: plant.Assumed("bark and perlite; measure yours")})
	StemsApart   = number.Define(plant.Number{Key: "potting.stems_apart", Label: "Two stems stand apart at least", Value: 14, Low: 2, High: 100, Unit: "mm", Basis: plant.Assumed("room to firm the mix between them with a finger")})
)

// Piece is one rooted plant that is to be potted.
type Piece struct {
	Name string
	// Group and Kind say what it is; LongestMM how long its longest root is, 0 when unknown.
	Group     plant.Group
	Kind      plant.PieceKind
	LongestMM float64
	// From is the medium it rooted in, empty when it came with roots.
	From plant.Medium
	// NodeMM is where its nodes sit above its base, SetNodes how many of them were in the medium, LengthMM how far its stem goes;
	// empty when nobody knows.
	NodeMM   []float64
	SetNodes int
	LengthMM float64
	// Now is the pot it stands in already; nil for a first pot.
	Now *Pot
}

// pose is how it stands.
func (p Piece) pose() plant.Pose { return p.Kind.Row().Pose }

// like is what plants have in common that may share a pot.
func (p Piece) like() string {
	return strings.Join([]string{p.Group.Key, p.Group.Mix, string(p.Group.Keeping), string(p.pose()), fmt.Sprint(p.LongestMM > 0), fmt.Sprint(p.Now != nil)}, " ")
}

// Set is the plants of one pot, and what the grower decided of it: nil and empty for as proposed.
type Set struct {
	Pieces []Piece
	Pot    *Pot
	// Mix is the key of a mix.
	Mix string
}

// Stand is where a plant stands in a pot, seen from above: mm from the middle; its shoot points to Degrees, counted from the right
// against the clock.
type Stand struct {
	XMM     float64 `json:"x_mm" minimum:"-500" maximum:"500"`
	YMM     float64 `json:"y_mm" minimum:"-500" maximum:"500"`
	Degrees float64 `json:"degrees" minimum:"-360" maximum:"360"`
	// BuryMM is how deep below the surface of the mix its base comes to stand; 0 for what is not set upright.
	BuryMM float64 `json:"bury_mm" minimum:"0" maximum:"500"`
	// Stake: it stands so high above the mix that it wants a stake or a soft tie.
	Stake bool `json:"stake"`
}

// Spot is where one plant stands in a pot.
type Spot struct {
	Name string `json:"name"`
	Stand
}

// Potful is one pot with the plants in it.
type Potful struct {
	Pot    Pot    `json:"pot"`
	Places []Spot `json:"places"`
	// ApartMM is how near two stems stand, 0 for one alone; RimMM how near the rim.
	ApartMM float64 `json:"apart_mm"`
	RimMM   float64 `json:"rim_mm"`
	// Spread is how many times as long as the shortest the longest root is, 1 for one alone.
	Spread float64 `json:"spread"`
	// Mix is the key of its mix, MixML what goes in once it has settled.
	Mix   string  `json:"mix"`
	MixML float64 `json:"mix_ml"`
	Says  string  `json:"says"`
	// Reasons say why this pot, How how it is done; Cautions what speaks against it.
	Reasons  []string `json:"reasons"`
	How      string   `json:"how"`
	Cautions []string `json:"cautions"`
	// Alone says why the one plant in it stays apart from the others; empty when it does not.
	Alone string `json:"alone,omitempty"`
	// MovesOn: what is in it stood in a pot before.
	MovesOn bool `json:"moves_on"`
}

// Potfuls is a proposal of who goes with whom, and what it takes.
type Potfuls struct {
	Pots []Potful `json:"pots"`
	// Mixes are the ingredients for all pots of one mix, loose, so that they settle to what fits.
	Mixes []Mixture `json:"mixes"`
	Says  string    `json:"says"`
	// Rests are the numbers it rests on.
	Rests []plant.Number `json:"rests_on"`
}

// Mixture is one mix for several pots.
type Mixture struct {
	Key   string  `json:"key"`
	Label string  `json:"label"`
	Why   string  `json:"why"`
	ML    float64 `json:"ml"`
	Parts []Part  `json:"parts"`
}

// mostPieces bounds how many are laid out at once.
const mostPieces = 500

// check refuses plants without a name of their own, or with impossible roots.
func check(sets []Set) error {
	names, n := map[string]bool{}, 0
	for _, s := range sets {
		for _, p := range s.Pieces {
			at := fmt.Sprintf("plants[%d]", n)
			n++
			if p.Name == "" || names[p.Name] {
				return plant.Refuse(at+".name", "each plant needs a name of its own")
			}
			names[p.Name] = true
			if math.IsNaN(p.LongestMM) || p.LongestMM < 0 || p.LongestMM > plant.MostRootMM {
				return plant.Refuse(at+".longest_mm", "between 0 and %g mm", plant.MostRootMM)
			}
		}
	}
	if n == 0 || n > mostPieces {
		return plant.Refuse("plants", "between 1 and %d plants", mostPieces)
	}
	return nil
}

// Together proposes who goes with whom: only plants of one group and kind, which need the same water and the same mix; in each pot the
// longest root at most so many times the shortest; as few pots as that allows, and among those the least spread. Plants whose roots
// nobody measured stand with each other.
func Together(t number.Table, pieces []Piece) (Potfuls, error) {
	if err := check([]Set{{Pieces: pieces}}); err != nil {
		return Potfuls{}, err
	}
	kinds := map[string][]Piece{}
	keys := []string{}
	for _, p := range pieces {
		key := p.like()
		if kinds[key] == nil {
			keys = append(keys, key)
		}
		kinds[key] = append(kinds[key], p)
	}
	sets := []Set{}
	for _, key := range keys {
		for _, together := range grouped(t, kinds[key]) {
			sets = append(sets, Set{Pieces: together})
		}
	}
	// The fullest first, as they are filled.
	slices.SortStableFunc(sets, func(a, b Set) int { return len(b.Pieces) - len(a.Pieces) })
	return Arranged(t, sets)
}

// Arranged lays out plants that were shared out among pots already, by the grower or by [Together]; what speaks against it is told.
func Arranged(t number.Table, sets []Set) (Potfuls, error) {
	if err := check(sets); err != nil {
		return Potfuls{}, err
	}
	out, all := Potfuls{Pots: []Potful{}, Mixes: []Mixture{}, Rests: rests(t)}, []Piece{}
	for _, s := range sets {
		all = append(all, s.Pieces...)
	}
	worst := 1.0
	for i, s := range sets {
		if len(s.Pieces) == 0 {
			return Potfuls{}, plant.Refuse(fmt.Sprintf("pots[%d]", i), "a pot with nobody in it")
		}
		p, err := potful(t, s)
		if err != nil {
			return Potfuls{}, err
		}
		if len(s.Pieces) == 1 {
			p.Alone = alone(s.Pieces[0], all)
		}
		worst = math.Max(worst, p.Spread)
		out.Pots = append(out.Pots, p)
	}
	out.mix(t)
	out.Says = fmt.Sprintf("%s, %s.", plant.Upper(plant.Counted(len(all), "plant", "plants")), plant.Counted(len(out.Pots), "pot", "pots"))
	switch {
	case len(out.Pots) == len(all):
	case worst > t.Of(LikeWithLike)+1e-9:
		out.Says += fmt.Sprintf(" In one pot the longest root is %.1f times the shortest.", worst)
	default:
		out.Says += fmt.Sprintf(" Like roots together: in each pot the longest is at most %.1f times the shortest.", worst)
	}
	return out, nil
}

// alone says why a plant stays apart from the others, by what it has least in common with those it is most like; empty when there are no
// others.
func alone(p Piece, all []Piece) string {
	why, nearest := "", -1
	for _, o := range all {
		if o.Name == p.Name {
			continue
		}
		near, says := 0, "other water need"
		switch {
		case p.Kind.Row().Single:
			near, says = 5, "a division has a pot of its own"
		case o.like() == p.like():
			near, says = 4, "its roots are much longer or shorter"
		case o.Group.Key == p.Group.Key && (o.LongestMM > 0) != (p.LongestMM > 0):
			near, says = 3, "nobody measured its roots, or theirs"
		case o.Group.Key == p.Group.Key:
			near, says = 2, "another kind of piece"
		case o.Group.Keeping == p.Group.Keeping && o.Group.Mix == p.Group.Mix:
			near, says = 1, "another growth group"
		case o.Group.Keeping == p.Group.Keeping:
			says = "another mix"
		}
		if near > nearest {
			why, nearest = says, near
		}
	}
	if why == "" {
		return ""
	}
	return fmt.Sprintf("%s stays apart: %s.", p.Name, why)
}

// most is how many of a kind may stand in a pot: a division has one of its own.
func most(t number.Table, p Piece) int {
	if p.Kind.Row().Single {
		return 1
	}
	return max(1, t.Int(MostInPot))
}

// grouped parts like plants into pots: sorted by their roots, pots hold neighbours. Fewest pots first, then the least sum of spreads.
func grouped(t number.Table, all []Piece) [][]Piece {
	sorted := slices.Clone(all)
	slices.SortFunc(sorted, func(a, b Piece) int {
		switch {
		case a.LongestMM != b.LongestMM:
			return map[bool]int{true: -1, false: 1}[a.LongestMM < b.LongestMM]
		default:
			return strings.Compare(a.Name, b.Name)
		}
	})
	type best struct {
		pots   int
		spread float64
		from   int
	}
	n := len(sorted)
	upTo := make([]best, n+1)
	for i := 1; i <= n; i++ {
		upTo[i] = best{pots: n + 1}
		for from := i - 1; from >= 0 && i-from <= most(t, sorted[i-1]); from-- {
			s := spread(sorted[from:i])
			if s > t.Of(LikeWithLike) {
				break
			}
			b := best{upTo[from].pots + 1, upTo[from].spread + math.Log(s), from}
			if b.pots < upTo[i].pots || b.pots == upTo[i].pots && b.spread < upTo[i].spread-1e-12 {
				upTo[i] = b
			}
		}
	}
	out := [][]Piece{}
	for i := n; i > 0; i = upTo[i].from {
		out = append(out, sorted[upTo[i].from:i])
	}
	slices.Reverse(out)
	return out
}

// spread is how many times as long as the shortest the longest root is; 1 where none was measured.
func spread(all []Piece) float64 {
	low, high := math.Inf(1), 0.0
	for _, p := range all {
		low, high = math.Min(low, p.LongestMM), math.Max(high, p.LongestMM)
	}
	if low <= 0 {
		return 1
	}
	return high / low
}

// longest is the longest root of some plants, 0 when none was measured.
func longest(all []Piece) float64 {
	return slices.MaxFunc(all, func(a, b Piece) int { return cmp.Compare(a.LongestMM, b.LongestMM) }).LongestMM
}

// potFor is the pot some plants go into: by the roots of the longest, by how many they are, by the pot they stand in.
func potFor(t number.Table, together []Piece) (Pot, Advice, error) {
	a, err := Suggest(t, together[0].Group, together[0].Kind, longest(together))
	if err != nil {
		return Pot{}, a, err
	}
	pot, step := a.Pot, t.Of(PotStep)
	width := pot.TopMM
	switch n := len(together); {
	case n > 5: // so that each has as much room as five have
		width = t.Of(PotOfFive) * math.Sqrt(float64(n)/5)
	case n > 3:
		width = t.Of(PotOfFive)
	case n > 1:
		width = math.Max(width, t.Of(PotOfThree))
	}
	width, depth := math.Max(pot.TopMM, math.Ceil(width/step)*step), pot.DepthMM
	if before := widest(together); before != nil {
		var why string
		if width, depth, why = movedOn(t, *before, longest(together)); why != "" {
			a.Reasons = append([]string{why}, a.Reasons[1:]...)
			a.Warning = ""
		}
		pot.Material, pot.Closed = before.Material, before.Closed
	} else if width > pot.TopMM {
		depth = math.Max(depth, math.Min(width, t.Of(DeepestPot)))
	}
	for _, p := range together {
		depth = math.Max(depth, math.Ceil((t.Of(RimGap)+t.Of(BottomLayer)+p.leastBury())/step)*step)
	}
	width, depth = math.Min(500, width), math.Min(500, depth)
	return Pot{TopMM: width, BottomMM: math.Max(10, width*t.Of(BottomRatio)), DepthMM: depth, Material: pot.Material, Closed: pot.Closed}, a, nil
}

// potful chooses the pot of some plants and their places in it.
func potful(t number.Table, s Set) (Potful, error) {
	together := slices.Clone(s.Pieces)
	slices.SortStableFunc(together, func(a, b Piece) int { return cmp.Compare(a.LongestMM, b.LongestMM) })
	pot, a, err := potFor(t, together)
	if err != nil {
		return Potful{}, err
	}
	key := together[0].Group.Mix
	if s.Mix != "" {
		if _, known := MixNamed(t, s.Mix); !known {
			return Potful{}, plant.Refuse("mix", "%q is not a mix", s.Mix)
		}
		key = s.Mix
	}
	p := Potful{Pot: pot, Spread: spread(together), Mix: key, Reasons: a.Reasons, How: a.How, Cautions: []string{}, MovesOn: widest(together) != nil, Places: []Spot{}}
	if s.Pot != nil {
		if err := s.Pot.Check(); err != nil {
			return Potful{}, err
		}
		p.Pot = *s.Pot
	}
	for _, g := range together {
		if g.Group.Lift != "" {
			p.How = g.Group.Lift + " " + p.How
			break
		}
	}
	if a.Warning != "" {
		p.Cautions = append(p.Cautions, a.Warning)
	}
	p.MixML = p.Pot.MixML(t)
	p.place(t, together)
	p.Cautions = append(p.Cautions, p.against(t, together, pot)...)
	p.Says = p.says(len(together))
	return p, nil
}

// place gives each plant its place, apart from the others and from the rim.
func (p *Potful) place(t number.Table, together []Piece) {
	radius := math.Max(1, p.Pot.TopMM/2-t.Of(FromRim))
	at := places(len(together), radius)
	for i := range at { // a tenth of a mm is finer than any hand
		at[i][0], at[i][1] = math.Round(10*at[i][0])/10, math.Round(10*at[i][1])/10
	}
	p.RimMM = p.Pot.TopMM / 2
	for i, q := range at {
		degrees := math.Round(math.Atan2(q[1], q[0]) * 180 / math.Pi)
		if q[0] == 0 && q[1] == 0 {
			degrees = 90
		}
		bury := together[i].bury(p.Pot.DepthMM - t.Of(RimGap) - t.Of(BottomLayer))
		p.Places = append(p.Places, Spot{
			together[i].Name,
			Stand{XMM: q[0], YMM: q[1], Degrees: degrees, BuryMM: math.Round(bury), Stake: bury > 0 && together[i].LengthMM-bury > t.Of(StakeFrom)*bury},
		})
		p.RimMM = math.Min(p.RimMM, p.Pot.TopMM/2-math.Hypot(q[0], q[1]))
		for _, o := range at[:i] {
			if d := math.Hypot(q[0]-o[0], q[1]-o[1]); p.ApartMM == 0 || d < p.ApartMM {
				p.ApartMM = d
			}
		}
	}
	// The biggest leans to the middle, where it has the room.
	if last := len(p.Places) - 1; last > 1 {
		p.Places[last].Degrees = math.Mod(p.Places[last].Degrees+180, 360)
	}
}

// against is what speaks against these plants in this pot; proposed is the pot that would have been taken.
func (p Potful) against(t number.Table, together []Piece, proposed Pot) []string {
	out := []string{}
	if p.Spread > t.Of(LikeWithLike)+1e-9 {
		out = append(out, fmt.Sprintf("The longest root is %.1f times the shortest: what the long ones drink leaves the short ones wet.", p.Spread))
	}
	first := together[0]
	unlike := func(says string, same func(Piece) bool) {
		for _, o := range together {
			if !same(o) {
				out = append(out, fmt.Sprintf(says, first.Name, o.Name))
				return
			}
		}
	}
	switch {
	case slices.ContainsFunc(together, func(o Piece) bool { return o.Group.Keeping != first.Group.Keeping }):
		unlike("%s and %s have other water needs: one is kept dry, one damp.", func(o Piece) bool { return o.Group.Keeping == first.Group.Keeping })
	case slices.ContainsFunc(together, func(o Piece) bool { return o.Group.Mix != first.Group.Mix }):
		unlike("%s and %s want another mix each.", func(o Piece) bool { return o.Group.Mix == first.Group.Mix })
	default:
		unlike("%s and %s are of two growth groups, and grow at their own pace.", func(o Piece) bool { return o.Group.Key == first.Group.Key })
	}
	crowns := 0
	for _, o := range together {
		if o.Kind.Row().Single {
			crowns++
		}
	}
	if crowns > 2 {
		out = append(out, "Of divisions one or two stems a pot, by its inner width.")
	}
	if p.ApartMM > 0 && p.ApartMM < t.Of(StemsApart)-1e-9 {
		out = append(out, fmt.Sprintf("Two stems stand %.0f mm apart: take a wider pot, or fewer plants.", p.ApartMM))
	}
	out = append(out, p.tooWide(t, together, proposed)...)
	room := p.Pot.DepthMM - t.Of(RimGap) - t.Of(BottomLayer)
	for _, o := range together {
		if need := o.leastBury(); need > room+1e-9 {
			out = append(out, fmt.Sprintf("Too shallow for %s: its set nodes want %.0f mm of mix, and there are %.0f mm.", o.Name, need, math.Max(0, room)))
			break
		}
	}
	return append(out, p.Pot.cautions(t, first.Group.Keeping, first.From)...)
}

func (p Potful) says(n int) string {
	switch {
	case n == 1:
		return "In the middle."
	case n == 5:
		return fmt.Sprintf("Three outside, two inside, shoots apart; %.0f mm apart, %.0f mm from the rim.", p.ApartMM, p.RimMM)
	}
	return fmt.Sprintf("Shoots apart; %.0f mm apart, %.0f mm from the rim.", p.ApartMM, p.RimMM)
}

// mix adds up the mixes of all pots, as loose as they are filled in.
func (out *Potfuls) mix(t number.Table) {
	at := map[string]int{}
	for _, p := range out.Pots {
		i, known := at[p.Mix]
		if !known {
			i = len(out.Mixes)
			at[p.Mix] = i
			row, _ := MixNamed(t, p.Mix)
			out.Mixes = append(out.Mixes, Mixture{Key: row.Key, Label: row.Label, Why: row.Why})
		}
		out.Mixes[i].ML += p.MixML / (1 - t.Of(Settling))
	}
	for i := range out.Mixes {
		row, _ := MixNamed(t, out.Mixes[i].Key)
		out.Mixes[i].Parts = row.Of(out.Mixes[i].ML)
	}
}
