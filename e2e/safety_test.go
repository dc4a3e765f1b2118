package e2e

import (
	"io"
	"net"
	"slices"
	"strings"
	"sync"
	"testing"

	"ergasia/app/lists"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// line is a network between a phone and the program that can be cut.
type line struct {
	listener net.Listener
	to       string
	mu       sync.Mutex
	down     bool
	open     map[net.Conn]bool
}

// through is the program as it is reached over a line.
func through(t *testing.T, d *program) (*program, *line) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	n := &line{listener: l, to: strings.TrimPrefix(d.address, "http://"), open: map[net.Conn]bool{}}
	t.Cleanup(func() { n.cut(true); _ = l.Close() })
	go n.serve()
	return &program{t: t, address: "http://" + l.Addr().String(), database: d.database}, n
}

func (n *line) serve() {
	for {
		c, err := n.listener.Accept()
		if err != nil {
			return
		}
		go n.pass(c)
	}
}

// keep notes a connection; false where the line is cut.
func (n *line) keep(c net.Conn) bool {
	n.mu.Lock()
	defer n.mu.Unlock()
	if n.down {
		_ = c.Close()
		return false
	}
	n.open[c] = true
	return true
}

func (n *line) pass(c net.Conn) {
	if !n.keep(c) {
		return
	}
	up, err := net.Dial("tcp", n.to)
	if err != nil || !n.keep(up) {
		_ = c.Close()
		return
	}
	go func() { _, _ = io.Copy(up, c); _ = up.Close() }()
	_, _ = io.Copy(c, up)
	_ = c.Close()
}

func (n *line) cut(down bool) {
	n.mu.Lock()
	defer n.mu.Unlock()
	n.down = down
	for c := range n.open {
		if down {
			_ = c.Close()
			delete(n.open, c)
		}
	}
}

const cod = "cod run"

// at the ramp: a page of the lists of the cod run.
func (p *page) atTheRamp(d *program, name string) {
	p.signIn(d, name)
	p.goes(d, cod, "/lists?stage=ramp")
	p.find("[data-line]")
}

func (p *page) ticks(key string) { p.click(`[data-line="` + key + `"] [role=checkbox]`) }

func (p *page) ticked(key string, done bool) {
	p.until("the line "+key, `(key, done) => document.querySelector('[data-line="' + key + '"] [role=checkbox]').ariaChecked === String(done)`,
		key, done)
}

// Two phones tick one list. One is cut off, ticks, is loaded anew without a network, and
// comes back: nothing is lost and nothing doubled.
func TestTwoPhonesTickOneListWhileOneIsCutOff(t *testing.T) {
	d := demoProgram(t)
	over, wire := through(t, d)
	far, near := browse(t, 390, 844), browse(t, 390, 844)
	far.atTheRamp(over, "Ilse")
	near.atTheRamp(d, "Oskar")
	far.axe("a checklist on a phone")

	far.ticks("ramp:line")
	near.ticked("ramp:line", true)
	near.until("it says who", `() => document.querySelector('[data-line="ramp:line"]').innerText.includes('Ilse')`)
	near.ticks("ramp:line")
	far.ticked("ramp:line", false)

	far.until("the program is kept on the phone", `() => navigator.serviceWorker.ready.then(r => r.active?.state === 'activated')`)
	far.MustReload()
	far.find("[data-line]")
	wire.cut(true)
	far.until("the phone says that it has no network", `() => document.querySelector('[data-testid=line]').innerText.startsWith('No network')`)
	far.ticks("ramp:line")
	// as another page of the same browser does, of which this one learns nothing
	far.MustEval(`() => {
		const key = Object.keys(localStorage).find(k => k.startsWith('ergasia-ticks:'))
		const list = JSON.parse(localStorage.getItem(key))
		localStorage.setItem(key, JSON.stringify([...list, {...list[0], key: crypto.randomUUID(), line: 'ramp:unplug', done: true}]))
	}`)
	far.ticks("ramp:plug well plug")
	far.ticked("ramp:plug well plug", true)
	far.until("they wait", `() => document.querySelector('[data-testid=line]').innerText.includes('3 ticks are saved')`)
	near.ticks("ramp:dry")
	near.ticked("ramp:dry", true)
	near.ticked("ramp:plug well plug", false)

	far.MustReload()
	far.until("over a reload without a network they wait still",
		`() => document.querySelector('[data-testid=line]').innerText.includes('3 ticks are saved')`)
	far.ticked("ramp:plug well plug", true)
	*far.complaints = slices.DeleteFunc(*far.complaints, func(c string) bool { return strings.Contains(c, "ERR_") })

	wire.cut(false)
	near.ticked("ramp:plug well plug", true)
	near.ticked("ramp:line", true)
	far.ticked("ramp:dry", true)
	far.until("nothing waits", `() => document.querySelector('[data-testid=line]') === null`)
	*far.complaints = slices.DeleteFunc(*far.complaints, func(c string) bool { return strings.Contains(c, "ERR_") })

	var kept lists.ListsView
	crew := near.MustEval(`() => fetch('/api/session').then(r => r.json()).then(s => s.crews[0].crew_id)`).Str()
	trip := near.MustEval(`() => location.pathname.split('/')[2]`).Str()
	near.get("/api/crews/"+crew+"/trips/"+trip+"/lists", &kept)
	by := map[string]string{}
	for _, s := range kept.Stages {
		for _, l := range s.Lines {
			if l.Done {
				by[l.Key] = l.By
			}
		}
	}
	assert.Equal(t, map[string]string{"ramp:line": "Ilse", "ramp:plug well plug": "Ilse", "ramp:unplug": "Ilse",
		"ramp:dry": "Oskar"}, by)
}

