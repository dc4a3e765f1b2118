package app_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/shed"
	"ergasia/app/trips"
	"ergasia/app/where"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// make adds gear.
func (w *world) make(name string, kg float64, change func(*gear.GearInput)) gear.GearView {
	in := gearInput(name, kg)
	if change != nil {
		change(&in)
	}
	g, err := w.Gear.SaveGear(ctx, w.owner, store.NewID(), uuid.Nil, 0, in)
	require.NoError(w.t, err)
	return g
}

func asBox(in *gear.GearInput) {
	in.Size, in.Inside, in.Turn = model.Vec{0.4, 0.3, 0.3}, model.Vec{0.38, 0.28, 0.28}, "any"
}

func small(in *gear.GearInput) { in.Size, in.Turn = model.Vec{0.1, 0.1, 0.05}, "any" }

func (w *world) spot(id uuid.UUID) where.Spot {
	where, err := w.Where.Where(ctx, w.owner, id)
	require.NoError(w.t, err)
	return where.Spot
}

// to moves gear from where it is.
func (w *world) putGear(who kernel.Actor, key, id uuid.UUID, in aboard.MoveInput) (where.Moved, error) {
	in.GearID = &id
	return w.Where.MoveGear(ctx, who, key, in)
}

func (w *world) to(id uuid.UUID, in aboard.MoveInput) (where.Moved, error) {
	in.Version = w.spot(id).Version
	return w.putGear(w.owner, store.NewID(), id, in)
}

func (w *world) shelf(site, name string) uuid.UUID {
	id, err := w.Shed.SaveShed(ctx, w.owner, store.NewID(), uuid.Nil, 0, shed.ShedInput{Site: site, Name: name,
		Dryness: "wet", MaxKg: 20})
	require.NoError(w.t, err)
	return id
}

func TestABoxMovesWholeAndShowsWhatIsInItAndItsMass(t *testing.T) {
	w := newWorld(t)
	box, tin := w.make("box", 1, asBox), w.make("tin", 0.5,
		func(in *gear.GearInput) { small(in); in.Inside = model.Vec{0.09, 0.09, 0.04} })
	hooks := w.make("hooks", 0.25, func(in *gear.GearInput) { in.Size, in.Turn = model.Vec{0.05, 0.05, 0.02}, "any" })
	_, err := w.to(hooks.ID, aboard.MoveInput{BoxID: &tin.ID})
	require.NoError(t, err)
	_, err = w.to(tin.ID, aboard.MoveInput{BoxID: &box.ID})
	require.NoError(t, err)
	before := w.state().Now
	answer, err := w.to(box.ID, aboard.MoveInput{PlaceID: &w.locker})
	require.NoError(t, err)
	assert.Equal(t, "Test boat, stern locker", answer.Spot.Text)

	assert.Equal(t, "Test boat, stern locker, in box, in tin", w.spot(hooks.ID).Text)
	assert.InDelta(t, before.GearKg+1.75, w.state().Now.GearKg, 1e-9, "the boat carries the box with all that it holds")
	d, err := w.Gear.GearOne(ctx, w.owner, box.ID)
	require.NoError(t, err)
	assert.Equal(t, 2, d.Holds)
	assert.InDelta(t, 1.75, d.TotalKg, 1e-9)
	require.Len(t, d.Holdings, 1, "directly in it is the tin alone")
	assert.InDelta(t, 0.75, d.Holdings[0].TotalKg, 1e-9)

	_, err = w.Where.Undo(ctx, w.owner, store.NewID(), w.boat)
	require.NoError(t, err)
	assert.Equal(t, "the quay, in box, in tin", w.spot(hooks.ID).Text, "undone with it")
	_, err = w.Where.Redo(ctx, w.owner, store.NewID(), w.boat)
	require.NoError(t, err)
	shelf := w.shelf("boathouse", "shelf A")
	_, err = w.to(box.ID, aboard.MoveInput{ShedID: &shelf})
	require.NoError(t, err)
	assert.Equal(t, "boathouse, shelf A, in box, in tin", w.spot(hooks.ID).Text)
	require.NoError(t, w.Gear.RemoveGear(ctx, w.owner, box.ID))
	assert.Equal(t, "boathouse, shelf A, in tin", w.spot(hooks.ID).Text, "what a box held stays where it was")
}

