package model

import (
	"encoding/json"
	"slices"
	"time"

	"github.com/google/uuid"
)

// Strings is a list kept as JSON; none is an empty list, never null.
type Strings []string

// MarshalJSON writes the list.
func (s Strings) MarshalJSON() ([]byte, error) {
	if s == nil {
		return []byte("[]"), nil
	}
	return json.Marshal([]string(s))
}

// Boxes are where the pieces of an entry were laid by hand, in the frame of the
// place, metres; none is wherever they are laid.
type Boxes []Box

// MarshalJSON writes the boxes.
func (b Boxes) MarshalJSON() ([]byte, error) {
	if len(b) == 0 {
		return []byte("null"), nil
	}
	return json.Marshal([]Box(b))
}

// Box is the corner of least x, y, z and the size of one piece as it is turned.
type Box struct {
	At   [3]float64 `json:"at_m"`
	Size [3]float64 `json:"size_m"`
}

// Gear is a thing, or Count alike that go together; Kg is of one. Lengths are
// in metres; those of use and inside are nought where there are none.
type Gear struct {
	ID                                        uuid.UUID `gorm:"primaryKey"`
	CrewID                                    uuid.UUID `gorm:"primaryKey"`
	Name, Nickname                            string
	Tags                                      Strings `gorm:"serializer:json"`
	OwnerID                                   *uuid.UUID
	Shape                                     string `gorm:"default:box"`
	Length, Breadth, Height                   float64
	UseLength, UseBreadth, UseHeight          float64
	InsideLength, InsideBreadth, InsideHeight float64
	HoldsKg                                   float64
	KeepsDry                                  bool
	Kg                                        float64
	MassKnown                                 string
	Count                                     int
	RestockAt                                 int
	NeedsDry, Fragile, Metal, Buoyant         bool
	Hazards                                   Strings `gorm:"serializer:json"`
	Turn                                      string
	Serial                                    string
	Cost                                      *float64
	ExpiresOn                                 *time.Time `gorm:"type:date"`
	Condition                                 string     `gorm:"default:good"`
	SparesFor                                 *uuid.UUID
	Hours                                     float64
	Trips                                     int
	UsedAt                                    time.Time `gorm:"default:now()"`
	UsesPerDay                                float64
	Brought                                   bool // to the post, and stowed again: two ways a use
	UsedFrom                                  string
	Guide                                     float64 // of a rod, the height of its largest guide
	SafetyClass                               string
	SafetyAlso                                Strings `gorm:"serializer:json"` // what it serves as instead
	FitsLow, FitsHigh                         float64 // body masses, kg; nought is not said
	WornBy                                    *uuid.UUID
	Registration                              string
	Chemistry                                 string // of a battery
	Volts, AmpHours                           float64
	Cranking                                  float64    // cold-cranking amperes; nought is not said
	InUseSince                                *time.Time `gorm:"type:date"`
	ChargedBy                                 string     // of what is charged before a day
	Charges                                   string     // of a charger
	Sockets                                   int        // that it has
	Version                                   int
}

// Container says whether it holds other things.
func (g Gear) Container() bool {
	return g.InsideLength > 0 && g.InsideBreadth > 0 && g.InsideHeight > 0
}

// Stowage is where a piece of gear is. What lies in a container has the
// container's boat, place, shed or holder too.
type Stowage struct {
	GearID   uuid.UUID `gorm:"primaryKey"`
	CrewID   uuid.UUID `gorm:"primaryKey"`
	Kind     string    `gorm:"default:quay"` // quay, boat, shed, person or lent
	InsideID *uuid.UUID
	BoatID   *uuid.UUID
	PlaceID  *uuid.UUID
	ShedID   *uuid.UUID
	HeldBy   *uuid.UUID
	Rides    string    `gorm:"default:boat"` // on the road: boat, car or van
	Since    time.Time `gorm:"default:now()"`
	Laid     Boxes     `gorm:"serializer:json"` // by hand
	Anyway   bool      // it lies there, though a rule says no
	Version  int
}

