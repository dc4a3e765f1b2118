package demo

import (
	"ergasia/app/gear"
	"ergasia/app/trips"
)

// outing is a trip, its first day in days from the day the demo is loaded.
type outing struct {
	name, water, boat string
	in, days          int
	persons, rods     int
	hours             float64
	nautical          float64 // miles out, where that is known
	kind              string  // a day out where it is left out
	party             []comer
}

// comer is somebody who comes: one of the crew by their mark, or a name and a mass.
type comer struct {
	mark, name   string
	kg           float64
	role         string
	sits, fishes string // posts
}

// season is what was, then the three trips ahead.
var season = []outing{
	{name: "first cod of the year", water: "Varmsund, outer skerries", boat: "Dunlin", in: -212, days: 1, persons: 3,
		rods: 4, hours: 5.5},
	{name: "sea trout along the rocks", water: "Varmsund", boat: "Dunlin", in: -203, days: 1, persons: 2, rods: 4,
		hours: 3},
	{name: "spring cup", water: "Tverrin", boat: "Plover", in: -190, days: 2, persons: 2, rods: 8, hours: 7.5},
	{name: "reed pike with guests", water: "Tverrin, east reeds", boat: "Whimbrel", in: -176, days: 1, persons: 4,
		rods: 4, hours: 2},
	{name: "evening perch", water: "Tverrin", boat: "Plover", in: -168, days: 1, persons: 2, rods: 5, hours: 2.5},
	{name: "cod by the lighthouse", water: "Varmsund", boat: "Dunlin", in: -155, days: 1, persons: 4, rods: 5, hours: 6},
	{name: "zander at dusk", water: "Tverrin", boat: "Plover", in: -141, days: 1, persons: 2, rods: 6, hours: 3},
	{name: "guests, two days", water: "Tverrin, east reeds", boat: "Whimbrel", in: -133, days: 2, persons: 4, rods: 4,
		hours: 4},
	{name: "midsummer trolling", water: "Tverrin", boat: "Plover", in: -118, days: 1, persons: 3, rods: 6, hours: 5},
	{name: "night in the sound", water: "Varmsund", boat: "Dunlin", in: -104, days: 1, persons: 3, rods: 4, hours: 4.5},
	{name: "perch cup", water: "Tverrin", boat: "Plover", in: -90, days: 2, persons: 2, rods: 8, hours: 8},
	{name: "reed pike with guests", water: "Tverrin, east reeds", boat: "Whimbrel", in: -76, days: 1, persons: 4, rods: 4,
		hours: 2.5},
	{name: "cod and mackerel", water: "Varmsund, outer skerries", boat: "Dunlin", in: -62, days: 1, persons: 4, rods: 5,
		hours: 5},
	{name: "zander, vertical", water: "Tverrin", boat: "Plover", in: -49, days: 1, persons: 2, rods: 4, hours: 3.5},
	{name: "autumn pike", water: "Tverrin", boat: "Plover", in: -33, days: 1, persons: 3, rods: 6, hours: 4},
	{name: "sea trout, cold hands", water: "Varmsund", boat: "Dunlin", in: -19, days: 1, persons: 2, rods: 4, hours: 3.5},
	{name: "last guests of the year", water: "Tverrin, east reeds", boat: "Whimbrel", in: -8, days: 1, persons: 4,
		rods: 3, hours: 2},
	{name: "two-day tournament", water: "Tverrin", boat: "Plover", in: 4, days: 2, persons: 2, rods: 8, hours: 8,
		kind: "tournament", party: []comer{{mark: "O", role: "skipper", sits: "helm", fishes: "fore deck"},
			{name: "partner by lot", kg: 88, role: "partner", sits: "passenger", fishes: "fore deck"}}},
	{name: "evening with two guests", water: "Tverrin, east reeds", boat: "Whimbrel", in: 7, days: 1, persons: 3, rods: 4,
		hours: 2, kind: "guiding", party: []comer{{mark: "I", role: "skipper", sits: "tiller", fishes: "tiller"},
			{name: "first guest", kg: 92, role: "guest", sits: "middle, starboard", fishes: "stern, starboard"},
			{name: "second guest", kg: 84, role: "guest", sits: "bow", fishes: "stern, middle"}}},
	{name: "cod run, 18 nautical miles", water: "Varmsund, outer skerries", boat: "Dunlin", in: 11, days: 1, persons: 4,
		rods: 5, hours: 6, nautical: 18, kind: "offshore", party: []comer{{mark: "I", role: "skipper", sits: "helm", fishes: "starboard rail"},
			{mark: "O", role: "crew", sits: "helm", fishes: "starboard quarter"},
			{mark: "S", role: "crew", sits: "starboard rail", fishes: "port rail"},
			{mark: "M", role: "crew", sits: "port quarter", fishes: "port quarter"}}},
}

