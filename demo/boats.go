package demo

import (
	"ergasia/app/aboard"
	"ergasia/app/fleet"
	"ergasia/app/shed"
	"ergasia/core/float"
	"ergasia/core/hull"
	"ergasia/store/model"
)

// plover is the low boat, 5.1 m, for lake tournaments.
func plover() aboard.BoatInput {
	return aboard.BoatInput{
		Name: "Plover", Water: float.FreshWater,
		Hull: model.HullInput{Form: "vee", Measures: hull.Tape{
			"length_m": 5.1, "beam_m": 2.05, "transom_beam_m": 1.9, "chine_beam_m": 1.7, "transom_deadrise_deg": 10,
			"amidships_deadrise_deg": 13,
			"depth_aft_m":            0.56, "depth_amidships_m": 0.58, "depth_forward_m": 0.74, "forefoot_m": 1.6, "notch_m": 0.5,
			"rake_deg": 14}},
		Outfit: model.Outfit{
			Masses: []model.FixedMass{
				{Name: "hull with decks", Kind: "hull", Kg: 430, At: model.Vec{2.2, 0, 0.32}, Known: "catalogue"},
				{Name: "90 hp outboard", Kind: "motor", Kg: 163, At: model.Vec{-0.2, 0, 0.6}, Known: "plate"},
				{Name: "bow motor, 12 V", Kind: "motor", Kg: 19, At: model.Vec{4.7, 0.1, 0.85}, Known: "catalogue"}},
			Tanks: []model.TankInput{
				{
					Name:    "fuel tank, 45 L",
					Kind:    "fuel",
					Size:    model.Vec{0.5, 0.8, 0.12},
					Corner:  model.Vec{1.02, -0.4, 0.06},
					Fill:    0.6,
					Density: float.Petrol,
					Known:   "gauge",
				},
				{
					Name:    "livewell, under the fore deck",
					Kind:    "livewell",
					Size:    model.Vec{0.8, 1, 0.2},
					Corner:  model.Vec{3.2, -0.5, 0.05},
					Density: float.FreshWater,
					Known:   "filled",
					InHull:  true,
				}},
			Foam: []model.FoamInput{{Name: "under the fore deck", Low: model.Vec{2.0, -0.7, 0.06},
				High: model.Vec{3.2, 0.7, 0.22}, In: true}},
			Material: "glass", Propulsion: "outboard", Remote: true,
			Rates: []model.RateInput{
				{Speed: 8 * kmh, Flow: 3.5},
				{Speed: 25 * kmh, Flow: 13},
				{Speed: 40 * kmh, Flow: 17},
				{Speed: 60 * kmh, Flow: 31},
			},
		},
		Plate: model.Plate{MaxKg: 520, MaxPersons: 4, Includes: []string{"persons", "gear"}, Source: "builder's plate"},
		Limits: model.Limits{Freeboard: model.Limit{Value: 0.18, Source: "skipper"}, Heel: model.Limit{Value: 1.5,
			Source: "practice"},
			TrimLow: model.Limit{
				Value:  0.2,
				Source: "practice",
			}, TrimHigh: model.Limit{Value: 1.4, Source: "practice"}},
		Setup: []string{"hull", "plate", "engine", "tanks", "posts", "places"},
	}
}

