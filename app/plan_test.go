package app_test

import (
	"context"
	"fmt"
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/fleet"
	"ergasia/app/gear"
	"ergasia/app/refuse"
	"ergasia/app/stowing"
	"ergasia/core/reach"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// often says how often a thing is fetched, and from where.
func often(n float64, from string) func(*gear.GearInput) {
	return func(in *gear.GearInput) {
		in.Size, in.Turn, in.Uses, in.UsedFrom = model.Vec{0.2, 0.15, 0.1}, "any", &n, from
	}
}

// muddled is a boat with lockers fore and aft, and what is used most far from
// where it is used.
func muddled(t *testing.T) (w *world, frequent, seldom gear.GearView, fore uuid.UUID) {
	w = newWorld(t)
	var err error
	fore, err = w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, uuid.Nil, 0,
		fleet.PlaceInput{Name: "fore locker", Corner: model.Vec{3.4, -0.2, 0.3}, Size: model.Vec{0.4, 0.4, 0.3},
			Dryness: "dry"})
	require.NoError(t, err)
	_, err = w.Fleet.AddPost(ctx, w.owner, uuid.Nil, w.boat, fleet.PostInput{Name: "fore deck",
		At: model.Vec{3.1, 0, 0.3}})
	require.NoError(t, err)
	frequent, seldom = w.make("jigs", 1, often(40, "fore deck")), w.make("spare plugs", 1, often(0.1, "helm"))
	for _, g := range []gear.GearView{frequent, seldom} {
		_, err = w.put(w.owner, g, &w.locker)
		require.NoError(t, err)
	}
	return w, frequent, seldom, fore
}

func (w *world) planned(in stowing.PlanInput) stowing.PlanView {
	if in.School == "" {
		in.School = "use"
	}
	v, err := w.Stowing.Plan(ctx, w.owner, w.boat, in)
	require.NoError(w.t, err)
	return v
}

func accepted(v stowing.PlanView) stowing.AcceptInput {
	var in stowing.AcceptInput
	for _, m := range v.Moves {
		in.Moves = append(in.Moves, aboard.MoveInput{GearID: &m.GearID, PlaceID: m.PlaceID, Version: m.Version})
	}
	return in
}

func TestAPlanBringsWhatIsUsedMostToWhereItIsUsed(t *testing.T) {
	w, jigs, _, fore := muddled(t)
	before := w.state()
	v := w.planned(stowing.PlanInput{})
	require.NotEmpty(t, v.Moves)
	k := 0
	for k < len(v.Moves)-1 && v.Moves[k].GearID != jigs.ID {
		k++
	}
	assert.Contains(t, []uuid.UUID{fore, w.tray}, *v.Moves[k].PlaceID)
	assert.Equal(t, "stern locker", v.Moves[k].From)
	assert.Contains(t, v.Moves[k].Why, "40 times a day")
	assert.Less(t, v.Then.Rummage, v.Now.Rummage)
	assert.LessOrEqual(t, v.Bound, v.Cost+1e-9)
	assert.Equal(t, before, w.state(), "a plan changes nothing")
	st, err := w.Stowing.Accept(ctx, w.owner, store.NewID(), w.boat, accepted(v))
	require.NoError(t, err)
	assert.InDelta(t, v.Then.Rummage, st.Now.Rummage, 1e-9, "it is as was planned")
	assert.InDelta(t, v.Then.Attitude.Lowest.M, st.Now.Attitude.Lowest.M, 1e-9)
	loaded := map[string]string{}
	for _, l := range v.Loading {
		for _, name := range l.Names {
			loaded[name] = l.Place
		}
	}
	assert.Equal(t, v.Moves[k].To, loaded["jigs"], "the loading list has it where the plan has it")
	assert.Len(t, loaded, 2)
	again := w.planned(stowing.PlanInput{})
	assert.Empty(t, again.Moves, "and then there is nothing to better")
}

