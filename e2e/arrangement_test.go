package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// The things of a season go to a shelf, and come back to where each lay.
func TestASeasonIsPutAwayAndComesBack(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	boat := p.boats()[0]
	p.open(d.address + "/gear?boat=" + boat)
	p.click("[aria-label='Choose sinkers']")
	p.click("[aria-label='Choose pilk box']")
	p.shows("2 chosen")
	p.tap("^Move…$")
	p.fill("Move those chosen", map[string]string{"To come back to: keep where they lie in Dunlin as": "heavy cod"})
	p.submit("Move those chosen")
	p.until("what was done can be taken back", `() => document.querySelector('[aria-label="Undo"]')?.innerText.includes('2 things were moved: boathouse')`)
	p.until("they are off her", `() => [...document.querySelectorAll('ul[aria-label=Gear] li')].every(l => !l.innerText.includes('sinkers') || !l.innerText.includes('Dunlin'))`)
	p.until("the choice is let go", `() => !document.body.innerText.includes('2 chosen')`)
	p.click("section[aria-label=Undo] button")
	p.until("they are back", `() => [...document.querySelectorAll('ul[aria-label=Gear] li')].some(l => l.innerText.includes('sinkers') && l.innerText.includes('Dunlin'))`)

	p.open(d.address + "/boats/" + boat + "/arrangements")
	p.shows("heavy cod")
	p.axe("the arrangements")
	p.tap("^heavy cod")
	p.shows("2 things, all lie so now")
	p.choose("The way back", "What to do", "take its things off her")
	p.choose("The way back", "They go", "to boathouse, wet wall")
	p.shows("2 moves, in this order")
	p.axe("an arrangement")
	p.tap("^They are off her now$")
	p.shows("2 moves were made.")
	p.shows("None of its things is aboard")
	p.choose("The way back", "What to do", "lay its things as they lay")
	p.shows("2 moves, in this order")
	p.tap("^She lies so now$")
	p.shows("She lies so: nothing to move")
	p.tap("^Undo$")
	p.shows("2 in boathouse, wet wall")

	p.MustSetViewport(390, 844, 1, true)
	p.find("main h1")
	assert.LessOrEqual(t, p.MustEval(`() => document.documentElement.scrollWidth`).Int(), 390, "nothing sticks out sideways")
	p.axe("an arrangement on a phone")
	p.click("[aria-label='Remove: heavy cod']")
	p.until("it is gone", `() => location.pathname.endsWith('/arrangements') && ![...document.querySelectorAll('main li')].some(l => l.innerText.includes('heavy cod'))`)
	p.click("section[aria-label=Undo] button")
	p.shows("heavy cod")
}
