// Package float finds where a boat sits in calm water under a load: sinkage,
// trim and heel, freeboards and stability.
//
// Frame: x metres forward of the foot of the transom, y metres to port, z
// metres above the lowest point of the keel. Attitude is the world's up, a unit
// vector u in the boat's frame: trim = asin(u.x), bow up positive; heel =
// atan2(u.y, u.z), starboard down positive; both in degrees. The water's
// surface is the plane u·p = h.
//
// Method. The shell's triangles are clipped at the surface. The wetted volume
// and its first moment are sums of tetrahedra with their apex in the surface,
// so that the cut itself adds nothing and planar hulls come out exact; the
// waterplane's area and second moments are Green's theorem over the edges of
// the cut. Equilibrium is Newton on sinkage, trim and heel with the exact
// Jacobian ρ(I - ∇·BG) less the free surface of slack tanks, whose liquid is
// clipped in the same way. Where Newton strays or ends at an attitude that is
// not stable, the potential energy of the boat at constant displacement is
// followed downhill instead, which can only end at a stable one.
//
// Sources: the relations are those of any text on hydrostatics of ships, such
// as Principles of Naval Architecture (SNAME), chapters 2 and 3, from memory.
package float
