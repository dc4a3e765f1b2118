package e2e

import (
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// toPower goes to the electrics of the boat that is on.
func (p *page) toPower(d *program, name string) {
	p.signIn(d, name)
	p.room("Boat", "Power")
	p.shows("Power of Dunlin")
}

// on chooses something on the line, by its name.
func (p *page) on(name string) {
	p.click(`[aria-label="On one line"] [role=button][aria-label^="` + name + `,"]`)
}

// What is wrong is found, traced, hung elsewhere, kept, and taken back.
func TestACircuitIsTracedAndHungOnAnotherBattery(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.toPower(d, "Ilse")
	p.shows("1 thing wants a hand")
	p.axe("a boat's electrics")
	p.on("main breaker")
	p.shows("Dies with it: radio, running lights, stern light, phone socket.")
	p.on("console display")
	p.shows("It hangs on the starting battery")
	p.shows("Needs 18 AWG or 0.75 mm², and 5 A")
	p.axe("a circuit")
	p.choose("Her electrics", "Hangs on", "house battery")
	p.until("it no longer wants a hand", `() => !document.body.innerText.includes('It hangs on the starting battery')`)
	p.submit("Her electrics")
	p.shows("Saved.")
	p.tap("^All of it$")
	p.shows("Nothing wants a hand.")
	p.click("section[aria-label=Undo] button")
	p.shows("1 thing wants a hand")
	p.MustReload().MustWaitLoad()
	p.shows("1 thing wants a hand")
}

// A fuse that its wire does not stand is refused in a sentence, what was typed stays, also
// over a reload, and nothing of it was kept.
func TestAFuseOverItsWireIsRefused(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.toPower(d, "Ilse")
	p.on("radio")
	fuse := func() string { return p.field("Her electrics", "Its own fuse").MustText() }
	p.fill("Her electrics", map[string]string{"Its own fuse": "200"})
	p.press(input.Tab)
	p.shows("its wire of 2.08 mm² stands 52 A and burns before this fuse blows")
	p.submit("Her electrics")
	p.until("it is refused", `() => document.querySelectorAll('[role=alert]').length > 1`)
	p.fill("Her electrics", map[string]string{"Draws": "a lot"})
	p.press(input.Tab)
	p.until("a number is asked for", `() => [...document.querySelectorAll('form label')]
		.find(l => l.innerText.startsWith('Draws')).querySelector('input').value === '0.9'`)
	p.MustReload().MustWaitLoad()
	p.shows("What you typed here before is not saved yet.")
	p.on("radio")
	assert.Equal(t, "200", fuse())
	p.tap("^Begin again from what is saved$")
	p.until("as it was kept", `() => [...document.querySelectorAll('form label')]
		.find(l => l.innerText.startsWith('Its own fuse')).querySelector('input').value === '7.5'`)
	*p.complaints = nil // the refusals
}

// Two people change the same electrics: the second is told, and what they typed is still there.
func TestTwoWhoWireTheSameBoat(t *testing.T) {
	d := demoProgram(t)
	p, q := browse(t, 1280, 800), browse(t, 1280, 800)
	p.toPower(d, "Ilse")
	q.toPower(d, "Oskar")
	rename := func(x *page, name string) {
		x.on("radio")
		x.field("Her electrics", "Name").MustSelectAllText().MustInput(name)
		x.submit("Her electrics")
	}
	rename(p, "fixed radio")
	p.shows("Saved.")
	rename(q, "helm radio")
	q.shows("was changed by someone else meanwhile")
	require.Equal(t, "helm radio", q.field("Her electrics", "Name").MustText())
	*q.complaints = nil
	q.submit("Her electrics")
	q.shows("Saved.")
}

// What hung on a part that is taken off hangs on what fed it; nothing is left dangling.
func TestAPartIsTakenOffAndACircuitAdded(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.toPower(d, "Ilse")
	p.on("main breaker")
	p.tap("^Take it off her$")
	p.until("it is off the line", `() => !document.querySelector('[aria-label="On one line"]').textContent.includes('main breaker')`)
	p.on("helm panel")
	p.shows("Dies with it: radio, running lights, stern light, phone socket.")
	p.tap("^All of it$")
	p.tap("^Another circuit$")
	p.fill("Her electrics", map[string]string{"Name": "cabin fan"})
	p.press(input.Tab)
	p.until("it is on the line", `() => document.querySelector('[aria-label="On one line"]').textContent.includes('cabin fan')`)
	p.tap("^Draw its way on the plan$")
	area := p.find("[data-testid=way-area]").MustShape().Box()
	for _, share := range []float64{0.35, 0.5, 0.6} {
		p.Mouse.MustMoveTo(area.X+area.Width*share, area.Y+area.Height*0.5)
		p.Mouse.MustClick(proto.InputMouseButtonLeft)
	}
	p.shows("Needs 18 AWG")
	p.submit("Her electrics")
	p.shows("Saved.")
}

// A boat of which nothing is listed is wired by a few presses, with usual draws as guesses.
func TestABoatIsWiredFromNothing(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.toPower(d, "Ilse")
	status := p.MustEval(`async () => {
		const s = await fetch('/api/session').then(r => r.json());
		const boat = location.pathname.split('/')[2];
		const r = await fetch('/api/crews/' + s.crews[0].crew_id + '/boats/' + boat + '/power', { method: 'PUT',
			headers: { 'Content-Type': 'application/json', 'Idempotency-Key': crypto.randomUUID() },
			body: JSON.stringify({ banks: [], parts: [], circuits: [], version: 1 }) });
		return r.status;
	}`).Int()
	require.Equal(t, 204, status)
	p.MustReload().MustWaitLoad()
	p.shows("Nothing is listed yet.")
	p.axe("a boat without electrics")
	p.tap("^A bank$")
	p.choose("Her electrics", "Its batteries are", "fixed in her")
	p.shows("12 V, 80 Ah as new.")
	p.tap("^All of it$")
	p.tap("^navigation lights$")
	p.shows("Nothing protects its wire")
	p.fill("Her electrics", map[string]string{"Length one way, measured": "4", "Its own fuse": "3"})
	p.press(input.Tab)
	p.shows("Needs 18 AWG")
	p.choose("Her electrics", "Wire", "16 AWG")
	p.tap("^All of it$")
	p.shows("1 thing wants a hand")
	p.shows("Nobody said that it is held down.")
	p.submit("Her electrics")
	p.shows("Saved.")
}

// On a phone the trace fits the thumb, and a guest changes nothing.
func TestElectricsOnAPhone(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 390, 844)
	p.toPower(d, "Tove")
	p.shows("console display: It hangs on the starting battery")
	assert.LessOrEqual(
		t,
		p.MustEval(`() => document.documentElement.scrollWidth`).Int(),
		390,
		"nothing sticks out sideways",
	)
	p.on("house battery")
	p.shows("dies with it")
	assert.Zero(t, p.MustEval(`() => document.querySelectorAll('form[aria-label="Her electrics"]').length`).Int())
	p.axe("electrics on a phone")
}

// The tournament's day says which bank runs down when, and what is pressed helps.
func TestABatteryThatRunsDownIsTheDaysBusiness(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Oskar")
	p.goes(d, "two-day", "/day")
	p.shows("the motor bank is down to 50 %")
	p.click(`button[aria-label^="Do: Bow motor at"]`)
	p.until("it lasts", `() => document.body.innerText.includes('The motor bank has')`)
	p.axe("a day with batteries")
}
