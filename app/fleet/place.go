package fleet

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/hull"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
)

// PlaceInput is a box aboard that holds gear.
type PlaceInput struct {
	Name      string     `json:"name"`
	Corner    model.Vec  `json:"corner_m" doc:"Of least x, y and z"`
	Size      model.Vec  `json:"size_m" doc:"Inside, along x, y and z"`
	Opening   [2]float64 `json:"opening_m" doc:"In the top, along x and y; 0, 0 for the whole top"`
	Dryness   string     `json:"dryness" words:"dryness"`
	MaxKg     float64    `json:"max_kg" doc:"What it may carry; 0 for no limit"`
	Parent    *uuid.UUID `json:"parent_id,omitempty" format:"uuid" doc:"The place that it stands in"`
	Lid       string     `json:"lid,omitempty" words:"lids" doc:"none where it is left out"`
	Hinge     string     `json:"hinge,omitempty" words:"hinges" doc:"On which edge the lid turns; left out, the one away from the nearest post"`
	Latched   bool       `json:"latched,omitempty"`
	Locks     bool       `json:"locks,omitempty"`
	Drained   bool       `json:"drained,omitempty"`
	Insulated bool       `json:"insulated,omitempty"`
	KeptFor   *uuid.UUID `json:"kept_for_id,omitempty" format:"uuid" doc:"Only this member's things go in"`
	KeptTag   string     `json:"kept_for_tag,omitempty" doc:"Only things with this tag go in, such as guest"`
	Form      string     `json:"form,omitempty" words:"place_forms" doc:"How it takes rods; box where it is left out: anything, rods as boxes"`
	Slots     int        `json:"slots,omitempty" doc:"Tubes, or upright holders"`
	Diameter  float64    `json:"slot_diameter_m,omitempty" doc:"Inside, of a tube"`
}

func (in PlaceInput) check() error {
	var fs check.Faults
	fs.Text("name", in.Name, 1, 80)
	for i := range 3 {
		fs.Within(fmt.Sprintf("corner_m[%d]", i), in.Corner[i], -model.Farthest, model.Farthest)
		fs.Within(fmt.Sprintf("size_m[%d]", i), in.Size[i], 0.01, 12)
	}
	for i := range 2 {
		fs.Within(fmt.Sprintf("opening_m[%d]", i), in.Opening[i], 0, 12)
	}
	if (in.Opening[0] == 0) != (in.Opening[1] == 0) {
		fs.Add("opening_m", in.Opening, "give both sides, or 0, 0 for the whole top")
	}
	if in.Opening[0] > in.Size[0]+1e-9 || in.Opening[1] > in.Size[1]+1e-9 {
		fs.Add("opening_m", in.Opening, fmt.Sprintf("must not be larger than the place, %g by %g", in.Size[0], in.Size[1]))
	}
	fs.OneOf("dryness", in.Dryness, words.Dryness.Keys()...)
	fs.Within("max_kg", in.MaxKg, 0, 1000)
	fs.OneOf("lid", in.Lid, words.Lids.OrNone()...)
	fs.OneOf("hinge", in.Hinge, words.Hinges.OrNone()...)
	fs.Text("kept_for_tag", in.KeptTag, 0, 40)
	in.checkForm(&fs)
	return refuse.Faulty(fs.Err())
}

// checkForm sees that tubes have a number and a diameter, and holders a number.
func (in PlaceInput) checkForm(fs *check.Faults) {
	fs.OneOf("form", in.Form, words.PlaceForms.OrNone()...)
	fewest, thinnest := 0.0, 0.0
	most, widest := 0.0, 0.0
	switch in.Form {
	case "tubes":
		fewest, most, thinnest, widest = 1, 40, 0.01, 0.5
	case "upright":
		fewest, most = 1, 40
	}
	fs.Within("slots", float64(in.Slots), fewest, most)
	fs.Within("slot_diameter_m", in.Diameter, thinnest, widest)
}

func (in PlaceInput) row(actor kernel.Actor, boat uuid.UUID) model.Place {
	return model.Place{CrewID: actor.Crew, BoatID: boat, Name: in.Name, X: in.Corner[0], Y: in.Corner[1], Z: in.Corner[2],
		Length: in.Size[0], Breadth: in.Size[1], Height: in.Size[2], OpeningLength: in.Opening[0],
		OpeningBreadth: in.Opening[1],
		Dryness:        in.Dryness, MaxKg: in.MaxKg, ParentID: in.Parent, Lid: cmp.Or(in.Lid, "none"), Hinge: in.Hinge,
		Latched: in.Latched, Locks: in.Locks, Drained: in.Drained, Insulated: in.Insulated,
		KeptForOwner: in.KeptFor, KeptForTag: in.KeptTag, Form: cmp.Or(in.Form, "box"), Slots: in.Slots,
		SlotDiameter: in.Diameter}
}

