package power

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"ergasia/app/kernel"
	"ergasia/core/check"
	"ergasia/core/power"
	"ergasia/core/pump"
	"ergasia/store/model"
)

// WellView is what runs through a livewell, and what that keeps.
type WellView struct {
	Key      string       `json:"key"`
	Name     string       `json:"name"`
	Litres   float64      `json:"litres"`
	Pumps    []PumpView   `json:"pumps"`
	Flow     float64      `json:"flow_l_h" doc:"On the mean, with timers; what runs by night only is not in it"`
	Turnover float64      `json:"turnover_h" doc:"How often an hour its water is new"`
	Volume   float64      `json:"by_volume_kg" doc:"Fish that it keeps by its litres"`
	Oxygen   float64      `json:"by_oxygen_kg" doc:"and by what they breathe"`
	Celsius  float64      `json:"water_c" doc:"Of the water that this is for"`
	Fills    float64      `json:"fills_h,omitempty" doc:"Hours to fill it; 0 is not known"`
	Drains   float64      `json:"drains_h,omitempty" doc:"and to run empty by its drain"`
	Scoop    []ScoopView  `json:"scoop,omitempty" doc:"What the scoop takes in at some speeds"`
	Kg       float64      `json:"kg" doc:"That its water weighs"`
	Night    *WellAtNight `json:"night,omitempty" doc:"With the small pump by night"`
}

// WellAtNight is a livewell with the small pump alone.
type WellAtNight struct {
	Flow     float64 `json:"flow_l_h"`
	Turnover float64 `json:"turnover_h"`
	Keeps    float64 `json:"keeps_kg"`
}

// PumpView is a pump through its hose.
type PumpView struct {
	Key   string  `json:"key" doc:"Of its circuit"`
	Name  string  `json:"name"`
	Flow  float64 `json:"flow_l_h" doc:"While it runs"`
	Duty  float64 `json:"duty"`
	Night bool    `json:"night"`
}

// ScoopView is what a scoop takes in at a speed.
type ScoopView struct {
	Speed float64 `json:"speed_m_s"`
	Flow  float64 `json:"flow_l_h"`
}

// BilgeView is a bilge pump.
type BilgeView struct {
	Key   string   `json:"key"`
	Name  string   `json:"name"`
	Flow  float64  `json:"flow_l_h" doc:"Through its hose; 0 is not known"`
	Hole  float64  `json:"hole_mm,omitempty" doc:"The hole 0.3 m under water that it keeps up with"`
	Banks []string `json:"banks" doc:"That feed it"`
}

const (
	usualWater = 15.0 // °C, where no day says one
	leakDepth  = 0.3  // metres: where small boats are holed
	fullTank   = 0.9  // of a tank, to its overflow
)

// checkWells and checkPump say what can't be.
func (e *Electrics) checkWells(fs *check.Faults) {
	seen := map[string]bool{}
	for i, w := range e.Input.Wells {
		at := fmt.Sprintf("wells[%d].", i)
		fs.Text(at+"key", w.Key, 1, 40)
		fs.Text(at+"name", w.Name, 1, 60)
		if seen[w.Key] {
			fs.Add(at+"key", w.Key, "must be a key of its own")
		}
		seen[w.Key] = true
		fs.Within(at+"litres", w.Litres, 0, 1000)
		fs.Within(at+"deep_m", w.Deep, 0, 2)
		fs.Within(at+"drain_mm", w.Drain, 0, 200)
		fs.Within(at+"scoop_mm", w.Scoop, 0, 200)
		fs.Within(at+"scoop_lift_m", w.Lift, 0, 3)
		if w.Tank != "" && e.tank(w.Tank) == nil {
			fs.Add(at+"tank", w.Tank, "must be one of her tanks")
		}
		if w.Tank == "" && w.Litres == 0 {
			fs.Add(at+"litres", w.Litres, "must be over 0 where it is no tank of hers")
		}
	}
}

func (e *Electrics) checkPump(fs *check.Faults, at string, p *model.PumpInput) {
	if p == nil {
		return
	}
	pumpOf(*p).Check(fs, at)
	fs.Within(at+"height_m", p.Height, 0, 3)
	if p.Well != "" && e.well(p.Well) == nil {
		fs.Add(at+"well", p.Well, "must be a livewell of this boat")
	}
	var d kernel.Date
	if p.Float != "" && d.UnmarshalText([]byte(p.Float)) != nil {
		fs.Add(at+"float_tested_on", p.Float, "must be a date, written as 2027-04-01")
	}
}

