// Package find compares what a person types with the words by which things are
// known: names, nicknames, tags. It knows no database; whoever keeps the words
// keeps them as Words gives them, so that both sides are folded alike.
//
// Folding: lower case, accents off (Unicode NFD without its marks), split at
// everything that is no letter or digit. Misspelling: the Damerau-Levenshtein
// distance with adjacent swaps (optimal string alignment; Damerau,
// Communications of the ACM 7, 1964; from memory).
package find

import (
	"cmp"
	"math"
	"slices"
	"strings"
	"unicode"

	"golang.org/x/text/unicode/norm"
)

// MaxWords bounds the words that are kept of one thing, and MaxTerms those that
// are looked for at once.
const (
	MaxWords = 40
	MaxTerms = 6
	maxWord  = 40 // letters; longer ones are cut
)

// Words are the folded words of some texts, each once, in the order met.
func Words(texts ...string) []string {
	var words []string
	for _, text := range texts {
		for _, w := range strings.FieldsFunc(fold(text), func(r rune) bool {
			return !unicode.IsLetter(r) &&
				!unicode.IsDigit(r)
		}) {
			if r := []rune(w); len(r) > maxWord {
				w = string(r[:maxWord])
			}
			if !slices.Contains(words, w) && len(words) < MaxWords {
				words = append(words, w)
			}
		}
	}
	return words
}

func fold(text string) string {
	return strings.Map(func(r rune) rune {
		if unicode.Is(unicode.Mn, r) {
			return -1
		}
		return unicode.ToLower(r)
	}, norm.NFD.String(text))
}

// Tag is how a tag is kept among the words: as one, so that it can be asked for
// exactly. It never equals a word, which has no such sign.
func Tag(tag string) string { return "#" + strings.Join(Words(tag), "-") }

// Distance is how many letters must be put in, taken out, changed or swapped
// with their neighbour to make b of a.
func Distance(a, b string) int { return distance([]rune(a), []rune(b)) }

func distance(s, t []rune) int {
	var room [3 * (maxWord + 2)]int // no memory of its own for words as they are kept
	rows := room[:]
	n := len(t) + 1
	if 3*n > len(rows) {
		rows = make([]int, 3*n)
	}
	before, last, now := rows[:n], rows[n:2*n], rows[2*n:3*n]
	for j := range last {
		last[j] = j
	}
	for i := 1; i <= len(s); i++ {
		now[0] = i
		for j := 1; j <= len(t); j++ {
			change := 1
			if s[i-1] == t[j-1] {
				change = 0
			}
			now[j] = min(last[j]+1, now[j-1]+1, last[j-1]+change)
			if i > 1 && j > 1 && s[i-1] == t[j-2] && s[i-2] == t[j-1] {
				now[j] = min(now[j], before[j-2]+1)
			}
		}
		before, last, now = last, now, before
	}
	return last[len(t)]
}

// slips is how many slips are forgiven in a word of that many letters.
// Practice: none in two letters, one in up to five, two in up to eight, then three.
func slips(letters int) int {
	switch {
	case letters <= 2:
		return 0
	case letters <= 5:
		return 1
	case letters <= 8:
		return 2
	}
	return 3
}

// How well a word answers a term, from not at all to exactly.
const (
	None   = 0.0
	Near   = 0.5 // one slip; less for more of them
	Starts = 0.8 // the word begins with the term
	Exact  = 1.0
)

// Match says how well a known word answers a term that was typed, both folded.
func Match(term, word string) float64 {
	if term == word {
		return Exact
	}
	if strings.HasPrefix(word, term) {
		return Starts
	}
	typed, letters := []rune(term), []rune(word)
	n := len(typed)
	allowed := slips(n)
	if allowed == 0 || len(letters) < n-allowed {
		return None
	}
	best := None
	if len(letters) <= n+allowed {
		if d := distance(typed, letters); d <= allowed {
			best = Near / float64(d)
		}
	}
	for k := n - 1; k <= n+1 && n >= 4; k++ { // slips in what was typed so far
		if k >= len(letters) {
			break
		}
		if d := distance(typed, letters[:k]); d <= allowed {
			best = max(best, Near/float64(d+1))
		}
	}
	return best
}

// Closest gives the known words that answer a term best, best first, at most n.
func Closest(term string, known []string, n int) []string {
	type scored struct {
		word  string
		score float64
	}
	var list []scored
	for _, w := range known {
		if m := Match(term, w); m > None {
			list = append(list, scored{w, m})
		}
	}
	slices.SortStableFunc(list, func(a, b scored) int { return cmp.Compare(b.score, a.score) })
	var words []string
	for _, s := range list[:min(n, len(list))] {
		words = append(words, s.word)
	}
	return words
}

// Candidate is a thing that may be meant.
type Candidate struct {
	Names   []string // by which it is called: name, nickname
	Others  []string // words of its place, owner, tags
	Days    float64  // since it was last moved or looked at
	Uses    int      // trips it was on
	Aboard  bool     // of any boat: likelier to be looked for than the shed
	Ordinal int      // set by Rank: where it stood before
}

// Score says how likely the candidate is what was meant: the terms in its names
// count most, then in its other words; then recent before old, usual before rare.
func Score(terms []string, c Candidate) float64 {
	names, others := Words(c.Names...), Words(c.Others...)
	total := 0.0
	for _, t := range terms {
		in, beside := None, None
		for _, w := range names {
			in = max(in, Match(t, w))
		}
		for _, w := range others {
			beside = max(beside, Match(t, w))
		}
		total += max(10*in, 6*beside)
	}
	if len(terms) > 0 {
		total /= float64(len(terms))
	}
	for _, n := range c.Names {
		if strings.Join(Words(n), " ") == strings.Join(terms, " ") {
			total += 3 // the whole name
			break
		}
	}
	total += 1.5 * math.Exp(-c.Days/14)        // a fortnight's memory; practice
	total += 0.4 * math.Log1p(float64(c.Uses)) // each doubling of use a little
	if c.Aboard {
		total += 0.3
	}
	return total
}

// Rank sorts candidates by score, best first; equal ones keep their order.
func Rank(terms []string, list []Candidate) []Candidate {
	scores := make(map[int]float64, len(list))
	for i := range list {
		list[i].Ordinal = i
		scores[i] = Score(terms, list[i])
	}
	slices.SortStableFunc(list, func(a, b Candidate) int { return cmp.Compare(scores[b.Ordinal], scores[a.Ordinal]) })
	return list
}
