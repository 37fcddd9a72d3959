package server

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"clearjar/core/solution"
	"clearjar/propagation"
)

// mixRoutes are the calculators of the mixing corner. Nothing of them is kept.
func mixRoutes(api huma.API, g *propagation.Garden) {
	get(api, g, "calculators", "/api/calculators", "What the mixing corner works out",
		func(context.Context, *propagation.Garden, *struct{}) ([]solution.Calculator, error) {
			return solution.Calculators(), nil
		})
	post(api, g, "solve", "/api/solve", "Work out a dilution, a mix, a volume; nothing is kept",
		func(_ context.Context, _ *propagation.Garden, in *body[solution.Task]) (solution.Solved, error) {
			return solution.Solve(in.Body)
		})
}
