package floating

import (
	"context"
	"fmt"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/core/units"
	"ergasia/formats/sheet"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Sheet draws a boat for paper as she floats now, as SVG or PDF.
func (a *Wing) Sheet(ctx context.Context, actor kernel.Actor, boat uuid.UUID, kind string, dimensions bool) ([]byte,
	error) {
	var s *aboard.Laden
	err := a.In(ctx, actor, func(tx *store.Tx) (err error) {
		s, err = a.where.Laden(tx, actor, boat)
		return err
	})
	if err != nil {
		return nil, err
	}
	drawn := laden{Laden: s}.sheet(dimensions)
	drawn.Note = fmt.Sprintf("Drawn %s", a.Now().Format("2 January 2006"))
	if kind == "pdf" {
		return drawn.PDF()
	}
	return drawn.SVG(), nil
}

func (s laden) sheet(dimensions bool) sheet.Sheet {
	d := sheet.Sheet{Boat: s.Boat.Name, Lines: s.Craft.Lines, Dimensions: dimensions,
		Units: units.SystemNamed(s.Units.Name)}
	for _, p := range s.Places {
		d.Places = append(d.Places, sheet.Box{Name: p.Name, Level: s.Level(p),
			Corner: [3]float64{p.X, p.Y, p.Z}, Size: [3]float64{p.Length, p.Breadth, p.Height}})
	}
	for _, p := range s.Posts {
		d.Posts = append(d.Posts, sheet.Spot{Name: p.Name, At: [3]float64{p.X, p.Y, p.Z}})
	}
	for _, p := range s.Craft.Hull.FloodPoints {
		d.Floods = append(d.Floods, sheet.Spot{Name: p.Name, At: model.VecOf(p.At)})
	}
	if a := s.Figures().Attitude; a != nil {
		d.Water = &[2]float64{a.DraftAft, a.DraftFwd}
	}
	return d
}
