package floating

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/float"
	"ergasia/core/hull"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
)

// WhatIf is what a person wants to see done to the boat, on paper.
type WhatIf struct {
	WindMS      float64 `json:"wind_m_s" doc:"A steady wind from abeam"`
	BilgeLitres float64 `json:"bilge_l" doc:"Water in the bilge, in the hull's own shape"`
}

// Verdict is a limit of the boat with how sure it is kept.
type Verdict struct {
	Key      string  `json:"key" enum:"freeboard,heel,trim,load"`
	Sentence string  `json:"sentence"`
	Met      bool    `json:"met"`
	Sure     float64 `json:"sure" doc:"Chance, 0 to 1, that the limit is kept, by the errors of the masses"`
	Words    string  `json:"words" enum:"sure,likely,open,unlikely,broken"`
}

// Band is one standard deviation of each figure, by the errors of the masses.
type Band struct {
	Kg      float64   `json:"kg"`
	HeelDeg float64   `json:"heel_deg"`
	TrimDeg float64   `json:"trim_deg"`
	Lowest  float64   `json:"lowest_m"`
	Behind  []ErrorOf `json:"behind" doc:"The masses that make most of it, greatest first"`
}

// ErrorOf is what the error of one mass does to the lowest freeboard.
type ErrorOf struct {
	Name    string  `json:"name"`
	SigmaKg float64 `json:"sigma_kg"`
	M       float64 `json:"m"`
}

// CurvePoint is a point of the righting-arm curve.
type CurvePoint struct {
	HeelDeg float64  `json:"heel_deg"`
	GZ      *float64 `json:"gz_m,omitempty"`
}

// CurveView is the righting arms to one side; heels count from upright to that side.
type CurveView struct {
	Side         string       `json:"side" enum:"starboard,port"`
	Points       []CurvePoint `json:"points"`
	FloodDeg     *float64     `json:"flood_deg,omitempty"`
	FloodAt      string       `json:"flood_at,omitempty"`
	ScupperDeg   *float64     `json:"scupper_deg,omitempty"`
	VanishesDeg  *float64     `json:"vanishes_deg,omitempty"`
	RangeDeg     float64      `json:"range_deg"`
	GreatestM    float64      `json:"greatest_gz_m"`
	GreatestDeg  float64      `json:"greatest_deg"`
	AreaMRadians float64      `json:"area_m_rad"`
}

// Stander is a person in a test, where the test puts them.
type Stander struct {
	Mark string    `json:"mark"`
	At   model.Vec `json:"cg_m"`
}

// TestView is a crew test: what becomes of the boat when people do something.
type TestView struct {
	Key      string           `json:"key"`
	Title    string           `json:"title"`
	Status   float.Status     `json:"status" enum:"afloat,swamped,unstable"`
	Met      bool             `json:"met"`
	Sentence string           `json:"sentence"`
	Attitude *aboard.Attitude `json:"attitude,omitempty"`
	People   []Stander        `json:"people"`
}

// WindView is what a wind from abeam does.
type WindView struct {
	SpeedMS  float64  `json:"speed_m_s"`
	HeelDeg  *float64 `json:"heel_deg,omitempty"`
	Lowest   *float64 `json:"lowest_m,omitempty"`
	Area     float64  `json:"area_m2"`
	Met      bool     `json:"met"`
	Sentence string   `json:"sentence"`
}

// OpeningView is a flood point or scupper over the water.
type OpeningView struct {
	Name  string  `json:"name"`
	Space string  `json:"space,omitempty"`
	M     float64 `json:"m"`
}

// SwampView is how she lies full of water.
type SwampView struct {
	Title    string           `json:"title"`
	Floats   bool             `json:"floats"`
	Level    bool             `json:"level"`
	Sentence string           `json:"sentence"`
	FoamL    float64          `json:"foam_l"`
	NeedL    float64          `json:"need_foam_l"`
	MarginKg float64          `json:"margin_kg"`
	Attitude *aboard.Attitude `json:"attitude,omitempty"`
}

// FloatReport is everything that the float engine says of a boat as she is laden.
type FloatReport struct {
	Now         aboard.Figures `json:"now"`
	Band        Band           `json:"band"`
	Verdicts    []Verdict      `json:"verdicts"`
	Curves      []CurveView    `json:"curves"`
	GMSolid     float64        `json:"gm_solid_m" doc:"GM before free surface"`
	FreeSurface float64        `json:"free_surface_m" doc:"What slack liquid takes off GM"`
	GML         float64        `json:"gm_l_m"`
	TrimMoment  float64        `json:"trim_moment_kg_m" doc:"That trims her a degree"`
	HeelMoment  float64        `json:"heel_moment_kg_m" doc:"That heels her a degree"`
	Openings    []OpeningView  `json:"openings"`
	Awash       []string       `json:"awash" doc:"A sentence for each space in which the sea stands"`
	Tests       []TestView     `json:"tests"`
	Wind        []WindView     `json:"wind"`
	Swamped     []SwampView    `json:"swamped"`
	Capacity    CapacityView   `json:"capacity"`
	Cautions    []string       `json:"cautions"`
}

