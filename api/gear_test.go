package api

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"io"
	"net/http"
	"strings"
	"testing"
	"time"

	"ergasia/app/gear"
	"ergasia/store"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// table sends text as a table, and gives status and problem.
func (v *visitor) table(path, text string) (int, Problem, []byte) {
	resp, answer := v.send("POST", path, text, "Content-Type", "text/csv", "Idempotency-Key", store.NewID().String())
	var p Problem
	_ = json.Unmarshal(answer, &p)
	return resp.StatusCode, p, answer
}

func TestHostileTablesAreRefusedOverHTTPWithTheLine(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Ilse")
	crew := "/api/crews/" + s.crew.String()
	var before gear.GearSummary
	v.get(crew+"/gear-summary", &before)
	for text, want := range map[string]string{
		"name\nnet\nb\x81t\n":                             "Line 3: there are signs here that no text has",
		"PK\x03\x04" + strings.Repeat("x", 2000):          "Line 1: this is a zip archive",
		"name\nnet\nno\x00net\n":                          "Line 3: there is a null byte",
		"name\nnet\n\"open\nand on":                       "Line 3: a quote opens here and is not closed",
		"name\n" + strings.Repeat("a\n", 4<<20+10):        "the table is larger than 8 MB; what is beyond this line was not read",
		"name,count\n" + strings.Repeat("net,1\n", 10001): "Line 10002: there are more than 10000 rows",
	} {
		for _, path := range []string{"/import-preview", "/import"} {
			status, problem, _ := v.table(crew+path, text)
			assert.Equal(t, http.StatusUnprocessableEntity, status, want)
			assert.Contains(t, problem.Detail, want)
		}
	}
	status, problem, _ := v.table(crew+"/import", "name,secret\nnet,1\n")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, problem.Detail, `Nobody has said what the column "secret" is`)
	status, problem, _ = v.table(crew+"/import-preview?columns=%7B%22secret%22%3A%22none%22%7D", "name,secret\nnet,1\n")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, problem.Detail, `"none" is no column of the list`)
	var after gear.GearSummary
	v.get(crew+"/gear-summary", &after)
	assert.Equal(t, before, after, "nothing was kept")
}

// endless is a body of so many bytes that is never in memory.
type endless struct{ left int }

func (e *endless) Read(p []byte) (int, error) {
	if e.left <= 0 {
		return 0, io.EOF
	}
	n := min(len(p), e.left)
	copy(p[:n], bytes.Repeat([]byte("net,1\n"), n/6+1))
	e.left -= n
	return n, nil
}

func TestATwoHundredMegabyteTableIsNotRead(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Ilse")
	body := &endless{left: 200 << 20}
	req, err := http.NewRequest(http.MethodPost, s.URL+"/api/crews/"+s.crew.String()+"/import-preview", body)
	require.NoError(t, err)
	req.Header.Set("Content-Type", "text/csv")
	req.Header.Set("Sec-Fetch-Site", "same-origin")
	req.ContentLength = 200 << 20
	resp, err := v.Do(req)
	if err != nil {
		assert.Greater(t, body.left, 150<<20, "the server hung up early: %v", err)
		return
	}
	defer func() { _ = resp.Body.Close() }()
	assert.Equal(t, http.StatusRequestEntityTooLarge, resp.StatusCode)
	assert.Greater(t, body.left, 150<<20, "most of it was never sent")
}

func TestFormulasGoOutHarmlessAndComeBack(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Ilse")
	crew := "/api/crews/" + s.crew.String()
	names := []string{"=1+1", "+cmd", "-2", "@sum", `say "net"`, "two\nlines", "tab\there"}
	for _, name := range names {
		gear := map[string]any{"name": name, "size_m": []float64{.1, .1, .1}, "kg": 1, "mass_known": "guess", "count": 1,
			"needs_dry": false, "turn": "any", "tags": []string{"odd"}}
		resp, answer := v.send("POST", crew+"/gear", gear)
		require.Equal(t, 200, resp.StatusCode, string(answer))
	}
	resp, csv := v.send("GET", crew+"/gear.csv", nil)
	require.Equal(t, 200, resp.StatusCode)
	assert.Contains(t, resp.Header.Get("Content-Type"), "text/csv")
	assert.Contains(t, resp.Header.Get("Content-Disposition"), "attachment")
	for _, cell := range []string{"'=1+1", "'+cmd", "'-2", "'@sum"} {
		assert.Contains(t, string(csv), ","+cell+",")
	}
	var page gear.GearPage
	v.get(crew+"/gear?tag=odd&limit=100", &page)
	require.Len(t, page.Rows, len(names))
	for _, g := range page.Rows {
		resp, _ := v.send("DELETE", crew+"/gear/"+g.ID.String(), nil)
		require.Equal(t, 204, resp.StatusCode)
	}
	status, _, answer := v.table(crew+"/import", string(csv))
	require.Equal(t, 200, status, string(answer))
	v.get(crew+"/gear?tag=odd&limit=100", &page)
	var back []string
	for _, g := range page.Rows {
		back = append(back, g.Name)
	}
	assert.ElementsMatch(t, names, back)
}

