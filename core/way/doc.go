// Package way measures ways over the earth: great circles on the mean sphere of WGS 84
// (radius 6371.0088 km), which differ from the ellipsoid by less than 0.6 %.
//
// Points are degrees, north and east positive; lengths metres.
package way
