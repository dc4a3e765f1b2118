package app_test

import (
	"fmt"
	"math"
	"strings"
	"sync"
	"testing"
	"time"

	"ergasia/app"
	"ergasia/app/aboard"
	"ergasia/app/crew"
	"ergasia/app/fleet"
	"ergasia/app/jobs"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/trips"
	"ergasia/store"
	"ergasia/store/model"
	"ergasia/store/storetest"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Guests took the difference of two displacements once and had a body to the gram. Whoever
// moves, and whatever else is tried, differences are full steps now; the crew sees all of it.
func TestWhatABodyWeighsCannotBeWorkedOutByAGuest(t *testing.T) {
	w := newWorld(t)
	guest := w.join("Tove", kernel.Guest)
	members, err := w.Crew.Members(ctx, w.owner)
	require.NoError(t, err)
	for _, m := range members {
		if m.ID == w.hand.Member {
			in := m.MemberInput
			in.Kg, in.MassKnown = 83.7, "weighed"
			_, err := w.Crew.ChangeMember(ctx, w.owner, m.ID, m.Version, in)
			require.NoError(t, err)
		}
	}
	gains := func(who kernel.Actor) (displacement, plate float64) {
		trial, err := w.Where.Try(ctx, who, w.boat, aboard.MoveInput{MemberID: &w.hand.Member, PostID: &w.post})
		require.NoError(t, err)
		require.NotNil(t, trial.Then)
		return trial.Then.Displacement - trial.Now.Displacement, trial.Then.PlateKg - trial.Now.PlateKg
	}
	d, plate := gains(w.owner)
	assert.InDelta(t, 83.7, d, 1e-6)
	assert.InDelta(t, 83.7, plate, 1e-6)
	d, plate = gains(guest)
	assert.InDelta(t, 90, d, 1e-6, "the next full step above it")
	assert.InDelta(t, 90, plate, 1e-6)
	trial, err := w.Where.Try(ctx, guest, w.boat, aboard.MoveInput{MemberID: &guest.Member, PostID: &w.post})
	require.NoError(t, err)
	own := trial.Then.Displacement - trial.Now.Displacement
	assert.InDelta(t, 80, own, 1e-6, "their own they know")

	trip := w.trip("with a guest", 1, 1, 4)
	require.NoError(t, w.saveParty(trip, []model.TripPerson{{ID: store.NewID(), Name: "Ole", Kg: 71.3, Role: "guest"}}))
	day, err := w.Days.Day(ctx, guest, trip)
	require.NoError(t, err)
	assert.Zero(t, day.People[0].Kg)
	ours, err := w.Days.Day(ctx, w.owner, trip)
	require.NoError(t, err)
	require.NotNil(t, day.Answer)
	more := 0.0
	for i, m := range day.Answer.Moments {
		more = max(more, m.Kg-ours.Answer.Moments[i].Kg)
	}
	assert.InDelta(t, 80-71.3, more, 1e-6)
}

func (w *world) saveParty(trip uuid.UUID, people []model.TripPerson) error {
	_, err := w.Trips.SaveParty(ctx, w.owner, store.NewID(), trip, w.tripVersion(trip), people)
	return err
}

// Whom to call ashore, with their numbers, is not for guests.
func TestAGuestReadsNoNumbersOfPeopleAshore(t *testing.T) {
	w := newWorld(t)
	guest := w.join("Tove", kernel.Guest)
	trip := w.trip("an evening", 1, 1, 4)
	day, err := w.Days.Day(ctx, w.owner, trip)
	require.NoError(t, err)
	plan := day.Plan
	plan.Ashore = &model.FloatPlan{Contact: "Berit, 555 0101", Call: "Harbour, 555 0102", Guests: "Be there at six."}
	_, err = w.Days.Save(ctx, w.owner, store.NewID(), trip, day.Version, plan)
	require.NoError(t, err)
	theirs, err := w.Days.Day(ctx, guest, trip)
	require.NoError(t, err)
	assert.NotContains(t, fmt.Sprintf("%+v", *theirs.Plan.Ashore), "555")
	assert.Equal(t, "Be there at six.", theirs.Plan.Ashore.Guests)
	for who, reads := range map[kernel.Role]bool{kernel.Guest: false, kernel.Owner: true} {
		actor := map[kernel.Role]kernel.Actor{kernel.Guest: guest, kernel.Owner: w.owner}[who]
		sheets, err := w.Ready.Sheets(ctx, actor, trip, "")
		require.NoError(t, err)
		assert.Equal(t, reads, strings.Contains(fmt.Sprintf("%+v", sheets), "555"), who)
	}
	_, err = w.Ready.Sheets(ctx, guest, trip, "float-plan")
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
}

// A trip that was cancelled comes back without what was promised elsewhere since.
func TestACancelledTripComesBackWithoutWhatIsPromisedElsewhere(t *testing.T) {
	w := newWorld(t)
	first := w.trip("first", 3, 2, 4)
	_, err := w.Trips.Promise(ctx, w.owner, store.NewID(), first, []uuid.UUID{w.cooler.ID, w.chartbox.ID})
	require.NoError(t, err)
	require.NoError(t, w.Trips.RemoveTrip(ctx, w.owner, first))
	last, err := w.Undoing.Last(ctx, w.owner)
	require.NoError(t, err)
	second := w.trip("second", 3, 2, 4)
	refused, err := w.Trips.Promise(ctx, w.owner, store.NewID(), second, []uuid.UUID{w.cooler.ID})
	require.NoError(t, err)
	require.Empty(t, refused)
	done, err := w.Undoing.Undo(ctx, w.owner, store.NewID(), last.Undoable.ID)
	require.NoError(t, err)
	require.Len(t, done.Said, 1)
	assert.Contains(t, done.Said[0], "Cooler was promised to another trip or lent since")
	along, err := w.Trips.Promised(ctx, w.owner, first)
	require.NoError(t, err)
	require.Len(t, along, 1)
	assert.Equal(t, w.chartbox.ID, along[0].GearID)
}

// A boat is checked as her parts' own forms are: a brief of 100,000 letters broke its print.
func TestABoatThatIsSavedWholeIsCheckedAsItsFormsAre(t *testing.T) {
	w := newWorld(t)
	stranger := store.NewID()
	for field, out := range map[string]func(*model.Outfit){
		"outfit.brief.rescue":      func(o *model.Outfit) { o.Brief = &model.BriefInput{Rescue: strings.Repeat("x", 100_000)} },
		"outfit.brief.mmsi":        func(o *model.Outfit) { o.Brief = &model.BriefInput{Number: "12"} },
		"outfit.brief.seats[0]":    func(o *model.Outfit) { o.Brief = &model.BriefInput{Seats: []uuid.UUID{stranger}} },
		"outfit.carriage.power_kw": func(o *model.Outfit) { o.Carriage = &model.CarriageInput{PowerKW: 1e6} },
		"outfit.carriage.fixed[0]": func(o *model.Outfit) {
			o.Carriage = &model.CarriageInput{Fixed: []model.FixedThing{{Name: "x", Class: "nothing"}}}
		},
		"outfit.rates[0].speed_m_s": func(o *model.Outfit) { o.Rates = []model.RateInput{{Speed: 1e9, Flow: 1}} },
		"outfit.rigging":            func(o *model.Outfit) { o.Rigging = &model.RiggingInput{Road: -5} },
	} {
		in := boatInput()
		in.Name = "Another"
		out(&in.Outfit)
		_, err := w.Fleet.SaveBoat(ctx, w.owner, store.NewID(), uuid.Nil, 0, in)
		refusal := kindOf(t, err)
		require.NotEmpty(t, refusal.Faults, field)
		assert.Contains(t, refusal.Faults[0].Field, field)
	}
}

// A seat that was a post once and is gone does not keep a boat from being saved.
func TestASeatThatIsGoneIsDroppedFromTheBrief(t *testing.T) {
	w := newWorld(t)
	bow, err := w.Fleet.AddPost(ctx, w.owner, store.NewID(), w.boat, fleet.PostInput{Name: "bow", At: model.Vec{3, 0, 0.3}})
	require.NoError(t, err)
	require.NoError(t, w.change(func(in *aboard.BoatInput) {
		in.Outfit.Brief = &model.BriefInput{Seats: []uuid.UUID{w.post, bow}}
	}))
	require.NoError(t, w.Fleet.RemovePost(ctx, w.owner, w.boat, bow))
	require.NoError(t, w.change(func(in *aboard.BoatInput) { in.Name = "Renamed" }))
	assert.Equal(t, []uuid.UUID{w.post}, w.boatView().Outfit.Brief.Seats)
}

// Two copies of the program on an empty database found one crew.
func TestTwoCopiesFoundOneCrew(t *testing.T) {
	url := storetest.URL(t)
	require.NoError(t, store.Migrate(ctx, url))
	var copies []*app.App
	var codes []string
	for range 2 {
		db, err := store.Open(ctx, url, 4)
		require.NoError(t, err)
		defer func() { _ = db.Close() }()
		a := app.New(db)
		code, err := a.Crew.FoundingCode(ctx)
		require.NoError(t, err)
		copies, codes = append(copies, a), append(codes, code)
	}
	var all sync.WaitGroup
	errs := make([]error, 2)
	for i, a := range copies {
		all.Go(func() {
			_, _, errs[i] = a.Crew.FoundFirst(ctx, crew.FoundInput{Code: codes[i], Crew: "Ours", Name: "Una",
				Login: fmt.Sprintf("una%d", i), Password: password})
		})
	}
	all.Wait()
	founded := 0
	for _, err := range errs {
		if err == nil {
			founded++
		} else {
			assert.Equal(t, refuse.Refused, kindOf(t, err).Kind)
		}
	}
	assert.Equal(t, 1, founded)
}

// A login that reads as another's with an address throttles nobody but itself.
func TestALoginCannotBeMistakenForAnothersAddress(t *testing.T) {
	w := newWorld(t)
	for range crew.FailuresPerLogin + 1 {
		_, err := w.signIn("ilse from 10.0.0.9", "something", "10.0.2.1", "")
		require.Error(t, err)
	}
	_, err := w.signIn("ilse", password, "10.0.0.9", "")
	require.NoError(t, err)
}

// A guest's link follows the trip's dates.
func TestAGuestsLinkEndsByTheTripsDatesAsTheyAre(t *testing.T) {
	w := newWorld(t)
	trip := w.trip("an evening", 1, 1, 4)
	link, err := w.Ready.MakeGuestLink(ctx, w.owner, trip)
	require.NoError(t, err)
	now := time.Now()
	w.Kernel.Now = func() time.Time { return now.AddDate(0, 0, 6) }
	_, err = w.Ready.Guest(ctx, link.Token)
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
	w.Kernel.Now = time.Now
	first := kernel.DayOf(now).Add(6)
	in := trips.TripInput{Name: "an evening", BoatID: &w.boat, StartsOn: first, EndsOn: first, Persons: 3, Rods: 5, Hours: 4}
	_, err = w.Trips.SaveTrip(ctx, w.owner, store.NewID(), trip, w.tripVersion(trip), in)
	require.NoError(t, err)
	w.Kernel.Now = func() time.Time { return now.AddDate(0, 0, 6) }
	_, err = w.Ready.Guest(ctx, link.Token)
	assert.NoError(t, err, "the trip was put off, and its link with it")
}

// Pictures are of a fitting or a job of the boat that they are asked of.
func TestAPictureIsOfTheBoatThatItIsAskedOf(t *testing.T) {
	w := newWorld(t)
	job, err := w.Jobs.Report(ctx, w.owner, store.NewID(), w.boat, jobs.JobInput{Kind: "defect", What: "leaks"})
	require.NoError(t, err)
	in := boatInput()
	in.Name = "Another"
	other, err := w.Fleet.SaveBoat(ctx, w.owner, store.NewID(), uuid.Nil, 0, in)
	require.NoError(t, err)
	of := fleet.PhotoOf{Job: &job, On: &w.boat}
	photo, err := w.Fleet.AddPhoto(ctx, w.owner, store.NewID(), of, picture(t, 1))
	require.NoError(t, err)
	wrong := fleet.PhotoOf{Job: &job, On: &other}
	_, err = w.Fleet.Photos(ctx, w.owner, wrong)
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
	_, err = w.Fleet.Photo(ctx, w.owner, wrong, photo)
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
	_, err = w.Fleet.AddPhoto(ctx, w.owner, store.NewID(), wrong, picture(t, 1))
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
	assert.Equal(t, refuse.NotFound, kindOf(t, w.Fleet.RemovePhoto(ctx, w.owner, wrong, photo)).Kind)
	require.NoError(t, w.Fleet.RemovePhoto(ctx, w.owner, of, photo))
	assert.Equal(t, refuse.NotFound, kindOf(t, w.Fleet.RemovePhoto(ctx, w.owner, of, photo)).Kind)
}

// The diary is read from anywhere in a log, however far that number is.
func TestTheDiaryIsReadBeforeAnyNumber(t *testing.T) {
	w := newWorld(t)
	_, err := w.put(w.owner, w.cooler, &w.locker)
	require.NoError(t, err)
	for _, before := range []int64{0, math.MaxInt32, math.MaxInt32 + 1, 1 << 53} {
		d, err := w.Where.Diary(ctx, w.owner, w.boat, before)
		require.NoError(t, err)
		assert.NotEmpty(t, d.Rows)
	}
}
