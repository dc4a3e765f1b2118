package e2e

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"os/exec"
	"strings"
	"testing"

	"ergasia/api"
	"ergasia/app/rigging"
	"ergasia/app/stowing"
	"ergasia/core/float"
	"ergasia/core/hull"
	"ergasia/demo"
	"ergasia/store/model"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
)

// laden is the demo's boat with what the page's user sees aboard, by the core
// alone: masses where the drawing has them.
func (p *page) laden() (*float.Boat, float.Load) {
	var session api.SessionView
	p.get("/api/session", &session)
	c := session.Crews[0]
	var b stowing.Bench
	p.get(fmt.Sprintf("/api/crews/%s/boats/%s/bench", c.CrewID, c.Boats[0].ID), &b)
	in := demo.Dunlin()
	form, ok := hull.FormNamed(in.Hull.Form)
	require.True(p.t, ok)
	craft, err := float.NewCraft(form.Hull(hull.Tape(in.Hull.Measures)).WithDeck(*in.Hull.Deck))
	require.NoError(p.t, err)
	v := func(v model.Vec) r3.Vec { return r3.Vec{X: v[0], Y: v[1], Z: v[2]} }
	l := float.Load{WaterDensity: in.Water}
	for _, m := range in.Outfit.Masses {
		l.Masses = append(l.Masses, float.Mass{Kg: m.Kg, At: v(m.At)})
	}
	var r rigging.Rigging
	p.get(fmt.Sprintf("/api/crews/%s/boats/%s/rigging", c.CrewID, c.Boats[0].ID), &r)
	rigged(&l, in.Outfit.Masses, r.Fittings)
	for _, k := range in.Outfit.Tanks {
		l.Tanks = append(l.Tanks, float.Tank{Size: v(k.Size), Corner: v(k.Corner), Fill: k.Fill, Density: k.Density})
	}
	for _, s := range b.State.Stowage {
		for _, laid := range s.Laid {
			l.Masses = append(l.Masses, float.Mass{Kg: s.Kg / float64(len(s.Laid)), // with what it holds
				At: r3.Add(v(laid.Corner), r3.Scale(0.5, v(laid.Size)))})
		}
	}
	for _, s := range b.State.People {
		for _, post := range b.Posts {
			if s.PostID == nil || *s.PostID != post.ID {
				continue
			}
			height := map[bool]float64{true: float.SeatedCG, false: float.StandingCG}[s.Seated]
			for _, m := range b.Members {
				if m.ID != s.MemberID {
					continue
				}
				at := r3.Add(v(post.At), r3.Vec{Z: height})
				l.Masses = append(l.Masses, float.Mass{Kg: m.Kg, At: at})
				for _, carried := range b.State.Stowage {
					if carried.HeldBy != nil && *carried.HeldBy == m.ID {
						l.Masses = append(l.Masses, float.Mass{Kg: carried.Kg, At: at})
					}
				}
			}
		}
	}
	return craft, l
}

// rigged adds fittings as masses at the middle of their bodies, and takes each off the
// mass that it was counted in, so that the moments stay where more than half is left.
func rigged(l *float.Load, masses []model.FixedMass, fittings []rigging.FittingView) {
	for i, m := range masses {
		kg, moment := m.Kg, r3.Scale(m.Kg, m.At.R3())
		for _, f := range fittings {
			if f.PartOf == m.Name {
				kg, moment = kg-f.Kg, r3.Sub(moment, r3.Scale(f.Kg, middleOf(f)))
			}
		}
		if kg > m.Kg/2 {
			l.Masses[i].At = r3.Scale(1/kg, moment)
		}
		l.Masses[i].Kg = max(kg, 0)
	}
	for _, f := range fittings {
		l.Masses = append(l.Masses, float.Mass{Kg: f.Kg, At: middleOf(f)})
	}
}

// middleOf is the middle of a fitting's body: half its length out of the wall, or half
// its height up or down along its own upright, which leans towards where it faces.
func middleOf(f rigging.FittingView) r3.Vec {
	turn, lean := f.Lies.Turn*math.Pi/180, f.Lies.Lean*math.Pi/180
	face := r3.Vec{X: math.Cos(turn), Y: math.Sin(turn)}
	up := r3.Add(r3.Scale(math.Cos(lean), r3.Vec{Z: 1}), r3.Scale(math.Sin(lean), face))
	switch f.Lies.Stands {
	case "out":
		ahead := r3.Sub(r3.Scale(math.Cos(lean), face), r3.Vec{Z: math.Sin(lean)})
		return r3.Add(f.Lies.At.R3(), r3.Scale(f.Lies.Size[0]/2, ahead))
	case "down":
		return r3.Sub(f.Lies.At.R3(), r3.Scale(f.Lies.Size[2]/2, up))
	}
	return r3.Add(f.Lies.At.R3(), r3.Scale(f.Lies.Legs+f.Lies.Size[2]/2, up))
}

