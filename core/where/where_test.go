package where

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"gonum.org/v1/gonum/spatial/r3"
)

func at(id string, x, y, z, l, b, h float64) Lying {
	return Lying{ID: id, Name: id, Shape: "box", At: r3.Vec{X: x, Y: y, Z: z}, Size: r3.Vec{X: l, Y: b, Z: h}}
}

// A locker 1.2 m long with three boxes in a row, a net over two of them, and a
// bag on the net.
var locker = []Lying{
	at("aft", 0, 0, 0, 0.4, 0.4, 0.1), at("middle", 0.4, 0, 0, 0.4, 0.4, 0.1), at("fore", 0.8, 0, 0, 0.4, 0.4, 0.1),
	{ID: "net", Name: "the net", Shape: "soft", At: r3.Vec{X: 0.3, Z: 0.1}, Size: r3.Vec{X: 0.8, Y: 0.3, Z: 0.05}},
	{ID: "bag", Name: "bag", Shape: "soft", At: r3.Vec{X: 1, Z: 0.15}, Size: r3.Vec{X: 0.1, Y: 0.1, Z: 0.05}},
}

func TestAThingIsFoundInWords(t *testing.T) {
	assert.Equal(t, "port front locker, second box from the stem, under bag and the net", Sentence("port front locker",
		locker, "middle", 0, 0.4))
	assert.Equal(t, "port front locker, first box from the stern, under bag and the net", Sentence("port front locker",
		locker, "aft", 0, 0.4),
		"the net overlaps its end")
	assert.Equal(t, "first box from the stem", Among(locker, "fore"))
	assert.Equal(t, "locker, first bundle from the stem", Sentence("locker", locker, "bag", 0, 0.4))
	assert.Equal(t, "locker", Sentence("locker", locker, "elsewhere", 0, 0.4))
	assert.Equal(t, "locker", Sentence("locker", locker[:1], "aft", 0, 0.4),
		"the only thing in a place needs no more words")
}

func TestWhatLiesOnAThingIsToldFromTheTop(t *testing.T) {
	tower := []Lying{at("a", 0, 0, 0, 1, 1, 0.1), at("b", 0, 0, 0.1, 1, 1, 0.1), at("c", 0, 0, 0.2, 1, 1, 0.1),
		at("d", 0, 0, 0.3, 1, 1, 0.1), at("e", 0, 0, 0.4, 1, 1, 0.1)}
	assert.Equal(t, []string{"e", "d", "c", "b"}, Above(tower, "a"))
	assert.Equal(t, "bin, under e, d and 2 more", Sentence("bin", tower, "a", 0, 1))
	assert.Empty(t, Above(tower, "e"))
	beside := append(tower[:2:2], at("x", 1, 0, 0.1, 1, 1, 0.1))
	assert.Equal(t, []string{"b"}, Above(beside, "a"), "what only touches its side is not on it")
	twice := append(tower[:2:2], at("a", 2, 0, 0, 1, 1, 0.1))
	assert.Empty(t, Above(twice, "a"), "of two alike the free one is taken")
}

func TestASideIsToldWhereThereIsOne(t *testing.T) {
	assert.Equal(t, "port side", Side(at("a", 0, 0.25, 0, 0.1, 0.2, 0.1), 0, 0.5))
	assert.Equal(t, "starboard side", Side(at("a", 0, 0, 0, 0.1, 0.2, 0.1), 0, 0.5))
	assert.Equal(t, "", Side(at("a", 0, 0, 0, 0.1, 0.4, 0.1), 0, 0.5))
	assert.Equal(t, "", Side(at("a", 0, 0.15, 0, 0.1, 0.2, 0.1), 0, 0.5))
}