func pumpOf(p model.PumpInput) pump.Pump {
	return pump.Pump{
		Open:  p.Open,
		Shut:  cmp.Or(p.Shut, pump.Usual),
		Lift:  p.Lift,
		Hose:  p.Hose,
		Bore:  p.Bore / 1000,
		Bends: p.Bends,
	}
}

func (e *Electrics) tank(name string) *model.TankInput {
	list := e.laden.Craft.Input.Outfit.Tanks
	if i := slices.IndexFunc(list, func(t model.TankInput) bool { return t.Name == name }); i >= 0 {
		return &list[i]
	}
	return nil
}

func (e *Electrics) well(key string) *model.WellInput {
	if i := slices.IndexFunc(e.Input.Wells, func(w model.WellInput) bool { return w.Key == key }); i >= 0 {
		return &e.Input.Wells[i]
	}
	return nil
}

// litresOf a livewell to its overflow, and how deep its water is.
func (e *Electrics) litresOf(w model.WellInput) (litres, deep float64) {
	litres, deep = w.Litres, w.Deep
	if t := e.tank(w.Tank); t != nil {
		for i, one := range e.laden.Craft.Input.Outfit.Tanks {
			if one.Name == w.Tank && litres == 0 {
				litres = e.laden.Craft.Load.Tanks[i].Volume() * 1000 * fullTank
			}
		}
		deep = cmp.Or(deep, t.Size[2]*fullTank)
	}
	return litres, deep
}

// wells at a temperature of the water.
func (e *Electrics) wells(celsius float64) []WellView {
	list := []WellView{}
	for _, w := range e.Input.Wells {
		list = append(list, e.wellView(w, celsius))
	}
	return list
}

func (e *Electrics) wellView(w model.WellInput, celsius float64) WellView {
	litres, deep := e.litresOf(w)
	v := WellView{Key: w.Key, Name: w.Name, Litres: litres, Pumps: []PumpView{}, Celsius: celsius, Kg: litres}
	fills, night := 0.0, 0.0
	for _, c := range e.Input.Circuits {
		if c.Pump == nil || c.Pump.Well != w.Key {
			continue
		}
		one := PumpView{
			Key:   c.Key,
			Name:  c.Name,
			Flow:  pumpOf(*c.Pump).Flow(),
			Duty:  cmp.Or(c.Duty, power.UsualLoads[c.Kind].Duty),
			Night: c.Pump.Night,
		}
		v.Pumps = append(v.Pumps, one)
		if one.Night {
			night += one.Flow * one.Duty
			continue
		}
		fills += one.Flow
		v.Flow += one.Flow * one.Duty
	}
	well := pump.Well{Litres: litres, Flow: v.Flow, Celsius: celsius}
	v.Turnover, v.Volume, v.Oxygen = well.Turnover(), well.ByVolume(), well.ByOxygen()
	if fills > 0 {
		v.Fills = litres / fills
	}
	if h := pump.Drains(litres, deep, w.Drain/1000); !math.IsInf(h, 0) {
		v.Drains = h
	}
	if night > 0 {
		small := pump.Well{Litres: litres, Flow: night, Celsius: celsius}
		v.Night = &WellAtNight{Flow: night, Turnover: small.Turnover(), Keeps: small.Keeps()}
	}
	if w.Scoop > 0 {
		for _, r := range e.laden.Craft.Input.Outfit.Rates {
			v.Scoop = append(v.Scoop, ScoopView{Speed: r.Speed, Flow: pump.Scoop(w.Scoop/1000, r.Speed, w.Lift)})
		}
	}
	return v
}

// bilge are her bilge pumps, the strongest first.
func (e *Electrics) bilge() []BilgeView {
	list := []BilgeView{}
	for _, c := range e.Input.Circuits {
		if c.Kind != "bilge" {
			continue
		}
		one := BilgeView{Key: c.Key, Name: c.Name, Banks: append([]string{}, e.net.Feeding(c.From, nil)...)}
		if c.Pump != nil && c.Pump.Open > 0 {
			one.Flow = pumpOf(*c.Pump).Flow()
			one.Hole = pump.HoleFor(one.Flow, leakDepth) * 1000
		}
		list = append(list, one)
	}
	slices.SortStableFunc(list, func(a, b BilgeView) int { return cmp.Compare(b.Flow, a.Flow) })
	return list
}

