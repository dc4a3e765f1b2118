package lists

import (
	"fmt"
	"slices"

	"ergasia/core/words"
	"ergasia/store/model"
)

// charging are the lines of what is charged in the evening: her banks, and the small things
// that go along, counted against the sockets of the crew's chargers.
func (m *maker) charging() {
	if m.boat() == nil {
		return
	}
	m.banks()
	asks := map[string]int{}
	for _, g := range m.boat().Gear {
		if !m.along(g) || g.ChargedBy == "" && !slices.Contains(g.Hazards, "lithium") || m.inBank(g) {
			continue
		}
		text := "Charge: " + g.Name
		if g.Count > 1 {
			text += fmt.Sprintf(", %d", g.Count)
		}
		if g.ChargedBy != "" {
			text += ", " + words.ChargedBy.Label(g.ChargedBy)
			asks[g.ChargedBy] += max(1, g.Count)
		}
		m.add("evening", "charge "+g.Name, text)
	}
	m.sockets(asks)
}

// banks are a line for each bank; of a boat whose electrics nobody listed, for each battery
// among her masses.
func (m *maker) banks() {
	if m.outing.Wired == nil {
		for _, b := range m.boat().Craft.Input.Outfit.Masses {
			if b.Kind == "battery" {
				m.add("evening", "charge "+b.Name, "Charge: "+b.Name)
			}
		}
		return
	}
	for _, b := range m.outing.Wired.Input.Banks {
		text := "Charge: " + b.Name
		if p := m.outing.Plan.Power; p != nil {
			for _, s := range p.Starts {
				if s.Bank == b.Key {
					text += fmt.Sprintf(", which the day has at %.0f %%", s.SoC*100)
				}
			}
		}
		m.add("evening", "charge "+b.Name, text)
	}
}

func (m *maker) inBank(g model.Gear) bool {
	return m.outing.Wired != nil && slices.ContainsFunc(m.outing.Wired.Input.Banks,
		func(b model.BankInput) bool { return slices.Contains(b.Batteries, g.ID) })
}

// sockets says where more is to be charged than the crew's chargers take at once. A thing
// with a charger of its own needs none of them.
func (m *maker) sockets(asks map[string]int) {
	for _, kind := range words.ChargedBy.Keys() {
		want := asks[kind]
		if want == 0 || kind == "own" {
			continue
		}
		have := 0
		for _, g := range m.chargers {
			if g.Charges == kind {
				have += g.Sockets * max(1, g.Count)
			}
		}
		if want > have {
			said := fmt.Sprintf("%s by %s and %s there", words.HowMany(want, "thing charges", "things charge"),
				words.ChargedBy.Label(kind), words.HowMany(have, "socket is", "sockets are"))
			if have > 0 {
				said += fmt.Sprintf(": begin early, for %d rounds", (want+have-1)/have)
			}
			m.add("evening", "sockets "+kind, said)
		}
	}
}
