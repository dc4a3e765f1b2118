package ready

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"ergasia/app/days"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/units"
	"ergasia/core/words"
	"ergasia/formats/tripsheets"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Sheet is one that is printed.
type Sheet = tripsheets.Sheet

// Sheets are what is printed of a trip; only the one of a key, where it is given.
func (a *Wing) Sheets(ctx context.Context, actor kernel.Actor, trip uuid.UUID, key string) ([]Sheet, error) {
	var s sources
	err := a.In(ctx, actor, func(tx *store.Tx) (err error) {
		s, err = a.read(ctx, tx, actor, trip)
		return err
	})
	if err != nil {
		return nil, err
	}
	v := s.outing.View(func() bool { return ctx.Err() != nil })
	all := []Sheet{s.loadSheet(v), s.packingSheet(), s.fuelCard(), s.timesSheet(v), s.listsSheet()}
	if actor.Role != kernel.Guest { // it has the numbers of people ashore
		all = slices.Insert(all, 4, s.floatPlan(v))
	}
	if key != "" {
		all = slices.DeleteFunc(all, func(t Sheet) bool { return t.Key != key })
		if len(all) == 0 {
			return nil, refuse.Missing("sheet")
		}
	}
	for i := range all {
		all[i].About = s.about(v)
	}
	return all, ctx.Err()
}

// SheetsPDF are the sheets as PDF.
func (a *Wing) SheetsPDF(ctx context.Context, actor kernel.Actor, trip uuid.UUID, key string) ([]byte, error) {
	list, err := a.Sheets(ctx, actor, trip, key)
	if err != nil {
		return nil, err
	}
	return tripsheets.Write(list)
}

func (s sources) about(v days.DayView) string {
	parts := []string{s.outing.Trip.Name, kernel.DayOf(s.outing.Trip.StartsOn).String()}
	if v.Boat != nil {
		parts = append(parts, v.Boat.Name)
	}
	if s.outing.Trip.Water != "" {
		parts = append(parts, s.outing.Trip.Water)
	}
	return strings.Join(parts, ", ")
}

func (s sources) mass(kg float64) string { return s.units.Mass.Text(kg, 1) }

// way is a distance as the crew tells it: at sea in nautical miles.
func (s sources) way(m float64) string {
	u := s.units.Way
	if s.outing.Laden != nil && s.outing.Laden.AtSea() {
		u = units.Unit{Symbol: "nmi", SI: units.NauticalMileM}
	}
	return u.Text(m, 1)
}

// loadSheet is what she carries: places with what lies in them, people, tanks, and how
// she lies.
func (s sources) loadSheet(v days.DayView) Sheet {
	sheet := Sheet{Key: "load", Title: "Load sheet", Sections: []tripsheets.SheetPart{},
		Foot: "Calm water only. The builder's plate, the law where you are and your own judgement come first."}
	o := s.outing
	if o.Laden == nil {
		return sheet
	}
	lies := tripsheets.SheetPart{Title: "How she lies through the day"}
	if v.Answer != nil {
		for _, r := range v.Answer.Readings {
			lies.Lines = append(
				lies.Lines,
				tripsheets.SheetLine{Text: r.Sentence, Right: map[bool]string{true: "holds", false: "NOT KEPT"}[r.Kept]},
			)
		}
	}
	people := tripsheets.SheetPart{Title: "People"}
	for i, p := range v.People {
		one := tripsheets.SheetLine{Text: p.Name}
		if post := o.Seat(i); post != nil {
			one.Text += " at " + post.Name
		}
		if p.Kg > 0 { // guests see nobody's
			one.Right = s.mass(p.Kg + p.Worn)
		}
		people.Lines = append(people.Lines, one)
	}
	sheet.Sections = append(sheet.Sections, lies, people)
	for _, p := range o.Laden.Places {
		sec, total := tripsheets.SheetPart{Title: p.Name}, 0.0
		for _, g := range o.Laden.LieIn(p.ID) {
			kg, _ := o.Laden.Weight(g)
			total += kg
			sec.Lines = append(sec.Lines, tripsheets.SheetLine{Text: counted(g), Right: s.mass(kg)})
		}
		if len(sec.Lines) > 0 {
			sec.Title += ", " + s.mass(total)
			sheet.Sections = append(sheet.Sections, sec)
		}
	}
	if len(o.Unstowed) > 0 {
		sec := tripsheets.SheetPart{Title: "Without a place yet"}
		for _, g := range o.Unstowed {
			kg, _ := o.Laden.Weight(g)
			sec.Lines = append(sec.Lines, tripsheets.SheetLine{Text: counted(g), Right: s.mass(kg)})
		}
		sheet.Sections = append(sheet.Sections, sec)
	}
	return sheet
}

func counted(g model.Gear) string {
	if g.Count > 1 {
		return fmt.Sprintf("%s × %d", g.Name, g.Count)
	}
	return g.Name
}

