package app_test

import (
	"context"
	"errors"
	"math"
	"strings"
	"testing"
	"time"

	"ergasia/app"
	"ergasia/app/aboard"
	"ergasia/app/crew"
	"ergasia/app/fleet"
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/where"
	"ergasia/core/float"
	"ergasia/core/hull"
	"ergasia/store"
	"ergasia/store/model"
	"ergasia/store/storetest"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var ctx = context.Background()

// world is a crew with a boat, two lockers, a post, and two pieces of gear.
type world struct {
	*app.App
	t                *testing.T
	owner, hand      kernel.Actor
	boat             uuid.UUID
	locker, tray     uuid.UUID
	post             uuid.UUID
	cooler, chartbox gear.GearView
}

const password = "a long enough one"

func boatInput() aboard.BoatInput {
	return aboard.BoatInput{
		Name: "Test boat", Water: float.SeaWater,
		Hull: model.HullInput{Form: "vee", Measures: hull.Tape{"length_m": 5, "beam_m": 2, "transom_beam_m": 1.9,
			"chine_beam_m":         1.7,
			"transom_deadrise_deg": 10, "amidships_deadrise_deg": 12, "depth_aft_m": 0.7, "depth_amidships_m": 0.72,
			"depth_forward_m": 0.95,
			"forefoot_m":      1.5, "notch_m": 0.5, "rake_deg": 0}},
		Outfit: model.Outfit{Masses: []model.FixedMass{{Name: "hull", Kind: "hull", Kg: 400, At: model.Vec{2.1, 0, 0.4},
			Known: "plate"}}, Tanks: []model.TankInput{}},
		Plate: model.Plate{MaxKg: 500, MaxPersons: 5, Includes: []string{"persons", "gear"}, Source: "plate"},
		Limits: model.Limits{Freeboard: model.Limit{Value: 0.2, Source: "skipper"},
			Heel: model.Limit{Value: 2, Source: "practice"}, TrimLow: model.Limit{Value: 0, Source: "practice"},
			TrimHigh: model.Limit{Value: 2, Source: "practice"}},
	}
}

func gearInput(name string, kg float64) gear.GearInput {
	return gear.GearInput{Name: name, Size: model.Vec{0.4, 0.3, 0.3}, Kg: kg, MassKnown: "weighed", Count: 1,
		Turn: "upright"}
}

func newWorld(t *testing.T) *world {
	w := &world{App: app.New(storetest.New(t)), t: t}
	crew, owner, err := w.Crew.Found(ctx, "Test crew", "Ilse", "ilse", password)
	require.NoError(t, err)
	w.owner = kernel.Actor{Crew: crew, Member: owner, Role: kernel.Owner}
	w.hand = w.join("Sune", kernel.Hand)
	w.boat, err = w.Fleet.SaveBoat(ctx, w.owner, uuid.Nil, uuid.Nil, 0, boatInput())
	require.NoError(t, err)
	place := func(name string, x float64, size model.Vec, dry string, max float64) uuid.UUID {
		id, err := w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, uuid.Nil, 0,
			fleet.PlaceInput{Name: name, Corner: model.Vec{x, -0.3, 0.3}, Size: size, Dryness: dry, MaxKg: max})
		require.NoError(t, err)
		return id
	}
	w.locker = place("stern locker", 0.2, model.Vec{0.8, 0.6, 0.4}, "wet", 60)
	w.tray = place("small tray", 2, model.Vec{0.45, 0.35, 0.35}, "dry", 10)
	w.post, err = w.Fleet.AddPost(ctx, w.owner, uuid.Nil, w.boat, fleet.PostInput{Name: "helm",
		At: model.Vec{1.5, 0, 0.3}})
	require.NoError(t, err)
	w.cooler, err = w.Gear.SaveGear(ctx, w.owner, uuid.Nil, uuid.Nil, 0, gearInput("cooler", 30))
	require.NoError(t, err)
	dry := gearInput("chart box", 2)
	dry.NeedsDry = true
	w.chartbox, err = w.Gear.SaveGear(ctx, w.owner, uuid.Nil, uuid.Nil, 0, dry)
	require.NoError(t, err)
	return w
}

