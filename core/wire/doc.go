// Package wire finds what copper a circuit needs, and what must protect it.
//
// Units: amperes, volts, metres, square millimetres, degrees Celsius. A length is one way,
// as a tape measures it; the current goes there and back.
//
// Method: the area for the volts that may be lost, with the resistivity of annealed copper
// (IEC 60028); the current that a gauge may carry by a table for 105 °C insulation; and the
// smallest gauge that passes both. A second opinion is the rule of circular mils.
//
// Sources. Gauges: ASTM B258 (AWG), IEC 60228 (metric). Ampacity, its factors, the share of
// volts that may be lost, the bound of fuses and how near the source they must be: ABYC
// E-11, from memory; check the current text. What of it is practice says so. The electrics
// of a boat can burn her: whoever wires follows local rules and asks somebody licensed.
package wire
