package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/signal"
	"time"

	"github.com/spf13/cobra"

	"clearjar/core/climate"
	"clearjar/propagation/outside"
	"clearjar/standin"
)

const (
	sensorKeyName  = "CLEARJAR_SENSOR_KEY"
	sensorAnswerIn = 15 * time.Second
	perPost        = 1000
)

func sensorSimCommand() *cobra.Command {
	var address string
	var past time.Duration
	var every time.Duration
	var seed uint64
	var once, faultless bool
	cmd := &cobra.Command{
		Use: "sensor-sim", Short: "A simulated hygrometer: posts readings over HTTP as a real one would",
		Long: `A simulated hygrometer in a glass cabinet: day and night, a door that is opened, silences, now and then a clock that
is wrong. It posts what it reads to /api/readings with the key of a sensor, which is made on the page of a shelf's
climate; the key is read from ` + sensorKeyName + `. What the server refuses is printed.

First what it remembers (--past) is posted, then one reading every --every, until it is stopped.`,
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			key := os.Getenv(sensorKeyName)
			if key == "" {
				return fmt.Errorf("%s is not set: make a key on the page of a shelf's climate", sensorKeyName)
			}
			if every < time.Second || past < 0 {
				return errors.New("--every is a second or more, --past not negative")
			}
			ctx, stop := signal.NotifyContext(cmd.Context(), os.Interrupt)
			defer stop()
			h := standin.Cabinet(time.Local, seed)
			h.Faultless = faultless
			to := poster{address + "/api/readings", key, cmd.OutOrStdout()}
			now := time.Now()
			known := h.Between(now.Add(-past), now, every)
			for from := 0; from < len(known); from += perPost {
				if err := to.post(ctx, known[from:min(from+perPost, len(known))]); err != nil {
					return err
				}
			}
			if once {
				return nil
			}
			tick := time.NewTicker(every)
			defer tick.Stop()
			for {
				select {
				case <-ctx.Done():
					return nil
				case at := <-tick.C:
					r, ok := h.At(at)
					if !ok {
						continue
					}
					if err := to.post(ctx, []climate.Reading{r}); err != nil {
						_, _ = fmt.Fprintln(cmd.ErrOrStderr(), "clearjar:", err)
					}
				}
			}
		},
	}
	cmd.Flags().StringVar(&address, "address", "http://127.0.0.1:8420", "where Clear Jar listens")
	cmd.Flags().DurationVar(&past, "past", 72*time.Hour, "how much it remembers, and posts first")
	cmd.Flags().DurationVar(&every, "every", 5*time.Minute, "how often it reads")
	cmd.Flags().Uint64Var(&seed, "seed", 1, "another seed is another cabinet")
	cmd.Flags().BoolVar(&once, "once", false, "stop when what it remembers is posted")
	cmd.Flags().BoolVar(&faultless, "faultless", false, "without silences and wrong clocks")
	return cmd
}

// poster posts readings and tells what became of them.
type poster struct {
	url, key string
	out      io.Writer
}

func (p poster) post(ctx context.Context, readings []climate.Reading) error {
	sent, err := json.Marshal(map[string]any{"readings": readings})
	if err != nil {
		return err
	}
	ctx, cancel := context.WithTimeout(ctx, sensorAnswerIn)
	defer cancel()
	req, err := http.NewRequestWithContext(ctx, http.MethodPost, p.url, bytes.NewReader(sent))
	if err != nil {
		return err
	}
	req.Header.Set("Content-Type", "application/json")
	req.Header.Set("Authorization", "Bearer "+p.key)
	res, err := http.DefaultClient.Do(req)
	if err != nil {
		return err
	}
	defer func() { _ = res.Body.Close() }()
	answer, err := io.ReadAll(io.LimitReader(res.Body, 1<<20))
	if err != nil {
		return err
	}
	if res.StatusCode != http.StatusOK {
		var problem struct {
			Detail string `json:"detail"`
		}
		_ = json.Unmarshal(answer, &problem)
		return fmt.Errorf("refused with %d: %s", res.StatusCode, problem.Detail)
	}
	var taken outside.ReadingsTaken
	if err := json.Unmarshal(answer, &taken); err != nil {
		return err
	}
	_, err = fmt.Fprintf(p.out, "%d kept, %d repeated, %d refused\n", taken.Kept, taken.Repeated, taken.RefusedCount)
	for _, r := range taken.Refused {
		_, _ = fmt.Fprintf(p.out, "  %s: %s\n", r.At.Format(time.RFC3339), r.Why)
	}
	return err
}