func TestBoxesRefuseWhatCannotBe(t *testing.T) {
	w := newWorld(t)
	box, tin := w.make("box", 1, asBox), w.make("tin", 0.5,
		func(in *gear.GearInput) { small(in); in.Inside = model.Vec{0.09, 0.09, 0.04} })
	brick := w.make("brick", 59.8, small)
	require.NoError(t, second(w.to(tin.ID, aboard.MoveInput{BoxID: &box.ID})))
	refuse := func(sentence string, id uuid.UUID, in aboard.MoveInput) {
		was := w.spot(id)
		_, err := w.to(id, in)
		assert.Contains(t, fmt.Sprint(err, kindOf(t, err).Details), sentence)
		assert.Equal(t, was, w.spot(id))
	}
	refuse("can't go into itself", box.ID, aboard.MoveInput{BoxID: &box.ID})
	refuse("can't go into itself, or into what it holds", box.ID, aboard.MoveInput{BoxID: &tin.ID})
	refuse("holds nothing", tin.ID, aboard.MoveInput{BoxID: &brick.ID})
	refuse("is 40 x 30 x 30 cm", w.cooler.ID, aboard.MoveInput{BoxID: &box.ID})
	refuse("There is no such box", tin.ID, aboard.MoveInput{BoxID: new(store.NewID())})
	pair := w.make("pair", 1, func(in *gear.GearInput) { asBox(in); in.Count = 2 })
	refuse("split one off", tin.ID, aboard.MoveInput{BoxID: &pair.ID})
	require.NoError(t, second(w.to(box.ID, aboard.MoveInput{PlaceID: &w.locker})))
	refuse("carries 60.0 kg at most; with brick it would hold 61.3 kg", brick.ID, aboard.MoveInput{BoxID: &box.ID})
	papers := w.make("papers", 0.1, func(in *gear.GearInput) { small(in); in.NeedsDry = true })
	refuse("neither keeps water out nor is in a dry place", papers.ID, aboard.MoveInput{BoxID: &box.ID})
	change := box.GearInput
	change.KeepsDry = true
	_, err := w.Gear.SaveGear(ctx, w.owner, store.NewID(), box.ID, box.Version, change)
	require.NoError(t, err)
	assert.NoError(t, second(w.to(papers.ID, aboard.MoveInput{BoxID: &box.ID})),
		"a sealed box in a wet locker keeps papers")
	change.Inside = model.Vec{}
	_, err = w.Gear.SaveGear(ctx, w.owner, store.NewID(), box.ID, box.Version+1, change)
	assert.Contains(t, err.Error(), "holds 2 things: empty it")
	change.Inside, change.Count = box.Inside, 2
	_, err = w.Gear.SaveGear(ctx, w.owner, store.NewID(), box.ID, box.Version+1, change)
	assert.ErrorContains(t, err, "holds 2 things: empty it", "of two nobody knows which holds them")
	assert.ErrorContains(t, second(w.to(papers.ID, aboard.MoveInput{BoxID: &box.ID, ShedID: new(store.NewID())})),
		"not right", "one spot at a time")
}

func second[T any](_ T, err error) error { return err }

func TestWhatAPersonCarriesIsWhereTheyAre(t *testing.T) {
	w := newWorld(t)
	vest := w.make("vest", 2, small)
	require.NoError(t, second(w.to(vest.ID, aboard.MoveInput{HolderID: &w.hand.Member})))
	assert.Zero(t, w.state().Now.GearKg, "Sune is ashore, and so is his vest")
	at := w.post
	_, err := w.Where.Move(ctx, w.owner, store.NewID(), w.boat, aboard.MoveInput{MemberID: &w.hand.Member, PostID: &at})
	require.NoError(t, err)
	assert.InDelta(t, 2, w.state().Now.GearKg, 1e-9)
	assert.Equal(t, "with Sune", w.spot(vest.ID).Text)
	require.NoError(t, w.Kernel.In(ctx, w.owner, func(tx *store.Tx) error {
		s, err := w.Where.Laden(tx, w.owner, w.boat)
		require.NoError(t, err)
		assert.InDelta(t, 82, s.Dressed()[0].Body.Kg, 1e-9, "it walks with them in the crew tests")
		return nil
	}))
}

