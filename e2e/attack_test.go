package e2e

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"io"
	"math/rand/v2"
	"net/http"
	"net/http/cookiejar"
	"os"
	"os/exec"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"ergasia/store"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// attacker is a program that speaks to the server as a page of it does.
type attacker struct {
	*http.Client
	t       testing.TB
	address string
	crew    string
	boat    string
}

func attack(t testing.TB, address string) *attacker {
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	a := &attacker{Client: &http.Client{Jar: jar, Timeout: time.Minute}, t: t, address: address}
	var session struct {
		Demo  []struct{ ID, Name string } `json:"demo"`
		Crews []struct {
			ID    string                `json:"crew_id"`
			Boats []struct{ ID string } `json:"boats"`
		} `json:"crews"`
	}
	require.NoError(t, json.Unmarshal(a.must("GET", "/api/session", nil, ""), &session))
	for _, m := range session.Demo {
		if m.Name == "Ilse" {
			a.must("POST", "/api/demo/session", fmt.Appendf(nil, `{"member_id":%q}`, m.ID), "")
		}
	}
	require.NoError(t, json.Unmarshal(a.must("GET", "/api/session", nil, ""), &session))
	require.NotEmpty(t, session.Crews)
	a.crew, a.boat = "/api/crews/"+session.Crews[0].ID, session.Crews[0].Boats[0].ID
	return a
}

// send gives the status, nought where there was no answer.
func (a *attacker) send(method, path string, body []byte, kind, key string) (int, []byte) {
	req, err := http.NewRequest(method, a.address+path, bytes.NewReader(body))
	require.NoError(a.t, err)
	req.Header.Set("Content-Type", kind)
	req.Header.Set("Sec-Fetch-Site", "same-origin")
	if key != "" {
		req.Header.Set("Idempotency-Key", key)
	}
	resp, err := a.Do(req)
	if err != nil {
		return 0, nil
	}
	defer func() { _ = resp.Body.Close() }()
	text, err := io.ReadAll(resp.Body)
	if err != nil {
		return 0, nil
	}
	return resp.StatusCode, text
}

func (a *attacker) must(method, path string, body []byte, key string) []byte {
	status, text := a.send(method, path, body, "application/json", key)
	require.Less(a.t, status, 300, "%s %s: %s", method, path, text)
	require.Positive(a.t, status, "%s %s", method, path)
	return text
}

// A program that is killed while several write to it loses nothing that it
// acknowledged, and a write whose answer was lost is made once when it is repeated.
// ERGASIA_KILLS says how often, where it is more than CI takes.
func TestKillsLoseNothingAcknowledged(t *testing.T) {
	beside(t)
	database := databaseOf(t)
	r := rand.New(rand.NewPCG(11, 245))
	var mu sync.Mutex
	acknowledged, unsure := map[string]string{}, map[string]string{} // name by key of the write
	piece := func(name string) []byte {
		return fmt.Appendf(nil, `{"name":%q,"size_m":[0.1,0.1,0.1],"kg":0.2,"mass_known":"guess","count":1,"turn":"any","needs_dry":false}`, name)
	}
	kills := 8
	if more, err := strconv.Atoi(os.Getenv("ERGASIA_KILLS")); err == nil {
		kills = more
	}
	for round := range kills {
		cmd, address := run(t, "demo", database)
		var writers sync.WaitGroup
		for w := range 3 {
			a := attack(t, address)
			writers.Go(func() {
				for i := 0; ; i++ {
					name, key := fmt.Sprintf("killed %d %d %d", round, w, i), store.NewID().String()
					status, _ := a.send("POST", a.crew+"/gear", piece(name), "application/json", key)
					mu.Lock()
					if status == 200 || status == 201 {
						acknowledged[key] = name
					} else {
						unsure[key] = name
					}
					mu.Unlock()
					if status == 0 {
						return
					}
				}
			})
		}
		time.Sleep(time.Duration(50+r.IntN(300)) * time.Millisecond)
		require.NoError(t, cmd.Process.Kill())
		_ = cmd.Wait()
		writers.Wait()
	}
	d := start(t, "demo", database)
	a := attack(t, d.address)
	for key, name := range unsure { // whoever lost the answer asks again
		status, text := a.send("POST", a.crew+"/gear", piece(name), "application/json", key)
		assert.Less(t, status, 300, "%s", text)
	}
	table := string(a.must("GET", a.crew+"/gear.csv", nil, ""))
	for _, names := range []map[string]string{acknowledged, unsure} {
		for _, name := range names {
			assert.Equal(t, 1, strings.Count(table, ","+name+","), name)
		}
	}
	t.Logf("%d acknowledged and %d unsure writes over %d kills", len(acknowledged), len(unsure), kills)
	assert.Greater(t, len(acknowledged), 20)
}

