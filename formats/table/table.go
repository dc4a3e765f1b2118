// Package table reads and writes the gear list as comma-separated text (RFC
// 4180), and reads what was copied from a spreadsheet (separated by tabs or
// semicolons) as people have it: with a title over the headings, in UTF-8, UTF-16
// or Windows-1252. What a heading means is not its business. It reads hostile
// files calmly: a fault names the line.
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

	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"
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

// Table is what was read: its headings as they are written, and its rows. A column
// without a heading that holds something is called by its number.
type Table struct {
	Headings []string
	Rows     []Row
}

// headingWithin is in how many lines the headings are looked for: people put a
// title over them.
const headingWithin = 10

// Read reads a table. Its headings are the first line, or that of the first lines
// of which known says that it knows most. Text in UTF-8, UTF-16 and Windows-1252
// is read.
func Read(raw []byte, known func(heading string) bool) (Table, error) {
	text, err := decoded(raw)
	if err != nil {
		return Table{}, err
	}
	if len(bytes.TrimSpace(text)) == 0 {
		return Table{}, &Fault{Line: 1, Why: "the table is empty: its first line names the columns"}
	}
	r := csv.NewReader(bytes.NewReader(text))
	r.Comma = separator(text)
	if bytes.Count(text, []byte(string(r.Comma))) > MaxRows*maxCols { // known at once, where reading takes seconds
		return Table{}, &Fault{Line: 1, Why: fmt.Sprintf("there are more cells than %d rows of %d columns: cut the table into parts",
			MaxRows, maxCols)}
	}
	r.FieldsPerRecord = -1 // told below, with the line
	records, lines, err := readAll(r, text)
	if err != nil {
		return Table{}, err
	}
	at := headingRow(records, known)
	headings, err := namedColumns(records, lines, at)
	if err != nil {
		return Table{}, err
	}
	t := Table{Headings: headings}
	for i := at + 1; i < len(records); i++ {
		row, err := readRow(records[i], headings, lines[i])
		if err != nil {
			return Table{}, err
		}
		if row != nil {
			t.Rows = append(t.Rows, *row)
		}
	}
	return t, nil
}

func readAll(r *csv.Reader, text []byte) (records [][]string, lines []int, err error) {
	for {
		cells, err := r.Read()
		if errors.Is(err, io.EOF) {
			return records, lines, nil
		}
		if err != nil {
			return nil, nil, csvFault(err, text)
		}
		line, _ := r.FieldPos(0)
		if len(records) > MaxRows {
			return nil, nil, &Fault{Line: line, Why: fmt.Sprintf("there are more than %d rows: cut the table into parts", MaxRows)}
		}
		records, lines = append(records, cells), append(lines, line)
	}
}

// headingRow finds the line of the headings.
func headingRow(records [][]string, known func(string) bool) int {
	best, most := 0, 0
	for i, cells := range records[:min(len(records), headingWithin)] {
		n := 0
		for _, c := range cells {
			if known(strings.TrimSpace(c)) {
				n++
			}
		}
		if n > most {
			best, most = i, n
		}
	}
	return best
}

// namedColumns gives every column a name of its own.
func namedColumns(records [][]string, lines []int, at int) ([]string, error) {
	headings := make([]string, 0, len(records[at]))
	seen := map[string]bool{}
	for _, c := range records[at] {
		h := strings.TrimSpace(unguard(c))
		if h != "" && seen[strings.ToLower(h)] {
			return nil, &Fault{Line: lines[at], Why: fmt.Sprintf("two columns are called %q", short(h))}
		}
		seen[strings.ToLower(h)] = true
		headings = append(headings, short(h))
	}
	for _, cells := range records[at+1:] {
		for i, c := range cells {
			if strings.TrimSpace(c) == "" {
				continue
			}
			for len(headings) <= i && i < maxCols {
				headings = append(headings, "")
			}
			if i < len(headings) && headings[i] == "" {
				headings[i] = fmt.Sprintf("column %d", i+1)
			}
		}
	}
	widest := 0
	for _, cells := range records {
		widest = max(widest, len(cells))
	}
	if widest > maxCols {
		return nil, &Fault{Line: lines[at], Why: fmt.Sprintf("there are %d columns, %d are the most", widest, maxCols)}
	}
	return headings, nil
}

