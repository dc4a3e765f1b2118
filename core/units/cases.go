package units

// Length is a text that is typed as a length, into a field of that unit, and
// what it is.
type Length struct {
	Text    string  `json:"text"`
	Unit    string  `json:"unit"`
	M       float64 `json:"m"`
	Refused bool    `json:"refused,omitempty"`
}

// Lengths are examples by which this reader and the page's are held together.
var Lengths = []Length{
	{Text: `5' 3 1/2"`, Unit: "ft", M: 63.5 * InchM}, {Text: `5'3-1/2"`, Unit: "ft", M: 63.5 * InchM},
	{Text: "17 ft 8 in", Unit: "m", M: 212 * InchM}, {Text: `63.5"`, Unit: "ft", M: 63.5 * InchM},
	{Text: "3/4 in", Unit: "cm", M: 0.75 * InchM}, {Text: "5'", Unit: "m", M: 5 * FootM},
	{Text: `-2' 6"`, Unit: "ft", M: -30 * InchM}, {Text: `0' 0"`, Unit: "ft"}, {Text: " 6 feet 1 inch ", Unit: "cm", M: 73 * InchM},
	{Text: "5.5 ft", Unit: "m", M: 66 * InchM}, {Text: "2′ 3 7/16″", Unit: "in", M: 27.4375 * InchM},
	{Text: "½", Unit: "in", M: 0.5 * InchM}, {Text: "-½ in", Unit: "ft", M: -0.5 * InchM}, {Text: "3½", Unit: "in", M: 3.5 * InchM},
	{Text: "-3 1/2", Unit: "in", M: -3.5 * InchM}, {Text: "7½ ft", Unit: "m", M: 7.5 * FootM}, {Text: "−12", Unit: "cm", M: -0.12},
	{Text: "5’ 3½”", Unit: "ft", M: 63.5 * InchM}, {Text: "5' 3", Unit: "ft", M: 63 * InchM}, {Text: `-1' ¾"`, Unit: "ft", M: -12.75 * InchM},
	{Text: "212", Unit: "cm", M: 2.12}, {Text: "2,12", Unit: "m", M: 2.12}, {Text: "2.12 m", Unit: "cm", M: 2.12},
	{Text: "212cm", Unit: "ft", M: 2.12}, {Text: "2120 mm", Unit: "in", M: 2.12}, {Text: ".5", Unit: "m", M: 0.5},
	{Text: "5", Unit: "ft", M: 5 * FootM}, {Text: "14 1/4", Unit: "in", M: 14.25 * InchM}, {Text: "+3", Unit: "cm", M: 0.03},
	{Text: "12 inches", Unit: "m", M: 12 * InchM}, {Text: "8 ft. 2 in.", Unit: "m", M: 98 * InchM},
	{Text: "", Unit: "m", Refused: true}, {Text: "five", Unit: "m", Refused: true}, {Text: `5' 13"`, Unit: "ft", Refused: true},
	{Text: `5' 3 1/0"`, Unit: "ft", Refused: true}, {Text: "5 kg", Unit: "m", Refused: true}, {Text: `"`, Unit: "in", Refused: true},
	{Text: `5" 3'`, Unit: "ft", Refused: true}, {Text: "NaN", Unit: "m", Refused: true}, {Text: "1e3", Unit: "m", Refused: true},
	{Text: "1.2.3", Unit: "m", Refused: true}, {Text: "--2", Unit: "m", Refused: true}, {Text: "3 4", Unit: "cm", Refused: true},
}
