package main

import (
	"encoding/json"
	"fmt"
	"sync"
	"time"

	"github.com/spf13/cobra"

	"clearjar/core/plant"
	"clearjar/core/practice"
	"clearjar/core/readiness"
)

// calibrateCommand runs the benchmark of the model behind verdicts.
func calibrateCommand() *cobra.Command {
	var seed uint64
	var cuttings int
	var asJSON, other bool
	c := &cobra.Command{
		Use: "calibrate", Args: cobra.NoArgs, Short: "How well chances, forecasts, best days and questions do on simulated cuttings",
		Long: `Draws cuttings whose truth is known from the model, looks at them as a grower does, and holds the chances, the intervals of the
ready day, the best day, the priced question and what is learned against that truth. A simulated world: it checks the arithmetic
and compares rules, and says nothing of nature.`,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if cuttings < 20 || cuttings > 20000 {
				return plant.Refuse("cuttings", "%d is not 20 to 20000", cuttings)
			}
			b := practice.Standard(seed, cuttings)
			b.Other = other
			rows := append(b.Run(), speed(b)...)
			if asJSON {
				e := json.NewEncoder(cmd.OutOrStdout())
				e.SetIndent("", "  ")
				return e.Encode(map[string]any{"rows": rows})
			}
			held := 0
			for _, r := range rows {
				if r.Held {
					held++
				}
				_, _ = fmt.Fprintf(cmd.OutOrStdout(), "%-72s %8.3f  %-14s  %-3s  %d\n", r.Figure, r.Measured, r.Wanted, map[bool]string{true: "yes", false: "NO"}[r.Held], r.Of)
			}
			_, _ = fmt.Fprintf(cmd.OutOrStdout(), "%d of %d held, on simulated cuttings (seed %d).\n", held, len(rows), seed)
			return nil
		},
	}
	c.Flags().Uint64Var(&seed, "seed", 1, "another seed draws other cuttings")
	c.Flags().IntVar(&cuttings, "cuttings", 1500, "how many cuttings the dearer figures are measured on, 20 to 20000")
	c.Flags().BoolVar(&asJSON, "json", false, "write JSON: rows of figure, measured, wanted, held, of")
	c.Flags().BoolVar(&other, "other-truth", false, "draw from a truth of another structure than the model's; the limits are those of its own")
	return c
}

// speed is how long it takes to judge ten thousand lives, from what was kept of them and anew.
func speed(b *practice.Bench) []practice.Row {
	const lives, kinds = 10_000, 500
	set := time.Date(2026, 5, 1, 12, 0, 0, 0, time.UTC)
	all, kept, school := make([]readiness.Evidence, kinds), make([]readiness.Kept, kinds), plant.FullRoots
	for i := range all {
		c := practice.Draw(b.Seed+uint64(i), practice.Setting{Group: b.Groups[i%len(b.Groups)], Medium: b.Open})
		all[i] = c.Evidence(b.Groups[i%len(b.Groups)], b.Open, set, 7+i%60)
		kept[i], _ = readiness.Expect(all[i]).Keep(school)
	}
	begin := time.Now()
	pots := 0
	for i := range lives {
		if _, ok := kept[i%kinds].ToPot(all[i%kinds].Numbers, all[i%kinds].Today.AddDate(0, 0, 1), plant.Wait); ok {
			pots++
		}
	}
	fromKept := time.Since(begin).Seconds()
	begin = time.Now()
	var wait sync.WaitGroup
	const at = 2
	for k := range at {
		wait.Go(func() {
			for i := k; i < lives; i += at {
				_, _ = readiness.Decide(all[i%kinds], school)
			}
		})
	}
	wait.Wait()
	fresh := time.Since(begin).Seconds()
	return []practice.Row{
		{Figure: "seconds to judge 10 000 lives from what was kept", Measured: fromKept, Wanted: "at most 0.05", Held: fromKept <= 0.05 && pots > 0, Of: lives},
		{Figure: "seconds to judge 10 000 lives anew", Measured: fresh, Wanted: "at most 2", Held: fresh <= 2, Of: lives},
	}
}
