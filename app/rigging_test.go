package app_test

import (
	"strings"
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/fleet"
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
