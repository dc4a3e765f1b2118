package app_test

import (
	"encoding/json"
	"math"
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/fleet"
	"ergasia/app/floating"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/float"
	"ergasia/core/hull"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
)

// board puts the owner at the helm, standing.
func (w *world) board(who kernel.Actor) {
	version := 0
	for _, s := range w.state().People {
		if s.MemberID == who.Member {
			version = s.Version
		}
	}
	_, err := w.Where.Move(ctx, w.owner, store.NewID(), w.boat, aboard.MoveInput{MemberID: &who.Member, PostID: &w.post,
		Version: version})
	require.NoError(w.t, err)
}

func (w *world) report(what floating.WhatIf) floating.FloatReport {
	r, err := w.Floating.Float(ctx, w.hand, w.boat, what)
	require.NoError(w.t, err)
	return r
}

// real is the boat as the crew's ledger has her, for readings of the truth.
func (w *world) real() (*float.Boat, float.Load) {
	in := w.boatView().BoatInput
	h, shell, err := aboard.ShapeOf(in.Hull)
	require.NoError(w.t, err)
	boat, err := float.NewCraft(h)
	require.NoError(w.t, err)
	return boat, aboard.BoatLoad(in.Outfit, in.Water, shell)
}

func TestTheReportIsWhatTheCoreComputes(t *testing.T) {
	w := newWorld(t)
	boat, l := w.real()
	r := w.report(floating.WhatIf{})
	f := boat.Solve(l, nil).Figures
	assert.InDelta(t, f.Lowest.M, r.Now.Attitude.Lowest.M, 1e-12)
	bands := boat.Bands(l, f)
	assert.InDelta(t, bands.Lowest, r.Band.Lowest, 1e-12)
	assert.Equal(t, "hull", r.Band.Behind[0].Name)
	require.Len(t, r.Curves, 2)
	c := boat.Curves(l, 90, 18)[0]
	assert.InDelta(t, c.Flood, *r.Curves[0].FloodDeg, 1e-9)
	assert.InDelta(t, c.Levers[4].GZ, *r.Curves[0].Points[4].GZ, 1e-12)
	assert.InDelta(t, *r.Curves[0].Points[4].GZ, *r.Curves[1].Points[4].GZ, 1e-6,
		"a boat with nobody aboard is alike on both sides")
	assert.Len(t, r.Wind, 3)
	assert.Len(t, w.report(floating.WhatIf{WindMS: 30}).Wind, 4)
	assert.InDelta(t, f.DisplacementKg*f.GMT*math.Pi/180, r.HeelMoment, 1e-9)
	assert.Equal(t, "transom notch", r.Openings[0].Name)
	assert.True(t, r.Capacity.Applies, r.Capacity.Why)
}

// A boat that sinks under her load has a report too: no figures, and no list that
// a page could stumble over.
func TestABoatThatSinksHasAReport(t *testing.T) {
	w := newWorld(t)
	require.NoError(t, w.change(func(in *aboard.BoatInput) { in.Outfit.Masses[0].Kg = 20000 }))
	r := w.report(floating.WhatIf{WindMS: 20, BilgeLitres: 10})
	assert.EqualValues(t, "swamped", r.Now.Status)
	assert.Contains(t, r.Now.Why, "more than her whole hull can carry")
	text, err := json.Marshal(r)
	require.NoError(t, err)
	assert.NotContains(t, string(text), "null")
	road, err := w.Floating.Road(ctx, w.owner, w.boat)
	require.NoError(t, err)
	text, err = json.Marshal(road)
	require.NoError(t, err)
	assert.NotContains(t, string(text), "null")
}

