package rigging

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/core/clear"
	"ergasia/core/hull"
	"ergasia/core/reach"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
)

// SpaceView is a box inside the hull that nothing takes.
type SpaceView struct {
	Name    string      `json:"name"`
	Corner  model.Vec   `json:"corner_m"`
	Size    model.Vec   `json:"size_m"`
	Litres  float64     `json:"litres"`
	Seconds *float64    `json:"seconds,omitempty" doc:"To have it open, from the nearest post; left out where no hand comes"`
	Post    string      `json:"post,omitempty"`
	Lid     string      `json:"lid" words:"lids" doc:"That it would have"`
	Dryness string      `json:"dryness" words:"dryness"`
	Over    string      `json:"over,omitempty" doc:"What it lies over"`
	Better  []BetterFit `json:"better" doc:"Gear that would be fetched quicker there"`
}

// BetterFit is gear that would go there better.
type BetterFit struct {
	GearID uuid.UUID `json:"gear_id" format:"uuid"`
	Name   string    `json:"name"`
	Now    string    `json:"now" doc:"Where it is"`
	Saves  float64   `json:"saves_s" doc:"Seconds a day"`
}

// Of spaces. Practice: a hull's skin and its frames take 3 cm; a box smaller than a
// tackle tray is none; people pass in a lane of 60 cm.
const (
	spaceStep   = 0.04 // m, to which a space is found
	skin        = 0.03
	mostSpaces  = 8
	lane        = 0.30 // m, half of it
	legroom     = 0.35 // m, before a post
	laneLong    = 2.5  // m, between posts that people walk between
	leastLitres = 4.0
)

var leastSides = [3]float64{0.08, 0.16, 0.2}

// Spaces finds the largest boxes inside the hull that no place, tank, foam, fitting,
// lid's swing or person takes.
func (a *Wing) Spaces(ctx context.Context, actor kernel.Actor, boat uuid.UUID) ([]SpaceView, error) {
	list := []SpaceView{}
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		s, err := a.where.Laden(tx, actor, boat)
		if err != nil {
			return err
		}
		names := map[string]bool{}
		for _, p := range s.Places {
			names[p.Name] = true
		}
		for _, f := range spaces(s) {
			if f.Litres() >= leastLitres {
				list = append(list, viewSpace(s, f, names))
			}
		}
		worth(s, list)
		return nil
	})
	return list, err
}

func spaces(s *aboard.Laden) []clear.Free {
	low, high := s.Craft.Hull.Bounds()
	g := clear.NewGrid(r3.Vec{X: low.X, Y: -high.Y, Z: 0}, high, spaceStep, within(s.Craft.Hull, low, high))
	for _, p := range s.Places {
		corner := r3.Vec{X: p.X, Y: p.Y, Z: p.Z}
		g.Take(corner, r3.Add(corner, r3.Vec{X: p.Length, Y: p.Breadth, Z: p.Height}))
	}
	o := s.Craft.Input.Outfit
	for _, t := range o.Tanks {
		g.Take(t.Corner.R3(), addVec(t.Corner, t.Size))
	}
	for _, f := range o.Foam {
		if f.In {
			g.Take(f.Low.R3(), f.High.R3())
		}
	}
	for _, m := range o.Masses { // a battery or a motor is not drawn: a hand's breadth about it
		if m.Kind == "battery" {
			g.Take(r3.Sub(m.At.R3(), r3.Vec{X: 0.15, Y: 0.1, Z: 0.12}), r3.Add(m.At.R3(), r3.Vec{X: 0.15, Y: 0.1, Z: 0.12}))
		}
	}
	sc := scene(s, s.Craft.Rigging)
	for _, t := range sc.Things {
		g.TakeBounds(t.Body())
		if t.Swing > 0 {
			g.TakeBounds(t.Swept())
		}
	}
	for _, p := range sc.Places {
		if p.Hinge != "" {
			g.TakeBounds(p.Swing())
		}
	}
	lanes(g, s, high.Z)
	return g.Spaces(mostSpaces, leastSides)
}

// within says whether a point lies in the hull, under her sheer and off her skin.
func within(h hull.Hull, low, high r3.Vec) func(r3.Vec) bool {
	sections := map[int][]hull.Point{}
	return func(p r3.Vec) bool {
		at := int(math.Round(p.X * 1000))
		section, known := sections[at]
		if !known {
			if inner := p.X; inner > low.X+skin && inner < high.X-skin {
				section, _ = h.SectionAt(inner)
			}
			sections[at] = section
		}
		if len(section) == 0 || p.Z > section[len(section)-1].Z {
			return false
		}
		breadth, keel := hull.BreadthAt(section, p.Z-skin)
		return p.Z-skin > keel && math.Abs(p.Y)+skin < breadth
	}
}

// lanes takes where people stand and walk: over the sole at each post, and between
// posts that are not far apart.
func lanes(g *clear.Grid, s *aboard.Laden, top float64) {
	stand := func(x, y, z float64) {
		g.Take(r3.Vec{X: x - lane, Y: y - lane, Z: z}, r3.Vec{X: x + lane, Y: y + lane, Z: top})
	}
	for i, p := range s.Posts {
		stand(p.X, p.Y, p.Z)
		stand(p.X+legroom, p.Y, p.Z)
		for _, q := range s.Posts[i+1:] {
			far := math.Hypot(p.X-q.X, p.Y-q.Y)
			if far > laneLong {
				continue
			}
			for at := 0.0; at < far; at += spaceStep {
				t := at / far
				z := p.Z
				if t > 0.5 {
					z = q.Z
				}
				stand(p.X+t*(q.X-p.X), p.Y+t*(q.Y-p.Y), z)
			}
		}
	}
}