func TestRummageIsTheSumOfWaysThereAndBack(t *testing.T) {
	w, _, _, _ := muddled(t)
	s, err := snapshotOf(w)
	require.NoError(t, err)
	r := s.Rummage()
	d, table := s.Decks(), reach.DefaultTable()
	sum := 0.0
	for _, one := range []struct {
		uses float64
		post int
	}{{40, indexOfPost(s, "fore deck")}, {0.1, indexOfPost(s, "helm")}} {
		// Both lie on the locker's floor beside each other: their middles are 5 cm over it.
		f := table.Fetch(d.Ways[one.post][indexOfPlace(s, "stern locker")], d.Boat.Places[indexOfPlace(s, "stern locker")],
			reach.Lying{HandZ: 0.35, Others: 1})
		sum += one.uses * f.Round() / 60
	}
	assert.InDelta(t, sum, r.Minutes, 1e-9)
}

func snapshotOf(w *world) (s *aboard.Laden, err error) {
	err = w.Kernel.In(ctx, w.owner, func(tx *store.Tx) error {
		s, err = w.Where.Laden(tx, w.owner, w.boat)
		return err
	})
	return s, err
}

func indexOfPost(s *aboard.Laden, name string) int {
	for i, p := range s.Posts {
		if p.Name == name {
			return i
		}
	}
	return -1
}

func indexOfPlace(s *aboard.Laden, name string) int {
	for i, p := range s.Places {
		if p.Name == name {
			return i
		}
	}
	return -1
}

func TestWhatIsPinnedStays(t *testing.T) {
	w, jigs, seldom, _ := muddled(t)
	v := w.planned(stowing.PlanInput{Pinned: []uuid.UUID{jigs.ID}})
	assert.Equal(t, 1, v.Planned)
	for _, m := range v.Moves {
		assert.NotEqual(t, jigs.ID, m.GearID)
	}
	_, err := w.Stowing.Plan(ctx, w.owner, w.boat, stowing.PlanInput{School: "use", Pinned: []uuid.UUID{jigs.ID,
		seldom.ID}})
	assert.Contains(t, kindOf(t, err).Sentence, "nothing to plan")
}

func TestAStalePlanIsRefusedWhole(t *testing.T) {
	w, jigs, _, _ := muddled(t)
	v := w.planned(stowing.PlanInput{})
	_, err := w.put(w.hand, jigs, nil)
	require.NoError(t, err)
	was := w.state().Stowage
	_, err = w.Stowing.Accept(ctx, w.owner, store.NewID(), w.boat, accepted(v))
	assert.Equal(t, refuse.Conflict, kindOf(t, err).Kind)
	assert.Equal(t, was, w.state().Stowage, "none of its moves was made")
}

// On the way a place may be too full for a moment; what counts is its end.
func TestAPlanIsJudgedByItsEnd(t *testing.T) {
	w := newWorld(t) // the tray carries 10 kg
	size := func(in *gear.GearInput) { in.Size, in.Turn = model.Vec{0.2, 0.1, 0.1}, "any" }
	lead, brick := w.make("lead", 9, size), w.make("brick", 8, size)
	_, err := w.to(lead.ID, aboard.MoveInput{PlaceID: &w.tray})
	require.NoError(t, err)
	move := func(id uuid.UUID, place *uuid.UUID) aboard.MoveInput {
		return aboard.MoveInput{GearID: &id, PlaceID: place, Version: w.spotVersion(id)}
	}
	was := w.state().Stowage
	_, err = w.Stowing.Accept(ctx, w.owner, store.NewID(), w.boat,
		stowing.AcceptInput{Moves: []aboard.MoveInput{move(brick.ID, &w.tray)}})
	assert.Contains(t, err.Error(), "small tray carries 10.0 kg at most")
	assert.Equal(t, was, w.state().Stowage, "refused whole")
	_, err = w.Stowing.Accept(ctx, w.owner, store.NewID(), w.boat,
		stowing.AcceptInput{Moves: []aboard.MoveInput{move(brick.ID, &w.tray), move(lead.ID, &w.locker)}})
	assert.NoError(t, err, "too full only until the lead has left")
}

