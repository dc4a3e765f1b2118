package api

import (
	"context"

	"ergasia/app/crew"
	"ergasia/app/kernel"
)

func (s *Server) registerTimes() {
	const path = "/api/crews/{crew}/times"
	read(s, kernel.See, op("get-times", path, "How long things take in this crew"),
		func(ctx context.Context, actor kernel.Actor, _ *CrewPath) (crew.Times, error) {
			return s.app.Crew.Times(ctx, actor)
		})
	replace(s, kernel.ChangeBoat, op("set-times", path, "Set the crew's own times; the usual ones forget them"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Body crew.TimeTable
		}) (crew.Times, error) {
			return s.app.Crew.SetTimes(ctx, actor, in.Body)
		})
}
