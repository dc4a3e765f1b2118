package stowing

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/stow"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
)

// RodsInput is what rods are compared with on the way.
type RodsInput struct {
	Bridge float64 // metres over the water, nought is none
	Road   float64 // the same over the ground
	Keel   float64 // of the keel over the ground on the trailer
}

// RodLies is a rod where it lies.
type RodLies struct {
	GearID  uuid.UUID `json:"gear_id" format:"uuid"`
	Name    string    `json:"name"`
	Pull    int       `json:"pull" doc:"Which comes out of its place first: 1, 2 and so on"`
	Layer   int       `json:"layer"`
	Doubled bool      `json:"doubled"`
	Uses    float64   `json:"uses_per_day"`
	Seconds float64   `json:"seconds" doc:"To have it in hand"`
	First   bool      `json:"first" doc:"Among those most used, wanted in the first hour"`
}

// RodPlace is a bed, tubes or holders with what is in it.
type RodPlace struct {
	PlaceID uuid.UUID `json:"place_id" format:"uuid"`
	Name    string    `json:"name"`
	Form    string    `json:"form" enum:"bed,tubes,upright"`
	Said    string    `json:"said" doc:"How full it is, in a sentence"`
	Rods    []RodLies `json:"rods" doc:"In the order in which they are pulled"`
}

// RodOut is a rod that lies in none of them, and why it does not go in.
type RodOut struct {
	GearID uuid.UUID `json:"gear_id" format:"uuid"`
	Name   string    `json:"name"`
	Where  string    `json:"where"`
	Goes   []string  `json:"goes" doc:"Places that take it as they are"`
	Why    []string  `json:"why" doc:"What keeps it out of each of the others"`
}

// RodsView is all rods of a boat, and of the quay.
type RodsView struct {
	Places []RodPlace `json:"places"`
	Out    []RodOut   `json:"out"`
	Said   []string   `json:"said" doc:"What is worth knowing: heights of what stands, and rods that lie too deep"`
}

// Rods says who lies where, in which order they are pulled, what does not go in
// and why, and how high stands what stands.
func (a *Wing) Rods(ctx context.Context, actor kernel.Actor, boat uuid.UUID, in RodsInput) (RodsView, error) {
	var fs check.Faults
	fs.Within("bridge_m", in.Bridge, 0, 100)
	fs.Within("road_m", in.Road, 0, 100)
	fs.Within("keel_m", in.Keel, 0, 3)
	if err := refuse.Faulty(fs.Err()); err != nil {
		return RodsView{}, err
	}
	var s *aboard.Laden
	err := a.In(ctx, actor, func(tx *store.Tx) (err error) {
		s, err = a.where.Laden(tx, actor, boat)
		return err
	})
	if err != nil {
		return RodsView{}, err
	}
	return laden{Laden: s}.rodsView(in), nil
}

func (s laden) rodsView(in RodsInput) RodsView {
	v := RodsView{Places: []RodPlace{}, Out: []RodOut{}, Said: []string{}}
	firsts := s.firstHour()
	for _, p := range s.Places {
		if p.Form != "box" {
			v.Places = append(v.Places, s.rodPlace(p, firsts))
		}
	}
	slices.SortStableFunc(v.Places, func(a, b RodPlace) int {
		return cmp.Compare(min(len(b.Rods), 1),
			min(len(a.Rods), 1))
	})
	for _, g := range s.Gear {
		at := s.Stowage[g.ID]
		if g.Shape != "rod" || at.InsideID != nil || at.Kind != "boat" && at.Kind != "quay" || s.Called(g.ID) {
			continue
		}
		if p := s.PlaceOf(g.ID); p == nil || p.Form == "box" {
			v.Out = append(v.Out, s.rodOut(g, p))
		}
	}
	v.Said = append(v.Said, s.tooDeep(v.Places)...)
	v.Said = append(v.Said, s.standing(in)...)
	return v
}

// firstHour are the rods that are wanted first: as many as there are holders, and
// four at least. Practice, no source.
func (s laden) firstHour() map[uuid.UUID]bool {
	var list []model.Gear
	most := 0
	for _, p := range s.Places {
		if p.Form == "upright" {
			most += p.Slots
		}
	}
	for _, g := range s.Gear {
		if at := s.Stowage[g.ID]; g.Shape == "rod" && at.PlaceID != nil && at.InsideID == nil && !s.Called(g.ID) {
			list = append(list, g)
		}
	}
	slices.SortStableFunc(list, func(a, b model.Gear) int { return cmp.Compare(b.UsesPerDay, a.UsesPerDay) })
	firsts := map[uuid.UUID]bool{}
	for _, g := range list[:min(len(list), max(most, 4))] {
		firsts[g.ID] = g.UsesPerDay >= 1
	}
	return firsts
}

