package app_test

import (
	"slices"
	"strings"
	"testing"
	"time"
	"unicode/utf8"

	"ergasia/app/brief"
	"ergasia/app/days"
	"ergasia/app/fleet"
	"ergasia/app/gear"
	"ergasia/app/jobs"
	"ergasia/app/kernel"
	"ergasia/app/lists"
	"ergasia/app/refuse"
	"ergasia/app/trips"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func (w *world) lists(trip uuid.UUID) lists.ListsView {
	v, err := w.Lists.Lists(ctx, w.owner, trip)
	require.NoError(w.t, err)
	return v
}

// stageOf is the list of a stage; an empty one where there is none.
func stageOf(v lists.ListsView, stage string) lists.StageList {
	for _, s := range v.Stages {
		if s.Stage == stage {
			return s
		}
	}
	return lists.StageList{}
}

func texts(s lists.StageList) (list []string) {
	for _, l := range s.Lines {
		list = append(list, l.Text)
	}
	return list
}

func (w *world) tick(who kernel.Actor, trip uuid.UUID, line string, done bool, at time.Time) {
	err := w.Lists.Tick(ctx, who, store.NewID(), trip, lists.TickInput{Line: line, Done: done, At: at})
	require.NoError(w.t, err)
}

func lineOf(v lists.ListsView, key string) lists.TickLine {
	for _, s := range v.Stages {
		for _, l := range s.Lines {
			if l.Key == key {
				return l
			}
		}
	}
	return lists.TickLine{}
}

func TestTwoPlugsAreTwoLinesAndThreeStrapsAreThree(t *testing.T) {
	w := newWorld(t)
	trip := w.trip("out", 1, 1, 2)
	v, err := w.Fleet.Boat(ctx, w.owner, w.boat)
	require.NoError(t, err)
	require.NoError(
		t,
		w.Floating.SetTrailer(ctx, w.owner, store.NewID(), w.boat, v.Version, model.TrailerInput{Kg: 200, Axle: 1.5,
			Hitch: 6, School: "boat", Straps: 3, TyreBar: 3}),
	)
	in := model.CarriageInput{Fixed: []model.FixedThing{{Class: "drain plug", Name: "transom plug", Where: "starboard"},
		{Class: "drain plug", Name: "well plug", Where: "port"}}}
	require.NoError(t, w.Safety.SetCarriage(ctx, w.owner, store.NewID(), w.boat, v.Version+1, in))
	all := w.lists(trip)
	ramp := stageOf(all, "ramp")
	plugs := slices.DeleteFunc(
		slices.Clone(ramp.Lines),
		func(l lists.TickLine) bool { return !strings.Contains(l.Text, "plug ") },
	)
	require.Len(t, plugs, 2)
	assert.Equal(
		t,
		[]string{"Drain plug 1 of 2 in: transom plug", "starboard"},
		[]string{plugs[0].Text, plugs[0].Where},
	)
	assert.True(t, plugs[0].Holds && plugs[1].Holds)
	assert.Contains(t, texts(stageOf(all, "road")), "Strap 3 of 3 tight")
	assert.Contains(t, texts(stageOf(all, "road")), "Tyres at 3.0 bar, 44 psi")
	assert.Contains(t, texts(ramp), "All 3 straps off")
}

func TestListsFollowGearPromisesAndWhatIsDue(t *testing.T) {
	w := newWorld(t)
	trip := w.trip("out", 1, 1, 2)
	before := texts(stageOf(w.lists(trip), "load"))
	_, err := w.Trips.Promise(ctx, w.owner, store.NewID(), trip, []uuid.UUID{w.cooler.ID})
	require.NoError(t, err)
	assert.NotContains(t, before, "Stow cooler")
	assert.Contains(t, texts(stageOf(w.lists(trip), "load")), "Stow cooler")
	w.aboardIn(w.listed("flare", "flare day and night", goodFor(0)), w.tray)
	evening := strings.Join(texts(stageOf(w.lists(trip), "evening")), "; ")
	assert.Contains(t, evening, "Flare:")
}

func TestATickSaysWhoAndWhenAndTheLaterOneCounts(t *testing.T) {
	w := newWorld(t)
	trip := w.trip("out", 1, 1, 2)
	at := time.Now().Add(-time.Hour).Truncate(time.Second)
	w.tick(w.hand, trip, "ramp:line", true, at)
	l := lineOf(w.lists(trip), "ramp:line")
	assert.True(t, l.Done)
	assert.Equal(t, "Sune", l.By)
	assert.True(t, at.Equal(*l.At))
	w.tick(w.owner, trip, "ramp:line", false, at.Add(time.Minute))
	w.tick(w.hand, trip, "ramp:line", true, at.Add(30*time.Second)) // waited for the network meanwhile
	l = lineOf(w.lists(trip), "ramp:line")
	assert.False(t, l.Done, "what was done later counts, not what came later")
	assert.Equal(t, "Ilse", l.By)
	w.tick(w.hand, trip, "ramp:line", true, time.Now().Add(24*time.Hour)) // a phone whose clock is wrong
	l = lineOf(w.lists(trip), "ramp:line")
	assert.True(t, l.Done)
	assert.False(t, l.At.After(time.Now().Add(time.Second)))
	key := store.NewID()
	in := lists.TickInput{Line: "ramp:dry", Done: true, At: at}
	require.NoError(t, w.Lists.Tick(ctx, w.hand, key, trip, in))
	require.NoError(t, w.Lists.Tick(ctx, w.hand, key, trip, in), "sent again after a lost answer")
}

func TestListsBeginAgainAndWhatWasForgottenIsOnTop(t *testing.T) {
	w := newWorld(t)
	first := w.trip("first", 0, 1, 2)
	w.tick(w.owner, first, "home:wash", true, time.Now())
	w.tick(w.owner, first, "home:home", true, time.Now().Add(-time.Minute))
	w.tick(w.owner, first, "home:home", false, time.Now())
	require.NoError(
		t,
		w.Trips.LogTrip(ctx, w.owner, store.NewID(), first, trips.LogInput{Version: w.tripVersion(first), Hours: 1}),
	)
	next := w.trip("next", 3, 1, 2)
	home := stageOf(w.lists(next), "home")
	assert.Equal(t, "home:home", home.Lines[0].Key)
	assert.True(t, home.Lines[0].Forgotten)
	assert.False(t, home.Lines[1].Done, "nothing is ticked on a new trip")

	w.tick(w.owner, next, "home:wash", true, time.Now())
	require.NoError(t, w.Lists.Begin(ctx, w.owner, store.NewID(), next))
	assert.False(t, lineOf(w.lists(next), "home:wash").Done)
	w.undo()
	assert.True(t, lineOf(w.lists(next), "home:wash").Done)
}

func TestALineOfTheirOwnHoldsTheVerdict(t *testing.T) {
	w := newWorld(t)
	trip := w.trip("out", 3, 1, 2)
	id, err := w.Lists.SaveLine(
		ctx,
		w.owner,
		store.NewID(),
		uuid.Nil,
		0,
		lists.OwnLineInput{Stage: "evening", Text: "Charge the pump",
			Holds: true, BoatID: &w.boat},
	)
	require.NoError(t, err)
	assert.True(t, hasLine(w.page(trip).Lines, "list Charge the pump"))
	w.tick(w.hand, trip, "own "+id.String(), true, time.Now())
	assert.False(t, hasLine(w.page(trip).Lines, "list Charge the pump"))
	assert.False(t, hasLine(w.page(trip).Lines, "list Stop-cord"), "what is done at the ramp does not hold days before")
	today := w.trip("today", 0, 1, 2)
	assert.True(t, hasLine(w.page(today).Lines, "list Stop-cord"))

	other := w.trip("other", 5, 1, 2)
	only, err := w.Lists.SaveLine(
		ctx,
		w.owner,
		store.NewID(),
		uuid.Nil,
		0,
		lists.OwnLineInput{Stage: "load", Text: "Cake",
			TripID: &trip},
	)
	require.NoError(t, err)
	assert.Contains(t, texts(stageOf(w.lists(trip), "load")), "Cake")
	assert.NotContains(t, texts(stageOf(w.lists(other), "load")), "Cake")
	require.NoError(t, w.Lists.RemoveLine(ctx, w.owner, only))
	assert.NotContains(t, texts(stageOf(w.lists(trip), "load")), "Cake")
	w.undo()
	assert.Contains(t, texts(stageOf(w.lists(trip), "load")), "Cake")
	_, err = w.Lists.SaveLine(ctx, w.owner, store.NewID(), uuid.Nil, 0, lists.OwnLineInput{Stage: "sleep", Text: "  "})
	assert.Len(t, kindOf(t, err).Faults, 2)
}

func TestALineIsSomebodys(t *testing.T) {
	w := newWorld(t)
	trip := w.trip("out", 3, 1, 2)
	require.NoError(t, w.Lists.Assign(ctx, w.owner, store.NewID(), trip, "ramp:line", &w.hand.Member))
	w.tick(w.hand, trip, "ramp:line", true, time.Now())
	l := lineOf(w.lists(trip), "ramp:line")
	assert.Equal(t, w.hand.Member, *l.Who, "a tick leaves it as it was")
	require.NoError(t, w.Lists.Assign(ctx, w.owner, store.NewID(), trip, "ramp:line", nil))
	l = lineOf(w.lists(trip), "ramp:line")
	assert.Nil(t, l.Who)
	assert.True(t, l.Done)
	nobody := store.NewID()
	err := w.Lists.Assign(ctx, w.owner, store.NewID(), trip, "ramp:line", &nobody)
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
}

func TestWhatBrokeHoldsTheNextTripUntilItIsDone(t *testing.T) {
	w := newWorld(t)
	trip := w.trip("out", 3, 1, 2)
	id, err := w.Jobs.Report(
		ctx,
		w.hand,
		store.NewID(),
		w.boat,
		jobs.JobInput{Kind: "defect", What: "Fuel hose cracked", Holds: true,
			TripID: &trip},
	)
	require.NoError(t, err)
	p := w.page(trip)
	assert.True(t, hasLine(p.Lines, "job "+id.String()))
	assert.Contains(t, texts(stageOf(w.lists(trip), "evening")), "Mend: Fuel hose cracked")
	_, err = w.Jobs.Change(
		ctx,
		w.owner,
		store.NewID(),
		w.boat,
		id,
		jobs.JobChange{State: "done", Note: "new hose", Version: 1},
	)
	require.NoError(t, err)
	assert.False(t, hasLine(w.page(trip).Lines, "job "+id.String()))
	list, err := w.Jobs.Jobs(ctx, w.owner, w.boat)
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.Equal(t, "done: new hose", list[0].Story[1].What)
	assert.Equal(t, "Sune", list[0].By)
	assert.Equal(t, "out", list[0].Trip)
	_, err = w.Jobs.Change(ctx, w.owner, store.NewID(), w.boat, id, jobs.JobChange{State: "open", Version: 1})
	assert.Equal(t, refuse.Conflict, kindOf(t, err).Kind)
	require.NoError(t, w.Jobs.Remove(ctx, w.owner, w.boat, id))
	w.undo()
	list, err = w.Jobs.Jobs(ctx, w.owner, w.boat)
	require.NoError(t, err)
	assert.Len(t, list, 1)
}

func TestTheBriefFollowsTheStowage(t *testing.T) {
	w := newWorld(t)
	ring := w.listed("ring", "throwable")
	said := func() (text string, lacks string) {
		v, err := w.Brief.OfBoat(ctx, w.owner, w.boat)
		require.NoError(t, err)
		for _, p := range v.Points {
			text += p.Said + " "
		}
		return text, strings.Join(v.Lacks, " ")
	}
	_, lacks := said()
	assert.Contains(t, lacks, "Man overboard: none is aboard.")
	w.aboardIn(ring, w.locker)
	text, _ := said()
	assert.Contains(t, text, "it is in the stern locker")
	w.aboardIn(ring, w.tray)
	text, _ = said()
	assert.Contains(t, text, "it is in the small tray")

	v, err := w.Fleet.Boat(ctx, w.owner, w.boat)
	require.NoError(t, err)
	require.NoError(
		t,
		w.Safety.SetBrief(ctx, w.owner, store.NewID(), w.boat, v.Version, model.BriefInput{Number: "219000021",
			Stop: "Turn the red key."}),
	)
	w.aboardIn(w.listed("radio", "radio"), w.locker)
	b, err := w.Brief.OfBoat(ctx, w.owner, w.boat)
	require.NoError(t, err)
	assert.Contains(t, strings.Join(b.Call, " "), strings.ToUpper(b.Boat)+". M M S I 2 1 9 0 0 0 0 2 1.")
	text, _ = said()
	assert.Contains(t, text, "Turn the red key.")
	err = w.Safety.SetBrief(ctx, w.owner, store.NewID(), w.boat, v.Version+1, model.BriefInput{Number: "12"})
	assert.Contains(t, kindOf(t, err).Faults.Error(), "must have nine digits")
}

// The way back aboard and the guests' seats are on the drawing: as the crew says, or where the
// trip's guests sit.
func TestTheBriefDrawsTheWayBackAndTheSeats(t *testing.T) {
	w := newWorld(t)
	post := func(name string, x, y float64) uuid.UUID {
		id, err := w.Fleet.AddPost(
			ctx,
			w.owner,
			store.NewID(),
			w.boat,
			fleet.PostInput{Name: name, At: model.Vec{x, y, 0.5}},
		)
		require.NoError(t, err)
		return id
	}
	version := func() int {
		v, err := w.Fleet.Boat(ctx, w.owner, w.boat)
		require.NoError(t, err)
		return v.Version
	}
	port, bow := post("port seat", 1.2, 0.4), post("bow seat", 3, 0)
	require.NoError(t, w.Safety.SetCarriage(ctx, w.owner, store.NewID(), w.boat, version(), model.CarriageInput{
		Fixed: []model.FixedThing{{Class: "ladder", Name: "ladder", Where: "at the stern", Spot: "stern_port"}}}))
	require.NoError(t, w.Safety.SetBrief(ctx, w.owner, store.NewID(), w.boat, version(), model.BriefInput{
		Seats: []uuid.UUID{port}}))
	v, err := w.Brief.OfBoat(ctx, w.owner, w.boat)
	require.NoError(t, err)
	at := func(v brief.BriefView, title string) []model.Vec {
		for _, p := range v.Points {
			if p.Title == title {
				return p.At
			}
		}
		return nil
	}
	assert.Equal(t, []model.Vec{{1.2, 0.4, 0.5}}, at(v, "Where to sit"))
	back := at(v, "Back on board")
	require.Len(t, back, 1)
	long := v.Lines.PlanSheer[len(v.Lines.PlanSheer)-1][0]
	assert.Less(t, back[0][0], 0.1*long, "at the stern")
	assert.Positive(t, back[0][1], "to port")
	page, err := w.Safety.Boat(ctx, w.owner, w.boat)
	require.NoError(t, err)
	require.Len(t, page.Pieces, 1)
	assert.Equal(t, back[0], *page.Pieces[0].At, "and on the page of safety equipment")

	o := &days.Outing{People: []days.Person{{TripPerson: model.TripPerson{Name: "Tove", Role: "guest", Sits: &bow}}}}
	require.NoError(t, w.Kernel.In(ctx, w.owner, func(tx *store.Tx) (err error) {
		o.Laden, err = w.Where.Laden(tx, w.owner, w.boat)
		return err
	}))
	assert.Equal(
		t,
		[]model.Vec{{3, 0, 0.5}},
		at(*brief.OfTrip(o), "Where to sit"),
		"a trip's guests sit where they sit",
	)

	err = w.Safety.SetBrief(
		ctx,
		w.owner,
		store.NewID(),
		w.boat,
		version(),
		model.BriefInput{Seats: []uuid.UUID{store.NewID()}},
	)
	assert.Contains(t, kindOf(t, err).Faults.Error(), "must be a post of this boat")
	err = w.Safety.SetCarriage(ctx, w.owner, store.NewID(), w.boat, version(), model.CarriageInput{
		Fixed: []model.FixedThing{{Class: "ladder", Name: "ladder", Spot: "masthead"}}})
	assert.Contains(t, kindOf(t, err).Faults.Error(), "spot")
}

// A key that is too long is cut between letters, and two that begin alike stay two lines.
func TestLongNamesMakeLinesThatCanBeTicked(t *testing.T) {
	w := newWorld(t)
	trip := w.trip("out", 1, 1, 2)
	long := w.make(strings.Repeat("🎣", 80), 1, func(*gear.GearInput) {})
	w.aboardIn(long, w.locker)
	today := kernel.DayOf(w.Kernel.Now())
	for _, what := range []string{"one", "two"} {
		_, err := w.Due.AddService(ctx, w.owner, store.NewID(), long.ID, gear.ServiceInput{
			What: strings.Repeat("ü", 77) + what, EveryDays: 1, LastOn: today})
		require.NoError(t, err)
	}
	var keys []string
	for _, s := range w.lists(trip).Stages {
		for _, l := range s.Lines {
			if strings.HasPrefix(l.Text, "🎣") {
				require.NoError(t, w.Lists.Tick(ctx, w.hand, store.NewID(), trip, lists.TickInput{Line: l.Key, Done: true}))
				keys = append(keys, l.Key)
			}
		}
	}
	require.Len(t, keys, 2)
	assert.NotEqual(t, keys[0], keys[1])
	assert.True(t, utf8.ValidString(keys[0]))
	for _, s := range w.lists(trip).Stages {
		for _, l := range s.Lines {
			assert.Equal(t, strings.HasPrefix(l.Text, "🎣"), l.Done, l.Text)
		}
	}
}

func TestABoatsLinkShowsHerBriefUntilItEnds(t *testing.T) {
	w := newWorld(t)
	first, err := w.Brief.MakeLink(ctx, w.owner, w.boat)
	require.NoError(t, err)
	v, err := w.Brief.Held(ctx, first.Token)
	require.NoError(t, err)
	assert.NotEmpty(t, v.Points)
	assert.Empty(t, v.Lacks, "what is not said yet is for the crew")
	second, err := w.Brief.MakeLink(ctx, w.owner, w.boat)
	require.NoError(t, err)
	_, err = w.Brief.Held(ctx, first.Token)
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind, "a new one ends the older")
	require.NoError(t, w.Brief.EndLink(ctx, w.owner, w.boat))
	_, err = w.Brief.Held(ctx, second.Token)
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
}

