package server

import (
	"bytes"
	"context"
	"io"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/core/rootphoto"
	"clearjar/propagation"
)

type body[T any] struct{ Body T }

type byID struct {
	ID string `path:"id" format:"uuid"`
}

// onID is a write on something that is there already.
type onID[T any] struct {
	ID   string `path:"id" format:"uuid"`
	Body T
}

func (o onID[T]) parse() uuid.UUID { return uuid.MustParse(o.ID) }

func (b byID) parse() uuid.UUID { return uuid.MustParse(b.ID) } // the format was checked

// get registers a read.
func get[In, Out any](api huma.API, g *propagation.Garden, id, path, summary string, do func(context.Context, *propagation.Garden, *In) (Out, error)) {
	register(api, g, http.MethodGet, id, path, summary, do)
}

// post registers a write of one fact.
func post[In, Out any](api huma.API, g *propagation.Garden, id, path, summary string, do func(context.Context, *propagation.Garden, *In) (Out, error)) {
	register(api, g, http.MethodPost, id, path, summary, do)
}

func register[In, Out any](api huma.API, g *propagation.Garden, method, id, path, summary string, do func(context.Context, *propagation.Garden, *In) (Out, error)) {
	huma.Register(api, huma.Operation{
		OperationID: id, Method: method, Path: path, Summary: summary, MaxBodyBytes: mostJSON,
		Errors: []int{http.StatusNotFound, http.StatusConflict, http.StatusUnprocessableEntity, http.StatusServiceUnavailable},
	}, func(ctx context.Context, in *In) (*body[Out], error) {
		if err := readable(in); err != nil {
			return nil, answer(ctx, err)
		}
		g, err := g.For(ctx)
		if err != nil {
			return nil, answer(ctx, err)
		}
		out, err := do(ctx, g, in)
		if err != nil {
			return nil, answer(ctx, err)
		}
		propagation.Whole(&out)
		return &body[Out]{out}, nil
	})
}

// kept keeps a fact and shows what it is about as it is then.
func kept[T any](ctx context.Context, g *propagation.Garden, f propagation.Fact, about uuid.UUID, now func(context.Context, uuid.UUID) (T, error)) (T, error) {
	if _, _, err := g.Keep(ctx, f); err != nil {
		var none T
		return none, err
	}
	return now(ctx, about)
}

// Routes adds every operation to the contract.
func Routes(api huma.API, g *propagation.Garden) {
	get(api, g, "handbook", "/api/handbook", "Groups, schools, vessels, cautions and every number with its basis",
		func(context.Context, *propagation.Garden, *struct{}) (propagation.Handbook, error) {
			return propagation.Book(), nil
		})
	get(api, g, "shelf", "/api/shelf", "Everything that stands, most urgent first",
		func(ctx context.Context, g *propagation.Garden, _ *struct{}) (propagation.Shelf, error) {
			return g.Shelf(ctx)
		})

	get(api, g, "mothers", "/api/mothers", "The mother plants",
		func(ctx context.Context, g *propagation.Garden, _ *struct{}) ([]propagation.Mother, error) {
			return g.Mothers(ctx)
		})
	get(api, g, "mother", "/api/mothers/{id}", "One mother with everything taken from it",
		func(ctx context.Context, g *propagation.Garden, in *byID) (propagation.Mother, error) {
			return g.MotherPage(ctx, in.parse())
		})
	post(api, g, "addMother", "/api/mothers", "Take in a mother plant",
		func(ctx context.Context, g *propagation.Garden, in *body[propagation.NewMother]) (propagation.Mother, error) {
			return kept(ctx, g, in.Body, in.Body.ID, g.MotherPage)
		})
	get(api, g, "stem", "/api/stems/{id}", "One stem with its newest map",
		func(ctx context.Context, g *propagation.Garden, in *byID) (propagation.MappedStem, error) {
			return g.StemNow(ctx, in.parse())
		})
	register(api, g, http.MethodPut, "mapStem", "/api/stems/{id}", "Save the map of a stem",
		func(ctx context.Context, g *propagation.Garden, in *onID[propagation.StemMapping]) (propagation.MappedStem, error) {
			return kept(ctx, g, propagation.StemMap{StemID: in.parse(), StemMapping: in.Body}, in.parse(), g.StemNow)
		})
	post(api, g, "takeCuttings", "/api/cuts", "Cut: the cuttings come into being",
		func(ctx context.Context, g *propagation.Garden, in *body[propagation.Cut]) ([]propagation.ShelfCutting, error) {
			touched, _, err := g.Keep(ctx, in.Body)
			if err != nil {
				return nil, err
			}
			return g.Cuttings(ctx, touched.Cuttings)
		})

	post(api, g, "addVessel", "/api/vessels", "Put a vessel on a shelf",
		func(ctx context.Context, g *propagation.Garden, in *body[propagation.NewVessel]) (propagation.VesselView, error) {
			return kept(ctx, g, in.Body, in.Body.ID, g.VesselNow)
		})
	post(api, g, "setInVessel", "/api/settings", "Set a cutting into a vessel",
		func(ctx context.Context, g *propagation.Garden, in *body[propagation.Setting]) (propagation.ShelfCutting, error) {
			return kept(ctx, g, in.Body, in.Body.CuttingID, g.CuttingNow)
		})

	get(api, g, "cutting", "/api/cuttings/{id}", "One piece's life",
		func(ctx context.Context, g *propagation.Garden, in *byID) (propagation.CuttingPage, error) {
			return g.CuttingPage(ctx, in.parse())
		})
	get(api, g, "potFor", "/api/cuttings/{id}/pot", "Which pot, which mix, how much",
		func(ctx context.Context, g *propagation.Garden, in *byID) (potting.Advice, error) {
			return g.PotFor(ctx, in.parse())
		})
	post(api, g, "recordLook", "/api/looks", "Record a look",
		func(ctx context.Context, g *propagation.Garden, in *body[propagation.NewLook]) (propagation.CuttingPage, error) {
			return kept(ctx, g, in.Body, in.Body.CuttingID, g.CuttingPage)
		})
	post(api, g, "measure", "/api/measure", "Lengths in mm of lines on a photo",
		func(ctx context.Context, g *propagation.Garden, in *body[propagation.Measuring]) (rootphoto.Result, error) {
			return g.Measure(ctx, in.Body)
		})
	post(api, g, "chooseSchool", "/api/schools", "Choose the school for a cutting",
		func(ctx context.Context, g *propagation.Garden, in *body[propagation.SchoolChoice]) (propagation.CuttingPage, error) {
			return kept(ctx, g, in.Body, in.Body.CuttingID, g.CuttingPage)
		})
	post(api, g, "potUp", "/api/pottings", "Pot up a cutting",
		func(ctx context.Context, g *propagation.Garden, in *body[propagation.Potting]) (propagation.CuttingPage, error) {
			return kept(ctx, g, in.Body, in.Body.CuttingID, g.CuttingPage)
		})
	post(api, g, "end", "/api/outcomes", "Close a cutting's record: established or lost",
		func(ctx context.Context, g *propagation.Garden, in *body[propagation.Ending]) (propagation.CuttingPage, error) {
			return kept(ctx, g, in.Body, in.Body.CuttingID, g.CuttingPage)
		})
	get(api, g, "household", "/api/household", "Where the grower is: days and seasons",
		func(ctx context.Context, g *propagation.Garden, _ *struct{}) (propagation.Household, error) {
			return g.Household(ctx)
		})
	putRightRoutes(api, g)
	cutRoutes(api, g)
	photoRoutes(api, g)
	fileRoutes(api, g)
	factRoutes(api, g)
	describe(api)
}

