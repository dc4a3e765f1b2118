package app_test

import (
	"bytes"
	"fmt"
	"math"
	"net"
	"strings"
	"testing"
	"time"

	"ergasia/app/aboard"
	"ergasia/app/fleet"
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/kits"
	"ergasia/app/refuse"
	"ergasia/app/trips"
	"ergasia/simulators/scale"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// trip adds a trip that begins in so many days.
func (w *world) trip(name string, in, days int, hours float64) uuid.UUID {
	first := kernel.DayOf(w.Kernel.Now()).Add(in)
	id, err := w.Trips.SaveTrip(ctx, w.owner, store.NewID(), uuid.Nil, 0, trips.TripInput{Name: name, BoatID: &w.boat,
		StartsOn: first, EndsOn: first.Add(days - 1), Persons: 3, Rods: 5, Hours: hours})
	require.NoError(w.t, err)
	return id
}

func TestGearPromisedToTwoTripsAtOnceIsSaidAtOnce(t *testing.T) {
	w := newWorld(t)
	cup, run, later := w.trip("cup", 3, 2, 4), w.trip("cod run", 4, 1, 6), w.trip("evening", 10, 1, 2)
	refused, err := w.Trips.Promise(ctx, w.owner, store.NewID(), cup, []uuid.UUID{w.cooler.ID})
	require.NoError(t, err)
	assert.Empty(t, refused)
	refused, err = w.Trips.Promise(ctx, w.hand, store.NewID(), run, []uuid.UUID{w.cooler.ID, w.chartbox.ID})
	require.NoError(t, err)
	first := kernel.DayOf(w.Kernel.Now()).Add(3)
	assert.Equal(t, []string{fmt.Sprintf("Cooler is promised to cup, %s to %s, by Ilse.", first, first.Add(1))}, refused)
	refused, err = w.Trips.Promise(ctx, w.hand, store.NewID(), later, []uuid.UUID{w.cooler.ID})
	require.NoError(t, err)
	assert.Empty(t, refused, "another week it is free")
	promised, err := w.Trips.Promised(ctx, w.owner, run)
	require.NoError(t, err)
	require.Len(t, promised, 1, "the chart box alone")
	assert.True(t, promised[0].Ready)

	outings, err := w.Trips.Trips(ctx, w.owner)
	require.NoError(t, err)
	in := outings[1].TripInput
	require.Equal(t, "cod run", in.Name)
	in.StartsOn = first.Add(7)
	in.EndsOn = in.StartsOn
	_, err = w.Trips.SaveTrip(ctx, w.owner, store.NewID(), run, 1, in)
	require.NoError(t, err, "its promises move with it")
	refused, err = w.Trips.Promise(ctx, w.owner, store.NewID(), later, []uuid.UUID{w.chartbox.ID})
	require.NoError(t, err)
	assert.Len(t, refused, 1)
	in.StartsOn, in.EndsOn = first, first.Add(9)
	require.NoError(t, second(w.Trips.Promise(ctx, w.owner, store.NewID(), cup, []uuid.UUID{w.chartbox.ID})))
	_, err = w.Trips.SaveTrip(ctx, w.owner, store.NewID(), run, 2, in)
	assert.Contains(t, err.Error(), "is on another trip or lent on those days", "moved onto another's days")
	assert.Equal(t, refuse.Refused, kindOf(t, w.Trips.Loan(ctx, w.owner, store.NewID(), w.cooler.ID,
		trips.LoanInput{Way: "lent", Whom: "Bo"})).Kind, "a loan without an end meets the trip")
	require.NoError(t, w.Trips.Unpromise(ctx, w.owner, cup, w.cooler.ID))
	require.NoError(t, w.Trips.RemoveTrip(ctx, w.owner, later))
	assert.NoError(t, w.Trips.Loan(ctx, w.owner, store.NewID(), w.cooler.ID, trips.LoanInput{Way: "lent", Whom: "Bo"}))
}

func TestLentGearIsAwayUntilItIsBack(t *testing.T) {
	w := newWorld(t)
	require.NoError(t, second(w.to(w.cooler.ID, aboard.MoveInput{PlaceID: &w.locker})))
	soon := kernel.DayOf(w.Kernel.Now()).Add(2)
	require.NoError(t, w.Trips.Loan(ctx, w.owner, store.NewID(), w.cooler.ID, trips.LoanInput{Way: "lent", Whom: "Bo",
		UntilOn: &soon}))
	assert.Equal(t, "lent to Bo", w.spot(w.cooler.ID).Text)
	assert.Zero(t, w.state().Now.GearKg)
	assert.Contains(t, second(w.to(w.cooler.ID, aboard.MoveInput{})).Error(), "note its return first")
	assert.Contains(t, w.Trips.Loan(ctx, w.owner, store.NewID(), w.cooler.ID, trips.LoanInput{Way: "lent",
		Whom: "Una"}).Error(), "is lent to Bo")
	due, err := w.Due.Due(ctx, w.owner)
	require.NoError(t, err)
	require.Len(t, due.Rows, 1)
	assert.Equal(t, "return", due.Rows[0].Kind)
	assert.Equal(t, "2 days left", due.Rows[0].Left)
	d, err := w.Gear.GearOne(ctx, w.owner, w.cooler.ID)
	require.NoError(t, err)
	require.NoError(t, w.Trips.Return(ctx, w.hand, store.NewID(), w.cooler.ID, d.Bookings[0].ID))
	assert.Equal(t, "the quay", w.spot(w.cooler.ID).Text)
	assert.Equal(t, refuse.NotFound, kindOf(t, w.Trips.Return(ctx, w.hand, store.NewID(), w.cooler.ID,
		d.Bookings[0].ID)).Kind)

	require.NoError(t, w.Trips.Loan(ctx, w.owner, store.NewID(), w.cooler.ID, trips.LoanInput{Way: "borrowed",
		Whom: "Una", UntilOn: &soon}))
	assert.Equal(t, "the quay", w.spot(w.cooler.ID).Text, "what is borrowed is here")
	assert.Contains(t, w.Trips.Loan(ctx, w.owner, store.NewID(), w.cooler.ID, trips.LoanInput{Way: "borrowed",
		Whom: "Bo"}).Error(), "borrowed already")
	yesterday := kernel.DayOf(w.Kernel.Now()).Add(-1)
	assert.Contains(t, fmt.Sprint(kindOf(t, w.Trips.Loan(ctx, w.owner, store.NewID(), w.cooler.ID,
		trips.LoanInput{Way: "lent", Whom: "Bo", UntilOn: &yesterday})).Faults), "until_on")
}

func TestAKitSaysWhatIsMissingWornOrInAnotherBoat(t *testing.T) {
	w := newWorld(t)
	other := boatInput()
	other.Name = "Other boat"
	boat, err := w.Fleet.SaveBoat(ctx, w.owner, uuid.Nil, uuid.Nil, 0, other)
	require.NoError(t, err)
	hold, err := w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, boat, uuid.Nil, 0, fleet.PlaceInput{Name: "hold",
		Corner: model.Vec{0.2, -0.3, 0.3}, Size: model.Vec{0.8, 0.6, 0.4}, Dryness: "dry"})
	require.NoError(t, err)
	net := w.make("landing net", 1, small)
	require.NoError(t, second(w.to(net.ID, aboard.MoveInput{PlaceID: &hold})))
	w.make("jig rod", 1, func(in *gear.GearInput) { small(in); in.Tags = []string{"jig rod"}; in.Count = 3 })
	w.make("old jig rod", 1, func(in *gear.GearInput) { small(in); in.Tags = []string{"jig rod"}; in.Condition = "worn" })
	kit := kits.KitInput{Name: "zander, vertical", Sort: "technique", Lines: []model.KitLine{
		{What: "net", Amount: 1, Per: "boat", Choices: []model.KitChoice{{GearID: &net.ID}}},
		{What: "jig rods", Amount: 2, Per: "person", Choices: []model.KitChoice{{Tag: "Jig Rod"}}},
		{What: "camera", Amount: 1, Per: "boat", Nice: true, Choices: []model.KitChoice{{Tag: "camera"}}}}}
	id, err := w.Kits.SaveKit(ctx, w.owner, store.NewID(), uuid.Nil, 0, kit)
	require.NoError(t, err)
	k, err := w.Kits.Kit(ctx, w.owner, id, kits.KitFor{Boat: &w.boat, Persons: 2})
	require.NoError(t, err)
	assert.Equal(t, 2, k.Missing, "the net, and one rod")
	assert.Equal(t, []string{"landing net is in Other boat"}, k.Found[0].Because)
	assert.Equal(t, "landing net", k.Lines[0].Choices[0].Name)
	assert.Equal(t, []int{4, 3, 1}, []int{k.Found[1].Wanted, k.Found[1].Ready, k.Found[1].Missing})
	assert.Equal(t, []string{"old jig rod is worn"}, k.Found[1].Because)
	assert.Equal(t, []string{"the crew has none: camera"}, k.Found[2].Because)
	assert.InDelta(t, 3, k.Kg, 1e-9)

	trip := w.trip("cup", 3, 2, 4)
	k, err = w.Kits.Kit(ctx, w.owner, id, kits.KitFor{Trip: &trip})
	require.NoError(t, err)
	assert.Equal(t, 3, k.Persons)
	assert.Equal(t, 6, k.Found[1].Wanted)
	k, err = w.Kits.Kit(ctx, w.owner, id, kits.KitFor{Boat: &boat, Persons: 1})
	require.NoError(t, err)
	assert.Equal(t, "aboard", k.Found[0].Picks[0].State)
	assert.Equal(t, "Other boat, hold", k.Found[0].Picks[0].Where)
	lists, err := w.Kits.Kits(ctx, w.owner)
	require.NoError(t, err)
	assert.Equal(t, 1, lists[0].Missing, "with no boat chosen the net in the other boat will do")

	for want, spoil := range map[string]func(*kits.KitInput){"lines": func(k *kits.KitInput) { k.Lines = nil },
		"choices[0]": func(k *kits.KitInput) {
			k.Lines = []model.KitLine{{What: "x", Amount: 1, Per: "boat", Choices: []model.KitChoice{{}}}}
		},
		"lines[0].per": func(k *kits.KitInput) {
			k.Lines = []model.KitLine{{What: "x", Amount: 1, Per: "moon", Choices: []model.KitChoice{{Tag: "x"}}}}
		}} {
		bad := kit
		spoil(&bad)
		assert.Contains(t, fmt.Sprint(kindOf(t, second(w.Kits.SaveKit(ctx, w.owner, store.NewID(), uuid.Nil, 0,
			bad))).Faults), want)
	}
	assert.Equal(t, refuse.Conflict, kindOf(t, second(w.Kits.SaveKit(ctx, w.owner, store.NewID(), id, 7, kit))).Kind)
	assert.Equal(t, refuse.Invalid, kindOf(t, second(w.Kits.SaveKit(ctx, w.owner, store.NewID(), uuid.Nil, 0, kit))).Kind,
		"the name is taken")
	require.NoError(t, w.Kits.RemoveKit(ctx, w.owner, id))
}

