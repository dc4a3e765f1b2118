package reach

import (
	"encoding/json"

	"ergasia/core/check"
)

const tmu = 0.036 // seconds in a time measurement unit

// Table are the times that a crew may change. Seconds there and back (a lid is
// opened and shut, a body bends and rises) unless the name says otherwise.
type Table struct {
	WalkPerM float64 `json:"walk_s_per_m" doc:"One way, obstructed: a pace of 0.86 m takes 17.0 TMU"`
	Rise     float64 `json:"rise_s_per_m" doc:"One way, up or down: a pace for each 0.2 m"`
	Turn     float64 `json:"turn_s" doc:"One way: 18.6 TMU"`
	Sit      float64 `json:"sit_s" doc:"Getting up from a seat 43.4 TMU, and down 34.7"`
	Bend     float64 `json:"bend_s" doc:"Bend, stoop or kneel on one knee 29.0 TMU, arise 31.9"`
	Kneel    float64 `json:"kneel_s" doc:"On both knees 69.4 TMU, arise 76.7"`
	Stretch  float64 `json:"stretch_s" doc:"Reaching over an arm's length, or high"`
	Grasp    float64 `json:"grasp_s" doc:"Taking hold of the piece, and letting go"`
	Hinged   float64 `json:"hinged_lid_s"`
	LiftOff  float64 `json:"lift_off_lid_s"`
	Latch    float64 `json:"latch_s"`
	Lock     float64 `json:"lock_s"`
	Box      float64 `json:"box_s" doc:"Opening and shutting a box, bag or tray that it lies in"`
	Aside    float64 `json:"stand_aside_s" doc:"Someone stands or sits on the lid"`
	Shift    float64 `json:"shift_s" doc:"Lifting something off that lies on top, and back"`
	ShiftKg  float64 `json:"shift_s_per_kg"`
	Look     float64 `json:"look_s" doc:"For each other thing in the same place, one way"`
	Labelled float64 `json:"labelled_share" doc:"What is left of looking where the place is labelled or has trays"`
	Sea      float64 `json:"sea_factor" doc:"Cold, wet and seaway; 1 is a quiet warm day"`
}

// DefaultTable is what a crew begins with.
func DefaultTable() Table {
	return Table{WalkPerM: 17.0 * tmu / 0.86, Rise: 17.0 * tmu / 0.2, Turn: 18.6 * tmu, Sit: (43.4 + 34.7) * tmu,
		Bend: (29.0 + 31.9) * tmu, Kneel: (69.4 + 76.7) * tmu, Stretch: 2, Grasp: 1.2, Hinged: 2.5, LiftOff: 6, Latch: 1.5,
		Lock: 6,
		Box:  4, Aside: 5, Shift: 3, ShiftKg: 0.2, Look: 0.5, Labelled: 0.5, Sea: 1}
}

// UnmarshalJSON reads a table; what it leaves out is as in the usual one, so that
// a table kept before a time was added stays whole.
func (t *Table) UnmarshalJSON(text []byte) error {
	type plain Table
	whole := plain(DefaultTable())
	if err := json.Unmarshal(text, &whole); err != nil {
		return err
	}
	*t = Table(whole)
	return nil
}

// Check adds what is wrong with a table.
func (t Table) Check(fs *check.Faults, field string) {
	for _, v := range []struct {
		name string
		s    float64
	}{{"walk_s_per_m", t.WalkPerM}, {"rise_s_per_m", t.Rise}, {"turn_s", t.Turn}, {"sit_s", t.Sit}, {"bend_s", t.Bend},
		{"kneel_s", t.Kneel}, {"stretch_s", t.Stretch}, {"grasp_s", t.Grasp}, {"hinged_lid_s", t.Hinged},
		{"lift_off_lid_s", t.LiftOff},
		{"latch_s", t.Latch}, {"lock_s", t.Lock}, {"box_s", t.Box}, {"stand_aside_s", t.Aside}, {"shift_s", t.Shift},
		{"shift_s_per_kg", t.ShiftKg}, {"look_s", t.Look}} {
		fs.Within(field+v.name, v.s, 0, 600)
	}
	fs.Within(field+"labelled_share", t.Labelled, 0, 1)
	fs.Within(field+"sea_factor", t.Sea, 0.5, 10)
}
