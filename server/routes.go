package server

import (
	"bytes"
	"context"
	"io"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/core/rootphoto"
	"clearjar/household"
	"clearjar/propagation"
	"clearjar/propagation/bench"
	"clearjar/propagation/conclude"
	"clearjar/propagation/door"
	"clearjar/propagation/photo"
	"clearjar/propagation/show"
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
func kept[T any](ctx context.Context, g *propagation.Garden, f door.Fact, about uuid.UUID, now func(context.Context, *propagation.Garden, uuid.UUID) (T, error)) (T, error) {
	if _, _, err := door.Keep(ctx, g, f); err != nil {
		var none T
		return none, err
	}
	return now(ctx, g, about)
}

// Routes adds every operation to the contract.
func Routes(api huma.API, g *propagation.Garden, e *entrance) {
	e.doorRoutes(api)
	get(api, g, "handbook", "/api/handbook", "Groups, schools, vessels, cautions and every number with its basis",
		func(context.Context, *propagation.Garden, *struct{}) (show.Handbook, error) {
			return show.Book(), nil
		})
	careRoutes(api, g)
	outsideRoutes(api, g)
	get(api, g, "shelf", "/api/shelf", "Everything that stands, most urgent first",
		func(ctx context.Context, g *propagation.Garden, _ *struct{}) (show.Shelf, error) {
			return show.ShelfNow(ctx, g)
		})

	get(api, g, "ahead", "/api/ahead", "The coming eight weeks: what comes ready, when looks pay, days to pot",
		func(ctx context.Context, g *propagation.Garden, _ *struct{}) (show.Ahead, error) {
			return show.AheadNow(ctx, g)
		})
	get(api, g, "group", "/api/groups/{key}", "One growth group: your records beside its starting values, and how forecasts went",
		func(ctx context.Context, g *propagation.Garden, in *struct {
			Key string `path:"key" maxLength:"60"`
		},
		) (show.GroupPage, error) {
			return show.GroupNow(ctx, g, in.Key)
		})
	get(api, g, "worked", "/api/worked", "One cutting worked through, look by look",
		func(ctx context.Context, g *propagation.Garden, _ *struct{}) (show.Worked, error) {
			return show.WorkedThrough(ctx, g)
		})
	get(api, g, "mothers", "/api/mothers", "The mother plants",
		func(ctx context.Context, g *propagation.Garden, _ *struct{}) ([]show.Mother, error) {
			return show.Mothers(ctx, g)
		})
	get(api, g, "mother", "/api/mothers/{id}", "One mother with everything taken from it",
		func(ctx context.Context, g *propagation.Garden, in *byID) (show.Mother, error) {
			return show.MotherPage(ctx, g, in.parse())
		})
	post(api, g, "addMother", "/api/mothers", "Take in a mother plant",
		func(ctx context.Context, g *propagation.Garden, in *body[door.NewMother]) (show.Mother, error) {
			return kept(ctx, g, in.Body, in.Body.ID, show.MotherPage)
		})
	post(api, g, "potMother", "/api/mother-pots", "Note that a mother was potted on",
		func(ctx context.Context, g *propagation.Garden, in *body[door.MotherPotting]) (show.Mother, error) {
			return kept(ctx, g, in.Body, in.Body.MotherID, show.MotherPage)
		})
	get(api, g, "stem", "/api/stems/{id}", "One stem with its newest map",
		func(ctx context.Context, g *propagation.Garden, in *byID) (bench.MappedStem, error) {
			return show.StemNow(ctx, g, in.parse())
		})
	register(api, g, http.MethodPut, "mapStem", "/api/stems/{id}", "Save the map of a stem",
		func(ctx context.Context, g *propagation.Garden, in *onID[door.StemMapping]) (bench.MappedStem, error) {
			return kept(ctx, g, door.StemMap{StemID: in.parse(), StemMapping: in.Body}, in.parse(), show.StemNow)
		})
	post(api, g, "takeCuttings", "/api/cuts", "Cut: the cuttings come into being",
		func(ctx context.Context, g *propagation.Garden, in *body[door.Cut]) ([]conclude.ShelfCutting, error) {
			touched, _, err := door.Keep(ctx, g, in.Body)
			if err != nil {
				return nil, err
			}
			return show.Cuttings(ctx, g, touched.Cuttings)
		})

	get(api, g, "cuttingsOfCut", "/api/cuts/{id}/cuttings", "What came of one cut of one stem",
		func(ctx context.Context, g *propagation.Garden, in *byID) ([]conclude.ShelfCutting, error) {
			return show.CuttingsOfCut(ctx, g, in.parse())
		})

	post(api, g, "addVessel", "/api/vessels", "Put a vessel on a shelf",
		func(ctx context.Context, g *propagation.Garden, in *body[door.NewVessel]) (propagation.VesselView, error) {
			return kept(ctx, g, in.Body, in.Body.ID, show.VesselNow)
		})
	post(api, g, "setInVessel", "/api/settings", "Set a cutting into a vessel",
		func(ctx context.Context, g *propagation.Garden, in *body[door.Setting]) (conclude.ShelfCutting, error) {
			return kept(ctx, g, in.Body, in.Body.CuttingID, show.CuttingNow)
		})

	get(api, g, "cutting", "/api/cuttings/{id}", "One piece's life",
		func(ctx context.Context, g *propagation.Garden, in *byID) (show.CuttingPage, error) {
			return show.OneCutting(ctx, g, in.parse())
		})
	post(api, g, "layTable", "/api/potting-table", "Who goes with whom into which pot, and what that takes",
		func(ctx context.Context, g *propagation.Garden, in *body[show.TableWish]) (show.PottingTable, error) {
			return show.LayTable(ctx, g, in.Body)
		})
	post(api, g, "fillPot", "/api/pots", "Fill a pot: a first one, or a wider one",
		func(ctx context.Context, g *propagation.Garden, in *body[door.Potful]) ([]conclude.ShelfCutting, error) {
			touched, _, err := door.Keep(ctx, g, in.Body)
			if err != nil {
				return nil, err
			}
			return show.Cuttings(ctx, g, touched.Cuttings)
		})
	post(api, g, "recordLook", "/api/looks", "Record a look",
		func(ctx context.Context, g *propagation.Garden, in *body[door.NewLook]) (show.CuttingPage, error) {
			return kept(ctx, g, in.Body, in.Body.CuttingID, show.OneCutting)
		})
	post(api, g, "measure", "/api/measure", "Lengths in mm of lines on a photo",
		func(ctx context.Context, g *propagation.Garden, in *body[show.Measuring]) (rootphoto.Result, error) {
			return show.Measure(ctx, g, in.Body)
		})
	post(api, g, "chooseSchool", "/api/schools", "Choose the school for a cutting",
		func(ctx context.Context, g *propagation.Garden, in *body[door.SchoolChoice]) (show.CuttingPage, error) {
			return kept(ctx, g, in.Body, in.Body.CuttingID, show.OneCutting)
		})
	post(api, g, "potUp", "/api/pottings", "Pot up a cutting",
		func(ctx context.Context, g *propagation.Garden, in *body[door.Potting]) (show.CuttingPage, error) {
			return kept(ctx, g, in.Body, in.Body.CuttingID, show.OneCutting)
		})
	post(api, g, "part", "/api/partings", "Part young plants from a piece, or cut a rooted piece in two",
		func(ctx context.Context, g *propagation.Garden, in *body[door.Parting]) (show.CuttingPage, error) {
			return kept(ctx, g, in.Body, in.Body.CuttingID, show.OneCutting)
		})
	post(api, g, "end", "/api/outcomes", "Close a cutting's record: established or lost",
		func(ctx context.Context, g *propagation.Garden, in *body[door.Ending]) (show.CuttingPage, error) {
			return kept(ctx, g, in.Body, in.Body.CuttingID, show.OneCutting)
		})
	get(api, g, "household", "/api/household", "Where the grower is: days and seasons",
		func(ctx context.Context, g *propagation.Garden, _ *struct{}) (show.Household, error) {
			return show.HouseholdNow(ctx, g)
		})
	putRightRoutes(api, g)
	cutRoutes(api, g)
	photoRoutes(api, g)
	sightRoutes(api, g)
	fileRoutes(api, g)
	mixRoutes(api, g)
	factRoutes(api, g)
	describe(api)
}

type pictureIn struct {
	ID   string `path:"id" format:"uuid"`
	Size int    `query:"size" doc:"longest side in pixels: 320 or 1600; 0 for the full size"`
	// Turn is no more than a name for how it is turned, so that what a browser keeps is not shown turned otherwise.
	Turn int `query:"turn" doc:"how the photo is turned, as it says itself: pictures of another turn are other pictures"`
	// Location asks for the original bytes as they came, with where the photo was taken.
	Location bool `query:"location" doc:"with size 0: the bytes as they came, with where it was taken"`
}

func photoRoutes(api huma.API, g *propagation.Garden) {
	register(api, g, http.MethodPost, "turnPhoto", "/api/photos/{id}/turn", "Turn a photo that lies on its side",
		func(ctx context.Context, g *propagation.Garden, in *onID[turning]) (photo.Photo, error) {
			return photo.Turn(ctx, g, in.parse(), in.Body.Quarters)
		})
	huma.Register(api, huma.Operation{
		OperationID: "keepPhoto", Method: http.MethodPost, Path: "/api/photos", Summary: "Keep a photo's original bytes",
		MaxBodyBytes: MostBody, Errors: []int{http.StatusConflict, http.StatusRequestEntityTooLarge, http.StatusUnprocessableEntity, http.StatusServiceUnavailable},
	}, func(ctx context.Context, in *struct {
		ID      string `query:"id" format:"uuid" required:"true" doc:"UUIDv7 of this photo"`
		RawBody []byte `contentType:"application/octet-stream"`
	},
	) (*body[photo.Photo], error) {
		id, err := uuid.Parse(in.ID)
		if err != nil {
			return nil, answer(ctx, plant.Refuse("id", "is not a UUID"))
		}
		g, err := g.For(ctx)
		if err != nil {
			return nil, answer(ctx, err)
		}
		p, err := photo.Keep(ctx, g, id, in.RawBody)
		if err != nil {
			return nil, answer(ctx, err)
		}
		return &body[photo.Photo]{p}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "photo", Method: http.MethodGet, Path: "/api/photos/{id}", Summary: "A photo, upright for the screen or as it came",
		Errors: []int{http.StatusNotFound, http.StatusServiceUnavailable},
	}, func(ctx context.Context, in *pictureIn) (*huma.StreamResponse, error) {
		if me, ok := meOf(ctx); in.Location && ok && !me.May(household.Record) {
			return nil, problem(http.StatusForbidden, "Where a photo was taken is told only to those who note things here.")
		}
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

// turning is by how many quarters a photo is turned to the right.
type turning struct {
	Quarters int `json:"quarters" minimum:"1" maximum:"3"`
}

func picture(ctx context.Context, g *propagation.Garden, in *pictureIn) (data []byte, media string, err error) {
	if in.Size == 0 {
		return photo.Original(ctx, g, uuid.MustParse(in.ID), in.Location)
	}
	data, err = photo.View(ctx, g, uuid.MustParse(in.ID), in.Size)
	return data, "image/jpeg", err
}
