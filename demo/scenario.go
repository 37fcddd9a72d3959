package demo

import (
	"math"
	"time"

	"clearjar/core/plant"
	"clearjar/propagation/door"
)

type mother struct{ code, name, group, from, pattern string }

var mothers = []mother{
	{"MEL", "Philodendron melanochrysum", "velvet_climber", "Swapped for a Hoya at a greenhouse open day; climbs the north-east post", "plain"},
	{"VER", "Philodendron verrucosum", "velvet_climber", "Grown on from a rescued stump", "plain"},
	{"RHA", "Rhaphidophora cryptantha", "thick_climber", "Two shingling strips on a board, from a neighbour's cabinet", "plain"},
	{"AMY", "Amydrium medium", "thick_climber", "Bought as one rooted node", "plain"},
	{"HOY", "Hoya callistophylla", "wax_vine", "Long strand from a friend's attic", "plain"},
	{"CIS", "Cissus discolor", "cissus_kin", "Regrown every spring from its own cuttings", "stable"},
	{"PIN", "Epipremnum pinnatum, cream-patterned", "soft_climber", "The oldest plant here; pattern shifts from stem to stem", "unstable"},
	{"GLO", "Philodendron gloriosum", "creeping_rhizome", "Creeping along a trough under the glass", "plain"},
	{"VIO", "Streptocarpus ionanthus, rimmed violet", "gesneriad", "One leaf in a damp napkin, from the next house", "stable"},
}

type vessel struct {
	name, place string
	plant.Vessel
	care tended
}

// tended is how a vessel was cared for: visits every so many days, the last so many days ago, and what was seen then.
type tended struct {
	every, last int
	acts        []plant.Act
	seen        []plant.Sign
	cover       plant.CoverState
}

var (
	change = []plant.Act{plant.ChangeWater}
	air    = []plant.Act{plant.AirIt}
	glance = []plant.Act{plant.Glance}
	feel   = []plant.Act{plant.FeelMedium}
)

const (
	roof  = "Roof window, north-east"
	upper = "Glass cabinet, upper"
	lower = "Glass cabinet, lower"
)

// printed are the tags that stand beside vessels in the photos.
var printed = map[string]string{"Wide jar": "7Q4K", "Slim jar": "R8TW", "Small moss box": "M2KP"}

var vessels = []vessel{
	{"Wide jar", roof, plant.Vessel{Kind: plant.Jar, WidthMM: 80, DepthMM: 80, HeightMM: 122, WallMM: 2.5, FillMM: 90, Holds: 2}, tended{8, 8, change, nil, ""}},
	{"Slim jar", roof, plant.Vessel{Kind: plant.Jar, WidthMM: 68, DepthMM: 68, HeightMM: 108, WallMM: 2.5, FillMM: 80, Holds: 1}, tended{7, 3, change, nil, ""}},
	{"Preserve jar", roof, plant.Vessel{Kind: plant.Jar, WidthMM: 92, DepthMM: 92, HeightMM: 130, WallMM: 3, FillMM: 78, Holds: 5}, tended{9, 9, change, nil, ""}},
	{"Tumbler", roof, plant.Vessel{Kind: plant.Jar, WidthMM: 72, DepthMM: 72, HeightMM: 98, WallMM: 2, FillMM: 60, Holds: 2}, tended{6, 1, glance, []plant.Sign{plant.Cloudy}, ""}},
	{"Small moss box", upper, plant.Vessel{Kind: plant.LiddedBox, WidthMM: 104, DepthMM: 62, HeightMM: 92, WallMM: 1.2, FillMM: 80, Holds: 2}, tended{7, 2, air, nil, plant.CoverVented}},
	{"Long moss box", upper, plant.Vessel{Kind: plant.LiddedBox, WidthMM: 230, DepthMM: 120, HeightMM: 120, WallMM: 1.5, FillMM: 45, Holds: 6}, tended{7, 7, air, nil, ""}},
	{"Perlite cup", upper, plant.Vessel{Kind: plant.LiddedCup, WidthMM: 95, DepthMM: 95, HeightMM: 110, WallMM: 1, FillMM: 75, Holds: 3}, tended{7, 4, air, nil, ""}},
	{"Rhizome tray", lower, plant.Vessel{Kind: plant.LiddedBox, WidthMM: 260, DepthMM: 140, HeightMM: 110, WallMM: 1.5, FillMM: 45, Holds: 6}, tended{6, 1, glance, []plant.Sign{plant.Condensation}, ""}},
	{"Comparison, moss", lower, plant.Vessel{Kind: plant.LiddedBox, WidthMM: 170, DepthMM: 110, HeightMM: 115, WallMM: 1.2, FillMM: 48, Holds: 4}, tended{7, 3, air, nil, ""}},
	{"Comparison, perlite", lower, plant.Vessel{Kind: plant.LiddedCup, WidthMM: 118, DepthMM: 118, HeightMM: 115, WallMM: 1, FillMM: 72, Holds: 4}, tended{7, 3, air, nil, ""}},
	{"Covered pot", lower, plant.Vessel{Kind: plant.CoveredPot, WidthMM: 95, DepthMM: 95, HeightMM: 88, WallMM: 2, FillMM: 76, Holds: 3}, tended{4, 1, feel, nil, plant.CoverAjar}},
}

