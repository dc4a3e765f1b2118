package words

import "fmt"

// HowMany says how many there are of a thing: no lines, 1 line, 3 lines. With two nouns the
// second is the plural that no s makes: HowMany(n, "battery", "batteries").
func HowMany(n int, noun string, plural ...string) string {
	switch {
	case n == 1:
		return "1 " + noun
	case len(plural) > 0:
		noun = plural[0]
	default:
		noun += "s"
	}
	if n == 0 {
		return "no " + noun
	}
	return fmt.Sprintf("%d %s", n, noun)
}
