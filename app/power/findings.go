package power

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"ergasia/core/power"
	"ergasia/core/wire"
	"ergasia/core/words"
	"ergasia/store/model"

	"gonum.org/v1/gonum/spatial/r3"
)

// PowerFinding is something that is not right with her electrics, or good to know.
type PowerFinding struct {
	About  string `json:"about" doc:"Key of the bank, part or circuit"`
	Name   string `json:"name"`
	Note   bool   `json:"note" doc:"Good to know; else it wants a hand"`
	Said   string `json:"said"`
	Settle string `json:"settle,omitempty" doc:"What would settle it"`
}

// findings of all her electrics, what wants a hand first.
func (e *Electrics) findings() []PowerFinding {
	list := []PowerFinding{}
	for _, b := range e.Input.Banks {
		list = append(list, e.ofBank(b)...)
	}
	for _, p := range e.Input.Parts {
		list = append(list, e.ofPart(p)...)
	}
	for _, c := range e.Input.Circuits {
		list = append(list, e.ofCircuit(c)...)
	}
	list = append(append(list, e.beside()...), e.notLookedAt()...)
	list = append(append(list, e.ofBilge()...), e.ofWells()...)
	slices.SortStableFunc(list, func(a, b PowerFinding) int { return cmp.Compare(rank(a), rank(b)) })
	return list
}

func rank(f PowerFinding) int {
	if f.Note {
		return 1
	}
	return 0
}

// told is the findings of one thing.
type told struct {
	about, name string
	list        []PowerFinding
}

func (t *told) wrong(settle, format string, args ...any) {
	t.list = append(
		t.list,
		PowerFinding{About: t.about, Name: t.name, Said: fmt.Sprintf(format, args...), Settle: settle},
	)
}

func (t *told) note(settle, format string, args ...any) {
	t.wrong(settle, format, args...)
	t.list[len(t.list)-1].Note = true
}

// Ages at which batteries are looked at before they fail, years. Practice, no source.
const (
	oldLead    = 4
	oldLithium = 9
)

func (e *Electrics) ofBank(b model.BankInput) []PowerFinding {
	t := told{about: b.Key, name: b.Name}
	list := batteriesOf(b, e.laden)
	one, known := e.bank(b, usualCelsius)
	if !known {
		t.wrong("Say at the gear what its batteries are: chemistry, volts, ampere-hours.",
			"Nobody said what its batteries are, so nothing can be reckoned of it.")
	}
	for _, g := range list {
		at := e.laden.Stowage[g.ID]
		switch {
		case b.Fixed != nil: // it is where she is
		case at.BoatID == nil || *at.BoatID != e.laden.Boat.ID:
			t.wrong("Bring it aboard, or take it out of the bank.", "%s is not aboard.", g.Name)
		case g.Condition == "broken":
			t.wrong("Put another one in.", "%s is marked as broken.", g.Name)
		default:
			e.standing(&t, b, g)
		}
	}
	if missing := len(b.Batteries) - len(list); missing > 0 && b.Fixed == nil {
		t.wrong("Take them out of the bank.", "Of its batteries %d are no longer on the gear list.", missing)
	}
	if !b.HeldDown && len(list) > 0 {
		t.wrong("A tray and a strap that hold twice its weight, then tick it off here.",
			"Nobody said that it is held down.")
	}
	if years := e.years(list); known {
		old := float64(oldLead)
		if !one.Chemistry.Lead() {
			old = oldLithium
		}
		if years >= old {
			t.note(
				"Test it under load before the season.",
				"It is %.0f years old, and holds some %.0f %% of what it did when new.",
				years,
				100*power.Factor(one.Chemistry, years, 25),
			)
		}
	}
	return t.list
}

// handWithin is how many seconds it may take to a battery. Practice, no source.
const handWithin = 60

