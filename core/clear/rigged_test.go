package clear_test

import (
	"fmt"
	"math/rand/v2"

	"ergasia/core/clear"

	"gonum.org/v1/gonum/spatial/r3"
)

// Rigged is a boat with so many fittings, lids and posts, all of kinds mixed.
func Rigged(n int) clear.Scene {
	r := rand.New(rand.NewPCG(13, 9))
	kinds := []string{"rod-holder", "cleat", "display", "light", "seat", "control", "other"}
	s := clear.Scene{Water: clear.Water{Up: r3.Vec{Z: 1}, Level: 0.2}, Bridge: 3}
	for i := range n {
		t := clear.Thing{
			ID:     fmt.Sprint("t", i),
			Kind:   kinds[i%len(kinds)],
			Stands: "up",
			At: r3.Vec{X: between(r, 0, 5), Y: between(r, -1, 1),
				Z: between(
					r,
					0.3,
					1,
				)},
			Size: r3.Vec{X: between(r, 0.05, 0.3), Y: between(r, 0.05, 0.3), Z: between(r, 0.05, 0.4)},
			Turn: between(r, -180, 180),
			Lean: between(r, -30, 30),
		}
		switch t.Kind {
		case "rod-holder":
			t.Rod = 2
		case "display":
			t.Screen = 0.25
		case "light":
			t.Beam = 60
		case "seat":
			t.Swing = 0.4
		}
		s.Things = append(s.Things, t)
	}
	for i := range 20 {
		low := r3.Vec{X: between(r, 0, 4), Y: between(r, -1, 0.5), Z: 0.3}
		s.Places = append(
			s.Places,
			clear.Place{ID: fmt.Sprint("p", i), Low: low, High: r3.Add(low, r3.Vec{X: 0.5, Y: 0.5, Z: 0.4}),
				Hinge: "aft"},
		)
	}
	for i := range 6 {
		s.Posts = append(
			s.Posts,
			clear.Post{ID: fmt.Sprint("q", i), At: r3.Vec{X: float64(i) * 0.8, Z: 0.3}, Steers: i == 1},
		)
	}
	for i := range 30 {
		s.Sheer = append(s.Sheer, r3.Vec{X: float64(i) * 0.18, Y: 1, Z: 0.8})
	}
	return s
}
