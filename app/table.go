package app

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ergasia/core/check"
	"ergasia/core/find"
	"ergasia/core/stow"
	"ergasia/formats/table"
	"ergasia/store"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// columns of the gear list as a table, in the order they are written. The two
// after the bar are read too, for those who measure in inches and pounds.
var columns = []string{"id", "name", "nickname", "count", "length_cm", "breadth_cm", "height_cm", "kg", "mass_known", "owner", "place", "tags", "shape", "turn",
	"needs_dry", "fragile", "metal", "buoyant", "hazards", "use_length_cm", "use_breadth_cm", "use_height_cm", "inside_length_cm", "inside_breadth_cm",
	"inside_height_cm", "holds_kg", "keeps_dry", "restock_at", "condition", "expires_on", "serial", "cost", "spares_for"}

var alsoRead = []string{"length_in", "breadth_in", "height_in", "lb"}

// tableRow writes a piece as cells.
func tableRow(v GearRow, owner, place string) []string {
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
		unless(float64(v.RestockAt)), v.Condition, expires, v.Serial, cost, spares}
}

// Export writes the whole gear list as CSV.
func (a *App) Export(ctx context.Context, actor Actor) ([]byte, error) {
	var text []byte
	err := a.in(ctx, actor, func(tx *gorm.DB) error {
		places, err := loadPlaces(tx, actor)
		if err != nil {
			return err
		}
		var rows []gearAt
		if err := tx.Raw("SELECT "+gearColumns+gearFrom+" WHERE gear.crew_id = ? ORDER BY gear.sort_name, gear.id", actor.Crew).Scan(&rows).Error; err != nil {
			return fmt.Errorf("loading the gear: %w", err)
		}
		var lines [][]string
		for _, r := range rows {
			owner := ""
			if r.OwnerID != nil {
				owner = places.owners[*r.OwnerID]
			}
			lines = append(lines, tableRow(GearRow{GearView: viewGear(r.Gear)}, owner, places.write(r.Stowage)))
		}
		text, err = table.Write(columns, lines)
		return err
	})
	return text, err
}

// placeTexts turns whereabouts into texts of a table and back.
type placeTexts struct {
	byText  map[string]store.Whereabouts // folded
	texts   map[uuid.UUID]string         // of places, sheds and people
	owners  map[uuid.UUID]string
	byOwner map[string][]uuid.UUID // folded name or mark
	boxes   map[string][]uuid.UUID // folded name of containers
	boxName map[uuid.UUID]string
	places  map[uuid.UUID]store.Place
}

func folded(text string) string { return strings.Join(find.Words(text), " ") }

func loadPlaces(tx *gorm.DB, actor Actor) (*placeTexts, error) {
	p := &placeTexts{byText: map[string]store.Whereabouts{}, texts: map[uuid.UUID]string{}, owners: map[uuid.UUID]string{}, byOwner: map[string][]uuid.UUID{},
		boxes: map[string][]uuid.UUID{}, boxName: map[uuid.UUID]string{}, places: map[uuid.UUID]store.Place{}}
	var boats []store.Boat
	var places []store.Place
	var sheds []store.Shed
	var members []store.Member
	var boxes []called
	for _, q := range []*gorm.DB{
		tx.Select("id", "name").Where("crew_id = ?", actor.Crew).Find(&boats),
		tx.Where("crew_id = ?", actor.Crew).Find(&places),
		tx.Where("crew_id = ?", actor.Crew).Find(&sheds),
		tx.Where("crew_id = ?", actor.Crew).Find(&members),
		tx.Raw("SELECT id, name FROM gear WHERE crew_id = ? AND inside_length > 0", actor.Crew).Scan(&boxes),
	} {
		if q.Error != nil {
			return nil, fmt.Errorf("loading places: %w", q.Error)
		}
	}
	boatNames := map[uuid.UUID]string{}
	for _, b := range boats {
		boatNames[b.ID] = b.Name
	}
	add := func(id uuid.UUID, text string, at store.Whereabouts) {
		p.texts[id], p.byText[folded(text)] = text, at
	}
	for _, r := range places {
		p.places[r.ID] = r
		add(r.ID, boatNames[r.BoatID]+" / "+r.Name, store.Whereabouts{Kind: "boat", BoatID: &r.BoatID, PlaceID: &r.ID})
	}
	for _, r := range sheds {
		add(r.ID, "ashore: "+r.Site+" / "+r.Name, store.Whereabouts{Kind: "shed", ShedID: &r.ID})
	}
	for _, r := range members {
		add(r.ID, "with: "+r.Name, store.Whereabouts{Kind: "person", HeldBy: &r.ID})
		p.owners[r.ID] = r.Name
		for _, name := range []string{folded(r.Name), folded(r.Mark)} {
			if !slices.Contains(p.byOwner[name], r.ID) {
				p.byOwner[name] = append(p.byOwner[name], r.ID)
			}
		}
	}
	for _, b := range boxes {
		p.addBox(b.ID, b.Name)
	}
	return p, nil
}

