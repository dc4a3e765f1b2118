package e2e

import (
	"testing"
	"time"

	"ergasia/app/trips"

	"github.com/go-rod/rod"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// within presses a button of the list item that has a text.
func (p *page) within(item, button string) {
	p.until(button+" of "+item, `(item, button) => {
		const li = [...document.querySelectorAll('main li')].find(l => l.innerText.includes(item));
		const b = li && [...li.querySelectorAll('button, a, summary')].find(b => b.innerText.trim().startsWith(button));
		b?.click();
		return !!b;
	}`, item, button)
}

func TestATripIsPlannedAndLogged(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Oskar")
	p.room("Trip", "All trips")
	p.fill("Add a trip", map[string]string{"Name": "last light", "Water": "Varmsund", "Hours of running": "2"})
	p.date("Add a trip", "First day", time.Now())
	p.submit("Add a trip")
	p.shows("last light")
	p.within("last light", "Nothing promised")
	p.shows("Nothing yet: open a kit")
	p.axe("a trip")
	before := p.listed("pilk box")
	p.within("last light", "Log the trip")
	p.shows("What was in a hand")
	p.axe("a trip's log")
	p.tap("^pilk box$")
	p.fill("Log last light", map[string]string{"Hours run": "3.5"})
	p.submit("Log last light")
	p.until("it is among those that were", `() => [...document.querySelectorAll('section')].some(s => s.innerText.startsWith('Past trips') && s.innerText.includes('last light') && s.innerText.includes('3.5 h running'))`)
	after := p.listed("pilk box")
	assert.Equal(t, before.Trips+1, after.Trips, "what is aboard was on one trip more")
	assert.InDelta(t, before.Hours+3.5, after.Hours, 1e-9)

	p.within("cod run", "Kits")
	p.shows("Choose a kit to promise to cod run")
	p.room("Trip", "All trips")
	var promised []trips.PromisedView
	var trips []trips.TripView
	p.get(p.crew()+"/trips", &trips)
	for _, trip := range trips {
		if trip.Name == "evening with two guests" {
			p.get(p.crew()+"/trips/"+trip.ID.String()+"/gear", &promised)
		}
	}
	require.NotEmpty(t, promised)
	p.until("the list opens", `() => { const li = [...document.querySelectorAll('main li')].find(l => l.innerText.includes('evening with two guests')); const b = li && [...li.querySelectorAll('button')].find(b => /promised$/.test(b.innerText)); b?.click(); return !!b }`)
	p.shows("are aboard or on the quay")
	p.click("button[aria-label='Left ashore: " + promised[0].Name + "']")
	p.until("it stays at home", `(name) => !document.querySelector('button[aria-label="Left ashore: ' + name + '"]')`, promised[0].Name)
}

func TestAKitIsChangedAndItsLinesAnswered(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Marit")
	p.room("Gear", "Kits")
	p.tap("^ice")
	p.until("what is lent is said", `() => document.querySelector('ul[aria-label=Lines]')?.innerText.includes("ice auger is lent to Torvald's crew")`)
	p.tap("^Add a line$")
	p.until("the line is there", `() => document.querySelectorAll('form[aria-label="Change ice"] fieldset').length === 6`)
	last := `form[aria-label="Change ice"] fieldset:last-of-type `
	p.find(last + "input").MustInput("thermos")
	p.find(last + "input[placeholder='gear, or a #tag']").MustInput("thermos")
	p.tap("^thermos and food box$")
	p.submit("Change ice")
	p.until("it is answered", `() => document.querySelector('ul[aria-label=Lines]').innerText.includes('thermos and food box, the quay')`)
	require.NoError(t, p.find("main select").Select([]string{"cod run, 18 nautical miles"}, true, rod.SelectorTypeText))
	p.shows("4 people, 5 rods, 1 day, Dunlin")
	p.tap("^Remove the kit$")
	p.until("it is gone", `() => location.pathname === '/kits' && ![...document.querySelectorAll('main a')].some(a => a.innerText.startsWith('ice'))`)
}