func TestWhatIsOnTheQuayIsPlannedOrSaidWhyNot(t *testing.T) {
	w, _, _, _ := muddled(t)
	huge := w.make("mast", 3, func(in *gear.GearInput) { in.Size = model.Vec{6, 0.1, 0.1} })
	v := w.planned(stowing.PlanInput{Quay: true})
	var left []string
	for _, l := range v.LeftOut {
		left = append(left, l.Name)
	}
	assert.Contains(t, left, "mast")
	assert.NotContains(t, left, "chart box")
	assert.NotEmpty(t, v.Clash)
	for _, m := range v.Moves {
		assert.NotEqual(t, huge.ID, m.GearID)
		if m.Name == "chart box" {
			assert.Contains(t, []string{"small tray", "fore locker"}, m.To, "it must stay dry")
		}
	}
	_, err := w.Stowing.Accept(ctx, w.owner, store.NewID(), w.boat, accepted(v))
	assert.NoError(t, err)
}

func TestAPlanToBetterMayNameAPlaceThatIsGoneOrNone(t *testing.T) {
	w, jigs, _, _ := muddled(t)
	gone := store.NewID()
	v := w.planned(stowing.PlanInput{From: []stowing.Put{{GearID: jigs.ID, PlaceID: &gone}}})
	assert.Empty(t, v.LeftOut)
	v = w.planned(stowing.PlanInput{From: []stowing.Put{{GearID: jigs.ID}}})
	assert.Empty(t, v.LeftOut, "a plan that left it on the quay is bettered by one that takes it")
}

func TestFuelAndSparksAreKeptApart(t *testing.T) {
	w, _, _, _ := muddled(t)
	for i, hazard := range []string{"fuel", "sparks"} {
		g := w.make(fmt.Sprintf("thing %d", i), 1, often(5, "helm"))
		_, err := w.put(w.owner, g, &w.locker)
		require.NoError(t, err)
		g.Hazards = []string{hazard} // someone noted it when they lay together already
		_, err = w.Gear.SaveGear(ctx, w.owner, uuid.Nil, g.ID, g.Version, g.GearInput)
		require.NoError(t, err)
	}
	lamp := w.make("lamp", 1, func(in *gear.GearInput) {
		often(1, "helm")(in)
		in.Hazards = []string{"sparks"}
	})
	_, err := w.put(w.owner, lamp, &w.locker)
	assert.ErrorContains(t, err, "lamp (sparks) may not lie with thing 0 (fuel).")
	v := w.planned(stowing.PlanInput{})
	at := map[uuid.UUID]*uuid.UUID{}
	for _, s := range v.Stowage {
		at[s.GearID] = s.PlaceID
	}
	var two []*uuid.UUID
	for _, g := range w.gearNamed("thing 0", "thing 1") {
		two = append(two, at[g])
	}
	require.Len(t, two, 2)
	assert.NotEqual(t, two[0], two[1])
}

func TestWhatIsTaggedLockIsLockedAwayWhenSheIsLeft(t *testing.T) {
	w, jigs, _, _ := muddled(t)
	safe, err := w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, uuid.Nil, 0,
		fleet.PlaceInput{Name: "safe", Corner: model.Vec{0.3, -0.2, 0.3}, Size: model.Vec{0.4, 0.4, 0.3}, Dryness: "dry",
			Lid: "hinged", Locks: true})
	require.NoError(t, err)
	jigs.Tags = []string{"lock"}
	_, err = w.Gear.SaveGear(ctx, w.owner, uuid.Nil, jigs.ID, jigs.Version, jigs.GearInput)
	require.NoError(t, err)
	at := func(v stowing.PlanView) uuid.UUID {
		return *aboard.First(v.Stowage, func(s aboard.Stowed) bool { return s.GearID == jigs.ID }).PlaceID
	}
	assert.NotEqual(t, safe, at(w.planned(stowing.PlanInput{})), "by day it lies where it is used")
	assert.Equal(t, safe, at(w.planned(stowing.PlanInput{Left: true})))
}

func (w *world) gearNamed(names ...string) (ids []uuid.UUID) {
	b, err := w.Stowing.Bench(ctx, w.owner, w.boat)
	require.NoError(w.t, err)
	for _, name := range names {
		for _, g := range b.Gear {
			if g.Name == name {
				ids = append(ids, g.ID)
			}
		}
	}
	return ids
}

