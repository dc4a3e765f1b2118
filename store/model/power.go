package model

import (
	"encoding/json"

	"github.com/google/uuid"
)

// Electrics are a boat's banks, circuits and what stands between them.
type Electrics struct {
	BoatID  uuid.UUID `gorm:"primaryKey"`
	CrewID  uuid.UUID
	Net     NetInput    `gorm:"serializer:json"`
	Learned LearnedList `gorm:"serializer:json"`
	Version int
}

// LearnedList is what was learned of a boat's banks; none is an empty list, never null.
type LearnedList []LearnedBank

// Of finds what was learned of a bank, or nil.
func (l LearnedList) Of(bank string) *LearnedBank {
	for i := range l {
		if l[i].Bank == bank {
			return &l[i]
		}
	}
	return nil
}

// MarshalJSON writes the list.
func (l LearnedList) MarshalJSON() ([]byte, error) {
	if l == nil {
		return []byte("[]"), nil
	}
	return json.Marshal([]LearnedBank(l))
}

// LearnedBank is what volts at rest after some days said of a bank.
type LearnedBank struct {
	Bank     string        `json:"bank" doc:"Its key"`
	Holds    float64       `json:"holds" doc:"Of what it held when new"`
	Low      float64       `json:"low" doc:"In 95 of 100 it holds more than this"`
	High     float64       `json:"high" doc:"and less than this"`
	ByAge    float64       `json:"by_age" doc:"What its age alone would say"`
	Evenings int           `json:"evenings"`
	On       string        `json:"on" doc:"The day of the last of them"`
	TestIn   int           `json:"test_in_d,omitempty" doc:"Days from then after which it has faded so far that it is to be tested or replaced"`
	Loads    []LearnedLoad `json:"loads,omitempty" doc:"What draws otherwise than said"`
}

// LearnedLoad is by what a circuit's draw is multiplied.
type LearnedLoad struct {
	Circuit string  `json:"circuit" doc:"Its key"`
	By      float64 `json:"by"`
	Sigma   float64 `json:"sigma"`
}

// RestVolts are a bank's volts at rest before and after a trip.
type RestVolts struct {
	Bank   string  `json:"bank" doc:"Its key"`
	Before float64 `json:"before_v"`
	After  float64 `json:"after_v"`
}

// TableName is its table.
func (Electrics) TableName() string { return "electrics" }

// NetInput is a boat's electrics as they are said. Keys tell its parts apart; they are
// chosen by who makes a part.
type NetInput struct {
	Banks    []BankInput    `json:"banks" maxItems:"8"`
	Parts    []PartInput    `json:"parts" maxItems:"50" doc:"What stands between banks and circuits"`
	Circuits []CircuitInput `json:"circuits" maxItems:"100"`
	Chargers []ChargerInput `json:"chargers,omitempty" maxItems:"12"`
	Wells    []WellInput    `json:"wells,omitempty" maxItems:"8" doc:"Livewells and bait tanks"`
	Starter  float64        `json:"starter_a,omitempty" doc:"What the engine's starter draws; 0 is a guess by her power"`
}

// BankInput is batteries that are charged and emptied together.
type BankInput struct {
	Key       string          `json:"key"`
	Name      string          `json:"name"`
	Role      string          `json:"role" words:"bank_roles"`
	Batteries []uuid.UUID     `json:"batteries" format:"uuid" maxItems:"12" doc:"Gear; all of one chemistry and size"`
	Fixed     *FixedBatteries `json:"fixed,omitempty" doc:"Or batteries that are no gear: counted among her masses"`
	Series    int             `json:"series" doc:"How many in series; what is more stands beside them"`
	HeldDown  bool            `json:"held_down,omitempty"`
	Vented    bool            `json:"vented,omitempty" doc:"Gas gets out of where it stands by a vent of its own"`
	Usable    float64         `json:"usable,omitempty" doc:"Share that is taken out; 0 is as usual of its chemistry"`
	Holds     float64         `json:"holds,omitempty" doc:"Share of its ampere-hours that it holds, as measured; 0 is by its age"`
}

