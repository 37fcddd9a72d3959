package learn

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/scenario"
)

func soft(nodes int) scenario.Params {
	p := scenario.Params{First: scenario.Span{Mid: 14, Low: 7, High: 28}, Pot: scenario.Span{Mid: 30, Low: 18, High: 60}, Rot: 0.04, Slower: 1, GrowerSigma: scenario.Usual.Growers(), Water: true}
	for range nodes {
		p.Wake = append(p.Wake, 0.92)
	}
	return p
}

// A worked example of the model: three rooted between looks, one waits at day 35, one was firm at day 10 and rotted.
func TestTimesFromFiveRecords(t *testing.T) {
	got := At(soft(1), []Came{{14, 21}, {21, 28}, {21, 28}, {Not: 35}, {Not: 10}})
	require.InDelta(t, 0.252, got.Mean, 0.002)
	require.InDelta(t, 0.189, got.Spread, 0.002)
	require.InDelta(t, 1.29, got.Factor(), 0.005)
	require.InDelta(t, 3.7, StartsAs(soft(1)), 0.05)
	none := At(soft(1), nil)
	require.InDelta(t, 0, none.Mean, 1e-9)
	require.InDelta(t, scenario.Usual.Growers(), none.Spread, 0.001)
}

// A worked example of the model: sisters of a soft climber that rooted on days 10, 11 and 12, each known to a variance of 0.03.
func TestSistersPullALittle(t *testing.T) {
	of := []Sister{}
	for _, day := range []float64{10, 11, 12} {
		of = append(of, Sister{math.Log(day / 14), 1 / 0.03})
	}
	require.InDelta(t, -0.127, Sisters(soft(1), of), 0.002)
	require.Zero(t, Sisters(soft(1), nil))
	early := []Sister{}
	for range 9 {
		early = append(early, Sister{-2, 1e6})
	}
	require.InDelta(t, -0.3, Sisters(soft(1), early), 1e-9, "never by more than three tenths")
}

// A worked example of the model, and what follows from symmetry.
func TestComparisonOfTwoArms(t *testing.T) {
	little := Compare(Arm{9, 10}, Arm{6, 10})
	require.InDelta(t, 0.941, little.Better, 0.002)
	require.Equal(t, NothingShown, little.Shows)
	more := Compare(Arm{27, 30}, Arm{18, 30})
	require.InDelta(t, 0.997, more.Better, 0.002)
	require.Equal(t, Shown, more.Shows)
	require.InDelta(t, 1, little.Better+Compare(Arm{6, 10}, Arm{9, 10}).Better, 1e-3)
	require.InDelta(t, 0.5, Compare(Arm{5, 10}, Arm{5, 10}).Better, 1e-3)
	require.Equal(t, NothingShown, Compare(Arm{9, 9}, Arm{0, 9}).Shows, "ten an arm at least")
	// 9 of 10 against 6 of 10: 11.7 (0.09 + 0.24) / 0.09 = 42.9, worked by hand.
	require.Equal(t, 43, little.Needed)
}

// More records of late pieces never make them earlier; the order of records changes nothing; rates go where records go.
func TestRecordsPullTheRightWay(t *testing.T) {
	r := rand.New(rand.NewPCG(4, 2))
	for range 200 {
		all := []Came{}
		for range r.IntN(12) {
			from := 1 + 40*r.Float64()
			c := Came{Not: from}
			if r.IntN(3) > 0 {
				c.Seen = from + 1 + 10*r.Float64()
			}
			all = append(all, c)
		}
		now := At(soft(2), all)
		later := At(soft(2), append(append([]Came{}, all...), Came{60, 67}))
		require.GreaterOrEqual(t, later.Mean, now.Mean)
		r.Shuffle(len(all), func(i, j int) { all[i], all[j] = all[j], all[i] })
		again := At(soft(2), all)
		require.InDelta(t, now.Mean, again.Mean, 1e-9)
		require.Less(t, now.Spread, scenario.Usual.Growers()+0.02)
	}
	mu, _ := soft(1).PieceRate()
	fast := []Grew{}
	for range 60 {
		fast = append(fast, Grew{mu + math.Log(1.5), 0.01})
	}
	require.InDelta(t, math.Log(1.5), Rate(soft(1), fast).Mean, 0.06)
	require.Zero(t, Rate(soft(1), nil).Mean)
}
