// Package exam measures photos whose truth is known, and says how far what was measured is off.
//
// In: photos with truth (see the package truth). Out: the figures of the measurement, each beside what it must be. Lengths
// in mm and pixels of the photo; errors are relative.
package exam

import (
	"fmt"
	"image"
	"math"
	"regexp"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/likely"
	"clearjar/core/rootphoto/scene"
	"clearjar/core/rootphoto/truth"
)

// Case is a photo with its truth.
type Case struct {
	Truth *truth.Photo
	// Picture is upright.
	Picture image.Image
	// Focal35 is the focal length the file tells, as on 35 mm film; 0 when it does not.
	Focal35 float64
}

// Nodes are where the nodes of the piece are seen, from its base up.
func (c Case) Nodes() []plant.Point {
	out := []plant.Point{}
	for _, n := range c.Truth.Nodes {
		out = append(out, plant.Point{X: n.Apparent[0], Y: n.Apparent[1]})
	}
	return out
}

// PixelsPerMM is how large a mm is at the nodes.
func (c Case) PixelsPerMM() float64 {
	sum := 0.0
	for _, n := range c.Truth.Nodes {
		sum += c.Truth.Camera.PixelsPerMM(n.Point)
	}
	return sum / float64(len(c.Truth.Nodes))
}

// backgrounds are what the types of vessels of truth files show behind the roots.
var backgrounds = map[string]likely.Background{
	"jar": {Water: true}, "moss_box": {Moss: true}, "perlite_cup": {Grains: true}, "bare": {},
}

// Behind is what the roots are seen against.
func (c Case) Behind() likely.Background { return backgrounds[c.Truth.Vessel.Type] }

// Class is the class of colour that healthy roots of the plant have: that of most of its roots that are sound. A piece
// without roots is expected to grow white ones.
func (c Case) Class() plant.RootColour {
	count, best := map[plant.RootColour]int{}, plant.White
	for _, r := range c.Truth.Roots {
		class := classOf(r.Colour)
		if class == plant.Brown {
			continue
		}
		count[class]++
		if count[class] > count[best] {
			best = class
		}
	}
	return best
}

// rotten is what truth files call the colour of rotten roots.
const rotten = "brown_rotten"

// classOf is the class of a colour of a truth file.
func classOf(colour string) plant.RootColour {
	if colour == rotten {
		return plant.Brown
	}
	return plant.RootColour(colour)
}

var day = regexp.MustCompile(`_day\d+$`)

// Series is what photos of one piece over time have in common.
func (c Case) Series() string { return day.ReplaceAllString(c.Truth.Name, "") }

// Example is the photo as something to learn from.
func (c Case) Example() (likely.Example, error) {
	s, err := scene.Around(c.Picture, c.Nodes(), nil, c.PixelsPerMM())
	if err != nil {
		return likely.Example{}, fmt.Errorf("%s: %w", c.Truth.Name, err)
	}
	e := likely.Example{Name: c.Truth.Name, Series: c.Series(), Scene: s, Behind: c.Behind(), Class: string(c.Class())}
	for _, r := range c.Truth.Roots {
		width := r.MeanMM * s.PxMM
		for _, stretch := range r.Seen() {
			e.Roots = append(e.Roots, likely.Drawn{Line: into(s, stretch), WidthPX: width, Seen: true, Colour: string(classOf(r.Colour))})
		}
		line, _ := r.Apparent()
		e.Roots = append(e.Roots, likely.Drawn{Line: into(s, line), WidthPX: width, Colour: string(classOf(r.Colour))})
	}
	return e, nil
}

func into(s *scene.Scene, line []plant.Point) []plant.Point {
	out := make([]plant.Point, len(line))
	for i, p := range line {
		out[i] = s.In(p)
	}
	return out
}

func distance(a, b plant.Point) float64 { return math.Hypot(a.X-b.X, a.Y-b.Y) }
