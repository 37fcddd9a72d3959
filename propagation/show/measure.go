package show

import (
	"context"

	"clearjar/core/plant"
	"clearjar/core/rootphoto"
	"clearjar/propagation"
)

// Measuring asks for lengths in mm of lines drawn on a photo.
type Measuring struct {
	Scale plant.Scale     `json:"scale"`
	Paths [][]plant.Point `json:"paths" maxItems:"200"`
	rootphoto.Setting
}

// Measure gives lengths of lines on a photo, as a look with them would be measured; nothing is kept.
func Measure(ctx context.Context, g *propagation.Garden, m Measuring) (rootphoto.Result, error) {
	numbers, err := g.Numbers(ctx)
	if err != nil {
		return rootphoto.Result{}, err
	}
	return rootphoto.Measure(numbers, m.Scale, m.Paths, m.Setting)
}
