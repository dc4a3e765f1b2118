package rigging

import (
	"context"
	"math"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/fleet"
	"ergasia/app/kernel"
	"ergasia/core/clear"
	"ergasia/core/fitting"
	"ergasia/core/hull"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
)

// RiggedPlace is a place on the drawing, with where its lid turns.
type RiggedPlace struct {
	fleet.PlaceRef
	Turns string `json:"turns,omitempty" words:"hinges" doc:"On which edge its lid turns, as said or guessed; none where no lid swings"`
}

// RiggedPost is a post on the drawing.
type RiggedPost struct {
	ID     uuid.UUID `json:"id" format:"uuid"`
	Steers bool      `json:"steers"`
	fleet.PostInput
}

// UsualView is a usual fitting, to begin from.
type UsualView struct {
	Name string `json:"name"`
	Kind string `json:"kind" words:"fitting_kinds"`
}

// Rigging is what is fastened to a boat.
type Rigging struct {
	ID       uuid.UUID          `json:"id" format:"uuid"`
	Version  int                `json:"version" doc:"Of the boat"`
	Name     string             `json:"name"`
	Sea      bool               `json:"sea" doc:"Speeds are told in knots"`
	Lines    hull.Lines         `json:"lines"`
	Attitude *aboard.Attitude   `json:"attitude,omitempty"`
	Places   []RiggedPlace      `json:"places"`
	Posts    []RiggedPost       `json:"posts"`
	Fittings []FittingView      `json:"fittings"`
	Findings []FindingView      `json:"findings" doc:"What is in the way first"`
	Ahead    string             `json:"ahead" doc:"From where on the water is seen from the helm"`
	Masses   []string           `json:"masses" doc:"The boat's masses, in which a fitting may have been counted"`
	ListedKg float64            `json:"listed_kg"`
	Settings model.RiggingInput `json:"settings"`
	Usual    []UsualView        `json:"usual"`
	Off      []FittingView      `json:"off" doc:"What was taken off her, and units that are in no base or on another boat"`
	Sets     []SetView          `json:"sets"`
	Loose    []LooseView        `json:"loose" doc:"The heaviest things that only friction and straps keep in their place"`
	Spread   SpreadView         `json:"spread" doc:"Lines as they are trolled, and the side where fish come in"`
	Sonar    []SonarView        `json:"sonar" doc:"Places for the sonar, best first"`
	Anchor   []string           `json:"anchor" doc:"What her ground tackle does, in sentences"`
	Long     []string           `json:"long" doc:"What is longer than any place, and where it may be held"`
	Deck     string             `json:"deck,omitempty" doc:"What the deck bears, in words"`
	Left     LeftView           `json:"left" doc:"What is taken off when she is left alone"`
}

// Rigging gives what is fastened to a boat, and what is in whose way.
func (a *Wing) Rigging(ctx context.Context, actor kernel.Actor, boat uuid.UUID) (Rigging, error) {
	var out Rigging
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		s, err := a.where.Laden(tx, actor, boat)
		if err != nil {
			return err
		}
		out = view(s)
		return a.addMoving(tx, s, &out)
	})
	return out, err
}

func view(s *aboard.Laden) Rigging {
	out := Rigging{ID: s.Boat.ID, Version: s.Boat.Version, Name: s.Boat.Name, Sea: s.AtSea(), Lines: s.Craft.Lines,
		Attitude: s.Figures().Attitude, Places: []RiggedPlace{}, Posts: []RiggedPost{}, Fittings: []FittingView{}, Masses: []string{}}
	for _, p := range s.Places {
		out.Places = append(
			out.Places,
			RiggedPlace{PlaceRef: fleet.PlaceRef{ID: p.ID, Version: p.Version, PlaceInput: fleet.PlaceInputOf(p)},
				Turns: hinge(s, p)},
		)
	}
	helm := steers(s)
	for _, p := range s.Posts {
		out.Posts = append(out.Posts, RiggedPost{ID: p.ID, Steers: p.ID == helm.ID,
			PostInput: fleet.PostInput{Name: p.Name, At: model.Vec{p.X, p.Y, p.Z}}})
	}
	for _, f := range s.Craft.Rigging {
		out.Fittings = append(out.Fittings, viewFitting(s, f))
		out.ListedKg += f.Kg
	}
	for _, m := range s.Craft.Input.Outfit.Masses {
		out.Masses = append(out.Masses, m.Name)
	}
	if r := s.Craft.Input.Outfit.Rigging; r != nil {
		out.Settings = *r
	}
	for _, u := range fitting.Usuals {
		out.Usual = append(out.Usual, UsualView{Name: u.Name, Kind: u.Kind})
	}
	sc := scene(s, s.Craft.Rigging)
	out.Loose, out.Deck = loose(s), deckSaid(s)
	out.Spread, out.Sonar = spread(s), sonar(s, sc)
	out.Anchor, out.Long = anchorSaid(s), longSaid(s)
	out.Findings, out.Ahead = findings(s, s.Craft.Rigging, sc, ""), tell(s, nil, sc).ahead(sc)
	return out
}

