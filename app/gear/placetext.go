package gear

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"ergasia/app/kernel"
	"ergasia/core/find"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// placeTexts turns whereabouts into texts of a table and back.
type placeTexts struct {
	byText  map[string]model.Whereabouts   // folded
	byLast  map[string][]model.Whereabouts // folded, without the boat, or what it is
	texts   map[uuid.UUID]string           // of places, sheds and people
	owners  map[uuid.UUID]string
	byOwner map[string][]uuid.UUID // folded name or mark
	boxes   map[string][]uuid.UUID // folded name of containers
	boxName map[uuid.UUID]string
	places  map[uuid.UUID]model.Place
}

func folded(text string) string { return strings.Join(find.Words(text), " ") }

func loadPlaces(tx *store.Tx) (*placeTexts, error) {
	p := &placeTexts{byText: map[string]model.Whereabouts{}, byLast: map[string][]model.Whereabouts{}, texts: map[uuid.UUID]string{},
		owners: map[uuid.UUID]string{}, byOwner: map[string][]uuid.UUID{},
		boxes: map[string][]uuid.UUID{}, boxName: map[uuid.UUID]string{}, places: map[uuid.UUID]model.Place{}}
	var boats, boxes []kernel.Named
	var places []model.Place
	var sheds []model.Shed
	var members []model.Member
	err := errors.Join(
		tx.Read(&boats, "SELECT id, name FROM boat WHERE crew_id = @crew", nil),
		tx.Read(&boxes, "SELECT id, name FROM gear WHERE crew_id = @crew AND inside_length > 0", nil),
		store.All(tx, &places, "", ""), store.All(tx, &sheds, "", ""), store.All(tx, &members, "", "left_at IS NULL"))
	if err != nil {
		return nil, fmt.Errorf("loading places: %w", err)
	}
	boatNames := map[uuid.UUID]string{}
	for _, b := range boats {
		boatNames[b.ID] = b.Name
	}
	add := func(id uuid.UUID, text string, at model.Whereabouts) {
		p.texts[id], p.byText[folded(text)] = text, at
		if _, last, is := strings.Cut(text, " / "); is { // "port bench" is enough where one boat has it
			p.byLast[folded(last)] = append(p.byLast[folded(last)], at)
		}
		if _, short, is := strings.Cut(text, ": "); is { // and so is "boathouse / shelf A"
			p.byLast[folded(short)] = append(p.byLast[folded(short)], at)
		}
	}
	for _, r := range places {
		p.places[r.ID] = r
		add(r.ID, boatNames[r.BoatID]+" / "+r.Name, model.Whereabouts{Kind: "boat", BoatID: &r.BoatID, PlaceID: &r.ID})
	}
	for _, r := range sheds {
		add(r.ID, "ashore: "+r.Site+" / "+r.Name, model.Whereabouts{Kind: "shed", ShedID: &r.ID})
	}
	for _, r := range members {
		add(r.ID, "with: "+r.Name, model.Whereabouts{Kind: "person", HeldBy: &r.ID})
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
func (p *placeTexts) write(r model.Stowage) string {
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
func (p *placeTexts) read(text string) (at model.Whereabouts, why string) {
	if box, is := strings.CutPrefix(strings.TrimSpace(text), "in:"); is {
		return p.readBox(strings.TrimSpace(box))
	}
	switch folded(text) {
	case "", "quay", "the quay":
		return model.Whereabouts{Kind: "quay"}, ""
	case "lent":
		return model.Whereabouts{Kind: "quay"}, "lent: who has it is not in a table, so it goes to the quay"
	}
	if at, known := p.byText[folded(text)]; known {
		return at, ""
	}
	if one := p.byLast[folded(text)]; len(one) == 1 {
		return one[0], ""
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

func (p *placeTexts) readBox(text string) (at model.Whereabouts, why string) {
	if id, err := uuid.Parse(text); err == nil {
		if _, known := p.boxName[id]; !known {
			return at, "is no box of this crew or table"
		}
		return model.Whereabouts{InsideID: &id}, ""
	}
	switch ids := p.boxes[folded(text)]; len(ids) {
	case 0:
		return at, "is no box: only gear with an inside holds something"
	case 1:
		return model.Whereabouts{InsideID: &ids[0]}, ""
	default:
		return at, fmt.Sprintf("%d boxes have this name: write in: and the id of one", len(ids))
	}
}
