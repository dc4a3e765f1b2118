package floating

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"slices"
	"time"

	"ergasia/app/aboard"
	"ergasia/app/fleet"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/float"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
)

// ReadingInput is a freeboard read with a tape.
type ReadingInput struct {
	Name string    `json:"name"`
	At   model.Vec `json:"at_m"`
	M    float64   `json:"freeboard_m"`
}

// FloatCheckInput is a float check: everyone stands where the bench says.
type FloatCheckInput struct {
	Readings []ReadingInput `json:"readings" maxItems:"24"`
	StepM    float64        `json:"step_m" doc:"To which the tape was read"`
	RippleM  float64        `json:"ripple_m" doc:"How the water moved, one standard deviation"`
}

// SuspectView is what the difference may be.
type SuspectView struct {
	Name   string  `json:"name"`
	Kg     float64 `json:"kg"`
	Chance float64 `json:"chance"`
	Do     string  `json:"do" doc:"What to look at"`
}

// Proposal is a correction of the model that a skipper may accept.
type Proposal struct {
	Kind     string    `json:"kind" enum:"mass,hull,height"`
	Sentence string    `json:"sentence"`
	Kg       float64   `json:"kg,omitempty" doc:"New mass"`
	At       model.Vec `json:"at_m"`
}

// FloatFinding is what the readings say against the ledger.
type FloatFinding struct {
	Sentence     string        `json:"sentence"`
	Displacement float64       `json:"displacement_kg"`
	Ledger       float64       `json:"ledger_kg"`
	Kg           float64       `json:"more_kg" doc:"More than the ledger, negative when less"`
	BandKg       float64       `json:"band_kg" doc:"Half-width of the 95 % interval"`
	Agrees       bool          `json:"agrees"`
	At           model.Vec     `json:"at_m"`
	Band         [2]float64    `json:"band_m" doc:"Of x and y"`
	Residuals    []float64     `json:"residuals_m"`
	Doubtful     int           `json:"doubtful" doc:"Index of a reading that fits badly, -1 where all fit"`
	HeelDeg      float64       `json:"heel_deg"`
	TrimDeg      float64       `json:"trim_deg"`
	NoOneMass    bool          `json:"no_one_mass" doc:"One mass that explains the readings would lie outside her, so it is not one"`
	Suspects     []SuspectView `json:"suspects"`
	Proposals    []Proposal    `json:"proposals"`
	NotOffered   []string      `json:"not_offered" doc:"Corrections that are not offered, each with its reason"`
}

func (in FloatCheckInput) survey() float.Survey {
	v := float.Survey{Sigma: float.ReadingSigma(in.StepM, in.RippleM)}
	for _, r := range in.Readings {
		v.Readings = append(v.Readings, float.Reading{Name: r.Name, At: r.At.R3(), M: r.M})
	}
	return v
}

func (in FloatCheckInput) check() error {
	var fs check.Faults
	fs.Within("step_m", in.StepM, 0.0005, 0.05)
	fs.Within("ripple_m", in.RippleM, 0, 0.05)
	for i, r := range in.Readings {
		fs.Text(fmt.Sprintf("readings[%d].name", i), r.Name, 1, 80)
	}
	if err := in.survey().Check(); err != nil {
		var found check.Faults
		if errors.As(err, &found) {
			fs = append(fs, found...)
		}
	}
	return refuse.Faulty(fs.Err())
}

// floatCheck works a check out.
func (s laden) floatCheck(in FloatCheckInput) (FloatFinding, error) {
	if err := in.check(); err != nil {
		return FloatFinding{}, err
	}
	l := s.Ledger()
	v := in.survey()
	v.Z = s.foundAt()
	f, err := s.Craft.Float.Survey(l.Load, v, s.candidates(l))
	if err != nil {
		return FloatFinding{}, refuse.Faulty(err)
	}
	out := FloatFinding{Displacement: f.Displacement, Ledger: l.Load.Total().Kg, Kg: f.Kg, BandKg: f.KgBand,
		Agrees: f.Agrees,
		At:     model.VecOf(f.At), Band: [2]float64{f.Band.X, f.Band.Y}, Residuals: f.Residuals, Doubtful: f.Doubtful,
		HeelDeg: f.Figures.HeelDeg, TrimDeg: f.Figures.TrimDeg, Suspects: []SuspectView{}, Proposals: []Proposal{}, NotOffered: []string{},
		NoOneMass: !f.Agrees && f.Doubtful < 0 && !s.within(f.At)}
	out.Sentence = s.foundSentence(f)
	if f.Agrees || f.Doubtful >= 0 {
		return out, nil
	}
	for _, c := range f.Suspects {
		if c.Chance > 0.03 && len(out.Suspects) < 5 {
			out.Suspects = append(out.Suspects, SuspectView{Name: c.Name, Kg: c.Kg, Chance: c.Chance, Do: s.whatToDo(c.Name)})
		}
	}
	out.Proposals, out.NotOffered = s.safe(s.proposals(f))
	return out, nil
}

