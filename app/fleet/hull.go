package fleet

import (
	"context"
	"errors"
	"fmt"
	"math"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/hull"
	"ergasia/core/units"
	"ergasia/formats/offsets"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
)

// HullPreview is the hull that measures make, drawn while they are typed.
type HullPreview struct {
	Faults  []Fault            `json:"faults" doc:"What keeps a hull from being made"`
	Doubts  []hull.Doubt       `json:"doubts" doc:"Measures that look wrong, though a hull can be made"`
	Lines   *hull.Lines        `json:"lines,omitempty"`
	Floods  []model.FloodInput `json:"flood_points"`
	Length  float64            `json:"length_m"`
	Beam    float64            `json:"beam_m"`
	HoldsM3 float64            `json:"holds_m3" doc:"All of her inside, up to the sheer"`
	FullKg  float64            `json:"full_kg" doc:"Displacement, level, at which water comes in"`
	LightCm float64            `json:"kg_per_cm" doc:"Kilograms that sink her a centimetre, at a third of her depth"`
}

// Fault is a measure that is wrong.
type Fault struct {
	Field    string `json:"field"`
	Sentence string `json:"sentence"`
}

// PreviewHull works a hull out without keeping it.
func PreviewHull(in model.HullInput, water float64) HullPreview {
	v := HullPreview{Faults: []Fault{}, Doubts: []hull.Doubt{}, Floods: []model.FloodInput{}}
	h, shell, err := aboard.ShapeOf(in)
	var fs check.Faults
	if errors.As(err, &fs) {
		for _, f := range fs {
			v.Faults = append(v.Faults, Fault{Field: f.Field, Sentence: f.Want})
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
	lines := h.Lines(aboard.Sections)
	v.Lines = &lines
	v.Length, v.Beam, v.HoldsM3 = shell.High.X-shell.Low.X, shell.High.Y-shell.Low.Y, shell.Holds
	full := shell.Sheer[0].Z
	for _, p := range shell.Sheer {
		full = min(full, p.Z)
	}
	for _, p := range h.FloodPoints {
		v.Floods = append(v.Floods, model.FloodInput{Name: p.Name, At: model.VecOf(p.At), Space: p.Space})
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
		doubts = append(doubts, hull.Doubt{Key: "stations",
			Sentence: fmt.Sprintf("heights should count from the lowest point of the keel; it lies at %.2f m", shell.Low.Z)})
	}
	foot := h.Stations[0].X
	if h.Stations[0].PointX != nil {
		foot = h.Stations[0].PointX[0]
	}
	if math.Abs(foot) > 0.05 {
		doubts = append(doubts, hull.Doubt{Key: "stations",
			Sentence: fmt.Sprintf("lengths should count from the foot of the transom; it lies at %.2f m", foot)})
	}
	return doubts
}

// Offsets gives the stations of a CSV table, and the hull they make.
type Offsets struct {
	Stations []model.StationInput `json:"stations"`
	Preview  HullPreview          `json:"preview"`
}

// ReadOffsets reads a CSV table of offsets without keeping anything.
func ReadOffsets(table string, water float64) (Offsets, error) {
	stations, err := offsets.Read([]byte(table))
	if err != nil {
		return Offsets{}, refuse.Faulty(err)
	}
	out := Offsets{Stations: []model.StationInput{}}
	for _, s := range stations {
		st := model.StationInput{X: s.X, PointX: s.PointX}
		for _, p := range s.Half {
			st.Half = append(st.Half, [2]float64{p.Y, p.Z})
		}
		out.Stations = append(out.Stations, st)
	}
	in := model.HullInput{Stations: out.Stations}
	if _, _, err := aboard.ShapeOf(in); err != nil {
		return out, refuse.Faulty(err)
	}
	out.Preview = PreviewHull(in, water)
	return out, nil
}

// OffsetsOf is a boat's hull as a CSV table, whatever it was entered by.
func (a *Wing) OffsetsOf(ctx context.Context, actor kernel.Actor, boat uuid.UUID) ([]byte, error) {
	var table []byte
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		_, c, err := a.Craft(tx, boat)
		if err == nil {
			table = offsets.Write(c.Hull)
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

	Motors []MotorView `json:"motors" doc:"What outboards of a power usually weigh, dry"`
	Dry    []UsualDry  `json:"dry" doc:"What boats usually weigh without motor, battery and liquids"`
}

// MotorView is a usual motor with its power in both units.
type MotorView struct {
	hull.Motor
	KW float64 `json:"kw"`
}

// UsualDry is the usual mass of a form of hull.
type UsualDry struct {
	Form    string  `json:"form"`
	KgPerM3 float64 `json:"kg_per_m3" doc:"By length times greatest beam times depth amidships"`
}

// Choices are what a boat may be begun from.
func Choices() HullChoices {
	c := HullChoices{Forms: hull.Forms()}
	for _, m := range hull.Motors {
		c.Motors = append(c.Motors, MotorView{Motor: m, KW: m.HP * units.HorsepowerW / 1000})
	}
	for _, f := range c.Forms {
		c.Dry = append(c.Dry, UsualDry{Form: f.Name, KgPerM3: hull.DryKgPerM3(f.Name)})
	}
	for _, l := range hull.Layouts {
		v := LayoutView{Name: l.Name, Title: l.Title}
		for _, cell := range l.Cells {
			v.Places = append(v.Places, cell.Name)
		}
		c.Layouts = append(c.Layouts, v)
	}
	return c
}
