package show

import (
	"context"

	"clearjar/core/cutplan"
	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
)

// PlannerNumber is one number of the job as it is in use.
type PlannerNumber struct {
	Number plant.Number `json:"number"`
	// Start is the starting value, Kind what the grower decided: start, value or records.
	Start float64 `json:"start"`
	Kind  string  `json:"kind" enum:"start,value,records"`
	// Won and Tried are the grower's own records for it, whether they are used or not.
	Won   int `json:"won"`
	Tried int `json:"tried"`
	// ByRecords is what the records would make of it; 0 when there are none.
	ByRecords float64 `json:"by_records"`
}

// NumbersInUse is every number of the job as it is in use.
type NumbersInUse struct {
	Numbers []PlannerNumber `json:"numbers"`
	// Waiting is how many cuttings that have ended are still being counted anew; the records grow by them.
	Waiting int `json:"waiting"`
}

// PlannerNumbers lists every number of the job with the grower's decision and records: the planner's first.
func PlannerNumbers(ctx context.Context, g *propagation.Garden) (NumbersInUse, error) {
	kinds := map[string]string{}
	rows, err := g.Store.PlannerNumbers(ctx)
	if err != nil {
		return NumbersInUse{}, err
	}
	table, err := propagation.TableOf(rows)
	if err != nil {
		return NumbersInUse{}, err
	}
	sheet := cutplan.Sheet{Table: table}
	for _, r := range rows {
		kinds[r.Key] = r.Kind
	}
	records, waiting, err := conclude.Records(ctx, g)
	if err != nil {
		return NumbersInUse{}, err
	}
	out := NumbersInUse{[]PlannerNumber{}, waiting}
	for _, n := range Numbers() {
		p := PlannerNumber{Number: table.Now(n), Start: n.Value, Kind: "start"}
		if k := kinds[n.Key]; k != "" {
			p.Kind = k
		}
		if r, ok := records[n.Key]; ok {
			p.Won, p.Tried = r.Won, r.Tried
			c, err := sheet.FromRecords(n.Key, r.Won, r.Tried)
			if err != nil {
				return NumbersInUse{}, err
			}
			p.ByRecords = c.Value
		}
		out.Numbers = append(out.Numbers, p)
	}
	return out, nil
}
