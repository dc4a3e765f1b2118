package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"sync"

	"ergasia/core/check"
	"ergasia/core/float"
	"ergasia/core/hull"
	"ergasia/store"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
	"gorm.io/gorm"
)

// Vec is a point or size in the boat's frame: x forward of the foot of the
// transom, y to port, z above the lowest point of the keel; metres.
type Vec [3]float64

func (v Vec) r3() r3.Vec { return r3.Vec{X: v[0], Y: v[1], Z: v[2]} }

func vec(v r3.Vec) Vec { return Vec{v.X, v.Y, v.Z} }

// FixedMass is a part of the boat herself.
type FixedMass struct {
	Name  string  `json:"name"`
	Kind  string  `json:"kind" enum:"hull,motor,battery,fitting"`
	Kg    float64 `json:"kg"`
	At    Vec     `json:"at_m"`
	Known string  `json:"known" enum:"weighed,plate,catalogue,guess"`
}

// TankInput is a tank, as a box with its edges along the boat's.
type TankInput struct {
	Name    string  `json:"name"`
	Kind    string  `json:"kind" enum:"fuel,livewell,water,bilge"`
	Size    Vec     `json:"size_m"`
	Corner  Vec     `json:"corner_m" doc:"Of least x, y and z"`
	Fill    float64 `json:"fill" doc:"Share of the volume, 0 to 1"`
	Density float64 `json:"density_kg_m3"`
	Known   string  `json:"known,omitempty" enum:"gauge,dipped,filled" doc:"How the level is known; gauge where it is left out"`
	InHull  bool    `json:"in_hull,omitempty" doc:"The tank has the hull's own shape: what of her inside lies in the box"`
}

// levelSigma is how well a tank's level is known, one standard deviation as a
// share of the whole tank. Practice, no source: gauges lie.
var levelSigma = map[string]float64{"": 0.08, "gauge": 0.08, "dipped": 0.03, "filled": 0.01}

// FoamInput is a box of closed-cell foam; what of it lies in the hull counts.
type FoamInput struct {
	Name string `json:"name"`
	Low  Vec    `json:"low_m"`
	High Vec    `json:"high_m"`
	In   bool   `json:"in" doc:"It is in the boat now"`
}

// SailInput stands over the sheer and catches the wind: a console, a canopy.
type SailInput struct {
	Name string  `json:"name"`
	Area float64 `json:"area_m2"`
	Z    float64 `json:"z_m" doc:"Height of its middle over the keel"`
}

// Outfit is what is always aboard, and what she is made of.
type Outfit struct {
	Masses     []FixedMass `json:"masses" maxItems:"200"`
	Tanks      []TankInput `json:"tanks" maxItems:"20"`
	Foam       []FoamInput `json:"foam,omitempty" maxItems:"40"`
	Sails      []SailInput `json:"sails,omitempty" maxItems:"20"`
	Material   string      `json:"material,omitempty" enum:"glass,aluminium,plastic,wood" doc:"Of the hull; glass where it is left out"`
	Propulsion string      `json:"propulsion,omitempty" enum:"outboard,inboard" doc:"outboard where it is left out"`
	Kind       string      `json:"kind,omitempty" enum:"monohull,multihull,sailing,inflatable,watercraft" doc:"monohull where it is left out"`
	Remote     bool        `json:"remote_steering,omitempty" doc:"Steered by wheel, and the transom is 20 in high or more"`
}

// or gives a text, or another where it is empty.
func or(text, otherwise string) string {
	if text == "" {
		return otherwise
	}
	return text
}

// Plate is what the builder's plate allows; no MaxKg means no plate.
type Plate struct {
	MaxKg      float64  `json:"max_kg"`
	MaxPersons int      `json:"max_persons"`
	Includes   []string `json:"includes" enum:"persons,gear,motor,battery,fuel,livewell" maxItems:"32" doc:"What counts towards max_kg"`
	Source     string   `json:"source" doc:"Where the figures were read"`
}

// Limit is a bound with where it comes from.
type Limit struct {
	Value  float64 `json:"value"`
	Source string  `json:"source" enum:"plate,rule,skipper,practice"`
}

