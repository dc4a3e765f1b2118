package model

import (
	"encoding/json"
	"time"

	"ergasia/core/check"
	"ergasia/core/words"

	"github.com/google/uuid"
)

// Fitting is a thing that is fastened to a boat.
type Fitting struct {
	ID        uuid.UUID `gorm:"primaryKey"`
	CrewID    uuid.UUID
	BoatID    *uuid.UUID // nil of a unit that is in no base
	Name      string
	Kind      string
	Kg        float64
	MassKnown string
	PartOf    string       // name of the boat's mass in which it was counted before it was listed
	Lies      FittingLies  `gorm:"serializer:json"`
	Held      FittingHeld  `gorm:"serializer:json"`
	Look      FittingLook  `gorm:"serializer:json"`
	Parts     FittingParts `gorm:"serializer:json"`
	Story     FittingStory `gorm:"serializer:json"`
	Cost      *float64
	Note      string
	Dock      string        // of a base what it takes, of a unit what it stands on
	Unit      bool          // it docks, in this boat or another
	BaseID    *uuid.UUID    // where a unit is
	IsOff     bool          // taken off, and ashore
	Moving    FittingMoving `gorm:"serializer:json"`
	Version   int
	CreatedAt time.Time
}

// TableName is its table.
func (Fitting) TableName() string { return "fitting" }

// FittingLies is where a fitting stands, how large it is and where it faces.
type FittingLies struct {
	At     Vec        `json:"at_m" doc:"The middle of the face by which it is fastened"`
	Size   Vec        `json:"size_m" doc:"Along where it faces, across, and up"`
	Stands string     `json:"stands" words:"stands"`
	Legs   float64    `json:"legs_m,omitempty" doc:"Of what stands on legs, an arm or a pedestal of its own: how high over its foot its body begins"`
	Turn   float64    `json:"turn_deg,omitempty" doc:"Where it faces: 0 ahead, 90 to port, 180 aft"`
	Lean   float64    `json:"lean_deg,omitempty" doc:"Its own upright, leaning towards where it faces"`
	Swing  float64    `json:"swing_m,omitempty" doc:"What it sweeps when it turns; 0 where it does not"`
	Rod    float64    `json:"rod_m,omitempty" doc:"Length of the rod that it holds"`
	Screen float64    `json:"screen_m,omitempty" doc:"Diagonal of its screen"`
	Beam   float64    `json:"beam_deg,omitempty" doc:"Whole angle of its light"`
	Straps *uuid.UUID `json:"straps_place_id,omitempty" format:"uuid" doc:"Of a tie-down: the place whose things its strap holds; two tie-downs make a strap"`
	Rated  float64    `json:"rated_n,omitempty" doc:"Of a tie-down: what its strap is rated for, newtons"`
	Post   *uuid.UUID `json:"post_id,omitempty" format:"uuid" doc:"Post from which it is worked or watched; the nearest where it is left out"`
	Guess  bool       `json:"guess,omitempty" doc:"Nobody measured where it is or how large"`
}

// FittingHeld is how a fitting is held, and what bears on it.
type FittingHeld struct {
	Method    string       `json:"method" words:"methods"`
	Screw     string       `json:"screw,omitempty" doc:"Size, such as M6 or 1/4-20"`
	Length    float64      `json:"length_mm,omitempty" doc:"Of the screws; 0 where nobody knows"`
	Count     int          `json:"count,omitempty"`
	Grade     string       `json:"grade,omitempty" doc:"Such as A4"`
	Sealant   string       `json:"sealant,omitempty"`
	Backing   string       `json:"backing,omitempty" doc:"Washers, a plate, of what"`
	Drilled   string       `json:"drilled,omitempty" doc:"Holes made in the boat"`
	Panel     string       `json:"panel,omitempty" words:"panels" doc:"What it is fastened to; the boat's own material where it is left out"`
	Thickness float64      `json:"panel_mm,omitempty"`
	Skin      float64      `json:"skin_mm,omitempty" doc:"Of a cored panel, one skin"`
	Base      float64      `json:"base_mm,omitempty" doc:"Thickness of the fitting's own foot"`
	Behind    *float64     `json:"behind_mm,omitempty" doc:"Free behind the panel; left out where nothing is near"`
	Foot      [2]float64   `json:"foot_mm" doc:"Of its foot, along and across"`
	Pattern   [][2]float64 `json:"pattern_mm,omitempty" maxItems:"64" doc:"Its holes from the middle of its foot, along and across; near the corners where it is left out"`
	Cut       [2]float64   `json:"cut_mm,omitempty" doc:"What is cut out for it, along and across; 0, 0 for nothing"`
	Corner    float64      `json:"corner_mm,omitempty" doc:"Radius of the cut-out's corners"`
	Curve     float64      `json:"curve_mm,omitempty" doc:"Radius of the wall along the foot; 0 where it is flat"`
	Back      string       `json:"back,omitempty" words:"backs" doc:"How one gets at the other side; open where it is left out"`
	Comes     string       `json:"comes_off,omitempty" words:"comes_off" doc:"How often it is taken off; never where it is left out"`
	Wet       string       `json:"wet,omitempty" words:"wets" doc:"How near the water; spray where it is left out"`
	Metal     string       `json:"metal,omitempty" words:"metals"`
	Room      float64      `json:"room_mm,omitempty" doc:"For the tool, in a line with the holes; 0 for plenty"`
	Gripped   bool         `json:"gripped,omitempty" doc:"People hold on to it, lean or sit on it"`
	Pole      *PoleInput   `json:"pole,omitempty" doc:"What of it hangs in the water"`
}

