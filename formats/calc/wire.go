package calc

import (
	"encoding/json"
	"time"

	"ergasia/core/check"
	"ergasia/core/wire"
)

type wireIn struct {
	Amps       float64  `json:"current_a"`
	OneWay     float64  `json:"one_way_m"`
	Volts      float64  `json:"system_v"`
	Drop       *float64 `json:"drop"`
	Conductor  *float64 `json:"conductor_c"`
	Insulation *float64 `json:"insulation_c"`
	Bundle     *int     `json:"bundle"`
	Engine     bool     `json:"engine_space"`
	Continuous *bool    `json:"continuous"`
}

type wireOut struct {
	AWG      string  `json:"awg"`
	AWGArea  float64 `json:"awg_mm2"`
	Metric   float64 `json:"mm2"`
	Needs    float64 `json:"needs_mm2"`
	Drop     float64 `json:"drop_v"`
	Ampacity float64 `json:"ampacity_a"`
	Decided  string  `json:"decided_by"`
	Fuse     float64 `json:"fuse_a"`
	FuseMost float64 `json:"fuse_max_a"`
	Mils     float64 `json:"circular_mils"`
}

func or[T any](v *T, usual T) T {
	if v == nil {
		return usual
	}
	return *v
}

func runWire(data []byte, _ time.Time) (any, error) {
	var in wireIn
	if err := json.Unmarshal(data, &in); err != nil {
		return nil, check.Faults{{Field: "input", Want: err.Error()}}
	}
	c := wire.Circuit{Amps: in.Amps, OneWay: in.OneWay, Volts: in.Volts, Drop: or(in.Drop, wire.DropMust),
		Conductor: or(in.Conductor, wire.UsualConductor), Insulation: or(in.Insulation, wire.UsualInsulation),
		Bundle: or(in.Bundle, 1), Engine: in.Engine, Continuous: or(in.Continuous, true)}
	a, err := c.Answer()
	if err != nil {
		return nil, err
	}
	return wireOut{AWG: a.AWG.Name, AWGArea: a.AWG.MM2, Metric: a.Metric.MM2, Needs: a.Needs, Drop: a.Drop,
		Ampacity: a.Ampacity, Decided: string(a.Decided), Fuse: a.Fuse, FuseMost: a.FuseMost, Mils: a.Mils}, nil
}
