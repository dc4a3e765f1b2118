package aboard

import (
	"errors"
	"fmt"
	"slices"

	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/float"
	"ergasia/core/hull"
	"ergasia/core/words"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
)

// levelSigma is how well a tank's level is known, one standard deviation as a
// share of the whole tank. Practice, no source: gauges lie.
var levelSigma = map[string]float64{"": 0.08, "gauge": 0.08, "dipped": 0.03, "filled": 0.01}

// BoatInput is everything that is said of a boat.
type BoatInput struct {
	Name   string          `json:"name"`
	Hull   model.HullInput `json:"hull"`
	Outfit model.Outfit    `json:"outfit"`
	Plate  model.Plate     `json:"plate"`
	Limits model.Limits    `json:"limits"`
	Water  float64         `json:"water_density_kg_m3" doc:"1025 for the sea, 999 for a lake"`
	Setup  []string        `json:"setup,omitempty" words:"setup_stages" maxItems:"32" doc:"Stages of setting up that the crew has gone through"`
}

// Check says what is wrong with a boat as input, all faults at once.
func (in BoatInput) Check() error {
	var fs check.Faults
	fs.Text("name", in.Name, 1, 80)
	for i, m := range in.Outfit.Masses {
		field := fmt.Sprintf("outfit.masses[%d]", i)
		fs.Text(field+".name", m.Name, 1, 80)
		fs.OneOf(field+".kind", m.Kind, words.MassKinds.Keys()...)
		fs.OneOf(field+".known", m.Known, words.MassKnown.Keys()...)
	}
	for i, t := range in.Outfit.Tanks {
		field := fmt.Sprintf("outfit.tanks[%d]", i)
		fs.Text(field+".name", t.Name, 1, 80)
		fs.OneOf(field+".kind", t.Kind, words.TankKinds.Keys()...)
		fs.OneOf(field+".known", t.Known, words.LevelKnown.OrNone()...)
		fs.Within(field+".unusable_l", t.Rest, 0, 100)
	}
	CheckRates(&fs, "outfit.rates", in.Outfit.Rates)
	in.Outfit.Check(&fs)
	for _, stage := range in.Setup {
		fs.OneOf("setup", stage, words.SetupStages.Keys()...)
	}
	in.Plate.Check(&fs)
	in.Limits.Check(&fs)
	add := func(err error, prefix string) {
		var found check.Faults
		if errors.As(err, &found) {
			for _, f := range found {
				fs.Add(prefix+f.Field, f.Value, f.Want)
			}
		}
	}
	_, shell, err := ShapeOf(in.Hull)
	add(err, "")
	if shell == nil { // the load is looked at all the same, its tanks as boxes
		shell = &hull.Shell{}
		in.Outfit.Tanks = slices.Clone(in.Outfit.Tanks)
		for i := range in.Outfit.Tanks {
			in.Outfit.Tanks[i].InHull = false
		}
	}
	add(BoatLoad(in.Outfit, in.Water, shell).Check(), "outfit.")
	return refuse.Faulty(fs.Err())
}

// CheckRates adds what is wrong with a table of what the motor takes.
func CheckRates(fs *check.Faults, field string, rates []model.RateInput) {
	seen := map[float64]bool{}
	for i, r := range rates {
		at := fmt.Sprintf("%s[%d]", field, i)
		fs.Within(at+".speed_m_s", r.Speed, 0.1, 60)
		fs.Within(at+".l_per_h", r.Flow, 0.01, 1000)
		if seen[r.Speed] {
			fs.Add(at+".speed_m_s", r.Speed, "is in the table twice")
		}
		seen[r.Speed] = true
	}
}

