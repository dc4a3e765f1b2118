// Package gpx reads ways from GPX 1.0 and 1.1 files: tracks and routes, as lines with
// their length. Waypoints, elevations and extensions are passed over.
//
// A file comes from anywhere: it is read as a stream, its points are bounded while they
// are read, a DTD (which could define entities) is refused, and points that are none are
// left out and counted.
package gpx

import (
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"
	"time"

	"ergasia/core/way"
)

// Line is a track or a route.
type Line struct {
	Name    string
	Metres  float64     // over all points, also those that are not kept
	Points  int         // that were read
	Kept    []way.Point // at most most of them
	Gaps    int         // between segments, not counted in Metres
	Gap     float64     // metres that they would be
	Seconds float64     // from the first time to the last; 0 where there are none that make sense
	Bad     int         // points that are none, left out

	stride      int
	last        way.Point
	begun, fore time.Time
	backwards   bool
}

// The most that is read of a file.
const (
	most     = 4000      // points kept of a line
	maxLines = 50        // tracks and routes
	maxAll   = 1_500_000 // points
	maxText  = 200       // letters of a name
)

// ErrUnreadable is of a file that is no GPX; its text says why, as a sentence's end.
var ErrUnreadable = errors.New("it is no GPX file that can be read")

func unreadable(format string, values ...any) error {
	return fmt.Errorf("%w: %s", ErrUnreadable, fmt.Sprintf(format, values...))
}

// Read reads the tracks and routes of a file.
func Read(in io.Reader) ([]Line, error) { return read(in, maxAll) }

func read(in io.Reader, maxAll int) ([]Line, error) {
	r := reader{dec: xml.NewDecoder(in), maxAll: maxAll}
	r.dec.CharsetReader = func(charset string, _ io.Reader) (io.Reader, error) {
		return nil, fmt.Errorf("its letters are %q, not UTF-8", charset)
	}
	for {
		token, err := r.dec.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		if err == nil {
			err = r.take(token)
		}
		if err != nil {
			if errors.Is(err, ErrUnreadable) {
				return nil, err
			}
			return nil, unreadable("%v", err)
		}
	}
	var lines []Line
	for _, l := range r.lines {
		if l.Points > 1 {
			l.close()
			lines = append(lines, *l)
		}
	}
	if !r.gpx {
		return nil, unreadable("it has no gpx element")
	}
	if len(lines) == 0 {
		return nil, unreadable("it has no track or route of two points or more")
	}
	return lines, nil
}

type reader struct {
	dec    *xml.Decoder
	lines  []*Line
	gpx    bool
	depth  []string
	all    int // points
	maxAll int
	text   *strings.Builder // of the element that is read
}

func (r *reader) line() *Line {
	if len(r.lines) == 0 {
		return &Line{}
	}
	return r.lines[len(r.lines)-1]
}

func (r *reader) take(token xml.Token) error {
	switch t := token.(type) {
	case xml.Directive:
		return unreadable("it has a DTD, which is not read")
	case xml.StartElement:
		if len(r.depth) > 50 {
			return unreadable("its elements are nested too deep")
		}
		r.depth = append(r.depth, t.Name.Local)
		r.text = nil
		return r.open(t)
	case xml.CharData:
		if r.text != nil && r.text.Len() < maxText {
			r.text.Write(t[:min(len(t), maxText)])
		}
	case xml.EndElement:
		r.end(t.Name.Local)
		r.depth = r.depth[:len(r.depth)-1]
		r.text = nil
	}
	return nil
}

// within says whether the element that is read lies right in another.
func (r *reader) within(parent string) bool {
	return len(r.depth) > 1 && r.depth[len(r.depth)-2] == parent
}

func (r *reader) open(t xml.StartElement) error {
	switch t.Name.Local {
	case "gpx":
		r.gpx = true
	case "trk", "rte":
		if len(r.lines) == maxLines {
			return unreadable("it has more than %d tracks and routes", maxLines)
		}
		r.lines = append(r.lines, &Line{stride: 1})
	case "trkseg":
		r.line().begin()
	case "trkpt", "rtept":
		if r.all++; r.all > r.maxAll {
			return unreadable("it has more than %d points", r.maxAll)
		}
		r.line().add(pointOf(t))
	case "name":
		if r.within("trk") || r.within("rte") {
			r.text = &strings.Builder{}
		}
	case "time":
		if r.within("trkpt") {
			r.text = &strings.Builder{}
		}
	}
	return nil
}

func (r *reader) end(name string) {
	if r.text == nil {
		return
	}
	text := strings.Join(strings.Fields(r.text.String()), " ")
	if name == "name" {
		r.line().Name = strings.ToValidUTF8(text, "")
	} else if at, err := time.Parse(time.RFC3339, text); err == nil {
		r.line().at(at)
	}
}

func pointOf(t xml.StartElement) (p way.Point, ok bool) {
	var lat, lon bool
	for _, a := range t.Attr {
		v, err := strconv.ParseFloat(strings.TrimSpace(a.Value), 64)
		switch {
		case err != nil:
		case a.Name.Local == "lat":
			p.Lat, lat = v, true
		case a.Name.Local == "lon":
			p.Lon, lon = v, true
		}
	}
	return p, lat && lon && p.Valid()
}

// begin begins another segment: what lies between is a gap.
func (l *Line) begin() {
	if l.Points > 0 {
		l.Gaps++
		l.last = way.Point{Lat: 1000} // none: the next point begins anew
	}
}

func (l *Line) add(p way.Point, ok bool) {
	if !ok {
		l.Bad++
		return
	}
	switch {
	case l.Points == 0:
	case !l.last.Valid():
		l.Gap += way.Distance(l.Kept[len(l.Kept)-1], p)
	default:
		l.Metres += way.Distance(l.last, p)
	}
	if l.Points%max(l.stride, 1) == 0 {
		l.Kept = append(l.Kept, p)
	}
	if len(l.Kept) == 2*most { // every other one goes: the line stays whole in memory's bounds
		for i := range most {
			l.Kept[i] = l.Kept[2*i]
		}
		l.Kept, l.stride = l.Kept[:most], 2*l.stride
	}
	l.Points++
	l.last = p
}

func (l *Line) at(t time.Time) {
	if l.begun.IsZero() {
		l.begun = t
	} else if t.Before(l.fore) {
		l.backwards = true
	}
	l.fore = t
}

func (l *Line) close() {
	if l.last.Valid() && l.Kept[len(l.Kept)-1] != l.last {
		l.Kept = append(l.Kept, l.last)
	}
	l.Kept = way.Thin(l.Kept, most)
	if s := l.fore.Sub(l.begun).Seconds(); s > 0 && !l.backwards {
		l.Seconds = s
	}
}