// Limits belong to the boat.
type Limits struct {
	Freeboard Limit `json:"freeboard_m" doc:"Least freeboard at any flood point or the sheer"`
	Heel      Limit `json:"heel_deg" doc:"Greatest heel to either side"`
	TrimLow   Limit `json:"trim_low_deg" doc:"Least trim, bow up positive"`
	TrimHigh  Limit `json:"trim_high_deg" doc:"Greatest trim, bow up positive"`
}

// BoatInput is everything that is said of a boat.
type BoatInput struct {
	Name   string    `json:"name"`
	Hull   HullInput `json:"hull"`
	Outfit Outfit    `json:"outfit"`
	Plate  Plate     `json:"plate"`
	Limits Limits    `json:"limits"`
	Water  float64   `json:"water_density_kg_m3" doc:"1025 for the sea, 999 for a lake"`
	Setup  []string  `json:"setup,omitempty" enum:"hull,plate,engine,tanks,posts,places" maxItems:"32" doc:"Stages of setting up that the crew has gone through"`
}

func (in BoatInput) check() error {
	var fs check.Faults
	fs.Text("name", in.Name, 1, 80)
	for i, m := range in.Outfit.Masses {
		field := fmt.Sprintf("outfit.masses[%d]", i)
		fs.Text(field+".name", m.Name, 1, 80)
		fs.OneOf(field+".kind", m.Kind, "hull", "motor", "battery", "fitting")
		fs.OneOf(field+".known", m.Known, "weighed", "plate", "catalogue", "guess")
	}
	for i, t := range in.Outfit.Tanks {
		field := fmt.Sprintf("outfit.tanks[%d]", i)
		fs.Text(field+".name", t.Name, 1, 80)
		fs.OneOf(field+".kind", t.Kind, "fuel", "livewell", "water", "bilge")
		fs.OneOf(field+".known", t.Known, "", "gauge", "dipped", "filled")
	}
	in.Outfit.checkMore(&fs)
	for _, stage := range in.Setup {
		fs.OneOf("setup", stage, "hull", "plate", "engine", "tanks", "posts", "places")
	}
	in.Plate.check(&fs)
	in.Limits.check(&fs)
	add := func(err error, prefix string) {
		var found check.Faults
		if errors.As(err, &found) {
			for _, f := range found {
				fs.Add(prefix+f.Field, f.Value, f.Want)
			}
		}
	}
	_, shell, err := in.Hull.shape()
	add(err, "")
	if shell == nil { // the load is looked at all the same, its tanks as boxes
		shell = &hull.Shell{}
		in.Outfit.Tanks = slices.Clone(in.Outfit.Tanks)
		for i := range in.Outfit.Tanks {
			in.Outfit.Tanks[i].InHull = false
		}
	}
	add(boatLoad(in.Outfit, in.Water, shell).Check(), "outfit.")
	return invalid(fs.Err())
}

func (o Outfit) checkMore(fs *check.Faults) {
	fs.OneOf("outfit.material", o.Material, "", "glass", "aluminium", "plastic", "wood")
	fs.OneOf("outfit.propulsion", o.Propulsion, "", "outboard", "inboard")
	fs.OneOf("outfit.kind", o.Kind, "", "monohull", "multihull", "sailing", "inflatable", "watercraft")
	for i, f := range o.Foam {
		field := fmt.Sprintf("outfit.foam[%d]", i)
		fs.Text(field+".name", f.Name, 1, 80)
		for k := range 3 {
			fs.Within(fmt.Sprintf("%s.low_m[%d]", field, k), f.Low[k], -farthest, farthest)
			if fs.Within(fmt.Sprintf("%s.high_m[%d]", field, k), f.High[k], -farthest, farthest) && f.High[k] <= f.Low[k] {
				fs.Add(fmt.Sprintf("%s.high_m[%d]", field, k), f.High[k], fmt.Sprintf("must be over low_m, %g", f.Low[k]))
			}
		}
	}
	for i, s := range o.Sails {
		field := fmt.Sprintf("outfit.sails[%d]", i)
		fs.Text(field+".name", s.Name, 1, 80)
		fs.Within(field+".area_m2", s.Area, 0, 50)
		fs.Within(field+".z_m", s.Z, 0, 10)
	}
}

