package show

import (
	"context"
	"encoding/json"
	"fmt"
	"sort"
	"strings"
	"time"

	"github.com/google/uuid"

	"clearjar/propagation"
)

// Corrected is a correction that was made, in words.
type Corrected struct {
	On   time.Time `json:"on"`
	Kind string    `json:"kind"`
	Says string    `json:"says"`
}

// addCorrections adds what was said before, in words.
func addCorrections(ctx context.Context, g *propagation.Garden, about uuid.UUID, to *[]Corrected) error {
	rows, err := g.Store.CorrectionsOf(ctx, []uuid.UUID{about})
	for _, r := range rows {
		*to = append(*to, Corrected{r.RecordedAt, r.Kind, differs(g, r.Was, r.Becomes)})
	}
	return err
}

// differs says what changed from one to the other.
func differs(g *propagation.Garden, was, becomes []byte) string {
	var a, b map[string]any
	if json.Unmarshal(was, &a) != nil || json.Unmarshal(becomes, &b) != nil {
		return ""
	}
	say := func(v any) string {
		switch v := v.(type) {
		case nil:
			return "nothing"
		case string:
			if t, err := time.Parse(time.RFC3339Nano, v); err == nil {
				return t.In(g.Zone).Format("2 Jan 2006")
			}
			if v == "" {
				return "nothing"
			}
			return v
		}
		return fmt.Sprint(v)
	}
	keys := []string{}
	for k := range a {
		keys = append(keys, k)
	}
	for k := range b {
		if _, ok := a[k]; !ok {
			keys = append(keys, k)
		}
	}
	sort.Strings(keys)
	parts := []string{}
	for _, k := range keys {
		if was, now := say(a[k]), say(b[k]); was != now {
			parts = append(parts, fmt.Sprintf("%s was %s, now %s", strings.ReplaceAll(strings.TrimSuffix(k, "_mm"), "_", " "), was, now))
		}
	}
	return strings.Join(parts, "; ")
}
