package entry

import (
	"fmt"
	"regexp"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

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
	rest := p.plainly(p.spoken(p.signs(text)))
	p.words(strings.Fields(p.quantities(rest)))
	if e.Name == "" {
		e.doubt("There is no name in this line.")
		return e
	}
	p.fill()
	p.suspect()
	return e
}

// Bare reads one line and leaves empty what it does not say: for things of which
// another list says what is usual. One length alone is the first side.
func Bare(text string, known Known) Entry {
	e := Entry{Line: text, Count: 1, MassKnown: "guess"}
	if len([]rune(text)) > maxLine {
		e.doubt("This line is longer than %d letters: split it.", maxLine)
		return e
	}
	p := parser{known: known, entry: &e}
	rest := p.plainly(p.spoken(p.signs(text)))
	p.words(strings.Fields(p.quantities(rest)))
	if p.massed && p.weighed && !p.about {
		e.MassKnown = "weighed"
	}
	if p.sides == 0 && p.length > 0 {
		e.Size[0] = p.length
	}
	return e
}

func (e *Entry) doubt(format string, values ...any) {
	e.Doubts = append(e.Doubts, fmt.Sprintf(format, values...))
}

type parser struct {
	sides  int     // how many sides were given
	length float64 // m, where one length was given alone
	massed bool
	about  bool // the mass is with a ~
	inAll  bool // the mass is that of all of them
	dry    bool // said to stay dry, or not to mind

	lengthText string     // as written
	byName     [4]float64 // m: length, breadth, height, diameter, where a side is named
	sidesNamed int
	counted    bool
	weighed    bool // a person's word for it
	known      Known
	entry      *Entry
}

// signs takes @place, +owner and #tag out of a line. A place or owner may have
// several words: the longest that is known counts.
func (p *parser) signs(text string) string {
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
			if strings.Trim(tag, "0123456789") == "" {
				e.doubt("%s was read as a tag.", w)
			}
		} else {
			kept = append(kept, w)
		}
	}
	return strings.Join(kept, " ")
}

var (
	spokenPlace = regexp.MustCompile(`(?i)(?:^|[\s,;(])(?:(?:kept|is|are|goes|stowed|lies)\s+)?` +
		`((in|into|inside|on|at)\s+(?:the\s+|my\s+)?)`)
	spokenOwner = regexp.MustCompile(`(?i)(?:^|[\s,;(])(?:(\pL+)['’]s|(?:owner|belongs to|owned by)\s+(\pL+))` +
		`(?:[\s,;)]|$)`)
	segmentEnd = regexp.MustCompile(`^(.*?)\s*(?:[,;(:]|\s[-–])\s*([^,;(:]+?)\)?$`)
)

// spoken takes a place and an owner out that are said without their signs: "in
// port bench", "Oskar's tray", or a place's whole name behind the last comma.
func (p *parser) spoken(text string) string {
	e := p.entry
	if e.Owner == "" {
		if at := spokenOwner.FindStringSubmatchIndex(text); at != nil {
			i := 2
			if at[i] < 0 {
				i = 4
			}
			if name := same(text[at[i]:at[i+1]], p.known.Owners); name != "" {
				e.Owner, text = name, text[:at[0]]+" "+text[at[1]:]
			}
		} else if words := strings.Fields(text); len(words) > 1 {
			last := words[len(words)-1]
			if name := same(last, p.known.Owners); name != "" {
				e.Owner, text = name, strings.Join(words[:len(words)-1], " ")
				e.doubt("%s was read as the owner.", last)
			}
		}
	}
	if e.Place != "" {
		return text
	}
	for _, at := range spokenPlace.FindAllStringSubmatchIndex(text, 8) {
		after := text[at[3]:]
		if name, used := longest(after, p.known.Places); name != "" && p.ends(after[:used], after[used:]) {
			if !slices.Equal(find.Words(after[:used]), find.Words(name)) {
				e.doubt("%q was read as %s.", strings.TrimSpace(after[:used]), name)
			}
			e.Place = name
			return text[:at[0]] + " " + strings.TrimLeft(after[used:], ")")
		}
		if !spokenUnit(text, at) && strings.TrimSpace(after) != "" {
			e.doubt("%q was read as a part of the name: write @ before a place.", strings.TrimSpace(text[at[2]:]))
		}
	}
	if m := segmentEnd.FindStringSubmatch(text); m != nil {
		if name := same(m[2], p.known.Places); name != "" {
			e.Place, text = name, m[1]
		}
	}
	return text
}

