package app_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"ergasia/app/fleet"
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/ready"
	"ergasia/app/refuse"
	"ergasia/app/safety"
	"ergasia/app/stowing"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// listed is safety equipment of the crew, on the quay.
func (w *world) listed(name, class string, more ...func(*gear.GearInput)) gear.GearView {
	in := gearInput(name, 1)
	in.SafetyClass = class
	for _, m := range more {
		m(&in)
	}
	g, err := w.Gear.SaveGear(ctx, w.owner, store.NewID(), uuid.Nil, 0, in)
	require.NoError(w.t, err)
	return g
}

func goodFor(days int) func(*gear.GearInput) {
	return func(in *gear.GearInput) {
		d := kernel.DayOf(time.Now()).Add(days)
		in.ExpiresOn = &d
	}
}

func fits(low, high float64) func(*gear.GearInput) {
	return func(in *gear.GearInput) { in.FitsLow, in.FitsHigh = low, high }
}

func (w *world) check(trip uuid.UUID) safety.CheckView {
	v, err := w.Safety.Check(ctx, w.owner, trip)
	require.NoError(w.t, err)
	return v
}

func (w *world) rule(trip uuid.UUID, what string) safety.RowView {
	for _, r := range w.check(trip).Rows {
		if r.What == what {
			return r
		}
	}
	w.t.Fatalf("no rule %s", what)
	return safety.RowView{}
}

func (w *world) aboardIn(g gear.GearView, place uuid.UUID) {
	_, err := w.put(w.owner, g, &place)
	require.NoError(w.t, err)
}

func TestARuleIsMetByWhatLiesAboardAndInTime(t *testing.T) {
	w := newWorld(t)
	trip := w.trip("out", 1, 1, 2)
	ring := w.listed("ring", "throwable")
	row := w.rule(trip, "throwable device")
	assert.Equal(t, "short", row.Status)
	require.NotEmpty(t, row.Settle)
	assert.Equal(t, "promise", row.Settle[0].Kind, "it waits on the quay")
	assert.Equal(t, ring.ID, *row.Settle[0].GearID)
	assert.Equal(t, "buy", row.Settle[len(row.Settle)-1].Kind)

	_, err := w.Trips.Promise(ctx, w.owner, store.NewID(), trip, []uuid.UUID{ring.ID})
	require.NoError(t, err)
	assert.Equal(t, "met", w.rule(trip, "throwable device").Status, "promised is along")

	w.aboardIn(ring, w.locker)
	row = w.rule(trip, "throwable device")
	require.Len(t, row.By, 1)
	require.NotNil(t, row.By[0].Seconds)
	assert.Equal(t, "stern locker", row.By[0].Where)
}

func TestWhatIsTooSlowIsMovedToWhereTheHandIs(t *testing.T) {
	w := newWorld(t)
	trip := w.trip("out", 1, 1, 2)
	far, err := w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, uuid.Nil, 0, placeFar())
	require.NoError(t, err)
	ext := w.listed("extinguisher", "extinguisher 5-B", func(in *gear.GearInput) { in.UsedFrom = "helm" })
	w.aboardIn(ext, far)
	row := w.rule(trip, "fire extinguisher")
	require.Equal(t, "slow", row.Status, row.Why)
	require.Equal(t, "move", row.Settle[0].Kind)
	w.aboardIn(ext, *row.Settle[0].PlaceID)
	assert.Equal(t, "met", w.rule(trip, "fire extinguisher").Status)
}

