package e2e

import (
	"fmt"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"ergasia/api"
	"ergasia/app/gear"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// choose takes an option of a select within a form or section.
func (p *page) choose(form, label, option string) {
	p.until(option+" can be chosen", `(form, label, option) => {
		const f = [...document.querySelectorAll('form')].find(f => f.getAttribute('aria-label') === form);
		const l = f && [...f.querySelectorAll('label')].find(l => l.innerText.trim().startsWith(label));
		return !!l && [...l.querySelectorAll('option')].some(o => o.innerText.includes(option));
	}`, form, label, option)
	require.NoError(p.t, p.field(form, label).Select([]string{option}, true, rod.SelectorTypeText))
}

// date writes a day into a field, in the way React hears of it.
func (p *page) date(form, label string, day time.Time) {
	p.field(form, label).MustEval(`(value) => {
		Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(this, value);
		this.dispatchEvent(new Event('input', { bubbles: true }));
	}`, day.Format(time.DateOnly))
}

// crew is the address of the page's user's crew.
func (p *page) crew() string {
	var session api.SessionView
	p.get("/api/session", &session)
	return "/api/crews/" + session.Crews[0].CrewID.String()
}

// listed is gear by what a person would type.
func (p *page) listed(query string) gear.GearRow {
	var page gear.GearPage
	p.get(p.crew()+"/gear?limit=5&q="+url.QueryEscape(query), &page)
	require.NotEmpty(p.t, page.Rows, query)
	return page.Rows[0]
}

// room goes to a page of one of the four rooms, and waits until it is there.
func (p *page) room(room, name string) {
	p.again(room, p.bar(room))
	p.until("in "+room, `(room) => !!document.querySelector('nav[aria-label="' + room + '"]')`, room)
	p.again(name, func() *rod.Element {
		return p.among(fmt.Sprintf("nav[aria-label=%q] a", room), "^"+name+"$")
	})
	p.until("at "+name, `(name) => [...document.querySelectorAll('a[aria-current=page]')].some(a => a.textContent.trim() === name)`, name)
}

// bar finds the door of a room.
func (p *page) bar(room string) func() *rod.Element {
	return func() *rod.Element { return p.among("nav[aria-label=Rooms] a", "^"+room+"$") }
}

// among waits for an element of a selector that shows a text.
func (p *page) among(selector, text string) *rod.Element {
	var e *rod.Element
	err := p.waitFor(`(selector, text) => [...document.querySelectorAll(selector)].some(e => e.getClientRects().length > 0 && new RegExp(text).test(e.innerText.trim()))`, selector, text)
	require.NoError(p.t, err, "%s; the page shows:\n%s", text, p.shown(err))
	err = p.patiently(func(page *rod.Page) (err error) {
		e, err = page.ElementByJS(rod.Eval(`(selector, text) => [...document.querySelectorAll(selector)]
			.find(e => e.getClientRects().length > 0 && new RegExp(text).test(e.innerText.trim())) ?? null`, selector, text))
		return err
	})
	require.NoError(p.t, err, text)
	return e.CancelTimeout()
}

func TestLinesOfTextBecomeGearThatIsStowed(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Sune")
	p.room("Gear", "List")
	p.shows("234 entries")
	text := p.find("form[aria-label='Add gear from text'] textarea")
	text.MustInput("lead ingot 20x10x8 12kg\nanchor @attic +Bertil\n@attic")
	p.shows("No place is called \"attic\"")
	p.shows("Nobody in the crew is called \"Bertil\"")
	p.shows("Not read:")
	assert.True(t, p.find("form[aria-label='Add gear from text'] button[type=submit]").MustProperty("disabled").Bool(),
		"all or nothing")
	text.MustSelectAllText().MustInput("lead ingot 20x10x8 12kg wet +Sune #ballast")
	p.until("the line is read", `() => document.querySelector('[aria-label="Read as"]')?.innerText.includes('20 × 10 × 8 cm · 12.00 kg, a guess · Sune\'s · to the quay · #ballast')`)
	p.until("it can be added", `() => !document.querySelector('form[aria-label="Add gear from text"] button[type=submit]').disabled`)
	p.submit("Add gear from text")
	p.shows("235 entries")
	p.room("Boat", "Stow")
	p.carry(p.gear("lead ingot"), p.place("step"))
	p.says("freeboard")
	p.drop()
	p.lastMove("lead ingot → step")
	p.showsComputed()
}

func TestAThingIsFoundFromAnywhereAndMoved(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.press('/')
	p.find("[cmdk-input]").MustInput("bincolars")
	p.until("the misspelt thing is found, with the way to it", `() => {
		const box = document.querySelector('dialog[open]');
		return !!box && box.innerText.includes('binoculars') && box.innerText.includes('Dunlin, glove box') && box.innerText.includes('lift the lid of glove box') && !!box.querySelector('svg[aria-label*="glove box marked"]');
	}`)
	p.axe("finding")
	p.press(input.Enter)
	p.until("its page says where it is", `() => document.querySelector('[aria-label="Where it is"]')?.innerText.includes('Dunlin, glove box')`)
	p.click("[aria-label='Where it is'] summary")
	p.choose("Move binoculars", "It goes", "ashore")
	p.choose("Move binoculars", "Where", "home, hall cupboard")
	p.submit("Move binoculars")
	p.shows("Now: home, hall cupboard.")
	assert.Equal(t, "home, hall cupboard", p.listed("binoculars").Spot.Text)
	p.until("the history says who and when", `() => document.querySelector('[aria-label=History]').innerText.includes('→ home, hall cupboard')`)
	p.tap("^Undo$")
	p.shows("Now: Dunlin, glove box.")
	assert.Equal(t, "Dunlin, glove box", p.listed("binoculars").Spot.Text)
	p.choose("Move binoculars", "It goes", "into a box")
	p.choose("Move binoculars", "Where", "perch box")
	p.submit("Move binoculars")
	p.until("the rules hold", `() => !!document.querySelector('form[aria-label="Move binoculars"] [role=alert]')`)
	assert.Equal(t, "Dunlin, glove box", p.listed("binoculars").Spot.Text)
	p.axe("a piece")
}

// Fingers are faster than the field: nothing typed is lost, and Enter means all of it.
func TestWhatIsTypedAtOnceIsFound(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	for range 2 { // the field comes for the first time, and is there for the second
		p.find("[data-place], [data-testid=verdict]")
		keys := []input.Key{'/'}
		for _, r := range "bait bucket" {
			keys = append(keys, input.Key(r))
		}
		require.NoError(t, p.Keyboard.Type(append(keys, input.Enter)...))
		p.until("its page is there", `() => document.title.startsWith("bait bucket")`)
		p.open(d.address)
	}
}

func TestALabelOpensABoxOnAPhone(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 390, 844)
	p.signIn(d, "Oskar")
	box := p.listed("crank box")
	p.open(d.address + "/labels?gear=" + box.ID.String())
	p.shows("no phone gets there")
	p.find("input[inputmode=url]").MustSelectAllText().MustInput("http://192.168.1.20:8080/")
	p.tap("^Set 1 label$")
	p.button("^Open the PDF$")
	assert.Regexp(t, "^blob:", *p.button("^Open the PDF$").MustAttribute("href"))
	var detail gear.GearDetail
	p.get(p.crew()+"/gear/"+box.ID.String(), &detail)
	require.Len(t, detail.Code, 6)
	p.open(d.address + "/at/" + detail.Code)
	p.shows("Tick what is here.")
	wide := p.MustEval(`() => document.documentElement.scrollWidth`).Int()
	assert.LessOrEqual(t, wide, 390, "nothing sticks out sideways")
	p.axe("a box on a phone")
	for _, name := range []string{"crankbaits, deep", "crankbaits, shallow"} {
		p.click(fmt.Sprintf("button[aria-label='Tick: %s is here']", name))
		p.find(fmt.Sprintf("button[aria-label='%s is here']", name))
	}
	p.shows("2 ticked.")
	p.tap("^Not here$") // of the first; the lid is open and it is gone
	p.choose("Move crankbaits, deep", "It goes", "to a person")
	p.choose("Move crankbaits, deep", "Where", "Oskar")
	p.submit("Move crankbaits, deep")
	p.until("it left the box", `() => !document.querySelector('[aria-label="What should be in here"]').innerText.includes('crankbaits, deep')`)
	assert.Equal(t, "with Oskar", p.listed("crankbaits deep").Spot.Text)
	p.open(d.address + "/at/ZZZZZZ")
	p.shows("No label of this crew has the code ZZZZZZ")
}