// The rule counts her fuel, full, whatever is in the tank today, and no livewell.
func TestCapacityCountsFullFuelAndNoWater(t *testing.T) {
	w := newWorld(t)
	tank := func(kind string, fill, density float64) model.TankInput {
		return model.TankInput{Name: kind, Kind: kind, Size: model.Vec{0.6, 0.5, 0.2}, Corner: model.Vec{1.2, -0.25, 0.1},
			Fill: fill, Density: density}
	}
	with := func(tanks ...model.TankInput) floating.CapacityView {
		require.NoError(t, w.change(func(in *aboard.BoatInput) { in.Outfit.Tanks = tanks }))
		return w.report(floating.WhatIf{}).Capacity
	}
	none, low, full := with(), with(tank("fuel", 0.1, 740)), with(tank("fuel", 1, 740))
	assert.Equal(t, full, low)
	assert.InDelta(t, 60*0.74/5, none.PersonsKg-full.PersonsKg, 1e-6, "60 L of petrol, built in, are boat weight")
	assert.Equal(t, none, with(tank("livewell", 0.9, 1025)))
}

// What the plate counts carries its errors: a guessed body and a gauge's level.
func TestTheLoadsBandIsOfWhatThePlateCounts(t *testing.T) {
	w := newWorld(t)
	w.board(w.hand)
	load := func(includes ...string) string {
		require.NoError(t, w.change(func(in *aboard.BoatInput) {
			in.Plate.Includes = includes
			in.Outfit.Tanks = []model.TankInput{{Name: "fuel", Kind: "fuel", Size: model.Vec{1, 0.5, 0.25},
				Corner: model.Vec{1, -0.25, 0.1}, Fill: 0.5, Density: 800, Known: "gauge"}}
		}))
		v := w.report(floating.WhatIf{}).Verdicts
		return v[len(v)-1].Sentence
	}
	assert.Contains(t, load("persons"), "Load 80 kg ± 20 kg") // a quarter, and 3 % for clothes
	assert.Contains(t, load("fuel"), "Load 50 kg ± 8 kg")     // 8 % of 100 kg
	assert.Contains(t, load("persons", "fuel"), "Load 130 kg ± 22 kg")
}

func TestVerdictsSayHowSureTheyAre(t *testing.T) {
	w := newWorld(t)
	w.board(w.hand) // weighed by guess
	f := w.report(floating.WhatIf{}).Now.Attitude
	limit := func(m float64) floating.Verdict {
		require.NoError(t, w.change(func(in *aboard.BoatInput) { in.Limits.Freeboard.Value = m }))
		return w.report(floating.WhatIf{}).Verdicts[0]
	}
	at := limit(f.Lowest.M)
	assert.InDelta(t, 0.5, at.Sure, 0.01)
	assert.Equal(t, "open", at.Words)
	well := limit(f.Lowest.M - 0.15)
	assert.Equal(t, "sure", well.Words)
	assert.True(t, well.Met)
	over := limit(f.Lowest.M + 0.15)
	assert.Equal(t, "broken", over.Words)
	assert.False(t, over.Met)
	assert.Contains(t, over.Sentence, "at least")
}

// Each crew test is the core's answer with the people where the test puts them.
func TestCrewTestsPutPeopleWhereTheySay(t *testing.T) {
	w := newWorld(t)
	for name, x := range map[string]float64{"stern": 0.4, "foredeck": 3} {
		_, err := w.Fleet.AddPost(ctx, w.owner, store.NewID(), w.boat, fleet.PostInput{Name: name, At: model.Vec{x, 0, 0.3}})
		require.NoError(t, err)
	}
	w.board(w.owner)
	w.board(w.hand)
	boat, l := w.real()
	r := w.report(floating.WhatIf{})
	require.Len(t, r.Tests, 5)
	byKey := map[string]floating.TestView{}
	for _, v := range r.Tests {
		byKey[v.Key] = v
		require.Len(t, v.People, 2)
		load := l
		load.Masses = append([]float.Mass{}, l.Masses...)
		for _, p := range v.People {
			kg := 85.0 // nobody weighed the owner
			if p.Mark == "S" {
				kg = 80
			}
			load.Masses = append(load.Masses, float.Mass{Kg: kg, At: p.At.R3()})
		}
		f := boat.Solve(load, nil).Figures
		require.NotNil(t, f, v.Key)
		assert.InDelta(t, f.HeelDeg, v.Attitude.HeelDeg, 1e-9, v.Key)
		assert.InDelta(t, f.Lowest.M, v.Attitude.Lowest.M, 1e-9, v.Key)
	}
	assert.Less(t, byKey["port"].Attitude.HeelDeg, -2.0)
	assert.InDelta(t, -byKey["port"].Attitude.HeelDeg, byKey["starboard"].Attitude.HeelDeg, 1e-6)
	assert.Equal(t, []float64{0.4, 3}, []float64{byKey["aft"].People[0].At[0], byKey["bow"].People[0].At[0]},
		"round the aftmost and the foremost post")
	assert.Greater(t, byKey["aft"].Attitude.TrimDeg, byKey["bow"].Attitude.TrimDeg-1e-9)
	assert.InDelta(t, boat.Shell.High.Y, math.Abs(byKey["overboard"].People[0].At[1]), 1e-9,
		"the heaviest hangs on the gunwale where she is broadest")
}

