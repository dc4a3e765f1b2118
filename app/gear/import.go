package gear

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"log/slog"
	"slices"
	"strings"
	"time"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/where"
	"ergasia/core/check"
	"ergasia/core/entry"
	"ergasia/core/units"
	"ergasia/core/words"
	"ergasia/formats/table"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// RowFate is what becomes of a row of a table.
type RowFate struct {
	Line int      `json:"line"`
	Name string   `json:"name"`
	Fate string   `json:"fate" enum:"new,change,same,wrong"`
	Says []string `json:"says" doc:"What is wrong, or what is read otherwise than written"`
	Read GearRead `json:"read" doc:"What was read of it"`
}

// GearRead is what was read of a row, as the preview shows it.
type GearRead struct {
	Count int       `json:"count"`
	Size  model.Vec `json:"size_m"`
	Kg    float64   `json:"kg"`
	Tags  []string  `json:"tags"`
	Owner string    `json:"owner"`
	Place string    `json:"place"`
}

// ImportView is what becomes, or became, of a table.
type ImportView struct {
	Rows    []RowFate `json:"rows"`
	New     int       `json:"new"`
	Changed int       `json:"change"`
	Same    int       `json:"same"`
	Wrong   int       `json:"wrong"`
	Done    bool      `json:"done" doc:"It was imported"`
	Running bool      `json:"running" doc:"It goes on: ask import-progress"`
	Share   float64   `json:"share" doc:"How much of a running import is done, from 0 to 1"`

	Headings []Heading      `json:"headings" doc:"What each column of the table is"`
	Choices  []ColumnChoice `json:"choices" doc:"What a column may be said to be"`
}

// importer reads a table against what a crew has.
type importer struct {
	wing   *Wing
	tx     *store.Tx
	actor  kernel.Actor
	places *placeTexts
	was    map[uuid.UUID]At // gear of the crew that the table names by id
	whole  bool             // all of it is as it was, or nothing is
	strict bool             // the table has ids, as one that went out from here: what it names must be there
	rows   []*importRow
	byID   map[uuid.UUID]*importRow

	columns []Heading
	kept    model.Headings // what the crew said of headings before
}

type importRow struct {
	RowFate
	cells map[string]string
	gear  model.Gear
	at    model.Whereabouts
	known bool // the crew has it
	given bool // the table says where it is
}

// Import reads a table of gear, with its columns as chosen, says what becomes of
// each row and, where commit is set and no row is wrong, does it: all rows or none.
func (a *Wing) Import(ctx context.Context, actor kernel.Actor, key uuid.UUID, text []byte, chosen map[string]string,
	commit bool) (ImportView, error) {
	if commit {
		return a.importTable(ctx, actor, key, text, chosen, func(float64) {})
	}
	return a.importTable(ctx, actor, key, text, chosen, nil)
}

// importTable is Import; it commits where there is someone to tell how far it is.
func (a *Wing) importTable(ctx context.Context, actor kernel.Actor, key uuid.UUID, text []byte, chosen map[string]string,
	tell func(share float64)) (ImportView, error) {
	commit := tell != nil
	view := ImportView{Rows: []RowFate{}, Headings: []Heading{}, Choices: columnChoices}
	read, err := table.Read(text, func(h string) bool { return columnSaid(h) != "" || chosen[strings.ToLower(h)] != "" })
	if fault := (*table.Fault)(nil); errors.As(err, &fault) {
		return view, &refuse.Error{Kind: refuse.Refused, Sentence: kernel.Capital(fault.Error())}
	}
	if err != nil {
		return view, err
	}
	var im *importer
	var seen int64
	err = a.In(ctx, actor, func(tx *store.Tx) (err error) {
		if seen, err = tx.Turn(); err == nil {
			im, err = a.reading(tx, actor, read, chosen)
		}
		return err
	})
	if err != nil {
		return view, err
	}
	if !commit {
		return im.view(), nil
	}
	err = a.WriteAt(ctx, actor, func(tx *store.Tx, turn int64) error {
		_, again, err := a.Once(tx, actor, key, []any{"import", string(text), chosen}, func() (uuid.UUID, error) {
			im.tx = tx
			if turn != seen+1 { // something was written since: what was read may not hold
				if im, err = a.reading(tx, actor, read, chosen); err != nil {
					return uuid.Nil, err
				}
			}
			view = im.view()
			return uuid.Nil, im.commit(view, tell)
		})
		view.Done = again || err == nil
		return err
	})
	if err == nil && view.Done && view.New+view.Changed >= manyRows {
		if err := a.DB.FreshStatistics(ctx); err != nil { // the pages are slow until the database does it by itself
			slog.WarnContext(ctx, "after an import", "error", err)
		}
	}
	return view, err
}

