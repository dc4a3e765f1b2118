package entry

import (
	"math"
	"regexp"
	"strconv"
	"strings"

	"ergasia/core/units"
)

// How people write numbers: 12, 1.5, 1,5, .5, 1/2, 2 1/2. A line is made plain
// first, so that ½ and "two" are numbers too.
const (
	num    = `(?:[0-9]+[ -][0-9]+/[1-9][0-9]*|[0-9]+/[1-9][0-9]*|[0-9]*[.,]?[0-9]+)`
	opens  = `(?:^|[\s(,;:])`
	closes = `(?:[\s),;:]|\.(?:\s|$)|$)`
	about  = `(~|≈|ca\.?|circa|about|around|roughly|approx(?:\.|imately)?|some)?\s*`

	kilos  = `(?:kgs?|kilos?|kilogram(?:me)?s?)`
	grams  = `(?:g|gr|grams?|grammes?)`
	pounds = `(?:lbs?|pounds?)`
	ounces = `(?:oz|ounces?)`

	lengthUnits = `(?:mm|cm|m|inch(?:es)?|in|feet|foot|ft|"|')`
	feetText    = `[0-9]+\s*(?:'|ft\.?|feet|foot)\s*-?\s*` + num + `\s*(?:"|in(?:ch(?:es)?)?)?`
	times       = `\s*(?:[x×*]|by)\s*`
	oneSide     = `(?:` + feetText + `|` + num + `\s*` + lengthUnits + `?)`
)

var (
	sizeText = regexp.MustCompile(`(?i)` + opens + `((?:size|dim(?:ension)?s|measur(?:es|ing))?\s*[:=]?\s*(` +
		oneSide + `)[lwbhd]?` + times + `(` + oneSide + `)[lwbhd]?(?:` + times + `(` + oneSide + `)[lwbhd]?)?)` + closes)
	slashed  = regexp.MustCompile(`(?i)` + opens + `(([0-9]+)/([0-9]+)/([0-9]+)\s*(mm|cm|in)?)` + closes)
	sideSign = regexp.MustCompile(`(?i)` + opens + `((length|breadth|width|height|depth|diameter|dia\.?|ø|[lwbhd])\s*[:=]?\s*(` +
		num + `\s*` + lengthUnits + `?))` + closes)
	sideWord = regexp.MustCompile(`(?i)` + opens + `((?:and\s+)?(` + oneSide +
		`)\s*(long|wide|broad|high|tall|deep|thick|across|diameter|in diameter|dia\.?)(?:\s[x×])?)` + closes)
	sidesMeant = regexp.MustCompile(`(?i)\(\s*[lwbhd]\s*[x×*]\s*[lwbhd]\s*(?:[x×*]\s*[lwbhd]\s*)?\)`)

	massText = regexp.MustCompile(`(?i)` + opens + `((?:weigh(?:s|ing)|weight|wt\.?|mass)?\s*[:=]?\s*` + about +
		`(` + num + `)\s*(?:(` + kilos + `)\.?(?:\s*(?:and\s+)?(` + num + `)\s*` + grams + `\b)?|(` + pounds +
		`)\.?(?:\s*(?:and\s+)?(` + num + `)\s*` + ounces + `\b\.?)?|(` + grams + `)|(` + ounces + `)\.?))` + closes)
	massOf = regexp.MustCompile(`(?i)^\s*(?:(each|ea\.?|apiece|a piece|per piece)|` +
		`((?:in )?total|in all|all together|altogether|together))` + closes)
	strain = regexp.MustCompile(`(?i)^\s*(?:test|class|breaking|line|braid|mono|fluoro\w*|leader|bs)\b`)

	longText = regexp.MustCompile(`(?i)` + opens + `(` + feetText + `|` + num + `\s?` + lengthUnits + `)` + closes)

	countBefore = regexp.MustCompile(`(?i)^([0-9]{1,4})\s*(?:(?:x|×|pcs?\.?|pieces|off|of)\s+|\sst\.?\s+|[x×]\s*|\s)\s*(.+)$`)
	countSign   = regexp.MustCompile(`(?i)(?:^|[\s,;])(?:\(\s*[x×]?\s*([0-9]{1,4})\s*[x×]?\s*(?:pcs?\.?|of them)?\s*\)|` +
		`[x×]\s*([0-9]{1,4})|(?:qty|quantity)\.?\s*[:=]?\s*([0-9]{1,4})|([0-9]{1,4})\s*(?:pcs?\.?|of them)|` +
		`([0-9]{1,4})[x×])(?:[\s,;]|$)`)
	noCount = regexp.MustCompile(`(?i)^(?:l|litres?|liters?|m|cm|mm|kg|g|v|ah|hp|lbs?|oz|ft|in|w|gal|gallons?|pc|piece|man|person|` +
		`way|part|stroke|hour|day|handed|season)\b`)
)

