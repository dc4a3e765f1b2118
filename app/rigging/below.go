package rigging

import (
	"fmt"
	"math"
	"strings"

	"ergasia/app/aboard"
	"ergasia/core/fitting"
	"ergasia/store/model"
)

// seats tells how a transducer on the transom sits by the hull's own lines.
func (t teller) seats(f model.Fitting, add func(string, bool, string, string)) {
	thing := aboard.ThingOf(f)
	bottom := math.Inf(1)
	for _, c := range thing.Body().Corners {
		bottom = math.Min(bottom, c.Z)
	}
	up := t.scene.Water.Up
	water := (t.scene.Water.Level - up.Y*thing.At.Y) / up.Z
	s := fitting.Transducer{Y: thing.At.Y, Bottom: bottom}.Seat(t.s.Craft.Hull, water)
	if !s.Onto {
		add("transducer", false, f.Name+" hangs beside the bottom, where it flies dry: bring it in under the hull.", "")
		return
	}
	best := fmt.Sprintf("Set its face %s over the keel's level.", t.small(s.Best))
	switch {
	case s.Under < fitting.UnderLeast:
		add(
			"transducer",
			false,
			fmt.Sprintf(
				"The face of %s is %s over the bottom there: the hull hides it, and air runs over it.",
				f.Name,
				t.small(math.Max(-s.Under, 0)),
			),
			best,
		)
	case s.Under > fitting.UnderMost:
		add(
			"transducer",
			false,
			fmt.Sprintf(
				"The face of %s stands %s under the bottom there: it throws spray and catches weed.",
				f.Name,
				t.small(s.Under),
			),
			best,
		)
	}
	if s.Strake < fitting.OffStrake {
		add(
			"transducer",
			false,
			fmt.Sprintf("%s is %s from a strake or chine, which trails air.", f.Name, t.small(s.Strake)),
			"",
		)
	}
	if s.Propeller < fitting.OffPropeller && t.s.Craft.Input.Outfit.Propulsion != "manual" {
		add(
			"transducer",
			false,
			fmt.Sprintf("%s is %s off the middle: the propeller's water reaches it.", f.Name, t.small(s.Propeller)),
			fmt.Sprintf("Keep it %s off the middle or more.", t.small(fitting.OffPropeller)),
		)
	}
	if math.Abs(f.Lies.Lean) > fitting.LevelWithin {
		add(
			"transducer",
			true,
			fmt.Sprintf(
				"%s is %.0f° off level; the bottom rises %.0f° there, and its face should not.",
				f.Name,
				math.Abs(f.Lies.Lean),
				s.Deadrise,
			),
			"",
		)
	}
	if s.Wet < fitting.WetLeast {
		add(
			"transducer",
			true,
			fmt.Sprintf("The face of %s is %s under water at rest: it may come out in a sea.", f.Name, t.small(s.Wet)),
			"",
		)
	}
}

