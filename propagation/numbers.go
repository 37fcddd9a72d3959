package propagation

import (
	"context"

	"clearjar/core/cutplan"
	"clearjar/core/number"
	"clearjar/store/sqlgen"
)

// Numbers are those of the job with the grower's decisions laid over them.
func (g *Garden) Numbers(ctx context.Context) (number.Table, error) {
	if g.inUse != nil && g.inUse.known {
		return g.inUse.table, nil
	}
	rows, err := g.Store.PlannerNumbers(ctx)
	if err != nil {
		return number.Table{}, err
	}
	table, err := TableOf(rows)
	if g.inUse != nil && err == nil {
		*g.inUse = inUse{table, true}
	}
	return table, err
}

// Sheet is the numbers as the planner takes them.
func (g *Garden) Sheet(ctx context.Context) (cutplan.Sheet, error) {
	t, err := g.Numbers(ctx)
	return cutplan.Sheet{Table: t}, err
}

// TableOf lays a household's decisions over the starting values.
func TableOf(rows []sqlgen.PlannerNumber) (number.Table, error) {
	changes := []number.Change{}
	for _, r := range rows {
		if r.Kind != "start" && number.Known(r.Key) {
			changes = append(changes, number.Change{Key: r.Key, Value: r.Value, Won: int(r.Won), Tried: int(r.Tried)})
		}
	}
	return number.Table{}.With(changes...)
}

// inUse is the numbers of a household as they were when they were first asked for.
type inUse struct {
	table number.Table
	known bool
}
