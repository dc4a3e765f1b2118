package api

import (
	"context"

	"ergasia/app/crew"
	"ergasia/app/gear"
	"ergasia/app/kernel"

	"github.com/google/uuid"
)

// MemberPath is the person that an operation is about.
type MemberPath struct {
	CrewPath
	Member uuid.UUID `path:"member" format:"uuid"`
}

func (s *Server) registerCrew() {
	read(s, kernel.See, op("list-members", "/api/crews/{crew}/members", "The crew's people"),
		func(ctx context.Context, actor kernel.Actor, _ *CrewPath) ([]crew.MemberView, error) {
			return s.app.Crew.Members(ctx, actor)
		})
	replace(s, kernel.ChangeCrew, op("change-member", "/api/crews/{crew}/members/{member}", "Change a person"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			MemberPath
			Body struct {
				crew.MemberInput
				Version int `json:"version"`
			}
		}) (crew.MemberView, error) {
			return s.app.Crew.ChangeMember(ctx, actor, in.Member, in.Body.Version, in.Body.MemberInput)
		})
	replace(s, kernel.Invite, op("give-role", "/api/crews/{crew}/members/{member}/role", "Give a role"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			MemberPath
			Body struct {
				Role    kernel.Role `json:"role" words:"roles"`
				Version int         `json:"version"`
			}
		}) (crew.MemberView, error) {
			return s.app.Crew.GiveRole(ctx, actor, in.Member, in.Body.Version, in.Body.Role)
		})
	act(s, kernel.Invite, op("invite", "/api/crews/{crew}/invitations", "Add a person and make their invitation link"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Idempotent
			Body struct {
				crew.MemberInput
				Role kernel.Role `json:"role" words:"roles"`
			}
		}) (crew.Link, error) {
			return s.app.Crew.Invite(ctx, actor, in.Key, in.Body.MemberInput, in.Body.Role)
		})
	ask(s, kernel.Invite, op("make-reset-link", "/api/crews/{crew}/members/{member}/reset-link",
		"Make a password-reset link"),
		func(ctx context.Context, actor kernel.Actor, in *MemberPath) (crew.Link, error) {
			return s.app.Crew.ResetLink(ctx, actor, in.Member)
		})
	doing(s, kernel.Invite, op("part-with-member", "/api/crews/{crew}/members/{member}/leaving",
		"Take a person off the crew, and say where their gear goes"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			MemberPath
			Idempotent
			Body gear.LeavingInput
		}) error {
			return s.app.Gear.PartWith(ctx, actor, in.Key, in.Member, in.Body)
		})
	setting(s, kernel.OwnSettings, op("choose-settings", "/api/crews/{crew}/settings", "Choose one's own units and theme"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Body struct {
				Units string `json:"units" words:"units"`
				Theme string `json:"theme" words:"themes"`
			}
		}) error {
			return s.app.Crew.Choose(ctx, actor, in.Body.Units, in.Body.Theme)
		})
}
