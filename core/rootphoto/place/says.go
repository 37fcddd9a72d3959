package place

import "fmt"

// surfaces say where roots are taken to lie.
var surfaces = map[Shape]string{
	Board:    "Roots are taken to lie on the board.",
	FlatWall: "Roots are taken to lie against the front wall.",
	RoundCup: "Roots are taken to lie against the near wall of the cup, and are measured along it.",
	RoundJar: "Roots are taken to lie on the plane through the middle of the jar that faces you: what glass and water bend is taken out. What runs toward you or away is longer than it looks.",
}

var sources = map[Source]string{
	FromTag:     "Scale: from the tag",
	FromRuler:   "Scale: from two points",
	FromEdges:   "Scale: from the edges of the vessel",
	FromEarlier: "Scale: as in the earlier photo of this view",
}

// Says is what the lengths rest on, in words.
func (s Surface) Says() []string {
	out := []string{fmt.Sprintf("%s, %.4g mm a pixel at the nodes.", sources[s.Source], 1/s.PxMM), surfaces[s.Vessel.Shape]}
	if s.Given.Water != nil && s.standing != nil {
		out = append(out, "Above the line of the water the inside of the jar is taken to be air.")
	}
	if s.Focal35 == 0 {
		out = append(out, fmt.Sprintf("The file does not tell its focal length: %.0f mm is assumed.", s.Camera.Focal35(s.Width, s.Height)))
	}
	return append(out, "Intervals hold the true length nine times in ten, measured on photos of known truth; one view never shows all of a root.")
}
