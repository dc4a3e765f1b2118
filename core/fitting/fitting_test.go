package fitting_test

import (
	"math"
	"testing"

	"ergasia/core/fitting"
	"ergasia/core/words"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// Closed form: D = ½ ρ C d l v² of the pole at the middle of what is wet, and of the
// foot at its end (Hoerner's coefficients, memory).
func TestAPolesDragByTheClosedForm(t *testing.T) {
	p := fitting.Pole{Wet: 0.6, Diameter: 0.032, ClampToWater: 0.5, FootArea: 0.01, Speed: 2, Density: 1000, Holds: 50}
	out := p.Pull()
	pole, foot := 0.5*1000*1.2*0.032*0.6*4, 0.5*1000*1.1*0.01*4
	assert.InDelta(t, pole+foot, out.Drag, 1e-6)
	assert.InDelta(t, pole*0.8+foot*1.1, out.Moment, 1e-6)
	assert.InDelta(t, 2*math.Sqrt(50/out.Moment), out.FoldsAt, 1e-6)
	p.Speed = out.FoldsAt
	assert.InDelta(t, 50, p.Pull().Moment, 1e-6, "at the speed it folds at, the moment is what the clamp holds")
	p.Holds = 0
	assert.True(t, math.IsInf(p.Pull().FoldsAt, 1))
}

// A sum over thin slices of the pole is a second opinion on its moment.
func TestAPolesMomentIsTheSumOfItsSlices(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f := func(name string, low, high float64) float64 { return rapid.Float64Range(low, high).Draw(t, name) }
		p := fitting.Pole{
			Wet:          f("wet", 0.1, 3),
			Diameter:     f("d", 0.01, 0.1),
			ClampToWater: f("clamp", 0, 2),
			Speed:        f("v", 0.1, 10),
			Density:      1025,
		}
		sum := 0.0
		const n = 2000
		for i := range n {
			dz := p.Wet / n
			sum += 0.5 * p.Density * fitting.PoleDrag * p.Diameter * dz * p.Speed * p.Speed * (p.ClampToWater + (float64(i)+0.5)*dz)
		}
		assert.InEpsilon(t, sum, p.Pull().Moment, 1e-9)
		braced := p.Braced(p.ClampToWater / 2)
		assert.LessOrEqual(t, braced.Pull().Moment, p.Pull().Moment)
	})
}

// Four bolts at the corners of 100 by 60 mm under 90 N·m: each pair bears M/(2 arm).
func TestBoltsShareAMoment(t *testing.T) {
	m6, err := fitting.ScrewNamed("m6")
	require.NoError(t, err)
	b := fitting.Bolts{Pattern: fitting.Rectangle(4, 100, 60), Size: m6, Moment: 90, Shear: 400}
	require.NoError(t, b.Check())
	h := b.Hold()
	want := 90.0 / 0.06 / 2
	assert.InDelta(t, want, h.Tension[1], 1e-6)
	assert.InDelta(t, -want, h.Tension[0], 1e-6)
	assert.InDelta(t, 100, h.Shear, 1e-6)
	assert.InDelta(t, want/20.1, h.Stress, 1e-6)
	assert.InDelta(t, 450/(want/20.1), h.Factor, 1e-6)
}

// What bolts bear is in balance with what is asked: Σ T y = M, Σ T = pull.
func TestBoltsAreInBalance(t *testing.T) {
	m8, _ := fitting.ScrewNamed("M8")
	rapid.Check(t, func(t *rapid.T) {
		xy := rapid.Custom(func(t *rapid.T) [2]float64 {
			return [2]float64{rapid.Float64Range(-200, 200).Draw(t, "x"), rapid.Float64Range(-200, 200).Draw(t, "y")}
		})
		b := fitting.Bolts{Pattern: rapid.SliceOfN(xy, 2, 12).Draw(t, "pattern"), Size: m8,
			Moment: rapid.Float64Range(-500, 500).Draw(t, "moment"), Pull: rapid.Float64Range(0, 2000).Draw(t, "pull")}
		b.Pattern = append(b.Pattern, [2]float64{0, 300})
		require.NoError(t, b.Check())
		pull, moment := 0.0, 0.0
		for i, n := range b.Hold().Tension {
			pull, moment = pull+n, moment+n*b.Pattern[i][1]/1000
		}
		middle := 0.0
		for _, p := range b.Pattern {
			middle += p[1] / float64(len(b.Pattern)) / 1000
		}
		assert.InDelta(t, b.Pull, pull, 1e-6)
		assert.InDelta(t, b.Moment+b.Pull*middle, moment, 1e-6)
	})
}

