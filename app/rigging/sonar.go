package rigging

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"slices"

	"ergasia/app/aboard"
	"ergasia/core/clear"
	"ergasia/core/fitting"
	"ergasia/core/float"
	"ergasia/core/words"
	"ergasia/store/model"

	"gonum.org/v1/gonum/spatial/r3"
)

// SonarView is one place for the sonar.
type SonarView struct {
	Key    string      `json:"key"`
	Name   string      `json:"name"`
	At     model.Vec   `json:"at_m"`
	Screen model.Vec   `json:"screen_m"`
	Listed bool        `json:"listed" doc:"What carries it is listed; else it is reckoned where such things usually are"`
	Score  float64     `json:"score" doc:"Of 100, by the crew's weights"`
	Marks  []SonarMark `json:"marks"`
}

// SonarMark is how good a place is by one criterion, and why.
type SonarMark struct {
	Key    string  `json:"key" words:"sonar_criteria"`
	Rated  bool    `json:"rated" doc:"By the crew, from 1 to 5"`
	Rating float64 `json:"rating,omitempty"`
	Value  float64 `json:"value" doc:"0 to 1"`
	Weight float64 `json:"weight"`
	Why    string  `json:"why"`
}

// Of sonars. Practice: seconds to lower and to lift one, kilograms of pole, head and
// cable, slack of a cable that is led along the sheer.
var (
	sonarHands = map[string]float64{"bow-motor": 10, "console-pole": 12, "bow-pole": 12, "portable": 40}
	sonarKg    = map[string]float64{"bow-motor": 0.8, "console-pole": 4, "bow-pole": 4, "portable": 6}
)

const (
	middling   = 3.0
	cableSlack = 0.5
	pace       = 0.54 / 0.86 // s a metre: MTM's 15 TMU a pace of 0.86 m (memory)
)

// carrier is where a sonar would hang.
type carrier struct {
	key, name string
	at        r3.Vec
	kg        float64
	pole      *model.PoleInput
	listed    bool
}

// sonar reckons the usual four places and the crew's own, best first.
func sonar(s *aboard.Laden, sc clear.Scene) []SonarView {
	var input model.SonarInput
	if r := s.Craft.Input.Outfit.Rigging; r != nil && r.Sonar != nil {
		input = *r.Sonar
	}
	list := []SonarView{}
	if len(s.Posts) == 0 {
		return list
	}
	for _, c := range carriers(s, input) {
		list = append(list, judged(s, sc, c, input))
	}
	slices.SortStableFunc(list, func(a, b SonarView) int { return cmp.Compare(b.Score, a.Score) })
	return list
}

// carriers are where a sonar may hang: what is listed, else where such things are.
func carriers(s *aboard.Laden, input model.SonarInput) (list []carrier) {
	h, long, helm := s.Craft.Hull, s.Craft.Hull.Length(), steers(s)
	side := func(x float64) r3.Vec {
		half, z := gunwale(h, x)
		return r3.Vec{X: x, Y: half, Z: z}
	}
	usual := map[string]r3.Vec{
		"bow-motor":    side(0.93 * long),
		"console-pole": side(helm.X + 0.4),
		"bow-pole":     side(0.85 * long),
		"portable":     side(helm.X + 0.6),
	}
	of := func(is func(model.Fitting) bool) *model.Fitting { return aboard.First(s.Craft.Rigging, is) }
	found := map[string]*model.Fitting{
		"bow-motor":    of(func(f model.Fitting) bool { return f.Kind == "bow-motor" }),
		"console-pole": of(func(f model.Fitting) bool { return f.Kind == "pole" && f.Lies.At[0] < 0.65*long }),
		"bow-pole":     of(func(f model.Fitting) bool { return f.Kind == "pole" && f.Lies.At[0] >= 0.65*long }),
		"portable":     of(func(f model.Fitting) bool { return f.Unit }),
	}
	for _, place := range words.SonarPlaces {
		c := carrier{key: place.Key, name: place.Label, at: usual[place.Key], kg: sonarKg[place.Key]}
		if f := found[place.Key]; f != nil {
			c.at, c.listed, c.pole = f.Lies.At.R3(), true, f.Held.Pole
			if place.Key != "bow-motor" {
				c.kg = f.Kg
			}
		}
		if c.pole == nil && place.Key != "portable" {
			p := fitting.UsualOf("pole").Pole
			c.pole = &model.PoleInput{
				Wet:      p.Wet,
				Diameter: p.Diameter,
				Clamp:    p.ClampToWater,
				Foot:     p.FootArea,
				Speed:    p.Speed,
				Holds:    p.Holds,
			}
			if place.Key == "bow-motor" {
				c.pole = nil // it is up while she runs
			}
		}
		list = append(list, c)
	}
	for _, o := range input.Own {
		list = append(list, carrier{key: o.Name, name: o.Name, at: o.At.R3(), kg: o.Kg, listed: true})
	}
	return list
}