// viewSpace tells of a space what it is worth.
func viewSpace(s *aboard.Laden, f clear.Free, names map[string]bool) SpaceView {
	v := SpaceView{
		Corner: millimetres(f.Low),
		Size:   millimetres(f.Size),
		Litres: math.Round(f.Litres()*10) / 10,
		Better: []BetterFit{},
	}
	sole := soleOf(s)
	v.Lid, v.Dryness = "none", "wet"
	where := "along the side"
	switch {
	case f.Low.Z+f.Size.Z <= sole+0.02:
		v.Lid, where = "hinged", "under the sole"
	case f.Low.X < 0.4:
		where = "in the stern"
	case f.Low.X+f.Size.X > s.Craft.Hull.Length()-0.8:
		v.Lid, where = "hinged", "in the bow"
	}
	if f.Low.Y >= -0.02 {
		where += ", port"
	} else if f.Low.Y+f.Size.Y <= 0.02 {
		where += ", starboard"
	}
	v.Name, v.Over = free(where, names), over(s, f)
	return v
}

func millimetres(v r3.Vec) model.Vec { return model.Vec{rounded(v.X), rounded(v.Y), rounded(v.Z)} }

// over names the tank or the place that a space lies over, if it does.
func over(s *aboard.Laden, f clear.Free) string {
	under := func(low, high r3.Vec) bool {
		return f.Low.Z >= high.Z-0.02 && f.Low.Z < high.Z+0.15 && f.Low.X < high.X && f.Low.X+f.Size.X > low.X &&
			f.Low.Y < high.Y && f.Low.Y+f.Size.Y > low.Y
	}
	for _, t := range s.Craft.Input.Outfit.Tanks {
		if under(t.Corner.R3(), addVec(t.Corner, t.Size)) {
			return t.Name
		}
	}
	for _, p := range s.Places {
		low := r3.Vec{X: p.X, Y: p.Y, Z: p.Z}
		if under(low, r3.Add(low, r3.Vec{X: p.Length, Y: p.Breadth, Z: p.Height})) {
			return p.Name
		}
	}
	return ""
}

// worth says how quick a hand is at each space, and which gear would be fetched quicker
// from it than from where it is.
func worth(s *aboard.Laden, list []SpaceView) {
	if len(s.Posts) == 0 {
		return
	}
	with := s.Branch()
	with.Places = slices.Clone(s.Places)
	for _, v := range list {
		with.Places = append(
			with.Places,
			model.Place{ID: idOf(v), BoatID: s.Boat.ID, Name: v.Name, X: v.Corner[0], Y: v.Corner[1],
				Z: v.Corner[2], Length: v.Size[0], Breadth: v.Size[1], Height: v.Size[2], Lid: v.Lid, Dryness: v.Dryness, Form: "box"},
		)
	}
	decks, now := with.Decks(), s.Rummage()
	for i := range list {
		v, here := &list[i], len(s.Places)+i
		for k, p := range s.Posts {
			if w := decks.Ways[k][here]; w.Reachable() && (v.Seconds == nil || w.Seconds < *v.Seconds) {
				v.Seconds, v.Post = &w.Seconds, p.Name
			}
		}
		v.better(s, decks, now, here)
	}
}

// idOf is an id for a space, the same for the same one: ways are remembered by it.
func idOf(v SpaceView) uuid.UUID {
	return uuid.NewSHA1(uuid.Nil, fmt.Append(nil, v.Name, v.Corner, v.Size))
}

// better lists the gear that gains most.
func (v *SpaceView) better(s *aboard.Laden, decks *aboard.Decks, now aboard.Rummaged, here int) {
	lies := reach.Lying{HandZ: v.Corner[2] + v.Size[2]/2, Others: 2}
	for _, g := range s.Gear {
		at := s.PlaceOf(g.ID)
		was, fetched := now.Fetch[g.ID]
		if at == nil || !fetched || g.UsesPerDay <= 0 || g.Shape == "rod" || g.NeedsDry || !goesIn(g, v.Size) {
			continue
		}
		then, ok := decks.Fetch(s.Table, g.UsedFrom, here, lies)
		if saves := g.UsesPerDay * (was.Use(g.Brought) - then.Use(g.Brought)); ok && saves >= 1 {
			v.Better = append(v.Better, BetterFit{GearID: g.ID, Name: g.Name, Now: at.Name, Saves: math.Round(saves)})
		}
	}
	slices.SortStableFunc(v.Better, func(a, b BetterFit) int { return cmp.Compare(b.Saves, a.Saves) })
	v.Better = v.Better[:min(len(v.Better), 4)]
}

// goesIn says whether all pieces of an entry, one beside another, may lie in a box by
// their sides alone: a tray that is too broad does not.
func goesIn(g model.Gear, size model.Vec) bool {
	box := []float64{size[0], size[1], size[2]}
	piece := []float64{g.Length, g.Breadth, g.Height}
	slices.Sort(box)
	slices.Sort(piece)
	for k := range 3 {
		if piece[k] > box[k] {
			return false
		}
	}
	volume := piece[0] * piece[1] * piece[2] * float64(g.Count)
	return volume <= 0.7*box[0]*box[1]*box[2]
}