func TestWhatRunsOutIsToldBeforeTheNextTripAndAfter(t *testing.T) {
	w := newWorld(t)
	today := kernel.DayOf(w.Kernel.Now())
	gone, during := today.Add(-1), today.Add(3)
	w.make("old flare", 1, func(in *gear.GearInput) { small(in); in.ExpiresOn = &gone })
	w.make("new flare", 1, func(in *gear.GearInput) { small(in); in.ExpiresOn = &during })
	w.make("ties", 0.1, func(in *gear.GearInput) { small(in); in.Count, in.RestockAt, in.Shape = 8, 10, "loose" })
	motor := w.make("motor", 10, small)
	require.NoError(t, second(w.to(motor.ID, aboard.MoveInput{PlaceID: &w.locker})))
	require.NoError(t, second(w.Due.AddService(ctx, w.owner, store.NewID(), motor.ID, gear.ServiceInput{What: "oil",
		EveryHours: 5, LastOn: today})))
	assert.Contains(t, fmt.Sprint(kindOf(t, second(w.Due.AddService(ctx, w.owner, store.NewID(), motor.ID,
		gear.ServiceInput{What: "oil", LastOn: today}))).Faults), "say how often")
	w.trip("cup", 3, 2, 4)
	run := w.trip("cod run", 8, 1, 6)
	rows := func() (list []string) {
		due, err := w.Due.Due(ctx, w.owner)
		require.NoError(t, err)
		for _, r := range due.Rows {
			list = append(list, strings.Join([]string{r.When, r.Name, r.What, r.Left, r.Trip}, "|"))
		}
		return list
	}
	assert.Equal(t, []string{"now|old flare|out of date|a day over|", "before|new flare|goes out of date|3 days left|cup",
		"after|motor|oil|5 h left|cod run"}, rows())
	due, err := w.Due.Due(ctx, w.owner)
	require.NoError(t, err)
	require.Len(t, due.Restock, 1)

	text, err := w.Due.CalendarFile(ctx, w.owner)
	require.NoError(t, err)
	assert.Contains(t, string(text), "SUMMARY:Old flare: out of date")
	assert.Contains(t, string(text), "SUMMARY:cup")
	token, err := w.Due.MakeCalendar(ctx, w.owner)
	require.NoError(t, err)
	feed, err := w.Due.Calendar(ctx, token)
	require.NoError(t, err)
	assert.Equal(t, bytes.Count(text, []byte("BEGIN:VEVENT")), bytes.Count(feed, []byte("BEGIN:VEVENT")))
	_, err = w.Due.MakeCalendar(ctx, w.owner)
	require.NoError(t, err)
	assert.Equal(t, refuse.NotFound, kindOf(t, second(w.Due.Calendar(ctx, token))).Kind, "an older address ends")
	assert.Equal(t, refuse.NotFound, kindOf(t, second(w.Due.Calendar(ctx, ""))).Kind)

	assert.Contains(t, w.Trips.LogTrip(ctx, w.owner, store.NewID(), run, trips.LogInput{Version: 1, Hours: 7}).Error(), "has not begun")
	w.Kernel.Now = func() time.Time { return time.Now().AddDate(0, 0, 9) }
	require.NoError(t, w.Trips.LogTrip(ctx, w.owner, store.NewID(), run, trips.LogInput{Version: 1, Hours: 7}))
	assert.Equal(t, refuse.Conflict, kindOf(t, w.Trips.LogTrip(ctx, w.owner, store.NewID(), run, trips.LogInput{Version: 2, Hours: 7})).Kind,
		"logged once")
	d, err := w.Gear.GearOne(ctx, w.owner, motor.ID)
	require.NoError(t, err)
	assert.Equal(t, []float64{7, 1}, []float64{d.Hours, float64(d.Trips)})
	assert.Contains(t, rows(), "now|motor|oil|nothing left|")
	require.NoError(t, w.Due.DoneService(ctx, w.owner, store.NewID(), motor.ID, d.Services[0].ID, 1))
	assert.Contains(t, rows(), "after|motor|oil|5 h left|")
	d, err = w.Gear.GearOne(ctx, w.owner, motor.ID)
	require.NoError(t, err)
	assert.Equal(t, "oil: done", d.Notes[0].Text)
	require.NoError(t, w.Due.RemoveService(ctx, w.owner, motor.ID, d.Services[0].ID))
}

