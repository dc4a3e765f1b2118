package aboard

import (
	"strings"

	"ergasia/core/float"
	"ergasia/core/stow"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Figures are what decides: how she sits and what she carries.
type Figures struct {
	Status       float.Status `json:"status" enum:"afloat,swamped,unstable"`
	Why          string       `json:"why,omitempty" doc:"Why there is no attitude"`
	Attitude     *Attitude    `json:"attitude,omitempty"`
	Displacement float64      `json:"displacement_kg"`
	PlateKg      float64      `json:"plate_kg" doc:"Of what the plate counts"`
	SigmaKg      float64      `json:"sigma_kg" doc:"One standard deviation of the displacement"`
	GearKg       float64      `json:"gear_kg"`
	Persons      int          `json:"persons"`
	Awash        []AwashView  `json:"awash" doc:"Spaces in which the sea stands; the figures are with it"`
	Rummage      float64      `json:"rummage_min_per_day" doc:"Minutes a day that fetching and stowing back what is aboard takes"`
}

// AwashView is a space in which the sea stands.
type AwashView struct {
	Space   string  `json:"space"`
	Through string  `json:"through"`
	DepthM  float64 `json:"depth_m"`
}

func (s *Laden) Figures(laid map[uuid.UUID][]stow.Laid) Figures {
	f := s.FiguresOf(s.Ledger(laid))
	f.Rummage = s.Rummage(laid).Minutes
	return f
}

func (s *Laden) FiguresOf(l Ledger) Figures {
	r := s.Craft.Float.Solve(l.Load, nil)
	total := l.Load.Total()
	f := Figures{Status: r.Status, Why: r.Why, Displacement: total.Kg, SigmaKg: total.Sigma, PlateKg: l.PlateKg, GearKg: l.gearKg, Persons: l.persons, Awash: []AwashView{}}
	if g := r.Figures; g != nil {
		f.Attitude = s.Craft.Attitude(g)
		for _, a := range g.Awash {
			f.Awash = append(f.Awash, AwashView{Space: a.Space, Through: a.Through, DepthM: a.Depth})
		}
	}
	return f
}

// Stowed is where a thing is. No place means the quay, or another boat.
type Stowed struct {
	GearID  uuid.UUID  `json:"gear_id" format:"uuid"`
	Kind    string     `json:"kind" enum:"quay,boat,shed,person,lent"`
	PlaceID *uuid.UUID `json:"place_id,omitempty" format:"uuid"`
	Inside  *uuid.UUID `json:"inside_id,omitempty" format:"uuid" doc:"The container that it lies in"`
	HeldBy  *uuid.UUID `json:"held_by,omitempty" format:"uuid"`
	Kg      float64    `json:"kg" doc:"All of it, with what it holds"`
	Boat    string     `json:"boat,omitempty" doc:"The other boat that it is in"`
	Version int        `json:"version"`
	Laid    []Laid     `json:"laid"`
	ByHand  bool       `json:"by_hand,omitempty" doc:"Laid by hand: it stays where it lies"`
}

// Laid is how one of a thing lies, in the boat's frame.
type Laid struct {
	Corner model.Vec `json:"corner_m"`
	Size   model.Vec `json:"size_m"`
	Layer  int       `json:"layer" doc:"0 on the floor of its place, 1 on what lies there, and so on up"`
	Rod    *RodView  `json:"rod,omitempty" doc:"Of a rod in a bed, tube or holder"`
}

func (s *Laden) Stowed(g model.Gear, laid map[uuid.UUID][]stow.Laid, others map[uuid.UUID]string) Stowed {
	at := s.Stowage[g.ID]
	kg, _ := s.Weight(g)
	one := Stowed{GearID: g.ID, Kind: at.Kind, Inside: at.InsideID, HeldBy: at.HeldBy, Kg: kg, Version: at.Version, Laid: []Laid{}}
	if at.BoatID == nil {
		return one
	}
	if *at.BoatID != s.Boat.ID {
		one.Boat = others[*at.BoatID]
		return one
	}
	one.PlaceID, one.ByHand = at.PlaceID, len(at.Laid) > 0
	p := s.Place(*at.PlaceID)
	layers := stow.Layers(laid[p.ID])
	for _, i := range s.ofGear(laid[p.ID], g.ID) {
		l := laid[p.ID][i]
		one.Laid = append(one.Laid, Laid{Corner: model.Vec{p.X + l.At.X, p.Y + l.At.Y, p.Z + l.At.Z}, Size: model.VecOf(l.Size), Layer: layers[i], Rod: rodView(*p, l)})
	}
	return one
}

// What says an event in words.
func (s *Laden) What(e model.Event) string {
	subject, to := "a thing", "the quay"
	if e.GearID != nil {
		if g := s.Thing(*e.GearID); g != nil {
			subject = g.Name
		}
		switch e.Became.Kind {
		case "shed":
			to = "the shed"
		case "person":
			to = "someone"
			if m := s.Member(*e.Became.HeldBy); m != nil {
				to = m.Name
			}
		}
		if e.Became.PlaceID != nil {
			to = "another boat"
			if p := s.Place(*e.Became.PlaceID); p != nil {
				to = p.Name
			}
		}
	} else if m := s.Member(*e.MemberID); m != nil {
		subject, to = m.Name, "ashore"
		if e.Became.PostID != nil {
			to = "another boat"
			if p := s.Post(*e.Became.PostID); p != nil {
				to = p.Name
			}
		}
	}
	verb := map[string]string{"move": "", "undo": "undid: ", "redo": "did again: "}[e.Kind]
	return strings.TrimSpace(verb + subject + " → " + to)
}
