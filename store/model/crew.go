package model

import (
	"encoding/json"
	"time"

	"ergasia/core/catch"
	"ergasia/core/reach"

	"github.com/google/uuid"
)

// User is a person who can sign in.
type User struct {
	ID           uuid.UUID `gorm:"primaryKey"`
	Login        string
	PasswordHash string
	Epoch        int
	CreatedAt    time.Time
}

// TableName is app_user, since user is a word of SQL.
func (User) TableName() string { return "app_user" }

// KnownBrowser is one in which a person signed in before.
type KnownBrowser struct {
	TokenHash []byte `gorm:"primaryKey"`
	UserID    uuid.UUID
	SeenAt    time.Time
}

// Headings are columns of the gear list by the headings of a crew's own tables.
type Headings map[string]string

// Crew shares boats.
type Crew struct {
	ID        uuid.UUID `gorm:"primaryKey"`
	Name      string
	Times     *reach.Table    `gorm:"serializer:json"` // how long things take; nil is the usual table
	Headings  Headings        `gorm:"serializer:json"` // what the headings of its tables are
	Species   []catch.Species `gorm:"serializer:json"` // what its fish weigh; none is the usual table
	CreatedAt time.Time
}

// Member is a person in a crew. Kg is the body, clothed.
type Member struct {
	ID        uuid.UUID `gorm:"primaryKey"`
	CrewID    uuid.UUID
	UserID    *uuid.UUID
	Name      string
	Role      string
	Mark      string
	Kg        float64
	MassKnown string
	Units     string
	Theme     string
	Version   int
	CreatedAt time.Time
	LeftAt    *time.Time // nil of those who are in the crew
}

// Undoable is something that was taken away or made in one stroke and can be taken back.
type Undoable struct {
	ID       uuid.UUID `gorm:"primaryKey"`
	CrewID   uuid.UUID
	ByMember uuid.UUID
	At       time.Time
	Action   string
	Said     string
	Kept     json.RawMessage `gorm:"type:jsonb"`
	UndoneAt *time.Time
}

// TableName is the table of Undoable.
func (Undoable) TableName() string { return "undoable" }

// Link is an invitation or a password reset.
type Link struct {
	ID        uuid.UUID `gorm:"primaryKey"`
	CrewID    uuid.UUID
	Kind      string
	TokenHash []byte
	MemberID  uuid.UUID
	MadeBy    uuid.UUID
	ExpiresAt time.Time
	UsedAt    *time.Time
}

// Boat is a boat of a crew.
type Boat struct {
	ID        uuid.UUID `gorm:"primaryKey"`
	CrewID    uuid.UUID
	Name      string
	Hull      HullInput     `gorm:"serializer:json"`
	Outfit    Outfit        `gorm:"serializer:json"`
	Plate     Plate         `gorm:"serializer:json"`
	Limits    Limits        `gorm:"serializer:json"`
	Setup     Strings       `gorm:"serializer:json"`
	Trailer   *TrailerInput `gorm:"serializer:json"`
	Water     float64
	Version   int
	CreatedAt time.Time
}

// Post is where a person works aboard; Z is the sole.
type Post struct {
	ID      uuid.UUID `gorm:"primaryKey"`
	CrewID  uuid.UUID
	BoatID  uuid.UUID
	Name    string
	X, Y, Z float64
	Version int
}

// Place is a box that holds gear; X, Y, Z is its corner of least each.
type Place struct {
	ID                            uuid.UUID `gorm:"primaryKey"`
	CrewID                        uuid.UUID
	BoatID                        uuid.UUID
	Name                          string
	X, Y, Z                       float64
	Length, Breadth, Height       float64
	OpeningLength, OpeningBreadth float64
	Dryness                       string
	MaxKg                         float64
	ParentID                      *uuid.UUID
	Hinge                         string // of words.Hinges; empty where nobody said
	Lid                           string `gorm:"default:none"`
	Latched, Locks                bool
	Drained, Insulated            bool
	KeptForOwner                  *uuid.UUID // only their things go in
	KeptForTag                    string     // only things with it go in
	Form                          string     `gorm:"default:box"` // box, or for rods: bed, tubes, upright
	Slots                         int        // tubes or holders
	SlotDiameter                  float64    // inside, of a tube
	Version                       int
}

