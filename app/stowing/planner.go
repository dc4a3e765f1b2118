package stowing

import (
	"fmt"
	"math"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/brief"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/safety"
	"ergasia/core/float"
	"ergasia/core/reach"
	"ergasia/core/stow"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
)

// planner has what a plan is made of.
type planner struct {
	*aboard.Laden
	weights Weights
	things  []model.Gear // by item of the problem
	problem stow.Problem
	start   []stow.Placed
	left    bool                                // nobody is aboard
	must    map[uuid.UUID]float64               // seconds within which gear is to be in a hand
	wishes  map[uuid.UUID]map[uuid.UUID]float64 // places where people look first, by gear
	next    *aboard.Laden                       // as the plan has it, once it was made
}

func newPlanner(tx *store.Tx, actor kernel.Actor, s *aboard.Laden, in PlanInput) (_ *planner, err error) {
	p := &planner{Laden: s, weights: Schools[in.School]}
	if in.Weights != nil {
		p.weights = *in.Weights
	}
	if len(s.Places) == 0 || len(s.Posts) == 0 {
		return nil, &refuse.Error{Kind: refuse.Refused,
			Sentence: "She needs places and at least one post before a plan can be made: set them up first."}
	}
	var kits []model.Kit
	if err := store.All(tx, &kits, "name, id", ""); err != nil {
		return nil, fmt.Errorf("loading the kits: %w", err)
	}
	pinned := map[uuid.UUID]bool{}
	for _, id := range in.Pinned {
		pinned[id] = true
	}
	for _, g := range s.Gear {
		at := s.Stowage[g.ID]
		aboard := at.BoatID != nil && *at.BoatID == s.Boat.ID && at.PlaceID != nil
		if at.InsideID != nil || s.Called(g.ID) || pinned[g.ID] || g.Count == 0 || !aboard &&
			!(in.Quay && at.Kind == "quay") {
			continue
		}
		if in.Rods && g.Shape != "rod" {
			continue
		}
		p.things = append(p.things, g)
	}
	p.left = in.Left
	if p.must, err = safety.Must(tx, actor, s); err != nil {
		return nil, err
	}
	if p.wishes, err = brief.Wishes(tx, s.Boat.ID); err != nil {
		return nil, err
	}
	if len(p.things) == 0 {
		return nil, &refuse.Error{Kind: refuse.Refused,
			Sentence: "There is nothing to plan: everything aboard is pinned, or nothing is aboard."}
	}
	p.places()
	for i, g := range p.things {
		p.problem.Items = append(p.problem.Items, p.item(g))
		if put := in.put(g.ID); put != nil {
			if put.PlaceID != nil {
				p.start = append(p.start, stow.Placed{Item: p.problem.Items[i].ID, Place: put.PlaceID.String()})
			}
		} else if at := s.Stowage[g.ID]; at.PlaceID != nil {
			p.start = append(p.start, stow.Placed{Item: p.problem.Items[i].ID, Place: at.PlaceID.String()})
		}
	}
	p.groups(kits)
	p.balance()
	return p, nil
}

func (in PlanInput) put(gear uuid.UUID) *Put {
	return aboard.First(in.From, func(q Put) bool { return q.GearID == gear })
}

// places of the problem, with what stays in them.
func (p *planner) places() {
	for _, place := range p.Laden.Places {
		spot := stow.Spot{Place: p.LaidPlace(place), At: r3.Vec{X: place.X + place.Length/2, Y: place.Y + place.Breadth/2,
			Z: place.Z}}
		spot.Fixed = slices.DeleteFunc(spot.Fixed, func(l stow.Laid) bool {
			return slices.ContainsFunc(p.things, func(o model.Gear) bool { return o.ID.String() == l.ID })
		})
		if place.KeptForOwner != nil || place.KeptForTag != "" {
			spot.Reserved = []string{"nobody"}
			for _, g := range p.things {
				if !aboard.Kept(place, g) {
					spot.Reserved = append(spot.Reserved, g.ID.String())
				}
			}
		}
		t := p.Table
		spot.Crowd = t.Look + 0.3*t.Shift // a guess of how often one thing lies on another, until they are laid
		for _, g := range p.Gear {
			at := p.Stowage[g.ID]
			if at.PlaceID == nil || *at.PlaceID != place.ID || at.InsideID != nil || slices.ContainsFunc(p.things,
				func(o model.Gear) bool { return o.ID == g.ID }) {
				continue
			}
			spot.Held = append(spot.Held, p.Piece(g))
			spot.Hazards = append(spot.Hazards, p.Hazards(g)...)
		}
		p.problem.Places = append(p.problem.Places, spot)
	}
}

