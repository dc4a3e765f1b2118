package entry

import (
	"slices"
	"strings"

	"ergasia/core/find"
)

// Template is a usual thing with a typical size and mass. All of them are
// practice, no source: they are guesses until someone measures or weighs.
type Template struct {
	Name     string
	words    []string   // any of which, in a name, calls for it
	Size     [3]float64 // m
	Kg       float64
	Shape    string
	NeedsDry bool
	Metal    bool
	Fragile  bool
	Buoyant  bool
	Hazards  []string
	Inside   [3]float64 // m; nought where it holds nothing
	long     bool       // its size is scaled by its length alone
}

// Templates are the usual things, by name.
var Templates = []Template{
	{Name: "rod, 2.1 m", long: true, words: []string{"rod", "rods"}, Size: [3]float64{2.1, 0.08, 0.06}, Kg: 0.6, Shape: "rod",
		Fragile: true},
	{Name: "lure tray", words: []string{"tray", "trays"}, Size: [3]float64{0.28, 0.19, 0.05}, Kg: 1.3, Shape: "box",
		NeedsDry: true, Metal: true, Inside: [3]float64{0.27, 0.18, 0.045}},
	{Name: "tackle box", words: []string{"box", "boxes", "tackle"}, Size: [3]float64{0.36, 0.23, 0.10}, Kg: 2.5,
		Shape: "box", NeedsDry: true, Inside: [3]float64{0.35, 0.22, 0.09}},
	{Name: "crate", words: []string{"crate", "bin", "tub"}, Size: [3]float64{0.6, 0.4, 0.3}, Kg: 2.2, Shape: "box",
		Inside: [3]float64{0.56, 0.36, 0.28}},
	{Name: "dry box", words: []string{"drybox"}, Size: [3]float64{0.32, 0.24, 0.16}, Kg: 1.4, Shape: "box",
		Inside: [3]float64{0.29, 0.21, 0.14}},
	{Name: "bag", words: []string{"bag", "bags", "pouch"}, Size: [3]float64{0.35, 0.25, 0.12}, Kg: 0.8, Shape: "soft"},
	{Name: "landing net", words: []string{"net", "nets"}, Size: [3]float64{1.1, 0.5, 0.08}, Kg: 1.1, Shape: "box"},
	{Name: "lifejacket", words: []string{"lifejacket", "lifejackets", "vest", "vests", "jacket", "jackets"},
		Size: [3]float64{0.36, 0.2, 0.1}, Kg: 1.1, Shape: "soft", Buoyant: true},
	{Name: "anchor", words: []string{"anchor"}, Size: [3]float64{0.55, 0.3, 0.14}, Kg: 7.5, Shape: "box", Metal: true},
	{Name: "rope, 30 m", words: []string{"rope", "line", "lines", "warp"}, Size: [3]float64{0.28, 0.24, 0.12}, Kg: 2.6,
		Shape: "soft"},
	{Name: "reel", words: []string{"reel", "reels"}, Size: [3]float64{0.14, 0.12, 0.1}, Kg: 0.4, Shape: "box",
		Fragile: true},
	{Name: "cooler, 25 L", words: []string{"cooler", "coolbox"}, Size: [3]float64{0.44, 0.32, 0.34}, Kg: 5, Shape: "box",
		Inside: [3]float64{0.36, 0.25, 0.27}},
	{Name: "bucket", words: []string{"bucket", "pail"}, Size: [3]float64{0.3, 0.3, 0.3}, Kg: 0.9, Shape: "box",
		Inside: [3]float64{0.25, 0.25, 0.28}},
	{Name: "fuel can, 10 L, full", words: []string{"can", "jerrycan", "fuel"}, Size: [3]float64{0.32, 0.18, 0.34},
		Kg: 8.6, Shape: "box", Hazards: []string{"fuel"}},
	{Name: "battery, 80 Ah", words: []string{"battery", "batteries"}, Size: [3]float64{0.28, 0.18, 0.19}, Kg: 21,
		Shape: "box", Hazards: []string{"lead-acid"}},
	{Name: "flares", words: []string{"flare", "flares"}, Size: [3]float64{0.3, 0.1, 0.08}, Kg: 1.2, Shape: "box",
		NeedsDry: true, Hazards: []string{"flares"}},
	{Name: "fire extinguisher, 2 kg", words: []string{"extinguisher"}, Size: [3]float64{0.38, 0.14, 0.14}, Kg: 3.6,
		Shape: "box", Metal: true},
	{Name: "first-aid kit", words: []string{"aid"}, Size: [3]float64{0.26, 0.18, 0.1}, Kg: 1.1, Shape: "soft",
		NeedsDry: true},
	{Name: "radio, handheld", words: []string{"radio", "vhf"}, Size: [3]float64{0.14, 0.07, 0.05}, Kg: 0.35, Shape: "box",
		NeedsDry: true, Hazards: []string{"magnet"}},
	{Name: "headlamp", words: []string{"headlamp", "headlamps", "torch", "lamp"}, Size: [3]float64{0.09, 0.07, 0.05},
		Kg: 0.12, Shape: "box", NeedsDry: true},
	{Name: "paddle", long: true, words: []string{"paddle", "oar"}, Size: [3]float64{1.4, 0.18, 0.06}, Kg: 1.1, Shape: "box",
		Buoyant: true},
	{Name: "boat hook", long: true, words: []string{"hook"}, Size: [3]float64{1.2, 0.06, 0.05}, Kg: 0.9, Shape: "box"},
	{Name: "gaff", long: true, words: []string{"gaff"}, Size: [3]float64{0.95, 0.08, 0.06}, Kg: 0.8, Shape: "box", Metal: true,
		Hazards: []string{"sharp"}},
	{Name: "fender", words: []string{"fender", "fenders"}, Size: [3]float64{0.45, 0.15, 0.15}, Kg: 0.7, Shape: "soft",
		Buoyant: true},
	{Name: "tool roll", words: []string{"tool", "tools", "toolbox"}, Size: [3]float64{0.34, 0.14, 0.09}, Kg: 3,
		Shape: "box", NeedsDry: true, Metal: true},
	{Name: "waders", words: []string{"wader", "waders"}, Size: [3]float64{0.44, 0.34, 0.12}, Kg: 2.6, Shape: "soft"},
	{Name: "thermos", words: []string{"thermos", "flask"}, Size: [3]float64{0.3, 0.1, 0.1}, Kg: 1.5, Shape: "box"},
	{Name: "jig heads, a bag", words: []string{"jigs", "heads", "sinkers", "weights"}, Size: [3]float64{0.15, 0.1, 0.05},
		Kg: 1, Shape: "loose", Metal: true},
	{Name: "soft lures, a bag", words: []string{"lures", "shads", "baits"}, Size: [3]float64{0.22, 0.16, 0.04}, Kg: 0.35,
		Shape: "soft"},
	{Name: "propeller", words: []string{"propeller", "prop"}, Size: [3]float64{0.34, 0.34, 0.14}, Kg: 3.5, Shape: "box",
		Metal: true},
	{Name: "cushion", words: []string{"cushion", "throwable"}, Size: [3]float64{0.4, 0.4, 0.08}, Kg: 0.7, Shape: "soft",
		Buoyant: true},
}

// fallback is what a thing is taken to be when nothing is known of it.
var fallback = Template{Name: "something the size of a shoe box", Size: [3]float64{0.3, 0.2, 0.12}, Kg: 1, Shape: "box"}

// template finds the usual thing that a name speaks of: its last word that one
// knows, since the last word of a name says what a thing is ("net bag" is a bag).
func template(name string) (Template, bool) {
	words := find.Words(strings.SplitN(name, ",", 2)[0], "")
	if len(words) > 0 && slices.Contains(holders, words[len(words)-1]) {
		return fallback, false
	}
	for _, w := range slices.Backward(words) {
		for _, t := range Templates {
			if slices.Contains(t.words, w) || slices.Contains(t.words, strings.TrimSuffix(w, "s")) {
				return t, true
			}
		}
	}
	return fallback, false
}

// holders are for the thing that the word before them names, and not that thing.
var holders = []string{"holder", "holders", "cover", "covers", "sleeve", "sleeves", "strap", "straps", "rack", "racks", "mount",
	"mounts", "clip", "clips", "charger", "handle"}
