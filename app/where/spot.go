package where

import (
	"cmp"
	"context"
	"fmt"
	"strings"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/core/stow"
	"ergasia/core/where"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
	"gorm.io/gorm"
)

// Spot is where a piece of gear is, in ids and in words.
type Spot struct {
	Kind    string     `json:"kind" enum:"quay,boat,shed,person,lent"`
	Text    string     `json:"text" doc:"In words, such as: Dunlin, port bench, in the pilk box"`
	Inside  *uuid.UUID `json:"inside_id,omitempty" format:"uuid"`
	BoatID  *uuid.UUID `json:"boat_id,omitempty" format:"uuid"`
	PlaceID *uuid.UUID `json:"place_id,omitempty" format:"uuid"`
	ShedID  *uuid.UUID `json:"shed_id,omitempty" format:"uuid"`
	HeldBy  *uuid.UUID `json:"held_by,omitempty" format:"uuid"`
	Version int        `json:"version" doc:"Of the stowage; a move names the one it saw"`
}

// Namer knows the names that spots are told in.
type Namer struct {
	Boats, Places, Sheds, Members, lent map[uuid.UUID]string
	Boxes                               map[uuid.UUID]Box
}

type Box struct {
	name   string
	inside *uuid.UUID
}

// Namer loads the names that the rows speak of, and no more.
func (a *Wing) Namer(tx *gorm.DB, actor kernel.Actor, rows []model.Stowage) (*Namer, error) {
	n := &Namer{Boxes: map[uuid.UUID]Box{}}
	pick := func(of func(model.Stowage) *uuid.UUID) []uuid.UUID {
		var ids []uuid.UUID
		seen := map[uuid.UUID]bool{}
		for _, r := range rows {
			if id := of(r); id != nil && !seen[*id] {
				ids, seen[*id] = append(ids, *id), true
			}
		}
		return ids
	}
	for _, q := range []struct {
		into *map[uuid.UUID]string
		sql  string
		ids  []uuid.UUID
	}{
		{&n.Boats, "SELECT id, name FROM boat WHERE crew_id = ? AND id IN ?", pick(func(r model.Stowage) *uuid.UUID { return r.BoatID })},
		{&n.Places, "SELECT id, name FROM place WHERE crew_id = ? AND id IN ?", pick(func(r model.Stowage) *uuid.UUID { return r.PlaceID })},
		{&n.Sheds, "SELECT id, site || ', ' || name AS name FROM shed WHERE crew_id = ? AND id IN ?", pick(func(r model.Stowage) *uuid.UUID { return r.ShedID })},
		{&n.Members, "SELECT id, name FROM member WHERE crew_id = ? AND id IN ?", pick(func(r model.Stowage) *uuid.UUID { return r.HeldBy })},
	} {
		*q.into = map[uuid.UUID]string{}
		if len(q.ids) == 0 {
			continue
		}
		var found []kernel.Named
		if err := tx.Raw(q.sql, actor.Crew, q.ids).Scan(&found).Error; err != nil {
			return nil, fmt.Errorf("naming places: %w", err)
		}
		for _, f := range found {
			(*q.into)[f.ID] = f.Name
		}
	}
	lent := pick(func(r model.Stowage) *uuid.UUID {
		if r.Kind == "lent" {
			return &r.GearID
		}
		return nil
	})
	if err := n.LoadLent(tx, actor, lent); err != nil {
		return nil, err
	}
	return n, n.LoadBoxes(tx, actor, pick(func(r model.Stowage) *uuid.UUID { return r.InsideID }))
}

// LoadLent says who has what is lent.
func (n *Namer) LoadLent(tx *gorm.DB, actor kernel.Actor, gear []uuid.UUID) error {
	n.lent = map[uuid.UUID]string{}
	if len(gear) == 0 {
		return nil
	}
	var found []kernel.Named
	err := tx.Raw("SELECT gear_id AS id, whom AS name FROM booking WHERE crew_id = ? AND way = 'lent' AND ended_on IS NULL AND gear_id IN ?", actor.Crew, gear).Scan(&found).Error
	if err != nil {
		return fmt.Errorf("looking who has it: %w", err)
	}
	for _, f := range found {
		n.lent[f.ID] = f.Name
	}
	return nil
}

