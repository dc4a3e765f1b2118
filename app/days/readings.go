package days

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/core/day"
	"ergasia/core/float"
	"ergasia/core/words"

	"gonum.org/v1/gonum/spatial/r3"
)

// reading words the worst of one thing: what, when, against what, why.
func (o *Outing) reading(d day.Day, moments []day.Moment, r day.Reading, begin float64) ReadingView {
	m := moments[r.Moment]
	at := Clock(begin + m.Hour*60)
	v := ReadingView{Key: string(r.Key), Kept: r.Kept(), Moment: r.Moment, From: begin + m.Hour*60, Because: []string{}}
	sentence, limit, sure := o.words(d, m, r, at)
	v.Sentence, v.Limit = sentence, limit
	if !math.IsNaN(sure) {
		sure = min(1, max(0, sure))
		v.Sure, v.Certain = &sure, aboard.Certainty(sure)
	}
	if !v.Kept {
		v.Because = o.because(d, m, r.Key)
		if r.Hours > 0.1 {
			v.From = begin + r.From*60
			v.Sentence += fmt.Sprintf(" For %s in all, from %s.", span(r.Hours), Clock(begin+r.From*60))
		}
	}
	return v
}

// words are a reading's sentence, its limit with the source, and the chance that it is
// kept then, NaN where none is told.
func (o *Outing) words(d day.Day, m day.Moment, r day.Reading, at string) (sentence, limit string, sure float64) {
	s, in := o.Laden, o.Laden.Craft.Input.Limits
	phase := nameOf(o.Plan.Phases[m.Phase])
	sure = math.NaN()
	var b float.Bands
	if f := m.Result.Figures; f != nil {
		b = s.Craft.Float.Bands(m.Load, f)
	}
	source := func(key string) string { return words.LimitSources.Label(key) }
	switch r.Key {
	case day.Swamps:
		if m.Result.Figures == nil {
			return fmt.Sprintf("%s, %s: %s.", at, phase, cmp.Or(m.Result.Why, "she does not float")), "she floats", 0
		}
		if r.Kept() {
			return "She floats with every edge over the water all day.", "she floats", float.Sure(r.Value, b.Lowest, 0)
		}
		return fmt.Sprintf(
				"%s, %s: water comes in at the %s.",
				at,
				phase,
				m.Result.Figures.Lowest.Name,
			), "she floats", float.Sure(
				r.Value,
				b.Lowest,
				0,
			)
	case day.Awash:
		if r.Kept() {
			return "Her deck drains all day.", "scuppers over the water", sure
		}
		a := m.Result.Figures.Awash[0]
		return fmt.Sprintf(
				"%s, %s: the %s is under, and the sea stands %s deep over it.",
				at,
				phase,
				a.Through,
				s.Small(r.Value),
			),
			"scuppers over the water", sure
	case day.Freeboard:
		f := m.Result.Figures
		return fmt.Sprintf("%s, %s: %s ± %s at the %s.", at, phase, s.Small(r.Value), s.Small(b.Lowest), f.Lowest.Name),
			fmt.Sprintf("at least %s, %s", s.Small(r.Limit), source(in.Freeboard.Source)), float.Sure(r.Value, b.Lowest, r.Limit)
	case day.Heel:
		return fmt.Sprintf(
				"%s, %s: she heels %s° ± %.1f %s.",
				at,
				phase,
				beside(math.Abs(r.Value), r.Limit),
				b.HeelDeg,
				sideOf(r.Value),
			),
			fmt.Sprintf(
				"within %.1f°, %s",
				r.Limit,
				source(in.Heel.Source),
			), float.Sure(
				r.Limit,
				b.HeelDeg,
				math.Abs(r.Value),
			)
	case day.BowDown:
		return fmt.Sprintf("%s, %s: trim %s ± %.1f.", at, phase, trimOf(r.Value, r.Limit), b.TrimDeg),
			fmt.Sprintf(
				"no lower by the bow than %s, %s",
				trimOf(r.Limit, math.Inf(1)),
				source(in.TrimLow.Source),
			), float.Sure(r.Value, b.TrimDeg, r.Limit)
	case day.SternDown:
		return fmt.Sprintf("%s, %s: trim %s ± %.1f.", at, phase, trimOf(r.Value, r.Limit), b.TrimDeg),
			fmt.Sprintf(
				"no lower by the stern than %s, %s",
				trimOf(r.Limit, math.Inf(1)),
				source(in.TrimHigh.Source),
			), float.Sure(r.Limit, b.TrimDeg, r.Value)
	case day.Loaded:
		return fmt.Sprintf("%s, %s: she carries %s of %s.", at, phase, s.MassText(r.Value), s.MassText(r.Limit)),
			fmt.Sprintf("at most %s, %s", s.MassText(r.Limit), cmp.Or(s.Craft.Input.Plate.Source, "plate")), sure
	case day.Fuel:
		return o.fuelWords(r, at, phase)
	case day.Ice:
		if r.Kept() {
			return fmt.Sprintf("%s of ice are left at the end.", s.MassText(r.Value)), "ice to the end", sure
		}
		return fmt.Sprintf("The ice is gone by %s, %s.", at, phase), "ice to the end", sure
	}
	return "", "", sure
}

