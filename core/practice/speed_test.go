package practice

import (
	"testing"
	"time"

	"clearjar/core/plant"
	"clearjar/core/readiness"
)

// BenchmarkDecide judges one life anew.
func BenchmarkDecide(b *testing.B) {
	s := Standard(1, 20)
	all := []readiness.Evidence{}
	for i := range 200 {
		all = append(all, Draw(uint64(i), Setting{Group: s.Groups[i%5], Medium: s.Open}).Evidence(s.Groups[i%5], s.Open, time.Date(2026, 5, 1, 12, 0, 0, 0, time.UTC), 7+i%60))
	}
	for i := 0; b.Loop(); i++ {
		_, _ = readiness.Decide(all[i%len(all)], plant.FullRoots)
	}
}
