package api

import (
	"context"
	"net/http"

	"ergasia/app/crew"
	"ergasia/app/kernel"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
)

// MemberPath is the person that an operation is about.
type MemberPath struct {
	CrewPath
	Member uuid.UUID `path:"member" format:"uuid"`
}

func (s *Server) registerCrew() {
	crewOperation(s, kernel.See, huma.Operation{OperationID: "list-members", Method: http.MethodGet, Path: "/api/crews/{crew}/members", Summary: "The crew's people"},
		func(ctx context.Context, actor kernel.Actor, _ *CrewPath) (*Body[[]crew.MemberView], error) {
			return body(s.app.Crew.Members(ctx, actor))
		})
	crewOperation(s, kernel.ChangeCrew, huma.Operation{OperationID: "change-member", Method: http.MethodPut, Path: "/api/crews/{crew}/members/{member}", Summary: "Change a person"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			MemberPath
			Body struct {
				crew.MemberInput
				Version int `json:"version"`
			}
		}) (*Body[crew.MemberView], error) {
			return body(s.app.Crew.ChangeMember(ctx, actor, in.Member, in.Body.Version, in.Body.MemberInput))
		})
	crewOperation(s, kernel.Invite, huma.Operation{OperationID: "give-role", Method: http.MethodPut, Path: "/api/crews/{crew}/members/{member}/role", Summary: "Give a role"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			MemberPath
			Body struct {
				Role    kernel.Role `json:"role" enum:"owner,skipper,hand,guest"`
				Version int         `json:"version"`
			}
		}) (*Body[crew.MemberView], error) {
			return body(s.app.Crew.GiveRole(ctx, actor, in.Member, in.Body.Version, in.Body.Role))
		})
	crewOperation(s, kernel.Invite, huma.Operation{OperationID: "invite", Method: http.MethodPost, Path: "/api/crews/{crew}/invitations", Summary: "Add a person and make their invitation link"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Idempotent
			Body struct {
				crew.MemberInput
				Role kernel.Role `json:"role" enum:"owner,skipper,hand,guest"`
			}
		}) (*Body[crew.Link], error) {
			return body(s.app.Crew.Invite(ctx, actor, in.Key, in.Body.MemberInput, in.Body.Role))
		})
	crewOperation(s, kernel.Invite, huma.Operation{OperationID: "make-reset-link", Method: http.MethodPost, Path: "/api/crews/{crew}/members/{member}/reset-link", Summary: "Make a password-reset link"},
		func(ctx context.Context, actor kernel.Actor, in *MemberPath) (*Body[crew.Link], error) {
			return body(s.app.Crew.ResetLink(ctx, actor, in.Member))
		})
	crewOperation(s, kernel.OwnSettings, huma.Operation{OperationID: "choose-settings", Method: http.MethodPut, Path: "/api/crews/{crew}/settings",
		Summary: "Choose one's own units and theme", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Body struct {
				Units string `json:"units" enum:"metric,us"`
				Theme string `json:"theme" enum:"paper,night"`
			}
		}) (*struct{}, error) {
			return nil, s.app.Crew.Choose(ctx, actor, in.Body.Units, in.Body.Theme)
		})
}
