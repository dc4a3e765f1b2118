package hull

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// Shares of the depth forward to which keel and chine rise at the stem.
// Practice, no source.
const (
	stemFoot  = 0.42
	stemChine = 0.66
)

const (
	widest     = 0.45 // where along the length the beams are greatest. Practice.
	entry      = 0.8  // where along the length a skiff's entry is measured
	leastStep  = 1e-3 // metres by which chine stays over keel and sheer over chine
	longPlates = 29   // stations of a chine hull, closer at the bow
	roundSides = 13   // points of a rounded half-section
)

// run is a hull as curves over t, the share of the length from transom to stem:
// half-breadths and heights in metres. Practice, no source: a boat that matters
// more than that is entered by her stations.
type run struct {
	length, rakeDeg                      float64
	keel, chineY, chineZ, sheerY, sheerZ func(t float64) float64
}

// hull sets stations on the curves, closer together at the bow, and leans the
// transom aft by its rake.
func (r run) hull() Hull {
	var h Hull
	for i := range longPlates {
		t := 1 - math.Pow(1-float64(i)/(longPlates-1), 1.5)
		keel, sheerY := r.keel(t), r.sheerY(t)
		chineZ := max(r.chineZ(t), keel+leastStep)
		h.Stations = append(h.Stations, Station{X: t * r.length, Half: []Point{
			{Y: 0, Z: keel}, {Y: min(r.chineY(t), sheerY), Z: chineZ}, {Y: sheerY, Z: max(r.sheerZ(t), chineZ+leastStep)}}})
	}
	h.lean(r.rakeDeg)
	return h
}

// lean rakes the transom: its points move aft by their height over its foot.
func (h *Hull) lean(deg float64) {
	if deg == 0 {
		return
	}
	first := &h.Stations[0]
	for _, p := range first.Half {
		first.PointX = append(first.PointX, first.X-(p.Z-first.Half[0].Z)*tanDeg(deg))
	}
}

// planLine runs from the transom's half-breadth to the greatest at widest, then
// in to the stem; the fuller, the blunter the bow.
func planLine(t, transom, greatest, fullness float64) float64 {
	if t >= 1 {
		return 0
	}
	if t < widest {
		s := 1 - t/widest
		return greatest - (greatest-transom)*s*s
	}
	return greatest * (1 - math.Pow((t-widest)/(1-widest), fullness))
}

// parabola runs through a, b, c at t = 0, 1/2, 1.
func parabola(a, b, c float64) func(float64) float64 {
	return func(t float64) float64 {
		return a*(2*t-1)*(t-1) + b*4*t*(1-t) + c*t*(2*t-1)
	}
}

// rising is a keel that is straight to the forefoot, then a parabola to its
// height at the stem.
func rising(t Tape, atStem float64) func(float64) float64 {
	share := t["forefoot_m"] / t["length_m"]
	return func(at float64) float64 {
		s := (at - (1 - share)) / share
		if s <= 0 {
			return 0
		}
		return atStem * s * s
	}
}

func sheerOf(t Tape) func(float64) float64 {
	return parabola(t["depth_aft_m"], t["depth_amidships_m"], t["depth_forward_m"])
}

// transomChine is the chine's beam at the transom: the sides flare there as
// they do amidships.
func transomChine(t Tape) float64 { return t["chine_beam_m"] * t["transom_beam_m"] / t["beam_m"] }

// floodAt is the transom's lowest edge, by its name.
func floodAt(t Tape) FloodPoint {
	p := FloodPoint{Name: "transom notch", At: r3.Vec{X: -t["notch_m"] * tanDeg(t["rake_deg"]), Z: t["notch_m"]}}
	if t["notch_m"] >= t["depth_aft_m"] {
		p.Name = "transom top"
	}
	return p
}

func loftVee(t Tape) Hull {
	h := vRun(t, 2.4, 1.9).hull()
	h.FloodPoints = []FloodPoint{floodAt(t)}
	return h
}

// vRun is a V bottom whose deadrise was measured at the transom and amidships.
func vRun(t Tape, sheerFullness, chineFullness float64) run {
	chineY := func(at float64) float64 {
		return planLine(at, transomChine(t)/2, t["chine_beam_m"]/2, chineFullness)
	}
	aft := chineY(0) * tanDeg(t["transom_deadrise_deg"])
	middle := chineY(0.5) * tanDeg(t["amidships_deadrise_deg"])
	stem := stemChine * t["depth_forward_m"]
	return run{
		length: t["length_m"], rakeDeg: t["rake_deg"],
		keel: rising(t, stemFoot*t["depth_forward_m"]), chineY: chineY,
		sheerY: func(at float64) float64 { return planLine(at, t["transom_beam_m"]/2, t["beam_m"]/2, sheerFullness) },
		sheerZ: sheerOf(t),
		chineZ: func(at float64) float64 {
			if at <= 0.5 {
				return lerp(aft, middle, at/0.5)
			}
			s := (at - 0.5) / 0.5
			// The slope carries on through amidships, then bends up to the stem.
			slope := min(max(middle-aft, 0), stem-middle)
			return middle + slope*s + (stem-middle-slope)*s*s*s
		},
	}
}

