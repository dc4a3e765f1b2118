package hull

import (
	"fmt"
	"math"
	"slices"

	"ergasia/core/check"

	"gonum.org/v1/gonum/spatial/r3"
)

// Bounds of what is taken for a small boat. Practice, no source; they keep
// typing errors and absurd work out, and stop no real boat.
const (
	maxStations    = 401
	maxPoints      = 201
	maxOffsets     = 12000 // stations times points: what one shell is made of in good time
	maxExtent      = 100.0 // metres
	maxFloodPoints = 100
	maxSpaces      = 20
)

// Point is a point of a half-section: y to port, z up, in metres.
type Point struct{ Y, Z float64 }

// Station is a half-section from keel to sheer. PointX, when not nil, gives
// each point an x of its own, as a raked transom needs; otherwise all lie at X.
type Station struct {
	X      float64
	PointX []float64
	Half   []Point
}

// FloodPoint is where water first comes in: a notch, a scupper, a coaming. One
// that leads into a Space, by its name, fills that alone and runs out again.
type FloodPoint struct {
	Name  string
	At    r3.Vec
	Space string
}

// Space is a part of the inside that drains overboard by itself, such as a
// self-draining deck or a splash well: what of the hull lies in the box from Low
// to High. Through its own flood points the sea stands in it.
type Space struct {
	Name      string
	Low, High r3.Vec
}

// overlaps says whether two spaces' boxes have more than a millimetre in common.
func (s Space) overlaps(o Space) bool {
	const least = 0.001
	return min(s.High.X, o.High.X)-max(s.Low.X, o.Low.X) > least && min(s.High.Y, o.High.Y)-max(s.Low.Y,
		o.Low.Y) > least &&
		min(s.High.Z, o.High.Z)-max(s.Low.Z, o.Low.Z) > least
}

// Hull is the shape of a boat.
type Hull struct {
	Stations    []Station
	FloodPoints []FloodPoint
	Spaces      []Space
}

// at gives point k of the station in the boat's frame, on the port side.
func (s Station) at(k int) r3.Vec {
	x := s.X
	if s.PointX != nil {
		x = s.PointX[k]
	}
	return r3.Vec{X: x, Y: s.Half[k].Y, Z: s.Half[k].Z}
}

func (s Station) sheer() r3.Vec { return s.at(len(s.Half) - 1) }

// Check says what is wrong with the hull as input, as check.Faults, or nil.
// field is put before the names, such as "hull.".
func (h Hull) Check(field string) error {
	var fs check.Faults
	if n := len(h.Stations); n < 2 || n > maxStations {
		fs.Add(field+"stations", n, fmt.Sprintf("a hull needs from 2 to %d stations", maxStations))
		return fs
	}
	if n := len(h.Stations) * len(h.Stations[0].Half); n > maxOffsets {
		fs.Add(field+"stations", n, fmt.Sprintf("at most %d points in all: a boat needs no more", maxOffsets))
		return fs
	}
	for i, s := range h.Stations {
		checkStation(&fs, fmt.Sprintf("%sstations[%d]", field, i), s, len(h.Stations[0].Half))
	}
	if len(fs) == 0 {
		checkOrder(&fs, field, h.Stations)
	}
	if len(h.FloodPoints) > maxFloodPoints {
		fs.Add(field+"flood_points", len(h.FloodPoints), fmt.Sprintf("at most %d", maxFloodPoints))
	}
	for i, p := range h.FloodPoints {
		name := fmt.Sprintf("%sflood_points[%d]", field, i)
		fs.Text(name+".name", p.Name, 1, 80)
		checkPoint(&fs, name+".at_m", p.At)
		if p.Space != "" && !slices.ContainsFunc(h.Spaces, func(s Space) bool { return s.Name == p.Space }) {
			fs.Add(name+".space", p.Space, "is none of the hull's spaces")
		}
	}
	if len(h.Spaces) > maxSpaces {
		fs.Add(field+"spaces", len(h.Spaces), fmt.Sprintf("at most %d", maxSpaces))
	}
	for i, s := range h.Spaces {
		name := fmt.Sprintf("%sspaces[%d]", field, i)
		fs.Text(name+".name", s.Name, 1, 80)
		checkPoint(&fs, name+".low_m", s.Low)
		checkPoint(&fs, name+".high_m", s.High)
		if !(s.Low.X < s.High.X && s.Low.Y < s.High.Y && s.Low.Z < s.High.Z) {
			fs.Add(name+".high_m", nil, "must be over low_m along x, y and z")
		}
		for _, other := range h.Spaces[:i] { // what lies in both would be lost twice
			if s.overlaps(other) {
				fs.Add(name, s.Name, "overlaps "+other.Name+": let one end where the other begins")
			}
		}
	}
	return fs.Err()
}