var fractions = strings.NewReplacer("½", " 1/2", "¼", " 1/4", "¾", " 3/4", "⅓", " 1/3", "⅔", " 2/3", "⅛", " 1/8", "⅜", " 3/8",
	"⅝", " 5/8", "⅞", " 7/8", "“", `"`, "”", `"`, "″", `"`, "''", `"`, "‘", "'", "’", "'", "′", "'", "–", "-", "\u00a0", " ")

var (
	thousands = regexp.MustCompile(`(?i)\b([0-9]{1,3})([.,])([0-9]{3})(\s*(?:` + grams + `|mm)\b)`)
	dozens    = regexp.MustCompile(`(?i)\b(half a |a half |an? |one |two |three |four )?dozen\b(?: of\b)?`)
	pairs     = regexp.MustCompile(`(?i)^(?:an? |one )?(pair|couple) (?:of )?(.+)$`)
	onePair   = regexp.MustCompile(`(?i)\b(?:pliers|scissors|binoculars|glasses|sunglasses|goggles|tweezers|tongs|shears|` +
		`trousers|pants|shorts|waders|bibs|gloves|mitts|boots|shoes|socks)\b`)
	spoken = regexp.MustCompile(`(?i)\b(one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|twenty)(?: and a half)?\b`)
	halfOf = regexp.MustCompile(`(?i)\b(?:half an? |an? half )(` + kilos + `|` + pounds + `)\b`)
	oneOf  = regexp.MustCompile(`(?i)\ban? (` + kilos + `|` + pounds + `|` + grams + `)\b`)
	first  = regexp.MustCompile(`(?i)^(?:an?|the)\s+`)
)

var numerals = map[string]string{"one": "1", "two": "2", "three": "3", "four": "4", "five": "5", "six": "6", "seven": "7",
	"eight": "8", "nine": "9", "ten": "10", "eleven": "11", "twelve": "12", "twenty": "20"}

// plainly writes quotes, fractions and numbers in words the one way that the
// patterns read.
func (p *parser) plainly(text string) string {
	text = strings.Join(strings.Fields(fractions.Replace(text)), " ")
	text = thousands.ReplaceAllStringFunc(text, func(s string) string {
		m := thousands.FindStringSubmatch(s)
		if m[2] == "." {
			p.entry.doubt("%s was read as %s%s%s.", s, m[1], m[3], m[4])
		}
		return m[1] + m[3] + m[4]
	})
	text = dozens.ReplaceAllStringFunc(text, func(s string) string {
		m := strings.ToLower(strings.TrimSpace(dozens.FindStringSubmatch(s)[1]))
		return map[string]string{"half a": "6", "a half": "6", "two": "24", "three": "36", "four": "48"}[m] +
			map[bool]string{true: "12"}[m == "" || m == "a" || m == "an" || m == "one"]
	})
	if m := pairs.FindStringSubmatch(text); m != nil {
		text = "2 " + m[2]
		if strings.EqualFold(m[1], "pair") && onePair.MatchString(m[2]) {
			text = m[2]
		}
	}
	text = halfOf.ReplaceAllString(text, "0.5 $1")
	text = oneOf.ReplaceAllString(text, "1 $1")
	return first.ReplaceAllString(p.numerals(text), "")
}

