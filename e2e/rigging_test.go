package e2e

import (
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
)

// A fitting goes from a line of text to its place in under six presses: what it would
// be in the way of is said while it is in hand, and taken back is taken back.
func TestAFittingIsListedTriedAndMounted(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.room("Boat", "Rigging")
	p.shows("21 fittings; one thing to see to.")
	p.shows("Sonar pole folds at 4.7 kn")
	p.axe("a boat's rigging")
	presses := 0
	press := func() { presses++ }

	p.find("form[aria-label='Add a fitting'] textarea").MustInput("rod holder 15° port 0.6 kg M6x50")
	p.press(input.Enter)
	press()
	p.shows("is in hand")
	area := p.find("[data-testid=plan-area]").MustShape().Box()
	helm := p.find("[data-fitting='console display, 12 in'] > g:last-child > path").MustShape().Box() // over the console's lid
	p.Mouse.MustMoveTo(helm.X+helm.Width/2, helm.Y+helm.Height/2)
	p.Mouse.MustClick(proto.InputMouseButtonLeft)
	press()
	p.until("the dry run says what it meets", `() => document.querySelector('[data-testid=dry-run]')?.innerText.includes('claim one space')
		|| document.querySelector('[data-testid=dry-run]')?.innerText.includes('console')`)
	p.Mouse.MustMoveTo(area.X+area.Width*0.35, helm.Y-60)
	p.Mouse.MustClick(proto.InputMouseButtonLeft)
	press()
	p.axe("a fitting in hand")
	p.tap("^How it is held$")
	p.shows("Best: ")
	p.shows("What it must bear")
	p.tap("^Where$")
	p.submit("Fitting in hand")
	press()
	p.shows("22 fittings")
	assert.Less(t, presses, 6)
	p.tap("^Take it back$")
	p.shows("21 fittings")
}

// What is typed half stays, nonsense is refused in a sentence, and arrows move it.
func TestAFittingInHandSurvivesNonsenseAndAReload(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 390, 844)
	p.signIn(d, "Ilse")
	p.room("Boat", "Rigging")
	p.find("form[aria-label='Add a fitting'] textarea").MustInput("2 cleats")
	p.press(input.Enter)
	p.shows("and 1 more after it")
	p.find("[data-measure=x]").MustSelectAllText().MustInput("nonsense")
	p.shows("A number is half typed")
	p.submit("Fitting in hand")
	p.shows("From the transom: write a number in cm.")
	p.MustReload()
	p.shows("and 1 more after it")
	p.find("[data-measure=x]").MustSelectAllText().MustInput("900")
	p.until("the server says what is wrong", `() => document.querySelector('[role=alert]')?.innerText.length > 0`)
	p.find("[data-measure=x]").MustSelectAllText().MustInput("60")
	p.find("[role=slider]").MustFocus()
	p.press(input.ArrowRight)
	p.until("an arrow moved it a centimetre", `() => document.querySelector('[data-measure=x]').value === '61'`)
	assert.LessOrEqual(t, p.MustEval(`() => document.documentElement.scrollWidth`).Int(), 390, "nothing sticks out sideways")
	p.tap("^Mount all 2 as guessed$")
	p.shows("23 fittings")
}
