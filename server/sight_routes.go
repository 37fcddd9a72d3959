package server

import (
	"bytes"
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/rsml"
	"clearjar/propagation"
	"clearjar/propagation/files"
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
	get(api, g, "cuttingsInPhoto", "/api/photos/{id}/cuttings", "Read the tags in a photo: which cuttings are in it",
		func(ctx context.Context, g *propagation.Garden, in *byID) (sight.PhotoOf, error) {
			return sight.In(ctx, g, in.parse())
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
	download(api, g, "rootsOfLook", "/api/looks/{id}/roots", "The roots of a look, with their lines as RSML or as CSV",
		func(ctx context.Context, g *propagation.Garden, in *struct {
			ID     string `path:"id" format:"uuid"`
			Format string `query:"format" enum:"rsml,csv" default:"rsml"`
		},
		) (file, error) {
			if in.Format == "csv" {
				data, err := files.RootsCSV(ctx, g, uuid.MustParse(in.ID))
				return file{"text/csv; charset=utf-8", "roots.csv", data}, err
			}
			data, err := files.RootsRSML(ctx, g, uuid.MustParse(in.ID))
			return file{"application/rsml+xml", "roots.rsml", data}, err
		})
	huma.Register(api, huma.Operation{
		OperationID: "readRoots", Method: http.MethodPost, Path: "/api/rsml", Summary: "Read the roots of an RSML file",
		MaxBodyBytes: mostRSML, Errors: []int{http.StatusRequestEntityTooLarge, http.StatusUnprocessableEntity, http.StatusServiceUnavailable},
	}, func(ctx context.Context, in *struct {
		RawBody []byte `contentType:"application/octet-stream"`
	},
	) (*body[rootsRead], error) {
		roots, err := rsml.Read(bytes.NewReader(in.RawBody))
		if err != nil {
			return nil, answer(ctx, err)
		}
		return &body[rootsRead]{rootsRead{roots}}, nil
	})
}

// mostRSML bounds a file of roots, bytes.
const mostRSML = 8<<20 + 1<<10

// rootsRead are roots as they were read: lines, nodes and colours; their lengths are worked out from the lines.
type rootsRead struct {
	Roots []plant.Root `json:"roots"`
}
