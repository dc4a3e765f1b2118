package e2e

import (
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
)

// at is where a piece is drawn in the layers, to the pixel.
func (p *page) at(piece string) [2]int {
	box := p.find(`[data-testid=layers] [data-piece="` + piece + `"]`).MustShape().Box()
	return [2]int{int(box.X + box.Width/2), int(box.Y + box.Height/2)}
}

func TestAPieceIsLaidByHandWithMouseAndKeys(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Marit")
	p.pressPlace("step")
	const gloves = `[data-testid=layers] [data-piece="gloves and rags"]`
	before := p.at("gloves and rags")
	edge := p.find("[data-testid=layers] svg").MustShape().Box()
	p.Mouse.MustMoveTo(float64(before[0]), float64(before[1]))
	p.Mouse.MustDown("left")
	p.Mouse.MustMoveTo(edge.X+edge.Width, edge.Y+edge.Height)
	p.drop()
	p.shows("Laid by hand")
	moved := p.at("gloves and rags")
	assert.NotEqual(t, before, moved)
	p.find(gloves).MustFocus()
	p.press(input.ArrowLeft)
	p.until("the arrow moves it", `(x) => { const b = document.querySelector('[data-testid=layers] [data-piece="gloves and rags"]').getBoundingClientRect(); return Math.abs(b.x + b.width / 2 - x) > 2 }`, moved[0])
	wide := `() => { const b = document.querySelector('[data-testid=layers] [data-piece="gloves and rags"] rect').getBBox(); return b.width > b.height }`
	was := p.MustEval(wide).Bool()
	p.find(gloves).MustFocus()
	p.press(input.KeyR)
	p.until("R turns it", `(was) => (`+wide+`)() !== was`, was)
	p.tap("^Undo$")
	p.until("undo turns it back", `(was) => (`+wide+`)() === was`, was)
	p.axe("laying by hand")
	p.tap("^lay all anew$")
	p.until("the program lays it again", `() => !document.querySelector('[data-testid=layers]').innerText.includes('Laid by hand')`)
	assert.Equal(t, before, p.at("gloves and rags"))
}

func TestRodsArePlannedAndListed(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 390, 844)
	p.signIn(d, "Ilse")
	p.room("Boat", "Rods")
	p.shows("fly rod 2.7 m, one piece")
	p.shows("fly rod 2.7 m, one piece is 272 cm long; port rod bed is 220 cm inside.")
	p.axe("rods")
	p.tap("^Plan the rods$")
	p.shows("rods only")
	p.looksForAPlan()
	p.until("rods move, and nothing else", `() => { const l = [...document.querySelectorAll('section[aria-label=Moves] ol b')]; return l.length > 0 && l.every(b => b.innerText.includes('rod')) }`)
	p.until("it ends by itself or is stopped", `() => { const b = document.querySelector('form[aria-label="Priorities"] button[type=submit]'); if (b.innerText === 'Stop looking') b.click(); return b.innerText === 'Look again' }`)
	p.tap("^Use this plan$|^Make [0-9]+ of the moves$")
	p.until("it is done", `() => document.querySelector('section[aria-label="In reach"]') !== null`)
	p.room("Boat", "Rods")
	p.shows("stands highest: its tip is")
	p.fill("On the way", map[string]string{"Lowest bridge afloat": "2.5"})
	p.shows("does not pass under the bridge of 2.50 m")
	assert.LessOrEqual(t, p.MustEval(`() => document.documentElement.scrollWidth`).Int(), 390, "nothing stands out at the side")
}

func TestACrewSetsItsOwnTimes(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Oskar")
	before := p.tally("Rummage")
	p.room("Crew", "People")
	p.tap("^How long things take in this crew$")
	p.shows("These are the usual ones.")
	p.fill("How long things take", map[string]string{"Cold, wet, seaway": "2"})
	p.submit("How long things take")
	p.shows("These are the crew's own.")
	p.axe("times")
	p.room("Boat", "Stow")
	p.until("the tally follows", `(before) => Math.abs(Number(document.querySelector('[data-tally=Rummage] [data-value]').innerText) - 2 * parseFloat(before)) < 2`, before)
}

func TestAPlaceIsKeptForOnePerson(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.room("Boat", "Set up")
	p.tap("Places")
	p.tap("^console front seat$")
	p.choose("Change console front seat", "Kept for", "Marit")
	p.submit("Change console front seat")
	p.room("Boat", "Stow")
	p.pressGear("fish bin with lid")
	p.pressPlace("console front seat")
	p.shows("console front seat is kept for Marit's things; fish bin with lid is not Marit's.")
}
