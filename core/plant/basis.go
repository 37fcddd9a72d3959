package plant

import "clearjar/core/number"

// What the numbers of the trade are made of; see [clearjar/core/number].
type (
	BasisKind = number.BasisKind
	Basis     = number.Basis
	Number    = number.Number
)

// The kinds of basis, from the firmest to the loosest.
const (
	YourRecords    = number.YourRecords
	Published      = number.Published
	CommonPractice = number.CommonPractice
	Assumption     = number.Assumption
	YourChoice     = number.YourChoice
)

// Practice is the basis of most numbers of the trade: many growers do so, nobody published it.
var Practice = number.Practice

// Assumed marks a starting value of ours, to be replaced by the grower's records.
func Assumed(why string) Basis { return number.Assumed(why) }

// FromPrint marks a published number that was quoted from memory.
func FromPrint(source string) Basis { return number.FromPrint(source) }
