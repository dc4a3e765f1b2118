package where

import (
	"cmp"
	"context"
	"fmt"
	"strings"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/core/where"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
)

// Spot is where a piece of gear is, in ids and in words.
type Spot struct {
	Kind    string     `json:"kind" words:"spots"`
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
	Boats                        map[uuid.UUID]string
	places, sheds, members, lent map[uuid.UUID]string
	boxes                        map[uuid.UUID]nesting
}

type nesting struct {
	name   string
	inside *uuid.UUID
}

// Names loads the names that the rows speak of, and no more.
func Names(tx *store.Tx, rows []model.Stowage) (*Namer, error) {
	n := &Namer{boxes: map[uuid.UUID]nesting{}}
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
		{into: &n.Boats, sql: "SELECT id, name FROM boat WHERE crew_id = @crew AND id IN @ids",
			ids: pick(func(r model.Stowage) *uuid.UUID { return r.BoatID })},
		{into: &n.places, sql: "SELECT id, name FROM place WHERE crew_id = @crew AND id IN @ids",
			ids: pick(func(r model.Stowage) *uuid.UUID { return r.PlaceID })},
		{into: &n.sheds, sql: "SELECT id, site || ', ' || name AS name FROM shed WHERE crew_id = @crew AND id IN @ids",
			ids: pick(func(r model.Stowage) *uuid.UUID { return r.ShedID })},
		{into: &n.members, sql: "SELECT id, name FROM member WHERE crew_id = @crew AND id IN @ids",
			ids: pick(func(r model.Stowage) *uuid.UUID { return r.HeldBy })},
		{into: &n.lent, sql: `SELECT gear_id AS id, whom AS name FROM booking
			WHERE crew_id = @crew AND way = 'lent' AND ended_on IS NULL AND gear_id IN @ids`, ids: pick(lent)},
	} {
		*q.into = map[uuid.UUID]string{}
		if len(q.ids) == 0 {
			continue
		}
		var err error
		if *q.into, err = named(tx, q.sql, store.Args{"ids": q.ids}); err != nil {
			return nil, err
		}
	}
	return n, n.loadBoxes(tx, pick(func(r model.Stowage) *uuid.UUID { return r.InsideID }))
}

// lent is the gear of a row that is lent.
func lent(r model.Stowage) *uuid.UUID {
	if r.Kind == "lent" {
		return &r.GearID
	}
	return nil
}

// loadBoxes names containers, and those that they lie in.
func (n *Namer) loadBoxes(tx *store.Tx, ids []uuid.UUID) error {
	for range aboard.BoxesDeep {
		if len(ids) == 0 {
			return nil
		}
		found, err := boxesNamed(tx, ids)
		if err != nil {
			return err
		}
		ids = nil
		for _, f := range found {
			n.boxes[f.ID] = nesting{name: f.Name, inside: f.InsideID}
			if f.InsideID != nil {
				if _, known := n.boxes[*f.InsideID]; !known {
					ids = append(ids, *f.InsideID)
				}
			}
		}
	}
	return nil
}

// Spot says where a row is, in ids and in words.
func (n *Namer) Spot(r model.Stowage) Spot {
	s := Spot{Kind: cmp.Or(r.Kind, "quay"), Inside: r.InsideID, BoatID: r.BoatID, PlaceID: r.PlaceID, ShedID: r.ShedID,
		HeldBy: r.HeldBy, Version: r.Version}
	s.Text = n.Text(r)
	return s
}

// Text says where a row is, in words.
func (n *Namer) Text(r model.Stowage) string {
	return strings.Join(append([]string{n.Ground(r)}, n.chain(r.InsideID)...), ", ")
}

