package power

import (
	"math"

	"gonum.org/v1/gonum/mat"
)

// Evening is what a bank's volts at rest said after a day.
type Evening struct {
	System System // the day; the bank begins with what its volts said in the morning
	Bank   int    // its number in System
	SoC    float64
	Sigma  float64 // of both readings together, one standard deviation
}

// Prior is what is thought of a bank before its evenings are read.
type Prior struct {
	Factor float64 // what it holds, of what it held when new, at 25 °C
	Sigma  float64
}

// Taught is by what a load's draw is multiplied.
type Taught struct{ By, Sigma float64 }

// Learned is what evenings say of a bank and of what draws from it.
type Learned struct {
	Factor   float64 // what it holds, of what it held when new
	Sigma    float64
	Within   [2]float64 // where the truth lies in 95 of 100
	Loads    map[string]Taught
	Evenings int
}

// leastEvenings are too few to say anything. Practice, no source.
const leastEvenings = 3

// Learn corrects what a bank holds and what its loads draw, so that its days end as its
// volts at rest said: least squares with what was thought before as further readings
// (Gauss and Newton), which keeps apart what the evenings can tell apart and leaves the
// rest as it was. A bank's Factor in the systems is of temperature alone. False where there
// are too few evenings.
func Learn(evenings []Evening, prior Prior) (Learned, bool) {
	if len(evenings) < leastEvenings {
		return Learned{}, false
	}
	f := fit{evenings: evenings, loads: uncertain(evenings)}
	f.value = append(f.value, prior.Factor)
	f.prior, f.sigma = append(f.prior, prior.Factor), append(f.sigma, prior.Sigma)
	for _, l := range f.loads {
		f.value, f.prior, f.sigma = append(f.value, 1), append(f.prior, 1), append(f.sigma, l.Sigma)
	}
	var covariance mat.SymDense
	for range rounds {
		if !f.step(&covariance) {
			return Learned{}, false
		}
	}
	scale := math.Max(1, f.scatter())
	out := Learned{Factor: f.value[0], Sigma: math.Sqrt(covariance.At(0, 0) * scale), Loads: map[string]Taught{},
		Evenings: len(evenings)}
	out.Within = [2]float64{out.Factor - 1.96*out.Sigma, out.Factor + 1.96*out.Sigma}
	for i, l := range f.loads {
		out.Loads[l.ID] = Taught{By: f.value[i+1], Sigma: math.Sqrt(covariance.At(i+1, i+1) * scale)}
	}
	return out, true
}

// rounds of Gauss and Newton: the model is nearly straight.
const rounds = 6

// fit is the least squares of some evenings: what the bank holds, then what each load is
// multiplied by.
type fit struct {
	evenings []Evening
	loads    []Load
	value    []float64
	prior    []float64
	sigma    []float64
}

// uncertain are the loads of some evenings whose draw is not known for sure.
func uncertain(evenings []Evening) (list []Load) {
	seen := map[string]bool{}
	for _, e := range evenings {
		for _, l := range e.System.Loads {
			if l.Sigma > 0 && !seen[l.ID] {
				seen[l.ID] = true
				list = append(list, l)
			}
		}
	}
	return list
}

// ends is the charge at the end of an evening by the values.
func (f fit) ends(e Evening, value []float64) float64 {
	s := e.System
	for k, l := range f.loads {
		for i := range s.Loads {
			if s.Loads[i].ID == l.ID {
				s = s.scaled(i, value[k+1])
			}
		}
	}
	s.Banks = append([]Bank(nil), s.Banks...)
	s.Banks[e.Bank].Factor *= value[0]
	return s.Run().Banks[e.Bank].End
}

// slightly is by what a value is changed to see what that does.
const slightly = 1e-4

// step betters the values once, and gives their covariance.
func (f *fit) step(covariance *mat.SymDense) bool {
	n := len(f.value)
	normal, pull := mat.NewSymDense(n, nil), mat.NewVecDense(n, nil)
	for i := range n {
		w := 1 / (f.sigma[i] * f.sigma[i])
		normal.SetSym(i, i, w)
		pull.SetVec(i, w*(f.prior[i]-f.value[i]))
	}
	slope := make([]float64, n)
	for _, e := range f.evenings {
		base := f.ends(e, f.value)
		for i := range n {
			other := append([]float64(nil), f.value...)
			other[i] += slightly
			slope[i] = (f.ends(e, other) - base) / slightly
		}
		w := 1 / (e.Sigma * e.Sigma)
		for i := range n {
			pull.SetVec(i, pull.AtVec(i)+w*slope[i]*(e.SoC-base))
			for k := range i + 1 {
				normal.SetSym(i, k, normal.At(i, k)+w*slope[i]*slope[k])
			}
		}
	}
	var chol mat.Cholesky
	if !chol.Factorize(normal) {
		return false
	}
	var by mat.VecDense
	if chol.SolveVecTo(&by, pull) != nil || chol.InverseTo(covariance) != nil {
		return false
	}
	for i := range n {
		f.value[i] = math.Max(0.05, f.value[i]+by.AtVec(i))
	}
	return true
}

// scatter is how much wider the evenings scatter than their readings should: 1 is as much.
func (f fit) scatter() float64 {
	sum := 0.0
	for _, e := range f.evenings {
		d := (e.SoC - f.ends(e, f.value)) / e.Sigma
		sum += d * d
	}
	return sum / math.Max(1, float64(len(f.evenings)-1))
}

// AtRest is the charge that volts at rest say, and how sure, from the error of the volts. It
// goes on over full and under flat: cut off there, readings would lean to one side.
func AtRest(c Chemistry, nominal, volts, sigma float64) (soc, soSure float64) {
	soc, perTenth := alongTable(c, nominal, volts)
	return soc, math.Max(leastReading, perTenth*10*sigma*12/nominal)
}

// leastReading is how well a charge is ever read by volts. Practice, no source.
const leastReading = 0.02
