package hull

import (
	"math"
	"slices"

	"ergasia/core/check"
)

// Tape holds what a person measured, by the measures' keys: lengths in metres,
// angles in degrees.
type Tape map[string]float64

// Measure is one thing to measure.
type Measure struct {
	Key   string  `json:"key"`
	Label string  `json:"label"`
	How   string  `json:"how" doc:"Where to hold the tape"`
	Unit  string  `json:"unit" enum:"m,deg"`
	Low   float64 `json:"low"`
	High  float64 `json:"high"`
	Usual float64 `json:"usual" doc:"Of a likely boat of this form, to begin from"`
}

// Form is a kind of hull that is made from at most twelve measures.
type Form struct {
	Name     string    `json:"name"`
	Title    string    `json:"title"`
	About    string    `json:"about"`
	Measures []Measure `json:"measures"`
	rules    []rule
	loft     func(Tape) Hull
}

// rule is something that measures must not do together. A soft one only looks
// wrong; the hull can still be made.
type rule struct {
	key  string // of the measure that is likely the wrong one
	bad  func(Tape) bool
	says string
	soft bool
}

// Doubt is a measure that looks wrong though a hull can be made of it.
type Doubt struct {
	Key      string `json:"key"`
	Sentence string `json:"sentence"`
}

// Forms are the hulls that can be made from a tape, in the order they are offered.
func Forms() []Form { return forms }

// FormNamed gives the form with that name.
func FormNamed(name string) (Form, bool) {
	i := slices.IndexFunc(forms, func(f Form) bool { return f.Name == name })
	if i < 0 {
		return Form{}, false
	}
	return forms[i], true
}

// Usual is the tape of a likely boat of the form; every figure is to be measured.
func (f Form) Usual() Tape {
	t := Tape{}
	for _, m := range f.Measures {
		t[m.Key] = m.Usual
	}
	return t
}

// Check says which measure is wrong, as check.Faults, or nil: each missing,
// unknown or out of bounds, and each that contradicts another.
func (f Form) Check(field string, t Tape) error {
	var fs check.Faults
	for _, m := range f.Measures {
		v, ok := t[m.Key]
		if !ok {
			fs.Add(field+m.Key, nil, m.Label+" is missing")
			continue
		}
		fs.Within(field+m.Key, v, m.Low, m.High)
	}
	for key := range t {
		if !slices.ContainsFunc(f.Measures, func(m Measure) bool { return m.Key == key }) {
			fs.Add(field+key, nil, "is no measure of a "+f.Title)
		}
	}
	if len(fs) > 0 {
		slices.SortFunc(fs, func(a, b check.Fault) int { return compare(a.Field, b.Field) })
		return fs
	}
	for _, r := range f.rules {
		if !r.soft && r.bad(t) {
			fs.Add(field+r.key, t[r.key], r.says)
		}
	}
	return fs.Err()
}

func compare(a, b string) int {
	if a < b {
		return -1
	}
	return 1
}

// Doubts lists the measures that look wrong. The tape must have passed Check.
func (f Form) Doubts(t Tape) []Doubt {
	doubts := []Doubt{}
	for _, r := range f.rules {
		if r.soft && r.bad(t) {
			doubts = append(doubts, Doubt{Key: r.key, Sentence: r.says})
		}
	}
	return doubts
}

// Hull lofts the measures. The tape must have passed Check.
func (f Form) Hull(t Tape) Hull { return f.loft(t) }

func metres(key, label, how string, low, high, usual float64) Measure {
	return Measure{Key: key, Label: label, How: how, Unit: "m", Low: low, High: high, Usual: usual}
}

func angle(key, label, how string, low, high, usual float64) Measure {
	return Measure{Key: key, Label: label, How: how, Unit: "deg", Low: low, High: high, Usual: usual}
}