func TestALabelLeadsToWhatItIsOn(t *testing.T) {
	w := newWorld(t)
	shelf := w.shelf("boathouse", "shelf A")
	in := gear.LabelsInput{Sheet: "a4-21", Gear: []uuid.UUID{w.cooler.ID}, Places: []uuid.UUID{w.locker},
		Sheds: []uuid.UUID{shelf}}
	pdf, err := w.Gear.Labels(ctx, w.owner, "http://127.0.0.1:8080/", in)
	require.NoError(t, err)
	assert.True(t, bytes.HasPrefix(pdf, []byte("%PDF")))
	d, err := w.Gear.GearOne(ctx, w.owner, w.cooler.ID)
	require.NoError(t, err)
	require.Len(t, d.Code, 6)
	h, err := w.Gear.Label(ctx, w.hand, strings.ToLower(d.Code))
	require.NoError(t, err)
	assert.Equal(t, gear.Hit{Kind: "gear", ID: w.cooler.ID, Name: "cooler"}, h)
	hits, err := w.Gear.Find(ctx, w.owner, "#"+d.Code)
	require.NoError(t, err)
	assert.Equal(t, w.cooler.ID, hits[0].ID)
	_, err = w.Gear.Labels(ctx, w.owner, "http://127.0.0.1:8080", in)
	require.NoError(t, err)
	again, err := w.Gear.GearOne(ctx, w.owner, w.cooler.ID)
	require.NoError(t, err)
	assert.Equal(t, d.Code, again.Code, "a second print has the same code")
	assert.Equal(t, refuse.NotFound, kindOf(t, second(w.Gear.Label(ctx, w.owner, "ZZZZZZ"))).Kind)
	for _, bad := range []gear.LabelsInput{{Sheet: "a4-21"}, {Sheet: "papyrus", Gear: in.Gear},
		{Sheet: "a4-21", Skip: 21, Gear: in.Gear}} {
		assert.Equal(t, refuse.Invalid, kindOf(t, second(w.Gear.Labels(ctx, w.owner, "http://x", bad))).Kind)
	}
}