// peakMB is the most memory that a process ever had, as the kernel counts it.
func peakMB(t *testing.T, cmd *exec.Cmd) int {
	text, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", cmd.Process.Pid))
	require.NoError(t, err)
	var kb int
	for line := range strings.Lines(string(text)) {
		if rest, is := strings.CutPrefix(line, "VmHWM:"); is {
			_, err := fmt.Sscan(rest, &kb)
			require.NoError(t, err)
		}
	}
	return kb >> 10
}

// ladder is electrics of selectors that feed one another, along more ways than could be gone, and
// all that may hang on them.
func ladder() []byte {
	var parts, circuits []string
	from := `"b0","b1"`
	for i := range 50 {
		parts = append(parts, fmt.Sprintf(`{"key":"p%d","kind":"selector","name":"rung %d","from":[%s]}`, i, i, from))
		before := "b0"
		if i > 0 {
			before = fmt.Sprintf("p%d", i-1)
		}
		from = fmt.Sprintf(`"p%d",%q`, i, before)
	}
	for i := range 100 {
		circuits = append(circuits, fmt.Sprintf(`{"key":"c%d","name":"lamp %d","kind":"lights","from":"p49","known":"guess"}`, i, i))
	}
	bank := `{"key":"b%d","name":"bank %d","role":"house","batteries":[],"series":1,
		"fixed":{"count":1,"chemistry":"agm","volts":12,"amp_hours":70}}`
	return fmt.Appendf(nil, `{"banks":[`+bank+`,`+bank+`],"parts":[%s],"circuits":[%s]}`, 0, 0, 1, 1,
		strings.Join(parts, ","), strings.Join(circuits, ","))
}

// What hostile files and greedy questions ask for at the same time stays under 600 MB.
func TestHostileRequestsStayWithinMemory(t *testing.T) {
	beside(t)
	cmd, address := run(t, "demo", databaseOf(t))
	t.Cleanup(func() { stop(t, cmd) })
	var picture bytes.Buffer
	require.NoError(t, (&png.Encoder{CompressionLevel: png.BestSpeed}).Encode(&picture, image.NewGray(image.Rect(0, 0, 7000, 7000))))
	var strip bytes.Buffer
	require.NoError(t, png.Encode(&strip, image.NewGray(image.Rect(0, 0, 100_000, 1))))
	rows := []byte("name,count,length_cm,breadth_cm,height_cm,kg\n" + strings.Repeat("net,1,10,10,5,0.2\n", 9990))
	commas := bytes.Repeat([]byte(","), 8<<20-1)
	lines := fmt.Appendf(nil, `{"text":%q,"add":false}`, strings.Repeat("2 x 20 L can 40x25x40 17kg @port bench +Oskar #a\n", 1000))
	fittings := fmt.Appendf(nil, `{"text":%q}`, strings.Repeat("cleat 20 cm\n", 2400))
	pack := fmt.Appendf(nil, `{"pack":%q}`, strings.Repeat("[", 60_000))
	track := []byte("<gpx><trk><trkseg>" + strings.Repeat(`<trkpt lat="58.1" lon="11.2"/>`, 500_000) + "</trkseg></trk></gpx>")
	var all sync.WaitGroup
	for n := range 4 {
		a := attack(t, address)
		all.Go(func() {
			path := a.crew + "/boats/" + a.boat
			for _, one := range []struct {
				path, kind string
				body       []byte
			}{{path + "/photos", "application/octet-stream", picture.Bytes()}, {path + "/photos", "application/octet-stream", strip.Bytes()},
				{a.crew + "/import-preview", "text/csv", rows}, {a.crew + "/import-preview", "text/csv", commas},
				{a.crew + "/gear-lines", "application/json", lines},
				{path + "/rigging/lines", "application/json", fittings}, {path + "/power/try", "application/json", ladder()},
				{a.crew + "/packs", "application/json", pack}, {a.crew + "/tracks", "application/gpx+xml", track},
				{path + "/plan", "application/json", []byte(`{"school":"use","quay":true,"seed":1}`)}} {
				status, text := a.send("POST", one.path, one.body, one.kind, store.NewID().String())
				assert.NotZero(t, status, one.path)
				if strings.HasSuffix(one.path, "/power/try") || strings.HasSuffix(one.path, "/rigging/lines") {
					assert.Equal(t, 200, status, "%s: %.300s", one.path, text) // long, and nothing is wrong with it
				}
				assert.True(t, status < 500 || status == 503, "%d %s: %d %.200s", n, one.path, status, text)
			}
		})
	}
	all.Wait()
	mb := peakMB(t, cmd)
	t.Logf("peak memory %d MB", mb)
	assert.Less(t, mb, 600)
}
