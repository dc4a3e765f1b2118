package way

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"
)

// Published distances between airports, kilometres (memory), on the ellipsoid.
func TestDistancesBetweenCities(t *testing.T) {
	for _, pair := range []struct {
		a, b Point
		km   float64
	}{
		{a: Point{Lat: 51.4700, Lon: -0.4543}, b: Point{Lat: 40.6413, Lon: -73.7781}, km: 5555},     // London and New York
		{a: Point{Lat: 51.4700, Lon: -0.4543}, b: Point{Lat: 1.3644, Lon: 103.9915}, km: 10885},     // and Singapore
		{a: Point{Lat: -33.9399, Lon: 151.1753}, b: Point{Lat: 33.9416, Lon: -118.4085}, km: 12051}, // Sydney and Los Angeles
		{a: Point{Lat: 59.6498, Lon: 17.9238}, b: Point{Lat: 60.3172, Lon: 24.9633}, km: 399},       // Stockholm and Helsinki
	} {
		assert.InEpsilon(t, pair.km*1000, Distance(pair.a, pair.b), 0.005)
	}
	assert.InEpsilon(t, 1852*60.0, Distance(Point{Lat: 30}, Point{Lat: 31}), 0.005, "a minute of latitude is a nautical mile")
}

// The angle between two vectors from the middle of the earth, by their cross and dot
// products, is the same; and the way there is as long as the way back.
func TestDistanceIsTheAngleBetweenVectors(t *testing.T) {
	vector := func(p Point) r3.Vec {
		return r3.Vec{X: math.Cos(p.Lat*radians) * math.Cos(p.Lon*radians), Y: math.Cos(p.Lat*radians) * math.Sin(p.Lon*radians),
			Z: math.Sin(p.Lat * radians)}
	}
	rapid.Check(t, func(t *rapid.T) {
		point := func(name string) Point {
			return Point{Lat: rapid.Float64Range(-90, 90).Draw(t, name+" lat"), Lon: rapid.Float64Range(-180, 180).Draw(t, name+" lon")}
		}
		a, b := point("a"), point("b")
		u, v := vector(a), vector(b)
		assert.InDelta(t, Radius*math.Atan2(r3.Norm(r3.Cross(u, v)), r3.Dot(u, v)), Distance(a, b), 1)
		assert.InDelta(t, Distance(b, a), Distance(a, b), 1e-6)
	})
}

func TestThinningKeepsTheShape(t *testing.T) {
	var line []Point
	for i := range 20_000 {
		at := float64(i) / 20_000
		line = append(line, Point{Lat: 58 + 0.2*at, Lon: 11 + 0.3*at + 0.02*math.Sin(20*at)})
	}
	thin := Thin(line, 300)
	assert.LessOrEqual(t, len(thin), 300)
	assert.Equal(t, line[0], thin[0])
	assert.Equal(t, line[len(line)-1], thin[len(thin)-1])
	assert.InEpsilon(t, Length(line), Length(thin), 0.01)
	assert.Len(t, Thin(line[:5], 300), 5)
	same := []Point{{Lat: 1}, {Lat: 1}, {Lat: 1}}
	assert.Len(t, Thin(same, 2), 2)
}

func TestThePlaneAcrossTheDateLine(t *testing.T) {
	east, north := Plane(Point{Lat: 60, Lon: 179.9}, Point{Lat: 60, Lon: -179.9})
	assert.InEpsilon(t, Distance(Point{Lat: 60, Lon: 179.9}, Point{Lat: 60, Lon: -179.9}), east, 1e-3)
	assert.Zero(t, north)
	assert.False(t, Point{Lat: math.NaN()}.Valid())
	assert.False(t, Point{Lat: 91}.Valid())
}
