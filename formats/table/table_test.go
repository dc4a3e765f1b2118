package table

import (
	"bytes"
	"encoding/csv"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"
	"pgregory.net/rapid"
)

var columns = []string{"name", "kg"}

func isColumn(heading string) bool { return slices.Contains(columns, strings.ToLower(heading)) }

// read gives the rows alone.
func read(text []byte) ([]Row, error) {
	t, err := Read(text, isColumn)
	return t.Rows, err
}

func TestWhatIsWrittenComesBackTheSame(t *testing.T) {
	for _, name := range []string{"=1+1", "'=1+1", "''", "'", "+49", "-5", "@x", "\tx", "a\nb", "a\n\nb", `say "net"`, "a,b;c", "＝1", " x ", "å ø 网", "'quoted'"} {
		text, err := Write(columns, [][]string{{name, "1"}})
		require.NoError(t, err)
		rows, err := read(text)
		require.NoError(t, err, name)
		require.Len(t, rows, 1, name)
		assert.Equal(t, name, rows[0].Cells["name"])
	}
}

func TestAnyNameComesBackTheSame(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		name := rapid.StringOfN(rapid.RuneFrom([]rune("=+-@'\"\n\t,; aåø1")), 1, 20, -1).Draw(t, "name")
		text, err := Write(columns, [][]string{{name, "1"}})
		if err != nil {
			t.Fatal(err)
		}
		rows, err := read(text)
		if err != nil || len(rows) != 1 || rows[0].Cells["name"] != name {
			t.Fatalf("%q: %v %v", name, rows, err)
		}
	})
}

// A spreadsheet runs a cell that begins with one of these signs; the reader here
// is Go's own, which takes nothing off.
func TestASpreadsheetRunsNothing(t *testing.T) {
	text, err := Write(columns, [][]string{{"=HYPERLINK(1)", "+1"}, {"@SUM(1)", "-1"}, {"\t=1", "\r=1"}, {"＝1", "＋1"}})
	require.NoError(t, err)
	records, err := csv.NewReader(bytes.NewReader(bytes.TrimPrefix(text, []byte("\uFEFF")))).ReadAll()
	require.NoError(t, err)
	for _, record := range records[1:] {
		for _, cell := range record {
			assert.True(t, strings.HasPrefix(cell, "'"), "%q", cell)
		}
	}
}

func TestHostileFilesAreRefusedWithTheLine(t *testing.T) {
	for text, want := range map[string]string{
		"":                                   "Line 1: the table is empty",
		"PK\x03\x04zip":                      "Line 1: this is a zip archive",
		"\x1f\x8b":                           "Line 1: this is a gzip archive",
		"name\nnet\n\x00":                    "Line 3: there is a null byte",
		"name\nnet\nb\x81\x01t":              "Line 3: there are signs here that no text has",
		"name\nnet\n\"open\nand on":          "Line 3: a quote opens here and is not closed",
		"name\n\"a\"b":                       "Line 2: a quoted cell must be followed",
		"name\na\"b":                         "Line 2: a quote stands inside",
		"name,name\na,b":                     `Line 1: two columns are called "name"`,
		strings.Repeat(",", 100):             "Line 1: there are 101 columns",
		"name\n" + strings.Repeat("a", 3000): "Line 2: name has more than 2000 characters",
		"name\n" + strings.Repeat("a\n", MaxRows+1):    "Line 10002: there are more than 10000 rows",
		"name\n" + strings.Repeat("a\n", MaxBytes/2+1): "the table is larger than 8 MB",
	} {
		_, err := read([]byte(text))
		require.Error(t, err, want)
		assert.Contains(t, err.Error(), want)
	}
}

func TestWhatIsCopiedFromASpreadsheetIsRead(t *testing.T) {
	rows, err := read([]byte("name\tkg\nnet\t1,2\n\n\t\nbox\t3"))
	require.NoError(t, err)
	assert.Equal(t, []Row{{Line: 2, Cells: map[string]string{"name": "net", "kg": "1,2"}},
		{Line: 5, Cells: map[string]string{"name": "box", "kg": "3"}}}, rows)
	rows, err = read([]byte("\uFEFFname;kg\r\nnet;1,2\r\n"))
	require.NoError(t, err)
	assert.Equal(t, "1,2", rows[0].Cells["kg"])
}

// The same table as programs write it: every kind gives the same.
func TestTablesAreReadInTheLettersPeopleHave(t *testing.T) {
	const want = "blåbär “box”"
	plain := "name,kg\n" + want + ",1\n"
	western, err := charmap.Windows1252.NewEncoder().Bytes([]byte(plain))
	require.NoError(t, err)
	kinds := map[string][]byte{"UTF-8": []byte(plain), "Windows-1252": western}
	for name, order := range map[string]unicode.Endianness{"little": unicode.LittleEndian, "big": unicode.BigEndian} {
		for mark, policy := range map[string]unicode.BOMPolicy{"marked": unicode.UseBOM, "unmarked": unicode.IgnoreBOM} {
			kinds[name+" "+mark], err = unicode.UTF16(order, policy).NewEncoder().Bytes([]byte(plain))
			require.NoError(t, err)
		}
	}
	for kind, text := range kinds {
		rows, err := read(text)
		require.NoError(t, err, kind)
		require.Len(t, rows, 1, kind)
		assert.Equal(t, want, rows[0].Cells["name"], kind)
	}
}

func TestATitleOverTheHeadingsIsPassedOver(t *testing.T) {
	table, err := Read([]byte("Our gear 2026\n\nNo;Name;Kg;Colour;\n1;net;1,2;red;old\n"), isColumn)
	require.NoError(t, err)
	assert.Equal(t, []string{"No", "Name", "Kg", "Colour", "column 5"}, table.Headings)
	assert.Equal(t, []Row{{Line: 4, Cells: map[string]string{"No": "1", "Name": "net", "Kg": "1,2", "Colour": "red", "column 5": "old"}}},
		table.Rows)
}
