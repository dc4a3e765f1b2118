package demo

import "ergasia/app"

// outing is a trip, its first day in days from the day the demo is loaded.
type outing struct {
	name, water, boat string
	in, days          int
	persons, rods     int
	hours             float64
}

// season is what was, then the three trips ahead.
var season = []outing{
	{"first cod of the year", "Varmsund, outer skerries", "Dunlin", -212, 1, 3, 4, 5.5},
	{"sea trout along the rocks", "Varmsund", "Dunlin", -203, 1, 2, 4, 3},
	{"spring cup", "Tverrin", "Plover", -190, 2, 2, 8, 7.5},
	{"reed pike with guests", "Tverrin, east reeds", "Whimbrel", -176, 1, 4, 4, 2},
	{"evening perch", "Tverrin", "Plover", -168, 1, 2, 5, 2.5},
	{"cod by the lighthouse", "Varmsund", "Dunlin", -155, 1, 4, 5, 6},
	{"zander at dusk", "Tverrin", "Plover", -141, 1, 2, 6, 3},
	{"guests, two days", "Tverrin, east reeds", "Whimbrel", -133, 2, 4, 4, 4},
	{"midsummer trolling", "Tverrin", "Plover", -118, 1, 3, 6, 5},
	{"night in the sound", "Varmsund", "Dunlin", -104, 1, 3, 4, 4.5},
	{"perch cup", "Tverrin", "Plover", -90, 2, 2, 8, 8},
	{"reed pike with guests", "Tverrin, east reeds", "Whimbrel", -76, 1, 4, 4, 2.5},
	{"cod and mackerel", "Varmsund, outer skerries", "Dunlin", -62, 1, 4, 5, 5},
	{"zander, vertical", "Tverrin", "Plover", -49, 1, 2, 4, 3.5},
	{"autumn pike", "Tverrin", "Plover", -33, 1, 3, 6, 4},
	{"sea trout, cold hands", "Varmsund", "Dunlin", -19, 1, 2, 4, 3.5},
	{"last guests of the year", "Tverrin, east reeds", "Whimbrel", -8, 1, 4, 3, 2},
	{"two-day tournament", "Tverrin", "Plover", 4, 2, 2, 8, 8},
	{"evening with two guests", "Tverrin, east reeds", "Whimbrel", 7, 1, 3, 4, 2},
	{"cod run, 18 nautical miles", "Varmsund, outer skerries", "Dunlin", 11, 1, 4, 5, 6},
}

// lastGood is the last good day of dated things, in days from the day the demo
// is loaded. The old box of flares is two years over, on purpose, and the one
// aboard runs out before the cod run.
var lastGood = map[string]int{
	"flares, old box": -748, "flares, sealed box": 9, "fire extinguisher": 260, "fire extinguisher, lake boat": 40, "first-aid kit": 120, "first-aid kit, small": -20,
	"personal beacon": 420, "livewell treatment": 55, "sealant tubes": 70, "epoxy, resin and hardener": 18, "lifejacket, inflatable": 6, "gas cartridges": 900,
}

// serviced are services that come round.
var serviced = []struct {
	gear  string
	input app.ServiceInput
	ago   int // days since it was done last
}{
	{"cod rod 2.1 m", app.ServiceInput{What: "retie the knots", EveryTrips: 2}, 19},
	{"jigging rod 1.9 m", app.ServiceInput{What: "check the rings", EveryTrips: 10}, 60},
	{"lifejacket, adult", app.ServiceInput{What: "check cylinder and bladder", EveryDays: 365}, 300},
	{"lifejacket, inflatable", app.ServiceInput{What: "check cylinder and bladder", EveryDays: 365}, 371},
	{"trolling battery, 100 Ah", app.ServiceInput{What: "top up and test", EveryDays: 120, EveryHours: 40}, 80},
	{"cranking battery, 75 Ah", app.ServiceInput{What: "load test", EveryDays: 180}, 150},
	{"multiplier reel, 30", app.ServiceInput{What: "rinse, grease", EveryTrips: 12}, 90},
	{"generator, 1 kW", app.ServiceInput{What: "change the oil", EveryHours: 50, EveryDays: 365}, 330},
	{"hand pump", app.ServiceInput{What: "grease the cup", EveryDays: 365}, 100},
	{"spare propeller", app.ServiceInput{What: "check for dents", EveryDays: 365}, 200},
}

