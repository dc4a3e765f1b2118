package carriage

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"ergasia/core/check"
	"ergasia/core/words"
)

// Pack is a set of rules under a name. It may inherit others, and change or drop rules of
// theirs by their id.
type Pack struct {
	Name     string   `json:"name"`
	Title    string   `json:"title"`
	About    string   `json:"about,omitempty"`
	Inherits []string `json:"inherits,omitempty"`
	Drops    []Drop   `json:"drops,omitempty" doc:"Rules of what it inherits that do not hold"`
	Rules    []Rule   `json:"rules"`
}

// Drop leaves out an inherited rule, and says why.
type Drop struct {
	Rule string `json:"rule"`
	Why  string `json:"why"`
}

// Rule is one row of a pack.
type Rule struct {
	ID     string   `json:"id"`
	What   string   `json:"what" doc:"In plain words; rules with the same words are one row of an answer, and the stricter decides"`
	When   When     `json:"when,omitzero" doc:"To which boats and trips it applies; all where it is left out"`
	Need   []Line   `json:"need" doc:"All of these"`
	Or     [][]Line `json:"or,omitempty" doc:"Or all of the lines of one of these instead"`
	Source string   `json:"source"`
	Memory bool     `json:"memory,omitempty" doc:"The source was written from memory"`
	Note   string   `json:"note,omitempty"`
	Why    string   `json:"why,omitempty" doc:"Why it is otherwise than what it inherits"`
	Hold   bool     `json:"hold,omitempty" doc:"A trip is not ready while it is not met"`
}

// Range is from a number, under another; either end may be open.
type Range struct {
	From  *float64 `json:"from,omitempty"`
	Under *float64 `json:"under,omitempty"`
}

func (r Range) has(v float64) bool {
	return (r.From == nil || v >= *r.From) && (r.Under == nil || v < *r.Under)
}

// When are conditions; each that is given must hold.
type When struct {
	Length     *Range   `json:"length_m,omitempty"`
	Power      *Range   `json:"power_kw,omitempty"`
	Built      *Range   `json:"built,omitempty" doc:"Year"`
	Persons    *Range   `json:"persons,omitempty" doc:"How many are aboard"`
	Ages       *Range   `json:"ages,omitempty" doc:"Somebody aboard is so old, years"`
	Propulsion []string `json:"propulsion,omitempty" words:"carriage_propulsion"`
	Fuel       []string `json:"fuel,omitempty" words:"carriage_fuels"`
	Water      []string `json:"water,omitempty" words:"carriage_waters"`
	Country    []string `json:"country,omitempty"`
	Use        []string `json:"use,omitempty" words:"carriage_uses"`
	Closed     *bool    `json:"closed_spaces,omitempty" doc:"She has closed spaces where fuel vapour can gather, or a built-in tank"`
	Night      *bool    `json:"night,omitempty" doc:"Some of the trip is between sunset and sunrise"`
	Guests     *bool    `json:"guests,omitempty" doc:"Somebody aboard is a guest or a child"`
}

// Line is what is needed.
type Line struct {
	Class  []string `json:"class" words:"safety_classes" doc:"Any of these"`
	Count  int      `json:"count,omitempty" doc:"1 where it is left out; for each person where per says so"`
	Per    string   `json:"per,omitempty" words:"carriage_per" doc:"the boat where it is left out"`
	Spare  int      `json:"spare,omitempty" doc:"Beyond one for each person"`
	Ages   *Range   `json:"ages,omitempty" doc:"Only for persons so old, years"`
	Fits   bool     `json:"fits,omitempty" doc:"It fits the body"`
	Worn   bool     `json:"worn,omitempty" doc:"It is worn under way: a duty, told with the row"`
	InDate bool     `json:"in_date,omitempty"`
	Within float64  `json:"within_s,omitempty" doc:"In a hand within so many seconds"`
	Inside string   `json:"inside,omitempty" words:"safety_classes" doc:"It lies in a box of this class"`
}

func (l Line) perPerson() bool { return l.Per == "person" }

// Most that a pack may have.
const (
	mostRules = 200
	mostLines = 12
)

