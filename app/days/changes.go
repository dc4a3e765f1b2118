package days

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/core/day"
	"ergasia/core/float"
	"ergasia/core/fuel"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
)

// changes are all that is tried: what can bear on what is wrong.
func (o *Outing) changes(d day.Day, base []day.Reading) (list []change) {
	wrong := func(keys ...day.Key) bool {
		return slices.ContainsFunc(base, func(r day.Reading) bool { return !r.Kept() && slices.Contains(keys, r.Key) })
	}
	lies := wrong(day.Swamps, day.Awash, day.Freeboard, day.Heel, day.BowDown, day.SternDown)
	if lies {
		list = append(list, o.otherPosts()...)
	}
	if lies || wrong(day.Loaded) {
		list = append(list, o.leftBehind(d)...)
		list = append(list, o.otherLevels()...)
	}
	if lies {
		list = append(list, o.catchElsewhere()...)
		list = append(list, o.otherTankFirst(d)...)
	}
	if wrong(day.Fuel) {
		list = append(list, o.cans()...)
		list = append(list, o.otherSpeeds()...)
	}
	if wrong(day.Ice) {
		list = append(list, o.moreIce()...)
	}
	if lies && o.Stowed == nil { // else the trip's own load says where things are to lie
		list = append(list, o.otherPlaces(d)...)
	}
	return list[:min(len(list), mostChanges)]
}

// withPlan is a change of the plan that alters phases and coolers of the day.
func (o *Outing) withPlan(kind, about, say string, edit func(*model.DayPlan)) change {
	plan := o.Plan
	plan.Phases = slices.Clone(plan.Phases)
	plan.Coolers = slices.Clone(plan.Coolers)
	edit(&plan)
	other := *o
	other.Plan = plan
	return change{about: about, Remedy: Remedy{Kind: kind, Say: say, Plan: &plan}, apply: func(d day.Day) day.Day {
		d.Phases, d.Coolers = slices.Clone(d.Phases), slices.Clone(d.Coolers)
		for i := range d.Phases {
			if !samePhase(o.Plan.Phases[i], plan.Phases[i]) {
				one := other.phase(plan.Phases[i])
				one.Flow, one.Hours = d.Phases[i].Flow, d.Phases[i].Hours
				d.Phases[i] = one
			}
		}
		for k := range d.Coolers {
			d.Coolers[k].Ice += plan.Coolers[k].Ice - o.Plan.Coolers[k].Ice
		}
		return d
	}}
}

func samePhase(a, b model.DayPhase) bool {
	return slices.EqualFunc(a.Posts, b.Posts, func(x, y model.DayPost) bool {
		return x.Person == y.Person && x.Seated == y.Seated &&
			(x.Post == y.Post || x.Post != nil && y.Post != nil && *x.Post == *y.Post)
	}) && slices.Equal(a.Tanks, b.Tanks) && slices.EqualFunc(a.Catch, b.Catch, func(x, y model.DayCatch) bool {
		return x.Kg == y.Kg && (x.Place == y.Place || x.Place != nil && y.Place != nil && *x.Place == *y.Place)
	})
}

// otherPosts puts each person to each other post, in one phase or wherever they fish.
func (o *Outing) otherPosts() (list []change) {
	for i, p := range o.Plan.Phases {
		if slices.Contains(ashore, p.Kind) {
			continue
		}
		for _, at := range o.stands(p) {
			who := o.People[at.person]
			for _, post := range o.Laden.Posts {
				if post.ID == at.post.ID {
					continue
				}
				say := fmt.Sprintf("%s to %s, %s", who.Name, post.Name, nameOf(p))
				list = append(
					list,
					o.withPlan(
						"post",
						who.Name,
						say,
						func(plan *model.DayPlan) { setPost(&plan.Phases[i], who.ID, post.ID, at.seated) },
					),
				)
			}
		}
	}
	for _, who := range o.People {
		for _, post := range o.Laden.Posts {
			say := fmt.Sprintf("%s fishes from %s all day", who.Name, post.Name)
			list = append(list, o.withPlan("post", who.Name, say, func(plan *model.DayPlan) {
				for i, p := range plan.Phases {
					if slices.Contains(working, p.Kind) {
						setPost(&plan.Phases[i], who.ID, post.ID, false)
					}
				}
			}))
		}
	}
	return list
}

func setPost(p *model.DayPhase, person, post uuid.UUID, seated bool) {
	p.Posts = slices.DeleteFunc(slices.Clone(p.Posts), func(q model.DayPost) bool { return q.Person == person })
	p.Posts = append(p.Posts, model.DayPost{Person: person, Post: &post, Seated: seated})
}

// gearMasses are the gear aboard with where its mass is in the day's load.
func (o *Outing) gearMasses(d day.Day) map[int]aboard.GearAboard {
	own := len(o.Laden.Craft.Input.Outfit.Masses)
	of := map[int]aboard.GearAboard{}
	for k, g := range o.Laden.Aboard() {
		if own+k < len(d.Start.Masses) {
			of[own+k] = g
		}
	}
	return of
}

