// Package pump says what a small pump gives through its hose, how often it turns a livewell
// over and how much fish that keeps, and what leak a bilge pump keeps up with.
//
// Units: litres, hours, metres, kilograms, degrees Celsius; bores in metres; speeds in
// metres a second; oxygen in milligrams a litre.
//
// Method: a centrifugal pump's head falls with the square of its flow, from the head at
// which it gives nothing to nothing at its open flow; its hose takes the lift, and head by
// the square of the flow (Darcy and Weisbach). Both together give the flow in closed form.
// Holes and drains go by Torricelli. What of the figures is practice says so at its place.
package pump