func TestATableGoesOutAndComesInWholeOrNotAtAll(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.open(d.address + "/gear/table")
	csv := p.MustEval(`async (path) => (await fetch(path)).text()`, p.crew()+"/gear.csv").Str()
	file := filepath.Join(t.TempDir(), "gear.csv")
	bring := func(text string) {
		require.NoError(t, os.WriteFile(file, []byte(text), 0o600))
		p.find("input[type=file]").MustSetFiles(file)
	}
	bring(csv)
	p.shows("234 rows: 0 new, 0 change, 234 as they are, 0 wrong.")
	lines := strings.SplitAfter(csv, "\n")
	head := strings.TrimPrefix(lines[0], "\uFEFF")
	row := func(name, kg, place string) string {
		cells := make([]string, strings.Count(head, ",")+1)
		for i, h := range strings.Split(strings.TrimSpace(head), ",") {
			cells[i] = map[string]string{"name": name, "count": "1", "length_cm": "10", "breadth_cm": "10", "height_cm": "10",
				"kg": kg, "place": place}[h]
		}
		return strings.Join(cells, ",") + "\n"
	}
	bring(head + row("spare kettle", "1", "ashore: boathouse / floor") + row("spare kettle", "heavy", "attic"))
	p.shows("2 rows: 1 new, 0 change, 0 as they are, 1 wrong.")
	p.shows("kg is \"heavy\": must be a number")
	p.axe("a table with a wrong row")
	assert.True(t, p.button("^Import all rows$").MustProperty("disabled").Bool())
	bring(head + row("spare kettle", "1", "ashore: boathouse / floor") + row("\"'=1+1\"", "2", "quay"))
	p.shows("2 rows: 2 new, 0 change, 0 as they are, 0 wrong.")
	p.tap("^Import all rows$")
	p.shows("Done: 2 new, 0 changed, 0 as they were.")
	assert.Equal(t, "boathouse, floor", p.listed("kettle").Spot.Text)
	assert.Equal(t, "=1+1", p.listed("1").Name)
	bring("PK\x03\x04 a workbook")
	p.shows("Line 1: this is a zip archive")
	bring("name\n\"open")
	p.shows("Line 2: a quote opens here and is not closed")
}