// Ground is where the outermost thing stands.
func (n *Namer) Ground(r model.Stowage) string {
	switch {
	case r.PlaceID != nil:
		return n.Boats[*r.BoatID] + ", " + n.places[*r.PlaceID]
	case r.ShedID != nil:
		return n.sheds[*r.ShedID]
	case r.HeldBy != nil:
		return "with " + n.members[*r.HeldBy]
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
		b := n.boxes[*inside]
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
	Against  []string      `json:"against,omitempty" doc:"Why a rule says no, of what was noted there all the same"`
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
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		var row model.Stowage
		if err := store.One(tx, &row, "gear_id = ?", gear); err != nil {
			return kernel.Absent(err, "gear")
		}
		n, err := Names(tx, []model.Stowage{row})
		if err != nil {
			return err
		}
		w.Spot = n.Spot(row)
		w.Sentence = w.Spot.Text
		if row.PlaceID != nil {
			s, err := a.Laden(tx, actor, *row.BoatID)
			if err != nil {
				return err
			}
			wayAboard(s, gear, n, &w)
		}
		for _, in := range n.chain(row.InsideID) {
			w.Way = append(w.Way, "look "+in)
		}
		w.Trail, err = trail(tx, gear)
		return err
	})
	return w, err
}

// wayAboard finds how the piece, or the box that it is in, lies in its place.
func wayAboard(s *aboard.Laden, gear uuid.UUID, n *Namer, w *Whereabouts) {
	root := s.Root(gear)
	p := s.PlaceOf(root)
	var lying []where.Lying
	for _, l := range s.LiesIn(p.ID) {
		g := s.Thing(l.Gear)
		lying = append(lying, where.Lying{ID: l.ID, Name: g.Name, Shape: g.Shape, At: r3.Add(r3.Vec{X: p.X, Y: p.Y, Z: p.Z},
			l.At), Size: l.Size})
	}
	w.Box = s.LaidOf(root)
	w.Against = s.Against(*s.Thing(gear))
	words := where.Sentence(s.Boat.Name+", "+p.Name, lying, root.String(), p.Y, p.Y+p.Breadth)
	w.Sentence = strings.Join(append([]string{words}, n.chain(s.Stowage[gear].InsideID)...), ", ")
	w.Way = s.Opening(*p)
	for _, name := range where.Above(lying, root.String()) {
		w.Way = append(w.Way, "lift off "+name)
	}
}

// spotOf is where a piece is, in ids and in words.
func (a *Wing) spotOf(tx *store.Tx, gear uuid.UUID) (Spot, error) {
	var row model.Stowage
	if err := store.One(tx, &row, "gear_id = ?", gear); err != nil {
		return Spot{}, kernel.Absent(err, "gear")
	}
	n, err := Names(tx, []model.Stowage{row})
	if err != nil {
		return Spot{}, err
	}
	return n.Spot(row), nil
}

// trailLength is how many moves of a piece are told.
const trailLength = 30

// trail tells where a piece has been.
func trail(tx *store.Tx, gear uuid.UUID) ([]TrailStep, error) {
	var events []model.Event
	if err := store.Some(tx, &events, trailLength, "seq DESC", "gear_id = ? AND kind <> 'new'", gear); err != nil {
		return nil, fmt.Errorf("reading the moves: %w", err)
	}
	rows := make([]model.Stowage, len(events))
	for i, e := range events {
		b := e.Became
		rows[i] = model.Stowage{GearID: gear, Kind: b.Kind, InsideID: b.InsideID, BoatID: b.BoatID, PlaceID: b.PlaceID,
			ShedID: b.ShedID, HeldBy: b.HeldBy}
	}
	n, err := Names(tx, rows)
	if err != nil {
		return nil, err
	}
	people, err := named(tx, "SELECT id, name FROM member WHERE crew_id = @crew", nil)
	if err != nil {
		return nil, err
	}
	steps := []TrailStep{}
	for i, e := range events {
		text := n.Spot(rows[i]).Text
		if e.Kind == "undo" {
			text = "back to " + text
		}
		steps = append(steps, TrailStep{At: e.At.UTC().Format("2006-01-02T15:04:05Z"), By: people[e.ByMember], Text: text})
	}
	return steps, nil
}