type pictureIn struct {
	ID   string `path:"id" format:"uuid"`
	Size int    `query:"size" doc:"longest side in pixels: 320 or 1600; 0 for the full size"`
	// Location asks for the original bytes as they came, with where the photo was taken.
	Location bool `query:"location" doc:"with size 0: the bytes as they came, with where it was taken"`
}

func photoRoutes(api huma.API, g *propagation.Garden) {
	huma.Register(api, huma.Operation{
		OperationID: "keepPhoto", Method: http.MethodPost, Path: "/api/photos", Summary: "Keep a photo's original bytes",
		MaxBodyBytes: MostBody, Errors: []int{http.StatusConflict, http.StatusRequestEntityTooLarge, http.StatusUnprocessableEntity, http.StatusServiceUnavailable},
	}, func(ctx context.Context, in *struct {
		ID      string `query:"id" format:"uuid" required:"true" doc:"UUIDv7 of this photo"`
		RawBody []byte `contentType:"application/octet-stream"`
	},
	) (*body[propagation.Photo], error) {
		id, err := uuid.Parse(in.ID)
		if err != nil {
			return nil, answer(ctx, plant.Refuse("id", "is not a UUID"))
		}
		g, err := g.For(ctx)
		if err != nil {
			return nil, answer(ctx, err)
		}
		p, err := g.KeepPhoto(ctx, id, in.RawBody)
		if err != nil {
			return nil, answer(ctx, err)
		}
		return &body[propagation.Photo]{p}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "photo", Method: http.MethodGet, Path: "/api/photos/{id}", Summary: "A photo, upright for the screen or as it came",
		Errors: []int{http.StatusNotFound, http.StatusServiceUnavailable},
	}, func(ctx context.Context, in *pictureIn) (*huma.StreamResponse, error) {
		data, media, err := picture(ctx, g, in)
		if err != nil {
			return nil, answer(ctx, err)
		}
		return &huma.StreamResponse{Body: func(c huma.Context) {
			c.SetHeader("Content-Type", media)
			c.SetHeader("Cache-Control", "private, max-age=31536000, immutable")
			_, _ = io.Copy(c.BodyWriter(), bytes.NewReader(data))
		}}, nil
	})
}

func picture(ctx context.Context, g *propagation.Garden, in *pictureIn) (data []byte, media string, err error) {
	if in.Size == 0 {
		return g.PhotoOriginal(ctx, uuid.MustParse(in.ID), in.Location)
	}
	data, err = g.PhotoView(ctx, uuid.MustParse(in.ID), in.Size)
	return data, "image/jpeg", err
}
