package fuel

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/fuel"
	"ergasia/core/way"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// FuelView is the fuel of a trip.
type FuelView struct {
	TripID  uuid.UUID      `json:"trip_id" format:"uuid"`
	Version int            `json:"version" doc:"Of the trip, for saving"`
	Boat    *BoatFuel      `json:"boat,omitempty" doc:"Absent where the trip has no boat yet"`
	Plan    model.FuelPlan `json:"plan"`
	Saved   bool           `json:"saved"`
	Learned *LearnedRates  `json:"learned,omitempty" doc:"What the log teaches of the rates"`
	Lacks   []string       `json:"lacks" doc:"What is missing before it can be reckoned, as sentences"`
	Answer  *FuelAnswer    `json:"answer,omitempty"`
}

// BoatFuel is what a boat holds and takes.
type BoatFuel struct {
	ID      uuid.UUID         `json:"id" format:"uuid"`
	Version int               `json:"version" doc:"For changing her rates"`
	Name    string            `json:"name"`
	Sea     bool              `json:"sea" doc:"She floats in the sea, where ways are told in nautical miles"`
	Rates   []model.RateInput `json:"rates"`
	Tanks   []TankView        `json:"tanks"`
}

// TankView is a tank with what it holds.
type TankView struct {
	Name     string  `json:"name"`
	Capacity float64 `json:"capacity_l"`
	Now      float64 `json:"now_l"`
	Add      float64 `json:"add_l" doc:"What the day asks for, with the air gap left"`
	Portable bool    `json:"portable"`
}

// LearnedRates are by what the log multiplies the table of rates.
type LearnedRates struct {
	Factor float64 `json:"factor"`
	Low    float64 `json:"low" doc:"In 95 of 100 such logs it lies over this"`
	High   float64 `json:"high" doc:"and under this"`
	Trips  int     `json:"trips"`
}

// Lies is how she floats with so much fuel.
type Lies struct {
	When   string           `json:"when"`
	Litres float64          `json:"litres" doc:"In her built-in tanks"`
	Float  *aboard.Attitude `json:"attitude,omitempty"`
	Why    string           `json:"why,omitempty" doc:"Why there is no attitude"`
}

// FuelAnswer is what the day takes.
type FuelAnswer struct {
	Burn     float64     `json:"burn_l"`
	Between  *[2]float64 `json:"burn_between_l,omitempty" doc:"By the error of what the log teaches"`
	Legs     []float64   `json:"legs_l"`
	Reserve  float64     `json:"reserve_l"`
	Need     float64     `json:"need_l" doc:"Burn, reserve, and what no pick-up reaches"`
	Now      float64     `json:"now_l"`
	Fits     bool        `json:"fits" doc:"The tanks hold what the day asks for"`
	Short    float64     `json:"short_l"`
	Tanks    []TankView  `json:"tanks"`
	Cost     float64     `json:"cost"`
	Range    float64     `json:"range_m" doc:"Filled to the air gap, the reserve kept, at the last leg's speed in calm water"`
	Way      float64     `json:"way_m"`
	Return   float64     `json:"return_m" doc:"Along the way, where going home takes all but the reserve"`
	Lies     []Lies      `json:"lies"`
	Speeds   []AtSpeed   `json:"speeds" doc:"The whole way at each speed of the table"`
	Keeps    *float64    `json:"keeps,omitempty" doc:"Chance, 0 to 1, that the reserve is kept, by the error of what the log teaches"`
	Reaches  *float64    `json:"reaches,omitempty" doc:"Chance that she comes home at all"`
	Others   []Other     `json:"others" doc:"What another tank, or a lighter boat, would do"`
	Headline string      `json:"headline"`
}

// Other is what something else would do to range, mass and trim.
type Other struct {
	What  string   `json:"what"`
	Range float64  `json:"range_m"`
	Kg    float64  `json:"kg" doc:"More aboard with it, filled"`
	Trim  *float64 `json:"trim_deg,omitempty"`
	Low   *float64 `json:"lowest_m,omitempty"`
}

