package float

// How high a person's centre of gravity is above the sole, metres: standing,
// 0.56 of a stature of 1.75 m; seated, on a seat of 0.45 m. Practice, no source.
const (
	StandingCG = 1.0
	SeatedCG   = 0.7
)

// BodySigma is how well a body's mass with clothes and boots is known beside
// what the scale said, one standard deviation as a share. Practice, no source.
const BodySigma = 0.03