var floatCautions = []string{
	"Calm water only: waves, wash and a moving boat ask for more of everything.",
	"The builder's plate, the law where you are and your own judgement come first.",
}

// Float works out everything about how a boat floats.
func (a *Wing) Float(ctx context.Context, actor kernel.Actor, boat uuid.UUID, what WhatIf) (FloatReport, error) {
	var s *aboard.Laden
	err := a.In(ctx, actor, func(tx *store.Tx) (err error) {
		s, err = a.where.Laden(tx, actor, boat)
		return err
	})
	if err != nil {
		return FloatReport{}, err
	}
	return laden{Laden: s}.floatReport(what)
}

func (s laden) floatReport(what WhatIf) (FloatReport, error) {
	solved := s.Solved()
	if what.BilgeLitres > 0 {
		tank, err := s.bilge(what.BilgeLitres)
		if err != nil {
			return FloatReport{}, err
		}
		l := s.Ledger()
		l.Load.Tanks = append(l.Load.Tanks, tank)
		solved = s.SolvedWith(l)
	}
	l := solved.Ledger
	r := FloatReport{Now: s.FiguresOf(solved), Verdicts: []Verdict{}, Curves: []CurveView{}, Openings: []OpeningView{},
		Awash: []string{},
		Wind:  []WindView{}, Band: Band{Behind: []ErrorOf{}}, Cautions: floatCautions}
	r.Tests = s.crewTests(l)
	r.Swamped = s.swamped()
	var err error
	if r.Capacity, err = s.capacity(); err != nil {
		return r, err
	}
	f := solved.Result.Figures
	if f == nil {
		return r, nil
	}
	b := s.Craft.Float.Bands(l.Load, f)
	r.Band = Band{Kg: b.Kg, HeelDeg: b.HeelDeg, TrimDeg: b.TrimDeg, Lowest: b.Lowest, Behind: []ErrorOf{}}
	for _, p := range b.Points[:min(len(b.Points), 4)] {
		r.Band.Behind = append(r.Band.Behind, ErrorOf{Name: p.Name, SigmaKg: p.Sigma, M: p.M})
	}
	r.Verdicts = s.verdicts(l, f, b)
	r.GMSolid, r.FreeSurface, r.GML = f.GMT+f.FreeSurface, f.FreeSurface, f.GML
	r.TrimMoment, r.HeelMoment = f.DisplacementKg*f.GML*math.Pi/180, f.DisplacementKg*f.GMT*math.Pi/180
	for _, p := range f.Freeboards {
		r.Openings = append(r.Openings, OpeningView{Name: p.Name, Space: s.spaceOf(p.Name), M: p.M})
	}
	for _, w := range f.Awash {
		r.Awash = append(r.Awash, fmt.Sprintf("%s is under water: the sea stands %s deep %s.", kernel.Capital(w.Through),
			s.Small(w.Depth), inOrOn(w.Space)))
	}
	for _, c := range s.Craft.Float.Curves(l.Load, 90, 18) {
		r.Curves = append(r.Curves, viewCurve(c))
	}
	r.Wind = s.winds(l, what.WindMS)
	return r, nil
}

// bilge is water in the bilge: it lies in the hull's own shape under the sole, or
// under a third of her depth where she has no deck.
func (s laden) bilge(litres float64) (float.Tank, error) {
	shell := s.Craft.Float.Shell
	top := shell.Low.Z + (shell.High.Z-shell.Low.Z)*0.6
	if d := s.Craft.Input.Hull.Deck; d != nil {
		top = d.Sole
	}
	part := shell.Within(shell.Low, r3.Vec{X: shell.High.X, Y: shell.High.Y, Z: top})
	whole := part.Volume() * 1000
	if litres > whole {
		return float.Tank{}, &refuse.Error{Kind: refuse.Refused, Sentence: fmt.Sprintf("Her bilge holds %s at most.",
			s.Units.Volume.Text(whole, 0))}
	}
	return float.Tank{Name: "bilge water", Shape: &part, Fill: litres / whole, Density: s.Craft.Input.Water}, nil
}

func (s laden) spaceOf(opening string) string {
	for _, p := range s.Craft.Hull.FloodPoints {
		if p.Name == opening {
			return p.Space
		}
	}
	return ""
}

// inOrOn says where the water stands.
func inOrOn(space string) string {
	if space == hull.DeckSpace {
		return "on the deck"
	}
	return "in the " + space
}