// join invites someone who accepts.
func (w *world) join(name string, role kernel.Role) kernel.Actor {
	link, err := w.Crew.Invite(ctx, w.owner, uuid.Nil, crew.MemberInput{Name: name, Mark: name[:1], Kg: 80,
		MassKnown: "guess"}, role)
	require.NoError(w.t, err)
	in, _, err := w.Crew.UseLink(ctx, link.Token, name, password)
	require.NoError(w.t, err)
	actor, err := w.Crew.Actor(ctx, in, w.owner.Crew, kernel.See)
	require.NoError(w.t, err)
	assert.Equal(w.t, role, actor.Role)
	return actor
}

func (w *world) put(who kernel.Actor, g gear.GearView, place *uuid.UUID) (where.State, error) {
	return w.Where.Move(ctx, who, store.NewID(), w.boat, aboard.MoveInput{GearID: &g.ID, PlaceID: place,
		Version: w.stowed(g).Version})
}

func (w *world) state() where.State {
	b, err := w.Stowing.Bench(ctx, w.owner, w.boat)
	require.NoError(w.t, err)
	return b.State
}

func (w *world) stowed(g gear.GearView) aboard.Stowed {
	for _, s := range w.state().Stowage {
		if s.GearID == g.ID {
			return s
		}
	}
	w.t.Fatal("no such gear")
	return aboard.Stowed{}
}

func kindOf(t *testing.T, err error) *refuse.Error {
	var refusal *refuse.Error
	require.ErrorAs(t, err, &refusal)
	return refusal
}

func TestAMoveChangesTheFiguresToWhatTheCoreComputes(t *testing.T) {
	w := newWorld(t)
	before := w.state().Now
	st, err := w.put(w.owner, w.cooler, &w.locker)
	require.NoError(t, err)
	in := boatInput()
	h, shell, err := aboard.ShapeOf(in.Hull)
	require.NoError(t, err)
	load := aboard.BoatLoad(in.Outfit, in.Water, shell)
	// Alone in the locker it lies in the corner of least x and y, as it was measured.
	load.Masses = append(load.Masses, float.Mass{Kg: 30, At: model.Vec{0.2 + 0.2, -0.3 + 0.15, 0.45}.R3()})
	want := float.NewBoat(shell, h.FloodPoints).Solve(load, nil).Figures
	assert.InDelta(t, want.Lowest.M, st.Now.Attitude.Lowest.M, 1e-9)
	assert.InDelta(t, want.TrimDeg, st.Now.Attitude.TrimDeg, 1e-9)
	assert.InDelta(t, want.HeelDeg, st.Now.Attitude.HeelDeg, 1e-9)
	assert.Greater(t, before.Attitude.Lowest.M, st.Now.Attitude.Lowest.M, "the stern went down")
	assert.InDelta(t, before.Attitude.Lowest.M, st.Before.Attitude.Lowest.M, 1e-12)
	assert.Equal(t, "cooler → stern locker", st.Last.What)
	assert.Equal(t, st.Now, w.state().Now, "and it is kept")
}

func TestATrialChangesNothing(t *testing.T) {
	w := newWorld(t)
	trial, err := w.Where.Try(ctx, w.owner, w.boat, aboard.MoveInput{GearID: &w.cooler.ID, PlaceID: &w.locker})
	require.NoError(t, err)
	assert.Less(t, trial.Then.Attitude.Lowest.M, trial.Now.Attitude.Lowest.M)
	assert.Nil(t, w.stowed(w.cooler).PlaceID)
	made, err := w.put(w.owner, w.cooler, &w.locker)
	require.NoError(t, err)
	assert.Equal(t, *trial.Then, made.Now, "what was foretold is what came")
}

func TestRefusedMovesSayWhyAndChangeNothing(t *testing.T) {
	w := newWorld(t)
	_, err := w.put(w.owner, w.chartbox, &w.locker)
	assert.Contains(t, kindOf(t, err).Sentence, "must stay dry")
	_, err = w.put(w.owner, w.cooler, &w.tray)
	assert.Contains(t, kindOf(t, err).Sentence, "carries 10.0 kg at most")
	trial, err := w.Where.Try(ctx, w.owner, w.boat, aboard.MoveInput{GearID: &w.cooler.ID, PlaceID: &w.tray})
	require.NoError(t, err)
	assert.NotEmpty(t, trial.Refused)
	assert.Nil(t, trial.Then)
	assert.Nil(t, w.state().Last)
}

