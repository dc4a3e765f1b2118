package ready

import (
	"context"
	"errors"
	"fmt"
	"time"

	"ergasia/app/brief"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/trips"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// GuestLink is a link by which guests see what they need of a trip.
type GuestLink struct {
	Token     string    `json:"token" doc:"Told once: it is kept only as a hash"`
	ExpiresAt time.Time `json:"expires_at"`
}

// guestDays is how long after a trip its link ends.
const guestDays = 2

// linkEnds is when a trip's link ends, by the trip's dates as they are now.
func linkEnds(t model.Trip) time.Time { return t.EndsOn.AddDate(0, 0, guestDays) }

// MakeGuestLink makes the trip's link; an older one stops working.
func (a *Wing) MakeGuestLink(ctx context.Context, actor kernel.Actor, trip uuid.UUID) (GuestLink, error) {
	link := GuestLink{Token: kernel.NewToken()}
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		t, err := trips.Open(tx, trip)
		if err != nil {
			return err
		}
		link.ExpiresAt = linkEnds(t)
		return store.Put(
			tx,
			&model.TripLink{
				CrewID:    actor.Crew,
				TripID:    trip,
				TokenHash: kernel.HashOf(link.Token),
				MadeBy:    actor.Member,
				ExpiresAt: link.ExpiresAt,
			},
		)
	})
	return link, err
}

// EndGuestLink ends the trip's link.
func (a *Wing) EndGuestLink(ctx context.Context, actor kernel.Actor, trip uuid.UUID) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		return kernel.Absent(store.Remove[model.TripLink](tx, "trip_id = ?", trip), "link")
	})
}

// GuestView is what guests need of a trip, and nothing else of the crew.
type GuestView struct {
	Trip     string           `json:"trip"`
	Water    string           `json:"water"`
	Boat     string           `json:"boat,omitempty"`
	Skipper  string           `json:"skipper,omitempty"`
	StartsOn kernel.Date      `json:"starts_on"`
	EndsOn   kernel.Date      `json:"ends_on"`
	Aboard   int              `json:"aboard" doc:"How many are aboard in all"`
	Meet     *float64         `json:"meet_min,omitempty" doc:"When she is launched, minutes after midnight of the first day"`
	Back     *float64         `json:"back_min,omitempty"`
	Light    string           `json:"light,omitempty"`
	Told     string           `json:"told,omitempty" doc:"What the crew wrote for guests"`
	Brief    *brief.BriefView `json:"brief,omitempty" doc:"What they are told at the boat"`
}

// Guest is what the holder of a link is shown, until it ends.
func (a *Wing) Guest(ctx context.Context, token string) (GuestView, error) {
	gone := &refuse.Error{
		Kind:     refuse.NotFound,
		Sentence: "This link has ended, or is not whole. Ask the crew for a new one.",
	}
	hash := kernel.HashOf(token)
	var link model.TripLink
	err := a.DB.In(ctx, store.Scope{Link: hash}, func(tx *store.Tx) error {
		return store.One(tx, &link, "token_hash = ?", hash)
	})
	if errors.Is(err, store.ErrNone) {
		return GuestView{}, gone
	}
	if err != nil {
		return GuestView{}, fmt.Errorf("finding the link: %w", err)
	}
	actor := kernel.Actor{Crew: link.CrewID, Member: link.MadeBy}
	var s sources
	err = a.In(ctx, actor, func(tx *store.Tx) error {
		if s.outing, err = a.days.Load(tx, actor, link.TripID, nil); err != nil {
			return err
		}
		return nil
	})
	if err != nil {
		return GuestView{}, err
	}
	if !a.Now().Before(linkEnds(s.outing.Trip)) {
		return GuestView{}, gone
	}
	return s.guest(ctx), ctx.Err()
}

func (s sources) guest(ctx context.Context) GuestView {
	o := s.outing
	v := GuestView{
		Trip:     o.Trip.Name,
		Water:    o.Trip.Water,
		StartsOn: kernel.DayOf(o.Trip.StartsOn),
		EndsOn:   kernel.DayOf(o.Trip.EndsOn),
		Aboard:   len(o.People),
	}
	if o.Plan.Ashore != nil {
		v.Told = o.Plan.Ashore.Guests
	}
	for _, p := range o.People {
		if p.Role == "skipper" && !p.Guessed {
			v.Skipper = p.Name
		}
	}
	if o.Laden == nil {
		return v
	}
	v.Boat = o.Laden.Boat.Name
	if v.Brief = brief.OfTrip(o); v.Brief != nil {
		v.Brief.Lacks = []string{} // for the crew
	}
	day := o.View(func() bool { return ctx.Err() != nil })
	if day.Answer == nil {
		return v
	}
	for _, p := range day.Answer.Phases {
		if !p.Ashore {
			from := p.From
			v.Meet = &from
			break
		}
	}
	if home, ok := back(day); ok {
		v.Back = &home
	}
	if day.Answer.Light != nil {
		v.Light = day.Answer.Light.Words
	}
	return v
}
