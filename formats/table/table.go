// Package table reads and writes the gear list as comma-separated text (RFC
// 4180), and reads what was copied from a spreadsheet (separated by tabs or
// semicolons). It reads hostile files calmly: a fault names the line.
//
// Cells that a spreadsheet would run as a formula (they begin with = + - @, a tab
// or a carriage return, or the full-width forms of the signs; after OWASP, "CSV
// Injection", from memory) are written with an apostrophe before them, and so
// are cells that begin with an apostrophe; reading takes one off again, so what
// is written comes back the same.
package table

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strings"
	"unicode/utf8"
)

// Bounds of a table.
const (
	MaxBytes = 8 << 20
	MaxRows  = 10_000
	maxCell  = 2_000 // characters
	maxCols  = 60
)

// Fault is what is wrong with a table, and in which line.
type Fault struct {
	Line int // from 1; nought where it is of the whole table
	Why  string
}

// Error is one sentence.
func (f *Fault) Error() string {
	if f.Line == 0 {
		return f.Why
	}
	return fmt.Sprintf("Line %d: %s", f.Line, f.Why)
}

// Row is a line of a table: its cells by the heading of their column.
type Row struct {
	Line  int // in the file, from 1
	Cells map[string]string
}

const risky = "=+-@\t\r'＝＋－＠"

// guard makes a cell that no spreadsheet runs.
func guard(cell string) string {
	if first, _ := utf8.DecodeRuneInString(cell); cell != "" && strings.ContainsRune(risky, first) {
		return "'" + cell
	}
	return cell
}

func unguard(cell string) string {
	rest, guarded := strings.CutPrefix(cell, "'")
	if first, _ := utf8.DecodeRuneInString(rest); guarded && rest != "" && strings.ContainsRune(risky, first) {
		return rest
	}
	return cell
}

// Write writes a heading and rows, with the byte-order mark by which
// spreadsheets know UTF-8.
func Write(headings []string, rows [][]string) ([]byte, error) {
	var out bytes.Buffer
	out.WriteString("\uFEFF")
	w := csv.NewWriter(&out)
	w.UseCRLF = false // a line break in a cell must come back as it was
	if err := w.Write(headings); err != nil {
		return nil, fmt.Errorf("writing the headings: %w", err)
	}
	for _, row := range rows {
		safe := make([]string, len(row))
		for i, cell := range row {
			safe[i] = guard(cell)
		}
		if err := w.Write(safe); err != nil {
			return nil, fmt.Errorf("writing a row: %w", err)
		}
	}
	w.Flush()
	return out.Bytes(), w.Error()
}

// Read reads a table whose first line is its headings; those are folded to lower
// case. known are the headings that there are; others are a fault, since what a
// column means must not be guessed.
func Read(text []byte, known []string) ([]Row, error) {
	if err := plain(text); err != nil {
		return nil, err
	}
	text = bytes.TrimPrefix(text, []byte("\uFEFF"))
	if len(bytes.TrimSpace(text)) == 0 {
		return nil, &Fault{Line: 1, Why: "the table is empty: its first line names the columns"}
	}
	r := csv.NewReader(bytes.NewReader(text))
	r.Comma = separator(text)
	if bytes.Count(text, []byte(string(r.Comma))) > MaxRows*maxCols { // known at once, where reading takes seconds
		return nil, &Fault{Line: 1, Why: fmt.Sprintf("there are more cells than %d rows of %d columns: cut the table into parts",
			MaxRows, maxCols)}
	}
	r.FieldsPerRecord = -1 // told below, with the line
	r.ReuseRecord = true
	headings, err := readHeadings(r, text, known)
	if err != nil {
		return nil, err
	}
	var rows []Row
	for {
		cells, err := r.Read()
		if errors.Is(err, io.EOF) {
			return rows, nil
		}
		if err != nil {
			return nil, csvFault(err, text)
		}
		line, _ := r.FieldPos(0)
		if len(rows) == MaxRows {
			return nil, &Fault{Line: line, Why: fmt.Sprintf("there are more than %d rows: cut the table into parts", MaxRows)}
		}
		row, err := readRow(cells, headings, line)
		if err != nil {
			return nil, err
		}
		if row != nil {
			rows = append(rows, *row)
		}
	}
}