// sensors are simulated hygrometers on two of the shelves, and the air there on the whole.
var sensors = []struct {
	name, place    string
	meanC, meanPct float64
}{{"Hygrometer, upper", upper, 23.4, 88}, {"Hygrometer, window", roof, 21.2, 56}}

const (
	sensedDays  = 8
	sensedEvery = 5 * time.Minute
)

// mapping is a stem in short: internodes in mm, base to tip, and which nodes bear what.
type mapping struct {
	mother     string
	internodes []float64
	leaves     []int
	aerial     []int
	awake      []int
	beyond     float64
	thick      float64
	tip        bool
	// strong and none are nodes whose stripe is known; sprang is the node of stem A it grew back from.
	strong, none []int
	sprang       int
}

// lies is what is cut of the mothers that are not cut by their stems.
var lies = map[string]plant.Stem{"GLO": {Organ: plant.Rhizome}, "VIO": {Organ: plant.LeafOrgan, Form: plant.WholeLeaf}}

func (m mapping) stem() plant.Stem {
	s := plant.Stem{BeyondMM: m.beyond, ThicknessMM: m.thick, TipIntact: m.tip}
	if m.sprang > 0 {
		s.Sprang = &plant.Sprang{Letter: "A", Node: m.sprang}
	}
	s.Organ, s.Form = lies[m.mother].Organ, lies[m.mother].Form
	has := func(list []int, n int) bool {
		for _, v := range list {
			if v == n {
				return true
			}
		}
		return false
	}
	for i, mm := range m.internodes {
		bud := plant.BudDormant
		if has(m.awake, i+1) {
			bud = plant.BudSwelling
		}
		stripe := plant.Stripe("")
		switch {
		case has(m.strong, i+1):
			stripe = plant.StripeStrong
		case has(m.none, i+1):
			stripe = plant.StripeNone
		}
		s.Nodes = append(s.Nodes, plant.Node{BelowMM: mm, Stripe: stripe, Leaf: has(m.leaves, i+1), Aerial: has(m.aerial, i+1), Bud: bud})
	}
	return s
}

