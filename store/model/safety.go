package model

import (
	"encoding/json"
	"fmt"
	"strings"
	"time"

	"ergasia/core/check"
	"ergasia/core/words"

	"github.com/google/uuid"
)

// CrewRules are the packs that a crew holds its trips against.
type CrewRules struct {
	CrewID  uuid.UUID `gorm:"primaryKey"`
	Country string
	Packs   Strings `gorm:"serializer:json"`
	Version int
}

// RulePack is a pack of a crew's own.
type RulePack struct {
	ID      uuid.UUID `gorm:"primaryKey"`
	CrewID  uuid.UUID
	Name    string
	Body    json.RawMessage `gorm:"type:jsonb"`
	History []PackChange    `gorm:"serializer:json"`
	Version int
}

// PackChange is a version of a pack.
type PackChange struct {
	Version int             `json:"version"`
	On      time.Time       `json:"on"`
	By      string          `json:"by"`
	Body    json.RawMessage `json:"body"`
	Said    []string        `json:"said" doc:"What became otherwise on which trip"`
}

// TripRules are where a trip is, as somebody said.
type TripRules struct {
	Country string `json:"country,omitempty" doc:"Two letters; that of the crew where it is left out"`
	Water   string `json:"water,omitempty" words:"carriage_waters" doc:"As the boat's water where it is left out"`
	Use     string `json:"use,omitempty" words:"carriage_uses" doc:"As the kind of trip where it is left out"`
	Night   *bool  `json:"night,omitempty" doc:"As the day's hours where it is left out"`
}

// CarriageInput is what rules ask of a boat, beside her hull.
type CarriageInput struct {
	PowerKW  float64      `json:"power_kw,omitempty" doc:"Of her motor; 0 is not said"`
	Electric bool         `json:"electric,omitempty" doc:"Her motor is electric"`
	Fuel     string       `json:"fuel,omitempty" words:"carriage_fuels"`
	Closed   *bool        `json:"closed_spaces,omitempty" doc:"She has spaces where fuel vapour can gather, or a built-in tank"`
	Built    int          `json:"built,omitempty" doc:"Year; 0 is not said"`
	Fixed    []FixedThing `json:"fixed,omitempty" maxItems:"40" doc:"Built in: lights, a horn, a pump, a ladder, drain plugs"`
}

// Check adds what is wrong with it to fs; fields are named after prefix.
func (in CarriageInput) Check(fs *check.Faults, prefix string) {
	fs.Within(prefix+"power_kw", in.PowerKW, 0, 5000)
	fs.OneOf(prefix+"fuel", in.Fuel, words.CarriageFuels.OrNone()...)
	if in.Built != 0 {
		fs.Within(prefix+"built", float64(in.Built), 1900, 2200)
	}
	names := map[string]bool{}
	for i, f := range in.Fixed {
		at := fmt.Sprintf("%sfixed[%d]", prefix, i)
		fs.OneOf(at+".class", f.Class, words.SafetyClasses.Keys()...)
		fs.Text(at+".name", f.Name, 1, 80)
		fs.Text(at+".where", f.Where, 0, 80)
		fs.OneOf(at+".spot", f.Spot, words.FixedSpots.OrNone()...)
		if f.Expires != "" && !isDay(f.Expires) {
			fs.Add(at+".expires_on", f.Expires, "must be a date, written as 2027-03-31")
		}
		if names[f.Name] {
			fs.Add(at+".name", f.Name, "is listed already: give each a name of its own")
		}
		names[f.Name] = true
	}
}

func isDay(text string) bool {
	day, err := time.Parse(time.DateOnly, text)
	return err == nil && day.Year() >= 1900 && day.Year() <= 2200
}

// Check adds what is wrong with it to fs; fields are named after prefix. Whether its seats
// are the boat's is for who knows her posts.
func (in BriefInput) Check(fs *check.Faults, prefix string) {
	for field, text := range map[string]string{"rescue": in.Rescue, "stop": in.Stop, "relief": in.Relief, "back": in.Back,
		"toilet": in.Toilet, "hold": in.Hold} {
		fs.Text(prefix+field, text, 0, 160)
	}
	fs.Text(prefix+"call_sign", in.CallSign, 0, 40)
	if in.Number != "" && (len(in.Number) != 9 || strings.Trim(in.Number, "0123456789") != "") {
		fs.Add(prefix+"mmsi", in.Number, "must have nine digits")
	}
	for i, line := range in.Own {
		fs.Text(fmt.Sprintf("%sown[%d]", prefix, i), line, 1, 160)
	}
}

