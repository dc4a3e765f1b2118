// Package words has every word that people choose from, once: as it is kept, and
// as it is shown. The checks, the interface's schema, the table's cells and the
// forms of the web app (web/src/domain/words.gen.ts) are made from it. What the
// words of the trade mean is in docs/words.md.
package words

// Word is one that can be chosen.
type Word struct {
	Key   string // as the database and the interface have it
	Label string // as a person reads it
}

// List is what there is to choose from, in the order in which it is shown.
type List []Word

// Keys of the words.
func (l List) Keys() []string {
	keys := make([]string, len(l))
	for i, w := range l {
		keys[i] = w.Key
	}
	return keys
}

// OrNone are the keys, and the empty one of a choice that may be left out.
func (l List) OrNone() []string { return append(l.Keys(), "") }

// Label is how a key is shown.
func (l List) Label(key string) string {
	for _, w := range l {
		if w.Key == key {
			return w.Label
		}
	}
	return key
}

// The words of gear.
var (
	// MassKnown says where a mass comes from; core/float has how sure each is.
	MassKnown = List{
		{Key: "weighed", Label: "weighed"}, {Key: "plate", Label: "from a plate"},
		{Key: "catalogue", Label: "from a catalogue"}, {Key: "guess", Label: "a guess"}}
	Shapes = List{
		{Key: "box", Label: "a box"}, {Key: "rod", Label: "a rod"}, {Key: "soft", Label: "soft"},
		{Key: "jointed", Label: "jointed or coiled: it bends"},
		{Key: "loose", Label: "loose things in a bag"}}
	Turns = List{
		{
			Key:   "any",
			Label: "any side up",
		}, {Key: "upright", Label: "stays upright"}, {Key: "none", Label: "as it lies"}}
	Conditions = List{
		{Key: "good", Label: "good"}, {Key: "worn", Label: "worn"}, {Key: "broken", Label: "broken"}}
	// Hazards keep things apart; core/stow has which.
	Hazards = List{
		{Key: "fuel", Label: "fuel"}, {Key: "gas", Label: "gas"}, {Key: "flares", Label: "flares"},
		{Key: "lead-acid", Label: "lead-acid battery"}, {Key: "lithium", Label: "lithium battery"},
		{Key: "sparks", Label: "makes sparks"}, {Key: "magnet", Label: "magnet"}, {Key: "steel", Label: "steel"},
		{Key: "sharp", Label: "sharp"}, {Key: "poison", Label: "poison"}}
	// Spots are the kinds of place where gear can be.
	Spots = List{
		{Key: "quay", Label: "on the quay"}, {Key: "boat", Label: "aboard"}, {Key: "shed", Label: "ashore"},
		{Key: "person", Label: "with a person"}, {Key: "lent", Label: "lent"}}
	// Onlies cut the gear list down.
	Onlies = List{
		{Key: "unweighed", Label: "never weighed"}, {Key: "containers", Label: "boxes"},
		{Key: "worn", Label: "worn or broken"},
		{Key: "expired", Label: "out of date"}, {Key: "restock", Label: "to restock"}}
	Loans = List{{Key: "lent", Label: "lent to"}, {Key: "borrowed", Label: "borrowed from"}}
	Rides = List{
		{Key: "boat", Label: "in the boat"},
		{Key: "car", Label: "in the car"},
		{Key: "van", Label: "in the van"},
	}
)

