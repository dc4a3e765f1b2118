package stow

import (
	"context"
	"math"
	"math/rand/v2"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"
)

// Options of a search. A step is one move tried.
type Options struct {
	Seed     uint64
	Steps    int
	Start    []Placed       // a plan to begin with, such as how it is now; nil is none
	Progress func(Progress) // called now and then; may be nil
	search   bool           // even where all plans could be looked at, for tests
}

// Progress of a search.
type Progress struct {
	Step       int
	Unplaced   int
	Seconds    float64
	LowerBound float64
}

// Placed is a piece of an item in a place. The pieces of an item are alike:
// which of them lies where says nothing.
type Placed struct {
	Item  string
	Place string
}

// StoppedBy says why a search ended.
type StoppedBy string

const (
	Proved   StoppedBy = "proved"   // no plan is better
	Steps    StoppedBy = "steps"    // the steps were used up
	Deadline StoppedBy = "deadline" // the caller's time was up, or it was stopped
)

// Plan is what a search found.
type Plan struct {
	At         [][]int  // places of the pieces of each item; those left out are not there
	Layouts    [][]Laid // how what has a size lies in each place; pieces alike share an ID
	Unplaced   int
	Seconds    float64 // a day, balance included
	LowerBound float64 // seconds that no plan which leaves out as few can be under
	StoppedBy  StoppedBy
	Within     bool // moments are within their limits
}

// Gap is the share of the seconds that a better plan might save at most.
func (p Plan) Gap() float64 {
	if p.Seconds <= 0 {
		return 0
	}
	return max(0, (p.Seconds-p.LowerBound)/p.Seconds)
}

// defaultSteps give a good plan of a boat in well under a second.
const defaultSteps = 1_600_000

// Solve looks for the plan that leaves out the fewest pieces, and of those the
// one of the fewest seconds: a greedy start, then simulated annealing (Kirkpatrick,
// Gelatt, Vecchi, "Optimization by simulated annealing", Science 220, 1983) over
// moves, swaps, and moves of what belongs together, in rounds that each begin
// with the best so far. It is deterministic for a seed and a number of steps;
// ctx may end it sooner, and it then gives the best plan so far.
func Solve(ctx context.Context, p Problem, o Options) (Plan, error) {
	if err := p.Check(); err != nil {
		return Plan{}, err
	}
	if o.Steps <= 0 {
		o.Steps = defaultSteps
	}
	s := &search{model: newModel(p), ctx: ctx, r: rand.New(rand.NewPCG(o.Seed, 11)), options: o,
		focus: make([]int, len(p.Items)), layouts: map[int][]Laid{}, layoutOf: map[int]uint64{}}
	s.warmth = s.model.heat()
	return s.run(), nil
}

type search struct {
	*model
	focus    []int // how many of an item's places are looked at most
	ctx      context.Context
	r        *rand.Rand
	options  Options
	now      *state
	best     []int
	least    float64
	step     int
	bound    float64
	warmth   float64 // of moves at the start, seconds
	bounded  bool    // bound is of plans that leave out boundFor
	boundFor int
	price    prices // what breaking loads and limits has come to cost
	stopped  bool
	tell     int            // step at which to tell of progress again
	layouts  map[int][]Laid // found by squeezing, by place
	layoutOf map[int]uint64 // and of what
}

// shares of the gap by which the rounds of a search are narrowed, tuned on
// instances of solve_test.go's kind.
var shares = []float64{1, 0.5, 0.3, 0.2, 0.15, 0.1, 0.1, 0.1}

func (s *search) run() Plan {
	s.now = s.greedy()
	s.least = math.Inf(1)
	s.keep()
	if start := s.begun(); start != nil {
		s.now = start
		s.keep()
	}
	if s.few() && !s.options.search {
		s.exhaust()
		return s.plan()
	}
	s.estimate()
	rounds := len(shares)
	for round := range rounds {
		if s.done() {
			break
		}
		s.restore()
		s.narrow(shares[round])
		if round < rounds-1 {
			s.relax()
		}
		s.anneal(s.options.Steps*(round+1)/rounds, 1/(1+0.3*float64(round)))
		s.restore()
		s.polish()
		s.estimate()
	}
	s.restore()
	s.squeeze()
	return s.plan()
}

