package stow

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"gonum.org/v1/gonum/spatial/r3"
)

func TestLayersGoByWhatLiesOnWhat(t *testing.T) {
	at := func(x, z, high float64) Laid {
		return Laid{At: r3.Vec{X: x, Z: z}, Size: r3.Vec{X: 0.2, Y: 0.2, Z: high}}
	}
	laid := []Laid{at(0.1, 0.3, 0.1), at(0, 0, 0.1), at(0, 0.1, 0.2), at(0.2, 0, 0.3), at(0.5, 0, 0.4)}
	assert.Equal(t, []int{2, 0, 1, 0, 0}, Layers(laid), "one that lies across two is over the higher of them")
}