func (p *placeTexts) addBox(id uuid.UUID, name string) {
	if was, known := p.boxName[id]; known {
		p.boxes[folded(was)] = slices.DeleteFunc(p.boxes[folded(was)], func(b uuid.UUID) bool { return b == id })
	}
	p.boxName[id] = name
	p.boxes[folded(name)] = append(p.boxes[folded(name)], id)
}

// write says where a piece is. A box whose name another has too is told by its id.
func (p *placeTexts) write(r store.Stowage) string {
	switch {
	case r.InsideID != nil:
		name := p.boxName[*r.InsideID]
		if len(p.boxes[folded(name)]) > 1 || folded(name) == "" {
			return "in: " + r.InsideID.String()
		}
		return "in: " + name
	case r.PlaceID != nil:
		return p.texts[*r.PlaceID]
	case r.ShedID != nil:
		return p.texts[*r.ShedID]
	case r.HeldBy != nil:
		return p.texts[*r.HeldBy]
	}
	return r.Kind
}

// read finds what a place's text means; a fault says why it means nothing.
func (p *placeTexts) read(text string) (at store.Whereabouts, why string) {
	if box, is := strings.CutPrefix(strings.TrimSpace(text), "in:"); is {
		return p.readBox(strings.TrimSpace(box))
	}
	switch folded(text) {
	case "", "quay", "the quay":
		return store.Whereabouts{Kind: "quay"}, ""
	case "lent":
		return store.Whereabouts{Kind: "quay"}, "lent: who has it is not in a table, so it goes to the quay"
	}
	if at, known := p.byText[folded(text)]; known {
		return at, ""
	}
	return at, fmt.Sprintf("is no place: write it like Dunlin / port bench, ashore: boathouse / shelf A, in: pilk box, with: %s, or quay", anyOf(p.owners))
}

func anyOf(names map[uuid.UUID]string) string {
	least := ""
	for _, n := range names {
		if least == "" || n < least {
			least = n
		}
	}
	return least
}

func (p *placeTexts) readBox(text string) (at store.Whereabouts, why string) {
	if id, err := uuid.Parse(text); err == nil {
		if _, known := p.boxName[id]; !known {
			return at, "is no box of this crew or table"
		}
		return store.Whereabouts{InsideID: &id}, ""
	}
	switch ids := p.boxes[folded(text)]; len(ids) {
	case 0:
		return at, "is no box: only gear with an inside holds something"
	case 1:
		return store.Whereabouts{InsideID: &ids[0]}, ""
	default:
		return at, fmt.Sprintf("%d boxes have this name: write in: and the id of one", len(ids))
	}
}

// RowFate is what becomes of a row of a table.
type RowFate struct {
	Line int      `json:"line"`
	Name string   `json:"name"`
	Fate string   `json:"fate" enum:"new,change,same,wrong"`
	Says []string `json:"says" doc:"What is wrong, or what is read otherwise than written"`
}

