package power

import (
	"cmp"
	"context"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/fleet"
	"ergasia/app/kernel"
	"ergasia/core/hull"
	"ergasia/core/power"
	"ergasia/core/wire"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// PowerView is a boat's electrics, worked out.
type PowerView struct {
	ID        uuid.UUID        `json:"id" format:"uuid"`
	Name      string           `json:"name"`
	Version   int              `json:"version" doc:"Of her electrics; 0 where nobody wrote any"`
	Lines     hull.Lines       `json:"lines"`
	Attitude  *aboard.Attitude `json:"attitude,omitempty"`
	Places    []fleet.PlaceRef `json:"places"`
	Posts     []fleet.PostRef  `json:"posts"`
	Net       model.NetInput   `json:"net"`
	Banks     []BankView       `json:"banks"`
	Parts     []NetPart        `json:"parts"`
	Circuits  []CircuitView    `json:"circuits"`
	Wells     []WellView       `json:"wells" doc:"What runs through her livewells, and the fish that keeps"`
	Bilge     []BilgeView      `json:"bilge" doc:"Her bilge pumps"`
	Spare     string           `json:"spare_aerator" doc:"Where a spare aerator lies, and what it can hang on"`
	Tanks     []string         `json:"tanks" doc:"Her livewells among her tanks"`
	Findings  []PowerFinding   `json:"findings" doc:"What wants a hand first"`
	Diagram   DiagramView      `json:"diagram"`
	Batteries []BatteryView    `json:"batteries" doc:"Gear that may be in her banks"`
	Masses    []string         `json:"masses" doc:"Batteries among her masses"`
	Fittings  []MountedView    `json:"fittings" doc:"What is fastened to her, and may hang on a circuit"`
	Usual     []UsualDraw      `json:"usual"`
	Gauges    []GaugeView      `json:"gauges" doc:"Wire that is sold, the thinnest first"`
	Starter   float64          `json:"starter_a" doc:"What her starter draws, as said or guessed; 0 where her power is not known"`
	Cautions  []string         `json:"cautions"`
}

// BankView is what a bank is today.
type BankView struct {
	Key       string     `json:"key"`
	Known     bool       `json:"known" doc:"Its batteries' figures are"`
	Chemistry string     `json:"chemistry,omitempty" words:"chemistries"`
	Volts     float64    `json:"volts"`
	Ah        float64    `json:"amp_hours" doc:"As new"`
	Holds     float64    `json:"holds_ah" doc:"Today, by its age, at 15 °C"`
	Usable    float64    `json:"usable_ah" doc:"Of that, what may be taken out"`
	Years     float64    `json:"years"`
	Feeds     int        `json:"feeds" doc:"Circuits that hang on it, or may"`
	At        *model.Vec `json:"at_m,omitempty"`

	Learned *model.LearnedBank `json:"learned,omitempty" doc:"What its volts at rest said"`
}

// NetPart is what hangs on a part.
type NetPart struct {
	Key  string     `json:"key" doc:"Of a part or a bank"`
	Used int        `json:"used" doc:"Ways that are"`
	Dies []string   `json:"dies" doc:"Circuits that have nothing to feed them without it"`
	At   *model.Vec `json:"at_m,omitempty"`
}

// CircuitView is a circuit worked out.
type CircuitView struct {
	Key    string     `json:"key"`
	Way    []string   `json:"way" doc:"From the battery to it"`
	Banks  []string   `json:"banks" doc:"That feed it, or may"`
	Wire   WireView   `json:"wire"`
	Guard  float64    `json:"guard_a" doc:"What protects it next; 0 is nothing"`
	Guards string     `json:"guards,omitempty" doc:"What that is"`
	Usual  string     `json:"usual" doc:"When it is on, in words"`
	At     *model.Vec `json:"at_m,omitempty" doc:"Where the thing is"`
}

// DiagramView is the one-line diagram.
type DiagramView struct {
	Columns  int           `json:"columns"`
	Rows     int           `json:"rows"`
	Parts    []DiagramSpot `json:"parts"`
	Circuits []DiagramSpot `json:"circuits"`
	Lines    []DiagramLine `json:"lines"`
}

// DiagramSpot is where something stands on the diagram.
type DiagramSpot struct {
	Key    string  `json:"key"`
	Column int     `json:"column"`
	Row    float64 `json:"row"`
}

// DiagramLine is a wire on the diagram.
type DiagramLine struct {
	From string `json:"from"`
	To   string `json:"to"`
	Lane int    `json:"lane"`
}

// BatteryView is gear that may be in a bank.
type BatteryView struct {
	ID        uuid.UUID `json:"id" format:"uuid"`
	Name      string    `json:"name"`
	Chemistry string    `json:"chemistry" words:"chemistries"`
	Volts     float64   `json:"volts"`
	Ah        float64   `json:"amp_hours"`
	Where     string    `json:"where"`
	Aboard    bool      `json:"aboard"`
}

// MountedView is something that may hang on a circuit.
type MountedView struct {
	ID   uuid.UUID `json:"id" format:"uuid"`
	Name string    `json:"name"`
	Kind string    `json:"kind" words:"fitting_kinds"`
	At   model.Vec `json:"at_m"`
}

// UsualDraw is what a kind of thing usually draws.
type UsualDraw struct {
	Kind     string  `json:"kind" words:"load_kinds"`
	Amps     float64 `json:"amps" doc:"At 12 V"`
	Duty     float64 `json:"duty"`
	Standing float64 `json:"standing_a"`
	Must     bool    `json:"must"`
	When     string  `json:"when"`
}

// GaugeView is a size of wire.
type GaugeView struct {
	Name   string  `json:"name" doc:"As it is sold: 10 AWG, 6 mm²"`
	MM2    float64 `json:"mm2"`
	Metric bool    `json:"metric"`
}

// Boat gives a boat's electrics.
func (a *Wing) Boat(ctx context.Context, actor kernel.Actor, boat uuid.UUID) (PowerView, error) {
	return a.view(ctx, actor, boat, nil)
}

// Try works other electrics out. Nothing is kept.
func (a *Wing) Try(ctx context.Context, actor kernel.Actor, boat uuid.UUID, in model.NetInput) (PowerView, error) {
	return a.view(ctx, actor, boat, &in)
}

func (a *Wing) view(
	ctx context.Context,
	actor kernel.Actor,
	boat uuid.UUID,
	in *model.NetInput,
) (v PowerView, err error) {
	err = a.In(ctx, actor, func(tx *store.Tx) error {
		e, err := a.load(tx, actor, boat, in)
		if err != nil {
			return err
		}
		v = e.view()
		return nil
	})
	return v, err
}

// load reads a boat with her electrics, or with others instead that are checked first.
func (a *Wing) load(tx *store.Tx, actor kernel.Actor, boat uuid.UUID, in *model.NetInput) (*Electrics, error) {
	s, err := a.where.Laden(tx, actor, boat)
	if err != nil {
		return nil, err
	}
	e, err := Of(tx, s, a.Today())
	if err != nil || in == nil {
		return e, err
	}
	if e, err = with(tx, s, *in, e.Version, a.Today()); err != nil {
		return nil, err
	}
	return e, e.check()
}

func (e *Electrics) view() PowerView {
	s := e.laden
	v := PowerView{
		ID:        s.Boat.ID,
		Name:      s.Boat.Name,
		Version:   e.Version,
		Lines:     s.Craft.Lines,
		Attitude:  s.Figures().Attitude,
		Places:    []fleet.PlaceRef{},
		Posts:     []fleet.PostRef{},
		Net:       whole(e.Input),
		Banks:     []BankView{},
		Parts:     []NetPart{},
		Circuits:  []CircuitView{},
		Wells:     e.wells(usualWater),
		Bilge:     e.bilge(),
		Spare:     e.spareAerator(),
		Tanks:     []string{},
		Findings:  e.findings(),
		Diagram:   e.diagram(),
		Batteries: []BatteryView{},
		Masses:    []string{},
		Fittings:  []MountedView{},
		Usual:     []UsualDraw{},
		Gauges:    gauges(),
		Starter:   e.starter(),
		Cautions:  e.cautions(),
	}
	for _, p := range s.Places {
		v.Places = append(v.Places, fleet.PlaceRef{ID: p.ID, Version: p.Version, PlaceInput: fleet.PlaceInputOf(p)})
	}
	for _, p := range s.Posts {
		v.Posts = append(v.Posts, fleet.PostRef{ID: p.ID, Version: p.Version,
			PostInput: fleet.PostInput{Name: p.Name, At: model.Vec{p.X, p.Y, p.Z}}})
	}
	for _, b := range e.Input.Banks {
		v.Banks = append(v.Banks, e.bankView(b))
	}
	for _, p := range e.net.Parts {
		v.Parts = append(
			v.Parts,
			NetPart{Key: p.Key, Used: e.net.Used(p.Key), Dies: e.net.Dies(p.Key), At: e.spot(p.Key)},
		)
	}
	for _, c := range e.Input.Circuits {
		v.Circuits = append(v.Circuits, e.circuitView(c))
	}
	for _, g := range e.candidates() {
		v.Batteries = append(v.Batteries, e.batteryView(g))
	}
	for _, t := range s.Craft.Input.Outfit.Tanks {
		if t.Kind == "livewell" {
			v.Tanks = append(v.Tanks, t.Name)
		}
	}
	for _, m := range s.Craft.Input.Outfit.Masses {
		if m.Kind == "battery" {
			v.Masses = append(v.Masses, m.Name)
		}
	}
	for _, f := range s.Craft.Rigging {
		v.Fittings = append(v.Fittings, MountedView{ID: f.ID, Name: f.Name, Kind: f.Kind, At: f.Lies.At})
	}
	for _, l := range words.LoadKinds {
		u := power.UsualLoads[l.Key]
		v.Usual = append(
			v.Usual,
			UsualDraw{Kind: u.Kind, Amps: u.Amps, Duty: u.Duty, Standing: u.Standing, Must: u.Must,
				When: when(u.On, u.Dark)},
		)
	}
	return v
}

// whole has lists where there are none.
func whole(in model.NetInput) model.NetInput {
	in.Banks = append([]model.BankInput{}, in.Banks...)
	in.Parts = append([]model.PartInput{}, in.Parts...)
	in.Circuits = append([]model.CircuitInput{}, in.Circuits...)
	in.Wells = append([]model.WellInput{}, in.Wells...)
	for i := range in.Banks {
		in.Banks[i].Batteries = append([]uuid.UUID{}, in.Banks[i].Batteries...)
	}
	for i := range in.Parts {
		in.Parts[i].From = append([]string{}, in.Parts[i].From...)
	}
	return in
}

func (e *Electrics) bankView(b model.BankInput) BankView {
	v := BankView{Key: b.Key, At: e.spot(b.Key), Years: e.years(batteriesOf(b, e.laden)), Volts: voltsOf(b, e.laden)}
	for _, c := range e.Input.Circuits {
		if slices.Contains(e.net.Feeding(c.From, nil), b.Key) {
			v.Feeds++
		}
	}
	v.Learned = e.Learned.Of(b.Key)
	one, known := e.bank(b, usualCelsius)
	if !known {
		return v
	}
	v.Known, v.Chemistry, v.Ah, v.Holds = true, string(one.Chemistry), one.Ah, one.Ah*one.Factor
	v.Usable = v.Holds * one.Usable
	return v
}

func (e *Electrics) spot(key string) *model.Vec {
	at, ok := e.at(key)
	if !ok {
		return nil
	}
	v := model.VecOf(at)
	return &v
}

func (e *Electrics) circuitView(c model.CircuitInput) CircuitView {
	v := CircuitView{
		Key:   c.Key,
		Way:   append([]string{}, e.net.Way(c.Key)...),
		Banks: append([]string{}, e.net.Feeding(c.From, nil)...),
		Wire:  e.wireOf(c),
	}
	v.Guard, v.Guards = e.guards(c)
	usual := power.UsualLoads[c.Kind]
	v.Usual = when(usual.On, usual.Dark)
	if len(c.On) > 0 {
		v.Usual = when(c.On, false)
	}
	if at, ok := e.loadAt(c); ok {
		spot := model.VecOf(at)
		v.At = &spot
	}
	return v
}

// when says in which phases something is on.
func when(phases []string, dark bool) string {
	if len(phases) >= len(power.UsualLoads["radio"].On) {
		return "all the time afloat"
	}
	names := []string{}
	for _, p := range phases {
		names = append(names, words.PhaseKinds.Label(p))
	}
	said := listed(names)
	if dark {
		said += ", after dark"
	}
	return said
}

func (e *Electrics) diagram() DiagramView {
	d := e.net.Drawn()
	v := DiagramView{
		Columns:  d.Columns,
		Rows:     d.Rows,
		Parts:    []DiagramSpot{},
		Circuits: []DiagramSpot{},
		Lines:    []DiagramLine{},
	}
	for _, s := range d.Parts {
		v.Parts = append(v.Parts, DiagramSpot{Key: s.Key, Column: s.Column, Row: s.Row})
	}
	for _, s := range d.Circuits {
		v.Circuits = append(v.Circuits, DiagramSpot{Key: s.Key, Column: s.Column, Row: s.Row})
	}
	for _, l := range d.Lines {
		v.Lines = append(v.Lines, DiagramLine{From: l.From, To: l.To, Lane: l.Lane})
	}
	return v
}

func (e *Electrics) batteryView(g model.Gear) BatteryView {
	at := e.laden.Stowage[g.ID]
	v := BatteryView{ID: g.ID, Name: g.Name, Chemistry: g.Chemistry, Volts: g.Volts, Ah: g.AmpHours,
		Aboard: at.BoatID != nil && *at.BoatID == e.laden.Boat.ID, Where: words.Spots.Label(at.Kind)}
	if at.PlaceID != nil {
		if p := e.laden.Place(*at.PlaceID); p != nil {
			v.Where = p.Name
		}
	}
	return v
}

// starter is what the engine's starter draws, A: as said, or by her power.
func (e *Electrics) starter() float64 {
	if e.Input.Starter > 0 {
		return e.Input.Starter
	}
	if c := e.laden.Craft.Input.Outfit.Carriage; c != nil && c.PowerKW > 0 && !c.Electric {
		return power.StarterAmps(c.PowerKW)
	}
	return 0
}

func gauges() (list []GaugeView) {
	for _, g := range wire.AWG {
		list = append(list, GaugeView{Name: g.Name + " AWG", MM2: g.MM2})
	}
	for _, g := range wire.Metric {
		list = append(list, GaugeView{Name: g.Name + " mm²", MM2: g.MM2, Metric: true})
	}
	slices.SortStableFunc(list, func(a, b GaugeView) int { return cmp.Compare(a.MM2, b.MM2) })
	return list
}
