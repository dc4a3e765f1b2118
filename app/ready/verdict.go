package ready

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"ergasia/app/days"
	"ergasia/app/kernel"
	"ergasia/app/lists"
	"ergasia/app/safety"

	"github.com/google/uuid"
)

// lines are the reasons of the verdict.
func (s sources) lines(v days.DayView) []VerdictLine {
	list := []VerdictLine{}
	if v.Answer != nil {
		for _, r := range v.Answer.Readings {
			one := VerdictLine{
				Key:      "day " + r.Key,
				Stage:    "day",
				Level:    "ok",
				Sentence: r.Sentence,
				Limit:    r.Limit,
				Certain:  r.Certain,
			}
			if r.Key == "fuel" {
				one.Stage = "fuel"
			}
			if !r.Kept {
				one.Level, one.Short = "stop", days.Phrase(r)
			} else if slices.Contains([]string{"open", "unlikely", "broken"}, r.Certain) {
				one.Level = "caution"
			}
			list = append(list, one)
		}
	}
	for _, lack := range v.Lacks {
		level := "caution"
		if v.Answer == nil {
			level = "stop"
		}
		list = append(list, VerdictLine{Key: "lack " + lack, Stage: "day", Level: level, Sentence: lack})
	}
	list = append(list, s.missing()...)
	list = append(list, s.fetching()...)
	list = append(list, s.runsOut()...)
	list = append(list, s.mustBeAboard()...)
	list = append(list, s.held()...)
	for i := range list {
		list[i].Accepted = s.accepted(list[i])
	}
	slices.SortStableFunc(list, func(a, b VerdictLine) int { return cmp.Compare(gravity[b.Level], gravity[a.Level]) })
	return list
}

var gravity = map[string]int{"ok": 0, "caution": 1, "stop": 2}

func (s sources) fetching() []VerdictLine {
	n := 0
	for _, g := range s.goes {
		if g.State == "fetch" {
			n++
		}
	}
	if n == 0 {
		return nil
	}
	return []VerdictLine{
		{
			Key:      "fetch",
			Stage:    "pack",
			Level:    "caution",
			Sentence: fmt.Sprintf("%d of what goes along are not here yet.", n),
		},
	}
}

// runsOut is what goes along or is aboard, and is out of date or due for service by the
// trip's last day, or broken.
func (s sources) runsOut() (list []VerdictLine) {
	o := s.outing
	if o.Laden == nil {
		return nil
	}
	goes := map[uuid.UUID]bool{}
	for id := range o.Promised {
		goes[id] = true
	}
	for _, g := range o.Laden.Gear {
		if at := o.Laden.Stowage[g.ID]; at.BoatID != nil && *at.BoatID == o.Laden.Boat.ID {
			goes[g.ID] = true
		}
		if goes[g.ID] && g.Condition == "broken" {
			list = append(list, VerdictLine{Key: "broken " + g.ID.String(), Stage: "pack", Level: "caution",
				Sentence: kernel.Capital(g.Name) + " is broken, and goes along."})
		}
	}
	for _, r := range s.due {
		key, stage := "", "pack"
		switch {
		case r.FittingID != nil && *r.BoatID == o.Laden.Boat.ID && r.When != "after":
			key, stage = "fitting "+r.FittingID.String(), "ready"
		case r.GearID != nil && goes[*r.GearID] && r.On != nil && !r.On.At.After(o.Trip.EndsOn) && r.Kind != "return":
			if r.Kind == "expiry" && s.toldOf(*r.GearID) {
				continue
			}
			key = r.Kind + " " + r.GearID.String()
		default:
			continue
		}
		said := fmt.Sprintf("%s: %s, %s.", kernel.Capital(r.Name), r.What, r.Left)
		list = append(
			list,
			VerdictLine{Key: key + r.What, Stage: stage, Level: "caution", Sentence: said},
		)
	}
	return list
}

