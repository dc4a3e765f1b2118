package api

import (
	"bytes"
	"encoding/json"
	"image"
	"image/png"
	"strings"
	"testing"

	"ergasia/app/fleet"
	"ergasia/app/floating"
	"ergasia/store"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// boatOf is the path of the demo's boat.
func (s *site) boatOf(v *visitor) string {
	var session SessionView
	v.get("/api/session", &session)
	return "/api/crews/" + s.crew.String() + "/boats/" + session.Crews[0].Boats[0].ID.String()
}

func TestFilesComeWithTheirKindAndOnlyToTheCrew(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Tove")
	path := s.boatOf(v)
	for address, want := range map[string][2]string{
		"/offsets":                        {"text/csv", "station,x_m,y_m,z_m\n1,"},
		"/sheet?kind=svg&dimensions=true": {"image/svg+xml", "<svg xmlns"},
		"/sheet":                          {"application/pdf", "%PDF-"},
		"/lid-cards":                      {"application/pdf", "%PDF-"},
		"/power/sheet?kind=diagram":       {"application/pdf", "%PDF-"},
		"/power/sheet?kind=fuses":         {"application/pdf", "%PDF-"},
		"/power/sheet?kind=labels-night":  {"application/pdf", "%PDF-"},
		"/power/sheet?kind=flags":         {"application/pdf", "%PDF-"},
	} {
		resp, text := v.send("GET", path+address, nil)
		require.Equal(t, 200, resp.StatusCode, string(text))
		assert.Contains(t, resp.Header.Get("Content-Type"), want[0])
		assert.True(t, bytes.HasPrefix(text, []byte(want[1])), address)
		assert.Contains(t, resp.Header.Get("Content-Security-Policy"), "default-src 'self'", "what a file brings can't run")
		assert.Equal(t, "nosniff", resp.Header.Get("X-Content-Type-Options"))
		resp, _ = s.visitor().send("GET", path+address, nil)
		assert.Equal(t, 401, resp.StatusCode)
	}
	resp, _ := v.send("GET", path+"/sheet?kind=exe", nil)
	assert.Equal(t, 422, resp.StatusCode)
}

func TestAPictureGoesUpAndComesDownSmaller(t *testing.T) {
	s := newSite(t, true)
	hand, guest, skipper := s.as("Sune"), s.as("Tove"), s.as("Oskar")
	path := s.boatOf(hand)
	var raw bytes.Buffer
	require.NoError(t, png.Encode(&raw, image.NewGray(image.Rect(0, 0, 1700, 850))))
	key := store.NewID().String()
	resp, text := hand.send("POST", path+"/photos", raw.String(), "Content-Type", "application/octet-stream",
		"Idempotency-Key", key)
	id := madeID(t, resp.StatusCode, text)
	resp, text = hand.send("POST", path+"/photos", raw.String(), "Content-Type", "application/octet-stream",
		"Idempotency-Key", key)
	assert.Equal(t, id, madeID(t, resp.StatusCode, text), "sent twice, kept once")
	var list []fleet.PhotoView
	guest.get(path+"/photos", &list)
	require.Len(t, list, 1)
	assert.Equal(t, [2]int{1600, 800}, [2]int{list[0].Width, list[0].Height})
	resp, text = guest.send("GET", path+"/photos/"+id, nil)
	assert.Equal(t, "image/jpeg", resp.Header.Get("Content-Type"))
	_, kind, err := image.DecodeConfig(bytes.NewReader(text))
	require.NoError(t, err)
	assert.Equal(t, "jpeg", kind)
	resp, _ = guest.send("POST", path+"/photos", raw.String(), "Content-Type", "application/octet-stream")
	assert.Equal(t, 403, resp.StatusCode)
	resp, _ = hand.send("DELETE", path+"/photos/"+id, nil)
	assert.Equal(t, 403, resp.StatusCode)
	resp, _ = skipper.send("DELETE", path+"/photos/"+id, nil)
	assert.Equal(t, 204, resp.StatusCode)
	resp, _ = hand.send("POST", path+"/photos", strings.Repeat("x", fleet.MaxPhotoBytes+1), "Content-Type",
		"application/octet-stream")
	assert.Equal(t, 413, resp.StatusCode)
}

func TestMeasuresArePreviewedAndWrongOnesAreNamed(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Oskar")
	crew := "/api/crews/" + s.crew.String()
	var choices fleet.HullChoices
	v.get(crew+"/hull-forms", &choices)
	require.Len(t, choices.Forms, 5)
	for _, f := range choices.Forms {
		in := map[string]any{"hull": map[string]any{"form": f.Name, "measures": f.Usual()}, "water_density_kg_m3": 999}
		resp, text := v.send("POST", crew+"/hull-preview", in)
		require.Equal(t, 200, resp.StatusCode, string(text))
		var p fleet.HullPreview
		require.NoError(t, json.Unmarshal(text, &p))
		assert.Empty(t, p.Faults, f.Name)
		assert.NotNil(t, p.Lines)
	}
	resp, text := v.send("POST", crew+"/hull-preview",
		map[string]any{"hull": map[string]any{"form": "vee", "measures": map[string]any{"length_m": 5}},
			"water_density_kg_m3": 999})
	require.Equal(t, 200, resp.StatusCode)
	assert.Contains(t, string(text), "Beam at the sheer is missing")
	resp, text = v.send("POST", crew+"/offsets", map[string]any{"csv": "station,x_m,y_m,z_m\n1,0,0,zero\n",
		"water_density_kg_m3": 999})
	assert.Equal(t, 422, resp.StatusCode)
	p := problemOf(t, text)
	assert.Equal(t, "line 2", p.Errors[0].Location)
}

// The float report, a check and the road over HTTP, as the pages ask for them.
func TestHowSheFloatsIsAnsweredOverHTTP(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Sune")
	path := s.boatOf(v)
	var report floating.FloatReport
	v.get(path+"/float?wind_m_s=12&bilge_l=30", &report)
	assert.Len(t, report.Tests, 5)
	assert.Len(t, report.Wind, 4)
	resp, text := v.send("GET", path+"/float?bilge_l=-3", nil)
	assert.Equal(t, 422, resp.StatusCode, string(text))
	var checks floating.Surveys
	v.get(path+"/checks", &checks)
	readings := []map[string]any{}
	for _, p := range checks.Points {
		readings = append(readings, map[string]any{"name": p.Name, "at_m": p.At, "freeboard_m": 0.4})
	}
	body := map[string]any{"float": map[string]any{"readings": readings, "step_m": 0.005, "ripple_m": 0}}
	resp, text = v.send("POST", path+"/checks/try", body)
	require.Equal(t, 200, resp.StatusCode, string(text))
	assert.Contains(t, string(text), "displacement_kg")
	resp, text = v.send("POST", path+"/checks", body, "Idempotency-Key", store.NewID().String())
	id := madeID(t, resp.StatusCode, text)
	resp, _ = v.send("POST", path+"/checks/"+id+"/accept", map[string]any{"kind": "hull", "version": 1})
	assert.Equal(t, 403, resp.StatusCode, "a hand may not change the boat")

	var road floating.Road
	v.get(path+"/road", &road)
	require.NotNil(t, road.Trailer)
	assert.False(t, road.Met)
	var heaviest floating.Riding
	for _, r := range road.Things {
		if r.Out {
			heaviest = r
		}
	}
	resp, _ = v.send("PUT", path+"/rides/"+heaviest.GearID.String(), map[string]any{"rides": "car"})
	assert.Equal(t, 204, resp.StatusCode)
	resp, _ = v.send("PUT", path+"/rides/"+heaviest.GearID.String(), map[string]any{"rides": "horse"})
	assert.Equal(t, 422, resp.StatusCode)
	var again floating.Road
	v.get(path+"/road", &again)
	assert.InDelta(t, road.TotalKg-heaviest.Kg, again.TotalKg, 1e-9)
}