// The words of a boat and her places.
var (
	MassKinds = List{
		{Key: "motor", Label: "motor"}, {Key: "hull", Label: "hull"}, {Key: "battery", Label: "battery"},
		{Key: "fitting", Label: "fitting"}}
	TankKinds = List{
		{Key: "fuel", Label: "fuel"}, {Key: "livewell", Label: "livewell"}, {Key: "water", Label: "fresh water"},
		{Key: "bilge", Label: "bilge water"}}
	LevelKnown = List{
		{
			Key:   "gauge",
			Label: "read off a gauge",
		}, {Key: "dipped", Label: "dipped"}, {Key: "filled", Label: "filled up"}}
	Materials = List{
		{
			Key:   "glass",
			Label: "glass fibre",
		}, {Key: "aluminium", Label: "aluminium"}, {Key: "plastic", Label: "plastic"},
		{Key: "wood", Label: "wood"}}
	Propulsion = List{{Key: "outboard", Label: "outboard"}, {Key: "inboard", Label: "inboard or sterndrive"},
		{Key: "manual", Label: "rowed or paddled"}}
	BoatKinds = List{
		{Key: "monohull", Label: "one hull"}, {Key: "multihull", Label: "several hulls"},
		{Key: "inflatable", Label: "inflatable"},
		{Key: "sailing", Label: "sailing boat"}, {Key: "watercraft", Label: "personal watercraft"}}
	// Counted is what a builder's plate may count.
	Counted = List{
		{Key: "persons", Label: "persons"}, {Key: "gear", Label: "gear"}, {Key: "motor", Label: "motor"},
		{Key: "battery", Label: "batteries"}, {Key: "fuel", Label: "fuel"}, {Key: "livewell", Label: "livewells"}}
	LimitSources = List{
		{Key: "skipper", Label: "skipper's word"}, {Key: "plate", Label: "plate"}, {Key: "rule", Label: "rule"},
		{Key: "practice", Label: "common practice"}}
	SetupStages = List{
		{
			Key:   "hull",
			Label: "Hull",
		}, {Key: "plate", Label: "Plate and limits"}, {Key: "engine", Label: "Engine and weights"},
		{Key: "tanks", Label: "Tanks"}, {Key: "posts", Label: "Posts and seats"}, {Key: "places", Label: "Places"}}
	Dryness = List{{Key: "dry", Label: "stays dry"}, {Key: "wet", Label: "gets wet"}}
	Lids    = List{
		{Key: "hinged", Label: "hinged lid"}, {Key: "lift-off", Label: "lift-off lid"},
		{Key: "sliding", Label: "sliding lid"},
		{Key: "soft", Label: "soft cover"}, {Key: "none", Label: "no lid"}}
	// Levels are how high a place stands, from the keel up; core/stow has the rule.
	Levels = List{
		{Key: "sole", Label: "Under the sole"}, {Key: "locker", Label: "In lockers"}, {Key: "deck", Label: "On deck"},
		{Key: "overhead", Label: "Overhead"}}
	PlaceForms = List{
		{
			Key:   "box",
			Label: "anything",
		}, {Key: "bed", Label: "rods, in an open bed"}, {Key: "tubes", Label: "rods, in tubes"},
		{Key: "upright", Label: "rods, upright in holders"}}
	// TrailerSchools are what share of the mass the hitch should carry; core/road has the figures.
	TrailerSchools = List{
		{
			Key:   "boat",
			Label: "boat trailers",
		}, {Key: "america", Label: "North America"}, {Key: "europe", Label: "Europe"}}
)