// squeeze looks long for a way to lay more of what was left out in each place.
func (s *search) squeeze() {
	for p := range s.Places {
		if s.now.unplaced == 0 || s.ctx.Err() != nil || s.Places[p].Size == (r3.Vec{}) {
			continue
		}
		var units []int
		kg := s.now.kg[p]
		for u, at := range s.now.at {
			i := s.item[u]
			wanted := at < 0 && s.sized[i] && s.allowed[i][p] && !s.now.clashesIn(i, p) && kg+s.Items[i].Kg <= s.load[p]+1e-9
			if wanted {
				kg += s.Items[i].Kg
			}
			if at == p || wanted {
				units = append(units, u)
			}
		}
		if len(units) <= maxPieces {
			s.squeezeIn(p, units)
		}
	}
}

func (s *search) squeezeIn(p int, units []int) {
	before := s.now.n[p]
	pieces := slices.Clone(s.Places[p].Held)
	was := make([]moved, 0, len(units))
	for _, u := range units {
		if piece := s.Items[s.item[u]].Piece; s.sized[s.item[u]] {
			lot := max(s.Items[s.item[u]].Lot, 1)
			piece.Count, piece.Kg, piece.Uses = lot, piece.Kg/float64(lot), piece.Uses/float64(lot)
			pieces = append(pieces, piece)
		}
		was = append(was, moved{u, s.now.at[u]})
	}
	const hard = 400
	laid, _ := Pack(s.Places[p].Place, pieces, hard)
	for _, u := range units {
		s.now.take(u)
	}
	got := map[string]int{}
	for _, l := range laid {
		got[l.ID]++
	}
	for _, held := range s.Places[p].Held {
		got[held.ID] -= held.Count
	}
	for _, u := range units {
		it := s.Items[s.item[u]]
		if lot := max(it.Lot, 1); !s.sized[s.item[u]] || got[it.ID] >= lot {
			got[it.ID] -= lot
			s.now.put(u, p)
		}
	}
	if s.now.n[p] <= before || !s.now.kept() || !s.now.holdable(p) {
		for _, u := range units {
			s.now.take(u)
		}
		for _, w := range was {
			if w.was >= 0 {
				s.now.put(w.unit, w.was)
			}
		}
		return
	}
	for id, more := range got { // a lot that went in only in part stays out
		for range max(more, 0) {
			i := slices.IndexFunc(laid, func(l Laid) bool { return l.ID == id })
			laid = slices.Delete(laid, i, i+1)
		}
	}
	s.layouts[p], s.layoutOf[p] = laid, s.now.key[p]
	s.least = s.now.cost()
	s.best = append(s.best[:0], s.now.at...)
}

// estimate bounds the cost of any plan that leaves out as few, where that is
// not known yet.
func (s *search) estimate() {
	left := s.left()
	if !s.bounded || left != s.boundFor {
		s.bound = s.model.lowerBound(s.least-s.big*float64(left), left)
		s.bounded, s.boundFor = true, left
	}
}

// relax lets the search break loads and limits at a price that it finds itself,
// and begins with nothing left out, as far as there is room: good plans of tight
// boats lie on either side of what is allowed (after Yagiura, Ibaraki, Glover,
// "An ejection chain approach for the generalized assignment problem", INFORMS
// Journal on Computing 16, 2004; from memory).
func (s *search) relax() {
	if s.price == (prices{}) {
		s.price = prices{s.warmth, s.warmth}
	}
	s.now.prices = s.price
	for u, p := range s.now.at {
		if p < 0 {
			s.cheapest(s.now, u)
		}
	}
}

// adapt makes what is broken dearer or cheaper by how often a plan broke it.
func (s *search) adapt(overloaded, tipped, of int) {
	if math.IsInf(s.now.prices.overload, 1) {
		return
	}
	by := func(price float64, n int) float64 {
		switch share := float64(n) / float64(of); {
		case share > 0.6:
			return min(price*1.2, s.big)
		case share < 0.3:
			return price / 1.2
		}
		return price
	}
	s.now.prices = prices{by(s.now.prices.overload, overloaded), by(s.now.prices.moment, tipped)}
	s.price = s.now.prices
}

func (s *search) done() bool {
	return s.stopped || s.step >= s.options.Steps || s.proved()
}

