package float_test

import (
	"fmt"

	"ergasia/core/float"
	"ergasia/core/hull"

	"gonum.org/v1/gonum/spatial/r3"
)

// barge is a box, 5 m long, 2 m broad and 1 m high, with an opening at its stern.
func barge() *float.Boat {
	half := []hull.Point{{Y: 0, Z: 0}, {Y: 1, Z: 0}, {Y: 1, Z: 1}}
	h := hull.Hull{
		Stations:    []hull.Station{{X: 0, Half: half}, {X: 5, Half: half}},
		FloodPoints: []hull.FloodPoint{{Name: "notch", At: r3.Vec{X: 0, Z: 0.6}}},
	}
	boat, err := float.NewCraft(h)
	if err != nil {
		panic(err)
	}
	return boat
}

// A barge of 10 m² of waterplane sinks 0.2 m under two tonnes in fresh water
// (Archimedes), and her metacentric height is BM + KB - KG with BM = b²/12d.
func ExampleBoat_Solve() {
	load := float.Load{WaterDensity: 1000, Masses: []float.Mass{{Name: "all", Kg: 2000, At: r3.Vec{X: 2.5, Z: 0.5}}}}
	r := barge().Solve(load, nil)
	f := r.Figures
	fmt.Println(r.Status)
	fmt.Printf("draft %.3f m, GM %.3f m by the formula %.3f m\n", f.DraftAft, f.GMT, 2.0*2/(12*0.2)+0.1-0.5)
	fmt.Printf("%s: %.3f m\n", f.Lowest.Name, f.Lowest.M)
	// Output:
	// afloat
	// draft 0.200 m, GM 1.267 m by the formula 1.267 m
	// notch: 0.400 m
}

// A tonne half a metre to port heels her to port, which is negative.
func ExampleBoat_Solve_heel() {
	load := float.Load{WaterDensity: 1000, Masses: []float.Mass{{Kg: 1900, At: r3.Vec{X: 2.5, Z: 0.5}},
		{Kg: 100, At: r3.Vec{X: 2.5, Y: 0.5, Z: 0.5}}}}
	f := barge().Solve(load, nil).Figures
	fmt.Printf("%.1f° of heel, %.1f° of trim\n", f.HeelDeg, f.TrimDeg+0)
	// Output: -1.1° of heel, 0.0° of trim
}