// Whereabouts is a stowage or station as an event keeps it.
type Whereabouts struct {
	Kind     string     `json:"kind,omitempty"`
	InsideID *uuid.UUID `json:"inside_id,omitempty"`
	PlaceID  *uuid.UUID `json:"place_id,omitempty"`
	BoatID   *uuid.UUID `json:"boat_id,omitempty"`
	ShedID   *uuid.UUID `json:"shed_id,omitempty"`
	HeldBy   *uuid.UUID `json:"held_by,omitempty"`
	PostID   *uuid.UUID `json:"post_id,omitempty"`
	Seated   bool       `json:"seated,omitempty"`
	Laid     Boxes      `json:"laid,omitempty"`
	Anyway   bool       `json:"anyway,omitempty"`
}

// At is where the stowage is, as an event keeps it.
func (s Stowage) At() Whereabouts {
	return Whereabouts{Kind: s.Kind, InsideID: s.InsideID, PlaceID: s.PlaceID, BoatID: s.BoatID, ShedID: s.ShedID,
		HeldBy: s.HeldBy, Laid: s.Laid, Anyway: s.Anyway}
}

// Same says whether both are the same spot, however things are laid there.
func (w Whereabouts) Same(o Whereabouts) bool {
	eq := func(a, b *uuid.UUID) bool { return a == b || a != nil && b != nil && *a == *b }
	return eq(w.PlaceID, o.PlaceID) && eq(w.PostID, o.PostID) && w.Seated == o.Seated &&
		eq(w.InsideID, o.InsideID) && eq(w.ShedID, o.ShedID) && eq(w.HeldBy, o.HeldBy)
}

// SameLaid is Same, and laid the same where that is noted of the other.
func (w Whereabouts) SameLaid(o Whereabouts) bool {
	return w.Same(o) && (o.Laid == nil || slices.Equal(w.Laid, o.Laid))
}

// Shed is a place ashore; a size of nought was not measured.
type Shed struct {
	ID                      uuid.UUID `gorm:"primaryKey"`
	CrewID                  uuid.UUID
	Site, Name              string
	Length, Breadth, Height float64
	Dryness                 string
	MaxKg                   float64
	Locks                   bool
	Version                 int
}

// Word is one of a crew's vocabulary, and GearWord says which gear has it.
type Word struct {
	CrewID uuid.UUID `gorm:"primaryKey"`
	Word   string    `gorm:"primaryKey"`
}

// GearWord is a word by which a piece of gear is known.
type GearWord struct {
	CrewID uuid.UUID `gorm:"primaryKey"`
	Word   string    `gorm:"primaryKey"`
	GearID uuid.UUID `gorm:"primaryKey"`
}

// GearNote is something that happened to a piece beside being moved.
type GearNote struct {
	ID       uuid.UUID `gorm:"primaryKey"`
	CrewID   uuid.UUID
	GearID   uuid.UUID
	At       time.Time
	ByMember uuid.UUID
	Kind     string
	Text     string
}

// Service comes round every so many days, hours or trips; nought is not counted.
type Service struct {
	ID         uuid.UUID `gorm:"primaryKey"`
	CrewID     uuid.UUID
	GearID     uuid.UUID
	What       string
	EveryDays  int
	EveryHours float64
	EveryTrips int
	LastOn     time.Time `gorm:"type:date"`
	LastHours  float64
	LastTrips  int
	Version    int
}

// Trip is a day or more afloat; logged once it is over.
type Trip struct {
	ID       uuid.UUID `gorm:"primaryKey"`
	CrewID   uuid.UUID
	Name     string
	Water    string
	BoatID   *uuid.UUID
	StartsOn time.Time `gorm:"type:date"`
	EndsOn   time.Time `gorm:"type:date"`
	Persons  int
	Rods     int
	Hours    float64
	LoggedAt *time.Time
	Fuel     *FuelPlan    `gorm:"serializer:json"` // what its fuel was reckoned with
	FilledL  *float64     // after it
	Kind     string       `gorm:"default:day"`
	People   []TripPerson `gorm:"serializer:json"` // who come; none where nobody said
	Kits     []uuid.UUID  `gorm:"serializer:json"` // that are held against it
	Day      *DayPlan     `gorm:"serializer:json"` // how it goes
	Ashore   []uuid.UUID  `gorm:"serializer:json"` // what of the boat's things stays ashore
	Settled  []Settled    `gorm:"serializer:json"`
	Accepted []Accepted   `gorm:"serializer:json"`
	Log      *TripLog     `gorm:"serializer:json"` // what was told after it
	Rules    *TripRules   `gorm:"serializer:json"` // where it is, for the rules
	Catch    []Fish       `gorm:"serializer:json"`
	Version  int
}