// The words of a crew, its kits and plans.
var (
	Roles = List{
		{Key: "owner", Label: "owner"}, {Key: "skipper", Label: "skipper"}, {Key: "hand", Label: "hand"},
		{Key: "guest", Label: "guest"}}
	// Permissions are what a role may or may not do, worded to follow "may".
	Permissions = List{
		{Key: "see", Label: "see boats, gear and people"}, {Key: "try", Label: "try a move without making it"},
		{Key: "move", Label: "move gear and people"}, {Key: "change_gear", Label: "change gear"},
		{Key: "change_boat", Label: "change boats, places, posts and limits"},
		{Key: "change_crew", Label: "change people's names and masses"},
		{Key: "invite", Label: "invite, make reset links, give roles and take people off the crew"},
		{Key: "own_settings", Label: "choose their own units and theme"}}
	// LeftGear is what becomes of the gear of one who leaves.
	LeftGear = List{
		{Key: "crew", Label: "stay with the crew"}, {Key: "person", Label: "go to someone else"},
		{Key: "leaves", Label: "leave with them, off the list"}}
	Units    = List{{Key: "metric", Label: "metric"}, {Key: "us", Label: "US"}}
	Themes   = List{{Key: "paper", Label: "paper"}, {Key: "night", Label: "night"}}
	KitSorts = List{
		{Key: "technique", Label: "by technique"}, {Key: "fish", Label: "by fish"}, {Key: "water", Label: "by water"},
		{Key: "season", Label: "by season"}, {Key: "use", Label: "by use"}}
	KitPer = List{
		{Key: "boat", Label: "a boat"}, {Key: "person", Label: "a person"}, {Key: "rod", Label: "a rod"},
		{Key: "day", Label: "a day"}}
	Notes   = List{{Key: "seen", Label: "seen in its place"}, {Key: "note", Label: "note"}}
	Schools = List{
		{Key: "use", Label: "By use"}, {Key: "technique", Label: "By technique"}, {Key: "owner", Label: "By owner"},
		{Key: "balance", Label: "By balance"}}
	// FuelSchools are how a reserve is reckoned; core/fuel has them.
	FuelSchools = List{
		{
			Key:   "thirds",
			Label: "a third out, a third home, a third kept",
		}, {Key: "fixed", Label: "the way, and so many litres"},
		{Key: "percent", Label: "the way, and a share of it"}, {Key: "full", Label: "tanks always full"}}
)

// The words of a trip and its day.
var (
	TripKinds = List{
		{Key: "day", Label: "a day out"}, {Key: "tournament", Label: "tournament"}, {Key: "guiding", Label: "guiding"},
		{
			Key:   "offshore",
			Label: "offshore",
		}, {Key: "night", Label: "night"}, {Key: "days", Label: "days, with a night aboard"}}
	TripRoles = List{
		{Key: "skipper", Label: "skipper"}, {Key: "crew", Label: "crew"}, {Key: "guest", Label: "guest"},
		{Key: "partner", Label: "partner"}, {Key: "child", Label: "child"}}
	PhaseKinds = List{
		{
			Key:   "load",
			Label: "load",
		}, {Key: "road", Label: "road"}, {Key: "launch", Label: "launch"}, {Key: "run", Label: "run"},
		{Key: "bait", Label: "catch bait"}, {Key: "fish", Label: "fish"}, {Key: "move", Label: "move"},
		{
			Key:   "anchor",
			Label: "at anchor",
		}, {Key: "weigh-in", Label: "weigh-in"}, {Key: "sleep", Label: "sleep aboard"},
		{Key: "home", Label: "run home"}, {Key: "recover", Label: "recover"}}
	// Stages are what is settled of a trip, in the order in which crews work.
	Stages = List{
		{Key: "who", Label: "Who and what"}, {Key: "pack", Label: "Pack"}, {Key: "stow", Label: "Stow"},
		{Key: "fuel", Label: "Fuel"}, {Key: "day", Label: "Day"}, {Key: "ready", Label: "Ready"}}
)

