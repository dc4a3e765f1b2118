package model

import (
	"time"

	"github.com/google/uuid"
)

// TripPerson is somebody who comes on a trip: one of the crew, or not.
type TripPerson struct {
	ID       uuid.UUID  `json:"id" format:"uuid"`
	MemberID *uuid.UUID `json:"member_id,omitempty" format:"uuid" doc:"Of the crew: name and mass are then those of the member"`
	Name     string     `json:"name"`
	Kg       float64    `json:"kg" doc:"Clothed"`
	Age      float64    `json:"age,omitempty" doc:"Years; 0 is not said"`
	Role     string     `json:"role" words:"trip_roles"`
	Sits     *uuid.UUID `json:"sits,omitempty" format:"uuid" doc:"The post under way"`
	Fishes   *uuid.UUID `json:"fishes,omitempty" format:"uuid" doc:"The post while fishing"`
}

// DayPlan is how a day goes.
type DayPlan struct {
	Phases  []DayPhase  `json:"phases" maxItems:"40"`
	Fixed   int         `json:"fixed" doc:"The phase, from 0, whose beginning is fixed; the others count from it"`
	At      int         `json:"at_min" doc:"When that begins, minutes after midnight of the first day"`
	Zone    int         `json:"zone_min" doc:"Local time is so many minutes ahead of UTC"`
	Lat     *float64    `json:"lat,omitempty" doc:"Of the water, degrees, for sunrise and sunset"`
	Lon     *float64    `json:"lon,omitempty"`
	Marks   []DayMark   `json:"marks,omitempty" maxItems:"20"`
	Coolers []DayCooler `json:"coolers,omitempty" maxItems:"10"`
	Ashore  *FloatPlan  `json:"float_plan,omitempty" doc:"For someone ashore"`
	BestOf  int         `json:"best_of,omitempty" doc:"How many fish are kept, the heaviest; 0 keeps all"`
	First   string      `json:"fuel_first,omitempty" doc:"The tank of fuel that is used first, where she has several"`
	Power   *DayPower   `json:"power,omitempty" doc:"How her batteries go out"`
	Air     float64     `json:"air_c" doc:"Around the coolers, degrees Celsius"`
	Water   float64     `json:"water_c" doc:"Of the fish"`
}

// DayPhase is a stretch of a day.
type DayPhase struct {
	Kind  string     `json:"kind" words:"phase_kinds"`
	Name  string     `json:"name"`
	Hours float64    `json:"h"`
	Leg   int        `json:"leg,omitempty" doc:"Of the trip's way, from 1: its hours and fuel are the leg's"`
	Speed float64    `json:"speed_m_s,omitempty" doc:"Of a phase that is no leg"`
	Posts []DayPost  `json:"posts,omitempty" maxItems:"20" doc:"Who is elsewhere than they sit or fish"`
	Tanks []DayTank  `json:"tanks,omitempty" maxItems:"20"`
	Catch []DayCatch `json:"catch,omitempty" maxItems:"20"`

	Power *PhasePower `json:"power,omitempty" doc:"What is otherwise than usual with her electrics"`
}

// DayPost is where somebody is in a phase; no post is ashore.
type DayPost struct {
	Person uuid.UUID  `json:"person" format:"uuid"`
	Post   *uuid.UUID `json:"post,omitempty" format:"uuid"`
	Seated bool       `json:"seated,omitempty"`
}

// DayTank fills or empties a tank by the end of a phase.
type DayTank struct {
	Tank   string  `json:"tank"`
	Fill   float64 `json:"fill" doc:"Share, 0 to 1"`
	AtOnce bool    `json:"at_once,omitempty" doc:"At the phase's beginning"`
}

// DayCatch is what comes aboard in a phase and where it goes: a place, or a cooler.
type DayCatch struct {
	Kg    float64    `json:"kg"`
	Place *uuid.UUID `json:"place_id,omitempty" format:"uuid"`
}

// DayCooler is ice in a place.
type DayCooler struct {
	Place  uuid.UUID `json:"place_id" format:"uuid"`
	Ice    float64   `json:"ice_kg"`
	UA     float64   `json:"ua_w_k" doc:"What its walls let in"`
	Drains bool      `json:"drains,omitempty"`
}

