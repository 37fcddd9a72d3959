package climate

import (
	"encoding/csv"
	"fmt"
	"math"
	"os"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/number"
	"clearjar/core/plant"
)

// The tables in testdata come from outside: the published formulas evaluated to 40 digits by other programs.
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

func close(t *testing.T, want, got float64, what string) {
	t.Helper()
	require.InDelta(t, want, got, 1e-12*math.Max(1, math.Abs(want)), what)
}

// published: FAO-56 equations 11 and 13; its Annex 2, Table 2.3 to three decimals (from memory).
func TestSaturationAgainstFAO56(t *testing.T) {
	each(t, "saturation_vapour_pressure.csv", func(f func(string) float64, raw map[string]string) {
		c := f("T_C")
		close(t, f("es_fao56_eq11_kPa"), SaturationKPa(c), raw["T_C"])
		close(t, f("slope_delta_fao56_eq13_kPa_per_C"), SlopeKPa(c), raw["T_C"])
		if print := f("fao56_table_2_3_from_memory"); !math.IsNaN(print) {
			require.InDelta(t, print, SaturationKPa(c), 0.0005)
		}
		// The international formula for water (Wagner and Pruss) is another witness.
		require.InEpsilon(t, f("es_wagner_pruss_kPa"), SaturationKPa(c), 0.002)
	})
}

func TestDeficitOfAirAndLeaf(t *testing.T) {
	each(t, "vpd.csv", func(f func(string) float64, raw map[string]string) {
		a := Air{f("T_air_C"), f("RH_pct")}
		close(t, f("ea_kPa"), a.VapourKPa(), "ea")
		close(t, f("vpd_air_kPa"), a.DeficitKPa(), "air")
		close(t, f("vpd_leaf_kPa"), a.LeafDeficitKPa(f("T_leaf_C")), "leaf")
	})
}

func TestDewPointAndWaterInTheAir(t *testing.T) {
	each(t, "dewpoint_humidity.csv", func(f func(string) float64, raw map[string]string) {
		a := Air{f("T_C"), f("RH_pct")}
		dew, ok := a.DewPointC()
		require.True(t, ok)
		require.InDelta(t, f("dew_C_fao"), dew, 1e-10)
		close(t, f("abs_humidity_g_m3"), a.WaterGM3(), "g/m3")
		close(t, a.VapourKPa(), SaturationKPa(dew), "at its dew point the air is full")
	})
	_, ok := Air{20, 0}.DewPointC()
	require.False(t, ok)
}

// published: McMaster and Wilhelm 1997, methods 1 and 2.
func TestDegreeDays(t *testing.T) {
	each(t, "degree_days.csv", func(f func(string) float64, raw map[string]string) {
		low, high := f("T_min_C"), f("T_max_C")
		th := Threshold{BaseC: f("T_base_C")}
		close(t, f("dd_average"), th.DegreeDays(low, high), fmt.Sprint(raw))
		th.Clipped = true
		close(t, f("dd_clip_to_base"), th.DegreeDays(low, high), fmt.Sprint(raw))
		if th.UpperC = f("T_upper_C"); !math.IsNaN(th.UpperC) {
			th.HasUpper = true
			close(t, f("dd_clip_both"), th.DegreeDays(low, high), fmt.Sprint(raw))
			th.Clipped = false
			close(t, f("dd_average_upper"), th.DegreeDays(low, high), fmt.Sprint(raw))
		}
	})
	sum := 0.0
	each(t, "degree_day_series.csv", func(f func(string) float64, _ map[string]string) {
		sum += Threshold{BaseC: f("T_base_C")}.DegreeDays(f("T_min_C"), f("T_max_C"))
		close(t, f("acc_average"), sum, "series")
	})
}

