package fitting

import (
	"math"

	"ergasia/core/check"
)

// Loose is something heavy that only friction and straps keep in its place: an iced
// cooler, a full drum, a can, batteries.
type Loose struct {
	Kg      float64
	Grip    float64 // coefficient of friction; nought is usual
	Boxed   bool    // walls keep it from sliding
	Straps  int
	StrapN  float64 // N, what one strap is rated for in a straight pull
	Slanted float64 // degrees, of the straps over the deck; nought is 45
}

// Friction of plastic and wet wood on a deck. Practice.
const usualGrip = 0.3

// On the road a load is held against 0.8 of its weight ahead and 0.5 to the sides and
// aft (EN 12195-1, memory).
const (
	roadAhead = 0.8
	roadSide  = 0.5
)

// Check says what is wrong with it.
func (l Loose) Check() error {
	var fs check.Faults
	fs.Within("kg", l.Kg, 0.1, 2000)
	fs.Within("grip", l.Grip, 0, 1.5)
	fs.Within("straps", float64(l.Straps), 0, 20)
	fs.Within("strap_rated_n", l.StrapN, 0, 1e6)
	fs.Within("slanted_deg", l.Slanted, 0, 90)
	return fs.Err()
}

// Kept is how a loose thing is kept in its place.
type Kept struct {
	Name    string
	Along   float64 // N, what pushes it over the deck after friction
	Off     float64 // N, what lifts it
	Factor  float64 // what the straps hold over what they must; infinite where nothing is needed
	Slides  bool    // nothing, or too little, holds it
	Missing int     // straps that are missing
}

// Keep tells what afloat, at a use's slamming, and on the road does to a loose thing.
// Half of the straps pull against each direction; of a slanted one, cos along the deck
// and sin down on it, which friction makes use of.
func (l Loose) Keep(use string) []Kept {
	n := SlamFactors[use]
	weight := l.Kg * G
	cases := []struct {
		name    string
		a, lift float64 // of its weight
	}{{"afloat, slamming", n / 2, max(n-2, 0)}, {"on the road, braking", roadAhead, 0}, {"on the road, turning", roadSide, 0}}
	grip := l.Grip
	if grip == 0 {
		grip = usualGrip
	}
	var list []Kept
	for _, c := range cases {
		k := Kept{Name: c.name, Off: c.lift * weight}
		if !l.Boxed {
			k.Along = c.a * weight
			if c.lift == 0 { // what is lifted has no friction
				k.Along = max(0, (c.a-grip)*weight)
			}
		}
		l.hold(&k, grip)
		list = append(list, k)
	}
	return list
}

func (l Loose) hold(k *Kept, grip float64) {
	slant := l.Slanted
	if slant == 0 {
		slant = 45
	}
	sin, cos := math.Sincos(slant * math.Pi / 180)
	one := l.StrapN
	// n straps hold n/2 (cos + grip sin) along, and n sin down.
	need := max(div(k.Along, one*(cos+grip*sin)/2), div(k.Off, one*sin))
	k.Factor = math.Inf(1)
	if need > 0 {
		k.Factor = float64(l.Straps) / need
	}
	k.Slides = k.Factor < 1
	if k.Slides && one > 0 {
		k.Missing = int(math.Ceil(need)) - l.Straps
	}
}

// div is a share of what holds; where nothing does, more than any number of straps.
func div(load, by float64) float64 {
	switch {
	case load <= 0:
		return 0
	case by <= 0:
		return math.Inf(1)
	}
	return load / by
}

// DeckBears is the load, kg, that a deck panel between stiffeners carries in its
// middle before it gives way: a strip as broad as its span, simply held at both
// edges, M = F l / 4 and σ = M / (b t²/6), so that F = 2 σ t² / 3. The span cancels: a
// wider deck bends further and bears no less. Allowable bending by practice.
func DeckBears(p Panel) float64 {
	t := p.Thickness
	s := bending[p.Material] * 2 * t * t / 3
	if strengths[p.Material].skinOnly { // two skins, the core between
		s = bending[p.Material] * 4 * p.bears() * (t - p.bears())
	}
	return s / G
}

// bending is what materials bear in bending, MPa. Practice, with a margin of three.
var bending = map[string]float64{
	"laminate":  40,
	"cored":     40,
	"foam":      30,
	"aluminium": 60,
	"plastic":   7,
	"timber":    12,
	"steel":     80,
}
