package fitting

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"ergasia/core/check"
	"ergasia/core/units"
	"ergasia/core/words"
)

// Job is a fitting that is to be fixed somewhere.
type Job struct {
	Panel Panel
	Back  string       // of words.Backs: how one gets at the other side
	Comes string       // of words.ComesOff: how often it is taken off
	Where string       // of words.Wets: how near the water
	Near  []string     // what lies behind: "tank", "foam"
	Units units.System // in which it is told
	Metal string       // of the fitting: of words.Metals
	Foot  [2]float64   // mm
	Count int          // screws its foot has holes for
	Size  Screw
	Loads []Load
	Stack Stack // layers and what is behind; nut and washer are filled in by method
	Room  float64
}

// Check says what is wrong with a job.
func (j Job) Check() error {
	var fs check.Faults
	j.Panel.Check(&fs, "panel.")
	fs.OneOf("back", j.Back, words.Backs.Keys()...)
	fs.OneOf("comes_off", j.Comes, words.ComesOff.Keys()...)
	fs.OneOf("where", j.Where, words.Wets.Keys()...)
	fs.OneOf("metal", j.Metal, words.Metals.OrNone()...)
	fs.Within("foot_mm[0]", j.Foot[0], 5, 3000)
	fs.Within("foot_mm[1]", j.Foot[1], 5, 3000)
	fs.Within("count", float64(j.Count), 1, 40)
	fs.Within("room_mm", j.Room, 0, 10000)
	return fs.Err()
}

// Way is one way of fixing, with why and why not.
type Way struct {
	Method  string
	Score   int
	Out     string // why it does not go at all; empty where it does
	For     []string
	Against []string
	Weakest Weakest
	Screws  *Stacked // of ways with screws that pass through
	Hole    float64  // mm to drill; nought for none
	Sealant string
	Torque  float64 // N·m; nought for none
	Plate   bool
	Buy     []string
}

// Enough is the margin over what a fitting must bear that is thought enough.
// Practice.
const Enough = 2.0

// Ways ranks the ways of fixing a fitting, those that don't go last.
func Ways(j Job) []Way {
	var list []Way
	for _, m := range words.Methods {
		if m.Key != "dock" { // a base is chosen, not advised
			list = append(list, j.way(m.Key))
		}
	}
	slices.SortStableFunc(list, func(a, b Way) int {
		if (a.Out == "") != (b.Out == "") {
			if a.Out == "" {
				return -1
			}
			return 1
		}
		return cmp.Compare(b.Score, a.Score)
	})
	return list
}

func (j Job) way(method string) Way {
	w := Way{Method: method}
	if w.Out = j.outOf(method); w.Out != "" {
		return w
	}
	rules[method](j, &w)
	if screwed(method) {
		j.hold(&w)
	}
	j.often(&w)
	w.Sealant = j.sealant(method)
	w.Buy = j.buy(w)
	return w
}

// screwed says whether a method goes by screws through the foot.
func screwed(method string) bool {
	return slices.Contains(
		[]string{"through-bolt", "plate", "well-nut", "rivet-nut", "tapped", "coach-screw", "self-tapper"},
		method,
	)
}

// drilled says whether it makes a hole in the boat.
func drilled(method string) bool { return screwed(method) || method == "track" }

// thinnest sheet that holds a thread is about the diameter of the screw; rivet nuts
// want a stiff sheet of 1 mm and up. Practice.
const thinnestRiveted = 1.0

// outOf says why a method does not go at all.
func (j Job) outOf(method string) string {
	m := j.Panel.Material
	metal := m == "aluminium" || m == "steel"
	switch method {
	case "through-bolt", "plate":
		if j.Back == "none" {
			return "Nobody gets at the back of the panel to hold a nut."
		}
		if m == "foam" && method == "through-bolt" {
			return "Foam is crushed between head and nut: only with a plate, or tubes through it."
		}
	case "rivet-nut":
		if !metal {
			return "Rivet nuts need sheet metal; they crush laminate and plastic."
		}
		if j.Panel.Thickness < thinnestRiveted {
			return fmt.Sprintf("A sheet of %.1f mm is too thin for rivet nuts.", j.Panel.Thickness)
		}
	case "well-nut":
		if j.Where == "below" {
			return "Rubber is no seal that is trusted below the water."
		}
	case "tapped":
		if !metal {
			return "A thread cut into this material does not hold."
		}
		if j.Panel.Thickness < j.Size.Diameter {
			return fmt.Sprintf(
				"%s wants %.0f mm of metal to be tapped into; here are %.1f.",
				j.Size.Name,
				j.Size.Diameter,
				j.Panel.Thickness,
			)
		}
	case "coach-screw":
		if m != "timber" {
			return "Coach screws hold in timber only."
		}
	case "self-tapper":
		if j.Where == "below" {
			return "A self-tapper below the water weeps and pulls out."
		}
		if m == "steel" {
			return "Self-tappers rust in steel and hold little."
		}
	case "suction":
		if j.Comes != "trip" {
			return "A suction cup lets go by itself in days: only for what comes off each trip."
		}
		if heaviest(j.Loads) > 60 {
			return "It bears more than a suction cup holds."
		}
	case "adhesive":
		if j.Comes != "never" {
			return "What is glued on does not come off again whole."
		}
		if m == "plastic" {
			return "Hardly anything sticks to this plastic."
		}
	}
	return ""
}