// Whether a thing fits is said of a shelf that someone measured, and of no other.
func TestAShelfThatWasMeasuredSaysWhatIsTooLarge(t *testing.T) {
	w := newWorld(t)
	measured, err := w.Shed.SaveShed(ctx, w.owner, store.NewID(), uuid.Nil, 0, shed.ShedInput{Site: "van", Name: "box",
		Dryness: "dry", Size: model.Vec{0.2, 0.2, 0.2}})
	require.NoError(t, err)
	there, err := w.to(w.cooler.ID, aboard.MoveInput{ShedID: &measured})
	require.NoError(t, err)
	require.Len(t, there.Said, 1)
	assert.Contains(t, there.Said[0], "cooler is")
	free := w.shelf("boathouse", "floor")
	there, err = w.to(w.cooler.ID, aboard.MoveInput{ShedID: &free})
	require.NoError(t, err)
	require.Len(t, there.Said, 1)
	assert.Contains(t, there.Said[0], "carries 20.0 kg at most", "but not that it is too large")
}

func TestAMoveSaysWhoAndWhenAndCanBeTakenBack(t *testing.T) {
	w := newWorld(t)
	shelf := w.shelf("van", "drawer 2")
	answer, err := w.to(w.chartbox.ID, aboard.MoveInput{ShedID: &shelf})
	require.NoError(t, err)
	assert.Contains(t, answer.Said[0], "must stay dry, and van, drawer 2 gets wet", "said, not refused")
	_, err = w.putGear(w.hand, store.NewID(), w.chartbox.ID, aboard.MoveInput{Version: 0})
	refusal := kindOf(t, err)
	assert.Equal(t, refuse.Conflict, refusal.Kind, "the mover saw an older state")
	assert.Equal(t, "van, drawer 2", refusal.State.(where.Spot).Text)
	back := answer.Back
	_, err = w.putGear(w.hand, store.NewID(), w.chartbox.ID, back)
	require.NoError(t, err)
	at, err := w.Where.Where(ctx, w.owner, w.chartbox.ID)
	require.NoError(t, err)
	assert.Equal(t, "quay", at.Spot.Kind)
	require.Len(t, at.Trail, 2)
	assert.Equal(t, []string{"Sune", "the quay"}, []string{at.Trail[0].By, at.Trail[0].Text})
	assert.Equal(t, []string{"Ilse", "van, drawer 2"}, []string{at.Trail[1].By, at.Trail[1].Text})
	assert.Equal(t, refuse.Refused, kindOf(t, func() error {
		require.NoError(t, second(w.to(w.chartbox.ID, aboard.MoveInput{ShedID: &shelf})))
		return w.Shed.RemoveShed(ctx, w.owner, shelf)
	}()).Kind, "things are kept there")
	key := store.NewID()
	in := aboard.MoveInput{Version: w.spot(w.chartbox.ID).Version}
	require.NoError(t, second(w.putGear(w.owner, key, w.chartbox.ID, in)))
	require.NoError(t, second(w.putGear(w.owner, key, w.chartbox.ID, in)), "a repeat changes nothing")
	assert.NoError(t, w.Shed.RemoveShed(ctx, w.owner, shelf))
}

func TestAThingAboardIsTellableInWords(t *testing.T) {
	w := newWorld(t)
	a, b := w.make("a", 1, func(in *gear.GearInput) { in.Size, in.Turn = model.Vec{0.35, 0.55, 0.1}, "none" }),
		w.make("b", 1, func(in *gear.GearInput) { in.Size, in.Turn = model.Vec{0.35, 0.55, 0.1}, "none" })
	net := w.make("net", 0.5, func(in *gear.GearInput) {
		in.Size, in.Turn, in.Shape = model.Vec{0.75, 0.5, 0.05}, "none",
			"soft"
	})
	for _, g := range []gear.GearView{a, b, net} {
		require.NoError(t, second(w.to(g.ID, aboard.MoveInput{PlaceID: &w.locker})))
	}
	where, err := w.Where.Where(ctx, w.owner, a.ID)
	require.NoError(t, err)
	assert.Regexp(t, `^Test boat, stern locker, first box from the ste(m|rn), under net$`, where.Sentence)
	assert.Equal(t, []string{"reach into stern locker", "lift off net"}, where.Way)
	require.Len(t, where.Box, 1)
	assert.InDelta(t, 0.35, where.Box[0].Size[0], 1e-9)
	_, err = w.Where.Where(ctx, w.owner, store.NewID())
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
}