// ends says whether no further word of a name stands right behind a place: "in
// port locker" is not in the place called port.
func (p *parser) ends(place, after string) bool {
	if strings.ContainsAny(place[len(place)-1:], ",;)") {
		return true
	}
	word, _, _ := strings.Cut(strings.TrimSpace(after), " ")
	begins, _ := utf8.DecodeRuneInString(word)
	return !unicode.IsLetter(begins) || p.flag(strings.ToLower(strings.Trim(word, ",;.!()")), false)
}

// spokenUnit says whether an "in" is inches: 12 in long.
func spokenUnit(text string, at []int) bool {
	before := strings.TrimSpace(text[:at[2]])
	return strings.EqualFold(text[at[4]:at[5]], "in") && before != "" &&
		strings.ContainsAny(before[len(before)-1:], "0123456789½¼¾")
}

// same is the known name that has just these words; none where nothing has.
func same(said string, names []string) string {
	for _, n := range names {
		if slices.Equal(find.Words(said), find.Words(n)) && len(find.Words(said)) > 0 {
			return n
		}
	}
	return ""
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

// How a flag may be led in: must stay dry, keep dry, needs to be dry.
var ledIn = []string{"must", "keep", "kept", "stay", "stays", "needs", "need", "be", "to", "has", "is", "it"}

// words reads the flags, and makes the name of what is left. "dry bag" and "wet
// weather jacket" are names: a flag that another word follows speaks of that word.
func (p *parser) words(list []string) {
	e := p.entry
	var name []string
	for i, w := range list {
		plain := strings.ToLower(strings.Trim(w, ",;.!()"))
		if !p.flag(plain, false) {
			name = append(name, w)
			continue
		}
		if followed := p.followed(list[i:]); followed {
			name = append(name, w)
			if plain == "metal" || plain == "fragile" {
				p.flag(plain, true)
			} else if i > 0 {
				e.doubt("%q was read as a part of the name: write it last to say how the piece is.", w)
			}
			continue
		}
		p.flag(plain, true)
		for len(name) > 0 && slices.Contains(ledIn, strings.ToLower(name[len(name)-1])) {
			name = name[:len(name)-1]
		}
	}
	if slices.ContainsFunc(name, func(w string) bool { return strings.EqualFold(strings.Trim(w, ",;()"), "soft") }) {
		e.Shape = "soft"
	}
	text := strings.TrimPrefix(tidy(strings.Join(name, " ")), "of ")
	if r := []rune(text); len(r) > 80 {
		e.doubt("The name was cut to 80 letters.")
		text = string(r[:80])
	}
	e.Name = text
}

// followed says whether a word of the name comes right behind a flag, with no
// comma between them.
func (p *parser) followed(list []string) bool {
	if len(list) < 2 || strings.ContainsAny(list[0][len(list[0])-1:], ",;.!)") || strings.HasPrefix(list[1], "(") {
		return false
	}
	next := strings.ToLower(strings.Trim(list[1], ",;.!()"))
	return next != "" && next != "and" && !p.flag(next, false)
}

// flag says whether a word is a flag, and where set is given, notes it.
func (p *parser) flag(word string, set bool) bool {
	e := p.entry
	do := map[string]func(){
		"dry":     func() { e.NeedsDry, p.dry = true, true },
		"wet":     func() { e.NeedsDry, p.dry = false, true },
		"fragile": func() { e.Fragile = true },
		"metal":   func() { e.Metal = true },
		"floats":  func() { e.Buoyant = true },
		"buoyant": func() { e.Buoyant = true },
		"loose":   func() { e.Shape = "loose" },
		"weighed": func() { p.weighed = true },
	}[word]
	if do != nil && set {
		do()
	}
	return do != nil
}
