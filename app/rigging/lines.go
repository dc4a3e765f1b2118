package rigging

import (
	"context"
	"fmt"
	"math"
	"strings"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/core/entry"
	"ergasia/core/fitting"
	"ergasia/core/hull"
	"ergasia/core/units"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
)

// ReadFitting is a fitting as a line tells it, with what was guessed.
type ReadFitting struct {
	FittingInput
	Doubts []string `json:"doubts"`
}

// Read reads fittings from lines of text; nothing is kept. Two of a thing stand on
// either side; names that are taken get a number.
func (a *Wing) Read(ctx context.Context, actor kernel.Actor, boat uuid.UUID, text string) ([]ReadFitting, error) {
	list := []ReadFitting{}
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		s, err := a.where.Laden(tx, actor, boat)
		if err != nil {
			return err
		}
		list = read(s, text)
		return nil
	})
	return list, err
}

func read(s *aboard.Laden, text string) []ReadFitting {
	known := entry.Known{US: s.Units.Name == units.US.Name}
	for _, p := range s.Posts {
		known.Places = append(known.Places, p.Name)
	}
	for _, p := range s.Places {
		known.Places = append(known.Places, p.Name)
	}
	taken := map[string]bool{}
	for _, f := range s.Craft.Rigging {
		taken[f.Name] = true
	}
	list := []ReadFitting{}
	for line := range strings.Lines(text) {
		if line = strings.TrimSpace(line); line == "" || len(list) >= MostFittings {
			continue
		}
		said := fitting.ReadLine(line, known)
		for n := range min(max(said.Count, 1), 20) {
			list = append(list, ReadFitting{FittingInput: entered(s, said, n, taken), Doubts: some(said.Doubts)})
		}
	}
	return list
}

// entered is the nth of the fittings that a line tells.
func entered(s *aboard.Laden, said fitting.Said, n int, taken map[string]bool) FittingInput {
	u := said.Usual
	at, guess := stands(s, said, n)
	turn := u.Turn
	if at[1] < 0 && turn != 180 { // to starboard it faces the other way
		turn = -turn
	}
	known := "guess"
	if said.Weighed {
		known = "weighed"
	}
	in := FittingInput{Name: free(nameIn(said, at), taken), Kind: u.Kind, Kg: said.Kg, MassKnown: known,
		PartOf: lump(s, u.Kind), Cost: said.Cost, Parts: []model.FittingPart{},
		Lies: model.FittingLies{
			At:     at,
			Size:   said.Size,
			Stands: u.Stands,
			Legs:   u.Legs,
			Turn:   turn,
			Lean:   said.Lean,
			Swing:  u.Swing,
			Rod:    u.Rod,
			Screen: u.Screen,
			Beam:   u.Beam,
			Guess:  guess || !said.Measured,
		},
		Held: model.FittingHeld{Method: u.Method, Screw: u.Screw, Count: u.Screws, Foot: u.Foot, Gripped: u.Gripped}}
	if said.Method != "" {
		in.Held.Method = said.Method
	}
	if said.Screw != "" {
		in.Held.Screw, in.Held.Length = said.Screw, said.Length
	}
	if u.Pole != nil {
		in.Held.Pole = &model.PoleInput{
			Wet:      u.Pole.Wet,
			Diameter: u.Pole.Diameter,
			Clamp:    u.Pole.ClampToWater,
			Foot:     u.Pole.FootArea,
			Speed:    math.Round(u.Pole.Speed*100) / 100,
			Holds:    u.Pole.Holds,
		}
	}
	return in
}

// nameIn is what one of the things of a line is called: several are named by their side.
func nameIn(said fitting.Said, at model.Vec) string {
	if said.Count < 2 || !said.Known {
		return strings.TrimSpace(said.Name)
	}
	one, _, _ := strings.Cut(said.Usual.Name, ",")
	switch {
	case at[1] > 0:
		return "port " + one
	case at[1] < 0:
		return "starboard " + one
	}
	return one
}

// free is a name that no fitting has yet: the usual's, or with a number.
func free(name string, taken map[string]bool) string {
	if name == "" {
		name = "fitting"
	}
	if r := []rune(name); len(r) > 76 {
		name = string(r[:76])
	}
	one := name
	for n := 2; taken[one]; n++ {
		one = fmt.Sprintf("%s %d", name, n)
	}
	taken[one] = true
	return one
}