func TestAnotherCrewsGearCannotBeReached(t *testing.T) {
	w := newWorld(t)
	crew, una, err := w.Crew.Found(ctx, "Others", "Una", "una", password)
	require.NoError(t, err)
	other := kernel.Actor{Crew: crew, Member: una, Role: kernel.Owner}
	shelf := w.shelf("boathouse", "shelf A")
	theirs, err := w.Gear.SaveGear(ctx, other, uuid.Nil, uuid.Nil, 0, gearInput("theirs", 1))
	require.NoError(t, err)
	for name, err := range map[string]error{
		"read":  second(w.Gear.GearOne(ctx, other, w.cooler.ID)),
		"where": second(w.Where.Where(ctx, other, w.cooler.ID)),
		"move":  second(w.putGear(other, uuid.Nil, w.cooler.ID, aboard.MoveInput{})),
		"shelf": second(w.putGear(other, uuid.Nil, theirs.ID, aboard.MoveInput{ShedID: &shelf})),
		"place": second(w.putGear(other, uuid.Nil, theirs.ID, aboard.MoveInput{PlaceID: &w.locker})),
		"lend":  w.Trips.Loan(ctx, other, uuid.Nil, w.cooler.ID, trips.LoanInput{Way: "lent", Whom: "x"}),
		"note":  w.Gear.AddNote(ctx, other, uuid.Nil, w.cooler.ID, gear.NoteInput{Kind: "seen"}),
		"many":  w.Gear.ChangeMany(ctx, other, uuid.Nil, gear.BulkInput{Gear: []uuid.UUID{w.cooler.ID}, AddTag: "mine"}),
		"label": second(w.Gear.Labels(ctx, other, "http://x", gear.LabelsInput{Sheet: "a4-21",
			Gear: []uuid.UUID{w.cooler.ID}})),
		"spare": second(w.Gear.SaveGear(ctx, other, uuid.Nil, uuid.Nil, 0,
			func() gear.GearInput { in := gearInput("x", 1); in.SparesFor = &w.cooler.ID; return in }())),
		"split": second(w.Gear.SplitGear(ctx, other, uuid.Nil, w.cooler.ID, 1, 1)),
		"weigh": second(w.Weighing.Weighed(ctx, other, uuid.Nil, w.cooler.ID, 1, 1)),
	} {
		assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind, name)
	}
	hits, err := w.Gear.Find(ctx, other, "cooler")
	require.NoError(t, err)
	assert.Empty(t, hits)
}

func TestWhatIsSaidOfGearComesBack(t *testing.T) {
	w := newWorld(t)
	cost, expires := 129.5, kernel.DayOf(w.Kernel.Now()).Add(300)
	in := gear.GearInput{Name: "flares", Nickname: "bangers", Tags: []string{"Safety", "sea  trout", "safety"},
		OwnerID: &w.hand.Member, Shape: "soft", Size: model.Vec{0.3, 0.1, 0.1},
		UseSize: model.Vec{0.3, 0.1, 0.5}, Kg: 1.2, MassKnown: "plate", Count: 3, RestockAt: 2, NeedsDry: true,
		Fragile: true, Metal: true, Buoyant: true, Hazards: []string{"flares"},
		Turn: "any", Serial: "S-1", Cost: &cost, ExpiresOn: &expires, Condition: "worn", SparesFor: &w.cooler.ID,
		Uses: &cost, UsedFrom: "helm", SafetyClass: "throwable", SafetyAlso: []string{"lifejacket"}, FitsLow: 40, FitsHigh: 110,
		WornBy: &w.hand.Member, Registration: "R-7"}
	g, err := w.Gear.SaveGear(ctx, w.owner, store.NewID(), uuid.Nil, 0, in)
	require.NoError(t, err)
	in.Tags = []string{"safety", "sea trout"}
	d, err := w.Gear.GearOne(ctx, w.owner, g.ID)
	require.NoError(t, err)
	assert.Equal(t, in, d.GearInput)
	of, err := w.Gear.GearOne(ctx, w.owner, w.cooler.ID)
	require.NoError(t, err)
	require.Len(t, of.Spares, 1)

	change := d.GearInput
	change.Condition, change.Count, change.Kg = "broken", 1, 1.3
	_, err = w.Gear.SaveGear(ctx, w.hand, store.NewID(), g.ID, g.Version, change)
	require.NoError(t, err)
	d, err = w.Gear.GearOne(ctx, w.owner, g.ID)
	require.NoError(t, err)
	var notes []string
	for _, n := range d.Notes {
		notes = append(notes, n.By+": "+n.Text)
	}
	assert.ElementsMatch(t, []string{"Sune: worn → broken", "Sune: 3 → 1", "Sune: 1.2 kg (plate) → 1.3 kg (plate)"}, notes)

	for field, spoil := range map[string]func(*gear.GearInput){
		"name":        func(in *gear.GearInput) { in.Name = "\n" },
		"hazards[0]":  func(in *gear.GearInput) { in.Hazards = []string{"bears"} },
		"tags[0]":     func(in *gear.GearInput) { in.Tags = []string{"a;b"} },
		"inside_m":    func(in *gear.GearInput) { in.Inside = model.Vec{0.1, 0, 0} },
		"inside_m[2]": func(in *gear.GearInput) { in.Inside = model.Vec{0.1, 0.05, 0.3} },
		"count":       func(in *gear.GearInput) { in.Count = 0; in.RestockAt = 0 },
		"cost":        func(in *gear.GearInput) { c := -1.0; in.Cost = &c }} {
		bad := in
		spoil(&bad)
		_, err := w.Gear.SaveGear(ctx, w.owner, store.NewID(), uuid.Nil, 0, bad)
		assert.Contains(t, fmt.Sprint(kindOf(t, err).Faults), field)
	}
}

