// Package where says in words where a thing lies among others: "second box from
// the stem, under the net", and what must be opened and lifted off to reach it.
//
// Frame: the boat's; x forward, y to port, z up; metres.
package where

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"ergasia/core/stow"

	"gonum.org/v1/gonum/spatial/r3"
)

// Lying is a thing in a place: the box it takes up. Things of which there are
// several lie once each, under one ID.
type Lying struct {
	ID    string
	Name  string
	Shape string // box, rod, soft or loose
	At    r3.Vec // corner of least x, y, z
	Size  r3.Vec
}

const touch = 0.002 // metres over the middle of a place that a thing on one side may reach

func over(a, b Lying) bool {
	return stow.Laid{At: a.At, Size: a.Size}.Over(stow.Laid{At: b.At, Size: b.Size})
}

// Above lists what must be lifted off to take the thing out, from the top down,
// each name once. A thing of which there are several is reached where least
// lies on it.
func Above(all []Lying, id string) []string {
	var best []Lying
	found := false
	for _, one := range all {
		if one.ID != id {
			continue
		}
		on := stack(all, one)
		if !found || len(on) < len(best) {
			best, found = on, true
		}
	}
	slices.SortStableFunc(best, func(a, b Lying) int { return cmp.Compare(b.At.Z, a.At.Z) })
	var names []string
	for _, l := range best {
		if l.ID != id && !slices.Contains(names, l.Name) {
			names = append(names, l.Name)
		}
	}
	return names
}

// stack is everything over the thing, and over what is over it.
func stack(all []Lying, one Lying) []Lying {
	var on []Lying
	queue := []Lying{one}
	for len(queue) > 0 {
		below := queue[0]
		queue = queue[1:]
		for _, l := range all {
			if over(l, below) && l != below && !slices.Contains(on, l) {
				on, queue = append(on, l), append(queue, l)
			}
		}
	}
	return on
}

var ordinals = []string{"", "first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth",
	"tenth"}

// Among says which of its kind a thing is along the boat, from the nearer end:
// "second box from the stem". It is empty where it is the only one of its kind
// or they lie on one another.
func Among(all []Lying, id string) string {
	mine := slices.IndexFunc(all, func(l Lying) bool { return l.ID == id })
	if mine < 0 {
		return ""
	}
	one := all[mine]
	before, behind := 0, 0 // nearer the stem, nearer the stern
	for _, l := range all {
		if l.ID == id || l.Shape != one.Shape {
			continue
		}
		switch d := (l.At.X + l.Size.X/2) - (one.At.X + one.Size.X/2); {
		case d > one.Size.X/4:
			before++
		case d < -one.Size.X/4:
			behind++
		}
	}
	if before+behind == 0 {
		return ""
	}
	kind := map[string]string{"box": "box", "rod": "rod", "soft": "bundle", "jointed": "bundle", "loose": "bag"}[one.Shape]
	n, end := before+1, "the stem"
	if behind < before {
		n, end = behind+1, "the stern"
	}
	if n >= len(ordinals) {
		return ""
	}
	return fmt.Sprintf("%s %s from %s", ordinals[n], kind, end)
}

// Side says which side of the place it lies on: "port side", or nothing where
// it reaches across the middle. low and high are the place's sides.
func Side(one Lying, low, high float64) string {
	middle := (low + high) / 2
	if one.Size.Y > 0.6*(high-low) {
		return ""
	}
	switch {
	case one.At.Y >= middle-touch:
		return "port side"
	case one.At.Y+one.Size.Y <= middle+touch:
		return "starboard side"
	}
	return ""
}

// Sentence puts a place, the way the thing lies there and what is on it together.
func Sentence(place string, all []Lying, id string, low, high float64) string {
	parts := []string{place}
	i := slices.IndexFunc(all, func(l Lying) bool { return l.ID == id })
	if i >= 0 {
		if among := Among(all, id); among != "" {
			parts = append(parts, among)
		} else if side := Side(all[i], low, high); side != "" && len(all) > 1 {
			parts = append(parts, side)
		}
		if on := Above(all, id); len(on) > 0 {
			parts = append(parts, "under "+list(on))
		}
	}
	return strings.Join(parts, ", ")
}

// list joins names as a person would, and stops at three.
func list(names []string) string {
	const most = 3
	if len(names) > most {
		return strings.Join(names[:most-1], ", ") + fmt.Sprintf(" and %d more", len(names)-most+1)
	}
	if len(names) == 1 {
		return names[0]
	}
	return strings.Join(names[:len(names)-1], ", ") + " and " + names[len(names)-1]
}
