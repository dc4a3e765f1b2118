package hull

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
)

// A shell without a keel line: a trough whose bottom is 0.6 m broad, 2 m at the
// sheer and 1 m deep holds (0.6+2)/2 m² a metre, wherever it stands.
func TestABottomThatIsNoLineIsClosed(t *testing.T) {
	half := []Point{{Y: 0.3, Z: 0.2}, {Y: 1, Z: 1.2}}
	shell, err := Hull{Stations: []Station{{X: 1, Half: half}, {X: 3, Half: half}}}.Shell()
	require.NoError(t, err)
	assert.InDelta(t, 2*(0.6+2)/2*1, shell.Holds, 1e-12)
	bottom := 0.0
	for _, tri := range shell.Triangles {
		p, q, r := shell.Vertices[tri[0]], shell.Vertices[tri[1]], shell.Vertices[tri[2]]
		if p.Z == 0.2 && q.Z == 0.2 && r.Z == 0.2 {
			normal := r3.Scale(0.5, r3.Cross(r3.Sub(q, p), r3.Sub(r, p)))
			bottom -= normal.Z
		}
	}
	assert.InDelta(t, 0.6*2, bottom, 1e-12, "its face looks down")
}

// The faces of a closed surface, each as a vector, add up to nothing (the
// divergence theorem for a constant field).
func TestTheFacesOfAShellAddUpToNothing(t *testing.T) {
	for _, f := range Forms() {
		shell, err := f.Hull(f.Usual()).Shell()
		require.NoError(t, err, f.Name)
		var sum r3.Vec
		for _, tri := range shell.Triangles {
			p, q, r := shell.Vertices[tri[0]], shell.Vertices[tri[1]], shell.Vertices[tri[2]]
			sum = r3.Add(sum, r3.Cross(r3.Sub(q, p), r3.Sub(r, p)))
		}
		assert.InDelta(t, 0, r3.Norm(sum), 1e-9, f.Name)
	}
}
