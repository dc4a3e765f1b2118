package app

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"slices"

	"ergasia/core/check"
	"ergasia/core/stow"
	"ergasia/store"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// MoveInput puts one thing in a place or one person at a post. Without a place
// the thing goes to the quay; without a post the person goes ashore.
type MoveInput struct {
	GearID   *uuid.UUID `json:"gear_id,omitempty" format:"uuid"`
	PlaceID  *uuid.UUID `json:"place_id,omitempty" format:"uuid"`
	MemberID *uuid.UUID `json:"member_id,omitempty" format:"uuid"`
	PostID   *uuid.UUID `json:"post_id,omitempty" format:"uuid"`
	Seated   bool       `json:"seated,omitempty"`
	Lay      *LayInput  `json:"lay,omitempty" doc:"Lays one of its pieces elsewhere within the place that it is in; place_id is then that place"`
	Version  int        `json:"version" doc:"Of the stowage or station that the mover saw; 0 where there was none"`
}

func (in MoveInput) check() error {
	var fs check.Faults
	if (in.GearID == nil) == (in.MemberID == nil) {
		fs.Add("gear_id", nil, "give either gear_id or member_id")
	}
	if in.GearID != nil && (in.PostID != nil || in.Seated) {
		fs.Add("post_id", nil, "gear goes to a place, not to a post")
	}
	if in.MemberID != nil && in.PlaceID != nil {
		fs.Add("place_id", nil, "a person goes to a post, not into a place")
	}
	if in.Lay != nil {
		if in.GearID == nil || in.PlaceID == nil {
			fs.Add("lay", nil, "give gear_id, and the place_id that it is in")
		}
		in.Lay.check(&fs)
	}
	return invalid(fs.Err())
}

// target is where a move leads, aboard this boat.
func (in MoveInput) target(boat uuid.UUID) whereabouts {
	w := whereabouts{PlaceID: in.PlaceID, PostID: in.PostID, Seated: in.Seated && in.PostID != nil}
	if in.GearID != nil {
		w.Kind = "quay"
	}
	if w.PlaceID != nil || w.PostID != nil {
		w.BoatID = &boat
	}
	if w.PlaceID != nil {
		w.Kind = "boat"
	}
	return w
}

type whereabouts store.Whereabouts

func (w whereabouts) same(o store.Whereabouts) bool {
	eq := func(a, b *uuid.UUID) bool { return a == b || a != nil && b != nil && *a == *b }
	return eq(w.PlaceID, o.PlaceID) && eq(w.PostID, o.PostID) && w.Seated == o.Seated &&
		eq(w.InsideID, o.InsideID) && eq(w.ShedID, o.ShedID) && eq(w.HeldBy, o.HeldBy)
}

// samely is same, and laid the same where that is noted of the other.
func (w whereabouts) samely(o store.Whereabouts) bool {
	return w.same(o) && (o.Laid == nil || slices.Equal(w.Laid, o.Laid))
}

// whereabouts of the event's subject now.
func (s *snapshot) whereabouts(e store.Event) whereabouts {
	if e.GearID != nil {
		return whereabouts(s.stowage[*e.GearID].At())
	}
	at := s.stations[*e.MemberID]
	return whereabouts{BoatID: at.BoatID, PostID: at.PostID, Seated: at.Seated}
}

// moved is the snapshot with the event's subject elsewhere; the original stays.
func (s *snapshot) moved(e store.Event, to store.Whereabouts) *snapshot {
	c := *s
	if e.GearID != nil && to.Kind == "" { // an event of before there were sheds
		to.Kind = "quay"
		if to.BoatID != nil {
			to.Kind = "boat"
		}
	}
	if e.GearID != nil {
		c.stowage = maps.Clone(s.stowage)
		c.carry(*e.GearID, to)
		row := c.stowage[*e.GearID]
		row.InsideID, row.Rides, row.Version = to.InsideID, "boat", s.stowage[*e.GearID].Version+1
		c.stowage[*e.GearID] = row
		c.fill()
		if p := c.placeOf(*e.GearID); p != nil && to.Laid != nil {
			c.holdStill(s, *p, *e.GearID)
		}
	} else {
		c.stations = maps.Clone(s.stations)
		c.stations[*e.MemberID] = store.Station{MemberID: *e.MemberID, BoatID: to.BoatID, PostID: to.PostID, Seated: to.Seated,
			Version: s.stations[*e.MemberID].Version + 1}
	}
	return &c
}

// carry takes gear and all that it holds elsewhere.
func (s *snapshot) carry(gear uuid.UUID, to store.Whereabouts) {
	row := s.stowage[gear]
	row.Laid, to.Laid = to.Laid, nil
	row.GearID, row.Kind, row.BoatID, row.PlaceID, row.ShedID, row.HeldBy = gear, to.Kind, to.BoatID, to.PlaceID, to.ShedID, to.HeldBy
	s.stowage[gear] = row
	for _, held := range s.holds[gear] {
		s.carry(held.ID, to)
	}
}

