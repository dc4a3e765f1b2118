package api

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"os"
	"regexp"
	"slices"
	"strings"
	"testing"
	"testing/fstest"

	"ergasia/app"
	"ergasia/app/aboard"
	"ergasia/app/crew"
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/stowing"
	"ergasia/demo"
	"ergasia/demo/demotest"
	"ergasia/store"
	"ergasia/store/model"
	"ergasia/store/storetest"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// site is a server on the demo's data, with its log.
type site struct {
	*httptest.Server
	t    *testing.T
	app  *app.App
	crew uuid.UUID
	log  *bytes.Buffer
}

func newSite(t *testing.T, demoMode bool) *site {
	loaded, db, ours := demotest.New(t)
	return siteOn(t, loaded, db, ours, demoMode)
}

// siteOn is a server on a database that a test has in hand.
func siteOn(t *testing.T, loaded *app.App, db *store.DB, ours uuid.UUID, demoMode bool) *site {
	s := &site{t: t, app: loaded, crew: ours, log: &bytes.Buffer{}}
	ctx, cancel := context.WithCancel(context.Background())
	t.Cleanup(cancel)
	log := slog.New(LogHandler{Handler: slog.NewJSONHandler(s.log, nil)})
	config := Config{Web: fstest.MapFS{"index.html": {Data: []byte("<html>")}, "assets/a.js": {Data: []byte("1")}},
		Log: log, MetricsToken: "metrics-token"}
	if demoMode {
		config.Demo = &Demo{Crew: s.crew}
	}
	_, handler, err := New(ctx, s.app, db, config)
	require.NoError(t, err)
	s.Server = httptest.NewServer(handler)
	t.Cleanup(s.Close)
	return s
}

// visitor is a browser: it keeps cookies and sends what a page of ours sends.
type visitor struct {
	*http.Client
	site *site
}

func (s *site) visitor() *visitor {
	jar, err := cookiejar.New(nil)
	require.NoError(s.t, err)
	return &visitor{Client: &http.Client{Jar: jar}, site: s}
}

func (v *visitor) send(method, path string, body any, headers ...string) (*http.Response, []byte) {
	var in io.Reader
	switch b := body.(type) {
	case nil:
	case string:
		in = strings.NewReader(b)
	default:
		text, err := json.Marshal(b)
		require.NoError(v.site.t, err)
		in = bytes.NewReader(text)
	}
	req, err := http.NewRequest(method, v.site.URL+path, in)
	require.NoError(v.site.t, err)
	req.Header.Set("Content-Type", "application/json")
	req.Header.Set("Sec-Fetch-Site", "same-origin")
	for i := 0; i+1 < len(headers); i += 2 {
		req.Header.Set(headers[i], headers[i+1])
	}
	resp, err := v.Do(req)
	require.NoError(v.site.t, err)
	defer func() { _ = resp.Body.Close() }()
	text, err := io.ReadAll(resp.Body)
	require.NoError(v.site.t, err)
	return resp, text
}

func (v *visitor) get(path string, into any) {
	resp, text := v.send("GET", path, nil)
	require.Equal(v.site.t, 200, resp.StatusCode, "%s: %s", path, text)
	require.NoError(v.site.t, json.Unmarshal(text, into))
}

// as signs in as one of the demo's people.
func (s *site) as(name string) *visitor {
	v := s.visitor()
	members, err := s.app.Crew.Members(context.Background(), kernel.Actor{Crew: s.crew})
	require.NoError(s.t, err)
	i := slices.IndexFunc(members, func(m crew.MemberView) bool { return m.Name == name })
	resp, text := v.send("POST", "/api/demo/session", map[string]any{"member_id": members[i].ID})
	require.Equal(s.t, 204, resp.StatusCode, string(text))
	return v
}

func (v *visitor) bench() (path string, b stowing.Bench) {
	var session SessionView
	v.get("/api/session", &session)
	c := session.Crews[0]
	path = "/api/crews/" + c.CrewID.String() + "/boats/" + c.Boats[0].ID.String()
	v.get(path+"/bench", &b)
	return path, b
}

