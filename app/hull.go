package app

import (
	"context"
	"errors"
	"fmt"
	"math"

	"ergasia/core/check"
	"ergasia/core/hull"
	"ergasia/formats/offsets"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
	"gorm.io/gorm"
)

// HullInput is the shape of a boat: either the tape measures of a form, or stations.
type HullInput struct {
	Form        string             `json:"form,omitempty" doc:"Which form the measures are of, see hull-forms"`
	Measures    map[string]float64 `json:"measures,omitempty" doc:"By the form's keys: metres and degrees"`
	Stations    []StationInput     `json:"stations,omitempty" maxItems:"401" doc:"Or her stations, aft to fore"`
	Deck        *hull.Deck         `json:"deck,omitempty" doc:"Where she has a self-draining deck"`
	Well        *hull.Well         `json:"well,omitempty" doc:"Where she has a splash well before the transom's notch"`
	FloodPoints []FloodInput       `json:"flood_points,omitempty" maxItems:"50" doc:"Where water first comes in, beside what the form gives"`
}

// StationInput is a half-section from keel to sheer.
type StationInput struct {
	X      float64      `json:"x_m"`
	PointX []float64    `json:"point_x_m,omitempty" maxItems:"201" doc:"An x for each point, as a raked transom needs"`
	Half   [][2]float64 `json:"half_section_yz_m" minItems:"2" maxItems:"201"`
}

// FloodInput is a flood point.
type FloodInput struct {
	Name  string `json:"name"`
	At    Vec    `json:"at_m"`
	Space string `json:"space,omitempty" doc:"The space that it leads into: water through it does not swamp her"`
}

// shape checks the input and makes the hull and its shell.
func (in HullInput) shape() (hull.Hull, *hull.Shell, error) {
	h, err := in.bare()
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

// bare is the hull without deck and well.
func (in HullInput) bare() (hull.Hull, error) {
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
		h.FloodPoints = append(h.FloodPoints, hull.FloodPoint{Name: p.Name, At: p.At.r3(), Space: p.Space})
	}
	return h, nil
}

// HullPreview is the hull that measures make, drawn while they are typed.
type HullPreview struct {
	Faults  []Fault      `json:"faults" doc:"What keeps a hull from being made"`
	Doubts  []hull.Doubt `json:"doubts" doc:"Measures that look wrong, though a hull can be made"`
	Lines   *hull.Lines  `json:"lines,omitempty"`
	Floods  []FloodInput `json:"flood_points"`
	Length  float64      `json:"length_m"`
	Beam    float64      `json:"beam_m"`
	HoldsM3 float64      `json:"holds_m3" doc:"All of her inside, up to the sheer"`
	FullKg  float64      `json:"full_kg" doc:"Displacement, level, at which water comes in"`
	LightCm float64      `json:"kg_per_cm" doc:"Kilograms that sink her a centimetre, at a third of her depth"`
}

// Fault is a measure that is wrong.
type Fault struct {
	Field    string `json:"field"`
	Sentence string `json:"sentence"`
}

// PreviewHull works a hull out without keeping it.
func PreviewHull(in HullInput, water float64) HullPreview {
	v := HullPreview{Faults: []Fault{}, Doubts: []hull.Doubt{}, Floods: []FloodInput{}}
	h, shell, err := in.shape()
	var fs check.Faults
	if errors.As(err, &fs) {
		for _, f := range fs {
			v.Faults = append(v.Faults, Fault{f.Field, f.Want})
		}
	}
	if err != nil {
		return v
	}
	if form, ok := hull.FormNamed(in.Form); ok {
		v.Doubts = form.Doubts(hull.Tape(in.Measures))
	}
	if len(in.Stations) > 0 {
		v.Doubts = originDoubts(h, shell)
	}
	lines := h.Lines(sections)
	v.Lines = &lines
	v.Length, v.Beam, v.HoldsM3 = shell.High.X-shell.Low.X, shell.High.Y-shell.Low.Y, shell.Holds
	full := shell.Sheer[0].Z
	for _, p := range shell.Sheer {
		full = min(full, p.Z)
	}
	for _, p := range h.FloodPoints {
		v.Floods = append(v.Floods, FloodInput{p.Name, vec(p.At), p.Space})
		if p.Space == "" {
			full = min(full, p.At.Z)
		}
	}
	under := func(z float64) float64 {
		return shell.Within(shell.Low, r3.Vec{X: shell.High.X, Y: shell.High.Y, Z: z}).Volume() * water
	}
	v.FullKg = under(full)
	third := shell.Low.Z + (full-shell.Low.Z)/3
	v.LightCm = under(third+0.005) - under(third-0.005)
	return v
}

// originDoubts tells where a table of offsets counts from elsewhere than the
// program does; places and masses would then stand wrong.
func originDoubts(h hull.Hull, shell *hull.Shell) []hull.Doubt {
	doubts := []hull.Doubt{}
	if math.Abs(shell.Low.Z) > 0.02 {
		doubts = append(doubts, hull.Doubt{Key: "stations", Sentence: fmt.Sprintf("heights should count from the lowest point of the keel; it lies at %.2f m", shell.Low.Z)})
	}
	foot := h.Stations[0].X
	if h.Stations[0].PointX != nil {
		foot = h.Stations[0].PointX[0]
	}
	if math.Abs(foot) > 0.05 {
		doubts = append(doubts, hull.Doubt{Key: "stations", Sentence: fmt.Sprintf("lengths should count from the foot of the transom; it lies at %.2f m", foot)})
	}
	return doubts
}

// Offsets gives the stations of a CSV table, and the hull they make.
type Offsets struct {
	Stations []StationInput `json:"stations"`
	Preview  HullPreview    `json:"preview"`
}

// ReadOffsets reads a CSV table of offsets without keeping anything.
func ReadOffsets(table string, water float64) (Offsets, error) {
	stations, err := offsets.Read([]byte(table))
	if err != nil {
		return Offsets{}, invalid(err)
	}
	out := Offsets{Stations: []StationInput{}}
	for _, s := range stations {
		st := StationInput{X: s.X, PointX: s.PointX}
		for _, p := range s.Half {
			st.Half = append(st.Half, [2]float64{p.Y, p.Z})
		}
		out.Stations = append(out.Stations, st)
	}
	in := HullInput{Stations: out.Stations}
	if _, _, err := in.shape(); err != nil {
		return out, invalid(err)
	}
	out.Preview = PreviewHull(in, water)
	return out, nil
}

// OffsetsOf is a boat's hull as a CSV table, whatever it was entered by.
func (a *App) OffsetsOf(ctx context.Context, actor Actor, boat uuid.UUID) ([]byte, error) {
	var table []byte
	err := a.in(ctx, actor, func(tx *gorm.DB) error {
		c, err := a.craft(tx, actor, boat)
		if err == nil {
			table = offsets.Write(c.hull)
		}
		return err
	})
	return table, err
}

// LayoutView is a usual layout.
type LayoutView struct {
	Name   string   `json:"name"`
	Title  string   `json:"title"`
	Places []string `json:"places"`
}

// HullChoices are the forms of hull and the usual layouts.
type HullChoices struct {
	Forms   []hull.Form  `json:"forms"`
	Layouts []LayoutView `json:"layouts"`
}

// Choices are what a boat may be begun from.
func Choices() HullChoices {
	c := HullChoices{Forms: hull.Forms()}
	for _, l := range hull.Layouts {
		v := LayoutView{Name: l.Name, Title: l.Title}
		for _, cell := range l.Cells {
			v.Places = append(v.Places, cell.Name)
		}
		c.Layouts = append(c.Layouts, v)
	}
	return c
}
