package api

import (
	"context"
	"net/http"

	"ergasia/app/gear"
	"ergasia/app/kernel"

	"github.com/danielgtaylor/huma/v2"
)

func (s *Server) registerLabels() {
	crewOperation(s, kernel.See, huma.Operation{OperationID: "label-sheets", Method: http.MethodGet, Path: crewPath + "label-sheets", Summary: "Sheets that labels can be printed on"},
		func(context.Context, kernel.Actor, *CrewPath) (*Body[[]gear.SheetView], error) {
			return body(gear.LabelSheets(), nil)
		})
	crewOperation(s, kernel.See, huma.Operation{OperationID: "get-label", Method: http.MethodGet, Path: crewPath + "labels/{code}", Summary: "What a label's code is on"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Code string `path:"code"`
		}) (*Body[gear.Hit], error) {
			return body(s.app.Gear.Label(ctx, actor, in.Code))
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "print-labels", Method: http.MethodPost, Path: crewPath + "labels", Summary: "A PDF of labels; what had no code gets one",
		Responses: fileAnswer("application/pdf")},
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
