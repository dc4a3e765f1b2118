package demo

import (
	"strings"

	"ergasia/app/gear"
	"ergasia/store/model"
)

// thing is a row of the gear list. Sizes in centimetres, as a crew would say.
type thing struct {
	name     string
	owner    string // mark; empty is the crew's
	cm       [3]float64
	kg       float64
	known    string
	count    int
	needsDry bool
	turn     string
	place    string // empty is the quay
}

func (t thing) input() gear.GearInput {
	shape := "box"
	if strings.Contains(t.name, " rod ") {
		shape = "rod"
	}
	return gear.GearInput{Name: t.name, Shape: shape, Size: model.Vec{t.cm[0] / 100, t.cm[1] / 100, t.cm[2] / 100},
		Kg: t.kg, MassKnown: t.known,
		Count: t.count, NeedsDry: t.needsDry, Turn: t.turn, Uses: usesOf(t.name).perDay, UsedFrom: usesOf(t.name).from,
		Tags: urgent[t.name]}
}

// urgent gear by the tags that say how soon it must be in a hand.
var urgent = map[string][]string{"fire extinguisher": {"extinguisher"}, "throw line": {"throwable"},
	"flares, sealed box": {"safety"},
	"first-aid kit":      {"safety"}, "grab bag": {"safety"}, "air horn": {"safety"}, "spare drain plugs": {"drain plug"}}

// use is how often a thing is fetched on a day after cod, and from which post.
type use struct {
	perDay *float64
	from   string
}

func usesOf(name string) use {
	for _, u := range uses {
		if u.name == name {
			return use{perDay: &u.perDay, from: u.from}
		}
	}
	return use{}
}

// uses a day; what is not listed is fetched once.
var uses = []struct {
	name   string
	perDay float64
	from   string
}{
	{"pilk box", 40, "port rail"}, {"jig heads, tray", 25, "port rail"}, {"soft lures, bags", 25, "starboard rail"},
	{"spoons, tray", 20, "starboard rail"},
	{"leader spools", 8, "port rail"}, {"sinkers", 6, "port rail"}, {"pike lures, box", 2, "fore deck"},
	{"spare reels, case", 0.3, ""},
	{"cod rod 2.1 m", 10, "port rail"}, {"cod rod 2.1 m, second", 8, "starboard rail"},
	{"jigging rod 1.9 m", 8, "starboard rail"},
	{"sea trout rod 2.1 m", 5, "fore deck"}, {"spinning rod 2.0 m", 5, "fore deck"},
	{"landing net 1.1 m", 8, "port rail"}, {"gaff", 4, "port rail"},
	{"measuring board", 6, "port quarter"}, {"bait bucket", 15, "port quarter"}, {"fillet board and knives", 2,
		"port quarter"}, {"cooler 25 L", 6, "helm"},
	{"cooler 40 L, iced", 12, "port quarter"}, {"ice, two bags", 2, "port quarter"},
	{"fish bin with lid", 8, "port quarter"}, {"thermos and food box", 6, "helm"},
	{"gloves and rags", 12, "port rail"}, {"towels and dry clothes", 3, ""}, {"rain jackets", 2, ""},
	{"lifejacket, adult", 2, ""},
	{"handheld radio", 3, "helm"}, {"binoculars", 8, "helm"}, {"chart case", 5, "helm"}, {"camera case", 4, "port rail"},
	{"headlamps", 1, ""},
	{"air horn", 0.1, "helm"}, {"flares, sealed box", 0.02, "helm"}, {"first-aid kit", 0.3, ""},
	{"fire extinguisher", 0.02, "helm"}, {"grab bag", 0.05, ""},
	{"throw line", 0.1, ""}, {"papers, sealed wallet", 0.1, "helm"}, {"tool roll", 0.5, "helm"},
	{"spare propeller", 0.02, "port quarter"},
	{"propeller nuts and wrench", 0.02, "port quarter"}, {"spark plugs and fuses", 0.1, "helm"},
	{"jump pack", 0.1, "helm"}, {"hand pump", 0.3, "port quarter"},
	{"spare drain plugs", 0.05, "port quarter"}, {"spare rope, 30 m", 0.2, ""}, {"mooring lines", 4, "port quarter"},
	{"fenders", 2, "port quarter"},
	{"bow line", 3, "fore deck"}, {"boat hook", 2, "fore deck"}, {"paddle", 0.1, ""},
	{"anchor with chain", 3, "fore deck"}, {"anchor line, flaked", 3, "fore deck"},
	{"drogue", 1, "fore deck"}, {"waders", 0.2, ""}, {"stern lamp", 0.2, "port quarter"},
	{"drone case", 0.5, "fore deck"}, {"spare fuel can 10 L", 0.2, "port quarter"},
}

