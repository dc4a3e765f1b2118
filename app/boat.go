package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
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

// HullInput is the shape of a boat: either tape measures or stations.
type HullInput struct {
	Chine       *hull.ChineMeasures `json:"chine,omitempty" doc:"Twelve tape measures of a hard-chine hull"`
	Stations    []StationInput      `json:"stations,omitempty" maxItems:"401" doc:"Or its stations, aft to fore"`
	FloodPoints []FloodInput        `json:"flood_points,omitempty" maxItems:"50" doc:"Where water first comes in, beside the transom notch of the tape measures"`
}

// StationInput is a half-section from keel to sheer.
type StationInput struct {
	X    float64      `json:"x_m"`
	Half [][2]float64 `json:"half_section_yz_m" minItems:"2" maxItems:"201"`
}

// FloodInput is a flood point.
type FloodInput struct {
	Name string `json:"name"`
	At   Vec    `json:"at_m"`
}

// shape checks the input and makes the hull and its shell.
func (in HullInput) shape() (hull.Hull, *hull.Shell, error) {
	var h hull.Hull
	switch {
	case in.Chine != nil && len(in.Stations) > 0 || in.Chine == nil && len(in.Stations) == 0:
		return h, nil, check.Faults{{Field: "hull", Want: "give either chine measures or stations"}}
	case in.Chine != nil:
		if err := in.Chine.Check("hull.chine."); err != nil {
			return h, nil, err
		}
		h = in.Chine.Hull()
	default:
		for _, s := range in.Stations {
			st := hull.Station{X: s.X}
			for _, p := range s.Half {
				st.Half = append(st.Half, hull.Point{Y: p[0], Z: p[1]})
			}
			h.Stations = append(h.Stations, st)
		}
	}
	for _, p := range in.FloodPoints {
		h.FloodPoints = append(h.FloodPoints, hull.FloodPoint{Name: p.Name, At: p.At.r3()})
	}
	if err := h.Check("hull."); err != nil {
		return h, nil, err
	}
	shell, err := h.Shell()
	return h, shell, err
}

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
}

// Outfit is what is always aboard.
type Outfit struct {
	Masses []FixedMass `json:"masses" maxItems:"200"`
	Tanks  []TankInput `json:"tanks" maxItems:"20"`
}

// Plate is what the builder's plate allows; no MaxKg means no plate.
type Plate struct {
	MaxKg      float64  `json:"max_kg"`
	MaxPersons int      `json:"max_persons"`
	Includes   []string `json:"includes" enum:"persons,gear,motor,battery,fuel,livewell" maxItems:"6" doc:"What counts towards max_kg"`
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
	add(boatLoad(in.Outfit, in.Water).Check(), "outfit.")
	_, _, err := in.Hull.shape()
	add(err, "")
	return invalid(fs.Err())
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
func boatLoad(o Outfit, water float64) float.Load {
	l := float.Load{WaterDensity: water}
	for _, m := range o.Masses {
		l.Masses = append(l.Masses, float.Mass{Name: m.Name, Kg: m.Kg, At: m.At.r3(), Sigma: m.Kg * float.KnownSigma[m.Known]})
	}
	for _, t := range o.Tanks {
		l.Tanks = append(l.Tanks, float.Tank{Name: t.Name, Size: t.Size.r3(), Corner: t.Corner.r3(), Fill: t.Fill, Density: t.Density})
	}
	return l
}

// craft is a boat made ready for computing. It is not changed once made.
type craft struct {
	input BoatInput
	hull  hull.Hull
	float *float.Boat
	lines hull.Lines
}

// sections is how many sections a drawing has.
const sections = 13

func newCraft(b store.Boat) (*craft, error) {
	c := &craft{input: BoatInput{Name: b.Name, Water: b.Water}}
	for _, part := range []struct {
		text json.RawMessage
		into any
	}{{b.Hull, &c.input.Hull}, {b.Outfit, &c.input.Outfit}, {b.Plate, &c.input.Plate}, {b.Limits, &c.input.Limits}} {
		if err := json.Unmarshal(part.text, part.into); err != nil {
			return nil, fmt.Errorf("reading boat %s: %w", b.ID, err)
		}
	}
	h, shell, err := c.input.Hull.shape()
	if err != nil {
		return nil, fmt.Errorf("shaping boat %s: %w", b.ID, err)
	}
	c.hull, c.float, c.lines = h, float.NewBoat(shell, h.FloodPoints), h.Lines(sections)
	return c, nil
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
	row := store.Boat{CrewID: actor.Crew, Name: in.Name, Water: in.Water}
	for _, part := range []struct {
		from any
		into *json.RawMessage
	}{{in.Hull, &row.Hull}, {in.Outfit, &row.Outfit}, {in.Plate, &row.Plate}, {in.Limits, &row.Limits}} {
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
	done := tx.Model(&store.Boat{}).Where("crew_id = ? AND id = ? AND version = ?", actor.Crew, id, version).
		Updates(map[string]any{"name": row.Name, "hull": row.Hull, "outfit": row.Outfit, "plate": row.Plate,
			"limits": row.Limits, "water": row.Water, "version": version + 1})
	if done.Error != nil {
		return named(done.Error, "name", row.Name)
	}
	if done.RowsAffected == 1 {
		return nil
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
		var b store.Boat
		if err := tx.Where("crew_id = ? AND id = ?", actor.Crew, id).Take(&b).Error; err != nil {
			return absent(err, "boat")
		}
		c, err := a.boats.get(b)
		if err != nil {
			return err
		}
		v = BoatView{ID: b.ID, Version: b.Version, BoatInput: c.input}
		return nil
	})
	return v, err
}
