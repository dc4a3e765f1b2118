package app_test

import (
	"fmt"
	"sync"
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/crew"
	"ergasia/app/fleet"
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// leaves takes someone off the crew.
func (w *world) leaves(who uuid.UUID, in gear.LeavingInput) error {
	people, err := w.Crew.Members(ctx, w.owner)
	require.NoError(w.t, err)
	for _, m := range people {
		if m.ID == who {
			in.Version = m.Version
		}
	}
	return w.Gear.PartWith(ctx, w.owner, store.NewID(), who, in)
}

func person(name string) crew.MemberInput {
	return crew.MemberInput{Name: name, Mark: name[:1], Kg: 80, MassKnown: "guess"}
}

// signsIn invites someone and gives their session.
func (w *world) signsIn(name string, role kernel.Role) (uuid.UUID, kernel.SignedIn) {
	link, err := w.Crew.Invite(ctx, w.owner, store.NewID(), person(name), role)
	require.NoError(w.t, err)
	session, _, err := w.Crew.UseLink(ctx, link.Token, name+"@crew", password)
	require.NoError(w.t, err)
	return link.Member.ID, session
}

func TestWhoLeavesSignsInNoMoreAndWhatTheyDidStays(t *testing.T) {
	w := newWorld(t)
	id, session := w.signsIn("Vera", kernel.Skipper)
	vera, err := w.Crew.Actor(ctx, session, w.owner.Crew, kernel.Move)
	require.NoError(t, err)
	calendar, err := w.Due.MakeCalendar(ctx, vera)
	require.NoError(t, err)
	hers := w.make("hers", 1, func(in *gear.GearInput) { small(in); in.OwnerID = &id })
	_, err = w.put(vera, hers, &w.tray)
	require.NoError(t, err)
	worn := w.make("worn", 1, func(in *gear.GearInput) { small(in) })
	require.NoError(t, second(w.to(worn.ID, aboard.MoveInput{HolderID: &id})))
	_, err = w.Where.Move(ctx, vera, store.NewID(), w.boat, aboard.MoveInput{MemberID: &id, PostID: &w.post})
	require.NoError(t, err)
	kept, err := w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, uuid.Nil, 0, fleet.PlaceInput{Name: "Vera's",
		Corner: model.Vec{2, 0.3, 0.4}, Size: model.Vec{0.2, 0.2, 0.2}, Dryness: "dry", KeptFor: &id})
	require.NoError(t, err)

	require.NoError(t, w.leaves(id, gear.LeavingInput{Gear: "person", HeirID: &w.hand.Member}))

	still, err := w.Crew.Still(ctx, session)
	require.NoError(t, err)
	assert.False(t, still, "the session ended")
	_, err = w.Crew.Actor(ctx, session, w.owner.Crew, kernel.See)
	assert.Equal(t, refuse.SignedOut, kindOf(t, err).Kind)
	_, err = w.signIn("vera@crew", password, "1.2.3.4", "")
	require.NoError(t, err, "the login is hers, but it leads into no crew")
	_, err = w.Due.Calendar(ctx, calendar)
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind, "the calendar ended")
	people, err := w.Crew.Members(ctx, w.owner)
	require.NoError(t, err)
	for _, m := range people {
		assert.NotEqual(t, "Vera", m.Name)
	}
	one, err := w.Gear.GearOne(ctx, w.owner, hers.ID)
	require.NoError(t, err)
	assert.Equal(t, w.hand.Member, *one.OwnerID)
	seen, err := w.Where.Where(ctx, w.owner, hers.ID)
	require.NoError(t, err)
	assert.Equal(t, "Vera", seen.Trail[0].By, "what she did has her name")
	assert.Equal(t, "quay", w.spot(worn.ID).Kind)
	for _, s := range w.state().People {
		assert.NotEqual(t, id, s.MemberID, "she is not aboard")
	}
	b, err := w.Stowing.Bench(ctx, w.owner, w.boat)
	require.NoError(t, err)
	for _, p := range b.Places {
		if p.ID == kept {
			assert.Nil(t, p.KeptFor, "it is kept no longer")
		}
	}
	for name, err := range map[string]error{
		"once more":     w.leaves(id, gear.LeavingInput{Gear: "crew"}),
		"to be invited": second(w.Crew.ResetLink(ctx, w.owner, id)),
		"to be changed": second(w.Crew.ChangeMember(ctx, w.owner, id, 3, person("Vera"))),
		"to hold":       second(w.to(worn.ID, aboard.MoveInput{HolderID: &id, Version: 2})),
	} {
		assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind, name)
	}
}