// Check lists what is wrong with a pack by itself; each fault names the row.
func (p Pack) Check() error {
	var fs check.Faults
	p.check(&fs)
	return fs.Err()
}

func (p Pack) check(fs *check.Faults) {
	checkID(fs, "name", p.Name)
	fs.Text("title", p.Title, 1, 80)
	fs.Text("about", p.About, 0, 600)
	if len(p.Rules) > mostRules {
		fs.Add("rules", len(p.Rules), fmt.Sprintf("must be at most %d", mostRules))
		return
	}
	if len(p.Inherits) > 10 {
		fs.Add("inherits", len(p.Inherits), "must be at most 10 packs")
	}
	seen := map[string]int{}
	for i, r := range p.Rules {
		at := fmt.Sprintf("rules[%d]", i)
		r.check(fs, at)
		if was, twice := seen[r.ID]; twice {
			fs.Add(at+".id", r.ID, fmt.Sprintf("is the id of rule %d too: each rule has its own", was+1))
		}
		seen[r.ID] = i
	}
	for i, d := range p.Drops {
		at := fmt.Sprintf("drops[%d]", i)
		fs.Text(at+".why", d.Why, 1, 300)
		if row, both := seen[d.Rule]; both {
			fs.Add(
				at+".rule",
				d.Rule,
				fmt.Sprintf("contradicts rule %d, which has this id: drop it or change it, not both", row+1),
			)
		}
	}
}

func checkID(fs *check.Faults, field, id string) {
	fs.Text(field, id, 1, 60)
	if strings.ContainsFunc(id, func(r rune) bool { return (r < 'a' || r > 'z') && (r < '0' || r > '9') && r != '-' }) {
		fs.Add(field, id, "must be small letters, figures and hyphens, such as us-federal")
	}
}

func (r Rule) check(fs *check.Faults, at string) {
	checkID(fs, at+".id", r.ID)
	fs.Text(at+".what", r.What, 1, 80)
	fs.Text(at+".source", r.Source, 1, 200)
	fs.Text(at+".note", r.Note, 0, 600)
	fs.Text(at+".why", r.Why, 0, 300)
	r.When.check(fs, at+".when")
	if len(r.Need) == 0 {
		fs.Add(at+".need", 0, "must say what is needed: at least one line")
	}
	for i, l := range r.Need {
		l.check(fs, fmt.Sprintf("%s.need[%d]", at, i))
	}
	for i, way := range r.Or {
		if len(way) == 0 {
			fs.Add(fmt.Sprintf("%s.or[%d]", at, i), 0, "must have a line: nothing would meet it always")
		}
		for j, l := range way {
			l.check(fs, fmt.Sprintf("%s.or[%d][%d]", at, i, j))
		}
	}
	if len(r.Need) > mostLines || len(r.Or) > mostLines {
		fs.Add(at+".need", len(r.Need), fmt.Sprintf("at most %d lines, and as many other ways", mostLines))
	}
}

func (w When) check(fs *check.Faults, at string) {
	ranges := []struct {
		field     string
		r         *Range
		low, high float64
	}{{"length_m", w.Length, 0, 60}, {"power_kw", w.Power, 0, 5000}, {"built", w.Built, 1900, 2200},
		{"persons", w.Persons, 0, 100}, {"ages", w.Ages, 0, 120}}
	for _, one := range ranges {
		one.r.check(fs, at+"."+one.field, one.low, one.high)
	}
	lists := []struct {
		field string
		has   []string
		of    words.List
	}{{"propulsion", w.Propulsion, words.CarriagePropulsion}, {"fuel", w.Fuel, words.CarriageFuels},
		{"water", w.Water, words.CarriageWaters}, {"use", w.Use, words.CarriageUses}}
	for _, l := range lists {
		for i, v := range l.has {
			fs.OneOf(fmt.Sprintf("%s.%s[%d]", at, l.field, i), v, l.of.Keys()...)
		}
	}
	for i, c := range w.Country {
		if len(c) != 2 || c != strings.ToUpper(c) {
			fs.Add(fmt.Sprintf("%s.country[%d]", at, i), c, "must be two capital letters, such as US")
		}
	}
}