var stems = []mapping{
	{"PIN", []float64{30, 34, 32, 30, 34, 31, 27, 33, 30}, []int{1, 2, 4, 6, 7, 8, 9}, []int{3, 5, 7}, nil, 26, 9, true, nil, nil, 0},
	{"AMY", []float64{40, 38, 42, 40, 26, 30, 28}, []int{1, 2, 4, 6, 7}, []int{3, 5}, []int{5}, 30, 8, true, nil, nil, 0},
	{"CIS", []float64{28, 30, 32, 30, 30, 28, 30, 26, 24, 20}, []int{1, 2, 4, 5, 6, 7, 8, 9, 10}, nil, []int{4}, 14, 4, true, nil, nil, 0},
	{"VER", []float64{42, 40, 44, 40, 42, 38, 36}, []int{1, 2, 4, 6, 7}, []int{3, 4}, nil, 30, 9, true, nil, nil, 0},
	{"RHA", []float64{24, 26, 26, 28, 29, 26, 26, 24, 25}, []int{1, 2, 3, 5, 7, 9}, []int{2, 4, 5, 6, 7, 8}, []int{6, 7}, 20, 8, false, nil, nil, 0},
	{"HOY", []float64{45, 50, 48, 52, 46, 50, 44}, []int{1, 2, 3, 5, 7}, nil, nil, 20, 5, true, nil, nil, 0},
	{"GLO", []float64{28, 30, 30, 32, 30, 30}, []int{1, 3, 5}, []int{2, 4, 5}, []int{4}, 16, 14, false, nil, nil, 0},
	{"MEL", []float64{50, 46, 44, 46, 42, 44, 42, 44, 42, 44, 40, 42, 40, 40}, []int{1, 2, 4, 6, 8, 10, 12, 14}, []int{3, 5, 7, 9, 11, 13}, nil, 24, 10, false, nil, nil, 0},
	{"MEL", []float64{55, 48, 46, 44, 42, 46, 44, 40, 38}, []int{2, 4, 6, 7, 8, 9}, []int{3, 5, 6, 8}, []int{6}, 34, 11, true, nil, nil, 0},
	{"CIS", []float64{26, 28, 30, 30, 28, 26}, []int{1, 2, 3, 4, 5, 6}, nil, nil, 16, 4, true, nil, nil, 0},
	{"PIN", []float64{34, 30, 32, 33, 30, 31, 28}, []int{2, 3, 4, 5, 6, 7}, []int{3, 6}, []int{4}, 30, 9, true, []int{2, 3, 4}, []int{5, 6, 7}, 2},
	{"HOY", []float64{48, 52, 50, 46, 50}, []int{1, 3, 4, 5}, nil, nil, 24, 5, true, nil, nil, 1},
	{"CIS", []float64{28, 27, 30, 29, 30, 27}, []int{1, 2, 3, 4, 5, 6}, nil, nil, 14, 4, false, nil, nil, 0},
	{"VIO", []float64{25}, nil, nil, nil, 48, 3, false, nil, nil, 0},
}

// life is what happened to one piece: how its roots grew, when it was looked at, what came of it.
type life struct {
	vessel   string
	school   plant.SchoolKey
	setNodes int
	looks    []int
	// first roots came on day emerges and grew rate mm a day; count roots in the end.
	emerges, rate float64
	count         int
	colour        plant.RootColour
	final         func(l *plant.Look)
	photo         string
	photoDays     []int
	// young are the plants that were parted from it so many days ago; the first was potted so many days ago.
	young       []door.PartedPlant
	youngAgo    int
	youngPotted int
	pottedAgo   int
	potAt       string
	ended       string
	endedAgo    int
}

func (p life) last(l *plant.Look) {
	if p.final != nil {
		p.final(l)
	}
}

// grown is the look on a day: roots come one after another, slow down as they lengthen, and branch when long.
func (p life) grown(day, set int) plant.Look {
	const longest = 120.0
	l := plant.Look{RootsCounted: true, Roots: []plant.Root{}, Stem: "firm", Leaf: "fresh"}
	colour := p.colour
	if colour == "" {
		colour = plant.White
	}
	for i := range p.count {
		days := float64(day) - p.emerges - 2.5*float64(i)
		if days <= 0 {
			continue
		}
		mm := math.Round(longest*(1-math.Exp(-p.rate*days/longest))*10*(1-0.07*float64(i))) / 10
		if mm < 1 {
			continue
		}
		node := i%max(1, set) + 1
		typed := func(order int, mm float64) plant.Root {
			return plant.Root{Node: node, Order: order, LengthMM: mm, LowMM: math.Max(0, mm-2), HighMM: mm + 2, Colour: colour, How: "typed"}
		}
		l.Roots = append(l.Roots, typed(1, mm))
		for s := 0; s < int((mm-26)/10); s++ {
			l.Roots = append(l.Roots, typed(2, 4+2*float64(s)))
		}
	}
	return l
}

// mappedAgo is how many days ago the stems were mapped: before the first was cut.
const mappedAgo = 50

