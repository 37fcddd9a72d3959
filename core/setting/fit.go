// Package setting works out how pieces stand in a vessel together: how high the water stands and how much of it is
// poured in, which petioles it must not reach, and how many pieces there is room for.
//
// In: the vessel in mm and the pieces with the heights of their nodes above their bases in mm. Out: mm, ml, sentences.
// Method: each piece stands on the floor of the vessel; water covers the nodes that were chosen and stays below the
// lowest leaf; what is poured in is what the vessel holds to that height less what the stems displace.
package setting

import (
	"fmt"
	"math"

	"clearjar/core/number"
	"clearjar/core/plant"
	"clearjar/core/solution"
)

// Piece is one piece as it is to stand.
type Piece struct {
	Code string
	// Under says by what its depth goes; Pose how it stands or lies.
	Under plant.DepthKey
	Pose  plant.Pose
	// NodesMM are the heights of its nodes above its base, the lowest first. Set is how many of them go in.
	NodesMM []float64
	Set     int
	// LeavesMM are the heights of the nodes that keep a leaf.
	LeavesMM    []float64
	LengthMM    float64
	ThicknessMM float64
}

func mm(key, label string, value float64, why string) plant.Number {
	return number.Define(plant.Number{Key: "setting." + key, Label: label, Value: value, Low: 0, High: 300, Unit: "mm", Basis: plant.Assumed(why)})
}

var (
	overNode  = mm("over_node", "Water above the highest set node", 5, "so that it stays under as the water sinks")
	underLeaf = mm("under_leaf", "Water below the lowest petiole, at least", 4, "a wet petiole rots")
	stalkDeep = mm("stalk_deep", "Stalk of a leaf under water", 20, "only the stalk, the blade above it")
	apart     = mm("apart", "Pieces that root stand apart", 45, "about 20 soft cuttings to a bottle 220 mm wide")
	fromWall  = mm("from_wall", "And from the wall", 10, "so that roots are seen and not crushed")
	belowRim  = mm("below_rim", "Water below the rim, at least", 5, "so that it can be carried")
)

// fifth of a leaf or a thick stem is what stands in water at most.
const fifth = 0.2

// Numbers lists them for the screen.
func Numbers() []plant.Number {
	return []plant.Number{overNode, underLeaf, stalkDeep, apart, fromWall, belowRim}
}

// Fit is how pieces stand in a vessel.
type Fit struct {
	// Room is for how many there is room at the usual distance; it counts to 20 in round vessels.
	Room int `json:"room"`
	// Water is left out where roots do not hang in the medium.
	Water *Water `json:"water,omitempty"`
	// Trouble is what would go wrong, a sentence each.
	Trouble []string `json:"trouble"`
}

// Water is how high it stands above the floor inside, with all pieces in it.
type Water struct {
	// LeastMM covers every node that was chosen; MostMM still clears every petiole and the rim. Where MostMM is less,
	// the pieces cannot stand in one water on the floor.
	LeastMM float64 `json:"least_mm"`
	MostMM  float64 `json:"most_mm"`
	// LevelMM is where it is to stand: as it stands now where that is between the two, else the nearer of them.
	LevelMM float64 `json:"level_mm"`
	// ML is what is poured in for that level; RiseMM by how much the stems lift it.
	ML     float64 `json:"ml"`
	RiseMM float64 `json:"rise_mm"`
	Says   string  `json:"says"`
	Pieces []Level `json:"pieces"`
}

// Level is one piece in the water.
type Level struct {
	Code string `json:"code"`
	// UnderMM is how much of it is to be under water; ClearMM how high above its base the lowest petiole comes, 0
	// without any leaf.
	UnderMM float64 `json:"under_mm"`
	ClearMM float64 `json:"clear_mm"`
}

// depths is how much of a piece is under water, by what its depth goes by.
var depths = map[plant.DepthKey]func(p Piece, t number.Table) float64{
	plant.ByNodes: func(p Piece, t number.Table) float64 {
		if len(p.NodesMM) == 0 {
			return 0
		}
		return p.NodesMM[max(1, min(p.Set, len(p.NodesMM)))-1] + t.Of(overNode)
	},
	plant.ByFifth:   func(p Piece, _ number.Table) float64 { return fifth * p.LengthMM },
	plant.ByStalk:   func(p Piece, t number.Table) float64 { return math.Min(t.Of(stalkDeep), p.LengthMM/2) },
	plant.OnSurface: func(Piece, number.Table) float64 { return 0 },
}

// In says how pieces stand in a vessel.
func In(v plant.Vessel, pieces []Piece, t number.Table) Fit {
	out := Fit{Room: room(v, pieces, t), Trouble: []string{}}
	if len(pieces) > out.Room {
		out.Trouble = append(out.Trouble, fmt.Sprintf("There is room for %d at %.0f mm from each other: they are %d.", out.Room, t.Of(apart), len(pieces)))
	}
	if v.Medium.Row().Liquid && len(pieces) > 0 {
		out.water(v, pieces, t)
	}
	return out
}