func TestTheLastDayOfTheTripDecides(t *testing.T) {
	w := newWorld(t)
	trip := w.trip("out", 5, 6, 2)
	kit := w.listed("first aid", "first aid", goodFor(9))
	w.aboardIn(kit, w.tray)
	assert.Equal(t, "expired", w.rule(trip, "first-aid kit").Status, "it is good until the day before the last")
	fresh := w.listed("first aid, new", "first aid", goodFor(10))
	row := w.rule(trip, "first-aid kit")
	require.NotEmpty(t, row.Settle)
	assert.Equal(t, fresh.ID, *row.Settle[0].GearID, "what is in date is offered")
	lines := w.page(trip).Lines
	assert.True(t, hasLine(lines, "safe first-aid kit"), "the verdict tells of it")
	assert.False(t, hasLine(lines, "expiry "+kit.ID.String()), "and tells it once")
}

func TestAJacketIsOfTheirSize(t *testing.T) {
	w := newWorld(t)
	trip := w.trip("out", 1, 1, 2)
	people := []model.TripPerson{{ID: store.NewID(), Name: "big", Kg: 120, Role: "skipper"},
		{ID: store.NewID(), Name: "small", Kg: 28, Age: 9, Role: "child"}}
	_, err := w.Trips.SaveParty(ctx, w.owner, store.NewID(), trip, w.tripVersion(trip), people)
	require.NoError(t, err)
	jackets := w.listed("jackets", "lifejacket", fits(40, 130), func(in *gear.GearInput) { in.Count = 2 })
	w.aboardIn(jackets, w.locker)
	row := w.rule(trip, "wearable lifejackets")
	assert.Equal(t, "size", row.Status)
	assert.Contains(t, row.Why, "small")
	child := w.listed("child's jacket", "lifejacket", fits(15, 40))
	row = w.rule(trip, "wearable lifejackets")
	require.NotEmpty(t, row.Settle)
	assert.Equal(t, child.ID, *row.Settle[0].GearID)
	w.aboardIn(child, w.tray)
	assert.Equal(t, "met", w.rule(trip, "wearable lifejackets").Status)
	worn := w.rule(trip, "lifejackets worn by children")
	assert.Equal(t, []string{"small"}, worn.Wear)
}

func TestWhatIsBrokenIsNotAboard(t *testing.T) {
	w := newWorld(t)
	trip := w.trip("out", 1, 1, 2)
	w.aboardIn(w.listed("ring", "throwable", func(in *gear.GearInput) { in.Condition = "broken" }), w.locker)
	assert.Equal(t, "short", w.rule(trip, "throwable device").Status)
}

func TestACrewsPackChangesWhatIsAskedAndSaysForWhom(t *testing.T) {
	w := newWorld(t)
	trip := w.trip("out", 1, 1, 2)
	w.aboardIn(w.listed("ring", "throwable"), w.locker)
	rules, err := w.Safety.Rules(ctx, w.owner)
	require.NoError(t, err)
	require.NoError(t, w.Safety.ChoosePacks(ctx, w.owner, store.NewID(), rules.Version, "", []string{"prudent-coastal"}))
	body := `{"name":"ours","title":"Ours","inherits":["prudent-coastal"],"rules":[{"id":"throwable","what":"throwable device",
		"need":[{"class":["throwable"],"count":2}],"source":"our own","why":"we lost one"}]}`
	_, err = w.Safety.SavePack(ctx, w.owner, store.NewID(), uuid.Nil, 0, body)
	require.NoError(t, err)
	require.NoError(t, w.Safety.ChoosePacks(ctx, w.owner, store.NewID(), 1, "", []string{"ours"}))
	assert.Equal(t, "short", w.rule(trip, "throwable device").Status)

	pack := w.pack("ours")
	assert.True(t, pack.Own && pack.On)
	require.Len(t, pack.Changes, 1)
	assert.Equal(t, "we lost one", pack.Changes[0].Why)
	said, err := w.Safety.SavePack(ctx, w.owner, store.NewID(), *pack.ID, pack.Version, strings.Replace(body, `"count":2`, `"count":1`, 1))
	require.NoError(t, err)
	assert.Equal(t, []string{"out: throwable device was missing, is met."}, said)
	pack = w.pack("ours")
	require.Len(t, pack.History, 2)
	assert.Equal(t, said, pack.History[0].Said)
	assert.Equal(t, "Ilse", pack.History[0].By)

	_, err = w.Safety.SavePack(ctx, w.owner, store.NewID(), *pack.ID, 1, body)
	assert.Equal(t, refuse.Conflict, kindOf(t, err).Kind, "stale")
}

