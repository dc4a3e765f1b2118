package days

import (
	"math"
	"slices"

	"ergasia/app/aboard"
	"ergasia/core/day"
	"ergasia/core/float"
	"ergasia/core/fuel"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
)

// ashore are the kinds of phase in which she does not float; underWay those in which
// people sit where they sit, not where they fish; working those in which gear is used.
var (
	ashore   = []string{"load", "road"}
	underWay = []string{"launch", "run", "move", "home", "recover", "weigh-in", "sleep"}
	working  = []string{"bait", "fish", "anchor"}
)

// stand is where somebody is in a phase.
type stand struct {
	person int
	post   model.Post
	seated bool
	body   float.Mass
}

// stands are where people are in a phase; who is ashore is not among them.
func (o *Outing) stands(p model.DayPhase) (list []stand) {
	if slices.Contains(ashore, p.Kind) {
		return nil
	}
	for i, who := range o.People {
		post, seated := o.fishesAt(i), false
		if slices.Contains(underWay, p.Kind) {
			post, seated = o.seatOf(i), true
		}
		if k := slices.IndexFunc(p.Posts, func(q model.DayPost) bool { return q.Person == who.ID }); k >= 0 {
			at := p.Posts[k]
			if at.Post == nil {
				continue
			}
			if known := o.Laden.Post(*at.Post); known != nil {
				post, seated = known, at.Seated
			}
		}
		if post == nil {
			continue // a boat without posts floats without people: Lacks says so
		}
		list = append(list, stand{person: i, post: *post, seated: seated, body: who.body(*post, seated)})
	}
	return list
}

// body is somebody's mass at a post, with what they wear.
func (p Person) body(post model.Post, seated bool) float.Mass {
	m := aboard.Body(model.Member{Name: p.Name, Kg: p.Kg, MassKnown: p.Known}, model.Station{Seated: seated}, post)
	m.Kg += p.Worn
	return m
}

// speedOf a phase, metres a second, with its hours and litres an hour. A leg of the way
// says all three.
func (o *Outing) speedOf(p model.DayPhase) (speed, hours, flow float64) {
	rates := o.Fuel.Day.Rates
	if k := p.Leg - 1; k >= 0 && k < len(o.Fuel.Day.Legs) {
		leg := o.Fuel.Day.Legs[k]
		flow, _ = fuel.FlowAt(rates, leg.Speed)
		if leg.Factor > 0 {
			flow *= leg.Factor
		}
		return leg.Speed, leg.Distance / leg.Speed / 3600, flow
	}
	if p.Speed > 0 {
		flow, _ = fuel.FlowAt(rates, p.Speed)
	}
	return p.Speed, p.Hours, flow
}

// Day is the outing as the engine asks it.
func (o *Outing) Day() day.Day {
	s := o.Laden
	ledger := s.Ledger()
	d := day.Day{Boat: s.Craft.Float, Start: ledger.Load}
	d.Start.Masses = slices.Clone(d.Start.Masses)
	d.Start.Tanks = slices.Clone(d.Start.Tanks)
	d.Start.Masses = append(d.Start.Masses, o.unstowed()...)
	d.Plate = o.plate(ledger)
	filled := map[string]float64{}
	for i, f := range o.Fuel.Answer.Fill {
		if can := o.Fuel.Day.Tanks[i]; can.Portable {
			d.Spare += can.Now + f.Add
		} else {
			filled[f.Tank] = f.Add
		}
	}
	for i, t := range s.Craft.Input.Outfit.Tanks {
		if t.Kind != "fuel" {
			continue
		}
		d.Fuel = append(d.Fuel, i)
		if litres := d.Start.Tanks[i].Volume() * 1000; litres > 0 {
			d.Start.Tanks[i].Fill = min(1, d.Start.Tanks[i].Fill+filled[t.Name]/litres)
		}
	}
	d.Fuel = o.firstUsed(d.Fuel)
	for _, c := range o.Plan.Coolers {
		if p := s.Place(c.Place); p != nil {
			d.Coolers = append(
				d.Coolers,
				day.Cooler{Name: p.Name, At: low(*p), Ice: c.Ice, UA: c.UA, Air: o.Plan.Air, Drains: c.Drains},
			)
		}
	}
	for _, p := range o.Plan.Phases {
		d.Phases = append(d.Phases, o.phase(p))
	}
	return d
}

// firstUsed puts the tank that is used first before the others.
func (o *Outing) firstUsed(tanks []int) []int {
	i := slices.IndexFunc(tanks, func(k int) bool { return o.Laden.Craft.Input.Outfit.Tanks[k].Name == o.Plan.First })
	if i < 1 {
		return tanks
	}
	return append([]int{tanks[i]}, slices.Delete(slices.Clone(tanks), i, i+1)...)
}

func (o *Outing) phase(p model.DayPhase) day.Phase {
	_, hours, flow := o.speedOf(p)
	one := day.Phase{Name: nameOf(p), Hours: hours, Flow: flow, Ashore: slices.Contains(ashore, p.Kind)}
	if one.Ashore {
		one.Flow = 0
	}
	for _, at := range o.stands(p) {
		one.People = append(one.People, at.body)
	}
	for _, t := range p.Tanks {
		if i := o.tank(t.Tank); i >= 0 {
			one.Pours = append(one.Pours, day.Pour{Tank: i, Fill: t.Fill, AtOnce: t.AtOnce})
		}
	}
	for _, c := range p.Catch {
		one.Catch = append(one.Catch, o.caught(c))
	}
	return one
}

