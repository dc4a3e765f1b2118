package api

import (
	"cmp"
	"encoding/json"
	"fmt"
	"maps"
	"math/rand/v2"
	"net/http"
	"net/url"
	"os"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"ergasia/store"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// schema is what the OpenAPI says of a value, as far as the fuzzer reads it.
type schema struct {
	Ref        string             `json:"$ref"`
	Type       any                `json:"type"` // a name, or several
	Format     string             `json:"format"`
	Enum       []any              `json:"enum"`
	Items      *schema            `json:"items"`
	Properties map[string]*schema `json:"properties"`
	Required   []string           `json:"required"`
	MinItems   int                `json:"minItems"`
	MaxItems   int                `json:"maxItems"`
	Minimum    *float64           `json:"minimum"`
	Maximum    *float64           `json:"maximum"`
}

type fuzzed struct {
	ID         string `json:"operationId"`
	Parameters []struct {
		Name   string
		In     string
		Schema *schema
	}
	Body *struct {
		Content map[string]struct{ Schema *schema }
	} `json:"requestBody"`
}

// fuzzer makes requests that nobody means: each value is now and then one of the
// worst of its kind.
type fuzzer struct {
	*rand.Rand
	components map[string]*schema
	ids        []string            // of what there is
	real       map[string][]string // the same, by the name of a path's parameter
	nasty      float64             // share of values that make no sense, in this request
}

func (f *fuzzer) sensible() bool { return f.Float64() >= f.nasty }

func (f *fuzzer) oneIn(n int) bool { return f.IntN(n) == 0 }

func pick[T any](f *fuzzer, list ...T) T { return list[f.IntN(len(list))] }

func (f *fuzzer) text() string {
	if f.sensible() {
		return pick(f, fmt.Sprintf("thing %d", f.IntN(1000)), "anchor", "2027-03-31", "deck")
	}
	return pick(f, "", "x", "anchor", "'; DROP TABLE gear; --", "=1+1", "Ålesund 🎣", "\x00", "a\nb", "null", "NaN", "餌\u202e",
		strings.Repeat("n", pick(f, 79, 81, 300, 4000)), "2027-02-30", "00000000-0000-0000-0000-000000000000", "\U0001F469\u200d\U0001F467")
}

func (f *fuzzer) number() json.Number {
	if f.sensible() {
		return json.Number(pick(f, "1", "1", "2", "0.5", "0.1", "0"))
	}
	return json.Number(pick(f, "0", "1", "-1", "0.1", "0.3", "2", "12", "1e-9", "-1e-300", "1e15", "-1e308", "1e999", "1e-400",
		"2147483647", "2147483646", "1000000", "2147483648", "9223372036854775808", "0.30000000000000004"))
}

func (f *fuzzer) id() string {
	if !f.sensible() {
		return pick(f, store.NewID().String(), "00000000-0000-0000-0000-000000000000", "not-an-id", "")
	}
	return pick(f, f.ids...)
}

// value of a schema, or something else altogether.
func (f *fuzzer) value(s *schema, deep int) any {
	if s == nil || deep > 8 {
		return nil
	}
	if s.Ref != "" {
		return f.value(f.components[strings.TrimPrefix(s.Ref, "#/components/schemas/")], deep)
	}
	if !f.sensible() && f.oneIn(10) {
		return pick[any](f, nil, "x", f.number(), true, []any{}, map[string]any{"a": []any{map[string]any{}}})
	}
	if len(s.Enum) > 0 && f.sensible() {
		return pick(f, s.Enum...)
	}
	kind, _ := s.Type.(string)
	if several, is := s.Type.([]any); is {
		kind, _ = several[0].(string)
	}
	switch kind {
	case "object":
		return f.object(s, deep)
	case "array":
		return f.array(s, deep)
	case "number", "integer":
		return f.number()
	case "boolean":
		return f.oneIn(2)
	}
	if s.Format == "uuid" {
		return f.id()
	}
	return f.text()
}

func (f *fuzzer) object(s *schema, deep int) map[string]any {
	m := map[string]any{}
	for _, name := range slices.Sorted(maps.Keys(s.Properties)) {
		if slices.Contains(s.Required, name) && (f.sensible() || !f.oneIn(5)) || f.oneIn(2) {
			m[name] = f.value(s.Properties[name], deep+1)
		}
	}
	return m
}

func (f *fuzzer) array(s *schema, deep int) []any {
	list := []any{}
	for range min(max(s.MinItems, f.IntN(4)), 20) + f.IntN(2) {
		list = append(list, f.value(s.Items, deep+1))
	}
	return list
}

// spoil makes one value of a body one of the worst of its kind.
func (f *fuzzer) spoil(body any) {
	f.nasty = 1
	for {
		var within []func(any)
		var values []any
		switch v := body.(type) {
		case map[string]any:
			for _, key := range slices.Sorted(maps.Keys(v)) {
				within, values = append(within, func(to any) { v[key] = to }), append(values, v[key])
			}
		case []any:
			for i := range v {
				within, values = append(within, func(to any) { v[i] = to }), append(values, v[i])
			}
		}
		if len(values) == 0 {
			return
		}
		i := f.IntN(len(values))
		switch v := values[i].(type) {
		case map[string]any, []any:
			body = v
			continue
		case json.Number:
			within[i](f.number())
		case string:
			within[i](pick(f, f.text(), f.id()))
		default:
			within[i](pick[any](f, nil, "x", 7, []any{}))
		}
		return
	}
}

func (f *fuzzer) sensibly(name string, v any) any {
	switch v := v.(type) {
	case map[string]any:
		for key, one := range v {
			v[key] = f.sensibly(key, one)
		}
	case []any:
		for i, one := range v {
			v[i] = f.sensibly(name, one)
		}
	case float64:
		if name == "version" {
			return pick(f, 1, 1, 1, 2, 2, 3)
		}
	case string:
		if anID.MatchString(v) && name != "name" {
			return pick(f, f.real["gear"]...)
		}
	}
	return v
}

var anID = regexp.MustCompile(`^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$`)

// found lists the ids in an answer.
func found(v *visitor, path string) (ids []string) {
	_, text := v.send("GET", path, nil)
	for _, m := range regexp.MustCompile(`"id":"([0-9a-f-]{36})"`).FindAllStringSubmatch(string(text), -1) {
		if !slices.Contains(ids, m[1]) {
			ids = append(ids, m[1])
		}
	}
	return ids[:min(len(ids), 12)]
}

// request of an operation: its path and body.
func (f *fuzzer) request(crew, path string, op fuzzed) (address string, body any) {
	query := url.Values{}
	for _, p := range op.Parameters {
		switch {
		case p.In == "path" && p.Name == "crew":
			path = strings.ReplaceAll(path, "{crew}", crew)
		case p.In == "path":
			id := f.id()
			if known := f.real[p.Name]; len(known) > 0 && f.sensible() {
				id = pick(f, known...)
			}
			path = strings.ReplaceAll(path, "{"+p.Name+"}", url.PathEscape(id))
		case p.In == "query" && f.oneIn(2):
			query.Set(p.Name, fmt.Sprint(f.value(p.Schema, 0)))
		}
	}
	if op.Body == nil {
		return path + "?" + query.Encode(), nil
	}
	for kind, content := range op.Body.Content {
		if kind != "application/json" {
			return path, pick(f, "", "name\nx", f.text(), "name,kg,count\n=1+1,NaN,-1\n", "\xff\xfe", strings.Repeat(",", 5000))
		}
		if body = f.value(content.Schema, 0); f.nasty == 0 {
			f.spoil(body)
		}
	}
	return path + "?" + query.Encode(), body
}

// slow are operations that compute for long by nature: fewer of them are sent.
var slow = map[string]bool{"plan-stowage": true, "day-remedies": true, "print-sheets": true, "lid-cards": true,
	"stow-for-trip": true, "print-labels": true, "get-sheet": true, "print-power": true}

// leftOut are operations that would take the fuzzer's own place in the crew, and a stream that does not end.
var leftOut = []string{"part-with-member", "give-role", "watch-lists"}

// sending is a request: of a person, of a person whose hand slipped in one place, or of nobody.
func (f *fuzzer) sending(h *there, crew, path string, op fuzzed) (address string, body any) {
	f.nasty = pick(f, 0, 0, 0, 0.1, 0.5)
	if f.nasty == 0 {
		if address, body, ok := f.person(h, path, op, f.schemaOf(op)); ok {
			if body != nil && f.oneIn(4) {
				f.spoil(body)
			}
			return address, body
		}
	}
	return f.request(crew, path, op)
}

func (f *fuzzer) schemaOf(op fuzzed) *schema {
	what := &schema{}
	if op.Body != nil {
		if content, is := op.Body.Content["application/json"]; is && content.Schema != nil {
			what = content.Schema
		}
	}
	if what.Ref != "" {
		what = f.components[strings.TrimPrefix(what.Ref, "#/components/schemas/")]
	}
	return what
}

// Whatever is sent, the program says what is wrong with it, and breaks nowhere.
// ERGASIA_FUZZ says how many requests, where it is more than CI takes, and ERGASIA_FUZZ_SEED
// which others.
func TestNothingThatIsSentBreaksIt(t *testing.T) {
	n := 2000
	if more, err := strconv.Atoi(os.Getenv("ERGASIA_FUZZ")); err == nil {
		n = more
	}
	text, err := Spec()
	require.NoError(t, err)
	var doc struct {
		Paths      map[string]map[string]fuzzed
		Components struct{ Schemas map[string]*schema }
	}
	require.NoError(t, json.Unmarshal(text, &doc))
	s := newSite(t, true)
	v := s.as("Ilse")
	boat, b := v.bench()
	var kept []struct{ ID string }
	v.get(boat+"/arrangements", &kept)
	ids := []string{strings.Split(boat, "/")[5], b.Gear[0].ID.String(), b.Gear[1].ID.String(), b.Places[0].ID.String(),
		b.Posts[0].ID.String(), b.Members[1].ID.String(), kept[0].ID}
	real := map[string][]string{"boat": ids[:1], "gear": ids[1:3], "place": ids[3:4], "post": ids[4:5], "member": ids[5:6],
		"arrangement": ids[6:]}
	crew := "/api/crews/" + s.crew.String()
	for name, path := range map[string]string{"trip": crew + "/trips", "kit": crew + "/kits", "shed": crew + "/shed",
		"fitting": boat + "/rigging", "job": boat + "/jobs", "paper": crew + "/papers", "pack": crew + "/packs"} {
		real[name] = append(real[name], found(v, path)...)
		ids = append(ids, real[name]...)
	}
	type call struct{ method, path string }
	var calls []call
	for path, methods := range doc.Paths {
		for method := range methods {
			if strings.Contains(path, "{crew}") && !slices.Contains(leftOut, methods[method].ID) {
				calls = append(calls, call{method, path})
			}
		}
	}
	slices.SortFunc(calls, func(a, b call) int { return strings.Compare(a.path+a.method, b.path+b.method) })
	seed, _ := strconv.ParseUint(os.Getenv("ERGASIA_FUZZ_SEED"), 10, 64)
	const workers = 4 // at once, so that they meet
	withinMemory(t)
	adding := map[string]string{}
	for path, methods := range doc.Paths {
		if op, adds := methods["post"]; adds {
			path = strings.Replace(strings.TrimPrefix(path, "/api/crews/{crew}"), "/boats/{boat}", "{boat}", 1)
			adding[strings.Replace(path, "/trips/{trip}", "{trip}", 1)] = op.ID
		}
	}
	var busy atomic.Int64
	var meant sync.Map // operations that answered 2xx
	took := make([]map[string]time.Duration, workers)
	seen := make([]map[int]int, workers)
	var all sync.WaitGroup
	for w := range workers {
		seen[w] = map[int]int{}
		f := &fuzzer{Rand: rand.New(rand.NewPCG(20261126+seed, uint64(1+w))), components: doc.Components.Schemas, ids: ids, real: real}
		took[w] = map[string]time.Duration{}
		h := &there{visitor: v, crew: crew, boat: real["boat"][0], answers: map[string]any{}, operations: adding}
		all.Go(func() {
			for range n / workers {
				c := pick(f, calls...)
				op := doc.Paths[c.path][c.method]
				if slow[op.ID] && !f.oneIn(10) {
					continue
				}
				address, body := f.sending(h, s.crew.String(), c.path, op)
				began := time.Now()
				resp, answer := v.send(strings.ToUpper(c.method), address, body, "Idempotency-Key", store.NewID().String())
				took[w][op.ID] += time.Since(began)
				seen[w][resp.StatusCode/100]++
				if resp.StatusCode == http.StatusServiceUnavailable && resp.Header.Get("Retry-After") != "" {
					busy.Add(1) // it was busy, said so, and says when to come back
					continue
				}
				if resp.StatusCode/100 == 2 {
					meant.Store(op.ID, true)
				}
				if resp.StatusCode >= 500 {
					sent, _ := json.Marshal(body)
					assert.Fail(t, "it broke", "%s %s\n%.600s\n%d %.300s", op.ID, address, sent, resp.StatusCode, answer)
				}
			}
		})
	}
	all.Wait()
	var never []string
	for _, c := range calls {
		if id := doc.Paths[c.path][c.method].ID; !slices.Contains(never, id) {
			if _, ok := meant.Load(id); !ok {
				never = append(never, id)
			}
		}
	}
	slices.Sort(never)
	t.Logf("%d of %d operations never answered 2xx: %s", len(never), len(calls), strings.Join(never, ", "))
	t.Logf("peak memory %d MB, of program and test together; %d times busy", peakMB(t), busy.Load())
	assert.Less(t, peakMB(t), 600)
	assert.Less(t, busy.Load(), int64(1+n/500), "busy now and then")
	spent := map[string]time.Duration{}
	for _, one := range took {
		for id, d := range one {
			spent[id] += d
		}
	}
	dear := slices.SortedFunc(maps.Keys(spent), func(a, b string) int { return cmp.Compare(spent[b], spent[a]) })
	for _, id := range dear[:12] {
		t.Logf("%s took %v", id, spent[id].Round(time.Millisecond))
	}
	for _, one := range seen {
		assert.Greater(t, one[2], n/workers/20, "some of it is sense: %v", one)
		assert.Greater(t, one[4], n/workers/4, "and most is not")
	}
}