// plain refuses what is no text, and says where it stops being one.
func plain(text []byte) error {
	line := func(at int) int { return 1 + bytes.Count(text[:at], []byte("\n")) }
	if len(text) > MaxBytes {
		return &Fault{Line: line(MaxBytes), Why: fmt.Sprintf("the table is larger than %d MB; what is beyond this line was not read", MaxBytes>>20)}
	}
	for _, kind := range []struct{ head, name string }{{"PK\x03\x04", "a zip archive (or a spreadsheet's own file)"},
		{"\x1f\x8b", "a gzip archive"},
		{"%PDF", "a PDF"}, {"\xd0\xcf\x11\xe0", "a spreadsheet's own file"}} {
		if bytes.HasPrefix(text, []byte(kind.head)) {
			return &Fault{Line: 1, Why: "this is " + kind.name + ": save it as CSV, in UTF-8"}
		}
	}
	if bytes.HasPrefix(text, []byte("\xff\xfe")) || bytes.HasPrefix(text, []byte("\xfe\xff")) {
		return &Fault{Line: 1, Why: "this is UTF-16: save it as CSV, in UTF-8"}
	}
	if at := bytes.IndexByte(text, 0); at >= 0 {
		return &Fault{Line: line(at), Why: "there is a null byte: this is no text"}
	}
	if !utf8.Valid(text) {
		at := 0
		for at < len(text) {
			r, n := utf8.DecodeRune(text[at:])
			if r == utf8.RuneError && n == 1 {
				break
			}
			at += n
		}
		return &Fault{Line: line(at), Why: "this is not UTF-8: save it as CSV, in UTF-8"}
	}
	return nil
}

// separator is the one of comma, semicolon and tab that the first line has most.
func separator(text []byte) rune {
	first, _, _ := bytes.Cut(text, []byte("\n"))
	best := ','
	for _, c := range "\t;" {
		if bytes.Count(first, []byte(string(c))) > bytes.Count(first, []byte(string(best))) {
			best = c
		}
	}
	return best
}

func csvFault(err error, text []byte) error {
	var parse *csv.ParseError
	if !errors.As(err, &parse) {
		return &Fault{Line: 0, Why: "The table can't be read: " + err.Error()}
	}
	switch {
	case errors.Is(parse.Err, csv.ErrQuote) && quotesFrom(text, parse.StartLine)%2 == 1:
		return &Fault{Line: parse.StartLine, Why: "a quote opens here and is not closed"}
	case errors.Is(parse.Err, csv.ErrQuote):
		return &Fault{Line: parse.Line, Why: "a quoted cell must be followed by a separator; write a quote in it twice"}
	case errors.Is(parse.Err, csv.ErrBareQuote):
		return &Fault{Line: parse.Line, Why: "a quote stands inside a cell that is not quoted: quote the cell, and write the quote twice"}
	}
	return &Fault{Line: parse.Line, Why: parse.Err.Error()}
}

// quotesFrom counts the quotes from a line on; an odd number leaves one open.
func quotesFrom(text []byte, line int) int {
	for range line - 1 {
		_, text, _ = bytes.Cut(text, []byte("\n"))
	}
	return bytes.Count(text, []byte(`"`))
}

func readHeadings(r *csv.Reader, text []byte, known []string) ([]string, error) {
	cells, err := r.Read()
	if err != nil {
		return nil, csvFault(err, text)
	}
	if len(cells) > maxCols {
		return nil, &Fault{Line: 1, Why: fmt.Sprintf("there are %d columns, %d are the most", len(cells), maxCols)}
	}
	headings := make([]string, len(cells))
	seen := map[string]bool{}
	for i, c := range cells {
		h := strings.ToLower(strings.TrimSpace(c))
		if h != "" && seen[h] {
			return nil, &Fault{Line: 1, Why: fmt.Sprintf("two columns are called %q", h)}
		}
		if h != "" && !contains(known, h) {
			return nil, &Fault{Line: 1, Why: fmt.Sprintf("%q is no column: they are %s", short(h), strings.Join(known, ", "))}
		}
		headings[i], seen[h] = h, true
	}
	return headings, nil
}

func contains(list []string, one string) bool {
	for _, l := range list {
		if l == one {
			return true
		}
	}
	return false
}

func short(text string) string {
	if r := []rune(text); len(r) > 40 {
		return string(r[:40]) + "…"
	}
	return text
}

// readRow gives the cells by heading; nil for a line with nothing in it.
func readRow(cells, headings []string, line int) (*Row, error) {
	row := Row{Line: line, Cells: make(map[string]string, len(headings))}
	filled := false
	for i, c := range cells {
		if c == "" {
			continue
		}
		if i >= len(headings) || headings[i] == "" {
			if strings.TrimSpace(c) == "" {
				continue
			}
			return nil, &Fault{Line: line, Why: fmt.Sprintf("%q is in a column that has no heading", short(c))}
		}
		if utf8.RuneCountInString(c) > maxCell {
			return nil, &Fault{Line: line, Why: fmt.Sprintf("%s has more than %d characters", headings[i], maxCell)}
		}
		row.Cells[headings[i]] = unguard(c)
		filled = true
	}
	if !filled {
		return nil, nil
	}
	return &row, nil
}
