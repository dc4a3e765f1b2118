package circuits

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// sound is a small boat's electrics: two banks on a selector, a panel behind a breaker, a
// bow motor on a bank of its own.
func sound() Net {
	return Net{
		Parts: []Part{
			{Key: "start", Name: "starting battery", Kind: Bank, Volts: 12},
			{Key: "house", Name: "house battery", Kind: Bank, Volts: 12},
			{Key: "motor", Name: "bow motor's bank", Kind: Bank, Volts: 24},
			{Key: "sel", Name: "selector", Kind: Selector, From: []string{"start", "house"}},
			{Key: "brk", Name: "main breaker", Kind: Breaker, From: []string{"sel"}, Rating: 60},
			{Key: "panel", Name: "helm panel", Kind: Panel, From: []string{"brk"}, Ways: 6},
			{Key: "mb", Name: "motor breaker", Kind: Breaker, From: []string{"motor"}, Rating: 60},
		},
		Circuits: []Circuit{
			{Key: "nav", Name: "navigation lights", From: "panel"},
			{Key: "sonar", Name: "sonar", From: "panel"},
			{Key: "bilge", Name: "bilge pump", From: "start"},
			{Key: "bow", Name: "bow motor", From: "mb"},
		},
	}
}

func TestWhatFeedsWhat(t *testing.T) {
	n := sound()
	require.NoError(t, n.Check())
	assert.Equal(t, []string{"house", "start"}, n.Feeding("panel", nil))
	for at, banks := range map[Position][]string{First: {"start"}, Second: {"house"}, Both: {"house", "start"}, Off: nil} {
		assert.Equal(t, banks, n.Feeding("panel", map[string]Position{"sel": at}), at)
	}
	assert.Equal(t, []string{"start", "house", "sel", "brk", "panel"}, n.Way("sonar"))
	assert.Equal(t, []string{"start"}, n.Way("bilge"))
	assert.Equal(t, 2, n.Used("panel"))
}

func TestWhatDiesWithAFuse(t *testing.T) {
	n := sound()
	assert.Equal(t, []string{"nav", "sonar"}, n.Dies("brk"))
	assert.Equal(t, []string{"bilge"}, n.Dies("start"), "the panel still has the house battery")
	assert.Empty(t, n.Dies("house"))
	assert.Equal(t, []string{"bow"}, n.Dies("mb"))
}

func TestASwitchThatIsOffFeedsNothing(t *testing.T) {
	n := sound()
	n.Parts[6].Kind = Switch
	assert.Equal(t, []string{"motor"}, n.Feeding("mb", nil))
	assert.Empty(t, n.Feeding("mb", map[string]Position{"mb": Off}))
	assert.Equal(t, []string{"motor"}, n.Feeding("mb", map[string]Position{"mb": First}))
}

func TestWhatCantBeIsNamed(t *testing.T) {
	for says, spoil := range map[string]func(*Net){
		"two need a selector":                       func(n *Net) { n.Parts[5].From = []string{"brk", "motor"} },
		"main breaker ← helm panel ← main breaker":  func(n *Net) { n.Parts[4].From = []string{"panel"} },
		"feeds itself":                              func(n *Net) { n.Parts[4].From = []string{"brk"} },
		"must be a part of this boat":               func(n *Net) { n.Parts[4].From = []string{"shore"} },
		"must be fed by one or two, not by 3":       func(n *Net) { n.Parts[3].From = []string{"start", "house", "motor"} },
		"bow motor's bank has 24 V":                 func(n *Net) { n.Parts[3].From = []string{"start", "motor"} },
		"feeds it already":                          func(n *Net) { n.Parts[3].From = []string{"start", "start"} },
		"is a bank: nothing feeds it":               func(n *Net) { n.Parts[0].From = []string{"house"} },
		"helm panel has 2 on it":                    func(n *Net) { n.Parts[5].Ways = 1 },
		"must be a key of its own":                  func(n *Net) { n.Circuits[0].Key = "panel" },
		"hangs on sonar too":                        func(n *Net) { n.Circuits[1].Load, n.Circuits[2].Load = "x", "x" },
		"navigation lights hangs on what is gone":   func(n *Net) { n.Circuits[0].From = "nav" },
		"parts[4].rating_a is -1: must be from 0":   func(n *Net) { n.Parts[4].Rating = -1 },
		"parts[4].kind is \"wish\": must be one of": func(n *Net) { n.Parts[4].Kind = "wish" },
	} {
		n := sound()
		spoil(&n)
		err := n.Check()
		require.Error(t, err, says)
		assert.Contains(t, err.Error(), says)
	}
	assert.ErrorContains(t, Net{Parts: make([]Part, 61)}.Check(), "at most 60")
}