// numerals writes a number in words as digits where it is a count or stands
// before a unit; "two-tone" and "the three sisters" stay as they are.
func (p *parser) numerals(text string) string {
	for from := 0; ; {
		at := spoken.FindStringSubmatchIndex(text[from:])
		if at == nil {
			return text
		}
		start, end := from+at[0], from+at[1]
		digits := numerals[strings.ToLower(text[from+at[2]:from+at[3]])]
		if strings.HasSuffix(strings.ToLower(text[start:end]), "half") {
			digits += " 1/2"
		}
		after := text[end:]
		counts := start == 0 && strings.HasPrefix(after, " ") && !noCount.MatchString(strings.TrimSpace(after))
		if measured.MatchString(after) || counts || strings.TrimSpace(after) == "" && start > 0 {
			text, from = text[:start]+digits+after, start+len(digits)
		} else {
			from = end
		}
	}
}

var measured = regexp.MustCompile(`(?i)^\s*(?:` + kilos + `|` + grams + `|` + pounds + `|` + ounces + `|` + lengthUnits + `|by\s|x\s)` +
	closes)

// quantities takes the size, the mass and the count out of a line.
func (p *parser) quantities(text string) string {
	text = sidesMeant.ReplaceAllString(text, " ")
	text = p.countFirst(text)
	text = p.masses(p.sizes(text))
	if m := longText.FindStringSubmatch(" " + text); m != nil && p.sides == 0 {
		p.length, p.lengthText = p.metres(m[1], ""), m[1] // it stays in the name: a 2.1 m rod
	}
	return p.counts(tidy(text))
}

// take finds a pattern whose first group is the quantity, and takes that out.
func take(pattern *regexp.Regexp, text string) (groups []string, rest string) {
	at := pattern.FindStringSubmatchIndex(text)
	if at == nil {
		return nil, text
	}
	groups = pattern.FindStringSubmatch(text)
	return groups, text[:at[2]] + " " + text[at[3]:]
}

func (p *parser) sizes(text string) string {
	if m, rest := take(slashed, text); m != nil {
		for i := range 3 {
			p.setSide(i, m[2+i], m[5])
		}
		return rest
	}
	if m, rest := take(sizeText, text); m != nil {
		if p.timesBehind(m) {
			p.length, p.lengthText = p.metres(m[2], ""), strings.TrimSpace(m[2])
			return strings.Replace(text, m[1], m[2], 1)
		}
		unit := ""
		for _, side := range m[2:5] { // 36 x 23 x 5 cm: the last unit is for those without one
			if u := unitOf(side); u != "" {
				unit = u
			}
		}
		for i, side := range m[2:5] {
			if side != "" {
				p.setSide(i, side, unit)
			}
		}
		return rest
	}
	for range 3 {
		m, rest := take(sideSign, text)
		if m == nil {
			break
		}
		text = rest
		p.nameSide(m[2], m[3])
	}
	for range 3 {
		m, rest := take(sideWord, text)
		if m == nil {
			break
		}
		text = rest
		p.nameSide(m[3], m[2])
	}
	if p.sidesNamed > 0 {
		p.fromNamed()
	}
	return text
}

// timesBehind says whether 7'6" x 4 is a length and a count, and notes the count:
// the first is in feet or metres, the second a small whole number without a unit.
func (p *parser) timesBehind(m []string) bool {
	n, err := strconv.Atoi(strings.TrimSpace(m[3]))
	unit := unitOf(m[2])
	long := unit == "m" || unit == "ft" || strings.ContainsAny(m[2], "'")
	if m[4] != "" || err != nil || n > 60 || !long || p.counted {
		return false
	}
	p.entry.Count, p.counted = n, true
	return true
}

var unitAtEnd = regexp.MustCompile(`(?i)` + lengthUnits + `$`)

func unitOf(side string) string {
	return strings.ToLower(unitAtEnd.FindString(strings.TrimSpace(side)))
}

// setSide sets one of the three sides.
func (p *parser) setSide(i int, text, unit string) {
	p.entry.Size[i] = p.metres(text, unit)
	p.sides++
}

// The sides by the name that people give them; across is a diameter.
var sideNames = map[string]int{"l": 0, "length": 0, "long": 0, "w": 1, "b": 1, "width": 1, "breadth": 1, "wide": 1, "broad": 1,
	"h": 2, "height": 2, "high": 2, "tall": 2, "thick": 2, "d": 2, "depth": 2, "deep": 2}