func TestBoltsInALineHoldNoMomentAboutIt(t *testing.T) {
	m6, _ := fitting.ScrewNamed("M6")
	err := fitting.Bolts{Pattern: [][2]float64{{-50, 0}, {50, 0}}, Size: m6, Moment: 5}.Check()
	require.ErrorContains(t, err, "on one line along x")
}

// Stress areas by ISO 898's formula: π/4 ((d2 + d3)/2)², d2 = d - 0.6495 p, d3 = d -
// 1.2269 p (memory).
func TestStressAreasAreThoseOfTheFormula(t *testing.T) {
	for _, s := range fitting.Screws {
		d := s.Diameter - 0.9382*s.Pitch
		assert.InEpsilon(t, math.Pi/4*d*d, s.Area, 0.025, s.Name)
		assert.Greater(t, s.Clearance, s.Diameter, s.Name)
		assert.InDelta(t, s.Diameter-s.Pitch, s.Tapping, 0.2, s.Name)
	}
}

func TestAStackTakesTheNextScrewUp(t *testing.T) {
	behind := 20.0
	s := fitting.Stack{
		Layers:  []float64{6, 1.5, 12},
		Washer:  1.6,
		Nut:     6,
		Pitch:   1,
		Behind:  &behind,
		Lengths: []float64{20, 25, 30, 35, 40},
	}
	up := s.Up()
	assert.InDelta(t, 6+1.5+12+1.6+6+2, up.Needed, 1e-6)
	assert.InDelta(t, 30, *up.Length, 1e-9)
	assert.Zero(t, up.Fouls)
	*s.Behind = 8
	assert.InDelta(t, 30-19.5-8, s.Up().Fouls, 1e-6)
	s.Lengths = []float64{10, 20}
	assert.Nil(t, s.Up().Length)
	require.Error(t, fitting.Stack{Layers: []float64{-5}, Pitch: 1, Lengths: []float64{-20}}.Check())
}

func job() fitting.Job {
	m6, _ := fitting.ScrewNamed("M6")
	return fitting.Job{
		Panel: fitting.Panel{Material: "laminate", Thickness: 8},
		Back:  "open",
		Comes: "never",
		Where: "spray",
		Foot:  [2]float64{100, 80},
		Count: 4,
		Size:  m6,
		Metal: "stainless",
		Loads: fitting.Loads(
			fitting.Body{Kg: 3, High: 0.2, Top: 0.4},
			"coastal",
		),
		Stack: fitting.Stack{Layers: []float64{5, 8}},
	}
}

func TestTheBestWayFitsThePanel(t *testing.T) {
	best := func(j fitting.Job) fitting.Way { return fitting.Ways(j)[0] }
	j := job()
	assert.Equal(t, "through-bolt", best(j).Method)
	assert.GreaterOrEqual(t, best(j).Weakest.Factor, fitting.Enough)
	j.Back = "none"
	j.Panel = fitting.Panel{Material: "aluminium", Thickness: 3}
	assert.Equal(t, "rivet-nut", best(j).Method)
	j.Panel.Thickness = 8
	assert.Contains(t, []string{"tapped", "rivet-nut"}, best(j).Method)
	j = job()
	j.Comes = "trip"
	assert.Contains(t, []string{"track", "clamp"}, best(j).Method)
	j = job()
	j.Back, j.Panel = "none", fitting.Panel{Material: "laminate", Thickness: 6}
	assert.NotEqual(t, "through-bolt", best(j).Method)
}