// item of a thing: it goes as one, with what it holds.
func (p *planner) item(g model.Gear) stow.Item {
	piece := p.Piece(g)
	it := stow.Item{Piece: piece, Lot: piece.Count, Hazards: p.Hazards(g)}
	it.Count = 1
	kg := piece.Kg * float64(piece.Count)
	parts := p.UsedIn(g)
	d, t := p.Decks(), p.Table
	now := p.Stowage[g.ID]
	_, high := p.Craft.Hull.Bounds()
	for j, place := range p.Laden.Places {
		cost := 0.0
		for _, u := range parts {
			f, ok := d.Fetch(t, u.Gear.UsedFrom, j, reach.Lying{HandZ: place.Z + place.Height/2, Boxes: u.Boxes})
			if !ok || p.tooSlow(u.Gear, f) || p.left && !place.Locks && p.Valuable(g) {
				cost = math.Inf(1)
				break
			}
			cost += aboard.Wanted(u.Gear) * f.Use(u.Gear.Brought)
		}
		cost += p.weights.LowDown * kg / 10 * (place.Z + piece.Size.Z/2)
		cost += p.weights.LowDown * kg / 10 * math.Abs(place.X+place.Length/2-high.X/2) / high.X
		if wished := p.wishes[g.ID]; wished != nil {
			cost += wishSeconds * (1 - wished[place.ID])
		}
		if now.PlaceID != nil && *now.PlaceID != place.ID {
			cost += p.weights.Stay
		}
		it.Cost = append(it.Cost, cost)
	}
	return it
}

// wishSeconds a day is what it is worth that a thing lies where everyone looks for it
// first. Practice, no source.
const wishSeconds = 60

// tooSlow says whether a piece, by itself or in a box, is longer in coming to a hand than
// the crew's rules allow.
func (p *planner) tooSlow(g model.Gear, f reach.Fetch) bool {
	limit, has := p.must[g.ID]
	return has && f.Seconds > limit
}

// groups are kits and owners, of what is planned.
func (p *planner) groups(kits []model.Kit) {
	add := func(id, name string, split float64, is func(model.Gear) bool) {
		g := stow.Group{ID: id, Name: name, Split: split}
		for i, thing := range p.things {
			if is(thing) {
				g.Items = append(g.Items, i)
			}
		}
		if len(g.Items) > 1 && split > 0 {
			p.problem.Groups = append(p.problem.Groups, g)
		}
	}
	for _, k := range kits {
		add("kit "+k.ID.String(), k.Name, p.weights.Kit, func(g model.Gear) bool {
			return slices.ContainsFunc(k.Lines, func(l model.KitLine) bool {
				return slices.ContainsFunc(l.Choices, func(c model.KitChoice) bool {
					return c.GearID != nil && *c.GearID == g.ID || c.Tag != "" && slices.Contains(g.Tags, c.Tag)
				})
			})
		})
	}
	for _, m := range p.Members {
		add("owner "+m.ID.String(), m.Name, p.weights.Owner, func(g model.Gear) bool {
			return g.OwnerID != nil &&
				*g.OwnerID == m.ID
		})
	}
}

// balance is what the rest of the boat asks of the planned gear's moments, as
// she lies with the plan that is to be bettered: level, trimmed as the crew
// likes it, and at a price that little outbids within the limits that they hold
// her to. What waits on the quay is taken to come aboard where it does not trim her.
func (p *planner) balance() {
	p.problem.Limits = stow.NoLimits()
	from := p.Branch()
	heel, trim, waits := 0.0, 0.0, 0.0
	for i, g := range p.things {
		kg, _ := p.Weight(g)
		place := p.startsIn(p.problem.Items[i].ID)
		if place == nil {
			from.Carry(g.ID, model.Whereabouts{Kind: "quay"})
			waits += kg
			continue
		}
		from.Carry(g.ID, model.Whereabouts{Kind: "boat", BoatID: &p.Boat.ID, PlaceID: &place.ID})
		heel, trim = heel+kg*(place.Y+place.Breadth/2), trim+kg*(place.X+place.Length/2) // as the search counts them
	}
	load := from.Ledger().Load
	f := p.Craft.Float.Solve(load, nil).Figures
	if f != nil && waits > 0 {
		trim += waits * f.LCF
		load.Masses = append(load.Masses, float.Mass{Name: "what waits on the quay", Kg: waits,
			At: r3.Vec{X: f.LCF, Z: f.CG.Z}})
		f = p.Craft.Float.Solve(load, nil).Figures
	}
	if f == nil {
		return
	}
	const degree = math.Pi / 180
	kg := load.Total().Kg
	perHeel, perTrim := max(kg*f.GMT*degree, 1), max(kg*f.GML*degree, 1) // kg·m for a degree
	l := p.Craft.Input.Limits
	target := (l.TrimLow.Value + l.TrimHigh.Value) / 2
	level := heel + f.HeelDeg*perHeel
	bow := func(deg float64) float64 { return trim - (deg-f.TrimDeg)*perTrim } // bow up comes of moments aft
	p.problem.Balance = stow.Balance{HeelTarget: level, TrimTarget: bow(target), PerHeel: p.weights.Level / perHeel,
		PerTrim: 2 * p.weights.Level / perTrim,
		Within: stow.Limits{Heel: [2]float64{level - l.Heel.Value*perHeel, level + l.Heel.Value*perHeel},
			Trim: [2]float64{bow(l.TrimHigh.Value), bow(l.TrimLow.Value)}},
		OverHeel: outOfLimits / perHeel, OverTrim: outOfLimits / perTrim}
}

// startsIn is the place of a thing in the plan that is to be bettered; nil where
// it has none, or one that she has no more.
func (p *planner) startsIn(item string) *model.Place {
	s := aboard.First(p.start, func(s stow.Placed) bool { return s.Item == item })
	if s == nil {
		return nil
	}
	return aboard.First(p.Laden.Places, func(q model.Place) bool { return q.ID.String() == s.Place })
}

// outOfLimits is the price of a degree outside the crew's limits, seconds a day.
const outOfLimits = 900