// nameSide notes a side that was named. Depth is the height, or the breadth where
// a height is given too.
func (p *parser) nameSide(name, text string) {
	i, known := sideNames[strings.ToLower(name)]
	if !known {
		i = 3
	}
	m := p.metres(text, "")
	if i == 2 && p.byName[2] != 0 {
		i = 1
	}
	if p.byName[i] == 0 {
		p.sidesNamed++
	}
	p.byName[i] = m
}

// fromNamed makes a size of the sides that were named.
func (p *parser) fromNamed() {
	e := p.entry
	s := p.byName
	if d := s[3]; d != 0 {
		s[1] = d
		if s[0] != 0 {
			s[2] = d
		} else {
			s[0] = d
		}
	}
	var given []float64
	for _, side := range s[:3] {
		if side != 0 {
			given = append(given, side)
		}
	}
	if len(given) == 1 && s[0] != 0 {
		p.length = s[0]
		return
	}
	p.sides = len(given)
	if len(given) == 3 {
		e.Size = [3]float64(s[:3])
	} else {
		copy(e.Size[:], given)
	}
}

// metres reads a length; unit is for one that has none, and where that is empty
// too, centimetres or inches.
func (p *parser) metres(text, unit string) float64 {
	text = strings.TrimSpace(text)
	if unit == "" {
		unit = "cm"
		if p.known.US {
			unit = "in"
		}
	}
	m, err := units.ParseLength(text, strings.NewReplacer(`"`, "in", "'", "ft", "feet", "ft", "foot", "ft").Replace(unit))
	if err != nil {
		return math.NaN() // suspect says so
	}
	return m
}

// masses takes the mass out; of several the last counts, and the others stay in
// the name, with a doubt.
func (p *parser) masses(text string) string {
	e := p.entry
	found, from := [][]int{}, 0
	for from <= len(text) {
		at := massText.FindStringSubmatchIndex(text[from:])
		if at == nil {
			break
		}
		for i := range at {
			if at[i] >= 0 {
				at[i] += from
			}
		}
		from = at[3]
		if !strain.MatchString(text[at[3]:]) { // 20 lb braid says what it bears
			found = append(found, at)
		}
	}
	if len(found) == 0 {
		return text
	}
	at := found[len(found)-1]
	group := func(i int) string {
		if at[2*i] < 0 {
			return ""
		}
		return text[at[2*i]:at[2*i+1]]
	}
	n := number(group(3))
	switch {
	case group(4) != "":
		e.Kg = n + extra(group(5))*0.001
	case group(6) != "":
		e.Kg = n*units.PoundKg + extra(group(7))*units.OunceKg
	case group(8) != "":
		e.Kg = n * 0.001
	default:
		e.Kg = n * units.OunceKg
	}
	p.massed, p.about = true, group(2) != ""
	if len(found) > 1 {
		e.doubt("There are several masses: %s was read as the mass.", strings.TrimSpace(text[at[2]:at[3]]))
	}
	before, after := text[:at[2]], text[at[3]:]
	if m := massOf.FindStringSubmatchIndex(after); m != nil {
		p.inAll = m[4] >= 0
		end := max(m[3], m[5])
		after = after[end:]
	}
	return before + " " + after
}

func extra(text string) float64 {
	if text == "" {
		return 0
	}
	return number(text)
}

// number reads a number of the pattern num.
func number(text string) float64 {
	text = strings.TrimSpace(text)
	if whole, part, mixed := strings.Cut(strings.ReplaceAll(text, "-", " "), " "); mixed && strings.Contains(part, "/") {
		return number(whole) + number(part)
	}
	if over, under, is := strings.Cut(text, "/"); is {
		return number(over) / number(under)
	}
	n, err := strconv.ParseFloat(strings.Replace(text, ",", ".", 1), 64)
	if err != nil {
		return math.NaN()
	}
	return n
}

