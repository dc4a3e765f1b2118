package clear_test

import (
	"math"
	"testing"

	"ergasia/core/clear"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
)

func only(t *testing.T, s clear.Scene, kind string) clear.Finding {
	t.Helper()
	var list []clear.Finding
	for _, f := range clear.Look(s, "") {
		if f.Kind == kind {
			list = append(list, f)
		}
	}
	require.Len(t, list, 1, "%s", kind)
	return list[0]
}

func none(t *testing.T, s clear.Scene, kind string) {
	t.Helper()
	for _, f := range clear.Look(s, "") {
		assert.NotEqual(t, kind, f.Kind)
	}
}

var helm = clear.Post{ID: "helm", Name: "helm", At: r3.Vec{X: 1.4, Z: 0.3}, Steers: true}

// A wall 0.3 m before the hinge and 0.5 m over it is met by a lid of 0.6 m where its
// edge is as far forward: a plate turning about its edge, cos a = 0.3/0.6.
func TestALidOpensAsFarAsAWallLetsIt(t *testing.T) {
	box := clear.Place{ID: "box", Low: r3.Vec{X: 1, Y: -0.3}, High: r3.Vec{X: 1.6, Y: 0.3, Z: 0.4}, Hinge: "fore"}
	roof := clear.Thing{
		ID:     "shelf",
		Kind:   "other",
		Stands: "up",
		At:     r3.Vec{X: 1.2, Z: 0.7},
		Size:   r3.Vec{X: 2, Y: 2, Z: 0.05},
	}
	f := only(t, clear.Scene{Things: []clear.Thing{roof}, Places: []clear.Place{box}}, clear.Lid)
	assert.InDelta(t, math.Asin(0.3/0.6)*180/math.Pi, f.By, 1.5)
	assert.False(t, f.Note)
	roof.At.Z = 1.1
	none(t, clear.Scene{Things: []clear.Thing{roof}, Places: []clear.Place{box}}, clear.Lid)
	rides := clear.Thing{
		ID:     "cup",
		Kind:   "other",
		Stands: "up",
		At:     r3.Vec{X: 1.3, Z: 0.4},
		Size:   r3.Vec{X: 0.1, Y: 0.1, Z: 0.1},
	}
	none(t, clear.Scene{Things: []clear.Thing{rides}, Places: []clear.Place{box}}, clear.Lid)
}

func TestTheWaterSeenOverTheBow(t *testing.T) {
	// eyes 1.9 m over the keel, sheer 0.8 m 3 m ahead, water at 0.2: similar triangles,
	// 1.7 m high, 1.1 m down in 3 m
	sheer := []r3.Vec{{X: 4.4, Y: 2, Z: 0.8}, {X: 4.4, Y: -2, Z: 0.8}}
	eye := helm.Eyes()
	rays := clear.Ahead(eye, clear.Water{Up: r3.Vec{Z: 1}, Level: 0.2}, sheer, nil)
	require.Len(t, rays, 41)
	assert.InDelta(t, 3*1.7/1.1, rays[20].Near, 1e-9)
}

func TestAScreenBeforeTheEyesHidesTheWaterAhead(t *testing.T) {
	s := clear.Scene{Posts: []clear.Post{helm}, Water: clear.Water{Up: r3.Vec{Z: 1}, Level: 0.2},
		Things: []clear.Thing{{ID: "screen", Kind: "display", Stands: "up", At: r3.Vec{X: 2.4, Z: 1.6}, Turn: 180,
			Size: r3.Vec{X: 0.1, Y: 0.3, Z: 0.4}, Screen: 0.3}}}
	f := only(t, s, clear.Sight)
	assert.False(t, f.Note)
	// 0.3 m broad at 0.95 m: 2 atan(0.15/0.95) = 17.9°
	assert.InDelta(t, 17, f.By, 1.01)
	s.Things[0].At.Z = 0.3 // its top now hides less than the bow does
	s.Sheer = []r3.Vec{{X: 4.4, Y: 2, Z: 1}, {X: 4.4, Y: -2, Z: 1}}
	none(t, s, clear.Sight)
}

func TestAScreenIsReadFromBeforeAndNearEnough(t *testing.T) {
	screen := clear.Thing{ID: "screen", Kind: "display", Stands: "up", At: r3.Vec{X: 2.1, Z: 1.5}, Turn: 180,
		Size: r3.Vec{X: 0.06, Y: 0.25, Z: 0.18}, Screen: 0.25}
	s := clear.Scene{Posts: []clear.Post{helm}, Things: []clear.Thing{screen}}
	none(t, s, clear.Screen)
	s.Things[0].Turn = 0 // from behind
	f := only(t, s, clear.Screen)
	assert.Greater(t, f.Off, 90.0)
	s.Things[0].Turn, s.Things[0].At.X = 180, 4.4
	assert.InDelta(t, math.Hypot(4.37-1.4, 0.31), only(t, s, clear.Screen).By, 0.02)
	s.Things[0].At.X = 2.1
	s.Things = append(
		s.Things,
		clear.Thing{
			ID:     "post",
			Kind:   "other",
			Stands: "up",
			At:     r3.Vec{X: 1.8, Z: 1},
			Size:   r3.Vec{X: 0.05, Y: 0.2, Z: 1.5},
		},
	)
	assert.Equal(t, "post", only(t, s, clear.Screen).Before)
}

