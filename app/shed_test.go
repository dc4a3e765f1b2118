package app_test

import (
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/gear"
	"ergasia/app/shed"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestWhatIsWrongOfAPlaceAshoreIsNamed(t *testing.T) {
	w := newWorld(t)
	good := shed.ShedInput{Site: "van", Name: "box", Size: model.Vec{1, 0.5, 0.5}, Dryness: "dry"}
	for field, wrong := range map[string]func(*shed.ShedInput){
		"site":      func(in *shed.ShedInput) { in.Site = "" },
		"name":      func(in *shed.ShedInput) { in.Name = "" },
		"size_m[1]": func(in *shed.ShedInput) { in.Size[1] = 31 },
		"dryness":   func(in *shed.ShedInput) { in.Dryness = "damp" },
		"max_kg":    func(in *shed.ShedInput) { in.MaxKg = 10_001 },
	} {
		in := good
		wrong(&in)
		_, err := w.Shed.SaveShed(ctx, w.owner, store.NewID(), uuid.Nil, 0, in)
		fs := kindOf(t, err).Faults
		require.Len(t, fs, 1, field)
		assert.Equal(t, field, fs[0].Field)
	}
	_, err := w.Shed.SaveShed(ctx, w.owner, store.NewID(), uuid.Nil, 0, good)
	assert.NoError(t, err)
}

func TestAPlaceAshoreCountsWhatGetsWetInIt(t *testing.T) {
	w := newWorld(t)
	id, err := w.Shed.SaveShed(ctx, w.owner, store.NewID(), uuid.Nil, 0, shed.ShedInput{Site: "yard", Name: "rack",
		Dryness: "wet"})
	require.NoError(t, err)
	papers := w.make("papers", 0.5, func(in *gear.GearInput) { small(in); in.NeedsDry = true })
	for _, g := range []uuid.UUID{papers.ID, w.cooler.ID} {
		require.NoError(t, second(w.to(g, aboard.MoveInput{ShedID: &id})))
	}
	list, err := w.Shed.Shed(ctx, w.owner)
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.Equal(t, []any{2, 30.5, 1}, []any{list[0].Pieces, list[0].Kg, list[0].Wet})
}