// standing is how a battery stands in its place: in the wet, or with its gas shut in.
func (e *Electrics) standing(t *told, b model.BankInput, g model.Gear) {
	at := e.laden.Stowage[g.ID]
	if at.PlaceID == nil {
		return
	}
	place := e.laden.Place(*at.PlaceID)
	if place == nil {
		return
	}
	root, boxes := g, e.laden.BoxesOf(g)
	if len(boxes) > 0 {
		root = boxes[len(boxes)-1]
	}
	if f, ok := e.laden.FetchOf(root, place.ID, "", len(boxes)); len(e.laden.Posts) > 0 && (!ok || f.Seconds > handWithin) {
		t.note("Clear the way to its terminals before the day.", "No hand comes to %s in the %s within a minute.", g.Name, place.Name)
	}
	if place.Dryness == "wet" {
		t.note("Move it where it stays dry, or raise it over the water that stands there.",
			"%s stands in the %s, which gets wet.", g.Name, place.Name)
	}
	sealed := []string{}
	for _, box := range e.laden.BoxesOf(g) {
		if box.KeepsDry {
			sealed = append(sealed, box.Name)
		}
	}
	for p := place; p != nil; {
		if p.Dryness == "dry" && p.Lid != "none" && p.Lid != "" && p.Lid != "soft" {
			sealed = append(sealed, p.Name)
		}
		if p.ParentID == nil {
			break
		}
		p = e.laden.Place(*p.ParentID)
	}
	if len(sealed) > 1 && !b.Vented && power.Chemistry(g.Chemistry).Lead() {
		t.wrong("A vent to the open, high up, or one of the lids without its seal.",
			"%s is under %d sealed lids, the %s: hydrogen from charging gathers there.", g.Name, len(sealed),
			strings.Join(sealed, " and the "))
	}
}

// resetWithin is how many seconds it may take from the helm to a breaker. Practice, no source.
const resetWithin = 15

func (e *Electrics) ofPart(p model.PartInput) []PowerFinding {
	t := told{about: p.Key, name: p.Name}
	protects := p.Kind == "breaker" || p.Kind == "fuse"
	if protects {
		e.nearness(&t, p.Near, p.Sheathed, e.bankOf(first(p.From)) != nil)
		e.resets(&t, p)
	}
	if protects && p.Rating == 0 {
		t.wrong("Read it on its face.", "Nobody said what it is rated for.")
	}
	e.feed(&t, p)
	if used := e.net.Used(p.Key); (p.Kind == "panel" || p.Kind == "bus") && p.Ways > 0 && used == p.Ways {
		t.note("The next thing needs a larger one.", "%s used: none is spare.", words.HowMany(p.Ways, "way is", "ways are"))
	}
	return t.list
}

// feed says whether the wire to a part stands what protects it.
func (e *Electrics) feed(t *told, p model.PartInput) {
	if p.Wire == 0 || p.Kind == "fuse" || p.Kind == "breaker" {
		return
	}
	amps, name := e.guards(model.CircuitInput{Key: p.Key, From: first(p.From)})
	ask := wire.Usual(1, 1, 12)
	if _, _, most := ask.Has(p.Wire); amps > most+1e-9 {
		t.wrong(fmt.Sprintf("At most %.0f A for this wire.", math.Floor(most)),
			"%g A protect the wire to it (%s), and it stands %.0f A: it burns first.", amps, name, most)
	}
}

func first(list []string) string {
	if len(list) == 0 {
		return ""
	}
	return list[0]
}

// nearness says whether a fuse is near enough to its source.
func (e *Electrics) nearness(t *told, near float64, sheathed, battery bool) {
	if most := wire.FuseWithin(sheathed, battery); near > most+1e-9 {
		settle := fmt.Sprintf("Within %s of it", e.laden.Small(most))
		if !sheathed {
			settle += fmt.Sprintf(
				", or within %s with its wire in a sheath",
				e.laden.Small(wire.FuseWithin(true, battery)),
			)
		}
		t.wrong(settle+".", "%s of wire lie unprotected between its source and the fuse.", e.laden.Small(near))
	}
}

// resets says how long a hand takes to a breaker that lies under a lid.
func (e *Electrics) resets(t *told, p model.PartInput) {
	if p.PlaceID == nil || e.laden.Place(*p.PlaceID) == nil || len(e.laden.Posts) == 0 {
		return
	}
	what := "change the fuse"
	if p.Kind == "breaker" {
		what = "set it again"
	}
	f, ok := e.laden.FetchOf(model.Gear{}, *p.PlaceID, e.helm(), 0)
	place := e.laden.Place(*p.PlaceID).Name
	switch {
	case !ok:
		t.wrong("Move it to where a hand comes.", "No hand comes to the %s afloat, to %s.", place, what)
	case f.Seconds > resetWithin:
		t.wrong("Clear what lies before it, or move it to an open place.",
			"It takes %.0f s from the helm to %s, in the %s.", f.Seconds, what, place)
	}
}

