package stow

import (
	"math"
	"slices"
)

// lowerBound is a number of seconds that no plan of the problem is under which
// leaves out no more than left pieces. Loads, rooms and the limits on moments
// are given prices, and with those each piece may choose its place alone
// (Lagrangian relaxation with subgradients: Held, Wolfe, Crowder, "Validation of
// subgradient optimization", Mathematical Programming 6, 1974; from memory).
// What crowding costs at least is added, that of balance is not counted. Groups are counted by the dual
// ascent of Erlenkotter, "A dual-based procedure for uncapacitated facility
// location", Operations Research 26, 1978 (from memory).
func (m *model) lowerBound(known float64, left int) float64 {
	d := newDual(m, left)
	crowd := m.leastCrowd(left)
	known -= crowd
	best := math.Inf(-1)
	scale, since := 1.0, 0
	if known >= m.big { // a plan that leaves pieces out says little of how far to go
		known = math.Mod(known, m.big)
	}
	const rounds = 400
	for range rounds {
		if m.stop() && len(d.kept) > 0 {
			break
		}
		v := d.value()
		if v > best+1e-9 {
			best, since = v, 0
			d.keep()
		} else if since++; since > 12 {
			scale, since = scale/1.6, 0
			d.restore()
		}
		if scale < 1e-4 || !d.follow(scale, known-v) {
			break
		}
	}
	d.restore()
	d.value()
	m.reorder(d.prices)
	m.reduced = d.prices
	return best + crowd
}

// mostCrowded bounds the work of leastCrowd, which grows with the square of the pieces.
const mostCrowded = 250

// leastCrowd is what crowding costs at least in any plan that leaves out so many:
// pieces share the places such that uses times neighbours come to as little as
// can be, wherever they may go. With the numbers in places given, the most used
// lie where fewest are (rearrangement), so places take runs of the pieces by use,
// and the best runs are found one after another.
func (m *model) leastCrowd(left int) float64 {
	per := math.Inf(1)
	for _, s := range m.Places {
		per = min(per, s.Crowd)
	}
	var uses []float64
	for _, i := range m.item {
		uses = append(uses, m.Items[i].Uses)
	}
	slices.Sort(uses)
	n := len(uses) - left // the most used are left out
	if per <= 0 || n <= len(m.Places) || n > mostCrowded {
		return 0
	}
	sums := make([]float64, n+1)
	for k := range n {
		sums[k+1] = sums[k] + uses[k]
	}
	least := make([]float64, n+1) // of the first k in the places so far
	for k := range least {
		least[k] = sums[k] * float64(max(k-1, 0))
	}
	for range len(m.Places) - 1 {
		for k := n; k > 0; k-- {
			for from := range k {
				least[k] = min(least[k], least[from]+(sums[k]-sums[from])*float64(k-from-1))
			}
		}
	}
	return per * least[n]
}

// reorder lists the places of each item by what they cost with the prices of
// load and room: where the search looks first.
func (m *model) reorder(prices [][]float64) {
	for i := range m.may {
		slices.SortStableFunc(m.may[i], func(a, b int) int { return compare(prices[i][a], prices[i][b]) })
	}
}

// dual has the prices and what they come to.
type dual struct {
	m              *model
	left           int
	kg, room       []float64 // seconds for a kg, for a m³, by place
	heel, trim     [2]float64
	out            float64 // seconds for leaving a piece out
	prices         [][]float64
	useKg, useRoom []float64 // what pieces chose
	sumHeel        float64
	sumTrim        float64
	outs           float64
	kept           []float64
}

func newDual(m *model, left int) *dual {
	d := &dual{m: m, left: left, kg: make([]float64, len(m.Places)), room: make([]float64, len(m.Places)),
		useKg: make([]float64, len(m.Places)), useRoom: make([]float64, len(m.Places))}
	for range m.Items {
		d.prices = append(d.prices, make([]float64, len(m.Places)))
	}
	return d
}

func (d *dual) value() float64 {
	m := d.m
	for j := range m.Places {
		d.useKg[j], d.useRoom[j] = 0, 0
	}
	d.sumHeel, d.sumTrim, d.outs = 0, 0, 0
	heel, trim := d.heel[0]-d.heel[1], d.trim[0]-d.trim[1]
	total := 0.0
	inGroup := make([]bool, len(m.Items))
	for i, it := range m.Items {
		for _, j := range m.may[i] {
			s := &m.Places[j]
			d.prices[i][j] = it.Cost[j] + d.kg[j]*it.Kg + d.room[j]*m.volume[i] + heel*it.Kg*s.At.Y + trim*it.Kg*s.At.X
		}
	}
	for _, g := range m.Groups {
		free := true // an item in several groups is counted with the first
		for _, i := range g.Items {
			free = free && !inGroup[i]
		}
		if !free || g.Split == 0 {
			continue
		}
		total += d.group(g)
		for _, i := range g.Items {
			inGroup[i] = true
		}
	}
	for i := range m.Items {
		if inGroup[i] || m.Items[i].Count == 0 {
			continue
		}
		total += float64(m.Items[i].Count) * d.choose(i)
	}
	for j := range m.Places {
		if !math.IsInf(m.load[j], 1) {
			total -= d.kg[j] * m.load[j]
		}
		if !math.IsInf(m.room[j], 1) {
			total -= d.room[j] * m.room[j]
		}
	}
	l := m.Limits
	for _, side := range []struct{ price, limit float64 }{{d.heel[0], l.Heel[1]}, {d.heel[1], -l.Heel[0]},
		{d.trim[0], l.Trim[1]}, {d.trim[1], -l.Trim[0]}} {
		if side.price > 0 {
			total -= side.price * side.limit
		}
	}
	if d.left > 0 {
		total -= d.out * float64(d.left)
	}
	return total
}