func TestPeopleAtPostsCountAndSeatedLower(t *testing.T) {
	w := newWorld(t)
	move := aboard.MoveInput{MemberID: &w.hand.Member, PostID: &w.post}
	standing, err := w.Where.Move(ctx, w.hand, store.NewID(), w.boat, move)
	require.NoError(t, err)
	assert.Equal(t, 1, standing.Now.Persons)
	move.Seated, move.Version = true, 1
	seated, err := w.Where.Move(ctx, w.hand, store.NewID(), w.boat, move)
	require.NoError(t, err)
	assert.Less(t, seated.Now.Attitude.CG[2], standing.Now.Attitude.CG[2])
	assert.Greater(t, seated.Now.Attitude.GMT, standing.Now.Attitude.GMT)
}

func TestARepeatedWriteChangesNothingTwice(t *testing.T) {
	w := newWorld(t)
	key := store.NewID()
	move := aboard.MoveInput{GearID: &w.cooler.ID, PlaceID: &w.locker}
	first, err := w.Where.Move(ctx, w.owner, key, w.boat, move)
	require.NoError(t, err)
	again, err := w.Where.Move(ctx, w.owner, key, w.boat, move) // its version is stale by now
	require.NoError(t, err)
	assert.Equal(t, first.Stowage, again.Stowage)
	move.PlaceID = nil
	_, err = w.Where.Move(ctx, w.owner, key, w.boat, move)
	assert.Equal(t, refuse.Invalid, kindOf(t, err).Kind, "a key is for one request")

	gearKey := store.NewID()
	one, err := w.Gear.SaveGear(ctx, w.owner, gearKey, uuid.Nil, 0, gearInput("bucket", 1))
	require.NoError(t, err)
	two, err := w.Gear.SaveGear(ctx, w.owner, gearKey, uuid.Nil, 0, gearInput("bucket", 1))
	require.NoError(t, err)
	assert.Equal(t, one, two)
	assert.Len(t, w.state().Stowage, 3)
}

func TestAStaleMoveIsRefusedWithThePresentState(t *testing.T) {
	w := newWorld(t)
	_, err := w.put(w.hand, w.cooler, &w.locker)
	require.NoError(t, err)
	_, err = w.Where.Move(ctx, w.owner, store.NewID(), w.boat, aboard.MoveInput{GearID: &w.cooler.ID, Version: 0})
	refusal := kindOf(t, err)
	assert.Equal(t, refuse.Conflict, refusal.Kind)
	state, ok := refusal.State.(where.State)
	require.True(t, ok)
	assert.Equal(t, w.state().Stowage, state.Stowage)
	assert.NotNil(t, w.stowed(w.cooler).PlaceID)
	_, err = w.put(w.owner, w.chartbox, &w.locker)
	assert.Nil(t, kindOf(t, err).State, "a refusal by a rule of the boat has no state to show")
}

// Two moves of one piece that both saw it unmoved, under different boats'
// locks: the second to be kept is refused.
func TestAPieceCannotBeMovedTwiceFromTheSameSight(t *testing.T) {
	w := newWorld(t)
	move := func(s *aboard.Laden, tx *store.Tx, who kernel.Actor) error {
		e, _, err := s.Try(aboard.MoveInput{GearID: &w.cooler.ID, PlaceID: &w.locker}, model.Whereabouts{Kind: "boat",
			BoatID: &w.boat, PlaceID: &w.locker})
		require.NoError(t, err)
		_, err = where.Write(tx, who, s, e)
		return err
	}
	var early *aboard.Laden
	require.NoError(t, w.Kernel.In(ctx, w.owner, func(tx *store.Tx) (err error) {
		early, err = w.Where.Laden(tx, w.owner, w.boat)
		return err
	}))
	require.NoError(t, w.Kernel.Write(ctx, w.hand, func(tx *store.Tx) error { return move(early, tx, w.hand) }))
	err := w.Kernel.Write(ctx, w.owner, func(tx *store.Tx) error { return move(early, tx, w.owner) })
	assert.Equal(t, refuse.Conflict, kindOf(t, err).Kind)
	assert.Equal(t, 1, w.stowed(w.cooler).Version)
}

