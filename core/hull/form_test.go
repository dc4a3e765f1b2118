package hull

import (
	"encoding/json"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"
)

func TestNoFormNeedsMoreThanTwelveMeasures(t *testing.T) {
	for _, f := range Forms() {
		assert.LessOrEqual(t, len(f.Measures), 12, f.Name)
		require.NoError(t, f.Check("", f.Usual()), f.Name)
		assert.Empty(t, f.Doubts(f.Usual()), f.Name)
		s, err := f.Hull(f.Usual()).Shell()
		require.NoError(t, err)
		assert.Greater(t, s.Holds, 0.3)
	}
}

func TestAVHullHasTheMeasuresItWasGiven(t *testing.T) {
	m := dunlin()
	m["rake_deg"] = 12
	require.NoError(t, form(t, "vee").Check("", m))
	h := form(t, "vee").Hull(m)
	require.NoError(t, h.Check(""))
	low, high := h.Bounds()
	assert.InDelta(t, 5.4, high.X, 1e-9)
	assert.InDelta(t, -0.72*math.Tan(12*math.Pi/180), low.X, 1e-9, "the transom's top leans aft")
	assert.InDelta(t, 2.12, high.Y-low.Y, 0.01)
	assert.InDelta(t, 0, low.Z, 1e-9)
	transom := h.Stations[0].Half
	assert.InDelta(t, 0.98, transom[2].Y, 1e-9)
	assert.InDelta(t, 0.72, transom[2].Z, 1e-9)
	assert.InDelta(t, 12, math.Atan(transom[1].Z/transom[1].Y)*180/math.Pi, 1e-6)
	stem := h.Stations[len(h.Stations)-1].Half
	assert.InDelta(t, 0, stem[2].Y, 1e-9)
	assert.InDelta(t, 1.0, stem[2].Z, 1e-9)
	middle, ok := h.SectionAt(2.7)
	require.True(t, ok)
	assert.InDelta(t, 0.76, middle[2].Z, 0.002)
	assert.InDelta(t, 15, math.Atan(middle[1].Z/middle[1].Y)*180/math.Pi, 0.3)
	assert.Equal(t, "transom notch", h.FloodPoints[0].Name)
	assert.InDelta(t, 0.55, h.FloodPoints[0].At.Z, 1e-9)
}

func TestTheOtherFormsHaveTheMeasuresTheyWereGiven(t *testing.T) {
	flat := form(t, "flat")
	m := flat.Usual()
	h := flat.Hull(m)
	bow := h.Stations[len(h.Stations)-1].Half
	assert.InDelta(t, m["bow_beam_m"]/2, bow[2].Y, 1e-9)
	assert.InDelta(t, m["bow_rise_m"], bow[0].Z, 1e-9)
	assert.InDelta(t, m["depth_forward_m"], bow[2].Z, 1e-9)
	for _, s := range h.Stations {
		assert.Equal(t, s.Half[0].Z, s.Half[1].Z, "the bottom is flat")
	}

	skiff := form(t, "skiff")
	m = skiff.Usual()
	at, ok := skiff.Hull(m).SectionAt(0.8 * m["length_m"])
	require.True(t, ok)
	assert.InDelta(t, m["entry_deadrise_deg"], math.Atan2(at[1].Z-at[0].Z, at[1].Y)*180/math.Pi, 0.7)

	round := form(t, "round")
	m = round.Usual()
	at, ok = round.Hull(m).SectionAt(m["length_m"] / 2)
	require.True(t, ok)
	half, _ := BreadthAt(at, at[0].Z+(at[len(at)-1].Z-at[0].Z)/2)
	assert.InEpsilon(t, m["half_depth_beam_m"]/m["beam_m"], half/at[len(at)-1].Y, 0.01)

	craft := form(t, "craft")
	assert.Equal(t, "air intake", craft.Hull(craft.Usual()).FloodPoints[0].Name)
}

// A semicircle is the superellipse of exponent 2: at half its depth its breadth
// is the root of 3/4.
func TestAHalfCircleHasExponentTwo(t *testing.T) {
	assert.InDelta(t, 2, superellipse(math.Sqrt(0.75)), 1e-9)
}

