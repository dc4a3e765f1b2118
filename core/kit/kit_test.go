package kit

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

var evening = Outing{Persons: 3, Rods: 5, Days: 2, Boat: "dunlin"}

func TestAmountsAreReckonedAndRoundedUp(t *testing.T) {
	for per, want := range map[Per]int{Boat: 2, Person: 5, Rod: 8, Day: 3} {
		assert.Equal(t, want, Line{Amount: 1.5, Per: per}.Wanted(evening), string(per))
	}
	assert.Equal(t, 3, Line{Amount: 0.6, Per: Rod}.Wanted(evening), "0.6 x 5 is three, not four")
}

func TestALineSaysWhatIsMissingWornOrElsewhere(t *testing.T) {
	net := Piece{ID: "n1", Name: "net", Tags: []string{"net"}, Count: 1, Boat: "plover", BoatName: "Plover"}
	line := Line{What: "landing net", Amount: 1, Per: Boat, Choices: []Choice{{Gear: "n1"}, {Tag: "net"}}}
	one := func(p ...Piece) Found { return Answer([]Line{line}, p, evening)[0] }

	f := one(net)
	assert.Equal(t, 1, f.Missing)
	assert.Equal(t, []string{"net is in Plover"}, f.Because[:1])

	for _, c := range []struct {
		change func(*Piece)
		state  State
	}{{func(p *Piece) { p.Condition = "worn" }, Worn}, {func(p *Piece) { p.Condition = "broken" }, Broken},
		{func(p *Piece) { p.Lent = "Bo" }, Lent},
		{func(p *Piece) { p.Expired = true }, Expired}, {func(p *Piece) { p.Promised = "cod run" }, Promised}} {
		p := net
		p.Boat = ""
		c.change(&p)
		f := one(p)
		assert.Equal(t, 1, f.Missing, string(c.state))
		assert.Equal(t, c.state, f.Picks[0].State)
		assert.NotEmpty(t, f.Because)
	}

	spare := Piece{ID: "n2", Name: "small net", Tags: []string{"net"}, Count: 1}
	f = one(net, spare)
	assert.Zero(t, f.Missing)
	assert.Equal(t, "n2", f.Picks[0].Piece.ID)
	assert.True(t, f.Picks[0].Alternative)
	assert.Empty(t, f.Because, "nothing to say where the wish is met")

	assert.Equal(t, []string{"the crew has none: landing net"}, one().Because)
	ashore := evening
	ashore.Boat = ""
	assert.Zero(t, Answer([]Line{line}, []Piece{net}, ashore)[0].Missing, "with no boat chosen, any boat's will do")
	line.Nice = true
	assert.Zero(t, one(net).Missing, "nice to have is never missing")
}

func TestNoPieceIsCountedTwice(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var pieces []Piece
		have := map[string]int{}
		for i := range rapid.IntRange(0, 6).Draw(t, "pieces") {
			p := Piece{ID: string(rune('a' + i)), Tags: []string{rapid.SampledFrom([]string{"x", "y"}).Draw(t, "tag")},
				Count: rapid.IntRange(1, 4).Draw(t, "count"),
				Boat:  rapid.SampledFrom([]string{"", "dunlin", "plover"}).Draw(t, "boat")}
			pieces, have[p.ID] = append(pieces, p), p.Count
		}
		var lines []Line
		for range rapid.IntRange(1, 5).Draw(t, "lines") {
			lines = append(lines, Line{Amount: float64(rapid.IntRange(1, 3).Draw(t, "amount")), Per: Person,
				Choices: []Choice{{Tag: "x"}, {Tag: "y"}}[:rapid.IntRange(1, 2).Draw(t, "choices")]})
		}
		for _, f := range Answer(lines, pieces, evening) {
			for _, p := range f.Picks {
				if p.State == Aboard || p.State == Ashore {
					have[p.Piece.ID] -= p.Count
				}
			}
			if f.Ready+f.Missing != f.Wanted {
				t.Fatalf("%+v", f)
			}
		}
		for id, n := range have {
			if n < 0 {
				t.Fatalf("%s was counted %d times too often", id, -n)
			}
		}
	})
}

func TestAKitsLinesAreChecked(t *testing.T) {
	err := Check([]Line{{What: "", Amount: 0, Per: "mile"}})
	assert.ErrorContains(t, err, "lines[0].what")
	assert.ErrorContains(t, err, "lines[0].amount")
	assert.ErrorContains(t, err, "must be one of boat, person, rod, day")
	assert.ErrorContains(t, err, "name a piece of gear or a tag")
	assert.NoError(t, Check([]Line{{What: "net", Amount: 1, Per: Boat, Choices: []Choice{{Tag: "net"}}}}))
}

func TestWhatAnotherLineTookIsNotSaidToBeMissingFromTheCrew(t *testing.T) {
	one := []Piece{{ID: "a", Name: "wallet", Tags: []string{"cod"}, Count: 1}}
	found := Answer([]Line{{What: "rods", Amount: 1, Per: Boat, Choices: []Choice{{Tag: "cod"}}},
		{What: "rigs", Amount: 1, Per: Boat, Choices: []Choice{{Gear: "a"}}}}, one, Outing{Persons: 1})
	assert.Equal(t, 1, found[1].Missing)
	assert.Equal(t, []string{"what there is of it answers another line"}, found[1].Because)
}