func TestALampInTheEyesAndInTheScreen(t *testing.T) {
	lamp := clear.Thing{
		ID:     "lamp",
		Kind:   "light",
		Stands: "out",
		At:     r3.Vec{X: 3, Z: 1.9},
		Turn:   180,
		Size:   r3.Vec{X: 0.05, Y: 0.05, Z: 0.05},
		Beam:   40,
	}
	s := clear.Scene{Posts: []clear.Post{helm}, Things: []clear.Thing{lamp}}
	only(t, s, clear.Eyes)
	s.Things[0].Turn = 0
	none(t, s, clear.Eyes)
	// A lamp behind the helmsman, over the head, is mirrored in a screen that leans back so
	// that its axis halves the angle between lamp and eyes.
	screen := clear.Thing{ID: "screen", Kind: "display", Stands: "up", At: r3.Vec{X: 2.2, Z: 1.2}, Turn: 180,
		Size: r3.Vec{X: 0.04, Y: 0.3, Z: 0.3}, Screen: 0.3}
	face := r3.Add(screen.Middle(), r3.Vec{X: -0.02})
	eye := helm.Eyes()
	up := 35.0
	lamp.At = r3.Add(face, r3.Vec{X: -1.5 * math.Cos(up*math.Pi/180), Z: 1.5 * math.Sin(up*math.Pi/180)})
	eyeUp := math.Atan2(eye.Z-face.Z, face.X-eye.X) * 180 / math.Pi
	screen.Lean = -(up + eyeUp) / 2
	lamp.Turn, lamp.Lean = 0, up
	s = clear.Scene{Posts: []clear.Post{helm}, Things: []clear.Thing{screen, lamp}}
	assert.Equal(t, "helm", only(t, s, clear.Glare).Post)
	s.Things[0].Lean = 10
	none(t, s, clear.Glare)
}

func TestAHolderAimsItsRodWhereItLeans(t *testing.T) {
	holder := clear.Thing{
		ID:     "holder",
		Kind:   "rod-holder",
		Stands: "down",
		At:     r3.Vec{X: 1, Y: 0.8, Z: 0.8},
		Turn:   90,
		Lean:   30,
		Rod:    2,
		Size:   r3.Vec{X: 0.05, Y: 0.05, Z: 0.25},
	}
	tip := holder.Tip()
	assert.InDelta(t, 0.8+2*math.Sin(math.Pi/6), tip.Y, 1e-9)
	assert.InDelta(t, 0.8+2*math.Cos(math.Pi/6), tip.Z, 1e-9)
	roof := clear.Thing{
		ID:     "roof",
		Kind:   "roof",
		Stands: "up",
		At:     r3.Vec{X: 1, Y: 0.8, Z: 2},
		Size:   r3.Vec{X: 2, Y: 2, Z: 0.05},
	}
	s := clear.Scene{Things: []clear.Thing{holder, roof}, Water: clear.Water{Up: r3.Vec{Z: 1}}, Bridge: 2.4}
	f := only(t, s, clear.RodHits)
	assert.InDelta(t, 1.2/math.Cos(math.Pi/6), f.By, 1e-6)
	high := only(t, s, clear.TooHigh)
	assert.InDelta(t, tip.Z-2.4, high.By, 1e-9)
}

func TestAControlMustBeWithinAnArm(t *testing.T) {
	s := clear.Scene{
		Posts: []clear.Post{helm},
		Things: []clear.Thing{{ID: "throttle", Kind: "control", Stands: "up", At: r3.Vec{X: 1.8, Y: -0.3, Z: 1.2},
			Size: r3.Vec{X: 0.1, Y: 0.1, Z: 0.2}}},
	}
	none(t, s, clear.Control)
	s.Things[0].At.X = 2.6
	// 1.2 ahead, 0.3 across, 0.4 down from the shoulder, less an arm of 0.75
	assert.InDelta(t, math.Sqrt(1.44+0.09+0.16)-0.75, only(t, s, clear.Control).By, 1e-9)
}

