package demo

import (
	"context"
	"crypto/rand"
	"encoding/hex"
	"fmt"

	"ergasia/app"
	"ergasia/app/aboard"
	"ergasia/app/gear"
	"ergasia/app/kernel"

	"github.com/google/uuid"
)

// firstOwner is the login by which a loaded demo is known.
const firstOwner = "ilse"

// Load loads the demo unless it was loaded before, all of it or nothing, and
// gives its crew.
func Load(ctx context.Context, a *app.App) (uuid.UUID, error) {
	crew, err := a.Crew.CrewOf(ctx, firstOwner)
	if err != nil || crew != uuid.Nil {
		return crew, err
	}
	err = a.Whole(ctx, func(a *app.App) error {
		l := loader{app: a, ctx: ctx, boats: map[string]uuid.UUID{}, known: map[string]gear.GearRow{},
			members: map[string]uuid.UUID{}, places: map[string]uuid.UUID{}, posts: map[string]uuid.UUID{}}
		if err := l.load(); err != nil {
			return fmt.Errorf("loading the demo: %w", err)
		}
		crew = l.actor.Crew
		return nil
	})
	return crew, err
}

type loader struct {
	app     *app.App
	ctx     context.Context
	actor   kernel.Actor
	boat    uuid.UUID            // Dunlin
	boats   map[string]uuid.UUID // by name
	known   map[string]gear.GearRow
	members map[string]uuid.UUID
	places  map[string]uuid.UUID
	posts   map[string]uuid.UUID
}

func (l *loader) load() error {
	for _, step := range []func() error{l.crew, l.dunlin, l.people, l.gear, l.fleet, l.shed, l.table, l.services, l.trips,
		l.wrong, l.lend, l.kits, l.promise, l.arrangements, l.rigging, l.safety, l.power} {
		if err := step(); err != nil {
			return err
		}
	}
	return nil
}

// password is one that nobody knows: the demo signs in by a press.
func password() string {
	raw := make([]byte, 24)
	_, _ = rand.Read(raw) // never fails
	return hex.EncodeToString(raw)
}

func (l *loader) crew() error {
	crew, owner, err := l.app.Crew.Found(l.ctx, "Varmsund skerries", "Ilse", firstOwner, password())
	if err != nil {
		return err
	}
	l.actor = kernel.Actor{Crew: crew, Member: owner, Role: kernel.Owner}
	for _, p := range people {
		if p.input.Name == "Ilse" {
			_, err = l.app.Crew.ChangeMember(l.ctx, l.actor, owner, 1, p.input)
			l.members[p.input.Mark] = owner
		} else {
			err = l.invite(p)
		}
		if err != nil {
			return fmt.Errorf("%s: %w", p.input.Name, err)
		}
	}
	return nil
}

func (l *loader) invite(p person) error {
	link, err := l.app.Crew.Invite(l.ctx, l.actor, uuid.Nil, p.input, p.role)
	if err != nil {
		return err
	}
	l.members[p.input.Mark] = link.Member.ID
	_, _, err = l.app.Crew.UseLink(l.ctx, link.Token, p.login, password())
	return err
}

func (l *loader) dunlin() (err error) {
	if l.boat, err = l.app.Fleet.SaveBoat(l.ctx, l.actor, uuid.Nil, uuid.Nil, 0, Dunlin()); err != nil {
		return fmt.Errorf("%w (%+v)", err, err)
	}
	l.boats["Dunlin"] = l.boat
	if err := l.app.Floating.SetTrailer(l.ctx, l.actor, uuid.Nil, l.boat, 1, trailer); err != nil {
		return fmt.Errorf("trailer: %w", err)
	}
	for _, p := range places {
		if l.places[p.Name], err = l.app.Fleet.SavePlace(l.ctx, l.actor, uuid.Nil, l.boat, uuid.Nil, 0, p); err != nil {
			return fmt.Errorf("%s: %w", p.Name, err)
		}
	}
	for _, p := range posts {
		if l.posts[p.Name], err = l.app.Fleet.AddPost(l.ctx, l.actor, uuid.Nil, l.boat, p); err != nil {
			return fmt.Errorf("%s: %w", p.Name, err)
		}
	}
	return nil
}

func (l *loader) gear() error {
	for _, t := range things {
		in := t.input()
		if tag := tagged[t.name]; tag != "" {
			in.Tags = append(in.Tags, tag)
		}
		if owner, ok := l.members[t.owner]; ok {
			in.OwnerID = &owner
		}
		made, err := l.app.Gear.SaveGear(l.ctx, l.actor, uuid.Nil, uuid.Nil, 0, in)
		if err != nil {
			return fmt.Errorf("%s: %w", t.name, err)
		}
		if t.place == "" {
			continue
		}
		place, ok := l.places[t.place]
		if !ok {
			return fmt.Errorf("%s: there is no place %q", t.name, t.place)
		}
		if _, err := l.app.Where.Move(l.ctx, l.actor, uuid.Nil, l.boat, aboard.MoveInput{GearID: &made.ID,
			PlaceID: &place}); err != nil {
			return fmt.Errorf("%s: %w", t.name, err)
		}
	}
	return nil
}

func (l *loader) people() error {
	for mark, post := range atPosts {
		member, at := l.members[mark], l.posts[post]
		if _, err := l.app.Where.Move(l.ctx, l.actor, uuid.Nil, l.boat, aboard.MoveInput{MemberID: &member, PostID: &at,
			Seated: post == "helm"}); err != nil {
			return fmt.Errorf("%s: %w", mark, err)
		}
	}
	return nil
}
