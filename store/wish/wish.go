// Package wish is what a grower asks of a cut plan, as it is kept with the plan.
package wish

import "clearjar/core/cutplan"

// Wish is the limits, the conditions and the aim of a plan.
type Wish struct {
	Limits     cutplan.Limits     `json:"limits"`
	Conditions cutplan.Conditions `json:"conditions"`
	Aim        cutplan.Aim        `json:"aim"`
}