// leftBehind leaves each piece ashore that is not promised to the trip.
func (o *Outing) leftBehind(d day.Day) (list []change) {
	without := func(g model.Gear, i int, kg float64) change {
		say := fmt.Sprintf("Leave %s ashore, %s", g.Name, o.Laden.MassText(kg))
		return change{about: g.Name, Remedy: Remedy{Kind: "ashore", Say: say, Ashore: &g.ID}, apply: func(d day.Day) day.Day {
			d.Start.Masses = slices.Clone(d.Start.Masses)
			d.Start.Masses[i].Kg, d.Start.Masses[i].Sigma = 0, 0
			if slices.Contains(o.Laden.Craft.Input.Plate.Includes, "gear") {
				d.Plate.Base -= kg
			}
			return d
		}}
	}
	for i, g := range o.gearMasses(d) {
		if g.Mass.Kg >= leastAshoreKg && !o.Laden.Safety(g.Gear) && !o.Promised[g.ID] {
			list = append(list, without(g.Gear, i, g.Mass.Kg))
		}
	}
	slices.SortFunc(list, func(a, b change) int { return cmp.Compare(a.about, b.about) })
	return list
}

// otherPlaces puts what is heavy into each other place.
func (o *Outing) otherPlaces(d day.Day) (list []change) {
	for i, g := range o.gearMasses(d) {
		if g.Mass.Kg < leastMovedKg || g.Place == nil {
			continue
		}
		for _, p := range o.Laden.Places {
			if p.ID == g.Place.ID || p.Length*p.Breadth*p.Height < g.Length*g.Breadth*g.Height {
				continue
			}
			at := r3.Add(low(p), r3.Vec{Z: p.Height / 6})
			say := fmt.Sprintf("%s, %s, to %s", kernel.Capital(g.Name), o.Laden.MassText(g.Mass.Kg), p.Name)
			list = append(list, change{about: g.Name, apply: func(d day.Day) day.Day {
				d.Start.Masses = slices.Clone(d.Start.Masses)
				d.Start.Masses[i].At = at
				return d
			}, Remedy: Remedy{Kind: "move", Say: say,
				Move: &aboard.MoveInput{GearID: &g.ID, PlaceID: &p.ID, Version: o.Laden.Stowage[g.ID].Version}}})
		}
	}
	slices.SortFunc(list, func(a, b change) int { return cmp.Compare(a.Say, b.Say) })
	slices.SortStableFunc(list, func(a, b change) int { // the heaviest first, where there are too many
		return cmp.Compare(o.Laden.Thing(*b.Move.GearID).Kg, o.Laden.Thing(*a.Move.GearID).Kg)
	})
	return list
}

// otherLevels keeps a livewell half full, or empty, all day.
func (o *Outing) otherLevels() (list []change) {
	for _, t := range o.Laden.Craft.Input.Outfit.Tanks {
		if t.Kind == "fuel" {
			continue
		}
		for _, level := range []struct {
			share float64
			words string
		}{{0.5, "no more than half full"}, {0, "empty"}} {
			say := fmt.Sprintf("%s: %s all day", kernel.Capital(t.Name), level.words)
			c := o.withPlan("tank", t.Name, say, func(plan *model.DayPlan) {
				for i := range plan.Phases {
					plan.Phases[i].Tanks = slices.Clone(plan.Phases[i].Tanks)
					for k := range plan.Phases[i].Tanks {
						if q := &plan.Phases[i].Tanks[k]; q.Tank == t.Name {
							q.Fill = min(q.Fill, level.share)
						}
					}
				}
			})
			list = append(list, c)
		}
	}
	return list
}

// otherTankFirst burns each other tank of fuel first.
func (o *Outing) otherTankFirst(d day.Day) (list []change) {
	for _, k := range d.Fuel[min(1, len(d.Fuel)):] {
		other := *o
		other.Plan.First = o.Laden.Craft.Input.Outfit.Tanks[k].Name
		plan := other.Plan
		say := fmt.Sprintf("%s is used first", kernel.Capital(plan.First))
		list = append(list, change{
			about:  plan.First,
			Remedy: Remedy{Kind: "tank", Say: say, Plan: &plan},
			apply: func(d day.Day) day.Day {
				d.Fuel = other.firstUsed(d.Fuel)
				return d
			},
		})
	}
	return list
}

// catchElsewhere puts all that is caught into another place.
func (o *Outing) catchElsewhere() (list []change) {
	caught := false
	for _, p := range o.Plan.Phases {
		caught = caught || slices.ContainsFunc(p.Catch, func(c model.DayCatch) bool { return c.Place != nil && c.Kg > 0 })
	}
	if !caught {
		return nil
	}
	for _, place := range o.Laden.Places {
		if place.Length*place.Breadth*place.Height < 0.02 || place.Form != "" && place.Form != "box" {
			continue
		}
		list = append(list, o.withPlan("catch", "the catch", "The catch goes into "+place.Name, func(plan *model.DayPlan) {
			for i := range plan.Phases {
				plan.Phases[i].Catch = slices.Clone(plan.Phases[i].Catch)
				for k := range plan.Phases[i].Catch {
					if plan.Phases[i].Catch[k].Place != nil {
						plan.Phases[i].Catch[k].Place = &place.ID
					}
				}
			}
		}))
	}
	return list
}

