package api

import (
	"encoding/json"
	"net/http"
	"slices"
	"strings"
	"testing"

	"ergasia/app/fleet"
	"ergasia/app/gear"
	"ergasia/app/stowing"
	"ergasia/app/where"
	"ergasia/demo"
	"ergasia/store"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func madeID(t *testing.T, status int, text []byte) string {
	require.Equal(t, 200, status, string(text))
	var m Made
	require.NoError(t, json.Unmarshal(text, &m))
	return m.ID.String()
}

// A boat is set up over the interface as the pages do it: hull, place, post,
// gear; each changed once, and taken away again.
func TestABoatIsSetUpChangedAndEmptied(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Oskar")
	crew := "/api/crews/" + s.crew.String()
	boat := map[string]any{}
	text, err := json.Marshal(demo.Dunlin())
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(text, &boat))
	boat["name"] = "Sandpiper"
	key := store.NewID().String()
	resp, text := v.send("POST", crew+"/boats", boat, "Idempotency-Key", key)
	id := madeID(t, resp.StatusCode, text)
	resp, text = v.send("POST", crew+"/boats", boat, "Idempotency-Key", key)
	assert.Equal(t, id, madeID(t, resp.StatusCode, text), "a repeat makes no second boat")
	path := crew + "/boats/" + id

	var known fleet.BoatView
	v.get(path, &known)
	assert.Equal(t, "Sandpiper", known.Name)
	boat["name"], boat["version"] = "Plover II", known.Version
	resp, text = v.send("PUT", path, boat, "Idempotency-Key", store.NewID().String())
	madeID(t, resp.StatusCode, text)
	resp, text = v.send("PUT", path, boat, "Idempotency-Key", store.NewID().String())
	assert.Equal(t, 409, resp.StatusCode, "the second change is stale")
	assert.Contains(t, string(text), "Plover II", "and is told the present")

	place := map[string]any{"name": "box", "corner_m": []float64{1, -0.2, 0.3}, "size_m": []float64{0.5, 0.4, 0.3},
		"opening_m": []float64{0, 0}, "dryness": "dry", "max_kg": 20}
	resp, text = v.send("POST", path+"/places", place, "Idempotency-Key", store.NewID().String())
	placeID := madeID(t, resp.StatusCode, text)
	place["name"], place["version"] = "bigger box", 1
	resp, text = v.send("PUT", path+"/places/"+placeID, place, "Idempotency-Key", store.NewID().String())
	madeID(t, resp.StatusCode, text)
	resp, text = v.send("POST", path+"/posts", map[string]any{"name": "helm", "at_m": []float64{1.5, 0, 0.3}})
	postID := madeID(t, resp.StatusCode, text)

	piece := map[string]any{"name": "tool roll, new", "size_m": []float64{0.3, 0.2, 0.1}, "kg": 3,
		"mass_known": "weighed", "count": 1, "needs_dry": true, "turn": "any"}
	resp, text = v.send("POST", crew+"/gear", piece, "Idempotency-Key", store.NewID().String())
	require.Equal(t, 200, resp.StatusCode, string(text))
	var g gear.GearView
	require.NoError(t, json.Unmarshal(text, &g))
	resp, text = v.send("POST", path+"/moves", map[string]any{"gear_id": g.ID, "place_id": placeID, "version": 0})
	require.Equal(t, 200, resp.StatusCode, string(text))

	resp, text = v.send("DELETE", path+"/places/"+placeID, nil)
	assert.Equal(t, 422, resp.StatusCode)
	assert.Contains(t, problemOf(t, text).Detail, "take it out first")
	resp, _ = v.send("DELETE", crew+"/gear/"+g.ID.String(), nil)
	assert.Equal(t, 204, resp.StatusCode)
	resp, _ = v.send("DELETE", path+"/places/"+placeID, nil)
	assert.Equal(t, 204, resp.StatusCode)
	resp, _ = v.send("DELETE", path+"/posts/"+postID, nil)
	assert.Equal(t, 204, resp.StatusCode)
	var b stowing.Bench
	v.get(path+"/bench", &b)
	assert.Empty(t, b.Places)
	assert.Empty(t, b.Posts)
}

func TestAThingInAnotherBoatIsFoundAndNotOnTheQuay(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Ilse")
	crew := "/api/crews/" + s.crew.String()
	boat := map[string]any{}
	text, err := json.Marshal(demo.Dunlin())
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(text, &boat))
	boat["name"] = "Curlew"
	resp, text := v.send("POST", crew+"/boats", boat)
	id := madeID(t, resp.StatusCode, text)
	var other stowing.Bench
	v.get(crew+"/boats/"+id+"/bench", &other)
	assert.Equal(t, -1, slices.IndexFunc(other.Gear, func(g gear.GearView) bool { return g.Name == "anchor with chain" }),
		"it is aboard Dunlin")
	var hits []gear.Hit
	v.get(crew+"/find?q=anchor+chain", &hits)
	require.NotEmpty(t, hits)
	assert.Equal(t, "Dunlin, anchor well", hits[0].Where)
	person := other.State.People[slices.IndexFunc(other.State.People, func(x where.Standing) bool { return x.Boat != "" })]
	assert.Equal(t, "Dunlin", person.Boat)
	assert.Zero(t, other.State.Now.Persons, "nobody stands in two boats")
	assert.Zero(t, other.State.Now.GearKg)
}

