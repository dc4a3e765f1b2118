// Package kit works out what a list of wanted things comes to for one outing,
// and whether the crew has it at hand: how many, which of them, and for each
// that is not ready why not.
//
// A kit's line wants an amount per boat, person, rod or day. What answers it are
// choices in order of preference: pieces by name, or any piece with a tag.
package kit

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"ergasia/core/check"
)

// Per says what an amount is reckoned by.
type Per string

// What amounts are reckoned by.
const (
	Boat   Per = "boat"
	Person Per = "person"
	Rod    Per = "rod"
	Day    Per = "day"
)

// Choice is a thing that answers a line: one piece, or any with the tag.
type Choice struct {
	Gear string // id
	Tag  string
}

// Line is a wish of a kit.
type Line struct {
	What    string
	Amount  float64
	Per     Per
	Nice    bool     // nice to have: never counted as missing
	Choices []Choice // first is best
}

// Outing is what amounts are reckoned for.
type Outing struct {
	Persons int
	Rods    int
	Days    int
	Boat    string // id of the boat it goes out with; empty where none is chosen, and any will do
}

// State says whether a piece can be counted on.
type State string

// The states of a piece.
const (
	Aboard   State = "aboard" // of the outing's boat
	Ashore   State = "ashore" // in the shed, on the quay, with someone
	Other    State = "in another boat"
	Lent     State = "lent"
	Worn     State = "worn"
	Broken   State = "broken"
	Expired  State = "out of date"
	Promised State = "promised"
)

// ready are the states of pieces that can go.
var ready = []State{Aboard, Ashore}

// Piece is gear that may answer a line.
type Piece struct {
	ID        string
	Name      string
	Tags      []string
	Count     int
	Boat      string // id; empty ashore
	BoatName  string
	Condition string // good, worn or broken
	Lent      string // to whom; empty where it is not
	Expired   bool   // by the outing's last day
	Promised  string // the other outing it is promised to at that time
}

// state of a piece for an outing, worst news first, and the words for it.
func (p Piece) state(o Outing) (State, string) {
	switch {
	case p.Condition == "broken":
		return Broken, p.Name + " is broken"
	case p.Lent != "":
		return Lent, p.Name + " is lent to " + p.Lent
	case p.Promised != "":
		return Promised, p.Name + " is promised to " + p.Promised
	case p.Expired:
		return Expired, p.Name + " is out of date by then"
	case p.Boat != "" && o.Boat != "" && p.Boat != o.Boat:
		return Other, p.Name + " is in " + p.BoatName
	case p.Condition == "worn":
		return Worn, p.Name + " is worn"
	case p.Boat != "":
		return Aboard, ""
	}
	return Ashore, ""
}

// Pick is a piece that was chosen for a line.
type Pick struct {
	Piece       Piece
	Count       int // of the piece, for this line
	State       State
	Alternative bool // not the first choice
}

// Found is how a line fares.
type Found struct {
	Line    Line
	Wanted  int
	Picks   []Pick // pieces that can go, then those that could if something is done
	Ready   int
	Missing int      // beyond what can go; nought for nice-to-have
	Because []string // why pieces of the list do not count, or nothing is found
}

// Wanted is how many of a line an outing takes, always whole.
func (l Line) Wanted(o Outing) int {
	times := map[Per]int{Boat: 1, Person: o.Persons, Rod: o.Rods, Day: o.Days}[l.Per]
	return int(math.Ceil(l.Amount*float64(times) - 1e-9))
}

// Check says what is wrong with a kit's lines.
func Check(lines []Line) error {
	var fs check.Faults
	for i, l := range lines {
		field := func(name string) string { return fmt.Sprintf("lines[%d].%s", i, name) }
		fs.Text(field("what"), l.What, 1, 80)
		fs.Within(field("amount"), l.Amount, 0.1, 1000)
		fs.OneOf(field("per"), string(l.Per), string(Boat), string(Person), string(Rod), string(Day))
		if len(l.Choices) == 0 {
			fs.Add(field("choices"), nil, "name a piece of gear or a tag that answers it")
		}
	}
	return fs.Err()
}

// Answer finds pieces for every line. A piece counts once in a kit: what one
// line took, another can't have.
func Answer(lines []Line, pieces []Piece, o Outing) []Found {
	left := make(map[string]int, len(pieces))
	for _, p := range pieces {
		left[p.ID] = p.Count
	}
	var list []Found
	for _, l := range lines {
		list = append(list, l.answer(pieces, left, o))
	}
	return list
}

func (l Line) answer(pieces []Piece, left map[string]int, o Outing) Found {
	f := Found{Line: l, Wanted: l.Wanted(o)}
	var later []Pick
	known := 0
	for rank, c := range l.Choices {
		for _, p := range c.of(pieces) {
			known++
			state, why := p.state(o)
			n := min(left[p.ID], f.Wanted-f.Ready)
			if !slices.Contains(ready, state) {
				later = append(later, Pick{Piece: p, Count: min(p.Count, f.Wanted), State: state, Alternative: rank > 0})
				f.Because = append(f.Because, why)
				continue
			}
			if n <= 0 {
				continue
			}
			left[p.ID] -= n
			f.Ready += n
			f.Picks = append(f.Picks, Pick{Piece: p, Count: n, State: state, Alternative: rank > 0})
		}
	}
	if f.Ready >= f.Wanted {
		f.Because = nil
		return f
	}
	f.Picks = append(f.Picks, later...)
	if len(f.Picks) == 0 {
		f.Because = []string{"the crew has none: " + strings.TrimSpace(l.What)}
		if known > 0 {
			f.Because = []string{"what there is of it answers another line"}
		}
	}
	if !l.Nice {
		f.Missing = f.Wanted - f.Ready
	}
	return f
}

// of lists the pieces of a choice, those aboard first: they need no carrying.
func (c Choice) of(pieces []Piece) []Piece {
	var list []Piece
	for _, p := range pieces {
		if c.Gear != "" && p.ID == c.Gear || c.Tag != "" && slices.Contains(p.Tags, c.Tag) {
			list = append(list, p)
		}
	}
	slices.SortStableFunc(list, func(a, b Piece) int {
		switch {
		case a.Boat != "" && b.Boat == "":
			return -1
		case a.Boat == "" && b.Boat != "":
			return 1
		}
		return 0
	})
	return list
}