// cans carries a full can more, which is kept. It lies amidships until it has a place.
func (o *Outing) cans() (list []change) {
	if o.Trip.Fuel == nil || len(o.Trip.Fuel.Cans) >= 10 {
		return nil
	}
	const empty = 1.2 // kg, practice
	for _, litres := range []float64{5, 10, 20} {
		plan := *o.Trip.Fuel
		plan.Cans = append(
			slices.Clone(plan.Cans),
			model.FuelCan{Name: "can of " + o.Laden.Units.Volume.Text(litres, 0), Capacity: litres, Now: litres},
		)
		kg := empty + litres/1000*float.Petrol
		say := fmt.Sprintf(
			"A full can of %.0f %s more, %s",
			o.Laden.Units.Volume.FromSI(litres),
			o.Laden.Units.Volume.Symbol,
			o.Laden.MassText(kg),
		)
		at := o.amidships()
		list = append(
			list,
			change{about: "a can", Remedy: Remedy{Kind: "fuel", Say: say, Fuel: &plan}, apply: func(d day.Day) day.Day {
				d.Start.Masses = append(slices.Clone(d.Start.Masses), float.Mass{Name: "can", Kg: kg, At: at})
				d.Spare += litres
				if slices.Contains(o.Laden.Craft.Input.Plate.Includes, "fuel") {
					d.Plate.Base += kg
				}
				return d
			}},
		)
	}
	return list
}

// otherSpeeds runs each long leg, and all of them, at the other speeds of the table.
func (o *Outing) otherSpeeds() (list []change) {
	if o.Trip.Fuel == nil {
		return nil
	}
	legs := o.Fuel.Day.Legs
	try := func(which func(int) bool, what string, speed float64) {
		plan := *o.Trip.Fuel
		plan.Legs = slices.Clone(plan.Legs)
		changed := false
		for i := range plan.Legs {
			if which(i) && math.Abs(plan.Legs[i].Speed-speed) > 0.01 {
				plan.Legs[i].Speed, changed = speed, true
			}
		}
		if !changed {
			return
		}
		other := *o
		other.Fuel.Day.Legs = slices.Clone(legs)
		for i := range plan.Legs {
			other.Fuel.Day.Legs[i].Speed = plan.Legs[i].Speed
		}
		u := o.Laden.Pace()
		say := fmt.Sprintf("%s at %.3g %s", what, u.FromSI(speed), u.Symbol)
		if later := other.hours() - o.hours(); later > 0 {
			say += fmt.Sprintf(": %s later", span(later))
		}
		list = append(
			list,
			change{about: what, Remedy: Remedy{Kind: "fuel", Say: say, Fuel: &plan}, apply: func(d day.Day) day.Day {
				d.Phases = slices.Clone(d.Phases)
				for i, p := range o.Plan.Phases {
					_, d.Phases[i].Hours, d.Phases[i].Flow = other.speedOf(p)
				}
				return d
			}},
		)
	}
	for _, r := range o.Fuel.Day.Rates {
		try(func(int) bool { return true }, "The whole way", r.Speed)
		for i, l := range legs {
			name := cmp.Or(o.Trip.Fuel.Legs[i].Name, fmt.Sprintf("leg %d", i+1))
			if _, ok := fuel.FlowAt(o.Fuel.Day.Rates, l.Speed); ok {
				try(func(k int) bool { return k == i }, kernel.Capital(name), r.Speed)
			}
		}
	}
	return list
}

func (o *Outing) hours() (hours float64) {
	for _, p := range o.Plan.Phases {
		_, h, _ := o.speedOf(p)
		hours += h
	}
	return hours
}

// Ran is how many hours the trip takes afloat: by its day, where the crew kept one, else as
// the trip was made.
func (o *Outing) Ran() float64 {
	if !o.Saved {
		return o.Trip.Hours
	}
	return math.Round(o.hours()*float64(o.days())*10) / 10
}

// moreIce puts more into each cooler.
func (o *Outing) moreIce() (list []change) {
	for k, c := range o.Plan.Coolers {
		p := o.Laden.Place(c.Place)
		if p == nil {
			continue
		}
		for _, kg := range []float64{2, 5, 10, 20} {
			say := fmt.Sprintf("%s more ice into %s", o.Laden.MassText(kg), p.Name)
			list = append(list, o.withPlan("ice", "ice", say, func(plan *model.DayPlan) { plan.Coolers[k].Ice += kg }))
		}
	}
	return list
}
