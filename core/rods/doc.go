// Package rods says how rods lie: in open beds, in banks of tubes, and upright
// in holders.
//
// Frame: the place's own, from its corner of least x, y, z; metres. A rod lies
// along x. Its butt with the reel is as broad and high as was measured; towards
// the tip it tapers evenly to the height of its largest guide, which is wider
// than any rod between its guides, so what goes in here goes in.
//
// In a bed rods lie in layers, tip by butt where that saves breadth: two that
// clear each other at both ends clear each other all along, since their sides are
// straight. That reels lie at both ends of a bed and tips beside them, that one
// tube may take two tips, and that what is pulled first lies on top, is common
// practice, no source.
package rods
