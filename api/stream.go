package api

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"strings"
	"time"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/store"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
)

// How long a stream lasts before the browser asks anew, and is authorised anew; how often
// it says that it is alive, so that a proxy does not end it. Practice, no source.
const (
	streamTime = 10 * time.Minute
	heartbeat  = 15 * time.Second
)

// streams end with this part of their address.
const streamPath = "/live"

// timeOf a request: a stream lasts longer than any other.
func timeOf(r *http.Request) time.Duration {
	if strings.HasSuffix(r.URL.Path, streamPath) {
		return streamTime
	}
	return longestTime
}

// stream adds an operation that tells what happens on a topic, as server-sent events: data
// is what was told; an event "again" says that something may have been missed. The caller
// must be a member whose role may do the action.
func stream[I any, P input[I]](s *Server, may kernel.Action, o operation,
	topic func(context.Context, kernel.Actor, *I) (string, error)) {
	o.Method = http.MethodGet
	o.Extensions[ActionExtension] = may
	o.Extensions[timeExtension] = streamTime.Seconds()
	o.Responses = map[string]*huma.Response{"200": {Description: "OK", Content: map[string]*huma.MediaType{
		"text/event-stream": {Schema: &huma.Schema{Type: "string"}}}}}
	huma.Register(s.huma, o.Operation, func(ctx context.Context, in *I) (*huma.StreamResponse, error) {
		user, err := s.signedIn(ctx)
		if err != nil {
			return nil, problem(ctx, err)
		}
		actor, err := s.app.Crew.Actor(ctx, user, P(in).crewID(), may)
		if err != nil {
			return nil, problem(ctx, err)
		}
		about, err := topic(ctx, actor, in)
		if err != nil {
			return nil, problem(ctx, err)
		}
		messages, gone, stop, err := s.live.Listen(about, store.Listener{Crew: actor.Crew, Member: actor.Member})
		if errors.Is(err, store.ErrCrowded) {
			return nil, problem(
				ctx,
				&refuse.Error{Kind: refuse.TooMany, Sentence: "Too many are looking at once: try again in a moment."},
			)
		}
		return &huma.StreamResponse{Body: func(c huma.Context) {
			defer stop()
			s.tell(c, messages, gone)
		}}, problem(ctx, err)
	})
}

// tell writes messages as they come, until the caller goes or the time is over.
func (s *Server) tell(c huma.Context, messages <-chan store.Message, gone <-chan struct{}) {
	g := humagin.Unwrap(c)
	g.Header("Content-Type", "text/event-stream")
	g.Header("X-Accel-Buffering", "no")
	g.Status(http.StatusOK)
	out := http.NewResponseController(g.Writer)
	write := func(text string) bool {
		_ = out.SetWriteDeadline(time.Now().Add(heartbeat))
		_, err := g.Writer.WriteString(text)
		return err == nil && out.Flush() == nil
	}
	beat := time.NewTicker(heartbeat)
	defer beat.Stop()
	for ok := write("event: open\ndata: {}\n\n"); ok; {
		select {
		case m := <-messages:
			if m.Text == "" {
				ok = write("event: again\ndata: {}\n\n")
			} else {
				ok = write(fmt.Sprintf("data: %s\n\n", m.Text))
			}
		case <-beat.C:
			ok = write(": alive\n\n")
		case <-g.Request.Context().Done():
			return
		case <-gone: // the caller is in this crew no more
			return
		case <-s.ending:
			return
		}
	}
}