func TestTheDrillSaysWhoKnowsAndWhereTheyLookFirst(t *testing.T) {
	w := newWorld(t)
	ring := w.listed("ring", "throwable", func(in *gear.GearInput) { in.UsedFrom = "helm" })
	w.aboardIn(ring, w.locker)
	try := func(name string, seconds float64, wrong ...uuid.UUID) {
		require.NoError(
			t,
			w.Brief.Tried(
				ctx,
				w.hand,
				store.NewID(),
				w.boat,
				brief.DrillTry{Name: name, GearID: ring.ID, Seconds: seconds,
					Found: true, Wrong: wrong},
			),
		)
	}
	try("Sune", 4)
	try("Ilse", 12, w.tray)
	try("a guest", 20, w.tray, store.NewID(), w.locker)
	v, err := w.Brief.Drill(ctx, w.owner, w.boat)
	require.NoError(t, err)
	require.Len(t, v.Knows, 3)
	assert.Equal(t, brief.Knows{Name: "Sune", Tries: 1, AtOnce: 1, Seconds: 4}, v.Knows[1])
	require.Len(t, v.Mistaken, 1)
	assert.Equal(
		t,
		[]any{"small tray", "stern locker", 2, 3},
		[]any{v.Mistaken[0].Place, v.Mistaken[0].Lies, v.Mistaken[0].Times,
			v.Mistaken[0].Of},
	)
	require.NoError(t, w.Brief.Forget(ctx, w.owner, w.boat))
	v, err = w.Brief.Drill(ctx, w.owner, w.boat)
	require.NoError(t, err)
	assert.Empty(t, v.Knows)
	err = w.Brief.Tried(ctx, w.hand, store.NewID(), w.boat, brief.DrillTry{Name: "x", GearID: w.cooler.ID, Seconds: 1})
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind, "it is not aboard")
}

