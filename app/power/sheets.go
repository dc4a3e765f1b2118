package power

import (
	"context"
	"fmt"

	"ergasia/app/kernel"
	"ergasia/core/circuits"
	"ergasia/core/wire"
	"ergasia/core/words"
	"ergasia/formats/wiring"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Sheets that can be printed.
const (
	SheetDiagram = "diagram"
	SheetFuses   = "fuses"
	SheetLabels  = "labels"
	SheetNight   = "labels-night"
	SheetFlags   = "flags"
)

// Sheet sets one of her sheets as PDF.
func (a *Wing) Sheet(ctx context.Context, actor kernel.Actor, boat uuid.UUID, which string) ([]byte, error) {
	var n wiring.Net
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		e, err := a.load(tx, actor, boat, nil)
		if err != nil {
			return err
		}
		n = e.onPaper()
		return nil
	})
	if err != nil {
		return nil, err
	}
	switch which {
	case SheetFuses:
		return wiring.Schedule(n)
	case SheetLabels:
		return wiring.Labels(n, false)
	case SheetNight:
		return wiring.Labels(n, true)
	case SheetFlags:
		return wiring.Flags(n)
	}
	return wiring.Diagram(n)
}

func (e *Electrics) onPaper() wiring.Net {
	n := wiring.Net{Boat: e.laden.Boat.Name, Diagram: e.net.Drawn(), Foot: e.cautions()[0]}
	for _, p := range e.net.Parts {
		n.Parts = append(n.Parts, wiring.Part{Key: p.Key, Name: p.Name, Kind: p.Kind, Says: e.says(p)})
	}
	for _, c := range e.Input.Circuits {
		one := wiring.Circuit{Key: c.Key, Name: c.Name, Amps: fmt.Sprintf("%.3g A", e.amps(c))}
		if p := e.net.Part(c.From); p != nil {
			one.Panel = p.Name
		}
		if amps, name := e.guards(c); amps > 0 {
			if one.Fuse = fmt.Sprintf("%g A", amps); c.Fuse == 0 {
				one.Fuse += ", " + name
			}
		}
		if c.Wire > 0 {
			one.Wire = gaugeName(c.Wire)
		}
		one.Feeds = e.feeds(c)
		n.Circuits = append(n.Circuits, one)
	}
	return n
}

// says are a few figures of a part.
func (e *Electrics) says(p circuits.Part) string {
	switch {
	case p.Kind == circuits.Bank:
		v := e.bankView(*e.bankOf(p.Key))
		if !v.Known {
			return ""
		}
		return fmt.Sprintf("%g V, %.0f Ah", v.Volts, v.Ah)
	case p.Rating > 0:
		return fmt.Sprintf("%g A", p.Rating)
	case p.Ways > 0:
		return fmt.Sprintf("%d of %s", e.net.Used(p.Key), words.HowMany(p.Ways, "way"))
	}
	return ""
}

// feeds is the name of the thing on a circuit, where that is listed.
func (e *Electrics) feeds(c model.CircuitInput) string {
	if c.FittingID != nil {
		for _, f := range e.laden.Craft.Rigging {
			if f.ID == *c.FittingID {
				return f.Name
			}
		}
	}
	if c.GearID != nil {
		if g := e.laden.Thing(*c.GearID); g != nil {
			return g.Name
		}
	}
	return ""
}

// gaugeName is a wire as it is sold: the gauge with that copper, or its area.
func gaugeName(mm2 float64) string {
	for _, g := range wire.AWG {
		if near(g.MM2, mm2) {
			return g.Name + " AWG"
		}
	}
	return fmt.Sprintf("%.3g mm²", mm2)
}

func near(a, b float64) bool { return a > 0.99*b && a < 1.01*b }
