package aboard_test

import (
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/aboard/aboardtest"
	"ergasia/core/stow"
	"ergasia/core/units"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestARefusalNamesTheThingTheRuleAndTheFigures(t *testing.T) {
	b := aboardtest.New(t)
	dry := func(g *model.Gear) { g.NeedsDry = true }
	hazard := func(name string) func(*model.Gear) {
		return func(g *model.Gear) { g.Hazards = model.Strings{name} }
	}
	b.Put(b.Gear("flares", 1, hazard("flares")), b.Into(b.Bow))
	for _, c := range []struct {
		gear  uuid.UUID
		place uuid.UUID
		want  string
	}{
		{b.Gear("cooler", 30), b.Stern, ""},
		{b.Gear("anvil", 61), b.Stern, "stern locker carries 60.0 kg at most; with anvil it would hold 61.0 kg."},
		{b.Gear("charts", 2, dry), b.Stern, "charts must stay dry, and stern locker gets wet."},
		{b.Gear("charts", 2, dry), b.Tray, ""},
		{b.Gear("fuel can", 9, hazard("fuel")), b.Bow, "fuel can (fuel) may not lie with flares (flares)."},
		{b.Gear("ladder", 4, func(g *model.Gear) { g.Length = 0.9 }), b.Bow, "ladder is"},
	} {
		said := b.Try(t, c.gear, b.Into(c.place))
		if c.want == "" {
			assert.Empty(t, said, b.Thing(c.gear).Name)
			continue
		}
		require.NotEmpty(t, said, b.Thing(c.gear).Name)
		assert.Contains(t, said[0], c.want)
	}
}

func TestAPlaceIsKeptForItsOwnersThingsOrForATag(t *testing.T) {
	b := aboardtest.New(t)
	b.Places[0].KeptForOwner = &b.Ilse
	b.Places[2].KeptForTag = "guest"
	hers := b.Gear("reel", 1, func(g *model.Gear) { g.OwnerID = &b.Ilse })
	ours := b.Gear("net", 1, func(g *model.Gear) { g.Tags = model.Strings{"guest"} })
	assert.Empty(t, b.Try(t, hers, b.Into(b.Stern)))
	assert.Equal(t, []string{"stern locker is kept for Ilse's things; net is not Ilse's."},
		b.Try(t, ours, b.Into(b.Stern)))
	assert.Empty(t, b.Try(t, ours, b.Into(b.Bow)))
	assert.Equal(t, []string{"bow locker is kept for what is tagged guest; reel is not."}, b.Try(t, hers, b.Into(b.Bow)))
}

func TestABoxMovesWithWhatItHoldsAndWeighsIt(t *testing.T) {
	b := aboardtest.New(t)
	box := b.Gear("pilk box", 2, aboardtest.Box)
	small := func(g *model.Gear) { g.Length, g.Breadth, g.Height, g.Count = 0.1, 0.1, 0.1, 3 }
	lead := b.Gear("lead", 1.5, small)
	b.Put(lead, b.Within(box))
	assert.Equal(t, "quay", b.Stowage[lead].Kind)
	b.Put(box, b.Into(b.Stern))
	assert.Equal(t, &b.Stern, b.Stowage[lead].PlaceID, "what it holds comes along")
	assert.Equal(t, &box, b.Stowage[lead].InsideID)
	kg, variance := b.Weight(*b.Thing(box))
	assert.InDelta(t, 2+3*1.5, kg, 1e-9)
	assert.Positive(t, variance)
	assert.Len(t, b.LieIn(b.Stern), 1, "the box lies there, not what is in it")
	assert.InDelta(t, 6.5, b.Ledger().GearKg, 1e-9, "each is counted once")
	assert.Equal(t, box, b.Root(lead))
}

func TestWhatABoxTakes(t *testing.T) {
	b := aboardtest.New(t)
	small := func(g *model.Gear) { g.Length, g.Breadth, g.Height = 0.1, 0.1, 0.1 }
	box, lead := b.Gear("box", 1, aboardtest.Box), b.Gear("lead", 8, small)
	assert.Contains(t, b.Try(t, box, b.Within(box))[0], "can't go into itself")
	assert.Contains(t, b.Try(t, lead, b.Within(b.Gear("brick", 1)))[0],
		"brick holds nothing: give it a size inside first.")
	pair := b.Gear("pair", 1, aboardtest.Box, func(g *model.Gear) { g.Count = 2 })
	assert.Contains(t, b.Try(t, lead, b.Within(pair))[0], "There are 2 of pair")
	b.Put(box, b.Into(b.Tray)) // which carries 10 kg, with the box's 1 and 8 more; 3 more are too much
	assert.Empty(t, b.Try(t, lead, b.Within(box)))
	b.Put(lead, b.Within(box))
	more := b.Gear("more lead", 3, small)
	assert.Contains(t, b.Try(t, more, b.Within(box))[0],
		"tray carries 10.0 kg at most; with more lead it would hold 12.0 kg.")
	// Five deep at most.
	inner := b.Gear("flat", 0.1, small)
	outer := inner
	for range aboard.BoxesDeep {
		box := b.Gear("shell", 0.1, aboardtest.Box)
		b.Put(outer, b.Within(box))
		outer = box
	}
	assert.Contains(t, b.Try(t, outer, b.Within(b.Gear("one more", 1, aboardtest.Box)))[0],
		"boxes in one another are the most")
}

func TestADryThingGoesIntoABoxThatKeepsDryOrStandsDry(t *testing.T) {
	b := aboardtest.New(t)
	phone := b.Gear("phone", 0.2, func(g *model.Gear) { g.NeedsDry, g.Length, g.Breadth, g.Height = true, 0.1, 0.1, 0.05 })
	open := b.Gear("crate", 1, aboardtest.Box)
	b.Put(open, b.Into(b.Stern))
	assert.Contains(t, b.Try(t, phone, b.Within(open))[0], "phone must stay dry, and crate neither keeps water out")
	b.Put(open, b.Into(b.Tray))
	assert.Empty(t, b.Try(t, phone, b.Within(open)))
	b.Put(phone, b.Within(open))
	assert.Contains(t, b.Try(t, open, b.Into(b.Stern))[0], "must stay dry", "an open box goes where what it holds may")
	tight := b.Gear("dry box", 1, aboardtest.Box, func(g *model.Gear) { g.KeepsDry = true })
	b.Put(tight, b.Into(b.Stern))
	assert.Empty(t, b.Try(t, phone, b.Within(tight)))
}

func TestAMoveMakesAnotherLadenAndLaysOnlyWhatChanges(t *testing.T) {
	b := aboardtest.New(t)
	cooler, net := b.Gear("cooler", 30), b.Gear("net", 1)
	b.Put(cooler, b.Into(b.Stern))
	b.Put(net, b.Into(b.Bow))
	before := b.Figures()
	e := model.Event{GearID: &cooler}
	then := b.Moved(e, b.Into(b.Bow))
	assert.Equal(t, &b.Stern, b.Stowage[cooler].PlaceID, "the original stays")
	assert.Equal(t, &b.Bow, then.Stowage[cooler].PlaceID)
	assert.Equal(t, b.Stowage[cooler].Version+1, then.Stowage[cooler].Version)
	assert.Len(t, then.LiesIn(b.Bow), 2)
	assert.Empty(t, then.LiesIn(b.Stern))
	after := then.Figures()
	assert.Less(t, after.Attitude.TrimDeg, before.Attitude.TrimDeg, "weight forward puts the bow down")
	assert.InDelta(t, before.Displacement, after.Displacement, 1e-9)
	assert.Equal(t, before, b.Figures(), "asked again, she sits as before")
}

// What the plate counts is what its words name, and the errors add as squares.
func TestTheLedgerCountsWhatThePlateCounts(t *testing.T) {
	b := aboardtest.New(t)
	b.Put(b.Gear("cooler", 30), b.Into(b.Stern))
	b.Man(b.Ilse)
	l := b.Ledger()
	assert.InDelta(t, 30+78, l.PlateKg, 1e-9)
	assert.Equal(t, 1, l.Persons)
	assert.InDelta(t, 400+30+78, l.Load.Total().Kg, 1e-9)
	sum := 0.0
	for _, m := range l.Load.Masses {
		if m.Name != "hull" {
			sum += m.Sigma * m.Sigma
		}
	}
	assert.InDelta(t, sum, l.PlateVariance, 1e-9)
	b.Boat.Plate.Includes = []string{"persons"}
	b.Shape(t)
	b.Laden = b.Branch()
	assert.InDelta(t, 78, b.Ledger().PlateKg, 1e-9)
}

func TestWhatPeopleWearGoesWhereTheyGo(t *testing.T) {
	b := aboardtest.New(t)
	vest := b.Gear("lifejacket", 1.2)
	b.Put(vest, model.Whereabouts{Kind: "person", HeldBy: &b.Ilse})
	assert.Empty(t, b.Carried(), "she is ashore")
	b.Man(b.Ilse)
	require.Len(t, b.Carried(), 1)
	assert.InDelta(t, 1.2, b.Ledger().GearKg, 1e-9)
	assert.InDelta(t, 1.5, b.Carried()[0].Mass.At.X, 0.05, "at the helm")
}

func TestAPieceIsLaidByHandWhereThereIsRoom(t *testing.T) {
	b := aboardtest.New(t)
	a, c := b.Gear("a", 5), b.Gear("c", 3)
	b.Put(a, b.Into(b.Stern))
	b.Put(c, b.Into(b.Stern))
	lies := b.LiesIn(b.Stern)
	require.Len(t, lies, 2)
	stern := b.Stern
	lay := func(x float64) ([]model.Box, []string) {
		in := aboard.MoveInput{GearID: &c, PlaceID: &stern, Lay: &aboard.LayInput{At: [2]float64{x, 0}}, Version: 1}
		require.NoError(t, in.Check())
		e, refusals, err := b.Laden.Try(in, b.Into(stern))
		require.NoError(t, err)
		return e.Became.Laid, aboard.Sentences(refusals)
	}
	floor := lies[0].At.Z
	beside, said := lay(0.4)
	assert.Empty(t, said)
	assert.InDelta(t, 0.4, beside[0].At[0], 1e-9)
	assert.InDelta(t, floor, beside[0].At[2], 1e-9)
	above, said := lay(0)
	assert.Empty(t, said)
	assert.InDelta(t, floor+0.2, above[0].At[2], 1e-9, "it is let down onto the other")
	out, said := lay(9)
	assert.Empty(t, said)
	assert.LessOrEqual(t, out[0].At[0]+out[0].Size[0], 0.8+1e-9, "it stays within the place")
}

func TestACommandNamesOneThingAndOneSpot(t *testing.T) {
	id, other := uuid.New(), uuid.New()
	for name, in := range map[string]aboard.MoveInput{
		"nothing":             {},
		"both":                {GearID: &id, MemberID: &other},
		"two spots":           {GearID: &id, PlaceID: &id, ShedID: &other},
		"a person in a place": {MemberID: &id, PlaceID: &other},
		"gear at a post":      {GearID: &id, PostID: &other},
		"seated gear":         {GearID: &id, Seated: true},
		"laid nowhere":        {GearID: &id, Lay: &aboard.LayInput{}},
	} {
		assert.Error(t, in.Check(), name)
	}
	for name, in := range map[string]aboard.MoveInput{
		"to the quay": {GearID: &id}, "into a place": {GearID: &id, PlaceID: &other}, "ashore": {MemberID: &id},
		"to a post": {MemberID: &id, PostID: &other, Seated: true},
	} {
		assert.NoError(t, in.Check(), name)
	}
}

// The way back is the command that undoes the move, whatever the spot was.
func TestTheWayBackLeadsToWhereItWas(t *testing.T) {
	id, spot := uuid.New(), uuid.New()
	assert.Equal(t, aboard.MoveInput{GearID: &id, Version: 4}, aboard.Back(id, model.Stowage{Kind: "quay", Version: 3}))
	assert.Equal(t, &spot, aboard.Back(id, model.Stowage{PlaceID: &spot}).PlaceID)
	assert.Equal(t, &spot, aboard.Back(id, model.Stowage{ShedID: &spot}).ShedID)
	assert.Equal(t, &spot, aboard.Back(id, model.Stowage{HeldBy: &spot}).HolderID)
	inside := aboard.Back(id, model.Stowage{InsideID: &spot, PlaceID: &id})
	assert.Equal(t, &spot, inside.BoxID)
	assert.Nil(t, inside.PlaceID, "the box is the spot, not the place that it stands in")
}

func TestRummageIsLessForWhatLiesNearAndOnTop(t *testing.T) {
	b := aboardtest.New(t)
	net := b.Gear("net", 1, func(g *model.Gear) { g.UsesPerDay = 10 })
	b.Man(b.Ilse)
	b.Put(net, b.Into(b.Tray))
	near := b.Rummage().Minutes
	b.Put(net, b.Into(b.Bow))
	far := b.Rummage().Minutes
	assert.Positive(t, near)
	assert.Greater(t, far, near)
	b.Put(net, model.Whereabouts{Kind: "quay"})
	assert.Zero(t, b.Rummage().Minutes, "what is not aboard is not fetched")
}

func TestWhatIsBroughtAndStowedAgainTakesTwoWays(t *testing.T) {
	b := aboardtest.New(t)
	minutes := func(brought bool) float64 {
		net := b.Gear("net", 1, func(g *model.Gear) { g.UsesPerDay, g.Brought = 10, brought })
		b.Put(net, b.Into(b.Tray))
		defer b.Put(net, model.Whereabouts{Kind: "quay"})
		return b.Rummage().Minutes
	}
	there := minutes(false)
	assert.Positive(t, there)
	assert.InDelta(t, 2*there, minutes(true), 1e-9)
}

func TestALevelIsJudgedByTheLowestPost(t *testing.T) {
	b := aboardtest.New(t)
	assert.Equal(t, stow.InLocker, b.Level(b.Places[0]))
	open := b.Places[0]
	open.Lid = "none"
	assert.Equal(t, stow.OnDeck, b.Level(open))
	low := model.Place{Z: 0.05, Height: 0.2, Lid: "lift-off"}
	assert.Equal(t, stow.UnderSole, b.Level(low))
	b.Posts = nil
	assert.Equal(t, stow.InLocker, b.Level(low), "without posts nobody knows where the sole is")
}

func TestFiguresAreSaidInTheUnitsOfWhoLooks(t *testing.T) {
	b := aboardtest.New(t)
	assert.Equal(t, "30 kg", b.MassText(30))
	b.Units = units.US
	assert.Equal(t, "66 lb", b.MassText(30))
	event := model.Event{GearID: ptr(b.Gear("net", 1))}
	assert.Equal(t, "net → the quay", b.What(event))
}

func ptr[T any](v T) *T { return &v }
