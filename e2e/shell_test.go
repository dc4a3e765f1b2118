package e2e

import (
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Names as the browser drew them: none meets another, none is cut, and each
// leader ends in what it names.
const namesInTheWay = `() => {
	const labels = [...document.querySelectorAll('[data-labels] text')];
	const boxes = labels.map(l => ({ name: l.dataset.label, r: l.getBoundingClientRect() }));
	const faults = [];
	for (const [i, a] of boxes.entries()) {
		if (a.name.includes('…')) faults.push(a.name + ' is cut');
		for (const b of boxes.slice(i + 1)) {
			const apart = a.r.right <= b.r.left + 1 || b.r.right <= a.r.left + 1 || a.r.bottom <= b.r.top + 4 || b.r.bottom <= a.r.top + 4;
			if (!apart) faults.push(a.name + ' meets ' + b.name);
		}
		if (a.r.left < 0 || a.r.right > innerWidth) faults.push(a.name + ' is off the page');
	}
	return faults;
}`

func TestNamesOnThePlanNeverCollide(t *testing.T) {
	d := demoProgram(t)
	for _, size := range [][2]int{{1280, 800}, {390, 844}} {
		p := browse(t, size[0], size[1])
		p.signIn(d, "Ilse")
		for _, boat := range p.boats() {
			for _, page := range []string{"", "/setup?stage=places", "/setup?stage=posts"} {
				p.open(d.address + "/boats/" + boat + page)
				p.find("[data-labels] text")
				p.until("the faces have come", `() => document.fonts.status === 'loaded'`)
				faults := p.MustEval(namesInTheWay).Arr()
				assert.Empty(t, faults, "%s%s at %d", boat, page, size[0])
			}
			p.open(d.address + "/boats/" + boat)
			p.find("[data-labels] text")
			missing := p.MustEval(`() => [...document.querySelectorAll('[data-place]')].map(q => q.dataset.place)
				.filter(n => ![...document.querySelectorAll('[data-label]')].some(l => l.dataset.label === n))`).Arr()
			assert.Empty(t, missing, "every place is named on %s at %d", boat, size[0])
		}
	}
}

// boats are the ids of the crew's boats.
func (p *page) boats() []string {
	var ids []string
	for _, id := range p.MustEval(`async () => (await (await fetch('/api/session')).json()).crews[0].boats.map(b => b.id)`).Arr() {
		ids = append(ids, id.Str())
	}
	require.NotEmpty(p.t, ids)
	return ids
}

func TestALevelShowsItsPlacesAlone(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.find("[data-place='port rod bed']")
	p.find("[data-place='console']")
	p.tap("^In lockers$")
	p.until("beds are left out", `() => !document.querySelector("[data-place='port rod bed']") && !!document.querySelector("[data-place='console']")`)
	p.tap("^On deck$")
	p.until("lockers are left out", `() => !!document.querySelector("[data-place='port rod bed']") && !document.querySelector("[data-place='console']")`)
	p.tap("^All levels$")
	p.find("[data-place='console']")
}

func TestFourRoomsAreWithinTheThumb(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 390, 844)
	p.signIn(d, "Ilse")
	for _, at := range [][3]string{
		{"Trip", "All trips", "Trips · Ergasia"}, {"Gear", "List", "Gear list · Ergasia"}, {"Gear", "Due", "Due · Ergasia"},
		{"Crew", "People", "People · Ergasia"}, {"Boat", "Float", "Float, Plover · Ergasia"}, // the trip's boat,
	} {
		p.room(at[0], at[1])
		p.until("the tab says "+at[2], `(title) => document.title === title`, at[2])
		p.until("the bar shows where one is, at the bottom", `(room) => {
			const link = [...document.querySelectorAll('nav[aria-label=Rooms] a[aria-current]')].find(a => a.getClientRects().length);
			return link?.innerText === room && link.getBoundingClientRect().bottom > innerHeight - 20;
		}`, at[0])
		assert.LessOrEqual(t, p.MustEval(`() => document.documentElement.scrollWidth`).Int(), 390, "nothing sticks out sideways")
	}
	// A room opens where one was last.
	p.room("Gear", "Due")
	p.room("Crew", "Times")
	p.again("Gear", p.bar("Gear"))
	p.until("back at the due list", `() => location.pathname === '/due'`)
}

// Addresses that people kept, and the keys of the frame.
func TestAddressesGoOnAndKeysWork(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	boat := p.boats()[0]
	box := p.listed("crank box")
	for path, title := range map[string]string{
		"/boats/" + boat: "Stow, Dunlin · Ergasia", "/boats/" + boat + "/road": "Road, Dunlin · Ergasia",
		"/gear/" + box.ID.String(): "crank box · Ergasia", "/gear/table": "Gear table · Ergasia", "/kits": "Kits · Ergasia",
		"/crew/times": "Times · Ergasia", "/shed": "Ashore · Ergasia", "/nowhere": "two-day tournament · Ergasia",
	} {
		p.open(d.address + path)
		p.until(path+" is called "+title, `(title) => document.title === title`, title)
	}
	p.press('/')
	p.find("dialog[open]")
	p.press(input.Escape)
	p.until("it is shut", `() => !document.querySelector('dialog[open]')`)
}