func TestUndoBringsNobodyBackWhoLeft(t *testing.T) {
	w := newWorld(t)
	id, session := w.signsIn("Vera", kernel.Hand)
	_, err := w.Crew.Actor(ctx, session, w.owner.Crew, kernel.Move)
	require.NoError(t, err)
	knife := w.make("knife", 0.2, func(in *gear.GearInput) { small(in) })
	require.NoError(t, second(w.to(knife.ID, aboard.MoveInput{HolderID: &id})))
	require.NoError(t, second(w.Where.Move(ctx, w.owner, store.NewID(), w.boat, aboard.MoveInput{MemberID: &id,
		PostID: &w.post})))
	require.NoError(t, second(w.Where.Move(ctx, w.owner, store.NewID(), w.boat, aboard.MoveInput{GearID: &knife.ID,
		PlaceID: &w.tray, Version: 1})))
	require.NoError(t, w.leaves(id, gear.LeavingInput{Gear: "crew"}))
	_, err = w.Where.Undo(ctx, w.owner, store.NewID(), w.boat)
	assert.ErrorContains(t, err, "has left the crew")
	assert.Equal(t, "boat", w.spot(knife.ID).Kind)
}

func TestGearOfWhoLeavesStaysOrGoes(t *testing.T) {
	w := newWorld(t)
	crews := func(name string, in gear.LeavingInput) (uuid.UUID, error) {
		id, _ := w.signsIn(name, kernel.Hand)
		g := w.make("thing of "+name, 1, func(in *gear.GearInput) { small(in); in.OwnerID = &id })
		return g.ID, w.leaves(id, in)
	}
	stays, err := crews("Arne", gear.LeavingInput{Gear: "crew"})
	require.NoError(t, err)
	one, err := w.Gear.GearOne(ctx, w.owner, stays)
	require.NoError(t, err)
	assert.Nil(t, one.OwnerID)
	goes, err := crews("Berit", gear.LeavingInput{Gear: "leaves"})
	require.NoError(t, err)
	_, err = w.Gear.GearOne(ctx, w.owner, goes)
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
	for name, in := range map[string]gear.LeavingInput{
		"Carl": {Gear: "person"}, "Dina": {Gear: "crew", HeirID: &w.hand.Member}, "Even": {Gear: "sea"},
		"Frida": {Gear: "person", HeirID: &uuid.Max},
	} {
		id, err := crews(name, in)
		assert.Error(t, err, name)
		one, err := w.Gear.GearOne(ctx, w.owner, id)
		require.NoError(t, err)
		assert.NotNil(t, one.OwnerID, "nothing was done by half")
	}
}

func TestOwnersWhoDemoteOrLeaveAtOnceLeaveOne(t *testing.T) {
	w := newWorld(t)
	for i := range 5 {
		id, session := w.signsIn(fmt.Sprint("Gro ", i), kernel.Owner)
		gro, err := w.Crew.Actor(ctx, session, w.owner.Crew, kernel.Invite)
		require.NoError(t, err)
		version := func(who uuid.UUID) (n int) {
			people, err := w.Crew.Members(ctx, w.owner)
			require.NoError(t, err)
			for _, m := range people {
				if m.ID == who {
					n = m.Version
				}
			}
			return n
		}
		mine, hers := version(w.owner.Member), version(id)
		var both sync.WaitGroup
		var errs [2]error
		both.Go(func() {
			errs[0] = w.Gear.PartWith(ctx, w.owner, store.NewID(), id, gear.LeavingInput{Version: hers, Gear: "crew"})
		})
		both.Go(func() { _, errs[1] = w.Crew.GiveRole(ctx, gro, w.owner.Member, mine, kernel.Hand) })
		both.Wait()
		assert.True(t, (errs[0] == nil) != (errs[1] == nil), "one of the two: %v", errs)
		if errs[1] == nil { // she demoted the owner first: make him one again
			_, err = w.Crew.GiveRole(ctx, gro, w.owner.Member, version(w.owner.Member), kernel.Owner)
			require.NoError(t, err)
			require.NoError(t, w.leaves(id, gear.LeavingInput{Gear: "crew"}))
		}
	}
}
