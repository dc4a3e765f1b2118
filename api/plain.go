package api

import (
	"strings"

	"ergasia/app/kernel"
	"ergasia/core/words"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/validation"
)

// What huma says of an input is said in words that a person reads: the name of
// the field, what was given, and what would be right.
func init() {
	validation.MsgUnexpectedProperty = "is nothing that this takes"
	validation.MsgExpectedRFC4122UUID = "must be an id%.0s" // huma gives the reason as a value
	validation.MsgExpectedBoolean = "must be yes or no"
	validation.MsgExpectedNumber = "must be a number"
	validation.MsgExpectedInteger = "must be a whole number"
	validation.MsgExpectedString = "must be a text"
	validation.MsgExpectedArray = "must be a list"
	validation.MsgExpectedObject = "must have fields of its own"
	validation.MsgExpectedOneOf = "must be one of %s"
	validation.MsgExpectedMinimumNumber = "must be at least %v"
	validation.MsgExpectedMaximumNumber = "must be at most %v"
	validation.MsgExpectedMinLength = "must have at least %d characters"
	validation.MsgExpectedMaxLength = "must have at most %d characters"
	validation.MsgExpectedMatchPattern = "is not written as it should be"
	validation.MsgExpectedBePattern = "is not written as it should be"
	validation.MsgExpectedMinItems = "give at least %d"
	validation.MsgExpectedMaxItems = "give at most %d"
	validation.MsgExpectedRequiredProperty = "%s is missing"
}

// detailOf is one thing wrong with an input. Location and value are for programs;
// the message is the whole sentence.
func detailOf(location string, value any, want string) *huma.ErrorDetail {
	d := &huma.ErrorDetail{Location: location}
	name := words.FieldName(location)
	if strings.HasPrefix(want, "invalid value:") { // huma's words for a path that can't be read
		want = "is not written as it should be"
	}
	if key, is := strings.CutSuffix(want, " is missing"); is { // the location is what it is missing from
		d.Message = sentence(words.FieldName(location+"."+key)) + " is missing."
		return d
	}
	if value != nil {
		d.Value = cut(value) // as text, since NaN has no JSON
	}
	text, isText := d.Value.(string)
	switch {
	case name == "" || name == "body":
		d.Message = sentence(want) + "."
	case isText && text != "" && len(text) <= 40 && !strings.ContainsAny(text, "{}[]"):
		d.Message = sentence(name) + " is " + text + ": " + want + "."
	default:
		d.Message = sentence(name) + ": " + want + "."
	}
	return d
}

func sentence(text string) string { return kernel.Capital(text) }