// computed floats the boat anew.
func (p *page) computed() *float.Figures {
	craft, l := p.laden()
	r := craft.Solve(l, nil)
	require.NotNil(p.t, r.Figures)
	return r.Figures
}

// showsComputed compares the tally with what the core computes.
func (p *page) showsComputed() {
	f := p.computed()
	assert.Equal(p.t, fmt.Sprintf("%.0f", f.Lowest.M*1000), p.tally("Lowest freeboard"))
	assert.Equal(p.t, fmt.Sprintf("%.1f", math.Abs(f.HeelDeg)), p.tally("Heel"))
	assert.Equal(p.t, fmt.Sprintf("%.1f", math.Abs(f.TrimDeg)), p.tally("Trim"))
}

func (p *page) lastMove(text string) {
	p.until("the foot says "+text, `(text) => document.querySelector('[data-testid=last-move]')?.innerText.includes(text)`, text)
}

func TestDraggingTheCoolerForwardLiftsTheStern(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.showsComputed()
	first := p.tally("Lowest freeboard")
	p.carry(p.gear("cooler 40 L, iced"), p.place("console front seat"))
	p.says("The stern comes up 20 mm: freeboard " + first)
	p.drop()
	p.lastMove("console front seat")
	p.showsComputed()
	moved := p.tally("Lowest freeboard")
	assert.Greater(t, moved, first)
	stern := p.find(`[data-testid=gauge-stern]`).MustText()
	assert.Contains(t, stern, "+20")

	p.MustReload()
	p.find("[data-place]")
	assert.Equal(t, moved, p.tally("Lowest freeboard"), "and it is kept")
	p.tap("Undo")
	p.lastMove("undid: cooler 40 L, iced → transom well")
	assert.Equal(t, first, p.tally("Lowest freeboard"))
	p.tap("Redo")
	p.lastMove("did again")
	assert.Equal(t, moved, p.tally("Lowest freeboard"))
	p.showsComputed()

	p.click(`[aria-label="Sign out"]`)
	p.find("input[type=password]")
}

func TestEverythingGoesByKeyboardAlone(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.open(d.address)
	p.find("main button")
	p.tabTo("^Ilse,")
	p.press(input.Enter)
	p.find("[data-testid=verdict]")
	p.tabTo("^Boat$")
	p.press(input.Enter)
	p.find("[data-place]")
	p.board("Dunlin")
	p.tabTo("spare fuel can")
	p.press(input.Enter)
	p.says("choose where it goes")
	p.tabTo("Put it in console front seat")
	p.says("freeboard")
	p.press(input.Enter)
	p.lastMove("spare fuel can 10 L → console front seat")
	p.showsComputed()
	p.tabTo("^console front seat")
	p.press(input.Enter)
	p.tabTo("Pick up spare fuel can")
	p.press(input.Enter)
	p.says("choose where it goes")
	p.press(input.Escape)
	p.says("Drag a piece")
	p.tabTo("port quarter: Sune standing")
	p.press(input.Enter)
	p.tabTo("Put them at fore deck")
	p.says("trim")
	p.press(input.Enter)
	p.lastMove("Sune → fore deck")
	p.tabTo("fore deck: Sune standing")
	p.press(input.Enter)
	p.tabTo("^Standing$")
	p.press(input.Enter)
	p.tabTo("Put them at fore deck")
	p.press(input.Enter)
	p.until("he sits", `() => [...document.querySelectorAll('[data-member]')].some(e => e.getAttribute('aria-label').includes('Sune seated'))`)
	p.showsComputed()
	require.NoError(t, p.KeyActions().Press(input.ControlLeft).Type(input.KeyZ).Do())
	p.lastMove("undid: Sune")
	p.tabTo("Sign out")
	p.press(input.Enter)
	p.find("input[type=password]")
}

func TestTwoAtOnePostAreEachInReach(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.tap("Oskar")
	p.says("Oskar")
	p.tabTo("Put them at helm")
	p.press(input.Enter)
	p.lastMove("Oskar → helm")
	p.tabTo("helm: Oskar standing")
	p.press(input.Enter)
	p.says("Oskar")
	p.tabTo("^Put ashore$")
	p.says("The stern")
	p.press(input.Enter)
	p.lastMove("Oskar → ashore")
	p.carry(p.find(`[data-member="Ilse"]`), p.find(`[data-post="starboard rail"]`))
	p.says("heel")
	p.drop()
	p.lastMove("Ilse → starboard rail")
	p.showsComputed()
}

