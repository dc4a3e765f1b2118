// Package hull holds the shape of a boat: the stations that a person can
// measure or import, the closed triangle shell made of them, and the drawing
// lines of the shell.
//
// Frame: x metres forward of the foot of the transom, y metres to port, z
// metres above the lowest point of the keel. The hull is symmetric about y = 0.
//
// A hull is a list of stations, x ascending, each a half-section from keel to
// sheer with the same number of points. Point k runs straight to point k of
// the next station, so the faces between stations are ruled (bilinear)
// surfaces. The shell is closed at transom and bow, and by a straight lid from
// sheer to sheer: she is watertight up to the lid.
//
// A warped face is cut into smaller ones with a vertex in the middle of each.
// Such a fan halves the tetrahedron that its four corners span, as the
// bilinear surface itself does, so that a face that lies wholly under water
// has its exact volume; one that the water cuts is refined until the choice of
// diagonal would move less volume than warpTolerance.
package hull
