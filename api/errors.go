package api

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"slices"
	"strings"

	"ergasia/app/refuse"
	"ergasia/store"

	"github.com/danielgtaylor/huma/v2"
)

// Problem is an RFC 9457 problem. Detail is a sentence for the person; errors
// name field, value and what would be right; state is what is true now, where
// an edit was stale.
type Problem struct {
	huma.ErrorModel
	State  any  `json:"state,omitempty" doc:"The present state, where an edit was stale"`
	Anyway bool `json:"anyway,omitempty" doc:"Of a move: a rule says no, but it may be noted that the thing lies there"`
}

var statusOf = map[refuse.Kind]int{
	refuse.Invalid: http.StatusUnprocessableEntity, refuse.NotFound: http.StatusNotFound,
	refuse.Forbidden: http.StatusForbidden,
	refuse.Conflict:  http.StatusConflict, refuse.Refused: http.StatusUnprocessableEntity,
	refuse.TooMany:   http.StatusTooManyRequests,
	refuse.SignedOut: http.StatusUnauthorized, refuse.Crowded: http.StatusServiceUnavailable,
}

// comeBack is in how many seconds to try again what could not be served now. Practice: a
// large import is in by then, and a database is up.
const comeBack = "3"

// later is an answer that the same request may have another one in a moment.
func later(sentence string) error {
	return huma.ErrorWithHeaders(newProblem(http.StatusServiceUnavailable, sentence), http.Header{"Retry-After": {comeBack}})
}

// problem turns an error into an answer. What is not for people is logged and
// answered with a sentence that gives nothing away.
func problem(ctx context.Context, err error) error {
	if err == nil {
		return nil
	}
	if store.Busy(err) {
		err = refuse.Busy()
	}
	var refusal *refuse.Error
	if !errors.As(err, &refusal) {
		if errors.Is(ctx.Err(), context.Canceled) {
			return newProblem(499, "The request was taken back.") // nobody reads it
		}
		slog.ErrorContext(ctx, "request failed", "error", err)
		switch {
		case errors.Is(err, store.ErrUnsure):
			return later("The database was lost before it said whether this was kept. Try again: it will not be done twice.")
		case errors.Is(err, context.DeadlineExceeded), errors.Is(ctx.Err(), context.DeadlineExceeded):
			return later("The server was too busy to answer in time; nothing was changed. Try again in a moment.")
		case store.Away(err):
			return later("The database does not answer now; nothing was changed. Try again in a moment.")
		}
		return newProblem(http.StatusInternalServerError,
			"Something broke on our side; nothing was changed. Try again, and tell who runs this server if it stays so.")
	}
	p := newProblem(statusOf[refusal.Kind], refusal.Sentence)
	for _, f := range refusal.Faults {
		p.Errors = append(p.Errors, detailOf(f.Field, f.Value, f.Want))
	}
	for _, sentence := range refusal.Details {
		p.Errors = append(p.Errors, &huma.ErrorDetail{Message: sentence})
	}
	p.State, p.Anyway = refusal.State, refusal.Anyway
	if refusal.Kind == refuse.Crowded {
		return later(refusal.Sentence)
	}
	return p
}

// cut is a value as a short text.
func cut(v any) string {
	text := []rune(fmt.Sprint(v))
	if len(text) > 60 {
		return string(text[:57]) + "..."
	}
	return string(text)
}

func newProblem(status int, sentence string) *Problem {
	title := http.StatusText(status)
	if title == "" {
		title = "Request ended"
	}
	return &Problem{ErrorModel: huma.ErrorModel{Status: status, Title: title, Detail: sentence}}
}

// huma's own refusals (a body that is not JSON, a number out of bounds) get the
// same form and plainer words.
func init() {
	huma.DefaultArrayNullable = false // a list is a list, if an empty one
	huma.NewError = func(status int, msg string, errs ...error) huma.StatusError {
		if status == http.StatusUnprocessableEntity && slices.ContainsFunc(errs, ofAddress) {
			return newProblem(http.StatusNotFound, "There is nothing at this address: it was copied in part, or is mistyped.")
		}
		p := newProblem(status, plain(status, msg))
		for _, err := range errs {
			var detail huma.ErrorDetailer
			if errors.As(err, &detail) {
				d := detail.ErrorDetail()
				p.Errors = append(p.Errors, detailOf(d.Location, d.Value, d.Message))
			} else if err != nil {
				p.Errors = append(p.Errors, &huma.ErrorDetail{Message: err.Error()})
			}
		}
		return p
	}
}

// ofAddress says whether an error is of a part of the address, such as an id that is none.
func ofAddress(err error) bool {
	var detail huma.ErrorDetailer
	return errors.As(err, &detail) && strings.HasPrefix(detail.ErrorDetail().Location, "path.")
}

func plain(status int, msg string) string {
	switch status {
	case http.StatusBadRequest:
		return "The request can't be read."
	case http.StatusUnprocessableEntity:
		return "Something in the input is not right."
	case http.StatusRequestEntityTooLarge:
		return "The request is too large."
	case http.StatusRequestTimeout:
		return "The request came in too slowly."
	}
	return msg
}

func writeProblem(w http.ResponseWriter, status int, sentence string) {
	w.Header().Set("Content-Type", "application/problem+json")
	if status == http.StatusServiceUnavailable {
		w.Header().Set("Retry-After", comeBack)
	}
	w.WriteHeader(status)
	_ = json.NewEncoder(w).Encode(newProblem(status, sentence)) // the caller may be gone
}

func refuseCrossOrigin(w http.ResponseWriter, _ *http.Request) {
	writeProblem(w, http.StatusForbidden, "This request came from another site, so it was not carried out.")
}
