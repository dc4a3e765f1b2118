package e2e

import (
	"fmt"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A fitting goes from a line of text to its place in under six presses: what it would
// be in the way of is said while it is in hand, and taken back is taken back.
func TestAFittingIsListedTriedAndMounted(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.room("Boat", "Rigging")
	p.shows("23 fittings; one thing to see to.")
	p.shows("Sonar pole folds at 4.7 kn")
	p.axe("a boat's rigging")
	presses := 0
	press := func() { presses++ }

	p.find("form[aria-label='Add a fitting'] textarea").MustInput("rod holder 15° port 0.6 kg M6x50")
	p.press(input.Enter)
	press()
	p.shows("is in hand")
	area := p.find("[data-testid=plan-area]").MustShape().Box()
	helm := p.find("[data-fitting='console display, 12 in'] > g:last-child > path").
		MustShape().
		Box()
		// over the console's lid
	p.Mouse.MustMoveTo(helm.X+helm.Width/2, helm.Y+helm.Height/2)
	p.Mouse.MustClick(proto.InputMouseButtonLeft)
	press()
	p.until(
		"the dry run says what it meets",
		`() => document.querySelector('[data-testid=dry-run]')?.innerText.includes('claim one space')
		|| document.querySelector('[data-testid=dry-run]')?.innerText.includes('console')`,
	)
	p.Mouse.MustMoveTo(area.X+area.Width*0.35, helm.Y-60)
	p.Mouse.MustClick(proto.InputMouseButtonLeft)
	press()
	p.axe("a fitting in hand")
	p.tap("^How it is held$")
	p.shows("Best: ")
	p.shows("What it must bear")
	p.tap("^Where$")
	p.submit("Fitting in hand")
	press()
	p.shows("24 fittings")
	assert.Less(t, presses, 6)
	p.click("section[aria-label=Undo] button")
	p.shows("23 fittings")
}

// What is typed half stays, nonsense is refused in a sentence, and arrows move it.
func TestAFittingInHandSurvivesNonsenseAndAReload(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 390, 844)
	p.signIn(d, "Ilse")
	p.room("Boat", "Rigging")
	p.find("form[aria-label='Add a fitting'] textarea").MustInput("2 cleats")
	p.press(input.Enter)
	p.shows("and 1 more after it")
	p.find("[data-measure=x]").MustSelectAllText().MustInput("nonsense")
	p.shows("A number is half typed")
	p.submit("Fitting in hand")
	p.shows("From the transom: write a number in cm.")
	p.MustReload()
	p.shows("and 1 more after it")
	p.find("[data-measure=x]").MustSelectAllText().MustInput("900")
	p.until("the server says what is wrong", `() => document.querySelector('[role=alert]')?.innerText.length > 0`)
	p.find("[data-measure=x]").MustSelectAllText().MustInput("60")
	p.find("[role=slider]").MustFocus()
	p.press(input.ArrowRight)
	p.until("an arrow moved it a centimetre", `() => document.querySelector('[data-measure=x]').value === '61'`)
	assert.LessOrEqual(
		t,
		p.MustEval(`() => document.documentElement.scrollWidth`).Int(),
		390,
		"nothing sticks out sideways",
	)
	p.tap("^Mount all 2 as guessed$")
	p.shows("25 fittings")
}

// A set goes on as one and is taken back as one; a unit goes from base to base.
func TestASetGoesOnAsOneAndAUnitDocks(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.room("Boat", "Rigging")
	p.tap("^Comes off$")
	p.shows("portable sonar ashore")
	p.axe("what comes off")
	p.tap("^To bow base$")
	p.shows("portable sonar in bow base")
	p.click("section[aria-label=Undo] button")
	p.shows("portable sonar ashore")
	p.tap("^To helm base$")
	p.shows("portable sonar in helm base")
	p.shows("43 min to rig")
	p.click("[data-set=lake] .main-button")
	p.until(
		"the lake's set is on",
		`() => document.querySelector('[data-set=lake]').innerText.includes('She is rigged so.')`,
	)
	p.shows("portable sonar ashore")
	p.shows("port aft rod holder is off")
	p.click("section[aria-label=Undo] button")
	p.shows("portable sonar in helm base")
	p.tap("^All of it is off$")
	p.shows("portable sonar ashore")

	p.click("[aria-label=Undo] button[aria-label^=Close]")
	p.tap("^Keep a set$")
	p.find("form[aria-label='A new set'] input").MustInput("ice")
	p.tap("^Keep the set$")
	p.find("[data-set=ice]")
}