// loans: who has what of the crew's, and what is theirs.
var loans = []struct {
	gear  string
	input app.LoanInput
	in    int // days until it is due back
}{
	{"downrigger", app.LoanInput{Way: "lent", Whom: "the neighbours at Holmvik"}, 3},
	{"ice auger", app.LoanInput{Way: "lent", Whom: "Torvald's crew"}, 30},
	{"crimper and terminals", app.LoanInput{Way: "borrowed", Whom: "the yard"}, 5},
}

// tagged are tags of Dunlin's gear, by which kits find it.
var tagged = map[string]string{
	"lifejacket, adult": "lifejacket", "flares, sealed box": "flares", "fire extinguisher": "extinguisher", "first-aid kit": "firstaid", "handheld radio": "radio",
	"throw line": "throwable", "headlamps": "lamp", "cod rod 2.1 m": "cod", "cod rod 2.1 m, second": "cod", "jigging rod 1.9 m": "cod", "pilk box": "pilks",
	"sea trout rod 2.1 m": "sea trout rod", "spinning rod 2.0 m": "pike rod", "gaff": "gaff", "landing net 1.1 m": "net", "anchor with chain": "anchor", "paddle": "paddle",
	"tool roll": "tools", "cooler 40 L, iced": "ice", "cooler 25 L": "ice", "pike lures, box": "pike lures", "spoons, tray": "sea trout lures", "leader spools": "leader",
}

func line(what string, amount float64, per string, choices ...string) kitLine {
	return kitLine{what, amount, per, false, choices}
}

func nice(what string, amount float64, per string, choices ...string) kitLine {
	return kitLine{what, amount, per, true, choices}
}

// kitLine is a line as it is written here: a choice with # is a tag, others are names.
type kitLine struct {
	what    string
	amount  float64
	per     string
	nice    bool
	choices []string
}

