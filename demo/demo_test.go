package demo

import (
	"encoding/json"
	"fmt"
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"clearjar/core/number"
	"clearjar/core/plant"
	"clearjar/core/rootphoto"
	"clearjar/propagation"
	"clearjar/propagation/show"
	"clearjar/store"
	"clearjar/store/storetest"
)

func TestEveryVerdictOccursWhateverTheSeason(t *testing.T) {
	t.Parallel()
	for _, today := range []time.Time{time.Date(2026, 11, 23, 9, 0, 0, 0, time.UTC), time.Date(2027, 5, 3, 21, 0, 0, 0, time.UTC)} {
		g := propagation.New(storetest.Open(t), func() time.Time { return today }, time.UTC)
		loaded, err := Load(store.As(t.Context(), store.First), g)
		require.NoError(t, err)
		require.True(t, loaded)
		shelf, err := show.ShelfNow(store.As(t.Context(), store.First), g)
		require.NoError(t, err)
		require.Len(t, shelf.Vessels, 11)
		require.Len(t, shelf.Places, 3)
		require.InDelta(t, 28, len(shelf.Cuttings), 3)
		seen := map[plant.Verdict]int{}
		for _, on := range shelf.Cuttings {
			c, err := on.Cutting()
			require.NoError(t, err)
			seen[c.Judgement.Verdict]++
			require.NotContains(t, []plant.Verdict{plant.Done, plant.Lost}, c.Judgement.Verdict, "what ended leaves the shelf")
		}
		mothers, err := show.Mothers(store.As(t.Context(), store.First), g)
		require.NoError(t, err)
		for _, m := range mothers {
			page, err := show.MotherPage(store.As(t.Context(), store.First), g, m.ID)
			require.NoError(t, err)
			for _, s := range page.Stems {
				for _, c := range page.Cuts {
					require.False(t, s.ID == c.StemID && s.MappedAt.After(c.On), "%s was mapped after it was cut", m.Code)
				}
			}
			for _, c := range page.Cuttings {
				if c.Judgement.Verdict == plant.Done || c.Judgement.Verdict == plant.Lost {
					seen[c.Judgement.Verdict]++
				}
			}
		}
		for _, v := range []plant.Verdict{plant.Wait, plant.LookAt, plant.Ready, plant.Overdue, plant.Rescue, plant.GrowingOn, plant.Done, plant.Lost} {
			require.Positive(t, seen[v], "%s in %s: %v", v, today.Month(), seen)
		}
		round, err := show.RoundNow(store.As(t.Context(), store.First), g)
		require.NoError(t, err)
		due, signs := 0, 0
		for _, s := range round.Stops {
			due += min(1, len(s.Tasks))
			signs += len(s.Seen)
		}
		require.Greater(t, due, 2, "a round of one card teaches nothing")
		require.Less(t, due, 9, "and a garden where all is due was not cared for")
		require.Positive(t, signs)
		again, err := Load(store.As(t.Context(), store.First), g)
		require.NoError(t, err)
		require.False(t, again, "a second load keeps what is there")
	}
}

// seenAt is a place in a photo; null, or two nulls, where no ray reaches the point.
type seenAt []*float64

func (s seenAt) point() (plant.Point, bool) {
	if len(s) != 2 || s[0] == nil || s[1] == nil {
		return plant.Point{}, false
	}
	return plant.Point{X: math.Round(*s[0]), Y: math.Round(*s[1])}, true
}

// published: the rendered photos' truth files, made outside this project's code: the apparent
// line of each root laid on a plane at the root gives naive_length_mm; two points of the tag's
// 50 mm bar give our scale. The tag stands in front, so the planes differ by a few percent.
func TestTracedLengthsOfRenderedJarsAgreeWithTheirTruth(t *testing.T) {
	t.Parallel()
	var worst float64
	held, all := 0, 0
	for _, name := range []string{"demo_aroid_day15", "demo_aroid_day24", "demo_aroid_day38", "demo_orange_day21", "demo_orange_day33", "demo_orange_day47"} {
		raw, err := photos.ReadFile(fmt.Sprintf("photos/%s.json", name))
		require.NoError(t, err)
		var tr struct {
			Reference struct {
				Bar   float64       `json:"scale_bar_mm"`
				Ends  [2][2]float64 `json:"scale_bar_ends_px"`
				Plane string        `json:"plane"`
			} `json:"reference"`
			Roots []struct {
				Apparent []seenAt `json:"apparent_px"`
				Naive    float64  `json:"naive_length_mm"`
				True     float64  `json:"length_mm"`
			} `json:"roots"`
		}
		require.NoError(t, json.Unmarshal(raw, &tr))
		at := func(p [2]float64) plant.Point { return plant.Point{X: p[0], Y: p[1]} }
		scale := plant.Scale{A: at(tr.Reference.Ends[0]), B: at(tr.Reference.Ends[1]), DistanceMM: tr.Reference.Bar}
		for _, r := range tr.Roots {
			var path []plant.Point
			for _, p := range r.Apparent {
				if seen, ok := p.point(); ok {
					path = append(path, seen)
				}
			}
			if len(path) < len(r.Apparent) || r.Naive < 10 {
				continue
			}
			res, err := rootphoto.Measure(number.Table{}, scale, [][]plant.Point{path}, rootphoto.Setting{RoundJar: true})
			require.NoError(t, err)
			got := res.Roots[0]
			worst = math.Max(worst, math.Abs(got.LengthMM/r.Naive-1))
			all++
			if got.LowMM <= r.True && r.True <= got.HighMM {
				held++
			}
		}
	}
	t.Logf("%d roots, farthest from the truth file's naive length: %.1f %%; interval holds the true length in %d %%", all, worst*100, 100*held/all)
	require.Greater(t, all, 30)
	require.Less(t, worst, 0.05)
	require.GreaterOrEqual(t, float64(held)/float64(all), 0.85)
}