func TestAKitIsPromisedAndWhatIsTakenIsSaidAtOnce(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.room("Trip", "All trips")
	p.shows("two-day tournament")
	p.fill("Add a trip", map[string]string{"Name": "club evening"})
	for _, label := range []string{"First day", "Last day"} {
		p.date("Add a trip", label, time.Now().AddDate(0, 0, 4))
	}
	p.submit("Add a trip")
	p.shows("club evening")
	p.until("its kits are a press away", `() => { const li = [...document.querySelectorAll('main li')].find(l => l.innerText.includes('club evening')); [...(li?.querySelectorAll('a') ?? [])].find(a => a.innerText === 'Kits')?.click(); return !!li }`)
	p.shows("Choose a kit to promise to club evening")
	p.tap("^zander, vertical")
	p.shows("portable sonar unit is promised to two-day tournament")
	p.tap("^Promise it to the trip$")
	p.shows("Portable sonar unit is promised to two-day tournament")
	p.axe("a kit")
	p.room("Gear", "Kits")
	p.tap("^A new kit$")
	p.fill("A new kit", map[string]string{"Name": "rain", "What": "ponchos"})
	p.find("input[placeholder='gear, or a #tag']").MustInput("poncho")
	p.tap("^rain ponchos$")
	p.submit("A new kit")
	p.shows("rain ponchos is in Whimbrel")
}

func TestTheScaleIsReadTaredAndKept(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.open(d.address + "/weigh")
	p.until("what matters most comes first", `() => document.querySelector('[aria-label="The scale"] h2')?.innerText === 'bait bucket'`)
	p.until("nothing hangs on it", `() => /^[−]?0\.0\d kg$/.test(document.querySelector('[data-still=true]')?.innerText.replace(/\s+/g, ' ') ?? '')`)
	p.axe("weighing")
	p.tap(`^Hang it on`)
	p.until("it hangs still", `() => Number(document.querySelector('[data-still=true]')?.innerText.split(' ')[0] ?? 0) > 3`)
	shown := p.find("[data-still]").MustText()
	p.tap(`^Keep \d`)
	p.until("the next one is up", `() => document.querySelector('[aria-label="The scale"] h2')?.innerText !== 'bait bucket'`)
	bucket := p.listed("bait bucket")
	assert.Equal(t, "weighed", bucket.MassKnown)
	assert.InDelta(t, 6.5, bucket.Kg, 6.5*0.6, "as far off as a guess is: %s", shown)
	assert.NotEqual(t, 6.5, bucket.Kg)
}

func TestWhatRunsOutIsSeenTo(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Marit")
	p.room("Gear", "Due")
	p.shows("to see to before the next trip, two-day tournament")
	p.shows("flares, old box")
	p.until("the rod's knots are done", `() => { const li = [...document.querySelectorAll('main li')].find(l => l.innerText.includes('retie the knots') && l.innerText.includes('nothing left')); li?.querySelector('button')?.click(); return !!li }`)
	p.until("they count anew", `() => [...document.querySelectorAll('main li')].some(l => l.innerText.includes('retie the knots') && l.innerText.includes('2 trips left'))`)
	p.tap("^Make a secret address$")
	address := p.find("input[aria-label='Secret address of your calendar']").MustProperty("value").Str()
	feed := p.MustEval(`async (path) => (await fetch(path, { credentials: 'omit' })).text()`, address).Str()
	assert.Contains(t, feed, "BEGIN:VCALENDAR")
	assert.Contains(t, feed, "two-day tournament")
}

func TestTheShedShowsWhatIsTooMuch(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.open(d.address + "/shed")
	p.shows("Overloaded by")
	p.axe("the shed")
	p.fill("Add a place ashore", map[string]string{"Name": "loft", "Carries": "80"})
	p.submit("Add a place ashore")
	p.tap("^loft$")
	p.shows("Nothing should be in here.")
	p.axe("an empty shelf")
	p.open(d.address + "/labels")
	p.shows("boathouse, loft")
	p.axe("labels")
}
