package crew

import (
	"context"
	"errors"
	"fmt"
	"math"
	"time"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// MemberInput is what may be said of a person. Kg is the body, clothed.
type MemberInput struct {
	Name      string  `json:"name" doc:"What the crew calls them"`
	Mark      string  `json:"mark" doc:"One or two letters that mark their gear"`
	Kg        float64 `json:"kg" doc:"Body mass, clothed"`
	MassKnown string  `json:"mass_known" words:"mass_known"`
}

func (in MemberInput) check() error {
	var fs check.Faults
	fs.Text("name", in.Name, 1, 80)
	fs.Text("mark", in.Mark, 1, 2)
	fs.Within("kg", in.Kg, 10, 300)
	fs.OneOf("mass_known", in.MassKnown, words.MassKnown.Keys()...)
	return refuse.Faulty(fs.Err())
}

// MemberView is a person as the crew sees them.
type MemberView struct {
	ID uuid.UUID `json:"id" format:"uuid"`
	MemberInput
	Role    kernel.Role `json:"role" words:"roles"`
	SignsIn bool        `json:"signs_in" doc:"Whether they have a login"`
	Owns    int         `json:"owns" doc:"Entries of gear; told in the list of people"`
	Version int         `json:"version"`
}

// SeenBy is a member as the actor sees them: guests, and who is not signed in, see no
// body masses but their own.
func SeenBy(actor kernel.Actor, v MemberView) MemberView {
	if (actor.Role == kernel.Guest || actor.Role == "") && v.ID != actor.Member {
		v.Kg, v.MassKnown = 0, "guess"
	}
	return v
}

// bodyStep is in what steps guests are told of anything that bodies weigh in, kg. Practice.
const bodyStep = 10

// BodyFor is what a body weighs in the figures that an actor is given: for a guest that of
// anyone else is the next full step above it, so that no figures give a mass away, whatever
// is moved and tried, and she is never lower in the water than they say.
func BodyFor(actor kernel.Actor, member *uuid.UUID, kg float64) float64 {
	if actor.Role != kernel.Guest || member != nil && *member == actor.Member {
		return kg
	}
	return math.Ceil(kg/bodyStep) * bodyStep
}

// ViewMember is a member as others of the crew see them.
func ViewMember(m model.Member) MemberView {
	return MemberView{ID: m.ID, MemberInput: MemberInput{Name: m.Name, Mark: m.Mark, Kg: m.Kg, MassKnown: m.MassKnown},
		Role: kernel.Role(m.Role), SignsIn: m.UserID != nil, Version: m.Version}
}

// Membership is one of a user's crews.
type Membership struct {
	CrewID   uuid.UUID       `json:"crew_id" format:"uuid"`
	Crew     string          `json:"crew"`
	MemberID uuid.UUID       `json:"member_id" format:"uuid"`
	Name     string          `json:"name"`
	Mark     string          `json:"mark"`
	Role     kernel.Role     `json:"role" words:"roles"`
	Can      []kernel.Action `json:"can" words:"permissions"`
	Units    string          `json:"units" words:"units"`
	Theme    string          `json:"theme" words:"themes"`
	Boats    []BoatRef       `json:"boats"`
	Trips    []TripRef       `json:"trips" doc:"Those ahead, the next first"`
}

// BoatRef names a boat.
type BoatRef struct {
	ID   uuid.UUID `json:"id" format:"uuid"`
	Name string    `json:"name"`
}

// TripRef names a trip that is ahead.
type TripRef struct {
	ID       uuid.UUID   `json:"id" format:"uuid"`
	Name     string      `json:"name"`
	StartsOn kernel.Date `json:"starts_on"`
	BoatID   *uuid.UUID  `json:"boat_id,omitempty" format:"uuid"`
}

// mostTrips ahead that the frame of the page offers.
const mostTrips = 12

// tripsAhead are those not logged and not over yesterday, soonest first.
func (a *Wing) tripsAhead(tx *store.Tx) ([]TripRef, error) {
	var rows []model.Trip
	if err := store.Some(tx, &rows, mostTrips, "starts_on, id", "logged_at IS NULL AND ends_on >= ?", a.Today()); err != nil {
		return nil, fmt.Errorf("reading the trips ahead: %w", err)
	}
	list := []TripRef{}
	for _, t := range rows {
		list = append(list, TripRef{ID: t.ID, Name: t.Name, StartsOn: kernel.DayOf(t.StartsOn), BoatID: t.BoatID})
	}
	return list, nil
}

// Memberships lists the crews of a user, with their boats and the trips ahead.
func (a *Wing) Memberships(ctx context.Context, user uuid.UUID) ([]Membership, error) {
	list := []Membership{}
	var members []model.Member
	err := a.DB.In(ctx, store.Scope{User: user}, func(tx *store.Tx) error {
		return store.All(tx, &members, "created_at, id", "user_id = ?", user)
	})
	for i := 0; err == nil && i < len(members); i++ {
		m := members[i]
		err = a.DB.In(ctx, store.Scope{Crew: m.CrewID}, func(tx *store.Tx) error {
			var crew model.Crew
			if err := store.One(tx, &crew, "id = ?", m.CrewID); err != nil {
				return err
			}
			boats := []BoatRef{}
			if err := tx.Read(&boats, "SELECT id, name FROM boat WHERE crew_id = @crew ORDER BY created_at, id",
				nil); err != nil {
				return err
			}
			ahead, err := a.tripsAhead(tx)
			if err != nil {
				return err
			}
			one := Membership{CrewID: m.CrewID, Crew: crew.Name, MemberID: m.ID, Name: m.Name, Mark: m.Mark,
				Role: kernel.Role(m.Role), Can: kernel.Actions(kernel.Role(m.Role)), Units: m.Units, Theme: m.Theme, Boats: boats,
				Trips: ahead}
			list = append(list, one)
			return nil
		})
	}
	if err != nil {
		return nil, fmt.Errorf("listing the crews: %w", err)
	}
	return list, nil
}

// CrewOf gives the first crew of a login, or nil where nobody has it.
func (a *Wing) CrewOf(ctx context.Context, login string) (uuid.UUID, error) {
	var user model.User
	err := a.DB.In(ctx, store.Scope{}, func(tx *store.Tx) error { return store.One(tx, &user, "login = ?", login) })
	if errors.Is(err, store.ErrNone) {
		return uuid.Nil, nil
	}
	if err != nil {
		return uuid.Nil, fmt.Errorf("looking for %s: %w", login, err)
	}
	crews, err := a.Memberships(ctx, user.ID)
	if err != nil || len(crews) == 0 {
		return uuid.Nil, err
	}
	return crews[0].CrewID, nil
}

// Found makes a crew with its first owner. The command line calls it, and FoundFirst.
func (a *Wing) Found(ctx context.Context, crewName, name, login, password string) (crew, owner uuid.UUID, err error) {
	return a.found(ctx, crewName, name, login, password, func(*store.Tx) error { return nil })
}

// found is Found where something else goes well too, in the same transaction.
func (a *Wing) found(ctx context.Context, crewName, name, login, password string,
	also func(*store.Tx) error) (crew, owner uuid.UUID, err error) {
	user, err := newUser(login, password)
	if err != nil {
		return crew, owner, err
	}
	var fs check.Faults
	fs.Text("crew", crewName, 1, 80)
	fs.Text("name", name, 1, 80)
	if err := refuse.Faulty(fs.Err()); err != nil {
		return crew, owner, err
	}
	crew, owner = store.NewID(), store.NewID()
	err = a.DB.In(ctx, store.Scope{Crew: crew}, func(tx *store.Tx) error {
		if err := also(tx); err != nil {
			return err
		}
		if err := store.Add(tx, &user); err != nil {
			return kernel.Taken(err, "login", user.Login)
		}
		if err := store.Add(tx, &model.Crew{ID: crew, Name: crewName}); err != nil {
			return err
		}
		return store.Add(tx, &model.Member{ID: owner, CrewID: crew, UserID: &user.ID, Name: name, Role: string(kernel.Owner),
			Mark: firstLetter(name), Kg: defaultBodyKg, MassKnown: "guess", Units: "metric", Theme: "paper", Version: 1})
	})
	return crew, owner, err
}

// defaultBodyKg is a clothed adult whom nobody weighed. Practice, no source.
const defaultBodyKg = 85

func firstLetter(name string) string { return string([]rune(name)[:1]) }

// Members lists the crew.
func (a *Wing) Members(ctx context.Context, actor kernel.Actor) ([]MemberView, error) {
	list := []MemberView{}
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		var rows []model.Member
		var owns []struct {
			ID uuid.UUID
			N  int
		}
		err := errors.Join(store.All(tx, &rows, "created_at, id", "left_at IS NULL"),
			tx.Read(&owns, "SELECT owner_id AS id, count(*) AS n FROM gear WHERE crew_id = @crew GROUP BY owner_id", nil))
		for _, m := range rows {
			v := SeenBy(actor, ViewMember(m))
			for _, o := range owns {
				if o.ID == m.ID {
					v.Owns = o.N
				}
			}
			list = append(list, v)
		}
		return err
	})
	return list, err
}