// What is missing is settled by one press, and by one press on the packing list.
func TestWhatIsMissingIsSettledByAPress(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.goes(d, "two-day", "/check")
	p.until("two are not met", `() => document.querySelector('[data-testid=unmet]').innerText.startsWith('2 of')`)
	p.axe("the check of a trip")
	p.tap("^Move fire extinguisher, lake boat to")
	p.until("one is left", `() => document.querySelector('[data-testid=unmet]').innerText.startsWith('1 of')`)
	p.tap("^Take spare drain plug set along")
	p.until("all are met", `() => document.querySelector('[data-testid=unmet]').innerText.startsWith('All')`)
	p.goes(d, "two-day", "/lists?stage=evening")
	p.until("it is on the list", `() => [...document.querySelectorAll('[data-line]')].some(l => l.innerText.includes('spare drain plug set'))`)
	p.goes(d, cod, "/check")
	p.tap("^Buy:")
	p.shows("It is on the list of the evening before.")
	p.goes(d, cod, "/lists?stage=evening")
	p.shows("Buy: ")
}

// The boat's page of safety equipment, by mouse and by keyboard.
func TestSafetyEquipmentIsShownOnTheBoat(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Oskar")
	id := p.MustEval(`() => fetch('/api/session').then(r => r.json()).then(s => s.crews[0].boats.find(b => b.name === 'Plover').id)`).Str()
	p.open(d.address + "/boats/" + id + "/safety")
	p.shows("2 gaps")
	p.axe("a boat's safety equipment")
	p.tabTo(`^1: `)
	p.press(input.Enter)
	p.until("seconds from each post are told", `() => document.querySelector('[data-piece="fire extinguisher, lake boat"]').innerText.includes('helm 12 s')`)
	p.tap("^Built in, and what rules ask$")
	p.tap("^horn$")
	p.submit("Built in, and what rules ask")
	p.until("it is kept", `() => [...document.querySelectorAll('[role=status]')].some(s => s.innerText === 'Saved.')`)
	p.tap("^Aboard$")
	p.until("it is among what is built in", `() => !!document.querySelector('[data-piece="horn"]')`)
}

// A defect is noted in one press on a phone, holds the trip, and is done.
func TestWhatBrokeIsNotedOnAPhone(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 390, 844)
	p.signIn(d, "Sune")
	id := p.MustEval(`() => fetch('/api/session').then(r => r.json()).then(s => s.crews[0].boats.find(b => b.name === 'Dunlin').id)`).Str()
	p.open(d.address + "/boats/" + id + "/jobs")
	p.find("form input").MustInput("Steering stiff")
	p.click("form input[type=checkbox]")
	p.tap("^It is broken$")
	p.until("it is on the list", `() => document.querySelector('[data-job="Steering stiff"]').innerText.includes('holds')`)
	p.axe("jobs on a phone")
	p.goes(d, cod, "")
	p.shows("Dunlin is to be mended: Steering stiff.")
	p.open(d.address + "/boats/" + id + "/jobs")
	p.tap("^Done$")
	p.until("nothing is to be mended", `() => document.querySelector('main [role=status]').innerText.includes('Nothing is to be mended')`)
	p.open(d.address + "/boats/" + id + "/diary")
	p.shows("Steering stiff: done")
}

