package app

import (
	"context"
	"errors"
	"math"
	"os"
	"strings"
	"testing"
	"time"

	"ergasia/core/float"
	"ergasia/core/hull"
	"ergasia/store"
	"ergasia/store/storetest"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"
)

var ctx = context.Background()

// world is a crew with a boat, two lockers, a post, and two pieces of gear.
type world struct {
	*App
	t                *testing.T
	owner, hand      Actor
	boat             uuid.UUID
	locker, tray     uuid.UUID
	post             uuid.UUID
	cooler, chartbox GearView
}

const password = "a long enough one"

func boatInput() BoatInput {
	return BoatInput{
		Name: "Test boat", Water: float.SeaWater,
		Hull: HullInput{Form: "vee", Measures: hull.Tape{"length_m": 5, "beam_m": 2, "transom_beam_m": 1.9, "chine_beam_m": 1.7,
			"transom_deadrise_deg": 10, "amidships_deadrise_deg": 12, "depth_aft_m": 0.7, "depth_amidships_m": 0.72, "depth_forward_m": 0.95,
			"forefoot_m": 1.5, "notch_m": 0.5, "rake_deg": 0}},
		Outfit: Outfit{Masses: []FixedMass{{Name: "hull", Kind: "hull", Kg: 400, At: Vec{2.1, 0, 0.4}, Known: "plate"}}, Tanks: []TankInput{}},
		Plate:  Plate{MaxKg: 500, MaxPersons: 5, Includes: []string{"persons", "gear"}, Source: "plate"},
		Limits: Limits{Freeboard: Limit{0.2, "skipper"}, Heel: Limit{2, "practice"}, TrimLow: Limit{0, "practice"}, TrimHigh: Limit{2, "practice"}},
	}
}

func gearInput(name string, kg float64) GearInput {
	return GearInput{Name: name, Size: Vec{0.4, 0.3, 0.3}, Kg: kg, MassKnown: "weighed", Count: 1, Turn: "upright"}
}

func newWorld(t *testing.T) *world {
	w := &world{App: New(storetest.New(t)), t: t}
	crew, owner, err := w.Found(ctx, "Test crew", "Ilse", "ilse", password)
	require.NoError(t, err)
	w.owner = Actor{Crew: crew, Member: owner, Role: Owner}
	w.hand = w.join("Sune", Hand)
	w.boat, err = w.SaveBoat(ctx, w.owner, uuid.Nil, uuid.Nil, 0, boatInput())
	require.NoError(t, err)
	place := func(name string, x float64, size Vec, dry string, max float64) uuid.UUID {
		id, err := w.SavePlace(ctx, w.owner, uuid.Nil, w.boat, uuid.Nil, 0,
			PlaceInput{Name: name, Corner: Vec{x, -0.3, 0.3}, Size: size, Dryness: dry, MaxKg: max})
		require.NoError(t, err)
		return id
	}
	w.locker = place("stern locker", 0.2, Vec{0.8, 0.6, 0.4}, "wet", 60)
	w.tray = place("small tray", 2, Vec{0.45, 0.35, 0.35}, "dry", 10)
	w.post, err = w.AddPost(ctx, w.owner, uuid.Nil, w.boat, PostInput{"helm", Vec{1.5, 0, 0.3}})
	require.NoError(t, err)
	w.cooler, err = w.SaveGear(ctx, w.owner, uuid.Nil, uuid.Nil, 0, gearInput("cooler", 30))
	require.NoError(t, err)
	dry := gearInput("chart box", 2)
	dry.NeedsDry = true
	w.chartbox, err = w.SaveGear(ctx, w.owner, uuid.Nil, uuid.Nil, 0, dry)
	require.NoError(t, err)
	return w
}