func problemOf(t *testing.T, text []byte) Problem {
	var p Problem
	require.NoError(t, json.Unmarshal(text, &p), string(text))
	return p
}

func TestTheCommittedOpenAPIIsCurrent(t *testing.T) {
	want, err := Spec()
	require.NoError(t, err)
	got, err := os.ReadFile("openapi.json")
	require.NoError(t, err)
	assert.Equal(
		t,
		string(want),
		string(got),
		"run: bin/ergasia openapi > api/openapi.json, then npm run types in web/",
	)
	assert.Contains(t, string(got), `"openapi": "3.1.0"`)
}

type described struct {
	ID         string           `json:"operationId"`
	Action     kernel.Action    `json:"x-action"`
	Parameters []map[string]any `json:"parameters"`
}

func operations(t *testing.T) map[string]map[string]described {
	text, err := Spec()
	require.NoError(t, err)
	var doc struct {
		Paths map[string]map[string]described
	}
	require.NoError(t, json.Unmarshal(text, &doc))
	return doc.Paths
}

var inPath = regexp.MustCompile(`\{(\w+)\}`)

func TestEveryPathParameterIsRead(t *testing.T) {
	for path, methods := range operations(t) {
		for method, op := range methods {
			for _, m := range inPath.FindAllStringSubmatch(path, -1) {
				assert.True(t, slices.ContainsFunc(op.Parameters, func(p map[string]any) bool {
					return p["name"] == m[1] &&
						p["in"] == "path"
				}),
					"%s %s does not read %s", method, path, m[1])
			}
		}
	}
}

// Every operation of a crew is called as every role, as a stranger and signed
// out, with ids that are nobody's: a role that may is told about the input or
// the id, any other that it may not.
func TestEveryOperationIsAuthorisedByCrewAndRole(t *testing.T) {
	s := newSite(t, true)
	visitors := map[kernel.Role]*visitor{kernel.Owner: s.as("Ilse"), kernel.Skipper: s.as("Oskar"),
		kernel.Hand: s.as("Sune"), kernel.Guest: s.as("Tove")}
	stranger := s.visitor()
	other, otherOwner, err := s.app.Crew.Found(context.Background(), "Another crew", "Una", "una", "a long password")
	require.NoError(t, err)
	require.NotEqual(t, uuid.Nil, otherOwner)
	resp, _ := stranger.send("POST", "/api/session", map[string]string{"login": "una", "password": "a long password"})
	require.Equal(t, 204, resp.StatusCode)
	checked := 0
	for path, methods := range operations(t) {
		if !strings.Contains(path, "{crew}") {
			continue
		}
		address := inPath.ReplaceAllStringFunc(path, func(name string) string {
			if name == "{crew}" {
				return s.crew.String()
			}
			return store.NewID().String()
		})
		for method, op := range methods {
			require.NotEmpty(t, op.Action, "%s %s names no action", method, path)
			body := map[string]any{}
			if method == "get" || method == "delete" {
				body = nil
			}
			call := func(v *visitor) int {
				resp, _ := v.send(strings.ToUpper(method), address, legal(op.ID, body))
				return resp.StatusCode
			}
			for role, v := range visitors {
				got := call(v)
				if kernel.Allowed(role, op.Action) {
					assert.NotContains(t, []int{401, 403, 500}, got, "%s as %s", op.ID, role)
				} else {
					assert.Equal(t, 403, got, "%s as %s", op.ID, role)
				}
				checked++
			}
			assert.Equal(t, 404, call(stranger), "%s as a stranger", op.ID)
			assert.Equal(t, 401, call(s.visitor()), "%s signed out", op.ID)
		}
	}
	assert.Greater(t, checked, 60)
	assert.NotEqual(t, s.crew, other)
}

// dayPlan is the least day that there is.
var dayPlan = map[string]any{
	"phases":   []any{map[string]any{"kind": "fish", "name": "fish", "h": 1}},
	"fixed":    0,
	"at_min":   360,
	"zone_min": 0,
	"air_c":    10,
	"water_c":  10,
}