// PlaceInputOf is a place as it was entered.
func PlaceInputOf(p model.Place) PlaceInput {
	return PlaceInput{Name: p.Name, Corner: model.Vec{p.X, p.Y, p.Z}, Size: model.Vec{p.Length, p.Breadth, p.Height},
		Opening: [2]float64{p.OpeningLength, p.OpeningBreadth}, Dryness: p.Dryness, MaxKg: p.MaxKg,
		Parent: p.ParentID, Lid: p.Lid, Hinge: p.Hinge, Latched: p.Latched, Locks: p.Locks, Drained: p.Drained, Insulated: p.Insulated,
		KeptFor: p.KeptForOwner, KeptTag: p.KeptForTag, Form: p.Form, Slots: p.Slots, Diameter: p.SlotDiameter}
}

// PlaceRef is a place with its version, the state of a stale edit.
type PlaceRef struct {
	ID      uuid.UUID `json:"id" format:"uuid"`
	Version int       `json:"version"`
	PlaceInput
}

// PostRef is a post with its id.
type PostRef struct {
	ID      uuid.UUID `json:"id" format:"uuid"`
	Version int       `json:"version"`
	PostInput
}

// SavePlace makes a place (no id) or changes one. It gives the place's id.
func (a *Wing) SavePlace(ctx context.Context, actor kernel.Actor, key, boat, id uuid.UUID, version int,
	in PlaceInput) (uuid.UUID, error) {
	if err := in.check(); err != nil {
		return uuid.Nil, err
	}
	row := in.row(actor, boat)
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		made, _, err := a.Once(tx, actor, key, []any{boat, id, version, in}, func() (uuid.UUID, error) {
			if err := mayStandIn(tx, actor, boat, id, in); err != nil {
				return uuid.Nil, err
			}
			if in.KeptFor != nil {
				if err := store.Exists[model.Member](tx, "id = ? AND left_at IS NULL", *in.KeptFor); err != nil {
					return uuid.Nil, kernel.Absent(err, "person")
				}
			}
			if id == uuid.Nil {
				if err := BoatExists(tx, boat); err != nil {
					return uuid.Nil, err
				}
				row.ID, row.Version = store.NewID(), 1
				return row.ID, kernel.Taken(store.Add(tx, &row), "name", in.Name)
			}
			row.ID, row.Version = id, version+1
			return id, changePlace(tx, actor, boat, version, row)
		})
		id = made
		return err
	})
	return id, err
}

// changePlace keeps a changed place; what stands in it moves with it.
func changePlace(tx *store.Tx, actor kernel.Actor, boat uuid.UUID, version int, row model.Place) error {
	var now model.Place
	if err := store.One(tx, &now, "boat_id = ? AND id = ?", boat, row.ID); err != nil {
		return kernel.Absent(err, "place")
	}
	err := store.Save(tx, &row, row.ID, version)
	if errors.Is(err, store.ErrStale) {
		return refuse.Stale(now.Name, PlaceRef{ID: now.ID, Version: now.Version, PlaceInput: PlaceInputOf(now)})
	}
	if err != nil {
		return kernel.Taken(err, "name", row.Name)
	}
	return carryAlong(tx, actor, row, r3.Vec{X: row.X - now.X, Y: row.Y - now.Y, Z: row.Z - now.Z}, 0)
}

// carryAlong moves what stands in a place as far as the place was moved, and
// refuses where it would stick out.
func carryAlong(tx *store.Tx, actor kernel.Actor, parent model.Place, by r3.Vec, depth int) error {
	var inner []model.Place
	if err := store.All(tx, &inner, "", "boat_id = ? AND parent_id = ?", parent.BoatID, parent.ID); err != nil ||
		depth > deepest {
		return err
	}
	for _, p := range inner {
		p.X, p.Y, p.Z = p.X+by.X, p.Y+by.Y, p.Z+by.Z
		if !inside(PlaceInputOf(p), PlaceInputOf(parent)) {
			return &refuse.Error{Kind: refuse.Refused,
				Sentence: p.Name + " stands in it and would stick out: move or shrink that first."}
		}
		if by == (r3.Vec{}) {
			continue
		}
		err := store.Set[model.Place](tx, map[string]any{"x": p.X, "y": p.Y, "z": p.Z, "version": p.Version + 1}, "id = ?",
			p.ID)
		if err != nil {
			return fmt.Errorf("moving what stands in the place: %w", err)
		}
		if err := carryAlong(tx, actor, p, by, depth+1); err != nil {
			return err
		}
	}
	return nil
}

