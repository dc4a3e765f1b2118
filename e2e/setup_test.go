package e2e

import (
	"fmt"
	"os/exec"
	"strings"
	"testing"
	"time"

	"ergasia/store/storetest"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// klm counts the operators of the keystroke-level model of Card, Moran and Newell
// (Communications of the ACM 23, 1980; memory) that Rod really performs: K a key
// 0.28 s (an average typist), P pointing 1.1 s, B pressing or letting go of the
// button 0.1 s, H the hand between keys and mouse 0.4 s, M making up one's mind
// 1.35 s, put before every value and every choice.
type klm struct {
	*page
	k, p, b, h, m int
	onKeys        bool
}

func (c *klm) seconds() float64 {
	return 0.28*float64(c.k) + 1.1*float64(c.p) + 0.1*float64(c.b) + 0.4*float64(c.h) + 1.35*float64(c.m)
}

func (c *klm) hand(onKeys bool) {
	if c.onKeys != onKeys {
		c.h++
	}
	c.onKeys = onKeys
}

// press clicks what is found with the mouse.
func (c *klm) press(css, text string) {
	c.hand(false)
	c.m, c.p, c.b = c.m+1, c.p+1, c.b+2
	e := c.find(css)
	if text != "" {
		var err error
		e, err = c.Timeout(patience).ElementR(css, text)
		require.NoError(c.t, err, text)
	}
	require.NoError(c.t, e.ScrollIntoView())
	at := middle(e)
	c.Mouse.MustMoveTo(at.X, at.Y)
	c.Mouse.MustDown(proto.InputMouseButtonLeft)
	c.Mouse.MustUp(proto.InputMouseButtonLeft)
}

// saves presses a form's button and waits for the next stage; again where the
// page was drawn anew under the pointer, as it may be when a machine is slow.
func (c *klm) saves(form, next string) {
	button := "form[aria-label='" + form + "'] button[type=submit]"
	c.press(button, "")
	for range 3 {
		if _, err := c.Timeout(patience / 3).Element(next); err == nil {
			return
		}
		if e, err := c.Timeout(time.Second).Element(button); err == nil {
			_ = e.CancelTimeout().Timeout(patience/5).Click(proto.InputMouseButtonLeft, 1)
		}
	}
	c.find(next)
}

// types writes into what has the focus, over what stands there.
func (c *klm) types(text string) {
	c.hand(true)
	c.m, c.k = c.m+1, c.k+len([]rune(text))
	c.MustEval(`() => document.activeElement.select?.()`) // as Tab into a field does by itself
	c.MustInsertText(text)
}

func (c *klm) key(k input.Key) {
	c.hand(true)
	c.k++
	require.NoError(c.t, c.Keyboard.Type(k))
}

// drag draws over the plan, from and to in shares of the plan's area.
func (c *klm) drag(x0, y0, x1, y1 float64) {
	c.hand(false)
	c.m, c.p, c.b = c.m+1, c.p+2, c.b+2
	box := c.find("[data-testid=plan-area]").MustShape().Box()
	at := func(x, y float64) (float64, float64) { return box.X + x*box.Width, box.Y + y*box.Height }
	c.Mouse.MustMoveTo(at(x0, y0))
	c.Mouse.MustDown(proto.InputMouseButtonLeft)
	c.Mouse.MustMoveTo(at((x0+x1)/2, (y0+y1)/2))
	c.Mouse.MustMoveTo(at(x1, y1))
	c.Mouse.MustUp(proto.InputMouseButtonLeft)
}

// newcomer is the owner of a crew that has no boat yet, signed in.
func newcomer(t *testing.T) *page {
	_, p := newcomers(t)
	return p
}

// newcomers gives the program too.
func newcomers(t *testing.T) (*program, *page) {
	beside(t)
	d := start(t, "serve", storetest.URL(t))
	found := exec.Command(binary(t), "found", "--crew", "Tverrin", "--name", "Una", "--login", "una")
	found.Env = append(found.Environ(), "DATABASE_URL="+d.database)
	found.Stdin = strings.NewReader("a long password\n")
	out, err := found.CombinedOutput()
	require.NoError(t, err, string(out))
	p := browse(t, 1280, 800)
	p.open(d.address)
	p.find("input[autocomplete=username]").MustInput("una")
	p.find("input[type=password]").MustInput("a long password")
	p.tap("^Sign in$")
	p.shows("A new boat")
	return d, p
}

// The first page of an empty program founds a crew, with the code that the program
// says, and leads to the first boat.
func TestTheFirstPageFoundsACrew(t *testing.T) {
	beside(t)
	cmd, address := run(t, "serve", storetest.URL(t))
	t.Cleanup(func() { stop(t, cmd) })
	var line any
	require.Eventually(t, func() bool {
		var ok bool
		line, ok = said.Load(cmd)
		return ok
	}, patience, 20*time.Millisecond)
	_, code, found := strings.Cut(strings.TrimSpace(line.(string)), "with the code ")
	require.True(t, found, line)
	p := browse(t, 1280, 800)
	p.open(address)
	p.shows("Found your crew")
	for label, text := range map[string]string{"Code": "AAAA-AAAA-AAAA", "The crew is called": "Tverrin", "Your name": "Una",
		"Login": "una", "Password": "a long password"} {
		p.field("Found a crew", label).MustInput(text)
	}
	p.submit("Found a crew")
	p.shows("This is not the code")
	p.field("Found a crew", "Code").MustSelectAllText().MustInput(code)
	p.submit("Found a crew")
	p.shows("A new boat")
}

// A crew sets its own boat up: twelve measures, posts, and 25 places, each from
// five inputs (drawn, name, floor, height, wet or dry), half of them copied to the
// other side. By the operators that are really performed it takes well under 15
// minutes; walking round her with the tape comes on top.
func TestABoatOf25PlacesIsSetUpInUnder15Minutes(t *testing.T) {
	p := newcomer(t)
	c := &klm{page: p}

	c.press("button", "V bottom, hard chine")
	c.press("form[aria-label='The hull'] input", "")
	c.types("Plover")
	c.press("[data-measure=length_m]", "")
	for i, v := range []string{"5.1", "2.0", "1.9", "1.65", "10", "13", "0.58", "0.6", "0.72", "1.5", "0.48", "12"} {
		if i > 0 {
			c.key(input.Tab)
		}
		c.types(v)
	}
	c.saves("The hull", "section[aria-label='Plate and limits'] form")
	c.saves("Plate and limits", "section[aria-label='Engine and weights'] form")
	c.press("section[aria-label='Engine and weights'] input[inputmode=decimal]", "")
	c.types("310")
	c.saves("Engine and weights", "section[aria-label='Tanks'] form")
	c.saves("Tanks", "section[aria-label='Posts and seats'] form")
	for i, name := range []string{"helm", "passenger", "fore deck"} {
		c.drag(0.3+0.2*float64(i), 0.5, 0.3+0.2*float64(i), 0.5)
		c.press("form[aria-label='A new post'] input", "")
		c.types(name)
		c.key(input.Enter)
		p.until(name+" is listed", `(n) => [...document.querySelectorAll('section li')].some(l => l.innerText.startsWith(n))`, name)
	}
	c.press("button", "Continue to the places")

	p.find("section[aria-label=Places]")
	for i := range 13 {
		if i > 0 {
			c.press("button", "^ ?Draw a place$")
		}
		col, row := float64(i%6), float64(i/6)
		name := fmt.Sprintf("port locker %d", i+1)
		if i == 12 { // one on the middle line, with no other side
			name = "console"
			c.drag(0.42, 0.46, 0.5, 0.54)
		} else {
			c.drag(0.14+0.085*col, 0.2+0.12*row, 0.14+0.085*col+0.07, 0.2+0.12*row+0.1)
		}
		p.until("the name has the focus", `() => document.activeElement?.closest('form')?.getAttribute('aria-label') === 'A new place'`)
		c.types(name)
		c.key(input.Tab)
		c.types("30")
		c.key(input.Tab)
		c.types("28")
		c.key(input.Tab)
		c.key('w') // gets wet
		c.press("form[aria-label='A new place'] button[type=submit]", "")
		p.find(fmt.Sprintf("[data-place=%q]", name))
		p.find(fmt.Sprintf("form[aria-label=%q]", "Change "+name))
		if i < 12 {
			c.press("button", "Copy to the other side")
			p.find(fmt.Sprintf("[data-place=%q]", "starboard locker "+fmt.Sprint(i+1)))
		}
	}
	assert.Len(t, p.MustElements("[data-place]"), 25)
	t.Logf("%d keys, %d pointings, %d buttons, %d changes of hand, %d decisions: %.1f minutes", c.k, c.p, c.b, c.h, c.m,
		c.seconds()/60)
	assert.Less(t, c.seconds(), 15*60.0)

	// And she floats, as she was measured.
	p.room("Boat", "Stow")
	p.until("she floats", `() => document.querySelector('[data-tally="Lowest freeboard"] [data-value]')?.innerText > 0`)
}

// Every form draws, and makes a boat that floats on the bench.
func TestABoatOfEveryFormIsDrawnAndFloats(t *testing.T) {
	p := newcomer(t)
	for i, f := range []string{"V bottom, hard chine", "Flat bottom, square bow", "Fine-bowed skiff", "Rounded bottom",
		"Personal watercraft"} {
		p.tap(f)
		p.until(f+" is chosen", `(f) => [...document.querySelectorAll('button[aria-pressed=true]')].some(b => b.innerText === f)`, f)
		p.until(f+" is drawn", `() => document.querySelectorAll('svg[aria-label$="drawing"] path').length > 3 && !document.querySelector('[aria-invalid]')`)
		p.field("The hull", "Name").MustSelectAllText().MustInput(fmt.Sprintf("Boat %d", i+1))
		p.submit("The hull")
		p.find("section[aria-label='Plate and limits'] form")
		p.room("Boat", "Stow")
		p.until(f+" floats", `() => document.querySelector('[data-tally="Lowest freeboard"] [data-value]')?.innerText > 0`)
		p.room("Boat", "Float")
		p.find("[data-test=port]")
		p.room("Boat", "Set up")
		p.tap("Add another boat")
		p.until("a new boat", `() => location.pathname === '/boats/new'`)
	}
}

// The drawing follows what is typed, and the measure that is wrong is told at once.
func TestAWrongMeasureIsToldWhileItIsTyped(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Oskar")
	p.room("Boat", "Set up")
	chine := p.find("[data-measure=chine_beam_m]")
	shape := `() => [...document.querySelectorAll('svg[aria-label$="drawing"] path')].map(e => e.getAttribute('d')).join('')`
	before := p.MustEval(shape).Str()
	chine.MustSelectAllText().MustInput("1.5")
	p.until("the chine moves in", `(before) => (`+shape+`)() !== before`, before)
	p.until("the tape shows on the drawing", `() => document.querySelector('[data-testid=dimension]')?.textContent.includes('1.5 m')`)
	chine.MustSelectAllText().MustInput("2.3")
	p.shows("chine beam is wider than the beam at the sheer")
	p.shows("The drawing is of the last measures that made a hull.")
	chine.MustSelectAllText().MustInput("172 cm") // as it stands on the tape
	p.until("no fault is left", `() => !document.querySelector('[aria-invalid]')`)
	p.submit("The hull")
	p.find("section[aria-label='Plate and limits']")
	p.tap("^ ?Hull")
	p.until("it was kept", `() => document.querySelector('[data-measure=chine_beam_m]')?.value === '1.72'`)
	// What was typed and not saved is there again.
	p.find("[data-measure=length_m]").MustSelectAllText().MustInput("5.45")
	p.MustReload()
	p.until("the draft stands", `() => document.querySelector('[data-measure=length_m]')?.value === '5.45'`)
	// It is gone with whoever signs out.
	p.click(`[aria-label="Sign out"]`)
	p.until("signed out", `() => !!document.querySelector('input[type=password]') || document.body.innerText.includes('Oskar, skipper')`)
	p.until("nothing is left", `() => Object.keys(localStorage).every(k => !k.startsWith('ergasia:'))`)
}

func TestAPlaceIsMovedSizedAndPutBackByMouseAndKeys(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.open(p.MustInfo().URL + "/setup?stage=places")
	field := func(label string) string { return p.field("Change step", label).MustProperty("value").Str() }
	// A hand moves it; the handle sizes it; each is kept when it is let go.
	// A drag that begins on a place nobody chose moves nothing.
	p.carry(p.place("step"), p.place("console front seat"))
	p.drop()
	p.pressPlace("step")
	assert.Equal(t, "310", field("Aft edge"))
	p.carry(p.place("step"), p.place("console front seat"))
	p.drop()
	p.until("it moved", `() => [...document.querySelectorAll('form[aria-label="Change step"] label')].find(l => l.innerText.startsWith('Aft edge')).querySelector('input').value !== '310'`)
	p.tap("Undo")
	p.until("it is back", `() => [...document.querySelectorAll('form[aria-label="Change step"] label')].find(l => l.innerText.startsWith('Aft edge')).querySelector('input').value === '310'`)
	p.place("step").MustEval(`() => this.focus()`)
	p.press(input.ArrowRight)
	p.until("one centimetre forward", `() => [...document.querySelectorAll('form[aria-label="Change step"] label')].find(l => l.innerText.startsWith('Aft edge')).querySelector('input').value === '311'`)
	assert.Equal(t, "34", field("Length inside"))
	// Keys faster than the server: none is lost, and none is refused as stale.
	for range 9 {
		p.press(input.ArrowRight)
	}
	p.until("ten centimetres forward, kept", `async () => {
		const at = [...document.querySelectorAll('form[aria-label="Change step"] label')].find(l => l.innerText.startsWith('Aft edge')).querySelector('input').value;
		const [, boat] = location.pathname.match(/boats\/([^/]+)/);
		const s = await (await fetch('/api/session')).json();
		const b = await (await fetch('/api/crews/' + s.crews[0].crew_id + '/boats/' + boat + '/bench')).json();
		return at === '320' && Math.abs(b.places.find(q => q.name === 'step').corner_m[0] - 3.2) < 1e-9;
	}`)
	assert.False(t, p.MustHas("[role=alert]"))
}

func TestAUsualLayoutFillsANewBoatAndOffsetsComeFromAFile(t *testing.T) {
	p := newcomer(t)
	dir := t.TempDir()
	bad, good := dir+"/bad.csv", dir+"/good.csv"
	writeFile(t, bad, "station,x_m,y_m,z_m\n1,0,0,0\n1,0,wide,0.5\n")
	writeFile(t, good, "station,x_m,y_m,z_m\n1,0,0,0\n1,0,0.8,0.1\n1,0,0.9,0.6\n2,4.5,0,0.1\n2,4.5,0.5,0.2\n2,4.5,0.7,0.7\n")
	file := p.find("input[type=file]")
	file.MustSetFiles(bad)
	p.shows(`Line 3: "wide" is not a number`)
	file.MustSetFiles(good)
	p.shows("The hull stands by 2 stations.")
	p.find("form[aria-label='The hull'] input").MustInput("Whimbrel")
	p.submit("The hull")
	p.find("section[aria-label='Plate and limits']")
	p.shows("After 33 CFR 183, from memory")
	p.tap("^ ?Places")
	p.tap("Flat or round, with benches")
	p.find("[data-place='middle bench']")
	p.find("[data-place='starboard rod bed']")
	p.shows("Done: stow her")
	p.tap("Sheet to print")
	p.until("the sheet is drawn", `() => document.querySelector('main img')?.naturalWidth > 0`)
	text := p.MustEval(`async () => (await fetch(document.querySelector('main img').src)).text()`).Str()
	assert.Contains(t, text, "middle bench")
}

// Lengths are typed as they stand on the tape, in either system.
func TestLengthsAreReadAsPeopleWriteThem(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.tap(`change to US`)
	p.until("US", `() => document.querySelector('[data-tally="Lowest freeboard"]').innerText.includes('in')`)
	p.room("Boat", "Set up")
	p.until("feet and inches", `() => document.querySelector('[data-measure=length_m]')?.value === "17' 8 5/8\""`)
	beam := p.find("[data-measure=beam_m]")
	for text, shown := range map[string]string{`7' 1/2"`: "7' 1/2\"", `84 1/2"`: "7' 1/2\"", "214.63 cm": "7' 1/2\"", "2.1463 m": "7' 1/2\"", `7 ft 0.5 in`: "7' 1/2\""} {
		beam.MustSelectAllText().MustInput(text)
		p.until(text+" is on the drawing", `(text) => document.querySelector('[data-testid=dimension]')?.textContent.startsWith(text)`, text)
		p.submit("The hull")
		p.find("section[aria-label='Plate and limits'] form")
		p.tap("^ ?Hull")
		p.until(text+" is read as "+shown, `(shown) => document.querySelector('[data-measure=beam_m]')?.value === shown`, shown)
		beam = p.find("[data-measure=beam_m]")
	}
	beam.MustSelectAllText().MustInput("seven feet")
	p.submit("The hull")
	p.shows("Beam at the sheer: write a number in ft.")
}

// presser counts what a hand does on a keyboard: a key, or a text typed at one go.
type presser struct {
	*page
	n int
}

func (c *presser) key(keys ...input.Key) {
	for _, k := range keys {
		c.press(k)
		c.n++
	}
}

func (c *presser) text(s string) {
	c.MustEval(`() => document.activeElement.select?.()`)
	c.MustInsertText(s)
	c.n++
}

// tab goes on until what has the focus answers to a text.
func (c *presser) tab(to string) {
	for range 40 {
		c.key(input.Tab)
		if c.MustEval(`(to) => { const e = document.activeElement; return [e.innerText, e.getAttribute('aria-label'), e.closest('label')?.innerText, e.labels?.[0]?.innerText, e.dataset.measure].some(t => t && new RegExp(to).test(t.trim())) }`, to).Bool() {
			return
		}
	}
	c.t.Fatalf("no Tab leads to %s", to)
}

// A newcomer's boat of 14 places and the first piece in her, from an empty program,
// without a mouse and in fewer than 110 presses; no figure is another boat's.
func TestABoatIsSetUpAndStowedByKeysAlone(t *testing.T) {
	p := newcomer(t)
	p.MustReload()
	p.find("form[aria-label='The hull'] input")
	c := &presser{page: p}
	c.tab("^Name")
	c.text("Plover")
	c.tab("^length_m$")
	for i, v := range []string{"5.1", "2.0", "1.9", "1.65", "10", "13", "0.58", "0.6", "0.72", "1.5", "0.48", "12"} {
		if i > 0 {
			c.key(input.Tab)
		}
		c.text(v)
	}
	stage := func(name string) {
		p.find("section[aria-label='" + name + "']")
		t.Logf("%d presses to %s", c.n, name)
	}
	focused := func(name string) {
		p.until("the focus follows to "+name, `(n) => document.activeElement?.closest('section')?.getAttribute('aria-label') === n`, name)
	}
	c.key(input.Enter)
	stage("Plate and limits")
	focused("Plate and limits")
	c.tab("^Greatest load")
	c.key(input.Enter)
	stage("Engine and weights")
	focused("Engine and weights")
	c.tab("^Her motor")
	c.key(input.Key('6'), input.Key('0'))
	p.until("a motor of 60 hp", `() => [...document.querySelectorAll('form input')].some(i => i.value === 'motor, 60 hp')`)
	assert.NotContains(t, p.MustElement("main").MustText(), "260", "no figure of another boat")
	c.tab("^What")
	c.key(input.Enter)
	stage("Tanks")
	focused("Tanks")
	c.tab("^Holds")
	c.text("60")
	c.key(input.Tab)
	c.text("1.9")
	c.tab("^Add a tank of that size$")
	c.key(input.Enter)
	c.tab("^Tank")
	c.key(input.Enter)
	stage("Posts and seats")
	focused("Posts and seats")
	c.tab("^Continue to the places$")
	c.key(input.Enter)
	stage("Places")
	focused("Places")
	c.tab("^Open, with a centre console")
	c.key(input.Enter)
	p.until("twelve places", `() => document.querySelectorAll('[data-place]').length === 12`)
	c.tab("^Type one more place$")
	for i, name := range []string{"port tray", "starboard tray"} {
		c.key(input.Enter)
		p.until("its name has the focus", `() => document.activeElement?.closest('form')?.getAttribute('aria-label') === 'A new place'`)
		c.text(name)
		c.tab("^Aft edge")
		c.text("130")
		c.key(input.Tab)
		c.text(fmt.Sprint([]int{45, -60}[i]))
		c.key(input.Tab)
		c.text("40")
		c.key(input.Tab)
		c.text("15")
		c.key(input.Enter)
		p.find(fmt.Sprintf("[data-place=%q]", name))
		p.until("another may be typed", `() => document.activeElement?.innerText === 'Type another place'`)
	}
	assert.Len(t, p.MustElements("[data-place]"), 14)
	t.Logf("%d presses", c.n)
	assert.Less(t, c.n, 110)

	// And the first piece, from a line of text into the place that is best.
	p.room("Gear", "List")
	p.find("form[aria-label='Add gear from text'] textarea").MustEval(`() => this.focus()`)
	c.text("anchor 40x25x12 7.5kg")
	p.until("it is read", `() => !document.querySelector('form[aria-label="Add gear from text"] button[type=submit]').disabled`)
	c.tab("^Add$")
	c.key(input.Enter)
	p.shows("1 added")
	p.room("Boat", "Stow")
	p.find("#quay button[data-gear]")
	p.MustReload()
	p.find("#quay button[data-gear]")
	c.key(input.Tab, input.Enter, input.Enter)
	p.until("the best place has the focus", `() => document.activeElement?.closest('[aria-label="Where it goes"]') !== null`)
	c.key(input.Enter)
	p.until("it is aboard", `() => document.querySelectorAll('#quay button').length === 0`)
}