func TestMeasuresThatContradictAreNamedInWords(t *testing.T) {
	for want, break_ := range map[string]func(m Tape){
		"hull.chine_beam_m is 2.3: chine beam is wider than the beam at the sheer": func(m Tape) { m["chine_beam_m"] = 2.3 },
		"beam at the transom is wider":                                             func(m Tape) { m["transom_beam_m"] = 2.2 },
		"notch_m is 0.8: the transom's lowest edge":                                func(m Tape) { m["notch_m"] = 0.8 },
		"the forefoot is longer than the boat":                                     func(m Tape) { m["forefoot_m"] = 6 },
		"length_m is -5: must be from 1.5 to 24":                                   func(m Tape) { m["length_m"] = -5 },
		"depth_aft_m is NaN":                                                       func(m Tape) { m["depth_aft_m"] = math.NaN() },
		"puts the chine over the sheer": func(m Tape) {
			m["transom_deadrise_deg"],
				m["depth_aft_m"], m["notch_m"] = 35, 0.5, 0.4
		},
		"over the sheer or the stem": func(m Tape) { m["amidships_deadrise_deg"] = 44 },
		"beam at the sheer is more than the length": func(m Tape) {
			m["length_m"],
				m["forefoot_m"] = 2, 1
		},
		"hull.beam_m: Beam at the sheer is missing":  func(m Tape) { delete(m, "beam_m") },
		"hull.wings_m: is no measure of a V bottom,": func(m Tape) { m["wings_m"] = 3 },
	} {
		m := dunlin()
		break_(m)
		assert.ErrorContains(t, form(t, "vee").Check("hull.", m), want)
	}
}

func TestMeasuresThatOnlyLookWrongAreDoubted(t *testing.T) {
	m := dunlin()
	m["amidships_deadrise_deg"] = 5
	doubts := form(t, "vee").Doubts(m)
	require.Len(t, doubts, 1)
	assert.Equal(t, "amidships_deadrise_deg", doubts[0].Key)
	m = dunlin()
	m["beam_m"], m["transom_beam_m"], m["chine_beam_m"] = 1.06, 0.98, 0.86
	assert.Contains(t, form(t, "vee").Doubts(m)[0].Sentence, "was half of it measured")
}

// drawTape draws measures of any form, some of them odd.
func drawTape(t *rapid.T) (Form, Tape) {
	f := Forms()[rapid.IntRange(0, len(Forms())-1).Draw(t, "form")]
	m := f.Usual()
	scale := rapid.Float64Range(0.6, 1.6).Draw(t, "scale")
	for _, q := range f.Measures {
		k := rapid.Float64Range(0.75, 1.3).Draw(t, q.Key)
		if q.Unit == "m" {
			k *= scale
		}
		m[q.Key] *= k
	}
	if f.Check("", m) != nil {
		t.Skip("these contradict each other")
	}
	return f, m
}

func TestAnyMeasuresThatPassMakeAClosedShell(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f, m := drawTape(t)
		h := f.Hull(m)
		require.NoError(t, h.Check(""))
		s, err := h.Shell()
		require.NoError(t, err)
		assert.Less(t, len(s.Triangles), 12000)
		assert.Less(t, openness(s.Mesh), 1e-9)
	})
}

// openness is the sum of a surface's area vectors over its area: nought where closed.
func openness(m Mesh) float64 {
	var sum r3.Vec
	area := 0.0
	for _, tri := range m.Triangles {
		a, b, c := m.Vertices[tri[0]], m.Vertices[tri[1]], m.Vertices[tri[2]]
		n := r3.Scale(0.5, r3.Cross(r3.Sub(b, a), r3.Sub(c, a)))
		sum = r3.Add(sum, n)
		area += r3.Norm(n)
	}
	return r3.Norm(sum) / area
}