func viewFitting(s *aboard.Laden, f model.Fitting) FittingView {
	v := FittingView{
		ID:           f.ID,
		Version:      f.Version,
		BaseID:       f.BaseID,
		Off:          f.IsOff,
		FittingInput: inputOf(f),
		Story:        append([]model.FittingDone{}, f.Story...),
	}
	if f.Held.Pole != nil {
		if p := pulled(s, f); p.FoldsAt != nil {
			v.Pulled = *p.FoldsAt
		}
	}
	return v
}

// findings are what is in whose way and what does not bear: all, or of one fitting.
func findings(s *aboard.Laden, fittings []model.Fitting, sc clear.Scene, only string) []FindingView {
	t := tell(s, fittings, sc)
	list := []FindingView{}
	for _, f := range clear.Look(sc, only) {
		list = append(list, t.finding(f))
	}
	for _, f := range fittings {
		if only == "" || f.ID.String() == only {
			list = append(list, t.findBears(f)...)
		}
	}
	slices.SortStableFunc(list, func(a, b FindingView) int { return rank(a.Note) - rank(b.Note) })
	return list
}

func rank(note bool) int {
	if note {
		return 1
	}
	return 0
}

// Tried is what a fitting would be in the way of, and bear, were it mounted so.
type Tried struct {
	Findings []FindingView `json:"findings"`
	Bears    Bears         `json:"bears"`
	Seen     []SeenView    `json:"seen" doc:"Of a screen: how it is seen from each post"`
	Heel     float64       `json:"heel_deg" doc:"By how much more she heels to starboard with it"`
	Trim     float64       `json:"trim_deg" doc:"By how much more she lifts her bow"`
}

// SeenView is how a screen is seen from a post.
type SeenView struct {
	Post     string  `json:"post"`
	Distance float64 `json:"distance_m"`
	Off      float64 `json:"off_deg"`
	Before   string  `json:"before,omitempty" doc:"What stands before it"`
	Reads    bool    `json:"reads"`
}

// dry is the id of a fitting that is in hand and not mounted yet.
var dry = uuid.MustParse("00000000-0000-4000-8000-00000000d0d0")

// Try is the dry run of a mount: nothing is kept. A fitting that is there already is
// tried in its own stead.
func (a *Wing) Try(
	ctx context.Context,
	actor kernel.Actor,
	boat uuid.UUID,
	id *uuid.UUID,
	in FittingInput,
) (Tried, error) {
	var out Tried
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		s, err := a.where.Laden(tx, actor, boat)
		if err != nil {
			return err
		}
		if err := in.Check(s.Craft.Hull.Length()); err != nil {
			return err
		}
		f := in.row(actor.Crew, boat, a.Today())
		f.ID = dry
		if id != nil {
			f.ID = *id
		}
		out = try(s, f)
		return nil
	})
	return out, err
}

func try(s *aboard.Laden, f model.Fitting) Tried {
	others := slices.DeleteFunc(slices.Clone(s.Craft.Rigging), func(o model.Fitting) bool { return o.ID == f.ID })
	all := append(others, f)
	sc := scene(s, all)
	out := Tried{Findings: findings(s, all, sc, f.ID.String()), Bears: bears(s, f), Seen: []SeenView{}}
	if f.Lies.Screen > 0 {
		out.Seen = seen(sc, f)
	}
	now := s.Solved()
	then := s.Branch()
	then.Craft = s.Craft.Rigged(all)
	with := then.Solved()
	if now.Figures != nil && with.Figures != nil {
		out.Heel, out.Trim = with.Figures.HeelDeg-now.Figures.HeelDeg, with.Figures.TrimDeg-now.Figures.TrimDeg
	}
	return out
}

func seen(sc clear.Scene, f model.Fitting) []SeenView {
	list := []SeenView{}
	names := map[string]string{}
	var bodies []clear.Obstacle
	for _, t := range sc.Things {
		names[t.ID] = t.Name
		bodies = append(bodies, clear.Obstacle{ID: t.ID, Body: t.Body()})
	}
	for _, p := range sc.Posts {
		v := aboard.ThingOf(f).SeenFrom(p, bodies)
		list = append(
			list,
			SeenView{Post: p.Name, Distance: v.Distance, Off: math.Round(v.Off), Before: names[v.Hidden], Reads: v.Reads},
		)
	}
	return list
}

func addVec(a, b model.Vec) r3.Vec { return r3.Add(a.R3(), b.R3()) }
