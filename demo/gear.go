package demo

import (
	"strings"

	"ergasia/app"
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

func (t thing) input() app.GearInput {
	shape := "box"
	if strings.Contains(t.name, " rod ") {
		shape = "rod"
	}
	return app.GearInput{Name: t.name, Shape: shape, Size: app.Vec{t.cm[0] / 100, t.cm[1] / 100, t.cm[2] / 100}, Kg: t.kg, MassKnown: t.known,
		Count: t.count, NeedsDry: t.needsDry, Turn: t.turn, Uses: usesOf(t.name).perDay, UsedFrom: usesOf(t.name).from, Tags: urgent[t.name]}
}

// urgent gear by the tags that say how soon it must be in a hand.
var urgent = map[string][]string{"fire extinguisher": {"extinguisher"}, "throw line": {"throwable"}, "flares, sealed box": {"safety"},
	"first-aid kit": {"safety"}, "grab bag": {"safety"}, "air horn": {"safety"}, "spare drain plugs": {"drain plug"}}

// use is how often a thing is fetched on a day after cod, and from which post.
type use struct {
	perDay *float64
	from   string
}

func usesOf(name string) use {
	for _, u := range uses {
		if u.name == name {
			return use{&u.perDay, u.from}
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
	{"pilk box", 40, "port rail"}, {"jig heads, tray", 25, "port rail"}, {"soft lures, bags", 25, "starboard rail"}, {"spoons, tray", 20, "starboard rail"},
	{"leader spools", 8, "port rail"}, {"sinkers", 6, "port rail"}, {"pike lures, box", 2, "fore deck"}, {"spare reels, case", 0.3, ""},
	{"cod rod 2.1 m", 10, "port rail"}, {"cod rod 2.1 m, second", 8, "starboard rail"}, {"jigging rod 1.9 m", 8, "starboard rail"},
	{"sea trout rod 2.1 m", 5, "fore deck"}, {"spinning rod 2.0 m", 5, "fore deck"}, {"landing net 1.1 m", 8, "port rail"}, {"gaff", 4, "port rail"},
	{"measuring board", 6, "port quarter"}, {"bait bucket", 15, "port quarter"}, {"fillet board and knives", 2, "port quarter"}, {"cooler 25 L", 6, "helm"},
	{"cooler 40 L, iced", 12, "port quarter"}, {"ice, two bags", 2, "port quarter"}, {"fish bin with lid", 8, "port quarter"}, {"thermos and food box", 6, "helm"},
	{"gloves and rags", 12, "port rail"}, {"towels and dry clothes", 3, ""}, {"rain jackets", 2, ""}, {"lifejacket, adult", 2, ""},
	{"handheld radio", 3, "helm"}, {"binoculars", 8, "helm"}, {"chart case", 5, "helm"}, {"camera case", 4, "port rail"}, {"headlamps", 1, ""},
	{"air horn", 0.1, "helm"}, {"flares, sealed box", 0.02, "helm"}, {"first-aid kit", 0.3, ""}, {"fire extinguisher", 0.02, "helm"}, {"grab bag", 0.05, ""},
	{"throw line", 0.1, ""}, {"papers, sealed wallet", 0.1, "helm"}, {"tool roll", 0.5, "helm"}, {"spare propeller", 0.02, "port quarter"},
	{"propeller nuts and wrench", 0.02, "port quarter"}, {"spark plugs and fuses", 0.1, "helm"}, {"jump pack", 0.1, "helm"}, {"hand pump", 0.3, "port quarter"},
	{"spare drain plugs", 0.05, "port quarter"}, {"spare rope, 30 m", 0.2, ""}, {"mooring lines", 4, "port quarter"}, {"fenders", 2, "port quarter"},
	{"bow line", 3, "fore deck"}, {"boat hook", 2, "fore deck"}, {"paddle", 0.1, ""}, {"anchor with chain", 3, "fore deck"}, {"anchor line, flaked", 3, "fore deck"},
	{"drogue", 1, "fore deck"}, {"waders", 0.2, ""}, {"stern lamp", 0.2, "port quarter"}, {"drone case", 0.5, "fore deck"}, {"spare fuel can 10 L", 0.2, "port quarter"},
}

const (
	dry = true
	any = false // may get wet
)

// things are sixty pieces for a day after cod. The heavy cooler goes to the stern
// on purpose, and last: moving it forward is the first thing to do.
var things = []thing{
	{"bait bucket", "S", [3]float64{30, 30, 34}, 6.5, "guess", 1, any, "none", "port quarter"},
	{"mooring lines", "", [3]float64{30, 20, 12}, 3.2, "weighed", 1, any, "any", "starboard quarter"},
	{"fenders", "", [3]float64{40, 16, 16}, 0.9, "catalogue", 2, any, "any", "starboard quarter"},
	{"hand pump", "", [3]float64{42, 8, 8}, 0.9, "catalogue", 1, any, "any", "port quarter"},
	{"spare drain plugs", "", [3]float64{10, 6, 4}, 0.1, "weighed", 2, any, "any", "transom well"},
	{"throw line", "", [3]float64{28, 14, 14}, 0.8, "catalogue", 1, any, "any", "starboard quarter"},

	{"lifejacket, adult", "", [3]float64{36, 20, 10}, 1.1, "catalogue", 5, any, "any", "port bench"},
	{"tool roll", "", [3]float64{34, 14, 9}, 3.4, "weighed", 1, dry, "any", "starboard bench"},
	{"spare propeller", "", [3]float64{34, 34, 12}, 3.8, "weighed", 1, any, "any", "starboard bench"},
	{"propeller nuts and wrench", "", [3]float64{24, 10, 5}, 0.7, "weighed", 1, dry, "any", "starboard bench"},
	{"spark plugs and fuses", "", [3]float64{18, 12, 6}, 0.5, "weighed", 1, dry, "any", "starboard bench"},
	{"jump pack", "", [3]float64{20, 9, 5}, 0.9, "catalogue", 1, dry, "any", "starboard bench"},

	{"rain jackets", "", [3]float64{34, 26, 10}, 2.2, "guess", 1, dry, "any", "helm seat"},
	{"towels and dry clothes", "", [3]float64{34, 28, 14}, 2.6, "guess", 1, dry, "any", "helm seat"},
	{"grab bag", "", [3]float64{34, 22, 20}, 4.1, "weighed", 1, dry, "upright", "helm seat"},

	{"first-aid kit", "", [3]float64{26, 18, 10}, 1.1, "weighed", 1, dry, "any", "console"},
	{"flares, sealed box", "", [3]float64{34, 16, 14}, 1.8, "weighed", 1, dry, "any", "console"},
	{"fire extinguisher", "", [3]float64{14, 14, 38}, 3.6, "plate", 1, any, "any", "console"},
	{"spare rope, 30 m", "", [3]float64{28, 28, 14}, 2.9, "weighed", 1, any, "any", "console"},
	{"camera case", "M", [3]float64{30, 24, 14}, 2.2, "weighed", 1, dry, "any", "console"},
	{"chart case", "I", [3]float64{38, 28, 4}, 0.9, "weighed", 1, dry, "any", "console"},
	{"handheld radio", "I", [3]float64{14, 7, 5}, 0.4, "catalogue", 2, dry, "any", "glove box"},
	{"binoculars", "O", [3]float64{18, 15, 7}, 0.9, "catalogue", 1, dry, "any", "glove box"},
	{"headlamps", "", [3]float64{9, 7, 5}, 0.12, "catalogue", 3, dry, "any", "glove box"},
	{"air horn", "", [3]float64{12, 7, 7}, 0.3, "catalogue", 1, any, "any", "glove box"},
	{"papers, sealed wallet", "", [3]float64{24, 17, 2}, 0.3, "weighed", 1, dry, "any", "glove box"},

	{"gaff", "O", [3]float64{95, 6, 6}, 0.8, "weighed", 1, any, "upright", "port pocket"},
	{"paddle", "", [3]float64{115, 13, 5}, 1.1, "weighed", 1, any, "upright", "port pocket"},
	{"boat hook", "", [3]float64{110, 5, 5}, 0.9, "weighed", 1, any, "upright", "starboard pocket"},
	{"measuring board", "", [3]float64{105, 12, 2}, 1.0, "weighed", 1, any, "upright", "starboard pocket"},

	{"cod rod 2.1 m", "I", [3]float64{214, 8, 6}, 0.9, "weighed", 1, any, "none", "port rod bed"},
	{"cod rod 2.1 m, second", "I", [3]float64{214, 8, 6}, 0.9, "weighed", 1, any, "none", "port rod bed"},
	{"jigging rod 1.9 m", "O", [3]float64{192, 8, 6}, 0.8, "weighed", 1, any, "none", "port rod bed"},
	{"sea trout rod 2.1 m", "M", [3]float64{212, 7, 6}, 0.5, "weighed", 1, any, "none", "starboard rod bed"},
	{"spinning rod 2.0 m", "S", [3]float64{202, 7, 6}, 0.5, "guess", 1, any, "none", "starboard rod bed"},

	{"pilk box", "I", [3]float64{36, 23, 9}, 4.6, "weighed", 1, any, "any", "port fore locker"},
	{"jig heads, tray", "I", [3]float64{28, 19, 5}, 1.4, "weighed", 1, dry, "any", "port fore locker"},
	{"soft lures, bags", "O", [3]float64{30, 22, 10}, 2.1, "guess", 1, dry, "any", "port fore locker"},
	{"leader spools", "", [3]float64{22, 12, 8}, 0.6, "weighed", 1, dry, "any", "port fore locker"},
	{"sinkers", "", [3]float64{24, 16, 7}, 7.5, "weighed", 1, any, "any", "starboard fore locker"},
	{"spare reels, case", "O", [3]float64{34, 24, 14}, 3.1, "weighed", 1, dry, "any", "starboard fore locker"},
	{"pike lures, box", "S", [3]float64{36, 23, 8}, 2.4, "guess", 1, dry, "any", "starboard fore locker"},
	{"drogue", "", [3]float64{32, 22, 12}, 1.9, "catalogue", 1, any, "any", "bow locker"},
	{"bow line", "", [3]float64{24, 20, 8}, 1.4, "weighed", 1, any, "any", "bow locker"},
	{"anchor with chain", "", [3]float64{26, 28, 14}, 11.5, "weighed", 1, any, "none", "anchor well"},
	{"anchor line, flaked", "", [3]float64{26, 26, 12}, 4.2, "weighed", 1, any, "none", "anchor well"},
	{"gloves and rags", "", [3]float64{24, 18, 8}, 0.7, "guess", 1, dry, "any", "step"},

	{"cooler 25 L", "S", [3]float64{44, 32, 34}, 11.2, "guess", 1, any, "upright", ""},
	{"landing net 1.1 m", "", [3]float64{110, 12, 8}, 1.1, "weighed", 1, any, "upright", ""},
	{"spoons, tray", "O", [3]float64{28, 19, 5}, 1.6, "weighed", 1, dry, "any", ""},
	{"waders", "M", [3]float64{44, 34, 12}, 2.6, "guess", 1, any, "any", ""},
	{"thermos and food box", "", [3]float64{36, 24, 26}, 4.0, "guess", 1, dry, "upright", ""},
	{"spare fuel can 10 L", "", [3]float64{32, 18, 34}, 8.9, "weighed", 1, any, "none", ""},
	{"fish bin with lid", "", [3]float64{60, 40, 32}, 3.2, "weighed", 1, any, "upright", ""},
	{"ice, two bags", "", [3]float64{36, 24, 8}, 4.0, "plate", 2, any, "any", ""},
	{"fly rod 2.7 m, one piece", "M", [3]float64{272, 6, 5}, 0.4, "weighed", 1, any, "none", ""},
	{"drone case", "O", [3]float64{34, 26, 14}, 2.7, "weighed", 1, dry, "any", ""},
	{"stern lamp", "", [3]float64{60, 8, 8}, 0.7, "catalogue", 1, dry, "any", ""},
	{"fillet board and knives", "M", [3]float64{52, 24, 5}, 2.3, "weighed", 1, any, "any", ""},
	{"cooler 40 L, iced", "", [3]float64{40, 62, 40}, 38, "weighed", 1, any, "upright", "transom well"},
}
