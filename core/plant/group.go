package plant

// Span is a middle value of a number of days and the range in which most fall.
type Span struct {
	Mid  float64 `json:"mid"`
	Low  float64 `json:"low"`
	High float64 `json:"high"`
}

// IsZero tells whether nothing is known.
func (s Span) IsZero() bool { return s == Span{} }

// Times is the span made longer by a factor.
func (s Span) Times(f float64) Span { return Span{s.Mid * f, s.Low * f, s.High * f} }

// Group is a growth group: plants that root alike. What differs between groups is a column here.
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
	// School is the school of readiness the group starts with.
	School SchoolKey `json:"school"`
	// Keeping is how moist it is kept, while it roots and after potting.
	Keeping Keeping `json:"keeping" enum:"damp,dry"`
	// Cover is what stands over it in moss, perlite or mix; empty for what is usual with the medium.
	Cover CoverKey `json:"cover,omitempty"`
	// Mix is the potting mix its roots want, a key of the mixes of potting.
	Mix string `json:"mix"`
	// DryUntilRoots: it gets no water at all before it has roots.
	DryUntilRoots bool `json:"dry_until_roots"`
	// CallusHours is how long a cut face dries before it is set; zero for straight in.
	CallusHours Span `json:"callus_hours"`
	// Succulent: thick leaves that callus before they are set.
	Succulent bool `json:"succulent"`
	// RotsClosed: it rots when it stands wet and closed.
	RotsClosed bool `json:"rots_closed"`
	// Heads: its tip is cut as a head. Strands: it grows in strands of leaf pairs; pieces of StrandFrom nodes and more are strands.
	Heads      bool `json:"heads"`
	Strands    bool `json:"strands"`
	StrandFrom int  `json:"strand_from,omitempty"`
	// BackShoots: old rhizome without a growing point can shoot.
	BackShoots bool `json:"back_shoots"`
	// SplitFromMM is from which thickness the base of a piece is split; 0 for never.
	SplitFromMM float64 `json:"split_from_mm,omitempty"`
	// Bench, Set and Lift are what is particular to it as it is cut, set and taken out of its medium.
	Bench []string `json:"bench"`
	Set   []string `json:"set"`
	Lift  string   `json:"lift,omitempty"`
	// ShootsStay: shoots that rise from a leaf stay attached to it, and are potted with it.
	ShootsStay bool `json:"shoots_stay"`
	// PullsLeaf: a leaf regrows only from its base, pulled off whole.
	PullsLeaf bool `json:"pulls_leaf"`
	// Wake is the chance that one set node with a leaf roots and shoots, by medium, in the bright half of the year:
	// read it by [Group.WakeIn].
	Wake map[Medium]float64 `json:"-"`
}

var groupAssumed = Assumed("starting value from general knowledge; your records will replace it")

