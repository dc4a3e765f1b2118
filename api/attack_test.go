package api

import (
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/httptrace"
	"net/url"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"ergasia/app/kernel"
	"ergasia/core/check"
	"ergasia/demo/demotest"
	"ergasia/store"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A count of two thousand millions took 22 GB once: it was noted as wrong, and then drawn.
func TestACountThatNobodyMeansTakesNoMemory(t *testing.T) {
	s := newSite(t, true)
	guest, owner := s.as("Tove"), s.as("Ilse")
	boat, _ := guest.bench()
	withinMemory(t)
	fitting := func(held string) string {
		return `{"fitting":{"name":"X","kind":"cleat","kg":1,"mass_known":"guess","look":{},"parts":[],
			"lies":{"at_m":[1,0,0.5],"size_m":[0.1,0.1,0.1],"stands":"up"},"held":{"method":"bolts",` + held + `}}}`
	}
	for name, held := range map[string]string{
		"screws": `"foot_mm":[50,50],"count":2147483647`,
		"a foot": `"foot_mm":[1e300,1e300],"count":4`,
		"a hole": `"foot_mm":[50,50],"count":4,"cut_mm":[1e15,1e15],"corner_mm":1e-15`,
	} {
		resp, text := guest.send("POST", boat+"/rigging/try", fitting(held))
		assert.Equal(t, 422, resp.StatusCode, "%s: %.200s", name, text)
		mount := strings.Replace(fitting(held), `{"fitting":`, `{"fittings":[`, 1)
		resp, text = owner.send("POST", boat+"/fittings", mount[:len(mount)-1]+"]}", "Idempotency-Key", store.NewID().String())
		assert.Equal(t, 422, resp.StatusCode, "%s: %.200s", name, text)
	}
}

// Every number that anyone may send has bounds in the schema, whoever adds an operation.
func TestEveryNumberOfEveryInputIsBounded(t *testing.T) {
	text, err := Spec()
	require.NoError(t, err)
	var doc struct {
		Paths      map[string]map[string]fuzzed
		Components struct{ Schemas map[string]*schema }
	}
	require.NoError(t, json.Unmarshal(text, &doc))
	numbers := 0
	var look func(where string, s *schema, deep int)
	look = func(where string, s *schema, deep int) {
		if s == nil || deep > 12 {
			return
		}
		if s.Ref != "" {
			look(where, doc.Components.Schemas[strings.TrimPrefix(s.Ref, "#/components/schemas/")], deep+1)
			return
		}
		if kind := fmt.Sprint(s.Type); strings.Contains(kind, "number") || strings.Contains(kind, "integer") {
			numbers++
			assert.NotNil(t, s.Minimum, "%s has no least", where)
			assert.NotNil(t, s.Maximum, "%s has no most", where)
		}
		look(where, s.Items, deep+1)
		for name, p := range s.Properties {
			look(where+"."+name, p, deep+1)
		}
	}
	for _, methods := range doc.Paths {
		for _, op := range methods {
			for _, p := range op.Parameters {
				look(op.ID+"?"+p.Name, p.Schema, 0)
			}
			if op.Body != nil {
				for _, c := range op.Body.Content {
					look(op.ID, c.Schema, 0)
				}
			}
		}
	}
	assert.Greater(t, numbers, 300)
}

func TestFaultsOfOneInputAreToldToAnEnd(t *testing.T) {
	var fs check.Faults
	for i := range 1_000_000 {
		fs.Add("x", i, "is wrong")
	}
	assert.LessOrEqual(t, len(fs), 200)
}

// A body's deadline stayed on its connection once: what took longer than five seconds was
// told that it was taken back, and so was every later request on the connection.
func TestAWriteWaitsItsTurnAndTheConnectionGoesOn(t *testing.T) {
	t.Parallel()
	s := newSite(t, true)
	v := s.as("Ilse")
	_, b := v.bench()
	members, err := s.app.Crew.Members(t.Context(), kernel.Actor{Crew: s.crew})
	require.NoError(t, err)
	held, free := make(chan struct{}), make(chan error)
	go func() {
		free <- s.app.Kernel.Write(context.Background(), kernel.Actor{Crew: s.crew, Member: members[0].ID}, func(*store.Tx) error {
			close(held)
			time.Sleep(8 * time.Second)
			return nil
		})
	}()
	<-held
	note := func(text string) (*http.Response, bool) {
		reused := false
		trace := &httptrace.ClientTrace{GotConn: func(c httptrace.GotConnInfo) { reused = c.Reused }}
		req, err := http.NewRequestWithContext(httptrace.WithClientTrace(t.Context(), trace), "POST",
			s.URL+"/api/crews/"+s.crew.String()+"/gear/"+b.Gear[0].ID.String()+"/notes", strings.NewReader(`{"kind":"note","text":"`+text+`"}`))
		require.NoError(t, err)
		req.Header.Set("Content-Type", "application/json")
		req.Header.Set("Sec-Fetch-Site", "same-origin")
		req.Header.Set("Idempotency-Key", store.NewID().String())
		resp, err := v.Do(req)
		require.NoError(t, err)
		_, _ = io.Copy(io.Discard, resp.Body) // or the connection is not used again
		_ = resp.Body.Close()
		return resp, reused
	}
	resp, _ := note("after eight seconds")
	assert.Equal(t, 204, resp.StatusCode)
	require.NoError(t, <-free)
	used := 0
	for range 6 { // a client that is busy opens another now and then
		resp, reused := note("and again")
		assert.Equal(t, 204, resp.StatusCode, "the connection serves on")
		if reused {
			used++
		}
	}
	assert.Positive(t, used)
}

// Twenty who write in one crew held every connection once, and all the others waited.
func TestOneCrewsWritersLeaveOtherCrewsTheirConnections(t *testing.T) {
	t.Parallel()
	s := newSite(t, true)
	v := s.as("Ilse")
	_, b := v.bench()
	_, _, err := s.app.Crew.Found(t.Context(), "Another crew", "Una", "una", "a long password")
	require.NoError(t, err)
	other := s.visitor()
	resp, _ := other.send("POST", "/api/session", map[string]string{"login": "una", "password": "a long password"})
	require.Equal(t, 204, resp.StatusCode)
	var session SessionView
	other.get("/api/session", &session)
	members, err := s.app.Crew.Members(t.Context(), kernel.Actor{Crew: s.crew})
	require.NoError(t, err)
	held, let, free := make(chan struct{}), make(chan struct{}), make(chan error)
	go func() {
		free <- s.app.Kernel.Write(context.Background(), kernel.Actor{Crew: s.crew, Member: members[0].ID}, func(*store.Tx) error {
			close(held)
			<-let
			return nil
		})
	}()
	<-held
	path := "/api/crews/" + s.crew.String() + "/gear/" + b.Gear[0].ID.String() + "/notes"
	waiting := make(chan int)
	const writers = 20 // more than there are connections
	for range writers {
		go func() {
			resp, _ := v.send("POST", path, map[string]string{"kind": "note", "text": "waits"}, "Idempotency-Key", store.NewID().String())
			waiting <- resp.StatusCode
		}()
	}
	own := 0
	for range 20 {
		resp, text := other.send("GET", "/api/crews/"+session.Crews[0].CrewID.String()+"/gear", nil)
		assert.Equal(t, 200, resp.StatusCode, string(text))
		resp, _ = v.send("GET", "/api/crews/"+s.crew.String()+"/kits", nil)
		own += resp.StatusCode / 200
	}
	assert.Equal(t, 20, own, "and the crew itself reads on")
	close(let)
	require.NoError(t, <-free)
	for range writers {
		assert.Equal(t, 204, <-waiting, "and all is written in the end")
	}
}

// Who waits too long for the crew's turn is told when to come back.
func TestAWriteThatWaitsTooLongIsToldWhenToComeBack(t *testing.T) {
	t.Parallel()
	s := newSite(t, true)
	v := s.as("Ilse")
	_, b := v.bench()
	members, err := s.app.Crew.Members(t.Context(), kernel.Actor{Crew: s.crew})
	require.NoError(t, err)
	held, let, free := make(chan struct{}), make(chan struct{}), make(chan error)
	go func() {
		free <- s.app.Kernel.Write(context.Background(), kernel.Actor{Crew: s.crew, Member: members[0].ID}, func(*store.Tx) error {
			close(held)
			<-let
			return nil
		})
	}()
	<-held
	path := "/api/crews/" + s.crew.String() + "/gear/" + b.Gear[0].ID.String() + "/notes"
	resp, text := v.send("POST", path, map[string]string{"kind": "note", "text": "waits"}, "Idempotency-Key", store.NewID().String())
	assert.Equal(t, 503, resp.StatusCode, string(text))
	assert.Equal(t, comeBack, resp.Header.Get("Retry-After"))
	assert.Contains(t, problemOf(t, text).Detail, "Nothing of this was saved yet")
	tick := "/api/crews/" + s.crew.String() + "/trips/" + tripOf(v).String() + "/ticks"
	resp, text = v.send("POST", tick, map[string]any{"line": "ramp:lights", "done": true, "at": time.Now().UTC()},
		"Idempotency-Key", store.NewID().String())
	assert.Equal(t, 204, resp.StatusCode, "a tick waits for nobody: %s", text)
	close(let)
	require.NoError(t, <-free)
}

func tripOf(v *visitor) uuid.UUID {
	var session SessionView
	v.get("/api/session", &session)
	return session.Crews[0].Trips[0].ID
}

// Whose session was ended is signed out: a page that is told that there is no such crew
// would throw away what waits in it.
func TestASessionThatEndedIsSignedOut(t *testing.T) {
	s := newSite(t, true)
	owner, hand := s.as("Ilse"), s.as("Sune")
	_, b := owner.bench()
	var gone uuid.UUID
	version := 0
	for _, m := range b.Members {
		if m.Name == "Sune" {
			gone, version = m.ID, m.Version
		}
	}
	resp, text := owner.send("POST", "/api/crews/"+s.crew.String()+"/members/"+gone.String()+"/leaving",
		map[string]any{"version": version, "gear": "crew"}, "Idempotency-Key", store.NewID().String())
	require.Less(t, resp.StatusCode, 300, string(text))
	resp, text = hand.send("GET", "/api/crews/"+s.crew.String()+"/gear", nil)
	assert.Equal(t, 401, resp.StatusCode, string(text))
}

// What the database can't do now is told as that, with when to come back, and never as a fault
// of ours: its connections cut, its disk full.
func TestADatabaseThatCannotServeNowIsToldAsThat(t *testing.T) {
	t.Parallel()
	loaded, db, ours := demotest.New(t)
	s := siteOn(t, loaded, db, ours, true)
	v := s.as("Ilse")
	_, b := v.bench()
	crew := "/api/crews/" + s.crew.String()
	note := crew + "/gear/" + b.Gear[0].ID.String() + "/notes"
	var name string
	require.NoError(t, db.SQL().QueryRow("SELECT current_database()").Scan(&name))
	admin, err := sql.Open("pgx", os.Getenv("TEST_DATABASE_URL"))
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, admin.Close()) })

	served := func(method, path string, body any, key string) int {
		resp, text := v.send(method, path, body, "Idempotency-Key", key)
		if resp.StatusCode == http.StatusServiceUnavailable {
			assert.Equal(t, comeBack, resp.Header.Get("Retry-After"))
			assert.NotContains(t, string(text), "broke")
			return resp.StatusCode
		}
		assert.Less(t, resp.StatusCode, 300, string(text))
		return resp.StatusCode
	}
	stop, cut := make(chan struct{}), make(chan struct{})
	go func() { // someone pulls the cable, again and again
		defer close(cut)
		for {
			select {
			case <-stop:
				return
			case <-time.After(80 * time.Millisecond):
				_, _ = admin.Exec("SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = $1", name)
			}
		}
	}()
	var away int
	for i := range 30 {
		if served("GET", crew+"/gear", nil, "") == http.StatusServiceUnavailable {
			away++
		}
		key := store.NewID().String()
		for range 200 { // repeated as the page does: it is noted once
			if served("POST", note, map[string]string{"kind": "note", "text": fmt.Sprintf("cut %d", i)}, key) < 300 {
				break
			}
			away++
		}
	}
	close(stop)
	<-cut
	assert.Positive(t, away, "some of it was cut")
	var notes int
	owner, err := sql.Open("pgx", withDatabase(t, name))
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, owner.Close()) })
	require.NoError(t, owner.QueryRow("SELECT count(*) FROM gear_note WHERE text LIKE 'cut %'").Scan(&notes))
	assert.Equal(t, 30, notes, "each note once, however often it was cut and sent again")

	_, err = owner.Exec(`CREATE FUNCTION full_disk() RETURNS trigger LANGUAGE plpgsql AS
		$$ BEGIN RAISE EXCEPTION 'could not extend file' USING ERRCODE = '53100'; END $$;
		CREATE TRIGGER full_disk BEFORE INSERT ON gear_note EXECUTE FUNCTION full_disk()`)
	require.NoError(t, err)
	assert.Equal(t, 503, served("POST", note, map[string]string{"kind": "note", "text": "full"}, store.NewID().String()))
	_, err = owner.Exec("DROP TRIGGER full_disk ON gear_note")
	require.NoError(t, err)
	assert.Less(t, served("POST", note, map[string]string{"kind": "note", "text": "room"}, store.NewID().String()), 300)
}

