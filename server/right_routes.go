package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"clearjar/propagation"
	"clearjar/propagation/door"
	"clearjar/propagation/show"
)

// put registers a correction of something that is there.
func put[In, Out any](api huma.API, g *propagation.Garden, id, path, summary string, do func(context.Context, *propagation.Garden, *In) (Out, error)) {
	register(api, g, http.MethodPut, id, path, summary, do)
}

// putRightRoutes put things right, take them back, cut back, bring in and find.
func putRightRoutes(api huma.API, g *propagation.Garden) {
	put(api, g, "correctMother", "/api/mothers/{id}", "Put right what is said of a mother",
		func(ctx context.Context, g *propagation.Garden, in *onID[door.Correction[door.MotherWords]]) (show.Mother, error) {
			return kept(ctx, g, door.MotherCorrection{About: in.parse(), Correction: in.Body}, in.parse(), show.MotherPage)
		})
	put(api, g, "correctVessel", "/api/vessels/{id}", "Put right a vessel: name, place, sizes",
		func(ctx context.Context, g *propagation.Garden, in *onID[door.Correction[door.VesselWords]]) (propagation.VesselView, error) {
			return kept(ctx, g, door.VesselCorrection{About: in.parse(), Correction: in.Body}, in.parse(), show.VesselNow)
		})
	put(api, g, "correctPlace", "/api/places/{id}", "Rename a shelf",
		func(ctx context.Context, g *propagation.Garden, in *onID[door.Correction[door.PlaceWords]]) (propagation.Place, error) {
			return kept(ctx, g, door.PlaceCorrection{About: in.parse(), Correction: in.Body}, in.parse(), show.PlaceNow)
		})
	put(api, g, "correctOutcome", "/api/outcomes/{id}", "Put right how, when and why a cutting ended",
		func(ctx context.Context, g *propagation.Garden, in *onID[door.Correction[propagation.OutcomeWords]]) (show.CuttingPage, error) {
			touched, _, err := door.Keep(ctx, g, door.OutcomeCorrection{About: in.parse(), Correction: in.Body})
			if err != nil {
				return show.CuttingPage{}, err
			}
			return show.OneCutting(ctx, g, touched.Cuttings[0])
		})
	type dated struct {
		ID   string `path:"id" format:"uuid"`
		Kind string `path:"kind" enum:"cut,set,potted,given,cut_back,watered"`
		Body door.Correction[door.Dated]
	}
	put(api, g, "correctDate", "/api/dates/{kind}/{id}", "Put right when something happened",
		func(ctx context.Context, g *propagation.Garden, in *dated) (door.Dated, error) {
			_, _, err := door.Keep(ctx, g, door.DateCorrection{Kind: in.Kind, About: uuid.MustParse(in.ID), Correction: in.Body})
			return in.Body.Becomes, err
		})
	post(api, g, "withdraw", "/api/withdrawals", "Take back something that was noted",
		func(ctx context.Context, g *propagation.Garden, in *body[door.Withdrawal]) (door.Withdrawn, error) {
			_, _, err := door.Keep(ctx, g, in.Body)
			return door.Withdrawn{Kind: in.Body.Kind, About: in.Body.About}, err
		})
	post(api, g, "cutBack", "/api/cut-backs", "Note that a piece was cut back to sound tissue, and where it was reset",
		func(ctx context.Context, g *propagation.Garden, in *body[door.CutBack]) (show.CuttingPage, error) {
			return kept(ctx, g, in.Body, in.Body.CuttingID, show.OneCutting)
		})
	post(api, g, "bringIn", "/api/brought", "Take in a piece without a mapped mother: bought, traded, found in a jar",
		func(ctx context.Context, g *propagation.Garden, in *body[door.Brought]) (show.CuttingPage, error) {
			return kept(ctx, g, in.Body, in.Body.CuttingID(), show.OneCutting)
		})
	get(api, g, "find", "/api/find", "Cuttings in whatever state, and vessels, by code, tag or name",
		func(ctx context.Context, g *propagation.Garden, in *struct {
			Asked string `query:"q" maxLength:"200"`
		},
		) (show.Found, error) {
			return show.Find(ctx, g, in.Asked)
		})
	post(api, g, "trySetting", "/api/settings/try", "How pieces are set in a vessel, and how they stand in it together",
		func(ctx context.Context, g *propagation.Garden, in *body[show.SettingWish]) (show.SettingAnswer, error) {
			return show.TrySetting(ctx, g, in.Body)
		})
}
