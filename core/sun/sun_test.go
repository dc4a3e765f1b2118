package sun

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

func dayOf(t testing.TB, date string) int {
	at, err := time.Parse("2006-01-02", date)
	assert.NoError(t, err)
	return int(at.Unix() / 86400)
}

// Rise and set as Astronomy Engine 2.1.19 gives them (an open library of planetary
// positions, checked by its authors against the US Naval Observatory's NOVAS), in minutes
// after 0 h UTC; latitudes 0 to 65°.
var reference = []struct {
	lat, lon  float64
	date      string
	rise, set float64
}{
	{0, 0, "2026-03-20", 364.2, 1090.7}, {0, 100, "2026-12-21", -45.8, 681.7}, {10, -60, "2026-06-21", 580.6, 1343.1},
	{20, -155, "2026-01-15", 1017.8, 1681.4}, {-33.9, 151.2, "2026-01-01", -312.6, 549.5},
	{
		-35,
		-58,
		"2026-06-21",
		659.9,
		1247.8,
	}, {25.8, -80.2, "2026-04-10", 662.7, 1421.7}, {30, 31, "2026-10-05", 231.6, 936.9},
	{
		35.7,
		139.7,
		"2026-02-14",
		-150.4,
		501.5,
	}, {40, -74, "2026-11-27", 714.5, 1292.5}, {42.4, -71, "2026-07-04", 552.6, 1464.1},
	{45, 0, "2026-09-23", 348.1, 1075.8}, {48.9, 2.4, "2026-05-01", 270.1, 1145.8}, {51.5, 0, "2026-06-21", 222.7, 1221},
	{51.5, 0, "2026-12-21", 483.2, 953}, {55, 10, "2026-03-05", 360.4, 1023.6}, {58.2, 9.9, "2026-12-08", 473, 871.2},
	{60, 25, "2026-06-01", 69.5, 1167.4}, {63, 10, "2026-08-20", 212.4, 1152.5}, {65, -20, "2026-01-20", 644.2, 978.6},
	{65, 25, "2026-06-10", -25.8, 1266.8}, {-45, 170, "2026-11-10", -412.6, 461.1},
}

func TestRiseAndSetToAMinute(t *testing.T) {
	for _, r := range reference {
		l := At(dayOf(t, r.date), Place{Lat: r.lat, Lon: r.lon})
		assert.Equal(t, Rises, l.Kind)
		assert.InDelta(t, r.rise, l.Rise, 1, "%s at %g", r.date, r.lat)
		assert.InDelta(t, r.set, l.Set, 1, "%s at %g", r.date, r.lat)
	}
}

// Greenwich's own almanac (memory): the longest day from 4:43 to 21:21 summer time, the
// shortest from 8:04 to 15:53.
func TestGreenwich(t *testing.T) {
	at := Place{Lat: 51.477}
	long, short := At(dayOf(t, "2024-06-20"), at), At(dayOf(t, "2024-12-21"), at)
	assert.InDelta(t, 3*60+43, long.Rise, 1)
	assert.InDelta(t, 20*60+21, long.Set, 1)
	assert.InDelta(t, 8*60+4, short.Rise, 1)
	assert.InDelta(t, 15*60+53, short.Set, 1)
}

func TestPolarDays(t *testing.T) {
	assert.Equal(t, UpAllDay, At(dayOf(t, "2026-06-21"), Place{Lat: 69, Lon: 19}).Kind)
	dark := At(dayOf(t, "2026-12-21"), Place{Lat: 69, Lon: 19})
	assert.Equal(t, Down, dark.Kind)
	assert.True(t, math.IsNaN(dark.Rise))
	assert.Less(t, dark.Dawn, dark.Dusk, "there is some light at noon")
	for _, lat := range []float64{90, -90} {
		assert.NotEqual(t, Rises, At(dayOf(t, "2026-06-21"), Place{Lat: lat}).Kind)
	}
}

func TestALightIsInOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := Place{Lat: rapid.Float64Range(-60, 60).Draw(t, "lat"), Lon: rapid.Float64Range(-180, 180).Draw(t, "lon")}
		l := At(rapid.IntRange(0, 40000).Draw(t, "day"), p)
		noon := 720 - 4*p.Lon
		assert.Less(t, l.Rise, l.Set)
		assert.InDelta(t, noon, (l.Rise+l.Set)/2, 20, "noon is within the equation of time")
		if l.Dawn == l.Dawn {
			assert.Less(t, l.Dawn, l.Rise)
			assert.Greater(t, l.Dusk, l.Set)
		}
	})
}
