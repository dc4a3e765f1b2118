package api

import (
	"context"

	"ergasia/app/gear"
	"ergasia/app/kernel"

	"github.com/google/uuid"
)

type importRequest struct {
	CrewPath
	Idempotent
	ColumnsChosen
	RawBody []byte `contentType:"text/csv"`
}

// ColumnsChosen is what a person said that the columns of a table are.
type ColumnsChosen struct {
	Columns string `query:"columns" maxLength:"16000" doc:"A JSON object of columns by heading, where a heading does not say it itself; - leaves one out"`
}

func (s *Server) registerTables() {
	readFile(s, kernel.See, op("export-gear", crewPath+"gear.csv", "The gear list as CSV").files("text/csv"),
		func(ctx context.Context, actor kernel.Actor, _ *CrewPath) (*File, error) {
			text, err := s.app.Gear.Export(ctx, actor)
			f, err := file("text/csv; charset=utf-8", "gear.csv", text, err)
			if f != nil {
				f.Disposition = `attachment; filename="gear.csv"`
			}
			return f, err
		})
	const largest = gear.MaxTableBytes + 1<<16 // a little more than is read, so that the answer can name the line
	ask(s, kernel.ChangeGear, op("preview-import", crewPath+"import-preview",
		"What would become of each row of a table; nothing is kept").upTo(largest).slow(),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			ColumnsChosen
			RawBody []byte `contentType:"text/csv"`
		}) (gear.ImportView, error) {
			chosen, err := gear.ReadChoices(in.Columns)
			if err != nil {
				return gear.ImportView{}, err
			}
			return s.app.Gear.Import(ctx, actor, uuid.Nil, in.RawBody, chosen, false)
		})
	ask(s, kernel.ChangeGear, op("import-gear", crewPath+"import",
		"Import a table, all rows or none; a large one goes on behind the answer").upTo(largest).slow(),
		func(ctx context.Context, actor kernel.Actor, in *importRequest) (gear.ImportView, error) {
			chosen, err := gear.ReadChoices(in.Columns)
			if err != nil {
				return gear.ImportView{}, err
			}
			return s.app.Gear.StartImport(ctx, actor, in.Key, in.RawBody, chosen)
		})
	read(s, kernel.ChangeGear, op("import-progress", crewPath+"import-progress",
		"How far the crew's import is, or what became of the last one"),
		func(ctx context.Context, actor kernel.Actor, _ *CrewPath) (gear.ImportView, error) {
			return s.app.Gear.ImportGoesOn(ctx, actor)
		})
	act(s, kernel.ChangeGear, op("add-lines", crewPath+"gear-lines", "Read lines of text as gear, and add it where asked"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Idempotent
			Body struct {
				Text string `json:"text" maxLength:"60000"`
				Add  bool   `json:"add" doc:"Add it; without, it is only read"`
			}
		}) (gear.LinesView, error) {
			key := in.Key
			if !in.Body.Add {
				key = uuid.Nil
			}
			return s.app.Gear.AddLines(ctx, actor, key, in.Body.Text, in.Body.Add)
		})
	read(s, kernel.See, op("gear-templates", crewPath+"gear-templates",
		"Usual things with sizes and masses that are guesses"),
		func(context.Context, kernel.Actor, *CrewPath) ([]gear.TemplateView, error) {
			return gear.Templates(), nil
		})
	act(s, kernel.ChangeGear, op("copy-from-boat", crewPath+"boats/{boat}/copies",
		"New gear like what is aboard, on the quay"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body struct {
				Gear []uuid.UUID `json:"gear,omitempty" maxItems:"500" format:"uuid" doc:"All of it where absent"`
			}
		}) (Copied, error) {
			n, err := s.app.Gear.CopyFrom(ctx, actor, in.Key, in.Boat, in.Body.Gear)
			return Copied{Count: n}, err
		})
}

// Copied says how many were made.
type Copied struct {
	Count int `json:"count"`
}
