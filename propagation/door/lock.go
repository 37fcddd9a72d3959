package door

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"

	"clearjar/core/life"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
	"clearjar/store/sqlgen"
)

// lockMother locks a mother: what a fact locks, it touches.
func (g *Entry) lockMother(ctx context.Context, id uuid.UUID) error {
	if _, err := g.Store.LockMother(ctx, id); err != nil {
		return propagation.Missing(err, "This mother")
	}
	mark(&g.touched.Mothers, id)
	return nil
}

// lockVessel locks a vessel and gives it as it is. One that was taken back is not there.
func (g *Entry) lockVessel(ctx context.Context, id uuid.UUID) (sqlgen.VesselNow, error) {
	if _, err := g.Store.LockVessel(ctx, id); err != nil {
		return sqlgen.VesselNow{}, propagation.Missing(err, "This vessel")
	}
	v, err := g.Store.VesselByID(ctx, id)
	if err == nil && v.WithdrawnAt != nil {
		return v, propagation.MissingError{What: "This vessel"}
	}
	mark(&g.touched.Vessels, id)
	return v, propagation.Missing(err, "This vessel")
}

// lockCutting locks a cutting and gives its life. It touches where it stands and whom it came from too.
func (g *Entry) lockCutting(ctx context.Context, id uuid.UUID) (conclude.Lived, error) {
	if _, err := g.Store.LockCutting(ctx, id); err != nil {
		return conclude.Lived{}, propagation.Missing(err, "This cutting")
	}
	l, err := conclude.OneLife(ctx, g.Garden, id)
	if err != nil {
		return l, err
	}
	mark(&g.touched.Cuttings, id)
	mark(&g.touched.Vessels, l.VesselID())
	mark(&g.touched.Mothers, l.Row.MotherID)
	// What the piece came to counts for the piece it was parted from.
	if l.Row.ParentID != nil {
		mark(&g.touched.Cuttings, *l.Row.ParentID)
	}
	return l, nil
}

// standing locks a cutting and refuses one that has ended, was given away, or has come further than the
// act allows: in a pot, when it is done in a vessel.
func (g *Entry) standing(ctx context.Context, id uuid.UUID, most life.Where) (conclude.Lived, error) {
	l, err := g.lockCutting(ctx, id)
	if err != nil {
		return l, err
	}
	day := func(t time.Time) string { return t.Format("2 Jan 2006") }
	switch where := l.Where(); {
	case where == life.Ended:
		return l, propagation.ConflictError{Reason: fmt.Sprintf("%s was closed as %s on %s. Reopen it first, if that was a mistake.", l.Row.Code, l.Outcome.Kind, day(l.Outcome.On))}
	case where == life.Given:
		return l, propagation.ConflictError{Reason: fmt.Sprintf("%s was given away on %s.", l.Row.Code, day(*l.GivenOn))}
	case where == life.InPot && most != life.InPot:
		return l, propagation.ConflictError{Reason: fmt.Sprintf("%s was already potted on %s. Nothing was changed.", l.Row.Code, day(l.Potted.On))}
	}
	return l, nil
}
