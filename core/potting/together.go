package potting

import (
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
)

// Piece is one rooted plant that is to be potted.
type Piece struct {
	Name string
	// Group and Kind say what it is; LongestMM how long its longest root is, 0 when unknown.
	Group     plant.Group
	Kind      plant.PieceKind
	LongestMM float64
}

// Place is where a plant stands in a pot, seen from above: mm from the middle; its shoot points to Degrees, counted from the right
// against the clock.
type Place struct {
	Name    string  `json:"name"`
	XMM     float64 `json:"x_mm"`
	YMM     float64 `json:"y_mm"`
	Degrees float64 `json:"degrees"`
}

// Potful is one pot with the plants in it.
type Potful struct {
	Pot    Pot     `json:"pot"`
	Places []Place `json:"places"`
	// ApartMM is how near two stems stand, 0 for one alone; RimMM how near the rim.
	ApartMM float64 `json:"apart_mm"`
	RimMM   float64 `json:"rim_mm"`
	// Spread is how many times as long as the shortest the longest root is, 1 for one alone.
	Spread float64 `json:"spread"`
	MixML  float64 `json:"mix_ml"`
	Says   string  `json:"says"`
	// Reasons say why this pot, How how it is done; Warning what speaks against it.
	Reasons []string `json:"reasons"`
	How     string   `json:"how"`
	Warning string   `json:"warning,omitempty"`
	mix     string
}

// Potfuls is a proposal of who goes with whom, and what it takes.
type Potfuls struct {
	Pots []Potful `json:"pots"`
	// Mixes are the ingredients for all pots of one mix, loose, so that they settle to what fits.
	Mixes []Mixture `json:"mixes"`
	Says  string    `json:"says"`
}

// Mixture is one mix for several pots.
type Mixture struct {
	Key   string  `json:"key"`
	Why   string  `json:"why"`
	ML    float64 `json:"ml"`
	Parts []Part  `json:"parts"`
}

// mostPieces bounds how many are laid out at once.
const mostPieces = 500

// Together proposes who goes with whom: only plants of one group and kind, which need the same water and the same mix; in each pot the
// longest root at most so many times the shortest; as few pots as that allows, and among those the least spread. Plants whose roots
// nobody measured stand with each other.
func Together(t number.Table, pieces []Piece) (Potfuls, error) {
	if len(pieces) == 0 || len(pieces) > mostPieces {
		return Potfuls{}, plant.Refuse("plants", "between 1 and %d plants", mostPieces)
	}
	names := map[string]bool{}
	kinds := map[string][]Piece{}
	keys := []string{}
	for i, p := range pieces {
		at := fmt.Sprintf("plants[%d]", i)
		if p.Name == "" || names[p.Name] {
			return Potfuls{}, plant.Refuse(at+".name", "each plant needs a name of its own")
		}
		names[p.Name] = true
		if math.IsNaN(p.LongestMM) || p.LongestMM < 0 || p.LongestMM > plant.MostRootMM {
			return Potfuls{}, plant.Refuse(at+".longest_mm", "between 0 and %g mm", plant.MostRootMM)
		}
		key := strings.Join([]string{p.Group.Key, p.Group.Mix, string(p.Group.Keeping), string(p.Kind.Row().Pose), fmt.Sprint(p.LongestMM > 0)}, " ")
		if kinds[key] == nil {
			keys = append(keys, key)
		}
		kinds[key] = append(kinds[key], p)
	}
	out := Potfuls{Pots: []Potful{}, Mixes: []Mixture{}}
	for _, key := range keys {
		for _, together := range grouped(t, kinds[key]) {
			p, err := potful(t, together)
			if err != nil {
				return Potfuls{}, err
			}
			out.Pots = append(out.Pots, p)
		}
	}
	out.mix(t)
	worst := 1.0
	for _, p := range out.Pots {
		worst = math.Max(worst, p.Spread)
	}
	out.Says = fmt.Sprintf("%s, %s. Like roots together: in each pot the longest is at most %.1f times the shortest.", plant.Upper(plant.Counted(len(pieces), "plant", "plants")), plant.Counted(len(out.Pots), "pot", "pots"), worst)
	return out, nil
}

// most is how many of a kind may stand in a pot: a division has one of its own.
func most(t number.Table, p Piece) int {
	if p.Kind.Row().Pose == plant.Crown {
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

// potful chooses the pot of some plants and their places in it.
func potful(t number.Table, together []Piece) (Potful, error) {
	longest := 0.0
	for _, p := range together {
		longest = math.Max(longest, p.LongestMM)
	}
	a, err := Suggest(t, together[0].Group, together[0].Kind, longest)
	if err != nil {
		return Potful{}, err
	}
	pot := a.Pot
	width := pot.TopMM
	switch n := len(together); {
	case n > 5: // so that each has as much room as five have
		width = t.Of(PotOfFive) * math.Sqrt(float64(n)/5)
	case n > 3:
		width = t.Of(PotOfFive)
	case n > 1:
		width = t.Of(PotOfThree)
	}
	if width > pot.TopMM {
		step := t.Of(PotStep)
		width = math.Min(500, math.Ceil(width/step)*step)
		pot = Pot{TopMM: width, BottomMM: width * t.Of(BottomRatio), DepthMM: math.Max(pot.DepthMM, math.Min(width, t.Of(DeepestPot)))}
	}
	p := Potful{Pot: pot, Spread: spread(together), MixML: pot.MixML(t), mix: together[0].Group.Mix, Reasons: a.Reasons, How: a.How, Warning: a.Warning}
	radius := math.Max(1, pot.TopMM/2-t.Of(FromRim))
	at := places(len(together), radius)
	for i := range at { // a tenth of a mm is finer than any hand
		at[i][0], at[i][1] = math.Round(10*at[i][0])/10, math.Round(10*at[i][1])/10
	}
	p.RimMM = pot.TopMM / 2
	for i, q := range at {
		degrees := math.Round(math.Atan2(q[1], q[0]) * 180 / math.Pi)
		if q[0] == 0 && q[1] == 0 {
			degrees = 90
		}
		p.Places = append(p.Places, Place{Name: together[i].Name, XMM: q[0], YMM: q[1], Degrees: degrees})
		p.RimMM = math.Min(p.RimMM, pot.TopMM/2-math.Hypot(q[0], q[1]))
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
	p.Says = p.says(len(together))
	return p, nil
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
		i, known := at[p.mix]
		if !known {
			i = len(out.Mixes)
			at[p.mix] = i
			row := mixNamed(p.mix)
			out.Mixes = append(out.Mixes, Mixture{Key: row.Key, Why: row.Why, Parts: slices.Clone(row.Parts)})
		}
		out.Mixes[i].ML += p.MixML / (1 - t.Of(Settling))
	}
	for i := range out.Mixes {
		m := &out.Mixes[i]
		total := 0.0
		for _, p := range m.Parts {
			total += p.Parts
		}
		for k := range m.Parts {
			m.Parts[k].ML = m.ML * m.Parts[k].Parts / total
		}
	}
}
