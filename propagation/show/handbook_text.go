package show

import (
	"fmt"
	"strings"

	"clearjar/core/plant"
)

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
