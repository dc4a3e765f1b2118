package api

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
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

// BenchmarkAnImportBesideAnotherCrew brings 10,000 rows into one crew's list while another crew
// reads and the first one ticks, as fast as twenty people do. It reports the other crew's reads
// against those with nobody importing in the same run, and the longest tick, in milliseconds.
func BenchmarkAnImportBesideAnotherCrew(b *testing.B) {
	for range b.N {
		db := storetest.New(b)
		a := app.New(db)
		ctx, cancel := context.WithCancel(context.Background())
		crew, err := demo.Load(ctx, a)
		require.NoError(b, err)
		_, _, err = a.Crew.Found(ctx, "Another crew", "Una", "una", "a long password")
		require.NoError(b, err)
		_, handler, err := New(ctx, a, db, Config{Web: fstest.MapFS{}, Demo: &Demo{Crew: crew},
			Log: slog.New(slog.NewJSONHandler(io.Discard, nil))})
		require.NoError(b, err)
		s := &site{Server: httptest.NewServer(handler)}
		jar, err := cookiejar.New(nil) // a sign-in with a password sets two
		require.NoError(b, err)
		v, other := s.benchVisitor(b), &benchClient{Client: http.Client{Jar: jar}, address: s.URL}
		var mine, theirs SessionView
		require.NoError(b, json.Unmarshal(v.do(b, "GET", "/api/session", nil), &mine))
		other.post(b, "/api/session", map[string]string{"login": "una", "password": "a long password"})
		require.NoError(b, json.Unmarshal(other.do(b, "GET", "/api/session", nil), &theirs))
		list := "/api/crews/" + theirs.Crews[0].CrewID.String() + "/gear"
		boat := demo.Dunlin()
		var made struct{ ID string }
		require.NoError(b, json.Unmarshal(other.post(b, "/api/crews/"+theirs.Crews[0].CrewID.String()+"/boats", boat), &made))
		bench := "/api/crews/" + theirs.Crews[0].CrewID.String() + "/boats/" + made.ID + "/bench"
		read := func() time.Duration {
			began := time.Now()
			other.do(b, "GET", list, nil)
			other.do(b, "GET", bench, nil)
			return time.Since(began)
		}
		ours := "/api/crews/" + crew.String()
		tick := func() time.Duration {
			began := time.Now()
			v.post(b, ours+"/trips/"+mine.Crews[0].Trips[0].ID.String()+"/ticks",
				map[string]any{"line": "ramp:lights", "done": true, "at": time.Now().UTC()})
			return time.Since(began)
		}
		still, _ := paced(func() bool { return true }, 300, read, nil)
		v.do(b, "POST", ours+"/import", table(10_000))
		began := time.Now()
		going := func() bool {
			var now struct{ Done bool }
			require.NoError(b, json.Unmarshal(v.do(b, "GET", ours+"/import-progress", nil), &now))
			return !now.Done
		}
		meanwhile, ticks := paced(going, 2000, read, tick)
		b.ReportMetric(float64(len(meanwhile)), "reads")
		b.ReportMetric(time.Since(began).Seconds(), "import-s")
		b.ReportMetric(ms(still, 0.95), "p95-ms-before")
		b.ReportMetric(ms(meanwhile, 0.95), "p95-ms-beside")
		b.ReportMetric(ms(meanwhile, 0.95)/ms(still, 0.95), "beside/before")
		b.ReportMetric(ms(ticks, 1), "longest-tick-ms")
		s.Close()
		cancel()
	}
}

// paced does things thirty times a second while it goes on, so often at most.
func paced(going func() bool, most int, read, tick func() time.Duration) (reads, ticks []time.Duration) {
	for range most {
		if !going() {
			break
		}
		reads = append(reads, read())
		if tick != nil {
			ticks = append(ticks, tick())
		}
		time.Sleep(30 * time.Millisecond)
	}
	return reads, ticks
}

func ms(took []time.Duration, p float64) float64 { return (&stopwatch{took: took}).percentile(p) }

// table is so many rows of gear, with the words that people write.
func table(rows int) []byte {
	var text bytes.Buffer
	text.WriteString("name,kg,count,size_m,tags\n")
	for i := range rows {
		fmt.Fprintf(&text, "box of jigs number %d,%d.5,1,0.%d x 0.2 x 0.1,lure spring\n", i, 1+i%3, 20+i%9)
	}
	return text.Bytes()
}
