package api

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"net/url"
	"regexp"
	"strings"
	"time"

	"ergasia/store"
)

// What the fuzzer sends as a person would: bodies that are legal, about things that are there,
// with the versions that they have.

// object is one thing of an answer.
type object = map[string]any

// listings are where the things of a path's parameter are listed, and under which key of the
// answer: all of it where that is empty.
var listings = map[string]struct{ path, key string }{
	"trip": {"/trips", ""}, "kit": {"/kits", ""}, "shed": {"/shed", ""}, "paper": {"/papers", ""}, "pack": {"/packs", ""},
	"member": {"/members", ""}, "gear": {"{boat}/bench", "gear"}, "place": {"{boat}/bench", "places"},
	"post": {"{boat}/bench", "posts"}, "fitting": {"{boat}/rigging", "fittings"}, "set": {"{boat}/rigging", "sets"},
	"job": {"{boat}/jobs", ""}, "arrangement": {"{boat}/arrangements", ""}, "check": {"{boat}/checks", "kept"},
	"service": {"/gear/{gear}", "services"}, "loan": {"/gear/{gear}", "bookings"}, "fish": {"{trip}/catch", ""},
	"undoable": {"/undoable", ""}, "line": {"{trip}/lists", "stages"},
}

// adders are what adds one where none is left.
var adders = map[string]string{"trip": "/trips", "kit": "/kits", "shed": "/shed", "paper": "/papers", "fitting": "{boat}/fittings",
	"set": "{boat}/rig-sets", "job": "{boat}/jobs", "arrangement": "{boat}/arrangements", "check": "{boat}/checks",
	"service": "/gear/{gear}/services", "fish": "{trip}/catch", "line": "/list-lines", "loan": "/gear/{gear}/loans",
	"place": "{boat}/places", "post": "{boat}/posts", "pack": "/packs"}

// there is what one visitor finds, as it goes.
type there struct {
	*visitor
	crew, boat string
	trip       string
	answers    map[string]any // of what was asked lately
	asked      int
	operations map[string]string // by "POST /path", for adding
}

// ask gives an answer, which may be a few requests old.
func (h *there) ask(path string) any {
	if h.asked++; h.asked%100 == 0 {
		h.answers = map[string]any{}
	}
	if a, known := h.answers[path]; known {
		return a
	}
	var a any
	if resp, text := h.send("GET", path, nil); resp.StatusCode == 200 {
		_ = json.Unmarshal(text, &a)
	}
	h.answers[path] = a
	return a
}

// things are the objects with an id in an answer, at its top and one below. A crew's own
// lines stand in the stages of a list.
func things(answer any, key string) (list []object) {
	switch v := answer.(type) {
	case []any:
		for _, one := range v {
			o, is := one.(object)
			switch {
			case is && o["own_id"] != nil:
				list = append(list, object{"id": o["own_id"], "version": o["version"]})
			case is && o["id"] == nil && o["gear_id"] != nil:
				list = append(list, object{"id": o["gear_id"], "version": o["version"]})
			case is && o["id"] != nil:
				list = append(list, o)
			case is && o["lines"] != nil:
				list = append(list, things(o["lines"], "")...)
			}
		}
	case object:
		if key != "" {
			return things(v[key], "")
		}
		if v["id"] != nil {
			return []object{v}
		}
		for _, one := range v {
			list = append(list, things(one, "")...)
		}
	}
	return list
}

// at fills the names of a path with what was chosen.
func (h *there) at(path string, chosen map[string]object) string {
	if strings.HasPrefix(path, "{boat}") {
		path = "/boats/" + h.boat + strings.TrimPrefix(path, "{boat}")
	}
	if strings.HasPrefix(path, "{trip}") {
		path = "/trips/" + h.trip + strings.TrimPrefix(path, "{trip}")
	}
	for name, o := range chosen {
		path = strings.ReplaceAll(path, "{"+name+"}", o["id"].(string))
	}
	return h.crew + path
}