// PoleInput hangs in the water from a fitting.
type PoleInput struct {
	Wet      float64 `json:"wet_m"`
	Diameter float64 `json:"diameter_m"`
	Clamp    float64 `json:"clamp_to_water_m" doc:"From the clamp down to the water"`
	Foot     float64 `json:"foot_area_m2,omitempty" doc:"Frontal area of what hangs at its foot"`
	Speed    float64 `json:"speed_m_s" doc:"The fastest it is pulled at"`
	Holds    float64 `json:"holds_n_m,omitempty" doc:"Moment that the clamp holds, found by pulling with a luggage scale; 0 where nobody pulled"`
	Brace    float64 `json:"brace_m,omitempty" doc:"How far below the clamp a brace takes hold; 0 for none"`
}

// FittingLook is when a fitting is to be looked at again.
type FittingLook struct {
	What  string     `json:"what,omitempty"`
	Days  int        `json:"every_days,omitempty"`
	Trips int        `json:"every_trips,omitempty"`
	On    *time.Time `json:"last_on,omitempty"`
	Run   int        `json:"trips_since,omitempty"` // trips of the boat since then
}

// FittingMoving is what taking a fitting off, putting it on or moving it takes.
type FittingMoving struct {
	Minutes float64 `json:"minutes,omitempty" doc:"One way; 0 for what is usual"`
	Tools   string  `json:"tools,omitempty"`
	Parts   string  `json:"parts,omitempty"`
	Thief   bool    `json:"when_left,omitempty" doc:"Taken off when she is left alone"`
}

// RigSet is what is on a boat together: for a lake, for the sea, for the ice.
type RigSet struct {
	ID      uuid.UUID `gorm:"primaryKey"`
	CrewID  uuid.UUID
	BoatID  uuid.UUID
	Name    string
	Lines   RigLines `gorm:"serializer:json"`
	Version int
}

// TableName is its table.
func (RigSet) TableName() string { return "rig_set" }

// RigLine is a fitting of a set, with the base of a unit.
type RigLine struct {
	FittingID uuid.UUID  `json:"fitting_id" format:"uuid"`
	BaseID    *uuid.UUID `json:"base_id,omitempty" format:"uuid"`
}

// RigLines is a list kept as JSON; none is an empty list, never null.
type RigLines []RigLine

// MarshalJSON writes the list.
func (l RigLines) MarshalJSON() ([]byte, error) {
	if l == nil {
		return []byte("[]"), nil
	}
	return json.Marshal([]RigLine(l))
}

// FittingPart is a part for a fitting, on its way or left over.
type FittingPart struct {
	What  string `json:"what"`
	State string `json:"state" words:"part_states"`
}

// FittingDone is what was done to a fitting.
type FittingDone struct {
	On   time.Time `json:"on"`
	By   string    `json:"by"`
	What string    `json:"what"`
}

// FittingParts is a list kept as JSON; none is an empty list, never null.
type FittingParts []FittingPart

// MarshalJSON writes the list.
func (p FittingParts) MarshalJSON() ([]byte, error) {
	if p == nil {
		return []byte("[]"), nil
	}
	return json.Marshal([]FittingPart(p))
}

// FittingStory is what was done to a fitting, latest last; never null.
type FittingStory []FittingDone

// MarshalJSON writes the list.
func (s FittingStory) MarshalJSON() ([]byte, error) {
	if s == nil {
		return []byte("[]"), nil
	}
	return json.Marshal([]FittingDone(s))
}