// BoatExists says that a boat of the crew is missing, or nothing.
func BoatExists(tx *store.Tx, boat uuid.UUID) error {
	return kernel.Absent(store.Exists[model.Boat](tx, "id = ?", boat), "boat")
}

// deepest is how deep places may nest: boat, locker, tray, box and one more.
const deepest = 5

// mayStandIn refuses a parent that the place does not lie in, or that stands in
// the place itself.
func mayStandIn(tx *store.Tx, actor kernel.Actor, boat, id uuid.UUID, in PlaceInput) error {
	at := in.Parent
	for depth := 0; at != nil; depth++ {
		var p model.Place
		if err := store.One(tx, &p, "boat_id = ? AND id = ?", boat, *at); err != nil {
			return kernel.Absent(err, "place to stand in")
		}
		if p.ID == id || depth >= deepest {
			return &refuse.Error{Kind: refuse.Refused,
				Sentence: fmt.Sprintf("%s can't stand in a place that stands in it, nor deeper than %d.", in.Name, deepest)}
		}
		if depth == 0 && !inside(in, PlaceInputOf(p)) {
			return &refuse.Error{Kind: refuse.Refused,
				Sentence: fmt.Sprintf("%s does not lie inside %s: make it smaller, or take it out of there.", in.Name, p.Name)}
		}
		at = p.ParentID
	}
	return nil
}

// inside says whether a place lies in another, to the millimetre.
func inside(in, of PlaceInput) bool {
	for k := range 3 {
		if in.Corner[k] < of.Corner[k]-0.001 || in.Corner[k]+in.Size[k] > of.Corner[k]+of.Size[k]+0.001 {
			return false
		}
	}
	return true
}

// MirrorPlace copies a place, with what stands in it, to the other side of the
// boat, and gives the copy's id.
func (a *Wing) MirrorPlace(ctx context.Context, actor kernel.Actor, key, boat, id uuid.UUID) (uuid.UUID, error) {
	var copied uuid.UUID
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		made, _, err := a.Once(tx, actor, key, []any{"mirror", boat, id}, func() (uuid.UUID, error) {
			var all []model.Place
			if err := store.All(tx, &all, "id", "boat_id = ?", boat); err != nil {
				return uuid.Nil, fmt.Errorf("reading the places: %w", err)
			}
			p := aboard.First(all, func(p model.Place) bool { return p.ID == id })
			if p == nil {
				return uuid.Nil, refuse.Missing("place")
			}
			if math.Abs(p.Y+p.Breadth/2) < 0.01 {
				return uuid.Nil, &refuse.Error{Kind: refuse.Refused,
					Sentence: p.Name + " lies on the middle line: there is no other side to copy it to."}
			}
			return mirror(tx, *p, p.ParentID, all)
		})
		copied = made
		return err
	})
	return copied, err
}

// mirror makes the copy of a place and of all that stands in it.
func mirror(tx *store.Tx, p model.Place, parent *uuid.UUID, all []model.Place) (uuid.UUID, error) {
	m := p
	m.ID, m.Version, m.Y, m.ParentID = store.NewID(), 1, -p.Y-p.Breadth, parent
	m.Hinge = cmp.Or(map[string]string{"port": "starboard", "starboard": "port"}[p.Hinge], p.Hinge)
	m.Name = otherSide(p.Name, p.Y+p.Breadth/2, all)
	if parent != nil && *parent == deref(p.ParentID) { // its own parent holds both only where it reaches across
		q := aboard.First(all, func(q model.Place) bool { return q.ID == *parent })
		if q == nil || !inside(PlaceInputOf(m), PlaceInputOf(*q)) {
			m.ParentID = nil
		}
	}
	if err := kernel.Taken(store.Add(tx, &m), "name", m.Name); err != nil {
		return uuid.Nil, err
	}
	for _, child := range all {
		if child.ParentID != nil && *child.ParentID == p.ID {
			if _, err := mirror(tx, child, &m.ID, all); err != nil {
				return uuid.Nil, err
			}
		}
	}
	return m.ID, nil
}

