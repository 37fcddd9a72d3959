package propagation

import (
	"context"
	"fmt"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/core/readiness"
	"clearjar/store/sqlgen"
)

// SchoolChoice is the fact that the grower follows a school for one cutting.
type SchoolChoice struct {
	ID        uuid.UUID       `json:"id"`
	CuttingID uuid.UUID       `json:"cutting_id"`
	School    plant.SchoolKey `json:"school" enum:"early_roots,first_leaf,full_roots"`
}

// ChooseSchool sets the school a cutting is judged under.
func (g *Garden) ChooseSchool(ctx context.Context, s SchoolChoice) (CuttingPage, error) {
	if err := checkID("id", s.ID); err != nil {
		return CuttingPage{}, err
	}
	if _, ok := plant.SchoolNamed(s.School); !ok {
		return CuttingPage{}, plant.Refuse("school", "choose one of the schools")
	}
	if _, err := g.store.CuttingByID(ctx, s.CuttingID); err != nil {
		return CuttingPage{}, missing(err, "This cutting")
	}
	if _, err := g.store.AddSchoolChoice(ctx, sqlgen.AddSchoolChoiceParams{ID: s.ID, CuttingID: s.CuttingID, School: string(s.School)}); err != nil {
		return CuttingPage{}, err
	}
	return g.CuttingPage(ctx, s.CuttingID)
}

// Ending is the fact that a cutting is established or lost.
type Ending struct {
	ID        uuid.UUID `json:"id"`
	CuttingID uuid.UUID `json:"cutting_id"`
	readiness.Outcome
	Note string `json:"note,omitempty" maxLength:"2000"`
}

// End closes the record of a cutting. Established needs a potting some days before: success is counted when it has grown on.
func (g *Garden) End(ctx context.Context, e Ending) (CuttingPage, error) {
	if err := checkID("id", e.ID); err != nil {
		return CuttingPage{}, err
	}
	if len([]rune(e.Note)) > 500 {
		return CuttingPage{}, plant.Refuse("note", "at most 500 characters")
	}
	err := g.store.InTx(ctx, func(q *sqlgen.Queries) error {
		if had, err := q.OutcomeOf(ctx, e.CuttingID); err == nil {
			if had.ID == e.ID {
				return nil
			}
			return ConflictError{Reason: fmt.Sprintf("Already closed as %s on %s.", had.Kind, had.EndedOn.In(g.zone).Format("2 Jan 2006"))}
		}
		c, err := q.CuttingByID(ctx, e.CuttingID)
		if err != nil {
			return missing(err, "This cutting")
		}
		cutting, err := g.cuttingView(ctx, c.ID)
		if err != nil {
			return err
		}
		earliest, than := cutting.CutOn, "the cut"
		if e.Kind == "established" {
			if cutting.PottedOn == nil {
				return plant.Refuse("kind", "success is counted when it has grown on after potting: pot it up first")
			}
			earliest, than = cutting.PottedOn.AddDate(0, 0, int(potting.GrownOnAfter.Value)), "a week after potting"
		}
		if err := g.checkDay("on", e.On, earliest, than); err != nil {
			return err
		}
		_, err = q.AddOutcome(ctx, sqlgen.AddOutcomeParams{ID: e.ID, CuttingID: e.CuttingID, Kind: e.Kind, EndedOn: e.On, Note: e.Note})
		return err
	})
	if err != nil {
		return CuttingPage{}, err
	}
	return g.CuttingPage(ctx, e.CuttingID)
}
