package stow

import (
	"cmp"
	"slices"
)

// Layers says in which layer each laid piece lies: nought on the floor, one on
// what lies there, and so on up.
func Layers(laid []Laid) []int {
	order := make([]int, len(laid))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(laid[a].At.Z, laid[b].At.Z) })
	layer := make([]int, len(laid))
	for k, i := range order {
		for _, j := range order[:k] {
			if laid[i].Over(laid[j]) {
				layer[i] = max(layer[i], layer[j]+1)
			}
		}
	}
	return layer
}
