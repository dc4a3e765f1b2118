package app_test

import (
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/trips"
	"ergasia/core/float"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const kmh = 1 / 3.6

// fuelled gives the world's boat a tank of 60 litres that is half full, and a table of
// 10 l/h at 10 km/h and 30 l/h at 40 km/h.
func (w *world) fuelled() {
	require.NoError(w.t, w.change(func(in *aboard.BoatInput) {
		in.Outfit.Tanks = []model.TankInput{{Name: "main", Kind: "fuel", Size: model.Vec{0.6, 0.5, 0.2}, Corner: model.Vec{1, -0.25, 0.1},
			Fill: 0.5, Density: float.Petrol, Rest: 2}}
	}))
	b := w.boatView()
	_, err := w.Fuel.SetRates(ctx, w.owner, store.NewID(), w.boat, b.Version, []model.RateInput{{Speed: 10 * kmh, Flow: 10}, {Speed: 40 * kmh, Flow: 30}})
	require.NoError(w.t, err)
}

func TestATripsFuelIsReckoned(t *testing.T) {
	w := newWorld(t)
	w.fuelled()
	id := w.trip("cod run", 1, 1, 3)
	v, err := w.Fuel.Fuel(ctx, w.owner, id)
	require.NoError(t, err)
	assert.Equal(t, []string{"The trip has no way yet: add a leg with its distance and speed."}, v.Lacks)
	assert.InDelta(t, 60, v.Boat.Tanks[0].Capacity, 1e-9)

	plan := model.FuelPlan{School: "thirds", PerLitre: 2, Legs: []model.FuelLeg{{Distance: 50_000, Speed: 25 * kmh}},
		Cans: []model.FuelCan{{Name: "can", Capacity: 20}}}
	v, err = w.Fuel.Try(ctx, w.owner, id, plan)
	require.NoError(t, err)
	require.NotNil(t, v.Answer)
	assert.InDelta(t, 62, v.Answer.Need, 1e-9) // by hand, in core/fuel
	assert.InDelta(t, 27, v.Answer.Tanks[0].Add, 1e-9)
	assert.InDelta(t, 5, v.Answer.Tanks[1].Add, 1e-9)
	assert.Equal(t, "Fill 32 L: the way takes 40 L, and 20 L are kept.", v.Answer.Headline)
	require.Len(t, v.Answer.Speeds, 2)
	assert.InDelta(t, 50, v.Answer.Speeds[0].Burn, 1e-9, "five hours at 10 km/h")
	assert.True(t, v.Answer.Speeds[1].Fits, "37.5 L at 40 km/h")
	require.Len(t, v.Answer.Lies, 3)
	now, filled, home := v.Answer.Lies[0], v.Answer.Lies[1], v.Answer.Lies[2]
	assert.InDelta(t, 57, filled.Litres, 1e-9)
	assert.InDelta(t, 17, home.Litres, 1e-9)
	assert.Less(t, filled.Float.Lowest.M, now.Float.Lowest.M, "27 litres more")
	assert.InDelta(t, w.state().Now.Attitude.Lowest.M, now.Float.Lowest.M, 1e-12)

	_, err = w.Fuel.Save(ctx, w.owner, store.NewID(), id, v.Version, plan)
	require.NoError(t, err)
	v, err = w.Fuel.Fuel(ctx, w.owner, id)
	require.NoError(t, err)
	assert.Equal(t, plan, v.Plan)
	_, err = w.Trips.SaveTrip(ctx, w.owner, store.NewID(), id, v.Version, trips.TripInput{Name: "cod run, later", BoatID: &w.boat,
		StartsOn: kernel.DayOf(w.Kernel.Now()), EndsOn: kernel.DayOf(w.Kernel.Now()), Persons: 2})
	require.NoError(t, err)
	v, err = w.Fuel.Fuel(ctx, w.owner, id)
	require.NoError(t, err)
	assert.Equal(t, plan, v.Plan, "it stays when the trip is changed")
	_, err = w.Fuel.Save(ctx, w.owner, store.NewID(), id, 1, plan)
	assert.Equal(t, refuse.Conflict, kindOf(t, err).Kind)
	plan.Legs[0].Speed = 90
	_, err = w.Fuel.Try(ctx, w.owner, id, plan)
	assert.Equal(t, refuse.Invalid, kindOf(t, err).Kind)
	_, err = w.Fuel.Fuel(ctx, w.owner, uuid.New())
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
}

// What was filled after logged trips teaches what she takes, and changing a trip keeps its plan.
func TestTheLogTeachesWhatSheTakes(t *testing.T) {
	w := newWorld(t)
	w.fuelled()
	plan := model.FuelPlan{School: "fixed", FixedL: 5, Legs: []model.FuelLeg{{Distance: 25_000, Speed: 25 * kmh}}}
	for i, filled := range []float64{22, 24, 23, 23} {
		id := w.trip("run", -i, 1, 3)
		_, err := w.Fuel.Save(ctx, w.owner, store.NewID(), id, 1, plan)
		require.NoError(t, err)
		require.NoError(t, w.Trips.LogTrip(ctx, w.owner, store.NewID(), id, trips.LogInput{Version: 2, Hours: 3, Filled: &filled}))
	}
	bare, litres := w.trip("nothing reckoned", -5, 1, 3), 9.0 // teaches nothing
	require.NoError(t, w.Trips.LogTrip(ctx, w.owner, store.NewID(), bare, trips.LogInput{Version: 1, Hours: 3, Filled: &litres}))
	id := w.trip("next", 2, 1, 3)
	v, err := w.Fuel.Fuel(ctx, w.owner, id)
	require.NoError(t, err)
	assert.False(t, v.Saved)
	plan.Learned = true
	v, err = w.Fuel.Try(ctx, w.owner, id, plan)
	require.NoError(t, err)
	require.NotNil(t, v.Learned)
	assert.InDelta(t, 23.0/20, v.Learned.Factor, 1e-9)
	assert.Equal(t, 4, v.Learned.Trips)
	assert.InDelta(t, 23, v.Answer.Burn, 1e-9)
	assert.Less(t, v.Answer.Between[0], 23.0)
	assert.Greater(t, v.Answer.Between[1], 23.0)
}

func TestATrackIsReadAndAHostileOneRefused(t *testing.T) {
	w := newWorld(t)
	tracks, err := w.Fuel.ReadTrack(ctx, w.owner, []byte(`<gpx><trk><name>out</name><trkseg><trkpt lat="58" lon="11"/><trkpt lat="58.1" lon="11"/></trkseg>
		<trkseg><trkpt lat="58.2" lon="11"/><trkpt lat="NaN" lon="11"/></trkseg></trk></gpx>`))
	require.NoError(t, err)
	require.Len(t, tracks, 1)
	assert.InDelta(t, 11_119, tracks[0].Distance, 1)
	assert.Equal(t, []string{"Gaps of 11.1 km in all, 1 of them, are not counted.", "Points that are none were left out: 1."}, tracks[0].Said)
	_, err = w.Fuel.ReadTrack(ctx, w.owner, []byte(`<!DOCTYPE gpx [<!ENTITY a "b">]><gpx/>`))
	assert.Contains(t, kindOf(t, err).Faults.Error(), "it has a DTD")
	plan := model.FuelPlan{School: "thirds", Line: [][2]float64{{58, 11}, {91, 11}}}
	_, err = w.Fuel.Try(ctx, w.owner, uuid.New(), plan)
	assert.Contains(t, kindOf(t, err).Faults.Error(), "plan.line[1]")
}

// A log of ten trips with a tenth of noise says how sure the reserve is; a bigger tank
// leads as much further as it holds more.
func TestTheReserveHasAChanceAndABiggerTankARange(t *testing.T) {
	w := newWorld(t)
	w.fuelled()
	plan := model.FuelPlan{School: "thirds", Learned: true, Legs: []model.FuelLeg{{Distance: 30_000, Speed: 25 * kmh}}}
	for i, noise := range []float64{0.9, 1.1, 1, 1.05, 0.95, 1.1, 0.9, 1, 1.05, 0.95} {
		id := w.trip("past", -30+i, 1, 3)
		_, err := w.Fuel.Save(ctx, w.owner, store.NewID(), id, 1, plan)
		require.NoError(t, err)
		filled := 24 * noise
		require.NoError(t, w.Trips.LogTrip(ctx, w.owner, store.NewID(), id, trips.LogInput{Version: 2, Hours: 3, Filled: &filled}))
	}
	id := w.trip("next", 1, 1, 3)
	v, err := w.Fuel.Try(ctx, w.owner, id, plan)
	require.NoError(t, err)
	require.NotNil(t, v.Answer.Keeps)
	assert.InDelta(t, 0.5, *v.Answer.Keeps, 0.01, "just what was asked for is aboard, so half of the days take more")
	assert.InDelta(t, 1, *v.Answer.Reaches, 1e-6)
	require.Len(t, v.Answer.Others, 4)
	perMetre := 20.0 / 25_000 // 20 l/h at 25 km/h
	assert.InDelta(t, v.Answer.Range+9.5/perMetre, v.Answer.Others[0].Range, 1, "ten litres more, less the air gap")
	assert.InDelta(t, 9.5*0.74, v.Answer.Others[0].Kg, 1e-9)
	lighter := v.Answer.Others[3]
	assert.Greater(t, lighter.Range, v.Answer.Range)
	assert.Greater(t, *lighter.Low, w.state().Now.Attitude.Lowest.M)
}