// The largest free boxes are told with what they are worth, and one press makes a place.
func TestSpaceNobodyUsesBecomesAPlace(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.room("Boat", "Rigging")
	p.tap("^Space nobody uses$")
	p.shows("Frames and stringers are not known")
	first := p.find("[data-space]").MustAttribute("data-space")
	p.axe("space nobody uses")
	p.tap("^Show it alone$")
	p.shows("Show all")
	p.click("[data-space] .main-button")
	p.until(
		"it is a place and no space any more",
		`(name) => ![...document.querySelectorAll('[data-space]')].some(s => s.dataset.space === name && s.innerText.includes('Make it a place'))`,
		*first,
	)
	p.room("Boat", "Stow")
	p.until(
		"the bench has it",
		`(name) => document.body.innerText.includes(name) || !!document.querySelector('[data-place="' + name + '"]')`,
		*first,
	)
}

// Places for the sonar by the crew's own weights; what her rode does.
func TestHowSheWorksAsSheIsRigged(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.room("Boat", "Rigging")
	p.tap("^Sonar$")
	p.shows("By your weights: portable unit")
	p.axe("places for the sonar")
	p.find("select[aria-label='Weight of who sees it']").MustSelect("5")
	p.until(
		"it is kept",
		`() => document.querySelector("select[aria-label='Weight of who sees it']").value === '5' && !document.querySelector("select[aria-label='Weight of who sees it']").disabled`,
	)
	p.find("select[aria-label='Rating of portable unit: hands free while scanning']").MustSelect("5")
	p.shows("The crew's rating.")
	p.tap("^At work$")
	p.shows("of rode are missing")
	p.shows("Working side: port")
	p.axe("how she works")
	p.click("section[aria-label='Ground tackle'] summary")
	p.find("form[aria-label='Her rode'] [data-measure=rope_m]").MustSelectAllText().MustInput("120")
	p.submit("Her rode")
	p.shows("of rode are let out in 10.0 m of water")
	p.tap("^Sonar$")
	p.until(
		"the weights are still there",
		`() => document.querySelector("select[aria-label='Weight of who sees it']").value === '5'`,
	)
}

// A guest looks and tries, and is offered nothing that is refused.
func TestAGuestLooksAtTheRigging(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 390, 844)
	p.signIn(d, "Tove")
	p.room("Boat", "Rigging")
	p.shows("23 fittings")
	p.until("nothing to add by", `() => !document.querySelector("form[aria-label='Add a fitting']")`)
	p.click("[data-kind=folds] button")
	p.shows("is in hand")
	p.until(
		"no button keeps anything",
		`() => ![...document.querySelectorAll('button')].some(b => /^(Keep it so|Take off the list|Mount)/.test(b.innerText))`,
	)
	p.axe("a guest with a fitting in hand")
	p.tap("^Put aside$")
	p.tap("^Comes off$")
	p.shows("portable sonar")
	p.until(
		"nothing is moved by a guest",
		`() => ![...document.querySelectorAll('button')].some(b => /^(Ashore|It is done|To bow base)$/.test(b.innerText))`,
	)
}

// The template opens as a PDF at true scale, also in inches for who reads inches.
func TestATemplateIsPrinted(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.room("Boat", "Rigging")
	p.tap("^Listed$")
	p.tap("port bow cleat")
	p.tap("^How it is held$")
	href := p.button("^Template, PDF$").MustProperty("href").String()
	kind := p.MustEval(`(href) => fetch(href).then(async r => r.headers.get('Content-Type') + ' ' + (await r.text()).slice(0, 5))`, href).
		Str()
	assert.Equal(t, "application/pdf %PDF-", kind)
	svg := p.MustEval(`(href) => fetch(href + '?format=svg&mirrored=true').then(r => r.text())`, href).Str()
	assert.Contains(t, svg, "mirrored: the line is 100 mm")
}

