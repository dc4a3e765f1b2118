// Package offsets reads and writes a table of offsets as CSV: a row a point,
// station, x, y, z, from keel to sheer and aft to fore. The header names the
// unit of each column: x_m, x_cm, x_mm, x_ft or x_in. Commas or semicolons
// divide columns; with semicolons a comma may stand for the decimal point.
package offsets

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"
	"unicode/utf8"

	"ergasia/core/check"
	"ergasia/core/hull"
	"ergasia/core/units"
)

// MaxBytes is the largest table that is read.
const MaxBytes = 1 << 20

var unitOf = map[string]float64{"m": 1, "cm": 0.01, "mm": 0.001, "ft": units.FootM, "in": units.InchM}

// Write gives the stations as CSV in metres, which reads back as they are.
func Write(h hull.Hull) []byte {
	var b bytes.Buffer
	w := csv.NewWriter(&b)
	_ = w.Write([]string{"station", "x_m", "y_m", "z_m"}) // a buffer takes everything
	text := func(v float64) string { return strconv.FormatFloat(v, 'g', -1, 64) }
	for i, s := range h.Stations {
		for k, p := range s.Half {
			x := s.X
			if s.PointX != nil {
				x = s.PointX[k]
			}
			_ = w.Write([]string{strconv.Itoa(i + 1), text(x), text(p.Y), text(p.Z)})
		}
	}
	w.Flush()
	return b.Bytes()
}

// Read gives the stations of a table. Faults name the line.
func Read(table []byte) ([]hull.Station, error) {
	rows, first, err := split(table)
	if err != nil {
		return nil, err
	}
	scale, err := header(rows[0])
	if err != nil {
		return nil, err
	}
	var stations []hull.Station
	name := ""
	for i, row := range rows[1:] {
		field := fmt.Sprintf("line %d", first[i+1])
		if len(row) != 4 {
			return nil, fault(field, fmt.Sprintf("has %d columns: station, x, y, z are four", len(row)))
		}
		var v [3]float64
		for k := range v {
			n, err := strconv.ParseFloat(row[k+1], 64)
			if err != nil || math.IsNaN(n) || math.IsInf(n, 0) {
				return nil, fault(field, fmt.Sprintf("%.40q is not a number", row[k+1]))
			}
			v[k] = n * scale[k]
		}
		if len(stations) == 0 || row[0] != name {
			name = row[0]
			stations = append(stations, hull.Station{X: v[0]})
		}
		s := &stations[len(stations)-1]
		s.PointX, s.Half = append(s.PointX, v[0]), append(s.Half, hull.Point{Y: v[1], Z: v[2]})
	}
	for i := range stations {
		straighten(&stations[i])
	}
	return stations, nil
}

// straighten drops the points' own x where all are the station's.
func straighten(s *hull.Station) {
	for _, x := range s.PointX {
		if x != s.X {
			return
		}
	}
	s.PointX = nil
}

func fault(field, want string) error { return check.Faults{{Field: field, Want: want}} }

// split reads the rows, with the line that each began on.
func split(table []byte) (rows [][]string, lines []int, err error) {
	table = bytes.TrimPrefix(table, []byte("\ufeff"))
	switch {
	case len(table) > MaxBytes:
		return nil, nil, fault("the table", fmt.Sprintf("is larger than %d bytes", MaxBytes))
	case !utf8.Valid(table) || bytes.IndexByte(table, 0) >= 0:
		return nil, nil, fault("the table", "is not plain text in UTF-8: save it as CSV")
	}
	r := csv.NewReader(bytes.NewReader(table))
	r.FieldsPerRecord, r.TrimLeadingSpace = -1, true
	head, _, _ := strings.Cut(string(table), "\n")
	if strings.Contains(head, ";") {
		r.Comma = ';'
	}
	for {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, nil, fault("the table", err.Error())
		}
		line, _ := r.FieldPos(0)
		for i := range row {
			row[i] = strings.TrimSpace(row[i])
			if r.Comma == ';' {
				row[i] = strings.Replace(row[i], ",", ".", 1)
			}
		}
		rows, lines = append(rows, row), append(lines, line)
		if len(rows) > 401*201+1 {
			return nil, nil, fault("the table", "has more rows than any hull")
		}
	}
	if len(rows) < 2 {
		return nil, nil, fault("the table", "needs a header (station, x_m, y_m, z_m) and a row for each point")
	}
	return rows, lines, nil
}

// header gives the unit of x, y and z.
func header(row []string) (scale [3]float64, err error) {
	if len(row) != 4 || !strings.EqualFold(row[0], "station") {
		return scale, fault("line 1", "must be the header station, x_m, y_m, z_m")
	}
	for k, axis := range []string{"x", "y", "z"} {
		name, unit, ok := strings.Cut(strings.ToLower(row[k+1]), "_")
		if scale[k] = unitOf[unit]; !ok || name != axis || scale[k] == 0 {
			return scale, fault("line 1", fmt.Sprintf("%.40q must be %s_m, %[2]s_cm, %[2]s_mm, %[2]s_ft or %[2]s_in", row[k+1],
				axis))
		}
	}
	return scale, nil
}
