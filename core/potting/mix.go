package potting

import (
	"clearjar/core/number"
	"clearjar/core/plant"
)

// Part is one ingredient of a mix and its share of the volume.
type Part struct {
	// Key is the number that says how many parts.
	Key   string  `json:"key"`
	Name  string  `json:"name"`
	Parts float64 `json:"parts"`
	ML    float64 `json:"ml"`
}

// MixRow is one potting mix and what it is for.
type MixRow struct {
	Key   string `json:"key"`
	Label string `json:"label"`
	Why   string `json:"why"`
	Parts []Part `json:"parts"`
}

// ingredient is one part of a recipe as it begins.
type ingredient struct {
	name  string
	parts plant.Number
}

// recipe is one mix: what differs between mixes is a column here.
type recipe struct {
	key, label, why string
	of              []ingredient
}

// parts puts one ingredient of a mix on the table of numbers.
func parts(mix, of, key, name string, value float64) ingredient {
	return ingredient{name, number.Define(plant.Number{
		Key: "potting.mix." + mix + "." + key, Label: plant.Upper(name) + " in the mix for " + of, Value: value, Low: 0, High: 20, Unit: "parts", Basis: plant.Practice,
	})}
}

// recipes are the potting mixes, by the roots they are for. The grower changes their parts as any other number.
var recipes = []recipe{
	{"climber", "climber mix", "light and chunky for climbers", []ingredient{
		parts("climber", "climbers", "bark", "bark", 2), parts("climber", "climbers", "perlite", "perlite", 1), parts("climber", "climbers", "coir", "coir or peat", 1),
	}},
	{"fine", "fine mix", "fine and airy for fine roots", []ingredient{
		parts("fine", "fine roots", "coir", "coir or peat", 2), parts("fine", "fine roots", "perlite", "perlite", 1),
	}},
	{"gritty", "gritty mix", "gritty for succulents", []ingredient{
		parts("gritty", "succulents", "grit", "coarse grit", 2), parts("gritty", "succulents", "coir", "coir or peat", 1), parts("gritty", "succulents", "perlite", "perlite", 1),
	}},
	{"gritty_shrub", "shrub mix", "gritty, for shrubs", []ingredient{
		parts("gritty_shrub", "shrubs", "coir", "coir or peat", 1), parts("gritty_shrub", "shrubs", "grit", "coarse grit", 1), parts("gritty_shrub", "shrubs", "perlite", "perlite", 1),
	}},
	{"pitcher", "pitcher mix", "airy, poor and lime-free for pitcher vines", []ingredient{
		parts("pitcher", "pitcher vines", "moss", "long-fibre moss", 2), parts("pitcher", "pitcher vines", "perlite", "perlite", 1),
	}},
	{"mother", "its mother's mix", "what its mother grows in: a division keeps the roots it has. Pitcher clumps poor and lime-free, bird-of-paradise kin richer and free-draining, pups of succulents gritty", []ingredient{
		parts("mother", "divisions", "own", "the mother's own mix", 1),
	}},
}

// Mixes is the table of potting mixes with the parts in use, common practice without a source.
func Mixes(t number.Table) []MixRow {
	out := make([]MixRow, len(recipes))
	for i, r := range recipes {
		out[i] = MixRow{Key: r.key, Label: r.label, Why: r.why, Parts: []Part{}}
		for _, of := range r.of {
			out[i].Parts = append(out[i].Parts, Part{Key: of.parts.Key, Name: of.name, Parts: t.Of(of.parts)})
		}
	}
	return out
}

// MixNamed is the mix of a key; false for one that is not on the table.
func MixNamed(t number.Table, key string) (MixRow, bool) {
	for _, m := range Mixes(t) {
		if m.Key == key {
			return m, true
		}
	}
	return MixRow{}, false
}

// Of shares a volume in ml out among the parts; parts that are all nothing share it evenly.
func (m MixRow) Of(ml float64) []Part {
	out, total := []Part{}, 0.0
	for _, p := range m.Parts {
		total += p.Parts
	}
	for _, p := range m.Parts {
		share := 1 / float64(len(m.Parts))
		if total > 0 {
			share = p.Parts / total
		}
		p.ML = ml * share
		out = append(out, p)
	}
	return out
}

// mixNumbers are the parts of all mixes.
func mixNumbers() []plant.Number {
	out := []plant.Number{}
	for _, r := range recipes {
		for _, of := range r.of {
			out = append(out, of.parts)
		}
	}
	return out
}