// RiggingInput is how a boat is used, as her fittings feel it, and how high she may be.
type RiggingInput struct {
	Waters  string      `json:"waters,omitempty" words:"waters" doc:"How hard the sea slams; coastal where it is left out"`
	Over    float64     `json:"keel_over_road_m,omitempty" doc:"On her trailer"`
	Road    float64     `json:"road_m,omitempty" doc:"Greatest height over the road: a gate, a shed; 0 for none"`
	Bridge  float64     `json:"bridge_m,omitempty" doc:"Greatest height over the water: a bridge; 0 for none"`
	Rode    *RodeInput  `json:"rode,omitempty" doc:"What her anchor hangs on"`
	Sonar   *SonarInput `json:"sonar,omitempty" doc:"What the crew thinks of places for its sonar"`
	Working string      `json:"working_side,omitempty" enum:"port,starboard" doc:"The side where fish come in; left out where nobody said"`
	Deck    string      `json:"deck,omitempty" words:"panels" doc:"What people stand on"`
	DeckMM  float64     `json:"deck_mm,omitempty" doc:"How thick it is; 0 where nobody measured"`
}

// RodeInput is what an anchor hangs on, and where it lies.
type RodeInput struct {
	Chain    float64    `json:"chain_m"`
	ChainMM  float64    `json:"chain_mm"`
	Rope     float64    `json:"rope_m"`
	RopeMM   float64    `json:"rope_mm"`
	Depth    float64    `json:"depth_m" doc:"Where she usually anchors"`
	Tide     float64    `json:"tide_m,omitempty"`
	Scope    float64    `json:"scope,omitempty" doc:"Times depth and bow; 0 for 7, or 5 on chain alone"`
	Locker   *uuid.UUID `json:"place_id,omitempty" format:"uuid" doc:"The place that it lies in"`
	Windlass float64    `json:"windlass_m_per_min,omitempty" doc:"0 by hand"`
}

// Check adds what is wrong with it to fs.
func (r RiggingInput) Check(fs *check.Faults, field string) {
	fs.OneOf(field+"waters", r.Waters, words.Waters.OrNone()...)
	fs.Within(field+"keel_over_road_m", r.Over, 0, 3)
	fs.Within(field+"road_m", r.Road, 0, 10)
	fs.Within(field+"bridge_m", r.Bridge, 0, 100)
	fs.OneOf(field+"deck", r.Deck, words.Panels.OrNone()...)
	fs.Within(field+"deck_mm", r.DeckMM, 0, 200)
	fs.OneOf(field+"working_side", r.Working, "", "port", "starboard")
	if r.Rode != nil {
		r.Rode.Check(fs, field+"rode.")
	}
	if r.Sonar != nil {
		r.Sonar.Check(fs, field+"sonar.")
	}
}

// Check adds what is wrong with it to fs.
func (r RodeInput) Check(fs *check.Faults, field string) {
	fs.Within(field+"chain_m", r.Chain, 0, 300)
	fs.Within(field+"chain_mm", r.ChainMM, 0, 30)
	fs.Within(field+"rope_m", r.Rope, 0, 1000)
	fs.Within(field+"rope_mm", r.RopeMM, 0, 60)
	fs.Within(field+"depth_m", r.Depth, 0, 200)
	fs.Within(field+"tide_m", r.Tide, 0, 20)
	fs.Within(field+"scope", r.Scope, 0, 20)
	fs.Within(field+"windlass_m_per_min", r.Windlass, 0, 100)
}

// SonarInput is what the crew thinks of places for its sonar.
type SonarInput struct {
	Weights map[string]float64            `json:"weights,omitempty" doc:"By criterion, 0 to 5"`
	Ratings map[string]map[string]float64 `json:"ratings,omitempty" doc:"By place and criterion, 1 to 5"`
	Own     []SonarPlace                  `json:"own,omitempty" maxItems:"20" doc:"Places of the crew's own"`
}

// SonarPlace is a place for the sonar that a crew thought of.
type SonarPlace struct {
	Name string  `json:"name"`
	At   Vec     `json:"at_m" doc:"Of its foot"`
	Kg   float64 `json:"kg"`
}

// mostWords bounds what may be said by words that nobody listed.
const mostWords = 40

// Check adds what is wrong with it to fs.
func (s SonarInput) Check(fs *check.Faults, field string) {
	if len(s.Weights) > mostWords || len(s.Ratings) > mostWords {
		fs.Add(field+"weights", len(s.Weights), "has more criteria than there are")
		return
	}
	for key, w := range s.Weights {
		fs.OneOf(field+"weights", key, words.SonarCriteria.Keys()...)
		fs.Within(field+"weights", w, 0, 5)
	}
	for place, list := range s.Ratings {
		fs.Text(field+"ratings", place, 1, 80)
		for key, r := range list {
			fs.OneOf(field+"ratings", key, words.SonarCriteria.Keys()...)
			fs.Within(field+"ratings", r, 1, 5)
		}
	}
	for _, o := range s.Own {
		fs.Text(field+"own.name", o.Name, 1, 40)
		for k := range 3 {
			fs.Within(field+"own.at_m", o.At[k], -Farthest, Farthest)
		}
		fs.Within(field+"own.kg", o.Kg, 0, 100)
	}
}
