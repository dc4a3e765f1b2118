package hull

import (
	"ergasia/core/check"

	"gonum.org/v1/gonum/spatial/r3"
)

// Names of the spaces that decks and wells make.
const (
	DeckSpace = "deck"
	WellSpace = "splash well"
)

// Deck is a self-draining deck: over its sole the boat is open, and water runs
// out through scuppers. Metres.
type Deck struct {
	Sole     float64   `json:"sole_m" doc:"Height of the sole over the keel"`
	Aft      float64   `json:"aft_m" doc:"Where it begins, from the foot of the transom"`
	Fore     float64   `json:"fore_m" doc:"Where it ends"`
	Scuppers []Scupper `json:"scuppers" maxItems:"12"`
}

// Scupper is an opening through the hull at the deck.
type Scupper struct {
	Name string     `json:"name"`
	At   [3]float64 `json:"at_m"`
}

// Well is a splash well before the transom's notch: what comes over the notch
// stands in it until it comes over its bulkhead. Metres.
type Well struct {
	Length   float64 `json:"length_m" doc:"From the transom to its bulkhead"`
	Breadth  float64 `json:"breadth_m"`
	Floor    float64 `json:"floor_m" doc:"Height over the keel"`
	Bulkhead float64 `json:"bulkhead_m" doc:"Height of the bulkhead's top over the keel"`
}

// Check adds what is wrong with a deck.
func (d Deck) Check(fs *check.Faults, field string) {
	fs.Within(field+"sole_m", d.Sole, 0.01, 4)
	fs.Within(field+"aft_m", d.Aft, -2, 24)
	fs.Within(field+"fore_m", d.Fore, 0, 24)
	if d.Aft >= d.Fore {
		fs.Add(field+"fore_m", d.Fore, "must be ahead of where the deck begins")
	}
	for _, s := range d.Scuppers {
		fs.Text(field+"scuppers.name", s.Name, 1, 80)
	}
}

// Check adds what is wrong with a well.
func (w Well) Check(fs *check.Faults, field string) {
	fs.Within(field+"length_m", w.Length, 0.05, 4)
	fs.Within(field+"breadth_m", w.Breadth, 0.1, 6)
	fs.Within(field+"floor_m", w.Floor, 0.02, 4)
	fs.Within(field+"bulkhead_m", w.Bulkhead, 0.05, 4)
	if w.Bulkhead <= w.Floor {
		fs.Add(field+"bulkhead_m", w.Bulkhead, "must be higher than the well's floor")
	}
}

// WithDeck is the hull with a self-draining deck.
func (h Hull) WithDeck(d Deck) Hull {
	low, high := h.Bounds()
	h.Spaces = append(h.Spaces[:len(h.Spaces):len(h.Spaces)], Space{Name: DeckSpace, Low: r3.Vec{X: max(d.Aft, low.X),
		Y: low.Y, Z: d.Sole}, High: r3.Vec{X: min(d.Fore, high.X), Y: high.Y, Z: high.Z + 0.01}})
	points := h.FloodPoints[:len(h.FloodPoints):len(h.FloodPoints)]
	for _, s := range d.Scuppers {
		points = append(points, FloodPoint{Name: s.Name, At: r3.Vec{X: s.At[0], Y: s.At[1], Z: s.At[2]}, Space: DeckSpace})
	}
	h.FloodPoints = points
	return h
}

// WithWell is the hull with a splash well: her first flood point, the transom's
// lowest edge, leads into the well, and the bulkhead takes its place.
func (h Hull) WithWell(w Well) Hull {
	low, high := h.Bounds()
	h.Spaces = append(h.Spaces[:len(h.Spaces):len(h.Spaces)], Space{Name: WellSpace,
		Low: r3.Vec{X: low.X, Y: -w.Breadth / 2, Z: w.Floor}, High: r3.Vec{X: w.Length, Y: w.Breadth / 2, Z: high.Z + 0.01}})
	points := []FloodPoint{{Name: "splash well bulkhead", At: r3.Vec{X: w.Length, Z: w.Bulkhead}}}
	for i, p := range h.FloodPoints {
		if i == 0 {
			p.Space = WellSpace
		}
		points = append(points, p)
	}
	h.FloodPoints = points
	return h
}
