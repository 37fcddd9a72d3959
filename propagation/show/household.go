package show

import (
	"context"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/propagation"
)

// Household is where the grower is, with what follows.
type Household struct {
	ID uuid.UUID `json:"id"`
	propagation.HouseholdWords
	// ZoneInUse is the zone that decides the day; Today is that day; Dark tells whether it is the dark half of the year.
	ZoneInUse string    `json:"zone_in_use"`
	Today     time.Time `json:"today"`
	Dark      bool      `json:"dark"`
}

// HouseholdNow tells where the grower is.
func HouseholdNow(ctx context.Context, g *propagation.Garden) (Household, error) {
	row, err := g.Store.HouseholdNow(ctx)
	zone := g.Zone.String()
	if g.Zone == time.Local { // it has no name of its own
		zone = g.Today().Format("MST, -07:00")
	}
	return Household{
		row.ID, propagation.HouseholdWords{TimeZone: row.TimeZone, Southern: row.Southern}, zone, g.Today(), plant.InDarkHalf(g.Today(), g.Southern),
	}, err
}
