package app

import (
	"encoding/json"
	"fmt"
	"maps"
	"math"
	"slices"

	"ergasia/core/float"
	"ergasia/core/reach"
	"ergasia/core/stow"
	"ergasia/store"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
	"gorm.io/gorm"
)

// planner has what a plan is made of.
type planner struct {
	*snapshot
	weights Weights
	things  []store.Gear // by item of the problem
	problem stow.Problem
	start   []stow.Placed
	left    bool // nobody is aboard
}

func (s *snapshot) planner(tx *gorm.DB, actor Actor, in PlanInput) (*planner, error) {
	p := &planner{snapshot: s, weights: Schools[in.School]}
	if in.Weights != nil {
		p.weights = *in.Weights
	}
	if len(s.places) == 0 || len(s.posts) == 0 {
		return nil, &Error{Kind: Refused, Sentence: "She needs places and at least one post before a plan can be made: set them up first."}
	}
	var kits []store.Kit
	if err := tx.Where("crew_id = ?", actor.Crew).Order("name, id").Find(&kits).Error; err != nil {
		return nil, fmt.Errorf("loading the kits: %w", err)
	}
	pinned := map[uuid.UUID]bool{}
	for _, id := range in.Pinned {
		pinned[id] = true
	}
	for _, g := range s.gear {
		at := s.stowage[g.ID]
		aboard := at.BoatID != nil && *at.BoatID == s.boat.ID && at.PlaceID != nil
		if at.InsideID != nil || s.called[g.ID] || pinned[g.ID] || g.Count == 0 || !aboard && !(in.Quay && at.Kind == "quay") {
			continue
		}
		if in.Rods && g.Shape != "rod" {
			continue
		}
		p.things = append(p.things, g)
	}
	p.left = in.Left
	if len(p.things) == 0 {
		return nil, &Error{Kind: Refused, Sentence: "There is nothing to plan: everything aboard is pinned, or nothing is aboard."}
	}
	p.places()
	for i, g := range p.things {
		p.problem.Items = append(p.problem.Items, p.item(g))
		if put := in.put(g.ID); put != nil {
			if put.PlaceID != nil {
				p.start = append(p.start, stow.Placed{Item: p.problem.Items[i].ID, Place: put.PlaceID.String()})
			}
		} else if at := s.stowage[g.ID]; at.PlaceID != nil {
			p.start = append(p.start, stow.Placed{Item: p.problem.Items[i].ID, Place: at.PlaceID.String()})
		}
	}
	p.groups(kits)
	p.balance()
	return p, nil
}

func (in PlanInput) put(gear uuid.UUID) *Put {
	return first(in.From, func(q Put) bool { return q.GearID == gear })
}

// places of the problem, with what stays in them.
func (p *planner) places() {
	for _, place := range p.snapshot.places {
		spot := stow.Spot{Place: p.laidPlace(place), At: r3.Vec{X: place.X + place.Length/2, Y: place.Y + place.Breadth/2, Z: place.Z}}
		spot.Fixed = slices.DeleteFunc(spot.Fixed, func(l stow.Laid) bool {
			return slices.ContainsFunc(p.things, func(o store.Gear) bool { return o.ID.String() == l.ID })
		})
		if place.KeptForOwner != nil || place.KeptForTag != "" {
			spot.Reserved = []string{"nobody"}
			for _, g := range p.things {
				if !kept(place, g) {
					spot.Reserved = append(spot.Reserved, g.ID.String())
				}
			}
		}
		t := p.times()
		spot.Crowd = t.Look + 0.3*t.Shift // a guess of how often one thing lies on another, until they are laid
		for _, g := range p.gear {
			at := p.stowage[g.ID]
			if at.PlaceID == nil || *at.PlaceID != place.ID || at.InsideID != nil || slices.ContainsFunc(p.things, func(o store.Gear) bool { return o.ID == g.ID }) {
				continue
			}
			spot.Held = append(spot.Held, p.piece(g))
			spot.Hazards = append(spot.Hazards, p.hazards(g)...)
		}
		p.problem.Places = append(p.problem.Places, spot)
	}
}

// hazards of a thing and of what it holds.
func (s *snapshot) hazards(g store.Gear) []string {
	list := slices.Clone([]string(g.Hazards))
	for _, held := range s.holds[g.ID] {
		list = append(list, s.hazards(held)...)
	}
	return list
}

// item of a thing: it goes as one, with what it holds.
func (p *planner) item(g store.Gear) stow.Item {
	piece := p.piece(g)
	it := stow.Item{Piece: piece, Lot: piece.Count, Hazards: p.hazards(g)}
	it.Count = 1
	kg := piece.Kg * float64(piece.Count)
	parts := p.usedIn(g, 0)
	d, t := p.decks(), p.times()
	now := p.stowage[g.ID]
	_, high := p.craft.hull.Bounds()
	for j, place := range p.snapshot.places {
		cost := 0.0
		for _, u := range parts {
			f, ok := d.fetch(t, u.gear.UsedFrom, j, reach.Lying{HandZ: place.Z + place.Height/2, Boxes: u.boxes})
			if !ok || tooSlow(g, f) || p.left && !place.Locks && p.valuable(g) {
				cost = math.Inf(1)
				break
			}
			cost += wanted(u.gear) * f.Round()
		}
		cost += p.weights.LowDown * kg / 10 * (place.Z + piece.Size.Z/2)
		cost += p.weights.LowDown * kg / 10 * math.Abs(place.X+place.Length/2-high.X/2) / high.X
		if now.PlaceID != nil && *now.PlaceID != place.ID {
			cost += p.weights.Stay
		}
		it.Cost = append(it.Cost, cost)
	}
	return it
}

