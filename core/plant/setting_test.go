package plant

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

func howTo(t *testing.T, group string, kind PieceKind, form LeafForm, in Medium) (HowTo, string) {
	t.Helper()
	g, ok := GroupNamed(group)
	require.True(t, ok)
	s, err := HowToSet(g, kind, form, in)
	require.NoError(t, err)
	return s, strings.Join(s.Steps, " ")
}

// common practice, no source: callus first, set dry, no cover, no water for two days, then at about 80 % dry.
func TestSucculentsAreSetDryAndOpen(t *testing.T) {
	for _, g := range Groups() {
		for _, k := range KindRows() {
			for _, v := range Media() {
				s, text := howTo(t, g.Key, k.Kind, sectionIf(k.Kind), v.Medium)
				require.NotEmpty(t, s.Steps)
				require.NotContains(t, text, "  ")
				if g.Keeping != Dry {
					continue
				}
				require.NotContains(t, text, "until it drains", "%s %s %s", g.Key, k.Kind, v.Medium)
				require.NotContains(t, text, "Lid on", "%s %s %s", g.Key, k.Kind, v.Medium)
				require.NotContains(t, text, "Cover with", "%s %s %s", g.Key, k.Kind, v.Medium)
				if v.Medium == Mix {
					require.Contains(t, text, "80 %", "%s %s", g.Key, k.Kind)
					require.Contains(t, text, "No water for two days")
				}
			}
		}
	}
}

// sectionIf is a section for a leaf, no form for anything else.
func sectionIf(k PieceKind) LeafForm {
	if k == LeafPiece {
		return LeafSection
	}
	return ""
}

// common practice, no source: what one text says of the lid no other text of the same setting denies.
func TestLidIsSaidOnceAndOnlyOneWay(t *testing.T) {
	for _, g := range Groups() {
		for _, v := range Media() {
			s, text := howTo(t, g.Key, g.Kinds[0], sectionIf(g.Kinds[0]), v.Medium)
			shut := strings.Contains(text, "do not open it")
			require.Equal(t, s.Cover.Shut, shut)
			if shut {
				require.NotContains(t, text, "ajar")
				require.NotContains(t, text, "holes")
				require.NotContains(t, g.Note, "closed", g.Key)
				require.NotContains(t, g.Note, "vented", g.Key)
			}
		}
	}
}

// common practice, no source: handbook 3.11, kind by kind.
func TestPicturesAndWordsFollowTheKind(t *testing.T) {
	for _, c := range []struct {
		group string
		kind  PieceKind
		form  LeafForm
		in    Medium
		pose  Pose
		says  string
	}{
		{"butterwort", LeafPiece, PulledLeaf, Moss, OnTop, "Never cover"},
		{"gesneriad", LeafPiece, WholeLeaf, Mix, Stalk, "stalk only"},
		{"gesneriad", LeafPiece, WholeLeaf, Water, Stalk, "Only the stalk under water"},
		{"peperomia", LeafPiece, HalfLeaf, Moss, Upright, "Cut edge down"},
		{"sword_succulent", LeafPiece, LeafSection, Mix, Upright, "25 mm in"},
		{"sword_succulent", LeafPiece, LeafSection, Water, Upright, "bottom fifth"},
		{"rosette_succulent", LeafPiece, WholeLeaf, Mix, OnTop, "until the cut has healed"},
		{"rosette_succulent", Head, "", Mix, Perched, "empty pot"},
		{"rosette_succulent", LeafPiece, HeelLeaf, Mix, OnTop, "until the cut has healed"},
		{"peperomia", LeafPiece, HalfAcross, Moss, Upright, "the half with the stalk by its stalk"},
		{"heart_vine", Pair, "", Mix, Flat, "Three to a pot"},
		{"heart_vine", Strand, "", Water, Hanging, "hang the strand over the rim"},
		{"clump_former", BackRhizome, "", Mix, Flat, "within a year"},
		{"clump_former", Pup, "", Mix, Crown, "depth it grew"},
		{"pitcher_vine", StemCutting, "", Perlite, Upright, "almost to the next node"},
		{"soft_shrub", Tip, "", Mix, Upright, "up to twenty close together"},
		{"runner_former", Runner, "", Mix, Flat, "Lay it flat"},
		{"creeping_rhizome", RhizomePiece, "", Moss, Lying, "half exposed"},
		{"heart_vine", Tuber, "", Mix, HalfBuried, "half buried"},
		{"clump_former", Division, "", Mix, Crown, "same depth"},
		{"velvet_climber", StemCutting, "", Moss, Upright, "do not bury"},
	} {
		s, text := howTo(t, c.group, c.kind, c.form, c.in)
		require.Equal(t, c.pose, s.Pose, c.group)
		require.Contains(t, text, c.says, c.group)
		require.NotEmpty(t, s.Shows)
	}
	_, err := HowToSet(Group{}, Tip, "", "bucket")
	require.Equal(t, "medium", Refusals(err)[0].Field)
}

func TestNamesThatCannotBeSeenAreRefused(t *testing.T) {
	for _, bad := range []string{"", "  ", "\u200b\u200b", "a\x00b", "a\nb", "\u200d", "\ufeff", string([]byte{0xff})} {
		_, err := CleanName("name", bad, 80)
		require.Error(t, err, "%q", bad)
	}
	for _, good := range []string{"Hoya", "\u017b\u00f3\u0142ta li\u015b\u0107", "\U0001F33F", "\u0e1e\u0e25\u0e39", "\U0001F468\u200d\U0001F33E"} {
		got, err := CleanName("name", good, 80)
		require.NoError(t, err, good)
		require.Equal(t, good, got)
	}
	_, err := CleanText("note", "a\x00b", 80)
	require.Error(t, err)
	text, err := CleanText("note", " two\nlines ", 80)
	require.NoError(t, err)
	require.Equal(t, "two\nlines", text)
}