func TestWhatStandsOverTheGunwaleOrTooHigh(t *testing.T) {
	s := clear.Scene{Sheer: []r3.Vec{{X: 0, Y: 1}, {X: 4, Y: 1}}, Over: 0.6, Road: 2,
		Things: []clear.Thing{
			{ID: "arm", Kind: "other", Stands: "up", At: r3.Vec{X: 2, Y: 1, Z: 0.7}, Size: r3.Vec{X: 0.1, Y: 0.4, Z: 0.9}},
		}}
	s.Water = clear.Water{Up: r3.Vec{Z: 1}}
	out := only(t, s, clear.Outboard)
	assert.InDelta(t, 0.2, out.By, 1e-9)
	assert.True(t, out.Note)
	assert.InDelta(t, 0.2, only(t, s, clear.TooHigh).By, 1e-9)
}

func TestASeatOnItsPedestalIsNotInItsOwnWay(t *testing.T) {
	seat := clear.Thing{
		ID:     "seat",
		Kind:   "seat",
		Stands: "up",
		At:     r3.Vec{X: 1, Z: 0.6},
		Size:   r3.Vec{X: 0.5, Y: 0.5, Z: 0.5},
		Swing:  0.35,
	}
	pedestal := clear.Thing{
		ID:     "pedestal",
		Kind:   "pedestal",
		Stands: "up",
		At:     r3.Vec{X: 1, Z: 0.3},
		Size:   r3.Vec{X: 0.2, Y: 0.2, Z: 0.35},
	}
	s := clear.Scene{Things: []clear.Thing{seat, pedestal}}
	assert.Empty(t, clear.Look(s, ""))
	wall := clear.Thing{
		ID:     "wall",
		Kind:   "other",
		Stands: "up",
		At:     r3.Vec{X: 1.32, Z: 0.6},
		Size:   r3.Vec{X: 0.02, Y: 1, Z: 1},
	}
	s.Things = append(s.Things, wall)
	assert.InDelta(t, 0.04, only(t, s, clear.Turn).By, 0.002)
	assert.Empty(t, clear.Look(s, "pedestal"), "what a thing has no part in is left out")
}

func TestTwoHoldersWhoseFeetMeetClaimOneSpace(t *testing.T) {
	a := clear.Thing{
		ID:     "a",
		Kind:   "rod-holder",
		Stands: "down",
		At:     r3.Vec{X: 1, Y: 0.9, Z: 0.8},
		Size:   r3.Vec{X: 0.05, Y: 0.05, Z: 0.2},
		Foot:   [2]float64{0.1, 0.08},
	}
	b := a
	b.ID, b.At.X = "b", 1.09
	assert.InDelta(t, 0.01, only(t, clear.Scene{Things: []clear.Thing{a, b}}, clear.Overlap).By, 1e-9)
	b.At.X = 1.11
	none(t, clear.Scene{Things: []clear.Thing{a, b}}, clear.Overlap)
}

func TestALidHingesPastWhatStandsOnLegs(t *testing.T) {
	p := clear.Place{ID: "box", Low: r3.Vec{X: 0.2, Y: -0.3}, High: r3.Vec{X: 0.7, Y: 0.3, Z: 0.3}, Hinge: "aft"}
	board := clear.Thing{
		ID:     "board",
		Kind:   "other",
		Stands: "up",
		At:     r3.Vec{X: 0.45, Y: 0.5, Z: 0.3},
		Size:   r3.Vec{X: 0.6, Y: 0.8, Z: 0.05},
		Legs:   0.3,
	}
	s := clear.Scene{Things: []clear.Thing{board}, Places: []clear.Place{p}}
	only(t, s, clear.Lid)
	s.Things[0].Legs = 0.55
	none(t, s, clear.Lid)
}

func BenchmarkLook(b *testing.B) {
	s := Rigged(120)
	for b.Loop() {
		clear.Look(s, "")
	}
}

func BenchmarkLookForOne(b *testing.B) {
	s := Rigged(120)
	for b.Loop() {
		clear.Look(s, "t7")
	}
}

func TestNothingStandsInATank(t *testing.T) {
	thing := clear.Thing{ID: "a", Kind: "cleat", Stands: "up", At: r3.Vec{X: 1, Z: 0.3}, Size: r3.Vec{X: 0.1, Y: 0.1, Z: 0.1}}
	s := clear.Scene{
		Things: []clear.Thing{thing},
		Tanks:  []clear.Tank{{ID: "tank", Low: r3.Vec{X: 0.5, Y: -0.3}, High: r3.Vec{X: 1.5, Y: 0.3, Z: 0.35}}},
	}
	f := only(t, s, clear.Overlap)
	assert.Equal(t, "tank", f.Other)
	assert.InDelta(t, 0.05, f.By, 1e-9)
	s.Things[0].Kind = "pump"
	none(t, s, clear.Overlap)
	s.Things[0].Kind, s.Things[0].At.Z = "cleat", 0.36
	none(t, s, clear.Overlap)
}
