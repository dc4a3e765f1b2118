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

// By hand: 10 kg whose middle is 0.3 m over a deck, on the coast: 4 times its weight up
// and down, 2 sideways; up and down one weight is its own.
func TestLoadsByHand(t *testing.T) {
	w := 10 * fitting.G
	for stands, want := range map[string]fitting.Load{
		"up":   {Name: "slamming", Shear: 2 * w, Pull: 3 * w, Moment: 2 * w * 0.3},
		"down": {Name: "slamming", Shear: 2 * w, Pull: 3 * w, Moment: 2 * w * 0.3},
		"out":  {Name: "slamming", Shear: 4 * w, Pull: 2 * w, Moment: 4 * w * 0.3},
	} {
		got := fitting.Loads(fitting.Body{Kg: 10, High: 0.3, Top: 0.6, Stands: stands}, "coastal")
		require.Len(t, got, 2)
		sameLoad(t, want, got[1])
	}
	wall := fitting.Loads(fitting.Body{Kg: 10, High: 0.3, Stands: "out"}, "sheltered")[0]
	sameLoad(t, fitting.Load{Name: "its weight", Shear: w, Moment: w * 0.3}, wall)
	hung := fitting.Loads(fitting.Body{Kg: 10, High: 0.3, Stands: "down"}, "sheltered")[0]
	sameLoad(t, fitting.Load{Name: "its weight", Pull: w}, hung)
	gripped := fitting.Loads(fitting.Body{Kg: 1, High: 0.3, Top: 0.9, Gripped: true}, "sheltered")
	sameLoad(t, fitting.Load{Name: "a hand's grip", Shear: 1000, Moment: 900}, gripped[2])
}

func sameLoad(t *testing.T, want, got fitting.Load) {
	t.Helper()
	assert.Equal(t, want.Name, got.Name)
	assert.InDeltaSlice(
		t,
		[]float64{want.Shear, want.Pull, want.Moment},
		[]float64{got.Shear, got.Pull, got.Moment},
		1e-6,
	)
}

func TestAPolesDragIsAmongItsLoads(t *testing.T) {
	pole := fitting.Pole{Wet: 0.5, Diameter: 0.03, ClampToWater: 0.5, Speed: 2, Density: 1000}
	list := fitting.Loads(fitting.Body{Kg: 2, Pole: &pole}, "sheltered")
	drag := list[len(list)-1]
	assert.InDelta(t, pole.Pull().Drag, drag.Shear, 1e-9)
	braced := fitting.Loads(fitting.Body{Kg: 2, Pole: &pole, Brace: 0.4}, "sheltered")
	assert.InDelta(t, pole.Braced(0.4).Pull().Moment, braced[len(braced)-1].Moment, 1e-9)
	assert.Less(t, braced[len(braced)-1].Moment, drag.Moment)
}

// By hand: four M6 on a foot of 100 by 80 mm stand 70 and 56 mm apart. 56 N·m about its
// shorter side pull each of two with 56/(2 x 0.056) = 500 N. Broad washers of 18 mm in 6
// mm laminate at 20 MPa go through at π 18 6 20 = 6786 N: 13.6 times.
func TestTheMarginOfAThroughBoltByHand(t *testing.T) {
	m6, err := fitting.ScrewNamed("M6")
	require.NoError(t, err)
	f := fitting.Fastened{
		Method: "through-bolt",
		Count:  4,
		Size:   m6,
		Foot:   [2]float64{100, 80},
		Panel:  fitting.Panel{Material: "laminate", Thickness: 6},
	}
	w := f.Margin([]fitting.Load{{Name: "pull", Moment: 56}})
	assert.Equal(t, "the panel under the washers", w.What)
	assert.InDelta(t, math.Pi*18*6*20/500, w.Factor, 1e-6)
	// sideways: 4 x 60 MPa x 6 mm x 6 mm = 8640 N of shear on all
	w = f.Margin([]fitting.Load{{Name: "shear", Shear: 4 * 2160}})
	assert.InDelta(t, 1, w.Factor, 1e-6)
	assert.Equal(t, "the hole torn sideways", w.What)
}

