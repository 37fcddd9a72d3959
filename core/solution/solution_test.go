package solution

import (
	"encoding/csv"
	"math"
	"os"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
)

// The tables in testdata come from outside: exact fractions, and R's integrate for the volumes.
func each(t *testing.T, name string, do func(f func(col string) float64, raw map[string]string)) {
	t.Helper()
	f, err := os.Open("testdata/" + name)
	require.NoError(t, err)
	defer f.Close()
	lines, err := csv.NewReader(f).ReadAll()
	require.NoError(t, err)
	require.Greater(t, len(lines), 5)
	for _, l := range lines[1:] {
		raw := map[string]string{}
		for i, col := range lines[0] {
			raw[col] = l[i]
		}
		do(func(col string) float64 {
			v, err := strconv.ParseFloat(raw[col], 64)
			require.NoError(t, err, "%s %q", col, raw[col])
			return v
		}, raw)
	}
}

func same(t *testing.T, want, got float64, err error) {
	t.Helper()
	require.NoError(t, err)
	require.InDelta(t, want, got, 1e-12*math.Max(1, math.Abs(want)))
}

func TestStrengthsInEveryUnit(t *testing.T) {
	each(t, "concentration_units.csv", func(f func(string) float64, raw map[string]string) {
		for unit, col := range map[Unit]string{Percent: "percent", PPM: "ppm", MgPerL: "mg_per_L_or_kg", GPerL: "g_per_L_or_kg"} {
			from := Unit(raw["given_as"])
			if _, known := inMgPerL[from]; !known {
				continue
			}
			got, err := Strength(f("given"), from, unit)
			same(t, f(col), got, err)
		}
	})
	_, err := Strength(1, "drops", PPM)
	require.Equal(t, "unit", plant.Refusals(err)[0].Field)
}

// published: C1 V1 = C2 V2.
func TestDilutionNeverMakesStronger(t *testing.T) {
	each(t, "dilution.csv", func(f func(string) float64, raw map[string]string) {
		d, err := Dilute(f("c_stock"), f("c_target"), f("v_final_ml"))
		if raw["possible"] == "0" {
			require.Equal(t, "target", plant.Refusals(err)[0].Field)
			return
		}
		same(t, f("v_stock_ml"), d.StockML, err)
		same(t, f("v_diluent_ml"), d.DiluentML, err)
		same(t, f("factor"), d.Factor, err)
		same(t, f("parts_diluent_per_part_stock"), d.Parts, err)
	})
}

func TestWeighingAndTwoStrengthsAndMolar(t *testing.T) {
	each(t, "weigh_out.csv", func(f func(string) float64, _ map[string]string) {
		got, err := WeighOut(f("target_mg_per_L"), f("volume_ml"), f("purity"))
		same(t, f("mass_mg"), got, err)
	})
	each(t, "mix_two_strengths.csv", func(f func(string) float64, _ map[string]string) {
		a, b, err := TwoStrengths(f("c_high"), f("c_low"), f("c_target"), f("total"))
		same(t, f("amount_high"), a, err)
		same(t, f("amount_low"), b, err)
	})
	each(t, "molar.csv", func(f func(string) float64, _ map[string]string) {
		got, err := MmolPerL(f("mg_per_L"), f("molar_mass_g_mol"))
		same(t, f("mmol_per_L"), got, err)
	})
	_, _, err := TwoStrengths(1, 0.2, 2, 10)
	require.Equal(t, "target", plant.Refusals(err)[0].Field)
	_, err = WeighOut(100, 100, 1.2)
	require.Equal(t, "purity", plant.Refusals(err)[0].Field)
}

func TestMixByParts(t *testing.T) {
	list := func(s, sep string) (out []float64) {
		for _, p := range strings.Split(s, sep) {
			v, err := strconv.ParseFloat(p, 64)
			require.NoError(t, err)
			out = append(out, v)
		}
		return out
	}
	each(t, "mix_by_parts.csv", func(f func(string) float64, raw map[string]string) {
		got, err := ByParts(list(raw["parts"], ":"), f("total_ml"))
		require.NoError(t, err)
		require.InDeltaSlice(t, list(raw["volumes_ml"], " "), got, 1e-9)
	})
	_, err := ByParts([]float64{0, 0}, 100)
	require.Equal(t, "parts", plant.Refusals(err)[0].Field)
}

