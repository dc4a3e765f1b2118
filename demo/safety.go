package demo

import (
	"fmt"
	"slices"
	"time"

	"ergasia/app/aboard"
	"ergasia/app/brief"
	"ergasia/app/gear"
	"ergasia/app/jobs"
	"ergasia/app/kernel"
	"ergasia/app/lists"
	"ergasia/app/safety"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// classed is gear as safety equipment. Four things are wrong on the trips ahead, on
// purpose: the flares aboard Dunlin are out of date on the day of the cod run, none of the
// guests' jackets fits the first guest, Plover's extinguisher lies far from a hand, and her
// spare plug is ashore.
var classed = []struct {
	gear, class string
	fits        [2]float64
	serial      string
}{
	{gear: "lifejacket, adult", class: "lifejacket", fits: [2]float64{40, 120}},
	{gear: "lifejacket, inflatable", class: "lifejacket", fits: [2]float64{40, 150}},
	{gear: "lifejacket, guest", class: "lifejacket", fits: [2]float64{40, 90}},
	{gear: "throw line", class: "throwable"}, {gear: "throw cushion", class: "throwable"},
	{gear: "throw line, guest boat", class: "throwable"},
	{
		gear:  "fire extinguisher",
		class: "extinguisher 5-B",
	}, {gear: "fire extinguisher, lake boat", class: "extinguisher 5-B"},
	{gear: "flares, sealed box", class: "flare day and night"}, {gear: "flares, old box", class: "flare day and night"},
	{gear: "air horn", class: "horn"}, {gear: "horn, lake boat", class: "horn"},
	{gear: "first-aid kit", class: "first aid"}, {gear: "first-aid kit, small", class: "first aid"},
	{gear: "handheld radio", class: "radio"}, {gear: "handheld radio, third", class: "radio"},
	{gear: "personal beacon", class: "beacon", serial: "registered with the rescue service"},
	{gear: "satellite messenger", class: "messenger"},
	{gear: "paddle", class: "paddle"}, {gear: "paddle, short", class: "paddle"},
	{gear: "anchor with chain", class: "anchor"}, {gear: "folding anchor", class: "anchor"},
	{gear: "shallow-water anchor pole", class: "anchor"}, {gear: "anchor line, flaked", class: "anchor line"},
	{gear: "hand pump", class: "bilge pump"}, {gear: "bilge pump, spare", class: "bilge pump"},
	{gear: "bailer and sponge", class: "bailer"}, {gear: "spare drain plugs", class: "spare plug"},
	{gear: "spare drain plug set", class: "spare plug"}, {gear: "kill cord, spare", class: "stop cord"},
	{gear: "headlamps", class: "lamp"}, {gear: "headlamps, spare", class: "lamp"}, {gear: "stern lamp", class: "lamp"},
	{gear: "belt knife, Ilse", class: "knife"}, {gear: "belt knife, Sune", class: "knife"},
	{
		gear:  "spare rope, 30 m",
		class: "tow line",
	}, {gear: "tow line, 25 m", class: "tow line"}, {gear: "drogue", class: "drogue"},
	{gear: "grab bag", class: "grab bag"}, {gear: "papers, sealed wallet", class: "papers"},
	{gear: "towels and dry clothes", class: "blanket"}, {gear: "fenders", class: "fenders"},
	{gear: "floating suit, Ilse", class: "suit"}, {gear: "floating suit, Oskar", class: "suit"},
}

// inGrabBag is what lies in Dunlin's grab bag; its mass was weighed with it.
var inGrabBag = []gear.GearInput{
	{Name: "flares, grab bag", Size: model.Vec{0.2, 0.04, 0.04}, Kg: 0.2, Count: 6, SafetyClass: "flare night"},
	{Name: "water pouches", Size: model.Vec{0.14, 0.1, 0.04}, Kg: 0.4, Count: 2, SafetyClass: "water"},
	{Name: "lamp, grab bag", Size: model.Vec{0.09, 0.07, 0.05}, Kg: 0.1, Count: 1, SafetyClass: "lamp"},
	{Name: "radio, grab bag", Size: model.Vec{0.14, 0.07, 0.05}, Kg: 0.3, Count: 1, SafetyClass: "radio"},
}

func built(year int) *model.CarriageInput {
	yes := true
	return &model.CarriageInput{Fuel: "petrol", Built: year, Closed: &yes}
}

// carried is what rules ask of each boat, and what is built into her.
var carried = map[string]struct {
	kw    float64
	built int
	fixed []model.FixedThing
}{
	"Dunlin": {
		44.1,
		2016,
		[]model.FixedThing{{Class: "navigation lights", Name: "navigation lights", Where: "bow and pole at the stern"},
			{Class: "stop cord", Name: "stop-cord", Where: "at the wheel", Spot: "helm"},
			{
				Class: "drain plug",
				Name:  "transom plug",
				Where: "foot of the transom, starboard",
				Spot:  "stern_starboard",
			},
			{Class: "drain plug", Name: "well plug", Where: "transom well, port", Spot: "stern_port"},
			{Class: "bilge pump", Name: "bilge pump", Where: "under the transom well"},
			{Class: "throwable", Name: "throw ring", Where: "on the rail by the wheel", Spot: "side_starboard"},
			{
				Class: "compass",
				Name:  "compass",
				Where: "on the console",
			}, {Class: "ladder", Name: "ladder", Where: "at the stern, port side", Spot: "stern_port"}},
	},
	"Plover": {
		67.1,
		2019,
		[]model.FixedThing{{Class: "navigation lights", Name: "navigation lights", Where: "bow and stern"},
			{
				Class: "stop cord",
				Name:  "stop-cord",
				Where: "at the wheel", Spot: "helm",
			}, {Class: "stop cord", Name: "spare stop-cord", Where: "in the glove box"},
			{Class: "drain plug", Name: "transom plug", Where: "foot of the transom", Spot: "stern"},
			{
				Class: "bilge pump",
				Name:  "bilge pump",
				Where: "at the transom",
			}, {Class: "knife", Name: "line knife", Where: "in a sheath by the wheel"},
			{
				Class: "paddle",
				Name:  "paddle",
				Where: "under the side deck",
			}, {Class: "first aid", Name: "first-aid pouch", Where: "beside the wheel", Spot: "helm"},
			{Class: "tow line", Name: "tow line", Where: "on the stern cleat"},
			{Class: "throwable", Name: "throw line", Where: "on the back of the seat"},
			{Class: "ladder", Name: "ladder", Where: "at the stern, port side", Spot: "stern_port"}},
	},
	"Whimbrel": {
		11,
		2008,
		[]model.FixedThing{{Class: "stop cord", Name: "stop-cord", Where: "at the tiller", Spot: "helm"},
			{Class: "drain plug", Name: "transom plug", Where: "foot of the transom", Spot: "stern"},
			{Class: "spare plug", Name: "spare plug", Where: "tied to the stern bench"},
			{Class: "navigation lights", Name: "clip-on lights", Where: "bow and stern"},
			{Class: "throwable", Name: "ring", Where: "on the middle bench"},
			{Class: "extinguisher 5-B", Name: "extinguisher", Where: "under the stern bench"},
			{
				Class: "whistle",
				Name:  "whistle",
				Where: "at the tiller",
			}, {Class: "tow line", Name: "painter, 15 m", Where: "at the bow"},
			{Class: "ladder", Name: "step", Where: "at the stern", Spot: "stern"}},
	},
}

// briefs are what guests are told in the crew's words.
var briefs = map[string]model.BriefInput{
	"Dunlin": {CallSign: "VARM 21", Number: "219000021", Rescue: "112",
		Hold:   "Sit on the seat or stand at the rail. Hold on with one hand.",
		Toilet: "A bucket with a lid is in the port bench. Just ask."},
	"Plover": {Rescue: "112", Hold: "Stay in your seat when she runs. Hold on with one hand."},
	"Whimbrel": {
		Rescue: "112",
		Hold:   "Sit low in the middle. Stand up one at a time.",
		Stop:   "Pull the cord at the tiller. She stops.",
	},
}

// seats are the posts where guests sit.
var seats = map[string][]string{"Dunlin": {"port rail", "starboard rail"}, "Plover": {"passenger"},
	"Whimbrel": {"middle, starboard"}}

// ours is a pack of the crew's own.
const ours = `{
 "name": "varmsund",
 "title": "Varmsund skerries",
 "about": "What we carry in the sound, beside what is prudent.",
 "inherits": ["prudent-coastal"],
 "drops": [{"rule": "stop-cord-spare", "why": "Who steers wears the spare round the neck."}],
 "rules": [
  {"id": "knife", "what": "knife at hand", "need": [{"class": ["knife"]}], "source": "our own",
   "why": "We wear them: seconds do not matter."}
 ]
}`

// safety says what safety equipment is, and fills the lists.
func (l *loader) safety() error {
	for _, step := range []func() error{l.look, l.classes, l.grabBag, l.phones, l.carriage, l.papers, l.packs, l.lists, l.drills} {
		if err := step(); err != nil {
			return err
		}
	}
	return nil
}

func (l *loader) classes() error {
	for _, c := range classed {
		g, err := l.named(c.gear)
		if err != nil {
			return err
		}
		g.SafetyClass, g.FitsLow, g.FitsHigh, g.Registration = c.class, c.fits[0], c.fits[1], c.serial
		if c.gear == "flares, sealed box" || c.gear == "flares, old box" {
			g.Count = 6
			g.Kg, g.Size = g.Kg/6, model.Vec{0.3, 0.07, 0.06}
		}
		if c.gear == "fire extinguisher, lake boat" { // where the motor and the fuel are
			g.UsedFrom = "aft deck"
		}
		if c.gear == "grab bag" {
			g.Inside, g.KeepsDry = model.Vec{0.32, 0.2, 0.18}, true
			g.Kg -= 2.4 // what it holds is listed below
		}
		v, err := l.app.Gear.SaveGear(l.ctx, l.actor, uuid.Nil, g.ID, g.Version, g.GearInput)
		if err != nil {
			return fmt.Errorf("%s: %w", c.gear, told(err))
		}
		g.GearView = v
		l.known[c.gear] = g
	}
	return nil
}

// move puts gear into a box, or gives it to a person.
func (l *loader) move(id uuid.UUID, box, holder *uuid.UUID) error {
	_, err := l.app.Where.MoveGear(
		l.ctx,
		l.actor,
		uuid.Nil,
		aboard.MoveInput{GearID: &id, BoxID: box, HolderID: holder},
	)
	return told(err)
}

func (l *loader) grabBag() error {
	bag, err := l.named("grab bag")
	if err != nil {
		return err
	}
	last := kernel.DayOf(time.Now()).Add(500)
	for _, in := range inGrabBag {
		in.MassKnown, in.Turn, in.Uses = "weighed", "any", new(float64)
		if in.SafetyClass == "flare night" {
			in.ExpiresOn, in.Hazards = &last, []string{"flares"}
		}
		v, err := l.app.Gear.SaveGear(l.ctx, l.actor, uuid.Nil, uuid.Nil, 0, in)
		if err != nil {
			return fmt.Errorf("%s: %w", in.Name, told(err))
		}
		if err := l.move(v.ID, &bag.ID, nil); err != nil {
			return fmt.Errorf("%s: %w", in.Name, told(err))
		}
	}
	return nil
}

// phones are carried: a radio reaches further, and not everyone has one.
func (l *loader) phones() error {
	for mark, name := range map[string]string{"I": "phone, Ilse", "O": "phone, Oskar"} {
		member := l.members[mark]
		in := gear.GearInput{
			Name:        name,
			Size:        model.Vec{0.16, 0.08, 0.01},
			Kg:          0.25,
			MassKnown:   "catalogue",
			Count:       1,
			Turn:        "any",
			SafetyClass: "phone",
			OwnerID:     &member,
			NeedsDry:    true,
		}
		v, err := l.app.Gear.SaveGear(l.ctx, l.actor, uuid.Nil, uuid.Nil, 0, in)
		if err != nil {
			return fmt.Errorf("%s: %w", name, told(err))
		}
		if err := l.move(v.ID, nil, &member); err != nil {
			return fmt.Errorf("%s: %w", name, told(err))
		}
	}
	return nil
}

func (l *loader) carriage() error {
	for name, c := range carried {
		in := built(c.built)
		in.PowerKW, in.Fixed = c.kw, c.fixed
		boat := l.boats[name]
		v, err := l.app.Safety.Boat(l.ctx, l.actor, boat)
		if err != nil {
			return err
		}
		if err := l.app.Safety.SetCarriage(l.ctx, l.actor, uuid.Nil, boat, v.Version, *in); err != nil {
			return fmt.Errorf("what is built into %s: %w", name, told(err))
		}
		words := briefs[name]
		for _, p := range v.PostsAt {
			if slices.Contains(seats[name], p.Name) {
				words.Seats = append(words.Seats, p.ID)
			}
		}
		if err := l.app.Safety.SetBrief(l.ctx, l.actor, uuid.Nil, boat, v.Version+1, words); err != nil {
			return fmt.Errorf("the brief of %s: %w", name, told(err))
		}
	}
	return nil
}

func (l *loader) papers() error {
	wallet, err := l.named("papers, sealed wallet")
	if err != nil {
		return err
	}
	today := kernel.DayOf(time.Now())
	in := func(days int) *kernel.Date { d := today.Add(days); return &d }
	dunlin, plover, whimbrel := l.boats["Dunlin"], l.boats["Plover"], l.boats["Whimbrel"]
	i, o, s, m := l.members["I"], l.members["O"], l.members["S"], l.members["M"]
	for _, p := range []safety.PaperInput{
		{Name: "registration", Kind: "registration", Number: "VA-2107", BoatID: &dunlin, Asked: 1, WalletID: &wallet.ID},
		{Name: "registration", Kind: "registration", Number: "VA-2219", BoatID: &plover, Asked: 1},
		{Name: "registration", Kind: "registration", Number: "VA-1874", BoatID: &whimbrel, Asked: 1},
		{Name: "insurance, three boats", Kind: "insurance", Number: "771-204", Asked: 2, ExpiresOn: in(190), WalletID: &wallet.ID},
		{Name: "Tverrin card", Kind: "licence", MemberID: &i, Waters: []string{"Tverrin"}, Asked: 3, ExpiresOn: in(34)},
		{Name: "Tverrin card", Kind: "licence", MemberID: &o, Waters: []string{"Tverrin"}, Asked: 3, ExpiresOn: in(34)},
		{Name: "Tverrin card", Kind: "licence", MemberID: &s, Waters: []string{"Tverrin"}, Asked: 3, ExpiresOn: in(-20)},
		{Name: "guide's licence", Kind: "permit", MemberID: &i, Waters: []string{"Tverrin"}, Asked: 4, ExpiresOn: in(300)},
		{Name: "sea card", Kind: "licence", MemberID: &i, Waters: []string{"Varmsund"}, Asked: 3, ExpiresOn: in(120)},
		{Name: "sea card", Kind: "licence", MemberID: &o, Waters: []string{"Varmsund"}, Asked: 3, ExpiresOn: in(120)},
		{Name: "sea card", Kind: "licence", MemberID: &s, Waters: []string{"Varmsund"}, Asked: 3, ExpiresOn: in(60)},
		{Name: "sea card", Kind: "licence", MemberID: &m, Waters: []string{"Varmsund"}, Asked: 3, ExpiresOn: in(60)},
		{Name: "satellite messenger, plan", Kind: "subscription", Number: "M-5521", Asked: 9, ExpiresOn: in(25)},
	} {
		if _, err := l.app.Safety.SavePaper(l.ctx, l.actor, uuid.Nil, uuid.Nil, 0, p); err != nil {
			return fmt.Errorf("%s: %w", p.Name, told(err))
		}
	}
	return nil
}

func (l *loader) packs() error {
	if _, err := l.app.Safety.SavePack(l.ctx, l.actor, uuid.Nil, uuid.Nil, 0, ours); err != nil {
		return fmt.Errorf("the crew's pack: %w", told(err))
	}
	return told(l.app.Safety.ChoosePacks(l.ctx, l.actor, uuid.Nil, 0, "",
		[]string{"varmsund", "prudent-offshore", "tournament", "guiding", "night", "guests"}))
}

// lists has lines of the crew's own, and what was ticked on the last trip of Dunlin: one
// line was forgotten.
func (l *loader) lists() error {
	for _, in := range []lists.OwnLineInput{
		{Stage: "evening", Text: "Knots and leaders looked over", Sort: 1},
		{Stage: "load", Text: "Sleeve on every rod", Sort: 1},
		{Stage: "home", Text: "Boathouse key back on its hook", Sort: 1},
	} {
		if _, err := l.app.Lists.SaveLine(l.ctx, l.actor, uuid.Nil, uuid.Nil, 0, in); err != nil {
			return fmt.Errorf("%s: %w", in.Text, told(err))
		}
	}
	all, err := l.app.Trips.Trips(l.ctx, l.actor)
	if err != nil {
		return err
	}
	for _, t := range all {
		if !t.Logged || t.BoatID == nil || *t.BoatID != l.boat {
			continue
		}
		for line, done := range map[string]bool{"ramp:dry": true, "off:cord": true, "home:flush": true, "home:home": false,
			"evening:plan": false} {
			in := lists.TickInput{Line: line, Done: done, At: t.StartsOn.At.Add(9 * time.Hour)}
			if err := l.app.Lists.Tick(l.ctx, l.actor, uuid.Nil, t.ID, in); err != nil {
				return fmt.Errorf("%s: %w", line, told(err))
			}
		}
		return l.mended(t.ID)
	}
	return nil
}

// mended is something that broke on a trip, and was seen to.
func (l *loader) mended(trip uuid.UUID) error {
	id, err := l.app.Jobs.Report(l.ctx, l.actor, uuid.Nil, l.boat, jobs.JobInput{Kind: "defect", TripID: &trip,
		What: "Bilge pump's float switch sticks"})
	if err != nil {
		return told(err)
	}
	_, err = l.app.Jobs.Change(
		l.ctx,
		l.actor,
		uuid.Nil,
		l.boat,
		id,
		jobs.JobChange{State: "done", Note: "new switch, tried with a bucket",
			Version: 1},
	)
	return told(err)
}

// drills: two of the crew looked for Dunlin's extinguisher in the wrong place first.
func (l *loader) drills() error {
	for _, d := range []struct {
		who, gear, wrong string
		seconds          float64
	}{
		{"Marit", "fire extinguisher", "starboard bench", 21}, {"Sune", "fire extinguisher", "starboard bench", 17},
		{"Ilse", "fire extinguisher", "", 4}, {"Marit", "throw line", "", 6}, {"Sune", "first-aid kit", "", 5},
		{"Marit", "air horn", "", 4}, {"Tove", "throw line", "port quarter", 14},
	} {
		g, err := l.named(d.gear)
		if err != nil {
			return err
		}
		in := brief.DrillTry{Name: d.who, GearID: g.ID, Seconds: d.seconds, Found: true}
		if d.wrong != "" {
			in.Wrong = []uuid.UUID{l.places[d.wrong]}
		}
		if err := l.app.Brief.Tried(l.ctx, l.actor, uuid.Nil, l.boat, in); err != nil {
			return fmt.Errorf("drill of %s: %w", d.gear, told(err))
		}
	}
	return nil
}