// answers plays a scale: a greeting, then the same reading for ever.
func answers(t *testing.T, lines ...string) string {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	t.Cleanup(func() { _ = l.Close() })
	go func() {
		conn, err := l.Accept()
		if err != nil {
			return
		}
		for i := 0; ; i = min(i+1, len(lines)-1) {
			if _, err := fmt.Fprintln(conn, lines[i]); err != nil {
				return
			}
		}
	}()
	return l.Addr().String()
}

func TestTheScaleIsReadAndItsMassKept(t *testing.T) {
	w := newWorld(t)
	assert.False(t, w.Weighing.Weight(0).Connected)
	assert.Contains(t, w.Weighing.Pretend(ctx, w.owner, &w.cooler.ID).Error(), "no simulated scale")
	go w.Weighing.ReadScale(t.Context(), answers(t, "ergasia-scale 1 step=0.02 max=60", "rubbish", "kg NaN", "kg 1e9",
		"kg 4.60"))
	require.Eventually(t, func() bool { return w.Weighing.Weight(0.6).Still }, 5*time.Second, time.Millisecond)
	v := w.Weighing.Weight(0.6)
	assert.InDelta(t, 4, *v.Kg, 1e-9)
	assert.False(t, v.Simulated)

	box, tin := w.make("box", 1, func(in *gear.GearInput) { asBox(in); in.MassKnown = "guess" }),
		w.make("tin", 0.5, func(in *gear.GearInput) { small(in); in.MassKnown = "guess"; in.Count = 2 })
	require.NoError(t, second(w.to(tin.ID, aboard.MoveInput{BoxID: &box.ID})))
	g, err := w.Weighing.Weighed(ctx, w.owner, store.NewID(), box.ID, box.Version, 4)
	require.NoError(t, err)
	assert.Equal(t, []any{3.0, "weighed"}, []any{g.Kg, g.MassKnown}, "what it holds comes off")
	assert.Contains(t, second(w.Weighing.Weighed(ctx, w.owner, store.NewID(), box.ID, g.Version, 0.9)).Error(),
		"weigh it empty")
	g, err = w.Weighing.Weighed(ctx, w.owner, store.NewID(), tin.ID, tin.Version, 0.7)
	require.NoError(t, err)
	assert.InDelta(t, 0.35, g.Kg, 1e-9, "two of them hung together")
}

