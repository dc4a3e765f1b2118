package rigging

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"ergasia/app/aboard"
	"ergasia/core/fitting"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// LooseView is something heavy that may slide.
type LooseView struct {
	GearID *uuid.UUID `json:"gear_id,omitempty" format:"uuid" doc:"Left out for a battery, which is the boat's own"`
	Name   string     `json:"name"`
	Place  string     `json:"place"`
	Kg     float64    `json:"kg"`
	Straps int        `json:"straps"`
	Slides bool       `json:"slides"`
	Said   string     `json:"said"`
	Cases  []KeptView `json:"cases"`
}

// KeptView is how it is kept in one case.
type KeptView struct {
	Name   string   `json:"name"`
	Along  float64  `json:"along_n" doc:"What pushes it over the deck, less friction"`
	Off    float64  `json:"off_n" doc:"What lifts it"`
	Factor *float64 `json:"factor,omitempty" doc:"What the straps hold over that; left out where nothing is needed"`
	Slides bool     `json:"slides"`
}

// Practice: what a man lifts with one hand does little harm; a webbing strap of 25 mm is
// rated for some 2 kN.
const (
	heavyKg    = 8.0
	mostLoose  = 8
	usualStrap = 2000.0
)

// loose lists the heaviest things aboard that no walls and lid keep in their place: gear,
// and the batteries, wherever they stand.
func loose(s *aboard.Laden) []LooseView {
	list := []LooseView{}
	for _, g := range s.Aboard() {
		if g.Mass.Kg >= heavyKg && g.Rides == "boat" && g.Place != nil && !shut(*g.Place) {
			v := looseOf(s, g.Name, g.Mass.Kg, g.Place)
			v.GearID = &g.ID
			list = append(list, v)
		}
	}
	for _, m := range s.Craft.Input.Outfit.Masses {
		if in := placeAt(s, m.At); m.Kind == "battery" && m.Kg >= heavyKg && (in == nil || !shut(*in)) {
			list = append(list, looseOf(s, m.Name, m.Kg, in))
		}
	}
	slices.SortStableFunc(list, func(a, b LooseView) int { return cmp.Compare(b.Kg, a.Kg) })
	return list[:min(len(list), mostLoose)]
}

// placeAt is the smallest place with walls about a point; nil where there is none.
func placeAt(s *aboard.Laden, at model.Vec) *model.Place {
	var best *model.Place
	volume := func(p *model.Place) float64 { return p.Length * p.Breadth * p.Height }
	for i := range s.Places {
		p := &s.Places[i]
		inside := at[0] >= p.X && at[0] <= p.X+p.Length && at[1] >= p.Y && at[1] <= p.Y+p.Breadth &&
			at[2] >= p.Z && at[2] <= p.Z+p.Height
		if inside && p.Form == "box" && (best == nil || volume(p) < volume(best)) {
			best = p
		}
	}
	return best
}

// shut says whether a place has walls and a lid that stays shut.
func shut(p model.Place) bool { return p.Latched || p.Locks }

// strapsOver counts the straps over a place, two tie-downs each, and the least that one
// is rated for, N.
func strapsOver(s *aboard.Laden, place uuid.UUID) (n int, rated float64) {
	eyes := 0
	rated = math.Inf(1)
	for _, f := range s.Craft.Rigging {
		if f.Lies.Straps != nil && *f.Lies.Straps == place {
			eyes++
			rated = min(rated, cmp.Or(f.Lies.Rated, usualStrap))
		}
	}
	if eyes == 0 {
		return 0, usualStrap
	}
	return eyes / 2, rated
}

// looseOf is what keeps a thing that lies in a place, or in none.
func looseOf(s *aboard.Laden, name string, kg float64, in *model.Place) LooseView {
	v := LooseView{Name: name, Place: "no place", Kg: kg, Cases: []KeptView{}}
	l := fitting.Loose{Kg: kg, StrapN: usualStrap}
	if in != nil {
		v.Place = in.Name
		v.Straps, l.StrapN = strapsOver(s, in.ID)
		l.Straps, l.Boxed = v.Straps, in.Lid != "none" && in.Lid != "soft"
	}
	missing := 0
	worst := ""
	for _, k := range l.Keep(waters(s)) {
		v.Cases = append(
			v.Cases,
			KeptView{Name: k.Name, Along: k.Along, Off: k.Off, Factor: finite(k.Factor), Slides: k.Slides},
		)
		if k.Slides && k.Missing >= missing {
			v.Slides, missing, worst = true, k.Missing, k.Name
		}
	}
	what := fmt.Sprintf("%s, %s in %s,", capital(name), s.MassText(kg), v.Place)
	v.Said = what + " stays where it is."
	if v.Slides {
		v.Said = fmt.Sprintf("%s slides %s: %s.", what, worst, more(v.Straps, missing, s.Units.Strap.Text(l.StrapN, 0)))
	}
	if v.Slides && in == nil {
		v.Said += " Make a place about it, then list the tie-downs of that place."
	}
	return v
}

// more says which straps are missing.
func more(now, missing int, rated string) string {
	what := fmt.Sprintf("%d straps of %s", missing, rated)
	if missing == 1 {
		what = "a strap of " + rated
	}
	if now > 0 {
		return fmt.Sprintf("it has %d, and wants %s more", now, what)
	}
	return "it wants " + what
}

// deckSaid says what the deck bears in the middle of a bay.
func deckSaid(s *aboard.Laden) string {
	r := s.Craft.Input.Outfit.Rigging
	if r == nil || r.Deck == "" || r.DeckMM <= 0 {
		return ""
	}
	kg := fitting.DeckBears(fitting.Panel{Material: r.Deck, Thickness: r.DeckMM})
	heaviest := 0.0
	for _, m := range s.Members {
		heaviest = max(heaviest, m.Kg)
	}
	people := 0
	if heaviest > 0 {
		people = int(kg / heaviest)
	}
	said := fmt.Sprintf("The deck bears about %s in the middle of a bay: ", s.MassText(kg))
	switch people {
	case 0:
		return said + "less than one of you. Put a beam under it."
	case 1:
		return said + "one person, not two side by side."
	}
	return said + fmt.Sprintf("%d people close together.", people)
}
