package fitting

import (
	"slices"
	"strings"

	"ergasia/core/find"
)

// Usual is a fitting as it usually is. Practice: rounded from what is sold; each
// figure is a guess until somebody measures.
type Usual struct {
	Kind    string // of words.FittingKinds
	Name    string
	Size    [3]float64 // m: along where it faces, across, up
	Legs    float64    // m under its body
	Kg      float64
	Stands  string
	Turn    float64 // degrees; of things on a side, as they are to port
	Lean    float64
	Swing   float64 // m
	Rod     float64 // m
	Screen  float64 // m
	Beam    float64 // degrees
	Gripped bool
	Spot    string  // where it usually is: gunwale, transom, bow, sole, helm, roof
	Along   float64 // share of her length from the transom
	Method  string
	Screws  int
	Screw   string     // of its screws
	Foot    [2]float64 // mm
	Pole    *Pole      // what hangs in the water
	words   []string
}

// kmh is a kilometre an hour, m/s.
const kmh = 1 / 3.6

// Usuals are what crews fasten to boats, the likelier meaning of a word first.
var Usuals = []Usual{
	{
		Kind:   "rod-holder",
		Name:   "rod holder",
		Size:   [3]float64{0.06, 0.06, 0.23},
		Kg:     0.5,
		Stands: "down",
		Turn:   120,
		Lean:   30,
		Rod:    2.1,
		Spot:   "gunwale",
		Along:  0.25,
		Method: "through-bolt",
		Screws: 3,
		Screw:  "M6",
		Foot:   [2]float64{100, 80},
		words:  []string{"rod holder", "rodholder", "rod holders", "holder", "holders"},
	},
	{
		Kind:    "pedestal",
		Name:    "seat pedestal",
		Size:    [3]float64{0.23, 0.23, 0.4},
		Kg:      4,
		Stands:  "up",
		Gripped: true,
		Spot:    "sole",
		Along:   0.6,
		Method:  "through-bolt",
		Screws:  4,
		Screw:   "M8",
		Foot:    [2]float64{180, 180},
		words:   []string{"pedestal", "pedestals", "seat post"},
	},
	{
		Kind:    "seat",
		Name:    "seat",
		Size:    [3]float64{0.5, 0.45, 0.5},
		Kg:      6,
		Stands:  "up",
		Swing:   0.36,
		Gripped: true,
		Spot:    "seat",
		Along:   0.6,
		Method:  "through-bolt",
		Screws:  4,
		Screw:   "M6",
		Foot:    [2]float64{130, 130},
		words:   []string{"seat", "seats", "chair"},
	},
	{
		Kind:   "transducer",
		Name:   "transducer, transom",
		Size:   [3]float64{0.13, 0.05, 0.1},
		Kg:     0.6,
		Stands: "out",
		Turn:   180,
		Spot:   "transom",
		Method: "self-tapper",
		Screws: 3,
		Screw:  "M5",
		Foot:   [2]float64{60, 60},
		words:  []string{"transducer", "transducers", "sounder head"},
	},
	{
		Kind:   "display",
		Name:   "display, 9 in",
		Size:   [3]float64{0.07, 0.27, 0.17},
		Kg:     1.6,
		Stands: "up",
		Turn:   180,
		Lean:   -10,
		Screen: 0.229,
		Spot:   "helm",
		Method: "through-bolt",
		Screws: 4,
		Screw:  "M5",
		Foot:   [2]float64{110, 70},
		words:  []string{"display", "displays", "plotter", "screen", "sounder", "chartplotter"},
	},
	{
		Kind:   "bow-motor",
		Name:   "bow motor",
		Size:   [3]float64{0.75, 0.25, 0.22},
		Kg:     22,
		Stands: "up",
		Turn:   180,
		Spot:   "bow",
		Method: "through-bolt",
		Screws: 6,
		Screw:  "M6",
		Foot:   [2]float64{400, 150},
		Pole:   &Pole{Wet: 0.6, Diameter: 0.028, ClampToWater: 0.6, FootArea: 0.012, Speed: 8 * kmh},
		words:  []string{"bow motor", "trolling motor", "electric motor"},
	},
	{
		Kind:   "pole",
		Name:   "sonar pole",
		Size:   [3]float64{0.06, 0.06, 1.4},
		Kg:     2.5,
		Stands: "up",
		Spot:   "gunwale",
		Along:  0.35,
		Method: "clamp",
		Screws: 4,
		Screw:  "M6",
		Foot:   [2]float64{100, 80},
		Pole:   &Pole{Wet: 0.4, Diameter: 0.032, ClampToWater: 0.5, FootArea: 0.008, Speed: 8 * kmh, Holds: 25},
		words:  []string{"sonar pole", "scanning pole", "transducer pole", "pole mount"},
	},
	{
		Kind:   "anchor",
		Name:   "shallow-water anchor",
		Size:   [3]float64{0.25, 0.2, 1.3},
		Kg:     16,
		Stands: "up",
		Turn:   180,
		Spot:   "transom",
		Method: "through-bolt",
		Screws: 4,
		Screw:  "M8",
		Foot:   [2]float64{200, 150},
		words:  []string{"shallow-water anchor", "shallow water anchor", "stick anchor", "spud"},
	},
	{
		Kind:   "anchor",
		Name:   "bow roller with anchor",
		Size:   [3]float64{0.6, 0.3, 0.15},
		Kg:     9,
		Stands: "up",
		Spot:   "bow",
		Method: "through-bolt",
		Screws: 4,
		Screw:  "M8",
		Foot:   [2]float64{250, 70},
		words:  []string{"anchor roller", "bow roller", "anchor"},
	},
	{
		Kind:   "windlass",
		Name:   "windlass",
		Size:   [3]float64{0.25, 0.2, 0.2},
		Kg:     9,
		Stands: "up",
		Spot:   "bow",
		Method: "plate",
		Screws: 4,
		Screw:  "M8",
		Foot:   [2]float64{160, 120},
		words:  []string{"windlass", "anchor winch"},
	},
	{
		Kind:    "cleat",
		Name:    "cleat, 20 cm",
		Size:    [3]float64{0.2, 0.06, 0.05},
		Kg:      0.5,
		Stands:  "up",
		Gripped: true,
		Spot:    "gunwale",
		Along:   0.08,
		Method:  "plate",
		Screws:  4,
		Screw:   "M8",
		Foot:    [2]float64{75, 45},
		words:   []string{"cleat", "cleats", "bollard"},
	},
	{
		Kind:   "track",
		Name:   "track, 60 cm",
		Size:   [3]float64{0.6, 0.03, 0.02},
		Kg:     0.6,
		Stands: "up",
		Spot:   "gunwale",
		Along:  0.4,
		Method: "through-bolt",
		Screws: 6,
		Screw:  "M5",
		Foot:   [2]float64{600, 30},
		words:  []string{"track", "tracks", "rail track", "slide"},
	},
	{
		Kind:   "light",
		Name:   "navigation light",
		Size:   [3]float64{0.08, 0.06, 0.06},
		Kg:     0.3,
		Stands: "up",
		Beam:   112,
		Spot:   "bow",
		Method: "self-tapper",
		Screws: 2,
		Screw:  "M4",
		Foot:   [2]float64{60, 40},
		words:  []string{"navigation light", "nav light", "side light", "bow light"},
	},
	{
		Kind:   "light",
		Name:   "stern light on a pole",
		Size:   [3]float64{0.05, 0.05, 1.1},
		Kg:     0.6,
		Stands: "up",
		Turn:   180,
		Spot:   "stern",
		Method: "through-bolt",
		Screws: 3,
		Screw:  "M5",
		Foot:   [2]float64{60, 60},
		words:  []string{"stern light", "all-round light", "anchor light"},
	},
	{
		Kind:   "light",
		Name:   "work lamp",
		Size:   [3]float64{0.06, 0.12, 0.1},
		Kg:     0.5,
		Stands: "up",
		Beam:   60,
		Spot:   "bow",
		Method: "through-bolt",
		Screws: 1,
		Screw:  "M8",
		Foot:   [2]float64{50, 50},
		words:  []string{"light", "lamp", "spotlight", "flood light", "floodlight", "headlight", "lights"},
	},
	{
		Kind:   "antenna",
		Name:   "antenna, 1.8 m",
		Size:   [3]float64{0.04, 0.04, 1.8},
		Kg:     0.9,
		Stands: "up",
		Spot:   "gunwale",
		Along:  0.45,
		Method: "through-bolt",
		Screws: 4,
		Screw:  "M5",
		Foot:   [2]float64{70, 50},
		words:  []string{"antenna", "aerial", "radio antenna", "whip"},
	},
	{
		Kind:   "pump",
		Name:   "bilge pump",
		Size:   [3]float64{0.11, 0.11, 0.14},
		Kg:     0.6,
		Stands: "up",
		Spot:   "bilge",
		Method: "adhesive",
		Screws: 3,
		Screw:  "M4",
		Foot:   [2]float64{100, 100},
		words:  []string{"pump", "bilge pump", "pumps"},
	},
	{
		Kind:   "strut",
		Name:   "lid strut",
		Size:   [3]float64{0.03, 0.03, 0.3},
		Kg:     0.3,
		Stands: "up",
		Spot:   "sole",
		Along:  0.5,
		Method: "self-tapper",
		Screws: 2,
		Screw:  "M5",
		Foot:   [2]float64{40, 30},
		words:  []string{"strut", "lid strut", "gas strut", "struts"},
	},
	{
		Kind:    "tie-down",
		Name:    "tie-down",
		Size:    [3]float64{0.06, 0.04, 0.03},
		Kg:      0.2,
		Stands:  "up",
		Gripped: true,
		Spot:    "sole",
		Along:   0.3,
		Method:  "through-bolt",
		Screws:  2,
		Screw:   "M6",
		Foot:    [2]float64{60, 25},
		words:   []string{"tie-down", "tie down", "pad eye", "padeye", "d-ring", "lashing eye", "strap eye"},
	},
	{
		Kind:   "hook",
		Name:   "hook",
		Size:   [3]float64{0.05, 0.03, 0.08},
		Kg:     0.1,
		Stands: "out",
		Turn:   -90,
		Spot:   "gunwale",
		Along:  0.4,
		Method: "through-bolt",
		Screws: 2,
		Screw:  "M5",
		Foot:   [2]float64{25, 60},
		words:  []string{"hook", "hooks", "net hook", "hanger"},
	},
	{
		Kind:    "control",
		Name:    "throttle lever",
		Size:    [3]float64{0.15, 0.1, 0.22},
		Kg:      2.5,
		Stands:  "up",
		Gripped: true,
		Spot:    "helm",
		Method:  "through-bolt",
		Screws:  4,
		Screw:   "M6",
		Foot:    [2]float64{120, 90},
		words:   []string{"throttle", "control", "lever", "wheel", "switch panel", "switches", "panel", "switch"},
	},
	{
		Kind:    "rail",
		Name:    "grab rail",
		Size:    [3]float64{0.9, 0.03, 0.25},
		Kg:      2,
		Stands:  "up",
		Gripped: true,
		Spot:    "gunwale",
		Along:   0.75,
		Method:  "through-bolt",
		Screws:  6,
		Screw:   "M6",
		Foot:    [2]float64{900, 60},
		words:   []string{"rail", "grab rail", "handrail", "grab handle", "handle", "pulpit"},
	},
	{
		Kind:    "roof",
		Name:    "roof",
		Size:    [3]float64{1.4, 1.3, 0.06},
		Legs:    1.9,
		Kg:      28,
		Stands:  "up",
		Gripped: true,
		Spot:    "roof",
		Method:  "plate",
		Screws:  8,
		Screw:   "M8",
		Foot:    [2]float64{1300, 1200},
		words:   []string{"roof", "hard top", "hardtop", "t-top", "canopy", "bimini"},
	},
	{
		Kind:    "other",
		Name:    "poling platform",
		Size:    [3]float64{0.6, 0.7, 0.05},
		Legs:    0.6,
		Kg:      14,
		Stands:  "up",
		Gripped: true,
		Spot:    "stern",
		Method:  "plate",
		Screws:  8,
		Screw:   "M8",
		Foot:    [2]float64{600, 700},
		words:   []string{"platform", "poling platform"},
	},
	{
		Kind:   "other",
		Name:   "something the size of a fist",
		Size:   [3]float64{0.1, 0.1, 0.1},
		Kg:     0.5,
		Stands: "up",
		Spot:   "gunwale",
		Along:  0.5,
		Method: "through-bolt",
		Screws: 4,
		Screw:  "M6",
		Foot:   [2]float64{80, 60},
	},
}

// UsualNamed finds the usual fitting that a name speaks of, by the longest of its
// words that the name has; the last one where it speaks of none, and false.
func UsualNamed(name string) (Usual, bool) {
	said := " " + strings.Join(find.Words(name), " ") + " "
	best, longest := Usuals[len(Usuals)-1], 0
	for _, u := range Usuals {
		for _, w := range u.words {
			plain := " " + strings.Join(find.Words(w), " ") + " "
			if len(plain) > longest && strings.Contains(said, plain) {
				best, longest = u, len(plain)
			}
		}
	}
	return best, longest > 0
}

// UsualOf is the first usual fitting of a kind.
func UsualOf(kind string) Usual {
	i := slices.IndexFunc(Usuals, func(u Usual) bool { return u.Kind == kind })
	if i < 0 {
		i = len(Usuals) - 1
	}
	return Usuals[i]
}