// kits are the fourteen.
var kits = []struct {
	name, sort string
	lines      []kitLine
}{
	{"safety, every day", "use", []kitLine{line("lifejackets", 1, "person", "#lifejacket"), line("flares", 1, "boat", "#flares"), line("extinguisher", 1, "boat", "#extinguisher"),
		line("something to throw", 1, "boat", "#throwable"), line("first aid", 1, "boat", "#firstaid"), line("paddle", 1, "boat", "#paddle"),
		line("knife", 1, "boat", "#knife"), nice("beacon", 1, "boat", "#beacon")}},
	{"offshore, more of it", "water", []kitLine{line("radio", 2, "boat", "#radio"), line("drogue", 1, "boat", "drogue", "drogue, large"), line("grab bag", 1, "boat", "grab bag"),
		line("beacon", 1, "boat", "#beacon"), line("tow line", 1, "boat", "tow line, 25 m"), line("chart plotter as a backup", 1, "boat", "chart plotter, portable")}},
	{"night", "use", []kitLine{line("headlamps", 1, "person", "headlamps", "headlamps, spare"), line("work lamp", 1, "boat", "work lamp, LED"), nice("generator", 1, "boat", "generator, 1 kW"),
		line("thermos", 1, "boat", "thermos and food box")}},
	{"guests", "use", []kitLine{line("guest rods", 1, "person", "#guest"), line("guest lures", 1, "boat", "guest lure box"), line("unhooking mat", 1, "boat", "unhooking mat"),
		line("ponchos", 1, "boat", "rain ponchos"), nice("cool bag", 1, "boat", "cool bag, guests")}},
	{"tournament", "use", []kitLine{line("weigh-in bags", 1, "person", "weigh-in bags"), line("measuring mat", 1, "boat", "measuring mat", "measuring board"), line("cull tags", 1, "boat", "cull tags, set"),
		line("spare aerator", 1, "boat", "spare aerator"), line("livewell treatment", 1, "day", "livewell treatment"), line("sonar unit", 1, "boat", "portable sonar unit"), line("its battery", 1, "boat", "sonar battery, 20 Ah")}},
	{"cod, pilk and jig", "fish", []kitLine{line("cod rods", 1, "person", "#cod"), line("pilks", 1, "boat", "pilk box", "pilks, 300 g and up"), line("gaff", 1, "boat", "gaff"), line("ice", 1, "boat", "#ice"),
		line("rigs", 1, "boat", "cod rig wallet"), nice("gutting table", 1, "boat", "gutting table")}},
	{"pike, jerkbait", "technique", []kitLine{line("jerkbait rods", 1, "person", "#jerkbait"), line("jerkbaits", 1, "boat", "jerkbait box"), line("wire leaders", 2, "rod", "wire leaders", "leaders, guest"), line("big net", 1, "boat", "landing net, rubber"),
		line("side cutters", 1, "boat", "side cutters")}},
	{"pike, reeds", "water", []kitLine{line("pike rods", 1, "person", "pike rod 2.4 m", "pike rod 2.4 m, spare", "#pike rod"), line("weedless", 1, "boat", "weedless spoons"), line("push pole", 1, "boat", "push pole, two parts")}},
	{"zander, vertical", "technique", []kitLine{line("vertical rods", 1, "person", "#vertical"), line("zander box", 1, "boat", "zander box"), line("soft shads", 1, "boat", "soft shads, zander"), line("sonar unit", 1, "boat", "portable sonar unit"),
		line("net", 1, "boat", "#net")}},
	{"perch, drop-shot", "technique", []kitLine{line("drop-shot rods", 1, "person", "drop-shot rod 2.1 m", "perch rod 1.9 m"), line("drop-shot box", 1, "boat", "drop-shot box"), line("hooks", 4, "rod", "drop-shot hooks")}},
	{"sea trout, coast", "fish", []kitLine{line("rods", 1, "person", "#sea trout rod", "fly rod 2.7 m, four parts"), line("box", 1, "boat", "sea trout box", "spoons, tray"), nice("fly reel", 1, "boat", "fly reel 8"), line("waders", 1, "person", "waders", "waders, old pair")}},
	{"trolling", "technique", []kitLine{line("trolling rods", 1, "person", "#trolling"), line("downrigger", 1, "boat", "downrigger"), line("its weights", 1, "boat", "downrigger weights"), line("spoons", 1, "boat", "trolling spoons, box"),
		line("rod holders", 1, "rod", "rod holders, clamp"), nice("planer boards", 1, "boat", "planer boards")}},
	{"ice", "season", []kitLine{line("auger", 1, "boat", "ice auger"), line("spikes", 1, "person", "ice spikes"), line("ice rods", 1, "person", "#ice"), line("sled", 1, "boat", "ice sled"), nice("shelter", 1, "boat", "ice shelter")}},
	{"cold and wet", "season", []kitLine{line("floating suits", 1, "person", "floating suit, Ilse", "floating suit, Oskar"), line("dry clothes", 1, "boat", "towels and dry clothes"), nice("boot dryer", 1, "boat", "boot dryer")}},
}

// goes are kits that are promised to the trips ahead.
var goes = map[string][]string{
	"two-day tournament":         {"tournament", "zander, vertical"},
	"evening with two guests":    {"guests", "pike, reeds"},
	"cod run, 18 nautical miles": {"cod, pilk and jig", "safety, every day"},
}