func (s *search) proved() bool {
	return s.bounded && s.least-s.big*float64(s.boundFor) <= s.bound+1e-9*max(1, math.Abs(s.bound))
}

// keep notes the plan if it is the best so far.
func (s *search) keep() {
	if s.least < math.Inf(1) && !s.now.kept() {
		return
	}
	if c := s.now.cost(); c < s.least-1e-9 {
		s.least = c
		s.best = append(s.best[:0], s.now.at...)
	}
}

// restore goes back to the best plan.
func (s *search) restore() {
	s.now = s.empty()
	for u, p := range s.best {
		if p >= 0 {
			s.now.put(u, p)
		}
	}
}

// begun is the plan that the search was given, as far as it is allowed.
func (s *search) begun() *state {
	if len(s.options.Start) == 0 {
		return nil
	}
	b := s.empty()
	next := make([]int, len(s.Items))
	for _, placed := range s.options.Start {
		i := slices.IndexFunc(s.Items, func(it Item) bool { return it.ID == placed.Item })
		p := s.spot(placed.Place)
		if i < 0 || p < 0 || next[i] >= len(s.unitsOf[i]) || !s.allowed[i][p] || b.clashesIn(i, p) {
			continue
		}
		u := s.unitsOf[i][next[i]]
		b.put(u, p)
		if !b.fits(p) {
			b.take(u)
			continue
		}
		next[i]++
	}
	return b
}

// greedy lays the units one after another, those with least choice and most to
// lose first, each where it costs least.
func (s *search) greedy() *state {
	g := s.empty()
	order := make([]int, len(s.item))
	urgency := make([]float64, len(s.Items))
	for i, it := range s.Items {
		switch may := s.may[i]; len(may) {
		case 0:
		case 1:
			urgency[i] = math.Inf(1)
		default:
			urgency[i] = it.Cost[may[min(2, len(may)-1)]] - it.Cost[may[0]] + 1e-6*it.Kg
		}
	}
	for u := range order {
		order[u] = u
	}
	slices.SortStableFunc(order, func(a, b int) int { return compare(urgency[s.item[b]], urgency[s.item[a]]) })
	for _, u := range order {
		s.cheapest(g, u)
	}
	return g
}

// cheapest puts a unit where the plan then costs least, or leaves it out.
func (s *search) cheapest(g *state, u int) bool {
	i := s.item[u]
	best, least := -1, g.cost()
	for _, p := range s.may[i] {
		if !g.takes(p, s.Items[i].Kg, s.volume[i]) || g.clashesIn(i, p) {
			continue
		}
		g.put(u, p)
		if c := g.cost(); c < least-1e-12 && g.fits(p) {
			best, least = p, c
		}
		g.take(u)
	}
	if best >= 0 {
		g.put(u, best)
	}
	return best >= 0
}

// anneal tries moves until a step, cooling from warm (a share of what moves
// cost on the whole) down to nearly nothing.
func (s *search) anneal(until int, warm float64) {
	hot := s.warmth * warm
	cold := hot * 1e-3
	from := s.step
	cost := s.now.cost()
	overloaded, tipped, tried := 0, 0, 0
	const often = 1024
	t, cool, look := hot, from, from+often
	for s.step < until {
		s.step++
		if s.step >= look { // ruin counts for many steps at once
			look = s.step + often
			if s.pause() {
				return
			}
			s.adapt(overloaded, tipped, tried)
			overloaded, tipped, tried, cost = 0, 0, 0, s.now.cost()
		}
		tried++
		if s.now.overload > 0 {
			overloaded++
		}
		if s.now.over() > 1e-9 {
			tipped++
		}
		if s.step >= cool {
			t = hot * math.Pow(cold/hot, float64(s.step-from)/float64(until-from))
			cool = s.step + often/8
		}
		undo, ok := s.change()
		if !ok {
			continue
		}
		c := s.now.cost()
		if d := c - cost; d <= 0 || s.r.Float64() < math.Exp(-d/t) {
			cost = c
			if s.now.seconds+s.big*float64(s.now.unplaced) < s.least-1e-9 {
				s.keep()
			}
			continue
		}
		s.undo(undo)
	}
}