func TestSomeOfSeveralAreSplitOff(t *testing.T) {
	w := newWorld(t)
	vests := w.make("vest", 1, func(in *gear.GearInput) { small(in); in.Count = 5; in.Tags = []string{"safety"} })
	require.NoError(t, second(w.to(vests.ID, aboard.MoveInput{PlaceID: &w.locker})))
	part, err := w.Gear.SplitGear(ctx, w.owner, store.NewID(), vests.ID, vests.Version, 2)
	require.NoError(t, err)
	assert.Equal(t, 2, part.Count)
	assert.Equal(t, []string{"safety"}, part.Tags)
	assert.Equal(t, w.spot(vests.ID).Text, w.spot(part.ID).Text)
	rest, err := w.Gear.GearOne(ctx, w.owner, vests.ID)
	require.NoError(t, err)
	assert.Equal(t, 3, rest.Count)
	_, err = w.Gear.SplitGear(ctx, w.owner, store.NewID(), vests.ID, rest.Version, 3)
	assert.Contains(t, fmt.Sprint(kindOf(t, err).Faults), "must be from 1 to 2: there are 3")
}

func TestManyAreChangedAtOnceOrNone(t *testing.T) {
	w := newWorld(t)
	both := []uuid.UUID{w.cooler.ID, w.chartbox.ID}
	require.NoError(t, w.Gear.ChangeMany(ctx, w.owner, store.NewID(), gear.BulkInput{Gear: both, OwnerID: &w.hand.Member,
		AddTag: "Cod"}))
	page, err := w.Gear.Gear(ctx, w.owner, gear.GearQuery{Tag: "cod", Owner: &w.hand.Member, Limit: 10})
	require.NoError(t, err)
	assert.Len(t, page.Rows, 2)
	err = w.Gear.ChangeMany(ctx, w.owner, store.NewID(), gear.BulkInput{Gear: append(both, store.NewID()),
		RemoveTag: "cod"})
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
	page, err = w.Gear.Gear(ctx, w.owner, gear.GearQuery{Tag: "cod", Limit: 10})
	require.NoError(t, err)
	assert.Len(t, page.Rows, 2, "none was changed")
	require.NoError(t, w.Gear.ChangeMany(ctx, w.owner, store.NewID(), gear.BulkInput{Gear: both, Remove: true}))
	page, err = w.Gear.Gear(ctx, w.owner, gear.GearQuery{Limit: 10})
	require.NoError(t, err)
	assert.Empty(t, page.Rows)
}

