package days

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/trips"
	"ergasia/core/day"
	"ergasia/core/fuel"
	"ergasia/core/hull"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// DayView is how a trip's day goes.
type DayView struct {
	TripID   uuid.UUID     `json:"trip_id" format:"uuid"`
	Version  int           `json:"version" doc:"Of the trip, for saving"`
	Name     string        `json:"name"`
	Kind     string        `json:"kind" words:"trip_kinds"`
	StartsOn kernel.Date   `json:"starts_on"`
	Logged   bool          `json:"logged"`
	Boat     *DayBoat      `json:"boat,omitempty" doc:"Absent where the trip has no boat yet"`
	People   []DayPerson   `json:"people"`
	Plan     model.DayPlan `json:"plan"`
	Saved    bool          `json:"saved" doc:"Somebody wrote it; else it is the usual day of its kind"`
	Ashore   []uuid.UUID   `json:"ashore" format:"uuid" doc:"What of the boat's things stays ashore"`
	Lacks    []string      `json:"lacks" doc:"What is missing or guessed, as sentences"`
	Answer   *DayAnswer    `json:"answer,omitempty"`
}

// DayBoat is what a day's page needs of the boat.
type DayBoat struct {
	ID     uuid.UUID    `json:"id" format:"uuid"`
	Name   string       `json:"name"`
	Sea    bool         `json:"sea"`
	Lines  hull.Lines   `json:"lines"`
	Posts  []DayAt      `json:"posts"`
	Places []DayBox     `json:"places"`
	Tanks  []TankOfDay  `json:"tanks" doc:"Of water: what a phase may fill"`
	Limits model.Limits `json:"limits"`
	Plate  float64      `json:"plate_kg" doc:"What the builder's plate allows; 0 is none"`
}

// DayAt is a post.
type DayAt struct {
	ID   uuid.UUID `json:"id" format:"uuid"`
	Name string    `json:"name"`
	At   model.Vec `json:"at_m"`
}

// DayBox is a place as it is drawn.
type DayBox struct {
	ID     uuid.UUID `json:"id" format:"uuid"`
	Name   string    `json:"name"`
	Corner model.Vec `json:"corner_m"`
	Size   model.Vec `json:"size_m"`
}

// TankOfDay is a tank as it is drawn.
type TankOfDay struct {
	Name   string    `json:"name"`
	Kind   string    `json:"kind" words:"tank_kinds"`
	Litres float64   `json:"litres" doc:"That it holds"`
	Corner model.Vec `json:"corner_m"`
	Size   model.Vec `json:"size_m"`
}

// DayPerson is somebody who comes.
type DayPerson struct {
	model.TripPerson
	Mark    string  `json:"mark"`
	Worn    float64 `json:"worn_kg" doc:"Gear that they wear or carry"`
	Guessed bool    `json:"guessed,omitempty" doc:"Nobody said who comes: a number of people only"`
}

// DayAnswer is what becomes of the boat in a day.
type DayAnswer struct {
	Headline  string        `json:"headline"`
	Ready     string        `json:"ready" enum:"ready,cautions,not_ready"`
	Phases    []PhaseView   `json:"phases"`
	Moments   []MomentView  `json:"moments"`
	Readings  []ReadingView `json:"readings" doc:"The worst of each thing, the gravest first"`
	Light     *LightView    `json:"light,omitempty" doc:"Where the place is known"`
	Reserve   float64       `json:"reserve_l" doc:"Of fuel, that is to be left"`
	Fetching  float64       `json:"fetching_min" doc:"Minutes in the day that go into fetching and stowing back"`
	Banks     []BankOfDay   `json:"banks" doc:"Whose charge the moments tell"`
	BanksDay  int           `json:"banks_day,omitempty" doc:"Which day of several their charge is of, where one runs down on a later one"`
	Unchecked []string      `json:"unchecked"`
}

// BankOfDay is a bank on the day's time line.
type BankOfDay struct {
	Key  string  `json:"key"`
	Name string  `json:"name"`
	Left float64 `json:"left" doc:"Share that should stay in it"`
	Kept bool    `json:"kept" doc:"That much stays, through all days of the trip"`
}

// PhaseView is a stretch of the day.
type PhaseView struct {
	Name     string    `json:"name"`
	Kind     string    `json:"kind" words:"phase_kinds"`
	From     float64   `json:"from_min" doc:"Minutes after midnight of the first day"`
	To       float64   `json:"to_min"`
	Ashore   bool      `json:"ashore"`
	Speed    float64   `json:"speed_m_s"`
	Burn     float64   `json:"burn_l"`
	Fetching float64   `json:"fetching_min"`
	At       []PhaseAt `json:"at" doc:"Who is where"`
}

