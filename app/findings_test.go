package app_test

import (
	"strings"
	"testing"

	"ergasia/app/fleet"
	"ergasia/app/rigging"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// at is a fitting of a kind and size somewhere aboard.
func at(
	name, kind string,
	x, y, z float64,
	size model.Vec,
	change ...func(*rigging.FittingInput),
) rigging.FittingInput {
	in := cleat(name)
	in.Kind, in.Lies.At, in.Lies.Size = kind, model.Vec{x, y, z}, size
	for _, c := range change {
		c(&in)
	}
	return in
}

// Each thing that can be in the way is told in a sentence that names both, with its
// measure, in the reader's units.
func TestEachThingInTheWayIsToldInASentence(t *testing.T) {
	small := model.Vec{0.1, 0.1, 0.1}
	for name, c := range map[string]struct {
		mount []rigging.FittingInput
		kind  string
		says  []string
		note  bool
	}{
		"two in one space": {mount: []rigging.FittingInput{at("cleat", "cleat", 0.4, 0.8, 0.7, small), at("hook", "hook", 0.45, 0.8, 0.7, small)},
			kind: "overlap", says: []string{"Cleat and hook claim one space, 50 mm deep."}},
		"room in a place": {mount: []rigging.FittingInput{at("pump", "pump", 0.6, 0, 0.35, small)},
			kind: "room", says: []string{"Pump stands in stern locker: that much less goes in there."}, note: true},
		"reaching into a place": {mount: []rigging.FittingInput{at("tube", "other", 0.6, 0.325, 0.4, small)},
			kind: "room", says: []string{"Tube stands 25 mm into stern locker"}, note: true},
		"a seat that can't turn": {mount: []rigging.FittingInput{at("seat", "seat", 3, 0, 0.3, model.Vec{0.4, 0.4, 0.5}, func(f *rigging.FittingInput) { f.Lies.Swing = 0.4 }),
			at("post", "other", 3.35, 0, 0.3, model.Vec{0.1, 0.1, 1})},
			kind: "turn", says: []string{"Seat can't turn all round: it meets post by 100 mm."}},
		"where someone stands": {mount: []rigging.FittingInput{at("pole", "other", 1.5, 0, 0.4, model.Vec{0.1, 0.1, 1})},
			kind: "body", says: []string{"Pole stands where someone stands at the post helm."}},
		"at an elbow": {mount: []rigging.FittingInput{at("arm", "other", 1.5, 0.35, 1.3, small)},
			kind: "elbow", says: []string{"Arm is at the elbows of whoever is at helm."}, note: true},
		"at a knee": {mount: []rigging.FittingInput{at("box", "other", 1.5, 0.3, 0.7, small)},
			kind: "knee", says: []string{"Box is at the knees of whoever is at helm."}, note: true},
		"a rod against a roof": {mount: []rigging.FittingInput{at("holder", "rod-holder", 0.5, 0.8, 0.7, small, func(f *rigging.FittingInput) { f.Lies.Rod = 2 }),
			at("top", "roof", 0.5, 0.8, 0.7, model.Vec{1, 1, 0.05}, func(f *rigging.FittingInput) { f.Lies.Legs = 1.2 })},
			kind: "rod-hits", says: []string{"The rod in holder meets top, 1200 mm up."}},
		"a screen before the eyes": {mount: []rigging.FittingInput{at("board", "other", 2.4, 0, 1.6, model.Vec{0.1, 0.6, 0.6})},
			kind: "sight", says: []string{"Board hides the water ahead from helm", "to port", "to starboard"}},
		"a rod across the view": {mount: []rigging.FittingInput{at("holder", "rod-holder", 2.4, -0.1, 0.9, small, func(f *rigging.FittingInput) {
			f.Lies.Rod, f.Lies.Lean, f.Lies.Turn = 2.5, 15, 90
		})},
			kind: "rod-sight", says: []string{"The rod in holder stands across the view from helm"}},
		"a screen seen from behind": {mount: []rigging.FittingInput{at("display", "display", 2.1, 0, 1.3, small, func(f *rigging.FittingInput) { f.Lies.Screen = 0.25 })},
			kind: "screen", says: []string{"Display is seen from behind at helm."}},
		"a screen too far": {mount: []rigging.FittingInput{at("display", "display", 4.4, 0, 1.3, small, func(f *rigging.FittingInput) {
			f.Lies.Screen, f.Lies.Turn = 0.25, 180
		})},
			kind: "screen", says: []string{"Display is too far from helm to be read: 29"}},
		"a screen off its axis": {mount: []rigging.FittingInput{at("display", "display", 2.0, 0.3, 1.8, small, func(f *rigging.FittingInput) {
			f.Lies.Screen, f.Lies.Turn = 0.25, 130
		})},
			kind: "screen", says: []string{"Display is hardly read from helm", "off its axis"}},
		"a lamp in the eyes": {mount: []rigging.FittingInput{at("lamp", "light", 3.5, 0, 1.8, small, func(f *rigging.FittingInput) {
			f.Lies.Beam, f.Lies.Turn = 60, 180
		})},
			kind: "eyes", says: []string{"Lamp shines into the eyes at helm, 20"}},
		"a control out of reach": {mount: []rigging.FittingInput{at("throttle", "control", 2.6, 0, 1.2, small)},
			kind: "control", says: []string{"Throttle is 4", "out of reach from helm without letting go of the wheel."}},
		"over the gunwale": {mount: []rigging.FittingInput{at("arm", "other", 2, 1.0, 0.75, model.Vec{0.1, 0.4, 0.1})},
			kind: "outboard", says: []string{"out over the gunwale"}, note: true},
		"a panel that gives way": {mount: []rigging.FittingInput{at("rail", "rail", 2, 0.9, 0.75, model.Vec{0.9, 0.03, 0.8}, func(f *rigging.FittingInput) {
			f.Held = model.FittingHeld{Method: "self-tapper", Screw: "M4", Count: 2, Foot: [2]float64{100, 40}, Panel: "plastic", Thickness: 4, Gripped: true}
		})},
			kind: "held", says: []string{"Rail gives way: the self-tappers bear", "of a hand's grip."}},
		"screws too short": {mount: []rigging.FittingInput{at("cleat", "cleat", 2, 0.9, 0.75, small, func(f *rigging.FittingInput) {
			f.Held.Method, f.Held.Length, f.Held.Base = "through-bolt", 16, 5
		})},
			kind: "screws", says: []string{"The screws of cleat are too short: 16 mm, and 26 are needed for two threads out of the nut."}},
		"screws that foul": {mount: []rigging.FittingInput{at("cleat", "cleat", 2, 0.9, 0.75, small, func(f *rigging.FittingInput) {
			behind := 10.0
			f.Held.Method, f.Held.Length, f.Held.Behind = "through-bolt", 40, &behind
		})},
			kind: "screws", says: []string{"The screws of cleat stand 22 mm into what is behind."}},
		"a pole that folds": {mount: []rigging.FittingInput{at("pole", "pole", 2, 0.95, 0.75, small, func(f *rigging.FittingInput) {
			f.Held.Pole = &model.PoleInput{Wet: 0.6, Diameter: 0.03, Clamp: 0.6, Speed: 3, Holds: 20}
		})},
			kind: "folds", says: []string{"Pole folds at", "kn, and is used at up to 5.8 kn."}},
	} {
		t.Run(name, func(t *testing.T) {
			w := newWorld(t)
			w.mount(c.mount...)
			said := ""
			for _, f := range w.rigging().Findings {
				if f.Kind == c.kind && f.Note == c.note {
					said += f.Said + "\n"
				}
			}
			for _, part := range c.says {
				assert.Contains(t, said, part)
			}
		})
	}
}

// What does not bear is told with what would, and taking that advice settles it.
func TestTheAdviceSettlesWhatDoesNotBear(t *testing.T) {
	w := newWorld(t)
	in := at("rail", "rail", 2, 0.9, 0.75, model.Vec{0.9, 0.03, 0.3}, func(f *rigging.FittingInput) {
		f.Held = model.FittingHeld{
			Method:    "self-tapper",
			Screw:     "M6",
			Count:     4,
			Foot:      [2]float64{300, 60},
			Panel:     "laminate",
			Thickness: 3,
			Gripped:   true,
		}
	})
	id := w.mount(in)[0]
	held := func() *rigging.FindingView {
		for _, f := range w.rigging().Findings {
			if f.Kind == "held" && !f.Note {
				return &f
			}
		}
		return nil
	}
	require.NotNil(t, held())
	require.NotEmpty(t, held().Helps)
	tried, err := w.Rigging.Try(ctx, w.owner, w.boat, &id, in)
	require.NoError(t, err)
	best := tried.Bears.Ways[0]
	assert.GreaterOrEqual(t, *best.Factor, 2.0)
	in.Held.Method = best.Method
	_, err = w.Rigging.Change(ctx, w.owner, store.NewID(), w.boat, id, 1, in)
	require.NoError(t, err)
	assert.Nil(t, held())
}

// The brace that is advised makes the pole hold at the speed it is used at, with a fifth
// to spare.
func TestTheBraceThatIsAdvisedHolds(t *testing.T) {
	w := newWorld(t)
	in := at("pole", "pole", 2, 0.95, 0.75, model.Vec{0.05, 0.05, 1.2}, func(f *rigging.FittingInput) {
		f.Held.Pole = &model.PoleInput{Wet: 0.5, Diameter: 0.032, Clamp: 0.6, Speed: 2.5, Holds: 60}
	})
	tried, err := w.Rigging.Try(ctx, w.owner, w.boat, nil, in)
	require.NoError(t, err)
	p := tried.Bears.Pole
	require.NotNil(t, p.FoldsAt)
	assert.Less(t, *p.FoldsAt, 3.0)
	require.NotNil(t, p.Brace)
	in.Held.Pole.Brace = *p.Brace
	again, err := w.Rigging.Try(ctx, w.owner, w.boat, nil, in)
	require.NoError(t, err)
	assert.GreaterOrEqual(t, *again.Bears.Pole.FoldsAt, 3.0)
	assert.Nil(t, again.Bears.Pole.Brace)

	// One that helps only where the water begins is found there, on no round figure.
	in.Held.Pole = &model.PoleInput{Wet: 0.5, Diameter: 0.032, Clamp: 0.54991, Foot: 0.01, Speed: 3.0867, Holds: 80}
	last, err := w.Rigging.Try(ctx, w.owner, w.boat, nil, in)
	require.NoError(t, err)
	require.NotNil(t, last.Bears.Pole.Brace)
	assert.InDelta(t, 0.54991, *last.Bears.Pole.Brace, 1e-9)
}

// In US units lengths are inches and feet; the boat in a lake tells speeds in miles.
func TestFindingsAreToldInTheReadersUnits(t *testing.T) {
	w := newWorld(t)
	w.mount(
		at("cleat", "cleat", 0.4, 0.8, 0.7, model.Vec{0.1, 0.1, 0.1}),
		at("hook", "hook", 0.45, 0.8, 0.7, model.Vec{0.1, 0.1, 0.1}),
		at("pole", "pole", 2, 0.95, 0.75, model.Vec{0.1, 0.1, 0.1}, func(f *rigging.FittingInput) {
			f.Held.Pole = &model.PoleInput{Wet: 0.6, Diameter: 0.03, Clamp: 0.6, Speed: 3, Holds: 20}
		}),
	)
	us := w.owner
	us.Units = "us"
	r, err := w.Rigging.Rigging(ctx, us, w.boat)
	require.NoError(t, err)
	said := ""
	for _, f := range r.Findings {
		said += f.Said
	}
	assert.Contains(t, said, "1.97 in deep")
	assert.Contains(t, said, "kn")
	list, err := w.Rigging.Read(ctx, us, w.boat, "antenna 6 ft")
	require.NoError(t, err)
	assert.InDelta(t, 1.8288, list[0].Lies.Size[2], 1e-9)
}

// A lid's hinge is the crew's word, or the long edge away from the nearest post.
func TestWhereALidTurns(t *testing.T) {
	w := newWorld(t)
	lid := func(name string, x, y, long, broad float64, hinge string) {
		_, err := w.Fleet.SavePlace(
			ctx,
			w.owner,
			uuid.Nil,
			w.boat,
			uuid.Nil,
			0,
			fleet.PlaceInput{Name: name, Corner: model.Vec{x, y, 0.3},
				Size: model.Vec{long, broad, 0.3}, Dryness: "wet", Lid: "hinged", Hinge: hinge},
		)
		require.NoError(t, err)
	}
	lid("ahead", 2.5, -0.2, 0.4, 0.4, "")
	lid("to port", 1.3, 0.4, 0.4, 0.4, "")
	lid("long", 2.8, 0.3, 0.9, 0.3, "")
	lid("said", 3.5, -0.2, 0.4, 0.4, "aft")
	turns := map[string]string{}
	for _, p := range w.rigging().Places {
		turns[p.Name] = p.Turns
	}
	assert.Equal(
		t,
		map[string]string{
			"ahead":        "fore",
			"to port":      "port",
			"long":         "port",
			"said":         "aft",
			"stern locker": "",
			"small tray":   "",
		},
		turns,
	)
	_, err := w.Fleet.SavePlace(
		ctx,
		w.owner,
		uuid.Nil,
		w.boat,
		uuid.Nil,
		0,
		fleet.PlaceInput{Name: "wrong", Corner: model.Vec{1, 0, 0.3},
			Size: model.Vec{0.3, 0.3, 0.3}, Dryness: "wet", Lid: "hinged", Hinge: "upwards"},
	)
	assert.Contains(t, kindOf(t, err).Faults.Error(), "hinge")
	assert.True(t, strings.Contains(w.rigging().Ahead, "From helm the water ahead is seen from"))
}