// Booking is gear that is spoken for.
type Booking struct {
	ID       uuid.UUID `gorm:"primaryKey"`
	CrewID   uuid.UUID
	GearID   uuid.UUID
	Way      string // trip, lent or borrowed
	TripID   *uuid.UUID
	Whom     string
	FromOn   time.Time  `gorm:"type:date"`
	UntilOn  *time.Time `gorm:"type:date"`
	ByMember uuid.UUID
	EndedOn  *time.Time `gorm:"type:date"`
}

// Kit is a list of wanted things.
type Kit struct {
	ID      uuid.UUID `gorm:"primaryKey"`
	CrewID  uuid.UUID
	Name    string
	Sort    string
	Lines   []KitLine `gorm:"serializer:json"`
	Version int
}

// Arrangement is how a boat was stowed, kept under a name.
type Arrangement struct {
	ID      uuid.UUID `gorm:"primaryKey"`
	CrewID  uuid.UUID
	BoatID  uuid.UUID
	Name    string
	Whole   bool        // all that was aboard; else only what it names
	Lines   []SavedSpot `gorm:"serializer:json"`
	SavedAt time.Time
	SavedBy uuid.UUID
	TripID  *uuid.UUID // that she is to be stowed so for
	Version int
}

// SavedSpot is where a thing lay: in a place, or in a box wherever that is. The names
// are for when one of them is gone.
type SavedSpot struct {
	GearID  uuid.UUID  `json:"gear_id"`
	Name    string     `json:"name"`
	PlaceID *uuid.UUID `json:"place_id,omitempty"`
	BoxID   *uuid.UUID `json:"box_id,omitempty"`
	In      string     `json:"in"`
	Anyway  bool       `json:"anyway,omitempty"` // it lay there, though a rule said no
}

// Lies says whether a stowage is just that.
func (s SavedSpot) Lies(at Stowage) bool {
	same := func(a, b *uuid.UUID) bool { return a == b || a != nil && b != nil && *a == *b }
	if s.BoxID != nil || at.InsideID != nil {
		return same(s.BoxID, at.InsideID)
	}
	return same(s.PlaceID, at.PlaceID)
}

// Label is a printed code, of a piece, a place aboard or a place ashore.
type Label struct {
	CrewID  uuid.UUID `gorm:"primaryKey"`
	Code    string    `gorm:"primaryKey"`
	GearID  *uuid.UUID
	BoatID  *uuid.UUID
	PlaceID *uuid.UUID
	ShedID  *uuid.UUID
}

// CalendarFeed is the secret address of a member's calendar.
type CalendarFeed struct {
	CrewID    uuid.UUID `gorm:"primaryKey"`
	MemberID  uuid.UUID `gorm:"primaryKey"`
	TokenHash []byte
	MadeAt    time.Time
}

func (Gear) TableName() string         { return "gear" }
func (Stowage) TableName() string      { return "stowage" }
func (Shed) TableName() string         { return "shed" }
func (Word) TableName() string         { return "word" }
func (GearWord) TableName() string     { return "gear_word" }
func (GearNote) TableName() string     { return "gear_note" }
func (Service) TableName() string      { return "service" }
func (Trip) TableName() string         { return "trip" }
func (Booking) TableName() string      { return "booking" }
func (Kit) TableName() string          { return "kit" }
func (Arrangement) TableName() string  { return "arrangement" }
func (Label) TableName() string        { return "label" }
func (CalendarFeed) TableName() string { return "calendar_feed" }