// The words of rigging.
var (
	// FittingKinds are what is fastened to a boat; core/fitting has their usual sizes.
	FittingKinds = List{
		{Key: "rod-holder", Label: "rod holder"}, {Key: "seat", Label: "seat"}, {Key: "pedestal", Label: "pedestal"},
		{Key: "display", Label: "display"}, {Key: "transducer", Label: "transducer"}, {Key: "pole", Label: "pole"},
		{Key: "bow-motor", Label: "bow motor"}, {Key: "anchor", Label: "anchor"}, {Key: "cleat", Label: "cleat"},
		{Key: "track", Label: "track"}, {Key: "light", Label: "light"}, {Key: "antenna", Label: "antenna"},
		{Key: "pump", Label: "pump"}, {Key: "strut", Label: "lid strut"}, {Key: "tie-down", Label: "tie-down"},
		{Key: "hook", Label: "hook"}, {Key: "control", Label: "control"}, {Key: "rail", Label: "rail"},
		{Key: "roof", Label: "roof"}, {Key: "windlass", Label: "windlass"}, {Key: "other", Label: "something else"}}
	// Stands is by which face a fitting is fastened.
	Stands = List{
		{Key: "up", Label: "its foot, standing"}, {Key: "down", Label: "its top, hanging or let in"},
		{Key: "out", Label: "its back, out from a wall"}}
	// Methods are what a fitting is held by.
	Methods = List{
		{Key: "through-bolt", Label: "through-bolts"}, {Key: "plate", Label: "bolts with a backing plate"},
		{
			Key:   "rivet-nut",
			Label: "rivet nuts",
		}, {Key: "well-nut", Label: "well nuts"}, {Key: "tapped", Label: "threads tapped in the metal"},
		{
			Key:   "coach-screw",
			Label: "coach screws",
		}, {Key: "self-tapper", Label: "self-tappers"}, {Key: "track", Label: "a track"},
		{Key: "clamp", Label: "a clamp"}, {Key: "suction", Label: "a suction cup"}, {Key: "adhesive", Label: "glue"},
		{Key: "dock", Label: "a base that it docks in"}}
	// Panels are what fittings are fastened to.
	Panels = List{
		{Key: "laminate", Label: "solid laminate"}, {Key: "cored", Label: "laminate with a core"},
		{Key: "foam", Label: "foam-filled"}, {Key: "aluminium", Label: "aluminium"}, {Key: "plastic", Label: "plastic"},
		{Key: "timber", Label: "timber"}, {Key: "steel", Label: "steel"}}
	Backs = List{
		{Key: "open", Label: "both hands reach it"}, {Key: "tight", Label: "a few fingers reach it"},
		{Key: "none", Label: "nobody gets at it"}}
	ComesOff = List{
		{Key: "never", Label: "hardly ever"}, {Key: "season", Label: "each season"}, {Key: "trip", Label: "each trip"}}
	Wets = List{
		{Key: "dry", Label: "well above the water"}, {Key: "spray", Label: "where spray reaches"},
		{Key: "below", Label: "below the water"}}
	Metals = List{
		{
			Key:   "stainless",
			Label: "stainless",
		}, {Key: "aluminium", Label: "aluminium"}, {Key: "brass", Label: "brass or bronze"},
		{Key: "plastic", Label: "plastic"}}
	// Waters is how hard the sea slams where she is used; core/fitting has the factors.
	Waters = List{
		{
			Key:   "sheltered",
			Label: "sheltered water",
		}, {Key: "coastal", Label: "coastal"}, {Key: "offshore", Label: "offshore"}}
	PartStates = List{
		{Key: "order", Label: "on order"}, {Key: "returned", Label: "returned"}, {Key: "left", Label: "left over"},
		{Key: "fitted", Label: "fitted"}}
	// SonarCriteria are what a place for the sonar is judged by; core/fitting has weights.
	SonarCriteria = List{
		{
			Key:   "hands_free",
			Label: "hands free while scanning",
		}, {Key: "while_holding", Label: "scans while the motor holds her"},
		{
			Key:   "scouting",
			Label: "scouts between spots",
		}, {Key: "sees", Label: "who sees it"}, {Key: "quiet", Label: "does not spook fish"},
		{Key: "seconds", Label: "seconds to deploy and stow"}, {Key: "cable", Label: "cable along its way"},
		{
			Key:   "folds",
			Label: "speed at which it folds",
		}, {Key: "other_boat", Label: "goes to another boat"}, {Key: "mass", Label: "mass"}}
	SonarPlaces = List{
		{Key: "bow-motor", Label: "on the bow motor"}, {Key: "console-pole", Label: "pole by the console"},
		{Key: "bow-pole", Label: "pole at the bow"}, {Key: "portable", Label: "portable unit"}}
	// Hinges are the edge on which a lid turns.
	Hinges = List{
		{Key: "aft", Label: "at its after edge"}, {Key: "fore", Label: "at its fore edge"},
		{Key: "port", Label: "at its port edge"}, {Key: "starboard", Label: "at its starboard edge"}}
)

