package aboard

import (
	"ergasia/core/stow"
	"ergasia/store/model"

	"gonum.org/v1/gonum/spatial/r3"
)

func StowShed(s model.Shed) stow.Place {
	return stow.Place{Name: s.Site + ", " + s.Name, Size: r3.Vec{X: s.Length, Y: s.Breadth, Z: s.Height}, MaxKg: s.MaxKg, Dry: s.Dryness == "dry"}
}
