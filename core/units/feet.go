package units

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
)

// Numbers as people write them off a tape: 12, 1.5, 1,5, .5, 3/4, 3 1/2, 3-1/2.
const tapeNumber = `(\d+[\s-]+\d+/\d+|\d+/\d+|\d*[.,]?\d+)`

var (
	feetPattern   = regexp.MustCompile(`^` + tapeNumber + `\s*(?:'|ft\.?|feet|foot)\s*(?:-?\s*` + tapeNumber + `\s*(?:"|in\.?|inch(?:es)?)?)?$`)
	lengthPattern = regexp.MustCompile(`^` + tapeNumber + `\s*(mm|cm|m|"|in\.?|inch(?:es)?)?$`)
)

// tapeMarks writes quotes, minus signs and printed fractions the one way that the patterns read.
var tapeMarks = strings.NewReplacer("’", "'", "‘", "'", "′", "'", "”", `"`, "“", `"`, "″", `"`, "''", `"`, "−", "-",
	"¼", " 1/4", "½", " 1/2", "¾", " 3/4", "⅓", " 1/3", "⅔", " 2/3", "⅛", " 1/8", "⅜", " 3/8", "⅝", " 5/8", "⅞", " 7/8")

// lengthUnits are what one of each unit is in metres, by how it is written.
var lengthUnits = map[string]float64{"mm": 0.001, "cm": 0.01, "m": 1, "in": InchM, "inch": InchM, "inches": InchM, `"`: InchM,
	"ft": FootM}

const longestLength = 40 // letters

// ParseLength reads a length as people write it off a tape, in metres: 5' 3 1/2",
// -2' 6", 17 ft 8 in, 63.5", ¾ in, 7½ ft, 2.12 m, 212 cm, or a number alone, which
// is in the given unit (m, cm, mm, ft or in). It refuses anything else, a fraction
// over nothing, and inches of twelve or more behind feet. The page reads by the
// same rules (web/src/ui/lengths.ts), and a test holds the two together.
func ParseLength(text, unit string) (float64, error) {
	wrong := fmt.Errorf("%q is not a length: write it like 212 cm, 2.12 m or 5' 3 1/2\"", text)
	if len(text) > longestLength {
		return 0, wrong
	}
	plain := strings.TrimSpace(tapeMarks.Replace(strings.ToLower(text)))
	sign := 1.0
	if rest, minus := strings.CutPrefix(plain, "-"); minus {
		plain, sign = strings.TrimSpace(rest), -1
	} else {
		plain = strings.TrimSpace(strings.TrimPrefix(plain, "+"))
	}
	if m := feetPattern.FindStringSubmatch(plain); m != nil {
		feet, ok := fromTape(m[1])
		inches, too := fromTape(m[2])
		switch {
		case !ok || !too:
			return 0, wrong
		case m[2] != "" && inches >= 12:
			return 0, fmt.Errorf("%q has %g inches behind the feet: write fewer than 12", text, inches)
		}
		return sign * (feet*FootM + inches*InchM), nil
	}
	m := lengthPattern.FindStringSubmatch(plain)
	if m == nil {
		return 0, wrong
	}
	own := strings.TrimSuffix(m[2], ".")
	if own == "" {
		own = unit
	}
	n, ok := fromTape(m[1])
	si, known := lengthUnits[own]
	if !ok || !known {
		return 0, wrong
	}
	return sign * n * si, nil
}

// fromTape reads a tapeNumber; nothing is nought.
func fromTape(text string) (float64, bool) {
	if text == "" {
		return 0, true
	}
	whole := 0.0
	if i := strings.IndexAny(text, " -\t"); i >= 0 {
		whole, text = number(text[:i]), strings.TrimLeft(text[i:], " -\t")
	}
	over, under, is := strings.Cut(text, "/")
	if !is {
		return number(text), true
	}
	if number(under) == 0 {
		return 0, false
	}
	return whole + number(over)/number(under), true
}

func number(digits string) float64 {
	n, _ := strconv.ParseFloat(strings.Replace(digits, ",", ".", 1), 64) // the pattern lets digits through only
	return n
}

// FormatFeet writes a length in metres as feet and inches, to the nearest
// 1/denominator of an inch (a power of two, such as 16), with the fraction in
// lowest terms: 1.613 m at 16 is 5' 3 1/2". It panics for a denominator below 1.
func FormatFeet(metres float64, denominator int) string {
	if denominator < 1 {
		panic("units: a fraction needs a denominator of at least 1")
	}
	parts := int64(math.Round(math.Abs(metres) / InchM * float64(denominator)))
	sign := ""
	if metres < 0 && parts > 0 {
		sign = "-"
	}
	perFoot := int64(12 * denominator)
	feet, rest := parts/perFoot, parts%perFoot
	inches, numerator := rest/int64(denominator), rest%int64(denominator)
	text := strconv.FormatInt(inches, 10)
	if numerator > 0 {
		g := gcd(numerator, int64(denominator))
		text = fmt.Sprintf("%d/%d", numerator/g, int64(denominator)/g)
		if inches > 0 {
			text = fmt.Sprintf("%d %s", inches, text)
		}
	}
	if feet == 0 {
		return sign + text + `"`
	}
	return fmt.Sprintf(`%s%d' %s"`, sign, feet, text)
}

func gcd(a, b int64) int64 {
	for b != 0 {
		a, b = b, a%b
	}
	return a
}