// Without a mouse: a line, arrows, a way of fixing, mounted, found in the list.
func TestAFittingIsMountedByKeysAlone(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.room("Boat", "Rigging")
	p.shows("23 fittings")
	p.tabTo("One fitting a line")
	require.NoError(t, p.InsertText("antenna 2.4 m starboard"))
	p.press(input.Enter)
	p.shows("is in hand")
	p.tabTo("Where antenna")
	before := p.MustEval(`() => document.querySelector('[data-measure=z]').value`).Str()
	p.press(input.PageUp, input.PageUp, input.ArrowLeft, input.ArrowDown)
	p.until("keys moved it", `(before) => document.querySelector('[data-measure=z]').value !== before`, before)
	p.tabTo("^How it is held$")
	p.press(input.Enter)
	p.shows("Ways of fixing it")
	p.tabTo("^Take ")
	p.press(input.Space)
	p.tabTo("^Mount it here$")
	p.press(input.Enter)
	p.shows("24 fittings")
}

// Two skippers change one fitting: the second is told, keeps what was typed, and may put
// it over that.
func TestTwoWhoChangeOneFittingAreToldOfEachOther(t *testing.T) {
	d := demoProgram(t)
	one, two := browse(t, 1280, 800), browse(t, 1280, 800)
	for p, name := range map[*page]string{one: "Ilse", two: "Oskar"} {
		p.signIn(d, name)
		p.room("Boat", "Rigging")
		p.tap("^Listed$")
		p.tap("^net hook")
		p.shows("is in hand")
	}
	mass := func(p *page, kg string) {
		p.find("[data-measure=kg]").MustSelectAllText().MustInput(kg)
		p.submit("Fitting in hand")
	}
	mass(one, "0.3")
	one.shows("23 fittings")
	mass(two, "0.4")
	two.shows("net hook was changed by someone else meanwhile")
	assert.Equal(t, "0.4", two.find("[data-measure=kg]").MustProperty("value").Str(), "what was typed is still there")
}

// The network goes while a fitting is in hand: it says so, nothing is lost, and it is
// mounted once when the network is back.
func TestAFittingWaitsForTheNetwork(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.room("Boat", "Rigging")
	p.find("form[aria-label='Add a fitting'] textarea").MustInput("cleat port")
	p.press(input.Enter)
	p.shows("is in hand")
	p.find("[data-testid=dry-run]")
	offline := func(off bool) {
		require.NoError(
			t,
			proto.NetworkEmulateNetworkConditions{Offline: off, DownloadThroughput: -1, UploadThroughput: -1}.Call(p),
		)
	}
	require.NoError(t, proto.NetworkEnable{}.Call(p))
	offline(true)
	p.submit("Fitting in hand")
	p.shows("can't be reached")
	p.shows("is in hand")
	offline(false)
	p.submit("Fitting in hand")
	p.shows("24 fittings")
	*p.complaints = nil // the browser complains of each request that did not get through
}

// A boat's rigging is listed on a walk round her: a line, a press where it stands, a press
// to mount it. By the keystroke-level model forty take well under twenty minutes.
func TestFortyFittingsAreListedInTwentyMinutes(t *testing.T) {
	d := demoProgram(t)
	c := &klm{page: browse(t, 1280, 800)}
	c.signIn(d, "Ilse")
	c.room("Boat", "Rigging")
	c.shows("23 fittings")
	lines := []string{"rod holder 30° port 0.5 kg", "net hook starboard", "work lamp 0.4 kg", "antenna 1.8 m", "tie-down"}
	for i, line := range lines {
		c.press("form[aria-label='Add a fitting'] textarea", "")
		c.types(line)
		c.key(input.Enter)
		c.find("[role=slider]")
		c.hand(false)
		c.m, c.p, c.b = c.m+1, c.p+1, c.b+2
		box := c.find("[data-testid=plan-area]").MustShape().Box()
		c.Mouse.MustMoveTo(box.X+box.Width*(0.3+0.05*float64(i)), box.Y+box.Height*0.5)
		c.Mouse.MustClick(proto.InputMouseButtonLeft)
		c.press("form[aria-label='Fitting in hand'] button[type=submit]", "")
		c.shows(fmt.Sprintf("%d fittings", 24+i))
	}
	forty := c.seconds() / float64(len(lines)) * 40 / 60
	t.Logf("forty fittings take %.1f minutes", forty)
	assert.Less(t, forty, 20.0)
}