func (r *Range) check(fs *check.Faults, at string, low, high float64) {
	if r == nil {
		return
	}
	if r.From == nil && r.Under == nil {
		fs.Add(at, nil, "must have from, under, or both")
	}
	for name, v := range map[string]*float64{"from": r.From, "under": r.Under} {
		if v != nil {
			fs.Within(at+"."+name, *v, low, high)
		}
	}
	if r.From != nil && r.Under != nil && *r.From >= *r.Under {
		fs.Add(at+".from", *r.From, fmt.Sprintf("contradicts under, %g: nothing is both; from must be less", *r.Under))
	}
}

func (l Line) check(fs *check.Faults, at string) {
	if len(l.Class) == 0 {
		fs.Add(at+".class", 0, "must name at least one class")
	}
	for i, c := range l.Class {
		fs.OneOf(fmt.Sprintf("%s.class[%d]", at, i), c, words.SafetyClasses.Keys()...)
	}
	fs.Within(at+".count", float64(l.Count), 0, 100)
	fs.Within(at+".spare", float64(l.Spare), 0, 100)
	fs.Within(at+".within_s", l.Within, 0, 3600)
	fs.OneOf(at+".per", l.Per, words.CarriagePer.OrNone()...)
	if l.Inside != "" {
		fs.OneOf(at+".inside", l.Inside, words.SafetyClasses.Keys()...)
		if slices.Contains(l.Class, l.Inside) {
			fs.Add(at+".inside", l.Inside, "contradicts class: a thing does not lie in itself")
		}
	}
	l.Ages.check(fs, at+".ages", 0, 120)
	if !l.perPerson() {
		for field, is := range map[string]bool{"ages": l.Ages != nil, "fits": l.Fits, "worn": l.Worn, "spare": l.Spare > 0} {
			if is {
				fs.Add(at+"."+field, nil, "contradicts per, the boat: it is said of persons; write per: person")
			}
		}
	}
	if l.Worn && l.Inside != "" {
		fs.Add(at+".worn", nil, "contradicts inside: what is worn does not lie in a box")
	}
}

// Library is packs by name.
type Library map[string]Pack

// Has says whether a pack is another one, or inherits it at any depth.
func (lib Library) Has(name, other string) bool { return lib.inherits(name, other, map[string]bool{}) }

func (lib Library) inherits(name, other string, seen map[string]bool) bool {
	if name == other {
		return true
	}
	if seen[name] {
		return false
	}
	seen[name] = true
	return slices.ContainsFunc(lib[name].Inherits, func(parent string) bool { return lib.inherits(parent, other, seen) })
}

// Held is a rule as it holds in a pack, with the pack that it was written in.
type Held struct {
	Rule
	Pack string
}

// Rules are those that hold in a pack, inherited ones first, changed or dropped as the pack
// says. Circles, parents that are not there and changes of nothing are faults.
func (lib Library) Rules(name string) ([]Held, error) {
	var fs check.Faults
	list := lib.rules(name, nil, &fs)
	return list, fs.Err()
}

func (lib Library) rules(name string, above []string, fs *check.Faults) (list []Held) {
	p, ok := lib[name]
	if !ok {
		fs.Add("packs", name, "must be a pack that is there")
		return nil
	}
	above = append(slices.Clone(above), name)
	for i, parent := range p.Inherits {
		at := fmt.Sprintf("inherits[%d]", i)
		if slices.Contains(above, parent) {
			fs.Add(
				at,
				parent,
				"goes in a circle ("+strings.Join(append(above, parent), " → ")+"): leave one of them out",
			)
			continue
		}
		if _, ok := lib[parent]; !ok {
			fs.Add(at, parent, "must be a pack that is there")
			continue
		}
		for _, r := range lib.rules(parent, above, fs) {
			if !slices.ContainsFunc(list, func(o Held) bool { return o.ID == r.ID && o.Pack == r.Pack }) {
				list = append(list, r)
			}
		}
	}
	for i, d := range p.Drops {
		had := len(list)
		list = slices.DeleteFunc(list, func(r Held) bool { return r.ID == d.Rule })
		if len(list) == had {
			fs.Add(fmt.Sprintf("drops[%d].rule", i), d.Rule, "must be a rule that the pack inherits")
		}
	}
	for _, r := range p.Rules {
		list = slices.DeleteFunc(list, func(o Held) bool { return o.ID == r.ID })
		list = append(list, Held{Rule: r, Pack: name})
	}
	return list
}

