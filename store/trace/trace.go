// Package trace keeps the traced lines of a look apart from what was seen: they are
// most of its bytes, and only the photo's own page reads them.
package trace

import "clearjar/core/plant"

// Lines holds one line a root, in the order of the look's roots; empty for a typed length.
type Lines [][]plant.Point

// Split takes the lines off a look.
func Split(l plant.Look) (plant.Look, Lines) {
	lines := make(Lines, len(l.Roots))
	roots := make([]plant.Root, len(l.Roots))
	for i, r := range l.Roots {
		lines[i], r.Path = r.Path, nil
		roots[i] = r
	}
	l.Roots = roots
	return l, lines
}

// Join puts the lines back onto a look.
func Join(l plant.Look, lines Lines) plant.Look {
	for i := range l.Roots {
		if i < len(lines) {
			l.Roots[i].Path = lines[i]
		}
	}
	return l
}
