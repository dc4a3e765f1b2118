package fitting

import "math"

// Criterion is something that a place for the sonar is judged by.
type Criterion struct {
	Key    string
	Rated  bool    // by the crew, from 1 to 5; else worked out
	Weight float64 // usual; the crew's own go over it
}

// Criteria in the order in which they are told. Weights are practice.
var Criteria = []Criterion{
	{
		Key:    "hands_free",
		Rated:  true,
		Weight: 3,
	}, {Key: "while_holding", Rated: true, Weight: 4}, {Key: "scouting", Rated: true, Weight: 3},
	{
		Key:    "sees",
		Weight: 3,
	}, {Key: "quiet", Rated: true, Weight: 2}, {Key: "seconds", Weight: 2}, {Key: "cable", Weight: 1},
	{Key: "folds", Weight: 2}, {Key: "other_boat", Rated: true, Weight: 1}, {Key: "mass", Weight: 1},
}

// Ratings of the usual four places, from 1 to 5. Practice: what crews say of them.
var Ratings = map[string]map[string]float64{
	"bow-motor":    {"hands_free": 2, "while_holding": 1, "scouting": 2, "quiet": 4, "other_boat": 1},
	"console-pole": {"hands_free": 2, "while_holding": 5, "scouting": 4, "quiet": 3, "other_boat": 2},
	"bow-pole":     {"hands_free": 3, "while_holding": 5, "scouting": 3, "quiet": 3, "other_boat": 2},
	"portable":     {"hands_free": 3, "while_holding": 5, "scouting": 4, "quiet": 3, "other_boat": 5},
}

// Sonar is what is known of one place for the sonar.
type Sonar struct {
	Ratings map[string]float64 // 1 to 5
	Sees    float64            // share of the posts that read its screen
	Seconds float64            // to deploy and stow it once
	Cable   float64            // m
	Folds   float64            // m/s at which its pole folds; infinite where it does not
	Used    float64            // m/s at which it is pulled
	Kg      float64
}

// What is worth nothing: so many seconds, metres of cable, kilograms. Practice.
const (
	worstSeconds = 120.0
	worstCable   = 12.0
	worstSonarKg = 25.0
)

// Value is how good a place is by one criterion, 0 to 1.
func (s Sonar) Value(key string) float64 {
	share := func(v float64) float64 { return max(0, min(1, v)) }
	switch key {
	case "sees":
		return share(s.Sees)
	case "seconds":
		return share(1 - s.Seconds/worstSeconds)
	case "cable":
		return share(1 - s.Cable/worstCable)
	case "folds":
		if math.IsInf(s.Folds, 1) || s.Used <= 0 {
			return 1
		}
		return share(s.Folds / (1.2 * s.Used))
	case "mass":
		return share(1 - s.Kg/worstSonarKg)
	}
	return share((s.Ratings[key] - 1) / 4)
}

// Score is the mean of all values by their weights, of 100.
func (s Sonar) Score(weights map[string]float64) float64 {
	sum, all := 0.0, 0.0
	for _, c := range Criteria {
		w := c.Weight
		if own, said := weights[c.Key]; said {
			w = own
		}
		sum, all = sum+w*s.Value(c.Key), all+w
	}
	if all == 0 {
		return 0
	}
	return 100 * sum / all
}
