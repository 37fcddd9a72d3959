package propagation

import "clearjar/core/life"

// OutcomeWords is how a cutting ended.
type OutcomeWords struct {
	life.Outcome
	Note string `json:"note,omitempty" maxLength:"2000"`
}

// HouseholdWords is what is said of a household: where it is, for its days and its seasons.
type HouseholdWords struct {
	// TimeZone is the name of a zone such as Europe/Lisbon; empty for that of the server.
	TimeZone string `json:"time_zone" maxLength:"60"`
	// Southern is true south of the equator, where the dark half of the year is the other one.
	Southern bool `json:"southern"`
}
