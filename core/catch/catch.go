// Package catch reckons with fish: what one of a length weighs, which are the best, which
// goes back, and how long a fish a box takes.
//
// Units: metres and kilograms outside; the usual equations are in centimetres and grams.
package catch

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"ergasia/core/check"

	"gonum.org/v1/gonum/spatial/r3"
)

// Species is a kind of fish with its length-weight equation, grams = A (centimetres)^B.
type Species struct {
	Name string  `json:"name"`
	A    float64 `json:"a"`
	B    float64 `json:"b"`
}

// Usual are constants of common fish, total length. Memory: pike after the standard weight
// of Anderson and Neumann (1996), log W = -5.437 + 3.096 log L in g and mm; the others
// rounded from published length-weight tables. Fish differ by water and season: a crew
// puts its own in.
var Usual = []Species{
	{Name: "cod", A: 0.0069, B: 3.08},
	{Name: "perch", A: 0.0112, B: 3.09},
	{Name: "pike", A: 0.00456, B: 3.096},
	{Name: "sea trout", A: 0.0089, B: 3.02},
	{Name: "zander", A: 0.0072, B: 3.08},
}

// Check adds what is wrong with a table of species.
func Check(fs *check.Faults, field string, table []Species) {
	seen := map[string]bool{}
	for i, s := range table {
		at := fmt.Sprintf("%s[%d]", field, i)
		fs.Text(at+".name", s.Name, 1, 40)
		fs.Within(at+".a", s.A, 0.0001, 1)
		fs.Within(at+".b", s.B, 2, 4)
		if seen[s.Name] {
			fs.Add(at+".name", s.Name, "is in the table twice")
		}
		seen[s.Name] = true
	}
}

// Kg is what a fish of so many metres weighs.
func (s Species) Kg(length float64) float64 {
	if length <= 0 {
		return 0
	}
	return s.A * math.Pow(length*100, s.B) / 1000
}

// Length is how long a fish of so many kilograms is, metres.
func (s Species) Length(kg float64) float64 {
	if kg <= 0 {
		return 0
	}
	return math.Pow(kg*1000/s.A, 1/s.B) / 100
}

// Fish is one that was caught.
type Fish struct {
	ID string
	Kg float64
}

// Best are the heaviest so many of those that were caught, and what they weigh together;
// the others go back. None of 0 go back.
func Best(fish []Fish, n int) (kept, back []Fish, total float64) {
	sorted := slices.Clone(fish)
	slices.SortStableFunc(sorted, func(a, b Fish) int { return cmp.Compare(b.Kg, a.Kg) })
	if n <= 0 || n > len(sorted) {
		n = len(sorted)
	}
	for _, f := range sorted[:n] {
		total += f.Kg
	}
	return sorted[:n], sorted[n:], total
}

// Longest is how long a fish lies in a box, from corner to corner: an upper bound, since
// a thick fish takes less.
func Longest(inside r3.Vec) float64 { return r3.Norm(inside) }
