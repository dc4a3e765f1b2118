package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// field is the input or select under a label, within a form.
func (p *page) field(form, label string) *rod.Element {
	e, err := p.Timeout(patience).ElementByJS(rod.Eval(`(form, label) => {
		const f = [...document.querySelectorAll('form')].find(f => f.getAttribute('aria-label') === form);
		const l = f && [...f.querySelectorAll('label')].find(l => l.innerText.trim().startsWith(label));
		return l ? l.querySelector('input, select') : null;
	}`, form, label))
	require.NoError(p.t, err, "%s: %s", form, label)
	return e.CancelTimeout()
}

func (p *page) fill(form string, values map[string]string) {
	for label, value := range values {
		p.field(form, label).MustSelectAllText().MustInput(value)
	}
}

// submit presses the form's main button.
func (p *page) submit(form string) {
	p.click(fmt.Sprintf(`form[aria-label=%q] button[type=submit]`, form))
}

func (p *page) shows(text string) {
	p.until("the page shows "+text, `(text) => document.body.innerText.includes(text)`, text)
}

func TestAnInvitedPersonJoins(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.room("Crew", "People")
	p.fill("Someone new", map[string]string{"Name": "Nils", "Mark": "N", "Mass": "82"})
	p.submit("Someone new")
	p.shows("shown only now")
	text := p.MustEval(`() => document.body.innerText`).Str()
	_, rest, found := strings.Cut(text, "/link#")
	require.True(t, found)
	token := strings.Fields(rest)[0]

	q := browse(t, 390, 844)
	q.open(d.address + "/link#" + token)
	q.shows("Welcome aboard, Nils")
	q.axe("an invitation")
	q.fill("Sign-in", map[string]string{"Login": "nils", "Password": "short"})
	q.submit("Sign-in")
	q.shows("must have from 10 to 200 characters")
	q.fill("Sign-in", map[string]string{"Password": "long enough now"})
	q.submit("Sign-in")
	q.find("[data-testid=verdict]")

	again := browse(t, 1280, 800)
	again.open(d.address + "/link#" + token)
	again.shows("was used, has run out or was replaced")
}

func TestWhoLeavesTheCrewIsSignedOutAndTheirThingsGoOn(t *testing.T) {
	d := demoProgram(t)
	marit := browse(t, 390, 844)
	marit.signIn(d, "Marit")
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.room("Crew", "People")
	p.click(`[data-member=Marit] summary`)
	p.tap("^Take Marit off the crew")
	p.shows("Marit can no longer sign in")
	p.tap("^Keep Marit")
	p.tap("^Take Marit off the crew")
	p.field("Leaving of Marit", "What is theirs (20) will").MustSelect("go to someone else")
	p.field("Leaving of Marit", "To whom").MustSelect("Sune")
	p.axe("taking someone off the crew")
	p.submit("Leaving of Marit")
	p.until("she is gone", `() => !document.querySelector('[data-member=Marit]')`)
	p.until("Sune has her things", `() => document.querySelector('[data-member=Sune]').innerText.includes('41 things')`)
	marit.MustReload()
	marit.shows("Step aboard as")
}

func TestAPlaceThatLeavesTheHullIsFlaggedOnTheDrawing(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Oskar")
	p.open(p.MustInfo().URL + "/setup?stage=places")
	p.place("step").MustEval(`() => this.focus()`)
	p.press(input.Enter)
	p.fill("Change step", map[string]string{"Name": "gunwale box", "Aft edge": "150", "Starboard edge": "80",
		"Floor": "40", "Length": "40", "Breadth": "60", "Height": "20"})
	p.submit("Change step")
	p.shows("It stands out of the hull by")
	p.room("Boat", "Stow")
	p.until("the bench flags it", `() => !!document.querySelector('[data-target][data-place="gunwale box"]')`)
	label := p.place("gunwale box").MustAttribute("aria-label")
	assert.Contains(t, *label, "stands out of the hull by")
	assert.Contains(t, *label, "through the side")
	p.axe("a flagged place")
}

// Two people hold the same piece; the second to put it down is told.
func TestTheSecondOfTwoHandsIsTold(t *testing.T) {
	d := demoProgram(t)
	one, two := browse(t, 1280, 800), browse(t, 1280, 800)
	one.signIn(d, "Ilse")
	two.signIn(d, "Sune")
	two.carry(two.gear("cooler 25 L"), two.place("console front seat"))
	two.says("freeboard")
	one.carry(one.gear("cooler 25 L"), one.place("console front seat"))
	one.says("freeboard")
	one.drop()
	one.lastMove("cooler 25 L → console front seat")
	two.drop()
	two.says("Someone else moved it meanwhile")
	two.lastMove("Ilse: cooler 25 L → console front seat")
	assert.Equal(t, one.tally("Load"), two.tally("Load"), "and sees where it is now")
}

func TestALostServerIsSaidAndNothingIsLost(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	before := p.tally("Lowest freeboard")
	p.carry(p.gear("cooler 40 L, iced"), p.place("console front seat"))
	p.says("The stern comes up")
	require.NoError(t, proto.NetworkEnable{}.Call(p))
	require.NoError(t, proto.NetworkEmulateNetworkConditions{Offline: true, DownloadThroughput: -1,
		UploadThroughput: -1}.Call(p))
	p.drop()
	p.says("can't be reached")
	assert.Equal(t, before, p.tally("Lowest freeboard"))
	require.NoError(t, proto.NetworkEmulateNetworkConditions{DownloadThroughput: -1, UploadThroughput: -1}.Call(p))
	p.place("console front seat").MustEval(`() => this.focus()`)
	p.says("The stern comes up")
	p.find("body")
	p.MustEval(`() => document.querySelector('[data-place="console front seat"]').dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }))`)
	p.lastMove("console front seat")
	*p.complaints = nil // the browser complains of each request that did not get through
}
