package stow

import (
	"context"
	"math"
	"math/rand/v2"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"
)

// model is a problem made ready for searching. A unit is one piece.
type model struct {
	Problem             // its items with the mass and the uses of whole lots
	pieces   []Piece    // what is laid of each item: a lot of it
	turns    [][]r3.Vec // ways in which each item may lie
	item     []int      // of each unit
	unitsOf  [][]int
	groupsOf [][]int   // of each item
	may      [][]int   // places that each item may go to, cheapest first
	allowed  [][]bool  // [item][place]
	volume   []float64 // of a piece of each item
	room     []float64 // volume of each place; +Inf without a size
	load     []float64 // kg that each place can take; +Inf without a limit
	clash    [][]bool  // [item][item]: may not lie in one place
	hash     []uint64  // of each item
	fitted   []map[uint64]bool

	ways      []map[uint64]int    // by which quick way what is in a place was laid
	patiently []map[uint64][]Laid // layouts that took patience to find
	sized     []bool              // of each item
	big       float64
	reduced   [][]float64 // cost by [item][place] with what load and room are worth; nil before there is a bound
	stop      func() bool // the caller's time is up
	work      int         // what laying has taken so far; see packer
	patient   int         // fillings that the search may still spend on looking long for a way to lay a place
}

// prices of what a plan may break while it is searched for, seconds; infinite
// where it may not.
type prices struct {
	overload float64 // for a kg over a place's load
	moment   float64 // for a kg·m outside the limits
}

func newModel(ctx context.Context, p Problem) *model {
	m := &model{Problem: p, stop: func() bool { return ctx.Err() != nil }, patient: 1500,
		groupsOf: make([][]int, len(p.Items)), unitsOf: make([][]int, len(p.Items))}
	m.Items, m.Places = slices.Clone(p.Items), slices.Clone(p.Places)
	for j := range m.Places {
		m.Places[j].Stop = m.stop
	}
	r := rand.New(rand.NewPCG(7, 7))
	for i, it := range p.Items {
		lot, piece := max(it.Lot, 1), it.Piece
		piece.Count = lot
		m.pieces, m.turns = append(m.pieces, piece), append(m.turns, turns(piece))
		m.Items[i].Kg, m.Items[i].Uses = it.Kg*float64(lot), it.Uses*float64(lot)
		for range it.Count {
			m.unitsOf[i] = append(m.unitsOf[i], len(m.item))
			m.item = append(m.item, i)
		}
		m.volume = append(m.volume, leastVolume(it.Piece)*float64(lot))
		m.sized = append(m.sized, it.Size != r3.Vec{})
		m.hash = append(m.hash, r.Uint64()|1)
	}
	for g, group := range p.Groups {
		for _, i := range group.Items {
			m.groupsOf[i] = append(m.groupsOf[i], g)
		}
	}
	for _, s := range p.Places {
		room, load := math.Inf(1), math.Inf(1)
		if s.Size != (r3.Vec{}) && s.Rods.Form == "" { // rods lie tip by butt: their boxes overlap
			room = s.Size.X*s.Size.Y*s.Size.Z - volume(s.Held)
		}
		if s.MaxKg > 0 {
			load = s.MaxKg - mass(s.Held)
		}
		m.room, m.load = append(m.room, room), append(m.load, load)
		m.fitted, m.patiently = append(m.fitted, map[uint64]bool{}), append(m.patiently, map[uint64][]Laid{})
		m.ways = append(m.ways, map[uint64]int{})
	}
	m.clashes()
	dearest := 1.0
	for i := range p.Items {
		allowed := make([]bool, len(p.Places))
		var may []int
		for j := range p.Places {
			if m.stop() {
				break
			}
			if m.refusal(i, j) == "" {
				allowed[j] = true
				may = append(may, j)
				dearest = max(dearest, math.Abs(p.Items[i].Cost[j]))
			}
		}
		slices.SortStableFunc(may, func(a, b int) int { return compare(p.Items[i].Cost[a], p.Items[i].Cost[b]) })
		m.may, m.allowed = append(m.may, may), append(m.allowed, allowed)
	}
	for _, g := range p.Groups {
		dearest = max(dearest, g.Split)
	}
	m.big = dearest * float64(max(len(m.item), 1)) * 4
	return m
}

func compare(a, b float64) int {
	switch {
	case a < b:
		return -1
	case a > b:
		return 1
	}
	return 0
}