// The words of what must be aboard.
var (
	// SafetyClasses are what safety equipment is, as rules ask for it.
	SafetyClasses = List{
		{Key: "lifejacket", Label: "lifejacket"}, {Key: "throwable", Label: "throwable"},
		{
			Key:   "extinguisher",
			Label: "extinguisher, rating not said",
		}, {Key: "extinguisher 5-B", Label: "extinguisher 5-B"},
		{Key: "extinguisher 10-B", Label: "extinguisher 10-B"}, {Key: "extinguisher 20-B", Label: "extinguisher 20-B"},
		{Key: "extinguisher B-I", Label: "extinguisher B-I"}, {Key: "extinguisher B-II", Label: "extinguisher B-II"},
		{Key: "fire blanket", Label: "fire blanket"},
		{Key: "flare day", Label: "day signal"}, {Key: "flare night", Label: "night flare"},
		{Key: "flare day and night", Label: "flare for day and night"},
		{Key: "distress flag", Label: "distress flag"}, {Key: "distress light", Label: "electric distress light"},
		{Key: "horn", Label: "horn"}, {Key: "whistle", Label: "whistle"}, {Key: "bell", Label: "bell"},
		{Key: "stop cord", Label: "stop-cord"}, {Key: "navigation lights", Label: "navigation lights"},
		{
			Key:   "paddle",
			Label: "paddle or oar",
		}, {Key: "anchor", Label: "anchor"}, {Key: "anchor line", Label: "anchor line"},
		{
			Key:   "bilge pump",
			Label: "bilge pump",
		}, {Key: "bailer", Label: "bailer"}, {Key: "drain plug", Label: "drain plug"},
		{Key: "spare plug", Label: "spare drain plug"}, {Key: "radio", Label: "radio"},
		{
			Key:   "beacon",
			Label: "beacon",
		}, {Key: "messenger", Label: "satellite messenger"}, {Key: "phone", Label: "phone"},
		{Key: "first aid", Label: "first-aid kit"}, {Key: "knife", Label: "knife"}, {Key: "lamp", Label: "lamp"},
		{Key: "tow line", Label: "tow line"}, {Key: "drogue", Label: "drogue"}, {Key: "compass", Label: "compass"},
		{
			Key:   "ladder",
			Label: "way back aboard",
		}, {Key: "tether", Label: "tether"}, {Key: "suit", Label: "floating suit"},
		{
			Key:   "grab bag",
			Label: "grab bag",
		}, {Key: "water", Label: "drinking water"}, {Key: "blanket", Label: "warm blanket"},
		{
			Key:   "hole plug",
			Label: "plug or putty for holes",
		}, {Key: "toolkit", Label: "tools"}, {Key: "toilet", Label: "toilet"},
		{Key: "fenders", Label: "fenders"}, {Key: "papers", Label: "wallet of papers"}}
	CarriagePropulsion = List{
		{Key: "outboard", Label: "an outboard"},
		{Key: "inboard", Label: "an inboard or sterndrive"},
		{Key: "electric", Label: "an electric motor"},
		{Key: "none", Label: "oars or paddles"},
	}
	CarriageFuels = List{
		{Key: "petrol", Label: "petrol"},
		{Key: "diesel", Label: "diesel"},
		{Key: "none", Label: "none"},
	}
	FixedSpots = List{{Key: "helm", Label: "at the helm"}, {Key: "bow", Label: "at the bow"},
		{Key: "stern_port", Label: "at the stern, port"}, {Key: "stern", Label: "at the stern, middle"},
		{Key: "stern_starboard", Label: "at the stern, starboard"}, {Key: "side_port", Label: "amidships, port"},
		{Key: "side_starboard", Label: "amidships, starboard"}}
	CarriageWaters = List{
		{Key: "inland", Label: "inland"},
		{Key: "coastal", Label: "coastal"},
		{Key: "offshore", Label: "offshore"},
	}
	CarriageUses = List{
		{Key: "private", Label: "private"},
		{Key: "hire", Label: "for hire"},
		{Key: "event", Label: "an event"},
	}
	CarriagePer    = List{{Key: "boat", Label: "the boat"}, {Key: "person", Label: "each person"}}
	CarriageStatus = List{
		{Key: "met", Label: "met"},
		{Key: "short", Label: "missing"},
		{Key: "expired", Label: "out of date"},
		{Key: "slow", Label: "too slow"},
		{Key: "size", Label: "wrong size"},
		{Key: "not_asked", Label: "not asked"},
	}
	PaperKinds = List{{Key: "registration", Label: "registration"}, {Key: "insurance", Label: "insurance"},
		{
			Key:   "licence",
			Label: "licence",
		}, {Key: "permit", Label: "permit"}, {Key: "subscription", Label: "subscription"},
		{Key: "other", Label: "other paper"}}
	// ListStages are the stages of a checklist, in the order of the day.
	ListStages = List{
		{Key: "evening", Label: "The evening before"},
		{Key: "load", Label: "Loading"},
		{Key: "road", Label: "Road"},
		{Key: "ramp", Label: "Ramp"},
		{Key: "off", Label: "Before the lines are off"},
		{Key: "way", Label: "Under way"},
		{Key: "anchor", Label: "Lying at anchor"},
		{Key: "recover", Label: "Recovery"},
		{Key: "home", Label: "Home"},
	}
	JobKinds = List{{Key: "defect", Label: "defect"}, {Key: "incident", Label: "incident"}}
	// JobStates are how far a job is.
	JobStates = List{{Key: "open", Label: "open"}, {Key: "doing", Label: "being done"}, {Key: "done", Label: "done"}}
)

