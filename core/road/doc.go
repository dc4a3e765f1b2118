// Package road works out what a trailer carries: the load on axle and hitch, and
// what is out of bounds. The frame is the boat's: x metres forward of the foot of
// the transom as she sits on the trailer; axle and hitch have their x in it.
// Masses in kilograms, statics by moments: the hitch carries Σ m (x - axle) over
// the distance from axle to hitch.
package road
