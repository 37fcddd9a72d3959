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
	// AsksParts, AsksUnits and AsksSquare say what else it takes beside values.
	AsksParts  bool `json:"asks_parts"`
	AsksUnits  bool `json:"asks_units"`
	AsksSquare bool `json:"asks_square"`
	// Hazards are cautions to show beside it.
	Hazards []plant.HazardKey `json:"hazards"`

	solve func(v values) (Solved, error)
}

// Task is a calculator by its key with what it asks for.
type Task struct {
	Calculator string             `json:"calculator" maxLength:"40"`
	Values     map[string]float64 `json:"values"`
	// Parts are those of a mix, in the order of its ingredients.
	Parts []float64 `json:"parts,omitempty" maxItems:"12"`
	// From and To are units of strength, for the calculator of units.
	From Unit `json:"from,omitempty" enum:"percent,ppm,mg_per_l,g_per_l"`
	To   Unit `json:"to,omitempty" enum:"percent,ppm,mg_per_l,g_per_l"`
	// Square: the pot is square.
	Square bool `json:"square,omitempty"`
}

// Amount is one number of an answer.
type Amount struct {
	Label string  `json:"label"`
	Value float64 `json:"value"`
	Unit  string  `json:"unit"`
}

// Solved is what came out, with the formula as it was worked out.
type Solved struct {
	Results []Amount `json:"results"`
	// Shown is the formula with the numbers put in.
	Shown string `json:"shown"`
}

type values struct{ Task }

func (v values) of(key string) float64 { return v.Values[key] }

func ml(key, label string) Field { return Field{key, label, "ml"} }
func mm(key, label string) Field { return Field{key, label, "mm"} }

