package units

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
)

// A length in feet and inches: an optional sign, then feet, then inches that
// may be whole, decimal, a fraction, or whole and a fraction.
var feetPattern = regexp.MustCompile(`^([-+]?)\s*` +
	`(?:(\d+(?:\.\d+)?)\s*(?:'|′|ft\.?|feet|foot)\s*-?\s*)?` +
	`(?:(?:(\d+(?:\.\d+)?)(?:[\s-]+(\d+)/(\d+))?|(\d+)/(\d+))\s*(?:"|″|''|in\.?|inches|inch)\s*)?$`)

// ParseFeet reads a length such as 5' 3 1/2", 17 ft 8 in, 63.5", 3/4 in or 5'
// and gives it in metres. It refuses anything else, a fraction with no
// denominator, and inches of twelve or more behind feet.
func ParseFeet(text string) (float64, error) {
	m := feetPattern.FindStringSubmatch(strings.TrimSpace(text))
	if m == nil || m[2] == "" && m[3] == "" && m[6] == "" {
		return 0, fmt.Errorf("%q is not a length in feet and inches: write it like 5' 3 1/2\"", text)
	}
	feet := number(m[2])
	inches := number(m[3])
	for _, f := range [][2]string{{m[4], m[5]}, {m[6], m[7]}} {
		if f[0] == "" {
			continue
		}
		if number(f[1]) == 0 {
			return 0, fmt.Errorf("%q has a fraction over nothing: write it like 5' 3 1/2\"", text)
		}
		inches += number(f[0]) / number(f[1])
	}
	if m[2] != "" && inches >= 12 {
		return 0, fmt.Errorf("%q has %g inches behind the feet: write fewer than 12", text, inches)
	}
	metres := feet*FootM + inches*InchM
	if m[1] == "-" {
		metres = -metres
	}
	return metres, nil
}

func number(digits string) float64 {
	n, _ := strconv.ParseFloat(digits, 64) // the pattern lets digits through only
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
