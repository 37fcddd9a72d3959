package propagation

import (
	"context"

	"github.com/google/uuid"

	"clearjar/core/cutplan"
	"clearjar/core/number"
	"clearjar/core/plant"
	"clearjar/store/sqlgen"
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

// PlannerNumbers lists every number of the job with the grower's decision and records: the planner's first.
func (g *Garden) PlannerNumbers(ctx context.Context) ([]PlannerNumber, error) {
	kinds := map[string]string{}
	rows, err := g.store.PlannerNumbers(ctx)
	if err != nil {
		return nil, err
	}
	table, err := tableOf(rows)
	if err != nil {
		return nil, err
	}
	sheet := cutplan.Sheet{Table: table}
	for _, r := range rows {
		kinds[r.Key] = r.Kind
	}
	records, err := g.records(ctx)
	if err != nil {
		return nil, err
	}
	out := []PlannerNumber{}
	for _, n := range Numbers() {
		p := PlannerNumber{Number: table.Now(n), Start: n.Value, Kind: "start"}
		if k := kinds[n.Key]; k != "" {
			p.Kind = k
		}
		if r, ok := records[n.Key]; ok {
			p.Won, p.Tried = r.Won, r.Tried
			c, err := sheet.FromRecords(n.Key, r.Won, r.Tried)
			if err != nil {
				return nil, err
			}
			p.ByRecords = c.Value
		}
		out = append(out, p)
	}
	return out, nil
}

// NumberChoice is the grower's decision about one number of the job.
type NumberChoice struct {
	ID  uuid.UUID `json:"id"`
	Key string    `json:"key" maxLength:"80"`
	// Kind is value for a value of their own, records for theirs, start for back to the starting value.
	Kind  string  `json:"kind" enum:"start,value,records"`
	Value float64 `json:"value,omitempty"`
}

func (n NumberChoice) named() named { return named{id: n.ID, kind: "planner_number"} }

func (n NumberChoice) write(ctx context.Context, g *Garden) error {
	if !number.Known(n.Key) {
		return plant.Refuse("key", "%q is not a number of the job", n.Key)
	}
	change := cutplan.Change{Key: n.Key, Value: n.Value}
	if n.Kind == "records" {
		records, err := g.records(ctx)
		if err != nil {
			return err
		}
		sheet, err := g.sheet(ctx)
		if err != nil {
			return err
		}
		r := records[n.Key]
		if change, err = sheet.FromRecords(n.Key, r.Won, r.Tried); err != nil {
			return plant.Refuse("key", "no record of yours says anything about this number yet")
		}
	}
	if n.Kind != "start" {
		if _, err := (cutplan.Sheet{}).With(change); err != nil {
			return err
		}
	}
	g.touched.Numbers = true
	_, err := g.store.AddPlannerNumber(ctx, sqlgen.AddPlannerNumberParams{
		ID: n.ID, Key: n.Key, Kind: n.Kind, Value: change.Value, Won: int32(change.Won), Tried: int32(change.Tried), MadeAt: g.decided,
	})
	return err
}