// try finds the event that a move would be, and why it would be refused.
func (s *snapshot) try(in MoveInput) (store.Event, []stow.Refusal, error) {
	e := store.Event{BoatID: &s.boat.ID, GearID: in.GearID, MemberID: in.MemberID, Kind: "move", State: "done",
		Became: store.Whereabouts(in.target(s.boat.ID))}
	if in.GearID != nil && s.thing(*in.GearID) == nil {
		return e, nil, notFound("gear")
	}
	if in.MemberID != nil && s.member(*in.MemberID) == nil {
		return e, nil, notFound("person")
	}
	e.Was = store.Whereabouts(s.whereabouts(e))
	if in.Lay != nil {
		if p := s.placeOf(*in.GearID); p == nil || p.ID != *in.PlaceID {
			return e, nil, &Error{Kind: Refused, Sentence: "It does not lie in that place: look where it is now."}
		}
		was, is, refusals, err := s.lay(*in.GearID, *in.Lay)
		e.Was.Laid, e.Became.Laid = was, is
		return e, refusals, err
	}
	refusals, err := s.refuse(e, e.Became)
	return e, refusals, err
}

// refuse lists why the event's subject may not go there.
func (s *snapshot) refuse(e store.Event, to store.Whereabouts) ([]stow.Refusal, error) {
	if to.PostID != nil && s.post(*to.PostID) == nil {
		return nil, notFound("post")
	}
	if to.InsideID != nil {
		return s.refuseBox(*e.GearID, *to.InsideID)
	}
	if to.PlaceID == nil {
		return nil, nil
	}
	p := s.place(*to.PlaceID)
	if p == nil {
		return nil, notFound("place")
	}
	if now := s.placeOf(*e.GearID); now != nil && now.ID == p.ID && to.Laid != nil {
		return s.refuseLaid(*p, *e.GearID, to.Laid), nil
	}
	g := *s.thing(*e.GearID)
	refusals := stow.Refuse(stowPlace(*p), s.in(p.ID, g.ID), s.piece(g), s.units)
	return append(s.keptOut(*p, g), refusals...), nil
}

// keptOut lists what of a place's own keeps a thing out: for whom it is kept, and
// what may not lie together.
func (s *snapshot) keptOut(p store.Place, g store.Gear) (refusals []stow.Refusal) {
	if keptForAnother(p, g) {
		if m := s.member(*p.KeptForOwner); m != nil {
			refusals = append(refusals, stow.Refusal{Rule: stow.RuleReserved, Sentence: fmt.Sprintf("%s is kept for %s's things; %s is not %[2]s's.", p.Name, m.Name, g.Name)})
		}
	}
	if keptForTag(p, g) {
		refusals = append(refusals, stow.Refusal{Rule: stow.RuleReserved, Sentence: fmt.Sprintf("%s is kept for what is tagged %s; %s is not.", p.Name, p.KeptForTag, g.Name)})
	}
	for _, o := range s.lieIn(p.ID) {
		if o.ID != g.ID {
			refusals = append(refusals, s.apart(g, o)...)
		}
	}
	return refusals
}

// lieIn lists what lies in a place itself, not in a box there.
func (s *snapshot) lieIn(place uuid.UUID) (list []store.Gear) {
	for _, g := range s.gear {
		if at := s.stowage[g.ID]; at.PlaceID != nil && *at.PlaceID == place && at.InsideID == nil {
			list = append(list, g)
		}
	}
	return list
}

// apart says why two things, with what they hold, may not lie together.
func (s *snapshot) apart(g, o store.Gear) []stow.Refusal {
	a, b, apart := stow.Apart(s.hazards(g), s.hazards(o))
	if !apart {
		return nil
	}
	return []stow.Refusal{{Rule: stow.RuleHazard, Sentence: fmt.Sprintf("%s (%s) may not lie with %s (%s).", g.Name, a, o.Name, b)}}
}

// Trial is what would become of the boat.
type Trial struct {
	Refused []string `json:"refused" doc:"Why the move would be refused; empty where it may be made"`
	Then    *Figures `json:"then,omitempty"`
	Now     Figures  `json:"now"`
}

// Try works a move out without making it.
func (a *App) Try(ctx context.Context, actor Actor, boat uuid.UUID, in MoveInput) (Trial, error) {
	if err := in.check(); err != nil {
		return Trial{}, err
	}
	var s *snapshot
	err := a.in(ctx, actor, func(tx *gorm.DB) (err error) {
		if s, err = a.snapshot(tx, actor, boat); err != nil {
			return err
		}
		return s.call(tx, actor, in.GearID)
	})
	if err != nil {
		return Trial{}, err
	}
	e, refusals, err := s.try(in)
	if err != nil {
		return Trial{}, err
	}
	laid := s.lies()
	trial := Trial{Refused: sentences(refusals), Now: s.figures(laid)}
	if len(refusals) == 0 {
		next := s.moved(e, e.Became)
		then := next.figures(next.relaid(laid, e))
		trial.Then = &then
	}
	return trial, nil
}

