package rigging

import (
	"cmp"
	"fmt"
	"math"
	"strings"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/core/fitting"
	"ergasia/core/words"
	"ergasia/store/model"
)

func capital(s string) string { return kernel.Capital(s) }

// panels by the boat's own material, where nobody said what a fitting is fastened to.
var panels = map[string]string{"aluminium": "aluminium", "plastic": "plastic", "wood": "timber"}

// usualPanel is how thick a panel is taken to be where nobody measured, mm. Practice.
var usualPanel = map[string]float64{
	"laminate":  6,
	"cored":     15,
	"foam":      20,
	"aluminium": 3,
	"plastic":   6,
	"timber":    18,
	"steel":     3,
}

// panelOf is what a fitting is fastened to.
func panelOf(s *aboard.Laden, h model.FittingHeld) (fitting.Panel, bool) {
	material := cmp.Or(h.Panel, panels[s.Craft.Input.Outfit.Material], "laminate")
	return fitting.Panel{
		Material:  material,
		Thickness: cmp.Or(h.Thickness, usualPanel[material]),
		Skin:      h.Skin,
	}, h.Thickness > 0
}

// bodyOf is a fitting as its fastenings feel it.
func bodyOf(f model.Fitting, density float64) fitting.Body {
	size := f.Lies.Size
	high, top := f.Lies.Legs+size[2]/2, f.Lies.Legs+size[2]
	if f.Lies.Stands == "out" {
		high, top = size[0]/2, size[0]
	}
	b := fitting.Body{Kg: f.Kg, High: high, Top: top, Stands: f.Lies.Stands, Gripped: f.Held.Gripped}
	if f.Held.Pole != nil {
		p := poleOf(*f.Held.Pole)
		p.Density = density
		b.Pole, b.Brace = &p, f.Held.Pole.Brace
	}
	return b
}

func waters(s *aboard.Laden) string {
	if r := s.Craft.Input.Outfit.Rigging; r != nil && r.Waters != "" {
		return r.Waters
	}
	return "coastal"
}

// jobOf is a fitting as a job of fastening.
func jobOf(s *aboard.Laden, f model.Fitting) fitting.Job {
	h := f.Held
	panel, _ := panelOf(s, h)
	screw, err := fitting.ScrewNamed(h.Screw)
	if err != nil {
		screw, _ = fitting.ScrewNamed("M6")
	}
	j := fitting.Job{
		Panel: panel,
		Back:  cmp.Or(h.Back, "open"),
		Comes: cmp.Or(h.Comes, "never"),
		Where: cmp.Or(h.Wet, "spray"),
		Metal: h.Metal,
		Foot:  h.Foot,
		Count: max(h.Count, 1),
		Size:  screw,
		Loads: fitting.Loads(bodyOf(f, s.Boat.Water), waters(s)),
		Stack: fitting.Stack{Layers: []float64{h.Base, panel.Thickness}, Behind: h.Behind},
		Room:  h.Room,
		Near:  near(s, f),
		Units: s.Units,
	}
	return j
}

// near lists what lies within a hand's breadth of a fitting's foot: a tank, foam.
func near(s *aboard.Laden, f model.Fitting) (list []string) {
	const hand = 0.1
	at := f.Lies.At
	close := func(low, high model.Vec) bool {
		for k := range 3 {
			if at[k] < low[k]-hand || at[k] > high[k]+hand {
				return false
			}
		}
		return true
	}
	o := s.Craft.Input.Outfit
	for _, t := range o.Tanks {
		if t.Kind == "fuel" && close(t.Corner, model.VecOf(addVec(t.Corner, t.Size))) {
			list = append(list, "tank")
			break
		}
	}
	for _, b := range o.Foam {
		if b.In && close(b.Low, b.High) {
			list = append(list, "foam")
			break
		}
	}
	return list
}

// LoadView is what a fitting must bear.
type LoadView struct {
	Name   string  `json:"name"`
	Shear  float64 `json:"shear_n" doc:"Along the panel"`
	Pull   float64 `json:"pull_n" doc:"Off it"`
	Moment float64 `json:"moment_n_m" doc:"About its foot"`
}

// WayView is one way of fixing.
type WayView struct {
	Method  string   `json:"method" words:"methods"`
	Score   int      `json:"score"`
	Out     string   `json:"out,omitempty" doc:"Why it does not go"`
	For     []string `json:"for"`
	Against []string `json:"against"`
	Factor  *float64 `json:"factor,omitempty" doc:"What gives way first, over what is asked of it"`
	Weakest string   `json:"weakest,omitempty"`
	Under   string   `json:"under,omitempty" doc:"The load under which it does"`
	Needed  *float64 `json:"needed_mm,omitempty" doc:"Length of screw"`
	Length  *float64 `json:"length_mm,omitempty" doc:"The next that is sold"`
	Fouls   float64  `json:"fouls_mm,omitempty" doc:"That it stands into what is behind"`
	Hole    float64  `json:"hole_mm,omitempty"`
	Torque  float64  `json:"torque_n_m,omitempty"`
	Sealant string   `json:"sealant,omitempty"`
	Plate   bool     `json:"plate,omitempty"`
	Buy     []string `json:"buy"`
}

