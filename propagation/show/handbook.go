package show

import (
	"fmt"
	"slices"
	"strings"

	"clearjar/core/number"

	"clearjar/core/care"
	"clearjar/core/climate"
	"clearjar/core/cutplan"
	"clearjar/core/growth"
	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/core/readiness"
	"clearjar/core/rootphoto"
	"clearjar/core/setting"
	"clearjar/propagation/paper/tagsheet"
)

// Handbook is every table and number of the job, with its basis.
type Handbook struct {
	Groups []plant.Group `json:"groups"`
	// Organs and LeafForms are what can be cut up, and how.
	Organs       []plant.OrganRule   `json:"organs"`
	LeafForms    []plant.LeafRule    `json:"leaf_forms"`
	Aims         []cutplan.AimChoice `json:"aims"`
	KnifeSchools []cutplan.CutSchool `json:"knife_schools"`
	LeafSchools  []cutplan.CutSchool `json:"leaf_schools"`
	TagSizes     []tagsheet.Size     `json:"tag_sizes"`
	// OrganLimits are the limits to start from, by organ.
	OrganLimits map[plant.Organ]cutplan.Limits `json:"organ_limits"`
	Schools     []plant.School                 `json:"schools"`
	Vessels     []plant.VesselSort             `json:"vessels"`
	Cautions    []plant.Caution                `json:"cautions"`
	Numbers     []plant.Number                 `json:"numbers"`
	Limits      cutplan.Limits                 `json:"default_limits"`
	// Kinds, Media and Covers are what differs between kinds of pieces, media and covers; Mixes what is potted into.
	Kinds  []plant.KindRow   `json:"kinds"`
	Media  []plant.MediumRow `json:"media"`
	Covers []plant.CoverRow  `json:"covers"`
	Mixes  []potting.MixRow  `json:"mixes"`
	// Acts, Signs, CoverStates and CareSchools are the words of a round.
	Acts        []plant.ActRow        `json:"acts"`
	Signs       []plant.SignRow       `json:"signs"`
	CoverStates []plant.CoverStateRow `json:"cover_states"`
	CareSchools []care.SchoolRow      `json:"care_schools"`
	// PottedIn is the medium a pot is filled with.
	PottedIn plant.Medium `json:"potted_in"`
}

// Book gathers the handbook from the core.
func Book() Handbook {
	h := Handbook{
		Groups: plant.Groups(), Organs: plant.OrganRules(), LeafForms: plant.LeafRules(), Aims: cutplan.Aims(),
		KnifeSchools: cutplan.KnifeSchools(), LeafSchools: cutplan.LeafSchools(), TagSizes: tagsheet.Sizes(), OrganLimits: map[plant.Organ]cutplan.Limits{}, Schools: plant.Schools(), Vessels: plant.VesselSorts(),
		Cautions: plant.Cautions(), Limits: cutplan.DefaultLimits(), Kinds: plant.KindRows(), Media: plant.Media(), Covers: plant.Covers(), Mixes: potting.Mixes(number.Table{}), PottedIn: plant.Mix,
		Acts: plant.Acts(), Signs: plant.Signs(), CoverStates: plant.CoverStates(), CareSchools: care.Schools(),
	}
	for _, r := range h.Organs {
		h.OrganLimits[r.Organ] = cutplan.LimitsFor(r.Organ)
	}
	h.Numbers = Numbers()
	return h
}

// Numbers lists the starting value of every number of the job, the planner's first.
func Numbers() []plant.Number {
	return slices.Concat(cutplan.Numbers(), readiness.Numbers(), growth.Numbers(), potting.Numbers(), climate.Numbers(), care.Numbers(), setting.Numbers(), rootphoto.Numbers())
}

// Markdown writes the handbook as a page: every number with its unit and its basis.
func (h Handbook) Markdown() string {
	var b strings.Builder
	line := func(format string, args ...any) { fmt.Fprintf(&b, format+"\n", args...) }
	line("# Handbook\n\nEvery number the judgements rest on, with its basis. Written by `clearjar handbook` from the tables the core computes with; do not edit.\n")
	line("## Growth groups\n\nDays count from setting: middle value (range in which most fall).\n")
	line("| group | members | media | first roots | pot up | healthy roots | basis |\n|---|---|---|---|---|---|---|")
	for _, g := range h.Groups {
		line("| %s | %s | %s | %s | %s | %s | %s |", g.Name, g.Members, join(g.Media), spanText(g.FirstRootsDays), spanText(g.PotUpDays), join(g.RootColours), basisText(g.Basis))
	}
	line("\n## Schools\n\n| school | pot when | why | cost | basis |\n|---|---|---|---|---|")
	for _, s := range h.Schools {
		line("| %s | %s | %s | %s | %s |", s.Label, s.When, s.Why, s.Cost, basisText(s.Basis))
	}
	line("\n## What is cut up\n\n| organ | growing point | how many pieces | which way up | face dries, h | basis |\n|---|---|---|---|---|---|")
	for _, o := range h.Organs {
		line("| %s | %s | %s | %s | %.0f-%.0f | %s |", o.Label, o.GrowingPoint, o.HowMany, o.Up, o.CallusHours.Low, o.CallusHours.High, basisText(o.Basis))
	}
	for _, f := range h.LeafForms {
		line("| leaf: %s | %s | %s | %s | %.0f-%.0f | %s |", f.Label, "the base, or a cut main vein", f.Pieces, f.Up, f.CallusHours.Low, f.CallusHours.High, basisText(f.Basis))
	}
	line("\n## Schools of the knife and of the leaf\n\n| school | why | basis |\n|---|---|---|")
	for _, s := range append(append([]cutplan.CutSchool{}, h.KnifeSchools...), h.LeafSchools...) {
		line("| %s | %s | %s |", s.Label, s.Why, basisText(s.Basis))
	}
	line("\n## Schools of care\n\n| about | school | why | basis |\n|---|---|---|---|")
	for _, s := range h.CareSchools {
		line("| %s | %s | %s | %s |", s.About, s.Label, s.Why, basisText(s.Basis))
	}
	line("\n## Numbers\n\n| number | value | unit | basis |\n|---|---|---|---|")
	for _, n := range h.Numbers {
		line("| %s | %.4g | %s | %s |", n.Label, n.Value, n.Unit, basisText(n.Basis))
	}
	line("\n## Cautions\n")
	for _, c := range h.Cautions {
		line("- %s", c.Text)
	}
	return b.String()
}
