package rulepacks

import (
	"fmt"
	"strings"
	"testing"

	"ergasia/core/carriage"
	"ergasia/core/due"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// federal is a boat, people, water and what is aboard, with what federal law says of one
// thing. The results were written from the texts (33 CFR 175 subparts B, C and E, 33 CFR
// 83, 46 CFR 25, 46 USC 4312, all from memory), not from the packs.
//
// boat: feet, then o(utboard) i(nboard) e(lectric) n(one), horsepower after it; + closed
// spaces, - none; the year where it matters. trip: inland, coastal or offshore; night;
// hire or event; people as kg, children as age after y. aboard: count×class, @seconds,
// !out of date, [low-high] kg.
var federal = []struct{ boat, trip, aboard, what, want, text string }{
	// Wearable devices, 33 CFR 175.15(a) and 175.21.
	{"18o50", "inland 80 80", "2×lifejacket[40-130]", "wearable lifejackets", "met", "one for each person"},
	{"18o50", "inland 80 80", "1×lifejacket[40-130]", "wearable lifejackets", "short", "one for each person"},
	{"12n0", "inland 80", "1×lifejacket[40-130]", "wearable lifejackets", "met", "oars make no difference"},
	{"12n0", "inland 80", "", "wearable lifejackets", "short", "any recreational vessel"},
	{"24o150", "offshore 80 80 80 80", "4×lifejacket[40-130]", "wearable lifejackets", "met", "on any water"},
	{"24o150", "offshore 80 80 80 80", "3×lifejacket[40-130]", "wearable lifejackets", "short", "on any water"},
	{"18o50", "inland 80 25", "2×lifejacket[40-130]", "wearable lifejackets", "size", "of a size for the wearer"},
	{
		"18o50",
		"inland 80 25",
		"1×lifejacket[40-130] 1×lifejacket[15-30]",
		"wearable lifejackets",
		"met",
		"of a size for the wearer",
	},
	{"18o50", "inland 80", "1×lifejacket[40-130]!", "wearable lifejackets", "expired", "in serviceable condition"},
	{"20o90", "coastal hire 80 80 80", "3×lifejacket[40-130]", "wearable lifejackets", "met", "46 CFR 25.25-5"},
	{"20o90", "coastal hire 80 80 80", "2×lifejacket[40-130]", "wearable lifejackets", "short", "46 CFR 25.25-5"},
	// Children, 33 CFR 175.15(c).
	{
		"18o50",
		"inland 80 y9",
		"1×lifejacket[40-130] 1×lifejacket[15-40]",
		"lifejackets worn by children",
		"met",
		"under 13",
	},
	{
		"18o50",
		"inland 80 y9",
		"2×lifejacket[40-130]",
		"lifejackets worn by children",
		"size",
		"under 13, of their size",
	},
	{
		"18o50",
		"inland 80 y13",
		"2×lifejacket[40-130]",
		"lifejackets worn by children",
		"not_asked",
		"13 is not under 13",
	},
	{"18o50", "inland 80 80", "2×lifejacket[40-130]", "lifejackets worn by children", "not_asked", "no child"},
	// Throwable, 33 CFR 175.15(b): 16 feet or more.
	{"16o20", "inland 80", "1×throwable@3", "throwable device", "met", "16 feet is 16 feet or more"},
	{"16o20", "inland 80", "", "throwable device", "short", "16 feet is 16 feet or more"},
	{"15.9o20", "inland 80", "", "throwable device", "not_asked", "under 16 feet"},
	{"30i200", "offshore 80", "", "throwable device", "short", "16 feet or more"},
	{"18o50", "inland 80", "1×throwable@30", "throwable device", "slow", "immediately available"},
	{"18o50", "inland 80", "1×lifejacket[40-130]", "throwable device", "short", "in addition to the wearable ones"},
	{"17n0", "inland 80", "", "throwable device", "short", "rowed ones too, but canoes and kayaks"},
	// Visual distress signals, 33 CFR 175.110 to 175.130.
	{"18o50", "inland 80", "", "visual distress signals", "not_asked", "coastal waters only"},
	{"18o50", "coastal 80", "", "visual distress signals", "short", "16 feet and more: day and night"},
	{"18o50", "coastal 80", "3×flare day and night", "visual distress signals", "met", "three for both"},
	{"18o50", "coastal 80", "2×flare day and night", "visual distress signals", "short", "three of them"},
	{"18o50", "coastal 80", "3×flare day and night!", "visual distress signals", "expired", "not past the date"},
	{
		"18o50",
		"coastal 80",
		"1×distress flag 1×distress light",
		"visual distress signals",
		"met",
		"flag by day, light by night",
	},
	{"18o50", "coastal 80", "1×distress flag", "visual distress signals", "short", "a flag is for the day only"},
	{"18o50", "coastal 80", "1×distress light", "visual distress signals", "short", "a light is for the night only"},
	{"18o50", "coastal 80", "3×flare day 3×flare night", "visual distress signals", "met", "three and three"},
	{
		"18o50",
		"coastal 80",
		"2×flare day 1×flare day and night 2×flare night",
		"visual distress signals",
		"met",
		"any combination of three and three",
	},
	{"18o50", "coastal 80", "3×flare day", "visual distress signals", "short", "smoke is for the day only"},
	{"14o20", "coastal 80", "", "visual distress signals", "not_asked", "under 16 feet by day"},
	{"14o20", "coastal night 80", "", "visual distress signals", "short", "under 16 feet by night"},
	{"14o20", "coastal night 80", "1×distress light", "visual distress signals", "met", "night signals do"},
	{"14o20", "coastal night 80", "3×flare day", "visual distress signals", "short", "day signals do not"},
	{"18o50", "coastal event 80", "", "visual distress signals", "not_asked", "175.115: racing, by day"},
	{"18o50", "coastal event night 80", "", "visual distress signals", "short", "175.115: racing, by night"},
	{"18n0", "coastal 80", "", "visual distress signals", "not_asked", "175.115: manually propelled, by day"},
	{
		"18n0",
		"coastal night 80",
		"3×flare night",
		"visual distress signals",
		"met",
		"175.115: manually propelled, by night",
	},
	// Extinguishers, 33 CFR 175 subpart E.
	{"18o50-", "inland 80", "", "fire extinguisher", "not_asked", "outboard, nothing that traps vapour"},
	{"18o50+", "inland 80", "", "fire extinguisher", "short", "closed compartments"},
	{"18o50+", "inland 80", "1×extinguisher 5-B", "fire extinguisher", "met", "one 5-B"},
	{"18i120-", "inland 80", "", "fire extinguisher", "short", "inboard: always"},
	{"18i120-", "inland 80", "1×extinguisher 10-B", "fire extinguisher", "met", "a 10-B is more than a 5-B"},
	{"18o50-", "inland hire 80", "", "fire extinguisher", "short", "passengers for hire"},
	{"27i200", "coastal 80", "1×extinguisher 5-B", "fire extinguisher", "short", "26 to 40 feet: two 5-B"},
	{"27i200", "coastal 80", "2×extinguisher 5-B", "fire extinguisher", "met", "26 to 40 feet: two 5-B"},
	{"27i200", "coastal 80", "1×extinguisher 20-B", "fire extinguisher", "met", "or one 20-B"},
	{
		"41i400",
		"coastal 80",
		"1×extinguisher 20-B 1×extinguisher 5-B",
		"fire extinguisher",
		"met",
		"40 to 65 feet: one 20-B and one 5-B",
	},
	{
		"41i400",
		"coastal 80",
		"1×extinguisher 20-B",
		"fire extinguisher",
		"short",
		"a 20-B alone is not enough from 40 feet",
	},
	{"41i400", "coastal 80", "2×extinguisher 5-B", "fire extinguisher", "short", "40 to 65 feet: three 5-B"},
	{"41i400", "coastal 80", "3×extinguisher 5-B", "fire extinguisher", "met", "40 to 65 feet: three 5-B"},
	{
		"18i120+2020",
		"inland 80",
		"1×extinguisher B-I",
		"fire extinguisher",
		"short",
		"from model year 2018: 5-B and more",
	},
	{"18i120+2010", "inland 80", "1×extinguisher B-I", "fire extinguisher", "met", "before: B-I counts"},
	{"18i120+2010", "inland 80", "1×extinguisher B-I!", "fire extinguisher", "expired", "not past its date"},
	{"12n0", "inland 80", "", "fire extinguisher", "not_asked", "no motor"},
	// Sound, 33 CFR 83.33.
	{"18o50", "inland 80", "1×horn", "sound signal", "met", "under 12 m some means"},
	{"18o50", "inland 80", "1×whistle", "sound signal", "met", "under 12 m some means"},
	{"18o50", "inland 80", "", "sound signal", "short", "under 12 m some means"},
	{"40o300", "coastal 80", "1×whistle", "sound signal", "short", "from 12 m a whistle of the rules"},
	// Stop-cord, 46 USC 4312.
	{"18o50", "inland 80", "", "engine stop cord", "short", "under 26 feet, 3 hp or more"},
	{"18o50", "inland 80", "1×stop cord", "engine stop cord", "met", "under 26 feet, 3 hp or more"},
	{"12o2.5", "inland 80", "", "engine stop cord", "not_asked", "under 3 hp"},
	{"26o200", "inland 80", "", "engine stop cord", "not_asked", "26 feet is not under 26"},
	{"18o50", "inland hire 80", "", "engine stop cord", "not_asked", "recreational vessels"},
	// Lights, 33 CFR 83.20 to 83.26.
	{"18o50", "inland night 80", "", "navigation lights", "short", "from sunset to sunrise"},
	{"18o50", "inland night 80", "1×navigation lights", "navigation lights", "met", "from sunset to sunrise"},
	{"18o50", "inland 80", "", "navigation lights", "not_asked", "by day"},
	{"12n0", "inland night 80", "1×lamp@5", "navigation lights", "met", "83.25(d): a lamp ready at hand"},
	{"12n0", "inland night 80", "1×lamp@60", "navigation lights", "slow", "83.25(d): ready at hand"},
}

func parseBoat(t *testing.T, text string) (b carriage.Boat) {
	var feet, hp float64
	var kind rune
	rest := text
	n, err := fmt.Sscanf(text, "%g%c%g", &feet, &kind, &hp)
	require.NoError(t, err, text)
	require.Equal(t, 3, n)
	b = carriage.Boat{Length: feet * 0.3048, Built: 2020, Propulsion: map[rune]string{'o': "outboard", 'i': "inboard",
		'e': "electric", 'n': "none"}[kind]}
	kw := hp * 0.7457
	b.Power = &kw
	yes, no := true, false
	switch {
	case strings.Contains(rest, "+"):
		b.Closed = &yes
		_, _ = fmt.Sscanf(rest[strings.Index(rest, "+")+1:], "%d", &b.Built)
	case strings.Contains(rest, "-"):
		b.Closed = &no
	}
	return b
}

func parseTrip(text string) carriage.Trip {
	trip := carriage.Trip{Country: "US", Use: "private", LastDay: 1000}
	for i, w := range strings.Fields(text) {
		var n float64
		switch {
		case i == 0:
			trip.Water = w
		case w == "night":
			trip.Night = true
		case w == "hire" || w == "event":
			trip.Use = w
		case strings.HasPrefix(w, "y"):
			_, _ = fmt.Sscanf(w, "y%g", &n)
			trip.Persons = append(trip.Persons, carriage.Person{Name: fmt.Sprint("p", i), Age: &n})
		default:
			_, _ = fmt.Sscanf(w, "%g", &n)
			trip.Persons = append(trip.Persons, carriage.Person{Name: fmt.Sprint("p", i), Kg: n})
		}
	}
	return trip
}

func parseAboard(text string) (list []carriage.Item) {
	for i, part := range strings.Split(text, "×") {
		if i == 0 {
			continue
		}
		before := strings.Split(text, "×")[i-1]
		it := carriage.Item{ID: fmt.Sprint(i)}
		_, _ = fmt.Sscan(before[strings.LastIndex(before, " ")+1:], &it.Count)
		if i < strings.Count(text, "×") {
			part = part[:strings.LastIndex(part, " ")]
		}
		if name, dead := strings.CutSuffix(part, "!"); dead {
			day := due.Day(999)
			part, it.Expires = name, &day
		}
		if at := strings.Index(part, "["); at >= 0 {
			var low, high float64
			_, _ = fmt.Sscanf(part[at:], "[%g-%g]", &low, &high)
			part, it.Fits = part[:at], &[2]float64{low, high}
		}
		if at := strings.Index(part, "@"); at >= 0 {
			var s float64
			_, _ = fmt.Sscanf(part[at:], "@%g", &s)
			part, it.Seconds = part[:at], &s
		}
		it.Class = part
		list = append(list, it)
	}
	return list
}

func TestFederalLawAsItsTextsSay(t *testing.T) {
	assert.GreaterOrEqual(t, len(federal), 60)
	rules, err := Shipped().Rules("us-federal")
	require.NoError(t, err)
	for _, c := range federal {
		rows, err := carriage.Check(t.Context(), rules, parseBoat(t, c.boat), parseTrip(c.trip), parseAboard(c.aboard))
		require.NoError(t, err)
		n := 0
		for _, r := range rows {
			if r.What == c.what {
				n++
				assert.Equal(t, c.want, r.Status, "%s, %s, %s: %s (%s)", c.boat, c.trip, c.aboard, c.text, r.Why)
			}
		}
		assert.Equal(t, 1, n, "one row for %s", c.what)
	}
}

func TestAnotherCountryIsNotAskedByFederalLaw(t *testing.T) {
	rules, err := Shipped().Rules("us-federal")
	require.NoError(t, err)
	trip := parseTrip("coastal night 80")
	trip.Country = "SE"
	rows, err := carriage.Check(t.Context(), rules, parseBoat(t, "18o50+"), trip, nil)
	require.NoError(t, err)
	for _, r := range rows {
		assert.Equal(t, carriage.NotAsked, r.Status)
		assert.Equal(t, "the rule is of another country", r.Why)
	}
}