// decoded gives text as UTF-8, refuses what is no text, and says where it stops being one.
func decoded(text []byte) ([]byte, error) {
	line := func(at int) int { return 1 + bytes.Count(text[:at], []byte("\n")) }
	if len(text) > MaxBytes {
		return nil, &Fault{Line: line(MaxBytes), Why: fmt.Sprintf("the table is larger than %d MB; what is beyond this line was not read", MaxBytes>>20)}
	}
	for _, kind := range []struct{ head, name string }{{"PK\x03\x04", "a zip archive (or a spreadsheet's own file)"},
		{"\x1f\x8b", "a gzip archive"},
		{"%PDF", "a PDF"}, {"\xd0\xcf\x11\xe0", "a spreadsheet's own file"}} {
		if bytes.HasPrefix(text, []byte(kind.head)) {
			return nil, &Fault{Line: 1, Why: "this is " + kind.name + ": save it as CSV"}
		}
	}
	if e := utf16Of(text); e != nil {
		if wide, err := e.NewDecoder().Bytes(text); err == nil {
			text = wide
		}
	}
	text = bytes.TrimPrefix(text, []byte("\uFEFF"))
	if !utf8.Valid(text) {
		if western, err := charmap.Windows1252.NewDecoder().Bytes(text); err == nil {
			text = western // it has a letter for nearly every byte: what is no text is told below
		}
	}
	for at, c := range string(text) {
		if c == 0 {
			return nil, &Fault{Line: line(at), Why: "there is a null byte: this is no text"}
		}
		if c == utf8.RuneError || c < ' ' && !strings.ContainsRune("\t\r\n", c) {
			return nil, &Fault{Line: line(at), Why: "there are signs here that no text has: save the table as CSV, in UTF-8"}
		}
	}
	return text, nil
}

// utf16Of is the kind of UTF-16 that a text is in, by its mark, or by where the
// first letters have their empty byte; nil where it is another text.
func utf16Of(text []byte) encoding.Encoding {
	big, little := unicode.UTF16(unicode.BigEndian, unicode.UseBOM), unicode.UTF16(unicode.LittleEndian, unicode.UseBOM)
	switch {
	case bytes.HasPrefix(text, []byte("\xff\xfe")):
		return little
	case bytes.HasPrefix(text, []byte("\xfe\xff")):
		return big
	case len(text) >= 4 && text[0] != 0 && text[1] == 0 && text[3] == 0:
		return unicode.UTF16(unicode.LittleEndian, unicode.IgnoreBOM)
	case len(text) >= 4 && text[0] == 0 && text[1] != 0 && text[2] == 0:
		return unicode.UTF16(unicode.BigEndian, unicode.IgnoreBOM)
	}
	return nil
}

// separator is the one of comma, semicolon and tab that the first line with any has most.
func separator(text []byte) rune {
	for range headingWithin { // a title over the table may have none
		var first []byte
		first, text, _ = bytes.Cut(text, []byte("\n"))
		best := ','
		for _, c := range "\t;" {
			if bytes.Count(first, []byte(string(c))) > bytes.Count(first, []byte(string(best))) {
				best = c
			}
		}
		if bytes.ContainsRune(first, best) {
			return best
		}
	}
	return ','
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
		if c == "" || headings[i] == "" {
			continue
		}
		if utf8.RuneCountInString(c) > maxCell {
			return nil, &Fault{Line: line, Why: fmt.Sprintf("%s has more than %d characters", headings[i], maxCell)}
		}
		row.Cells[headings[i]] = unguard(c)
		filled = filled || strings.TrimSpace(c) != ""
	}
	if !filled {
		return nil, nil
	}
	return &row, nil
}
