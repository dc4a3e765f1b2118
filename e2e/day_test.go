package e2e

import (
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// goes opens a page of a trip that is ahead, by the beginning of its name.
func (p *page) goes(d *program, trip, to string) {
	id := p.MustEval(`(name) => fetch('/api/session').then(r => r.json()).then(s => s.crews[0].trips.find(t => t.name.startsWith(name))?.id ?? '')`, trip).
		String()
	require.NotEmpty(p.t, id, trip)
	p.open(d.address + "/trips/" + id + to)
}

// The tournament is down by the bow; putting one man aft is a press, and is kept.
func TestADayIsLookedThroughAndBettered(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.goes(d, "two-day", "/day")
	p.until(
		"what is wrong is said",
		`() => document.querySelector('[data-testid=day-headline]')?.innerText.startsWith('She is down by the bow from')`,
	)
	p.until("what helps is tried", `() => !!document.querySelector('ul[aria-label="What would help"] button')`)
	p.axe("a trip's day")

	p.until(
		"the moment can be moved by keys",
		`() => { const s = document.querySelector('[role=slider]'); s?.focus(); return document.activeElement === s }`,
	)
	was := p.MustEval(`() => document.querySelector('[role=slider]').getAttribute('aria-valuenow')`).String()
	p.press(input.ArrowRight)
	p.until(
		"it is five minutes later",
		`(was) => Number(document.querySelector('[role=slider]').getAttribute('aria-valuenow')) === Number(was) + 5`,
		was,
	)
	p.press(input.Home)
	p.until(
		"on the road she is not afloat",
		`() => document.querySelector('main').innerText.includes('She is not afloat yet')`,
	)

	p.tap("^Do$")
	p.until("the day is better at once", `() => !document.querySelector('main aside').innerText.includes('2.3° bow down')`)
	p.submit("The day")
	p.until("it is kept", `() => [...document.querySelectorAll('[role=status]')].some(s => s.innerText === 'Saved.')`)
	kept := p.MustEval(`() => document.querySelector('main aside button').innerText`).String()
	p.MustReload()
	p.until("and there after a reload", `(kept) => document.querySelector('main aside button')?.innerText === kept`, kept)
	p.shows("single changes were tried") // what comes late moves what is pressed next

	p.until(
		"a phase is chosen",
		`() => { const b = [...document.querySelectorAll('[data-testid=time-line] [role=button]')].find(b => b.getAttribute('aria-label').startsWith('fish, first place')); b?.dispatchEvent(new MouseEvent('click', {bubbles: true})); return !!b }`,
	)
	p.shows("Called")
	before := p.MustEval(`() => document.querySelectorAll('[data-testid=time-line] [role=button]').length`).Int()
	p.until("the fixed time and tides open", `() => { const s = [...document.querySelectorAll('main summary')].find(s => s.innerText.startsWith('Fixed time')); s?.click(); return !!s }`)
	p.tap("^Add a tide or another time$")
	p.until("the tide is on the line", `() => document.querySelector('[data-testid=time-line]').textContent.includes('high water')`)
	p.tap("^Copy$")
	p.until(
		"there is one more",
		`(n) => document.querySelectorAll('[data-testid=time-line] [role=button]').length === n + 1`,
		before,
	)
}

// A guest of the crew may try a day, and keeps nothing.
func TestAGuestLooksAtADayOnAPhone(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 390, 844)
	p.signIn(d, "Tove")
	p.goes(d, "evening", "/day")
	p.until(
		"a scupper goes under",
		`() => document.querySelector('[data-testid=day-headline]')?.innerText.startsWith('A scupper goes under')`,
	)
	p.until(
		"nothing can be kept",
		`() => ![...document.querySelectorAll('button')].some(b => /^(Do$|Keep)/.test(b.innerText))`,
	)
	assert.LessOrEqual(
		t,
		p.MustEval(`() => document.documentElement.scrollWidth`).Int(),
		390,
		"nothing sticks out sideways",
	)
	p.axe("a trip's day on a phone")
	p.goes(d, "evening", "")
	p.find("[data-testid=verdict]")
	p.axe("a trip on a phone")
}