func sentences(refusals []stow.Refusal) []string {
	list := []string{}
	for _, r := range refusals {
		list = append(list, r.Sentence)
	}
	return list
}

// Move makes a move, and gives what it changed. Moves of one crew wait for
// one another.
func (a *App) Move(ctx context.Context, actor Actor, key, boat uuid.UUID, in MoveInput) (State, error) {
	if err := in.check(); err != nil {
		return State{}, err
	}
	return a.change(ctx, actor, key, boat, in, func(tx *gorm.DB, s *snapshot) (*store.Event, error) {
		if err := s.call(tx, actor, in.GearID); err != nil {
			return nil, err
		}
		e, refusals, err := s.try(in)
		if err != nil {
			return nil, err
		}
		if s.version(e) != in.Version {
			return nil, movedMeanwhile()
		}
		if len(refusals) > 0 {
			return nil, &Error{Kind: Refused, Sentence: refusals[0].Sentence, Details: sentences(refusals)}
		}
		if s.whereabouts(e).same(e.Became) && in.Lay == nil {
			return nil, nil // it is there already
		}
		err = tx.Model(&store.Event{}).Where("crew_id = ? AND boat_id = ? AND by_member = ? AND state = 'undone'", actor.Crew, boat, actor.Member).
			Update("state", "dropped").Error
		return &e, err
	})
}

func movedMeanwhile() error {
	return &Error{Kind: Conflict, Sentence: "Someone else moved it meanwhile: look where it is now."}
}

// Undo takes the actor's own last move of this boat back.
func (a *App) Undo(ctx context.Context, actor Actor, key, boat uuid.UUID) (State, error) {
	return a.turnBack(ctx, actor, key, boat, "undo", "done", "undone", "seq DESC")
}

// Redo makes the move again that the actor undid last.
func (a *App) Redo(ctx context.Context, actor Actor, key, boat uuid.UUID) (State, error) {
	return a.turnBack(ctx, actor, key, boat, "redo", "undone", "done", "seq")
}

func (a *App) turnBack(ctx context.Context, actor Actor, key, boat uuid.UUID, kind, from, to, order string) (State, error) {
	return a.change(ctx, actor, key, boat, kind, func(tx *gorm.DB, s *snapshot) (*store.Event, error) {
		var e store.Event
		err := tx.Where("crew_id = ? AND boat_id = ? AND by_member = ? AND kind = 'move' AND state = ?", actor.Crew, boat, actor.Member, from).
			Order(order).Take(&e).Error
		if errors.Is(err, gorm.ErrRecordNotFound) {
			return nil, &Error{Kind: Refused, Sentence: "There is nothing of yours to " + kind + " on this boat."}
		}
		if err != nil {
			return nil, fmt.Errorf("finding the move to %s: %w", kind, err)
		}
		if err := s.call(tx, actor, e.GearID); err != nil {
			return nil, err
		}
		source, target := e.Became, e.Was
		if kind == "redo" {
			source, target = e.Was, e.Became
		}
		if !s.whereabouts(e).samely(source) {
			return nil, &Error{Kind: Conflict, Sentence: "It was moved again since, so this can't be taken back: move it yourself."}
		}
		refusals, err := s.refuse(e, target)
		if err != nil || len(refusals) > 0 {
			return nil, &Error{Kind: Conflict, Sentence: "It doesn't go back there now.", Details: sentences(refusals)}
		}
		if err := tx.Model(&store.Event{}).Where("crew_id = ? AND id = ?", actor.Crew, e.ID).Update("state", to).Error; err != nil {
			return nil, fmt.Errorf("marking the move: %w", err)
		}
		return &store.Event{BoatID: &boat, GearID: e.GearID, MemberID: e.MemberID, Kind: kind, State: "log", Was: source, Became: target}, nil
	})
}

// change runs one change of a boat's stowage; decide says which, nil is none.
func (a *App) change(ctx context.Context, actor Actor, key, boat uuid.UUID, input any,
	decide func(*gorm.DB, *snapshot) (*store.Event, error)) (State, error) {
	return a.changes(ctx, actor, key, boat, input, func(tx *gorm.DB, s *snapshot) (*snapshot, error) {
		e, err := decide(tx, s)
		if err != nil || e == nil {
			return s, err
		}
		next := s.moved(*e, e.Became)
		return next, next.keep(tx, actor, e)
	})
}