func TestTheListIsReadPageByPage(t *testing.T) {
	w := newWorld(t)
	shelf := w.shelf("boathouse", "shelf A")
	for i := range 25 {
		g := w.make(fmt.Sprintf("Thing %c", 'Y'-i), 1, func(in *gear.GearInput) {
			small(in)
			in.MassKnown = []string{"guess",
				"weighed"}[i%2]
		})
		if i%5 == 0 {
			require.NoError(t, second(w.to(g.ID, aboard.MoveInput{ShedID: &shelf})))
		}
	}
	for _, sort := range []string{"name", "recent"} {
		var names []string
		after := ""
		for range 10 {
			page, err := w.Gear.Gear(ctx, w.owner, gear.GearQuery{Sort: sort, After: after, Limit: 6})
			require.NoError(t, err)
			for _, r := range page.Rows {
				names = append(names, r.Name)
			}
			if after = page.Next; after == "" {
				break
			}
		}
		assert.Len(t, names, 27, sort)
		assert.Len(t, slices.Compact(slices.Sorted(slices.Values(names))), 27, "each once")
		if sort == "name" {
			assert.True(t, slices.IsSorted(names[2:]), "%v", names)
		}
	}
	for _, c := range []struct {
		q    gear.GearQuery
		want int
	}{{gear.GearQuery{Kind: "shed"}, 5}, {gear.GearQuery{Shed: &shelf}, 5}, {gear.GearQuery{Only: "unweighed"}, 13},
		{gear.GearQuery{Text: "thing"}, 25}, {gear.GearQuery{Text: "thing boathouse"}, 5},
		{gear.GearQuery{Text: "nothing of the sort"}, 0}, {gear.GearQuery{Boat: &w.boat}, 0},
		{gear.GearQuery{Only: "containers"}, 0}, {gear.GearQuery{Only: "worn"}, 0}} {
		c.q.Limit = 100
		page, err := w.Gear.Gear(ctx, w.owner, c.q)
		require.NoError(t, err)
		assert.Len(t, page.Rows, c.want, "%+v", c.q)
	}
	_, err := w.Gear.Gear(ctx, w.owner, gear.GearQuery{After: "rubbish", Limit: 5})
	assert.Contains(t, fmt.Sprint(kindOf(t, err).Faults), "is no cursor")
	s, err := w.Gear.Summary(ctx, w.owner)
	require.NoError(t, err)
	assert.Equal(t, 27, s.Entries)
	assert.Equal(t, 5, s.Kinds["shed"])
	assert.InDelta(t, 57, s.Kg, 1e-9)
}

func TestThingsAreFoundHoweverTheyAreTyped(t *testing.T) {
	w := newWorld(t)
	shelf := w.shelf("boathouse", "top shelf")
	extinguisher := w.make("fire extinguisher", 3, func(in *gear.GearInput) { small(in); in.OwnerID = &w.hand.Member })
	net := w.make("landing net", 1, func(in *gear.GearInput) {
		small(in)
		in.Nickname, in.Tags = "the scoop",
			[]string{"sea trout"}
	})
	other := w.make("Mørke net", 1, small)
	require.NoError(t, second(w.to(net.ID, aboard.MoveInput{ShedID: &shelf})))
	require.NoError(t, second(w.to(extinguisher.ID, aboard.MoveInput{PlaceID: &w.locker})))
	first := func(q string) uuid.UUID {
		hits, err := w.Gear.Find(ctx, w.owner, q)
		require.NoError(t, err)
		if len(hits) == 0 {
			return uuid.Nil
		}
		return hits[0].ID
	}
	for q, want := range map[string]uuid.UUID{"extinguisher": extinguisher.ID, "fire ext": extinguisher.ID,
		"extingisher": extinguisher.ID, "fier extinguisher": extinguisher.ID,
		"scoop": net.ID, "SEA TROUT": net.ID, "net boathouse": net.ID, "landing": net.ID, "mork": other.ID,
		"mørke": other.ID, "sune fire": extinguisher.ID,
		"extinguisher stern": extinguisher.ID, "boathouse": shelf, "stern locker": w.locker, "zzzz": uuid.Nil} {
		assert.Equal(t, want, first(q), q)
	}
	require.NoError(t, w.Gear.AddNote(ctx, w.owner, store.NewID(), other.ID, gear.NoteInput{Kind: "seen"}))
	assert.Equal(t, other.ID, first("net"), "the one that was used last comes first")
	hits, err := w.Gear.Find(ctx, w.owner, "")
	require.NoError(t, err)
	assert.Equal(t, other.ID, hits[0].ID, "without a word, what was used last")
	in := net.GearInput
	in.Name = "gaff"
	_, err = w.Gear.SaveGear(ctx, w.owner, store.NewID(), net.ID, net.Version, in)
	require.NoError(t, err)
	assert.Equal(t, uuid.Nil, first("landing"), "an old name is forgotten")
	assert.Equal(t, net.ID, first("gaff"))
}

