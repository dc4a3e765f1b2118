// Package aboardtest has a boat for tests of what is said of her, without a
// database: a five metre vee with two lockers, a tray that stays dry and a helm.
package aboardtest

import (
	"testing"

	"ergasia/app/aboard"
	"ergasia/core/float"
	"ergasia/core/hull"
	"ergasia/core/reach"
	"ergasia/core/units"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
)

// Boat is a laden boat and the ids of what a test speaks of.
type Boat struct {
	*aboard.Laden
	Stern, Bow, Tray uuid.UUID // places: wet and 60 kg, wet without limit, dry and 10 kg
	Helm             uuid.UUID
	Ilse, Sune       uuid.UUID
}

// New is the boat with nobody and nothing aboard.
func New(t testing.TB) *Boat {
	b := &Boat{Laden: aboard.Ashore(units.Metric), Stern: uuid.New(), Bow: uuid.New(), Tray: uuid.New(), Helm: uuid.New(),
		Ilse: uuid.New(), Sune: uuid.New()}
	b.Boat = model.Boat{ID: uuid.New(), Name: "Test boat", Water: float.SeaWater,
		Hull: model.HullInput{Form: "vee", Measures: hull.Tape{"length_m": 5, "beam_m": 2, "transom_beam_m": 1.9,
			"chine_beam_m": 1.7, "transom_deadrise_deg": 10, "amidships_deadrise_deg": 12, "depth_aft_m": 0.7,
			"depth_amidships_m": 0.72, "depth_forward_m": 0.95, "forefoot_m": 1.5, "notch_m": 0.5, "rake_deg": 0}},
		Outfit: model.Outfit{
			Masses: []model.FixedMass{{Name: "hull", Kind: "hull", Kg: 400, At: model.Vec{2.1, 0, 0.4}, Known: "plate"}},
			Tanks:  []model.TankInput{}},
		Plate: model.Plate{MaxKg: 500, MaxPersons: 5, Includes: []string{"persons", "gear"}, Source: "plate"},
		Limits: model.Limits{Freeboard: model.Limit{Value: 0.2, Source: "skipper"},
			Heel:    model.Limit{Value: 2, Source: "practice"},
			TrimLow: model.Limit{Value: 0, Source: "practice"}, TrimHigh: model.Limit{Value: 2, Source: "practice"}}}
	b.Shape(t)
	place := func(id uuid.UUID, name string, x float64, dry string, most float64) model.Place {
		return model.Place{ID: id, BoatID: b.Boat.ID, Name: name, X: x, Y: -0.3, Z: 0.3, Length: 0.8, Breadth: 0.6,
			Height:  0.4,
			Dryness: dry, MaxKg: most, Lid: "hinged", Form: "box"}
	}
	b.Places = []model.Place{place(b.Stern, "stern locker", 0.2, "wet", 60), place(b.Tray, "tray", 2, "dry", 10),
		place(b.Bow, "bow locker", 3.2, "wet", 0)}
	b.Posts = []model.Post{{ID: b.Helm, BoatID: b.Boat.ID, Name: "helm", X: 1.5, Z: 0.3}}
	b.Members = []model.Member{
		{ID: b.Ilse, Name: "Ilse", Mark: "I", Kg: 78, MassKnown: "weighed"},
		{ID: b.Sune, Name: "Sune", Mark: "S", Kg: 84, MassKnown: "guess"}}
	b.Table = reach.DefaultTable()
	return b
}

// Shape makes the boat ready for computing after she was changed.
func (b *Boat) Shape(t testing.TB) {
	var err error
	b.Craft, err = aboard.NewCraft(b.Boat)
	require.NoError(t, err)
}

// Gear puts a thing of ours on the quay: 40 by 30 by 20 cm, as much as it weighs,
// changed as the test asks.
func (b *Boat) Gear(name string, kg float64, change ...func(*model.Gear)) uuid.UUID {
	g := model.Gear{ID: uuid.New(), Name: name, Shape: "box", Length: 0.4, Breadth: 0.3, Height: 0.2, Kg: kg,
		MassKnown: "weighed",
		Count:     1, Turn: "any", Condition: "good", UsesPerDay: 1, Version: 1}
	for _, c := range change {
		c(&g)
	}
	b.Add([]model.Gear{g}, []model.Stowage{{GearID: g.ID, Kind: "quay", Rides: "boat", Version: 1}})
	return g.ID
}

// A Box is a change that makes a thing hold others.
func Box(g *model.Gear) { g.InsideLength, g.InsideBreadth, g.InsideHeight = 0.38, 0.28, 0.18 }

// Try says why a thing may not go into a place or a box; nothing when it may.
func (b *Boat) Try(t testing.TB, gear uuid.UUID, to model.Whereabouts) []string {
	_, refusals, err := b.Laden.Try(aboard.MoveInput{GearID: &gear, Version: 1}, to)
	require.NoError(t, err)
	return aboard.Sentences(refusals)
}

// Into is the whereabouts of a place.
func (b *Boat) Into(place uuid.UUID) model.Whereabouts {
	return model.Whereabouts{Kind: "boat", BoatID: &b.Boat.ID, PlaceID: &place}
}

// Within is the whereabouts of a box, wherever that is.
func (b *Boat) Within(box uuid.UUID) model.Whereabouts {
	to := b.Stowage[box].At()
	to.InsideID = &box
	return to
}

// Put carries a thing without asking the rules.
func (b *Boat) Put(gear uuid.UUID, to model.Whereabouts) {
	b.Laden = b.Branch()
	b.Carry(gear, to)
}

// Man puts a person at the helm.
func (b *Boat) Man(member uuid.UUID) {
	b.Laden = b.Branch()
	b.Stations[member] = model.Station{MemberID: member, BoatID: &b.Boat.ID, PostID: &b.Helm}
}
