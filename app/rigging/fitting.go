package rigging

import (
	"fmt"
	"math"
	"time"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/fitting"
	"ergasia/core/words"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// LookInput is when a fitting is to be looked at again.
type LookInput struct {
	What  string       `json:"what,omitempty"`
	Days  int          `json:"every_days,omitempty"`
	Trips int          `json:"every_trips,omitempty"`
	On    *kernel.Date `json:"last_on,omitempty"`
}

// FittingInput is a fitting as it is entered.
type FittingInput struct {
	Name      string              `json:"name"`
	Kind      string              `json:"kind" words:"fitting_kinds"`
	Kg        float64             `json:"kg" doc:"With what holds it"`
	MassKnown string              `json:"mass_known" words:"mass_known"`
	PartOf    string              `json:"part_of,omitempty" doc:"Name of the boat's mass in which it was counted before: it is taken off there"`
	Lies      model.FittingLies   `json:"lies"`
	Held      model.FittingHeld   `json:"held"`
	Look      LookInput           `json:"look"`
	Parts     []model.FittingPart `json:"parts" maxItems:"30"`
	Cost      *float64            `json:"cost,omitempty"`
	Note      string              `json:"note,omitempty" maxLength:"2000"`
	Dock      string              `json:"dock,omitempty" doc:"Of a base, the foot that it takes; of a unit, the foot that it has"`
	Unit      bool                `json:"unit,omitempty" doc:"It docks in bases, of this boat or another"`
	Moving    model.FittingMoving `json:"moving,omitempty"`
}

// FittingView is a fitting with what was done to it.
type FittingView struct {
	ID      uuid.UUID           `json:"id" format:"uuid"`
	Version int                 `json:"version"`
	Story   []model.FittingDone `json:"story"`
	BaseID  *uuid.UUID          `json:"base_id,omitempty" format:"uuid" doc:"Of a unit, where it is docked"`
	Boat    string              `json:"boat,omitempty" doc:"Of a unit that is docked on another boat, which"`
	Off     bool                `json:"off,omitempty" doc:"Taken off, and ashore"`
	Pulled  float64             `json:"folds_at_m_s,omitempty" doc:"Of a pole whose clamp somebody pulled at: the speed at which it folds"`
	FittingInput
}

// Bounds of a fitting. Practice: they keep slips of a unit out and stop no real one.
const (
	heaviest = 500.0 // kg
	smallest = 0.002 // m
	thickest = 300.0 // mm, of what screws go through
)

// Check says what is wrong with a fitting on a boat so long.
func (in FittingInput) Check(long float64) error {
	var fs check.Faults
	fs.Text("name", in.Name, 1, 80)
	fs.OneOf("kind", in.Kind, words.FittingKinds.Keys()...)
	fs.Within("kg", in.Kg, 0, heaviest)
	fs.OneOf("mass_known", in.MassKnown, words.MassKnown.Keys()...)
	fs.Text("part_of", in.PartOf, 0, 80)
	if in.Cost != nil {
		fs.Within("cost", *in.Cost, 0, 1e9)
	}
	in.checkLies(&fs, long)
	in.checkHeld(&fs)
	in.checkLook(&fs)
	in.checkMoving(&fs)
	for i, p := range in.Parts {
		fs.Text(fmt.Sprintf("parts[%d].what", i), p.What, 1, 120)
		fs.OneOf(fmt.Sprintf("parts[%d].state", i), p.State, words.PartStates.Keys()...)
	}
	return refuse.Faulty(fs.Err())
}

// outside is how far from the hull a fitting may be fastened, m: a bracket abaft the
// transom, a pulpit.
const outside = 1.5

func (in FittingInput) checkLies(fs *check.Faults, long float64) {
	l := in.Lies
	fs.Within("lies.at_m[0]", l.At[0], -outside, math.Round((long+outside)*10)/10)
	fs.Within("lies.at_m[1]", l.At[1], -4, 4)
	fs.Within("lies.at_m[2]", l.At[2], -1, 5)
	for i, side := range l.Size {
		field := fmt.Sprintf("lies.size_m[%d]", i)
		if fs.Within(field, side, smallest, 12) && side > long {
			fs.Add(field, side, fmt.Sprintf("is longer than the boat, %.1f m: is a unit wrong?", long))
		}
	}
	fs.OneOf("lies.stands", l.Stands, words.Stands.Keys()...)
	fs.Within("lies.legs_m", l.Legs, 0, 3)
	fs.Within("lies.turn_deg", l.Turn, -360, 360)
	fs.Within("lies.lean_deg", l.Lean, -180, 180)
	fs.Within("lies.swing_m", l.Swing, 0, 3)
	fs.Within("lies.rod_m", l.Rod, 0, 6)
	fs.Within("lies.screen_m", l.Screen, 0, 1.5)
	fs.Within("lies.beam_deg", l.Beam, 0, 360)
	fs.Within("lies.rated_n", l.Rated, 0, 100000)
}

func (in FittingInput) checkHeld(fs *check.Faults) {
	h, before := in.Held, len(*fs)
	fs.OneOf("held.method", h.Method, words.Methods.Keys()...)
	if h.Screw != "" {
		if _, err := fitting.ScrewNamed(h.Screw); err != nil {
			fs.Add("held.screw", h.Screw, err.Error())
		}
	}
	fs.Within("held.length_mm", h.Length, 0, thickest)
	fs.Within("held.count", float64(h.Count), 0, 40)
	fs.Within("held.panel_mm", h.Thickness, 0, thickest)
	fs.Within("held.skin_mm", h.Skin, 0, max(h.Thickness, 0))
	fs.Within("held.base_mm", h.Base, 0, thickest)
	if h.Behind != nil {
		fs.Within("held.behind_mm", *h.Behind, 0, 5000)
	}
	fs.Within("held.foot_mm[0]", h.Foot[0], 1, 6000)
	fs.Within("held.foot_mm[1]", h.Foot[1], 1, 6000)
	fs.Within("held.room_mm", h.Room, 0, 5000)
	if len(*fs) == before { // nothing is drawn of what is refused
		if err, is := drawnOf(h).Check().(check.Faults); is {
			for _, f := range err {
				fs.Add("held."+f.Field, f.Value, f.Want)
			}
		}
	}
	for field, text := range map[string]string{"grade": h.Grade, "sealant": h.Sealant, "backing": h.Backing, "drilled": h.Drilled} {
		fs.Text("held."+field, text, 0, 200)
	}
	fs.OneOf("held.panel", h.Panel, words.Panels.OrNone()...)
	fs.OneOf("held.back", h.Back, words.Backs.OrNone()...)
	fs.OneOf("held.comes_off", h.Comes, words.ComesOff.OrNone()...)
	fs.OneOf("held.wet", h.Wet, words.Wets.OrNone()...)
	fs.OneOf("held.metal", h.Metal, words.Metals.OrNone()...)
	if h.Pole == nil {
		return
	}
	if err, is := poleOf(*h.Pole).Check().(check.Faults); is {
		for _, f := range err {
			fs.Add("held.pole."+f.Field, f.Value, f.Want)
		}
	}
	fs.Within("held.pole.brace_m", h.Pole.Brace, 0, max(h.Pole.Clamp, 0))
}

func (in FittingInput) checkLook(fs *check.Faults) {
	fs.Text("look.what", in.Look.What, 0, 80)
	fs.Within("look.every_days", float64(in.Look.Days), 0, 20000)
	fs.Within("look.every_trips", float64(in.Look.Trips), 0, 10000)
	if in.Look.What != "" && in.Look.Days == 0 && in.Look.Trips == 0 {
		fs.Add("look.every_days", nil, "say how often it is looked at: in days or trips")
	}
}

func (in FittingInput) checkMoving(fs *check.Faults) {
	fs.Text("dock", in.Dock, 0, 80)
	if in.Unit && in.Dock == "" {
		fs.Add("dock", in.Dock, "say on which foot the unit stands, so that its bases are known")
	}
	fs.Within("moving.minutes", in.Moving.Minutes, 0, 1000)
	fs.Text("moving.tools", in.Moving.Tools, 0, 200)
	fs.Text("moving.parts", in.Moving.Parts, 0, 200)
}

// row is the fitting as it is kept; what was done to it stays with the row before.
func (in FittingInput) row(crew, boat uuid.UUID, today time.Time) model.Fitting {
	if in.Unit {
		in.PartOf = "" // it comes and goes: it is counted by itself
	}
	on := in.Look.On.Time()
	if on == nil && in.Look.What != "" {
		on = &today
	}
	return model.Fitting{
		CrewID:    crew,
		BoatID:    &boat,
		Dock:      in.Dock,
		Unit:      in.Unit,
		Moving:    in.Moving,
		Name:      in.Name,
		Kind:      in.Kind,
		Kg:        in.Kg,
		MassKnown: in.MassKnown,
		PartOf:    in.PartOf,
		Lies:      in.Lies,
		Held:      in.Held,
		Look:      model.FittingLook{What: in.Look.What, Days: in.Look.Days, Trips: in.Look.Trips, On: on},
		Parts:     in.Parts,
		Cost:      in.Cost,
		Note:      in.Note,
	}
}

func inputOf(f model.Fitting) FittingInput {
	in := FittingInput{
		Name:      f.Name,
		Kind:      f.Kind,
		Kg:        f.Kg,
		MassKnown: f.MassKnown,
		PartOf:    f.PartOf,
		Lies:      f.Lies,
		Held:      f.Held,
		Look:      LookInput{What: f.Look.What, Days: f.Look.Days, Trips: f.Look.Trips, On: kernel.DateOf(f.Look.On)},
		Parts:     f.Parts,
		Cost:      f.Cost,
		Note:      f.Note,
		Dock:      f.Dock,
		Unit:      f.Unit,
		Moving:    f.Moving,
	}
	if in.Parts == nil {
		in.Parts = []model.FittingPart{}
	}
	return in
}

func poleOf(p model.PoleInput) fitting.Pole {
	return fitting.Pole{
		Wet:          p.Wet,
		Diameter:     p.Diameter,
		ClampToWater: p.Clamp,
		FootArea:     p.Foot,
		Speed:        p.Speed,
		Density:      1000,
		Holds:        p.Holds,
	}
}

// drawnOf is what a fitting's template shows, but for the size of the drill.
func drawnOf(h model.FittingHeld) fitting.Drawn {
	return fitting.Drawn{
		Foot:   h.Foot,
		Holes:  fitting.Screwed(h.Foot, h.Count, h.Pattern),
		Cut:    h.Cut,
		Corner: h.Corner,
		Curve:  h.Curve,
	}
}
