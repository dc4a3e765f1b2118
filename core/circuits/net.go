package circuits

import (
	"fmt"
	"slices"
	"strings"

	"ergasia/core/check"
)

// Kind of a part of the net.
type Kind string

// The kinds.
const (
	Bank     Kind = "bank"
	Selector Kind = "selector" // 1, 2, both, off
	Switch   Kind = "switch"   // on or off: a kill switch
	Breaker  Kind = "breaker"
	Fuse     Kind = "fuse"
	Bus      Kind = "bus"
	Panel    Kind = "panel" // switches or fuses in ways
)

// Position of a selector or a switch.
type Position string

// The positions. A switch that is off, and a selector that is off, feed nothing.
const (
	First  Position = "1"
	Second Position = "2"
	Both   Position = "both"
	Off    Position = "off"
)

// Part is a bank, or something between a bank and the circuits.
type Part struct {
	Key    string
	Name   string
	Kind   Kind
	From   []string // the parts that feed it: none of a bank, one or two of a selector, else one
	Rating float64  // A, of what protects; 0 is not said
	Ways   int      // of a panel or bus; 0 is not said
	Volts  float64  // of a bank
}

// Circuit is a wire to one thing.
type Circuit struct {
	Key  string
	Name string
	From string // the part it hangs on
	Load string // what hangs on it, where it is something that can be on one circuit only
}

// Net is a boat's electrics.
type Net struct {
	Parts    []Part
	Circuits []Circuit
}

// Most of what a net may have.
const (
	MostParts    = 60
	MostCircuits = 120
)

// Check lists what is wrong with a net, by the names that people gave.
func (n Net) Check() error {
	var fs check.Faults
	if len(n.Parts) > MostParts {
		fs.Add("parts", len(n.Parts), fmt.Sprintf("must be at most %d", MostParts))
		return fs
	}
	if len(n.Circuits) > MostCircuits {
		fs.Add("circuits", len(n.Circuits), fmt.Sprintf("must be at most %d", MostCircuits))
		return fs
	}
	seen := map[string]bool{}
	for i, p := range n.Parts {
		at := fmt.Sprintf("parts[%d].", i)
		checkKey(&fs, at, p.Key, seen)
		n.checkPart(&fs, at, p)
	}
	n.checkCircuits(&fs, seen)
	if len(fs) == 0 {
		n.checkCircles(&fs)
	}
	if len(fs) == 0 {
		n.checkVolts(&fs)
		n.checkWays(&fs)
	}
	return fs.Err()
}

func checkKey(fs *check.Faults, at, key string, seen map[string]bool) {
	fs.Text(at+"key", key, 1, 40)
	if seen[key] {
		fs.Add(at+"key", key, "must be a key of its own")
	}
	seen[key] = true
}

func (n Net) checkPart(fs *check.Faults, at string, p Part) {
	fs.Text(at+"name", p.Name, 1, 60)
	fs.OneOf(at+"kind", string(p.Kind), string(Bank), string(Selector), string(Switch), string(Breaker), string(Fuse),
		string(Bus), string(Panel))
	fs.Within(at+"rating_a", p.Rating, 0, 1000)
	fs.Within(at+"ways", float64(p.Ways), 0, 60)
	for k, from := range p.From {
		field := fmt.Sprintf("%sfrom[%d]", at, k)
		switch {
		case from == p.Key:
			fs.Add(field, p.Name, "feeds itself: must be another part")
		case n.Part(from) == nil:
			fs.Add(field, from, p.Name+" hangs on what is gone: must be a part of this boat")
		case slices.Contains(p.From[:k], from):
			fs.Add(field, n.nameOf(from), "feeds it already")
		}
	}
	switch {
	case p.Kind == Bank && len(p.From) > 0:
		fs.Add(at+"from", p.Name, "is a bank: nothing feeds it, a charger charges it")
	case p.Kind == Selector && (len(p.From) == 0 || len(p.From) > 2):
		fs.Add(at+"from", p.Name, fmt.Sprintf("is a selector: must be fed by one or two, not by %d", len(p.From)))
	case p.Kind != Bank && p.Kind != Selector && len(p.From) != 1:
		fs.Add(at+"from", p.Name, fmt.Sprintf("must be fed by one part, not by %d: two need a selector", len(p.From)))
	}
}

func (n Net) checkCircuits(fs *check.Faults, seen map[string]bool) {
	hangs := map[string]string{}
	for i, c := range n.Circuits {
		at := fmt.Sprintf("circuits[%d].", i)
		checkKey(fs, at, c.Key, seen)
		fs.Text(at+"name", c.Name, 1, 60)
		if n.Part(c.From) == nil {
			fs.Add(at+"from", c.From, c.Name+" hangs on what is gone: must be a part of this boat, a panel, a bus, a bank")
		}
		if c.Load == "" {
			continue
		}
		if other, twice := hangs[c.Load]; twice {
			fs.Add(at+"name", c.Name, fmt.Sprintf("hangs on %s too: a thing hangs on one circuit", other))
		}
		hangs[c.Load] = c.Name
	}
}

