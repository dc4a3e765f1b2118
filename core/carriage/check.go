package carriage

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"

	"ergasia/core/words"
)

// Statuses of a row, from the best to the worst.
const (
	NotAsked = "not_asked"
	Met      = "met"
	Slow     = "slow"
	Size     = "size"
	Expired  = "expired"
	Short    = "short"
)

var gravity = map[string]int{NotAsked: 0, Met: 1, Slow: 2, Size: 3, Expired: 4, Short: 5}

// Row is what came of a rule: of several with the same words, of the stricter.
type Row struct {
	Rule    string
	What    string
	Pack    string
	Status  string
	By      []string // ids of what meets it, or would
	Missing int
	Why     string
	Source  string
	Memory  bool
	Note    string
	Needs   string
	Classes []string // that would meet the line which is not met
	Within  float64  // seconds that it asks for; 0 is none
	Persons []string // for whom nothing fits, or who wear it
	Worn    bool     // those wear it under way
	Hold    bool
	Also    []string // other packs that ask for it
}

// ways is in how many ways things with two jobs are tried. Practice: ten such things.
const ways = 1024

// Check holds rules against what is aboard. A thing with several jobs does one of them:
// the way that leaves the least undone counts. Rules with the same words are one row. It
// stops with the context's error.
func Check(ctx context.Context, rules []Held, b Boat, t Trip, aboard []Item) ([]Row, error) {
	f := facts{Boat: b, Trip: t}
	stock, torn := split(aboard)
	var best []Row
	least := -1
	err := each(ctx, torn, func(jobs []Item) {
		rows := against(rules, f, append(slices.Clone(stock), jobs...))
		if bad := undone(rows); least < 0 || bad < least {
			best, least = rows, bad
		}
	})
	return best, err
}

func undone(rows []Row) (sum int) {
	for _, r := range rows {
		if r.Status != Met && r.Status != NotAsked {
			sum += 10*gravity[r.Status] + r.Missing
		}
	}
	return sum
}

// mostPieces of one thing are looked at one by one: more than any rule asks for.
const mostPieces = 200

// split parts what has one job from single pieces that have several.
func split(aboard []Item) (one, torn []Item) {
	for _, it := range aboard {
		it.Count = max(it.Count, 1)
		if len(it.Also) == 0 {
			one = append(one, it)
			continue
		}
		for range min(it.Count, mostPieces) {
			piece := it
			piece.Count = 1
			torn = append(torn, piece)
		}
	}
	return one, torn
}

// each tries the pieces with several jobs in every way, up to a bound.
func each(ctx context.Context, torn []Item, try func([]Item)) error {
	jobs := slices.Clone(torn)
	pick := make([]int, len(torn))
	for range ways {
		if err := ctx.Err(); err != nil {
			return err
		}
		for i, p := range pick {
			jobs[i].Class = append([]string{torn[i].Class}, torn[i].Also...)[p]
		}
		try(jobs)
		i := 0
		for ; i < len(pick); i++ { // the next way, as an odometer counts
			if pick[i]++; pick[i] <= len(torn[i].Also) {
				break
			}
			pick[i] = 0
		}
		if i == len(pick) {
			return nil
		}
	}
	return nil
}

// against gives a row for each thing that is asked for.
func against(rules []Held, f facts, stock []Item) []Row {
	var rows []Row
	for _, r := range rules {
		row := r.row(f, stock)
		i := slices.IndexFunc(rows, func(o Row) bool { return o.What == row.What })
		if i < 0 {
			rows = append(rows, row)
			continue
		}
		rows[i] = stricter(rows[i], row)
	}
	return rows
}

// stricter is the row of two that decides: what is worse, or asks for more.
func stricter(a, b Row) Row {
	if c := cmp.Compare(gravity[b.Status], gravity[a.Status]); c > 0 || c == 0 && quicker(b, a) {
		a, b = b, a
	}
	if b.Status != NotAsked && b.Pack != a.Pack && !slices.Contains(a.Also, b.Pack) {
		a.Also = append(a.Also, b.Pack)
	}
	a.Hold = a.Hold || b.Hold && b.Status == a.Status
	return a
}

func quicker(a, b Row) bool { return a.Within > 0 && (b.Within == 0 || a.Within < b.Within) }

