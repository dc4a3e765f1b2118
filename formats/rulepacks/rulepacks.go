// Package rulepacks is the open format of rule packs: JSON, one rule a row, with a schema
// (rulepack.schema.json). The packs that are shipped are files beside this one.
package rulepacks

import (
	"bytes"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"regexp"
	"strings"

	"ergasia/core/carriage"
	"ergasia/core/check"
	"ergasia/core/words"
)

//go:embed *.pack.json rulepack.schema.json
var files embed.FS

// MaxBytes is the longest pack that is read.
const MaxBytes = 256 << 10

// Schema is the JSON Schema of a pack.
func Schema() []byte {
	text, _ := files.ReadFile("rulepack.schema.json") // embedded: it can't fail
	return text
}

var shipped = load()

// Shipped are the packs that come with the program, by name.
func Shipped() carriage.Library {
	lib := carriage.Library{}
	for name, p := range shipped {
		lib[name] = p
	}
	return lib
}

// load reads the packs that come with the program; a test reads them too, so that a broken
// one never leaves the house.
func load() carriage.Library {
	lib := carriage.Library{}
	names, _ := fs.Glob(files, "*.pack.json")
	for _, name := range names {
		text, _ := files.ReadFile(name)
		p, err := Read(text)
		if err != nil {
			panic(fmt.Sprintf("the pack %s is broken: %v", name, err))
		}
		lib[p.Name] = p
	}
	return lib
}

// Read reads a pack. What is wrong with it is told by the row and what would be right.
func Read(text []byte) (carriage.Pack, error) {
	var p carriage.Pack
	if len(text) > MaxBytes {
		return p, check.Faults{{Field: "pack", Value: len(text), Want: fmt.Sprintf("must be at most %d bytes", MaxBytes)}}
	}
	d := json.NewDecoder(bytes.NewReader(text))
	d.DisallowUnknownFields()
	if err := d.Decode(&p); err != nil {
		return p, check.Faults{unread(text, d.InputOffset(), err)}
	}
	if d.More() {
		return p, check.Faults{{Field: "pack", Want: "must be one JSON object, and nothing after it"}}
	}
	return p, p.Check()
}

var unknownField = regexp.MustCompile(`unknown field "(.*)"`)

// unread says in which row a pack could not be read.
func unread(text []byte, at int64, err error) check.Fault {
	row := rowAt(text, at)
	var kind *json.UnmarshalTypeError
	var syntax *json.SyntaxError
	switch {
	case unknownField.MatchString(err.Error()):
		return unknown(text, unknownField.FindStringSubmatch(err.Error())[1])
	case errors.As(err, &kind):
		return check.Fault{Field: rowAt(text, kind.Offset) + "." + last(kind.Field), Value: kind.Value,
			Want: "must be " + kindOf(kind.Type.String())}
	case errors.As(err, &syntax):
		return check.Fault{Field: rowAt(text, syntax.Offset), Want: fmt.Sprintf(
			"is no JSON in line %d: a comma, bracket or quotation mark is wrong there", lineOf(text, syntax.Offset))}
	}
	return check.Fault{Field: row, Want: "is no JSON: it ends too early, or is empty"}
}

func last(field string) string { return field[strings.LastIndex(field, ".")+1:] }

func kindOf(kind string) string {
	switch {
	case strings.HasPrefix(kind, "[]"):
		return "a list in square brackets"
	case strings.Contains(kind, "float") || strings.Contains(kind, "int"):
		return "a number"
	case strings.Contains(kind, "bool"):
		return "true or false"
	case strings.Contains(kind, "string"):
		return "text in quotation marks"
	}
	return "an object in braces"
}

// unknown says where an unknown field stands, and which are known there.
func unknown(text []byte, name string) check.Fault {
	at := bytes.Index(text, []byte(`"`+name+`"`))
	return check.Fault{Field: rowAt(text, int64(at)) + "." + name, Want: "is no field of a pack: a rule has id, what, when, " +
		"need, or, source, memory, note, why and hold; a line of need has class, count, per, spare, ages, fits, worn, in_date, " +
		"within_s and inside; see the schema"}
}

func lineOf(text []byte, at int64) int {
	return 1 + bytes.Count(text[:min(int(at), len(text))], []byte("\n"))
}

// rowAt is the rule in which a place of the text lies, from 0 as in the other faults.
func rowAt(text []byte, at int64) string {
	begins := bytes.Index(text, []byte(`"rules"`))
	if begins < 0 || int(at) <= begins {
		return "pack"
	}
	deep, row := 0, -1
	quoted := false
	for i := begins + len(`"rules"`); i < min(int(at), len(text)); i++ {
		switch c := text[i]; {
		case quoted && c == '\\':
			i++
		case c == '"':
			quoted = !quoted
		case quoted:
		case c == '{':
			if deep++; deep == 1 {
				row++
			}
		case c == '}':
			deep--
		}
	}
	if row < 0 {
		return "pack"
	}
	return fmt.Sprintf("rules[%d]", row)
}

// Classes are what the schema lists; a test holds it to the words.
func Classes() []string { return words.SafetyClasses.Keys() }
