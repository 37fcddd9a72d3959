package server

import (
	"context"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"clearjar/core/climate"
	"clearjar/propagation"
	"clearjar/propagation/files"
	"clearjar/propagation/files/exchange"
	"clearjar/propagation/outside"
	"clearjar/propagation/show"
)

// readingsIn is what a sensor posts.
type readingsIn struct {
	Key  string `header:"Authorization" required:"true" maxLength:"200" doc:"Bearer, and the secret of the sensor's key"`
	Body struct {
		Readings []climate.Reading `json:"readings" minItems:"1" maxItems:"10000"`
	}
}

// calendarOut is a calendar as a calendar program reads it.
type calendarOut struct {
	ContentType string `header:"Content-Type"`
	Body        []byte
}

// outsideRoutes let sensors and calendars in, and show what they say.
func outsideRoutes(api huma.API, g *propagation.Garden) {
	post(api, g, "makeKey", "/api/outside-keys", "Make a key for a sensor or a calendar; its secret is said once",
		func(ctx context.Context, g *propagation.Garden, in *body[outside.NewKey]) (outside.MadeKey, error) {
			return outside.Make(ctx, g, in.Body)
		})
	get(api, g, "keys", "/api/outside-keys", "The keys of a kind",
		func(ctx context.Context, g *propagation.Garden, in *struct {
			What string `query:"what" required:"true" enum:"sensor,calendar"`
		},
		) ([]outside.OutsideKey, error) {
			return outside.Keys(ctx, g, in.What)
		})
	post(api, g, "revokeKey", "/api/outside-keys/{id}/revoke", "Revoke a key: it opens nothing any more",
		func(ctx context.Context, g *propagation.Garden, in *byID) (outside.OutsideKey, error) {
			return outside.Revoke(ctx, g, in.parse())
		})
	get(api, g, "placeClimate", "/api/places/{id}/climate", "The air of a place over some days, held against what the pieces there want",
		func(ctx context.Context, g *propagation.Garden, in *struct {
			ID    string           `path:"id" format:"uuid"`
			Days  int              `query:"days" minimum:"1" maximum:"400" default:"3"`
			Stage climate.StageKey `query:"stage" enum:"unrooted,rooting,hardening"`
		},
		) (show.PlaceClimate, error) {
			return show.ClimateOf(ctx, g, uuid.MustParse(in.ID), in.Days, in.Stage)
		})
	huma.Register(api, huma.Operation{
		OperationID: "takeReadings", Method: http.MethodPost, Path: "/api/readings", Summary: "Take in what a sensor read: one a minute; what cannot be is refused one by one",
		MaxBodyBytes: mostJSON, Errors: []int{http.StatusUnauthorized, http.StatusRequestEntityTooLarge, http.StatusUnprocessableEntity, http.StatusServiceUnavailable},
	}, func(ctx context.Context, in *readingsIn) (*body[outside.ReadingsTaken], error) {
		secret, _ := strings.CutPrefix(in.Key, "Bearer ")
		own, key, err := outside.Open(ctx, g, outside.Sensor, strings.TrimSpace(secret))
		if err != nil {
			return nil, answer(ctx, err)
		}
		g, err := g.For(own)
		if err != nil {
			return nil, answer(ctx, err)
		}
		taken, err := outside.TakeIn(own, g, key.ID, in.Body.Readings, key.Earliest())
		if err != nil {
			return nil, answer(ctx, err)
		}
		return &body[outside.ReadingsTaken]{taken}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "calendar", Method: http.MethodGet, Path: "/api/calendar/{secret}", Summary: "The rounds of the next weeks as iCalendar, at an address that can be revoked",
		Errors: []int{http.StatusUnauthorized, http.StatusServiceUnavailable},
	}, func(ctx context.Context, in *struct {
		Secret string `path:"secret" maxLength:"200" doc:"the secret of the calendar's key, and .ics"`
	},
	) (*calendarOut, error) {
		own, _, err := outside.Open(ctx, g, outside.Calendar, strings.TrimSuffix(in.Secret, ".ics"))
		if err != nil {
			return nil, answer(ctx, err)
		}
		g, err := g.For(own)
		if err != nil {
			return nil, answer(ctx, err)
		}
		data, err := files.Calendar(own, g)
		if err != nil {
			return nil, answer(ctx, err)
		}
		return &calendarOut{"text/calendar; charset=utf-8", data}, nil
	})
	download(api, g, "exportReadings", "/api/places/{id}/readings", "What the sensors of a place said, as CSV",
		func(ctx context.Context, g *propagation.Garden, in *byID) (file, error) {
			data, err := files.ExportReadings(ctx, g, in.parse())
			return file{"text/csv; charset=utf-8", "readings.csv", data}, err
		})
	huma.Register(api, huma.Operation{
		OperationID: "importReadings", Method: http.MethodPost, Path: "/api/import/readings", Summary: "Read a file of readings into a sensor; every row is checked",
		MaxBodyBytes: exchange.MostBytes + 1<<10, Errors: []int{http.StatusNotFound, http.StatusRequestEntityTooLarge, http.StatusUnprocessableEntity, http.StatusServiceUnavailable},
	}, func(ctx context.Context, in *struct {
		Sensor   string `query:"sensor" format:"uuid" required:"true"`
		KeepGood bool   `query:"keep_good" doc:"keep the good rows though others are bad"`
		RawBody  []byte `contentType:"application/octet-stream"`
	},
	) (*body[files.ImportReport], error) {
		g, err := g.For(ctx)
		if err != nil {
			return nil, answer(ctx, err)
		}
		report, err := files.ImportReadings(ctx, g, uuid.MustParse(in.Sensor), in.RawBody, in.KeepGood)
		if err != nil {
			return nil, answer(ctx, err)
		}
		propagation.Whole(&report)
		return &body[files.ImportReport]{report}, nil
	})
}