func (r Held) row(f facts, stock []Item) Row {
	row := Row{
		Rule:    r.ID,
		What:    r.What,
		Pack:    r.Pack,
		Status:  NotAsked,
		By:      []string{},
		Source:  r.Source,
		Memory:  r.Memory,
		Note:    r.Note,
		Needs:   r.Needs(),
		Hold:    r.Hold,
		Also:    []string{},
		Persons: []string{},
		Classes: r.Need[0].Class,
	}
	no, unsaid := r.When.applies(f)
	if no != "" {
		row.Why = no
		return row
	}
	best := finding{}
	for i, way := range append([][]Line{r.Need}, r.Or...) {
		if found := meet(way, f, stock); i == 0 || found.better(best) {
			best = found
		}
	}
	row.Status, row.By, row.Missing, row.Why = best.status, best.by, best.missing, best.why
	row.Within, row.Persons, row.Worn = best.within, best.persons, best.worn
	if best.status != Met {
		row.Classes = best.classes
	}
	if len(unsaid) > 0 && row.Status != Met {
		row.Why += " Nobody said " + strings.Join(unsaid, ", ") + ": it is asked to be safe."
	}
	return row
}

// finding is what came of the lines of one way.
type finding struct {
	status  string
	by      []string
	missing int
	why     string
	classes []string
	within  float64
	persons []string
	worn    bool
}

func (f finding) better(o finding) bool {
	return cmp.Or(cmp.Compare(gravity[f.status], gravity[o.status]), cmp.Compare(f.missing, o.missing)) < 0
}

// meet holds all lines against the stock: the worst decides, and all that is missing counts.
func meet(way []Line, f facts, stock []Item) finding {
	all := finding{status: Met, by: []string{}}
	var said []string
	asked := map[string]bool{} // classes of earlier lines
	for _, l := range way {
		one := l.meet(f, stock)
		shared := slices.ContainsFunc(l.Class, func(c string) bool { return asked[c] })
		for _, c := range l.Class {
			asked[c] = true
		}
		for _, id := range one.by {
			if !slices.Contains(all.by, id) {
				all.by = append(all.by, id)
			}
		}
		if shared { // what is bought for one of them may meet the other
			all.missing = max(all.missing, one.missing)
		} else {
			all.missing += one.missing
		}
		all.persons = append(all.persons, one.persons...)
		all.worn = all.worn || one.worn
		if one.within > 0 && (all.within == 0 || one.within < all.within) {
			all.within = one.within
		}
		if gravity[one.status] > gravity[all.status] {
			all.status, all.classes = one.status, one.classes
			said = nil
		}
		if one.status == all.status && !slices.Contains(said, one.why) {
			said = append(said, one.why)
		}
	}
	all.why = strings.Join(said, " ")
	return all
}

// pieces of the line's classes: each unit that may meet it.
func (l Line) pieces(stock []Item) (list []Item) {
	for _, it := range stock {
		if !slices.Contains(l.Class, it.Class) || l.Inside != "" && !slices.Contains(it.Inside, l.Inside) {
			continue
		}
		for range min(it.Count, mostPieces) {
			list = append(list, it)
		}
	}
	return list
}

func (l Line) name() string { return words.SafetyClasses.Label(l.Class[0]) }

func (l Line) dated(it Item, f facts) bool {
	return !l.InDate || it.Expires == nil || *it.Expires >= f.LastDay
}

func (l Line) quick(it Item) bool {
	return l.Within == 0 || it.Seconds == nil || *it.Seconds <= l.Within
}

func (l Line) meet(f facts, stock []Item) finding {
	bodies := l.bodies(f)
	wanted := max(l.Count, 1)
	if l.perPerson() {
		wanted = len(bodies)*wanted + l.Spare
	}
	out := finding{status: Met, by: []string{}, within: l.Within, classes: l.Class, worn: l.Worn}
	if l.Worn {
		for _, p := range bodies {
			out.persons = append(out.persons, p.Name)
		}
	}
	all := l.pieces(stock)
	dated := keep(all, func(it Item) bool { return l.dated(it, f) })
	fitting, without := l.fit(dated, bodies)
	good := keep(dated, l.quick)
	quick, _ := l.fit(good, bodies)
	switch {
	case len(all) < wanted:
		out.status, out.missing = Short, wanted-len(all)
		out.why = l.shortWhy(len(all), wanted, stock)
	case len(dated) < wanted:
		out.status, out.missing = Expired, wanted-len(dated)
		out.why = l.expiredWhy(all, f)
	case len(without) > 0:
		out.status, out.missing, out.persons = Size, len(without), without
		out.why = l.sizeWhy(without, dated)
	case len(good) < wanted || quick < fitting:
		out.status, out.missing = Slow, max(wanted-len(good), fitting-quick)
		out.why = l.slowWhy(dated)
	}
	out.by = l.by(out.status, all, dated, good, wanted)
	if out.status == Met {
		out.why = l.metWhy(wanted, keepIDs(good, out.by))
	}
	return out
}

