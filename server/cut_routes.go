package server

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"clearjar/core/cutplan"
	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/bench"
	"clearjar/propagation/door"
	"clearjar/propagation/files"
	"clearjar/propagation/files/exchange"
	"clearjar/propagation/paper"
	"clearjar/propagation/show"
)

// cutRoutes are the planner, the bench and what goes with the mothers.
func cutRoutes(api huma.API, g *propagation.Garden) {
	post(api, g, "planCut", "/api/plans/try", "Propose where to cut, or work out what these knives make; nothing is kept",
		func(ctx context.Context, g *propagation.Garden, in *body[bench.PlanWish]) (bench.PlanAnswer, error) {
			return bench.PlanCut(ctx, g, in.Body)
		})
	post(api, g, "cutChoices", "/api/plans/choices", "The best plan for each number of pieces",
		func(ctx context.Context, g *propagation.Garden, in *body[bench.PlanWish]) ([]cutplan.Choice, error) {
			return bench.CutChoices(ctx, g, in.Body)
		})
	type plansIn struct {
		Mother string `query:"mother" format:"uuid" doc:"only plans of this mother"`
		Before string `query:"before" format:"uuid" doc:"those before this plan: the last one of the list before"`
		Open   bool   `query:"open" doc:"only those that were not carried out"`
	}
	get(api, g, "plans", "/api/plans", "Plans that were kept, newest first, 100 at a time",
		func(ctx context.Context, g *propagation.Garden, in *plansIn) (bench.PlanList, error) {
			return bench.PlansOf(ctx, g, bench.PlansWanted{Mother: asked(in.Mother), Before: asked(in.Before), OnlyOpen: in.Open})
		})
	post(api, g, "keepPlan", "/api/plans", "Keep a plan, to prepare the bench by",
		func(ctx context.Context, g *propagation.Garden, in *body[door.NewPlan]) (bench.PreparedPlan, error) {
			return kept(ctx, g, in.Body, in.Body.ID, bench.PlanPage)
		})
	get(api, g, "plan", "/api/plans/{id}", "A kept plan with its bench checklist",
		func(ctx context.Context, g *propagation.Garden, in *byID) (bench.PreparedPlan, error) {
			return bench.PlanPage(ctx, g, in.parse())
		})
	post(api, g, "tickStep", "/api/plans/{id}/ticks", "Tick a line of the checklist; timers start with it",
		func(ctx context.Context, g *propagation.Garden, in *onID[door.Tick]) (bench.PreparedPlan, error) {
			return kept(ctx, g, door.BenchTick{PlanID: in.parse(), Tick: in.Body}, in.parse(), bench.PlanPage)
		})
	get(api, g, "plannerNumbers", "/api/planner-numbers", "The planner's numbers with the grower's decisions and records",
		func(ctx context.Context, g *propagation.Garden, _ *struct{}) (show.NumbersInUse, error) {
			return show.PlannerNumbers(ctx, g)
		})
	post(api, g, "chooseNumber", "/api/planner-numbers", "Put a value, or your records, in place of a starting value",
		func(ctx context.Context, g *propagation.Garden, in *body[door.NumberChoice]) (show.NumbersInUse, error) {
			if _, _, err := door.Keep(ctx, g, in.Body); err != nil {
				return show.NumbersInUse{}, err
			}
			return show.PlannerNumbers(ctx, g)
		})
	post(api, g, "water", "/api/waterings", "Note that a mother was watered",
		func(ctx context.Context, g *propagation.Garden, in *body[door.Watering]) (show.Mother, error) {
			return kept(ctx, g, in.Body, in.Body.MotherID, show.MotherPage)
		})
	post(api, g, "giveAway", "/api/handovers", "Note that a cutting was given away",
		func(ctx context.Context, g *propagation.Garden, in *body[door.Handover]) (show.CuttingPage, error) {
			return kept(ctx, g, in.Body, in.Body.CuttingID, show.OneCutting)
		})
	post(api, g, "weighOffer", "/api/offers", "What an offered piece is worth trying for",
		func(ctx context.Context, g *propagation.Garden, in *body[show.OfferedPiece]) (cutplan.OfferAnswer, error) {
			return show.WeighOffer(ctx, g, in.Body)
		})
	post(api, g, "howMany", "/api/how-many", "How many pieces to take",
		func(_ context.Context, _ *propagation.Garden, in *body[show.HowManyWish]) (show.HowManyAnswer, error) {
			return show.HowMany(in.Body)
		})
}

// asked is an id that may be left out; its format was checked.
func asked(id string) *uuid.UUID {
	if id == "" {
		return nil
	}
	u := uuid.MustParse(id)
	return &u
}