// kept says whether a place is kept for others' things.
func kept(p store.Place, g store.Gear) bool { return keptForAnother(p, g) || keptForTag(p, g) }

func keptForAnother(p store.Place, g store.Gear) bool {
	return p.KeptForOwner != nil && (g.OwnerID == nil || *g.OwnerID != *p.KeptForOwner)
}

func keptForTag(p store.Place, g store.Gear) bool {
	return p.KeptForTag != "" && !slices.Contains(g.Tags, p.KeptForTag)
}

// valuable says whether a thing, or one that it holds, is to be locked away.
func (s *snapshot) valuable(g store.Gear) bool {
	return slices.Contains(g.Tags, "lock") || slices.ContainsFunc(s.holds[g.ID], s.valuable)
}

// slowest are the seconds within which gear with a tag must be in a hand.
// Defaults, practice, no source.
var slowest = map[string]float64{"throwable": 5, "extinguisher": 10, "drain plug": 10, "safety": 15}

func tooSlow(g store.Gear, f reach.Fetch) bool {
	return slices.ContainsFunc(g.Tags, func(tag string) bool {
		limit, has := slowest[tag]
		return has && f.Seconds > limit
	})
}

// urgentUses is as how often a day a thing counts that is fetched seldom, and in
// need: it lies near and on top. Practice, no source.
const urgentUses = 15

// wanted is as how often a day a thing counts when it is decided where it lies.
func wanted(g store.Gear) float64 {
	if slices.ContainsFunc(g.Tags, func(tag string) bool { _, urgent := slowest[tag]; return urgent }) {
		return max(g.UsesPerDay, urgentUses)
	}
	return g.UsesPerDay
}

// groups are kits and owners, of what is planned.
func (p *planner) groups(kits []store.Kit) {
	add := func(id, name string, split float64, is func(store.Gear) bool) {
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
		var lines []KitLine
		if json.Unmarshal(k.Lines, &lines) != nil {
			continue
		}
		add("kit "+k.ID.String(), k.Name, p.weights.Kit, func(g store.Gear) bool {
			return slices.ContainsFunc(lines, func(l KitLine) bool {
				return slices.ContainsFunc(l.Choices, func(c KitChoice) bool {
					return c.GearID != nil && *c.GearID == g.ID || c.Tag != "" && slices.Contains(g.Tags, c.Tag)
				})
			})
		})
	}
	for _, m := range p.members {
		add("owner "+m.ID.String(), m.Name, p.weights.Owner, func(g store.Gear) bool { return g.OwnerID != nil && *g.OwnerID == m.ID })
	}
}

// balance is what the rest of the boat asks of the planned gear's moments, as
// she lies with the plan that is to be bettered: level, trimmed as the crew
// likes it, and at a price that little outbids within the limits that they hold
// her to. What waits on the quay is taken to come aboard where it does not trim her.
func (p *planner) balance() {
	p.problem.Limits = stow.NoLimits()
	from := *p.snapshot
	from.stowage = maps.Clone(p.stowage)
	heel, trim, waits := 0.0, 0.0, 0.0
	for i, g := range p.things {
		kg, _ := p.weight(g)
		place := p.startsIn(p.problem.Items[i].ID)
		if place == nil {
			from.carry(g.ID, store.Whereabouts{Kind: "quay"})
			waits += kg
			continue
		}
		from.carry(g.ID, store.Whereabouts{Kind: "boat", BoatID: &p.boat.ID, PlaceID: &place.ID})
		heel, trim = heel+kg*(place.Y+place.Breadth/2), trim+kg*(place.X+place.Length/2) // as the search counts them
	}
	load := from.ledger(from.lies()).load
	f := p.craft.float.Solve(load, nil).Figures
	if f != nil && waits > 0 {
		trim += waits * f.LCF
		load.Masses = append(load.Masses, float.Mass{Name: "what waits on the quay", Kg: waits, At: r3.Vec{X: f.LCF, Z: f.CG.Z}})
		f = p.craft.float.Solve(load, nil).Figures
	}
	if f == nil {
		return
	}
	const degree = math.Pi / 180
	kg := load.Total().Kg
	perHeel, perTrim := max(kg*f.GMT*degree, 1), max(kg*f.GML*degree, 1) // kg·m for a degree
	l := p.craft.input.Limits
	target := (l.TrimLow.Value + l.TrimHigh.Value) / 2
	level := heel + f.HeelDeg*perHeel
	bow := func(deg float64) float64 { return trim - (deg-f.TrimDeg)*perTrim } // bow up comes of moments aft
	p.problem.Balance = stow.Balance{HeelTarget: level, TrimTarget: bow(target), PerHeel: p.weights.Level / perHeel, PerTrim: 2 * p.weights.Level / perTrim,
		Within: stow.Limits{Heel: [2]float64{level - l.Heel.Value*perHeel, level + l.Heel.Value*perHeel},
			Trim: [2]float64{bow(l.TrimHigh.Value), bow(l.TrimLow.Value)}},
		OverHeel: outOfLimits / perHeel, OverTrim: outOfLimits / perTrim}
}

// startsIn is the place of a thing in the plan that is to be bettered; nil where
// it has none, or one that she has no more.
func (p *planner) startsIn(item string) *store.Place {
	s := first(p.start, func(s stow.Placed) bool { return s.Item == item })
	if s == nil {
		return nil
	}
	return first(p.snapshot.places, func(q store.Place) bool { return q.ID.String() == s.Place })
}

// outOfLimits is the price of a degree outside the crew's limits, seconds a day.
const outOfLimits = 900
