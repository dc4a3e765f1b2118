package model

// RateInput is what the motor takes at a speed.
type RateInput struct {
	Speed float64 `json:"speed_m_s"`
	Flow  float64 `json:"l_per_h"`
}

// FuelLeg is a stretch of a trip's way at one speed.
type FuelLeg struct {
	Name     string  `json:"name,omitempty"`
	Distance float64 `json:"distance_m"`
	Speed    float64 `json:"speed_m_s"`
	Factor   float64 `json:"factor,omitempty" doc:"By which sea, wind and current change the burn; 0 is 1"`
}

// FuelCan is a portable tank that goes along.
type FuelCan struct {
	Name     string  `json:"name"`
	Capacity float64 `json:"capacity_l"`
	Now      float64 `json:"now_l"`
}

// FuelPlan is what a trip's fuel is reckoned with.
type FuelPlan struct {
	Legs     []FuelLeg    `json:"legs" maxItems:"60"`
	Line     [][2]float64 `json:"line,omitempty" maxItems:"600" doc:"The way as drawn: latitude and longitude in degrees, from a GPX file"`
	Cans     []FuelCan    `json:"cans,omitempty" maxItems:"10"`
	School   string       `json:"school" words:"fuel_schools"`
	FixedL   float64      `json:"fixed_l,omitempty"`
	Percent  float64      `json:"percent,omitempty"`
	PerLitre float64      `json:"price_per_l,omitempty"`
	Learned  bool         `json:"learned,omitempty" doc:"Reckon with what the log has taught of the rates"`
}
