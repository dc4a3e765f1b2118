package offsets

import (
	"strings"
	"testing"

	"ergasia/core/hull"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestEveryFormGoesOutAndInAsItWas(t *testing.T) {
	for _, f := range hull.Forms() {
		h := f.Hull(f.Usual())
		back, err := Read(Write(h))
		require.NoError(t, err)
		assert.Equal(t, h.Stations, back, f.Name)
	}
}

func TestATableInOtherUnitsAndWithSemicolonsIsRead(t *testing.T) {
	got, err := Read([]byte("\ufeffstation;x_mm;y_cm;z_in\n1;0;0;0\n1;0;90,5;10\n2;5000;0;0\n2;5000;80;12\n"))
	require.NoError(t, err)
	require.Len(t, got, 2)
	assert.InDelta(t, 0.905, got[0].Half[1].Y, 1e-12)
	assert.InDelta(t, 0.254, got[0].Half[1].Z, 1e-12)
	assert.InDelta(t, 5, got[1].X, 1e-12)
	assert.Nil(t, got[1].PointX)
}

func TestTablesThatCannotBeAreRefusedWithTheLine(t *testing.T) {
	head := "station,x_m,y_m,z_m\n"
	for table, want := range map[string]string{
		"":                                  "needs a header",
		head:                                "needs a header",
		"a,b,c,d\n1,0,0,0\n":                "line 1: must be the header",
		"station,x_m,y_yd,z_m\n1,0,0,0\n":   `line 1: "y_yd" must be y_m, y_cm`,
		head + "1,0,0,0\n1,0,wide,0\n":      `line 3: "wide" is not a number`,
		head + "1,0,0,NaN\n":                `line 2: "NaN" is not a number`,
		head + "1,0,0\n":                    "line 2: has 3 columns",
		head + "1,0,0,\x00\n":               "not plain text",
		head + "1,0,0,\xff\n":               "not plain text",
		head + "\"1,0,0,0\n":                "the table:",
		head + strings.Repeat("1", 1048577): "larger than 1048576 bytes",
	} {
		_, err := Read([]byte(table))
		assert.ErrorContains(t, err, want)
	}
}
