package climate

import (
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"clearjar/core/number"
)

var noon = time.Date(2026, 6, 10, 12, 0, 0, 0, time.UTC)

func read(minute int, temp, humidity float64) Reading {
	return Reading{noon.Add(time.Duration(minute) * time.Minute), Air{temp, humidity}}
}

// The mean of an hour is that of its readings, in whatever order they come and however often.
func TestAnHourCountsEachMinuteOnceWhateverTheOrder(t *testing.T) {
	for seed := range uint64(200) {
		r := rand.New(rand.NewPCG(seed, 7))
		var all []Reading
		var temp, humidity, deficit float64
		for _, m := range r.Perm(60)[:1+r.IntN(60)] {
			one := read(m, 15+20*r.Float64(), 100*r.Float64())
			all = append(all, one)
			temp, humidity, deficit = temp+one.TempC, humidity+one.HumidityPct, deficit+one.DeficitKPa()
		}
		var h Hour
		taken := 0
		for _, i := range r.Perm(2 * len(all)) {
			if h.Take(all[i%len(all)]) {
				taken++
			}
		}
		n := float64(len(all))
		require.Equal(t, len(all), taken)
		require.Equal(t, len(all), h.N)
		require.Equal(t, noon, h.From)
		require.InDelta(t, temp/n, h.Temp.Mean, 1e-9)
		require.InDelta(t, humidity/n, h.Humidity.Mean, 1e-9)
		require.InDelta(t, deficit/n, h.Deficit.Mean, 1e-9)
		require.LessOrEqual(t, h.Temp.Min, h.Temp.Mean)
		require.GreaterOrEqual(t, h.Temp.Max, h.Temp.Mean)
	}
}

func TestSpansHoldEveryReadingOnceAndAreInOrder(t *testing.T) {
	for seed := range uint64(100) {
		r := rand.New(rand.NewPCG(seed, 9))
		var all []Stretch
		for range r.IntN(300) {
			all = append(all, StretchOf(read(r.IntN(3000)-1500, 20, 50)))
		}
		out := Stretches(all, noon, 15*time.Minute)
		n := 0
		for i, s := range out {
			n += s.N
			require.Zero(t, s.From.Sub(noon)%(15*time.Minute))
			if i > 0 {
				require.True(t, out[i-1].From.Before(s.From))
			}
		}
		require.Equal(t, len(all), n)
	}
}

// common practice, no source: what dries out a piece without roots is fine for one that hardens off.
func TestADayIsWeighedByTheStage(t *testing.T) {
	var stretches []Stretch
	for h := range 24 {
		humidity := 90.0
		if h >= 18 {
			humidity = 60
		}
		stretches = append(stretches, StretchOf(Reading{noon.Add(time.Duration(h) * time.Hour), Air{23, humidity}}))
	}
	unrooted, _ := StageNamed(Unrooted)
	w := Weigh(number.Table{}, stretches, time.Hour, unrooted)
	require.InDelta(t, 24, w.Hours, 1e-9)
	require.InDelta(t, 6, w.Outside, 1e-9)
	require.Len(t, w.Faults, 1)
	require.Equal(t, TooDry, w.Faults[0].Fault)
	hardening, _ := StageNamed(Hardening)
	w = Weigh(number.Table{}, stretches, time.Hour, hardening)
	require.InDelta(t, 18, w.Outside, 1e-9, "humid air hardens nothing off")
	require.Equal(t, TooWet, w.Faults[0].Fault)
	require.Equal(t, Weighed{Faults: []Lasting{}}, Weigh(number.Table{}, nil, time.Hour, unrooted))
}

func TestADayIsToldInSentences(t *testing.T) {
	unrooted, _ := StageNamed(Unrooted)
	now := noon
	tell := func(last time.Time, stretches []Stretch) []string {
		return Tell(number.Table{}, stretches, last, now, unrooted)
	}
	require.Equal(t, []string{"Nothing was read here yet."}, tell(time.Time{}, nil))
	var stretches []Stretch
	for m := -24 * 60; m < 0; m += 15 {
		humidity := 90.0
		if m >= -6*60 {
			humidity = 60
		}
		stretches = append(stretches, StretchOf(read(m, 23, humidity)))
	}
	says := tell(now.Add(-15*time.Minute), stretches)
	require.Equal(t, []string{
		"The last 24 hours: 23 to 23 °C, 60 to 90 %, a deficit of 0.28 to 1.12 kPa.",
		"For 6 hours it was not what pieces that are without roots want (0.05 to 0.40 kPa, 21 to 27 °C): too dry for 6 hours.",
		"Too dry: close the cover, mist, or cut large blades down.",
	}, says)
	says = tell(now.Add(-15*time.Minute), stretches[72:])
	require.Contains(t, says[len(says)-1], "Only 6 hours of the 24")
	says = tell(now.Add(-12*time.Hour), stretches[:40])
	require.Contains(t, says[0], "Nothing was read since Wed 10 Jun 00:00")
}
