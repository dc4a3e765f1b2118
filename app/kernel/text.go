package kernel

import (
	"unicode"
	"unicode/utf8"
)

// Capital begins a sentence with a capital letter, where it begins with a letter.
func Capital(text string) string {
	first, n := utf8.DecodeRuneInString(text)
	if n == 0 || first == utf8.RuneError {
		return text
	}
	return string(unicode.ToUpper(first)) + text[n:]
}