func TestUndoAndRedoWalkOnesOwnMoves(t *testing.T) {
	w := newWorld(t)
	for _, place := range []*uuid.UUID{&w.locker, nil, &w.locker} {
		_, err := w.put(w.owner, w.cooler, place)
		require.NoError(t, err)
	}
	undo := func() where.State {
		st, err := w.Where.Undo(ctx, w.owner, store.NewID(), w.boat)
		require.NoError(t, err)
		return st
	}
	undo()
	assert.Nil(t, w.stowed(w.cooler).PlaceID)
	undo()
	st := undo()
	assert.Nil(t, w.stowed(w.cooler).PlaceID)
	assert.False(t, st.CanUndo)
	assert.True(t, st.CanRedo)
	_, err := w.Where.Undo(ctx, w.owner, store.NewID(), w.boat)
	assert.Contains(t, kindOf(t, err).Sentence, "nothing of yours to undo")
	for _, aboard := range []bool{true, false, true} {
		st, err = w.Where.Redo(ctx, w.owner, store.NewID(), w.boat)
		require.NoError(t, err)
		assert.Equal(t, aboard, w.stowed(w.cooler).PlaceID != nil)
	}
	assert.False(t, st.CanRedo)
	undo()
	_, err = w.put(w.owner, w.chartbox, &w.tray)
	require.NoError(t, err)
	_, err = w.Where.Redo(ctx, w.owner, store.NewID(), w.boat)
	assert.Error(t, err, "a new move ends what could be redone")
}

func TestUndoLeavesWhatSomeoneElseMovedSince(t *testing.T) {
	w := newWorld(t)
	_, err := w.put(w.owner, w.cooler, &w.locker)
	require.NoError(t, err)
	_, err = w.put(w.hand, w.cooler, nil)
	require.NoError(t, err)
	_, err = w.Where.Undo(ctx, w.owner, store.NewID(), w.boat)
	assert.Equal(t, refuse.Conflict, kindOf(t, err).Kind)
	st, err := w.Where.Undo(ctx, w.hand, store.NewID(), w.boat)
	require.NoError(t, err)
	assert.Equal(t, "undid: cooler → stern locker", st.Last.What)
}

func TestLinksWorkOnceForAWeekAndTheLatestOnly(t *testing.T) {
	w := newWorld(t)
	link, err := w.Crew.ResetLink(ctx, w.owner, w.hand.Member)
	require.NoError(t, err)
	newer, err := w.Crew.ResetLink(ctx, w.owner, w.hand.Member)
	require.NoError(t, err)
	_, err = w.Crew.Held(ctx, link.Token)
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind, "a newer link ends an older")
	held, err := w.Crew.Held(ctx, newer.Token)
	require.NoError(t, err)
	assert.Equal(t, crew.LinkView{Kind: "reset", Crew: "Test crew", Name: "Sune"}, held)
	before, err := w.signIn("sune", password, "a", "")
	require.NoError(t, err)
	_, _, err = w.Crew.UseLink(ctx, newer.Token, "", "short")
	assert.Contains(t, kindOf(t, err).Faults.Error(), "from 10 to 200 characters")
	in, _, err := w.Crew.UseLink(ctx, newer.Token, "", "another long one")
	require.NoError(t, err)
	_, _, err = w.Crew.UseLink(ctx, newer.Token, "", "another long one")
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
	_, err = w.signIn("sune", password, "a", "")
	assert.Error(t, err)
	still, err := w.Crew.Still(ctx, in)
	require.NoError(t, err)
	assert.True(t, still)
	still, err = w.Crew.Still(ctx, before)
	require.NoError(t, err)
	assert.False(t, still, "sessions from before the reset have ended")
	_, err = w.Crew.Actor(ctx, before, w.owner.Crew, kernel.See)
	assert.Error(t, err, "and act no more")
	late, err := w.Crew.ResetLink(ctx, w.owner, w.hand.Member)
	require.NoError(t, err)
	w.Kernel.Now = func() time.Time { return time.Now().Add(crew.LinkLife + time.Minute) }
	_, err = w.Crew.Held(ctx, late.Token)
	assert.Error(t, err)
}