func (p Plate) check(fs *check.Faults) {
	fs.Within("plate.max_kg", p.MaxKg, 0, 20000)
	fs.Within("plate.max_persons", float64(p.MaxPersons), 0, 50)
	fs.Text("plate.source", p.Source, 0, 80)
	for _, what := range p.Includes {
		fs.OneOf("plate.includes", what, "persons", "gear", "motor", "battery", "fuel", "livewell")
	}
}

func (l Limits) check(fs *check.Faults) {
	fs.Within("limits.freeboard_m.value", l.Freeboard.Value, 0, 3)
	fs.Within("limits.heel_deg.value", l.Heel.Value, 0.1, 30)
	fs.Within("limits.trim_low_deg.value", l.TrimLow.Value, -15, 15)
	fs.Within("limits.trim_high_deg.value", l.TrimHigh.Value, -15, 15)
	if l.TrimLow.Value >= l.TrimHigh.Value {
		fs.Add("limits.trim_low_deg.value", l.TrimLow.Value, fmt.Sprintf("must be under trim_high_deg, %g", l.TrimHigh.Value))
	}
	for name, limit := range map[string]Limit{"freeboard_m": l.Freeboard, "heel_deg": l.Heel, "trim_low_deg": l.TrimLow, "trim_high_deg": l.TrimHigh} {
		fs.OneOf("limits."+name+".source", limit.Source, "plate", "rule", "skipper", "practice")
	}
}

