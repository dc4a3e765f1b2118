package aboard

import (
	"fmt"
	"strings"

	"ergasia/core/units"
	"ergasia/store/model"
)

// Small writes a short length in the reader's units.
func (s *Laden) Small(m float64) string {
	u := s.Units.Small
	return fmt.Sprintf("%.*f %s", s.Units.Decimals, u.FromSI(m), u.Symbol)
}

// MassText writes a mass in the reader's units.
func (s *Laden) MassText(kg float64) string {
	return fmt.Sprintf("%.0f %s", s.Units.Mass.FromSI(kg), s.Units.Mass.Symbol)
}

// LengthText writes a length in the reader's units.
func (s *Laden) LengthText(m float64) string {
	u := s.Units.Length
	return fmt.Sprintf("%.1f %s", u.FromSI(m), u.Symbol)
}

// brackish is between a lake and the sea, kg/m³.
const brackish = 1005

// AtSea says whether the boat floats in the sea, where ways are told in nautical miles.
func (s *Laden) AtSea() bool { return s.Boat.Water > brackish }

// Pace is the unit in which her speed is told.
func (s *Laden) Pace() units.Unit {
	switch {
	case s.AtSea():
		return units.Unit{Symbol: "kn", SI: units.KnotMS}
	case s.Units.Name == units.US.Name:
		return units.US.Speed
	}
	return units.Unit{Symbol: "km/h", SI: 1 / 3.6}
}

// Opening says what must be opened to reach into a place, outermost first.
func (s *Laden) Opening(p model.Place) []string {
	way := []string{}
	if p.ParentID != nil {
		if outer := s.Place(*p.ParentID); outer != nil {
			way = s.Opening(*outer)
		}
	}
	lid := map[string]string{"hinged": "lift the lid of ", "lift-off": "take off the lid of ", "sliding": "slide open ",
		"soft": "unzip "}[p.Lid]
	if lid == "" {
		return append(way, "reach into "+p.Name)
	}
	if p.Locks {
		lid = "unlock and " + lid
	} else if p.Latched {
		lid = "unlatch and " + lid
	}
	return append(way, lid+p.Name)
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
			to = "ashore"
		case "lent":
			to = "lent"
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
		if e.Became.Anyway {
			to += ", where a rule says no"
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