// legal fills a body so that huma lets it through to the authorisation.
func legal(operation string, body map[string]any) any {
	if body == nil {
		return nil
	}
	member := map[string]any{"name": "X", "mark": "X", "kg": 80, "mass_known": "guess", "version": 99}
	gear := map[string]any{"name": "X", "size_m": []float64{.1, .1, .1}, "kg": 1, "mass_known": "guess", "count": 1,
		"needs_dry": false, "turn": "any"}
	place := map[string]any{"name": "X", "corner_m": []float64{0, 0, 0}, "size_m": []float64{.1, .1, .1},
		"opening_m": []float64{0, 0}, "dryness": "dry", "max_kg": 0}
	shed := map[string]any{"site": "X", "name": store.NewID().String(), "size_m": []float64{0, 0, 0}, "dryness": "dry",
		"max_kg": 0, "locks": false}
	kit := map[string]any{"name": store.NewID().String(), "sort": "use",
		"lines": []any{map[string]any{"what": "X", "amount": 1, "per": "boat", "nice": false,
			"choices": []any{map[string]any{"tag": "x"}}}}}
	trip := map[string]any{"name": "X", "starts_on": "2027-01-01", "ends_on": "2027-01-02", "persons": 2, "rods": 4,
		"hours": 3}
	boat := map[string]any{}
	text, _ := json.Marshal(demo.Dunlin())
	_ = json.Unmarshal(text, &boat)
	boat["name"] = store.NewID().String()
	with := func(m map[string]any, key string, value any) map[string]any { m[key] = value; return m }
	without := func(m map[string]any, key string) map[string]any { delete(m, key); return m }
	fitting := map[string]any{
		"name":       store.NewID().String(),
		"kind":       "cleat",
		"kg":         1,
		"mass_known": "guess",
		"look":       map[string]any{},
		"lies":       map[string]any{"at_m": []float64{1, 0, 0.5}, "size_m": []float64{.1, .1, .1}, "stands": "up"},
		"held":       map[string]any{"method": "clamp", "foot_mm": []float64{50, 50}},
		"parts":      []any{},
	}
	switch operation {
	case "set-carriage", "set-trip-rules", "set-brief":
		return map[string]any{"version": 99}
	case "try-power":
		return map[string]any{"banks": []any{}, "parts": []any{}, "circuits": []any{}}
	case "set-power":
		return map[string]any{"banks": []any{}, "parts": []any{}, "circuits": []any{}, "version": 99}
	case "choose-packs":
		return map[string]any{"country": "", "packs": []any{}, "version": 99}
	case "print-brief":
		return map[string]any{"link": "https://x.example/aboard"}
	case "add-pack":
		return map[string]any{"pack": "{}"}
	case "change-pack":
		return map[string]any{"pack": "{}", "version": 99}
	case "add-paper":
		return map[string]any{"name": "X", "kind": "licence"}
	case "change-paper":
		return map[string]any{"name": "X", "kind": "licence", "version": 99}
	case "tick":
		return map[string]any{"line": "X", "done": true, "at": "2027-01-01T10:00:00Z"}
	case "assign-line":
		return map[string]any{"line": "X"}
	case "add-list-line":
		return map[string]any{"stage": "load", "text": "X", "holds": false}
	case "change-list-line":
		return map[string]any{"stage": "load", "text": "X", "holds": false, "version": 99}
	case "report-job":
		return map[string]any{"kind": "defect", "what": "X", "holds": false}
	case "change-job":
		return map[string]any{"state": "done", "holds": false, "version": 99}
	case "tried-drill":
		return map[string]any{"name": "X", "gear_id": store.NewID(), "seconds": 3, "found": true, "wrong": []any{}}
	case "read-fittings":
		return map[string]any{"text": "cleat"}
	case "try-fitting":
		return map[string]any{"fitting": fitting}
	case "mount":
		return map[string]any{"fittings": []any{fitting}}
	case "change-fitting":
		return with(fitting, "version", 1)
	case "did-fitting", "set-rigging":
		return map[string]any{"version": 1}
	case "dock-fitting":
		return map[string]any{"version": 1, "on": true}
	case "add-rig-set":
		return map[string]any{"name": "X", "lines": []any{}}
	case "change-rig-set":
		return map[string]any{"name": "X", "lines": []any{}, "version": 1}
	case "change-member":
		return member
	case "invite":
		return with(without(member, "version"), "role", "guest")
	case "give-role":
		return map[string]any{"role": "guest", "version": 99}
	case "part-with-member":
		return map[string]any{"gear": "crew", "version": 99}
	case "choose-settings":
		return map[string]any{"units": "metric", "theme": "paper"}
	case "add-boat":
		return boat
	case "change-boat":
		return with(boat, "version", 99)
	case "add-place":
		return place
	case "change-place":
		return with(place, "version", 99)
	case "add-post":
		return map[string]any{"name": "X", "at_m": []float64{0, 0, 0}}
	case "change-post":
		return map[string]any{"name": "X", "at_m": []float64{0, 0, 0}, "version": 99}
	case "add-gear":
		return gear
	case "change-gear":
		return with(gear, "version", 99)
	case "preview-hull":
		return map[string]any{"hull": boat["hull"], "water_density_kg_m3": 1025}
	case "read-offsets":
		return map[string]any{"csv": "station,x_m,y_m,z_m\n1,0,0,0\n1,0,1,0.5\n2,4,0,0\n2,4,1,0.5\n",
			"water_density_kg_m3": 1025}
	case "try-check", "keep-check":
		return map[string]any{"float": map[string]any{"readings": []any{}, "step_m": 0.005, "ripple_m": 0}}
	case "accept-check":
		return map[string]any{"kind": "hull", "version": 1}
	case "set-trailer":
		trailer := map[string]any{}
		text, _ := json.Marshal(model.TrailerInput{Kg: 200, Axle: 1.5, Hitch: 6, School: "boat"})
		_ = json.Unmarshal(text, &trailer)
		return with(trailer, "version", 1)
	case "ride":
		return map[string]any{"rides": "car"}
	case "lay-out":
		return map[string]any{"layout": "console"}
	case "add-photo", "add-gear-photo", "add-trip-photo", "add-fitting-photo", "add-paper-photo", "add-job-photo":
		return "not a picture"
	case "split-gear":
		return map[string]any{"version": 1, "count": 1}
	case "change-many":
		return map[string]any{"gear": []any{store.NewID()}, "add_tag": "x"}
	case "put-gear":
		return map[string]any{"version": 0}
	case "move-many":
		return map[string]any{"gear": []any{map[string]any{"gear_id": store.NewID(), "version": 0}}}
	case "keep-arrangement":
		return map[string]any{"name": store.NewID().String()}
	case "change-arrangement":
		return map[string]any{"name": "X", "version": 99}
	case "note-gear":
		return map[string]any{"kind": "seen"}
	case "add-lines":
		return map[string]any{"text": "tray", "add": false}
	case "copy-from-boat":
		return map[string]any{"gear": []any{store.NewID()}}
	case "preview-import", "import-gear":
		return "name\nnet\n"
	case "add-shed":
		return shed
	case "change-shed":
		return with(shed, "version", 99)
	case "add-kit":
		return kit
	case "change-kit":
		return with(kit, "version", 99)
	case "add-trip":
		return trip
	case "change-trip":
		return with(trip, "version", 99)
	case "save-fuel":
		return map[string]any{"plan": map[string]any{"legs": []any{}, "school": "thirds"}, "version": 99}
	case "try-fuel":
		return map[string]any{"plan": map[string]any{"legs": []any{}, "school": "thirds"}}
	case "save-day":
		return map[string]any{"plan": dayPlan, "version": 99}
	case "try-day", "day-remedies":
		return map[string]any{"plan": dayPlan}
	case "save-party":
		return map[string]any{"people": []any{}, "version": 99}
	case "leave-ashore":
		return map[string]any{"gear": []any{}, "version": 99}
	case "settle-stage":
		return map[string]any{"stage": "who", "settled": true}
	case "add-fish":
		return map[string]any{"species": "cod", "length_m": 0.5}
	case "put-back":
		return map[string]any{"back": true}
	case "set-species":
		return map[string]any{"species": []any{}}
	case "stow-for-trip":
		return map[string]any{"school": "use"}
	case "accept-line":
		return map[string]any{"key": "x", "said": "x", "accepted": true}
	case "copy-trip":
		return map[string]any{"name": "X", "starts_on": "2027-02-01"}
	case "read-track":
		return "<gpx></gpx>"
	case "set-rates":
		return map[string]any{"rates": []any{}, "version": 99}
	case "log-trip":
		return map[string]any{"version": 99, "hours": 1}
	case "promise-gear":
		return map[string]any{"gear": []any{store.NewID()}}
	case "lend-gear":
		return map[string]any{"way": "lent", "whom": "Bo"}
	case "add-service":
		return map[string]any{
			"what":        "oil",
			"every_days":  0,
			"every_hours": 100,
			"every_trips": 0,
			"last_on":     "2026-01-01",
		}
	case "done-service":
		return map[string]any{"version": 99}
	case "print-labels":
		return map[string]any{"sheet": "a4-21", "gear": []any{store.NewID()}, "address": "http://127.0.0.1:8080"}
	case "hang-on-scale":
		return map[string]any{}
	case "weigh-gear":
		return map[string]any{"version": 99, "kg": 1}
	case "plan-stowage":
		return map[string]any{"school": "use"}
	case "accept-plan":
		return map[string]any{"moves": []any{map[string]any{"gear_id": store.NewID(), "version": 0}}}
	case "set-times":
		return crew.UsualTimes()
	case "move", "try-move":
		return map[string]any{"gear_id": store.NewID(), "version": 0}
	}
	return nil
}

