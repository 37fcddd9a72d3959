package climate

import (
	"fmt"
	"slices"

	"clearjar/core/number"
	"clearjar/core/plant"
)

// StageKey names how far pieces are: what air they want follows from it.
type StageKey string

// The stages.
const (
	Unrooted  StageKey = "unrooted"
	Rooting   StageKey = "rooting"
	Hardening StageKey = "hardening"
)

// Stage is one stage with the air it wants: a deficit of the air in kPa, and degrees C at the roots.
type Stage struct {
	Key   StageKey `json:"key"`
	Label string   `json:"label"`
	// DeficitLow and DeficitHigh hold the wanted deficit; TempLow and TempHigh the wanted warmth.
	DeficitLow  plant.Number `json:"deficit_low"`
	DeficitHigh plant.Number `json:"deficit_high"`
	TempLow     plant.Number `json:"temp_low"`
	TempHigh    plant.Number `json:"temp_high"`
}

func kPa(key, label string, value float64, why string) plant.Number {
	return number.Define(plant.Number{Key: "climate." + key, Label: label, Value: value, Low: 0, High: 5, Unit: "kPa", Basis: plant.Assumed(why)})
}

func celsius(key, label string, value float64, b plant.Basis) plant.Number {
	return number.Define(plant.Number{Key: "climate." + key, Label: label, Value: value, Low: 0, High: 45, Unit: "degrees C", Basis: b})
}

var (
	rootWarm = plant.FromPrint("Hartmann, Kester: Plant Propagation, root zone 21 to 27 degrees C")
	tempLow  = celsius("temp_low", "Root zone at least", 21, rootWarm)
	tempHigh = celsius("temp_high", "Root zone at most", 27, rootWarm)
)

var stages = []Stage{
	{
		Unrooted, "without roots", kPa("unrooted_low", "Air of pieces without roots: deficit at least", 0.05, "a box that is full all day grows mould"),
		kPa("unrooted_high", "Air of pieces without roots: deficit at most", 0.4, "they lose water and cannot drink; about 85 % at 22 degrees C"), tempLow, tempHigh,
	},
	{
		Rooting, "rooting", kPa("rooting_low", "Air of rooting pieces: deficit at least", 0.1, "as without roots, a little drier"),
		kPa("rooting_high", "Air of rooting pieces: deficit at most", 0.8, "first roots drink; about 70 % at 22 degrees C"), tempLow, tempHigh,
	},
	{
		Hardening, "hardening off", kPa("hardening_low", "Air of pieces that harden off: deficit at least", 0.4, "a step towards the room"),
		kPa("hardening_high", "Air of pieces that harden off: deficit at most", 1.3, "the air of a room, about 50 % at 22 degrees C"), tempLow, tempHigh,
	},
}

// Stages is the table of stages.
func Stages() []Stage { return append([]Stage{}, stages...) }

// StageNamed finds the row of a stage.
func StageNamed(k StageKey) (Stage, bool) {
	for _, s := range stages {
		if s.Key == k {
			return s, true
		}
	}
	return Stage{}, false
}

// Numbers lists them for the screen.
func Numbers() []plant.Number {
	out := []plant.Number{tempLow, tempHigh, keptDays, silentAfter}
	for _, s := range stages {
		out = append(out, s.DeficitLow, s.DeficitHigh)
	}
	return out
}

// Fault is what is wrong with the air.
type Fault string

// The faults.
const (
	TooDry  Fault = "too_dry"
	TooWet  Fault = "too_wet"
	TooCold Fault = "too_cold"
	TooWarm Fault = "too_warm"
	// Dew: the leaf is colder than the dew point, and gets wet.
	Dew Fault = "dew"
)

// advice is what to do about each fault.
var advice = map[Fault]string{
	Dew:     "The leaf is colder than the dew point and gets wet: warm it from below, or air the box.",
	TooDry:  "Too dry: close the cover, mist, or cut large blades down.",
	TooWet:  "Full to the brim: lift the cover for five minutes, tip out what pools.",
	TooCold: "Colder than roots like it: a warm place or a mat; times are longer.",
	TooWarm: "Warmer than roots like it: shade it; a covered box in the sun cooks.",
}

// faults are those of air of a temperature in degrees C and a deficit in kPa, for this stage.
func (s Stage) faults(t number.Table, tempC, deficitKPa float64) []Fault {
	out := []Fault{}
	for _, f := range []struct {
		fault Fault
		there bool
	}{
		{TooDry, deficitKPa > t.Of(s.DeficitHigh)},
		{TooWet, deficitKPa < t.Of(s.DeficitLow)},
		{TooCold, tempC < t.Of(s.TempLow)},
		{TooWarm, tempC > t.Of(s.TempHigh)},
	} {
		if f.there {
			out = append(out, f.fault)
		}
	}
	return out
}

// Finding is one fault and what to do about it.
type Finding struct {
	Fault Fault  `json:"fault" enum:"too_dry,too_wet,too_cold,too_warm,dew"`
	Says  string `json:"says"`
}

// Judged is air held against what a stage wants.
type Judged struct {
	Stage      StageKey `json:"stage" enum:"unrooted,rooting,hardening"`
	DeficitKPa float64  `json:"deficit_kpa"`
	// LeafDeficitKPa is that of a leaf of the air's own temperature, or of the one given.
	LeafDeficitKPa float64 `json:"leaf_deficit_kpa"`
	// DewC is the dew point; HasDew is false for air without any water.
	DewC     float64   `json:"dew_c"`
	HasDew   bool      `json:"has_dew"`
	WaterGM3 float64   `json:"water_g_m3"`
	Findings []Finding `json:"findings"`
	// Says is the whole in a sentence.
	Says string `json:"says"`
}

// Judge holds air against what pieces of a stage want. leafC is the temperature of a leaf; nil for that of the air.
// Air that cannot be, and an unknown stage, are refused.
func Judge(t number.Table, a Air, leafC *float64, stage StageKey) (Judged, error) {
	s, ok := StageNamed(stage)
	if !ok {
		return Judged{}, plant.Refuse("stage", "%q is not a stage: unrooted, rooting or hardening", stage)
	}
	if err := a.Check(); err != nil {
		return Judged{}, err
	}
	leaf := a.TempC
	if leafC != nil {
		leaf = *leafC
		if !(leaf >= -30 && leaf <= 70) {
			return Judged{}, plant.Refuse("leaf_c", "between -30 and 70 degrees C")
		}
	}
	j := Judged{Stage: stage, DeficitKPa: a.DeficitKPa(), LeafDeficitKPa: a.LeafDeficitKPa(leaf), WaterGM3: a.WaterGM3(), Findings: []Finding{}}
	j.DewC, j.HasDew = a.DewPointC()
	faults := s.faults(t, a.TempC, j.DeficitKPa)
	if j.LeafDeficitKPa < 0 {
		faults = append([]Fault{Dew}, slices.DeleteFunc(faults, func(f Fault) bool { return f == TooWet })...)
	}
	for _, f := range faults {
		j.Findings = append(j.Findings, Finding{f, advice[f]})
	}
	j.Says = fmt.Sprintf("%.1f °C at %.0f %%: a deficit of %.2f kPa, wanted %.2f to %.2f %s.", a.TempC, a.HumidityPct, j.DeficitKPa, t.Of(s.DeficitLow), t.Of(s.DeficitHigh), s.Label)
	return j, nil
}
