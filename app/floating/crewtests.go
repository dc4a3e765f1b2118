package floating

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/core/capacity"
	"ergasia/core/float"
	"ergasia/core/hull"
	"ergasia/core/words"
	"ergasia/store/model"

	"gonum.org/v1/gonum/spatial/r3"
)

const (
	bodyFromSide = 0.2  // metres from the inside of the hull to the middle of one who stands at it. Practice.
	seatHeight   = 0.4  // metres over the sole, of the side-load test. Practice.
	standardKg   = 85.0 // of an adult where nobody is aboard. Practice.
)

// offsetLimit is the greatest heel of the offset-load test, degrees, for a hull of
// so many metres: 10 + (24 - L)³/600, in the manner of ISO 12217-1 (memory).
func offsetLimit(length float64) float64 { return 10 + math.Pow(max(24-length, 0), 3)/600 }

// crewTests puts the people aboard where each test wants them. Where nobody is
// aboard two standard adults stand in.
func (s laden) crewTests(l aboard.Ledger) []TestView {
	base := s.Unmanned().Ledger().Load
	base.Tanks = l.Load.Tanks
	crew := s.Dressed()
	if len(crew) == 0 {
		crew = s.standIns()
	}
	limit := offsetLimit(s.Craft.Hull.Length())
	tests := []TestView{
		s.test(base, "port", "All to the port side", s.toSide(crew, 1), limit),
		s.test(base, "starboard", "All to the starboard side", s.toSide(crew, -1), limit),
		s.test(base, "bow", "All on the bow", s.toEnd(crew, true), limit),
		s.test(base, "aft", "All walk aft", s.toEnd(crew, false), limit),
	}
	return append(tests, s.overboard(base, crew, limit))
}

func (s laden) standIns() []aboard.Person {
	var list []aboard.Person
	for i, mark := range []string{"A", "B"} {
		post := model.Post{X: s.Craft.Hull.Length() * 0.4, Z: 0.3}
		if len(s.Posts) > 0 {
			post = s.Posts[min(i, len(s.Posts)-1)]
		}
		m := model.Member{Name: "an adult", Mark: mark, Kg: standardKg, MassKnown: "guess"}
		list = append(list, aboard.Person{Member: m, At: model.Station{}, Post: post, Body: aboard.Body(m, model.Station{},
			post)})
	}
	return list
}

// test floats the boat with people's bodies where they are put.
func (s laden) test(base float.Load, key, title string, people []float.Mass, limitDeg float64) TestView {
	l := base
	l.Masses = append(slices.Clone(base.Masses), people...)
	r := s.Craft.Float.Solve(l, nil)
	v := TestView{Key: key, Title: title, Status: r.Status, People: []Stander{}}
	for _, p := range people {
		v.People = append(v.People, Stander{Mark: p.Name, At: model.VecOf(p.At)})
	}
	f := r.Figures
	if f == nil {
		v.Sentence = kernel.Capital(r.Why) + "."
		return v
	}
	v.Attitude = s.Craft.Attitude(f)
	v.Met = r.Status == float.Afloat && math.Abs(f.HeelDeg) <= limitDeg
	switch {
	case r.Status == float.Swamped:
		v.Sentence = fmt.Sprintf("Water comes in at the %s: it lies %s under.", f.Lowest.Name, s.Small(-f.Lowest.M))
	case r.Status == float.Unstable:
		v.Sentence = fmt.Sprintf("She won't stay upright: she lolls %.1f° %s.", math.Abs(f.HeelDeg), sideWords(f.HeelDeg))
	case math.Abs(f.HeelDeg) > limitDeg:
		v.Sentence = fmt.Sprintf("Heels %.1f° %s, more than the %.0f° of an offset-load test.", math.Abs(f.HeelDeg),
			sideWords(f.HeelDeg), limitDeg)
	default:
		v.Sentence = fmt.Sprintf("Heels %.1f° %s, trims %.1f° bow %s; %s left at the %s.", math.Abs(f.HeelDeg),
			sideWords(f.HeelDeg),
			math.Abs(f.TrimDeg), upDown(f.TrimDeg), s.Small(f.Lowest.M), f.Lowest.Name)
	}
	for _, w := range f.Awash {
		v.Sentence += fmt.Sprintf(" The sea comes in by the %s and stands %s deep %s.", w.Through, s.Small(w.Depth),
			inOrOn(w.Space))
	}
	return v
}

func upDown(trim float64) string {
	if trim < 0 {
		return "down"
	}
	return "up"
}

// marked is a body under its mark, standing.
func marked(p aboard.Person, at r3.Vec) float.Mass {
	m := p.Body
	m.Name, m.At = p.Member.Mark, at
	return m
}

// toSide puts everyone standing at the side, abreast of their posts.
func (s laden) toSide(crew []aboard.Person, side float64) []float.Mass {
	var list []float.Mass
	for _, p := range crew {
		list = append(list, marked(p, r3.Vec{X: p.Post.X, Y: side * s.insideAt(p.Post.X, p.Post.Z),
			Z: p.Post.Z + float.StandingCG}))
	}
	return list
}