// fuelWords are of what is left in her tanks, and how sure by what the log teaches.
func (o *Outing) fuelWords(r day.Reading, at, phase string) (sentence, limit string, sure float64) {
	sure = math.NaN()
	litres := func(v float64) string {
		return fmt.Sprintf("%.0f %s", o.Laden.Units.Volume.FromSI(v), o.Laden.Units.Volume.Symbol)
	}
	if l := o.Fuel.Learned; l != nil && l.Factor > 0 {
		sigma := o.Fuel.Answer.Burn * (l.High - l.Low) / l.Factor / 3.92
		sure = float.Sure(r.Value, sigma, r.Limit)
	}
	limit = litres(r.Limit) + " to be left"
	switch {
	case r.Value < 0:
		return fmt.Sprintf(
			"She runs dry: %s more are burnt by %s, %s, than her tanks hold.",
			litres(-r.Value),
			at,
			phase,
		), limit, sure
	case !r.Kept():
		return fmt.Sprintf(
			"%s left at %s, %s: %s of the reserve are burnt.",
			litres(r.Value),
			at,
			phase,
			litres(r.Excess),
		), limit, sure
	}
	return fmt.Sprintf(
		"%s left at the end, %s more than the reserve.",
		litres(r.Value),
		litres(r.Value-r.Limit),
	), limit, sure
}

func sideOf(heel float64) string {
	if heel < 0 {
		return "to port"
	}
	return "to starboard"
}

// trimOf words a trim beside the limit that it is held to.
func trimOf(deg, limit float64) string {
	if deg < -0.05 {
		return beside(-deg, -limit) + "° bow down"
	}
	return beside(math.Abs(deg), limit) + "° bow up"
}

// beside writes degrees to a tenth, and to a hundredth where that would look like the limit.
func beside(deg, limit float64) string {
	if d := math.Abs(deg - limit); d < 0.05 && d > 0.001 {
		return fmt.Sprintf("%.2f", deg)
	}
	return fmt.Sprintf("%.1f", deg)
}

func span(hours float64) string {
	m := int(math.Round(hours * 60))
	switch {
	case m < 60:
		return fmt.Sprintf("%d min", m)
	case m%60 == 0:
		return fmt.Sprintf("%d h", m/60)
	}
	return fmt.Sprintf("%d h %02d", m/60, m%60)
}

// part is something aboard that can be thought away.
type part struct {
	name string
	load func(float.Load) float.Load
}

// mostBecause is how many reasons are told.
const mostBecause = 3

// because thinks the people, the catch, the ice and what is in each tank away, one at a
// time, and tells what makes most of what is wrong.
func (o *Outing) because(d day.Day, m day.Moment, key day.Key) []string {
	f := m.Result.Figures
	if f == nil ||
		!slices.Contains([]day.Key{day.Awash, day.Freeboard, day.Heel, day.BowDown, day.SternDown, day.Swamps}, key) {
		return []string{}
	}
	type reason struct {
		said  string
		worth float64
	}
	var list []reason
	for _, p := range o.parts(d, m) {
		g := o.Laden.Craft.Float.Solve(p.load(m.Load), nil).Figures
		if g == nil {
			continue
		}
		worth, said := 0.0, ""
		switch key {
		case day.Heel:
			worth = math.Abs(f.HeelDeg) - math.Abs(g.HeelDeg)
			said = fmt.Sprintf("%s: %.1f° of it", p.name, worth)
			worth *= 4
		case day.BowDown:
			worth = g.TrimDeg - f.TrimDeg
			said = fmt.Sprintf("%s: %.1f° of it", p.name, worth)
			worth *= 4
		case day.SternDown:
			worth = f.TrimDeg - g.TrimDeg
			said = fmt.Sprintf("%s: %.1f° of it", p.name, worth)
			worth *= 4
		default:
			worth = (g.FreeboardAt(f.Lowest.At) - f.Lowest.M) * 100
			said = fmt.Sprintf("%s: %s of it", p.name, o.Laden.Small(worth/100))
		}
		if worth > 0.4 { // 4 mm, or a tenth of a degree
			list = append(list, reason{said: kernel.Capital(said), worth: worth})
		}
	}
	slices.SortStableFunc(list, func(a, b reason) int { return cmp.Compare(b.worth, a.worth) })
	said := []string{}
	for _, r := range list[:min(len(list), mostBecause)] {
		said = append(said, r.said)
	}
	return said
}

func (o *Outing) parts(d day.Day, m day.Moment) (list []part) {
	less := func(name string, is func(float.Mass) bool) part {
		return part{name: name, load: func(l float.Load) float.Load {
			l.Masses = slices.DeleteFunc(slices.Clone(l.Masses), is)
			return l
		}}
	}
	for _, at := range o.stands(o.Plan.Phases[m.Phase]) {
		body := at.body
		list = append(list, less(fmt.Sprintf("%s at %s", body.Name, at.post.Name), func(q float.Mass) bool {
			return q.Name == body.Name && sameSpot(q.At, body.At)
		}))
	}
	if m.Catch > 0 {
		list = append(
			list,
			less("the catch, "+o.Laden.MassText(m.Catch), func(q float.Mass) bool { return q.Name == "catch" }),
		)
	}
	for i, c := range d.Coolers {
		if m.Ice[i] > 0 {
			list = append(list, less("ice in "+c.Name, func(q float.Mass) bool { return q.Name == "ice in "+c.Name }))
		}
	}
	for i, t := range m.Load.Tanks {
		if kg := t.Kg(); kg > 1 {
			list = append(
				list,
				part{name: fmt.Sprintf("%s, %s", t.Name, o.Laden.MassText(kg)), load: func(l float.Load) float.Load {
					l.Tanks = slices.Clone(l.Tanks)
					l.Tanks[i].Fill = 0
					return l
				}},
			)
		}
	}
	return list
}

func sameSpot(a, b r3.Vec) bool { return r3.Norm(r3.Sub(a, b)) < 1e-9 }
