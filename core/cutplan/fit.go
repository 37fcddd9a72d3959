package cutplan

import (
	"fmt"

	"clearjar/core/plant"
)

// Numbers of the mother's own readiness.
var (
	WateredWithin = define("watered_within", "Watered generously within", 2, "days", practice("one to two days before the cut"))
	RestDays      = define("rest_days", "Rest between two cuts of one mother", 21, "days", plant.Assumed("three weeks, until cut ends have shot"))
	LongRestDays  = define("dormant_rest_days", "Rest between two cuts in the dark half of the year", 42, "days", plant.Assumed("twice as long"))
)

// Standing is what is known of a mother today.
type Standing struct {
	Group plant.Group
	Dark  bool
	// Nodes and Leaves stand on all her stems; LeafyMaps is how many of her maps show the leaves that feed her.
	Nodes     int
	Leaves    int
	LeafyMaps int
	// DaysSinceCut and DaysSinceWatered are -1 when nothing is on record.
	DaysSinceCut     int
	DaysSinceWatered int
	// Keep is what she is to keep at least.
	KeepLeaves int
	Sheet      Sheet
}

// Fitness is whether a mother is fit to be cut today.
type Fitness struct {
	// Answer is yes, care (yes, but) or wait.
	Answer  string      `json:"answer" enum:"yes,care,wait"`
	Short   string      `json:"short"`
	Reasons []FitReason `json:"reasons"`
}

// FitReason is one reason, for or against.
type FitReason struct {
	// Says is good, care or wait.
	Says  string      `json:"says" enum:"good,care,wait"`
	Text  string      `json:"text"`
	Basis plant.Basis `json:"basis"`
}

// Fit tells whether the mother is fit to be cut today. What is not on record is a care, not a refusal.
func Fit(s Standing) Fitness {
	f := Fitness{Answer: "yes", Reasons: []FitReason{}}
	add := func(says, text string, basis plant.Basis) {
		f.Reasons = append(f.Reasons, FitReason{says, text, basis})
		if says == "wait" || (says == "care" && f.Answer == "yes") {
			f.Answer = says
		}
	}
	add(s.leaves())
	add(s.watered())
	add(s.season())
	add(s.rest())
	f.Short = map[string]string{"yes": "Fit to cut today", "care": "Fit to cut, with care", "wait": "Better wait"}[f.Answer]
	return f
}

func (s Standing) leaves() (string, string, plant.Basis) {
	basis := practice("leave the mother at least one leaf")
	spare := s.Leaves - s.KeepLeaves
	switch {
	case s.Nodes == 0:
		return "wait", "No node stands on a mapped stem: map what she has, or let her grow.", plant.Practice
	case s.LeafyMaps == 0:
		return "care", "Her leaves are not on the map: see that she keeps some.", basis
	case s.Leaves == 0:
		return "wait", "No leaf is left: let her shoot first.", basis
	case spare < 1:
		return "care", fmt.Sprintf("Her last %s in any case: cut only what is below or bare.", map[bool]string{true: "leaf stays", false: "leaves stay"}[s.Leaves == 1]), basis
	}
	return "good", fmt.Sprintf("%s on %s: there is enough to leave her some.", plant.Counted(s.Leaves, "leaf", "leaves"), plant.Counted(s.Nodes, "node", "nodes")), basis
}

func (s Standing) watered() (string, string, plant.Basis) {
	within := int(s.Sheet.value(WateredWithin))
	basis := s.Sheet.At(WateredWithin.Key).Basis
	switch d := s.DaysSinceWatered; {
	case d < 0:
		return "care", "No watering on record: water generously one to two days before, and cut when she is turgid.", basis
	case d > within:
		return "care", fmt.Sprintf("Watered %s ago: water generously today and cut in one to two days.", plant.DaysLong(d)), basis
	case d == 0:
		return "good", "Watered today. Tomorrow she is fullest.", basis
	default:
		return "good", fmt.Sprintf("Watered %s ago.", plant.DaysLong(d)), basis
	}
}

func (s Standing) season() (string, string, plant.Basis) {
	basis := practice("best in the growing season; in the dark months many wait")
	if s.Dark {
		return "care", "Dark half of the year: roots and shoots take 1.5 to 2 times as long. Many wait for spring.", basis
	}
	return "good", "Growing season.", basis
}

func (s Standing) rest() (string, string, plant.Basis) {
	n := s.Sheet.At(RestDays.Key)
	if s.Dark {
		n = s.Sheet.At(LongRestDays.Key)
	}
	switch rest := int(n.Value); {
	case s.DaysSinceCut < 0:
		return "good", "Never cut before.", plant.Practice
	case s.DaysSinceCut < rest/2:
		return "wait", fmt.Sprintf("Cut %s ago: give her %s to shoot again.", plant.DaysLong(s.DaysSinceCut), plant.DaysLong(rest)), n.Basis
	case s.DaysSinceCut < rest:
		return "care", fmt.Sprintf("Cut %s ago; %d are better.", plant.DaysLong(s.DaysSinceCut), rest), n.Basis
	}
	return "good", fmt.Sprintf("Last cut %s ago.", plant.DaysLong(s.DaysSinceCut)), n.Basis
}
