package stowing

import (
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/aboard/aboardtest"
	"ergasia/core/reach"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
)

// Each move of a plan says in figures what it is for.
func TestAMovesReasonNamesTheSeconds(t *testing.T) {
	b := aboardtest.New(t)
	id := b.Gear("net", 2, func(g *model.Gear) { g.UsesPerDay = 3 })
	urgent := b.Gear("extinguisher", 2, func(g *model.Gear) { g.UsesPerDay, g.Tags = 0.02, model.Strings{"extinguisher"} })
	p := &planner{Laden: b.Laden}
	fetch := func(id uuid.UUID, there, back float64) aboard.Rummaged {
		return aboard.Rummaged{Fetch: map[uuid.UUID]reach.Fetch{id: {Seconds: there, Back: back}}}
	}
	var none aboard.Rummaged
	for want, got := range map[string]string{
		"It waits on the quay": p.why(*b.Thing(id), true, none, none),
		"No place takes it.":   p.why(*b.Thing(id), false, fetch(id, 9, 9), none),
		"There and back in 8 s; 2.0 kg.": p.why(*b.Thing(id), false, none,
			fetch(id, 5, 3)),
		"There and back in 8 s instead of 18, 3 times a day.": p.why(*b.Thing(id), false,
			fetch(id, 9, 9), fetch(id, 5, 3)),
		"In hand in 5 s instead of 9 when it is needed.": p.why(*b.Thing(urgent), false,
			fetch(urgent, 9, 9), fetch(urgent, 5, 3)),
		"It takes 18 s instead of 8": p.why(*b.Thing(id), false, fetch(id, 5, 3), fetch(id, 9, 9)),
		"It takes 18 s instead of 8:": p.why(*b.Thing(urgent), false, fetch(urgent, 5, 3),
			fetch(urgent, 9, 9)),
		"As quick as before, 8 s": p.why(*b.Thing(id), false, fetch(id, 5, 3), fetch(id, 5.2, 3)),
	} {
		assert.Contains(t, got, want)
	}
}
