package fuel

import (
	"fmt"
	"slices"

	"ergasia/core/check"
)

// Rate is what the motor takes at a speed.
type Rate struct {
	Speed float64 // metres a second
	Flow  float64 // litres an hour
}

// Leg is a stretch of water at one speed.
type Leg struct {
	Distance float64 // metres
	Speed    float64 // metres a second
	Factor   float64 // by which sea, wind and current change the burn; 0 is 1
}

// Tank holds fuel; a can is a portable one.
type Tank struct {
	ID       string
	Capacity float64 // litres
	Now      float64 // litres
	Unusable float64 // litres that the pick-up does not reach
	Portable bool    // filled last
}

// School is how a reserve is reckoned.
type School string

// The schools.
const (
	Thirds  School = "thirds"  // a third out, a third home, a third kept
	Fixed   School = "fixed"   // the burn and so many litres
	Percent School = "percent" // the burn and a share of it
	Full    School = "full"    // always full: the reserve is what is left
)

// Schools in the order in which they are offered.
var Schools = []School{Thirds, Fixed, Percent, Full}

// AirGap is the share of a tank that is left empty, since fuel swells. Practice, no source.
const AirGap = 0.05

// Day is what is asked.
type Day struct {
	Legs     []Leg
	Rates    []Rate
	Tanks    []Tank
	School   School
	FixedL   float64 // litres, of Fixed
	Percent  float64 // of the burn, of Percent
	AirGap   float64 // share of each tank
	PerLitre float64 // price; 0 is not known
}

// Fill is what a tank gets.
type Fill struct {
	Tank string
	Add  float64 // litres
}

// Answer is what a day takes, in litres; distances in metres.
type Answer struct {
	Burn    float64
	PerLeg  []float64
	Reserve float64
	Need    float64 // burn, reserve, and what no pick-up reaches
	Fits    bool    // the tanks hold that, with their air gap
	Fill    []Fill  // by tank, in their order
	Short   float64 // that no tank has room for
	Cost    float64
	Range   float64 // at the last leg's speed in calm water, tanks filled to their air gap, the reserve kept
	Return  float64 // along the legs, where the way back takes all but the reserve; the whole way where it is never reached
}

// Check lists what is wrong with the question.
func (d Day) Check() error {
	var fs check.Faults
	if len(d.Legs) == 0 {
		fs.Add("legs", nil, "name at least one leg")
	}
	if len(d.Tanks) == 0 {
		fs.Add("tanks", nil, "name at least one tank")
	}
	checkRates(&fs, d.Rates)
	for i, l := range d.Legs {
		at := fmt.Sprintf("legs[%d].", i)
		fs.Within(at+"distance", l.Distance, 0, 2e6)
		fs.Within(at+"factor", l.Factor, 0, 10)
		if _, ok := FlowAt(d.Rates, l.Speed); !ok && len(d.Rates) > 0 {
			fs.Add(at+"speed", l.Speed, fmt.Sprintf("must be within the table of rates, from %.3g to %.3g m/s",
				slowest(d.Rates), fastest(d.Rates)))
		}
	}
	for i, t := range d.Tanks {
		at := fmt.Sprintf("tanks[%d].", i)
		fs.Within(at+"capacity", t.Capacity, 0, 5000)
		fs.Within(at+"now", t.Now, 0, t.Capacity)
		fs.Within(at+"unusable", t.Unusable, 0, t.Capacity)
	}
	fs.OneOf("school", string(d.School), string(Thirds), string(Fixed), string(Percent), string(Full))
	fs.Within("fixed_l", d.FixedL, 0, 5000)
	fs.Within("percent", d.Percent, 0, 500)
	fs.Within("air_gap", d.AirGap, 0, 0.5)
	fs.Within("price_per_l", d.PerLitre, 0, 1e6)
	return fs.Err()
}

func checkRates(fs *check.Faults, rates []Rate) {
	if len(rates) == 0 {
		fs.Add("rates", nil, "name what the motor takes at one speed or more")
	}
	seen := map[float64]bool{}
	for i, r := range rates {
		at := fmt.Sprintf("rates[%d].", i)
		fs.Within(at+"speed", r.Speed, 0.01, 60)
		fs.Within(at+"flow", r.Flow, 0.001, 1000)
		if seen[r.Speed] {
			fs.Add(at+"speed", r.Speed, "is in the table twice")
		}
		seen[r.Speed] = true
	}
}

