package show

import (
	"context"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/core/rootphoto"
	"clearjar/core/rootphoto/measure"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
)

// Measuring asks for lengths in mm of lines drawn on a photo.
type Measuring struct {
	Scale *plant.Scale    `json:"scale,omitempty"`
	Paths [][]plant.Point `json:"paths" maxItems:"200"`
	// Sight is how the photo is measured where no two points were set; then the cutting is named as well, for what it stands in.
	Sight     *plant.Sight `json:"sight,omitempty"`
	CuttingID *uuid.UUID   `json:"cutting_id,omitempty"`
	// LookedAt is when the photo was taken; now, when nothing is said.
	LookedAt *time.Time `json:"looked_at,omitempty"`
	rootphoto.Setting
}

// Measure gives lengths of lines on a photo, as a look with them would be measured; nothing is kept.
func Measure(ctx context.Context, g *propagation.Garden, m Measuring) (rootphoto.Result, error) {
	numbers, err := g.Numbers(ctx)
	if err != nil {
		return rootphoto.Result{}, err
	}
	switch {
	case m.Sight != nil:
		if err := m.Sight.Check(); err != nil {
			return rootphoto.Result{}, err
		}
		in, err := stoodIn(ctx, g, m)
		if err != nil {
			return rootphoto.Result{}, err
		}
		return measure.Lines(numbers, *m.Sight, in, m.Paths)
	case m.Scale == nil:
		return rootphoto.Result{}, plant.Refuse("scale", "set two points a known distance apart, or let the photo be measured by its tag")
	}
	return rootphoto.Measure(numbers, *m.Scale, m.Paths, m.Setting)
}

// stoodIn is what the cutting stood in; a piece that is not named lies on a board.
func stoodIn(ctx context.Context, g *propagation.Garden, m Measuring) (measure.Stood, error) {
	if m.CuttingID == nil {
		return measure.Stood{}, nil
	}
	l, err := conclude.OneLife(ctx, g, *m.CuttingID)
	if err != nil {
		return measure.Stood{}, err
	}
	at := g.Now()
	if m.LookedAt != nil {
		at = *m.LookedAt
	}
	return conclude.StoodAt(l.SetRows, at), nil
}
