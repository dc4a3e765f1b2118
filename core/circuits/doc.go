// Package circuits is a boat's electrics as a net: banks, what stands between them and the
// things they feed, and the circuits. It says what feeds what, what dies with a fuse, and
// how the net is drawn on one line.
//
// The net is a tree but for selectors, which have two feeds. Ratings in amperes, volts
// nominal.
//
// The drawing is a tidy tree: Wetherell and Shannon, Tidy Drawings of Trees (IEEE
// Transactions on Software Engineering, 1979), with a row for each leaf, so that names
// stand one under another.
package circuits