func TestWithNobodyAboardTwoAdultsStandIn(t *testing.T) {
	w := newWorld(t)
	for _, v := range w.report(floating.WhatIf{}).Tests {
		assert.Len(t, v.People, 2)
		assert.NotEmpty(t, v.Sentence)
	}
}

func TestScuppersUnderWaterLetTheSeaOnToTheDeck(t *testing.T) {
	w := newWorld(t)
	deck := func(sole float64) {
		require.NoError(t, w.change(func(in *aboard.BoatInput) {
			in.Hull.Deck = &hull.Deck{Sole: sole, Aft: 0.05, Fore: 2,
				Scuppers: []hull.Scupper{{Name: "scupper", At: [3]float64{0.05, 0.6, sole}}}}
		}))
	}
	deck(0.45)
	assert.Empty(t, w.report(floating.WhatIf{}).Awash)
	deck(0.09)
	r := w.report(floating.WhatIf{})
	require.Len(t, r.Awash, 1)
	assert.Contains(t, r.Awash[0], "Scupper is under water: the sea stands")
	require.Len(t, w.state().Now.Awash, 1)
	assert.Equal(t, "scupper", w.state().Now.Awash[0].Through)
}

func TestWaterInTheBilgeSinksHerAndHasAFreeSurface(t *testing.T) {
	w := newWorld(t)
	dry, wet := w.report(floating.WhatIf{}), w.report(floating.WhatIf{BilgeLitres: 60})
	assert.InDelta(t, 60*1.025, wet.Now.Displacement-dry.Now.Displacement, 1e-6)
	assert.Greater(t, wet.FreeSurface, dry.FreeSurface+0.005)
	sunk := func(r floating.FloatReport) float64 { return r.Now.Attitude.DraftAft + r.Now.Attitude.DraftFwd }
	assert.Greater(t, sunk(wet), sunk(dry)+0.01)
	_, err := w.Floating.Float(ctx, w.owner, w.boat, floating.WhatIf{BilgeLitres: 19000})
	assert.ErrorContains(t, err, "Her bilge holds")
}

func TestFoamTakenOutIsTold(t *testing.T) {
	w := newWorld(t)
	require.NoError(t, w.change(func(in *aboard.BoatInput) {
		in.Outfit.Material = "aluminium"
		in.Outfit.Foam = []model.FoamInput{{Name: "sides, port", Low: model.Vec{0, 0.5, 0.3}, High: model.Vec{4, 1, 0.72},
			In: true},
			{Name: "sides, starboard", Low: model.Vec{0, -1, 0.3}, High: model.Vec{4, -0.5, 0.72}, In: true},
			{Name: "bow", Low: model.Vec{4, -0.5, 0.3}, High: model.Vec{5, 0.5, 0.9}}}
	}))
	list := w.report(floating.WhatIf{}).Swamped
	require.Len(t, list, 3)
	assert.True(t, list[0].Floats)
	assert.False(t, list[1].Floats, "an aluminium hull without foam sinks")
	assert.Contains(t, list[1].Sentence, "L more of closed-cell foam")
	assert.Greater(t, list[2].FoamL, list[0].FoamL)
}

