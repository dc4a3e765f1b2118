// Package carriage says what must be aboard: rules in packs are held against a boat, a
// trip with its people, and what is aboard of her. A rule is met, short, met by what is out
// of date, too slow to reach or of the wrong size, or it is not asked, and why.
//
// Lengths are in metres, masses in kilograms, powers in kilowatts, times in seconds, days
// as core/due counts them. The package knows no rule itself: packs are data
// (formats/rulepacks). Whatever it says, the law where the boat is decides.
package carriage

// Law ends every answer.
const Law = "The law where you are decides."