// The measures that most forms share. Bounds are practice: they keep typing
// errors out and stop no real boat.
func length(usual float64) Measure {
	return metres("length_m", "Length", "foot of the transom to the stem, along the sheer's height", 1.5, 24, usual)
}
func beam(usual float64) Measure {
	return metres("beam_m", "Beam at the sheer", "greatest, outside to outside", 0.4, 8, usual)
}
func transomBeam(usual float64) Measure {
	return metres("transom_beam_m", "Beam at the transom", "at the sheer", 0.2, 8, usual)
}
func chineBeam(usual float64) Measure {
	return metres("chine_beam_m", "Chine beam", "greatest, chine to chine", 0.2, 8, usual)
}
func depthAft(usual float64) Measure {
	return metres("depth_aft_m", "Side depth aft", "keel to sheer at the transom", 0.15, 4, usual)
}
func depthAmidships(usual float64) Measure {
	return metres("depth_amidships_m", "Side depth amidships", "keel to sheer, half-way along", 0.15, 4, usual)
}
func depthForward(usual float64) Measure {
	return metres("depth_forward_m", "Height of the stem", "level of the lowest keel to the sheer at the bow", 0.15, 4,
		usual)
}
func forefoot(usual float64) Measure {
	return metres("forefoot_m", "Forefoot", "from the stem aft to where the keel begins to rise", 0.1, 20, usual)
}
func notch(usual float64) Measure {
	return metres("notch_m", "Transom's lowest edge", "keel to the notch; the side depth aft where there is none", 0.1, 4,
		usual)
}
func rake(usual float64) Measure {
	return angle("rake_deg", "Rake of the transom", "how far its top leans aft of upright", 0, 35, usual)
}

// wider refuses a measure that must not be more than another.
func wider(key, than, says string) rule {
	return rule{key: key, bad: func(t Tape) bool { return t[key] > t[than] }, says: says, soft: false}
}

// common are the contradictions that any form can have.
var common = []rule{
	wider("transom_beam_m", "beam_m", "beam at the transom is wider than the greatest beam at the sheer"),
	wider("chine_beam_m", "beam_m", "chine beam is wider than the beam at the sheer"),
	wider("notch_m", "depth_aft_m", "the transom's lowest edge is higher than the side depth aft"),
	wider("forefoot_m", "length_m", "the forefoot is longer than the boat"),
	wider("beam_m", "length_m", "beam at the sheer is more than the length"),
	doubt("beam_m", "beam is over half the length: is one of them half-breadth, or in other units?",
		func(t Tape) bool { return t["beam_m"] > 0.55*t["length_m"] && t["beam_m"] <= t["length_m"] }),
	doubt("beam_m", "beam is under a fifth of the length: was half of it measured?",
		func(t Tape) bool { return t["beam_m"] < 0.2*t["length_m"] }),
	doubt("depth_amidships_m", "side depth amidships is far off its neighbours: was it taken from the chine, or from the sole?",
		func(t Tape) bool {
			low, high := min(t["depth_aft_m"], t["depth_forward_m"]), max(t["depth_aft_m"], t["depth_forward_m"])
			return t["depth_amidships_m"] < 0.75*low || t["depth_amidships_m"] > 1.15*high
		}),
	doubt("depth_aft_m", "side depth aft is more than half the beam: was it measured along a slope?",
		func(t Tape) bool { return t["depth_aft_m"] > 0.62*t["beam_m"] }),
	doubt("notch_m", "the transom's lowest edge is under half of the side depth: was it measured from the keel?",
		func(t Tape) bool { return t["notch_m"] > 0 && t["notch_m"] < 0.5*t["depth_aft_m"] }),
}

func doubt(key, says string, bad func(Tape) bool) rule {
	return rule{key: key, bad: bad, says: says, soft: true}
}

// deadriseRules hold for forms with a chine: it must lie under the sheer.
var deadriseRules = []rule{
	{key: "transom_deadrise_deg", bad: func(t Tape) bool {
		return transomChine(t)/2*tanDeg(t["transom_deadrise_deg"]) >= t["depth_aft_m"]
	}, says: "deadrise at the transom puts the chine over the sheer", soft: false},
	{key: "amidships_deadrise_deg", bad: func(t Tape) bool {
		return t["chine_beam_m"]/2*tanDeg(t["amidships_deadrise_deg"]) >= min(t["depth_amidships_m"],
			t["depth_forward_m"]*stemChine)
	}, says: "deadrise amidships puts the chine over the sheer or the stem", soft: false},
	doubt("amidships_deadrise_deg", "deadrise amidships is less than at the transom: were the two swapped?",
		func(t Tape) bool { return t["amidships_deadrise_deg"] < t["transom_deadrise_deg"]-1 }),
	doubt("chine_beam_m", "chine beam is under two thirds of the beam: such flare is rare",
		func(t Tape) bool { return t["chine_beam_m"] < 0.66*t["beam_m"] }),
}

