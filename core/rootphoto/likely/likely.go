// Package likely says how likely each pixel of a photo lies on a root.
//
// In: the part of a photo around a cutting, what stands around its roots, and the colour its roots are expected to have.
// Out: for each pixel on the crest of a line a chance from 0 to 1, and 0 elsewhere. Method: two forests of boosted trees.
// The first sees a pixel and its surroundings; the second sees the chances the first gives along the line, both ways, and
// where the pixel stands to the stem. Their tables were learned from photos of known truth (see [Learn]) and are shipped
// with the program.
package likely

import (
	"bytes"
	"compress/gzip"
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"sync"

	"clearjar/core/rootphoto/boost"
	"clearjar/core/rootphoto/ridge"
	"clearjar/core/rootphoto/scene"
)

// Tables are the two forests, and what they were learned from.
type Tables struct {
	First, Second *boost.Forest
	// Expected is the colour in photos of each class of roots.
	Expected map[string]Colour
	// LearnedFrom are the names of the photos.
	LearnedFrom []string
}

//go:embed tables.gz
var shipped []byte

// Shipped are the tables that come with the program.
var Shipped = sync.OnceValues(func() (*Tables, error) { return ReadTables(bytes.NewReader(shipped)) })

// about is the beginning of written tables.
type about struct {
	Expected    map[string]Colour `json:"expected"`
	LearnedFrom []string          `json:"learned_from"`
}

// mostTables bounds tables that are read, bytes.
const mostTables = 16 << 20

// Write writes tables: compressed, a line of JSON and the two forests.
func (t *Tables) Write(w io.Writer) error {
	z, err := gzip.NewWriterLevel(w, gzip.BestCompression)
	if err != nil {
		return err
	}
	line, err := json.Marshal(about{t.Expected, t.LearnedFrom})
	if err != nil {
		return err
	}
	for _, part := range [][]byte{line, {'\n'}, t.First.Bytes(), t.Second.Bytes()} {
		if _, err := z.Write(part); err != nil {
			return err
		}
	}
	return z.Close()
}

// ReadTables reads what [Tables.Write] wrote.
func ReadTables(r io.Reader) (*Tables, error) {
	z, err := gzip.NewReader(r)
	if err != nil {
		return nil, fmt.Errorf("these are no tables: %w", err)
	}
	all, err := io.ReadAll(io.LimitReader(z, mostTables))
	if err != nil {
		return nil, fmt.Errorf("these tables are damaged: %w", err)
	}
	line, rest, ok := bytes.Cut(all, []byte{'\n'})
	var a about
	if !ok || json.Unmarshal(line, &a) != nil {
		return nil, errors.New("these are no tables: they do not begin with what they were learned from")
	}
	from := bytes.NewReader(rest)
	t := &Tables{Expected: a.Expected, LearnedFrom: a.LearnedFrom}
	if t.First, err = boost.Read(from); err != nil {
		return nil, err
	}
	if t.Second, err = boost.Read(from); err != nil {
		return nil, err
	}
	if t.First.Features != firstFeatures || t.Second.Features != secondFeatures {
		return nil, errors.New("these tables were learned by another version: learn them anew")
	}
	return t, nil
}

// usual is the class of roots of which nothing is known.
const usual = "white"

// ExpectedOf is the colour of a class of roots in photos; of a class that was not learned that of white ones.
func (t *Tables) ExpectedOf(class string) Colour {
	if c, ok := t.Expected[class]; ok {
		return c
	}
	return t.Expected[usual]
}

// Map is how likely each pixel of a scene lies on a root.
type Map struct {
	*scene.Scene
	// P is the chance at each pixel: that of the crest it is on, part of it beside a crest, and 0 elsewhere.
	P ridge.Plane
	// Expected is the colour that was looked for.
	Expected Colour
	// First is what the first forest alone says: it knows nothing of the stem.
	First ridge.Plane
	// Field are the lines.
	Field ridge.Field
}

// hopeless is the log of odds of the first forest's chance below which the second is not asked.
const hopeless = 0.01

// Of looks at a scene in which roots of a class of colour are expected.
func (t *Tables) Of(s *scene.Scene, behind Background, class string) *Map {
	l := look(s, behind, t.ExpectedOf(class))
	m := &Map{Expected: l.expected, Scene: s, P: ridge.New(s.L.W, s.L.H), First: ridge.New(s.L.W, s.L.H), Field: l.field}
	l.firstInto(t.First, m.First)
	g := guess(l, m.First)
	ridge.Rows(len(l.crests), func(from, to int) {
		one, two := make([]float32, firstFeatures), make([]float32, secondFeatures)
		for _, at := range l.crests[from:to] {
			if m.First.Pix[at] < hopeless {
				continue
			}
			l.first(at, one)
			g.second(at, one, two)
			m.P.Pix[at] = t.Second.Chance(two)
		}
	})
	return m
}

func (l *looked) firstInto(f *boost.Forest, into ridge.Plane) {
	ridge.Rows(len(l.crests), func(from, to int) {
		row := make([]float32, firstFeatures)
		for _, at := range l.crests[from:to] {
			l.first(at, row)
			into.Pix[at] = f.Chance(row)
		}
	})
}

// Spread is the chances with part of them given to the pixels beside a crest: to the four next ones and to the four at
// the corners.
func Spread(p ridge.Plane, next, corner float32) ridge.Plane {
	out := ridge.New(p.W, p.H)
	for y := range p.H {
		for x, v := range p.Row(y) {
			if v == 0 {
				continue
			}
			for dy := -1; dy <= 1; dy++ {
				for dx := -1; dx <= 1; dx++ {
					nx, ny := x+dx, y+dy
					if nx < 0 || ny < 0 || nx >= p.W || ny >= p.H {
						continue
					}
					part := v
					switch {
					case dx != 0 && dy != 0:
						part *= corner
					case dx != 0 || dy != 0:
						part *= next
					}
					at := ny*p.W + nx
					out.Pix[at] = max(out.Pix[at], part)
				}
			}
		}
	}
	return out
}