func heaviest(loads []Load) (n float64) {
	for _, l := range loads {
		n = max(n, l.Pull, l.Shear)
	}
	return n
}

// rules give each method its first score and its reasons.
var rules = map[string]func(Job, *Way){
	"through-bolt": func(j Job, w *Way) {
		w.Score = 70
		w.For = append(w.For, "Holds best, and can be tightened again.")
		if j.Back == "tight" {
			w.Score -= 15
			w.Against = append(
				w.Against,
				"Two hands hardly fit behind: glue the nut to a strip, or hold it with a spanner on a stick.",
			)
		}
		if j.Panel.Material == "cored" {
			w.Score -= 10
			w.Against = append(
				w.Against,
				"Drill wide, scrape the core out round the hole, fill it with thickened resin, and drill again: a wet core rots.",
			)
		}
	},
	"plate": func(j Job, w *Way) {
		w.Score, w.Plate = 68, true
		w.For = append(w.For, "Spreads the load over as much panel as the foot covers.")
		w.Against = append(w.Against, "A plate has to be cut, drilled and got in behind.")
		if j.Back == "tight" {
			w.Score -= 20
		}
	},
	"rivet-nut": func(j Job, w *Way) {
		w.Score = 55
		w.For = append(w.For, "From one side; comes off and on again.")
		w.Against = append(w.Against, "Steel nuts eat aluminium: take aluminium or A4, set wet in sealant.")
	},
	"well-nut": func(j Job, w *Way) {
		w.Score = 40
		w.For = append(w.For, "From one side, seals itself, damps rattling.")
		w.Against = append(w.Against, "Rubber holds little and perishes: look at it each year.")
	},
	"tapped": func(j Job, w *Way) {
		w.Score = 52
		w.For = append(w.For, "From one side, nothing behind.")
		w.Against = append(w.Against, "A thread in aluminium wears: paste on it, and not too often.")
	},
	"coach-screw": func(j Job, w *Way) {
		w.Score = 45
		w.For = append(w.For, "From one side into solid timber.")
		w.Against = append(w.Against, "Wet timber lets go: seal the hole's inside first.")
	},
	"self-tapper": func(j Job, w *Way) {
		w.Score = 22
		w.For = append(w.For, "Quick, from one side.")
		w.Against = append(w.Against, "A last resort: it works loose, and its hole can't be used twice.")
	},
	"track": func(j Job, w *Way) {
		w.Score = 50
		w.For = append(w.For, "One row of holes, then things slide to where they are wanted and come off by hand.")
		w.Against = append(w.Against, "The track itself wants bolts or a plate; what rides on it can creep.")
	},
	"clamp": func(j Job, w *Way) {
		w.Score = 48
		w.For = append(w.For, "No hole. Try it for a season before drilling.")
		w.Against = append(
			w.Against,
			"Measure the rail, or the gunwale's width and what fills it; clamps turn under a side load.",
		)
		if m := mostMoment(j.Loads); m > clampHolds {
			w.Score -= 25
			w.Against = append(
				w.Against,
				fmt.Sprintf("It bears about %s; a hand-tightened clamp turns at about %.0f (practice).",
					j.Units.Torque.Text(m, 0), j.Units.Torque.FromSI(clampHolds)),
			)
		}
	},
	"suction": func(j Job, w *Way) {
		w.Score = 20
		w.For = append(w.For, "No hole, off in a second.")
		w.Against = append(w.Against, "Only on smooth, clean, dry plastic or glass; tie it to something.")
	},
	"adhesive": func(j Job, w *Way) {
		w.Score = 38
		w.For = append(w.For, "No hole.")
		w.Against = append(w.Against, "Holds flat on, not against peeling: a long lever tears it off.")
		need := mostMoment(j.Loads) * 1000 * 6 / (j.Foot[0] * j.Foot[1] * min(j.Foot[0], j.Foot[1])) // MPa at the edge
		if need > gluePeel {
			w.Score -= 30
			w.Against = append(
				w.Against,
				fmt.Sprintf("Its edge would be pulled with %.2f MPa; %.1f is thought enough (practice).", need, gluePeel),
			)
		}
	},
}

