package exchange

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
)

func stem() StemRecord {
	return StemRecord{
		Line: 1, Mother: "MEL", MotherName: "=Philodendron, \"black gold\"", Group: "velvet_climber", Pattern: "plain", Stem: "A",
		Map: plant.Stem{
			ThicknessMM: 9.5, BeyondMM: 30, TipIntact: true, Wood: plant.HalfRipe, Organ: plant.StemOrgan, Sprang: &plant.Sprang{Letter: "B", Node: 3},
			Nodes: []plant.Node{
				{BelowMM: 40.25, Leaf: true, Bud: plant.BudDormant, Stripe: plant.StripeSome},
				{BelowMM: 38, Aerial: true, Bud: plant.BudSwelling},
			},
		},
	}
}

func plan() PlanRecord {
	r := PlanRecord{Line: 1, Mother: "MEL"}
	r.Conditions.Medium = plant.Moss
	r.Stems = []PlanStem{{Stem: "A", Version: 2, KnivesMM: []float64{60, 100.5}, Pieces: []PlanPiece{
		{First: 2, Last: 2, Kind: plant.LeafBud, FromMM: 60, ToMM: 100.5, Set: 1, Chance: 0.5},
		{First: 3, Last: 4, Kind: plant.Tip, FromMM: 100.5, ToMM: 180, Set: 2, Chance: 0.8},
	}}}
	return r
}

func TestStemMapsComeBackAsTheyWere(t *testing.T) {
	asJSON, err := WriteJSON(StemMaps, []StemRecord{stem()})
	require.NoError(t, err)
	asCSV, err := StemsCSV([]StemRecord{stem()})
	require.NoError(t, err)
	for format, data := range map[string][]byte{JSON: asJSON, CSV: asCSV} {
		got, wrong, err := ReadStems(format, data)
		require.NoError(t, err, format)
		require.Zero(t, wrong.Count, format)
		want := stem()
		want.Line = got[0].Line
		require.Equal(t, []StemRecord{want}, got, format)
	}
	require.Contains(t, string(asCSV), "'=Philodendron", "a spreadsheet must not run a name")
}

func TestPlansComeBackWithTheirKnives(t *testing.T) {
	asJSON, err := WriteJSON(CutPlans, []PlanRecord{plan()})
	require.NoError(t, err)
	asCSV, err := PlansCSV([]PlanRecord{plan()})
	require.NoError(t, err)
	for format, data := range map[string][]byte{JSON: asJSON, CSV: asCSV} {
		got, wrong, err := ReadPlans(format, data)
		require.NoError(t, err, format)
		require.Zero(t, wrong.Count, format)
		require.Equal(t, plan().Stems[0].KnivesMM, got[0].Stems[0].KnivesMM, format)
		require.Equal(t, plant.Moss, got[0].Conditions.Medium, format)
		require.Equal(t, 2, got[0].Stems[0].Version)
	}
}

func TestEveryBadRowIsNamedAndTheGoodOnesStay(t *testing.T) {
	file := `mother,stem,node,below_mm,leaf,bud,thickness_mm
MEL,A,1,40,true,dormant,9
MEL,A,2,38,false,,9
MEL,B,1,0,true,dormant,9
MEL,C,2,30,true,dormant,9
MEL,D,1,wide,true,dormant,9
,E,1,30,true,dormant,9
MEL,F,1,30,maybe,dormant,9
MEL,G,1,30,true,green,9
MEL,H,1,30,true,dormant
MEL,I,1,,true,dormant,9
MEL,J,1,1e9,true,dormant,9
MEL,K,1,30,true,dormant,9
`
	good, wrong, err := ReadStems(CSV, []byte(file))
	require.NoError(t, err)
	names := []string{}
	for _, r := range good {
		names = append(names, r.Stem)
	}
	require.Equal(t, []string{"A", "K"}, names)
	require.Len(t, good[0].Map.Nodes, 2)
	lines := []string{}
	for _, b := range wrong.Rows {
		lines = append(lines, fmt.Sprintf("%d %s", b.Line, b.Field))
		require.NotEmpty(t, b.Reason)
	}
	require.Equal(t, []string{
		"4 nodes[0].below_mm", "5 node", "6 below_mm", "7 mother", "8 leaf", "9 nodes[0].bud", "10 row", "11 below_mm", "12 nodes[0].below_mm",
	}, lines)
}

func TestOneBadRecordOfJSONDoesNotHideTheOthers(t *testing.T) {
	good, err := WriteJSON(StemMaps, []StemRecord{stem()})
	require.NoError(t, err)
	file := strings.Replace(string(good), `"records": [`, `"records": [{"mother": "AMY", "stem": "A", "colour": "red"}, {"mother": "AMY", "stem": "B", "map": {"nodes": []}},`, 1)
	got, wrong, err := ReadStems(JSON, []byte(file))
	require.NoError(t, err)
	require.Len(t, got, 1)
	require.Equal(t, 3, got[0].Line)
	require.Equal(t, []int{1, 2, 2}, []int{wrong.Rows[0].Line, wrong.Rows[1].Line, wrong.Rows[2].Line})
	require.Contains(t, wrong.Rows[0].Reason, "colour")
	twice := strings.Replace(string(good), "\n  ]", ","+strings.TrimSuffix(strings.SplitN(string(good), "[", 2)[1], "\n  ]\n}\n")+"\n ]", 1)
	_, wrong, err = ReadStems(JSON, []byte(twice))
	require.NoError(t, err, twice)
	require.Contains(t, wrong.Rows[0].Reason, "already")
}

func TestFilesThatCannotBeRead(t *testing.T) {
	for want, file := range map[string]struct {
		format string
		data   string
	}{
		"empty":                 {CSV, "  \n"},
		"is not JSON":           {JSON, "mother,stem"},
		`format is "other"`:     {JSON, `{"format": "other", "version": 1}`},
		"version 2":             {JSON, `{"format": "clearjar/stem-maps", "version": 2}`},
		`column "price"`:        {CSV, "mother,stem,node,below_mm,price\n"},
		`"below_mm" is missing`: {CSV, "mother,stem,node\n"},
		"json or csv":           {"xlsx", "PK"},
		"larger than":           {CSV, strings.Repeat("a", MostBytes+1)},
	} {
		_, _, err := ReadStems(file.format, []byte(file.data))
		require.ErrorContains(t, err, want)
		require.Len(t, plant.Refusals(err), 1)
	}
	_, wrong, err := ReadPlans(CSV, []byte("plan,mother,stem,map_version,from_mm,to_mm\n1,MEL,A,1,60,40\n1,AMY,A,1,60,90\n2,MEL,A,x,60,90\n"))
	require.NoError(t, err)
	require.Equal(t, 3, wrong.Count)
}

func FuzzReadStems(f *testing.F) {
	asJSON, _ := WriteJSON(StemMaps, []StemRecord{stem()})
	asCSV, _ := StemsCSV([]StemRecord{stem()})
	f.Add(true, asJSON)
	f.Add(false, asCSV)
	f.Fuzz(func(t *testing.T, isJSON bool, data []byte) {
		format := map[bool]string{true: JSON, false: CSV}[isJSON]
		records, _, err := ReadStems(format, data)
		if err != nil {
			return
		}
		for _, r := range records {
			if err := r.Map.Check(); err != nil {
				t.Fatalf("a bad map came through: %v", err)
			}
		}
	})
}
