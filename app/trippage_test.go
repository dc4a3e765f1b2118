package app_test

import (
	"fmt"
	"testing"
	"time"

	"ergasia/app/aboard"
	"ergasia/app/days"
	"ergasia/app/kernel"
	"ergasia/app/kits"
	"ergasia/app/ready"
	"ergasia/app/refuse"
	"ergasia/app/stowing"
	"ergasia/app/trips"
	"ergasia/core/catch"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func (w *world) page(id uuid.UUID) ready.TripPage {
	p, err := w.Ready.Page(ctx, w.owner, id)
	require.NoError(w.t, err)
	return p
}

func stage(t *testing.T, p ready.TripPage, key string) ready.StageView {
	for _, s := range p.Stages {
		if s.Stage == key {
			return s
		}
	}
	t.Fatalf("no stage %s", key)
	return ready.StageView{}
}

func TestAStageIsSettledAndSaysWhatChangedSince(t *testing.T) {
	w := newWorld(t)
	id := w.trip("cod run", 1, 1, 3)
	assert.Equal(t, "waits", stage(t, w.page(id), "who").State)
	w.partyOf(id, &w.post)
	p, err := w.Ready.Settle(ctx, w.owner, store.NewID(), id, "who", true)
	require.NoError(t, err)
	who := stage(t, p, "who")
	assert.Equal(t, "settled", who.State)
	assert.Equal(t, "Ilse", who.By)
	_, err = w.Trips.SaveParty(ctx, w.owner, store.NewID(), id, w.tripVersion(id), nil)
	require.NoError(t, err)
	who = stage(t, w.page(id), "who")
	assert.Equal(t, "changed", who.State)
	assert.Contains(t, who.Was, "guest, guest")
	p, err = w.Ready.Settle(ctx, w.owner, store.NewID(), id, "who", false)
	require.NoError(t, err)
	assert.Equal(t, "waits", stage(t, p, "who").State)
	_, err = w.Ready.Settle(ctx, w.owner, store.NewID(), id, "party", true)
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
}

func TestAVerdictHoldsWhatASkipperAcceptedOnlyAsLongAsItSaysTheSame(t *testing.T) {
	w := newWorld(t)
	id := w.trip("cod run", 1, 1, 3)
	kit, err := w.Kits.SaveKit(ctx, w.owner, store.NewID(), uuid.Nil, 0, kits.KitInput{Name: "safety", Sort: "use",
		Lines: []model.KitLine{{What: "flares", Amount: 1, Per: "boat", Choices: []model.KitChoice{{Tag: "flares"}}},
			{What: "cooler", Amount: 1, Per: "boat", Choices: []model.KitChoice{{GearID: &w.cooler.ID}}}}})
	require.NoError(t, err)
	refused, err := w.Kits.Take(ctx, w.owner, store.NewID(), id, kit)
	require.NoError(t, err)
	assert.Empty(t, refused)
	p := w.page(id)
	require.Len(t, p.Kits, 1)
	require.Len(t, p.Goes, 1, "the cooler was promised with it")
	assert.Equal(t, "not_ready", p.Ready)
	line := func(p ready.TripPage) *ready.VerdictLine {
		for i, l := range p.Lines {
			if l.Key == "kit safety flares" {
				return &p.Lines[i]
			}
		}
		return nil
	}
	require.NotNil(t, line(p))
	assert.Equal(t, "stop", line(p).Level)
	_, err = w.Ready.Accept(ctx, w.owner, store.NewID(), id, line(p).Key, "something else", true)
	assert.Equal(t, refuse.Refused, kindOf(t, err).Kind)
	for _, l := range p.Lines {
		if l.Level == "stop" {
			p, err = w.Ready.Accept(ctx, w.owner, store.NewID(), id, l.Key, l.Sentence, true)
			require.NoError(t, err)
		}
	}
	assert.Equal(t, "cautions", p.Ready, p.Headline)
	assert.True(t, line(p).Accepted.Held)
	assert.Equal(t, "Ilse", line(p).Accepted.By)
	flares := gearInput("flares", 1)
	flares.Tags, flares.Condition = []string{"flares"}, "broken"
	_, err = w.Gear.SaveGear(ctx, w.owner, uuid.Nil, uuid.Nil, 0, flares)
	require.NoError(t, err)
	p = w.page(id)
	assert.False(t, line(p).Accepted.Held, "it says now that the flares are broken")
	assert.Equal(t, "not_ready", p.Ready)
	assert.NotContains(t, p.Headline, "safe,")
	require.NoError(t, w.Kits.Drop(ctx, w.owner, id, kit))
	assert.Nil(t, line(w.page(id)))
}

func TestATripIsCopiedWithAllThatItWas(t *testing.T) {
	w := newWorld(t)
	id := w.trip("cod run", 1, 1, 3)
	w.partyOf(id, &w.post)
	_, err := w.Trips.Promise(ctx, w.owner, store.NewID(), id, []uuid.UUID{w.cooler.ID, w.chartbox.ID})
	require.NoError(t, err)
	plan := model.DayPlan{At: 360, Phases: []model.DayPhase{phase("fish", 2)}}
	_, err = w.Days.Save(ctx, w.owner, store.NewID(), id, w.tripVersion(id), plan)
	require.NoError(t, err)
	other := w.trip("other", 20, 1, 3)
	_, err = w.Trips.Promise(ctx, w.owner, store.NewID(), other, []uuid.UUID{w.chartbox.ID})
	require.NoError(t, err)
	key := store.NewID()
	in := trips.TripCopy{StartsOn: kernel.DayOf(w.Kernel.Now()).Add(20)}
	made, refused, err := w.Trips.Copy(ctx, w.owner, key, id, in)
	require.NoError(t, err)
	require.Len(t, refused, 1)
	assert.Contains(t, refused[0], "Chart box is promised to other")
	p := w.page(made)
	assert.Equal(t, "cod run", p.Name)
	assert.Len(t, p.People, 2)
	assert.Len(t, p.Goes, 1)
	v, err := w.Days.Day(ctx, w.owner, made)
	require.NoError(t, err)
	assert.Equal(t, plan.Phases, v.Plan.Phases)
	again, _, err := w.Trips.Copy(ctx, w.owner, key, id, in)
	require.NoError(t, err)
	assert.Equal(t, made, again, "the same key makes no second one")
}

func TestAnotherBoatTakesWhatWasSaidOfTheFirstAway(t *testing.T) {
	w := newWorld(t)
	id := w.trip("cod run", 1, 1, 3)
	people := w.partyOf(id, &w.post)
	plan := model.DayPlan{At: 360, Phases: []model.DayPhase{phase("fish", 2)}}
	plan.Phases[0].Posts = []model.DayPost{{Person: people[0].ID, Post: &w.post}}
	_, err := w.Days.Save(ctx, w.owner, store.NewID(), id, w.tripVersion(id), plan)
	require.NoError(t, err)
	in := boatInput()
	in.Name = "Another"
	boat, err := w.Fleet.SaveBoat(ctx, w.owner, uuid.Nil, uuid.Nil, 0, in)
	require.NoError(t, err)
	today := kernel.DayOf(w.Kernel.Now())
	_, err = w.Trips.SaveTrip(
		ctx,
		w.owner,
		store.NewID(),
		id,
		w.tripVersion(id),
		trips.TripInput{Name: "cod run", BoatID: &boat,
			StartsOn: today.Add(1), EndsOn: today.Add(1), Persons: 2, Rods: 2, Hours: 1},
	)
	require.NoError(t, err)
	v, err := w.Days.Day(ctx, w.owner, id)
	require.NoError(t, err)
	assert.Empty(t, v.Plan.Phases[0].Posts)
	assert.InDelta(t, 2, v.Plan.Phases[0].Hours, 1e-9)
	for _, p := range v.People {
		assert.Nil(t, p.Sits)
	}
	assert.Contains(t, v.Lacks[0], "has no posts yet")
}

func TestATripHasALoadOfItsOwnBesideHowSheLies(t *testing.T) {
	w := newWorld(t)
	id := w.trip("cod run", 1, 1, 3)
	w.partyOf(id, &w.post)
	_, err := w.put(w.owner, w.cooler, &w.locker)
	require.NoError(t, err)
	other, err := w.Gear.SaveGear(ctx, w.owner, uuid.Nil, uuid.Nil, 0, gearInput("bucket", 2))
	require.NoError(t, err)
	_, err = w.Trips.Promise(ctx, w.owner, store.NewID(), id, []uuid.UUID{w.chartbox.ID})
	require.NoError(t, err)
	assert.Equal(t, "1 to stow", stage(t, w.page(id), "stow").Word)
	r, err := w.Stowing.StowForTrip(ctx, w.owner, store.NewID(), id, "use")
	require.NoError(t, err)
	assert.Empty(t, r.LeftOut)
	assert.Equal(
		t,
		2,
		r.Things,
		"the cooler and the chart box; not the bucket, which waits on the quay for something else",
	)
	assert.Nil(t, w.stowed(w.chartbox).PlaceID, "nothing was moved")
	p := w.page(id)
	assert.Equal(t, r.Arrangement, *p.StowedID)
	assert.Contains(t, stage(t, p, "stow").Word, "to move")
	v, err := w.Days.Day(ctx, w.owner, id)
	require.NoError(t, err)
	assert.NotContains(t, fmt.Sprint(v.Lacks), "no place aboard", "the chart box has one in the day's figures")
	back, err := w.Stowing.WayBack(ctx, w.owner, w.boat, r.Arrangement, stowing.Back{})
	require.NoError(t, err)
	require.NotEmpty(t, back.Moves)
	for _, m := range back.Moves {
		assert.NotEqual(t, other.ID, m.GearID)
	}
	again, err := w.Stowing.StowForTrip(ctx, w.owner, store.NewID(), id, "balance")
	require.NoError(t, err)
	assert.Equal(t, r.Arrangement, again.Arrangement, "there is one for a trip")
	require.NoError(t, w.Trips.RemoveTrip(ctx, w.owner, id))
	last, err := w.Undoing.Last(ctx, w.owner)
	require.NoError(t, err)
	_, err = w.Undoing.Undo(ctx, w.owner, store.NewID(), last.Undoable.ID)
	require.NoError(t, err)
	assert.Equal(t, r.Arrangement, *w.page(id).StowedID, "a cancelled trip comes back with its load")
	_, err = w.Stowing.StowForTrip(ctx, w.owner, store.NewID(), id, "luck")
	assert.Equal(t, refuse.Invalid, kindOf(t, err).Kind)
}

func TestWhatIsNeverUsedIsToldWithWhatItCosts(t *testing.T) {
	w := newWorld(t)
	_, err := w.put(w.owner, w.cooler, &w.locker)
	require.NoError(t, err)
	_, err = w.put(w.owner, w.chartbox, &w.tray)
	require.NoError(t, err)
	fetching := func(trip uuid.UUID) float64 {
		v, err := w.Days.Try(ctx, w.owner, trip, model.DayPlan{At: 360, Phases: []model.DayPhase{phase("fish", 4)}})
		require.NoError(t, err)
		return v.Answer.Fetching
	}
	before := fetching(w.trip("first", 30, 1, 3))
	require.Positive(t, before)
	for i := range 10 {
		past := w.trip("evening", -20+i, 1, 3)
		require.NoError(t, w.Trips.LogTrip(ctx, w.owner, store.NewID(), past, trips.LogInput{Version: 1, Hours: 3,
			Used: []uuid.UUID{w.cooler.ID}}))
	}
	id := w.trip("next", 1, 1, 3)
	assert.Less(t, fetching(id), 0.8*before, "what is never used is not reckoned to be fetched")
	v, err := w.Days.Along(ctx, w.owner, id)
	require.NoError(t, err)
	require.Len(t, v.List, 2)
	assert.Equal(t, w.cooler.ID, v.List[0].GearID, "the dearest first")
	assert.Greater(t, v.List[0].Freeboard, 0.005)
	assert.Equal(t, [2]int{10, 10}, [2]int{v.List[0].Along, v.List[0].Used})
	require.Len(t, v.Never, 1)
	assert.Equal(t, w.chartbox.ID, v.Never[0].GearID)
	assert.Equal(t, [2]int{10, 0}, [2]int{v.Never[0].Along, v.Never[0].Used})
	_, err = w.Days.LeaveAshore(ctx, w.owner, store.NewID(), id, v.Version, []uuid.UUID{w.chartbox.ID})
	require.NoError(t, err)
	v, err = w.Days.Along(ctx, w.owner, id)
	require.NoError(t, err)
	require.Len(t, v.Ashore, 1)
	assert.Len(t, v.List, 1)
}

func TestWhatBrokeOnATripIsSaidOfThePiece(t *testing.T) {
	w := newWorld(t)
	id := w.trip("today", 0, 1, 3)
	in := trips.LogInput{
		Version: 1,
		Hours:   3,
		Broke:   []trips.Broke{{GearID: w.cooler.ID, Condition: "broken", How: "the lid"}},
	}
	in.Notes = "wind from the west"
	require.NoError(t, w.Trips.LogTrip(ctx, w.owner, store.NewID(), id, in))
	g, err := w.Gear.GearOne(ctx, w.owner, w.cooler.ID)
	require.NoError(t, err)
	assert.Equal(t, "broken", g.Condition)
	assert.Contains(t, fmt.Sprint(g.Notes), "broken on today: the lid")
	in.Broke[0].Condition = "lost"
	assert.Equal(t, refuse.Invalid, kindOf(t, w.Trips.LogTrip(ctx, w.owner, store.NewID(), id, in)).Kind)
}

func TestFishCountByLengthAndTheLightestGoesBack(t *testing.T) {
	w := newWorld(t)
	id := w.trip("cup", 0, 1, 3)
	_, err := w.Days.Save(
		ctx,
		w.owner,
		store.NewID(),
		id,
		1,
		model.DayPlan{BestOf: 2, Phases: []model.DayPhase{phase("fish", 2),
			phase("weigh-in", 0.5)}, At: 360},
	)
	require.NoError(t, err)
	before := w.state().Now.Displacement
	add := func(in days.FishInput) days.CatchView {
		v, err := w.Days.AddFish(ctx, w.owner, store.NewID(), id, in)
		require.NoError(t, err)
		return v
	}
	add(days.FishInput{Species: "pike", Length: 1})
	v := add(days.FishInput{Species: "pike", Kg: 3, Tag: 4, Place: &w.locker})
	assert.InDelta(t, 7.1+3, v.Kept, 0.02, "the standard weight of a pike of a metre, and one that was weighed")
	assert.Empty(t, v.Goes)
	assert.InDelta(
		t,
		before+3,
		w.state().Now.Displacement,
		1e-9,
		"what lies in a locker weighs on her at once; the livewell overflows",
	)
	v = add(days.FishInput{Species: "pike", Kg: 5, Tag: 2})
	assert.Equal(t, "Tag 4, the pike of 3.00 kg goes back: it does not count.", v.Goes)
	assert.InDelta(t, 480, *v.UntilAt, 1e-9)
	fish := v.Fish[len(v.Fish)-1]
	v, err = w.Days.PutBack(ctx, w.owner, store.NewID(), id, fish.ID, true)
	require.NoError(t, err)
	assert.Empty(t, v.Goes)
	assert.InDelta(t, before, w.state().Now.Displacement, 1e-9)
	require.NoError(t, w.Days.RemoveFish(ctx, w.owner, id, fish.ID))
	v, err = w.Days.Catch(ctx, w.owner, id)
	require.NoError(t, err)
	assert.Len(t, v.Fish, 2)
	last, err := w.Undoing.Last(ctx, w.owner)
	require.NoError(t, err)
	_, err = w.Undoing.Undo(ctx, w.owner, store.NewID(), last.Undoable.ID)
	require.NoError(t, err)
	v, err = w.Days.Catch(ctx, w.owner, id)
	require.NoError(t, err)
	assert.Len(t, v.Fish, 3, "what was taken off by mistake is there again")
	require.NoError(t, w.Days.RemoveFish(ctx, w.owner, id, fish.ID))
	_, err = w.Days.AddFish(ctx, w.owner, store.NewID(), id, days.FishInput{Species: "burbot", Length: 0.5})
	assert.Contains(t, kindOf(t, err).Sentence, "not in the table")
	require.NoError(t, w.Days.SetSpecies(ctx, w.owner, []catch.Species{{Name: "burbot", A: 0.006, B: 3}}))
	v = add(days.FishInput{Species: "burbot", Length: 0.5})
	assert.InDelta(t, 0.75, v.Fish[2].Kg, 1e-9, "0.006 times 50 cubed is 750 g")
	assert.True(t, v.Own)
	assert.Equal(
		t,
		refuse.Invalid,
		kindOf(t, w.Days.SetSpecies(ctx, w.owner, []catch.Species{{Name: "x", A: 9, B: 9}})).Kind,
	)
	_, err = w.Days.AddFish(ctx, w.owner, store.NewID(), id, days.FishInput{Species: "burbot"})
	assert.Equal(t, refuse.Invalid, kindOf(t, err).Kind)
}

// By hand: 3 kg melted in 10 h at 20 °C are 1.3917 W/K.
func TestTheNextDayOfAKindIsAsTheLastOneAndItsIceAsItLasted(t *testing.T) {
	w := newWorld(t)
	first := w.trip("first", 0, 1, 3)
	plan := model.DayPlan{At: 300, Air: 20, Water: 10, Phases: []model.DayPhase{phase("fish", 6), phase("home", 4)},
		Coolers: []model.DayCooler{{Place: w.locker, Ice: 8, UA: 1}}}
	plan.Phases[0].Posts = []model.DayPost{{Person: store.NewID(), Post: &w.post}}
	_, err := w.Days.Save(ctx, w.owner, store.NewID(), first, 1, plan)
	require.NoError(t, err)
	in := trips.LogInput{Version: 2, Hours: 3}
	in.IceLeft = 5
	require.NoError(t, w.Trips.LogTrip(ctx, w.owner, store.NewID(), first, in))
	v, err := w.Days.Day(ctx, w.owner, w.trip("next", 5, 1, 3))
	require.NoError(t, err)
	assert.False(t, v.Saved)
	require.Len(t, v.Plan.Phases, 2)
	assert.InDelta(t, 6, v.Plan.Phases[0].Hours, 1e-9)
	assert.Empty(t, v.Plan.Phases[0].Posts, "who was where then is not who comes now")
	assert.InDelta(t, 1.3917, v.Plan.Coolers[0].UA, 1e-3)
}

func TestGuestsSeeNobodysMassButTheirOwn(t *testing.T) {
	w := newWorld(t)
	id := w.trip("cod run", 1, 1, 3)
	w.partyOf(id, &w.post)
	guest := w.join("Tove", kernel.Guest)
	list, err := w.Trips.Trips(ctx, guest)
	require.NoError(t, err)
	v, err := w.Days.Day(ctx, guest, id)
	require.NoError(t, err)
	p, err := w.Ready.Page(ctx, guest, id)
	require.NoError(t, err)
	for _, kg := range []float64{list[0].People[0].Kg, v.People[0].Kg, v.People[1].Kg, p.People[0].Kg, p.Aboard[0].Kg} {
		assert.Zero(t, kg)
	}
	sheets, err := w.Ready.Sheets(ctx, guest, id, "load")
	require.NoError(t, err)
	assert.NotContains(t, fmt.Sprint(sheets[0].Sections[1]), "85")
	sheets, err = w.Ready.Sheets(ctx, w.owner, id, "load")
	require.NoError(t, err)
	assert.Contains(t, fmt.Sprint(sheets[0].Sections[1]), "85.0 kg")
	_, err = w.Ready.Sheets(ctx, w.owner, id, "poem")
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
	link, err := w.Ready.MakeGuestLink(ctx, w.owner, id)
	require.NoError(t, err)
	g, err := w.Ready.Guest(ctx, link.Token)
	require.NoError(t, err)
	assert.Equal(t, "Test boat", g.Boat)
	w.Kernel.Now = func() time.Time { return time.Now().AddDate(0, 0, 5) }
	_, err = w.Ready.Guest(ctx, link.Token)
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind, "it ends two days after the trip")
}