// LoadBoxes names containers, and those that they lie in.
func (n *Namer) LoadBoxes(tx *gorm.DB, actor kernel.Actor, ids []uuid.UUID) error {
	for range aboard.BoxesDeep {
		if len(ids) == 0 {
			return nil
		}
		var found []struct {
			ID       uuid.UUID
			Name     string
			InsideID *uuid.UUID
		}
		err := tx.Raw(`SELECT gear.id, gear.name, stowage.inside_id FROM gear JOIN stowage ON stowage.crew_id = gear.crew_id AND stowage.gear_id = gear.id
			WHERE gear.crew_id = ? AND gear.id IN ?`, actor.Crew, ids).Scan(&found).Error
		if err != nil {
			return fmt.Errorf("naming boxes: %w", err)
		}
		ids = nil
		for _, f := range found {
			n.Boxes[f.ID] = Box{name: f.Name, inside: f.InsideID}
			if f.InsideID != nil {
				if _, known := n.Boxes[*f.InsideID]; !known {
					ids = append(ids, *f.InsideID)
				}
			}
		}
	}
	return nil
}

func (n *Namer) Spot(r model.Stowage) Spot {
	s := Spot{Kind: cmp.Or(r.Kind, "quay"), Inside: r.InsideID, BoatID: r.BoatID, PlaceID: r.PlaceID, ShedID: r.ShedID, HeldBy: r.HeldBy, Version: r.Version}
	s.Text = strings.Join(append([]string{n.ground(r)}, n.chain(r.InsideID)...), ", ")
	return s
}

// ground is where the outermost thing stands.
func (n *Namer) ground(r model.Stowage) string {
	switch {
	case r.PlaceID != nil:
		return n.Boats[*r.BoatID] + ", " + n.Places[*r.PlaceID]
	case r.ShedID != nil:
		return n.Sheds[*r.ShedID]
	case r.HeldBy != nil:
		return "with " + n.Members[*r.HeldBy]
	case r.Kind == "lent":
		return "lent to " + cmp.Or(n.lent[r.GearID], "someone")
	}
	return "the quay"
}

// chain words the boxes, outermost first.
func (n *Namer) chain(inside *uuid.UUID) []string {
	var words []string
	for range aboard.BoxesDeep {
		if inside == nil {
			break
		}
		b := n.Boxes[*inside]
		words = append([]string{"in " + b.name}, words...)
		inside = b.inside
	}
	return words
}

// Whereabouts says where a piece is and how to get to it.
type Whereabouts struct {
	Spot     Spot          `json:"spot"`
	Sentence string        `json:"sentence" doc:"Where exactly, such as: Dunlin, port fore locker, second box from the stem, under the net"`
	Way      []string      `json:"way" doc:"What to open and lift off, in order"`
	Box      []aboard.Laid `json:"box" doc:"Where it, or the box that it is in, lies aboard, in the boat's frame"`
	Trail    []TrailStep   `json:"trail" doc:"Where it has been, latest first"`
}

// TrailStep is one move of a piece.
type TrailStep struct {
	At   string `json:"at" format:"date-time"`
	By   string `json:"by"`
	Text string `json:"text"`
}

