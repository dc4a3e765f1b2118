package entry

import (
	"fmt"
	"math"
	"regexp"
	"strings"

	"ergasia/core/units"
)

// fill takes what the line left out from a usual thing.
func (p *parser) fill() {
	e := p.entry
	t, known := template(e.Name)
	if e.Shape == "" {
		e.Shape = t.Shape
	}
	if !p.dry {
		e.NeedsDry = t.NeedsDry
	}
	e.Fragile, e.Metal, e.Buoyant = e.Fragile || t.Fragile, e.Metal || t.Metal, e.Buoyant || t.Buoyant
	e.Hazards = t.Hazards
	p.fillSize(t, known)
	if t.Inside != [3]float64{} {
		for i := range 3 {
			e.Inside[i] = e.Size[i] * t.Inside[i] / t.Size[i]
		}
	}
	e.MassKnown = "guess" // only a scale or a person's word makes it weighed
	if p.massed && p.weighed && !p.about {
		e.MassKnown = "weighed"
	}
	if !p.massed {
		e.Kg, e.MassKnown = t.Kg, "guess"
		if p.sides > 0 {
			e.Kg = scaled(t, e.Size)
		}
		e.doubt("No mass: %s is a guess from %s.", p.mass(e.Kg), t.Name)
	}
}

// scaled is the mass of a usual thing made larger or smaller, to 0.1 kg.
func scaled(t Template, size [3]float64) float64 {
	share := size[0] * size[1] * size[2] / (t.Size[0] * t.Size[1] * t.Size[2])
	return math.Max(0.05, math.Round(t.Kg*share*20)/20)
}

func (p *parser) fillSize(t Template, known bool) {
	e := p.entry
	switch {
	case p.sides == 3:
	case p.sides == 2:
		e.Size[2] = min(e.Size[0], e.Size[1], t.Size[2])
		e.doubt("Two sides only: the third, %s, is a guess.", p.side(e.Size[2]))
	case p.length > 0 && t.long:
		e.Size = [3]float64{p.length, t.Size[1], t.Size[2]}
		e.doubt("Length only: %s thick is a guess.", p.side(t.Size[1]))
	default:
		e.Size = t.Size
		if known {
			e.doubt("No size: %s x %s x %s is a guess from %s.", p.side(t.Size[0]), p.side(t.Size[1]), p.side(t.Size[2]), t.Name)
		} else {
			e.doubt("No size, and nothing usual has this name: %s x %s x %s is a guess.", p.side(t.Size[0]), p.side(t.Size[1]),
				p.side(t.Size[2]))
		}
	}
}

// Bounds beyond which a reading is likelier a slip. Practice, no source: lead
// is 11,300 kg/m³, and a box of air and foam hardly under 10.
const (
	heaviest = 8000.0
	lightest = 8.0
	longish  = 3.0
)

// suspect says which figures are hardly right.
func (p *parser) suspect() {
	e := p.entry
	if e.Count < 1 || e.Count > 1000 {
		e.doubt("%d of them? From 1 to 1000 can be kept together.", e.Count)
		e.Count = min(max(e.Count, 1), 1000)
	}
	for i, s := range e.Size {
		if s < 0.001 || s > 10 || math.IsNaN(s) {
			e.doubt("A side of %s can't be right: it is set to %s.", p.side(s), p.side(fallback.Size[i]))
			e.Size[i] = fallback.Size[i]
		} else if s > longish {
			e.doubt("%s is long: right?", p.side(s))
		}
	}
	if e.Kg > 500 || math.IsNaN(e.Kg) {
		e.doubt("%s can't be carried: it is set to 1 kg.", p.mass(e.Kg))
		e.Kg, e.MassKnown = 1, "guess"
	}
	volume := e.Size[0] * e.Size[1] * e.Size[2]
	if p.massed && p.sides == 3 && (e.Kg > heaviest*volume || e.Kg < lightest*volume) {
		e.doubt("%s in %.3g litres: is a unit wrong?", p.mass(e.Kg), volume*1000)
	}
	if p.inAll && e.Count > 1 {
		e.doubt("%s each: that is the whole shared by %d.", p.mass(e.Kg), e.Count)
	}
	name := e.Name
	if p.length > 0 {
		name = strings.Replace(name, p.lengthText, " ", 1)
	}
	for _, m := range strayNumber.FindAllStringSubmatch(name, 4) {
		if !ratedIn.MatchString(m[2]) {
			e.doubt("%s was read as a part of the name.", m[1])
		}
	}
}

var (
	strayNumber = regexp.MustCompile(`(?:^|[\s(,x×])([0-9]+(?:[.,/-][0-9]+)*)(\S*(?:\s\S*)?)`)
	ratedIn     = regexp.MustCompile(`(?i)^\s?(?:l|litres?|liters?|v|ah|wh|hp|w|gal|gallons?|pc|piece|man|person|way|part|stroke|m|ft)\b`)
)

func (p *parser) side(m float64) string {
	if p.known.US {
		return fmt.Sprintf("%.3g in", m/units.InchM)
	}
	return fmt.Sprintf("%.3g cm", m*100)
}

func (p *parser) mass(kg float64) string {
	if p.known.US {
		return fmt.Sprintf("%.3g lb", kg/units.PoundKg)
	}
	return fmt.Sprintf("%.3g kg", kg)
}