// changes runs one or several changes of a boat's stowage, all or none of them:
// lock, look, make them, look again. A conflict carries the present state; a
// repeated key changes nothing.
func (a *App) changes(ctx context.Context, actor Actor, key, boat uuid.UUID, input any, make func(*gorm.DB, *snapshot) (*snapshot, error)) (State, error) {
	var st State
	err := a.in(ctx, actor, func(tx *gorm.DB) error {
		if err := lockMoves(tx, actor); err != nil {
			return err
		}
		s, err := a.snapshot(tx, actor, boat)
		if err != nil {
			return err
		}
		_, _, err = a.once(tx, actor, key, []any{boat, input}, func() (uuid.UUID, error) {
			next, err := make(tx, s)
			if err == nil {
				s = next
			}
			return boat, err
		})
		if refusal := (*Error)(nil); errors.As(err, &refusal) && refusal.Kind == Conflict {
			if s, err = a.snapshot(tx, actor, boat); err == nil { // the piece may have left for another boat
				refusal.State, err = s.state(tx, actor)
			}
			return errors.Join(refusal, err) // rolls back; the state was only read
		}
		if err != nil {
			return err
		}
		st, err = s.state(tx, actor)
		return err
	})
	return st, err
}

func (s *snapshot) version(e store.Event) int {
	if e.GearID != nil {
		return s.stowage[*e.GearID].Version
	}
	return s.stations[*e.MemberID].Version
}

// lockMoves holds every other move of the crew back until this one is done, so
// that no two can fill the same place, or put two boxes into each other.
func lockMoves(tx *gorm.DB, actor Actor) error {
	err := tx.Clauses(clause.Locking{Strength: "NO KEY UPDATE"}).Select("id").Where("id = ?", actor.Crew).Take(&store.Crew{}).Error
	return absent(err, "crew")
}

// keep writes where the subject is now, and the event that brought it there.
func (s *snapshot) keep(tx *gorm.DB, actor Actor, e *store.Event) error {
	if e.GearID != nil {
		row := s.stowage[*e.GearID]
		row.CrewID = actor.Crew
		if err := s.keepStill(tx, actor); err != nil {
			return err
		}
		return relocate(tx, actor, row, e)
	}
	row := s.stations[*e.MemberID]
	row.CrewID = actor.Crew
	if err := keepRow(tx, "station", &row); err != nil {
		return err
	}
	return keepEvent(tx, actor, e)
}

// keepRow writes a stowage or station, unless it is not the one that was seen.
func keepRow(tx *gorm.DB, table string, row any) error {
	unmoved := clause.Where{Exprs: []clause.Expression{clause.Expr{SQL: table + ".version = EXCLUDED.version - 1"}}}
	kept := tx.Clauses(clause.OnConflict{UpdateAll: true, Where: unmoved}).Create(row)
	if kept.Error != nil {
		return fmt.Errorf("keeping the move: %w", kept.Error)
	}
	if kept.RowsAffected == 0 {
		return movedMeanwhile()
	}
	return nil
}

// relocate writes where a piece is now, takes what it holds along, and keeps the event.
func relocate(tx *gorm.DB, actor Actor, row store.Stowage, e *store.Event) error {
	row.Since = tx.NowFunc()
	if err := keepRow(tx, "stowage", &row); err != nil {
		return err
	}
	err := tx.Exec(`WITH RECURSIVE held AS (
			SELECT gear_id FROM stowage WHERE crew_id = @crew AND inside_id = @gear
			UNION SELECT s.gear_id FROM stowage s JOIN held ON s.crew_id = @crew AND s.inside_id = held.gear_id)
		UPDATE stowage SET kind = @kind, boat_id = @boat, place_id = @place, shed_id = @shed, held_by = @by, rides = @rides
		WHERE crew_id = @crew AND gear_id IN (SELECT gear_id FROM held)`,
		map[string]any{"crew": actor.Crew, "gear": row.GearID, "kind": row.Kind, "boat": row.BoatID, "place": row.PlaceID,
			"shed": row.ShedID, "by": row.HeldBy, "rides": row.Rides}).Error
	if err != nil {
		return fmt.Errorf("taking along what it holds: %w", err)
	}
	if err := tx.Exec("UPDATE gear SET used_at = ? WHERE crew_id = ? AND id = ?", row.Since, actor.Crew, row.GearID).Error; err != nil {
		return fmt.Errorf("noting the use: %w", err)
	}
	return keepEvent(tx, actor, e)
}

func keepEvent(tx *gorm.DB, actor Actor, e *store.Event) error {
	e.ID, e.CrewID, e.ByMember = store.NewID(), actor.Crew, actor.Member
	if err := tx.Omit("At").Create(e).Error; err != nil {
		return fmt.Errorf("keeping the event: %w", err)
	}
	return nil
}
