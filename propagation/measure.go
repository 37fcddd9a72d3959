package propagation

import (
	"context"

	"clearjar/core/plant"
	"clearjar/core/rootphoto"
)

// Measuring asks for lengths in mm of lines drawn on a photo.
type Measuring struct {
	Scale plant.Scale     `json:"scale"`
	Paths [][]plant.Point `json:"paths" maxItems:"200"`
	rootphoto.Setting
}

// Measure gives lengths of lines on a photo, as a look with them would be measured; nothing is kept.
func (g *Garden) Measure(ctx context.Context, m Measuring) (rootphoto.Result, error) {
	numbers, err := g.numbers(ctx)
	if err != nil {
		return rootphoto.Result{}, err
	}
	return rootphoto.Measure(numbers, m.Scale, m.Paths, m.Setting)
}