// within says whether a point lies over her plan.
func (s laden) within(at r3.Vec) bool {
	half, inside := s.Craft.Hull.SectionAt(at.X)
	return inside && math.Abs(at.Y) <= half[len(half)-1].Y
}

// safe parts proposals into those with which she still floats as she should, and
// reasons why the others are not offered.
func (s laden) safe(list []Proposal) (offered []Proposal, not []string) {
	offered, not = []Proposal{}, []string{}
	now := s.Solved()
	for _, p := range list {
		outfit, err := corrected(s.Craft.Input.Outfit, p, time.Time{})
		if err != nil {
			not = append(not, err.Error())
			continue
		}
		next := s.Branch()
		next.Craft = s.Craft.With(outfit)
		then := next.Solved()
		why := s.harm(now, then)
		if why == "" {
			offered = append(offered, p)
			continue
		}
		not = append(not, fmt.Sprintf("%s That is not offered: with it %s", p.Sentence, why))
	}
	return offered, not
}

// harm says what a correction would do to her that she does not do now, and by
// which opening; empty where it does no harm.
func (s laden) harm(now, then aboard.Solved) string {
	opening := ""
	if f := now.Figures; f != nil {
		least := math.Inf(1)
		for _, p := range s.Craft.Hull.FloodPoints {
			if m := f.FreeboardAt(p.At); m < least {
				least, opening = m, fmt.Sprintf(" The %s is %s over the water now: measure how high it is, and what is listed too high or too light.", p.Name, s.Small(m))
			}
		}
	}
	switch {
	case then.Figures == nil:
		return then.Why + "." + opening
	case then.Status == float.Swamped && now.Status != float.Swamped:
		return fmt.Sprintf("the %s would be under water.", then.Figures.Lowest.Name) + opening
	case then.Status == float.Unstable && now.Status == float.Afloat:
		return "she would not stay upright." + opening
	case len(then.Figures.Awash) > 0 && (now.Figures == nil || len(now.Figures.Awash) == 0):
		a := then.Figures.Awash[0]
		return fmt.Sprintf("the sea would come in by the %s and stand %s deep %s.", a.Through, s.Small(a.Depth), inOrOn(a.Space))
	}
	return ""
}

// foundAt is the height at which a mass found is taken to lie: a little over the
// sole, or a third of her depth. Heights hardly show in freeboards.
func (s laden) foundAt() float64 {
	if d := s.Craft.Input.Hull.Deck; d != nil {
		return d.Sole + 0.1
	}
	low, high := s.Craft.Hull.Bounds()
	return (high.Z - low.Z) / 3
}

func (s laden) foundSentence(f float.Finding) string {
	if f.Doubtful >= 0 {
		return "The readings don't lie in one plane of water: read the marked one again before you believe the rest."
	}
	if f.Agrees {
		return fmt.Sprintf("She floats as the list of masses says: %s, within %s.", s.MassText(f.Displacement),
			s.MassText(f.KgBand))
	}
	more := "more"
	if f.Kg < 0 {
		more = "less"
	}
	if !s.within(f.At) {
		return fmt.Sprintf("%s ± %s %s than listed, but it can't be one mass: that would lie outside her. More than one thing is not as listed: look at what is heavy and at both ends.",
			s.MassText(math.Abs(f.Kg)), s.MassText(f.KgBand), more)
	}
	side := "near the middle line"
	if math.Abs(f.At.Y) > f.Band.Y {
		side = "to port"
		if f.At.Y < 0 {
			side = "to starboard"
		}
	}
	return fmt.Sprintf("%s ± %s %s than listed, about %s ahead of the transom, %s.", s.MassText(math.Abs(f.Kg)),
		s.MassText(f.KgBand), more, s.LengthText(f.At.X), side)
}