// ImportView is what becomes, or became, of a table.
type ImportView struct {
	Rows    []RowFate `json:"rows"`
	New     int       `json:"new"`
	Changed int       `json:"change"`
	Same    int       `json:"same"`
	Wrong   int       `json:"wrong"`
	Done    bool      `json:"done" doc:"It was imported"`
}

// importer reads a table against what a crew has.
type importer struct {
	app    *App
	tx     *gorm.DB
	actor  Actor
	places *placeTexts
	was    map[uuid.UUID]gearAt // gear of the crew that the table names by id
	rows   []*importRow
	byID   map[uuid.UUID]*importRow
}

type importRow struct {
	RowFate
	cells map[string]string
	gear  store.Gear
	at    store.Whereabouts
	known bool // the crew has it
	given bool // the table says where it is
}

// Import reads a table of gear, says what becomes of each row and, where commit
// is set and no row is wrong, does it: all rows or none.
func (a *App) Import(ctx context.Context, actor Actor, key uuid.UUID, text []byte, commit bool) (ImportView, error) {
	view := ImportView{Rows: []RowFate{}}
	cells, err := table.Read(text, append(slices.Clone(columns), alsoRead...))
	if fault := (*table.Fault)(nil); errors.As(err, &fault) {
		return view, &Error{Kind: Refused, Sentence: capital(fault.Error())}
	}
	if err != nil {
		return view, err
	}
	err = a.in(ctx, actor, func(tx *gorm.DB) error {
		_, again, err := a.once(tx, actor, key, []any{"import", string(text), commit}, func() (uuid.UUID, error) {
			if commit {
				if err := lockMoves(tx, actor); err != nil {
					return uuid.Nil, err
				}
			}
			im := importer{app: a, tx: tx, actor: actor, was: map[uuid.UUID]gearAt{}, byID: map[uuid.UUID]*importRow{}}
			if err := im.read(cells); err != nil {
				return uuid.Nil, err
			}
			view = im.view()
			if !commit {
				return uuid.Nil, nil
			}
			if view.Wrong > 0 {
				return uuid.Nil, &Error{Kind: Refused, Sentence: fmt.Sprintf("%d rows are wrong, so none was imported.", view.Wrong), Details: wrongLines(view.Rows)}
			}
			view.Done = true
			return uuid.Nil, im.write()
		})
		view.Done = view.Done || again
		return err
	})
	return view, err
}

func wrongLines(rows []RowFate) []string {
	var lines []string
	for _, r := range rows {
		if r.Fate == "wrong" && len(lines) < 20 {
			lines = append(lines, fmt.Sprintf("line %d: %s", r.Line, strings.Join(r.Says, "; ")))
		}
	}
	return lines
}

func (im *importer) view() ImportView {
	v := ImportView{Rows: []RowFate{}}
	for _, r := range im.rows {
		switch r.Fate {
		case "new":
			v.New++
		case "change":
			v.Changed++
		case "same":
			v.Same++
		default:
			v.Wrong++
		}
		v.Rows = append(v.Rows, r.RowFate)
	}
	return v
}

func (r *importRow) wrong(format string, values ...any) {
	r.Fate = "wrong"
	r.Says = append(r.Says, fmt.Sprintf(format, values...))
}

// read makes rows of cells in three rounds: what each is, where it goes (which
// may be a box of another row), and whether it fits there.
func (im *importer) read(cells []table.Row) error {
	var err error
	if im.places, err = loadPlaces(im.tx, im.actor); err != nil {
		return err
	}
	if err := im.loadKnown(cells); err != nil {
		return err
	}
	for _, c := range cells {
		r := &importRow{RowFate: RowFate{Line: c.Line, Name: c.Cells["name"], Fate: "new", Says: []string{}}, cells: c.Cells}
		im.rows = append(im.rows, r)
		im.readGear(r)
	}
	for _, r := range im.rows {
		im.readPlace(r)
	}
	for _, r := range im.rows {
		im.settle(r)
	}
	if err := im.checkSpares(); err != nil {
		return err
	}
	if err := im.fits(); err != nil {
		return err
	}
	for _, r := range im.rows {
		if r.known && r.Fate == "new" {
			r.Fate = "change"
			if w := im.was[r.gear.ID]; sameGear(w.Gear, r.gear) && whereabouts(w.Stowage.At()).same(r.at) {
				r.Fate = "same"
			}
		}
	}
	return nil
}

