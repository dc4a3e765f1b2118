package fitting

import "math"

// Rode is what an anchor hangs on, and where it lies.
type Rode struct {
	Chain, ChainMM float64 // m, and the thickness of its links
	Rope, RopeMM   float64 // m, mm
	Depth, Tide    float64 // m, where she usually anchors, and what the tide adds
	Bow            float64 // m, of the bow over the water
	Scope          float64 // times; nought is usual
	Locker         float64 // litres of the place it lies in
	Windlass       float64 // m a minute; nought is by hand
}

// Practice: a heap of chain takes 2.2 times its steel, rope that is flaked down 2.8
// times its own volume, and a locker is filled to four fifths. A chain of links d mm
// thick weighs 0.0219 d² kg a metre (short link; memory). Chain holds at a scope of 5,
// rope at 7. A hand hauls 15 m a minute, a man lets go 30.
const (
	chainHeap, ropeFlaked = 2.2, 2.8
	lockerFull            = 0.8
	chainKg               = 0.0219
	steelDensity          = 7850.0
	scopeChain, scopeRope = 5.0, 7.0
	byHand, lettingGo     = 15.0, 30.0
)

// Anchored is what a rode does.
type Anchored struct {
	Scope    float64 // that is held to
	Needed   float64 // m of rode
	Short    float64 // m that are missing
	Deepest  float64 // m of water that all of it is enough for
	Kg       float64 // of chain
	Litres   float64 // that all of it takes
	Over     float64 // m of rope that don't go into the locker; chain goes in first
	Down, Up float64 // s
}

// Anchor reckons what is needed and where it goes.
func (r Rode) Anchor() Anchored {
	a := Anchored{Scope: r.Scope, Kg: r.Chain * chainKg * r.ChainMM * r.ChainMM}
	if a.Scope == 0 {
		a.Scope = scopeRope
		if r.Rope == 0 {
			a.Scope = scopeChain
		}
	}
	all := r.Chain + r.Rope
	a.Needed = a.Scope * (r.Depth + r.Tide + r.Bow)
	a.Short = max(0, a.Needed-all)
	a.Deepest = max(0, all/a.Scope-r.Bow-r.Tide)
	chain := a.Kg / steelDensity * 1000 * chainHeap
	perMetre := math.Pi / 4 * r.RopeMM * r.RopeMM / 1000 * ropeFlaked
	a.Litres = chain + r.Rope*perMetre
	if room := lockerFull*r.Locker - chain; r.Locker > 0 && perMetre > 0 {
		a.Over = min(r.Rope, max(0, r.Rope-max(room, 0)/perMetre))
	}
	out := min(a.Needed, all)
	a.Down, a.Up = out/lettingGo*60, out/byHand*60
	if r.Windlass > 0 {
		a.Down, a.Up = out/r.Windlass*60, out/r.Windlass*60
	}
	return a
}
