package main

import (
	"bytes"
	"encoding/json"
	"strings"
	"testing"

	"github.com/spf13/cobra"
	"github.com/stretchr/testify/require"

	"clearjar/core/climate"
	"clearjar/core/cutplan"
	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/core/practice"
	"clearjar/core/readiness"
	"clearjar/core/solution"
)

// run gives a command its standard input and reads its answer into out.
func run(t *testing.T, cmd *cobra.Command, in string, out any) error {
	t.Helper()
	var answer bytes.Buffer
	cmd.SetIn(strings.NewReader(in))
	cmd.SetOut(&answer)
	cmd.SetErr(&answer)
	cmd.SilenceUsage, cmd.SilenceErrors = true, true
	cmd.SetArgs([]string{})
	err := cmd.Execute()
	if err == nil {
		require.NoError(t, json.Unmarshal(answer.Bytes(), out))
	}
	return err
}

const leafy = `{"below_mm": 40, "leaf": true, "bud": "dormant"}`

func TestPlanFromAScript(t *testing.T) {
	var plan cutplan.Plan
	stem := `{"nodes": [` + strings.Repeat(leafy+",", 4) + leafy + `], "beyond_mm": 20, "thickness_mm": 8, "tip_intact": true}`
	require.NoError(t, run(t, planCommand(), `{"group": "soft_climber", "stem": `+stem+`}`, &plan))
	require.Len(t, plan.Pieces, 2)
	require.NoError(t, run(t, planCommand(), `{"group": "soft_climber", "knives_mm": [60], "stem": `+stem+`}`, &plan))
	require.Len(t, plan.Pieces, 1)
	require.ErrorContains(t, run(t, planCommand(), `{"group": "oak", "stem": `+stem+`}`, &plan), "soft_climber")
	// Aims, schools and numbers reach the core as from the screen.
	more := `, "aim": {"kind": "at_least", "at_least": 2}, "conditions": {"knife": "below_node", "hormone": true}, "numbers": [{"key": "wake.soft_climber.water", "value": 0.5}]`
	require.NoError(t, run(t, planCommand(), `{"group": "soft_climber", "stem": `+stem+more+`}`, &plan))
	require.True(t, plan.Pieces[0].Slant)
	require.Equal(t, plant.YourChoice, plan.Pieces[0].Start.Basis.Kind)
	require.ErrorContains(t, run(t, planCommand(), `{"group": "soft_climber", "numbers": [{"key": "luck", "value": 1}], "stem": `+stem+`}`, &plan), "luck")
	require.ErrorContains(t, run(t, planCommand(), `{"grup": 1}`, &plan), "clearjar help plan")
}

// common practice, no source: thin black roots of pitcher vines are healthy.
func TestJudgeFromAScript(t *testing.T) {
	root := func(mm string) string {
		return `{"node": 1, "order": 1, "length_mm": ` + mm + `, "low_mm": ` + mm + `, "high_mm": ` + mm + `, "colour": "black", "how": "typed"}`
	}
	in := func(more string) string {
		return `{"group": "pitcher_vine", "medium": "perlite", "school": "early_roots", "today": "2026-06-10T12:00:00Z", "set_on": "2026-04-01T12:00:00Z",
			"set_nodes": 1, "looks": [{"on": "2026-06-09T12:00:00Z", "look": {"roots_counted": true, "stem": "firm", "roots": [` + root("22") + `,` + root("12") + `]` + more + `}}]}`
	}
	var j readiness.Judgement
	require.NoError(t, run(t, judgeCommand(), in(""), &j))
	require.Equal(t, plant.Ready, j.Verdict)
	require.NoError(t, run(t, judgeCommand(), in(`, "root_feel": "mushy"`), &j))
	require.Equal(t, plant.Rescue, j.Verdict)
	require.Error(t, run(t, judgeCommand(), in(`, "rot_mm": -4`), &j))
	late := strings.Replace(in(""), `"today": "2026-06-10`, `"kind": "leaf_bud", "leaf_kept": false, "cover": "on", "today": "2026-05-10`, 1)
	require.ErrorContains(t, run(t, judgeCommand(), late, &j), "lies after today")
	byVessel := strings.Replace(in(""), `"medium": "perlite"`, `"vessel": "lidded_cup", "kind": "stem", "leaf_kept": true, "cover": "vented"`, 1)
	require.NoError(t, run(t, judgeCommand(), byVessel, &j))
	require.Equal(t, plant.Ready, j.Verdict)
}

