package stowing

import (
	"context"
	"math"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/reach"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// ReachView is how quickly a hand from one post comes to everywhere aboard.
type ReachView struct {
	Post   uuid.UUID   `json:"post_id" format:"uuid"`
	Name   string      `json:"name"`
	CellM  float64     `json:"cell_m" doc:"Side of a cell of the plan"`
	Cols   int         `json:"cols" doc:"Cells along x, from 0"`
	Y0     float64     `json:"y0_m" doc:"Middle of the first row of cells"`
	Walk   []*float64  `json:"walk_s" doc:"To stand in each cell, rows along x; null where nobody stands"`
	Places []PlaceTime `json:"places" doc:"In hand from each place, quickest first"`
}

// PlaceTime is how long it takes to have something out of a place in hand.
type PlaceTime struct {
	PlaceID uuid.UUID    `json:"place_id" format:"uuid"`
	Name    string       `json:"name"`
	Seconds *float64     `json:"seconds" doc:"Null where no hand comes"`
	Parts   []reach.Part `json:"parts" doc:"There and back"`
}

// Reach works out the ways from a post.
func (a *Wing) Reach(ctx context.Context, actor kernel.Actor, boat uuid.UUID, post string) (ReachView, error) {
	var s *aboard.Laden
	err := a.In(ctx, actor, func(tx *store.Tx) (err error) {
		s, err = a.where.Laden(tx, actor, boat)
		return err
	})
	if err != nil {
		return ReachView{}, err
	}
	if len(s.Posts) == 0 {
		return ReachView{}, &refuse.Error{Kind: refuse.Refused,
			Sentence: "She has no posts yet: say where people work aboard first."}
	}
	i := 0
	if post != "" {
		if i = slices.IndexFunc(s.Posts, func(p model.Post) bool { return p.ID.String() == post }); i < 0 {
			return ReachView{}, refuse.Missing("post")
		}
	}
	d, t := s.Decks(), s.Table
	f := d.Boat.From(i, t)
	v := ReachView{Post: s.Posts[i].ID, Name: s.Posts[i].Name, CellM: reach.Cell, Cols: f.Cols, Y0: f.Y0,
		Walk: make([]*float64, len(f.Seconds)), Places: []PlaceTime{}}
	for c, sec := range f.Seconds {
		if !math.IsInf(sec, 1) {
			v.Walk[c] = &f.Seconds[c]
		}
	}
	for j, p := range s.Places {
		one := PlaceTime{PlaceID: p.ID, Name: p.Name, Parts: []reach.Part{}}
		if w := d.Ways[i][j]; w.Reachable() {
			fetch := t.Fetch(w, d.Boat.Places[j], reach.Lying{HandZ: p.Z + p.Height/2})
			one.Seconds, one.Parts = &fetch.Seconds, fetch.Parts
		}
		v.Places = append(v.Places, one)
	}
	slices.SortStableFunc(v.Places, func(a, b PlaceTime) int {
		x, y := math.Inf(1), math.Inf(1)
		if a.Seconds != nil {
			x = *a.Seconds
		}
		if b.Seconds != nil {
			y = *b.Seconds
		}
		switch {
		case x < y:
			return -1
		case x > y:
			return 1
		}
		return 0
	})
	return v, nil
}
