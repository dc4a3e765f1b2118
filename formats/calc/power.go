package calc

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"time"

	"ergasia/core/check"
	"ergasia/core/power"
)

type powerIn struct {
	Banks []struct {
		ID         string   `json:"id"`
		Chemistry  string   `json:"chemistry"`
		Volts      float64  `json:"nominal_v"`
		Ah         float64  `json:"capacity_ah"`
		RatedH     *float64 `json:"rated_h"`
		Peukert    *float64 `json:"peukert"`
		Usable     *float64 `json:"usable"`
		SoC        *float64 `json:"soc"`
		Factor     *float64 `json:"factor"`
		Efficiency *float64 `json:"charge_efficiency"`
		Taper      bool     `json:"taper"`
	} `json:"banks"`
	Loads []struct {
		ID    string   `json:"id"`
		Bank  string   `json:"bank"`
		Amps  *float64 `json:"a"`
		Watts *float64 `json:"w"`
		Duty  *float64 `json:"duty"`
	} `json:"loads"`
	Phases []struct {
		Name   string             `json:"name"`
		Hours  float64            `json:"h"`
		On     []string           `json:"on"`
		Charge map[string]float64 `json:"charge_a"`
	} `json:"phases"`
}

type powerOut struct {
	Banks  []powerBank  `json:"banks"`
	Phases []powerPhase `json:"phases"`
}

type powerBank struct {
	ID      string   `json:"id"`
	End     float64  `json:"soc_end"`
	Drawn   float64  `json:"drawn_ah"`
	Charged float64  `json:"charged_ah"`
	Lost    float64  `json:"lost_ah"`
	Short   float64  `json:"short_ah"`
	EmptyAt *float64 `json:"empty_at_h"`
	FlatAt  *float64 `json:"flat_at_h"`
}

type powerPhase struct {
	Name string             `json:"name"`
	SoC  map[string]float64 `json:"soc_end"`
}

// system is the input as the engine has it; names that are none are faults.
func (in powerIn) system() (power.System, error) {
	var s power.System
	var fs check.Faults
	banks, loads := map[string]int{}, map[string]int{}
	for i, b := range in.Banks {
		one := power.Usual(b.ID, power.Chemistry(b.Chemistry), b.Volts, b.Ah)
		one.RatedH, one.Peukert, one.Usable = or(b.RatedH, one.RatedH), or(b.Peukert, one.Peukert), or(b.Usable, one.Usable)
		one.SoC, one.Factor = or(b.SoC, 1), or(b.Factor, 1)
		one.Efficiency, one.Taper = or(b.Efficiency, one.Efficiency), b.Taper
		if _, twice := banks[b.ID]; twice {
			fs.Add(fmt.Sprintf("banks[%d].id", i), b.ID, "must be an id of its own")
		}
		banks[b.ID], s.Banks = i, append(s.Banks, one)
	}
	for i, l := range in.Loads {
		at := fmt.Sprintf("loads[%d].", i)
		if _, twice := loads[l.ID]; twice {
			fs.Add(at+"id", l.ID, "must be an id of its own: a load hangs on one bank")
		}
		if _, ok := banks[l.Bank]; !ok {
			fs.Add(at+"bank", l.Bank, "must be the id of a bank")
		}
		loads[l.ID], s.Loads = i, append(s.Loads, power.Load{ID: l.ID})
	}
	if err := fs.Err(); err != nil {
		return s, err
	}
	for i, p := range in.Phases {
		at := fmt.Sprintf("phases[%d].", i)
		one := power.Phase{Name: p.Name, Hours: p.Hours, Charge: make([]float64, len(s.Banks))}
		for k, id := range p.On {
			l, ok := loads[id]
			if !ok {
				fs.Add(fmt.Sprintf("%son[%d]", at, k), id, "must be the id of a load")
				continue
			}
			if slices.Contains(p.On[:k], id) {
				fs.Add(fmt.Sprintf("%son[%d]", at, k), id, "is on already in this phase")
				continue
			}
			b := banks[in.Loads[l].Bank]
			amps := or(in.Loads[l].Amps, 0)
			if in.Loads[l].Watts != nil {
				amps = s.Banks[b].Amps(*in.Loads[l].Watts)
			}
			one.Draws = append(one.Draws, power.Draw{Load: l, Amps: amps * or(in.Loads[l].Duty, 1), Banks: []int{b}})
		}
		for id, amps := range p.Charge {
			b, ok := banks[id]
			if !ok {
				fs.Add(at+"charge_a", id, "must be the id of a bank")
				continue
			}
			one.Charge[b] = amps
		}
		s.Phases = append(s.Phases, one)
	}
	if err := fs.Err(); err != nil {
		return s, err
	}
	return s, s.Check()
}

func runPower(data []byte, _ time.Time) (any, error) {
	var in powerIn
	if err := json.Unmarshal(data, &in); err != nil {
		return nil, check.Faults{{Field: "input", Want: err.Error()}}
	}
	s, err := in.system()
	if err != nil {
		return nil, err
	}
	r, out := s.Run(), powerOut{}
	for i, b := range r.Banks {
		out.Banks = append(out.Banks, powerBank{ID: s.Banks[i].ID, End: b.End, Drawn: b.Drawn, Charged: b.Charged,
			Lost: b.Lost, Short: b.Short, EmptyAt: known(b.EmptyAt), FlatAt: known(b.FlatAt)})
	}
	for i, p := range r.Phases {
		one := powerPhase{Name: s.Phases[i].Name, SoC: map[string]float64{}}
		for k, soc := range p {
			one.SoC[s.Banks[k].ID] = soc
		}
		out.Phases = append(out.Phases, one)
	}
	return out, nil
}

// known is a number, or null where there is none.
func known(v float64) *float64 {
	if math.IsNaN(v) {
		return nil
	}
	return &v
}
