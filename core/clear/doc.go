// Package clear finds what is in whose way aboard: lids that can't open, seats that
// can't turn, knees and elbows at posts, rods across a line of sight, two things in
// one space, screens that nobody reads, lights in eyes, controls out of reach.
//
// Frame and units are the boat's: x forward of the foot of the transom, y to port,
// z above the keel, metres; angles in degrees. A thing turns about the upright by
// Turn (0 faces the bow, 90 port) and then leans by Lean towards where it faces.
//
// Method: everything that takes space is a convex body. A box, the sector that a lid
// sweeps (of at most half a turn) and the disc of a seat are convex; arcs are drawn
// by polygons round them, too large by at most 2 mm a metre of radius. Two bodies are
// apart when they are apart along a face's normal or across a pair of edges (the
// separating axis theorem: Gottschalk, Lin, Manocha, OBBTree, 1996, memory); else the
// least overlap along those is how deep they stand in each other. A line meets a body
// between its pairs of faces (Kay and Kajiya, 1986, memory). Sight is looked at in
// upright planes through the eye: the body's cut by the plane hides the angles
// between its lowest and its highest point.
//
// How large people are, how far they reach and what they read is practice: medians
// of adults, rounded, and marked where they stand.
package clear
