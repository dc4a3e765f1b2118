// Package power says how long batteries last through a day, and whether the engine starts
// at its end.
//
// Units: amperes, ampere-hours, volts, hours, degrees Celsius. A state of charge is a share
// of what a bank holds today, 0 to 1: its rated ampere-hours times its factor of age and
// temperature.
//
// Method: within a phase currents are steady, so a bank's state of charge is known in
// closed form. A bank's currents are netted first. A net discharge I follows Peukert's law,
// d(soc)/dt = -(I/C)(I H/C)^(k-1) an hour, with C as it is today and H the hours at which
// it was rated (W. Peukert, Elektrotechnische Zeitschrift 18, 1897). A net charge enters
// with the bank's efficiency; lead takes less and less over 0.8, where that is asked for.
// A phase is cut where a bank runs empty that shares a load with others. No time steps.
//
// What of the figures is practice says so at its place: they are guesses until the crew's
// own log corrects them.
package power
