package plant

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// A new medium is one row: everything that is asked of a medium is told by it, for every group and kind of piece.
func TestAMediumIsOneRow(t *testing.T) {
	had := media
	defer func() { media = had }()
	media = append(append([]MediumRow{}, had...), MediumRow{
		Medium: "pumice", Hidden: true, Tugs: true, Hazards: hazards(PerliteDust), like: Perlite,
		LookEvery: Number{Key: "readiness.look_every.pumice", Value: 14}, Rots: Number{Key: "cutplan.rot_pumice", Value: 0.03},
		ready: []settingRow{{say: []string{"Rinse it."}}}, place: []string{"Bury the base."},
		GlanceEvery: Number{Key: "care.glance.pumice", Value: 7}, Moisten: GiveWater, Fill: "height of the pumice",
	})
	require.True(t, Medium("pumice").Known())
	for _, sort := range VesselSorts() {
		v := sort.Usual
		v.Medium = "pumice"
		require.NoError(t, v.Check(), sort.Kind)
	}
	for _, g := range Groups() {
		require.InDelta(t, g.WakeIn(Perlite), g.WakeIn("pumice"), 0, g.Key)
		require.Greater(t, g.WakeIn("pumice"), 0.0, g.Key)
		for _, k := range KindRows() {
			how, err := HowToSet(g, k.Kind, "", "pumice")
			require.NoError(t, err)
			require.Equal(t, "Rinse it.", how.Steps[0], "%s %s", g.Key, k.Kind)
			require.GreaterOrEqual(t, len(how.Steps), 2, "%s %s", g.Key, k.Kind)
			require.Contains(t, how.Unusual, "not usually rooted in pumice")
			require.NotEmpty(t, how.Cautions)
		}
	}
	require.Zero(t, Group{}.WakeIn("pumice"))
}
