package e2e

import (
	"bytes"
	"image"
	"image/png"
	"os"
	"path/filepath"
	"testing"
	"time"

	"ergasia/app/gear"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// piece opens the page of gear by what a person would type.
func (p *page) piece(d *program, query string) gear.GearRow {
	g := p.listed(query)
	p.open(d.address + "/gear/" + g.ID.String())
	p.until("the page of "+g.Name, `(name) => document.querySelector('h1')?.innerText.startsWith(name)`, g.Name)
	return g
}

// spread opens the details whose summary has a text; it looks again where the page moved
// under the pointer.
func (p *page) spread(text string) {
	for range 5 {
		e, err := p.Timeout(patience).ElementR("summary", text)
		require.NoError(p.t, err, text)
		e = e.CancelTimeout()
		if e.Timeout(patience/5).Click(proto.InputMouseButtonLeft, 1) != nil {
			continue // it was drawn anew under the pointer
		}
		if open, err := e.Eval(`() => this.parentElement.open`); err == nil && open.Value.Bool() {
			return
		}
	}
	require.Fail(p.t, "it does not open", text)
}

func TestEverythingIsSaidOfAPiece(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Oskar")
	g := p.piece(d, "baitcaster")
	form := "Change " + g.Name
	p.spread("Care")
	p.choose(form, "Condition", "worn")
	p.fill(form, map[string]string{"Also called": "the crunchy one", "Mass of one": "none"})
	p.submit(form)
	p.shows("Mass of one: write a number")
	p.fill(form, map[string]string{"Mass of one": "0.31"})
	p.spread("Dates, serial number, cost")
	p.fill(form, map[string]string{"Cost": "-3"})
	p.submit(form)
	p.shows("Cost is -3: must be")
	p.fill(form, map[string]string{"Cost": ""})
	p.submit(form)
	p.until("it is kept", `() => document.querySelector('h1').innerText.includes('worn')`)
	p.until("its history tells", `() => ['condition: good → worn', '0.45 kg (weighed) → 0.31 kg (weighed)'].every(x => document.querySelector('[aria-label=History]').innerText.includes(x))`)
	kept := p.listed("crunchy")
	assert.Equal(t, g.ID, kept.ID, "found by its nickname")
	assert.Nil(t, kept.Cost)

	p.find("input[aria-label='Spare for']").MustInput("multiplier 20")
	p.tap("^multiplier reel, 20$")
	p.submit(form)
	p.until("it is a spare", `() => [...document.querySelectorAll('button')].some(b => b.innerText.includes('multiplier reel, 20: take off'))`)
	p.until("it is saved", `(form) => document.querySelector('form[aria-label="' + form + '"]').innerText.includes('Saved.')`, form)
	p.piece(d, "multiplier reel, 20")
	p.until("the other says so", `() => document.querySelector('[aria-label="Spares for it"]').innerText.includes('baitcaster, left hand')`)

	p.fill("Add a note", map[string]string{"A note": "handle bent, straightened"})
	p.submit("Add a note")
	p.until("the note is in the history", `() => document.querySelector('[aria-label=History] ol').innerText.includes('handle bent, straightened')`)
	p.spread("Add a service")
	p.fill("Add a service", map[string]string{"What": "grease", "Every so many days": "0", "or trips": "4"})
	p.submit("Add a service")
	p.until("the service is listed", `() => document.querySelector('[aria-label="Service"]').innerText.includes('every 4 trips')`)
	p.tap("^Done$")
	p.until("it was done", `() => document.querySelector('[aria-label=History]').innerText.includes('service: grease: done')`)
}

func TestAPieceIsLentAndComesBack(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Sune")
	p.piece(d, "crab pots")
	p.spread("Lend or borrow")
	p.fill("Lend or borrow", map[string]string{"Who": "the harbour master"})
	p.date("Lend or borrow", "Until", time.Now().AddDate(0, 0, 20))
	p.submit("Lend or borrow")
	p.until("it is away", `() => document.querySelector('[aria-label="Where it is"]').innerText.includes('lent to the harbour master')`)
	p.until("what is lent is not moved", `() => !document.querySelector("form[aria-label='Move crab pots']")`)
	p.tap("^It is back$")
	p.until("it is on the quay", `() => document.querySelector('[aria-label="Where it is"]').innerText.includes('the quay')`)
	p.find("form[aria-label=Split] input").MustSelectAllText().MustInput("2")
	p.tap("^of 3$")
	p.until("two are apart", `() => document.querySelector('h1').innerText.includes('crab pots × 2')`)
	p.find("input[type=file]").MustSetFiles(picture(t))
	p.until("its picture is shown", `() => document.querySelector('[aria-label=Pictures] img')?.naturalWidth > 0`)
	p.axe("a piece with a picture")
	p.tap("^Remove from the list$")
	p.until("back on the list", `() => location.pathname === '/gear' && document.body.innerText.includes('234 entries')`)
}

func picture(t *testing.T) string {
	var out bytes.Buffer
	require.NoError(t, png.Encode(&out, image.NewGray(image.Rect(0, 0, 64, 48))))
	path := filepath.Join(t.TempDir(), "picture.png")
	require.NoError(t, os.WriteFile(path, out.Bytes(), 0o600))
	return path
}

func TestManyAreChangedFromTheList(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.open(d.address + "/gear?only=worn")
	p.until("what is worn", `() => { const t = document.querySelector('ul[aria-label=Gear]')?.innerText ?? ''; return t.includes('spinning reel 4000') && !t.includes('air horn') }`)
	for _, name := range []string{"spinning reel 4000", "waders, old pair"} {
		p.click("input[aria-label='Choose " + name + "']")
	}
	p.shows("2 chosen")
	p.axe("two chosen")
	p.find("section[aria-label='Change those chosen'] input").MustInput("To The Yard")
	p.tap("^Add tag$")
	p.until("they are let go", `() => !document.body.innerText.includes('2 chosen')`)
	var page gear.GearPage
	p.get(p.crew()+"/gear?tag=to+the+yard", &page)
	assert.Len(t, page.Rows, 2)
	p.open(d.address + "/gear?tag=to%20the%20yard&sort=recent")
	p.until("the list is cut down by the tag", `() => document.querySelectorAll('ul[aria-label=Gear] li').length === 2`)
	p.find("input[type=search]").MustInput("nothing like it")
	p.shows("No gear matches these filters.")
}

func TestAGuestFindsAndChangesNothing(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 390, 844)
	p.signIn(d, "Tove")
	for _, path := range []string{"/gear", "/shed", "/kits", "/trips", "/due",
		"/gear/" + p.listed("landing net").ID.String()} {
		p.open(d.address + path)
		p.find("main h1")
		p.until("no form for a guest on "+path, `() => document.querySelectorAll('main form').length === 0`)
		assert.LessOrEqual(t, p.MustEval(`() => document.documentElement.scrollWidth`).Int(), 390, "%s: nothing sticks out sideways", path)
		p.axe(path + " for a guest on a phone")
	}
	p.tap("Find")
	p.find("[cmdk-input]").MustInput("flares")
	p.until("found on a phone", `() => document.querySelector('dialog[open]').innerText.includes('flares, sealed box')`)
	p.press(input.ArrowDown, input.ArrowUp, input.Escape)
	p.until("escape closes it", `() => !document.querySelector('dialog[open]')`)
}