// loftSkiff keeps the bottom nearly flat to amidships and twists it to the
// deadrise of the entry.
func loftSkiff(t Tape) Hull {
	r := vRun(t, 2.2, 1.9)
	keel := rising(t, stemFoot*t["depth_forward_m"])
	r.chineZ = func(at float64) float64 {
		deadrise := t["transom_deadrise_deg"]
		if at > 0.3 {
			s := min((at-0.3)/(entry-0.3), 1)
			deadrise = lerp(deadrise, t["entry_deadrise_deg"], s*s)
		}
		z := r.chineY(at)*tanDeg(deadrise) + keel(min(at, entry))
		if at > entry {
			s := (at - entry) / (1 - entry)
			z = lerp(z, stemChine*t["depth_forward_m"], s)
		}
		return z
	}
	h := r.hull()
	h.FloodPoints = []FloodPoint{floodAt(t)}
	return h
}

// loftFlat draws the sides in to the square bow; the bottom rises to its lower edge.
func loftFlat(t Tape) Hull {
	to := func(transom, greatest, bow float64) func(float64) float64 {
		return func(at float64) float64 {
			if at < widest {
				return planLine(at, transom, greatest, 2)
			}
			s := (at - widest) / (1 - widest)
			return greatest - (greatest-bow)*s*s*s
		}
	}
	flare := t["bottom_beam_m"] / t["beam_m"]
	r := run{
		length: t["length_m"], rakeDeg: t["rake_deg"],
		keel:   rising(t, t["bow_rise_m"]),
		chineY: to(t["transom_beam_m"]*flare/2, t["bottom_beam_m"]/2, t["bow_beam_m"]*flare/2),
		chineZ: rising(t, t["bow_rise_m"]),
		sheerY: to(t["transom_beam_m"]/2, t["beam_m"]/2, t["bow_beam_m"]/2),
		sheerZ: sheerOf(t),
	}
	h := r.hull()
	for i := range h.Stations { // flat: the chine is as low as the keel
		h.Stations[i].Half[1].Z = h.Stations[i].Half[0].Z
	}
	h.FloodPoints = []FloodPoint{floodAt(t)}
	return h
}

// loftRound sets superellipses through keel, half depth and sheer.
func loftRound(t Tape) Hull {
	sheerY := func(at float64) float64 { return planLine(at, t["transom_beam_m"]/2, t["beam_m"]/2, 2.2) }
	aft, middle := superellipse(t["transom_half_depth_beam_m"]/t["transom_beam_m"]),
		superellipse(t["half_depth_beam_m"]/t["beam_m"])
	foot := rising(t, stemFoot*t["depth_forward_m"])
	sheerZ := sheerOf(t)
	var h Hull
	for i := range longPlates {
		at := 1 - math.Pow(1-float64(i)/(longPlates-1), 1.5)
		keel := foot(at)
		if s := 1 - at/0.5; s > 0 {
			keel += t["rocker_aft_m"] * s * s
		}
		n := lerp(aft, middle, min(at/0.5, 1))
		if at > 0.5 {
			n = lerp(middle, 1.15, math.Pow((at-0.5)/0.5, 2)) // nearly a V at the stem
		}
		depth := max(sheerZ(at)-keel, leastStep*roundSides)
		s := Station{X: at * t["length_m"]}
		for k := range roundSides {
			a := math.Pi / 2 * float64(k) / (roundSides - 1)
			s.Half = append(s.Half, Point{Y: sheerY(at) * clean(math.Pow(math.Sin(a), 2/n)),
				Z: keel + depth*(1-clean(math.Pow(math.Cos(a), 2/n)))})
		}
		h.Stations = append(h.Stations, s)
	}
	h.lean(t["rake_deg"])
	h.FloodPoints = []FloodPoint{floodAt(t)}
	return h
}

// clean takes the rounding off the ends of a sine.
func clean(v float64) float64 {
	if v < 1e-12 {
		return 0
	}
	return v
}

// loftCraft is a V hull with a blunt bow, closed at the rail; water comes in by
// the air intake.
func loftCraft(t Tape) Hull {
	r := vRun(t, 3.2, 2.8)
	h := r.hull()
	h.FloodPoints = []FloodPoint{{Name: "air intake", At: r3.Vec{X: t["intake_from_transom_m"], Z: t["intake_m"]}}}
	return h
}