// From an empty trip to one of which every stage is settled and every line accepted: the
// crew's usual day, in fewer than forty presses.
func TestAUsualDayIsReadyInFewerThanFortyPresses(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.room("Trip", "All trips")
	presses := 2
	p.fill("Add a trip", map[string]string{"Name": "saturday, the sound", "Water": "Varmsund"})
	p.date("Add a trip", "First day", time.Now().AddDate(0, 0, 20))
	p.submit("Add a trip")
	presses += 4 // name, water and day are three fields
	p.until(
		"the trip opens",
		`() => { const a = [...document.querySelectorAll('main li h2 a')].find(a => a.innerText.trim() === 'saturday, the sound'); a?.click(); return !!a }`,
	)
	p.find("[data-testid=verdict]")
	presses++
	press := func(what string) {
		p.tap(what)
		presses++
	}
	p.until("to who comes", `() => { const a = document.querySelector('[data-stage=who] a'); a?.click(); return !!a }`)
	presses++
	for _, who := range []string{"^Ilse$", "^Oskar$", "^Marit$"} {
		press(who)
	}
	p.submit("Who comes")
	presses++
	press("^cod, pilk and jig$")
	p.until("the kit goes along", `() => !!document.querySelector('section[aria-label="cod, pilk and jig"]')`)
	p.goes(d, "saturday", "/fuel")
	presses++
	press("^Add a leg$")
	press("^Add a leg$")
	p.submit("The way and the reserve")
	presses++
	p.goes(d, "saturday", "/stow")
	presses++
	press("^Stow for this trip$")
	p.until(
		"places were found",
		`() => [...document.querySelectorAll('main a')].some(a => a.innerText.startsWith('The moves'))`,
	)
	p.goes(d, "saturday", "/day")
	presses++
	p.find("[data-testid=day-headline]")
	p.submit("The day")
	presses++
	p.goes(d, "saturday", "")
	presses++
	for range 15 {
		p.find("[data-testid=verdict]")
		more := p.MustEval(`() => { const b = [...document.querySelectorAll('button')].find(b => b.innerText === 'Accept'); b?.click(); return b?.getAttribute('aria-label') ?? '' }`).
			String()
		if more == "" {
			break
		}
		presses++
		p.until(
			"it is accepted",
			`(label) => ![...document.querySelectorAll('button')].some(b => b.getAttribute('aria-label') === label)`,
			more,
		)
	}
	p.until("she is ready", `() => document.querySelector('[data-testid=verdict]').innerText.startsWith('Ready')`)
	t.Log(presses, "presses")
	assert.Less(t, presses, 40)
}

func TestGuestsAreShownWhatTheyNeedAndNoMore(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.goes(d, "evening", "/sheets")
	p.fill(
		"For someone ashore",
		map[string]string{"What guests are told: where to be, what to bring": "Warm clothes, the jetty at four"},
	)
	p.submit("For someone ashore")
	p.shows("Saved.")
	p.axe("a trip's sheets")
	p.tap("^Make the link$")
	link := p.find("[data-testid=guest-link]").MustText()
	q := browse(t, 390, 844)
	q.open(link)
	q.shows("Warm clothes, the jetty at four")
	q.shows("Ilse")
	text := q.MustEval(`() => document.body.innerText`).String()
	assert.NotContains(t, text, "kg")
	assert.NotContains(t, text, "first guest")
	q.axe("what guests are shown")
	p.tap("^End the link$")
	q.MustReload()
	q.shows("This link has ended")
	q.open(strings.Split(link, "#")[0] + "#short")
	q.shows("This link is not whole")
}

func TestFishAreNotedOnAPhone(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 390, 844)
	p.signIn(d, "Sune")
	p.goes(d, "two-day", "/catch")
	p.shows("Nothing caught yet")
	p.axe("the catch")
	for _, length := range []string{"82", "76", "91", "70", "88", "95"} {
		p.find("form[aria-label='A fish'] select").MustSelect("pike")
		p.fill("A fish", map[string]string{"Length": length})
		p.tap("^Note it$")
		p.until("it is noted", `(l) => document.querySelector('ul[aria-label=Fish]')?.innerText.includes(l + ' cm')`, length)
	}
	p.until(
		"five count, and the shortest goes back",
		`() => document.querySelector('[data-testid=goes-back]')?.innerText.includes('pike of 2.35 kg goes back')`,
	)
	p.shows("the best 5 of 5")
}

func TestThingsAreTickedOffAndLeftAshore(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 390, 844)
	p.signIn(d, "Sune")
	p.goes(d, "cod run", "/pack")
	p.shows("A tick says that it stands on the quay")
	p.axe("packing on a phone")
	p.click("button[aria-label^='Here: gutting table']")
	p.until("it stands on the quay", `() => document.querySelector('section[aria-label="Here already"]')?.innerText.includes('gutting table the quay')`)
	p.click("button[aria-label='Leave ashore: sinkers']")
	p.until("it stays ashore on this trip", `() => document.querySelector('section[aria-label="Stays ashore"]')?.innerText.includes('sinkers')`)
	p.goes(d, "cod run", "/who")
	p.shows("Who comes")
	p.axe("who comes, on a phone")
	p.goes(d, "cod run", "/stow")
	p.tap("^Stow for this trip$")
	p.until("a place was looked for all of it", `() => [...document.querySelectorAll('main a')].some(a => a.innerText.startsWith('The moves'))`)
	p.axe("stowing for a trip, on a phone")
	assert.LessOrEqual(t, p.MustEval(`() => document.documentElement.scrollWidth`).Int(), 390, "nothing sticks out sideways")
}