func (s laden) rodPlace(p model.Place, firsts map[uuid.UUID]bool) RodPlace {
	v := RodPlace{PlaceID: p.ID, Name: p.Name, Form: p.Form, Rods: []RodLies{}}
	fetch := s.Rummage().Fetch
	for _, l := range s.LiesIn(p.ID) {
		g := s.Thing(l.Gear)
		one := RodLies{GearID: g.ID, Name: g.Name, Layer: l.Layer, Uses: g.UsesPerDay, Seconds: fetch[g.ID].Seconds,
			First: firsts[g.ID]}
		one.Doubled = l.Ends != nil && l.Ends.Doubled
		v.Rods = append(v.Rods, one)
	}
	slices.SortStableFunc(v.Rods, func(a, b RodLies) int {
		return cmp.Or(cmp.Compare(b.Layer, a.Layer),
			cmp.Compare(b.Uses, a.Uses))
	})
	for i := range v.Rods {
		v.Rods[i].Pull = i + 1
	}
	v.Said = s.howFull(p, v.Rods)
	return v
}

// howFull says what a place holds and how many more like the last would go in.
func (s laden) howFull(p model.Place, lie []RodLies) string {
	there := s.In(p.ID, uuid.Nil)
	usual := stow.Piece{ID: "one more", Size: r3.Vec{X: p.Length, Y: 0.08, Z: 0.06}, Count: 1, Guide: aboard.UsualGuide,
		Turn: stow.TurnNone}
	more := 0
	for more < 40 {
		usual.Count = more + 1
		if _, ok := stow.Lay(s.StowPlace(p), append(slices.Clone(there), usual)); !ok {
			break
		}
		more++
	}
	doubled := 0
	for _, r := range lie {
		if r.Doubled {
			doubled++
		}
	}
	said := fmt.Sprintf("Holds %d", len(lie))
	if len(lie) == 0 {
		said = "Empty"
	}
	how := "tip by butt"
	if p.Form == "tubes" {
		said += " in " + words.HowMany(p.Slots, "tube")
		how = "two to a tube"
	}
	if doubled == len(lie) && doubled > 0 {
		said += ", " + how
	} else if doubled > 0 {
		said += fmt.Sprintf(", %d of them %s", doubled, how)
	}
	if more == 0 {
		return said + "; it is full."
	}
	return fmt.Sprintf("%s; room for %d more.", said, more)
}

func (s laden) rodOut(g model.Gear, p *model.Place) RodOut {
	v := RodOut{GearID: g.ID, Name: g.Name, Where: "on the quay", Goes: []string{}, Why: []string{}}
	if p != nil {
		v.Where = "in " + p.Name
	}
	for _, q := range s.Places {
		if q.Form == "box" {
			continue
		}
		refusals := append(s.KeptOut(q, g), stow.Refuse(s.StowPlace(q), s.In(q.ID, g.ID), s.Piece(g), s.Units)...)
		if len(refusals) == 0 {
			v.Goes = append(v.Goes, q.Name)
		} else {
			v.Why = append(v.Why, refusals[0].Sentence)
		}
	}
	return v
}

// tooDeep names rods of the first hour that lie under others.
func (s laden) tooDeep(places []RodPlace) (said []string) {
	for _, p := range places {
		top := 0
		for _, r := range p.Rods {
			top = max(top, r.Layer)
		}
		for _, r := range p.Rods {
			if r.First && r.Layer < top {
				said = append(said, fmt.Sprintf("%s, wanted in the first hour, lies under others in %s: pull it out first, or stand it in a holder.", r.Name, p.Name))
			}
		}
	}
	return said
}

// standing says how high the rods in holders stand, over the water as she floats
// and over the ground on her trailer.
func (s laden) standing(in RodsInput) (said []string) {
	f := s.Solved().Result.Figures
	water, ground, highest := math.Inf(-1), 0.0, ""
	for _, p := range s.Places {
		if p.Form != "upright" {
			continue
		}
		for _, l := range s.LiesIn(p.ID) {
			tip := r3.Vec{X: p.X + p.Length/2, Y: p.Y + l.At.Y, Z: p.Z + l.Size.Z}
			over := tip.Z
			if f != nil {
				over = r3.Dot(f.Up, tip) - f.Level
			}
			if over > water {
				water, ground = over, tip.Z+in.Keel
				highest = s.Thing(l.Gear).Name
			}
		}
	}
	if highest == "" {
		return nil
	}
	length := func(m float64) string { return fmt.Sprintf("%.2f %s", s.Units.Length.FromSI(m), s.Units.Length.Symbol) }
	said = append(said, fmt.Sprintf("%s stands highest: its tip is %s over the water, and %s over the ground with the keel %s up on the trailer.", highest, length(water), length(ground), length(in.Keel)))
	const margin = 0.2 // metres that a tip sways. Practice, no source
	if in.Bridge > 0 && water > in.Bridge-margin {
		said = append(said, fmt.Sprintf("It does not pass under the bridge of %s with %s to spare: lay the rods down before it.", length(in.Bridge), length(margin)))
	}
	if in.Road > 0 && ground > in.Road-margin {
		said = append(said, fmt.Sprintf("It does not pass under %s on the road with %s to spare: lay the rods down before you drive.", length(in.Road), length(margin)))
	}
	return said
}
