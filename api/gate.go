package api

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"ergasia/app/refuse"
	"ergasia/core/words"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gin-gonic/gin"
	"github.com/google/uuid"
)

// gate refuses what no operation takes, wherever it stands in a request: numbers
// that are none or out of all bounds, the id of nothing, letters that the database
// can't keep. What passes it is checked by each operation's own rules.
func (s *Server) gate(c *gin.Context) {
	if err := s.sane(c); err != nil {
		writeProblem(c.Writer, http.StatusBadRequest, err.Error())
		c.Abort()
		return
	}
	c.Next()
}

func (s *Server) sane(c *gin.Context) error {
	for _, p := range c.Params {
		if err := saneText(p.Key, p.Value); err != nil {
			return err
		}
	}
	query, err := url.ParseQuery(c.Request.URL.RawQuery)
	if err != nil {
		return insane("The address can't be read: write spaces and signs in it as %%20 and the like.")
	}
	numbers := s.numbersOf(c.Request.Method, c.FullPath())
	for name, values := range query {
		for _, v := range values {
			if err := saneText(name, v); err != nil {
				return err
			}
			if slices.Contains(numbers, name) {
				if err := saneNumber(name, v); err != nil {
					return err
				}
			}
		}
	}
	if !strings.HasPrefix(c.ContentType(), "application/json") {
		return nil
	}
	return saneBody(c.Request)
}

// numbersOf are the numeric parameters of an operation's query.
func (s *Server) numbersOf(method, route string) (names []string) {
	item := s.huma.OpenAPI().Paths[pathOf(route)]
	if item == nil {
		return nil
	}
	op := map[string]*huma.Operation{"GET": item.Get, "POST": item.Post, "PUT": item.Put, "DELETE": item.Delete}[method]
	if op == nil {
		return nil
	}
	for _, p := range op.Parameters {
		if p.In == "query" && p.Schema != nil && (p.Schema.Type == "number" || p.Schema.Type == "integer") {
			names = append(names, p.Name)
		}
	}
	return names
}

// pathOf is a route of the router as the OpenAPI has it.
func pathOf(route string) string {
	parts := strings.Split(route, "/")
	for i, p := range parts {
		if name, is := strings.CutPrefix(p, ":"); is {
			parts[i] = "{" + name + "}"
		}
	}
	return strings.Join(parts, "/")
}

// deepest is how far a body may be nested.
const deepest = 20

// saneBody looks at every value of a body, and lets it be read again.
func saneBody(r *http.Request) error {
	text, err := io.ReadAll(io.LimitReader(r.Body, maxBody+1))
	r.Body = struct {
		io.Reader
		io.Closer
	}{io.MultiReader(bytes.NewReader(text), r.Body), r.Body}
	if err != nil || len(text) > maxBody {
		return nil // told where it is read
	}
	d := json.NewDecoder(bytes.NewReader(text))
	d.UseNumber()
	if err := saneValue(d, "", deepest); !errors.Is(err, errNoJSON) {
		return err
	}
	return nil // told where it is read
}

var errNoJSON = errors.New("no JSON")

// saneValue looks at the next value.
func saneValue(d *json.Decoder, name string, deep int) error {
	token, err := d.Token()
	if err != nil {
		return errNoJSON
	}
	switch v := token.(type) {
	case string:
		return saneText(name, v)
	case json.Number:
		return saneNumber(name, v.String())
	case json.Delim:
		if deep == 0 {
			return insane("%s is nested more than %d deep.", orBody(name), deepest)
		}
		for d.More() {
			of := name
			if v == '{' {
				key, err := d.Token()
				if err != nil {
					return errNoJSON
				}
				of, _ = key.(string)
			}
			if err := saneValue(d, of, deep-1); err != nil {
				return err
			}
		}
		if _, err := d.Token(); err != nil { // the end
			return errNoJSON
		}
	}
	return nil
}

func insane(sentence string, values ...any) error {
	return &refuse.Error{Kind: refuse.Invalid, Sentence: fmt.Sprintf(sentence, values...)}
}

// orBody names a value as a person does.
func orBody(name string) string {
	if name = words.FieldName(name); name == "" {
		return "The request"
	}
	return sentence(name)
}

// saneNumber wants what a person could mean: finite, and where it counts versions
// no more than the database counts.
func saneNumber(name, text string) error {
	n, err := strconv.ParseFloat(text, 64)
	if err != nil || math.IsNaN(n) || math.IsInf(n, 0) {
		return insane("%s is %s: it must be a number.", orBody(name), clipped(text))
	}
	if name == "version" && (n < 0 || n >= math.MaxInt32) {
		return insane("The version is %s: it must be the one that was read.", clipped(text))
	}
	return nil
}

func saneText(name, text string) error {
	if strings.ContainsRune(text, 0) || !utf8.ValidString(text) {
		return insane("%s has a letter that can't be kept.", orBody(name))
	}
	if text == uuid.Nil.String() {
		return insane("%s must be an id of something that is there.", orBody(name))
	}
	return nil
}

func clipped(text string) string {
	if len(text) > 30 {
		return text[:27] + "..."
	}
	return text
}