func TestAGuestReadsGearAndChangesNone(t *testing.T) {
	s := newSite(t, true)
	crew := "/api/crews/" + s.crew.String()
	guest := s.as("Tove")
	for _, path := range []string{"/gear", "/gear.csv", "/find?q=net", "/kits", "/trips", "/due", "/due.ics", "/shed",
		"/scale", "/gear-summary", "/gear-templates"} {
		resp, text := guest.send("GET", crew+path, nil)
		assert.Equal(t, 200, resp.StatusCode, "%s %s", path, text)
	}
	var page gear.GearPage
	guest.get(crew+"/gear?limit=1", &page)
	gear := crew + "/gear/" + page.Rows[0].ID.String()
	for path, body := range map[string]any{gear + "/moves": map[string]any{"version": page.Rows[0].Spot.Version},
		gear + "/notes": map[string]any{"kind": "seen"},
		gear + "/loans": map[string]any{"way": "lent", "whom": "x"}, crew + "/gear-lines": map[string]any{"text": "tray",
			"add": true}, crew + "/import": "name\nnet\n",
		crew + "/labels": map[string]any{"sheet": "a4-21", "gear": []any{page.Rows[0].ID}, "address": "http://x"}} {
		resp, text := guest.send("POST", path, body)
		assert.Equal(t, 403, resp.StatusCode, "%s %s", path, text)
	}
}

func TestTheCalendarsAddressNeedsNoSessionAndTellsNothingElse(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Oskar")
	crew := "/api/crews/" + s.crew.String()
	resp, text := v.send("POST", crew+"/calendar", nil)
	require.Equal(t, 200, resp.StatusCode, string(text))
	var feed Feed
	require.NoError(t, json.Unmarshal(text, &feed))
	stranger := s.visitor()
	resp, text = stranger.send("GET", feed.Path, nil)
	require.Equal(t, 200, resp.StatusCode)
	assert.Contains(t, resp.Header.Get("Content-Type"), "text/calendar")
	assert.True(t, bytes.HasPrefix(text, []byte("BEGIN:VCALENDAR\r\n")))
	assert.NotContains(t, string(text), "Oskar")
	spoiled := strings.Replace(feed.Path, feed.Path[20:23], "xxx", 1)
	resp, _ = stranger.send("GET", spoiled, nil)
	assert.Equal(t, 404, resp.StatusCode)
	resp, _ = stranger.send("GET", crew+"/due.ics", nil)
	assert.Equal(t, 401, resp.StatusCode, "the crew's own address needs a session")
}

func TestLabelsLeadToWhereTheServerSaysPhonesReachIt(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Ilse")
	crew := "/api/crews/" + s.crew.String()
	var page gear.GearPage
	v.get(crew+"/gear?limit=1", &page)
	body := func(address string) map[string]any {
		return map[string]any{"sheet": "letter-30", "skip": 3, "gear": []any{page.Rows[0].ID}, "address": address}
	}
	resp, pdf := v.send("POST", crew+"/labels", body("http://192.168.1.4:8080"))
	require.Equal(t, 200, resp.StatusCode, string(pdf))
	assert.Equal(t, "application/pdf", resp.Header.Get("Content-Type"))
	assert.True(t, bytes.HasPrefix(pdf, []byte("%PDF-")))
	for _, bad := range []string{"javascript:alert(1)", "http://a/b", "ftp://x", "http://x?y", ""} {
		resp, _ := v.send("POST", crew+"/labels", body(bad))
		assert.Equal(t, 422, resp.StatusCode, bad)
	}
	var detail gear.GearDetail
	v.get(crew+"/gear/"+page.Rows[0].ID.String(), &detail)
	var hit gear.Hit
	v.get(crew+"/labels/"+strings.ToLower(detail.Code), &hit)
	assert.Equal(t, page.Rows[0].ID, hit.ID)
}