// A name may have any letter; every paper prints it, with a stand-in at worst.
func TestAnyNameIsPrinted(t *testing.T) {
	w := newWorld(t)
	require.NoError(t, w.change(func(in *aboard.BoatInput) { in.Name = "Dunlin 🎣 餌" }))
	lure := w.make("lure 🐟 \u200d👨\u200d👩\u200d👧", 1, small)
	require.NoError(t, second(w.to(lure.ID, aboard.MoveInput{PlaceID: &w.tray})))
	for name, pdf := range map[string]func() ([]byte, error){
		"sheet":     func() ([]byte, error) { return w.Floating.Sheet(ctx, w.owner, w.boat, "pdf", false) },
		"svg":       func() ([]byte, error) { return w.Floating.Sheet(ctx, w.owner, w.boat, "svg", false) },
		"lid cards": func() ([]byte, error) { return w.Stowing.LidCards(ctx, w.owner, w.boat) },
		"labels": func() ([]byte, error) {
			return w.Gear.Labels(ctx, w.owner, "http://192.168.1.4:8080", gear.LabelsInput{Sheet: "a4-21", Gear: []uuid.UUID{lure.ID}})
		},
	} {
		text, err := pdf()
		require.NoError(t, err, name)
		assert.Greater(t, len(text), 1000, name)
	}
}

