package rigging

import (
	"context"
	"fmt"

	"ergasia/app/kernel"
	"ergasia/core/fitting"
	"ergasia/core/units"
	"ergasia/core/words"
	"ergasia/formats/template"
	"ergasia/store"

	"github.com/google/uuid"
)

// Template is a fitting's drilling template at true scale, on the paper that the reader
// has.
func (a *Wing) Template(
	ctx context.Context,
	actor kernel.Actor,
	boat, id uuid.UUID,
	mirrored bool,
) (template.Sheet, error) {
	var sheet template.Sheet
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		s, err := a.where.Laden(tx, actor, boat)
		if err != nil {
			return err
		}
		f, err := found(tx, boat, id)
		if err != nil {
			return err
		}
		j := jobOf(s, f)
		d := drawnOf(f.Held)
		d.Mirrored = mirrored
		d.Drill = j.Size.Clearance
		for _, w := range fitting.Ways(j) {
			if w.Method == f.Held.Method && w.Hole > 0 {
				d.Drill = w.Hole
			}
		}
		name := f.Name
		if mirrored {
			name += ", mirrored"
		}
		sheet = template.Sheet{Template: d.Make(), Name: name, Notes: notes(d, j), Paper: "A4"}
		if s.Units.Name == units.US.Name {
			sheet.Paper = "Letter"
		}
		return nil
	})
	return sheet, err
}

// notes are what is to be known with the drill in hand.
func notes(d fitting.Drawn, j fitting.Job) []string {
	said := ""
	if len(d.Holes) > 0 {
		said = fmt.Sprintf("%s of %.1f mm for %s. ", words.HowMany(len(d.Holes), "hole"), d.Drill, j.Size.Name)
	}
	if d.Cut[0] > 0 {
		said += fmt.Sprintf("Cut out %.0f x %.0f mm, corners %.0f mm. ", d.Cut[0], d.Cut[1], d.Corner)
	}
	if d.Curve > 0 {
		said += fmt.Sprintf("For a wall of %.0f mm radius. ", d.Curve)
	}
	list := []string{said + "Dashed: the foot. Look behind before you drill."}
	return append(list, fitting.Cautions(j)...)
}
