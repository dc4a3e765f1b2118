package aboard

import (
	"ergasia/core/check"
	"ergasia/core/hull"
	"ergasia/store/model"
)

// ShapeOf checks the input and makes the hull and its shell.
func ShapeOf(in model.HullInput) (hull.Hull, *hull.Shell, error) {
	h, err := bareOf(in)
	if err != nil {
		return h, nil, err
	}
	var fs check.Faults
	if in.Deck != nil {
		in.Deck.Check(&fs, "hull.deck.")
	}
	if in.Well != nil {
		in.Well.Check(&fs, "hull.well.")
		if len(h.FloodPoints) == 0 {
			fs.Add("hull.well", nil, "a splash well needs a transom notch before it: enter one as a flood point")
		}
	}
	if len(fs) > 0 {
		return h, nil, fs
	}
	if in.Well != nil {
		h = h.WithWell(*in.Well)
	}
	if in.Deck != nil {
		h = h.WithDeck(*in.Deck)
	}
	if err := h.Check("hull."); err != nil {
		return h, nil, err
	}
	shell, err := h.Shell()
	return h, shell, err
}

// bareOf is the hull without deck and well.
func bareOf(in model.HullInput) (hull.Hull, error) {
	var h hull.Hull
	switch {
	case (in.Form != "") == (len(in.Stations) > 0):
		return h, check.Faults{{Field: "hull", Want: "give either a form with its measures or stations"}}
	case in.Form != "":
		form, ok := hull.FormNamed(in.Form)
		if !ok {
			return h, check.Faults{{Field: "hull.form", Value: in.Form, Want: "is no form that is known here"}}
		}
		if err := form.Check("hull.measures.", hull.Tape(in.Measures)); err != nil {
			return h, err
		}
		h = form.Hull(hull.Tape(in.Measures))
	default:
		for _, s := range in.Stations {
			st := hull.Station{X: s.X, PointX: s.PointX}
			for _, p := range s.Half {
				st.Half = append(st.Half, hull.Point{Y: p[0], Z: p[1]})
			}
			h.Stations = append(h.Stations, st)
		}
	}
	for _, p := range in.FloodPoints {
		h.FloodPoints = append(h.FloodPoints, hull.FloodPoint{Name: p.Name, At: p.At.R3(), Space: p.Space})
	}
	return h, nil
}