// Small things that go along are charged the evening before, and counted against the
// sockets of the crew's chargers, wherever those are.
func TestSmallThingsAreChargedTheEveningBefore(t *testing.T) {
	w := newWorld(t)
	trip := w.trip("night", 1, 1, 2)
	charged := func(name string, count int, change func(*gear.GearInput)) gear.GearView {
		in := gearInput(name, 0.2)
		in.Count = count
		change(&in)
		g, err := w.Gear.SaveGear(ctx, w.owner, store.NewID(), uuid.Nil, 0, in)
		require.NoError(t, err)
		return g
	}
	lamps := charged("headlamps", 3, func(in *gear.GearInput) { in.ChargedBy = "usb" })
	charged("beacon at home", 1, func(in *gear.GearInput) { in.ChargedBy = "usb" })
	w.aboardIn(lamps, w.locker)
	evening := func() string { return strings.Join(texts(stageOf(w.lists(trip), "evening")), "; ") }
	assert.Contains(t, evening(), "Charge: headlamps, 3, USB")
	assert.NotContains(t, evening(), "beacon", "it does not go along")
	assert.Contains(t, evening(), "3 things charge by USB and no sockets are there")
	charged("block", 1, func(in *gear.GearInput) { in.Charges, in.Sockets = "usb", 2 })
	assert.Contains(t, evening(), "3 things charge by USB and 2 sockets are there: begin early, for 2 rounds")
	charged("second block", 1, func(in *gear.GearInput) { in.Charges, in.Sockets = "usb", 1 })
	assert.NotContains(t, evening(), "sockets")

	in := gearInput("AGM", 20)
	in.Chemistry, in.Volts, in.AmpHours = "agm", 12, 90
	battery, err := w.Gear.SaveGear(ctx, w.owner, store.NewID(), uuid.Nil, 0, in)
	require.NoError(t, err)
	require.NoError(t, w.Power.Save(ctx, w.owner, store.NewID(), w.boat, 0, netOf(battery.ID)))
	assert.Contains(t, evening(), "Charge: battery", "the bank of her electrics")
}
