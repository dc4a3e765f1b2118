package words

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
)

// fieldNames are how fields are called where their key does not say it.
var fieldNames = map[string]string{
	"needs_dry": "stays dry", "keeps_dry": "keeps dry what it holds", "nickname": "also called",
	"kg": "mass", "max_kg": "load limit", "max_persons": "number of persons", "mass_known": "source of the mass",
	"known": "source",
	"at":    "position", "corner": "corner", "size": "size", "use_size": "size in use", "inside": "inside",
	"opening": "opening",
	"holds":   "load that it holds", "holds_kg": "load that it holds", "uses_per_day": "times a day",
	"used_from":  "post where it is used",
	"spares_for": "what it is a spare for", "owner_id": "owner", "restock_at": "count to buy more at",
	"expires_on": "last good day",
	"until_on":   "day it is due back", "starts_on": "first day", "ends_on": "last day",
	"every_days":  "days between services",
	"every_hours": "hours between services", "every_trips": "trips between services", "last_on": "day it was done last",
	"whom": "name", "way": "lent or borrowed", "parent_id": "place that it stands in",
	"kept_for_id":  "person it is kept for",
	"kept_for_tag": "tag it is kept for", "slots": "number of tubes or holders", "slot_diameter": "width of a tube",
	"water_density_kg_m3": "water", "sort": "sort", "per": "for each", "gear_id": "gear", "member_id": "person",
	"place_id": "place",
	"shed_id":  "place ashore", "box_id": "box", "holder_id": "person", "post_id": "post", "from_y": "starting place",
	"to_y":       "end place",
	"before_deg": "heel before", "after_deg": "heel after", "sigma_deg": "accuracy of the level", "csv": "table",
	"address":  "address",
	"measures": "", "outfit": "", "hull": "hull", "plate": "plate", "limits": "limit", "value": "",
	"freeboard": "freeboard",
	"trim_low":  "least trim", "trim_high": "greatest trim", "heel": "heel", "q": "search", "after": "page",
	"point_x":      "station's x",
	"safety_class": "safety equipment", "safety_also": "what it serves as instead", "fits_low": "lightest body that it fits",
	"fits_high": "heaviest body that it fits", "mmsi": "number of the distress button", "wallet_id": "wallet",
	"asked":           "order in which it is asked for",
	"half_section_yz": "half-section",
	"lies":            "", "held": "", "look": "", "moving": "", "rigging": "", "turn": "where it faces", "lean": "lean",
	"swing": "what it sweeps", "rod": "rod in it", "screen": "diagonal of its screen", "beam": "beam", "legs": "legs under it",
	"rated": "rating of its strap", "panel_mm": "thickness of the panel", "skin": "one skin of the panel", "base_mm": "thickness of its foot",
	"behind": "free behind", "room": "room for the drill", "foot": "its foot", "cut": "cut-out", "corner_mm": "radius of the corners",
	"curve": "radius of the wall", "pattern": "its hole", "length_mm": "length of the screws", "count": "count",
	"wet_m": "length under water", "diameter": "thickness", "clamp_to_water": "clamp to water", "foot_area": "what hangs at its foot",
	"holds_n_m": "moment that the clamp holds", "brace": "brace", "comes_off": "how often it comes off", "part_of": "what it was counted in",
	"dock": "foot of a unit or base", "fittings": "fitting", "keel_over_road": "keel over the road", "chain_m": "length of chain",
	"chain_mm": "thickness of the chain", "rope_m": "length of rope", "rope_mm": "thickness of the rope", "deck_mm": "thickness of the deck",
}

// vectors have an x, y and z: sizes, or points.
var vectors = map[string][]string{
	"size": {"length", "breadth", "height"}, "use_size": {"length", "breadth", "height"}, "inside": {"length", "breadth",
		"height"},
	"opening": {"along", "across"}, "at": {"forward", "to port", "up"}, "corner": {"forward", "to port", "up"},
	"foot": {"along", "across"}, "cut": {"along", "across"}, "pattern": {"along", "across"},
	"low": {"forward", "to port", "up"}, "high": {"forward", "to port", "up"},
}

var unitSuffix = regexp.MustCompile(`_(m|m2|m3|kg|deg|cm|mm|l|s|bar|n|m_s)$`)

// within is where a field was sent, which a person need not know.
var within = regexp.MustCompile(`^(body|path|query|header)\.`)

var segment = regexp.MustCompile(`^([^\[\]]*)(?:\[(\d+)\])?(?:\[(\d+)\])?$`)

// FieldName says in words which field a path of the interface is, such as
// "line 1, choices" for body.lines[0].choices.
func FieldName(path string) string {
	var names []string
	for _, part := range strings.Split(within.ReplaceAllString(path, ""), ".") {
		m := segment.FindStringSubmatch(part)
		if m == nil {
			return path
		}
		if name := oneName(m[1], m[2]); name != "" && !slices.Contains(names, name) {
			names = append(names, name)
		}
	}
	return strings.Join(names, ", ")
}

func oneName(key, index string) string {
	bare := unitSuffix.ReplaceAllString(key, "")
	name, known := fieldNames[key]
	if !known {
		name, known = fieldNames[bare]
	}
	if !known {
		name = strings.ReplaceAll(bare, "_", " ")
	}
	if index == "" {
		return name
	}
	n, _ := strconv.Atoi(index) // digits alone
	if axes, is := vectors[bare]; is && n < len(axes) {
		return strings.TrimSpace(name + ", " + axes[n])
	}
	return strings.TrimSuffix(name, "s") + " " + strconv.Itoa(n+1)
}
