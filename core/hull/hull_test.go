package hull

import (
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/integrate"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"
)

func box(length, beam, depth float64) Hull {
	half := []Point{{Y: 0, Z: 0}, {Y: beam / 2, Z: 0}, {Y: beam / 2, Z: depth}}
	return Hull{Stations: []Station{{X: 0, Half: half}, {X: length, Half: half}}}
}

// dunlin is a hull such as the demo's.
func dunlin() Tape {
	return Tape{"length_m": 5.4, "beam_m": 2.12, "transom_beam_m": 1.96, "chine_beam_m": 1.72,
		"transom_deadrise_deg": 12, "amidships_deadrise_deg": 15, "depth_aft_m": 0.72, "depth_amidships_m": 0.76,
		"depth_forward_m": 1.0, "forefoot_m": 1.9, "notch_m": 0.55, "rake_deg": 0}
}

func form(t require.TestingT, name string) Form {
	f, ok := FormNamed(name)
	require.True(t, ok, name)
	return f
}

func TestABoxEnclosesItsVolumeExactly(t *testing.T) {
	s, err := box(5, 2, 0.7).Shell()
	require.NoError(t, err)
	assert.InEpsilon(t, 7.0, s.Holds, 1e-14)
}

func TestABoxWithoutABottomPointOnTheCentrelineIsClosed(t *testing.T) {
	half := []Point{{Y: 1, Z: 0}, {Y: 1, Z: 0.7}}
	s, err := Hull{Stations: []Station{{X: 0, Half: half}, {X: 5, Half: half}}}.Shell()
	require.NoError(t, err)
	assert.InEpsilon(t, 7.0, s.Holds, 1e-14)
}

func TestARakedTransomTakesItsWedgeAway(t *testing.T) {
	h := box(5, 2, 0.7)
	h.Stations[0].PointX = []float64{0, 0, -0.35}
	s, err := h.Shell()
	require.NoError(t, err)
	assert.InEpsilon(t, 7.0+0.35*0.7/2*2, s.Holds, 1e-12)
}

// Every edge of a closed surface is passed once each way; so the sum of the
// triangles' area vectors is nothing.
func TestEveryShellIsClosed(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		h := drawHull(t)
		s, err := h.Shell()
		require.NoError(t, err)
		var sum r3.Vec
		area := 0.0
		for _, tri := range s.Triangles {
			a, b, c := s.Vertices[tri[0]], s.Vertices[tri[1]], s.Vertices[tri[2]]
			n := r3.Scale(0.5, r3.Cross(r3.Sub(b, a), r3.Sub(c, a)))
			sum = r3.Add(sum, n)
			area += r3.Norm(n)
		}
		assert.Less(t, r3.Norm(sum)/area, 1e-10)
	})
}

// A second opinion on the volume: gonum's Simpson over the areas of sections
// taken by the shoelace formula along the ruled lines.
func TestVolumeAgreesWithQuadratureOverSections(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		h := drawHull(t)
		s, err := h.Shell()
		require.NoError(t, err)
		volume := 0.0
		for i := 1; i < len(h.Stations); i++ {
			var xs, areas []float64
			for j := range 3 { // the area is quadratic between stations: Simpson is exact
				x := lerp(h.Stations[i-1].X, h.Stations[i].X, float64(j)/2)
				section, ok := h.SectionAt(x)
				require.True(t, ok)
				xs, areas = append(xs, x), append(areas, sectionArea(section))
			}
			volume += integrate.Simpsons(xs, areas)
		}
		assert.InEpsilon(t, volume, s.Holds, 1e-9)
	})
}

// sectionArea is of both sides, up to the straight lid.
func sectionArea(half []Point) float64 {
	ring := append([]Point{}, half...)
	ring = append(ring, Point{Y: 0, Z: half[len(half)-1].Z})
	twice := 0.0
	for i, p := range ring {
		q := ring[(i+1)%len(ring)]
		twice += p.Y*q.Z - q.Y*p.Z
	}
	return twice
}

func drawHull(t *rapid.T) Hull {
	n, points := rapid.IntRange(2, 9).Draw(t, "stations"), rapid.IntRange(3, 7).Draw(t, "points")
	h := Hull{}
	for i := range n {
		s := Station{X: float64(i) * rapid.Float64Range(0.3, 1).Draw(t, "spacing") * 1.0}
		if i > 0 {
			s.X = h.Stations[i-1].X + rapid.Float64Range(0.2, 1).Draw(t, "dx")
		}
		z := rapid.Float64Range(0, 0.2).Draw(t, "keel")
		y := 0.0
		for range points {
			s.Half = append(s.Half, Point{Y: y, Z: z})
			y += rapid.Float64Range(0.01, 0.4).Draw(t, "dy")
			z += rapid.Float64Range(0.01, 0.3).Draw(t, "dz")
		}
		h.Stations = append(h.Stations, s)
	}
	return h
}

