package api

import (
	"context"
	"net/http"

	"ergasia/app/gear"
	"ergasia/app/kernel"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
)

type importRequest struct {
	CrewPath
	Idempotent
	RawBody []byte `contentType:"text/csv"`
}

func (s *Server) registerTables() {
	crewOperation(s, kernel.See, huma.Operation{OperationID: "export-gear", Method: http.MethodGet, Path: crewPath + "gear.csv", Summary: "The gear list as CSV", Responses: fileAnswer("text/csv")},
		func(ctx context.Context, actor kernel.Actor, _ *CrewPath) (*File, error) {
			text, err := s.app.Gear.Export(ctx, actor)
			f, err := file("text/csv; charset=utf-8", "gear.csv", text, err)
			if f != nil {
				f.Disposition = `attachment; filename="gear.csv"`
			}
			return f, err
		})
	const largest = gear.MaxTableBytes + 1<<16 // a little more than is read, so that the answer can name the line
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "preview-import", Method: http.MethodPost, Path: crewPath + "import-preview", MaxBodyBytes: largest,
		Summary: "What would become of each row of a table; nothing is kept"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			RawBody []byte `contentType:"text/csv"`
		}) (*Body[gear.ImportView], error) {
			return body(s.app.Gear.Import(ctx, actor, uuid.Nil, in.RawBody, false))
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "import-gear", Method: http.MethodPost, Path: crewPath + "import", MaxBodyBytes: largest,
		Summary: "Import a table, all rows or none"},
		func(ctx context.Context, actor kernel.Actor, in *importRequest) (*Body[gear.ImportView], error) {
			return body(s.app.Gear.Import(ctx, actor, in.Key, in.RawBody, true))
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "add-lines", Method: http.MethodPost, Path: crewPath + "gear-lines", Summary: "Read lines of text as gear, and add it where asked"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Idempotent
			Body struct {
				Text string `json:"text" maxLength:"60000"`
				Add  bool   `json:"add" doc:"Add it; without, it is only read"`
			}
		}) (*Body[gear.LinesView], error) {
			key := in.Key
			if !in.Body.Add {
				key = uuid.Nil
			}
			return body(s.app.Gear.AddLines(ctx, actor, key, in.Body.Text, in.Body.Add))
		})
	crewOperation(s, kernel.See, huma.Operation{OperationID: "gear-templates", Method: http.MethodGet, Path: crewPath + "gear-templates", Summary: "Usual things with sizes and masses that are guesses"},
		func(context.Context, kernel.Actor, *CrewPath) (*Body[[]gear.TemplateView], error) {
			return body(gear.Templates(), nil)
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "copy-from-boat", Method: http.MethodPost, Path: crewPath + "boats/{boat}/copies", Summary: "New gear like what is aboard, on the quay"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body struct {
				Gear []uuid.UUID `json:"gear,omitempty" maxItems:"500" format:"uuid" doc:"All of it where absent"`
			}
		}) (*Body[Copied], error) {
			n, err := s.app.Gear.CopyFrom(ctx, actor, in.Key, in.Boat, in.Body.Gear)
			return body(Copied{Count: n}, err)
		})
}

// Copied says how many were made.
type Copied struct {
	Count int `json:"count"`
}