// unlistedSigma is how much may lie unlisted in one place, kg, one standard
// deviation. Practice.
const unlistedSigma = 20

const (
	bilgeName    = "water in the bilge"
	unlistedName = "something not listed in "
	hullName     = "the hull itself, against its listed mass"
)

// candidates are what the difference may be: everything weighed badly, tanks, the
// bilge, the hull, and things that nobody listed in each place.
func (s laden) candidates(l aboard.Ledger) []float.Candidate {
	var list []float.Candidate
	own := len(s.Craft.Input.Outfit.Masses) // her fittings come after them
	for i, m := range l.Load.Masses {
		if i < own && s.Craft.Input.Outfit.Masses[i].Kind == "hull" {
			list = append(list, float.Candidate{Name: hullName, At: m.At, Sigma: max(m.Sigma, 0.05*m.Kg), Low: -0.4 * m.Kg,
				High: 0.6 * m.Kg})
		} else if m.Sigma > 0.5 {
			list = append(list, float.Candidate{Name: m.Name, At: m.At, Sigma: m.Sigma, Low: -0.9 * m.Kg, High: 3 * m.Kg})
		}
	}
	for _, t := range l.Load.Tanks {
		whole := t.Volume() * t.Density
		list = append(list, float.Candidate{Name: t.Name, At: t.CG(), Sigma: max(t.Sigma, 0.1*whole), Low: -t.Kg(),
			High: whole - t.Kg()})
	}
	if tank, err := s.bilge(20); err == nil {
		at := tank.CG()
		at.X = min(at.X, s.Craft.Hull.Length()*0.25) // it gathers aft
		list = append(list, float.Candidate{Name: bilgeName, At: at, Sigma: 30, Low: 0, High: tank.Volume() * tank.Density})
	}
	for _, p := range s.Places {
		list = append(list, float.Candidate{Name: unlistedName + p.Name, Sigma: unlistedSigma, Low: 0, High: 80,
			At: r3.Vec{X: p.X + p.Length/2, Y: p.Y + p.Breadth/2, Z: p.Z + p.Height/3}})
	}
	return list
}

func (s laden) whatToDo(name string) string {
	switch {
	case name == bilgeName:
		return "Pump her dry, look where it comes in, and read again."
	case name == hullName:
		return "Weigh her on the trailer; wet foam or timber is the usual cause."
	case len(name) > len(unlistedName) && name[:len(unlistedName)] == unlistedName:
		return "Open " + name[len(unlistedName):] + " and list what lies there."
	case slices.ContainsFunc(s.Craft.Input.Outfit.Tanks, func(t model.TankInput) bool { return t.Name == name }):
		return "Dip it: gauges lie."
	}
	return "Weigh it."
}

// proposals are corrections that would make the ledger agree.
func (s laden) proposals(f float.Finding) []Proposal {
	var list []Proposal
	if f.Kg > 0 && s.within(f.At) {
		list = append(list, Proposal{Kind: "mass", Kg: f.Kg, At: model.VecOf(f.At),
			Sentence: fmt.Sprintf("Keep %s at that place as a fixed mass of hers, until it is found.", s.MassText(f.Kg))})
	}
	if h := s.hullMass(); h != nil && h.Kg+f.Kg > 0.4*h.Kg {
		kg := h.Kg + f.Kg
		at := r3.Scale(1/kg, r3.Add(r3.Scale(h.Kg, h.At.R3()), r3.Scale(f.Kg, f.At)))
		at.Z = h.At[2]
		if !s.within(at) {
			return list
		}
		list = append(list, Proposal{Kind: "hull", Kg: kg, At: model.VecOf(at),
			Sentence: fmt.Sprintf("Change the hull's mass from %s to %s, and move its centre %s %s.", s.MassText(h.Kg),
				s.MassText(kg),
				s.Small(math.Abs(at.X-h.At[0])), map[bool]string{true: "forward", false: "aft"}[at.X > h.At[0]])})
	}
	return list
}

