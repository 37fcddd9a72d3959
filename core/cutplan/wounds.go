package cutplan

import (
	"fmt"

	"clearjar/core/plant"
)

// Wound is what to do with the cut faces of a piece before it is set.
type Wound struct {
	// CallusHours is how long the face dries: middle, least, most. Zero for straight in.
	CallusHours plant.Span `json:"callus_hours"`
	// Dust says that a dry dusting is used against rot.
	Dust bool `json:"dust"`
	// Hormone says no, optional or useful; PPM its strength when it is used.
	Hormone    string      `json:"hormone" enum:"no,optional,useful"`
	HormonePPM plant.Span  `json:"hormone_ppm"`
	HormoneBy  plant.Basis `json:"hormone_basis"`
	// Enlarge says how to open a shy rooter's wound further; empty for not needed.
	Enlarge string      `json:"enlarge,omitempty"`
	Basis   plant.Basis `json:"basis"`
}

var auxin = plant.FromPrint("Hartmann & Kester, Plant Propagation: 500-3000 ppm auxin for soft tropical cuttings, more for woody")

// mustDry tells whether the group's cut faces must dry before they are set.
func (b Bench) mustDry() bool { return b.callus().Low >= 1 }

// callus is how long the cut faces of a piece dry. Fat wounds and very wet media take up to two days.
func (b Bench) callus() plant.Span {
	s := b.rule().CallusHours
	if b.Organ() == plant.LeafOrgan {
		if form, ok := b.Stem.Form.Rule(); ok {
			s = form.CallusHours
		}
		if !b.Group.Succulent || b.Stem.Form == plant.PulledLeaf {
			return plant.Span{}
		}
	}
	if own := b.Group.CallusHours; own.Mid > s.Mid {
		s = own
	}
	fat := b.Stem.ThicknessMM >= b.Sheet.value(FatFrom)
	if s.Mid > 0 && fat && b.Organ() == plant.StemOrgan {
		s = plant.Span{Mid: 24, Low: s.Low, High: 48}
	}
	return s
}

// WoundsOf says what to do with the wounds of one piece of this bench.
func (b Bench) WoundsOf(p Piece) Wound {
	w := Wound{CallusHours: b.callus(), Basis: plant.Practice, Hormone: "optional", HormonePPM: plant.Span{Mid: 1000, Low: 500, High: 3000}, HormoneBy: auxin}
	if b.SetWet {
		w.CallusHours = plant.Span{}
	}
	w.Dust = p.leavesKept() == 0 && b.Organ() == plant.StemOrgan && !b.medium().Row().Liquid
	switch {
	case b.rule().Crowned && b.rooted(&p), b.rule().Bare, b.Organ() == plant.TuberBody, b.Organ() == plant.LeafOrgan && b.Group.Succulent:
		w.Hormone, w.HormonePPM, w.HormoneBy = "no", plant.Span{}, plant.Practice
	case b.slow():
		w.Hormone = "useful"
	}
	if b.Stem.Wood == plant.Woody && w.Hormone != "no" {
		w.HormonePPM = plant.Span{Mid: 3000, Low: 3000, High: 8000}
		w.HormoneBy = plant.Assumed("woody pieces take more; follow the label")
	}
	if split := b.Group.SplitFromMM; split > 0 && b.Stem.ThicknessMM >= split && b.rule().Along {
		w.Enlarge = "Split the base 35-40 mm and keep it open with a pinch of moss."
	} else if b.Organ() == plant.StemOrgan && (b.Stem.Wood == plant.Woody || b.Stem.ThicknessMM >= b.Sheet.value(FatFrom)) {
		w.Enlarge = "For a shy rooter, scrape the outer skin near the base, or split the base 35-40 mm and keep it open with a pinch of moss."
	}
	return w
}

// Text says it in a sentence or two.
func (w Wound) Text(hormone bool) string {
	text := "Straight in; the faces need no drying."
	if h := w.CallusHours; h.Mid > 0 {
		text = fmt.Sprintf("Let the cut faces dry %s before setting.", hours(h))
	}
	if w.Dust {
		text += " Dust the faces (cinnamon or sulphur) against rot; it roots nothing, and is thrown away after."
	}
	if hormone && w.Hormone != "no" {
		text += fmt.Sprintf(" Hormone %.0f to %.0f ppm: tip a little out, dip into that, throw the rest away; never dip into the pot.", w.HormonePPM.Low, w.HormonePPM.High)
	}
	if w.Enlarge != "" {
		text += " " + w.Enlarge
	}
	return text
}

func hours(s plant.Span) string {
	switch {
	case s.Low >= 24 && s.High < 48:
		return "a day"
	case s.Low >= 24:
		return fmt.Sprintf("%.0f to %.0f days", s.Low/24, s.High/24)
	case s.High == 24:
		return fmt.Sprintf("%.0f h to a day", s.Low)
	case s.High > 24:
		return fmt.Sprintf("%.0f h to %.0f days", s.Low, s.High/24)
	}
	return fmt.Sprintf("%.0f to %.0f h", s.Low, s.High)
}