// AtSpeed is what the whole way takes at one speed.
type AtSpeed struct {
	Speed   float64 `json:"speed_m_s"`
	Seconds float64 `json:"seconds"`
	Burn    float64 `json:"burn_l"`
	Need    float64 `json:"need_l"`
	Fits    bool    `json:"fits"`
}

// usual is a plan where nobody made one.
func usual() model.FuelPlan {
	return model.FuelPlan{School: string(fuel.Thirds), Percent: 30, FixedL: 15, Legs: []model.FuelLeg{}}
}

// Fuel is the fuel of a trip, as it was kept.
func (a *Wing) Fuel(ctx context.Context, actor kernel.Actor, trip uuid.UUID) (FuelView, error) {
	return a.view(ctx, actor, trip, nil)
}

// Try reckons a trip's fuel with another plan. Nothing is kept.
func (a *Wing) Try(ctx context.Context, actor kernel.Actor, trip uuid.UUID, plan model.FuelPlan) (FuelView, error) {
	if err := checkPlan(plan); err != nil {
		return FuelView{}, err
	}
	return a.view(ctx, actor, trip, &plan)
}

func (a *Wing) view(ctx context.Context, actor kernel.Actor, trip uuid.UUID, plan *model.FuelPlan) (v FuelView, err error) {
	var s *aboard.Laden
	err = a.In(ctx, actor, func(tx *store.Tx) error {
		var t model.Trip
		if err := store.One(tx, &t, "id = ?", trip); err != nil {
			return kernel.Absent(err, "trip")
		}
		v = FuelView{TripID: t.ID, Version: t.Version, Plan: usual(), Saved: t.Fuel != nil, Lacks: []string{}}
		if t.Fuel != nil {
			v.Plan = *t.Fuel
		}
		if plan != nil {
			v.Plan = *plan
		}
		if t.BoatID == nil {
			v.Lacks = append(v.Lacks, "The trip has no boat yet.")
			return nil
		}
		var err error
		if s, err = a.where.Laden(tx, actor, *t.BoatID); err != nil {
			return err
		}
		v.Learned, err = learn(tx, *t.BoatID, s.Craft)
		return err
	})
	if err != nil || s == nil {
		return v, err
	}
	s.Stop = func() bool { return ctx.Err() != nil }
	v.Boat = boatFuel(s)
	v.reckon(s)
	return v, ctx.Err()
}

func boatFuel(s *aboard.Laden) *BoatFuel {
	b := &BoatFuel{ID: s.Boat.ID, Version: s.Boat.Version, Name: s.Boat.Name, Sea: s.AtSea(),
		Rates: s.Craft.Input.Outfit.Rates, Tanks: []TankView{}}
	if b.Rates == nil {
		b.Rates = []model.RateInput{}
	}
	for _, t := range tanksOf(s.Craft) {
		b.Tanks = append(b.Tanks, TankView{Name: t.ID, Capacity: t.Capacity, Now: t.Now})
	}
	return b
}

// tanksOf are a boat's built-in tanks of fuel.
func tanksOf(c *aboard.Craft) (list []fuel.Tank) {
	for i, t := range c.Input.Outfit.Tanks {
		if t.Kind == "fuel" {
			litres := c.Load.Tanks[i].Volume() * 1000
			list = append(list, fuel.Tank{ID: t.Name, Capacity: litres, Now: litres * t.Fill, Unusable: min(t.Rest, litres)})
		}
	}
	return list
}

func ratesOf(c *aboard.Craft, factor float64) (list []fuel.Rate) {
	for _, r := range c.Input.Outfit.Rates {
		list = append(list, fuel.Rate{Speed: r.Speed, Flow: r.Flow * factor})
	}
	return list
}