// sameGear says whether two rows say the same of a thing.
func sameGear(a, b store.Gear) bool {
	text := func(g store.Gear) string {
		v := viewGear(g)
		v.Version = 0
		raw, _ := json.Marshal(v) // numbers and texts: it can't fail
		return string(raw)
	}
	return text(a) == text(b)
}

// loadKnown loads the gear that the table names by id.
func (im *importer) loadKnown(cells []table.Row) error {
	var ids []uuid.UUID
	for _, c := range cells {
		if id, err := uuid.Parse(c.Cells["id"]); err == nil {
			ids = append(ids, id)
		}
	}
	for chunk := range slices.Chunk(ids, 2000) {
		var rows []gearAt
		if err := im.tx.Raw("SELECT "+gearColumns+gearFrom+" WHERE gear.crew_id = ? AND gear.id IN ?", im.actor.Crew, chunk).Scan(&rows).Error; err != nil {
			return fmt.Errorf("loading the table's gear: %w", err)
		}
		for _, r := range rows {
			im.was[r.ID] = r
		}
	}
	return nil
}

// readGear reads what a row says of the thing itself. A column that the table
// has not keeps what the crew has, or takes the usual for a new thing.
func (im *importer) readGear(r *importRow) {
	id := store.NewID()
	if text := r.cells["id"]; text != "" {
		given, err := uuid.Parse(text)
		if err != nil {
			r.wrong("id is %q: leave it empty for new gear", text)
			return
		}
		id = given
	}
	if other := im.byID[id]; other != nil {
		r.wrong("id is that of line %d too", other.Line)
		return
	}
	im.byID[id] = r
	in := GearInput{MassKnown: "guess", Count: 1, Turn: "any", Shape: "box", Condition: "good"}
	if w, known := im.was[id]; known {
		in, r.known, r.at = viewGear(w.Gear).GearInput, true, w.Stowage.At()
	}
	read := cellReader{cells: r.cells}
	read.into(&in)
	r.Says = append(r.Says, read.faults...)
	if len(read.faults) > 0 {
		r.Fate = "wrong"
	}
	if text, has := r.cells["owner"]; has {
		switch ids := im.places.byOwner[folded(text)]; len(ids) {
		case 1:
			in.OwnerID = &ids[0]
		case 0:
			r.wrong("owner is %q: nobody in the crew is called that", text)
		default:
			r.wrong("owner is %q: %d people are called that; write the mark", text, len(ids))
		}
	}
	if text := r.cells["spares_for"]; text != "" {
		spare, err := uuid.Parse(text)
		if err != nil {
			r.wrong("spares_for is %q: write the id of the gear that it is a spare for", text)
		} else {
			in.SparesFor = &spare
		}
	}
	if err := in.check(); err != nil && len(read.faults) == 0 {
		refusal := (*Error)(nil)
		if errors.As(err, &refusal) {
			for _, f := range refusal.Faults {
				r.wrong("%s", f.Error())
			}
		}
	}
	r.gear = in.row(im.actor)
	r.gear.ID = id
	w := im.was[id].Gear
	r.gear.Hours, r.gear.Trips, r.gear.UsedAt, r.gear.Version = w.Hours, w.Trips, w.UsedAt, w.Version+1
	r.Name = in.Name
	if r.gear.Container() {
		im.places.addBox(id, r.gear.Name)
	}
}

// cellReader reads cells into a thing's input, and notes faults.
type cellReader struct {
	cells  map[string]string
	faults []string
}

