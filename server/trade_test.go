package server_test

import (
	"io"
	"net/http"
	"strings"
	"testing"

	"clearjar/propagation/bench"
	"clearjar/propagation/door"
	"clearjar/propagation/files"
	"clearjar/propagation/show"

	"github.com/stretchr/testify/require"
)

func (g grower) download(path string) []byte {
	g.t.Helper()
	res, err := g.client.Get(g.base + path)
	require.NoError(g.t, err)
	defer func() { _ = res.Body.Close() }()
	data, err := io.ReadAll(res.Body)
	require.NoError(g.t, err)
	require.Equal(g.t, http.StatusOK, res.StatusCode, "%s", data)
	return data
}

func (g grower) bring(path string, data []byte) files.ImportReport {
	g.t.Helper()
	var r files.ImportReport
	g.ok("POST", path, data, &r)
	return r
}

// What one garden writes, another reads, to the last node.
func TestStemMapsGoFromOneGardenToAnother(t *testing.T) {
	t.Parallel()
	for _, format := range []string{"json", "csv"} {
		from, to := newGrower(t), newGrower(t)
		m := from.mother()
		from.stem(m, 5)
		from.stem(m, 3)
		data := from.download("/api/export/stems?format=" + format)
		report := to.bring("/api/import/stems?format="+format, data)
		require.Equal(t, 2, report.Kept, "%+v", report)
		var mothers []show.Mother
		to.ok("GET", "/api/mothers", nil, &mothers)
		require.Equal(t, m.Name, mothers[0].Name)
		require.Len(t, mothers[0].Stems, 2)
		require.Len(t, mothers[0].Stems[0].Stem.Nodes, 5)
		if format == "json" {
			require.Equal(t, data, to.download("/api/export/stems?format=json"))
		}
		again := to.bring("/api/import/stems?format="+format, to.download("/api/export/stems?format="+format))
		require.Equal(t, []int{0, 2}, []int{again.Kept, again.Same}, "twice is once")
	}
}

func TestNothingIsKeptOfABadFileUnlessAsked(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	m := g.mother()
	file := []byte(strings.ReplaceAll(`mother,mother_name,group,stem,node,below_mm
CODE,,,A,1,40
NEW,Newcomer,thick_climber,A,1,30
LOS,,,A,1,30
CODE,,,D,1,40
WRO,Wrong,no_group,A,1,40
CODE,,,B,1,-3
`, "CODE", m.Code))
	report := g.bring("/api/import/stems?format=csv", file)
	require.Zero(t, report.Kept)
	require.Contains(t, report.Says, "Nothing was kept")
	fields := map[int]string{}
	for _, b := range report.Bad {
		fields[b.Line] = b.Field
	}
	require.Equal(t, map[int]string{4: "mother", 6: "group_key", 7: "nodes[0].below_mm"}, fields)
	var mothers []show.Mother
	g.ok("GET", "/api/mothers", nil, &mothers)
	require.Len(t, mothers, 1)

	report = g.bring("/api/import/stems?format=csv&keep_good=true", file)
	require.Equal(t, 3, report.Kept)
	require.Equal(t, []string{m.Code + "-A", "NEW-A", m.Code + "-D"}, report.Names)
	g.ok("GET", "/api/mothers", nil, &mothers)
	require.Len(t, mothers, 2)

	// No mother is taken in for a stem that cannot be kept.
	report = g.bring("/api/import/stems?format=csv&keep_good=true", []byte("mother,mother_name,group,stem,node,below_mm\nLAT,Late,thick_climber,7,1,30\n"))
	require.Contains(t, report.Bad[0].Reason, "letter")
	g.ok("GET", "/api/mothers", nil, &mothers)
	require.Len(t, mothers, 2)
}

func TestPlanThatSaysNoSenseIsABadRow(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	m := g.mother()
	g.stem(m, 6)
	row := "plan,mother,stem,map_version,medium,from_mm,to_mm\n1," + m.Code + ",A,1,lava,60,140\n"
	report := g.bring("/api/import/plans?format=csv&keep_good=true", []byte(row))
	require.Equal(t, "conditions.medium", report.Bad[0].Field)
	bad := `{"format": "clearjar/cut-plans", "version": 1, "records": [{"mother": "` + m.Code + `", "limits": {"least_nodes": 4, "most_nodes": 1, "tip_most": 4}, "stems": [{"stem": "A", "map_version": 1, "knives_mm": [60]}]}]}`
	report = g.bring("/api/import/plans?format=json&keep_good=true", []byte(bad))
	require.Contains(t, report.Bad[0].Reason, "contradict")
	var list bench.PlanList
	g.ok("GET", "/api/plans", nil, &list)
	plans := list.Plans
	require.Empty(t, plans)
}

func TestPlansGoOutAndComeIn(t *testing.T) {
	t.Parallel()
	for _, format := range []string{"json", "csv"} {
		from, to := newGrower(t), newGrower(t)
		stem := from.stem(from.mother(), 7)
		w := wishFor(stem, from.plan(wishFor(stem)).Stems[0].Plan.KnivesMM...)
		from.ok("POST", "/api/plans", door.NewPlan{ID: id(), PlanWish: w}, nil)
		plans := from.download("/api/export/plans?format=" + format)
		early := to.bring("/api/import/plans?format="+format, plans)
		require.Contains(t, early.Bad[0].Reason, "is not here")
		to.bring("/api/import/stems?format=json", from.download("/api/export/stems"))
		require.Equal(t, 1, to.bring("/api/import/plans?format="+format, plans).Kept)
		require.Equal(t, 1, to.bring("/api/import/plans?format="+format, plans).Same)
		require.Equal(t, string(plans), string(to.download("/api/export/plans?format="+format)))
		late := to.bring("/api/import/plans?format=csv", []byte("plan,mother,stem,map_version,from_mm,to_mm\n1,CRY,A,9,60,140\n1,CRY,Z,1,60,140\n"))
		require.Len(t, late.Bad, 1)
	}
	g := newGrower(t)
	g.refused(http.StatusUnprocessableEntity, "POST", "/api/import/stems?format=csv", []byte("colour\n"))
	g.refused(http.StatusUnprocessableEntity, "POST", "/api/import/shoes?format=csv", []byte("x"))
}