// packingSheet is what goes along, by where it is fetched, then by whose it is.
func (s sources) packingSheet() Sheet {
	sheet := Sheet{Key: "packing", Title: "Packing list", Sections: []tripsheets.SheetPart{}}
	group := func(title func(Going) string, tick func(Going) bool) (list []tripsheets.SheetPart) {
		at := map[string]int{}
		for _, g := range s.goes {
			name := title(g)
			if name == "" {
				continue
			}
			if _, known := at[name]; !known {
				at[name] = len(list)
				list = append(list, tripsheets.SheetPart{Title: name})
			}
			list[at[name]].Lines = append(
				list[at[name]].Lines,
				tripsheets.SheetLine{Text: g.Name, Right: s.mass(g.Kg), Tick: tick(g)},
			)
		}
		slices.SortFunc(list, func(a, b tripsheets.SheetPart) int { return cmp.Compare(a.Title, b.Title) })
		return list
	}
	always := func(Going) bool { return true }
	sheet.Sections = append(sheet.Sections, group(func(g Going) string { return g.From }, always)...)
	sheet.Sections = append(sheet.Sections, group(func(g Going) string {
		if g.State == "fetch" {
			return ""
		}
		return "Here already"
	}, func(Going) bool { return false })...)
	sheet.Sections = append(sheet.Sections, group(func(g Going) string {
		if g.Owner == "" {
			return ""
		}
		return g.Owner + " brings"
	}, always)...)
	return sheet
}

// fuelCard is what the way takes and what goes into each tank.
func (s sources) fuelCard() Sheet {
	sheet := Sheet{Key: "fuel", Title: "Fuel card", Sections: []tripsheets.SheetPart{},
		Foot: "An estimate. Fill with the motor off, nobody smoking, cans on the ground; leave the air gap, and air the boat before she is started."}
	o := s.outing
	if o.Laden == nil || len(o.Fuel.Lacks) > 0 {
		sec := tripsheets.SheetPart{Title: "Not reckoned yet"}
		for _, l := range o.Fuel.Lacks {
			sec.Lines = append(sec.Lines, tripsheets.SheetLine{Text: l})
		}
		sheet.Sections = append(sheet.Sections, sec)
		return sheet
	}
	litres := func(l float64) string {
		return fmt.Sprintf("%.0f %s", o.Laden.Units.Volume.FromSI(l), o.Laden.Units.Volume.Symbol)
	}
	r, pace := o.Fuel.Answer, o.Laden.Pace()
	tanks := tripsheets.SheetPart{Title: "Fill"}
	for i, t := range o.Fuel.Day.Tanks {
		tanks.Lines = append(
			tanks.Lines,
			tripsheets.SheetLine{
				Text:  t.ID + ", with " + litres(t.Now) + " in it",
				Right: "+ " + litres(r.Fill[i].Add),
				Tick:  true,
			},
		)
	}
	way := tripsheets.SheetPart{Title: "The way"}
	for i, l := range o.Fuel.Day.Legs {
		name := fmt.Sprintf("leg %d", i+1)
		if o.Trip.Fuel != nil && i < len(o.Trip.Fuel.Legs) {
			name = cmp.Or(o.Trip.Fuel.Legs[i].Name, name)
		}
		way.Lines = append(way.Lines, tripsheets.SheetLine{Right: litres(r.PerLeg[i]),
			Text: fmt.Sprintf(
				"%s: %s at %.3g %s, %s",
				name,
				s.way(l.Distance),
				pace.FromSI(l.Speed),
				pace.Symbol,
				minutes(l.Distance/l.Speed/60),
			)})
	}
	sum := tripsheets.SheetPart{
		Title: "In all",
		Lines: []tripsheets.SheetLine{{Text: "The way takes", Right: litres(r.Burn)},
			{
				Text:  "Kept at the end",
				Right: litres(r.Reserve),
			}, {Text: "Asked for, with what no pick-up reaches", Right: litres(r.Need)}},
	}
	if !r.Fits {
		sum.Lines = append(
			sum.Lines,
			tripsheets.SheetLine{Text: "More than her tanks hold", Right: litres(r.Short) + " short"},
		)
	}
	sheet.Sections = append(sheet.Sections, tanks, way, sum)
	return sheet
}

func minutes(m float64) string {
	n := int(math.Round(m))
	if n < 60 {
		return fmt.Sprintf("%d min", n)
	}
	return fmt.Sprintf("%d h %02d", n/60, n%60)
}

// listsSheet is the checklists, with a box for each line.
func (s sources) listsSheet() Sheet {
	sheet := Sheet{Key: "lists", Title: "Checklists", Sections: []tripsheets.SheetPart{}, Foot: s.lists.Law}
	for _, stage := range s.lists.Stages {
		part := tripsheets.SheetPart{Title: words.ListStages.Label(stage.Stage)}
		for _, l := range stage.Lines {
			text := l.Text
			if l.Holds {
				text += " (holds)"
			}
			part.Lines = append(part.Lines, tripsheets.SheetLine{Text: text, Right: l.Where, Tick: true})
		}
		sheet.Sections = append(sheet.Sections, part)
	}
	return sheet
}

