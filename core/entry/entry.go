package entry

import (
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"ergasia/core/find"
)

// MaxLines bounds what is read at once, and maxLine the letters of a line.
const (
	MaxLines = 500
	maxLine  = 300
)

// Known is what names in a line may mean, as the crew writes them.
type Known struct {
	Places []string // aboard, ashore, and boxes: all that can hold something
	Owners []string
	US     bool // lengths without a unit are inches, masses pounds
}

// Entry is a thing as one line tells it.
type Entry struct {
	Line      string
	Name      string
	Count     int
	Size      [3]float64 // m
	Kg        float64    // of one
	MassKnown string     // weighed or guess
	Shape     string     // box, rod, soft or loose
	NeedsDry  bool
	Fragile   bool
	Metal     bool
	Buoyant   bool
	Hazards   []string
	Inside    [3]float64 // m; nought where it holds nothing
	Tags      []string
	Place     string // one of Known.Places, or empty
	Owner     string // one of Known.Owners, or empty
	Doubts    []string
}

// Lines reads every line that is not blank; a line that can't be read is an
// entry with no name and a doubt that says why.
func Lines(text string, known Known) []Entry {
	var list []Entry
	for line := range strings.Lines(text) {
		if line = strings.TrimSpace(line); line != "" && len(list) < MaxLines {
			list = append(list, Line(line, known))
		}
	}
	return list
}

// Line reads one line.
func Line(text string, known Known) Entry {
	e := Entry{Line: text, Count: 1}
	if len([]rune(text)) > maxLine {
		e.doubt("This line is longer than %d letters: split it.", maxLine)
		return e
	}
	p := parser{known: known, entry: &e}
	rest := p.named(text)
	p.words(strings.Fields(p.quantities(rest)))
	if e.Name == "" {
		e.doubt("There is no name in this line.")
		return e
	}
	p.fill()
	p.suspect()
	return e
}

func (e *Entry) doubt(format string, values ...any) {
	e.Doubts = append(e.Doubts, fmt.Sprintf(format, values...))
}

type parser struct {
	known  Known
	entry  *Entry
	sides  int     // how many sides were given
	length float64 // m, where one length was given alone
	massed bool
	about  bool // the mass is with a ~
	dry    bool // said to stay dry, or not to mind
}

var (
	dot      = `[0-9]+(?:[.,][0-9]+)?`
	sizeText = regexp.MustCompile(`(?i)(?:^|\s)(` + dot + `)\s*[x×*]\s*(` + dot + `)(?:\s*[x×*]\s*(` + dot + `))?\s*(mm|cm|m|in|inch|inches|"|ft)?(?:\s|,|$)`)
	massText = regexp.MustCompile(`(?i)(?:^|\s)(~|ca\.?\s*|about\s+)?(` + dot + `)\s*(kg|g|gr|lbs?|oz)(?:\s+each)?(?:\s|,|$)`)
	longText = regexp.MustCompile(`(?i)(?:^|\s)(` + dot + `)\s?(m|cm|ft|in)(?:\s|,|$)`)
	countOf  = regexp.MustCompile(`(?i)^([0-9]{1,4})\s*(?:x|×|pcs?\.?|st\.?)?\s+(.+)$`)
	unitNext = regexp.MustCompile(`(?i)^(l|litres?|m|cm|mm|kg|g|v|ah|hp|lb|oz|ft|in|w)\b`)
)

// named takes @place, +owner and #tag out of a line. A place or owner may have
// several words: the longest that is known counts.
func (p *parser) named(text string) string {
	e := p.entry
	for _, sign := range []string{"@", "+"} {
		at := strings.Index(" "+text, " "+sign)
		if at < 0 {
			continue
		}
		after := text[at+1:]
		list := p.known.Places
		if sign == "+" {
			list = p.known.Owners
		}
		name, used := longest(after, list)
		if name == "" {
			used = upTo(after, "@+#")
			if spoken := strings.TrimSpace(after[:used]); spoken != "" {
				if sign == "@" {
					e.doubt("No place is called %q: it goes to the quay.", spoken)
				} else {
					e.doubt("Nobody in the crew is called %q: it is the crew's.", spoken)
				}
			}
		} else if !slices.Equal(find.Words(after[:used]), find.Words(name)) {
			e.doubt("%q was read as %s.", strings.TrimSpace(after[:used]), name)
		}
		if sign == "@" {
			e.Place = name
		} else {
			e.Owner = name
		}
		text = text[:at] + " " + after[used:]
	}
	var kept []string
	for _, w := range strings.Fields(text) {
		if tag, is := strings.CutPrefix(w, "#"); is && len(find.Words(tag)) > 0 {
			e.Tags = append(e.Tags, strings.Join(find.Words(tag), " "))
		} else {
			kept = append(kept, w)
		}
	}
	return strings.Join(kept, " ")
}