// boatLoad is the ledger of the boat herself.
func boatLoad(o Outfit, water float64, shell *hull.Shell) float.Load {
	l := float.Load{WaterDensity: water}
	for _, m := range o.Masses {
		l.Masses = append(l.Masses, float.Mass{Name: m.Name, Kg: m.Kg, At: m.At.r3(), Sigma: m.Kg * float.KnownSigma[m.Known]})
	}
	for _, t := range o.Tanks {
		tank := float.Tank{Name: t.Name, Size: t.Size.r3(), Corner: t.Corner.r3(), Fill: t.Fill, Density: t.Density}
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

// craft is a boat made ready for computing. It is not changed once made.
type craft struct {
	input   BoatInput
	trailer *TrailerInput
	hull    hull.Hull
	float   *float.Boat
	lines   hull.Lines
	load    float.Load // of the boat herself
	decks   decksKept
}

// sections is how many sections a drawing has.
const sections = 13

func newCraft(b store.Boat) (*craft, error) {
	c := &craft{input: BoatInput{Name: b.Name, Water: b.Water}}
	for _, part := range []struct {
		text json.RawMessage
		into any
	}{{b.Hull, &c.input.Hull}, {b.Outfit, &c.input.Outfit}, {b.Plate, &c.input.Plate}, {b.Limits, &c.input.Limits}, {b.Setup, &c.input.Setup}} {
		if err := json.Unmarshal(part.text, part.into); err != nil {
			return nil, fmt.Errorf("reading boat %s: %w", b.ID, err)
		}
	}
	if b.Trailer != nil {
		if err := json.Unmarshal(*b.Trailer, &c.trailer); err != nil {
			return nil, fmt.Errorf("reading the trailer of boat %s: %w", b.ID, err)
		}
	}
	h, _, err := c.input.Hull.shape()
	if err != nil {
		return nil, fmt.Errorf("shaping boat %s: %w", b.ID, err)
	}
	if c.float, err = float.NewCraft(h); err != nil {
		return nil, fmt.Errorf("shaping boat %s: %w", b.ID, err)
	}
	c.hull, c.lines = h, h.Lines(sections)
	c.load = boatLoad(c.input.Outfit, c.input.Water, c.float.Shell)
	return c, nil
}

// ledger is a copy of the boat's own load, to be added to.
func (c *craft) ledger() float.Load {
	return float.Load{WaterDensity: c.load.WaterDensity, Masses: slices.Clone(c.load.Masses), Tanks: slices.Clone(c.load.Tanks)}
}

// boatCache keeps boats made ready, by id and version, since making a shell
// costs more than floating it.
type boatCache struct {
	sync.Mutex
	ready map[boatKey]*craft
}

type boatKey struct {
	id      uuid.UUID
	version int
}

const cachedBoats = 256

func newBoatCache() *boatCache { return &boatCache{ready: map[boatKey]*craft{}} }

func (c *boatCache) get(b store.Boat) (*craft, error) {
	key := boatKey{b.ID, b.Version}
	c.Lock()
	ready := c.ready[key]
	c.Unlock()
	if ready != nil {
		return ready, nil
	}
	ready, err := newCraft(b)
	if err != nil {
		return nil, err
	}
	c.Lock()
	defer c.Unlock()
	if len(c.ready) >= cachedBoats {
		clear(c.ready)
	}
	c.ready[key] = ready
	return ready, nil
}

// SaveBoat makes a boat (no id) or changes one. It gives the boat's id.
func (a *App) SaveBoat(ctx context.Context, actor Actor, key, id uuid.UUID, version int, in BoatInput) (uuid.UUID, error) {
	if err := in.check(); err != nil {
		return uuid.Nil, err
	}
	if in.Setup == nil {
		in.Setup = []string{}
	}
	row := store.Boat{CrewID: actor.Crew, Name: in.Name, Water: in.Water}
	for _, part := range []struct {
		from any
		into *json.RawMessage
	}{{in.Hull, &row.Hull}, {in.Outfit, &row.Outfit}, {in.Plate, &row.Plate}, {in.Limits, &row.Limits}, {in.Setup, &row.Setup}} {
		text, err := json.Marshal(part.from)
		if err != nil {
			return uuid.Nil, fmt.Errorf("writing the boat: %w", err)
		}
		*part.into = text
	}
	err := a.in(ctx, actor, func(tx *gorm.DB) error {
		made, _, err := a.once(tx, actor, key, []any{id, version, in}, func() (uuid.UUID, error) {
			if id == uuid.Nil {
				row.ID, row.Version = store.NewID(), 1
				return row.ID, named(tx.Create(&row).Error, "name", in.Name)
			}
			return id, updateBoat(tx, actor, id, version, row)
		})
		id = made
		return err
	})
	return id, err
}

func updateBoat(tx *gorm.DB, actor Actor, id uuid.UUID, version int, row store.Boat) error {
	return named(changeBoat(tx, actor, id, version, map[string]any{"name": row.Name, "hull": row.Hull, "outfit": row.Outfit, "plate": row.Plate,
		"limits": row.Limits, "setup": row.Setup, "water": row.Water}), "name", row.Name)
}

// changeBoat sets columns of a boat unless someone changed her since.
func changeBoat(tx *gorm.DB, actor Actor, id uuid.UUID, version int, columns map[string]any) error {
	columns["version"] = version + 1
	done := tx.Model(&store.Boat{}).Where("crew_id = ? AND id = ? AND version = ?", actor.Crew, id, version).Updates(columns)
	if done.Error != nil || done.RowsAffected == 1 {
		return done.Error
	}
	var now store.Boat
	if err := tx.Where("crew_id = ? AND id = ?", actor.Crew, id).Take(&now).Error; err != nil {
		return absent(err, "boat")
	}
	c, err := newCraft(now)
	if err != nil {
		return err
	}
	return stale(now.Name, BoatView{ID: now.ID, Version: now.Version, BoatInput: c.input})
}

// BoatView is a boat as entered, to be changed.
type BoatView struct {
	ID      uuid.UUID `json:"id" format:"uuid"`
	Version int       `json:"version"`
	BoatInput
}

// Boat gives a boat as entered.
func (a *App) Boat(ctx context.Context, actor Actor, id uuid.UUID) (BoatView, error) {
	var v BoatView
	err := a.in(ctx, actor, func(tx *gorm.DB) error {
		b, c, err := a.boatAndCraft(tx, actor, id)
		if err != nil {
			return err
		}
		v = BoatView{ID: b.ID, Version: b.Version, BoatInput: c.input}
		return nil
	})
	return v, err
}

// craft is a boat made ready.
func (a *App) craft(tx *gorm.DB, actor Actor, id uuid.UUID) (*craft, error) {
	_, c, err := a.boatAndCraft(tx, actor, id)
	return c, err
}

func (a *App) boatAndCraft(tx *gorm.DB, actor Actor, id uuid.UUID) (store.Boat, *craft, error) {
	var b store.Boat
	if err := tx.Where("crew_id = ? AND id = ?", actor.Crew, id).Take(&b).Error; err != nil {
		return b, nil, absent(err, "boat")
	}
	c, err := a.boats.get(b)
	return b, c, err
}
