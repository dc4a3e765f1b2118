package aboard

import (
	"ergasia/core/stow"
	"ergasia/store/model"
)

// RodView is how a rod lies, in the boat's frame.
type RodView struct {
	Aft      [2]float64 `json:"aft_y_m" doc:"What it takes up across at its after end, from and to"`
	Fore     [2]float64 `json:"fore_y_m"`
	Reversed bool       `json:"reversed" doc:"Butt forward"`
	Slot     int        `json:"slot" doc:"Tube or holder, from 0"`
	Doubled  bool       `json:"doubled" doc:"Tip by butt with another, or two in one tube"`
}

func rodView(p model.Place, l stow.Laid) *RodView {
	if l.Ends == nil {
		return nil
	}
	across := func(v [2]float64) [2]float64 { return [2]float64{p.Y + v[0], p.Y + v[1]} }
	return &RodView{Aft: across(l.Ends.Aft), Fore: across(l.Ends.Fore), Reversed: l.Ends.Reversed, Slot: l.Ends.Slot, Doubled: l.Ends.Doubled}
}