// checkCircles says which parts feed one another in a ring.
func (n Net) checkCircles(fs *check.Faults) {
	done := map[string]bool{}
	var path []string
	var walk func(key string) bool
	walk = func(key string) bool {
		if at := slices.Index(path, key); at >= 0 {
			names := []string{}
			for _, k := range append(path[at:], key) {
				names = append(names, n.nameOf(k))
			}
			fs.Add("parts", nil, "feed one another in a circle: "+strings.Join(names, " ← "))
			return true
		}
		if done[key] {
			return false
		}
		path = append(path, key)
		for _, from := range n.Part(key).From {
			if walk(from) {
				return true
			}
		}
		path = path[:len(path)-1]
		done[key] = true
		return false
	}
	for _, p := range n.Parts {
		if walk(p.Key) {
			return
		}
	}
}

// checkVolts says which selector would join banks of different volts.
func (n Net) checkVolts(fs *check.Faults) {
	for i, p := range n.Parts {
		var first *Part
		for _, key := range n.behind(p.Key) {
			b := n.Part(key)
			if first != nil && b.Volts > 0 && first.Volts > 0 && b.Volts != first.Volts {
				fs.Add(fmt.Sprintf("parts[%d].from", i), p.Name,
					fmt.Sprintf("must join banks of the same volts: %s has %g V, %s %g V", first.Name, first.Volts, b.Name, b.Volts))
				return
			}
			if first == nil {
				first = b
			}
		}
	}
}

// checkWays says which panel has more on it than ways.
func (n Net) checkWays(fs *check.Faults) {
	for i, p := range n.Parts {
		if used := n.Used(p.Key); p.Ways > 0 && used > p.Ways {
			fs.Add(fmt.Sprintf("parts[%d].ways", i), p.Ways, fmt.Sprintf("%s has %d on it: must be that many ways at least", p.Name, used))
		}
	}
}

// Used is how many parts and circuits hang on a part.
func (n Net) Used(key string) (used int) {
	for _, p := range n.Parts {
		if slices.Contains(p.From, key) {
			used++
		}
	}
	for _, c := range n.Circuits {
		if c.From == key {
			used++
		}
	}
	return used
}

// Part finds a part; nil where there is none.
func (n Net) Part(key string) *Part {
	if i := slices.IndexFunc(n.Parts, func(p Part) bool { return p.Key == key }); i >= 0 {
		return &n.Parts[i]
	}
	return nil
}

func (n Net) nameOf(key string) string {
	if p := n.Part(key); p != nil && p.Name != "" {
		return p.Name
	}
	return key
}

// behind are the banks that may feed a part, in any position.
func (n Net) behind(key string) []string { return n.Feeding(key, nil) }

// Feeding are the banks that feed a part with selectors and switches turned so; what is
// not turned stands at both, or on. With a nil map every bank that may feed it is told.
func (n Net) Feeding(key string, turned map[string]Position) []string {
	seen := map[string]bool{} // selectors on selectors lead to one bank by many ways
	var banks []string
	var feed func(string)
	feed = func(key string) {
		p := n.Part(key)
		if p == nil || seen[key] {
			return
		}
		seen[key] = true
		if p.Kind == Bank {
			banks = append(banks, key)
		}
		for i, from := range p.From {
			if passes(p.Kind, turned[key], i) {
				feed(from)
			}
		}
	}
	feed(key)
	slices.Sort(banks)
	return banks
}

// passes says whether a part in a position passes on its feed of a number.
func passes(k Kind, at Position, feed int) bool {
	switch at {
	case Off:
		return k != Selector && k != Switch
	case First:
		return k != Selector || feed == 0
	case Second:
		return k != Selector || feed == 1
	}
	return true
}

// Way are the parts from the banks to a circuit or part, those nearest to a bank first.
func (n Net) Way(key string) []string {
	for _, c := range n.Circuits {
		if c.Key == key {
			key = c.From
		}
	}
	var way []string
	var walk func(string)
	walk = func(k string) {
		p := n.Part(k)
		if p == nil || slices.Contains(way, k) {
			return
		}
		for _, from := range p.From {
			walk(from)
		}
		way = append(way, k)
	}
	walk(key)
	return way
}

// Dies are the circuits that have nothing to feed them where a part is gone.
func (n Net) Dies(gone string) []string {
	less := Net{Circuits: n.Circuits}
	for _, p := range n.Parts {
		if p.Key != gone {
			less.Parts = append(less.Parts, p)
		}
	}
	dies := []string{}
	for _, c := range n.Circuits {
		if len(n.behind(c.From)) > 0 && len(less.behind(c.From)) == 0 {
			dies = append(dies, c.Key)
		}
	}
	return dies
}
