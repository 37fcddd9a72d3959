package server_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/propagation/show"
)

func (g grower) trySetting(w show.SettingWish) (a show.SettingAnswer) {
	g.ok("POST", "/api/settings/try", w, &a)
	return a
}

func TestSettingHelpCountsWhatStandsThereAlready(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	pieces := g.cut(g.stem(g.mother(), 7))
	jar := g.jar(3)
	first := show.SettingWish{VesselID: &jar.ID, Pieces: []show.SettingPiece{{CuttingID: pieces[0].ID, SetNodes: 1}}}
	a := g.trySetting(first)
	require.Len(t, a.How, 1)
	require.Equal(t, []string{pieces[0].Code}, a.How[0].Codes)
	require.Len(t, a.Fit.Water.Pieces, 1)
	alone := a.Fit.Water
	g.ok("POST", "/api/settings", setting(pieces[0], jar), nil)
	require.Len(t, g.trySetting(first).Fit.Water.Pieces, 1, "the one that is moved within it is no second one")
	a = g.trySetting(show.SettingWish{VesselID: &jar.ID, Pieces: []show.SettingPiece{{CuttingID: pieces[1].ID, SetNodes: 1}}})
	require.Len(t, a.How, 1, "only what is set is told how")
	require.Len(t, a.Fit.Water.Pieces, 2)
	if a.Fit.Water.LevelMM == alone.LevelMM {
		require.Less(t, a.Fit.Water.ML, alone.ML, "a second stem takes its room")
	}
	// A new one, of moss: no water line, and how both are set.
	box := plant.Vessel{Kind: plant.LiddedBox, Medium: plant.Moss, WidthMM: 180, DepthMM: 110, HeightMM: 110, WallMM: 1, FillMM: 45, Holds: 5}
	a = g.trySetting(show.SettingWish{Vessel: &box, Pieces: []show.SettingPiece{{CuttingID: pieces[0].ID}, {CuttingID: pieces[1].ID}}})
	require.Nil(t, a.Fit.Water)
	require.Len(t, a.How, 1)
	require.Len(t, a.How[0].Codes, 2)

	g.refused(http.StatusUnprocessableEntity, "POST", "/api/settings/try", show.SettingWish{Pieces: []show.SettingPiece{}})
	g.refused(http.StatusUnprocessableEntity, "POST", "/api/settings/try", show.SettingWish{Vessel: &box, VesselID: &jar.ID, Pieces: []show.SettingPiece{}})
	nowhere := id()
	g.refused(http.StatusNotFound, "POST", "/api/settings/try", show.SettingWish{VesselID: &nowhere, Pieces: []show.SettingPiece{}})
	g.refused(http.StatusNotFound, "POST", "/api/settings/try", show.SettingWish{Vessel: &box, Pieces: []show.SettingPiece{{CuttingID: nowhere}}})
	empty := g.trySetting(show.SettingWish{VesselID: &jar.ID, Pieces: []show.SettingPiece{}})
	require.Empty(t, empty.How)
	require.NotEmpty(t, empty.Fit.Water, "what stands there stands in water")
}
