package aboard_test

import (
	"math"
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/aboard/aboardtest"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
)

// fit is a fitting of so many kilograms at a place, counted before in a mass of hers.
func fit(name string, kg float64, at model.Vec, partOf string) model.Fitting {
	return model.Fitting{ID: uuid.New(), Name: name, Kind: "other", Kg: kg, MassKnown: "weighed", PartOf: partOf,
		Lies: model.FittingLies{At: at, Size: model.Vec{0.1, 0.1, 0.2}, Stands: "up"}}
}

func moment(c *aboard.Craft) (kg float64, m r3.Vec) {
	for _, one := range c.Load.Masses {
		kg, m = kg+one.Kg, r3.Add(m, r3.Scale(one.Kg, one.At))
	}
	return kg, m
}

// What was counted in the hull is taken off there: mass and moments stay as they were.
func TestWhatWasCountedInTheHullIsTakenOffThere(t *testing.T) {
	b := aboardtest.New(t)
	kg, m := moment(b.Craft)
	rigged := b.Craft.Rigged(
		[]model.Fitting{fit("roof", 40, model.Vec{1.5, 0, 1.8}, "hull"), fit("cleat", 1, model.Vec{4.6, 0.3, 0.9}, "hull")},
	)
	kgNow, mNow := moment(rigged)
	assert.InDelta(t, kg, kgNow, 1e-9)
	for _, d := range []float64{mNow.X - m.X, mNow.Y - m.Y, mNow.Z - m.Z} {
		assert.InDelta(t, 0, d, 1e-9)
	}
	assert.Less(
		t,
		rigged.Load.Masses[0].At.Z,
		b.Craft.Load.Masses[0].At.Z,
		"the bare hull's centre is lower than with its roof",
	)
	fresh := b.Craft.Rigged([]model.Fitting{fit("roof", 40, model.Vec{1.5, 0, 1.8}, "")})
	kgNow, _ = moment(fresh)
	assert.InDelta(t, kg+40, kgNow, 1e-9)
	gone := b.Craft.Rigged([]model.Fitting{fit("roof", 40, model.Vec{1.5, 0, 1.8}, "a mass that is not there")})
	kgNow, _ = moment(gone)
	assert.InDelta(t, kg+40, kgNow, 1e-9)
}

// A lump keeps its centre, which was a guess; a mass of which more is listed than it had
// is nothing, and never less.
func TestALumpOfFittingsShrinksWhereItIs(t *testing.T) {
	b := aboardtest.New(t)
	b.Boat.Outfit.Masses = append(
		b.Boat.Outfit.Masses,
		model.FixedMass{Name: "fittings", Kind: "fitting", Kg: 50, At: model.Vec{2, 0, 0.6}, Known: "guess"},
	)
	b.Shape(t)
	some := b.Craft.Rigged([]model.Fitting{fit("a", 30, model.Vec{0.2, 0.5, 0.7}, "fittings")})
	assert.InDelta(t, 20, some.Load.Masses[1].Kg, 1e-9)
	assert.Equal(t, b.Craft.Load.Masses[1].At, some.Load.Masses[1].At)
	all := b.Craft.Rigged(
		[]model.Fitting{
			fit("a", 30, model.Vec{0.2, 0.5, 0.7}, "fittings"),
			fit("b", 30, model.Vec{0.2, 0.5, 0.7}, "fittings"),
		},
	)
	assert.Zero(t, all.Load.Masses[1].Kg)
	kg, _ := moment(all)
	assert.InDelta(t, 400+60, kg, 1e-9, "ten more than the lump said")
}

// Rigging her anew replaces what was on, and another outfit keeps it.
func TestRiggingIsReplacedAndKept(t *testing.T) {
	b := aboardtest.New(t)
	once := b.Craft.Rigged([]model.Fitting{fit("a", 30, model.Vec{2, 0, 0.5}, "")})
	twice := once.Rigged([]model.Fitting{fit("b", 5, model.Vec{2, 0, 0.5}, "")})
	kg, _ := moment(twice)
	assert.InDelta(t, 405, kg, 1e-9)
	o := b.Craft.Input.Outfit
	o.Masses = []model.FixedMass{{Name: "hull", Kind: "hull", Kg: 350, At: model.Vec{2.1, 0, 0.4}, Known: "plate"}}
	kg, _ = moment(once.With(o))
	assert.InDelta(t, 380, kg, 1e-9)
	kg, _ = moment(b.Craft)
	assert.InDelta(t, 400, kg, 1e-9, "the boat that all share is not changed")
}