// Where tells where a piece is.
func (a *Wing) Where(ctx context.Context, actor kernel.Actor, gear uuid.UUID) (Whereabouts, error) {
	w := Whereabouts{Way: []string{}, Box: []aboard.Laid{}, Trail: []TrailStep{}}
	err := a.In(ctx, actor, func(tx *gorm.DB) error {
		var row model.Stowage
		if err := tx.Where("crew_id = ? AND gear_id = ?", actor.Crew, gear).Take(&row).Error; err != nil {
			return kernel.Absent(err, "gear")
		}
		n, err := a.Namer(tx, actor, []model.Stowage{row})
		if err != nil {
			return err
		}
		w.Spot = n.Spot(row)
		w.Sentence = w.Spot.Text
		if row.PlaceID != nil {
			if err := a.wayAboard(tx, actor, gear, row, n, &w); err != nil {
				return err
			}
		}
		for _, in := range n.chain(row.InsideID) {
			w.Way = append(w.Way, "look "+in)
		}
		w.Trail, err = a.trail(tx, actor, gear)
		return err
	})
	return w, err
}

// wayAboard finds how the piece, or the box that it is in, lies in its place.
func (a *Wing) wayAboard(tx *gorm.DB, actor kernel.Actor, gear uuid.UUID, row model.Stowage, n *Namer, w *Whereabouts) error {
	s, err := a.Snapshot(tx, actor, *row.BoatID)
	if err != nil {
		return err
	}
	p, root := s.Place(*row.PlaceID), s.Root(gear)
	laid, _ := stow.Lay(s.LaidPlace(*p), s.In(p.ID, uuid.Nil))
	layers := stow.Layers(laid)
	var lying []where.Lying
	for i, l := range laid {
		g := s.Thing(uuid.MustParse(l.ID))
		at := r3.Add(r3.Vec{X: p.X, Y: p.Y, Z: p.Z}, l.At)
		lying = append(lying, where.Lying{ID: l.ID, Name: g.Name, Shape: g.Shape, At: at, Size: l.Size})
		if g.ID == root {
			w.Box = append(w.Box, aboard.Laid{Corner: model.VecOf(at), Size: model.VecOf(l.Size), Layer: layers[i]})
		}
	}
	words := where.Sentence(n.Boats[*row.BoatID]+", "+p.Name, lying, root.String(), p.Y, p.Y+p.Breadth)
	w.Sentence = strings.Join(append([]string{words}, n.chain(row.InsideID)...), ", ")
	w.Way = s.Opening(*p)
	for _, name := range where.Above(lying, root.String()) {
		w.Way = append(w.Way, "lift off "+name)
	}
	return nil
}

// trailLength is how many moves of a piece are told.
const trailLength = 30

// trail tells where a piece has been.
func (a *Wing) trail(tx *gorm.DB, actor kernel.Actor, gear uuid.UUID) ([]TrailStep, error) {
	var events []model.Event
	if err := tx.Where("crew_id = ? AND gear_id = ?", actor.Crew, gear).Order("seq DESC").Limit(trailLength).Find(&events).Error; err != nil {
		return nil, fmt.Errorf("reading the moves: %w", err)
	}
	rows := make([]model.Stowage, len(events))
	members := map[uuid.UUID]string{}
	for i, e := range events {
		b := e.Became
		rows[i] = model.Stowage{GearID: gear, Kind: b.Kind, InsideID: b.InsideID, BoatID: b.BoatID, PlaceID: b.PlaceID, ShedID: b.ShedID, HeldBy: b.HeldBy}
		members[e.ByMember] = ""
	}
	n, err := a.Namer(tx, actor, rows)
	if err != nil {
		return nil, err
	}
	var people []kernel.Named
	if err := tx.Raw("SELECT id, name FROM member WHERE crew_id = ?", actor.Crew).Scan(&people).Error; err != nil {
		return nil, fmt.Errorf("naming people: %w", err)
	}
	for _, p := range people {
		members[p.ID] = p.Name
	}
	steps := []TrailStep{}
	for i, e := range events {
		text := n.Spot(rows[i]).Text
		if e.Kind == "undo" {
			text = "back to " + text
		}
		steps = append(steps, TrailStep{At: e.At.UTC().Format("2006-01-02T15:04:05Z"), By: members[e.ByMember], Text: text})
	}
	return steps, nil
}
