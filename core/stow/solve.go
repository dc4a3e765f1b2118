package stow

import (
	"context"
	"math"
	"math/rand/v2"
	"sync"

	"gonum.org/v1/gonum/spatial/r3"
)

// Options of a search. A step is one move tried, or as much work in looking
// whether pieces can be laid: a search of so many steps ends, whatever they are.
type Options struct {
	Seed    uint64
	Steps   int
	Tries   int      // searches side by side, each of so many steps, of which the best is taken; 0 is 1
	Start   []Placed // a plan to begin with, such as how it is now; nil is none
	Squeeze bool     // looks longer than Lay does for a way to lay what was left out; Lay then may not find it again
	Unlaid  bool     // says only what goes where: no layouts, which take a while where there are many pieces
	search  bool     // even where all plans could be looked at, for tests
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
	bounded    bool // there was time for LowerBound
}

// Gap is the share of the seconds that a better plan might save at most.
func (p Plan) Gap() float64 {
	if p.Seconds <= 0 {
		return 0
	}
	return max(0, (p.Seconds-p.LowerBound)/p.Seconds)
}

// defaultSteps give a good plan of a boat in well under a second: a step of many
// pieces takes longer, and so does one with groups.
func defaultSteps(p Problem) int {
	units := 0
	for _, it := range p.Items {
		units += it.Count
	}
	steps := max(1_900_000-3500*units, 1_000_000)
	if len(p.Groups) > 0 {
		steps = steps * 9 / 10
	}
	return steps
}

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
		o.Steps = defaultSteps(p)
	}
	plans := make([]Plan, max(o.Tries, 1))
	var all sync.WaitGroup
	for k := range plans {
		all.Go(func() { plans[k] = solve(ctx, p, o, uint64(k)) })
	}
	all.Wait()
	return pick(plans), nil
}

func solve(ctx context.Context, p Problem, o Options, try uint64) Plan {
	s := &search{model: newModel(ctx, p), ctx: ctx, r: rand.New(rand.NewPCG(o.Seed, 11+try)), options: o,
		focus: make([]int, len(p.Items)), layouts: map[int][]Laid{}, layoutOf: map[int]uint64{}}
	s.warmth = s.model.heat()
	return s.run()
}

// pick is the best of several plans. What none can be under is known from all
// that leave out as few.
func pick(plans []Plan) Plan {
	b := plans[0]
	for _, p := range plans[1:] {
		if p.Unplaced < b.Unplaced || p.Unplaced == b.Unplaced && p.Seconds < b.Seconds {
			b = p
		}
	}
	for _, p := range plans {
		if p.Unplaced == b.Unplaced && p.bounded {
			b.LowerBound, b.bounded = max(b.LowerBound, p.LowerBound), true
		}
	}
	if b.bounded && b.LowerBound >= b.Seconds-1e-9*max(1, math.Abs(b.Seconds)) {
		b.LowerBound, b.StoppedBy = b.Seconds, Proved
	}
	return b
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
	gathered []int          // memory of gather
	layouts  map[int][]Laid // found by squeezing, by place
	layoutOf map[int]uint64 // and of what
}

// shares of the gap by which the rounds of a search are narrowed, tuned on
// instances of glpk_test.go's kind.
var shares = []float64{1, 0.5, 0.3, 0.2, 0.15, 0.1, 0.1, 0.1}

func (s *search) run() Plan {
	s.least = math.Inf(1)
	if start := s.begun(); start != nil { // first, so that there is a plan whatever time there is
		s.now = start
		s.keep()
	}
	s.now = s.greedy()
	s.keep()
	s.restore()
	if s.stopped = s.stop(); s.stopped { // not even all that the rules allow was looked at
		return s.plan()
	}
	if s.few() && !s.options.search {
		s.exhaust()
		return s.plan()
	}
	s.estimate()
	rounds := len(shares)
	for round, share := range shares {
		if s.done() {
			break
		}
		s.restore()
		s.narrow(share)
		if round < rounds-1 {
			s.relax()
		}
		s.anneal(s.options.Steps*(round+1)/rounds, 1/(1+0.3*float64(round)))
		s.restore()
		s.polish()
		s.estimate()
	}
	s.restore()
	s.refill()
	if s.options.Squeeze {
		s.squeeze()
	}
	return s.plan()
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
		s.price = prices{overload: s.warmth, moment: s.warmth}
	}
	s.now.prices = s.price
	for u, p := range s.now.at {
		if p < 0 && !s.stop() {
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
	s.now.prices = prices{overload: by(s.now.prices.overload, overloaded), moment: by(s.now.prices.moment, tipped)}
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
		// To take a dearer plan with the chance exp(-dearer/t) is to take what costs no
		// more than a random margin.
		var moved bool
		if cost, moved = s.try(cost, cost-t*math.Log(1-s.r.Float64())); moved &&
			s.now.seconds+s.big*float64(s.now.unplaced) < s.least-1e-9 {
			s.keep()
		}
		s.pay()
	}
}

// workOfAStep is what a move tried takes, in spaces looked at while laying.
const workOfAStep = 40

// pay counts the work of laying as steps.
func (s *search) pay() {
	s.step += s.work / workOfAStep
	s.work %= workOfAStep
}

// pause looks up from the work, whether to stop.
func (s *search) pause() bool {
	if s.ctx.Err() != nil {
		s.stopped = true
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
	share := 0.5 // tuned on instances of glpk_test.go's kind, as the shares of the gap are
	if len(m.Groups) > 0 {
		share = 1.2
	}
	return share * sum / float64(n)
}

// polish takes every single move and every swap that makes the plan better,
// until there is none; what it has to lay may come to as much as the whole search.
func (s *search) polish() {
	for better := true; better; {
		better = false
		for u := range s.item {
			better = s.improve(u) || better
			s.pay()
			if s.stopped = s.stop(); s.stopped || s.step > 2*s.options.Steps {
				better = false
				break
			}
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
		good := s.now.cost() < before-1e-9 && s.laid(ms)
		if !good {
			s.undo(ms)
		}
		return good
	}
	for _, p := range s.may[i] {
		if p != was && (was < 0 || s.now.foreseenShift(u, p) < before-1e-9) && accept(s.shift(u, p)) {
			return true
		}
	}
	for v := range s.item {
		placed := was >= 0 && s.now.at[v] >= 0
		if s.swappable(u, v) && (!placed || s.now.foreseenSwap(u, v) < before-1e-9) && accept(s.swap(u, v)) {
			return true
		}
	}
	return false
}

func (s *search) plan() Plan {
	p := Plan{At: make([][]int, len(s.Items)), Unplaced: s.now.unplaced, LowerBound: s.bound, bounded: s.bounded,
		Within: s.now.over() <= 1e-9, Seconds: s.now.seconds + s.Balance.cost(s.now.heel, s.now.trim)}
	for u, at := range s.now.at {
		if at >= 0 {
			p.At[s.item[u]] = append(p.At[s.item[u]], at)
		}
	}
	for j := range s.Places {
		if !s.options.Unlaid {
			p.Layouts = append(p.Layouts, s.layout(j))
		}
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
	laid, ok := Lay(s.Places[p].Place, pieces)
	if !ok { // there was no time: as it was when it was found to go in
		if laid, ok = s.patiently[p][s.now.key[p]]; !ok {
			place := s.Places[p].Place
			place.Stop = nil
			laid = layBy(place, apart(pieces), s.ways[p][s.now.key[p]])
		}
	}
	return laid
}