// helm is the name of the post where one steers; the first where none is called so.
func (e *Electrics) helm() string {
	for _, p := range e.laden.Posts {
		if strings.Contains(strings.ToLower(p.Name), "helm") {
			return p.Name
		}
	}
	return e.laden.Posts[0].Name
}

func (e *Electrics) ofCircuit(c model.CircuitInput) []PowerFinding {
	t := told{about: c.Key, name: c.Name}
	w := e.wireOf(c)
	e.protection(&t, c, w)
	e.copper(&t, c, w)
	if c.Fuse > 0 {
		e.nearness(&t, c.Near, c.Sheathed, e.bankOf(c.From) != nil)
	}
	if c.Plug > 0 && c.Hole > 0 && c.Plug > c.Hole {
		t.wrong("A larger hole with a cover, or a plug put on after it is led.",
			"Its plug is %.0f mm across and a hole on its way %.0f mm: the plug does not pass.", c.Plug, c.Hole)
	}
	e.wet(&t, c)
	e.starved(&t, c)
	return t.list
}

// protection says what of a circuit's fuse is not right.
func (e *Electrics) protection(t *told, c model.CircuitInput, w WireView) {
	amps, name := e.guards(c)
	if amps == 0 {
		fuse := "A fuse"
		if w.Fuse > 0 {
			fuse = fmt.Sprintf("A fuse of %g A", w.Fuse)
		}
		t.wrong(fmt.Sprintf("%s within %s of where it hangs on.", fuse, e.laden.Small(w.Within)),
			"Nothing protects its wire: no fuse or breaker between it and the battery.")
		return
	}
	if c.Wire > 0 && w.FuseMost > 0 && amps > w.FuseMost+1e-9 {
		t.wrong(fmt.Sprintf("At most %.0f A for this wire.", math.Floor(w.FuseMost)),
			"%g A protect it (%s), and its wire stands %.0f A: the wire burns first.", amps, name, w.FuseMost)
	}
	if c.Fuse > 0 && c.Fuse < w.Amps {
		t.wrong(
			fmt.Sprintf("%g A, if its wire stands that.", w.Fuse),
			"It draws %.3g A through a fuse of %g A: that blows.",
			w.Amps,
			c.Fuse,
		)
	}
}

// copper says what of a circuit's wire is not right.
func (e *Electrics) copper(t *told, c model.CircuitInput, w WireView) {
	if w.Why != "" || c.Wire == 0 {
		return
	}
	needs := fmt.Sprintf("%s AWG or %g mm².", w.AWG, w.Metric)
	if lost := w.Drop / w.Volts; lost > w.Allowed*1.02 {
		t.wrong(
			needs,
			"Its wire of %.3g mm² loses %.1f V of %g at %.3g A, %.0f %%, and %.0f %% may be lost.",
			c.Wire,
			w.Drop,
			w.Volts,
			w.Amps,
			lost*100,
			w.Allowed*100,
		)
	}
	if w.Ampacity < w.Amps {
		t.wrong(
			needs,
			"Its wire of %.3g mm² may carry %.0f A, and it draws %.3g A: it gets hot.",
			c.Wire,
			w.Ampacity,
			w.Amps,
		)
	}
}

// dryOver is how far over the sole a connection stays dry. Practice, no source.
const dryOver = 0.05

// wet says whether a circuit's lowest connection gets wet: on the sole, or under water.
func (e *Electrics) wet(t *told, c model.CircuitInput) {
	if c.Height <= 0 || len(e.laden.Posts) == 0 {
		return
	}
	sole := e.laden.Posts[0].Z
	for _, p := range e.laden.Posts {
		sole = min(sole, p.Z)
	}
	if c.Height < sole+dryOver {
		t.wrong("Up under the gunwale or the deck, with a loop for drops.",
			"Its lowest connection is %s over the keel and the sole %s: it gets wet.", e.laden.Small(c.Height),
			e.laden.Small(sole))
	}
}

// tender are the kinds that reset where the volts fall.
var tender = []string{"sonar", "scanner", "plotter"}

