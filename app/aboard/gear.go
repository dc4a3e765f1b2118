package aboard

import (
	"ergasia/core/stow"
	"ergasia/store/model"

	"gonum.org/v1/gonum/spatial/r3"
)

// piece is how gear is laid: loose things are one bag of all of them; rods may
// lie on one another, fragile as they are.
func PieceOf(g model.Gear) stow.Piece {
	p := stow.Piece{ID: g.ID.String(), Name: g.Name, Size: r3.Vec{X: g.Length, Y: g.Breadth, Z: g.Height}, Kg: g.Kg,
		Count: g.Count, NeedsDry: g.NeedsDry, Turn: stow.Turn(g.Turn), Top: g.Fragile && g.Shape != "rod", Soft: g.Shape == "soft"}
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

func StowPlace(p model.Place) stow.Place {
	var rods stow.Rods
	if p.Form != "box" && p.Form != "" {
		rods = stow.Rods{Form: p.Form, Slots: p.Slots, Diameter: p.SlotDiameter}
	}
	return stow.Place{Rods: rods, ID: p.ID.String(), Name: p.Name, Size: r3.Vec{X: p.Length, Y: p.Breadth, Z: p.Height},
		Opening: r3.Vec{X: p.OpeningLength, Y: p.OpeningBreadth}, MaxKg: p.MaxKg, Dry: p.Dryness == "dry"}
}
