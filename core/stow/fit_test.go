package stow

import (
	"fmt"
	"math"
	"testing"

	"ergasia/core/units"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"
)

var locker = Place{Name: "aft locker", Size: r3.Vec{X: 0.8, Y: 0.5, Z: 0.4}, Opening: r3.Vec{X: 0.6, Y: 0.4}, MaxKg: 40}

func cooler() Piece {
	return Piece{ID: "c", Name: "the cooler", Size: r3.Vec{X: 0.5, Y: 0.35, Z: 0.35}, Kg: 20, Count: 1, Turn: TurnUpright}
}

func rules(rs []Refusal) (names []string) {
	for _, r := range rs {
		names = append(names, r.Rule)
	}
	return names
}

func TestAPieceThatFitsIsNotRefused(t *testing.T) {
	assert.Empty(t, Refuse(locker, nil, cooler(), units.Metric))
}

func TestEachRuleRefusesWithItsNumbers(t *testing.T) {
	for rule, c := range map[string]struct {
		place func(*Place)
		piece func(*Piece)
		says  string
	}{
		RuleDry: {func(*Place) {}, func(p *Piece) { p.NeedsDry = true },
			"the cooler must stay dry, and aft locker gets wet."},
		RuleSize: {func(*Place) {}, func(p *Piece) { p.Size.Z = 0.45 },
			"is 50 x 35 x 45 cm; aft locker is 80 x 50 x 40 cm inside"},
		RuleOpening: {func(p *Place) { p.Opening = r3.Vec{X: 0.3, Y: 0.3} }, func(*Piece) {},
			"does not pass the opening of aft locker, 30 x 30 cm"},
		RuleLimit: {func(p *Place) { p.MaxKg = 15 }, func(*Piece) {},
			"carries 15.0 kg at most; with the cooler it would hold 20.0 kg"},
	} {
		place, piece := locker, cooler()
		c.place(&place)
		c.piece(&piece)
		rs := Refuse(place, nil, piece, units.Metric)
		require.Equal(t, []string{rule}, rules(rs))
		assert.Contains(t, rs[0].Sentence, c.says)
	}
}

func TestRoomCountsWhatIsThereAlready(t *testing.T) {
	there := []Piece{{ID: "b", Name: "bin", Size: r3.Vec{X: 0.5, Y: 0.5, Z: 0.3}, Kg: 5, Count: 1}}
	rs := Refuse(locker, there, cooler(), units.Metric)
	require.Equal(t, []string{RuleRoom}, rules(rs))
	assert.Contains(t, rs[0].Sentence, "75 of its 160 L are taken")
}

func TestEverythingWrongIsSaidAtOnce(t *testing.T) {
	p := cooler()
	p.NeedsDry, p.Kg, p.Size.X = true, 50, 2
	assert.Equal(t, []string{RuleDry, RuleSize, RuleLimit}, rules(Refuse(locker, nil, p, units.Metric)))
}

func TestSentencesAreInTheReadersUnits(t *testing.T) {
	p := cooler()
	p.Size.Z, p.Kg = 0.508, 50
	rs := Refuse(locker, nil, p, units.US)
	assert.Equal(t, "the cooler is 19.7 x 13.8 x 20.0 in; aft locker is 31.5 x 19.7 x 15.7 in inside.", rs[0].Sentence)
	assert.Equal(t, "aft locker carries 88.2 lb at most; with the cooler it would hold 110.2 lb.", rs[1].Sentence)
}

func TestALongThinPieceGoesThroughASmallOpeningOnEnd(t *testing.T) {
	p := Piece{ID: "p", Name: "pump", Size: r3.Vec{X: 0.45, Y: 0.08, Z: 0.08}, Kg: 1, Count: 1, Turn: TurnAny}
	small := locker
	small.Opening = r3.Vec{X: 0.2, Y: 0.2}
	assert.Empty(t, Refuse(small, nil, p, units.Metric))
}

func TestTurnsAreOnlyThoseAllowed(t *testing.T) {
	tall := Place{Name: "slot", Size: r3.Vec{X: 0.2, Y: 0.2, Z: 0.6}}
	p := Piece{ID: "p", Name: "rod tube", Size: r3.Vec{X: 0.5, Y: 0.1, Z: 0.1}, Kg: 1, Count: 1}
	for turn, goes := range map[Turn]bool{TurnNone: false, TurnUpright: false, TurnAny: true} {
		p.Turn = turn
		assert.Equal(t, goes, len(Refuse(tall, nil, p, units.Metric)) == 0, string(turn))
	}
}

func TestHeavyPiecesLieLow(t *testing.T) {
	laid, ok := Lay(Place{Size: r3.Vec{X: 0.4, Y: 0.4, Z: 0.4}}, []Piece{
		{ID: "light", Size: r3.Vec{X: 0.4, Y: 0.4, Z: 0.1}, Kg: 1, Count: 1},
		{ID: "heavy", Size: r3.Vec{X: 0.4, Y: 0.4, Z: 0.2}, Kg: 9, Count: 1},
	})
	require.True(t, ok)
	assert.Equal(t, "heavy", laid[0].ID)
	assert.InDelta(t, 0.2, laid[1].At.Z, 1e-9)
}