func TestThePageOfAListFollowsTheOneBefore(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Marit")
	crew := "/api/crews/" + s.crew.String()
	seen := map[string]bool{}
	after := ""
	for range 30 {
		var page gear.GearPage
		v.get(crew+"/gear?limit=25&sort=recent&after="+after, &page)
		for _, g := range page.Rows {
			assert.False(t, seen[g.ID.String()], "%s twice", g.Name)
			seen[g.ID.String()] = true
		}
		if after = page.Next; after == "" {
			break
		}
	}
	var sum gear.GearSummary
	v.get(crew+"/gear-summary", &sum)
	assert.Len(t, seen, sum.Entries)
	for _, q := range []string{"kind=attic", "only=bears", "limit=0", "limit=1000", "sort=size", "boat=x"} {
		resp, text := v.send("GET", crew+"/gear?"+q, nil)
		assert.Equal(t, 422, resp.StatusCode, "%s %s", q, text)
	}
	resp, text := v.send("GET", crew+"/gear?after=rubbish", nil)
	assert.Equal(t, 422, resp.StatusCode, string(text))
}

func TestAPictureOfGearIsItsOwn(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Ilse")
	crew := "/api/crews/" + s.crew.String()
	var page gear.GearPage
	v.get(crew+"/gear?limit=2", &page)
	one, other := crew+"/gear/"+page.Rows[0].ID.String(), crew+"/gear/"+page.Rows[1].ID.String()
	resp, text := v.send("POST", one+"/photos", tinyPNG(t), "Content-Type", "application/octet-stream")
	id := madeID(t, resp.StatusCode, text)
	resp, picture := v.send("GET", one+"/photos/"+id, nil)
	require.Equal(t, 200, resp.StatusCode)
	assert.Equal(t, "image/jpeg", resp.Header.Get("Content-Type"))
	assert.True(t, bytes.HasPrefix(picture, []byte("\xff\xd8")))
	resp, _ = v.send("GET", other+"/photos/"+id, nil)
	assert.Equal(t, 404, resp.StatusCode, "not under another piece")
	resp, _ = v.send("DELETE", other+"/photos/"+id, nil)
	assert.Equal(t, 404, resp.StatusCode)
	resp, _ = v.send("DELETE", one+"/photos/"+id, nil)
	assert.Equal(t, 204, resp.StatusCode)
}

func tinyPNG(t *testing.T) string {
	var out bytes.Buffer
	require.NoError(t, png.Encode(&out, image.NewGray(image.Rect(0, 0, 8, 6))))
	return out.String()
}

func TestTwentyPastedLinesMakeTwentyPieces(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Sune")
	crew := "/api/crews/" + s.crew.String()
	var lines strings.Builder
	for i := range 20 {
		fmt.Fprintf(&lines, "%d x sample %c 12x8x4 0.%dkg dry @hall cupboard +Sune #samples\n", i%3+1, 'a'+i, i%9+1)
	}
	resp, text := v.send("POST", crew+"/gear-lines", map[string]any{"text": lines.String(), "add": true},
		"Idempotency-Key", store.NewID().String())
	require.Equal(t, 200, resp.StatusCode, string(text))
	var view gear.LinesView
	require.NoError(t, json.Unmarshal(text, &view))
	assert.Len(t, view.Made, 20)
	var page gear.GearPage
	v.get(crew+"/gear?tag=samples&limit=50", &page)
	require.Len(t, page.Rows, 20)
	for _, g := range page.Rows {
		assert.Equal(t, "home, hall cupboard", g.Spot.Text)
		assert.True(t, g.NeedsDry)
		assert.NotNil(t, g.OwnerID)
	}
}

// An import of many rows goes on behind its request; how far it is can be asked,
// no second one starts meanwhile, and a repeat brings nothing in twice.
func TestALargeImportGoesOnBehindItsRequest(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Ilse")
	crew := "/api/crews/" + s.crew.String()
	text := "name,count,length_cm,breadth_cm,height_cm,kg,tags\n" + strings.Repeat("net,1,10,10,5,0.2,bulk\n", 10000)
	key := store.NewID().String()
	send := func(text, key string) (int, gear.ImportView) {
		resp, answer := v.send("POST", crew+"/import", text, "Content-Type", "text/csv", "Idempotency-Key", key)
		var view gear.ImportView
		require.NoError(t, json.Unmarshal(answer, &view))
		return resp.StatusCode, view
	}
	_, view := send(text, key)
	if view.Running {
		status, _ := send("name\nother\n", store.NewID().String())
		assert.Equal(t, http.StatusUnprocessableEntity, status, "one at a time")
	}
	last := 0.0
	require.Eventually(t, func() bool {
		v.get(crew+"/import-progress", &view)
		assert.GreaterOrEqual(t, view.Share, last*b2f(view.Running), "it never goes back")
		last = view.Share
		return !view.Running
	}, time.Minute, 20*time.Millisecond)
	assert.True(t, view.Done)
	assert.Equal(t, 10000, view.New)
	_, again := send(text, key)
	assert.True(t, again.Done)
	var sum gear.GearSummary
	v.get(crew+"/gear-summary", &sum)
	assert.Equal(t, 10000+234, sum.Entries)
}

func b2f(b bool) float64 {
	if b {
		return 1
	}
	return 0
}
