package app_test

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"sync"
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/gear"
	"ergasia/app/refuse"
	"ergasia/app/where"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// yard is a world with boxes, things, shelves and people to move between.
type yard struct {
	*world
	pieces []uuid.UUID // boxes first
	boxes  int
	sheds  []uuid.UUID
	random *rand.Rand
}

func newYard(t *testing.T, seed uint64) *yard {
	y := &yard{world: newWorld(t), random: rand.New(rand.NewPCG(seed, 3)), boxes: 6}
	for i := range 12 {
		size := 0.36 - 0.05*float64(i%6)
		g := y.make(fmt.Sprintf("piece %d", i), 0.2+0.3*float64(i), func(in *gear.GearInput) {
			in.Size, in.Turn = model.Vec{size, size * 0.8, size * 0.7}, "any"
			if i < y.boxes {
				in.Inside = model.Vec{size * 0.95, size * 0.76, size * 0.66}
				in.KeepsDry = i%2 == 0
			}
			in.NeedsDry = i%5 == 4
		})
		y.pieces = append(y.pieces, g.ID)
	}
	y.sheds = []uuid.UUID{y.shelf("boathouse", "shelf A"), y.shelf("van", "drawer")}
	return y
}

// anywhere is a place to put something, whether it can go there or not.
func (y *yard) anywhere() aboard.MoveInput {
	switch y.random.IntN(8) {
	case 0:
		return aboard.MoveInput{}
	case 1:
		return aboard.MoveInput{ShedID: &y.sheds[y.random.IntN(len(y.sheds))]}
	case 2:
		return aboard.MoveInput{HolderID: &y.hand.Member}
	case 3, 4:
		return aboard.MoveInput{PlaceID: []*uuid.UUID{&y.locker, &y.tray}[y.random.IntN(2)]}
	default:
		return aboard.MoveInput{BoxID: &y.pieces[y.random.IntN(len(y.pieces))]}
	}
}

// sound looks at every row as the database has it: what lies in a box is where
// the box is, no box lies in itself, and the boat carries what is aboard.
func (y *yard) sound(t *testing.T, after string) {
	var rows []model.Stowage
	var gear []model.Gear
	require.NoError(t, y.Kernel.In(ctx, y.owner, func(tx *store.Tx) error {
		return errors.Join(store.All(tx, &rows, "", ""), store.All(tx, &gear, "", ""))
	}))
	at := map[uuid.UUID]model.Stowage{}
	for _, r := range rows {
		at[r.GearID] = r
	}
	require.Len(t, at, len(gear), "every piece is somewhere, once")
	within := 0.0
	for _, g := range gear {
		r := at[g.ID]
		if r.BoatID != nil {
			within += g.Kg * float64(g.Count)
		}
		for depth, in := 0, r.InsideID; in != nil; depth++ {
			require.LessOrEqual(t, depth, aboard.BoxesDeep, "%s: boxes lie in one another without end", after)
			box := at[*in]
			a, b := r.At(), box.At()
			a.InsideID, b.InsideID = nil, nil
			require.Equal(t, b, a, "%s: %s is not where its box is", after, g.Name)
			in = box.InsideID
		}
	}
	assert.InDelta(t, within, y.state().Now.GearKg, 1e-9, after)
}

func TestWhateverIsMovedBoxesAndWhatTheyHoldStayTogether(t *testing.T) {
	for seed := range uint64(3) {
		y := newYard(t, seed)
		done, refused := 0, 0
		for range 120 {
			gear, to := y.pieces[y.random.IntN(len(y.pieces))], y.anywhere()
			_, err := y.to(gear, to)
			refusal := (*refuse.Error)(nil)
			switch {
			case err == nil:
				done++
			case errors.As(err, &refusal) && (refusal.Kind == refuse.Refused):
				refused++
			default:
				require.NoError(t, err)
			}
			y.sound(t, fmt.Sprintf("%+v", to))
			if y.random.IntN(6) == 0 {
				_, err := y.Where.Undo(ctx, y.owner, store.NewID(), y.boat)
				if err != nil {
					kindOf(t, err) // a sentence, never a broken database
				}
				y.sound(t, "undo")
			}
		}
		assert.Greater(t, done, 25, "seed %d", seed)
		assert.Greater(t, refused, 10, "seed %d", seed)
	}
}