func TestAHandOnAThinPanelWantsAPlate(t *testing.T) {
	j := job()
	j.Panel = fitting.Panel{Material: "plastic", Thickness: 5}
	j.Loads = fitting.Loads(fitting.Body{Kg: 8, High: 0.4, Top: 0.9, Gripped: true}, "coastal")
	ways := fitting.Ways(j)
	of := func(method string) fitting.Way {
		for _, w := range ways {
			if w.Method == method {
				return w
			}
		}
		return fitting.Way{}
	}
	assert.Less(t, of("through-bolt").Weakest.Factor, 1.0)
	assert.Greater(t, of("plate").Weakest.Factor, of("through-bolt").Weakest.Factor)
	assert.Greater(t, of("plate").Score, of("through-bolt").Score)
}

func TestEachWayThatGoesHasReasonsAndEachThatDoesNotSaysWhy(t *testing.T) {
	for _, panel := range words.Panels {
		for _, back := range words.Backs {
			for _, comes := range words.ComesOff {
				for _, wet := range words.Wets {
					j := job()
					j.Panel, j.Back, j.Comes, j.Where = fitting.Panel{
						Material:  panel.Key,
						Thickness: 10,
					}, back.Key, comes.Key, wet.Key
					require.NoError(t, j.Check())
					ways := fitting.Ways(j)
					assert.Len(t, ways, len(words.Methods)-1)
					assert.Empty(t, ways[0].Out)
					for i, w := range ways {
						assert.True(t, w.Out != "" || len(w.For) > 0, w.Method)
						if i > 0 && w.Out == "" {
							assert.LessOrEqual(t, w.Score, ways[i-1].Score)
						}
					}
				}
			}
		}
	}
}

func TestCautionsStandWhereTheyMatter(t *testing.T) {
	j := job()
	j.Where, j.Near = "below", []string{"tank", "foam"}
	all := fitting.Cautions(j)
	assert.Contains(t, all[0], "Below the water")
	assert.Contains(t, all[1], "over fuel")
	j.Panel.Material = "aluminium"
	assert.Contains(t, fitting.Cautions(j)[3], "eaten")
}

// A box of 40 kg that nothing holds: at 4 times its weight up and down, 2 sideways, it
// must be held with (4-2) m g down and 2 m g along.
func TestStrapsAreCountedAgainstSlamming(t *testing.T) {
	l := fitting.Loose{Kg: 40, StrapN: 1000, Straps: 0, Slanted: 45}
	afloat := l.Keep("coastal")[0]
	assert.True(t, afloat.Slides)
	w := 40 * fitting.G
	assert.InDelta(t, 2*w, afloat.Off, 1e-9)
	assert.InDelta(t, 2*w, afloat.Along, 1e-9)
	root := math.Sqrt2 / 2
	need := max(2*w/(1000*root), 2*w/(1000*(root+0.3*root)/2))
	assert.Equal(t, int(math.Ceil(need)), afloat.Missing)
	l.Straps = afloat.Missing
	assert.False(t, l.Keep("coastal")[0].Slides)
	road := l.Keep("coastal")[1]
	assert.InDelta(t, 0.5*w, road.Along, 1e-9)
	l.StrapN = 0
	assert.True(t, l.Keep("coastal")[0].Slides)
	l.Boxed = true
	assert.False(t, l.Keep("coastal")[2].Slides, "walls keep it on the road")
}

// Two people of 80 kg on 5 mm aluminium: 2/3 · 60 MPa · 25 mm² = 1000 N, some 100 kg.
func TestADeckBearsWhatItsStripDoes(t *testing.T) {
	assert.InDelta(t, 1000/fitting.G, fitting.DeckBears(fitting.Panel{Material: "aluminium", Thickness: 5}), 1e-9)
	cored := fitting.DeckBears(fitting.Panel{Material: "cored", Thickness: 20, Skin: 2})
	assert.Greater(t, cored, fitting.DeckBears(fitting.Panel{Material: "laminate", Thickness: 4}))
}

func TestAFastenerIsReadFromALine(t *testing.T) {
	size, length, rest := fitting.ReadFastener("cleat M6x40 bow")
	assert.Equal(t, "M6", size)
	assert.InDelta(t, 40, length, 0)
	assert.Equal(t, "cleat bow", rest)
	size, _, rest = fitting.ReadFastener("mast M7")
	assert.Empty(t, size)
	assert.Equal(t, "mast M7", rest)
}