// FixedBatteries stay in the boat, and are among her masses.
type FixedBatteries struct {
	Count     int     `json:"count"`
	Chemistry string  `json:"chemistry" words:"chemistries"`
	Volts     float64 `json:"volts" doc:"Of one"`
	AmpHours  float64 `json:"amp_hours" doc:"Of one, as new"`
	Cranking  float64 `json:"cranking_a,omitempty" doc:"Cold-cranking amperes; 0 is not said"`
	Since     string  `json:"in_use_since,omitempty" doc:"As 2024-04-01"`
	Mass      string  `json:"mass,omitempty" doc:"Name of the mass of hers that they are"`
}

// PartInput stands between banks and circuits.
type PartInput struct {
	Key      string     `json:"key"`
	Kind     string     `json:"kind" words:"net_parts"`
	Name     string     `json:"name"`
	From     []string   `json:"from" maxItems:"8" doc:"Keys of what feeds it: one, of a selector its 1 and its 2"`
	Rating   float64    `json:"rating_a,omitempty" doc:"Of a fuse or breaker; 0 is not said"`
	Ways     int        `json:"ways,omitempty" doc:"Of a panel or bus: how many may hang on it; 0 is not said"`
	At       *Vec       `json:"at_m,omitempty" doc:"Where it is in the boat"`
	PlaceID  *uuid.UUID `json:"place_id,omitempty" format:"uuid" doc:"The place that it is in, where it is under a lid"`
	Wire     float64    `json:"mm2,omitempty" doc:"Copper of the wire that feeds it; 0 is not known"`
	Near     float64    `json:"from_source_m,omitempty" doc:"Of a fuse or breaker: wire between its source and it; 0 is not measured"`
	Sheathed bool       `json:"sheathed,omitempty" doc:"That wire is in a sheath or conduit"`
}

// CircuitInput is a wire to one thing.
type CircuitInput struct {
	Key       string     `json:"key"`
	Name      string     `json:"name"`
	Kind      string     `json:"kind" words:"load_kinds"`
	From      string     `json:"from" doc:"Key of the part or bank that it hangs on"`
	Amps      float64    `json:"amps,omitempty" doc:"That it draws at its bank's volts, of a motor at full; 0 is as usual of its kind"`
	Known     string     `json:"known" words:"draw_known"`
	Duty      float64    `json:"duty,omitempty" doc:"Share of the time that it draws, as a timer has it; 0 is as usual"`
	Standing  float64    `json:"standing_a,omitempty" doc:"What it draws while it is stowed but live"`
	Setting   float64    `json:"setting,omitempty" doc:"Of a motor: at which share of full it is used; 0 is as usual"`
	On        []string   `json:"on,omitempty" words:"phase_kinds" maxItems:"12" doc:"When it is on; none is as usual of its kind"`
	Fuse      float64    `json:"fuse_a,omitempty" doc:"Of its own; 0 is none"`
	Near      float64    `json:"from_source_m,omitempty" doc:"Wire between what it hangs on and its fuse; 0 is not measured"`
	Sheathed  bool       `json:"sheathed,omitempty"`
	Wire      float64    `json:"mm2,omitempty" doc:"Copper; 0 is not known"`
	OneWay    float64    `json:"one_way_m,omitempty" doc:"As measured; 0 is by its route"`
	Route     []Vec      `json:"route_m,omitempty" maxItems:"40" doc:"As drawn, from what it hangs on to the thing"`
	Slack     float64    `json:"slack_m,omitempty" doc:"For what turns or comes off, and for ends"`
	Insul     float64    `json:"insulation_c,omitempty" doc:"That the insulation stands; 0 is 105"`
	Bundle    int        `json:"bundle,omitempty" doc:"Conductors that carry current, tied together; 0 is this one's two"`
	Engine    bool       `json:"engine_space,omitempty"`
	Loses     string     `json:"loses,omitempty" words:"wire_loses" doc:"How much it may lose on the way; as usual of its kind where it is left out"`
	Anyway    bool       `json:"anyway,omitempty" doc:"It is fused so, though its wire does not stand that"`
	Connector string     `json:"connector,omitempty"`
	Height    float64    `json:"connector_z_m,omitempty" doc:"Of its lowest connection over the keel; 0 is not measured"`
	Plug      float64    `json:"plug_mm,omitempty" doc:"Across its plug; 0 is not measured"`
	Hole      float64    `json:"hole_mm,omitempty" doc:"The narrowest hole on its way"`
	FittingID *uuid.UUID `json:"fitting_id,omitempty" format:"uuid" doc:"What hangs on it, where that is fastened to her"`
	GearID    *uuid.UUID `json:"gear_id,omitempty" format:"uuid" doc:"or gear"`
	Pump      *PumpInput `json:"pump,omitempty" doc:"Of a pump: what it moves, and its hose"`
	WiredBy   string     `json:"wired_by,omitempty"`
	CheckedBy string     `json:"checked_by,omitempty" doc:"Who looked at it again"`
	Note      string     `json:"note,omitempty"`
}