// DayMark is a time that the crew knows: a tide, the weigh-in.
type DayMark struct {
	Name string `json:"name"`
	At   int    `json:"at_min" doc:"Minutes after midnight of the first day"`
}

// Settled is a stage of a trip that somebody called settled, with what it said then.
type Settled struct {
	Stage string    `json:"stage"`
	Said  []string  `json:"said"`
	By    uuid.UUID `json:"by"`
	At    time.Time `json:"at"`
}

// Accepted is a line of a trip's verdict that a skipper took upon them.
type Accepted struct {
	Key  string    `json:"key"`
	Said string    `json:"said"`
	By   uuid.UUID `json:"by"`
	At   time.Time `json:"at"`
}

// Forget drops what was said of a trip's boat, when it goes in another: where people are
// aboard, what fills, what stays ashore. Hours and times stay.
func (t *Trip) Forget() {
	t.Ashore = nil
	people := append([]TripPerson(nil), t.People...)
	for i := range people {
		people[i].Sits, people[i].Fishes = nil, nil
	}
	t.People = people
	if t.Day == nil {
		return
	}
	d := *t.Day
	d.Coolers, d.Power, d.Phases = nil, nil, append([]DayPhase(nil), d.Phases...)
	for i := range d.Phases {
		p := &d.Phases[i]
		p.Posts, p.Tanks, p.Catch, p.Power = nil, nil, nil, nil
	}
	t.Day = &d
}

// TripLog is what was told after a trip beside hours and fuel.
type TripLog struct {
	Distance float64 `json:"distance_m,omitempty"`
	IceLeft  float64 `json:"ice_left_kg,omitempty"`
	Fetching float64 `json:"fetching,omitempty" doc:"How long fetching took against what was reckoned: 1 is alike, 0 nobody said"`
	Notes    string  `json:"notes,omitempty"`

	Volts []RestVolts `json:"volts,omitempty" maxItems:"8" doc:"Of her banks at rest, an hour after the last load or charge"`
}

// TripUse is a piece that went along on a trip; Used is nil where nobody said.
type TripUse struct {
	CrewID uuid.UUID `gorm:"primaryKey"`
	TripID uuid.UUID `gorm:"primaryKey"`
	GearID uuid.UUID `gorm:"primaryKey"`
	Used   *bool
}

func (TripUse) TableName() string { return "trip_use" }

// Fish is one that was caught on a trip.
type Fish struct {
	ID      uuid.UUID  `json:"id" format:"uuid"`
	Species string     `json:"species"`
	Length  float64    `json:"length_m,omitempty" doc:"0 is not measured"`
	Kg      float64    `json:"kg" doc:"Weighed, or worked out from the length"`
	Weighed bool       `json:"weighed,omitempty"`
	Tag     int        `json:"tag,omitempty" doc:"Number of its cull tag"`
	Place   *uuid.UUID `json:"place_id,omitempty" format:"uuid" doc:"Where it lies; the livewell where there is none"`
	Back    bool       `json:"back,omitempty" doc:"It went back"`
	At      time.Time  `json:"at"`
}

// FloatPlan is what someone ashore is told, beside what the trip says.
type FloatPlan struct {
	Looks   string `json:"looks,omitempty" doc:"Of the boat, so that she is known from afar"`
	Contact string `json:"contact,omitempty" doc:"Who ashore has it"`
	Call    string `json:"call,omitempty" doc:"Whom to call when they are late"`
	Worry   int    `json:"worry_min,omitempty" doc:"When to: minutes after they are to be back"`
	Guests  string `json:"guests,omitempty" doc:"What guests are told: where to be, what to bring"`
}

// TripLink is a link by which guests see what they need of a trip.
type TripLink struct {
	CrewID    uuid.UUID `gorm:"primaryKey"`
	TripID    uuid.UUID `gorm:"primaryKey"`
	TokenHash []byte
	MadeBy    uuid.UUID
	ExpiresAt time.Time
}

func (TripLink) TableName() string { return "trip_link" }
