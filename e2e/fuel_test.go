package e2e

import (
	"testing"

	"github.com/go-rod/rod"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// cell is the first input of a row in a form, by its label.
func (p *page) cell(form, label string) *rod.Element {
	e, err := p.Timeout(patience).ElementByJS(rod.Eval(`(form, label) => {
		const f = [...document.querySelectorAll('form')].find(f => f.getAttribute('aria-label') === form);
		const l = f && [...f.querySelectorAll('label')].find(l => l.innerText.trim().startsWith(label));
		return l?.htmlFor ? document.getElementById(l.htmlFor) : null;
	}`, form, label))
	require.NoError(p.t, err, "%s: %s", form, label)
	return e.CancelTimeout()
}

// The cod run is short of fuel with its reserve; a can that goes along settles it.
func TestATripsFuelIsReckonedAndKept(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.room("Trip", "Trips")
	p.until("the cod run's fuel opens", `() => { const li = [...document.querySelectorAll('main li')].find(l => l.innerText.includes('cod run')); const a = [...(li?.querySelectorAll('a') ?? [])].find(a => a.innerText === 'Fuel'); a?.click(); return !!a }`)
	p.shows("4 L short: the way takes 39 L and 20 L are to be kept")
	p.shows("The whole way at one speed")
	p.axe("a trip's fuel")
	p.tap("^Add a can$")
	p.shows("Fill 16 L: the way takes 39 L, and 20 L are kept.")
	p.cell("The way and the reserve", "Distance").MustSelectAllText().MustInput("nonsense")
	p.shows("Fill 16 L") // what is half typed changes nothing
	p.submit("The way and the reserve")
	p.shows("write a number in km")
	p.cell("The way and the reserve", "Distance").MustSelectAllText().MustInput("20")
	p.shows("Fill 4 L")
	p.submit("The way and the reserve")
	p.shows("Saved.")
	p.MustReload()
	p.shows("Fill 4 L")

	p.cell("What her motor takes", "Takes").MustSelectAllText().MustInput("12") // at 8 km/h
	p.submit("What her motor takes")
	p.until("the slow leg takes more", `() => [...document.querySelectorAll('tr')].some(r => r.innerText.startsWith('slowly') && !r.innerText.includes('2.3 L'))`)

	p.MustSetViewport(390, 844, 1, true)
	p.find("[data-testid=fuel-headline]")
	assert.LessOrEqual(t, p.MustEval(`() => document.documentElement.scrollWidth`).Int(), 390, "nothing sticks out sideways")
	p.axe("a trip's fuel on a phone")
}
