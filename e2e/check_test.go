package e2e

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"os"
	"testing"

	"ergasia/api"
	"ergasia/app/floating"
	"ergasia/app/stowing"
	"ergasia/core/float"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
)

func writeFile(t *testing.T, name, text string) {
	require.NoError(t, os.WriteFile(name, []byte(text), 0o600))
}

// Forty kilograms that nobody listed lie in the starboard bow: six readings on the
// jetty find them, the check is kept, a skipper accepts, and the ledger agrees.
func TestAFloatCheckFindsWhatNobodyListed(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	craft, l := p.laden()
	hidden := r3.Vec{X: 3.9, Y: -0.25, Z: 0.45}
	l.Masses = append(l.Masses, float.Mass{Kg: 40, At: hidden})
	f := craft.Solve(l, nil).Figures
	require.NotNil(t, f)
	before := p.computed().DisplacementKg

	p.room("Boat", "Check")
	p.shows("Three to six freeboards")
	var session api.SessionView
	p.get("/api/session", &session)
	var checks floating.Surveys
	p.get(fmt.Sprintf("/api/crews/%s/boats/%s/checks", session.Crews[0].CrewID, session.Crews[0].Boats[0].ID), &checks)
	require.Len(t, checks.Points, 6)
	for i, e := range p.MustElements("main ol li:nth-child(3) input") {
		m := f.FreeboardAt(r3.Vec{X: checks.Points[i].At[0], Y: checks.Points[i].At[1], Z: checks.Points[i].At[2]})
		e.MustInput(fmt.Sprintf("%.0f", m*200)).MustInput("0.5") // a slip of the finger
		e.MustSelectAllText().MustInput(fmt.Sprintf("%.0f", float64(int(m*200+0.5))*5))
	}
	p.tap("Show the result")
	p.until("a mass is found", `() => /^(3|4)\d kg ± \d+ kg more than listed/.test(document.querySelector('[data-testid=finding]')?.innerText ?? '')`)
	said := p.find("[data-testid=finding]").MustText()
	assert.Contains(t, said, "ahead of the transom")
	p.shows("starboard fore locker")
	p.axe("a finding")
	p.tap("^Keep this check$")
	p.find("[data-testid=kept]")
	p.tap("^Accept$")
	p.shows("Accepted: kept as a fixed mass of hers.")
	p.room("Boat", "Stow")
	p.find("[data-place]")
	var b stowing.Bench
	p.get(fmt.Sprintf("/api/crews/%s/boats/%s/bench", session.Crews[0].CrewID, session.Crews[0].Boats[0].ID), &b)
	assert.InDelta(t, before+40, b.State.Now.Displacement, 10)
}

// Sune walks across; the level shows what the ledger says it should.
func TestAnIncliningCheckAgreesWithTheLedger(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	craft, l := p.laden()
	heel := func() string { return fmt.Sprintf("%.2f", craft.Solve(l, nil).Figures.HeelDeg) }
	before := heel()
	for i := range l.Masses {
		if l.Masses[i].Kg == 84 {
			l.Masses[i].At.Y = -0.4
		}
	}
	p.room("Boat", "Check")
	p.tap("^Inclining check")
	p.find("main ol li:nth-child(2) select").MustSelect("Sune, 84 kg")
	for i, v := range []string{"-40", before, heel(), "0.05"} {
		p.MustElements("main ol li:nth-child(2) input")[i].MustSelectAllText().MustInput(v)
	}
	p.tap("Show the result")
	p.until("they agree", `() => /by the list of masses\. They agree\.$/.test(document.querySelector('[data-testid=finding]')?.innerText ?? '')`)
	p.axe("an inclining check")
	p.tap("^Keep this check$")
	p.until("it is kept", `() => document.querySelector('[data-testid=kept]')?.innerText.includes('inclining check')`)
	p.MustElements("main ol li:nth-child(2) input")[2].MustSelectAllText().MustInput("-9")
	p.tap("Show the result")
	p.shows("she heeled away from the weight")
}

func TestTheRoadSaysWhatRidesElsewhere(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Sune")
	p.room("Boat", "Road")
	p.until("the tyres are over", `() => document.querySelector('[data-testid=headline]')?.innerText.includes('Not right: on each tyre')`)
	p.shows("Take out 38 kg: cooler 40 L, iced")
	p.tap("^Put it in the car$")
	p.until("the tyres hold", `() => !document.querySelector('[data-testid=headline]').innerText.includes('on each tyre')`)
	p.shows("38 kg in the car")
	p.find(`select[aria-label="cooler 40 L, iced rides"]`).MustSelect("in the van")
	p.until("the tyres hold", `() => !document.querySelector('[data-testid=headline]').innerText.includes('on each tyre')`)
	p.shows("38 kg in the van")
	p.MustReload()
	p.until("it is kept", `() => document.querySelector('select[aria-label="cooler 40 L, iced rides"]')?.value === 'van'`)
}

func TestTheFloatPageShowsWhatPeopleDoToHer(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Tove") // a guest may look
	p.room("Boat", "Float")
	p.until("five tests", `() => document.querySelectorAll('[data-test]').length === 5`)
	for _, key := range []string{"port", "starboard", "bow", "aft", "overboard"} {
		p.find(fmt.Sprintf("[data-test=%s] svg", key))
	}
	p.shows("Water comes in at")
	was := p.find("[data-testid=verdicts]").MustText()
	p.MustEval(`() => { const s = document.querySelectorAll('main input[type=range]')[1];
		Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(s, '150'); s.dispatchEvent(new Event('input', { bubbles: true })) }`)
	p.until("water in the bilge sinks her", `(was) => document.querySelector('[data-testid=verdicts]').innerText !== was`, was)
}

func TestAPictureOfAPlaceIsKeptWithoutItsMetadata(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.open(p.MustInfo().URL + "/setup?stage=places")
	img := image.NewRGBA(image.Rect(0, 0, 2400, 300))
	for x := range 2400 {
		img.Set(x, x%300, color.RGBA{R: 200, G: 40, B: 10, A: 255})
	}
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, img))
	name := t.TempDir() + "/locker.png"
	writeFile(t, name, b.String())
	p.find("section[aria-label=Pictures] input[type=file]").MustSetFiles(name)
	p.until("the picture shows, made smaller", `() => document.querySelector('section[aria-label=Pictures] img')?.naturalWidth === 1600`)
	text := t.TempDir() + "/not.png"
	writeFile(t, text, "this is a text")
	p.find("section[aria-label=Pictures] input[type=file]").MustSetFiles(text)
	p.shows("This is no JPEG or PNG picture.")
	p.tap("^Remove$")
	p.until("it is gone", `() => !document.querySelector('section[aria-label=Pictures] img')`)
}