// choose picks a thing of a parameter; where none is left one is added.
func (f *fuzzer) choose(h *there, name string, chosen map[string]object) object {
	switch name {
	case "boat":
		return object{"id": h.boat}
	case "photo":
		return nil
	}
	where, known := listings[name]
	if name == "gear" && f.oneIn(2) && chosen["trip"] != nil {
		where.path, where.key = "{trip}/gear", "" // of the trip's own
	}
	if !known {
		return nil
	}
	list := things(h.ask(h.at(where.path, chosen)), where.key)
	if len(list) < 3 && adders[name] != "" {
		path := h.at(adders[name], chosen)
		h.send("POST", path, f.legally(h, h.operations[adders[name]]), "Idempotency-Key", store.NewID().String())
		h.answers = map[string]any{}
		list = things(h.ask(h.at(where.path, chosen)), where.key)
	}
	if len(list) == 0 {
		return nil
	}
	one := pick(f, list...)
	if name == "trip" {
		h.trip = one["id"].(string)
	}
	return one
}

// person is a request that a person might send: all that it names is there, and its body says
// what is known of it. what is the body's schema.
func (f *fuzzer) person(h *there, path string, op fuzzed, what *schema) (address string, body any, ok bool) {
	if trips := things(h.ask(h.crew+"/trips"), ""); len(trips) > 0 && h.trip == "" {
		h.trip = pick(f, trips...)["id"].(string)
	}
	chosen, order := map[string]object{}, []object{}
	for _, m := range regexp.MustCompile(`\{(\w+)\}`).FindAllStringSubmatch(path, -1) {
		if m[1] == "crew" {
			continue
		}
		o := f.choose(h, m[1], chosen)
		if m[1] == "photo" {
			upTo, _, _ := strings.Cut(path, "/{photo}")
			upTo = h.at(strings.TrimPrefix(upTo, "/api/crews/{crew}"), chosen)
			list, key := upTo, ""
			if strings.Contains(path, "/gear/") {
				list, key = strings.TrimSuffix(upTo, "/photos"), "photos"
			}
			if photos := things(h.ask(list), key); len(photos) > 0 {
				o = pick(f, photos...)
			} else {
				h.send("POST", upTo, dot(), "Content-Type", "application/octet-stream", "Idempotency-Key", store.NewID().String())
				h.answers = map[string]any{}
			}
		}
		if o == nil {
			return "", nil, false
		}
		chosen[m[1]] = o
		order = append([]object{o}, order...)
	}
	address = h.at(strings.TrimPrefix(path, "/api/crews/{crew}"), chosen)
	query := url.Values{}
	for _, p := range op.Parameters {
		if p.In == "query" && f.oneIn(2) {
			query.Set(p.Name, f.asked(p.Name))
		}
	}
	if op.ID == "print-sheets" || op.ID == "get-sheets" {
		query.Set("sheet", pick(f, "load", "packing", "fuel"))
	}
	if op.Body != nil {
		body = f.saying(h, op, what, address, order)
	}
	if len(query) > 0 {
		address += "?" + query.Encode()
	}
	return address, body, true
}

// asked is a value of a query's parameter.
func (f *fuzzer) asked(name string) string {
	switch name {
	case "limit", "offset", "before", "seed":
		return pick(f, "1", "2", "20")
	case "q", "query", "post":
		return pick(f, "helm", "net", "rod", "anchor")
	}
	return pick(f, "true", "false", "1", "name")
}

// saying is a body: what is legal, with what the things have, and a piece that lies where it lies.
func (f *fuzzer) saying(h *there, op fuzzed, what *schema, address string, about []object) any {
	switch {
	case strings.HasSuffix(op.ID, "-photo"):
		return dot()
	case op.ID == "read-track":
		return `<gpx><trk><name>out</name><trkseg><trkpt lat="58" lon="11"/><trkpt lat="58.1" lon="11"/></trkseg></trk></gpx>`
	}
	legal := f.legally(h, op.ID)
	body, is := legal.(object)
	if !is {
		return legal
	}
	for _, up := range []string{"", "/try", "/remedies"} { // what is there now is changed a little, or tried
		if up != "" && !strings.HasSuffix(address, up) {
			continue
		}
		if now, is := h.ask(strings.TrimSuffix(address, up)).(object); is {
			about = append([]object{now}, about...)
		}
	}
	if op.ID == "keep-check" || op.ID == "try-check" {
		checks, _ := h.ask(strings.TrimSuffix(address, "/try")).(object)
		body["float"] = object{"step_m": 0.005, "ripple_m": 0.005, "readings": f.taped(checks)}
	}
	if op.ID == "accept-check" {
		checks, _ := h.ask(h.crew + "/boats/" + h.boat + "/checks").(object)
		body["version"] = checks["version"]
	}
	if boat, is := h.ask(h.crew + "/boats/" + h.boat).(object); is && strings.Contains(address, "/boats/") {
		about = append(about, boat)
	}
	if f.stowage(h, op.ID, body, about) {
		return body
	}
	for name := range what.Properties {
		for _, o := range about {
			if v, has := o[name]; has && v != nil && (name == "version" || name == "plan" || name == "kind" && op.ID != "accept-check") {
				if body[name] == nil || name == "version" || name == "plan" {
					body[name] = v
					break
				}
			}
		}
	}
	return body
}