func (w *world) pack(name string) safety.PackView {
	v, err := w.Safety.Rules(ctx, w.owner)
	require.NoError(w.t, err)
	for _, p := range v.Packs {
		if p.Name == name {
			return p
		}
	}
	w.t.Fatalf("no pack %s", name)
	return safety.PackView{}
}

func TestABrokenPackIsRefusedAndNothingIsKept(t *testing.T) {
	w := newWorld(t)
	save := func(id uuid.UUID, version int, body string) error {
		_, err := w.Safety.SavePack(ctx, w.owner, store.NewID(), id, version, body)
		return err
	}
	require.NoError(t, save(uuid.Nil, 0, `{"name":"a","title":"A","rules":[]}`))
	require.NoError(t, save(uuid.Nil, 0, `{"name":"b","title":"B","inherits":["a"],"rules":[]}`))
	a := w.pack("a")
	for body, says := range map[string]string{
		`{"name":"a","title":"A","inherits":["b"],"rules":[]}`:                 "goes in a circle",
		`{"name":"z","title":"A","rules":[]}`:                                  "must stay a",
		`{"name":"a","title":"A","rules":[{"id":"x"}]}`:                        "rules[0].need",
		`{"name":"a","title":"A","rules":[{"ident":"x"}]}`:                     "is no field of a pack",
		`{"name":"a","title":"A","drops":[{"rule":"r","why":"w"}],"rules":[]}`: "must be a rule that the pack inherits",
	} {
		err := save(*a.ID, a.Version, body)
		assert.Contains(t, kindOf(t, err).Faults.Error(), says)
	}
	assert.Contains(t, kindOf(t, save(uuid.Nil, 0, `{"name":"night","title":"N","rules":[]}`)).Faults.Error(), "comes with the program")
	assert.Contains(t, kindOf(t, save(uuid.Nil, 0, `{"name":"a","title":"N","rules":[]}`)).Faults.Error(), "is taken")
	assert.Equal(t, a.Body, w.pack("a").Body)
	assert.Equal(t, refuse.Refused, kindOf(t, w.Safety.RemovePack(ctx, w.owner, *a.ID)).Kind, "b inherits it")
	b := w.pack("b")
	require.NoError(t, w.Safety.RemovePack(ctx, w.owner, *b.ID))
	require.NoError(t, w.Safety.RemovePack(ctx, w.owner, *a.ID))
	w.undo()
	assert.Equal(t, *a.ID, *w.pack("a").ID, "taken back")
}

func TestAPlanKeepsWhatIsForNeedInReach(t *testing.T) {
	w := newWorld(t)
	far, err := w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, uuid.Nil, 0, placeFar())
	require.NoError(t, err)
	ring := w.listed("ring", "throwable", func(in *gear.GearInput) { in.UsedFrom = "helm" })
	w.aboardIn(ring, far)
	plan, err := w.Stowing.Plan(ctx, w.owner, w.boat, stowing.PlanInput{School: "use"})
	require.NoError(t, err)
	moved := false
	for _, m := range plan.Moves {
		moved = moved || m.GearID == ring.ID && m.PlaceID != nil && *m.PlaceID != far
	}
	assert.True(t, moved, "5 s to the throwable is a hard limit")
}