func TestTheLastOwnerStaysOne(t *testing.T) {
	w := newWorld(t)
	_, err := w.Crew.GiveRole(ctx, w.owner, w.owner.Member, 1, kernel.Guest)
	assert.Contains(t, kindOf(t, err).Sentence, "needs an owner")
	m, err := w.Crew.GiveRole(ctx, w.owner, w.hand.Member, 1, kernel.Owner)
	require.NoError(t, err)
	assert.Equal(t, kernel.Owner, m.Role)
	_, err = w.Crew.GiveRole(ctx, w.owner, w.owner.Member, 1, kernel.Guest)
	assert.NoError(t, err)
}

func TestBadInputIsNamedAndNothingIsSaved(t *testing.T) {
	w := newWorld(t)
	before := w.state()
	long := strings.Repeat("x", 10000)
	boat := func(change func(*aboard.BoatInput)) error {
		in := boatInput()
		in.Name = "Other"
		change(&in)
		_, err := w.Fleet.SaveBoat(ctx, w.owner, uuid.Nil, uuid.Nil, 0, in)
		return err
	}
	flat := [][2]float64{{0, 0}, {0, 1}}
	crossing := [][2]float64{{0, 0}, {1, 1}, {1, 0}, {0.2, 0.9}}
	piece := func(change func(*gear.GearInput)) error {
		in := gearInput("thing", 1)
		change(&in)
		_, err := w.Gear.SaveGear(ctx, w.owner, uuid.Nil, uuid.Nil, 0, in)
		return err
	}
	place := func(change func(*fleet.PlaceInput)) error {
		in := fleet.PlaceInput{Name: "box", Size: model.Vec{0.1, 0.1, 0.1}, Dryness: "dry"}
		change(&in)
		_, err := w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, uuid.Nil, 0, in)
		return err
	}
	for want, err := range map[string]error{
		"hull.measures.length_m is -5":                boat(func(in *aboard.BoatInput) { in.Hull.Measures["length_m"] = -5 }),
		"hull.measures.beam_m is NaN":                 boat(func(in *aboard.BoatInput) { in.Hull.Measures["beam_m"] = math.NaN() }),
		"either a form with its measures or stations": boat(func(in *aboard.BoatInput) { in.Hull.Form = "" }),
		"enclose no volume": boat(func(in *aboard.BoatInput) {
			in.Hull = model.HullInput{Stations: []model.StationInput{{X: 0, Half: flat}, {X: 5, Half: flat}}}
		}),
		"must be forward of the station before it, at 5": boat(func(in *aboard.BoatInput) {
			in.Hull = model.HullInput{Stations: []model.StationInput{{X: 5, Half: flat}, {X: 4, Half: flat}}}
		}),
		"crosses itself": boat(func(in *aboard.BoatInput) {
			in.Hull = model.HullInput{Stations: []model.StationInput{{X: 0, Half: crossing}, {X: 5, Half: crossing}}}
		}),
		"name is \"xxx":               boat(func(in *aboard.BoatInput) { in.Name = long }),
		"outfit.masses[0].kg is -400": boat(func(in *aboard.BoatInput) { in.Outfit.Masses[0].Kg = -400 }),
		"trim_low_deg.value is 3":     boat(func(in *aboard.BoatInput) { in.Limits.TrimLow.Value = 3 }),
		"is taken":                    boat(func(in *aboard.BoatInput) { in.Name = "Test boat" }),
		"size_m[1] is -0.3":           piece(func(in *gear.GearInput) { in.Size[1] = -0.3 }),
		"size_m[0] is 400":            piece(func(in *gear.GearInput) { in.Size[0] = 400 }),
		"kg is +Inf":                  piece(func(in *gear.GearInput) { in.Kg = math.Inf(1) }),
		"must have from 1 to 80 characters, not 10000": piece(func(in *gear.GearInput) { in.Name = long }),
		"control characters":                           piece(func(in *gear.GearInput) { in.Name = "a\x00b" }),
		"corner_m[2] is NaN":                           place(func(in *fleet.PlaceInput) { in.Corner[2] = math.NaN() }),
		"must not be larger than the place":            place(func(in *fleet.PlaceInput) { in.Opening = [2]float64{1, 1} }),
	} {
		refusal := kindOf(t, err)
		assert.Equal(t, refuse.Invalid, refusal.Kind)
		assert.Contains(t, refusal.Faults.Error(), want)
	}
	someone := store.NewID()
	_, err := w.Gear.SaveGear(ctx, w.owner, uuid.Nil, uuid.Nil, 0, gear.GearInput{Name: "x", OwnerID: &someone,
		Size: model.Vec{1, 1, 1}, MassKnown: "guess", Count: 1, Turn: "any"})
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
	assert.Equal(t, before, w.state(), "and nothing was changed")
}