// join invites someone who accepts.
func (w *world) join(name string, role Role) Actor {
	link, err := w.Invite(ctx, w.owner, uuid.Nil, MemberInput{name, name[:1], 80, "guess"}, role)
	require.NoError(w.t, err)
	in, err := w.UseLink(ctx, link.Token, name, password)
	require.NoError(w.t, err)
	actor, err := w.Actor(ctx, in, w.owner.Crew, See)
	require.NoError(w.t, err)
	assert.Equal(w.t, role, actor.Role)
	return actor
}

func (w *world) put(who Actor, g GearView, place *uuid.UUID) (State, error) {
	return w.Move(ctx, who, store.NewID(), w.boat, MoveInput{GearID: &g.ID, PlaceID: place, Version: w.stowed(g).Version})
}

func (w *world) state() State {
	b, err := w.Bench(ctx, w.owner, w.boat)
	require.NoError(w.t, err)
	return b.State
}

func (w *world) stowed(g GearView) Stowed {
	for _, s := range w.state().Stowage {
		if s.GearID == g.ID {
			return s
		}
	}
	w.t.Fatal("no such gear")
	return Stowed{}
}

func kindOf(t *testing.T, err error) *Error {
	var refusal *Error
	require.ErrorAs(t, err, &refusal)
	return refusal
}

func TestAMoveChangesTheFiguresToWhatTheCoreComputes(t *testing.T) {
	w := newWorld(t)
	before := w.state().Now
	st, err := w.put(w.owner, w.cooler, &w.locker)
	require.NoError(t, err)
	in := boatInput()
	h, shell, err := in.Hull.shape()
	require.NoError(t, err)
	load := boatLoad(in.Outfit, in.Water, shell)
	// Alone in the locker it lies in the corner of least x and y, as it was measured.
	load.Masses = append(load.Masses, float.Mass{Kg: 30, At: Vec{0.2 + 0.2, -0.3 + 0.15, 0.45}.r3()})
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
	trial, err := w.Try(ctx, w.owner, w.boat, MoveInput{GearID: &w.cooler.ID, PlaceID: &w.locker})
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
	trial, err := w.Try(ctx, w.owner, w.boat, MoveInput{GearID: &w.cooler.ID, PlaceID: &w.tray})
	require.NoError(t, err)
	assert.NotEmpty(t, trial.Refused)
	assert.Nil(t, trial.Then)
	assert.Nil(t, w.state().Last)
}

func TestPeopleAtPostsCountAndSeatedLower(t *testing.T) {
	w := newWorld(t)
	move := MoveInput{MemberID: &w.hand.Member, PostID: &w.post}
	standing, err := w.Move(ctx, w.hand, store.NewID(), w.boat, move)
	require.NoError(t, err)
	assert.Equal(t, 1, standing.Now.Persons)
	move.Seated, move.Version = true, 1
	seated, err := w.Move(ctx, w.hand, store.NewID(), w.boat, move)
	require.NoError(t, err)
	assert.Less(t, seated.Now.Attitude.CG[2], standing.Now.Attitude.CG[2])
	assert.Greater(t, seated.Now.Attitude.GMT, standing.Now.Attitude.GMT)
}

func TestARepeatedWriteChangesNothingTwice(t *testing.T) {
	w := newWorld(t)
	key := store.NewID()
	move := MoveInput{GearID: &w.cooler.ID, PlaceID: &w.locker}
	first, err := w.Move(ctx, w.owner, key, w.boat, move)
	require.NoError(t, err)
	again, err := w.Move(ctx, w.owner, key, w.boat, move) // its version is stale by now
	require.NoError(t, err)
	assert.Equal(t, first.Stowage, again.Stowage)
	move.PlaceID = nil
	_, err = w.Move(ctx, w.owner, key, w.boat, move)
	assert.Equal(t, Invalid, kindOf(t, err).Kind, "a key is for one request")

	gearKey := store.NewID()
	one, err := w.SaveGear(ctx, w.owner, gearKey, uuid.Nil, 0, gearInput("bucket", 1))
	require.NoError(t, err)
	two, err := w.SaveGear(ctx, w.owner, gearKey, uuid.Nil, 0, gearInput("bucket", 1))
	require.NoError(t, err)
	assert.Equal(t, one, two)
	assert.Len(t, w.state().Stowage, 3)
}