func TestAnExtinguisherIsPlannedWithinTenSeconds(t *testing.T) {
	w, _, _, _ := muddled(t)
	g := w.make("extinguisher", 2, func(in *gear.GearInput) {
		often(0, "fore deck")(in)
		in.Tags = []string{"extinguisher"}
	})
	_, err := w.put(w.owner, g, &w.locker)
	require.NoError(t, err)
	v := w.planned(stowing.PlanInput{})
	s, err := snapshotOf(w)
	require.NoError(t, err)
	for _, one := range v.Stowage {
		if one.GearID == g.ID {
			j := indexOfPlace(s, s.Place(*one.PlaceID).Name)
			f, ok := s.Decks().Fetch(s.Table, "fore deck", j, reach.Lying{HandZ: s.Places[j].Z + s.Places[j].Height/2})
			assert.True(t, ok)
			assert.LessOrEqual(t, f.Seconds, 10.0)
		}
	}
}

func TestAPlanKeepsWithinTheCrewsLimits(t *testing.T) {
	w, _, _, _ := muddled(t)
	for _, m := range w.planned(stowing.PlanInput{School: "balance"}).Moves {
		assert.NotEmpty(t, m.Why)
	}
	v := w.planned(stowing.PlanInput{})
	a, b := v.Now.Attitude, v.Then.Attitude
	l := boatInput().Limits
	assert.LessOrEqual(t, abs(b.HeelDeg), max(abs(a.HeelDeg), l.Heel.Value)+0.1)
	assert.LessOrEqual(t, b.TrimDeg, max(a.TrimDeg, l.TrimHigh.Value)+0.1)
}

func abs(v float64) float64 { return max(v, -v) }

func TestAPlanIsStoppedByItsAsker(t *testing.T) {
	w, _, _, _ := muddled(t)
	gone, stop := context.WithCancel(ctx)
	stop()
	_, err := w.Stowing.Plan(gone, w.owner, w.boat, stowing.PlanInput{School: "use"})
	assert.ErrorIs(t, err, context.Canceled)
}

func TestABadPlanIsToldWhatIsWrong(t *testing.T) {
	w := newWorld(t)
	_, err := w.Stowing.Plan(ctx, w.owner, w.boat, stowing.PlanInput{School: "luck", Weights: &stowing.Weights{Kit: -1}})
	assert.Len(t, kindOf(t, err).Faults, 2)
	_, err = w.Stowing.Accept(ctx, w.owner, store.NewID(), w.boat,
		stowing.AcceptInput{Moves: []aboard.MoveInput{{MemberID: &w.hand.Member, Version: 0}}})
	assert.Equal(t, refuse.Invalid, kindOf(t, err).Kind)
}

func TestReachIsToldFromAPost(t *testing.T) {
	w, _, _, fore := muddled(t)
	s, err := snapshotOf(w)
	require.NoError(t, err)
	post := s.Posts[indexOfPost(s, "fore deck")].ID
	v, err := w.Stowing.Reach(ctx, w.hand, w.boat, post.String())
	require.NoError(t, err)
	assert.Equal(t, "fore deck", v.Name)
	for _, p := range v.Places {
		require.NotNil(t, p.Seconds)
		if p.PlaceID == fore {
			assert.InDelta(t, *v.Places[0].Seconds, *p.Seconds, 1e-9, "nothing is quicker from there")
		}
	}
	assert.Equal(t, w.locker, v.Places[len(v.Places)-1].PlaceID, "the stern locker is furthest")
	walked := 0
	for _, sec := range v.Walk {
		if sec != nil {
			walked++
		}
	}
	assert.Greater(t, walked, 200)
	_, err = w.Stowing.Reach(ctx, w.hand, w.boat, store.NewID().String())
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
}

func TestWhatIsUrgentCountsAsOftenUsed(t *testing.T) {
	seldom := model.Gear{UsesPerDay: 0.02}
	assert.InDelta(t, 0.02, aboard.Wanted(seldom), 1e-12)
	seldom.Tags = model.Strings{"safety"}
	assert.InDelta(t, aboard.UrgentUses, aboard.Wanted(seldom), 1e-12)
	seldom.UsesPerDay = 40
	assert.InDelta(t, 40, aboard.Wanted(seldom), 1e-12)
}