var calculators = []Calculator{
	{
		Key: "dilute", Title: "Thin a stock", Formula: "stock ml = final ml x target / stock",
		Fields:  []Field{{"stock", "The stock", "mg/l"}, {"target", "Strength wanted", "mg/l"}, ml("final_ml", "Made in all")},
		Hazards: chemicals,
		solve: func(v values) (Solved, error) {
			d, err := Dilute(v.of("stock"), v.of("target"), v.of("final_ml"))
			return Solved{
				[]Amount{{"stock", d.StockML, "ml"}, {"water", d.DiluentML, "ml"}, {"parts of water to one of stock", d.Parts, ""}},
				fmt.Sprintf("%g ml x %g / %g = %.4g ml of stock, the rest water", v.of("final_ml"), v.of("target"), v.of("stock"), d.StockML),
			}, err
		},
	},
	{
		Key: "strength", Title: "Strength in another unit", Formula: "1 % = 10 g/l = 10 000 mg/l = 10 000 ppm",
		Fields:    []Field{{"value", "Strength", ""}},
		Hazards:   nil,
		AsksUnits: true,
		solve: func(v values) (Solved, error) {
			x, err := Strength(v.of("value"), v.From, v.To)
			return Solved{[]Amount{{"strength", x, string(v.To)}}, fmt.Sprintf("%g %s = %.6g %s", v.of("value"), v.From, x, v.To)}, err
		},
	},
	{
		Key: "weigh_out", Title: "Weigh out", Formula: "mg = mg/l x ml / 1000 / purity",
		Fields:  []Field{{"mg_per_l", "Strength wanted", "mg/l"}, ml("volume_ml", "Volume"), {"purity", "Purity", "share of 1"}},
		Hazards: chemicals,
		solve: func(v values) (Solved, error) {
			x, err := WeighOut(v.of("mg_per_l"), v.of("volume_ml"), v.of("purity"))
			return Solved{[]Amount{{"weigh out", x, "mg"}}, fmt.Sprintf("%g mg/l x %g ml / 1000 / %g = %.4g mg", v.of("mg_per_l"), v.of("volume_ml"), v.of("purity"), x)}, err
		},
	},
	{
		Key: "two_strengths", Title: "Mix two strengths", Formula: "strong = total x (target - weak) / (strong - weak)",
		Fields:  []Field{{"high", "The strong one", "any unit"}, {"low", "The weak one", "the same"}, {"target", "Wanted", "the same"}, {"total", "Made in all", "any unit"}},
		Hazards: chemicals,
		solve: func(v values) (Solved, error) {
			a, b, err := TwoStrengths(v.of("high"), v.of("low"), v.of("target"), v.of("total"))
			return Solved{[]Amount{{"of the strong one", a, ""}, {"of the weak one", b, ""}}, fmt.Sprintf("%g x (%g - %g) / (%g - %g) = %.4g of the strong one", v.of("total"), v.of("target"), v.of("low"), v.of("high"), v.of("low"), a)}, err
		},
	},
	{
		Key: "feed", Title: "A weak feed", Formula: "dose = label dose per litre x share x litres",
		Fields:  []Field{{"label_per_l", "Dose on the label", "per litre"}, {"share", "Share of it", "share of 1"}, ml("volume_ml", "Water")},
		Hazards: chemicals,
		solve: func(v values) (Solved, error) {
			x, err := Feed(v.of("label_per_l"), v.of("share"), v.of("volume_ml"))
			return Solved{[]Amount{{"dose", x, "in the label's unit"}}, fmt.Sprintf("%g per litre x %g x %g ml / 1000 = %.4g", v.of("label_per_l"), v.of("share"), v.of("volume_ml"), x)}, err
		},
	},
	{
		Key: "parts", Title: "A mix by parts", Formula: "volume = total x part / sum of parts",
		Fields:    []Field{ml("total", "Mix in all")},
		Hazards:   []plant.HazardKey{plant.PeatDust, plant.PerliteDust},
		AsksParts: true,
		solve: func(v values) (Solved, error) {
			each, err := ByParts(v.Parts, v.of("total"))
			a := Solved{Results: []Amount{}}
			shown := []string{}
			for i, x := range each {
				a.Results = append(a.Results, Amount{fmt.Sprintf("ingredient %d", i+1), x, "ml"})
				shown = append(shown, fmt.Sprintf("%g : %.4g ml", v.Parts[i], x))
			}
			a.Shown = fmt.Sprintf("%g ml as %s", v.of("total"), strings.Join(shown, ", "))
			return a, err
		},
	},
	{
		Key: "pot_volume", Title: "What pots hold", Formula: "round: pi h / 12 (t^2 + t b + b^2); square: h / 3 (t^2 + t b + b^2)",
		Fields:     []Field{mm("top_mm", "Across the top"), mm("bottom_mm", "Across the bottom"), mm("height_mm", "Height inside"), mm("fill_mm", "Filled to"), {"pots", "Pots", ""}, {"settling", "Settles by", "share of 1"}},
		Hazards:    nil,
		AsksSquare: true,
		solve: func(v values) (Solved, error) {
			one, err := Container{v.Square, v.of("top_mm"), v.of("bottom_mm"), v.of("height_mm")}.VolumeML(v.of("fill_mm"))
			if err != nil {
				return Solved{}, err
			}
			if err := positive("pots", v.of("pots"), false); err != nil {
				return Solved{}, err
			}
			settles := v.of("settling")
			if !(settles >= 0 && settles < 1) {
				return Solved{}, plant.Refuse("settling", "a share between 0 and 1")
			}
			loose := one * v.of("pots") / (1 - settles)
			return Solved{
				[]Amount{{"one pot", one, "ml"}, {"loose mix for all", loose, "ml"}},
				fmt.Sprintf("%.4g ml x %g / (1 - %g) = %.4g ml of loose mix", one, v.of("pots"), settles, loose),
			}, nil
		},
	},
	{
		Key: "stems", Title: "How many stems stand in it", Formula: "the most circles of the spacing that fit",
		Fields:  []Field{mm("width_mm", "Width inside"), mm("spacing_mm", "From stem to stem"), mm("margin_mm", "From the wall")},
		Hazards: nil,
		solve: func(v values) (Solved, error) {
			n, err := StemsIn(v.of("width_mm"), v.of("spacing_mm"), v.of("margin_mm"))
			more := ""
			if n == MostStems {
				more = " or more"
			}
			return Solved{[]Amount{{"stems" + more, float64(n), ""}}, fmt.Sprintf("%d%s with %g mm between them and %g mm to the wall of %g mm", n, more, v.of("spacing_mm"), v.of("margin_mm"), v.of("width_mm"))}, err
		},
	},
	{
		Key: "peroxide", Title: "Thin peroxide", Formula: "stock ml = final ml x wanted / stock, in percent as the bottle says",
		Fields:  []Field{{"stock", "The bottle", "%"}, {"target", "Wanted", "%"}, ml("final_ml", "Made in all")},
		Hazards: chemicals,
		solve: func(v values) (Solved, error) {
			d, err := Dilute(v.of("stock"), v.of("target"), v.of("final_ml"))
			return Solved{
				[]Amount{{"from the bottle", d.StockML, "ml"}, {"water", d.DiluentML, "ml"}},
				fmt.Sprintf("%g ml x %g %% / %g %% = %.4g ml from the bottle, the rest water", v.of("final_ml"), v.of("target"), v.of("stock"), d.StockML),
			}, err
		},
	},
	{
		Key: "jar_water", Title: "Water for a jar", Formula: "ml = pi / 4 (width^2 x level - stems x thickness^2 x depth) / 1000",
		Fields:  []Field{mm("width_mm", "Width inside"), mm("level_mm", "Water stands at"), {"stems", "Stems", ""}, mm("thickness_mm", "Thickness of a stem"), mm("depth_mm", "Depth under water")},
		Hazards: nil,
		solve: func(v values) (Solved, error) {
			x, rise, err := JarWater(v.of("width_mm"), v.of("level_mm"), v.of("stems"), v.of("thickness_mm"), v.of("depth_mm"))
			return Solved{
				[]Amount{{"water to pour in", x, "ml"}, {"the stems lift it by", rise, "mm"}},
				fmt.Sprintf("pi / 4 x (%g^2 x %g - %g x %g^2 x %g) / 1000 = %.4g ml", v.of("width_mm"), v.of("level_mm"), v.of("stems"), v.of("thickness_mm"), v.of("depth_mm"), x),
			}, err
		},
	},
	{
		Key: "molar", Title: "Strength in mol", Formula: "mmol/l = mg/l / molar mass",
		Fields:  []Field{{"mg_per_l", "Strength", "mg/l"}, {"molar_mass_g", "Molar mass", "g/mol"}},
		Hazards: nil,
		solve: func(v values) (Solved, error) {
			x, err := MmolPerL(v.of("mg_per_l"), v.of("molar_mass_g"))
			return Solved{[]Amount{{"strength", x, "mmol/l"}}, fmt.Sprintf("%g / %g = %.4g mmol/l", v.of("mg_per_l"), v.of("molar_mass_g"), x)}, err
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
func Solve(q Task) (Solved, error) {
	for _, c := range calculators {
		if c.Key != q.Calculator {
			continue
		}
		asked := map[string]bool{}
		for _, f := range c.Fields {
			asked[f.Key] = true
			if _, ok := q.Values[f.Key]; !ok {
				return Solved{}, plant.Refuse(f.Key, "is missing: %s", f.Label)
			}
		}
		for key := range q.Values {
			if !asked[key] {
				return Solved{}, plant.Refuse(key, "nobody asked for it here")
			}
		}
		a, err := c.solve(values{q})
		if err != nil {
			return Solved{}, err
		}
		return a, nil
	}
	known := []string{}
	for _, c := range calculators {
		known = append(known, c.Key)
	}
	return Solved{}, plant.Refuse("calculator", "%q is none of: %s", q.Calculator, strings.Join(known, ", "))
}
