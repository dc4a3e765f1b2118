package calc

import (
	"encoding/json"
	"fmt"
	"time"

	"ergasia/core/check"
	"ergasia/core/reach"

	"gonum.org/v1/gonum/spatial/r3"
)

type reachIn struct {
	Breadths [][2]float64 `json:"half_breadth_xy_m"`
	Posts    []struct {
		Name   string `json:"name"`
		At     vec    `json:"at_m"`
		Manned bool   `json:"manned"`
		Seated bool   `json:"seated"`
	} `json:"posts"`
	Places []struct {
		ID       string      `json:"id"`
		Corner   vec         `json:"corner_m"`
		Size     vec         `json:"size_m"`
		Opening  *[2]float64 `json:"opening_m"`
		Lid      string      `json:"lid"`
		Latched  bool        `json:"latched"`
		Locks    bool        `json:"locks"`
		Inside   string      `json:"inside"`
		Labelled bool        `json:"labelled"`
	} `json:"places"`
	Items []struct {
		ID      string    `json:"id"`
		Place   string    `json:"place"`
		Post    string    `json:"post"`
		Uses    float64   `json:"uses_per_day"`
		Brought bool      `json:"brought"`
		HandZ   *float64  `json:"hand_z_m"`
		Others  int       `json:"others"`
		Over    []float64 `json:"over_kg"`
		Boxes   int       `json:"boxes"`
	} `json:"items"`
	Times *json.RawMessage `json:"times"`
}

type reachWayOut struct {
	Post    string       `json:"post"`
	Place   string       `json:"place"`
	Seconds *float64     `json:"seconds"`
	Back    *float64     `json:"back_seconds"`
	Parts   []reach.Part `json:"parts"`
}

type reachItemOut struct {
	ID      string       `json:"id"`
	Seconds *float64     `json:"seconds"`
	Back    *float64     `json:"back_seconds"`
	Minutes *float64     `json:"minutes_per_day"`
	Parts   []reach.Part `json:"parts"`
}

type reachOut struct {
	Ways    []reachWayOut  `json:"ways"`
	Items   []reachItemOut `json:"items"`
	Rummage float64        `json:"rummage_min_per_day"`
}

func runReach(data []byte, _ time.Time) (any, error) {
	var in reachIn
	if err := json.Unmarshal(data, &in); err != nil {
		return nil, check.Faults{{Field: "input", Want: err.Error()}}
	}
	table := reach.DefaultTable()
	if in.Times != nil {
		if err := json.Unmarshal(*in.Times, &table); err != nil {
			return nil, check.Faults{{Field: "times", Want: err.Error()}}
		}
	}
	var fs check.Faults
	table.Check(&fs, "times.")
	boat := in.boat(&fs)
	if fs != nil {
		return nil, fs
	}
	ways := boat.Ways(table)
	out := reachOut{Ways: []reachWayOut{}, Items: []reachItemOut{}}
	for i, p := range boat.Posts {
		for j, s := range boat.Places {
			w := ways[i][j]
			out.Ways = append(out.Ways, reachWayOut{Post: p.Name, Place: s.ID, Seconds: figure(w.Seconds), Back: figure(w.Back),
				Parts: append([]reach.Part{}, w.Parts...)})
		}
	}
	for k, it := range in.Items {
		field := fmt.Sprintf("items[%d].", k)
		post, place := -1, -1
		for i, p := range boat.Posts {
			if p.Name == it.Post {
				post = i
			}
		}
		for j, s := range boat.Places {
			if s.ID == it.Place {
				place = j
			}
		}
		if post < 0 {
			fs.Add(field+"post", it.Post, "must be the name of a post")
		}
		if place < 0 {
			fs.Add(field+"place", it.Place, "must be the id of a place")
		}
		if fs != nil {
			continue
		}
		s := boat.Places[place]
		l := reach.Lying{HandZ: s.Corner.Z + s.Size.Z/2, Others: it.Others, Over: it.Over, Boxes: it.Boxes}
		if it.HandZ != nil {
			l.HandZ = *it.HandZ
		}
		f := table.Fetch(ways[post][place], s, l)
		minutes := it.Uses * f.Use(it.Brought) / 60
		if ways[post][place].Reachable() {
			out.Rummage += minutes
		}
		out.Items = append(out.Items, reachItemOut{ID: it.ID, Seconds: figure(f.Seconds), Back: figure(f.Back),
			Minutes: figure(minutes), Parts: f.Parts})
	}
	if fs != nil {
		return nil, fs
	}
	return out, nil
}

func (in reachIn) boat(fs *check.Faults) reach.Boat {
	b := reach.Boat{Length: in.Breadths[len(in.Breadths)-1][0], HalfBreadth: reach.Sheer(in.Breadths)}
	for i := 1; i < len(in.Breadths); i++ {
		if in.Breadths[i][0] <= in.Breadths[i-1][0] {
			fs.Add(fmt.Sprintf("half_breadth_xy_m[%d]", i), in.Breadths[i], "must go from aft to forward")
		}
	}
	for _, p := range in.Posts {
		b.Posts = append(b.Posts, reach.Post{Name: p.Name, At: p.At.r3(), Manned: p.Manned, Seated: p.Seated})
	}
	index := map[string]int{}
	for j, s := range in.Places {
		place := reach.Place{ID: s.ID, Name: s.ID, Corner: s.Corner.r3(), Size: s.Size.r3(), Lid: s.Lid, Latched: s.Latched,
			Locks:  s.Locks,
			Inside: -1, Labelled: s.Labelled}
		if s.Opening != nil {
			place.Opening = r3.Vec{X: s.Opening[0], Y: s.Opening[1]}
		}
		if s.Inside != "" {
			in, known := index[s.Inside]
			if !known {
				fs.Add(fmt.Sprintf("places[%d].inside", j), s.Inside, "must be the id of a place that comes before it")
			}
			place.Inside = in
		}
		if _, twice := index[s.ID]; twice {
			fs.Add(fmt.Sprintf("places[%d].id", j), s.ID, "must not be there twice")
		}
		index[s.ID] = j
		b.Places = append(b.Places, place)
	}
	return b
}
