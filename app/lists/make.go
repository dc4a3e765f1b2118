package lists

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"ergasia/app/aboard"
	"ergasia/app/days"
	"ergasia/app/due"
	"ergasia/app/kernel"
	"ergasia/app/safety"
	"ergasia/core/units"
	"ergasia/core/words"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// line is one of a list, before anybody ticked it.
type line struct {
	Key   string // the same on every trip of the boat
	Stage string
	Text  string
	Where string
	Holds bool
	Own   *model.ListLine
}

// sources are what lists are made from.
type sources struct {
	outing *days.Outing
	check  safety.CheckView
	due    []due.DueRow
	jobs   []model.Job
	goes   []fetch
	own    []model.ListLine

	chargers []model.Gear // wherever they are
}

// fetch is gear that is promised to the trip and lies ashore or in another boat.
type fetch struct{ Name, From string }

// maker collects lines.
type maker struct {
	sources
	lines []line
	seen  map[string]int
}

// add puts a line on the list of a stage. Where several have the same key, each gets its
// number: two drain plugs are two lines.
func (m *maker) add(stage, key, text string, more ...func(*line)) {
	key = short(stage + ":" + key)
	m.seen[key]++
	if n := m.seen[key]; n > 1 {
		key = fmt.Sprintf("%s %d", key, n)
	}
	l := line{Key: key, Stage: stage, Text: kernel.Capital(text)}
	for _, f := range more {
		f(&l)
	}
	m.lines = append(m.lines, l)
}

// mostKey is how many letters a key has at most, with its number.
const (
	mostKey    = 120
	mostNumber = 6
)

func short(key string) string {
	r := []rune(key)
	return string(r[:min(len(r), mostKey-mostNumber)])
}

func at(where string) func(*line) { return func(l *line) { l.Where = where } }

func holds(l *line) { l.Holds = true }

// makeLines are the lines of a trip's lists, in the order of the day. The lines themselves
// are practice, no source.
func makeLines(s sources) []line {
	m := &maker{sources: s, seen: map[string]int{}}
	m.evening()
	m.loading()
	m.road()
	m.ramp()
	m.linesOff()
	m.underWay()
	m.anchored()
	m.recovery()
	m.home()
	for i := range s.own {
		own := &s.own[i]
		m.lines = append(
			m.lines,
			line{Key: "own " + own.ID.String(), Stage: own.Stage, Text: own.Text, Holds: own.Holds, Own: own},
		)
	}
	stage := func(l line) int {
		return slices.IndexFunc(words.ListStages, func(w words.Word) bool { return w.Key == l.Stage })
	}
	slices.SortStableFunc(m.lines, func(a, b line) int { return cmp.Compare(stage(a), stage(b)) })
	return m.lines
}

func (m *maker) boat() *aboard.Laden { return m.outing.Laden }

func (m *maker) afloatAtSea() bool { return m.boat() != nil && m.boat().AtSea() }

// strapsOff says how many straps are to come off, as far as anybody has said how many there are.
func strapsOff(n int) string {
	switch n {
	case 0:
		return "Straps off"
	case 1:
		return "Strap off"
	}
	return fmt.Sprintf("All %d straps off", n)
}

func (m *maker) trailer() *model.TrailerInput {
	if m.boat() == nil {
		return nil
	}
	return m.boat().Boat.Trailer
}

func (m *maker) motor() bool {
	return m.boat() != nil && m.boat().Craft.Input.Outfit.Propulsion != "manual"
}

func (m *maker) evening() {
	o := m.outing
	if o.Laden != nil && len(o.Fuel.Lacks) == 0 {
		add := 0.0
		for _, f := range o.Fuel.Answer.Fill {
			add += f.Add
		}
		if u := o.Laden.Units.Volume; add >= 0.5 {
			m.add("evening", "fuel", fmt.Sprintf("Fill %.0f %s of fuel, with an air gap", u.FromSI(add), u.Symbol))
		}
	}
	m.charging()
	from := map[string][]string{}
	var places []string
	for _, g := range m.goes {
		if from[g.From] == nil {
			places = append(places, g.From)
		}
		from[g.From] = append(from[g.From], g.Name)
	}
	for _, p := range places {
		m.add("evening", "fetch "+p, "Fetch: "+strings.Join(from[p], ", "), at(p))
	}
	for _, r := range m.due {
		if m.isDue(r) {
			m.add("evening", "due "+r.Name+" "+r.What, fmt.Sprintf("%s: %s", r.Name, r.What), at(r.Where))
		}
	}
	for _, j := range m.jobs {
		m.add("evening", "job "+j.ID.String(), "Mend: "+j.What, func(l *line) { l.Holds = j.Holds })
	}
	m.add("evening", "weather", "Read the forecast: wind, tide, fog")
	m.add("evening", "plan", "Give the float plan to someone ashore")
	if n := len(m.check.Papers); n > 0 {
		names := []string{}
		for _, p := range m.check.Papers {
			if p.State != "missing" && !slices.Contains(names, p.Name) {
				names = append(names, p.Name)
			}
		}
		if len(names) > 0 {
			m.add("evening", "papers", "Papers in the wallet: "+strings.Join(names, ", "), at(m.check.Papers[0].Wallet))
		}
	}
}

