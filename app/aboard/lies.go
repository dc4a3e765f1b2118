package aboard

import (
	"slices"

	"ergasia/core/stow"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
)

// Lying is one piece of gear as it lies in its place, in the place's frame.
type Lying struct {
	Gear  uuid.UUID
	Layer int // 0 on the floor of its place, 1 on what lies there, and so on up
	stow.Laid
}

// LiesIn says how what is in a place lies. A place whose contents have no layout
// (someone measured a thing anew) has none.
func (s *Laden) LiesIn(place uuid.UUID) []Lying {
	if known, is := s.memo.lies[place]; is {
		return known
	}
	var list []Lying
	if p, there := s.Place(place), s.LieIn(place); p != nil && len(there) > 0 {
		list = lyingOf(s.layRest(*p, there))
	}
	if s.memo.lies == nil {
		s.memo.lies = map[uuid.UUID][]Lying{}
	}
	s.memo.lies[place] = list
	return list
}

// layRest lays what is in a place. Where that can't be, what was noted there against
// the rules lies somehow, and the rest is laid: first without what is too large for
// the place by itself, then without all that was noted.
func (s *Laden) layRest(p model.Place, there []model.Gear) ([]stow.Laid, []model.Gear) {
	laid, ok := stow.Lay(s.LaidPlace(p), s.pieces(there))
	for _, tooLarge := range []bool{true, false} {
		if ok {
			break
		}
		there = slices.DeleteFunc(slices.Clone(there), func(g model.Gear) bool {
			return s.Stowage[g.ID].Anyway && !(tooLarge && s.fitsAlone(p, g))
		})
		laid, ok = stow.Lay(s.LaidPlace(p), s.pieces(there))
	}
	return laid, there
}

func (s *Laden) fitsAlone(p model.Place, g model.Gear) bool {
	_, ok := stow.Lay(s.StowPlace(p), []stow.Piece{s.Piece(g)})
	return ok
}

// lyingOf says which gear each piece of a layout is.
func lyingOf(laid []stow.Laid, there []model.Gear) []Lying {
	of := map[string]uuid.UUID{}
	for _, g := range there {
		of[key(g.ID)] = g.ID
	}
	var list []Lying
	layers := stow.Layers(laid)
	for i, l := range laid {
		list = append(list, Lying{Gear: of[l.ID], Layer: layers[i], Laid: l})
	}
	return list
}

// key is a row's id as the engines know it.
func key(id uuid.UUID) string { return id.String() }

// In lists the pieces that lie in a place, but for one gear; what is in a
// container lies with it.
func (s *Laden) In(place, but uuid.UUID) []stow.Piece {
	return s.pieces(without(s.LieIn(place), but))
}

// InBox lists the pieces in a container, but for one gear.
func (s *Laden) InBox(box, but uuid.UUID) []stow.Piece {
	return s.pieces(without(s.holds[box], but))
}

func without(list []model.Gear, but uuid.UUID) []model.Gear {
	return slices.DeleteFunc(slices.Clone(list), func(g model.Gear) bool { return g.ID == but })
}

func (s *Laden) pieces(list []model.Gear) (pieces []stow.Piece) {
	for _, g := range list {
		pieces = append(pieces, s.Piece(g))
	}
	return pieces
}

// Piece is what is laid: a container with all that it holds is one, and so is a
// bag of loose things.
func (s *Laden) Piece(g model.Gear) stow.Piece {
	p := PieceOf(g)
	kg, _ := s.Weight(g)
	p.NeedsDry = s.needsDry(g)
	p.Kg = kg / float64(max(p.Count, 1))
	for _, u := range s.UsedIn(g) { // a box lies as handy as what it holds is wanted
		p.Uses += Wanted(u.Gear) / float64(max(p.Count, 1))
	}
	return p
}

// PieceOf is how gear itself is laid: loose things are one bag of all of them;
// rods may lie on one another, fragile as they are.
func PieceOf(g model.Gear) stow.Piece {
	p := stow.Piece{ID: key(g.ID), Name: g.Name, Size: r3.Vec{X: g.Length, Y: g.Breadth, Z: g.Height}, Kg: g.Kg,
		Count: g.Count, NeedsDry: g.NeedsDry, Turn: stow.Turn(g.Turn), Top: g.Fragile && g.Shape != "rod",
		Soft: g.Shape == "soft", Bends: g.Shape == "jointed" || g.Shape == "loose"}
	if g.Shape == "rod" {
		p.Guide = g.Guide
		if p.Guide == 0 {
			p.Guide = UsualGuide
		}
	}
	if g.Shape == "loose" {
		p.Kg, p.Count = g.Kg*float64(g.Count), 1
	}
	return p
}

// UsualGuide is the height of a rod's largest guide where nobody measured it,
// metres. Practice, no source.
const UsualGuide = 0.03

// needsDry says whether the piece or anything in it must stay dry; a container
// that keeps dry minds nothing for what it holds.
func (s *Laden) needsDry(g model.Gear) bool {
	if g.NeedsDry || g.KeepsDry {
		return g.NeedsDry
	}
	return slices.ContainsFunc(s.holds[g.ID], s.needsDry)
}

// StowPlace is a place as things are laid in it.
func StowPlace(p model.Place) stow.Place {
	var rods stow.Rods
	if p.Form != "box" && p.Form != "" {
		rods = stow.Rods{Form: p.Form, Slots: p.Slots, Diameter: p.SlotDiameter}
	}
	return stow.Place{Rods: rods, ID: key(p.ID), Name: p.Name, Size: r3.Vec{X: p.Length, Y: p.Breadth, Z: p.Height},
		Opening: r3.Vec{X: p.OpeningLength, Y: p.OpeningBreadth}, MaxKg: p.MaxKg, Dry: p.Dryness == "dry"}
}

// StowPlace is a place as things are laid in it, for as long as the request lasts.
func (s *Laden) StowPlace(p model.Place) stow.Place {
	q := StowPlace(p)
	q.Stop = s.Stop
	return q
}

// LaidPlace is a place with what was laid there by hand.
func (s *Laden) LaidPlace(p model.Place) stow.Place {
	q := s.StowPlace(p)
	for _, g := range s.LieIn(p.ID) {
		q.Fixed = append(q.Fixed, laidOf(g.ID, s.Stowage[g.ID].Laid)...)
	}
	return q
}

// StowShed is a place ashore as one asks what suits it.
func StowShed(s model.Shed) stow.Place {
	return stow.Place{Name: s.Site + ", " + s.Name, Size: r3.Vec{X: s.Length, Y: s.Breadth, Z: s.Height}, MaxKg: s.MaxKg,
		Dry: s.Dryness == "dry"}
}

// BoxPlace is the inside of a container as a place.
func BoxPlace(g model.Gear) stow.Place {
	return stow.Place{Name: g.Name, Size: r3.Vec{X: g.InsideLength, Y: g.InsideBreadth, Z: g.InsideHeight},
		MaxKg: g.HoldsKg,
		Dry:   g.KeepsDry}
}