// PhaseAt is somebody at a post.
type PhaseAt struct {
	Person uuid.UUID `json:"person" format:"uuid"`
	Post   uuid.UUID `json:"post" format:"uuid"`
	Seated bool      `json:"seated"`
	CG     model.Vec `json:"cg_m"`
}

// MomentView is an instant of the day.
type MomentView struct {
	Phase    int              `json:"phase"`
	At       float64          `json:"at_min"`
	Attitude *aboard.Attitude `json:"attitude,omitempty"`
	Why      string           `json:"why,omitempty" doc:"Why there is no attitude afloat"`
	Band     float64          `json:"band_m" doc:"One standard deviation of the lowest freeboard"`
	Fuel     float64          `json:"fuel_l" doc:"In tanks and cans; under nought is what is missing"`
	Ice      float64          `json:"ice_kg"`
	Catch    float64          `json:"catch_kg"`
	Plate    float64          `json:"plate_kg"`
	Kg       float64          `json:"kg" doc:"All that she weighs"`
	Fills    []float64        `json:"fills" doc:"Of her tanks, share of each"`
	Charge   []float64        `json:"charge,omitempty" doc:"Of her banks, share of each, in the order of banks"`
	Spread   []float64        `json:"charge_band,omitempty" doc:"One standard deviation of those"`
}

// ReadingView is the worst of one thing through the day.
type ReadingView struct {
	Key      string   `json:"key" enum:"swamps,awash,freeboard,heel,bow_down,stern_down,plate,fuel,ice,power,start,well,dark"`
	Kept     bool     `json:"kept"`
	Moment   int      `json:"moment" doc:"Of moments"`
	From     float64  `json:"from_min" doc:"When it begins not to be kept"`
	Sentence string   `json:"sentence"`
	Limit    string   `json:"limit" doc:"With its source"`
	Sure     *float64 `json:"sure,omitempty" doc:"Chance, 0 to 1, that the limit is kept then, by the errors of the masses"`
	Certain  string   `json:"certain,omitempty" enum:"sure,likely,open,unlikely,broken"`
	Because  []string `json:"because" doc:"What makes most of it, the greatest first"`
}

// stepHours is how close together moments are looked at.
const stepHours = 0.25

// Day is how a trip's day goes, as it was kept.
func (a *Wing) Day(ctx context.Context, actor kernel.Actor, trip uuid.UUID) (DayView, error) {
	return a.view(ctx, actor, trip, nil)
}

// Try reckons another plan. Nothing is kept.
func (a *Wing) Try(ctx context.Context, actor kernel.Actor, trip uuid.UUID, plan model.DayPlan) (DayView, error) {
	if err := checkPlan(plan); err != nil {
		return DayView{}, err
	}
	return a.view(ctx, actor, trip, &plan)
}

func (a *Wing) view(ctx context.Context, actor kernel.Actor, trip uuid.UUID, plan *model.DayPlan) (DayView, error) {
	var o *Outing
	err := a.In(ctx, actor, func(tx *store.Tx) (err error) {
		o, err = a.Load(tx, actor, trip, plan)
		return err
	})
	if err != nil {
		return DayView{}, err
	}
	v := o.View(func() bool { return ctx.Err() != nil })
	return v, ctx.Err()
}

// View works the outing's day out. A stop of true ends it.
func (o *Outing) View(stop func() bool) DayView {
	v := DayView{
		TripID:   o.Trip.ID,
		Version:  o.Trip.Version,
		Name:     o.Trip.Name,
		Kind:     o.Trip.Kind,
		StartsOn: kernel.DayOf(o.Trip.StartsOn),
		Logged:   o.Trip.LoggedAt != nil,
		Plan:     o.planFor(o.actor),
		Saved:    o.Saved,
		People:   []DayPerson{},
		Lacks:    o.Lacks(),
		Ashore:   append([]uuid.UUID{}, o.Trip.Ashore...),
	}
	for _, p := range o.People {
		one := DayPerson{
			TripPerson: trips.SeenBy(o.actor, []model.TripPerson{p.TripPerson})[0],
			Mark:       p.Mark,
			Worn:       p.Worn,
			Guessed:    p.Guessed,
		}
		if one.Kg == 0 {
			one.Worn = 0
		}
		v.People = append(v.People, one)
	}
	if o.Laden == nil {
		return v
	}
	o.Laden.Stop = stop
	v.Boat = o.boat()
	d := o.Day()
	if err := d.Check(); err != nil {
		v.Lacks = append(v.Lacks, wrongIn(err))
		return v
	}
	v.Answer = o.answer(d, d.Moments(stepHours, stop))
	return v
}

// planFor is the plan as the actor sees it: whom to call ashore is not for guests.
func (o *Outing) planFor(actor kernel.Actor) model.DayPlan {
	plan := o.Plan
	if actor.Role == kernel.Guest && plan.Ashore != nil {
		told := *plan.Ashore
		told.Contact, told.Call = "", ""
		plan.Ashore = &told
	}
	return plan
}