// tank finds a tank that is not of fuel by its name, or -1.
func (o *Outing) tank(name string) int {
	return slices.IndexFunc(
		o.Laden.Craft.Input.Outfit.Tanks,
		func(t model.TankInput) bool { return t.Name == name && t.Kind != "fuel" },
	)
}

// caught is a catch where it goes: a place, a cooler there; else the livewell.
func (o *Outing) caught(c model.DayCatch) day.Catch {
	one := day.Catch{Kg: c.Kg, Cooler: -1, Temp: o.Plan.Water, Well: true}
	if c.Place == nil {
		return one
	}
	if p := o.Laden.Place(*c.Place); p != nil {
		one.Well, one.At = false, low(*p)
		k := 0
		for _, box := range o.Plan.Coolers {
			if o.Laden.Place(box.Place) == nil {
				continue
			}
			if box.Place == p.ID {
				one.Cooler = k
			}
			k++
		}
	}
	return one
}

// low is the lower third of a place, where what is poured or thrown into it lies.
func low(p model.Place) r3.Vec {
	return r3.Vec{X: p.X + p.Length/2, Y: p.Y + p.Breadth/2, Z: p.Z + p.Height/3}
}

// amidships is on the sole over her centre of flotation, where a thing neither heels
// nor trims her.
func (o *Outing) amidships() r3.Vec {
	centre := r3.Vec{X: o.Laden.Craft.Float.Shell.High.X / 2}
	if f := o.Laden.Solved().Figures; f != nil {
		centre.X = f.LCF
	}
	sole := math.Inf(1)
	for _, p := range o.Laden.Posts {
		sole = min(sole, p.Z)
	}
	if math.IsInf(sole, 1) {
		sole = 0.2
	}
	centre.Z = sole + 0.2
	return centre
}

// unstowed is what goes along without a place yet, taken to lie amidships.
func (o *Outing) unstowed() (list []float.Mass) {
	if len(o.Unstowed) == 0 {
		return nil
	}
	at := o.amidships()
	for _, g := range o.Unstowed {
		kg, variance := o.Laden.Weight(g)
		list = append(list, float.Mass{Name: g.Name, Kg: kg, Sigma: math.Sqrt(variance), At: at})
	}
	return list
}

// plate is what of the load the builder's plate counts.
func (o *Outing) plate(l aboard.Ledger) day.Plate {
	in := o.Laden.Craft.Input
	counts := func(kind string) bool { return slices.Contains(in.Plate.Includes, kind) }
	p := day.Plate{Base: l.PlateKg, People: counts("persons"), Catch: counts("gear")}
	for i, t := range in.Outfit.Tanks {
		counted := counts(t.Kind)
		p.Tanks = append(p.Tanks, counted)
		if counted {
			p.Base -= l.Load.Tanks[i].Kg() // by moment, since it changes
		}
	}
	if counts("gear") {
		for _, g := range o.Unstowed {
			kg, _ := o.Laden.Weight(g)
			p.Base += kg
		}
	}
	return p
}

// Manned is the boat with who come sitting where they sit, for what is to be balanced.
func (o *Outing) Manned() *aboard.Laden {
	s := o.Laden.Branch()
	s.Members, s.Stations = nil, map[uuid.UUID]model.Station{}
	for i, p := range o.People {
		if post := o.seatOf(i); post != nil {
			s.Members = append(s.Members, model.Member{ID: p.ID, Name: p.Name, Kg: p.Kg + p.Worn, MassKnown: p.Known})
			s.Stations[p.ID] = model.Station{MemberID: p.ID, BoatID: &s.Boat.ID, PostID: &post.ID, Seated: true}
		}
	}
	return s
}

// Limits are what the boat and the trip's fuel are held to.
func (o *Outing) Limits() day.Limits {
	in := o.Laden.Craft.Input
	l := day.Limits{Freeboard: in.Limits.Freeboard.Value, Heel: in.Limits.Heel.Value, TrimLow: in.Limits.TrimLow.Value,
		TrimHigh: in.Limits.TrimHigh.Value, PlateKg: in.Plate.MaxKg}
	if len(o.Fuel.Lacks) == 0 {
		l.Reserve = o.Fuel.Answer.Reserve
		for _, t := range o.Fuel.Day.Tanks {
			l.Reserve += t.Unusable
		}
	}
	return l
}

// Begins is when a phase begins, minutes after midnight of the first day; the one after
// the last is when the day ends.
func (o *Outing) Begins() []float64 {
	at := make([]float64, len(o.Plan.Phases)+1)
	for i, p := range o.Plan.Phases {
		_, hours, _ := o.speedOf(p)
		at[i+1] = at[i] + hours*60
	}
	if f := o.Plan.Fixed; f >= 0 && f < len(at) {
		shift := float64(o.Plan.At) - at[f]
		for i := range at {
			at[i] += shift
		}
	}
	return at
}

// manned are the posts at which people are in a phase.
func manned(list []stand) (posts []uuid.UUID) {
	for _, at := range list {
		posts = append(posts, at.post.ID)
	}
	return posts
}