// readings of the truth, with a mass hidden in her.
func (w *world) readings(hidden float.Mass) floating.FloatCheckInput {
	boat, l := w.real()
	if hidden.Kg != 0 {
		l.Masses = append(l.Masses, hidden)
	}
	f := boat.Solve(l, nil).Figures
	s, err := w.Floating.Surveys(ctx, w.owner, w.boat)
	require.NoError(w.t, err)
	in := floating.FloatCheckInput{StepM: 0.005}
	for _, p := range s.Points {
		in.Readings = append(in.Readings, floating.ReadingInput{Name: p.Name, At: p.At,
			M: math.Round(f.FreeboardAt(p.At.R3())/0.005) * 0.005})
	}
	return in
}

func TestACheckIsKeptProposedAndAcceptedOnlyByWhoMay(t *testing.T) {
	w := newWorld(t)
	in := w.readings(float.Mass{Kg: 40, At: r3.Vec{X: 0.7, Y: 0.3, Z: 0.3}})
	tried, err := w.Floating.TrySurvey(ctx, w.hand, w.boat, &in, nil)
	require.NoError(t, err)
	assert.InDelta(t, 40, tried.Float.Kg, 10)
	assert.False(t, tried.Float.Agrees)
	assert.Contains(t, tried.Float.Sentence, "more than listed")
	assert.Contains(t, tried.Float.Sentence, "to port")
	require.NotEmpty(t, tried.Float.Suspects)
	s, err := w.Floating.Surveys(ctx, w.owner, w.boat)
	require.NoError(t, err)
	assert.Empty(t, s.Kept, "trying keeps nothing")

	key := store.NewID()
	id, err := w.Floating.KeepSurvey(ctx, w.hand, key, w.boat, &in, nil)
	require.NoError(t, err)
	again, err := w.Floating.KeepSurvey(ctx, w.hand, key, w.boat, &in, nil)
	require.NoError(t, err)
	assert.Equal(t, id, again)
	before := w.boatView()
	assert.Equal(t, refuse.Conflict, kindOf(t, w.Floating.AcceptSurvey(ctx, w.owner, w.boat, id, before.Version+7,
		"mass")).Kind)
	assert.Equal(t, refuse.Refused, kindOf(t, w.Floating.AcceptSurvey(ctx, w.owner, w.boat, id, before.Version,
		"height")).Kind, "it proposed no such thing")
	assert.Equal(t, before.Outfit, w.boatView().Outfit, "nothing was changed silently")
	require.NoError(t, w.Floating.AcceptSurvey(ctx, w.owner, w.boat, id, before.Version, "mass"))
	assert.ErrorContains(t, w.Floating.AcceptSurvey(ctx, w.owner, w.boat, id, before.Version+1, "mass"), "accepted before")
	outfit := w.boatView().Outfit
	require.Len(t, outfit.Masses, 2)
	assert.InDelta(t, tried.Float.Kg, outfit.Masses[1].Kg, 1e-9)
	s, err = w.Floating.Surveys(ctx, w.owner, w.boat)
	require.NoError(t, err)
	require.Len(t, s.Kept, 1)
	assert.Equal(t, "mass", s.Kept[0].Accepted)
	assert.Equal(t, "Sune", s.Kept[0].By)
	// With the correction in, the same readings agree.
	tried, err = w.Floating.TrySurvey(ctx, w.hand, w.boat, &in, nil)
	require.NoError(t, err)
	assert.True(t, tried.Float.Agrees, tried.Float.Sentence)
	assert.Empty(t, tried.Float.Proposals)
}