// isDue says whether a row of the due list is of what goes along or of the boat, by the end
// of the trip.
func (m *maker) isDue(r due.DueRow) bool {
	if m.boat() == nil || r.Kind == "return" {
		return false
	}
	if r.FittingID != nil {
		return *r.BoatID == m.boat().Boat.ID && r.When != "after"
	}
	if r.GearID == nil || r.On == nil || r.On.At.After(m.outing.Trip.EndsOn) {
		return false
	}
	g := m.boat().Thing(*r.GearID)
	return g != nil && m.along(*g)
}

// along says whether gear is aboard, or promised to the trip.
func (m *maker) along(g model.Gear) bool {
	at := m.boat().Stowage[g.ID]
	return m.outing.Promised[g.ID] || at.BoatID != nil && *at.BoatID == m.boat().Boat.ID
}

func (m *maker) loading() {
	o := m.outing
	if o.Laden == nil {
		return
	}
	for _, g := range o.Unstowed {
		m.add("load", "stow "+g.ID.String(), "Stow "+g.Name)
	}
	if o.Moves > 0 {
		m.add("load", "plan", "Stow as planned: "+words.HowMany(o.Moves, "thing lies", "things lie")+" otherwise")
	}
	for _, c := range o.Plan.Coolers {
		if p := o.Laden.Place(c.Place); p != nil && c.Ice > 0 {
			m.add("load", "ice "+p.Name, fmt.Sprintf("Ice: %s", o.Laden.MassText(c.Ice)), at(p.Name))
		}
	}
	m.add("load", "loose", "Nothing loose: lids shut, straps on what is heavy")
}

func (m *maker) road() {
	t := m.trailer()
	if t == nil {
		return
	}
	m.add("road", "hitch", "Coupling locked on the ball, pulled up to try it", holds)
	m.add("road", "chain", "Safety chain or cable on")
	for i := range t.Straps {
		m.add("road", fmt.Sprintf("strap %d", i+1), fmt.Sprintf("Strap %d of %d tight", i+1, t.Straps))
	}
	m.add("road", "bow", "Bow eye: winch strap and chain on")
	tyres := "Tyres"
	if t.TyreBar > 0 {
		tyres = fmt.Sprintf("Tyres at %.1f bar, %.0f psi", t.TyreBar, t.TyreBar*1e5/units.PSIPa)
	}
	m.add("road", "tyres", tyres)
	m.add("road", "lights", "Lights: brake, indicators, tail")
	if m.motor() {
		m.add("road", "motor", "Motor up and held")
	}
	m.add("road", "rods", "Rods down, reels covered, nothing over the sheer that a branch can take")
	for _, f := range m.boat().Craft.Rigging {
		if f.Held.Comes == "trip" {
			m.add("road", "off "+f.Name, "Take off or fold: "+f.Name)
		}
	}
}

// plugs are the boat's drain plugs, each with its place.
func (m *maker) plugs() (list []safety.PieceView) {
	for _, p := range m.check.Aboard {
		if p.Class == "drain plug" {
			for range p.Count {
				list = append(list, p)
			}
		}
	}
	return list
}

func (m *maker) ramp() {
	if m.boat() == nil {
		return
	}
	plugs := m.plugs()
	for i, p := range plugs {
		text := "Drain plug in"
		if len(plugs) > 1 {
			text = fmt.Sprintf("Drain plug %d of %d in", i+1, len(plugs))
		}
		m.add("ramp", "plug "+p.Name, text+": "+p.Name, at(p.Where), holds)
	}
	if len(plugs) == 0 {
		m.add("ramp", "plug", "Drain plug in", holds)
	}
	if t := m.trailer(); t != nil {
		m.add("ramp", "straps", strapsOff(t.Straps))
		m.add("ramp", "unplug", "Trailer lights unplugged")
	}
	m.add("ramp", "line", "Bow line in a hand before she floats")
	for _, p := range m.check.Aboard {
		if p.Class == "bilge pump" && p.GearID == nil {
			m.add("ramp", "pump "+p.Name, "Runs: "+p.Name, at(p.Where))
		}
	}
	m.add("ramp", "dry", "Look into the bilge as soon as she floats")
}

