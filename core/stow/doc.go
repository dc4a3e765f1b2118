// Package stow says whether gear goes into a place, and how it lies there.
//
// Frame of a place: the boat's axes, from the place's corner of least x, y, z;
// metres, kilograms. A place opens at its top.
//
// Pieces are boxes. They are set one after another at extreme points, the
// corners that earlier pieces leave (after Crainic, Perboli and Tadei,
// "Extreme point-based heuristics for three-dimensional bin packing", INFORMS
// Journal on Computing 20, 2008; from memory), in a few orders and turns, each
// resting on the floor or on enough of what lies below. It is a quick honest
// try, not a search: a place it calls full may still take a piece that a
// patient hand would get in.
package stow