func TestAPhaseBurnsAtItsSpeed(t *testing.T) {
	w := newWorld(t)
	w.fuelled()
	id := w.trip("trolling", 1, 1, 3)
	slow := phase("fish", 2)
	slow.Speed = 10 * kmh
	v, err := w.Days.Try(ctx, w.owner, id, model.DayPlan{At: 360, Phases: []model.DayPhase{slow}})
	require.NoError(t, err)
	assert.InDelta(t, 20, v.Answer.Phases[0].Burn, 1e-6, "two hours at 10 l/h")
	slow.Speed = 3 * kmh
	v, err = w.Days.Try(ctx, w.owner, id, model.DayPlan{At: 360, Phases: []model.DayPhase{slow}})
	require.NoError(t, err)
	assert.Contains(t, fmt.Sprint(v.Lacks), "slower or faster than the table")
}

func TestTheOtherTankMayBeUsedFirst(t *testing.T) {
	w := newWorld(t)
	w.fuelled()
	require.NoError(t, w.change(func(in *aboard.BoatInput) {
		fore := in.Outfit.Tanks[0]
		fore.Name, fore.Corner = "fore", model.Vec{3, -0.25, 0.2}
		in.Outfit.Tanks = append(in.Outfit.Tanks, fore)
	}))
	id := w.trip("trolling", 1, 1, 3)
	slow := phase("fish", 2)
	slow.Speed = 10 * kmh
	last := func(first string) days.MomentView {
		v, err := w.Days.Try(ctx, w.owner, id, model.DayPlan{At: 360, First: first, Phases: []model.DayPhase{slow}})
		require.NoError(t, err)
		return v.Answer.Moments[len(v.Answer.Moments)-1]
	}
	main, fore := last(""), last("fore")
	assert.InDelta(t, 0.5-20.0/60, main.Fills[0], 1e-6)
	assert.InDelta(t, 0.5-20.0/60, fore.Fills[1], 1e-6)
	assert.Greater(t, fore.Attitude.TrimDeg, main.Attitude.TrimDeg, "what is burnt forward brings the bow up")
}

func TestFetchingTakesAsLongAsTheLogSays(t *testing.T) {
	w := newWorld(t)
	_, err := w.put(w.owner, w.cooler, &w.locker)
	require.NoError(t, err)
	fetching := func(trip uuid.UUID) float64 {
		v, err := w.Days.Try(ctx, w.owner, trip, model.DayPlan{At: 360, Phases: []model.DayPhase{phase("fish", 4)}})
		require.NoError(t, err)
		return v.Answer.Fetching
	}
	next := w.trip("next", 5, 1, 3)
	before := fetching(next)
	for i, took := range []float64{1.5, 2.5, 1.4} {
		in := trips.LogInput{Version: 1, Hours: 3}
		in.Fetching = took
		require.NoError(t, w.Trips.LogTrip(ctx, w.owner, store.NewID(), w.trip("past", -9+i, 1, 3), in))
	}
	assert.InDelta(t, 1.8*before, fetching(next), 1e-6, "the mean of what three trips say")
}
