// Package fuel says how much fuel a day takes, what is kept in reserve, what goes into
// each tank, and how far she goes with what is in them.
//
// Units: metres, seconds, metres a second; fuel in litres, as tanks, pumps and prices
// have it, and flow in litres an hour, as gauges do. A table of rates is the crew's own:
// flow at some speeds, linear between them; outside of it nothing is known.
//
// A school is how a reserve is reckoned: a third of what is aboard (thirds), so many
// litres (fixed), a share of the burn (percent), or tanks that are always full (full).
// Common practice among small-boat crews; they differ, and each may choose. Gauges lie
// and weather changes: an estimate, and no promise.
package fuel