func upTo(text, signs string) int {
	if i := strings.IndexAny(text, signs); i >= 0 {
		return i
	}
	return len(text)
}

// longest finds the known name that the text begins with, forgiving slips, and
// how many bytes of the text it took.
func longest(text string, names []string) (name string, used int) {
	text = text[:upTo(text, "@+#")]
	ends := wordEnds(text)
	for i := len(ends) - 1; i >= 0; i-- {
		said := find.Words(text[:ends[i]])
		same := func(n string) bool { return slices.Equal(said, find.Words(n)) }
		near := func(n string) bool { return alike(said, find.Words(n)) }
		for _, is := range []func(string) bool{same, near} {
			if k := slices.IndexFunc(names, is); k >= 0 {
				return names[k], ends[i]
			}
		}
		if begun := beginning(said, names); begun != "" {
			return begun, ends[i]
		}
	}
	return "", 0
}

// beginning is the one name that begins with what was said; none where several do.
func beginning(said []string, names []string) string {
	found := ""
	for _, n := range names {
		words := find.Words(n)
		if len(said) > 0 && len(words) > len(said) && slices.Equal(said, words[:len(said)]) {
			if found != "" {
				return ""
			}
			found = n
		}
	}
	return found
}

func alike(said, name []string) bool {
	if len(said) == 0 || len(said) != len(name) {
		return false
	}
	for i := range said {
		if find.Match(said[i], name[i]) < find.Near/2 {
			return false
		}
	}
	return true
}

func wordEnds(text string) []int {
	var ends []int
	for i := range len(text) {
		if text[i] != ' ' && (i+1 == len(text) || text[i+1] == ' ') {
			ends = append(ends, i+1)
		}
	}
	return ends
}

// quantities takes sizes and masses out of a line.
func (p *parser) quantities(text string) string {
	e := p.entry
	if m := sizeText.FindStringSubmatch(text); m != nil {
		unit := p.lengthUnit(m[4])
		for i, side := range m[1:4] {
			if side != "" {
				e.Size[i] = number(side) * unit
				p.sides++
			}
		}
		text = strings.Replace(text, strings.TrimSpace(m[0]), " ", 1)
	}
	if m := massText.FindStringSubmatch(text); m != nil {
		e.Kg, p.massed, p.about = number(m[2])*massUnits[strings.ToLower(m[3])], true, m[1] != ""
		text = strings.Replace(text, strings.TrimSpace(m[0]), " ", 1)
	}
	if m := longText.FindStringSubmatch(text); m != nil && p.sides == 0 {
		p.length = number(m[1]) * p.lengthUnit(m[2]) // it stays in the name: a 2.1 m rod
	}
	text = strings.TrimSpace(text)
	if m := countOf.FindStringSubmatch(text); m != nil && !unitNext.MatchString(m[2]) {
		e.Count, _ = strconv.Atoi(m[1])
		text = m[2]
	}
	return text
}

var massUnits = map[string]float64{"kg": 1, "g": 0.001, "gr": 0.001, "lb": 0.45359237, "lbs": 0.45359237,
	"oz": 0.45359237 / 16}

func (p *parser) lengthUnit(unit string) float64 {
	switch strings.ToLower(unit) {
	case "mm":
		return 0.001
	case "cm":
		return 0.01
	case "m":
		return 1
	case "in", "inch", "inches", `"`:
		return 0.0254
	case "ft":
		return 0.3048
	}
	if p.known.US {
		return 0.0254
	}
	return 0.01
}

func number(text string) float64 {
	n, err := strconv.ParseFloat(strings.Replace(text, ",", ".", 1), 64)
	if err != nil {
		return math.NaN()
	}
	return n
}

// words reads the flags, and makes the name of what is left.
func (p *parser) words(list []string) {
	e := p.entry
	var name []string
	for _, w := range list {
		switch strings.ToLower(strings.Trim(w, ",;")) {
		case "dry":
			e.NeedsDry, p.dry = true, true
		case "wet":
			e.NeedsDry, p.dry = false, true
		case "fragile":
			e.Fragile = true
		case "metal":
			e.Metal = true
		case "floats", "buoyant":
			e.Buoyant = true
		case "soft":
			e.Shape, name = "soft", append(name, w)
		case "loose":
			e.Shape = "loose"
		default:
			name = append(name, w)
		}
	}
	text := strings.Trim(strings.Join(name, " "), " ,;")
	if r := []rune(text); len(r) > 80 {
		e.doubt("The name was cut to 80 letters.")
		text = string(r[:80])
	}
	e.Name = text
}

