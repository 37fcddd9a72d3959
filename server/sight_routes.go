package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"clearjar/propagation"
	"clearjar/propagation/sight"
	"clearjar/propagation/work"
	"clearjar/store"
)

func sightRoutes(api huma.API, g *propagation.Garden) {
	post(api, g, "askPhoto", "/api/sightings", "Ask a photo what is to be seen in it",
		func(ctx context.Context, g *propagation.Garden, in *body[sight.Asking]) (sight.Sighting, error) {
			if err := sight.Ask(ctx, g, in.Body); err != nil {
				return sight.Sighting{}, err
			}
			household, err := store.Whose(ctx)
			if err != nil {
				return sight.Sighting{}, err
			}
			if err := work.LookAt(ctx, g.Store, household, in.Body.ID); err != nil {
				return sight.Sighting{}, err
			}
			return sight.Of(ctx, g, in.Body.ID)
		})
	get(api, g, "sighting", "/api/sightings/{id}", "What came of a question to a photo so far",
		func(ctx context.Context, g *propagation.Garden, in *byID) (sight.Sighting, error) {
			return sight.Of(ctx, g, in.parse())
		})
	register(api, g, http.MethodPost, "stopSighting", "/api/sightings/{id}/stop", "Stop looking at a photo",
		func(ctx context.Context, g *propagation.Garden, in *byID) (sight.Sighting, error) {
			return sight.Stop(ctx, g, in.parse())
		})
	register(api, g, http.MethodPost, "followRoot", "/api/sightings/{id}/follow", "Follow a root from a tap on its tip",
		func(ctx context.Context, g *propagation.Garden, in *onID[sight.Tap]) (sight.RootSeen, error) {
			return sight.Follow(ctx, g, in.parse(), in.Body)
		})
}