func TestALighterBoatIsFoldedIntoTheHull(t *testing.T) {
	w := newWorld(t)
	in := w.readings(float.Mass{Kg: -50, At: r3.Vec{X: 2.1, Z: 0.4}})
	id, err := w.Floating.KeepSurvey(ctx, w.owner, store.NewID(), w.boat, &in, nil)
	require.NoError(t, err)
	require.NoError(t, w.Floating.AcceptSurvey(ctx, w.owner, w.boat, id, 1, "hull"))
	m := w.boatView().Outfit.Masses
	require.Len(t, m, 1)
	assert.InDelta(t, 350, m[0].Kg, 10)
	assert.Equal(t, "weighed", m[0].Known)
	assert.InDelta(t, 0.4, m[0].At[2], 1e-12, "heights don't show in freeboards")
}

func TestAWrongReadingIsPointedAt(t *testing.T) {
	w := newWorld(t)
	in := w.readings(float.Mass{})
	in.Readings[4].M += 0.06
	got, err := w.Floating.TrySurvey(ctx, w.owner, w.boat, &in, nil)
	require.NoError(t, err)
	assert.Equal(t, 4, got.Float.Doubtful)
	assert.Contains(t, got.Float.Sentence, "read the marked one again")
	in.Readings = in.Readings[:2]
	_, err = w.Floating.TrySurvey(ctx, w.owner, w.boat, &in, nil)
	assert.ErrorContains(t, kindOf(t, err).Faults, "from 3 to 24 readings")
	in.StepM = 5
	_, err = w.Floating.TrySurvey(ctx, w.owner, w.boat, &in, nil)
	assert.ErrorContains(t, kindOf(t, err).Faults, "step_m is 5")
	_, err = w.Floating.TrySurvey(ctx, w.owner, w.boat, nil, nil)
	assert.Equal(t, refuse.Invalid, kindOf(t, err).Kind)
}

// A hull whose centre lies 10 cm higher than listed heels further when someone
// walks across; the check says so and a skipper puts it right.
func TestAnIncliningCheckMovesTheHullsCentreUp(t *testing.T) {
	w := newWorld(t)
	w.board(w.hand)
	heel := func(y float64) float64 {
		boat, l := w.real()
		l.Masses[0].At.Z += 0.1
		l.Masses = append(l.Masses, float.Mass{Kg: 80, At: r3.Vec{X: 1.5, Y: y, Z: 0.3 + float.StandingCG}})
		return boat.Solve(l, nil).Figures.HeelDeg
	}
	walk := floating.InclineInput{MemberID: w.hand.Member, ToY: -0.5, BeforeDeg: heel(0), AfterDeg: heel(-0.5),
		SigmaDeg: 0.02}
	got, err := w.Floating.TrySurvey(ctx, w.hand, w.boat, nil, &walk)
	require.NoError(t, err)
	assert.False(t, got.Incline.Agrees, got.Incline.Sentence)
	require.Len(t, got.Incline.Proposals, 1)
	id, err := w.Floating.KeepSurvey(ctx, w.hand, store.NewID(), w.boat, nil, &walk)
	require.NoError(t, err)
	require.NoError(t, w.Floating.AcceptSurvey(ctx, w.owner, w.boat, id, 1, "height"))
	assert.InDelta(t, 0.5, w.boatView().Outfit.Masses[0].At[2], 0.005)
	got, err = w.Floating.TrySurvey(ctx, w.hand, w.boat, nil, &walk)
	require.NoError(t, err)
	assert.True(t, got.Incline.Agrees, got.Incline.Sentence)

	walk.MemberID = w.owner.Member
	_, err = w.Floating.TrySurvey(ctx, w.hand, w.boat, nil, &walk)
	assert.ErrorContains(t, err, "is not aboard")
	walk.MemberID, walk.ToY = w.hand.Member, math.NaN()
	_, err = w.Floating.TrySurvey(ctx, w.hand, w.boat, nil, &walk)
	assert.Equal(t, refuse.Invalid, kindOf(t, err).Kind)
}