// timesSheet is when each phase begins, and what the crew marked.
func (s sources) timesSheet(v days.DayView) Sheet {
	sheet := Sheet{Key: "times", Title: "Timetable", Sections: []tripsheets.SheetPart{}}
	if v.Answer == nil {
		return sheet
	}
	day := tripsheets.SheetPart{Title: kernel.DayOf(s.outing.Trip.StartsOn).String()}
	for _, p := range v.Answer.Phases {
		day.Lines = append(
			day.Lines,
			tripsheets.SheetLine{Text: days.Clock(p.From) + "  " + p.Name, Right: minutes(p.To - p.From)},
		)
	}
	if n := len(v.Answer.Phases); n > 0 {
		day.Lines = append(day.Lines, tripsheets.SheetLine{Text: days.Clock(v.Answer.Phases[n-1].To) + "  done"})
	}
	sheet.Sections = append(sheet.Sections, day)
	known := tripsheets.SheetPart{Title: "Also"}
	if v.Answer.Light != nil {
		known.Lines = append(known.Lines, tripsheets.SheetLine{Text: v.Answer.Light.Words})
	}
	for _, m := range s.outing.Plan.Marks {
		known.Lines = append(known.Lines, tripsheets.SheetLine{Text: days.Clock(float64(m.At)) + "  " + m.Name})
	}
	if len(known.Lines) > 0 {
		sheet.Sections = append(sheet.Sections, known)
	}
	return sheet
}

// back is when she is to be at the ramp again, minutes after midnight of the first day.
func back(v days.DayView) (float64, bool) {
	if v.Answer == nil {
		return 0, false
	}
	for i := len(v.Answer.Phases) - 1; i >= 0; i-- {
		if p := v.Answer.Phases[i]; !p.Ashore && p.Kind != "recover" {
			return p.To, true
		}
	}
	return 0, false
}

// floatPlan is for someone ashore: who, where, what she looks like, when to worry, whom
// to call.
func (s sources) floatPlan(v days.DayView) Sheet {
	o := s.outing
	sheet := Sheet{Key: "float-plan", Title: "Float plan", Sections: []tripsheets.SheetPart{},
		Foot: "Keep this until they say that they are home. In danger the rescue service is called at once, not when the time is over."}
	plan := model.FloatPlan{}
	if o.Plan.Ashore != nil {
		plan = *o.Plan.Ashore
	}
	who := tripsheets.SheetPart{Title: "Who"}
	for _, p := range o.People {
		who.Lines = append(who.Lines, tripsheets.SheetLine{Text: p.Name, Right: words.TripRoles.Label(p.Role)})
	}
	where := tripsheets.SheetPart{
		Title: "Where",
		Lines: []tripsheets.SheetLine{{Text: cmp.Or(o.Trip.Water, "the water is not written yet")}},
	}
	if o.Trip.Fuel != nil {
		for _, l := range o.Trip.Fuel.Legs {
			where.Lines = append(
				where.Lines,
				tripsheets.SheetLine{Text: cmp.Or(l.Name, "leg"), Right: s.way(l.Distance)},
			)
		}
	}
	boat := tripsheets.SheetPart{Title: "Boat"}
	if o.Laden != nil {
		u := o.Laden.Units.Length
		boat.Lines = append(boat.Lines, tripsheets.SheetLine{Text: o.Laden.Boat.Name,
			Right: fmt.Sprintf("%.1f %s", u.FromSI(o.Laden.Craft.Float.Shell.High.X), u.Symbol)})
	}
	if plan.Looks != "" {
		boat.Lines = append(boat.Lines, tripsheets.SheetLine{Text: plan.Looks})
	}
	when := tripsheets.SheetPart{Title: "When"}
	if home, ok := back(v); ok {
		when.Lines = append(when.Lines, tripsheets.SheetLine{Text: "They begin", Right: days.Clock(v.Answer.Phases[0].From)},
			tripsheets.SheetLine{Text: "At the ramp again", Right: days.Clock(home)},
			tripsheets.SheetLine{Text: "Worry, and call", Right: days.Clock(home + float64(cmp.Or(plan.Worry, usualWorry)))})
	}
	call := tripsheets.SheetPart{
		Title: "Whom to call",
		Lines: []tripsheets.SheetLine{{Text: cmp.Or(plan.Call, "the rescue service where they are")}},
	}
	if plan.Contact != "" {
		call.Lines = append(call.Lines, tripsheets.SheetLine{Text: "This plan is with " + plan.Contact})
	}
	sheet.Sections = append(sheet.Sections, who, where, boat, when, call)
	return sheet
}

// usualWorry is how long after they are to be back someone ashore waits, minutes.
// Practice, no source.
const usualWorry = 60
