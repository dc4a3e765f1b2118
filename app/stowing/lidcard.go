package stowing

import (
	"context"
	"fmt"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/formats/lidcards"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// LidCards sets a card for each place aboard that holds something, as PDF.
func (a *Wing) LidCards(ctx context.Context, actor kernel.Actor, boat uuid.UUID) ([]byte, error) {
	var s *aboard.Laden
	var labels []model.Label
	err := a.In(ctx, actor, func(tx *store.Tx) (err error) {
		if s, err = a.where.Laden(tx, actor, boat); err != nil {
			return err
		}
		return store.All(tx, &labels, "", "boat_id = ?", boat)
	})
	if err != nil {
		return nil, err
	}
	var cards []lidcards.Card
	for _, p := range s.Places {
		if c, holds := (laden{Laden: s}).lidCard(p); holds {
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

func (s laden) lidCard(p model.Place) (lidcards.Card, bool) {
	c := lidcards.Card{Place: p.Name, Boat: s.Boat.Name, Length: p.Length, Breadth: p.Breadth}
	mass := func(kg float64) string { return fmt.Sprintf("%.1f", s.Units.Mass.FromSI(kg)) }
	number := map[uuid.UUID]int{}
	total := 0.0
	for _, g := range s.LieIn(p.ID) {
		kg, _ := s.Weight(g)
		total += kg
		number[g.ID] = len(c.List) + 1
		line := fmt.Sprintf("%d  %s", len(c.List)+1, g.Name)
		if g.Count > 1 {
			line += fmt.Sprintf(" × %d", g.Count)
		}
		if m := aboard.First(s.Members, func(m model.Member) bool {
			return g.OwnerID != nil &&
				m.ID == *g.OwnerID
		}); m != nil {
			line += ", " + m.Mark
		}
		c.List = append(c.List, line+", "+mass(kg)+" "+s.Units.Mass.Symbol)
	}
	for _, l := range s.LiesIn(p.ID) {
		for len(c.Layers) <= l.Layer {
			c.Layers = append(c.Layers, nil)
		}
		box := lidcards.Box{X: l.At.X, Y: l.At.Y, Length: l.Size.X, Breadth: l.Size.Y, Number: number[l.Gear]}
		if l.Ends != nil {
			box.Ends = &[2][2]float64{l.Ends.Aft, l.Ends.Fore}
		}
		c.Layers[l.Layer] = append(c.Layers[l.Layer], box)
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