func TestStaleEditsAreRefusedWithThePresent(t *testing.T) {
	w := newWorld(t)
	in := gearInput("cooler, new lid", 31)
	now, err := w.Gear.SaveGear(ctx, w.owner, uuid.Nil, w.cooler.ID, 1, in)
	require.NoError(t, err)
	_, err = w.Gear.SaveGear(ctx, w.hand, uuid.Nil, w.cooler.ID, 1, gearInput("cooler, no lid", 29))
	refusal := kindOf(t, err)
	assert.Equal(t, refuse.Conflict, refusal.Kind)
	assert.Equal(t, now, refusal.State)
	_, err = w.Fleet.SaveBoat(ctx, w.owner, uuid.Nil, w.boat, 9, boatInput())
	assert.Equal(t, refuse.Conflict, kindOf(t, err).Kind)
	_, err = w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, w.tray, 9, fleet.PlaceInput{Name: "tray",
		Size: model.Vec{1, 1, 1}, Dryness: "dry"})
	assert.Equal(t, refuse.Conflict, kindOf(t, err).Kind)
	_, err = w.Crew.ChangeMember(ctx, w.owner, w.hand.Member, 9, crew.MemberInput{Name: "Sune", Mark: "S", Kg: 80,
		MassKnown: "guess"})
	assert.Equal(t, refuse.Conflict, kindOf(t, err).Kind)
}

func TestAChangedBoatFloatsByItsNewLines(t *testing.T) {
	w := newWorld(t)
	before := w.state().Now.Attitude.Lowest.M
	in := boatInput()
	in.Outfit.Masses[0].Kg = 600
	_, err := w.Fleet.SaveBoat(ctx, w.owner, uuid.Nil, w.boat, 1, in)
	require.NoError(t, err)
	assert.Less(t, w.state().Now.Attitude.Lowest.M, before-0.02)
}

func TestFullPlacesAndPostsAreNotRemoved(t *testing.T) {
	w := newWorld(t)
	_, err := w.put(w.owner, w.cooler, &w.locker)
	require.NoError(t, err)
	assert.Equal(t, refuse.Refused, kindOf(t, w.Fleet.RemovePlace(ctx, w.owner, w.boat, w.locker)).Kind)
	assert.NoError(t, w.Fleet.RemovePlace(ctx, w.owner, w.boat, w.tray))
	require.NoError(t, w.Gear.RemoveGear(ctx, w.owner, w.cooler.ID))
	assert.NoError(t, w.Fleet.RemovePlace(ctx, w.owner, w.boat, w.locker))
	assert.Equal(t, refuse.NotFound, kindOf(t, w.Fleet.RemovePlace(ctx, w.owner, w.boat, w.locker)).Kind)
}

func TestAPlaceThatLeavesTheHullIsFlagged(t *testing.T) {
	w := newWorld(t)
	_, err := w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, uuid.Nil, 0, fleet.PlaceInput{Name: "too far out",
		Corner: model.Vec{1, 0.5, 0.3}, Size: model.Vec{0.5, 0.8, 0.3}, Dryness: "dry"})
	require.NoError(t, err, "it is kept, and flagged")
	b, err := w.Stowing.Bench(ctx, w.owner, w.boat)
	require.NoError(t, err)
	flagged := 0
	for _, p := range b.Places {
		if p.LeavesBy > 0 {
			flagged++
			assert.Equal(t, "too far out", p.Name)
			assert.Equal(t, "through the side", p.Leaves)
			assert.InDelta(t, 0.4, p.LeavesBy, 0.1)
		}
	}
	assert.Equal(t, 1, flagged)
}

func TestAForgottenErrorIsNotARefusal(t *testing.T) {
	assert.NoError(t, refuse.Faulty(nil))
	assert.ErrorIs(t, refuse.Faulty(store.ErrTaken), store.ErrTaken)
	var refusal *refuse.Error
	assert.False(t, errors.As(refuse.Faulty(store.ErrTaken), &refusal))
}
