package door

import (
	"context"
	"time"

	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/store/sqlgen"
)

// HouseholdCorrection puts right where the grower is.
type HouseholdCorrection struct {
	Correction[propagation.HouseholdWords]
}

func (c HouseholdCorrection) named() named { return named{id: c.ID, kind: "household_correction"} }

func (c HouseholdCorrection) write(ctx context.Context, g *Entry) error {
	now, err := g.Store.HouseholdNow(ctx)
	if err != nil {
		return propagation.Missing(err, "This household")
	}
	if _, err := time.LoadLocation(c.Becomes.TimeZone); err != nil || c.Becomes.TimeZone == "Local" {
		return plant.Refuse("time_zone", "%q is not the name of a time zone, such as Europe/Lisbon", c.Becomes.TimeZone)
	}
	return correct(ctx, g, c.Correction, target[propagation.HouseholdWords]{
		"household", now.ID,
		func() (propagation.HouseholdWords, error) {
			return propagation.HouseholdWords{TimeZone: now.TimeZone, Southern: now.Southern}, nil
		},
		func(to propagation.HouseholdWords) error {
			// Every verdict and season rests on it.
			g.touched.Numbers = true
			return g.Store.CorrectHousehold(ctx, sqlgen.CorrectHouseholdParams{TimeZone: to.TimeZone, Southern: to.Southern})
		},
	})
}