// watered is how many days ago a mother was last watered.
var watered = map[string]int{"MEL": 1, "PIN": 0, "VER": 5, "HOY": 2, "RHA": 9}

type cut struct {
	stem    string
	daysAgo int
	// after lists the nodes after which the knife goes, lowest first.
	after  []int
	pieces []life
}

func buds(states ...plant.Bud) []plant.BudAt {
	var out []plant.BudAt
	for i, s := range states {
		out = append(out, plant.BudAt{Node: i + 1, Bud: s})
	}
	return out
}

var cuts = []cut{
	{"CIS-B", 42, []int{2, 4}, []life{
		{vessel: "Preserve jar", looks: []int{6, 12}, emerges: 5, rate: 1.5, count: 4, pottedAgo: 28, potAt: lower, ended: "established", endedAgo: 3},
		{vessel: "Tumbler", looks: []int{6, 12}, count: 0, final: func(l *plant.Look) { l.Stem, l.RotMM = "soft", 40 }, ended: "lost", endedAgo: 28},
	}},
	{"PIN-A", 40, []int{3, 5, 7}, []life{
		{vessel: "Preserve jar", looks: []int{7, 14, 20, 27}, emerges: 6, rate: 1.6, count: 4, pottedAgo: 6, potAt: roof},
		{
			vessel: "Wide jar", school: plant.FullRoots, photo: "demo_aroid", photoDays: []int{8, 15, 24, 38},
			final: func(l *plant.Look) {
				l.RootFeel, l.Water, l.Crowding, l.Buds = "firm", "clear", "free", buds(plant.BudSwelling, plant.BudDormant)
			},
		},
		{vessel: "Wide jar", looks: []int{8, 15, 24, 31, 38}, emerges: 9, rate: 1.05, count: 3, school: plant.FullRoots},
	}},
	{"AMY-A", 48, []int{4, 6}, []life{
		{
			vessel: "Slim jar", school: plant.FullRoots, photo: "demo_orange", photoDays: []int{12, 21, 33, 47},
			final: func(l *plant.Look) {
				l.RootFeel, l.Crowding, l.Water = "firm", "coiling", "clear"
				l.Note = "Roots have turned orange; hard when squeezed"
			},
		},
		{vessel: "Tumbler", setNodes: 1, looks: []int{14, 24, 34, 43}, emerges: 21, rate: 0.95, count: 2, school: plant.FullRoots},
	}},
	{"VER-A", 26, []int{3, 5}, []life{
		{vessel: "Tumbler", looks: []int{9, 16, 24}, emerges: 12, rate: 0.6, count: 1, final: func(l *plant.Look) {
			l.Stem, l.RotMM, l.RootFeel, l.Water, l.Leaf = "soft", 26, "mushy", "cloudy", "yellowing"
			l.Note = "Base brown and soft up to below the second node"
		}},
		{vessel: "Long moss box", looks: []int{10, 17, 24}, emerges: 14, rate: 0.9, count: 2, colour: plant.Cream},
	}},
	{"RHA-A", 46, []int{3, 5, 7}, []life{
		{
			vessel: "Small moss box", school: plant.FirstLeaf, photo: "demo_moss", photoDays: []int{10, 17, 31, 45}, setNodes: 1,
			final: func(l *plant.Look) { l.Tug, l.Water, l.RootFeel = "holds", "moist", "firm" },
		},
		{vessel: "Long moss box", school: plant.FirstLeaf, looks: []int{12, 20, 29, 37, 44}, emerges: 13, rate: 1.2, count: 4, colour: plant.Cream, final: func(l *plant.Look) {
			l.Tug, l.Buds = "holds", buds(plant.BudLeafOpen, plant.BudSwelling)
		}},
		{vessel: "Long moss box", looks: []int{12, 20, 29, 37, 43}, emerges: 22, rate: 0.7, count: 2, colour: plant.Cream, final: func(l *plant.Look) {
			l.Tug, l.Buds = "gives", buds(plant.BudSwelling, plant.BudDormant)
		}},
	}},
	{"HOY-A", 33, []int{2, 4, 6}, []life{
		{vessel: "Perlite cup", looks: []int{14, 26}, emerges: 16, rate: 0.9, count: 2},
		{vessel: "Perlite cup", looks: []int{14, 28}, emerges: 15, rate: 1.3, count: 3},
		{vessel: "Preserve jar", setNodes: 1, looks: []int{11}, emerges: 15, rate: 0.8, count: 2},
	}},
	{"CIS-A", 20, []int{4, 6, 8}, []life{
		{vessel: "Preserve jar", looks: []int{5, 9, 13, 17}, emerges: 5, rate: 1.3, count: 4, final: func(l *plant.Look) { l.Water = "clear" }},
		{vessel: "Preserve jar", looks: []int{5, 9, 13, 18}, emerges: 10, rate: 0.7, count: 1},
		{vessel: "Covered pot", looks: []int{12}, count: 0, final: func(l *plant.Look) {
			l.RootsCounted, l.Tug, l.Buds = false, "holds", buds(plant.BudSwelling, plant.BudDormant)
		}, school: plant.FirstLeaf},
	}},
	{"CIS-C", 19, []int{2, 4}, []life{
		{vessel: "Preserve jar", looks: []int{6, 11, 17}, emerges: 5, rate: 1.25, count: 3},
		{vessel: "Preserve jar", looks: []int{6, 11, 17}, emerges: 5, rate: 1.4, count: 3, final: func(l *plant.Look) { l.Water = "clear" }},
	}},
	{"VIO-L1", 49, []int{0}, []life{
		{vessel: "Covered pot", setNodes: 1, looks: []int{43}, final: func(l *plant.Look) {
			l.RootsCounted, l.Leaf, l.Plantlets = false, "", []plant.YoungAt{{Node: 1, Count: 4}}
		}, young: []door.PartedPlant{
			{Node: 1, Leaves: 4, Rooted: true, Roots: []float64{16, 12}, Pattern: plant.CameKept}, {Node: 1, Leaves: 3, Rooted: true, Roots: []float64{11}, Pattern: plant.CameLost},
		}, youngAgo: 5, youngPotted: 4},
	}},
	{"GLO-A", 44, []int{2, 4}, []life{
		{vessel: "Rhizome tray", looks: []int{21, 32, 40}, emerges: 26, rate: 0.8, count: 3, colour: plant.White, final: func(l *plant.Look) {
			l.Tug, l.Buds = "holds", buds(plant.BudSwelling, plant.BudShooting)
		}},
		{vessel: "Rhizome tray", looks: []int{20, 28}, count: 0, final: func(l *plant.Look) { l.Stem = "" }},
	}},
	{"MEL-A", 38, []int{2, 4, 6, 8, 10, 12}, []life{
		{vessel: "Comparison, moss", looks: []int{12, 20, 28, 35}, emerges: 17, rate: 0.9, count: 3, colour: plant.Cream, final: func(l *plant.Look) { l.Tug, l.Buds = "gives", buds(plant.BudSwelling) }},
		{vessel: "Comparison, perlite", looks: []int{14, 28, 35}, emerges: 22, rate: 0.8, count: 2, final: func(l *plant.Look) { l.Tug, l.Buds = "gives", buds(plant.BudDormant) }},
		{vessel: "Comparison, moss", looks: []int{12, 20, 28, 35}, emerges: 15, rate: 1.1, count: 3, colour: plant.Cream, final: func(l *plant.Look) { l.Tug, l.Buds = "holds", buds(plant.BudShooting) }},
		{vessel: "Comparison, perlite", looks: []int{14, 28, 35}, emerges: 24, rate: 0.9, count: 2, final: func(l *plant.Look) { l.Tug, l.Buds = "gives", buds(plant.BudSwelling) }},
		{vessel: "Comparison, moss", looks: []int{12, 20, 28, 35}, count: 0, final: func(l *plant.Look) { l.Tug, l.Buds, l.Leaf = "gives", buds(plant.BudDormant), "yellowing" }},
		{vessel: "Comparison, perlite", looks: []int{14, 28, 35}, emerges: 19, rate: 1, count: 3, final: func(l *plant.Look) { l.Tug, l.Buds = "holds", buds(plant.BudSwelling) }},
	}},
}
