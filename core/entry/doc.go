// Package entry reads gear from one line of text as a person would say it:
//
//	4 tray 36x23x5 1.2kg dry @port bench +Oskar #pike
//
// gives four trays of 36 x 23 x 5 cm, 1.2 kg each, that must stay dry, in the
// port bench, Oskar's, tagged pike. What a line leaves out is filled from a
// template of usual things, marked as a guess. Every reading that may be wrong
// gets a doubt: a sentence that says what was understood and why it may not be so.
//
// Results are SI: metres and kilograms. Lengths without a unit are centimetres,
// or inches for readers in US units.
package entry
