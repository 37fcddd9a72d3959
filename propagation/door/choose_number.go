package door

import (
	"context"
	"fmt"

	"github.com/google/uuid"

	"clearjar/core/cutplan"
	"clearjar/core/number"
	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
	"clearjar/store/sqlgen"
)

// NumberChoice is the grower's decision about one number of the job.
type NumberChoice struct {
	ID  uuid.UUID `json:"id"`
	Key string    `json:"key" maxLength:"80"`
	// Kind is value for a value of their own, records for theirs, start for back to the starting value.
	Kind  string  `json:"kind" enum:"start,value,records"`
	Value float64 `json:"value,omitempty"`
}

func (n NumberChoice) named() named { return named{id: n.ID, kind: "planner_number"} }

func (n NumberChoice) write(ctx context.Context, g *Entry) error {
	if !number.Known(n.Key) {
		return plant.Refuse("key", "%q is not a number of the job", n.Key)
	}
	change := cutplan.Change{Key: n.Key, Value: n.Value}
	if n.Kind == "records" {
		records, waiting, err := conclude.Records(ctx, g.Garden)
		if err != nil {
			return err
		}
		if waiting > 0 {
			return propagation.ConflictError{Reason: fmt.Sprintf("Your records are still being counted: %s to go. Nothing was changed; try again in a moment.", plant.Counted(waiting, "cutting", "cuttings"))}
		}
		sheet, err := g.Sheet(ctx)
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
	_, err := g.Store.AddPlannerNumber(ctx, sqlgen.AddPlannerNumberParams{
		ID: n.ID, Key: n.Key, Kind: n.Kind, Value: change.Value, Won: int32(change.Won), Tried: int32(change.Tried), MadeAt: g.decided,
	})
	return err
}