func TestVolumesOfRoundAndSquarePots(t *testing.T) {
	each(t, "pot_volumes.csv", func(f func(string) float64, raw map[string]string) {
		c := Container{raw["shape"] == "square", f("top_mm"), f("bottom_mm"), f("height_mm")}
		got, err := c.VolumeML(f("fill_height_mm"))
		same(t, f("volume_ml"), got, err)
		over, err := c.VolumeML(10 * c.HeightMM)
		require.NoError(t, err)
		full, err := c.VolumeML(c.HeightMM)
		same(t, full, over, err)
	})
}

// published: Graham and others 1998; found again outside by optimisation from many starts.
func TestStemsInAPot(t *testing.T) {
	each(t, "circle_packing.csv", func(f func(string) float64, _ map[string]string) {
		require.InDelta(t, f("ratio_R_over_r"), packing[int(f("n"))-1], 1e-9)
	})
	each(t, "cuttings_per_pot.csv", func(f func(string) float64, raw map[string]string) {
		got, err := StemsIn(f("pot_diameter"), f("spacing"), f("edge_margin"))
		require.NoError(t, err)
		want := int(f("n_max_up_to_19"))
		if raw["n20_also_fits"] == "1" {
			want = MostStems
		}
		require.Equal(t, want, got, "%v", raw)
	})
	none, err := StemsIn(20, 10, 30)
	require.NoError(t, err)
	require.Zero(t, none)
}

// common practice, no source: a quarter of the label strength once there are roots.
func TestFeedIsNeverStrongerThanItsLabel(t *testing.T) {
	got, err := Feed(2, 0.25, 500)
	same(t, 0.25, got, err)
	_, err = Feed(2, 4, 500)
	require.Equal(t, "share", plant.Refusals(err)[0].Field)
}

// Every calculator answers, shows how, and names what is missing.
func TestEveryCalculatorIsSolved(t *testing.T) {
	usual := map[string]float64{
		"stock": 1000, "target": 300, "final_ml": 100, "value": 0.8, "mg_per_l": 100, "volume_ml": 500, "purity": 0.95, "high": 500, "low": 100, "total": 1000,
		"label_per_l": 2, "share": 0.25, "top_mm": 90, "bottom_mm": 68, "height_mm": 85, "fill_mm": 75, "pots": 3, "settling": 0.15, "width_mm": 90, "spacing_mm": 25, "margin_mm": 10, "molar_mass_g": 203.241,
		"level_mm": 60, "stems": 2, "thickness_mm": 8, "depth_mm": 40,
	}
	for _, c := range Calculators() {
		q := Task{Calculator: c.Key, Values: map[string]float64{}, Parts: []float64{1, 1, 1}, From: Percent, To: PPM}
		for _, f := range c.Fields {
			v, ok := usual[f.Key]
			require.True(t, ok, f.Key)
			q.Values[f.Key] = v
		}
		a, err := Solve(q)
		require.NoError(t, err, c.Key)
		require.NotEmpty(t, a.Results, c.Key)
		require.NotEmpty(t, a.Shown, c.Key)
		for _, f := range c.Fields {
			without := Task{Calculator: c.Key, Values: map[string]float64{}}
			for k, v := range q.Values {
				if k != f.Key {
					without.Values[k] = v
				}
			}
			_, err := Solve(without)
			require.Equal(t, f.Key, plant.Refusals(err)[0].Field, c.Key)
		}
		q.Values["luck"] = 1
		_, err = Solve(q)
		require.Equal(t, "luck", plant.Refusals(err)[0].Field)
	}
	_, err := Solve(Task{Calculator: "alchemy"})
	require.Contains(t, err.Error(), "dilute")
}

// published: Archimedes. Without stems it is a cylinder; what the stems take up is not poured in.
func TestStemsTakeUpTheirOwnWater(t *testing.T) {
	bare, rise, err := JarWater(80, 60, 0, 0, 0)
	same(t, math.Pi/4*80*80*60/1000, bare, err)
	require.Zero(t, rise)
	full, rise, err := JarWater(80, 60, 3, 10, 50)
	same(t, bare-3*math.Pi/4*100*50/1000, full, err)
	require.InDelta(t, 3*100*50/6400.0, rise, 1e-12)
	_, _, err = JarWater(80, 60, 1, 8, 70)
	require.Equal(t, "depth_mm", plant.Refusals(err)[0].Field)
	_, _, err = JarWater(30, 60, 9, 10, 20)
	require.Equal(t, "stems", plant.Refusals(err)[0].Field)
}
