package server_test

import (
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"clearjar/core/life"
	"clearjar/propagation/door"
	"clearjar/propagation/show"
)

// Random histories of potting, moving on, parting, closing, giving away and taking back: whatever was refused, each plant stands in the pot
// its pottings that hold say, the first counts, the round shows just those that stand in pots, and what is sent twice is kept once.
func TestRandomHistoriesOfPotsMakeSense(t *testing.T) {
	t.Parallel()
	for seed := range uint64(3) {
		g := newGrower(t)
		r := rand.New(rand.NewPCG(7, seed))
		ids := []uuid.UUID{}
		for _, p := range g.rootedPieces(30, 32, 34) {
			ids = append(ids, p.ID)
		}
		some := func() []uuid.UUID {
			out := []uuid.UUID{}
			for _, id := range ids {
				if r.IntN(2) == 0 {
					out = append(out, id)
				}
			}
			return out
		}
		pots := []uuid.UUID{}
		for range 60 {
			one := ids[r.IntN(len(ids))]
			switch r.IntN(13) {
			case 0, 1, 2, 3, 4, 5:
				who, moves := some(), r.IntN(2) == 0
				if r.IntN(4) > 0 { // mostly those that can
					who = slices.DeleteFunc(who, func(c uuid.UUID) bool { return (g.cutting(c).Cutting.PotID != nil) != moves })
				}
				if len(who) == 0 {
					continue
				}
				f := door.Potful{ID: id(), Place: "Sill", PottedOn: now.AddDate(0, 0, -12+r.IntN(4)), Pot: smallPot, MovesOn: moves}
				if moves {
					f.PottedOn = now.AddDate(0, 0, -r.IntN(9))
				}
				for _, c := range who {
					f.Plants = append(f.Plants, door.Planted{CuttingID: c})
				}
				status := g.send("POST", "/api/pots", f, nil)
				require.Contains(t, []int{200, 409, 422}, status)
				if status == 200 {
					pots = append(pots, f.ID)
					require.Equal(t, 200, g.send("POST", "/api/pots", f, nil), "sent again it is the same")
				}
			case 6, 7, 8:
				if len(pots) > 0 {
					g.send("POST", "/api/withdrawals", door.Withdrawal{ID: id(), Kind: "potful", About: pots[max(0, len(pots)-1-r.IntN(3))]}, nil)
				}
			case 9, 10:
				h := g.cutting(one).History
				e := h[r.IntN(len(h))]
				if e.Kind == "potted" || e.Kind == "outcome" || e.Kind == "given" {
					g.send("POST", "/api/withdrawals", door.Withdrawal{ID: id(), Kind: e.Kind, About: e.About}, nil)
				}
			case 11:
				g.send("POST", "/api/outcomes", map[string]any{"id": id(), "cutting_id": one, "kind": []string{"established", "lost"}[r.IntN(2)], "on": now}, nil)
			case 12:
				n := len(g.cutting(one).Cutting.Nodes)
				g.send("POST", "/api/partings", door.Parting{ID: id(), CuttingID: one, PartedOn: now, Parts: []door.PartedPlant{{Node: n, Rooted: true}}}, nil)
			}
			if r.IntN(8) == 0 && len(pots) > 0 {
				g.batch(sent(t, "pot_visit", door.PotVisit{ID: id(), PotID: pots[r.IntN(len(pots))], At: now}))
			}
			inPots := map[uuid.UUID]uuid.UUID{}
			for _, c := range ids {
				page := g.cutting(c)
				events := []show.Event{}
				for _, e := range page.History {
					if e.Kind == "potted" {
						events = append(events, e)
					}
				}
				if len(events) == 0 {
					require.Nil(t, page.Cutting.PotID)
					continue
				}
				require.NotNil(t, page.Cutting.PotID)
				for i, e := range events {
					require.Equal(t, i == 0, strings.HasPrefix(e.Text, "Potted up"), "only the first is no moving on: %s", e.Text)
				}
				require.True(t, events[0].On.Equal(*page.Cutting.PottedOn), "it counts from its first pot")
				if len(events) > 1 {
					require.True(t, events[len(events)-1].On.Equal(*page.Cutting.MovedOn))
				}
				if page.Cutting.Where == life.InPot {
					inPots[c] = *page.Cutting.PotID
				}
			}
			var round show.Round
			g.ok("GET", "/api/round", nil, &round)
			shown := map[uuid.UUID]uuid.UUID{}
			for _, p := range round.Pots {
				require.NotEmpty(t, p.Plants)
				for _, x := range p.Plants {
					shown[x.ID] = p.PotID
				}
			}
			require.Equal(t, inPots, shown)
		}
	}
}
