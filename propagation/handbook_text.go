package propagation

import (
	"fmt"
	"strings"

	"clearjar/core/cutplan"
	"clearjar/core/plant"
)

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

func basisText(b plant.Basis) string {
	if b.Source == "" {
		return string(b.Kind)
	}
	return string(b.Kind) + ": " + b.Source
}

func spanText(s plant.Span) string {
	if s.Mid == 0 {
		return "rooted"
	}
	return fmt.Sprintf("%.0f (%.0f-%.0f)", s.Mid, s.Low, s.High)
}

func join[T ~string](list []T) string {
	parts := make([]string, len(list))
	for i, v := range list {
		parts[i] = string(v)
	}
	return strings.Join(parts, ", ")
}
