package app_test

import (
	"strings"
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/fleet"
	"ergasia/app/gear"
	"ergasia/app/refuse"
	"ergasia/app/rigging"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestHeavyThingsSlideUntilTheyAreStrapped(t *testing.T) {
	w := newWorld(t)
	require.NoError(t, second(w.put(w.owner, w.cooler, &w.locker)))
	loose := w.rigging().Loose
	require.Len(t, loose, 1)
	assert.True(t, loose[0].Slides)
	assert.Contains(t, loose[0].Said, "it wants")
	eye := func(name string) rigging.FittingInput {
		in := cleat(name)
		in.Kind, in.Lies.Straps, in.Lies.Rated = "tie-down", &w.locker, 3000
		return in
	}
	w.mount(eye("one"))
	assert.Zero(t, w.rigging().Loose[0].Straps, "a strap has two ends")
	w.mount(eye("two"), eye("three"), eye("four"))
	now := w.rigging().Loose[0]
	assert.Equal(t, 2, now.Straps)
	assert.False(t, now.Slides, now.Said)
	in := eye("elsewhere")
	nowhere := store.NewID()
	in.Lies.Straps = &nowhere
	_, err := w.Rigging.Mount(ctx, w.owner, store.NewID(), w.boat, []rigging.FittingInput{in})
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
	require.NoError(
		t,
		w.Rigging.Set(
			ctx,
			w.owner,
			store.NewID(),
			w.boat,
			w.rigging().Version,
			model.RiggingInput{Deck: "plastic", DeckMM: 6},
		),
	)
	assert.Contains(t, w.rigging().Deck, "less than one of you")
}

func TestABatteryNeedsStrapsToo(t *testing.T) {
	w := newWorld(t)
	require.NoError(t, w.change(func(in *aboard.BoatInput) {
		in.Outfit.Masses = append(in.Outfit.Masses,
			model.FixedMass{Name: "battery", Kind: "battery", Kg: 26, At: model.Vec{0.6, 0, 0.4}, Known: "plate"})
	}))
	loose := w.rigging().Loose
	require.Len(t, loose, 1)
	assert.Nil(t, loose[0].GearID, "it is no gear")
	assert.True(t, loose[0].Slides)
	assert.Contains(t, loose[0].Said, "Battery, 26 kg in stern locker, slides")
	assert.NotContains(t, loose[0].Said, "Make a place")
	require.NoError(t, w.change(func(in *aboard.BoatInput) { in.Outfit.Masses[1].At[0] = 3.8 }))
	assert.Contains(t, w.rigging().Loose[0].Said, "Battery, 26 kg in no place, slides")
	assert.Contains(t, w.rigging().Loose[0].Said, "Make a place about it")
}

func TestATankIsNotDrilled(t *testing.T) {
	w := newWorld(t)
	require.NoError(t, w.change(func(in *aboard.BoatInput) {
		in.Outfit.Tanks = []model.TankInput{{Name: "main tank", Kind: "fuel", Size: model.Vec{0.6, 0.6, 0.3},
			Corner: model.Vec{2.5, -0.3, 0.1}, Fill: 0.5, Density: 740}}
	}))
	w.mount(at("eye", "tie-down", 2.8, 0, 0.35, model.Vec{0.1, 0.1, 0.1}))
	found := w.rigging().Findings
	require.NotEmpty(t, found)
	assert.Equal(t, "Eye stands 50 mm in the tank main tank: drill nothing there.", found[0].Said)
	assert.False(t, found[0].Note)
}

func TestATransducerIsToldWhereItsFaceBelongs(t *testing.T) {
	w := newWorld(t)
	in := cleat("sounder")
	in.Kind, in.Lies = "transducer", model.FittingLies{
		At:     model.Vec{-0.01, -0.2, 0.3},
		Size:   model.Vec{0.13, 0.05, 0.1},
		Stands: "out",
		Turn:   180,
	}
	id := w.mount(in)[0]
	said := func() (text, helps string) {
		for _, f := range w.rigging().Findings {
			if f.Kind == "transducer" {
				text, helps = text+f.Said, helps+f.Helps
			}
		}
		return text, helps
	}
	text, helps := said()
	assert.Contains(t, text, "over the bottom there")
	assert.Contains(t, text, "the propeller's water reaches it")
	assert.Contains(t, helps, "Set its face")
	// The bottom rises by 10 degrees from the keel: at 0.45 m it is 0.0793 m high.
	in.Lies.At = model.Vec{-0.01, -0.45, 0.45*0.17633 - 0.007 + 0.05}
	_, err := w.Rigging.Change(ctx, w.owner, store.NewID(), w.boat, id, 1, in)
	require.NoError(t, err)
	text, helps = said()
	assert.Empty(t, helps, text)
	assert.NotContains(t, text, "propeller")
}

func TestGroundTackleSaysWhatIsMissingAndWhatDoesNotGoIn(t *testing.T) {
	w := newWorld(t)
	set := func(r model.RodeInput) error {
		return w.Rigging.Set(ctx, w.owner, store.NewID(), w.boat, w.rigging().Version, model.RiggingInput{Rode: &r})
	}
	require.NoError(t, set(model.RodeInput{Chain: 10, ChainMM: 8, Rope: 20, RopeMM: 12, Depth: 10, Locker: &w.tray}))
	said := strings.Join(w.rigging().Anchor, " ")
	assert.Contains(t, said, "of rode are missing")
	assert.Contains(t, said, "Flaked down it takes")
	assert.Contains(t, said, "no second anchor")
	require.NoError(t, set(model.RodeInput{Chain: 30, ChainMM: 8, Rope: 200, RopeMM: 14, Depth: 10, Locker: &w.tray}))
	assert.Contains(t, strings.Join(w.rigging().Anchor, " "), "don't go into small tray")
	assert.Equal(t, refuse.Invalid, kindOf(t, set(model.RodeInput{Chain: -5})).Kind)
	nowhere := store.NewID()
	assert.Equal(t, refuse.NotFound, kindOf(t, set(model.RodeInput{Chain: 5, Locker: &nowhere})).Kind)
}

func TestLinesAndTheWorkingSide(t *testing.T) {
	w := newWorld(t)
	holder := func(name string, x, y, lean float64) rigging.FittingInput {
		in := cleat(name)
		turn := 90.0
		if y < 0 {
			turn = -90
		}
		in.Kind, in.Lies = "rod-holder", model.FittingLies{
			At:     model.Vec{x, y, 0.7},
			Size:   model.Vec{0.05, 0.05, 0.2},
			Stands: "down",
			Turn:   turn,
			Lean:   lean,
			Rod:    2,
		}
		return in
	}
	w.mount(holder("port", 0.5, 0.85, 30), holder("starboard", 0.5, -0.85, 30), holder("near port", 1.2, 0.85, 25))
	s := w.rigging().Spread
	require.Len(t, s.Lines, 3)
	assert.InDelta(t, 0.85+1, s.Lines[0].Y, 1e-6)
	assert.Contains(t, strings.Join(s.Said, " "), "tangle in a turn")
	assert.Empty(t, s.Side)
	_, err := w.Fleet.AddPost(
		ctx,
		w.owner,
		uuid.Nil,
		w.boat,
		fleet.PostInput{Name: "port rail", At: model.Vec{0.8, 0.5, 0.3}},
	)
	require.NoError(t, err)
	require.NoError(
		t,
		w.Rigging.Set(ctx, w.owner, store.NewID(), w.boat, w.rigging().Version, model.RiggingInput{Working: "port"}),
	)
	side := w.rigging().Spread.Side
	require.Len(t, side, 5)
	assert.True(t, side[0].Has, side[0].Said)
	assert.False(t, side[1].Has, side[1].Said)
}

func TestPlacesForTheSonarAreRankedByTheCrewsWeights(t *testing.T) {
	w := newWorld(t)
	list := w.rigging().Sonar
	require.Len(t, list, 4)
	for i, s := range list {
		assert.Len(t, s.Marks, 10)
		for _, m := range s.Marks {
			assert.NotEmpty(t, m.Why, m.Key)
		}
		if i > 0 {
			assert.LessOrEqual(t, s.Score, list[i-1].Score)
		}
	}
	weights := map[string]float64{}
	for _, m := range list[0].Marks {
		weights[m.Key] = 0
	}
	weights["hands_free"] = 5
	in := model.SonarInput{Weights: weights, Ratings: map[string]map[string]float64{"bow-motor": {"hands_free": 5}},
		Own: []model.SonarPlace{{Name: "on the cooler", At: model.Vec{2, 0, 0.6}, Kg: 3}}}
	set := func(in model.SonarInput) error {
		return w.Rigging.Set(ctx, w.owner, store.NewID(), w.boat, w.rigging().Version, model.RiggingInput{Sonar: &in})
	}
	require.NoError(t, set(in))
	now := w.rigging().Sonar
	require.Len(t, now, 5)
	assert.Equal(t, "bow-motor", now[0].Key)
	assert.InDelta(t, 100, now[0].Score, 1e-9)
	in.Ratings["bow-motor"]["hands_free"] = 9
	assert.Equal(t, refuse.Invalid, kindOf(t, set(in)).Kind)
	assert.Equal(t, refuse.Invalid, kindOf(t, set(model.SonarInput{Weights: map[string]float64{"colour": 1}})).Kind)
}

func TestWhatIsLongerThanAnyPlaceIsSaid(t *testing.T) {
	w := newWorld(t)
	w.make("push pole", 2, func(g *gear.GearInput) { g.Size = model.Vec{4, 0.04, 0.04} })
	assert.Contains(t, strings.Join(w.rigging().Long, " "), "Push pole, 4.0 m, is longer than any place")
}
