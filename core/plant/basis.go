package plant

// BasisKind says how far a number can be trusted.
type BasisKind string

// The kinds of basis, from the firmest to the loosest.
const (
	YourRecords    BasisKind = "your records"
	Published      BasisKind = "published"
	CommonPractice BasisKind = "common practice"
	Assumption     BasisKind = "assumption"
	YourChoice     BasisKind = "your choice"
)

// Basis is where a number comes from.
type Basis struct {
	Kind BasisKind `json:"kind" enum:"your records,published,common practice,assumption,your choice"`
	// Source is the author, title and year of a published number, or a remark.
	Source string `json:"source,omitempty"`
}

// Practice is the basis of most numbers of the trade: many growers do so, nobody published it.
var Practice = Basis{Kind: CommonPractice, Source: "no source"}

// Assumed marks a starting value of ours, to be replaced by the grower's records.
func Assumed(why string) Basis { return Basis{Kind: Assumption, Source: why} }

// FromPrint marks a published number that was quoted from memory.
func FromPrint(source string) Basis {
	return Basis{Kind: Published, Source: source + " (from memory)"}
}

// Number is one number of the job with its unit and its basis.
type Number struct {
	Key   string  `json:"key"`
	Label string  `json:"label"`
	Value float64 `json:"value"`
	Unit  string  `json:"unit"`
	Basis Basis   `json:"basis"`
}
