package app_test

import (
	"fmt"
	"testing"

	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/kits"
	"ergasia/app/refuse"
	"ergasia/app/rigging"
	"ergasia/app/safety"
	"ergasia/app/trips"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestALoggedTripIsOverAndItsPromisesToo(t *testing.T) {
	w := newWorld(t)
	cup := w.trip("cup", 0, 2, 4)
	for range 2 { // a second press says nothing and promises nothing more
		refused, err := w.Trips.Promise(ctx, w.owner, store.NewID(), cup, []uuid.UUID{w.cooler.ID})
		require.NoError(t, err)
		assert.Empty(t, refused)
	}
	promised, err := w.Trips.Promised(ctx, w.owner, cup)
	require.NoError(t, err)
	assert.Len(t, promised, 1)
	require.NoError(t, w.Trips.LogTrip(ctx, w.owner, store.NewID(), cup, trips.LogInput{Version: 1, Hours: 3}))
	today := kernel.DayOf(w.Kernel.Now())
	_, err = w.Trips.SaveTrip(ctx, w.owner, store.NewID(), cup, 2, trips.TripInput{Name: "cup", StartsOn: today,
		EndsOn: today, Persons: 1, Rods: 1, Hours: 1})
	assert.ErrorContains(t, err, "cup is logged: what was is not changed")
	refused, err := w.Trips.Promise(ctx, w.owner, store.NewID(), w.trip("evening", 1, 1, 2), []uuid.UUID{w.cooler.ID})
	require.NoError(t, err)
	assert.Empty(t, refused, "she came home a day early, and the cooler is free")
}

func TestAServiceCountsFromTheTripsOfBefore(t *testing.T) {
	w := newWorld(t)
	for i := range 3 {
		trip := w.trip(fmt.Sprint("trip ", i), 0, 1, 1)
		require.NoError(t, second(w.Trips.Promise(ctx, w.owner, store.NewID(), trip, []uuid.UUID{w.cooler.ID})))
		require.NoError(t, w.Trips.LogTrip(ctx, w.owner, store.NewID(), trip, trips.LogInput{Version: 1, Hours: 1}))
	}
	today := kernel.DayOf(w.Kernel.Now())
	id, err := w.Due.AddService(
		ctx,
		w.owner,
		store.NewID(),
		w.cooler.ID,
		gear.ServiceInput{What: "scrub", EveryTrips: 2,
			LastOn: today},
	)
	require.NoError(t, err)
	list, err := w.Due.Due(ctx, w.owner)
	require.NoError(t, err)
	for _, r := range list.Rows {
		assert.NotEqual(t, "now", r.When, "two trips are left")
	}
	assert.Equal(t, refuse.Conflict, kindOf(t, w.Due.DoneService(ctx, w.owner, store.NewID(), w.cooler.ID, id, 7)).Kind)
	for i := range gear.ServicesOfGear - 1 {
		require.NoError(t, second(w.Due.AddService(ctx, w.owner, store.NewID(), w.cooler.ID,
			gear.ServiceInput{What: fmt.Sprint("look ", i), EveryDays: 30, LastOn: today})))
	}
	_, err = w.Due.AddService(
		ctx,
		w.owner,
		store.NewID(),
		w.cooler.ID,
		gear.ServiceInput{What: "one more", EveryDays: 30,
			LastOn: today},
	)
	assert.ErrorContains(t, err, "the most there can be")
}

// A kit for several days asks whether a thing is free on each of them.
func TestAKitLooksAtEveryDayOfATrip(t *testing.T) {
	w := newWorld(t)
	id, err := w.Kits.SaveKit(ctx, w.owner, store.NewID(), uuid.Nil, 0, kits.KitInput{Name: "kit", Sort: "use",
		Lines: []model.KitLine{
			{What: "cooler", Amount: 1, Per: "boat", Choices: []model.KitChoice{{GearID: &w.cooler.ID}}},
		}})
	require.NoError(t, err)
	week, other := w.trip("week", 3, 5, 4), w.trip("other", 6, 1, 4)
	require.NoError(t, second(w.Trips.Promise(ctx, w.owner, store.NewID(), other, []uuid.UUID{w.cooler.ID})))
	answer, err := w.Kits.Kit(ctx, w.owner, id, kits.KitFor{Trip: &week})
	require.NoError(t, err)
	assert.Equal(t, 1, answer.Missing, "it is promised elsewhere on the fourth day")
	id, err = w.Kits.SaveKit(ctx, w.owner, store.NewID(), uuid.Nil, 0, kits.KitInput{Name: "food", Sort: "use",
		Lines: []model.KitLine{{What: "box", Amount: 2, Per: "day", Choices: []model.KitChoice{{Tag: "food"}}}}})
	require.NoError(t, err)
	answer, err = w.Kits.Kit(ctx, w.owner, id, kits.KitFor{Trip: &week})
	require.NoError(t, err)
	assert.Equal(t, []int{5, 10}, []int{answer.Days, answer.Missing}, "two for each of the five days")
}

// What comes from a fitting or a paper has no gear; a calendar takes it all the same.
func TestTheCalendarTakesFittingsAndPapers(t *testing.T) {
	w := newWorld(t)
	today := kernel.DayOf(w.Kernel.Now())
	in := cleat("port cleat")
	in.Look = rigging.LookInput{What: "thumb screws", Days: 30}
	look := w.mount(in)[0]
	last := today.Add(-2)
	paper, err := w.Safety.SavePaper(ctx, w.owner, store.NewID(), uuid.Nil, 0, safety.PaperInput{Name: "river licence",
		Kind: "licence", MemberID: &w.owner.Member, ExpiresOn: &last})
	require.NoError(t, err)
	list, err := w.Due.Due(ctx, w.owner)
	require.NoError(t, err)
	require.Len(t, list.Rows, 2)
	assert.Equal(t, paper, *list.Rows[0].PaperID, "the most urgent first")
	assert.Equal(t, "now out of date, 2 days over", list.Rows[0].When+" "+list.Rows[0].What+", "+list.Rows[0].Left)
	file, err := w.Due.CalendarFile(ctx, w.owner)
	require.NoError(t, err)
	token, err := w.Due.MakeCalendar(ctx, w.owner)
	require.NoError(t, err)
	fed, err := w.Due.Calendar(ctx, token)
	require.NoError(t, err)
	for _, text := range []string{string(file), string(fed)} {
		assert.Contains(t, text, look.String()+"-service")
	}
	assert.Contains(t, string(file), paper.String()+"-expiry")
	assert.Contains(t, string(file), "River licence: out of date")
	assert.NotContains(t, string(fed), "River licence", "whoever has the address learns nobody's licences")
	guest := w.hand
	guest.Role = kernel.Guest
	list, err = w.Due.Due(ctx, guest)
	require.NoError(t, err)
	require.Len(t, list.Rows, 1, "papers are not told to guests")
	assert.Equal(t, look, *list.Rows[0].FittingID)
}