func TestAMoveOverHTTPIsKeptAndRepeatable(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Ilse")
	path, b := v.bench()
	place := b.Places[slices.IndexFunc(b.Places,
		func(p stowing.PlaceView) bool { return p.Name == "console front seat" })].ID
	gear := b.Gear[slices.IndexFunc(b.Gear, func(g gear.GearView) bool { return g.Name == "cooler 40 L, iced" })].ID
	version := b.State.Stowage[slices.IndexFunc(b.State.Stowage,
		func(x aboard.Stowed) bool { return x.GearID == gear })].Version
	move := map[string]any{"gear_id": gear, "place_id": place, "version": version}
	key := store.NewID().String()
	resp, first := v.send("POST", path+"/moves", move, "Idempotency-Key", key)
	require.Equal(t, 200, resp.StatusCode, string(first))
	resp, again := v.send("POST", path+"/moves", move, "Idempotency-Key", key)
	require.Equal(t, 200, resp.StatusCode)
	assert.JSONEq(t, string(first), string(again))
	resp, text := v.send("POST", path+"/moves", move, "Idempotency-Key", store.NewID().String())
	assert.Equal(t, 409, resp.StatusCode)
	p := problemOf(t, text)
	assert.Contains(t, p.Detail, "moved it meanwhile")
	assert.NotNil(t, p.State, "with the present state")
	assert.Equal(t, "application/problem+json", resp.Header.Get("Content-Type"))
	_, now := v.bench()
	assert.Greater(t, now.State.Now.Attitude.Lowest.M, b.State.Now.Attitude.Lowest.M+0.015, "the stern came up")
}

