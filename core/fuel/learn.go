package fuel

import (
	"math"

	"gonum.org/v1/gonum/stat"
	"gonum.org/v1/gonum/stat/distuv"
)

// Trip is what a logged trip should have taken by the table, and what was filled after it, litres.
type Trip struct {
	Expected, Filled float64
}

// Learned is by what the table is to be multiplied, as the log has it.
type Learned struct {
	Factor float64
	Sigma  float64    // one standard error of the factor
	Within [2]float64 // where the factor lies in 95 of 100 such logs (Student's t)
	Trips  int
}

// fewestTrips that say anything of an error.
const fewestTrips = 3

// Learn takes the mean of what was filled by what was expected; the errors of trips are
// as a share of each (10 % is usual: gauges, pumps, weather). False where too few trips
// say anything.
func Learn(trips []Trip) (Learned, bool) {
	var shares []float64
	for _, t := range trips {
		if t.Expected > 0 && t.Filled > 0 {
			shares = append(shares, t.Filled/t.Expected)
		}
	}
	n := float64(len(shares))
	if n < fewestTrips {
		return Learned{}, false
	}
	mean, sd := stat.MeanStdDev(shares, nil)
	l := Learned{Factor: mean, Sigma: sd / math.Sqrt(n), Trips: len(shares)}
	t := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: n - 1}.Quantile(0.975)
	l.Within = [2]float64{mean - t*l.Sigma, mean + t*l.Sigma}
	return l, true
}
