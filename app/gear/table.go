package gear

import (
	"context"
	"fmt"
	"strconv"
	"strings"

	"ergasia/app/kernel"
	"ergasia/core/check"
	"ergasia/formats/table"
	"ergasia/store"
)

// Columns of the gear list as a table, in the order they are written. The two
// after the bar are read too, for those who measure in inches and pounds.
var Columns = []string{"id", "name", "nickname", "count", "length_cm", "breadth_cm", "height_cm", "kg", "mass_known", "owner", "place", "tags", "shape", "turn",
	"needs_dry", "fragile", "metal", "buoyant", "hazards", "use_length_cm", "use_breadth_cm", "use_height_cm", "inside_length_cm", "inside_breadth_cm",
	"inside_height_cm", "holds_kg", "keeps_dry", "restock_at", "condition", "expires_on", "serial", "cost", "spares_for", "uses_per_day", "used_from", "guide_cm"}

var alsoRead = []string{"length_in", "breadth_in", "height_in", "lb"}

// TableRow writes a piece as cells.
func TableRow(v GearRow, owner, place string) []string {
	cm := func(m float64) string {
		if m == 0 {
			return ""
		}
		return strconv.FormatFloat(m*100, 'g', 12, 64)
	}
	num := func(n float64) string { return strconv.FormatFloat(n, 'g', 12, 64) }
	unless := func(n float64) string {
		if n == 0 {
			return ""
		}
		return num(n)
	}
	yes := func(b bool) string {
		if b {
			return "yes"
		}
		return ""
	}
	cost, expires, spares := "", "", ""
	if v.Cost != nil {
		cost = num(*v.Cost)
	}
	if v.ExpiresOn != nil {
		expires = v.ExpiresOn.String()
	}
	if v.SparesFor != nil {
		spares = v.SparesFor.String()
	}
	return []string{v.ID.String(), v.Name, v.Nickname, strconv.Itoa(v.Count), cm(v.Size[0]), cm(v.Size[1]), cm(v.Size[2]), num(v.Kg), v.MassKnown, owner, place,
		strings.Join(v.Tags, "; "), v.Shape, v.Turn, yes(v.NeedsDry), yes(v.Fragile), yes(v.Metal), yes(v.Buoyant), strings.Join(v.Hazards, "; "),
		cm(v.UseSize[0]), cm(v.UseSize[1]), cm(v.UseSize[2]), cm(v.Inside[0]), cm(v.Inside[1]), cm(v.Inside[2]), unless(v.HoldsKg), yes(v.KeepsDry),
		unless(float64(v.RestockAt)), v.Condition, expires, v.Serial, cost, spares, num(v.uses()), v.UsedFrom, cm(v.Guide)}
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
		var lines [][]string
		for _, r := range rows {
			owner := ""
			if r.OwnerID != nil {
				owner = places.owners[*r.OwnerID]
			}
			lines = append(lines, TableRow(GearRow{GearView: ViewGear(r.Gear)}, owner, places.write(r.Stowage)))
		}
		text, err = table.Write(Columns, lines)
		return err
	})
	return text, err
}

// CellReader reads cells into a thing's input, and notes faults.
type CellReader struct {
	Cells  map[string]string
	Faults []string
}

