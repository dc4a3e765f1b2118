package app

import (
	"context"
	"fmt"

	"ergasia/core/units"
	"ergasia/formats/sheet"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// Sheet draws a boat for paper as she floats now, as SVG or PDF.
func (a *App) Sheet(ctx context.Context, actor Actor, boat uuid.UUID, kind string, dimensions bool) ([]byte, error) {
	var s *snapshot
	err := a.in(ctx, actor, func(tx *gorm.DB) (err error) {
		s, err = a.snapshot(tx, actor, boat)
		return err
	})
	if err != nil {
		return nil, err
	}
	drawn := s.sheet(dimensions)
	drawn.Note = fmt.Sprintf("Drawn %s", a.now().Format("2 January 2006"))
	if kind == "pdf" {
		return drawn.PDF()
	}
	return drawn.SVG(), nil
}

func (s *snapshot) sheet(dimensions bool) sheet.Sheet {
	d := sheet.Sheet{Boat: s.boat.Name, Lines: s.craft.lines, Dimensions: dimensions, Units: units.SystemNamed(s.units.Name)}
	for _, p := range s.places {
		d.Places = append(d.Places, sheet.Box{Name: p.Name, Corner: [3]float64{p.X, p.Y, p.Z}, Size: [3]float64{p.Length, p.Breadth, p.Height}})
	}
	for _, p := range s.posts {
		d.Posts = append(d.Posts, sheet.Spot{Name: p.Name, At: [3]float64{p.X, p.Y, p.Z}})
	}
	for _, p := range s.craft.hull.FloodPoints {
		d.Floods = append(d.Floods, sheet.Spot{Name: p.Name, At: vec(p.At)})
	}
	if a := s.figures(s.lies()).Attitude; a != nil {
		d.Water = &[2]float64{a.DraftAft, a.DraftFwd}
	}
	return d
}
