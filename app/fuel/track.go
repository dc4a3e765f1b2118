package fuel

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/units"
	"ergasia/core/way"
	"ergasia/formats/gpx"
)

// MaxTrackBytes is the largest file of tracks that is read.
const MaxTrackBytes = 32 << 20

// Track is a way that a file has.
type Track struct {
	Name     string       `json:"name"`
	Distance float64      `json:"distance_m"`
	Points   int          `json:"points"`
	Seconds  float64      `json:"seconds,omitempty" doc:"From its first time to its last, where they make sense"`
	Line     [][2]float64 `json:"line" doc:"Thinned: latitude and longitude in degrees"`
	Said     []string     `json:"said" doc:"What of it was left out"`
}

// lineKept is how many points of a track are kept for drawing.
const lineKept = 400

// ReadTrack reads the tracks and routes of a GPX file. Nothing is kept.
func (a *Wing) ReadTrack(ctx context.Context, actor kernel.Actor, text []byte) ([]Track, error) {
	done, err := a.reading.Take(ctx, actor.Crew)
	if err != nil {
		return nil, err
	}
	defer done()
	lines, err := gpx.Read(&stopping{ctx: ctx, in: bytes.NewReader(text)})
	if ctx.Err() != nil {
		return nil, ctx.Err()
	}
	if errors.Is(err, gpx.ErrUnreadable) {
		return nil, refuse.Faulty(check.Faults{{Field: "file", Want: err.Error()}})
	}
	if err != nil {
		return nil, fmt.Errorf("reading a track: %w", err)
	}
	list := []Track{}
	for _, l := range lines {
		t := Track{Name: l.Name, Distance: l.Metres, Points: l.Points, Seconds: l.Seconds, Line: [][2]float64{}, Said: []string{}}
		for _, p := range way.Thin(l.Kept, lineKept) {
			t.Line = append(t.Line, [2]float64{p.Lat, p.Lon})
		}
		if l.Gaps > 0 {
			t.Said = append(t.Said, fmt.Sprintf("Gaps of %s in all, %d of them, are not counted.",
				units.SystemNamed(actor.Units).Way.Text(l.Gap, 1), l.Gaps))
		}
		if l.Bad > 0 {
			t.Said = append(t.Said, fmt.Sprintf("Points that are none were left out: %d.", l.Bad))
		}
		list = append(list, t)
	}
	return list, nil
}

// stopping is a reader that ends with its caller.
type stopping struct {
	ctx context.Context
	in  io.Reader
}

func (s *stopping) Read(p []byte) (int, error) {
	if err := s.ctx.Err(); err != nil {
		return 0, fmt.Errorf("reading: %w", err)
	}
	return s.in.Read(p)
}