// testedFor is how many days a float switch is trusted. Practice, no source.
const testedFor = 365

// ofBilge says what of her bilge pumps is not right.
func (e *Electrics) ofBilge() (list []PowerFinding) {
	var pumps []model.CircuitInput
	for _, c := range e.Input.Circuits {
		if c.Kind == "bilge" {
			pumps = append(pumps, c)
		}
	}
	for _, c := range pumps {
		t := told{about: c.Key, name: c.Name}
		e.ofOnePump(&t, c)
		list = append(list, t.list...)
	}
	if len(pumps) == 2 {
		list = append(list, e.ofPair(pumps[0], pumps[1])...)
	}
	return list
}

func (e *Electrics) ofOnePump(t *told, c model.CircuitInput) {
	if c.Pump == nil {
		return
	}
	if p := pumpOf(*c.Pump); c.Pump.Open > 0 && p.Flow() == 0 {
		t.wrong("A pump of more head, or a lower outlet.", "It does not lift water %s high: it gives nothing.",
			e.laden.LengthText(p.Lift))
	}
	var tested kernel.Date
	if tested.UnmarshalText([]byte(c.Pump.Float)) == nil && e.today.Sub(*tested.Time()).Hours() > 24*testedFor {
		t.note(
			"Lift its float by hand and hear it run, then say when.",
			"Its float switch was tested last on %s.",
			c.Pump.Float,
		)
	}
}

// ofPair says whether the second pump is there when the first is not: higher, or on
// another bank.
func (e *Electrics) ofPair(a, b model.CircuitInput) []PowerFinding {
	if a.Pump == nil || b.Pump == nil {
		return nil
	}
	higher := math.Abs(a.Pump.Height-b.Pump.Height) > 0.05
	if higher || !slices.Equal(e.net.Feeding(a.From, nil), e.net.Feeding(b.From, nil)) {
		return nil
	}
	t := told{about: b.Key, name: b.Name}
	t.wrong("Hang it on another bank, or set it a hand higher, so that it is dry until it is needed.",
		"It stands as low as %s and hangs on the same battery: what stops one stops both.", a.Name)
	return t.list
}

// leastTurnover is how often an hour water should be new where fish are kept. Practice, no source.
const leastTurnover = 2

// ofWells says what of her livewells is not right.
func (e *Electrics) ofWells() (list []PowerFinding) {
	for _, w := range e.Input.Wells {
		v := e.wellView(w, usualWater)
		if len(v.Pumps) == 0 {
			continue
		}
		t := told{about: v.Pumps[0].Key, name: w.Name}
		if v.Turnover < leastTurnover {
			t.note("A longer time on its timer, or a wider hose.",
				"Its water is new %.1f times an hour, and %d are usual.", v.Turnover, leastTurnover)
		}
		list = append(list, t.list...)
	}
	return list
}

// Keeps is how many kilograms of fish her livewells keep at a temperature of the water;
// false where nobody listed one with its pump.
func (e *Electrics) Keeps(celsius float64) (kg float64, known bool) {
	for _, v := range e.wells(celsius) {
		if len(v.Pumps) > 0 {
			kg, known = kg+min(v.Volume, v.Oxygen), true
		}
	}
	return kg, known
}

// spareAerator says where one lies that clips to a battery, and what it can hang on; empty
// where she has no livewell.
func (e *Electrics) spareAerator() string {
	if len(e.Input.Wells) == 0 {
		return ""
	}
	on := []string{}
	for _, c := range e.Input.Circuits {
		if c.Kind == "socket" {
			on = append(on, c.Name)
		}
	}
	for _, b := range e.Input.Banks {
		if voltsOf(b, e.laden) == 12 {
			on = append(on, b.Name)
		}
	}
	for _, g := range e.laden.Gear {
		at := e.laden.Stowage[g.ID]
		is := strings.Contains(strings.ToLower(g.Name), "aerator") || slices.Contains(g.Tags, "aerator")
		if !is || at.BoatID == nil || *at.BoatID != e.laden.Boat.ID {
			continue
		}
		said := kernel.Capital(g.Name) + " is aboard"
		if at.PlaceID != nil {
			if p := e.laden.Place(*at.PlaceID); p != nil {
				said += ", in the " + p.Name
			}
		}
		if len(on) == 0 {
			return said + ". It can hang on nothing of hers at 12 V."
		}
		return said + ". It can hang on the " + listed(on) + "."
	}
	return "No spare aerator is aboard for when the pump stops."
}
