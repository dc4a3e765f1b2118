package power

// UsualLoad is what a kind of thing usually draws. Practice, no source: a guess until
// somebody reads the plate or measures.
type UsualLoad struct {
	Kind     string
	Amps     float64 // at 12 V; of a motor at full
	Duty     float64 // share of the time
	Standing float64 // A while stowed but live
	Must     bool    // it must not starve
	Dark     bool    // only after sunset
	Brief    bool    // it runs for seconds: its fuse needs no margin
	Setting  float64 // of a motor: the share of full at which it is used; 0 is no motor
	On       []string
}

// Where loads are used, by kinds of phase.
var (
	underWay = []string{"launch", "run", "move", "home", "recover"}
	fishing  = []string{"bait", "fish"}
	afloat   = []string{"launch", "run", "bait", "fish", "move", "anchor", "weigh-in", "sleep", "home", "recover"}
	looking  = []string{"run", "bait", "fish", "move", "anchor", "home"}
	keeping  = []string{"bait", "fish", "move", "anchor", "weigh-in", "home"}
)

// UsualLoads by kind.
var UsualLoads = map[string]UsualLoad{}

func init() {
	for _, l := range []UsualLoad{
		{Kind: "lights", Amps: 1, Must: true, Dark: true, On: underWay},
		{Kind: "anchor-light", Amps: 0.3, Must: true, Dark: true, On: []string{"fish", "anchor", "sleep"}},
		{Kind: "sonar", Amps: 2.5, Standing: 0.05, Must: true, On: looking},
		{Kind: "scanner", Amps: 3, Standing: 0.1, Must: true, On: []string{"fish"}},
		{Kind: "plotter", Amps: 1.5, Standing: 0.03, Must: true, On: looking},
		{Kind: "radio", Amps: 0.8, Standing: 0.02, Must: true, On: afloat},
		{Kind: "livewell", Amps: 4, Duty: 0.35, Must: true, On: keeping},
		{Kind: "bait", Amps: 1.5, Must: true, On: afloat},
		{Kind: "aerator", Amps: 0.5, Must: true, On: keeping},
		{Kind: "bilge", Amps: 3, Duty: 0.02, Must: true, On: afloat},
		{Kind: "bow-motor", Amps: 50, Duty: 0.7, Must: true, Setting: 0.4, On: fishing},
		{Kind: "shallow-anchor", Brief: true, Amps: 25, Duty: 0.01, Must: true, On: fishing},
		{Kind: "windlass", Brief: true, Amps: 60, Duty: 0.01, Must: true, On: []string{"anchor", "fish"}},
		{Kind: "washdown", Amps: 6, Duty: 0.03, Must: true, On: fishing},
		{Kind: "lamps", Amps: 6, Dark: true, On: []string{"fish", "anchor"}},
		{Kind: "deck-light", Amps: 1, Dark: true, On: fishing},
		{Kind: "horn", Brief: true, Amps: 5, Duty: 0.001, Must: true, On: underWay},
		{Kind: "tabs", Brief: true, Amps: 10, Duty: 0.005, Must: true, On: []string{"run", "home"}},
		{Kind: "stereo", Amps: 1.5, On: fishing},
		{Kind: "socket", Amps: 1.5, Duty: 0.5, On: afloat},
		{Kind: "fridge", Amps: 4, Duty: 0.4, On: afloat},
		{Kind: "wiper", Amps: 2, Duty: 0.1, On: []string{"run", "home"}},
		{Kind: "engine", Amps: 1, Standing: 0.01, Must: true, On: []string{"run", "move", "home"}},
		{Kind: "other", Amps: 1, On: afloat},
	} {
		if l.Duty == 0 {
			l.Duty = 1
		}
		UsualLoads[l.Kind] = l
	}
}

// Sigmas of what is drawn, by how it is known, one standard deviation as a share. Practice,
// no source.
var Sigmas = map[string]float64{"guess": 0.3, "plate": 0.15, "measured": 0.05}

// HoldsSigma is how well a bank's ampere-hours are known by its age alone. Practice, no source.
const HoldsSigma = 0.12
