package stow

import (
	"fmt"
	"strconv"

	"ergasia/core/rods"
	"ergasia/core/units"

	"gonum.org/v1/gonum/spatial/r3"
)

func (p Place) rodRoom() rods.Room {
	return rods.Room{Length: p.Size.X, Breadth: p.Size.Y, Height: p.Size.Z, Slots: p.Rods.Slots, Diameter: p.Rods.Diameter}
}

// rod is a piece as it lies lengthwise, on its flat side or on edge.
func rod(piece Piece) rods.Rod {
	return rods.Rod{ID: piece.ID, Length: piece.Size.X, Breadth: piece.Size.Y, Height: piece.Size.Z, Guide: piece.Guide,
		Uses: piece.Uses}
}

// layRods lays pieces as rods, each by its number: one entry of several alike has one ID.
func (p Place) layRods(singles []Piece) ([]Laid, bool) {
	var list []rods.Rod
	for i, piece := range singles {
		one := rod(piece)
		one.ID = strconv.Itoa(i)
		list = append(list, one)
	}
	lying, ok := p.rodRoom().Lay(list)
	if !ok {
		return nil, false
	}
	var laid []Laid
	for _, l := range lying {
		i, err := strconv.Atoi(l.ID)
		if err != nil {
			panic(err) // these are ours
		}
		laid = append(laid, Laid{ID: singles[i].ID, At: r3.Vec{X: l.X, Y: l.Y, Z: l.Z},
			Size: r3.Vec{X: l.Length, Y: l.Breadth, Z: l.Height},
			Ends: &Ends{Aft: l.Aft, Fore: l.Fore, Reversed: l.Reversed, Slot: l.Slot, Doubled: l.Doubled}})
	}
	return laid, true
}

// shortest of what a rod bed or tube takes besides rods, metres. Practice, no source.
const shortest = 0.6

// refuses says in a sentence what keeps a piece out of an empty bed, tubes or holders.
func (r Rods) refuses(p Place, piece Piece, u units.System) string {
	name := piece.Name
	if piece.Guide <= 0 && piece.Size.X < shortest {
		return fmt.Sprintf("%s is for rods and other long things; %s is %s long.", p.Name, name, sides(u, piece.Size.X))
	}
	if r.Form == "upright" && piece.Guide <= 0 {
		return fmt.Sprintf("%s is no rod: %s holds rods by their butts.", name, p.Name)
	}
	switch p.rodRoom().Refuses(rod(piece)) {
	case "length":
		return fmt.Sprintf("%s is %s long; %s is %s inside.", name, sides(u, piece.Size.X), p.Name, sides(u, p.Size.X))
	case "guide":
		return fmt.Sprintf("The largest guide of %s is %.0f mm high; the tubes of %s are %.0f mm inside.", name,
			piece.Guide*1000, p.Name, r.Diameter*1000)
	case "bore":
		return fmt.Sprintf("%s is %s thick; the tubes of %s are %s inside.", name, sides(u, piece.Size.Y, piece.Size.Z),
			p.Name, sides(u, r.Diameter))
	case "breadth", "height":
		return fmt.Sprintf("%s is %s with its reel; %s is %s inside.", name, sides(u, piece.Size.Y, piece.Size.Z), p.Name,
			sides(u, p.Size.Y, p.Size.Z))
	}
	return ""
}
