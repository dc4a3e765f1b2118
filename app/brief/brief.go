// Package brief is what guests are told at the boat, and the drill by which everyone learns
// where things are.
package brief

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"ergasia/app/aboard"
	"ergasia/app/days"
	"ergasia/app/kernel"
	"ergasia/app/safety"
	"ergasia/app/where"
	"ergasia/core/hull"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Wing has the use cases.
type Wing struct {
	*kernel.Kernel
	where *where.Wing
	days  *days.Wing
}

// New makes the wing.
func New(k *kernel.Kernel, w *where.Wing, d *days.Wing) *Wing {
	return &Wing{Kernel: k, where: w, days: d}
}

// BriefPoint is something that guests need to know, with where it is on the drawing.
type BriefPoint struct {
	Number int         `json:"number"`
	Title  string      `json:"title"`
	Said   string      `json:"said" doc:"To be read aloud"`
	At     []model.Vec `json:"at_m" doc:"Where it lies; none where that is not known"`
}

// BriefView is what guests are told of a boat.
type BriefView struct {
	Boat   string       `json:"boat"`
	Lines  hull.Lines   `json:"lines"`
	Points []BriefPoint `json:"points"`
	Call   []string     `json:"call" doc:"The distress call, line by line"`
	Relief []string     `json:"relief" doc:"If the skipper is hurt"`
	Own    []string     `json:"own" doc:"What the crew adds"`
	Lacks  []string     `json:"lacks" doc:"What could not be said, for the crew"`
}

// OfBoat is the brief of a boat as she lies now.
func (a *Wing) OfBoat(ctx context.Context, actor kernel.Actor, boat uuid.UUID) (BriefView, error) {
	var v BriefView
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		s, err := a.where.Laden(tx, actor, boat)
		if err != nil {
			return err
		}
		v = write(s, safety.Pieces(s, func(model.Gear) bool { return false }), nil)
		return nil
	})
	return v, err
}

// OfTrip is the brief of a trip's boat as she goes out; nil where the trip has no boat.
func OfTrip(o *days.Outing) *BriefView {
	if o.Laden == nil {
		return nil
	}
	v := write(o.Laden, safety.Pieces(o.Laden, safety.Comes(o)), o.People)
	return &v
}

// writer makes the sentences: short ones, in words of one or two syllables.
type writer struct {
	boat   *aboard.Laden
	pieces []safety.Piece
	people []days.Person
	brief  model.BriefInput
	view   BriefView
}

func write(s *aboard.Laden, pieces []safety.Piece, people []days.Person) BriefView {
	w := &writer{
		boat:   s,
		pieces: pieces,
		people: people,
		view: BriefView{Boat: s.Boat.Name, Lines: s.Craft.Lines, Points: []BriefPoint{}, Own: []string{},
			Lacks: []string{}},
	}
	if b := s.Craft.Input.Outfit.Brief; b != nil {
		w.brief = *b
	}
	w.things()
	w.view.Own = append(w.view.Own, w.brief.Own...)
	w.view.Call = w.call(len(people))
	w.view.Relief = w.relief(people)
	return w.view
}

// of are the pieces of some classes; a class ending in a space is all that begin with it.
func (w *writer) of(classes ...string) (list []safety.Piece) {
	for _, p := range w.pieces {
		if slices.ContainsFunc(
			classes,
			func(c string) bool { return p.Class == c || strings.HasPrefix(p.Class, c+" ") },
		) {
			list = append(list, p)
		}
	}
	slices.SortStableFunc(list, func(a, b safety.Piece) int { return cmp.Compare(seconds(a), seconds(b)) })
	return list
}

func seconds(p safety.Piece) float64 {
	if p.Seconds == nil {
		return math.Inf(1)
	}
	return *p.Seconds
}

// spots says where pieces lie, each place once, and where that is on the drawing.
func (w *writer) spots(list []safety.Piece, most int) (said string, at []model.Vec) {
	var names []string
	for _, p := range list {
		name := w.spot(p)
		if name == "" || slices.Contains(names, name) || len(names) == most {
			continue
		}
		names = append(names, name)
		if p.At != nil {
			at = append(at, *p.At)
		}
	}
	return strings.Join(names, " and "), at
}

// spot says where a piece lies: in a place, in a box there, or as the crew wrote it.
func (w *writer) spot(p safety.Piece) string {
	switch {
	case p.Gear == nil && p.Where == "built in":
		return ""
	case p.Gear == nil:
		return p.Where
	case p.Place == nil:
		return ""
	}
	place := w.boat.Place(*p.Place)
	if place == nil {
		return ""
	}
	said := "in the " + place.Name
	if in := w.boat.Stowage[p.Gear.ID].InsideID; in != nil {
		if box := w.boat.Thing(*in); box != nil {
			said = "in the " + box.Name + ", " + said
		}
	}
	return said
}

func (w *writer) say(title, said string, at []model.Vec) {
	w.view.Points = append(w.view.Points, BriefPoint{Number: len(w.view.Points) + 1, Title: title, Said: said,
		At: append([]model.Vec{}, at...)})
}

// place adds a point of things that must be found; where it is not known where they are,
// that is told to the crew.
func (w *writer) place(title string, most int, said string, classes ...string) {
	list := w.of(classes...)
	spots, at := w.spots(list, most)
	switch {
	case len(list) == 0:
		w.view.Lacks = append(w.view.Lacks, title+": none is aboard.")
	case spots == "":
		w.view.Lacks = append(w.view.Lacks, title+": nobody said where it is.")
	default:
		w.say(title, fmt.Sprintf(said, spots), at)
	}
}

