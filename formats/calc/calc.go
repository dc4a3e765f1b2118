// Package calc is the public format of `ergasia calc`: JSON in, JSON out, one
// engine at a time. Each engine has a JSON Schema for either way; the one for
// input is also what an input is first checked with, so that the two agree.
package calc

import (
	"bytes"
	"cmp"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"slices"
	"strconv"
	"strings"
	"time"

	"ergasia/core/check"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"golang.org/x/text/language"
	"golang.org/x/text/message"
)

//go:embed *.schema.json
var schemas embed.FS

// maxInput is how much of an input is read, in bytes.
const maxInput = 32 << 20

// engines by name: each reads a checked input, which came at an instant, and
// gives what to write.
var engines = map[string]func(data []byte, came time.Time) (any, error){
	"carriage": runCarriage,
	"float":    runFloat,
	"day":      runDay,
	"fitting":  runFitting,
	"fuel":     runFuel,
	"capacity": runCapacity,
	"power":    runPower,
	"reach":    runReach,
	"stow":     runStow,
	"wire":     runWire,
}

// Engines are the names that Run knows, sorted.
func Engines() []string { return slices.Sorted(maps.Keys(engines)) }

// Schema gives an engine's JSON Schema; way is "in" or "out".
func Schema(engine, way string) ([]byte, error) {
	if _, ok := engines[engine]; !ok {
		return nil, unknown(engine)
	}
	if way != "in" && way != "out" {
		return nil, fmt.Errorf("--schema is %q: must be in or out", way)
	}
	return schemas.ReadFile(engine + "." + way + ".schema.json")
}

func unknown(engine string) error {
	return fmt.Errorf("there is no engine %q: the engines are %s", engine, strings.Join(Engines(), ", "))
}

// Run computes one input. An input that is wrong gives check.Faults.
func Run(engine string, in io.Reader) ([]byte, error) {
	run, ok := engines[engine]
	if !ok {
		return nil, unknown(engine)
	}
	data, err := io.ReadAll(io.LimitReader(in, maxInput+1))
	if err != nil {
		return nil, fmt.Errorf("reading the input: %w", err)
	}
	if len(data) > maxInput {
		return nil, check.Faults{{Field: "input", Value: len(data), Want: fmt.Sprintf("must be at most %d bytes", maxInput)}}
	}
	came := time.Now()
	if err := validate(engine, data); err != nil {
		return nil, err
	}
	out, err := run(data, came)
	if err != nil {
		return nil, err
	}
	text, err := json.MarshalIndent(out, "", "  ")
	if err != nil {
		return nil, fmt.Errorf("writing the result: %w", err)
	}
	return append(text, '\n'), nil
}

func validate(engine string, data []byte) error {
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(data))
	if err != nil {
		return check.Faults{{Field: "input", Want: "must be one JSON object (" + err.Error() + ")"}}
	}
	var wrong check.Faults
	doc = usual(doc, "", &wrong)
	if err := wrong.Err(); err != nil {
		return err
	}
	schema, err := compile(engine + ".in.schema.json")
	if err != nil {
		return err
	}
	var invalid *jsonschema.ValidationError
	if err := schema.Validate(doc); errors.As(err, &invalid) {
		var fs check.Faults
		leaves(invalid, &fs)
		return fs
	} else if err != nil {
		return fmt.Errorf("checking the input: %w", err)
	}
	return nil
}

// usual has numbers as the engines read them, and notes those that are out of all
// bounds: 1e-10000000 is one to JSON, and nothing that can be compared.
func usual(doc any, name string, fs *check.Faults) any {
	switch v := doc.(type) {
	case json.Number:
		n, err := v.Float64()
		digits, _, _ := strings.Cut(strings.ToLower(v.String()), "e")
		if err != nil || n == 0 && strings.ContainsAny(digits, "123456789") {
			fs.Add(cmp.Or(name, "input"), v.String(), "must be nought, or a number from 1e-308 to 1e308 or of the other sign")
		}
		return n
	case []any:
		for i := range v {
			v[i] = usual(v[i], fmt.Sprintf("%s[%d]", name, i), fs)
		}
	case map[string]any:
		for _, key := range slices.Sorted(maps.Keys(v)) {
			v[key] = usual(v[key], strings.TrimPrefix(name+"."+key, "."), fs)
		}
	}
	return doc
}

func compile(file string) (*jsonschema.Schema, error) {
	text, err := schemas.ReadFile(file)
	if err != nil {
		return nil, fmt.Errorf("reading the schema %s: %w", file, err)
	}
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	if err != nil {
		return nil, fmt.Errorf("reading the schema %s: %w", file, err)
	}
	c := jsonschema.NewCompiler()
	if err := c.AddResource(file, doc); err != nil {
		return nil, fmt.Errorf("reading the schema %s: %w", file, err)
	}
	return c.Compile(file)
}

// leaves turns the tree of a validation error into a fault for each leaf.
func leaves(e *jsonschema.ValidationError, fs *check.Faults) {
	if len(e.Causes) == 0 {
		fs.Add(fieldName(e.InstanceLocation), nil, e.ErrorKind.LocalizedString(message.NewPrinter(language.English)))
	}
	for _, c := range e.Causes {
		leaves(c, fs)
	}
}

// fieldName writes a location as people do: hull.stations[1].x_m.
func fieldName(location []string) string {
	var b strings.Builder
	for _, part := range location {
		if _, err := strconv.Atoi(part); err == nil {
			b.WriteString("[" + part + "]")
			continue
		}
		if b.Len() > 0 {
			b.WriteByte('.')
		}
		b.WriteString(part)
	}
	if b.Len() == 0 {
		return "input"
	}
	return b.String()
}