// hullMass is the first mass of the hull's kind.
func (s laden) hullMass() *model.FixedMass {
	return aboard.First(s.Craft.Input.Outfit.Masses, func(m model.FixedMass) bool { return m.Kind == "hull" })
}

// TrySurvey works a check out without keeping it; one of the inputs is nil.
func (a *Wing) TrySurvey(ctx context.Context, actor kernel.Actor, boat uuid.UUID, readings *FloatCheckInput,
	walk *InclineInput) (SurveyResult, error) {
	var r SurveyResult
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		s, err := a.where.Laden(tx, actor, boat)
		if err != nil {
			return err
		}
		r, err = laden{Laden: s}.survey(readings, walk)
		return err
	})
	return r, err
}

// SurveyResult is what a check says, of whichever kind it is.
type SurveyResult struct {
	Float   *FloatFinding   `json:"float,omitempty"`
	Incline *InclineFinding `json:"incline,omitempty"`
}

func (s laden) survey(readings *FloatCheckInput, walk *InclineInput) (SurveyResult, error) {
	switch {
	case readings != nil && walk == nil:
		f, err := s.floatCheck(*readings)
		return SurveyResult{Float: &f}, err
	case walk != nil && readings == nil:
		f, err := s.incline(*walk)
		return SurveyResult{Incline: &f}, err
	}
	return SurveyResult{}, &refuse.Error{Kind: refuse.Invalid, Sentence: "Give readings or a walk across, one of the two."}
}

// KeepSurvey works a check out and keeps it as a record.
func (a *Wing) KeepSurvey(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID, readings *FloatCheckInput,
	walk *InclineInput) (uuid.UUID, error) {
	var id uuid.UUID
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		made, _, err := a.Once(tx, actor, key, []any{"survey", boat, readings, walk}, func() (uuid.UUID, error) {
			s, err := a.where.Laden(tx, actor, boat)
			if err != nil {
				return uuid.Nil, err
			}
			result, err := laden{Laden: s}.survey(readings, walk)
			if err != nil {
				return uuid.Nil, err
			}
			row := model.Survey{ID: store.NewID(), CrewID: actor.Crew, BoatID: boat, ByMember: actor.Member, At: a.Now(),
				Kind: "float"}
			var input any = readings
			if walk != nil {
				row.Kind, input = "incline", walk
			}
			if row.Input, err = json.Marshal(input); err != nil {
				return uuid.Nil, fmt.Errorf("writing the check: %w", err)
			}
			if row.Result, err = json.Marshal(result); err != nil {
				return uuid.Nil, fmt.Errorf("writing the check: %w", err)
			}
			return row.ID, store.Add(tx, &row)
		})
		id = made
		return err
	})
	return id, err
}

// SurveyView is a check that was kept.
type SurveyView struct {
	ID       uuid.UUID    `json:"id" format:"uuid"`
	At       time.Time    `json:"at"`
	By       string       `json:"by"`
	Kind     string       `json:"kind" enum:"float,incline"`
	Result   SurveyResult `json:"result"`
	Accepted string       `json:"accepted,omitempty" enum:"mass,hull,height"`
}

// TapePoint is where a tape may be held.
type TapePoint struct {
	Name string    `json:"name"`
	At   model.Vec `json:"at_m"`
}

// Surveys are the checks of a boat, newest first, and where to read the next.
type Surveys struct {
	Kept    []SurveyView `json:"kept"`
	Points  []TapePoint  `json:"points"`
	Version int          `json:"version" doc:"Of the boat, to accept a correction with"`
}

const keptSurveys = 50

// Surveys lists the checks of a boat.
func (a *Wing) Surveys(ctx context.Context, actor kernel.Actor, boat uuid.UUID) (Surveys, error) {
	v := Surveys{Kept: []SurveyView{}}
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		s, err := a.where.Laden(tx, actor, boat)
		if err != nil {
			return err
		}
		v.Version, v.Points = s.Boat.Version, laden{Laden: s}.tapePoints()
		var rows []model.Survey
		if err := store.Some(tx, &rows, keptSurveys, "at DESC, id", "boat_id = ?", boat); err != nil {
			return fmt.Errorf("reading the checks: %w", err)
		}
		for _, r := range rows {
			one := SurveyView{ID: r.ID, At: r.At, Kind: r.Kind}
			if err := json.Unmarshal(r.Result, &one.Result); err != nil {
				return fmt.Errorf("reading check %s: %w", r.ID, err)
			}
			if m := s.Member(r.ByMember); m != nil {
				one.By = m.Name
			}
			if r.Accepted != nil {
				one.Accepted = *r.Accepted
			}
			v.Kept = append(v.Kept, one)
		}
		return nil
	})
	return v, err
}