func TestAStaleMoveIsRefusedWithThePresentState(t *testing.T) {
	w := newWorld(t)
	_, err := w.put(w.hand, w.cooler, &w.locker)
	require.NoError(t, err)
	_, err = w.Move(ctx, w.owner, store.NewID(), w.boat, MoveInput{GearID: &w.cooler.ID, Version: 0})
	refusal := kindOf(t, err)
	assert.Equal(t, Conflict, refusal.Kind)
	state, ok := refusal.State.(State)
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
	move := func(s *snapshot, tx *gorm.DB, who Actor) error {
		e, _, err := s.try(MoveInput{GearID: &w.cooler.ID, PlaceID: &w.locker})
		require.NoError(t, err)
		return s.moved(e, e.Became).keep(tx, who, &e)
	}
	var early *snapshot
	require.NoError(t, w.in(ctx, w.owner, func(tx *gorm.DB) (err error) {
		early, err = w.snapshot(tx, w.owner, w.boat)
		return err
	}))
	require.NoError(t, w.in(ctx, w.hand, func(tx *gorm.DB) error { return move(early, tx, w.hand) }))
	err := w.in(ctx, w.owner, func(tx *gorm.DB) error { return move(early, tx, w.owner) })
	assert.Equal(t, Conflict, kindOf(t, err).Kind)
	assert.Equal(t, 1, w.stowed(w.cooler).Version)
}

func TestPasswordsAreHashedAFewAtATime(t *testing.T) {
	a := &App{hashing: make(chan struct{}, 1)}
	a.hashing <- struct{}{}
	late, cancel := context.WithTimeout(ctx, time.Millisecond)
	defer cancel()
	_, err := a.compare(late, "x", nobody)
	assert.ErrorIs(t, err, context.DeadlineExceeded)
	<-a.hashing
	match, err := a.compare(ctx, "no such person", nobody)
	require.NoError(t, err)
	assert.True(t, match)
	assert.Empty(t, a.hashing, "the turn is given back")
}