// PumpInput is a pump with its hose.
type PumpInput struct {
	Open   float64 `json:"open_l_h" doc:"Against no head, as its plate has it"`
	Shut   float64 `json:"shut_m,omitempty" doc:"Head at which it gives nothing; 0 is 3 m"`
	Lift   float64 `json:"lift_m,omitempty" doc:"From the water to the highest point of its hose"`
	Hose   float64 `json:"hose_m,omitempty"`
	Bore   float64 `json:"bore_mm,omitempty" doc:"Inside, of the hose; 0 is as wide as it need be"`
	Bends  int     `json:"bends,omitempty"`
	Well   string  `json:"well,omitempty" doc:"Key of the livewell that it fills"`
	Night  bool    `json:"night,omitempty" doc:"The small one that runs by night, in the other's stead"`
	Height float64 `json:"height_m,omitempty" doc:"Of a bilge pump, over the keel"`
	Float  string  `json:"float_tested_on,omitempty" doc:"When its float switch was tested last, as 2027-04-01"`
}

// WellInput is a livewell or a bait tank.
type WellInput struct {
	Key    string  `json:"key"`
	Name   string  `json:"name"`
	Tank   string  `json:"tank,omitempty" doc:"Name of the tank of hers that it is"`
	Litres float64 `json:"litres,omitempty" doc:"To its overflow; 0 is nine tenths of the tank"`
	Deep   float64 `json:"deep_m,omitempty" doc:"Of its water; 0 is the tank's height"`
	Drain  float64 `json:"drain_mm,omitempty" doc:"Across its drain"`
	Scoop  float64 `json:"scoop_mm,omitempty" doc:"Across the scoop that feeds it under way; 0 is none"`
	Lift   float64 `json:"scoop_lift_m,omitempty" doc:"From the water to where the scoop's hose ends"`
}

// ChargerInput charges one bank.
type ChargerInput struct {
	Kind string  `json:"kind" words:"charger_kinds"`
	Name string  `json:"name"`
	Bank string  `json:"bank" doc:"Key of the bank"`
	Amps float64 `json:"amps" doc:"Into it, at the most"`
}

// DayPower is how her batteries go out on a day.
type DayPower struct {
	Starts []BankLevel `json:"starts,omitempty" maxItems:"8" doc:"Of banks that are not full"`
	Night  *float64    `json:"night_charge_h,omitempty" doc:"Hours on the charger between the days of a trip; 8 where it is left out"`
}

// BankLevel is how full a bank is.
type BankLevel struct {
	Bank string  `json:"bank" doc:"Its key"`
	SoC  float64 `json:"soc" doc:"Share, 0 to 1"`
}

// PhasePower is what is otherwise than usual with her electrics in a phase.
type PhasePower struct {
	Turned    []Turned  `json:"turned,omitempty" maxItems:"10" doc:"Selectors and switches, from its beginning until they are turned again"`
	Off       []string  `json:"off,omitempty" maxItems:"100" doc:"Keys of circuits that are off in it"`
	On        []string  `json:"on,omitempty" maxItems:"100" doc:"and of those that are on besides the usual"`
	Settings  []Setting `json:"settings,omitempty" maxItems:"20" doc:"Of motors and of lamps with a dimmer"`
	Shore     bool      `json:"shore,omitempty" doc:"On the shore charger"`
	Generator bool      `json:"generator,omitempty" doc:"The generator runs"`
}

// Turned is a selector or switch in a position.
type Turned struct {
	Part string `json:"part" doc:"Its key"`
	To   string `json:"to" enum:"1,2,both,on,off"`
}

// Setting is at which share of full something is used.
type Setting struct {
	Circuit string  `json:"circuit" doc:"Its key"`
	Share   float64 `json:"share"`
}