func TestTheSimulatedScaleShowsAboutWhatTheListSays(t *testing.T) {
	w := newWorld(t)
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	go func() { _ = scale.New(1, time.Now).Serve(t.Context(), l) }()
	go w.Weighing.ReadScale(t.Context(), l.Addr().String())
	require.Eventually(t, func() bool { return w.Weighing.Weight(0).Simulated }, 5*time.Second, time.Millisecond)
	// hangs waits until it hangs still between two masses, and says at what.
	hangs := func(id *uuid.UUID, low, high float64, why string) float64 {
		require.NoError(t, w.Weighing.Pretend(ctx, w.owner, id))
		var kg float64
		require.Eventually(t, func() bool {
			v := w.Weighing.Weight(0)
			if v.Still {
				kg = *v.Kg
			}
			return v.Still && kg >= low && kg <= high
		}, 20*time.Second, 10*time.Millisecond, why)
		return kg
	}
	box := w.make("box", 4, func(in *gear.GearInput) { asBox(in); in.MassKnown = "guess" })
	var empty float64
	for tries := 0; math.Abs(empty-4) < 0.05 || tries == 0; tries++ { // one in thirty guesses is right by chance
		require.Less(t, tries, 4, "what hangs is what the list says")
		if tries > 0 {
			box = w.make(fmt.Sprint("box ", tries), 4, func(in *gear.GearInput) { asBox(in); in.MassKnown = "guess" })
		}
		empty = hangs(&box.ID, 4*(1-1.5*0.25)-0.1, 4*(1+1.5*0.25)+0.1, "as far off as a guess is")
	}
	ingots := w.make("ingot", 1.5, func(in *gear.GearInput) { small(in); in.Count = 2 })
	require.NoError(t, second(w.to(ingots.ID, aboard.MoveInput{BoxID: &box.ID})))
	hangs(&box.ID, empty+2.9, empty+3.1, "with what it holds")
	hangs(&ingots.ID, 2.85, 3.15, "all of them hang together")
	hangs(nil, -0.1, 0.1, "nothing")
}

func TestWhatMovesTheBoatMostIsWeighedFirst(t *testing.T) {
	w := newWorld(t)
	guess := func(name string, kg float64) gear.GearView {
		return w.make(name, kg, func(in *gear.GearInput) { small(in); in.MassKnown = "guess" })
	}
	light, heavy, ashore := guess("light", 1), guess("heavy", 8), guess("ashore", 40)
	for _, g := range []gear.GearView{light, heavy} {
		require.NoError(t, second(w.to(g.ID, aboard.MoveInput{PlaceID: &w.tray})))
	}
	list, err := w.Weighing.Weighing(ctx, w.owner, w.boat)
	require.NoError(t, err)
	require.Len(t, list, 3, "what was weighed is not in it")
	assert.Equal(t, []uuid.UUID{heavy.ID, light.ID, ashore.ID}, []uuid.UUID{list[0].GearID, list[1].GearID,
		list[2].GearID})
	assert.Greater(t, list[0].Moves, list[1].Moves)
	assert.Zero(t, list[2].Moves)
}