// insideAt is how far from the middle a person can stand.
func (s laden) insideAt(x, sole float64) float64 {
	low, high := s.Craft.Hull.Bounds()
	half, ok := s.Craft.Hull.SectionAt(min(max(x, low.X+0.3), high.X-0.05))
	if !ok {
		return 0
	}
	breadth, _ := hull.BreadthAt(half, sole+0.1)
	return max(breadth-bodyFromSide, 0)
}

// toEnd puts everyone round the foremost or aftmost post, in two files.
func (s laden) toEnd(crew []aboard.Person, fore bool) []float.Mass {
	post := model.Post{X: s.Craft.Hull.Length() * 0.06, Z: 0.3}
	if fore {
		post.X = s.Craft.Hull.Length() * 0.85
		post.Z = 0.5
	}
	for i, p := range s.Posts {
		if i == 0 || (p.X > post.X) == fore {
			post = p
		}
	}
	var list []float.Mass
	for i, p := range crew {
		y := 0.22
		if len(crew) == 1 {
			y = 0
		} else if i%2 == 1 {
			y = -y
		}
		reach := min(math.Abs(y), s.insideAt(post.X, post.Z)+bodyFromSide/2)
		list = append(list, marked(p, r3.Vec{X: post.X, Y: math.Copysign(reach, y), Z: post.Z + float.StandingCG}))
	}
	return list
}

// overboard hauls the heaviest in over the side, on the worse side, with the next
// heaviest helping at that side.
func (s laden) overboard(base float.Load, crew []aboard.Person, limit float64) TestView {
	order := slices.Clone(crew)
	slices.SortStableFunc(order, func(a, b aboard.Person) int { return cmp.Compare(b.Body.Kg, a.Body.Kg) })
	var worst TestView
	for i, side := range []float64{1, -1} {
		hanging := s.Craft.Float.LongestArm(side)
		people := []float.Mass{marked(order[0], hanging)}
		for k, p := range order[1:] {
			at := p.Body.At
			if k == 0 {
				at = r3.Vec{X: hanging.X, Y: side * s.insideAt(hanging.X, p.Post.Z), Z: p.Post.Z + float.StandingCG}
			}
			people = append(people, marked(p, at))
		}
		name := map[float64]string{1: "port", -1: "starboard"}[side]
		t := s.test(base, "overboard", fmt.Sprintf("%s, hauled in over the %s side", order[0].Member.Name, name), people,
			limit)
		if i == 0 || worst.Attitude != nil && (t.Attitude == nil || t.Attitude.Lowest.M < worst.Attitude.Lowest.M) {
			worst = t
		}
	}
	return worst
}

// swamped is how she lies full of water: as she is, and with her foam out or in.
func (s laden) swamped() []SwampView {
	foam := s.Craft.Input.Outfit.Foam
	in := func(keep func(model.FoamInput) bool) (boxes [][2]r3.Vec) {
		for _, f := range foam {
			if keep(f) {
				boxes = append(boxes, [2]r3.Vec{f.Low.R3(), f.High.R3()})
			}
		}
		return boxes
	}
	things := s.solidThings()
	list := []SwampView{s.swampedWith("As she is", in(func(f model.FoamInput) bool { return f.In }), things)}
	some := slices.ContainsFunc(foam, func(f model.FoamInput) bool { return f.In })
	all := !slices.ContainsFunc(foam, func(f model.FoamInput) bool { return !f.In })
	if some {
		list = append(list, s.swampedWith("With the foam taken out", nil, things))
	}
	if !all {
		list = append(list, s.swampedWith("With all foam put in", in(func(model.FoamInput) bool { return true }), things))
	}
	return list
}

func (s laden) solidThings() []float.Thing {
	var list []float.Thing
	for _, m := range s.Craft.Input.Outfit.Masses {
		density := map[string]float64{"motor": float.MotorDensity, "battery": float.BatteryDensity,
			"fitting": float.GearDensity}[m.Kind]
		if density > 0 {
			list = append(list, float.Thing{Name: m.Name, Kg: m.Kg, Density: density, At: m.At.R3(),
				Size: r3.Vec{X: 0.3, Y: 0.3, Z: 0.3}})
		}
	}
	for _, g := range s.Aboard() {
		list = append(list, float.Thing{Name: g.Name, Kg: g.Mass.Kg, Density: float.GearDensity, At: g.Mass.At,
			Size: r3.Vec{X: g.Length, Y: g.Breadth, Z: g.Height}})
	}
	for _, p := range s.Dressed() {
		list = append(list, float.Thing{Name: p.Member.Name, Kg: p.Body.Kg, Density: float.PersonDensity, At: p.Body.At,
			Size: r3.Vec{X: 0.3, Y: 0.45, Z: 1.2}})
	}
	return list
}