// Whatever is made stronger holds no less; whatever is asked more of has no more margin.
func TestMarginsGoTheRightWay(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		sizes := fitting.Screws
		i := rapid.IntRange(0, len(sizes)-2).Draw(t, "size")
		materials := words.Panels.Keys()
		f := fitting.Fastened{
			Method: rapid.SampledFrom([]string{"through-bolt", "plate", "rivet-nut", "well-nut", "tapped", "self-tapper"}).
				Draw(t, "method"),
			Count: rapid.IntRange(1, 8).
				Draw(t, "count"),
			Size: sizes[i],
			Foot: [2]float64{rapid.Float64Range(30, 400).Draw(t, "a"), rapid.Float64Range(30, 400).Draw(t, "b")},
			Panel: fitting.Panel{
				Material:  rapid.SampledFrom(materials).Draw(t, "panel"),
				Thickness: rapid.Float64Range(1, 30).Draw(t, "t"),
			},
		}
		load := fitting.Load{
			Name:   "load",
			Shear:  rapid.Float64Range(0, 2000).Draw(t, "shear"),
			Pull:   rapid.Float64Range(1, 2000).Draw(t, "pull"),
			Moment: rapid.Float64Range(0, 500).Draw(t, "moment"),
		}
		now := f.Margin([]fitting.Load{load}).Factor
		thicker, heavier := f, load
		thicker.Panel.Thickness *= 1.5
		assert.GreaterOrEqual(t, thicker.Margin([]fitting.Load{load}).Factor, now*(1-1e-9), "a thicker panel")
		larger := f
		larger.Foot = [2]float64{f.Foot[0] * 1.3, f.Foot[1] * 1.3}
		assert.GreaterOrEqual(t, larger.Margin([]fitting.Load{load}).Factor, now*(1-1e-9), "a broader foot")
		heavier.Pull, heavier.Shear, heavier.Moment = load.Pull*2, load.Shear*2, load.Moment*2
		assert.InEpsilon(t, now/2, f.Margin([]fitting.Load{heavier}).Factor, 1e-6, "twice the load")
		assert.LessOrEqual(t, f.Margin([]fitting.Load{load, heavier}).Factor, now*(1+1e-9), "the worst of several counts")
	})
}

func TestEachMethodIsLeftOutForItsOwnReason(t *testing.T) {
	out := func(method string, change func(*fitting.Job)) string {
		j := job()
		change(&j)
		for _, w := range fitting.Ways(j) {
			if w.Method == method {
				return w.Out
			}
		}
		return "not among them"
	}
	panel := func(material string, thick float64) func(*fitting.Job) {
		return func(j *fitting.Job) { j.Panel = fitting.Panel{Material: material, Thickness: thick} }
	}
	for _, c := range []struct {
		method string
		change func(*fitting.Job)
		says   string
	}{
		{"through-bolt", func(j *fitting.Job) { j.Back = "none" }, "Nobody gets at the back"},
		{"through-bolt", panel("foam", 20), "Foam is crushed"},
		{"rivet-nut", panel("laminate", 6), "sheet metal"},
		{"rivet-nut", panel("aluminium", 0.8), "too thin"},
		{"well-nut", func(j *fitting.Job) { j.Where = "below" }, "no seal that is trusted"},
		{"tapped", panel("laminate", 10), "does not hold"},
		{"tapped", panel("aluminium", 4), "wants 6 mm of metal"},
		{"coach-screw", panel("laminate", 10), "timber only"},
		{"self-tapper", func(j *fitting.Job) { j.Where = "below" }, "weeps"},
		{"self-tapper", panel("steel", 4), "rust in steel"},
		{"suction", func(j *fitting.Job) { j.Comes = "season" }, "lets go by itself"},
		{"suction", func(j *fitting.Job) {
			j.Comes, j.Loads = "trip", []fitting.Load{{Name: "grip", Shear: 1000}}
		}, "more than a suction cup"},
		{"adhesive", func(j *fitting.Job) { j.Comes = "season" }, "does not come off again whole"},
		{"adhesive", panel("plastic", 6), "sticks"},
	} {
		assert.Contains(t, out(c.method, c.change), c.says, c.method)
	}
}

