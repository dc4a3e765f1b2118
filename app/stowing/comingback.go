package stowing

import (
	"context"
	"fmt"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/where"
	"ergasia/core/stow"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Back says how to come back to an arrangement.
type Back struct {
	Rest bool       // what is aboard and it does not name goes off her
	Off  bool       // its own things go off her instead: nothing is laid
	Shed *uuid.UUID // where what goes off her goes; nil is the quay
}

// WayBack is what it takes to come back to an arrangement, and how she is then.
type WayBack struct {
	Now     aboard.Figures  `json:"now"`
	Then    aboard.Figures  `json:"then"`
	Moves   []PlannedMove   `json:"moves" doc:"In an order in which each finds room"`
	LeftOut []LeftOut       `json:"left_out" doc:"What can't lie as it lay, and why"`
	Stowage []aboard.Stowed `json:"stowage" doc:"As it would be"`
}

// WayBack looks what coming back to an arrangement would take. Nothing is changed.
func (a *Wing) WayBack(ctx context.Context, actor kernel.Actor, boat, id uuid.UUID, in Back) (WayBack, error) {
	var c *comingBack
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		row, err := arrangementOf(tx, boat, id)
		if err != nil {
			return err
		}
		s, err := a.where.Laden(tx, actor, boat)
		if err != nil {
			return err
		}
		c, err = newComingBack(tx, s, row, in)
		return err
	})
	if err != nil {
		return WayBack{}, err
	}
	c.Stop = func() bool { return ctx.Err() != nil }
	c.next = c.Branch()
	view := c.wayBack()
	return view, ctx.Err()
}

// comingBack works out a way back to an arrangement.
type comingBack struct {
	*aboard.Laden
	next  *aboard.Laden
	lines []model.SavedSpot
	in    Back
	off   model.Whereabouts // where what goes off her goes
	names *where.Namer
	left  []LeftOut
}

func newComingBack(tx *store.Tx, s *aboard.Laden, row model.Arrangement, in Back) (*comingBack, error) {
	c := &comingBack{Laden: s, lines: row.Lines, in: in, off: model.Whereabouts{Kind: "quay"}}
	if in.Shed != nil {
		if err := kernel.Absent(store.Exists[model.Shed](tx, "id = ?", *in.Shed), "place ashore"); err != nil {
			return nil, err
		}
		c.off = model.Whereabouts{Kind: "shed", ShedID: in.Shed}
	}
	var ids []*uuid.UUID
	for _, l := range row.Lines {
		ids = append(ids, &l.GearID)
		if l.BoxID != nil {
			ids = append(ids, l.BoxID)
		}
	}
	if err := where.Fetch(tx, s, ids...); err != nil {
		return nil, err
	}
	spots := []model.Stowage{{ShedID: in.Shed}}
	for _, at := range s.Stowage {
		spots = append(spots, at)
	}
	var err error
	c.names, err = where.Names(tx, spots)
	return c, err
}

func (c *comingBack) wayBack() WayBack {
	if c.in.Off {
		c.takeOff(func(g model.Gear) bool { return c.line(g.ID) != nil })
	} else {
		if c.in.Rest {
			c.takeOff(func(g model.Gear) bool { return c.line(g.ID) == nil })
		}
		c.layAsSaved()
	}
	v := WayBack{Now: c.Figures(), Then: c.next.Figures(), Moves: c.moves(), LeftOut: c.left, Stowage: []aboard.Stowed{}}
	if v.LeftOut == nil {
		v.LeftOut = []LeftOut{}
	}
	for _, g := range c.Gear {
		if c.isAboard(c.Stowage[g.ID]) || c.isAboard(c.next.Stowage[g.ID]) {
			v.Stowage = append(v.Stowage, c.next.Stowed(g, c.names.Boats))
		}
	}
	return v
}

func (c *comingBack) line(gear uuid.UUID) *model.SavedSpot {
	return aboard.First(c.lines, func(l model.SavedSpot) bool { return l.GearID == gear })
}