func TestTwoWhoMoveAtOncePutNoBoxIntoEachOther(t *testing.T) {
	y := newYard(t, 9)
	for round := range 6 {
		a, b := y.pieces[0], y.pieces[1]
		for _, id := range []uuid.UUID{a, b} {
			require.NoError(t, second(y.to(id, aboard.MoveInput{})))
		}
		va, vb := y.spot(a).Version, y.spot(b).Version
		var group sync.WaitGroup
		errs := make([]error, 2)
		group.Go(func() {
			_, errs[0] = y.putGear(y.owner, store.NewID(), a, aboard.MoveInput{BoxID: &b, Version: va})
		})
		group.Go(func() {
			_, errs[1] = y.putGear(y.hand, store.NewID(), b, aboard.MoveInput{BoxID: &a, Version: vb})
		})
		group.Wait()
		y.sound(t, fmt.Sprintf("round %d: %v", round, errs))
		for _, err := range errs {
			if err != nil {
				assert.Contains(t, []refuse.Kind{refuse.Refused, refuse.Conflict}, kindOf(t, err).Kind)
			}
		}
	}
}

func TestTheSamePieceIsPromisedOnceHoweverManyAsk(t *testing.T) {
	w := newWorld(t)
	var trips []uuid.UUID
	for i := range 6 {
		trips = append(trips, w.trip(fmt.Sprintf("trip %d", i), 3, 2, 1))
	}
	var group sync.WaitGroup
	var lock sync.Mutex
	promised := 0
	for _, trip := range trips {
		group.Go(func() {
			refused, err := w.Trips.Promise(context.Background(), w.owner, store.NewID(), trip, []uuid.UUID{w.cooler.ID})
			assert.NoError(t, err)
			lock.Lock()
			defer lock.Unlock()
			if len(refused) == 0 {
				promised++
			}
		})
	}
	group.Wait()
	assert.Equal(t, 1, promised)
}

func TestABoatWithThingsAboardKeepsThemWhenMovesAreUndoneAcrossTheShed(t *testing.T) {
	y := newYard(t, 1)
	piece := y.pieces[8]
	require.NoError(t, second(y.to(piece, aboard.MoveInput{ShedID: &y.sheds[0]})))
	require.NoError(t, second(y.to(piece, aboard.MoveInput{PlaceID: &y.locker})))
	_, err := y.Where.Undo(ctx, y.owner, store.NewID(), y.boat)
	require.NoError(t, err)
	assert.Equal(t, "boathouse, shelf A", y.spot(piece).Text, "back ashore, where it came from")
	_, err = y.Where.Redo(ctx, y.owner, store.NewID(), y.boat)
	require.NoError(t, err)
	assert.Equal(t, "Test boat, stern locker", y.spot(piece).Text)
	require.NoError(t, second(y.to(piece, aboard.MoveInput{HolderID: &y.owner.Member})))
	st := y.state()
	assert.Equal(t, "piece 8 → Ilse", st.Last.What, "the bench says where it went")
	assert.True(t, st.CanUndo)
}

func TestTheQuayOfALargeCrewIsShownInPart(t *testing.T) {
	w := newWorld(t)
	var rows []model.Gear
	for i := range where.QuayShown + 20 {
		g := gearInput(fmt.Sprintf("thing %03d", i), 0.1).Row(w.owner)
		g.ID = store.NewID()
		rows = append(rows, g)
	}
	require.NoError(t, w.Kernel.Write(ctx, w.owner, func(tx *store.Tx) error {
		return w.Gear.CreateGear(tx, w.owner, rows,
			map[uuid.UUID]model.Stowage{})
	}))
	b, err := w.Stowing.Bench(ctx, w.owner, w.boat)
	require.NoError(t, err)
	assert.Len(t, b.Gear, where.QuayShown)
	assert.EqualValues(t, where.QuayShown+22, b.State.Quay)
	hidden := rows[0] // neither among the newest on the quay, nor loaded
	place := w.locker
	st, err := w.Where.Move(ctx, w.owner, store.NewID(), w.boat, aboard.MoveInput{GearID: &hidden.ID, PlaceID: &place})
	require.NoError(t, err, "what the page did not show can be moved all the same")
	assert.EqualValues(t, where.QuayShown+21, st.Quay)
	assert.InDelta(t, 0.1, st.Now.GearKg, 1e-9)
}