// pause looks up from the work: whether to stop, and who wants to know.
func (s *search) pause() bool {
	if s.ctx.Err() != nil {
		s.stopped = true
	}
	if s.options.Progress != nil && s.step >= s.tell {
		s.tell = s.step + 16384
		s.options.Progress(Progress{s.step, s.left(), s.least - s.big*float64(s.left()), s.bound})
	}
	return s.stopped || s.proved()
}

func (s *search) left() (n int) {
	for _, p := range s.best {
		if p < 0 {
			n++
		}
	}
	return n
}

// heat is a mean of what choosing another place costs.
func (m *model) heat() float64 {
	sum, n := 0.0, 0
	for i, it := range m.Items {
		if may := m.may[i]; len(may) > 1 {
			sum += it.Cost[may[min(3, len(may)-1)]] - it.Cost[may[0]]
			n++
		}
	}
	for _, g := range m.Groups {
		sum, n = sum+g.Split, n+1
	}
	if n == 0 || sum <= 0 {
		return 1
	}
	return 0.7 * sum / float64(n)
}

// moved is a unit and where it was.
type moved struct{ unit, was int }

func (s *search) undo(ms []moved) {
	for i := len(ms) - 1; i >= 0; i-- {
		s.now.take(ms[i].unit)
		if ms[i].was >= 0 {
			s.now.put(ms[i].unit, ms[i].was)
		}
	}
}

// change makes a random move that keeps every place holdable; ok is false, and
// nothing is changed, where it came to none.
func (s *search) change() (ms []moved, ok bool) {
	if len(s.item) == 0 {
		return nil, false
	}
	u := s.unit()
	switch k := s.r.IntN(100); {
	case k < 40:
		ms = s.shift(u)
	case k < 88:
		ms = s.swap(u, s.counterpart(u))
	case k < 92:
		ms = s.eject(u)
	case k < 98 && len(s.Groups) > 0:
		ms = s.gather(u)
	case k < 99 && len(s.Groups) == 0:
		ms = s.swap(u, s.counterpart(u))
	default:
		ms = s.ruin(u)
	}
	if len(ms) == 0 {
		return nil, false
	}
	for _, m := range ms { // the places touched must still hold what they hold
		for _, p := range [2]int{m.was, s.now.at[m.unit]} {
			if p >= 0 && !s.now.fits(p) {
				s.undo(ms)
				return nil, false
			}
		}
	}
	return ms, true
}

// target is a random place for an item, mostly one of those in focus.
func (s *search) target(i int) int {
	may := s.may[i]
	if len(may) == 0 {
		return -1
	}
	if s.r.IntN(8) > 0 {
		return may[s.r.IntN(s.focus[i])]
	}
	return may[s.r.IntN(len(may))]
}

// narrow sets for each item how many of its places are in focus: with prices of
// load and room counted, a place that is dearer than the best by more than the
// gap is in no better plan of pieces without groups, and one that is dearer by a
// good share of it in few.
func (s *search) narrow(share float64) {
	gap := max(s.least-s.big*float64(s.left())-s.bound, 0) * share
	for i, may := range s.may {
		s.focus[i] = min(len(may), 6)
		if s.reduced == nil || len(s.Groups) > 0 || len(may) < 2 {
			continue
		}
		n := 1
		for n < len(may) && s.reduced[i][may[n]]-s.reduced[i][may[0]] <= gap {
			n++
		}
		s.focus[i] = n
	}
}

// unit is a random one that has a choice.
func (s *search) unit() int {
	for range 8 {
		u := s.r.IntN(len(s.item))
		if s.focus[s.item[u]] > 1 || s.now.at[u] < 0 {
			return u
		}
	}
	return s.r.IntN(len(s.item))
}

func (s *search) to(u, p int) moved {
	was := s.now.at[u]
	s.now.take(u)
	s.now.put(u, p)
	return moved{u, was}
}

func (s *search) shift(u int) []moved {
	i := s.item[u]
	p := s.target(i)
	if p < 0 || p == s.now.at[u] || !s.now.takes(p, s.Items[i].Kg, s.volume[i]) || s.now.clashesIn(i, p) {
		return nil
	}
	return []moved{s.to(u, p)}
}

