package demo

import (
	"fmt"
	"strings"
	"time"

	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// wired is a circuit of the demo: what it is, what it hangs on, and what differs.
type wired struct {
	name, kind, from string
	fitting          string // that hangs on it
	amps, fuse, mm2  float64
	route            []model.Vec
	more             func(*model.CircuitInput)
}

// electrics of the three boats. Three things are wrong on purpose: Dunlin's sonar hangs on
// the battery that starts her, Whimbrel's lamp has no fuse, and Plover's motor bank does not
// last the second day of a tournament.
var electrics = map[string]struct {
	net   model.NetInput
	wired []wired
}{
	"Dunlin": {model.NetInput{
		Banks: []model.BankInput{
			{
				Key:      "start",
				Name:     "starting battery",
				Role:     "start",
				Series:   1,
				HeldDown: true,
				Fixed: &model.FixedBatteries{
					Count: 1, Chemistry: "flooded", Volts: 12, AmpHours: 80, Cranking: 640, Mass: "starting battery"},
			},
			{
				Key:      "house",
				Name:     "house battery",
				Role:     "house",
				Series:   1,
				HeldDown: true,
				Fixed: &model.FixedBatteries{
					Count: 1, Chemistry: "agm", Volts: 12, AmpHours: 95, Mass: "house battery"},
			},
		},
		Parts: []model.PartInput{
			{
				Key:  "selector",
				Kind: "selector",
				Name: "selector",
				From: []string{"house", "start"},
				At:   &model.Vec{1.05, -0.3, 0.5},
				Wire: 33.6,
			},
			{
				Key:    "main",
				Kind:   "breaker",
				Name:   "main breaker",
				From:   []string{"selector"},
				Rating: 50,
				At:     &model.Vec{1.05, -0.25, 0.5},
				Wire:   13.3,
				Near:   0.15,
			},
			{
				Key:  "panel",
				Kind: "panel",
				Name: "helm panel",
				From: []string{"main"},
				Ways: 8,
				At:   &model.Vec{1.8, 0, 0.9},
				Wire: 13.3,
			},
			{
				Key:    "motor",
				Kind:   "breaker",
				Name:   "bow motor breaker",
				From:   []string{"house"},
				Rating: 60,
				At:     &model.Vec{1.0, -0.35, 0.5},
				Wire:   21.2,
				Near:   0.15,
			},
			{
				Key:    "engine",
				Kind:   "fuse",
				Name:   "engine fuse",
				From:   []string{"start"},
				Rating: 20,
				At:     &model.Vec{0.85, 0, 0.5},
				Wire:   5.26,
				Near:   0.12,
			},
		},
		Chargers: []model.ChargerInput{{Kind: "engine", Name: "alternator", Bank: "start", Amps: 12},
			{Kind: "shore", Name: "charger, first lead", Bank: "start", Amps: 8},
			{Kind: "shore", Name: "charger, second lead", Bank: "house", Amps: 10}},
	}, []wired{
		{
			"engine",
			"engine",
			"engine",
			"",
			1.2,
			0,
			2.08,
			[]model.Vec{{0.85, 0, 0.5}, {0.2, 0, 0.5}, {-0.1, 0, 0.6}},
			nil,
		},
		{"console display", "sonar", "start", "console display, 12 in", 3.1, 5, 2.08,
			[]model.Vec{{0.9, -0.04, 0.5}, {0.9, 0.35, 0.4}, {1.85, 0.35, 0.4}, {1.95, 0.16, 0.85}, {2.02, 0.16, 0.95}},
			func(c *model.CircuitInput) { c.Known, c.Near, c.Slack = "measured", 0.12, 0.4 }},
		{"radio", "radio", "panel", "radio antenna", 0.9, 7.5, 2.08, []model.Vec{{1.8, 0, 0.9}, {1.9, -0.2, 0.9}}, nil},
		{"running lights", "lights", "panel", "bow light", 0.9, 3, 1.31,
			[]model.Vec{{1.8, 0, 0.9}, {1.9, -0.55, 0.45}, {3.9, -0.55, 0.5}, {4.9, -0.2, 0.9}, {5.15, 0, 1.02}}, nil},
		{"stern light", "anchor-light", "panel", "stern light", 0.3, 3, 1.31,
			[]model.Vec{{1.8, 0, 0.9}, {1.75, 0.38, 0.45}, {0.2, 0.38, 0.5}, {0.03, 0.38, 0.72}}, nil},
		{"bilge pump", "bilge", "house", "bilge pump", 3.2, 5, 2.08,
			[]model.Vec{{0.9, -0.28, 0.5}, {0.9, 0.1, 0.3}, {0.3, 0.1, 0.3}, {0.3, 0.1, 0.15}},
			func(c *model.CircuitInput) {
				c.Near, c.Height = 0.15, 0.46
				c.Pump = &model.PumpInput{Open: 4000, Shut: 3.5, Lift: 0.6, Hose: 1.2, Bore: 28, Bends: 2, Height: 0.06}
			}},
		{"phone socket", "socket", "panel", "", 2, 5, 2.08, []model.Vec{{1.8, 0, 0.9}, {1.8, -0.2, 0.95}}, nil},
		{"bow motor", "bow-motor", "motor", "bow motor", 44, 0, 33.6,
			[]model.Vec{{1, -0.35, 0.5}, {1.2, -0.62, 0.38}, {3.8, -0.62, 0.4}, {4.6, 0, 0.8}, {4.85, 0.36, 0.98}},
			func(c *model.CircuitInput) { c.Setting, c.Duty, c.On = 0.3, 0.3, []string{"fish"} }},
	}},
	"Plover": {model.NetInput{
		Banks: []model.BankInput{
			{Key: "start", Name: "starting battery", Role: "start", Series: 1, HeldDown: true},
			{Key: "motor", Name: "motor bank", Role: "motor", Series: 1, HeldDown: true},
		},
		Parts: []model.PartInput{
			{Key: "kill", Kind: "switch", Name: "kill switch", From: []string{"start"}, At: &model.Vec{0.6, -0.2, 0.5}},
			{
				Key:    "main",
				Kind:   "breaker",
				Name:   "main breaker",
				From:   []string{"kill"},
				Rating: 40,
				At:     &model.Vec{0.65, -0.2, 0.5},
				Wire:   8.37,
				Near:   0.16,
			},
			{
				Key:  "panel",
				Kind: "panel",
				Name: "console panel",
				From: []string{"main"},
				Ways: 6,
				At:   &model.Vec{2.2, -0.4, 0.6},
				Wire: 8.37,
			},
			{
				Key:    "mb",
				Kind:   "breaker",
				Name:   "motor breaker",
				From:   []string{"motor"},
				Rating: 60,
				At:     &model.Vec{0.6, 0.2, 0.5},
				Wire:   33.6,
				Near:   0.17,
			},
		},
		Chargers: []model.ChargerInput{{Kind: "engine", Name: "alternator", Bank: "start", Amps: 15},
			{Kind: "shore", Name: "charger, first lead", Bank: "start", Amps: 6},
			{Kind: "shore", Name: "charger, second lead", Bank: "motor", Amps: 3}},
		Wells: []model.WellInput{
			{Key: "well", Name: "livewell", Tank: "livewell, under the fore deck", Drain: 30, Scoop: 25, Lift: 0.35},
		},
	}, []wired{
		{
			"engine",
			"engine",
			"panel",
			"",
			1.5,
			15,
			3.31,
			[]model.Vec{{2.2, -0.4, 0.6}, {1, -0.6, 0.5}, {-0.1, 0, 0.5}},
			nil,
		},
		{"running lights", "lights", "panel", "bow light", 0.9, 3, 1.31,
			[]model.Vec{{2.2, -0.4, 0.6}, {3, -0.7, 0.5}, {4.6, -0.3, 0.6}, {5, 0, 0.74}}, nil},
		{"stern light", "anchor-light", "panel", "stern light", 0.3, 3, 1.31,
			[]model.Vec{{2.2, -0.4, 0.6}, {1, -0.6, 0.5}, {0.12, -0.6, 0.56}}, nil},
		{
			"livewell pump",
			"livewell",
			"panel",
			"",
			3.6,
			5,
			2.08,
			[]model.Vec{{2.2, -0.4, 0.6}, {1, -0.5, 0.3}, {0.3, -0.2, 0.2}},
			func(c *model.CircuitInput) {
				c.Duty, c.Pump = 0.4, &model.PumpInput{Open: 3000, Lift: 0.6, Hose: 3, Bore: 19, Bends: 3, Well: "well"}
			},
		},
		{"shallow-water anchor", "shallow-anchor", "start", "shallow-water anchor", 25, 40, 8.37,
			[]model.Vec{
				{0.5, -0.1, 0.5},
				{0.2, 0.3, 0.5},
				{-0.05, 0.5, 0.55},
			}, func(c *model.CircuitInput) { c.Near = 0.15 }},
		{"bow motor", "bow-motor", "mb", "bow motor", 46, 0, 33.6,
			[]model.Vec{{0.6, 0.2, 0.5}, {0.8, 0.7, 0.45}, {4, 0.6, 0.5}, {4.6, 0.42, 0.72}},
			func(c *model.CircuitInput) { c.Setting, c.Known = 0.31, "measured" }},
	}},
	"Whimbrel": {model.NetInput{
		Banks: []model.BankInput{{Key: "battery", Name: "battery", Role: "house", Series: 1, HeldDown: true,
			Fixed: &model.FixedBatteries{
				Count:     1,
				Chemistry: "agm",
				Volts:     12,
				AmpHours:  35,
				Mass:      "hull with benches",
			}}},
		Parts: []model.PartInput{{Key: "block", Kind: "bus", Name: "fuse block", From: []string{"battery"}, Ways: 4,
			At: &model.Vec{1.9, 0.3, 0.42}, Wire: 5.26}},
		Chargers: []model.ChargerInput{{Kind: "shore", Name: "charger", Bank: "battery", Amps: 4}},
	}, []wired{
		{
			"clip-on lights",
			"lights",
			"block",
			"",
			0.6,
			3,
			1.31,
			[]model.Vec{{1.9, 0.3, 0.42}, {2.5, 0.6, 0.45}, {4, 0.2, 0.6}},
			nil,
		},
		{"lamp in the bow", "lamps", "battery", "lamp in the bow", 4.5, 0, 1.31,
			[]model.Vec{{1.95, 0, 0.3}, {2.2, -0.6, 0.45}, {3.8, -0.4, 0.5}, {4.05, 0, 0.64}},
			func(c *model.CircuitInput) { c.WiredBy, c.CheckedBy = "Sune", "" }},
		{"phone socket", "socket", "block", "", 1.5, 5, 2.08, []model.Vec{{1.9, 0.3, 0.42}, {1.9, 0.5, 0.45}}, nil},
	}},
}

// power lists the electrics of the three boats.
func (l *loader) power() error {
	for _, name := range []string{"Dunlin", "Plover", "Whimbrel"} {
		if err := l.wire(name); err != nil {
			return fmt.Errorf("electrics of %s: %w", name, told(err))
		}
	}
	return l.charging()
}

// charged is how small things are charged before a day.
var charged = map[string]string{
	"headlamps":           "usb",
	"headlamps, spare":    "usb",
	"satellite messenger": "usb",
	"phone, Ilse":         "usb",
	"phone, Oskar":        "usb",
	"handheld radio":      "own",
	"portable sonar unit": "own",
}

// charging says how small things are charged, and what the crew's one charger takes at once.
func (l *loader) charging() error {
	if err := l.look(); err != nil {
		return err
	}
	set := func(name string, change func(*gear.GearInput)) error {
		g, err := l.named(name)
		if err != nil {
			return err
		}
		change(&g.GearInput)
		if _, err := l.app.Gear.SaveGear(l.ctx, l.actor, uuid.Nil, g.ID, g.Version, g.GearInput); err != nil {
			return fmt.Errorf("%s: %w", name, told(err))
		}
		return nil
	}
	for name, by := range charged {
		if err := set(name, func(in *gear.GearInput) { in.ChargedBy = by }); err != nil {
			return err
		}
	}
	return set("USB charger, 4 ports", func(in *gear.GearInput) { in.Charges, in.Sockets = "usb", 4 })
}

func (l *loader) wire(name string) error {
	boat, e := l.boats[name], electrics[name]
	rigged, err := l.app.Rigging.Rigging(l.ctx, l.actor, boat)
	if err != nil {
		return err
	}
	fitted := map[string]uuid.UUID{}
	for _, f := range rigged.Fittings {
		fitted[f.Name] = f.ID
	}
	net := e.net
	for i := range net.Banks {
		if f := net.Banks[i].Fixed; f != nil {
			f.Since = since(2)
		}
	}
	if name == "Plover" {
		if net.Banks, err = l.ploverBanks(net.Banks); err != nil {
			return err
		}
	}
	for _, w := range e.wired {
		c := model.CircuitInput{
			Key:       "to-" + strings.ReplaceAll(w.name, " ", "-"),
			Name:      w.name,
			Kind:      w.kind,
			From:      w.from,
			Amps:      w.amps,
			Known:     "plate",
			Fuse:      w.fuse,
			Wire:      w.mm2,
			Route:     w.route,
			Slack:     0.2,
			WiredBy:   "Oskar",
			CheckedBy: "Ilse",
		}
		if w.fitting != "" {
			id, ok := fitted[w.fitting]
			if !ok {
				return fmt.Errorf("%s has no %s", name, w.fitting)
			}
			c.FittingID = &id
		}
		if w.more != nil {
			w.more(&c)
		}
		net.Circuits = append(net.Circuits, c)
	}
	return l.app.Power.Save(l.ctx, l.actor, uuid.Nil, boat, 0, net)
}

// since is a date so many years ago.
func since(years int) string {
	return time.Now().AddDate(-years, -2, 0).Format(time.DateOnly)
}

// ploverBanks are of gear in her battery box.
func (l *loader) ploverBanks(banks []model.BankInput) ([]model.BankInput, error) {
	for i, b := range []struct {
		gear, chemistry string
		ah, cranking    float64
	}{{"cranking battery, 75 Ah", "flooded", 75, 600}, {"trolling battery, 100 Ah", "agm", 100, 0}} {
		g, err := l.named(b.gear)
		if err != nil {
			return nil, err
		}
		in := g.GearInput
		in.Chemistry, in.Volts, in.AmpHours, in.Cranking = b.chemistry, 12, b.ah, b.cranking
		day := kernel.DayOf(time.Now().AddDate(-3, 0, 0))
		in.InUseSince = &day
		if _, err := l.app.Gear.SaveGear(l.ctx, l.actor, uuid.Nil, g.ID, g.Version, in); err != nil {
			return nil, fmt.Errorf("%s: %w", b.gear, err)
		}
		banks[i].Batteries = []uuid.UUID{g.ID}
	}
	return banks, nil
}