func TestARefusedDropSaysWhy(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	before := p.tally("Load")
	p.carry(p.gear("cooler 25 L"), p.place("anchor well"))
	p.says("cooler 25 L is 44 x 32 x 34 cm; anchor well is 27 x 30 x 28 cm inside")
	p.drop()
	p.says("It can't go there.")
	p.press(input.Escape)
	p.carry(p.gear("thermos and food box"), p.place("port quarter"))
	p.says("must stay dry, and port quarter gets wet")
	p.drop()
	p.says("It can't go there.")
	assert.Equal(t, before, p.tally("Load"))
	p.press(input.Escape)
	// Let go anywhere else, it stays where it was.
	p.carry(p.gear("cooler 25 L"), p.find("[data-testid=gauges]"))
	p.drop()
	p.says("Drag a piece")
	assert.Equal(t, before, p.tally("Load"))
}

// What is where a rule says no can be noted, and stays marked until it is moved.
func TestWhatLiesAgainstARuleIsNotedAndMarked(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.carry(p.gear("cooler 25 L"), p.place("anchor well"))
	p.says("cooler 25 L is 44 x 32 x 34 cm")
	p.drop()
	p.says("It can't go there.")
	p.tap("^Note: it lies in anchor well$")
	p.lastMove("cooler 25 L → anchor well, where a rule says no")
	p.until("the tally says so", `() => /Lies against a rule\s+cooler 25 L, anchor well/.test(
		document.querySelector('[data-testid=tally]').innerText)`)
	p.pressPlace("anchor well")
	p.find("section[aria-label='anchor well']")
	p.shows("Noted against a rule: cooler 25 L is 44 x 32 x 34 cm")
	p.axe("a thing noted against a rule")
	p.tap("^Undo$")
	p.until("the mark goes with it", `() => !document.body.innerText.includes('Lies against a rule')`)

	// And from its own page, as with a phone that read its label.
	g := p.piece(d, "cooler 25 L")
	p.spread("I moved it")
	form := "Move " + g.Name
	p.choose(form, "Where", "anchor well")
	p.submit(form)
	p.shows("anchor well is 27 x 30 x 28 cm inside")
	p.tap("^Note: it lies there all the same$")
	p.shows("Now: Dunlin, anchor well. cooler 25 L is")
	p.shows("Noted against a rule: cooler 25 L is")
}

func TestOnAPhoneOneTapsAndTaps(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 390, 844)
	require.NoError(t, proto.EmulationSetTouchEmulationEnabled{Enabled: true}.Call(p))
	p.signIn(d, "Marit")
	p.button("^Quay").MustTap()
	p.gear("landing net 1.1 m").MustTap()
	p.says("landing net")
	pocket := p.place("starboard pocket")
	pocket.MustEval(`() => this.scrollIntoView({ block: 'center' })`) // clear of the rooms' bar
	pocket.MustTap()
	p.lastMove("landing net 1.1 m → starboard pocket")
	wide := p.MustEval(`() => document.documentElement.scrollWidth`).Int()
	assert.LessOrEqual(t, wide, 390, "nothing sticks out sideways")
	p.axe("the bench on a phone")
	small := p.MustEval(`() => [...document.querySelectorAll('button, a')].filter(e => e.offsetParent && Math.min(e.offsetWidth, e.offsetHeight) < 24).map(e => e.outerHTML).join('\n')`).Str()
	assert.Empty(t, small, "targets for a thumb")
}

func TestEveryPageIsAccessibleInBothThemesAndUnits(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.open(d.address)
	p.find("main button")
	p.axe("sign-in")
	p.signIn(d, "Ilse")
	for _, theme := range []string{"night", "paper"} {
		p.tap(theme + `\s+theme`)
		p.until("the theme is "+theme, `(theme) => document.documentElement.dataset.theme === theme`, theme)
		p.axe("the bench, " + theme)
		p.pressGear("cooler 25 L")
		p.axe("the bench with a piece in hand, " + theme)
		p.press(input.Escape)
		for _, at := range [][2]string{
			{"Gear", "List"}, {"Gear", "Ashore"}, {"Gear", "Kits"}, {"Gear", "Due"}, {"Gear", "Weigh"}, {"Gear", "Labels"},
			{"Gear", "Table"}, {"Trip", "All trips"}, {"Crew", "People"}, {"Crew", "Times"}, {"Boat", "Set up"}, {"Boat", "Plan"},
			{"Boat", "Rods"}, {"Boat", "Float"}, {"Boat", "Check"}, {"Boat", "Road"}, {"Boat", "Sheet"},
		} {
			p.room(at[0], at[1])
			p.find("main h1, main h2, form")
			p.axe(at[1] + ", " + theme)
		}
		for _, stage := range []string{"Plate and limits", "Engine and weights", "Tanks", "Posts and seats", "Places"} {
			p.room("Boat", "Set up")
			p.find("section[aria-label=Hull] form")
			p.tap(stage)
			p.find(fmt.Sprintf("section[aria-label=%q]", stage))
			p.axe(stage + ", " + theme)
		}
		p.room("Boat", "Stow")
		p.find("[data-place]")
	}
	metric := p.tally("Lowest freeboard")
	p.tap(`change to US`)
	p.until("inches", `() => document.querySelector('[data-tally="Lowest freeboard"]').innerText.includes('in')`)
	us := p.tally("Lowest freeboard")
	var mm, inches float64
	_, err := fmt.Sscan(metric+" "+us, &mm, &inches)
	require.NoError(t, err)
	assert.InDelta(t, mm/25.4, inches, 0.03)
}