// Lacks is what is missing or guessed before the day can be believed.
func (o *Outing) Lacks() []string {
	list := []string{}
	if o.Laden == nil {
		return append(list, "The trip has no boat yet.")
	}
	if len(o.Laden.Posts) == 0 {
		list = append(
			list,
			o.Laden.Boat.Name+" has no posts yet, so nobody is aboard in the figures: add them in Set up.",
		)
	}
	if len(o.People) > 0 && o.People[0].Guessed {
		list = append(
			list,
			fmt.Sprintf("Nobody said who comes: the figures take %s of %s.",
				words.HowMany(len(o.People), "person", "people"), o.Laden.MassText(guessedKg)),
		)
	}
	if n := len(o.Unstowed); n > 0 {
		kg := 0.0
		for _, g := range o.Unstowed {
			w, _ := o.Laden.Weight(g)
			kg += w
		}
		list = append(
			list,
			fmt.Sprintf(
				"%d that go along have no place aboard yet, %s: they are reckoned amidships.",
				n,
				o.Laden.MassText(kg),
			),
		)
	}
	for _, p := range o.Plan.Phases {
		_, known := fuel.FlowAt(o.Fuel.Day.Rates, p.Speed)
		if p.Leg == 0 && p.Speed > 0 && !known && len(o.Fuel.Day.Rates) > 0 {
			list = append(
				list,
				fmt.Sprintf("%s is slower or faster than the table of what her motor takes: its fuel is not counted.",
					kernel.Capital(nameOf(p))),
			)
		}
	}
	return append(list, o.Fuel.Lacks...)
}

func (o *Outing) boat() *DayBoat {
	s := o.Laden
	b := &DayBoat{
		ID:     s.Boat.ID,
		Name:   s.Boat.Name,
		Sea:    s.AtSea(),
		Lines:  s.Craft.Lines,
		Posts:  []DayAt{},
		Places: []DayBox{},
		Tanks:  []TankOfDay{},
		Limits: s.Craft.Input.Limits,
		Plate:  s.Craft.Input.Plate.MaxKg,
	}
	for _, p := range s.Posts {
		b.Posts = append(b.Posts, DayAt{ID: p.ID, Name: p.Name, At: model.Vec{p.X, p.Y, p.Z}})
	}
	for _, p := range s.Places {
		b.Places = append(
			b.Places,
			DayBox{
				ID:     p.ID,
				Name:   p.Name,
				Corner: model.Vec{p.X, p.Y, p.Z},
				Size:   model.Vec{p.Length, p.Breadth, p.Height},
			},
		)
	}
	for i, t := range s.Craft.Input.Outfit.Tanks {
		b.Tanks = append(
			b.Tanks,
			TankOfDay{
				Name:   t.Name,
				Kind:   t.Kind,
				Litres: s.Craft.Load.Tanks[i].Volume() * 1000,
				Corner: t.Corner,
				Size:   t.Size,
			},
		)
	}
	return b
}

func (o *Outing) answer(d day.Day, moments []day.Moment) *DayAnswer {
	begins := o.Begins()
	a := &DayAnswer{Phases: []PhaseView{}, Moments: []MomentView{}, Readings: []ReadingView{}, Banks: []BankOfDay{},
		Unchecked: o.unchecked(),
		Reserve:   o.Limits().Reserve}
	for i, p := range o.Plan.Phases {
		a.Phases = append(a.Phases, o.phaseView(p, begins[i], begins[i+1]))
		a.Fetching += a.Phases[i].Fetching
	}
	for _, m := range moments {
		a.Moments = append(a.Moments, o.momentView(m, begins[0]))
	}
	for _, r := range o.Limits().Read(d, moments) {
		if r.Key == day.Awash && len(o.Laden.Craft.Hull.Spaces) == 0 {
			continue // nothing of hers drains by itself
		}
		if r.Key == day.Fuel && r.Kept() && len(o.Fuel.Lacks) > 0 {
			continue // nobody knows what the way takes: that fuel is left says nothing
		}
		a.Readings = append(a.Readings, o.reading(d, moments, r, begins[0]))
	}
	o.addPower(a)
	o.addWell(a)
	slices.SortStableFunc(a.Readings, func(x, y ReadingView) int { return rankKept(x) - rankKept(y) })
	if a.Light = o.light(); a.Light != nil {
		if dark, ok := o.dark(*a.Light, a.Phases, moments); ok {
			a.Readings = append(a.Readings, dark)
		}
	}
	o.judge(a)
	return a
}