const (
	dry = true
	any = false // may get wet
)

// things are sixty pieces for a day after cod. The heavy cooler goes to the stern
// on purpose, and last: moving it forward is the first thing to do.
var things = []thing{
	{name: "bait bucket", owner: "S", cm: [3]float64{30, 30, 34}, kg: 6.5, known: "guess", count: 1, needsDry: any,
		turn: "none", place: "port quarter"},
	{name: "mooring lines", owner: "", cm: [3]float64{30, 20, 12}, kg: 3.2, known: "weighed", count: 1, needsDry: any,
		turn: "any", place: "starboard quarter"},
	{name: "fenders", owner: "", cm: [3]float64{40, 16, 16}, kg: 0.9, known: "catalogue", count: 2, needsDry: any,
		turn: "any", place: "starboard quarter"},
	{name: "hand pump", owner: "", cm: [3]float64{42, 8, 8}, kg: 0.9, known: "catalogue", count: 1, needsDry: any,
		turn: "any", place: "port quarter"},
	{name: "spare drain plugs", owner: "", cm: [3]float64{10, 6, 4}, kg: 0.1, known: "weighed", count: 2, needsDry: any,
		turn: "any", place: "transom well"},
	{name: "throw line", owner: "", cm: [3]float64{28, 14, 14}, kg: 0.8, known: "catalogue", count: 1, needsDry: any,
		turn: "any", place: "starboard quarter"},

	{name: "lifejacket, adult", owner: "", cm: [3]float64{36, 20, 10}, kg: 1.1, known: "catalogue", count: 5,
		needsDry: any, turn: "any", place: "port bench"},
	{name: "tool roll", owner: "", cm: [3]float64{34, 14, 9}, kg: 3.4, known: "weighed", count: 1, needsDry: dry,
		turn: "any", place: "starboard bench"},
	{name: "spare propeller", owner: "", cm: [3]float64{34, 34, 12}, kg: 3.8, known: "weighed", count: 1, needsDry: any,
		turn: "any", place: "starboard bench"},
	{name: "propeller nuts and wrench", owner: "", cm: [3]float64{24, 10, 5}, kg: 0.7, known: "weighed", count: 1,
		needsDry: dry, turn: "any", place: "starboard bench"},
	{name: "spark plugs and fuses", owner: "", cm: [3]float64{18, 12, 6}, kg: 0.5, known: "weighed", count: 1,
		needsDry: dry, turn: "any", place: "starboard bench"},
	{name: "jump pack", owner: "", cm: [3]float64{20, 9, 5}, kg: 0.9, known: "catalogue", count: 1, needsDry: dry,
		turn: "any", place: "starboard bench"},

	{name: "rain jackets", owner: "", cm: [3]float64{34, 26, 10}, kg: 2.2, known: "guess", count: 1, needsDry: dry,
		turn: "any", place: "helm seat"},
	{name: "towels and dry clothes", owner: "", cm: [3]float64{34, 28, 14}, kg: 2.6, known: "guess", count: 1,
		needsDry: dry, turn: "any", place: "helm seat"},
	{name: "grab bag", owner: "", cm: [3]float64{34, 22, 20}, kg: 4.1, known: "weighed", count: 1, needsDry: dry,
		turn: "upright", place: "helm seat"},

	{name: "first-aid kit", owner: "", cm: [3]float64{26, 18, 10}, kg: 1.1, known: "weighed", count: 1, needsDry: dry,
		turn: "any", place: "console"},
	{name: "flares, sealed box", owner: "", cm: [3]float64{34, 16, 14}, kg: 1.8, known: "weighed", count: 1,
		needsDry: dry, turn: "any", place: "console"},
	{name: "fire extinguisher", owner: "", cm: [3]float64{14, 14, 38}, kg: 3.6, known: "plate", count: 1, needsDry: any,
		turn: "any", place: "console"},
	{name: "spare rope, 30 m", owner: "", cm: [3]float64{28, 28, 14}, kg: 2.9, known: "weighed", count: 1, needsDry: any,
		turn: "any", place: "console"},
	{name: "camera case", owner: "M", cm: [3]float64{30, 24, 14}, kg: 2.2, known: "weighed", count: 1, needsDry: dry,
		turn: "any", place: "console"},
	{name: "chart case", owner: "I", cm: [3]float64{38, 28, 4}, kg: 0.9, known: "weighed", count: 1, needsDry: dry,
		turn: "any", place: "console"},
	{name: "handheld radio", owner: "I", cm: [3]float64{14, 7, 5}, kg: 0.4, known: "catalogue", count: 2, needsDry: dry,
		turn: "any", place: "glove box"},
	{name: "binoculars", owner: "O", cm: [3]float64{18, 15, 7}, kg: 0.9, known: "catalogue", count: 1, needsDry: dry,
		turn: "any", place: "glove box"},
	{name: "headlamps", owner: "", cm: [3]float64{9, 7, 5}, kg: 0.12, known: "catalogue", count: 3, needsDry: dry,
		turn: "any", place: "glove box"},
	{name: "air horn", owner: "", cm: [3]float64{12, 7, 7}, kg: 0.3, known: "catalogue", count: 1, needsDry: any,
		turn: "any", place: "glove box"},
	{name: "papers, sealed wallet", owner: "", cm: [3]float64{24, 17, 2}, kg: 0.3, known: "weighed", count: 1,
		needsDry: dry, turn: "any", place: "glove box"},

	{name: "gaff", owner: "O", cm: [3]float64{95, 6, 6}, kg: 0.8, known: "weighed", count: 1, needsDry: any,
		turn: "upright", place: "port pocket"},
	{name: "paddle", owner: "", cm: [3]float64{115, 13, 5}, kg: 1.1, known: "weighed", count: 1, needsDry: any,
		turn: "upright", place: "port pocket"},
	{name: "boat hook", owner: "", cm: [3]float64{110, 5, 5}, kg: 0.9, known: "weighed", count: 1, needsDry: any,
		turn: "upright", place: "starboard pocket"},
	{name: "measuring board", owner: "", cm: [3]float64{105, 12, 2}, kg: 1.0, known: "weighed", count: 1, needsDry: any,
		turn: "upright", place: "starboard pocket"},

	{name: "cod rod 2.1 m", owner: "I", cm: [3]float64{214, 8, 6}, kg: 0.9, known: "weighed", count: 1, needsDry: any,
		turn: "none", place: "port rod bed"},
	{name: "cod rod 2.1 m, second", owner: "I", cm: [3]float64{214, 8, 6}, kg: 0.9, known: "weighed", count: 1,
		needsDry: any, turn: "none", place: "port rod bed"},
	{name: "jigging rod 1.9 m", owner: "O", cm: [3]float64{192, 8, 6}, kg: 0.8, known: "weighed", count: 1, needsDry: any,
		turn: "none", place: "port rod bed"},
	{name: "sea trout rod 2.1 m", owner: "M", cm: [3]float64{212, 7, 6}, kg: 0.5, known: "weighed", count: 1,
		needsDry: any, turn: "none", place: "starboard rod bed"},
	{name: "spinning rod 2.0 m", owner: "S", cm: [3]float64{202, 7, 6}, kg: 0.5, known: "guess", count: 1, needsDry: any,
		turn: "none", place: "starboard rod bed"},

	{name: "pilk box", owner: "I", cm: [3]float64{36, 23, 9}, kg: 4.6, known: "weighed", count: 1, needsDry: any,
		turn: "any", place: "port fore locker"},
	{name: "jig heads, tray", owner: "I", cm: [3]float64{28, 19, 5}, kg: 1.4, known: "weighed", count: 1, needsDry: dry,
		turn: "any", place: "port fore locker"},
	{name: "soft lures, bags", owner: "O", cm: [3]float64{30, 22, 10}, kg: 2.1, known: "guess", count: 1, needsDry: dry,
		turn: "any", place: "port fore locker"},
	{name: "leader spools", owner: "", cm: [3]float64{22, 12, 8}, kg: 0.6, known: "weighed", count: 1, needsDry: dry,
		turn: "any", place: "port fore locker"},
	{name: "sinkers", owner: "", cm: [3]float64{24, 16, 7}, kg: 7.5, known: "weighed", count: 1, needsDry: any,
		turn: "any", place: "starboard fore locker"},
	{name: "spare reels, case", owner: "O", cm: [3]float64{34, 24, 14}, kg: 3.1, known: "weighed", count: 1,
		needsDry: dry, turn: "any", place: "starboard fore locker"},
	{name: "pike lures, box", owner: "S", cm: [3]float64{36, 23, 8}, kg: 2.4, known: "guess", count: 1, needsDry: dry,
		turn: "any", place: "starboard fore locker"},
	{name: "drogue", owner: "", cm: [3]float64{32, 22, 12}, kg: 1.9, known: "catalogue", count: 1, needsDry: any,
		turn: "any", place: "bow locker"},
	{name: "bow line", owner: "", cm: [3]float64{24, 20, 8}, kg: 1.4, known: "weighed", count: 1, needsDry: any,
		turn: "any", place: "bow locker"},
	{name: "anchor with chain", owner: "", cm: [3]float64{26, 28, 14}, kg: 11.5, known: "weighed", count: 1,
		needsDry: any, turn: "none", place: "anchor well"},
	{name: "anchor line, flaked", owner: "", cm: [3]float64{26, 26, 12}, kg: 4.2, known: "weighed", count: 1,
		needsDry: any, turn: "none", place: "anchor well"},
	{name: "gloves and rags", owner: "", cm: [3]float64{24, 18, 8}, kg: 0.7, known: "guess", count: 1, needsDry: dry,
		turn: "any", place: "step"},

	{name: "cooler 25 L", owner: "S", cm: [3]float64{44, 32, 34}, kg: 11.2, known: "guess", count: 1, needsDry: any,
		turn: "upright", place: ""},
	{name: "landing net 1.1 m", owner: "", cm: [3]float64{110, 12, 8}, kg: 1.1, known: "weighed", count: 1, needsDry: any,
		turn: "upright", place: ""},
	{name: "spoons, tray", owner: "O", cm: [3]float64{28, 19, 5}, kg: 1.6, known: "weighed", count: 1, needsDry: dry,
		turn: "any", place: ""},
	{name: "waders", owner: "M", cm: [3]float64{44, 34, 12}, kg: 2.6, known: "guess", count: 1, needsDry: any,
		turn: "any", place: ""},
	{name: "thermos and food box", owner: "", cm: [3]float64{36, 24, 26}, kg: 4.0, known: "guess", count: 1,
		needsDry: dry, turn: "upright", place: ""},
	{name: "spare fuel can 10 L", owner: "", cm: [3]float64{32, 18, 34}, kg: 8.9, known: "weighed", count: 1,
		needsDry: any, turn: "none", place: ""},
	{name: "fish bin with lid", owner: "", cm: [3]float64{60, 40, 32}, kg: 3.2, known: "weighed", count: 1, needsDry: any,
		turn: "upright", place: ""},
	{name: "ice, two bags", owner: "", cm: [3]float64{36, 24, 8}, kg: 4.0, known: "plate", count: 2, needsDry: any,
		turn: "any", place: ""},
	{name: "fly rod 2.7 m, one piece", owner: "M", cm: [3]float64{272, 6, 5}, kg: 0.4, known: "weighed", count: 1,
		needsDry: any, turn: "none", place: ""},
	{name: "drone case", owner: "O", cm: [3]float64{34, 26, 14}, kg: 2.7, known: "weighed", count: 1, needsDry: dry,
		turn: "any", place: ""},
	{name: "stern lamp", owner: "", cm: [3]float64{60, 8, 8}, kg: 0.7, known: "catalogue", count: 1, needsDry: dry,
		turn: "any", place: ""},
	{name: "fillet board and knives", owner: "M", cm: [3]float64{52, 24, 5}, kg: 2.3, known: "weighed", count: 1,
		needsDry: any, turn: "any", place: ""},
	{name: "cooler 40 L, iced", owner: "", cm: [3]float64{40, 62, 40}, kg: 38, known: "weighed", count: 1, needsDry: any,
		turn: "upright", place: "transom well"},
}