// ChangeMember changes a person. A stale version is refused with the present.
func (a *Wing) ChangeMember(ctx context.Context, actor kernel.Actor, id uuid.UUID, version int,
	in MemberInput) (MemberView, error) {
	if err := in.check(); err != nil {
		return MemberView{}, err
	}
	return a.updateMember(ctx, actor, id, version, map[string]any{"name": in.Name, "mark": in.Mark, "kg": in.Kg,
		"mass_known": in.MassKnown})
}

// GiveRole changes what a member may do. The last owner stays one.
func (a *Wing) GiveRole(ctx context.Context, actor kernel.Actor, id uuid.UUID, version int,
	role kernel.Role) (MemberView, error) {
	var fs check.Faults
	fs.OneOf("role", string(role), words.Roles.Keys()...)
	if err := refuse.Faulty(fs.Err()); err != nil {
		return MemberView{}, err
	}
	return a.updateMember(ctx, actor, id, version, map[string]any{"role": string(role)})
}

// Choose sets the actor's own units and theme.
func (a *Wing) Choose(ctx context.Context, actor kernel.Actor, units, theme string) error {
	var fs check.Faults
	fs.OneOf("units", units, words.Units.Keys()...)
	fs.OneOf("theme", theme, words.Themes.Keys()...)
	if err := refuse.Faulty(fs.Err()); err != nil {
		return err
	}
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		return store.Set[model.Member](tx, map[string]any{"units": units, "theme": theme}, "id = ?", actor.Member)
	})
}