func (o *Outing) phaseView(p model.DayPhase, from, to float64) PhaseView {
	speed, hours, flow := o.speedOf(p)
	v := PhaseView{
		Name:   nameOf(p),
		Kind:   p.Kind,
		From:   from,
		To:     to,
		Ashore: slices.Contains(ashore, p.Kind),
		Speed:  speed,
		Burn:   flow * hours,
		At:     []PhaseAt{},
	}
	stands := o.stands(p)
	for _, at := range stands {
		v.At = append(
			v.At,
			PhaseAt{Person: o.People[at.person].ID, Post: at.post.ID, Seated: at.seated, CG: model.VecOf(at.body.At)},
		)
	}
	if all := o.workingHours(); slices.Contains(working, p.Kind) && all > 0 && len(stands) > 0 {
		v.Fetching = o.fetched(manned(stands)) * hours / all
	}
	return v
}

// fetched is the minutes a day of fetching with people at some posts, worked out once
// for each set of them.
func (o *Outing) fetched(posts []uuid.UUID) float64 {
	slices.SortFunc(posts, func(a, b uuid.UUID) int { return slices.Compare(a[:], b[:]) })
	key := fmt.Sprint(slices.Compact(posts))
	if o.minutes == nil {
		o.minutes = map[string]float64{}
	}
	if _, known := o.minutes[key]; !known {
		o.minutes[key] = o.Laden.RummageFrom(posts)
	}
	return o.minutes[key]
}

// workingHours are those over which the day's uses of things are spread.
func (o *Outing) workingHours() (hours float64) {
	for _, p := range o.Plan.Phases {
		if slices.Contains(working, p.Kind) {
			_, h, _ := o.speedOf(p)
			hours += h
		}
	}
	return hours
}

func (o *Outing) momentView(m day.Moment, begin float64) MomentView {
	v := MomentView{
		Phase: m.Phase,
		At:    begin + m.Hour*60,
		Fuel:  m.Fuel - m.Short,
		Catch: m.Catch,
		Plate: m.Plate,
		Why:   m.Result.Why,
		Fills: []float64{},
	}
	for _, t := range m.Load.Tanks {
		v.Fills = append(v.Fills, t.Fill)
		v.Kg += t.Kg()
	}
	for _, k := range m.Load.Masses {
		v.Kg += k.Kg
	}
	for _, kg := range m.Ice {
		v.Ice += kg
	}
	if f := m.Result.Figures; f != nil {
		v.Attitude = o.Laden.Craft.Attitude(f)
		v.Band = o.Laden.Craft.Float.Bands(m.Load, f).Lowest
	}
	return v
}

// unchecked is what a day's figures say nothing about.
func (o *Outing) unchecked() []string {
	list := []string{"Waves, wash and wind: the water is calm in all of this."}
	if o.power() == nil {
		list = append(list, "Whether her batteries last: nobody said under Boat, Power, what they are.")
	}
	return append(list, "The forecast, the tide and the bar.", "What nobody listed or weighed.")
}

// phrases are how what is wrong is told in a headline.
var phrases = map[string]string{
	"swamps":     "water comes in",
	"awash":      "a scupper goes under",
	"freeboard":  "she lies too low",
	"heel":       "she leans too far",
	"bow_down":   "she is down by the bow",
	"stern_down": "she is down by the stern",
	"plate":      "she carries more than her plate says",
	"fuel":       "fuel eats its reserve",
	"ice":        "the ice runs out",
	"power":      "a battery runs down",
	"start":      "her engine does not start",
	"well":       "more fish swim in her livewell than it keeps",
	"dark":       "she is back after dark",
}

// Phrase is what is wrong in a few words, for a headline.
func Phrase(r ReadingView) string { return fmt.Sprintf("%s from %s", phrases[r.Key], Clock(r.From)) }

// judge says in one line how the day stands.
func (o *Outing) judge(a *DayAnswer) {
	var wrong []string
	open := false
	for _, r := range a.Readings {
		if !r.Kept {
			wrong = append(wrong, Phrase(r))
		} else if r.Certain != "" && r.Certain != "sure" && r.Certain != "likely" {
			open = true
		}
	}
	a.Ready = "ready"
	switch {
	case len(wrong) > 0:
		a.Ready = "not_ready"
		a.Headline = kernel.Capital(listed(wrong)) + "."
	case open || len(o.Lacks()) > 0:
		a.Ready = "cautions"
		a.Headline = "Every limit holds through the day, by figures of which some are guesses."
	default:
		a.Headline = "Every limit holds through the day."
	}
}

// listed joins phrases as a sentence does.
func listed(list []string) string {
	if len(list) < 2 {
		return strings.Join(list, "")
	}
	return strings.Join(list[:len(list)-1], ", ") + ", and " + list[len(list)-1]
}

// rankKept puts what does not hold first.
func rankKept(r ReadingView) int {
	if r.Kept {
		return 1
	}
	return 0
}