// All are the rules of several packs, each once.
func (lib Library) All(names []string) ([]Held, error) {
	var fs check.Faults
	var list []Held
	for _, name := range names {
		for _, r := range lib.rules(name, nil, &fs) {
			if !slices.ContainsFunc(list, func(o Held) bool { return o.ID == r.ID && o.Pack == r.Pack }) {
				list = append(list, r)
			}
		}
	}
	return list, fs.Err()
}

// Change is what a pack makes of a rule that it inherits.
type Change struct {
	Rule string `json:"rule"`
	What string `json:"what"`
	How  string `json:"how" enum:"added,changed,dropped"`
	Said string `json:"said"`
	Why  string `json:"why,omitempty"`
}

// Changes are what a pack adds to what it inherits, changes of it, and drops.
func (lib Library) Changes(name string) []Change {
	p := lib[name]
	inherited := map[string]Rule{}
	var fs check.Faults
	for _, parent := range p.Inherits {
		for _, r := range lib.rules(parent, []string{name}, &fs) {
			inherited[r.ID] = r.Rule
		}
	}
	list := []Change{}
	for _, d := range p.Drops {
		list = append(list, Change{Rule: d.Rule, What: cmp.Or(inherited[d.Rule].What, d.Rule), How: "dropped",
			Said: "not asked any more", Why: d.Why})
	}
	for _, r := range p.Rules {
		was, changed := inherited[r.ID]
		one := Change{Rule: r.ID, What: r.What, How: "added", Said: r.Needs(), Why: r.Why}
		if changed {
			one.How, one.Said = "changed", fmt.Sprintf("%s; was %s", r.Needs(), was.Needs())
		}
		list = append(list, one)
	}
	return list
}

// Needs says what a rule needs, in words.
func (r Rule) Needs() string {
	ways := []string{lines(r.Need)}
	for _, way := range r.Or {
		ways = append(ways, lines(way))
	}
	return strings.Join(ways, "; or ")
}

func lines(need []Line) string {
	said := make([]string, len(need))
	for i, l := range need {
		said[i] = l.String()
	}
	return strings.Join(said, " and ")
}

// String says what a line needs.
func (l Line) String() string {
	said := fmt.Sprintf("%d × %s", max(l.Count, 1), l.anyOf())
	if l.perPerson() {
		said += " for each person"
	}
	if l.Ages != nil {
		said += " " + l.Ages.ages()
	}
	if l.Spare > 0 {
		said += fmt.Sprintf(" and %d spare", l.Spare)
	}
	if l.Fits {
		said += ", that fits"
	}
	if l.InDate {
		said += ", in date"
	}
	if l.Within > 0 {
		said += fmt.Sprintf(", within %.0f s", l.Within)
	}
	if l.Inside != "" {
		said += ", in the " + words.SafetyClasses.Label(l.Inside)
	}
	if l.Worn {
		said += ", worn under way"
	}
	return said
}

// mostNamed is how many classes of a line are named; the others are counted.
const mostNamed = 3

func (l Line) anyOf() string {
	var labels []string
	named := len(l.Class)
	if named > mostNamed+1 { // to count one would be no shorter than to name it
		named = mostNamed
	}
	for _, c := range l.Class[:named] {
		labels = append(labels, words.SafetyClasses.Label(c))
	}
	if n := len(l.Class) - named; n > 0 {
		labels = append(labels, fmt.Sprintf("%d other kinds", n))
	}
	return strings.Join(labels, " or ")
}

func (r Range) ages() string {
	switch {
	case r.From == nil && r.Under != nil:
		return fmt.Sprintf("under %.0f", *r.Under)
	case r.Under == nil && r.From != nil:
		return fmt.Sprintf("from %.0f", *r.From)
	}
	return fmt.Sprintf("from %.0f to under %.0f", *r.From, *r.Under)
}
