package aboard

import (
	"ergasia/core/float"
	"ergasia/store/model"

	"gonum.org/v1/gonum/spatial/r3"
)

// Gauge is a freeboard at one corner of the boat.
type Gauge struct {
	Where string    `json:"where" enum:"stern,bow,port,starboard"`
	M     float64   `json:"m"`
	At    model.Vec `json:"at_m"`
}

// Lowest is the least freeboard and where it is.
type Lowest struct {
	Name string    `json:"name"`
	M    float64   `json:"m"`
	At   model.Vec `json:"at_m"`
}

// Attitude is how she sits.
type Attitude struct {
	Lowest   Lowest    `json:"lowest"`
	HeelDeg  float64   `json:"heel_deg" doc:"Starboard down positive"`
	TrimDeg  float64   `json:"trim_deg" doc:"Bow up positive"`
	DraftAft float64   `json:"draft_aft_m"`
	DraftFwd float64   `json:"draft_fwd_m"`
	GMT      float64   `json:"gm_t_m"`
	KgPerCm  float64   `json:"kg_per_cm"`
	Up       model.Vec `json:"up" doc:"The world's up in the boat's axes"`
	Level    float64   `json:"level_m" doc:"The water's surface is up . p = level_m"`
	CG       model.Vec `json:"cg_m"`
	Gauges   []Gauge   `json:"gauges"`
}

// Attitude is how she lies, with the heights over the water at each corner.
func (c *Craft) Attitude(g *float.Figures) *Attitude {
	return &Attitude{
		Lowest:  Lowest{Name: g.Lowest.Name, M: g.Lowest.M, At: model.VecOf(g.Lowest.At)},
		HeelDeg: g.HeelDeg, TrimDeg: g.TrimDeg, DraftAft: g.DraftAft, DraftFwd: g.DraftFwd, GMT: g.GMT, KgPerCm: g.KgPerCm,
		Up: model.VecOf(g.Up), Level: g.Level, CG: model.VecOf(g.CG), Gauges: c.gauges(g),
	}
}

// gauges reads the freeboard where a person would put a tape: the lowest edge
// at the stern, the stem, and the lowest of the sheer on each side.
func (c *Craft) gauges(g *float.Figures) []Gauge {
	sheer := c.Float.Shell.Sheer
	stern, bow := sheer[0], sheer[len(sheer)-1]
	stern.Y, bow.Y = 0, 0
	for _, p := range c.Hull.FloodPoints {
		if p.Space == "" && p.At.X < stern.X+0.3 && p.At.Z < stern.Z {
			stern = p.At
		}
	}
	port, starboard := sheer[0], sheer[1]
	for i := 0; i+1 < len(sheer); i += 2 {
		if g.FreeboardAt(sheer[i]) < g.FreeboardAt(port) {
			port = sheer[i]
		}
		if g.FreeboardAt(sheer[i+1]) < g.FreeboardAt(starboard) {
			starboard = sheer[i+1]
		}
	}
	read := func(where string, at r3.Vec) Gauge {
		return Gauge{Where: where, M: g.FreeboardAt(at), At: model.VecOf(at)}
	}
	return []Gauge{read("stern", stern), read("bow", bow), read("port", port), read("starboard", starboard)}
}