func slowest(rates []Rate) float64 { return slices.MinFunc(rates, bySpeed).Speed }
func fastest(rates []Rate) float64 { return slices.MaxFunc(rates, bySpeed).Speed }

func bySpeed(a, b Rate) int {
	switch {
	case a.Speed < b.Speed:
		return -1
	case a.Speed > b.Speed:
		return 1
	}
	return 0
}

// FlowAt is litres an hour at a speed, linear between the rows of the table; false
// outside of it. A hair of rounding outside still counts as its end.
func FlowAt(rates []Rate, speed float64) (float64, bool) {
	const hair = 1e-9
	rates = slices.SortedFunc(slices.Values(rates), bySpeed)
	for i, r := range rates {
		switch {
		case speed > r.Speed-hair && speed < r.Speed+hair:
			return r.Flow, true
		case speed < r.Speed && i > 0:
			below := rates[i-1]
			return below.Flow + (r.Flow-below.Flow)*(speed-below.Speed)/(r.Speed-below.Speed), true
		case speed < r.Speed:
			return 0, false
		}
	}
	return 0, false
}

// Plan answers a question that passed Check.
func Plan(d Day) Answer {
	var a Answer
	for _, l := range d.Legs {
		litres := l.Distance * perMetre(d.Rates, l)
		a.PerLeg, a.Burn = append(a.PerLeg, litres), a.Burn+litres
	}
	full, unusable, now := 0.0, 0.0, 0.0
	for _, t := range d.Tanks {
		full, unusable, now = full+d.level(t), unusable+t.Unusable, now+t.Now
	}
	switch d.School {
	case Thirds:
		a.Reserve = a.Burn / 2
	case Fixed:
		a.Reserve = d.FixedL
	case Percent:
		a.Reserve = a.Burn * d.Percent / 100
	case Full:
		a.Reserve = max(0, full-unusable-a.Burn)
	}
	a.Need = a.Burn + a.Reserve + unusable
	a.Fits = a.Need <= full+1e-9
	a.fill(d, a.Need-now)
	a.Cost = d.PerLitre * a.added()
	last := d.Legs[len(d.Legs)-1]
	a.Range = max(0, full-unusable-a.Reserve) / perMetre(d.Rates, Leg{Speed: last.Speed})
	a.Return = turning(d, max(0, max(now, min(full, a.Need))-unusable-a.Reserve)/2)
	return a
}

// perMetre is litres a metre on a leg.
func perMetre(rates []Rate, l Leg) float64 {
	flow, _ := FlowAt(rates, l.Speed)
	if l.Factor > 0 {
		flow *= l.Factor
	}
	return flow / 3600 / l.Speed
}

// level is what a tank holds with its air gap; more, where more is in it now.
func (d Day) level(t Tank) float64 { return max(t.Now, t.Capacity*(1-d.AirGap)) }

// fill spreads litres over the tanks in their order, what is portable last.
func (a *Answer) fill(d Day, litres float64) {
	a.Fill = make([]Fill, len(d.Tanks))
	for _, portable := range []bool{false, true} {
		for i, t := range d.Tanks {
			if t.Portable == portable {
				add := max(0, min(litres, d.level(t)-t.Now))
				litres -= add
				a.Fill[i] = Fill{Tank: t.ID, Add: add}
			}
		}
	}
	if litres > 1e-9 {
		a.Short = litres
	}
}

func (a *Answer) added() (litres float64) {
	for _, f := range a.Fill {
		litres += f.Add
	}
	return litres
}

// turning is how far along the legs so many litres lead, metres; the whole way where
// they lead further.
func turning(d Day, litres float64) (metres float64) {
	for _, l := range d.Legs {
		rate := perMetre(d.Rates, l)
		if litres < l.Distance*rate {
			return metres + litres/rate
		}
		litres -= l.Distance * rate
		metres += l.Distance
	}
	return metres
}