// The words of electrics.
var (
	// Chemistries of batteries; core/power has what is usual of each.
	Chemistries = List{{Key: "flooded", Label: "flooded lead"}, {Key: "agm", Label: "AGM"}, {Key: "gel", Label: "gel"},
		{Key: "lifepo4", Label: "lithium iron phosphate"}}
	// ChargedBy is how small things are charged.
	ChargedBy = List{{Key: "usb", Label: "USB"}, {Key: "12v", Label: "a 12 V socket"}, {Key: "mains", Label: "a mains charger"},
		{Key: "own", Label: "a charger of its own"}}
	BankRoles = List{{Key: "start", Label: "starts the engine"}, {Key: "motor", Label: "drives the bow motor"},
		{Key: "house", Label: "house"}, {Key: "sonar", Label: "sonar"}, {Key: "spare", Label: "spare"}}
	// NetParts stand between banks and circuits; core/circuits has what each may do.
	NetParts = List{{Key: "selector", Label: "selector, 1, 2 or both"}, {Key: "switch", Label: "kill switch"},
		{Key: "breaker", Label: "breaker"}, {Key: "fuse", Label: "fuse"}, {Key: "bus", Label: "bus bar or fuse block"},
		{Key: "panel", Label: "switch panel"}}
	// LoadKinds are what hangs on circuits; core/power has what each usually draws, and when.
	LoadKinds = List{{Key: "lights", Label: "navigation lights"}, {Key: "anchor-light", Label: "anchor light"},
		{
			Key:   "sonar",
			Label: "sonar display",
		}, {Key: "scanner", Label: "sonar that looks ahead"}, {Key: "plotter", Label: "chart plotter"},
		{Key: "radio", Label: "radio"}, {Key: "livewell", Label: "livewell pump"}, {Key: "bait", Label: "bait pump"},
		{Key: "aerator", Label: "aerator"}, {Key: "bilge", Label: "bilge pump"}, {Key: "bow-motor", Label: "bow motor"},
		{Key: "shallow-anchor", Label: "shallow-water anchor"}, {Key: "windlass", Label: "windlass"},
		{
			Key:   "washdown",
			Label: "washdown pump",
		}, {Key: "lamps", Label: "working lamps"}, {Key: "deck-light", Label: "deck light"},
		{Key: "horn", Label: "horn"}, {Key: "tabs", Label: "trim tabs"}, {Key: "stereo", Label: "stereo"},
		{Key: "socket", Label: "socket for phones"}, {Key: "fridge", Label: "cool box"}, {Key: "wiper", Label: "wiper"},
		{Key: "engine", Label: "the engine itself"}, {Key: "other", Label: "something else"}}
	DrawKnown = List{{Key: "guess", Label: "a guess"}, {Key: "plate", Label: "from a plate"},
		{Key: "measured", Label: "measured"}}
	// WireLoses is what of the volts may be lost; core/wire has the shares.
	WireLoses = List{{Key: "must", Label: "3 %, it must not starve"}, {Key: "other", Label: "10 %"}}
	// ChargerKinds say when a bank is charged.
	ChargerKinds = List{
		{Key: "engine", Label: "the engine, under way"},
		{Key: "shore", Label: "a charger on shore power"},
		{Key: "generator", Label: "a generator"},
		{Key: "solar", Label: "a solar panel"},
	}
)

