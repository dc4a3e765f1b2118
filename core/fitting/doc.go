// Package fitting computes what holds a fitting aboard: the loads on it, bolts and
// the panel under them, how long a screw must be, how fast a pole in the water may
// be pulled, and which way of fixing suits. Lengths of screws and panels are in
// millimetres, as they are sold; everything else is SI.
//
// Sources: property class A4-70 has a proof stress of 450 MPa (ISO 3506, memory);
// stress areas are ISO 898's table (memory); clearance holes are ISO 273's medium
// row (memory); the drag of a round pole across the flow has a coefficient of 1.2,
// that of a blunt thing at its foot 1.1 (Hoerner, Fluid-Dynamic Drag, memory). What
// a panel bears and how hard a sea slams are practice: each says so where it stands.
//
// All of it is an estimate. It finds what is far from right; it does not make
// anything safe that hangs over a head.
package fitting

// G is the standard acceleration of free fall, m/s².
const G = 9.80665
