package aboard

import (
	"fmt"
	"math"

	"ergasia/core/float"
	"ergasia/store/model"
)

// Small writes a short length in the reader's units.
func (s *Laden) Small(m float64) string {
	u := s.Units.Small
	return fmt.Sprintf("%.*f %s", s.Units.Decimals, u.FromSI(m), u.Symbol)
}

func (s *Laden) MassText(kg float64) string {
	return fmt.Sprintf("%.0f %s", s.Units.Mass.FromSI(kg), s.Units.Mass.Symbol)
}

// Finite gives nil for what JSON can't write.
func Finite(v float64) *float64 {
	if math.IsNaN(v) || math.IsInf(v, 0) {
		return nil
	}
	return &v
}

// Person is someone at a post.
type Person struct {
	Member model.Member
	At     model.Station
	Post   model.Post
	Body   float.Mass
}

// People aboard, in the order of the crew's list.
func (s *Laden) People() []Person {
	var list []Person
	for _, m := range s.Members {
		at := s.Stations[m.ID]
		if at.BoatID != nil && *at.BoatID == s.Boat.ID {
			post := *s.Post(*at.PostID)
			list = append(list, Person{Member: m, At: at, Post: post, Body: Body(m, at, post)})
		}
	}
	return list
}