// Into reads what is there; the reader of tables leaves empty cells out, so a
// table changes values and never empties them.
func (c *CellReader) Into(in *GearInput) {
	text := func(column string, into *string) {
		if v, has := c.Cells[column]; has {
			*into = v
		}
	}
	text("name", &in.Name)
	text("nickname", &in.Nickname)
	text("serial", &in.Serial)
	text("used_from", &in.UsedFrom)
	if _, has := c.Cells["uses_per_day"]; has {
		uses := in.uses()
		c.number("uses_per_day", 1, &uses)
		in.Uses = &uses
	}
	for column, into := range map[string]*string{"mass_known": &in.MassKnown, "shape": &in.Shape, "turn": &in.Turn, "condition": &in.Condition} {
		if v, has := c.Cells[column]; has {
			*into = strings.ToLower(strings.TrimSpace(v))
		}
	}
	const inch, pound = 0.0254, 0.45359237
	for i, side := range []string{"length", "breadth", "height"} {
		c.number(side+"_in", inch, &in.Size[i])
		c.number(side+"_cm", 0.01, &in.Size[i])
		c.number("use_"+side+"_cm", 0.01, &in.UseSize[i])
		c.number("inside_"+side+"_cm", 0.01, &in.Inside[i])
	}
	c.number("guide_cm", 0.01, &in.Guide)
	c.number("lb", pound, &in.Kg)
	c.number("kg", 1, &in.Kg)
	c.number("holds_kg", 1, &in.HoldsKg)
	count, restock := float64(in.Count), float64(in.RestockAt)
	c.number("count", 1, &count)
	c.number("restock_at", 1, &restock)
	for column, n := range map[string]float64{"count": count, "restock_at": restock} {
		if n != float64(int(n)) {
			c.Faults = append(c.Faults, fmt.Sprintf("%s is %g: must be a whole number", column, n))
		}
	}
	in.Count, in.RestockAt = int(count), int(restock)
	for column, into := range map[string]*bool{"needs_dry": &in.NeedsDry, "fragile": &in.Fragile, "metal": &in.Metal, "buoyant": &in.Buoyant, "keeps_dry": &in.KeepsDry} {
		c.yes(column, into)
	}
	if v, has := c.Cells["tags"]; has {
		in.Tags = split(v)
	}
	if v, has := c.Cells["hazards"]; has {
		in.Hazards = split(v)
	}
	if v, has := c.Cells["cost"]; has {
		cost := 0.0
		if c.number("cost", 1, &cost); v != "" {
			in.Cost = &cost
		}
	}
	if v, has := c.Cells["expires_on"]; has {
		var d kernel.Date
		if err := d.UnmarshalText([]byte(strings.TrimSpace(v))); err != nil {
			c.Faults = append(c.Faults, "expires_on: "+err.Error())
		} else {
			in.ExpiresOn = &d
		}
	}
}

// split reads a list that is separated by semicolons.
func split(text string) []string {
	var list []string
	for _, one := range strings.Split(text, ";") {
		if one = strings.TrimSpace(one); one != "" {
			list = append(list, one)
		}
	}
	return list
}

// number reads a cell that is there, in units of si; 12 digits are kept, so that
// centimetres come back as the metres that they were.
func (c *CellReader) number(column string, si float64, into *float64) {
	text, has := c.Cells[column]
	if !has {
		return
	}
	n, err := strconv.ParseFloat(strings.Replace(strings.TrimSpace(text), ",", ".", 1), 64)
	if err != nil {
		c.Faults = append(c.Faults, fmt.Sprintf("%s is %q: must be a number", column, text))
		return
	}
	*into, _ = strconv.ParseFloat(strconv.FormatFloat(n*si, 'g', 12, 64), 64) // a number's own text: it can't fail
}

func (c *CellReader) yes(column string, into *bool) {
	text, has := c.Cells[column]
	if !has {
		return
	}
	switch strings.ToLower(strings.TrimSpace(text)) {
	case "yes", "y", "true", "1", "x":
		*into = true
	case "no", "n", "false", "0":
		*into = false
	default:
		c.Faults = append(c.Faults, fmt.Sprintf("%s is %q: must be yes or no", column, text))
	}
}

// checkTags refuses a tag that a table could not keep.
func checkTags(fs *check.Faults, tags []string) {
	for i, tag := range tags {
		fs.Text(fmt.Sprintf("tags[%d]", i), tag, 1, 40)
		if strings.Contains(tag, ";") {
			fs.Add(fmt.Sprintf("tags[%d]", i), tag, "must have no semicolon: that separates tags in a table")
		}
	}
}

// MaxTableBytes is the largest table that is read.
const MaxTableBytes = table.MaxBytes