func deref(id *uuid.UUID) uuid.UUID {
	if id == nil {
		return uuid.Nil
	}
	return *id
}

// otherSide is the name of the copy: port and starboard change places.
func otherSide(name string, y float64, all []model.Place) string {
	taken := func(n string) bool { return aboard.First(all, func(p model.Place) bool { return p.Name == n }) != nil }
	swap := func(from, to string) string { return strings.Replace(name, from, to, 1) }
	var other string
	switch {
	case strings.Contains(name, "starboard"):
		other = swap("starboard", "port")
	case strings.Contains(name, "port"):
		other = swap("port", "starboard")
	case y > 0:
		other = name + ", starboard"
	default:
		other = name + ", port"
	}
	for n := 2; taken(other) && n < 100; n++ {
		other = fmt.Sprintf("%s %d", strings.TrimSuffix(other, fmt.Sprintf(" %d", n-1)), n)
	}
	return other
}

// LayOut makes the places and posts of a usual layout, drawn in to fit the hull.
func (a *Wing) LayOut(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID, layout string) error {
	i := slices.IndexFunc(hull.Layouts, func(l hull.Layout) bool { return l.Name == layout })
	if i < 0 {
		return &refuse.Error{Kind: refuse.NotFound, Sentence: "There is no such layout."}
	}
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"layout", boat, layout}, func() (uuid.UUID, error) {
			_, c, err := a.Craft(tx, boat)
			if err != nil {
				return uuid.Nil, err
			}
			cells, spots := hull.Layouts[i].Fit(c.Hull)
			var placed []string
			var manned []model.Post
			err = errors.Join(store.Pluck[model.Place](tx, "name", &placed, "boat_id = ?", boat),
				store.All(tx, &manned, "", "boat_id = ?", boat))
			if err != nil {
				return uuid.Nil, fmt.Errorf("reading what she has: %w", err)
			}
			var made kernel.Stroke
			for _, l := range cells {
				if slices.Contains(placed, l.Name) {
					continue // what she has by that name stays as it is
				}
				in := PlaceInput{Name: l.Name, Corner: model.VecOf(l.Low), Size: model.VecOf(r3.Sub(l.High, l.Low)),
					Dryness: "wet", Lid: l.Lid, Latched: l.Lid == "hinged"}
				if l.Dry {
					in.Dryness = "dry"
				}
				row := in.row(actor, boat)
				row.ID, row.Version = store.NewID(), 1
				if err := kernel.Taken(store.Add(tx, &row), "name", in.Name); err != nil {
					return uuid.Nil, err
				}
				made.Places = append(made.Places, row.ID)
			}
			for _, p := range spots {
				if slices.ContainsFunc(manned, func(q model.Post) bool { return samePost(q, p) }) {
					continue
				}
				row := model.Post{ID: store.NewID(), CrewID: actor.Crew, BoatID: boat, Name: p.Name, X: p.At.X, Y: p.At.Y,
					Z: p.At.Z, Version: 1}
				if err := kernel.Taken(store.Add(tx, &row), "name", p.Name); err != nil {
					return uuid.Nil, err
				}
				made.Posts = append(made.Posts, row.ID)
			}
			return boat, a.Undoable(tx, actor, kernel.ChangeBoat, fmt.Sprintf("%s and %s were laid out.",
				words.HowMany(len(made.Places), "place"), words.HowMany(len(made.Posts), "post")), made)
		})
		return err
	})
}

// stepApart is how near two posts are the same one: a person stands on both. Practice.
const stepApart = 0.5 // m

// samePost says whether a crew has a layout's post already, under its name or another.
func samePost(q model.Post, p hull.Spot) bool {
	return strings.EqualFold(strings.TrimSpace(q.Name), p.Name) || math.Hypot(q.X-p.At.X, q.Y-p.At.Y) < stepApart
}

