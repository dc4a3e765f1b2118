package app

import (
	"context"
	"fmt"

	"ergasia/core/stow"
	"ergasia/formats/lidcards"
	"ergasia/store"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// LidCards sets a card for each place aboard that holds something, as PDF.
func (a *App) LidCards(ctx context.Context, actor Actor, boat uuid.UUID) ([]byte, error) {
	var s *snapshot
	var labels []store.Label
	err := a.in(ctx, actor, func(tx *gorm.DB) (err error) {
		if s, err = a.snapshot(tx, actor, boat); err != nil {
			return err
		}
		return tx.Where("crew_id = ? AND boat_id = ?", actor.Crew, boat).Find(&labels).Error
	})
	if err != nil {
		return nil, err
	}
	laid := s.lies()
	var cards []lidcards.Card
	for _, p := range s.places {
		if c, holds := s.lidCard(p, laid[p.ID]); holds {
			if l := first(labels, func(l store.Label) bool { return l.PlaceID != nil && *l.PlaceID == p.ID }); l != nil {
				c.Code = l.Code
			}
			cards = append(cards, c)
		}
	}
	if len(cards) == 0 {
		return nil, &Error{Kind: Refused, Sentence: "There is nothing aboard yet, so there are no lid cards."}
	}
	return lidcards.Write(cards)
}

func (s *snapshot) lidCard(p store.Place, laid []stow.Laid) (lidcards.Card, bool) {
	c := lidcards.Card{Place: p.Name, Boat: s.boat.Name, Length: p.Length, Breadth: p.Breadth}
	mass := func(kg float64) string { return fmt.Sprintf("%.1f", s.units.Mass.FromSI(kg)) }
	number := map[string]int{}
	total := 0.0
	for _, g := range s.gear {
		if at := s.stowage[g.ID]; at.PlaceID == nil || *at.PlaceID != p.ID || at.InsideID != nil {
			continue
		}
		kg, _ := s.weight(g)
		total += kg
		number[g.ID.String()] = len(c.List) + 1
		line := fmt.Sprintf("%d  %s", len(c.List)+1, g.Name)
		if g.Count > 1 {
			line += fmt.Sprintf(" × %d", g.Count)
		}
		if m := first(s.members, func(m store.Member) bool { return g.OwnerID != nil && m.ID == *g.OwnerID }); m != nil {
			line += ", " + m.Mark
		}
		c.List = append(c.List, line+", "+mass(kg)+" "+s.units.Mass.Symbol)
	}
	layers := stow.Layers(laid)
	for i, l := range laid {
		for len(c.Layers) <= layers[i] {
			c.Layers = append(c.Layers, nil)
		}
		box := lidcards.Box{X: l.At.X, Y: l.At.Y, Length: l.Size.X, Breadth: l.Size.Y, Number: number[l.ID]}
		if l.Ends != nil {
			box.Ends = &[2][2]float64{l.Ends.Aft, l.Ends.Fore}
		}
		c.Layers[layers[i]] = append(c.Layers[layers[i]], box)
	}
	c.Note = p.Dryness + ", " + mass(total) + " " + s.units.Mass.Symbol
	if p.MaxKg > 0 {
		c.Note = fmt.Sprintf("%s, %s of %s %s", p.Dryness, mass(total), mass(p.MaxKg), s.units.Mass.Symbol)
		if c.Over = total > p.MaxKg+1e-9; c.Over {
			c.Note += ": too much"
		}
	}
	return c, len(c.List) > 0
}