func TestBadStationsAreNamed(t *testing.T) {
	good := box(5, 2, 0.7)
	for want, break_ := range map[string]func(h *Hull){
		"stations is 1":      func(h *Hull) { h.Stations = h.Stations[:1] },
		"stations[1].x_m is": func(h *Hull) { h.Stations[1].X = 0 },
		"half_section_yz_m[1][0] is -1: must be from 0": func(h *Hull) {
			h.Stations[0].Half = []Point{{Y: 0, Z: 0}, {Y: -1, Z: 0}, {Y: 1, Z: 1}}
		},
		"half_section_yz_m[1][1] is NaN": func(h *Hull) {
			h.Stations[0].Half = []Point{{Y: 0, Z: 0}, {Y: 1, Z: math.NaN()},
				{Y: 1, Z: 1}}
		},
		"at most 12000 points in all": func(h *Hull) {
			half := make([]Point, 201)
			for k := range half {
				half[k] = Point{Y: float64(k) / 200, Z: float64(k) / 200}
			}
			h.Stations = nil
			for i := range 61 {
				h.Stations = append(h.Stations, Station{X: float64(i), Half: half})
			}
		},
		"same number of points": func(h *Hull) { h.Stations[0].Half = []Point{{Y: 0, Z: 0}, {Y: 1, Z: 1}} },
		"crosses itself": func(h *Hull) {
			bad := []Point{{Y: 0, Z: 0}, {Y: 1, Z: 1}, {Y: 1, Z: 0}, {Y: 0.2, Z: 0.9}}
			h.Stations = []Station{{X: 0, Half: bad}, {X: 5, Half: bad}}
		},
		"point_x_m is 1":        func(h *Hull) { h.Stations[0].PointX = []float64{0} },
		"flood_points[0].name":  func(h *Hull) { h.FloodPoints = []FloodPoint{{Name: strings.Repeat("n", 10000)}} },
		"flood_points[0].at_m[": func(h *Hull) { h.FloodPoints = []FloodPoint{{Name: "notch", At: r3.Vec{X: math.Inf(1)}}} },
	} {
		h := Hull{Stations: append([]Station{}, good.Stations...)}
		break_(&h)
		assert.ErrorContains(t, h.Check("hull."), want)
	}
	assert.NoError(t, good.Check("hull."))
}

func TestAHullWithoutVolumeIsRefused(t *testing.T) {
	flat := []Point{{Y: 0, Z: 0}, {Y: 0, Z: 0.5}, {Y: 0, Z: 1}}
	h := Hull{Stations: []Station{{X: 0, Half: flat}, {X: 5, Half: flat}}}
	require.NoError(t, h.Check(""))
	_, err := h.Shell()
	assert.ErrorContains(t, err, "no volume")
}

func TestABoxThatLeavesTheHullIsFlaggedWithHowFar(t *testing.T) {
	h := box(5, 2, 0.7)
	for _, c := range []struct {
		low, high r3.Vec
		by        float64
		where     string
	}{
		{r3.Vec{X: 1, Y: -0.5, Z: 0.1}, r3.Vec{X: 2, Y: 0.5, Z: 0.5}, 0, ""},
		{r3.Vec{X: 1, Y: 0.5, Z: 0.1}, r3.Vec{X: 2, Y: 1.2, Z: 0.5}, 0.2, "through the side"},
		{r3.Vec{X: -0.3, Y: 0, Z: 0.1}, r3.Vec{X: 2, Y: 0.5, Z: 0.5}, 0.3, "aft of the transom"},
		{r3.Vec{X: 4, Y: 0, Z: 0.1}, r3.Vec{X: 5.1, Y: 0.5, Z: 0.5}, 0.1, "ahead of the stem"},
		{r3.Vec{X: 4, Y: 0, Z: -0.05}, r3.Vec{X: 5, Y: 0.5, Z: 0.5}, 0.05, "through the bottom"},
		{r3.Vec{X: 1, Y: -0.5, Z: 0.1}, r3.Vec{X: 2, Y: 0.5, Z: 1.5}, 0, ""}, // stands above the sheer
	} {
		by, where := h.Leaves(c.low, c.high)
		assert.InDelta(t, c.by, by, 1e-9)
		assert.Equal(t, c.where, where)
	}
	by, where := form(t, "vee").Hull(dunlin()).Leaves(r3.Vec{X: 4.8, Y: -0.4, Z: 0.6}, r3.Vec{X: 5.3, Y: 0.4, Z: 0.8})
	assert.Greater(t, by, 0.1)
	assert.Equal(t, "through the side", where)
}

func TestTheDrawingFollowsTheStations(t *testing.T) {
	l := form(t, "vee").Hull(dunlin()).Lines(9)
	assert.Len(t, l.PlanChines, 1)
	assert.Len(t, l.Sections, 9)
	assert.InDelta(t, 5.4, l.PlanSheer[len(l.PlanSheer)-1][0], 1e-9)
	assert.InDelta(t, 0.72, l.ProfileSheer[0][1], 1e-9)
	assert.InDelta(t, 0, l.Keel[0][1], 1e-9)
	assert.InDelta(t, 0.7951, l.Sections[0].Half[1][0], 1e-4)
}