// Practice: what a clamp tightened by hand holds from turning, N·m, and what the edge
// of a glued foot bears, MPa.
const (
	clampHolds = 60.0
	gluePeel   = 0.3
)

func mostMoment(loads []Load) (m float64) {
	for _, l := range loads {
		m = max(m, l.Moment)
	}
	return m
}

// hold weighs the margin of a way with screws, and what screw it takes.
func (j Job) hold(w *Way) {
	f := Fastened{Method: w.Method, Count: j.Count, Size: j.Size, Foot: j.Foot, Panel: j.Panel, Plate: w.Plate}
	w.Weakest = f.Margin(j.Loads)
	switch m := w.Weakest.Factor; {
	case m < 1:
		w.Score -= 40 + int(30*(1-m))
		w.Against = append(
			w.Against,
			fmt.Sprintf("Gives way: %s bear %.0f %% of %s.", w.Weakest.What, m*100, w.Weakest.Load),
		)
	case m < Enough:
		w.Score -= 15
		w.Against = append(w.Against, fmt.Sprintf("Little margin: %s at %.1f times %s.", w.Weakest.What, m, w.Weakest.Load))
	default:
		w.For = append(w.For, "Bears "+times(m)+" what is asked of it.")
	}
	w.Hole, w.Torque = j.Size.Clearance, j.Size.Torque
	s := j.Stack
	s.Pitch = j.Size.Pitch
	s.Lengths = usualLengths
	switch w.Method {
	case "through-bolt":
		s.Washer, s.Nut = j.Size.WasherMM, j.Size.Nut
	case "plate":
		s.Washer, s.Nut = j.Size.WasherMM+PlateMM(j.Size), j.Size.Nut
	case "rivet-nut", "well-nut": // the screw takes hold behind the panel, over its own diameter and a half
		s.Nut = 1.5 * j.Size.Diameter
		w.Hole = j.Size.Diameter + 3 // the nut's own body (practice; the packet says)
		w.Torque *= 0.6
	default: // into the panel itself
		s.Nut = 0
		s.Pitch = 0
		w.Hole = j.Size.Tapping
		w.Torque *= 0.6
	}
	if len(s.Layers) == 0 {
		s.Layers = []float64{j.Panel.Thickness}
	}
	up := s.Up()
	w.Screws = &up
	if up.Length == nil {
		w.Against = append(
			w.Against,
			fmt.Sprintf("No usual screw is long enough: %.0f mm are needed. Use threaded rod.", up.Needed),
		)
		w.Score -= 10
	}
	if up.Fouls > 0 {
		w.Score -= 25
		w.Against = append(
			w.Against,
			fmt.Sprintf("The screw stands %.0f mm into what is behind: cut it, cap it, or take a blind fixing.", up.Fouls),
		)
	}
}

func times(m float64) string {
	if math.IsInf(m, 1) || m > 20 {
		return "over 20 times"
	}
	return fmt.Sprintf("%.1f times", m)
}

// often weighs how often it comes off, and tools.
func (j Job) often(w *Way) {
	loose := slices.Contains([]string{"track", "clamp", "suction"}, w.Method)
	switch j.Comes {
	case "trip":
		if loose {
			w.Score += 25
			w.For = append(w.For, "Comes off by hand each trip.")
		} else {
			w.Score -= 20
			w.Against = append(w.Against, "Each trip with tools: the thread wears and someone loses a nut.")
		}
	case "season":
		if loose || w.Method == "rivet-nut" || w.Method == "through-bolt" || w.Method == "plate" {
			w.Score += 5
		}
	case "never":
		if loose {
			w.Score -= 10
			w.Against = append(w.Against, "Can come loose by itself: put it on the list of things to look at.")
		}
	}
	if drilled(w.Method) && j.Room > 0 && j.Room < toolRoom {
		w.Score -= 10
		w.Against = append(
			w.Against,
			fmt.Sprintf("%.0f mm of room for the tool: a drill with its bit wants %.0f (practice).", j.Room, toolRoom),
		)
	}
}

