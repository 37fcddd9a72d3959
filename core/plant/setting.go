package plant

// HowTo is how one piece is set in one medium.
type HowTo struct {
	Pose  Pose     `json:"pose" enum:"upright,stalk,on_top,lying,flat,half_buried,crown,perched,hanging"`
	Steps []string `json:"steps"`
	Cover CoverRow `json:"cover"`
	// Uncovered: nothing stands over it.
	Uncovered bool `json:"uncovered"`
	// Under says by what its depth goes where roots hang in the medium.
	Under DepthKey `json:"under" enum:"nodes,fifth,stalk,surface"`
	// Shows says in a sentence what the drawing shows.
	Shows    string    `json:"shows"`
	Cautions []Caution `json:"cautions"`
	// Unusual says that the group is not usually rooted in the medium; empty when it is.
	Unusual string `json:"unusual,omitempty"`
	Basis   Basis  `json:"basis"`
}

// DepthKey says by what it goes how much of a piece stands in water.
type DepthKey string

// What a depth goes by: the nodes that were chosen, a fifth of the length, the stalk; or it lies on the surface.
const (
	ByNodes   DepthKey = "nodes"
	ByFifth   DepthKey = "fifth"
	ByStalk   DepthKey = "stalk"
	OnSurface DepthKey = "surface"
)

// settingRow is one rule of the tables below: it holds where every list that is not empty holds the
// piece's own. The first row that holds is taken.
type settingRow struct {
	poses    []Pose
	keepings []Keeping
	kinds    []PieceKind
	forms    []LeafForm
	// liquid: only where roots hang in the medium.
	liquid bool
	say    []string
	// under says by what its depth in water goes; empty for the nodes.
	under DepthKey
}

func (r settingRow) holds(p Pose, liquid bool, k Keeping, kind PieceKind, form LeafForm) bool {
	any := func(n int, hit bool) bool { return n == 0 || hit }
	return any(len(r.poses), within(r.poses, p)) && (!r.liquid || liquid) && any(len(r.keepings), within(r.keepings, k)) &&
		any(len(r.kinds), within(r.kinds, kind)) && any(len(r.forms), within(r.forms, form))
}

var inDry = []Keeping{Dry}

// placing says how the piece goes in; where no rule holds, the medium says it of a stem piece.
var placing = []settingRow{
	{under: OnSurface, poses: []Pose{OnTop}, forms: []LeafForm{PulledLeaf}, say: []string{"Lay it on top, its white base touching. Never cover or plunge the leaf.", "Six to a box, with room between."}},
	{under: OnSurface, poses: []Pose{OnTop}, say: []string{"Lay it on the dry mix until the cut has healed and roots show. Do not cover or bury it."}},
	{under: ByStalk, poses: []Pose{Stalk}, liquid: true, say: []string{"Only the stalk under water, the blade above it."}},
	{poses: []Pose{Stalk}, say: []string{"Set the stalk only, nearly flat and barely covered: the deeper it goes, the longer plantlets need to surface.", "The blade stays clear of it. Firm gently: a stalk that does not touch dries up."}},
	{under: ByFifth, kinds: []PieceKind{LeafPiece}, forms: []LeafForm{HalfLeaf, HalfAcross}, say: []string{"Cut edge down (the half with the stalk by its stalk), upright at the edge of the vessel where it is seen: every cut vein may give a plantlet."}},
	{under: ByFifth, kinds: []PieceKind{LeafPiece}, liquid: true, say: []string{"The end that was nearer the base down, upright; only the bottom fifth under water.", "Change the water every second day."}},
	{kinds: []PieceKind{LeafPiece}, say: []string{"The end that was nearer the base down, 25 mm in, upright. Mark that end."}},
	{under: OnSurface, kinds: []PieceKind{Pair}, say: []string{"Lay the pair flat, its node pressed onto the surface, the leaves above.", "Three to a pot."}},
	{under: OnSurface, kinds: []PieceKind{BackRhizome}, say: []string{"Set it as it lay, its roots covered, 10 mm over it. Keep it damp and wait: a shoot comes within a year."}},
	{poses: []Pose{Hanging}, liquid: true, say: []string{"Bare the lower end and hang the strand over the rim: the bare end in the water, the rest outside. In one place, and not moved."}},
	{poses: []Pose{Hanging}, say: []string{"Bare the lower end and bury it; let the rest hang over the rim. In one place, and not moved."}},
	{kinds: []PieceKind{Pup}, say: []string{"Set it at the depth it grew, roots spread and covered.", "Few roots: trim its leaves hard, so that it does not topple. None: set it deep and keep it wet."}},
	{under: OnSurface, poses: []Pose{Flat}, say: []string{"Lay it flat in a wide vessel, 10 mm of cover over it: upright and deep it rots."}},
	{under: OnSurface, poses: []Pose{Lying}, say: []string{"Lay it along the surface, bud up, half exposed. Press it in; do not bury it."}},
	{under: ByFifth, poses: []Pose{HalfBuried}, say: []string{"Set it at once, eye up, half buried, all of its roots covered.", "Three to a pot."}},
	{under: ByStalk, poses: []Pose{Crown}, say: []string{"Set it as it grew, at the same depth, roots spread and covered; trim only what is broken or mushy, never more than a fifth.", "No roots of its own: trim the leaves hard, set it deep, keep it wet; half of them come through."}},
	{under: OnSurface, poses: []Pose{Perched}, say: []string{"Stand the head on an empty pot until the cut has healed and roots show; only then mix, and water."}},
	{under: ByFifth, liquid: true, keepings: inDry, say: []string{"Only the bottom fifth under water, tip end up; every leaf above it.", "Change the water every second day."}},
}