// counts takes the count out: before the name (4, 4x, 4 pcs of), or behind it
// (x4, (4), 4 pcs).
func (p *parser) counts(text string) string {
	e := p.entry
	counted := p.counted
	if m := countBefore.FindStringSubmatch(text); m != nil && !counted && !noCount.MatchString(m[2]) {
		e.Count, _ = strconv.Atoi(m[1]) // four digits: it can't fail
		text, counted = m[2], true
		text = strings.TrimPrefix(text, "of ")
	}
	if at := countSign.FindStringSubmatchIndex(text); at != nil {
		for i := 2; i < len(at); i += 2 {
			if at[i] < 0 {
				continue
			}
			n, _ := strconv.Atoi(text[at[i]:at[i+1]]) // four digits: it can't fail
			if counted && n != e.Count {
				e.doubt("There are two counts, %d and %d: %d was read.", e.Count, n, e.Count)
			} else {
				e.Count = n
			}
			counted = true
		}
		text = text[:at[0]] + " " + text[at[1]:]
	}
	if m := countAtEnd.FindStringSubmatch(tidy(text)); m != nil && !counted {
		e.Count, _ = strconv.Atoi(m[2])
		e.doubt("%s at the end was read as the count.", m[2])
		text = m[1]
	}
	if p.inAll && e.Count > 1 {
		e.Kg /= float64(e.Count)
	}
	return tidy(text)
}

var (
	timesSize = regexp.MustCompile(`(?i)^([0-9]{1,4})\s*(?:[x×]\s*|\s)(` +
		oneSide + times + oneSide + times + oneSide + `.*)$`)
	timesUnit = regexp.MustCompile(`(?i)^([0-9]{1,4})\s*[x×]\s*(` + num + `\s?(?:m|ft|feet|foot|'|l|litres?|liters?|v|ah|hp|w|gal|gallons?|` +
		kilos + `|` + grams + `|` + pounds + `|` + ounces + `)(?:[\s,.].*|$))$`)
)

// countFirst takes a count that would else be read as a side: 2 x 36x23x5 cm,
// 2 x 20 L can, 3 x 2.1 m rod.
func (p *parser) countFirst(text string) string {
	for _, pattern := range []*regexp.Regexp{timesSize, timesUnit} {
		if m := pattern.FindStringSubmatch(text); m != nil {
			p.entry.Count, _ = strconv.Atoi(m[1]) // four digits: it can't fail
			p.counted = true
			return m[2]
		}
	}
	return text
}

var countAtEnd = regexp.MustCompile(`^(.*[\pL"')])\s*[-:,]\s*([0-9]{1,3})$`)

var (
	emptied = regexp.MustCompile(`\(\s*[,;:.]*\s*\)`)
	strayed = regexp.MustCompile(`\s+([,;:.)])`)
	doubled = regexp.MustCompile(`[,;:](?:\s*[,;:])+`)
)

// tidy takes away what the quantities leave behind: empty brackets, stray commas.
func tidy(text string) string {
	text = emptied.ReplaceAllString(text, " ")
	text = strings.Join(strings.Fields(text), " ")
	text = strayed.ReplaceAllString(text, "$1")
	text = doubled.ReplaceAllString(text, ",")
	return strings.Trim(text, " ,;:-")
}

// Size reads three sides that are written together, in metres, as a line's are.
func Size(text string, us bool) ([3]float64, bool) {
	p := parser{known: Known{US: us}, entry: &Entry{}}
	if len(text) > maxLine {
		return [3]float64{}, false
	}
	rest := p.sizes(sidesMeant.ReplaceAllString(p.plainly(text), " "))
	for _, side := range p.entry.Size {
		if math.IsNaN(side) {
			return [3]float64{}, false
		}
	}
	return p.entry.Size, p.sides == 3 && tidy(rest) == ""
}

// Mass reads a mass, in kilograms, as a line's is; a number alone is in units of so
// many kilograms.
func Mass(text string, unitKg float64) (float64, bool) {
	if len(text) > maxLine {
		return 0, false
	}
	p := parser{entry: &Entry{}}
	plain := p.plainly(text)
	if n := number(plain); !math.IsNaN(n) && !math.IsInf(n, 0) && !strings.ContainsAny(plain, "eEpPxX_") {
		return n * unitKg, true
	}
	rest := p.masses(plain)
	return p.entry.Kg, p.massed && tidy(rest) == "" && !math.IsNaN(p.entry.Kg)
}