// The plate counts a fitting as what it was counted in, and a bow motor as a motor.
func TestThePlateCountsFittingsAsWhatTheyWere(t *testing.T) {
	b := aboardtest.New(t)
	b.Boat.Plate.Includes = []string{"motor", "persons"}
	b.Boat.Outfit.Masses = append(
		b.Boat.Outfit.Masses,
		model.FixedMass{Name: "outboard", Kind: "motor", Kg: 100, At: model.Vec{-0.1, 0, 0.6}, Known: "plate"},
	)
	b.Shape(t)
	bow := fit("bow motor", 20, model.Vec{4.6, 0, 0.9}, "")
	bow.Kind = "bow-motor"
	b.Craft = b.Craft.Rigged(
		[]model.Fitting{
			bow,
			fit("bracket", 10, model.Vec{0, 0, 0.6}, "outboard"),
			fit("cleat", 5, model.Vec{1, 0, 0.6}, ""),
		},
	)
	assert.InDelta(t, 120, b.Branch().Ledger().PlateKg, 1e-9)
}

// A unit stands on its base, and faces as the base does with its own turn.
func TestAUnitStandsOnItsBase(t *testing.T) {
	base := fit("base", 1, model.Vec{2, 0.8, 0.7}, "")
	base.Lies.Turn, base.Lies.Lean, base.Lies.Legs = 90, 30, 0.1
	unit := fit("sonar", 4, model.Vec{0, 0, 0}, "")
	unit.Unit, unit.BaseID, unit.Lies.Turn = true, &base.ID, 20
	got := aboard.Docked([]model.Fitting{unit, base})[0]
	high := 0.3 // legs and its own height, leaning to port
	require.InDelta(t, 0.8+high*math.Sin(math.Pi/6), got.Lies.At[1], 1e-9)
	assert.InDelta(t, 0.7+high*math.Cos(math.Pi/6), got.Lies.At[2], 1e-9)
	assert.InDelta(t, 110, got.Lies.Turn, 0)
	lost := unit
	nowhere := uuid.New()
	lost.BaseID = &nowhere
	assert.Equal(
		t,
		lost.Lies,
		aboard.Docked([]model.Fitting{lost})[0].Lies,
		"of a base that is not there it stays where it is",
	)
}

// A thing is asked about as it stands: its foot's plate counts for what has one.
func TestAFittingIsAThingInTheWay(t *testing.T) {
	f := fit("holder", 1, model.Vec{1, 0.9, 0.7}, "")
	f.Kind, f.Held.Foot, f.Lies.Rod = "rod-holder", [2]float64{100, 80}, 2
	f.Held.Comes = "trip"
	thing := aboard.ThingOf(f)
	assert.Equal(t, [2]float64{0.1, 0.08}, thing.Foot)
	assert.True(t, thing.Down)
	assert.InDelta(t, 2, thing.Rod, 0)
	f.Kind = "roof"
	assert.Zero(t, aboard.ThingOf(f).Foot[0], "a roof's foot is no plate")
}

// What is taken off her makes her lighter, though it was never weighed apart.
func TestWhatIsTakenOffMakesHerLighter(t *testing.T) {
	b := aboardtest.New(t)
	roof := fit("roof", 40, model.Vec{1.5, 0, 1.8}, "hull")
	roof.IsOff = true
	bare := b.Craft.Rigged([]model.Fitting{roof})
	kg, m := moment(bare)
	assert.InDelta(t, 360, kg, 1e-9)
	whole, of := moment(b.Craft)
	assert.InDelta(t, of.Z-40*(1.8+0.1), m.Z, 1e-9, "its height goes with it")
	assert.Empty(t, bare.Rigging)
	o := b.Craft.Input.Outfit
	kg, _ = moment(bare.With(o))
	assert.InDelta(t, whole-40, kg, 1e-9, "also with another outfit")
}
