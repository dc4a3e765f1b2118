package aboard

import (
	"fmt"
)

func (s *Laden) LengthText(m float64) string {
	u := s.Units.Length
	return fmt.Sprintf("%.1f %s", u.FromSI(m), u.Symbol)
}
