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
			if x, y, _ := overlap(laid[i], laid[j]); x > slack && y > slack && laid[j].At.Z+laid[j].Size.Z <= laid[i].At.Z+slack {
				layer[i] = max(layer[i], layer[j]+1)
			}
		}
	}
	return layer
}
