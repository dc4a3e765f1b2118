package api

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"ergasia/app/rigging"
	"ergasia/store"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// fittingBody is a cleat as the page sends it.
func fittingBody(name string) map[string]any {
	return map[string]any{"name": name, "kind": "cleat", "kg": 0.5, "mass_known": "guess", "look": map[string]any{},
		"lies": map[string]any{"at_m": []float64{1, 0.9, 0.75}, "size_m": []float64{.2, .06, .05}, "stands": "up"},
		"held": map[string]any{
			"method":   "plate",
			"screw":    "M8",
			"count":    4,
			"foot_mm":  []float64{75, 45},
			"panel":    "laminate",
			"panel_mm": 8,
		},
		"parts": []any{}}
}

func (v *visitor) rigging(path string) rigging.Rigging {
	var r rigging.Rigging
	v.get(path+"/rigging", &r)
	return r
}

// A walk round the boat over the interface: lines are read, tried, listed once though
// sent twice, changed over the version that was seen, and taken off.
func TestFittingsAreListedOverHTTP(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Oskar")
	path := s.boatOf(v)
	before := len(v.rigging(path).Fittings)
	resp, text := v.send("POST", path+"/rigging/lines", map[string]any{"text": "2 cleats\nnonsense 5 x 5 x 5 cm\n"})
	require.Equal(t, 200, resp.StatusCode, string(text))
	var read []map[string]any
	require.NoError(t, json.Unmarshal(text, &read))
	require.Len(t, read, 3)
	assert.Contains(t, fmt.Sprint(read[2]["doubts"]), "Nothing usual has this name")

	resp, text = v.send("POST", path+"/rigging/try", map[string]any{"fitting": fittingBody("tried")})
	require.Equal(t, 200, resp.StatusCode, string(text))
	var tried rigging.Tried
	require.NoError(t, json.Unmarshal(text, &tried))
	assert.NotEmpty(t, tried.Bears.Ways)
	assert.Len(t, v.rigging(path).Fittings, before, "a dry run keeps nothing")

	body := map[string]any{"fittings": []any{fittingBody("first"), fittingBody("second")}}
	key := store.NewID().String()
	var ids, again []uuid.UUID
	_, text = v.send("POST", path+"/fittings", body, "Idempotency-Key", key)
	require.NoError(t, json.Unmarshal(text, &ids), string(text))
	_, text = v.send("POST", path+"/fittings", body, "Idempotency-Key", key)
	require.NoError(t, json.Unmarshal(text, &again), string(text))
	assert.ElementsMatch(t, ids, again)
	assert.Len(t, v.rigging(path).Fittings, before+2)

	one := path + "/fittings/" + ids[0].String()
	change := fittingBody("first")
	change["kg"], change["version"] = 0.7, 1
	assert.Equal(t, 200, v.status("PUT", one, change))
	resp, text = v.send("PUT", one, change)
	assert.Equal(t, 409, resp.StatusCode)
	assert.Contains(t, string(text), "first was changed by someone else meanwhile")
	change["version"], change["kg"] = 2, -3
	resp, text = v.send("PUT", one, change)
	assert.Equal(t, 422, resp.StatusCode)
	assert.Contains(t, string(text), "Mass")
	assert.Equal(t, 204, v.status("POST", one+"/done", map[string]any{"what": "tightened", "version": 2}))
	assert.Equal(t, 204, v.status("DELETE", one, nil))
	assert.Equal(t, 404, v.status("DELETE", one, nil))
}

func TestATemplateIsAFileAtTrueScale(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Tove") // a guest may look
	path := s.boatOf(v)
	id := v.rigging(path).Fittings[0].ID.String()
	for query, kind := range map[string]string{"": "application/pdf", "?mirrored=true": "application/pdf", "?format=svg": "image/svg+xml"} {
		resp, text := v.send("GET", path+"/fittings/"+id+"/template"+query, nil)
		assert.Equal(t, 200, resp.StatusCode)
		assert.Equal(t, kind, resp.Header.Get("Content-Type"))
		assert.NotEmpty(t, text)
		assert.Contains(t, resp.Header.Get("Content-Security-Policy"), "default-src")
	}
	assert.Equal(t, 422, v.status("GET", path+"/fittings/"+id+"/template?format=exe", nil))
	assert.Equal(t, 404, v.status("GET", path+"/fittings/"+store.NewID().String()+"/template", nil))
}

