package fitting

import "math"

// SlamFactors are how many times its weight a thing feels when a sea slams, up and
// down, by use. Practice. Half of it acts sideways.
var SlamFactors = map[string]float64{"sheltered": 2, "coastal": 4, "offshore": 6}

// Grip is what a person's hand puts on what it holds on to, N. Practice.
const Grip = 1000.0

// Body is a fitting as its fastenings feel it.
type Body struct {
	Kg      float64
	High    float64 // m, from the face it is fastened by to its centre
	Top     float64 // m, to where a hand takes hold
	Stands  string  // of words.Stands
	Gripped bool    // people hold on to it, lean or sit on it
	Pole    *Pole   // what of it hangs in the water, at the speed it is used at
	Brace   float64 // m below the clamp at which a brace takes hold; nought for none
}

// Load is one thing that a fitting's fastenings must bear: along the panel, off it,
// and about its foot.
type Load struct {
	Name   string
	Shear  float64 // N
	Pull   float64 // N
	Moment float64 // N·m
}

// Loads lists what a fitting must bear where it is used so.
func Loads(b Body, use string) []Load {
	n := SlamFactors[use]
	weight := b.Kg * G
	list := []Load{
		b.resting(weight),
		{Name: "slamming", Shear: n / 2 * weight, Pull: (n - 1) * weight, Moment: n / 2 * weight * b.High},
	}
	if b.Stands == "out" { // up and down is along the wall, and turns it about its foot
		list[1] = Load{Name: "slamming", Shear: n * weight, Pull: n / 2 * weight, Moment: n * weight * b.High}
	}
	if b.Gripped {
		list = append(list, Load{Name: "a hand's grip", Shear: Grip, Moment: Grip * b.Top})
	}
	if b.Pole != nil {
		p := *b.Pole
		if b.Brace > 0 {
			p = p.Braced(b.Brace)
		}
		pulled := p.Pull()
		list = append(list, Load{Name: "drag in the water", Shear: pulled.Drag, Moment: pulled.Moment})
	}
	return list
}

// resting is what a fitting's own weight does while she lies still.
func (b Body) resting(weight float64) Load {
	switch b.Stands {
	case "out":
		return Load{Name: "its weight", Shear: weight, Moment: weight * b.High}
	case "down":
		return Load{Name: "its weight", Pull: weight}
	}
	return Load{Name: "its weight"} // it only presses
}

// Fastened is how a fitting is held: n screws of a size, on a foot so long and
// broad, mm, with a washer or plate behind.
type Fastened struct {
	Method string // of words.Methods
	Count  int
	Size   Screw
	Foot   [2]float64 // mm, along and across
	Panel  Panel
	Plate  bool // a plate as large as the foot lies behind
}

// Weakest is what gives way first, and at what share of the load: under 1 it does.
type Weakest struct {
	What   string
	Factor float64
	Load   string
}

// edge is how far screws stand in from the edge of a foot, share of its side.
// Practice.
const edge = 0.15

// Margin finds what gives way first under the loads, with its margin. A moment is
// taken about the shorter side, which is worse.
func (f Fastened) Margin(loads []Load) Weakest {
	worst := Weakest{Factor: math.Inf(1)}
	for _, l := range loads {
		for _, w := range f.under(l) {
			if w.Factor < worst.Factor {
				worst = w
			}
		}
	}
	return worst
}

func (f Fastened) under(l Load) []Weakest {
	along, across := f.Foot[0]*(1-2*edge), f.Foot[1]*(1-2*edge)
	pattern := Rectangle(f.Count, max(along, across), min(along, across))
	b := Bolts{Pattern: pattern, Size: f.Size, Moment: l.Moment, Shear: l.Shear, Pull: l.Pull}
	held := b.Hold()
	tension := 0.0
	for _, t := range held.Tension {
		tension = max(tension, t)
	}
	if b.leverage() < 1e-9 && l.Moment > 0 { // one line of screws: the foot's edge is the lever
		tension = l.Pull/float64(f.Count) + l.Moment*1000/(max(min(f.Foot[0], f.Foot[1]), 1)/2)/float64(f.Count)
	}
	bolt := math.Hypot(tension, math.Sqrt(3)*held.Shear) / f.Size.Area // von Mises
	list := []Weakest{
		{What: "the screws themselves", Factor: over(ProofA470, bolt), Load: l.Name},
		{What: "the hole torn sideways", Factor: over(f.Panel.Tears(f.Size.Diameter), held.Shear), Load: l.Name},
	}
	what, capacity := f.holdsOff()
	return append(list, Weakest{What: what, Factor: over(capacity, tension), Load: l.Name})
}

func over(capacity, load float64) float64 {
	if load <= 0 {
		return math.Inf(1)
	}
	return capacity / load
}

// Pulls at which blind fixings let go, N for one of 6 mm, growing with the square of
// the diameter. Practice: sheet of 2 mm for rivet nuts, rubber for well nuts.
const (
	rivetNutHolds = 3000.0
	wellNutHolds  = 350.0
)

// holdsOff is what lets go first of a pull off the panel, and at how much on one
// screw, N.
func (f Fastened) holdsOff() (what string, n float64) {
	d := f.Size.Diameter
	switch f.Method {
	case "plate", "through-bolt":
		if f.Plate || f.Method == "plate" {
			share := 2 * (f.Foot[0] + f.Foot[1]) / (math.Pi * float64(max(f.Count, 1))) // of the plate's edge, as a washer's width
			return "the panel round the plate", f.Panel.PullsThrough(max(share, f.Size.Washer))
		}
		return "the panel under the washers", f.Panel.PullsThrough(f.Size.Washer)
	case "rivet-nut":
		return "the rivet nuts", min(rivetNutHolds*d*d/36, f.Panel.PullsThrough(1.5*d))
	case "well-nut":
		return "the well nuts", wellNutHolds * d * d / 36
	case "tapped":
		return "the threads in the panel", f.Panel.StripsAt(d)
	case "coach-screw":
		return "the screws in the timber", f.Panel.StripsAt(d)
	case "self-tapper":
		return "the self-tappers", f.Panel.StripsAt(d) * 0.7 // they cut less thread
	}
	return "the panel", f.Panel.PullsThrough(f.Size.Washer)
}

// PlateMM is how thick a backing plate of aluminium should be for a screw, mm: as
// thick as the screw, and not under 4. Practice.
func PlateMM(s Screw) float64 { return max(4, math.Round(s.Diameter)) }
