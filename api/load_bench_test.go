package api

import (
	"bytes"
	"context"
	"encoding/json"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"slices"
	"sync"
	"testing"
	"testing/fstest"
	"time"

	"ergasia/app"
	"ergasia/app/crew"
	"ergasia/app/kernel"
	"ergasia/app/stowing"
	"ergasia/app/where"
	"ergasia/demo"
	"ergasia/store"
	"ergasia/store/storetest"

	"github.com/stretchr/testify/require"
)

// clients at work on one boat at once.
const clients = 20

// stopwatch times what the server takes for each request of a kind.
type stopwatch struct {
	sync.Mutex
	took []time.Duration
}

func (w *stopwatch) around(next http.Handler) http.Handler {
	return http.HandlerFunc(func(rw http.ResponseWriter, r *http.Request) {
		start := time.Now()
		next.ServeHTTP(rw, r)
		if r.Method == http.MethodPost && r.URL.Path != "/api/demo/session" {
			w.Lock()
			w.took = append(w.took, time.Since(start))
			w.Unlock()
		}
	})
}

func (w *stopwatch) percentile(p float64) float64 {
	slices.Sort(w.took)
	return float64(w.took[int(p*float64(len(w.took)-1))].Microseconds()) / 1000
}

// BenchmarkTwentyClients lets twenty people try and make moves on one boat,
// each asking five times a second, as one who drags a piece about does; then
// all as fast as they can. It reports milliseconds in the server, and the
// ratio of the first to a single client's in the same run.
func BenchmarkTwentyClients(b *testing.B) {
	for range b.N {
		one, _ := load(b, 1, 50, 200*time.Millisecond)
		p95, p50 := load(b, clients, 25, 200*time.Millisecond)
		hard, _ := load(b, clients, 25, 0)
		b.ReportMetric(p95, "p95-ms")
		b.ReportMetric(p50, "p50-ms")
		b.ReportMetric(hard, "p95-ms-flat-out")
		b.ReportMetric(p95/one, "p95/one-client")
	}
}

func load(b *testing.B, people, rounds int, every time.Duration) (p95, p50 float64) {
	db := storetest.New(b)
	a := app.New(db)
	ctx, cancel := context.WithCancel(context.Background())
	defer cancel()
	crew, err := demo.Load(ctx, a)
	require.NoError(b, err)
	_, handler, err := New(ctx, a, db, Config{Web: fstest.MapFS{}, Demo: &Demo{Crew: crew},
		Log: slog.New(slog.NewJSONHandler(io.Discard, nil))})
	require.NoError(b, err)
	watch := &stopwatch{}
	server := httptest.NewServer(watch.around(handler))
	defer server.Close()
	var group sync.WaitGroup
	for i := range people {
		group.Go(func() { work(b, server, i, rounds, every) })
	}
	group.Wait()
	return watch.percentile(0.95), watch.percentile(0.5)
}

// work is one client: four dry runs over places, then a move there and back.
func work(b *testing.B, server *httptest.Server, client, rounds int, every time.Duration) {
	v := (&site{Server: server, t: nil}).benchVisitor(b)
	path, bench := v.bench(b)
	gear := bench.Gear[client%len(bench.Gear)].ID
	version := 0
	for _, s := range bench.State.Stowage {
		if s.GearID == gear {
			version = s.Version
		}
	}
	for round := range rounds {
		if every > 0 {
			time.Sleep(every * time.Duration(1+client%3) / 2) // think time of the simulated person
		}
		if round%5 < 4 {
			place := bench.Places[(client+round)%len(bench.Places)].ID
			v.post(b, path+"/dry-run", map[string]any{"gear_id": gear, "place_id": place, "version": version})
			continue
		}
		var st where.State
		require.NoError(b, json.Unmarshal(v.post(b, path+"/moves", map[string]any{"gear_id": gear, "version": version}), &st))
		for _, s := range st.Stowage {
			if s.GearID == gear {
				version = s.Version
			}
		}
	}
}

type benchClient struct {
	http.Client
	address string
	cookie  *http.Cookie
}

func (s *site) benchVisitor(b *testing.B) *benchClient {
	c := &benchClient{address: s.URL}
	var session SessionView
	require.NoError(b, json.Unmarshal(c.do(b, "GET", "/api/session", nil), &session))
	i := slices.IndexFunc(session.Demo, func(m crew.MemberView) bool { return m.Role == kernel.Owner })
	c.post(b, "/api/demo/session", map[string]any{"member_id": session.Demo[i].ID})
	return c
}

func (c *benchClient) bench(b *testing.B) (string, stowing.Bench) {
	var session SessionView
	require.NoError(b, json.Unmarshal(c.do(b, "GET", "/api/session", nil), &session))
	crew := session.Crews[0]
	path := "/api/crews/" + crew.CrewID.String() + "/boats/" + crew.Boats[0].ID.String()
	var bench stowing.Bench
	require.NoError(b, json.Unmarshal(c.do(b, "GET", path+"/bench", nil), &bench))
	return path, bench
}

func (c *benchClient) post(b *testing.B, path string, body any) []byte {
	text, err := json.Marshal(body)
	require.NoError(b, err)
	return c.do(b, "POST", path, text)
}

func (c *benchClient) do(b *testing.B, method, path string, body []byte) []byte {
	req, err := http.NewRequest(method, c.address+path, bytes.NewReader(body))
	require.NoError(b, err)
	req.Header.Set("Content-Type", "application/json")
	req.Header.Set("Idempotency-Key", store.NewID().String())
	if c.cookie != nil {
		req.AddCookie(c.cookie)
	}
	resp, err := c.Do(req)
	require.NoError(b, err)
	defer func() { _ = resp.Body.Close() }()
	text, err := io.ReadAll(resp.Body)
	require.NoError(b, err)
	require.Less(b, resp.StatusCode, 300, string(text))
	if cookies := resp.Cookies(); len(cookies) > 0 {
		c.cookie = cookies[0]
	}
	return text
}
