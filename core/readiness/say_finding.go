package readiness

import (
	"fmt"

	"clearjar/core/life"
	"clearjar/core/plant"
)

// reason puts a finding into words.
func (f Finding) reason(s state) Reason {
	r := Reason{Key: f.Criterion, Standing: f.Standing, Wanted: f.wanted(s), Found: f.found(s), On: f.On}
	if f.Asked.Key != "" {
		r.Basis = &f.Asked.Basis
	}
	return r
}

// wanted says what a criterion asks for.
func (f Finding) wanted(s state) string {
	switch f.Criterion {
	case Longest:
		if f.ForTug {
			return fmt.Sprintf("Anchored: a root of %.0f mm (in water nothing to tug)", f.Want)
		}
		return fmt.Sprintf("Longest root %.0f mm or more", f.Want)
	case Roots:
		return fmt.Sprintf("%s or more of %.0f mm", rootsWanted(f), s.of(life.RootedFrom))
	case SideRoots:
		return "Side roots showing"
	case NodesRooted:
		return fmt.Sprintf("%.0f of %d set nodes rooted", f.Want, s.setNodes())
	case Tug:
		return "A light tug holds"
	case LeafOpen:
		if s.kind.Comes != "shoot" {
			return fmt.Sprintf("First %s with an open leaf", s.kind.Comes)
		}
		return "First new leaf open"
	case Shoot:
		return plant.Upper(s.kind.Comes) + " showing"
	case Body:
		return plant.Upper(s.kind.Body) + " firm, no rot"
	case RootHealth:
		return "Roots firm, of a healthy colour for " + plant.Lower(s.Group.Name)
	}
	return ""
}

func rootsWanted(f Finding) string { return plant.Counted(int(f.Want), "root", "roots") }

// found says what was found of it.
func (f Finding) found(s state) string {
	switch f.Found {
	case NotNoted:
		return "not noted"
	case NoRoot:
		return "no root yet"
	case TugHolds:
		return "it holds"
	case TugGives:
		return "it gives"
	case RootSeen:
		return "a root was seen"
	case TugGaveNow:
		return "held once, gives now: look for rot"
	case BudAsNoted:
		return budSaid(s.kind, plant.Bud(f.Word))
	case ShootThen:
		return "shooting when last seen"
	case BodyAsNoted:
		return f.Word
	case RotLength:
		return fmt.Sprintf("rot for %.0f mm", f.Have)
	case FeelsMushy:
		return "mushy: rot, whatever the colour"
	case NothingAgainst:
		return "nothing noted against it"
	case UsualColour:
		if f.Word == "" {
			return "as expected: usual for the group"
		}
		return f.Word + ": usual for the group"
	case OddButFirm:
		return f.Word + ", but firm"
	case OddColour:
		return f.Word + ": unusual here; only a squeeze decides"
	case OddHarmless:
		return f.Word + ": unusual for the group, no sign of rot"
	}
	switch f.Criterion {
	case Longest:
		return fmt.Sprintf("%.0f mm (%.0f to %.0f mm)", f.Have, f.Low, f.High)
	case SideRoots:
		return fmt.Sprintf("%.0f seen", f.Have)
	}
	return fmt.Sprintf("%.0f", f.Have)
}

// budSaid says a bud in the words of the kind.
func budSaid(k plant.KindRow, b plant.Bud) string {
	if k.Comes != "shoot" {
		return map[plant.Bud]string{
			plant.BudDormant: "no " + k.Comes + " yet", plant.BudSwelling: "a " + k.Comes + " begins", plant.BudShooting: "a " + k.Comes + ", no open leaf yet", plant.BudLeafOpen: k.Comes + " with an open leaf",
		}[b]
	}
	return map[plant.Bud]string{plant.BudDormant: "bud asleep", plant.BudSwelling: "bud swelling", plant.BudShooting: "shoot, no open leaf yet", plant.BudLeafOpen: "leaf open"}[b]
}
