package api

import (
	"context"
	"encoding/gob"
	"net/http"

	"ergasia/app/crew"
	"ergasia/app/kernel"
	"ergasia/app/refuse"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
)

const sessionUser = "user"

func init() { gob.Register(kernel.SignedIn{}) }

// signedIn gives the session's user.
func (s *Server) signedIn(ctx context.Context) (kernel.SignedIn, error) {
	user, ok := s.sessions.Get(ctx, sessionUser).(kernel.SignedIn)
	if !ok {
		return user, &refuse.Error{Kind: refuse.SignedOut, Sentence: "You are not signed in."}
	}
	return user, nil
}

// begin starts a session under a new token, whatever the old one was.
func (s *Server) begin(ctx context.Context, user kernel.SignedIn) error {
	if err := s.sessions.RenewToken(ctx); err != nil {
		return err
	}
	s.sessions.Put(ctx, sessionUser, user)
	return nil
}

// browserCookie is the name of the cookie by which a browser is known.
const browserCookie = "ergasia_browser"

// Entered tells a browser the token by which it is known from then on.
type Entered struct {
	Cookie http.Cookie `header:"Set-Cookie"`
}

// enter begins a session in a browser that is known from then on.
func (s *Server) enter(ctx context.Context, user kernel.SignedIn, browser string) (*Entered, error) {
	return &Entered{Cookie: http.Cookie{Name: browserCookie, Value: browser, Path: "/api/",
		MaxAge: int(crew.BrowserLife.Seconds()), HttpOnly: true, SameSite: http.SameSiteLaxMode,
		Secure: s.sessions.Cookie.Secure}}, s.begin(ctx, user)
}

// SessionView is who is signed in, and what the sign-in page may offer.
type SessionView struct {
	SignedIn bool              `json:"signed_in"`
	Crews    []crew.Membership `json:"crews"`
	Demo     []crew.MemberView `json:"demo" doc:"In the demo: whom one press signs in as"`
	Address  string            `json:"address,omitempty" doc:"Under which phones reach the program, where its setting says so"`
	Founding bool              `json:"founding" doc:"There is no crew yet: the first is founded with the code in the program's terminal"`
}

func (s *Server) session(ctx context.Context) (*Body[SessionView], error) {
	v := SessionView{Address: s.config.PublicURL, Crews: []crew.Membership{}, Demo: []crew.MemberView{}}
	user, err := s.signedIn(ctx)
	if err == nil {
		if v.SignedIn, err = s.app.Crew.Still(ctx, user); err != nil {
			return nil, err
		}
	}
	if v.SignedIn {
		if v.Crews, err = s.app.Crew.Memberships(ctx, user.User); err != nil {
			return nil, err
		}
	} else if v.Founding, err = s.app.Crew.Founding(ctx); err != nil {
		return nil, err
	} else if s.config.Demo != nil {
		if v.Demo, err = s.app.Crew.Members(ctx, kernel.Actor{Crew: s.config.Demo.Crew}); err != nil {
			return nil, err
		}
	}
	return wrapped(v, nil)
}

func (s *Server) registerSession() {
	open(s, huma.Operation{OperationID: "get-session", Method: http.MethodGet, Path: "/api/session",
		Summary: "Who is signed in"},
		func(ctx context.Context, _ *struct{}) (*Body[SessionView], error) { return s.session(ctx) })
	open(s, huma.Operation{OperationID: "sign-in", Method: http.MethodPost, Path: "/api/session", Summary: "Sign in",
		DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, in *struct {
			Browser string `cookie:"ergasia_browser" maxLength:"100"`
			Body    struct {
				Login    string `json:"login" maxLength:"200"`
				Password string `json:"password" maxLength:"400"`
			}
		}) (*Entered, error) {
			user, browser, err := s.app.Crew.SignIn(ctx, crew.Try{Login: in.Body.Login, Password: in.Body.Password,
				Address: requestOf(ctx).address, Browser: in.Browser})
			if err != nil {
				return nil, err
			}
			return s.enter(ctx, user, browser)
		})
	open(s, huma.Operation{OperationID: "found-crew", Method: http.MethodPost, Path: "/api/found",
		Summary: "Found the first crew with the code in the program's terminal", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, in *struct{ Body crew.FoundInput }) (*Entered, error) {
			user, browser, err := s.app.Crew.FoundFirst(ctx, in.Body)
			if err != nil {
				return nil, err
			}
			return s.enter(ctx, user, browser)
		})
	open(s, huma.Operation{OperationID: "sign-out", Method: http.MethodDelete, Path: "/api/session", Summary: "Sign out",
		DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, _ *struct{}) (*struct{}, error) { return nil, s.sessions.Destroy(ctx) })
	s.registerLinks()
	if s.config.Demo == nil {
		return
	}
	open(s, huma.Operation{OperationID: "demo-sign-in", Method: http.MethodPost, Path: "/api/demo/session",
		Summary: "In the demo: sign in as one of its invented people", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, in *struct {
			Body struct {
				MemberID uuid.UUID `json:"member_id" format:"uuid"`
			}
		}) (*struct{}, error) {
			user, err := s.app.Crew.SignInAs(ctx, s.config.Demo.Crew, in.Body.MemberID)
			if err != nil {
				return nil, err
			}
			return nil, s.begin(ctx, user)
		})
}

// HeldLink is a link's token; it goes in a header, so that no log keeps it.
type HeldLink struct {
	Token string `header:"X-Link-Token" required:"true" minLength:"20" maxLength:"100"`
}

func (s *Server) registerLinks() {
	open(s, huma.Operation{OperationID: "get-link", Method: http.MethodGet, Path: "/api/link",
		Summary: "What an invitation or reset link is for"},
		func(ctx context.Context, in *HeldLink) (*Body[crew.LinkView], error) {
			return wrapped(s.app.Crew.Held(ctx, in.Token))
		})
	open(s, huma.Operation{OperationID: "use-link", Method: http.MethodPost, Path: "/api/link",
		Summary: "Accept an invitation, or set a new password", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, in *struct {
			HeldLink
			Body struct {
				Login    string `json:"login,omitempty" maxLength:"200" doc:"Of an invitation"`
				Password string `json:"password" maxLength:"400"`
			}
		}) (*Entered, error) {
			user, browser, err := s.app.Crew.UseLink(ctx, in.Token, in.Body.Login, in.Body.Password)
			if err != nil {
				return nil, err
			}
			return s.enter(ctx, user, browser)
		})
}