func TestByKeysAloneAThingIsFoundAndMoved(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.press('/')
	p.find("[cmdk-input]")
	p.until("the field has the focus", `() => document.activeElement?.matches('[cmdk-input]')`)
	for _, r := range "chart case" {
		p.press(input.Key(r))
	}
	p.until("it is found", `() => document.querySelector('[cmdk-item][data-selected=true]')?.innerText.includes('chart case')`)
	p.press(input.Enter)
	p.until("its page is open", `() => document.querySelector('h1')?.innerText.startsWith('chart case')`)
	p.tabTo("^I moved it$")
	p.press(input.Enter)
	p.find("form[aria-label='Move chart case']")
	p.tabTo("^aboard")
	p.press('a', 's')
	p.until("ashore is chosen", `() => document.querySelector('form[aria-label="Move chart case"] select').value === 'shed'`)
	p.tabTo("^It is there now$")
	p.press(input.Enter)
	p.shows("Now: boathouse, floor. ")
	p.shows("chart case must stay dry")
}

func TestAnOverloadedLockerIsToldOnTheBench(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.find("select[aria-label=Boat]").MustSelect("Plover")
	p.until("Plover is on the bench", `() => !!document.querySelector('[data-place="centre locker"]')`)
	p.pressPlace("centre locker")
	p.shows("Overloaded by")
	p.shows("holds 4")
	p.tap("tool box, small")
	p.until("its page says where it is", `() => document.querySelector('[aria-label="Where it is"]')?.innerText.includes('Plover, centre locker')`)
}