var shows = map[Pose]string{
	Upright:    "The base is in, the blades out. The end that was nearer the roots goes down, never upside down.",
	Stalk:      "Only the stalk is in; the blade stands clear.",
	OnTop:      "It lies on top, covered by nothing.",
	Lying:      "It lies along the surface, bud up, half of it exposed.",
	Flat:       "It lies flat, under about 10 mm.",
	HalfBuried: "It sits half in, eye up.",
	Crown:      "It stands as it grew, roots in, shoots out.",
	Perched:    "It stands on the rim of an empty pot, its cut end free.",
	Hanging:    "Its bare end is in, the strand hangs over the rim.",
}

// HowToSet says how a piece of the group is set in a medium. An unknown medium is refused.
func HowToSet(g Group, kind PieceKind, form LeafForm, in Medium) (HowTo, error) {
	if !in.Known() {
		return HowTo{}, Refuse("medium", "%q is not a medium", in)
	}
	pose := PoseOf(g, kind, form)
	cover := g.CoverOver(in, pose)
	s := HowTo{Pose: pose, Steps: []string{}, Cover: cover.Row(), Uncovered: cover.Open(), Under: ByNodes, Shows: shows[pose], Basis: Practice}
	medium := in.Row()
	for _, table := range [][]settingRow{medium.ready, append(append([]settingRow{}, placing...), settingRow{say: medium.place})} {
		for _, r := range table {
			if r.holds(pose, medium.Liquid, g.Keeping, kind, form) {
				s.Steps = append(s.Steps, r.say...)
				if r.under != "" {
					s.Under = r.under
				}
				break
			}
		}
	}
	if pose != Crown && kind != LeafPiece {
		s.Steps = append(s.Steps, g.Set...)
	}
	if s.Cover.Text != "" {
		s.Steps = append(s.Steps, s.Cover.Text)
	}
	if medium.Hidden {
		s.Steps = append(s.Steps, checking(g, pose))
	}
	if !g.Suits(in) {
		names := make([]string, len(g.Media))
		for i, m := range g.Media {
			names[i] = string(m)
		}
		s.Unusual = g.Name + " are not usually rooted in " + string(in) + ": " + Listed(names) + " first."
	}
	s.Cautions = CautionsFor(append(append([]HazardKey{}, medium.Hazards...), g.Hazards...)...)
	return s, nil
}

// checking says how a piece with hidden roots is looked at.
func checking(g Group, p Pose) string {
	switch {
	case p == OnTop:
		return "Look from above; do not lift it."
	case g.Keeping == Dry:
		return "Leave it alone: do not dig or tug before it shoots."
	}
	return "Judge it by the shoot; do not dig. A light tug tells once there is one."
}
