package conclude

import (
	"context"

	"clearjar/core/cutplan"
	"clearjar/core/plant"
	"clearjar/propagation"
)

// CatchUp judges some of what has ended and of which nothing that holds is kept, as after a change of a number:
// at most 500 at once. It tells how many it judged; 0 when nothing is left to do.
func CatchUp(ctx context.Context, g *propagation.Garden) (int, error) {
	rules, err := rules(ctx, g)
	if err != nil {
		return 0, err
	}
	ids, err := g.Store.DecidedUnconcluded(ctx, rules)
	if err != nil || len(ids) == 0 {
		return 0, err
	}
	_, err = conclude(ctx, g, rules, ids, nil)
	return len(ids), err
}

// Behind tells whether anything that has ended is still to be judged anew.
func Behind(ctx context.Context, g *propagation.Garden) (bool, error) {
	rules, err := rules(ctx, g)
	if err != nil {
		return false, err
	}
	ids, err := g.Store.DecidedUnconcluded(ctx, rules)
	return len(ids) > 0, err
}

// Records are the grower's own, by the key of the planner's number they speak about: of all whose fate is known.
// What has ended is judged anew after a change of a number, which takes its time when there is much of it: waiting is
// how many are still to come and not among them.
func Records(ctx context.Context, g *propagation.Garden) (records map[string]cutplan.Record, waiting int, err error) {
	done, err := CatchUp(ctx, g)
	if err != nil {
		return nil, 0, err
	}
	rules, err := rules(ctx, g)
	if err != nil {
		return nil, 0, err
	}
	if done > 0 {
		n, err := g.Store.CountUnconcluded(ctx, rules)
		if err != nil {
			return nil, 0, err
		}
		waiting = int(n)
	}
	rows, err := g.Store.Records(ctx, rules)
	if err != nil {
		return nil, 0, err
	}
	trials := make([]cutplan.Trial, len(rows))
	for i, r := range rows {
		trials[i] = cutplan.Trial{Group: r.GroupKey, Medium: plant.Medium(r.Medium), Record: cutplan.Record{Won: int(r.Won), Tried: int(r.Tried)}}
	}
	return cutplan.Records(trials), waiting, nil
}
