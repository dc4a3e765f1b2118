package api

import (
	"context"
	"net/http"
	"time"

	"ergasia/app/kernel"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
)

// inCrew is the input of every operation of a crew.
type inCrew interface{ crewID() uuid.UUID }

// CrewPath is the crew that an operation is about.
type CrewPath struct {
	Crew uuid.UUID `path:"crew" format:"uuid"`
}

func (p *CrewPath) crewID() uuid.UUID { return p.Crew }

// Idempotent is a write that may be repeated after a lost answer.
type Idempotent struct {
	Key uuid.UUID `header:"Idempotency-Key" format:"uuid" doc:"A new UUID for each write; the same again when repeating one whose answer was lost"`
}

func (i *Idempotent) repeatable() uuid.UUID { return i.Key }

// input is of an operation of a crew; keyed is that of a write that makes or
// changes something: it has an Idempotency-Key, or it does not compile.
type input[I any] interface {
	*I
	inCrew
}

type keyed[I any] interface {
	*I
	inCrew
	repeatable() uuid.UUID
}

// operation is how an operation is called and bounded.
type operation struct{ huma.Operation }

// ActionExtension is where the OpenAPI document says which action an operation needs.
const ActionExtension = "x-action"

// How long operations may take. Whatever waits for a database or an engine stops
// when its time is over.
const (
	usualTime   = 10 * time.Second
	longTime    = 30 * time.Second // large tables, pictures, sheets of labels
	longestTime = longTime         // of any request
)

// timeExtension is where the OpenAPI document says how long an operation may take.
const timeExtension = "x-seconds"

// maxBody is the largest body of a request, in bytes; a hull of many stations
// is the largest thing sent.
const maxBody = 1 << 20

// op names an operation.
func op(id, path, summary string) operation {
	return operation{huma.Operation{OperationID: id, Path: path, Summary: summary, MaxBodyBytes: maxBody,
		Extensions: map[string]any{timeExtension: usualTime.Seconds()}}}
}

// upTo bounds the body.
func (o operation) upTo(bytes int64) operation {
	o.MaxBodyBytes = bytes
	return o
}

// slow gives an operation more time.
func (o operation) slow() operation {
	o.Extensions[timeExtension] = longTime.Seconds()
	return o
}

// files says which kinds of file the answer may be.
func (o operation) files(kinds ...string) operation {
	o.Responses = fileAnswer(kinds...)
	return o
}

func fileAnswer(kinds ...string) map[string]*huma.Response {
	content := map[string]*huma.MediaType{}
	for _, k := range kinds {
		content[k] = &huma.MediaType{Schema: &huma.Schema{Type: "string", Format: "binary"}}
	}
	return map[string]*huma.Response{"200": {Description: "OK", Content: content}}
}

// Body wraps an answer.
type Body[T any] struct{ Body T }

func wrapped[T any](v T, err error) (*Body[T], error) {
	if err != nil {
		return nil, err
	}
	return &Body[T]{Body: v}, nil
}

// Made is the id of what a write made or changed.
type Made struct {
	ID uuid.UUID `json:"id" format:"uuid"`
}

// read adds an operation that changes nothing.
func read[I any, P input[I], T any](s *Server, may kernel.Action, o operation, handle func(context.Context,
	kernel.Actor, *I) (T, error)) {
	o.Method = http.MethodGet
	answer[I, P](s, may, o, handle)
}

// ask is read with a body, for questions that are too long for an address.
func ask[I any, P input[I], T any](s *Server, may kernel.Action, o operation, handle func(context.Context,
	kernel.Actor, *I) (T, error)) {
	o.Method = http.MethodPost
	answer[I, P](s, may, o, handle)
}

// create adds an operation that makes something and gives its id.
func create[I any, P keyed[I]](s *Server, may kernel.Action, o operation, handle func(context.Context, kernel.Actor,
	*I) (uuid.UUID, error)) {
	o.Method = http.MethodPost
	answer[I, P](s, may, o, madeBy(handle))
}

// change adds an operation that writes something over the version that was seen.
func change[I any, P keyed[I]](s *Server, may kernel.Action, o operation, handle func(context.Context, kernel.Actor,
	*I) (uuid.UUID, error)) {
	o.Method = http.MethodPut
	answer[I, P](s, may, o, madeBy(handle))
}