// with gives the rules of a form whose measures all occur in them.
func with(measures []Measure, sets ...[]rule) []rule {
	has := func(key string) bool {
		return slices.ContainsFunc(measures, func(m Measure) bool { return m.Key == key })
	}
	needs := map[string][]string{"forefoot_m": {"length_m"}, "notch_m": {"depth_aft_m"}}
	var kept []rule
	for _, set := range sets {
		for _, r := range set {
			if has(r.key) && !slices.ContainsFunc(needs[r.key], func(k string) bool { return !has(k) }) {
				kept = append(kept, r)
			}
		}
	}
	return kept
}

var vee = []Measure{
	length(4.8), beam(1.9), transomBeam(1.75), chineBeam(1.55),
	angle("transom_deadrise_deg", "Deadrise at the transom",
		"of the bottom, over level; 12 or less is a semi-V, over 18 a deep V", 0, 35, 10),
	angle("amidships_deadrise_deg", "Deadrise amidships", "half-way along", 0, 45, 13),
	depthAft(0.65), depthAmidships(0.68), depthForward(0.9), forefoot(1.6), notch(0.5), rake(12),
}

var flat = []Measure{
	length(4.3), beam(1.65), transomBeam(1.6),
	metres("bottom_beam_m", "Bottom's breadth", "greatest, corner to corner", 0.2, 8, 1.22),
	metres("bow_beam_m", "Breadth of the square bow", "at the sheer", 0.1, 8, 1.2),
	depthAft(0.52), depthAmidships(0.52), depthForward(0.66),
	metres("bow_rise_m", "Rise of the bow's lower edge", "level of the bottom to the lower edge of the square bow", 0, 3,
		0.38),
	metres("forefoot_m", "Rising bottom", "from the bow aft to where the bottom begins to rise", 0.1, 20, 1.1),
	notch(0.39), rake(12),
}

var skiff = []Measure{
	length(5.1), beam(1.8), transomBeam(1.5), chineBeam(1.5),
	angle("transom_deadrise_deg", "Deadrise at the transom", "of the bottom, over level", 0, 35, 3),
	angle("entry_deadrise_deg", "Deadrise at the entry", "a fifth of the length from the stem", 0, 60, 26),
	depthAft(0.5), depthAmidships(0.52), depthForward(0.66), forefoot(1.3), notch(0.5), rake(12),
}

var round = []Measure{
	length(4.5), beam(1.7), transomBeam(1.3),
	metres("half_depth_beam_m", "Beam at half the depth, amidships", "side to side, half-way up from keel to sheer", 0.2,
		8, 1.5),
	metres("transom_half_depth_beam_m", "Beam at half the depth, transom", "the same at the transom", 0.1, 8, 1.08),
	depthAft(0.6), depthAmidships(0.6), depthForward(0.85),
	metres("rocker_aft_m", "Keel's rise aft", "level of the lowest keel to the foot of the transom", 0, 1.5, 0.04),
	forefoot(1.5), notch(0.5), rake(8),
}

var craft = []Measure{
	length(3.2), beam(1.2), transomBeam(1.12), chineBeam(1.02),
	angle("transom_deadrise_deg", "Deadrise at the transom", "of the bottom, over level", 0, 35, 20),
	angle("amidships_deadrise_deg", "Deadrise amidships", "half-way along", 0, 45, 22),
	metres("depth_aft_m", "Depth aft", "keel to the rail where deck and hull join, at the transom", 0.15, 4, 0.42),
	metres("depth_amidships_m", "Depth amidships", "the same, half-way along", 0.15, 4, 0.48),
	metres("depth_forward_m", "Depth forward", "level of the lowest keel to the rail at the bow", 0.15, 4, 0.62),
	forefoot(1.0),
	metres("intake_m", "Lowest air intake", "keel's level to its lower edge", 0.1, 4, 0.6),
	metres("intake_from_transom_m", "Air intake, from the transom", "along the boat", 0, 10, 1.2),
}