// leastVolume is what a piece takes up, pressed where it is soft.
func leastVolume(p Piece) float64 {
	v := p.Size.X * p.Size.Y * p.Size.Z
	if p.Soft {
		v *= SoftShare
	}
	return v
}

func (m *model) clashes() {
	m.clash = make([][]bool, len(m.Items))
	for i, a := range m.Items {
		m.clash[i] = make([]bool, len(m.Items))
		for j, b := range m.Items {
			_, _, m.clash[i][j] = Apart(a.Hazards, b.Hazards)
		}
	}
}

// refusal is the rule that keeps a piece of an item out of a place that holds
// nothing else of the plan, or nothing.
func (m *model) refusal(item, place int) string {
	for _, rule := range []string{RulePinned, RuleDry, RuleReserved, RuleReach, RuleHazard, RuleSize, RuleOpening} {
		if m.breaks(rule, item, place) {
			return rule
		}
	}
	if m.Items[item].Kg > m.load[place]+slack {
		return RuleLimit
	}
	return ""
}

func (m *model) reservedFor(item int, ids []string) bool {
	return slices.Contains(ids, m.Items[item].ID) || slices.ContainsFunc(m.groupsOf[item], func(g int) bool {
		return slices.Contains(ids, m.Groups[g].ID)
	})
}

// state is a plan with its sums, kept up with every move.
type state struct {
	*model
	at       []int   // place of each unit, or -1
	in       [][]int // units in each place
	where    []int   // index of each unit in that list
	kg, vol  []float64
	uses     []float64
	n        []int
	key      []uint64  // of what is in each place
	count    [][]int32 // [place][item]
	group    [][]int32 // [group][place]
	spread   []int     // places of each group
	heel     float64   // kg·m
	trim     float64
	seconds  float64 // cost without balance and without what is left out
	overload float64 // kg over the loads of places
	unplaced int
	prices   prices
}

func (m *model) empty() *state {
	s := &state{model: m, at: make([]int, len(m.item)), in: make([][]int, len(m.Places)), where: make([]int, len(m.item)),
		kg: make([]float64, len(m.Places)), vol: make([]float64, len(m.Places)),
		uses: make([]float64, len(m.Places)), n: make([]int, len(m.Places)), key: make([]uint64, len(m.Places)),
		spread:   make([]int, len(m.Groups)),
		unplaced: len(m.item), prices: m.strict()}
	for u := range s.at {
		s.at[u] = -1
	}
	for range m.Places {
		s.count = append(s.count, make([]int32, len(m.Items)))
	}
	for range m.Groups {
		s.group = append(s.group, make([]int32, len(m.Places)))
	}
	for j, p := range m.Places {
		for _, held := range p.Held {
			s.uses[j] += held.Uses * float64(held.Count)
			s.n[j] += held.Count
		}
	}
	return s
}

// strict prices: nothing else comes up to them.
func (m *model) strict() prices { return prices{overload: math.Inf(1), moment: 1e4 * m.big} }

func (s *state) loaded(p int, kg float64) {
	s.overload = settled(s.overload - s.overBy(p, 0) + s.overBy(p, kg))
	s.kg[p] += kg
}

// takes says whether a place may have so much more in it, as far as it is asked.
func (s *state) takes(p int, kg, m3 float64) bool {
	return s.vol[p]+m3 <= s.room[p]+1e-9 && (s.kg[p]+kg <= s.load[p]+1e-9 || kg <= 0 || !math.IsInf(s.prices.overload, 1))
}

// take lifts a unit out of its place.
func (s *state) take(u int) {
	p, i := s.at[u], s.item[u]
	if p < 0 {
		return
	}
	it := &s.Items[i]
	s.seconds -= it.Cost[p]
	s.seconds -= s.Places[p].Crowd * (s.uses[p]*float64(s.n[p]-1) - (s.uses[p]-it.Uses)*float64(max(s.n[p]-2, 0)))
	s.loaded(p, -it.Kg)
	s.vol[p] -= s.volume[i]
	s.uses[p] -= it.Uses
	s.n[p]--
	s.key[p] -= s.hash[i]
	s.count[p][i]--
	s.heel -= it.Kg * s.Places[p].At.Y
	s.trim -= it.Kg * s.Places[p].At.X
	for _, g := range s.groupsOf[i] {
		s.group[g][p]--
		if s.group[g][p] == 0 {
			s.spread[g]--
			if s.spread[g] > 0 {
				s.seconds -= s.Groups[g].Split
			}
		}
	}
	list := s.in[p]
	last := list[len(list)-1]
	list[s.where[u]], s.where[last] = last, s.where[u]
	s.in[p] = list[:len(list)-1]
	s.at[u] = -1
	s.unplaced++
}

