package stowing

import (
	"testing"

	"ergasia/app/aboard/aboardtest"
	"ergasia/store/model"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestALidCardSaysWhatLiesWhereAndWhatItWeighs(t *testing.T) {
	b := aboardtest.New(t)
	jigs := b.Gear("jigs", 1, func(g *model.Gear) { g.OwnerID = &b.Ilse })
	b.Put(jigs, b.Into(b.Stern))
	b.Put(b.Gear("sinkers", 0.5, func(g *model.Gear) { g.Count = 2 }), b.Into(b.Stern))
	card, any := laden{b.Laden}.lidCard(b.Places[0])
	require.True(t, any)
	assert.Equal(t, []string{"1  jigs, I, 1.0 kg", "2  sinkers × 2, 1.0 kg"}, card.List)
	assert.Equal(t, "wet, 2.0 of 60.0 kg", card.Note)
	assert.False(t, card.Over)
	n := 0
	for _, layer := range card.Layers {
		n += len(layer)
	}
	assert.Equal(t, 3, n, "every piece is drawn")

	b.Places[0].MaxKg = 1.5
	card, _ = laden{b.Laden}.lidCard(b.Places[0])
	assert.True(t, card.Over)
	assert.Equal(t, "wet, 2.0 of 1.5 kg: too much", card.Note)
	_, any = laden{b.Laden}.lidCard(b.Places[1])
	assert.False(t, any, "an empty place needs no card")
}

// An empty boat is loaded from the lowest place up, so that nothing is taken out
// again to reach a lid under it.
func TestAnEmptyBoatIsLoadedFromBelow(t *testing.T) {
	b := aboardtest.New(t)
	b.Places[0].Z = 0.8 // the stern locker stands highest now
	b.Put(b.Gear("cooler", 20), b.Into(b.Stern))
	b.Put(b.Gear("charts", 2), b.Into(b.Tray))
	order := laden{b.Laden}.loading()
	require.Len(t, order, 2)
	assert.Equal(t, []string{"tray", "stern locker"}, []string{order[0].Place, order[1].Place})
	assert.Equal(t, []string{"cooler"}, order[1].Names)
}