func TestPapersAreThoseOfBoatPeopleAndWater(t *testing.T) {
	w := newWorld(t)
	trip := w.trip("out", 2, 3, 2)
	w.partyOf(trip, &w.post)
	in := func(days int) *kernel.Date { d := kernel.DayOf(time.Now()).Add(days); return &d }
	save := func(p safety.PaperInput) uuid.UUID {
		id, err := w.Safety.SavePaper(ctx, w.owner, store.NewID(), uuid.Nil, 0, p)
		require.NoError(t, err)
		return id
	}
	save(safety.PaperInput{Name: "insurance", Kind: "insurance", Asked: 2, ExpiresOn: in(400)})
	save(safety.PaperInput{Name: "registration", Kind: "registration", Asked: 1, BoatID: &w.boat})
	card := save(safety.PaperInput{Name: "lake card", Kind: "licence", Asked: 3, MemberID: &w.owner.Member, Waters: []string{"Tverrin"},
		ExpiresOn: in(1)})
	names := func() (list []string) {
		for _, p := range w.check(trip).Papers {
			list = append(list, p.Name+" "+p.State)
		}
		return list
	}
	assert.Equal(t, []string{"registration good", "insurance good"}, names(), "the card is of another water")
	w.onWater(trip, "Tverrin, east reeds")
	assert.Equal(t, []string{"registration good", "insurance good", "lake card out"}, names())
	assert.True(t, hasLine(w.page(trip).Lines, "paper lake card Ilse"))
	require.NoError(t, w.Safety.RemovePaper(ctx, w.owner, card))
	assert.Len(t, names(), 2)
	w.undo()
	assert.Len(t, names(), 3)
	_, err := w.Safety.SavePaper(ctx, w.owner, store.NewID(), uuid.Nil, 0, safety.PaperInput{Name: "x", Kind: "licence",
		BoatID: &w.boat, MemberID: &w.owner.Member})
	assert.Contains(t, kindOf(t, err).Faults.Error(), "not of both")
}

func TestWhatIsBuiltInCounts(t *testing.T) {
	w := newWorld(t)
	trip := w.trip("out", 1, 1, 2)
	assert.Equal(t, "short", w.rule(trip, "bilge pump or bailer").Status)
	v, err := w.Fleet.Boat(ctx, w.owner, w.boat)
	require.NoError(t, err)
	in := model.CarriageInput{PowerKW: 40, Fixed: []model.FixedThing{{Class: "bilge pump", Name: "pump", Where: "stern"}}}
	require.NoError(t, w.Safety.SetCarriage(ctx, w.owner, store.NewID(), w.boat, v.Version, in))
	assert.Equal(t, "met", w.rule(trip, "bilge pump or bailer").Status)
	assert.Equal(t, refuse.Conflict, kindOf(t, w.Safety.SetCarriage(ctx, w.owner, store.NewID(), w.boat, v.Version, in)).Kind)
	in.Fixed = append(in.Fixed, in.Fixed[0], model.FixedThing{Class: "cannon", Name: "gun", Expires: "soon"})
	said := kindOf(t, w.Safety.SetCarriage(ctx, w.owner, store.NewID(), w.boat, v.Version+1, in)).Faults.Error()
	assert.Contains(t, said, "fixed[1].name")
	assert.Contains(t, said, "fixed[2].class")
	assert.Contains(t, said, "fixed[2].expires_on is \"soon\": must be a date")
	page, err := w.Safety.Boat(ctx, w.owner, w.boat)
	require.NoError(t, err)
	assert.Len(t, page.Pieces, 1)
	assert.NotEmpty(t, page.Gaps, "of the trip that is next")
}

func TestATripIsWhatSomebodySaidItIs(t *testing.T) {
	w := newWorld(t)
	trip := w.trip("out", 1, 1, 2)
	night := true
	require.NoError(t, w.Safety.SetTripRules(ctx, w.owner, store.NewID(), trip, w.tripVersion(trip),
		model.TripRules{Water: "offshore", Night: &night, Use: "hire", Country: "US"}))
	v := w.check(trip)
	assert.Equal(t, []any{"offshore", "hire", true, "US"}, []any{v.Water, v.Use, v.Night, v.Country})
	err := w.Safety.SetTripRules(ctx, w.owner, store.NewID(), trip, w.tripVersion(trip), model.TripRules{Water: "wet", Country: "usa"})
	assert.Len(t, kindOf(t, err).Faults, 2)
}

