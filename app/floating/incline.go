package floating

import (
	"fmt"
	"math"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/float"

	"github.com/google/uuid"
)

// InclineInput is an inclining check: a person aboard walked across.
type InclineInput struct {
	MemberID  uuid.UUID `json:"member_id" format:"uuid" doc:"Who walked; aboard, at their post, before"`
	ToY       float64   `json:"to_y_m" doc:"Where they stood then, to port positive; from their post's own y"`
	BeforeDeg float64   `json:"before_deg" doc:"Heel read before, starboard down positive"`
	AfterDeg  float64   `json:"after_deg"`
	SigmaDeg  float64   `json:"sigma_deg" doc:"How well the level reads, one standard deviation"`
}

// InclineFinding is what an inclining check says.
type InclineFinding struct {
	Sentence   string     `json:"sentence"`
	GM         float64    `json:"gm_m"`
	BandM      float64    `json:"band_m"`
	Computed   float64    `json:"computed_gm_m"`
	Turn       float64    `json:"turn_deg"`
	Expected   float64    `json:"expected_turn_deg"`
	Agrees     bool       `json:"agrees"`
	Proposals  []Proposal `json:"proposals"`
	NotOffered []string   `json:"not_offered" doc:"Corrections that are not offered, each with its reason"`
}

func (s laden) incline(in InclineInput) (InclineFinding, error) {
	people := s.Dressed()
	i := slices.IndexFunc(people, func(p aboard.Person) bool { return p.Member.ID == in.MemberID })
	if i < 0 {
		return InclineFinding{}, &refuse.Error{Kind: refuse.Refused,
			Sentence: "Who walked across is not aboard by the bench: put them at their post first."}
	}
	h := s.hullMass()
	if h == nil {
		return InclineFinding{}, &refuse.Error{Kind: refuse.Refused, Sentence: "Enter the mass of her hull first."}
	}
	var fs check.Faults
	fs.Within("to_y_m", in.ToY, -6, 6)
	if err := refuse.Faulty(fs.Err()); err != nil {
		return InclineFinding{}, err
	}
	from := people[i].Body.At
	to := from
	to.Y = in.ToY
	r, err := s.Craft.Float.Incline(s.Ledger().Load, float.Inclining{Kg: people[i].Body.Kg, From: from, To: to,
		Before: in.BeforeDeg, After: in.AfterDeg, SigmaDeg: in.SigmaDeg, HullKg: h.Kg, HullKZ: h.At[2]})
	if err != nil {
		return InclineFinding{}, refuse.Faulty(err)
	}
	out := InclineFinding{NotOffered: []string{}, GM: r.GM, BandM: r.GMBand, Computed: r.Computed, Turn: r.TurnDeg, Expected: r.ComputedTurn,
		Proposals: []Proposal{}}
	out.Agrees = math.Abs(r.HullZ-h.At[2]) <= r.HullZBand
	u := s.Units.Length
	gm := fmt.Sprintf("GM %.2f ± %.2f %s by the heel, %.2f %[3]s by the list of masses.", u.FromSI(r.GM), u.FromSI(r.GMBand), u.Symbol,
		u.FromSI(r.Computed))
	switch {
	case !r.Possible:
		out.Sentence = gm + " No height of her hull's centre explains that: check the heel, who stood where, and the hull's measures."
		out.Agrees = false
	case out.Agrees:
		out.Sentence = gm + " They agree."
	default:
		out.Sentence = gm + fmt.Sprintf(" Her hull's centre would lie %s over the keel, not %s.", s.Small(r.HullZ),
			s.Small(h.At[2]))
		at := h.At
		at[2] = r.HullZ
		out.Proposals = append(out.Proposals, Proposal{Kind: "height", Kg: h.Kg, At: at,
			Sentence: fmt.Sprintf("Put the hull's centre at %s over the keel: all of her comes %s %s.", s.Small(r.HullZ),
				s.Small(math.Abs(r.HigherBy)),
				map[bool]string{true: "higher", false: "lower"}[r.HigherBy > 0])})
		out.Proposals, out.NotOffered = s.safe(out.Proposals)
	}
	return out, nil
}
