package demo

import (
	"ergasia/app/aboard"
	"ergasia/app/crew"
	"ergasia/app/fleet"
	"ergasia/app/kernel"
	"ergasia/core/float"
	"ergasia/core/hull"
	"ergasia/store/model"
)

// Dunlin is the crew's open boat, 5.4 m, for the sound.
func Dunlin() aboard.BoatInput {
	return aboard.BoatInput{
		Name:  "Dunlin",
		Water: float.SeaWater,
		Hull: model.HullInput{Form: "vee", Measures: hull.Tape{
			"length_m": 5.4, "beam_m": 2.12, "transom_beam_m": 1.96, "chine_beam_m": 1.76,
			"transom_deadrise_deg": 12, "amidships_deadrise_deg": 15, "depth_aft_m": 0.74, "depth_amidships_m": 0.78,
			"depth_forward_m": 1.02, "forefoot_m": 1.9, "notch_m": 0.55, "rake_deg": 12,
		}, Deck: &hull.Deck{Sole: 0.34, Aft: 0.03, Fore: 4.2, Scuppers: []hull.Scupper{
			{Name: "port scupper", At: [3]float64{0.03, 0.7, 0.35}},
			{Name: "starboard scupper", At: [3]float64{0.03, -0.7, 0.35}}}}},
		Outfit: model.Outfit{
			Masses: []model.FixedMass{
				{Name: "hull with console and rails", Kind: "hull", Kg: 405, At: model.Vec{2.25, 0, 0.4}, Known: "plate"},
				{Name: "60 hp outboard", Kind: "motor", Kg: 116, At: model.Vec{-0.15, 0, 0.62}, Known: "catalogue"},
				{Name: "bow motor", Kind: "motor", Kg: 24, At: model.Vec{4.85, 0.36, 1.09}, Known: "catalogue"},
				{Name: "starting battery", Kind: "battery", Kg: 21, At: model.Vec{0.901, -0.038, 0.354}, Known: "catalogue"},
				{Name: "house battery", Kind: "battery", Kg: 26, At: model.Vec{0.901, -0.278, 0.354}, Known: "catalogue"},
			},
			Tanks: []model.TankInput{{Name: "fuel tank, 60 L", Kind: "fuel", Size: model.Vec{0.75, 0.55, 0.145},
				Corner: model.Vec{1.55, -0.275, 0.09}, Fill: 0.75, Density: float.Petrol, Known: "gauge", Rest: 2}},
			Foam: []model.FoamInput{
				{Name: "under the sole", Low: model.Vec{2.4, -0.8, 0.03}, High: model.Vec{4.0, 0.8, 0.3}, In: true},
				{Name: "port quarter, behind the lining", Low: model.Vec{-0.1, 0.6, 0.36}, High: model.Vec{1.9, 1.06, 0.74},
					In: true},
				{Name: "starboard quarter, behind the lining", Low: model.Vec{-0.1, -1.06, 0.36}, High: model.Vec{1.9, -0.6, 0.74},
					In: true},
				{Name: "port side, forward", Low: model.Vec{1.9, 0.86, 0.4}, High: model.Vec{3.8, 1.06, 0.76}},
				{Name: "starboard side, forward", Low: model.Vec{1.9, -1.06, 0.4}, High: model.Vec{3.8, -0.86, 0.76}}},
			Sails:    []model.SailInput{{Name: "console and screen", Area: 0.6, Z: 1.0}},
			Material: "glass", Propulsion: "outboard", Remote: true,
			Rates: []model.RateInput{{Speed: 4.5 * knot, Flow: 3.2}, {Speed: 11 * knot, Flow: 9.5}, {Speed: 16 * knot, Flow: 12.5},
				{Speed: 23 * knot, Flow: 20}},
		},
		Plate: model.Plate{MaxKg: 620, MaxPersons: 6, Includes: []string{"persons", "gear", "fuel"},
			Source: "builder's plate"},
		Limits: model.Limits{
			Freeboard: model.Limit{Value: 0.2, Source: "skipper"},
			Heel:      model.Limit{Value: 1.5, Source: "practice"},
			TrimLow:   model.Limit{Value: 0.3, Source: "practice"},
			TrimHigh:  model.Limit{Value: 1.0, Source: "practice"},
		},
		Setup: []string{"hull", "plate", "engine", "tanks", "posts", "places"},
	}
}

// Speeds, metres a second.
const (
	kmh  = 1 / 3.6
	knot = 1852.0 / 3600
)

// trailer of Dunlin: her tyres are the weakest of it.
var trailer = model.TrailerInput{Kg: 260, CG: 2.3, Axle: 1.75, Hitch: 7.1, RatedKg: 1300, AxleRatedKg: 1350,
	HitchRatedKg: 75,
	Tyres:        2, TyreRatedKg: 480, TyreBar: 2.6, BrakedOverKg: 750, Brakes: true, Straps: 2, StrapRatedKg: 400,
	School: "boat"}

type person struct {
	login string
	role  kernel.Role
	input crew.MemberInput
}

var people = []person{
	{login: firstOwner, role: kernel.Owner, input: crew.MemberInput{Name: "Ilse", Mark: "I", Kg: 78,
		MassKnown: "weighed"}},
	{login: "oskar", role: kernel.Skipper, input: crew.MemberInput{Name: "Oskar", Mark: "O", Kg: 96,
		MassKnown: "weighed"}},
	{login: "sune", role: kernel.Hand, input: crew.MemberInput{Name: "Sune", Mark: "S", Kg: 84, MassKnown: "guess"}},
	{login: "marit", role: kernel.Hand, input: crew.MemberInput{Name: "Marit", Mark: "M", Kg: 71, MassKnown: "weighed"}},
	{login: "tove", role: kernel.Guest, input: crew.MemberInput{Name: "Tove", Mark: "T", Kg: 66, MassKnown: "guess"}},
}