func judged(s *aboard.Laden, sc clear.Scene, c carrier, input model.SonarInput) SonarView {
	screen, sees, posts := watched(s, sc, c)
	helm := steers(s)
	walk := math.Hypot(c.at.X-helm.X, c.at.Y-helm.Y)
	hands := cmp.Or(sonarHands[c.key], sonarHands["portable"])
	p := fitting.Sonar{
		Ratings: map[string]float64{},
		Sees:    float64(sees) / float64(len(s.Posts)),
		Seconds: 2*walk*pace + hands,
		Cable: math.Abs(
			c.at.X-screen.X,
		) + math.Abs(
			c.at.Y-screen.Y,
		) + math.Abs(
			c.at.Z-screen.Z,
		) + cableSlack,
		Folds: math.Inf(1),
		Kg:    c.kg,
	}
	for _, k := range fitting.Criteria {
		if k.Rated {
			p.Ratings[k.Key] = middling // of a place of the crew's own
		}
	}
	maps.Copy(p.Ratings, fitting.Ratings[c.key])
	maps.Copy(p.Ratings, input.Ratings[c.key])
	folds := "No pole is in the water while she runs."
	if c.pole != nil {
		pulled := poleOf(*c.pole)
		pulled.Density = s.Boat.Water
		p.Folds, p.Used = pulled.Braced(c.pole.Brace).Pull().FoldsAt, c.pole.Speed
		u := s.Pace()
		folds = fmt.Sprintf("Used at %.1f %s; nobody pulled at its clamp.", u.FromSI(p.Used), u.Symbol)
		if !math.IsInf(p.Folds, 1) {
			folds = fmt.Sprintf("Folds at %.1f %s, used at %.1f.", u.FromSI(p.Folds), u.Symbol, u.FromSI(p.Used))
		}
	}
	why := map[string]string{
		"sees": fmt.Sprintf("%d of %d posts read its screen%s.", sees, len(s.Posts), posts),
		"seconds": fmt.Sprintf(
			"%.0f s: %s there and back from %s, and %.0f s with the hands.",
			p.Seconds,
			s.LengthText(walk),
			helm.Name,
			hands,
		),
		"cable": fmt.Sprintf("%s from its foot to the screen, led along the side, with slack.", s.LengthText(p.Cable)),
		"folds": folds,
		"mass":  fmt.Sprintf("%s; %s", s.MassText(c.kg), leans(s, c)),
	}
	v := SonarView{Key: c.key, Name: c.name, At: model.VecOf(c.at), Screen: model.VecOf(screen), Listed: c.listed,
		Score: math.Round(p.Score(input.Weights)*10) / 10, Marks: []SonarMark{}}
	for _, k := range fitting.Criteria {
		m := SonarMark{Key: k.Key, Rated: k.Rated, Value: p.Value(k.Key), Weight: k.Weight, Why: why[k.Key]}
		if w, said := input.Weights[k.Key]; said {
			m.Weight = w
		}
		if k.Rated {
			m.Rating = p.Ratings[k.Key]
			m.Why = "Usual rating; change it to yours."
			if _, own := input.Ratings[c.key][k.Key]; own {
				m.Why = "The crew's rating."
			}
		}
		v.Marks = append(v.Marks, m)
	}
	return v
}

// watched is the screen that goes with a carrier: the nearest display, else one before
// the nearest post; and how many posts read it.
func watched(s *aboard.Laden, sc clear.Scene, c carrier) (at r3.Vec, sees int, named string) {
	var best *clear.Thing
	var bodies []clear.Obstacle
	for i, t := range sc.Things {
		bodies = append(bodies, clear.Obstacle{ID: t.ID, Body: t.Body()})
		if t.Screen > 0 && (best == nil || r3.Norm(r3.Sub(t.At, c.at)) < r3.Norm(r3.Sub(best.At, c.at))) {
			best = &sc.Things[i]
		}
	}
	screen := clear.Thing{ID: "screen", Size: r3.Vec{X: 0.07, Y: 0.27, Z: 0.17}, Screen: 0.229, Turn: 180, Stands: "up"}
	if best != nil {
		screen, named = *best, ", "+best.Name
	} else {
		helm := steers(s)
		screen.At = r3.Vec{X: helm.X + 0.55, Y: helm.Y, Z: helm.Z + 1}
	}
	for _, p := range sc.Posts {
		if screen.SeenFrom(p, bodies).Reads {
			sees++
		}
	}
	return screen.At, sees, named
}

// leans says how she lies with a carrier that is not listed yet.
func leans(s *aboard.Laden, c carrier) string {
	if c.listed {
		return "she lies as she does now."
	}
	now := s.Solved()
	l := s.Ledger()
	l.Load.Masses = append(l.Load.Masses, float.Mass{Name: c.name, Kg: c.kg, At: c.at})
	with := s.SolvedWith(l)
	if now.Figures == nil || with.Figures == nil {
		return "how she lies with it is not known."
	}
	heel := with.Figures.HeelDeg - now.Figures.HeelDeg
	side := "starboard"
	if heel < 0 {
		side = "port"
	}
	return fmt.Sprintf("she leans %.1f° more to %s.", math.Abs(heel), side)
}