// fileRoutes give and take files.
func fileRoutes(api huma.API, g *propagation.Garden) {
	download(api, g, "tags", "/api/tags.pdf", "Tags to print, with a code of known size",
		func(ctx context.Context, g *propagation.Garden, in *struct {
			Cuttings string `query:"cuttings" required:"true" maxLength:"8000" doc:"ids of cuttings, separated by commas"`
			Size     string `query:"size" enum:"tape,stick,hang" default:"stick"`
		},
		) (file, error) {
			ids := []uuid.UUID{}
			for i, text := range strings.Split(in.Cuttings, ",") {
				id, err := uuid.Parse(text)
				if err != nil {
					return file{}, plant.Refuse(fmt.Sprintf("cuttings[%d]", i), "is not the id of a cutting")
				}
				ids = append(ids, id)
			}
			data, err := paper.PrintTags(ctx, g, ids, in.Size)
			return file{"application/pdf", "tags-" + in.Size + ".pdf", data}, err
		})
	download(api, g, "passport", "/api/cuttings/{id}/passport.pdf", "What goes with a plant that is given away",
		func(ctx context.Context, g *propagation.Garden, in *byID) (file, error) {
			data, code, err := paper.PrintPassport(ctx, g, in.parse())
			return file{"application/pdf", "passport-" + code + ".pdf", data}, err
		})
	download(api, g, "exportRecords", "/api/export/{what}", "All stem maps, or all kept plans",
		func(ctx context.Context, g *propagation.Garden, in *struct {
			What   string `path:"what" enum:"stems,plans"`
			Format string `query:"format" enum:"json,csv" default:"json"`
		},
		) (file, error) {
			data, err := files.Export(ctx, g, in.What, in.Format)
			media := map[string]string{exchange.CSV: "text/csv; charset=utf-8", exchange.JSON: "application/json"}
			return file{media[in.Format], exchange.Name(in.What, in.Format), data}, err
		})
	importing := huma.Operation{
		OperationID: "importRecords", Method: http.MethodPost, Path: "/api/import/{what}", Summary: "Read a file of stem maps or plans; every row is checked",
		MaxBodyBytes: exchange.MostBytes + 1<<10, Errors: []int{http.StatusRequestEntityTooLarge, http.StatusUnprocessableEntity, http.StatusServiceUnavailable},
	}
	huma.Register(api, importing, func(ctx context.Context, in *importIn) (*body[files.ImportReport], error) {
		g, err := g.For(ctx)
		if err != nil {
			return nil, answer(ctx, err)
		}
		report, err := files.Import(ctx, g, in.What, in.Format, in.RawBody, in.KeepGood, nil)
		if err != nil {
			return nil, answer(ctx, err)
		}
		propagation.Whole(&report)
		return &body[files.ImportReport]{report}, nil
	})
	importing.OperationID, importing.Path = "importWithProgress", "/api/import/{what}/progress"
	importing.Summary = "The same, answered in lines of JSON: how far it has come, and at last the report or the problem"
	huma.Register(api, importing, func(ctx context.Context, in *importIn) (*huma.StreamResponse, error) {
		g, err := g.For(ctx)
		if err != nil {
			return nil, answer(ctx, err)
		}
		return &huma.StreamResponse{Body: func(c huma.Context) {
			c.SetHeader("Content-Type", "application/x-ndjson")
			lines := json.NewEncoder(c.BodyWriter())
			say := func(l importLine) {
				_ = lines.Encode(l)
				if f, ok := c.BodyWriter().(http.Flusher); ok {
					f.Flush()
				}
			}
			report, err := files.Import(ctx, g, in.What, in.Format, in.RawBody, in.KeepGood, func(done, of int) { say(importLine{Done: done, Of: of}) })
			if err != nil {
				say(importLine{Problem: answer(ctx, err)})
				return
			}
			propagation.Whole(&report)
			say(importLine{Report: &report})
		}}, nil
	})
}

type importIn struct {
	What     string `path:"what" enum:"stems,plans"`
	Format   string `query:"format" enum:"json,csv" required:"true"`
	KeepGood bool   `query:"keep_good" doc:"keep the good rows though others are bad"`
	RawBody  []byte `contentType:"application/octet-stream"`
}

// importLine is one line of an answer that says how far it has come.
type importLine struct {
	Done    int                 `json:"done,omitempty"`
	Of      int                 `json:"of,omitempty"`
	Report  *files.ImportReport `json:"report,omitempty"`
	Problem error               `json:"problem,omitempty"`
}

// file is what a download gives.
type file struct {
	media, name string
	data        []byte
}

// download registers a read that gives a file.
func download[In any](api huma.API, g *propagation.Garden, id, path, summary string, do func(context.Context, *propagation.Garden, *In) (file, error)) {
	huma.Register(api, huma.Operation{
		OperationID: id, Method: http.MethodGet, Path: path, Summary: summary,
		Errors: []int{http.StatusNotFound, http.StatusUnprocessableEntity, http.StatusServiceUnavailable},
	}, func(ctx context.Context, in *In) (*huma.StreamResponse, error) {
		g, err := g.For(ctx)
		if err != nil {
			return nil, answer(ctx, err)
		}
		f, err := do(ctx, g, in)
		if err != nil {
			return nil, answer(ctx, err)
		}
		return &huma.StreamResponse{Body: func(c huma.Context) {
			c.SetHeader("Content-Type", f.media)
			c.SetHeader("Content-Disposition", fmt.Sprintf("attachment; filename=%q", f.name))
			_, _ = c.BodyWriter().Write(f.data)
		}}, nil
	})
}
