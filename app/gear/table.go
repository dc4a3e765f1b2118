package gear

import (
	"context"
	"fmt"
	"strconv"
	"strings"

	"ergasia/app/kernel"
	"ergasia/core/entry"
	"ergasia/core/units"
	"ergasia/core/words"
	"ergasia/formats/table"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// columns of the gear list as a table, in the order they are written: the fields,
// with the id before and where it is after its owner.
var columns = func() []string {
	list := []string{"id"}
	for _, f := range Fields {
		list = append(list, f.column)
		if f.column == "owner" {
			list = append(list, "place")
		}
	}
	return list
}()

// tableRow writes a piece as cells; people are told by name.
func tableRow(v GearRow, named func(*uuid.UUID) string, place string) []string {
	cells := []string{v.ID.String()}
	for _, f := range Fields {
		if f.Kind == Member {
			cells = append(cells, named(*f.in(&v.GearInput).(**uuid.UUID)))
		} else {
			cells = append(cells, f.cell(v.GearInput))
		}
		if f.column == "owner" {
			cells = append(cells, place)
		}
	}
	return cells
}

// Export writes the whole gear list as CSV.
func (a *Wing) Export(ctx context.Context, actor kernel.Actor) ([]byte, error) {
	var text []byte
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		places, err := loadPlaces(tx)
		if err != nil {
			return err
		}
		rows, err := Rows(tx, "WHERE gear.crew_id = @crew ORDER BY gear.sort_name, gear.id", nil)
		if err != nil {
			return err
		}
		text, err = writeTable(places, rows)
		return err
	})
	return text, err
}

func writeTable(places *placeTexts, rows []At) ([]byte, error) {
	var lines [][]string
	for _, r := range rows {
		named := func(id *uuid.UUID) string { return ownerName(places, id) }
		lines = append(lines, tableRow(GearRow{GearView: ViewGear(r.Gear)}, named, places.write(r.Stowage)))
	}
	return table.Write(columns, lines)
}

// cellReader reads cells into a thing's input, and notes faults.
type cellReader struct {
	cells  map[string]string
	us     bool // numbers without a unit are inches and pounds
	faults []string
}

// into reads what is there; the reader of tables leaves empty cells out, so a
// table changes values and never empties them. Owners and what a piece is a spare
// for are looked up by the importer.
func (c *cellReader) into(in *GearInput) {
	bare, heavy := "cm", 1.0
	if c.us {
		bare, heavy = "in", units.PoundKg
	}
	for i, side := range []string{"length", "breadth", "height"} {
		for _, unit := range []string{"in", "mm", "m", "ft"} {
			c.length(side+"_"+unit, unit, &in.Size[i])
		}
		c.length(side, bare, &in.Size[i])
	}
	c.size(&in.Size)
	for column, kg := range map[string]float64{"lb": units.PoundKg, "g": 0.001, "oz": units.OunceKg, "mass": heavy} {
		c.mass(column, kg, &in.Kg)
	}
	for _, f := range Fields {
		if text, has := c.cells[f.column]; has {
			c.field(f, text, in)
		}
	}
}

// choiceOf is a word of the field's list, however it is spelt in capitals.
func choiceOf(f Field, text string) string {
	text = strings.TrimSpace(text)
	for _, key := range words.Lists[f.List].Keys() {
		if strings.EqualFold(key, text) {
			return key
		}
	}
	return strings.ToLower(text)
}