// lastGood is the last good day of dated things, in days from the day the demo
// is loaded. The old box of flares is two years over, on purpose, and the one
// aboard runs out before the cod run.
var lastGood = map[string]int{
	"flares, old box": -748, "flares, sealed box": 9, "fire extinguisher": 260, "fire extinguisher, lake boat": 40,
	"first-aid kit": 120, "first-aid kit, small": 90,
	"personal beacon": 420, "livewell treatment": 55, "sealant tubes": 70, "epoxy, resin and hardener": 18,
	"lifejacket, inflatable": 6, "gas cartridges": 900,
}

// serviced are services that come round.
var serviced = []struct {
	gear  string
	input gear.ServiceInput
	ago   int // days since it was done last
}{
	{"cod rod 2.1 m", gear.ServiceInput{What: "retie the knots", EveryTrips: 2}, 19},
	{"jigging rod 1.9 m", gear.ServiceInput{What: "check the rings", EveryTrips: 10}, 60},
	{"lifejacket, adult", gear.ServiceInput{What: "check cylinder and bladder", EveryDays: 365}, 300},
	{"lifejacket, inflatable", gear.ServiceInput{What: "check cylinder and bladder", EveryDays: 365}, 371},
	{"trolling battery, 100 Ah", gear.ServiceInput{What: "top up and test", EveryDays: 120, EveryHours: 40}, 80},
	{"cranking battery, 75 Ah", gear.ServiceInput{What: "load test", EveryDays: 180}, 150},
	{"multiplier reel, 30", gear.ServiceInput{What: "rinse, grease", EveryTrips: 12}, 90},
	{"generator, 1 kW", gear.ServiceInput{What: "change the oil", EveryHours: 50, EveryDays: 365}, 330},
	{"hand pump", gear.ServiceInput{What: "grease the cup", EveryDays: 365}, 100},
	{"spare propeller", gear.ServiceInput{What: "check for dents", EveryDays: 365}, 200},
}

// loans: who has what of the crew's, and what is theirs.
var loans = []struct {
	gear  string
	input trips.LoanInput
	in    int // days until it is due back
}{
	{"downrigger", trips.LoanInput{Way: "lent", Whom: "the neighbours at Holmvik"}, 3},
	{"ice auger", trips.LoanInput{Way: "lent", Whom: "Torvald's crew"}, 30},
	{"crimper and terminals", trips.LoanInput{Way: "borrowed", Whom: "the yard"}, 5},
}

// tagged are tags of Dunlin's gear, by which kits find it.
var tagged = map[string]string{
	"lifejacket, adult": "lifejacket", "flares, sealed box": "flares", "fire extinguisher": "extinguisher",
	"first-aid kit": "firstaid", "handheld radio": "radio",
	"throw line": "throwable", "headlamps": "lamp", "cod rod 2.1 m": "cod rod", "cod rod 2.1 m, second": "cod rod",
	"jigging rod 1.9 m": "cod rod", "pilk box": "pilks",
	"sea trout rod 2.1 m": "sea trout rod", "spinning rod 2.0 m": "pike rod", "gaff": "gaff", "landing net 1.1 m": "net",
	"anchor with chain": "anchor", "paddle": "paddle",
	"tool roll": "tools", "cooler 40 L, iced": "ice", "cooler 25 L": "ice", "pike lures, box": "pike lures",
	"spoons, tray": "sea trout lures", "leader spools": "leader",
}

func line(what string, amount float64, per string, choices ...string) kitLine {
	return kitLine{what: what, amount: amount, per: per, nice: false, choices: choices}
}

func nice(what string, amount float64, per string, choices ...string) kitLine {
	return kitLine{what: what, amount: amount, per: per, nice: true, choices: choices}
}

// kitLine is a line as it is written here: a choice with # is a tag, others are names.
type kitLine struct {
	what    string
	amount  float64
	per     string
	nice    bool
	choices []string
}