// Bears is what a fitting must bear, ways of fixing it, and cautions.
type Bears struct {
	Loads     []LoadView `json:"loads"`
	Ways      []WayView  `json:"ways" doc:"Best first, those that don't go last"`
	Cautions  []string   `json:"cautions"`
	Panel     string     `json:"panel" words:"panels"`
	Thickness float64    `json:"panel_mm"`
	Guess     bool       `json:"guess" doc:"The panel's thickness is a guess"`
	Pole      *PoleView  `json:"pole,omitempty"`
}

// PoleView is what the water does to a pole, at its speed and at others.
type PoleView struct {
	Drag    float64  `json:"drag_n"`
	Moment  float64  `json:"moment_n_m"`
	FoldsAt *float64 `json:"folds_at_m_s,omitempty"`
	Brace   *float64 `json:"brace_m,omitempty" doc:"How far below the clamp a brace would make it hold"`
	Then    *float64 `json:"braced_folds_at_m_s,omitempty"`
}

// bears works out what a fitting must bear and how it might be held.
func bears(s *aboard.Laden, f model.Fitting) Bears {
	j := jobOf(s, f)
	out := Bears{
		Loads:     []LoadView{},
		Ways:      []WayView{},
		Cautions:  append([]string{}, fitting.Cautions(j)...),
		Panel:     j.Panel.Material,
		Thickness: j.Panel.Thickness,
		Guess:     f.Held.Thickness == 0,
	}
	for _, l := range j.Loads {
		out.Loads = append(out.Loads, LoadView(l))
	}
	for _, w := range fitting.Ways(j) {
		out.Ways = append(out.Ways, viewWay(w))
	}
	if f.Held.Pole != nil {
		out.Pole = pulled(s, f)
	}
	return out
}

func viewWay(w fitting.Way) WayView {
	v := WayView{
		Method:  w.Method,
		Score:   w.Score,
		Out:     w.Out,
		For:     some(w.For),
		Against: some(w.Against),
		Weakest: w.Weakest.What,
		Under:   w.Weakest.Load,
		Hole:    w.Hole,
		Torque:  w.Torque,
		Sealant: w.Sealant,
		Plate:   w.Plate,
		Buy:     some(w.Buy),
	}
	if w.Weakest.What != "" && !math.IsInf(w.Weakest.Factor, 1) {
		v.Factor = &w.Weakest.Factor
	}
	if w.Screws != nil {
		v.Needed, v.Length, v.Fouls = &w.Screws.Needed, w.Screws.Length, w.Screws.Fouls
	}
	return v
}

func some(list []string) []string { return append([]string{}, list...) }

// braceStep is how closely braces are tried, m.
const braceStep = 0.05

// spare is how much faster than it is used a pole should hold. Practice.
const spare = 1.2

// pulled is what the water does to a fitting's pole, and which brace would make it hold.
func pulled(s *aboard.Laden, f model.Fitting) *PoleView {
	in := *f.Held.Pole
	p := poleOf(in)
	p.Density = s.Boat.Water
	held := p.Braced(in.Brace).Pull()
	v := &PoleView{Drag: held.Drag, Moment: held.Moment, FoldsAt: finite(held.FoldsAt)}
	if v.FoldsAt == nil || *v.FoldsAt >= spare*in.Speed {
		return v
	}
	for down := in.Brace + braceStep; down < in.Clamp+braceStep; down += braceStep {
		at := min(down, in.Clamp) // the last is tried where the water begins
		if then := p.Braced(at).Pull().FoldsAt; then >= spare*in.Speed {
			v.Brace, v.Then = &at, &then
			break
		}
	}
	return v
}

func finite(n float64) *float64 {
	if math.IsInf(n, 0) {
		return nil
	}
	return &n
}

// findBears finds what gives way as a fitting is held now.
func (t teller) findBears(f model.Fitting) (list []FindingView) {
	add := func(kind string, note bool, said, helps string) {
		list = append(list, FindingView{Kind: kind, Fitting: f.ID.String(), Note: note, Said: capital(said), Helps: helps})
	}
	if f.Held.Pole != nil {
		t.folds(f, add)
	}
	if f.Kind == "transducer" && f.Lies.At[0] < 0.15 {
		t.seats(f, add)
	}
	t.gives(f, add)
	t.screws(f, add)
	return list
}