// atPosts is who is at which post, by mark.
var atPosts = map[string]string{"I": "helm", "S": "port quarter"}

var posts = []fleet.PostInput{
	{Name: "helm", At: model.Vec{1.43, 0, 0.34}},
	{Name: "port quarter", At: model.Vec{0.62, 0.38, 0.34}},
	{Name: "starboard quarter", At: model.Vec{0.62, -0.38, 0.34}},
	{Name: "port rail", At: model.Vec{3.3, 0.34, 0.34}},
	{Name: "starboard rail", At: model.Vec{3.3, -0.34, 0.34}},
	{Name: "fore deck", At: model.Vec{4.45, 0, 0.72}},
}

// places are her lockers, boxes and beds: corner of least x, y, z, then size.
var places = []fleet.PlaceInput{
	{Name: "transom well", Corner: model.Vec{0.08, -0.34, 0.34}, Size: model.Vec{0.46, 0.68, 0.44}, Dryness: "wet",
		MaxKg: 60, Insulated: true},
	{Name: "port quarter", Corner: model.Vec{0.08, 0.4, 0.34}, Size: model.Vec{0.46, 0.43, 0.36},
		Opening: [2]float64{0.45, 0.36}, Dryness: "wet", MaxKg: 30, Lid: "hinged"},
	{Name: "starboard quarter", Corner: model.Vec{0.08, -0.83, 0.34}, Size: model.Vec{0.46, 0.43, 0.36},
		Opening: [2]float64{0.45, 0.36}, Dryness: "wet", MaxKg: 30, Lid: "hinged"},
	{Name: "port bench", Corner: model.Vec{0.7, 0.4, 0.34}, Size: model.Vec{0.52, 0.44, 0.36},
		Opening: [2]float64{0.46, 0.38}, Dryness: "dry", MaxKg: 25, Lid: "hinged"},
	{Name: "starboard bench", Corner: model.Vec{0.7, -0.84, 0.34}, Size: model.Vec{0.52, 0.44, 0.36},
		Opening: [2]float64{0.46, 0.38}, Dryness: "dry", MaxKg: 25, Lid: "hinged"},
	{Name: "helm seat", Corner: model.Vec{1.24, -0.3, 0.34}, Size: model.Vec{0.4, 0.6, 0.4},
		Opening: [2]float64{0.36, 0.5}, Dryness: "dry", MaxKg: 30, Lid: "hinged"},
	{Name: "console", Corner: model.Vec{1.78, -0.32, 0.34}, Size: model.Vec{0.62, 0.64, 0.58},
		Opening: [2]float64{0.45, 0.5}, Dryness: "dry", MaxKg: 35, Lid: "hinged"},
	{Name: "glove box", Corner: model.Vec{1.8, -0.31, 0.96}, Size: model.Vec{0.36, 0.3, 0.18},
		Opening: [2]float64{0.24, 0.26}, Dryness: "dry", MaxKg: 6, Lid: "hinged"},
	{Name: "console front seat", Corner: model.Vec{2.5, -0.34, 0.34}, Size: model.Vec{0.5, 0.68, 0.45}, Dryness: "wet",
		MaxKg: 60, Lid: "hinged"},
	{Name: "port pocket", Corner: model.Vec{1.28, 0.76, 0.46}, Size: model.Vec{1.2, 0.14, 0.22}, Dryness: "wet",
		MaxKg: 10},
	{Name: "starboard pocket", Corner: model.Vec{1.28, -0.9, 0.46}, Size: model.Vec{1.2, 0.14, 0.22}, Dryness: "wet",
		MaxKg: 10},
	{Name: "port rod bed", Corner: model.Vec{1.5, 0.46, 0.36}, Size: model.Vec{2.2, 0.22, 0.15}, Dryness: "wet",
		MaxKg: 12, Form: "bed"},
	{Name: "starboard rod bed", Corner: model.Vec{1.5, -0.68, 0.36}, Size: model.Vec{2.2, 0.22, 0.15}, Dryness: "wet",
		MaxKg: 12, Form: "bed"},
	{Name: "seat holders", Corner: model.Vec{1.12, -0.3, 0.8}, Size: model.Vec{0.1, 0.6, 0.25}, Dryness: "wet", MaxKg: 6,
		Form: "upright", Slots: 4},
	{Name: "port fore locker", Corner: model.Vec{3.72, 0.03, 0.35}, Size: model.Vec{0.54, 0.42, 0.34},
		Opening: [2]float64{0.48, 0.36}, Dryness: "dry", MaxKg: 35, Lid: "hinged"},
	{Name: "starboard fore locker", Corner: model.Vec{3.72, -0.45, 0.35}, Size: model.Vec{0.54, 0.42, 0.34},
		Opening: [2]float64{0.48, 0.36}, Dryness: "dry", MaxKg: 35, Lid: "hinged"},
	{Name: "bow locker", Corner: model.Vec{4.3, -0.25, 0.43}, Size: model.Vec{0.42, 0.5, 0.28},
		Opening: [2]float64{0.36, 0.44}, Dryness: "wet", MaxKg: 25, Lid: "hinged"},
	{Name: "anchor well", Corner: model.Vec{4.76, -0.15, 0.56}, Size: model.Vec{0.27, 0.3, 0.28}, Dryness: "wet",
		MaxKg: 20, Lid: "hinged"},
	{Name: "step", Corner: model.Vec{3.1, -0.22, 0.34}, Size: model.Vec{0.34, 0.44, 0.2}, Opening: [2]float64{0.3, 0.4},
		Dryness: "dry", MaxKg: 15, Lid: "hinged"},
}
