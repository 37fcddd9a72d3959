package server

import (
	"context"
	"encoding/json"
	"errors"
	"net/http"
	"reflect"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/door"
)

// Receipt tells what became of one fact; with a problem when it was not kept.
type Receipt struct {
	door.Receipt
	Problem *Problem `json:"problem,omitempty"`
}

// factsIn is a batch of facts, in the order they were noted.
type factsIn struct {
	Facts []door.SentFact `json:"facts" minItems:"1" maxItems:"200"`
}

// factRoutes take in facts of every kind by the one door.
func factRoutes(api huma.API, g *propagation.Garden) {
	check := contentCheck(api)
	huma.Register(api, huma.Operation{
		OperationID: "keepFacts", Method: http.MethodPost, Path: "/api/facts", Summary: "Take in facts that were noted, in their order; one receipt for each",
		MaxBodyBytes: mostJSON, Errors: []int{http.StatusRequestEntityTooLarge, http.StatusUnprocessableEntity, http.StatusServiceUnavailable},
	}, func(ctx context.Context, in *body[factsIn]) (*body[[]Receipt], error) {
		g, err := g.For(ctx)
		if err != nil {
			return nil, answer(ctx, err)
		}
		kept, err := door.KeepAll(ctx, g, in.Body.Facts, func(f door.Fact, kind string, content json.RawMessage) error {
			if err := mayKeep(ctx, kind); err != nil {
				return err
			}
			return check(f, kind, content)
		})
		if err != nil {
			return nil, answer(ctx, err)
		}
		out := make([]Receipt, len(kept))
		for i, r := range kept {
			out[i].Receipt = r
			if r.Why != nil {
				out[i].Problem = problemOf(ctx, r.Why)
			}
		}
		propagation.Whole(&out)
		return &body[[]Receipt]{out}, nil
	})
}

// problemOf is an error as the problem a grower reads.
func problemOf(ctx context.Context, err error) *Problem {
	var p *Problem
	if !errors.As(err, &p) {
		p, _ = answer(ctx, err).(*Problem)
	}
	return p
}

// contentCheck holds the content of each kind of fact against the contract, as the operation of that kind would.
func contentCheck(api huma.API) door.Check {
	registry := api.OpenAPI().Components.Schemas
	schemas, kinds := map[string]*huma.Schema{}, []string{}
	for kind, t := range door.FactKinds() {
		schemas[kind] = registry.Schema(t, true, t.Name())
		kinds = append(kinds, kind)
	}
	slices.Sort(kinds)
	sent := registry.SchemaFromRef(registry.Schema(reflect.TypeOf(door.SentFact{}), true, "SentFact").Ref)
	// Said, not enforced here: one fact of a kind unknown keeps no other of its batch out.
	sent.Properties["kind"].Description = "One of " + strings.Join(kinds, ", ") + "."
	sent.Properties["content"].Description = "What the operation of this kind takes."
	return func(f door.Fact, kind string, content json.RawMessage) error {
		var value any
		if err := json.Unmarshal(content, &value); err != nil {
			return plant.Refuse("content", "is not JSON")
		}
		var result huma.ValidateResult
		huma.Validate(registry, schemas[kind], huma.NewPathBuffer([]byte{}, 0), huma.ModeWriteToServer, value, &result)
		if len(result.Errors) > 0 {
			return problem(http.StatusUnprocessableEntity, "", result.Errors...)
		}
		return readable(f)
	}
}