func (t teller) folds(f model.Fitting, add func(string, bool, string, string)) {
	v := pulled(t.s, f)
	pace := t.s.Pace()
	at := func(ms float64) string { return fmt.Sprintf("%.1f %s", pace.FromSI(ms), pace.Symbol) }
	if v.FoldsAt == nil {
		return
	}
	used := f.Held.Pole.Speed
	if *v.FoldsAt >= spare*used {
		return
	}
	helps := fmt.Sprintf(
		"No brace above the water makes it hold: lift it over %s, or shorten what is wet.",
		at(*v.FoldsAt/spare),
	)
	if v.Brace != nil {
		helps = fmt.Sprintf("With a brace %s below the clamp it holds to %s.", t.small(*v.Brace), at(*v.Then))
	}
	if *v.FoldsAt < used {
		add(
			"folds",
			false,
			fmt.Sprintf("%s folds at %s, and is used at up to %s.", f.Name, at(*v.FoldsAt), at(used)),
			helps,
		)
		return
	}
	add(
		"folds",
		true,
		fmt.Sprintf("%s folds at %s, hardly over the %s it is used at.", f.Name, at(*v.FoldsAt), at(used)),
		helps,
	)
}

// gives tells where a fitting's screws or panel bear too little.
func (t teller) gives(f model.Fitting, add func(string, bool, string, string)) {
	ways := fitting.Ways(jobOf(t.s, f))
	var now, best *fitting.Way
	for i, w := range ways {
		if w.Method == f.Held.Method {
			now = &ways[i]
		}
		if best == nil && w.Out == "" && w.Weakest.What != "" && w.Weakest.Factor >= fitting.Enough {
			best = &ways[i]
		}
	}
	if now == nil {
		return
	}
	method := words.Methods.Label(f.Held.Method)
	helps := ""
	if best != nil && best.Method != f.Held.Method {
		helps = fmt.Sprintf(
			"%s would bear %s that.",
			capital(words.Methods.Label(best.Method)),
			timesOf(best.Weakest.Factor),
		)
	}
	switch m := now.Weakest.Factor; {
	case now.Out != "":
		add("held", true, fmt.Sprintf("%s is held by %s: %s", f.Name, method, lower(now.Out)), helps)
	case now.Weakest.What == "" || m >= fitting.Enough:
	case m < 1:
		add(
			"held",
			false,
			fmt.Sprintf("%s gives way: %s bear %.0f %% of %s.", f.Name, now.Weakest.What, m*100, now.Weakest.Load),
			helps,
		)
	default:
		add(
			"held",
			true,
			fmt.Sprintf("%s has little margin: %s bear %s %s.", f.Name, now.Weakest.What, timesOf(m), now.Weakest.Load),
			helps,
		)
	}
}

func timesOf(m float64) string {
	if m > 20 {
		return "over 20 times"
	}
	return fmt.Sprintf("%.1f times", m)
}

func lower(s string) string { return strings.ToLower(s[:1]) + s[1:] }

// screws tells where the screws that are in are too short, or foul what is behind.
func (t teller) screws(f model.Fitting, add func(string, bool, string, string)) {
	h := f.Held
	panel, measured := panelOf(t.s, h)
	size, err := fitting.ScrewNamed(h.Screw)
	if h.Length == 0 || err != nil || !measured {
		return
	}
	if h.Method == "through-bolt" || h.Method == "plate" {
		st := fitting.Stack{
			Layers:  []float64{h.Base, panel.Thickness},
			Washer:  size.WasherMM,
			Nut:     size.Nut,
			Pitch:   size.Pitch,
			Lengths: fitting.UsualLengths(),
		}
		if h.Method == "plate" {
			st.Washer += fitting.PlateMM(size)
		}
		if up := st.Up(); h.Length < up.Needed-0.5 {
			helps := ""
			if up.Length != nil {
				helps = fmt.Sprintf("Take %s x %.0f mm.", size.Name, *up.Length)
			}
			add(
				"screws",
				false,
				fmt.Sprintf("The screws of %s are too short: %.0f mm, and %.0f are needed for two threads out of the nut.",
					f.Name, h.Length, up.Needed),
				helps,
			)
		}
	}
	if h.Behind != nil {
		if over := h.Length - h.Base - panel.Thickness - *h.Behind; over > 0 {
			add(
				"screws",
				false,
				fmt.Sprintf("The screws of %s stand %.0f mm into what is behind.", f.Name, over),
				"Cut them, cap them, or take shorter ones.",
			)
		}
	}
}
