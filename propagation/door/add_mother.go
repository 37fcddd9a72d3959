package door

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"unicode"

	"github.com/google/uuid"

	"clearjar/core/life"
	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/store"
	"clearjar/store/sqlgen"
)

// mostMothers bounds a collection, so that its list can always be shown whole.
const mostMothers = 5000

// MotherWords is what is said of a mother: it can be corrected.
type MotherWords struct {
	Name       string `json:"name" maxLength:"400"`
	GroupKey   string `json:"group_key"`
	Provenance string `json:"provenance,omitempty" maxLength:"2000"`
	// Pattern says whether a pattern is there and keeps.
	Pattern string `json:"pattern" enum:"plain,stable,unstable"`
}

// Clean trims the words and refuses those that cannot be.
func (m MotherWords) Clean() (MotherWords, error) {
	var err error
	if m.Name, err = plant.CleanName("name", m.Name, 120); err != nil {
		return m, err
	}
	if _, ok := plant.GroupNamed(m.GroupKey); !ok {
		return m, plant.Refuse("group_key", "choose a growth group from the table")
	}
	if m.Provenance, err = plant.CleanText("provenance", m.Provenance, 500); err != nil {
		return m, err
	}
	if m.Pattern != "plain" && m.Pattern != "stable" && m.Pattern != "unstable" {
		return m, plant.Refuse("pattern", "plain, stable or unstable")
	}
	return m, nil
}

// NewMother is the fact that a mother plant joined the collection.
type NewMother struct {
	ID uuid.UUID `json:"id"`
	MotherWords
	// Code is the grower's own three letters; empty to take them from the name.
	Code string `json:"code,omitempty" maxLength:"20"`
	// FromCutting is the cutting it grew from, when it was raised here.
	FromCutting *uuid.UUID `json:"from_cutting,omitempty"`
}

func (m NewMother) named() named { return named{m.ID, "mother", m.ID} }

func (m NewMother) write(ctx context.Context, g *Entry) error {
	words, err := m.Clean()
	if err != nil {
		return err
	}
	if err := g.checkRaised(ctx, m.FromCutting); err != nil {
		return err
	}
	_, err = g.addMother(ctx, m.ID, words, m.Code, m.FromCutting, true)
	return err
}

// checkRaised refuses to raise a mother from a cutting that is lost, gone, or was raised already.
func (g *Entry) checkRaised(ctx context.Context, from *uuid.UUID) error {
	if from == nil {
		return nil
	}
	c, err := g.lockCutting(ctx, *from)
	if err != nil {
		return err
	}
	switch {
	case c.Fate() == life.Lost:
		return plant.Refuse("from_cutting", "%s is lost: no mother grows from it", c.Row.Code)
	case c.GivenOn != nil:
		return plant.Refuse("from_cutting", "%s was given away", c.Row.Code)
	}
	return nil
}

// addMother writes a mother with the next free code.
func (g *Entry) addMother(ctx context.Context, id uuid.UUID, w MotherWords, own string, from *uuid.UUID, known bool) (string, error) {
	if err := g.Store.LockMotherCodes(ctx); err != nil {
		return "", err
	}
	n, err := g.Store.CountMothers(ctx)
	if err != nil {
		return "", err
	}
	if n >= mostMothers {
		return "", plant.Refuse("name", "a collection holds at most %d mothers", mostMothers)
	}
	base := motherCode(own, w.Name)
	taken, err := g.Store.MotherCodesLike(ctx, base)
	if err != nil {
		return "", err
	}
	code := ExactCode(own)
	if code == "" || slices.Contains(taken, code) {
		code = freeCode(base, taken)
	}
	mark(&g.touched.Mothers, id)
	_, err = g.Store.AddMother(ctx, sqlgen.AddMotherParams{
		ID: id, Code: code, Name: w.Name, GroupKey: w.GroupKey, Provenance: w.Provenance, Pattern: w.Pattern, FromCutting: from, Known: known,
	})
	switch store.BrokenRule(err) {
	case "mother_from_cutting":
		return "", propagation.ConflictError{Reason: "A mother was already raised from this cutting."}
	case "mother_from_cutting_fkey":
		return "", propagation.MissingError{What: "The cutting it grew from"}
	}
	return code, err
}

// ExactCode is a code a mother can have as it is, such as MEL or MEL12; empty when it is none.
func ExactCode(own string) string {
	if len(own) < 3 || len(own) > 7 || motherCode(own[:3], "") != own[:3] || strings.HasPrefix(own[3:], "0") {
		return ""
	}
	for _, r := range own[3:] {
		if r < '0' || r > '9' {
			return ""
		}
	}
	return own
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

// freeCode is the first free code of the base: itself, then with 2, 3 and so on.
func freeCode(base string, taken []string) string {
	used := map[string]bool{}
	for _, t := range taken {
		used[t] = true
	}
	code := base
	for n := 2; used[code]; n++ {
		code = fmt.Sprintf("%s%d", base, n)
	}
	return code
}
