package model

import (
	"fmt"

	"ergasia/core/check"
	"ergasia/core/hull"
	"ergasia/core/words"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
)

// Vec is a point or size in the boat's frame: x forward of the foot of the
// transom, y to port, z above the lowest point of the keel; metres.
type Vec [3]float64

// R3 is the vector for computing, metres.
func (v Vec) R3() r3.Vec { return r3.Vec{X: v[0], Y: v[1], Z: v[2]} }

// VecOf is a vector as it is kept.
func VecOf(v r3.Vec) Vec { return Vec{v.X, v.Y, v.Z} }

// FixedMass is a part of the boat herself.
type FixedMass struct {
	Name  string  `json:"name"`
	Kind  string  `json:"kind" words:"mass_kinds"`
	Kg    float64 `json:"kg"`
	At    Vec     `json:"at_m"`
	Known string  `json:"known" words:"mass_known"`
}

// TankInput is a tank, as a box with its edges along the boat's.
type TankInput struct {
	Name    string  `json:"name"`
	Kind    string  `json:"kind" words:"tank_kinds"`
	Size    Vec     `json:"size_m"`
	Corner  Vec     `json:"corner_m" doc:"Of least x, y and z"`
	Fill    float64 `json:"fill" doc:"Share of the volume, 0 to 1"`
	Density float64 `json:"density_kg_m3"`
	Known   string  `json:"known,omitempty" words:"level_known" doc:"How the level is known; gauge where it is left out"`
	Rest    float64 `json:"unusable_l,omitempty" doc:"Of fuel: what the pick-up does not reach"`
	InHull  bool    `json:"in_hull,omitempty" doc:"The tank has the hull's own shape: what of her inside lies in the box"`
}

// FoamInput is a box of closed-cell foam; what of it lies in the hull counts.
type FoamInput struct {
	Name string `json:"name"`
	Low  Vec    `json:"low_m"`
	High Vec    `json:"high_m"`
	In   bool   `json:"in" doc:"It is in the boat now"`
}

// SailInput stands over the sheer and catches the wind: a console, a canopy.
type SailInput struct {
	Name string  `json:"name"`
	Area float64 `json:"area_m2"`
	Z    float64 `json:"z_m" doc:"Height of its middle over the keel"`
}

// Outfit is what is always aboard, and what she is made of.
type Outfit struct {
	Masses     []FixedMass    `json:"masses" maxItems:"200"`
	Tanks      []TankInput    `json:"tanks" maxItems:"20"`
	Foam       []FoamInput    `json:"foam,omitempty" maxItems:"40"`
	Sails      []SailInput    `json:"sails,omitempty" maxItems:"20"`
	Material   string         `json:"material,omitempty" words:"materials" doc:"Of the hull; glass where it is left out"`
	Propulsion string         `json:"propulsion,omitempty" words:"propulsion" doc:"outboard where it is left out"`
	Kind       string         `json:"kind,omitempty" words:"boat_kinds" doc:"monohull where it is left out"`
	Rates      []RateInput    `json:"rates,omitempty" maxItems:"20" doc:"What the motor takes at some speeds"`
	Rigging    *RiggingInput  `json:"rigging,omitempty" doc:"How her fittings are used, and how high she may be"`
	Carriage   *CarriageInput `json:"carriage,omitempty" doc:"What rules ask of her"`
	Brief      *BriefInput    `json:"brief,omitempty" doc:"What guests are told, in the crew's words"`
	Remote     bool           `json:"remote_steering,omitempty" doc:"Steered by wheel, and the transom is 20 in high or more"`
}

// Plate is what the builder's plate allows; no MaxKg means no plate.
type Plate struct {
	MaxKg      float64  `json:"max_kg"`
	MaxPersons int      `json:"max_persons"`
	Includes   []string `json:"includes" words:"counted" maxItems:"32" doc:"What counts towards max_kg"`
	Source     string   `json:"source" doc:"Where the figures were read"`
}

// Limit is a bound with where it comes from.
type Limit struct {
	Value  float64 `json:"value"`
	Source string  `json:"source" words:"limit_sources"`
}

// Limits belong to the boat.
type Limits struct {
	Freeboard Limit `json:"freeboard_m" doc:"Least freeboard at any flood point or the sheer"`
	Heel      Limit `json:"heel_deg" doc:"Greatest heel to either side"`
	TrimLow   Limit `json:"trim_low_deg" doc:"Least trim, bow up positive"`
	TrimHigh  Limit `json:"trim_high_deg" doc:"Greatest trim, bow up positive"`
}

// Check adds what is wrong with the outfit to fs; names and kinds are checked by who knows the words.
func (o Outfit) Check(fs *check.Faults) {
	fs.OneOf("outfit.material", o.Material, words.Materials.OrNone()...)
	fs.OneOf("outfit.propulsion", o.Propulsion, words.Propulsion.OrNone()...)
	fs.OneOf("outfit.kind", o.Kind, words.BoatKinds.OrNone()...)
	if o.Rigging != nil {
		o.Rigging.Check(fs, "outfit.rigging.")
	}
	if o.Carriage != nil {
		o.Carriage.Check(fs, "outfit.carriage.")
	}
	if o.Brief != nil {
		o.Brief.Check(fs, "outfit.brief.")
	}
	for i, f := range o.Foam {
		field := fmt.Sprintf("outfit.foam[%d]", i)
		fs.Text(field+".name", f.Name, 1, 80)
		for k := range 3 {
			fs.Within(fmt.Sprintf("%s.low_m[%d]", field, k), f.Low[k], -Farthest, Farthest)
			if fs.Within(fmt.Sprintf("%s.high_m[%d]", field, k), f.High[k], -Farthest, Farthest) && f.High[k] <= f.Low[k] {
				fs.Add(fmt.Sprintf("%s.high_m[%d]", field, k), f.High[k], fmt.Sprintf("must be over low_m, %g", f.Low[k]))
			}
		}
	}
	for i, s := range o.Sails {
		field := fmt.Sprintf("outfit.sails[%d]", i)
		fs.Text(field+".name", s.Name, 1, 80)
		fs.Within(field+".area_m2", s.Area, 0, 50)
		fs.Within(field+".z_m", s.Z, 0, 10)
	}
}

