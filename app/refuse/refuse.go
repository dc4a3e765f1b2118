// Package refuse has the refusals that a person reads: what may not be, and why,
// in a sentence. Whatever else goes wrong is a plain error, and for the log.
package refuse

import (
	"errors"

	"ergasia/core/check"
)

// Kind says what sort of refusal an Error is.
type Kind int

// The kinds.
const (
	Invalid   Kind = iota + 1 // the input is wrong
	NotFound                  // there is no such thing in this crew
	Forbidden                 // the role may not
	Conflict                  // the edit is stale; State has the present
	Refused                   // a rule of the boat says no; Details say why
	TooMany                   // tried too often
	SignedOut                 // not signed in, or wrongly
	Crowded                   // others are at it: the same may go in a moment
)

// Error is a refusal that a person reads.
type Error struct {
	Kind     Kind
	Sentence string
	Faults   check.Faults // of Invalid
	Details  []string     // more sentences
	State    any          // of Conflict: what is true now
	Anyway   bool         // of Refused: it may still be noted as it is
}

// Error is the sentence.
func (e *Error) Error() string { return e.Sentence }

// Missing says that the crew has no such thing.
func Missing(what string) error {
	return &Error{Kind: NotFound, Sentence: "There is no such " + what + " in this crew."}
}

// Stale says that someone else changed a thing first, and how it is now.
func Stale(name string, now any) error {
	return &Error{Kind: Conflict, Sentence: name + " was changed by someone else meanwhile: look at it again.", State: now}
}

// Because gives the sentences of a rule's refusal; the first is the headline.
func Because(sentences []string) error {
	return &Error{Kind: Refused, Sentence: sentences[0], Details: sentences}
}

// Busy says that others of the crew write, and for longer than this could wait.
func Busy() error {
	return &Error{Kind: Crowded,
		Sentence: "Your crew is saving something large. Nothing of this was saved yet: try again in a few seconds."}
}

// Noting is Because of something that may still be noted as it is, or may not.
func Noting(sentences []string, anyway bool) error {
	return &Error{Kind: Refused, Sentence: sentences[0], Details: sentences, Anyway: anyway}
}

// Faulty wraps faults of an input; nil stays nil.
func Faulty(err error) error {
	var fs check.Faults
	if errors.As(err, &fs) && len(fs) > 0 {
		return &Error{Kind: Invalid, Sentence: "Something in the input is not right.", Faults: fs}
	}
	return err
}
