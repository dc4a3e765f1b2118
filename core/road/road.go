package road

import (
	"fmt"
	"math"
	"slices"

	"ergasia/core/check"
	"ergasia/core/units"
	"ergasia/core/words"
)

// Trailer is the trailer without the boat. A rating of nought is not known.
type Trailer struct {
	Kg, CG       float64 // empty mass, and where its centre is, x
	Axle, Hitch  float64 // x; of the middle of the axles where there are two
	RatedKg      float64 // all of trailer and load
	AxleRatedKg  float64 // of all axles together
	HitchRatedKg float64 // least of coupling, ball and car
	Tyres        int
	TyreRatedKg  float64 // of one, at its greatest pressure
	TyrePressure float64 // bar, cold, by the tyre or the plate
	// kg of trailer and load over which brakes are asked for where it is registered; nought not known
	BrakedOver    float64
	Brakes        bool
	StrapRatedKg  float64 // of one strap, its lashing capacity
	Straps        int
	WinchAndChain bool
}

// Mass is something that rides in the boat or on the trailer.
type Mass struct {
	ID    string
	Name  string
	Kg, X float64
	Loose bool // it may be carried in the car or van instead
}

// School is what share of the whole a crew wants on the hitch.
type School struct {
	Name, Says string
	Low, High  float64 // shares
	MostKg     float64 // on the ball; nought for no bound of the school's own
}

// Schools of hitch load. All practice, no source; the plates of car, coupling and
// trailer come first.
var Schools = []School{
	{Name: "boat", Says: "boat trailers, 5 to 10 %", Low: 0.05, High: 0.10, MostKg: 0},
	{Name: "america", Says: "North American general trailers, 10 to 15 %", Low: 0.10, High: 0.15, MostKg: 0},
	{Name: "europe", Says: "European general trailers, 4 to 7 %, ball limit", Low: 0.04, High: 0.07, MostKg: 100},
}

// SchoolNamed gives the school, else the first.
func SchoolNamed(name string) School {
	for _, s := range Schools {
		if s.Name == name {
			return s
		}
	}
	return Schools[0]
}

// Check says what is wrong with the trailer as input, as check.Faults, or nil.
func (t Trailer) Check(field string) error {
	var fs check.Faults
	fs.Within(field+"kg", t.Kg, 20, 5000)
	fs.Within(field+"cg_m", t.CG, -5, 15)
	fs.Within(field+"axle_m", t.Axle, -5, 15)
	fs.Within(field+"hitch_m", t.Hitch, 0, 20)
	fs.Within(field+"rated_kg", t.RatedKg, 0, 10000)
	fs.Within(field+"axle_rated_kg", t.AxleRatedKg, 0, 10000)
	fs.Within(field+"hitch_rated_kg", t.HitchRatedKg, 0, 1000)
	fs.Within(field+"tyres", float64(t.Tyres), 0, 12)
	fs.Within(field+"tyre_rated_kg", t.TyreRatedKg, 0, 3000)
	fs.Within(field+"tyre_pressure_bar", t.TyrePressure, 0, 10)
	fs.Within(field+"braked_over_kg", t.BrakedOver, 0, 10000)
	fs.Within(field+"straps", float64(t.Straps), 0, 20)
	fs.Within(field+"strap_rated_kg", t.StrapRatedKg, 0, 10000)
	if len(fs) == 0 && t.Hitch-t.Axle < 0.5 {
		fs.Add(field+"hitch_m", t.Hitch, fmt.Sprintf("must be at least half a metre ahead of the axle, at %g", t.Axle))
	}
	return fs.Err()
}

// Row is one figure with what it is held to.
type Row struct {
	Key      string
	Value    float64
	Low      float64 // NaN where there is no bound
	High     float64
	Met      bool
	Sentence string
}

// Tow is how boat and gear ride.
type Tow struct {
	Total, AxleKg, HitchKg, Share float64
	Rows                          []Row
	// metres to move the boat forward on the trailer (aft where negative) for the middle of the school's band; nought where it is met
	Move float64
	Out  []Mass // of what is loose, what has to ride elsewhere, in the order to take it out
	Met  bool
}

// Work finds the loads. boat is everything that moves with the boat when she is
// shifted on the trailer. The trailer must have passed Check.
func Work(t Trailer, boat []Mass, school School) Tow {
	w := loads(t, boat)
	w.Rows = rows(t, w, school)
	w.Met = !slices.ContainsFunc(w.Rows, func(r Row) bool { return !r.Met })
	boatKg := w.Total - t.Kg
	overRated := t.HitchRatedKg > 0 && w.HitchKg > t.HitchRatedKg
	if w.Share < school.Low || w.Share > school.High || school.MostKg > 0 && w.HitchKg > school.MostKg || overRated {
		target := (school.Low + school.High) / 2 * w.Total
		for _, most := range []float64{school.MostKg, t.HitchRatedKg} {
			if most > 0 {
				target = min(target, 0.95*most)
			}
		}
		if boatKg > 0 {
			w.Move = (target - w.HitchKg) * (t.Hitch - t.Axle) / boatKg
		}
	}
	w.Out = takeOut(t, boat, w)
	return w
}