// into reads what is there; the reader of tables leaves empty cells out, so a
// table changes values and never empties them.
func (c *cellReader) into(in *GearInput) {
	text := func(column string, into *string) {
		if v, has := c.cells[column]; has {
			*into = v
		}
	}
	text("name", &in.Name)
	text("nickname", &in.Nickname)
	text("serial", &in.Serial)
	for column, into := range map[string]*string{"mass_known": &in.MassKnown, "shape": &in.Shape, "turn": &in.Turn, "condition": &in.Condition} {
		if v, has := c.cells[column]; has {
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
	c.number("lb", pound, &in.Kg)
	c.number("kg", 1, &in.Kg)
	c.number("holds_kg", 1, &in.HoldsKg)
	count, restock := float64(in.Count), float64(in.RestockAt)
	c.number("count", 1, &count)
	c.number("restock_at", 1, &restock)
	for column, n := range map[string]float64{"count": count, "restock_at": restock} {
		if n != float64(int(n)) {
			c.faults = append(c.faults, fmt.Sprintf("%s is %g: must be a whole number", column, n))
		}
	}
	in.Count, in.RestockAt = int(count), int(restock)
	for column, into := range map[string]*bool{"needs_dry": &in.NeedsDry, "fragile": &in.Fragile, "metal": &in.Metal, "buoyant": &in.Buoyant, "keeps_dry": &in.KeepsDry} {
		c.yes(column, into)
	}
	if v, has := c.cells["tags"]; has {
		in.Tags = split(v)
	}
	if v, has := c.cells["hazards"]; has {
		in.Hazards = split(v)
	}
	if v, has := c.cells["cost"]; has {
		cost := 0.0
		if c.number("cost", 1, &cost); v != "" {
			in.Cost = &cost
		}
	}
	if v, has := c.cells["expires_on"]; has {
		var d Date
		if err := d.UnmarshalText([]byte(strings.TrimSpace(v))); err != nil {
			c.faults = append(c.faults, "expires_on: "+err.Error())
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

// readPlace finds where a row's thing goes. A table that does not say leaves it
// where it is.
func (im *importer) readPlace(r *importRow) {
	text, has := r.cells["place"]
	if !has {
		if !r.known {
			r.at = store.Whereabouts{Kind: "quay"}
		}
		return
	}
	at, why := im.places.read(text)
	if why != "" && at.Kind == "" {
		r.wrong("place is %q: %s", text, why)
		return
	}
	if r.known && im.was[r.gear.ID].Stowage.Kind == "lent" {
		at, why = r.at, ""
		if folded(text) != "lent" {
			r.Says = append(r.Says, "it is lent: it stays so until its return is noted")
		}
	}
	if why != "" {
		r.Says = append(r.Says, why)
	}
	r.at, r.given = at, true
}

// settle gives what lies in a box the whereabouts of the box, and refuses boxes
// that hold themselves.
func (im *importer) settle(r *importRow) {
	at := r.at
	for depth := 0; at.InsideID != nil; depth++ {
		box, isRow := im.byID[*at.InsideID]
		if depth >= boxesDeep || isRow && box == r {
			r.wrong("place: boxes lie in one another %d deep at most, and never in themselves", boxesDeep)
			return
		}
		if isRow && (!box.gear.Container() || box.gear.Count != 1) {
			r.wrong("place: line %d is no single box with an inside", box.Line)
			return
		}
		if isRow {
			at = box.at
			continue
		}
		var row store.Stowage
		if err := im.tx.Where("crew_id = ? AND gear_id = ?", im.actor.Crew, *at.InsideID).Take(&row).Error; err != nil {
			r.wrong("place: the box is not there any more")
			return
		}
		at = row.At()
		if row.InsideID == nil {
			break
		}
	}
	inside := r.at.InsideID
	r.at = at
	r.at.InsideID = inside
}

// checkSpares refuses spares for what neither the crew nor the table has.
func (im *importer) checkSpares() error {
	var ids []uuid.UUID
	for _, r := range im.rows {
		if of := r.gear.SparesFor; of != nil && im.byID[*of] == nil {
			ids = append(ids, *of)
		}
	}
	var there []uuid.UUID
	for chunk := range slices.Chunk(ids, 2000) {
		var some []uuid.UUID
		if err := im.tx.Model(&store.Gear{}).Where("crew_id = ? AND id IN ?", im.actor.Crew, chunk).Pluck("id", &some).Error; err != nil {
			return fmt.Errorf("looking for what spares are for: %w", err)
		}
		there = append(there, some...)
	}
	for _, r := range im.rows {
		if of := r.gear.SparesFor; of != nil && (im.byID[*of] == nil && !slices.Contains(there, *of) || *of == r.gear.ID) {
			r.wrong("spares_for is %s: that is neither in the table nor in the crew's list", of)
		}
	}
	return nil
}

// fits says of each place aboard and each box that the table fills whether all
// of it goes in, and where not, which rows do not.
func (im *importer) fits() error {
	s, err := im.together()
	if err != nil {
		return err
	}
	inPlace, inBox := map[uuid.UUID][]*importRow{}, map[uuid.UUID][]*importRow{}
	for _, r := range im.rows {
		if r.Fate == "wrong" || r.known && whereabouts(im.was[r.gear.ID].Stowage.At()).same(r.at) && piece(im.was[r.gear.ID].Gear) == piece(r.gear) {
			continue // it stays where it lies
		}
		if r.at.InsideID != nil {
			inBox[*r.at.InsideID] = append(inBox[*r.at.InsideID], r)
		} else if r.at.PlaceID != nil {
			inPlace[*r.at.PlaceID] = append(inPlace[*r.at.PlaceID], r)
		}
	}
	for id, rows := range inPlace {
		s.fitAll(stowPlace(im.places.places[id]), s.in(id, uuid.Nil), rows)
	}
	for id, rows := range inBox {
		b := s.thing(id)
		if b == nil {
			continue // a wrong row; what goes into it is told in settle
		}
		inside := boxPlace(*b)
		inside.Dry = true // whether the box stands dry is told where it stands
		s.fitAll(inside, s.inBox(id, uuid.Nil), rows)
	}
	return nil
}

// together is everything that the table's places hold, as it will be.
func (im *importer) together() (*snapshot, error) {
	s := ashore(im.actor)
	var places, near []uuid.UUID
	boxes := []uuid.UUID{}
	for _, r := range im.rows {
		if r.at.PlaceID != nil && !slices.Contains(places, *r.at.PlaceID) {
			places = append(places, *r.at.PlaceID)
		}
		if r.at.InsideID != nil && im.byID[*r.at.InsideID] == nil && !slices.Contains(boxes, *r.at.InsideID) {
			boxes = append(boxes, *r.at.InsideID)
		}
	}
	err := im.tx.Raw("SELECT gear_id FROM stowage WHERE crew_id = ? AND boat_id IS NOT NULL AND place_id IN ?", im.actor.Crew, append(places, uuid.Nil)).Scan(&near).Error
	if err != nil {
		return nil, fmt.Errorf("looking into the places: %w", err)
	}
	if err := s.add(im.tx, im.actor, append(near, boxes...)); err != nil {
		return nil, err
	}
	at := map[uuid.UUID]int{}
	for i, g := range s.gear {
		at[g.ID] = i
	}
	for _, r := range im.rows {
		if r.Fate == "wrong" {
			continue
		}
		if i, there := at[r.gear.ID]; there {
			s.gear[i] = r.gear
		} else {
			s.gear = append(s.gear, r.gear)
		}
		s.stowage[r.gear.ID] = store.Stowage{GearID: r.gear.ID, Kind: r.at.Kind, InsideID: r.at.InsideID, BoatID: r.at.BoatID, PlaceID: r.at.PlaceID}
	}
	s.fill()
	return s, nil
}

// fitAll tries everything at once; only where that fails are the rows tried one by one.
func (s *snapshot) fitAll(p stow.Place, all []stow.Piece, rows []*importRow) {
	kg, fine := 0.0, true
	for _, one := range all {
		kg += one.Kg * float64(one.Count)
		fine = fine && (p.Dry || !one.NeedsDry)
	}
	if fine && (p.MaxKg <= 0 || kg <= p.MaxKg+1e-9) {
		if _, ok := stow.Lay(p, all); ok {
			return
		}
	}
	mine := map[string]*importRow{}
	for _, r := range rows {
		mine[r.gear.ID.String()] = r
	}
	var there []stow.Piece
	for _, one := range all {
		if mine[one.ID] == nil {
			there = append(there, one)
		}
	}
	slices.SortFunc(rows, func(a, b *importRow) int { return cmp.Compare(a.Line, b.Line) })
	for _, r := range rows {
		one := s.piece(r.gear)
		refusals := stow.Refuse(p, there, one, s.units)
		if len(refusals) == 0 {
			there = append(there, one)
			continue
		}
		r.wrong("place: %s", strings.Join(sentences(refusals), " "))
	}
}

// write does what the rows say.
func (im *importer) write() error {
	var fresh []store.Gear
	at := map[uuid.UUID]store.Stowage{}
	for _, r := range im.containersFirst() {
		row := store.Stowage{GearID: r.gear.ID, CrewID: im.actor.Crew, Kind: r.at.Kind, InsideID: r.at.InsideID, BoatID: r.at.BoatID, PlaceID: r.at.PlaceID,
			ShedID: r.at.ShedID, HeldBy: r.at.HeldBy, Rides: "boat"}
		switch r.Fate {
		case "new":
			fresh, at[r.gear.ID] = append(fresh, r.gear), row
		case "change":
			if err := im.writeChange(r); err != nil {
				return err
			}
		}
	}
	if len(fresh) == 0 {
		return nil
	}
	spareLater(fresh)
	return im.app.createGear(im.tx, im.actor, fresh, at)
}

// containersFirst gives the rows so that a box comes before what lies in it.
func (im *importer) containersFirst() []*importRow {
	depth := func(r *importRow) int {
		n := 0
		for in := r.at.InsideID; in != nil && n <= boxesDeep; n++ {
			box := im.byID[*in]
			if box == nil {
				return n + 1
			}
			in = box.at.InsideID
		}
		return n
	}
	rows := slices.Clone(im.rows)
	slices.SortStableFunc(rows, func(a, b *importRow) int { return cmp.Compare(depth(a), depth(b)) })
	return rows
}

// spareLater puts gear before its spares, since a row may only speak of one that is there.
func spareLater(rows []store.Gear) {
	depth := map[uuid.UUID]*uuid.UUID{}
	for _, g := range rows {
		depth[g.ID] = g.SparesFor
	}
	far := func(g store.Gear) int {
		n := 0
		for of := g.SparesFor; of != nil && n < len(rows); n++ {
			of = depth[*of]
		}
		return n
	}
	slices.SortStableFunc(rows, func(a, b store.Gear) int { return cmp.Compare(far(a), far(b)) })
}

// writeChange changes a piece that the crew has, and moves it where the table says.
func (im *importer) writeChange(r *importRow) error {
	was := im.was[r.gear.ID]
	if !sameGear(was.Gear, r.gear) {
		if err := im.app.changeGear(im.tx, im.actor, was.Gear, r.gear); err != nil {
			return err
		}
	}
	if r.given && !whereabouts(was.Stowage.At()).same(r.at) {
		now := store.Stowage{}
		if err := im.tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("crew_id = ? AND gear_id = ?", im.actor.Crew, r.gear.ID).Take(&now).Error; err != nil {
			return absent(err, "gear")
		}
		return im.app.shift(im.tx, im.actor, now, r.at)
	}
	return nil
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