func TestAnotherCrewSeesNoneOfIt(t *testing.T) {
	w := newWorld(t)
	crew, owner, err := w.Crew.Found(ctx, "Another", "Una", "una", password)
	require.NoError(t, err)
	una := kernel.Actor{Crew: crew, Member: owner, Role: kernel.Owner}
	in := w.readings(float.Mass{})
	id, err := w.Floating.KeepSurvey(ctx, w.owner, store.NewID(), w.boat, &in, nil)
	require.NoError(t, err)
	photo, err := w.Fleet.AddPhoto(ctx, w.owner, store.NewID(), fleet.PhotoOf{Boat: &w.boat}, picture(t, 1))
	require.NoError(t, err)
	_, err = w.Floating.Float(ctx, una, w.boat, floating.WhatIf{})
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
	_, err = w.Floating.Road(ctx, una, w.boat)
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
	_, err = w.Fleet.Photo(ctx, una, fleet.PhotoOf{Boat: &w.boat}, photo)
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
	_, err = w.Floating.Surveys(ctx, una, w.boat)
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
	assert.Equal(t, refuse.NotFound, kindOf(t, w.Floating.AcceptSurvey(ctx, una, w.boat, id, 1, "mass")).Kind)
	assert.Equal(t, refuse.NotFound, kindOf(t, w.Fleet.RemovePhoto(ctx, una, fleet.PhotoOf{Boat: &w.boat}, photo)).Kind)
	assert.Equal(t, refuse.NotFound, kindOf(t, w.Floating.SetTrailer(ctx, una, store.NewID(), w.boat, 1,
		trailerInput())).Kind)
	_, err = w.Floating.Sheet(ctx, una, w.boat, "svg", false)
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
}

// A correction with which the sea would come in by the scuppers is not offered, and
// the opening is named.
func TestACorrectionThatWouldFloodHerIsNotOffered(t *testing.T) {
	w := newWorld(t)
	sole := w.state().Now.Attitude.DraftAft + 0.004
	require.NoError(t, w.change(func(in *aboard.BoatInput) {
		in.Hull.Deck = &hull.Deck{Sole: sole, Aft: 0.05, Fore: 2,
			Scuppers: []hull.Scupper{{Name: "scupper", At: [3]float64{0.05, 0.6, sole}}}}
	}))
	require.Empty(t, w.state().Now.Awash)
	in := w.readings(float.Mass{Kg: 60, At: r3.Vec{X: 0.7, Y: 0.3, Z: 0.3}})
	tried, err := w.Floating.TrySurvey(ctx, w.hand, w.boat, &in, nil)
	require.NoError(t, err)
	assert.Empty(t, tried.Float.Proposals)
	require.NotEmpty(t, tried.Float.NotOffered)
	assert.Contains(t, tried.Float.NotOffered[0], "That is not offered: with it")
	assert.Contains(t, tried.Float.NotOffered[0], "scupper")
}

// Readings that one mass could only explain from outside her are not put down to one.
func TestNoMassIsFoundOutsideTheBoat(t *testing.T) {
	w := newWorld(t)
	in := w.readings(float.Mass{})
	for i := range in.Readings { // stern down and bow up, with next to no mass: two things are wrong
		in.Readings[i].M += 0.05 * (in.Readings[i].At[0] - 2.1) / 2
	}
	tried, err := w.Floating.TrySurvey(ctx, w.hand, w.boat, &in, nil)
	require.NoError(t, err)
	require.False(t, tried.Float.Agrees, tried.Float.Sentence)
	if tried.Float.NoOneMass {
		assert.Contains(t, tried.Float.Sentence, "can't be one mass")
		assert.NotContains(t, tried.Float.Sentence, "ahead of the transom")
	}
	assert.True(t, tried.Float.NoOneMass, tried.Float.Sentence)
	for _, p := range tried.Float.Proposals {
		assert.NotEqual(t, "mass", p.Kind)
	}
}
