package app

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"

	"ergasia/core/check"
	"ergasia/core/reach"
	"ergasia/core/stow"
	"ergasia/store"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
	"gorm.io/gorm"
)

// RodView is how a rod lies, in the boat's frame.
type RodView struct {
	Aft      [2]float64 `json:"aft_y_m" doc:"What it takes up across at its after end, from and to"`
	Fore     [2]float64 `json:"fore_y_m"`
	Reversed bool       `json:"reversed" doc:"Butt forward"`
	Slot     int        `json:"slot" doc:"Tube or holder, from 0"`
	Doubled  bool       `json:"doubled" doc:"Tip by butt with another, or two in one tube"`
}

func rodView(p store.Place, l stow.Laid) *RodView {
	if l.Ends == nil {
		return nil
	}
	across := func(v [2]float64) [2]float64 { return [2]float64{p.Y + v[0], p.Y + v[1]} }
	return &RodView{across(l.Ends.Aft), across(l.Ends.Fore), l.Ends.Reversed, l.Ends.Slot, l.Ends.Doubled}
}

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
func (a *App) Rods(ctx context.Context, actor Actor, boat uuid.UUID, in RodsInput) (RodsView, error) {
	var fs check.Faults
	fs.Within("bridge_m", in.Bridge, 0, 100)
	fs.Within("road_m", in.Road, 0, 100)
	fs.Within("keel_m", in.Keel, 0, 3)
	if err := invalid(fs.Err()); err != nil {
		return RodsView{}, err
	}
	var s *snapshot
	err := a.in(ctx, actor, func(tx *gorm.DB) (err error) {
		s, err = a.snapshot(tx, actor, boat)
		return err
	})
	if err != nil {
		return RodsView{}, err
	}
	return s.rodsView(in), nil
}

func (s *snapshot) rodsView(in RodsInput) RodsView {
	v := RodsView{Places: []RodPlace{}, Out: []RodOut{}, Said: []string{}}
	laid := s.lies()
	fetch := s.rummage(laid).fetch
	firsts := s.firstHour()
	for _, p := range s.places {
		if p.Form != "box" {
			v.Places = append(v.Places, s.rodPlace(p, laid[p.ID], fetch, firsts))
		}
	}
	slices.SortStableFunc(v.Places, func(a, b RodPlace) int { return cmp.Compare(min(len(b.Rods), 1), min(len(a.Rods), 1)) })
	for _, g := range s.gear {
		at := s.stowage[g.ID]
		if g.Shape != "rod" || at.InsideID != nil || at.Kind != "boat" && at.Kind != "quay" || s.called[g.ID] {
			continue
		}
		if p := s.placeOf(g.ID); p == nil || p.Form == "box" {
			v.Out = append(v.Out, s.rodOut(g, p))
		}
	}
	v.Said = append(v.Said, s.tooDeep(v.Places)...)
	v.Said = append(v.Said, s.standing(laid, in)...)
	return v
}

// firstHour are the rods that are wanted first: as many as there are holders, and
// four at least. Practice, no source.
func (s *snapshot) firstHour() map[uuid.UUID]bool {
	var list []store.Gear
	most := 0
	for _, p := range s.places {
		if p.Form == "upright" {
			most += p.Slots
		}
	}
	for _, g := range s.gear {
		if at := s.stowage[g.ID]; g.Shape == "rod" && at.PlaceID != nil && at.InsideID == nil && !s.called[g.ID] {
			list = append(list, g)
		}
	}
	slices.SortStableFunc(list, func(a, b store.Gear) int { return cmp.Compare(b.UsesPerDay, a.UsesPerDay) })
	firsts := map[uuid.UUID]bool{}
	for _, g := range list[:min(len(list), max(most, 4))] {
		firsts[g.ID] = g.UsesPerDay >= 1
	}
	return firsts
}

func (s *snapshot) rodPlace(p store.Place, laid []stow.Laid, fetch map[uuid.UUID]reach.Fetch, firsts map[uuid.UUID]bool) RodPlace {
	v := RodPlace{PlaceID: p.ID, Name: p.Name, Form: p.Form, Rods: []RodLies{}}
	layers := stow.Layers(laid)
	for i, l := range laid {
		g := first(s.gear, func(g store.Gear) bool { return g.ID.String() == l.ID })
		one := RodLies{GearID: g.ID, Name: g.Name, Layer: layers[i], Uses: g.UsesPerDay, Seconds: fetch[g.ID].Seconds, First: firsts[g.ID]}
		one.Doubled = l.Ends != nil && l.Ends.Doubled
		v.Rods = append(v.Rods, one)
	}
	slices.SortStableFunc(v.Rods, func(a, b RodLies) int { return cmp.Or(cmp.Compare(b.Layer, a.Layer), cmp.Compare(b.Uses, a.Uses)) })
	for i := range v.Rods {
		v.Rods[i].Pull = i + 1
	}
	v.Said = s.howFull(p, v.Rods)
	return v
}

// howFull says what a place holds and how many more like the last would go in.
func (s *snapshot) howFull(p store.Place, lie []RodLies) string {
	there := s.in(p.ID, uuid.Nil)
	usual := stow.Piece{ID: "one more", Size: r3.Vec{X: p.Length, Y: 0.08, Z: 0.06}, Count: 1, Guide: usualGuide, Turn: stow.TurnNone}
	more := 0
	for more < 40 {
		usual.Count = more + 1
		if _, ok := stow.Lay(stowPlace(p), append(slices.Clone(there), usual)); !ok {
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
		said += fmt.Sprintf(" in %d tubes", p.Slots)
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

func (s *snapshot) rodOut(g store.Gear, p *store.Place) RodOut {
	v := RodOut{GearID: g.ID, Name: g.Name, Where: "on the quay", Goes: []string{}, Why: []string{}}
	if p != nil {
		v.Where = "in " + p.Name
	}
	for _, q := range s.places {
		if q.Form == "box" {
			continue
		}
		refusals := append(s.keptOut(q, g), stow.Refuse(stowPlace(q), s.in(q.ID, g.ID), s.piece(g), s.units)...)
		if len(refusals) == 0 {
			v.Goes = append(v.Goes, q.Name)
		} else {
			v.Why = append(v.Why, refusals[0].Sentence)
		}
	}
	return v
}

// tooDeep names rods of the first hour that lie under others.
func (s *snapshot) tooDeep(places []RodPlace) (said []string) {
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
func (s *snapshot) standing(laid map[uuid.UUID][]stow.Laid, in RodsInput) (said []string) {
	f := s.craft.float.Solve(s.ledger(laid).load, nil).Figures
	water, ground, highest := math.Inf(-1), 0.0, ""
	for _, p := range s.places {
		if p.Form != "upright" {
			continue
		}
		for _, l := range laid[p.ID] {
			tip := r3.Vec{X: p.X + p.Length/2, Y: p.Y + l.At.Y, Z: p.Z + l.Size.Z}
			over := tip.Z
			if f != nil {
				over = r3.Dot(f.Up, tip) - f.Level
			}
			if over > water {
				water, ground = over, tip.Z+in.Keel
				if g := first(s.gear, func(g store.Gear) bool { return g.ID.String() == l.ID }); g != nil {
					highest = g.Name
				}
			}
		}
	}
	if highest == "" {
		return nil
	}
	length := func(m float64) string { return fmt.Sprintf("%.2f %s", s.units.Length.FromSI(m), s.units.Length.Symbol) }
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