func TestLightOfADay(t *testing.T) {
	each(t, "dli.csv", func(f func(string) float64, raw map[string]string) {
		day := []Light{}
		if parts := raw["segments_ppfd_x_hours"]; parts != "" {
			for _, p := range strings.Fields(parts) {
				ppfd, hours, _ := strings.Cut(p, "x")
				l, err := strconv.ParseFloat(ppfd, 64)
				require.NoError(t, err)
				h, err := strconv.ParseFloat(hours, 64)
				require.NoError(t, err)
				day = append(day, Light{l, h})
			}
		} else {
			day = append(day, Light{f("ppfd_umol_m2_s"), f("hours")})
		}
		close(t, f("dli_mol_m2_d"), DLI(day...), fmt.Sprint(raw))
	})
	each(t, "dli_to_ppfd.csv", func(f func(string) float64, raw map[string]string) {
		ppfd, ok := PPFDFor(f("dli_mol_m2_d"), f("hours"))
		require.True(t, ok)
		close(t, f("ppfd_needed_umol_m2_s"), ppfd, fmt.Sprint(raw))
	})
	_, ok := PPFDFor(5, 0)
	require.False(t, ok)
}

func TestAirThatCannotBe(t *testing.T) {
	require.NoError(t, Air{22, 85}.Check())
	require.Len(t, plant.Refusals(Air{90, 130}.Check()), 2)
	require.Len(t, plant.Refusals(Air{math.NaN(), math.NaN()}.Check()), 2)
}

// common practice, no source: pieces without roots want moist, warm air; hardening off goes step by step to that of a room.
func TestTheSameAirIsJudgedByTheStage(t *testing.T) {
	faults := func(a Air, leaf *float64, s StageKey) []Fault {
		j, err := Judge(number.Table{}, a, leaf, s)
		require.NoError(t, err)
		require.NotEmpty(t, j.Says)
		out := []Fault{}
		for _, f := range j.Findings {
			require.NotEmpty(t, f.Says)
			out = append(out, f.Fault)
		}
		return out
	}
	room := Air{22, 55}
	require.Equal(t, []Fault{TooDry}, faults(room, nil, Unrooted))
	require.Equal(t, []Fault{TooDry}, faults(room, nil, Rooting))
	require.Empty(t, faults(room, nil, Hardening))
	box := Air{23, 92}
	require.Empty(t, faults(box, nil, Unrooted))
	require.Equal(t, []Fault{TooWet}, faults(box, nil, Hardening))
	cold := 15.0
	require.Equal(t, []Fault{Dew}, faults(box, &cold, Unrooted))
	require.Equal(t, []Fault{TooCold}, faults(Air{16, 85}, nil, Unrooted))
	require.Equal(t, []Fault{TooDry, TooWarm}, faults(Air{35, 60}, nil, Rooting))
	_, err := Judge(number.Table{}, room, nil, "asleep")
	require.Equal(t, "stage", plant.Refusals(err)[0].Field)
	_, err = Judge(number.Table{}, Air{22, 300}, nil, Rooting)
	require.Equal(t, "humidity_pct", plant.Refusals(err)[0].Field)
	for i := 1; i < len(stages); i++ { // each stage is drier than the one before
		require.Greater(t, stages[i].DeficitHigh.Value, stages[i-1].DeficitHigh.Value)
		require.GreaterOrEqual(t, stages[i].DeficitLow.Value, stages[i-1].DeficitLow.Value)
	}
}

// Of every air there can be: the dew point is never above the air, and a drier air has the greater deficit.
func FuzzAir(f *testing.F) {
	f.Add(22.0, 85.0, 3.0)
	f.Fuzz(func(t *testing.T, c, rh, drier float64) {
		a := Air{c, rh}
		if a.Check() != nil || !(drier > 0 && drier < rh) {
			t.Skip()
		}
		b := Air{c, rh - drier}
		require.GreaterOrEqual(t, b.DeficitKPa(), a.DeficitKPa())
		require.GreaterOrEqual(t, a.DeficitKPa(), -1e-12)
		if dew, ok := a.DewPointC(); ok {
			require.LessOrEqual(t, dew, c+1e-9)
		}
	})
}
