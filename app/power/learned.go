package power

import (
	"fmt"
	"math"
	"slices"
	"time"

	"ergasia/core/power"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// readSigma is how well volts at rest are read, of one battery of 12 V. Practice, no source.
const readSigma = 0.04

// Evening is a day as it was planned, with what a bank's volts at rest said before and after
// it; false where the bank is none that is known, or nobody read it.
func (d *Day) Evening(v model.RestVolts) (power.Evening, bool) {
	i := d.bank(v.Bank)
	if i < 0 || v.Before <= 0 || v.After <= 0 {
		return power.Evening{}, false
	}
	s := d.System
	s.Banks = slices.Clone(s.Banks)
	b := &s.Banks[i]
	b.Factor = power.Factor(b.Chemistry, 0, d.out.Celsius)
	volts := readSigma * b.Volts / 12
	morning, sure := power.AtRest(b.Chemistry, b.Volts, v.Before, volts)
	evening, also := power.AtRest(b.Chemistry, b.Volts, v.After, volts)
	b.SoC = morning
	return power.Evening{System: s, Bank: i, SoC: evening, Sigma: math.Hypot(sure, also)}, true
}

// faded is what a bank holds when it is to be tested or replaced. Practice, no source.
const faded = 0.6

// priorSigma is how far a bank may be from what its age says. Practice, no source.
const priorSigma = 0.25

// surelyOther is how many standard deviations a draw is off before it is told.
const surelyOther = 2

// Learn says what evenings taught of a bank; false where they are too few.
func (e *Electrics) Learn(bank string, evenings []power.Evening, last time.Time) (model.LearnedBank, bool) {
	b := e.bankOf(bank)
	if b == nil || len(evenings) == 0 {
		return model.LearnedBank{}, false
	}
	list := batteriesOf(*b, e.laden)
	if len(list) == 0 {
		return model.LearnedBank{}, false
	}
	years := e.years(list)
	age := power.Factor(power.Chemistry(list[0].Chemistry), years, 25)
	got, ok := power.Learn(evenings, power.Prior{Factor: age, Sigma: priorSigma})
	if !ok {
		return model.LearnedBank{}, false
	}
	out := model.LearnedBank{Bank: bank, Holds: got.Factor, Low: got.Within[0], High: got.Within[1], ByAge: age,
		Evenings: got.Evenings, On: last.Format(time.DateOnly), TestIn: testIn(got.Factor, years)}
	for _, c := range e.Input.Circuits {
		if t, known := got.Loads[c.Key]; known && math.Abs(t.By-1) > surelyOther*t.Sigma {
			out.Loads = append(out.Loads, model.LearnedLoad{Circuit: c.Key, By: t.By, Sigma: t.Sigma})
		}
	}
	return out, true
}

// testIn is in how many days a bank will have faded to where it is to be tested, if it
// goes on as it did; 1 where it has, 0 where that is not to be said.
func testIn(holds, years float64) int {
	const soon = 0.25 // years, in which nothing is said of how it fades
	switch {
	case holds <= faded:
		return 1
	case years < soon || holds >= 1:
		return 0
	}
	perYear := (1 - holds) / years
	days := (holds - faded) / perYear * 365.25
	return int(math.Min(days, 20*365))
}

// KeepLearned keeps what was learned of a boat's banks.
func KeepLearned(tx *store.Tx, boat uuid.UUID, list model.LearnedList) error {
	err := store.SetOne[model.Electrics](tx, map[string]any{"learned": list}, "boat_id = ?", boat)
	if err != nil {
		return fmt.Errorf("keeping what was learned of the banks: %w", err)
	}
	return nil
}