// RemovePlace takes an empty place away.
func (a *Wing) RemovePlace(ctx context.Context, actor kernel.Actor, boat, id uuid.UUID) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		inner, err := store.Count[model.Place](tx, "boat_id = ? AND parent_id = ?", boat, id)
		if err != nil {
			return fmt.Errorf("looking into the place: %w", err)
		}
		if inner > 0 {
			return &refuse.Error{Kind: refuse.Refused, Sentence: "Other places stand in this one: take them out first."}
		}
		var row model.Place
		if err := store.One(tx, &row, "boat_id = ? AND id = ?", boat, id); err != nil {
			return kernel.Absent(err, "place")
		}
		var s kernel.Stroke
		args := store.Args{"id": id}
		if err := errors.Join(s.Gone(tx, "id = @id", args, "place"), s.Gone(tx, "place_id = @id", args, "photo", "label")); err != nil {
			return err
		}
		if err := a.Undoable(tx, actor, kernel.ChangeBoat, row.Name+" was removed.", s); err != nil {
			return err
		}
		err = store.Remove[model.Place](tx, "boat_id = ? AND id = ?", boat, id)
		if errors.Is(err, store.ErrReferred) {
			return &refuse.Error{Kind: refuse.Refused, Sentence: "There is gear in this place: take it out first."}
		}
		return kernel.Absent(err, "place")
	})
}

// PostInput is where a person works aboard.
type PostInput struct {
	Name string    `json:"name"`
	At   model.Vec `json:"at_m" doc:"Of the sole there"`
}

func (in PostInput) check() error {
	var fs check.Faults
	fs.Text("name", in.Name, 1, 80)
	for i := range 3 {
		fs.Within(fmt.Sprintf("at_m[%d]", i), in.At[i], -model.Farthest, model.Farthest)
	}
	return refuse.Faulty(fs.Err())
}

// ChangePost renames or moves a post. Gear that is used there follows its name.
func (a *Wing) ChangePost(ctx context.Context, actor kernel.Actor, key, boat, id uuid.UUID, version int,
	in PostInput) (uuid.UUID, error) {
	if err := in.check(); err != nil {
		return uuid.Nil, err
	}
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"post", boat, id, version, in}, func() (uuid.UUID, error) {
			var was model.Post
			if err := store.Locked(tx, &was, "boat_id = ? AND id = ?", boat, id); err != nil {
				return uuid.Nil, kernel.Absent(err, "post")
			}
			if was.Version != version {
				return uuid.Nil, refuse.Stale(was.Name, PostInput{Name: was.Name, At: model.Vec{was.X, was.Y, was.Z}})
			}
			err := store.Change[model.Post](tx, id, version, map[string]any{"name": in.Name, "x": in.At[0], "y": in.At[1], "z": in.At[2]})
			if err != nil {
				return uuid.Nil, kernel.Taken(err, "name", in.Name)
			}
			if was.Name == in.Name {
				return id, nil
			}
			others, err := store.Count[model.Post](tx, "name = ?", was.Name)
			if err != nil || others > 0 {
				return id, err // another boat has a post of that name: gear may mean that one
			}
			return id, store.Set[model.Gear](tx, map[string]any{"used_from": in.Name}, "used_from = ?", was.Name)
		})
		return err
	})
	return id, err
}

// AddPost makes a post and gives its id.
func (a *Wing) AddPost(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID, in PostInput) (uuid.UUID, error) {
	if err := in.check(); err != nil {
		return uuid.Nil, err
	}
	var id uuid.UUID
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		made, _, err := a.Once(tx, actor, key, []any{boat, in}, func() (uuid.UUID, error) {
			if err := BoatExists(tx, boat); err != nil {
				return uuid.Nil, err
			}
			row := model.Post{ID: store.NewID(), CrewID: actor.Crew, BoatID: boat, Name: in.Name, X: in.At[0], Y: in.At[1],
				Z: in.At[2], Version: 1}
			return row.ID, kernel.Taken(store.Add(tx, &row), "name", in.Name)
		})
		id = made
		return err
	})
	return id, err
}

// RemovePost takes a post away that nobody is at.
func (a *Wing) RemovePost(ctx context.Context, actor kernel.Actor, boat, id uuid.UUID) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		var row model.Post
		if err := store.One(tx, &row, "boat_id = ? AND id = ?", boat, id); err != nil {
			return kernel.Absent(err, "post")
		}
		var s kernel.Stroke
		if err := s.Gone(tx, "id = @id", store.Args{"id": id}, "post"); err != nil {
			return err
		}
		if err := a.Undoable(tx, actor, kernel.ChangeBoat, "The post "+row.Name+" was removed.", s); err != nil {
			return err
		}
		err := store.Remove[model.Post](tx, "boat_id = ? AND id = ?", boat, id)
		if errors.Is(err, store.ErrReferred) {
			return &refuse.Error{Kind: refuse.Refused, Sentence: "Someone is at this post: put them elsewhere first."}
		}
		return kernel.Absent(err, "post")
	})
}