func TestPotFromAScript(t *testing.T) {
	var a potting.Advice
	require.NoError(t, run(t, potCommand(), `{"group": "wax_vine", "longest_mm": 62}`, &a))
	require.Equal(t, 70.0, a.Pot.TopMM)
	require.Error(t, run(t, potCommand(), `{"group": "wax_vine", "longest_mm": -1}`, &a))
	require.Error(t, run(t, potCommand(), `not json`, &a))
	var several potting.Potfuls
	require.NoError(t, run(t, potCommand(), `{"plants": [{"name": "a", "group": "cissus_kin", "kind": "stem", "longest_mm": 15}, {"name": "b", "group": "cissus_kin", "kind": "stem", "longest_mm": 14},
		{"name": "c", "group": "wax_vine", "kind": "stem", "longest_mm": 40}]}`, &several))
	require.Len(t, several.Pots, 2)
	require.InDelta(t, 72, several.Pots[0].ApartMM, 1e-9, "two in 100 mm, 14 mm from the rim")
	require.ErrorContains(t, run(t, potCommand(), `{"plants": [{"name": "a", "group": "moonweed"}]}`, &several), "moonweed")
}

// A short run: what it prints is what the benchmark measured.
func TestCalibrateFromAScript(t *testing.T) {
	var out struct{ Rows []practice.Row }
	c := calibrateCommand()
	c.SetArgs([]string{"--seed", "3", "--cuttings", "20", "--json"})
	var text bytes.Buffer
	c.SetOut(&text)
	require.NoError(t, c.Execute())
	require.NoError(t, json.Unmarshal(text.Bytes(), &out))
	require.Greater(t, len(out.Rows), 150)
	c.SetArgs([]string{"--cuttings", "3"})
	require.ErrorContains(t, c.Execute(), "20 to 20000")
}

// published: FAO-56 equation 11: air of 25 degrees C is full at 3.168 kPa (its example 5, from memory).
func TestClimateFromAScript(t *testing.T) {
	var out climateOut
	require.NoError(t, run(t, climateCommand(), `{"temp_c": 25, "humidity_pct": 0, "stage": "rooting", "day_min_c": 18, "day_max_c": 26, "base": {"base_c": 15}, "light": [{"ppfd": 100, "hours": 10}]}`, &out))
	require.InDelta(t, 3.168, out.DeficitKPa, 0.0005)
	require.Equal(t, climate.TooDry, out.Findings[0].Fault)
	require.InDelta(t, 7, *out.DegreeDays, 1e-12)
	require.InDelta(t, 3.6, *out.DLI, 1e-12)
	require.ErrorContains(t, run(t, climateCommand(), `{"temp_c": 25, "humidity_pct": 130}`, &out), "100 %")
	require.ErrorContains(t, run(t, climateCommand(), `{"temp_c": 25, "humidity_pct": 50, "day_min_c": 20, "day_max_c": 10}`, &out), "below day_min_c")
}

func TestSolveFromAScript(t *testing.T) {
	var a solution.Solved
	require.NoError(t, run(t, solveCommand(), `{"calculator": "dilute", "values": {"stock": 1000, "target": 300, "final_ml": 100}}`, &a))
	require.InDelta(t, 30, a.Results[0].Value, 1e-12)
	require.Contains(t, a.Shown, "100 ml x 300 / 1000 = 30 ml")
	require.ErrorContains(t, run(t, solveCommand(), `{"calculator": "dilute", "values": {"stock": 1, "target": 300, "final_ml": 100}}`, &a), "stronger than the stock")
	require.ErrorContains(t, run(t, solveCommand(), `{"calculator": "dilute", "values": {"stock": 1}}`, &a), "is missing")
}

func TestDueFromAScript(t *testing.T) {
	var out []dueOut
	in := func(visits, more string) string {
		return `{"at": "2026-11-20T09:00:00+01:00", "vessels": [{"id": "7", "kind": "jar", "since": "2026-11-05T09:00:00+01:00", "visits": [` + visits + `],
			"pieces": [{"code": "CIS-A5", "group": "soft_climber", "kind": "stem", "set_on": "2026-11-05T09:00:00+01:00"}]}]` + more + `}`
	}
	require.NoError(t, run(t, dueCommand(), in("", ""), &out))
	require.Equal(t, "7", out[0].ID)
	require.Equal(t, plant.ChangeWater, out[0].Tasks[0].Act)
	require.True(t, out[0].Tasks[0].Late)
	done := `{"at": "2026-11-19T20:00:00+01:00", "acts": ["change_water"]}`
	require.NoError(t, run(t, dueCommand(), in(done, ""), &out))
	require.Empty(t, out[0].Tasks)
	require.NoError(t, run(t, dueCommand(), in(done, `, "schools": {"look": "daily"}, "zone": "Europe/Vienna"`), &out))
	require.Equal(t, plant.Glance, out[0].Tasks[0].Act)
	require.ErrorContains(t, run(t, dueCommand(), in(`{"at": "2026-11-19T20:00:00+01:00", "acts": ["air"]}`, ""), &out), "vessels[0] 7: visits[0]")
	require.ErrorContains(t, run(t, dueCommand(), in("", `, "schools": {"water": "weekly"}`), &out), "weekly")
	require.ErrorContains(t, run(t, dueCommand(), in("", `, "zone": "Mars"`), &out), "Mars")
	require.ErrorContains(t, run(t, dueCommand(), `{}`, &out), "which instant")
}