// toldOf says whether a rule that is not met tells of a piece already.
func (s sources) toldOf(gear uuid.UUID) bool {
	return slices.ContainsFunc(s.safe.Rows, func(r safety.RowView) bool {
		return r.Status == "expired" && slices.ContainsFunc(r.By, func(p safety.PieceView) bool {
			return p.GearID != nil && *p.GearID == gear
		})
	})
}

// mustBeAboard is what the crew's rules ask for and is not met, and papers.
func (s sources) mustBeAboard() (list []VerdictLine) {
	for _, r := range s.safe.Rows {
		if r.Status == "met" || r.Status == "not_asked" {
			continue
		}
		level := "caution"
		if r.Hold {
			level = "stop"
		}
		list = append(list, VerdictLine{Key: "safe " + r.What, Stage: "ready", Level: level, Limit: r.Title,
			Sentence: fmt.Sprintf("%s: %s", kernel.Capital(r.What), r.Why)})
	}
	for _, p := range s.safe.Papers {
		if p.State != "good" {
			list = append(
				list,
				VerdictLine{Key: "paper " + p.Name + " " + p.Of, Stage: "ready", Level: "caution", Sentence: p.Said},
			)
		}
	}
	return list
}

// held is what jobs and lists hold the trip for.
func (s sources) held() (list []VerdictLine) {
	for _, j := range s.jobs {
		level := "caution"
		if j.Holds {
			level = "stop"
		}
		list = append(list, VerdictLine{Key: "job " + j.ID.String(), Stage: "ready", Level: level,
			Sentence: fmt.Sprintf(
				"%s is to be mended: %s.",
				s.outing.Laden.Boat.Name,
				strings.TrimSuffix(j.What, "."),
			)})
	}
	begun := !s.today.Before(s.outing.Trip.StartsOn)
	for _, text := range lists.Holding(s.lists, begun) {
		list = append(list, VerdictLine{Key: "list " + text, Stage: "ready", Level: "stop",
			Sentence: fmt.Sprintf("On the list, and not done: %s.", strings.TrimSuffix(text, "."))})
	}
	return list
}

func (s sources) accepted(l VerdictLine) *Accepting {
	for _, a := range s.outing.Trip.Accepted {
		if a.Key == l.Key {
			return &Accepting{By: s.named(a.By), At: a.At, Said: a.Said, Held: a.Said == l.Sentence}
		}
	}
	return nil
}

// verdict weighs the lines: what a skipper accepted, as it stands, no longer stops it.
func (s sources) verdict(p *TripPage) {
	stops, cautions, taken := 0, 0, 0
	first := ""
	for _, l := range p.Lines {
		held := l.Accepted != nil && l.Accepted.Held
		switch {
		case held && l.Level != "ok":
			taken++
		case l.Level == "stop":
			if stops++; stops == 1 {
				first = cmp.Or(l.Short, l.Sentence)
			}
		case l.Level == "caution":
			if cautions++; stops+cautions == 1 {
				first = cmp.Or(l.Short, l.Sentence)
			}
		}
	}
	p.Ready, p.Headline = "ready", "Ready, as far as was checked."
	switch {
	case stops > 0:
		p.Ready, p.Headline = "not_ready", "Not ready: "+wrong(stops, first)
	case cautions > 0:
		p.Ready, p.Headline = "cautions", "Ready, with cautions: "+wrong(cautions, first)
	case taken > 0:
		p.Ready, p.Headline = "cautions", fmt.Sprintf("Ready, with cautions: %d that a skipper accepted.", taken)
	}
	said := []string{}
	for _, l := range p.Lines {
		if l.Level != "ok" {
			said = append(said, l.Sentence)
		}
	}
	word := map[string]string{"ready": "ready", "cautions": "with cautions", "not_ready": "not ready"}[p.Ready]
	stage := s.settled(StageView{Stage: "ready", Word: word, Waits: []string{}, Said: said})
	p.Stages = append(p.Stages, stage)
}

// wrong tells the first of what is wrong, and how many more there are.
func wrong(n int, first string) string {
	if n > 1 {
		return fmt.Sprintf("%s and %d more.", strings.TrimSuffix(first, "."), n-1)
	}
	return first
}