// anchorSaid says what her ground tackle does where she usually anchors.
func anchorSaid(s *aboard.Laden) []string {
	said := []string{}
	r := s.Craft.Input.Outfit.Rigging
	if r == nil || r.Rode == nil || r.Rode.Chain+r.Rode.Rope <= 0 {
		return said
	}
	in := *r.Rode
	rode := fitting.Rode{
		Chain:    in.Chain,
		ChainMM:  in.ChainMM,
		Rope:     in.Rope,
		RopeMM:   in.RopeMM,
		Depth:    in.Depth,
		Tide:     in.Tide,
		Scope:    in.Scope,
		Windlass: in.Windlass,
		Bow:      bowOver(s),
	}
	var locker *model.Place
	if in.Locker != nil {
		locker = s.Place(*in.Locker)
	}
	if locker != nil {
		rode.Locker = locker.Length * locker.Breadth * locker.Height * 1000
	}
	a := rode.Anchor()
	length := s.LengthText
	if a.Short > 0 {
		said = append(
			said,
			fmt.Sprintf("%s of rode are missing: %.0f times %s of water, tide and bow are %s.", length(a.Short), a.Scope,
				length(rode.Depth+rode.Tide+rode.Bow), length(a.Needed)),
		)
	} else {
		said = append(said, fmt.Sprintf("%s of rode are let out in %s of water; all of it is enough for %s.", length(a.Needed), length(rode.Depth), length(a.Deepest)))
	}
	said = append(said, fmt.Sprintf("Down in %.0f s, up in %.0f s. The chain weighs %s.", a.Down, a.Up, s.MassText(a.Kg)))
	if locker != nil && a.Over > 0 {
		said = append(
			said,
			fmt.Sprintf(
				"%s of rope don't go into %s: it takes %s and the rode %s. The rest lies on deck, in a bucket or a bag.",
				length(a.Over),
				locker.Name,
				s.Units.Volume.Text(0.8*rode.Locker, 0),
				s.Units.Volume.Text(a.Litres, 0),
			),
		)
	} else if locker != nil {
		said = append(said, fmt.Sprintf("Flaked down it takes %s of %s.", s.Units.Volume.Text(a.Litres, 0), locker.Name))
	}
	for _, what := range []string{"anchor", "drogue"} {
		if n := aboardNamed(s, what); n == 0 || what == "anchor" && n < 2 {
			said = append(
				said,
				map[string]string{"anchor": "There is no second anchor aboard.", "drogue": "There is no drogue aboard."}[what],
			)
		}
	}
	return said
}

// bowOver is how high the bow stands over the water, m.
func bowOver(s *aboard.Laden) float64 {
	at := s.Figures().Attitude
	if at == nil {
		return 0.6
	}
	for _, g := range at.Gauges {
		if g.Where == "bow" {
			return math.Max(g.M, 0)
		}
	}
	return 0.6
}

// aboardNamed counts what is aboard or fastened to her and is called so.
func aboardNamed(s *aboard.Laden, what string) (n int) {
	for _, g := range s.Aboard() {
		name := strings.ToLower(g.Name)
		if strings.Contains(name, what) && !strings.Contains(name, "line") && !strings.Contains(name, "rope") &&
			!strings.Contains(name, "chain") {
			n += g.Count
		}
	}
	for _, f := range s.Craft.Rigging {
		if f.Kind == what || strings.Contains(strings.ToLower(f.Name), what) {
			n++
		}
	}
	return n
}

// longSaid lists what is longer than any place, with the side along which it is least
// in the way.
func longSaid(s *aboard.Laden) []string {
	said := []string{}
	longest, name := 0.0, ""
	for _, p := range s.Places {
		if l := math.Max(p.Length, p.Breadth); l > longest {
			longest, name = l, p.Name
		}
	}
	if name == "" {
		return said
	}
	for _, g := range s.Gear {
		if long := math.Max(g.Length, math.Max(g.Breadth, g.Height)); long > longest && !s.Called(g.ID) {
			said = append(
				said,
				fmt.Sprintf("%s, %s, is longer than any place (%s, %s). %s", capital(g.Name), s.LengthText(long), name,
					s.LengthText(longest), alongGunwale(s, long)),
			)
		}
	}
	return said
}

// alongGunwale says on which side a long thing covers least, from the transom on.
func alongGunwale(s *aboard.Laden, long float64) string {
	if long > s.Craft.Hull.Length() {
		return "It is longer than she is: it comes apart, or stays ashore."
	}
	best, covers := "", []string(nil)
	for _, side := range []string{"port", "starboard"} {
		sign := map[string]float64{"port": 1, "starboard": -1}[side]
		var names []string
		for _, f := range s.Craft.Rigging {
			half, _ := gunwale(s.Craft.Hull, f.Lies.At[0])
			if sign*f.Lies.At[1] > half-0.2 && f.Lies.At[0] < long+0.2 {
				names = append(names, f.Name)
			}
		}
		if best == "" || len(names) < len(covers) {
			best, covers = side, names
		}
	}
	if len(covers) == 0 {
		return "Along the " + best + " gunwale it is in nothing's way."
	}
	return fmt.Sprintf("Along the %s gunwale it lies over %s.", best, strings.Join(covers, ", "))
}
