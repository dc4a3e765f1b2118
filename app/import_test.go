package app_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/trips"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// oddGear draws gear with every field used now and then.
func oddGear(r *rand.Rand, w *world, i int) gear.GearInput {
	signs := []rune("=+-@'\"\n\t;,aåø網 1#")
	name := []rune(fmt.Sprintf("g%d ", i))
	for range r.IntN(20) {
		name = append(name, signs[r.IntN(len(signs))])
	}
	if r.IntN(3) == 0 {
		name = append([]rune{signs[r.IntN(5)]}, name...)
	}
	side := func() float64 { return float64(1+r.IntN(60)) / 100 }
	in := gear.GearInput{Name: string(name), Size: model.Vec{side(), side(), side()}, Kg: float64(r.IntN(4000)) / 1000,
		Count: 1 + r.IntN(5), NeedsDry: r.IntN(2) == 0,
		MassKnown: []string{"weighed", "plate", "catalogue", "guess"}[r.IntN(4)], Turn: []string{"none", "upright",
			"any"}[r.IntN(3)],
		Shape: []string{"box", "rod", "soft", "loose"}[r.IntN(4)], Condition: []string{"good", "worn", "broken"}[r.IntN(3)],
		Fragile: r.IntN(2) == 0, Metal: r.IntN(2) == 0, Buoyant: r.IntN(2) == 0}
	if r.IntN(2) == 0 {
		in.Tags, in.Hazards = []string{"sea trout", fmt.Sprintf("tag %d", r.IntN(5))},
			[]string{words.Hazards.Keys()[r.IntN(len(words.Hazards))]}
	}
	if r.IntN(2) == 0 {
		cost, last := float64(r.IntN(100000))/100, kernel.DayOf(w.Kernel.Now()).Add(r.IntN(900)-300)
		in.Cost, in.ExpiresOn, in.OwnerID, in.Nickname, in.Serial = &cost, &last, &w.hand.Member, "=nick", "-12"
	}
	if r.IntN(3) == 0 {
		in.UseSize, in.RestockAt = model.Vec{side(), side(), side()}, r.IntN(9)
	}
	if in.Count == 1 && r.IntN(2) == 0 {
		in.Inside = model.Vec{in.Size[0] * 0.9, in.Size[1] * 0.9, in.Size[2] * 0.9}
		in.HoldsKg, in.KeepsDry = float64(r.IntN(30)), r.IntN(2) == 0
	}
	return in
}

func TestWhateverGearThereIsATableBringsItBack(t *testing.T) {
	for seed := range uint64(2) {
		y := newYard(t, seed)
		y.wipe()
		r := rand.New(rand.NewPCG(seed, 11))
		var ids []uuid.UUID
		for i := range 60 {
			g, err := y.Gear.SaveGear(ctx, y.owner, store.NewID(), uuid.Nil, 0, oddGear(r, y.world, i))
			require.NoError(t, err)
			ids = append(ids, g.ID)
		}
		y.pieces = ids
		for range 90 { // wherever they go, or are refused
			_, _ = y.to(ids[r.IntN(len(ids))], y.anywhere())
		}
		y.sound(t, "before")
		before, err := y.Gear.Export(ctx, y.owner)
		require.NoError(t, err)
		same, err := y.Gear.Import(ctx, y.owner, uuid.Nil, before, nil, false)
		require.NoError(t, err)
		assert.Equal(t, 60, same.Same, "%+v", notSame(same))
		y.wipe()
		done, err := y.Gear.Import(ctx, y.owner, store.NewID(), before, nil, true)
		require.NoError(t, err, "%v", err)
		assert.Equal(t, 60, done.New)
		y.sound(t, "after")
		after, err := y.Gear.Export(ctx, y.owner)
		require.NoError(t, err)
		assert.Equal(t, string(before), string(after))
	}
}

func notSame(v gear.ImportView) (rows []gear.RowFate) {
	for _, r := range v.Rows {
		if r.Fate != "same" {
			rows = append(rows, r)
		}
	}
	return rows
}

func TestATableMovesABoxWithWhatItHolds(t *testing.T) {
	w := newWorld(t)
	box, tin := w.make("box", 1, asBox), w.make("tin", 0.5, small)
	require.NoError(t, second(w.to(tin.ID, aboard.MoveInput{BoxID: &box.ID})))
	w.shelf("boathouse", "shelf A")
	move := "id,name,place\n" + box.ID.String() + ",box,ashore: boathouse / shelf A\n"
	done, err := w.Gear.Import(ctx, w.owner, store.NewID(), []byte(move), nil, true)
	require.NoError(t, err)
	assert.Equal(t, 1, done.Changed)
	assert.Equal(t, "boathouse, shelf A, in box", w.spot(tin.ID).Text)
	where, err := w.Where.Where(ctx, w.owner, box.ID)
	require.NoError(t, err)
	assert.Equal(t, "boathouse, shelf A", where.Trail[0].Text, "the table's moves are in the history")
}

func TestATableWithALentThingLeavesItLent(t *testing.T) {
	w := newWorld(t)
	require.NoError(t, w.Trips.Loan(ctx, w.owner, store.NewID(), w.cooler.ID, trips.LoanInput{Way: "lent", Whom: "Bo"}))
	text, err := w.Gear.Export(ctx, w.owner)
	require.NoError(t, err)
	assert.Contains(t, string(text), ",lent,")
	view, err := w.Gear.Import(ctx, w.owner, uuid.Nil, text, nil, false)
	require.NoError(t, err)
	assert.Equal(t, 2, view.Same)
	elsewhere := strings.Replace(string(text), ",lent,", ",quay,", 1)
	view, err = w.Gear.Import(ctx, w.owner, store.NewID(), []byte(elsewhere), nil, true)
	require.NoError(t, err)
	assert.Contains(t, fmt.Sprint(view.Rows), "it stays so until its return is noted")
	assert.Equal(t, "lent to Bo", w.spot(w.cooler.ID).Text)
}