var forms = []Form{
	{Name: "vee", Title: "V bottom, hard chine",
		About: "Semi-V and deep V, glass or metal: most open boats with an outboard.", Measures: vee,
		rules: with(vee, common, deadriseRules), loft: loftVee},
	{Name: "flat", Title: "Flat bottom, square bow", About: "Flat-bottomed boats with a square, raked bow.",
		Measures: flat, rules: with(flat, common, flatRules), loft: loftFlat},
	{Name: "skiff", Title: "Fine-bowed skiff", About: "Nearly flat aft, sharp at the bow: poling and lake boats.",
		Measures: skiff, rules: with(skiff, common, skiffRules), loft: loftSkiff},
	{Name: "round", Title: "Rounded bottom", About: "No chine: rowing and pond boats, older open boats.", Measures: round,
		rules: with(round, common, roundRules), loft: loftRound},
	{Name: "craft", Title: "Personal watercraft", About: "A small closed hull that one sits on, fitted for fishing.",
		Measures: craft, rules: with(craft, common, deadriseRules), loft: loftCraft},
}

var flatRules = []rule{
	wider("bottom_beam_m", "beam_m", "the bottom is broader than the beam at the sheer"),
	wider("bow_beam_m", "beam_m", "the square bow is broader than the beam at the sheer"),
	{key: "bow_rise_m", bad: func(t Tape) bool { return t["bow_rise_m"] >= t["depth_forward_m"]-0.02 },
		says: "the bow's lower edge is at or over the sheer of the bow", soft: false},
	doubt("bow_rise_m", "the bow's lower edge hardly rises: was it measured from the bottom's level?",
		func(t Tape) bool { return t["bow_rise_m"] < 0.15*t["depth_forward_m"] }),
}

var skiffRules = []rule{
	{key: "transom_deadrise_deg", bad: func(t Tape) bool {
		return transomChine(t)/2*tanDeg(t["transom_deadrise_deg"]) >= t["depth_aft_m"]
	}, says: "deadrise at the transom puts the chine over the sheer", soft: false},
	{key: "entry_deadrise_deg", bad: func(t Tape) bool {
		return planLine(entry, transomChine(t)/2, t["chine_beam_m"]/2,
			1.9)*tanDeg(t["entry_deadrise_deg"]) >= stemChine*t["depth_forward_m"]
	}, says: "deadrise at the entry puts the chine over the stem", soft: false},
	doubt("entry_deadrise_deg", "deadrise at the entry is less than at the transom: were the two swapped?",
		func(t Tape) bool { return t["entry_deadrise_deg"] < t["transom_deadrise_deg"] }),
}

var roundRules = []rule{
	wider("half_depth_beam_m", "beam_m", "beam at half the depth is wider than the beam at the sheer: enter a boat with tumblehome by her offsets"),
	wider("transom_half_depth_beam_m", "transom_beam_m",
		"beam at half the depth of the transom is wider than at its sheer"),
	{key: "half_depth_beam_m", bad: func(t Tape) bool { return t["half_depth_beam_m"] < 0.5*t["beam_m"] },
		says: "beam at half the depth is under half of the beam: such a section is hollow, enter her by her offsets",
		soft: false},
	{key: "transom_half_depth_beam_m", bad: func(t Tape) bool { return t["transom_half_depth_beam_m"] < 0.5*t["transom_beam_m"] },
		says: "beam at half the depth of the transom is under half of its beam: enter her by her offsets", soft: false},
	{key: "rocker_aft_m", bad: func(t Tape) bool { return t["rocker_aft_m"] >= 0.7*t["depth_aft_m"] },
		says: "the keel rises aft to near the sheer", soft: false},
}

// superellipse gives the exponent n of (y/b)^n + (1-z/d)^n = 1 whose breadth at
// half the depth is the share that was measured: share^n + 2^-n = 1.
func superellipse(share float64) float64 {
	low, high := 1.0, 60.0
	share = min(share, 0.995)
	for range 80 {
		n := (low + high) / 2
		if math.Pow(share, n)+math.Pow(0.5, n) > 1 {
			low = n
		} else {
			high = n
		}
	}
	return low
}
