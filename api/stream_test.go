package api

import (
	"bufio"
	"context"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The stream of a trip is the crew's alone, and ends when who listens goes.
func TestAStreamIsAuthorisedAndOpens(t *testing.T) {
	s := newSite(t, true)
	guest := s.as("Tove")
	var session SessionView
	guest.get("/api/session", &session)
	path := "/api/crews/" + s.crew.String() + "/trips/" + session.Crews[0].Trips[0].ID.String() + "/live"

	resp, _ := s.visitor().send("GET", path, nil)
	assert.Equal(t, 401, resp.StatusCode)
	_, _, err := s.app.Crew.Found(context.Background(), "Another crew", "Una", "una", "a long password")
	require.NoError(t, err)
	stranger := s.visitor()
	resp, _ = stranger.send("POST", "/api/session", map[string]string{"login": "una", "password": "a long password"})
	require.Equal(t, 204, resp.StatusCode)
	resp, _ = stranger.send("GET", path, nil)
	assert.Equal(t, 404, resp.StatusCode)

	ctx, leave := context.WithTimeout(t.Context(), 20*time.Second)
	defer leave()
	req, err := http.NewRequestWithContext(ctx, "GET", s.URL+path, nil)
	require.NoError(t, err)
	req.Header.Set("Accept", "text/event-stream")
	resp, err = guest.Do(req)
	require.NoError(t, err)
	defer func() { _ = resp.Body.Close() }()
	require.Equal(t, 200, resp.StatusCode)
	assert.Equal(t, "text/event-stream", resp.Header.Get("Content-Type"))
	line, err := bufio.NewReader(resp.Body).ReadString('\n')
	require.NoError(t, err)
	assert.Equal(t, "event: open", strings.TrimSpace(line))
	leave()
}