// groups is the table, in the order growers list them.
var groups = func() []Group {
	kinds := func(k ...PieceKind) []PieceKind { return k }
	media := func(m ...Medium) []Medium { return m }
	roots := func(c ...RootColour) []RootColour { return c }
	pale := roots(White, Cream, Tan)
	// Another medium has the chances of the one it is like, until a group says its own.
	wake := func(water, moss, perlite, mix float64) map[Medium]float64 {
		return map[Medium]float64{Water: water, Moss: moss, Perlite: perlite, Mix: mix}
	}
	return []Group{
		{
			Key: "soft_climber", Name: "Soft fast climbers", Members: "Epipremnum, Scindapsus, Syngonium, small-leaved Monstera, heart-leaved Philodendron",
			Kinds: kinds(Tip, StemCutting, LeafBud), Media: media(Water, Moss, Mix), FirstRootsDays: Span{14, 7, 28}, PotUpDays: Span{30, 18, 60},
			RootColours: pale, Hazards: hazards(AroidSap), Note: "Very easy.", Basis: Practice, School: EarlyRoots, Keeping: Damp, Mix: "climber", Wake: wake(0.92, 0.90, 0.80, 0.85),
		},
		{
			Key: "thick_climber", Name: "Thick climbers", Members: "large Monstera, Rhaphidophora, Amydrium, large Philodendron",
			Kinds: kinds(Tip, StemCutting, LeafBud), Media: media(Water, Moss, Perlite), FirstRootsDays: Span{21, 12, 45}, PotUpDays: Span{35, 25, 80},
			RootColours: pale, Hazards: hazards(AroidSap), Note: "Leafless nodes are slow and risky.", Basis: groupAssumed, School: FullRoots, Keeping: Damp, Mix: "climber", Wake: wake(0.65, 0.65, 0.60, 0.45),
		},
		{
			Key: "velvet_climber", Name: "Velvet climbers", Members: "Philodendron melanochrysum, verrucosum",
			Kinds: kinds(Tip, StemCutting, LeafBud), Media: media(Moss, Perlite), FirstRootsDays: Span{28, 14, 60}, PotUpDays: Span{55, 35, 100},
			RootColours: pale, Hazards: hazards(AroidSap), Note: "High humidity.", Basis: groupAssumed, School: FirstLeaf, Keeping: Damp, Mix: "climber", Wake: wake(0.45, 0.65, 0.60, 0.40),
		},
		{
			Key: "creeping_rhizome", Name: "Creeping rhizomes", Members: "Philodendron gloriosum type",
			Kinds: kinds(RhizomePiece, BackRhizome), BackShoots: true, Media: media(Moss, Perlite), FirstRootsDays: Span{30, 15, 60}, PotUpDays: Span{60, 35, 110},
			RootColours: pale, Hazards: hazards(AroidSap), Note: "Bud up, half exposed.", Basis: groupAssumed, School: FirstLeaf, Keeping: Damp, Mix: "climber", Wake: wake(0.40, 0.62, 0.60, 0.45),
		},
		{
			Key: "wax_vine", Name: "Wax vines", Members: "Hoya, Dischidia",
			Kinds: kinds(StemCutting, Tip), Media: media(Water, Moss, Perlite), FirstRootsDays: Span{21, 10, 45}, PotUpDays: Span{40, 25, 90},
			RootColours: pale, Hazards: hazards(MilkySap), Note: "Let the cut face dry 1 hour to 1 day.", Basis: groupAssumed, School: FullRoots, Keeping: Damp, Mix: "climber", Wake: wake(0.70, 0.68, 0.65, 0.55),
			CallusHours: Span{Mid: 4, Low: 1, High: 24},
		},
		{
			Key: "cissus_kin", Name: "Vining Cissus, Tradescantia and kin", Members: "Cissus discolor, Tradescantia",
			Kinds: kinds(Tip, StemCutting), Media: media(Water, Mix), FirstRootsDays: Span{7, 2, 14}, PotUpDays: Span{21, 10, 35},
			RootColours: pale, Hazards: hazards(MildSap), Note: "Pot at 10-20 mm; leggy in low light; pattern fades in shade.", Basis: Practice, School: EarlyRoots, Keeping: Damp, Mix: "climber", Wake: wake(0.90, 0.75, 0.65, 0.85),
		},
		{
			Key: "prayer_plant", Name: "Prayer plants", Members: "Maranta",
			Kinds: kinds(StemCutting), Media: media(Mix, Water), FirstRootsDays: Span{21, 14, 30}, PotUpDays: Span{28, 21, 45},
			RootColours: pale, Hazards: hazards(), Note: "Hormone helps; Calathea kin only divide.", Basis: Practice, School: FirstLeaf, Keeping: Damp, Mix: "fine", Wake: wake(0.55, 0.50, 0.50, 0.65),
		},
		{
			Key: "pitcher_vine", Name: "Pitcher vines", Members: "Nepenthes",
			SplitFromMM: 5, Lift: "Tip it out, never pull: its thin black roots are healthy and break.",
			Bench: []string{"Tendrils and pitchers off; blades shortened to a half.", "One to three leaves a piece."},
			Set:   []string{"Bury it almost to the next node; the leaf stays clear.", "Roots follow the shoot: wait until that is 25 to 50 mm long."},
			Kinds: kinds(StemCutting), Media: media(Perlite, Moss), FirstRootsDays: Span{60, 30, 120}, PotUpDays: Span{100, 60, 180},
			RootColours: roots(Black, Brown), Hazards: hazards(TradeRules), Note: "Thin black roots are healthy. Trim tendrils and blades; protected in trade.", Basis: Practice, School: FullRoots, Keeping: Damp, Mix: "pitcher", Wake: wake(0.35, 0.62, 0.66, 0.40),
		},
		{
			Key: "butterwort", Name: "Butterworts", Members: "Pinguicula",
			Kinds: kinds(LeafPiece), Media: media(Moss), FirstRootsDays: Span{9, 7, 21}, PotUpDays: Span{70, 40, 120},
			RootColours: pale, Hazards: hazards(), Note: "Pulled leaf with its white base, laid on top; never cover the leaf.", Basis: Practice, School: FirstLeaf, Keeping: Damp, Cover: Aired, Mix: "fine", Wake: wake(0.20, 0.75, 0.50, 0.30),
			PullsLeaf: true,
		},
		{
			Key: "peperomia", Name: "Peperomia", Members: "Peperomia",
			Kinds: kinds(LeafPiece, StemCutting), Media: media(Moss), FirstRootsDays: Span{25, 14, 45}, PotUpDays: Span{75, 45, 120},
			RootColours: pale, Hazards: hazards(), Note: "Moss cup with a vented lid. Every cut vein may shoot; blade halves beat petioles.", Basis: Practice, School: FirstLeaf, Keeping: Damp, Cover: Vented, Mix: "fine", Wake: wake(0.50, 0.70, 0.60, 0.60),
		},
		{
			Key: "gesneriad", Name: "Gesneriads", Members: "African violet type",
			Kinds: kinds(LeafPiece), Media: media(Mix), FirstRootsDays: Span{28, 21, 60}, PotUpDays: Span{75, 45, 180},
			RootColours: pale, Hazards: hazards(), Note: "Leaf with 25 mm of petiole. Shallow: plantlets emerge sooner; blade above the mix.", Basis: Practice, School: FirstLeaf, Keeping: Damp, Mix: "fine", Wake: wake(0.60, 0.55, 0.55, 0.75),
		},
		{
			Key: "sword_succulent", Name: "Sword-leaved succulents", Members: "Dracaena trifasciata kin",
			Kinds: kinds(LeafPiece, Division, Pup, StemCutting), Media: media(Mix, Water), FirstRootsDays: Span{45, 21, 90}, PotUpDays: Span{120, 60, 240},
			RootColours: roots(White, Orange), Hazards: hazards(MildSap), Note: "Callus first; leaf pieces lose pattern; keep upright. Roots turn orange as they mature.", Basis: Practice, School: FirstLeaf, Keeping: Dry, Cover: NoCover, Mix: "gritty", Wake: wake(0.55, 0.40, 0.50, 0.65),
			CallusHours: Span{Mid: 4, Low: 3, High: 5}, Succulent: true, RotsClosed: true, ShootsStay: true,
		},
		{
			Key: "rosette_succulent", Name: "Rosette succulents", Members: "Echeveria",
			Kinds: kinds(LeafPiece, Head), Heads: true, Media: media(Mix), FirstRootsDays: Span{21, 10, 45}, PotUpDays: Span{60, 30, 120},
			RootColours: roots(Pink, White), Hazards: hazards(), Note: "Dry mix after callus; wait for roots before water.", Basis: Practice, School: EarlyRoots, Keeping: Dry, Cover: NoCover, Mix: "gritty", Wake: wake(0.20, 0.30, 0.50, 0.65),
			CallusHours: Span{Mid: 24, Low: 24, High: 48}, Succulent: true, RotsClosed: true, DryUntilRoots: true,
		},
		{
			Key: "heart_vine", Name: "Heart vines", Members: "Ceropegia",
			Kinds: kinds(Tuber, StemCutting, Pair, Strand), Strands: true, StrandFrom: 3, Media: media(Mix, Water), FirstRootsDays: Span{14, 10, 28}, PotUpDays: Span{35, 20, 60},
			RootColours: pale, Hazards: hazards(MilkySap), Note: "Callus a day; 3 to a pot.", Basis: Practice, School: EarlyRoots, Keeping: Dry, Cover: NoCover, Mix: "gritty", Wake: wake(0.60, 0.60, 0.60, 0.70),
			CallusHours: Span{Mid: 24, Low: 24, High: 36}, RotsClosed: true,
		},
		{
			Key: "begonia", Name: "Cane and rhizome begonias", Members: "Begonia",
			Kinds: kinds(StemCutting, LeafPiece), Media: media(Moss, Water), FirstRootsDays: Span{18, 10, 35}, PotUpDays: Span{45, 28, 90},
			RootColours: pale, Hazards: hazards(), Note: "Rots if wet and closed.", Basis: groupAssumed, School: FirstLeaf, Keeping: Damp, Cover: Ajar, Mix: "fine", Wake: wake(0.65, 0.68, 0.60, 0.55),
			RotsClosed: true,
		},
		{
			Key: "ivy", Name: "Ivy", Members: "Hedera",
			Kinds: kinds(StemCutting), Media: media(Mix, Water), FirstRootsDays: Span{28, 14, 45}, PotUpDays: Span{75, 50, 100},
			RootColours: pale, Hazards: hazards(MildSap), Note: "Three or four nodes; sap irritates; slow when variegated.", Basis: Practice, School: FirstLeaf, Keeping: Damp, Mix: "fine", Wake: wake(0.62, 0.55, 0.50, 0.65),
		},
		{
			Key: "clump_former", Name: "Clump formers", Members: "Strelitzia, pitcher clumps, pups",
			Kinds: kinds(Division, Pup, BackRhizome), BackShoots: true, Media: media(Mix), RootColours: roots(White, Cream, Tan, Orange, Black), Hazards: hazards(BladeWork),
			Note: "Lose no more than a fifth of the roots; old rhizome pieces shoot in 1-2 years.", Basis: Practice, School: FirstLeaf, Keeping: Damp, Mix: "mother", Wake: wake(0.30, 0.40, 0.40, 0.50),
		},
		{
			Key: "runner_former", Name: "Runner formers", Members: "runner pieces of 40-50 mm, laid flat",
			Kinds: kinds(Runner), Media: media(Mix), FirstRootsDays: Span{25, 15, 45}, PotUpDays: Span{60, 40, 100},
			RootColours: pale, Hazards: hazards(), Note: "Horizontal, shallow, 10 mm of cover.", Basis: Practice, School: FirstLeaf, Keeping: Damp, Mix: "fine", Wake: wake(0.40, 0.60, 0.55, 0.65),
		},
		{
			Key: "soft_shrub", Name: "Soft shrubs", Members: "tips of 2-4 nodes, 2 set",
			Bench: []string{"Cut just above the node below; scrape a woody one at its base.", "Keep them in water until they are set."},
			Set: []string{
				"Two nodes below the surface, up to twenty close together in a bottle: its lower part filled with 75 to 100 mm of gritty mix over a soaked layer that holds moisture.",
				"In heat mist the leaves evening and morning, never the mix. Cap off after about six months, the top a few weeks later, and three to four weeks after that they are potted.",
			},
			Kinds: kinds(Tip), Media: media(Mix), FirstRootsDays: Span{60, 40, 120}, PotUpDays: Span{180, 120, 210},
			RootColours: pale, Hazards: hazards(), Note: "Gritty mix, bottle house; mist the leaves, not the mix.", Basis: Practice, School: FirstLeaf, Keeping: Damp, Mix: "gritty_shrub", Wake: wake(0.45, 0.40, 0.50, 0.60),
		},
	}
}()