func (w *writer) things() {
	w.place("Life jacket", 2, "Life jackets are %s. Put yours on now. Keep it on.", "lifejacket")
	w.say("Where to sit", cmp.Or(w.brief.Hold, "Sit down when she runs. Hold on with one hand."), w.seats())
	w.place("Man overboard", 2, "Shout. Point at them. Throw this: it is %s.", "throwable")
	if w.brief.Back != "" || len(w.of("ladder")) > 0 {
		spots, at := w.spots(w.of("ladder"), 1)
		w.say("Back on board", cmp.Or(w.brief.Back, strings.TrimSpace("Climb back at the ladder "+spots)+"."), at)
	}
	w.place("Fire", 2, "It is %s. Pull the pin. Aim low.", "extinguisher")
	w.place("First aid", 1, "The kit is %s.", "first aid")
	if len(w.of("radio")) > 0 { // without one the call is made by phone
		w.place("Radio", 1, "It is %s. Any of us may call for help.", "radio")
	}
	w.stop()
	if w.brief.Toilet != "" {
		_, at := w.spots(w.of("toilet"), 1)
		w.say("Toilet", w.brief.Toilet, at)
	}
}

// seats are where guests sit: by the trip, or as the crew says of the boat.
func (w *writer) seats() (at []model.Vec) {
	sits := append([]uuid.UUID{}, w.brief.Seats...)
	var theirs []uuid.UUID
	for _, p := range w.people {
		if (p.Role == "guest" || p.Role == "child") && p.Sits != nil {
			theirs = append(theirs, *p.Sits)
		}
	}
	if len(theirs) > 0 {
		sits = theirs
	}
	for _, p := range w.boat.Posts {
		if slices.Contains(sits, p.ID) {
			at = append(at, model.Vec{p.X, p.Y, p.Z})
		}
	}
	return at
}

// stop is how to stop the engine.
func (w *writer) stop() {
	if w.boat.Craft.Input.Outfit.Propulsion == "manual" {
		return
	}
	spots, at := w.spots(w.of("stop cord"), 1)
	if len(at) == 0 {
		if helm := safety.Helm(w.boat); helm != nil {
			at = []model.Vec{{helm.X, helm.Y, helm.Z}}
		}
	}
	said := "Pull the cord at the wheel. She stops."
	if spots != "" {
		said = "Pull the cord. It is " + spots + ". She stops."
	}
	w.say("Stop the engine", cmp.Or(w.brief.Stop, said), at)
}

// call is the distress call by voice, as the radio regulations have it (ITU Radio
// Regulations, article 32, from memory), with the boat's name.
func (w *writer) call(persons int) []string {
	name := strings.ToUpper(w.boat.Boat.Name)
	if len(w.of("radio")) == 0 {
		return []string{fmt.Sprintf("No radio: phone %s.", cmp.Or(w.brief.Rescue, "the rescue service, 112 or 911")),
			"Say: we need help on the water.", fmt.Sprintf("Say the boat's name, %s. Say where we are.", name),
			"Say how many we are. Do not hang up."}
	}
	first := "Turn it on. Go to channel 16."
	if w.brief.Number != "" {
		first = "Lift the flap. Hold the red button for five seconds. Then go to channel 16."
	}
	who := "THIS IS " + strings.Repeat(name+", ", 2) + name + "."
	if w.brief.CallSign != "" {
		who += " CALL SIGN " + w.brief.CallSign + "."
	}
	count := "WE ARE ____ ON BOARD."
	if persons > 0 {
		count = fmt.Sprintf("WE ARE %d ON BOARD.", persons)
	}
	list := []string{first, "Press the key and say:", "MAYDAY, MAYDAY, MAYDAY.", who}
	if w.brief.Number != "" { // on a line of its own, so that it is not broken
		list = append(list, "M M S I "+spaced(w.brief.Number)+".")
	}
	list = append(list, "MAYDAY "+name+".", "WE ARE AT ____ (read it off the screen).",
		"WE HAVE ____ (fire, sinking, hurt). WE NEED HELP NOW.", count+" OVER.", "Let go of the key. Wait. Say it again.")
	if w.brief.Rescue != "" {
		list = append(list, "By phone: "+w.brief.Rescue+".")
	}
	return list
}

func spaced(digits string) string { return strings.Join(strings.Split(digits, ""), " ") }

// relief is what is done if the skipper is hurt, and by whom.
func (w *writer) relief(people []days.Person) []string {
	list := []string{}
	for _, role := range []string{"crew", "partner"} {
		p := aboard.First(people, func(p days.Person) bool { return p.Role == role && !p.Guessed })
		if p != nil {
			list = append(list, p.Name+" takes over.")
			break
		}
	}
	if w.brief.Relief != "" {
		return append(list, w.brief.Relief)
	}
	if w.boat.Craft.Input.Outfit.Propulsion != "manual" {
		list = append(list, "Stop the engine.")
	}
	return append(list, "See that all wear a jacket.", "Drop the anchor if she drifts to the shore.", "Call for help.")
}

// Outline of the boat from above, half of it: x and half breadth.
func (v BriefView) Outline() [][2]float64 { return v.Lines.PlanSheer }