func TestLinesOfTextMakeGear(t *testing.T) {
	w := newWorld(t)
	text := strings.Repeat("2 tray 10x8x5 0.3kg wet @stern locker +Sune #pike\n", 3) + "anchor\n"
	read, err := w.Gear.AddLines(ctx, w.owner, uuid.Nil, text, false)
	require.NoError(t, err)
	require.Len(t, read.Lines, 4)
	assert.Empty(t, read.Made)
	assert.Empty(t, read.Lines[0].Doubts)
	assert.Contains(t, read.Lines[3].Doubts[0], "is a guess")
	key := store.NewID()
	made, err := w.Gear.AddLines(ctx, w.owner, key, text, true)
	require.NoError(t, err)
	require.Len(t, made.Made, 4)
	_, err = w.Gear.AddLines(ctx, w.owner, key, text, true)
	require.NoError(t, err)
	s, err := w.Gear.Summary(ctx, w.owner)
	require.NoError(t, err)
	assert.Equal(t, 6, s.Entries, "a repeat adds nothing")
	d, err := w.Gear.GearOne(ctx, w.owner, made.Made[0])
	require.NoError(t, err)
	assert.Equal(t, "Test boat, stern locker", d.Spot.Text)
	assert.Equal(t, w.hand.Member, *d.OwnerID)
	assert.Equal(t, []string{"pike"}, d.Tags)

	made, err = w.Gear.AddLines(ctx, w.owner, store.NewID(), "hull 300x200x90 100kg @small tray", true)
	require.NoError(t, err)
	assert.Contains(t, fmt.Sprint(made.Lines[0].Doubts), "It is on the quay.")
	_, err = w.Gear.AddLines(ctx, w.owner, store.NewID(), "tray 1kg 9x9x9\n@stern locker", true)
	assert.Contains(t, err.Error(), "1 of 2 lines makes no piece, so nothing was added.")
	_, err = w.Gear.AddLines(ctx, w.owner, store.NewID(), "@stern locker\n@small tray", true)
	assert.Contains(t, err.Error(), "2 of 2 lines make no piece, so nothing was added.")
	_, err = w.Gear.AddLines(ctx, w.owner, store.NewID(), " \n ", true)
	assert.Contains(t, err.Error(), "There is no line to read, so nothing was added.")
	s, err = w.Gear.Summary(ctx, w.owner)
	require.NoError(t, err)
	assert.Equal(t, 7, s.Entries)
}

func TestGearIsCopiedFromABoatWithItsBoxes(t *testing.T) {
	w := newWorld(t)
	box, hooks := w.make("box", 1, func(in *gear.GearInput) { asBox(in); in.Serial = "S-1" }), w.make("hooks", 0.1, small)
	require.NoError(t, second(w.to(hooks.ID, aboard.MoveInput{BoxID: &box.ID})))
	_, err := w.Gear.CopyFrom(ctx, w.owner, store.NewID(), w.boat, nil)
	assert.Contains(t, err.Error(), "nothing aboard")
	require.NoError(t, second(w.to(box.ID, aboard.MoveInput{PlaceID: &w.locker})))
	n, err := w.Gear.CopyFrom(ctx, w.owner, store.NewID(), w.boat, nil)
	require.NoError(t, err)
	assert.Equal(t, 2, n)
	page, err := w.Gear.Gear(ctx, w.owner, gear.GearQuery{Text: "box", Kind: "quay", Limit: 10})
	require.NoError(t, err)
	i := slices.IndexFunc(page.Rows, func(r gear.GearRow) bool { return r.Name == "box" })
	require.GreaterOrEqual(t, i, 0)
	assert.Equal(t, 1, page.Rows[i].Holds)
	assert.Empty(t, page.Rows[i].Serial)
	assert.Equal(t, "guess", page.Rows[i].MassKnown, "its twin was weighed, it was not")
}
