package crew

import (
	"context"
	"errors"
	"fmt"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Actor finds the membership of a session's user in a crew, and refuses the
// action where the role may not. A crew that the user is not in looks like none. Whose
// session was ended is signed out.
func (a *Wing) Actor(ctx context.Context, session kernel.SignedIn, crew uuid.UUID, action kernel.Action) (kernel.Actor,
	error) {
	var m model.Member
	err := a.DB.In(ctx, store.Scope{Crew: crew, User: session.User}, func(tx *store.Tx) error {
		return store.One(tx, &m, "user_id = (SELECT id FROM app_user WHERE id = ? AND epoch = ?)", session.User,
			session.Epoch)
	})
	if errors.Is(err, store.ErrNone) {
		still, err := a.Still(ctx, session)
		if err != nil {
			return kernel.Actor{}, fmt.Errorf("looking whether the session goes on: %w", err)
		}
		if !still {
			return kernel.Actor{}, &refuse.Error{Kind: refuse.SignedOut, Sentence: "You are not signed in."}
		}
		return kernel.Actor{}, &refuse.Error{Kind: refuse.NotFound, Sentence: "There is no such crew, or you are not in it."}
	}
	if err != nil {
		return kernel.Actor{}, fmt.Errorf("finding the membership: %w", err)
	}
	actor := kernel.Actor{Crew: crew, User: session.User, Member: m.ID, Role: kernel.Role(m.Role), Units: m.Units}
	if !kernel.Allowed(actor.Role, action) {
		return kernel.Actor{}, &refuse.Error{Kind: refuse.Forbidden, Sentence: fmt.Sprintf("A %s may not %s; ask %s.",
			m.Role, action, kernel.Who(action))}
	}
	return actor, nil
}