// choose is the cheapest place of an item, and notes what all its pieces take there.
func (d *dual) choose(i int) float64 {
	m := d.m
	best, least := -1, math.Inf(1)
	if d.left > 0 {
		least = d.out
	}
	for _, j := range m.may[i] {
		if c := d.prices[i][j]; c < least {
			best, least = j, c
		}
	}
	n := float64(m.Items[i].Count)
	if best < 0 {
		if math.IsInf(least, 1) {
			return 0
		}
		d.outs += n
		return least
	}
	d.take(i, best, n)
	return least
}

func (d *dual) take(i, j int, n float64) {
	m := d.m
	d.useKg[j] += n * m.Items[i].Kg
	d.useRoom[j] += n * m.volume[i]
	d.sumHeel += n * m.Items[i].Kg * m.Places[j].At.Y
	d.sumTrim += n * m.Items[i].Kg * m.Places[j].At.X
}

// group is a bound on what a group costs with its splits: the first place is
// free, each further one costs Split. By dual ascent each piece pays for its
// place and bids for opening it; all bids together are what no plan is under.
func (d *dual) group(g Group) float64 {
	m := d.m
	if d.left > 0 { // pieces may be left out: count no splits
		total := 0.0
		for _, i := range g.Items {
			total += float64(m.Items[i].Count) * d.choose(i)
		}
		return total
	}
	room := make([]float64, len(m.Places)) // what is still to be bid for each place
	for j := range room {
		room[j] = g.Split
	}
	type bidder struct {
		item  int
		n     float64
		pays  float64
		next  int
		order []int
	}
	var bidders []bidder
	for _, i := range g.Items {
		if len(m.may[i]) == 0 || m.Items[i].Count == 0 {
			continue
		}
		order := slices.Clone(m.may[i])
		slices.SortFunc(order, func(a, b int) int { return compare(d.prices[i][a], d.prices[i][b]) })
		bidders = append(bidders, bidder{i, float64(m.Items[i].Count), d.prices[i][order[0]], 1, order})
	}
	if len(bidders) == 0 {
		return 0
	}
	for raised := true; raised; { // pieces alike bid as one
		raised = false
		for k := range bidders {
			b := &bidders[k]
			target := math.Inf(1)
			if b.next < len(b.order) {
				target = d.prices[b.item][b.order[b.next]]
			}
			by := target - b.pays
			for _, j := range b.order[:b.next] {
				by = min(by, room[j]/b.n)
			}
			if math.IsInf(by, 1) || by <= 1e-12 {
				if by <= 1e-12 && b.next < len(b.order) && target-b.pays <= 1e-12 {
					b.next++
					raised = true
				}
				continue
			}
			for _, j := range b.order[:b.next] {
				room[j] -= by * b.n
			}
			b.pays += by
			raised = true
		}
	}
	total := -g.Split // the first place is free
	for _, b := range bidders {
		total += b.pays * b.n
	}
	// The prices go by what pieces take where they are bid for: open the places
	// that are fully bid for, and let each piece go to the cheapest open one.
	cheap := 0.0
	for _, b := range bidders {
		cheap += b.n * d.prices[b.item][b.order[0]]
	}
	total = max(total, cheap)
	for _, b := range bidders {
		best := b.order[0]
		for _, j := range b.order {
			if room[j] <= 1e-9 {
				best = j
				break
			}
		}
		d.take(b.item, best, b.n)
	}
	return total
}

// follow moves the prices by how far what was chosen is over what there is. It
// is false where nothing is left to move.
func (d *dual) follow(scale, missing float64) bool {
	m := d.m
	var norm float64
	visit := func(f func(price *float64, over, unit float64)) {
		for j := range m.Places {
			if !math.IsInf(m.load[j], 1) {
				f(&d.kg[j], d.useKg[j]-m.load[j], 1)
			}
			if !math.IsInf(m.room[j], 1) {
				f(&d.room[j], (d.useRoom[j]-m.room[j])*1000, 1000)
			}
		}
		l := m.Limits
		if !math.IsInf(l.Heel[1], 1) {
			f(&d.heel[0], d.sumHeel-l.Heel[1], 1)
		}
		if !math.IsInf(l.Heel[0], -1) {
			f(&d.heel[1], l.Heel[0]-d.sumHeel, 1)
		}
		if !math.IsInf(l.Trim[1], 1) {
			f(&d.trim[0], d.sumTrim-l.Trim[1], 1)
		}
		if !math.IsInf(l.Trim[0], -1) {
			f(&d.trim[1], l.Trim[0]-d.sumTrim, 1)
		}
		if d.left > 0 {
			f(&d.out, d.outs-float64(d.left), 1)
		}
	}
	visit(func(price *float64, over, unit float64) {
		if over > 0 || *price > 0 {
			norm += over * over
		}
	})
	if norm <= 1e-18 || missing <= 0 {
		return false
	}
	step := scale * missing / norm
	visit(func(price *float64, over, unit float64) {
		*price = max(0, *price+step*over*unit)
	})
	return true
}

func (d *dual) all() []*float64 {
	list := []*float64{&d.heel[0], &d.heel[1], &d.trim[0], &d.trim[1], &d.out}
	for j := range d.kg {
		list = append(list, &d.kg[j], &d.room[j])
	}
	return list
}

func (d *dual) keep() {
	d.kept = d.kept[:0]
	for _, p := range d.all() {
		d.kept = append(d.kept, *p)
	}
}

func (d *dual) restore() {
	for i, p := range d.all() {
		*p = d.kept[i]
	}
}
