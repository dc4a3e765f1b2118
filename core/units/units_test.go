package units

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// NIST SP 811 (2008), appendix B.8, the printed factors (from memory).
func TestFactorsAreThoseNISTPrints(t *testing.T) {
	assert.InEpsilon(t, 2.54e-2, InchM, 1e-15)
	assert.InEpsilon(t, 3.048e-1, 12*InchM, 1e-15)
	assert.InEpsilon(t, FootM, 12*InchM, 1e-15)
	assert.InEpsilon(t, 1.609344e3, 5280*FootM, 1e-15)
	assert.InEpsilon(t, 4.5359237e-1, PoundKg, 1e-15)
	assert.InEpsilon(t, 2.834952e-2, OunceKg, 1e-6)
	assert.InEpsilon(t, 3.785412, USGallonL, 1e-6)
	assert.InEpsilon(t, 231*InchM*InchM*InchM*1000, USGallonL, 1e-12) // a US gallon is 231 cubic inches
	assert.InEpsilon(t, 5.144444e-1, KnotMS, 1e-6)
	assert.InEpsilon(t, 4.4704e-1, MileHourMS, 1e-12)
	assert.InEpsilon(t, 4.448222, PoundForceN, 1e-6)
	assert.InEpsilon(t, 6.894757e3, PSIPa, 1e-6)
	assert.InEpsilon(t, 7.456999e2, HorsepowerW, 1e-6)
	assert.InDelta(t, 212, FahrenheitFromCelsius(100), 1e-12)
	assert.InDelta(t, -40, CelsiusFromFahrenheit(-40), 1e-12)
}

// Lengths as people write them, and what they are in metres; with the unit of the
// field that they are typed into. The page's reader is held to the same list.
func TestLengthsAreReadAsPeopleWriteThem(t *testing.T) {
	for _, c := range Lengths {
		got, err := ParseLength(c.Text, c.Unit)
		if c.Refused {
			assert.Error(t, err, "%q was taken", c.Text)
			continue
		}
		require.NoError(t, err, c.Text)
		assert.InDelta(t, c.M, got, 1e-12, c.Text)
	}
}

func TestFeetAreWrittenInLowestTermsAndCarry(t *testing.T) {
	assert.Equal(t, `5' 3 1/2"`, FormatFeet(63.5*InchM, 16))
	assert.Equal(t, `6' 0"`, FormatFeet(71.99*InchM, 16))
	assert.Equal(t, `3/16"`, FormatFeet(0.19*InchM, 16))
	assert.Equal(t, `-2' 6"`, FormatFeet(-30*InchM, 16))
	assert.Equal(t, `0"`, FormatFeet(-0.0001*InchM, 16))
	assert.Panics(t, func() { FormatFeet(1, 0) })
}

func TestFeetWrittenAndReadAgainAreTheSameToTheFraction(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		parts := rapid.Int64Range(-100000, 100000).Draw(t, "sixteenths")
		metres := float64(parts) / 16 * InchM
		back, err := ParseLength(FormatFeet(metres, 16), "m")
		require.NoError(t, err)
		assert.InDelta(t, metres, back, 1e-9)
	})
}

func TestUnitsGoThereAndBack(t *testing.T) {
	for _, s := range []System{Metric, US} {
		for _, u := range []Unit{s.Length, s.Small, s.Side, s.Mass, s.Volume} {
			assert.InEpsilon(t, 3.7, u.ToSI(u.FromSI(3.7)), 1e-15)
		}
	}
	assert.InEpsilon(t, 220.46226218, US.Mass.FromSI(100), 1e-9)
}
