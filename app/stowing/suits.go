package stowing

import (
	"cmp"
	"context"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/where"
	"ergasia/core/reach"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Suit is a place that takes a piece.
type Suit struct {
	PlaceID uuid.UUID `json:"place_id" format:"uuid"`
	Name    string    `json:"name"`
	Seconds *float64  `json:"seconds,omitempty" doc:"Until the piece is in the hand, from where it is used; absent where no post reaches it"`
	Here    bool      `json:"here" doc:"It lies there now"`
}

// Suits lists the places of a boat that take a piece as they are filled now, those
// from which it is quickest in the hand first.
func (a *Wing) Suits(ctx context.Context, actor kernel.Actor, boat, gear uuid.UUID) ([]Suit, error) {
	list := []Suit{}
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		s, err := a.where.Laden(tx, actor, boat)
		if err != nil {
			return err
		}
		if err := where.Fetch(tx, s, &gear); err != nil {
			return err
		}
		g := s.Thing(gear)
		if g == nil {
			return refuse.Missing("gear")
		}
		now := s.Stowage[gear]
		for j, p := range s.Places {
			one := Suit{PlaceID: p.ID, Name: p.Name, Here: now.PlaceID != nil && *now.PlaceID == p.ID && now.InsideID == nil}
			in := aboard.MoveInput{GearID: &gear, PlaceID: &p.ID, Version: now.Version}
			_, refusals, err := s.Try(in, model.Whereabouts{Kind: "boat", BoatID: &s.Boat.ID, PlaceID: &p.ID})
			if err != nil {
				return err
			}
			if len(refusals) > 0 && !one.Here {
				continue
			}
			if f, ok := s.Decks().Fetch(s.Table, g.UsedFrom, j, reach.Lying{HandZ: p.Z + p.Height/2}); ok {
				one.Seconds = &f.Seconds
			}
			list = append(list, one)
		}
		return nil
	})
	slices.SortStableFunc(list, func(a, b Suit) int {
		if (a.Seconds == nil) != (b.Seconds == nil) {
			return map[bool]int{true: 1, false: -1}[a.Seconds == nil]
		}
		if a.Seconds == nil {
			return 0
		}
		return cmp.Compare(*a.Seconds, *b.Seconds)
	})
	return list, err
}
