package server

import (
	"context"
	"errors"
	"log/slog"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"clearjar/core/plant"
	"clearjar/household"
	"clearjar/propagation"
	"clearjar/propagation/door"
	"clearjar/propagation/outside"
	"clearjar/store"
)

// Problem is an RFC 9457 problem: what happened, in a sentence a grower understands, and the fields it is about.
type Problem struct {
	Type   string             `json:"type"`
	Title  string             `json:"title"`
	Status int                `json:"status"`
	Detail string             `json:"detail"`
	Fields []plant.FieldError `json:"fields"`
	// Theirs is what stands now, when an edit was made on an older version.
	Theirs any `json:"theirs,omitempty"`
	// Yours is what was sent, when it differs in content from what was kept under the same id.
	Yours any `json:"yours,omitempty"`
}

func (p *Problem) Error() string { return p.Detail }

// GetStatus is the HTTP status.
func (p *Problem) GetStatus() int { return p.Status }

// ContentType is that of RFC 9457.
func (p *Problem) ContentType(string) string { return "application/problem+json" }

var titles = map[int]string{
	http.StatusUnauthorized: "Nobody is signed in", http.StatusForbidden: "Not allowed",
	http.StatusNotFound: "Not here", http.StatusConflict: "Changed elsewhere", http.StatusUnprocessableEntity: "Cannot be taken as it is",
	http.StatusServiceUnavailable: "Not saved", http.StatusTooManyRequests: "Too many at once", http.StatusRequestEntityTooLarge: "Too large", http.StatusInternalServerError: "Our fault",
}

// problem makes a [Problem] from what the framework found wrong with a request. Rejected values are not echoed.
func problem(status int, detail string, errs ...error) huma.StatusError {
	p := &Problem{Type: "about:blank", Title: titles[status], Status: status, Detail: detail, Fields: []plant.FieldError{}}
	if p.Title == "" {
		p.Title = http.StatusText(status)
	}
	for _, err := range errs {
		var d *huma.ErrorDetail
		if errors.As(err, &d) {
			p.Fields = append(p.Fields, plant.FieldError{Field: strings.TrimPrefix(d.Location, "body."), Reason: d.Message})
		}
	}
	if len(p.Fields) > 0 {
		p.Detail = p.Fields[0].Field + ": " + p.Fields[0].Reason
	}
	return p
}

// answer maps the errors of the use cases. An error nobody foresaw is logged and becomes a 500 without its text.
func answer(ctx context.Context, err error) error {
	var gone propagation.MissingError
	var conflict propagation.ConflictError
	var locked outside.LockedError
	var refused household.RefusedError
	var often household.TooOftenError
	var known *Problem
	switch fields := plant.Refusals(err); {
	case err == nil:
		return nil
	case errors.As(err, &known):
		return known
	case errors.As(err, &often):
		return huma.ErrorWithHeaders(problem(http.StatusTooManyRequests, often.Error()), http.Header{"Retry-After": {strconv.Itoa(int(often.After/time.Second) + 1)}})
	case errors.As(err, &refused):
		return problem(http.StatusForbidden, refused.Error())
	case errors.As(err, new(door.NotYoursError)):
		return problem(http.StatusForbidden, err.Error())
	case len(fields) > 0:
		p := problem(http.StatusUnprocessableEntity, sentence(fields)).(*Problem)
		p.Fields = fields
		return p
	case errors.As(err, &gone):
		return problem(http.StatusNotFound, gone.Error()+".")
	case errors.As(err, &locked):
		return problem(http.StatusUnauthorized, locked.Error())
	case errors.As(err, &conflict):
		p := problem(http.StatusConflict, conflict.Reason).(*Problem)
		p.Theirs, p.Yours = conflict.Theirs, conflict.Yours
		return p
	case errors.Is(err, context.Canceled) && ctx.Err() != nil:
		return problem(499, "The request was given up.")
	case store.IsLost(err):
		slog.Warn("database lost", "err", err)
		return problem(http.StatusServiceUnavailable, "The database cannot be reached, so nothing was saved. What you typed is still on the screen: try again in a moment.")
	}
	if rule := store.BrokenRule(err); rule != "" {
		slog.Warn("a rule of the database", "rule", rule)
		return problem(http.StatusConflict, "Something that this contradicts was kept meanwhile, perhaps in another tab. Nothing was saved; look again and try once more.")
	}
	if store.IsNoValue(err) {
		slog.Warn("a value the database takes not", "err", err)
		return problem(http.StatusUnprocessableEntity, "One of the values cannot be kept: a number far out of range, or a character no text has. Nothing was saved.")
	}
	slog.Error("unforeseen", "err", err)
	return problem(http.StatusInternalServerError, "Something broke on our side and nothing was saved. What you typed is still on the screen; try again.")
}

func sentence(fields []plant.FieldError) string {
	parts := make([]string, len(fields))
	for i, f := range fields {
		parts[i] = f.Reason
	}
	text := strings.Join(parts, "; ")
	if text == "" {
		return text
	}
	return strings.ToUpper(text[:1]) + text[1:]
}