// bodies are those for whom a line counts.
func (l Line) bodies(f facts) (list []Person) {
	if !l.perPerson() {
		return nil
	}
	for _, p := range f.Persons {
		if l.Ages == nil || p.Age != nil && l.Ages.has(*p.Age) {
			list = append(list, p)
		}
	}
	return list
}

// by are the ids of what meets a line; where it is not met, of what comes next to it.
func (l Line) by(status string, all, dated, good []Item, wanted int) []string {
	from := good
	switch status {
	case Slow, Size:
		from = dated
	case Expired, Short:
		from = all
	}
	ids, left := []string{}, wanted
	slices.SortStableFunc(from, func(a, b Item) int { return cmp.Compare(seconds(a), seconds(b)) })
	for _, it := range from {
		if !l.perPerson() && left == 0 && status == Met {
			break
		}
		left--
		if !slices.Contains(ids, it.ID) {
			ids = append(ids, it.ID)
		}
	}
	return ids
}

func seconds(it Item) float64 {
	if it.Seconds == nil {
		return 0
	}
	return *it.Seconds
}

func keep(list []Item, is func(Item) bool) (kept []Item) {
	for _, it := range list {
		if is(it) {
			kept = append(kept, it)
		}
	}
	return kept
}

func keepIDs(list []Item, ids []string) []Item {
	return keep(list, func(it Item) bool { return slices.Contains(ids, it.ID) })
}

func (l Line) shortWhy(have, wanted int, stock []Item) string {
	if l.Inside != "" {
		loose := l
		loose.Inside = ""
		if len(loose.pieces(stock)) > have {
			return fmt.Sprintf(
				"%s is aboard, but not in the %s.",
				capital(l.name()),
				words.SafetyClasses.Label(l.Inside),
			)
		}
	}
	if have == 0 && wanted == 1 {
		return fmt.Sprintf("No %s is aboard.", l.name())
	}
	return fmt.Sprintf("%s: %d of %d are aboard.", capital(l.name()), have, wanted)
}

func (l Line) expiredWhy(all []Item, f facts) string {
	var names []string
	for _, it := range all {
		if !l.dated(it, f) && !slices.Contains(names, it.Name) {
			names = append(names, it.Name)
		}
	}
	return fmt.Sprintf("%s: out of date by the trip's last day.", strings.Join(names, ", "))
}

func (l Line) sizeWhy(without []string, dated []Item) string {
	unsized := slices.ContainsFunc(dated, func(it Item) bool { return it.Fits == nil })
	said := fmt.Sprintf("No %s fits %s.", l.name(), strings.Join(without, ", "))
	if unsized {
		said += " Of some, nobody said which bodies they fit."
	}
	return said
}

func (l Line) slowWhy(dated []Item) string {
	slowest := Item{}
	for _, it := range dated {
		if !l.quick(it) && seconds(it) > seconds(slowest) {
			slowest = it
		}
	}
	at := ""
	if slowest.Where != "" {
		at = " (" + slowest.Where + ")"
	}
	return fmt.Sprintf("%s%s takes %.0f s; %.0f s is asked.", slowest.Name, at, seconds(slowest), l.Within)
}

func (l Line) metWhy(wanted int, used []Item) string {
	slowest, named := 0.0, []string{}
	for _, it := range used {
		slowest = max(slowest, seconds(it))
		if it.Name != "" && !slices.Contains(named, it.Name) {
			named = append(named, it.Name)
		}
	}
	if wanted == 0 {
		return "Nobody aboard needs one."
	}
	said := fmt.Sprintf("%d × %s", wanted, l.name())
	if len(named) > 0 {
		said = strings.Join(named, ", ")
	}
	if slowest > 0 {
		said += fmt.Sprintf(", in %.0f s", slowest)
	}
	return said + "."
}

func capital(s string) string {
	if s == "" {
		return s
	}
	r := []rune(s)
	return strings.ToUpper(string(r[0])) + string(r[1:])
}
