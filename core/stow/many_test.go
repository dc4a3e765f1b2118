package stow

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
)

// hundreds is a problem of so many small boxes, each of its own size, for which there
// is plenty of room.
func hundreds(places, items int) Problem {
	r := rand.New(rand.NewPCG(1, 2))
	p := Problem{Limits: NoLimits()}
	for j := range places {
		p.Places = append(p.Places, Spot{Place: Place{ID: fmt.Sprint("p", j), Size: r3.Vec{X: 0.33, Y: 0.28, Z: 0.3}}})
	}
	for i := range items {
		it := Item{Piece: Piece{ID: fmt.Sprint("i", i), Kg: r.Float64(), Count: 1, Turn: TurnAny,
			Size: r3.Vec{X: 0.03 + 0.06*r.Float64(), Y: 0.03 + 0.05*r.Float64(), Z: 0.02 + 0.05*r.Float64()}}}
		for range places {
			it.Cost = append(it.Cost, 10*r.Float64())
		}
		p.Items = append(p.Items, it)
	}
	return p
}

// Of hundreds of pieces the first plan looks only now and then whether a place can
// still be laid: all the same each can be laid, and nothing is left out.
func TestAPlanOfHundredsOfPiecesCanBeLaid(t *testing.T) {
	p := hundreds(12, manyUnits+100)
	plan, err := Solve(t.Context(), p, Options{Steps: 1000})
	require.NoError(t, err)
	assert.Zero(t, plan.Unplaced)
	for j, place := range p.Places {
		var pieces []Piece
		for i, at := range plan.At {
			if len(at) > 0 && at[0] == j {
				pieces = append(pieces, p.Items[i].Piece)
			}
		}
		assert.Len(t, plan.Layouts[j], len(pieces))
		sound(t, place.Place, pieces, plan.Layouts[j])
	}
}

// Where a place is too small for what was put there without looking, the rest goes elsewhere.
func TestWhatIsTooMuchForAPlaceGoesElsewhere(t *testing.T) {
	p := hundreds(12, manyUnits+100)
	for i := range p.Items {
		p.Items[i].Cost[0] = 0 // all of it would go there
	}
	p.Places[0].Size.Z = 0.07
	plan, err := Solve(t.Context(), p, Options{Steps: 1000, Unlaid: true})
	require.NoError(t, err)
	assert.Zero(t, plan.Unplaced)
	assert.Empty(t, plan.Layouts, "they were not asked for")
}

// A plan that is given is there whatever time there is.
func TestAPlanThatIsGivenIsBegunWith(t *testing.T) {
	p := hundreds(3, 60)
	var start []Placed
	for i := range p.Items {
		start = append(start, Placed{Item: p.Items[i].ID, Place: p.Places[i%3].ID})
	}
	s := &search{model: newModel(t.Context(), p), options: Options{Start: start}}
	b := s.begun()
	assert.Zero(t, b.unplaced)
	for u, at := range b.at {
		assert.Equal(t, u%3, at)
	}
	p.Places[0].Size = r3.Vec{X: 0.13, Y: 0.13, Z: 0.1} // not all of it goes in: the rest is left for the search
	s = &search{model: newModel(t.Context(), p), options: Options{Start: start}}
	b = s.begun()
	assert.Positive(t, b.unplaced)
	assert.Less(t, b.unplaced, 20)
	assert.True(t, b.fits(0))
}

// One answer of a plan with two thousand pieces, beside one lay of a full place.
func BenchmarkFirstPlanOfTwoThousand(b *testing.B) {
	p := hundreds(40, 1960)
	for b.Loop() {
		_, err := Solve(b.Context(), p, Options{Steps: 120_000, Unlaid: true})
		require.NoError(b, err)
	}
}
