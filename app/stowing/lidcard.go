package stowing

import (
	"context"
	"fmt"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/stow"
	"ergasia/formats/lidcards"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// LidCards sets a card for each place aboard that holds something, as PDF.
func (a *Wing) LidCards(ctx context.Context, actor kernel.Actor, boat uuid.UUID) ([]byte, error) {
	var s *aboard.Laden
	var labels []model.Label
	err := a.In(ctx, actor, func(tx *gorm.DB) (err error) {
		if s, err = a.where.Snapshot(tx, actor, boat); err != nil {
			return err
		}
		return tx.Where("crew_id = ? AND boat_id = ?", actor.Crew, boat).Find(&labels).Error
	})
	if err != nil {
		return nil, err
	}
	laid := s.Lies()
	var cards []lidcards.Card
	for _, p := range s.Places {
		if c, holds := (laden{Laden: s}).LidCard(p, laid[p.ID]); holds {
			if l := aboard.First(labels, func(l model.Label) bool { return l.PlaceID != nil && *l.PlaceID == p.ID }); l != nil {
				c.Code = l.Code
			}
			cards = append(cards, c)
		}
	}
	if len(cards) == 0 {
		return nil, &refuse.Error{Kind: refuse.Refused, Sentence: "There is nothing aboard yet, so there are no lid cards."}
	}
	return lidcards.Write(cards)
}

func (s laden) LidCard(p model.Place, laid []stow.Laid) (lidcards.Card, bool) {
	c := lidcards.Card{Place: p.Name, Boat: s.Boat.Name, Length: p.Length, Breadth: p.Breadth}
	mass := func(kg float64) string { return fmt.Sprintf("%.1f", s.Units.Mass.FromSI(kg)) }
	number := map[string]int{}
	total := 0.0
	for _, g := range s.Gear {
		if at := s.Stowage[g.ID]; at.PlaceID == nil || *at.PlaceID != p.ID || at.InsideID != nil {
			continue
		}
		kg, _ := s.Weight(g)
		total += kg
		number[g.ID.String()] = len(c.List) + 1
		line := fmt.Sprintf("%d  %s", len(c.List)+1, g.Name)
		if g.Count > 1 {
			line += fmt.Sprintf(" × %d", g.Count)
		}
		if m := aboard.First(s.Members, func(m model.Member) bool { return g.OwnerID != nil && m.ID == *g.OwnerID }); m != nil {
			line += ", " + m.Mark
		}
		c.List = append(c.List, line+", "+mass(kg)+" "+s.Units.Mass.Symbol)
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
	c.Note = p.Dryness + ", " + mass(total) + " " + s.Units.Mass.Symbol
	if p.MaxKg > 0 {
		c.Note = fmt.Sprintf("%s, %s of %s %s", p.Dryness, mass(total), mass(p.MaxKg), s.Units.Mass.Symbol)
		if c.Over = total > p.MaxKg+1e-9; c.Over {
			c.Note += ": too much"
		}
	}
	return c, len(c.List) > 0
}