// lump is the boat's mass in which a fitting was counted before, as far as one can
// guess: one of its own name or kind, else the lump of fittings, else none.
func lump(s *aboard.Laden, kind string) string {
	words := strings.ReplaceAll(kind, "-", " ")
	name := ""
	for _, m := range s.Craft.Input.Outfit.Masses {
		if strings.Contains(strings.ToLower(m.Name), words) {
			return m.Name
		}
		if m.Kind == "fitting" && name == "" {
			name = m.Name
		}
	}
	return name
}

// stands is where a fitting is: where the line says, else at what it names, else where
// such things usually are. Several of one line stand on either side by turns.
func stands(s *aboard.Laden, said fitting.Said, n int) (at model.Vec, guess bool) {
	if said.At != nil {
		return model.Vec(*said.At), false
	}
	side := 1.0
	if said.Side == "starboard" || said.Side == "" && n%2 == 1 {
		side = -1
	}
	h, long := s.Craft.Hull, s.Craft.Hull.Length()
	sole := soleOf(s)
	named := named(s, said.Place)
	x := said.Usual.Along * long
	if named != nil {
		x = named.X
		if named.Y < -0.05 {
			side = -1
		} else if named.Y > 0.05 {
			side = 1
		}
	}
	x += float64(n/2) * 0.35 // the next pair a step further forward
	half, edge := gunwale(h, x)
	var p r3.Vec
	switch said.Usual.Spot {
	case "gunwale":
		p = r3.Vec{X: x, Y: side * (half - 0.05), Z: edge}
	case "transom":
		p = r3.Vec{X: -0.01, Y: side * 0.35, Z: 0.06}
		if said.Kind() == "anchor" {
			_, p.Z = gunwale(h, 0.05)
		}
	case "bow":
		half, edge = gunwale(h, 0.93*long)
		p = r3.Vec{X: 0.93 * long, Y: side * min(half, 0.15), Z: edge}
	case "stern":
		_, edge = gunwale(h, 0.06*long)
		p = r3.Vec{X: 0.06 * long, Z: edge}
		if said.Kind() == "light" {
			p.Y = side * 0.5
		}
	case "helm":
		helm := steers(s)
		p = r3.Vec{X: helm.X + 0.55, Y: helm.Y, Z: helm.Z + 1}
		if said.Kind() == "control" {
			p = r3.Vec{X: helm.X + 0.45, Y: helm.Y - 0.25, Z: helm.Z + 0.95}
		}
	case "roof":
		helm := steers(s)
		p = r3.Vec{X: helm.X, Z: helm.Z} // its legs stand on the sole
	case "seat":
		p = r3.Vec{X: x, Z: sole + 0.4}
	case "bilge":
		p = r3.Vec{X: 0.15, Z: 0.06}
	default:
		p = r3.Vec{X: x, Z: sole}
	}
	if named != nil && said.Usual.Spot != "gunwale" {
		p.X, p.Y = named.X, named.Y
	}
	return model.Vec{rounded(p.X), rounded(p.Y), rounded(p.Z)}, true
}

func rounded(m float64) float64 { return math.Round(m*1000) / 1000 }

func soleOf(s *aboard.Laden) float64 {
	z := math.Inf(1)
	for _, p := range s.Posts {
		z = math.Min(z, p.Z)
	}
	if math.IsInf(z, 1) {
		return 0.2
	}
	return z
}

// named is the middle of the post or place of a name.
func named(s *aboard.Laden, name string) *r3.Vec {
	for _, p := range s.Posts {
		if p.Name == name {
			return &r3.Vec{X: p.X, Y: p.Y, Z: p.Z}
		}
	}
	for _, p := range s.Places {
		if p.Name == name {
			return &r3.Vec{X: p.X + p.Length/2, Y: p.Y + p.Breadth/2, Z: p.Z + p.Height}
		}
	}
	return nil
}

// gunwale is how far out and how high the edge of the hull is at an x.
func gunwale(h hull.Hull, x float64) (half, z float64) {
	low, high := h.Bounds()
	section, ok := h.SectionAt(math.Max(low.X+0.2, math.Min(x, high.X-0.02)))
	if !ok || len(section) == 0 {
		return high.Y, high.Z
	}
	edge := section[len(section)-1]
	return edge.Y, edge.Z
}