// Eight boxes that fill their place whole: a known feasible packing.
func TestEightEighthsFillAPlace(t *testing.T) {
	laid, ok := Lay(Place{Size: r3.Vec{X: 0.8, Y: 0.6, Z: 0.4}},
		[]Piece{{ID: "box", Size: r3.Vec{X: 0.4, Y: 0.3, Z: 0.2}, Kg: 1, Count: 8}})
	require.True(t, ok)
	assert.Len(t, laid, 8)
}

// Whatever is laid lies inside, apart, and on something.
func TestNothingOverlapsStandsOutOrFloats(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		side := rapid.Float64Range(0.05, 0.5)
		place := Place{Size: r3.Vec{X: 0.9, Y: 0.6, Z: 0.5}}
		var pieces []Piece
		for i := range rapid.IntRange(1, 12).Draw(t, "pieces") {
			pieces = append(pieces, Piece{ID: string(rune('a' + i)), Count: rapid.IntRange(1, 3).Draw(t, "count"),
				Kg:   side.Draw(t, "kg"),
				Size: r3.Vec{X: side.Draw(t, "x"), Y: side.Draw(t, "y"), Z: side.Draw(t, "z")},
				Turn: rapid.SampledFrom([]Turn{TurnNone, TurnUpright, TurnAny}).Draw(t, "turn")})
		}
		laid, ok := Lay(place, pieces)
		if !ok {
			t.Skip("full")
		}
		again, _ := Lay(place, pieces)
		assert.Equal(t, laid, again, "the same pieces lie the same way")
		for i, a := range laid {
			top := r3.Add(a.At, a.Size)
			assert.True(t, a.At.X >= 0 && a.At.Y >= 0 && a.At.Z >= 0 && top.X <= 0.9+1e-6 && top.Y <= 0.6+1e-6 &&
				top.Z <= 0.5+1e-6)
			held := a.At.Z < 1e-6
			for j, b := range laid {
				bt := r3.Add(b.At, b.Size)
				if i != j {
					apart := a.At.X >= bt.X-1e-6 || b.At.X >= top.X-1e-6 || a.At.Y >= bt.Y-1e-6 ||
						b.At.Y >= top.Y-1e-6 || a.At.Z >= bt.Z-1e-6 || b.At.Z >= top.Z-1e-6
					assert.True(t, apart, "%v and %v overlap", a, b)
				}
				held = held || bt.Z > a.At.Z-1e-6 && bt.Z < a.At.Z+1e-6
			}
			assert.True(t, held, "%v floats", a)
		}
	})
}

func TestManySmallPiecesAreLaidAndTooManyRefused(t *testing.T) {
	sinker := Piece{ID: "s", Name: "sinkers", Size: r3.Vec{X: 0.05, Y: 0.05, Z: 0.05}, Kg: 0.1, Count: 100, Turn: TurnAny}
	laid, ok := Lay(locker, []Piece{sinker})
	require.True(t, ok)
	assert.Len(t, laid, 100)
	rs := Refuse(locker, []Piece{sinker}, sinker, units.Metric)
	require.Equal(t, []string{RuleRoom}, rules(rs))
	assert.Contains(t, rs[0].Sentence, "would hold 200 pieces; 120 is the most")
	_, ok = Lay(locker, []Piece{sinker, sinker})
	assert.False(t, ok)
}

func BenchmarkLayAHundred(b *testing.B) {
	sinker := Piece{ID: "s", Size: r3.Vec{X: 0.05, Y: 0.06, Z: 0.07}, Kg: 0.1, Count: 100, Turn: TurnAny}
	b.ReportAllocs()
	for b.Loop() {
		Lay(locker, []Piece{sinker})
	}
}

// Nothing lies on what is fragile, in whatever order things were laid.
func TestNothingLiesOnWhatIsFragileInWhateverOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		cm := func(low, high int, name string) float64 {
			return float64(rapid.IntRange(low, high).Draw(t, name)) / 100
		}
		p := Place{Size: r3.Vec{X: cm(30, 60, "x"), Y: cm(20, 40, "y"), Z: cm(20, 40, "z")}}
		var pieces []Piece
		for i := range rapid.IntRange(2, 10).Draw(t, "pieces") {
			pieces = append(pieces, Piece{ID: fmt.Sprint(i), Count: rapid.IntRange(1, 2).Draw(t, "count"), Turn: TurnAny,
				Kg: cm(10, 300, "kg"), Top: rapid.Bool().Draw(t, "fragile"),
				Size: r3.Vec{X: cm(5, 20, "l"), Y: cm(5, 20, "b"), Z: cm(5, 15, "h")}})
		}
		laid, ok := Lay(p, pieces)
		if !ok {
			laid, _ = Pack(p, apart(pieces), 60)
		}
		for _, l := range laid {
			if !pieceOf(pieces, l.ID).Top {
				continue
			}
			for _, o := range laid {
				x, y, _ := overlap(o, l)
				onIt := math.Abs(o.At.Z-l.At.Z-l.Size.Z) < touch && x > touch && y > touch
				require.False(t, onIt, "%+v lies on %+v", o, l)
			}
		}
	})
}