func TestUndoAndRedoWalkOnesOwnMoves(t *testing.T) {
	w := newWorld(t)
	for _, place := range []*uuid.UUID{&w.locker, nil, &w.locker} {
		_, err := w.put(w.owner, w.cooler, place)
		require.NoError(t, err)
	}
	undo := func() State {
		st, err := w.Undo(ctx, w.owner, store.NewID(), w.boat)
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
	_, err := w.Undo(ctx, w.owner, store.NewID(), w.boat)
	assert.Contains(t, kindOf(t, err).Sentence, "nothing of yours to undo")
	for _, aboard := range []bool{true, false, true} {
		st, err = w.Redo(ctx, w.owner, store.NewID(), w.boat)
		require.NoError(t, err)
		assert.Equal(t, aboard, w.stowed(w.cooler).PlaceID != nil)
	}
	assert.False(t, st.CanRedo)
	undo()
	_, err = w.put(w.owner, w.chartbox, &w.tray)
	require.NoError(t, err)
	_, err = w.Redo(ctx, w.owner, store.NewID(), w.boat)
	assert.Error(t, err, "a new move ends what could be redone")
}

func TestUndoLeavesWhatSomeoneElseMovedSince(t *testing.T) {
	w := newWorld(t)
	_, err := w.put(w.owner, w.cooler, &w.locker)
	require.NoError(t, err)
	_, err = w.put(w.hand, w.cooler, nil)
	require.NoError(t, err)
	_, err = w.Undo(ctx, w.owner, store.NewID(), w.boat)
	assert.Equal(t, Conflict, kindOf(t, err).Kind)
	st, err := w.Undo(ctx, w.hand, store.NewID(), w.boat)
	require.NoError(t, err)
	assert.Equal(t, "undid: cooler → stern locker", st.Last.What)
}

func TestWrongSignInsAreLimitedAndTellNothing(t *testing.T) {
	w := newWorld(t)
	in, err := w.SignIn(ctx, " ILSE ", password, "10.0.0.1")
	require.NoError(t, err)
	assert.NotEqual(t, uuid.Nil, in.User)
	_, unknown := w.SignIn(ctx, "nobody", "something", "10.0.0.1")
	_, wrong := w.SignIn(ctx, "ilse", "something", "10.0.0.1")
	assert.Equal(t, kindOf(t, unknown).Sentence, kindOf(t, wrong).Sentence)
	for range failuresPerLogin {
		_, err = w.SignIn(ctx, "ilse", "something", "10.0.0.2")
	}
	require.Error(t, err)
	_, err = w.SignIn(ctx, "ilse", password, "10.0.0.3")
	assert.Equal(t, TooMany, kindOf(t, err).Kind, "even the right one waits")
	_, err = w.SignIn(ctx, "sune", password, "10.0.0.2")
	assert.NoError(t, err, "others do not")
	w.now = func() time.Time { return time.Now().Add(failureWindow + time.Minute) }
	_, err = w.SignIn(ctx, "ilse", password, "10.0.0.3")
	assert.NoError(t, err)
}

func TestLinksWorkOnceForAWeekAndTheLatestOnly(t *testing.T) {
	w := newWorld(t)
	link, err := w.ResetLink(ctx, w.owner, w.hand.Member)
	require.NoError(t, err)
	newer, err := w.ResetLink(ctx, w.owner, w.hand.Member)
	require.NoError(t, err)
	_, err = w.Held(ctx, link.Token)
	assert.Equal(t, NotFound, kindOf(t, err).Kind, "a newer link ends an older")
	held, err := w.Held(ctx, newer.Token)
	require.NoError(t, err)
	assert.Equal(t, LinkView{"reset", "Test crew", "Sune"}, held)
	_, err = w.UseLink(ctx, newer.Token, "", "short")
	assert.Contains(t, kindOf(t, err).Faults.Error(), "from 10 to 200 characters")
	in, err := w.UseLink(ctx, newer.Token, "", "another long one")
	require.NoError(t, err)
	_, err = w.UseLink(ctx, newer.Token, "", "another long one")
	assert.Equal(t, NotFound, kindOf(t, err).Kind)
	_, err = w.SignIn(ctx, "sune", password, "a")
	assert.Error(t, err)
	still, err := w.Still(ctx, in)
	require.NoError(t, err)
	assert.True(t, still)
	_, err = w.Actor(ctx, SignedIn{in.User, in.Epoch - 1}, w.owner.Crew, See)
	assert.Error(t, err, "sessions from before the reset have ended")
	late, err := w.ResetLink(ctx, w.owner, w.hand.Member)
	require.NoError(t, err)
	w.now = func() time.Time { return time.Now().Add(linkLife + time.Minute) }
	_, err = w.Held(ctx, late.Token)
	assert.Error(t, err)
}

func TestTheLastOwnerStaysOne(t *testing.T) {
	w := newWorld(t)
	_, err := w.GiveRole(ctx, w.owner, w.owner.Member, 1, Guest)
	assert.Contains(t, kindOf(t, err).Sentence, "needs an owner")
	m, err := w.GiveRole(ctx, w.owner, w.hand.Member, 1, Owner)
	require.NoError(t, err)
	assert.Equal(t, Owner, m.Role)
	_, err = w.GiveRole(ctx, w.owner, w.owner.Member, 1, Guest)
	assert.NoError(t, err)
}

func TestBadInputIsNamedAndNothingIsSaved(t *testing.T) {
	w := newWorld(t)
	before := w.state()
	long := strings.Repeat("x", 10000)
	boat := func(change func(*BoatInput)) error {
		in := boatInput()
		in.Name = "Other"
		change(&in)
		_, err := w.SaveBoat(ctx, w.owner, uuid.Nil, uuid.Nil, 0, in)
		return err
	}
	flat := [][2]float64{{0, 0}, {0, 1}}
	crossing := [][2]float64{{0, 0}, {1, 1}, {1, 0}, {0.2, 0.9}}
	gear := func(change func(*GearInput)) error {
		in := gearInput("thing", 1)
		change(&in)
		_, err := w.SaveGear(ctx, w.owner, uuid.Nil, uuid.Nil, 0, in)
		return err
	}
	place := func(change func(*PlaceInput)) error {
		in := PlaceInput{Name: "box", Size: Vec{0.1, 0.1, 0.1}, Dryness: "dry"}
		change(&in)
		_, err := w.SavePlace(ctx, w.owner, uuid.Nil, w.boat, uuid.Nil, 0, in)
		return err
	}
	for want, err := range map[string]error{
		"hull.measures.length_m is -5":                boat(func(in *BoatInput) { in.Hull.Measures["length_m"] = -5 }),
		"hull.measures.beam_m is NaN":                 boat(func(in *BoatInput) { in.Hull.Measures["beam_m"] = math.NaN() }),
		"either a form with its measures or stations": boat(func(in *BoatInput) { in.Hull.Form = "" }),
		"enclose no volume": boat(func(in *BoatInput) {
			in.Hull = HullInput{Stations: []StationInput{{X: 0, Half: flat}, {X: 5, Half: flat}}}
		}),
		"must be forward of the station before it, at 5": boat(func(in *BoatInput) {
			in.Hull = HullInput{Stations: []StationInput{{X: 5, Half: flat}, {X: 4, Half: flat}}}
		}),
		"crosses itself": boat(func(in *BoatInput) {
			in.Hull = HullInput{Stations: []StationInput{{X: 0, Half: crossing}, {X: 5, Half: crossing}}}
		}),
		"name is \"xxx":               boat(func(in *BoatInput) { in.Name = long }),
		"outfit.masses[0].kg is -400": boat(func(in *BoatInput) { in.Outfit.Masses[0].Kg = -400 }),
		"trim_low_deg.value is 3":     boat(func(in *BoatInput) { in.Limits.TrimLow.Value = 3 }),
		"is taken":                    boat(func(in *BoatInput) { in.Name = "Test boat" }),
		"size_m[1] is -0.3":           gear(func(in *GearInput) { in.Size[1] = -0.3 }),
		"size_m[0] is 400":            gear(func(in *GearInput) { in.Size[0] = 400 }),
		"kg is +Inf":                  gear(func(in *GearInput) { in.Kg = math.Inf(1) }),
		"must have from 1 to 80 characters, not 10000": gear(func(in *GearInput) { in.Name = long }),
		"control characters":                           gear(func(in *GearInput) { in.Name = "a\x00b" }),
		"corner_m[2] is NaN":                           place(func(in *PlaceInput) { in.Corner[2] = math.NaN() }),
		"must not be larger than the place":            place(func(in *PlaceInput) { in.Opening = [2]float64{1, 1} }),
	} {
		refusal := kindOf(t, err)
		assert.Equal(t, Invalid, refusal.Kind)
		assert.Contains(t, refusal.Faults.Error(), want)
	}
	someone := store.NewID()
	_, err := w.SaveGear(ctx, w.owner, uuid.Nil, uuid.Nil, 0, GearInput{Name: "x", OwnerID: &someone, Size: Vec{1, 1, 1}, MassKnown: "guess", Count: 1, Turn: "any"})
	assert.Equal(t, NotFound, kindOf(t, err).Kind)
	assert.Equal(t, before, w.state(), "and nothing was changed")
}

func TestStaleEditsAreRefusedWithThePresent(t *testing.T) {
	w := newWorld(t)
	in := gearInput("cooler, new lid", 31)
	now, err := w.SaveGear(ctx, w.owner, uuid.Nil, w.cooler.ID, 1, in)
	require.NoError(t, err)
	_, err = w.SaveGear(ctx, w.hand, uuid.Nil, w.cooler.ID, 1, gearInput("cooler, no lid", 29))
	refusal := kindOf(t, err)
	assert.Equal(t, Conflict, refusal.Kind)
	assert.Equal(t, now, refusal.State)
	_, err = w.SaveBoat(ctx, w.owner, uuid.Nil, w.boat, 9, boatInput())
	assert.Equal(t, Conflict, kindOf(t, err).Kind)
	_, err = w.SavePlace(ctx, w.owner, uuid.Nil, w.boat, w.tray, 9, PlaceInput{Name: "tray", Size: Vec{1, 1, 1}, Dryness: "dry"})
	assert.Equal(t, Conflict, kindOf(t, err).Kind)
	_, err = w.ChangeMember(ctx, w.owner, w.hand.Member, 9, MemberInput{"Sune", "S", 80, "guess"})
	assert.Equal(t, Conflict, kindOf(t, err).Kind)
}

func TestAChangedBoatFloatsByItsNewLines(t *testing.T) {
	w := newWorld(t)
	before := w.state().Now.Attitude.Lowest.M
	in := boatInput()
	in.Outfit.Masses[0].Kg = 600
	_, err := w.SaveBoat(ctx, w.owner, uuid.Nil, w.boat, 1, in)
	require.NoError(t, err)
	assert.Less(t, w.state().Now.Attitude.Lowest.M, before-0.02)
}

func TestFullPlacesAndPostsAreNotRemoved(t *testing.T) {
	w := newWorld(t)
	_, err := w.put(w.owner, w.cooler, &w.locker)
	require.NoError(t, err)
	assert.Equal(t, Refused, kindOf(t, w.RemovePlace(ctx, w.owner, w.boat, w.locker)).Kind)
	assert.NoError(t, w.RemovePlace(ctx, w.owner, w.boat, w.tray))
	require.NoError(t, w.RemoveGear(ctx, w.owner, w.cooler.ID))
	assert.NoError(t, w.RemovePlace(ctx, w.owner, w.boat, w.locker))
	assert.Equal(t, NotFound, kindOf(t, w.RemovePlace(ctx, w.owner, w.boat, w.locker)).Kind)
}

func TestAPlaceThatLeavesTheHullIsFlagged(t *testing.T) {
	w := newWorld(t)
	_, err := w.SavePlace(ctx, w.owner, uuid.Nil, w.boat, uuid.Nil, 0, PlaceInput{Name: "too far out", Corner: Vec{1, 0.5, 0.3}, Size: Vec{0.5, 0.8, 0.3}, Dryness: "dry"})
	require.NoError(t, err, "it is kept, and flagged")
	b, err := w.Bench(ctx, w.owner, w.boat)
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

func TestTheRolesTableOfTheDocsIsTheProgramsOwn(t *testing.T) {
	text, err := os.ReadFile("../docs/roles.md")
	require.NoError(t, err)
	rows := 0
	for line := range strings.Lines(string(text)) {
		cells := strings.Split(strings.Trim(strings.TrimSpace(line), "|"), "|")
		if len(cells) != 5 {
			continue
		}
		action := Action(strings.TrimSpace(cells[0]))
		if _, known := allowed[action]; !known {
			continue
		}
		rows++
		for i, role := range Roles {
			assert.Equal(t, Allowed(role, action), strings.TrimSpace(cells[i+1]) == "yes", "%s: %s", role, action)
		}
	}
	assert.Equal(t, len(allowed), rows, "every action has a row")
}

func TestAForgottenErrorIsNotARefusal(t *testing.T) {
	assert.NoError(t, invalid(nil))
	assert.ErrorIs(t, invalid(gorm.ErrInvalidDB), gorm.ErrInvalidDB)
	var refusal *Error
	assert.False(t, errors.As(invalid(gorm.ErrInvalidDB), &refusal))
}