// FixedThing is safety equipment that is part of the boat.
type FixedThing struct {
	Class   string `json:"class" words:"safety_classes"`
	Name    string `json:"name"`
	Where   string `json:"where,omitempty" doc:"In words"`
	Spot    string `json:"spot,omitempty" words:"fixed_spots" doc:"Where it is drawn; nowhere where it is left out"`
	Expires string `json:"expires_on,omitempty" doc:"Its last good day, as 2027-03-31"`
}

// BriefInput is what guests are told of a boat in the crew's own words; what is left out
// is said as usual.
type BriefInput struct {
	CallSign string   `json:"call_sign,omitempty" doc:"As the radio's user says it"`
	Number   string   `json:"mmsi,omitempty" doc:"Of the radio's distress button"`
	Rescue   string   `json:"rescue,omitempty" doc:"Whom to call by phone"`
	Stop     string   `json:"stop,omitempty" doc:"How to stop the engine"`
	Relief   string   `json:"relief,omitempty" doc:"What the one does who takes over"`
	Back     string   `json:"back,omitempty" doc:"The way back aboard"`
	Toilet   string   `json:"toilet,omitempty"`
	Hold     string   `json:"hold,omitempty" doc:"Where to sit and hold on"`
	Own      []string `json:"own,omitempty" maxItems:"6"`

	Seats []uuid.UUID `json:"seats,omitempty" maxItems:"20" doc:"The posts where guests sit"`
}

// Paper is a registration, a licence and the like.
type Paper struct {
	ID        uuid.UUID `gorm:"primaryKey"`
	CrewID    uuid.UUID
	Name      string
	Kind      string
	Number    string
	BoatID    *uuid.UUID
	MemberID  *uuid.UUID
	Waters    Strings `gorm:"serializer:json"`
	Asked     int
	ExpiresOn *time.Time `gorm:"type:date"`
	WalletID  *uuid.UUID
	Note      string
	Version   int
}

// Job is something that went wrong aboard, and what was done about it.
type Job struct {
	ID       uuid.UUID `gorm:"primaryKey"`
	CrewID   uuid.UUID
	BoatID   uuid.UUID
	Kind     string
	What     string
	State    string `gorm:"default:open"`
	Holds    bool
	TripID   *uuid.UUID
	GearID   *uuid.UUID
	Story    []JobDone `gorm:"serializer:json"`
	At       time.Time
	ByMember uuid.UUID
	Version  int
}

// JobDone is a line of a job's story.
type JobDone struct {
	On   time.Time `json:"on"`
	By   string    `json:"by"`
	What string    `json:"what"`
}

// ListLine is a line of a checklist that the crew wrote.
type ListLine struct {
	ID      uuid.UUID `gorm:"primaryKey"`
	CrewID  uuid.UUID
	BoatID  *uuid.UUID
	TripID  *uuid.UUID
	Stage   string
	Text    string
	Holds   bool
	Sort    int
	Version int
}

// Tick says of a line of a trip's checklist whether it is done, and whose it is.
type Tick struct {
	CrewID   uuid.UUID `gorm:"primaryKey"`
	TripID   uuid.UUID `gorm:"primaryKey"`
	Line     string    `gorm:"primaryKey"`
	Done     bool
	At       *time.Time
	ByMember *uuid.UUID
	Who      *uuid.UUID
}

// Drill is one try of the find drill.
type Drill struct {
	ID       uuid.UUID `gorm:"primaryKey"`
	CrewID   uuid.UUID
	BoatID   uuid.UUID
	MemberID *uuid.UUID
	Name     string
	GearID   uuid.UUID
	PlaceID  *uuid.UUID
	Seconds  float64
	Found    bool
	Wrong    []uuid.UUID `gorm:"serializer:json"`
	At       time.Time
}

// BoatLink is a link by which guests see what they are told at a boat.
type BoatLink struct {
	CrewID    uuid.UUID `gorm:"primaryKey"`
	BoatID    uuid.UUID `gorm:"primaryKey"`
	TokenHash []byte
	MadeBy    uuid.UUID
	MadeAt    time.Time
}

func (CrewRules) TableName() string { return "crew_rules" }
func (RulePack) TableName() string  { return "rule_pack" }
func (Paper) TableName() string     { return "paper" }
func (Job) TableName() string       { return "job" }
func (ListLine) TableName() string  { return "list_line" }
func (Tick) TableName() string      { return "tick" }
func (Drill) TableName() string     { return "drill" }
func (BoatLink) TableName() string  { return "boat_link" }
