package aboard

import (
	"ergasia/store/model"
)

// Opening says what must be opened to reach into a place, outermost first.
func (s *Laden) Opening(p model.Place) []string {
	way := []string{}
	if p.ParentID != nil {
		if outer := s.Place(*p.ParentID); outer != nil {
			way = s.Opening(*outer)
		}
	}
	lid := map[string]string{"hinged": "lift the lid of ", "lift-off": "take off the lid of ", "sliding": "slide open ", "soft": "unzip "}[p.Lid]
	if lid == "" {
		return append(way, "reach into "+p.Name)
	}
	if p.Locks {
		lid = "unlock and " + lid
	} else if p.Latched {
		lid = "unlatch and " + lid
	}
	return append(way, lid+p.Name)
}