// A stranger opens the boat's link on a phone: one screen, and one of scroll.
func TestAGuestReadsTheBriefByTheBoatsLink(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	id := p.MustEval(`() => fetch('/api/session').then(r => r.json()).then(s => s.crews[0].boats.find(b => b.name === 'Dunlin').id)`).Str()
	p.open(d.address + "/boats/" + id + "/brief")
	p.shows("Life jackets are in the port bench.")
	p.axe("the brief")
	p.tap("^Make the link$")
	link := p.find("[data-testid=boat-link]").MustText()
	phone := browse(t, 390, 844)
	phone.open(link)
	phone.shows("MAYDAY DUNLIN.")
	phone.axe("the brief by its link")
	high := phone.MustEval(`() => document.documentElement.scrollHeight`).Int()
	assert.LessOrEqual(t, high, 2*844, "one screen, and one of scroll")
	p.tap("^End the link$")
	p.until("it has ended", `() => document.querySelector('[data-testid=boat-link]') === null`)
	phone.MustReload()
	phone.shows("This link has ended")
}

// The find drill, by keyboard: wrong first, then right; it is kept by name.
func TestTheFindDrillIsPlayed(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Oskar")
	id := p.MustEval(`() => fetch('/api/session').then(r => r.json()).then(s => s.crews[0].boats.find(b => b.name === 'Dunlin').id)`).Str()
	p.open(d.address + "/boats/" + id + "/drill")
	p.tap("^Call the first$")
	p.axe("the find drill")
	p.MustEval(`() => document.querySelector('[data-place="port rod bed"]').focus()`)
	p.press(input.Enter)
	p.shows("Not in port rod bed.")
	p.tap("^Show me$")
	p.find("[data-testid=outcome]")
	p.until("it is kept", `() => document.querySelector('main aside').innerText.includes('Oskar')`)
}

// A crew makes a pack of its own from one that came with the program; a broken one is
// refused by its row, and what was typed stays.
func TestACrewMakesAPackOfItsOwn(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.open(d.address + "/rules")
	p.click("[data-pack=night] summary")
	p.axe("the rules")
	p.again("from it", func() *rod.Element { return p.find("[data-pack=night] button.plain-button") })
	p.click(`[aria-label="Change: lamp for each person"]`)
	p.find(`[data-edited=lamps] input[inputmode]`).MustSelectAllText().MustInput("3000")
	p.tap("^Keep the pack$")
	p.until("it says which row is wrong", `() => document.querySelector('[role=alert]').innerText.includes('must be from 0 to 100')`)
	p.find(`[data-edited=lamps] input[inputmode]`).MustSelectAllText().MustInput("2")
	p.tap("^Keep the pack$")
	p.until("it is there", `() => !!document.querySelector('[data-pack=our-night]')`)
}

// A paper is listed, and a trip on its water asks for it.
func TestAPaperIsListedAndAskedFor(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 390, 844)
	p.signIn(d, "Ilse")
	p.open(d.address + "/papers")
	p.find("[data-paper]")
	p.axe("papers on a phone")
	form := `form[aria-label="List a paper"]`
	p.find(form + " input[required]").MustInput("harbour card")
	p.submit("List a paper")
	p.until("it is listed", `() => !!document.querySelector('[data-paper="harbour card"]')`)
	p.goes(d, cod, "/check")
	p.shows("harbour card")
}

// A stream that ends is opened again in silence: proxies and sleep end streams too, and what
// one is about to press must not move. The word comes when a request fails.
func TestAStreamThatEndsIsOpenedAgainInSilence(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 390, 844)
	_, err := p.EvalOnNewDocument(`(() => {
		const Real = EventSource;
		window.EventSource = class extends Real { constructor(...a) { super(...a); window.stream = this; } };
	})()`)
	require.NoError(t, err)
	p.signIn(d, "Ilse")
	p.room("Trip", "Lists")
	p.find("[data-line]")
	p.until("it listens", `() => window.stream?.readyState === 1`)
	p.until("it lies still", `() => { const top = document.querySelector('[data-line]')?.getBoundingClientRect().top; const same = top === window.was; window.was = top; return same; }`)
	top := p.MustEval(`() => document.querySelector('[data-line]').getBoundingClientRect().top`).Num()
	for range 3 {
		p.MustEval(`() => window.stream.dispatchEvent(new Event('error'))`)
		p.MustWaitIdle()
		require.False(t, p.MustHas("[data-testid=line]"), "no word of the network")
	}
	assert.Equal(t, top, p.MustEval(`() => document.querySelector('[data-line]').getBoundingClientRect().top`).Num())
}
