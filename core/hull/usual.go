package hull

// Motor is what outboards of a power usually weigh, dry.
type Motor struct {
	HP float64 `json:"hp"`
	Kg float64 `json:"kg"`
}

// Motors are usual four-stroke outboards with a short or long shaft. Practice, no
// source: guesses until someone reads the plate or weighs.
var Motors = []Motor{{2.5, 17}, {4, 25}, {6, 27}, {8, 38}, {9.9, 41}, {15, 51}, {20, 54}, {25, 60}, {30, 72}, {40, 98}, {50, 104},
	{60, 115}, {75, 160}, {90, 164}, {115, 174}, {150, 210}, {200, 228}, {250, 255}, {300, 270}}

// dryKgPerM3 is what a boat of a form weighs without motor, battery and liquids, by
// length times greatest beam times depth amidships. Practice, no source: aluminium
// and light skiffs are at half of glass boats with a liner.
var dryKgPerM3 = map[string]float64{"vee": 62, "flat": 34, "skiff": 40, "round": 36, "craft": 160}

// DryKgPerM3 is the usual mass of a form; see above.
func DryKgPerM3(form string) float64 { return dryKgPerM3[form] }