func (c *comingBack) isAboard(at model.Stowage) bool {
	return at.BoatID != nil && *at.BoatID == c.Boat.ID
}

// takeOff carries things off her. What lies in a box that goes stays in it; what lies
// in one that stays goes only by its own name.
func (c *comingBack) takeOff(which func(model.Gear) bool) {
	for _, g := range c.Gear {
		at := c.Stowage[g.ID]
		if c.isAboard(at) && at.PlaceID != nil && which(g) && (at.InsideID == nil || c.in.Off && !c.boxGoes(g.ID, which)) {
			c.next.Carry(g.ID, c.off)
		}
	}
}

func (c *comingBack) boxGoes(gear uuid.UUID, which func(model.Gear) bool) bool {
	for in := c.Stowage[gear].InsideID; in != nil; in = c.Stowage[*in].InsideID {
		if box := c.Thing(*in); box != nil && which(*box) {
			return true
		}
	}
	return false
}

// layAsSaved carries each thing to where it lay, boxes before what lies in them, as far
// as the rules let it go there with all the rest.
func (c *comingBack) layAsSaved() {
	var laid []model.SavedSpot
	for _, boxed := range []bool{false, true} {
		for _, l := range c.lines {
			if (l.BoxID != nil) != boxed {
				continue
			}
			if why := c.cannot(l); why != "" {
				c.leave(l, why)
			} else if !l.Lies(c.next.Stowage[l.GearID]) {
				c.next.Carry(l.GearID, c.spot(l))
				laid = append(laid, l)
			}
		}
	}
	for _, l := range laid {
		if l.Anyway {
			continue
		}
		to := c.next.Stowage[l.GearID].At()
		refusals, err := c.next.Refuse(model.Event{GearID: &l.GearID}, to)
		if err != nil || len(refusals) > 0 {
			c.next.Carry(l.GearID, c.stays(l.GearID))
			why := fmt.Sprintf("%s can't go into %s again.", l.Name, l.In)
			if len(refusals) > 0 {
				why = refusals[0].Sentence
			}
			c.leave(l, why)
		}
	}
}

// cannot says why a thing can't go where it lay, whatever else lies there.
func (c *comingBack) cannot(l model.SavedSpot) string {
	if c.Thing(l.GearID) == nil {
		return l.Name + " is not in the list of gear any more."
	}
	switch at := c.Stowage[l.GearID]; {
	case at.Kind == "lent":
		return c.Thing(l.GearID).Name + " is " + c.names.Ground(at) + "."
	case l.PlaceID != nil && c.Place(*l.PlaceID) == nil:
		return fmt.Sprintf("%s lay in %s, a place that she has no more.", l.Name, l.In)
	case l.BoxID != nil && c.Thing(*l.BoxID) == nil:
		return fmt.Sprintf("%s lay in %s, which is not in the list of gear any more.", l.Name, l.In)
	case l.BoxID != nil && c.Stowage[*l.BoxID].Kind == "lent":
		return fmt.Sprintf("%s lay in %s, which is lent.", l.Name, l.In)
	}
	return ""
}

func (c *comingBack) leave(l model.SavedSpot, why string) {
	c.left = append(c.left, LeftOut{GearID: l.GearID, Name: l.Name, Why: why})
}

func (c *comingBack) spot(l model.SavedSpot) model.Whereabouts {
	if l.BoxID != nil {
		to := c.next.Stowage[*l.BoxID].At()
		to.InsideID, to.Laid, to.Anyway = l.BoxID, nil, l.Anyway
		return to
	}
	return model.Whereabouts{Kind: "boat", BoatID: &c.Boat.ID, PlaceID: l.PlaceID, Anyway: l.Anyway}
}

// stays is where a thing is that finds no room where it lay: where it is now, or off
// her where it is aboard, since others go there.
func (c *comingBack) stays(gear uuid.UUID) model.Whereabouts {
	if at := c.Stowage[gear]; !c.isAboard(at) {
		return at.At()
	}
	return c.off
}

