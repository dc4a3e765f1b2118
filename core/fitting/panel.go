package fitting

import (
	"math"

	"ergasia/core/check"
	"ergasia/core/words"
)

// Panel is what a fitting is fastened to.
type Panel struct {
	Material  string  // of words.Panels
	Thickness float64 // mm, all of it
	Skin      float64 // mm, of a cored panel's one skin; nought is a quarter of the thickness
}

// Check says what is wrong with a panel.
func (p Panel) Check(fs *check.Faults, field string) {
	fs.OneOf(field+"material", p.Material, words.Panels.Keys()...)
	fs.Within(field+"thickness_mm", p.Thickness, 0.5, 200)
	fs.Within(field+"skin_mm", p.Skin, 0, 50)
	if p.Skin > p.Thickness {
		fs.Add(field+"skin_mm", p.Skin, "must not be thicker than the panel")
	}
}

// strength is what a material bears, MPa. Practice: low figures, since nobody knows
// how a boat was laid up.
type strength struct {
	punching float64 // a washer or head pulled through, over its edge
	bearing  float64 // a shank pressed sideways
	thread   float64 // a thread pulled out, over half of its surface
	skinOnly bool    // only the skin counts
}

var strengths = map[string]strength{
	"laminate":  {punching: 20, bearing: 60, thread: 10},
	"cored":     {punching: 20, bearing: 60, thread: 8, skinOnly: true},
	"foam":      {punching: 20, bearing: 60, thread: 8, skinOnly: true},
	"aluminium": {punching: 60, bearing: 120, thread: 60},
	"plastic":   {punching: 6, bearing: 10, thread: 4},
	"timber":    {punching: 3, bearing: 15, thread: 3},
	"steel":     {punching: 120, bearing: 240, thread: 120},
}

// bears is the thickness that counts, mm.
func (p Panel) bears() float64 {
	if !strengths[p.Material].skinOnly {
		return p.Thickness
	}
	if p.Skin > 0 {
		return p.Skin
	}
	return p.Thickness / 4
}

// PullsThrough is the pull, N, at which a washer so wide, mm, goes through the panel:
// τ π d t. Practice for τ.
func (p Panel) PullsThrough(washer float64) float64 {
	return strengths[p.Material].punching * math.Pi * washer * p.bears()
}

// Tears is the side load, N, at which a shank so thick, mm, tears its hole: σ d t.
// Practice for σ.
func (p Panel) Tears(shank float64) float64 {
	return strengths[p.Material].bearing * shank * p.bears()
}

// StripsAt is the pull, N, at which a thread so thick, mm, cut into the panel comes
// out: half of its surface at τ. Practice for τ.
func (p Panel) StripsAt(d float64) float64 {
	return strengths[p.Material].thread * math.Pi * d * p.bears() / 2
}
