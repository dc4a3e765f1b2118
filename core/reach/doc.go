// Package reach says how many seconds pass from "I need it" to "it is in my
// hand", from the post where it is needed, and until it is stowed again.
//
// Frame: the boat's; x forward from the foot of the transom, y to port, z up;
// metres, kilograms, seconds.
//
// People walk over a plan of cells of a decimetre: the sole and decks, and what
// is closed and low enough to step on. Times of the body are those of MTM-1
// (Maynard, Stegemerten, Schwab, Methods-Time Measurement, 1948; from memory;
// 1 TMU is 0.036 s). Times of lids, boxes and of looking are practice, no
// source: a crew times its own and changes the table.
package reach
