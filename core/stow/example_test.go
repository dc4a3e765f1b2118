package stow_test

import (
	"context"
	"fmt"

	"ergasia/core/stow"
	"ergasia/core/units"

	"gonum.org/v1/gonum/spatial/r3"
)

var locker = stow.Place{ID: "aft", Name: "aft locker", Size: r3.Vec{X: 0.8, Y: 0.5, Z: 0.4},
	Opening: r3.Vec{X: 0.3, Y: 0.3}, MaxKg: 40}

// Every rule that keeps a piece out is told, in the reader's units.
func ExampleRefuse() {
	cooler := stow.Piece{Name: "cooler", Size: r3.Vec{X: 0.5, Y: 0.4, Z: 0.35}, Kg: 30, Count: 1, NeedsDry: true,
		Turn: stow.TurnUpright}
	for _, r := range stow.Refuse(locker, nil, cooler, units.Metric) {
		fmt.Println(r.Sentence)
	}
	// Output:
	// cooler must stay dry, and aft locker gets wet.
	// cooler does not pass the opening of aft locker, 30 x 30 cm.
}

// Two boxes lie beside each other on the floor.
func ExampleLay() {
	box := stow.Piece{ID: "box", Size: r3.Vec{X: 0.4, Y: 0.3, Z: 0.25}, Kg: 5, Count: 2, Turn: stow.TurnUpright}
	laid, fits := stow.Lay(stow.Place{Size: r3.Vec{X: 0.8, Y: 0.5, Z: 0.4}}, []stow.Piece{box})
	fmt.Println(fits, len(laid), laid[0].At.Z, laid[1].At.Z)
	// Output: true 2 0 0
}

// What is fetched often goes where that takes the fewest seconds.
func ExampleSolve() {
	large := r3.Vec{X: 1, Y: 1, Z: 1}
	p := stow.Problem{
		Places: []stow.Spot{{Place: stow.Place{ID: "near", Size: large, MaxKg: 10}},
			{Place: stow.Place{ID: "far", Size: large}}},
		Items: []stow.Item{
			{Piece: stow.Piece{ID: "net", Size: r3.Vec{X: 0.5, Y: 0.3, Z: 0.1}, Kg: 6, Count: 1, Turn: stow.TurnUpright},
				Cost: []float64{20, 90}},
			{Piece: stow.Piece{ID: "anchor", Size: r3.Vec{X: 0.5, Y: 0.3, Z: 0.1}, Kg: 8, Count: 1, Turn: stow.TurnUpright},
				Cost: []float64{2, 5}}},
		Limits: stow.NoLimits(),
	}
	plan, err := stow.Solve(context.Background(), p, stow.Options{Seed: 1})
	fmt.Println(err, plan.Seconds, plan.Unplaced)
	// Output: <nil> 25 0
}

func ExampleLevelOf() {
	fmt.Println(stow.LevelOf(0.34, 0.7, 0.34, true), stow.LevelOf(0.05, 0.3, 0.34, true))
	// Output: locker sole
}
