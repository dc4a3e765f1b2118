package trips

import (
	"cmp"
	"context"
	"fmt"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// mostPeople on a trip.
const mostPeople = 20

// SaveParty says who come on a trip that is ahead, and where they sit and fish.
func (a *Wing) SaveParty(ctx context.Context, actor kernel.Actor, key, id uuid.UUID, version int,
	people []model.TripPerson) (uuid.UUID, error) {
	if err := checkParty(people); err != nil {
		return id, err
	}
	return id, a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"party", id, version, people}, func() (uuid.UUID, error) {
			t, err := Open(tx, id)
			if err != nil {
				return id, err
			}
			if err := known(tx, t, people); err != nil {
				return id, err
			}
			t.People, t.Version = people, version+1
			if len(people) > 0 {
				t.Persons = len(people)
			}
			return id, kernel.Keep(tx, &t, id, version, "trip", t.Name)
		})
		return err
	})
}

// SeenBy are people as the actor sees them: guests, and who is not signed in, see no body
// masses but their own.
func SeenBy(actor kernel.Actor, people []model.TripPerson) []model.TripPerson {
	list := append([]model.TripPerson{}, people...)
	for i, p := range list {
		if (actor.Role == kernel.Guest || actor.Role == "") && (p.MemberID == nil || *p.MemberID != actor.Member) {
			list[i].Kg = 0
		}
	}
	return list
}

// Open is a trip that may still be changed.
func Open(tx *store.Tx, id uuid.UUID) (t model.Trip, err error) {
	if err := store.One(tx, &t, "id = ?", id); err != nil {
		return t, kernel.Absent(err, "trip")
	}
	if t.LoggedAt != nil {
		return t, &refuse.Error{Kind: refuse.Refused, Sentence: t.Name + " is logged: what was is not changed."}
	}
	return t, nil
}

func checkParty(people []model.TripPerson) error {
	var fs check.Faults
	if n := len(people); n > mostPeople {
		fs.Add("people", n, fmt.Sprintf("at most %d", mostPeople))
	}
	ids, members, skippers := map[uuid.UUID]bool{}, map[uuid.UUID]bool{}, 0
	for i, p := range people {
		at := fmt.Sprintf("people[%d]", i)
		fs.Text(at+".name", p.Name, 1, 80)
		fs.Within(at+".kg", p.Kg, 5, 300)
		fs.Within(at+".age", p.Age, 0, 120)
		fs.OneOf(at+".role", p.Role, words.TripRoles.Keys()...)
		if p.ID == uuid.Nil || ids[p.ID] {
			fs.Add(at+".id", p.ID, "must be an id of its own")
		}
		ids[p.ID] = true
		if p.MemberID != nil {
			if members[*p.MemberID] {
				fs.Add(at+".member_id", p.Name, "is on the trip already")
			}
			members[*p.MemberID] = true
		}
		if p.Role == "skipper" {
			skippers++
		}
	}
	if skippers > 1 {
		fs.Add("people", skippers, "one of them is the skipper")
	}
	return refuse.Faulty(fs.Err())
}

// known looks whether members and posts are the crew's and the boat's.
func known(tx *store.Tx, t model.Trip, people []model.TripPerson) error {
	var posts []model.Post
	var members []model.Member
	if err := store.All(tx, &members, "", "left_at IS NULL"); err != nil {
		return fmt.Errorf("reading the crew: %w", err)
	}
	if t.BoatID != nil {
		if err := store.All(tx, &posts, "", "boat_id = ?", *t.BoatID); err != nil {
			return fmt.Errorf("reading the posts: %w", err)
		}
	}
	has := map[uuid.UUID]bool{}
	for _, m := range members {
		has[m.ID] = true
	}
	for _, p := range posts {
		has[p.ID] = true
	}
	var fs check.Faults
	for i, p := range people {
		at := fmt.Sprintf("people[%d]", i)
		if p.MemberID != nil && !has[*p.MemberID] {
			fs.Add(at+".member_id", p.Name, "must be of this crew")
		}
		for field, post := range map[string]*uuid.UUID{".sits": p.Sits, ".fishes": p.Fishes} {
			if post != nil && !has[*post] {
				fs.Add(at+field, nil, "must be a post of the trip's boat")
			}
		}
	}
	return refuse.Faulty(fs.Err())
}

// TripCopy says from what a trip is made, and when it is.
type TripCopy struct {
	Name     string      `json:"name"`
	StartsOn kernel.Date `json:"starts_on"`
}

// Copy makes a trip like another, with its boat, people, way and day, and promises to it
// what went along then; a sentence for each piece that is promised elsewhere.
func (a *Wing) Copy(
	ctx context.Context,
	actor kernel.Actor,
	key, from uuid.UUID,
	in TripCopy,
) (id uuid.UUID, refused []string,
	err error) {
	refused = []string{}
	err = a.Write(ctx, actor, func(tx *store.Tx) error {
		made, _, err := a.Once(tx, actor, key, []any{"copy", from, in}, func() (uuid.UUID, error) {
			var t model.Trip
			if err := store.One(tx, &t, "id = ?", from); err != nil {
				return id, kernel.Absent(err, "trip")
			}
			view := ViewTrip(t).TripInput
			days := view.Days()
			view.Name, view.StartsOn, view.EndsOn = cmp.Or(in.Name, t.Name), in.StartsOn, in.StartsOn.Add(days-1)
			if err := view.check(); err != nil {
				return id, err
			}
			t.ID, t.Version, t.LoggedAt, t.FilledL, t.Settled, t.Accepted = store.NewID(), 1, nil, nil, nil, nil
			t.Name, t.StartsOn, t.EndsOn = view.Name, view.StartsOn.At, view.EndsOn.At
			if err := kernel.Keep(tx, &t, uuid.Nil, 0, "trip", t.Name); err != nil {
				return id, err
			}
			var went []model.Booking
			if err := store.All(tx, &went, "gear_id", "trip_id = ?", from); err != nil {
				return id, fmt.Errorf("reading what went along: %w", err)
			}
			gear := make([]uuid.UUID, len(went))
			for i, b := range went {
				gear[i] = b.GearID
			}
			var err error
			refused, err = a.PromiseAll(tx, actor, t, gear)
			return t.ID, err
		})
		id = made
		return err
	})
	return id, refused, err
}
