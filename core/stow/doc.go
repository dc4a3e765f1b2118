// Package stow says whether gear goes into a place, and how it lies there.
//
// Frame of a place: the boat's axes, from the place's corner of least x, y, z;
// metres, kilograms. A place opens at its top.
//
// Pieces are boxes, laid one after another into the empty spaces that earlier
// ones leave, in a few orders and turns, each resting on the floor or on enough
// of what lies below (fit.go, pack.go); what meets face to face, or interlocks
// exactly, is laid as one block (blocks.go, pinwheel.go). Solve says what goes into
// which place (problem.go, state.go, greedy.go, solve.go, refill.go), with a bound on
// how much better any plan could be (bound.go).
package stow