func (a *Wing) updateMember(ctx context.Context, actor kernel.Actor, id uuid.UUID, version int,
	change map[string]any) (MemberView, error) {
	var m model.Member
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		if err := store.Exists[model.Member](tx, "id = ? AND left_at IS NULL", id); err != nil {
			return kernel.Absent(err, "person")
		}
		changed := store.Change[model.Member](tx, id, version, change)
		if err := store.One(tx, &m, "id = ?", id); err != nil {
			return kernel.Absent(err, "person")
		}
		if errors.Is(changed, store.ErrStale) {
			return refuse.Stale(m.Name, ViewMember(m))
		}
		if changed != nil {
			return fmt.Errorf("changing the person: %w", changed)
		}
		return ownerLeft(tx)
	})
	return ViewMember(m), err
}

// ownerLeft refuses what leaves a crew without an owner who can sign in.
func ownerLeft(tx *store.Tx) error {
	owners, err := store.Count[model.Member](tx, "role = 'owner' AND user_id IS NOT NULL")
	if err != nil {
		return err
	}
	if owners == 0 {
		return &refuse.Error{Kind: refuse.Refused,
			Sentence: "A crew needs an owner who can sign in: make someone else one first."}
	}
	return nil
}

// End ends a membership: who leaves doesn't sign in to the crew any more, and
// their sessions, links and calendar end. What they did keeps their name.
func End(tx *store.Tx, m model.Member) error {
	if err := errors.Join(forget[model.Link](tx, m.ID), forget[model.CalendarFeed](tx, m.ID)); err != nil {
		return err
	}
	if m.UserID != nil {
		var user model.User
		if err := store.One(tx, &user, "id = ?", *m.UserID); err != nil {
			return fmt.Errorf("finding the login: %w", err)
		}
		if err := store.Set[model.User](tx, map[string]any{"epoch": user.Epoch + 1}, "id = ?", user.ID); err != nil {
			return fmt.Errorf("ending the sessions: %w", err)
		}
	}
	err := store.Set[model.Member](tx, map[string]any{"left_at": tx.Now(), "user_id": nil, "version": m.Version + 1},
		"id = ?", m.ID)
	if err != nil {
		return fmt.Errorf("ending the membership: %w", err)
	}
	if err := tx.NotifyLeft(m.ID); err != nil {
		return err
	}
	return ownerLeft(tx)
}

