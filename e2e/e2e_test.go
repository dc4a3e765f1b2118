// Package e2e drives the built program in headless Chromium against a real
// database, as a person would: with mouse, keys and finger.
package e2e

import (
	"bufio"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/exec"
	"regexp"
	"slices"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"ergasia/store/storetest"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/cdp"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/launcher"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// patience is how long a condition may take to come true before a test fails: long, since
// three browsers share two slow cores.
const patience = 30 * time.Second

// longest is how long one test may use a page.
const longest = 5 * time.Minute

// program is the built program, running.
type program struct {
	t        testing.TB
	address  string
	database string
}

func binary(t testing.TB) string {
	path := os.Getenv("ERGASIA_BINARY")
	require.NotEmpty(t, path, "ERGASIA_BINARY is not set: run the tests with `make test`")
	return path
}

// start runs `ergasia COMMAND` on a free port until the test ends; a clean stop
// is part of every test.
func start(t testing.TB, command, database string) *program {
	cmd, address := run(t, command, database)
	t.Cleanup(func() { stop(t, cmd) })
	return &program{t: t, address: address, database: database}
}

// said is the second line of a program, where it says one.
var said sync.Map

// run starts `ergasia COMMAND` on a free port and gives its address.
func run(t testing.TB, command, database string) (*exec.Cmd, string) {
	cmd := exec.Command(binary(t), command)
	cmd.Env = append(os.Environ(), "DATABASE_URL="+database, "ERGASIA_ADDRESS=127.0.0.1:0",
		"ERGASIA_LOG="+t.TempDir()+"/log")
	out, err := cmd.StdoutPipe()
	require.NoError(t, err)
	cmd.Stderr = os.Stderr
	require.NoError(t, cmd.Start())
	lines := bufio.NewReader(out)
	line, err := lines.ReadString('\n')
	require.NoError(t, err)
	go func() {
		if next, err := lines.ReadString('\n'); err == nil {
			said.Store(cmd, next)
		}
		_, _ = io.Copy(io.Discard, lines)
	}()
	_, address, found := strings.Cut(strings.TrimSpace(line), " is at ")
	require.True(t, found, line)
	return cmd, address
}

func stop(t testing.TB, cmd *exec.Cmd) {
	require.NoError(t, cmd.Process.Signal(syscall.SIGTERM))
	assert.NoError(t, cmd.Wait(), "the program stops cleanly")
}

// page is a browser tab with what it complained of.
type page struct {
	*rod.Page
	t          testing.TB
	complaints *[]string
}

// noWorker is what the browser says where the program goes while it is to be kept for when
// there is no network; the page goes on without.
const noWorker = "An unknown error occurred when fetching the script."

// refusals are answers that a test provokes; Chromium logs them as errors.
var refusals = regexp.MustCompile(`status of (4\d\d)`)

// chromium is one browser for all tests: starting one takes longer than many a test.
var chromium = sync.OnceValues(func() (*rod.Browser, error) {
	bin := os.Getenv("CHROMIUM")
	if bin == "" {
		bin = "/usr/bin/chromium-headless-shell"
	}
	l := launcher.New().Bin(bin).Headless(true).NoSandbox(true).Leakless(false).
		Set("disable-gpu").Set("disable-background-networking").Set("disable-component-update").Set("disable-sync").
		Set("force-prefers-reduced-motion")
	u, err := l.Launch()
	if err != nil {
		return nil, err
	}
	ended = append(ended, l.Cleanup)
	b := rod.New().ControlURL(u)
	ended = append(ended, func() { _ = b.Close() })
	return b, b.Connect()
})

// ended is what ends with the tests, the last first.
var ended []func()

func TestMain(m *testing.M) {
	code := m.Run()
	for _, end := range slices.Backward(ended) {
		end()
	}
	os.Exit(code)
}

// browse opens a tab in a profile of its own: cookies, storage and what a service worker
// keeps are the test's alone.
func browse(t testing.TB, width, height int) *page {
	whole, err := chromium()
	require.NoError(t, err, "Chromium did not start; CHROMIUM may name another one")
	b, err := whole.Incognito()
	require.NoError(t, err)
	t.Cleanup(func() { _ = proto.TargetDisposeBrowserContext{BrowserContextID: b.BrowserContextID}.Call(whole) })
	fails := func(why any) { t.Helper(); require.FailNow(t, fmt.Sprint(why)) } // a panic would end every other test too
	p := &page{Page: b.MustPage("about:blank").WithPanic(fails).Timeout(longest), t: t,
		complaints: &[]string{}} // a press on what never shows fails, rather than wait for good
	p.MustSetViewport(width, height, 1, width < 600)
	p.listen()
	t.Cleanup(func() { assert.Empty(t, *p.complaints, "the console is quiet") })
	return p
}

func (p *page) listen() {
	proto.LogEnable{}.Call(p)
	go p.EachEvent(func(e *proto.RuntimeConsoleAPICalled) {
		if e.Type == proto.RuntimeConsoleAPICalledTypeError || e.Type == proto.RuntimeConsoleAPICalledTypeWarning {
			text, _ := json.Marshal(e.Args)
			*p.complaints = append(*p.complaints, string(text))
		}
	}, func(e *proto.RuntimeExceptionThrown) {
		*p.complaints = append(*p.complaints, e.ExceptionDetails.Text)
	}, func(e *proto.LogEntryAdded) {
		if e.Entry.Level == proto.LogLogEntryLevelError && !refusals.MatchString(e.Entry.Text) &&
			e.Entry.Text != noWorker {
			*p.complaints = append(*p.complaints, e.Entry.Text)
		}
	})()
}

func (p *page) open(address string) {
	p.MustNavigate(address).MustWaitLoad()
}

// quiet is how long a page may show nothing new before what is waited for will never come.
const quiet = 20 * time.Second // longer than a page waits before it tries again

// waitFor asks the page until JavaScript is true. It gives up when time is over, and before
// that where nothing on the page has moved for long: then nothing will come.
func (p *page) waitFor(js string, args ...any) error {
	whole := "async (...args) => { let is = false; try { is = await (" + js + ")(...args) } catch {} " + // what is looked at may not be there yet
		"return [Boolean(is), document.body.innerHTML.length + ' ' + performance.getEntriesByType('resource').length + location.href] }"
	began, moved, last := time.Now(), time.Now(), ""
	for {
		got, err := p.Timeout(patience).Eval(whole, args...)
		var away *cdp.Error
		switch {
		case errors.As(err, &away): // it made way for another
		case err != nil:
			return err
		case got.Value.Arr()[0].Bool():
			return nil
		case got.Value.Arr()[1].Str() != last:
			moved, last = time.Now(), got.Value.Arr()[1].Str()
		}
		if time.Since(began) > patience || time.Since(moved) > quiet {
			return fmt.Errorf("it did not come in %s, and nothing moved for %s", time.Since(began).Round(time.Second),
				time.Since(moved).Round(time.Second))
		}
		time.Sleep(40 * time.Millisecond)
	}
}

// find waits for an element.
func (p *page) find(css string) *rod.Element {
	if err := p.waitFor(`(css) => document.querySelector(css) !== null`, css); err != nil {
		require.NoError(p.t, err, "%s; the page shows:\n%s", css, p.shown(err))
	}
	var e *rod.Element
	err := p.patiently(func(page *rod.Page) (err error) {
		e, err = page.Element(css)
		return err
	})
	require.NoError(p.t, err, "%s; the page shows:\n%s", css, p.shown(err))
	return e.CancelTimeout()
}

// patiently asks the page for something, and asks again where the page that it
// was asked of made way for another.
func (p *page) patiently(ask func(*rod.Page) error) error {
	page := p.Timeout(patience)
	for {
		err := ask(page)
		var away *cdp.Error
		if !errors.As(err, &away) || page.GetContext().Err() != nil {
			return err
		}
		time.Sleep(50 * time.Millisecond)
	}
}

// shown is what the page shows where something failed.
func (p *page) shown(failed error) string {
	if failed == nil {
		return ""
	}
	text, err := p.Eval(`() => document.body.innerText`)
	if err != nil {
		return err.Error()
	}
	return text.Value.Str()
}

// click presses an element, and looks for it anew where the page was drawn
// again under the pointer.
func (p *page) click(css string) {
	p.again(css, func() *rod.Element { return p.find(css) })
}

// tap presses a button or link with a text.
func (p *page) tap(text string) {
	p.again(text, func() *rod.Element { return p.button(text) })
}

// pressPlace and pressGear press one in the drawing and in the list.
func (p *page) pressPlace(name string) {
	p.again(name, func() *rod.Element { return p.place(name) })
}

func (p *page) pressGear(name string) {
	p.again(name, func() *rod.Element { return p.gear(name) })
}

func (p *page) again(what string, find func() *rod.Element) {
	var err error
	for range 5 {
		if err = find().Timeout(patience/5).Click(proto.InputMouseButtonLeft, 1); err == nil {
			return
		}
	}
	require.NoError(p.t, err, what)
}

// button waits for a button or link with a text.
func (p *page) button(text string) *rod.Element {
	return p.among("button, a", text)
}

// until waits for JavaScript to be true; why is what a failure says.
func (p *page) until(why, js string, args ...any) {
	err := p.waitFor(js, args...)
	require.NoError(p.t, err, "%s; the page shows:\n%s", why, p.shown(err))
}

// says waits until the line over the drawing has a text.
func (p *page) says(text string) {
	p.until("the line says "+text, `(text) => document.querySelector('[data-testid=says]')?.innerText.includes(text)`, text)
}

// tally reads a figure of the tally.
func (p *page) tally(name string) string {
	return p.find(fmt.Sprintf(`[data-tally=%q] [data-value]`, name)).MustText()
}

// signIn presses one of the demo's people.
func (p *page) signIn(d *program, name string) {
	p.open(d.address)
	p.tap("^" + name + ",")
	p.find("[data-testid=verdict]") // the program opens on the next trip
	p.again("Boat", p.bar("Boat"))
	p.find("[data-place]") // the trip's boat: most of what is tried is aboard another
	p.board("Dunlin")
}

// board chooses a boat at the head of the page.
func (p *page) board(name string) {
	p.until(name+" is chosen", `(name) => {
		const s = [...document.querySelectorAll('select[aria-label=Boat]')].find(s => s.getClientRects().length > 0);
		const o = [...s.options].find(o => o.text === name);
		if (s.value === o.value) return document.title.includes(name) && document.querySelector('[data-place]') !== null;
		Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value').set.call(s, o.value);
		s.dispatchEvent(new Event('change', { bubbles: true }));
		return false;
	}`, name)
}

func middle(e *rod.Element) proto.Point {
	box := e.MustShape().Box()
	return proto.Point{X: box.X + box.Width/2, Y: box.Y + box.Height/2}
}

func (p *page) place(name string) *rod.Element {
	return p.find(fmt.Sprintf(`[data-place=%q]`, name))
}

func (p *page) gear(name string) *rod.Element { return p.find(fmt.Sprintf(`[data-gear=%q]`, name)) }

// carry presses on one element and drags to another, without letting go.
func (p *page) carry(from, to *rod.Element) {
	require.NoError(p.t, from.ScrollIntoView())
	a, b := middle(from), middle(to)
	p.Mouse.MustMoveTo(a.X, a.Y)
	p.Mouse.MustDown(proto.InputMouseButtonLeft)
	p.Mouse.MustMoveTo(a.X+12, a.Y+9)
	p.Mouse.MustMoveTo((a.X+b.X)/2, (a.Y+b.Y)/2)
	p.Mouse.MustMoveTo(b.X, b.Y)
}

func (p *page) drop() { p.Mouse.MustUp(proto.InputMouseButtonLeft) }

// press types keys.
func (p *page) press(keys ...input.Key) {
	for _, k := range keys {
		require.NoError(p.t, p.Keyboard.Type(k))
	}
}

// tabTo presses Tab until what has the focus has a name that matches.
func (p *page) tabTo(name string) {
	for range 150 {
		p.press(input.Tab)
		focused := p.MustEval(`() => { const e = document.activeElement; return e.getAttribute('aria-label') ?? e.innerText ?? '' }`).Str()
		if regexp.MustCompile(name).MatchString(focused) {
			return
		}
	}
	require.Fail(p.t, "Tab never reached "+name)
}

// get asks the program as the page's user would.
func (p *page) get(path string, into any) {
	text := p.MustEval(`async (path) => (await fetch(path)).text()`, path).Str()
	require.NoError(p.t, json.Unmarshal([]byte(text), into), text)
}

// axe finds nothing serious on the page as it stands.
func (p *page) axe(what string) {
	source, err := os.ReadFile("../web/node_modules/axe-core/axe.min.js")
	require.NoError(p.t, err, "axe-core comes with npm ci in web/")
	p.MustEval(`(source) => { (0, eval)(source); return true }`, "window.module = undefined;"+string(source)+";true")
	found := p.MustEval(`async () => {
		const r = await axe.run(document, { resultTypes: ['violations'] });
		const also = ['page-has-heading-one', 'landmark-one-main', 'scrollable-region-focusable'];
		return r.violations.filter(v => ['serious', 'critical'].includes(v.impact) || also.includes(v.id))
			.map(v => v.id + ': ' + v.nodes.slice(0, 3).map(n => n.target.join(' ') + ' ' + n.failureSummary).join('; ')).join('\n');
	}`).Str()
	assert.Empty(p.t, found, what)
}

// databaseOf is a copy of the demonstration, which is loaded once.
func databaseOf(t testing.TB) string {
	return storetest.Like(t, "demo_loaded", func(address string) {
		cmd, _ := run(t, "demo", address)
		stop(t, cmd)
	})
}

// demoProgram runs the demonstration on a database of its own, beside other tests.
func demoProgram(t testing.TB) *program {
	beside(t)
	return start(t, "demo", databaseOf(t))
}

// beside lets a test run at the same time as others: most of its time it waits
// for a browser. Benchmarks run alone.
func beside(t testing.TB) {
	if test, ok := t.(*testing.T); ok {
		test.Parallel()
	}
}

func TestAKilledProgramLosesNothingAcknowledged(t *testing.T) {
	beside(t)
	database := databaseOf(t)
	cmd, address := run(t, "demo", database)
	p := browse(t, 1280, 800)
	p.signIn(&program{t: t, address: address, database: database}, "Ilse")
	p.carry(p.gear("cooler 40 L, iced"), p.place("console front seat"))
	p.says("The stern comes up")
	p.drop()
	p.until("the move was answered", `() => document.querySelector('[data-testid=last-move]').innerText.includes('console front seat')`)
	kept := p.tally("Lowest freeboard")
	require.NoError(t, cmd.Process.Kill())
	_ = cmd.Wait()
	again := start(t, "demo", database)
	q := browse(t, 1280, 800)
	q.signIn(again, "Ilse")
	assert.Equal(t, kept, q.tally("Lowest freeboard"))
}

func TestAProgramThatIsNoDemoOffersNoOnePressSignIn(t *testing.T) {
	beside(t)
	database := storetest.URL(t)
	found := exec.Command(binary(t), "found", "--crew", "Tverrin", "--name", "Una", "--login", "una")
	found.Env = append(os.Environ(), "DATABASE_URL="+database)
	found.Stdin = strings.NewReader("a long password\n")
	out, err := found.CombinedOutput()
	require.NoError(t, err, string(out))
	s := start(t, "serve", database)
	ctx, cancel := context.WithTimeout(context.Background(), patience)
	defer cancel()
	req, err := http.NewRequestWithContext(ctx, http.MethodGet, s.address+"/readyz", nil)
	require.NoError(t, err)
	resp, err := http.DefaultClient.Do(req)
	require.NoError(t, err)
	require.NoError(t, resp.Body.Close())
	assert.Equal(t, 200, resp.StatusCode)
	p := browse(t, 1280, 800)
	p.open(s.address)
	p.find("input[type=password]")
	assert.NotContains(t, p.find("main").MustText(), "demonstration")
	p.find("input[autocomplete=username]").MustInput("una")
	p.find("input[type=password]").MustInput("a long password")
	p.tap("^Sign in$")
	// A crew with no boat is led to setting one up.
	p.until("the page for a new boat", `() => document.body.innerText.includes('A new boat')`)
	p.axe("a new boat")
	p.find("form input").MustInput("Plover")
	p.tap("^Add the boat and continue$")
	p.until("the boat is set up", `() => document.body.innerText.includes('Set up Plover')`)
	p.room("Boat", "Stow")
	p.until("she floats", `() => document.querySelector('[data-tally="Lowest freeboard"] [data-value]')?.innerText > 0`)
}
