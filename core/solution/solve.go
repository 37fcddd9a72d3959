package solution

import (
	"fmt"
	"strings"

	"clearjar/core/plant"
)

// Field is one thing a calculator asks for.
type Field struct {
	Key   string `json:"key"`
	Label string `json:"label"`
	Unit  string `json:"unit"`
}

// Calculator is one calculation of the mixing corner.
type Calculator struct {
	Key     string  `json:"key"`
	Title   string  `json:"title"`
	Formula string  `json:"formula"`
	Fields  []Field `json:"fields"`
	// Hazards are cautions to show beside it.
	Hazards []plant.HazardKey `json:"hazards"`

	solve func(v values) (Answer, error)
}

// Question is a calculator by its key with what it asks for.
type Question struct {
	Calculator string             `json:"calculator"`
	Values     map[string]float64 `json:"values"`
	// Parts are those of a mix, in the order of its ingredients.
	Parts []float64 `json:"parts,omitempty"`
	// From and To are units of strength, for the calculator of units.
	From Unit `json:"from,omitempty"`
	To   Unit `json:"to,omitempty"`
	// Square: the pot is square.
	Square bool `json:"square,omitempty"`
}

// Result is one number of an answer.
type Result struct {
	Label string  `json:"label"`
	Value float64 `json:"value"`
	Unit  string  `json:"unit"`
}

// Answer is what came out, with the formula as it was worked out.
type Answer struct {
	Results []Result `json:"results"`
	// Shown is the formula with the numbers put in.
	Shown string `json:"shown"`
}

type values struct{ Question }

func (v values) of(key string) float64 { return v.Values[key] }

func ml(key, label string) Field { return Field{key, label, "ml"} }
func mm(key, label string) Field { return Field{key, label, "mm"} }