// toolRoom is what a drill with its bit takes in a line with the hole, mm. Practice.
const toolRoom = 250.0

// sealant says what goes into the hole, by whether it must come off again.
func (j Job) sealant(method string) string {
	switch {
	case method == "adhesive":
		return "polyurethane adhesive, or methacrylate for metal"
	case !drilled(method):
		return ""
	case method == "well-nut":
		return "none: the rubber seals"
	case j.Panel.Material == "plastic":
		return "butyl tape: sealants hardly stick to this plastic"
	case j.Comes == "never" && j.Where == "below":
		return "polyurethane sealant, below the water"
	case j.Where == "below":
		return "polysulphide sealant: below the water, and comes off"
	case j.Comes == "never":
		return "hybrid or polyurethane sealant"
	}
	return "butyl tape or polysulphide: it comes off again"
}

// buy lists what is bought for a way, with a spare of what falls overboard.
func (j Job) buy(w Way) []string {
	if !screwed(w.Method) {
		return nil
	}
	n := j.Count
	length := ""
	if w.Screws != nil && w.Screws.Length != nil {
		length = fmt.Sprintf(" x %.0f", *w.Screws.Length)
	}
	list := []string{fmt.Sprintf("%s %s%s, A4, and %d spare", words.HowMany(n, "screw"), j.Size.Name, length, spares(n))}
	switch w.Method {
	case "through-bolt":
		list = append(
			list,
			fmt.Sprintf(
				"%s and %s of %.0f mm, A4, and %d spare of each",
				words.HowMany(n, "self-locking nut"),
				words.HowMany(n, "broad washer"),
				j.Size.Washer,
				spares(n),
			),
		)
	case "plate":
		list = append(
			list,
			fmt.Sprintf("%s, A4, and %d spare", words.HowMany(n, "self-locking nut"), spares(n)),
			fmt.Sprintf(
				"a plate of %.0f x %.0f x %.0f mm, aluminium or glass laminate",
				j.Foot[0],
				j.Foot[1],
				PlateMM(j.Size),
			),
		)
	case "rivet-nut":
		list = append(
			list,
			fmt.Sprintf("%d rivet nuts %s for %.1f mm, and %d spare", n, j.Size.Name, j.Panel.Thickness, spares(n)),
		)
	case "well-nut":
		list = append(
			list,
			fmt.Sprintf("%d well nuts %s for %.1f mm, and %d spare", n, j.Size.Name, j.Panel.Thickness, spares(n)),
		)
	}
	if w.Sealant != "" && w.Method != "well-nut" {
		list = append(list, w.Sealant)
	}
	return list
}

func spares(n int) int { return 1 + n/6 }

// Cautions are what must be said of a job before anyone drills.
func Cautions(j Job) []string {
	var list []string
	if j.Where == "below" {
		list = append(
			list,
			"Below the water: a hole here can sink her. Out of the water only, sealed and looked at again; a yard is cheaper than a boat.",
		)
	}
	for _, n := range j.Near {
		switch n {
		case "tank":
			list = append(
				list,
				"A tank lies behind: no drilling over fuel. Take it out, or mount elsewhere. Vapour burns from a drill's spark.",
			)
		case "foam":
			list = append(
				list,
				"Foam lies behind: it holds water where a hole lets it in, and she floats by it when swamped.",
			)
		}
	}
	if j.Panel.Material == "cored" || j.Panel.Material == "foam" {
		list = append(
			list,
			"A core that gets wet rots or comes loose: seal the hole's inside with resin before anything goes in.",
		)
	}
	if pair := galvanic(j.Metal, j.Panel.Material); pair != "" {
		list = append(list, pair)
	}
	if j.Panel.Material == "laminate" || j.Panel.Material == "cored" {
		list = append(list, "Dust and resin: mask, glasses and gloves; countersink the gel coat so that it does not star.")
	}
	return list
}

// galvanic says where two metals eat each other in salt water.
func galvanic(metal, panel string) string {
	if panel != "aluminium" {
		return ""
	}
	switch metal {
	case "stainless":
		return "Stainless on aluminium: the aluminium is eaten where they touch in salt water. Nylon washers, sleeves and paste between them."
	case "brass":
		return "Brass or copper on aluminium eats it fast in salt water: keep them apart, or take another metal."
	}
	return ""
}
