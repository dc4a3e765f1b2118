package fitting

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"ergasia/core/entry"
)

// Said is a fitting as one line tells it; what the line leaves out is of the usual
// one, and said so in its doubts.
type Said struct {
	Usual    Usual
	Known    bool // there is a usual one of that name
	Name     string
	Count    int
	Size     [3]float64
	Kg       float64
	Weighed  bool
	Lean     float64
	Screw    string
	Length   float64 // mm, of the screws; nought where it was not said
	Cost     *float64
	At       *[3]float64 // m, where the line has coordinates
	Place    string      // a post or place that it names
	Side     string      // port, starboard, or empty
	Method   string
	Measured bool // its size was said
	Doubts   []string
}

var (
	angleText = regexp.MustCompile(`(?i)(?:^|\s)(-?\d+(?:[.,]\d+)?)\s*(?:°|deg(?:rees)?\b)`)
	costText  = regexp.MustCompile(`(?i)(?:^|\s)(?:price|cost|paid)\s*:?\s*(\d+(?:[.,]\d+)?)`)
	atText    = regexp.MustCompile(
		`(?i)(?:^|\s)at\s+(-?\d+(?:\.\d+)?)\s*[,;/ ]\s*(-?\d+(?:\.\d+)?)\s*[,;/ ]\s*(-?\d+(?:\.\d+)?)(?:\s*m\b)?`,
	)
	sideText = regexp.MustCompile(`(?i)\b(port|starboard)\b`)
)

// methodWords say how it is held.
var methodWords = []struct{ method, pattern string }{
	{
		"through-bolt",
		`(?i)\b(?:through[- ]?)?bolted\b`,
	}, {"plate", `(?i)\bbacking plate\b`}, {"rivet-nut", `(?i)\brivet[- ]?nuts?\b`},
	{
		"well-nut",
		`(?i)\bwell[- ]?nuts?\b`,
	}, {"tapped", `(?i)\btapped\b`}, {"self-tapper", `(?i)\bself[- ]?tappers?\b|\bscrewed\b`},
	{"clamp", `(?i)\bclamped\b`}, {"adhesive", `(?i)\bglued\b`}, {"suction", `(?i)\bsuction cup\b`},
}

// ReadLine reads a fitting from one line: how many, what, which side, where, how
// large, how heavy, at what angle, held how.
func ReadLine(line string, known entry.Known) Said {
	s := Said{Count: 1}
	rest := line
	s.Screw, s.Length, rest = ReadFastener(rest)
	rest, lean := s.number(angleText, rest)
	rest, s.Cost = s.number(costText, rest)
	rest = s.coordinates(rest)
	for _, m := range methodWords {
		if re := regexp.MustCompile(m.pattern); s.Method == "" && re.MatchString(rest) {
			s.Method, rest = m.method, re.ReplaceAllString(rest, " ")
		}
	}
	e := entry.Bare(rest, known)
	s.Doubts = append(s.Doubts, e.Doubts...)
	s.Name, s.Count, s.Place = strings.Trim(e.Name, " ,;"), e.Count, e.Place
	if m := sideText.FindString(line); m != "" {
		s.Side = strings.ToLower(m)
	}
	s.Usual, s.Known = UsualNamed(s.Name)
	s.fill(e, lean)
	return s
}

func (s *Said) number(re *regexp.Regexp, line string) (rest string, n *float64) {
	at := re.FindStringSubmatchIndex(line)
	if at == nil {
		return line, nil
	}
	v, err := strconv.ParseFloat(strings.Replace(line[at[2]:at[3]], ",", ".", 1), 64)
	if err != nil {
		return line, nil
	}
	return line[:at[0]] + " " + line[at[1]:], &v
}

func (s *Said) coordinates(line string) string {
	at := atText.FindStringSubmatchIndex(line)
	if at == nil {
		return line
	}
	var p [3]float64
	for i := range 3 {
		p[i], _ = strconv.ParseFloat(line[at[2+2*i]:at[3+2*i]], 64)
	}
	s.At = &p
	return line[:at[0]] + " " + line[at[1]:]
}

// fill takes what the line left out from the usual fitting.
func (s *Said) fill(e entry.Entry, lean *float64) {
	u := s.Usual
	s.Kg, s.Weighed, s.Lean = e.Kg, e.MassKnown == "weighed", u.Lean
	if lean != nil {
		s.Lean = *lean
	}
	if s.Name == "" && len(s.Doubts) == 0 {
		s.Doubts = append(s.Doubts, "There is no name in this line.")
	}
	if !s.Known && s.Name != "" {
		s.Doubts = append(s.Doubts, "Nothing usual has this name: it is taken for "+u.Name+".")
	}
	if e.Kg <= 0 {
		s.Kg = u.Kg
		s.Doubts = append(s.Doubts, fmt.Sprintf("No mass: %g kg is a guess.", u.Kg))
	}
	s.Size, s.Measured = e.Size, true
	for i := range 3 {
		if s.Size[i] <= 0 {
			s.Size[i], s.Measured = u.Size[i], false
		}
	}
	if s.Kind() == "rod-holder" || s.Kind() == "antenna" { // one length is how tall it is
		if e.Size[0] > 0 && e.Size[1] == 0 {
			s.Size = [3]float64{u.Size[0], u.Size[1], e.Size[0]}
		}
	}
	if !s.Measured {
		s.Doubts = append(s.Doubts, "Its size is a guess.")
	}
}

// Kind of fitting that it is.
func (s Said) Kind() string { return s.Usual.Kind }
