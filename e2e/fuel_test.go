package e2e

import (
	"os"
	"path/filepath"
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
	p.room("Trip", "All trips")
	p.until("the cod run's fuel opens", `() => { const li = [...document.querySelectorAll('main li')].find(l => l.innerText.includes('cod run')); const a = [...(li?.querySelectorAll('a') ?? [])].find(a => a.innerText === 'Fuel'); a?.click(); return !!a }`)
	p.shows("4 L short: the way takes 39 L and 20 L are to be kept")
	p.shows("The whole way at one speed")
	p.axe("a trip's fuel")
	p.tap("^Add a can$")
	p.shows("Fill 16 L: the way takes 39 L, and 20 L are kept.")
	p.cell("The way and the reserve", "Distance").MustSelectAllText().MustInput("nonsense")
	p.shows("Fill 16 L") // what is half typed changes nothing
	p.submit("The way and the reserve")
	p.shows("write a number in nmi")
	p.cell("The way and the reserve", "Distance").MustSelectAllText().MustInput("11")
	p.shows("Fill 3 L")
	p.submit("The way and the reserve")
	p.shows("Saved.")
	p.MustReload()
	p.shows("Fill 3 L")

	const slowly = `() => [...document.querySelectorAll('tr')].find(r => r.innerText.startsWith('slowly')).innerText`
	before := p.MustEval(slowly).Str()
	p.cell("What her motor takes", "Takes").MustSelectAllText().MustInput("12") // at 8 km/h
	p.submit("What her motor takes")
	p.until("the slow leg takes more", `(before) => (`+slowly+`)() !== before`, before)

	file := filepath.Join(t.TempDir(), "way.gpx")
	bring := func(text string) {
		require.NoError(t, os.WriteFile(file, []byte(text), 0o600))
		p.find("[aria-label='A GPX file']").MustSetFiles(file)
	}
	bring(`<!DOCTYPE gpx [<!ENTITY a "b">]><gpx/>`)
	p.shows("it has a DTD, which is not read")
	bring(`<gpx><trk><name>to the lighthouse</name><trkseg><trkpt lat="58" lon="9"/><trkpt lat="58.1" lon="9"/></trkseg></trk></gpx>`)
	p.shows("to the lighthouse")
	p.tap("^Out and home by it$")
	p.until("the way is out and home", `() => [...document.querySelectorAll('td')].filter(c => c.innerText === '6.0 nmi').length === 2`)
	p.find("[aria-label^='The way as drawn']")
	p.tap("^Take the drawn way off$")
	p.until("it is not drawn", `() => !document.querySelector("[aria-label^='The way as drawn']")`)

	assert.False(t, p.MustEval(`() => document.documentElement.scrollHeight > innerHeight`).Bool(), "only the page's middle scrolls")
	p.MustSetViewport(390, 844, 1, true)
	p.find("[data-testid=fuel-headline]")
	assert.LessOrEqual(t, p.MustEval(`() => document.documentElement.scrollWidth`).Int(), 390, "nothing sticks out sideways")
	p.axe("a trip's fuel on a phone")
}

// A guest may try what a trip takes, and keeps nothing.
func TestAGuestTriesFuelAndKeepsNothing(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 390, 844)
	p.signIn(d, "Tove")
	p.open(d.address + "/trips")
	p.until("the cod run's fuel opens", `() => { const li = [...document.querySelectorAll('main li')].find(l => l.innerText.includes('cod run')); const a = [...(li?.querySelectorAll('a') ?? [])].find(a => a.innerText === 'Fuel'); a?.click(); return !!a }`)
	p.shows("4 L short")
	p.tap("^Add a can$")
	p.shows("Fill 16 L")
	assert.Zero(t, p.MustEval(`() => [...document.querySelectorAll('main button')].filter(b => b.innerText.startsWith('Keep')).length`).Int())
	p.axe("a guest's fuel on a phone")
}

// Saving the tanks in set-up keeps what of them can't be drawn.
func TestTanksKeepWhatCannotBeDrawn(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	boat := p.boats()[0]
	p.open(d.address + "/boats/" + boat + "/setup")
	p.tap("^Tanks")
	p.find("section[aria-label='Tanks'] form")
	p.click("section[aria-label='Tanks'] form button[type=submit]")
	p.find("section[aria-label='Posts and seats'] form")
	var view struct {
		Version int
		Outfit  struct {
			Tanks []struct {
				Rest float64 `json:"unusable_l"`
			}
		}
	}
	p.get(p.crew()+"/boats/"+boat, &view)
	assert.Greater(t, view.Version, 1, "it was saved")
	assert.InDelta(t, 2, view.Outfit.Tanks[0].Rest, 1e-6)
}
