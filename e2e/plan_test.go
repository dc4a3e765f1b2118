package e2e

import (
	"strconv"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestAPlanIsFoundAndTakenOver(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	minutes := func() float64 {
		n, err := strconv.ParseFloat(strings.Fields(p.tally("Rummage"))[0], 64)
		require.NoError(t, err)
		return n
	}
	before := minutes()
	p.room("Boat", "Plan")
	p.shows("In reach from")
	p.until("the way to each place is told", `() => document.querySelectorAll('section[aria-label="In reach"] details li').length === 19`)
	p.looksForAPlan()
	p.until("moves are listed", `() => document.querySelectorAll('section[aria-label=Moves] ol li').length > 3`)
	p.until("it ends by itself or is stopped", `() => { const b = document.querySelector('form[aria-label="Priorities"] button[type=submit]'); if (b.innerText === 'Stop looking') b.click(); return b.innerText === 'Look again' }`)
	p.shows("No other plan can save more than")
	p.tap("^Keep it, to compare the next with$")
	p.shows("Compared with the plan you kept, by use.")
	p.tap("^Use the kept plan$")
	p.shows("Keep it, to compare the next with")
	p.axe("a plan")
	p.until("all but one are chosen", `() => { const boxes = [...document.querySelectorAll('section[aria-label=Moves] ol input')]; boxes.at(-1).click(); return true }`)
	p.tap("^Make [0-9]+ of the moves$|^Use this plan$")
	p.until("it is done", `() => document.querySelector('section[aria-label="In reach"]') !== null`)
	p.room("Boat", "Stow")
	p.until("the tally has it", `(before) => Number(document.querySelector('[data-tally=Rummage] [data-value]').innerText) < before`, before)
	assert.Less(t, minutes(), before)
	p.tap("^Undo$")
	p.until("one's last move is taken back", `() => [...document.querySelectorAll('button')].some(b => b.innerText.trim() === 'Redo' && !b.disabled)`)
}

func TestALockerIsLookedDownThrough(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Marit")
	p.pressPlace("port bench")
	drawn := func() int { return len(p.MustElements("[data-testid=layers] svg g > g")) }
	p.find("[data-testid=layers] svg g")
	all := drawn()
	assert.Equal(t, 5, all, "five lifejackets")
	slider := p.find("[data-testid=layers] input[type=range]")
	require.NoError(t, slider.Focus())
	p.press(input.ArrowLeft)
	p.until("the upper layer is off", `(all) => { const n = document.querySelectorAll('[data-testid=layers] svg g').length; return n > 0 && n < all }`, all)
}

func TestAGuestMayLookAtAPlanAndNotTakeItOver(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 390, 844)
	p.signIn(d, "Tove")
	p.room("Boat", "Plan")
	p.looksForAPlan()
	p.until("moves are listed", `() => document.querySelectorAll('section[aria-label=Moves] ol li').length > 3`)
	assert.False(t, p.MustHas("section[aria-label=Moves] > button.main-button"))
	assert.LessOrEqual(t, p.MustEval(`() => document.documentElement.scrollWidth`).Int(), 390, "nothing stands out at the side")
}

// looksForAPlan presses the button until the search has begun. On a busy machine a press may
// be taken for lost and be made again, which stops the search that the first one began.
func (p *page) looksForAPlan() {
	const submit = `form[aria-label="Priorities"] button[type=submit]`
	for range 5 {
		p.click(submit)
		if _, err := p.Timeout(patience/5).ElementR(submit, "^(Stop looking|Look again)$"); err == nil {
			return
		}
	}
	require.Fail(p.t, "no search begins")
}
