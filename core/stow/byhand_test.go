package stow

import (
	"fmt"
	"testing"

	"ergasia/core/units"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"
)

func cm(x, y, z float64) r3.Vec { return r3.Vec{X: x / 100, Y: y / 100, Z: z / 100} }

// A locker of 60 x 40 x 30 cm with a box, a tray that lies on it, and a flask.
func handLocker() (Place, []Piece, []Laid) {
	p := Place{ID: "p", Name: "the locker", Size: cm(60, 40, 30)}
	pieces := []Piece{{ID: "box", Name: "the box", Size: cm(30, 20, 10), Kg: 3, Count: 1, Turn: TurnUpright},
		{ID: "tray", Name: "the tray", Size: cm(28, 18, 5), Kg: 1, Count: 1, Turn: TurnUpright},
		{ID: "flask", Name: "the flask", Size: cm(10, 10, 25), Kg: 1, Count: 1, Turn: TurnNone, Top: true}}
	laid := []Laid{{ID: "box", Size: cm(30, 20, 10)}, {ID: "tray", At: cm(0, 0, 10), Size: cm(28, 18, 5)},
		{ID: "flask", At: cm(50, 30, 0), Size: cm(10, 10, 25)}}
	return p, pieces, laid
}

func TestWhatIsLaidByHandIsChecked(t *testing.T) {
	p, pieces, laid := handLocker()
	require.Empty(t, CheckLaid(p, pieces, laid, units.Metric))
	for want, change := range map[string]func([]Laid){
		"the box would stick out of the locker by 5 cm.": func(l []Laid) {
			l[0].At = cm(35, 0,
				0)
			l[1].At = cm(0, 0, 0)
		},
		"the flask and the box would be in each other's way.":        func(l []Laid) { l[2].At = cm(25, 10, 0) },
		"the tray would lie on 0 % of its floor; 60 % is the least.": func(l []Laid) { l[0].At = cm(0, 20, 0) },
		"the box may not be turned that way.": func(l []Laid) {
			l[0].Size = cm(10, 20,
				30)
			l[1].At = cm(20, 0, 0)
		},
		"Nothing may lie on the flask.": func(l []Laid) { l[1].At = cm(32, 22, 25) },
	} {
		_, _, l := handLocker()
		change(l)
		var said []string
		for _, r := range CheckLaid(p, pieces, l, units.Metric) {
			said = append(said, r.Sentence)
		}
		assert.Contains(t, said, want)
	}
}

func TestAHandLaysAPieceDownOnWhatIsThere(t *testing.T) {
	p, pieces, laid := handLocker()
	onBox := Put(p, pieces, laid, 1, 0.012, 0.01, 0) // caught by the walls
	assert.Equal(t, cm(0, 0, 10), onBox[2].At)
	floor := Put(p, pieces, laid, 1, 0.31, 0.001, 1) // caught by the box, turned a quarter
	assert.Equal(t, Laid{ID: "tray", At: cm(30, 0, 0), Size: cm(18, 28, 5)}, floor[2])
	assert.Empty(t, CheckLaid(p, pieces, floor, units.Metric))
	out := Put(p, pieces, laid, 0, 9, 9, 0) // held within
	assert.InDelta(t, 0.6, out[2].At.X+out[2].Size.X, 1e-9)
}

func TestTheRestIsLaidAroundWhatAHandLaid(t *testing.T) {
	p, pieces, _ := handLocker()
	p.Fixed = []Laid{{ID: "box", At: cm(15, 10, 0), Size: cm(30, 20, 10)}} // in the middle, as no order lays it
	laid, ok := Lay(p, pieces)
	require.True(t, ok)
	assert.Contains(t, laid, p.Fixed[0])
	assert.Empty(t, CheckLaid(p, pieces, laid, units.Metric))
	p.Fixed = append(p.Fixed, Laid{ID: "tray", At: cm(0, 0, 20),
		Size: cm(28, 18, 5)}) // in the air since something was taken away
	laid, ok = Lay(p, pieces)
	require.True(t, ok)
	assert.Contains(t, laid, p.Fixed[0])
	assert.NotContains(t, laid, p.Fixed[1])
	big := append(pieces, Piece{ID: "bag", Name: "the bag", Size: cm(60, 24, 20), Kg: 1, Count: 1, Turn: TurnNone})
	laid, ok = Lay(p, big)
	require.True(t, ok, "where the hand left no room all is laid anew")
	assert.NotContains(t, laid, p.Fixed[0])
}

