package api

import (
	"math"
	"strings"

	"github.com/danielgtaylor/huma/v2"
)

// span is from where to where a number may be.
type span struct{ low, high float64 }

// spans of numbers by what they are in, which is the end of their names. They are wider than
// anything that a crew could mean, and keep out what nothing should be computed from; what a
// field may be is told by the rules of its own, which are narrower.
var spans = []struct {
	ends string
	span
}{
	{ends: "_mm", span: span{-1e5, 1e5}},
	{ends: "_m2", span: span{-1e5, 1e5}},
	{ends: "_m_s", span: span{-1000, 1000}},
	{ends: "_m", span: span{-1e7, 1e7}}, // a route's legs among them
	{ends: "_kg", span: span{-1e6, 1e6}},
	{ends: "kg", span: span{-1e6, 1e6}},
	{ends: "_l", span: span{-1e6, 1e6}},
	{ends: "_deg", span: span{-1e4, 1e4}},
	{ends: "_min", span: span{-1e6, 1e6}},
	{ends: "_s", span: span{-1e7, 1e7}},
	{ends: "volts", span: span{-1e4, 1e4}},
	{ends: "_v", span: span{-1e4, 1e4}},
	{ends: "_a", span: span{-1e5, 1e5}},
}

// Spans of what is in no unit.
var (
	versions = span{0, math.MaxInt32 - 1} // the database counts one more
	numbered = span{0, 1 << 53}           // of a log's lines: as far as JSON counts surely
	whole    = span{-1e6, 1e6}            // whole numbers: pieces, people, days
	seeds    = span{-1 << 53, 1 << 53}
	any9     = span{-1e9, 1e9}
)

func spanOf(name string, isWhole bool) span {
	switch {
	case name == "version":
		return versions
	case name == "before":
		return numbered
	case name == "seed":
		return seeds
	case isWhole:
		return whole
	}
	for _, s := range spans {
		if strings.HasSuffix(name, s.ends) {
			return s.span
		}
	}
	return any9
}

// boundNumbers gives every number of every input that has no bounds of its own wide ones, so
// that nothing is computed from a number that nobody could mean.
func boundNumbers(doc *huma.OpenAPI) {
	b := bounder{schemas: doc.Components.Schemas, seen: map[*huma.Schema]bool{}}
	for _, item := range doc.Paths {
		for _, op := range []*huma.Operation{item.Get, item.Post, item.Put, item.Delete} {
			if op == nil {
				continue
			}
			for _, p := range op.Parameters {
				b.bound(p.Schema, p.Name)
			}
			if op.RequestBody == nil {
				continue
			}
			for _, content := range op.RequestBody.Content {
				b.bound(content.Schema, "")
			}
		}
	}
}

type bounder struct {
	schemas huma.Registry
	seen    map[*huma.Schema]bool
}

// bound gives a value's numbers their bounds; name is the field that it is of.
func (b bounder) bound(s *huma.Schema, name string) {
	if s != nil && s.Ref != "" {
		s = b.schemas.SchemaFromRef(s.Ref)
	}
	if s == nil || b.seen[s] {
		return
	}
	b.seen[s] = true
	if s.Type == huma.TypeNumber || s.Type == huma.TypeInteger {
		of := spanOf(name, s.Type == huma.TypeInteger)
		if s.Minimum == nil && s.ExclusiveMinimum == nil {
			s.Minimum = &of.low
		}
		if s.Maximum == nil && s.ExclusiveMaximum == nil {
			s.Maximum = &of.high
		}
	}
	for field, property := range s.Properties {
		b.bound(property, field)
	}
	b.bound(s.Items, name)
	if more, is := s.AdditionalProperties.(*huma.Schema); is {
		b.bound(more, name)
	}
	s.PrecomputeMessages()
}