func (f *Fit) water(v plant.Vessel, pieces []Piece, t number.Table) {
	w := &Water{MostMM: v.HeightMM - t.Of(belowRim), Pieces: []Level{}}
	lowest, highest := "", ""
	for _, p := range pieces {
		l := Level{Code: p.Code, UnderMM: math.Round(depths[p.Under](p, t))}
		for _, mm := range p.LeavesMM {
			if l.ClearMM == 0 || mm < l.ClearMM {
				l.ClearMM = mm
			}
		}
		if l.UnderMM > w.LeastMM {
			w.LeastMM, highest = l.UnderMM, p.Code
		}
		if clear := l.ClearMM - t.Of(underLeaf); l.ClearMM > 0 && p.Under == plant.ByNodes && clear < w.MostMM {
			w.MostMM, lowest = math.Floor(clear), p.Code
		}
		w.Pieces = append(w.Pieces, l)
	}
	w.LevelMM = math.Max(w.LeastMM, math.Min(v.FillMM, w.MostMM))
	sort, _ := v.Kind.Sort()
	area := v.WidthMM * v.DepthMM
	if sort.Round {
		area = math.Pi / 4 * v.WidthMM * v.WidthMM
	}
	under := 0.0
	for _, p := range pieces {
		if depths[p.Under](p, t) > 0 {
			under += math.Pi / 4 * p.ThicknessMM * p.ThicknessMM * math.Min(w.LevelMM, p.LengthMM)
		}
	}
	w.ML, w.RiseMM = math.Max(0, (area*w.LevelMM*meanShare(sort, v, w.LevelMM)-under)/1000), under/area
	f.Water = w
	switch {
	case w.LeastMM > v.HeightMM-t.Of(belowRim):
		f.Trouble = append(f.Trouble, fmt.Sprintf("%s wants %.0f mm of water, and the vessel is %.0f mm high: a taller one, or fewer nodes.", highest, w.LeastMM, v.HeightMM))
	case w.LeastMM > w.MostMM && lowest == highest:
		f.Trouble = append(f.Trouble, fmt.Sprintf("%s: its lowest petiole comes at %.0f mm, under the water its nodes want: set fewer nodes, or take that leaf off.", lowest, w.MostMM+t.Of(underLeaf)))
	case w.LeastMM > w.MostMM:
		f.Trouble = append(f.Trouble, fmt.Sprintf("The water that covers the nodes of %s reaches a petiole of %s: hang that one higher, or use two vessels.", highest, lowest))
	}
	w.Says = fmt.Sprintf("Pour %.0f ml: with the stems in it the water stands %.0f mm high.", w.ML, w.LevelMM)
	if w.MostMM >= w.LeastMM {
		w.Says += fmt.Sprintf(" Keep it from %.0f to %.0f mm: every chosen node under, every petiole and blade above.", w.LeastMM, w.MostMM)
	}
}

// meanShare is the mean cross-section up to a level as a share of that at the rim, for vessels that narrow downwards.
func meanShare(sort plant.VesselSort, v plant.Vessel, level float64) float64 {
	if sort.Taper <= 0 || sort.Taper == 1 || level <= 0 {
		return 1
	}
	c := solution.Container{Square: !sort.Round, TopMM: 1000, BottomMM: 1000 * sort.Taper, HeightMM: v.HeightMM}
	ml, err := c.VolumeML(level)
	if err != nil {
		return 1
	}
	straight := 1e6 * level / 1000
	if sort.Round {
		straight *= math.Pi / 4
	}
	return ml / straight
}

// room is for how many pieces there is room: circles in a circle, or rows of what lies or stands in a box.
func room(v plant.Vessel, pieces []Piece, t number.Table) int {
	gap, margin := t.Of(apart), t.Of(fromWall)
	sort, _ := v.Kind.Sort()
	long := gap
	for _, p := range pieces {
		if p.Pose.Lies() {
			long = math.Max(long, p.LengthMM+margin)
		}
	}
	if sort.Round && long == gap {
		n, err := solution.StemsIn(v.WidthMM, gap, math.Min(margin, v.WidthMM/2-0.1))
		if err != nil {
			return 1
		}
		return max(1, n)
	}
	depth := v.DepthMM
	if sort.Round {
		depth = v.WidthMM
	}
	along := func(length, each float64) int { return max(1, int((length-2*margin)/each)+1) }
	if long > gap {
		return max(1, int(v.WidthMM/long)) * max(1, along(depth, gap))
	}
	return along(v.WidthMM, gap) * along(depth, gap)
}