func loads(t Trailer, boat []Mass) Tow {
	total, moment := t.Kg, t.Kg*(t.CG-t.Axle)
	for _, m := range boat {
		total += m.Kg
		moment += m.Kg * (m.X - t.Axle)
	}
	hitch := moment / (t.Hitch - t.Axle)
	return Tow{Total: total, HitchKg: hitch, AxleKg: total - hitch, Share: hitch / total}
}

func rows(t Trailer, w Tow, school School) []Row {
	nan := math.NaN()
	var list []Row
	add := func(key string, value, low, high float64, sentence string) {
		met := !(value < low) && !(value > high) // NaN bounds nothing
		list = append(list, Row{Key: key, Value: value, Low: low, High: high, Met: met, Sentence: sentence})
	}
	if t.RatedKg > 0 {
		add("total", w.Total, nan, t.RatedKg, "trailer, boat and gear against the trailer's plate")
	}
	if t.AxleRatedKg > 0 {
		add("axle", w.AxleKg, nan, t.AxleRatedKg, "on the axle, against its plate")
	}
	if t.Tyres > 0 && t.TyreRatedKg > 0 {
		add("tyre", w.AxleKg/float64(t.Tyres), nan, t.TyreRatedKg, "on each tyre, against its load rating")
	}
	most := nan
	if t.HitchRatedKg > 0 {
		most = t.HitchRatedKg
	}
	if school.MostKg > 0 && !(most < school.MostKg) {
		most = school.MostKg
	}
	add("hitch", w.HitchKg, 0, most, "on the hitch; less than nothing lifts the car")
	share := "of the whole on the hitch: " + school.Says
	if least := school.Low * w.Total; t.HitchRatedKg > 0 && least > t.HitchRatedKg {
		share += fmt.Sprintf("; that would be %.0f kg, %.0f lb at least, more than the hitch is rated for: carry less in the boat, or have a stronger hitch",
			least, units.US.Mass.FromSI(least))
	}
	add("share", w.Share, school.Low, school.High, share)
	if t.BrakedOver > 0 && !t.Brakes {
		add("brakes", w.Total, nan, t.BrakedOver, "without brakes, against where they are asked for")
	}
	if t.Straps > 0 && t.StrapRatedKg > 0 {
		// Straps together hold at least half of what is strapped. Practice.
		add("straps", float64(t.Straps)*t.StrapRatedKg, (w.Total-t.Kg)/2, nan,
			"straps together, against half of the boat with all in her")
	}
	return list
}

// takeOut chooses loose things to ride elsewhere until ratings hold: the heaviest
// first that is not needed for the hitch, since each costs a carry.
func takeOut(t Trailer, boat []Mass, w Tow) []Mass {
	over := func(w Tow) float64 {
		excess := 0.0
		if t.RatedKg > 0 {
			excess = max(excess, w.Total-t.RatedKg)
		}
		if t.AxleRatedKg > 0 {
			excess = max(excess, w.AxleKg-t.AxleRatedKg)
		}
		if t.Tyres > 0 && t.TyreRatedKg > 0 {
			excess = max(excess, w.AxleKg-float64(t.Tyres)*t.TyreRatedKg)
		}
		if t.HitchRatedKg > 0 {
			excess = max(excess, w.HitchKg-t.HitchRatedKg)
		}
		return excess
	}
	left := slices.Clone(boat)
	var out []Mass
	for now := w; over(now) > 0; {
		best, least := -1, over(now)
		for i, m := range left {
			if !m.Loose || m.Kg <= 0 {
				continue
			}
			rest := over(loads(t, without(left, i)))
			better := rest < least-1e-9
			// Of those that are enough, the lightest; else what helps most.
			if best >= 0 && rest == 0 && least == 0 {
				better = m.Kg < left[best].Kg
			}
			if better {
				best, least = i, rest
			}
		}
		if best < 0 {
			return out // nothing loose helps any more
		}
		out = append(out, left[best])
		left = without(left, best)
		now = loads(t, left)
	}
	return out
}

func without(list []Mass, i int) []Mass {
	return append(slices.Clone(list[:i]), list[i+1:]...)
}

// Lines are what to look at before driving off, for the checklist, in a reader's units.
func Lines(t Trailer, w Tow, u units.System) []string {
	lines := []string{"Coupling locked on the ball, safety chain or breakaway cable on the car."}
	if t.TyrePressure > 0 {
		lines = append(lines, fmt.Sprintf("Tyres cold at %.3g %s, %d of them; %s stand on each.",
			u.Pressure.FromSI(t.TyrePressure*1e5), u.Pressure.Symbol, max(t.Tyres, 1),
			u.Mass.Text(w.AxleKg/float64(max(t.Tyres, 1)), 0)))
	} else {
		lines = append(lines, "Tyres: pressure by the plate, tread and age.")
	}
	first := "10 km"
	if u.Name == units.US.Name {
		first = "6 mi"
	}
	if t.Straps > 0 {
		lines = append(lines, fmt.Sprintf("%s tight across the stern and at the bow; look again after the first %s.",
			words.HowMany(t.Straps, "strap"), first))
	} else {
		lines = append(lines, "Strap the stern down and the bow forward and down; look again after the first "+first+".")
	}
	return append(lines, "Winch strap and bow chain on; motor up on its bracket, not on its rams.",
		"Everything in the boat shut, strapped or in the car; drain plug where you will see it.",
		"Lights, plate, wheel bearings cool at the first stop.")
}