func (s *search) swap(u, v int) []moved {
	i, j := s.item[u], s.item[v]
	a, b := s.now.at[u], s.now.at[v]
	if i == j || a == b || b >= 0 && !s.allowed[i][b] || a >= 0 && !s.allowed[j][a] {
		return nil
	}
	dkg, dvol := s.Items[i].Kg-s.Items[j].Kg, s.volume[i]-s.volume[j]
	if b >= 0 && !s.now.takes(b, dkg, dvol) || a >= 0 && !s.now.takes(a, -dkg, -dvol) {
		return nil
	}
	ms := []moved{{u, a}, {v, b}}
	s.now.take(u)
	s.now.take(v)
	if b >= 0 && s.now.clashesIn(i, b) || a >= 0 && s.now.clashesIn(j, a) {
		s.undo(ms)
		return nil
	}
	if b >= 0 {
		s.now.put(u, b)
	}
	if a >= 0 {
		s.now.put(v, a)
	}
	return ms
}

// eject puts a unit where there is no room, and moves others out of its way to
// wherever the plan then costs least.
func (s *search) eject(u int) []moved {
	i := s.item[u]
	p := s.target(i)
	if p < 0 || p == s.now.at[u] || s.now.clashesIn(i, p) {
		return nil
	}
	ms := []moved{s.to(u, p)}
	const most = 3
	for n := 0; !s.now.holdable(p); n++ {
		v := s.resident(p, u)
		if v < 0 || n == most {
			s.undo(ms)
			return nil
		}
		ms = append(ms, moved{v, p})
		s.now.take(v)
		s.elsewhere(v, p)
	}
	return ms
}

// counterpart is a unit to swap with: of some in a place that would suit u the
// one that minds least to go where u is, or any.
func (s *search) counterpart(u int) int {
	p, a := s.target(s.item[u]), s.now.at[u]
	if p < 0 || p == a || len(s.now.in[p]) == 0 {
		return s.r.IntN(len(s.item))
	}
	best, least := -1, math.Inf(1)
	for range 2 {
		v := s.now.in[p][s.r.IntN(len(s.now.in[p]))]
		minds := 0.0
		if a >= 0 {
			c := s.Items[s.item[v]].Cost
			minds = c[a] - c[p]
		}
		if best < 0 || minds < least {
			best, least = v, minds
		}
	}
	return best
}

// resident is a random unit in a place, other than one, or -1.
func (s *search) resident(p, but int) int {
	list := s.now.in[p]
	if len(list) == 0 || len(list) == 1 && list[0] == but {
		return -1
	}
	v := list[s.r.IntN(len(list))]
	if v == but {
		v = list[(s.now.where[v]+1)%len(list)]
	}
	return v
}

// elsewhere puts a unit into the cheapest place that takes it, other than one.
func (s *search) elsewhere(v, but int) {
	j := s.item[v]
	best, least := -1, s.now.cost()
	for _, p := range s.may[j] {
		if p == but || !s.now.takes(p, s.Items[j].Kg, s.volume[j]) || s.now.clashesIn(j, p) {
			continue
		}
		s.now.put(v, p)
		if c := s.now.cost(); c < least {
			best, least = p, c
		}
		s.now.take(v)
	}
	if best >= 0 {
		s.now.put(v, best)
	}
}

// gather moves all of a group that lies in a place to where others of it lie,
// or all of an item.
func (s *search) gather(u int) []moved {
	i := s.item[u]
	groups := s.groupsOf[i]
	a := s.now.at[u]
	if len(groups) == 0 {
		return s.shift(u)
	}
	g := groups[s.r.IntN(len(groups))]
	b := s.target(i)
	if s.r.IntN(3) > 0 {
		if w := s.fellow(g, a); w >= 0 {
			b = w
		}
	}
	if b < 0 || a == b {
		return nil
	}
	var ms []moved
	for _, j := range s.Groups[g].Items {
		for _, v := range s.unitsOf[j] {
			if s.now.at[v] != a || !s.allowed[j][b] || s.now.clashesIn(j, b) {
				continue
			}
			ms = append(ms, s.to(v, b))
		}
	}
	const most = 4
	for n := 0; !s.now.holdable(b); n++ { // others make room, most often for what they leave
		v := s.resident(b, -1)
		if v < 0 || n == most || slices.ContainsFunc(ms, func(m moved) bool { return m.unit == v }) {
			s.undo(ms)
			return nil
		}
		ms = append(ms, moved{v, b})
		s.now.take(v)
		s.elsewhere(v, b)
	}
	return ms
}