// reading reads a table against what a crew has.
func (a *Wing) reading(tx *store.Tx, actor kernel.Actor, read table.Table, chosen map[string]string) (*importer, error) {
	kept, err := remembered(tx)
	if err != nil {
		return nil, err
	}
	columns := headings(read, chosen, kept)
	im := &importer{wing: a, tx: tx, actor: actor, was: map[uuid.UUID]At{}, byID: map[uuid.UUID]*importRow{},
		kept: kept, columns: columns,
		strict: slices.ContainsFunc(columns, func(h Heading) bool { return h.Column == "id" })}
	return im, im.read(inColumns(read, columns))
}

// commit does what the table says, where nothing in it is wrong.
func (im *importer) commit(view ImportView, tell func(share float64)) error {
	if view.Wrong > 0 {
		return &refuse.Error{Kind: refuse.Refused,
			Sentence: words.HowMany(view.Wrong, "row is", "rows are") + " wrong, so none was imported.", Details: wrongLines(view.Rows)}
	}
	if err := unsettled(im.columns); err != nil {
		return err
	}
	if err := remember(im.tx, im.kept, im.columns); err != nil {
		return err
	}
	if err := im.write(tell); err != nil {
		return err
	}
	return im.keepUndoable()
}

// manyRows make what the database knows of the tables stale.
const manyRows = 500

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
	v := ImportView{Rows: []RowFate{}, Headings: im.columns, Choices: columnChoices}
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
		r.Read = GearRead{Count: r.gear.Count, Size: model.Vec{r.gear.Length, r.gear.Breadth, r.gear.Height}, Kg: r.gear.Kg,
			Tags: Listed(r.gear.Tags), Owner: ownerName(im.places, r.gear.OwnerID), Place: im.places.write(placed(r))}
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
	if im.places, err = loadPlaces(im.tx); err != nil {
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
			if w := im.was[r.gear.ID]; sameGear(w.Gear, r.gear) && w.Stowage.At().Same(r.at) {
				r.Fate = "same"
			}
		}
	}
	return nil
}

// sameGear says whether two rows would be the same in a table.
func sameGear(a, b model.Gear) bool {
	cells := func(g model.Gear) []string { return tableRow(GearRow{GearView: ViewGear(g)}, ptrText[uuid.UUID], "") }
	return slices.Equal(cells(a), cells(b))
}

func ptrText[T any](p *T) string {
	if p == nil {
		return ""
	}
	return fmt.Sprint(*p)
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
		rows, err := Rows(im.tx, "WHERE gear.crew_id = @crew AND gear.id IN @ids", store.Args{"ids": chunk})
		if err != nil {
			return err
		}
		for _, r := range rows {
			im.was[r.ID] = r
		}
	}
	return nil
}