// Station is where a person is; no post means ashore.
type Station struct {
	MemberID uuid.UUID `gorm:"primaryKey"`
	CrewID   uuid.UUID
	BoatID   *uuid.UUID
	PostID   *uuid.UUID
	Seated   bool
	Version  int
}

// Event is a change of a stowage or station.
type Event struct {
	ID       uuid.UUID `gorm:"primaryKey"`
	CrewID   uuid.UUID
	BoatID   *uuid.UUID // nil of a move ashore
	Seq      int64      // within the crew, without gaps
	At       time.Time
	ByMember uuid.UUID
	Kind     string
	GearID   *uuid.UUID
	MemberID *uuid.UUID
	Was      Whereabouts `gorm:"serializer:json"`
	Became   Whereabouts `gorm:"serializer:json"`
	State    string
	Step     *uuid.UUID // of moves that are taken back as one
}

// Answered is a write that was answered before.
type Answered struct {
	CrewID      uuid.UUID `gorm:"primaryKey"`
	Key         uuid.UUID `gorm:"primaryKey"`
	Fingerprint []byte
	ResultID    *uuid.UUID
	At          time.Time
}

// Table names are singular, as in the SQL.
func (Crew) TableName() string     { return "crew" }
func (Member) TableName() string   { return "member" }
func (Link) TableName() string     { return "link" }
func (Boat) TableName() string     { return "boat" }
func (Post) TableName() string     { return "post" }
func (Place) TableName() string    { return "place" }
func (Station) TableName() string  { return "station" }
func (Event) TableName() string    { return "stowage_event" }
func (Answered) TableName() string { return "answered" }

// Photo is a picture of a boat, of one of her places, of a piece of gear, or of a trip.
type Photo struct {
	ID            uuid.UUID `gorm:"primaryKey"`
	CrewID        uuid.UUID
	BoatID        *uuid.UUID
	PlaceID       *uuid.UUID
	GearID        *uuid.UUID
	TripID        *uuid.UUID
	FittingID     *uuid.UUID
	PaperID       *uuid.UUID
	JobID         *uuid.UUID
	ByMember      uuid.UUID
	At            time.Time
	Width, Height int
	JPEG          []byte `gorm:"column:jpeg"`
}

// Survey is a float check or an inclining check.
type Survey struct {
	ID         uuid.UUID `gorm:"primaryKey"`
	CrewID     uuid.UUID
	BoatID     uuid.UUID
	At         time.Time
	ByMember   uuid.UUID
	Kind       string
	Input      json.RawMessage `gorm:"type:jsonb"`
	Result     json.RawMessage `gorm:"type:jsonb"`
	Accepted   *string
	AcceptedBy *uuid.UUID
	AcceptedAt *time.Time
}

func (Photo) TableName() string  { return "photo" }
func (Survey) TableName() string { return "survey" }

// SignInFailure is a wrong try to sign in, by login or address.
type SignInFailure struct {
	Key string
	At  time.Time
}

func (SignInFailure) TableName() string { return "sign_in_failure" }

// TableName is the table of the row.
func (KnownBrowser) TableName() string { return "known_browser" }

// Founded says that the first crew was founded with a code.
type Founded struct {
	Once bool `gorm:"primaryKey"`
	At   time.Time
}

func (Founded) TableName() string { return "founded" }

// Importing is a crew's import as it goes on.
type Importing struct {
	CrewID uuid.UUID `gorm:"primaryKey"`
	Key    uuid.UUID
	Begun  time.Time
	Heard  time.Time
	Share  float64
	Ended  bool
	Told   json.RawMessage `gorm:"type:jsonb"`
}

func (Importing) TableName() string { return "importing" }
