package propagation

import (
	"context"
	"fmt"
	"strings"
	"unicode"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/store"
	"clearjar/store/sqlgen"
)

// NewMother is the fact that a mother plant joined the collection.
type NewMother struct {
	ID         uuid.UUID `json:"id"`
	Name       string    `json:"name" maxLength:"400"`
	GroupKey   string    `json:"group_key"`
	Provenance string    `json:"provenance,omitempty" maxLength:"2000"`
	// Pattern says whether a pattern is there and keeps.
	Pattern string `json:"pattern" enum:"plain,stable,unstable"`
	// Code is the grower's own three letters; empty to take them from the name.
	Code string `json:"code,omitempty"`
	// FromCutting is the cutting it grew from, when it was raised here.
	FromCutting *uuid.UUID `json:"from_cutting,omitempty"`
}

// AddMother takes a mother plant into the collection.
func (g *Garden) AddMother(ctx context.Context, m NewMother) (Mother, error) {
	if err := checkID("id", m.ID); err != nil {
		return Mother{}, err
	}
	name, err := plant.CleanName("name", m.Name, 120)
	if err != nil {
		return Mother{}, err
	}
	if _, ok := plant.GroupNamed(m.GroupKey); !ok {
		return Mother{}, plant.Refuse("group_key", "choose a growth group from the table")
	}
	if len([]rune(m.Provenance)) > 500 {
		return Mother{}, plant.Refuse("provenance", "at most 500 characters")
	}
	base := motherCode(m.Code, name)
	for range 3 { // two tabs may take the same code at once
		taken, err := g.store.MotherCodesLike(ctx, &base)
		if err != nil {
			return Mother{}, err
		}
		_, err = g.store.AddMother(ctx, sqlgen.AddMotherParams{
			ID: m.ID, Code: freeCode(base, taken), Name: name, GroupKey: m.GroupKey,
			Provenance: strings.TrimSpace(m.Provenance), Pattern: m.Pattern, FromCutting: m.FromCutting,
		})
		switch store.BrokenRule(err) {
		case "mother_code_unique":
			continue
		case "mother_from_cutting_fkey":
			return Mother{}, MissingError{"The cutting it grew from"}
		}
		if err != nil {
			return Mother{}, err
		}
		return g.MotherPage(ctx, m.ID)
	}
	return Mother{}, ConflictError{Reason: "The code " + base + " was taken at the same moment. Try again."}
}

// motherCode is three capital letters: the grower's own, or from the last word of the name,
// which tells sisters of one genus apart.
func motherCode(own, name string) string {
	pick := func(s string) string {
		out := ""
		for _, r := range strings.ToUpper(s) {
			if r >= 'A' && r <= 'Z' && len(out) < 3 {
				out += string(r)
			}
		}
		return out
	}
	if code := pick(own); len(code) == 3 {
		return code
	}
	words := strings.FieldsFunc(name, func(r rune) bool { return !unicode.IsLetter(r) })
	for i := len(words) - 1; i >= 0; i-- {
		if code := pick(words[i]); len(code) == 3 {
			return code
		}
	}
	return (pick(name) + "XXX")[:3]
}

func freeCode(base string, taken []string) string {
	used := map[string]bool{}
	for _, t := range taken {
		used[t] = true
	}
	code := base
	for n := 2; used[code] && n < 100; n++ {
		code = fmt.Sprintf("%s%d", base, n)
	}
	return code
}