func TestAGuestSeesAndTriesButMovesNothing(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Tove")
	assert.False(t, p.MustHas(`a[href$="/setup"]`))
	p.until("no undo for a guest", `() => ![...document.querySelectorAll('button')].some(b => b.innerText.includes('Undo'))`)
	assert.True(t, p.gear("cooler 25 L").MustProperty("disabled").Bool())
}

func TestASecondCrewCannotSeeTheFirstOnesBoat(t *testing.T) {
	d := demoProgram(t)
	found := exec.Command(binary(t), "found", "--crew", "Tverrin", "--name", "Una", "--login", "una")
	found.Env = append(os.Environ(), "DATABASE_URL="+d.database)
	found.Stdin = strings.NewReader("a long password\n")
	out, err := found.CombinedOutput()
	require.NoError(t, err, string(out))
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	address := p.MustInfo().URL
	var session api.SessionView
	p.get("/api/session", &session)
	p.click(`[aria-label="Sign out"]`)
	p.find("input[autocomplete=username]").MustInput("una")
	p.find("input[type=password]").MustInput("a long password")
	p.tap("^Sign in$")
	p.until("Una is in", `() => document.body.innerText.includes('A new boat')`)
	p.open(address)
	p.until("there is no such boat", `() => document.body.innerText.includes('There is no such boat in this crew')`)
	text := p.MustEval(`async (path) => (await fetch(path)).text()`,
		fmt.Sprintf("/api/crews/%s/boats/%s/bench", session.Crews[0].CrewID, session.Crews[0].Boats[0].ID)).Str()
	var problem api.Problem
	require.NoError(t, json.Unmarshal([]byte(text), &problem))
	assert.Equal(t, 404, problem.Status)
}

// By keys alone: past the menu to the quay, a piece by its first letters, the
// handiest place that takes it. Under 8 keys for the first piece, fewer after it.
func TestAPieceIsStowedInUnderEightKeys(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	p.find("#quay button[data-gear]")
	p.MustReload()
	p.find("#quay button[data-gear]")
	type piece struct{ name, letters string }
	var quay []piece
	for _, e := range p.MustElements("#quay button[data-gear]") {
		name := *e.MustAttribute("data-gear")
		quay = append(quay, piece{name, strings.ToLower(name[:2])})
	}
	require.Greater(t, len(quay), 3)
	keys := 0
	press := func(k ...input.Key) {
		for _, one := range k {
			p.press(one)
			keys++
		}
	}
	press(input.Tab, input.Enter)
	p.until("the quay has the focus", `() => document.activeElement?.closest('#quay') !== null`)
	stowed := 0
	for _, one := range quay[:3] {
		begun := keys
		for _, letter := range one.letters {
			press(input.Key(letter))
		}
		p.until("a piece is chosen by its letters", `(l) => document.activeElement?.dataset.gear?.toLowerCase().split(/[^a-z0-9]+/).some(w => w.startsWith(l))`, one.letters)
		name := p.MustEval(`() => document.activeElement.dataset.gear`).Str()
		press(input.Enter)
		p.until("the places that take it are there", `() => document.querySelector('[aria-label="Where it goes"]') !== null`)
		if p.MustEval(`() => document.querySelectorAll('[aria-label="Where it goes"] button:not([disabled])').length`).Int() == 0 {
			press(input.Escape)
			p.until("it is let go", `() => document.querySelector('[aria-label="Where it goes"]') === null`)
			p.MustEval(`() => document.querySelector('#quay button').focus()`)
			continue
		}
		p.until("the best one has the focus", `() => document.activeElement?.closest('[aria-label="Where it goes"]') !== null`)
		press(input.Enter)
		p.until(name+" is aboard", `(n) => ![...document.querySelectorAll('#quay button')].some(b => b.dataset.gear === n)`, name)
		p.until("the quay has the focus again", `() => document.activeElement?.closest('#quay') !== null`)
		stowed++
		assert.Less(t, keys-begun, 8, "%s", name)
		if stowed == 1 {
			assert.Less(t, keys, 8, "from the top of the page")
		}
	}
	assert.Greater(t, stowed, 0)
	p.axe("the bench after keys")
}