// fourteen are the kits.
var fourteen = []struct {
	name, sort string
	lines      []kitLine
}{
	{"safety, every day", "use", []kitLine{line("lifejackets", 1, "person", "#lifejacket"),
		line("flares", 1, "boat", "#flares"), line("extinguisher", 1, "boat", "#extinguisher"),
		line("something to throw", 1, "boat", "#throwable"), line("first aid", 1, "boat", "#firstaid"),
		line("paddle", 1, "boat", "#paddle"),
		line("knife", 1, "boat", "#knife"), nice("beacon", 1, "boat", "#beacon")}},
	{"offshore, more of it", "water", []kitLine{line("radio", 2, "boat", "#radio"), line("drogue", 1, "boat", "drogue",
		"drogue, large"), line("grab bag", 1, "boat", "grab bag"),
		line("beacon", 1, "boat", "#beacon"), line("tow line", 1, "boat", "tow line, 25 m"),
		line("chart plotter as a backup", 1, "boat", "chart plotter, portable")}},
	{"night", "use", []kitLine{line("headlamps", 1, "person", "headlamps", "headlamps, spare"),
		line("work lamp", 1, "boat", "work lamp, LED"), nice("generator", 1, "boat", "generator, 1 kW"),
		line("thermos", 1, "boat", "thermos and food box")}},
	{"guests", "use", []kitLine{line("guest rods", 1, "person", "#guest"), line("guest lures", 1, "boat",
		"guest lure box"), line("unhooking mat", 1, "boat", "unhooking mat"),
		line("ponchos", 1, "boat", "rain ponchos"), nice("cool bag", 1, "boat", "cool bag, guests")}},
	{"tournament", "use", []kitLine{line("weigh-in bags", 1, "person", "weigh-in bags"), line("measuring mat", 1, "boat",
		"measuring mat", "measuring board"), line("cull tags", 1, "boat", "cull tags, set"),
		line("spare aerator", 1, "boat", "spare aerator"), line("livewell treatment", 1, "day", "livewell treatment"),
		line("sonar unit", 1, "boat", "portable sonar unit"), line("its battery", 1, "boat", "sonar battery, 20 Ah")}},
	{"cod, pilk and jig", "fish", []kitLine{line("cod rods", 3, "boat", "#cod rod"), line("pilks", 1, "boat", "pilk box",
		"pilks, 300 g and up"), line("gaff", 1, "boat", "gaff"), line("ice", 1, "boat", "#ice"),
		line("rigs", 1, "boat", "cod rig wallet"), nice("gutting table", 1, "boat", "gutting table")}},
	{"pike, jerkbait", "technique", []kitLine{line("jerkbait rods", 1, "person", "#jerkbait"),
		line("jerkbaits", 1, "boat", "jerkbait box"), line("wire leaders", 2, "rod", "wire leaders", "leaders, guest"),
		line("big net", 1, "boat", "landing net, rubber"),
		line("side cutters", 1, "boat", "side cutters")}},
	{"pike, reeds", "water", []kitLine{line("pike rods", 1, "person", "pike rod 2.4 m", "pike rod 2.4 m, spare",
		"#pike rod"), line("weedless", 1, "boat", "weedless spoons"), line("push pole", 1, "boat", "push pole, two parts")}},
	{"zander, vertical", "technique", []kitLine{line("vertical rods", 1, "person", "#vertical"),
		line("zander box", 1, "boat", "zander box"), line("soft shads", 1, "boat", "soft shads, zander"),
		line("sonar unit", 1, "boat", "portable sonar unit"),
		line("net", 1, "boat", "#net")}},
	{"perch, drop-shot", "technique", []kitLine{line("drop-shot rods", 1, "person", "drop-shot rod 2.1 m",
		"perch rod 1.9 m"), line("drop-shot box", 1, "boat", "drop-shot box"), line("hooks", 4, "rod", "drop-shot hooks")}},
	{"sea trout, coast", "fish", []kitLine{line("rods", 1, "person", "#sea trout rod", "fly rod 2.7 m, four parts"),
		line("box", 1, "boat", "sea trout box", "spoons, tray"), nice("fly reel", 1, "boat", "fly reel 8"),
		line("waders", 1, "person", "waders", "waders, old pair")}},
	{"trolling", "technique", []kitLine{line("trolling rods", 1, "person", "#trolling"), line("downrigger", 1, "boat",
		"downrigger"), line("its weights", 1, "boat", "downrigger weights"), line("spoons", 1, "boat", "trolling spoons, box"),
		line("rod holders", 1, "rod", "rod holders, clamp"), nice("planer boards", 1, "boat", "planer boards")}},
	{"ice", "season", []kitLine{line("auger", 1, "boat", "ice auger"), line("spikes", 1, "person", "ice spikes"),
		line("ice rods", 1, "person", "#ice"), line("sled", 1, "boat", "ice sled"),
		nice("shelter", 1, "boat", "ice shelter")}},
	{"cold and wet", "season", []kitLine{line("floating suits", 1, "person", "floating suit, Ilse",
		"floating suit, Oskar"), line("dry clothes", 1, "boat", "towels and dry clothes"), nice("boot dryer", 1, "boat",
		"boot dryer")}},
}

// goes are kits that are promised to the trips ahead.
var goes = map[string][]string{
	"two-day tournament":         {"tournament", "zander, vertical"},
	"evening with two guests":    {"guests", "pike, reeds"},
	"cod run, 18 nautical miles": {"cod, pilk and jig", "safety, every day"},
}

// skerries is the way of the cod run as somebody drew it, 18 nautical miles.
var skerries = [][2]float64{{58.2, 9.9}, {58.189, 9.872}, {58.17, 9.85}, {58.158, 9.80}, {58.163, 9.74}, {58.145, 9.66},
	{58.118, 9.60}, {58.112, 9.53}, {58.09, 9.47}, {58.071, 9.445}}

// codThings come aboard Dunlin in autumn and go ashore in spring.
var codThings = []string{"cod rod 2.1 m", "cod rod 2.1 m, second", "jigging rod 1.9 m", "pilk box", "jig heads, tray", "sinkers",
	"gaff"}