// put lays a unit that is nowhere into a place.
func (s *state) put(u, p int) {
	i := s.item[u]
	it := &s.Items[i]
	s.seconds += it.Cost[p]
	s.seconds += s.Places[p].Crowd * ((s.uses[p]+it.Uses)*float64(s.n[p]) - s.uses[p]*float64(max(s.n[p]-1, 0)))
	s.loaded(p, it.Kg)
	s.vol[p] += s.volume[i]
	s.uses[p] += it.Uses
	s.n[p]++
	s.key[p] += s.hash[i]
	s.count[p][i]++
	s.heel += it.Kg * s.Places[p].At.Y
	s.trim += it.Kg * s.Places[p].At.X
	for _, g := range s.groupsOf[i] {
		s.group[g][p]++
		if s.group[g][p] == 1 {
			s.spread[g]++
			if s.spread[g] > 1 {
				s.seconds += s.Groups[g].Split
			}
		}
	}
	s.where[u] = len(s.in[p])
	s.in[p] = append(s.in[p], u)
	s.at[u] = p
	s.unplaced--
}

// holdable says whether what is in a place now is within its load, as far as
// that is asked, and its room.
func (s *state) holdable(p int) bool {
	return s.takes(p, 0, 0) && (s.kg[p] <= s.load[p]+1e-9 || !math.IsInf(s.prices.overload, 1))
}

// fits says whether what is in a place now can be laid there.
func (s *state) fits(p int) bool {
	if !s.holdable(p) {
		return false
	}
	if s.Places[p].Size == (r3.Vec{}) {
		return true
	}
	ok, known := s.fitted[p][s.key[p]]
	if !known {
		ok = s.layable(p)
		if s.stop() {
			return ok // it was not looked at to the end
		}
		if len(s.fitted[p]) > 20000 { // bounds the memory of a long search
			clear(s.fitted[p])
			clear(s.ways[p])
		}
		s.fitted[p][s.key[p]] = ok
	}
	return ok
}

// layable says whether what is in a place can be laid: quickly, or with a little
// patience as long as the search has some left.
func (s *state) layable(p int) bool {
	singles := apart(s.contents(p))
	if len(singles) == 0 {
		return true
	}
	if len(singles) > maxPieces {
		return false
	}
	if len(singles) == 1 {
		return true // one alone was looked at before
	}
	way, ok, work := quickly(s.Places[p].Place, singles)
	s.work += work
	if ok && way > 0 {
		s.ways[p][s.key[p]] = way
	}
	if ok || s.stop() {
		return ok
	}
	if s.patient <= 0 || s.vol[p] > 0.95*s.room[p] {
		return false
	}
	s.patient -= patience(len(singles))
	laid, ok := Lay(s.Places[p].Place, singles)
	if ok {
		s.patiently[p][s.key[p]] = laid
	}
	return ok
}

// contents are the sized pieces in a place, with what it held before.
func (s *state) contents(p int) []Piece {
	pieces := slices.Clone(s.Places[p].Held)
	for i, n := range s.count[p] {
		if n > 0 && s.sized[i] {
			piece := s.pieces[i]
			piece.Count *= int(n)
			pieces = append(pieces, piece)
		}
	}
	return pieces
}

// clashesIn says whether a piece of an item may not lie with what is in a place.
func (s *state) clashesIn(item, p int) bool {
	if len(s.Items[item].Hazards) == 0 {
		return false
	}
	for i, n := range s.count[p] {
		if n > 0 && s.clash[item][i] {
			return true
		}
	}
	return false
}

// over is how far the moments are out of their limits, kg·m.
func (s *state) over() float64 {
	l := s.Limits
	return outside(s.heel, l.Heel) + outside(s.trim, l.Trim)
}

// cost is what the search makes small: seconds, with what is left out and what
// is broken at their prices.
func (s *state) cost() float64 { return s.price(s.seconds, s.overload, s.heel, s.trim, s.unplaced) }

// kept says whether the plan breaks nothing.
func (s *state) kept() bool { return s.overload == 0 && s.over() <= 1e-9 }