// Check adds what is wrong with the plate to fs.
func (p Plate) Check(fs *check.Faults) {
	fs.Within("plate.max_kg", p.MaxKg, 0, 20000)
	fs.Within("plate.max_persons", float64(p.MaxPersons), 0, 50)
	fs.Text("plate.source", p.Source, 0, 80)
	for _, what := range p.Includes {
		fs.OneOf("plate.includes", what, words.Counted.Keys()...)
	}
}

// Check adds what is wrong with the limits to fs.
func (l Limits) Check(fs *check.Faults) {
	fs.Within("limits.freeboard_m.value", l.Freeboard.Value, 0, 3)
	fs.Within("limits.heel_deg.value", l.Heel.Value, 0.1, 30)
	fs.Within("limits.trim_low_deg.value", l.TrimLow.Value, -15, 15)
	fs.Within("limits.trim_high_deg.value", l.TrimHigh.Value, -15, 15)
	if l.TrimLow.Value >= l.TrimHigh.Value {
		fs.Add("limits.trim_low_deg.value", l.TrimLow.Value, fmt.Sprintf("must be under trim_high_deg, %g", l.TrimHigh.Value))
	}
	for name, limit := range map[string]Limit{"freeboard_m": l.Freeboard, "heel_deg": l.Heel, "trim_low_deg": l.TrimLow,
		"trim_high_deg": l.TrimHigh} {
		fs.OneOf("limits."+name+".source", limit.Source, words.LimitSources.Keys()...)
	}
}

// HullInput is the shape of a boat: either the tape measures of a form, or stations.
type HullInput struct {
	Form        string             `json:"form,omitempty" doc:"Which form the measures are of, see hull-forms"`
	Measures    map[string]float64 `json:"measures,omitempty" doc:"By the form's keys: metres and degrees"`
	Stations    []StationInput     `json:"stations,omitempty" maxItems:"401" doc:"Or her stations, aft to fore"`
	Deck        *hull.Deck         `json:"deck,omitempty" doc:"Where she has a self-draining deck"`
	Well        *hull.Well         `json:"well,omitempty" doc:"Where she has a splash well before the transom's notch"`
	FloodPoints []FloodInput       `json:"flood_points,omitempty" maxItems:"50" doc:"Where water first comes in, beside what the form gives"`
}

// StationInput is a half-section from keel to sheer.
type StationInput struct {
	X      float64      `json:"x_m"`
	PointX []float64    `json:"point_x_m,omitempty" maxItems:"201" doc:"An x for each point, as a raked transom needs"`
	Half   [][2]float64 `json:"half_section_yz_m" minItems:"2" maxItems:"201"`
}

// FloodInput is a flood point.
type FloodInput struct {
	Name  string `json:"name"`
	At    Vec    `json:"at_m"`
	Space string `json:"space,omitempty" doc:"The space that it leads into: water through it does not swamp her"`
}

// KitChoice is a thing that answers a line of a kit: one piece, or any with the tag.
type KitChoice struct {
	GearID *uuid.UUID `json:"gear_id,omitempty" format:"uuid"`
	Tag    string     `json:"tag,omitempty"`
	Name   string     `json:"name,omitempty" doc:"Of the gear; told, never read"`
}

// KitLine is a wish of a kit.
type KitLine struct {
	What    string      `json:"what"`
	Amount  float64     `json:"amount"`
	Per     string      `json:"per" words:"kit_per"`
	Nice    bool        `json:"nice" doc:"Nice to have: never missing"`
	Choices []KitChoice `json:"choices" minItems:"1" maxItems:"20" doc:"First is best, the rest are alternatives"`
}

const Farthest = 30 // metres from the foot of the transom

// TrailerInput is a boat's trailer. x counts from the foot of the transom as she
// sits on it. A rating of 0 is not known.
type TrailerInput struct {
	Kg           float64 `json:"kg" doc:"Empty"`
	CG           float64 `json:"cg_m" doc:"x of its own centre"`
	Axle         float64 `json:"axle_m" doc:"x of the axle, or the middle of two"`
	Hitch        float64 `json:"hitch_m" doc:"x of the ball"`
	RatedKg      float64 `json:"rated_kg"`
	AxleRatedKg  float64 `json:"axle_rated_kg"`
	HitchRatedKg float64 `json:"hitch_rated_kg" doc:"Least of coupling, ball and car"`
	Tyres        int     `json:"tyres"`
	TyreRatedKg  float64 `json:"tyre_rated_kg"`
	TyreBar      float64 `json:"tyre_pressure_bar"`
	BrakedOverKg float64 `json:"braked_over_kg" doc:"Mass over which brakes are asked for where it is registered"`
	Brakes       bool    `json:"brakes"`
	Straps       int     `json:"straps"`
	StrapRatedKg float64 `json:"strap_rated_kg"`
	School       string  `json:"school" words:"trailer_schools" doc:"Whose share of hitch load the crew holds to"`
}