func TestRefusalsArePlainSentences(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Ilse")
	path, b := v.bench()
	i := slices.IndexFunc(b.Places, func(p stowing.PlaceView) bool { return p.Name == "glove box" })
	g := slices.IndexFunc(b.Gear, func(g gear.GearView) bool { return g.Name == "cooler 25 L" })
	resp, text := v.send("POST", path+"/moves", map[string]any{"gear_id": b.Gear[g].ID, "place_id": b.Places[i].ID,
		"version": 0})
	assert.Equal(t, 422, resp.StatusCode)
	assert.Contains(t, problemOf(t, text).Detail, "cooler 25 L is 44 x 32 x 34 cm; glove box is")
	for body, status := range map[string]int{
		`{"gear_id": NaN}`:                 400,
		`not json`:                         400,
		`{"gear_id": 7, "version": 0}`:     422,
		`{"version": 0, "surprise": true}`: 422,
		`{"version": 0}`:                   422,
		`{"gear_id": "` + strings.Repeat("x", maxBody+10) + `"}`: 413,
	} {
		resp, text := v.send("POST", path+"/moves", body)
		assert.Equal(t, status, resp.StatusCode, "%.60s: %.300s", body, text)
		assert.Less(t, len(text), 2000, "a long value is cut")
		assert.NotEmpty(t, problemOf(t, text).Detail)
	}
	_, now := v.bench()
	assert.Equal(t, b.State, now.State, "nothing changed")
}

