package api

import (
	"io"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"

	"ergasia/store"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestWhatNoOperationTakesIsRefusedAtTheGate(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Ilse")
	boat, b := v.bench()
	crew := "/api/crews/" + s.crew.String()
	key := store.NewID().String
	gear := func(change string) string {
		return `{` + change + `,"size_m":[0.1,0.1,0.1],"kg":1,"mass_known":"guess","count":1,"needs_dry":false,"turn":"any"}`
	}
	for name, c := range map[string]struct{ method, path, body, says string }{
		"NaN in a query":      {"GET", boat + "/float?wind_m_s=NaN", "", "Wind is NaN"},
		"infinite in a query": {"GET", boat + "/float?wind_m_s=-Inf", "", "Wind is -Inf"},
		"a number of none":    {"POST", crew + "/gear", gear(`"name":"X","cost":1e999`), "Cost is 1e999"},
		"a version out of all": {"PUT", crew + "/gear/" + b.Gear[0].ID.String(), gear(`"name":"X","version":99999999999`),
			"version is 99999999999"},
		"a letter of none": {"POST", crew + "/gear", gear(`"name":"X\\u0000"`), "Name has a letter"},
		"a login with it": {"POST", "/api/session", `{"login":"una\\u0000","password":"a long password"}`,
			"Login has a letter"},
		"the id of nothing": {"PUT", crew + "/gear/" + uuid.Nil.String(), gear(`"name":"X","version":1`),
			"Gear must be an id"},
		"of nothing, in a body": {"POST", boat + "/moves", `{"gear_id":"` + uuid.Nil.String() + `","version":1}`,
			"Gear must be an id"},
		"a letter in a query": {"GET", crew + "/find?q=" + url.QueryEscape("a\x00"), "", "Search has a letter"},
		"a broken address":    {"GET", crew + "/find?q=%zz", "", "address can't be read"},
		"a deep body":         {"POST", crew + "/gear", strings.Repeat("[", 5000), "nested more than 20 deep"},
	} {
		body := any(strings.ReplaceAll(c.body, `\\`, `\`))
		if c.body == "" {
			body = nil
		}
		resp, text := v.send(c.method, c.path, body, "Idempotency-Key", key())
		assert.Equal(t, http.StatusBadRequest, resp.StatusCode, "%s: %s", name, text)
		assert.Contains(t, problemOf(t, text).Detail, c.says, name)
	}
	resp, text := v.send("GET", crew+"/find?q=nan", nil)
	assert.Equal(t, 200, resp.StatusCode, "a word may be any: %s", text)
}

func TestWhatIsNoJSONEndsAtOnce(t *testing.T) {
	for _, text := range []string{"", "{", "[1,", `{"a":`, `{"a" 1}`, "[}", `[1 2]`, `{"a":[{]}`, "nonsense", "\xff",
		`"open`} {
		r := httptest.NewRequest("POST", "/", strings.NewReader(text))
		assert.NoError(t, saneBody(r), "%q is told where it is read", text)
		again, err := io.ReadAll(r.Body)
		require.NoError(t, err)
		assert.Equal(t, text, string(again), "and can be read again")
	}
}
