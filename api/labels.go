package api

import (
	"context"

	"ergasia/app/gear"
	"ergasia/app/kernel"
)

func (s *Server) registerLabels() {
	read(s, kernel.See, op("label-sheets", crewPath+"label-sheets", "Sheets that labels can be printed on"),
		func(context.Context, kernel.Actor, *CrewPath) ([]gear.SheetView, error) {
			return gear.LabelSheets(), nil
		})
	read(s, kernel.See, op("get-label", crewPath+"labels/{code}", "What a label's code is on"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Code string `path:"code"`
		}) (gear.Hit, error) {
			return s.app.Gear.Label(ctx, actor, in.Code)
		})
	printFile(s, kernel.ChangeGear, op("print-labels", crewPath+"labels",
		"A PDF of labels; what had no code gets one").files("application/pdf"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Body struct {
				gear.LabelsInput
				Address string `json:"address" maxLength:"200" pattern:"^https?://[^/?#@\\s]+$" doc:"Under which phones reach the program; the server's own setting wins"`
			}
		}) (*File, error) {
			address := in.Body.Address
			if s.config.PublicURL != "" {
				address = s.config.PublicURL
			}
			text, err := s.app.Gear.Labels(ctx, actor, address, in.Body.LabelsInput)
			return file("application/pdf", "labels.pdf", text, err)
		})
}