func TestAnswersThatTakeTooLongAndBreakagesGiveNothingAway(t *testing.T) {
	ctx, cancel := context.WithTimeout(context.Background(), 0)
	defer cancel()
	<-ctx.Done()
	var late *Problem
	require.ErrorAs(t, problem(ctx, fmt.Errorf("loading the boat: %w", ctx.Err())), &late)
	assert.Equal(t, 503, late.Status)
	assert.Contains(t, late.Detail, "nothing was changed")
	var unsure *Problem
	require.ErrorAs(t, problem(context.Background(), errors.Join(store.ErrUnsure, io.ErrUnexpectedEOF)), &unsure)
	assert.Equal(t, 503, unsure.Status)
	assert.NotContains(t, unsure.Detail, "nothing was changed", "nobody knows")
	var broken *Problem
	require.ErrorAs(t, problem(context.Background(), errors.New("pq: password of role x")), &broken)
	assert.Equal(t, 500, broken.Status)
	assert.NotContains(t, broken.Detail, "password")
	assert.NoError(t, problem(ctx, nil))
}

func TestSessionsRotateAndEnd(t *testing.T) {
	s := newSite(t, false)
	ctx := context.Background()
	_, _, err := s.app.Crew.Found(ctx, "Another crew", "Una", "una", "a long password")
	require.NoError(t, err)
	v := s.visitor()
	sign := map[string]string{"login": "una", "password": "a long password"}
	resp, _ := v.send("POST", "/api/session", sign)
	require.Equal(t, 204, resp.StatusCode)
	session := func() *http.Cookie {
		i := slices.IndexFunc(resp.Cookies(), func(c *http.Cookie) bool { return c.Name == "ergasia_session" })
		require.GreaterOrEqual(t, i, 0)
		return resp.Cookies()[i]
	}
	first := session()
	assert.True(t, first.HttpOnly)
	assert.Equal(t, http.SameSiteLaxMode, first.SameSite)
	resp, _ = v.send("POST", "/api/session", sign)
	second := session()
	assert.NotEqual(t, first.Value, second.Value, "a new token at every sign-in")
	old := s.visitor()
	_, text := old.send("GET", "/api/session", nil, "Cookie", "ergasia_session="+first.Value)
	assert.Contains(t, string(text), `"signed_in":false`, "the old token is dead")
	_, text = v.send("GET", "/api/session", nil)
	assert.Contains(t, string(text), `"signed_in":true`)
	resp, _ = v.send("DELETE", "/api/session", nil)
	assert.Equal(t, 204, resp.StatusCode)
	_, text = old.send("GET", "/api/session", nil, "Cookie", "ergasia_session="+second.Value)
	assert.Contains(t, string(text), `"signed_in":false`, "and after signing out")
	resp, text = v.send("POST", "/api/session", map[string]string{"login": "una", "password": "wrong"})
	assert.Equal(t, 401, resp.StatusCode)
	assert.Contains(t, problemOf(t, text).Detail, "don't belong together")
	assert.NotContains(t, s.log.String(), "a long password")
	assert.NotContains(t, s.log.String(), second.Value)
}

func TestCookiesAreSecureWhereTheSiteIs(t *testing.T) {
	assert.True(t, newSessions(true).Cookie.Secure)
	assert.False(t, newSessions(false).Cookie.Secure)
	for secure, want := range map[bool]string{true: "max-age=31536000", false: ""} {
		_, handler, err := New(t.Context(), nil, storetest.New(t), Config{Web: fstest.MapFS{}, Secure: secure,
			Log: slog.New(slog.DiscardHandler)})
		require.NoError(t, err)
		w := httptest.NewRecorder()
		handler.ServeHTTP(w, httptest.NewRequest("GET", "/healthz", nil))
		assert.Equal(t, want, w.Header().Get("Strict-Transport-Security"))
	}
}

