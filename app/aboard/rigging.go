package aboard

import (
	"math"
	"slices"

	"ergasia/core/clear"
	"ergasia/core/float"
	"ergasia/store/model"

	"gonum.org/v1/gonum/spatial/r3"
)

// mount takes her fittings into her own load. What was counted in another mass of hers
// before it was listed is taken off there, so that listing a fitting changes what is
// known of her and not what she weighs.
func (c *Craft) mount() {
	off := map[string][]float.Mass{}
	for _, f := range c.Rigging {
		m := float.Mass{Name: f.Name, Kg: f.Kg, At: ThingOf(f).Middle(), Sigma: f.Kg * float.KnownSigma[f.MassKnown]}
		if c.counted(f.PartOf) {
			m.Sigma = 0 // that of what it was counted in stays
			off[f.PartOf] = append(off[f.PartOf], m)
		}
		c.Load.Masses = append(c.Load.Masses, m)
	}
	for _, f := range c.ashore {
		off[f.PartOf] = append(off[f.PartOf], float.Mass{Kg: f.Kg, At: ThingOf(f).Middle()})
	}
	for i, m := range c.Input.Outfit.Masses {
		if parts := off[m.Name]; len(parts) > 0 {
			c.Load.Masses[i] = rest(c.Load.Masses[i], parts, m.Kind == "fitting")
		}
	}
}

func (c *Craft) counted(name string) bool {
	return name != "" &&
		slices.ContainsFunc(c.Input.Outfit.Masses, func(m model.FixedMass) bool { return m.Name == name })
}

// trusted is the share of a mass that must be left for its centre to be worked out
// from what was taken off it. Practice: of less, a slip in one place would throw it
// far out of the boat.
const trusted = 0.5

// rest is what is left of a mass without its parts. Its centre moves away from what
// was taken off, but for a lump of fittings, whose centre was a guess.
func rest(whole float.Mass, parts []float.Mass, lump bool) float.Mass {
	kg, moment := whole.Kg, r3.Scale(whole.Kg, whole.At)
	for _, p := range parts {
		kg, moment = kg-p.Kg, r3.Sub(moment, r3.Scale(p.Kg, p.At))
	}
	if !lump && kg > trusted*whole.Kg {
		whole.At = r3.Scale(1/kg, moment)
	}
	whole.Kg = math.Max(kg, 0)
	return whole
}

// ThingOf is a fitting as what is in whose way is asked of it.
func ThingOf(f model.Fitting) clear.Thing {
	l := f.Lies
	t := clear.Thing{
		ID:     f.ID.String(),
		Name:   f.Name,
		Kind:   f.Kind,
		At:     l.At.R3(),
		Size:   l.Size.R3(),
		Stands: l.Stands,
		Legs:   l.Legs,
		Turn:   l.Turn,
		Lean:   l.Lean,
		Down:   f.Held.Comes == "trip",
		Swing:  l.Swing,
		Rod:    l.Rod,
		Screen: l.Screen,
		Beam:   l.Beam,
	}
	if slices.Contains([]string{"rod-holder", "cleat", "pedestal", "windlass"}, f.Kind) { // of others it is no plate
		t.Foot = [2]float64{f.Held.Foot[0] / 1000, f.Held.Foot[1] / 1000}
	}
	if f.BaseID != nil {
		t.On = f.BaseID.String()
	}
	if l.Post != nil {
		t.Post = l.Post.String()
	}
	return t
}

// Docked has units where their bases stand: on a base's top, facing as it does.
func Docked(fittings []model.Fitting) []model.Fitting {
	for i, f := range fittings {
		if f.BaseID == nil {
			continue
		}
		base := First(fittings, func(b model.Fitting) bool { return b.ID == *f.BaseID })
		if base == nil {
			continue
		}
		axes := ThingOf(*base).Axes()
		high := base.Lies.Legs + base.Lies.Size[2]
		if base.Lies.Stands != "up" {
			high = 0
		}
		fittings[i].Lies.At = model.VecOf(r3.Add(base.Lies.At.R3(), r3.Scale(high, axes[2])))
		fittings[i].Lies.Turn = base.Lies.Turn + f.Lies.Turn
	}
	return fittings
}