// What is out of all bounds is told by its field, and nothing of it is kept.
func TestAbsurdFittingsAreToldByTheirField(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Ilse")
	path := s.boatOf(v)
	before := len(v.rigging(path).Fittings)
	for want, change := range map[string]func(f map[string]any){
		"Fitting 1, position":     func(f map[string]any) { f["lies"].(map[string]any)["at_m"] = []float64{1, 2} },
		"must be one of":          func(f map[string]any) { f["kind"] = "cannon" },
		"is nothing that this":    func(f map[string]any) { f["colour"] = "red" },
		"is longer than the boat": func(f map[string]any) { f["lies"].(map[string]any)["size_m"] = []float64{9, .1, .1} },
		"M4, #8-32":               func(f map[string]any) { f["held"].(map[string]any)["screw"] = "M7" },
		"is missing":              func(f map[string]any) { delete(f, "held") },
		"half of the cut-out":     func(f map[string]any) { f["held"].(map[string]any)["corner_mm"] = 30 },
	} {
		body := fittingBody("absurd")
		change(body)
		resp, text := v.send("POST", path+"/fittings", map[string]any{"fittings": []any{body}})
		assert.Contains(t, []int{400, 422}, resp.StatusCode, string(text))
		assert.Contains(t, string(text), want)
	}
	assert.Len(t, v.rigging(path).Fittings, before)
	resp, _ := v.send("POST", path+"/rigging/lines", map[string]any{"text": strings.Repeat("x", 30001)})
	assert.Equal(t, 422, resp.StatusCode)
	many := make([]any, 301)
	for i := range many {
		many[i] = fittingBody(fmt.Sprint("f", i))
	}
	assert.Equal(t, 422, v.status("POST", path+"/fittings", map[string]any{"fittings": many}))
	assert.Equal(
		t,
		422,
		v.status("POST", path+"/fittings", map[string]any{"fittings": many[:299]}),
		"with what is there already they are too many",
	)
}

// A hand docks units and puts sets on; a guest does neither, and only a skipper keeps a set.
func TestWhoMovesUnits(t *testing.T) {
	s := newSite(t, true)
	skipper, hand, guest := s.as("Oskar"), s.as("Sune"), s.as("Tove")
	path := s.boatOf(skipper)
	r := skipper.rigging(path)
	unit := r.Fittings[0].ID
	var version int
	var bases []uuid.UUID
	for _, f := range append(r.Fittings, r.Off...) {
		if f.Unit {
			unit, version = f.ID, f.Version
		} else if f.Dock != "" {
			bases = append(bases, f.ID)
		}
	}
	require.Len(t, bases, 2)
	dock := map[string]any{"base_id": bases[0], "on": true, "version": version}
	if r.Fittings[0].BaseID != nil && *r.Fittings[0].BaseID == bases[0] {
		dock["base_id"] = bases[1]
	}
	address := fmt.Sprintf("%s/fittings/%s/dock", path, unit)
	assert.Equal(t, 403, guest.status("POST", address, dock))
	assert.Equal(t, 204, hand.status("POST", address, dock))
	assert.Equal(t, 409, hand.status("POST", address, dock), "it moved on since")
	set := map[string]any{"name": "ice", "lines": []any{map[string]any{"fitting_id": unit, "base_id": bases[1]}}}
	assert.Equal(t, 403, hand.status("POST", path+"/rig-sets", set))
	id := skipper.made(path+"/rig-sets", set)
	assert.Equal(t, 403, guest.status("POST", path+"/rig-sets/"+id+"/put-on", nil))
	assert.Equal(t, 204, hand.status("POST", path+"/rig-sets/"+id+"/put-on", nil))
	set["name"], set["version"] = "winter", 1
	assert.Equal(t, 200, skipper.status("PUT", path+"/rig-sets/"+id, set))
	assert.Equal(t, 204, skipper.status("DELETE", path+"/rig-sets/"+id, nil))
	assert.Equal(t, 404, hand.status("POST", path+"/rig-sets/"+id+"/put-on", nil))
	assert.Equal(t, 204, hand.status("POST", path+"/rigging/leave", nil))
}

func TestSpacesAndSettingsOverHTTP(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Ilse")
	path := s.boatOf(v)
	var spaces []rigging.SpaceView
	v.get(path+"/spaces", &spaces)
	require.NotEmpty(t, spaces)
	for _, x := range spaces {
		assert.Positive(t, x.Litres)
		assert.NotEmpty(t, x.Name)
	}
	version := v.rigging(path).Version
	set := map[string]any{"waters": "offshore", "road_m": 2.5, "keel_over_road_m": 0.5, "version": version}
	assert.Equal(t, 204, v.status("PUT", path+"/rigging", set))
	assert.Equal(t, 409, v.status("PUT", path+"/rigging", set), "the boat was changed since")
	set["version"], set["road_m"] = version+1, -2
	resp, text := v.send("PUT", path+"/rigging", set)
	assert.Equal(t, 422, resp.StatusCode)
	assert.Contains(t, string(text), "must be from 0 to 10")
	assert.Equal(t, 403, s.as("Sune").status("PUT", path+"/rigging", set))
}