func TestWhatIsBoughtHasSparesAndFits(t *testing.T) {
	for _, w := range fitting.Ways(job()) {
		switch w.Method {
		case "through-bolt":
			require.Len(t, w.Buy, 3)
			assert.Equal(t, "4 screws M6 x 25, A4, and 1 spare", w.Buy[0], "5 + 8 + 1.6 + 6 + 2 mm are 22.6")
			assert.Contains(t, w.Buy[1], "washers of 18 mm")
			assert.InDelta(t, 6.6, w.Hole, 0)
			assert.InDelta(t, 4.7, w.Torque, 0)
		case "plate":
			assert.Contains(t, w.Buy[2], "a plate of 100 x 80 x 6 mm")
			assert.InDelta(t, 30, *w.Screws.Length, 0, "a plate of 6 mm more")
		case "clamp", "suction":
			assert.Empty(t, w.Buy)
			assert.Empty(t, w.Sealant)
		}
	}
}

func TestSealantGoesByWhetherItComesOff(t *testing.T) {
	sealant := func(change func(*fitting.Job)) string {
		j := job()
		change(&j)
		for _, w := range fitting.Ways(j) {
			if w.Method == "through-bolt" {
				return w.Sealant
			}
		}
		return ""
	}
	assert.Contains(t, sealant(func(j *fitting.Job) {}), "hybrid or polyurethane")
	assert.Contains(t, sealant(func(j *fitting.Job) { j.Comes = "season" }), "comes off again")
	assert.Contains(t, sealant(func(j *fitting.Job) { j.Where = "below" }), "polyurethane sealant, below the water")
	assert.Contains(t, sealant(func(j *fitting.Job) { j.Where, j.Comes = "below", "season" }), "polysulphide")
	assert.Contains(t, sealant(func(j *fitting.Job) { j.Panel.Material = "plastic" }), "butyl")
}

func TestAScrewThatFoulsWhatIsBehindCostsItsWay(t *testing.T) {
	way := func(behind *float64) fitting.Way {
		j := job()
		j.Stack.Behind = behind
		for _, w := range fitting.Ways(j) {
			if w.Method == "through-bolt" {
				return w
			}
		}
		return fitting.Way{}
	}
	near, far := 4.0, 40.0
	assert.InDelta(t, 25-13-4, way(&near).Screws.Fouls, 1e-9)
	assert.Less(t, way(&near).Score, way(&far).Score)
	assert.Zero(t, way(nil).Screws.Fouls)
}

func TestJobsThatMakeNoSenseAreRefused(t *testing.T) {
	for name, change := range map[string]func(*fitting.Job){
		"material": func(j *fitting.Job) { j.Panel.Material = "cheese" }, "thickness": func(j *fitting.Job) { j.Panel.Thickness = -1 },
		"skin": func(j *fitting.Job) { j.Panel.Skin = 99 }, "back": func(j *fitting.Job) { j.Back = "maybe" },
		"comes": func(j *fitting.Job) { j.Comes = "often" }, "where": func(j *fitting.Job) { j.Where = "up" },
		"foot": func(j *fitting.Job) { j.Foot[1] = 0 }, "count": func(j *fitting.Job) { j.Count = 0 }, "room": func(j *fitting.Job) { j.Room = math.NaN() },
	} {
		j := job()
		change(&j)
		assert.Error(t, j.Check(), name)
	}
	assert.Error(t, fitting.Loose{Kg: -1}.Check())
	assert.Error(t, fitting.Pole{Wet: 1, Diameter: 0, Density: 1000}.Check())
}