func (s laden) verdicts(l aboard.Ledger, f *float.Figures, b float.Bands) []Verdict {
	in := s.Craft.Input
	var list []Verdict
	add := func(key string, met bool, sure float64, sentence string) {
		list = append(list, Verdict{Key: key, Met: met, Sure: sure, Words: aboard.Certainty(sure), Sentence: sentence})
	}
	low := in.Limits.Freeboard
	add("freeboard", f.Lowest.M >= low.Value, float.Sure(f.Lowest.M, b.Lowest, low.Value),
		fmt.Sprintf("Lowest freeboard %s ± %s at the %s; at least %s (%s).", s.Small(f.Lowest.M), s.Small(b.Lowest),
			f.Lowest.Name, s.Small(low.Value), sourceWords(low.Source)))
	heel := in.Limits.Heel
	sureHeel := float.Sure(heel.Value, b.HeelDeg, f.HeelDeg) + float.Sure(heel.Value, b.HeelDeg, -f.HeelDeg) - 1
	add("heel", math.Abs(f.HeelDeg) <= heel.Value, max(sureHeel, 0),
		fmt.Sprintf("Heel %.1f° ± %.1f %s; within %.1f° (%s).", math.Abs(f.HeelDeg), b.HeelDeg, sideWords(f.HeelDeg),
			heel.Value, sourceWords(heel.Source)))
	lo, hi := in.Limits.TrimLow.Value, in.Limits.TrimHigh.Value
	sureTrim := float.Sure(f.TrimDeg, b.TrimDeg, lo) + float.Sure(hi, b.TrimDeg, f.TrimDeg) - 1
	add("trim", f.TrimDeg >= lo && f.TrimDeg <= hi, max(sureTrim, 0),
		fmt.Sprintf("Trim %.1f° ± %.1f bow %s; %.1f° to %.1f° bow up (%s).", math.Abs(f.TrimDeg), b.TrimDeg,
			upDown(f.TrimDeg), lo, hi, sourceWords(in.Limits.TrimHigh.Source)))
	if in.Plate.MaxKg > 0 {
		sigma := math.Sqrt(l.PlateVariance)
		add("load", l.PlateKg <= in.Plate.MaxKg, float.Sure(in.Plate.MaxKg, sigma, l.PlateKg),
			fmt.Sprintf("Load %s ± %s; at most %s (%s).", s.MassText(l.PlateKg), s.MassText(sigma), s.MassText(in.Plate.MaxKg),
				cmp.Or(in.Plate.Source, "plate")))
	}
	return list
}

func sourceWords(source string) string {
	return map[string]string{"plate": "plate", "rule": "rule", "skipper": "skipper's word",
		"practice": "common practice"}[source]
}

func sideWords(heel float64) string {
	switch {
	case math.Abs(heel) < 0.05:
		return "upright"
	case heel > 0:
		return "to starboard"
	}
	return "to port"
}

func viewCurve(c float.Curve) CurveView {
	v := CurveView{Side: "starboard", FloodDeg: aboard.Finite(c.Flood), FloodAt: c.FloodThrough,
		ScupperDeg: aboard.Finite(c.Scupper), VanishesDeg: aboard.Finite(c.Vanishes),
		RangeDeg: c.Range(), GreatestM: c.Greatest, GreatestDeg: c.AtDeg, AreaMRadians: c.AreaToEnd}
	if c.Side < 0 {
		v.Side = "port"
	}
	for _, l := range c.Levers {
		v.Points = append(v.Points, CurvePoint{HeelDeg: l.HeelDeg * c.Side, GZ: aboard.Finite(l.GZ * c.Side)})
	}
	return v
}

// How broad people are to the wind, m². Practice.
const (
	standingSail = 0.55
	seatedSail   = 0.35
)

func (s laden) sails() []float.Sail {
	var list []float.Sail
	for _, sail := range s.Craft.Input.Outfit.Sails {
		list = append(list, float.Sail{Name: sail.Name, Area: sail.Area, Z: sail.Z})
	}
	for _, p := range s.People() {
		area := standingSail
		if p.At.Seated {
			area = seatedSail
		}
		list = append(list, float.Sail{Name: p.Member.Name, Area: area, Z: p.Body.At.Z})
	}
	return list
}

// winds are a fresh breeze, a near gale and a gale (Beaufort 5, 7 and 8, WMO,
// memory), and the one that was asked for.
func (s laden) winds(l aboard.Ledger, asked float64) []WindView {
	speeds := []float64{9.4, 15.5, 19}
	if asked > 0 && !slices.Contains(speeds, asked) {
		speeds = append(speeds, asked)
		slices.Sort(speeds)
	}
	list := []WindView{}
	for _, speed := range speeds {
		w, ok := s.Craft.Float.Abeam(l.Load, speed, s.sails())
		if !ok {
			continue
		}
		v := WindView{SpeedMS: speed, HeelDeg: aboard.Finite(w.HeelDeg), Lowest: aboard.Finite(w.Lowest), Area: w.Area}
		v.Met = v.HeelDeg != nil && (v.Lowest == nil || *v.Lowest > 0)
		switch {
		case v.HeelDeg == nil:
			v.Sentence = "She is blown over."
		case !v.Met:
			v.Sentence = fmt.Sprintf("Heels %.1f°: water comes in at the %s.", *v.HeelDeg, w.Through)
		case v.Lowest != nil:
			v.Sentence = fmt.Sprintf("Heels %.1f°: %s left at the %s.", *v.HeelDeg, s.Small(*v.Lowest), w.Through)
		default:
			v.Sentence = fmt.Sprintf("Heels %.1f°.", *v.HeelDeg)
		}
		list = append(list, v)
	}
	return list
}