var groupByKey = func() map[string]Group {
	m := map[string]Group{}
	for _, g := range groups {
		m[g.Key] = g
	}
	return m
}()

// Groups is the table of growth groups, in the order growers list them.
func Groups() []Group { return append([]Group{}, groups...) }

// GroupNamed finds a growth group by its key.
func GroupNamed(key string) (Group, bool) {
	g, ok := groupByKey[key]
	return g, ok
}

// HealthyRoot tells whether a colour is one that healthy roots of the group have.
func (g Group) HealthyRoot(c RootColour) bool { return within(g.RootColours, c) }

// Gives tells whether the group is usually multiplied from pieces of this kind.
func (g Group) Gives(k PieceKind) bool { return within(g.Kinds, k) }

// Suits tells whether the group is usually rooted in the medium.
func (g Group) Suits(m Medium) bool { return within(g.Media, m) }

// OnlyDivides tells whether nothing but a division, with a growing point of its own, grows on.
func (g Group) OnlyDivides() bool {
	for _, k := range g.Kinds {
		if row := k.Row(); row.Pose != Crown && !row.OwnTimes {
			return false
		}
	}
	return len(g.Kinds) > 0
}

func within[T comparable](list []T, v T) bool {
	for _, have := range list {
		if have == v {
			return true
		}
	}
	return false
}