func TestAPackReadsBackAsTheFileItIs(t *testing.T) {
	w := newWorld(t)
	for _, p := range mustRules(w).Packs {
		assert.True(t, json.Valid([]byte(p.Body)), p.Name)
		assert.NotEmpty(t, p.Rules, p.Name)
	}
}

func mustRules(w *world) safety.RulesView {
	v, err := w.Safety.Rules(ctx, w.owner)
	require.NoError(w.t, err)
	return v
}

// placeFar is one that a hand is long in coming to: locked, with a lid that is taken off.
func placeFar() fleet.PlaceInput {
	return fleet.PlaceInput{Name: "bow locker", Corner: model.Vec{3.6, -0.3, 0.3}, Size: model.Vec{0.6, 0.6, 0.4}, Dryness: "dry",
		MaxKg: 40, Lid: "lift-off", Latched: true, Locks: true}
}

func hasLine(lines []ready.VerdictLine, key string) bool {
	return slices.ContainsFunc(lines, func(l ready.VerdictLine) bool { return strings.HasPrefix(l.Key, key) })
}

// undo takes the owner's last stroke back.
func (w *world) undo() {
	last, err := w.Undoing.Last(ctx, w.owner)
	require.NoError(w.t, err)
	_, err = w.Undoing.Undo(ctx, w.owner, store.NewID(), last.Undoable.ID)
	require.NoError(w.t, err)
}

// onWater says where a trip goes.
func (w *world) onWater(trip uuid.UUID, water string) {
	list, err := w.Trips.Trips(ctx, w.owner)
	require.NoError(w.t, err)
	for _, t := range list {
		if t.ID == trip {
			t.Water = water
			_, err := w.Trips.SaveTrip(ctx, w.owner, store.NewID(), trip, t.Version, t.TripInput)
			require.NoError(w.t, err)
		}
	}
}

func TestAGuestOfTheCrewLearnsNoMassesAndNoPapers(t *testing.T) {
	w := newWorld(t)
	trip := w.trip("out", 1, 1, 2)
	people := []model.TripPerson{{ID: store.NewID(), Name: "big", Kg: 137, Role: "skipper"}}
	_, err := w.Trips.SaveParty(ctx, w.owner, store.NewID(), trip, w.tripVersion(trip), people)
	require.NoError(t, err)
	w.aboardIn(w.listed("jacket", "lifejacket", fits(40, 90)), w.tray)
	last := kernel.DayOf(w.Kernel.Now()).Add(-3)
	_, err = w.Safety.SavePaper(ctx, w.owner, store.NewID(), uuid.Nil, 0, safety.PaperInput{Name: "blue book", Kind: "registration",
		BoatID: &w.boat, ExpiresOn: &last})
	require.NoError(t, err)
	said := func(actor kernel.Actor) string {
		v, err := w.Safety.Check(ctx, actor, trip)
		require.NoError(t, err)
		text, err := json.Marshal(v)
		require.NoError(t, err)
		ready, err := w.Ready.Page(ctx, actor, trip)
		require.NoError(t, err)
		lists, err := w.Lists.Lists(ctx, actor, trip)
		require.NoError(t, err)
		return string(text) + fmt.Sprintf("%+v %+v", ready.Lines, lists.Stages)
	}
	guest := w.join("Tove", kernel.Guest)
	assert.Contains(t, said(w.owner), "137 kg")
	assert.NotContains(t, said(guest), "137 kg")
	assert.Contains(t, said(w.hand), "blue book")
	for _, name := range []string{"blue book", "Blue book"} {
		assert.NotContains(t, said(guest), name)
	}
}
