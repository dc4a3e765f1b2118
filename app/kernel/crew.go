package kernel

import (
	"errors"

	"ergasia/app/refuse"

	"gorm.io/gorm"
)

func Absent(err error, what string) error {
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return refuse.Missing(what)
	}
	return err
}
