package table

import (
	"bytes"
	"encoding/csv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

var columns = []string{"name", "kg"}

func TestWhatIsWrittenComesBackTheSame(t *testing.T) {
	for _, name := range []string{"=1+1", "'=1+1", "''", "'", "+49", "-5", "@x", "\tx", "a\nb", "a\n\nb", `say "net"`, "a,b;c", "＝1", " x ", "å ø 网", "'quoted'"} {
		text, err := Write(columns, [][]string{{name, "1"}})
		require.NoError(t, err)
		rows, err := Read(text, columns)
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
		rows, err := Read(text, columns)
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
		"\xff\xfen\x00":                      "Line 1: this is UTF-16",
		"name\nnet\n\x00":                    "Line 3: there is a null byte",
		"name\nnet\nb\xe5t":                  "Line 3: this is not UTF-8",
		"name\nnet\n\"open\nand on":          "Line 3: a quote opens here and is not closed",
		"name\n\"a\"b":                       "Line 2: a quoted cell must be followed",
		"name\na\"b":                         "Line 2: a quote stands inside",
		"name,colour\nnet,red":               `Line 1: "colour" is no column: they are name, kg`,
		"name,name\na,b":                     `Line 1: two columns are called "name"`,
		"name\nnet,1":                        `Line 2: "1" is in a column that has no heading`,
		strings.Repeat(",", 100):             "Line 1: there are 101 columns",
		"name\n" + strings.Repeat("a", 3000): "Line 2: name has more than 2000 characters",
		"name\n" + strings.Repeat("a\n", MaxRows+1):    "Line 10002: there are more than 10000 rows",
		"name\n" + strings.Repeat("a\n", MaxBytes/2+1): "the table is larger than 8 MB",
	} {
		_, err := Read([]byte(text), columns)
		require.Error(t, err, want)
		assert.Contains(t, err.Error(), want)
	}
}

func TestWhatIsCopiedFromASpreadsheetIsRead(t *testing.T) {
	rows, err := Read([]byte("Name\tKg\nnet\t1,2\n\n\t\nbox\t3"), columns)
	require.NoError(t, err)
	assert.Equal(t, []Row{{Line: 2, Cells: map[string]string{"name": "net", "kg": "1,2"}},
		{Line: 5, Cells: map[string]string{"name": "box", "kg": "3"}}}, rows)
	rows, err = Read([]byte("\uFEFFname;kg\r\nnet;1,2\r\n"), columns)
	require.NoError(t, err)
	assert.Equal(t, "1,2", rows[0].Cells["kg"])
}