// forget removes a member's secrets of a kind.
func forget[T store.Row](tx *store.Tx, member uuid.UUID) error {
	if err := store.Remove[T](tx, "member_id = ?", member); err != nil && !errors.Is(err, store.ErrNone) {
		return fmt.Errorf("ending links: %w", err)
	}
	return nil
}

// LinkLife is how long an invitation or reset link works.
const LinkLife = 7 * 24 * time.Hour

// Link is a new invitation or reset: the token is shown once and never kept.
type Link struct {
	Token     string     `json:"token"`
	Member    MemberView `json:"member"`
	ExpiresAt time.Time  `json:"expires_at"`
}

// Invite makes a person with a role, and a link by which they get a login.
func (a *Wing) Invite(ctx context.Context, actor kernel.Actor, key uuid.UUID, in MemberInput, role kernel.Role) (Link,
	error) {
	var fs check.Faults
	fs.OneOf("role", string(role), words.Roles.Keys()...)
	if err := errors.Join(refuse.Faulty(fs.Err()), in.check()); err != nil {
		return Link{}, err
	}
	var made Link
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		_, again, err := a.Once(tx, actor, key, []any{in, role}, func() (uuid.UUID, error) {
			m := model.Member{ID: store.NewID(), CrewID: actor.Crew, Name: in.Name, Role: string(role), Mark: in.Mark,
				Kg: in.Kg, MassKnown: in.MassKnown, Units: "metric", Theme: "paper", Version: 1}
			if err := store.Add(tx, &m); err != nil {
				return uuid.Nil, fmt.Errorf("adding the person: %w", err)
			}
			var err error
			made, err = a.newLink(tx, actor, "invitation", m)
			return m.ID, err
		})
		if again {
			return &refuse.Error{Kind: refuse.Conflict,
				Sentence: "This invitation was made already, and its link is shown only once: make a reset link for the person instead."}
		}
		return err
	})
	return made, err
}

// ResetLink makes a link by which a member sets a new password; for one who
// has no login yet it is a new invitation.
func (a *Wing) ResetLink(ctx context.Context, actor kernel.Actor, member uuid.UUID) (Link, error) {
	var made Link
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		var m model.Member
		if err := store.One(tx, &m, "id = ? AND left_at IS NULL", member); err != nil {
			return kernel.Absent(err, "person")
		}
		kind := "reset"
		if m.UserID == nil {
			kind = "invitation"
		}
		var err error
		made, err = a.newLink(tx, actor, kind, m)
		return err
	})
	return made, err
}

// newLink makes a link and ends the member's earlier ones.
func (a *Wing) newLink(tx *store.Tx, actor kernel.Actor, kind string, m model.Member) (Link, error) {
	token := kernel.NewToken()
	if err := forget[model.Link](tx, m.ID); err != nil {
		return Link{}, err
	}
	l := model.Link{ID: store.NewID(), CrewID: actor.Crew, Kind: kind, TokenHash: kernel.HashOf(token), MemberID: m.ID,
		MadeBy: actor.Member, ExpiresAt: a.Now().Add(LinkLife)}
	if err := store.Add(tx, &l); err != nil {
		return Link{}, fmt.Errorf("keeping the link: %w", err)
	}
	return Link{Token: token, Member: ViewMember(m), ExpiresAt: l.ExpiresAt}, nil
}

// LinkView is what whoever holds a link may know before using it.
type LinkView struct {
	Kind string `json:"kind" enum:"invitation,reset"`
	Crew string `json:"crew"`
	Name string `json:"name"`
}

func spentLink() error {
	return &refuse.Error{Kind: refuse.NotFound, Sentence: "This link was used, has run out or was replaced: ask an owner of the crew for a new one."}
}