// BoatLoad is the ledger of the boat herself.
func BoatLoad(o model.Outfit, water float64, shell *hull.Shell) float.Load {
	l := float.Load{WaterDensity: water}
	for _, m := range o.Masses {
		l.Masses = append(l.Masses, float.Mass{Name: m.Name, Kg: m.Kg, At: m.At.R3(),
			Sigma: m.Kg * float.KnownSigma[m.Known]})
	}
	for _, t := range o.Tanks {
		tank := float.Tank{Name: t.Name, Size: t.Size.R3(), Corner: t.Corner.R3(), Fill: t.Fill, Density: t.Density}
		if t.InHull {
			part := shell.Within(tank.Corner, r3.Add(tank.Corner, tank.Size))
			tank.Shape = &part
		}
		tank.Sigma = tank.Volume() * tank.Density * levelSigma[t.Known]
		if t.Fill == 0 {
			tank.Sigma = 0 // empty is easy to see
		}
		l.Tanks = append(l.Tanks, tank)
	}
	return l
}

// Craft is a boat made ready for computing. It is not changed once made.
type Craft struct {
	Input   BoatInput
	Trailer *model.TrailerInput
	Hull    hull.Hull
	Float   *float.Boat
	Lines   hull.Lines
	Load    float.Load // of the boat herself, with her fittings
	Rigging []model.Fitting
	bare    float.Load      // without her fittings
	ashore  []model.Fitting // fittings of hers that were taken off
	decks   *cache[uint64, *Decks]
}

// Sections is how many sections a drawing has.
const Sections = 13

// InputOf is a boat as she was entered.
func InputOf(b model.Boat) BoatInput {
	return BoatInput{Name: b.Name, Hull: b.Hull, Outfit: b.Outfit, Plate: b.Plate, Limits: b.Limits, Water: b.Water,
		Setup: b.Setup}
}

// NewCraft makes a boat ready.
func NewCraft(b model.Boat) (*Craft, error) {
	c := &Craft{Input: InputOf(b), Trailer: b.Trailer, decks: newCache[uint64, *Decks](decksKept)}
	h, _, err := ShapeOf(c.Input.Hull)
	if err != nil {
		return nil, fmt.Errorf("shaping boat %s: %w", b.ID, err)
	}
	if c.Float, err = float.NewCraft(h); err != nil {
		return nil, fmt.Errorf("shaping boat %s: %w", b.ID, err)
	}
	c.Hull, c.Lines = h, h.Lines(Sections)
	c.bare = BoatLoad(c.Input.Outfit, c.Input.Water, c.Float.Shell)
	c.Load = c.bare
	return c, nil
}

// With is her with another outfit; her shape is the same.
func (c *Craft) With(o model.Outfit) *Craft {
	other := *c
	other.Input.Outfit = o
	other.bare = BoatLoad(o, c.Input.Water, c.Float.Shell)
	return other.Rigged(slices.Concat(c.Rigging, c.ashore))
}

// Rigged is her with what is fastened to her, and nothing else that was. What was taken
// off is lacking where it was counted.
func (c *Craft) Rigged(fittings []model.Fitting) *Craft {
	other := *c
	other.Rigging, other.ashore, other.Load = nil, nil, copied(c.bare)
	for _, f := range fittings {
		if f.IsOff {
			other.ashore = append(other.ashore, f)
		} else {
			other.Rigging = append(other.Rigging, f)
		}
	}
	other.mount()
	return &other
}

// Ledger is a copy of the boat's own load, to be added to.
func (c *Craft) Ledger() float.Load { return copied(c.Load) }

func copied(l float.Load) float.Load {
	return float.Load{WaterDensity: l.WaterDensity, Masses: slices.Clone(l.Masses), Tanks: slices.Clone(l.Tanks)}
}

// BoatCache keeps boats made ready, by id and version, since making a shell
// costs more than floating it.
type BoatCache struct{ ready *cache[boatKey, *Craft] }

type boatKey struct {
	id      uuid.UUID
	version int
}

const cachedBoats = 256

// NewBoatCache makes an empty one.
func NewBoatCache() *BoatCache { return &BoatCache{ready: newCache[boatKey, *Craft](cachedBoats)} }

// Get gives a boat made ready.
func (c *BoatCache) Get(b model.Boat) (*Craft, error) {
	return c.ready.get(boatKey{id: b.ID, version: b.Version}, func() (*Craft, error) { return NewCraft(b) })
}
