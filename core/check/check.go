// Package check collects what is wrong with an input, so that a person reads
// every fault at once: each names the field, the value, and what would be right.
package check

import (
	"fmt"
	"math"
	"strings"
)

// Fault is one thing wrong with an input.
type Fault struct {
	Field string // as the caller wrote it, such as hull.stations[3].x_m
	Value any
	Want  string // what would be right, such as "a number above 0"
}

// Error is one sentence.
func (f Fault) Error() string {
	if f.Value == nil {
		return fmt.Sprintf("%s: %s", f.Field, f.Want)
	}
	return fmt.Sprintf("%s is %s: %s", f.Field, short(f.Value), f.Want)
}

func short(v any) string {
	text := fmt.Sprintf("%v", v)
	if s, ok := v.(string); ok {
		text = fmt.Sprintf("%q", s)
	}
	if r := []rune(text); len(r) > 60 {
		return string(r[:57]) + "..."
	}
	return text
}

// Faults is what is wrong with one input; it is an error when not empty.
type Faults []Fault

// Error has a line for each fault.
func (fs Faults) Error() string {
	lines := make([]string, len(fs))
	for i, f := range fs {
		lines[i] = f.Error()
	}
	return strings.Join(lines, "\n")
}

// Err gives the faults as an error, or nil where there are none.
func (fs Faults) Err() error {
	if len(fs) == 0 {
		return nil
	}
	return fs
}

// most faults are told of one input: who sends more has sent something else altogether.
const most = 200

// Add notes a fault.
func (fs *Faults) Add(field string, value any, want string) {
	if len(*fs) >= most {
		return
	}
	*fs = append(*fs, Fault{Field: field, Value: value, Want: want})
}

// Within notes a fault unless low <= v <= high; NaN and infinities never are.
func (fs *Faults) Within(field string, v, low, high float64) bool {
	if v >= low && v <= high && !math.IsInf(v, 0) {
		return true
	}
	fs.Add(field, v, fmt.Sprintf("must be from %g to %g", low, high))
	return false
}

// Text notes a fault unless the text has from low to high characters, none of
// them a control character.
func (fs *Faults) Text(field, text string, low, high int) {
	n := len([]rune(text))
	if n < low || n > high {
		fs.Add(field, text, fmt.Sprintf("must have from %d to %d characters, not %d", low, high, n))
		return
	}
	if strings.ContainsFunc(text, func(r rune) bool { return r < ' ' || r == 0x7f }) {
		fs.Add(field, text, "must not have control characters")
	}
}

// OneOf notes a fault unless v is one of the choices.
func (fs *Faults) OneOf(field, v string, choices ...string) {
	for _, c := range choices {
		if v == c {
			return
		}
	}
	fs.Add(field, v, "must be one of "+strings.Join(choices, ", "))
}