// Held shows what a link is for.
func (a *Wing) Held(ctx context.Context, token string) (LinkView, error) {
	l, err := a.findLink(ctx, token)
	if err != nil {
		return LinkView{}, err
	}
	v := LinkView{Kind: l.Kind}
	err = a.DB.In(ctx, store.Scope{Crew: l.CrewID}, func(tx *store.Tx) error {
		var m model.Member
		var c model.Crew
		err := errors.Join(store.One(tx, &m, "id = ?", l.MemberID), store.One(tx, &c, "id = ?", l.CrewID))
		v.Crew, v.Name = c.Name, m.Name
		return err
	})
	return v, err
}

func (a *Wing) findLink(ctx context.Context, token string) (model.Link, error) {
	var l model.Link
	hash := kernel.HashOf(token)
	err := a.DB.In(ctx, store.Scope{Link: hash}, func(tx *store.Tx) error {
		return store.One(tx, &l, "token_hash = ? AND used_at IS NULL AND expires_at > ?", hash, a.Now())
	})
	if errors.Is(err, store.ErrNone) {
		return l, spentLink()
	}
	return l, err
}

// UseLink accepts an invitation with a new login, or sets a new password (the
// login is then not used). Every earlier session of the user ends. It gives the
// token by which the browser is known.
func (a *Wing) UseLink(ctx context.Context, token, login, password string) (in kernel.SignedIn, browser string,
	err error) {
	l, err := a.findLink(ctx, token)
	if err != nil {
		return in, "", err
	}
	var user model.User
	if l.Kind == "invitation" {
		if user, err = newUser(login, password); err != nil {
			return in, "", err
		}
	} else {
		var fs check.Faults
		hash, err := hashPassword(&fs, password)
		if err := errors.Join(err, refuse.Faulty(fs.Err())); err != nil {
			return in, "", err
		}
		user.PasswordHash = hash
	}
	err = a.DB.In(ctx, store.Scope{Crew: l.CrewID}, func(tx *store.Tx) error {
		used := store.SetOne[model.Link](tx, map[string]any{"used_at": a.Now()}, "id = ? AND used_at IS NULL", l.ID)
		if errors.Is(used, store.ErrNone) {
			return spentLink()
		}
		if used != nil {
			return fmt.Errorf("using the link: %w", used)
		}
		become := resetPassword
		if l.Kind == "invitation" {
			become = acceptInvitation
		}
		if err := become(tx, l, &user); err != nil {
			return err
		}
		browser, err = a.knows(tx, user.ID, "")
		return err
	})
	return kernel.SignedIn{User: user.ID, Epoch: user.Epoch}, browser, err
}

func acceptInvitation(tx *store.Tx, l model.Link, user *model.User) error {
	if err := store.Add(tx, user); err != nil {
		return kernel.Taken(err, "login", user.Login)
	}
	return store.Set[model.Member](tx, map[string]any{"user_id": user.ID}, "id = ? AND user_id IS NULL", l.MemberID)
}

func resetPassword(tx *store.Tx, l model.Link, user *model.User) error {
	var m model.Member
	if err := store.One(tx, &m, "id = ? AND user_id IS NOT NULL", l.MemberID); err != nil {
		return kernel.Absent(err, "person")
	}
	hash := user.PasswordHash
	if err := store.One(tx, user, "id = ?", *m.UserID); err != nil {
		return err
	}
	user.Epoch++
	user.PasswordHash = hash
	err := store.Set[model.User](tx, map[string]any{"password_hash": hash, "epoch": user.Epoch}, "id = ?", user.ID)
	if err != nil {
		return fmt.Errorf("setting the password: %w", err)
	}
	if err := forget[model.CalendarFeed](tx, m.ID); err != nil { // whoever had the old password may have made it
		return err
	}
	if err := store.Remove[model.KnownBrowser](tx, "user_id = ?", user.ID); err != nil && !errors.Is(err, store.ErrNone) {
		return fmt.Errorf("forgetting the browsers: %w", err)
	}
	return forgetFailures(tx, "key = ? OR starts_with(key, ?)", loginKey(user.Login), loginKey(user.Login)+" from ")
}
