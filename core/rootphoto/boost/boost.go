// Package boost tells two kinds of things apart by boosted decision trees.
//
// In: rows of numbers. Out: for each row the log of the odds that it is of the first kind. Method: trees of a fixed depth,
// each fitted to what the ones before it leave of the logistic loss (Friedman 2001; with the second derivative as in Friedman,
// Hastie, Tibshirani 2000). The same rows give the same trees, on any number of processors.
package boost

import (
	"bytes"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"math"
)

// Forest is a set of trees. Each is complete: the node n has the nodes 2n+1 and 2n+2 below it, and the last Depth-th row
// are leaves.
type Forest struct {
	Features, Depth int
	// Base is the log of the odds before any tree.
	Base float32
	// Feature and Cut of each inner node, tree by tree: a row whose number is at most the cut goes left.
	Feature []uint8
	Cut     []float32
	// Leaf is what each leaf adds, tree by tree.
	Leaf []float32
}

// Trees is how many trees it has.
func (f *Forest) Trees() int { return len(f.Leaf) >> f.Depth }

// LogOdds is the log of the odds that a row is of the first kind. The row has as many numbers as the forest has features.
func (f *Forest) LogOdds(row []float32) float32 {
	inner, leaves := 1<<f.Depth-1, 1<<f.Depth
	sum := f.Base
	features, cuts, leaf := f.Feature, f.Cut, f.Leaf
	for len(leaf) >= leaves {
		at := 0
		for range f.Depth {
			next := 2*at + 1
			if row[features[at]] > cuts[at] {
				next++
			}
			at = next
		}
		sum += leaf[at-inner]
		features, cuts, leaf = features[inner:], cuts[inner:], leaf[leaves:]
	}
	return sum
}

// Chance is how likely a row is of the first kind, 0 to 1.
func (f *Forest) Chance(row []float32) float32 { return Sigmoid(f.LogOdds(row)) }

// Sigmoid turns the log of odds into a chance.
func Sigmoid(v float32) float32 { return float32(1 / (1 + math.Exp(-float64(v)))) }

// header of a written forest: its format, then its sizes.
type header struct {
	Format                 [8]byte
	Features, Depth, Trees uint32
	Base                   float32
}

var format = [8]byte{'t', 'r', 'e', 'e', 's', ' ', '1', '\n'}

// Bytes writes a forest: a header, then little-endian the feature of each inner node, its cut, and the leaves.
func (f *Forest) Bytes() []byte {
	var b bytes.Buffer
	for _, part := range []any{header{format, uint32(f.Features), uint32(f.Depth), uint32(f.Trees()), f.Base}, f.Feature, f.Cut, f.Leaf} { //nolint:gosec // small
		_ = binary.Write(&b, binary.LittleEndian, part) // a buffer takes everything
	}
	return b.Bytes()
}

// Limits of a forest that is read.
const (
	mostDepth = 12
	mostTrees = 5000
)

// Read reads a forest as [Forest.Bytes] writes it.
func Read(r io.Reader) (*Forest, error) {
	var h header
	if err := binary.Read(r, binary.LittleEndian, &h); err != nil {
		return nil, fmt.Errorf("no trees: %w", err)
	}
	if h.Format != format || h.Depth < 1 || h.Depth > mostDepth || h.Trees > mostTrees || h.Features < 1 || h.Features > 256 {
		return nil, errors.New("these are no trees of this format")
	}
	f := &Forest{Features: int(h.Features), Depth: int(h.Depth), Base: h.Base}
	inner, leaves := (1<<h.Depth-1)*int(h.Trees), (1<<h.Depth)*int(h.Trees)
	f.Feature, f.Cut, f.Leaf = make([]uint8, inner), make([]float32, inner), make([]float32, leaves)
	for _, part := range []any{f.Feature, f.Cut, f.Leaf} {
		if err := binary.Read(r, binary.LittleEndian, part); err != nil {
			return nil, fmt.Errorf("the trees are cut short: %w", err)
		}
	}
	for _, at := range f.Feature {
		if int(at) >= f.Features {
			return nil, errors.New("a tree asks for a number that its rows do not have")
		}
	}
	return f, nil
}
