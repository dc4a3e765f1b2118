// Package sun tells when the sun rises and sets.
//
// Frame: latitude in degrees, north positive; longitude in degrees, east positive; days
// count from 1 January 1970; answers are minutes after 0 h UTC of the day asked for, and
// may lie before it or after it, since the day is that of the place's own noon.
//
// Method: the equations of NOAA's solar calculator, after Meeus, Astronomical Algorithms
// (1991; memory), each event looked for again at its own hour. The upper limb on a flat
// horizon through a usual air: 34' of refraction and 16' of the sun's half breadth.
package sun

import (
	"math"

	"ergasia/core/check"
)

// Kind is what the sun does in a day.
type Kind string

// What the sun does.
const (
	Rises    Kind = "rises" // and sets
	UpAllDay Kind = "up"    // does not set
	Down     Kind = "down"  // does not rise
)

// Light is a day's light at a place. Minutes after 0 h UTC; NaN where there is none.
type Light struct {
	Kind       Kind
	Rise, Set  float64
	Dawn, Dusk float64 // civil: the sun 6° under the horizon
}

// How far the middle of the sun is from the zenith, degrees.
const (
	atRise = 90 + 50.0/60
	atDawn = 96
)

const minutesOfDay = 24 * 60

// Place is where one stands.
type Place struct {
	Lat, Lon float64 // degrees
}

// Check adds what is wrong with the place.
func (p Place) Check(fs *check.Faults, field string) {
	fs.Within(field+".lat", p.Lat, -90, 90)
	fs.Within(field+".lon", p.Lon, -180, 180)
}

// At is the light of a day, counted in days from 1 January 1970, at a place.
func At(day int, p Place) Light {
	l := Light{Kind: Rises}
	var kind Kind
	l.Rise, l.Set, kind = p.crossings(day, atRise)
	if kind != Rises {
		l.Kind = kind
	}
	l.Dawn, l.Dusk, _ = p.crossings(day, atDawn)
	return l
}

// crossings are when the sun passes a distance from the zenith, up and down.
func (p Place) crossings(day int, zenith float64) (up, down float64, kind Kind) {
	noon := minutesOfDay/2 - 4*p.Lon
	up, kind = p.crossing(day, noon, zenith, -1)
	if kind != Rises {
		return math.NaN(), math.NaN(), kind
	}
	down, kind = p.crossing(day, noon, zenith, 1)
	if kind != Rises {
		return math.NaN(), math.NaN(), kind
	}
	return up, down, Rises
}

// crossing looks for one of them again at the hour that it found, until that rests.
func (p Place) crossing(day int, near, zenith, side float64) (minutes float64, kind Kind) {
	minutes = near
	for range 8 {
		declination, equation := position(day, minutes)
		c := cos(zenith)/(cos(p.Lat)*cos(declination)) - tan(p.Lat)*tan(declination)
		if c > 1 {
			return math.NaN(), Down
		}
		if c < -1 {
			return math.NaN(), UpAllDay
		}
		next := minutesOfDay/2 - 4*p.Lon - equation + side*4*math.Acos(c)*180/math.Pi
		if math.Abs(next-minutes) < 1e-4 {
			return next, Rises
		}
		minutes = next
	}
	return minutes, Rises
}

// position is the sun's declination in degrees and the equation of time in minutes.
func position(day int, minutes float64) (declination, equation float64) {
	const epoch = 10957.5 // noon of 1 January 2000, in days from 1 January 1970
	t := (float64(day) + minutes/minutesOfDay - epoch) / 36525
	meanLong := math.Mod(280.46646+t*(36000.76983+t*0.0003032), 360)
	anomaly := 357.52911 + t*(35999.05029-0.0001537*t)
	eccentricity := 0.016708634 - t*(0.000042037+0.0000001267*t)
	centre := sin(
		anomaly,
	)*(1.914602-t*(0.004817+0.000014*t)) + sin(
		2*anomaly,
	)*(0.019993-0.000101*t) + sin(
		3*anomaly,
	)*0.000289
	node := 125.04 - 1934.136*t
	apparent := meanLong + centre - 0.00569 - 0.00478*sin(node)
	obliquity := 23 + (26+(21.448-t*(46.815+t*(0.00059-t*0.001813)))/60)/60 + 0.00256*cos(node)
	declination = math.Asin(sin(obliquity)*sin(apparent)) * 180 / math.Pi
	y := tan(obliquity/2) * tan(obliquity/2)
	equation = 4 * 180 / math.Pi * (y*sin(2*meanLong) - 2*eccentricity*sin(anomaly) +
		4*eccentricity*y*sin(anomaly)*cos(2*meanLong) - y*y/2*sin(4*meanLong) - 1.25*eccentricity*eccentricity*sin(2*anomaly))
	return declination, equation
}

func sin(deg float64) float64 { return math.Sin(deg * math.Pi / 180) }
func cos(deg float64) float64 { return math.Cos(deg * math.Pi / 180) }
func tan(deg float64) float64 { return math.Tan(deg * math.Pi / 180) }
