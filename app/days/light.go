package days

import (
	"fmt"
	"math"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/core/day"
	"ergasia/core/sun"
)

// LightView is the day's light; minutes after midnight of the first day, local time.
type LightView struct {
	Kind  string   `json:"kind" enum:"rises,up,down"`
	Rise  *float64 `json:"rise_min,omitempty"`
	Set   *float64 `json:"set_min,omitempty"`
	Dusk  *float64 `json:"dusk_min,omitempty"`
	Dawn  *float64 `json:"dawn_min,omitempty"`
	Words string   `json:"words"`
}

// Clock writes a time of the day; days after the first are counted.
func Clock(minutes float64) string {
	m := int(math.Round(minutes))
	days := int(math.Floor(float64(m) / (24 * 60)))
	m -= days * 24 * 60
	text := fmt.Sprintf("%d:%02d", m/60, m%60)
	switch {
	case days == 1:
		return text + " next day"
	case days > 1:
		return fmt.Sprintf("%s on day %d", text, days+1)
	case days < 0:
		return text + " the day before"
	}
	return text
}

// lightOf is the light of the trip's first day where its water is.
func (o *Outing) light() *LightView {
	if o.Plan.Lat == nil || o.Plan.Lon == nil {
		return nil
	}
	l := sun.At(int(kernel.DayOfTime(o.Trip.StartsOn)), sun.Place{Lat: *o.Plan.Lat, Lon: *o.Plan.Lon})
	local := func(utc float64) *float64 { return aboard.Finite(utc + float64(o.Plan.Zone)) }
	v := &LightView{Kind: string(l.Kind), Rise: local(l.Rise), Set: local(l.Set), Dawn: local(l.Dawn), Dusk: local(l.Dusk)}
	switch l.Kind {
	case sun.UpAllDay:
		v.Words = "The sun does not set."
	case sun.Down:
		v.Words = "The sun does not rise."
	default:
		v.Words = fmt.Sprintf("Sun %s to %s.", Clock(*v.Rise), Clock(*v.Set))
	}
	return v
}

// ByNight says whether some of the trip is between sunset and sunrise, by its kind, or by
// when she is afloat and the light of the first day.
func (o *Outing) ByNight() bool {
	if o.Trip.Kind == "night" || o.Trip.Kind == "days" {
		return true
	}
	l := o.light()
	if l == nil || l.Rise == nil || l.Set == nil {
		return l != nil && l.Kind == string(sun.Down)
	}
	begins := o.Begins()
	for i, p := range o.Plan.Phases {
		if !slices.Contains(ashore, p.Kind) && p.Kind != "recover" && (begins[i] < *l.Rise || begins[i+1] > *l.Set) {
			return true
		}
	}
	return false
}

// dark says whether she is afloat after dark on a trip that is not one by night.
func (o *Outing) dark(l LightView, phases []PhaseView, moments []day.Moment) (ReadingView, bool) {
	if o.Trip.Kind == "night" || o.Trip.Kind == "days" || l.Set == nil {
		return ReadingView{}, false
	}
	last := -1
	for i, p := range phases {
		if !p.Ashore && p.Kind != "recover" {
			last = i
		}
	}
	if last < 0 {
		return ReadingView{}, false
	}
	r := ReadingView{
		Key:     "dark",
		Moment:  len(moments) - 1,
		From:    *l.Set,
		Kept:    phases[last].To <= *l.Set,
		Because: []string{},
		Limit:   "sunset " + Clock(*l.Set),
	}
	for i, m := range moments {
		if m.Phase == last {
			r.Moment = i
		}
	}
	if r.Kept {
		r.Sentence = fmt.Sprintf("Back at the ramp at %s, before sunset at %s.", Clock(phases[last].To), Clock(*l.Set))
	} else {
		r.Sentence = fmt.Sprintf("Back at the ramp at %s, after sunset at %s: lights, or an earlier start.", Clock(phases[last].To), Clock(*l.Set))
	}
	return r, true
}