func checkPoint(fs *check.Faults, field string, p r3.Vec) {
	fs.Within(field+"[0]", p.X, -maxExtent, maxExtent)
	fs.Within(field+"[1]", p.Y, -maxExtent, maxExtent)
	fs.Within(field+"[2]", p.Z, -maxExtent, maxExtent)
}

func checkStation(fs *check.Faults, field string, s Station, points int) {
	fs.Within(field+".x_m", s.X, -maxExtent, maxExtent)
	if n := len(s.Half); n != points || n < 2 || n > maxPoints {
		fs.Add(field+".half_section_yz_m", n,
			fmt.Sprintf("every station needs the same number of points, from 2 to %d (the first has %d)", maxPoints, points))
		return
	}
	if s.PointX != nil && len(s.PointX) != points {
		fs.Add(field+".point_x_m", len(s.PointX), fmt.Sprintf("must have an x for each of the %d points", points))
		return
	}
	ok := true
	for k, p := range s.Half {
		name := fmt.Sprintf("%s.half_section_yz_m[%d]", field, k)
		ok = fs.Within(name+"[0]", p.Y, 0, maxExtent) && ok
		ok = fs.Within(name+"[1]", p.Z, -maxExtent, maxExtent) && ok
		if s.PointX != nil {
			fs.Within(fmt.Sprintf("%s.point_x_m[%d]", field, k), s.PointX[k], -maxExtent, maxExtent)
		}
	}
	if a, b, crosses := crossing(s.Half); ok && crosses {
		fs.Add(field+".half_section_yz_m", nil,
			fmt.Sprintf("the section crosses itself between points %d and %d: list the points in order from keel to sheer", a,
				b))
	}
}

func checkOrder(fs *check.Faults, field string, stations []Station) {
	for i := 1; i < len(stations); i++ {
		for k := range stations[i].Half {
			before, here := stations[i-1].at(k).X, stations[i].at(k).X
			if here <= before {
				fs.Add(fmt.Sprintf("%sstations[%d].x_m", field, i), here,
					fmt.Sprintf("must be forward of the station before it, at %g", before))
				break
			}
		}
	}
}

// crossing finds two edges of the half-section, not neighbours, that cross.
func crossing(ps []Point) (a, b int, found bool) {
	for i := 0; i+1 < len(ps); i++ {
		for j := i + 2; j+1 < len(ps); j++ {
			if cross(ps[i], ps[i+1], ps[j], ps[j+1]) {
				return i, j + 1, true
			}
		}
	}
	return 0, 0, false
}

func cross(a, b, c, d Point) bool {
	side := func(p, q, r Point) float64 { return (q.Y-p.Y)*(r.Z-p.Z) - (q.Z-p.Z)*(r.Y-p.Y) }
	return side(a, b, c)*side(a, b, d) < 0 && side(c, d, a)*side(c, d, b) < 0
}

// Length is from the first station's aftmost to the last's foremost point, in metres.
func (h Hull) Length() float64 {
	low, high := h.Bounds()
	return high.X - low.X
}

// Bounds gives the least and greatest x, y, z of the hull, both sides.
func (h Hull) Bounds() (low, high r3.Vec) {
	low = r3.Vec{X: math.Inf(1), Y: math.Inf(1), Z: math.Inf(1)}
	high = r3.Scale(-1, low)
	for _, s := range h.Stations {
		for k := range s.Half {
			p := s.at(k)
			low = r3.Vec{X: min(low.X, p.X), Y: min(low.Y, -p.Y), Z: min(low.Z, p.Z)}
			high = r3.Vec{X: max(high.X, p.X), Y: max(high.Y, p.Y), Z: max(high.Z, p.Z)}
		}
	}
	return low, high
}

// SectionAt gives the half-section at x metres, interpolated along the ruled
// lines between stations; false when x lies outside every line.
func (h Hull) SectionAt(x float64) ([]Point, bool) {
	for i := 1; i < len(h.Stations); i++ {
		a, b := h.Stations[i-1], h.Stations[i]
		section := make([]Point, 0, len(a.Half))
		for k := range a.Half {
			p, q := a.at(k), b.at(k)
			if x < p.X || x > q.X {
				break
			}
			t := (x - p.X) / (q.X - p.X)
			section = append(section, Point{Y: p.Y + t*(q.Y-p.Y), Z: p.Z + t*(q.Z-p.Z)})
		}
		if len(section) == len(a.Half) {
			return section, true
		}
	}
	return nil, false
}
