package stow

// The levels of places, from the keel up. On a drawing from above each hides
// what is under it, so they can be looked at one by one.
const (
	UnderSole = "sole"
	InLocker  = "locker"
	OnDeck    = "deck"
	Overhead  = "overhead"
)

// headroom is how far over the sole a place begins that people walk under,
// metres (practice, no source).
const headroom = 1.5

// LevelOf says on which level a place is: its floor, its top and the sole where
// one stands beside it are heights over the keel, metres.
func LevelOf(floor, top, sole float64, lid bool) string {
	switch {
	case floor >= sole+headroom:
		return Overhead
	case top <= sole:
		return UnderSole
	case lid:
		return InLocker
	}
	return OnDeck
}