// day is a plan as the engine asks it.
func day(plan model.FuelPlan, c *aboard.Craft, factor float64) fuel.Day {
	d := fuel.Day{Rates: ratesOf(c, factor), Tanks: tanksOf(c), School: fuel.School(plan.School), FixedL: plan.FixedL,
		Percent: plan.Percent, AirGap: fuel.AirGap, PerLitre: plan.PerLitre}
	for _, l := range plan.Legs {
		d.Legs = append(d.Legs, fuel.Leg{Distance: l.Distance, Speed: l.Speed, Factor: l.Factor})
	}
	for _, can := range plan.Cans {
		d.Tanks = append(d.Tanks, fuel.Tank{ID: can.Name, Capacity: can.Capacity, Now: can.Now, Portable: true})
	}
	return d
}

func checkPlan(plan model.FuelPlan) error {
	var fs check.Faults
	fs.OneOf("plan.school", plan.School, words.FuelSchools.Keys()...)
	fs.Within("plan.fixed_l", plan.FixedL, 0, 5000)
	fs.Within("plan.percent", plan.Percent, 0, 500)
	fs.Within("plan.price_per_l", plan.PerLitre, 0, 1e6)
	for i, l := range plan.Legs {
		at := fmt.Sprintf("plan.legs[%d]", i)
		fs.Text(at+".name", l.Name, 0, 80)
		fs.Within(at+".distance_m", l.Distance, 0, 2e6)
		fs.Within(at+".speed_m_s", l.Speed, 0.1, 60)
		fs.Within(at+".factor", l.Factor, 0, 10)
	}
	for i, p := range plan.Line {
		if !(way.Point{Lat: p[0], Lon: p[1]}).Valid() {
			fs.Add(fmt.Sprintf("plan.line[%d]", i), p, "must be a latitude from -90 to 90 and a longitude from -180 to 180")
		}
	}
	for i, c := range plan.Cans {
		at := fmt.Sprintf("plan.cans[%d]", i)
		fs.Text(at+".name", c.Name, 1, 80)
		fs.Within(at+".capacity_l", c.Capacity, 0, 200)
		fs.Within(at+".now_l", c.Now, 0, c.Capacity)
	}
	return refuse.Faulty(fs.Err())
}

// learn compares what was filled after the boat's logged trips with what their plans
// ask of her table; nil where too few say anything.
func learn(tx *store.Tx, boat uuid.UUID, c *aboard.Craft) (*LearnedRates, error) {
	var rows []model.Trip
	err := store.Some(tx, &rows, 60, "starts_on DESC", "boat_id = ? AND logged_at IS NOT NULL AND filled_l > 0 AND fuel IS NOT NULL", boat)
	if err != nil {
		return nil, fmt.Errorf("reading what was filled: %w", err)
	}
	var log []fuel.Trip
	for _, t := range rows {
		if t.Fuel == nil || t.FilledL == nil {
			continue
		}
		if d := day(*t.Fuel, c, 1); d.Check() == nil {
			log = append(log, fuel.Trip{Expected: fuel.Plan(d).Burn, Filled: *t.FilledL})
		}
	}
	l, ok := fuel.Learn(log)
	if !ok {
		return nil, nil
	}
	return &LearnedRates{Factor: l.Factor, Low: l.Within[0], High: l.Within[1], Trips: l.Trips}, nil
}

// Reckoned is a trip's fuel as the engine has it.
type Reckoned struct {
	Day     fuel.Day
	Answer  fuel.Answer
	Lacks   []string // what is missing: then there is no answer
	Learned *LearnedRates
}

// Reckon works out a trip's kept plan of fuel, for other wings.
func Reckon(tx *store.Tx, s *aboard.Laden, t model.Trip) (Reckoned, error) {
	plan := usual()
	if t.Fuel != nil {
		plan = *t.Fuel
	}
	learned, err := learn(tx, s.Boat.ID, s.Craft)
	if err != nil {
		return Reckoned{}, err
	}
	return reckon(plan, s, learned), nil
}

