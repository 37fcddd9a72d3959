package server

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"clearjar/propagation"
	"clearjar/propagation/door"
	"clearjar/propagation/show"
)

// careRoutes are the round and what is noted on it.
func careRoutes(api huma.API, g *propagation.Garden) {
	get(api, g, "round", "/api/round", "What is due today, vessel by vessel in the order they stand",
		func(ctx context.Context, g *propagation.Garden, _ *struct{}) (show.Round, error) {
			return show.RoundNow(ctx, g)
		})
	get(api, g, "vesselPage", "/api/vessels/{id}", "One vessel: what is due, and what was done with it",
		func(ctx context.Context, g *propagation.Garden, in *byID) (show.VesselPage, error) {
			return show.OneVessel(ctx, g, in.parse())
		})
	post(api, g, "care", "/api/care", "Note a visit to a vessel: what was done, what was seen, or why it is put off",
		func(ctx context.Context, g *propagation.Garden, in *body[door.Care]) (show.VesselPage, error) {
			return kept(ctx, g, in.Body, in.Body.VesselID, show.OneVessel)
		})
	post(api, g, "moveVessel", "/api/vessel-moves", "Note that a vessel was carried to another shelf",
		func(ctx context.Context, g *propagation.Garden, in *body[door.VesselMove]) (propagation.VesselView, error) {
			return kept(ctx, g, in.Body, in.Body.VesselID, show.VesselNow)
		})
	post(api, g, "endVessel", "/api/vessel-ends", "Note that a vessel was emptied, or broke",
		func(ctx context.Context, g *propagation.Garden, in *body[door.VesselEnd]) (propagation.VesselView, error) {
			return kept(ctx, g, in.Body, in.Body.VesselID, show.VesselNow)
		})
	post(api, g, "orderPlaces", "/api/place-orders", "Walk to the shelves in another order",
		func(ctx context.Context, g *propagation.Garden, in *body[door.PlaceOrder]) (show.Round, error) {
			if _, _, err := door.Keep(ctx, g, in.Body); err != nil {
				return show.Round{}, err
			}
			return show.RoundNow(ctx, g)
		})
	post(api, g, "chooseCareSchool", "/api/care-schools", "Go by a school of care, for all vessels or for one",
		func(ctx context.Context, g *propagation.Garden, in *body[door.CareSchool]) (show.Round, error) {
			if _, _, err := door.Keep(ctx, g, in.Body); err != nil {
				return show.Round{}, err
			}
			return show.RoundNow(ctx, g)
		})
}