// whimbrel is the flat one, 4.3 m, for guiding in the reeds.
func whimbrel() aboard.BoatInput {
	return aboard.BoatInput{
		Name: "Whimbrel", Water: float.FreshWater,
		Hull: model.HullInput{Form: "flat", Measures: hull.Tape{
			"length_m": 4.3, "beam_m": 1.65, "transom_beam_m": 1.6, "bottom_beam_m": 1.22, "bow_beam_m": 1.2,
			"depth_aft_m": 0.52, "depth_amidships_m": 0.52,
			"depth_forward_m": 0.66, "bow_rise_m": 0.38, "forefoot_m": 1.1, "notch_m": 0.39, "rake_deg": 12},
			Well: &hull.Well{Length: 0.4, Breadth: 1.0, Floor: 0.16, Bulkhead: 0.42},
			FloodPoints: []model.FloodInput{
				{Name: "port scupper", At: model.Vec{0.03, 0.4, 0.17}, Space: hull.WellSpace},
				{Name: "starboard scupper", At: model.Vec{0.03, -0.4, 0.17}, Space: hull.WellSpace},
			}},
		Outfit: model.Outfit{
			Masses: []model.FixedMass{
				{Name: "hull with benches", Kind: "hull", Kg: 148, At: model.Vec{1.95, 0, 0.26}, Known: "weighed"},
				{Name: "15 hp outboard", Kind: "motor", Kg: 46, At: model.Vec{-0.12, 0, 0.5}, Known: "plate"}},
			Tanks: []model.TankInput{{Name: "portable tank, 12 L", Kind: "fuel", Size: model.Vec{0.42, 0.26, 0.11},
				Corner: model.Vec{0.75, -0.13, 0.04}, Fill: 0.7,
				Density: float.Petrol, Known: "gauge"}},
			Material: "aluminium", Propulsion: "outboard",
			Rates: []model.RateInput{
				{Speed: 6 * kmh, Flow: 1.1},
				{Speed: 12 * kmh, Flow: 3.2},
				{Speed: 28 * kmh, Flow: 6},
			},
		},
		Plate: model.Plate{MaxKg: 380, MaxPersons: 4, Includes: []string{"persons", "gear", "motor"},
			Source: "builder's plate"},
		Limits: model.Limits{Freeboard: model.Limit{Value: 0.2, Source: "skipper"},
			Heel: model.Limit{Value: 2, Source: "practice"},
			TrimLow: model.Limit{
				Value:  -0.2,
				Source: "practice",
			}, TrimHigh: model.Limit{Value: 1.8, Source: "practice"}},
		Setup: []string{"hull", "plate", "engine", "tanks", "posts", "places"},
	}
}

// sisters are what Dunlin's sisters are laid out like, and the beds that the usual
// layouts have not.
var sisters = []struct {
	boat   func() aboard.BoatInput
	layout string
	more   []fleet.PlaceInput
	limits map[string]float64 // kg, of places
	posts  []fleet.PostInput
}{
	{plover, "tournament", []fleet.PlaceInput{{Name: "rods along the side deck", Corner: model.Vec{1.4, 0.32, 0.53},
		Size: model.Vec{2.2, 0.4, 0.3}, Dryness: "wet", MaxKg: 20, Form: "bed"}},
		map[string]float64{"port aft locker": 25, "starboard aft locker": 25, "centre locker": 18, "day box": 10,
			"bow locker": 15, "battery box": 70}, nil},
	{whimbrel, "benches", []fleet.PlaceInput{{Name: "rods across the benches", Corner: model.Vec{0.75, -0.62, 0.35},
		Size: model.Vec{2.2, 0.4, 0.3}, Dryness: "wet", MaxKg: 15, Form: "bed"}},
		map[string]float64{"stern bench": 40, "middle bench": 30, "bow box": 15},
		[]fleet.PostInput{
			{Name: "stern, starboard", At: model.Vec{1.0, -0.3, 0.15}},
			{Name: "stern, middle", At: model.Vec{1.2, 0, 0.15}},
			{Name: "middle, starboard", At: model.Vec{1.98, -0.16, 0.34}},
		}},
}

// shelves are where things are kept ashore.
var shelves = []shed.ShedInput{
	{Site: "boathouse", Name: "shelf A, dry", Size: model.Vec{2.4, 0.5, 0.45}, Dryness: "dry", MaxKg: 60},
	{Site: "boathouse", Name: "shelf B, dry", Size: model.Vec{2.4, 0.6, 0.6}, Dryness: "dry", MaxKg: 45},
	// more stands on it than it carries
	{Site: "boathouse", Name: "rod rack", Size: model.Vec{2.7, 0.4, 1.2}, Dryness: "dry"},
	{Site: "boathouse", Name: "wet wall", Size: model.Vec{3, 0.5, 1.8}, Dryness: "wet"},
	{Site: "boathouse", Name: "floor", Dryness: "wet"},
	{Site: "van", Name: "drawer 1", Size: model.Vec{1.2, 0.5, 0.25}, Dryness: "dry", MaxKg: 40, Locks: true},
	{Site: "van", Name: "drawer 2", Size: model.Vec{1.2, 0.5, 0.3}, Dryness: "dry", MaxKg: 60, Locks: true},
	{Site: "home", Name: "hall cupboard", Dryness: "dry", Locks: true},
	{Site: "home", Name: "freezer", Dryness: "wet"},
}
