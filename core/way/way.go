package way

import "math"

// Radius of the sphere, metres: (2a + b)/3 of WGS 84.
const Radius = 6371008.8

// Point is a place on the earth, in degrees.
type Point struct {
	Lat, Lon float64
}

// Valid says whether it is one.
func (p Point) Valid() bool {
	return math.Abs(p.Lat) <= 90 && math.Abs(p.Lon) <= 180 // NaN is neither
}

const radians = math.Pi / 180

// Distance is the great circle between two points (haversine formula, Sinnott, "Virtues
// of the haversine", Sky and Telescope 68, 1984; from memory).
func Distance(a, b Point) float64 {
	lat, lon := math.Sin((b.Lat-a.Lat)*radians/2), math.Sin((b.Lon-a.Lon)*radians/2)
	h := lat*lat + math.Cos(a.Lat*radians)*math.Cos(b.Lat*radians)*lon*lon
	return 2 * Radius * math.Asin(math.Sqrt(min(1, h)))
}

// Length of a line.
func Length(line []Point) (metres float64) {
	for i := 1; i < len(line); i++ {
		metres += Distance(line[i-1], line[i])
	}
	return metres
}

// Thin keeps at most so many points of a line, its ends among them: those that the line
// would miss most (Douglas and Peucker, 1973; from memory), tolerance doubled until few
// enough are left.
func Thin(line []Point, most int) []Point {
	if len(line) <= most || most < 2 {
		return line
	}
	for tolerance := 1.0; ; tolerance *= 2 {
		if kept := within(line, tolerance); len(kept) <= most {
			return kept
		}
	}
}

// within keeps the points without which the line would be further off than a tolerance, metres.
func within(line []Point, tolerance float64) []Point {
	keep := make([]bool, len(line))
	keep[0], keep[len(line)-1] = true, true
	type span struct{ from, to int }
	for todo := []span{{from: 0, to: len(line) - 1}}; len(todo) > 0; {
		s := todo[len(todo)-1]
		todo = todo[:len(todo)-1]
		furthest, at := tolerance, -1
		for i := s.from + 1; i < s.to; i++ {
			if d := off(line[i], line[s.from], line[s.to]); d > furthest {
				furthest, at = d, i
			}
		}
		if at >= 0 {
			keep[at] = true
			todo = append(todo, span{from: s.from, to: at}, span{from: at, to: s.to})
		}
	}
	var kept []Point
	for i, p := range line {
		if keep[i] {
			kept = append(kept, p)
		}
	}
	return kept
}

// off is how far a point is from the straight line between two, on a plane that is
// right for lines of a day's length.
func off(p, a, b Point) float64 {
	px, py := Plane(a, p)
	bx, by := Plane(a, b)
	length := math.Hypot(bx, by)
	if length == 0 {
		return math.Hypot(px, py)
	}
	along := min(1, max(0, (px*bx+py*by)/(length*length)))
	return math.Hypot(px-along*bx, py-along*by)
}

// Plane is a point as metres east and north of another.
func Plane(from, p Point) (east, north float64) {
	lon := math.Mod(p.Lon-from.Lon+540, 360) - 180
	return Radius * radians * lon * math.Cos((p.Lat+from.Lat)/2*radians), Radius * radians * (p.Lat - from.Lat)
}