func (c *cellReader) field(f Field, text string, in *GearInput) {
	switch to := f.in(in).(type) {
	case *string:
		*to = text
		if f.Kind == Choice {
			*to = choiceOf(f, text)
		}
	case *float64:
		if f.Kind == Side {
			c.length(f.column, "cm", to)
			return
		}
		if f.Kind == Mass {
			c.mass(f.column, 1, to)
			return
		}
		c.number(f.column, f.scale(), to)
	case *int:
		n := float64(*to)
		c.number(f.column, 1, &n)
		if *to = int(n); n != float64(*to) {
			c.faults = append(c.faults, fmt.Sprintf("%s is %g: must be a whole number", f.column, n))
		}
	case *bool:
		c.yes(f.column, to)
	case *[]string:
		*to = split(text)
		if f.Kind == Choices {
			for i, one := range *to {
				(*to)[i] = choiceOf(f, one)
			}
		}
	case **float64:
		n := 0.0
		if *to != nil {
			n = **to
		}
		c.number(f.column, 1, &n)
		*to = &n
	case **kernel.Date:
		var d kernel.Date
		if err := d.UnmarshalText([]byte(strings.TrimSpace(text))); err != nil {
			c.faults = append(c.faults, f.column+": "+err.Error())
		} else {
			*to = &d
		}
	}
}

// split reads a list that is separated by semicolons or commas.
func split(text string) []string {
	var list []string
	for _, one := range strings.FieldsFunc(text, func(c rune) bool { return c == ';' || c == ',' }) {
		if one = strings.TrimSpace(one); one != "" {
			list = append(list, one)
		}
	}
	return list
}

// number reads a cell that is there, in units of si; 12 digits are kept, so that
// centimetres come back as the metres that they were.
func (c *cellReader) number(column string, si float64, into *float64) {
	text, has := c.cells[column]
	if !has {
		return
	}
	n, err := strconv.ParseFloat(strings.Replace(strings.TrimSpace(text), ",", ".", 1), 64)
	if err != nil {
		c.faults = append(c.faults, fmt.Sprintf("%s is %q: must be a number", column, text))
		return
	}
	*into, _ = strconv.ParseFloat(strconv.FormatFloat(n*si, 'g', 12, 64), 64) // a number's own text: it can't fail
}

// length reads a cell that is there as people write lengths, a number alone in unit.
func (c *cellReader) length(column, unit string, into *float64) {
	text, has := c.cells[column]
	if !has {
		return
	}
	m, err := units.ParseLength(text, unit)
	if err != nil {
		c.faults = append(c.faults, fmt.Sprintf("%s is %q: must be a number in %s, or a length like 1' 2 1/2\"", column, text, unit))
		return
	}
	*into, _ = strconv.ParseFloat(strconv.FormatFloat(m, 'g', 12, 64), 64) // a number's own text: it can't fail
}

// mass reads a cell that is there: a number alone in units of so many kilograms,
// or a mass with its own unit.
func (c *cellReader) mass(column string, si float64, into *float64) {
	text, has := c.cells[column]
	if !has {
		return
	}
	kg, ok := entry.Mass(text, si)
	if !ok {
		c.faults = append(c.faults, fmt.Sprintf("%s is %q: must be a number, or a mass like 3 lb 4 oz", column, text))
		return
	}
	*into, _ = strconv.ParseFloat(strconv.FormatFloat(kg, 'g', 12, 64), 64) // a number's own text: it can't fail
}

// size reads all three sides from one cell.
func (c *cellReader) size(into *model.Vec) {
	text, has := c.cells["size"]
	if !has {
		return
	}
	size, ok := entry.Size(text, c.us)
	if !ok {
		c.faults = append(c.faults, fmt.Sprintf("size is %q: must be three sides, like 36 x 23 x 5 cm", text))
		return
	}
	*into = size
}

func (c *cellReader) yes(column string, into *bool) {
	text, has := c.cells[column]
	if !has {
		return
	}
	switch strings.ToLower(strings.TrimSpace(text)) {
	case "yes", "y", "true", "1", "x":
		*into = true
	case "no", "n", "false", "0":
		*into = false
	default:
		c.faults = append(c.faults, fmt.Sprintf("%s is %q: must be yes or no", column, text))
	}
}

// MaxTableBytes is the largest table that is read.
const MaxTableBytes = table.MaxBytes
