package gear

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"ergasia/app/aboard"
	"ergasia/app/where"
	"ergasia/core/stow"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// readPlace finds where a row's thing goes. A table that does not say leaves it
// where it is.
func (im *importer) readPlace(r *importRow) {
	text, has := r.cells["place"]
	if !has {
		if !r.known {
			r.at = model.Whereabouts{Kind: "quay"}
		}
		return
	}
	at, why := im.places.read(text)
	if why != "" && at.Kind == "" && at.InsideID == nil {
		if im.strict || r.known {
			r.wrong("place is %q: %s", text, why)
			return
		}
		at, why = model.Whereabouts{Kind: "quay"}, fmt.Sprintf("no place is called %q: it goes to the quay", text)
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
		if depth >= aboard.BoxesDeep || isRow && box == r {
			r.wrong("place: boxes lie in one another %d deep at most, and never in themselves", aboard.BoxesDeep)
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
		var row model.Stowage
		if err := store.One(im.tx, &row, "gear_id = ?", *at.InsideID); err != nil {
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
		if err := store.Pluck[model.Gear](im.tx, "id", &some, "id IN ?", chunk); err != nil {
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
		if r.Fate == "wrong" || r.known && im.was[r.gear.ID].Stowage.At().Same(r.at) &&
			aboard.PieceOf(im.was[r.gear.ID].Gear) == aboard.PieceOf(r.gear) {
			continue // it stays where it lies
		}
		if r.at.InsideID != nil {
			inBox[*r.at.InsideID] = append(inBox[*r.at.InsideID], r)
		} else if r.at.PlaceID != nil {
			inPlace[*r.at.PlaceID] = append(inPlace[*r.at.PlaceID], r)
		}
	}
	for id, rows := range inPlace {
		im.fitAll(s, s.StowPlace(im.places.places[id]), s.In(id, uuid.Nil), rows)
	}
	for id, rows := range inBox {
		b := s.Thing(id)
		if b == nil {
			continue // a wrong row; what goes into it is told in settle
		}
		inside := aboard.BoxPlace(*b)
		inside.Dry = true // whether the box stands dry is told where it stands
		im.fitAll(s, inside, s.InBox(id, uuid.Nil), rows)
	}
	for _, r := range im.rows {
		if r.Fate != "wrong" && r.at.InsideID != nil {
			im.settle(r) // its box may have stayed out, and it goes with the box
		}
	}
	return nil
}

// noRoom has a thing that does not go in where the table has it stay where it is, or come to
// the quay: one that does not fit keeps nothing else from being imported.
func (im *importer) noRoom(r *importRow, why string) {
	switch {
	case im.whole:
		r.wrong("place: %s", why)
	case r.known:
		r.at, r.given = im.was[r.gear.ID].Stowage.At(), false
		r.Says = append(r.Says, why+" It stays where it is.")
	default:
		r.at = model.Whereabouts{Kind: "quay"}
		r.Says = append(r.Says, why+" It goes to the quay.")
	}
}

// together is everything that the table's places hold, as it will be.
func (im *importer) together() (*aboard.Laden, error) {
	s := where.Ashore(im.actor)
	var places []uuid.UUID
	boxes := []uuid.UUID{}
	for _, r := range im.rows {
		if r.at.PlaceID != nil && !slices.Contains(places, *r.at.PlaceID) {
			places = append(places, *r.at.PlaceID)
		}
		if r.at.InsideID != nil && im.byID[*r.at.InsideID] == nil && !slices.Contains(boxes, *r.at.InsideID) {
			boxes = append(boxes, *r.at.InsideID)
		}
	}
	near, err := inPlaces(im.tx, places)
	if err != nil {
		return nil, err
	}
	if err := where.Load(im.tx, s, append(near, boxes...)); err != nil {
		return nil, err
	}
	var rows []model.Gear
	var stowage []model.Stowage
	for _, r := range im.rows {
		if r.Fate == "wrong" {
			continue
		}
		rows = append(rows, r.gear)
		stowage = append(stowage, model.Stowage{GearID: r.gear.ID, Kind: r.at.Kind, InsideID: r.at.InsideID,
			BoatID: r.at.BoatID, PlaceID: r.at.PlaceID})
	}
	s.Replace(rows, stowage)
	return s, nil
}

// fitAll tries everything at once; only where that fails are the rows tried one by one.
func (im *importer) fitAll(s *aboard.Laden, p stow.Place, all []stow.Piece, rows []*importRow) {
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
		one := s.Piece(r.gear)
		refusals := stow.Refuse(p, there, one, s.Units)
		if len(refusals) == 0 {
			there = append(there, one)
			continue
		}
		im.noRoom(r, strings.Join(aboard.Sentences(refusals), " "))
	}
}
