package cutplan

import (
	"fmt"
	"math"

	"clearjar/core/plant"
)

// Target is the node a stem is cut back to when the mother is reshaped.
type Target struct {
	Node int    `json:"node"`
	Why  string `json:"why"`
}

// LeggyShare is how much of a leggy stem stays when nothing else says where to cut it back.
var LeggyShare = define("leggy_share", "A leggy stem is shortened to", 0.5, "fraction", plant.Assumed("half; shortened stems branch from the nodes left behind"))

// target is the node this stem is cut back to: the grower's own, else the last node with good
// pattern below growth that has reverted, else about half of the nodes.
func (b Bench) target(l Limits, aim Aim) Target {
	top := b.Standing()
	if aim.CutBackTo > 0 {
		return Target{min(aim.CutBackTo, top), "you chose it"}
	}
	if n := b.lastGoodPattern(top); n > 0 {
		return Target{n, fmt.Sprintf("node %d is the last with good pattern: above it the stem has reverted", n)}
	}
	n := int(math.Ceil(float64(top) * b.Sheet.value(LeggyShare)))
	n = max(n, l.keeps(b))
	return Target{min(n, top), fmt.Sprintf("a shortened stem branches from the nodes left behind: %d of %d stay", min(n, top), top)}
}

// lastGoodPattern is the highest patterned node when the top of the stem has reverted; 0 when it has not.
func (b Bench) lastGoodPattern(top int) int {
	if top == 0 || b.Stem.Nodes[top-1].Stripe != plant.StripeNone {
		return 0
	}
	for n := top; n > 0; n-- {
		if s := b.Stem.Nodes[n-1].Stripe; s == plant.StripeSome || s == plant.StripeStrong {
			return n
		}
	}
	return 0
}

// missed is what a plan loses for each node it stays away from the target: more than any plants are worth.
const missed = 1000.0
