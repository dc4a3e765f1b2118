package rods

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func cod(n int) (list []Rod) {
	for i := range n {
		list = append(list, Rod{ID: fmt.Sprint(i), Length: 2.1, Breadth: 0.08, Height: 0.07, Guide: 0.03, Uses: float64(i)})
	}
	return list
}

// Worked by hand: side by side 0.22 m take two butts of 0.08 m; tip by butt each
// pair takes 0.11 m at either end, so four go in a layer, and two layers of
// 0.07 m in 0.15 m.
func TestABedTakesMoreTipByButt(t *testing.T) {
	bed := Room{Length: 2.2, Breadth: 0.22, Height: 0.15}
	laid, ok := bed.Lay(cod(8))
	require.True(t, ok)
	for _, l := range laid {
		assert.True(t, l.Doubled)
	}
	_, ok = bed.Lay(cod(9))
	assert.False(t, ok)
	straight := cod(8)
	for i := range straight {
		straight[i].Guide = 0 // poles that do not taper
	}
	_, ok = bed.Lay(straight[:4])
	assert.True(t, ok)
	_, ok = bed.Lay(straight[:5])
	assert.False(t, ok)
}

func TestTheMostUsedRodsLieOnTop(t *testing.T) {
	laid, ok := Room{Length: 2.2, Breadth: 0.22, Height: 0.15}.Lay(cod(8))
	require.True(t, ok)
	uses := map[string]float64{}
	for _, r := range cod(8) {
		uses[r.ID] = r.Uses
	}
	for _, l := range laid {
		assert.Equal(t, uses[l.ID] >= 4, l.Layer == 1, l.ID)
	}
}

func TestTubesTakeTwoWhereBothTipsPass(t *testing.T) {
	tubes := Room{Length: 2.2, Breadth: 0.3, Height: 0.14, Slots: 4, Diameter: 0.065}
	laid, ok := tubes.Lay(cod(8))
	require.True(t, ok)
	perTube := map[int]int{}
	for _, l := range laid {
		perTube[l.Slot]++
	}
	assert.Equal(t, map[int]int{0: 2, 1: 2, 2: 2, 3: 2}, perTube)
	_, ok = tubes.Lay(cod(9))
	assert.False(t, ok)
	four, ok := tubes.Lay(cod(4))
	require.True(t, ok)
	for _, l := range four {
		assert.False(t, l.Doubled, "no two share a tube while one is free")
	}
	tubes.Diameter = 0.05 // 0.03 and 0.03 do not pass
	_, ok = tubes.Lay(cod(5))
	assert.False(t, ok)
}

func TestWhatKeepsARodOut(t *testing.T) {
	rod := cod(1)[0]
	for why, r := range map[string]Room{
		"length":  {Length: 2.0, Breadth: 1, Height: 1},
		"breadth": {Length: 2.2, Breadth: 0.07, Height: 1},
		"height":  {Length: 2.2, Breadth: 1, Height: 0.06},
		"guide":   {Length: 2.2, Breadth: 1, Height: 1, Slots: 3, Diameter: 0.025},
		"":        {Length: 0.1, Breadth: 0.4, Height: 0.1, Slots: 3},
	} {
		assert.Equal(t, why, r.Refuses(rod))
	}
}

// A gaff of 8 x 6 cm does not taper: a tube must take its thicker side, either way round.
func TestWhatDoesNotTaperNeedsAWiderTube(t *testing.T) {
	tubes := Room{Length: 2.2, Breadth: 0.2, Height: 0.2, Slots: 4, Diameter: 0.05}
	for _, gaff := range []Rod{{Length: 0.95, Breadth: 0.08, Height: 0.06}, {Length: 0.95, Breadth: 0.04, Height: 0.06}} {
		assert.Equal(t, "bore", tubes.Refuses(gaff))
	}
	assert.Empty(t, tubes.Refuses(Rod{Length: 0.95, Breadth: 0.05, Height: 0.05}))
	thin := []Rod{{ID: "a", Length: 1, Breadth: 0.02, Height: 0.03}, {ID: "b", Length: 1, Breadth: 0.02, Height: 0.03}}
	tubes.Slots = 1
	_, ok := tubes.Lay(thin)
	assert.False(t, ok, "two of 3 cm do not pass in one of 5")
}

func TestHoldersStandOneRodEach(t *testing.T) {
	holders := Room{Length: 0.1, Breadth: 0.5, Height: 0.3, Slots: 5}
	laid, ok := holders.Lay(cod(5))
	require.True(t, ok)
	assert.Equal(t, "4", laid[0].ID, "the most used in the first")
	assert.InDelta(t, 2.1, laid[0].Height, 1e-12)
	_, ok = holders.Lay(cod(6))
	assert.False(t, ok)
}

// Whatever is laid in a bed stays in it and clears its neighbours at both ends.
func TestRodsInABedNeverCross(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		bed := Room{Length: 2.4, Breadth: rapid.Float64Range(0.1, 0.5).Draw(t, "breadth"), Height: rapid.Float64Range(0.08,
			0.4).Draw(t, "height")}
		var list []Rod
		for i := range rapid.IntRange(1, 14).Draw(t, "rods") {
			r := Rod{ID: fmt.Sprint(i), Length: rapid.Float64Range(0.8, 2.4).Draw(t, "length"),
				Breadth: rapid.Float64Range(0.03, 0.1).Draw(t, "butt"),
				Height:  rapid.Float64Range(0.03, 0.08).Draw(t, "high"), Uses: rapid.Float64Range(0, 9).Draw(t, "uses")}
			r.Guide = rapid.Float64Range(0, 1).Draw(t, "taper") * r.Breadth
			list = append(list, r)
		}
		laid, ok := bed.Lay(list)
		if !ok {
			return
		}
		require.Len(t, laid, len(list))
		for i, a := range laid {
			require.LessOrEqual(t, max(a.Aft[1], a.Fore[1]), bed.Breadth+1e-9)
			require.LessOrEqual(t, a.Z+a.Height, bed.Height+1e-6)
			require.GreaterOrEqual(t, a.X, -1e-9)
			require.LessOrEqual(t, a.X+a.Length, bed.Length+1e-9)
			for _, b := range laid[:i] {
				if a.Layer == b.Layer {
					clear := a.Aft[0] >= b.Aft[1]-1e-9 && a.Fore[0] >= b.Fore[1]-1e-9 || b.Aft[0] >= a.Aft[1]-1e-9 &&
						b.Fore[0] >= a.Fore[1]-1e-9
					require.True(t, clear, "%v %v", a, b)
				}
			}
		}
	})
}
