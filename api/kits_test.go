package api

import (
	"encoding/json"
	"net/http"
	"slices"
	"testing"
	"time"

	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/kits"
	"ergasia/app/shed"
	"ergasia/app/stowing"
	"ergasia/app/trips"
	"ergasia/app/weighing"
	"ergasia/app/where"
	"ergasia/store"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// made posts something and gives the id of what it made.
func (v *visitor) made(path string, body any) string {
	resp, text := v.send("POST", path, body, "Idempotency-Key", store.NewID().String())
	return madeID(v.site.t, resp.StatusCode, text)
}

func (v *visitor) status(method, path string, body any) int {
	resp, _ := v.send(method, path, body, "Idempotency-Key", store.NewID().String())
	return resp.StatusCode
}

func in(days int) string { return kernel.DayOf(time.Now()).Add(days).String() }

func TestATripIsPlannedPromisedChangedAndLogged(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Sune")
	crew := "/api/crews/" + s.crew.String()
	trip := map[string]any{"name": "club evening", "water": "Tverrin", "starts_on": in(-1), "ends_on": in(0),
		"persons": 2, "rods": 3, "hours": 2.5}
	id := v.made(crew+"/trips", trip)
	var page gear.GearPage
	v.get(crew+"/gear?q=smoke+oven&limit=1", &page)
	require.NotEmpty(t, page.Rows)
	oven := page.Rows[0]
	resp, text := v.send("POST", crew+"/trips/"+id+"/gear", map[string]any{"gear": []any{oven.ID}})
	require.Equal(t, 200, resp.StatusCode, string(text))
	assert.JSONEq(t, `{"refused": []}`, string(text))
	assert.Equal(t, 404, v.status("POST", crew+"/trips/"+id+"/gear", map[string]any{"gear": []any{store.NewID()}}),
		"gear of nobody")
	var promised []trips.PromisedView
	v.get(crew+"/trips/"+id+"/gear", &promised)
	require.Len(t, promised, 1)
	assert.False(t, promised[0].Ready, "it is ashore: fetch it")
	for field, value := range map[string]any{"ends_on": in(-3), "starts_on": "soon", "persons": 0, "hours": -1,
		"name": ""} {
		bad := map[string]any{}
		for k, x := range trip {
			bad[k] = x
		}
		bad[field] = value
		assert.Equal(t, http.StatusUnprocessableEntity, v.status("POST", crew+"/trips", bad), field)
	}
	trip["version"], trip["hours"] = 1, 3
	assert.Equal(t, 200, v.status("PUT", crew+"/trips/"+id, trip))
	assert.Equal(t, 409, v.status("PUT", crew+"/trips/"+id, trip), "the version that was seen is past")
	assert.Equal(t, 204, v.status("POST", crew+"/trips/"+id+"/log", map[string]any{"version": 2, "hours": 3.5}))
	assert.Equal(t, 409, v.status("POST", crew+"/trips/"+id+"/log", map[string]any{"version": 3, "hours": 3.5}))
	var detail gear.GearDetail
	v.get(crew+"/gear/"+oven.ID.String(), &detail)
	assert.Equal(t, []float64{oven.Hours + 3.5, float64(oven.Trips + 1)}, []float64{detail.Hours, float64(detail.Trips)})
	assert.True(t, slices.ContainsFunc(detail.Bookings, func(b gear.BookingView) bool {
		return b.Ended &&
			b.Whom == "club evening"
	}))
	trip["version"] = 3
	assert.Equal(t, http.StatusUnprocessableEntity, v.status("PUT", crew+"/trips/"+id, trip), "what was is not changed")
	other := v.made(crew+"/trips", map[string]any{"name": "called off", "starts_on": in(2), "ends_on": in(2),
		"persons": 2, "rods": 0, "hours": 0})
	assert.Equal(t, 204, v.status("DELETE", crew+"/trips/"+other, nil))
	assert.Equal(t, 404, v.status("DELETE", crew+"/trips/"+other, nil))
}

func TestAKitIsWrittenReadAndTakenAway(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Marit")
	crew := "/api/crews/" + s.crew.String()
	line := map[string]any{"what": "rods", "amount": 1, "per": "person", "nice": false,
		"choices": []any{map[string]any{"tag": "cod"}}}
	kit := map[string]any{"name": "two for cod", "sort": "fish", "lines": []any{line}}
	id := v.made(crew+"/kits", kit)
	var k kits.KitAnswer
	v.get(crew+"/kits/"+id+"?persons=5", &k)
	assert.Equal(t, 5, k.Found[0].Wanted)
	assert.Equal(t, k.Found[0].Wanted-k.Found[0].Ready, k.Missing)
	var bench stowing.Bench
	_, bench = v.bench()
	v.get(crew+"/kits/"+id+"?persons=2&boat="+bench.ID.String(), &k)
	assert.Equal(t, "Dunlin", k.Boat)
	assert.Zero(t, k.Missing)
	assert.Equal(t, 422, v.status("GET", crew+"/kits/"+id+"?persons=99", nil))
	assert.Equal(t, 404, v.status("GET", crew+"/kits/"+id+"?trip="+store.NewID().String(), nil))
	assert.Equal(t, 422, v.status("POST", crew+"/kits", kit), "the name is taken")
	kit["version"], kit["name"] = 1, "cod for two"
	assert.Equal(t, 200, v.status("PUT", crew+"/kits/"+id, kit))
	assert.Equal(t, 409, v.status("PUT", crew+"/kits/"+id, kit))
	kit["lines"] = []any{}
	assert.Equal(t, 422, v.status("PUT", crew+"/kits/"+id, kit), "a kit needs a line")
	assert.Equal(t, 204, v.status("DELETE", crew+"/kits/"+id, nil))
	assert.Equal(t, 404, v.status("GET", crew+"/kits/"+id, nil))
}

func TestAShelfIsMadeChangedFilledAndEmptied(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Oskar")
	crew := "/api/crews/" + s.crew.String()
	shelf := map[string]any{"site": "boathouse", "name": "loft", "size_m": []float64{2, 0.5, 0.4}, "dryness": "dry",
		"max_kg": 5, "locks": false}
	id := v.made(crew+"/shed", shelf)
	assert.Equal(t, 422, v.status("POST", crew+"/shed", shelf), "the name is taken")
	var page gear.GearPage
	v.get(crew+"/gear?q=smoke+oven&limit=1", &page)
	oven := page.Rows[0]
	resp, text := v.send("POST", crew+"/gear/"+oven.ID.String()+"/moves", map[string]any{"shed_id": id,
		"version": oven.Spot.Version})
	require.Equal(t, 200, resp.StatusCode, string(text))
	var answer where.Moved
	require.NoError(t, json.Unmarshal(text, &answer))
	assert.Contains(t, answer.Said[0], "carries 5.0 kg at most", "said, and done all the same")
	assert.Equal(t, 409, v.status("POST", crew+"/gear/"+oven.ID.String()+"/moves",
		map[string]any{"version": oven.Spot.Version}))
	assert.Equal(t, 422, v.status("DELETE", crew+"/shed/"+id, nil), "it is not empty")
	var shelves []shed.ShedView
	v.get(crew+"/shed", &shelves)
	i := slices.IndexFunc(shelves, func(s shed.ShedView) bool { return s.ID.String() == id })
	assert.InDelta(t, oven.TotalKg, shelves[i].Kg, 1e-9)
	shelf["version"], shelf["max_kg"] = 1, 20
	assert.Equal(t, 200, v.status("PUT", crew+"/shed/"+id, shelf))
	assert.Equal(t, 409, v.status("PUT", crew+"/shed/"+id, shelf))
	for field, value := range map[string]any{"dryness": "damp", "max_kg": -1, "name": "", "size_m": []float64{-1, 0, 0}} {
		bad := map[string]any{}
		for k, x := range shelf {
			bad[k] = x
		}
		bad[field] = value
		assert.Equal(t, 422, v.status("PUT", crew+"/shed/"+id, bad), field)
	}
	assert.Equal(t, 200, v.status("POST", crew+"/gear/"+oven.ID.String()+"/moves",
		map[string]any{"version": answer.Spot.Version}))
	assert.Equal(t, 204, v.status("DELETE", crew+"/shed/"+id, nil))
}

func TestWithoutAScaleWeighingSaysSo(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Ilse")
	crew := "/api/crews/" + s.crew.String()
	var shown weighing.ScaleView
	v.get(crew+"/scale?tare_kg=0.4", &shown)
	assert.False(t, shown.Connected)
	assert.Nil(t, shown.Kg)
	resp, text := v.send("POST", crew+"/scale", map[string]any{})
	assert.Equal(t, 422, resp.StatusCode)
	assert.Contains(t, string(text), "There is no simulated scale")
	path, _ := v.bench()
	var list []weighing.ToWeigh
	v.get(path+"/weighing", &list)
	require.NotEmpty(t, list)
	assert.Positive(t, list[0].Moves)
	one := list[0]
	assert.Equal(t, 409, v.status("POST", crew+"/gear/"+one.GearID.String()+"/mass", map[string]any{"version": 99,
		"kg": 3}))
	assert.Equal(t, 422, v.status("POST", crew+"/gear/"+one.GearID.String()+"/mass",
		map[string]any{"version": one.Version, "kg": 0}))
	assert.Equal(t, 200, v.status("POST", crew+"/gear/"+one.GearID.String()+"/mass",
		map[string]any{"version": one.Version, "kg": 3}))
	var after []weighing.ToWeigh
	v.get(path+"/weighing", &after)
	assert.Len(t, after, len(list)-1, "what was weighed is off the list")
}
