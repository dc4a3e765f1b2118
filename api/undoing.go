package api

import (
	"context"

	"ergasia/app/kernel"
	"ergasia/app/undoing"

	"github.com/google/uuid"
)

func (s *Server) registerUndoing() {
	read(s, kernel.Move, op("last-undoable", crewPath+"undoable", "What the caller did last that can be taken back"),
		func(ctx context.Context, actor kernel.Actor, _ *CrewPath) (undoing.Last, error) {
			return s.app.Undoing.Last(ctx, actor)
		})
	act(s, kernel.Move, op("take-back", crewPath+"undoable/{undoable}/undo",
		"Take back what the caller did in one stroke: removals, layouts, tables").slow(),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Idempotent
			Undoable uuid.UUID `path:"undoable" format:"uuid"`
		}) (undoing.Undone, error) {
			return s.app.Undoing.Undo(ctx, actor, in.Key, in.Undoable)
		})
}
