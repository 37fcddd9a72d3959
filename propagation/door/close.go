package door

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"clearjar/core/life"
	"clearjar/core/plant"
	"clearjar/propagation/conclude"
	"clearjar/store/sqlgen"
)

// SchoolChoice is the fact that the grower follows a school for one cutting. The choice made last holds, whenever it arrives.
type SchoolChoice struct {
	ID        uuid.UUID       `json:"id"`
	CuttingID uuid.UUID       `json:"cutting_id"`
	School    plant.SchoolKey `json:"school"`
}

func (s SchoolChoice) named() named { return named{s.ID, "school", s.CuttingID} }

func (s SchoolChoice) write(ctx context.Context, g *Entry) error {
	if _, ok := plant.SchoolNamed(s.School); !ok {
		return plant.Refuse("school", "choose one of the schools")
	}
	if _, err := g.lockCutting(ctx, s.CuttingID); err != nil {
		return err
	}
	_, err := g.Store.AddSchoolChoice(ctx, sqlgen.AddSchoolChoiceParams{ID: s.ID, CuttingID: s.CuttingID, School: string(s.School), MadeAt: g.decided})
	return err
}

// Ending is the fact that a cutting is established or lost. Established needs a potting some days before:
// success is counted when it has grown on. What was given away, or has ended, is not closed again.
type Ending struct {
	ID        uuid.UUID `json:"id"`
	CuttingID uuid.UUID `json:"cutting_id"`
	life.Outcome
	Note string `json:"note,omitempty" maxLength:"2000"`
}

// reasonsLost are why a cutting may be lost, in the order they are offered.
var reasonsLost = []string{"rotted", "dried", "never_woke", "broken", "other"}

func (e Ending) named() named { return named{e.ID, "outcome", e.CuttingID} }

func (e Ending) write(ctx context.Context, g *Entry) error {
	note, err := plant.CleanText("note", e.Note, 500)
	if err != nil {
		return err
	}
	c, err := g.standing(ctx, e.CuttingID, life.InPot)
	if err != nil {
		return err
	}
	if err := g.checkOutcome(c, e.Outcome); err != nil {
		return err
	}
	_, err = g.Store.AddOutcome(ctx, sqlgen.AddOutcomeParams{ID: e.ID, CuttingID: e.CuttingID, Kind: e.Kind, EndedOn: e.On, Note: note, Why: e.Why})
	return err
}

// checkGrownOn refuses to close a piece that stays in its mix before a leaf has opened on it.
func (g *Entry) checkGrownOn(c conclude.Lived, o life.Outcome) error {
	for _, b := range c.Seen().Buds {
		if b.Bud == plant.BudLeafOpen {
			set, _ := c.SetNow()
			return g.CheckDay("on", o.On, set.On, "it was set")
		}
	}
	return plant.Refuse("kind", "success is counted when a new leaf has opened: note the leaf first")
}

// checkOutcome refuses an outcome that its own facts contradict.
func (g *Entry) checkOutcome(c conclude.Lived, o life.Outcome) error {
	earliest, than := c.CutOn, "the cut"
	switch o.Kind {
	case life.EndParted:
		if len(c.Partings) == 0 || o.Why != "" {
			return plant.Refuse("kind", "nothing was parted from it")
		}
		earliest, than = c.Partings[0].On, "its first young plants were parted"
	case life.EndEstablished:
		if o.Why != "" {
			return plant.Refuse("why", "only what is lost has a reason")
		}
		if school, _ := plant.SchoolNamed(c.School()); c.Potted == nil && school.Stays {
			return g.checkGrownOn(c, o)
		}
		if c.Potted == nil {
			return plant.Refuse("kind", "success is counted when it has grown on after potting: pot it up first")
		}
		early := c.Numbers.Int(life.GrownOnAfter)
		if from := c.Potted.On.AddDate(0, 0, early); plant.Days(from, o.On.In(g.Zone)) < 0 {
			return plant.Refuse("on", "too early to count as grown on: at least %s after potting, which is %s", plant.Counted(early, "day", "days"), plant.Date(from, g.Now().In(g.Zone)))
		}
	case life.EndLost:
		if o.Why != "" && !slices.Contains(reasonsLost, o.Why) {
			return plant.Refuse("why", "%q is not a reason", o.Why)
		}
	default:
		return plant.Refuse("kind", "established, lost or parted")
	}
	return g.CheckDay("on", o.On, earliest, than)
}
