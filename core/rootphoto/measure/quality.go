package measure

import (
	"fmt"
	"math"

	"clearjar/core/rootphoto"
	"clearjar/core/rootphoto/ridge"
	"clearjar/core/rootphoto/scene"
)

// Quality is how good a photo is around the roots.
type Quality struct {
	// Blur is about how wide its sharpest edges are smeared, mm.
	Blur float64 `json:"blur_mm"`
	// Light is the lightness that half of its pixels reach, 0 to 100.
	Light float64 `json:"light"`
	// Glare is the share of it that is white without any drawing.
	Glare float64 `json:"glare"`
}

// QualityOf looks at a scene.
func QualityOf(s *scene.Scene) Quality {
	q := Quality{Light: float64(quantileOf(s.L, 0.5))}
	white := 0
	for _, v := range s.L.Pix {
		if v > 99 {
			white++
		}
	}
	q.Glare = float64(white) / float64(len(s.L.Pix))
	// A step smeared by a Gaussian of sigma rises at most by its height / (sigma sqrt(2 pi)) a pixel: the ratio of the
	// strong local ranges to the steepest rises there tells sigma.
	const reach = 6
	best := []float64{}
	for y := reach; y < s.L.H-reach; y += 5 {
		row := s.L.Row(y)
		for x := reach; x < s.L.W-reach; x += 5 {
			low, high, steep := row[x-reach], row[x-reach], float32(0)
			for k := -reach + 1; k <= reach; k++ {
				v := row[x+k]
				low, high = min(low, v), max(high, v)
				steep = max(steep, float32(math.Abs(float64(v-row[x+k-1]))))
			}
			if high-low > 25 && steep > 0 {
				best = append(best, float64(high-low)/float64(steep)/math.Sqrt(2*math.Pi))
			}
		}
	}
	if len(best) > 20 {
		p := ridge.New(len(best), 1)
		for i, v := range best {
			p.Pix[i] = float32(v)
		}
		q.Blur = float64(quantileOf(p, 0.1)) / s.PxMM
	}
	return q
}

// Warnings say what stands in the way, and what to do.
func (s *Seen) Warnings() []string {
	out := []string{}
	if len(s.Tags) == 0 {
		out = append(out, "No tag was read: the photo does not say whose it is. Put the tag flat beside the vessel, wholly in the picture.")
	}
	for i, t := range s.Tags {
		for _, other := range s.Tags[:i] {
			if other.Payload == t.Payload {
				out = append(out, "The tag "+t.Payload+" is in the photo twice: the first gives the scale. Cover the other, and take the photo again.")
			}
		}
	}
	if s.Guide == nil {
		return out
	}
	n := s.Asked.Numbers
	switch {
	case s.Quality.Blur > n.Of(rootphoto.PhotoBlur):
		out = append(out, "The photo is blurred: hold the phone still and tap on the roots to focus.")
	case s.Quality.Light < n.Of(rootphoto.PhotoDark):
		out = append(out, "The photo is dark: turn the vessel to the window, or add a lamp from the side.")
	}
	if s.Quality.Glare > n.Of(rootphoto.PhotoGlare) {
		out = append(out, "Glare lies over the picture: move the lamp or turn a little, until the glass reflects nothing bright.")
	}
	if s.Surface != nil {
		if mm, misfits := s.Surface.LooksWide(); misfits {
			out = append(out, fmt.Sprintf("The jar is recorded as %.0f mm wide and looks about %.0f mm by the tag: check its measures, its edges in the photo, and how wide the tag is printed.", s.Asked.Vessel.OuterMM, mm))
		}
	}
	if !s.Scale.FocalKnown {
		out = append(out, fmt.Sprintf("The file does not tell its focal length: %.0f mm is assumed, as most phones have.", n.Of(rootphoto.PhotoFocal)))
	}
	return out
}

// Water says what the water looks like: clear or cloudy; empty where it cannot be told.
func (s *Seen) Water() string {
	switch {
	case s.Guide == nil || !s.behind.Water || s.Guide.Mine < 2:
		return ""
	case s.Cloudy():
		return "cloudy"
	}
	return "clear"
}

// Count is about how many roots of the stem there are, hidden ones with them.
func (s *Seen) Count() float64 {
	if s.Guide == nil {
		return 0
	}
	return s.tables.Small.Count.Of(NearStem(s.tables.Find, s.Candidates()))
}
