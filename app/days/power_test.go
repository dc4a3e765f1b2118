package days

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"ergasia/core/check"
	"ergasia/store/model"
)

func TestAPlansPowerIsBounded(t *testing.T) {
	for n, wrong := range map[int]bool{mostPower: false, mostPower + 1: true} {
		var fs check.Faults
		checkPower(&fs, &model.DayPower{Starts: make([]model.BankLevel, n)})
		assert.Equal(t, wrong, fs.Err() != nil, "%d levels at the start", n)
		var off check.Faults
		checkPhasePower(&off, "plan.phases[0].power", &model.PhasePower{Off: make([]string, n)})
		assert.Equal(t, wrong, off.Err() != nil, "%d circuits off", n)
	}
}
