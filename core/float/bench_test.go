package float

import (
	"testing"

	"ergasia/core/hull"

	"github.com/stretchr/testify/assert"
	"gonum.org/v1/gonum/spatial/r3"
)

// dayBoat is a boat such as the demo's, with sixty things and two people.
func dayBoat(t testing.TB) (hull.Hull, Load) {
	vee, _ := hull.FormNamed("vee")
	h := vee.Hull(hull.Tape{"length_m": 5.4, "beam_m": 2.12, "transom_beam_m": 1.96, "chine_beam_m": 1.72,
		"transom_deadrise_deg": 12, "amidships_deadrise_deg": 15, "depth_aft_m": 0.72, "depth_amidships_m": 0.76,
		"depth_forward_m": 1.0, "forefoot_m": 1.9, "notch_m": 0.55, "rake_deg": 0})
	l := Load{WaterDensity: SeaWater, Masses: []Mass{
		{Kg: 390, At: r3.Vec{X: 2.3, Z: 0.4}}, {Kg: 118, At: r3.Vec{X: -0.15, Z: 0.7}},
		{Kg: 85, At: r3.Vec{X: 2.0, Y: 0.3, Z: 1.1}}, {Kg: 78, At: r3.Vec{X: 3.2, Y: -0.2, Z: 0.9}},
	}, Tanks: []Tank{{Size: r3.Vec{X: 0.7, Y: 0.5, Z: 0.2}, Corner: r3.Vec{X: 1.2, Y: -0.25, Z: 0.1}, Fill: 0.6,
		Density: Petrol}}}
	for i := range 60 {
		l.Masses = append(l.Masses, Mass{Kg: 2, At: r3.Vec{X: 0.3 + 0.07*float64(i), Y: 0.4 - 0.0136*float64(i), Z: 0.4}})
	}
	return h, l
}

// The shell's refinement is fine enough: cutting each warped face four times
// as fine each way moves her by less than a twentieth of a millimetre.
func TestAFinerShellMovesHerByLessThanAFiftiethOfTheTolerance(t *testing.T) {
	h, l := dayBoat(t)
	coarse := NewBoat(shellOf(t, h), h.FloodPoints).Solve(l, nil).Figures
	fine := NewBoat(shellOf(t, subdivide(h, 6)), h.FloodPoints).Solve(l, nil).Figures
	assert.InDelta(t, fine.DraftAft, coarse.DraftAft, 5e-5)
	assert.InDelta(t, fine.DraftFwd, coarse.DraftFwd, 5e-5)
	assert.InDelta(t, fine.HeelDeg, coarse.HeelDeg, 0.002)
	assert.InDelta(t, fine.Lowest.M, coarse.Lowest.M, 5e-5)
}

// subdivide puts stations on the ruled faces between the given ones, and
// points between points, so that the surface stays what it was.
func subdivide(h hull.Hull, n int) hull.Hull {
	fine := hull.Hull{}
	low, high := h.Bounds()
	var xs []float64
	for i := 1; i < len(h.Stations); i++ {
		for j := range n {
			a, b := h.Stations[i-1].X, h.Stations[i].X
			xs = append(xs, a+(b-a)*float64(j)/float64(n))
		}
	}
	for _, x := range append(xs, high.X) {
		section, _ := h.SectionAt(max(x, low.X))
		s := hull.Station{X: x}
		for k := 1; k < len(section); k++ {
			for j := range n {
				t := float64(j) / float64(n)
				a, b := section[k-1], section[k]
				s.Half = append(s.Half, hull.Point{Y: a.Y + t*(b.Y-a.Y), Z: a.Z + t*(b.Z-a.Z)})
			}
		}
		s.Half = append(s.Half, section[len(section)-1])
		fine.Stations = append(fine.Stations, s)
	}
	return fine
}

// Equilibrium of a boat such as the demo's. The issue of it is under 1 ms.
func BenchmarkEquilibrium(b *testing.B) {
	h, l := dayBoat(b)
	s := shellOf(b, h)
	b.ReportMetric(float64(len(s.Triangles)), "triangles")
	boat := NewBoat(s, h.FloodPoints)
	b.ReportAllocs()
	for b.Loop() {
		boat.Solve(l, nil)
	}
}

// One clip of the shell, the reference that BenchmarkEquilibrium is read against.
func BenchmarkOneImmersion(b *testing.B) {
	h, _ := dayBoat(b)
	s := shellOf(b, h)
	body, f := newBody(newSolid(s.Mesh)), attitude(0.01, 0.01)
	b.ReportAllocs()
	for b.Loop() {
		body.immerse(f, r3.Vec{X: 2}, 0.25)
	}
}

func BenchmarkRightingArms(b *testing.B) {
	h, l := dayBoat(b)
	s := shellOf(b, h)
	heels := make([]float64, 19)
	for i := range heels {
		heels[i] = float64(i) * 5
	}
	boat := NewBoat(s, h.FloodPoints)
	b.ReportAllocs()
	for b.Loop() {
		boat.Solve(l, heels)
	}
}