// starved says whether what resets at low volts hangs on the battery that cranks.
func (e *Electrics) starved(t *told, c model.CircuitInput) {
	if !slices.Contains(tender, c.Kind) {
		return
	}
	cranks := ""
	for _, key := range e.net.Feeding(c.From, nil) {
		b := e.bankOf(key)
		if b == nil || b.Role != "start" {
			return
		}
		cranks = b.Name
	}
	if cranks == "" {
		return
	}
	settle := "A battery of its own."
	for _, b := range e.Input.Banks {
		if b.Role != "start" && voltsOf(b, e.laden) == e.volts(c.From) {
			settle = "Hang it on the " + b.Name + "."
		}
	}
	t.wrong(settle, "It hangs on the %s: it resets when the engine cranks, and takes from what starts it.", cranks)
}

const (
	besideWithin = 0.15 // metres: nearer than that, a motor's wire is heard in a sonar's. Practice, no source
	besideLong   = 0.5  // metres of it
	besideStep   = 0.05
)

// beside says which sonar wires run beside those of motors.
func (e *Electrics) beside() (list []PowerFinding) {
	for _, c := range e.Input.Circuits {
		if c.Kind != "sonar" && c.Kind != "scanner" {
			continue
		}
		for _, m := range e.Input.Circuits {
			if m.Kind != "bow-motor" && m.Kind != "engine" && m.Kind != "windlass" {
				continue
			}
			if along := runsBeside(c.Route, m.Route); along >= besideLong {
				list = append(list, PowerFinding{About: c.Key, Name: c.Name,
					Said: fmt.Sprintf("It runs beside %s for %s: the motor is heard in the picture.", m.Name,
						e.laden.LengthText(along)),
					Settle: "On the other side of the boat, and across it where they must meet."})
			}
		}
	}
	return list
}

// runsBeside is how much of a route lies close to another, metres.
func runsBeside(route, other []model.Vec) (along float64) {
	for i := 1; i < len(route); i++ {
		a, b := route[i-1].R3(), route[i].R3()
		long := r3.Norm(r3.Sub(b, a))
		for s := besideStep / 2; s < long; s += besideStep {
			p := r3.Add(a, r3.Scale(s/long, r3.Sub(b, a)))
			if nearRoute(p, other) < besideWithin {
				along += besideStep
			}
		}
	}
	return along
}

func nearRoute(p r3.Vec, route []model.Vec) float64 {
	least := math.Inf(1)
	for i := 1; i < len(route); i++ {
		a := route[i-1].R3()
		ab := r3.Sub(route[i].R3(), a)
		share := 0.0
		if d := r3.Norm2(ab); d > 0 {
			share = min(1, max(0, r3.Dot(r3.Sub(p, a), ab)/d))
		}
		least = min(least, r3.Norm(r3.Sub(p, r3.Add(a, r3.Scale(share, ab)))))
	}
	return least
}

// notLookedAt names the circuits that only one pair of eyes saw.
func (e *Electrics) notLookedAt() []PowerFinding {
	var names []string
	about := ""
	for _, c := range e.Input.Circuits {
		if c.WiredBy != "" && (c.CheckedBy == "" || strings.EqualFold(c.CheckedBy, c.WiredBy)) {
			names = append(names, c.Name)
			about = cmp.Or(about, c.Key)
		}
	}
	if len(names) == 0 {
		return nil
	}
	return []PowerFinding{{About: about, Name: "Second pair of eyes", Note: true,
		Said:   "Only who wired it looked at " + listed(names) + ".",
		Settle: "Somebody else follows each wire with a finger, and says so here."}}
}

func listed(list []string) string {
	if len(list) < 2 {
		return strings.Join(list, "")
	}
	return strings.Join(list[:len(list)-1], ", ") + " and " + list[len(list)-1]
}

// cautions for what is aboard.
func (e *Electrics) cautions() []string {
	list := []string{"An estimate. A wrong fuse or a chafed wire burns boats: switch off at the battery before work, " +
		"and have a licensed electrician or a surveyor look at it. Local rules decide."}
	lead, lithium := false, false
	for _, b := range e.Input.Banks {
		for _, g := range batteriesOf(b, e.laden) {
			if g.Chemistry != "" {
				c := power.Chemistry(g.Chemistry)
				lead, lithium = lead || c.Lead(), lithium || !c.Lead()
			}
		}
	}
	if lead {
		list = append(list, "Lead batteries give off hydrogen while they are charged: air, no sparks, nothing smoking.")
	}
	if lithium {
		list = append(
			list,
			"Lithium batteries want a charger made for them, and no charging below 0 °C; follow their maker.",
		)
	}
	return list
}
