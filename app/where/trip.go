package where

import (
	"ergasia/app/kernel"
	"ergasia/store/model"

	"gorm.io/gorm"
)

// Shift moves a piece where no rule of fit can refuse.
func (a *Wing) Shift(tx *gorm.DB, actor kernel.Actor, at model.Stowage, to model.Whereabouts) error {
	e := model.Event{GearID: &at.GearID, Kind: "move", State: "log", Was: at.At(), Became: to, BoatID: at.BoatID}
	at.Kind, at.InsideID, at.BoatID, at.PlaceID, at.ShedID, at.HeldBy, at.Rides = to.Kind, to.InsideID, to.BoatID, to.PlaceID, to.ShedID, to.HeldBy, "boat"
	at.Version++
	return relocate(tx, actor, at, &e)
}
