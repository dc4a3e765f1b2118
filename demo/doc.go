// Package demo loads the demonstration: an invented crew of five in the
// invented Varmsund skerries, their open boat Dunlin, her places and posts, and
// the gear of a cod run, part of it still on the quay. Nobody and nothing in it
// is real; the figures are likely ones for such a boat.
package demo