func reckon(plan model.FuelPlan, s *aboard.Laden, learned *LearnedRates) Reckoned {
	factor := 1.0
	if !plan.Learned {
		learned = nil
	}
	if learned != nil {
		factor = learned.Factor
	}
	r := Reckoned{Day: day(plan, s.Craft, factor), Learned: learned}
	if r.Lacks = lacks(r.Day, s.Boat.Name); len(r.Lacks) > 0 {
		return r
	}
	if err := r.Day.Check(); err != nil {
		r.Lacks = append(r.Lacks, said(err))
		return r
	}
	r.Answer = fuel.Plan(r.Day)
	return r
}

// reckon answers the plan, or says what is missing.
func (v *FuelView) reckon(s *aboard.Laden) {
	all := reckon(v.Plan, s, v.Learned)
	d, r, learned := all.Day, all.Answer, all.Learned
	if v.Lacks = all.Lacks; len(v.Lacks) > 0 {
		return
	}
	answer := FuelAnswer{Burn: r.Burn, Legs: r.PerLeg, Reserve: r.Reserve, Need: r.Need, Fits: r.Fits, Short: r.Short,
		Cost: r.Cost, Range: r.Range, Return: r.Return, Tanks: []TankView{}}
	for i, t := range d.Tanks {
		answer.Now += t.Now
		answer.Tanks = append(answer.Tanks, TankView{Name: t.ID, Capacity: t.Capacity, Now: t.Now, Add: r.Fill[i].Add,
			Portable: t.Portable})
	}
	for _, l := range d.Legs {
		answer.Way += l.Distance
	}
	if learned != nil {
		answer.Between = &[2]float64{r.Burn * learned.Low / learned.Factor, r.Burn * learned.High / learned.Factor}
	}
	answer.Lies = lies(s, r)
	answer.chances(d, learned)
	answer.Others = others(s, d, r)
	answer.Speeds = atSpeeds(d)
	answer.Headline = headline(answer, s)
	v.Answer = &answer
}

// atSpeeds reckons the whole way at each speed of the table, the slowest first.
func atSpeeds(d fuel.Day) (list []AtSpeed) {
	for _, r := range d.Rates {
		one := AtSpeed{Speed: r.Speed}
		legs := slices.Clone(d.Legs)
		for i := range legs {
			legs[i].Speed = r.Speed
			one.Seconds += legs[i].Distance / r.Speed
		}
		other := d
		other.Legs = legs
		a := fuel.Plan(other)
		one.Burn, one.Need, one.Fits = a.Burn, a.Need, a.Fits
		list = append(list, one)
	}
	slices.SortFunc(list, func(a, b AtSpeed) int { return cmp.Compare(a.Speed, b.Speed) })
	return list
}

// lacks says what is missing before anything can be reckoned.
func lacks(d fuel.Day, boat string) []string {
	list := []string{}
	if len(d.Tanks) == 0 {
		list = append(list, boat+" has no tank of fuel yet: add it in Set up, Tanks, or a can below.")
	}
	if len(d.Rates) == 0 {
		list = append(list, "Nobody has written what her motor takes yet: two speeds with their litres an hour will do.")
	}
	if len(d.Legs) == 0 {
		list = append(list, "The trip has no way yet: add a leg with its distance and speed.")
	}
	for i, l := range d.Legs {
		if _, ok := fuel.FlowAt(d.Rates, l.Speed); !ok && len(d.Rates) > 0 {
			list = append(list, fmt.Sprintf("Leg %d is slower or faster than the table of what her motor takes: add its speed there.", i+1))
		}
	}
	return list
}

func said(err error) string {
	var fs check.Faults
	if errors.As(err, &fs) {
		var list []string
		for _, f := range fs {
			list = append(list, f.Field+" "+f.Want)
		}
		return strings.Join(list, "; ") + "."
	}
	return err.Error()
}

