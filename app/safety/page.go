package safety

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/fleet"
	"ergasia/app/kernel"
	"ergasia/app/trips"
	"ergasia/core/carriage"
	"ergasia/core/check"
	"ergasia/core/hull"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// LyingPiece is safety equipment on the boat's page.
type LyingPiece struct {
	PieceView
	From    []float64    `json:"from_posts_s" doc:"Seconds from each post, in their order; under 0 where no hand comes"`
	Within  float64      `json:"within_s,omitempty" doc:"Seconds that the crew's packs ask for"`
	Slow    bool         `json:"slow"`
	State   string       `json:"state" enum:"good,soon,out,broken"`
	Serial  string       `json:"serial,omitempty"`
	Named   string       `json:"registration,omitempty"`
	Also    []string     `json:"also" words:"safety_classes"`
	Service *kernel.Date `json:"service_on,omitempty" doc:"When it is due for service next, by the calendar"`
	What    string       `json:"service,omitempty"`
	At      *model.Vec   `json:"at_m,omitempty" doc:"The middle of where it lies"`
}

// BoatSafety is a boat's page of safety equipment.
type BoatSafety struct {
	ID       uuid.UUID           `json:"id" format:"uuid"`
	Version  int                 `json:"version" doc:"Of the boat"`
	Name     string              `json:"name"`
	Lines    hull.Lines          `json:"lines"`
	Attitude *aboard.Attitude    `json:"attitude,omitempty"`
	Places   []fleet.PlaceRef    `json:"places"`
	Posts    []string            `json:"posts"`
	PostsAt  []fleet.PostRef     `json:"posts_at"`
	Pieces   []LyingPiece        `json:"pieces" doc:"What is wrong first"`
	Gaps     []GapView           `json:"gaps" doc:"What the crew's packs ask of her, on a day like the next trip or a usual one"`
	Against  string              `json:"against" doc:"Which day the gaps are of"`
	Carriage model.CarriageInput `json:"carriage"`
	Brief    model.BriefInput    `json:"brief"`
	Law      string              `json:"law"`
}

// GapView is a rule that is not met.
type GapView struct {
	What   string `json:"what"`
	Status string `json:"status" words:"carriage_status"`
	Why    string `json:"why"`
	Hold   bool   `json:"hold"`
}

// Boat gives a boat's safety equipment.
func (a *Wing) Boat(ctx context.Context, actor kernel.Actor, boat uuid.UUID) (BoatSafety, error) {
	var out BoatSafety
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		s, err := a.where.Laden(tx, actor, boat)
		if err != nil {
			return err
		}
		out = boatView(s)
		limits, err := limitsOf(tx, actor, s)
		if err != nil {
			return err
		}
		due, err := nextService(tx)
		if err != nil {
			return err
		}
		today := kernel.DayOf(a.Today())
		list := Pieces(s, func(model.Gear) bool { return false })
		must := held(list, limits)
		for _, p := range list {
			out.Pieces = append(out.Pieces, lying(s, p, must[p.Item.ID], due, today))
		}
		slices.SortStableFunc(out.Pieces, func(x, y LyingPiece) int {
			return cmp.Or(cmp.Compare(trouble(y), trouble(x)), cmp.Compare(x.Class, y.Class))
		})
		return a.gaps(ctx, tx, actor, s, &out)
	})
	return out, err
}

func trouble(p LyingPiece) int {
	n := map[string]int{"broken": 3, "out": 3, "soon": 1}[p.State]
	if p.Slow {
		n += 2
	}
	return n
}

func boatView(s *aboard.Laden) BoatSafety {
	out := BoatSafety{ID: s.Boat.ID, Version: s.Boat.Version, Name: s.Boat.Name, Lines: s.Craft.Lines,
		Attitude: s.Figures().Attitude, Places: []fleet.PlaceRef{}, Posts: []string{}, PostsAt: []fleet.PostRef{},
		Pieces: []LyingPiece{}, Gaps: []GapView{}, Law: carriage.Law}
	for _, p := range s.Places {
		out.Places = append(out.Places, fleet.PlaceRef{ID: p.ID, Version: p.Version, PlaceInput: fleet.PlaceInputOf(p)})
	}
	for _, p := range s.Posts {
		out.Posts = append(out.Posts, p.Name)
		out.PostsAt = append(out.PostsAt, fleet.PostRef{ID: p.ID, Version: p.Version,
			PostInput: fleet.PostInput{Name: p.Name, At: model.Vec{p.X, p.Y, p.Z}}})
	}
	if c := s.Craft.Input.Outfit.Carriage; c != nil {
		out.Carriage = *c
	}
	if b := s.Craft.Input.Outfit.Brief; b != nil {
		out.Brief = *b
	}
	return out
}

