// Package units converts between the SI quantities that the program keeps and
// the US customary units that some crews read.
//
// Every factor is exact and comes from NIST Special Publication 811 (2008),
// Guide for the Use of the International System of Units, appendix B.8
// (written from memory). Quantities: length in metres, mass in kilograms,
// volume in cubic metres or litres, speed in metres a second, force in newtons,
// pressure in pascals, power in watts, temperature in degrees Celsius.
package units
