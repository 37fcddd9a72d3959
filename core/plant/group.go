package plant

// Span is a middle value of a number of days and the range in which most fall.
type Span struct {
	Mid  float64 `json:"mid"`
	Low  float64 `json:"low"`
	High float64 `json:"high"`
}

// Group is a growth group: plants that root alike.
type Group struct {
	Key     string      `json:"key"`
	Name    string      `json:"name"`
	Members string      `json:"members"`
	Kinds   []PieceKind `json:"kinds"`
	// Media lists what the group roots in, first choice first.
	Media []Medium `json:"media"`
	// FirstRootsDays and PotUpDays count from setting. Zero for pieces that already have roots.
	FirstRootsDays Span `json:"first_roots_days"`
	PotUpDays      Span `json:"pot_up_days"`
	// RootColours are the colours of healthy roots, young to old.
	RootColours []RootColour `json:"root_colours"`
	Hazards     []HazardKey  `json:"hazards"`
	Note        string       `json:"note"`
	Basis       Basis        `json:"basis"`
}

var groupAssumed = Assumed("starting value from general knowledge; your records will replace it")

// Groups is the table of growth groups, in the order growers list them.
func Groups() []Group {
	kinds := func(k ...PieceKind) []PieceKind { return k }
	media := func(m ...Medium) []Medium { return m }
	roots := func(c ...RootColour) []RootColour { return c }
	pale := roots(White, Cream, Tan)
	return []Group{
		{"soft_climber", "Soft fast climbers", "Epipremnum, Scindapsus, Syngonium, small-leaved Monstera, heart-leaved Philodendron", kinds(Tip, StemCutting, LeafBud), media(Water, Moss, Mix), Span{14, 7, 28}, Span{30, 18, 60}, pale, hazards(AroidSap), "Very easy.", Practice},
		{"thick_climber", "Thick climbers", "large Monstera, Rhaphidophora, Amydrium, large Philodendron", kinds(Tip, StemCutting, LeafBud), media(Water, Moss, Perlite), Span{21, 12, 45}, Span{35, 25, 80}, pale, hazards(AroidSap), "Leafless nodes are slow and risky.", groupAssumed},
		{"velvet_climber", "Velvet climbers", "Philodendron melanochrysum, verrucosum", kinds(Tip, StemCutting, LeafBud), media(Moss, Perlite), Span{28, 14, 60}, Span{55, 35, 100}, pale, hazards(AroidSap), "High humidity.", groupAssumed},
		{"creeping_rhizome", "Creeping rhizomes", "Philodendron gloriosum type", kinds(RhizomePiece), media(Moss, Perlite), Span{30, 15, 60}, Span{60, 35, 110}, pale, hazards(AroidSap), "Bud up, half exposed.", groupAssumed},
		{"wax_vine", "Wax vines", "Hoya, Dischidia", kinds(StemCutting, Tip), media(Water, Moss, Perlite), Span{21, 10, 45}, Span{40, 25, 90}, pale, hazards(MilkySap), "Let the cut face dry 1 hour to 1 day.", groupAssumed},
		{"cissus_kin", "Vining Cissus, Tradescantia and kin", "Cissus discolor, Tradescantia", kinds(Tip, StemCutting), media(Water, Mix), Span{7, 2, 14}, Span{21, 10, 35}, pale, hazards(MildSap), "Pot at 10-20 mm; leggy in low light; pattern fades in shade.", Practice},
		{"prayer_plant", "Prayer plants", "Maranta", kinds(StemCutting), media(Mix, Water), Span{21, 14, 30}, Span{28, 21, 45}, pale, nil, "Hormone helps; Calathea kin only divide.", Practice},
		{"pitcher_vine", "Pitcher vines", "Nepenthes", kinds(StemCutting), media(Perlite, Moss), Span{60, 30, 120}, Span{100, 60, 180}, roots(Black, Brown), hazards(TradeRules), "Thin black roots are healthy. Trim tendrils and blades; protected in trade.", Practice},
		{"butterwort", "Butterworts", "Pinguicula", kinds(LeafPiece), media(Moss), Span{9, 7, 21}, Span{70, 40, 120}, pale, nil, "Pulled leaf with its white base, laid on top; never cover the leaf.", Practice},
		{"peperomia", "Peperomia", "Peperomia", kinds(LeafPiece, StemCutting), media(Moss), Span{25, 14, 45}, Span{75, 45, 120}, pale, nil, "Moss cup with a vented lid. Every cut vein may shoot; blade halves beat petioles.", Practice},
		{"gesneriad", "Gesneriads", "African violet type", kinds(LeafPiece), media(Mix), Span{28, 21, 60}, Span{75, 45, 180}, pale, nil, "Leaf with 25 mm of petiole. Shallow: plantlets emerge sooner; blade above the mix.", Practice},
		{"sword_succulent", "Sword-leaved succulents", "Dracaena trifasciata kin", kinds(LeafPiece, Division, StemCutting), media(Mix, Water), Span{45, 21, 90}, Span{120, 60, 240}, roots(White, Orange), hazards(MildSap), "Callus first; leaf pieces lose pattern; keep upright. Roots turn orange as they mature.", Practice},
		{"rosette_succulent", "Rosette succulents", "Echeveria", kinds(LeafPiece, Tip), media(Mix), Span{21, 10, 45}, Span{60, 30, 120}, roots(Pink, White), nil, "Dry mix after callus; wait for roots before water.", Practice},
		{"heart_vine", "Heart vines", "Ceropegia", kinds(Tuber, StemCutting), media(Mix, Water), Span{14, 10, 28}, Span{35, 20, 60}, pale, hazards(MilkySap), "Callus a day; 3 to a pot.", Practice},
		{"begonia", "Cane and rhizome begonias", "Begonia", kinds(StemCutting, LeafPiece), media(Moss, Water), Span{18, 10, 35}, Span{45, 28, 90}, pale, nil, "Rots if wet and closed.", groupAssumed},
		{"ivy", "Ivy", "Hedera", kinds(StemCutting), media(Mix, Water), Span{28, 14, 45}, Span{75, 50, 100}, pale, hazards(MildSap), "Three or four nodes; sap irritates; slow when variegated.", Practice},
		{"clump_former", "Clump formers", "Strelitzia, pitcher clumps, pups", kinds(Division), media(Mix), Span{}, Span{}, roots(White, Cream, Tan, Orange, Black), hazards(BladeWork), "Lose no more than a fifth of the roots; old rhizome pieces shoot in 1-2 years.", Practice},
		{"runner_former", "Runner formers", "runner pieces of 40-50 mm, laid flat", kinds(Runner), media(Mix), Span{25, 15, 45}, Span{60, 40, 100}, pale, nil, "Horizontal, shallow, 10 mm of cover.", Practice},
		{"soft_shrub", "Soft shrubs", "tips of 2-4 nodes, 2 set", kinds(Tip), media(Mix), Span{60, 40, 120}, Span{180, 120, 210}, pale, nil, "Gritty mix, bottle house; mist the leaves, not the mix.", Practice},
	}
}

// GroupNamed finds a growth group by its key.
func GroupNamed(key string) (Group, bool) {
	for _, g := range Groups() {
		if g.Key == key {
			return g, true
		}
	}
	return Group{}, false
}

// HealthyRoot tells whether a colour is one that healthy roots of the group have.
func (g Group) HealthyRoot(c RootColour) bool {
	for _, have := range g.RootColours {
		if have == c {
			return true
		}
	}
	return false
}

// Gives tells whether the group is usually multiplied from pieces of this kind.
func (g Group) Gives(k PieceKind) bool {
	for _, have := range g.Kinds {
		if have == k {
			return true
		}
	}
	return false
}

// Suits tells whether the group is usually rooted in the medium.
func (g Group) Suits(m Medium) bool {
	for _, have := range g.Media {
		if have == m {
			return true
		}
	}
	return false
}
