package demo

import (
	"fmt"

	"ergasia/app/rigging"
	"ergasia/core/fitting"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// mounted is a fitting of the demo: a usual thing, where it stands, and what differs.
type mounted struct {
	usual, name string
	at          model.Vec
	change      func(*rigging.FittingInput)
}

// input is the usual thing where it stands, counted before in a mass of the boat's.
func (m mounted) input(partOf string) rigging.FittingInput {
	u, _ := fitting.UsualNamed(m.usual)
	in := rigging.FittingInput{Name: m.name, Kind: u.Kind, Kg: u.Kg, MassKnown: "catalogue", PartOf: partOf,
		Lies: model.FittingLies{
			At:     m.at,
			Size:   model.Vec(u.Size),
			Stands: u.Stands,
			Legs:   u.Legs,
			Turn:   u.Turn,
			Lean:   u.Lean,
			Swing:  u.Swing,
			Rod:    u.Rod,
			Screen: u.Screen,
			Beam:   u.Beam,
		},
		Held: model.FittingHeld{
			Method:  u.Method,
			Screw:   u.Screw,
			Count:   u.Screws,
			Grade:   "A4",
			Foot:    u.Foot,
			Gripped: u.Gripped,
		},
		Parts: []model.FittingPart{}}
	if m.at[1] < 0 && u.Turn != 180 {
		in.Lies.Turn = -u.Turn
	}
	if m.change != nil {
		m.change(&in)
	}
	return in
}

// pair is a fitting on either side.
func pair(usual, name string, at model.Vec, change func(*rigging.FittingInput)) []mounted {
	other := model.Vec{at[0], -at[1], at[2]}
	return []mounted{{usual, "port " + name, at, change}, {usual, "starboard " + name, other, change}}
}

// plate and bolted hold a fitting on a panel that was measured.
func plate(panel string, thick float64) func(*rigging.FittingInput) {
	return func(in *rigging.FittingInput) {
		in.Held.Method, in.Held.Panel, in.Held.Thickness = "plate", panel, thick
	}
}

func bolted(panel string, thick float64) func(*rigging.FittingInput) {
	return func(in *rigging.FittingInput) {
		in.Held.Method, in.Held.Panel, in.Held.Thickness, in.Held.Sealant = "through-bolt", panel, thick, "polysulphide"
	}
}

// and does one change after another.
func and(all ...func(*rigging.FittingInput)) func(*rigging.FittingInput) {
	return func(in *rigging.FittingInput) {
		for _, c := range all {
			c(in)
		}
	}
}

// dunlinRigged is rigged for the sea. Her sonar pole folds before the speed that she
// scouts at.
func dunlinRigged() (list []mounted) {
	glass := bolted("laminate", 8)
	aimed := func(turn, lean float64) func(*rigging.FittingInput) { // to port; the other side is its mirror
		return and(glass, func(in *rigging.FittingInput) {
			in.Lies.Lean, in.Lies.Turn = lean, turn
			if in.Lies.At[1] < 0 {
				in.Lies.Turn = -turn
			}
		})
	}
	list = append(list, pair("rod holder", "aft rod holder", model.Vec{0.35, 0.93, 0.74}, aimed(165, 30))...)
	list = append(list, pair("rod holder", "rod holder", model.Vec{1.05, 0.97, 0.75}, aimed(95, 45))...)
	list = append(list, pair("cleat", "stern cleat", model.Vec{0.12, 0.9, 0.74}, plate("laminate", 8))...)
	list = append(list, pair("cleat", "bow cleat", model.Vec{4.3, 0.6, 0.96}, plate("laminate", 8))...)
	list = append(list, pair("track", "track", model.Vec{2.9, 0.99, 0.8}, bolted("laminate", 8))...)
	list = append(list, pair("grab rail", "grab rail", model.Vec{3.6, 0.76, 0.87}, plate("laminate", 8))...)
	return append(
		list,
		mounted{"display", "console display, 12 in", model.Vec{2.02, 0.16, 0.95}, func(in *rigging.FittingInput) {
			in.Lies.Size, in.Lies.Screen, in.Lies.Lean, in.Kg = model.Vec{0.08, 0.32, 0.22}, 0.305, -25, 2.9
			glass(in)
		}},
		mounted{"sonar pole", "sonar pole", model.Vec{1.95, 1.0, 0.79}, func(in *rigging.FittingInput) {
			in.Held.Pole = &model.PoleInput{
				Wet:      0.5,
				Diameter: 0.032,
				Clamp:    0.55,
				Foot:     0.01,
				Speed:    6 * knot,
				Holds:    80,
			}
			in.Held.Comes, in.Held.Metal = "trip", "aluminium"
			in.Look = rigging.LookInput{What: "thumb screws of the clamp", Trips: 3}
		}},
		mounted{
			"antenna",
			"radio antenna",
			model.Vec{1.9, -1.0, 0.79},
			and(glass, func(in *rigging.FittingInput) { in.Held.Comes = "trip" }),
		}, // it folds down
		mounted{
			"nav light",
			"bow light",
			model.Vec{5.15, 0, 1.02},
			func(in *rigging.FittingInput) { in.Held.Screw = "M5" },
		},
		mounted{"stern light", "stern light", model.Vec{0.03, 0.38, 0.72}, nil},
		mounted{"bilge pump", "bilge pump", model.Vec{0.3, 0.1, 0.06}, nil},
		mounted{"bow motor", "bow motor", model.Vec{4.85, 0.36, 0.98}, func(in *rigging.FittingInput) {
			in.PartOf, in.Kg = "bow motor", 24
			plate("laminate", 8)(in)
			in.Held.Pole = nil // it lies stowed at speed
		}},
		mounted{"transducer", "transducer", model.Vec{-0.01, -0.42, 0.1333}, func(in *rigging.FittingInput) {
			in.Held.Method, in.Held.Wet, in.Held.Panel, in.Held.Thickness = "adhesive", "below", "laminate", 20
			in.Note = "On a block that is glued to the transom: no screw goes into the boat."
		}},
		mounted{"net hook", "net hook", model.Vec{1.5, 0.9, 0.66}, nil},
		foot("helm base", model.Vec{2.3, -0.2, 0.93}, 180),
		foot("bow base", model.Vec{4.1, -0.5, 0.95}, 180),
		unit,
	)
}

// ploverRigged has two displays at each end and a bow motor. One of the fore ones
// stands before the lid of the bow locker.
func ploverRigged() (list []mounted) {
	deck := bolted("laminate", 10)
	screen := func(turn, lean float64) func(*rigging.FittingInput) {
		return func(in *rigging.FittingInput) {
			in.Lies.Size, in.Lies.Screen, in.Lies.Turn, in.Lies.Lean, in.Kg = model.Vec{
				0.08,
				0.32,
				0.22,
			}, 0.305, turn, lean, 2.9
			deck(in)
		}
	}
	list = append(list, pair("cleat", "stern cleat", model.Vec{0.2, 0.85, 0.56}, plate("laminate", 10))...)
	list = append(list, pair("rod holder", "rod holder", model.Vec{1.25, 0.9, 0.57}, deck)...)
	return append(
		list,
		mounted{"display", "console display, upper", model.Vec{2.25, -0.42, 0.95}, screen(180, -10)},
		mounted{"display", "console display, lower", model.Vec{2.2, -0.42, 0.66}, screen(180, -30)},
		mounted{"display", "fore display, starboard", model.Vec{4.36, -0.33, 0.62}, screen(150, -40)},
		mounted{"display", "fore display, middle", model.Vec{4.22, -0.02, 0.6}, screen(180, -40)},
		mounted{"bow motor", "bow motor", model.Vec{4.6, 0.42, 0.72}, func(in *rigging.FittingInput) {
			in.PartOf, in.Kg = "bow motor, 12 V", 19
			plate("laminate", 10)(in)
		}},
		mounted{"seat pedestal", "fore pedestal", model.Vec{4.42, 0, 0.58}, plate("laminate", 10)},
		mounted{
			"shallow-water anchor",
			"shallow-water anchor",
			model.Vec{-0.05, 0.5, 0.55},
			func(in *rigging.FittingInput) {
				in.Kg = 14
				plate("laminate", 30)(in)
			},
		},
		mounted{"stern light", "stern light", model.Vec{0.12, -0.6, 0.56}, nil},
		foot("side base", model.Vec{2.5, 0.92, 0.58}, 180),
		mounted{"bow light", "bow light", model.Vec{5.0, 0, 0.74}, nil},
	)
}

// whimbrelRigged has a push pole along her side and a platform over her stern, held
// by bolts through sheet that is too thin without a plate.
func whimbrelRigged() (list []mounted) {
	list = append(list, pair("cleat", "bow cleat", model.Vec{3.6, 0.55, 0.6}, plate("aluminium", 3))...)
	return append(
		list,
		mounted{"poling platform", "poling platform", model.Vec{0.12, -0.25, 0.52}, func(in *rigging.FittingInput) {
			in.Lies.Size = model.Vec{0.45, 0.5, 0.05}
			in.Held.Method, in.Held.Panel, in.Held.Thickness, in.Held.Count, in.Held.Screw = "self-tapper", "aluminium", 2, 4, "M6"
			in.Held.Foot = [2]float64{450, 500}
		}},
		mounted{"pole", "push pole", model.Vec{2.1, 0.78, 0.53}, func(in *rigging.FittingInput) {
			in.Kind, in.Kg, in.Lies.Size = "other", 2.1, model.Vec{4.1, 0.035, 0.035}
			in.Lies.Turn, in.Held.Pole, in.Held.Comes, in.Held.Method = 0, nil, "trip", "clamp"
		}},
		mounted{
			"light",
			"lamp in the bow",
			model.Vec{4.05, 0, 0.64},
			func(in *rigging.FittingInput) { in.Lies.Turn = 0 },
		},
		mounted{"rod holder", "rod holder", model.Vec{1.3, -0.75, 0.53}, bolted("aluminium", 3)},
	)
}

// unit is a portable sonar of the crew's, which docks in three bases on two boats.
var unit = mounted{"display", "portable sonar", model.Vec{2.9, 0.6, 0.8}, func(in *rigging.FittingInput) {
	in.PartOf, in.Kg, in.MassKnown, in.Unit, in.Dock = "", 4.2, "weighed", true, "ball foot, 38 mm"
	in.Lies.Size, in.Lies.Screen, in.Lies.Turn = model.Vec{0.08, 0.26, 0.28}, 0.229, 0
	in.Held.Method, in.Held.Comes = "dock", "trip"
	in.Moving = model.FittingMoving{Minutes: 3, Parts: "its battery in the bag", Thief: true}
}}

// foot is a base for it.
func foot(name string, at model.Vec, turn float64) mounted {
	return mounted{"whatsit", name, at, func(in *rigging.FittingInput) {
		in.Lies.Size, in.Kg, in.Dock, in.Lies.Turn = model.Vec{0.07, 0.07, 0.08}, 0.3, "ball foot, 38 mm", turn
		bolted("laminate", 8)(in)
	}}
}

// moving takes the unit ashore and keeps Dunlin's sets for the sea and the lake.
func (l *loader) moving() error {
	boat := l.boats["Dunlin"]
	now, err := l.app.Rigging.Rigging(l.ctx, l.actor, boat)
	if err != nil {
		return err
	}
	by := map[string]rigging.FittingView{}
	for _, f := range now.Fittings {
		by[f.Name] = f
	}
	base := by["helm base"].ID
	if err := l.app.Rigging.Dock(l.ctx, l.actor, uuid.Nil, boat, by["portable sonar"].ID, 1, nil, false); err != nil {
		return fmt.Errorf("taking the sonar ashore: %w", told(err))
	}
	line := func(name string) model.RigLine { return model.RigLine{FittingID: by[name].ID} }
	for _, set := range []rigging.SetInput{
		{Name: "sea", Lines: []model.RigLine{line("radio antenna"), line("port aft rod holder"), line("starboard aft rod holder"),
			{FittingID: by["portable sonar"].ID, BaseID: &base}}},
		{Name: "lake", Lines: []model.RigLine{line("bow motor"), line("sonar pole"), line("radio antenna")}},
	} {
		if _, err := l.app.Rigging.SaveSet(l.ctx, l.actor, uuid.Nil, boat, uuid.Nil, 0, set); err != nil {
			return fmt.Errorf("the set %s: %w", set.Name, told(err))
		}
	}
	return nil
}

// rigging lists what is fastened to the three boats.
func (l *loader) rigging() error {
	for _, b := range []struct {
		boat, partOf string
		list         []mounted
		set          model.RiggingInput
	}{
		{"Dunlin", "hull with console and rails", dunlinRigged(), model.RiggingInput{Waters: "coastal", Over: 0.55, Road: 2.6, Bridge: 3.4, Working: "port", Deck: "laminate", DeckMM: 12,
			Rode: &model.RodeInput{Chain: 8, ChainMM: 8, Rope: 60, RopeMM: 12, Depth: 10, Tide: 0.4}}},
		{"Plover", "hull with decks", ploverRigged(), model.RiggingInput{Waters: "sheltered", Over: 0.5, Road: 2.4}},
		{"Whimbrel", "hull with benches", whimbrelRigged(), model.RiggingInput{Waters: "sheltered", Over: 0.5, Road: 2.2}},
	} {
		var inputs []rigging.FittingInput
		for _, m := range b.list {
			inputs = append(inputs, m.input(b.partOf))
		}
		boat := l.boats[b.boat]
		if _, err := l.app.Rigging.Mount(l.ctx, l.actor, uuid.Nil, boat, inputs); err != nil {
			return fmt.Errorf("rigging of %s: %w", b.boat, told(err))
		}
		now, err := l.app.Fleet.Boat(l.ctx, l.actor, boat)
		if err != nil {
			return err
		}
		if err := l.app.Rigging.Set(l.ctx, l.actor, uuid.Nil, boat, now.Version, b.set); err != nil {
			return fmt.Errorf("rigging of %s: %w", b.boat, told(err))
		}
	}
	return l.moving()
}