// tapePoints are six on the sheer: quarters, sides and bow, both sides.
func (s laden) tapePoints() []TapePoint {
	sheer := s.Craft.Float.Shell.Sheer
	low, high := s.Craft.Hull.Bounds()
	list := []TapePoint{}
	for _, at := range []struct {
		name  string
		share float64
	}{{"quarter", 0}, {"side", 0.48}, {"bow", 0.82}} {
		best := 0
		x := low.X + (high.X-low.X)*at.share
		for i := 0; i < len(sheer); i += 2 {
			if math.Abs(sheer[i].X-x) < math.Abs(sheer[best].X-x) {
				best = i
			}
		}
		list = append(list, TapePoint{Name: "port " + at.name, At: model.VecOf(sheer[best])},
			TapePoint{Name: "starboard " + at.name, At: model.VecOf(sheer[best+1])})
	}
	return list
}

// AcceptSurvey changes the boat as a check proposed. Only a kept check's own
// proposal can be accepted, once, and by whoever may change the boat.
func (a *Wing) AcceptSurvey(ctx context.Context, actor kernel.Actor, boat, id uuid.UUID, version int,
	kind string) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		var row model.Survey
		if err := store.One(tx, &row, "boat_id = ? AND id = ?", boat, id); err != nil {
			return kernel.Absent(err, "check")
		}
		if row.Accepted != nil {
			return &refuse.Error{Kind: refuse.Refused, Sentence: "A correction of this check was accepted before."}
		}
		var result SurveyResult
		if err := json.Unmarshal(row.Result, &result); err != nil {
			return fmt.Errorf("reading the check: %w", err)
		}
		p := result.proposal(kind)
		if p == nil {
			return &refuse.Error{Kind: refuse.Refused, Sentence: "The check proposes no such correction."}
		}
		_, c, err := a.fleet.Craft(tx, boat)
		if err != nil {
			return err
		}
		outfit, err := corrected(c.Input.Outfit, *p, row.At)
		if err != nil {
			return err
		}
		if err := fleet.ChangeBoat(tx, boat, version, map[string]any{"outfit": outfit}); err != nil {
			return err
		}
		now := a.Now()
		return store.Set[model.Survey](tx, map[string]any{"accepted": kind, "accepted_by": actor.Member, "accepted_at": now},
			"id = ?", id)
	})
}

func (r SurveyResult) proposal(kind string) *Proposal {
	var list []Proposal
	if r.Float != nil {
		list = append(list, r.Float.Proposals...)
	}
	if r.Incline != nil {
		list = append(list, r.Incline.Proposals...)
	}
	return aboard.First(list, func(p Proposal) bool { return p.Kind == kind })
}

// corrected is the outfit with a proposal carried out.
func corrected(o model.Outfit, p Proposal, at time.Time) (model.Outfit, error) {
	o.Masses = slices.Clone(o.Masses)
	if p.Kind == "mass" {
		if len(o.Masses) >= 200 {
			return o, &refuse.Error{Kind: refuse.Refused,
				Sentence: "She has as many fixed masses as are kept: take one off first."}
		}
		o.Masses = append(o.Masses, model.FixedMass{Name: "found by float check " + at.Format("2 January 2006"),
			Kind: "fitting", Kg: p.Kg, At: p.At, Known: "weighed"})
		return o, nil
	}
	i := slices.IndexFunc(o.Masses, func(m model.FixedMass) bool { return m.Kind == "hull" })
	if i < 0 {
		return o, &refuse.Error{Kind: refuse.Refused, Sentence: "Her hull's mass was taken off the list meanwhile."}
	}
	o.Masses[i].At = p.At
	if p.Kind == "hull" {
		o.Masses[i].Kg, o.Masses[i].Known = p.Kg, "weighed"
	}
	return o, nil
}
