package hull

import (
	"math"

	"ergasia/core/check"
)

// ChineMeasures are the twelve tape measures that make a hard-chine hull with
// a V bottom (or a flat one, deadrise nought) and a fine bow. Lengths in
// metres, angles in degrees.
type ChineMeasures struct {
	Length             float64 `json:"length_m"`               // transom to stem, at the sheer
	Beam               float64 `json:"beam_m"`                 // greatest, at the sheer
	TransomBeam        float64 `json:"transom_beam_m"`         // at the sheer
	ChineBeam          float64 `json:"chine_beam_m"`           // greatest, at the chine
	TransomChineBeam   float64 `json:"transom_chine_beam_m"`   // at the chine
	TransomDeadrise    float64 `json:"transom_deadrise_deg"`   // of the bottom, above level
	AmidshipsDeadrise  float64 `json:"amidships_deadrise_deg"` // half-way along
	DepthAft           float64 `json:"depth_aft_m"`            // keel to sheer, at the transom
	DepthAmidships     float64 `json:"depth_amidships_m"`      // keel to sheer, half-way along
	DepthForward       float64 `json:"depth_forward_m"`        // lowest keel to sheer, at the stem
	ForefootLength     float64 `json:"forefoot_m"`             // from the stem to where the keel begins to rise
	TransomNotchHeight float64 `json:"notch_m"`                // keel to the lowest edge of the transom; its depth where there is no notch
}

// Shares of the depth forward to which keel and chine rise at the stem.
// Practice, no source.
const (
	stemFoot  = 0.42
	stemChine = 0.66
)

// chineStations is how many stations the generator sets, closer at the bow.
const chineStations = 29

// Check says which measure looks wrong, as check.Faults, or nil.
func (m ChineMeasures) Check(field string) error {
	var fs check.Faults
	fs.Within(field+"length_m", m.Length, 1.5, 24)
	fs.Within(field+"beam_m", m.Beam, 0.4, 8)
	fs.Within(field+"transom_beam_m", m.TransomBeam, 0.2, 8)
	fs.Within(field+"chine_beam_m", m.ChineBeam, 0.2, 8)
	fs.Within(field+"transom_chine_beam_m", m.TransomChineBeam, 0.2, 8)
	fs.Within(field+"transom_deadrise_deg", m.TransomDeadrise, 0, 35)
	fs.Within(field+"amidships_deadrise_deg", m.AmidshipsDeadrise, 0, 45)
	fs.Within(field+"depth_aft_m", m.DepthAft, 0.15, 4)
	fs.Within(field+"depth_amidships_m", m.DepthAmidships, 0.15, 4)
	fs.Within(field+"depth_forward_m", m.DepthForward, 0.15, 4)
	fs.Within(field+"forefoot_m", m.ForefootLength, 0.1, 20)
	fs.Within(field+"notch_m", m.TransomNotchHeight, 0.1, 4)
	if len(fs) > 0 {
		return fs
	}
	atMost(&fs, field, "transom_beam_m", m.TransomBeam, "beam_m", m.Beam)
	atMost(&fs, field, "chine_beam_m", m.ChineBeam, "beam_m", m.Beam)
	atMost(&fs, field, "transom_chine_beam_m", m.TransomChineBeam, "transom_beam_m", m.TransomBeam)
	atMost(&fs, field, "transom_chine_beam_m", m.TransomChineBeam, "chine_beam_m", m.ChineBeam)
	atMost(&fs, field, "notch_m", m.TransomNotchHeight, "depth_aft_m", m.DepthAft)
	atMost(&fs, field, "forefoot_m", m.ForefootLength, "length_m", m.Length)
	atMost(&fs, field, "beam_m", m.Beam, "length_m", m.Length)
	m.checkChineUnderSheer(&fs, field)
	return fs.Err()
}

func atMost(fs *check.Faults, field, name string, v float64, limitName string, limit float64) {
	if v > limit {
		fs.Add(field+name, v, "must not be more than "+limitName+", "+format(limit))
	}
}

func (m ChineMeasures) checkChineUnderSheer(fs *check.Faults, field string) {
	rise := m.TransomChineBeam / 2 * tanDeg(m.TransomDeadrise)
	if rise >= m.DepthAft {
		fs.Add(field+"transom_deadrise_deg", m.TransomDeadrise,
			"puts the chine "+format(rise)+" m above the keel, over the sheer at depth_aft_m, "+format(m.DepthAft))
	}
	rise = m.ChineBeam / 2 * tanDeg(m.AmidshipsDeadrise)
	if low := min(m.DepthAmidships, m.DepthForward*stemChine); rise >= low {
		fs.Add(field+"amidships_deadrise_deg", m.AmidshipsDeadrise,
			"puts the chine "+format(rise)+" m above the keel; with these depths it must stay under "+format(low))
	}
}

// Hull sets stations through the measures. Plan lines run from the transom
// beam to the greatest beam at 0.45 of the length, then in to the stem; the
// keel is straight to the forefoot, then a parabola; the sheer is the parabola
// through its three depths. Practice, no source: a boat that matters more than
// that is entered by its stations.
func (m ChineMeasures) Hull() Hull {
	h := Hull{FloodPoints: m.floodPoints()}
	for i := 0; i < chineStations; i++ {
		t := float64(i) / (chineStations - 1)
		t = 1 - math.Pow(1-t, 1.5) // closer together at the bow
		h.Stations = append(h.Stations, m.station(t))
	}
	return h
}

func (m ChineMeasures) station(t float64) Station {
	keel := m.keel(t)
	chineY := planLine(t, m.TransomChineBeam/2, m.ChineBeam/2, 1.9)
	sheerY := planLine(t, m.TransomBeam/2, m.Beam/2, 2.4)
	chineZ := max(m.chineHeight(t), keel+1e-3)
	sheerZ := max(m.sheerHeight(t), chineZ+1e-3)
	return Station{X: t * m.Length, Half: []Point{{0, keel}, {min(chineY, sheerY), chineZ}, {sheerY, sheerZ}}}
}

// widest is where along the length the beams are greatest. Practice.
const widest = 0.45

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

func (m ChineMeasures) keel(t float64) float64 {
	s := (t*m.Length - (m.Length - m.ForefootLength)) / m.ForefootLength
	if s <= 0 {
		return 0
	}
	return stemFoot * m.DepthForward * s * s
}

func (m ChineMeasures) chineHeight(t float64) float64 {
	aft := m.TransomChineBeam / 2 * tanDeg(m.TransomDeadrise)
	middle := planLine(0.5, m.TransomChineBeam/2, m.ChineBeam/2, 1.9) * tanDeg(m.AmidshipsDeadrise)
	if t <= 0.5 {
		return aft + (middle-aft)*t/0.5
	}
	s := (t - 0.5) / 0.5
	// The slope carries on through amidships, then bends up to the stem.
	slope := min(max((middle-aft), 0), stemChine*m.DepthForward-middle)
	return middle + slope*s + (stemChine*m.DepthForward-middle-slope)*s*s*s
}

// sheerHeight is the parabola through the depths aft, amidships and forward.
func (m ChineMeasures) sheerHeight(t float64) float64 {
	a, b, c := m.DepthAft, m.DepthAmidships, m.DepthForward
	return a*(2*t-1)*(t-1) + b*4*t*(1-t) + c*t*(2*t-1)
}

func (m ChineMeasures) floodPoints() []FloodPoint {
	name := "transom notch"
	if m.TransomNotchHeight >= m.DepthAft {
		name = "transom top"
	}
	p := FloodPoint{Name: name}
	p.At.Z = m.TransomNotchHeight
	return []FloodPoint{p}
}