// person reads who is meant by a cell.
func (im *importer) person(r *importRow, column, text string, to **uuid.UUID) {
	switch ids := im.places.byOwner[folded(text)]; len(ids) {
	case 1:
		*to = &ids[0]
	case 0:
		if im.strict || r.known {
			r.wrong(column+" is %q: nobody in the crew is called that", text)
		} else {
			said := map[string]string{"owner": "it is the crew's", "worn_by": "nobody wears it"}[column]
			r.Says = append(r.Says, fmt.Sprintf("nobody in the crew is called %q: %s", text, said))
		}
	default:
		r.wrong(column+" is %q: %d people are called that; write the mark", text, len(ids))
	}
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
		in, r.known, r.at = ViewGear(w.Gear).GearInput, true, w.Stowage.At()
	}
	read := cellReader{cells: r.cells, us: units.SystemNamed(im.actor.Units) == units.US}
	kg := in.Kg
	read.into(&in)
	if _, said := r.cells["mass_known"]; !said && in.Kg != kg && in.MassKnown != "guess" {
		in.MassKnown = "guess" // only a scale or a person's word makes it weighed
		r.Says = append(r.Says, "its mass is changed and mass_known is not given: the new mass is a guess")
	}
	r.Says = append(r.Says, read.faults...)
	if len(read.faults) > 0 {
		r.Fate = "wrong"
	}
	for column, to := range map[string]**uuid.UUID{"owner": &in.OwnerID, "worn_by": &in.WornBy} {
		if text, has := r.cells[column]; has {
			im.person(r, column, text, to)
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
	if !r.known {
		r.Says = append(r.Says, im.fill(&in, r.cells)...)
	}
	if err := in.check(); err != nil && len(read.faults) == 0 {
		refusal := (*refuse.Error)(nil)
		if errors.As(err, &refusal) {
			for _, f := range refusal.Faults {
				r.wrong("%s", spoken(f))
			}
		}
	}
	r.gear = in.Row(im.actor)
	r.gear.ID = id
	w := im.was[id].Gear
	r.gear.Hours, r.gear.Trips, r.gear.UsedAt, r.gear.Version = w.Hours, w.Trips, w.UsedAt, w.Version+1
	r.Name = in.Name
	if r.gear.Container() {
		im.places.addBox(id, r.gear.Name)
	}
}

// spoken is a fault with its field named as a person does.
func spoken(f check.Fault) string {
	f.Field = words.FieldName(f.Field)
	return f.Error()
}

// keepUndoable keeps what the table made, and what it changed as it was.
func (im *importer) keepUndoable() error {
	var s kernel.Stroke
	var before []At
	for _, r := range im.rows {
		switch r.Fate {
		case "new":
			s.Gear = append(s.Gear, r.gear.ID)
		case "change":
			before = append(before, im.was[r.gear.ID])
		}
	}
	if len(s.Gear)+len(before) == 0 {
		return nil
	}
	if len(before) > 0 {
		text, err := writeTable(im.places, before)
		if err != nil {
			return err
		}
		s.Table = string(text)
	}
	return im.wing.Undoable(im.tx, im.actor, kernel.ChangeGear,
		fmt.Sprintf("A table brought %d new and changed %d.", len(s.Gear), len(before)), s)
}

// BringBack writes gear as a table from before has it, within a transaction that
// holds the crew's lock.
func (a *Wing) BringBack(tx *store.Tx, actor kernel.Actor, text []byte) error {
	read, err := table.Read(text, isColumn)
	if err != nil {
		return fmt.Errorf("reading what was kept: %w", err)
	}
	im := importer{wing: a, tx: tx, actor: actor, was: map[uuid.UUID]At{}, byID: map[uuid.UUID]*importRow{}, strict: true,
		whole: true}
	if err := im.read(inColumns(read, headings(read, nil, nil))); err != nil {
		return err
	}
	if v := im.view(); v.Wrong > 0 || v.New > 0 {
		return &refuse.Error{Kind: refuse.Conflict, Sentence: "Some of it does not go back as it was: change it by hand.",
			Details: wrongLines(v.Rows)}
	}
	return im.write(func(float64) {})
}

// fill takes size and mass that a new row leaves out from a usual thing.
func (im *importer) fill(in *GearInput, cells map[string]string) (says []string) {
	us := units.SystemNamed(im.actor.Units) == units.US
	if in.Size[0] != 0 && in.Size[1] != 0 && in.Size[2] != 0 && (in.Kg != 0 || hasMass(cells)) {
		return nil
	}
	e := entry.Line(in.Name, entry.Known{US: us})
	missing := 0
	for i, side := range in.Size {
		if side == 0 && e.Name != "" {
			in.Size[i] = e.Size[i]
			missing++
		}
	}
	if missing > 0 {
		says = append(says, map[bool]string{true: "no size: it is a guess", false: "a side is missing: it is a guess"}[missing == 3])
	}
	if in.Kg == 0 && e.Name != "" && !hasMass(cells) {
		in.Kg, in.MassKnown = e.Kg, "guess"
		says = append(says, "no mass: it is a guess")
	}
	return says
}

func hasMass(cells map[string]string) bool {
	return slices.ContainsFunc([]string{"kg", "mass", "lb", "g", "oz"}, func(c string) bool { return cells[c] != "" })
}

func ownerName(p *placeTexts, id *uuid.UUID) string {
	if id == nil {
		return ""
	}
	return p.owners[*id]
}

// placed is a row's whereabouts as a stowage, to be told in words.
func placed(r *importRow) model.Stowage {
	return model.Stowage{Kind: r.at.Kind, InsideID: r.at.InsideID, PlaceID: r.at.PlaceID, ShedID: r.at.ShedID, HeldBy: r.at.HeldBy}
}

// Shares of an import: reading it, and the rest by rows.
const (
	readShare  = 0.1
	rowsAtOnce = 500
	breath     = 2 // it rests for a half of what it took to write so many, so that other crews' reads stay quick
)

// write does what the rows say, and tells how far it is.
func (im *importer) write(tell func(share float64)) error {
	tell(readShare)
	var fresh []model.Gear
	at := map[uuid.UUID]model.Stowage{}
	for _, r := range im.containersFirst() {
		row := model.Stowage{GearID: r.gear.ID, CrewID: im.actor.Crew, Kind: r.at.Kind, InsideID: r.at.InsideID,
			BoatID: r.at.BoatID, PlaceID: r.at.PlaceID,
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
	written := 0
	for some := range slices.Chunk(fresh, rowsAtOnce) {
		began := time.Now()
		if err := im.wing.CreateGear(im.tx, im.actor, some, at); err != nil {
			return err
		}
		written += len(some)
		tell(readShare + (1-readShare)*float64(written)/float64(len(fresh)))
		if written < len(fresh) {
			time.Sleep(time.Since(began) / breath)
		}
	}
	return nil
}

// containersFirst gives the rows so that a box comes before what lies in it.
func (im *importer) containersFirst() []*importRow {
	depth := func(r *importRow) int {
		n := 0
		for in := r.at.InsideID; in != nil && n <= aboard.BoxesDeep; n++ {
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
func spareLater(rows []model.Gear) {
	depth := map[uuid.UUID]*uuid.UUID{}
	for _, g := range rows {
		depth[g.ID] = g.SparesFor
	}
	far := func(g model.Gear) int {
		n := 0
		for of := g.SparesFor; of != nil && n < len(rows); n++ {
			of = depth[*of]
		}
		return n
	}
	slices.SortStableFunc(rows, func(a, b model.Gear) int { return cmp.Compare(far(a), far(b)) })
}

// writeChange changes a piece that the crew has, and moves it where the table says.
func (im *importer) writeChange(r *importRow) error {
	was := im.was[r.gear.ID]
	if !sameGear(was.Gear, r.gear) {
		if err := im.wing.ChangeGear(im.tx, im.actor, was.Gear, r.gear); err != nil {
			return err
		}
	}
	if r.given && !was.Stowage.At().Same(r.at) {
		var now model.Stowage
		if err := store.Locked(im.tx, &now, "gear_id = ?", r.gear.ID); err != nil {
			return kernel.Absent(err, "gear")
		}
		return where.Send(im.tx, im.actor, r.gear.ID, r.at)
	}
	return nil
}