// replace is change that tells how the thing is now.
func replace[I any, P input[I], T any](s *Server, may kernel.Action, o operation, handle func(context.Context,
	kernel.Actor, *I) (T, error)) {
	o.Method = http.MethodPut
	answer[I, P](s, may, o, handle)
}

// act adds an operation that does something and tells what came of it; doing and
// setting tell nothing.
func act[I any, P keyed[I], T any](s *Server, may kernel.Action, o operation, handle func(context.Context,
	kernel.Actor, *I) (T, error)) {
	o.Method = http.MethodPost
	answer[I, P](s, may, o, handle)
}

func doing[I any, P input[I]](s *Server, may kernel.Action, o operation, handle func(context.Context, kernel.Actor,
	*I) error) {
	o.Method = http.MethodPost
	silent[I, P](s, may, o, handle)
}

func setting[I any, P input[I]](s *Server, may kernel.Action, o operation, handle func(context.Context, kernel.Actor,
	*I) error) {
	o.Method = http.MethodPut
	silent[I, P](s, may, o, handle)
}

// remove adds an operation that takes something away; once more changes nothing.
func remove[I any, P input[I]](s *Server, may kernel.Action, o operation, handle func(context.Context, kernel.Actor,
	*I) error) {
	o.Method = http.MethodDelete
	silent[I, P](s, may, o, handle)
}

// readFile adds an operation that answers with a file.
func readFile[I any, P input[I]](s *Server, may kernel.Action, o operation, handle func(context.Context, kernel.Actor,
	*I) (*File, error)) {
	o.Method = http.MethodGet
	guarded[I, P](s, may, o, handle)
}

// printFile is readFile with a body, for what is too long for an address.
func printFile[I any, P input[I]](s *Server, may kernel.Action, o operation, handle func(context.Context, kernel.Actor,
	*I) (*File, error)) {
	o.Method = http.MethodPost
	guarded[I, P](s, may, o, handle)
}

func answer[I any, P input[I], T any](s *Server, may kernel.Action, o operation, handle func(context.Context,
	kernel.Actor, *I) (T, error)) {
	guarded[I, P](s, may, o, func(ctx context.Context, actor kernel.Actor, in *I) (*Body[T], error) {
		v, err := handle(ctx, actor, in)
		return &Body[T]{Body: v}, err
	})
}

func silent[I any, P input[I]](s *Server, may kernel.Action, o operation, handle func(context.Context, kernel.Actor,
	*I) error) {
	o.DefaultStatus = http.StatusNoContent
	guarded[I, P](s, may, o, func(ctx context.Context, actor kernel.Actor, in *I) (*struct{}, error) {
		return nil, handle(ctx, actor, in)
	})
}

func madeBy[I any](handle func(context.Context, kernel.Actor, *I) (uuid.UUID, error)) func(context.Context,
	kernel.Actor, *I) (Made, error) {
	return func(ctx context.Context, actor kernel.Actor, in *I) (Made, error) {
		id, err := handle(ctx, actor, in)
		return Made{ID: id}, err
	}
}

// guarded adds an operation of a crew. The caller must be a member whose role may
// do the action; otherwise the handler never runs.
func guarded[I any, P input[I], O any](s *Server, may kernel.Action, o operation, handle func(context.Context,
	kernel.Actor, *I) (*O, error)) {
	o.Extensions[ActionExtension] = may
	time := time.Duration(o.Extensions[timeExtension].(float64) * float64(time.Second))
	huma.Register(s.huma, o.Operation, func(ctx context.Context, in *I) (*O, error) {
		ctx, cancel := context.WithTimeout(ctx, time)
		defer cancel()
		user, err := s.signedIn(ctx)
		if err != nil {
			return nil, problem(ctx, err)
		}
		actor, err := s.app.Crew.Actor(ctx, user, P(in).crewID(), may)
		if err != nil {
			return nil, problem(ctx, err)
		}
		out, err := handle(ctx, actor, in)
		if err != nil {
			return nil, problem(ctx, err)
		}
		return out, nil
	})
}

// open adds an operation that needs no crew.
func open[I, O any](s *Server, op huma.Operation, handle func(context.Context, *I) (*O, error)) {
	op.MaxBodyBytes = 1 << 14
	huma.Register(s.huma, op, func(ctx context.Context, in *I) (*O, error) {
		out, err := handle(ctx, in)
		return out, problem(ctx, err)
	})
}