func (s laden) swampedWith(title string, foam [][2]r3.Vec, things []float.Thing) SwampView {
	in := float.Swamp{SkinDensity: float.SkinDensity[cmp.Or(s.Craft.Input.Outfit.Material, "glass")], Foam: foam,
		Things: things, Water: s.Craft.Input.Water}
	for _, m := range s.Craft.Input.Outfit.Masses {
		if m.Kind == "hull" {
			total := in.HullKg + m.Kg
			if total > 0 {
				in.HullCG = r3.Add(r3.Scale(in.HullKg/total, in.HullCG), r3.Scale(m.Kg/total, m.At.R3()))
			}
			in.HullKg = total
		}
	}
	if in.HullKg <= 0 {
		return SwampView{Title: title, Sentence: "Enter the mass of her hull first."}
	}
	r := float.FullOfWater(s.Craft.Hull, s.Craft.Float.Shell, in)
	v := SwampView{Title: title, Floats: r.Floats, Level: r.Level, FoamL: r.FoamLitre, NeedL: r.NeedLitre,
		MarginKg: r.MarginKg}
	v.Sentence = kernel.Capital(r.Why) + "."
	if r.NeedLitre > 0 {
		v.Sentence += " " + s.Units.Volume.Text(math.Ceil(r.NeedLitre/5)*5, 0) +
			" more of closed-cell foam would carry her with a tenth to spare; high and out at the sides it keeps her level."
	}
	if r.Figures != nil {
		v.Attitude = s.Craft.Attitude(r.Figures)
	}
	return v
}

// CapacityView is what her plate would say.
type CapacityView struct {
	Applies    bool     `json:"applies"`
	Why        string   `json:"why,omitempty"`
	MaximumKg  float64  `json:"maximum_kg"`
	WeightKg   float64  `json:"weight_kg"`
	PersonsKg  float64  `json:"persons_kg"`
	Persons    int      `json:"persons"`
	SideLoadKg *float64 `json:"side_load_kg,omitempty"`
	Horsepower float64  `json:"horsepower"`
	Sentence   string   `json:"sentence"`
}

// capacity works out the plate of the boat as she is rigged, with nobody and
// nothing else aboard.
func (s laden) capacity() (CapacityView, error) {
	o := s.Craft.Input.Outfit
	low, high := s.Craft.Hull.Bounds()
	stern := s.Craft.Hull.Stations[0].Half
	b := capacity.Boat{Hull: s.Craft.Hull, Load: s.Craft.Ledger(), Propulsion: cmp.Or(o.Propulsion, capacity.Outboard),
		Kind:       cmp.Or(o.Kind, "monohull"),
		FlatBottom: s.Craft.Input.Hull.Form == "flat", Remote: o.Remote, TransomBeam: 2 * stern[len(stern)-1].Y}
	if s.Craft.Input.Hull.Form == "craft" {
		b.Kind = "watercraft"
	}
	for _, m := range o.Masses {
		if m.Kind == "motor" || m.Kind == "battery" {
			b.MotorKg += m.Kg
		} else {
			b.BoatKg += m.Kg
		}
	}
	b.Load.Tanks = nil // the rule counts her fuel, full, and no water
	for i, t := range s.Craft.Load.Tanks {
		if o.Tanks[i].Kind == "fuel" {
			t.Fill = 1
			b.FuelKg += t.Kg() // of tanks built in; a can is gear
			b.Load.Tanks = append(b.Load.Tanks, t)
		}
	}
	aft, fore, sole := low.X+(high.X-low.X)*0.2, low.X+(high.X-low.X)*0.8, (high.Z-low.Z)*0.35
	for i, p := range s.Posts {
		if i == 0 {
			aft, fore, sole = p.X, p.X, p.Z
		}
		aft, fore, sole = min(aft, p.X), max(fore, p.X), min(sole, p.Z)
	}
	x := (aft + fore) / 2
	b.Edge = r3.Vec{X: x, Y: s.insideAt(x, sole+seatHeight) + bodyFromSide, Z: sole + seatHeight}
	if err := b.Check(); err != nil {
		return CapacityView{Why: "her masses are not all there yet: enter hull and motor first"}, nil
	}
	f, err := capacity.Work(b)
	if err != nil {
		return CapacityView{}, fmt.Errorf("working out the capacity: %w", err)
	}
	v := CapacityView{Applies: f.Applies, Why: f.Why, MaximumKg: f.MaximumKg, WeightKg: f.WeightKg,
		PersonsKg: f.PersonsKg, Persons: f.Persons,
		SideLoadKg: aboard.Finite(f.SideLoadKg), Horsepower: f.Horsepower}
	if f.Applies {
		v.Sentence = fmt.Sprintf("After 33 CFR 183, from memory: %s or %s; %s of persons, motor and gear.",
			words.HowMany(v.Persons, "person"), s.MassText(v.PersonsKg), s.MassText(v.WeightKg))
	}
	return v, nil
}