// Lists by the names that the schema and the web app have for them.
var Lists = map[string]List{
	"mass_known": MassKnown, "shapes": Shapes, "turns": Turns, "conditions": Conditions, "hazards": Hazards,
	"spots":  Spots,
	"onlies": Onlies, "loans": Loans, "rides": Rides, "mass_kinds": MassKinds, "tank_kinds": TankKinds,
	"level_known": LevelKnown,
	"materials":   Materials, "propulsion": Propulsion, "boat_kinds": BoatKinds, "counted": Counted,
	"limit_sources": LimitSources,
	"setup_stages":  SetupStages, "dryness": Dryness, "lids": Lids, "place_forms": PlaceForms, "levels": Levels,
	"trailer_schools": TrailerSchools,
	"roles":           Roles, "left_gear": LeftGear, "permissions": Permissions, "units": Units, "themes": Themes, "kit_sorts": KitSorts,
	"kit_per": KitPer, "notes": Notes, "schools": Schools, "fuel_schools": FuelSchools,
	"trip_kinds": TripKinds, "trip_roles": TripRoles, "phase_kinds": PhaseKinds, "stages": Stages,
	"fitting_kinds": FittingKinds, "stands": Stands, "methods": Methods, "panels": Panels, "backs": Backs, "comes_off": ComesOff,
	"wets": Wets, "metals": Metals, "waters": Waters, "part_states": PartStates, "hinges": Hinges,
	"sonar_criteria": SonarCriteria, "sonar_places": SonarPlaces,
	"safety_classes": SafetyClasses, "carriage_propulsion": CarriagePropulsion, "carriage_fuels": CarriageFuels, "fixed_spots": FixedSpots,
	"carriage_waters": CarriageWaters, "carriage_uses": CarriageUses, "carriage_per": CarriagePer, "carriage_status": CarriageStatus,
	"charged_by": ChargedBy, "chemistries": Chemistries, "bank_roles": BankRoles, "net_parts": NetParts, "load_kinds": LoadKinds, "draw_known": DrawKnown,
	"wire_loses": WireLoses, "charger_kinds": ChargerKinds,
	"paper_kinds": PaperKinds, "list_stages": ListStages, "job_kinds": JobKinds, "job_states": JobStates,
}