func TestOnlyTheDemoSignsInWithoutAPassword(t *testing.T) {
	s := newSite(t, false)
	v := s.visitor()
	resp, _ := v.send("POST", "/api/demo/session", map[string]any{"member_id": store.NewID()})
	assert.Equal(t, 404, resp.StatusCode)
	_, text := v.send("GET", "/api/session", nil)
	assert.Contains(t, string(text), `"demo":[]`)
}

func TestRequestsFromAnotherSiteAreRefused(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Ilse")
	path, _ := v.bench()
	for _, headers := range [][]string{{"Sec-Fetch-Site", "cross-site"}, {"Sec-Fetch-Site", "", "Origin",
		"https://elsewhere.example"}} {
		resp, text := v.send("POST", path+"/undo", nil, headers...)
		assert.Equal(t, 403, resp.StatusCode)
		assert.Contains(t, problemOf(t, text).Detail, "another site")
	}
	resp, _ := v.send("POST", path+"/undo", nil)
	assert.Equal(t, 200, resp.StatusCode)
}

func TestHealthLogAndMetrics(t *testing.T) {
	s := newSite(t, true)
	v := s.visitor()
	for path, status := range map[string]int{"/healthz": 200, "/readyz": 200, "/metrics": 403, "/api/nothing": 404,
		"/boats/x": 200, "/assets/a.js": 200} {
		resp, _ := v.send("GET", path, nil)
		assert.Equal(t, status, resp.StatusCode, path)
		assert.NotEmpty(t, resp.Header.Get("X-Request-Id"))
		assert.Contains(t, resp.Header.Get("Content-Security-Policy"), "default-src 'self'")
	}
	metrics := func(token string) (*http.Response, []byte) {
		return v.send("GET", "/metrics", nil, "Authorization", "Bearer "+token)
	}
	resp, text := metrics("metrics-token")
	assert.Contains(t, string(text), `ergasia_request_seconds_count{method="GET",route="/healthz",status="200"} 1`)
	require.Equal(t, 200, resp.StatusCode)
	resp, _ = metrics("another")
	assert.Equal(t, 403, resp.StatusCode)
	resp, _ = metrics("")
	assert.Equal(t, 403, resp.StatusCode)
	token := "a-secret-token-of-a-link-000"
	_, _ = v.send("GET", "/api/link", nil, "X-Link-Token", token)
	assert.Contains(t, s.log.String(), `"request_id"`)
	assert.Contains(t, s.log.String(), `"route":"/api/link"`)
	assert.NotContains(t, s.log.String(), token)
	crew := "00000000-1111-4222-8333-444444444444"
	_, _ = v.send("GET", "/api/crews/"+crew+"/gear", nil)
	assert.Contains(t, s.log.String(), `"route":"/api/crews/:crew/gear"`)
	assert.NotContains(t, s.log.String(), crew, "patterns are logged, not paths")
	resp, text = metrics("metrics-token")
	require.Equal(t, 200, resp.StatusCode)
	assert.NotContains(t, string(text), crew)
}

func TestAnInvitationLeadsToALogin(t *testing.T) {
	s := newSite(t, true)
	owner := s.as("Ilse")
	resp, text := owner.send("POST", "/api/crews/"+s.crew.String()+"/invitations",
		map[string]any{"name": "Nils", "mark": "N", "kg": 82, "mass_known": "guess", "role": "hand"}, "Idempotency-Key",
		store.NewID().String())
	require.Equal(t, 200, resp.StatusCode, string(text))
	var link crew.Link
	require.NoError(t, json.Unmarshal(text, &link))
	nils := s.visitor()
	resp, text = nils.send("POST", "/api/link", map[string]string{"login": "ilse", "password": "long enough it is"},
		"X-Link-Token", link.Token)
	assert.Equal(t, 422, resp.StatusCode, "a login that is taken")
	assert.Contains(t, string(text), "is taken")
	resp, _ = nils.send("POST", "/api/link", map[string]string{"login": "nils", "password": "long enough it is"},
		"X-Link-Token", link.Token)
	require.Equal(t, 204, resp.StatusCode)
	_, b := nils.bench()
	assert.Equal(t, "Dunlin", b.Name)
}