// lies is how she floats with what is in her tanks now, filled for the day, and when
// the way is done. Cans are gear, and lie where they lie.
func lies(s *aboard.Laden, r fuel.Answer) []Lies {
	burn := r.Burn
	list := []Lies{}
	for _, when := range []string{"now", "filled", "home"} {
		ledger := s.Ledger()
		ledger.Load.Tanks = slices.Clone(ledger.Load.Tanks)
		one, k := Lies{When: when}, 0 // k counts the tanks of fuel, which come first in the plan
		for i, t := range s.Craft.Input.Outfit.Tanks {
			if t.Kind != "fuel" {
				continue
			}
			tank := &ledger.Load.Tanks[i]
			capacity := tank.Volume() * 1000
			litres := capacity * tank.Fill
			if when != "now" {
				litres = min(capacity, litres+r.Fill[k].Add)
			}
			k++
			if when == "home" {
				taken := min(burn, litres)
				litres, burn = litres-taken, burn-taken
			}
			if capacity > 0 {
				tank.Fill = litres / capacity
			}
			one.Litres += litres
		}
		f := s.FiguresOf(s.SolvedWith(ledger))
		one.Float, one.Why = f.Attitude, f.Why
		list = append(list, one)
	}
	return list
}

func headline(a FuelAnswer, s *aboard.Laden) string {
	litres := func(l float64) string {
		return fmt.Sprintf("%.0f %s", s.Units.Volume.FromSI(l), s.Units.Volume.Symbol)
	}
	add := 0.0
	for _, t := range a.Tanks {
		add += t.Add
	}
	switch {
	case !a.Fits:
		return fmt.Sprintf("%s short: the way takes %s and %s are to be kept, and that is more than her tanks hold.",
			litres(a.Short), litres(a.Burn), litres(a.Reserve))
	case add < 0.5:
		return fmt.Sprintf("Enough aboard: the way takes %s, and %s are left.", litres(a.Burn), litres(a.Now-a.Burn))
	}
	return fmt.Sprintf("Fill %s: the way takes %s, and %s are kept.", litres(add), litres(a.Burn), litres(a.Reserve))
}

// Save keeps a trip's plan of fuel.
func (a *Wing) Save(ctx context.Context, actor kernel.Actor, key, trip uuid.UUID, version int, plan model.FuelPlan) (uuid.UUID, error) {
	if err := checkPlan(plan); err != nil {
		return trip, err
	}
	return trip, a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"fuel", trip, version, plan}, func() (uuid.UUID, error) {
			var t model.Trip
			if err := store.One(tx, &t, "id = ?", trip); err != nil {
				return trip, kernel.Absent(err, "trip")
			}
			if t.LoggedAt != nil {
				return trip, &refuse.Error{Kind: refuse.Refused, Sentence: t.Name + " is logged: what was is not changed."}
			}
			t.Fuel, t.Version = &plan, version+1
			return trip, kernel.Keep(tx, &t, trip, version, "trip", t.Name)
		})
		return err
	})
}

// SetRates keeps what a boat's motor takes.
func (a *Wing) SetRates(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID, version int, rates []model.RateInput) (uuid.UUID, error) {
	var fs check.Faults
	aboard.CheckRates(&fs, "rates", rates)
	if err := refuse.Faulty(fs.Err()); err != nil {
		return boat, err
	}
	return boat, a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"rates", boat, version, rates}, func() (uuid.UUID, error) {
			var b model.Boat
			if err := store.One(tx, &b, "id = ?", boat); err != nil {
				return boat, kernel.Absent(err, "boat")
			}
			b.Outfit.Rates, b.Version = rates, version+1
			return boat, kernel.Keep(tx, &b, boat, version, "boat", b.Name)
		})
		return err
	})
}
