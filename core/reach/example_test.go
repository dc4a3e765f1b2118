package reach_test

import (
	"fmt"

	"ergasia/core/reach"

	"gonum.org/v1/gonum/spatial/r3"
)

// Two metres from the helm stands a locker with a hinged lid; what lies on its
// floor is bent for.
func ExampleTable_Fetch() {
	boat := reach.Boat{Length: 5, HalfBreadth: func(float64) float64 { return 1 },
		Posts: []reach.Post{{Name: "helm", At: r3.Vec{X: 1.5, Z: 0.3}}},
		Places: []reach.Place{{Name: "fore locker", Corner: r3.Vec{X: 4, Y: -0.3, Z: 0.3}, Size: r3.Vec{X: 0.5, Y: 0.6, Z: 0.4},
			Lid: "hinged", Inside: -1}}}
	table := reach.DefaultTable()
	way := boat.Ways(table)[0][0]
	fetch := table.Fetch(way, boat.Places[0], reach.Lying{HandZ: 0.4})
	for _, part := range fetch.Parts {
		fmt.Println(part.What)
	}
	fmt.Println(fetch.Seconds > way.Seconds)
	// Output:
	// walk
	// turn
	// the lid of fore locker
	// bend
	// take it
	// true
}