func (m *maker) linesOff() {
	if m.boat() == nil {
		return
	}
	jackets := false
	for _, r := range m.check.Rows {
		for _, name := range r.Wear {
			jackets = true
			if !slices.ContainsFunc(m.lines, func(l line) bool { return l.Key == short("off:wears "+name) }) {
				m.add("off", "wears "+name, name+" wears a lifejacket that fits", holds)
			}
		}
	}
	if !jackets {
		m.add(
			"off",
			"jackets",
			"A lifejacket for each of "+fmt.Sprint(len(m.outing.People)),
			at(m.whereIs("lifejacket")),
		)
	}
	if m.motor() {
		m.add("off", "cord", "Stop-cord on whoever steers, and tried", at(m.whereIs("stop cord")), holds)
		m.add("off", "smell", "No smell of fuel; spaces aired before the key is turned", holds)
	}
	if m.hasGuests() {
		m.add("off", "brief", "Guests were told: jackets, throwable, radio, how to stop her")
	}
	if m.has("radio") {
		m.add("off", "radio", "Radio on, and heard", at(m.whereIs("radio")))
	}
	if m.check.Night {
		m.add("off", "lights", "Navigation lights burn", at(m.whereIs("navigation lights")))
	}
	for _, class := range []string{"throwable", "extinguisher"} {
		for _, p := range m.check.Aboard {
			if strings.HasPrefix(p.Class, class) {
				m.add("off", class+" "+p.Name, "In its place: "+p.Name, at(p.Where))
			}
		}
	}
	m.add("off", "fuel", "Fuel: valve open, level read")
}

func (m *maker) hasGuests() bool {
	return slices.ContainsFunc(m.outing.People, func(p days.Person) bool {
		return p.Role == "guest" || p.Role == "child" || p.Role == "partner"
	})
}

func (m *maker) has(class string) bool {
	return slices.ContainsFunc(m.check.Aboard, func(p safety.PieceView) bool { return p.Class == class })
}

func (m *maker) whereIs(class string) string {
	for _, p := range m.check.Aboard {
		if p.Class == class && p.Where != "" {
			return p.Where
		}
	}
	return ""
}

func (m *maker) underWay() {
	if m.boat() == nil {
		return
	}
	m.add("way", "bilge", "Look into the bilge after the first run")
	m.add("way", "look", "Someone looks out ahead all the time")
	if m.motor() {
		m.add("way", "half", "Turn for home when the fuel for the way out is used")
	}
}

func (m *maker) anchored() {
	lies := slices.ContainsFunc(
		m.outing.Plan.Phases,
		func(p model.DayPhase) bool { return p.Kind == "anchor" || p.Kind == "sleep" },
	)
	if !lies || m.boat() == nil {
		return
	}
	m.add("anchor", "bow", "Anchored from the bow, never from the stern", holds)
	m.add("anchor", "free", "Anchor line runs free, its end made fast")
	if m.check.Night {
		m.add("anchor", "light", "Anchor light burns")
	} else {
		m.add("anchor", "ball", "Anchor ball up where it is asked for")
	}
	m.add("anchor", "knife", "Knife at the line", at(m.whereIs("knife")))
}

func (m *maker) recovery() {
	t := m.trailer()
	if t == nil {
		return
	}
	if m.motor() {
		m.add("recover", "motor", "Motor up before she touches")
	}
	m.add("recover", "people", "Everybody ashore, nobody behind her on the ramp")
	for i := range t.Straps {
		m.add("recover", fmt.Sprintf("strap %d", i+1), fmt.Sprintf("Strap %d of %d on", i+1, t.Straps))
	}
	plugs := m.plugs()
	for _, p := range plugs {
		m.add("recover", "plug "+p.Name, "Out, and back where it lives: "+p.Name, at(p.Where))
	}
	if len(plugs) == 0 {
		m.add("recover", "plug", "Drain plug out, and back where it lives")
	}
	m.add("recover", "lights", "Trailer lights plugged in, and tried")
}

func (m *maker) home() {
	if m.boat() == nil {
		return
	}
	if m.motor() {
		if m.afloatAtSea() {
			m.add("home", "flush", "Flush the motor with fresh water")
		}
		m.add("home", "fuel", "Read the fuel, for the log")
	}
	m.add("home", "wash", "Wash her down, dry the lockers, lids open")
	for _, g := range m.boat().Gear {
		if slices.Contains(g.Tags, "lock") && m.along(g) {
			m.add("home", "lock "+g.ID.String(), "Take in: "+g.Name)
		}
	}
	m.add("home", "log", "Log: what broke, what was never used")
	m.add("home", "home", "Tell whoever has the float plan that you are home", holds)
}

// own lines are told apart from those of another boat or trip.
func ofTrip(own []model.ListLine, boat *uuid.UUID, trip uuid.UUID) []model.ListLine {
	return slices.DeleteFunc(own, func(l model.ListLine) bool {
		return l.BoatID != nil && (boat == nil || *l.BoatID != *boat) || l.TripID != nil && *l.TripID != trip
	})
}
