package fitting

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"
)

// Screw is a size of thread, with what one drills and fits for it.
type Screw struct {
	Name      string
	Diameter  float64 // mm
	Pitch     float64 // mm
	Area      float64 // mm², stress area (ISO 898, memory)
	Clearance float64 // mm, hole it passes through (ISO 273 medium, memory)
	Tapping   float64 // mm, hole a thread is cut in: diameter less pitch
	Nut       float64 // mm, height of a self-locking nut (ISO 10511, memory)
	Washer    float64 // mm, outside of a broad washer (ISO 7093, memory)
	WasherMM  float64 // mm, its thickness
	Torque    float64 // N·m for A4-70, dry thread with paste (practice)
}

// Screws that are sold for boats, smallest first. UNC sizes: stress area from
// 0.7854 (d - 0.9743/n)² (ASME B1.1, memory); their holes are the metric drills
// next above (practice).
var Screws = []Screw{
	{
		Name:      "M4",
		Diameter:  4,
		Pitch:     0.7,
		Area:      8.78,
		Clearance: 4.5,
		Tapping:   3.3,
		Nut:       5,
		Washer:    12,
		WasherMM:  1,
		Torque:    1.4,
	},
	{
		Name:      "#8-32",
		Diameter:  4.17,
		Pitch:     0.79,
		Area:      9.03,
		Clearance: 4.5,
		Tapping:   3.5,
		Nut:       5,
		Washer:    12,
		WasherMM:  1,
		Torque:    1.5,
	},
	{
		Name:      "#10-24",
		Diameter:  4.83,
		Pitch:     1.06,
		Area:      11.3,
		Clearance: 5.3,
		Tapping:   3.9,
		Nut:       5.6,
		Washer:    14,
		WasherMM:  1.2,
		Torque:    2.2,
	},
	{
		Name:      "M5",
		Diameter:  5,
		Pitch:     0.8,
		Area:      14.2,
		Clearance: 5.5,
		Tapping:   4.2,
		Nut:       5,
		Washer:    15,
		WasherMM:  1.2,
		Torque:    2.8,
	},
	{
		Name:      "M6",
		Diameter:  6,
		Pitch:     1,
		Area:      20.1,
		Clearance: 6.6,
		Tapping:   5,
		Nut:       6,
		Washer:    18,
		WasherMM:  1.6,
		Torque:    4.7,
	},
	{
		Name:      "1/4-20",
		Diameter:  6.35,
		Pitch:     1.27,
		Area:      20.5,
		Clearance: 7,
		Tapping:   5.1,
		Nut:       7,
		Washer:    19,
		WasherMM:  1.6,
		Torque:    5,
	},
	{
		Name:      "5/16-18",
		Diameter:  7.94,
		Pitch:     1.41,
		Area:      33.8,
		Clearance: 8.7,
		Tapping:   6.5,
		Nut:       8,
		Washer:    24,
		WasherMM:  2,
		Torque:    10,
	},
	{
		Name:      "M8",
		Diameter:  8,
		Pitch:     1.25,
		Area:      36.6,
		Clearance: 9,
		Tapping:   6.8,
		Nut:       8,
		Washer:    24,
		WasherMM:  2,
		Torque:    11,
	},
	{
		Name:      "3/8-16",
		Diameter:  9.53,
		Pitch:     1.59,
		Area:      50,
		Clearance: 10.5,
		Tapping:   8,
		Nut:       10,
		Washer:    29,
		WasherMM:  2.5,
		Torque:    19,
	},
	{
		Name:      "M10",
		Diameter:  10,
		Pitch:     1.5,
		Area:      58,
		Clearance: 11,
		Tapping:   8.5,
		Nut:       10,
		Washer:    30,
		WasherMM:  2.5,
		Torque:    22,
	},
}

// usualLengths in which machine screws are sold, mm (ISO 4762, memory).
var usualLengths = []float64{
	10,
	12,
	16,
	20,
	25,
	30,
	35,
	40,
	45,
	50,
	55,
	60,
	65,
	70,
	80,
	90,
	100,
	110,
	120,
	130,
	140,
	150,
}

// UsualLengths in which machine screws are sold, mm, shortest first.
func UsualLengths() []float64 { return append([]float64{}, usualLengths...) }

// ScrewNamed finds a size by its name, and an error that names those there are.
func ScrewNamed(name string) (Screw, error) {
	var names []string
	for _, s := range Screws {
		if strings.EqualFold(s.Name, strings.TrimSpace(name)) {
			return s, nil
		}
		names = append(names, s.Name)
	}
	return Screw{}, fmt.Errorf("must be one of %s", strings.Join(names, ", "))
}

var fastenerText = regexp.MustCompile(
	`(?i)(?:^|[\s,;(])(M\d+|#\d+-\d+|\d/\d+-\d+)\s*(?:[x×]\s*(\d+(?:[.,]\d+)?)(?:\s*mm)?)?`,
)

// ReadFastener finds a size such as M6 x 40 in a line, with the length in
// millimetres where one is given, and the line without it.
func ReadFastener(line string) (size string, length float64, rest string) {
	at := fastenerText.FindStringSubmatchIndex(line)
	if at == nil {
		return "", 0, line
	}
	s, err := ScrewNamed(line[at[2]:at[3]])
	if err != nil {
		return "", 0, line
	}
	if at[4] >= 0 {
		length, _ = strconv.ParseFloat(strings.Replace(line[at[4]:at[5]], ",", ".", 1), 64)
	}
	return s.Name, length, strings.Join(strings.Fields(line[:at[0]]+" "+line[at[1]:]), " ")
}