// moves puts what goes elsewhere in an order in which each finds room: what lies in
// places, then what goes into boxes, or out of one and off her.
func (c *comingBack) moves() []PlannedMove {
	var things, direct []model.Gear // direct needs no room in a place
	for _, g := range c.Gear {
		is, then := c.Stowage[g.ID], c.next.Stowage[g.ID]
		switch {
		case is.At().Same(then.At()) || c.carried(g.ID):
		case then.InsideID != nil || c.placeIndex(is) == stow.Quay && c.placeIndex(then) == stow.Quay:
			direct = append(direct, g)
		default:
			things = append(things, g)
		}
	}
	list := []PlannedMove{}
	moved := map[uuid.UUID]int{}
	for _, s := range inOrder(c.Laden, c.next, things) {
		g := *c.Thing(uuid.MustParse(s.Piece.ID))
		waits := s.To == stow.Quay && c.placeIndex(c.next.Stowage[g.ID]) != stow.Quay
		list = append(list, c.move(g, moved[g.ID], waits))
		moved[g.ID]++
	}
	for _, g := range direct {
		list = append(list, c.move(g, 0, false))
	}
	return list
}

// carried says whether a thing goes only since its box does.
func (c *comingBack) carried(gear uuid.UUID) bool {
	is, then := c.Stowage[gear], c.next.Stowage[gear]
	return is.InsideID != nil && then.InsideID != nil && *is.InsideID == *then.InsideID
}

func (c *comingBack) move(g model.Gear, before int, waits bool) PlannedMove {
	is, then := c.Stowage[g.ID], c.next.Stowage[g.ID]
	m := PlannedMove{GearID: g.ID, Name: g.Name, Version: is.Version + before, From: c.names.Text(is), Waits: waits}
	if before > 0 {
		m.From = "the quay"
	}
	if waits {
		m.To, m.Why = "the quay", "It waits there: another thing goes where it lies, and it goes where that lies."
		return m
	}
	m.To, m.Anyway = c.names.Text(then), then.Anyway
	switch {
	case then.InsideID != nil:
		m.BoxID, m.To = then.InsideID, "into "+c.Thing(*then.InsideID).Name
	case c.isAboard(then):
		m.PlaceID, m.To = then.PlaceID, c.Place(*then.PlaceID).Name
	default:
		m.ShedID = then.ShedID
	}
	switch l := c.line(g.ID); {
	case m.PlaceID != nil || m.BoxID != nil:
		m.Why = "As it lay."
	case l == nil:
		m.Why = "The arrangement does not name it."
	case c.in.Off:
		m.Why = "It goes off her with the rest."
	default:
		m.Why = "It can't lie as it lay, and others go where it is."
	}
	if m.Anyway {
		m.Why = "As it lay, though a rule says no."
	}
	return m
}

func (c *comingBack) placeIndex(at model.Stowage) int { return placeIndex(c.Laden, at) }

// placeIndex is the number of the place that something lies in itself, or stow.Quay.
func placeIndex(s *aboard.Laden, at model.Stowage) int {
	if at.PlaceID == nil || at.InsideID != nil {
		return stow.Quay
	}
	return slices.IndexFunc(s.Places, func(q model.Place) bool { return q.ID == *at.PlaceID })
}

// inOrder puts what lies elsewhere then in an order in which each finds room.
func inOrder(s, next *aboard.Laden, things []model.Gear) []stow.Shift {
	var spots []stow.Place
	var there [][]stow.Piece
	for _, q := range s.Places {
		spots, there = append(spots, s.StowPlace(q)), append(there, s.In(q.ID, uuid.Nil))
	}
	var shifts []stow.Shift
	for _, g := range things {
		shifts = append(shifts, stow.Shift{Piece: s.Piece(g), From: placeIndex(s, s.Stowage[g.ID]),
			To: placeIndex(next, next.Stowage[g.ID])})
	}
	return stow.Sequence(spots, there, shifts)
}