// stowage says which piece is moved, from where it lies now; and whether that is all there is to say.
func (f *fuzzer) stowage(h *there, op string, body object, about []object) (whole bool) {
	bench, is := h.ask(h.crew + "/boats/" + h.boat + "/bench").(object)
	if !is {
		return false
	}
	state, _ := bench["state"].(object)
	lies, _ := state["stowage"].([]any)
	places := things(bench["places"], "")
	if len(lies) == 0 || len(places) == 0 {
		return false
	}
	one, _ := pick(f, lies...).(object)
	to := pick(f, places...)["id"]
	switch op {
	case "move", "try-move":
		body["gear_id"], body["version"], body["place_id"] = one["gear_id"], one["version"], to
		body["anyway"] = f.oneIn(2)
		delete(body, "member_id")
		delete(body, "post_id")
		whole = true
	case "put-gear":
		for _, l := range lies {
			if s, _ := l.(object); s["gear_id"] == about[0]["id"] {
				body["version"] = s["version"]
			}
		}
		body["place_id"], whole = to, true
	case "move-many":
		body["gear"], body["place_id"] = []any{object{"gear_id": one["gear_id"], "version": one["version"]}}, to
	case "accept-plan":
		body["moves"] = []any{object{"gear_id": one["gear_id"], "version": one["version"], "place_id": to}}
	case "weigh-gear":
		body["kg"] = 1
	case "accept-line":
		if trip, is := h.ask(h.crew + "/trips/" + h.trip).(object); is {
			if lines, _ := trip["lines"].([]any); len(lines) > 0 {
				line, _ := pick(f, lines...).(object)
				body["key"], body["said"] = line["key"], line["sentence"]
			}
		}
	case "promise-gear", "leave-ashore":
		body["gear"] = []any{one["gear_id"]}
	}
	return whole
}

// taped are readings with a tape, a hand deeper than the middle of her side.
func (f *fuzzer) taped(checks object) []any {
	var list []any
	points, _ := checks["points"].([]any)
	for _, p := range points {
		if o, is := p.(object); is && len(list) < 4 {
			list = append(list, object{"name": o["name"], "at_m": o["at_m"], "freeboard_m": 0.4 + 0.05*f.Float64()})
		}
	}
	return list
}

// legally is the legal body of an operation, with ids that are there.
func (f *fuzzer) legally(h *there, operation string) any {
	text, err := json.Marshal(legal(operation, object{}))
	var body any
	if err != nil || json.Unmarshal(text, &body) != nil {
		return nil
	}
	body = f.sensibly("", body)
	if b, is := body.(object); is {
		switch operation {
		case "add-trip": // over, about to be, or to come
			day := time.Now().AddDate(0, 0, pick(f, -3, -1, 1, 400)).Format(time.DateOnly)
			b["starts_on"], b["ends_on"], b["boat_id"] = day, day, h.boat
		case "add-service":
			b["last_on"] = time.Now().Format(time.DateOnly)
		case "add-place", "change-place":
			b["corner_m"] = []float64{2 + f.Float64(), 0, 0.4}
			b["name"] = store.NewID().String()
		case "add-pack", "change-pack":
			b["pack"] = onePack(f)
		}
	}
	return body
}

// onePack is a pack of rules of the crew's own.
func onePack(f *fuzzer) string {
	return fmt.Sprintf(`{"name":"ours-%d","title":"Ours","inherits":["prudent-coastal"],"rules":[{"id":"throwable",
		"what":"throwable device","need":[{"class":["throwable"],"count":2}],"source":"our own","why":"we lost one"}]}`, f.IntN(9))
}

// dot is a picture of one colour.
func dot() string {
	var raw bytes.Buffer
	_ = png.Encode(&raw, image.NewGray(image.Rect(0, 0, 8, 6))) // never fails
	return raw.String()
}