// fill takes what the line left out from a usual thing.
func (p *parser) fill() {
	e := p.entry
	t, known := template(e.Name)
	if e.Shape == "" {
		e.Shape = t.Shape
	}
	if !p.dry {
		e.NeedsDry = t.NeedsDry
	}
	e.Fragile, e.Metal, e.Buoyant = e.Fragile || t.Fragile, e.Metal || t.Metal, e.Buoyant || t.Buoyant
	e.Hazards = t.Hazards
	p.fillSize(t, known)
	if t.Inside != [3]float64{} {
		for i := range 3 {
			e.Inside[i] = e.Size[i] * t.Inside[i] / t.Size[i]
		}
	}
	e.MassKnown = "weighed"
	if p.about {
		e.MassKnown = "guess"
	}
	if !p.massed {
		e.Kg, e.MassKnown = t.Kg, "guess"
		if p.sides > 0 {
			e.Kg = scaled(t, e.Size)
		}
		e.doubt("No mass: %s is a guess from %s.", p.mass(e.Kg), t.Name)
	}
}

// scaled is the mass of a usual thing made larger or smaller, to 0.1 kg.
func scaled(t Template, size [3]float64) float64 {
	share := size[0] * size[1] * size[2] / (t.Size[0] * t.Size[1] * t.Size[2])
	return math.Max(0.05, math.Round(t.Kg*share*20)/20)
}

func (p *parser) fillSize(t Template, known bool) {
	e := p.entry
	switch {
	case p.sides == 3:
	case p.sides == 2:
		e.Size[2] = min(e.Size[0], e.Size[1], t.Size[2])
		e.doubt("Two sides only: the third, %s, is a guess.", p.side(e.Size[2]))
	case p.length > 0 && t.Shape == "rod":
		e.Size = [3]float64{p.length + 0.03, t.Size[1], t.Size[2]}
		e.doubt("Length only: %s thick is a guess.", p.side(t.Size[1]))
	default:
		e.Size = t.Size
		if known {
			e.doubt("No size: %s x %s x %s is a guess from %s.", p.side(t.Size[0]), p.side(t.Size[1]), p.side(t.Size[2]), t.Name)
		} else {
			e.doubt("No size, and nothing usual has this name: %s x %s x %s is a guess.", p.side(t.Size[0]), p.side(t.Size[1]),
				p.side(t.Size[2]))
		}
	}
}

// Bounds beyond which a reading is likelier a slip. Practice, no source: lead
// is 11,300 kg/m³, and a box of air and foam hardly under 10.
const (
	heaviest = 8000.0
	lightest = 8.0
	longish  = 3.0
)

// suspect says which figures are hardly right.
func (p *parser) suspect() {
	e := p.entry
	if e.Count < 1 || e.Count > 1000 {
		e.doubt("%d of them? From 1 to 1000 can be kept together.", e.Count)
		e.Count = min(max(e.Count, 1), 1000)
	}
	for i, s := range e.Size {
		if s < 0.001 || s > 10 || math.IsNaN(s) {
			e.doubt("A side of %s can't be right: it is set to %s.", p.side(s), p.side(fallback.Size[i]))
			e.Size[i] = fallback.Size[i]
		} else if s > longish {
			e.doubt("%s is long: right?", p.side(s))
		}
	}
	if e.Kg > 500 || math.IsNaN(e.Kg) {
		e.doubt("%s can't be carried: it is set to 1 kg.", p.mass(e.Kg))
		e.Kg, e.MassKnown = 1, "guess"
	}
	volume := e.Size[0] * e.Size[1] * e.Size[2]
	if p.massed && p.sides == 3 && (e.Kg > heaviest*volume || e.Kg < lightest*volume) {
		e.doubt("%s in %.3g litres: is a unit wrong?", p.mass(e.Kg), volume*1000)
	}
	for _, w := range strings.Fields(e.Name) {
		if n := number(strings.Trim(w, ",;")); !math.IsNaN(n) && p.length == 0 {
			e.doubt("%s was read as a part of the name.", w)
		}
	}
}

func (p *parser) side(m float64) string {
	if p.known.US {
		return fmt.Sprintf("%.3g in", m/0.0254)
	}
	return fmt.Sprintf("%.3g cm", m*100)
}

func (p *parser) mass(kg float64) string {
	if p.known.US {
		return fmt.Sprintf("%.3g lb", kg/0.45359237)
	}
	return fmt.Sprintf("%.3g kg", kg)
}
