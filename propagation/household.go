package propagation

import (
	"context"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/store/sqlgen"
)

// HouseholdWords is what is said of a household: where it is, for its days and its seasons.
type HouseholdWords struct {
	// TimeZone is the name of a zone such as Europe/Lisbon; empty for that of the server.
	TimeZone string `json:"time_zone" maxLength:"60"`
	// Southern is true south of the equator, where the dark half of the year is the other one.
	Southern bool `json:"southern"`
}

// Household is where the grower is, with what follows.
type Household struct {
	ID uuid.UUID `json:"id"`
	HouseholdWords
	// ZoneInUse is the zone that decides the day; Today is that day; Dark tells whether it is the dark half of the year.
	ZoneInUse string    `json:"zone_in_use"`
	Today     time.Time `json:"today"`
	Dark      bool      `json:"dark"`
}

// For is the garden of the household that the context is for: its days, its seasons.
func (g *Garden) For(ctx context.Context) (*Garden, error) {
	row, err := g.store.HouseholdNow(ctx)
	if err != nil {
		return nil, missing(err, "This household")
	}
	mine := *g
	mine.southern = row.Southern
	if row.TimeZone != "" {
		if mine.zone, err = time.LoadLocation(row.TimeZone); err != nil {
			return nil, err
		}
	}
	return &mine, nil
}

// Household tells where the grower is.
func (g *Garden) Household(ctx context.Context) (Household, error) {
	row, err := g.store.HouseholdNow(ctx)
	zone := g.zone.String()
	if g.zone == time.Local { // it has no name of its own
		zone = g.Today().Format("MST, -07:00")
	}
	return Household{
		row.ID, HouseholdWords{row.TimeZone, row.Southern}, zone, g.Today(), plant.InDarkHalf(g.Today(), g.southern),
	}, err
}

// HouseholdCorrection puts right where the grower is.
type HouseholdCorrection struct{ Correction[HouseholdWords] }

func (c HouseholdCorrection) named() named { return named{id: c.ID, kind: "household_correction"} }

func (c HouseholdCorrection) write(ctx context.Context, g *Garden) error {
	now, err := g.store.HouseholdNow(ctx)
	if err != nil {
		return missing(err, "This household")
	}
	if _, err := time.LoadLocation(c.Becomes.TimeZone); err != nil || c.Becomes.TimeZone == "Local" {
		return plant.Refuse("time_zone", "%q is not the name of a time zone, such as Europe/Lisbon", c.Becomes.TimeZone)
	}
	return correct(ctx, g, c.Correction, target[HouseholdWords]{
		"household", now.ID,
		func() (HouseholdWords, error) { return HouseholdWords{now.TimeZone, now.Southern}, nil },
		func(to HouseholdWords) error {
			// Every verdict and season rests on it.
			g.touched.Numbers = true
			return g.store.CorrectHousehold(ctx, sqlgen.CorrectHouseholdParams{TimeZone: to.TimeZone, Southern: to.Southern})
		},
	})
}
