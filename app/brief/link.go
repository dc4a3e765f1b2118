package brief

import (
	"context"
	"errors"
	"fmt"
	"strings"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/formats/briefcard"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// BoatLink is a link by which guests see a boat's brief. It lasts until it is ended, since it
// is printed and hangs aboard.
type BoatLink struct {
	Token string `json:"token" doc:"Told once: it is kept only as a hash"`
}

// MakeLink makes the boat's link; an older one stops working.
func (a *Wing) MakeLink(ctx context.Context, actor kernel.Actor, boat uuid.UUID) (BoatLink, error) {
	l := BoatLink{Token: kernel.NewToken()}
	return l, a.Write(ctx, actor, func(tx *store.Tx) error {
		if err := store.Exists[model.Boat](tx, "id = ?", boat); err != nil {
			return kernel.Absent(err, "boat")
		}
		return store.Put(
			tx,
			&model.BoatLink{CrewID: actor.Crew, BoatID: boat, TokenHash: kernel.HashOf(l.Token), MadeBy: actor.Member, MadeAt: a.Now()},
		)
	})
}

// EndLink ends the boat's link.
func (a *Wing) EndLink(ctx context.Context, actor kernel.Actor, boat uuid.UUID) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		return kernel.Absent(store.Remove[model.BoatLink](tx, "boat_id = ?", boat), "link")
	})
}

// Held is what the holder of a boat's link is shown.
func (a *Wing) Held(ctx context.Context, token string) (BriefView, error) {
	hash := kernel.HashOf(token)
	var link model.BoatLink
	err := a.DB.In(ctx, store.Scope{Link: hash}, func(tx *store.Tx) error {
		return store.One(tx, &link, "token_hash = ?", hash)
	})
	if errors.Is(err, store.ErrNone) {
		return BriefView{}, &refuse.Error{
			Kind:     refuse.NotFound,
			Sentence: "This link has ended, or is not whole. Ask the crew for a new one.",
		}
	}
	if err != nil {
		return BriefView{}, fmt.Errorf("finding the link: %w", err)
	}
	v, err := a.OfBoat(ctx, kernel.Actor{Crew: link.CrewID, Member: link.MadeBy}, link.BoatID)
	v.Lacks = []string{} // for the crew
	return v, err
}

// Card is the brief on one A5 page, with a code of the link where one is given.
func (v BriefView) Card(link string) ([]byte, error) {
	var fs check.Faults
	if link != "" && (len(link) > 300 || !strings.HasPrefix(link, "http://") && !strings.HasPrefix(link, "https://")) {
		fs.Add("link", link, "must be an address of at most 300 letters that begins with https:// or http://")
		return nil, refuse.Faulty(fs.Err())
	}
	c := briefcard.Card{Boat: v.Boat, Outline: v.Outline(), Call: v.Call, Relief: v.Relief, Own: v.Own, Link: link}
	for _, p := range v.Points {
		q := briefcard.Point{Number: p.Number, Title: p.Title, Said: p.Said}
		for _, at := range p.At {
			q.At = append(q.At, [2]float64{at[0], at[1]})
		}
		c.Points = append(c.Points, q)
	}
	return briefcard.Write(c)
}