var calculators = []Calculator{
	{
		"dilute", "Thin a stock", "stock ml = final ml x target / stock",
		[]Field{{"stock", "Strength of the stock", "mg/l"}, {"target", "Strength wanted", "mg/l"}, ml("final_ml", "Made in all")},
		chemicals,
		func(v values) (Answer, error) {
			d, err := Dilute(v.of("stock"), v.of("target"), v.of("final_ml"))
			return Answer{
				[]Result{{"stock", d.StockML, "ml"}, {"water", d.DiluentML, "ml"}, {"parts of water to one of stock", d.Parts, ""}},
				fmt.Sprintf("%g ml x %g / %g = %.4g ml of stock, the rest water", v.of("final_ml"), v.of("target"), v.of("stock"), d.StockML),
			}, err
		},
	},
	{
		"strength", "Strength in another unit", "1 % = 10 g/l = 10 000 mg/l = 10 000 ppm",
		[]Field{{"value", "Strength", ""}},
		nil,
		func(v values) (Answer, error) {
			x, err := Strength(v.of("value"), v.From, v.To)
			return Answer{[]Result{{"strength", x, string(v.To)}}, fmt.Sprintf("%g %s = %.6g %s", v.of("value"), v.From, x, v.To)}, err
		},
	},
	{
		"weigh_out", "Weigh out", "mg = mg/l x ml / 1000 / purity",
		[]Field{{"mg_per_l", "Strength wanted", "mg/l"}, ml("volume_ml", "Volume"), {"purity", "Purity", "share of 1"}},
		chemicals,
		func(v values) (Answer, error) {
			x, err := WeighOut(v.of("mg_per_l"), v.of("volume_ml"), v.of("purity"))
			return Answer{[]Result{{"weigh out", x, "mg"}}, fmt.Sprintf("%g mg/l x %g ml / 1000 / %g = %.4g mg", v.of("mg_per_l"), v.of("volume_ml"), v.of("purity"), x)}, err
		},
	},
	{
		"two_strengths", "Mix two strengths", "strong = total x (target - weak) / (strong - weak)",
		[]Field{{"high", "The strong one", "any unit"}, {"low", "The weak one", "the same"}, {"target", "Wanted", "the same"}, {"total", "Made in all", "any unit"}},
		chemicals,
		func(v values) (Answer, error) {
			a, b, err := TwoStrengths(v.of("high"), v.of("low"), v.of("target"), v.of("total"))
			return Answer{[]Result{{"of the strong one", a, ""}, {"of the weak one", b, ""}}, fmt.Sprintf("%g x (%g - %g) / (%g - %g) = %.4g of the strong one", v.of("total"), v.of("target"), v.of("low"), v.of("high"), v.of("low"), a)}, err
		},
	},
	{
		"feed", "A weak feed", "dose = label dose per litre x share x litres",
		[]Field{{"label_per_l", "Dose on the label", "per litre"}, {"share", "Share of it", "share of 1"}, ml("volume_ml", "Water")},
		chemicals,
		func(v values) (Answer, error) {
			x, err := Feed(v.of("label_per_l"), v.of("share"), v.of("volume_ml"))
			return Answer{[]Result{{"dose", x, "in the label's unit"}}, fmt.Sprintf("%g per litre x %g x %g ml / 1000 = %.4g", v.of("label_per_l"), v.of("share"), v.of("volume_ml"), x)}, err
		},
	},
	{
		"parts", "A mix by parts", "volume = total x part / sum of parts",
		[]Field{ml("total", "Mix in all")},
		[]plant.HazardKey{plant.PeatDust, plant.PerliteDust},
		func(v values) (Answer, error) {
			each, err := ByParts(v.Parts, v.of("total"))
			a := Answer{Results: []Result{}}
			shown := []string{}
			for i, x := range each {
				a.Results = append(a.Results, Result{fmt.Sprintf("ingredient %d", i+1), x, "ml"})
				shown = append(shown, fmt.Sprintf("%g : %.4g ml", v.Parts[i], x))
			}
			a.Shown = fmt.Sprintf("%g ml as %s", v.of("total"), strings.Join(shown, ", "))
			return a, err
		},
	},
	{
		"pot_volume", "What pots hold", "round: pi h / 12 (t^2 + t b + b^2); square: h / 3 (t^2 + t b + b^2)",
		[]Field{mm("top_mm", "Across the top"), mm("bottom_mm", "Across the bottom"), mm("height_mm", "Height inside"), mm("fill_mm", "Filled to"), {"pots", "Pots", ""}, {"settling", "Settles by", "share of 1"}},
		nil,
		func(v values) (Answer, error) {
			one, err := Container{v.Square, v.of("top_mm"), v.of("bottom_mm"), v.of("height_mm")}.VolumeML(v.of("fill_mm"))
			if err != nil {
				return Answer{}, err
			}
			if err := positive("pots", v.of("pots"), false); err != nil {
				return Answer{}, err
			}
			settles := v.of("settling")
			if !(settles >= 0 && settles < 1) {
				return Answer{}, plant.Refuse("settling", "a share between 0 and 1")
			}
			loose := one * v.of("pots") / (1 - settles)
			return Answer{
				[]Result{{"one pot", one, "ml"}, {"loose mix for all", loose, "ml"}},
				fmt.Sprintf("%.4g ml x %g / (1 - %g) = %.4g ml of loose mix", one, v.of("pots"), settles, loose),
			}, nil
		},
	},
	{
		"stems", "How many stems stand in it", "the most circles of the spacing that fit",
		[]Field{mm("width_mm", "Width inside"), mm("spacing_mm", "From stem to stem"), mm("margin_mm", "From the wall")},
		nil,
		func(v values) (Answer, error) {
			n, err := StemsIn(v.of("width_mm"), v.of("spacing_mm"), v.of("margin_mm"))
			more := ""
			if n == MostStems {
				more = " or more"
			}
			return Answer{[]Result{{"stems" + more, float64(n), ""}}, fmt.Sprintf("%d%s with %g mm between them and %g mm to the wall of %g mm", n, more, v.of("spacing_mm"), v.of("margin_mm"), v.of("width_mm"))}, err
		},
	},
	{
		"molar", "Strength in mol", "mmol/l = mg/l / molar mass",
		[]Field{{"mg_per_l", "Strength", "mg/l"}, {"molar_mass_g", "Molar mass", "g/mol"}},
		nil,
		func(v values) (Answer, error) {
			x, err := MmolPerL(v.of("mg_per_l"), v.of("molar_mass_g"))
			return Answer{[]Result{{"strength", x, "mmol/l"}}, fmt.Sprintf("%g / %g = %.4g mmol/l", v.of("mg_per_l"), v.of("molar_mass_g"), x)}, err
		},
	},
}

var chemicals = []plant.HazardKey{plant.Chemicals}

// Calculators is the table of them, in the order they are offered.
func Calculators() []Calculator {
	out := append([]Calculator{}, calculators...)
	for i := range out {
		out[i].Hazards = append([]plant.HazardKey{}, out[i].Hazards...)
	}
	return out
}

// Solve works out a question. An unknown calculator, a value that is missing, and one that nobody asked for are refused
// by name.
func Solve(q Question) (Answer, error) {
	for _, c := range calculators {
		if c.Key != q.Calculator {
			continue
		}
		asked := map[string]bool{}
		for _, f := range c.Fields {
			asked[f.Key] = true
			if _, ok := q.Values[f.Key]; !ok {
				return Answer{}, plant.Refuse(f.Key, "is missing: %s", f.Label)
			}
		}
		for key := range q.Values {
			if !asked[key] {
				return Answer{}, plant.Refuse(key, "nobody asked for it here")
			}
		}
		a, err := c.solve(values{q})
		if err != nil {
			return Answer{}, err
		}
		return a, nil
	}
	known := []string{}
	for _, c := range calculators {
		known = append(known, c.Key)
	}
	return Answer{}, plant.Refuse("calculator", "%q is none of: %s", q.Calculator, strings.Join(known, ", "))
}
