package scenario

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// Set on 1 September at 20 degrees: as many effective days after 30 and 60 days as in the worked example.
func TestEffectiveDays(t *testing.T) {
	c := Usual.Clock(243, 20, false)
	require.InDelta(t, 19.52, c.Effective(30), 0.01)
	require.InDelta(t, 33.81, c.Effective(60), 0.01)
	for _, d := range []float64{0.5, 12, 77.7, 300} {
		require.InDelta(t, d, c.Day(c.Effective(d)), 1e-9)
	}
	// Half a year on the other side of the world is the same.
	require.InDelta(t, c.Effective(100), Usual.Clock(243-182, 20, true).Effective(100), 1e-9)
}

func TestTheModelOfAGroup(t *testing.T) {
	soft := Params{First: Span{14, 7, 28}, Pot: Span{30, 18, 60}, Slower: 1}
	velvet := Params{First: Span{28, 14, 60}, Pot: Span{55, 35, 100}, Slower: 1}
	for _, c := range []struct {
		p          Params
		s, r, q, l float64
	}{{soft, 0.541, 2.50, 0.60, 0.188}, {velvet, 0.568, 1.48, 0.48, 0.111}} {
		r, q := c.p.rate()
		require.InDelta(t, c.s, c.p.First.sigma(), 0.002)
		require.InDelta(t, c.r, r, 0.005)
		require.InDelta(t, c.q, q, 0.005)
		require.InDelta(t, c.l, c.p.further(), 0.002)
	}
}
