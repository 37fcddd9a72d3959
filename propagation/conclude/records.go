package conclude

import (
	"context"

	"clearjar/core/cutplan"
	"clearjar/core/plant"
	"clearjar/propagation"
)

// Records are the grower's own, by the key of the planner's number they speak about: of all whose fate is known.
func Records(ctx context.Context, g *propagation.Garden) (map[string]cutplan.Record, error) {
	rules, err := rules(ctx, g)
	if err != nil {
		return nil, err
	}
	for {
		ids, err := g.Store.DecidedUnconcluded(ctx, rules)
		if err != nil {
			return nil, err
		}
		if len(ids) == 0 {
			break
		}
		if _, err := conclude(ctx, g, rules, ids); err != nil {
			return nil, err
		}
	}
	rows, err := g.Store.Records(ctx, rules)
	if err != nil {
		return nil, err
	}
	trials := make([]cutplan.Trial, len(rows))
	for i, r := range rows {
		trials[i] = cutplan.Trial{Group: r.GroupKey, Medium: plant.Medium(r.Medium), Record: cutplan.Record{Won: int(r.Won), Tried: int(r.Tried)}}
	}
	return cutplan.Records(trials), nil
}
