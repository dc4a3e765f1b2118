package ready

import (
	"fmt"
	"slices"
	"strings"

	"ergasia/app/aboard"
	"ergasia/app/days"
	"ergasia/app/kernel"
	"ergasia/core/words"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// settled says whether somebody settled a stage, and what changed since.
func (s sources) settled(v StageView) StageView {
	v.Was = []string{}
	if v.State = "open"; len(v.Waits) > 0 {
		v.State = "waits"
	}
	for _, was := range s.outing.Trip.Settled {
		if was.Stage != v.Stage {
			continue
		}
		at := was.At
		v.By, v.At, v.State = s.named(was.By), &at, "settled"
		for _, said := range was.Said {
			if !slices.Contains(v.Said, said) {
				v.Was = append(v.Was, said)
			}
		}
		if len(v.Was) > 0 || len(v.Said) != len(was.Said) {
			v.State = "changed"
		}
	}
	return v
}

func (s sources) named(member uuid.UUID) string {
	if m := aboard.First(s.members, func(m model.Member) bool { return m.ID == member }); m != nil {
		return m.Name
	}
	return "somebody"
}

// who is the stage of boat, day, people and kits.
func (s sources) who() StageView {
	o := s.outing
	v := StageView{Stage: "who", Word: fmt.Sprintf("%d aboard", len(o.People)), Waits: []string{}, Said: []string{}}
	v.Said = append(v.Said, kernel.DayOf(o.Trip.StartsOn).String()+" to "+kernel.DayOf(o.Trip.EndsOn).String(),
		words.TripKinds.Label(o.Trip.Kind))
	if o.Laden == nil {
		v.Waits = append(v.Waits, "A boat.")
		v.Word = "no boat"
	} else {
		v.Said = append(v.Said, o.Laden.Boat.Name)
	}
	skipper := false
	for _, p := range o.People {
		if p.Guessed {
			continue
		}
		skipper = skipper || p.Role == "skipper"
		v.Said = append(v.Said, p.Name+", "+words.TripRoles.Label(p.Role))
	}
	if len(o.People) > 0 && o.People[0].Guessed {
		v.Waits = append(v.Waits, "Who comes.")
		v.Word = fmt.Sprintf("%d not named", len(o.People))
	} else if !skipper {
		v.Waits = append(v.Waits, "Which of them is the skipper.")
	}
	if len(s.kits) == 0 {
		v.Waits = append(v.Waits, "What for: a kit or two.")
	}
	for _, k := range s.kits {
		v.Said = append(v.Said, "kit "+k.Name)
	}
	return v
}

// missing are the lines of the trip's kits that the crew can't meet.
func (s sources) missing() (list []VerdictLine) {
	for _, k := range s.kits {
		for i, f := range k.Found {
			if f.Missing == 0 {
				continue
			}
			sentence := fmt.Sprintf("%s: %s, %d of %d missing.", kernel.Capital(k.Name), k.Lines[i].What, f.Missing, f.Wanted)
			if len(f.Because) > 0 {
				sentence += " " + kernel.Capital(strings.TrimSuffix(strings.Join(f.Because, "; "), ".")) + "."
			}
			level := "stop"
			if k.Lines[i].Nice {
				level = "caution"
			}
			list = append(
				list,
				VerdictLine{Key: "kit " + k.Name + " " + k.Lines[i].What, Stage: "pack", Level: level, Sentence: sentence},
			)
		}
	}
	return list
}

func (s sources) pack() StageView {
	v := StageView{Stage: "pack", Waits: []string{}, Said: []string{}}
	fetch := 0
	for _, g := range s.goes {
		v.Said = append(v.Said, g.Name)
		if g.State == "fetch" {
			fetch++
			v.Waits = append(v.Waits, fmt.Sprintf("%s: %s.", kernel.Capital(g.Name), g.From))
		}
	}
	missing := s.missing()
	for _, m := range missing {
		if m.Level == "stop" {
			v.Waits = append(v.Waits, m.Sentence)
		}
	}
	switch {
	case fetch > 0:
		v.Word = fmt.Sprintf("%d to fetch", fetch)
	case len(missing) > 0:
		v.Word = fmt.Sprintf("%d missing", len(missing))
	case len(s.goes) == 0:
		v.Word = "nothing yet"
	default:
		v.Word = fmt.Sprintf("all %d here", len(s.goes))
		if len(s.goes) == 1 {
			v.Word = "it is here"
		}
	}
	return v
}

func (s sources) stow() StageView {
	v := StageView{Stage: "stow", Waits: []string{}, Said: []string{}, Word: "all aboard"}
	if s.outing.Laden == nil {
		v.Word = "no boat"
		return v
	}
	for _, g := range s.outing.Unstowed {
		v.Waits = append(v.Waits, fmt.Sprintf("A place for %s.", g.Name))
	}
	for _, g := range s.outing.Laden.Aboard() {
		v.Said = append(v.Said, g.Name+" in "+g.Place.Name)
	}
	if len(v.Said) == 0 {
		v.Word = "nothing aboard"
	}
	if n := len(s.outing.Unstowed); n > 0 {
		v.Word = fmt.Sprintf("%d to stow", n)
	} else if n := s.outing.Moves; n > 0 {
		v.Word = fmt.Sprintf("%d to move", n)
		v.Waits = append(v.Waits, words.HowMany(n, "thing lies", "things lie")+" otherwise now than on this trip.")
	}
	return v
}

func (s sources) fuel() StageView {
	o := s.outing
	v := StageView{Stage: "fuel", Waits: []string{}, Said: []string{}, Word: "enough"}
	if o.Laden == nil || len(o.Fuel.Lacks) > 0 {
		v.Word = "not reckoned"
		v.Waits = append(v.Waits, o.Fuel.Lacks...)
		return v
	}
	litres := func(l float64) string {
		return fmt.Sprintf("%.0f %s", o.Laden.Units.Volume.FromSI(l), o.Laden.Units.Volume.Symbol)
	}
	r := o.Fuel.Answer
	v.Said = append(v.Said, "the way takes "+litres(r.Burn), litres(r.Reserve)+" are kept")
	add := 0.0
	for _, f := range r.Fill {
		add += f.Add
	}
	switch {
	case !r.Fits:
		v.Word = litres(r.Short) + " short"
		v.Waits = append(v.Waits, litres(r.Short)+" more than her tanks hold.")
	case add >= 0.5:
		v.Word = "fill " + litres(add)
		v.Waits = append(v.Waits, "Fill "+litres(add)+".")
	}
	return v
}

func (s sources) day(v days.DayView) StageView {
	d := StageView{Stage: "day", Waits: []string{}, Said: []string{}, Word: "not reckoned"}
	if v.Answer == nil {
		d.Waits = append(d.Waits, v.Lacks...)
		return d
	}
	if !v.Saved {
		d.Waits = append(d.Waits, "A look: it is the usual day of its kind.")
	}
	d.Word = "holds"
	broken := 0
	for _, r := range v.Answer.Readings {
		if !r.Kept {
			broken++
			d.Waits = append(d.Waits, r.Sentence)
		}
	}
	if broken > 0 {
		d.Word = fmt.Sprintf("%d wrong", broken)
	}
	for _, p := range v.Answer.Phases {
		d.Said = append(d.Said, fmt.Sprintf("%s from %s", p.Name, days.Clock(p.From)))
	}
	return d
}