func TestHostileValuesChangeNothing(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Ilse")
	crew := "/api/crews/" + s.crew.String()
	_, before := v.bench()
	gear := `{"name": %NAME%, "size_m": [0.1, 0.1, %SIZE%], "kg": %KG%, "mass_known": "guess", "count": 1, "needs_dry": false, "turn": "any"}`
	fill := func(name, size, kg string) string {
		return strings.NewReplacer("%NAME%", name, "%SIZE%", size, "%KG%", kg).Replace(gear)
	}
	for body, says := range map[string]string{
		fill(`"x"`, "-1", "1"):                                                    "size_m[2]",
		fill(`"x"`, "1e300", "1"):                                                 "must be at most",
		fill(`"x"`, "NaN", "1"):                                                   "",
		fill(`"x"`, "0.1", "1e999"):                                               "",
		fill(`"`+strings.Repeat("n", 10000)+`"`, "0.1", "1"):                      "80 characters",
		fill(`""`, "0.1", "1"):                                                    "from 1 to 80",
		fill(`"a\u0000b"`, "0.1", "1"):                                            "letter that can't be kept",
		fill(`{"$gt": ""}`, "0.1", "1"):                                           "",
		fill(`"'; DROP TABLE gear; --"`, "0.1", "-5"):                             "kg",
		strings.Replace(fill(`"x"`, "0.1", "1"), "any", "up", 1):                  "",
		strings.Replace(fill(`"x"`, "0.1", "1"), `"count": 1`, `"count": 1.5`, 1): "",
	} {
		resp, text := v.send("POST", crew+"/gear", body)
		assert.Contains(t, []int{400, 422}, resp.StatusCode, "%.80s", body)
		assert.Contains(t, string(text), says)
		assert.Less(t, len(text), 2000)
	}
	_, after := v.bench()
	assert.Equal(t, before.Gear, after.Gear)
	assert.Equal(t, before.State, after.State)
	// What only looks hostile is a name like any other.
	resp, text := v.send("POST", crew+"/gear", fill(`"'; DROP TABLE gear; -- <b>"`, "0.1", "1"))
	assert.Equal(t, 200, resp.StatusCode, string(text))
}

func TestSettingsAreOnesOwnAndKept(t *testing.T) {
	s := newSite(t, true)
	tove := s.as("Tove")
	resp, _ := tove.send("PUT", "/api/crews/"+s.crew.String()+"/settings", map[string]string{"units": "us",
		"theme": "night"})
	require.Equal(t, 204, resp.StatusCode)
	var mine, theirs SessionView
	tove.get("/api/session", &mine)
	s.as("Ilse").get("/api/session", &theirs)
	assert.Equal(t, "us", mine.Crews[0].Units)
	assert.Equal(t, "night", mine.Crews[0].Theme)
	assert.Equal(t, "metric", theirs.Crews[0].Units)
	resp, _ = tove.send("PUT", "/api/crews/"+s.crew.String()+"/settings", map[string]string{"units": "cubits",
		"theme": "night"})
	assert.Equal(t, 422, resp.StatusCode)
}

func TestABrowserThatIsKnownIsNotKeptOutByWrongTriesElsewhere(t *testing.T) {
	s := newSite(t, false)
	_, _, err := s.app.Crew.Found(t.Context(), "Another crew", "Una", "una", "a long password")
	require.NoError(t, err)
	tries := func(v *visitor, password string) int {
		resp, _ := v.send("POST", "/api/session", map[string]string{"login": "una", "password": password})
		return resp.StatusCode
	}
	una := s.visitor()
	resp, _ := una.send("POST", "/api/session", map[string]string{"login": "una", "password": "a long password"})
	require.Equal(t, 204, resp.StatusCode)
	i := slices.IndexFunc(resp.Cookies(), func(c *http.Cookie) bool { return c.Name == "ergasia_browser" })
	require.GreaterOrEqual(t, i, 0)
	known := resp.Cookies()[i]
	assert.True(t, known.HttpOnly)
	assert.Equal(t, "/api/", known.Path)
	assert.Equal(t, http.SameSiteLaxMode, known.SameSite)
	stranger := s.visitor()
	for range 8 {
		assert.Equal(t, 401, tries(stranger, "something"))
	}
	assert.Equal(t, 429, tries(stranger, "a long password"))
	una.send("DELETE", "/api/session", nil)
	assert.Equal(t, 204, tries(una, "a long password"), "signed out, the browser is still known")
	assert.NotContains(t, s.log.String(), known.Value, "it is a secret")
}