// Wherever a hand lays things, what Lay answers can lie so.
func TestLayingAroundAHandIsSound(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := Place{Name: "p", Size: cm(60, 40, 30)}
		var pieces []Piece
		side := rapid.IntRange(5, 25)
		for i := range rapid.IntRange(1, 7).Draw(t, "pieces") {
			one := Piece{ID: fmt.Sprint(i), Name: fmt.Sprint(i), Kg: 1, Count: 1, Turn: TurnAny,
				Size: cm(float64(side.Draw(t, "x")), float64(side.Draw(t, "y")), float64(side.Draw(t, "z")))}
			pieces = append(pieces, one)
			if rapid.Bool().Draw(t, "by hand") {
				p.Fixed = append(p.Fixed, Laid{ID: one.ID, Size: one.Size,
					At: cm(float64(rapid.IntRange(-5, 60).Draw(t, "at x")), float64(rapid.IntRange(-5, 40).Draw(t, "at y")),
						float64(rapid.IntRange(0, 2).Draw(t, "at z")*10))})
			}
		}
		laid, ok := Lay(p, pieces)
		if !ok {
			return
		}
		require.Len(t, laid, len(pieces))
		require.Empty(t, CheckLaid(p, pieces, laid, units.Metric))
	})
}

func TestRodsGoIntoBedsTubesAndHolders(t *testing.T) {
	bed := Place{ID: "bed", Name: "the bed", Size: cm(220, 22, 15), Rods: Rods{Form: "bed"}}
	tubes := Place{ID: "tubes", Name: "the tubes", Size: cm(220, 30, 14), Rods: Rods{Form: "tubes", Slots: 4,
		Diameter: 0.065}}
	holders := Place{ID: "holders", Name: "the holders", Size: cm(10, 50, 20), Rods: Rods{Form: "upright", Slots: 2}}
	rod := Piece{ID: "rod", Name: "the rod", Size: cm(210, 8, 7), Kg: 0.5, Count: 8, Guide: 0.03, Turn: TurnNone}
	assert.Empty(t, Refuse(bed, nil, rod, units.Metric))
	assert.Equal(t, "the bed is full for the net: it holds 8 as they are, also tip by butt.",
		Refuse(bed, []Piece{rod}, Piece{Name: "the net", Size: cm(110, 12, 8), Count: 1}, units.Metric)[0].Sentence)
	long := rod
	long.Size.X, long.Guide, long.Count, long.Name = 2.72, 0.07, 1, "the fly rod"
	assert.Equal(t, "the fly rod is 272 cm long; the bed is 220 cm inside.",
		Refuse(bed, nil, long, units.Metric)[0].Sentence)
	long.Size.X = 2.1
	assert.Equal(t, "The largest guide of the fly rod is 70 mm high; the tubes of the tubes are 65 mm inside.",
		Refuse(tubes, nil, long, units.Metric)[0].Sentence)
	assert.Equal(t, "the pole is no rod: the holders holds rods by their butts.",
		Refuse(holders, nil, Piece{Name: "the pole", Size: cm(200, 5, 5), Count: 1}, units.Metric)[0].Sentence)
	assert.Contains(t, Refuse(bed, nil, Piece{Name: "the reel", Size: cm(14, 12, 10), Count: 1},
		units.Metric)[0].Sentence, "for rods and other long things")
	laid, ok := Lay(tubes, []Piece{rod})
	require.True(t, ok)
	require.Len(t, laid, 8)
	assert.True(t, laid[0].Ends.Doubled)
}

// The solver lays rods tip by butt too: their boxes alone would not go in.
func TestAPlanLaysRodsTipByButt(t *testing.T) {
	p := Problem{Limits: NoLimits(), Places: []Spot{{Place: Place{ID: "bed", Name: "bed", Size: cm(220, 22, 15),
		Rods: Rods{Form: "bed"}}}, {Place: Place{ID: "deck", Name: "deck"}}}}
	for i := range 9 {
		p.Items = append(p.Items, Item{Piece: Piece{ID: fmt.Sprint(i), Name: "rod", Size: cm(210, 8, 7), Kg: 0.5, Count: 1,
			Guide: 0.03, Turn: TurnNone}, Cost: []float64{1, 10}})
	}
	plan, err := Solve(t.Context(), p, Options{Steps: 5000})
	require.NoError(t, err)
	assert.Len(t, plan.Layouts[0], 8)
	assert.InDelta(t, 8+10, plan.Seconds, 1e-9)
}