// withDatabase is the address of a test's database for who may do anything in it.
func withDatabase(t *testing.T, name string) string {
	u, err := url.Parse(os.Getenv("TEST_DATABASE_URL"))
	require.NoError(t, err)
	u.Path = "/" + name
	return u.String()
}

// already are removals after which it is as asked, whether there was one or not: links are ended, a drill's
// tries forgotten, a session signed out.
var already = []string{"end-boat-link", "end-guest-link", "forget-drill", "sign-out"}

// Removing what is not there is told, not passed over: another may have meant another thing.
func TestRemovingWhatIsNotThereIsTold(t *testing.T) {
	t.Parallel()
	s := newSite(t, true)
	v := s.as("Ilse")
	boat, b := v.bench()
	known := map[string]string{"crew": s.crew.String(), "boat": strings.Split(boat, "/")[5], "gear": b.Gear[0].ID.String(),
		"trip": tripOf(v).String()}
	for _, name := range []string{"fitting", "job"} {
		known[name] = found(v, boat+map[string]string{"fitting": "/rigging", "job": "/jobs"}[name])[0]
	}
	known["paper"] = found(v, "/api/crews/"+s.crew.String()+"/papers")[0]
	text, err := Spec()
	require.NoError(t, err)
	var doc struct{ Paths map[string]map[string]fuzzed }
	require.NoError(t, json.Unmarshal(text, &doc))
	n := 0
	for path, methods := range doc.Paths {
		op, removes := methods["delete"]
		if !removes || slices.Contains(already, op.ID) {
			continue
		}
		at := path[:strings.LastIndex(path, "/")]
		for name, id := range known {
			at = strings.ReplaceAll(at, "{"+name+"}", id)
		}
		require.NotContains(t, at, "{", path)
		resp, text := v.send("DELETE", at+"/"+store.NewID().String(), nil)
		assert.Equal(t, 404, resp.StatusCode, "%s: %s", op.ID, text)
		n++
	}
	assert.Greater(t, n, 15)
}
