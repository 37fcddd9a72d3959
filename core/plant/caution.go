package plant

// HazardKey names a hazard of a plant, a medium or a tool.
type HazardKey string

// The hazards the work meets.
const (
	AroidSap    HazardKey = "aroid_sap"
	MilkySap    HazardKey = "milky_sap"
	MildSap     HazardKey = "mild_sap"
	BladeWork   HazardKey = "blade"
	Alcohol     HazardKey = "alcohol"
	PerliteDust HazardKey = "perlite_dust"
	MossFungus  HazardKey = "moss_fungus"
	PeatDust    HazardKey = "peat_dust"
	Chemicals   HazardKey = "chemicals"
	TradeRules  HazardKey = "trade_rules"
	Irreplace   HazardKey = "irreplaceable"
)

// hazards lists hazards; never nil, so that a list of none is a list.
func hazards(h ...HazardKey) []HazardKey { return append([]HazardKey{}, h...) }

// Caution is what to say where a hazard is met.
type Caution struct {
	Key  HazardKey `json:"key"`
	Text string    `json:"text"`
}

var cautions = map[HazardKey]string{
	AroidSap:    "The sap carries calcium oxalate needles: gloves, nothing in the eyes; keep pieces and wash water from children and pets. If eaten, call poison control or a vet.",
	MilkySap:    "The milky sap irritates skin and eyes: gloves, wash it off.",
	MildSap:     "The sap can irritate skin: wash your hands after.",
	BladeWork:   "Cut away from you and cap the blade. Tough rhizomes: brace the piece and protect your eyes.",
	Alcohol:     "Isopropyl alcohol is flammable: ventilate, never near a hot tool. Follow the label.",
	PerliteDust: "Perlite dust: wet it before handling, mask when there is much of it.",
	MossFungus:  "Moss can carry a skin fungus (sporotrichosis): gloves over any cut.",
	PeatDust:    "Dry peat and perlite dust: wet before handling, mask in quantity; gloves over cuts.",
	Chemicals:   "Hormone powders, dusts and fungicides: read the label and follow it, gloves, never in kitchenware. Local rules govern plant-protection products.",
	TradeRules:  "Many rare plants are protected in trade (CITES), patented or under breeders' rights; mail may need a phytosanitary certificate. Check with your local authority before you sell, mail or plant out.",
	Irreplace:   "This tool advises; it does not know your plant. When a plant is irreplaceable, ask someone who grows it.",
}

// Cautions lists every caution, in the order the work meets them.
func Cautions() []Caution {
	return CautionsFor(BladeWork, Alcohol, AroidSap, MilkySap, MildSap, PerliteDust, MossFungus, PeatDust, Chemicals, TradeRules, Irreplace)
}

// CautionsFor gives the cautions for the hazards, in the order asked, each once.
func CautionsFor(keys ...HazardKey) []Caution {
	out := []Caution{}
	seen := map[HazardKey]bool{}
	for _, k := range keys {
		if text, ok := cautions[k]; ok && !seen[k] {
			seen[k] = true
			out = append(out, Caution{k, text})
		}
	}
	return out
}
