package fitting

import (
	"fmt"
	"math"

	"ergasia/core/check"
)

// Drawn is what a template is made of, millimetres on the panel from the middle of
// the foot: x along it, y across.
type Drawn struct {
	Foot     [2]float64   // its foot; nought where only a hole is cut
	Holes    [][2]float64 // screws
	Drill    float64      // of their holes
	Cut      [2]float64   // cut-out, along and across; nought for none
	Corner   float64      // radius of the cut-out's corners
	Curve    float64      // radius of the wall; nought where it is flat
	Mirrored bool         // for the other side
}

// Template is the flat pattern that is laid on the panel.
type Template struct {
	Foot, Cut [][2]float64 // closed outlines; empty where there is none
	Holes     [][2]float64
	Drill     float64
	Low, High [2]float64 // bounds of all of it
}

// most of a side of a template, mm.
const mostSide = 3000

// Check says what is wrong with what is to be drawn.
func (d Drawn) Check() error {
	var fs check.Faults
	for i := range 2 {
		fs.Within(fmt.Sprintf("foot_mm[%d]", i), d.Foot[i], 0, mostSide)
		fs.Within(fmt.Sprintf("cut_mm[%d]", i), d.Cut[i], 0, mostSide)
	}
	if (d.Cut[0] == 0) != (d.Cut[1] == 0) {
		fs.Add("cut_mm", d.Cut, "give both sides, or 0, 0 for none")
	}
	if d.Corner < 0 || d.Corner > min(d.Cut[0], d.Cut[1])/2+1e-9 {
		fs.Add("corner_mm", d.Corner, "must be from 0 to half of the cut-out's shorter side")
	}
	if len(d.Holes) > mostHoles {
		fs.Add("pattern_mm", len(d.Holes), fmt.Sprintf("give at most %d holes", mostHoles))
		return fs.Err() // and look at none of them
	}
	reach := max(d.Foot[0], d.Cut[0]) / 2
	for i, h := range d.Holes {
		fs.Within(fmt.Sprintf("pattern_mm[%d][0]", i), h[0], -mostSide/2, mostSide/2)
		fs.Within(fmt.Sprintf("pattern_mm[%d][1]", i), h[1], -mostSide/2, mostSide/2)
		reach = max(reach, math.Abs(h[0]))
	}
	fs.Within("drill_mm", d.Drill, 0, 100)
	if d.Curve != 0 && d.Curve < reach {
		fs.Add(
			"curve_mm",
			d.Curve,
			fmt.Sprintf("is less than the template reaches to a side, %.0f mm: no wall bends so", reach),
		)
	}
	if d.Foot[0]*d.Foot[1] == 0 && d.Cut[0] == 0 && len(d.Holes) == 0 {
		fs.Add("foot_mm", d.Foot, "there is nothing to draw: give a foot, a cut-out or holes")
	}
	return fs.Err()
}

// Make draws the pattern. On a wall of a radius, what is x off the middle as the crow
// flies lies R asin(x/R) along the wall.
func (d Drawn) Make() Template {
	t := Template{Drill: d.Drill, Low: [2]float64{math.Inf(1), math.Inf(1)}, High: [2]float64{math.Inf(-1), math.Inf(-1)}}
	if d.Foot[0]*d.Foot[1] > 0 {
		t.Foot = d.laid(rounded(d.Foot, 0))
		t.bound(t.Foot, 0)
	}
	if d.Cut[0] > 0 {
		t.Cut = d.laid(rounded(d.Cut, d.Corner))
		t.bound(t.Cut, 0)
	}
	t.Holes = d.laid(d.Holes)
	t.bound(t.Holes, d.Drill/2)
	return t
}

func (t *Template) bound(points [][2]float64, by float64) {
	for _, p := range points {
		for k := range 2 {
			t.Low[k], t.High[k] = min(t.Low[k], p[k]-by), max(t.High[k], p[k]+by)
		}
	}
}

// laid turns points over for the other side and stretches them along the wall.
func (d Drawn) laid(points [][2]float64) [][2]float64 {
	out := make([][2]float64, len(points))
	for i, p := range points {
		x := p[0]
		if d.Mirrored {
			x = -x
		}
		if d.Curve > 0 {
			x = d.Curve * math.Asin(x/d.Curve)
		}
		out[i] = [2]float64{x, p[1]}
	}
	return out
}

// mostHoles of one template. Practice: a big plate has a dozen.
const mostHoles = 64

// Steps in which outlines are drawn: fine enough that a curve is within a hundredth of
// a millimetre.
const (
	cornerStep = math.Pi / 36
	sideStep   = 5.0 // mm
)

// rounded is a rectangle about the middle with round corners, closed.
func rounded(size [2]float64, r float64) (list [][2]float64) {
	a, b := size[0]/2, size[1]/2
	corners := [][2]float64{{a - r, b - r}, {-a + r, b - r}, {-a + r, -b + r}, {a - r, -b + r}}
	for i, c := range corners {
		from := float64(i) * math.Pi / 2
		for angle := 0.0; r > 0 && angle < math.Pi/2-1e-9; angle += cornerStep {
			list = append(list, [2]float64{c[0] + r*math.Cos(from+angle), c[1] + r*math.Sin(from+angle)})
		}
		end := [2]float64{c[0] + r*math.Cos(from+math.Pi/2), c[1] + r*math.Sin(from+math.Pi/2)}
		next := corners[(i+1)%4]
		to := [2]float64{next[0] + r*math.Cos(from+math.Pi/2), next[1] + r*math.Sin(from+math.Pi/2)}
		long := math.Hypot(to[0]-end[0], to[1]-end[1])
		n := max(int(math.Ceil(long/sideStep)), 1)
		for k := range n {
			s := float64(k) / float64(n)
			list = append(list, [2]float64{end[0] + s*(to[0]-end[0]), end[1] + s*(to[1]-end[1])})
		}
	}
	return list
}

// Screwed is where screws go through a foot: its own pattern, or near its corners.
func Screwed(foot [2]float64, count int, pattern [][2]float64) [][2]float64 {
	if len(pattern) > 0 {
		return pattern
	}
	if count < 1 {
		return nil
	}
	return Rectangle(count, foot[0]*(1-2*edge), foot[1]*(1-2*edge))
}
