package app_test

import (
	"strings"
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/fleet"
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/rigging"
	"ergasia/app/trips"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// cleat is a fitting of half a kilogram on the port side.
func cleat(name string) rigging.FittingInput {
	return rigging.FittingInput{Name: name, Kind: "cleat", Kg: 0.5, MassKnown: "weighed",
		Lies: model.FittingLies{At: model.Vec{0.4, 0.8, 0.7}, Size: model.Vec{0.2, 0.06, 0.05}, Stands: "up"},
		Held: model.FittingHeld{
			Method:    "plate",
			Screw:     "M8",
			Count:     4,
			Foot:      [2]float64{75, 45},
			Panel:     "laminate",
			Thickness: 8,
		},
		Parts: []model.FittingPart{}}
}

func (w *world) rigging() rigging.Rigging {
	r, err := w.Rigging.Rigging(ctx, w.owner, w.boat)
	require.NoError(w.t, err)
	return r
}

func (w *world) mount(list ...rigging.FittingInput) []uuid.UUID {
	ids, err := w.Rigging.Mount(ctx, w.owner, store.NewID(), w.boat, list)
	require.NoError(w.t, err)
	return ids
}

func TestListingAFittingChangesWhatIsKnownOfHerAndNotWhatSheWeighs(t *testing.T) {
	w := newWorld(t)
	before := w.state().Now
	in := cleat("port cleat")
	in.Kg, in.PartOf = 12, w.rigging().Masses[0]
	w.mount(in)
	listed := w.state().Now
	assert.InDelta(t, before.Displacement, listed.Displacement, 1e-9)
	assert.InDelta(
		t,
		before.Attitude.HeelDeg,
		listed.Attitude.HeelDeg,
		1e-6,
		"what is left of the hull lies where it must",
	)
	fresh := cleat("new cleat")
	fresh.Kg = 12
	w.mount(fresh)
	heavier := w.state().Now
	assert.InDelta(t, before.Displacement+12, heavier.Displacement, 1e-9)
	assert.Less(t, heavier.Attitude.HeelDeg, before.Attitude.HeelDeg, "it hangs to port")
	assert.InDelta(t, 24, w.rigging().ListedKg, 1e-9)
}

func TestFittingsAreChangedRemovedAndTakenBack(t *testing.T) {
	w := newWorld(t)
	undo := func() {
		last, err := w.Undoing.Last(ctx, w.owner)
		require.NoError(t, err)
		require.NotNil(t, last.Undoable)
		_, err = w.Undoing.Undo(ctx, w.owner, store.NewID(), last.Undoable.ID)
		require.NoError(t, err)
	}
	w.mount(cleat("port cleat"), cleat("second cleat"))
	require.Len(t, w.rigging().Fittings, 2)
	undo()
	assert.Empty(t, w.rigging().Fittings)
	ids := w.mount(cleat("port cleat"))
	in := cleat("port cleat")
	in.Lies.At[0] = 0.9
	_, err := w.Rigging.Change(ctx, w.owner, store.NewID(), w.boat, ids[0], 1, in)
	require.NoError(t, err)
	now := w.rigging().Fittings[0]
	assert.InDelta(t, 0.9, now.Lies.At[0], 0)
	assert.Equal(t, "moved 500 mm", now.Story[1].What)
	_, err = w.Rigging.Change(ctx, w.owner, store.NewID(), w.boat, ids[0], 1, in)
	assert.Equal(t, refuse.Conflict, kindOf(t, err).Kind, "someone else was first")
	undo()
	assert.InDelta(t, 0.4, w.rigging().Fittings[0].Lies.At[0], 0)
	require.NoError(t, w.Rigging.Remove(ctx, w.owner, w.boat, ids[0]))
	assert.Empty(t, w.rigging().Fittings)
	undo()
	assert.Equal(t, "port cleat", w.rigging().Fittings[0].Name)
}

func TestARepeatedMountMakesNothingTwice(t *testing.T) {
	w := newWorld(t)
	key := store.NewID()
	first, err := w.Rigging.Mount(ctx, w.owner, key, w.boat, []rigging.FittingInput{cleat("one")})
	require.NoError(t, err)
	again, err := w.Rigging.Mount(ctx, w.owner, key, w.boat, []rigging.FittingInput{cleat("one")})
	require.NoError(t, err)
	assert.Equal(t, first, again)
	assert.Len(t, w.rigging().Fittings, 1)
	_, err = w.Rigging.Mount(ctx, w.owner, store.NewID(), w.boat, []rigging.FittingInput{cleat("two"), cleat("one")})
	require.Error(t, err)
	assert.Len(t, w.rigging().Fittings, 1, "all or none")
}

func TestAbsurdFittingsGetASentenceAndChangeNothing(t *testing.T) {
	w := newWorld(t)
	for want, change := range map[string]func(*rigging.FittingInput){
		"held.length_mm":  func(f *rigging.FittingInput) { f.Held.Length = -40 },
		"held.screw":      func(f *rigging.FittingInput) { f.Held.Screw = "M7" },
		"longer than":     func(f *rigging.FittingInput) { f.Lies.Size[2] = 9 },
		"lies.at_m[0]":    func(f *rigging.FittingInput) { f.Lies.At[0] = 40 },
		"kind":            func(f *rigging.FittingInput) { f.Kind = "cannon" },
		"held.pole.wet_m": func(f *rigging.FittingInput) { f.Held.Pole = &model.PoleInput{Wet: -1, Diameter: 0.03, Clamp: 0.4} },
		"look.every_days": func(f *rigging.FittingInput) { f.Look.What = "screws" },
		"held.skin_mm":    func(f *rigging.FittingInput) { f.Held.Skin = 20 },
		"held.behind_mm":  func(f *rigging.FittingInput) { n := -1.0; f.Held.Behind = &n },
		"no such post":    func(f *rigging.FittingInput) { id := store.NewID(); f.Lies.Post = &id },
		"name":            func(f *rigging.FittingInput) { f.Name = "" },
		"parts[0].state":  func(f *rigging.FittingInput) { f.Parts = []model.FittingPart{{What: "screw", State: "lost"}} },
		"held.pole.brace_m": func(f *rigging.FittingInput) {
			f.Held.Pole = &model.PoleInput{Wet: 0.5, Diameter: 0.03, Clamp: 0.4, Brace: 0.6}
		},
	} {
		in := cleat("absurd")
		change(&in)
		_, err := w.Rigging.Mount(ctx, w.owner, store.NewID(), w.boat, []rigging.FittingInput{in})
		refused := kindOf(t, err)
		assert.Contains(t, refused.Sentence+refused.Faults.Error(), want)
	}
	assert.Empty(t, w.rigging().Fittings)
}

func TestLinesBecomeFittingsWhereSuchThingsUsuallyAre(t *testing.T) {
	w := newWorld(t)
	list, err := w.Rigging.Read(
		ctx,
		w.owner,
		w.boat,
		"2 cleats\n\nrod holder 15° starboard 0.6 kg\nbow motor\ntransducer\nroof\n bilge pump\nstern light",
	)
	require.NoError(t, err)
	require.Len(t, list, 8)
	assert.Equal(t, "port cleat", list[0].Name)
	assert.Equal(t, "starboard cleat", list[1].Name)
	assert.InDelta(t, -list[0].Lies.At[1], list[1].Lies.At[1], 1e-9)
	assert.Negative(t, list[2].Lies.At[1])
	assert.InDelta(t, 15, list[2].Lies.Lean, 0)
	assert.Equal(t, "guess", list[2].MassKnown, "a typed mass is a guess until someone says weighed")
	assert.Greater(t, list[3].Lies.At[0], 4.0, "at the bow")
	var all []rigging.FittingInput
	for _, f := range list {
		assert.True(t, f.Lies.Guess)
		all = append(all, f.FittingInput)
	}
	w.mount(all...)
	again, err := w.Rigging.Read(ctx, w.owner, w.boat, "2 cleats")
	require.NoError(t, err)
	assert.Equal(t, "port cleat 2", again[0].Name, "names don't collide")
}

func TestADryRunSaysWhatAMountIsInTheWayOf(t *testing.T) {
	w := newWorld(t)
	in := cleat("mast")
	_, err := w.Fleet.SavePlace(
		ctx,
		w.owner,
		uuid.Nil,
		w.boat,
		uuid.Nil,
		0,
		fleet.PlaceInput{Name: "bow locker", Corner: model.Vec{3, -0.3, 0.3},
			Size: model.Vec{0.6, 0.6, 0.4}, Dryness: "wet", Lid: "hinged"},
	)
	require.NoError(t, err)
	places := w.rigging().Places
	lid := places[len(places)-1]
	assert.Equal(t, "fore", lid.Turns, "away from the nearest post")
	in.Lies.At = model.Vec{
		lid.Corner[0] + lid.Size[0]/2,
		lid.Corner[1] + lid.Size[1]/2,
		lid.Corner[2] + lid.Size[2] + 0.2,
	}
	in.Lies.Size = model.Vec{0.4, 0.4, 0.1}
	tried, err := w.Rigging.Try(ctx, w.owner, w.boat, nil, in)
	require.NoError(t, err)
	said := ""
	for _, f := range tried.Findings {
		said += f.Said + " "
	}
	assert.Contains(t, said, "The lid of "+lid.Name)
	assert.NotEmpty(t, tried.Bears.Ways)
	assert.Empty(t, w.rigging().Fittings, "nothing is kept")
}

func TestWhatIsLookedAtAgainComesDue(t *testing.T) {
	w := newWorld(t)
	in := cleat("port cleat")
	in.Look = rigging.LookInput{What: "thumb screws", Trips: 1}
	id := w.mount(in)[0]
	due := func() (when []string) {
		list, err := w.Due.Due(ctx, w.owner)
		require.NoError(t, err)
		for _, r := range list.Rows {
			if r.FittingID != nil && *r.FittingID == id {
				assert.Nil(t, r.GearID)
				when = append(when, r.When)
			}
		}
		return when
	}
	assert.Len(t, due(), 1)
	trip := w.trip("evening", -1, 1, 3)
	require.NoError(t, w.Trips.LogTrip(ctx, w.owner, store.NewID(), trip, trips.LogInput{Version: 1, Hours: 3}))
	assert.Equal(t, []string{"now"}, due())
	f := w.rigging().Fittings[0]
	require.NoError(t, w.Rigging.Done(ctx, w.hand, store.NewID(), w.boat, id, f.Version, "", true))
	assert.NotEqual(t, []string{"now"}, due())
	now := w.rigging().Fittings[0]
	assert.Equal(t, "looked at: thumb screws", now.Story[len(now.Story)-1].What)
}

func TestAnotherCrewsFittingIsNobodysBusiness(t *testing.T) {
	w := newWorld(t)
	id := w.mount(cleat("port cleat"))[0]
	other := kernel.Actor{Crew: store.NewID(), Member: w.owner.Member, Role: kernel.Owner}
	_, err := w.Rigging.Change(ctx, other, uuid.Nil, w.boat, id, 1, cleat("stolen"))
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
	_, err = w.Rigging.Rigging(ctx, other, w.boat)
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
}

func TestHowHighSheMayBeIsKeptWithTheBoat(t *testing.T) {
	w := newWorld(t)
	r := w.rigging()
	tall := cleat("antenna")
	tall.Kind, tall.Lies.Size = "antenna", model.Vec{0.04, 0.04, 2}
	w.mount(tall)
	set := func(in model.RiggingInput) error {
		return w.Rigging.Set(ctx, w.owner, store.NewID(), w.boat, w.rigging().Version, in)
	}
	require.NoError(t, set(model.RiggingInput{Waters: "offshore", Over: 0.5, Road: 3, Bridge: 2}))
	assert.Equal(t, "offshore", w.rigging().Settings.Waters)
	said := ""
	for _, f := range w.rigging().Findings {
		said += f.Said
	}
	assert.Contains(t, said, "too high for the road")
	assert.Contains(t, said, "too high for the bridge")
	assert.Equal(t, refuse.Invalid, kindOf(t, set(model.RiggingInput{Waters: "rough"})).Kind)
	assert.Equal(t, r.Version+1, w.rigging().Version)
	require.NoError(t, w.change(func(in *aboard.BoatInput) { in.Name = strings.ToUpper(in.Name) }))
	assert.Equal(t, "offshore", w.rigging().Settings.Waters, "it stays when the boat is changed")
}

func TestATemplateIsOfWhatIsKept(t *testing.T) {
	w := newWorld(t)
	in := cleat("port cleat")
	in.Held.Pattern, in.Held.Cut, in.Held.Corner = [][2]float64{{-30, 10}, {30, -10}}, [2]float64{50, 20}, 5
	id := w.mount(in)[0]
	sheet, err := w.Rigging.Template(ctx, w.owner, w.boat, id, false)
	require.NoError(t, err)
	assert.Equal(t, [][2]float64{{-30, 10}, {30, -10}}, sheet.Holes)
	assert.InDelta(t, 9, sheet.Drill, 0, "clearance of M8")
	assert.Contains(t, sheet.Notes[0], "Cut out 50 x 20 mm")
	mirrored, err := w.Rigging.Template(ctx, w.owner, w.boat, id, true)
	require.NoError(t, err)
	assert.Equal(t, [][2]float64{{30, 10}, {-30, -10}}, mirrored.Holes)
	in = cleat("curved")
	in.Held.Curve = 10
	_, err = w.Rigging.Mount(ctx, w.owner, store.NewID(), w.boat, []rigging.FittingInput{in})
	assert.Contains(t, kindOf(t, err).Faults.Error(), "no wall bends so")
}

func TestSpaceThatNobodyUsesIsFreeAndBecomesAPlace(t *testing.T) {
	w := newWorld(t)
	require.NoError(t, w.change(func(in *aboard.BoatInput) {
		in.Outfit.Tanks = []model.TankInput{
			{Name: "tank", Kind: "fuel", Size: model.Vec{0.6, 0.5, 0.15}, Corner: model.Vec{2, -0.25, 0.08},
				Density: 740},
		}
	}))
	in := cleat("seat")
	in.Kind, in.Lies.At, in.Lies.Size, in.Lies.Swing = "seat", model.Vec{3, 0, 0.3}, model.Vec{0.5, 0.5, 0.4}, 0.4
	w.mount(in)
	list, err := w.Rigging.Spaces(ctx, w.owner, w.boat)
	require.NoError(t, err)
	require.NotEmpty(t, list)
	seat := w.rigging().Fittings[0]
	meets := func(s rigging.SpaceView, low, high model.Vec) bool {
		for k := range 3 {
			if s.Corner[k] >= high[k]-1e-9 || s.Corner[k]+s.Size[k] <= low[k]+1e-9 {
				return false
			}
		}
		return true
	}
	for i, s := range list {
		for _, p := range w.rigging().Places {
			assert.False(
				t,
				meets(s, p.Corner, model.Vec{p.Corner[0] + p.Size[0], p.Corner[1] + p.Size[1], p.Corner[2] + p.Size[2]}),
				"%s meets %s",
				s.Name,
				p.Name,
			)
		}
		assert.False(t, meets(s, model.Vec{2, -0.25, 0.08}, model.Vec{2.6, 0.25, 0.23}), "%s meets the tank", s.Name)
		at := seat.Lies.At
		assert.False(
			t,
			meets(s, model.Vec{at[0] - 0.25, -0.25, 0.3}, model.Vec{at[0] + 0.25, 0.25, 0.7}),
			"%s meets the seat",
			s.Name,
		)
		for _, other := range list[i+1:] {
			assert.False(
				t,
				meets(
					s,
					other.Corner,
					model.Vec{other.Corner[0] + other.Size[0], other.Corner[1] + other.Size[1], other.Corner[2] + other.Size[2]},
				),
			)
			assert.NotEqual(t, s.Name, other.Name)
		}
		assert.NotNil(t, s.Seconds)
	}
	first := list[0]
	_, err = w.Fleet.SavePlace(
		ctx,
		w.owner,
		store.NewID(),
		w.boat,
		uuid.Nil,
		0,
		fleet.PlaceInput{Name: first.Name, Corner: first.Corner,
			Size: first.Size, Dryness: first.Dryness, Lid: first.Lid},
	)
	require.NoError(t, err)
	again, err := w.Rigging.Spaces(ctx, w.owner, w.boat)
	require.NoError(t, err)
	for _, s := range again {
		assert.False(
			t,
			meets(
				s,
				first.Corner,
				model.Vec{first.Corner[0] + first.Size[0], first.Corner[1] + first.Size[1], first.Corner[2] + first.Size[2]},
			),
		)
	}
}

// unit is a sonar unit that docks on a foot; base takes such a foot.
func unit(name string) rigging.FittingInput {
	in := cleat(name)
	in.Kind, in.Unit, in.Dock, in.Kg = "display", true, "ball, 38 mm", 4
	in.Moving = model.FittingMoving{Minutes: 3, Tools: "none", Thief: true}
	return in
}

func base(name string, x float64) rigging.FittingInput {
	in := cleat(name)
	in.Kind, in.Dock, in.Lies.At[0] = "other", "Ball, 38 mm", x
	return in
}

func TestAUnitIsInOneBaseAtATimeOnWhicheverBoat(t *testing.T) {
	w := newWorld(t)
	ids := w.mount(base("aft base", 0.5), base("fore base", 4), unit("sonar"), cleat("plain cleat"))
	version := func() int {
		for _, f := range append(w.rigging().Fittings, w.rigging().Off...) {
			if f.ID == ids[2] {
				return f.Version
			}
		}
		return 0
	}
	dock := func(boat uuid.UUID, id uuid.UUID, base *uuid.UUID, on bool) error {
		return w.Rigging.Dock(ctx, w.hand, store.NewID(), boat, id, version(), base, on)
	}
	require.NoError(t, dock(w.boat, ids[2], &ids[0], true))
	at := func() rigging.FittingView {
		for _, f := range w.rigging().Fittings {
			if f.ID == ids[2] {
				return f
			}
		}
		return rigging.FittingView{}
	}
	assert.InDelta(t, 0.5, at().Lies.At[0], 1e-9, "it stands where its base does")
	aft := w.state().Now.Attitude.TrimDeg
	require.NoError(t, dock(w.boat, ids[2], &ids[1], true))
	assert.Less(t, w.state().Now.Attitude.TrimDeg, aft, "4 kg went forward")
	assert.Contains(t, kindOf(t, dock(w.boat, ids[2], &ids[3], true)).Sentence, "does not dock there")
	assert.Equal(
		t,
		refuse.Refused,
		kindOf(t, w.Rigging.Remove(ctx, w.owner, w.boat, ids[1])).Kind,
		"a base with a unit in it stays",
	)

	in := boatInput()
	in.Name = "Sister"
	sister, err := w.Fleet.SaveBoat(ctx, w.owner, uuid.Nil, uuid.Nil, 0, in)
	require.NoError(t, err)
	theirs, err := w.Rigging.Mount(
		ctx,
		w.owner,
		store.NewID(),
		sister,
		[]rigging.FittingInput{base("base", 2), unit("second sonar")},
	)
	require.NoError(t, err)
	require.NoError(t, dock(sister, ids[2], &theirs[0], true))
	assert.Zero(t, at().ID, "it left the first boat")
	assert.Equal(t, "Sister", w.rigging().Off[0].Boat)
	err = w.Rigging.Dock(ctx, w.hand, store.NewID(), sister, theirs[1], 1, &theirs[0], true)
	assert.Contains(t, kindOf(t, err).Sentence, "sonar is in base")
	assert.Equal(
		t,
		refuse.Conflict,
		kindOf(t, w.Rigging.Dock(ctx, w.hand, store.NewID(), sister, ids[2], 1, nil, false)).Kind,
	)
}

func TestASetIsPutOnAndTakenOffAsOne(t *testing.T) {
	w := newWorld(t)
	ids := w.mount(base("aft base", 0.5), unit("sonar"), cleat("lake thing"), cleat("sea thing"), cleat("stays"))
	set := func(name string, lines ...model.RigLine) uuid.UUID {
		id, err := w.Rigging.SaveSet(
			ctx,
			w.owner,
			store.NewID(),
			w.boat,
			uuid.Nil,
			0,
			rigging.SetInput{Name: name, Lines: lines},
		)
		require.NoError(t, err)
		return id
	}
	lake := set("lake", model.RigLine{FittingID: ids[2]}, model.RigLine{FittingID: ids[1], BaseID: &ids[0]})
	set("sea", model.RigLine{FittingID: ids[3]})
	names := func() (on []string) {
		for _, f := range w.rigging().Fittings {
			on = append(on, f.Name)
		}
		return on
	}
	todo := w.rigging().Sets[0]
	assert.Equal(t, "lake", todo.Name)
	assert.Len(t, todo.Steps, 2, "the sea thing off, the sonar docked")
	assert.InDelta(t, 25+3, todo.Minutes, 1e-9)
	require.NoError(t, w.Rigging.PutOn(ctx, w.hand, store.NewID(), w.boat, lake))
	assert.Equal(t, []string{"aft base", "lake thing", "sonar", "stays"}, names())
	assert.True(t, w.rigging().Sets[0].On)
	last, err := w.Undoing.Last(ctx, w.hand)
	require.NoError(t, err)
	_, err = w.Undoing.Undo(ctx, w.hand, store.NewID(), last.Undoable.ID)
	require.NoError(t, err)
	assert.Contains(t, names(), "sea thing", "one stroke back")
	require.NoError(t, w.Rigging.PutOn(ctx, w.hand, store.NewID(), w.boat, lake))
	assert.Len(t, w.rigging().Left.Steps, 1, "the sonar is what thieves like")
	require.NoError(t, w.Rigging.Leave(ctx, w.hand, store.NewID(), w.boat))
	assert.NotContains(t, names(), "sonar")
	_, err = w.Rigging.SaveSet(ctx, w.owner, store.NewID(), w.boat, uuid.Nil, 0, rigging.SetInput{Name: "twice",
		Lines: []model.RigLine{{FittingID: ids[2]}, {FittingID: ids[2]}}})
	assert.Contains(t, kindOf(t, err).Sentence, "twice")
	require.NoError(t, w.Rigging.RemoveSet(ctx, w.owner, w.boat, lake))
	assert.Len(t, w.rigging().Sets, 1)
}

func TestHeavyThingsSlideUntilTheyAreStrapped(t *testing.T) {
	w := newWorld(t)
	require.NoError(t, second(w.put(w.owner, w.cooler, &w.locker)))
	loose := w.rigging().Loose
	require.Len(t, loose, 1)
	assert.True(t, loose[0].Slides)
	assert.Contains(t, loose[0].Said, "it wants")
	eye := func(name string) rigging.FittingInput {
		in := cleat(name)
		in.Kind, in.Lies.Straps, in.Lies.Rated = "tie-down", &w.locker, 3000
		return in
	}
	w.mount(eye("one"))
	assert.Zero(t, w.rigging().Loose[0].Straps, "a strap has two ends")
	w.mount(eye("two"), eye("three"), eye("four"))
	now := w.rigging().Loose[0]
	assert.Equal(t, 2, now.Straps)
	assert.False(t, now.Slides, now.Said)
	in := eye("elsewhere")
	nowhere := store.NewID()
	in.Lies.Straps = &nowhere
	_, err := w.Rigging.Mount(ctx, w.owner, store.NewID(), w.boat, []rigging.FittingInput{in})
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
	require.NoError(
		t,
		w.Rigging.Set(
			ctx,
			w.owner,
			store.NewID(),
			w.boat,
			w.rigging().Version,
			model.RiggingInput{Deck: "plastic", DeckMM: 6},
		),
	)
	assert.Contains(t, w.rigging().Deck, "less than one of you")
}

func TestABatteryNeedsStrapsToo(t *testing.T) {
	w := newWorld(t)
	require.NoError(t, w.change(func(in *aboard.BoatInput) {
		in.Outfit.Masses = append(in.Outfit.Masses,
			model.FixedMass{Name: "battery", Kind: "battery", Kg: 26, At: model.Vec{0.6, 0, 0.4}, Known: "plate"})
	}))
	loose := w.rigging().Loose
	require.Len(t, loose, 1)
	assert.Nil(t, loose[0].GearID, "it is no gear")
	assert.True(t, loose[0].Slides)
	assert.Contains(t, loose[0].Said, "Battery, 26 kg in stern locker, slides")
	assert.NotContains(t, loose[0].Said, "Make a place")
	require.NoError(t, w.change(func(in *aboard.BoatInput) { in.Outfit.Masses[1].At[0] = 3.8 }))
	assert.Contains(t, w.rigging().Loose[0].Said, "Battery, 26 kg in no place, slides")
	assert.Contains(t, w.rigging().Loose[0].Said, "Make a place about it")
}

func TestATankIsNotDrilled(t *testing.T) {
	w := newWorld(t)
	require.NoError(t, w.change(func(in *aboard.BoatInput) {
		in.Outfit.Tanks = []model.TankInput{{Name: "main tank", Kind: "fuel", Size: model.Vec{0.6, 0.6, 0.3},
			Corner: model.Vec{2.5, -0.3, 0.1}, Fill: 0.5, Density: 740}}
	}))
	w.mount(at("eye", "tie-down", 2.8, 0, 0.35, model.Vec{0.1, 0.1, 0.1}))
	found := w.rigging().Findings
	require.NotEmpty(t, found)
	assert.Equal(t, "Eye stands 50 mm in the tank main tank: drill nothing there.", found[0].Said)
	assert.False(t, found[0].Note)
}

func TestATransducerIsToldWhereItsFaceBelongs(t *testing.T) {
	w := newWorld(t)
	in := cleat("sounder")
	in.Kind, in.Lies = "transducer", model.FittingLies{
		At:     model.Vec{-0.01, -0.2, 0.3},
		Size:   model.Vec{0.13, 0.05, 0.1},
		Stands: "out",
		Turn:   180,
	}
	id := w.mount(in)[0]
	said := func() (text, helps string) {
		for _, f := range w.rigging().Findings {
			if f.Kind == "transducer" {
				text, helps = text+f.Said, helps+f.Helps
			}
		}
		return text, helps
	}
	text, helps := said()
	assert.Contains(t, text, "over the bottom there")
	assert.Contains(t, text, "the propeller's water reaches it")
	assert.Contains(t, helps, "Set its face")
	// The bottom rises by 10 degrees from the keel: at 0.45 m it is 0.0793 m high.
	in.Lies.At = model.Vec{-0.01, -0.45, 0.45*0.17633 - 0.007 + 0.05}
	_, err := w.Rigging.Change(ctx, w.owner, store.NewID(), w.boat, id, 1, in)
	require.NoError(t, err)
	text, helps = said()
	assert.Empty(t, helps, text)
	assert.NotContains(t, text, "propeller")
}

func TestGroundTackleSaysWhatIsMissingAndWhatDoesNotGoIn(t *testing.T) {
	w := newWorld(t)
	set := func(r model.RodeInput) error {
		return w.Rigging.Set(ctx, w.owner, store.NewID(), w.boat, w.rigging().Version, model.RiggingInput{Rode: &r})
	}
	require.NoError(t, set(model.RodeInput{Chain: 10, ChainMM: 8, Rope: 20, RopeMM: 12, Depth: 10, Locker: &w.tray}))
	said := strings.Join(w.rigging().Anchor, " ")
	assert.Contains(t, said, "of rode are missing")
	assert.Contains(t, said, "Flaked down it takes")
	assert.Contains(t, said, "no second anchor")
	require.NoError(t, set(model.RodeInput{Chain: 30, ChainMM: 8, Rope: 200, RopeMM: 14, Depth: 10, Locker: &w.tray}))
	assert.Contains(t, strings.Join(w.rigging().Anchor, " "), "don't go into small tray")
	assert.Equal(t, refuse.Invalid, kindOf(t, set(model.RodeInput{Chain: -5})).Kind)
	nowhere := store.NewID()
	assert.Equal(t, refuse.NotFound, kindOf(t, set(model.RodeInput{Chain: 5, Locker: &nowhere})).Kind)
}

func TestLinesAndTheWorkingSide(t *testing.T) {
	w := newWorld(t)
	holder := func(name string, x, y, lean float64) rigging.FittingInput {
		in := cleat(name)
		turn := 90.0
		if y < 0 {
			turn = -90
		}
		in.Kind, in.Lies = "rod-holder", model.FittingLies{
			At:     model.Vec{x, y, 0.7},
			Size:   model.Vec{0.05, 0.05, 0.2},
			Stands: "down",
			Turn:   turn,
			Lean:   lean,
			Rod:    2,
		}
		return in
	}
	w.mount(holder("port", 0.5, 0.85, 30), holder("starboard", 0.5, -0.85, 30), holder("near port", 1.2, 0.85, 25))
	s := w.rigging().Spread
	require.Len(t, s.Lines, 3)
	assert.InDelta(t, 0.85+1, s.Lines[0].Y, 1e-6)
	assert.Contains(t, strings.Join(s.Said, " "), "tangle in a turn")
	assert.Empty(t, s.Side)
	_, err := w.Fleet.AddPost(
		ctx,
		w.owner,
		uuid.Nil,
		w.boat,
		fleet.PostInput{Name: "port rail", At: model.Vec{0.8, 0.5, 0.3}},
	)
	require.NoError(t, err)
	require.NoError(
		t,
		w.Rigging.Set(ctx, w.owner, store.NewID(), w.boat, w.rigging().Version, model.RiggingInput{Working: "port"}),
	)
	side := w.rigging().Spread.Side
	require.Len(t, side, 5)
	assert.True(t, side[0].Has, side[0].Said)
	assert.False(t, side[1].Has, side[1].Said)
}

func TestPlacesForTheSonarAreRankedByTheCrewsWeights(t *testing.T) {
	w := newWorld(t)
	list := w.rigging().Sonar
	require.Len(t, list, 4)
	for i, s := range list {
		assert.Len(t, s.Marks, 10)
		for _, m := range s.Marks {
			assert.NotEmpty(t, m.Why, m.Key)
		}
		if i > 0 {
			assert.LessOrEqual(t, s.Score, list[i-1].Score)
		}
	}
	weights := map[string]float64{}
	for _, m := range list[0].Marks {
		weights[m.Key] = 0
	}
	weights["hands_free"] = 5
	in := model.SonarInput{Weights: weights, Ratings: map[string]map[string]float64{"bow-motor": {"hands_free": 5}},
		Own: []model.SonarPlace{{Name: "on the cooler", At: model.Vec{2, 0, 0.6}, Kg: 3}}}
	set := func(in model.SonarInput) error {
		return w.Rigging.Set(ctx, w.owner, store.NewID(), w.boat, w.rigging().Version, model.RiggingInput{Sonar: &in})
	}
	require.NoError(t, set(in))
	now := w.rigging().Sonar
	require.Len(t, now, 5)
	assert.Equal(t, "bow-motor", now[0].Key)
	assert.InDelta(t, 100, now[0].Score, 1e-9)
	in.Ratings["bow-motor"]["hands_free"] = 9
	assert.Equal(t, refuse.Invalid, kindOf(t, set(in)).Kind)
	assert.Equal(t, refuse.Invalid, kindOf(t, set(model.SonarInput{Weights: map[string]float64{"colour": 1}})).Kind)
}

func TestWhatIsLongerThanAnyPlaceIsSaid(t *testing.T) {
	w := newWorld(t)
	w.make("push pole", 2, func(g *gear.GearInput) { g.Size = model.Vec{4, 0.04, 0.04} })
	assert.Contains(t, strings.Join(w.rigging().Long, " "), "Push pole, 4.0 m, is longer than any place")
}