// random is a net that can be: each part is fed by an earlier one.
func random(t *rapid.T) Net {
	var n Net
	banks := rapid.IntRange(1, 4).Draw(t, "banks")
	for i := range banks {
		n.Parts = append(n.Parts, Part{Key: fmt.Sprint("b", i), Name: "bank", Kind: Bank, Volts: 12})
	}
	for i := range rapid.IntRange(0, 12).Draw(t, "parts") {
		p := Part{Key: fmt.Sprint("p", i), Name: "part", Kind: Breaker}
		from := rapid.IntRange(0, len(n.Parts)-1).Draw(t, "from")
		p.From = []string{n.Parts[from].Key}
		if other := rapid.IntRange(0, len(n.Parts)-1).Draw(t, "other"); other != from &&
			rapid.Bool().Draw(t, "selects") {
			p.Kind, p.From = Selector, append(p.From, n.Parts[other].Key)
		}
		n.Parts = append(n.Parts, p)
	}
	for i := range rapid.IntRange(0, 40).Draw(t, "circuits") {
		from := rapid.IntRange(0, len(n.Parts)-1).Draw(t, "hangs on")
		n.Circuits = append(n.Circuits, Circuit{Key: fmt.Sprint("c", i), Name: "circuit", From: n.Parts[from].Key})
	}
	return n
}

func TestOnTheDrawingNothingStandsInTheWayOfAnother(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := random(t)
		require.NoError(t, n.Check())
		d := n.Drawn()
		require.Len(t, d.Parts, len(n.Parts))
		require.Len(t, d.Circuits, len(n.Circuits))
		at := map[string]Spot{}
		rows := map[float64]bool{}
		for _, s := range d.Circuits {
			assert.Equal(t, d.Columns-1, s.Column)
			assert.False(t, rows[s.Row], "each circuit has a row of its own")
			rows[s.Row], at[s.Key] = true, s
		}
		for i, s := range d.Parts {
			at[s.Key] = s
			for _, o := range d.Parts[:i] {
				if o.Column == s.Column {
					assert.GreaterOrEqual(t, math.Abs(o.Row-s.Row), 1., "%s and %s", o.Key, s.Key)
				}
			}
			assert.GreaterOrEqual(t, s.Row, 0.)
			assert.LessOrEqual(t, s.Row, float64(d.Rows-1))
		}
		for _, l := range d.Lines {
			from, to := at[l.From], at[l.To]
			assert.Less(t, from.Column, to.Column, "from the banks to the circuits")
			if l.Lane > 0 {
				continue
			}
			for _, s := range d.Parts { // the line runs at the row of what it leads to
				if s.Column > from.Column && s.Column < to.Column {
					assert.GreaterOrEqual(t, math.Abs(s.Row-to.Row), 1., "%s passes %s", l.To, s.Key)
				}
			}
		}
	})
}

// A ladder of selectors has more ways to a bank than anybody could follow one by one.
func TestALadderOfSelectorsIsFollowedOnce(t *testing.T) {
	n := Net{Parts: []Part{{Key: "a", Name: "a", Kind: Bank, Volts: 12}, {Key: "b", Name: "b", Kind: Bank, Volts: 12}}}
	for i := range MostParts - 2 {
		n.Parts = append(n.Parts, Part{Key: fmt.Sprint("s", i), Name: "selector", Kind: Selector,
			From: []string{n.Parts[i].Key, n.Parts[i+1].Key}})
	}
	last := n.Parts[len(n.Parts)-1].Key
	n.Circuits = []Circuit{{Key: "c", Name: "lamp", From: last}}
	require.NoError(t, n.Check())
	assert.Equal(t, []string{"a", "b"}, n.Feeding(last, nil))
	assert.Equal(t, []string{"c"}, n.Dies(last))
	assert.Len(t, n.Way("c"), MostParts)
	assert.Equal(t, MostParts+1, n.Drawn().Columns+1)
}

func TestASecondBankStandsBesideItsSelector(t *testing.T) {
	n := sound()
	n.Circuits = n.Circuits[:2]
	d := n.Drawn()
	row := map[string]float64{}
	for _, s := range d.Parts {
		row[s.Key] = s.Row
	}
	assert.InDelta(t, row["start"], row["sel"], 1e-12)
	assert.InDelta(t, row["panel"], row["sel"], 1e-12)
	assert.Equal(t, 2., row["house"], "right below what hangs on the selector")
}