// What was typed stays over leaving the page; what another changed meanwhile is
// told, and saving again goes over it.
func TestNothingTypedOfAPieceIsLost(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Oskar")
	g := p.piece(d, "crab pots")
	form := "Change " + g.Name
	p.fill(form, map[string]string{"Also called": "the cages"})
	p.open(d.address + "/gear")
	p.piece(d, "crab pots")
	p.shows("What you typed here before is not saved yet.")
	assert.Equal(t, "the cages", p.field(form, "Also called").MustProperty("value").Str())

	// Meanwhile someone else changes it.
	p.MustEval(`async (id) => {
		const s = await (await fetch('/api/session')).json();
		const at = '/api/crews/' + s.crews[0].crew_id + '/gear/' + id;
		const g = await (await fetch(at)).json();
		const r = await fetch(at, { method: 'PUT', headers: { 'Content-Type': 'application/json', 'Idempotency-Key': crypto.randomUUID() },
			body: JSON.stringify({ name: g.name, size_m: g.size_m, kg: g.kg + 0.5, mass_known: g.mass_known, count: g.count, turn: g.turn,
				needs_dry: g.needs_dry, shape: g.shape, tags: g.tags ?? [], version: g.version }) });
		if (!r.ok) throw new Error(await r.text());
	}`, g.ID.String())
	p.submit(form)
	p.shows("What you typed is still here: save again to put it over that.")
	p.until("what is there now was read", `async (id) => {
		const s = await (await fetch('/api/session')).json();
		const g = await (await fetch('/api/crews/' + s.crews[0].crew_id + '/gear/' + id)).json();
		return g.version > 1;
	}`, g.ID.String())
	p.patientlySaved(form, "the cages", g.ID.String())
	p.open(d.address + "/gear/" + g.ID.String())
	p.until("it has its nickname", `(form) => [...document.querySelectorAll('form input')].some(i => i.value === 'the cages')`)
	assert.NotContains(t, p.MustElement("main").MustText(), "is not saved yet")
}

// patientlySaved presses Save until a piece has a nickname.
func (p *page) patientlySaved(form, nickname, id string) {
	for range 5 {
		p.submit(form)
		time.Sleep(300 * time.Millisecond)
		if p.MustEval(`async (id) => {
			const s = await (await fetch('/api/session')).json();
			return (await (await fetch('/api/crews/' + s.crews[0].crew_id + '/gear/' + id)).json()).nickname ?? '';
		}`, id).Str() == nickname {
			return
		}
	}
	p.t.Fatal("it was not saved")
}

// What was removed comes back by one press.
func TestARemovedPieceIsTakenBack(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Sune")
	g := p.piece(d, "crab pots")
	p.tap("^Remove from the list$")
	p.shows("crab pots was removed.")
	p.click("section[aria-label=Undo] button")
	p.until("it is there again", `async (id) => {
		const s = await (await fetch('/api/session')).json();
		return (await fetch('/api/crews/' + s.crews[0].crew_id + '/gear/' + id)).ok && !document.body.innerText.includes('crab pots was removed');
	}`, g.ID.String())
	p.axe("the list after taking back")
}
