package fuel

import (
	"fmt"
	"slices"

	"ergasia/app/aboard"
	"ergasia/core/float"
	"ergasia/core/fuel"

	"gonum.org/v1/gonum/spatial/r3"
)

// chances are how likely the reserve is kept and she comes home, where the log says how
// sure her rates are: the burn is normal about what is expected, its 95 % interval that
// of the factor.
func (a *FuelAnswer) chances(d fuel.Day, learned *LearnedRates) {
	if learned == nil || learned.Factor <= 0 {
		return
	}
	const interval = 2 * 1.96 // standard deviations between the ends of 95 %
	sigma := a.Burn * (learned.High - learned.Low) / learned.Factor / interval
	aboardNow := 0.0
	for _, t := range a.Tanks {
		aboardNow += t.Now + t.Add
	}
	for _, t := range d.Tanks {
		aboardNow -= t.Unusable
	}
	keeps, reaches := float.Sure(aboardNow-a.Burn, sigma, a.Reserve), float.Sure(aboardNow-a.Burn, sigma, 0)
	a.Keeps, a.Reaches = &keeps, &reaches
}

// Tanks and masses that are tried.
var (
	bigger  = []float64{10, 20} // litres
	lighter = 50.0              // kg
)

// others is what a bigger tank, a further can and a lighter boat would do.
func others(s *aboard.Laden, d fuel.Day, r fuel.Answer) (list []Other) {
	base := s.Solved()
	total := base.Load.Total().Kg
	add := func(what string, metres, kg float64, at r3.Vec) {
		one := Other{What: what, Range: metres, Kg: kg}
		ledger := s.Ledger()
		ledger.Load.Masses = append(ledger.Load.Masses, float.Mass{Kg: kg, At: at})
		if f := s.SolvedWith(ledger).Figures; f != nil {
			one.Trim, one.Low = &f.TrimDeg, &f.Lowest.M
		}
		list = append(list, one)
	}
	litres := func(l float64) string {
		return fmt.Sprintf("%.0f %s", s.Units.Volume.FromSI(l), s.Units.Volume.Symbol)
	}
	first := slices.IndexFunc(d.Tanks, func(t fuel.Tank) bool { return !t.Portable })
	for _, more := range bigger {
		if first < 0 {
			break
		}
		other := d
		other.Tanks = slices.Clone(d.Tanks)
		other.Tanks[first].Capacity += more
		kg := more * (1 - d.AirGap) / 1000 * float.Petrol
		add(fmt.Sprintf("%s bigger by %s, full", d.Tanks[first].ID, litres(more)), fuel.Plan(other).Range, kg, tankAt(s))
	}
	can := d
	can.Tanks = append(slices.Clone(d.Tanks), fuel.Tank{ID: "can", Capacity: 20, Now: 20, Portable: true})
	centre := r3.Vec{}
	if base.Figures != nil {
		centre = base.Figures.CG
	}
	add("a full can of "+litres(20)+" more", fuel.Plan(can).Range, 20.0/1000*float.Petrol+1.2, centre)
	if total > lighter && base.Figures != nil { // burn as her mass: practice, no source
		list = append(list, lighterBoat(s, r, total))
	}
	return list
}

func lighterBoat(s *aboard.Laden, r fuel.Answer, total float64) Other {
	one := Other{What: s.MassText(lighter) + " less aboard", Range: r.Range * total / (total - lighter), Kg: -lighter}
	ledger := s.Ledger()
	share := 1 - lighter/total // all of it a little lighter: where is not said
	masses := slices.Clone(ledger.Load.Masses)
	for i := range masses {
		masses[i].Kg *= share
	}
	tanks := slices.Clone(ledger.Load.Tanks)
	for i := range tanks {
		tanks[i].Density *= share
	}
	ledger.Load.Masses, ledger.Load.Tanks = masses, tanks
	if f := s.SolvedWith(ledger).Figures; f != nil {
		one.Trim, one.Low = &f.TrimDeg, &f.Lowest.M
	}
	return one
}

// tankAt is the middle of her first tank of fuel.
func tankAt(s *aboard.Laden) r3.Vec {
	for _, t := range s.Craft.Input.Outfit.Tanks {
		if t.Kind == "fuel" {
			return r3.Add(t.Corner.R3(), r3.Scale(0.5, t.Size.R3()))
		}
	}
	return r3.Vec{}
}
