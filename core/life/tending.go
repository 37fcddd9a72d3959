package life

import (
	"time"

	"clearjar/core/plant"
)

// RootsSince is when it was first known to have the roots it has: those it came with, or those seen since and not cut
// away. ok is false while nobody knows of any.
func (l Life) RootsSince() (since time.Time, ok bool) {
	if l.OwnRoots() {
		return l.CutOn, true
	}
	left := l
	left.Looks = l.LooksLeft()
	r := left.Rooting()
	return r.On, r.Rooted
}

// ShootSince is when a shoot was first seen on it. ok is false while none was.
func (l Life) ShootSince() (since time.Time, ok bool) {
	for _, look := range l.LooksLeft() {
		for _, b := range look.Look.Buds {
			if b.Bud == plant.BudShooting || b.Bud == plant.BudLeafOpen {
				return look.On, true
			}
		}
	}
	return time.Time{}, false
}

// DroopsSince is when its leaves were last noted as drooping or dropped. ok is false when they were noted otherwise since.
func (l Life) DroopsSince() (since time.Time, ok bool) {
	for _, look := range l.LooksLeft() {
		switch look.Look.Leaf {
		case "":
		case "drooping", "dropped":
			since, ok = look.On, true
		default:
			since, ok = time.Time{}, false
		}
	}
	return since, ok
}