// ruin takes several units out, all of a group or a handful from two places, and
// puts each back where the plan then costs least (after Schrimpf and others,
// "Record breaking optimization results using the ruin and recreate principle",
// Journal of Computational Physics 159, 2000; from memory).
func (s *search) ruin(u int) []moved {
	var out []int
	if groups := s.groupsOf[s.item[u]]; len(groups) > 0 && s.r.IntN(3) > 0 {
		for _, j := range s.Groups[groups[s.r.IntN(len(groups))]].Items {
			out = append(out, s.unitsOf[j]...)
		}
	} else {
		a, b := s.now.at[u], s.target(s.item[u])
		for v, p := range s.now.at {
			if (p == a || p == b) && s.r.IntN(2) == 0 {
				out = append(out, v)
			}
		}
	}
	const most = 16
	s.r.Shuffle(len(out), func(i, j int) { out[i], out[j] = out[j], out[i] })
	out = out[:min(most, len(out))]
	ms := make([]moved, len(out))
	for k, v := range out {
		ms[k] = moved{v, s.now.at[v]}
		s.now.take(v)
	}
	for _, v := range out {
		s.elsewhere(v, -1)
	}
	s.step += len(out) // it is that much work
	return ms
}

// fellow is a random place, other than one, where more of a group lies.
func (s *search) fellow(g, but int) int {
	n, found := 0, -1
	for p, count := range s.now.group[g] {
		if count > 0 && p != but {
			n++
			if s.r.IntN(n) == 0 {
				found = p
			}
		}
	}
	return found
}

// polish takes every single move and every swap that makes the plan better,
// until there is none.
func (s *search) polish() {
	for better := true; better && !s.stopped; {
		better = false
		for u := range s.item {
			better = s.improve(u) || better
		}
		if s.ctx.Err() != nil {
			s.stopped = true
		}
	}
	s.keep()
}

func (s *search) improve(u int) bool {
	before := s.now.cost()
	was := s.now.at[u]
	i := s.item[u]
	accept := func(ms []moved) bool {
		if len(ms) == 0 {
			return false
		}
		good := s.now.cost() < before-1e-9
		for _, m := range ms {
			for _, p := range [2]int{m.was, s.now.at[m.unit]} {
				good = good && (p < 0 || s.now.fits(p))
			}
		}
		if !good {
			s.undo(ms)
		}
		return good
	}
	for _, p := range s.may[i] {
		if p == was || !s.now.takes(p, s.Items[i].Kg, s.volume[i]) || s.now.clashesIn(i, p) {
			continue
		}
		if accept([]moved{s.to(u, p)}) {
			return true
		}
	}
	for v := range s.item {
		if accept(s.swap(u, v)) {
			return true
		}
	}
	return false
}

func (s *search) plan() Plan {
	p := Plan{At: make([][]int, len(s.Items)), Unplaced: s.now.unplaced, LowerBound: s.bound, Within: s.now.over() <= 1e-9,
		Seconds: s.now.seconds + s.Balance.cost(s.now.heel, s.now.trim)}
	for u, at := range s.now.at {
		if at >= 0 {
			p.At[s.item[u]] = append(p.At[s.item[u]], at)
		}
	}
	for j := range s.Places {
		p.Layouts = append(p.Layouts, s.layout(j))
	}
	switch {
	case s.proved():
		p.StoppedBy = Proved
		p.LowerBound = p.Seconds
	case s.stopped:
		p.StoppedBy = Deadline
	default:
		p.StoppedBy = Steps
	}
	return p
}

// layout is how what has a size lies in a place.
func (s *search) layout(p int) []Laid {
	if s.Places[p].Size == (r3.Vec{}) {
		return nil
	}
	if laid, ok := s.layouts[p]; ok && s.layoutOf[p] == s.now.key[p] {
		return laid
	}
	pieces := s.now.contents(p)
	if len(pieces) == 0 {
		return nil
	}
	laid, _ := Lay(s.Places[p].Place, pieces)
	return laid
}