// limitsOf are the seconds within which each class is to be in a hand, by the crew's packs.
func limitsOf(tx *store.Tx, actor kernel.Actor, s *aboard.Laden) ([]carriage.Limit, error) {
	chosen, lib, err := rulesOf(tx, actor.Crew)
	if err != nil {
		return nil, err
	}
	rules, err := lib.All(chosen.Packs)
	if err != nil {
		return nil, fmt.Errorf("reading the packs: %w", err)
	}
	return carriage.Limits(rules, Vessel(s), chosen.Country), nil
}

func lying(s *aboard.Laden, p Piece, within float64, due map[uuid.UUID]serviceDue, today kernel.Date) LyingPiece {
	v := LyingPiece{PieceView: viewPiece(p), From: []float64{}, Within: within, State: "good", Also: []string{}}
	v.Slow = v.Within > 0 && p.Seconds != nil && *p.Seconds > v.Within
	if v.Expires != nil {
		switch {
		case v.Expires.At.Before(today.At):
			v.State = "out"
		case v.Expires.At.Before(today.Add(soonDays).At):
			v.State = "soon"
		}
	}
	v.At = p.At
	if p.Gear == nil {
		return v
	}
	g := *p.Gear
	v.From, v.Serial, v.Named = fromPosts(s, g), g.Serial, g.Registration
	v.Also = append(v.Also, g.SafetyAlso...)
	if g.Condition == "broken" {
		v.State = "broken"
	}
	if d, ok := due[g.ID]; ok {
		on := d.on
		v.Service, v.What = &on, d.what
		if v.State == "good" && on.At.Before(today.At) {
			v.State = "out"
		}
	}
	return v
}

type serviceDue struct {
	on   kernel.Date
	what string
}

// nextService is when each piece is due for service next by the calendar.
func nextService(tx *store.Tx) (map[uuid.UUID]serviceDue, error) {
	var rows []model.Service
	if err := store.All(tx, &rows, "", "every_days > 0"); err != nil {
		return nil, fmt.Errorf("reading the services: %w", err)
	}
	next := map[uuid.UUID]serviceDue{}
	for _, r := range rows {
		on := kernel.DayOf(r.LastOn).Add(r.EveryDays)
		if was, ok := next[r.GearID]; !ok || on.At.Before(was.on.At) {
			next[r.GearID] = serviceDue{on: on, what: r.What}
		}
	}
	return next, nil
}

// gaps holds the boat against the crew's packs: on her next trip, or on a usual day with
// as many aboard as she has posts.
func (a *Wing) gaps(ctx context.Context, tx *store.Tx, actor kernel.Actor, s *aboard.Laden, out *BoatSafety) error {
	ahead, err := a.trips.Ahead(tx)
	if err != nil {
		return err
	}
	next := aboard.First(ahead, func(t model.Trip) bool { return t.BoatID != nil && *t.BoatID == s.Boat.ID })
	if next == nil {
		out.Against = "She has no trip ahead: gaps are told of a trip."
		return nil
	}
	o, err := a.days.Load(tx, actor, next.ID, nil)
	if err != nil {
		return err
	}
	c, err := a.check(ctx, tx, actor, o)
	if err != nil {
		return err
	}
	out.Against = fmt.Sprintf("Of %s, %s.", next.Name, trips.ViewTrip(*next).StartsOn)
	for _, r := range c.rows {
		if unmet(r) {
			out.Gaps = append(
				out.Gaps,
				GapView{What: r.What, Status: r.Status, Why: kernel.Capital(r.Why), Hold: r.Hold},
			)
		}
	}
	return nil
}

// SetCarriage keeps what rules ask of a boat, and what is built into her.
func (a *Wing) SetCarriage(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID, version int,
	in model.CarriageInput) error {
	return a.setOutfit(ctx, actor, key, boat, version, []any{"carriage", in},
		func(*store.Tx) error {
			var fs check.Faults
			in.Check(&fs, "")
			return faulty(fs)
		},
		func(out *model.Outfit) { out.Carriage = &in })
}

// setOutfit changes what is always aboard over the version of the boat that was seen.
func (a *Wing) setOutfit(
	ctx context.Context,
	actor kernel.Actor,
	key, boat uuid.UUID,
	version int,
	input any,
	wrong func(*store.Tx) error,
	change func(*model.Outfit),
) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{boat, version, input}, func() (uuid.UUID, error) {
			if err := wrong(tx); err != nil {
				return boat, err
			}
			craft, err := a.where.Craft(tx, boat)
			if err != nil {
				return boat, err
			}
			outfit := craft.Input.Outfit
			change(&outfit)
			return boat, fleet.ChangeBoat(tx, boat, version, map[string]any{"outfit": outfit})
		})
		return err
	})
}

// SetBrief keeps what guests are told of a boat.
func (a *Wing) SetBrief(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID, version int,
	in model.BriefInput) error {
	var fs check.Faults
	in.Check(&fs, "")
	return a.setOutfit(ctx, actor, key, boat, version, []any{"brief", in},
		func(tx *store.Tx) error { return cmp.Or(faulty(fs), fleet.Seated(tx, boat, "seats", in.Seats)) },
		func(out *model.Outfit) { out.Brief = &in })
}