func TestABoxWithinABoxHasTheVolumeTheyShare(t *testing.T) {
	s, err := box(5, 2, 0.7).Shell()
	require.NoError(t, err)
	in := s.Within(r3.Vec{X: 1, Y: -3, Z: -1}, r3.Vec{X: 2.5, Y: 0.4, Z: 0.3})
	assert.InEpsilon(t, 1.5*1.4*0.3, in.Volume(), 1e-12)
	c := in.Centroid()
	assert.InDelta(t, 1.75, c.X, 1e-12)
	assert.InDelta(t, -0.3, c.Y, 1e-12)
	assert.InDelta(t, 0.15, c.Z, 1e-12)
	assert.InDelta(t, 7, s.Within(s.Low, s.High).Volume(), 1e-12, "a cut along its own faces takes nothing")
	assert.Zero(t, s.Within(r3.Vec{X: 6}, r3.Vec{X: 7, Y: 1, Z: 1}).Volume())
}

// The parts of a hull on either side of any plane along the axes add up to her.
func TestPartsOfAHullAddUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f, m := drawTape(t)
		s, err := f.Hull(m).Shell()
		require.NoError(t, err)
		x := s.Low.X + (s.High.X-s.Low.X)*rapid.Float64Range(0.05, 0.95).Draw(t, "x")
		z := s.Low.Z + (s.High.Z-s.Low.Z)*rapid.Float64Range(0.05, 0.95).Draw(t, "z")
		sum := 0.0
		for _, part := range [][2]r3.Vec{
			{s.Low, {X: x, Y: s.High.Y, Z: z}}, {{X: x, Y: s.Low.Y, Z: s.Low.Z}, {X: s.High.X, Y: s.High.Y, Z: z}},
			{{X: s.Low.X, Y: s.Low.Y, Z: z}, {X: x, Y: s.High.Y, Z: s.High.Z}}, {{X: x, Y: s.Low.Y, Z: z}, s.High},
		} {
			p := s.Within(part[0], part[1])
			v := p.Volume()
			assert.GreaterOrEqual(t, v, -1e-9)
			sum += v
		}
		assert.InEpsilon(t, s.Holds, sum, 1e-9)
	})
}

func TestTheInsetOfABoxIsThinnerByTheSkin(t *testing.T) {
	in, err := box(5, 2, 0.7).Inset(0.01).Shell()
	require.NoError(t, err)
	assert.InEpsilon(t, 4.98*1.98*0.69, in.Holds, 1e-12)
	turned := in.Inverted()
	assert.InEpsilon(t, -in.Holds, turned.Volume(), 1e-12)
	both := Join(in.Mesh, turned)
	assert.InDelta(t, 0, both.Volume(), 1e-12)
}

// A skin takes its thickness times the area off the volume.
func TestAThinSkinIsAreaTimesThickness(t *testing.T) {
	for _, f := range Forms() {
		h := f.Hull(f.Usual())
		s, err := h.Shell()
		require.NoError(t, err)
		const skin = 0.002
		in, err := h.Inset(skin).Shell()
		require.NoError(t, err)
		area, lid := 0.0, 0.0
		for _, tri := range s.Triangles {
			a, b, c := s.Vertices[tri[0]], s.Vertices[tri[1]], s.Vertices[tri[2]]
			area += r3.Norm(r3.Cross(r3.Sub(b, a), r3.Sub(c, a))) / 2
		}
		for i := 0; i+3 < len(s.Sheer); i += 2 {
			p, q := s.Sheer[i], s.Sheer[i+2]
			lid += (p.Y + q.Y) * (q.X - p.X)
		}
		assert.InEpsilon(t, skin*(area-lid), s.Holds-in.Holds, 0.08, f.Name)
	}
}

// A rounded hull has no chines, and says so with an empty list.
func TestADrawingOfAnyFormHasItsLists(t *testing.T) {
	for _, f := range Forms() {
		text, err := json.Marshal(f.Hull(f.Usual()).Lines(13))
		require.NoError(t, err)
		assert.NotContains(t, string(text), "null", f.Name)
	}
}

// The drawing of a raked transom leans: its sheer begins aft of its foot.
func TestTheDrawingShowsTheRake(t *testing.T) {
	m := dunlin()
	m["rake_deg"] = 15
	l := form(t, "vee").Hull(m).Lines(13)
	assert.InDelta(t, 0, l.Keel[0][0], 1e-12)
	assert.InDelta(t, -0.72*math.Tan(15*math.Pi/180), l.ProfileSheer[0][0], 1e-9)
	assert.InDelta(t, l.ProfileSheer[0][0], l.PlanSheer[0][0], 1e-12)
}
